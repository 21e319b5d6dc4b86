package terrain

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
)

// made is a surface of a function, with its corner off the origin and as many columns as it has not rows.
func made(t testing.TB, x0, y0, cell float64, nx, ny int, z func(x, y float64) float64) *Surface {
	t.Helper()
	s, err := NewSurface(x0, y0, cell, nx, ny)
	if err != nil {
		t.Fatal(err)
	}
	for j := range ny {
		for i := range nx {
			s.Z[j*nx+i] = z(x0+cell*float64(i), y0+cell*float64(j))
		}
	}
	return s
}

// Every sign of method SITE-1 alone: its points, and what it says.
func TestEverySignOfCold(t *testing.T) {
	hedge := func(porosity float64, gap bool) *Barrier {
		return &Barrier{Kind: "hedge", HeightM: 3, Porosity: porosity, Gap: gap}
	}
	high := Cold{Relief: 0.9, SlopePct: 5} // no sign at all
	with := func(change func(*Cold)) Cold { c := high; change(&c); return c }
	for _, c := range []struct {
		name  string
		c     Cold
		score int
		words []string
	}{
		{"nothing", high, 0, nil},
		{"a hollow", with(func(c *Cold) { c.HollowM = 0.5 }), 4, []string{"+4 closed hollow, 0.5 m below where it spills"}},
		{"nearly one", with(func(c *Cold) { c.HollowM = 0.49 }), 0, nil},
		{"lowest", with(func(c *Cold) { c.Relief = 0.14 }), 3, []string{"+3 in the lowest part of the ground around (14 % of the relief)"}},
		{"low", with(func(c *Cold) { c.Relief = 0.3 }), 2, []string{"+2 low in the ground around (30 % of the relief)"}},
		{"half-way", with(func(c *Cold) { c.Relief, c.SlopePct = 0.6, 2 }), 1, []string{"+1 half-way down the ground around (60 % of the relief)"}},
		{"below the mean", with(func(c *Cold) { c.TPI500 = -2.5 }), 1, []string{"+1 2.5 m below the mean of the ground around"}},
		{"a little below it", with(func(c *Cold) { c.TPI500 = -2 }), 0, nil},
		{"flat", with(func(c *Cold) { c.SlopePct = 0.4 }), 1, []string{"+1 slope of only 0.4 %"}},
		{"dammed", with(func(c *Cold) { c.Dammed, c.DammedBy = hedge(0.2, false), 20 }), 2, []string{"+2 a dense hedge below, 20 heights away, dams the cold air"}},
		{"with a gap", with(func(c *Cold) { c.Dammed, c.DammedBy = hedge(0.2, true), 4 }), 1, []string{"+1 a dense hedge below, 4 heights away, with a gap kept"}},
		{"an open hedge", with(func(c *Cold) { c.Dammed, c.DammedBy = hedge(0.3, false), 4 }), 0, nil},
		{"a long slope", with(func(c *Cold) { c.LongSlope = true }), 1, []string{"+1 more than 300.0 m of open slope above feed it"}},
		{"water", with(func(c *Cold) { c.WaterBelow = true }), -2, []string{"-2 open water on the lower side"}},
		{"the warm belt", with(func(c *Cold) { c.Relief = 0.7 }), -1, []string{"-1 in the warm belt of the slope"}},
		{"too steep for it", with(func(c *Cold) { c.Relief, c.SlopePct = 0.7, 11 }), 0, nil},
		{"too flat for it", with(func(c *Cold) { c.Relief, c.SlopePct = 0.7, 2.9 }), 0, nil},
		{"too high for it", with(func(c *Cold) { c.Relief = 0.86 }), 0, nil},
	} {
		j := c.c.Judge()
		got := j.Text(func(m float64) string { return fmt.Sprintf("%.1f m", m) })
		if j.Score != c.score || got != strings.Join(c.words, "; ") {
			t.Errorf("%s: %d, %q", c.name, j.Score, got)
		}
	}
	if j := (Cold{Relief: 0.9, SlopePct: 5, TPI500: -8}).Judge(); math.Abs(j.ColderC[0]-0.4)+math.Abs(j.ColderC[1]-0.8)+math.Abs(j.ColderC[2]-1.2) > 1e-9 {
		t.Errorf("8 m below the mean: %v °C colder", j.ColderC)
	}
	if j := (Cold{Relief: 0.9, SlopePct: 5, TPI500: 8}).Judge(); j.ColderC != [3]float64{} {
		t.Errorf("8 m above the mean: %v °C colder", j.ColderC)
	}
	for score, word := range map[int]string{1: "low", 2: "moderate", 4: "moderate", 5: "high", 6: "high", 7: "pocket"} {
		c := Cold{Relief: 0.9, SlopePct: 5}
		if score >= 4 {
			c.HollowM = 1
		}
		rest := score - map[bool]int{true: 4}[score >= 4]
		c.LongSlope = rest%2 == 1
		if rest >= 2 {
			c.Relief = 0.2
		}
		if j := c.Judge(); j.Score != score || j.Word != word {
			t.Errorf("score %d: %d %s", score, j.Score, j.Word)
		}
	}
}

