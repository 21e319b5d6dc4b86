package plan

import (
	"slowroot/core/document"
	"slowroot/core/plan/bill"
	"slowroot/core/plan/crop"
	"slowroot/core/plan/network"
	"slowroot/core/plan/prepare"
	"slowroot/core/plan/ready"
	"slowroot/core/plan/rows"
	"slowroot/core/plan/stand"
	"slowroot/core/plan/watering"
	"slowroot/core/plan/work"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// rowsIn is what rows are laid out from.
func (c *computation) rowsIn() rows.In {
	return rows.In{Ground: c.ground, Grown: c.grown, Planting: c.planting, Obstacles: c.in.Block.Obstacles, Growth: c.in.Block.Growth, Land: c.in.Land,
		Sheets: c.in.Beside}
}

// plantOut lays the rows out and counts the plants to order.
func (c *computation) plantOut() (err error) {
	if c.rows, err = rows.Place(c.rowsIn(), c.Voice); err != nil {
		return err
	}
	c.p.Spec, c.p.Rows, c.p.OutAge, c.p.LaterAge = c.rows.Spec, c.rows.Placed.Pieces, c.rows.OutAge, c.rows.LaterAge
	c.p.Beside, c.p.Strips, c.p.Clones = c.rows.Beside, c.rows.Shares, c.rows.Clones
	c.order, err = stand.Order(stand.In{Material: c.sheet.MaterialOf(c.rows.Option), Each: c.rows.Option.Plants(), Survival: c.planting.Survival,
		Confidence: c.planting.Confidence, Called: c.planting.Called, CalledPoll: c.planting.CalledPoll,
		Stations: c.rows.Placed.Stations, Pollinizers: c.rows.Placed.Pollinizers, Sprouts: c.rows.Placed.Sprouts, Clones: c.rows.Clones}, c.Voice)
	if err != nil {
		return err
	}
	c.p.OrderBeside, err = stand.OrderBeside(c.rows.Beside, c.planting.Confidence, c.Voice)
	return err
}

// cropIn is what the years are built from.
func (c *computation) cropIn() crop.In {
	return crop.In{Grown: c.grown, Rows: c.rows, AreaM2: c.ground.AreaM2, Book: c.book, Standing: c.inGround()}
}

// bear builds the years up.
func (c *computation) bear() {
	c.crop = crop.Build(c.cropIn(), c.Voice)
	c.p.Years, c.p.Nutrients = c.crop.Years, c.crop.Nutrients
}

// workIn is what work is dated from.
func (c *computation) workIn() work.In {
	return work.In{Grown: c.grown, Planting: c.planting, Crop: c.crop, Layout: c.rows, Book: c.book, Standing: c.inGround(), Late: c.p.Works.Late(c.prepareIn(),
		c.Voice)}
}

// preparations dates the sheet's jobs, the amendments and the way taken to rest the ground.
func (c *computation) preparations() {
	jobs := work.FromSheet(c.workIn(), c.Voice)
	in := c.prepareIn()
	var moved, unsorted map[string]string
	if !c.inGround() {
		jobs = c.p.Works.Jobs(in, c.Voice, jobs)
		jobs = c.p.Drains.Jobs(c.Voice, jobs, in.When)
		jobs = append(jobs, c.raised(in.When)...)
		if j, ok := c.stored().StoreJob(c.cold(), in.When, c.Voice); ok {
			jobs = append(jobs, j)
		}
		moved, unsorted = c.p.Works.Order(in, c.Voice, jobs)
	}
	work.Recorded(c.workIn(), jobs)
	c.p.Jobs = jobs
	if !c.inGround() {
		c.p.Preparation = prepare.Lines(in, c.Voice, &c.p.Works, jobs, moved, unsorted)
	}
}

// stored reckons the cold store of the planting's stock.
func (c *computation) stored() *ready.Stored {
	if st, ok := c.sheet.StorageOf(c.grown.Choices); ok && c.planting != nil {
		in := ready.StoreIn{Storage: st, Said: c.planting.Store, Day: c.day0(), Climate: c.in.Climate, Seasons: c.seasons, Done: c.inGround()}
		if len(c.order.Lines) > 0 {
			in.Plants = c.order.Lines[0].Plants
		}
		c.p.Store = ready.Store(in, c.Voice)
	}
	return c.p.Store
}

// cold is the store that was said for the planting.
func (c *computation) cold() *document.ColdStore {
	if c.planting == nil {
		return nil
	}
	return c.planting.Store
}

// raised dates the stages in which the plants are raised.
func (c *computation) raised(when report.Timetable) []report.Job {
	if c.planting == nil || len(c.order.Lines) == 0 {
		return nil
	}
	stages, jobs, err := work.Raise(c.planting.Raising, c.day0(), c.order.Lines[0].Plants, when, c.seasons, c.Voice)
	if err != nil && c.stop == nil {
		c.stop = err
	}
	c.p.Raised = stages
	work.JudgeRaising(c.planting.Raising, work.FromSheet(c.workIn(), c.Voice), c.in.Today, c.Voice)
	return jobs
}

// jobs dates all the work of a planting.
func (c *computation) jobs() {
	c.preparations()
	takes := bill.In{Planting: c.planting, Crop: c.sheet.Name, Grown: c.grown, Ground: c.ground, Land: c.in.Land, Rows: c.rows, Order: c.order,
		Beside: c.p.OrderBeside}
	c.p.Jobs = append(c.p.Jobs, bill.Renewals(takes, c.book, c.Voice)...)
	c.p.Jobs = work.WithCare(c.workIn(), c.p.Jobs, c.Voice)
	c.p.Supplies = work.Supplies(c.workIn(), c.p.Jobs, work.RaisingTakes(c.planting.Raising, c.p.Raised, c.Voice), c.Voice)
	takes.Supplies = c.p.Supplies
	c.p.Bill = bill.Make(takes, c.Voice)
}

// network binds the jobs before planting to one another; nothing is bound where no crop is meant, or the plants stand.
func (c *computation) network() {
	work.ByRate(c.p.Jobs, work.Rates{Prepared: c.p.Preparation, Grown: c.grown, Planted: c.rows.PlantedHa, Plants: c.rows.Placed.Stations,
		Years: c.p.Years}, c.Voice)
	work.Assign(c.p.Jobs, c.in.Estate.Crews)
	c.p.Network = network.Result{Jobs: []network.Job{}, Binds: []string{}, Conflicts: []network.Conflict{}}
	if c.meant == nil || c.sheet == nil || c.inGround() || len(c.p.Jobs) == 0 {
		return
	}
	in := network.In{Jobs: c.p.Jobs, Grown: c.grown, Planting: c.day0(), Crews: c.in.Estate.Crews, Today: c.in.Today,
		Within: map[string]*schedule.Within{prepare.GasJob: c.gas().Warm(), work.FirstStage(c.meant.Raising): work.Dormant(c.meant.Raising, c.seasons)}}
	c.p.Network = network.Make(in)
	c.p.Network.Mark(c.p.Jobs)
	c.p.Network.Sort(c.p.Preparation.Lines)
	c.p.Network.Judge(in, c.Voice)
}

// Fix records the layout of a plan as planted, with positions on the ellipsoid.
func (p *Plan) Fix(option string) *document.AsPlanted {
	return rows.Fix(p.Spec, p.Rows, p.Beside, p.Ground.Origin, p.Ground.AreaM2, option)
}

// look says what planting should wait for, in the job of looking whether it can be.
func (c *computation) look() {
	if c.meant == nil || c.sheet == nil || c.inGround() || c.sheet.Ready.Ask == "" || c.day0().IsZero() {
		return
	}
	expected := ready.In{Sheet: c.sheet, Day: c.day0(), Seen: c.book.Done[practice.ReadyOp], Climate: c.in.Climate, Rains: c.in.Estate.Rains,
		Seasons: c.seasons}.Judge(c.Voice)
	for i := range c.grown.Ops {
		if o := &c.grown.Ops[i]; o.ID == practice.ReadyOp {
			o.Detail += expected
		}
	}
}

// waterNeed says what a planting still to come will ask of the supply.
func (c *computation) waterNeed() {
	if c.inGround() {
		return
	}
	in := watering.In{Sheet: c.sheet, Choices: c.grown.Choices, Climate: c.in.Climate, AreaM2: c.ground.AreaM2, Source: c.in.Estate.Source}
	if len(c.p.Soil.Pits) > 0 {
		in.AvailableMM = c.p.Soil.AvailableMM
	}
	if w := c.in.Block.Works; w != nil {
		in.SupplyM3 = w.WaterM3Day
	}
	watering.Need(in, c.Voice)
}
