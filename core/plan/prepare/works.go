package prepare

import (
	"fmt"
	"strings"

	"slowroot/core/amend"
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// Works is what the soil is given before planting.
type Works struct {
	AreaHa    float64     `json:"areaHa"`
	TreatedHa float64     `json:"treatedHa"`
	Share     float64     `json:"share"`
	RowM      float64     `json:"rowM"` // between rows, for strips; 0 where nobody has said
	DepthCm   float64     `json:"depthCm"`
	DensityG  float64     `json:"densityGCm3"`
	Estimated bool        `json:"estimated"` // bulk density from texture, or a usual one
	Lime      *LimeAnswer `json:"lime,omitempty"`
	Items     []Amendment `json:"items"`
}

// LimeAnswer is the lime requirement by every school, with the one taken.
type LimeAnswer struct {
	Needs    []amend.Need `json:"needs"`
	Taken    amend.School `json:"taken"` // "" when none can answer
	Usual    amend.School `json:"usual"`
	PerHaT   float64      `json:"perHaT"` // pure CaCO₃ per treated hectare, by the school taken
	Wanted   bool         `json:"wanted"`
	Why      string       `json:"why"`
	Disagree float64      `json:"disagree"` // largest over smallest
	Refused  string       `json:"refused,omitempty"`
}

// Amendment is one thing the soil is given.
type Amendment struct {
	Key        string   `json:"key"` // lime, sulphur, gypsum, organic or phosphate
	Name       string   `json:"name"`
	Product    string   `json:"product"`
	PerHaKg    float64  `json:"perHaKg"` // product per treated hectare
	TotalKg    float64  `json:"totalKg"` // product for the block
	M3         float64  `json:"m3"`      // of bulky materials, as spread
	PureT      float64  `json:"pureT"`   // lime: t CaCO₃ for the block
	Why        string   `json:"why"`
	Blocked    string   `json:"blocked,omitempty"` // why no rate can be given
	Guess      bool     `json:"guess"`
	Cost       *float64 `json:"cost,omitempty"`
	CostText   string   `json:"costText"`
	Doses      []Dose   `json:"doses"`
	LeadMonths int      `json:"leadMonths"` // until it has acted
	MinMonths  int      `json:"minMonths"`  // the least that helps
	Reached    float64  `json:"reached"`    // share of its effect by planting, with what can still be done
	Effect     string   `json:"effect"`
	Possible   int      `json:"possible"` // applications that still fit before planting
	Caution    string   `json:"caution"`
	Source     string   `json:"source"`
	gap        int      // months between applications
}

// Dose is one application.
type Dose struct {
	Job  string     `json:"job"` // the job it is spread in
	Kg   float64    `json:"kg"`
	From civil.Date `json:"from"`
	By   civil.Date `json:"by"`
}

// works computes the amendments of the crop meant.
func (c *prepare) amend() {
	w := Works{AreaHa: c.Ground.AreaM2 / 1e4, Share: 1, Items: []Amendment{}}
	g, choice := c.topsoil(), c.Works
	if choice.StripM > 0 {
		if f, err := amend.StripFraction(choice.StripM, c.RowSpacingM); err == nil {
			w.Share = f
		} else if c.RowSpacingM == 0 {
			c.Note(finding.Finding{Rule: "works.strip", Weight: finding.Mend, Step: "soil", Subject: "Treated strip",
				Sentence: fmt.Sprintf("A treated strip of %s is wanted, and how far apart the rows will stand is not known: say it beside the strip. Until then the "+
					"whole block is reckoned.", c.Text(choice.StripM, units.Spacing)), Source: "method AMD-6"})
		} else {
			c.Note(finding.Finding{Rule: "works.strip", Weight: finding.Mend, Step: "soil", Subject: "Treated strip",
				Sentence: fmt.Sprintf("A treated strip of %s does not fit rows %s apart; the whole block is reckoned.", c.Text(choice.StripM, units.Spacing),
					c.Text(c.RowSpacingM, units.Spacing)), Source: "method AMD-6"})
		}
	}
	w.RowM = c.RowSpacingM
	w.TreatedHa, w.DepthCm, w.DensityG, w.Estimated = w.AreaHa*w.Share, g.DepthCm, g.Density, g.estimated
	*c.works = w
	if c.Sheet == nil || g.Test == nil {
		return
	}
	add := func(a *Amendment) {
		if a != nil {
			c.works.Items = append(c.works.Items, *a)
		}
	}
	c.works.Lime = g.LimeFor(c.Sheet, amend.School(c.Decided["lime"].Option))
	add(c.lime(choice))
	add(c.sulphur(g, choice))
	add(c.gypsum(g))
	add(c.organic(g, choice))
	c.worksFigures(g)
}

// start is the first day work can begin.
func (c *prepare) start() civil.Date { return civil.Later(c.Today, c.Works.StartOn) }

func (c *prepare) topsoil() Topsoil { return TopsoilOf(c.Pits, c.Tests, c.Works.DepthCm) }

// worksFigures makes the amendments pressable.
func (c *prepare) worksFigures(g Topsoil) {
	for i := range c.works.Items {
		a := &c.works.Items[i]
		if a.Blocked != "" {
			continue
		}
		path := "works." + a.Key
		c.Figure(report.Figure{Path: path, Step: "soil", Label: a.Name, Quantity: units.MassT, Value: a.TotalKg, Origin: working.Computed,
			Note: fmt.Sprintf("%s of %s", c.Text(a.PerHaKg, units.YieldT), a.Product)})
		if !c.On(path) {
			continue
		}
		c.Step(path, "For the block", "rate · area · treated share", fmt.Sprintf("%.2f kg/ha · %.4f ha · %.5f", a.PerHaKg, c.works.AreaHa, c.works.Share), a.TotalKg,
			units.MassT, "method AMD-6", c.Num("area", c.Ground.AreaM2, units.Area, working.Measured, "", "area"))
		if a.Key == "lime" {
			l := c.works.Lime
			for _, n := range l.Needs {
				label := string(n.School)
				if n.School == l.Taken {
					label += ", taken"
				}
				if n.Lack != "" {
					c.Trace.Add(working.Step{Figure: path, Label: label, Kind: working.Rule, Formula: n.Formula, Substituted: "cannot answer: it needs " + n.Lack, Shown: "–",
						Source: n.Source})
					continue
				}
				c.Step(path, label+", pure CaCO₃ per treated hectare", "1000 · "+n.Formula, "1000 · "+n.Substituted, n.TPerHa*1000, units.YieldT, n.Source,
					c.Num("mixed to", c.works.DepthCm, units.Depth, working.Chosen, "", ""))
			}
			m, _ := document.LimingFor(c.Materials, c.Works.Material)
			c.Step(path, "Of "+m.Name, "1000 · pure · 100 / effective value · 100 / (100 − moisture)", fmt.Sprintf("1000 · %.4f · 100 / %.3f · 100 / (100 − %g)",
				l.PerHaT, m.Effective(), m.MoisturePct), a.PerHaKg, units.YieldT, "method AMD-2; analysis: "+m.Source)
		} else {
			c.Step(path, a.Name+" per treated hectare", map[string]string{"sulphur": "table by texture and pH, or 16.03 · drop · buffer capacity · ρ · d",
				"gypsum": "0.000861·ρ·d·CEC·(ESP − 8) / (efficiency · purity)", "organic": "ρ·d·points / (dry · organic · lasting)"}[a.Key],
				a.Why, a.PerHaKg, units.YieldT, a.Source, c.Num("mixed to", c.works.DepthCm, units.Depth, working.Chosen, "", ""), c.Num("bulk density", g.Density,
					units.Density, map[bool]working.Origin{true: working.Assumed, false: working.Measured}[g.estimated], "", ""))
		}
	}
}

// rule says how the days of its applications follow.
func (a Amendment) rule() string {
	s := fmt.Sprintf("%d months before planting, at least %d", a.LeadMonths, a.MinMonths)
	if n := len(a.Doses); n > 1 {
		s = fmt.Sprintf("%d applications %d months apart, the last %s", n, a.gap, s)
	}
	return s
}

// done is the day a job was recorded as done.
func (c *prepare) done(key string) civil.Date { return c.When.Done[key] }

// amendmentTask is the kind of task that spreads an amendment; gypsum is spread as lime is.
var amendmentTask = map[string]string{"lime": "lime", "sulphur": "sulphur", "organic": "manure", "gypsum": "lime"}

// worksJobs dates the amendments. The last dose of a thing the sheet already has a job for goes into that
// job, which takes the dose's days; kinds maps a job to the kind of its task.
func (c *prepare) worksJobs(jobs []report.Job) []report.Job {
	for n := range c.works.Items {
		a := &c.works.Items[n]
		for k := range a.Doses {
			d := &a.Doses[k]
			detail := fmt.Sprintf("%s of %s for the block, %s on the treated ground, mixed to %s", c.Text(d.Kg, units.MassT), a.Product,
				c.Text(a.PerHaKg/float64(len(a.Doses)), units.YieldT), c.Text(c.works.DepthCm, units.Depth))
			if a.M3 > 0 {
				detail += fmt.Sprintf(" (%s)", c.Text(a.M3/float64(len(a.Doses)), units.Earth))
			}
			if i := sheetJob(jobs, a.Key); k == len(a.Doses)-1 && i >= 0 {
				j := &jobs[i]
				j.Detail, j.From, j.By, j.Rule, j.Tonnes = detail+". "+report.Capital(j.Detail), d.From, d.By, a.rule(), d.Kg/1000
				j.Passed = j.Done.IsZero() && j.NotNeeded == "" && d.By.Before(c.Today)
				d.Job = j.Key
				continue
			}
			key := fmt.Sprintf("works-%s-%d", a.Key, k+1)
			name := a.Name
			if len(a.Doses) > 1 {
				name += fmt.Sprintf(", application %d of %d", k+1, len(a.Doses))
			}
			d.Job = key
			jobs = append(jobs, c.When.Preparation(report.Job{Said: report.Said{Name: name, Phase: "soil", Why: a.Why, Caution: a.Caution, Rule: a.rule(),
				Origin: a.Source},
				Key: key, Kind: amendmentTask[a.Key], From: d.From, By: d.By, Detail: detail, Tonnes: d.Kg / 1000}))
		}
	}
	if c.works.Lime == nil {
		return jobs
	}
	for i := range jobs {
		has := false
		for _, a := range c.works.Items {
			has = has || amendmentTask[a.Key] == jobs[i].Kind
		}
		if k := jobs[i].Kind; !has && (k == "lime" || k == "sulphur") {
			jobs[i].Detail = "By the soil test none is needed. " + report.Capital(jobs[i].Detail)
		}
	}
	return jobs
}

// sheetJob is the job of the sheet that spreads an amendment, −1 where it has none.
func sheetJob(jobs []report.Job, amendment string) int {
	for i := range jobs {
		if amendment != "gypsum" && !strings.HasPrefix(jobs[i].Key, "works-") && jobs[i].Kind == amendmentTask[amendment] {
			return i
		}
	}
	return -1
}

// dosesOf gives each dose the days of the job it is spread in, so that one dose has one date everywhere.
func (c *prepare) dosesOf(jobs []report.Job) {
	at := make(map[string]*report.Job, len(jobs))
	for i := range jobs {
		at[jobs[i].Key] = &jobs[i]
	}
	for n := range c.works.Items {
		for k := range c.works.Items[n].Doses {
			d := &c.works.Items[n].Doses[k]
			if j := at[d.Job]; j != nil {
				d.From, d.By = j.From, j.By
			}
		}
	}
}

// notNeeded is why a person said that a job is not needed here, "" where nobody did.
func (c *prepare) notNeeded(key string) string {
	return c.When.NotNeeded[key]
}
