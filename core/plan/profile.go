package plan

import (
	"fmt"
	"math"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/rotation"
	"slowroot/core/soil"
	"slowroot/core/units"
	"slowroot/core/working"
)

// Profile is what the pits and tests of a block say.
type Profile struct {
	Pits        []PitView  `json:"pits"`
	Tests       []TestView `json:"tests"`
	DepthCm     float64    `json:"depthCm"` // effective, as found: the 25th percentile of the pits; 0 without pits
	AfterCm     float64    `json:"afterCm"` // with every barrier removed that can be
	AtLeast     bool       `json:"atLeast"` // nothing stopped roots down to the bottom of the pits
	Limiting    string     `json:"limiting"`
	WetCm       float64    `json:"wetCm"` // where waterlogging begins, 25th percentile; the bottom where no sign was found
	WetSeen     bool       `json:"wetSeen"`
	AvailableMM float64    `json:"availableMm"` // down to the crop's roots, 25th percentile
	Waits       []WaitView `json:"waits"`
	Earliest    civil.Date `json:"earliest"` // safe planting by what grew before
	Latest      civil.Date `json:"latest"`
}

// WaitView is a waiting time from what grew before.
type WaitView struct {
	Kind     string     `json:"kind"`
	Earliest civil.Date `json:"earliest"`
	Latest   civil.Date `json:"latest"`
	Why      string     `json:"why"`
	Shorten  string     `json:"shorten"`
	Drives   bool       `json:"drives"`
}

// PitView is a pit and what follows from it.
type PitView struct {
	Name        string           `json:"name"`
	Zone        string           `json:"zone"`
	Layers      []LayerView      `json:"layers"`
	BottomCm    float64          `json:"bottomCm"`
	Wetness     soil.Wetness     `json:"wetness"`
	Reading     string           `json:"reading"`
	Barriers    []soil.Barrier   `json:"barriers"`
	EffectiveCm float64          `json:"effectiveCm"`
	Limiting    string           `json:"limiting"`
	AfterCm     float64          `json:"afterCm"`
	AfterStops  string           `json:"afterStops"`
	RootCm      float64          `json:"rootCm"` // the crop's working depth, 100 without a crop
	AvailableMM float64          `json:"availableMm"`
	Held        string           `json:"held"`
	Draft       bool             `json:"draft"` // it counts for nothing yet
	Restrictive *RestrictiveView `json:"restrictive,omitempty"`
	Rip         *soil.RipPlan    `json:"rip,omitempty"`
}

// RestrictiveView is the layer that stops water.
type RestrictiveView struct {
	TopCm float64 `json:"topCm"`
	What  string  `json:"what"`
}

// LayerView is a layer and its water.
type LayerView struct {
	TopCm    float64    `json:"topCm"`
	BottomCm float64    `json:"bottomCm"`
	Class    soil.Class `json:"class"`
	Measured bool       `json:"measured"` // by fractions, not by feel
	Words    string     `json:"words"`
	HoldsMM  float64    `json:"holdsMm"`
	KsMmH    float64    `json:"ksMmH"`
	KsLow    float64    `json:"ksLow"` // one standard deviation of the estimate
	KsHigh   float64    `json:"ksHigh"`
	Doubtful bool       `json:"doubtful"` // outside what the estimate holds for
}

// TestView is a test and its sums; NaN-free: a number not known is left out.
type TestView struct {
	Index     int      `json:"index"`
	Label     string   `json:"label"`
	AgeMonths int      `json:"ageMonths"`
	Used      bool     `json:"used"`  // the amendments rest on it
	Empty     bool     `json:"empty"` // nothing was measured in it: it counts for nothing
	PHWater   *float64 `json:"phWater,omitempty"`
	Estimated bool     `json:"estimated"` // pH turned from a salt solution
	Bases     *float64 `json:"bases,omitempty"`
	CEC       *float64 `json:"cec,omitempty"`
	BasePct   *float64 `json:"basePct,omitempty"`
	ESPPct    *float64 `json:"espPct,omitempty"`
	Doubts    []string `json:"doubts"`
}

// months between two days, whole ones.
func monthsBetween(a, b civil.Date) int {
	n := (b.Year()-a.Year())*12 + b.Month() - a.Month()
	if b.Day() < a.Day() {
		n--
	}
	return n
}