// ColdAt against the same measures taken without a grid: every node within 500 m by its coordinates.
func TestColdAgainstItsDefinition(t *testing.T) {
	z := func(x, y float64) float64 { return 60 + 0.05*x - 0.02*y + 6*math.Sin(x/170)*math.Cos(y/130) }
	for _, g := range []struct {
		x0, y0, cell float64
		nx, ny, step int
	}{{-420, 130, 15, 90, 70, 1}, {210, -333, 4, 301, 280, 2}} {
		f := made(t, g.x0, g.y0, g.cell, g.nx, g.ny, z).Fill()
		for _, at := range [][2]float64{{g.x0 + 0.4*g.cell*float64(g.nx), g.y0 + 0.6*g.cell*float64(g.ny)}, {g.x0 + 3*g.cell, g.y0 + 5*g.cell}} {
			mid := f.Height(at[0], at[1])
			lo, hi, sum, far, n := mid, mid, 0.0, 0.0, 0.0
			for i := 0; i < g.nx; i += g.step {
				for j := 0; j < g.ny; j += g.step {
					x, y := g.x0+g.cell*float64(i), g.y0+g.cell*float64(j)
					d := math.Sqrt((x-at[0])*(x-at[0]) + (y-at[1])*(y-at[1]))
					if d <= 500 {
						lo, hi, sum, far, n = min(lo, z(x, y)), max(hi, z(x, y)), sum+z(x, y), max(far, d), n+1
					}
				}
			}
			c, ok := f.ColdAt(at[0], at[1], nil, true)
			if !ok || math.Abs(c.Relief-(mid-lo)/(hi-lo)) > 1e-9 || math.Abs(c.TPI500-(mid-sum/n)) > 1e-9 || math.Abs(c.ReliefM-(mid-lo)) > 1e-9 || math.Abs(c.KnownRadiusM-far) > 1e-9 || !c.WaterBelow {
				t.Errorf("at %v: %+v, want relief %.4f, %.4f m over the mean, %.4f m over the lowest, known to %.1f m", at, c, (mid-lo)/(hi-lo), mid-sum/n, mid-lo, far)
			}
			// the slope is that of the nearest node
			h := 1e-3
			i, j := math.Round((at[0]-g.x0)/g.cell), math.Round((at[1]-g.y0)/g.cell)
			x, y := g.x0+g.cell*i, g.y0+g.cell*j
			pct := 100 * math.Hypot((z(x+h, y)-z(x-h, y))/(2*h), (z(x, y+h)-z(x, y-h))/(2*h))
			if math.Abs(c.SlopePct-pct) > 0.1 {
				t.Errorf("at %v: slope %.3f %%, want %.3f %%", at, c.SlopePct, pct)
			}
		}
		if _, ok := f.ColdAt(g.x0-50, g.y0, nil, false); ok {
			t.Error("a point off the heights is judged")
		}
	}
	level := made(t, 10, 20, 10, 30, 30, func(x, y float64) float64 { return 100 + 0.0001*x }).Fill()
	if c, ok := level.ColdAt(100, 100, nil, false); !ok || c.Relief != 0.5 {
		t.Errorf("level ground lies at %g of its relief", c.Relief)
	}
	bowl := made(t, 10, 20, 10, 30, 20, func(x, y float64) float64 {
		if math.Abs(x-150) < 16 && math.Abs(y-100) < 16 {
			return 97
		}
		return 100
	}).Fill()
	if c, _ := bowl.ColdAt(150, 100, nil, false); c.HollowM != 3 {
		t.Errorf("a hollow of %g m", c.HollowM)
	}
}

