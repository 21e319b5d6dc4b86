package e2e

import (
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"slowroot/e2e/drive"
)

// drains is the design of a block as the program answers it.
type drains struct {
	Drains struct {
		Taken        string
		DepthM, WetM float64
		SpacingM     float64
		WetFrom      string
		Soil         struct{ Above float64 }
		Network, Cut *network
		CatchM3Day   float64
		Bed          *struct{ Metres, SoilM3, RiseM float64 }
		Bill         []struct{ What string }
	}
	Findings []struct{ Rule, Sentence string }
}

type network struct {
	Mains []struct {
		ID, On string
		Joins  float64
	}
	Laterals []struct {
		ID                 string
		LengthM, Low, High float64
		AreaM2             float64
	}
	Reaches            []struct{ Low, High float64 }
	Line               [][2]float64
	FlowM3S            float64
	ReachedM2, BlockM2 float64
	OutletM            float64
	Suggested, Drawn   bool
}

func designOf(t *testing.T, prog *drive.Program, id string) drains {
	t.Helper()
	var d drains
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+id+"/plan", "", nil, &d)
	return d
}

// middle is where an element with that label lies, in pixels of the window.
func middle(t *testing.T, page *drive.Page, label string) (x, y float64) {
	t.Helper()
	type point struct{ X, Y float64 }
	p, err := drive.Eval[point](page, fmt.Sprintf(`(() => { const e = [...document.querySelectorAll("[aria-label]")].find((e) => e.getAttribute("aria-label").startsWith(%q)); e.scrollIntoView({block: "center"}); const r = e.getBoundingClientRect(); return {X: r.left + r.width / 2, Y: r.top + r.height / 2}; })()`, label))
	must(t, err)
	return p.X, p.Y
}

// A drain dragged below the clay stays on it, and the margin says why not; the remedy takes the wish back.
func TestDrainDraggedBelowTheClay(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Press("Water table"), page.Says("clay that stops the water decides"))
	x, y := middle(t, page, "Depth of the drains")
	must(t, page.Drag(x, y, x, y+60), page.Says("takes nothing in"), page.Says("It is designed at 1.12"), page.Says("Drains at"))
	d := designOf(t, prog, foot.ID)
	if math.Abs(d.Drains.DepthM-1.12) > 1e-9 {
		t.Errorf("designed at %.2f m", d.Drains.DepthM)
	}
	must(t, page.Press("Lie at 1.12"), page.Wait(`!document.body.innerText.includes("takes nothing in")`))
	// shallower is allowed and answers: less head, closer drains
	must(t, page.Type("Drain depth", "1"), page.Wait(figureValue("drain.depth")+` === "1.00"`))
	if s := designOf(t, prog, foot.ID); s.Drains.SpacingM >= d.Drains.SpacingM || s.Drains.DepthM != 1 {
		t.Errorf("at 1.00 m the spacing is %.1f, at 1.12 it was %.1f", s.Drains.SpacingM, d.Drains.SpacingM)
	}
	// another depth is taken from the table that weighs them
	must(t, page.Press("Lay them so: 0.90"), page.Says("Drains at 0.90"), page.Wait(figureValue("drain.depth")+` === "0.90"`), page.Wait(figureValue("drain.spacing")+` === "7.50"`))
	// on the soil of the other pit all of it answers, and back
	must(t, page.Type("Drain depth", ""), page.Wait(figureValue("drain.depth")+` === "1.12"`), page.Type("On the soil of", "Upper rows"), page.Wait(fmt.Sprintf(`fetch("/api/v1/blocks/%s/plan").then((r) => r.json()).then((p) => p.drains.soil.pit === "Upper rows")`, foot.ID)), page.Wait(`document.querySelector("svg[aria-label*='on the soil of Upper rows']")`), page.Type("On the soil of", ""), page.Wait(`document.querySelector("svg[aria-label*='on the soil of Lower rows']")`))
	// the working of the spacing is shown
	must(t, page.PressFigure("drain.spacing"), page.Says("van der Molen"), page.Press("Close"))
}

// figureValue is the number a figure shows.
func figureValue(path string) string {
	return `document.querySelector('[data-figure="` + path + `"]')?.childNodes[0]?.textContent`
}

