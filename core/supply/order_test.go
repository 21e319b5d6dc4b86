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
