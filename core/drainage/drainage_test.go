package drainage

import (
	"fmt"
	"math"
	"testing"
)

func near(t *testing.T, source string, got, want, tol float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tol) {
		t.Errorf("%s: %g, want %g", source, got, want)
	}
}

// Rows of the series in the method book (van der Molen & Wesseling, 1991), r0 0.10 m; the column of an
// endless depth is the classic table of ILRI Publication 16, chapter 8, which it meets within 0.01.
func TestEquivalentDepth(t *testing.T) {
	depths := []float64{0.5, 1, 1.5, 2, 3, 5, 10, math.Inf(1)}
	for l, row := range map[float64][8]float64{
		5: {0.45, 0.63, 0.69, 0.70, 0.71, 0.71, 0.71, 0.71}, 10: {0.47, 0.77, 0.94, 1.03, 1.10, 1.13, 1.13, 1.13},
		20: {0.49, 0.87, 1.16, 1.36, 1.61, 1.81, 1.89, 1.89}, 50: {0.49, 0.94, 1.34, 1.68, 2.23, 2.93, 3.62, 3.87}, 100: {0.50, 0.97, 1.42, 1.83, 2.56, 3.70, 5.32, 6.81},
	} {
		for i, want := range row {
			near(t, fmt.Sprintf("d at L %g, D %g", l, depths[i]), EquivalentDepth(l, depths[i], math.Pi*0.10), want, 0.0051)
		}
	}
	for i, want := range []float64{0.71, 0.93, 1.14, 1.53, 1.89, 2.24, 2.58, 2.91, 3.24, 3.56, 3.88} {
		l := []float64{5, 7.5, 10, 15, 20, 25, 30, 35, 40, 45, 50}[i]
		near(t, fmt.Sprintf("ILRI table at L %g", l), EquivalentDepth(l, math.Inf(1), math.Pi*0.10), want, 0.0101)
	}
	if EquivalentDepth(20, 0, 0.3) != 0 {
		t.Error("a drain on the layer has flow below it")
	}
}

// The first row is the textbook case of ILRI Publication 16, solved by hand to about 55 m.
func TestSpacing(t *testing.T) {
	for _, c := range []struct{ q, h, kb, ka, thick, r0, d, l float64 }{
		{0.001, 0.80, 0.14, 0.14, 5.0, 0.10, 3.063, 55.70}, {0.007, 0.40, 0.80, 0.80, 2.0, 0.05, 1.285, 23.31}, {0.007, 0.50, 0.80, 0.80, 2.0, 0.05, 1.353, 27.07},
		{0.007, 0.40, 0.30, 0.60, 1.0, 0.05, 0.725, 12.42}, {0.010, 0.30, 0.05, 0.20, 0.5, 0.05, 0.348, 3.37}, {0.002, 0.80, 1.50, 1.00, 4.0, 0.10, 3.342, 131.61},
	} {
		f := Field{Ka: c.ka, Kb: c.kb, Thick: c.thick, U: math.Pi * c.r0, H: c.h, Q: c.q}
		l, d, err := f.Spacing()
		if err != nil {
			t.Fatal(err)
		}
		near(t, "DRN-5 L", l, c.l, 0.006)
		near(t, "DRN-5 d", d, c.d, 0.0006)
		near(t, "discharge of that spacing", f.Discharge(l), c.q, 1e-6)
		near(t, "height at that spacing", f.Height(l), c.h, 1e-4)
		// the on-layer case of a ditch: L² = 4·Ka·h²/q
		f.Thick = 0
		l, _, _ = f.Spacing()
		near(t, "on the layer", l*l, 4*c.ka*c.h*c.h/c.q, 1e-3)
	}
	row := Field{Ka: 0.4, Kb: 0.4, Thick: 2, U: math.Pi * 0.05, H: 0.40, Q: 0.007}
	l, _, _ := row.Spacing()
	near(t, "K halved", l, 15.3, 0.05)
	row.Ka, row.Kb = 1.6, 1.6
	l, _, _ = row.Spacing()
	near(t, "K doubled", l, 34.8, 0.05)
	if _, _, err := (Field{Ka: 1, Kb: 1, U: 0.3, H: -0.1, Q: 0.007}).Spacing(); err == nil {
		t.Error("a drain above the water table asked for is spaced")
	}
	e := TwoLayers{Dv: 0.4, Kv: 0.5, KD: 4.6, Kr: 0.5, Dr: 1.0, A: 3.4, U: 0.3}
	h, v, ho, ra := e.Head(0.007, 15)
	near(t, "DRN-6 head", h, 0.2107, 1e-4)
	near(t, "DRN-6 parts", v+ho+ra, h, 1e-12)
	near(t, "DRN-6 radial", ra, 0.1623, 1e-4)
	near(t, "DRN-6 spacing", e.Spacing(0.007, 0.30), 20.10, 0.01)
	near(t, "geometry factor, K ratio 4, D ratio 2", GeometryFactor(4, 2), 3.4, 1e-9)
	if GeometryFactor(0.05, 4) != 1 || GeometryFactor(80, 2) != 4 {
		t.Error("the ends of the geometry factor")
	}
}

