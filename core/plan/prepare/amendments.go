package prepare

import (
	"fmt"
	"math"

	"slowroot/core/amend"
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/practice"
	"slowroot/core/report"
)

// lead is the sheet's own lead for a kind of task, where it has one.
func (c *prepare) lead(kind string, better, least int) (int, int) {
	for _, o := range c.Sheet.Work {
		if o.Task != nil && o.Task.Kind == kind && o.Before == "planting" && o.If.Holds(c.Choices) {
			if o.Better.Unit == "mo" && o.Min.Unit == "mo" {
				return o.Better.N, o.Min.N
			}
		}
	}
	return better, least
}

// finish fills in doses, cost and what a late start still reaches. gap is months between applications.
func (c *prepare) finish(a *Amendment, n, gap int, price string, quantity float64) {
	a.TotalKg = a.PerHaKg * c.works.TreatedHa
	a.gap, a.Doses = gap, []Dose{}
	d := c.When.Planting
	for k := range n {
		back := gap * (n - 1 - k)
		a.Doses = append(a.Doses, Dose{Kg: a.TotalKg / float64(n), From: d.AddMonths(-a.LeadMonths - back), By: d.AddMonths(-a.MinMonths - back)})
	}
	a.CostText = "no price"
	if each, ok := c.PriceOf(price); ok {
		cost := each * quantity
		if machine, ok := c.PriceOf("machine"); ok {
			h, _ := practice.Tasks["lime"].Hours(practice.Amount{Ha: c.works.AreaHa * float64(n), Tonnes: a.TotalKg / 1000})
			cost += machine * h[1]
		}
		a.Cost, a.CostText = &cost, c.Money(cost)
	}
	// what can still be done: applications from the start on, each acting in proportion to its months
	start := c.start()
	a.Possible = 0
	a.Reached = 0
	for k, dose := range a.Doses {
		on := civil.Later(dose.From, start.AddMonths(gap*k))
		if !start.After(dose.From) {
			on = dose.From
		}
		months := float64(d.Sub(on)) / 30.44
		if on.After(d.AddMonths(-a.MinMonths)) {
			continue
		}
		a.Possible++
		a.Reached += math.Min(1, months/float64(a.LeadMonths)) / float64(n)
	}
	if c.When.Standing {
		a.Doses, a.Possible, a.Reached = []Dose{}, 0, 0
		a.Effect = "the plants stand: it can only be spread on the surface now, a little at a time"
	}
}

func (c *prepare) lime(choice document.WorksChoice) *Amendment {
	l := c.works.Lime
	if l == nil || l.Refused != "" || !l.Wanted {
		return nil
	}
	a := &Amendment{Key: "lime", Name: "Lime", Why: l.Why, Caution: "Dust harms eyes and lungs: goggles and mask. Quicklime burns skin and eyes.",
		Source: "method AMD-1, AMD-2"}
	a.PureT = l.PerHaT * c.works.TreatedHa
	a.LeadMonths, a.MinMonths = c.lead("lime", 6, 3)
	m, ok := document.LimingFor(c.Materials, choice.Material)
	switch {
	case !ok:
		a.Product, a.Blocked = "no liming material is entered", "enter what is at hand, with its analysis, in Stores"
	case !m.Analysed():
		a.Product, a.Blocked = m.Name, "it is not analysed: neutralising value and fineness are needed before a rate can be given"
	}
	if a.Blocked != "" {
		a.CostText, a.Doses, a.Effect = "no price", []Dose{}, ""
		return a
	}
	a.Product, a.Guess = m.Name, m.Guess
	a.PerHaKg = 1000 * m.Product(l.PerHaT)
	c.finish(a, amend.Split(a.PerHaKg/1000, amend.MostMixedIn), 6, "lime:"+m.ID, a.PerHaKg/1000*c.works.TreatedHa)
	if a.Effect == "" {
		a.Effect = c.effect(a, "the pH")
	}
	return a
}

// effect says in words what planting will find.
func (c *prepare) effect(a *Amendment, what string) string {
	switch {
	case a.Possible == 0:
		return fmt.Sprintf("nothing that is spread from %s on acts before planting", c.start().Words())
	case a.Reached < 0.995:
		return fmt.Sprintf("%d of %s still fit before planting; about %.0f %% of the change in %s is reached by then", a.Possible, report.Count(len(a.Doses),
			"application"), 100*a.Reached, what)
	}
	return "acts in full before planting"
}

