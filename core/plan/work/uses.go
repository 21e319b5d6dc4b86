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

// supplies are what one job takes: each rate of the sheet times what it is counted by.
func (in In) supplies(j report.Job, say *report.Voice) []Supply {
	var out []Supply
	for _, o := range in.Grown.Sheet.Work {
		if o.ID != schedule.OperationOf(j.Key) || len(o.Uses) == 0 || !o.If.Holds(in.Grown.Choices) {
			continue
		}
		for _, u := range o.Uses {
			if !u.Holds(max(1, j.Age)) || !u.If.Holds(in.Grown.Choices) {
				continue
			}
			m := measures[u.Unit]
			n, of := in.count(u.Of, j.Age)
			by := j.By
			if j.Preparation {
				by = j.From
			}
			unit := practice.UnitWords(u.Unit)
			rate := fmt.Sprintf("{%g %s}", u.Base, unit)
			if u.Low != u.High {
				rate += fmt.Sprintf(" ({%g–%g %s})", u.Low, u.High, unit)
			}
			if u.Unit == "pieces" {
				rate = fmt.Sprintf("%g", u.Base)
				if u.Low != u.High {
					rate += fmt.Sprintf(" (%g to %g)", u.Low, u.High)
				}
			}
			if m.as == units.MassKg && u.Base*n*m.factor >= 10_000 {
				m.as = units.MassT
			}
			out = append(out, Supply{What: u.What, For: j.Name, Key: j.Key, By: by, Amount: yield.Range{Low: u.Low, Base: u.Base, High: u.High}.Times(n * m.factor),
				Quantity: m.as, How: fmt.Sprintf("%s for each × %s %s", units.Marked(rate, say.Units), counted(n, u.Of, say), of), Origin: practice.OriginWords(o.Origin)})
		}
	}
	return out
}

// counted is a count as it is written.
func counted(n float64, of string, say *report.Voice) string {
	if of == "ha" {
		return say.Text(n*1e4, units.Area)
	}
	return say.Text(n, units.Count)
}

// Supplies adds to each job what it takes, and lists what is taken until the end of the first year, by the day it must be there.
func Supplies(in In, jobs []report.Job, say *report.Voice) []Supply {
	out := []Supply{}
	for i := range jobs {
		takes := in.supplies(jobs[i], say)
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
