package prepare

import (
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan/drains"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/soils"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/soil"
)

// In is what the ground is made ready from.
type In struct {
	Ground      ground.Result
	Land        *ground.Land // nil where no heights are known
	Soil        soils.Profile
	Pits        []soil.Pit
	Tests       []soil.Test
	Drains      *drains.Plan    // not asked for by the amendments
	Sheet       *practice.Sheet // of the crop meant; nil for none
	Choices     map[string]string
	Works       document.WorksChoice
	Decided     map[string]document.Choice // forks of the ground
	Growth      map[string]float64         // what stands or lies there, m³ by class
	Materials   []document.Material        // for liming
	RowSpacingM float64                    // 0 where nobody has said
	Stations    int                        // 0 where no rows are laid out
	PhosphateKg *float64                   // P₂O₅ of the first year, of the block; nil where not known
	When        report.Timetable
	Gas         *Gas // nil where fumigation is not the way taken
}

// prepare carries the making ready from step to step.
type prepare struct {
	In
	*report.Voice
	works *Works
	prep  *Preparation
}

func begin(in In, say *report.Voice, w *Works, p *Preparation) *prepare {
	return &prepare{In: in, Voice: say, works: w, prep: p}
}

// Amend works out what the soil is given.
func Amend(in In, say *report.Voice) Works {
	var w Works
	begin(in, say, &w, nil).amend()
	return w
}

// Jobs dates the amendments and the way taken to rest the ground, into the sheet's own jobs where it has them.
func (w *Works) Jobs(in In, say *report.Voice, jobs []report.Job) []report.Job {
	c := begin(in, say, w, nil)
	return append(c.worksJobs(jobs), c.groundJobs()...)
}

// Order moves jobs behind those they must follow, and gives each dose the days of the job it is spread in. moved says
// behind what; unsorted what stands in the way where the last day comes too early.
func (w *Works) Order(in In, say *report.Voice, jobs []report.Job) (moved, unsorted map[string]string) {
	moved, unsorted = Enforce(jobs)
	begin(in, say, w, nil).dosesOf(jobs)
	return moved, unsorted
}

// Lines turns the jobs before planting into lines with hours.
func Lines(in In, say *report.Voice, w *Works, jobs []report.Job, moved, unsorted map[string]string) Preparation {
	var p Preparation
	begin(in, say, w, &p).lines(jobs, moved, unsorted)
	return p
}

// Judge says what stands in the way of the amendments, and what is wrong with the order of the work and the cover of the
// soil. move offers another planting day.
func Judge(in In, say *report.Voice, w *Works, p *Preparation, move func(civil.Date) []finding.Remedy) {
	c := begin(in, say, w, p)
	c.judgeWorks(move)
	c.judgePreparation()
}

// Late are the amendments that can no longer act in full before planting, each with the first day on which it would.
func (w *Works) Late(in In, say *report.Voice) []LateAmendment {
	c := begin(in, say, w, nil)
	var out []LateAmendment
	for _, a := range w.Items {
		if c.worksLate(a) {
			out = append(out, LateAmendment{a.Name, c.worksFree(a)})
		}
	}
	return out
}

// LateAmendment is one that should have begun already.
type LateAmendment struct {
	Name string
	Free civil.Date // it has acted in full
}

// Forks are where practice divides about the soil: the school of liming, where phosphate goes, how the ground is rested.
func (w *Works) Forks(in In, say *report.Voice) []report.Fork {
	c := begin(in, say, w, nil)
	var out []report.Fork
	if f, ok := c.limeFork(); ok {
		out = append(out, f)
	}
	if f, ok := c.phosphateFork(); ok {
		out = append(out, f)
	}
	return append(out, c.coverFork())
}