// Dumm, 1954; the example L = 41.8·√d is ILRI Publication 16's.
func TestFallingWaterTable(t *testing.T) {
	l, d := FallSpacing(1.0, 0.05, 0.8, 0.3, 10, 7.7, math.Pi*0.10)
	near(t, "L over √d", l/math.Sqrt(d), 41.81, 0.01)
	near(t, "d", d, 4.513, 0.002)
	near(t, "L", l, 88.82, 0.02)
	l, _ = FallSpacing(0.5, 0.06, 0.7, 0.4, 2, 1.5, math.Pi*0.05)
	near(t, "second case", l, 14.85, 0.01)
	for days, want := range map[float64]float64{1: 0.3850, 3: 0.1178} {
		got, early := Falls(0.5, 0.6, 0.05, 10, 0.6, days)
		near(t, "fall", got, want, 1e-4)
		if early {
			t.Error("called too early")
		}
	}
	if _, early := Falls(0.01, 0.3, 0.05, 20, 0.6, 0.5); !early {
		t.Error("half a day in tight soil is not too early")
	}
	near(t, "days to fall", FallDays(0.5, 0.6, 0.05, 10, 0.6, 0.3850), 1, 1e-3)
	near(t, "van Beers, K 50 cm/day", Porosity(0.5), 0.071, 0.0005)
}

func TestAugerHole(t *testing.T) {
	for _, c := range []struct {
		r, h, m, y0, rise, s float64
		layer                bool
		want                 float64
	}{{4, 120, 36, 40, 8, 60, false, 0.6972}, {4, 120, 36, 40, 8, 60, true, 0.7843}, {4, 90, 20, 22, 4, 40, false, 1.0588}} {
		k, err := AugerHole(c.r, c.h, c.m, c.y0, c.rise, c.s, c.layer)
		if err != nil {
			t.Fatal(err)
		}
		near(t, "DRN-3", k, c.want, 1e-4)
	}
	near(t, "geometric mean", GeometricMean([]float64{0.2, 0.5, 1.1}), 0.4791, 1e-4)
	if _, err := AugerHole(4, 120, 36, 20, 8, 60, false); err == nil {
		t.Error("water that rose too far is read")
	}
}

func TestDepth(t *testing.T) {
	d, by, err := Depth([]Limit{{"roots", 1.0}, {"clay layer", 0.60}, {"outlet", 1.2}}, []Limit{{"tractor traffic", 0.6}}, 0.1)
	if d != 0.60 || by.Name != "clay layer" || err == nil {
		t.Errorf("%g by %s, %v: clay at 0.60 leaves 0.50 m of cover", d, by.Name, err)
	}
	d, by, err = Depth([]Limit{{"roots", 1.05}, {"rock", 1.5}, {"outlet", 0.92}}, []Limit{{"tractor traffic", 0.6}}, 0.1)
	if d != 0.92 || by.Name != "outlet" || err != nil {
		t.Errorf("%g by %s, %v", d, by.Name, err)
	}
	near(t, "DRN-13 on the layer, 150 m", Interceptor(1.2, 0.06, 0.9, 0)*150, 9.72, 1e-9)
	near(t, "DRN-13 above the layer, L/s", Interceptor(1.2, 0.06, 0.9, 0.3)*150/86.4, 0.0750, 1e-4)
}