// A herringbone on an irregular block: its outlet is dragged into another corner, and levels, flow and bill
// answer; one undo takes it back. A lateral is drawn, dragged and taken out.
func TestHerringboneDraggedIntoACorner(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	before := designOf(t, prog, foot.ID).Drains.Network
	if len(before.Laterals) < 20 || !before.Suggested || before.ReachedM2 < 0.85*before.BlockM2 {
		t.Fatalf("%d laterals reach %.0f of %.0f m²", len(before.Laterals), before.ReachedM2, before.BlockM2)
	}
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Says("Collector, 348"))
	x, y := middle(t, page, "Outlet of the collector")
	must(t, page.Drag(x, y, x+140, y-28), page.Says("Outlet of the collector is moved"), page.Wait(`!document.body.innerText.includes("Collector, 348")`))
	moved := designOf(t, prog, foot.ID).Drains.Network
	if moved.Suggested || moved.Line[0] == before.Line[0] || moved.OutletM == before.OutletM || moved.FlowM3S == before.FlowM3S {
		t.Errorf("the outlet moved from %v to %v and nothing answers", before.Line[0], moved.Line[0])
	}
	for i, r := range moved.Reaches {
		if r.High < r.Low || i > 0 && math.Abs(r.Low-moved.Reaches[i-1].High) > 1e-6 {
			t.Errorf("reach %d runs from %.2f to %.2f", i, r.Low, r.High)
		}
	}
	must(t, page.Press("Undo"), page.Says("Collector, 348"))
	back := designOf(t, prog, foot.ID).Drains.Network
	if !back.Suggested || math.Abs(back.FlowM3S-before.FlowM3S) > 1e-9 {
		t.Error("one undo does not take the drag back")
	}
	must(t, page.Press("Draw a lateral"), page.Says("Lateral N1 is drawn"), page.Says("Lateral N1,"))
	drawn := designOf(t, prog, foot.ID).Drains.Network
	if !drawn.Drawn || len(drawn.Laterals) != len(before.Laterals)+1 {
		t.Errorf("%d laterals after %d", len(drawn.Laterals), len(before.Laterals))
	}
	x, y = middle(t, page, "End of N1")
	must(t, page.Drag(x, y, x+20, y-30), page.Says("End of N1 is moved"), page.Press("Take out N1"), page.Says("N1 is taken out"))
	must(t, page.Press("Bend the collector"), page.Says("One point more on the collector"), page.Press("Back to the lines suggested"), page.Says("undo brings yours back"))
	if end := designOf(t, prog, foot.ID).Drains.Network; end.Drawn || !end.Suggested || len(end.Laterals) != len(before.Laterals) {
		t.Errorf("back to the pattern: %+v", len(end.Laterals))
	}
	must(t, page.Press("Draw an interceptor"), page.Says("The interceptor catches"))
	if cut := designOf(t, prog, foot.ID).Drains; cut.Cut == nil || cut.Network.FlowM3S <= before.FlowM3S {
		t.Error("the interceptor's water does not run through the collector")
	}
}

