package plan

import (
	"slowroot/core/canopy"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/layout"
	"slowroot/core/nutrition"
	"slowroot/core/plan/drains"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/prepare"
	"slowroot/core/plan/soils"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/core/working"
	"slowroot/core/yield"
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
	option   practice.Layout
	ground   ground.Result
	placed   layout.Placement
	harvest  yield.Harvest
	curve    yield.Curve
	feed     nutrition.Programme
	ops      []schedule.Operation
	cal      schedule.Calendar
	stop     error // why the computation was ended before its end
	life     int
	canopy   canopy.Growth // of the layout chosen
	first    int           // season year of age year 1
	planted  float64       // hectares the stations stand for
}

// Compute makes the plan, read top to bottom like the job itself. An error means the input itself
// is unusable (a *finding.FieldError or *geo.Invalid); everything a plan can live with is a finding.
// With a trace the steps of the wanted figure are recorded.
func Compute(in Input, tr *working.Trace) (*Plan, error) {
	if err := in.Estate.Valid(); err != nil {
		return nil, err
	}
	if err := in.Block.Valid(); err != nil {
		return nil, err
	}
	seasons, err := schedule.NewSeasons(in.Estate.Seasons)
	if err != nil {
		return nil, err
	}
	whole := in.Block
	in.Block = whole.Settled()
	c := &computation{in: in, seasons: seasons, meant: in.Block.Planting, sheet: in.Sheet}
	c.Voice = &report.Voice{Units: in.Estate.Units, Trace: tr, Today: in.Today, Currency: in.Estate.Currency, Price: in.price,
		Figures: []report.Figure{}, Findings: []finding.Finding{}, Kept: in.Block.Keep, KeptIn: []string{"keep"}}
	stage := c.meant.Stage()
	c.p = &Plan{Block: in.BlockID, Name: in.Block.Name, Today: in.Today, Stage: stage, YearToday: seasons.YearOf(in.Today),
		Choices: map[string]string{}, Rows: []layout.Piece{}, Years: []Year{}, Jobs: []report.Job{}, Nutrients: []string{}}
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
	if c.planting != nil && c.sheet != nil && !c.sheet.Whole() {
		return nil, finding.Bad("planting.sheet", c.sheet.Name, "its sheet says what the ground must be and how it is prepared, not yet how a planting is laid out and kept", "a sheet with layouts")
	}
	if c.planting != nil && c.sheet != nil {
		if err := c.choose(); err != nil {
			return nil, err
		}
		if err := c.rows(); err != nil {
			return nil, err
		}
		if err := c.plants(); err != nil {
			return nil, err
		}
		c.calendar()
		c.soil()
		c.years()
		c.jobs()
		c.lifeFigures()
	} else if c.planting == nil && c.sheet != nil {
		c.consider()
	} else if c.planting != nil && c.planting.Sheet != "" {
		return nil, finding.Bad("planting.sheet", c.planting.Sheet, "is not a practice sheet of the library", "a sheet from the list of sheets")
	}
	if c.sheet == nil {
		c.soil()
	}
	c.p.Checklist, c.p.groundForks = c.checklist(), c.groundForks()
	c.findings()
	if c.stopping() {
		return nil, c.stop
	}
	c.steps()
	c.state()
	c.showDrafts(whole)
	c.finite()
	c.p.Figures, c.p.Findings = c.Figures, c.Findings
	return c.p, nil
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
	c.ops = append(c.ops[:len(c.ops):len(c.ops)], c.p.Drains.Upkeep(c.Voice)...)
}

// consider prepares the ground for a crop that is only thought about.
func (c *computation) consider() {
	c.p.Choices = c.sheet.Resolve(nil)
	c.first = c.seasons.FirstYear(c.meant.Date)
	c.cal = schedule.Calendar{Seasons: c.seasons, Planting: c.meant.Date, Life: 1, Done: c.book.Done, Skip: c.book.NotNeeded}
	c.soil()
	for _, o := range c.sheet.Operations(c.p.Choices) {
		if len(o.Season) == 0 {
			c.ops = append(c.ops, o)
		}
	}
	c.preparations(nil)
}

// inGround tells whether plants stand, or stood: their layout is fixed and the ground is prepared for them no more.
func (c *computation) inGround() bool {
	return c.p.Stage == document.Planted || c.p.Stage == document.Ended
}

// choose settles the forks: what a person chose, else the sheet's default.
func (c *computation) choose() error {
	p, s := c.planting, c.sheet
	for fork, ch := range p.Choices {
		ok := false
		for _, f := range s.AllForks() {
			for _, o := range f.Options {
				ok = ok || f.ID == fork && o.ID == ch.Option
			}
		}
		if !ok {
			return finding.Bad("planting.choices."+fork, ch.Option, "is not a way the sheet of "+s.Name+" knows", "one of the ways at its forks")
		}
	}
	if p.Standing().IsZero() {
		return finding.Bad("planting.date", "", "a planting needs a date", "a day written YYYY-MM-DD")
	}
	c.p.Choices = s.Resolve(p.Chosen())
	c.option, _ = s.Layout(c.p.Choices[practice.LayoutFork])
	c.curve, c.feed, c.harvest = s.Curve(c.p.Choices), s.Programme(c.p.Choices), s.Harvesting(c.p.Choices)
	c.ops = s.Operations(c.p.Choices)
	c.life, c.canopy = s.LifeOf(c.option).Base, s.CanopyOf(c.option)
	product := s.ProductOf(c.option)
	c.p.Sheet, c.p.SheetName, c.p.Product = s.ID, s.Name, product.Name
	c.p.YieldAs, c.p.MassAs = units.YieldKg, units.MassKg
	if product.ShowAs == "t" {
		c.p.YieldAs, c.p.MassAs = units.YieldT, units.MassT
	}
	if p.End != nil { // what stands no longer has no years to come
		first := c.seasons.FirstYear(p.Standing())
		c.life = max(1, min(c.life, c.seasons.YearOf(p.End.On)-first+1))
	}
	return nil
}
