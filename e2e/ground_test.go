package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"slowroot/e2e/drive"
)

// field is what the field with that label holds.
func field(label string) string {
	return fmt.Sprintf(`[...document.querySelectorAll("input, select")].find((e) => (e.labels?.[0]?.textContent ?? "").trim().startsWith(%q))?.value`, label)
}

// A pit is built by dragging its layers on the wall; depth and class answer while it moves, and letting go
// is one change.
func TestPitBuiltByDragging(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	gate := blocks(t, prog.URL)["Gate Field"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+gate.ID+"/soil"), page.Press("Add a pit"), page.Says("nothing stops roots in it"))
	must(t, page.Type("Layer 2, texture", "clay loam"), page.Type("Layer 3, sand, silt and clay", "15/25/60"), page.Wait(field("Layer 3, sand, silt and clay")+` === "15/25/60"`),
		page.Type("Layer 3, roots seen", "none"), page.Says("to dense clay"), page.Wait(`/70\s+cm\s+of root room/.test(document.body.innerText)`))
	type point struct{ X, Y, K float64 }
	at, err := drive.Eval[point](page, `(() => {
		const h = document.querySelector('[aria-label="Bottom of layer 2"]'); h.scrollIntoView({block: "center"});
		const r = h.getBoundingClientRect(), s = h.closest("svg").getBoundingClientRect();
		return {X: r.left + r.width / 2, Y: r.top + r.height / 2, K: s.height / h.closest("svg").viewBox.baseVal.height};
	})()`)
	must(t, err)
	perCm := 330.0 / 140 * at.K // the wall shows 140 cm
	must(t, page.Drag(at.X, at.Y, at.X, at.Y-30*perCm), page.Wait(`/(39|40|41)\s+cm\s+of root room/.test(document.body.innerText)`), page.Says("The pit is kept"), page.Press("Close this note"), page.Wait(`!document.body.innerText.includes("The pit is kept")`))
	var d struct {
		Block struct {
			Pits []struct {
				Layers []struct{ TopCm, BottomCm float64 }
			}
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+gate.ID, "", nil, &d)
	l := d.Block.Pits[3].Layers
	if l[1].BottomCm != l[2].TopCm || l[1].BottomCm < 39 || l[1].BottomCm > 41 {
		t.Errorf("dragged to %+v", l)
	}
	var before, after []struct{ What string }
	ask(t, "GET", prog.URL+"/api/v1/history", "", nil, &before)
	// the same with the keyboard, and one undo takes it back
	must(t, page.TabTo(`document.activeElement.getAttribute("aria-label") === "Bottom of layer 2"`), page.Key("ArrowRight"))
	_, err = drive.Eval[bool](page, `(() => { const e = document.activeElement; for (let i = 0; i < 10; i++) e.dispatchEvent(new KeyboardEvent("keydown", {key: "ArrowDown", bubbles: true})); return true; })()`)
	must(t, err)
	_, err = drive.Eval[bool](page, `(document.activeElement.dispatchEvent(new KeyboardEvent("keyup", {key: "ArrowDown", bubbles: true})), true)`)
	must(t, err, page.Says("The pit is kept"))
	ask(t, "GET", prog.URL+"/api/v1/history", "", nil, &after)
	if len(after) != len(before)+1 || after[0].What != "Changed the pits of Gate Field" {
		t.Errorf("%d changes after %d: %+v", len(after), len(before), after[0])
	}
}

// A laboratory's file with two odd units is asked about, turned, shown and remembered.
func TestLaboratoryFileWithOddUnits(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	gate := blocks(t, prog.URL)["Gate Field"]
	page := open(t, prog.URL, 1280, 900)
	file := filepath.Join(t.TempDir(), "Brackenlab.csv")
	must(t, os.WriteFile(file, []byte("Sample;Date;Depth;pH (CaCl2);K [mg/100g];Ca (lbs/A);CEC (cmolc/kg)\nG7;2027-03-02;0-20;4,8;14;1900;11,5\n"), 0o644))
	must(t, page.Go("/blocks/"+gate.ID+"/soil"), page.Press("Tests"), page.Upload(file), page.Says("Mend the columns first"), page.Says("is not a unit it is read in"))
	must(t, page.Type("K [mg/100g], unit", "mg/kg"), page.Type("Ca (lbs/A), unit", "lb/acre"), page.Press("Take this test"), page.Says("Read one test"), page.Says("the amendments rest on it"))
	var d struct {
		Block struct {
			Tests []struct {
				Sample, PhMethod string
				CaCmolKg         float64
			}
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+gate.ID, "", nil, &d)
	if last := d.Block.Tests[2]; last.Sample != "G7" || last.PhMethod != "cacl2" || last.CaCmolKg < 4.73 || last.CaCmolKg > 4.75 {
		t.Errorf("kept as %+v", d.Block.Tests)
	}
	// the next file of the same laboratory needs no asking
	must(t, page.Upload(file), page.Says("Take this test"), page.Press("Close"))
	// one broken file names its line and takes nothing
	must(t, os.WriteFile(file, []byte("Sample;Date;Depth;pH\nG8;2027-03-02;0-20;6\nG9;2027-03-02;0-20;14\n"), 0o644))
	must(t, page.Upload(file), page.Says("line 3: pH: 14 cannot be pH"))
	page.Forgive("422")
}

// The matrix answers for every crop; a cell opens what limits, the remedy, its cost and months.
func TestMatrixOpensWhatLimits(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	b := blocks(t, prog.URL)
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+b["Orchard Foot"].ID+"/fit"), page.Says("Persimmon is"), page.Wait(`document.querySelectorAll("tbody tr").length === 24`))
	must(t, page.Press("Persimmon, Orchard Foot, pH: "), page.Says("Lime: "), page.Says("North Quarry ground limestone"), page.Says("months before planting"), page.Says("C$"), page.Press("Close"))
	must(t, page.Press("Banana, Orchard Foot, Winter cold"), page.Says("No works change this."), page.Press("Close"))
	// one crop against every block
	must(t, page.Press("Hazelnut"), page.Says("Where could hazelnut stand?"), page.Wait(`document.querySelectorAll("tbody tr").length === 11`), page.Says("Gate Field: Hazelnut: not here"))
	// a crop is considered, and its preparation follows
	must(t, page.Visit("/blocks/"+b["Gate Field"].ID+"/fit"), page.Press("consider elderberry"), page.Says("elderberry, considered for"), page.Press("Prepare"), page.Says("work before planting"), page.Says("Sprouting where the soil is covered"))
}

