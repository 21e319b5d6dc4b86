package plan

import (
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/layout"
	"slowroot/core/plan/bill"
	"slowroot/core/plan/crop"
	"slowroot/core/plan/drains"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/growth"
	"slowroot/core/plan/prepare"
	"slowroot/core/plan/rows"
	"slowroot/core/plan/soils"
	"slowroot/core/plan/stand"
	"slowroot/core/plan/work"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/working"
)

// computation carries one run of Compute from step to step.
type computation struct {
	*report.Voice
	in       Input
	p        *Plan
	seasons  schedule.Seasons
	meant    *document.Planting // the planting the block is seen from, whatever its stage
	planting *document.Planting // the same where it is more than considered
	book     record.Book        // what was recorded of it
	sheet    *practice.Sheet
	grown    growth.Result
	ground   ground.Result
	rows     rows.Result
	order    stand.Result
	crop     crop.Result
	whole    document.Block // with what is only a draft
	stop     error          // why the computation was ended before its end
}

// Compute makes the plan, read top to bottom like the job itself. An error means the input itself
// is unusable (a *finding.FieldError or *geo.Invalid); everything a plan can live with is a finding.
// With a trace the steps of the wanted figure are recorded.
func Compute(in Input, tr *working.Trace) (*Plan, error) {
	c, err := begin(in, tr)
	if err != nil {
		return nil, err
	}
	if c.planting != nil && c.sheet != nil && !c.sheet.Whole() {
		return nil, finding.Bad("planting.sheet", c.sheet.Name,
			"its sheet says what the ground must be and how it is prepared, not yet how a planting is laid out and kept", "a sheet with layouts")
	}
	if c.planting != nil && c.sheet != nil {
		if err := c.choose(); err != nil {
			return nil, err
		}
		if err := c.plantOut(); err != nil {
			return nil, err
		}
		c.soil()
		c.bear()
		c.jobs()
		c.crop.Figures(c.cropIn(), c.Voice)
	} else if c.planting == nil && c.sheet != nil {
		c.consider()
	} else if c.planting != nil && c.planting.Sheet != "" {
		return nil, finding.Bad("planting.sheet", c.planting.Sheet, "is not a practice sheet of the library", "a sheet from the list of sheets")
	}
	if c.sheet == nil {
		c.soil()
	}
	c.p.Checklist, c.p.groundForks = ground.Checklist(c.sheet, c.in.Block.Checks, c.Voice), c.groundForks()
	c.p.Jobs = work.WithOwn(c.p.Jobs, in.Block, c.meant, record.Everywhere(in.Records), in.Today)
	if !in.trial {
		c.network()
		work.JudgeDays(c.p.Jobs, c.p.Network.Room, c.Voice)
		work.MarkLate(c.p.Jobs, in.Today)
		c.findings()
	}
	if c.stopping() {
		return nil, c.stop
	}
	c.steps()
	c.state()
	c.showDrafts(c.whole)
	c.finite()
	c.p.Figures, c.p.Findings = c.Figures, c.Findings
	return c.p, nil
}

