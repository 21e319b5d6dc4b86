package drainage

import (
	"errors"
	"math"
	"testing"

	"slowroot/core/finding"
)

// What cannot be drained is refused with its field, what is wrong and what would be taken; nothing is guessed.
func TestRefusals(t *testing.T) {
	check := func(name, field string, err error) {
		t.Helper()
		var fe *finding.FieldError
		if !errors.As(err, &fe) || fe.Field != field || fe.Accepted == "" || fe.Rule == "" {
			t.Errorf("%s: %v, want the field %s", name, err, field)
		}
	}
	good := Field{Ka: 0.5, Kb: 0.5, Thick: 1, U: 0.3, H: 0.4, Q: 0.007}
	for name, x := range map[string]struct {
		change func(*Field)
		field  string
	}{
		"a drain above the water table":  {func(f *Field) { f.H = 0 }, "h"},
		"a drain far above it":           {func(f *Field) { f.H = -0.3 }, "h"},
		"no head that is a number":       {func(f *Field) { f.H = math.NaN() }, "h"},
		"nothing to take away":           {func(f *Field) { f.Q = 0 }, "q"},
		"soil that lets nothing through": {func(f *Field) { f.Ka, f.Kb = 0, 0 }, "k"},
		"permeability below nought":      {func(f *Field) { f.Ka = -1 }, "k"},
		"a pipe without a wall":          {func(f *Field) { f.U = 0 }, "u"},
	} {
		f := good
		x.change(&f)
		l, _, err := f.Spacing()
		check(name, x.field, err)
		if l != 0 {
			t.Errorf("%s: a spacing of %g all the same", name, l)
		}
	}
	for name, x := range map[string]struct {
		r, depth, mean, first, rise, s float64
		field                          string
	}{
		"a post hole":         {20, 120, 36, 40, 8, 60, "radiusCm"},
		"a hole hardly below": {4, 10, 36, 40, 8, 60, "depthCm"},
		"read near its rest":  {4, 120, 20, 40, 8, 60, "meanCm"},
		"read too late":       {4, 120, 36, 40, 12, 60, "riseCm"},
		"water that sinks":    {4, 120, 36, 40, -2, 60, "riseCm"},
		"no time at all":      {4, 120, 36, 40, 8, 0, "seconds"},
	} {
		_, err := AugerHole(x.r, x.depth, x.mean, x.first, x.rise, x.s, false)
		check(name, x.field, err)
	}
	flat := func(x, y float64) float64 { return 50 }
	for name, x := range map[string]struct {
		l     Layout
		field string
	}{
		"no collector":              {Layout{SpacingM: 10, AngleDeg: 90}, "collector"},
		"a collector of one point":  {Layout{Collector: []XY{{1, 1}}, SpacingM: 10, AngleDeg: 90}, "collector"},
		"a collector of no length":  {Layout{Collector: []XY{{1, 1}, {1, 1}}, SpacingM: 10, AngleDeg: 90}, "collector"},
		"drains on top of another":  {Layout{Collector: []XY{{0, 0}, {0, 90}}, SpacingM: 0.5, AngleDeg: 90}, "spacingM"},
		"drains in the next parish": {Layout{Collector: []XY{{0, 0}, {0, 90}}, SpacingM: 900, AngleDeg: 90}, "spacingM"},
		"laterals along it":         {Layout{Collector: []XY{{0, 0}, {0, 90}}, SpacingM: 10, AngleDeg: 5}, "angleDeg"},
		"laterals backwards":        {Layout{Collector: []XY{{0, 0}, {0, 90}}, SpacingM: 10, AngleDeg: 130}, "angleDeg"},
	} {
		n, err := Design(rect, x.l, Task{Ground: flat, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
		check(name, x.field, err)
		if n != nil {
			t.Errorf("%s: a network all the same", name)
		}
	}
	_, _, err := Depth(nil, nil, 0.1)
	check("no limit at all", "depth", err)
	d, by, err := Depth([]Limit{{"roots", 1.0}, {"clay", 0.6}}, []Limit{{"tractor traffic", 0.6}}, 0.1)
	check("clay under a tractor", "depthM", err)
	if d != 0.6 || by.Name != "clay" {
		t.Errorf("%g by %s", d, by.Name)
	}
	if d, by, err := Depth([]Limit{{"roots", 1.0}, {"clay", 0.6}}, []Limit{{"foot traffic", 0.5}}, 0.1); err != nil || d != 0.6 || by.Name != "clay" {
		t.Errorf("on foot: %g by %s, %v", d, by.Name, err)
	}
}

// Spacing answers as the ground does: more head, more permeability or less rain lie wider; a deeper layer never
// closer; and the inverses give back what they were made from.
func TestSpacingLaws(t *testing.T) {
	for _, k := range []float64{0.02, 0.2, 1, 8} {
		for _, thick := range []float64{0, 0.3, 1, 4, math.Inf(1)} {
			for _, h := range []float64{0.1, 0.4, 0.9} {
				f := Field{Ka: k, Kb: k, Thick: thick, U: 0.3, H: h, Q: 0.007}
				l, d, err := f.Spacing()
				if err != nil {
					t.Fatal(err)
				}
				if d < 0 || d > thick+1e-9 {
					t.Errorf("equivalent depth %g of %g", d, thick)
				}
				wider := func(name string, g Field) {
					t.Helper()
					if w, _, _ := g.Spacing(); w < l-1e-6 {
						t.Errorf("%s: %.3f m after %.3f (K %g, D %g, h %g)", name, w, l, k, thick, h)
					}
				}
				g := f
				g.H *= 1.2
				wider("more head", g)
				g = f
				g.Ka, g.Kb = 1.5*k, 1.5*k
				wider("more permeable", g)
				g = f
				g.Q /= 2
				wider("less rain", g)
				g = f
				g.Thick = thick + 0.5
				wider("a deeper layer", g)
				g = f
				g.U = 0.9
				wider("a wider envelope", g)
				if l > 0.6 && l < 990 {
					near(t, "height at the spacing", f.Height(l), h, 1e-5)
					near(t, "discharge at the spacing", f.Discharge(l), f.Q, 1e-8)
				}
			}
		}
	}
	// falling: sooner with closer drains, never below where it ends
	for _, l := range []float64{5, 10, 20} {
		near := FallDays(0.5, 0.6, 0.05, l, 0.8, 0.4)
		far := FallDays(0.5, 0.6, 0.05, 2*l, 0.8, 0.4)
		if r := far / near; r < 3.999 || r > 4.001 {
			t.Errorf("twice %g m takes %.3f times as long, want 4", l, r)
		}
	}
	if !math.IsInf(FallDays(0, 0.6, 0.05, 10, 0.8, 0.4), 1) {
		t.Error("water falls in soil that lets none through")
	}
	if h, early := Falls(0.5, 0.6, 0.05, 10, 0.6, 0.01); !early || h > 0.6 {
		t.Errorf("at once: %g, early %v", h, early)
	}
}
