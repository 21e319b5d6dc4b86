package terrain

import (
	"bufio"
	"math"
	"os"
	"strconv"
	"strings"
	"testing"
)

// plane has a known slope: 3 % up to the east, 4 % up to the north, 5 % in all.
func plane(nx, ny int, cell float64) *Surface {
	s, _ := NewSurface(0, 0, cell, nx, ny)
	for j := 0; j < ny; j++ {
		for i := 0; i < nx; i++ {
			s.Z[j*nx+i] = 100 + 0.03*float64(i)*cell + 0.04*float64(j)*cell
		}
	}
	return s
}

func TestSlopeOfAPlane(t *testing.T) {
	s := plane(20, 15, 5)
	pct, falls, ok := s.Slope(7, 7)
	if !ok || math.Abs(pct-5) > 1e-9 || math.Abs(falls-216.8699) > 1e-3 {
		t.Errorf("%g %% falling to %g°", pct, falls)
	}
	l, ok := s.Lie(func(x, y float64) bool { return true })
	if !ok || math.Abs(l.SlopePct-5) > 1e-9 || math.Abs(l.Uniform-1) > 1e-9 || l.Cells != 18*13 {
		t.Errorf("%+v", l)
	}
	if math.Abs(s.Height(12.5, 33)-(100+0.03*12.5+0.04*33)) > 1e-9 || !math.IsNaN(s.Height(-1, 0)) {
		t.Error("height between cells")
	}
	// the corners are inside
	if math.IsNaN(s.Height(95, 70)) {
		t.Error("the far corner has no height")
	}
}

// Contours of a plane are straight, parallel, 20 m apart on the ground at 1 m of height and 5 %.
func TestContoursOfAPlane(t *testing.T) {
	s := plane(101, 81, 1)
	lines := s.Contours(1)
	if len(lines) != 6 { // 101 to 106
		t.Fatalf("%d lines", len(lines))
	}
	for _, l := range lines {
		for _, p := range l.Points {
			if math.Abs(100+0.03*p[0]+0.04*p[1]-l.Z) > 1e-9 {
				t.Fatalf("the line of %g passes %v", l.Z, p)
			}
		}
		if l.Closed {
			t.Errorf("the line of %g closes on itself", l.Z)
		}
	}
}

// A cone has closed circles; their length is that of the circle.
func TestContoursOfACone(t *testing.T) {
	s, _ := NewSurface(-50, -50, 1, 101, 101)
	for j := 0; j < s.NY; j++ {
		for i := 0; i < s.NX; i++ {
			s.Z[j*s.NX+i] = 50.5 - math.Hypot(float64(i-50), float64(j-50))
		}
	}
	rings := 0
	for _, l := range s.Contours(10) {
		r := 50.5 - l.Z
		if r >= 50 {
			continue
		}
		if !l.Closed {
			t.Errorf("the circle of %g is open", l.Z)
		}
		rings++
		length := 0.0
		for i := range l.Points {
			q := l.Points[(i+1)%len(l.Points)]
			length += math.Hypot(l.Points[i][0]-q[0], l.Points[i][1]-q[1])
		}
		if r > 5 && math.Abs(length/(2*math.Pi*r)-1) > 0.02 {
			t.Errorf("radius %g: %g m round, want %g", r, length, 2*math.Pi*r)
		}
	}
	if rings != 5 {
		t.Errorf("%d rings", rings)
	}
}

