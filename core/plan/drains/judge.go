package drains

import (
	"fmt"
	"math"
	"slices"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/soil"
	"slowroot/core/units"
)

// drainPatch is a merge patch of what was chosen for the drains.
func drainPatch(fields map[string]any) map[string]any { return map[string]any{"drains": fields} }

// takeRemedy is the patch that takes a way at the fork.
func takeRemedy(id string) map[string]any {
	return map[string]any{"decided": map[string]any{document.DrainFork: map[string]any{"option": id}}}
}

// noter adds a finding of the drains: rule, weight, subject, sentence, source and remedies.
type noter func(rule string, w finding.Weight, subject, sentence, source string, remedies ...finding.Remedy)

// judge says what is wrong with the water and the design, with the numbers and a way out.
func (c *design) judge() {
	d, choice := *c.out, c.Choice
	note := func(rule string, w finding.Weight, subject, sentence, source string, remedies ...finding.Remedy) {
		c.Note(finding.Finding{Rule: "drain." + rule, Weight: w, Step: "drains", Subject: subject, Sentence: sentence, Source: source, Remedies: remedies})
	}
	if !d.Started {
		if d.Needed && !c.Standing {
			note("open", finding.Know, "Water", fmt.Sprintf("Water stands at %s by the %s, and %s is asked for. Say where it comes from: the remedies are worked "+
				"out from that.", c.Text(d.WetM, units.Spacing), d.WetFrom, c.Text(d.Criterion.SteadyM, units.Spacing)), "methods DRN-1, DRN-2")
		}
		return
	}
	c.judgeEvidence(d, choice, note)
	field := IsField[d.Taken]
	if field {
		c.judgeSpread(d, note)
	}
	if d.WantedM > 0 && len(d.Limits) > 0 {
		if most := Deepest(d.Limits); choice.DepthM > most.DepthM+0.005 {
			note("deep", finding.Mend, "Drain depth", fmt.Sprintf("A drain at %s would lie below the limit set by %s, %s: %s. It is designed at %s.",
				c.Text(choice.DepthM, units.Spacing), most.Name, c.Text(most.DepthM, units.Spacing), c.whyNotDeeper(d, most), c.Text(d.DepthM, units.Spacing)),
				"method DRN-4, common practice",
				finding.Remedy{Label: "Lie at " + c.Text(most.DepthM, units.Spacing), Patch: drainPatch(map[string]any{"depthM": nil})})
		}
	}
	if d.Taken == "interceptor" && d.Refused == noOutlet {
		note("refused", finding.Stops, "Interceptor", "No interceptor can be laid: "+noOutlet+".", "method DRN-1, common practice")
		return
	}
	if field && d.Refused != "" {
		note("refused", finding.Stops, "Drain depth", fmt.Sprintf("No pipe can be laid: %s.", d.Refused), "method DRN-4, common practice",
			finding.Remedy{Label: "Raise the beds", Patch: takeRemedy("beds")})
		return
	}
	if d.Taken == "" || d.Taken == "leave" || d.Taken == "tolerant" || d.Taken == "investigate" || d.Taken == "subsoil" {
		return
	}
	c.judgeLaying(d, choice, note)
	if d.Network != nil && field {
		c.judgeSpacing(d, note)
	}
	if d.Taken == "ditches" {
		if why := c.ditchesTooClose(d); why != "" {
			note("ditch-land", finding.Mend, "Open ditches", report.Capital(why)+": nothing is left to plant. Lay pipes, or raise beds.",
				"method DRN-1, common practice")
		}
	}
	if part := d.Network; d.Taken == "local" && part != nil && len(part.Part) > 0 && part.Assumed {
		note("part-assumed", finding.Watch, "Wet part",
			fmt.Sprintf("Where the wet part lies is not known: it is taken as a circle of %.0f %% of the block round its lowest ground. Dig a pit in it and place "+
				"that on the map, or drag the line.", choice.WetPct), "assumed")
	}
	switch {
	case d.Cut == nil || len(d.Cut.Reaches) == 0:
	case d.Taken == "diversion":
		c.judgeDiversion(d, note)
	default:
		c.judgeCut(d, choice, note)
	}
	if d.Bed != nil {
		c.judgeBeds(d.Bed)
	}
	for _, v := range []*NetworkView{d.Network, d.Cut} {
		if v != nil {
			c.judgeNetwork(v, v == d.Cut, note)
		}
	}
	if c.Sheet != nil && c.Sheet.Traits.DrainRoots != nil && d.Network != nil && field {
		r := c.Sheet.Traits.DrainRoots
		note("roots", finding.Watch, "Roots", fmt.Sprintf("Roots of %s close drains within some %s. %s", report.LowerFirst(c.Sheet.Name),
			c.Text(r.M, units.Distance), r.Advice),
			"practice sheet of "+report.LowerFirst(c.Sheet.Name)+", "+practice.OriginWords(c.Sheet.Traits.Origin))
	}
}

