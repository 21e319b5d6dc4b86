package plan

import (
	"slowroot/core/civil"
	"slowroot/core/practice"
	"slowroot/core/schedule"
)

// DefaultDay is the day proposed for planting a crop nobody has given a day for: inside one of its windows, and late
// enough that everything its sheet asks for beforehand can still be begun when it is best begun. near, where it is a
// day, is what was meant for another crop: the window from there on is taken.
func DefaultDay(seasons schedule.Seasons, s *practice.Sheet, today, near civil.Date) civil.Date {
	s, seasons = bySeasons(s, seasons)
	var before, anytime []schedule.Operation
	for _, o := range s.Operations(s.Resolve(nil)) {
		if len(o.Season) == 0 {
			before = append(before, o)
			o.Within = nil
			anytime = append(anytime, o)
		}
	}
	day := seasons.NextInWindow(civil.Later(today, near), s.Windows)
	for range 12 {
		late, c := 0, schedule.Calendar{Seasons: seasons, Planting: day, Life: 1}
		for _, j := range schedule.Jobs(anytime, c) {
			late = max(late, today.Sub(j.From))
		}
		for _, j := range schedule.Jobs(before, c) {
			late = max(late, today.Sub(j.By))
		}
		if late == 0 {
			break
		}
		day = seasons.NextInWindow(day.AddDays(late), s.Windows)
	}
	return day
}
