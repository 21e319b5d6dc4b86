package canopy

import (
	"math"
	"testing"
)

// Method Y1: values computed there.
func TestSlowingGrowth(t *testing.T) {
	for _, c := range []struct {
		a, b       [2]float64
		shape      float64
		final, k   float64
		d, reached float64
	}{{[2]float64{2, 1}, [2]float64{6, 4}, 2, 6.854102, 0.2406059, 4.5, 6.90825}, {[2]float64{3, 1.8}, [2]float64{8, 4.6}, 1.5, 7.256926, 0.1673835, 4, 6.66457}} {
		s, err := Slow(c.a, c.b, c.shape)
		if err != nil || math.Abs(s.FinalM-c.final) > 1e-5 || math.Abs(s.Rate-c.k) > 1e-6 || math.Abs(s.AgeAt(c.d)-c.reached) > 1e-4 {
			t.Errorf("%+v, %g m at %.5f, %v", s, c.d, s.AgeAt(c.d), err)
		}
		if math.Abs(s.SpreadM(c.b[0])-c.b[1]) > 1e-9 || s.SpreadM(-1) != 0 || !math.IsInf(s.AgeAt(s.FinalM), 1) {
			t.Errorf("%+v does not go through what was seen", s)
		}
	}
	if s, _ := Slow([2]float64{2, 1}, [2]float64{6, 4}, 2); math.Abs(s.SpreadM(4)-2.618034) > 1e-5 || math.Abs(s.SpreadM(10)-5.673762) > 1e-5 {
		t.Errorf("%g, %g", s.SpreadM(4), s.SpreadM(10))
	}
	if _, err := Slow([2]float64{2, 1}, [2]float64{4, 5}, 1.5); err == nil {
		t.Error("growth that does not slow was fitted")
	}
}
