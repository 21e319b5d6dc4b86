package geo

import (
	"errors"
	"math"
	"strings"
	"testing"
)

func ring(c ...float64) Ring {
	r := make(Ring, 0, len(c)/2)
	for i := 0; i < len(c); i += 2 {
		r = append(r, Point{c[i], c[i+1]})
	}
	return r
}

// The three check polygons of the layout method, LAY-2.
var (
	polyP1 = Polygon{Outer: ring(10, 45, 10.003, 45, 10.003, 45.0012, 10.0015, 45.0012, 10.0015, 45.002, 10, 45.002)}
	polyP2 = Polygon{Outer: ring(-60, -32, -59.9975, -32.0004, -59.998, -31.9985, -60.0005, -31.9982),
		Holes: []Ring{ring(-59.9992, -31.9996, -59.9988, -31.9996, -59.9988, -31.9992, -59.9992, -31.9992)}}
	polyP3   = Polygon{Outer: ring(25, 66, 25.006, 66.0003, 25.0052, 66.0016, 24.9994, 66.0011)}
	polyWide = Polygon{Outer: ring(175, -38, 175.2, -38.02, 175.22, -37.9, 175.05, -37.85)}
)

// Golden areas: pyproj 3.4.1 (PROJ geodesic, Karney 2013), Geod(ellps="WGS84").geometry_area_perimeter
// on each ring, holes subtracted. P1 to P3 also printed in the method book.
func TestAreaAgainstGeodesic(t *testing.T) {
	for _, c := range []struct {
		name string
		p    Polygon
		want float64
	}{{"P1", polyP1, 42058.7218}, {"P2 with hole", polyP2, 44951.16}, {"P3", polyP3, 37262.3209}, {"18 km wide", polyWide, 255615414.2524}} {
		got := AreaM2(c.p)
		if math.Abs(got-c.want)/c.want > 1e-6 {
			t.Errorf("%s: %.4f m², want %.4f (%.2g)", c.name, got, c.want, got/c.want-1)
		}
	}
}

// Golden positions: pyproj 3.4.1, Transformer from EPSG:4326 to
// "+proj=tmerc +lon_0=175.3 +lat_0=-38.1 +k=1 +ellps=WGS84"; northing of the origin subtracted by lat_0.
func TestPlaneAgainstPROJ(t *testing.T) {
	pl := PlaneAt(Point{175.3, -38.1})
	for _, c := range []struct {
		at   Point
		want XY
	}{{Point{175.31, -38.09}, XY{877.250101, 1109.935525}}, {Point{175.25, -38.2}, XY{-4379.669434, -11101.113483}}, {Point{175.3, -38}, XY{0, 11099.742308}}} {
		got := pl.To(c.at)
		if math.Hypot(got.X-c.want.X, got.Y-c.want.Y) > 1e-5 {
			t.Errorf("%v: %v, want %v", c.at, got, c.want)
		}
		if back := pl.From(got); math.Abs(back.Lon-c.at.Lon)+math.Abs(back.Lat-c.at.Lat) > 1e-11 {
			t.Errorf("%v came back as %v", c.at, back)
		}
	}
}

// Golden distance: pyproj 3.4.1, Geod(ellps="WGS84").inv(175.3, -38.1, 10, 45) → 18 574 km; the sphere
// is good to half a per cent.
func TestDistance(t *testing.T) {
	if got := DistanceM(Point{175.3, -38.1}, Point{10, 45}); math.Abs(got/18574e3-1) > 0.005 {
		t.Errorf("%.0f km", got/1000)
	}
	if got := DistanceM(Point{172, -38}, Point{172, -38.01}); math.Abs(got-1110) > 6 {
		t.Errorf("%.1f m", got)
	}
}

// Method LAY-2: a square of side 100 m surveyed to 3 m has an area known to 300 m².
func TestAreaUncertainty(t *testing.T) {
	pl := PlaneAt(Point{175.3, -38.1})
	var r Ring
	for _, q := range []XY{{0, 0}, {100, 0}, {100, 100}, {0, 100}} {
		r = append(r, pl.From(q))
	}
	if got := AreaSD(Polygon{Outer: r}, 3); math.Abs(got-300) > 0.1 {
		t.Errorf("sd %.2f m², want 300", got)
	}
	if got := PerimeterM(Polygon{Outer: append(r, r[0])}); math.Abs(got-400) > 0.01 {
		t.Errorf("perimeter %.3f m, want 400", got)
	}
}

func TestValidateNamesThePoint(t *testing.T) {
	sq := func() Ring { return ring(175.3, -38.1, 175.303, -38.1, 175.303, -38.098, 175.3, -38.098) }
	inner := ring(175.301, -38.0995, 175.302, -38.0995, 175.302, -38.0985, 175.301, -38.0985)
	for _, c := range []struct {
		name string
		p    Polygon
		ring int
		at   int
		say  string
	}{
		{"self-crossing", Polygon{Outer: ring(175.3, -38.1, 175.303, -38.098, 175.303, -38.1, 175.3, -38.098)}, 0, 1, "crosses"},
		{"swapped", Polygon{Outer: ring(-38.1, 175.3, -38.1, 175.303, -38.098, 175.303)}, 0, 1, "swapped"},
		{"map grid metres", Polygon{Outer: ring(1800000, 5780000, 1800100, 5780000, 1800100, 5780100)}, 0, 1, "WGS 84"},
		{"two points", Polygon{Outer: ring(175.3, -38.1, 175.303, -38.1)}, 0, 0, "three points"},
		{"same point twice", Polygon{Outer: ring(175.3, -38.1, 175.303, -38.1, 175.3, -38.1, 175.3, -38.09)}, 0, 3, "same position"},
		{"fill value", Polygon{Outer: ring(175.3, -38.1, 0, 0, 175.3, -38.09)}, 0, 2, "fill value"},
		{"too small", Polygon{Outer: ring(175.3, -38.1, 175.30001, -38.1, 175.30001, -38.09999)}, 0, 0, "less than"},
		{"too large", polyWide, 0, 0, "more than"},
		{"not a number", Polygon{Outer: ring(175.3, math.NaN(), 175.303, -38.1, 175.303, -38.09)}, 0, 1, "finite"},
		{"hole outside", Polygon{Outer: sq(), Holes: []Ring{ring(175.31, -38.0995, 175.312, -38.0995, 175.312, -38.0985)}}, 1, 1, "outside"},
		{"holes overlap", Polygon{Outer: sq(), Holes: []Ring{inner, ring(175.3012, -38.0993, 175.3018, -38.0993, 175.3018, -38.0988)}}, 2, 1, "overlaps"},
	} {
		err := Validate(c.p)
		var inv *Invalid
		if !errors.As(err, &inv) {
			t.Errorf("%s: accepted (%v)", c.name, err)
			continue
		}
		if inv.Ring != c.ring || inv.Point != c.at || !strings.Contains(inv.Error(), c.say) {
			t.Errorf("%s: %v (ring %d point %d), want ring %d point %d saying %q", c.name, inv, inv.Ring, inv.Point, c.ring, c.at, c.say)
		}
	}
	for _, p := range []Polygon{polyP1, polyP2, polyP3, {Outer: sq(), Holes: []Ring{inner}}} {
		if err := Validate(p); err != nil {
			t.Errorf("refused a sound boundary: %v", err)
		}
	}
}
