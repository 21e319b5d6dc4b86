package water

import (
	"math"
	"testing"
)

func near(t *testing.T, name string, got, want, abs float64) {
	t.Helper()
	if !(math.Abs(got-want) <= abs) {
		t.Errorf("%s: %.5g, want %g", name, got, want)
	}
}

// FAO Irrigation and Drainage Paper 56, 1998, climatic adjustment of Kc mid 1.20 at 2 m.
func TestCropCoefficient(t *testing.T) {
	near(t, "humid, calm", Adjust(1.20, 1.3, 75, 2), 1.07, 5e-3)
	near(t, "windy", Adjust(1.20, 4.6, 44, 2), 1.30, 5e-3)
	near(t, "small coefficients stay", Adjust(0.4, 4.6, 20, 2), 0.4, 0)
	c, err := ByCover(0.35, 2.5, 2)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "linear", c.Linear, 0.412, 1e-3)
	near(t, "split", c.Split, 0.35, 1e-9)
	near(t, "plus", c.Plus, 0.45, 1e-9)
	near(t, "double", c.Double, 0.70, 1e-9)
	near(t, "density", c.Density, 0.70, 1e-3)
	near(t, "coefficient", Coefficient(c.Density, 0.90, 0.15), 0.675, 1e-3)
	c, _ = ByCover(0.6, 2, 2)
	near(t, "linear at 0.6", c.Linear, 0.706, 1e-3)
	near(t, "split at 0.6", c.Split, 0.8, 1e-9)
	near(t, "double at 0.6", c.Double, 1, 0)
	if _, err := ByCover(1.2, 2, 2); err == nil {
		t.Error("more than the whole ground is shaded")
	}
}

// Method WAT-3; table entries from memory (FAO 24, TR-21).
func TestEffectiveRain(t *testing.T) {
	e, err := EffectiveRain(60, 130, 50)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "TR-21", e.Storage, 41.06, 0.01)
	near(t, "simple", e.Simple, 54.24, 0.01)
	near(t, "80 %", e.Eighty, 26, 1e-9)
	e, _ = EffectiveRain(100, 150, 75)
	near(t, "table 74", e.Storage, 74, 2)
	for p, want := range map[float64]float64{260: 151, 250: 150} {
		e, _ := EffectiveRain(p, 200, 75)
		near(t, "simple", e.Simple, want, 1e-9)
	}
	e, _ = EffectiveRain(40, 20, 75)
	near(t, "no more than the crop uses", e.Storage, 20, 0)
	e, _ = EffectiveRain(12, 20, 75)
	near(t, "never negative", e.Eighty, 0, 0)
	if _, err := EffectiveRain(-1, 0, 0); err == nil {
		t.Error("negative rain")
	}
}
