// Package work is the part of a plan that dates the jobs: what the sheet lists, each split of the feeding and each harvest.
package work

import (
	"fmt"
	"strconv"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/nutrition"
	"slowroot/core/order"
	"slowroot/core/plan/crop"
	"slowroot/core/plan/growth"
	"slowroot/core/plan/prepare"
	"slowroot/core/plan/rows"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/core/working"
)

// In is what work is dated from.
type In struct {
	Grown    growth.Result
	Planting *document.Planting // nil where a crop is only considered
	Crop     crop.Result        // not asked for by the sheet's own jobs
	Layout   rows.Result        // nor is this
	Book     record.Book
	Standing bool                    // plants stand, or stood
	Late     []prepare.LateAmendment // that no longer act in full before planting

	called map[string]string // names of operations, feeds and harvests, while jobs are dated
}

// FromSheet dates the operations of the sheet, and of what was designed beside it. Of a crop that is only considered it
// dates what is done before planting.
func FromSheet(in In, say *report.Voice) []report.Job {
	in.called = in.names()
	kinds, rules := Kinds(in.Grown), map[*schedule.Operation]string{}
	dated := schedule.Jobs(in.Grown.Ops, in.Grown.Calendar)
	jobs := make([]report.Job, 0, len(dated))
	for _, j := range dated {
		if in.Planting == nil && !j.Preparation {
			continue
		}
		o := j.Operation
		if _, ok := rules[o]; !ok {
			rules[o] = rule(o, in.called)
		}
		jobs = append(jobs, report.Job{Said: report.Said{Name: o.Name, Phase: o.Phase, Why: o.Why, Caution: o.Caution, Rule: rules[o] + in.following(o.Follows,
			j.Age, j.From),
			Origin: practice.OriginWords(o.Origin), Preparation: j.Preparation},
			Key: j.Key, Kind: kinds[j.Key], Age: j.Age, From: j.From, By: j.By, Detail: o.Detail, Done: j.Done, NotNeeded: in.Book.NotNeeded[j.Key],
			Passed: !in.Standing && j.Passed(say.Today)})
		if c := o.Cond; c != nil {
			in.waits(&jobs[len(jobs)-1], *c, say)
		}
	}
	return jobs
}

// waits puts a job that waits for something behind the last look that found it not so yet.
func (in In) waits(j *report.Job, c schedule.Condition, say *report.Voice) {
	j.When = say.Marked(c.Says)
	looked, ok := in.Book.NotYet[j.Key]
	if !ok || !j.Done.IsZero() || looked.Before(j.From) {
		return
	}
	j.Looked = looked
	again := c.Again.From(looked, 1)
	j.From, j.By = civil.Later(j.From, again), civil.Later(j.By, again)
	j.Rule += fmt.Sprintf("; looked at on %s and not so yet, again after %s", looked.Words(), c.Again.Words())
}

// Kinds maps each job of the sheet to the kind of its task.
func Kinds(g growth.Result) map[string]string {
	out := map[string]string{}
	for _, o := range g.Sheet.Work {
		if o.Task != nil && o.If.Holds(g.Choices) {
			out[o.ID] = o.Task.Kind
		}
	}
	return out
}

// Recorded puts jobs in order and says of each what was recorded of it and the season it falls in.
func Recorded(in In, jobs []report.Job) {
	prepare.InOrder(jobs)
	for i := range jobs {
		in.mark(&jobs[i])
	}
}

func (in In) mark(j *report.Job) {
	j.Record, j.Share = in.Book.Last[j.Key], in.Book.Share[j.Key]
	j.Season = in.Grown.Seasons.Label(in.Grown.Seasons.YearOf(j.From))
	if in.Planting != nil {
		j.Baseline = in.Planting.Baseline[j.Key]
	}
}