// Moving planes give a plane back, and refuse a line of spots.
func TestSurfaceFromSpots(t *testing.T) {
	var spots []Spot
	r := uint32(7)
	for i := 0; i < 30; i++ {
		r = r*1664525 + 1013904223
		x := float64(r>>8%200) / 2
		r = r*1664525 + 1013904223
		y := float64(r>>8%200) / 2
		x, y = math.Mod(x, 100), math.Mod(y, 100)
		spots = append(spots, Spot{x, y, 12 + 0.02*x - 0.05*y, 0.05})
	}
	s, err := FromSpots(spots, 0, 0, 10, 11, 11)
	if err != nil {
		t.Fatal(err)
	}
	for j := 0; j < 11; j++ {
		for i := 0; i < 11; i++ {
			if want := 12 + 0.2*float64(i) - 0.5*float64(j); math.Abs(s.At(i, j)-want) > 1e-6 {
				t.Fatalf("(%d, %d): %g, want %g", i, j, s.At(i, j), want)
			}
		}
	}
	if math.Abs(s.AccuracyM-0.05) > 1e-12 {
		t.Error("accuracy is lost")
	}
	for _, bad := range [][]Spot{{}, {{0, 0, 1, 0}, {1, 1, 1, 0}}, {{0, 0, 1, 0}, {1, 1, 1, 0}, {2, 2, 3, 0}}} {
		if _, err := FromSpots(bad, 0, 0, 1, 4, 4); err == nil {
			t.Errorf("%v made a surface", bad)
		}
	}
}

// gdaldem slope and aspect on the same grid (GDAL 3.6.2; the commands stand beside the files).
func TestAgainstGDAL(t *testing.T) {
	z, head := grid(t, "testdata/hill.asc")
	slope, _ := grid(t, "testdata/hill-slope.asc")
	aspect, _ := grid(t, "testdata/hill-aspect.asc")
	nx, ny := int(head["ncols"]), int(head["nrows"])
	s, err := NewSurface(0, 0, head["cellsize"], nx, ny)
	if err != nil {
		t.Fatal(err)
	}
	// ASCII grids run from north to south
	for j := 0; j < ny; j++ {
		copy(s.Z[(ny-1-j)*nx:(ny-j)*nx], z[j*nx:(j+1)*nx])
	}
	n := 0
	for j := 1; j < ny-1; j++ {
		for i := 1; i < nx-1; i++ {
			k := (ny-1-j)*nx + i
			pct, falls, _ := s.Slope(i, j)
			if math.Abs(pct-slope[k]) > 2e-3*math.Max(1, slope[k]) {
				t.Fatalf("cell %d, %d: slope %g, GDAL %g", i, j, pct, slope[k])
			}
			if d := math.Abs(math.Mod(falls-aspect[k]+540, 360) - 180); aspect[k] >= 0 && d > 0.02 {
				t.Fatalf("cell %d, %d: falls to %g, GDAL %g", i, j, falls, aspect[k])
			}
			n++
		}
	}
	if n != 38*28 {
		t.Errorf("%d cells compared", n)
	}
}

func grid(t *testing.T, name string) ([]float64, map[string]float64) {
	t.Helper()
	file, err := os.Open(name)
	if err != nil {
		t.Fatal(err)
	}
	defer file.Close()
	head := map[string]float64{}
	var out []float64
	sc := bufio.NewScanner(file)
	sc.Buffer(nil, 1<<20)
	for sc.Scan() {
		words := strings.Fields(sc.Text())
		if len(words) == 2 && words[0][0] >= 'A' {
			head[strings.ToLower(words[0])], _ = strconv.ParseFloat(words[1], 64)
			continue
		}
		for _, w := range words {
			v, err := strconv.ParseFloat(w, 64)
			if err != nil {
				t.Fatal(err)
			}
			out = append(out, v)
		}
	}
	return out, head
}

func TestHollowsAndGathering(t *testing.T) {
	s := plane(30, 30, 2)
	for j := 13; j <= 16; j++ {
		for i := 13; i <= 16; i++ {
			s.Z[j*30+i] -= 1.5
		}
	}
	f := s.Fill()
	hs := f.Hollows(0.5, func(x, y float64) bool { return true })
	if len(hs) != 1 || math.Abs(hs[0].X-26) > 2.1 || !(hs[0].DepthM > 1 && hs[0].DepthM < 1.5) {
		t.Fatalf("%+v", hs)
	}
	// all water leaves over the rim: what leaves is the whole area
	total, gathered := 0.0, f.Gathering()
	for k, to := range f.To {
		if to < 0 {
			total += gathered[k]
		}
	}
	if math.Abs(total-30*30*4) > 1e-6 {
		t.Errorf("%g m² leave of %d", total, 30*30*4)
	}
	for k := range s.Z {
		if f.Level[k] < s.Z[k] {
			t.Fatal("filled below the ground")
		}
		if to := f.To[k]; to >= 0 && f.Level[to] > f.Level[k]+1e-9 {
			t.Fatal("water runs uphill")
		}
	}
}