// profile reads pits, tests and previous uses.
func (c *computation) profile() {
	b := c.in.Block
	root := 100.0
	if c.sheet != nil && c.sheet.Soil.RootCm > 0 {
		root = c.sheet.Soil.RootCm
	}
	p := Profile{Pits: []PitView{}, Tests: []TestView{}, Waits: []WaitView{}}
	var depth, after, wet, held []float64
	for _, pit := range b.Pits {
		v := readPit(pit, root, c.sheet != nil && c.sheet.Soil.WetClass == 1)
		p.Pits = append(p.Pits, v)
		depth, after, held = append(depth, v.EffectiveCm), append(after, v.AfterCm), append(held, v.AvailableMM)
		if v.Wetness.Class != soil.Undetermined {
			wet = append(wet, v.Wetness.DepthCm)
			p.WetSeen = p.WetSeen || v.Wetness.Seen
		}
	}
	if len(depth) > 0 {
		p.DepthCm, p.AfterCm, p.AvailableMM = soil.Quantile(depth, 0.25), soil.Quantile(after, 0.25), soil.Quantile(held, 0.25)
		if len(wet) > 0 {
			p.WetCm = soil.Quantile(wet, 0.25)
		}
		p.AtLeast = true
		shallow := math.Inf(1)
		for _, v := range p.Pits {
			if v.Limiting != "" {
				p.AtLeast = false
				if v.EffectiveCm < shallow {
					shallow, p.Limiting = v.EffectiveCm, v.Limiting
				}
			}
		}
	}
	used, ok := b.TopTest()
	for i, t := range b.Tests {
		p.Tests = append(p.Tests, c.readTest(i, t, ok && i == used))
	}
	if id := b.SheetID(); id != "" && !c.inPots() {
		waits, early, late, driver := rotation.Waits(c.in.uses(id), id, c.in.Today, c.fumigated())
		p.Earliest, p.Latest = early, late
		for i, w := range waits {
			p.Waits = append(p.Waits, WaitView{Kind: w.Use.Kind, Earliest: w.Earliest, Latest: w.Latest, Why: w.Why, Shorten: w.Shorten, Drives: i == driver})
		}
	}
	c.p.Soil = p
	c.soilFigures(root, held)
}

// readPit works a pit out for roots that go down to root cm. Roots of a crop that lives in wet soil are
// not stopped by it.
func readPit(pit soil.Pit, root float64, livesWet bool) PitView {
	v := PitView{Name: pit.Name, Zone: pit.Zone, BottomCm: pit.Bottom(), Wetness: pit.Wetness(), RootCm: root, Layers: []LayerView{}, Barriers: []soil.Barrier{}}
	v.Reading = v.Wetness.Class.Reading()
	for _, l := range pit.Layers {
		class, _, measured := l.Texture()
		lv := LayerView{TopCm: l.TopCm, BottomCm: l.BottomCm, Class: class, Measured: measured}
		lv.Words = string(class)
		for _, w := range []string{l.Colour, string(l.Structure), string(l.Hardness)} {
			if w != "" && w != string(soil.Firm) {
				lv.Words += ", " + w
			}
		}
		if l.StonesPct > 0 {
			lv.Words += fmt.Sprintf(", %.0f %% stones", l.StonesPct)
		}
		if l.Hardness != soil.Rock && l.Hardness != soil.Cemented {
			if w, err := l.Water(); err == nil {
				lv.HoldsMM, lv.KsMmH, lv.KsLow, lv.KsHigh = 10*w.Available*(l.BottomCm-l.TopCm), w.BulkKsMmH, w.BulkKsMmH/soil.KsFactor, w.BulkKsMmH*soil.KsFactor
				lv.Doubtful = w.OutOfValidity
			} else {
				lv.Doubtful = true
			}
		}
		v.Layers = append(v.Layers, lv)
	}
	wetAt := 0.0
	if v.Wetness.Seen && !livesWet {
		wetAt = math.Max(v.Wetness.DepthCm, 1)
	}
	if bs := pit.Barriers(wetAt); bs != nil {
		v.Barriers = bs
	}
	cm, lim := soil.Effective(v.Barriers, v.BottomCm, nil)
	v.EffectiveCm = cm
	if lim != nil {
		v.Limiting = lim.Kind
	}
	cm, lim = soil.Effective(v.Barriers, v.BottomCm, func(soil.Barrier) bool { return true })
	v.AfterCm = cm
	if lim != nil {
		v.AfterStops = lim.Kind
	}
	v.AvailableMM, _, _, _ = pit.Available(math.Min(root, v.EffectiveCm))
	v.Held = soil.HeldClass(v.AvailableMM)
	if top, what, ok := pit.Restrictive(); ok {
		v.Restrictive = &RestrictiveView{top, what}
	}
	if r, ok := pit.Ripping(v.Barriers); ok {
		v.Rip = &r
	}
	return v
}

