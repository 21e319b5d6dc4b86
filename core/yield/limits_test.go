package yield

import (
	"math"
	"testing"
)

// Ayers and Westcot, FAO 29, 1985, the yield-potential table: conductivity at 90, 75, 50 and 0 % of yield, as printed.
func TestSaltTable(t *testing.T) {
	printed := map[string][4]float64{"date palm": {6.8, 11, 18, 32}, "grapefruit": {2.4, 3.4, 4.9, 8}, "orange": {2.3, 3.3, 4.8, 8}, "peach": {2.2, 2.9, 4.1, 6.5},
		"apricot": {2, 2.6, 3.7, 5.8}, "grape": {2.5, 4.1, 6.7, 12}, "almond": {2, 2.8, 4.1, 6.8}, "plum": {2.1, 2.9, 4.3, 7.1}, "blackberry": {2, 2.6, 3.8, 6},
		"strawberry": {1.3, 1.8, 2.5, 4}}
	for _, s := range Salts() {
		for i, left := range []float64{0.9, 0.75, 0.5, 0} {
			// The paper rounds to two figures, from coefficients with more places than it prints.
			if got, want := s.At(left), printed[s.Crop][i]; math.Abs(got-want) > math.Max(0.06, 0.035*want) {
				t.Errorf("%s at %g %%: %.2f dS/m, printed %g", s.Crop, 100*left, got, want)
			}
		}
	}
	for _, c := range []struct {
		crop int
		ece  float64
		want float64
	}{{2, 3, 0.792}, {9, 2, 0.670}, {0, 8, 0.856}, {0, 1, 1}, {9, 40, 0}} {
		if got := Salts()[c.crop].Left(c.ece); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s at %g dS/m: %.4f, want %.3f", Salts()[c.crop].Crop, c.ece, got, c.want)
		}
	}
}

// Method Y8, Y9, Y10, Y11: values computed there by integration and by hand.
func TestStandsCutsAndLimits(t *testing.T) {
	for _, c := range []struct{ a, q, r, grid, random float64 }{{0.8, 0.7, 0.35, 0.4204, 0.3436}, {0.8, 0.7, 0.5, 0.7338, 0.5764}, {0.8, 0.7, 0.7, 0.9212, 0.8143},
		{1, 0.6, 0.5, 0.4714, 0}, {1, 0.6, 1, 0.9315, 0}} {
		if got := Cover(c.a, c.q, c.r); math.Abs(got-c.grid) > 0.001 {
			t.Errorf("clumps %g m apart, %g alive, spread %g m: %.4f covered, want %.4f", c.a, c.q, c.r, got, c.grid)
		}
		if got := CoverAtRandom(c.q/(c.a*c.a), c.r); c.random > 0 && math.Abs(got-c.random) > 0.0001 {
			t.Errorf("at random: %.4f, want %.4f", got, c.random)
		}
	}
	kg, each := OfCohorts([][2]float64{{3, 4}, {4, 10}, {5, 20}, {6, 32}, {7, 40}}, []Cohort{{6, 332}, {4, 20}, {1, 15}})
	if math.Abs(kg-10824) > 1e-9 || each[1] != 200 || each[2] != 0 {
		t.Errorf("cohorts bear %.1f kg (%v), want 10824", kg, each)
	}
	if Watered(1.25, 0.8) != 0.75 || math.Abs(Watered(1.1, 620.0/775)-0.78) > 1e-9 || Watered(2, 0.1) != 0 || Watered(1.1, 1.2) != 1 {
		t.Error("water")
	}
	if got := Alternation([]float64{20, 8, 22, 6, 18}); math.Abs(got-0.49167) > 1e-5 {
		t.Errorf("alternation %.5f, want 0.49167", got)
	}
	if Alternation([]float64{3}) != 0 || Alternation([]float64{0, 0}) != 0 {
		t.Error("alternation of nothing")
	}
	if Cuts(364, 70) != 6 || Cuts(300, 70) != 5 || Cuts(-1, 70) != 0 {
		t.Errorf("cuts %d, %d", Cuts(364, 70), Cuts(300, 70))
	}
	got, err := Shared(18, []float64{0.22, 0.24, 0.20, 0.18, 0.16})
	if err != nil || math.Abs(got[1]-4.32) > 1e-9 || math.Abs(got[4]-2.88) > 1e-9 {
		t.Errorf("%v, %v", got, err)
	}
	if _, err := Shared(18, []float64{0.5, 0.4}); err == nil {
		t.Error("shares of 0.9 were taken")
	}
}
