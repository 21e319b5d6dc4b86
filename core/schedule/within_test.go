package schedule

import (
	"testing"

	"slowroot/core/civil"
)

// A time of the year against every day looked at one by one, on both halves of the earth and across New Year.
func TestTimeOfTheYearDayByDay(t *testing.T) {
	for _, south := range []bool{false, true} {
		s, err := NewSeasons(Temperate(south))
		if err != nil {
			t.Fatal(err)
		}
		for _, span := range [][]string{{"early-summer", "mid-autumn"}, {"late-autumn", "late-winter"}, {"mid-winter"}, {"early-spring", "mid-summer"}, {"late-winter", "early-spring"}} {
			w := &Within{Season: span, Says: "so", Origin: "mem"}
			in := func(d civil.Date) bool {
				for y := d.Year() - 2; y <= d.Year()+1; y++ {
					if a, b := s.Span(span[0], span[len(span)-1], y); !d.Before(a) && !d.After(b) {
						return true
					}
				}
				return false
			}
			inside := 0
			for d := civil.Must(2027, 6, 1); d.Before(civil.Must(2028, 9, 1)); d = d.AddDays(1) {
				next, last := d, d
				for !in(next) {
					next = next.AddDays(1)
				}
				for !in(last) {
					last = last.AddDays(-1)
				}
				if in(d) {
					inside++
				}
				first := last
				for in(first.AddDays(-1)) {
					first = first.AddDays(-1)
				}
				gotFirst, gotLast := w.Last(s, d)
				if w.Next(s, d) != next || gotLast != last || gotFirst != first {
					t.Fatalf("%v south %v, %s: next %s want %s, last %s from %s, want %s from %s", span, south, d, w.Next(s, d), next, gotLast, gotFirst, last, first)
				}
			}
			if inside < 28 || inside > 300 {
				t.Errorf("%v: %d days inside", span, inside)
			}
		}
	}
	two := (&Within{Rains: []string{"cool-dry", "hot-dry"}, Says: "it is dry"}).InRains(2)
	if two.Words() != "while it is dry (the cool dry season, or the hot dry season)" {
		t.Error(two.Words())
	}
	if again := (&Within{Rains: []string{"onset-rains", "end-rains"}}).InRains(2); len(again.Also) != 2 || again.Also[1] != "second-end" {
		t.Errorf("the second rains: %v", again.Also)
	}
	if once := (&Within{Season: []string{"mid-summer"}}).InRains(1); len(once.Season) > 0 || once.Also != nil {
		t.Errorf("a time of winters at a place of rains: %v", once.Season)
	}
	var any *Within
	day := civil.Must(2027, 1, 31)
	if _, last := any.Last(Seasons{}, day); any.Next(Seasons{}, day) != day || last != day {
		t.Error("any time will do moves a day")
	}
}

// Work before planting moves back into its time of the year, and what stands before it with it.
func TestWorkBeforePlantingInItsTimeOfTheYear(t *testing.T) {
	s, err := NewSeasons(Temperate(false))
	if err != nil {
		t.Fatal(err)
	}
	three, four := Offset{3, "mo"}, Offset{4, "mo"}
	ops := []Operation{
		{ID: "drain", Name: "Drain", Phase: "drain", Before: "rip", Better: Offset{2, "mo"}, Min: Offset{1, "mo"}, Origin: "mem"},
		{ID: "rip", Name: "Rip", Phase: "soil", Before: Planting, Better: four, Min: three, Origin: "mem",
			Within: &Within{Season: []string{"early-summer", "mid-autumn"}, Says: "the soil is dry", Origin: "mem"}},
	}
	if err := Check(ops); err != nil {
		t.Fatal(err)
	}
	c := Calendar{Seasons: s, Planting: civil.Must(2028, 3, 15), Life: 1, Done: map[string]civil.Date{}}
	at := map[string]Job{}
	for _, j := range Jobs(ops, c) {
		at[j.Key] = j
	}
	// three months before 15 March is 15 December: after the last of October by 45 days, and the wanted day with it
	if j := at["rip"]; j.By != civil.Must(2027, 10, 31) || j.From != civil.Must(2027, 10, 1) {
		t.Errorf("ripped %s to %s", j.From, j.By)
	}
	if j := at["drain"]; j.By != civil.Must(2027, 9, 30) || j.From != civil.Must(2027, 8, 1) {
		t.Errorf("drained %s to %s", j.From, j.By)
	}
	// begun in November, ripping waits for June and planting for September
	free, chain := Earliest(ops, c, civil.Must(2027, 11, 20))
	if free != civil.Must(2028, 9, 1) || len(chain) != 2 || chain[1].Start != civil.Must(2028, 6, 1) {
		t.Errorf("free on %s, %+v", free, chain)
	}
	ops[1].Within.Season = []string{"summer"}
	if Check(ops) == nil {
		t.Error("a season nobody knows is taken")
	}
	ops[1].Before, ops[1].After, ops[1].Within.Season = "", Planting, []string{"early-summer"}
	if Check(ops) == nil {
		t.Error("a time of the year of work after planting is taken")
	}
}
