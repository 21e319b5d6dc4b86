package earthwork

import (
	"math"
	"math/rand"
	"testing"
)

// For any bed that can be shaped: what is dug is what is heaped, the bed stands above the old surface and the furrow
// below it, a taller bed moves more soil and lifts roots further, and film always reaches over both sides.
func TestBedsOfAnyShape(t *testing.T) {
	rnd := rand.New(rand.NewSource(11))
	shaped := 0
	for range 4000 {
		b := Bed{BaseM: 0.3 + rnd.Float64()*3, HeightM: 0.05 + rnd.Float64()*0.9}
		b.TopM = b.BaseM * (0.2 + 0.8*rnd.Float64())
		b.CentreM = b.BaseM + 0.05 + rnd.Float64()*4
		b.CrownM = rnd.Float64() * 0.25 * b.TopM
		if b.Valid() != nil {
			t.Fatalf("%+v: %v", b, b.Valid())
		}
		if b.Short(1) > 0 {
			if b.Rise(1) != 0 {
				t.Fatalf("%+v lifts roots by soil it has not got", b)
			}
			continue
		}
		shaped++
		for _, s := range []float64{1, 1.15, 1.3} {
			x, h, cut, fill := b.Furrow(s)
			if x < 0 || h < -1e-9 || math.Abs(x+h-b.HeightM) > 1e-9 {
				t.Fatalf("%+v: furrow %g, bed %g", b, x, h)
			}
			if h > 1e-6 && math.Abs(cut*s-fill) > 1e-6*math.Max(1, fill) {
				t.Fatalf("%+v loosened %g: dug %g, heaped %g", b, s, cut, fill)
			}
			if s > 1 {
				tight, _, _, _ := b.Furrow(1)
				if x > tight+1e-9 {
					t.Fatalf("%+v: loosened soil asks for a deeper furrow, %g over %g", b, x, tight)
				}
			}
		}
		if r := b.Rise(1); r < 0 || r > b.HeightM+b.CrownM {
			t.Fatalf("%+v lifts roots by %g", b, r)
		}
		taller := b
		taller.HeightM *= 1.2
		if taller.AreaM2() <= b.AreaM2() || taller.Short(1) == 0 && taller.Rise(1) < b.Rise(1)-1e-9 {
			t.Fatalf("%+v: a taller bed holds %g for %g, lifts %g for %g", b, taller.AreaM2(), b.AreaM2(), taller.Rise(1), b.Rise(1))
		}
		moved, passes, hours := b.Shaping(100)
		if more, again, longer := taller.Shaping(100); moved <= 0 || moved > 100*b.AreaM2() || passes < 1 || hours <= 0 || taller.Short(1) == 0 && (more < moved-1e-9 || again < passes || longer < hours) {
			t.Fatalf("%+v: %g m³ moved of %g in %d passes, a taller one %g in %d", b, moved, 100*b.AreaM2(), passes, more, again)
		}
		need, buy := b.FilmM(0.15)
		if need < b.BaseM+0.3-1e-9 || buy < need-1e-9 {
			t.Fatalf("%+v: film of %g, bought %g", b, need, buy)
		}
		if b.CrownM > 1e-3 && b.Rounded() <= b.AreaM2() {
			t.Fatalf("%+v: a round crown holds less than a pointed one", b)
		}
		if math.Abs(b.PerHa()*b.CentreM-1e4) > 1e-6 {
			t.Fatalf("%+v: %g m of bed in a hectare", b, b.PerHa())
		}
	}
	if shaped < 3500 {
		t.Errorf("only %d of 4000 beds can be made from their furrows", shaped)
	}
}

// The best plane moves no more soil than any plane near it with the same mean, balances cut and fill, and lowering it
// for soil that settles gives just the ratio asked for.
func TestBestPlaneIsBest(t *testing.T) {
	rnd := rand.New(rand.NewSource(5))
	for range 200 {
		var ls []Level
		for i := range 6 {
			for j := range 5 {
				ls = append(ls, Level{float64(i) * 20, float64(j) * 20, 30 + rnd.Float64()*0.02*float64(i*20) + 0.3*rnd.Float64()})
			}
		}
		p, err := BestPlane(ls)
		if err != nil {
			t.Fatal(err)
		}
		squares := func(p Plane) (s float64) {
			for _, l := range ls {
				s += math.Pow(l.Z-p.At(l.X, l.Y), 2)
			}
			return s
		}
		best := squares(p)
		for _, q := range []Plane{{p.A + 0.01, p.B, p.C}, {p.A, p.B + 1e-4, p.C}, {p.A, p.B, p.C - 1e-4}, {p.A - 0.005, p.B + 5e-5, p.C + 5e-5}} {
			if squares(q) < best-1e-12 {
				t.Fatalf("%+v fits better than %+v", q, p)
			}
		}
		cut, fill := CutFill(ls, p, 400)
		if math.Abs(cut-fill) > 1e-6*math.Max(1, cut) {
			t.Fatalf("cut %g, fill %g", cut, fill)
		}
		d, err := Lower(ls, p, 400, 1.25)
		if err != nil {
			t.Fatal(err)
		}
		if cut, fill = CutFill(ls, Plane{p.A - d, p.B, p.C}, 400); math.Abs(cut/fill-1.25) > 1e-6 || d <= 0 {
			t.Fatalf("lowered by %g: ratio %g", d, cut/fill)
		}
	}
	if _, err := BestPlane([]Level{{0, 0, 1}, {1, 1, 2}, {2, 2, 3}, {3, 3, 4}}); err == nil {
		t.Error("levels in a line make a plane")
	}
}
