package schedule

import "slowroot/core/civil"

// Slip says what follows when one of a series was done on another day.
type Slip string

const (
	FromActual Slip = "from the day it was done"
	OnTheGrid  Slip = "on the days first set"
)

// Recur is the days of work that comes back every so many days from one day to another, both counted
// (method S6). done are the days on which the first ones were really done, in their order; the next ones
// go on from the last of them, or keep to the days first set.
func Recur(from, to civil.Date, every int, done []civil.Date, slip Slip) []civil.Date {
	var out []civil.Date
	if every < 1 {
		return nil
	}
	for i, at := 0, from; !at.After(to); i++ {
		day := at
		if i < len(done) {
			day = done[i]
		}
		out = append(out, day)
		if slip == FromActual {
			at = day.AddDays(every)
		} else {
			at = from.AddDays(every * (i + 1))
		}
	}
	return out
}
