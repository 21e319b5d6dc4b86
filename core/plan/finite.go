package plan

import (
	"fmt"

	"slowroot/core/finding"
	"slowroot/core/finite"
)

// finite makes sure that no number of the plan is not finite. A figure that came out as none says that it cannot be
// computed; every other such number is left at nought; and a finding of the part it belongs to says that this happened,
// so that the rest of the plan stands and nobody reads the nought as a fact.
func (c *computation) finite() {
	p := c.p
	spoilt := map[string]bool{}
	for i := range c.Figures {
		f := &c.Figures[i]
		if finite.Bad(f.Value) || finite.Bad(f.Low) || finite.Bad(f.High) {
			f.Value, f.Low, f.High, f.Ranged, f.Text = 0, 0, 0, false, "cannot be computed"
			spoilt[f.Label] = true
			c.uncomputed(f.Step, f.Label)
		}
	}
	for _, part := range []struct {
		step, what string
		of         any
	}{{"ground", "The ground", &p.Ground}, {"soil", "The soil", &p.Soil}, {"soil", "What the soil is given", &p.Works}, {"drains", "The drains", p.Drains},
		{"prepare", "The preparation", &p.Preparation},
		{"plants", "What the work takes", &p.Supplies}, {"plants", "The bill", &p.Bill}, {"rows", "What stands beside the rows", &p.Beside},
		{"rows", "The rows", &p.Rows}, {"rows", "The spacing", &p.Spec}, {"yield", "The years", &p.Years}} {
		if finite.Zero(part.of) && !spoilt[part.what] {
			c.uncomputed(part.step, part.what)
		}
	}
}

func (c *computation) uncomputed(step, what string) {
	c.Findings = append(c.Findings, finding.Finding{Rule: "plan.not-finite." + step + "." + what, Weight: finding.Mend, Step: step, Subject: what,
		Remedies: []finding.Remedy{}, Source: "the program",
		Sentence: fmt.Sprintf("%s cannot be computed from what is entered: a number came out that is none. The rest of the plan stands; look at what was "+
			"entered last here.", what)})
}