// A yard leaves ground behind it that no lateral reaches. The margin leads a branch there; it is dragged, bent, goes out
// and comes back in a file, is printed with a section of its own, and is taken out again. One drawn by hand joins where
// it is nearest.
func TestBranchIsLedIntoWhatIsMissed(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	before := designOf(t, prog, foot.ID).Drains.Network
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Says("91 % of the block"), page.Press("Lead a branch into it"), page.Says("98 % of the block"))
	n := designOf(t, prog, foot.ID).Drains.Network
	if len(n.Mains) != 2 || n.Mains[1].ID != "B1" || n.Mains[1].On != "C" || n.FlowM3S <= before.FlowM3S {
		t.Fatalf("%+v, %.6f m³/s after %.6f", n.Mains, n.FlowM3S, before.FlowM3S)
	}
	joins := n.Mains[1].Joins
	must(t, page.Press("B1.1"), page.Says("Branch B1, "))
	length, err := drive.Eval[string](page, `document.querySelector("figcaption").textContent.match(/^Branch B1, [0-9]+/)[0]`)
	must(t, err)
	x, y := middle(t, page, "Junction of branch B1")
	must(t, page.Drag(x, y, x+14, y-14), page.Says("Junction of branch B1 is moved"), page.Wait(`!document.body.innerText.includes("`+length+`")`))
	if now := designOf(t, prog, foot.ID).Drains.Network; now.Mains[1].Joins <= joins+5 {
		t.Errorf("it joined at %.1f m and is dragged up to %.1f", joins, now.Mains[1].Joins)
	}
	must(t, page.Press("Undo"), page.Says(length), page.Press("Bend branch B1"), page.Says("One point more on branch B1"))
	// out and in again
	text := fetch(t, prog.URL+"/api/v1/blocks/"+foot.ID+"/setting-out/geojson")
	file := filepath.Join(t.TempDir(), "drains.geojson")
	must(t, os.WriteFile(file, []byte(text), 0o644))
	left := designOf(t, prog, foot.ID).Drains.Network
	must(t, page.Press("Back to the lines suggested"), page.Says("undo brings yours back"), page.Press("Bill and files"), page.Upload(file), page.Says("The drains of drains.geojson are taken"))
	back := designOf(t, prog, foot.ID).Drains.Network
	if len(back.Mains) != 2 || len(back.Laterals) != len(left.Laterals) || math.Abs(back.FlowM3S-left.FlowM3S) > 1e-6 || math.Abs(back.Mains[1].Joins-left.Mains[1].Joins) > 0.01 {
		t.Errorf("%d laterals, %.6f m³/s left; %d, %.6f came back", len(left.Laterals), left.FlowM3S, len(back.Laterals), back.FlowM3S)
	}
	must(t, page.Press("Print plan and sections"), page.Says("Branch B1, "), page.Press("Back to the block"), page.Press("Plan and levels"), page.Press("Back to the lines suggested"), page.Says("91 % of the block"))
	must(t, page.Press("Draw a branch"), page.Says("Branch B1 is drawn"), page.Says("Branch B1, "), page.Press("Take out B1"), page.Says("B1 is taken out"))
	if end := designOf(t, prog, foot.ID).Drains.Network; len(end.Mains) != 1 {
		t.Errorf("%+v", end.Mains)
	}
}

// The lines leave as GeoJSON and come back as the same network, also on another copy of the estate; a file
// that cannot be used says why and changes nothing.
func TestDrainsLeaveAndComeBack(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	before := designOf(t, prog, foot.ID).Drains.Network
	text := fetch(t, prog.URL+"/api/v1/blocks/"+foot.ID+"/setting-out/geojson")
	file := filepath.Join(t.TempDir(), "drains.geojson")
	must(t, os.WriteFile(file, []byte(text), 0o644))
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Press("Bend the collector"), page.Says("One point more on the collector"), page.Press("Bill and files"), page.Upload(file), page.Says("The drains of drains.geojson are taken"))
	after := designOf(t, prog, foot.ID).Drains.Network
	if len(after.Laterals) != len(before.Laterals) || !after.Drawn || math.Abs(after.FlowM3S-before.FlowM3S) > 1e-6 {
		t.Fatalf("%d laterals, %.6f m³/s; they left as %d, %.6f", len(after.Laterals), after.FlowM3S, len(before.Laterals), before.FlowM3S)
	}
	for i, l := range before.Laterals {
		if g := after.Laterals[i]; g.ID != l.ID || math.Abs(g.LengthM-l.LengthM) > 0.01 || math.Abs(g.Low-l.Low) > 0.01 || math.Abs(g.High-l.High) > 0.01 {
			t.Errorf("%+v came back as %+v", l, g)
		}
	}
	must(t, os.WriteFile(file, []byte(strings.Replace(text, "lateral", "gutter", 1)), 0o644), page.Upload(file), page.Says(`of kind "gutter"`))
	page.Forgive("422")
	must(t, page.Press("Print plan and sections"), page.Says("1 : 1500"), page.Says("Bill of quantities"), page.Says("never enter a collapsing trench"))
	pdf, err := page.PDF()
	if err != nil || len(pdf) < 20_000 {
		t.Errorf("the printed plan holds %d bytes: %v", len(pdf), err)
	}
	// true to scale: 100 m of the block are 66.67 mm at 1 : 1500
	mm, err := drive.Eval[float64](page, `(() => { const s = document.querySelector("figure svg"); return s.viewBox.baseVal.width / s.getBoundingClientRect().width; })()`)
	must(t, err)
	if want := 4.0 / (96 / 25.4); math.Abs(mm-want) > 0.01 {
		t.Errorf("%.4f drawing units to a pixel, want %.4f: the plan is not to scale", mm, want)
	}
}

