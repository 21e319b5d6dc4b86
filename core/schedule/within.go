package schedule

import (
	"fmt"
	"slices"

	"slowroot/core/civil"
)

// Within is the time of the year work before planting can be done in, whatever its lead: dry ground to break a pan, dormant
// wood to cut, beds before the rains. Season and Rains are each one key or the first and the last, for a place that lives by
// its winters and one that lives by its rains; empty is any time there.
type Within struct {
	Season []string `yaml:"season" json:"season,omitempty"`
	Rains  []string `yaml:"rains" json:"rains,omitempty"`
	Says   string   `yaml:"says" json:"says"`           // what is so then, after "while": "the soil is dry"
	Hard   bool     `yaml:"hard" json:"hard,omitempty"` // by the nature of the plant: nobody on the farm can move it
	Origin string   `yaml:"origin" json:"origin"`

	Also   []string `yaml:"-" json:"-"` // a second time of the same year, where it rains twice
	Months []int    `yaml:"-" json:"-"` // of the calendar in their order, instead of a season: worked out from a climate
}

// InRains is the time of the year at a place that lives by so many rains: each dry time by itself where it rains twice, and
// the second rains beside the first.
func (w *Within) InRains(rains int) *Within {
	if w == nil {
		return nil
	}
	by := *w
	by.Season = w.Rains
	if rains == 2 && len(w.Rains) > 0 {
		second := map[string]string{"onset-rains": "second-onset", "middle-rains": "second-middle", "end-rains": "second-end", "hot-dry": "hot-dry"}
		first, last := w.Rains[0], w.Rains[len(w.Rains)-1]
		if first == "cool-dry" && last == "hot-dry" {
			by.Season, by.Also = []string{first}, []string{last}
		} else if second[first] != "" && second[last] != "" {
			by.Also = []string{second[first], second[last]}
		}
	}
	return &by
}

// spans are the times of the year around a day, first to last; none where any time will do.
func (w *Within) spans(s Seasons, around civil.Date) (out [][2]civil.Date) {
	if w == nil || len(w.Season)+len(w.Months) == 0 {
		return nil
	}
	for y := around.Year() - 1; y <= around.Year()+1 && len(w.Months) > 0; y++ {
		for _, m := range w.Months {
			a, b := civil.On(y, m, 1), civil.On(y, m, civil.DaysIn(y, m))
			if k := len(out) - 1; k >= 0 && out[k][1].AddDays(1) == a {
				out[k][1] = b
			} else {
				out = append(out, [2]civil.Date{a, b})
			}
		}
	}
	if len(w.Months) > 0 {
		return out
	}
	for y := s.YearOf(around) - 2; y <= s.YearOf(around)+2; y++ {
		for _, season := range [][]string{w.Season, w.Also} {
			if len(season) > 0 {
				a, b := s.Span(season[0], season[len(season)-1], y)
				out = append(out, [2]civil.Date{a, b})
			}
		}
	}
	slices.SortFunc(out, func(a, b [2]civil.Date) int { return a[0].Compare(b[0]) })
	return out
}

// Next is the first day on or after d that lies in the time of the year.
func (w *Within) Next(s Seasons, d civil.Date) civil.Date {
	for _, span := range w.spans(s, d) {
		if !span[1].Before(d) {
			return civil.Later(span[0], d)
		}
	}
	return d
}

// Last is the last day on or before d that lies in the time of the year, and the first day of that time.
func (w *Within) Last(s Seasons, d civil.Date) (first, last civil.Date) {
	first, last = civil.Date{}, d
	for _, span := range w.spans(s, d) {
		if span[0].After(d) {
			break
		}
		first, last = span[0], d
		if span[1].Before(d) {
			last = span[1]
		}
	}
	return first, last
}

// Words is "while the soil is dry (early summer to mid autumn)".
func (w *Within) Words() string {
	if len(w.Months) > 0 {
		return "while " + w.Says
	}
	when := SpanWords(w.Season)
	if len(w.Also) > 0 {
		when += ", or " + SpanWords(w.Also)
	}
	return fmt.Sprintf("while %s (%s)", w.Says, when)
}

// check reports a time of the year that cannot be.
func (w *Within) check(before string, known map[string]bool) error {
	if w == nil {
		return nil
	}
	ok := before != "" && w.Says != "" && w.Origin != "" && len(w.Season) <= 2 && len(w.Rains) <= 2 && len(w.Season)+len(w.Rains) > 0
	for _, k := range append(append([]string{}, w.Season...), w.Rains...) {
		ok = ok && known[k]
	}
	if !ok {
		return fmt.Errorf("a time of the year is for work done before something: one or two known seasons, what is so then, and an origin")
	}
	return nil
}