func (c *computation) readTest(i int, t soil.Test, used bool) TestView {
	v := TestView{Index: i, Used: used, Empty: t.Empty(), AgeMonths: monthsBetween(t.On, c.in.Today), Doubts: []string{}}
	v.Label = units.Marked(fmt.Sprintf("{%g–%g cm}", t.FromCm, t.ToCm), c.Units) + ", " + t.On.Words()
	keep := func(x float64, ok bool) *float64 {
		if !ok {
			return nil
		}
		return &x
	}
	ph, est, ok := t.PHWater()
	v.PHWater, v.Estimated = keep(ph, ok), est
	v.Bases = keep(t.Bases())
	v.CEC = keep(t.CECAt7())
	v.BasePct = keep(t.BaseSaturation())
	v.ESPPct = keep(t.ESP())
	for _, d := range t.Doubts() {
		v.Doubts = append(v.Doubts, d.Sentence)
	}
	return v
}

func (c *computation) soilFigures(root float64, held []float64) {
	p := c.p.Soil
	if len(p.Pits) > 0 {
		note := "nothing stops roots in the pits"
		if p.Limiting != "" {
			note = p.Limiting + "; 25th percentile of " + report.Count(len(p.Pits), "pit")
		}
		c.Figure(report.Figure{Path: "soil.depth", Step: "soil", Label: "Effective depth", Quantity: units.Depth, Value: p.DepthCm, Low: p.DepthCm, High: p.AfterCm, Ranged: p.AfterCm > p.DepthCm, Origin: working.Measured, Note: note})
		c.Figure(report.Figure{Path: "soil.available", Step: "soil", Label: "Water held for roots", Quantity: units.Rain, Value: p.AvailableMM, Origin: working.Computed, Note: soil.HeldClass(p.AvailableMM)})
		if c.On("soil.depth") {
			c.Tell(working.Search, "soil.depth", "The block", "25th percentile of its pits, type 7", report.Count(len(p.Pits), "pit"), p.DepthCm, units.Depth, "common practice, no source")
			for _, v := range p.Pits {
				sub := "no barrier down to " + c.Text(v.BottomCm, units.Depth)
				for k, b := range v.Barriers {
					if k == 0 {
						sub = ""
					} else {
						sub += "; "
					}
					sub += fmt.Sprintf("%s at %s (%s)", b.Kind, c.Text(b.DepthCm, units.Depth), b.Why)
				}
				c.Tell(working.Rule, "soil.depth", v.Name, "the shallowest barrier; after works the next below those removed", sub, v.EffectiveCm, units.Depth, "method SOIL-4; common practice, no source",
					c.Num("after works", v.AfterCm, units.Depth, working.Computed, v.AfterStops, ""))
			}
		}
		if c.On("soil.available") {
			c.Tell(working.Search, "soil.available", "The block", "25th percentile of its pits, type 7", report.Count(len(p.Pits), "pit"), p.AvailableMM, units.Rain, "common practice, no source")
			for i, v := range p.Pits {
				_, shares, _, _ := c.in.Block.Pits[i].Available(math.Min(root, v.EffectiveCm))
				sub := ""
				for k, s := range shares {
					if k > 0 {
						sub += " + "
					}
					sub += fmt.Sprintf("%.0f mm (%g–%g cm)", s.MM, s.TopCm, s.BottomCm)
				}
				c.Tell(working.Series, "soil.available", v.Name, "Σ 10·(field capacity − wilting point)·(1 − stones)·thickness", sub, v.AvailableMM, units.Rain,
					"FAO Irrigation and Drainage Paper 56, 1998, eq. 82; water contents by Saxton & Rawls, Soil Sci. Soc. Am. J. 70, 2006, ± 15–25 %",
					c.Num("down to", math.Min(root, v.EffectiveCm), units.Depth, working.Computed, "the crop's roots or the first barrier", "soil.depth"))
			}
		}
	}
	if i, ok := c.in.Block.TopTest(); ok {
		v := p.Tests[i]
		if v.PHWater != nil {
			c.Figure(report.Figure{Path: "soil.ph", Step: "soil", Label: "pH in water", Quantity: units.PH, Value: *v.PHWater, Origin: working.Measured, Note: v.Label})
			if c.On("soil.ph") {
				t := c.in.Block.Tests[i]
				formula, src := "as measured in water", "laboratory report"
				if v.Estimated {
					formula, src = "CaCl₂ + 0.6, KCl + 0.9", "from memory, ± 0.3"
				}
				c.Tell(working.Lookup, "soil.ph", "pH in water", formula, fmt.Sprintf("%.1f in %s", *t.PH, t.PHMethod), *v.PHWater, units.PH, src)
			}
		}
		if v.BasePct != nil {
			c.Figure(report.Figure{Path: "soil.bases", Step: "soil", Label: "Base saturation", Quantity: units.Percent, Value: *v.BasePct, Origin: working.Computed, Note: v.Label})
			if c.On("soil.bases") {
				c.Step("soil.bases", "Base saturation", "100 · (Ca + Mg + K + Na) / CEC at pH 7", fmt.Sprintf("100 · %.3f / %.3f", *v.Bases, *v.CEC), *v.BasePct, units.Percent, "van Raij et al., Boletim Técnico 100, Instituto Agronômico, 2nd ed., 1997")
			}
		}
	}
}

