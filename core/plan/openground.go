package plan

import "slowroot/core/report"

// groundForks are where practice divides about the ground: how the roots get air, which school of liming, where phosphate goes,
// and how the ground is rested before planting. They are decided on the block, not on a planting.
func (c *computation) groundForks() []report.Fork {
	var out []report.Fork
	add := func(f report.Fork) {
		ch, ok := c.in.Block.Decided[f.ID]
		f.Scope, f.Decided, f.By, f.On, f.Why = "block", ok, ch.By, ch.On.String(), ch.Why
		f.MarkDifferences()
		out = append(out, f)
	}
	if f, ok := c.p.Drains.Fork(c.drainsIn(), c.Voice); ok {
		add(f)
	}
	if c.sheet == nil || c.inGround() {
		return out
	}
	for _, f := range c.p.Works.Forks(c.prepareIn(), c.Voice) {
		add(f)
	}
	return out
}

// openGround counts the forks of the ground not yet decided at a step.
func (c *computation) openGround(s *Step) {
	for _, f := range c.p.groundForks {
		if f.Step == s.Key && !f.Decided {
			s.Open++
			s.State = "open"
		}
	}
}
