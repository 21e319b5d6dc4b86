package plan

import "slowroot/core/document"

// showDrafts puts what does not count among what does, each at its place in the block's own lists, so that it can be
// looked at and finished; what was computed from the settled lists then names the places in the whole ones.
func (c *computation) showDrafts(whole document.Block) {
	p := &c.p.Soil
	if len(whole.Pits) != len(c.in.Block.Pits) {
		root := 100.0
		if c.sheet != nil && c.sheet.Soil.RootCm > 0 {
			root = c.sheet.Soil.RootCm
		}
		var all []PitView
		var at []int // place in the whole list of each settled pit
		for i, pit := range whole.Pits {
			if pit.Draft {
				v := readPit(pit, root, c.sheet != nil && c.sheet.Soil.WetClass == 1)
				v.Draft = true
				all = append(all, v)
				continue
			}
			all = append(all, p.Pits[len(at)])
			at = append(at, i)
		}
		p.Pits = all
		if s := c.p.Drains.Soil; s != nil && s.PitAt < len(at) {
			moved := *s
			moved.PitAt = at[s.PitAt]
			c.p.Drains.Soil = &moved
		}
	}
	if len(whole.Tests) != len(c.in.Block.Tests) {
		var all []TestView
		n := 0
		for i, t := range whole.Tests {
			if t.Empty() {
				all = append(all, c.readTest(i, t, false))
				continue
			}
			v := p.Tests[n]
			v.Index = i
			all = append(all, v)
			n++
		}
		p.Tests = all
	}
}
