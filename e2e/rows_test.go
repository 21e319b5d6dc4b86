package e2e

import (
	"archive/zip"
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"slowroot/core/plan/rows"
	"slowroot/e2e/drive"
)

// shown is the number a figure of the page shows.
func shown(t *testing.T, page *drive.Page, path string) float64 {
	t.Helper()
	words, err := drive.Eval[string](page, `document.querySelector('[data-figure="`+path+`"]').textContent.replace(/[^\d.]/g, "")`)
	must(t, err)
	v, err := strconv.ParseFloat(strings.TrimSuffix(words, "."), 64)
	must(t, err)
	return v
}

// From an empty folder to the rows of a chosen crop in twelve actions: a press or a field filled counts as one.
func TestRowsInTwelveActions(t *testing.T) {
	t.Parallel()
	prog := run(t, "serve", "--data", t.TempDir(), "--today", "2027-03-15")
	page := open(t, prog.URL, 1280, 800)
	must(t, page.Go("/"))
	actions := 0
	act := func(err error) {
		t.Helper()
		actions++
		must(t, err)
	}
	act(page.Type("Name", "Short Farm"))
	act(page.Type("Your name", "A. Grower"))
	act(page.Type("Where it lies", "46° 03′ N, 12° 18′ E"))
	must(t, page.Wait(`document.querySelector("input[value=north]").checked`))
	must(t, page.Type("Climate, if you know it", strings.Repeat("9 4 80\n", 12))) // not needed for rows
	act(page.Press("Begin"))
	must(t, page.Says("First steps"), page.Says("Choose a crop for it"))
	act(page.Press("Add a block"))
	act(page.Type("Length", "240"))
	act(page.Type("Width", "90"))
	must(t, page.Says("2.16\u00a0ha"))
	look(t, page, "told")
	act(page.Press("Add the block"))
	must(t, page.Says("What could stand here?"), page.Wait(`!document.body.innerText.includes("…")`))
	act(page.Press("Plan apple"))
	must(t, page.Says("Ground line"))
	act(page.Press("Rows"))
	must(t, page.Wait(`document.querySelector('[data-figure="rows.stations"]')`))
	if n := shown(t, page, "rows.stations"); n < 100 {
		t.Errorf("%g stations", n)
	}
	if actions > 12 {
		t.Errorf("%d actions from an empty folder to rows", actions)
	}
}

