package plan

import (
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/plan/drains"
	"slowroot/core/report"
)

// drainsIn is what the drains are designed from.
func (c *computation) drainsIn() drains.In {
	b := c.in.Block
	return drains.In{Ground: c.ground, Land: c.in.Land, Climate: c.in.Climate, Pits: b.Pits, Soil: c.p.Soil, Sheet: c.sheet,
		Choice: b.DrainChoice(), Decided: b.Decided[document.DrainFork].Option, Started: b.Wet(),
		Rows:        drains.Rows{SpacingM: c.p.Spec.RowSpacingM, BearingDeg: c.p.Spec.BearingDeg, Metres: c.placed.RowMetres, Pieces: c.placed.Pieces},
		RowSpacingM: c.rowSpacing(), Standing: c.inGround(), Laid: c.drainsLaid(), Brief: c.in.Brief, Weigh: c.in.Weigh, Stopped: c.stopping}
}

// drainsLaid is the day the laying was recorded as done, under the sheet's own job where it has one.
func (c *computation) drainsLaid() civil.Date {
	if c.sheet != nil {
		for id, kind := range c.taskKinds() {
			if kind == "drain" {
				return c.doneOn(id)
			}
		}
	}
	return c.doneOn("drain-lay")
}

// timetable dates the work before planting.
func (c *computation) timetable() report.Timetable {
	return report.Timetable{Planting: c.day0(), Age: func(d civil.Date) int { return c.seasons.YearOf(d) - c.first + 1 },
		Done: c.book.Done, NotNeeded: c.book.NotNeeded, Standing: c.inGround(), Today: c.in.Today}
}
