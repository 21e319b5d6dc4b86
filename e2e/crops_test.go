package e2e

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"slowroot/e2e/drive"
)

// Every crop of the library that can be planned, planned on a block and walked through every step, on a
// phone: a ground line, jobs and a crop, no dead end, nothing wider than the window, no complaint of the browser.
func TestEveryCropOnAPhone(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	id := blocks(t, prog.URL)["Gate Field"].ID
	var sheets []struct {
		ID, Name string
		Layouts  []struct{ ID string }
	}
	ask(t, "GET", prog.URL+"/api/v1/sheets", "", nil, &sheets)
	page := open(t, prog.URL, 390, 844)
	planned := 0
	for _, s := range sheets {
		if len(s.Layouts) == 0 {
			continue
		}
		planned++
		var doc struct{ Revision int }
		at := prog.URL + "/api/v1/blocks/" + id
		ask(t, "GET", at, "", nil, &doc)
		patch := fmt.Sprintf(`{"planting":{"sheet":%q,"date":"","layout":{},"adoptedOn":"","baseDate":"","planted":"","choices":null}}`, s.ID)
		header := map[string]string{"If-Match": fmt.Sprintf("%q", fmt.Sprint(doc.Revision)), "Content-Type": "application/merge-patch+json"}
		if code := ask(t, "PATCH", at, patch, header, nil); code != 200 {
			t.Errorf("%s cannot be planned: %d", s.ID, code)
			continue
		}
		must(t, page.Go("/blocks/"+id+"/rows"))
		for i, step := range []string{"ground", "soil", "drains", "fit", "prepare", "rows", "plants", "care", "yield", "record"} {
			must(t, page.Visit("/blocks/"+id+"/"+step))
			if i > 4 { // the steps before lie before planting, and draw none
				must(t, page.Says("Ground line"))
			}
			wrong, err := drive.Eval[[]string](page, fmt.Sprintf(`(() => {
				const said = document.body.innerText, main = document.querySelector("main").innerText.split("In the margin")[0];
				return Object.entries({
					"scrolls sideways": document.documentElement.scrollWidth > 390,
					"is a dead end": /is considered here, not planned|cannot be planned/.test(main),
					"shows no number": /NaN|undefined|Infinity/.test(said),
					"names another crop": !said.toLowerCase().includes(%q.toLowerCase()),
				}).filter(([, is]) => is).map(([what]) => what);
			})()`, s.Name))
			must(t, err)
			for _, what := range wrong {
				t.Errorf("%s, %s: the page %s", s.Name, step, what)
			}
		}
	}
	if planned < 24 {
		t.Errorf("%d crops can be planned", planned)
	}
}

// From an empty estate: a boundary is read, and four crops of four kinds of life are planned on it one after the other, each
// to the printed plan.
func TestFourLivesFromNothing(t *testing.T) {
	t.Parallel()
	prog := run(t, "serve", "--data", t.TempDir(), "--today", "2027-03-15")
	page := open(t, prog.URL, 1280, 800)
	must(t, page.Go("/"), page.Says("Begin an estate"), page.Type("Name", "Hill Farm"), page.Type("Your name", "A. Grower"))
	_, err := drive.Eval[bool](page, `(document.querySelector('[value=north]').click(), true)`)
	file := filepath.Join(t.TempDir(), "field.geojson")
	must(t, err, page.Press("Begin"), page.Says("No block yet"), os.WriteFile(file, []byte(p1), 0o644), page.Press("Add a block"), page.Settled(), page.Upload(file),
		page.Says("Imported Field"), page.Press("Add this block"), page.Says("What could stand here?"))
	id := blocks(t, prog.URL)["Imported Field"].ID
	for i, crop := range []struct{ name, job, gives string }{{"strawberry, annual on beds", "Bed, drip and film in one pass", "fresh fruit"},
		{"palmarosa", "Transplant", "oil"}, {"willow coppice", "Plant and roll", "dry wood"}, {"apple", "Winter prune", "fresh fruit"}} {
		if i > 0 {
			must(t, page.Visit("/blocks/"+id+"/plants"), page.Press("Take the crop off"), page.Press("Take it off"), page.Says("What could stand here?"))
		}
		must(t, page.Wait(`!document.body.innerText.includes("…")`), page.Press("Plan "+crop.name), page.Says("Ground line"), page.Press("Care"), page.Press("All "),
			page.Says(crop.job), page.Press("Yield"), page.Says(crop.gives), page.Press("Print the plan"), page.Says("Year by year"), page.Says("Hill Farm"))
		if i == 0 { // what the work takes is printed too, and what is written large stays so
			must(t, page.Says("To have ready besides the plants"), page.Says("black film, 1.52 m wide"), page.Says("carried off by a full crop, N"))
		}
		pdf, err := page.PDF()
		must(t, err)
		if !bytes.HasPrefix(pdf, []byte("%PDF")) || len(pdf) < 20_000 {
			t.Errorf("%s prints %d bytes", crop.name, len(pdf))
		}
	}
}
