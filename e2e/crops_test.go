package e2e

import (
	"fmt"
	"testing"

	"slowroot/e2e/drive"
)

// Every crop of the library that can be planned, planned on a block and walked through the steps that need a crop, on a
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
		for _, step := range []string{"rows", "plants", "care", "yield"} {
			must(t, page.Visit("/blocks/"+id+"/"+step))
			for what, condition := range map[string]string{
				"scrolls sideways":   `document.documentElement.scrollWidth <= 390`,
				"has no ground":      `document.body.innerText.includes("Ground line")`,
				"is a dead end":      `!/is considered here, not planned|cannot be planned/.test(document.querySelector("main").innerText.split("In the margin")[0])`,
				"shows no number":    `!/NaN|undefined|Infinity/.test(document.body.innerText)`,
				"names another crop": fmt.Sprintf(`document.body.innerText.toLowerCase().includes(%q.toLowerCase())`, s.Name),
			} {
				if ok, err := drive.Eval[bool](page, condition); err != nil || !ok {
					t.Errorf("%s, %s: the page %s (%v)", s.Name, step, what, err)
				}
			}
		}
	}
	if planned < 22 {
		t.Errorf("%d crops can be planned", planned)
	}
}
