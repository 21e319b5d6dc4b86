package drainage

import (
	"math"
	"testing"
)

// Check values of the methods DRN-3, DRN-6, DRN-8, DRN-9, DRN-11, DRN-12 and DRN-13, computed for them on their own.
func TestValuesOfTheMethods(t *testing.T) {
	k, err := AugerHole(4, 120, 36, 40, 8, 60, false)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "DRN-3 C", k*60/8, 5.2288, 1e-4)
	k, _ = AugerHole(4, 90, 20, 22, 4, 40, false)
	near(t, "DRN-3 shallow hole", k, 1.0588, 1e-4)

	e := TwoLayers{Dv: 0.4, Kv: 0.5, KD: 4.6, Kr: 0.5, Dr: 1, A: GeometryFactor(4, 2), U: 0.3}
	h, vertical, horizontal, radial := e.Head(0.007, 15)
	near(t, "DRN-6 geometry factor", e.A, 3.4, 1e-9)
	near(t, "DRN-6 head", h, 0.2107, 1e-4)
	near(t, "DRN-6 vertical", vertical, 0.0056, 1e-4)
	near(t, "DRN-6 horizontal", horizontal, 0.0428, 1e-4)
	near(t, "DRN-6 radial", radial, 0.1623, 1e-4)
	near(t, "DRN-6 spacing for 0.30 m", e.Spacing(0.007, 0.30), 20.10, 0.005)

	near(t, "DRN-8 Manning 100 mm, L/s", 1000*FullVelocity(0.1, 0.002, 0.015)*math.Pi*0.01/4, 2.0020, 1e-4)
	near(t, "DRN-8 longest lateral of 100 mm", SiltShare(0.1)*Capacity(0.1, 0.002, false, true)*86400/(0.007*12), 2242.3, 0.1)
	// area served, ha at 7 mm/day, transporting and collecting, by grade of 0.1, 0.2, 0.5 and 1 %
	for inside, row := range map[float64][8]float64{0.065: {0.58, 1.00, 0.82, 1.42, 1.30, 2.24, 1.84, 3.17}, 0.075: {0.85, 1.47, 1.20, 2.08, 1.90, 3.29, 2.69, 4.65}, 0.090: {1.39, 2.39, 1.96, 3.38, 3.10, 5.35, 4.38, 7.57},
		0.100: {1.84, 3.17, 2.60, 4.48, 4.11, 7.09, 5.81, 10.03}, 0.125: {3.33, 5.75, 4.71, 8.14, 7.45, 12.87, 10.53, 18.19}, 0.145: {4.95, 8.55, 7.00, 12.09, 11.07, 19.12, 15.66, 27.04}, 0.180: {8.82, 15.23, 12.47, 21.54, 19.72, 34.06, 27.89, 48.17}} {
		for i, grade := range []float64{0.001, 0.002, 0.005, 0.01} {
			near(t, "DRN-8 area, transporting", Capacity(inside, grade, false, false)*86400/0.007/1e4, row[2*i], 0.006)
			near(t, "DRN-8 area, collecting", Capacity(inside, grade, false, true)*86400/0.007/1e4, row[2*i+1], 0.006)
		}
	}
	near(t, "DRN-9 stone for 1 200 m with 8 % waste", 1200*EnvelopeM3(0.3, 0.3, 0.09)*1.08, 108.40, 0.01)
	// DRN-11: the last reach of the rectangle wants 100.2 mm at 0.3 %, so the next size up is laid
	need := 0.007 * 24000 / 86400
	near(t, "DRN-11 inside diameter, mm", 1000*math.Pow(need/0.75/(22*math.Sqrt(0.003)), 1/2.67), 100.2, 0.05)
	if p, ok := Choose(need, 0.003, false, 0); !ok || p.Name != "125 mm" {
		t.Errorf("DRN-11 lays %s", p.Name)
	}
	near(t, "DRN-12 furrows 3 m apart, mm/day", 1000*Field{Ka: 0.5, Kb: 0.02, Thick: 0.3, U: 0.4, H: 0.25, Q: 1}.Discharge(3), 15.22, 0.01)
	near(t, "DRN-13 150 m, m³/day", 150*Interceptor(1.2, 0.06, 0.9, 0), 9.72, 1e-9)
	near(t, "DRN-13 from 0.3 m above the layer, L/s", 150*Interceptor(1.2, 0.06, 0.9, 0.3)/86.4, 0.0750, 1e-9)
	near(t, "DRN-13 standing above the flow", Interceptor(1.2, 0.06, 0.9, 1.2), 0, 0)
	for i, c := range [][3]float64{{0.35, 0.25, 108}, {0.55, 0.4, 72}, {0.7, 0.5, 48}, {0.75, 0.5, 48}, {0.9, 0.6, 24}} {
		steady, back, hours := Criterion(i + 1)
		if steady != c[0] || back != c[1] || hours != c[2] {
			t.Errorf("class %d asks for %g, %g in %g h", i+1, steady, back, hours)
		}
	}
}

