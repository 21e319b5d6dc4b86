package plan

import (
	"encoding/json"
	"errors"
	"math"
	"regexp"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/soil"
	"slowroot/core/working"
)

// wet is the test field on ground z(x, y), its pits loam that shows water at 30 cm, over clay from layerCm
// down (0: none).
func wet(t testing.TB, sheet string, layerCm float64, accuracy float64, z func(x, y float64) float64) Input {
	t.Helper()
	in := grounded(t, sheet)
	in.Climate = site(true)
	in.Block.Pits = nil
	for _, name := range []string{"A", "B", "C"} {
		p := soil.Pit{Name: name, On: civil.Must(2025, 2, 1), Moisture: soil.Dry, Layers: []soil.Layer{
			{TopCm: 0, BottomCm: 30, Class: soil.Loam, OMPct: 2.5, Structure: soil.Crumb, Hardness: soil.Loose},
			{TopCm: 30, BottomCm: 160, Class: soil.Loam, OMPct: 1, Structure: soil.Blocky, Hardness: soil.Firm, Signs: []soil.Sign{soil.Grey}},
		}}
		if layerCm > 0 {
			p.Layers[1].BottomCm = layerCm
			p.Layers = append(p.Layers, soil.Layer{TopCm: layerCm, BottomCm: 160, Class: soil.Clay, Structure: soil.Massive, Hardness: soil.Firm})
		}
		in.Block.Pits = append(in.Block.Pits, p)
	}
	in.Block.Drains = &DrainChoice{Source: "rain", DitchM: p(1.6)}
	h := spots(in.Block.Boundary, z)
	h.AccuracyM = accuracy
	l, err := Survey(in.Block.Boundary, []Heights{h}, nil)
	if err != nil {
		t.Fatal(err)
	}
	in.Land = l
	return in
}

// spots are levels every 25 m over a block and around it, known to 2 cm.
func spots(b geo.Polygon, z func(x, y float64) float64) Heights {
	pl := geo.LocalPlane(b)
	h := Heights{HeightSource: HeightSource{Name: "levels", Kind: "spots", AccuracyM: 0.02}}
	for x := -200.0; x <= 200; x += 25 {
		for y := -150.0; y <= 150; y += 25 {
			h.Spots = append(h.Spots, Spot{pl.From(geo.XY{X: x, Y: y}), z(x, y)})
		}
	}
	return h
}

func tilted(x, y float64) float64 { return 50 + 0.004*x + 0.008*y }

// Method DRN-4: roots 0.65 and clay at 0.60 give 0.60 by the clay, and 0.60 m of cover refuses it for tractors;
// roots 0.7 with rock at 1.5 and an outlet of 0.92 give 0.92 by the outlet.
func TestDrainDepthNamesItsLimit(t *testing.T) {
	in := wet(t, "persimmon", 60, 0.02, tilted)
	d := compute(t, in).Drains
	if d.DepthM != 0.60 || !strings.Contains(d.Binding, "clay") || !strings.Contains(d.Refused, "cover") {
		t.Errorf("clay at 0.60: %.2f by %s, refused %q", d.DepthM, d.Binding, d.Refused)
	}
	if d.Taken == "gridiron" || d.Taken == "herringbone" {
		t.Errorf("where no pipe can lie, %s is taken", d.Taken)
	}
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
	plan := compute(t, in)
	if n := notes(plan, "drain.refused"); n == nil || n.Weight != finding.Stops || plan.Drains.Network != nil {
		t.Errorf("pipes without cover must stop: %+v", n)
	}
	in.Block.Drains.Traffic = "foot"
	in.Block.Pits[0].Layers[1].BottomCm, in.Block.Pits[0].Layers[2].TopCm = 92, 92
	in.Block.Pits = in.Block.Pits[:1]
	in.Block.Drains.DitchM = p(1.1)
	if d = compute(t, in).Drains; math.Abs(d.DepthM-0.8) > 1e-9 || d.Binding != "outlet" {
		t.Errorf("water in the ditch at 1.1: %.2f by %s, want 0.80 by the outlet", d.DepthM, d.Binding)
	}
	in.Block.Drains.DitchM = p(0)
	if d = compute(t, in).Drains; !strings.Contains(d.Refused, "no outlet") || d.Network != nil {
		t.Errorf("no outlet: %q", d.Refused)
	}
}

// A drain wanted below the clay is laid on it, and the reason is said; taking the remedy mends it.
func TestADrainBelowTheClayIsNotDesigned(t *testing.T) {
	in := wet(t, "persimmon", 95, 0.02, tilted)
	in.Block.Drains.DepthM, in.Block.Drains.KMDay = 1.3, 0.8
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
	plan := compute(t, in)
	n := notes(plan, "drain.deep")
	if plan.Drains.DepthM != 0.95 || n == nil || !strings.Contains(n.Sentence, "clay") || !strings.Contains(n.Sentence, "takes nothing in") {
		t.Fatalf("%.2f m deep; %+v", plan.Drains.DepthM, n)
	}
	for _, x := range plan.Drains.Network.Laterals {
		for _, s := range x.Section {
			if s.Ground-s.Invert > 0.97 && len(plan.Drains.Network.Troubles) == 0 {
				t.Errorf("%s lies %.2f m deep and nothing is said", x.ID, s.Ground-s.Invert)
			}
		}
	}
	if v, ok := n.Remedies[0].Patch["drains"].(map[string]any)["depthM"]; !ok || v != nil {
		t.Errorf("the remedy is %v", n.Remedies[0])
	}
	in.Block.Drains.DepthM = 0
	if notes(compute(t, in), "drain.deep") != nil {
		t.Error("still too deep after the remedy")
	}
}

