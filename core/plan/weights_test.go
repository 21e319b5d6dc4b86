package plan

import (
	"math"
	"testing"

	"slowroot/core/document"
)

// What counts how much is a person's to say: wind alone puts the rows within 30° of where it blows, cold air within 45° of
// the slope, hours alone on the fewest to drive for a plant; the usual weights are those taken where nobody says any; what is
// no weight is refused.
func TestBearingsAreWeighedAsSaid(t *testing.T) {
	in := input(t, "hazelnut")
	in.Land = sloping(t, in, 3)
	off := func(a, b float64) float64 { return math.Abs(math.Remainder(a-b, 180)) }
	usual, err := Bearings(in)
	if err != nil || usual.Weights != document.UsualWeights || usual.Wind != nil {
		t.Fatalf("%+v, %v", usual.Weights, err)
	}
	with := func(w document.Weights) (best float64) {
		in.Block.Planting.Layout.Weigh = &w
		b, err := Bearings(in)
		if err != nil {
			t.Fatal(err)
		}
		if b.Weights != w {
			t.Errorf("weighed by %+v, said %+v", b.Weights, w)
		}
		return b.Best[0].Deg
	}
	from := 250.0
	if d := with(document.Weights{Wind: 1, FromDeg: &from}); off(d, from) > 30 {
		t.Errorf("wind from 250°, rows at %g°", d)
	}
	if d := with(document.Weights{Cold: 1}); off(d, 180) > 45 {
		t.Errorf("the ground falls to the south, rows at %g°", d)
	}
	least, at := math.Inf(1), 0.0
	for _, b := range usual.All {
		if h := b.Hours / float64(b.Stations); h < least {
			least, at = h, b.Deg
		}
	}
	if d := with(document.Weights{Hours: 1}); d != at {
		t.Errorf("hours alone: rows at %g°, fewest hours a plant at %g°", d, at)
	}
	if d := with(document.UsualWeights); d != usual.Best[0].Deg {
		t.Errorf("the usual weights said: %g°, and not said: %g°", d, usual.Best[0].Deg)
	}
	bad := 360.0
	for _, w := range []document.Weights{{}, {Hours: 1.1}, {Sun: -0.1}, {Hours: math.NaN()}, {Hours: 1, FromDeg: &bad}} {
		in.Block.Planting.Layout.Weigh = &w
		if _, err := Bearings(in); err == nil {
			t.Errorf("%+v is accepted", w)
		}
	}
}
