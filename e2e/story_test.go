package e2e

import (
	"encoding/csv"
	"fmt"
	"math"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"slowroot/e2e/drive"
)

// From an empty folder to drains a contractor can dig, as one grower would go: an estate, a field, levels, a pit with
// grey clay, the water's source, a crop, the way taken, the files and the job; closed and opened again it is all there.
func TestFromNothingToDrains(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	prog := run(t, "serve", "--data", dir, "--today", "2027-03-15")
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/"), page.Type("Name", "Wet Bottom"), page.Type("Your name", "A. Grower"))
	_, err := drive.Eval[bool](page, `(document.querySelector('[value=south]').click(), true)`)
	must(t, err, page.Press("Begin"), page.Says("No block yet"))
	field4 := `{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"name":"Lower Meadow"},"geometry":{"type":"Polygon","coordinates":[[[172.1,-38.1],[172.1030,-38.1],[172.1030,-38.0982],[172.1,-38.0982],[172.1,-38.1]]]}}]}`
	must(t, page.Press("Add a block"), page.Settled(), page.Upload(kept(t, "field.geojson", field4)), page.Says("Lower Meadow"), page.Press("Add this block"), page.Says("What could stand here?"))
	var levels strings.Builder
	levels.WriteString("lon,lat,z\n")
	for i := range 14 {
		for j := range 12 {
			lon, lat := 172.0997+float64(i)*0.00028, -38.1003+float64(j)*0.0002
			// falls gently to the south-west corner
			fmt.Fprintf(&levels, "%.7f,%.7f,%.3f\n", lon, lat, 20+0.0035*float64(i)*24.5+0.006*float64(j)*22.2)
		}
	}
	must(t, page.Go("/heights"), page.Upload(kept(t, "levels.csv", levels.String())), page.Says("168 spot heights"), page.Type("or plus or minus", "0.02"), page.Wait(`!document.querySelector("form button").disabled`), page.Press("Add these heights"), page.Says("levels is added"))
	id := blocks(t, prog.URL)["Lower Meadow"].ID

	// the pit: loam with grey from 45 cm over tight clay at 110
	must(t, page.Go("/blocks/"+id+"/soil"), page.Press("Describe a pit"), page.Says("of root room"))
	must(t, page.Type("Layer 1, bottom", "45"), page.Wait(field("Layer 1, bottom")+` === "45"`), page.Type("Layer 2, texture", "loam"), page.Wait(field("Layer 2, texture")+` === "loam"`), page.Type("Layer 2, bottom", "110"), page.Wait(field("Layer 2, bottom")+` === "110"`),
		page.Type("Layer 3, sand, silt and clay", "10/25/65"), page.Wait(field("Layer 3, sand, silt and clay")+` === "10/25/65"`), page.Type("Layer 3, bottom", "150"), page.Wait(field("Layer 3, bottom")+` === "150"`), page.Type("Layer 3, structure", "massive"), page.Wait(field("Layer 3, structure")+` === "massive"`))
	_, err = drive.Eval[bool](page, `(() => { const d = document.querySelectorAll("tbody details")[1]; d.open = true; [...d.querySelectorAll("label")].find((l) => l.textContent.includes("grey")).querySelector("input").click(); return true; })()`)
	must(t, err, page.Wait(`/from 45\s+cm/.test(document.body.innerText)`), page.Says("clay"))
	// a sketch counts for nothing until a person says that it is what was seen
	must(t, page.Says("This is a sketch"), page.Press("Drains"), page.Says("Nobody has looked yet"), page.Press("Soil"), page.Press("This is what was seen"), page.Says("it counts now"), page.Wait(`!document.body.innerText.includes("This is a sketch")`))

	// before a crop is meant, the middle class is taken and said
	must(t, page.Press("Drains"), page.Says("an orchard crop of middling sensitivity"), page.Says("It needs drains or beds"))
	must(t, page.Type("Where the water comes from", "rain"), page.Wait(field("Where the water comes from")+` === "rain"`), page.Type("Ditch water below the ground at the outlet", "1.5"), page.Wait(field("Ditch water below")+` === "1.5"`), page.Type("Or permeability as it is known", "0.9"), page.Wait(field("Or permeability")+` === "0.9"`))
	must(t, page.Press("Fit"), page.Wait(`!document.body.innerText.includes("…")`), page.Press("Plants"), page.Wait(`!document.body.innerText.includes("…")`), page.Press("Plan hazelnut"), page.Says("Ground line"))
	must(t, page.Press("Drains"), page.Says("How do the roots get air?"), page.Press("Decide for this: Drain the field: gridiron"), page.Type("Why this way", "one fall, and a ditch at the corner"), page.Press("Take this way"), page.Says("gridiron is taken"), page.Press("Plan and levels"), page.Says("of the block lies within half a spacing"))
	must(t, page.Wait(`!document.body.innerText.includes("not to dig")`))
	d := designOf(t, prog, id)
	n := d.Drains.Network
	if n == nil || n.ReachedM2 < 0.97*n.BlockM2 || math.Abs(d.Drains.DepthM-1.10) > 0.011 || len(n.Laterals) < 8 {
		t.Fatalf("%+v", d.Drains)
	}
	for _, f := range d.Findings {
		if strings.HasPrefix(f.Rule, "drain.trouble") {
			t.Errorf("a plain field gives trouble: %s", f.Sentence)
		}
	}
	// the pegs a contractor takes: every one under the ground, rising from the outlet, with chainage
	rows, err := csv.NewReader(strings.NewReader(fetch(t, prog.URL+"/api/v1/blocks/"+id+"/setting-out/csv"))).ReadAll()
	must(t, err)
	at := map[string]int{}
	for i, h := range rows[0] {
		at[h] = i
	}
	lowest, outlet := math.Inf(1), math.Inf(1)
	for _, r := range rows[1:] {
		invert, _ := strconv.ParseFloat(r[at["invertM"]], 64)
		cut, _ := strconv.ParseFloat(r[at["cutM"]], 64)
		lowest = math.Min(lowest, invert)
		if r[at["kind"]] == "outlet" {
			outlet = invert
		}
		if cut < 0.68 || cut > 1.4 {
			t.Errorf("%s is cut %g m", r[0], cut)
		}
	}
	if outlet != lowest {
		t.Errorf("the outlet lies at %g, something lies at %g", outlet, lowest)
	}
	must(t, page.Press("Care"), page.Press("Before planting"), page.Says("Drain where the pit shows water"), page.Says("pipe 75 mm"))
	must(t, page.Press("Prepare"), page.Says("the sheet says"))

	// closed and opened again
	must(t, prog.Stop())
	again := run(t, "serve", "--data", dir, "--today", "2027-03-15")
	if back := designOf(t, again, id).Drains.Network; back == nil || math.Abs(back.FlowM3S-n.FlowM3S) > 1e-12 || len(back.Laterals) != len(n.Laterals) {
		t.Error("the drains changed while the program was closed")
	}
	// and copied into another estate through the open file
	file := kept(t, "blocks.geojson", fetch(t, again.URL+"/api/v1/blocks.geojson"))
	if filepath.Ext(file) != ".geojson" {
		t.Fatal(file)
	}
	other := demo(t, t.TempDir())
	page = open(t, other.URL, 1280, 900)
	must(t, page.Go("/draw"), page.Settled(), page.Upload(file), page.Says("Lower Meadow"), page.Press("Add this block"), page.Settled())
	var copied struct {
		Block struct {
			Drains struct{ Source string }
			Pits   []struct{ Name string }
		}
	}
	must(t, page.Wait(`fetch("/api/v1/overview").then((r) => r.json()).then((o) => o.blocks.some((b) => b.name === "Lower Meadow"))`))
	ask(t, "GET", other.URL+"/api/v1/blocks/"+blocks(t, other.URL)["Lower Meadow"].ID, "", nil, &copied)
	if copied.Block.Drains.Source != "rain" || len(copied.Block.Pits) != 1 {
		t.Errorf("%+v", copied.Block)
	}
}