// On a tilted rectangle the gridiron's length is near area over spacing, what is reached and missed makes the
// block, the flow is Hooghoudt's discharge over the area, and the bill holds what the network holds.
func TestDrainDesignOfABlock(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Drains.SpacingM = 15
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron", Why: "w"}}
	for _, x := range drainage.Pipes {
		in.Estate.Prices = append(in.Estate.Prices, Price{Item: "pipe:" + x.Name, Unit: "m", Each: 2, On: civil.Must(2025, 1, 1)})
	}
	plan := compute(t, in)
	d := plan.Drains
	if !d.Needed || d.Network == nil || !d.Network.Suggested {
		t.Fatalf("%+v", d)
	}
	laterals, reached := 0.0, d.Network.ReachedM2
	for _, x := range d.Network.Laterals {
		laterals += x.LengthM
	}
	for _, m := range d.Network.Missed {
		reached += m.AreaM2
	}
	if want := 60000.0 / 15; math.Abs(laterals-want) > 0.08*want {
		t.Errorf("%.0f m of laterals, about %.0f", laterals, want)
	}
	if math.Abs(reached-plan.Ground.AreaM2) > 60 || d.Network.ReachedM2 < 0.95*reached {
		t.Errorf("%.0f m² reached, with the missed %.0f of %.0f", d.Network.ReachedM2, reached, plan.Ground.AreaM2)
	}
	if want := d.DischargeM / 1000 * d.Network.ReachedM2 / 86400; math.Abs(d.Network.FlowM3S-want) > 1e-9 {
		t.Errorf("flow %.5f, want %.5f", d.Network.FlowM3S, want)
	}
	if d.Network.OutletM > d.Network.Reaches[0].Section[0].Ground-0.5 {
		t.Error("the outlet lies out of the ground")
	}
	pipe, cost := 0.0, ""
	for _, l := range d.Bill {
		if strings.HasPrefix(l.What, "Pipe") {
			pipe += l.Amount
			cost = l.CostText
		}
		if l.What == "Stone" && l.CostText != "no price" {
			t.Error("stone without a price costs something")
		}
	}
	if total := value(t, plan, "drain.pipe"); math.Abs(pipe-1.03*total) > 0.01 || !strings.Contains(cost, "C$") || !strings.Contains(d.CostText, "without") {
		t.Errorf("%.1f m in the bill for %.1f m laid; %s; %s", pipe, total, cost, d.CostText)
	}
	// the job stands where the sheet has it, silt traps are cleaned every year of life, caution with it
	silt := 0
	lay := false
	for _, j := range plan.Jobs {
		if strings.HasPrefix(j.Key, "drain-silt") {
			silt++
		}
		lay = lay || strings.Contains(j.Detail, "pipe 75 mm")
	}
	if silt != len(plan.Years) || !lay || len(d.Laying) < 5 || !strings.Contains(d.Cautions[0], "buried services") {
		t.Errorf("%d cleanings in %d years, laid in a job: %v", silt, len(plan.Years), lay)
	}
	n := 0
	for _, f := range plan.Figures {
		if !strings.HasPrefix(f.Path, "drain.") {
			continue
		}
		n++
		tr := &working.Trace{Want: f.Path}
		if _, err := Compute(in, tr); err != nil || len(tr.Steps) == 0 || math.Abs(tr.Steps[0].Value-f.Value) > 1e-9*math.Max(1, f.Value) {
			t.Errorf("%s shows no working: %v %v", f.Path, tr.Steps, err)
		}
	}
	if n != 5 {
		t.Errorf("%d figures", n)
	}
	if _, err := json.Marshal(plan); err != nil {
		t.Error(err)
	}
}

// Heights of a phone are good enough to choose, not to dig; without heights nothing is laid out.
func TestDrainsSayHowWellTheHeightsAreKnown(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.5, tilted)
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "herringbone"}}
	if n := notes(compute(t, in), "drain.accuracy"); n == nil || !strings.Contains(n.Sentence, "not to dig") {
		t.Errorf("heights to half a metre: %+v", n)
	}
	in.Block.Planting.Done = map[string]civil.Date{"drains": civil.Must(2025, 2, 20)}
	if plan := compute(t, in); notes(plan, "drain.laid") == nil || notes(plan, "drain.accuracy") != nil {
		t.Error("laid drains are still asked to be levelled first")
	}
	in.Block.Planting.Done = nil
	in.Land = nil
	plan := compute(t, in)
	if plan.Drains.Network != nil || notes(plan, "drain.heights") == nil || notes(plan, "drain.accuracy") != nil {
		t.Error("a network without heights")
	}
	in = wet(t, "hazelnut", 130, 0.03, tilted)
	in.Block.Drains.DitchM = nil
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "herringbone"}}
	plan = compute(t, in)
	if notes(plan, "drain.accuracy") != nil || notes(plan, "drain.outlet") == nil {
		t.Error("levelled heights are doubted, or an outlet nobody measured is not")
	}
}