// A liming material nobody has analysed stops the plan, until another is taken.
func TestUnanalysedLimeStopsThePlan(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/soil"), page.Press("Amendments"), page.Type("Liming material", "yard-dust"), page.Says("Stops the plan"), page.Says("it is not analysed"))
	must(t, page.Press("Plants"), page.Press("Adopt this plan"), page.Says("something stops the plan"), page.Press("Close this note"))
	page.Forgive("422")
	must(t, page.Press("Take North Quarry ground limestone"), page.Wait(`!document.body.innerText.includes("Stops the plan")`))
}

// A late start shows what is still possible, and the remedy moves the date.
func TestLateStartShowsWhatIsPossible(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/soil"), page.Press("Amendments"), page.Says("1 of 2 applications still fit before planting"), page.Says("of the change in the pH is reached by then"))
	must(t, page.Press("Plant on 1 July 2028"), page.Says("acts in full before planting"))
	must(t, page.Press("Care"), page.Press("Before planting"), page.Says("Lime, application 1 of 2"))
}

// Heights, climate, the inspection list and the stores, as a person uses them.
func TestPlacesOfTheGround(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	b := blocks(t, prog.URL)
	page := open(t, prog.URL, 1280, 900)
	dir := t.TempDir()
	grid := filepath.Join(dir, "local.asc")
	var text strings.Builder
	text.WriteString("ncols 40\nnrows 40\nxllcorner 587400\nyllcorner 5793200\ncellsize 20\n")
	for r := range 40 {
		for range 40 {
			fmt.Fprintf(&text, "%.1f ", 60+float64(40-r)*0.6)
		}
		text.WriteString("\n")
	}
	must(t, os.WriteFile(grid, []byte(text.String()), 0o644))
	must(t, page.Go("/heights"), page.Upload(grid), page.Says("cells of 20.00"), page.Says("UTM zone 59 south"), page.Wait(`document.querySelector("form button").disabled`))
	must(t, page.Type("How well a height is known", "0.03"), page.Press("Add these heights"), page.Says("local is added"), page.Says("1\u202f600 cells"))
	broken := filepath.Join(dir, "broken.asc")
	must(t, os.WriteFile(broken, []byte("ncols 2\nnrows 2\nxllcorner 1\nyllcorner 2\ncellsize 10\n1 x\n"), 0o644))
	must(t, page.Upload(broken), page.Says("line 6"))
	page.Forgive("422")
	must(t, page.Visit("/heights"), page.Press("Take off local"), page.Says("The heights are taken off"))

	station := run(t, "simulate", "weather-station", "--today", "2027-03-14", "--south")
	lab := run(t, "simulate", "soil-lab", "--delay", "0s")
	must(t, page.Visit("/climate"), page.Says("Penman–Monteith"), page.Says("12 years of days"), page.Type("Weather station's address", station.URL), page.Says("The station's address is kept"),
		page.Press("Ask the station now"), page.Says("new days, to 14 Mar 2027"), page.Press("Close"), page.Says("From the station"))
	must(t, page.Visit("/settings"), page.Type("Soil laboratory's address", lab.URL), page.Says("The laboratory's address is kept"))
	must(t, page.Visit("/blocks/"+b["Gate Field"].ID+"/soil"), page.Press("Tests"), page.Press("Send a sample"), page.Press("Send it"), page.Says("The sample is sent"),
		page.Press("Fetch the report"), page.Says("The report is read"), page.Says("the laboratory on this machine"))

	must(t, page.Visit("/stores"), page.Says("unanalysed"), page.Type("C$ for one", "61.5"), page.Press("Keep this price"), page.Says("61.50"))
	must(t, page.Visit("/blocks/"+b["Gate Field"].ID+"/ground"), page.Says("This is a frost pocket"), page.Press("Questions"), page.Type("How far is the buyer?", "none"), page.Says("No buyer is named"))

	phone := open(t, prog.URL, 390, 844)
	must(t, phone.Go("/blocks/"+b["Gate Field"].ID+"/checklist"), phone.Says("0 of 22 looked at"), phone.Press("Not good"), phone.Says("1 of 22 looked at"), phone.Type("Note: Walk the boundary", "an old well by the hedge"))
	must(t, phone.Wait(`document.querySelector("[aria-pressed=true]")?.textContent === "Not good"`))
	var d struct {
		Block struct {
			Checks map[string]struct{ State, Note, By string }
		}
	}
	must(t, phone.Wait(`fetch("/api/v1/blocks/`+b["Gate Field"].ID+`").then((r) => r.json()).then((x) => x.block.checks.walk.note === "an old well by the hedge")`))
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+b["Gate Field"].ID, "", nil, &d)
	if c := d.Block.Checks["walk"]; c.State != "bad" || c.Note != "an old well by the hedge" || c.By != "Tamsin Aldane" {
		t.Errorf("the list holds %+v", c)
	}
}
