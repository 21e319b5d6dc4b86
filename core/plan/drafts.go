package plan

import (
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan/prepare"
	"slowroot/core/plan/soils"
	"slowroot/core/rotation"
)

// soilIn is what the soil is read from.
func (c *computation) soilIn() soils.In {
	b := c.in.Block
	return soils.In{Pits: b.Pits, Tests: b.Tests, Uses: c.in.uses(c.sheet), Sheet: c.sheet, Fumigated: c.fumigated(), AreaM2: c.ground.AreaM2}
}

// judgeSoil says what pits, tests and previous uses ask for.
func (c *computation) judgeSoil() {
	c.p.Soil.Judge(c.soilIn(), soils.Crop{PlantOn: c.day0(), Standing: c.inGround(), WellsRead: c.in.Block.Drains.WellsRead(), Move: c.moveTo}, c.Voice)
}

// showDrafts shows pits and tests that do not count among those that do.
func (c *computation) showDrafts(whole document.Block) {
	var at []int
	c.p.Soil, at = c.p.Soil.WithDrafts(c.soilIn(), whole.Pits, whole.Tests, c.Voice)
	if s := c.p.Drains.Soil; s != nil && s.PitAt < len(at) {
		moved := *s
		moved.PitAt = at[s.PitAt]
		c.p.Drains.Soil = &moved
	}
}

// moveTo offers another planting date.
func (c *computation) moveTo(d civil.Date) []finding.Remedy {
	if c.sheet != nil {
		d = c.seasons.NextInWindow(d, c.sheet.Windows)
	}
	label := "Plant on " + d.Words()
	return []finding.Remedy{{Label: label, Patch: planting("date", d.String())}}
}

// fumigated is what fumigation does to the waiting time, where it is the way taken.
func (c *computation) fumigated() rotation.Fumigation {
	g := c.gas()
	return rotation.Fumigation{Taken: g != nil, On: c.book.Done["ground-fumigate"], PlantBack: g.Back(), Reserve: g.Reserve()}
}

// gas is the fumigation before planting; nil where that is not the way taken.
func (c *computation) gas() *prepare.Gas {
	b := c.in.Block
	if document.CoverTaken(b.Decided) != "fumigation" {
		return nil
	}
	site := c.in.Climate
	if site == nil {
		s := c.in.Estate.ClimateOf(nil, c.ground.Origin.Lat)
		site = &s
	}
	return prepare.Fumigate(*site, b, c.ground.AreaM2, c.day0())
}