// begin checks the input and measures the ground: what every computation of a block begins with.
func begin(in Input, tr *working.Trace) (*computation, error) {
	if err := in.Estate.Valid(); err != nil {
		return nil, err
	}
	if err := in.Block.Valid(); err != nil {
		return nil, err
	}
	seasons, err := in.Estate.Calendar()
	if err != nil {
		return nil, err
	}
	in.Sheet, seasons = bySeasons(in.Sheet.On(in.Block.Planting.Chosen()), seasons)
	whole := in.Block
	in.Block = whole.Settled()
	c := &computation{in: in, whole: whole, seasons: seasons, meant: in.Block.Planting, sheet: in.Sheet}
	c.Voice = &report.Voice{Units: in.Estate.Units, Trace: tr, Today: in.Today, Currency: in.Estate.Currency, Price: in.price,
		Memory: in.Memory, Figures: []report.Figure{}, Findings: []finding.Finding{}, Kept: in.Block.Keep, KeptIn: []string{"keep"}}
	stage := c.meant.Stage()
	c.p = &Plan{Block: in.BlockID, Name: in.Block.Name, Today: in.Today, Stage: stage, YearToday: seasons.YearOf(in.Today),
		Choices: map[string]string{}, Rows: []layout.Piece{}, Beside: []rows.Beside{}, Strips: []rows.Share{}, Clones: []rows.Clone{}, Bill: []bill.Line{},
		OrderBeside: []stand.BesideLine{},
		Years:       []crop.Year{}, Jobs: []report.Job{}, Raised: []work.RaisedStage{},
		Supplies: []work.Supply{}, Nutrients: []string{}}
	c.p.Drains = &drains.Plan{}
	c.p.Preparation = prepare.Preparation{Lines: []prepare.PrepLine{}, Sorting: []prepare.SortLine{}, Months: []string{}}
	if c.meant != nil {
		c.p.Planting, c.book = c.meant.ID, record.Open(in.Records, c.meant.ID)
	}
	if stage != document.Considered {
		c.planting = c.meant
	}
	if c.planting != nil {
		c.Kept, c.KeptIn = c.planting.Accepted, []string{"planting", "accepted"}
	}
	c.ground = ground.Measure(c.groundIn(), c.Voice)
	c.p.Ground = c.ground
	c.p.Obstacles = rows.Obstacles(c.ground, in.Block.Obstacles)
	return c, nil
}

// stopping reports that the computation is to end, and keeps why.
func (c *computation) stopping() bool {
	if c.stop == nil {
		c.stop = c.in.stopped()
	}
	return c.stop != nil
}

// soil is what the ground is and what it is given.
func (c *computation) soil() {
	if c.sheet != nil {
		c.p.Crop, c.p.CropName, c.p.CropDate = c.sheet.ID, c.sheet.Name, c.day0()
	}
	c.p.Soil = soils.Read(c.soilIn(), c.Voice)
	c.p.Works = prepare.Amend(c.prepareIn(), c.Voice)
	c.waterNeed()
	if c.in.drained != nil {
		d := *c.in.drained
		c.p.Drains = &d
	} else if !c.stopping() {
		c.p.Drains = drains.Lay(c.drainsIn(), c.Voice)
	}
	c.grown.Ops = append(c.grown.Ops[:len(c.grown.Ops):len(c.grown.Ops)], c.p.Drains.Upkeep(c.Voice)...)
	c.look()
}

// consider prepares the ground for a crop that is only thought about.
func (c *computation) consider() {
	c.grown = growth.Consider(c.growthIn())
	c.p.Choices = c.grown.Choices
	c.soil()
	c.preparations()
}

// inGround tells whether plants stand, or stood: their layout is fixed and the ground is prepared for them no more.
func (c *computation) inGround() bool {
	return c.p.Stage == document.Planted || c.p.Stage == document.Ended
}

// choose settles the forks: what a person chose, else the sheet's default.
func (c *computation) choose() error {
	g, err := growth.Choose(c.growthIn())
	if err != nil {
		return err
	}
	c.grown, c.p.Choices, c.p.Late = g, g.Choices, g.Late
	c.p.Sheet, c.p.SheetName, c.p.Product, c.p.YieldAs, c.p.MassAs = c.sheet.ID, c.sheet.Name, g.Product, g.YieldAs, g.MassAs
	return nil
}

// growthIn is a planting and its sheet.
func (c *computation) growthIn() growth.In {
	return growth.In{Sheet: c.sheet, Planting: c.meant, Seasons: c.seasons, Book: c.book}
}

// bySeasons is a sheet as it is done where the estate lives by its rains, with the seasons as its crop sees them.
func bySeasons(s *practice.Sheet, seasons schedule.Seasons) (*practice.Sheet, schedule.Seasons) {
	if s == nil || seasons.Rains() == 0 || !s.ByRains() {
		return s, seasons
	}
	return s.InRains(seasons.Rains()), seasons.ByRains()
}
