package drainage

import (
	"fmt"
	"math"
	"testing"
)

// The equivalent depth against the flow itself: Laplace's equation solved on a grid under one half spacing, with
// the recharge let in at the top, no flow through the bottom and the sides, and the drain a quarter circle of
// fixed head in the upper corner. Hooghoudt's head agrees to a few per cent, for shallow and deep soils.
func TestEquivalentDepthAgainstTheFlow(t *testing.T) {
	for _, c := range []struct{ l, thick, r float64 }{{10, 1, 0.1}, {10, 3, 0.1}, {20, 2, 0.1}, {6, 1.5, 0.15}} {
		const k, q = 0.8, 0.007
		cell := 0.05
		nx, nz := int(c.l/2/cell)+1, int(c.thick/cell)+1
		h := make([]float64, nx*nz)
		fixed := func(i, j int) bool { return math.Hypot(float64(i), float64(j))*cell <= c.r+1e-9 }
		omega := 2 / (1 + math.Pi/float64(max(nx, nz)))
		for sweep := 0; sweep < 6000; sweep++ {
			most := 0.0
			for j := range nz {
				for i := range nx {
					if fixed(i, j) {
						continue
					}
					at := func(i, j int) float64 { return h[j*nx+i] }
					left, right := at(max(0, i-1), j), at(min(nx-1, i+1), j)
					if i == 0 {
						left = right // no flow through the plane of the drain
					}
					if i == nx-1 {
						right = left
					}
					up, down := 0.0, 0.0
					if j == nz-1 {
						down = at(i, j-1)
					} else {
						down = at(i, j+1)
					}
					if j == 0 {
						up = down + 2*cell*q/k // recharge
					} else {
						up = at(i, j-1)
					}
					next := (left + right + up + down) / 4
					d := next - h[j*nx+i]
					h[j*nx+i] += omega * d
					most = math.Max(most, math.Abs(d))
				}
			}
			if most < 1e-9 {
				break
			}
		}
		got := h[nx-1]
		want := q * c.l * c.l / (8 * k * EquivalentDepth(c.l, c.thick, WetPerimeter(2*c.r)))
		if math.Abs(got/want-1) > 0.06 {
			t.Errorf("L %g, D %g: the flow stands %.4f m midway, the formula says %.4f", c.l, c.thick, got, want)
		}
	}
}

// The falling water table against the diffusion equation stepped through time from a fourth-degree start: once
// a·t is over 0.2 the formula of Glover and Dumm holds to 1.2 per cent. The rest is its factor of 1.16, which is 1.173
// for that shape.
func TestFallAgainstDiffusion(t *testing.T) {
	const k, d, pores, l, h0 = 0.5, 0.9, 0.06, 14.0, 0.8
	n := 280
	dx := l / float64(n)
	dt := 0.4 * dx * dx * pores / (k * d)
	h := make([]float64, n+1)
	for i := range h {
		x := 2*float64(i)/float64(n) - 1
		h[i] = h0 * (1 - x*x*x*x)
	}
	next := make([]float64, n+1)
	now := 0.0
	for _, days := range []float64{2, 4, 8} {
		for ; now < days; now += dt {
			for i := 1; i < n; i++ {
				next[i] = h[i] + dt*k*d/pores*(h[i-1]-2*h[i]+h[i+1])/(dx*dx)
			}
			h, next = next, h
		}
		want, early := Falls(k, d, pores, l, h0, days)
		if early {
			t.Fatalf("after %g days the formula does not hold yet", days)
		}
		near(t, fmt.Sprintf("after %g days", days), h[n/2]/want, 1.173/1.16, 0.002)
		near(t, "and back", FallDays(k, d, pores, l, h0, want), days, 1e-9)
	}
}

