package schedule

import "slowroot/core/civil"

// Load is work that is done some time between two days. Hours is nil where nobody knows how long it takes.
type Load struct {
	From, By civil.Date
	Hours    *float64
}

// Week is what falls on seven days.
type Week struct {
	Start   civil.Date
	Hours   float64
	Unknown int // jobs that may fall on it and of which no hours are known
}

// Weeks spreads work evenly over the days it may be done on and sums it by weeks that begin on Mondays, from the one a day lies in to the one
// another lies in. Work that began before counts with the days that are left to it; what should be over by then, on the first week.
func Weeks(list []Load, from, to civil.Date) []Week {
	_, _, weekday := from.ISOWeek()
	start := from.AddDays(1 - weekday)
	var out []Week
	for d := start; !d.After(to); d = d.AddDays(7) {
		out = append(out, Week{Start: d})
	}
	if len(out) == 0 {
		return out
	}
	end := out[len(out)-1].Start.AddDays(6)
	for _, l := range list {
		a, b := l.From, l.By
		if b.Before(from) {
			a, b = from, from // it is late: it is to be done now
		}
		if a.Before(from) {
			a = from
		}
		days := float64(b.Sub(a) + 1)
		for i := range out {
			s, e := civil.Later(out[i].Start, a), out[i].Start.AddDays(6)
			if b.Before(e) {
				e = b
			}
			n := e.Sub(s) + 1
			if n <= 0 || s.After(end) {
				continue
			}
			if l.Hours == nil {
				out[i].Unknown++
				continue
			}
			out[i].Hours += *l.Hours * float64(n) / days
		}
	}
	return out
}
