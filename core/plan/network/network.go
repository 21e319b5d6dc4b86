// Package network is the part of a plan that binds the jobs before planting to one another: how early and how late each can
// be, what it waits for, what it holds up, and which rules cannot be kept together.
package network

import (
	"fmt"
	"math"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/plan/growth"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// In is what the network is made of.
type In struct {
	Jobs     []report.Job // of the plan; those before planting are bound
	Grown    growth.Result
	Planting civil.Date // the day planted on, or meant
	Crews    []document.Crew
	Today    civil.Date
	Within   map[string]*schedule.Within // times of the year of jobs designed beside the sheet, by key
}

// within is the time of the year a job is done in; nil for any.
func (in In) within(o *schedule.Operation, key string) *schedule.Within {
	if o != nil {
		return o.Within
	}
	return in.Within[key]
}

// PlantingKey is the key of the planting itself among the jobs of the network.
const PlantingKey = "planting"

// Result is the network as it is solved.
type Result struct {
	Jobs         []Job      `json:"jobs"`         // by their last day, the planting last
	Free         civil.Date `json:"free"`         // first day planting can be with all that is not done begun today at the earliest
	FreeInWindow civil.Date `json:"freeInWindow"` // the first such day in a planting season
	Binds        []string   `json:"binds"`        // keys of the jobs that decide it, first to last
	Conflicts    []Conflict `json:"conflicts"`

	upside []Tie
}

// Job is one job of the network.
type Job struct {
	Key      string     `json:"key"`
	Name     string     `json:"name"`
	Earliest civil.Date `json:"earliest"`
	Latest   civil.Date `json:"latest"`
	Planned  civil.Date `json:"planned"` // the day said, else wanted, moved behind what it waits for
	Slack    int        `json:"slack"`   // days from the earliest to the latest; below nought in a conflict
	Days     int        `json:"days"`    // it takes; 0 where hours or people are not known
	Done     civil.Date `json:"done"`
	Said     bool       `json:"said"`             // a person said the day
	Waits    []Tie      `json:"waits"`            // for these
	Holds    []Tie      `json:"holds"`            // these up
	Tight    bool       `json:"tight"`            // it cannot wait a week
	Within   string     `json:"within,omitempty"` // the time of the year it is done in; "" for any
}

// Tie is a rule to another job.
type Tie struct {
	Key   string `json:"key"`
	Name  string `json:"name"`
	Words string `json:"words"`
	Hard  bool   `json:"hard"`  // nothing on the farm can move it
	Binds bool   `json:"binds"` // it is the one that holds the day where it is
}

// Conflict is a set of rules from which none can be left out and that cannot all be kept.
type Conflict struct {
	Keys     []string `json:"keys"`
	Steps    []Tie    `json:"steps"` // in the order of time
	Short    int      `json:"short"` // days lacking
	Sentence string   `json:"sentence"`
}

// longest is what a job may take, days: ten years, beyond which nobody plans.
const longest = 3650

// tight is slack below which a job cannot be left lying (method S7).
const tight = 7

// bound is a rule of the network with its words.
type bound struct {
	schedule.Rule
	words  string
	starts bool // that a job is not begun before today, not before its time of the year, or was done on a day
}

// net carries one computation from step to step.
type net struct {
	In
	jobs   []report.Job
	at     map[string]int // day of the network by key of the job
	plant  int
	ops    map[string]*schedule.Operation
	days   []int        // each takes
	last   []civil.Date // each can be begun on, for a day of planting
	bounds []bound
	upside []Tie // rules that what is done broke: the later of two was done first
}

// Make binds the jobs before planting. Without any, the network is that of the planting alone.
func Make(in In) Result {
	n := &net{In: in, at: map[string]int{}, ops: map[string]*schedule.Operation{}, days: []int{0}}
	for i := range in.Grown.Ops {
		n.ops[in.Grown.Ops[i].ID] = &in.Grown.Ops[i]
	}
	for _, j := range in.Jobs {
		if !j.Preparation || j.NotNeeded != "" || j.Own {
			continue
		}
		n.jobs = append(n.jobs, j)
		n.at[j.Key] = len(n.jobs)
		n.days = append(n.days, n.takes(j))
	}
	n.plant = len(n.jobs) + 1
	n.days = append(n.days, 0)
	return n.solve()
}

// takes is how many days a job takes the people who do it; 0 where that is not known.
func (n *net) takes(j report.Job) int {
	h, people := 0.0, 1.0
	if j.Hours != nil {
		h = *j.Hours
	}
	crew := document.CrewFor(n.Crews, j.Crew, j.Phase, j.Machine)
	if crew < 0 || h <= 0 {
		return 0
	}
	c := n.Crews[crew]
	if !j.Machine || c.Machine {
		people = c.People
	}
	return int(math.Min(longest, math.Ceil(h/(people*c.HoursDay)*7/c.DaysWeek)))
}

// day counts a date from today: the network's origin.
func (n *net) day(d civil.Date) int { return d.Sub(n.Today) }

// add binds a job to what it waits for. What is done waits for nothing any more.
func (n *net) add(from, to, least int, hard, starts bool, words string) {
	if to <= len(n.jobs) && !n.jobs[to-1].Done.IsZero() {
		if from > 0 && !n.jobs[from-1].Done.IsZero() && n.jobs[to-1].Done.Before(n.jobs[from-1].Done) {
			n.upside = append(n.upside, Tie{Key: n.jobs[to-1].Key, Name: n.jobs[to-1].Name, Words: words})
		}
		return
	}
	for i, b := range n.bounds {
		if b.From == from && b.To == to && !b.starts { // the tighter of two holds
			if least > b.Least {
				n.bounds[i].Least, n.bounds[i].words = least, words
			}
			return
		}
	}
	n.bounds = append(n.bounds, bound{schedule.Rule{From: from, To: to, Least: least, Most: schedule.NoMost, Hard: hard}, words, starts})
}

// bind makes the rules between the jobs for planting on a day: what is done was done, what is not begins today at the
// earliest, what the sheet asks to stand before or after another, and the order of the work on the ground. Months are
// counted from that day, on the calendar.
func (n *net) bind(planting civil.Date) {
	n.bounds, n.upside, n.last = nil, nil, make([]civil.Date, n.plant+1)
	n.last[n.plant] = planting
	for _, j := range n.jobs {
		n.lastDay(j.Key)
	}
	for _, j := range n.jobs {
		x := n.at[j.Key]
		if !j.Done.IsZero() {
			d := n.day(j.Done)
			n.bounds = append(n.bounds, bound{schedule.Rule{From: schedule.Origin, To: x, Least: d, Most: d, Hard: true},
				fmt.Sprintf("“%s” was done on %s", j.Name, j.Done.Words()), true})
		} else {
			n.add(schedule.Origin, x, 0, true, true, fmt.Sprintf("“%s” cannot be begun before today, %s", j.Name, n.Today.Words()))
		}
		n.fromSheet(j, x)
		for _, kind := range practice.Tasks[j.Kind].After {
			for _, k := range n.jobs {
				if k.Kind == kind && k.Key != j.Key {
					y := n.at[k.Key]
					words := fmt.Sprintf("“%s” comes after “%s”, the order of the work", j.Name, k.Name)
					if d := n.days[y]; d > 1 {
						words += fmt.Sprintf(", which takes %d days", d)
					}
					n.add(y, x, n.days[y], false, false, words)
				}
			}
		}
	}
}

// lastDay is the last day a job can be begun on for the day of planting, by its own rule alone.
func (n *net) lastDay(key string) civil.Date {
	x := n.at[key]
	if x == 0 {
		return n.last[n.plant]
	}
	if !n.last[x].IsZero() {
		return n.last[x]
	}
	j := n.jobs[x-1]
	switch o := n.ops[key]; {
	case o != nil && o.Before != "":
		n.last[x] = o.Min.From(n.lastDay(o.Before), -1)
	case o != nil:
		n.last[x] = n.last[n.plant] // what comes after another has no last day of its own
	default:
		n.last[x] = n.lead(j).From(n.last[n.plant], -1)
	}
	return n.last[x]
}

// lead is how long before planting a job designed beside the sheet has its last day: in months where it is, else in days.
func (n *net) lead(j report.Job) schedule.Offset {
	for m := 1; m <= 60; m++ {
		if n.Planting.AddMonths(-m) == j.By {
			return schedule.Offset{N: m, Unit: "mo"}
		}
	}
	return schedule.Offset{N: max(0, n.Planting.Sub(j.By)), Unit: "d"}
}

// fromSheet binds a job as its operation says, or, designed beside the sheet, by its last day before planting.
func (n *net) fromSheet(j report.Job, x int) {
	o := n.ops[j.Key]
	if y := n.at[j.After]; y > 0 {
		n.add(y, x, j.AfterDays, false, false, fmt.Sprintf("“%s” %s after “%s”", j.Name, schedule.Offset{N: j.AfterDays, Unit: "d"}.Words(),
			n.jobs[y-1].Name))
	}
	switch {
	case o == nil || o.Before == schedule.Planting:
		lead := n.lead(j)
		if o != nil {
			lead = o.Min
		}
		words := fmt.Sprintf("“%s” comes before planting", j.Name)
		if !lead.IsZero() {
			words = fmt.Sprintf("“%s” at least %s before planting", j.Name, lead.Words())
		}
		n.add(x, n.plant, max(n.last[n.plant].Sub(n.last[x]), n.days[x]), false, false, words)
	case n.at[o.Before] > 0:
		y := n.at[o.Before]
		n.add(x, y, max(n.last[y].Sub(n.last[x]), n.days[x]), false, false,
			fmt.Sprintf("“%s” at least %s before “%s”", j.Name, o.Min.Words(), n.jobs[y-1].Name))
	case n.at[o.After] > 0:
		y, lag := n.at[o.After], o.Better
		if !o.Min.IsZero() {
			lag = o.Min
		}
		ref := n.jobs[y-1]
		n.add(y, x, max(lag.From(ref.From, 1).Sub(ref.From), n.days[y]), false, false, fmt.Sprintf("“%s” %s after “%s”", j.Name, lag.Words(), ref.Name))
	}
}
