package work

import (
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/order"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// ownKey marks the jobs a person added.
const ownKey = "own-"

// WithOwn puts the jobs a person added among those of the plan, and says of each what was said of its hours and crew.
func WithOwn(jobs []report.Job, b document.Block, planting *document.Planting, book record.Book, today civil.Date) []report.Job {
	var effort map[string]document.Effort
	if planting != nil {
		effort = planting.Effort
	}
	for i := range jobs {
		jobs[i].Operation = schedule.OperationOf(jobs[i].Key)
		if e, ok := effort[jobs[i].Operation]; ok {
			jobs[i].Hours, jobs[i].Crew, jobs[i].Way = e.Hours, e.Crew, e.Way
		}
	}
	if planting != nil {
		for i := range jobs {
			if d, ok := planting.Days[jobs[i].Key]; ok && !d.IsZero() {
				jobs[i].On = d
			}
		}
	}
	for _, o := range b.Jobs {
		key := ownKey + o.ID
		j := report.Job{Said: report.Said{Name: o.Name, Phase: "own", Rule: "on the days that were said", Origin: "added on the block"},
			Key: key, Operation: key, Age: 1, From: o.From, By: o.By, Detail: o.Detail, Own: true, Hours: o.Hours, Crew: o.Crew, Done: book.Done[key],
			NotNeeded: book.NotNeeded[key], Record: book.Last[key], Share: book.Share[key]}
		if planting != nil {
			j.On = planting.Days[key]
		}
		j.Passed = o.By.Before(today) && j.Done.IsZero() && j.NotNeeded == ""
		jobs = append(jobs, j)
	}
	order.Stable(jobs, func(a, b *report.Job) int { return a.From.Compare(b.From) })
	return jobs
}

// JudgeDays says of jobs planned on a day outside their time which rule that breaks. room is the first and the last day a job
// can be where it is bound to others; else its own days count.
func JudgeDays(jobs []report.Job, room func(key string) (first, last civil.Date, ok bool), say *report.Voice) {
	for _, j := range jobs {
		if j.On.IsZero() || j.Own {
			continue
		}
		if first, last, ok := room(j.Key); ok && !last.Before(first) {
			j.From, j.By = first, last
		}
		outOfTime(j, say)
	}
}

// lately is for how many days work whose days have passed can still be done, or noted; common practice, no source.
const lately = 60

// MarkLate marks the work after planting whose days have passed lately with nothing said of it.
func MarkLate(jobs []report.Job, today civil.Date) {
	for i := range jobs {
		j := &jobs[i]
		last := j.By
		if !j.On.IsZero() {
			last = j.On
		}
		j.Late = !j.Preparation && j.Done.IsZero() && j.NotNeeded == "" && last.Before(today) && today.Sub(last) <= lately
	}
}

// outOfTime says of a job that is planned on a day outside its time, which rule that breaks.
func outOfTime(j report.Job, say *report.Voice) {
	if !j.Done.IsZero() || j.NotNeeded != "" || !j.On.Before(j.From) && !j.On.After(j.By) {
		return
	}
	what := fmt.Sprintf("%s is planned for %s, before the day it can begin, %s", j.Name, j.On.Words(), j.From.Words())
	back := j.From
	if j.On.After(j.By) {
		what = fmt.Sprintf("%s is planned for %s, after its last day, %s", j.Name, j.On.Words(), j.By.Words())
		back = j.By
	}
	say.Note(finding.Finding{Rule: "job.out-of-time", Weight: finding.Watch, Step: "care", Subject: j.Name, Source: j.Origin,
		Sentence: fmt.Sprintf("%s. Its time follows so: %s.", what, j.Rule),
		Remedies: []finding.Remedy{{Label: "Plan it for " + back.Words(),
			Patch: map[string]any{"planting": map[string]any{"days": map[string]any{j.Key: back.String()}}}}}}.
		Of(finding.Ref{Kind: "job", ID: j.Key}))
}