// Method DRN-3: the geometric mean of the holes counts before what is said, and both before texture; a hole
// outside the method is dropped and said. The design is shown for the whole range.
func TestPermeabilityAndItsRange(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	by := func() DrainPlan { return compute(t, in).Drains }
	d := by()
	if d.Soil.From != "texture" || math.Abs(d.Soil.High-soil.KsFactor) > 1e-9 || !(d.Spacings[0] < d.Spacings[1] && d.Spacings[1] < d.Spacings[2]) {
		t.Fatalf("%+v %v", d.Soil, d.Spacings)
	}
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
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
	in.Block.Drains.Holes = []Hole{{Name: "1", RadiusCm: 4, DepthCm: 120, FirstCm: 40, RiseCm: 8, Seconds: 60}, {Name: "2", RadiusCm: 4, DepthCm: 120, FirstCm: 40, RiseCm: 8, Seconds: 60, OnLayer: true}, {Name: "3", RadiusCm: 4, DepthCm: 120, FirstCm: 40, RiseCm: 30, Seconds: 60}}
	plan := compute(t, in)
	d = plan.Drains
	if math.Abs(d.Soil.Above-math.Sqrt(0.6972*0.7843)) > 1e-3 || d.Soil.From != "2 auger holes" || math.Abs(d.Holes[0].KMDay-0.6972) > 1e-4 {
		t.Errorf("%+v %+v", d.Soil, d.Holes)
	}
	if n := notes(plan, "drain.hole-3"); n == nil || !strings.Contains(n.Sentence, "quarter") {
		t.Errorf("a reading outside the method: %+v", n)
	}
	// better soil below a poorer one the drain lies in: Ernst (method DRN-6)
	in.Block.Drains.Holes, in.Block.Drains.KMDay = nil, 0
	for i := range in.Block.Pits {
		in.Block.Pits[i].Layers = []soil.Layer{{TopCm: 0, BottomCm: 30, Class: soil.Loam, OMPct: 2.5, Structure: soil.Crumb, Hardness: soil.Loose}, {TopCm: 30, BottomCm: 150, Class: soil.ClayLoam, OMPct: 1, Hardness: soil.Firm, Signs: []soil.Sign{soil.Grey}}, {TopCm: 150, BottomCm: 250, Class: soil.SandyLoam, Hardness: soil.Firm}}
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
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
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
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
	in.Estate.Prices = append(in.Estate.Prices, Price{Item: "pipe:75 mm", Unit: "m", Each: 2, On: civil.Must(2025, 1, 1)}, Price{Item: "drain-stone", Unit: "t", Each: 40, On: civil.Must(2025, 1, 1)}, Price{Item: "machine", Unit: "h", Each: 90, On: civil.Must(2025, 1, 1)})
	d := compute(t, in).Drains
	if len(d.Depths) < 3 {
		t.Fatalf("%+v", d.Depths)
	}
	marked, last := 0, 0.0
	for i, x := range d.Depths {
		if x.Taken {
			marked++
		}
		if x.DepthM > deepest(d.Limits).DepthM+1e-9 || i > 0 && x.DepthM <= d.Depths[i-1].DepthM || x.SpacingM < last || math.Abs(x.MetresPerHa*x.SpacingM-1e4) > 1e-6 || !strings.HasPrefix(x.CostText, "C$") {
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

// Dip wells of three readings outweigh the marks, and a contradiction is said with its arithmetic.
func TestDipWells(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	read := func(cm ...float64) []WellReading {
		var out []WellReading
		for i, v := range cm {
			out = append(out, WellReading{civil.Must(2024, 5+i, 1), v})
		}
		return out
	}
	in.Block.Pits[0].Surface, in.Block.Pits[0].Layers[0].Signs = []soil.Sign{soil.Ponding}, nil
	in.Block.Drains.Wells = []Well{{Name: "W1", DepthCm: 150, Readings: read(95, 150)}}
	asked := func(plan *Plan) bool { return notes(plan, "soil.wet-ask-0") != nil }
	before := compute(t, in)
	if !asked(before) {
		t.Fatalf("few signs and two readings settle the water: %+v", before.Soil.Pits[0].Wetness)
	}
	if d := before.Drains; d.WetFrom != "marks in the pits" || d.Wells[0].Counts {
		t.Errorf("two readings count: %+v", d)
	}
	in.Block.Drains.Wells[0].Readings = read(95, 70, 150)
	plan := compute(t, in)
	if d := plan.Drains; d.WetM != 0.70 || d.WetFrom != "dip wells" || d.Wells[0].HighestCm != 70 || d.Wells[0].LowestCm != 150 {
		t.Errorf("%+v", d.Wells)
	}
	if asked(plan) {
		t.Error("a reading of the water is still asked for after three")
	}
	if n := notes(plan, "drain.disagree"); n == nil || !strings.Contains(n.Sentence, "40") {
		t.Errorf("70 cm by the well, 30 by the marks: %+v", n)
	}
}

// Every remedy is laid on the block when the ways are asked for, and only then; the water's source decides
// which comes first, and a way nobody knows is refused.
func TestRemediesSideBySide(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, func(x, y float64) float64 { return 50 + 0.05*y + 0.01*x })
	in.Block.Drains.Source = "seepage"
	fork := func() Fork {
		fs, err := Forks(in)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range fs {
			if f.ID == DrainFork {
				return f
			}
		}
		t.Fatal("no fork")
		return Fork{}
	}
	f := fork()
	if f.Ways[0].ID != "interceptor" || !f.Ways[0].Taken || f.Step != "drains" {
		t.Fatalf("%+v", f.Ways[0])
	}
	seen := map[string]map[string]Consequence{}
	for _, w := range f.Ways {
		seen[w.ID] = map[string]Consequence{}
		for _, k := range w.Consequences {
			seen[w.ID][k.Label] = k
		}
	}
	for _, id := range []string{"gridiron", "herringbone"} {
		if k := seen[id]; k["machine"].Value < 20 || k["free of water after"].Value <= 0 || k["root room gained"].Value < 20 {
			t.Errorf("%s: %+v", id, k)
		}
	}
	if seen["ditches"]["land lost"].Value < 1000 || seen["beds"]["root room gained"].Value < 5 || seen["interceptor"]["machine"].Value > seen["gridiron"]["machine"].Value {
		t.Errorf("%+v", seen)
	}
	in.Block.Drains.Source = "unknown"
	if f = fork(); f.Ways[0].ID != "investigate" || notes(compute(t, in), "drain.source") == nil {
		t.Errorf("with an unknown source %s comes first", f.Ways[0].ID)
	}
	if plan := compute(t, in); plan.Drains.Network != nil || plan.Drains.Taken != "investigate" {
		t.Error("drains are laid before anybody knows where the water comes from")
	}
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "prayer"}}
	var fe *finding.FieldError
	if _, err := Compute(in, nil); !errors.As(err, &fe) || fe.Field != "decided.drain" || !strings.Contains(fe.Accepted, "herringbone") {
		t.Errorf("%v", err)
	}
	in.Block.Decided, in.Block.Drains = nil, nil
	plan := compute(t, in)
	if plan.Drains.Started || notes(plan, "drain.open") == nil || plan.Drains.Network != nil {
		t.Error("before anybody asked, a wet block only says that it is wet")
	}
}

// Method DRN-13: K 1.2, 6 %, 0.9 m of flow caught whole: 0.0648 m³/day for each metre.
func TestInterceptorOfABlock(t *testing.T) {
	in := wet(t, "hazelnut", 120, 0.02, func(x, y float64) float64 { return 50 + 0.06*y })
	in.Block.Drains.Source, in.Block.Drains.KMDay = "seepage", 1.2
	plan := compute(t, in)
	d := plan.Drains
	if d.Taken != "interceptor" || d.Cut == nil || d.Network != nil {
		t.Fatalf("%s", d.Taken)
	}
	length := drainage.Length(d.Cut.Line)
	if got := d.CatchM3Day / length; math.Abs(got-0.0648) > 0.0004 {
		t.Errorf("%.4f m³/day for each of %.0f m", got, length)
	}
	if length < 250 || math.Abs(d.Cut.FlowM3S-d.CatchM3Day/86400) > 1e-12 || len(d.Cut.Missed) > 0 {
		t.Errorf("%.0f m, %.6f m³/s", length, d.Cut.FlowM3S)
	}
	for _, x := range d.Cut.Reaches {
		if x.Grade < 0.002-1e-12 {
			t.Errorf("%s falls %.4f", x.ID, x.Grade)
		}
	}
	// joined to the head of a network, its water runs through it
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "herringbone"}}
	alone := compute(t, in).Drains.Network
	in.Block.Drains.Interceptor = []geo.Point{alone.LineAt[len(alone.LineAt)-1], d.Cut.LineAt[0]}
	both := compute(t, in).Drains
	if math.Abs(both.Network.FlowM3S-alone.FlowM3S-both.CatchM3Day/86400) > 1e-9 || both.CatchM3Day <= 0 {
		t.Errorf("%.6f with, %.6f without an interceptor of %.3f m³/day", both.Network.FlowM3S, alone.FlowM3S, both.CatchM3Day)
	}
}

// Beds: methods BED-1 and BED-2 through the block's rows; what the shape refuses is said and mended.
func TestBedsOfABlock(t *testing.T) {
	in := wet(t, "hazelnut", 55, 0.02, tilted)
	in.Block.Drains.Bed = &BedChoice{BaseM: 1.6, TopM: 0.8, HeightM: 0.4, Cover: "fabric", DripLines: 2}
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
	if cut := x * (b.Bed.CentreM - 1.6 + 0.4*x/0.4); math.Abs(b.MovedM3-cut*b.Metres) > 1e-3 || b.Passes != int(math.Ceil(cut/0.1)) || math.Abs(b.MachineH-float64(b.Passes)*b.Metres/3700) > 1e-9 {
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
	in.Block.Drains.Bed = &BedChoice{BaseM: 1.2, TopM: 1.4}
	if n := notes(compute(t, in), "bed.shape"); n == nil || n.Weight != finding.Stops {
		t.Errorf("a bed wider at its top: %+v", n)
	}
	in.Block.Drains.Bed = &BedChoice{BaseM: 2.6, TopM: 2.6, HeightM: 0.9, CrownM: 0.4, CentreM: 2.9}
	if n := notes(compute(t, in), "bed.short"); n == nil || !strings.Contains(n.Sentence, "would have to be brought") {
		t.Errorf("a bed of more soil than its furrows hold: %+v", n)
	}
	in.Block.Drains.Bed = &BedChoice{BaseM: 3, TopM: 1.5, HeightM: 1.2, CentreM: 4}
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

// A collector drawn to a corner is used, and laterals drawn replace the pattern with their names.
func TestDrawnDrains(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "herringbone"}}
	n := compute(t, in).Drains.Network
	in.Block.Drains.Collector = n.LineAt
	for _, l := range n.Laterals {
		pl := geo.LocalPlane(in.Block.Boundary)
		d := DrawnDrain{ID: l.ID}
		for _, p := range l.Points {
			d.Line = append(d.Line, pl.From(geo.XY{X: p[0], Y: p[1]}))
		}
		in.Block.Drains.Laterals = append(in.Block.Drains.Laterals, d)
	}
	again := compute(t, in).Drains.Network
	if !again.Drawn || again.Suggested || len(again.Laterals) != len(n.Laterals) {
		t.Fatalf("%+v", again)
	}
	for i, l := range n.Laterals {
		g := again.Laterals[i]
		if g.ID != l.ID || math.Abs(g.LengthM-l.LengthM) > 1e-3 || math.Abs(g.Low-l.Low) > 1e-3 || math.Abs(g.AreaM2-l.AreaM2) > 40 || g.Pipe != l.Pipe {
			t.Errorf("%s drawn is %+v", l.ID, g)
			break
		}
	}
}

