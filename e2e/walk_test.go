package e2e

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"slowroot/e2e/drive"
)

// Every calculator of the bench, opened from the list, computes what it opens with and shows how; every sheet opens.
func TestEveryCalculatorAndSheet(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	var calcs []struct{ Name, Title string }
	ask(t, "GET", prog.URL+"/api/v1/calculators", "", nil, &calcs)
	page := open(t, prog.URL, 1280, 800)
	must(t, page.Go("/bench"))
	if len(calcs) < 55 {
		t.Errorf("%d calculators", len(calcs))
	}
	for _, c := range calcs {
		must(t, page.Press(c.Title), page.Wait(fmt.Sprintf(`document.querySelector("h1")?.textContent === %q`, c.Title)), page.Press("Compute"))
		if err := page.Wait(`document.querySelectorAll("main dd").length > 0 || document.querySelector("form :invalid") || /is outside|are too few|does not|needs|is missing|no school can answer/.test(document.body.innerText)`); err != nil {
			t.Errorf("%s answers nothing: %v", c.Name, err)
			continue
		}
		empty, err := drive.Eval[bool](page, `[...document.querySelectorAll("main dd")].some((d) => /NaN|undefined|Infinity/.test(d.textContent))`)
		must(t, err)
		if empty {
			t.Errorf("%s shows a number that is none", c.Name)
		}
	}
	var sheets []struct{ ID, Name string }
	ask(t, "GET", prog.URL+"/api/v1/sheets", "", nil, &sheets)
	for _, s := range sheets {
		must(t, page.Visit("/sheets/"+s.ID), page.Wait(fmt.Sprintf(`[...document.querySelectorAll("h1")].some((h) => h.textContent.includes(%q))`, s.Name)))
	}
	page.Forgive("422")
}

// The bench finds a calculator by a word of its purpose, keeps what was last typed, gives the example back, and takes the
// reader's units; a table is typed cell by cell.
func TestTheBenchRemembers(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 800)
	must(t, page.Go("/bench"), page.Type("Find a calculator", "splits year"), page.Wait(`document.querySelectorAll("nav[aria-label=Calculators] a").length === 1`),
		page.Press("Do the splits make up the year?"),
		page.Wait(`document.querySelector("h1")?.textContent === "Do the splits make up the year?"`), page.Press("Compute"), page.Says("20 kg (6.7 %) are missing"))
	must(t, page.Type("for the year", "280"), page.Press("Compute"), page.Wait(`![...document.querySelectorAll("main p")].some((p) => p.textContent.includes("are missing"))`))
	must(t, page.Go("/bench/thinning"), page.Press("Compute"), page.Says("2.778"), page.Says("8.49 × 8.49 m"), page.Go("/bench/split-ledger"),
		page.Wait(`[...document.querySelectorAll("form input")].some((e) => e.value === "280")`), page.Press("The example again"),
		page.Wait(`[...document.querySelectorAll("form input")].some((e) => e.value === "300")`))
	must(t, page.Go("/bench/per-plant-per-hectare"), page.Type("living plants, row 2", "0"), page.Press("Take row 1 out"), page.Press("Add a row"),
		page.Type("living plants, row 2", "100"), page.Type("dose of that age, row 2", "200"), page.Press("Compute"),
		page.Wait(`[...document.querySelectorAll("dd")].some((d) => d.textContent.replace(/\s/g, "") === "20kg")`))
	var e struct {
		Revision int
		Estate   map[string]any
	}
	ask(t, "GET", prog.URL+"/api/v1/estate", "", nil, &e)
	if status := ask(t, "PATCH", prog.URL+"/api/v1/estate", `{"units":"us"}`, map[string]string{"Content-Type": "application/merge-patch+json",
		"If-Match": fmt.Sprintf("%q", fmt.Sprint(e.Revision))}, nil); status != 200 {
		t.Fatalf("units answered %d", status)
	}
	// 2.25 m are 7.38 ft: 10 000 m² by 20 ft × 10 ft.
	must(t, page.Go("/bench/planting-density"), page.Type("between rows", "20"), page.Type("between stations", "10"), page.Press("Compute"),
		page.Wait(`[...document.querySelectorAll("dd")].some((d) => d.textContent.replace(/\s/g, "") === "217.8/ac")`))
}

// The steps open in groups, and a group that is shut keeps the step one is at.
func TestStepsOpenInGroups(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 800)
	const steps = `[...document.querySelectorAll("nav[aria-label='Steps of this block'] a")].map((a) => a.textContent.replace(/[0-9,].*/, "")).join(" ")`
	must(t, page.Go("/blocks/"+foot.ID+"/soil"), page.Wait(steps+` === "Lie Soil Drains Fit Prepare Rows Plants Care Yield Record"`), page.Press("Ground"),
		page.Wait(steps+` === "Soil Prepare Rows Plants Care Yield Record"`), page.Press("Ground"), page.Press("Establish"), page.Wait(steps+` === "Lie Soil Drains Fit Care Yield Record"`))
	must(t, page.Press("Care"), page.PressFigure("care.out.n"), page.Says("carried off, per planted hectare"))
	// On a phone the places open from one line.
	phone := open(t, prog.URL, 390, 844)
	must(t, phone.Go("/blocks/"+foot.ID+"/care"), phone.Wait(`document.querySelector("header").getBoundingClientRect().height < 60`), phone.Press("Places, now"), phone.Press("Bench"),
		phone.Says("Find a calculator"))
}

