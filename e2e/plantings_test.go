package e2e

import (
	"strings"
	"testing"
)

// The whole story of a field on the screen: a crop considered, planned, planted, worked, counted, picked, ended, and what
// follows it; the records stand outside undo, and the history says what each change changed.
func TestAStoryOnTheScreen(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	gate := blocks(t, prog.URL)["Chapel Corner"]
	page := open(t, prog.URL, 1280, 900)
	at := "/blocks/" + gate.ID
	must(t, page.Go(at+"/record"), page.Says("Counted and measured"),
		page.Type("What", "living plants"), page.Type("Number", "812"), page.Press("Record it"), page.Says("living plants: 812"),
		page.Type("What", "trunk"), page.Type("Number", "31"), page.Type("Unit", "mm"), page.Press("Record it"), page.Says("trunk: 31 mm"),
		page.Press("Take back: trunk: 31 mm"), page.Says("taken back: measured"))
	// The stand ends; its story stays.
	must(t, page.Press("Record its end"), page.Type("Why", "a fungus in the stools"), page.Press("Record its end"), page.Says("What stood here has ended"))
	ended := blocks(t, prog.URL)["Chapel Corner"]
	if ended.Stage != "empty" {
		t.Errorf("after its end the block is %s", ended.Stage)
	}
	r := records(t, prog.URL, gate.ID)
	if len(r) < 3 || r[len(r)-1].Kind != "withdrawn" || r[len(r)-1].Corrects != r[len(r)-2].ID {
		t.Errorf("records: %+v", r)
	}
	// A crop is considered in its place, then planned; the line of time shows both.
	must(t, page.Visit(at+"/plants"), page.Wait(`!document.body.innerText.includes("…")`), page.Press("Plan hazelnut"), page.Says("Hazelnut is planned here"))
	must(t, page.Visit(at+"/soil"), page.Says("persimmon"), page.Says("grubbed"))
	must(t, page.Press("persimmon (2026"), page.Visit(at+"/record?planting="+r[0].Planting), page.Says("a fungus in the stools"), page.Says("living plants: 812"))
	// Undo and redo, and what the history says.
	must(t, page.Visit(at+"/plants"), page.Press("Undo"), page.Says("Undone:"), page.Press("Redo"), page.Says("Made again:"))
	must(t, page.Visit("/history"), page.Press("Ended persimmon"), page.Says("end › how"), page.Says("grubbed"))
	if got := len(records(t, prog.URL, gate.ID)); got != len(r) {
		t.Errorf("%d records, %d before undo and redo", got, len(r))
	}
}

// A job is done in part, and by another day, from the list of jobs.
func TestPartlyDone(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/care"), page.Press("Grow a cover crop: partly"), page.Type("How much of it", "40"), page.Type("On", "2027-03-02"), page.Press("Record it"), page.Says("40 % done"),
		page.Press("Grow a cover crop: take the last part back"), page.Says("Grow a cover crop: taken back"))
	kept := records(t, prog.URL, foot.ID)
	if n := len(kept); n < 2 || kept[n-2].Share != 0.4 || kept[n-2].Day != "2027-03-02" || !strings.Contains(kept[n-1].Kind, "withdrawn") {
		t.Errorf("%+v", kept)
	}
}
