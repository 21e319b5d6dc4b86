package schedule

import (
	"testing"

	"slowroot/core/civil"
)

// One rainy season of 120 days: its first and last thirty are onset and end, the dry time is halved. Two: the gap after
// the first is the cool dry, the other the hot. Together they make the year, without a gap and without a day twice.
func TestRainsMakeTheYear(t *testing.T) {
	for _, c := range []struct {
		rains []Rain
		keys  []string
	}{
		{[]Rain{{"06-01", "09-28"}}, []string{"onset-rains", "middle-rains", "end-rains", "cool-dry", "hot-dry"}},
		{[]Rain{{"11-15", "04-20"}}, []string{"onset-rains", "middle-rains", "end-rains", "cool-dry", "hot-dry"}},
		{[]Rain{{"03-10", "05-31"}, {"10-05", "12-15"}}, []string{"onset-rains", "middle-rains", "end-rains", "cool-dry", "second-onset", "second-middle", "second-end", "hot-dry"}},
		{[]Rain{{"10-05", "12-15"}, {"03-10", "05-31"}}, []string{"onset-rains", "middle-rains", "end-rains", "cool-dry", "second-onset", "second-middle", "second-end", "hot-dry"}},
	} {
		s, err := NewSeasons(Temperate(false))
		if err != nil {
			t.Fatal(err)
		}
		if s, err = s.WithRains(c.rains); err != nil {
			t.Fatalf("%v: %v", c.rains, err)
		}
		seen := make([]int, 365)
		for _, k := range c.keys {
			w := s.at[k]
			n := (w[1].day()-w[0].day()+365)%365 + 1
			for d := range n {
				seen[(w[0].day()+d)%365]++
			}
		}
		for d, n := range seen {
			if n != 1 {
				t.Fatalf("%v: day %d of the year lies in %d seasons", c.rains, d, n)
			}
		}
		if s.Rains() != len(c.rains) {
			t.Errorf("%d rains", s.Rains())
		}
	}
	s, _ := NewSeasons(Temperate(false))
	s, _ = s.WithRains([]Rain{{"06-01", "09-28"}})
	for key, want := range map[string][2]string{"onset-rains": {"06-01", "06-30"}, "end-rains": {"08-30", "09-28"}, "hot-dry": {"01-29", "05-31"}} {
		if w, ok := s.Window(key); !ok || w.From != want[0] || w.To != want[1] {
			t.Errorf("%s: %+v", key, w)
		}
	}
	// the hot dry before the rains of 2027 lies mostly in the season year of 2027, though it begins before it
	if a, _ := s.Span("hot-dry", "hot-dry", 2027); a != civil.Must(2027, 1, 29) {
		t.Errorf("hot dry of 2027 begins %s", a)
	}
	if a, b := s.Span("hot-dry", "onset-rains", 2027); a != civil.Must(2027, 1, 29) || b != civil.Must(2027, 6, 30) {
		t.Errorf("%s to %s", a, b)
	}
	by := s.ByRains()
	if y := by.FirstYear(civil.Must(2027, 6, 20)); y != 2027 {
		t.Errorf("planted at the onset: year 1 is %d", y)
	}
	if y := by.FirstYear(civil.Must(2027, 11, 1)); y != 2028 {
		t.Errorf("planted after the rains: year 1 is %d", y)
	}
}

func TestRainsThatCannotBe(t *testing.T) {
	s, _ := NewSeasons(Temperate(false))
	for name, r := range map[string][]Rain{
		"three":        {{"01-01", "03-01"}, {"05-01", "06-01"}, {"09-01", "10-10"}},
		"two weeks":    {{"06-01", "06-14"}},
		"all year":     {{"06-01", "05-31"}},
		"no day":       {{"06-31", "09-01"}},
		"into another": {{"03-01", "06-30"}, {"06-20", "09-30"}},
		"no dry time":  {{"03-01", "06-30"}, {"07-05", "09-30"}},
	} {
		if _, err := s.WithRains(r); err == nil {
			t.Errorf("%s is taken", name)
		}
	}
}