// judgeSoil says what pits, tests and previous uses ask for.
func (c *computation) judgeSoil() {
	p, b := c.p.Soil, c.in.Block
	c.judgePits()
	for _, v := range p.Tests {
		for _, d := range b.Tests[v.Index].Doubts() {
			c.Note(finding.Finding{Rule: d.Rule, Weight: finding.Mend, Step: "soil", Subject: v.Label, Sentence: d.Sentence, Source: "arithmetic of the report"}.Of(document.TestRef(b.Tests[v.Index].ID)))
		}
	}
	if c.inGround() || c.sheet == nil {
		return
	}
	_, date := b.Crop()
	left := monthsBetween(c.in.Today, date)
	if i, ok := b.TopTest(); !ok && c.inPots() {
		// nothing is put into the soil
	} else if !ok {
		s := "There is no soil test. It comes first: everything put into the soil follows from it, six months before planting at least, twelve better."
		if left < 6 {
			s += fmt.Sprintf(" Planting is %s away: what the test asks for will not have acted by then.", report.Count(max(0, left), "month"))
		}
		c.Note(finding.Finding{Rule: "soil.no-test", Weight: finding.Mend, Step: "soil", Subject: "Soil test", Sentence: s, Source: "common practice, no source"})
	} else if v := p.Tests[i]; v.AgeMonths > 24 {
		c.Note(finding.Finding{Rule: "soil.old-test", Weight: finding.Watch, Step: "soil", Subject: "Soil test", Source: "common practice, no source",
			Sentence: fmt.Sprintf("The soil test is %d months old: test again before anything is bought by it, six months before planting at least, twelve better.", v.AgeMonths)})
	}
	if len(p.Waits) > 0 && p.Earliest.After(date) {
		var w WaitView
		for _, x := range p.Waits {
			if x.Drives {
				w = x
			}
		}
		f := finding.Finding{Rule: "site.waiting", Weight: finding.Mend, Step: "ground", Subject: "What grew before", Source: "method SITE-3, common practice, no source",
			Sentence: fmt.Sprintf("%s should wait here until %s (some hold %s): %s. %s shortens it.", c.sheet.Name, p.Earliest.Words(), p.Latest.Words(), w.Why, report.Capital(w.Shorten))}
		f.Remedies = c.moveTo(p.Earliest)
		c.Note(f)
	}
}

// moveTo offers another planting date.
func (c *computation) moveTo(d civil.Date) []finding.Remedy {
	if c.sheet != nil {
		d = c.seasons.NextInWindow(d, c.sheet.Windows)
	}
	label := "Plant on " + d.Words()
	return []finding.Remedy{{Label: label, Patch: planting("date", d.String())}}
}

