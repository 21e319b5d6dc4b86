package document

import "testing"

// Who does a job: the crew that was said; machine work by machines that are there for it, else by people who drive; hand work never by machines;
// nobody where no crew is kept for it.
func TestWhoDoesAJob(t *testing.T) {
	list := []Crew{{ID: "diggers", Machine: true, Does: []string{"ground"}}, {ID: "yard", Does: []string{"ground", "care"}}, {ID: "pickers", Does: []string{"harvest"}},
		{ID: "sweeper", Machine: true, Does: []string{"harvest"}}}
	for _, c := range []struct {
		said, phase string
		machine     bool
		want        int
	}{{"", "soil", true, 0}, {"", "soil", false, 1}, {"", "own", false, 1}, {"", "harvest", false, 2}, {"", "harvest", true, 3}, {"", "care", true, 1},
		{"", "prune", false, -1}, {"pickers", "prune", false, 2}, {"gone", "drain", false, 1}, {"", "no phase", false, -1}} {
		if got := CrewFor(list, c.said, c.phase, c.machine); got != c.want {
			t.Errorf("%+v: %d", c, got)
		}
	}
	if got := CrewFor([]Crew{{ID: "all"}}, "", "no phase", false); got != 0 {
		t.Errorf("a crew kept for everything does not do it: %d", got)
	}
	if err := crews([]Crew{{ID: "a", Name: "A", People: 1, HoursDay: 8, DaysWeek: 5, Does: []string{"singing"}}}); err == nil {
		t.Error("a crew kept for singing is taken")
	}
}