// Method SITE-1, rule-computed.
func TestFrostPocket(t *testing.T) {
	hedge := &Barrier{Kind: "hedge", HeightM: 3, Porosity: 0.1}
	gap := &Barrier{Kind: "hedge", HeightM: 3, Porosity: 0.1, Gap: true}
	for _, c := range []struct {
		name  string
		c     Cold
		score int
		word  string
	}{
		{"low and dammed", Cold{Relief: 0.10, TPI500: -3, SlopePct: 0.8, Dammed: hedge, DammedBy: 8}, 7, "pocket"},
		{"the same, opened", Cold{Relief: 0.10, TPI500: -3, SlopePct: 0.8, Dammed: gap, DammedBy: 8}, 6, "high"},
		{"mid-slope", Cold{Relief: 0.5, SlopePct: 5}, 0, "low"},
		{"too far to matter", Cold{Relief: 0.10, TPI500: -3, SlopePct: 0.8, Dammed: hedge, DammedBy: 21}, 5, "high"},
	} {
		if j := c.c.Judge(); j.Score != c.score || j.Word != c.word {
			t.Errorf("%s: %d %s %v", c.name, j.Score, j.Word, j.Signs)
		}
	}
	// the hedge below the point on a real surface is found, the one above is not
	s := plane(60, 60, 10)
	f := s.Fill()
	below := Barrier{Kind: "hedge", HeightM: 4, Line: [][2]float64{{150, 50}, {50, 150}}}
	above := Barrier{Kind: "bank", HeightM: 4, Line: [][2]float64{{550, 350}, {350, 550}}}
	c, ok := f.ColdAt(140, 130, []Barrier{above, below}, false)
	if !ok || c.Dammed == nil || c.Dammed.Kind != "hedge" || c.LongSlope == false {
		t.Errorf("%+v %v", c, ok)
	}
}

// FAO, Guidelines for soil description, 2006, slope classes; Sheng, FAO Soils Bulletin 60, 1989, benches.
func TestSlopeClassesAndTerraces(t *testing.T) {
	for pct, want := range map[float64]string{0.2: "flat", 0.3: "level", 2: "very gently sloping", 10: "sloping", 15: "strongly sloping", 30: "moderately steep", 61: "very steep"} {
		if got := ClassOfSlope(pct).Name; got != want {
			t.Errorf("%g %% is %s", pct, got)
		}
	}
	for _, c := range []struct{ s, w, u, vi, pitch, share, cut, perHa float64 }{{20, 3, 0.75, 0.7059, 3.5294, 0.85, 0.225, 637}, {35, 2.5, 1, 1.3462, 3.8462, 0.65, 0.2734, 711}} {
		b, err := NewTerrace(c.s, c.w, c.u)
		if err != nil || math.Abs(b.IntervalM-c.vi) > 1e-4 || math.Abs(b.PitchM-c.pitch) > 1e-4 || math.Abs(b.BenchShare-c.share) > 1e-4 || math.Abs(b.CutM3PerM-c.cut) > 1e-4 || math.Abs(b.CutM3PerHa-c.perHa) > 1 {
			t.Errorf("%+v: %+v %v", c, b, err)
		}
	}
	if _, err := NewTerrace(120, 2, 1); err == nil {
		t.Error("a bench on 120 %")
	}
	if math.Abs(AlongSlope(5)-1.00125) > 1e-5 || math.Abs(AlongSlope(20)-1.0198) > 1e-5 {
		t.Error("length along a slope")
	}
}

func BenchmarkGrid1000(b *testing.B) {
	s := plane(1000, 1000, 1)
	for k := range s.Z {
		s.Z[k] += 3 * math.Sin(float64(k%1000)/40) * math.Cos(float64(k/1000)/55)
	}
	for b.Loop() {
		s.Lie(func(x, y float64) bool { return true })
		s.Contours(1)
	}
}