// A line that cannot carry a design is said with its reason, and the remedy goes back to the one suggested.
func TestALineThatCannotBeLaid(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
	pl := geo.LocalPlane(in.Block.Boundary)
	at := pl.From(geo.XY{X: 10, Y: 10})
	in.Block.Drains.Collector = []geo.Point{at, at}
	plan := compute(t, in)
	n := notes(plan, "drain.layout")
	if plan.Drains.Network != nil || n == nil || !strings.Contains(n.Sentence, "is not a line") || n.Weight != finding.Mend {
		t.Fatalf("%+v", n)
	}
	if v, ok := n.Remedies[0].Patch["drains"].(map[string]any)["collector"]; !ok || v != nil {
		t.Errorf("%+v", n.Remedies[0])
	}
	// far outside the heights nothing can be levelled, and that is said too
	in.Block.Drains.Collector = []geo.Point{pl.From(geo.XY{X: 5000, Y: 10}), pl.From(geo.XY{X: 5100, Y: 10})}
	if plan = compute(t, in); plan.Drains.Network != nil || notes(plan, "drain.no-line") == nil {
		t.Error("a collector five kilometres off is laid")
	}
	off := DrawnDrain{ID: "B7", Line: []geo.Point{at, pl.From(geo.XY{X: 5000, Y: 10})}}
	for _, c := range []DrainChoice{{Branches: []DrawnDrain{off}}, {Laterals: []DrawnDrain{off}}} {
		c.Source, c.DitchM = "rain", p(1.6)
		in.Block.Drains = &c
		plan = compute(t, in)
		if n := notes(plan, "drain.layout"); plan.Drains.Network != nil || n == nil || !strings.Contains(n.Sentence, "B7") || !strings.Contains(n.Sentence, "heights are known") {
			t.Errorf("a line that leaves the heights: %+v", n)
		}
	}
}

// A hole in the block leaves ground behind it that no lateral reaches. The finding leads a branch there: taken, it
// reaches most of it, is a line of the bill, a pit where it comes in and a section, and the way back is offered.
func TestBranchIntoWhatIsMissed(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, func(x, y float64) float64 { return 50 + 0.012*math.Abs(y+20) + 0.01*x })
	pl := geo.LocalPlane(in.Block.Boundary)
	var hole []geo.Point
	for _, q := range []geo.XY{{X: -20, Y: 0}, {X: -20, Y: 24}, {X: 20, Y: 24}, {X: 20, Y: 0}, {X: -20, Y: 0}} {
		hole = append(hole, pl.From(q))
	}
	in.Block.Boundary.Holes = []geo.Ring{hole}
	l, err := Survey(in.Block.Boundary, []Heights{spots(in.Block.Boundary, func(x, y float64) float64 { return 50 + 0.012*math.Abs(y+20) + 0.01*x })}, nil)
	if err != nil {
		t.Fatal(err)
	}
	in.Land = l
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
	pl = geo.LocalPlane(in.Block.Boundary)
	in.Block.Drains.Collector = []geo.Point{pl.From(geo.XY{X: -75, Y: -20}), pl.From(geo.XY{X: 75, Y: -20})}
	in.Block.Drains.SpacingM = 9
	was := compute(t, in)
	n := notes(was, "drain.trouble-missed")
	if n == nil || len(n.Remedies) == 0 || n.Remedies[0].Label != "Lead a branch into it" {
		t.Fatalf("%+v", n)
	}
	patch := n.Remedies[0].Patch["drains"].(map[string]any)
	in.Block.Drains.Branches = patch["branches"].([]DrawnDrain)
	in.Block.Drains.Collector = patch["collector"].([]geo.Point)
	now := compute(t, in)
	v := now.Drains.Network
	if gained := v.ReachedM2 - was.Drains.Network.ReachedM2; gained < 0.5*was.Drains.Network.Missed[0].AreaM2 {
		t.Errorf("the branch reaches %.0f m² of %.0f", gained, was.Drains.Network.Missed[0].AreaM2)
	}
	if len(v.Mains) != 2 || v.Mains[1].ID != "B1" || len(v.BranchAt) != 1 || len(v.BranchAt[0].Line) < 2 {
		t.Fatalf("%+v %+v", v.Mains, v.BranchAt)
	}
	comesIn := false
	for _, c := range v.Chambers {
		comesIn = comesIn || c.Main == "C" && strings.Contains(c.Why, "B1 comes in")
	}
	if !comesIn {
		t.Errorf("no pit where the branch comes in: %+v", v.Chambers)
	}
	if amount(now, "Junctions and end caps") != float64(len(v.Laterals)+1) {
		t.Errorf("%g junctions for %d laterals and a branch", amount(now, "Junctions and end caps"), len(v.Laterals))
	}
	if f := value(t, now, "drain.flow"); math.Abs(f-now.Drains.DischargeM/1000*v.ReachedM2/86400) > 1e-9 {
		t.Errorf("%g at the outlet", f)
	}
	// a second one takes the next free name
	if n := notes(now, "drain.trouble-missed"); n != nil && n.Remedies[0].Label == "Lead a branch into it" {
		if next := n.Remedies[0].Patch["drains"].(map[string]any)["branches"].([]DrawnDrain); len(next) != 2 || next[1].ID != "B2" {
			t.Errorf("%+v", next)
		}
	}
	// two of one name, or of the collector's, are refused
	for _, id := range []string{"B1", "C", "I"} {
		c := *in.Block.Drains
		c.Branches = append(append([]DrawnDrain{}, c.Branches...), DrawnDrain{ID: id, Line: c.Branches[0].Line})
		if err := c.valid(); err == nil || !strings.Contains(err.Error(), "drains.branches[1].id") {
			t.Errorf("a second line %s: %v", id, err)
		}
	}
}

// amount is that of a line of the bill.
func amount(p *Plan, what string) float64 {
	for _, l := range p.Drains.Bill {
		if l.What == what {
			return l.Amount
		}
	}
	return 0
}

