package plan

import (
	"math"
	"strings"
	"testing"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
)

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
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "herringbone"}}
	alone := compute(t, in).Drains.Network
	in.Block.Drains.Interceptor = []geo.Point{alone.LineAt[len(alone.LineAt)-1], d.Cut.LineAt[0]}
	both := compute(t, in).Drains
	if math.Abs(both.Network.FlowM3S-alone.FlowM3S-both.CatchM3Day/86400) > 1e-9 || both.CatchM3Day <= 0 {
		t.Errorf("%.6f with, %.6f without an interceptor of %.3f m³/day", both.Network.FlowM3S, alone.FlowM3S, both.CatchM3Day)
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
	if want := area * math.Pow(area/along, 2.0/3) * math.Sqrt(flat) / 0.03; math.Abs(value(t, p, "drain.carries")-want) > 1e-9 || d.CarriesM3S != value(t, p,
		"drain.carries") {
		t.Errorf("it carries %.4f m³/s, by hand %.4f", d.CarriesM3S, want)
	}
	if math.Abs(amount(p, "Cut-off ditch")-length) > 1e-6 || amount(p, "Earth dug") < 0.3*length || amount(p, "Land taken") < 2.3*length {
		t.Errorf("%+v", d.Bill)
	}
	if n := notes(p, "drain.storm"); n == nil || !said(t, n.Sentence) {
		t.Errorf("%+v", n)
	}
	if notes(p, "drain.scour") != nil {
		t.Errorf("washed out at %.2f m/s", d.Fastest)
	}
	pegs, lines := p.SettingOut()
	if len(pegs) < 10 || len(lines) != 1 || lines[0].Pipes[0] != "open ditch" {
		t.Errorf("%d pegs, %+v", len(pegs), lines)
	}
	// its lines in a file stay a ditch, also on a block that had decided nothing
	b := document.Block{}.TakeDrains(document.Laid{Interceptor: lines[0].Line, Remedy: d.Taken}, document.Choice{By: "T"})
	if b.Decided[document.DrainFork].Option != "diversion" {
		t.Errorf("%+v", b.Decided)
	}
	// straight down the slope it washes out, and the line suggested is the way back
	pl := geo.LocalPlane(in.Block.Boundary)
	in.Block.Drains.Interceptor = []geo.Point{pl.From(geo.XY{X: 0, Y: -60}), pl.From(geo.XY{X: 0, Y: 60})}
	p = compute(t, in)
	if n := notes(p, "drain.scour"); n == nil || !said(t, n.Sentence) || n.Remedies[0].Label != "The line suggested" {
		t.Errorf("5 %% straight down: %+v", n)
	}
	// over a rise its floor would come out of the ground
	in = wet(t, "hazelnut", 130, 0.02, func(x, y float64) float64 { return 50 + 0.05*y + 0.6*math.Sin(x/18) })
	in.Block.Drains.Source = "runon"
	in.Block.Drains.Interceptor = []geo.Point{pl.From(geo.XY{X: -75, Y: 20}), pl.From(geo.XY{X: 75, Y: 20})}
	if n := notes(compute(t, in), "drain.trouble-cut-shallow"); n == nil || !said(t, n.Sentence) {
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
			if f.ID == document.DrainFork && w.ID == "diversion" {
				weighed = w.Consequences[0].Text != "" && w.Consequences[2].Value > 0
			}
		}
	}
	if !weighed {
		t.Error("the ditch is not weighed")
	}
}

