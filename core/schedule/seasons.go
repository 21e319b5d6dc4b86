// Package schedule turns operations into dated jobs: preparations counted back from planting, care
// in the seasons the estate defines, first form of methods S1, S2 and S5.
package schedule

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"slowroot/core/civil"
)

// Keys are the twelve windows an estate names, in the order of the growing year. What dates they
// have is the estate's to say; a sheet speaks only of keys.
var Keys = []string{
	"early-spring", "mid-spring", "late-spring", "early-summer", "mid-summer", "late-summer",
	"early-autumn", "mid-autumn", "late-autumn", "early-winter", "mid-winter", "late-winter",
}

// Window is a named season: inclusive first and last day, each "MM-DD". A window may cross New Year.
type Window struct {
	Key  string `json:"key"`
	From string `json:"from"`
	To   string `json:"to"`
}

// Seasons are an estate's windows. The season year starts with early spring, so that one season
// year holds a growing season and the winter that ends it; it is labelled by both calendar years
// when it crosses New Year.
type Seasons struct {
	at    map[string][2]monthDay
	start monthDay
	grow  [2]string // first and last window of the growing season
	rains int
}

type monthDay struct{ m, d int }

// NewSeasons checks the windows: all twelve keys, once each, each with two existing days.
func NewSeasons(ws []Window) (Seasons, error) {
	s := Seasons{at: make(map[string][2]monthDay, len(ws)), grow: [2]string{"early-spring", "mid-autumn"}}
	known := map[string]bool{}
	for _, k := range Keys {
		known[k] = true
	}
	for _, w := range ws {
		if !known[w.Key] {
			return s, fmt.Errorf("season %q is not one of %s", w.Key, strings.Join(Keys, ", "))
		}
		if _, twice := s.at[w.Key]; twice {
			return s, fmt.Errorf("season %q is given twice", w.Key)
		}
		a, err := parseMonthDay(w.From)
		if err != nil {
			return s, fmt.Errorf("season %s, from: %w", w.Key, err)
		}
		b, err := parseMonthDay(w.To)
		if err != nil {
			return s, fmt.Errorf("season %s, to: %w", w.Key, err)
		}
		s.at[w.Key] = [2]monthDay{a, b}
	}
	for _, k := range Keys {
		if _, ok := s.at[k]; !ok {
			return s, fmt.Errorf("season %q has no dates", k)
		}
	}
	s.start = s.at[Keys[0]][0]
	return s, nil
}

func parseMonthDay(s string) (monthDay, error) {
	m, d, ok := strings.Cut(s, "-")
	mi, e1 := strconv.Atoi(m)
	di, e2 := strconv.Atoi(d)
	if !ok || e1 != nil || e2 != nil || mi < 1 || mi > 12 || di < 1 || di > civil.DaysIn(2024, mi) {
		return monthDay{}, fmt.Errorf("%q is not a day written MM-DD", s)
	}
	return monthDay{mi, di}, nil
}

// Temperate proposes windows for a temperate site: whole months, spring from March north of the
// equator and from September south of it (method C13, common practice). They are a start for the
// estate to change.
func Temperate(south bool) []Window {
	out := make([]Window, len(Keys))
	for i, k := range Keys {
		m := (2+i)%12 + 1
		if south {
			m = (m+5)%12 + 1
		}
		last := civil.DaysIn(2023, m)
		if m == 2 {
			last = 29
		}
		out[i] = Window{k, fmt.Sprintf("%02d-01", m), fmt.Sprintf("%02d-%02d", m, last)}
	}
	return out
}

func (md monthDay) in(y int) civil.Date {
	return civil.On(y, md.m, md.d)
}

func (a monthDay) before(b monthDay) bool { return a.m < b.m || a.m == b.m && a.d < b.d }

// YearOf is the season year d lies in, named by the calendar year it starts in.
func (s Seasons) YearOf(d civil.Date) int {
	if d.Before(s.start.in(d.Year())) {
		return d.Year() - 1
	}
	return d.Year()
}

// Label is "2027/28", or "2027" where the season year is the calendar year.
func (s Seasons) Label(y int) string {
	if s.start == (monthDay{1, 1}) {
		return strconv.Itoa(y)
	}
	return fmt.Sprintf("%d/%02d", y, (y+1)%100)
}

// Start is the first day of season year y.
func (s Seasons) Start(y int) civil.Date { return s.start.in(y) }

// Span is the window from the start of one key to the end of another in season year y. A window
// that runs past the end of the season year belongs to the year it starts in.
func (s Seasons) Span(from, to string, y int) (a, b civil.Date) {
	f, t := s.at[from][0], s.at[to][1]
	a = f.in(y)
	if f.before(s.start) && !s.early(from) {
		a = f.in(y + 1)
	}
	b = t.in(a.Year())
	if b.Before(a) {
		b = t.in(a.Year() + 1)
	}
	return a, b
}

// early reports a window of the rains that begins shortly before the season year and lies mostly in it.
func (s Seasons) early(key string) bool {
	w := s.at[key]
	if s.rains == 0 || !slices.Contains(RainKeys, key) {
		return false
	}
	before := s.start.day() - w[0].day()
	n := (w[1].day()-w[0].day()+365)%365 + 1
	return before > 0 && 2*before < n
}

// FirstYear is the season year that counts as age year 1 of a planting: the one planted in when at
// least half of the growing season (early spring to mid-autumn; for a crop of the rains from their onset to their end) is
// still to come, else the next.
func (s Seasons) FirstYear(planting civil.Date) int {
	y := s.YearOf(planting)
	a, b := s.Span(s.grow[0], s.grow[1], y)
	if planting.Sub(a) > b.Sub(a)/2 {
		return y + 1
	}
	return y
}