// What is seen of the water is recorded: a well read three times outweighs the marks, an auger hole sets the
// permeability, and a reading outside the method is said.
func TestWaterIsRecorded(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	strip := blocks(t, prog.URL)["Long Strip"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+strip.ID+"/drains"), page.Says("That is kept without drains"), page.Type("Keep the water table below", "0.95"), page.Says("is to have, as it was said,"), page.Says("It needs drains or beds"), page.Type("Keep the water table below", ""), page.Says("That is kept without drains"), page.Type("Where the water comes from", "rain"), page.Wait(field("Where the water comes from")+` === "rain"`))
	must(t, page.Press("Add a dip well"), page.Says("No reading yet"))
	for i, cm := range []string{"52", "47", "88"} {
		must(t, page.Type("Read on", fmt.Sprintf("2026-0%d-11", 6+i)), page.Wait(field("Read on")+fmt.Sprintf(` === "2026-0%d-11"`, 6+i)), page.Type("Water at", cm), page.Wait(`document.body.innerText.replace(/\s/g, " ").includes("`+cm+` cm is kept")`))
	}
	must(t, page.Says("It needs drains or beds"), page.Wait(`/Water stands at 0\.47\s+m/.test(document.body.innerText)`))
	must(t, page.Press("Add an auger hole"), page.Says("A hole is added"), page.Wait(`document.querySelectorAll("[aria-label='Auger holes'] tbody tr").length === 1`))
	must(t, page.Type("Hole 1, rose", "20"), page.Says("does not count"), page.Says("rose too far"), page.Type("Hole 1, rose", "8"), page.Wait(`!document.body.innerText.includes("does not count")`), page.Says("by 1 auger hole"))
	d := designOf(t, prog, strip.ID).Drains
	if d.WetFrom != "dip wells" || d.WetM != 0.47 || d.Soil.Above <= 0 || d.Taken == "" {
		t.Errorf("%+v", d)
	}
	// a way is taken at the fork, and it is laid on the block
	must(t, page.Type("Ditch water below the ground at the outlet", "1.6"), page.Press("Decide for this: Drain the field: gridiron"), page.Type("Why this way", "the block falls one way"), page.Press("Take this way"), page.Says("Drain the field: gridiron is taken"), page.Press("Plan and levels"), page.Says("of the block lies within half a spacing"))
	if d = designOf(t, prog, strip.ID).Drains; d.Taken != "gridiron" || d.Network == nil || len(d.Network.Laterals) < 5 {
		t.Errorf("%s: %+v", d.Taken, d.Network)
	}
}

// Beds on flat clay answer to their measures; the interceptor of the old tea catches water; a price that is
// missing is said.
func TestBedsAndInterceptor(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	b := blocks(t, prog.URL)
	page := open(t, prog.URL, 1280, 900)
	was := designOf(t, prog, b["Gate Field"].ID).Drains.Bed
	must(t, page.Go("/blocks/"+b["Gate Field"].ID+"/drains"), page.Says("of soil dug from furrows"), page.Says("woven fabric"), page.Type("Height, settled", "0.3"), page.Wait(`/0\.35\s+m/.test(document.body.innerText)`))
	now := designOf(t, prog, b["Gate Field"].ID).Drains.Bed
	if now.SoilM3 >= was.SoilM3 || now.RiseM >= was.RiseM || now.Metres != was.Metres {
		t.Errorf("lower beds take %.0f m³ and lift by %.3f; they took %.0f and %.3f", now.SoilM3, now.RiseM, was.SoilM3, was.RiseM)
	}
	must(t, page.Type("Top", "3"), page.Says("Stops the plan"), page.Says("not wider at its top"), page.Press("Take what fits the rows"), page.Wait(`!document.body.innerText.includes("Stops the plan")`))
	must(t, page.Visit("/blocks/"+b["Gate Field"].ID+"/soil"), page.Press("Middle"), page.Says("more root room"))
	must(t, page.Visit("/blocks/"+b["Lower Terrace"].ID+"/drains"), page.Says("The interceptor catches"), page.Says("Interceptor, 120"), page.Says("above the wet part, taken as a circle of 112"))
	x, y := middle(t, page, "Outlet of the interceptor")
	must(t, page.Drag(x, y, x-10, y+60), page.Says("Outlet of the interceptor is moved"), page.Press("Bill and files"), page.Says("Trenching by machine"), page.Says("never enter a collapsing trench"))
	if d := designOf(t, prog, b["Lower Terrace"].ID).Drains; d.Cut.Suggested || d.CatchM3Day <= 0 {
		t.Errorf("%+v", d.Cut)
	}
	must(t, page.Visit("/jobs"), page.Says("Jobs"))
	must(t, page.Visit("/blocks/"+b["Lower Terrace"].ID+"/care"), page.Says("Clean the silt traps"))
}