// Between pits that stand somewhere the layer is read from both: at a pit it is that pit's, half way their mean, and
// a pit that saw none holds it at its bottom at least. A pit without a position holds for the whole block.
func TestLayerBetweenPits(t *testing.T) {
	in := wet(t, "hazelnut", 0, 0.02, tilted)
	pl := geo.LocalPlane(in.Block.Boundary)
	at := func(x, y float64) *geo.Point { q := pl.From(geo.XY{X: x, Y: y}); return &q }
	clay := func(i int, top float64) {
		in.Block.Pits[i].Layers[1].BottomCm = top
		in.Block.Pits[i].Layers = append(in.Block.Pits[i].Layers[:2], soil.Layer{TopCm: top, BottomCm: 170, Class: soil.Clay, Structure: soil.Massive, Hardness: soil.Firm})
	}
	layerAt := func(x, y float64) float64 {
		c := &computation{in: in, p: &Plan{}, plane: geo.LocalPlane(in.Block.Boundary)}
		c.p.Soil = compute(t, in).Soil
		f := c.layer()
		if f == nil {
			return 0
		}
		return f(x, y)
	}
	in.Block.Pits = in.Block.Pits[:2]
	in.Block.Pits[0].At, in.Block.Pits[1].At = at(-60, 0), at(60, 0)
	if got := layerAt(0, 0); got != 0 {
		t.Errorf("no pit saw a layer, and it lies at %.2f", got)
	}
	clay(0, 130)
	for x, want := range map[float64]float64{-60: 1.30, 0: (1.30 + 1.60) / 2, 60: 1.60} {
		if got := layerAt(x, 0); math.Abs(got-want) > 0.002 {
			t.Errorf("at %g m the layer lies at %.3f, want %.2f", x, got, want)
		}
	}
	clay(1, 150)
	if got := layerAt(0, 30); math.Abs(got-1.40) > 0.002 {
		t.Errorf("half way between 1.30 and 1.50: %.3f", got)
	}
	in.Block.Pits[1].At = nil
	if got := layerAt(60, 0); math.Abs(got-1.30) > 0.002 {
		t.Errorf("one pit stands and the other, deeper, does not: %.3f", got)
	}
	in.Block.Pits[0].At, in.Block.Pits[1].At = nil, at(60, 0)
	if got := layerAt(60, 0); math.Abs(got-1.30) > 0.002 {
		t.Errorf("a pit without a position holds everywhere: %.3f", got)
	}
	// the design follows: on the deep side laterals lie deeper than the shallow pit would let them, never in the clay
	in.Block.Pits[0].At, in.Block.Pits[1].At = at(-60, 0), at(60, 0)
	in.Block.Drains.DepthM = 0
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
	plan := compute(t, in)
	if plan.Drains.Network == nil {
		t.Fatalf("nothing is laid: %s", plan.Drains.Refused)
	}
	if notes(plan, "drain.trouble-layer") != nil {
		t.Errorf("%+v", notes(plan, "drain.trouble-layer"))
	}
	depths := map[bool]float64{}
	for _, x := range append(append([]drainage.Drain{}, plan.Drains.Network.Laterals...), plan.Drains.Network.Reaches...) {
		for _, s := range x.Section {
			if s.Invert < s.Layer-0.051 {
				t.Fatalf("%s lies in the clay at %.0f, %.0f", x.ID, s.X, s.Y)
			}
			side := s.X > 0
			depths[side] = math.Max(depths[side], s.Ground-s.Layer)
		}
	}
	if depths[true] < depths[false] {
		t.Errorf("the layer in the sections: %v", depths)
	}
}

