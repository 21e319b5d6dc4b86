package estate

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/internal/formats/joblist"
	"slowroot/internal/formats/jobsheet"
)

// JobWeek is what falls on a week.
type JobWeek struct {
	Start   civil.Date `json:"start"`
	Hours   []float64  `json:"hours"` // by crew, in the order of the estate
	Unknown int        `json:"unknown"`
}

// JobWeeks are the weeks of a span against what the crews can do.
type JobWeeks struct {
	Crews  []document.Crew `json:"crews"`
	Limits []float64       `json:"limits"` // hours a week each has; 0 is no limit said
	Weeks  []JobWeek       `json:"weeks"`
	Over   []string        `json:"over"` // what asks for more than a crew has, in words
}

// nobody is the crew of an estate that has named none.
var nobody = document.Crew{ID: "", Name: "all hands"}

// crewsOf are the crews of an estate; one without a limit where none is named.
func crewsOf(e document.Estate) []document.Crew {
	if len(e.Crews) == 0 {
		return []document.Crew{nobody}
	}
	return e.Crews
}

// crewOf is the place of the crew that does a job; −1 where the estate has none for it. Where no crew is named it is all hands.
func crewOf(crews []document.Crew, j EstateJob) int {
	return slices.IndexFunc(crews, func(c document.Crew) bool { return c.ID == j.Job.Who })
}

// open are the jobs of a span that are still to be done.
func (s *Service) open(ctx context.Context, from, to civil.Date) (document.Estate, []EstateJob, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return document.Estate{}, nil, err
	}
	all, err := s.Jobs(ctx, from, to)
	out := all[:0]
	for _, j := range all {
		if j.Job.Done.IsZero() && j.Job.NotNeeded == "" {
			out = append(out, j)
		}
	}
	return e.Estate, out, err
}

// JobWeeks sums the hours of each week by crew: work is spread over the days it may be done on.
func (s *Service) JobWeeks(ctx context.Context, from, to civil.Date) (JobWeeks, error) {
	e, list, err := s.open(ctx, from, to)
	if err != nil {
		return JobWeeks{}, err
	}
	out := JobWeeks{Crews: crewsOf(e), Limits: []float64{}, Weeks: []JobWeek{}, Over: []string{}}
	for _, c := range out.Crews {
		out.Limits = append(out.Limits, c.WeekHours())
	}
	loads := make([][]schedule.Load, len(out.Crews))
	nobody := 0
	for _, j := range list {
		k := crewOf(out.Crews, j)
		if k < 0 {
			nobody++
			continue
		}
		l := schedule.Load{From: j.Job.From, By: j.Job.By, Hours: stillToDo(j.Job, from)}
		if j.Job.Phase == "harvest" && j.Job.By.Before(from) {
			continue // what was not picked then is not picked now
		}
		if !j.Job.On.IsZero() {
			loads[k] = append(loads[k], onItsDays(l, j.Job.On, out.Crews[k])...)
			continue
		}
		loads[k] = append(loads[k], l)
	}
	if nobody > 0 {
		out.Over = append(out.Over, fmt.Sprintf("%d of the jobs are of a kind no crew is there for: they stand in no crew's hours.", nobody))
	}
	for k, crew := range out.Crews {
		for i, w := range schedule.Weeks(loads[k], from, to) {
			if k == 0 {
				out.Weeks = append(out.Weeks, JobWeek{Start: w.Start, Hours: make([]float64, len(out.Crews))})
			}
			out.Weeks[i].Hours[k] = w.Hours
			out.Weeks[i].Unknown += w.Unknown
			if limit := crew.WeekHours(); limit > 0 && w.Hours > limit+0.5 {
				out.Over = append(out.Over, fmt.Sprintf("%s: the week of %s asks for %s; %s %s.", crew.Name, w.Start.Words(), units.Text(w.Hours, units.Hours,
					e.Units),
					have(crew), units.Text(limit, units.Hours, e.Units)))
			}
		}
	}
	return out, nil
}

// have says how many a crew is.
func have(c document.Crew) string {
	switch {
	case c.Machine && c.People == 1:
		return "one machine has"
	case c.Machine:
		return fmt.Sprintf("%g machines have", c.People)
	case c.People == 1:
		return "one person has"
	}
	return fmt.Sprintf("%g people have", c.People)
}

// onItsDays is work that is begun on a day: as much of it on each day the crew works as the crew has hours, until it is done.
func onItsDays(l schedule.Load, on civil.Date, c document.Crew) []schedule.Load {
	l.From, l.By = on, on
	if l.Hours == nil || c.WeekHours() <= 0 {
		return []schedule.Load{l}
	}
	var out []schedule.Load
	has := capacity(c, on)
	for d, left := 0, *l.Hours; left > 1e-9; d++ {
		h := math.Min(left, has(d))
		if d == 0 && h == 0 || d > 3650 {
			h = left // begun on a day off, it is all said for that day
		}
		if h > 0 {
			day := on.AddDays(d)
			out = append(out, schedule.Load{From: day, By: day, Hours: &h})
			left -= h
		}
	}
	return out
}