// The record of a pit on a phone: nothing scrolls sideways, the wall is drawn, and a layer is typed.
func TestPitRecordOnAPhone(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	gate := blocks(t, prog.URL)["Gate Field"]
	page := open(t, prog.URL, 390, 844)
	must(t, page.Go("/blocks/"+gate.ID+"/soil"), page.Press("Add a pit"), page.Says("nothing stops roots in it"), page.Type("Layer 2, bottom", "55"), page.Wait(field("Layer 2, bottom")+` === "55"`), page.Type("Water in the pit at", "60"), page.Says("water: 60"))
	for name, condition := range map[string]string{"the page scrolls sideways": `document.documentElement.scrollWidth <= 390`, "the wall is cut off": `(() => { const r = document.querySelector("svg[aria-label^='Wall of the pit']").getBoundingClientRect(); return r.left >= 0 && r.right <= 390 && r.width > 250; })()`,
		"the handles are too small for a thumb": `[...document.querySelectorAll("[role=slider]")].every((e) => e.getBoundingClientRect().height >= 8)`} {
		ok, err := drive.Eval[bool](page, condition)
		must(t, err)
		if !ok {
			t.Error(name)
		}
	}
	var d struct {
		Block struct {
			Pits []struct {
				WaterCm float64
				Layers  []struct{ TopCm, BottomCm float64 }
			}
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+gate.ID, "", nil, &d)
	if p := d.Block.Pits[3]; p.WaterCm != 60 || p.Layers[1].BottomCm != 55 || p.Layers[2].TopCm != 55 {
		t.Errorf("%+v", p)
	}
}

// A block nobody has looked at says so on every tab, what to do first, and offers no number that rests on nothing; a
// block whose soil is dry says that it needs no drains.
func TestDrainsBeforeAnybodyLooked(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	fresh := `{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"name":"Far Paddock"},"geometry":{"type":"Polygon","coordinates":[[[172.4,-38.4],[172.402,-38.4],[172.402,-38.3985],[172.4,-38.3985],[172.4,-38.4]]]}}]}`
	must(t, page.Go("/draw"), page.Settled(), page.Upload(kept(t, "far.geojson", fresh)), page.Says("Far Paddock"), page.Press("Add this block"), page.Wait(`fetch("/api/v1/overview").then((r) => r.json()).then((o) => o.blocks.some((b) => b.name === "Far Paddock"))`))
	id := blocks(t, prog.URL)["Far Paddock"].ID
	must(t, page.Go("/blocks/"+id+"/drains"), page.Says("Nobody has looked yet"), page.Says("Nothing is asked for here so far"))
	must(t, page.Press("Water table"), page.Says("Describe a pit first"), page.Press("Plan and levels"), page.Says("Say what was seen of the water"), page.Press("Beds"), page.Says("No beds are planned"), page.Press("Bill and files"), page.Says("Nothing is designed yet"))
	numbers, err := drive.Eval[int](page, `document.querySelectorAll("[data-figure^='drain.']").length`)
	must(t, err)
	if numbers != 0 {
		t.Errorf("%d figures of drains rest on nothing", numbers)
	}
	// said to be wet, but with no heights and no pit: what is missing is said, not guessed
	must(t, page.Press("What was seen"), page.Type("Where the water comes from", "rain"), page.Wait(field("Where the water comes from")+` === "rain"`))
	var d struct{ Revision int }
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+id, "", nil, &d)
	if s := ask(t, "PATCH", prog.URL+"/api/v1/blocks/"+id, `{"decided":{"drain":{"option":"gridiron"}}}`, map[string]string{"If-Match": fmt.Sprintf("%q", fmt.Sprint(d.Revision)), "Content-Type": "application/merge-patch+json"}, nil); s != 200 {
		t.Fatal(s)
	}
	must(t, page.Go("/blocks/"+id+"/drains"), page.Says("No heights are known here"), page.Press("Plan and levels"), page.Says("no heights are known here"))
	if s := ask(t, "GET", prog.URL+"/api/v1/blocks/"+id+"/setting-out/dxf", "", nil, nil); s != 422 {
		t.Errorf("pegs of nothing answer %d", s)
	}
	must(t, page.Press("Beds"), page.Press("Plan beds"), page.Says("of soil dug from furrows"), page.Says("lay out rows to see it"))
	bank := blocks(t, prog.URL)["Upper Terrace"].ID
	must(t, page.Go("/blocks/"+bank+"/drains"), page.Says("No sign of standing water was found in the pits. Tea asks for"))
}

