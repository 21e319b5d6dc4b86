package work

import (
	"fmt"
	"sort"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
)

// patch is a merge patch of one field of the planting.
func patch(field string, v any) map[string]any {
	return map[string]any{"planting": map[string]any{field: v}}
}

// Judge says which dates cannot be kept, and the first that can.
func Judge(in In, jobs []report.Job, say *report.Voice) {
	if in.Standing {
		return
	}
	p := in.Planting
	var passed []report.Job
	for _, j := range jobs {
		if j.Passed && j.Key != practice.ReadyOp && !strings.HasPrefix(j.Key, "works-") { // judgeWorks says what a late start still reaches
			passed = append(passed, j)
		}
	}
	free, best, chain := in.earliest(say.Today)
	if len(passed) > 0 {
		sort.SliceStable(passed, func(i, j int) bool { return passed[i].By.Before(passed[j].By) })
		worst := passed[0]
		f := finding.Finding{Rule: "schedule.lead-time-passed", Weight: finding.Mend, Step: "care", Subject: worst.Name, Source: "method S5; " + worst.Origin}
		if p.Standing().Before(say.Today) {
			f.Weight = finding.Stops
		}
		f.Sentence = fmt.Sprintf("“%s” had to be done by %s for planting on %s, and is not recorded as done (%s).", worst.Name, worst.By.Words(), p.Date.Words(),
			worst.Rule)
		if n := len(passed) - 1; n > 0 {
			f.Sentence += fmt.Sprintf(" %d more %s late too.", n, map[bool]string{true: "preparation is", false: "preparations are"}[n == 1])
		}
		if len(chain) > 0 {
			var links []string
			for _, l := range chain {
				links = append(links, fmt.Sprintf("%s from %s, %s", l.Operation.Name, l.Start.Words(), l.Operation.Min.Words()))
			}
			f.Sentence += fmt.Sprintf(" Starting today, planting is possible from %s (%s).", free.Words(), strings.Join(links, "; then "))
		}
		for _, a := range in.Late {
			if a.Free.After(civil.Later(best, p.Date)) {
				f.Sentence += fmt.Sprintf(" %s, begun now, has acted in full on %s only.", a.Name, a.Free.Words())
			}
		}
		if best.After(p.Date) {
			f.Remedies = append(f.Remedies, finding.Remedy{Label: "Plant on " + best.Words(), Patch: patch("date", best.String())})
		}
		for i, j := range passed {
			if i == 3 {
				break
			}
			f.Remedies = append(f.Remedies, finding.Remedy{Label: fmt.Sprintf("“%s” was done by %s", j.Name, j.By.Words()), Patch: map[string]any{},
				Record: map[string]any{"kind": record.Done, "operation": j.Key, "day": j.By.String()}})
		}
		say.Note(f)
	} else if p.Date.Before(say.Today) {
		next := in.Grown.Seasons.NextInWindow(civil.Later(say.Today, free), in.Grown.Sheet.Windows)
		say.Note(finding.Finding{Rule: "schedule.planting-passed", Weight: finding.Mend, Step: "plants", Subject: "Planting", Source: "method S7",
			Sentence: fmt.Sprintf("The planting date of %s has passed and nothing is recorded as planted.", p.Date.Words()),
			Remedies: []finding.Remedy{{Label: "Plant on " + next.Words(), Patch: patch("date", next.String())}}})
	}
	for _, o := range in.Grown.Ops {
		d := in.Book.Done[o.ID]
		if d.IsZero() || o.Before != "planting" || !o.Min.From(d, 1).After(p.Date) {
			continue
		}
		next := in.Grown.Seasons.NextInWindow(civil.Later(o.Min.From(d, 1), free), in.Grown.Sheet.Windows)
		say.Note(finding.Finding{Rule: "schedule.done-late", About: &finding.Ref{Kind: "job", ID: o.ID}, Weight: finding.Mend, Step: "care", Subject: o.Name,
			Source:   "method S5; " + practice.OriginWords(o.Origin),
			Sentence: fmt.Sprintf("“%s” was done %d days before planting; the sheet asks for %s at least.", o.Name, p.Date.Sub(d), o.Min.Words()),
			Remedies: []finding.Remedy{{Label: "Plant on " + next.Words(), Patch: patch("date", next.String())}}})
	}
	if !in.Grown.Seasons.InWindow(p.Date, in.Grown.Sheet.Windows) {
		next := in.Grown.Seasons.NextInWindow(civil.Later(p.Date, best), in.Grown.Sheet.Windows)
		var when []string
		for _, w := range in.Grown.Sheet.Windows {
			when = append(when, schedule.SpanWords(w.Season)+" ("+w.When+")")
		}
		say.Note(finding.Finding{Rule: "schedule.window", Weight: finding.Mend, Step: "plants", Subject: "Planting date",
			Source:   practice.OriginWords(in.Grown.Sheet.Windows[0].Origin),
			Sentence: fmt.Sprintf("%s lies outside the planting season of %s: %s.", p.Date.Words(), strings.ToLower(in.Grown.Sheet.Name), strings.Join(when, ", or ")),
			Remedies: []finding.Remedy{{Label: "Plant on " + next.Words(), Patch: patch("date", next.String())}}})
	}
}

// earliest is the first workable planting date and the chain that decides it.
func (in In) earliest(today civil.Date) (free, inWindow civil.Date, chain []schedule.Link) {
	free, chain = schedule.Earliest(in.Grown.Ops, in.Grown.Calendar, today)
	return free, in.Grown.Seasons.NextInWindow(free, in.Grown.Sheet.Windows), chain
}

// Consequences are what a way at a fork means for the work: how much of it there is, and by when its plants are ordered.
func Consequences(jobs []report.Job) []report.Consequence {
	out := []report.Consequence{{Label: "jobs in its life", Quantity: units.Count, Value: float64(len(jobs))}}
	for _, j := range jobs {
		if j.Key == practice.OrderOp {
			out = append(out, report.Consequence{Label: "plants ordered by", Text: j.By.Words()})
		}
	}
	return out
}
