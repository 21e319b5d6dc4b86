package prepare

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/amend"
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/soil"
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

// topsoil is what amendments are computed from: one topsoil test and the soil it stands for.
type Topsoil struct {
	Test      *soil.Test
	Ph        *float64 // in water
	Class     soil.Class
	clay      float64
	Density   float64
	estimated bool
	DepthCm   float64
	Om        *float64
}

func TopsoilOf(pits []soil.Pit, tests []soil.Test, depthCm float64) Topsoil {
	g := Topsoil{Density: 1.3, estimated: true, DepthCm: 20, Class: soil.Loam, clay: 20}
	if len(pits) > 0 {
		l := pits[0].Layers[0]
		var f soil.Fractions
		g.Class, f, _ = l.Texture()
		g.clay = f.ClayPct
		if w, err := l.Water(); err == nil {
			g.Density = w.DensityGCm3
		}
		if l.DensityG > 0 {
			g.Density, g.estimated = l.DensityG, false
		}
		if l.OMPct > 0 {
			om := l.OMPct
			g.Om = &om
		}
	}
	if depthCm > 0 {
		g.DepthCm = depthCm
	}
	i, ok := soil.Top(tests)
	if !ok {
		return g
	}
	t := tests[i]
	g.Test = &t
	if ph, _, ok := t.PHWater(); ok {
		g.Ph = &ph
	}
	if t.OMPct != nil {
		g.Om = t.OMPct
	}
	if t.SandPct != nil && t.SiltPct != nil && t.ClayPct != nil {
		if cl, err := soil.Classify(soil.Fractions{SandPct: *t.SandPct, SiltPct: *t.SiltPct, ClayPct: *t.ClayPct}); err == nil {
			g.Class, g.clay = cl, *t.ClayPct
		}
	} else if t.ClayPct != nil {
		g.clay = *t.ClayPct
	}
	return g
}

// limeFor answers the lime requirement of a crop on this ground. Charges of the report per kg are turned
// to per dm³ with the bulk density. nil means no test.
func (g Topsoil) LimeFor(s *practice.Sheet, school amend.School) *LimeAnswer {
	if g.Test == nil || s.Soil.TargetPH == 0 {
		return nil
	}
	perDM3 := func(v *float64) *float64 {
		if v == nil {
			return nil
		}
		x := *v * g.Density
		return &x
	}
	keep := func(v float64, ok bool) *float64 {
		if !ok {
			return nil
		}
		return &v
	}
	t := g.Test
	lc := amend.LimeCase{PH: g.Ph, TargetPH: s.Soil.TargetPH, BufferPH: t.BufferPH, BufferMethod: t.BufferMethod, CEC: perDM3(keep(t.CECAt7())), BasePct: keep(t.BaseSaturation()),
		TargetBase: s.Soil.TargetBasePct, Al: perDM3(t.Al), AlTolerated: s.Soil.AlToleratedPct, CaMgWanted: s.Soil.CaMgWanted, ClayPct: g.clay, TextureGroup: g.Class.Group(), DepthCm: g.DepthCm}
	if g.Om != nil {
		lc.OMPct = *g.Om
	}
	if t.Ca != nil && t.Mg != nil {
		sum := *t.Ca + *t.Mg
		lc.CaMg = perDM3(&sum)
		if b, ok := t.Bases(); ok && t.Al != nil {
			e := b + *t.Al
			lc.ECEC = perDM3(&e)
		}
	}
	a := &LimeAnswer{Needs: []amend.Need{}, Disagree: 1}
	needs, err := amend.Lime(lc)
	if err != nil {
		a.Refused = err.Error()
		return a
	}
	a.Needs, a.Usual, a.Disagree = needs, amend.Preferred(needs), amend.Disagreement(needs)
	a.Taken = a.Usual
	for _, n := range needs {
		if n.School == school && n.Lack == "" {
			a.Taken = school
		}
	}
	for _, n := range needs {
		if n.School == a.Taken {
			a.PerHaT = n.TPerHa
		}
	}
	ideal := s.IdealLow("ph")
	switch {
	case a.Taken == "":
		a.Why = "the test does not hold what any school needs"
	case a.PerHaT < 0.1:
		a.Why = "none is needed"
		for _, n := range needs {
			if n.School == a.Taken && n.Why != "" {
				a.Why = "none is needed: " + n.Why
			}
		}
	case g.Ph != nil && !math.IsNaN(ideal) && *g.Ph >= ideal && s.Soil.AcidLover:
		a.Why = fmt.Sprintf("%s loves acid soil and pH %.1f lies in its range: no lime, and no school is asked", report.LowerFirst(s.Name), *g.Ph)
	case g.Ph != nil && *g.Ph >= s.Soil.TargetPH:
		a.Why = fmt.Sprintf("pH %.1f has reached the %.1f wanted", *g.Ph, s.Soil.TargetPH)
	default:
		a.Wanted = true
		if g.Ph != nil {
			a.Why = fmt.Sprintf("pH %.1f, %.1f is wanted", *g.Ph, s.Soil.TargetPH)
		} else {
			a.Why = "the test asks for it"
		}
	}
	return a
}

