package climate

import (
	"fmt"
	"math"
	"slices"

	"slowroot/core/civil"
)

// Rain above which a day cannot be worked, and above which the soil has to drain first, mm (method C16, common practice).
const (
	wetDayMM  = 5
	soakedMM  = 20
	leastSpan = 5 // years of record a span is read from; with fewer the monthly wet days are taken
)

// Workable tells of each day of a record of rain, mm, whether it can be worked: under 5 mm, and drain days or more since more
// than 20 mm fell (sand 1, loam 2, clay 3; method C16). A day without a record, NaN, cannot be told and is not one.
func Workable(rain []float64, drain int) []bool {
	out := make([]bool, len(rain))
	soaked := -1000
	for i, mm := range rain {
		if mm > soakedMM {
			soaked = i
		}
		out[i] = mm < wetDayMM && i-soaked >= drain
	}
	return out
}

// Span is how many days from a day of the year on hold a number of workable days, as sure as wanted, and what it rests on.
type Span struct {
	Days  int
	Years int     // of record it was counted in; 0 is the binomial of the month's wet days
	Share float64 // of days that can be worked
}

// Words is what a span rests on.
func (s Span) Words() string {
	if s.Years > 0 {
		return fmt.Sprintf("counted in %d years of the daily record, %.0f %% of its days can be worked", s.Years, 100*s.Share)
	}
	return fmt.Sprintf("binomial, %.0f %% of the days of the month are dry", 100*s.Share)
}

// WorkSpan is the span from a day on that holds k workable days with a probability: counted year by year in the daily record,
// spells and all, else by the binomial of the month's wet days, which spells make optimistic. ok is false where neither is
// known, or no year is long enough.
func (site Site) WorkSpan(from civil.Date, k, drain int, sure float64) (s Span, ok bool) {
	if s, ok = site.counted(from, k, drain, sure); ok {
		return s, true
	}
	m := from.Month() - 1
	wet := site.Months[m].WetDays
	if !site.HasMonths || !(wet > 0) {
		return Span{}, false
	}
	s.Years, s.Share = 0, math.Max(0, 1-wet/float64(civil.DaysIn(2023, m+1)))
	s.Days, ok = DaysNeeded(s.Share, k, sure)
	return s, ok
}

// counted is WorkSpan by the daily record.
func (site Site) counted(from civil.Date, k, drain int, sure float64) (Span, bool) {
	work := Workable(site.Rain, drain)
	var took []int
	days, fit := 0, 0
	for y := site.RainFrom.Year(); y <= site.RainFrom.AddDays(len(work)).Year(); y++ {
		start := civil.On(y, from.Month(), from.Day()).Sub(site.RainFrom)
		left := k
		for i := start; i >= 0 && i < len(work) && left > 0; i++ {
			if math.IsNaN(site.Rain[i]) {
				break
			}
			days++
			if work[i] {
				fit, left = fit+1, left-1
			}
			if left == 0 {
				took = append(took, i-start+1)
			}
		}
	}
	if len(took) < leastSpan {
		return Span{}, false
	}
	slices.Sort(took)
	at := int(math.Ceil(sure*float64(len(took)))) - 1
	return Span{Days: took[max(0, at)], Years: len(took), Share: float64(fit) / float64(days)}, true
}
