package schedule

import (
	"fmt"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

// Rain is a rainy season: its usual first and last day, each "MM-DD". It may cross New Year.
type Rain struct {
	From string `json:"from"`
	To   string `json:"to"`
}

// RainKeys are the seasons of a place that lives by its rains, in the order of its year: the rains, and the dry time after
// them, cool at first and hot towards the next. Where it rains twice the cool dry lies after the first rains and the hot dry
// after the second.
var RainKeys = []string{"onset-rains", "middle-rains", "end-rains", "cool-dry", "second-onset", "second-middle", "second-end", "hot-dry"}

// Words is how a season is called in a sentence.
func Words(key string) string {
	switch key {
	case "onset-rains":
		return "the onset of the rains"
	case "middle-rains":
		return "the middle of the rains"
	case "end-rains":
		return "the end of the rains"
	case "second-onset":
		return "the onset of the second rains"
	case "second-middle":
		return "the middle of the second rains"
	case "second-end":
		return "the end of the second rains"
	case "cool-dry":
		return "the cool dry season"
	case "hot-dry":
		return "the hot dry season"
	}
	return strings.ReplaceAll(key, "-", " ")
}

// SpanWords are one season or the first and the last of several in words.
func SpanWords(season []string) string {
	if len(season) == 0 {
		return ""
	}
	s := Words(season[0])
	if last := season[len(season)-1]; last != season[0] {
		s += " to " + Words(last)
	}
	return s
}

// Bounds of a rainy season and of the dry time beside it, days.
const (
	leastRain = 28
	leastDry  = 14
	part      = 30 // of the rains that count as onset and as end, where they last three times as long
)

// WithRains adds the windows of one or two rainy seasons, the main one first. An error is a *finding.FieldError.
func (s Seasons) WithRains(rains []Rain) (Seasons, error) {
	if len(rains) == 0 {
		return s, nil
	}
	if len(rains) > 2 {
		return s, finding.Bad("rains", len(rains), "are more rainy seasons than a year has", "one or two, or none")
	}
	type span struct{ from, days int } // day of a common year, from 0
	var rs []span
	for i, r := range rains {
		a, err := parseMonthDay(r.From)
		if err != nil {
			return s, finding.Bad(fmt.Sprintf("rains[%d].from", i), r.From, "is not a day of the year", "MM-DD")
		}
		b, err := parseMonthDay(r.To)
		if err != nil {
			return s, finding.Bad(fmt.Sprintf("rains[%d].to", i), r.To, "is not a day of the year", "MM-DD")
		}
		from := a.day()
		n := (b.day()-from+365)%365 + 1
		if n < leastRain || n > 365-leastDry {
			return s, finding.Bad(fmt.Sprintf("rains[%d]", i), fmt.Sprintf("%s to %s", r.From, r.To), "is not a rainy season",
				fmt.Sprintf("%d to %d days", leastRain, 365-leastDry))
		}
		rs = append(rs, span{from, n})
	}
	at := make(map[string][2]monthDay, len(s.at)+8)
	for k, v := range s.at {
		at[k] = v
	}
	lay := func(r span, onset, middle, end string) {
		k := min(part, r.days/3)
		at[onset], at[middle], at[end] = days(r.from, k), days(r.from+k, r.days-2*k), days(r.from+r.days-k, k)
	}
	lay(rs[0], "onset-rains", "middle-rains", "end-rains")
	after := rs[0].from + rs[0].days
	if len(rs) == 1 {
		dry := 365 - rs[0].days
		at["cool-dry"], at["hot-dry"] = days(after, dry/2), days(after+dry/2, dry-dry/2)
	} else {
		gap1 := (rs[1].from - after%365 + 365) % 365
		gap2 := 365 - rs[0].days - gap1 - rs[1].days
		if gap1 < leastDry || gap2 < leastDry {
			return s, finding.Bad("rains[1]", fmt.Sprintf("%s to %s", rains[1].From, rains[1].To), "runs into the other rains",
				fmt.Sprintf("%d dry days at least before it and after it", leastDry))
		}
		lay(rs[1], "second-onset", "second-middle", "second-end")
		at["cool-dry"], at["hot-dry"] = days(after, gap1), days(rs[1].from+rs[1].days, gap2)
	}
	s.at, s.rains = at, len(rs)
	return s, nil
}

// Rains is how many rainy seasons a year has; 0 where the place does not live by them.
func (s Seasons) Rains() int { return s.rains }

// ByRains are the same seasons as a crop sees them that grows with the rains: its growing season is theirs.
func (s Seasons) ByRains() Seasons {
	s.grow = [2]string{"onset-rains", "end-rains"}
	if s.rains == 2 {
		s.grow[1] = "second-end"
	}
	return s
}

// Window is the window of a key, for showing; ok is false where the place has none.
func (s Seasons) Window(key string) (w Window, ok bool) {
	v, ok := s.at[key]
	if !ok {
		return w, false
	}
	return Window{key, v[0].text(), v[1].text()}, true
}

func (md monthDay) text() string { return fmt.Sprintf("%02d-%02d", md.m, md.d) }

// day is the day of a common year, from 0; 29 February counts as the 28th.
func (md monthDay) day() int {
	if md.m == 2 && md.d == 29 {
		md.d = 28
	}
	return civil.Must(2023, md.m, md.d).DayOfYear() - 1
}

// days is the window of n days from a day of a common year on.
func days(from, n int) [2]monthDay {
	of := func(k int) monthDay {
		d := civil.Must(2023, 1, 1).AddDays(((k % 365) + 365) % 365)
		return monthDay{d.Month(), d.Day()}
	}
	return [2]monthDay{of(from), of(from + n - 1)}
}

// Around is the rainy season, of this year or the last, that a day lies in; ok is false where it lies in none.
func (r Rain) Around(day civil.Date) (from, to civil.Date, ok bool) {
	for _, year := range []int{day.Year(), day.Year() - 1} {
		a, errA := civil.Parse(fmt.Sprintf("%04d-%s", year, r.From))
		b, errB := civil.Parse(fmt.Sprintf("%04d-%s", year, r.To))
		if errA != nil || errB != nil {
			return civil.Date{}, civil.Date{}, false
		}
		if b.Before(a) {
			b = b.AddMonths(12)
		}
		if !day.Before(a) && !day.After(b) {
			return a, b, true
		}
	}
	return civil.Date{}, civil.Date{}, false
}
