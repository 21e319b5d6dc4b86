package canopy

import (
	"math"
	"testing"
)

// Method Y1 and Y2, computed check values.
func TestLogisticSpread(t *testing.T) {
	g := Growth{FinalM: 5, Seen: [2][2]float64{{2, 1}, {6, 4}}}
	if err := g.Valid(); err != nil {
		t.Fatal(err)
	}
	near := func(what string, got, want float64) {
		t.Helper()
		if math.Abs(got-want) > 1e-3*want {
			t.Errorf("%s: %.5f, want %.5f", what, got, want)
		}
	}
	near("d(8)", g.SpreadM(8), 4.70588)
	near("age at 4.5 m", g.AgeAt(4.5), 7.1699)
	h := Growth{FinalM: 5.5, Seen: [2][2]float64{{2, 1.2}, {6, 4.2}}}
	near("closes 3 m", h.AgeAt(3), 4.382)
	near("closes 4 m", h.AgeAt(4), 5.687)
	near("closes 5 m", h.AgeAt(5), 7.845)
	if !math.IsInf(h.AgeAt(6), 1) {
		t.Error("a spread beyond the final one was reached")
	}
	h.HeldM = 3.5
	if h.SpreadM(30) != 3.5 || !math.IsInf(h.AgeAt(4), 1) {
		t.Error("pruning does not hold the width")
	}
	if (Growth{FinalM: 4, Seen: [2][2]float64{{2, 3}, {6, 2}}}).Valid() == nil {
		t.Error("a shrinking canopy was accepted")
	}
	if (Growth{}).SpreadM(5) != 0 {
		t.Error("the zero growth has a spread")
	}
}
