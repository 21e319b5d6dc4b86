package plan

import (
	"fmt"

	"slowroot/core/document"
	"slowroot/core/finding"
)

// judgeAnswers raises what the answers raise, and names the questions still open.
func (c *computation) judgeAnswers() {
	if c.inGround() {
		return
	}
	open := 0
	for _, q := range document.Questions {
		a, ok := c.in.Block.Answers[q.Key]
		if !ok {
			open++
			continue
		}
		o, _ := q.Option(a.Answer)
		if o.Weight == "" {
			continue
		}
		s := o.Sentence
		if a.Evidence != "" {
			s += " (" + a.Evidence + ")"
		}
		c.Note(finding.Finding{Rule: "site." + q.Key, Weight: o.Weight, Step: "ground", Subject: q.Asks, Sentence: s, Source: "common practice, no source"})
	}
	if open > 0 && len(c.in.Block.Answers) > 0 {
		c.Note(finding.Finding{Rule: "site.open", Weight: finding.Know, Step: "ground", Subject: "Questions",
			Sentence: fmt.Sprintf("%d of the %d questions of the site %s not answered yet.", open, len(document.Questions), map[bool]string{true: "is",
				false: "are"}[open == 1])})
	}
}