// sulphurFor is kg/ha of sulphur to bring the pH down to the crop's range, and its source; zero when the
// pH needs no lowering. refused says why it cannot be done.
func (g Topsoil) SulphurFor(s *practice.Sheet, capacity float64) (kgPerHa, drop float64, source, refused string) {
	if g.Ph == nil {
		return 0, 0, "", ""
	}
	high := s.IdealHigh("ph")
	if math.IsNaN(high) || *g.Ph <= high {
		return 0, 0, "", ""
	}
	target := math.Max(4.5, high)
	drop = *g.Ph - target
	if g.Test.LimePct != nil && *g.Test.LimePct > 1 {
		return 0, drop, "", fmt.Sprintf("the soil holds %.1f %% free lime, which would eat %.0f kg/ha of sulphur first: do not acidify, choose another crop or containers", *g.Test.LimePct, amend.SulphurForLime(*g.Test.LimePct, g.Density, g.DepthCm))
	}
	if capacity > 0 {
		return amend.SulphurByBuffer(drop, capacity, g.Density, g.DepthCm), drop, "buffer capacity as measured", ""
	}
	kg, err := amend.SulphurByTable(*g.Ph, math.Min(target, 6.5), g.Class.Group())
	if err != nil {
		return 0, drop, "", fmt.Sprintf("pH %.1f lies beyond the table: measure the buffer capacity, or choose another crop", *g.Ph)
	}
	return kg * g.DepthCm / 15, drop, "texture table, from memory: US fertiliser handbook and small-fruit guides", ""
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
				Sentence: fmt.Sprintf("A treated strip of %s is wanted, and how far apart the rows will stand is not known: say it beside the strip. Until then the whole block is reckoned.", c.Text(choice.StripM, units.Spacing)), Source: "method AMD-6"})
		} else {
			c.Note(finding.Finding{Rule: "works.strip", Weight: finding.Mend, Step: "soil", Subject: "Treated strip",
				Sentence: fmt.Sprintf("A treated strip of %s does not fit rows %s apart; the whole block is reckoned.", c.Text(choice.StripM, units.Spacing), c.Text(c.RowSpacingM, units.Spacing)), Source: "method AMD-6"})
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
	a := &Amendment{Key: "lime", Name: "Lime", Why: l.Why, Caution: "Dust harms eyes and lungs: goggles and mask. Quicklime burns skin and eyes.", Source: "method AMD-1, AMD-2"}
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
		return fmt.Sprintf("%d of %s still fit before planting; about %.0f %% of the change in %s is reached by then", a.Possible, report.Count(len(a.Doses), "application"), 100*a.Reached, what)
	}
	return "acts in full before planting"
}