// The water table between drains: at the drains nought, midway Hooghoudt's height, symmetric, and at every point
// the flow that passes is the recharge between there and the middle.
func TestShapeOfTheWaterTable(t *testing.T) {
	f := Field{Ka: 0.6, Kb: 0.3, Thick: 1.2, U: 0.9, H: 0.4, Q: 0.007}
	l, d, err := f.Spacing()
	if err != nil {
		t.Fatal(err)
	}
	const n = 400
	s := f.Shape(l, n)
	near(t, "at the drain", s[0]+s[n], 0, 1e-9)
	near(t, "midway", s[n/2], 0.4, 1e-6)
	near(t, "height for a spacing", f.Height(l), 0.4, 1e-6)
	near(t, "discharge for a spacing", f.Discharge(l), 0.007, 1e-9)
	for i := 1; i < n/2; i++ {
		if s[i] <= s[i-1] || math.Abs(s[i]-s[n-i]) > 1e-12 {
			t.Fatalf("at %d: %.4f after %.4f, mirrored %.4f", i, s[i], s[i-1], s[n-i])
		}
	}
	for _, i := range []int{n / 4, n / 3, 2 * n / 5} {
		x := l * (0.5 - float64(i)/n) // from the middle
		slope := (s[i+1] - s[i-1]) / (2 * l / n)
		near(t, "Darcy at a point", (f.Kb*d+f.Ka*s[i])*slope, f.Q*x, 0.01*f.Q*x)
	}
	dry := f
	dry.Q = 0
	for _, v := range dry.Shape(l, 8) {
		near(t, "without recharge", v, 0, 0)
	}
}

// A first line lies in the block, begins where the ground is low and leads up, whatever the shape, the hole and
// the way the ground falls; where nothing fits there is none.
func TestSuggestedLines(t *testing.T) {
	shapes := [][][]XY{rect, {{{0, 0}, {260, 30}, {300, 180}, {150, 240}, {-20, 150}}}, {{{0, 0}, {300, 0}, {300, 200}, {0, 200}}, {{120, 80}, {160, 80}, {160, 120}, {120, 120}}}, {{{0, 0}, {420, 25}, {424, 70}, {10, 45}}}}
	for k, rings := range shapes {
		for falls := 0.0; falls < 360; falls += 45 {
			fx, fy := math.Sin(falls*math.Pi/180), math.Cos(falls*math.Pi/180)
			ground := func(x, y float64) float64 { return 80 - 0.02*(x*fx+y*fy) }
			low, high := math.Inf(1), math.Inf(-1)
			for _, p := range rings[0] {
				low, high = math.Min(low, ground(p[0], p[1])), math.Max(high, ground(p[0], p[1]))
			}
			for _, pattern := range []string{"gridiron", "herringbone", "local", "interceptor", "beds", "ditches"} {
				line := Suggest(pattern, rings, ground, 15, falls, nil)
				name := fmt.Sprintf("shape %d falling to %g°, %s", k, falls, pattern)
				if len(line) < 2 {
					t.Errorf("%s: no line", name)
					continue
				}
				for i, p := range line {
					if !inside(p, rings[0]) {
						t.Errorf("%s: point %d at %.1f, %.1f lies outside", name, i, p[0], p[1])
					}
				}
				a, b := line[0], line[len(line)-1]
				if ground(a[0], a[1]) > ground(b[0], b[1])+0.3 {
					t.Errorf("%s: runs downhill from its outlet", name)
				}
				z := (ground(a[0], a[1]) - low) / (high - low)
				if fall := (ground(b[0], b[1]) - ground(a[0], a[1])) / dist(a, b); pattern == "interceptor" && k < 3 && !(fall > 0.002 && fall < 0.005) {
					t.Errorf("%s: falls %.2f %% to its outlet, 0.2 to 0.5 are asked for", name, 100*fall)
				}
				if pattern == "interceptor" && z < 0.5 {
					t.Errorf("%s: lies %.0f %% up the block", name, 100*z)
				}
				if pattern != "interceptor" && z > 0.35 {
					t.Errorf("%s: its outlet lies %.0f %% up the block", name, 100*z)
				}
				if pattern == "herringbone" && len(rings) > 1 {
					for i := 1; i < len(line); i++ {
						for q := 0.0; q <= 1; q += 0.02 {
							if p := along(line[i-1], sub(line[i], line[i-1]), q); inside(p, rings[1]) {
								t.Fatalf("%s: runs through the hole", name)
							}
						}
					}
				}
			}
		}
	}
	if l := Suggest("local", rect, func(x, y float64) float64 { return x + y }, 15, 225, &Wet{At: XY{1, 1}}); l != nil {
		t.Errorf("a wet spot at the outlet itself needs no drain: %v", l)
	}
	if l := Suggest("local", rect, func(x, y float64) float64 { return x + y }, 15, 225, &Wet{At: XY{90, 40}}); len(l) != 2 || l[1] != (XY{90, 40}) {
		t.Errorf("the local drain ends at %v", l)
	}
}

