package plan

import (
	"math"
	"strings"
	"testing"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/working"
)

// Beds: methods BED-1 and BED-2 through the block's rows; what the shape refuses is said and mended.
func TestBedsOfABlock(t *testing.T) {
	in := wet(t, "hazelnut", 55, 0.02, tilted)
	in.Block.Drains.Bed = &document.BedChoice{BaseM: 1.6, TopM: 0.8, HeightM: 0.4, Cover: "fabric", DripLines: 2}
	plan := compute(t, in)
	d := plan.Drains
	if d.Taken != "beds" || d.Bed == nil {
		t.Fatalf("%s on clay at 55 cm", d.Taken)
	}
	b := d.Bed
	if b.Metres != value(t, plan, "rows.metres") || b.Estimated || math.Abs(b.SoilM3-0.48*b.Metres) > 1e-6 {
		t.Errorf("%.1f m of bed, %.1f m³", b.Metres, b.SoilM3)
	}
	if math.Abs(b.FurrowM-0.48/b.Bed.CentreM) > 1e-6 || math.Abs(b.FreshM-0.4/0.85) > 1e-9 || math.Abs(b.ThenCm-b.NowCm-100*b.RiseM) > 1e-9 || b.RiseM <= 0 {
		t.Errorf("furrow %.4f, fresh %.3f, %g → %g cm", b.FurrowM, b.FreshM, b.NowCm, b.ThenCm)
	}
	if strings.Contains(strings.Join(d.Laying, " "), "Stone around") {
		t.Error("stone is laid around pipes that have none")
	}
	fs, err := Forks(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, w := range fs[0].Ways {
		if k := w.Consequences; len(k) > 1 && (w.ID == "gridiron" || w.ID == "herringbone" || w.ID == "tolerant") && (k[1].Label != "machine" || k[1].Text != "–") {
			t.Errorf("%s, that is not laid, takes %+v", w.ID, k[1])
		}
		if w.ID == "beds" && w.Consequences[1].Value != d.MachineH {
			t.Errorf("beds take %+v, the bill says %.2f h", w.Consequences[1], d.MachineH)
		}
	}
	// dug by hand: x·(w + r·x/H) with x = A/C
	x := 0.48 / b.Bed.CentreM
	if cut := x * (b.Bed.CentreM - 1.6 + 0.4*x/0.4); math.Abs(b.MovedM3-cut*b.Metres) > 1e-3 || b.Passes != int(math.Ceil(cut/0.1)) ||
		math.Abs(b.MachineH-float64(b.Passes)*b.Metres/3700) > 1e-9 {
		t.Errorf("%.1f m³ dug in %d passes and %.2f h", b.MovedM3, b.Passes, b.MachineH)
	}
	for _, l := range d.Bill {
		if l.What == "Soil moved into beds" && l.Amount != b.MovedM3 {
			t.Errorf("the bill moves %.0f of %.0f m³", l.Amount, b.MovedM3)
		}
	}
	if b.DripM != 1.02*2*b.Metres || b.CoverM <= b.Metres || b.Rolls != int(math.Ceil((b.Metres+1.5*float64(b.Pieces))/100)) || b.CoverBuy < b.CoverNeed {
		t.Errorf("%+v", b)
	}
	area := 0.0
	for i := 1; i < len(b.Outline); i++ {
		area += (b.Outline[i][0] - b.Outline[i-1][0]) * (b.Outline[i][1] + b.Outline[i-1][1]) / 2
	}
	if math.Abs(area) > 1e-6 {
		t.Errorf("the outline moves %.4f m² of soil from nowhere", area)
	}
	if d.Network == nil || math.Abs(d.Network.FlowM3S-d.DischargeM/1000*plan.Ground.AreaM2/86400) > 1e-9 {
		t.Error("the drain along the ends does not carry the block's water")
	}
	for _, f := range plan.Figures {
		if strings.HasPrefix(f.Path, "drain.bed") || f.Path == "drain.rise" {
			tr := &working.Trace{Want: f.Path}
			if _, err := Compute(in, tr); err != nil || len(tr.Steps) == 0 || math.Abs(tr.Steps[0].Value-f.Value) > 1e-9 {
				t.Errorf("%s shows no working", f.Path)
			}
		}
	}
	in.Block.Drains.Bed = &document.BedChoice{BaseM: 1.2, TopM: 1.4}
	if n := notes(compute(t, in), "bed.shape"); n == nil || n.Weight != finding.Stops {
		t.Errorf("a bed wider at its top: %+v", n)
	}
	in.Block.Drains.Bed = &document.BedChoice{BaseM: 2.6, TopM: 2.6, HeightM: 0.9, CrownM: 0.4, CentreM: 2.9}
	if n := notes(compute(t, in), "bed.short"); n == nil || !said(t, n.Sentence) {
		t.Errorf("a bed of more soil than its furrows hold: %+v", n)
	}
	in.Block.Drains.Bed = &document.BedChoice{BaseM: 3, TopM: 1.5, HeightM: 1.2, CentreM: 4}
	plan = compute(t, in)
	n := notes(plan, "bed.subsoil")
	if n == nil || !plan.Drains.Bed.Estimated {
		t.Fatalf("furrows of %.2f m in 30 cm of topsoil: %+v", plan.Drains.Bed.FurrowM, n)
	}
	in.Block.Drains.Bed.HeightM = n.Remedies[0].Patch["drains"].(map[string]any)["bed"].(map[string]any)["heightM"].(float64)
	if notes(compute(t, in), "bed.subsoil") != nil {
		t.Errorf("beds of %.2f m still dig subsoil", in.Block.Drains.Bed.HeightM)
	}
	flat := wet(t, "hazelnut", 55, 0.02, func(x, y float64) float64 { return 50 + 0.01*x })
	if notes(compute(t, flat), "bed.fall") == nil { // rows run north, the ground falls west
		t.Error("furrows along the contour are not said")
	}
}
