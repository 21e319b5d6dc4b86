package schedule

import (
	"math"
	"testing"

	"slowroot/core/civil"
)

// Work is spread over the days it may be done on, its hours are kept, and what is late falls on the first week.
func TestWeeksKeepTheHours(t *testing.T) {
	h := func(x float64) *float64 { return &x }
	from, to := civil.Must(2027, 3, 17), civil.Must(2027, 4, 30) // a Wednesday to a Friday
	weeks := Weeks([]Load{
		{civil.Must(2027, 3, 22), civil.Must(2027, 4, 4), h(70)},  // two whole weeks
		{civil.Must(2027, 3, 20), civil.Must(2027, 3, 23), h(8)},  // over a week's end
		{civil.Must(2027, 1, 1), civil.Must(2027, 1, 9), h(5)},    // late
		{civil.Must(2027, 3, 1), civil.Must(2027, 3, 18), h(4)},   // begun: two days are left
		{civil.Must(2027, 4, 20), civil.Must(2027, 4, 20), nil},   // nobody knows
		{civil.Must(2027, 5, 20), civil.Must(2027, 5, 28), h(99)}, // beyond
	}, from, to)
	if len(weeks) != 7 || weeks[0].Start != civil.Must(2027, 3, 15) {
		t.Fatalf("%d weeks from %s", len(weeks), weeks[0].Start)
	}
	want := []float64{5 + 4 + 4, 35 + 4, 35, 0, 0, 0, 0}
	for i, w := range weeks {
		if math.Abs(w.Hours-want[i]) > 1e-9 {
			t.Errorf("week of %s: %g hours, want %g", w.Start, w.Hours, want[i])
		}
		if unknown := map[int]int{5: 1}[i]; w.Unknown != unknown {
			t.Errorf("week of %s: %d jobs without hours, want %d", w.Start, w.Unknown, unknown)
		}
	}
	if len(Weeks(nil, to, from)) > 1 {
		t.Error("weeks of a span that ends before it begins")
	}
}