// judgeLaying says what is missing to lay the drains out and to level them.
func (c *design) judgeLaying(d Plan, choice document.DrainChoice, note noter) {
	if c.Land == nil {
		note("heights", finding.Mend, "Heights", "No heights are known here: nothing can be laid out or levelled. Read heights in, or have the block levelled.",
			"method DRN-10")
	} else if d.cannot != nil {
		note("layout", finding.Mend, "Drains", fmt.Sprintf("The drains cannot be laid as they are drawn: %v.", d.cannot), "method DRN-11",
			finding.Remedy{Label: "Back to the line suggested", Patch: drainPatch(map[string]any{"collector": nil, "branches": nil, "laterals": nil,
				"interceptor": nil})})
	} else if d.Network == nil && d.Cut == nil && d.Bed == nil {
		note("no-line", finding.Mend, "Collector",
			"No line fits: the heights do not cover the block, or the ground has no fall that shows. Draw the collector by hand.", "method DRN-11")
	}
	if on := c.Laid; !on.IsZero() && (d.Network != nil || d.Cut != nil) {
		note("laid", finding.Know, "Drains", fmt.Sprintf("The drains are recorded as laid by %s. The design stands as the plan of what was meant; read the "+
			"lines and levels as they were measured over it.", on.Words()), "method DRN-9, common practice")
	} else if d.AccuracyM > 0.05 && (d.Network != nil || d.Cut != nil) {
		note("accuracy", finding.Mend, "Levels",
			fmt.Sprintf("The heights are known to ± %s. That is good enough to choose, not to dig: over %s at 0.2 %% a drain falls %s. Have the lines levelled to "+
				"± %s before setting out.", c.Text(d.AccuracyM, units.Spacing), c.Text(100, units.Distance), c.Text(0.2, units.Spacing), c.Text(0.05, units.Spacing)),
			"method DRN-10, common practice")
	}
	if choice.DitchM == nil && d.Network != nil {
		note("outlet", finding.Mend, "Outlet", "How deep the water of the ditch stands below the ground at the outlet is not known. Until it is measured the "+
			"outlet is taken as deep as the drain.", "methods DRN-4, DRN-10")
	}
}

// Deepest is the limit that binds: the one that lies highest.
func Deepest(limits []drainage.Limit) drainage.Limit {
	out := limits[0]
	for _, l := range limits {
		if l.DepthM < out.DepthM {
			out = l
		}
	}
	return out
}

// whyNotDeeper is why a limit holds.
func (c *design) whyNotDeeper(d Plan, l drainage.Limit) string {
	switch {
	case d.Soil != nil && d.Soil.LayerM > 0 && l.DepthM == d.Soil.LayerM:
		return "water stands on that layer and hardly moves in it, so a pipe below takes nothing in"
	case l.Name == "outlet":
		return fmt.Sprintf("the outlet has to end %s above the water it runs into", c.Text(drainage.OutletClearM, units.Spacing))
	case l.Name == "reach of the machine":
		return "the trench machine reaches no deeper"
	}
	return "deeper gives these roots nothing"
}

// judgeEvidence compares what was said about the water with what the pits and wells show.
func (c *design) judgeEvidence(d Plan, choice document.DrainChoice, note noter) {
	if choice.Source == "" || choice.Source == "unknown" {
		note("source", finding.Watch, "Source of the water",
			"Where the water comes from is not known, and it decides the remedy: a dip well read through the year, a walk in the wet season, a look at the "+
				"neighbours' ditches.", "method DRN-1, common practice")
	}
	if s := c.Soil; d.WetFrom == "dip wells" && s.WetSeen && math.Abs(100*d.WetM-s.WetCm) > 25 {
		note("disagree", finding.Watch, "Wells and pits",
			fmt.Sprintf("The dip wells saw water at %s, the marks in the pits begin at %s: %s apart. The wells count. Marks may be old, where the land was drained "+
				"since, or the year was not a usual one.", c.Text(100*d.WetM, units.Depth), c.Text(s.WetCm, units.Depth), c.Text(math.Abs(100*d.WetM-s.WetCm),
				units.Depth)), "method SOIL-5, common practice")
	}
	for _, h := range d.Holes {
		if h.Dropped != "" {
			note("hole-"+h.Name, finding.Watch, "Auger hole "+h.Name, fmt.Sprintf("The reading of %s does not count: %s.", h.Name, h.Dropped),
				"method DRN-3; from memory: van Beers, 1958")
		}
	}
	if choice.Source == "rain" {
		for _, v := range c.Soil.Pits {
			if v.Rip != nil {
				note("pan", finding.Watch, "Plough pan", fmt.Sprintf("%s shows a pan at %s. If that holds the rain up, breaking it is cheaper than drains.", v.Name,
					c.Text(v.Rip.TopCm, units.Depth)), "method DRN-1, common practice",
					finding.Remedy{Label: "It is the pan", Patch: drainPatch(map[string]any{"source": "pan"})})
				break
			}
		}
	}
	if !d.Needed && d.WetFrom != "" {
		note("dry", finding.Know, "Water", fmt.Sprintf("Water stands at %s and %s is asked for: this crop needs no drains here.", c.Text(d.WetM, units.Spacing),
			c.Text(d.Criterion.SteadyM, units.Spacing)), "method DRN-2, common practice")
	}
}