func TestDrainChoicesThatCannotBe(t *testing.T) {
	for field, d := range map[string]DrainChoice{
		"drains.source": {Source: "rumour"}, "drains.traffic": {Traffic: "tank"}, "drains.dischargeBy": {DischargeBy: "luck"}, "drains.depthM": {DepthM: 9}, "drains.spacingM": {SpacingM: -3}, "drains.ditchM": {DitchM: p(-1)},
		"drains.collector": {Collector: []geo.Point{{Lon: 1, Lat: 2}}}, "drains.interceptor": {Interceptor: []geo.Point{{Lon: 1, Lat: 2}, {Lon: 900, Lat: 2}}}, "drains.wells[0].depthCm": {Wells: []Well{{Name: "W", DepthCm: 5}}},
		"drains.wells[0].readings": {Wells: []Well{{Name: "W", DepthCm: 100, Readings: []WellReading{{civil.Must(2024, 1, 1), 120}}}}}, "drains.holes[0]": {Holes: []Hole{{Name: "H"}}},
		"drains.bed.heightM": {Bed: &BedChoice{HeightM: 4}}, "drains.bed.cover": {Bed: &BedChoice{Cover: "straw"}}, "drains.bed.settlePct": {Bed: &BedChoice{SettlePct: 80}}, "drains.bed.dripLines": {Bed: &BedChoice{DripLines: 9}},
	} {
		in := wet(t, "hazelnut", 130, 0.02, tilted)
		in.Block.Drains = &d
		var fe *finding.FieldError
		if _, err := Compute(in, nil); !errors.As(err, &fe) || fe.Field != field || fe.Accepted == "" {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// What a contractor sets out is what was designed: every peg lies under the ground by its cut, the collector's
// chainage runs from the outlet without a gap, levels of lines are levels of pegs, and reading the lines back
// gives the block the same network.
func TestSettingOutIsTheDesign(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "herringbone"}}
	plan := compute(t, in)
	pegs, lines := plan.SettingOut()
	n := plan.Drains.Network
	if len(lines) != len(n.Laterals)+1 || lines[0].Kind != "collector" || math.Abs(lines[0].Low-n.OutletM) > 1e-9 {
		t.Fatalf("%d lines for %d laterals", len(lines), len(n.Laterals))
	}
	last, outlets := -1.0, 0
	pl := geo.LocalPlane(in.Block.Boundary)
	for _, p := range pegs {
		q := pl.To(p.At)
		if p.Kind != "pit" && math.Abs(p.Ground-tilted(q.X, q.Y)) > 0.02 {
			t.Errorf("%s: ground %.3f, the field lies at %.3f", p.ID, p.Ground, tilted(q.X, q.Y))
		}
		if math.Abs(p.CutM()-(p.Ground-p.Invert)) > 1e-12 || p.CutM() < 0.6 {
			t.Errorf("%s is cut %.2f m", p.ID, p.CutM())
		}
		if p.Drain == "C" && p.Kind != "pit" {
			if p.Chainage <= last || p.Chainage-last > 20 && last >= 0 {
				t.Errorf("chainage %.1f after %.1f", p.Chainage, last)
			}
			last = p.Chainage
		}
		if p.Kind == "outlet" {
			outlets++
		}
	}
	if outlets != 1 {
		t.Errorf("%d outlets", outlets)
	}
	laid := Laid{Collector: n.LineAt, SpacingM: plan.Drains.SpacingM, DepthM: plan.Drains.DepthM, Remedy: "herringbone"}
	for _, l := range lines[1:] {
		laid.Laterals = append(laid.Laterals, DrawnDrain{ID: l.ID, Line: l.Line})
		if len(l.Levels) != len(l.Line) || math.Abs(l.Levels[0]-l.Low) > 1e-6 || math.Abs(l.Levels[len(l.Levels)-1]-l.High) > 1e-6 {
			t.Errorf("%s: levels %v from %.3f to %.3f", l.ID, l.Levels, l.Low, l.High)
		}
	}
	fresh := in
	fresh.Block.Drains, fresh.Block.Decided = &DrainChoice{DitchM: p(1.6)}, nil
	fresh.Block = fresh.Block.TakeDrains(laid, Choice{By: "T", On: in.Today})
	back := compute(t, fresh)
	if back.Drains.Taken != "herringbone" || !back.Drains.Decided || len(back.Drains.Network.Laterals) != len(n.Laterals) || math.Abs(back.Drains.Network.FlowM3S-n.FlowM3S) > 1e-6 {
		t.Errorf("read back: %s, %d laterals, %.6f m³/s; it was %d, %.6f", back.Drains.Taken, len(back.Drains.Network.Laterals), back.Drains.Network.FlowM3S, len(n.Laterals), n.FlowM3S)
	}
	// a way somebody decided stays decided
	fresh.Block.Decided = map[string]Choice{DrainFork: {Option: "local"}}
	if b := fresh.Block.TakeDrains(laid, Choice{}); b.Decided[DrainFork].Option != "local" {
		t.Error("a file decides over a person")
	}
	if pegs, lines := compute(t, input(t, "tea")).SettingOut(); len(pegs)+len(lines) != 0 {
		t.Error("pegs where nothing is designed")
	}
}

// What goes wrong in a network is said in the reader's units, once for each kind, with the rest counted and a way
// out that takes it back.
func TestTroublesInTheReadersUnits(t *testing.T) {
	in := wet(t, "hazelnut", 0, 0.02, func(x, y float64) float64 { return 50 + 0.0005*x })
	in.Block.Drains.DitchM = p(1.2)
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
	pl := geo.LocalPlane(in.Block.Boundary)
	in.Block.Drains.Collector = []geo.Point{pl.From(geo.XY{X: -140, Y: 0}), pl.From(geo.XY{X: 140, Y: 0})}
	in.Block.Drains.SpacingM = 20
	plan := compute(t, in)
	n := notes(plan, "drain.trouble-cover")
	if n == nil || !strings.Contains(n.Sentence, "0.60\u00a0m are needed") || !strings.Contains(n.Sentence, "more like it") || n.Weight != finding.Mend {
		t.Fatalf("%+v %+v", n, plan.Drains.Network.Troubles)
	}
	if got := n.Remedies[0].Patch["drains"].(map[string]any); got["collector"] != nil {
		t.Errorf("the way back is %v", got)
	}
	in.Estate.Units = "us"
	if n := notes(compute(t, in), "drain.trouble-cover"); !strings.Contains(n.Sentence, "1.97\u00a0ft are needed") || strings.Contains(n.Sentence, "\u00a0m ") {
		t.Errorf("in feet: %s", n.Sentence)
	}
	for _, c := range []struct {
		trouble drainage.Trouble
		want    string
	}{{drainage.Trouble{Rule: "outlet", Got: 10, Want: 9}, "outlet invert"}, {drainage.Trouble{Rule: "size", Drain: "C1", Got: 0.1, Want: 0.05}, "gal/min"}, {drainage.Trouble{Rule: "layer", Drain: "L1", Got: 1.2, Want: 1}, "nothing runs into it"},
		{drainage.Trouble{Rule: "reach", Got: 3, Want: 2}, "machine"}, {drainage.Trouble{Rule: "velocity", Got: 2.2, Want: 1.07}, "this soil bears 3.5\u00a0ft/s"}, {drainage.Trouble{Rule: "shallow", Drain: "I2", Got: 0.1, Want: 0.3, AtM: 30}, "only 0.33\u00a0ft deep at 98\u00a0ft, a ditch needs 0.98\u00a0ft"}, {drainage.Trouble{Rule: "shallow", Drain: "I2", Got: -0.1, Want: 0.3, AtM: 30}, "come out of the ground at 98\u00a0ft"}, {drainage.Trouble{Rule: "long", Drain: "L1", Got: 400, Want: 300}, "flushed"}, {drainage.Trouble{Rule: "crossing", Drain: "L1", Other: "L2"}, "L1 crosses L2"}, {drainage.Trouble{Rule: "missed", Got: 4046.8564224, Want: 8093.7128448}, "a piece of 1.00\u00a0ac is reached by no drain, 2.00\u00a0ac with all"}} {
		comp := &computation{in: in, sys: "us"}
		if got := comp.troubleWords(c.trouble); !strings.Contains(got, c.want) {
			t.Errorf("%s: %s", c.trouble.Rule, got)
		}
	}
}

// A reader in feet finds no metre in the bill, the order of the work, the cautions or the findings, whatever is dug.
func TestNoMetreForAReaderInFeet(t *testing.T) {
	metric := regexp.MustCompile(`\d[\x{00a0}\x{202f} ]?(m|cm|mm|km|m²|m³|ha|t|kg|L/s|m/s|t/m³)\b`)
	pipe := regexp.MustCompile(`\d+ mm`) // sold by its metric size
	for way, source := range map[string]string{"gridiron": "rain", "ditches": "rain", "beds": "rain", "interceptor": "seepage", "diversion": "runon", "local": "rain"} {
		in := wet(t, "hazelnut", 130, 0.15, func(x, y float64) float64 { return 50 + 0.05*y + 0.004*x })
		in.Estate.Units = "us"
		in.Block.Drains.Source = source
		in.Block.Drains.Bed = &BedChoice{Cover: "fabric", DripLines: 1}
		in.Block.Decided = map[string]Choice{DrainFork: {Option: way}}
		p := compute(t, in)
		var said []string
		for _, l := range p.Drains.Bill {
			said = append(said, pipe.ReplaceAllString(l.What, "")+": "+l.Note)
		}
		if len(said) < 3 {
			t.Errorf("%s: %v", way, said)
		}
		said = append(append(said, p.Drains.Laying...), p.Drains.Cautions...)
		for _, f := range p.Findings {
			if strings.HasPrefix(f.Rule, "drain.") || strings.HasPrefix(f.Rule, "bed.") {
				said = append(said, f.Sentence)
			}
		}
		for _, s := range said {
			if got := metric.FindString(s); got != "" {
				t.Errorf("%s: %q in %q", way, got, s)
			}
		}
	}
}

// A local drain reaches the wet spot; ditches take land instead of pipe; a cut-off may be an open ditch; sandy soil
// is warned of silt; willow of roots.
func TestOtherWaysToDrain(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	pl := geo.LocalPlane(in.Block.Boundary)
	spot := pl.From(geo.XY{X: 40, Y: 30})
	in.Block.Pits[0].At = &spot
	in.Block.Drains.WetPct = 10
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "local"}}
	d := compute(t, in).Drains
	end := d.Network.Line[len(d.Network.Line)-1]
	if math.Hypot(end[0]-40, end[1]-30) > 0.01 || len(d.Network.Laterals) != 0 || d.Network.ReachedM2 > 0.4*d.Network.BlockM2 {
		t.Errorf("the local drain runs to %v", end)
	}
	in.Block.Decided[DrainFork] = Choice{Option: "ditches"}
	d = compute(t, in).Drains
	what := map[string]float64{}
	for _, l := range d.Bill {
		what[l.What] = l.Amount
	}
	length, earth, land := 0.0, 0.0, 0.0 // of each ditch by its own mean depth, floor 0.4 m, sides 1 : 1, berm 1.5 m
	for _, x := range append(append([]drainage.Drain{}, d.Network.Laterals...), d.Network.Reaches...) {
		length, earth, land = length+x.LengthM, earth+x.LengthM*(0.4+x.MeanCutM)*x.MeanCutM, land+x.LengthM*(1.9+2*x.MeanCutM)
		if x.Pipe.Name != "" {
			t.Errorf("the ditch %s has a pipe of %s", x.ID, x.Pipe.Name)
		}
	}
	if length < 1000 || math.Abs(what["Open ditch"]-length) > 1e-6 || what["Pipe 75 mm"] != 0 || what["Inspection pits"] != 0 || math.Abs(what["Earth dug"]-earth) > 1e-6 || math.Abs(what["Land taken"]-land) > 1e-6 {
		t.Errorf("%v for %.0f m, %.0f m³, %.0f m²", what, length, earth, land)
	}
	if h := what["Earth dug"] / 30; math.Abs(what["Ditching by machine"]-h) > 1e-9 || math.Abs(d.MachineH-h) > 1e-9 {
		t.Errorf("%.0f m³ of ditch take %.1f h", what["Earth dug"], d.MachineH)
	}
	in = wet(t, "hazelnut", 120, 0.02, func(x, y float64) float64 { return 50 + 0.06*y })
	in.Block.Drains.Source, in.Block.Drains.KMDay, in.Block.Drains.CutOpen = "seepage", 1.2, true
	plan := compute(t, in)
	what = map[string]float64{}
	for _, l := range plan.Drains.Bill {
		what[l.What] = l.Amount
	}
	if what["Cut-off ditch"] < 200 || what["Stone"] != 0 || what["Land taken"] <= 0 {
		t.Errorf("%v", what)
	}
	cleared := false
	for _, j := range plan.Jobs {
		if strings.HasPrefix(j.Key, "drain-silt") {
			t.Error("silt traps of an open ditch are cleaned")
			break
		}
		cleared = cleared || strings.HasPrefix(j.Key, "drain-ditch")
	}
	if !cleared {
		t.Error("no year in which the ditch is cleared")
	}
	if !strings.Contains(strings.Join(plan.Drains.Cautions, " "), "buried services") {
		t.Errorf("%v", plan.Drains.Cautions)
	}
	sandy := wet(t, "willow", 0, 0.02, func(x, y float64) float64 { return 50 + 0.002*x + 0.001*y })
	for i := range sandy.Block.Pits {
		for k := range sandy.Block.Pits[i].Layers {
			sandy.Block.Pits[i].Layers[k].Class = soil.SandyLoam
		}
		sandy.Block.Pits[i].Surface = []soil.Sign{soil.Ponding, soil.WetPlants}
	}
	sandy.Block.Drains.SpacingM = 25
	sandy.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
	plan = compute(t, sandy)
	if notes(plan, "drain.silt") == nil || notes(plan, "drain.willow") == nil {
		t.Errorf("silt and willow roots are not warned of: %+v", plan.Drains.Soil)
	}
}

