package plan

import (
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/plan/drains"
	"slowroot/core/plan/prepare"
	"slowroot/core/report"
)

// drainsIn is what the drains are designed from.
func (c *computation) drainsIn() drains.In {
	b := c.in.Block
	return drains.In{Ground: c.ground, Land: c.in.Land, Climate: c.in.Climate, Pits: b.Pits, Soil: c.p.Soil, Sheet: c.sheet,
		Choice: b.DrainChoice(), Decided: b.Decided[document.DrainFork].Option, Started: b.Wet(),
		Rows:        drains.Rows{SpacingM: c.p.Spec.RowSpacingM, BearingDeg: c.p.Spec.BearingDeg, Metres: c.rows.Placed.RowMetres, Pieces: c.rows.Placed.Pieces},
		RowSpacingM: c.rowSpacing(), Standing: c.inGround(), Laid: c.drainsLaid(), Brief: c.in.Brief, Weigh: c.in.Weigh, Stopped: c.stopping}
}

// drainsLaid is the day the laying was recorded as done, under the sheet's own job where it has one.
func (c *computation) drainsLaid() civil.Date {
	if c.sheet != nil {
		for _, o := range c.sheet.Work {
			if o.Task != nil && o.Task.Kind == "drain" && o.If.Holds(c.p.Choices) {
				return c.book.Done[o.ID]
			}
		}
	}
	return c.book.Done["drain-lay"]
}

// prepareIn is what the ground is made ready from.
func (c *computation) prepareIn() prepare.In {
	b := c.in.Block
	in := prepare.In{Ground: c.ground, Land: c.in.Land, Soil: c.p.Soil, Pits: b.Pits, Tests: b.Tests, Drains: c.p.Drains, Sheet: c.sheet, Choices: c.p.Choices,
		Works: b.WorksChoice(), Decided: b.Decided, Growth: b.Growth, Materials: c.in.Estate.Materials, RowSpacingM: c.rowSpacing(),
		Stations: c.rows.Placed.Stations, When: c.timetable(), Gas: c.gas()}
	if len(c.p.Years) > 0 {
		kg := c.p.Years[0].FeedKg["p2o5"]
		in.PhosphateKg = &kg
	} else if c.sheet != nil {
		for _, y := range c.sheet.Feeding {
			if y.If.Holds(c.p.Choices) {
				kg := y.At("p2o5", 1, 0) * c.ground.AreaM2 / 1e4
				in.PhosphateKg = &kg
			}
		}
	}
	return in
}

// timetable dates the work before planting.
func (c *computation) timetable() report.Timetable {
	return report.Timetable{Planting: c.day0(), Age: func(d civil.Date) int { return c.seasons.YearOf(d) - c.grown.First + 1 },
		Done: c.book.Done, NotNeeded: c.book.NotNeeded, Standing: c.inGround(), Today: c.in.Today}
}