// Capacities of the method book (ILRI Publication 16, FAO 62), velocities of NRCS 606, Manning by hand.
func TestPipes(t *testing.T) {
	near(t, "75 mm collecting, L/s", 1000*Capacity(0.075, 0.002, false, true), 1.6854, 1e-4)
	near(t, "75 mm transporting", 1000*Capacity(0.075, 0.002, false, false), 0.9758, 1e-4)
	near(t, "100 mm collecting", 1000*Capacity(0.100, 0.002, false, true), 3.6333, 1e-4)
	near(t, "smooth 150 mm", 1000*Capacity(0.150, 0.003, true, false), 10.669, 1e-3)
	near(t, "L_max 75 mm", 0.6*Capacity(0.075, 0.002, false, true)*86400/(0.007*12), 1040.2, 0.1)
	near(t, "area of 100 mm at 0.5 %, ha", Capacity(0.1, 0.005, false, false)*86400/0.007/1e4, 4.11, 0.005)
	near(t, "Manning 100 mm", FullVelocity(0.1, 0.002, 0.015), 0.2549, 1e-4)
	for d, want := range map[float64][2]float64{0.075: {0.105, 0.822}, 0.100: {0.071, 0.560}, 0.150: {0.042, 0.326}} {
		near(t, "least grade, 0.15 m/s", 100*MinimumGrade(d, 0.5*0.3048, 0.015), want[0], 0.0006)
		near(t, "least grade, 0.43 m/s", 100*MinimumGrade(d, 1.4*0.3048, 0.015), want[1], 0.0006)
	}
	// half full a pipe carries half, at the velocity of the full one
	full := FullVelocity(0.1, 0.004, 0.015) * math.Pi * 0.01 / 4
	y, v := PartFull(full/2, 0.1, 0.004, 0.015)
	near(t, "half full, depth", y, 0.5, 1e-6)
	near(t, "half full, velocity", v, FullVelocity(0.1, 0.004, 0.015), 1e-6)
	near(t, "envelope", EnvelopeM3(0.3, 0.3, 0.09), 0.08364, 1e-5)
	// adding fall never reduces capacity, and a larger pipe never carries less
	for i := 1; i < 60; i++ {
		for k, p := range Pipes {
			if Capacity(p.InsideM, float64(i+1)*1e-3, false, false) <= Capacity(p.InsideM, float64(i)*1e-3, false, false) {
				t.Fatal("more fall, less water")
			}
			if k > 0 && Capacity(p.InsideM, 0.002, false, false) <= Capacity(Pipes[k-1].InsideM, 0.002, false, false) {
				t.Fatal("a larger pipe carries less")
			}
		}
	}
}

func TestLongSection(t *testing.T) {
	pts := []Point{{0, 100.90}, {40, 101.00}, {80, 101.05}, {120, 101.30}}
	s := LongSection(pts, 100, 0.004, 0.09, 0.6)
	near(t, "DRN-10 steepest, %", 100*s.Most, 0.450, 0.0005)
	if s.At != 80 {
		t.Errorf("decided at %g m", s.At)
	}
	for i, want := range []float64{0.90, 0.84, 0.73, 0.82} {
		near(t, "cut", s.Points[i].Cut, want, 1e-9)
	}
	near(t, "trench", s.TrenchM3(0.35), 34.020, 1e-6)
	near(t, "cover at 80 m at 0.5 %", LongSection(pts, 100, 0.005, 0.09, 0.6).Points[2].Cover, 0.56, 1e-9)
}

var rect = [][]XY{{{0, 0}, {200, 0}, {200, 120}, {0, 120}}} // 200 m up the slope, 120 across

