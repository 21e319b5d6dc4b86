package climate

import (
	"math"
	"testing"

	"slowroot/core/civil"
)

// Cold hours between two days are the sum of the days' own from the record: five years in which every day lies between −2 and 4 °C are cold at
// every hour, and those below 0 °C count by their weight; years with a hole keep silent.
func TestColdHoursByTheRecord(t *testing.T) {
	var days []Day
	for d := civil.Must(2018, 1, 1); d.Before(civil.Must(2023, 1, 1)); d = d.AddDays(1) {
		b := Blank(d)
		b.TMin, b.TMax = -2, 4
		days = append(days, b)
	}
	s := NewSeries(days)
	site := NewSite(nil, &s, 45, 100, false, "test")
	from, to := civil.Must(2027, 11, 1), civil.Must(2027, 12, 1)
	all, ok := site.ColdHours(from, to, 1)
	if !ok || math.Abs(all-30*24) > 1e-6 {
		t.Fatalf("%g h in 30 days, %v", all, ok)
	}
	none, _ := site.ColdHours(from, to, 0)
	half, _ := site.ColdHours(from, to, 0.5)
	if !(none > 0 && none < all) || math.Abs(half-(all+none)/2) > 1e-6 {
		t.Errorf("%g without those below 0 °C, %g with half of them", none, half)
	}
	if two, _ := site.ColdHours(from, to.AddDays(30), 1); math.Abs(two-60*24) > 1e-6 {
		t.Errorf("%g h in 60 days", two)
	}
	if back, _ := site.ColdHours(to, from, 1); back != 0 {
		t.Errorf("%g h backwards", back)
	}
	short := NewSeries(days[:500])
	little := NewSite(nil, &short, 45, 100, false, "test")
	if _, ok := little.ColdHours(from, to, 1); ok {
		t.Error("a year and a half say what is usual")
	}
}