// An interceptor lies no lower than its outlet lets it: with the ditch's water 1.0 m down it begins 0.7 m deep and gains
// 0.1 % of the way against ground that rises 0.3 %; what it catches follows by hand, and the lead that would let it lie
// on the layer is said. Without an outlet none is laid; where the ditch was not measured that is asked.
func TestInterceptorAndItsOutlet(t *testing.T) {
	in := wet(t, "hazelnut", 120, 0.02, func(x, y float64) float64 { return 50 + 0.06*y })
	in.Block.Drains.Source, in.Block.Drains.KMDay, in.Block.Drains.DitchM = "seepage", 1.2, p(1.0)
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "interceptor"}}
	plan := compute(t, in)
	d := plan.Drains
	ground := d.Cut.Reaches[0].Section[0].Ground
	if math.Abs(d.Cut.OutletM-(ground-0.7)) > 1e-9 {
		t.Errorf("the outlet lies %.2f m down", ground-d.Cut.OutletM)
	}
	passes, length := 0.0, 0.0
	for _, r := range d.Cut.Reaches {
		for i, s := range r.Section {
			if i > 0 {
				a := r.Section[i-1]
				passes += (1.2 - (a.Ground-a.Invert+s.Ground-s.Invert)/2) * (s.S - a.S)
				length += s.S - a.S
			}
			if s.Invert < d.Cut.OutletM-1e-9 {
				t.Errorf("%s lies below the outlet", r.ID)
			}
		}
	}
	if want := 1.2 * 0.06 * (0.9 - passes/length) * length; math.Abs(d.CatchM3Day-want) > 0.01*want || passes/length < 0.3 {
		t.Errorf("it catches %.2f m³ a day, by hand %.2f; %.2f m pass below", d.CatchM3Day, want, passes/length)
	}
	n := notes(plan, "drain.cut-high")
	if n == nil || !said(t, n.Sentence) {
		t.Errorf("%+v", n)
	}
	// 1.20 m deep on 6 %: a pipe at 0.5 % is out after 1.2 / 0.055 = 21.8 m, found in steps of 2 m
	in.Block.Drains.DitchM = nil
	plan = compute(t, in)
	if n := notes(plan, "drain.cut-outlet"); n == nil || !said(t, n.Sentence) ||
		notes(plan, "drain.cut-high") != nil {
		t.Errorf("%+v", n)
	}
	in.Block.Drains.DitchM = p(0)
	plan = compute(t, in)
	if n := notes(plan, "drain.refused"); n == nil || n.Weight != finding.Stops || plan.Drains.Cut != nil || !said(t, n.Sentence) {
		t.Errorf("%+v %v", n, plan.Drains.Cut)
	}
}

// Beside a field's drains an interceptor that ends nowhere is led into the collector by its remedy, and never lies lower
// than what it runs into.
func TestInterceptorBesideDrains(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, func(x, y float64) float64 { return 50 + 0.05*y + 0.004*x })
	in.Block.Drains.KMDay = 1.2
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "herringbone"}}
	pl := geo.LocalPlane(in.Block.Boundary)
	in.Block.Drains.Interceptor = []geo.Point{pl.From(geo.XY{X: -60, Y: 50}), pl.From(geo.XY{X: 60, Y: 54})}
	first := compute(t, in)
	n := notes(first, "drain.cut-outlet")
	if n == nil || !said(t, n.Sentence) || n.Remedies[0].Label != "Lead it into the collector" {
		t.Fatalf("%+v", n)
	}
	in.Block.Drains.Interceptor = n.Remedies[0].Patch["drains"].(map[string]any)["interceptor"].([]geo.Point)
	then := compute(t, in)
	d := then.Drains
	head := d.Network.Level(drainage.Length(d.Network.Line))
	if notes(then, "drain.cut-outlet") != nil || d.Cut.OutletM < head-1e-9 {
		t.Errorf("it ends at %.2f, the head of the collector lies at %.2f: %+v", d.Cut.OutletM, head, notes(then, "drain.cut-outlet"))
	}
	if math.Abs(d.Network.FlowM3S-first.Drains.Network.FlowM3S-d.CatchM3Day/86400) > 1e-9 || d.CatchM3Day <= 0 {
		t.Errorf("%.6f m³/s with its %.2f m³ a day, %.6f without", d.Network.FlowM3S, d.CatchM3Day, first.Drains.Network.FlowM3S)
	}
}

