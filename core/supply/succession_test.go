package supply

import (
	"math"
	"testing"

	"slowroot/core/civil"
)

// The worked example of method S11: 90 days to the first pick, 35 of picking, 7 together.
func TestPlantingsOneAfterAnother(t *testing.T) {
	got, err := Follow(civil.Must(2027, 3, 20), 5, Course{Grow: 90, Pick: 35, Overlap: 7})
	if err != nil {
		t.Fatal(err)
	}
	want := [][3]string{{"2027-03-20", "2027-06-18", "2027-07-22"}, {"2027-04-17", "2027-07-16", "2027-08-19"}, {"2027-05-15", "2027-08-13", "2027-09-16"},
		{"2027-06-12", "2027-09-10", "2027-10-14"}, {"2027-07-10", "2027-10-08", "2027-11-11"}}
	for i, w := range want {
		if g := got[i]; g.On.String() != w[0] || g.From.String() != w[1] || g.To.String() != w[2] {
			t.Errorf("planting %d: %v, want %v", i+1, g, w)
		}
	}
	if n := Bearing(2, 24, 8); n != 3 {
		t.Errorf("%d blocks of two years keep two in bearing, want 3", n)
	}
	if Bearing(1, 8, 8) != 0 {
		t.Error("what never bears keeps blocks in bearing")
	}
}

// With even warmth equal heat is equal days; in a warming spring the next plantings need fewer of them, each has as much warmth as
// the first to within a day, and the first picks stay evenly apart.
func TestPlantingsByHeat(t *testing.T) {
	first := civil.Must(2027, 3, 20)
	even := Course{Grow: 90, Pick: 35, Overlap: 7, Heat: func(civil.Date) float64 { return 10 }}
	a, err := Follow(first, 4, even)
	if err != nil {
		t.Fatal(err)
	}
	for k := range a {
		if want := first.AddDays(28 * k); a[k].On != want {
			t.Errorf("even warmth: planting %d on %s, want %s", k+1, a[k].On, want)
		}
	}
	warm := func(d civil.Date) float64 { return math.Max(0, 6-8*math.Cos(2*math.Pi*float64(d.DayOfYear()-15)/365)) }
	b, err := Follow(first, 4, Course{Grow: 90, Pick: 35, Overlap: 7, Heat: warm})
	if err != nil {
		t.Fatal(err)
	}
	sum := func(f Following) (s float64) {
		for d := f.On; d.Before(f.From); d = d.AddDays(1) {
			s += warm(d)
		}
		return s
	}
	for k, f := range b {
		if f.From != first.AddDays(90+28*k) {
			t.Errorf("picking %d begins on %s", k+1, f.From)
		}
		if k > 0 && (k < 3 && f.From.Sub(f.On) >= b[k-1].From.Sub(b[k-1].On) || sum(f) < sum(b[0])-1e-9 || sum(f)-warm(f.On) >= sum(b[0])) {
			t.Errorf("planting %d takes %d days and %.0f degree-days, the first %d and %.0f", k+1, f.From.Sub(f.On), sum(f), b[0].From.Sub(b[0].On), sum(b[0]))
		}
	}
	for what, c := range map[string]Course{"no growth": {Pick: 5}, "no picking": {Grow: 5}, "all together": {Grow: 5, Pick: 7, Overlap: 7},
		"no warmth": {Grow: 5, Pick: 7, Heat: func(civil.Date) float64 { return 0 }}} {
		if _, err := Follow(first, 3, c); err == nil {
			t.Errorf("%s is taken", what)
		}
	}
	if _, err := Follow(first, 61, even); err == nil {
		t.Error("61 plantings are taken")
	}
}