// Pits and dip wells are placed on the plan and dragged to where they were dug; the interceptor rests on the pit
// nearest to it.
func TestPitsAndWellsOnThePlan(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	gate := blocks(t, prog.URL)["Gate Field"]
	page := open(t, prog.URL, 1280, 900)
	type doc struct {
		Block struct {
			Pits   []struct{ At *struct{ Lon, Lat float64 } }
			Drains struct {
				Wells []struct{ At *struct{ Lon, Lat float64 } }
			}
		}
	}
	read := func() (d doc) {
		ask(t, "GET", prog.URL+"/api/v1/blocks/"+gate.ID, "", nil, &d)
		return d
	}
	if s := ask(t, "PATCH", prog.URL+"/api/v1/blocks/"+gate.ID, `{"drains":{"wells":[{"name":"By the gate","depthCm":120,"readings":[]}]}}`, map[string]string{"If-Match": `"1"`, "Content-Type": "application/merge-patch+json"}, nil); s != 200 {
		t.Fatal(s)
	}
	must(t, page.Go("/blocks/"+gate.ID+"/drains"), page.Press("Plan and levels"), page.Press("Place pits and wells"), page.Says("drag each to where it was dug"), page.Wait(`document.querySelectorAll("[aria-label^='Pit ']").length === 3 && document.querySelectorAll("[aria-label^='Dip well ']").length === 1`))
	before := read()
	if before.Block.Pits[0].At == nil || before.Block.Pits[1].At == nil || before.Block.Drains.Wells[0].At == nil {
		t.Fatalf("%+v", before)
	}
	x, y := middle(t, page, "Pit Middle")
	must(t, page.Drag(x, y, x-60, y+50), page.Says("Pit Middle is moved"))
	x, y = middle(t, page, "Dip well By the gate")
	must(t, page.Drag(x, y, x-70, y+60), page.Says("Dip well By the gate is moved"))
	after := read()
	if p, q := before.Block.Pits[1].At, after.Block.Pits[1].At; q.Lon >= p.Lon || q.Lat >= p.Lat {
		t.Errorf("the pit dragged south-west went from %+v to %+v", p, q)
	}
	if p, q := before.Block.Drains.Wells[0].At, after.Block.Drains.Wells[0].At; q.Lon >= p.Lon || q.Lat >= p.Lat {
		t.Errorf("the well went from %+v to %+v", p, q)
	}
	if p, q := before.Block.Pits[0].At, after.Block.Pits[0].At; *p != *q {
		t.Error("the other pit moved too")
	}
	must(t, page.Wait(`![...document.querySelectorAll("button")].some((b) => b.textContent === "Place pits and wells")`))
}

// Water that runs on from above is led past in a ditch: drawn on the plan, in section without a pipe, its flow shown
// with its working, dug in the bill, and said where it would wash out once it is dragged down the slope.
func TestWaterThatRunsOnIsLedPast(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	terrace := blocks(t, prog.URL)["Upper Terrace"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+terrace.ID+"/drains"), page.Says("water running on from above"), page.Type("Where the water comes from", "runon"), page.Wait(field("Where the water comes from")+` === "runon"`))
	must(t, page.Press("Take this way: Lead it past"), page.Type("Why this way", "the road above sheds its rain here"), page.Press("Take this way"), page.Says("is taken"))
	must(t, page.Press("Plan and levels"), page.Says("Ditch above the block, "), page.Says("open ditch; falls"), page.Says("is not reckoned here"), page.PressFigure("drain.carries"), page.Says("Manning"), page.Press("Close"))
	var d struct {
		Drains struct {
			Taken      string
			CarriesM3S float64
			Cut        *struct {
				Open     bool
				Chambers []any
				Line     [][2]float64
			}
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+terrace.ID+"/plan", "", nil, &d)
	if d.Drains.Taken != "diversion" || d.Drains.Cut == nil || !d.Drains.Cut.Open || len(d.Drains.Cut.Chambers) != 0 || d.Drains.CarriesM3S < 0.1 {
		t.Fatalf("%+v", d.Drains)
	}
	if shot := os.Getenv("SHOT"); shot != "" {
		png, err := page.Shot()
		must(t, err, os.WriteFile(shot, png, 0o644))
	}
	x, y := middle(t, page, "Outlet of the ditch")
	must(t, page.Drag(x, y, x+60, y+150), page.Says("Outlet of the ditch is moved"), page.Says("Lay the line flatter"), page.Press("The line suggested"), page.Wait(`!document.body.innerText.includes("Lay the line flatter")`))
	must(t, page.Press("Bill and files"), page.Says("Cut-off ditch"), page.Says("Earth dug"), page.Wait(`!document.body.innerText.includes("Inspection pits")`))
	must(t, page.Press("Print plan and sections"), page.Says("Ditch above the block, "))
}