// A field is known in many ways: each makes the boundary it says, and what is only an area is marked so.
func TestAFieldIsTold(t *testing.T) {
	t.Parallel()
	prog := run(t, "serve", "--data", t.TempDir(), "--today", "2027-03-15")
	page := open(t, prog.URL, 1280, 800)
	must(t, page.Go("/"), page.Type("Name", "Tape Farm"), page.Type("Your name", "A. Grower"), page.Type("Where it lies", "38.21 S 175.4 E"), page.Press("Begin"), page.Press("Add a block"))
	must(t, page.Press("Sides walked"), page.Type("Bearing ° and length", "90 100\n0 50\n270 100\n180 47"), page.Says("3.00 m from where it began"), page.Says("compass rule"))
	must(t, page.Press("By tape"), page.Type("Metres east and north", "0 0\n120 0\n120 60\n0 60"), page.Says("0.72\u00a0ha"))
	must(t, page.Press("Corners"), page.Type("One corner a line", "-38.2100 175.4000\n-38.2100 175.4020\nnowhere"))
	page.Forgive("422")
	must(t, page.Says("is line 3 and no position"))
	must(t, page.Press("Area alone"), page.Type("Area", "3.2"), page.Says("3.20\u00a0ha"), page.Says("Only the area is true"), page.Press("Add the block"), page.Says("What could stand here?"), page.Press("Lie"), page.Says("the square stands for it until the boundary is measured"))

	// files of any usual kind: KML zipped, and a GPX track that is closed
	kml := `<kml><Document><Placemark><name>From KML</name><Polygon><outerBoundaryIs><LinearRing><coordinates>175.41,-38.21 175.413,-38.21 175.413,-38.212 175.41,-38.212 175.41,-38.21</coordinates></LinearRing></outerBoundaryIs></Polygon></Placemark></Document></kml>`
	var z bytes.Buffer
	w := zip.NewWriter(&z)
	f, err := w.Create("doc.kml")
	must(t, err)
	_, err = f.Write([]byte(kml))
	must(t, err, w.Close())
	kmz, gpx := filepath.Join(t.TempDir(), "field.kmz"), filepath.Join(t.TempDir(), "walk.gpx")
	must(t, os.WriteFile(kmz, z.Bytes(), 0o600), os.WriteFile(gpx, []byte(`<gpx><trk><name>Walked</name><trkseg><trkpt lat="-38.22" lon="175.40"/><trkpt lat="-38.22" lon="175.403"/><trkpt lat="-38.222" lon="175.403"/><trkpt lat="-38.222" lon="175.4"/></trkseg></trk></gpx>`), 0o600))
	must(t, page.Go("/draw"), page.Settled(), page.Upload(kmz), page.Says("From KML"), page.Press("Add this block"), page.Says("What could stand here?"))
	must(t, page.Go("/draw"), page.Settled(), page.Upload(gpx), page.Says("Walked"), page.Says("a straight side closes it"))
	_, err = drive.Eval[bool](page, `(document.querySelector("li input[type=checkbox]").click(), true)`)
	must(t, err, page.Press("Add this block"), page.Says("What could stand here?"))

	// a copy, cut along a line and joined again
	id := blocks(t, prog.URL)["From KML"].ID
	must(t, page.Go("/blocks/"+id+"/draw"), page.Press("Make a copy"), page.Says("From KML copy lies beside"), page.Says("Boundary of From KML copy"))
	id = blocks(t, prog.URL)["From KML copy"].ID
	var d struct {
		Block struct {
			Boundary struct{ Outer []struct{ Lon, Lat float64 } }
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+id, "", nil, &d)
	p, q := d.Block.Boundary.Outer[0], d.Block.Boundary.Outer[2]
	mid := (p.Lon + q.Lon) / 2
	must(t, page.Press("Cut it along a line"), page.Type("From", fmt.Sprintf("%.6f, %.6f", p.Lat+0.001, mid)), page.Type("To", fmt.Sprintf("%.6f, %.6f", q.Lat-0.001, mid)))
	look(t, page, "cut")
	must(t, page.Press("Cut the block"), page.Says("is cut into 2 blocks"))
	if n := len(blocks(t, prog.URL)); n != 5 {
		t.Errorf("%d blocks, want 5", n)
	}
	must(t, page.Go("/blocks/"+id+"/draw"), page.Settled(), page.Type("Join to it", blocks(t, prog.URL)["From KML copy 2"].ID), page.Press("Join"), page.Says("undo parts them again"))
	if n := len(blocks(t, prog.URL)); n != 4 {
		t.Errorf("%d blocks after joining, want 4", n)
	}
}

// Strips of another crop between the rows change its numbers as they change; shade stands over them; what stands on another's place is said
// and mended; an obstacle drawn takes stations; the rows turn on the curve of all bearings; options are compared and one is taken.
func TestAnAlleyOfSeveralCrops(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	prog := demo(t, dir)
	page := open(t, prog.URL, 1280, 900)
	id := blocks(t, prog.URL)["Orchard Foot"].ID
	must(t, page.Go("/blocks/"+id+"/rows"), page.Press("Between and over"), page.Press("Add a companion"), page.Says("It is added"), page.Type("Called", "Field herb"), page.Says("stands nowhere yet"))
	must(t, page.Press("Begin strips"), page.Says("from tree row to tree row"), page.Press("Add a strip of companion rows"), page.Says("field herb"))
	before := shown(t, page, figureOf(t, page, "field herb"))
	must(t, page.Type("Spacing in row 1 of strip 3", "0.5"), page.Wait(`document.querySelector('[data-figure="`+figureOf(t, page, "field herb")+`"]').textContent.replace(/[^\d]/g, "") > `+fmt.Sprint(1.8*before)))
	look(t, page, "strips")
	must(t, page.Press("Add shade over the rows"), page.Says("shade trees"), page.Type("Between plants", "8"), page.Pause(400))
	if n := shown(t, page, figureOf(t, page, "shade trees")); n < 300 {
		t.Errorf("%g shade trees at 8 m on 5 ha", n)
	}
	must(t, page.Press("Add a windbreak"), page.Says("belts would shelter all of it"))
	look(t, page, "beside")
	must(t, page.Press("Bearing"), page.Says("once over"), page.Wait(`document.querySelector("[role=slider]")`))
	look(t, page, "bearings")
	must(t, page.Type("Wind that dries", "100"), page.Says("Weighed anew"), page.Type("Wind from", "90"), page.Says("across the wind the leaf dries slowly"),
		page.Press("The usual weights"), page.Wait(`!document.body.innerText.includes("the leaf dries slowly")`))
	must(t, page.Settled(), page.Pause(400), page.Press("Take "), page.Says("Rows at "))
	must(t, page.Press("Obstacles and headlands"), page.Press("Draw it on the plan"))
	main := shown(t, page, "rows.stations")
	at, err := drive.Eval[[]float64](page, `(() => { const r = document.querySelector("canvas").getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2]; })()`)
	must(t, err, page.ClickAt(at[0]-30, at[1]-70), page.Pause(100), page.ClickAt(at[0]+40, at[1]-80), page.Pause(100), page.ClickAt(at[0]+30, at[1]-50), page.Says("3 points"), page.Press("It is an area"), page.Says("wet spot drawn"), page.Says("What takes no plants costs"))
	look(t, page, "obstacles")
	if now := shown(t, page, "rows.stations"); !(now < main) {
		t.Errorf("%g stations with the wet spot, %g without", now, main)
	}
	must(t, page.Press("Add a headland"), page.Settled(), page.Press("Compare options"), page.Says("Options for Orchard Foot"), page.Press("Another option like"), page.Says("Another option begins"))
	must(t, page.Type("Another crop", "apple"), page.Press("Add it as an option"), page.Says("Another option is considered"), page.Says("Apple"), page.Settled())
	look(t, page, "options")
	must(t, page.Wait(`document.querySelectorAll("thead canvas").length === 3`))
	must(t, page.Type("Why not Persimmon 2", "the same again"))
	_, err = drive.Eval[bool](page, `([...document.querySelectorAll("button")].filter((b) => b.textContent === "Take this one").at(-1).click(), true)`)
	must(t, err, page.Says("is taken; the others stay considered"))
	stages := map[string]int{}
	var d struct {
		Plantings []struct{ Stage, Sheet string }
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+id, "", nil, &d)
	for _, p := range d.Plantings {
		stages[p.Stage]++
	}
	if stages["planned"] != 1 || stages["considered"] != 2 {
		t.Errorf("stages after the choice: %v", stages)
	}
}

// figureOf is the path of the figure with a label.
func figureOf(t *testing.T, page *drive.Page, label string) string {
	t.Helper()
	must(t, page.Wait(`[...document.querySelectorAll("[data-figure]")].some((e) => e.closest("li,div").innerText.toLowerCase().includes("`+label+`"))`))
	path, err := drive.Eval[string](page, `[...document.querySelectorAll("[data-figure]")].find((e) => e.parentElement.innerText.toLowerCase().includes("`+label+`")).dataset.figure`)
	must(t, err)
	return path
}

// What a layout takes is counted from its rows, opens its working and is priced where it stands; hours nobody knows are not nought.
func TestWhatALayoutTakes(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	id := blocks(t, prog.URL)["Orchard Foot"].ID
	must(t, page.Go("/blocks/"+id+"/plants"), page.Says("What it takes"), page.Press("Add it"), page.Says("line posts or arms"), page.Says("hours unknown"))
	must(t, page.Type("Wires", "4"), page.Press("wire"), page.Says("wires × Σ(length + 2 · tie)"), page.Says("= 4 ×"))
	must(t, page.Type("Price of wire, for each m", "0.25"), page.Says("The price of wire is kept in Stores"), page.Wait(`[...document.querySelectorAll("td.num")].some((e) => /\d.*(?:EUR|[A-Z$€£]|crowns|marks)|\d[\d\s.,]*$/.test(e.textContent) && e.previousElementSibling?.textContent.includes("m"))`))
	must(t, page.Type("Fitting", "mulch"), page.Press("Add it"), page.Says("mulch to order, loose"), page.Type("Hours to put it up", "40"), page.Says("without 3 fittings of which no hours are known"))
	must(t, page.Press("drip line"), page.Says("more while it stands"), page.Says("to put up again"))
	look(t, page, "takes")
	must(t, page.Press("Rows"), page.Type("Pattern", "contour"), page.Says("Rows that follow the slope"), page.Type("Fall along the rows", "1.2"), page.Says("at 1.2 %"), page.Type("Pattern", ""),
		page.Wait(`!document.body.innerText.includes("Rows that follow the slope")`))
	must(t, page.Press("Peg them out"), page.Says("Pegging the rows of Orchard Foot"), page.Says("Lay out the right angle"), page.Wait(`document.querySelectorAll("tbody tr").length > 80`))
	if dxf := fetch(t, prog.URL+"/api/v1/blocks/"+id+"/rows/dxf"); !strings.Contains(dxf, "ROWS-Persimmon") || !strings.HasSuffix(strings.TrimSpace(dxf), "EOF") {
		t.Errorf("the drawing begins %.80q", dxf)
	}
	look(t, page, "pegs")
	must(t, page.Press("Back to its rows"), page.Press("Print the plan"), page.Says("Supports, water, cover and earth"))
}

// A mother garden of five clones between aisles, shade in the aisles; a clone more, and every clone's blocks and order follow. Sprouts of
// stumps on the rows of an alley are stations nobody orders plants for.
func TestAMotherGardenAndStumps(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	b := blocks(t, prog.URL)
	type plan struct {
		Clones []rows.Clone
		Beside []rows.Beside
		Bill   []struct{ What string }
	}
	read := func(block string) (p plan) {
		ask(t, "GET", prog.URL+"/api/v1/blocks/"+b[block].ID+"/plan", "", nil, &p)
		return p
	}
	before := read("Clone Garden")
	must(t, page.Go("/blocks/"+b["Clone Garden"].ID+"/rows"), page.Says("blocks between aisles"), page.Type("Clones, by name, with commas between", "T1, T2, T3, T4, T5, T6"),
		page.Wait(`document.querySelector("[aria-label='What each clone takes'] tbody").textContent.includes("T6")`))
	after := read("Clone Garden")
	if len(before.Clones) != 5 || len(after.Clones) != 6 || after.Clones[0].Stations >= before.Clones[0].Stations || after.Beside[0].Stations != before.Beside[0].Stations {
		t.Errorf("clones %+v, then %+v", before.Clones, after.Clones)
	}
	ordered := 0
	for _, l := range after.Bill {
		if strings.HasSuffix(l.What, ", T6") {
			ordered++
		}
	}
	if csv := fetch(t, prog.URL+"/api/v1/blocks/"+b["Clone Garden"].ID+"/stations.csv"); ordered != 1 || !strings.Contains(csv, ",T6\n") {
		t.Errorf("%d lines of T6; stations begin %.200q", ordered, csv)
	}
	look(t, page, "garden")
	must(t, page.Type("Aisle", "4"), page.Wait(`fetch("/api/v1/blocks/`+b["Clone Garden"].ID+`/plan").then((r) => r.json()).then((p) => p.spec.plots.aisleM === 4)`))
	if wider := read("Clone Garden"); wider.Clones[0].Stations >= after.Clones[0].Stations {
		t.Errorf("wider aisles hold %d, %d before", wider.Clones[0].Stations, after.Clones[0].Stations)
	}
	must(t, page.Visit("/blocks/"+b["Kiln Piece"].ID+"/rows"), page.Press("Between and over the rows"), page.Says("Stumps kept"))
	if n := read("Kiln Piece").Beside[0].Sprouts; n != 4 {
		t.Fatalf("%d sprouts", n)
	}
	must(t, page.Type("On rows of", "hazel"), page.Type("or pasted: row and metres, a line each", "3 9.4\n4 21"), page.Press("Read them"), page.Says("2 stumps are stations now"),
		page.Wait(`document.querySelectorAll("[aria-label='Stumps kept'] tbody tr").length === 6`))
	if n := read("Kiln Piece").Beside[0].Sprouts; n != 6 {
		t.Errorf("%d sprouts", n)
	}
	look(t, page, "stumps")
	must(t, page.Type("or pasted: row and metres, a line each", "three and a half"), page.Press("Read them"), page.Says("is not a row and its metres"))
}
