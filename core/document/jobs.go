package document

import (
	"fmt"
	"slices"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

// OwnJob is work a person adds to a block: what no sheet asks for.
type OwnJob struct {
	ID     string     `json:"id,omitempty"` // for good; given when it is written
	Name   string     `json:"name"`
	From   civil.Date `json:"from"`
	By     civil.Date `json:"by"`
	Detail string     `json:"detail,omitempty"`
	Effort
}

// Effort is what a job asks of the people: hours each time, and which crew.
type Effort struct {
	Hours *float64 `json:"hours,omitempty"` // nil is not known, which is not nought
	Way   string   `json:"way,omitempty"`   // it is done, one of those its sheet knows; "" is the usual one
	Crew  string   `json:"crew,omitempty"`  // id of a crew of the estate; "" is the first that is there for such work
}

// Crew is people who work together, or machines with their drivers.
type Crew struct {
	ID       string  `json:"id"`
	Name     string  `json:"name"`
	People   float64 `json:"people"`
	HoursDay float64 `json:"hoursDay"`
	DaysWeek float64 `json:"daysWeek"`
	Wage     float64 `json:"wage,omitempty"` // an hour of one; 0 is not said

	Machine bool     `json:"machine,omitempty"` // it is so many machines, each with its driver
	Does    []string `json:"does,omitempty"`    // kinds of work, of Works; none is every kind
}

// Work is a kind of work.
type Work struct {
	Kind   string
	Phases []string // of jobs
}

// Works are the kinds of work a crew can be kept for, and the phases of jobs each is.
var Works = []Work{
	{"ground", []string{"assess", "clear", "soil", "drain", "bed", "infrastructure"}}, {"planting", []string{"order", "plant", "establish"}},
	{"care", []string{"care", "own"}}, {"pruning", []string{"prune", "renew"}}, {"feeding", []string{"feed"}}, {"harvest", []string{"harvest"}},
}

// takes reports whether a crew is there for a phase of work, done by machine or by hand.
func (c Crew) takes(phase string, machine bool) bool {
	if c.Machine && !machine {
		return false
	}
	for _, w := range Works {
		if slices.Contains(w.Phases, phase) {
			return len(c.Does) == 0 || slices.Contains(c.Does, w.Kind)
		}
	}
	return len(c.Does) == 0
}

// CrewFor is the place of the crew that does a job: the one said; else, of machine work, the first machines there for it; else the first people
// there for it. −1 is nobody.
func CrewFor(crews []Crew, said, phase string, machine bool) int {
	if k := slices.IndexFunc(crews, func(c Crew) bool { return said != "" && c.ID == said }); k >= 0 {
		return k
	}
	if machine {
		if k := slices.IndexFunc(crews, func(c Crew) bool { return c.Machine && c.takes(phase, true) }); k >= 0 {
			return k
		}
	}
	return slices.IndexFunc(crews, func(c Crew) bool { return !c.Machine && c.takes(phase, machine) })
}

// WeekHours is what a crew can do in a week.
func (c Crew) WeekHours() float64 { return c.People * c.HoursDay * c.DaysWeek }

const maxOwnJobs, maxCrews = 500, 20

func (e Effort) valid(at string) error {
	if h := e.Hours; h != nil && !(*h >= 0 && *h <= 1e6) {
		return finding.Bad(at+".hours", *h, "are not hours of work", "0 to 1 000 000, or nothing where they are not known")
	}
	if len(e.Way) > 80 {
		return finding.Bad(at+".way", e.Way, "is not a way work is done", "one of those its sheet knows")
	}
	if len(e.Crew) > 60 {
		return finding.Bad(at+".crew", e.Crew, "is not the id of a crew", "one of the estate's crews")
	}
	return nil
}

// ownJobs refuses jobs nobody can do.
func ownJobs(list []OwnJob) error {
	if len(list) > maxOwnJobs {
		return finding.Bad("jobs", len(list), "are more jobs than a block holds", fmt.Sprintf("%d at most", maxOwnJobs))
	}
	for i, j := range list {
		at := fmt.Sprintf("jobs[%d]", i)
		if n := len([]rune(j.Name)); n == 0 || n > 120 {
			return finding.Bad(at+".name", j.Name, "names no job", "1 to 120 characters")
		}
		if len([]rune(j.Detail)) > 1000 {
			return finding.Bad(at+".detail", len(j.Detail), "is longer than what is said of a job", "1 000 characters at most")
		}
		if j.From.IsZero() || j.By.Before(j.From) {
			return finding.Bad(at+".by", j.By, "lies before the day it can begin, or that day is missing", "two days, the earlier first")
		}
		if err := entered(at+".from", j.From); err != nil {
			return err
		}
		if err := entered(at+".by", j.By); err != nil {
			return err
		}
		if err := j.valid(at); err != nil {
			return err
		}
	}
	return nil
}

// crews refuses crews that cannot be.
func crews(list []Crew) error {
	if len(list) > maxCrews {
		return finding.Bad("crews", len(list), "are more crews than an estate has", fmt.Sprintf("%d at most", maxCrews))
	}
	var known []string
	for i, c := range list {
		at := fmt.Sprintf("crews[%d]", i)
		switch {
		case c.ID == "" || len(c.ID) > 60 || slices.Contains(known, c.ID):
			return finding.Bad(at+".id", c.ID, "is not an id of its own", "1 to 60 characters that no other crew has")
		case c.Name == "" || len([]rune(c.Name)) > 80:
			return finding.Bad(at+".name", c.Name, "is not a name", "1 to 80 characters")
		case !(c.People >= 0.1 && c.People <= 1000):
			return finding.Bad(at+".people", c.People, "is not a number of people", "0.1 to 1 000")
		case !(c.HoursDay >= 0.5 && c.HoursDay <= 24):
			return finding.Bad(at+".hoursDay", c.HoursDay, "are not hours of a day", "0.5 to 24")
		case !(c.DaysWeek >= 0.5 && c.DaysWeek <= 7):
			return finding.Bad(at+".daysWeek", c.DaysWeek, "are not days of a week", "0.5 to 7")
		case !(c.Wage >= 0 && c.Wage <= 1e6):
			return finding.Bad(at+".wage", c.Wage, "is not a wage", "0 to 1 000 000")
		}
		for _, d := range c.Does {
			if !slices.ContainsFunc(Works, func(w Work) bool { return w.Kind == d }) {
				return finding.Bad(at+".does", d, "is not a kind of work", "ground, planting, care, pruning, feeding or harvest")
			}
		}
		known = append(known, c.ID)
	}
	return nil
}
