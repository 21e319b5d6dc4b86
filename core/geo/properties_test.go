package geo

import (
	"errors"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
)

// Where a ring starts, which way it runs and whether it is closed does not change its area.
func TestAreaDoesNotDependOnHowTheRingIsWritten(t *testing.T) {
	for _, p := range []Polygon{polyP1, polyP2, polyP3} {
		want := AreaM2(p)
		for k := range p.Outer {
			r := append(slices.Clone(p.Outer[k:]), p.Outer[:k]...)
			back := slices.Clone(r)
			slices.Reverse(back)
			for _, ring := range []Ring{r, back, append(slices.Clone(r), r[0])} {
				got := AreaM2(Polygon{Outer: ring, Holes: p.Holes})
				if math.Abs(got-want) > 1e-3 {
					t.Fatalf("%.4f m², want %.4f", got, want)
				}
				if err := Validate(Polygon{Outer: ring, Holes: p.Holes}); err != nil {
					t.Fatal(err)
				}
			}
		}
	}
}

// Cut in two along a diagonal, the halves make the whole.
func TestHalvesMakeTheWhole(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 8))
	for range 100 {
		lon, lat := 360*r.Float64()-180, 130*r.Float64()-65
		w, h := 0.001+0.01*r.Float64(), 0.001+0.01*r.Float64()
		a, b, c, d := Point{lon, lat}, Point{lon + w, lat}, Point{lon + w, lat + h}, Point{lon, lat + h}
		whole := AreaM2(Polygon{Outer: Ring{a, b, c, d}})
		halves := AreaM2(Polygon{Outer: Ring{a, b, c}}) + AreaM2(Polygon{Outer: Ring{a, c, d}})
		if math.Abs(halves/whole-1) > 2e-7 {
			t.Fatalf("at %.3f, %.3f: %.3f m² and %.3f m²", lon, lat, whole, halves)
		}
	}
}

// The plane keeps small shapes: distances agree with the great circle to the sphere's half per cent, and
// the way there and back is exact.
func TestPlaneRoundTripEverywhere(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 10))
	for range 500 {
		o := Point{360*r.Float64() - 180, 170*r.Float64() - 85}
		pl := PlaneAt(o)
		q := XY{4000*r.Float64() - 2000, 4000*r.Float64() - 2000}
		p := pl.From(q)
		back := pl.To(p)
		if math.Hypot(back.X-q.X, back.Y-q.Y) > 1e-6 {
			t.Fatalf("at %v: %v came back as %v", o, q, back)
		}
		if d := DistanceM(o, p); math.Abs(d/math.Hypot(q.X, q.Y)-1) > 0.007 {
			t.Fatalf("at %v: %.2f m on the plane, %.2f m on the sphere", o, math.Hypot(q.X, q.Y), d)
		}
	}
}

func FuzzValidate(f *testing.F) {
	f.Add(172.0, -38.0, 172.002, -38.0, 172.002, -37.999, 172.0, -37.999)
	f.Add(0.0, 0.0, 1.0, 1.0, 2.0, 2.0, 3.0, 3.0)
	f.Add(math.NaN(), math.Inf(1), 181.0, -91.0, 5.0, 5.0, 5.0, 5.0)
	f.Fuzz(func(t *testing.T, a, b, c, d, e, g, h, i float64) {
		p := Polygon{Outer: Ring{{a, b}, {c, d}, {e, g}, {h, i}}}
		err := Validate(p)
		var inv *Invalid
		if err != nil && !errors.As(err, &inv) {
			t.Fatalf("an error of another kind: %v", err)
		}
		if err == nil && !(AreaM2(p) >= MinAreaM2 && AreaM2(p) <= MaxAreaM2) {
			t.Fatalf("accepted %v of %g m²", p, AreaM2(p))
		}
	})
}

// A field across 180° has the area it has a degree further west; the middle of its plane lies on the line, and what
// comes back from the plane is a longitude people write.
func TestAcrossTheDateLine(t *testing.T) {
	at := func(lon float64) Polygon {
		r := Ring{{lon - 0.001, -17}, {lon + 0.0015, -17}, {lon + 0.0015, -16.998}, {lon - 0.001, -16.998}}
		for i := range r {
			r[i].Lon = turn(r[i].Lon)
		}
		return Polygon{Outer: r}
	}
	want := AreaM2(at(178))
	for _, lon := range []float64{180, -180, 179.9995, -179.999} {
		p := at(lon)
		if err := Validate(p); err != nil {
			t.Fatalf("at %g: %v", lon, err)
		}
		if got := AreaM2(p); math.Abs(got/want-1) > 1e-9 || math.Abs(PerimeterM(p)-PerimeterM(at(178))) > 1e-4 {
			t.Errorf("at %g: %.3f m² of %.3f m²", lon, got, want)
		}
		pl := LocalPlane(p)
		for _, v := range p.Outer {
			back := pl.From(pl.To(v))
			if math.Abs(turn(back.Lon-v.Lon)) > 1e-10 || math.Abs(back.Lon) > 180 || math.Hypot(pl.To(v).X, pl.To(v).Y) > 300 {
				t.Errorf("at %g: %v came back as %v", lon, v, back)
			}
		}
	}
}

// Points of different parts of the world are no block: the plane does not reach, and an area that is no number is
// never accepted.
func TestPointsTooFarApart(t *testing.T) {
	for _, r := range []Ring{{{-62, 0}, {1, 1}, {78, 2}, {95, 1.5}}, {{10, 45}, {10.9, 45}, {10.9, 45.001}, {10, 45.001}}} {
		var inv *Invalid
		if err := Validate(Polygon{Outer: r}); !errors.As(err, &inv) || inv.Point != 2 {
			t.Errorf("%v: %v", r, err)
		}
	}
}