// inPots reports a crop that stands off the ground: soil, water table and what grew before are nothing to it.
func (c *computation) inPots() bool { return c.sheet != nil && c.sheet.Soil.InPots }

// fumigated is what fumigation does to the waiting time, where it is the way taken.
func (c *computation) fumigated() rotation.Fumigation {
	return rotation.Fumigation{Taken: c.coverTaken() == "fumigation", On: c.doneOn("ground-fumigate")}
}

func (c *computation) judgePits() {
	p := c.p.Soil
	if len(p.Pits) == 0 {
		if !c.inGround() && c.sheet != nil && !c.inPots() {
			c.Note(finding.Finding{Rule: "soil.no-pit", Weight: finding.Watch, Step: "soil", Subject: "Pits", Source: "common practice, no source",
				Sentence: "No pit has been dug: how deep roots can go and whether the soil stands in water is not known. Three pits at least, to " + c.Text(1.2, units.Spacing) + " or to what stops the spade."})
		}
		return
	}
	want := max(3, int(math.Ceil(c.p.Ground.AreaM2/4e4)))
	if len(p.Pits) < want && !c.inGround() {
		c.Note(finding.Finding{Rule: "soil.few-pits", Weight: finding.Know, Step: "soil", Subject: "Pits", Source: "common practice, no source",
			Sentence: fmt.Sprintf("%s on %s; %d would be usual, one in every kind of soil.", report.Capital(report.Count(len(p.Pits), "pit")), c.Text(c.p.Ground.AreaM2, units.Area), want)})
	}
	for i, v := range p.Pits {
		pit := document.PitRef(c.in.Block.Pits[i].ID)
		if v.Wetness.Ask != "" && !c.p.Drains.wellsRead() { // read wells settle what the signs leave open
			c.Note(finding.Finding{Rule: "soil.wet-ask", About: &pit, Weight: finding.Know, Step: "soil", Subject: v.Name, Sentence: v.Name + ": " + v.Wetness.Ask, Source: "method SOIL-5, common practice"})
		}
		if v.Rip != nil && !c.inGround() {
			s := fmt.Sprintf("%s: a pan from %s to %s. Rip to %s; %s.", v.Name, c.Text(v.Rip.TopCm, units.Depth), c.Text(v.Rip.BottomCm, units.Depth), c.Text(v.Rip.DepthCm, units.Depth), v.Rip.Why)
			w := finding.Watch
			if v.Rip.OutOfTool {
				s += fmt.Sprintf(" That is deeper than a ripper reaches (%d cm).", soil.RipReachCm)
				w = finding.Mend
			}
			c.Note(finding.Finding{Rule: "soil.rip", About: &pit, Weight: w, Step: "soil", Subject: v.Name, Sentence: s, Source: "method SOIL-4, common practice"})
		}
		for _, l := range v.Layers {
			if l.Doubtful {
				c.Note(finding.Finding{Rule: "soil.estimate", About: &pit, Weight: finding.Watch, Step: "soil", Subject: v.Name, Source: "Saxton & Rawls, 2006: clay to 60 %, organic matter to 8 %",
					Sentence: fmt.Sprintf("%s, %g–%g cm: water and permeability cannot be estimated from this texture; have them measured.", v.Name, l.TopCm, l.BottomCm)})
				break
			}
		}
	}
	if c.sheet == nil || c.sheet.Soil.WetClass == 0 || c.inGround() || !p.WetSeen || c.inPots() {
		return
	}
	ideal, tolerated := practice.WetRange(c.sheet.Soil.WetClass)
	if p.WetCm < ideal {
		w := finding.Watch
		how := "it bears that, drains or raised beds would be better"
		if p.WetCm < tolerated {
			w, how = finding.Mend, "drains or raised beds before planting, or a more tolerant crop"
		}
		c.Note(finding.Finding{Rule: "soil.wet", Weight: w, Step: "soil", Subject: "Wet soil", Source: "methods SOIL-5, SOIL-6; depths by wet-soil class are assumed",
			Sentence: fmt.Sprintf("The soil stands in water from %s down; %s wants it free to %s and bears %s: %s.", c.Text(p.WetCm, units.Depth), report.LowerFirst(c.sheet.Name), c.Text(ideal, units.Depth), c.Text(tolerated, units.Depth), how)})
	}
}