// What dams the air below a point, and what turns it aside above one: distances by hand.
func TestBarriersAndLongSlopes(t *testing.T) {
	rise := func(x, y float64) float64 { return 100 + 0.05*y } // falls to the south
	f := made(t, -205, -300, 10, 41, 101, rise).Fill()
	line := func(y float64) [][2]float64 { return [][2]float64{{-190, y}, {-20, y}, {190, y}} }
	at := func(bs ...Barrier) Cold {
		c, ok := f.ColdAt(0, 0, bs, false)
		if !ok {
			t.Fatal("no heights")
		}
		return c
	}
	hedge := func(y, high, porosity float64) Barrier {
		return Barrier{Kind: fmt.Sprint(y), Line: line(y), HeightM: high, Porosity: porosity}
	}
	if c := at(hedge(-60, 4, 0.1), hedge(-40, 4, 0.1), hedge(-10, 0, 0.1)); c.Dammed == nil || c.Dammed.Kind != "-40" || math.Abs(c.DammedBy-10) > 1e-6 {
		t.Errorf("%+v", c)
	}
	if c := at(hedge(-84, 4, 0.1)); c.Dammed != nil {
		t.Errorf("a hedge 21 heights away dams: %+v", c)
	}
	if c := at(hedge(40, 4, 0.9)); c.Dammed != nil || !c.LongSlope {
		t.Errorf("an open hedge above: %+v", c)
	}
	for y, long := range map[float64]bool{250: false, 310: true, 50: false} {
		if c := at(hedge(y, 2, 0.1)); c.LongSlope != long {
			t.Errorf("a dense hedge %g m above: long slope %v", y, c.LongSlope)
		}
	}
	// a dip on the way up turns the air aside; so does the end of what is known
	dip := made(t, -205, -300, 10, 41, 101, func(x, y float64) float64 {
		if y > 190 && y < 230 {
			return rise(x, 150)
		}
		return rise(x, y)
	}).Fill()
	if c, _ := dip.ColdAt(0, 0, nil, false); c.LongSlope {
		t.Error("air runs over a dip")
	}
	short := made(t, -205, -300, 10, 41, 55, rise).Fill()
	if c, _ := short.ColdAt(0, 0, nil, false); c.LongSlope {
		t.Error("a slope nobody knows feeds it")
	}
	for _, c := range []struct {
		dir  [2]float64
		line [][2]float64
		want float64
	}{
		{[2]float64{0, 1}, [][2]float64{{0, 10}, {8, 10}}, 7},
		{[2]float64{0.6, 0.8}, [][2]float64{{5, 0}, {5, 40}}, 5},
		{[2]float64{1, 0}, [][2]float64{{3, 3}, {9, 3}}, math.Inf(1)},           // along it
		{[2]float64{-1, 0}, [][2]float64{{5, 0}, {5, 40}}, math.Inf(1)},         // behind
		{[2]float64{1, 0}, [][2]float64{{9, 4}, {9, 8}}, math.Inf(1)},           // beside
		{[2]float64{1, 0}, [][2]float64{{20, -5}, {20, 9}, {8, 9}, {8, -5}}, 6}, // the nearest of two
		{[2]float64{0, -1}, [][2]float64{{-4, -1}, {8, -5}}, 6},                 // aslant: y at x = 2 is −3
	} {
		d, ok := ray(2, 3, c.dir, c.line)
		if ok == math.IsInf(c.want, 1) || ok && math.Abs(d-c.want) > 1e-9 {
			t.Errorf("along %v to %v: %g %v, want %g", c.dir, c.line, d, ok, c.want)
		}
	}
}

