package crop

import (
	"fmt"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/nutrition"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// elements are how what a crop carries off is written.
var elements = map[string]string{"n": "N", "p": "P", "k": "K"}

// fullest is the year of the largest crop, and what is fed in the years whose growth it takes, kg/ha by nutrient.
func (r Result) fullest(in In) (y *Year, fed nutrition.Amounts) {
	for i := range r.Years {
		if y == nil || r.Years[i].PerHa.Base > y.PerHa.Base {
			y = &r.Years[i]
		}
	}
	fed = nutrition.Amounts{}
	if y == nil {
		return nil, fed
	}
	years := 1
	if rot := in.Grown.Harvest.Rotation; rot != nil {
		years = rot.Every
	}
	for age := max(1, y.Age-years+1); age <= y.Age; age++ {
		for k, v := range r.Years[age-1].FeedPerHa {
			fed[k] += v
		}
	}
	return y, fed
}

// removal are the figures of what a full crop carries off, beside what is given for it (method N3 B).
func (r Result) removal(in In, say *report.Voice) {
	y, fed := r.fullest(in)
	if in.Grown.Removal == nil || y == nil || y.PerHa.Base <= 0 {
		return
	}
	for _, b := range in.Grown.Removal.Balances(fed, y.PerHa.Base) {
		name, path := elements[b.Element], "care.out."+b.Element
		c := in.Grown.Removal.PerT[b.Element]
		say.Figure(report.Figure{Path: path, Step: "care", Label: "Carried off by a full crop, " + name, Quantity: units.Rate, Value: b.Out,
			Low: c[0] * y.PerHa.Base / 1000, High: c[2] * y.PerHa.Base / 1000, Ranged: true, Origin: working.Computed,
			Note: fmt.Sprintf("in %s; %s given", y.Label, say.Text(b.Given, units.Rate))})
		if say.On(path) {
			say.Step(path, name+" carried off, per planted hectare", "crop × content / 1000", fmt.Sprintf("%.4f × %g / 1000", y.PerHa.Base, c[1]), b.Out, units.Rate,
				"method N3 B; "+practice.OriginWords(in.Grown.Removal.Origin), say.Num("full crop", y.PerHa.Base, in.Grown.YieldAs, working.Computed, y.Label, ""),
				working.Input{Name: name + " in " + in.Grown.Removal.Of, Shown: fmt.Sprintf("%g kg/t (%g to %g)", c[1], c[0], c[2]), Origin: working.Sheet})
			say.Step(path, name+" given for it", "Σ fed, oxides as the element", fmt.Sprintf("%.2f", b.Given), b.Given, units.Rate,
				"method N1: standard atomic weights, IUPAC 2021")
		}
	}
}

// fed says whether a full crop is given what it carries off.
func (r Result) fed(in In, say *report.Voice) {
	y, fed := r.fullest(in)
	if in.Grown.Removal == nil || y == nil || y.PerHa.Base <= 0 {
		return
	}
	var out, given, short []string
	for _, b := range in.Grown.Removal.Balances(fed, y.PerHa.Base) {
		name := elements[b.Element]
		out, given = append(out, say.Text(b.Out, units.Rate)+" "+name), append(given, say.Text(b.Given, units.Rate)+" "+name)
		if b.Given < 0.95*b.Out {
			short = append(short, name)
		}
	}
	f := finding.Finding{Rule: "feed.removal", Weight: finding.Know, Step: "care", Subject: "Carried off and given", Source: "methods N1, N3 B; " +
		practice.OriginWords(in.Grown.Removal.Origin),
		Sentence: fmt.Sprintf("A full crop of %s carries off %s; %s are given for it.", in.Grown.Removal.Of, strings.Join(out, ", "), strings.Join(given, ", "))}
	if len(short) > 0 {
		f.Rule, f.Weight = "feed.below-removal", finding.Watch
		f.Sentence += fmt.Sprintf(" Of %s less is given than leaves: the ground, manure or what is returned must make up for it, or the soil test will fall.",
			strings.Join(short, " and "))
	}
	say.Note(f)
}

// disagreements are where practice contradicts itself about this crop, as far as it concerns what was chosen.
func (in In) disagreements(say *report.Voice) {
	for _, d := range in.Grown.Sheet.Disagrees {
		if d.If.Holds(in.Grown.Choices) {
			say.Note(finding.Finding{Rule: "practice.disagrees", About: &finding.Ref{Kind: "practice", ID: d.ID}, Weight: finding.Know, Step: d.Step, Subject: d.Item,
				Sentence: "Practice contradicts itself, " + report.LowerFirst(d.Item) + ": " + d.Value + ".", Source: practice.OriginWords(d.Origin)})
		}
	}
}