// A lateral over a ridge of ground is raised off the layer; over a hollow it follows the ground with enough cover
// where one grade cannot, and never falls upstream.
func TestLateralsOverRoughGround(t *testing.T) {
	l := Layout{Collector: []XY{{0, 0}, {0, 120}}, SpacingM: 20, AngleDeg: 90}
	ridge := func(x, y float64) float64 { return 50 + 0.004*x + 0.002*y - 0.3*math.Sin(x/200*math.Pi*2) }
	n, err := Design(rect, l, Task{Ground: ridge, Q: 0.007, DepthM: 1.0, CoverM: 0.6, Layer: at(1.05), OutletM: math.NaN()})
	if err != nil {
		t.Fatal(err)
	}
	broken := 0
	for _, d := range n.Laterals {
		if len(d.Breaks) > 2 {
			broken++
			near(t, d.ID+" begins", d.Breaks[0].Level, d.Low, 1e-12)
			near(t, d.ID+" ends", d.Breaks[len(d.Breaks)-1].S, d.LengthM, 1e-9)
		}
		for i, s := range d.Section {
			if c := s.Ground - s.Invert; c > 1.05+layerSlackM+1e-9 {
				t.Errorf("%s lies %.2f m deep at %.0f m, below the layer", d.ID, c, s.S)
			}
			if i > 0 && s.Invert < d.Section[i-1].Invert-1e-12 {
				t.Errorf("%s falls upstream at %.0f m", d.ID, s.S)
			}
		}
	}
	if broken == 0 {
		t.Error("no lateral follows the ground")
	}
	even, _ := Design(rect, l, Task{Ground: func(x, y float64) float64 { return 50 + 0.004*x + 0.002*y }, Q: 0.007, DepthM: 1.0, CoverM: 0.6, Layer: at(1.05), OutletM: math.NaN()})
	for _, d := range even.Laterals {
		if len(d.Breaks) != 0 {
			t.Errorf("%s breaks its grade on even ground", d.ID)
		}
	}
}

// A drain alone follows the ground in reaches of 40 m or less, carries what is let in, and reaches half a spacing
// to each side.
func TestDrainAlone(t *testing.T) {
	l := Layout{Collector: []XY{{10, 60}, {110, 60}, {190, 90}}, SpacingM: 16, Alone: true}
	n, err := Design(rect, l, Task{Ground: func(x, y float64) float64 { return 50 + 0.01*x }, Q: 0.007, ExtraM3S: 0.0005, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
	if err != nil {
		t.Fatal(err)
	}
	length := 0.0
	for i, r := range n.Reaches {
		length += r.LengthM
		if r.LengthM > 40+1e-9 || r.FlowM3S < 0.0005 || i > 0 && math.Abs(r.Low-n.Reaches[i-1].High) > 1e-9 {
			t.Errorf("%+v", r)
		}
	}
	near(t, "length", length, 100+math.Hypot(80, 30), 1e-6)
	near(t, "reached", n.ReachedM2, 16*length+math.Pi*64, 60)
	near(t, "flow", n.FlowM3S, 0.007*n.ReachedM2/86400+0.0005, 1e-9)
	if len(n.Laterals) != 0 || n.Laterals == nil {
		t.Error("laterals of a drain alone")
	}
}

// The wet part is a circle where it lies inside, cut at the edge and at a hole, and nothing where nobody said.
func TestRingOfTheWetPart(t *testing.T) {
	holed := [][]XY{rect[0], {{90, 50}, {110, 50}, {110, 70}, {90, 70}}}
	if r := (Wet{At: XY{40, 60}, RadiusM: 20}).Ring(rect); math.Abs(Area([][]XY{r})-math.Pi*400) > 0.01*math.Pi*400 {
		t.Errorf("a circle of %.0f m²", Area([][]XY{r}))
	}
	for name, c := range map[string]struct {
		wet         Wet
		in          [][]XY
		least, most float64
	}{"at the edge": {Wet{XY{0.5, 60}, 20}, rect, 0.45, 0.6}, "by a hole": {Wet{XY{70, 60}, 30}, holed, 0.7, 0.95}} {
		r := c.wet.Ring(c.in)
		share := Area([][]XY{r}) / (math.Pi * c.wet.RadiusM * c.wet.RadiusM)
		if share < c.least || share > c.most {
			t.Errorf("%s: %.2f of the circle", name, share)
		}
		for _, p := range r {
			if inset := along(p, sub(c.wet.At, p), 1e-6); !within(inset, c.in) {
				t.Errorf("%s: %v lies outside", name, p)
			}
		}
	}
	if (Wet{At: XY{100, 60}}).Ring(rect) != nil || (Wet{XY{100, 60}, 10}).Ring(holed) != nil {
		t.Error("a part without a radius, or one in a hole")
	}
}
