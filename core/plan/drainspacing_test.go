package plan

import (
	"math"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/plan/drains"
	"slowroot/core/soil"
)

// Method DRN-3: the geometric mean of the holes counts before what is said, and both before texture; a hole
// outside the method is dropped and said. The design is shown for the whole range.
func TestPermeabilityAndItsRange(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	by := func() drains.Plan { return *compute(t, in).Drains }
	d := by()
	if d.Soil.From != "texture" || math.Abs(d.Soil.High-soil.KsFactor) > 1e-9 || !(d.Spacings[0] < d.Spacings[1] && d.Spacings[1] < d.Spacings[2]) {
		t.Fatalf("%+v %v", d.Soil, d.Spacings)
	}
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	if notes(compute(t, in), "drain.range") == nil {
		t.Error("a spacing from texture alone is not doubted")
	}
	// the head is counted from the water in the drain, at the middle of the pipe
	if want := d.DepthM - 0.085/2 - d.Criterion.SteadyM; math.Abs(d.HeadM-want) > 1e-12 {
		t.Errorf("head %.4f, want %.4f", d.HeadM, want)
	}
	f := drainage.Field{Ka: d.Soil.Above, Kb: d.Soil.Below, Thick: d.Soil.ThickM, U: 0.9, H: d.HeadM, Q: 0.007}
	if l, _, _ := f.Spacing(); math.Abs(l-d.Spacings[1]) > 1e-6 || d.SpacingM > l || d.SpacingM < l-0.5 {
		t.Errorf("spacing %.2f of %.2f, Hooghoudt says %.2f", d.SpacingM, d.Spacings[1], l)
	}
	in.Block.Drains.KMDay = 0.4
	if d = by(); d.Soil.Above != 0.4 || d.Soil.From != "as it was said" {
		t.Errorf("%+v", d.Soil)
	}
	// r 4, H 120, first 40, rise 8 in 60 s: 0.6972 m/day; on the layer 0.7843 (method DRN-3)
	in.Block.Drains.Holes = []document.Hole{{Name: "1", RadiusCm: 4, DepthCm: 120, FirstCm: 40, RiseCm: 8, Seconds: 60}, {Name: "2", RadiusCm: 4, DepthCm: 120,
		FirstCm: 40, RiseCm: 8, Seconds: 60, OnLayer: true}, {Name: "3", RadiusCm: 4, DepthCm: 120, FirstCm: 40, RiseCm: 30, Seconds: 60}}
	plan := compute(t, in)
	d = *plan.Drains
	if math.Abs(d.Soil.Above-math.Sqrt(0.6972*0.7843)) > 1e-3 || d.Soil.From != "2 auger holes" || math.Abs(d.Holes[0].KMDay-0.6972) > 1e-4 {
		t.Errorf("%+v %+v", d.Soil, d.Holes)
	}
	if n := notes(plan, "drain.hole-3"); n == nil || !said(t, n.Sentence) {
		t.Errorf("a reading outside the method: %+v", n)
	}
	// better soil below a poorer one the drain lies in: Ernst (method DRN-6)
	in.Block.Drains.Holes, in.Block.Drains.KMDay = nil, 0
	for i := range in.Block.Pits {
		in.Block.Pits[i].Layers = []soil.Layer{{TopCm: 0, BottomCm: 30, Class: soil.Loam, OMPct: 2.5, Structure: soil.Crumb, Hardness: soil.Loose},
			{TopCm: 30, BottomCm: 150, Class: soil.ClayLoam, OMPct: 1, Hardness: soil.Firm, Signs: []soil.Sign{soil.Grey}}, {TopCm: 150, BottomCm: 250,
				Class: soil.SandyLoam, Hardness: soil.Firm}}
	}
	two := by()
	f.Ka, f.Kb, f.Thick, f.H = two.Soil.Above, two.Soil.Above, 0.35, two.HeadM
	if one, _, _ := f.Spacing(); two.Soil.School != "ernst" || two.Spacings[1] <= one {
		t.Errorf("%s: %.1f m, the upper layer alone gives %.1f", two.Soil.School, two.Spacings[1], one)
	}
}

// Method DRN-2: 60 mm every 15 days at an efficiency of 0.7 give 1.20 mm/day.
func TestDesignDischarge(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Drains.IrrigationMM, in.Block.Drains.IrrigationDays, in.Block.Drains.DischargeBy = 60, 15, "irrigation"
	d := compute(t, in).Drains
	if math.Abs(d.DischargeM-1.2) > 1e-9 {
		t.Errorf("irrigation losses %.3f mm/day", d.DischargeM)
	}
	in.Climate.StormMM, in.Climate.StormFrom, in.Block.Drains.DischargeBy = 90, 12, "storm"
	d = compute(t, in).Drains
	want := (90 - 1000*d.Soil.Pores*(d.Criterion.SteadyM-d.Criterion.BackM)) / 3
	if math.Abs(d.DischargeM-want) > 1e-9 {
		t.Errorf("storm %.2f, want %.2f", d.DischargeM, want)
	}
	in.Block.Drains.DischargeMM, in.Block.Drains.DischargeBy = 4, ""
	if d = compute(t, in).Drains; d.DischargeM != 4 {
		t.Errorf("set by hand: %.2f", d.DischargeM)
	}
}

