package prepare

import (
	"fmt"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/soil"
	"slowroot/core/units"
)

// judgePreparation looks at the order and the cover of the soil.
func (c *prepare) judgePreparation() {
	p := *c.prep
	if c.When.Standing {
		return
	}
	for _, l := range p.Lines {
		if l.Unsorted != "" {
			c.Note(finding.Finding{Rule: "prepare.order", About: &finding.Ref{Kind: "job", ID: l.Key}, Weight: finding.Watch, Step: "prepare", Subject: l.Name,
				Source:   "common practice, no source",
				Sentence: fmt.Sprintf("“%s” has to follow “%s”, and its last day comes before that begins: start “%s” earlier.", l.Name, l.Unsorted, l.Unsorted)})
		}
	}
	if p.BareDays > 60 {
		c.Note(finding.Finding{Rule: "prepare.bare", Weight: finding.Watch, Step: "prepare", Subject: "Bare soil", Source: "common practice, no source",
			Sentence: fmt.Sprintf("The soil lies bare for %d weeks, from %s to %s. Sow a quick cover between, or move the work that bares it closer to planting.",
				p.BareDays/7, p.BareFrom.Words(), p.BareTo.Words())})
	}
	if c.Gas != nil {
		c.Gas.judge(c.Voice)
	}
}

// judgeWorks says what stands in the way of the amendments.
func (c *prepare) judgeWorks(move func(civil.Date) []finding.Remedy) {
	w := c.works
	if l := w.Lime; l != nil && !c.When.Standing {
		if l.Refused != "" {
			c.Note(finding.Finding{Rule: "works.lime-refused", Weight: finding.Mend, Step: "soil", Subject: "Lime", Sentence: "No lime can be reckoned: " + l.Refused +
				".", Source: "method AMD-1"})
		}
		if l.Wanted && l.Disagree > 1.5 {
			c.Note(finding.Finding{Rule: "works.lime-schools", Weight: finding.Know, Step: "soil", Subject: "Lime", Source: "method AMD-1",
				Sentence: fmt.Sprintf("The schools of liming disagree by a factor of %.1f; the plan follows %s. Test again 6 to 12 months after liming.", l.Disagree,
					strings.ReplaceAll(string(l.Taken), "-", " "))})
		}
	}
	if c.When.Standing {
		return
	}
	c.judgeMagnesium()
	for _, a := range w.Items {
		switch {
		case a.Key == "lime" && a.Blocked != "":
			f := finding.Finding{Rule: "works.lime-unanalysed", Weight: finding.Stops, Step: "soil", Subject: a.Product, Source: "method AMD-2",
				Sentence: fmt.Sprintf("%s of pure lime are needed for the block, but of “%s” no rate can be given: %s.", c.Text(a.PureT*1000, units.MassT), a.Product,
					a.Blocked)}
			for _, m := range c.Materials {
				if m.Analysed() && m.Name != a.Product {
					f.Remedies = append(f.Remedies, finding.Remedy{Label: "Take " + m.Name, Patch: map[string]any{"works": map[string]any{"material": m.ID}}})
				}
			}
			c.Note(f)
			continue
		case a.Blocked != "":
			c.Note(finding.Finding{Rule: "works.blocked", About: &finding.Ref{Kind: "amendment", ID: a.Key}, Weight: finding.Mend, Step: "soil", Subject: a.Name,
				Sentence: a.Name + ": " + a.Blocked + ".", Source: a.Source})
			continue
		case a.Guess:
			c.Note(finding.Finding{Rule: "works.guess", Weight: finding.Watch, Step: "soil", Subject: a.Product, Source: "method AMD-2",
				Sentence: fmt.Sprintf("The analysis of “%s” is a guess: the %s rest on it. Have it analysed, heavy metals too, before it is spread.", a.Product,
					c.Text(a.TotalKg, units.MassT))})
		}
		if c.worksLate(a) {
			first := a.Doses[0]
			late := c.worksFree(a)
			c.Note(finding.Finding{Rule: "works.late", About: &finding.Ref{Kind: "amendment", ID: a.Key}, Weight: finding.Mend, Step: "soil", Subject: a.Name,
				Source: "lead times are common practice; the share reached is reckoned in proportion to time, assumed",
				Sentence: fmt.Sprintf("%s (%s) should have begun by %s to act before planting on %s. Beginning on %s: %s.", a.Name, c.Text(a.TotalKg, units.MassT),
					first.From.Words(), c.When.Planting.Words(), c.start().Words(), a.Effect),
				Remedies: move(late)})
		}
	}
}

// worksLate tells whether an amendment that is not done can no longer act in full before planting.
func (c *prepare) worksLate(a Amendment) bool {
	return a.Blocked == "" && a.Reached < 0.995 && len(a.Doses) > 0 && !c.worksDone(a)
}

// worksFree is the first day an amendment begun now has acted in full, or the planting day if that is later.
func (c *prepare) worksFree(a Amendment) civil.Date {
	return civil.Later(c.When.Planting, c.start().AddMonths(a.LeadMonths+(len(a.Doses)-1)*a.gap))
}

// judgeMagnesium compares calcium to magnesium with the 2 to 5 : 1 that is usual, and names the lime that
// mends it (method AMD-2).
func (c *prepare) judgeMagnesium() {
	i, ok := soil.Top(c.Tests)
	l := c.works.Lime
	if !ok || l == nil || !l.Wanted {
		return
	}
	t := c.Tests[i]
	m, have := document.LimingFor(c.Materials, c.Works.Material)
	if t.Ca == nil || t.Mg == nil || *t.Mg <= 0 || !have || !m.Analysed() {
		return
	}
	ratio, want := *t.Ca / *t.Mg, ""
	switch {
	case ratio > 5 && m.Kind() == "calcitic":
		want = "dolomitic"
	case ratio < 2 && m.Kind() == "dolomitic":
		want = "calcitic"
	default:
		return
	}
	f := finding.Finding{Rule: "works.magnesium", Weight: finding.Watch, Step: "soil", Subject: "Magnesium", Source: "method AMD-2, common practice, no source",
		Sentence: fmt.Sprintf("Calcium stands to magnesium as %.1f to 1, 2 to 5 is usual, and %s is %s: a %s lime would mend both.", ratio, m.Name, m.Kind(), want)}
	for _, x := range c.Materials {
		if x.Analysed() && x.Kind() == want {
			f.Remedies = append(f.Remedies, finding.Remedy{Label: "Take " + x.Name, Patch: map[string]any{"works": map[string]any{"material": x.ID}}})
		}
	}
	c.Note(f)
}

// worksDone reports that the first dose of an amendment is spread, or that a person said it is not needed.
func (c *prepare) worksDone(a Amendment) bool {
	job := a.Doses[0].Job
	return !c.done(job).IsZero() || c.notNeeded(job) != ""
}
