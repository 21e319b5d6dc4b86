package earthwork

import (
	"math"
	"testing"
)

func near(t *testing.T, source string, got, want, tol float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tol) {
		t.Errorf("%s: %g, want %g", source, got, want)
	}
}

// Values computed in the method book for BED-1 and BED-2, and closed forms.
func TestBeds(t *testing.T) {
	b := Bed{BaseM: 0.80, TopM: 0.74, HeightM: 0.25, CrownM: 0.04, CentreM: 1.50}
	near(t, "BED-1 section", b.AreaM2(), 0.20730, 1e-5)
	near(t, "BED-1 round crown", b.Rounded(), 0.21223, 1e-5)
	near(t, "BED-1 bed metres", b.PerHa(), 6666.7, 0.05)
	near(t, "BED-1 volume", b.AreaM2()*b.PerHa(), 1382.0, 0.05)
	x, h, _, _ := b.Furrow(1)
	near(t, "own soil", x, 0.1382, 1e-4)
	near(t, "own soil, above", h, 0.1118, 1e-4)
	near(t, "s = 1 is A/C", x, b.AreaM2()/b.CentreM, 1e-6)
	x, _, _, _ = b.Furrow(1.2)
	near(t, "loosened", x, 0.1262, 1e-4)
	wide := Bed{BaseM: 1.6, TopM: 0.8, HeightM: 0.6, CentreM: 4}
	x, _, _, _ = wide.Furrow(1)
	near(t, "wide", x, 0.1800, 1e-4)
	near(t, "wide, section", wide.AreaM2(), 0.720, 1e-9)
	// Only what is dug from the furrow moves: 0.1382·(0.70 + 0.03·0.1382/0.25) by hand; one pass is the sheets'
	// 1.8 h/ha. The wide bed: 0.18·(2.4 + 0.4·0.18/0.6).
	moved, passes, hours := b.Shaping(b.PerHa())
	near(t, "film bed, moved", moved, 0.0990*b.PerHa(), 1)
	near(t, "film bed, passes", float64(passes), 1, 0)
	near(t, "film bed, hours", hours, 1.80, 0.005)
	moved, passes, hours = wide.Shaping(2500)
	near(t, "wide, moved", moved, 0.4536*2500, 1e-3)
	near(t, "wide, passes", float64(passes), 5, 0)
	near(t, "wide, hours", hours, 5*2500/3700.0, 1e-9)
	us := Bed{BaseM: 31 * 0.0254, TopM: 29 * 0.0254, HeightM: 10 * 0.0254, CrownM: 1.5 * 0.0254, CentreM: 5 * 0.3048}
	near(t, "US bed", us.AreaM2(), 0.20758, 1e-5)
	need, buy := b.FilmM(0.18)
	near(t, "BED-2 film", need, 1.6079, 1e-4)
	near(t, "BED-2 bought", buy, 1.8, 0)
	for _, s := range []float64{1, 1.1, 1.3} {
		for _, c := range []Bed{b, wide, us, {BaseM: 1.2, TopM: 1.2, HeightM: 0.3, CentreM: 3}} {
			if x, h, cut, fill := c.Furrow(s); math.Abs(cut*s-fill) > 1e-6 || math.Abs(x+h-c.HeightM) > 1e-9 {
				t.Errorf("%+v: cut %g · %g is not fill %g", c, cut, s, fill)
			}
		}
	}
	for name, bad := range map[string]Bed{"top over base": {BaseM: 1, TopM: 1.2, HeightM: 0.3, CentreM: 2}, "overlap": {BaseM: 1, TopM: 0.8, HeightM: 0.3, CentreM: 1}, "flat": {BaseM: 1, TopM: 0.8, CentreM: 2}, "a hill": {BaseM: 1, TopM: 0.8, HeightM: 0.3, CrownM: 0.4, CentreM: 2}} {
		if bad.Valid() == nil {
			t.Errorf("%s is shaped", name)
		}
	}
}

func TestRidgesAndLevelling(t *testing.T) {
	r := Ridges{RidgeM: 0.6, FurrowM: 0.6, DepthM: 0.15, Side: 0.5}
	near(t, "BED-4 plants", r.PlantsPerHa(0.22), 75758, 1)
	near(t, "BED-4 furrow", r.FurrowM3PerHa(), 656.2, 0.1)
	rows := [][]float64{{10.20, 10.05, 9.95, 9.70}, {10.35, 10.30, 10.00, 9.90}, {10.60, 10.35, 10.25, 10.05}}
	var ls []Level
	mean := 0.0
	for j, row := range rows {
		for i, z := range row {
			ls = append(ls, Level{float64(i) * 20, float64(j) * 20, z})
			mean += z / 12
		}
	}
	p, err := BestPlane(ls)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "BED-5 plane", p.A, 10.2229, 1e-4)
	near(t, "BED-5 fall along x, %", 100*p.B, -0.8333, 1e-4)
	near(t, "BED-5 fall along y, %", 100*p.C, 0.8438, 1e-4)
	cut, fill := CutFill(ls, p, 400)
	near(t, "BED-5 cut", cut, 82.50, 0.01)
	near(t, "BED-5 fill", fill, 82.50, 0.01)
	d, err := Lower(ls, p, 400, 1.25)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "BED-5 lowered, mm", 1000*d, 3.75, 0.01)
	cut, fill = CutFill(ls, Plane{p.A - d, p.B, p.C}, 400)
	near(t, "BED-5 cut for the ratio", cut, 90, 0.02)
	near(t, "BED-5 fill for the ratio", fill, 72, 0.02)
	cut, _ = CutFill(ls, Plane{A: mean}, 400)
	near(t, "BED-5 horizontal", cut, 480, 0.01)
	if _, err := BestPlane([]Level{{0, 0, 1}, {1, 1, 2}, {2, 2, 3}}); err == nil {
		t.Error("a line of heights makes a plane")
	}
}
