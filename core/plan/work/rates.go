package work

import (
	"fmt"
	"strconv"

	"slowroot/core/document"
	"slowroot/core/plan/crop"
	"slowroot/core/plan/growth"
	"slowroot/core/plan/prepare"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// plantedAnHour is how many plants one person sets by hand in an hour (method L1, common practice: 30 to 60).
const plantedAnHour = 45.0

// Rates are what hours are reckoned from where nobody said them.
type Rates struct {
	Prepared prepare.Preparation
	Grown    growth.Result
	Planted  float64 // ha
	Plants   int
	Years    []crop.Year
}

// ByRate gives jobs of which nobody said the hours those that follow from what there is to do and a usual rate of work: hours a hectare of its
// sheet, the crop of a harvest by what a picker brings in, work on the ground as the preparation counts it, and setting the plants. HoursBy says
// that they are reckoned, and from what; where no rate is known they stay unknown.
func ByRate(jobs []report.Job, in Rates, say *report.Voice) {
	prepared, ops, plants := in.Prepared, in.Grown.Ops, in.Plants
	lines := map[string]prepare.PrepLine{}
	for _, l := range prepared.Lines {
		lines[l.Key] = l
	}
	planting, of := map[string]bool{}, map[string]*rated{}
	for i := range ops {
		o := &ops[i]
		of[o.ID] = &rated{op: o, ways: append([]string{}, o.Ways()...), words: map[rounds]string{}}
		planting[o.ID] = o.Phase == "plant" && o.After == schedule.Planting && o.Better.IsZero()
	}
	pick, ok := practice.PickRate{}, false
	if in.Grown.Sheet != nil {
		pick, ok = in.Grown.Sheet.PickRate(in.Grown.Choices)
	}
	for i := range jobs {
		j := &jobs[i]
		o := of[schedule.OperationOf(j.Key)]
		h := o.choose(j)
		if j.Hours != nil {
			j.HoursBy = "said"
			continue
		}
		if h != nil && in.Planted > 0 {
			in.byHectare(j, o, h, say)
			continue
		}
		if ok && in.byPicker(j, pick, say) {
			continue
		}
		if l, ok := lines[j.Key]; ok && l.BaseH > 0 && l.NotNeeded == "" {
			h := l.BaseH
			j.Machine = l.By == "machine"
			j.Hours, j.HoursBy = &h, "by a usual rate for "+l.By+" work, from memory"
			continue
		}
		if planting[j.Key] && plants > 0 {
			h := float64(plants) / plantedAnHour
			j.Hours, j.HoursBy = &h, "45 plants an hour by hand (30 to 60), common practice"
		}
	}
}

// rated is an operation with what is said the same of each time it comes back.
type rated struct {
	op    *schedule.Operation
	ways  []string
	words map[rounds]string
}

// rounds is how often work is done each time, and in which way.
type rounds struct {
	n   int
	way string
}

// none is the ways of work no sheet knows.
var none = []string{}

// choose takes the way a job is done, and gives its hours; nil where nobody knows them.
func (o *rated) choose(j *report.Job) *schedule.Hours {
	if o == nil {
		j.Ways, j.Way = none, ""
		return nil
	}
	h := o.op.HoursBy(j.Way)
	if j.Ways, j.Way = o.ways, ""; len(o.ways) > 0 {
		j.Way = h.By
	}
	return h
}

// Assign says of each job which crew of the estate does it.
func Assign(jobs []report.Job, crews []document.Crew) {
	for i := range jobs {
		j := &jobs[i]
		if k := document.CrewFor(crews, j.Crew, j.Phase, j.Machine); k >= 0 {
			j.Who = crews[k].ID
		}
	}
}

// byHectare reckons hours a hectare, times the rounds that fall into the days of a job.
func (in Rates) byHectare(j *report.Job, o *rated, h *schedule.Hours, say *report.Voice) {
	n := h.Times(j.From, j.By)
	sum := h.Usual() * in.Planted * float64(n)
	j.Hours, j.Machine, j.Rounds = &sum, h.Machine, n
	at := rounds{n, h.By}
	if _, ok := o.words[at]; !ok {
		o.words[at] = perHectare(h, n, say)
	}
	j.HoursBy = o.words[at]
}

// perHectare says by which rate hours are reckoned.
func perHectare(h *schedule.Hours, rounds int, say *report.Voice) string {
	rate := fmt.Sprintf("{%g h/ha}", h.High)
	if h.Low < h.High {
		rate = fmt.Sprintf("{%g–%g h/ha}", h.Low, h.High)
	}
	rate = say.Marked(rate)
	if rounds > 1 {
		rate += fmt.Sprintf(", %d rounds", rounds)
	}
	if h.Machine {
		rate += " of a machine"
	}
	origin := h.Origin
	if origin == "" {
		origin = "mem"
	}
	return "by " + rate + "; " + practice.OriginWords(origin)
}

// byPicker reckons the hours of a harvest from what one picker brings in; false where that is not known.
func (in Rates) byPicker(j *report.Job, r practice.PickRate, say *report.Voice) bool {
	if j.Phase != "harvest" || j.Age < 1 || j.Age > len(in.Years) {
		return false
	}
	for k, h := range in.Years[j.Age-1].Harvests {
		if schedule.Key("harvest-"+strconv.Itoa(k+1), j.Age) != j.Key || !(h.BlockKg.Base > 0) {
			continue
		}
		sum := h.BlockKg.Base / r.Base
		of := ""
		if r.Says != "" {
			of = " of " + say.Marked(r.Says)
		}
		who := "picker"
		if j.Machine = r.Machine; r.Machine {
			who = "machine"
		}
		j.Hours, j.HoursBy = &sum, fmt.Sprintf("by %s an hour a %s%s; %s", say.Marked(fmt.Sprintf("{%g–%g kg}", r.Low, r.High)), who, of,
			practice.OriginWords(r.Origin))
		return true
	}
	return false
}
