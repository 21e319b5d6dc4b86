package plan

import (
	"math"
	"strings"
	"testing"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan/drains"
	"slowroot/core/plan/ground"
	"slowroot/core/soil"
)

// A collector drawn to a corner is used, and laterals drawn replace the pattern with their names.
func TestDrawnDrains(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "herringbone"}}
	n := compute(t, in).Drains.Network
	in.Block.Drains.Collector = n.LineAt
	for _, l := range n.Laterals {
		pl := geo.LocalPlane(in.Block.Boundary)
		d := document.DrawnDrain{ID: l.ID}
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
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	pl := geo.LocalPlane(in.Block.Boundary)
	at := pl.From(geo.XY{X: 10, Y: 10})
	in.Block.Drains.Collector = []geo.Point{at, at}
	plan := compute(t, in)
	n := notes(plan, "drain.layout")
	if plan.Drains.Network != nil || n == nil || !said(t, n.Sentence) || n.Weight != finding.Mend {
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
	off := document.DrawnDrain{ID: "B7", Line: []geo.Point{at, pl.From(geo.XY{X: 5000, Y: 10})}}
	for _, c := range []document.DrainChoice{{Branches: []document.DrawnDrain{off}}, {Laterals: []document.DrawnDrain{off}}} {
		c.Source, c.DitchM = "rain", p(1.6)
		in.Block.Drains = &c
		plan = compute(t, in)
		if n := notes(plan, "drain.layout"); plan.Drains.Network != nil || n == nil || !said(t, n.Sentence) {
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
	l, err := ground.Survey(in.Block.Boundary, []ground.Heights{spots(in.Block.Boundary, func(x, y float64) float64 {
		return 50 + 0.012*math.Abs(y+20) +
			0.01*x
	})}, nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	in.Land = l
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	pl = geo.LocalPlane(in.Block.Boundary)
	in.Block.Drains.Collector = []geo.Point{pl.From(geo.XY{X: -75, Y: -20}), pl.From(geo.XY{X: 75, Y: -20})}
	in.Block.Drains.SpacingM = 9
	was := compute(t, in)
	n := notes(was, "drain.trouble-missed")
	if n == nil || len(n.Remedies) == 0 || n.Remedies[0].Label != "Lead a branch into it" {
		t.Fatalf("%+v", n)
	}
	patch := n.Remedies[0].Patch["drains"].(map[string]any)
	in.Block.Drains.Branches = patch["branches"].([]document.DrawnDrain)
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
		if next := n.Remedies[0].Patch["drains"].(map[string]any)["branches"].([]document.DrawnDrain); len(next) != 2 || next[1].ID != "B2" {
			t.Errorf("%+v", next)
		}
	}
	// two of one name, or of the collector's, are refused
	for _, id := range []string{"B1", "C", "I"} {
		c := *in.Block.Drains
		c.Branches = append(append([]document.DrawnDrain{}, c.Branches...), document.DrawnDrain{ID: id, Line: c.Branches[0].Line})
		if err := c.Valid(); err == nil || !strings.Contains(err.Error(), "drains.branches[1].id") {
			t.Errorf("a second line %s: %v", id, err)
		}
	}
}

// Between pits that stand somewhere the layer is read from both: at a pit it is that pit's, half way their mean, and
// a pit that saw none holds it at its bottom at least. A pit without a position holds for the whole block.
func TestLayerBetweenPits(t *testing.T) {
	in := wet(t, "hazelnut", 0, 0.02, tilted)
	pl := geo.LocalPlane(in.Block.Boundary)
	at := func(x, y float64) *geo.Point { q := pl.From(geo.XY{X: x, Y: y}); return &q }
	clay := func(i int, top float64) {
		in.Block.Pits[i].Layers[1].BottomCm = top
		in.Block.Pits[i].Layers = append(in.Block.Pits[i].Layers[:2], soil.Layer{TopCm: top, BottomCm: 170, Class: soil.Clay, Structure: soil.Massive,
			Hardness: soil.Firm})
	}
	layerAt := func(x, y float64) float64 {
		f := drains.In{Pits: in.Block.Pits, Soil: compute(t, in).Soil, Ground: compute(t, in).Ground}.Layer()
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
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
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

// What a contractor sets out is what was designed: every peg lies under the ground by its cut, the collector's
// chainage runs from the outlet without a gap, levels of lines are levels of pegs, and reading the lines back
// gives the block the same network.
func TestSettingOutIsTheDesign(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "herringbone"}}
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
	laid := document.Laid{Collector: n.LineAt, SpacingM: plan.Drains.SpacingM, DepthM: plan.Drains.DepthM, Remedy: "herringbone"}
	for _, l := range lines[1:] {
		laid.Laterals = append(laid.Laterals, document.DrawnDrain{ID: l.ID, Line: l.Line})
		if len(l.Levels) != len(l.Line) || math.Abs(l.Levels[0]-l.Low) > 1e-6 || math.Abs(l.Levels[len(l.Levels)-1]-l.High) > 1e-6 {
			t.Errorf("%s: levels %v from %.3f to %.3f", l.ID, l.Levels, l.Low, l.High)
		}
	}
	fresh := in
	fresh.Block.Drains, fresh.Block.Decided = &document.DrainChoice{DitchM: p(1.6)}, nil
	fresh.Block = fresh.Block.TakeDrains(laid, document.Choice{By: "T", On: in.Today})
	back := compute(t, fresh)
	if back.Drains.Taken != "herringbone" || !back.Drains.Decided || len(back.Drains.Network.Laterals) != len(n.Laterals) ||
		math.Abs(back.Drains.Network.FlowM3S-n.FlowM3S) > 1e-6 {
		t.Errorf("read back: %s, %d laterals, %.6f m³/s; it was %d, %.6f", back.Drains.Taken, len(back.Drains.Network.Laterals), back.Drains.Network.FlowM3S,
			len(n.Laterals), n.FlowM3S)
	}
	// a way somebody decided stays decided
	fresh.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "local"}}
	if b := fresh.Block.TakeDrains(laid, document.Choice{}); b.Decided[document.DrainFork].Option != "local" {
		t.Error("a file decides over a person")
	}
	if pegs, lines := compute(t, input(t, "tea")).SettingOut(); len(pegs)+len(lines) != 0 {
		t.Error("pegs where nothing is designed")
	}
}
