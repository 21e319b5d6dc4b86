package plan

import (
	"slowroot/core/finding"
	"slowroot/core/plan/rows"
)

// Bearings is what the rows of a planting that is not in the ground would be on every bearing.
func Bearings(in Input) (rows.TradeOff, error) {
	in.Brief = true
	c, err := begin(in, nil)
	if err != nil {
		return rows.TradeOff{}, err
	}
	if c.planting == nil || c.sheet == nil || !c.sheet.Whole() || c.inGround() {
		return rows.TradeOff{}, finding.Bad("planting", c.p.Stage, "has no rows that can be turned", "a planting that is planned and not in the ground")
	}
	if err := c.choose(); err != nil {
		return rows.TradeOff{}, err
	}
	return rows.Bearings(c.rowsIn(), c.in.Land)
}
