package report

import (
	"fmt"

	"slowroot/core/civil"
)

// Timetable is what dates the work before planting: the day of planting, and what was recorded of each job.
type Timetable struct {
	Planting  civil.Date
	Age       func(civil.Date) int // age year a day falls in
	Done      map[string]civil.Date
	NotNeeded map[string]string // why a person said so
	Standing  bool              // plants stand, or stood: nothing is late any more
	Today     civil.Date
}

// Preparation is a job of the time before planting with what was recorded of it.
func (t Timetable) Preparation(j Job) Job {
	j.Preparation, j.Age = true, t.Age(j.From)
	j.Done, j.NotNeeded = t.Done[j.Key], t.NotNeeded[j.Key]
	j.Passed = !t.Standing && t.Late(j)
	return j
}

// Late reports a job that is neither done nor said to be unneeded, and whose last day has passed.
func (t Timetable) Late(j Job) bool {
	return j.Done.IsZero() && j.NotNeeded == "" && j.By.Before(t.Today)
}

// MonthsBefore dates a job so many months before planting, at the latest least months.
func (t Timetable) MonthsBefore(j Job, better, least int) Job {
	j.From, j.By = t.Planting.AddMonths(-better), t.Planting.AddMonths(-least)
	j.Rule = fmt.Sprintf("%d months before planting, at least %d", better, least)
	return t.Preparation(j)
}
