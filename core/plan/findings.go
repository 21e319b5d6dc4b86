package plan

import (
	"fmt"
	"sort"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/prepare"
	"slowroot/core/plan/work"
	"slowroot/core/practice"
	"slowroot/core/units"
)

// findings judges the plan. Each rule looks at figures already computed; none computes again.
func (c *computation) findings() {
	c.judgeGround()
	c.judgeAnswers()
	c.judgeSoil()
	c.p.Drains.Judge(c.drainsIn(), c.Voice)
	if c.sheet != nil {
		prepare.Judge(c.prepareIn(), c.Voice, &c.p.Works, &c.p.Preparation, c.moveTo)
	}
	if c.planting != nil {
		c.rows.Judge(c.rowsIn(), c.Voice)
		if !c.inGround() {
			c.order.Judge(c.Voice)
		}
		work.Judge(c.workIn(), c.p.Jobs, c.Voice)
		c.crop.Judge(c.cropIn(), c.Voice)
		c.judgeAgreement()
		if !c.in.Brief && !c.inGround() {
			c.rows.Limits(c.in.fit(), c.sheet.Name, c.Voice)
		}
	}
	sort.SliceStable(c.Findings, func(i, j int) bool { return c.Findings[i].Weight.Rank() < c.Findings[j].Weight.Rank() })
}

// planting is a merge patch of one field of the planting.
func planting(field string, v any) map[string]any {
	return map[string]any{"planting": map[string]any{field: v}}
}

// judgeAgreement compares what was accepted with what is said now.
func (c *computation) judgeAgreement() {
	p := c.planting
	if c.in.NewSheet != nil {
		c.Note(finding.Finding{Rule: "sheet.newer", Weight: finding.Know, Step: "plants", Subject: "Practice sheet", Source: "",
			Sentence: fmt.Sprintf("The library holds another version of the sheet of %s than the one this plan was adopted with. Nothing moves until it is taken over.",
				c.sheet.Name),
			Remedies: []finding.Remedy{{Label: "Take over the library's sheet", Patch: planting("sheetDigest", nil)}}})
	}
	if c.p.Stage == document.Adopted && p.BaseDate.Compare(p.Date) != 0 {
		c.Note(finding.Finding{Rule: "schedule.moved", Weight: finding.Watch, Step: "plants", Subject: "Planting date", Source: "",
			Sentence: fmt.Sprintf("Adopted on %s for planting on %s; it is now planned for %s, %s.", p.AdoptedOn.Words(), p.BaseDate.Words(), p.Date.Words(),
				days(p.Date.Sub(p.BaseDate))),
			Remedies: []finding.Remedy{{Label: "Back to " + p.BaseDate.Words(), Patch: planting("date", p.BaseDate.String())}}})
	}
	c.rows.Agree(c.rowsIn(), c.Voice)
}

func days(n int) string {
	word := "later"
	if n < 0 {
		n, word = -n, "earlier"
	}
	if n == 1 {
		return "1 day " + word
	}
	return fmt.Sprintf("%d days %s", n, word)
}

// steps says of each step of the descent whether it is untouched, has open forks, or is settled.
func (c *computation) steps() {
	for _, step := range practice.Descent {
		key := step.Key
		s := Step{Key: key, Name: step.Name, Group: step.Group, State: "untouched"}
		switch {
		case key == "ground":
			s.State = "settled"
		case key == "soil":
			if len(c.in.Block.Pits)+len(c.in.Block.Tests) > 0 {
				s.State = "settled"
			}
			c.openGround(&s)
		case key == "drains":
			if c.p.Drains.Started || len(c.in.Block.Pits) > 0 && !c.p.Drains.Needed {
				s.State = "settled"
			}
			c.openGround(&s)
		case key == "fit":
			if len(c.in.Block.Pits) > 0 && len(c.in.Block.Tests) > 0 {
				s.State = "settled"
			}
		case key == "prepare":
			if len(c.p.Preparation.Lines) > 0 {
				s.State = "settled"
			}
			c.openGround(&s)
		case c.planting != nil:
			s.State = "settled"
			if key == "record" && !c.inGround() && len(c.book.Held) == 0 {
				s.State = "untouched"
			}
			if !c.inGround() {
				for _, f := range c.sheet.AllForks() {
					if _, decided := c.planting.Choices[f.ID]; f.Step == key && !decided && f.If.Holds(c.p.Choices) {
						s.Open++
						s.State = "open"
					}
				}
			}
		}
		for _, f := range c.Findings {
			if f.Step == key && f.Weight != finding.Know {
				s.Notes++
			}
		}
		c.p.Steps = append(c.p.Steps, s)
	}
}

// judgeGround says what is known of the ground, and that nothing is planned on it where that is so.
func (c *computation) judgeGround() {
	if c.planting == nil {
		c.Note(finding.Finding{Rule: "ground.undecided", Weight: finding.Know, Step: "plants", Subject: c.in.Block.Name,
			Sentence: fmt.Sprintf("Nothing stands or is planned on these %s. %s", c.Text(c.ground.AreaM2, units.Area), c.undecided())})
	}
	crop := ground.Crop{Standing: c.inGround()}
	if c.sheet != nil {
		crop.Name, crop.EarlyBloom = c.sheet.Name, c.sheet.Traits.EarlyBloom
	}
	if c.planting != nil && !c.inGround() {
		crop.BearingDeg = &c.p.Spec.BearingDeg
	}
	c.ground.Judge(c.groundIn(), crop, c.Voice)
}

// groundIn is what the ground is measured from.
func (c *computation) groundIn() ground.In {
	b := c.in.Block
	return ground.In{Boundary: b.Boundary, Surveyed: b.Surveyed, AccuracyM: b.AccuracyM, Land: c.in.Land, LandProblem: c.in.LandProblem}
}

// undecided says what would give a whole plan.
func (c *computation) undecided() string {
	switch {
	case c.sheet == nil:
		return "Choose a crop to see a whole plan."
	case !c.sheet.Whole():
		return fmt.Sprintf("%s is considered; its sheet does not say yet how it is laid out and kept.", c.sheet.Name)
	}
	return fmt.Sprintf("%s is considered; plan it to see rows, plants, care and crop.", c.sheet.Name)
}
