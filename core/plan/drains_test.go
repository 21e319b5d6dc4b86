package plan

import (
	"encoding/json"
	"errors"
	"math"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan/ground"
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
	in.Block.Drains = &document.DrainChoice{Source: "rain", DitchM: p(1.6)}
	h := spots(in.Block.Boundary, z)
	h.AccuracyM = accuracy
	l, err := ground.Survey(in.Block.Boundary, []ground.Heights{h}, nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	in.Land = l
	return in
}

// spots are levels every 25 m over a block and around it, known to 2 cm.
func spots(b geo.Polygon, z func(x, y float64) float64) ground.Heights {
	pl := geo.LocalPlane(b)
	h := ground.Heights{HeightSource: document.HeightSource{Name: "levels", Kind: "spots", AccuracyM: 0.02}}
	for x := -200.0; x <= 200; x += 25 {
		for y := -150.0; y <= 150; y += 25 {
			h.Spots = append(h.Spots, ground.Spot{At: pl.From(geo.XY{X: x, Y: y}), Z: z(x, y)})
		}
	}
	return h
}

func tilted(x, y float64) float64 { return 50 + 0.004*x + 0.008*y }

// On a tilted rectangle the gridiron's length is near area over spacing, what is reached and missed makes the
// block, the flow is Hooghoudt's discharge over the area, and the bill holds what the network holds.
func TestDrainDesignOfABlock(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Drains.SpacingM = 15
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron", Why: "w"}}
	for _, x := range drainage.Pipes {
		in.Estate.Prices = append(in.Estate.Prices, document.Price{Item: "pipe:" + x.Name, Unit: "m", Each: 2, On: civil.Must(2025, 1, 1)})
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
	if total := value(t, plan, "drain.pipe"); math.Abs(pipe-1.03*total) > 0.01 || !strings.Contains(cost, "C$") || !said(t, d.CostText) {
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
	if silt != len(plan.Years) || !lay || len(d.Laying) < 5 || !said(t, d.Cautions[0]) {
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

// amount is that of a line of the bill.
func amount(p *Plan, what string) float64 {
	for _, l := range p.Drains.Bill {
		if l.What == what {
			return l.Amount
		}
	}
	return 0
}

func TestDrainChoicesThatCannotBe(t *testing.T) {
	for field, d := range map[string]document.DrainChoice{
		"drains.source": {Source: "rumour"}, "drains.traffic": {Traffic: "tank"}, "drains.dischargeBy": {DischargeBy: "luck"}, "drains.depthM": {DepthM: 9},
		"drains.spacingM": {SpacingM: -3}, "drains.ditchM": {DitchM: p(-1)},
		"drains.collector": {Collector: []geo.Point{{Lon: 1, Lat: 2}}}, "drains.interceptor": {Interceptor: []geo.Point{{Lon: 1, Lat: 2}, {Lon: 900, Lat: 2}}},
		"drains.wells[0].depthCm": {Wells: []document.Well{{Name: "W", DepthCm: 5}}},
		"drains.wells[0].readings": {Wells: []document.Well{{Name: "W", DepthCm: 100, Readings: []document.WellReading{{On: civil.Must(2024, 1, 1),
			WaterCm: 120}}}}}, "drains.holes[0]": {Holes: []document.Hole{{Name: "H"}}},
		"drains.bed.heightM": {Bed: &document.BedChoice{HeightM: 4}}, "drains.bed.cover": {Bed: &document.BedChoice{Cover: "straw"}},
		"drains.bed.settlePct": {Bed: &document.BedChoice{SettlePct: 80}}, "drains.bed.dripLines": {Bed: &document.BedChoice{DripLines: 9}},
	} {
		in := wet(t, "hazelnut", 130, 0.02, tilted)
		in.Block.Drains = &d
		var fe *finding.FieldError
		if _, err := Compute(in, nil); !errors.As(err, &fe) || fe.Field != field || fe.Accepted == "" {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// The hours of drains and beds stand in the preparation once each: those of the design, not the sheet's rate for
// drains beside them, and not the beds twice.
func TestHoursOfTheDesignCountOnce(t *testing.T) {
	for _, way := range []string{"ditches", "beds", "gridiron"} {
		in := wet(t, "hazelnut", 130, 0.02, tilted)
		in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: way}}
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
	in.Sheet, in.Block.Planting = s, &document.Planting{Considered: true, Sheet: "peach", Date: civil.Must(2027, 7, 5)}
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	plan := compute(t, in)
	if plan.Drains.Criterion.Class != 5 || plan.Drains.Criterion.Assumed || plan.Drains.Network == nil {
		t.Errorf("%+v", plan.Drains.Criterion)
	}
	found := false
	for _, l := range plan.Preparation.Lines {
		if l.Kind == "drain" {
			found = true
			if math.Abs(l.BaseH-plan.Drains.MachineH) > 1e-9 || !said(t, l.Detail) {
				t.Errorf("%+v", l)
			}
		}
	}
	if !found {
		t.Error("the drains are in no preparation")
	}
	in.Sheet, in.Block.Planting = nil, nil
	plan = compute(t, in)
	if c := plan.Drains.Criterion; c.Class != 3 || !c.Assumed || plan.Drains.Network == nil {
		t.Errorf("without a crop: %+v", c)
	}
	if fs, err := Forks(in); err != nil || len(fs) != 1 || fs[0].ID != document.DrainFork || len(fs[0].Ways) < 5 {
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
