package geo

import (
	"errors"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

// The plane is 1 + x²/2R² too long at x east of its middle, R² = M·N (Snyder, Map projections, USGS PP 1395, 1987): of a
// square kilometre between 50 and 51 km east, the mean of x² is (50² + 50·51 + 51²)/3 km².
func TestTrueAreaFarFromTheMiddle(t *testing.T) {
	for _, lat := range []float64{0, -38, 66} {
		const a, e2 = 6378137.0, 0.00669437999014
		q := 1 - e2*math.Pow(math.Sin(lat*math.Pi/180), 2)
		mn := a * (1 - e2) / math.Pow(q, 1.5) * a / math.Sqrt(q)
		want := 1e6 * (1 - (50e3*50e3+50e3*51e3+51e3*51e3)/3/mn)
		sq := []XY{{50e3, 7e3}, {51e3, 7e3}, {51e3, 8e3}, {50e3, 8e3}}
		if got := trueArea(sq, lat); math.Abs(got-want) > 1e-3 {
			t.Errorf("at %g°: %.4f m², want %.4f", lat, got, want)
		}
	}
	// straight on the plane is not a geodesic, so that ground 25 km wide agrees to three parts in a million: Planimeter of
	// GeographicLib (Karney, J. Geodesy 87, 2013)
	for _, c := range []struct {
		r    Ring
		want float64
	}{{polyWide.Outer, 255615414.2524}, {ring(10, 60, 10.4, 60.1, 10.1, 60.25, 9.9, 60.2), 417881486.9}, {ring(30, 2, 30.1, 2.3, 30.3, 2.1), 492038598.7}} {
		if got := AreaM2(Polygon{Outer: c.r}); math.Abs(got/c.want-1) > 3e-6 {
			t.Errorf("%v: %.2f m², want %.2f (%.2g)", c.r[0], got, c.want, got/c.want-1)
		}
	}
}

// From turns To back far from the middle, at every latitude and the long way round.
func TestPlaneComesBackFromAfar(t *testing.T) {
	for _, o := range []Point{{0, 0.5}, {179.9, 71}, {-179.9, -78}, {-70, 45}, {10, 84}} {
		pl := PlaneAt(o)
		for _, d := range [][2]float64{{2.9, 1.1}, {-2.4, 0.7}, {0.3, -1.9}} {
			q := Point{Lon: o.Lon + d[0], Lat: o.Lat + d[1]}
			if q.Lon > 180 {
				q.Lon -= 360
			}
			if q.Lon < -180 {
				q.Lon += 360
			}
			back := pl.From(pl.To(q))
			if math.Abs(back.Lat-q.Lat) > 1e-10 || math.Abs(back.Lon-q.Lon) > 1e-9 {
				t.Errorf("%v from %v came back as %v", q, o, back)
			}
		}
	}
	for deg, want := range map[float64]float64{190: -170, -190: 170, 180: 180, -180: -180, 359: -1, 540: 180, 12: 12} {
		if got := turn(deg); got != want && !(math.Abs(got) == 180 && math.Abs(want) == 180) {
			t.Errorf("%g° turns to %g°", deg, got)
		}
	}
}

// The words of a refusal name the ring, the points and the lines a person has to look at.
func TestRefusalsNameEveryPoint(t *testing.T) {
	sq := ring(175.3, -38.1, 175.303, -38.1, 175.303, -38.098, 175.3, -38.098)
	for _, c := range []struct {
		p    Polygon
		want string
	}{
		{Polygon{Outer: ring(175.3, -38.1, 175.303, -38.098, 175.303, -38.1, 175.3, -38.098)}, "boundary, point 1: the line from point 1 to 2 crosses the line from point 3 to 4; "},
		{Polygon{Outer: ring(175.3, -38.1, 175.303, -38.1, 175.3, -38.098, 175.303, -38.098)}, "boundary, point 2: the line from point 2 to 3 crosses the line from point 4 to 1; "},
		{Polygon{Outer: sq, Holes: []Ring{ring(175.301, -38.0995, 175.302, -38.0995, 175.3015, -38.097)}}, "hole 1, point 3: the hole reaches outside the boundary; "},
		{Polygon{Outer: sq, Holes: []Ring{ring(175.301, -38.0995, 175.302, -38.0995)}}, "hole 1: 2 distinct points; a boundary needs three points or more"},
		{Polygon{Outer: ring(175.3, -38.1, 175.303, -38.1, 175.3, -37.1)}, "boundary, point 3: it lies 111 km from the first point; "},
		{Polygon{Outer: ring(175.3, -89.5, 175.303, -89.5, 175.303, -89.4)}, "boundary, point 1: latitude -89.5 lies at a pole; give the position of the block"},
		{Polygon{Outer: ring(175.3, -38.1, 175.30001, -38.1, 175.30001, -38.09999)}, "boundary: the area is 0.5 m², less than "},
	} {
		err := Validate(c.p)
		switch {
		case c.want == "" && err != nil:
			t.Errorf("refused: %v", err)
		case c.want != "" && (err == nil || !strings.HasPrefix(err.Error(), c.want)):
			t.Errorf("%v\n want %s", err, c.want)
		}
	}
	// a ring whose second hole crosses the first, and one that lies in it whole
	a := ring(175.301, -38.0995, 175.302, -38.0995, 175.302, -38.0985, 175.301, -38.0985)
	for _, b := range []Ring{ring(175.3015, -38.099, 175.3025, -38.099, 175.3025, -38.0988, 175.3015, -38.0988), ring(175.3005, -38.0998, 175.3025, -38.0998, 175.3025, -38.0982, 175.3005, -38.0982)} {
		var inv *Invalid
		if err := Validate(Polygon{Outer: sq, Holes: []Ring{a, b}}); !errors.As(err, &inv) || inv.Ring != 2 {
			t.Errorf("holes over each other: %v", err)
		}
	}
}

// Lines that cross, touch, pass and lie along each other, each in all its eight writings.
func TestLinesMeet(t *testing.T) {
	for _, c := range []struct {
		a, b, c, d XY
		meet       bool
	}{
		{XY{0, 0}, XY{4, 4}, XY{0, 4}, XY{4, 0}, true},
		{XY{0, 0}, XY{4, 0}, XY{2, 0}, XY{2, 3}, true},  // an end on the other
		{XY{0, 0}, XY{4, 0}, XY{2, 1}, XY{2, 3}, false}, // short of it
		{XY{0, 0}, XY{4, 0}, XY{3, 0}, XY{9, 0}, true},  // along each other
		{XY{0, 0}, XY{4, 0}, XY{5, 0}, XY{9, 0}, false},
		{XY{0, 0}, XY{0, 4}, XY{0, 5}, XY{0, 9}, false},
		{XY{0, 0}, XY{0, 4}, XY{0, 3}, XY{0, 9}, true},
		{XY{1, 2}, XY{5, 4}, XY{3, 3.1}, XY{9, 30}, false},
		{XY{1, 2}, XY{5, 4}, XY{6, 4.5}, XY{6, 9}, false}, // on the line, beyond its end
		{XY{0, 0}, XY{4, 4}, XY{1, 0}, XY{5, 4}, false},   // beside it
	} {
		for _, s := range [][4]XY{{c.a, c.b, c.c, c.d}, {c.b, c.a, c.c, c.d}, {c.a, c.b, c.d, c.c}, {c.b, c.a, c.d, c.c}, {c.c, c.d, c.a, c.b}, {c.d, c.c, c.a, c.b}, {c.c, c.d, c.b, c.a}, {c.d, c.c, c.b, c.a}} {
			if got := segmentsMeet(s[0], s[1], s[2], s[3]); got != c.meet {
				t.Errorf("%v: meet %v", s, got)
			}
		}
	}
}

// Inside against barycentric coordinates of a triangle, and on a ring with a bay.
func TestInsideAgainstBarycentric(t *testing.T) {
	rnd := rand.New(rand.NewPCG(4, 2))
	for range 3000 {
		at := func() XY { return XY{rnd.Float64()*8 - 3, rnd.Float64()*6 + 1} }
		a, b, c, p := at(), at(), at(), at()
		area := (b.X-a.X)*(c.Y-a.Y) - (c.X-a.X)*(b.Y-a.Y)
		u := ((b.X-p.X)*(c.Y-p.Y) - (c.X-p.X)*(b.Y-p.Y)) / area
		v := ((c.X-p.X)*(a.Y-p.Y) - (a.X-p.X)*(c.Y-p.Y)) / area
		w := 1 - u - v
		if math.Min(u, math.Min(v, w)) > -1e-9 && math.Min(u, math.Min(v, w)) < 1e-9 {
			continue
		}
		if got, want := Inside(p, []XY{a, b, c}), u > 0 && v > 0 && w > 0; got != want {
			t.Fatalf("%v in %v %v %v: %v", p, a, b, c, got)
		}
	}
	bay := []XY{{0, 0}, {6, 0}, {6, 6}, {4, 6}, {4, 2}, {2, 2}, {2, 6}, {0, 6}}
	for p, want := range map[XY]bool{{1, 5}: true, {3, 5}: false, {5, 5}: true, {3, 1}: true, {7, 1}: false, {3, 7}: false} {
		if Inside(p, bay) != want {
			t.Errorf("%v inside: %v", p, !want)
		}
	}
}

// Zones of UTM by their rule: 6° each from 180° W, and their middle.
func TestZones(t *testing.T) {
	for _, c := range []struct {
		p    Point
		code string
		lon0 float64
	}{{Point{-179.9, 10}, "EPSG:32601", -177}, {Point{179.9, 10}, "EPSG:32660", 177}, {Point{12.3, 46}, "EPSG:32633", 15}, {Point{172, -38}, "EPSG:32759", 171}, {Point{-0.1, 51}, "EPSG:32630", -3}, {Point{180, 51}, "EPSG:32660", 177}} {
		s := UTMAt(c.p)
		named, err := SystemNamed(c.code)
		if s.Code != c.code || err != nil || named.Lon0 != c.lon0 || s.Lon0 != c.lon0 {
			t.Errorf("%v lies in %s about %g°, want %s about %g° (%v)", c.p, s.Code, s.Lon0, c.code, c.lon0, err)
		}
	}
	for code, name := range map[string]string{"25832": "ETRS89, UTM zone 32 north", "EPSG:26917": "NAD83, UTM zone 17 north", "28356": "GDA94, UTM zone 56 south", "7855": "GDA2020, UTM zone 55 south", "epsg:32633": "WGS 84, UTM zone 33 north"} {
		if s, err := SystemNamed(code); err != nil || s.Name != name || (s.NorthM == 1e7) != strings.HasSuffix(name, "south") {
			t.Errorf("%s: %+v %v", code, s, err)
		}
	}
	for _, code := range []string{"", "EPSG:1", "32600", "32661", "32700", "32761", "25827", "25839", "26900", "26924", "28345", "28359", "7845", "7859", "metres"} {
		if s, err := SystemNamed(code); err == nil {
			t.Errorf("%s: %+v", code, s)
		}
	}
}
