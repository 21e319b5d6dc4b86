package plan

import (
	"fmt"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/report"
)

// state says how far the block has come, and what cannot be planned yet: the same words on every screen and in print.
func (c *computation) state() {
	month := func(d civil.Date) string { return fmt.Sprintf("%s %d", report.Months[d.Month()-1], d.Year()) }
	crop := strings.ToLower(c.p.CropName)
	switch {
	case c.p.Stage == document.Ended:
		c.p.Words = fmt.Sprintf("%s, planted %s, %s %s", crop, month(c.planting.Planted), c.planting.End.How, month(c.planting.End.On))
	case c.p.Stage == document.Planted:
		c.p.Words = fmt.Sprintf("%s, planted %s", crop, month(c.planting.Planted))
	case c.p.Stage == document.Adopted:
		c.p.Words = fmt.Sprintf("%s, plan adopted, for %s", crop, month(c.planting.Date))
	case c.p.Stage == document.Planned:
		c.p.Words = fmt.Sprintf("%s, planned for %s", crop, month(c.planting.Date))
	case c.sheet != nil:
		c.p.Words = fmt.Sprintf("%s, considered for %s", crop, month(c.meant.Date))
		c.p.Cannot = fmt.Sprintf("%s is considered here, not planned. Plan it at the step Plants and its rows, plants, care and crop follow.", c.sheet.Name)
		if !c.sheet.Whole() {
			c.p.Cannot = fmt.Sprintf("%s is considered here. Its practice sheet says what the ground must be and how it is prepared; how it is laid out, ordered, "+
				"kept and picked it does not say yet, so rows, plants, care and crop cannot be planned with it. What the ground asks for stands at Soil, Drains, Fit "+
				"and Prepare.", c.sheet.Name)
		}
	case len(c.in.Before) > 0:
		last := c.in.Before[0]
		for _, s := range c.in.Before {
			if s.End.After(last.End) {
				last = s
			}
		}
		c.p.Words = fmt.Sprintf("nothing since %s, %s before", month(last.End), strings.ToLower(last.Name))
		c.p.Cannot = fmt.Sprintf("What stood here has ended: %s, %s. Choose what follows at the step Plants, or consider a crop at Fit or Prepare.",
			strings.ToLower(last.Name), last.End.Words())
	default:
		c.p.Words = "no crop chosen"
		c.p.Cannot = "No crop is chosen for this block. Choose one at the step Plants, or consider one at Fit or Prepare."
	}
}
