package schedule

import (
	"testing"

	"slowroot/core/civil"
)

// Work after a cut comes after each cut, ten days later, from the day the cut was really made; what comes back every
// fortnight is counted from the last time it was done.
func TestWorkThatHangsOnWork(t *testing.T) {
	ops := []Operation{
		{ID: "cut", Name: "Cut", Phase: "prune", Season: []string{"late-winter"}, Ages: Ages{From: 2}, Origin: "cp"},
		{ID: "feed", Name: "Feed after the cut", Phase: "feed", After: "cut", Better: Offset{10, "d"}, Origin: "cp"},
		{ID: "runners", Name: "Runners off", Phase: "care", After: Planting, Better: Offset{3, "wk"}, Repeat: &Repeat{Every: Offset{2, "wk"}, Times: 3}, Origin: "cp"},
		{ID: "scout", Name: "Scout the regrowth", Phase: "care", After: "cut", Better: Offset{1, "wk"}, Repeat: &Repeat{Every: Offset{1, "wk"}, Times: 2}, Origin: "cp"},
	}
	if err := Check(ops); err != nil {
		t.Fatal(err)
	}
	s, _ := NewSeasons(Temperate(false))
	c := Calendar{Seasons: s, Planting: civil.Must(2027, 4, 1), Life: 3, Done: map[string]civil.Date{"cut@2": civil.Must(2029, 2, 20), "runners@1": civil.Must(2027, 5, 1)}}
	got := map[string]civil.Date{}
	for _, j := range Jobs(ops, c) {
		got[j.Key] = j.From
	}
	for key, want := range map[string]civil.Date{
		"feed@2": civil.Must(2029, 3, 2), "feed@3": civil.Must(2030, 2, 11),
		"runners@1": civil.Must(2027, 4, 22), "runners@2": civil.Must(2027, 5, 15), "runners@3": civil.Must(2027, 5, 29),
		"scout@2.1": civil.Must(2029, 2, 27), "scout@2.2": civil.Must(2029, 3, 6), "scout@3.1": civil.Must(2030, 2, 8),
	} {
		if got[key] != want {
			t.Errorf("%s on %s, want %s", key, got[key], want)
		}
	}
	if len(got) != 2+2+3+4 {
		t.Errorf("%d jobs: %v", len(got), got)
	}
	for name, o := range map[string]Operation{
		"before what is done each year": {ID: "x", Name: "x", Phase: "care", Before: "cut", Better: Offset{1, "d"}, Min: Offset{1, "d"}, Origin: "cp"},
		"comes back in no time":         {ID: "x", Name: "x", Phase: "care", After: Planting, Repeat: &Repeat{Times: 3}, Origin: "cp"},
		"comes back once":               {ID: "x", Name: "x", Phase: "care", After: Planting, Repeat: &Repeat{Every: Offset{1, "d"}, Times: 1}, Origin: "cp"},
	} {
		if Check(append(append([]Operation{}, ops...), o)) == nil {
			t.Errorf("%s is taken", name)
		}
	}
}

// Work that comes back until a season has passed, in both hemispheres: weekly from two weeks after planting to the last day
// of late autumn; once where the season has the day; not past a number of times that is reached sooner.
func TestWorkUntilASeason(t *testing.T) {
	for _, c := range []struct {
		south   bool
		planted civil.Date
		times   int
		last    civil.Date
		n       int
	}{
		{false, civil.Must(2027, 9, 5), 0, civil.Must(2027, 11, 28), 11}, {true, civil.Must(2027, 3, 5), 0, civil.Must(2027, 5, 28), 11},
		{false, civil.Must(2027, 9, 5), 4, civil.Must(2027, 10, 10), 4}, {false, civil.Must(2027, 11, 15), 0, civil.Must(2027, 11, 29), 1},
	} {
		ops := []Operation{{ID: "scout", Name: "Scout", Phase: "care", After: Planting, Better: Offset{2, "wk"},
			Repeat: &Repeat{Every: Offset{1, "wk"}, Times: c.times, Until: "late-autumn"}, Origin: "cp"}}
		if err := Check(ops); err != nil {
			t.Fatal(err)
		}
		s, err := NewSeasons(Temperate(c.south))
		if err != nil {
			t.Fatal(err)
		}
		jobs := Jobs(ops, Calendar{Seasons: s, Planting: c.planted, Life: 1})
		if len(jobs) != c.n || jobs[len(jobs)-1].From != c.last {
			t.Errorf("south %v, planted %s: %d times to %s, wanted %d to %s", c.south, c.planted, len(jobs), jobs[len(jobs)-1].From, c.n, c.last)
		}
	}
	for _, r := range []Repeat{{Every: Offset{1, "wk"}}, {Every: Offset{1, "wk"}, Times: 1, Until: "late-autumn"}, {Every: Offset{1, "wk"}, Until: "autumn"}, {Until: "late-autumn"}} {
		if Check([]Operation{{ID: "x", Name: "x", Phase: "care", After: Planting, Repeat: &r, Origin: "cp"}}) == nil {
			t.Errorf("%+v is accepted", r)
		}
	}
}
