package plan

import (
	"fmt"
	"sort"
	"strconv"

	"slowroot/core/civil"
	"slowroot/core/nutrition"
	"slowroot/core/plan/prepare"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/core/working"
)

// preparations dates the sheet's jobs, the amendments and the way taken to rest the ground; jobs are those
// there are already.
func (c *computation) preparations(jobs []report.Job) []report.Job {
	names, kinds := at(c.ops), c.taskKinds()
	for _, j := range schedule.Jobs(c.ops, c.cal) {
		if c.planting == nil && !j.Preparation {
			continue
		}
		o := j.Operation
		jobs = append(jobs, report.Job{Key: j.Key, Kind: kinds[j.Key], Name: o.Name, Phase: o.Phase, Age: j.Age, From: j.From, By: j.By, Detail: o.Detail, Why: o.Why, Caution: o.Caution,
			Rule: rule(o, names), Origin: practice.OriginWords(o.Origin), Preparation: j.Preparation, Done: j.Done,
			NotNeeded: c.book.NotNeeded[j.Key], Passed: !c.inGround() && j.Passed(c.in.Today)})
	}
	in := c.prepareIn()
	var moved, unsorted map[string]string
	if !c.inGround() {
		jobs = c.p.Works.Jobs(in, c.Voice, jobs)
		jobs = c.p.Drains.Jobs(c.Voice, jobs, in.When)
		moved, unsorted = c.p.Works.Order(in, c.Voice, jobs)
	}
	prepare.InOrder(jobs)
	for i := range jobs {
		jobs[i].Record, jobs[i].Share = c.book.Last[jobs[i].Key], c.book.Share[jobs[i].Key]
		jobs[i].Season = c.seasons.Label(c.seasons.YearOf(jobs[i].From))
	}
	c.p.Jobs = jobs
	if !c.inGround() {
		c.p.Preparation = prepare.Lines(in, c.Voice, &c.p.Works, jobs, moved, unsorted)
	}
	return jobs
}

// jobs dates the work: the sheet's operations, each split of the feeding and each harvest.
func (c *computation) jobs() {
	jobs := c.preparations(make([]report.Job, 0, 8*c.life))
	out := make([]report.Job, 0, len(jobs)+4*c.life)
	add := func(j report.Job) {
		j.Baseline, j.Record, j.Share = c.planting.Baseline[j.Key], c.book.Last[j.Key], c.book.Share[j.Key]
		j.Season = c.seasons.Label(c.seasons.YearOf(j.From))
		out = append(out, j)
		if i := j.Age - 1; i >= 0 && i < len(c.p.Years) {
			c.p.Years[i].Jobs++
		}
	}
	for _, j := range jobs {
		add(j)
	}
	for i := range c.p.Years {
		y := &c.p.Years[i]
		for k, s := range c.feed.Splits {
			detail := ""
			for _, n := range c.p.Nutrients {
				if kg := y.FeedKg[n] * s.Shares[n]; kg >= 0.5 {
					if detail != "" {
						detail += ", "
					}
					detail += nutrition.Names[n] + " " + c.Text(kg, units.MassKg)
				}
			}
			if detail == "" {
				continue
			}
			a, b := c.seasons.Span(s.Season[0], s.Season[len(s.Season)-1], y.Season)
			key := schedule.Key("feed-"+strconv.Itoa(k+1), y.Age)
			add(report.Job{Key: key, Name: "Feed: " + s.Name, Phase: "feed", Age: y.Age, From: a, By: b, Detail: detail + " of nutrient for the block; " + c.feed.Placement,
				Why: "the year's amount in its splits", Rule: "in its season, every year the table gives an amount", Origin: practice.OriginWords(c.feed.Origin), Done: c.book.Done[key]})
		}
		for k, h := range y.Harvests {
			key := schedule.Key("harvest-"+strconv.Itoa(k+1), y.Age)
			add(report.Job{Key: key, Name: "Harvest: " + h.Name, Phase: "harvest", Age: y.Age, From: h.From, By: h.To,
				Detail: fmt.Sprintf("about %s from the block; %s", c.Text(h.BlockKg.Base, c.p.MassAs), h.Rounds), Why: "", Rule: "in its season, once the planting bears", Origin: practice.OriginWords(c.harvest.Origin), Done: c.book.Done[key]})
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].From.Before(out[j].From) })
	c.p.Jobs = out
	for i := range out {
		path := "job." + out[i].Key
		if c.On(path) {
			c.Trace.Add(working.Step{Figure: path, Label: out[i].Name, Kind: working.Rule, Formula: out[i].Rule, Substituted: "planting " + c.planting.Standing().Words(),
				Shown: out[i].From.Words() + " to " + out[i].By.Words(), Source: "methods S1, S5; " + out[i].Origin,
				Inputs: []working.Input{{Name: "planting", Shown: c.planting.Standing().Words(), Origin: working.Chosen}}})
		}
	}
}

func at(ops []schedule.Operation) map[string]string {
	m := map[string]string{schedule.Planting: "planting"}
	for _, o := range ops {
		m[o.ID] = "“" + o.Name + "”"
	}
	return m
}

// rule says in words how an operation gets its date.
func rule(o *schedule.Operation, names map[string]string) string {
	switch {
	case o.Before != "":
		if o.Min == o.Better {
			return fmt.Sprintf("%s before %s", o.Min.Words(), names[o.Before])
		}
		return fmt.Sprintf("%s before %s, at least %s", o.Better.Words(), names[o.Before], o.Min.Words())
	case o.After != "":
		if o.Better.IsZero() {
			return "on the day of " + names[o.After]
		}
		return fmt.Sprintf("%s after %s", o.Better.Words(), names[o.After])
	}
	s := o.Season[0]
	if len(o.Season) == 2 {
		s += " to " + o.Season[1]
	}
	switch {
	case o.Ages.Every > 1:
		return fmt.Sprintf("in %s, every %d years from age year %d", s, o.Ages.Every, o.Ages.From)
	case o.Ages.To == o.Ages.From:
		return fmt.Sprintf("in %s of age year %d", s, o.Ages.From)
	case o.Ages.To > 0:
		return fmt.Sprintf("in %s of age years %d to %d", s, o.Ages.From, o.Ages.To)
	}
	return fmt.Sprintf("in %s, every year from age year %d", s, o.Ages.From)
}

// earliest is the first workable planting date and the chain that decides it.
func (c *computation) earliest() (free, inWindow civil.Date, chain []schedule.Link) {
	free, chain = schedule.Earliest(c.ops, c.cal, c.in.Today)
	return free, c.seasons.NextInWindow(free, c.sheet.Windows), chain
}
