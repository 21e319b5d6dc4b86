package work

import (
	"sort"

	"slowroot/core/document"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// ownKey marks the jobs a person added.
const ownKey = "own-"

// WithOwn puts the jobs a person added among those of the plan, and says of each what was said of its hours and crew.
func WithOwn(jobs []report.Job, b document.Block, planting *document.Planting, book record.Book, say *report.Voice) []report.Job {
	var effort map[string]document.Effort
	if planting != nil {
		effort = planting.Effort
	}
	for i := range jobs {
		jobs[i].Operation = schedule.OperationOf(jobs[i].Key)
		if e, ok := effort[jobs[i].Operation]; ok {
			jobs[i].Hours, jobs[i].Crew = e.Hours, e.Crew
		}
	}
	for _, o := range b.Jobs {
		key := ownKey + o.ID
		j := report.Job{Key: key, Name: o.Name, Operation: key, Phase: "own", Age: 1, From: o.From, By: o.By, Detail: o.Detail, Rule: "on the days that were said",
			Origin: "added on the block", Own: true,
			Hours: o.Hours, Crew: o.Crew, Done: book.Done[key], NotNeeded: book.NotNeeded[key], Record: book.Last[key], Share: book.Share[key]}
		j.Passed = o.By.Before(say.Today) && j.Done.IsZero() && j.NotNeeded == ""
		jobs = append(jobs, j)
	}
	sort.SliceStable(jobs, func(i, j int) bool { return jobs[i].From.Before(jobs[j].From) })
	return jobs
}
