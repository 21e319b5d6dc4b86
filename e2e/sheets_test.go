package e2e

import (
	"fmt"
	"os"
	"testing"

	"slowroot/core/report"
	"slowroot/e2e/drive"
)

// A sheet is copied, a value and its origin changed, a school put beside another; a block follows it and says what changed;
// the sheet goes out as a file and comes in again; two sheets and the ways of one stand side by side.
func TestASheetOfOnesOwn(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/sheets/persimmon"), page.Says("rest on memory"), page.Says("Age year"))
	must(t, page.TabTo(`document.activeElement.getAttribute("role") === "slider"`), page.Key("Home"), page.Says("Age year 1:"), page.Key("ArrowRight"), page.Says("Age year 2:"))
	must(t, page.Press("Side by side"), page.Says("Ways of growing it"), page.Type("Beside another sheet", "apple"), page.Says("values differ"))
	look(t, page, "sheet-side")
	must(t, page.Press("Make it ours"), page.Type("A copy under a name", "Persimmon, our way"), page.Press("Copy it"), page.Says("is a sheet of your own"),
		page.Wait(`document.querySelector("h1")?.textContent.startsWith("Persimmon, our way")`), page.Says("nothing differs yet"))
	must(t, page.Press("Change it"), page.Type("Section", "life"), page.Type("life.base", "25"), page.Says("1 values differ"), page.Press("What it says"), page.Says("It lives"))
	must(t, page.Press("Change it"), page.Type("Section", "life"), page.Type("life.base", "900"), page.Says("has to agree with itself"))
	page.Forgive("422")
	must(t, page.Press("Add it"), page.Says("stands beside it"), page.Type("or find a value", "another"), page.Says("Values with"))
	look(t, page, "sheet-ours")
	// the block follows the sheet
	must(t, page.Go("/blocks/"+foot.ID+"/plants"))
	var own []struct{ ID, Name, From string }
	ask(t, "GET", prog.URL+"/api/v1/sheets", "", nil, &own)
	id := ""
	for _, s := range own {
		if s.From == "persimmon" {
			id = s.ID
		}
	}
	var doc struct{ Revision int }
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID, "", nil, &doc)
	ask(t, "PATCH", prog.URL+"/api/v1/blocks/"+foot.ID, fmt.Sprintf(`{"planting":{"sheet":%q}}`, id), map[string]string{"If-Match": fmt.Sprintf("%q", fmt.Sprint(doc.Revision))}, nil)
	var p struct {
		SheetName string
		Years     []struct{}
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID+"/plan", "", nil, &p)
	if p.SheetName != "Persimmon, our way" || len(p.Years) != 25 {
		t.Errorf("%s, %d years", p.SheetName, len(p.Years))
	}
	must(t, page.Go("/sheets/"+id), page.Press("Change it"), page.Press("Take this sheet out"), page.Says("Orchard Foot"))
	page.Forgive("422")
	text, err := drive.Eval[string](page, fmt.Sprintf(`fetch("/api/v1/sheets/%s/file").then((r) => r.text())`, id))
	must(t, err)
	file := t.TempDir() + "/sheet.yaml"
	must(t, os.WriteFile(file, []byte(text), 0o600), page.UploadTo("Read a sheet from a file", file), page.Says("The sheet is read in"), page.Press("Undo"), page.Says("Undone"))
	wide, err := drive.Eval[bool](page, `document.documentElement.scrollWidth > innerWidth`)
	if must(t, err); wide {
		t.Error("the page is wider than the window")
	}
}

// An estate that lives by its rains: they are set, crops of the tropics follow them.
func TestRainsAreSet(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/settings"), page.Says("No rains are set"), page.Press("Add rains"), page.Says("Rains are added"), page.Says("the onset of the rains"))
	must(t, page.Type("Rains from", "10-20"), page.Says("The rains are kept"), page.Type("Rains to", "03-31"), page.Says("11-19"))
	must(t, page.Type("Rains to", "10-25"), page.Says("is not a rainy season"))
	page.Forgive("422")
	var e struct {
		Estate struct{ Rains []struct{ From, To string } }
	}
	ask(t, "GET", prog.URL+"/api/v1/estate", "", nil, &e)
	if len(e.Estate.Rains) != 1 || e.Estate.Rains[0].To != "03-31" {
		t.Errorf("%+v", e.Estate.Rains)
	}
	terrace := blocks(t, prog.URL)["Lower Terrace"]
	var p struct {
		Jobs report.Jobs
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+terrace.ID+"/plan", "", nil, &p)
	by := 0
	for _, j := range p.Jobs {
		if j.Rule == "in the onset of the rains to the end of the rains of age years 1 to 3" {
			by++
		}
	}
	if by == 0 {
		t.Error("the tea is not tended by the rains")
	}
	must(t, page.Press("Take the rains out"), page.Says("The rains are taken out"), page.Says("No rains are set"))
}

// look keeps a picture of the page where LOOK names a folder: to be opened and judged by eye.
func look(t *testing.T, page *drive.Page, name string) {
	t.Helper()
	dir := os.Getenv("LOOK")
	if dir == "" {
		return
	}
	png, err := page.Shot()
	must(t, err, os.WriteFile(dir+"/"+name+".png", png, 0o600))
}
