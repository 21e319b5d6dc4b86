package drainage

import (
	"math"
	"testing"
)

// Closed forms: a rectangle and a triangle by Manning; and Chow, Open-Channel Hydraulics, 1959, example 6-2 (from
// memory): 20 ft of floor, sides 2 : 1, n 0.025, slope 0.0016, 400 ft³/s stand 3.36 ft deep.
func TestDitch(t *testing.T) {
	q, v := Ditch{FloorM: 2}.Flow(0.5, 0.004, 0.02)
	want := math.Pow(1/(2+1.0), 2.0/3) * math.Sqrt(0.004) / 0.02
	near(t, "rectangle, m/s", v, want, 1e-12)
	near(t, "rectangle, m³/s", q, want, 1e-12) // of 1 m²
	_, v = Ditch{SideM: 1}.Flow(0.8, 0.01, 0.03)
	near(t, "triangle, m/s", v, math.Pow(0.8/(2*math.Sqrt2), 2.0/3)*0.1/0.03, 1e-12)
	ft := 0.3048
	near(t, "Chow's example, ft", Ditch{FloorM: 20 * ft, SideM: 2}.WaterM(400*ft*ft*ft, 0.0016, 0.025)/ft, 3.36, 0.005)
	d := FieldDitch(0.6)
	near(t, "section", d.SectionM2(), 0.6, 1e-12)
	near(t, "land", d.LandM(), 0.4+1.2+1.5, 1e-12)
	if q, v := d.Flow(0, 0.01, EarthN); q != 0 || v != 0 {
		t.Errorf("dry, it carries %g at %g", q, v)
	}
	// what stands in it and what it carries are inverse
	for _, q := range []float64{0.001, 0.02, 0.5, 30} {
		for _, i := range []float64{0.001, 0.02} {
			back, _ := d.Flow(d.WaterM(q, i, EarthN), i, EarthN)
			near(t, "flow and back", back, q, 1e-6*q)
		}
	}
	// bare sand washes before loam, loam before clay
	if s, l, c := EarthVelocity("sand"), EarthVelocity("loam"), EarthVelocity("clay"); !(s < l && l < c) || EarthVelocity("") != l {
		t.Errorf("%g %g %g", s, l, c)
	}
}

// Ditches take no pipe and no pits, and one that would run shallow or out of the ground is said.
func TestNetworkOfDitches(t *testing.T) {
	l := Layout{Collector: []XY{{0, 0}, {0, 120}}, SpacingM: 40, AngleDeg: 90}
	task := Task{Ground: even, Q: 0.01, DepthM: 0.8, CoverM: 0.6, OutletM: math.NaN(), Open: true, Texture: "sand"}
	n, err := Design(rect, l, task)
	if err != nil {
		t.Fatal(err)
	}
	if !n.Open || len(n.Chambers) != 0 || len(n.Troubles) != 0 {
		t.Errorf("%+v %+v", n.Chambers, n.Troubles)
	}
	for _, d := range append(append([]Drain{}, n.Laterals...), n.Reaches...) {
		if d.Pipe != (Pipe{}) {
			t.Errorf("%s: %+v", d.ID, d.Pipe)
		}
		water := FieldDitch(0).WaterM(d.FlowM3S, d.Grade, EarthN)
		_, v := FieldDitch(0).Flow(water, d.Grade, EarthN)
		near(t, d.ID+", m/s", d.Velocity, v, 1e-9)
	}
	task.Ground = func(x, y float64) float64 { return 50 }
	n, _ = Design(rect, l, task)
	said := map[string]bool{}
	for _, x := range n.Troubles {
		said[x.Rule] = true
		if x.Rule == "shallow" && x.Got >= x.Want {
			t.Errorf("%+v", x)
		}
	}
	if said["shallow"] || said["cover"] { // 190 m at 0.1 % and the collector's 110 m take 0.3 of 0.8 m
		t.Errorf("%v", said)
	}
	task.DepthM = 0.5
	if n, _ = Design(rect, l, task); len(n.Troubles) == 0 || n.Troubles[0].Rule != "shallow" {
		t.Errorf("0.5 m deep on the flat: %+v", n.Troubles)
	}
}
