package supply

import (
	"errors"
	"math"
	"testing"

	"slowroot/core/finding"
)

// Method LAY-9, check values computed exactly there.
func TestPlantsToOrder(t *testing.T) {
	for _, c := range []struct {
		k       int
		p, conf float64
		want    int
	}{{100, 0.90, 0.95, 117}, {100, 0.80, 0.95, 135}, {1000, 0.85, 0.95, 1201}, {1000, 0.85, 0.99, 1211}, {20, 0.85, 0.95, 27}, {500, 1, 0.95, 500}, {0, 0.9, 0.95, 0}} {
		got, err := Plants(c.k, c.p, c.conf, 0.05)
		if err != nil || got.Plants != c.want {
			t.Errorf("K %d p %g at %g: order %d (%v), want %d", c.k, c.p, c.conf, got.Plants, err, c.want)
		}
		if AtLeast(got.Plants, c.k, c.p) < c.conf || got.Plants > c.k && AtLeast(got.Plants-1, c.k, c.p) >= c.conf {
			t.Errorf("K %d: %d is not the smallest order", c.k, got.Plants)
		}
	}
	if got := AtLeast(118, 100, 0.85); math.Abs(got-0.5929) > 5e-5 {
		t.Errorf("P(≥ 100 of 118 at 0.85) = %.4f, want 0.5929", got)
	}
	o, _ := Plants(1000, 0.9, 0.95, 0.05)
	if o.Flat != 1050 || o.FlatSure > 0.01 {
		t.Errorf("flat reserve %d is said to be %.3f sure", o.Flat, o.FlatSure)
	}
}

func TestRefusedOrders(t *testing.T) {
	for field, f := range map[string]func() error{
		"stations":    func() error { _, e := Plants(-1, 0.9, 0.95, 0); return e },
		"survival":    func() error { _, e := Plants(10, 0, 0.95, 0); return e },
		"confidence":  func() error { _, e := Plants(10, 0.9, 1, 0); return e },
		"flatReserve": func() error { _, e := Plants(10, 0.9, 0.95, -1); return e },
	} {
		var fe *finding.FieldError
		if !errors.As(f(), &fe) || fe.Field != field {
			t.Errorf("%s: %v", field, f())
		}
	}
}

func BenchmarkPlants135000(b *testing.B) {
	for b.Loop() {
		if _, err := Plants(135000, 0.92, 0.95, 0.05); err != nil {
			b.Fatal(err)
		}
	}
}

// Method LAY-10, computed: gaps of several cuttings a hole, their 95th percentile, and those to be singled. Two
// cuttings in each of 1,345 holes at 0.8: 2,690 leave four holes in a hundred empty, and 66 holes of a bad case take
// 132 more, where every plant alive would ask for 3,411.
func TestEveryHole(t *testing.T) {
	for _, c := range []struct {
		p   float64
		k   int
		gap float64
	}{{0.8, 1, 0.2}, {0.8, 2, 0.04}, {0.8, 3, 0.008}, {0.85, 2, 0.0225}} {
		if h, err := EveryHole(1000, c.k, c.p, 0.95); err != nil || math.Abs(h.GapShare-c.gap) > 1e-12 || math.Abs(h.GapsExpected-1000*c.gap) > 1e-9 {
			t.Errorf("%+v: %+v %v", c, h, err)
		}
	}
	if h, _ := EveryHole(1000, 2, 0.8, 0.95); h.GapsHigh != 50 || math.Abs(h.Doubles-0.64) > 1e-12 || h.Plants != 2100 {
		t.Errorf("1000 holes: %+v, want a 95th percentile of 50 gaps and 64 %% doubles", h)
	}
	h, _ := EveryHole(1345, 2, 0.8, 0.95)
	all, _ := Plants(2690, 0.8, 0.95, 0)
	if h.Planted != 2690 || h.GapsHigh != 66 || h.Plants != 2822 || all.Plants != 3411 {
		t.Errorf("every hole %+v, every plant %+v", h, all)
	}
	if h, _ := EveryHole(500, 3, 1, 0.95); h.Plants != 1500 || h.GapsHigh != 0 || h.Doubles != 1 {
		t.Errorf("all live: %+v", h)
	}
	for _, bad := range [][2]float64{{0, 0.95}, {21, 0.95}, {2, 0.3}} {
		if _, err := EveryHole(10, int(bad[0]), 0.9, bad[1]); err == nil {
			t.Errorf("%v accepted", bad)
		}
	}
}