// A surface from spots that lie on no plane, against a weighted least squares of numpy:
// w = 1/(d² + h²)², h half of √(width · height / n); np.linalg.lstsq(A*√w, z*√w).
func TestSpotsAgainstLeastSquares(t *testing.T) {
	spots := []Spot{{3, 2, 10.1, 0.01}, {41, 7, 12.4, 0.03}, {18, 33, 9.2, 0.02}, {55, 38, 14.9, 0.02}, {9, 51, 8.8, 0.01}, {47, 58, 13.1, 0.01}, {30, 19, 11.7, 0.05}, {60, 20, 15.2, 0.01}}
	s, err := FromSpots(spots, 5, -4, 12, 5, 4)
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		i, j int
		want float64
	}{{0, 0, 10.512694}, {1, 0, 11.320685}, {4, 0, 13.699976}, {0, 1, 9.961061}, {2, 2, 11.486845}, {3, 3, 12.856449}} {
		if got := s.At(c.i, c.j); math.Abs(got-c.want) > 1e-6 {
			t.Errorf("(%d, %d): %.6f, want %.6f", c.i, c.j, got, c.want)
		}
	}
	if math.Abs(s.AccuracyM-0.02) > 1e-12 {
		t.Errorf("accuracy %g", s.AccuracyM)
	}
	one := []Spot{{4, 4, 1, 0}, {4, 4, 2, 0}, {4, 4, 3, 0}}
	if _, err := FromSpots(one, 0, 0, 1, 3, 3); err == nil {
		t.Error("one place makes a surface")
	}
	// nearly in a line across the grid: a wedge of 0.1 m on 100 m is a line no more than a level is
	if flatness([]Spot{{X: 0, Y: 0}, {X: 10, Y: 0}, {X: 0, Y: 10}, {X: 10, Y: 10}}) != 0.25 {
		t.Error("a square is not as round as can be")
	}
	for _, c := range [][3]float64{{0, 4, 4}, {-1, 4, 4}, {1, 1, 4}, {1, 4, 1}, {1, 2001, 2000}, {math.NaN(), 4, 4}} {
		if _, err := NewSurface(0, 0, c[0], int(c[1]), int(c[2])); err == nil {
			t.Errorf("%v is a grid", c)
		}
	}
	if g, err := NewSurface(0, 0, 1, 2, 2); err != nil || !math.IsNaN(g.Z[3]) {
		t.Error("a new grid of two by two")
	}
}

// The lie of a piece of a hill, against sums over its cells by their coordinates.
func TestLieAgainstItsDefinition(t *testing.T) {
	z := func(x, y float64) float64 { return 40 + 0.001*x*x + 0.0007*y*y + 0.02*x }
	s := made(t, 30, -70, 5, 40, 30, z)
	s.Z[8*40+12] = math.NaN()
	in := func(x, y float64) bool { return x > 60 && x < 180 && y < 40 }
	l, ok := s.Lie(in)
	if !ok {
		t.Fatal("no lie")
	}
	var slopes []float64
	lo, hi, sum, n, ex, ny := math.Inf(1), math.Inf(-1), 0.0, 0.0, 0.0, 0.0
	for j := range 30 {
		for i := range 40 {
			x, y := 30+5*float64(i), -70+5*float64(j)
			if !in(x, y) || i == 12 && j == 8 {
				continue
			}
			lo, hi, sum, n = min(lo, z(x, y)), max(hi, z(x, y)), sum+z(x, y), n+1
			if j == 0 || max(i-12, 12-i) <= 1 && max(j-8, 8-j) <= 1 {
				continue // at the rim and beside what is missing there is no slope
			}
			gx, gy := 0.002*x+0.02, 0.0014*y // Horn's formula is exact on a quadratic
			slopes = append(slopes, 100*math.Hypot(gx, gy))
			ex, ny = ex-100*gx, ny-100*gy
		}
	}
	total := 0.0
	for _, p := range slopes {
		total += p
	}
	slices.Sort(slopes)
	fall := math.Atan2(ex, ny) * 180 / math.Pi
	if fall < 0 {
		fall += 360
	}
	if l.Cells != len(slopes) || math.Abs(l.MinZ-lo)+math.Abs(l.MaxZ-hi)+math.Abs(l.MeanZ-sum/n) > 1e-9 || math.Abs(l.SlopePct-total/float64(len(slopes))) > 1e-6 || math.Abs(l.Steepest-slopes[int(0.95*float64(len(slopes)-1))]) > 1e-6 || math.Abs(l.FallsTo-fall) > 1e-6 || math.Abs(l.Uniform-math.Hypot(ex, ny)/total) > 1e-9 {
		t.Errorf("%+v; want %d cells, %.3f to %.3f, mean %.4f, slope %.4f, steepest %.4f, falls to %.3f, uniform %.4f", l, len(slopes), lo, hi, sum/n, total/float64(len(slopes)), slopes[int(0.95*float64(len(slopes)-1))], fall, math.Hypot(ex, ny)/total)
	}
	if _, ok := s.Lie(func(x, y float64) bool { return x < 31 && y < -69 }); ok {
		t.Error("a corner has a slope")
	}
	for _, p := range [][2]float64{{225, 75}, {30, 75}, {225, -70}, {112.5, 75}, {225, -12.5}} {
		if got := s.Height(p[0], p[1]); math.IsNaN(got) || math.Abs(got-z(p[0], p[1])) > 0.02 {
			t.Errorf("the rim at %v lies at %g, want %g", p, got, z(p[0], p[1]))
		}
	}
	for k := range 9 {
		v := []float64{5, 1, 4, 1, 3, 9, 2, 6, 5}
		if got := nth(v, k); got != []float64{1, 1, 2, 3, 4, 5, 5, 6, 9}[k] {
			t.Errorf("the %d-th is %g", k, got)
		}
	}
}