// Water that runs on from above is led past in a ditch across the slope: levelled, dug, with what it carries by
// Manning, the storm it was not checked for, and where it would wash out.
func TestDitchAboveTheBlock(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, func(x, y float64) float64 { return 50 + 0.05*y + 0.003*x })
	in.Block.Drains.Source = "runon"
	p := compute(t, in)
	d := p.Drains
	if d.Taken != "diversion" || d.Cut == nil || !d.Cut.Open || d.Network != nil || len(d.Cut.Chambers) != 0 {
		t.Fatalf("%s: %+v", d.Taken, d.Cut)
	}
	flat, length := math.Inf(1), 0.0
	for _, r := range d.Cut.Reaches {
		flat, length = math.Min(flat, r.Grade), length+r.LengthM
		if r.Grade < 0.002-1e-9 {
			t.Errorf("%s falls %.4f", r.ID, r.Grade)
		}
	}
	// 0.4 m of water between sides 1 : 1 over a floor of 0.4 m, by hand
	area, along := 0.8*0.4, 0.4+0.8*math.Sqrt2
	if want := area * math.Pow(area/along, 2.0/3) * math.Sqrt(flat) / 0.03; math.Abs(value(t, p, "drain.carries")-want) > 1e-9 || d.CarriesM3S != value(t, p, "drain.carries") {
		t.Errorf("it carries %.4f m³/s, by hand %.4f", d.CarriesM3S, want)
	}
	if math.Abs(amount(p, "Cut-off ditch")-length) > 1e-6 || amount(p, "Earth dug") < 0.3*length || amount(p, "Land taken") < 2.3*length {
		t.Errorf("%+v", d.Bill)
	}
	if n := notes(p, "drain.storm"); n == nil || !strings.Contains(n.Sentence, "not reckoned") {
		t.Errorf("%+v", n)
	}
	if notes(p, "drain.scour") != nil {
		t.Errorf("washed out at %.2f m/s", d.fastest)
	}
	pegs, lines := p.SettingOut()
	if len(pegs) < 10 || len(lines) != 1 || lines[0].Pipes[0] != "open ditch" {
		t.Errorf("%d pegs, %+v", len(pegs), lines)
	}
	// straight down the slope it washes out, and the line suggested is the way back
	pl := geo.LocalPlane(in.Block.Boundary)
	in.Block.Drains.Interceptor = []geo.Point{pl.From(geo.XY{X: 0, Y: -60}), pl.From(geo.XY{X: 0, Y: 60})}
	p = compute(t, in)
	if n := notes(p, "drain.scour"); n == nil || !strings.Contains(n.Sentence, "loam") || n.Remedies[0].Label != "The line suggested" {
		t.Errorf("5 %% straight down: %+v", n)
	}
	// over a rise its floor would come out of the ground
	in = wet(t, "hazelnut", 130, 0.02, func(x, y float64) float64 { return 50 + 0.05*y + 0.6*math.Sin(x/18) })
	in.Block.Drains.Source = "runon"
	in.Block.Drains.Interceptor = []geo.Point{pl.From(geo.XY{X: -75, Y: 20}), pl.From(geo.XY{X: 75, Y: 20})}
	if n := notes(compute(t, in), "drain.trouble-cut-shallow"); n == nil || !strings.Contains(n.Sentence, "Lower the outlet") {
		t.Errorf("over ridges of 1.2 m: %+v", n)
	}
	// at the fork it has its cost and the land it takes
	weighed := false
	fs, err := Forks(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range fs {
		for _, w := range f.Ways {
			if f.ID == DrainFork && w.ID == "diversion" {
				weighed = w.Consequences[0].Text != "" && w.Consequences[2].Value > 0
			}
		}
	}
	if !weighed {
		t.Error("the ditch is not weighed")
	}
}

