package schedule

import (
	"strings"
	"testing"

	"slowroot/core/civil"
)

func day(t *testing.T, s string) civil.Date {
	t.Helper()
	d, err := civil.Parse(s)
	if err != nil {
		t.Fatal(err)
	}
	return d
}

func off(t *testing.T, s string) Offset {
	t.Helper()
	o, err := ParseOffset(s)
	if err != nil {
		t.Fatal(err)
	}
	return o
}

func seasons(t *testing.T, south bool) Seasons {
	t.Helper()
	s, err := NewSeasons(Temperate(south))
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func TestSeasonYearsInBothHemispheres(t *testing.T) {
	s, n := seasons(t, true), seasons(t, false)
	if a, b := s.Span("early-winter", "late-winter", 2027); a.String() != "2028-06-01" || b.String() != "2028-08-31" {
		t.Errorf("southern winter of 2027/28 is %s to %s", a, b)
	}
	if a, b := n.Span("early-winter", "late-winter", 2027); a.String() != "2027-12-01" || b.String() != "2028-02-29" {
		t.Errorf("northern winter of 2027/28 is %s to %s", a, b)
	}
	if a, b := s.Span("late-winter", "early-spring", 2027); a.String() != "2028-08-01" || b.String() != "2028-09-30" {
		t.Errorf("a window past the season year's end is %s to %s", a, b)
	}
	if s.Label(2027) != "2027/28" || s.Label(2099) != "2099/00" {
		t.Error("labels", s.Label(2027), s.Label(2099))
	}
	for d, want := range map[string]int{"2027-08-31": 2026, "2027-09-01": 2027, "2028-02-29": 2027} {
		if got := s.YearOf(day(t, d)); got != want {
			t.Errorf("%s lies in %d, want %d", d, got, want)
		}
	}
	// Winter and spring planting grow in the coming season; autumn planting waits for the next.
	for d, want := range map[string]int{"2027-07-10": 2027, "2027-10-15": 2027, "2028-04-20": 2028} {
		if got := s.FirstYear(day(t, d)); got != want {
			t.Errorf("planted %s: first year %d, want %d", d, got, want)
		}
	}
}

// Method S5, worked dates for planting on 2027-04-20 and 2027-03-15.
func TestCountedBackFromPlanting(t *testing.T) {
	ops := []Operation{
		{ID: "soil-test", Name: "Soil", Phase: "assess", Before: Planting, Better: off(t, "12 mo"), Min: off(t, "6 mo"), Origin: "S5"},
		{ID: "refill", Name: "Refill", Phase: "plant", Before: Planting, Better: off(t, "1 mo"), Min: off(t, "1 mo"), Origin: "S5"},
		{ID: "pits", Name: "Pits", Phase: "plant", Before: "refill", Better: off(t, "2 mo"), Min: off(t, "2 mo"), Origin: "S5"},
		{ID: "first-n", Name: "N", Phase: "feed", After: Planting, Better: off(t, "75 d"), Origin: "S5"},
		{ID: "prune", Name: "Prune", Phase: "prune", Season: []string{"mid-winter"}, Ages: Ages{2, 6, 2}, Origin: "S5"},
	}
	if err := Check(ops); err != nil {
		t.Fatal(err)
	}
	get := func(planting string) map[string]Job {
		out := map[string]Job{}
		for _, j := range Jobs(ops, Calendar{Seasons: seasons(t, true), Planting: day(t, planting), Life: 10}) {
			out[j.Key] = j
		}
		return out
	}
	jobs := get("2027-04-20")
	if j := jobs["soil-test"]; j.From.String() != "2026-04-20" || j.By.String() != "2026-10-20" {
		t.Errorf("soil test %s to %s", j.From, j.By)
	}
	jobs = get("2027-03-15")
	if jobs["refill"].By.String() != "2027-02-15" || jobs["pits"].By.String() != "2026-12-15" {
		t.Errorf("refill by %s, pits by %s", jobs["refill"].By, jobs["pits"].By)
	}
	jobs = get("2027-07-01")
	if jobs["first-n"].From.String() != "2027-09-14" {
		t.Errorf("first N %s, want 2027-09-14", jobs["first-n"].From)
	}
	// Ages 2, 4, 6: the winters ending the season years 2028/29, 2030/31 and 2032/33.
	for key, want := range map[string]string{"prune@2": "2029-07-01", "prune@4": "2031-07-01", "prune@6": "2033-07-01"} {
		if jobs[key].From.String() != want {
			t.Errorf("%s on %s, want %s", key, jobs[key].From, want)
		}
	}
	if _, ok := jobs["prune@3"]; ok {
		t.Error("a two-yearly job came every year")
	}
	if !jobs["soil-test"].Passed(day(t, "2027-02-01")) || jobs["soil-test"].Passed(day(t, "2026-12-31")) {
		t.Error("passing is judged on the last workable day")
	}
}

// Method S4: soil result + 21 d → amendment + 180 d → planting, beds ≥ 7 d before planting.
func TestEarliestPlantingNamesItsChain(t *testing.T) {
	ops := []Operation{
		{ID: "soil", Name: "Soil result", Phase: "assess", Before: "amend", Better: off(t, "21 d"), Min: off(t, "21 d"), Origin: "S4"},
		{ID: "amend", Name: "Amendment", Phase: "soil", Before: Planting, Better: off(t, "180 d"), Min: off(t, "180 d"), Origin: "S4"},
		{ID: "beds", Name: "Beds", Phase: "bed", Before: Planting, Better: off(t, "60 d"), Min: off(t, "7 d"), Origin: "S4"},
	}
	cal := Calendar{Seasons: seasons(t, false), Planting: day(t, "2027-04-20")}
	got, chain := Earliest(ops, cal, day(t, "2027-01-11"))
	if got.String() != "2027-07-31" || len(chain) != 2 || chain[0].Operation.ID != "soil" || chain[1].Operation.ID != "amend" {
		t.Fatalf("earliest %s through %+v, want 2027-07-31 through soil and amendment", got, chain)
	}
	cal.Done = map[string]civil.Date{"soil": day(t, "2027-03-10"), "amend": day(t, "2027-04-10")}
	if got, _ := Earliest(ops, cal, day(t, "2027-05-01")); got.String() != "2027-10-07" {
		t.Errorf("with the amendment on 10 April planting is possible from %s, want 2027-10-07", got)
	}
	w := []PlantingWindow{{Season: []string{"early-autumn"}}}
	if d := cal.Seasons.NextInWindow(day(t, "2027-07-31"), w); d.String() != "2027-09-01" {
		t.Errorf("next window %s", d)
	}
	if cal.Seasons.InWindow(day(t, "2027-10-02"), w) || !cal.Seasons.InWindow(day(t, "2027-09-30"), w) {
		t.Error("window edges")
	}
}

func TestCheckRefusesBadOperations(t *testing.T) {
	ok := func() Operation {
		return Operation{ID: "a", Name: "A", Phase: "soil", Before: Planting, Better: Offset{6, "mo"}, Min: Offset{3, "mo"}, Origin: "cp"}
	}
	for say, change := range map[string]func(*Operation){
		"does not resolve": func(o *Operation) { o.Before = "nothing" },
		"exactly one":      func(o *Operation) { o.After = Planting },
		"phase":            func(o *Operation) { o.Phase = "magic" },
		"longer than":      func(o *Operation) { o.Min = Offset{9, "mo"} },
		"no origin":        func(o *Operation) { o.Origin = "" },
		"season":           func(o *Operation) { o.Before, o.Season = "", []string{"Octember"} },
		"loop":             func(o *Operation) { o.Before = "a" },
		"no name":          func(o *Operation) { o.Name = "" },
	} {
		o := ok()
		change(&o)
		if err := Check([]Operation{o}); err == nil || !strings.Contains(err.Error(), say) {
			t.Errorf("%s: %v", say, err)
		}
	}
	for _, s := range []string{"6", "six mo", "-3 d", "6 fortnights", "99999 d"} {
		if _, err := ParseOffset(s); err == nil {
			t.Errorf("%q was read as a length of time", s)
		}
	}
	if _, err := NewSeasons(Temperate(true)[:11]); err == nil {
		t.Error("a missing season was accepted")
	}
	bad := Temperate(true)
	bad[3].From = "02-30"
	if _, err := NewSeasons(bad); err == nil {
		t.Error("30 February was accepted")
	}
}
