package drainage

import (
	"math"
	"testing"
)

// even falls towards the collector at the west side and towards its outlet in the south.
func even(x, y float64) float64 { return 100 + 0.005*x + 0.003*y }

// The rectangle of method DRN-11 cut by a second collector half way up: it runs along the north side and then
// across at 100 m. By hand: 6 laterals of 100 − 10 = 90 m below it end 10 m short of it, 6 of 200 − 100 − 10 = 90 m
// leave it; the branch is 100 + 110 m long to its last junction, 10 m above the south side. Its water is that of the
// upper half, of the strip of 5 m it takes on the north side, and at each of the 6 laterals that end at it of two
// triangles of 10 × 10 m: 12 000 + 500 + 600 m².
func TestSecondCollectorWorkedByHand(t *testing.T) {
	l := Layout{Collector: []XY{{0, 0}, {0, 120}}, SpacingM: 20, AngleDeg: 90, Branches: []Line{{"", []XY{{0, 119.9}, {100, 119.9}, {100, 0.1}}}}}
	n, err := Design(rect, l, Task{Ground: even, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
	if err != nil {
		t.Fatal(err)
	}
	if len(n.Mains) != 2 || n.Mains[1].ID != "B1" || n.Mains[1].On != "C" || math.Abs(n.Mains[1].Joins-119.9) > 1e-9 {
		t.Fatalf("%+v", n.Mains)
	}
	count, metres := map[string]int{}, 0.0
	for _, d := range n.Laterals {
		count[d.Main]++
		metres += d.LengthM
		near(t, d.ID+", m", d.LengthM, 90, 1e-6)
	}
	if count["C"] != 6 || count["B1"] != 6 {
		t.Errorf("laterals of each line: %v", count)
	}
	near(t, "laterals, m", metres, 12*90, 1e-6)
	b := n.Quantities(0.35, 0.3, 0.3)
	near(t, "collector and branch, m", b.CollectorM, 119.9+100+109.9, 1e-6)
	if b.Junctions != 13 || b.EndCaps != 12 {
		t.Errorf("%d junctions, %d end caps", b.Junctions, b.EndCaps)
	}
	near(t, "flow at the outlet", n.FlowM3S, 0.007*n.ReachedM2/86400, 1e-12)
	near(t, "reached", n.ReachedM2, 24000, 150)
	for _, r := range n.Reaches {
		if r.ID == "B1.1" {
			near(t, "area of the branch", r.AreaM2, 13100, 60)
		}
	}
	pits := map[string]bool{}
	for _, c := range n.Chambers {
		pits[c.Main+": "+c.Why] = true
	}
	for _, want := range []string{"C: branch B1 comes in", "B1: branch B1 turns", "B1: end of branch B1"} {
		if !pits[want] {
			t.Errorf("no pit where it says %q: %v", want, pits)
		}
	}
}

// A hole casts a shadow that laterals do not reach. The branch suggested reaches most of it, crosses nothing, stays
// inside and rises from where it joins.
func TestBranchIntoTheShadowOfAHole(t *testing.T) {
	rings := [][]XY{{{0, 0}, {300, 0}, {300, 200}, {0, 200}}, {{120, 60}, {170, 60}, {170, 100}, {120, 100}}}
	for _, angle := range []float64{60, 75, 90} {
		l := Layout{Collector: []XY{{1, 40}, {299, 40}}, SpacingM: 12, AngleDeg: angle}
		ground := func(x, y float64) float64 { return 50 + 0.006*x + 0.01*math.Abs(y-40) }
		task := Task{Ground: ground, Q: 0.008, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()}
		was, err := Design(rings, l, task)
		if err != nil {
			t.Fatal(err)
		}
		if was.Missed[0].AreaM2 < 1500 {
			t.Fatalf("the hole shades only %.0f m²", was.Missed[0].AreaM2)
		}
		b := SuggestBranch(rings, l, was.Missed[0], ground)
		if b == nil {
			t.Fatalf("%g°: no branch", angle)
		}
		l.Branches = []Line{{Points: b}}
		n, err := Design(rings, l, task)
		if err != nil {
			t.Fatal(err)
		}
		if n.ReachedM2 < was.ReachedM2+0.5*was.Missed[0].AreaM2 {
			t.Errorf("%g°: reached %.0f m² before, %.0f with the branch; the shadow is %.0f", angle, was.ReachedM2, n.ReachedM2, was.Missed[0].AreaM2)
		}
		for _, x := range n.Troubles {
			if x.Rule == "crossing" || x.Rule == "cover" && x.Got < 0.5 {
				t.Errorf("%g°: %+v", angle, x)
			}
		}
		for _, p := range b {
			if !within(p, rings) {
				t.Errorf("%g°: %v lies outside", angle, p)
			}
		}
	}
	// nothing can be led through the yard of a block that is a ring
	ring := [][]XY{{{0, 0}, {60, 0}, {60, 60}, {0, 60}}, {{5, 5}, {55, 5}, {55, 55}, {5, 55}}}
	if b := SuggestBranch(ring, Layout{Collector: []XY{{1, 1}, {1, 59}}, SpacingM: 20, AngleDeg: 90}, Missed{X: 58, Y: 30, AreaM2: 200, StripM: 1, Strips: [][3]float64{{56, 60, 30}}}, even); b != nil {
		t.Errorf("a branch through the hole: %v", b)
	}
}

// Drawn laterals join whichever line is nearer, and one across a collector is said to cross it.
func TestDrawnLateralsJoinBranches(t *testing.T) {
	l := Layout{Collector: []XY{{0, 0}, {0, 120}}, SpacingM: 20, AngleDeg: 90, Branches: []Line{{"top", []XY{{0, 60}, {100, 60}}}},
		Drawn: []Line{{"a", []XY{{80, 62}, {80, 110}}}, {"b", []XY{{2, 20}, {150, 20}}}, {"c", []XY{{2, 30}, {60, 110}}}}}
	n, err := Design(rect, l, Task{Ground: even, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
	if err != nil {
		t.Fatal(err)
	}
	on := map[string]string{}
	for _, d := range n.Laterals {
		on[d.ID] = d.Main
	}
	if on["a"] != "top" || on["b"] != "C" || on["c"] != "C" {
		t.Errorf("%v", on)
	}
	crossed := false
	for _, x := range n.Troubles {
		crossed = crossed || x.Rule == "crossing" && x.Drain == "c" && x.Other == "top"
	}
	if !crossed {
		t.Errorf("c runs across the branch and nothing is said: %+v", n.Troubles)
	}
	if _, err := Design(rect, Layout{Collector: l.Collector, SpacingM: 20, AngleDeg: 90, Branches: []Line{{"x", []XY{{1, 1}}}}}, Task{Ground: even}); err == nil {
		t.Error("a branch of one point is taken")
	}
}

// A layer that dips away lets the upper half of a lateral lie deeper, never below it; where the pipe is closed
// nothing is said.
func TestLayerThatDips(t *testing.T) {
	layer := func(x, y float64) float64 { return 0.8 + 0.004*x } // 0.80 m at the collector, 1.60 at the far side
	gentle := func(x, y float64) float64 { return 20 + 0.004*x + 0.003*y }
	l := Layout{Collector: []XY{{0, 0}, {0, 120}}, SpacingM: 20, AngleDeg: 90}
	task := Task{Ground: gentle, Q: 0.007, DepthM: 0.8, CoverM: 0.5, Layer: layer, OutletM: math.NaN()}
	n, err := Design(rect, l, task)
	if err != nil {
		t.Fatal(err)
	}
	for _, d := range n.Laterals {
		for _, s := range d.Section {
			near(t, "layer under "+d.ID, s.Layer, s.Ground-layer(s.X, s.Y), 1e-9)
			if s.Invert < s.Layer-layerSlackM {
				t.Errorf("%s lies %.2f m below the layer at %.0f m", d.ID, s.Layer-s.Invert, s.S)
			}
		}
	}
	task.DepthM, task.CoverM = 1.2, 0.6 // wanted deeper than the layer lies: it follows the layer where that is less
	n, _ = Design(rect, l, task)
	near(t, "the outlet lies on the layer", n.OutletM, 20-0.8, 1e-9)
	for _, d := range n.Laterals {
		far := d.Section[len(d.Section)-1]
		near(t, d.ID+": cut at its far end", far.Ground-far.Invert, 1.2, 0.051)
	}
	task.OutletM = 20 - 1.2
	said := func(closed bool) bool {
		task.Closed = closed
		n, err := Design(rect, l, task)
		if err != nil {
			t.Fatal(err)
		}
		for _, x := range n.Troubles {
			if x.Rule == "layer" {
				near(t, "wanted there", x.Want, layer(x.X, x.Y), 0.01)
				return true
			}
		}
		return false
	}
	if !said(false) || said(true) {
		t.Error("a collector 1.2 m deep in a layer at 0.8 m is said where it takes water in, and only there: it is led in deeper by a ditch")
	}
}

// What drains is what is laid: a collector that was drawn on beyond its last lateral reaches nothing there, and neither
// does its bill hold it.
func TestNothingDrainsThatIsNotLaid(t *testing.T) {
	long := [][]XY{{{0, 0}, {200, 0}, {200, 300}, {0, 300}}}
	l := Layout{Collector: []XY{{100, 1}, {100, 299}}, SpacingM: 20, AngleDeg: 90, Drawn: []Line{{"a", []XY{{100, 40}, {180, 40}}}, {"b", []XY{{100, 60}, {20, 60}}}}}
	n, err := Design(long, l, Task{Ground: func(x, y float64) float64 { return 50 + 0.004*y }, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
	if err != nil {
		t.Fatal(err)
	}
	b := n.Quantities(0.35, 0.3, 0.3)
	near(t, "collector, m", b.CollectorM, 59, 1e-9)
	// two laterals of 80 m with their ends, and 59 m of collector with its round end, each 20 m wide
	if most := 2*(80+10)*20 + 59*20 + math.Pi*100/2 + 200; n.ReachedM2 > most || n.ReachedM2 < 0.8*most {
		t.Errorf("%.0f m² are reached, at most %.0f can be", n.ReachedM2, most)
	}
	for _, s := range []struct{ at, want float64 }{{0, 0}, {30, 30}, {140, 140}, {500, 140}} {
		near(t, "line cut at a chainage", Length(upTo([]XY{{0, 0}, {80, 0}, {80, 60}}, s.at)), s.want, 1e-9)
	}
}