// A pan that can be ripped does not stop drains and is offered as the cause; artesian water is refused; without an
// outlet only what needs none is left.
func TestCausesAndWhatTheyAllow(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	for i := range in.Block.Pits {
		l := in.Block.Pits[i].Layers
		l[0].BottomCm, l[1].TopCm = 25, 40
		in.Block.Pits[i].Layers = append([]soil.Layer{l[0], {TopCm: 25, BottomCm: 40, Class: soil.ClayLoam, Structure: soil.Platy, Hardness: soil.Hard}}, l[1:]...)
	}
	plan := compute(t, in)
	if s := plan.Drains.Soil; s.LayerM != 1.30 {
		t.Errorf("the pan at 25 cm counts: the layer lies at %.2f", s.LayerM)
	}
	n := notes(plan, "drain.pan")
	if n == nil || n.Remedies[0].Patch["drains"].(map[string]any)["source"] != "pan" {
		t.Fatalf("%+v", n)
	}
	in.Block.Drains.Source = "pan"
	plan = compute(t, in)
	if plan.Drains.Taken != "subsoil" || plan.Drains.Network != nil || notes(plan, "drain.pan") != nil {
		t.Errorf("the pan is the cause and %s is taken", plan.Drains.Taken)
	}
	in.Estate.Prices = append(in.Estate.Prices, Price{Item: "machine", Unit: "h", Each: 100, On: civil.Must(2025, 1, 1)}, Price{Item: "earth", Unit: "m³", Each: 4, On: civil.Must(2025, 1, 1)})
	fs, err := Forks(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, w := range fs[0].Ways {
		if w.ID == "subsoil" && (math.Abs(w.Consequences[1].Value-2.5*6) > 1e-6 || w.Consequences[0].Text != "C$ 1\u202f500") {
			t.Errorf("ripping 6 ha: %+v", w.Consequences)
		}
		if w.ID == "tolerant" && !strings.Contains(w.Sentence, "only crops of wet-soil class 1 ") {
			t.Errorf("water at 40 cm: %s", w.Sentence)
		}
	}
	in.Block.Drains.Source = "runon"
	fs, _ = Forks(in)
	w := fs[0].Ways[0]
	if w.ID != "diversion" || w.Consequences[2].Value < 200 {
		t.Errorf("%+v", w)
	}
	// 4 a m³ with the machine in it, 30 m³ an hour: each hour costs 120
	if cost, h := w.Consequences[0].Value, w.Consequences[1].Value; h <= 0 || math.Abs(cost-120*h) > 1e-6 {
		t.Errorf("the ditch costs %.0f in %.1f h", cost, h)
	}
	in.Block.Drains.Source = "artesian"
	for _, r := range compute(t, in).Drains.Remedies {
		if isField[r.ID] && r.ID != "ditches" && r.Works {
			t.Errorf("%s works against artesian water", r.ID)
		}
	}
	in.Block.Drains.Source, in.Block.Drains.DitchM = "rain", p(0)
	for _, r := range compute(t, in).Drains.Remedies {
		if r.Works && (isField[r.ID] || r.ID == "interceptor") {
			t.Errorf("%s works without an outlet", r.ID)
		}
	}
	if got := tolerated(0.2); !strings.Contains(got, "None of the classes") {
		t.Errorf("0.20 m: %s", got)
	}
	if got := tolerated(0.56); !strings.Contains(got, "1 to 2") {
		t.Errorf("0.56 m: %s", got)
	}
}

// The hours of drains and beds stand in the preparation once each: those of the design, not the sheet's rate for
// drains beside them, and not the beds twice.
func TestHoursOfTheDesignCountOnce(t *testing.T) {
	for _, way := range []string{"ditches", "beds", "gridiron"} {
		in := wet(t, "hazelnut", 130, 0.02, tilted)
		in.Block.Decided = map[string]Choice{DrainFork: {Option: way}}
		plan := compute(t, in)
		sum, lines := 0.0, 0
		for _, l := range plan.Preparation.Lines {
			if l.Kind == "drain" || l.Kind == "bed" {
				sum, lines = sum+l.BaseH, lines+1
			}
		}
		if h := plan.Drains.MachineH; lines == 0 || h <= 0 || math.Abs(sum-h) > 1e-6 {
			t.Errorf("%s: %d lines of %.2f h together, the design needs %.2f", way, lines, sum, h)
		}
	}
}

// A crop that is only considered is drained for too, and a field without any crop by the middle class, said so.
func TestDrainsBeforeACropIsPlanned(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	s, _ := library(t).Get("peach")
	in.Sheet, in.Block.Planting, in.Block.Intent = s, nil, &Intent{Sheet: "peach", Date: civil.Must(2027, 7, 5)}
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "gridiron"}}
	plan := compute(t, in)
	if plan.Drains.Criterion.Class != 5 || plan.Drains.Criterion.Assumed || plan.Drains.Network == nil {
		t.Errorf("%+v", plan.Drains.Criterion)
	}
	found := false
	for _, l := range plan.Preparation.Lines {
		if l.Kind == "drain" {
			found = true
			if math.Abs(l.BaseH-plan.Drains.MachineH) > 1e-9 || !strings.Contains(l.Detail, "the sheet says") {
				t.Errorf("%+v", l)
			}
		}
	}
	if !found {
		t.Error("the drains are in no preparation")
	}
	in.Sheet, in.Block.Intent = nil, nil
	plan = compute(t, in)
	if c := plan.Drains.Criterion; c.Class != 3 || !c.Assumed || plan.Drains.Network == nil {
		t.Errorf("without a crop: %+v", c)
	}
	if fs, err := Forks(in); err != nil || len(fs) != 1 || fs[0].ID != DrainFork || len(fs[0].Ways) < 5 {
		t.Errorf("the fork of a field without a crop: %v %v", fs, err)
	}
	for _, st := range plan.Steps {
		if st.Key == "drains" && st.State != "settled" {
			t.Errorf("the step is %s", st.State)
		}
	}
	in.Block.Decided = nil
	for _, st := range compute(t, in).Steps {
		if st.Key == "drains" && (st.State != "open" || st.Open != 1) {
			t.Errorf("undecided, the step is %s with %d open", st.State, st.Open)
		}
	}
}

// Clay at 0.66 m leaves a pipe no cover under tractors; a ditch needs none. It is offered where its spacing works, laid
// when taken, and its reason is never cover; where the head is missing too neither is.
func TestDitchesNeedNoCover(t *testing.T) {
	in := wet(t, "willow", 66, 0.02, tilted)
	in.Block.Drains.KMDay = 4
	p := compute(t, in)
	d := p.Drains
	if !strings.Contains(d.Refused, "cover") || d.Criterion.SteadyM > 0.58 {
		t.Fatalf("%q with water wanted at %.2f", d.Refused, d.Criterion.SteadyM)
	}
	works := map[string]bool{}
	for _, r := range d.Remedies {
		works[r.ID] = r.Works
		if r.ID == "ditches" && strings.Contains(r.Why, "cover") {
			t.Errorf("ditches: %s", r.Why)
		}
	}
	if !works["ditches"] || works["gridiron"] {
		t.Errorf("%v", works)
	}
	in.Block.Decided = map[string]Choice{DrainFork: {Option: "ditches"}}
	p = compute(t, in)
	if d = p.Drains; d.Refused != "" || d.Network == nil || !d.Network.Open || d.SpacingM < closestM || notes(p, "drain.refused") != nil {
		t.Fatalf("%q, %.1f m apart", d.Refused, d.SpacingM)
	}
	for _, x := range d.Network.Laterals {
		for _, s := range x.Section {
			if s.Invert < s.Layer-0.051 {
				t.Fatalf("%s lies in the clay", x.ID)
			}
		}
	}
	in.Block.Decided[DrainFork] = Choice{Option: "gridiron"}
	if n := notes(compute(t, in), "drain.refused"); n == nil || !strings.Contains(n.Sentence, "cover") {
		t.Errorf("%+v", n)
	}
	// where the soil is too tight ditches are refused as pipes are
	in = wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Drains.KMDay = 0.002
	for _, r := range compute(t, in).Drains.Remedies {
		if r.ID == "ditches" && (r.Works || !strings.Contains(r.Why, "apart")) {
			t.Errorf("in tight soil: ditches %+v", r)
		}
	}
	in = wet(t, "hazelnut", 60, 0.02, tilted)
	for _, r := range compute(t, in).Drains.Remedies {
		if r.ID == "ditches" && (r.Works || !strings.Contains(r.Why, "water table")) {
			t.Errorf("clay at 0.60 m: ditches %+v", r)
		}
	}
}