// On a phone the plan of the drains is moved sideways on its own, the page is not; a branch is led with a thumb, and
// its point is moved with the keys of a keyboard that is plugged in.
func TestBranchOnAPhone(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 390, 844)
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Press("Lead a branch into it"), page.Says("98 % of the block"))
	for name, condition := range map[string]string{"the page scrolls sideways": `document.documentElement.scrollWidth <= 390`,
		"the plan is cut off":                   `(() => { const s = document.querySelector("[role='group'][aria-label^='Drains of']"); let e = s.parentElement; while (e && e.scrollWidth <= e.clientWidth) e = e.parentElement; return !!e && e !== document.documentElement; })()`,
		"the handles are too small for a thumb": `[...document.querySelectorAll("[aria-label*='arrow keys move it']")].every((e) => e.getBoundingClientRect().width >= 18)`} {
		ok, err := drive.Eval[bool](page, condition)
		must(t, err)
		if !ok {
			t.Error(name)
		}
	}
	was := designOf(t, prog, foot.ID).Drains.Network.Mains[1]
	must(t, page.TabTo(`(document.activeElement.getAttribute("aria-label") ?? "").startsWith("Junction of branch B1")`))
	for range 4 {
		must(t, page.Key("ArrowUp"))
	}
	must(t, page.Says("Junction of branch B1 is moved"), page.Wait(fmt.Sprintf(`fetch("/api/v1/blocks/%s/plan").then((r) => r.json()).then((p) => Math.abs(p.drains.network.mains[1].joins - %g) > 0.5)`, foot.ID, was.Joins)))
	must(t, page.Press("Every pipe"), page.Press("B1.1"), page.Says("Branch B1, "), page.Press("Take out B1"), page.Says("91 % of the block"))
}

// Said to be wet in part, a block is drained in that part: the circle is drawn, laterals lie in it only, the bill is a
// fraction of the whole field's, and a larger share answers at once.
func TestWetPartOnly(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	whole := designOf(t, prog, foot.ID).Drains.Network
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Press("What was seen"), page.Type("Wet share of the block", "15"), page.Says("Drain the wet part only"), page.Press("Take this way: Drain the wet part only"), page.Type("Why this way", "only the low corner stands in water"), page.Press("Take this way"), page.Says("Drain the wet part only is taken"))
	must(t, page.Press("Plan and levels"), page.Says("% of the wet part lies within half a spacing"), page.Wait(`[...document.querySelectorAll("path title")].some((e) => e.textContent === "The wet part, as it was said")`))
	part := designOf(t, prog, foot.ID).Drains.Network
	if len(part.Laterals) < 6 || part.BlockM2 > 0.16*whole.BlockM2 || part.FlowM3S > 0.2*whole.FlowM3S || part.ReachedM2 < 0.85*part.BlockM2 {
		t.Errorf("%d laterals on %.0f m², %.6f m³/s; the whole field is %.0f m², %.6f", len(part.Laterals), part.BlockM2, part.FlowM3S, whole.BlockM2, whole.FlowM3S)
	}
	must(t, page.Press("What was seen"), page.Type("Wet share of the block", "25"), page.Wait(field("Wet share of the block")+` === "25"`), page.Wait(fmt.Sprintf(`fetch("/api/v1/blocks/%s/plan").then((r) => r.json()).then((p) => p.drains.network.blockM2 > %g)`, foot.ID, 1.2*part.BlockM2)))
}
