package suitability

import (
	"math"
	"testing"
)

var nan = math.NaN()

// Method SOIL-6, computed.
func TestRatings(t *testing.T) {
	// S1 5.5–6.5, S2 to 7.0, S3 to 7.5
	ph := Range{IdealLow: 5.5, IdealHigh: 6.5, TolLow: 4.5, TolHigh: 7.5, S2Low: 5.0, S2High: 7.0}
	for v, want := range map[float64]float64{6: 100, 6.5: 85, 6.8: 70, 7: 60, 7.5: 40, 8: 25, 4.7: 48, 8.5: 0, 9: 0} {
		if got := ph.Rating(v); math.Abs(got-want) > 1e-9 {
			t.Errorf("pH %g: %g, want %g", v, got, want)
		}
	}
	for v, want := range map[float64]float64{6.4: 100, 6.8: 70, 7.5: 40, 7.75: 32.5} {
		if got := Interpolate(v, [4]float64{6.5, 7, 7.5, 8}); math.Abs(got-want) > 1e-9 {
			t.Errorf("printed edges, %g: %g", v, got)
		}
	}
	if got := Interpolate(4.7, [4]float64{5.5, 5, 4.5, 4}); math.Abs(got-48) > 1e-9 {
		t.Errorf("lower side: %g", got)
	}
	half := Range{IdealLow: 100, IdealHigh: nan, TolLow: 80, TolHigh: nan, S2Low: nan, S2High: nan}
	if half.Rating(90) != 60 || half.Rating(1000) != 100 || half.Rating(80) != 40 {
		t.Errorf("S2 ends half-way: %g %g %g", half.Rating(90), half.Rating(1000), half.Rating(80))
	}
	if !math.IsNaN(half.Rating(nan)) {
		t.Error("an unknown value was rated")
	}
	open := Range{IdealLow: 100, IdealHigh: nan, TolLow: nan, TolHigh: nan, S2Low: nan, S2High: nan}
	if c := ClassOf(open.Rating(50), false); c != S2 {
		t.Errorf("no limit given: %s", c)
	}
}

func TestSchools(t *testing.T) {
	r := []float64{95, 85, 70, 55, 90}
	if i := Limiting(r); i != 3 || ClassOf(r[i], false) != S3 {
		t.Errorf("limiting %d", i)
	}
	if got := SquareRoot(r); math.Abs(got-39.23) > 0.005 || IndexClass(got) != S3 {
		t.Errorf("square root %g", got)
	}
	if got := Product(r); math.Abs(got-27.98) > 0.005 {
		t.Errorf("product %g", got)
	}
	if Limiting([]float64{nan}) != -1 {
		t.Error("nothing judged limits")
	}
	for _, c := range []struct {
		r    float64
		can  bool
		want Class
	}{{85, false, S1}, {84.9, false, S2}, {40, false, S3}, {30, false, N1}, {10, false, N2}, {10, true, N1}, {nan, false, NotJudged}} {
		if got := ClassOf(c.r, c.can); got != c.want {
			t.Errorf("%g: %s", c.r, got)
		}
	}
}

// A better value never rates worse, on either side, whatever the edges.
func TestRatingFallsAwayFromTheIdeal(t *testing.T) {
	for _, r := range []Range{{10, 20, 5, 30, nan, nan}, {10, 20, 9, 21, 9.8, 20.9}, {0, 5, nan, 8, nan, nan}, {10, 20, 10, 20, nan, nan}} {
		last := 101.0
		for v := 15.0; v < 60; v += 0.05 {
			got := r.Rating(math.Max(v, r.IdealLow))
			if got > last+1e-9 || got < 0 {
				t.Fatalf("%+v: %g rates %g after %g", r, v, got, last)
			}
			last = got
		}
	}
}