// The remedies of method DRN-1 in their order, for each source.
func TestRemediesBySource(t *testing.T) {
	base := Case{Source: "rain", WetShare: 1, SlopePct: 1, LayerM: 1.3, K: 0.4, OutletM: 1.2, CoverM: 0.7}
	first := func(change func(*Case)) Remedy {
		c := base
		change(&c)
		return Remedies(c)[0]
	}
	for name, x := range map[string]struct {
		change func(*Case)
		want   string
	}{
		"rain on flat land":              {func(c *Case) {}, "gridiron"},
		"two sides to a middle line":     {func(c *Case) { c.Valley = true }, "herringbone"},
		"a wet patch":                    {func(c *Case) { c.WetShare = 0.15 }, "local"},
		"seepage on a slope":             {func(c *Case) { c.Source, c.SlopePct = "seepage", 5 }, "interceptor"},
		"seepage on the flat":            {func(c *Case) { c.Source, c.SlopePct = "seepage", 1 }, "gridiron"},
		"a leaking canal":                {func(c *Case) { c.Source = "canal" }, "interceptor"},
		"a river over a deep layer":      {func(c *Case) { c.Source, c.LayerM = "river", 4 }, "gridiron"},
		"run-on":                         {func(c *Case) { c.Source = "runon" }, "diversion"},
		"a pan":                          {func(c *Case) { c.Source = "pan" }, "subsoil"},
		"nobody knows":                   {func(c *Case) { c.Source = "unknown" }, "investigate"},
		"clay at 40 cm":                  {func(c *Case) { c.LayerM = 0.4 }, "beds"},
		"clay that lets nothing through": {func(c *Case) { c.K = 0.01 }, "beds"},
		"no outlet, sloping":             {func(c *Case) { c.OutletM, c.SlopePct = -1, 2 }, "beds"},
		"no outlet on the flat":          {func(c *Case) { c.OutletM, c.SlopePct = -1, 0.2 }, "tolerant"},
	} {
		if got := first(x.change); got.ID != x.want || !got.Works || got.Why == "" || got.Name == "" {
			t.Errorf("%s: %s (%v), want %s", name, got.ID, got.Works, x.want)
		}
	}
	seen := map[string]bool{}
	for _, r := range Remedies(Case{Source: "artesian", OutletM: 1}) {
		if seen[r.ID] {
			t.Errorf("%s stands twice", r.ID)
		}
		seen[r.ID] = true
		if r.ID == "gridiron" && r.Works {
			t.Error("pipes against pressure from below")
		}
	}
	for _, traffic := range []string{"foot", "tractor", "truck", ""} {
		if c := Cover(traffic); c < 0.5 || c > 0.9 {
			t.Errorf("%q asks for %g m of cover", traffic, c)
		}
	}
	near(t, "storm less what is held", StormDischarge(90, 30, 6, 3), 0.018, 1e-12)
	near(t, "a storm the soil takes", StormDischarge(20, 30, 0, 3), 0, 0)
}