// The keyboard alone designs drains: the slider of the depth, the points of the collector, and Escape from a panel.
func TestDrainsByKeyboard(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	before := designOf(t, prog, foot.ID).Drains.Network
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Says("Collector, 348"))
	must(t, page.TabTo(`(document.activeElement.getAttribute("aria-label") ?? "").startsWith("Outlet of the collector")`))
	for range 3 {
		must(t, page.Key("ArrowRight"))
	}
	must(t, page.Says("Outlet of the collector is moved"), page.Wait(fmt.Sprintf(`fetch("/api/v1/blocks/%s/plan").then((r) => r.json()).then((p) => !p.drains.network.suggested)`, foot.ID)))
	after := designOf(t, prog, foot.ID).Drains.Network
	if d := after.Line[0][0] - before.Line[0][0]; d < 0.5 || d > 3.5 || math.Abs(after.Line[0][1]-before.Line[0][1]) > 0.01 {
		t.Errorf("three steps east moved the outlet by %.2f east, %.2f north", d, after.Line[0][1]-before.Line[0][1])
	}
	must(t, page.Press("Water table"), page.TabTo(`document.activeElement.getAttribute("aria-label") === "Depth of the drains"`), page.Key("ArrowUp"), page.Says("Drains at"))
	if d := designOf(t, prog, foot.ID).Drains; d.DepthM >= 1.12 || d.DepthM < 1.05 {
		t.Errorf("an arrow up designs at %.2f m", d.DepthM)
	}
	must(t, page.PressFigure("drain.hours"), page.Says("Time to fall"), page.Keys("\x1b"), page.Wait(`!document.querySelector("[role=dialog]")`))
}

// Two people at the same drains: the second is asked, nothing of the first is lost.
func TestTwoAtTheSameDrains(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Press("Water table"), page.Wait(field("Spacing")+` === "9.5"`))
	other := func(patch string) {
		var d struct{ Revision int }
		ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID, "", nil, &d)
		if s := ask(t, "PATCH", prog.URL+"/api/v1/blocks/"+foot.ID, patch, map[string]string{"If-Match": fmt.Sprintf("%q", fmt.Sprint(d.Revision)), "Content-Type": "application/merge-patch+json"}, nil); s != 200 {
			t.Fatalf("the other's change answered %d", s)
		}
	}
	other(`{"drains":{"traffic":"foot"}}`)
	must(t, page.Type("Spacing", "11"), page.Says("Somebody changed this block"), page.Says("Nothing of theirs is lost"), page.Press("Make my change on top"), page.Wait(field("Spacing")+` === "11"`))
	page.Forgive("412")
	var d struct {
		Block struct {
			Drains struct {
				Traffic  string
				SpacingM float64
			}
		}
	}
	must(t, page.Wait(fmt.Sprintf(`fetch("/api/v1/blocks/%s").then((r) => r.json()).then((b) => b.block.drains.spacingM === 11)`, foot.ID)))
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID, "", nil, &d)
	if d.Block.Drains.Traffic != "foot" || d.Block.Drains.SpacingM != 11 {
		t.Errorf("%+v", d.Block.Drains)
	}
	must(t, page.Says("raises the water to"), page.Press("The computed spacing"), page.Wait(field("Spacing")+` === "9.5"`))
}

// A pit's layers are split and taken out, its marks ticked, and each is one step that can be undone.
func TestLayersOfAPit(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	layers := func() (out []struct {
		TopCm, BottomCm float64
		Signs           []string
	}) {
		var d struct {
			Block struct {
				Pits []struct {
					Layers []struct {
						TopCm, BottomCm float64
						Signs           []string
					}
				}
			}
		}
		ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID, "", nil, &d)
		return d.Block.Pits[0].Layers
	}
	must(t, page.Go("/blocks/"+foot.ID+"/soil"), page.Says("of root room"))
	n := len(layers())
	must(t, page.Press("Split layer 2"), page.Says("The layer is split"), page.Wait(fmt.Sprintf(`document.querySelectorAll("[aria-label='Bottom of layer %d']").length === 1`, n+1)))
	if l := layers(); len(l) != n+1 || l[1].BottomCm != l[2].TopCm {
		t.Errorf("%+v", l)
	}
	must(t, page.Press("Take out layer 3"), page.Says("The layer is taken out"), page.Wait(fmt.Sprintf(`document.querySelectorAll("[aria-label='Bottom of layer %d']").length === 0`, n+1)))
	l := layers()
	for i := range l {
		if i > 0 && l[i].TopCm != l[i-1].BottomCm {
			t.Errorf("a gap between layers: %+v", l)
		}
	}
	must(t, page.Press("Undo"), page.Wait(fmt.Sprintf(`document.querySelectorAll("[aria-label='Bottom of layer %d']").length === 1`, n+1)))
	// ponding seen at the surface is evidence
	_, err := drive.Eval[bool](page, `([...document.querySelectorAll("label")].find((x) => x.textContent.includes("ponding")).querySelector("input").click(), true)`)
	must(t, err, page.Wait(fmt.Sprintf(`fetch("/api/v1/blocks/%s").then((r) => r.json()).then((b) => b.block.pits[0].surface.length === 1)`, foot.ID)))
}