// judgeSpread says when pits differ in how deep a drain may lie, and for which of them it is designed.
func (c *design) judgeSpread(d Plan, note noter) {
	a, b, from, to := c.spread()
	if d.Soil == nil || to-from < 0.25 || c.stops(a) == nil {
		return
	}
	pits := c.Pits
	s := fmt.Sprintf("What stops the water lies at %s in %s; in %s nothing stops it above %s. ", c.Text(from, units.Spacing), pits[a].Name, pits[b].Name,
		c.Text(to, units.Spacing))
	var f []finding.Remedy
	if d.Soil.PitAt == a {
		s += "The whole block is drained as " + pits[a].Name + " allows."
		f = append(f, finding.Remedy{Label: "Design for " + pits[b].Name, Patch: drainPatch(map[string]any{"pit": pits[b].Name})})
	} else {
		s += fmt.Sprintf("Depth and spacing are those of %s; around %s pipes lie on the layer, shallower and too far apart: leave that part out, or raise beds "+
			"there.", pits[d.Soil.PitAt].Name, pits[a].Name)
		f = append(f, finding.Remedy{Label: "Design for " + pits[a].Name, Patch: drainPatch(map[string]any{"pit": nil})})
	}
	if slices.ContainsFunc(pits, func(p soil.Pit) bool { return p.At == nil }) {
		s += " Place the pits on the plan: without its position the shallowest holds everywhere."
	}
	note("pits-differ", finding.Watch, "Pits", s, "method DRN-4, common practice", f...)
}

// judgeSpacing compares the spacing with what the crop bears and with how little is known of the soil.
func (c *design) judgeSpacing(d Plan, note noter) {
	if d.SpacingM > d.Spacings[1]+0.01 {
		f := d.field(1)
		note("wide", finding.Mend, "Spacing", fmt.Sprintf("At %s the design discharge raises the water to %s below the surface midway; %s is asked for.",
			c.Text(d.SpacingM, units.Spacing), c.Text(math.Max(0, d.level()-f.Height(d.SpacingM)), units.Spacing), c.Text(d.Criterion.SteadyM, units.Spacing)),
			"method DRN-5, Hooghoudt",
			finding.Remedy{Label: "The computed spacing", Patch: drainPatch(map[string]any{"spacingM": nil})})
	}
	if d.Hours > d.Criterion.Hours {
		s, u := d.Soil, drainage.EnvelopePerimeter(stoneM, stoneM)
		l, _ := drainage.FallSpacing(s.Above, s.Pores, d.level(), d.back(), d.Criterion.Hours/24, s.ThickM, u)
		f := finding.Remedy{Label: "Spacing " + c.Text(math.Floor(2*l)/2, units.Spacing),
			Patch: drainPatch(map[string]any{"spacingM": math.Max(2, math.Floor(2*l)/2)})}
		sentence := fmt.Sprintf("After a wet spell the water needs %s to fall below %s; the crop bears %s.", c.Text(d.Hours, units.Hours), c.Text(d.Criterion.BackM,
			units.Spacing), c.Text(d.Criterion.Hours, units.Hours))
		if math.Floor(2*l)/2 < 2 || s.ThickM == 0 {
			note("slow", finding.Watch, "Recovery", sentence+" No spacing of pipes mends that here: raise the beds.", "method DRN-7; Dumm, 1954",
				finding.Remedy{Label: "Raise the beds", Patch: takeRemedy("beds")})
		} else {
			note("slow", finding.Watch, "Recovery", sentence, "method DRN-7; Dumm, 1954", f)
		}
	}
	if d.Spacings[2] > 2*d.Spacings[0] {
		note("range", finding.Watch, "Permeability",
			fmt.Sprintf("By %s the spacing lies anywhere from %s to %s. Auger holes, one for every %s to %s and five in each soil, narrow it before pipe is bought.",
				d.Soil.From, c.Text(d.Spacings[0], units.Spacing), c.Text(d.Spacings[2], units.Spacing), c.Text(2e4, units.Area), c.Text(4e4, units.Area)),
			"method DRN-3, common practice")
	}
	if d.Spacings[1] > WidestM {
		note("permeable", finding.Know, "Spacing",
			fmt.Sprintf("This soil lets so much water through that drains could lie further apart than %s; they are laid so, and one drain along the wet side may "+
				"do. Check the permeability with an auger hole before any is bought.", c.Text(WidestM, units.Distance)), "method DRN-5, common practice",
			finding.Remedy{Label: "Drain the wet part only", Patch: takeRemedy("local")})
	}
	if d.SpacingM < 5 {
		note("close", finding.Watch, "Spacing", fmt.Sprintf("Drains %s apart cost more than beds that do the same.", c.Text(d.SpacingM, units.Spacing)),
			"method DRN-1, common practice", finding.Remedy{Label: "Raise the beds", Patch: takeRemedy("beds")})
	}
	if s := d.Soil; s.AtLeast {
		note("thick", finding.Know, "Below the pit",
			fmt.Sprintf("Nothing that stops water was seen down to the bottom of %s; the soil below it is not counted, so the spacing is on the safe side.", s.Pit),
			"method DRN-5")
	}
}

