package practice

import (
	"strings"
	"testing"
)

// Every kind and stock of the library changes what it says it does, in a copy: the sheet itself stays as it is.
func TestKindsAndStocksChangeTheirSheet(t *testing.T) {
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	n := map[string]int{}
	for _, s := range l.Whole() {
		before, work := len(s.Limits), s.Work
		for _, f := range s.Forks {
			for _, o := range f.Options {
				if !o.Changes.any() {
					continue
				}
				got := s.On(map[string]string{f.ID: o.ID})
				if got == s || len(got.Limits) != before {
					t.Errorf("%s, %s/%s: nothing is changed", s.ID, f.ID, o.ID)
				}
				if o.WetClass > 0 {
					n["wet"]++
					if got.Soil.WetClass != o.WetClass {
						t.Errorf("%s, %s/%s: wet class %d", s.ID, f.ID, o.ID, got.Soil.WetClass)
					}
				}
				for _, want := range o.Limits {
					n["limit"]++
					for _, x := range got.Limits {
						if x.Factor == want.Factor && x.Tolerated != want.Tolerated {
							t.Errorf("%s, %s/%s: %s is borne %s, want %s", s.ID, f.ID, o.ID, x.Factor, x.Tolerated, want.Tolerated)
						}
					}
				}
				for _, x := range got.Operations(got.Resolve(map[string]string{f.ID: o.ID})) {
					if x.ID == OrderOp && !o.Better.IsZero() {
						n["order"]++
						if x.Better != o.Better || x.Min != o.Least {
							t.Errorf("%s, %s/%s: ordered %s ahead", s.ID, f.ID, o.ID, x.Better)
						}
					}
				}
			}
		}
		if &work[0] != &s.Work[0] || len(s.Limits) != before {
			t.Errorf("%s was changed itself", s.ID)
		}
	}
	if n["wet"] < 3 || n["limit"] < 18 || n["order"] < 3 {
		t.Errorf("too little is changed: %v", n)
	}
	if (*Sheet)(nil).On(nil) != nil {
		t.Error("no sheet became one")
	}
}

// What a kind cannot change is refused.
func TestAKindThatCannotBe(t *testing.T) {
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	pear, _ := l.Get("pear")
	for what, change := range map[string]func(*Changes){
		"does not have": func(c *Changes) { c.Limits = []Limit{{Factor: "Moonlight", Origin: "mem"}} },
		"wet class":     func(c *Changes) { c.WetClass = 9 },
		"least lead":    func(c *Changes) { c.Better.N, c.Better.Unit = 3, "mo"; c.Least.N, c.Least.Unit = 9, "mo" },
		"do not rise":   func(c *Changes) { lo, hi := 8.0, 5.0; c.Limits[0].Range = &Range{Ideal: [2]*float64{&lo, &hi}} },
	} {
		s := *pear
		s.Forks = append([]Fork{}, pear.Forks...)
		s.Forks[0].Options = append([]Option{}, pear.Forks[0].Options...)
		c := &s.Forks[0].Options[0].Changes
		c.Limits = append([]Limit{}, c.Limits...)
		change(c)
		said := ""
		for _, err := range s.Validate() {
			said += err.Error() + "\n"
		}
		if !strings.Contains(said, what) {
			t.Errorf("%s is not refused: %s", what, said)
		}
	}
}