func (c *prepare) sulphur(g Topsoil, choice document.WorksChoice) *Amendment {
	kg, drop, source, refused := g.SulphurFor(c.Sheet, choice.BufferCap)
	if drop <= 0 {
		return nil
	}
	a := &Amendment{Key: "sulphur", Name: "Sulphur", Product: "elemental sulphur", PerHaKg: kg, Source: "method AMD-3; " + source, CostText: "no price", Doses: []Dose{},
		Why: fmt.Sprintf("pH %.1f, at most %.1f is wanted", *g.Ph, *g.Ph-drop), Caution: c.Marked("Dust can explode and irritates: no smoking, mask and goggles. It works only in warm (over {13 °C}), moist soil.")}
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
	a := &Amendment{Key: "gypsum", Name: "Gypsum", Product: "gypsum, 90 % pure", Why: fmt.Sprintf("sodium holds %.0f %% of the exchange capacity, 8 %% is the aim", esp), LeadMonths: 6, MinMonths: 3, CostText: "no price", Doses: []Dose{},
		Caution: "Dust: mask and goggles. It does nothing without drainage and water to leach the sodium: 0.4 to 0.5 m³ for each kg.", Source: "USDA Handbook 60, 1954; efficiency 0.8 assumed"}
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
	a := &Amendment{Key: "organic", Name: "Organic matter", Product: o.Name, Why: fmt.Sprintf("%.1f %% organic matter, %.1f %% is wanted", *g.Om, target), Doses: []Dose{}, CostText: "no price",
		Caution: "Gloves and clean hands with manure; never fresh on fruit near the ground. Its nitrogen counts against the yearly limit.", Source: "method AMD-5, shares are common practice"}
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

// worksFigures makes the amendments pressable.
func (c *prepare) worksFigures(g Topsoil) {
	for i := range c.works.Items {
		a := &c.works.Items[i]
		if a.Blocked != "" {
			continue
		}
		path := "works." + a.Key
		c.Figure(report.Figure{Path: path, Step: "soil", Label: a.Name, Quantity: units.MassT, Value: a.TotalKg, Origin: working.Computed, Note: fmt.Sprintf("%s of %s", c.Text(a.PerHaKg, units.YieldT), a.Product)})
		if !c.On(path) {
			continue
		}
		c.Step(path, "For the block", "rate · area · treated share", fmt.Sprintf("%.2f kg/ha · %.4f ha · %.5f", a.PerHaKg, c.works.AreaHa, c.works.Share), a.TotalKg, units.MassT, "method AMD-6", c.Num("area", c.Ground.AreaM2, units.Area, working.Measured, "", "area"))
		if a.Key == "lime" {
			l := c.works.Lime
			for _, n := range l.Needs {
				label := string(n.School)
				if n.School == l.Taken {
					label += ", taken"
				}
				if n.Lack != "" {
					c.Trace.Add(working.Step{Figure: path, Label: label, Kind: working.Rule, Formula: n.Formula, Substituted: "cannot answer: it needs " + n.Lack, Shown: "–", Source: n.Source})
					continue
				}
				c.Step(path, label+", pure CaCO₃ per treated hectare", "1000 · "+n.Formula, "1000 · "+n.Substituted, n.TPerHa*1000, units.YieldT, n.Source, c.Num("mixed to", c.works.DepthCm, units.Depth, working.Chosen, "", ""))
			}
			m, _ := document.LimingFor(c.Materials, c.Works.Material)
			c.Step(path, "Of "+m.Name, "1000 · pure · 100 / effective value · 100 / (100 − moisture)", fmt.Sprintf("1000 · %.4f · 100 / %.3f · 100 / (100 − %g)", l.PerHaT, m.Effective(), m.MoisturePct), a.PerHaKg, units.YieldT, "method AMD-2; analysis: "+m.Source)
		} else {
			c.Step(path, a.Name+" per treated hectare", map[string]string{"sulphur": "table by texture and pH, or 16.03 · drop · buffer capacity · ρ · d", "gypsum": "0.000861·ρ·d·CEC·(ESP − 8) / (efficiency · purity)", "organic": "ρ·d·points / (dry · organic · lasting)"}[a.Key],
				a.Why, a.PerHaKg, units.YieldT, a.Source, c.Num("mixed to", c.works.DepthCm, units.Depth, working.Chosen, "", ""), c.Num("bulk density", g.Density, units.Density, map[bool]working.Origin{true: working.Assumed, false: working.Measured}[g.estimated], "", ""))
		}
	}
}

// judgeWorks says what stands in the way of the amendments.
func (c *prepare) judgeWorks(move func(civil.Date) []finding.Remedy) {
	w := c.works
	if l := w.Lime; l != nil && !c.When.Standing {
		if l.Refused != "" {
			c.Note(finding.Finding{Rule: "works.lime-refused", Weight: finding.Mend, Step: "soil", Subject: "Lime", Sentence: "No lime can be reckoned: " + l.Refused + ".", Source: "method AMD-1"})
		}
		if l.Wanted && l.Disagree > 1.5 {
			c.Note(finding.Finding{Rule: "works.lime-schools", Weight: finding.Know, Step: "soil", Subject: "Lime", Source: "method AMD-1",
				Sentence: fmt.Sprintf("The schools of liming disagree by a factor of %.1f; the plan follows %s. Test again 6 to 12 months after liming.", l.Disagree, strings.ReplaceAll(string(l.Taken), "-", " "))})
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
				Sentence: fmt.Sprintf("%s of pure lime are needed for the block, but of “%s” no rate can be given: %s.", c.Text(a.PureT*1000, units.MassT), a.Product, a.Blocked)}
			for _, m := range c.Materials {
				if m.Analysed() && m.Name != a.Product {
					f.Remedies = append(f.Remedies, finding.Remedy{Label: "Take " + m.Name, Patch: map[string]any{"works": map[string]any{"material": m.ID}}})
				}
			}
			c.Note(f)
			continue
		case a.Blocked != "":
			c.Note(finding.Finding{Rule: "works.blocked", About: &finding.Ref{Kind: "amendment", ID: a.Key}, Weight: finding.Mend, Step: "soil", Subject: a.Name, Sentence: a.Name + ": " + a.Blocked + ".", Source: a.Source})
			continue
		case a.Guess:
			c.Note(finding.Finding{Rule: "works.guess", Weight: finding.Watch, Step: "soil", Subject: a.Product, Source: "method AMD-2",
				Sentence: fmt.Sprintf("The analysis of “%s” is a guess: the %s rest on it. Have it analysed, heavy metals too, before it is spread.", a.Product, c.Text(a.TotalKg, units.MassT))})
		}
		if c.worksLate(a) {
			first := a.Doses[0]
			late := c.worksFree(a)
			c.Note(finding.Finding{Rule: "works.late", About: &finding.Ref{Kind: "amendment", ID: a.Key}, Weight: finding.Mend, Step: "soil", Subject: a.Name, Source: "lead times are common practice; the share reached is reckoned in proportion to time, assumed",
				Sentence: fmt.Sprintf("%s (%s) should have begun by %s to act before planting on %s. Beginning on %s: %s.", a.Name, c.Text(a.TotalKg, units.MassT), first.From.Words(), c.When.Planting.Words(), c.start().Words(), a.Effect),
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
			detail := fmt.Sprintf("%s of %s for the block, %s on the treated ground, mixed to %s", c.Text(d.Kg, units.MassT), a.Product, c.Text(a.PerHaKg/float64(len(a.Doses)), units.YieldT), c.Text(c.works.DepthCm, units.Depth))
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
			jobs = append(jobs, c.When.Preparation(report.Job{Key: key, Kind: amendmentTask[a.Key], Name: name, Phase: "soil", From: d.From, By: d.By, Detail: detail, Why: a.Why, Caution: a.Caution,
				Rule: a.rule(), Origin: a.Source, Tonnes: d.Kg / 1000}))
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