// Where a trench is 1.2 m deep or deeper, anywhere, the plan says that nobody enters it unshored; where it is not it does
// not cry wolf. The other cautions stand in either.
func TestDeepTrenchesAreCautioned(t *testing.T) {
	for layer, deep := range map[float64]bool{0: true, 100: false, 130: true} {
		in := wet(t, "hazelnut", layer, 0.02, func(x, y float64) float64 { return 50 + 0.06*y })
		in.Block.Drains.Source, in.Block.Drains.KMDay, in.Block.Drains.DitchM = "seepage", 1.2, p(3)
		in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "interceptor"}}
		for _, open := range []bool{false, true} {
			in.Block.Drains.CutOpen = open
			said := strings.Join(compute(t, in).Drains.Cautions, " ")
			if strings.Contains(said, "nobody enters it unshored") != deep || !strings.Contains(said, "buried services") || !strings.Contains(said,
				"never enter a collapsing trench") {
				t.Errorf("layer at %.0f cm, open %v: %s", layer, open, said)
			}
		}
	}
}

// The interceptor suggested for a wet part lies above the pit that shows it, says what that rests on, and keeps to the
// upper part of the block where nobody said how much is wet.
func TestInterceptorForTheWetPart(t *testing.T) {
	in := wet(t, "hazelnut", 120, 0.02, func(x, y float64) float64 { return 50 + 0.06*y })
	in.Block.Drains.Source, in.Block.Drains.KMDay = "seepage", 1.2
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "interceptor"}}
	pl := geo.LocalPlane(in.Block.Boundary)
	at := pl.From(geo.XY{X: -40, Y: -40})
	in.Block.Pits[0].At = &at
	whole := compute(t, in).Drains.Cut
	if !said(t, whole.Why) {
		t.Errorf("%s", whole.Why)
	}
	in.Block.Drains.WetPct = 8
	part := compute(t, in).Drains
	r := math.Sqrt(0.08 * compute(t, in).Ground.AreaM2 / math.Pi)
	if !said(t, part.Cut.Why) || drainage.Length(part.Cut.Line) > 3*r || drainage.Length(part.Cut.Line) >= drainage.Length(whole.Line) {
		t.Errorf("%.0f m for a radius of %.0f, %.0f m for the whole: %s", drainage.Length(part.Cut.Line), r, drainage.Length(whole.Line), part.Cut.Why)
	}
	for _, q := range part.Cut.Line {
		if q[1] < -40+r-6 || q[1] > -40+r+10 {
			t.Errorf("it lies at %.0f north, the wet part ends at %.0f", q[1], -40+r)
		}
	}
	in.Block.Drains.Interceptor = whole.LineAt
	if drawn := compute(t, in).Drains.Cut; drawn.Suggested || drawn.Why != "" {
		t.Errorf("a drawn line explains itself: %q", drawn.Why)
	}
}

// The outlet of an interceptor keeps above the layer where the outlet is: where that comes up towards it, a ditch deep
// enough for the middle of the line does not draw it into the clay.
func TestOutletOfAnInterceptorKeepsAboveTheLayer(t *testing.T) {
	in := wet(t, "hazelnut", 150, 0.02, func(x, y float64) float64 { return 50 + 0.06*y + 0.003*x })
	in.Block.Drains.Source, in.Block.Drains.KMDay, in.Block.Drains.DitchM = "seepage", 1.2, p(3)
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "interceptor"}}
	pl := geo.LocalPlane(in.Block.Boundary)
	for i, x := range []float64{-60, 20, 60} {
		at := pl.From(geo.XY{X: x})
		in.Block.Pits[i].At = &at
	}
	in.Block.Pits[0].Layers[1].BottomCm, in.Block.Pits[0].Layers[2].TopCm = 100, 100
	in.Block.Drains.Interceptor = []geo.Point{pl.From(geo.XY{X: -60, Y: 2}), pl.From(geo.XY{X: 60, Y: 2})}
	plan := compute(t, in)
	first := plan.Drains.Cut.Reaches[0].Section[0]
	if first.Layer == 0 || math.Abs(first.Invert-first.Layer) > 1e-9 || math.Abs(first.Ground-first.Layer-1.0) > 0.02 {
		t.Errorf("the outlet lies %.2f m down, the layer there %.2f", first.Ground-first.Invert, first.Ground-first.Layer)
	}
}
