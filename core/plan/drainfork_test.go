package plan

import (
	"errors"
	"math"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan/drains"
	"slowroot/core/report"
	"slowroot/core/soil"
)

// Every remedy is laid on the block when the ways are asked for, and only then; the water's source decides
// which comes first, and a way nobody knows is refused.
func TestRemediesSideBySide(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, func(x, y float64) float64 { return 50 + 0.05*y + 0.01*x })
	in.Block.Drains.Source = "seepage"
	fork := func() report.Fork {
		fs, err := Forks(in)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range fs {
			if f.ID == document.DrainFork {
				return f
			}
		}
		t.Fatal("no fork")
		return report.Fork{}
	}
	f := fork()
	if f.Ways[0].ID != "interceptor" || !f.Ways[0].Taken || f.Step != "drains" {
		t.Fatalf("%+v", f.Ways[0])
	}
	seen := map[string]map[string]report.Consequence{}
	for _, w := range f.Ways {
		seen[w.ID] = map[string]report.Consequence{}
		for _, k := range w.Consequences {
			seen[w.ID][k.Label] = k
		}
	}
	for _, id := range []string{"gridiron", "herringbone"} {
		if k := seen[id]; k["machine"].Value < 20 || k["free of water after"].Value <= 0 || k["root room gained"].Value < 20 {
			t.Errorf("%s: %+v", id, k)
		}
	}
	if seen["ditches"]["land lost"].Value < 1000 || seen["beds"]["root room gained"].Value < 5 ||
		seen["interceptor"]["machine"].Value > seen["gridiron"]["machine"].Value {
		t.Errorf("%+v", seen)
	}
	in.Block.Drains.Source = "unknown"
	if f = fork(); f.Ways[0].ID != "investigate" || notes(compute(t, in), "drain.source") == nil {
		t.Errorf("with an unknown source %s comes first", f.Ways[0].ID)
	}
	if plan := compute(t, in); plan.Drains.Network != nil || plan.Drains.Taken != "investigate" {
		t.Error("drains are laid before anybody knows where the water comes from")
	}
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "prayer"}}
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

// A local drain reaches the wet spot; ditches take land instead of pipe; a cut-off may be an open ditch; sandy soil
// is warned of silt; willow of roots.
func TestOtherWaysToDrain(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	pl := geo.LocalPlane(in.Block.Boundary)
	spot := pl.From(geo.XY{X: 40, Y: 30})
	in.Block.Pits[0].At = &spot
	in.Block.Drains.WetPct = 10
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "local"}}
	d := compute(t, in).Drains
	n, r := d.Network, math.Sqrt(0.1*compute(t, in).Ground.AreaM2/math.Pi) // of a circle of a tenth of the block
	far := 0.0
	for _, x := range n.Laterals {
		for _, q := range x.Points {
			far = math.Max(far, math.Hypot(q[0]-40, q[1]-30))
		}
	}
	if len(n.Laterals) < 4 || far > r || len(n.Part) < 20 || n.BlockM2 > math.Pi*r*r || n.BlockM2 < 2*r*r || n.ReachedM2 < 0.85*n.BlockM2 {
		t.Errorf("%d laterals up to %.0f m from the wet spot of %.0f m; %.0f m² of %.0f reached", len(n.Laterals), far, r, n.ReachedM2, n.BlockM2)
	}
	if math.Abs(n.FlowM3S-d.DischargeM/1000*n.ReachedM2/86400) > 1e-9 {
		t.Errorf("%.6f m³/s for %.0f m²", n.FlowM3S, n.ReachedM2)
	}
	// a branch drawn in it is laid
	in.Block.Drains.Branches = []document.DrawnDrain{{ID: "B1", Line: []geo.Point{d.Network.LineAt[len(d.Network.LineAt)-1],
		pl.From(geo.XY{X: 40, Y: 30 + 0.7*r})}}}
	in.Block.Drains.Collector = d.Network.LineAt
	if with := compute(t, in).Drains.Network; len(with.Mains) != 2 || with.NextBranch != "B2" {
		t.Errorf("%+v, the next is %s", with.Mains, with.NextBranch)
	}
	in.Block.Drains.Branches, in.Block.Drains.Collector = nil, nil
	// where nobody said how much is wet it is one line to the spot
	in.Block.Drains.WetPct = 0
	d = compute(t, in).Drains
	end := d.Network.Line[len(d.Network.Line)-1]
	if math.Hypot(end[0]-40, end[1]-30) > 0.01 || len(d.Network.Laterals) != 0 || len(d.Network.Part) != 0 || d.Network.ReachedM2 > 0.4*d.Network.BlockM2 {
		t.Errorf("the local drain runs to %v", end)
	}
	in.Block.Decided[document.DrainFork] = document.Choice{Option: "ditches"}
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
	if length < 1000 || math.Abs(what["Open ditch"]-length) > 1e-6 || what["Pipe 75 mm"] != 0 || what["Inspection pits"] != 0 ||
		math.Abs(what["Earth dug"]-earth) > 1e-6 || math.Abs(what["Land taken"]-land) > 1e-6 {
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
	if !said(t, strings.Join(plan.Drains.Cautions, " ")) {
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
	sandy.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	plan = compute(t, sandy)
	if notes(plan, "drain.silt") == nil || notes(plan, "drain.roots") == nil {
		t.Errorf("silt and willow roots are not warned of: %+v", plan.Drains.Soil)
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
	in.Estate.Prices = append(in.Estate.Prices, document.Price{Item: "machine", Unit: "h", Each: 100, On: civil.Must(2025, 1, 1)}, document.Price{Item: "earth",
		Unit: "m³", Each: 4, On: civil.Must(2025, 1, 1)})
	fs, err := Forks(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, w := range fs[0].Ways {
		if w.ID == "subsoil" && (math.Abs(w.Consequences[1].Value-2.5*6) > 1e-6 || w.Consequences[0].Text != "C$ 1\u202f500") {
			t.Errorf("ripping 6 ha: %+v", w.Consequences)
		}
		if w.ID == "tolerant" && !said(t, w.Sentence) {
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
		if drains.IsField[r.ID] && r.ID != "ditches" && r.Works {
			t.Errorf("%s works against artesian water", r.ID)
		}
	}
	in.Block.Drains.Source, in.Block.Drains.DitchM = "rain", p(0)
	for _, r := range compute(t, in).Drains.Remedies {
		if r.Works && (drains.IsField[r.ID] || r.ID == "interceptor") {
			t.Errorf("%s works without an outlet", r.ID)
		}
	}
	if got := drains.Tolerated(0.2); !strings.Contains(got, "None of the classes") {
		t.Errorf("0.20 m: %s", got)
	}
	if got := drains.Tolerated(0.56); !strings.Contains(got, "1 to 2") {
		t.Errorf("0.56 m: %s", got)
	}
}
