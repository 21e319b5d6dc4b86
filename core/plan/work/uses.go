package work

import (
	"fmt"
	"sort"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/core/yield"
)

// Supply is what a job takes, to be there when it is done.
type Supply struct {
	What     string         `json:"what"`
	For      string         `json:"for"` // name of the job
	Key      string         `json:"key"` // of the job
	By       civil.Date     `json:"by"`
	Amount   yield.Range    `json:"amount"`
	Quantity units.Quantity `json:"quantity"`
	How      string         `json:"how"` // rate and count it follows from
	Origin   string         `json:"origin"`
}

// measures are the quantities of what is used, the factor to what they are stored in, and how a rate of them is said.
var measures = map[string]struct {
	as     units.Quantity
	factor float64
}{"kg": {units.MassKg, 1}, "L": {units.Volume, 1}, "m3": {units.Earth, 1}, "m": {units.Distance, 1}, "pieces": {units.Count, 1}, "g": {units.MassKg, 0.001}}

// count is how many of what a rate is for a job of an age year has: plants, stations, metres of row, hectares.
func (in In) count(of string, age int) (n float64, said string) {
	l := in.Layout
	switch of {
	case "plant":
		n = float64(l.Placed.Stations * l.Option.Plants())
		if age > 1 && age-1 < len(in.Crop.Years) {
			n = float64(in.Crop.Years[age-1].Plants * l.Option.Plants())
		}
		return n, "plants"
	case "station":
		return float64(l.Placed.Stations), "stations"
	case "row":
		return l.Placed.RowMetres, "m of row"
	}
	return l.PlantedHa, "planted"
}

// taking are the uses of each operation that hold for what was chosen, by its id.
func (in In) taking() map[string][]practice.Use {
	out := map[string][]practice.Use{}
	for _, o := range in.Grown.Sheet.Work {
		if len(o.Uses) == 0 || !o.If.Holds(in.Grown.Choices) {
			continue
		}
		for _, u := range o.Uses {
			if u.If.Holds(in.Grown.Choices) {
				out[o.ID] = append(out[o.ID], u)
			}
		}
	}
	return out
}

// supply is what one use of a job comes to: its rate times what it is counted by.
func (in In) supply(j report.Job, u practice.Use, say *report.Voice) Supply {
	m := measures[u.Unit]
	n, of := in.count(u.Of, j.Age)
	by := j.By
	if j.Preparation {
		by = j.From
	}
	if m.as == units.MassKg && u.Base*n*m.factor >= 10_000 {
		m.as = units.MassT
	}
	s := Supply{What: u.What, For: j.Name, Key: j.Key, By: by, Amount: yield.Range{Low: u.Low, Base: u.Base, High: u.High}.Times(n * m.factor), Quantity: m.as,
		Origin: j.Origin}
	if j.Age <= 1 {
		s.How = fmt.Sprintf("%s for each × %s %s", units.Marked(rate(u), say.Units), counted(n, u.Of, say), of)
	}
	return s
}

// rate is a use for each, with its range.
func rate(u practice.Use) string {
	unit := practice.UnitWords(u.Unit)
	if u.Unit == "pieces" {
		if u.Low == u.High {
			return fmt.Sprintf("%g", u.Base)
		}
		return fmt.Sprintf("%g (%g to %g)", u.Base, u.Low, u.High)
	}
	if u.Low == u.High {
		return fmt.Sprintf("{%g %s}", u.Base, unit)
	}
	return fmt.Sprintf("{%g %s} ({%g–%g %s})", u.Base, unit, u.Low, u.High, unit)
}

// counted is a count as it is written.
func counted(n float64, of string, say *report.Voice) string {
	if of == "ha" {
		return say.Text(n*1e4, units.Area)
	}
	return say.Text(n, units.Count)
}

// Supplies adds to each job what it takes, by its sheet and beside, and lists what is taken until the end of the first year, by the day it must
// be there.
func Supplies(in In, jobs []report.Job, beside []Supply, say *report.Voice) []Supply {
	out := []Supply{}
	uses := in.taking()
	for i := range jobs {
		var takes []Supply
		for _, u := range uses[schedule.OperationOf(jobs[i].Key)] {
			if u.Holds(max(1, jobs[i].Age)) {
				takes = append(takes, in.supply(jobs[i], u, say))
			}
		}
		for _, s := range beside {
			if s.Key == jobs[i].Key {
				takes = append(takes, s)
			}
		}
		if len(takes) == 0 {
			continue
		}
		said := make([]string, len(takes))
		for k, t := range takes {
			said[k] = say.Text(t.Amount.Base, t.Quantity) + " of " + t.What
			if t.Quantity == units.Count {
				said[k] = say.Text(t.Amount.Base, t.Quantity) + " " + t.What
			}
		}
		add := "takes " + strings.Join(said, ", ")
		if jobs[i].Detail != "" {
			add = jobs[i].Detail + "; " + add
		}
		jobs[i].Detail = add
		if jobs[i].Age <= 1 && jobs[i].Done.IsZero() && jobs[i].NotNeeded == "" {
			out = append(out, takes...)
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].By.Before(out[j].By) })
	return out
}