// The rectangle worked by hand in the method book: gridiron, six laterals of 190 m, 24 000 m².
func TestGridironWorkedByHand(t *testing.T) {
	l := Layout{Collector: []XY{{0, 0}, {0, 120}}, SpacingM: 20, AngleDeg: 90}
	ground := func(x, y float64) float64 { return 100 + 0.005*x + 0.003*y }
	n, err := Design(rect, l, Task{Ground: ground, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
	if err != nil {
		t.Fatal(err)
	}
	if len(n.Laterals) != 6 || len(n.Reaches) != 6 {
		t.Fatalf("%d laterals, %d reaches", len(n.Laterals), len(n.Reaches))
	}
	b := n.Quantities(0.35, 0.3, 0.3)
	near(t, "lateral metres", b.LateralM, 1140, 1e-6)
	near(t, "collector metres", b.CollectorM, 110, 1e-6)
	for _, d := range n.Laterals {
		near(t, d.ID, d.LengthM, 190, 1e-9)
		// a strip of a collector's half spacing goes to the collector itself
		near(t, d.ID+" area", d.AreaM2, 4000, 220)
	}
	near(t, "block", n.ReachedM2, 24000, 1)
	near(t, "flow at the outlet, L/s", 1000*n.FlowM3S, 1.9444, 0.001)
	near(t, "trench", b.TrenchM3, 0.35*1250*1.0, 3)
	if len(n.Troubles) != 0 || b.EndCaps != 6 {
		t.Errorf("%+v", n.Troubles)
	}
}

// Herringbone on the same block: 9 + 8 laterals, 899.78 m; 84.7 % within half a spacing of a drain; at 90°
// 950 m and 92.4 %. One of the seventeen is a stub of 7.40 m, shorter than the half spacing below which the method
// itself leaves stubs out: sixteen of 892.38 m are laid, and still 84.7 % is reached to the tolerance of its cells.
func TestHerringboneWorkedByHand(t *testing.T) {
	for _, c := range []struct {
		angle, metres, covered float64
		n                      int
	}{{60, 899.78 - 7.40, 0.847, 16}, {90, 950, 0.924, 19}} {
		l := Layout{Collector: []XY{{0, 60}, {200, 60}}, SpacingM: 20, AngleDeg: c.angle, EndM: 10}
		ds := l.lay(rect, l.mains(), nil)
		if c.angle == 90 { // staggered too in the worked example
			ds = stagger(l)
		}
		total := 0.0
		for _, d := range ds {
			total += d.LengthM
		}
		if len(ds) != c.n {
			t.Errorf("%g°: %d laterals, want %d", c.angle, len(ds), c.n)
		}
		near(t, fmt.Sprintf("herringbone %g°, m", c.angle), total, c.metres, map[float64]float64{60: 0.01, 90: 0.2}[c.angle])
		_, _, reached, missed := l.Reach(rect, l.mains(), ds, 0, 0.5)
		near(t, "covered", reached/24000, c.covered, 0.012)
		sum := reached
		for _, m := range missed {
			sum += m.AreaM2
		}
		near(t, "reached and missed", sum, 24000, 1e-6)
	}
}

// A block 75 m wide with its collector along one side, 18 m at 52°: the last lateral below the upper corner meets the
// top edge after 88.391 m, and is held 9 m off the side like every other: (75 − 9)/sin 52° = 83.755 m.
func TestLateralsNearACornerKeepOffTheSide(t *testing.T) {
	block := [][]XY{{{0, 0}, {75, 0}, {75, 300}, {0, 300}}}
	for height := 280.0; height <= 320; height += 1.7 {
		block[0][2][1], block[0][3][1] = height, height
		l := Layout{Collector: []XY{{0.001, 0}, {0.001, height}}, SpacingM: 18, AngleDeg: 52}
		longest := 0.0
		for _, d := range l.lay(block, l.mains(), nil) {
			longest = math.Max(longest, d.LengthM)
			if end := d.Points[len(d.Points)-1]; end[0] > 75-9+1e-6 || d.LengthM < 9 {
				t.Errorf("%g m high, %s: ends %.3f m off the side after %.3f m", height, d.ID, 75-end[0], d.LengthM)
			}
		}
		near(t, "longest", longest, 83.755, 0.002)
	}
}

// stagger is the 90° case of the worked example: the second side a full step from the outlet.
func stagger(l Layout) []Drain {
	l.AngleDeg = 88.999
	return l.lay(rect, l.mains(), nil)
}

// On any block: no pipe rises towards the outlet, sizes never fall downstream, every drop of contributing
// area reaches the outlet once, and what is reached and missed makes the block.
func TestNetworkKeepsItsLaws(t *testing.T) {
	blocks := [][][]XY{rect, {{{0, 0}, {260, 30}, {300, 180}, {150, 240}, {-20, 150}}}, {{{0, 0}, {180, 0}, {180, 90}, {90, 90}, {90, 200}, {0, 200}}},
		{{{0, 0}, {300, 0}, {300, 200}, {0, 200}}, {{120, 80}, {160, 80}, {160, 120}, {120, 120}}}}
	for k, rings := range blocks {
		for _, angle := range []float64{35, 60, 90} {
			for _, spacing := range []float64{8, 12.5, 30} {
				for tilt := -1.0; tilt <= 1; tilt++ {
					l := Layout{Collector: []XY{{2, 2}, {90, 80}, {150, 110}}, SpacingM: spacing, AngleDeg: angle}
					if tilt != 0 { // a branch of it, and a branch of that
						l.Branches = []Line{{"", []XY{{60, 60}, {70, 120 + 20*tilt}}}, {"far", []XY{{66, 100}, {20, 130}}}}
					}
					ground := func(x, y float64) float64 { return 50 + 0.01*x + tilt*0.012*y + 0.3*math.Sin(x/40) }
					n, err := Design(rings, l, Task{Ground: ground, Q: 0.01, DepthM: 1, CoverM: 0.6, Layer: at(1.4), OutletM: math.NaN()})
					if err != nil {
						t.Fatal(err)
					}
					name := fmt.Sprintf("block %d, %g°, %g m, tilt %g", k, angle, spacing, tilt)
					sum := n.ReachedM2
					for _, m := range n.Missed {
						sum += m.AreaM2
					}
					near(t, name+": reached and missed", sum, n.BlockM2, 1e-6*n.BlockM2)
					laterals := 0.0
					for _, d := range append(append([]Drain{}, n.Laterals...), n.Reaches...) {
						if d.High < d.Low || d.Grade < 0.001-1e-12 {
							t.Errorf("%s: %s rises towards the outlet", name, d.ID)
						}
						for i := 1; i < len(d.Section); i++ {
							if d.Section[i].Invert < d.Section[i-1].Invert {
								t.Errorf("%s: %s sags", name, d.ID)
							}
						}
						if d.Lateral {
							laterals += d.AreaM2
							if d.Low < n.OutletM-1e-9 {
								t.Errorf("%s: %s joins below the outlet", name, d.ID)
							}
						}
					}
					ends := map[string]Drain{} // the reach below
					for i, r := range n.Reaches {
						below, ok := ends[r.Main]
						if !ok { // a line begins: at the outlet, or in the reach it joins
							for _, m := range n.Mains {
								for _, x := range n.Reaches[:i] {
									if m.ID == r.Main && x.Main == m.On && m.Joins <= x.Joins+x.LengthM+0.01 && m.Joins > x.Joins+0.01 {
										below, ok = x, true
									}
								}
							}
						}
						ends[r.Main] = r
						if !ok {
							near(t, name+": the outlet", r.Low, n.OutletM, 1e-9)
							near(t, name+": every drop once", r.AreaM2, n.ReachedM2, 1e-6*n.BlockM2)
							continue
						}
						if r.Pipe.InsideM > below.Pipe.InsideM || r.FlowM3S > below.FlowM3S+1e-12 {
							t.Errorf("%s: %s is larger or fuller than %s it runs into", name, r.ID, below.ID)
						}
						near(t, name+": levels meet", r.Low, below.High, 1e-9)
					}
					near(t, name+": the outlet's flow", n.FlowM3S*86400/0.01, n.ReachedM2, 1e-6*n.BlockM2)
				}
			}
		}
	}
}

// What cannot be kept to is said where it is.
func TestTroubles(t *testing.T) {
	has := func(n *Network, rule string) bool {
		for _, x := range n.Troubles {
			if x.Rule == rule {
				return true
			}
		}
		return false
	}
	l := Layout{Collector: []XY{{0, 60}, {200, 60}}, SpacingM: 20, AngleDeg: 60}
	flat := func(x, y float64) float64 { return 50 }
	task := Task{Ground: flat, Q: 0.007, DepthM: 0.8, CoverM: 0.6, OutletM: math.NaN()}
	n, _ := Design(rect, l, task)
	if !has(n, "cover") || !has(n, "missed") {
		t.Errorf("200 m on the flat from 0.8 m: %+v", n.Troubles)
	}
	task.Layer, task.DepthM = at(0.6), 1.0
	if n, _ = Design(rect, l, task); has(n, "layer") || math.Abs(n.OutletM-49.4) > 1e-9 {
		t.Errorf("a pipe asked for in the clay does not lie on it: outlet at %.2f, %+v", n.OutletM, n.Troubles)
	}
	task.OutletM = 49 // a ditch that lets it lie in the clay
	if n, _ = Design(rect, l, task); !has(n, "layer") {
		t.Error("a pipe in the clay is not said")
	}
	task.Layer, task.OutletM = nil, 49.95
	if n, _ = Design(rect, l, task); !has(n, "outlet") {
		t.Error("an outlet above the ground is not said")
	}
	steep := func(x, y float64) float64 { return 50 + 0.12*x }
	if n, _ = Design(rect, l, Task{Ground: steep, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN(), Texture: "sandy loam"}); !has(n, "velocity") {
		t.Error("12 % in sandy loam is not too fast")
	}
	drawn := Layout{Collector: []XY{{0, 60}, {200, 60}}, SpacingM: 20, Drawn: []Line{{"", []XY{{40, 61}, {60, 110}}}, {"", []XY{{70, 60}, {30, 110}}}}}
	if n, _ = Design(rect, drawn, task); !has(n, "crossing") || len(n.Laterals) != 2 || n.Laterals[0].Points[0] != (XY{40, 60}) {
		t.Errorf("drawn laterals that cross: %+v", n.Troubles)
	}
	if _, err := Design(rect, Layout{SpacingM: 10, AngleDeg: 90}, task); err == nil {
		t.Error("no collector, and a design")
	}
}

func BenchmarkSpacing(b *testing.B) {
	f := Field{Ka: 0.6, Kb: 0.3, Thick: 1, U: 0.157, H: 0.4, Q: 0.007}
	for range b.N {
		if _, _, err := f.Spacing(); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkNetwork20ha(b *testing.B) {
	rings := [][]XY{{{0, 0}, {500, 0}, {520, 390}, {0, 400}}}
	l := Layout{Collector: []XY{{1, 1}, {250, 200}, {480, 370}}, SpacingM: 12, AngleDeg: 50}
	ground := func(x, y float64) float64 { return 50 + 0.006*x + 0.004*y }
	for range b.N {
		if _, err := Design(rings, l, Task{Ground: ground, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()}); err != nil {
			b.Fatal(err)
		}
	}
}

// at is a layer that lies at the same depth everywhere.
func at(depthM float64) func(x, y float64) float64 {
	return func(x, y float64) float64 { return depthM }
}

func BenchmarkLineAcrossTheSlope(b *testing.B) {
	ring := [][]XY{{{0, 0}, {300, 0}, {300, 200}, {0, 200}}}
	dome := func(x, y float64) float64 { return 80 - 0.04*math.Hypot(x-150, y+120) }
	for b.Loop() {
		Suggest("interceptor", ring, dome, 0, 0, nil)
	}
}

func BenchmarkSuggestBranch(b *testing.B) {
	rings := [][]XY{{{0, 0}, {300, 0}, {300, 200}, {0, 200}}, {{120, 60}, {170, 60}, {170, 100}, {120, 100}}}
	l := Layout{Collector: []XY{{1, 40}, {299, 40}}, SpacingM: 10, AngleDeg: 90}
	z := func(x, y float64) float64 { return 50 + 0.006*x + 0.01*math.Abs(y-40) }
	n, err := Design(rings, l, Task{Ground: z, Q: 0.008, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		SuggestBranch(rings, l, n.Missed[0], z)
	}
}
