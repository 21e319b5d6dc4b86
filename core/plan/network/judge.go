package network

import (
	"fmt"
	"sort"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/plan/prepare"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// Mark writes on the jobs of the plan when they are planned and how long they can wait.
func (r Result) Mark(jobs []report.Job) {
	at := map[string]Job{}
	for _, j := range r.Jobs {
		at[j.Key] = j
	}
	for i := range jobs {
		if j, ok := at[jobs[i].Key]; ok && j.Done.IsZero() {
			slack := j.Slack
			jobs[i].Slack, jobs[i].Planned = &slack, j.Planned
		}
	}
}

// Room is the first and the last day a job can be; ok is false for one that is not bound.
func (r Result) Room(key string) (first, last civil.Date, ok bool) {
	for _, j := range r.Jobs {
		if j.Key == key {
			return j.Earliest, j.Latest, true
		}
	}
	return first, last, false
}

// Sort puts the lines of the preparation on the days they are planned where the order of the work moved them: what has to
// stand first begins earlier, where it can.
func (r Result) Sort(lines []prepare.PrepLine) {
	at := map[string]Job{}
	for _, j := range r.Jobs {
		at[j.Key] = j
	}
	for i := range lines {
		l := &lines[i]
		j, ok := at[l.Key]
		if !ok || !j.Done.IsZero() || j.Slack < 0 {
			continue
		}
		l.Unsorted = "" // it follows in its time after all
		if j.Planned.Before(l.From) {
			l.From = j.Planned
			l.Until = civil.Later(l.From, j.Latest)
		}
	}
	sort.SliceStable(lines, func(i, k int) bool { return lines[i].From.Before(lines[k].From) })
}

// Judge says which rules cannot be kept together, where nothing else has said it of the same job, and what was done out of
// order.
func (r Result) Judge(in In, say *report.Voice) {
	passed := map[string]bool{}
	for _, j := range in.Jobs {
		passed[j.Key] = j.Passed
	}
	for _, c := range r.Conflicts {
		said, about := false, ""
		for _, k := range c.Keys {
			said = said || passed[k] || strings.HasPrefix(k, "works-")
			if about == "" && k != PlantingKey {
				about = k
			}
		}
		if said {
			continue
		}
		f := finding.Finding{Rule: "network.conflict", Weight: finding.Mend, Step: "prepare", Subject: "Work before planting", Source: "method S3",
			Sentence: c.Sentence}
		if r.FreeInWindow.After(in.Planting) {
			f.Sentence += fmt.Sprintf(" With all that is left begun as soon as it can be, planting is possible from %s.", r.Free.Words())
			f.Remedies = append(f.Remedies, finding.Remedy{Label: "Plant on " + r.FreeInWindow.Words(),
				Patch: map[string]any{"planting": map[string]any{"date": r.FreeInWindow.String()}}})
		}
		say.Note(f.Of(finding.Ref{Kind: "job", ID: about}))
	}
	in.judgeSeasons(say)
	for _, t := range r.upside {
		say.Note(finding.Finding{Rule: "network.out-of-order", Weight: finding.Know, Step: "prepare", Subject: t.Name, Source: "method S3",
			Sentence: fmt.Sprintf("“%s” was done before what comes first: %s. Both days are kept.", t.Name, t.Words)}.Of(finding.Ref{Kind: "job", ID: t.Key}))
	}
}

// judgeSeasons says of a job whose day a person said that it lies outside the time of the year it is done in.
func (in In) judgeSeasons(say *report.Voice) {
	ops := map[string]*schedule.Operation{}
	for i := range in.Grown.Ops {
		ops[in.Grown.Ops[i].ID] = &in.Grown.Ops[i]
	}
	for _, j := range in.Jobs {
		w := in.within(ops[j.Key], j.Key)
		if w == nil || j.On.IsZero() || !j.Done.IsZero() || j.NotNeeded != "" {
			continue
		}
		next := w.Next(in.Grown.Seasons, j.On)
		if next == j.On {
			continue
		}
		_, back := w.Last(in.Grown.Seasons, j.On)
		f := finding.Finding{Rule: "network.season", Weight: finding.Watch, Step: "prepare", Subject: j.Name, Source: practice.OriginWords(w.Origin),
			Sentence: fmt.Sprintf("%s is planned for %s; it is done %s.", j.Name, j.On.Words(), w.Words())}
		for _, d := range []civil.Date{back, next} {
			if !d.Before(in.Today) && d.Before(in.Planting) {
				f.Remedies = append(f.Remedies, finding.Remedy{Label: "Plan it for " + d.Words(),
					Patch: map[string]any{"planting": map[string]any{"days": map[string]any{j.Key: d.String()}}}})
			}
		}
		say.Note(f.Of(finding.Ref{Kind: "job", ID: j.Key}))
	}
}