// mends is what helps against a trouble of a network.
var mends = map[string]string{"shallow": "Lower the outlet, or lead the ditch along lower ground",
	"cover": "Lower the outlet, move the line to lower ground, or fill there", "layer": "Lie shallower there, or lead the line round the rise",
	"reach": "Move the line, or dig that part by excavator with shoring", "outlet": "Move the outlet to lower ground",
	"velocity": "An unperforated pipe or a drop pit there",
	"size":     "Lead part of the water out another way, or give it more fall", "long": "Draw a branch across them: it takes over what lies above it",
	"crossing": "Move one of them", "missed": "Lead a branch or a lateral into it, or leave it out"}

// freeBranch is the first name of a branch that none has.
func freeBranch(had []document.DrawnDrain) string {
	for i := 1; ; i++ {
		id := fmt.Sprintf("B%d", i)
		if !slices.ContainsFunc(had, func(b document.DrawnDrain) bool { return b.ID == id }) {
			return id
		}
	}
}

// judgeNetwork gathers the troubles of a network by kind: the first of each in words, the rest counted.
func (c *design) judgeNetwork(v *NetworkView, cut bool, note noter) {
	first, n := map[string]drainage.Trouble{}, map[string]int{}
	var order []string
	for _, t := range v.Troubles {
		if n[t.Rule]++; n[t.Rule] == 1 {
			first[t.Rule] = t
			order = append(order, t.Rule)
		}
	}
	name, subject := "", "Drains"
	if cut {
		name, subject = "cut-", "Interceptor"
	}
	for _, rule := range order {
		s := report.Capital(first[rule].Sentence)
		if k := n[rule] - 1; k > 0 {
			s += fmt.Sprintf(", and %d more like it", k)
		}
		w := finding.Mend
		if rule == "missed" || rule == "velocity" {
			w = finding.Watch
		}
		f := []finding.Remedy{}
		if v.Drawn || !v.Suggested {
			field := "collector"
			if cut {
				field = "interceptor"
			}
			f = append(f, finding.Remedy{Label: "Back to the line suggested", Patch: drainPatch(map[string]any{field: nil, "branches": nil, "laterals": nil})})
		}
		if d := c.out; rule == "missed" && !cut && d.branch != nil {
			f = append([]finding.Remedy{{Label: "Lead a branch into it", Patch: drainPatch(map[string]any{"collector": v.LineAt,
				"branches": append(slices.Clone(v.BranchAt), document.DrawnDrain{ID: v.NextBranch, Line: d.branch})})}}, f...)
		}
		note("trouble-"+name+rule, w, subject, s+". "+mends[rule]+".", "methods DRN-8 to DRN-11", f...)
	}
	flat := math.Inf(1)
	for _, x := range v.Laterals {
		flat = math.Min(flat, x.Grade)
	}
	if least := drainage.MinimumGrade(0.075, 0.43, 0.015); !cut && c.out.Soil != nil && document.OneOf(c.out.Soil.Texture, "sand", "loamy sand", "sandy loam",
		"silt", "silt loam") && flat < least {
		note("silt", finding.Watch, "Fine sand and silt",
			fmt.Sprintf("The flattest lateral falls %s; in %s fine sand and silt settle below %s. A fabric round the pipe keeps them out.", c.Text(flat, units.Grade),
				c.out.Soil.Texture, c.Text(least, units.Grade)), "velocities: USDA-NRCS Conservation Practice Standard 606")
	}
}