// JobsWanted are the jobs a file holds: of a span, and of one block, crew or job where one is named.
type JobsWanted struct {
	From, To         civil.Date
	Block, Crew, Job string
}

// wanted are the jobs of a span, each with its crew's name.
func (s *Service) wanted(ctx context.Context, e document.Estate, w JobsWanted) ([]joblist.Job, error) {
	all, err := s.Jobs(ctx, w.From, w.To)
	if err != nil {
		return nil, err
	}
	crews := crewsOf(e)
	var list []joblist.Job
	for _, j := range all {
		var c document.Crew
		if k := crewOf(crews, j); k >= 0 {
			c = crews[k]
		}
		if w.Block != "" && j.Block != w.Block || w.Crew != "" && c.ID != w.Crew || w.Job != "" && j.Job.Key != w.Job {
			continue
		}
		list = append(list, joblist.Job{Block: j.Block, BlockName: j.BlockName, CrewName: c.Name, Job: j.Job})
	}
	return list, nil
}

// JobFile writes the jobs of a span as a calendar, a table or a workbook.
func (s *Service) JobFile(ctx context.Context, format string, want JobsWanted) ([]byte, string, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return nil, "", err
	}
	list, err := s.wanted(ctx, e.Estate, want)
	if err != nil {
		return nil, "", err
	}
	name := e.Estate.Name + "-jobs." + format
	switch format {
	case "ics":
		return joblist.Calendar(e.Estate.Name, list, s.today()), name, nil
	case "csv":
		return joblist.CSV(list), name, nil
	case "xlsx":
		text, err := joblist.XLSX(list)
		return text, name, err
	}
	return nil, "", finding.Bad("format", format, "is not a form jobs are written in", "ics, csv or xlsx")
}

// mostSheets is how many job sheets are written at once.
const mostSheets = 200

// JobSheets writes a page for each job still to be done, on a paper of jobsheet.Papers. Too many pages are a *finding.FieldError.
func (s *Service) JobSheets(ctx context.Context, paper string, want JobsWanted) ([]byte, string, error) {
	if !slices.Contains(jobsheet.Papers, paper) {
		return nil, "", finding.Bad("paper", paper, "is not a paper sheets are written on", strings.Join(jobsheet.Papers, " or "))
	}
	e, err := s.Estate(ctx)
	if err != nil {
		return nil, "", err
	}
	list, err := s.wanted(ctx, e.Estate, want)
	if err != nil {
		return nil, "", err
	}
	list = slices.DeleteFunc(list, func(j joblist.Job) bool { return want.Job == "" && (!j.Done.IsZero() || j.NotNeeded != "") })
	if len(list) > mostSheets {
		return nil, "", finding.Bad("to", want.To, fmt.Sprintf("brings %d sheets", len(list)),
			fmt.Sprintf("fewer days, one block or one crew: %d sheets at most", mostSheets))
	}
	plans := map[string]*plan.Plan{}
	sheets := make([]jobsheet.Sheet, 0, len(list))
	for _, j := range list {
		p := plans[j.Block]
		if p == nil {
			if p, err = s.Plan(ctx, j.Block); err != nil {
				return nil, "", err
			}
			plans[j.Block] = p
		}
		sheets = append(sheets, sheetOf(j, p, e.Estate))
	}
	pdf, err := jobsheet.Write(paper, sheets, s.today())
	return pdf, e.Estate.Name + "-job-sheets.pdf", err
}

// sheetOf is all that the page of a job holds.
func sheetOf(j joblist.Job, p *plan.Plan, e document.Estate) jobsheet.Sheet {
	out := jobsheet.Sheet{Job: j.Job, Estate: e.Name, Block: j.BlockName, Crew: j.CrewName, Hours: "unknown", Outline: p.Ground.On, Rows: p.Rows}
	if j.Hours != nil {
		out.Hours = units.Text(*j.Hours, units.Hours, e.Units)
		if j.HoursBy != "said" {
			out.Hours += " " + j.HoursBy
		}
	}
	for _, u := range p.Supplies {
		if u.Key == j.Key {
			out.Bring = append(out.Bring, [2]string{u.What, units.Text(u.Amount.Base, u.Quantity, e.Units)})
		}
	}
	for _, n := range p.Network.Jobs {
		for _, w := range n.Waits {
			switch j.Key {
			case n.Key:
				out.Before = append(out.Before, w.Name)
			case w.Key:
				out.After = append(out.After, n.Name)
			}
		}
	}
	return out
}