// The water table through the year never stands above the surface or below the drain, is highest midway, and
// by the design discharge at the spacing computed just where the crop wants it.
func TestWaterTableBetweenDrains(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	base := compute(t, in).Drains
	in.Block.Drains.SpacingM = base.Spacings[1]
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	d := compute(t, in).Drains
	if len(d.Season) != 13 {
		t.Fatalf("%d months", len(d.Season))
	}
	for _, m := range d.Season {
		for i, z := range m.Depths {
			if z < 0 || z > d.DepthM+1e-9 || z < m.MidM-1e-9 || math.Abs(z-m.Depths[24-i]) > 1e-9 {
				t.Errorf("%s: %v", m.Month, m.Depths)
				break
			}
		}
	}
	if got := d.Season[12].MidM; math.Abs(got-d.Criterion.SteadyM) > 1e-3 {
		t.Errorf("by the design discharge the water stands at %.3f m midway, want %.3f", got, d.Criterion.SteadyM)
	}
	in.Block.Drains.SpacingM = 2 * base.Spacings[1]
	plan := compute(t, in)
	if n := notes(plan, "drain.wide"); n == nil {
		t.Error("twice the spacing is not said")
	}
	if plan.Drains.Hours <= d.Hours {
		t.Errorf("wider drains free the roots sooner: %.0f h against %.0f", plan.Drains.Hours, d.Hours)
	}
}

// Depths are weighed: each row is what the design would be at that depth, deeper rows lie wider and none below the
// limit, and the one taken is marked.
func TestOtherDepthsAreWeighed(t *testing.T) {
	in := wet(t, "persimmon", 130, 0.02, tilted)
	in.Block.Drains.KMDay = 0.8
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	in.Estate.Prices = append(in.Estate.Prices, document.Price{Item: "pipe:75 mm", Unit: "m", Each: 2, On: civil.Must(2025, 1, 1)},
		document.Price{Item: "drain-stone", Unit: "t", Each: 40, On: civil.Must(2025, 1, 1)}, document.Price{Item: "machine", Unit: "h", Each: 90,
			On: civil.Must(2025, 1, 1)})
	d := compute(t, in).Drains
	if len(d.Depths) < 3 {
		t.Fatalf("%+v", d.Depths)
	}
	marked, last := 0, 0.0
	for i, x := range d.Depths {
		if x.Taken {
			marked++
		}
		if x.DepthM > drains.Deepest(d.Limits).DepthM+1e-9 || i > 0 && x.DepthM <= d.Depths[i-1].DepthM || x.SpacingM < last ||
			math.Abs(x.MetresPerHa*x.SpacingM-1e4) > 1e-6 || !strings.HasPrefix(x.CostText, "C$") {
			t.Errorf("%+v after %.2f m", x, last)
		}
		last = x.SpacingM
		in.Block.Drains.DepthM = x.DepthM
		if got := compute(t, in).Drains; got.SpacingM != x.SpacingM || math.Abs(got.Hours-x.Hours) > 1e-9 || math.Abs(got.DepthM-x.DepthM) > 1e-9 {
			t.Errorf("laid at %.2f m: %.1f m apart, %.1f h; the table says %.1f and %.1f", x.DepthM, got.SpacingM, got.Hours, x.SpacingM, x.Hours)
		}
	}
	if marked != 1 {
		t.Errorf("%d depths are taken", marked)
	}
	if len(d.Holes) != 0 || len(d.Limits) != len(compute(t, in).Drains.Limits) {
		t.Error("weighing depths changed the design")
	}
}

// Soil so open that the formula asks for nothing sensible is drained at 100 m at most, and that is said.
func TestSoilThatDrainsItself(t *testing.T) {
	in := wet(t, "hazelnut", 0, 0.02, tilted)
	in.Block.Drains.KMDay = 45
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	p := compute(t, in)
	n := notes(p, "drain.permeable")
	if p.Drains.SpacingM != drains.WidestM || p.Drains.Spacings[1] <= drains.WidestM || n == nil || !said(t, n.Sentence) ||
		n.Remedies[0].Label != "Drain the wet part only" {
		t.Errorf("%.0f m of %.0f: %+v", p.Drains.SpacingM, p.Drains.Spacings[1], n)
	}
	in.Block.Drains.KMDay = 0.5
	if p = compute(t, in); p.Drains.SpacingM >= drains.WidestM || notes(p, "drain.permeable") != nil {
		t.Errorf("loam of 0.5 m a day: %.0f m apart", p.Drains.SpacingM)
	}
}
