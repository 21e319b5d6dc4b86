package supply

import (
	"math"
	"testing"
)

// Sample and limit of Guenther's method: for 1 and 5 % with risks of 5 and 10 % his 132 and 3 (from memory), and by its
// definition with exact binomials, as
// python3 -c "from math import comb; print([sum(comb(n,i)*p**i*(1-p)**(n-i) for i in range(4)) for n,p in ((132,.05),(131,.05),(132,.01))])"
// has them.
func TestInspection(t *testing.T) {
	for _, of := range []struct {
		lot          int
		good, bad    float64
		sample, most int
	}{
		{100000, 0.01, 0.05, 132, 3},
		{3445, 0.02, 0.10, 65, 3},
		{40, 0.02, 0.10, 40, 0},
	} {
		got, err := Inspect(of.lot, of.good, of.bad, 0.05, 0.10)
		if err != nil || got.Sample != of.sample || got.Most != of.most {
			t.Errorf("%d pieces, %g and %g: %+v, %v; want %d and %d", of.lot, of.good, of.bad, got, err, of.sample, of.most)
		}
	}
	if a, b, c := AtMost(132, 3, 0.05), AtMost(131, 3, 0.05), AtMost(132, 3, 0.01); math.Abs(a-0.0992283044) > 1e-9 || math.Abs(b-0.1024505200) > 1e-9 || math.Abs(c-0.9557474942) > 1e-9 {
		t.Errorf("%.4f, %.4f, %.4f", a, b, c)
	}
	for _, bad := range [][4]float64{{0.1, 0.05, 0.05, 0.1}, {0, 0.05, 0.05, 0.1}, {0.01, 1, 0.05, 0.1}, {0.01, math.NaN(), 0.05, 0.1}} {
		if _, err := Inspect(100, bad[0], bad[1], bad[2], bad[3]); err == nil {
			t.Errorf("%v is taken", bad)
		}
	}
	if _, err := Inspect(0, 0.01, 0.05, 0.05, 0.1); err == nil {
		t.Error("nothing is inspected")
	}
}
