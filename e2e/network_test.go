package e2e

import (
	"fmt"
	"slices"
	"testing"

	"slowroot/core/civil"
	binds "slowroot/core/plan/network"
	"slowroot/e2e/drive"
)

// bindingOf is what the server says of the network of a block.
func bindingOf(t *testing.T, url, block string) (n binds.Result, jobs map[string]binds.Job) {
	t.Helper()
	var p struct{ Network binds.Result }
	ask(t, "GET", url+"/api/v1/blocks/"+block+"/plan", "", nil, &p)
	jobs = map[string]binds.Job{}
	for _, j := range p.Network.Jobs {
		jobs[j.Key] = j
	}
	return p.Network, jobs
}

// The work before planting stands on one line of time with what binds it: a job is moved inside its room by keys and by
// pointer, what waits for it moves along; it is left to its time again; and a soil test that slips past what it allows is
// said with the rules that cannot be kept, and the day planting can be.
func TestWhatBindsTheWorkBeforePlanting(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	hill := blocks(t, prog.URL)["Hill Paddock"]
	page := open(t, prog.URL, 1280, 1000)
	must(t, page.Go("/blocks/"+hill.ID+"/prepare"), page.Press("What binds"), page.Says("days in hand"), page.Says("Order the plants decides that"))
	look(t, page, "binds")
	_, was := bindingOf(t, prog.URL, hill.ID)
	slider := `document.querySelector("[role=slider][aria-label^='Day of Grade the floor']")`
	must(t, page.Wait(slider+`.getAttribute("aria-valuenow")`))
	_, err := drive.Eval[bool](page, `(`+slider+`.focus(), true)`)
	must(t, err, page.Key("ArrowLeft"), page.Says("Grade the floor smooth is planned for"))
	_, now := bindingOf(t, prog.URL, hill.ID)
	if g := now["grade"]; !g.Said || g.Planned != was["grade"].Planned.AddDays(-1) {
		t.Errorf("%+v", g)
	}
	_, err = drive.Eval[bool](page, `(document.querySelector("[role=slider][aria-label^='Day of Rip and plough']").focus(), true)`)
	must(t, err, page.Says("It is done while the soil is dry (early summer to mid autumn)"))
	_, err = drive.Eval[bool](page, `(`+slider+`.focus(), true)`)
	must(t, err, page.Says("Leave it to its time"))
	// by pointer past its room: it stops at its end
	type point struct{ X, Y float64 }
	at, err := drive.Eval[point](page, `(() => { const r = `+slider+`.getBoundingClientRect(); return {X: r.left + r.width / 2, Y: r.top + r.height / 2}; })()`)
	must(t, err, page.Drag(at.X, at.Y, at.X-900, at.Y), page.Says("Grade the floor smooth is planned for 15 Mar 2027"))
	_, now = bindingOf(t, prog.URL, hill.ID)
	if g := now["grade"]; g.Planned != g.Earliest {
		t.Errorf("dragged past its first day %s it is planned for %s", g.Earliest, g.Planned)
	}
	must(t, page.Press("Leave it to its time"), page.Says("is left to its time"))
	if _, now = bindingOf(t, prog.URL, hill.ID); now["grade"].Said {
		t.Error("its day is still said")
	}
	// planting is meant for October after all, and the soil test is done today: lime cannot wait for it
	var d struct{ Revision int }
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+hill.ID, "", nil, &d)
	ask(t, "PATCH", prog.URL+"/api/v1/blocks/"+hill.ID, `{"planting":{"date":"2027-10-05"}}`, map[string]string{"If-Match": fmt.Sprintf("%q", fmt.Sprint(d.Revision))}, nil)
	done(t, prog.URL, hill.ID, "soil-test", civil.Must(2027, 3, 15))
	must(t, page.Go("/blocks/"+hill.ID+"/prepare"), page.Press("What binds"), page.Says("days are lacking"), page.Says("(cannot be moved)"), page.Says("(can be moved)"))
	look(t, page, "binds-late")
	n, _ := bindingOf(t, prog.URL, hill.ID)
	lime := slices.ContainsFunc(n.Conflicts, func(c binds.Conflict) bool {
		return c.Short == 10 && slices.Contains(c.Keys, "lime") && slices.Contains(c.Keys, "soil-test")
	})
	if !lime || !n.Free.After(civil.Must(2027, 10, 5)) {
		t.Errorf("conflicts %+v, free %s", n.Conflicts, n.Free)
	}
}

// done says that a job was done on a day.
func done(t *testing.T, url, block, job string, on civil.Date) {
	t.Helper()
	var p struct{ Planting string }
	ask(t, "GET", url+"/api/v1/blocks/"+block+"/plan", "", nil, &p)
	if code := ask(t, "POST", url+"/api/v1/blocks/"+block+"/records", `{"records":[{"id":"e2e-`+job+`","planting":"`+p.Planting+`","operation":"`+job+`","kind":"done","day":"`+on.String()+`"}]}`, nil, nil); code != 201 {
		t.Fatalf("recording %s answered %d", job, code)
	}
}
