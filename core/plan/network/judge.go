package network

import (
	"fmt"
	"sort"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/plan/prepare"
	"slowroot/core/report"
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
	for _, t := range r.upside {
		say.Note(finding.Finding{Rule: "network.out-of-order", Weight: finding.Know, Step: "prepare", Subject: t.Name, Source: "method S3",
			Sentence: fmt.Sprintf("“%s” was done before what comes first: %s. Both days are kept.", t.Name, t.Words)}.Of(finding.Ref{Kind: "job", ID: t.Key}))
	}
}