// WithCare adds each split of the feeding and each harvest to the jobs there are, and counts the jobs of each year.
func WithCare(in In, jobs []report.Job, say *report.Voice) []report.Job {
	in.called = in.names()
	out := make([]report.Job, 0, len(jobs)+4*len(in.Crop.Years))
	add := func(j report.Job) {
		in.mark(&j)
		out = append(out, j)
		if i := j.Age - 1; i >= 0 && i < len(in.Crop.Years) {
			in.Crop.Years[i].Jobs++
		}
	}
	for _, j := range jobs {
		add(j)
	}
	for i := range in.Crop.Years {
		y := &in.Crop.Years[i]
		for k, s := range in.Grown.Feed.Splits {
			detail := ""
			for _, n := range in.Crop.Nutrients {
				if kg := y.FeedKg[n] * s.Shares[n]; kg >= 0.5 {
					if detail != "" {
						detail += ", "
					}
					detail += nutrition.Names[n] + " " + say.Text(kg, units.MassKg)
				}
			}
			if detail == "" {
				continue
			}
			a, b := in.Grown.Window(s.Season, s.Days, s.Follows, y.Age)
			key := schedule.Key("feed-"+strconv.Itoa(k+1), y.Age)
			add(report.Job{Said: report.Said{Name: "Feed: " + s.Name, Phase: "feed", Why: "the year's amount in its splits",
				Rule:   dated(s.Days, "in its season, every year the table gives an amount"+in.following(s.Follows, y.Age, a)),
				Origin: practice.OriginWords(in.Grown.Feed.Origin)},
				Key: key, Age: y.Age, From: a, By: b, Detail: detail + " of nutrient for the block; " +
					in.Grown.Feed.Placement, Done: in.Book.Done[key]})
		}
		for k, h := range y.Harvests {
			key := schedule.Key("harvest-"+strconv.Itoa(k+1), y.Age)
			season := "in its season, once the planting bears"
			if !h.Bloomed.IsZero() {
				season = "its season, moved by the full bloom noted on " + h.Bloomed.Words()
			} else if k < len(in.Grown.Harvest.Picks) {
				season += in.following(in.Grown.Harvest.Picks[k].Follows, y.Age, h.From)
			}
			add(report.Job{Said: report.Said{Name: "Harvest: " + h.Name, Phase: "harvest", Why: "", Rule: dated(h.Days, season),
				Origin: practice.OriginWords(in.Grown.Harvest.Origin)},
				Key: key, Age: y.Age, From: h.From, By: h.To, Detail: strings.TrimSuffix(fmt.Sprintf("about %s from the block; %s", say.Text(h.BlockKg.Base,
					in.Grown.MassAs), h.Rounds), "; "), Done: in.Book.Done[key]})
		}
	}
	order.Stable(out, func(a, b *report.Job) int { return a.From.Compare(b.From) })
	for i := range out {
		path := "job." + out[i].Key
		if say.On(path) {
			say.Trace.Add(working.Step{Figure: path, Label: out[i].Name, Kind: working.Rule, Formula: out[i].Rule, Substituted: "planting " + in.Grown.PlantedOn.Words(),
				Shown: out[i].From.Words() + " to " + out[i].By.Words(), Source: "methods S1, S5; " + out[i].Origin,
				Inputs: []working.Input{{Name: "planting", Shown: in.Grown.PlantedOn.Words(), Origin: working.Chosen}}})
		}
	}
	return out
}

// following says behind a season what moves the work in it, or has moved it.
func (in In) following(f *civil.Follows, age int, from civil.Date) string {
	if f == nil {
		return ""
	}
	days := fmt.Sprintf("%d to %d days after %s", f.Days[0], f.Days[1], in.called[f.What])
	if d := in.Grown.Calendar.Followed(f, age, from); !d.IsZero() {
		return "; here " + days + ", noted on " + d.Words()
	}
	return "; " + days + " once that is noted"
}

// names are the operations, feeds and harvests by the ids their records go by.
func (in In) names() map[string]string {
	m := at(in.Grown.Ops)
	m[civil.Harvest] = "the last harvest"
	for i, s := range in.Grown.Feed.Splits {
		m["feed-"+strconv.Itoa(i+1)] = "“Feed: " + s.Name + "”"
	}
	for i, p := range in.Grown.Harvest.Picks {
		m["harvest-"+strconv.Itoa(i+1)] = "“Harvest: " + p.Name + "”"
	}
	return m
}

func at(ops []schedule.Operation) map[string]string {
	m := map[string]string{schedule.Planting: "planting"}
	for _, o := range ops {
		m[o.ID] = "“" + o.Name + "”"
	}
	return m
}

// dated says how a window follows that is counted in days from planting; season is what is said of any other.
func dated(days []int, season string) string {
	if len(days) != 2 {
		return season
	}
	if days[1] <= 0 {
		return fmt.Sprintf("%d to %d days before planting", -days[1], -days[0])
	}
	return fmt.Sprintf("%d to %d days after planting", days[0], days[1])
}

// rule says in words how an operation gets its date.
func rule(o *schedule.Operation, names map[string]string) string {
	switch {
	case o.Before != "":
		s := fmt.Sprintf("%s before %s", o.Better.Words(), names[o.Before])
		if o.Min != o.Better {
			s += ", at least " + o.Min.Words()
		}
		if w := o.Within; w != nil && len(w.Season) > 0 {
			s += ", " + w.Words()
		}
		return s
	case o.After != "":
		s := "on the day of " + names[o.After]
		if !o.Better.IsZero() {
			s = fmt.Sprintf("%s after %s", o.Better.Words(), names[o.After])
		}
		if r := o.Repeat; r != nil {
			s += ", then every " + r.Every.Words()
			if r.Times > 0 {
				s += fmt.Sprintf(", %d times in all", r.Times)
			}
			if r.Until != "" {
				s += ", until " + schedule.SpanWords([]string{r.Until}) + " has passed"
			}
		}
		return s
	}
	s := schedule.SpanWords(o.Season)
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
