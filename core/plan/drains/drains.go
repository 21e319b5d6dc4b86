package drains

import (
	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/layout"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/soils"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/soil"
)

// In is what the drains of a block are designed from.
type In struct {
	Ground  ground.Result
	Land    *ground.Land // nil where no heights are known
	Climate *climate.Site
	Pits    []soil.Pit
	Soil    soils.Profile
	Sheet   *practice.Sheet // of the crop meant; nil for none
	Choice  document.DrainChoice
	Decided string // the way taken at the fork, "" for none
	Started bool   // somebody said something about the water, or decided
	Rows    Rows
	// RowSpacingM is how far rows stand, or would stand, apart; 0 where nobody has said.
	RowSpacingM float64
	Standing    bool       // plants stand, or stood
	Laid        civil.Date // the day the laying was recorded; zero where it was not
	Brief       bool       // leave out remedies that take long to find
	Weigh       bool       // design the ways not taken too
	// Stopped tells, now and then, whether nobody waits for the answer any more.
	Stopped func() bool
}

// Rows are the rows the beds follow; zero where none are laid out.
type Rows struct {
	SpacingM   float64
	BearingDeg float64
	Metres     float64
	Pieces     []layout.Piece
}

// design carries one design from step to step.
type design struct {
	In
	*report.Voice
	out *Plan
}

// Lay works out whether the block needs drainage and designs what is taken.
func Lay(in In, say *report.Voice) *Plan {
	c := &design{In: in, Voice: say, out: &Plan{}}
	c.lay()
	return c.out
}

// Judge says what is wrong with the water and the design.
func (d *Plan) Judge(in In, say *report.Voice) {
	(&design{In: in, Voice: say, out: d}).judge()
}

// Fork sets the remedies side by side; ok is false where there is nothing to decide.
func (d *Plan) Fork(in In, say *report.Voice) (f report.Fork, ok bool) {
	return (&design{In: in, Voice: say, out: d}).fork()
}

// Jobs dates the laying and the beds: into the sheet's own job of that kind where it has one, else as jobs of their own.
func (d *Plan) Jobs(say *report.Voice, jobs []report.Job, when report.Timetable) []report.Job {
	return (&design{Voice: say, out: d}).jobs(jobs, when)
}

// Upkeep is the yearly work on what is designed.
func (d *Plan) Upkeep(say *report.Voice) []schedule.Operation {
	return (&design{Voice: say, out: d}).siltOps()
}