func (c *prepare) sulphur(g Topsoil, choice document.WorksChoice) *Amendment {
	kg, drop, source, refused := g.SulphurFor(c.Sheet, choice.BufferCap)
	if drop <= 0 {
		return nil
	}
	a := &Amendment{Key: "sulphur", Name: "Sulphur", Product: "elemental sulphur", PerHaKg: kg, Source: "method AMD-3; " + source, CostText: "no price",
		Doses:   []Dose{},
		Why:     fmt.Sprintf("pH %.1f, at most %.1f is wanted", *g.Ph, *g.Ph-drop),
		Caution: c.Marked("Dust can explode and irritates: no smoking, mask and goggles. It works only in warm (over {13 °C}), moist soil.")}
	if refused != "" {
		a.Blocked = refused
		return a
	}
	a.LeadMonths, a.MinMonths = c.lead("sulphur", amend.SulphurMonths(drop), 6)
	a.LeadMonths = max(a.LeadMonths, amend.SulphurMonths(drop))
	n := max(1, int(math.Ceil(kg/amend.MostSulphur(g.Class.Group())-1e-9)))
	c.finish(a, n, 3, "sulphur", kg*c.works.TreatedHa)
	if a.Effect == "" {
		a.Effect = c.effect(a, "the pH")
	}
	return a
}

func (c *prepare) gypsum(g Topsoil) *Amendment {
	esp, ok := g.Test.ESP()
	if !ok || esp <= 10 {
		return nil
	}
	cec, _ := g.Test.CECAt7()
	a := &Amendment{Key: "gypsum", Name: "Gypsum", Product: "gypsum, 90 % pure",
		Why: fmt.Sprintf("sodium holds %.0f %% of the exchange capacity, 8 %% is the aim", esp), LeadMonths: 6, MinMonths: 3, CostText: "no price", Doses: []Dose{},
		Caution: "Dust: mask and goggles. It does nothing without drainage and water to leach the sodium: 0.4 to 0.5 m³ for each kg.",
		Source:  "USDA Handbook 60, 1954; efficiency 0.8 assumed"}
	ph := 0.0
	if g.Ph != nil {
		ph = *g.Ph
	}
	t, err := amend.Gypsum(cec, esp, 8, g.Density, g.DepthCm, 0.8, 0.9, ph)
	if err != nil {
		a.Blocked = "gypsum does not raise pH: on this acid soil the sodium needs looking at with an adviser"
		return a
	}
	a.PerHaKg = 1000 * t
	c.finish(a, 1, 6, "gypsum", t*c.works.TreatedHa)
	if a.Effect == "" {
		a.Effect = c.effect(a, "the sodium")
	}
	return a
}

func (c *prepare) organic(g Topsoil, choice document.WorksChoice) *Amendment {
	target := choice.OMTarget
	if target == 0 {
		target = c.Sheet.IdealLow("omPct")
	}
	if g.Om == nil || math.IsNaN(target) || target == 0 || *g.Om >= target-0.05 {
		return nil
	}
	id := choice.Organic
	if id == "" {
		id = "compost"
	}
	o, ok := amend.OrganicNamed(id)
	if !ok {
		o, _ = amend.OrganicNamed("compost")
	}
	a := &Amendment{Key: "organic", Name: "Organic matter", Product: o.Name, Why: fmt.Sprintf("%.1f %% organic matter, %.1f %% is wanted", *g.Om, target),
		Doses: []Dose{}, CostText: "no price",
		Caution: "Gloves and clean hands with manure; never fresh on fruit near the ground. Its nitrogen counts against the yearly limit.",
		Source:  "method AMD-5, shares are common practice"}
	fresh, err := o.Fresh(amend.OrganicMatter(target-*g.Om, g.Density, g.DepthCm))
	if err != nil {
		a.Blocked = err.Error()
		return a
	}
	a.PerHaKg = 1000 * fresh
	a.LeadMonths, a.MinMonths = c.lead("manure", 3, 1)
	c.finish(a, amend.Split(fresh, amend.MostFresh), 6, "organic:"+o.ID, fresh*c.works.TreatedHa)
	a.M3 = a.TotalKg / 1000 / o.TPerM3
	if fresh > amend.MostFresh {
		a.Why += c.Marked(fmt.Sprintf("; {%.0f t/ha} is more than one dressing bears ({%d t/ha}): raise it over years, or treat strips only", fresh, amend.MostFresh))
	}
	if a.Effect == "" {
		a.Effect = c.effect(a, "organic matter")
	}
	return a
}
