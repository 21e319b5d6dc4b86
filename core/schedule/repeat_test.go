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
		{ID: "runners", Name: "Runners off", Phase: "care", After: Planting, Better: Offset{3, "wk"}, Repeat: &Repeat{Offset{2, "wk"}, 3}, Origin: "cp"},
		{ID: "scout", Name: "Scout the regrowth", Phase: "care", After: "cut", Better: Offset{1, "wk"}, Repeat: &Repeat{Offset{1, "wk"}, 2}, Origin: "cp"},
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
		"comes back in no time":         {ID: "x", Name: "x", Phase: "care", After: Planting, Repeat: &Repeat{Offset{}, 3}, Origin: "cp"},
		"comes back once":               {ID: "x", Name: "x", Phase: "care", After: Planting, Repeat: &Repeat{Offset{1, "d"}, 1}, Origin: "cp"},
	} {
		if Check(append(append([]Operation{}, ops...), o)) == nil {
			t.Errorf("%s is taken", name)
		}
	}
}