// Contours of a grid off the origin: every line is as long as the plane cuts the field, passes in straight steps, and
// a saddle parts as its middle says.
func TestContoursOffTheOrigin(t *testing.T) {
	s := made(t, 7, -31, 2, 26, 41, func(x, y float64) float64 { return 12 + 0.25*(y+31) })
	lines := s.Contours(2.5)
	if len(lines) != 9 { // 12 to 32 m: 12.5, 15 … 30, and 32 is no multiple
		t.Logf("%d lines", len(lines))
	}
	for _, l := range lines {
		first, last := l.Points[0], l.Points[len(l.Points)-1]
		y := -31 + (l.Z-12)/0.25
		if l.Closed || math.Abs(math.Abs(first[0]-last[0])-50) > 1e-9 || math.Abs(first[1]-y)+math.Abs(last[1]-y) > 1e-9 || len(l.Points) < 26 {
			t.Errorf("the line of %g runs from %v to %v in %d points", l.Z, first, last, len(l.Points))
		}
	}
	if n := len(lines); n != 8 {
		t.Errorf("%d lines", n)
	}
	// x·y: a saddle; no line of 1 m crosses the axes
	saddle := made(t, -10.5, -8.5, 1, 22, 18, func(x, y float64) float64 { return x * y / 4 })
	for _, l := range saddle.Contours(1) {
		for i, p := range l.Points {
			if i > 0 && math.Hypot(p[0]-l.Points[i-1][0], p[1]-l.Points[i-1][1]) > math.Sqrt2+1e-9 {
				t.Fatalf("the line of %g jumps from %v to %v", l.Z, l.Points[i-1], p)
			}
			if l.Z != 0 && (p[0]*l.Points[0][0] < 0 || p[1]*l.Points[0][1] < 0) {
				t.Fatalf("the line of %g crosses the saddle at %v", l.Z, p)
			}
		}
	}
	// one cell, corners high across: the middle settles which are joined
	for _, c := range []struct {
		high, z float64
	}{{4, 1.9}, {4, 2.1}} {
		one := made(t, 0, 0, 1, 2, 2, func(x, y float64) float64 {
			if x == y {
				return c.high
			}
			return 0
		})
		for _, l := range one.Contours(c.z) {
			if l.Z != c.z || len(l.Points) != 2 {
				continue
			}
			p, q := l.Points[0], l.Points[1]
			low := p[0] == 1 && q[1] == 0 || p[1] == 0 && q[0] == 1 || p[0] == 0 && q[1] == 1 || p[1] == 1 && q[0] == 0 // cuts off a low corner
			if low != (c.z < c.high/2) {
				t.Errorf("level %g between corners of 0 and %g: %v", c.z, c.high, l.Points)
			}
		}
	}
	for _, c := range []struct{ span, want float64 }{{0.9, 0.1}, {1.5, 0.2}, {7, 1}, {30, 5}, {999, 100}, {1001, 200}} {
		if got := Interval(c.span); got != c.want {
			t.Errorf("%g m of relief: a line every %g m, want %g", c.span, got, c.want)
		}
	}
	for _, every := range []float64{0, -1, 1e-3, math.NaN()} {
		if n := len(s.Contours(every)); n != 0 {
			t.Errorf("every %g m: %d lines", every, n)
		}
	}
	if n := len(s.Contours(0.01)); n == 0 {
		t.Error("2 000 lines are refused")
	}
}