// A material is added, analysed and taken out at the stores; a price of pipe changes what the drains cost.
func TestStoresFeedTheBill(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	cost := func() string {
		var d struct{ Drains struct{ CostText string } }
		ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID+"/plan", "", nil, &d)
		return d.Drains.CostText
	}
	before := cost()
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/stores"), page.Type("Of", "pipe:75 mm"), page.Type("C$ for one", "4.5"), page.Press("Keep this price"), page.Says("4.50"))
	must(t, page.Wait(fmt.Sprintf(`fetch("/api/v1/blocks/%s/plan").then((r) => r.json()).then((p) => p.drains.costText !== %q)`, foot.ID, before)))
	if after := cost(); after == before || !strings.HasPrefix(after, "C$") {
		t.Errorf("pipe at 4.50 costs %s, at 1.90 %s", after, before)
	}
	must(t, page.Visit("/blocks/"+foot.ID+"/drains"), page.Press("Bill and files"), page.Says(strings.ReplaceAll(cost(), "\u00a0", "\u00a0")))
	must(t, page.Visit("/stores"), page.Press("Add a material"), page.Wait(`document.querySelectorAll("table")[1].querySelectorAll("tbody tr").length === 4`), page.Press("Undo"), page.Wait(`document.querySelectorAll("table")[1].querySelectorAll("tbody tr").length === 3`))
}

// Undo takes back what stands last, also when it is pressed before the page has heard of the change; but never a
// change of somebody else's, nor one that somebody else changed since.
func TestUndoIsOfWhatStandsLast(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Press("Water table"), page.Type("Drain depth", "1"), page.Says("Undo"), page.Wait(`[...document.querySelectorAll("button")].find((b) => b.textContent === "Undo" && !b.disabled)`))
	var d struct{ Revision int }
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID, "", nil, &d)
	if s := ask(t, "PATCH", prog.URL+"/api/v1/blocks/"+foot.ID, `{"notes":"wet since Monday"}`, map[string]string{"If-Match": fmt.Sprintf("%q", fmt.Sprint(d.Revision)), "Content-Type": "application/merge-patch+json", "X-Person": "Ruan%20Petherick"}, nil); s != 200 {
		t.Fatal(s)
	}
	must(t, page.Press("Undo"), page.Says("Ruan Petherick changed this since"))
	var now struct{ Block struct{ Notes string } }
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID, "", nil, &now)
	if now.Block.Notes != "wet since Monday" {
		t.Error("a change nobody here had seen is undone")
	}
	// who made it can take it back
	must(t, page.Press("Tamsin Aldane"), page.Press("Ruan Petherick"), page.Wait(`document.querySelector("button[title='Changed notes of Orchard Foot']")`), page.Press("Undo"), page.Says("Undone: Changed notes of Orchard Foot"))
}

// A field left right after undo is made on what the undo left: neither waits for the other to be shown, nobody is asked
// whose change holds, and nothing is lost.
func TestUndoAndAFieldInOneBreath(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Press("Water table"), page.Type("Drain depth", "1"), page.Wait(figureValue("drain.depth")+` === "1.00"`), page.Wait(`[...document.querySelectorAll("button")].find((b) => b.textContent === "Undo" && !b.disabled)`))
	if _, err := drive.Eval[bool](page, `(() => {
		[...document.querySelectorAll("button")].find((b) => b.textContent === "Undo").click();
		const e = [...document.querySelectorAll("input")].find((e) => (e.labels?.[0]?.textContent ?? "").trim().startsWith("Spacing"));
		e.focus();
		Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(e, "8");
		e.dispatchEvent(new Event("input", {bubbles: true}));
		e.blur();
		return true;
	})()`); err != nil {
		t.Fatal(err)
	}
	must(t, page.Wait(figureValue("drain.depth")+` === "1.12"`), page.Wait(figureValue("drain.spacing")+` === "8.00"`))
	var d struct {
		Block struct {
			Drains struct{ DepthM, SpacingM float64 }
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID, "", nil, &d)
	if d.Block.Drains.DepthM != 0 || d.Block.Drains.SpacingM != 8 {
		t.Errorf("%+v", d.Block.Drains)
	}
	if asked, err := drive.Eval[bool](page, `!!document.querySelector("[role=dialog]")`); err != nil || asked {
		t.Errorf("somebody is asked: %v", err)
	}
}
