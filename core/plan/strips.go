package plan

import "slowroot/core/civil"

// rowSpacing is what strips are counted by: the layout's, or what a person said.
func (c *computation) rowSpacing() float64 {
	if c.p.Spec.RowSpacingM > 0 {
		return c.p.Spec.RowSpacingM
	}
	if w := c.in.Block.Works; w != nil && w.RowM > 0 {
		return w.RowM
	}
	if c.sheet != nil && c.sheet.Bed != nil {
		return c.sheet.Bed.CentreM
	}
	if c.sheet != nil {
		for _, l := range c.sheet.Layouts {
			if l.Default {
				return l.RowM
			}
		}
	}
	return 0
}

// day0 is the planting date.
func (c *computation) day0() civil.Date { _, d := c.in.Block.Crop(); return d }