// Hollows by hand: two pits cut into a tilted plane, their depth to the lower rim and their ground; and water that
// runs down a valley.
func TestHollowsByHand(t *testing.T) {
	s := made(t, 50, -20, 2, 30, 20, func(x, y float64) float64 {
		z := 100 + 0.1*(x-50)
		switch {
		case x >= 62 && x <= 66 && y >= 0 && y <= 2:
			z = 99 // lowest rim: the cells at x = 60, 101
		case x == 90 && y == 10:
			z = 101 // spills at x = 88, 103.8
		}
		return z
	})
	hs := s.Fill().Hollows(0.5, func(x, y float64) bool { return true })
	if len(hs) != 2 || math.Abs(hs[0].DepthM-2.8) > 1e-9 || hs[0].X != 90 || hs[0].Y != 10 || hs[0].AreaM2 != 4 || math.Abs(hs[1].DepthM-2) > 1e-9 || hs[1].AreaM2 != 24 {
		t.Errorf("%+v", hs)
	}
	if n := len(s.Fill().Hollows(2.5, func(x, y float64) bool { return true })); n != 1 {
		t.Errorf("%d hollows of 2.5 m", n)
	}
	if n := len(s.Fill().Hollows(0.5, func(x, y float64) bool { return x < 80 })); n != 1 {
		t.Errorf("%d hollows in the west", n)
	}
	// a valley along y = 0 that falls to the west: all of its ground leaves at its mouth
	v := made(t, 0, -20, 2, 25, 21, func(x, y float64) float64 { return 10 + 0.01*x + 0.2*math.Abs(y) })
	f := v.Fill()
	g := f.Gathering()
	mouth := g[10*25]
	if mouth < 0.6*25*21*4 || f.To[10*25] != -1 || f.To[10*25+7] != 10*25+6 {
		t.Errorf("%.0f m² of %d leave at the mouth", mouth, 25*21*4)
	}
	// a missing height is a rim: water leaves into it
	v.Z[10*25+12] = math.NaN()
	f = v.Fill()
	if f.To[10*25+12] != -1 || !math.IsNaN(f.Level[10*25+12]) || f.To[10*25+13] != -1 {
		t.Error("a missing height holds water")
	}
}

func TestTerraceIsRefused(t *testing.T) {
	for _, c := range [][3]float64{{0, 3, 1}, {-4, 3, 1}, {100, 3, 1}, {20, 0, 1}, {20, 51, 1}, {20, 3, -0.1}, {20, 3, 3.1}, {math.NaN(), 3, 1}, {20, math.NaN(), 1}, {20, 3, math.NaN()}} {
		if b, err := NewTerrace(c[0], c[1], c[2]); err == nil {
			t.Errorf("%v: %+v", c, b)
		}
	}
	if b, err := NewTerrace(30, 50, 3); err != nil || math.Abs(b.RiserM-b.IntervalM-0.1) > 1e-12 || math.Abs(b.IntervalM-150) > 1e-9 {
		t.Errorf("%+v %v", b, err)
	}
	if ClassOfSlope(math.Inf(1)).Name != "very steep" || ClassOfSlope(math.NaN()).Name != "very steep" {
		t.Error("no class of a cliff")
	}
}
