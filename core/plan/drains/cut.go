package drains

import (
	"fmt"
	"math"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// interceptor is a drain across the slope that stops water before it enters (method DRN-13): on the layer where the
// machine reaches it and its outlet lets it, sized for all it catches along its whole length. outlet is the level it
// runs into, NaN where it has an outlet of its own.
func (c *design) interceptor(d *Plan, choice document.DrainChoice, outlet float64) {
	line, suggested, ok := c.lineFor("interceptor", choice.Interceptor, d.SpacingM)
	s := d.Soil
	if !ok || s == nil {
		return
	}
	mid, _ := drainage.At(line, drainage.Length(line)/2)
	i, _ := c.nearest(mid[0], mid[1])
	t := c.task(d, choice, line)
	t.Q, t.LeastGrade, t.Open = 0, 0.002, choice.CutOpen
	t.DepthM = c.Choice.MachineReach()
	layer := t.DepthM + 0.5 // assumed where none was seen: it goes on half a metre below the drain
	if c.stops(i) != nil {
		layer = t.Layer(mid[0], mid[1])
	} else {
		t.Layer = nil // the pit nearest to it saw none
	}
	if t.OutletM = outlet; math.IsNaN(outlet) && d.Taken == "interceptor" && choice.DitchM != nil {
		if *choice.DitchM <= 0 {
			d.Refused = noOutlet
			return
		}
		out, there := line[0], t.DepthM
		if t.Layer != nil {
			there = math.Min(there, t.Layer(out[0], out[1]))
		}
		t.OutletM = c.heightAt(out[0], out[1]) - math.Min(*choice.DitchM-drainage.OutletClearM, there)
	}
	wet := layer / 2
	if d.WetFrom != "" {
		wet = math.Min(d.WetM, layer-0.1)
	}
	k := s.Above
	if s.From == "texture" {
		k = meanK(c.slabs(i, wet, layer))
	}
	laid := func() (*drainage.Network, error) {
		return drainage.Design(c.xy(), drainage.Layout{Name: document.InterceptorID, Collector: line, SpacingM: 2, Alone: true, Given: true}, t)
	}
	n, err := laid()
	if err != nil {
		d.cannot = err
		return
	}
	slope, length, passes := c.Land.Lie.SlopePct/100, drainage.Length(line), 0.0
	for _, r := range n.Reaches {
		deep := layer // of what stops the water, along this reach
		if p := r.Points[0]; t.Layer != nil {
			deep = t.Layer(p[0], p[1])
		}
		passes += math.Max(0, math.Min(deep-wet, deep-r.MeanCutM)) * r.LengthM / length
	}
	d.CatchM3Day = drainage.Interceptor(k, slope, layer-wet, passes) * length
	d.caught = d.CatchM3Day / math.Max(1e-12, drainage.Interceptor(k, slope, layer-wet, 0)*length)
	t.ExtraM3S = d.CatchM3Day / 86400
	if n, err = laid(); err != nil {
		d.cannot = err
		return
	}
	d.Cut = c.view(n, line, suggested, false, 0)
	if suggested {
		d.Cut.Why = "It is laid along the contour in the upper part of the block; bend it to where water is seen to enter."
		if wet, pit := c.wetPart(); wet != nil && wet.RadiusM > 0 && math.Hypot(mid[0]-wet.At[0], mid[1]-wet.At[1]) < 2*wet.RadiusM {
			d.Cut.Why = fmt.Sprintf("It is laid above the wet part, taken as a circle of %s across round %s; bend it to where the wet line was seen.",
				c.Text(2*wet.RadiusM, units.Distance), pit)
			d.Cut.Part = append(d.Cut.Part, wet.Ring(c.xy())...)
		}
	}
	d.catch = func(c *design, d *Plan) {
		c.Figure(report.Figure{Path: "drain.catch", Step: "drains", Label: "Caught by the interceptor", Quantity: units.Outflow, Value: d.CatchM3Day / 86400,
			Origin: working.Computed, Note: "seepage through the wet layer, along its whole length"})
		if c.On("drain.catch") {
			c.Step("drain.catch", "Caught by the interceptor", "K · slope · (wet thickness − what passes below) · length",
				fmt.Sprintf("%.4f m/day · %.5f · (%.4f − %.4f) m · %.2f m / 86 400", k, slope, layer-wet, passes, length), d.CatchM3Day/86400, units.Outflow,
				"method DRN-13, Darcy",
				c.Num("slope", slope, units.Grade, working.Computed, "", ""), c.Num("wet from", wet, units.Spacing, working.Computed, "", ""), c.Num("layer or lower end",
					layer, units.Spacing, working.Computed, "", ""))
		}
	}
}

// joinM is how near its end has to lie to the head of a collector to run into it.
const joinM = 8

// joined reports that the interceptor begins at the head of a collector.
func joined(cut *NetworkView, line []drainage.XY) bool {
	if cut == nil || len(cut.Line) == 0 {
		return false
	}
	head := line[len(line)-1]
	return math.Hypot(cut.Line[0][0]-head[0], cut.Line[0][1]-head[1]) < joinM
}

// daylight is how far down the slope a closed pipe from a point at a level has to be led, at a fall of 0.5 %, until it
// comes out of the ground; not ok within 300 m or the heights that are known.
func (c *design) daylight(at drainage.XY, level float64) (float64, bool) {
	const step, fall = 2.0, 0.005
	for s := 0.0; s < 300; s += step {
		z := c.heightAt(at[0], at[1])
		if math.IsNaN(z) {
			return 0, false
		}
		if z <= level-fall*s {
			return s, true
		}
		gx, gy := c.heightAt(at[0]+step, at[1])-c.heightAt(at[0]-step, at[1]), c.heightAt(at[0], at[1]+step)-c.heightAt(at[0], at[1]-step)
		g := math.Hypot(gx, gy)
		if !(g > 1e-6) {
			return 0, false
		}
		at = drainage.XY{at[0] - step*gx/g, at[1] - step*gy/g}
	}
	return 0, false
}

// judgeCut says where an interceptor's water goes and how much of what comes it catches.
func (c *design) judgeCut(d Plan, choice document.DrainChoice, note noter) {
	cut := d.Cut
	first := cut.Reaches[0].Section[0]
	lead := ""
	if far, ok := c.daylight(cut.Line[0], cut.OutletM); ok && far > 0 {
		lead = fmt.Sprintf(" A closed pipe led %s straight down the slope at 0.5 %% comes out of the ground.", c.Text(far, units.Distance))
	}
	own := d.Network == nil || !joined(cut, d.Network.Line)
	switch {
	case own && d.Network != nil:
		head := d.Network.LineAt[len(d.Network.LineAt)-1]
		note("cut-outlet", finding.Mend, "Interceptor", fmt.Sprintf("The interceptor ends %s below the ground and runs nowhere yet.",
			c.Text(first.Ground-cut.OutletM, units.Spacing))+lead, "method DRN-13, common practice",
			finding.Remedy{Label: "Lead it into the collector", Patch: drainPatch(map[string]any{"interceptor": append([]geo.Point{head}, cut.LineAt[1:]...)})})
	case own && choice.DitchM == nil:
		note("cut-outlet", finding.Mend, "Interceptor",
			fmt.Sprintf("How deep the water of the ditch stands below the ground at the end of the interceptor is not known; it is taken as deep as the drain, %s.",
				c.Text(first.Ground-cut.OutletM, units.Spacing))+lead, "method DRN-13, common practice")
	}
	if d.caught < 0.7 {
		note("cut-high", finding.Watch, "Interceptor",
			fmt.Sprintf("It catches %.0f %% of what seeps in, the rest passes below: its outlet lies %s down, and from there it can only rise. Lower the outlet.",
				100*d.caught, c.Text(first.Ground-cut.OutletM, units.Spacing))+lead, "method DRN-13, Darcy")
	}
}

// diversionM is how deep a diversion ditch is dug, and freeM how much of that stays dry (common practice).
const (
	diversionM = 0.5
	freeM      = 0.1
)

// diversion is a ditch along the upper side that leads surface water past the block (method DRN-1). How much runs on in
// a storm is not reckoned; what the ditch carries is.
func (c *design) diversion(d *Plan, choice document.DrainChoice) {
	line, suggested, ok := c.lineFor("diversion", choice.Interceptor, 0)
	if !ok {
		return
	}
	t := drainage.Task{Ground: c.heightAt, DepthM: diversionM, MostDepthM: c.Choice.MachineReach(), OutletM: math.NaN(), LeastGrade: 0.002, Closed: true,
		Open: true}
	n, err := drainage.Design(c.xy(), drainage.Layout{Name: document.InterceptorID, Collector: line, SpacingM: 2, Alone: true, Given: true}, t)
	if err != nil {
		d.cannot = err
		return
	}
	d.Cut = c.view(n, line, suggested, false, 0)
	flat, steep := math.Inf(1), 0.0
	for _, r := range n.Reaches {
		flat, steep = math.Min(flat, r.Grade), math.Max(steep, r.Grade)
	}
	ditch := drainage.FieldDitch(diversionM)
	d.CarriesM3S, _ = ditch.Flow(diversionM-freeM, flat, drainage.EarthN)
	_, d.Fastest = ditch.Flow(diversionM-freeM, steep, drainage.EarthN)
	d.catch = func(c *design, d *Plan) {
		c.Figure(report.Figure{Path: "drain.carries", Step: "drains", Label: "The ditch carries", Quantity: units.Outflow, Value: d.CarriesM3S,
			Origin: working.Computed, Note: "water " + c.Text(diversionM-freeM, units.Spacing) + " deep, where it falls least"})
		if c.On("drain.carries") {
			area, wetted := ditch.Wet(diversionM - freeM)
			c.Step("drain.carries", "The ditch carries", "A · (A/P)^(2/3) · √fall / n, A and P of the water", fmt.Sprintf("%.4f · (%.4f / %.4f)^(2/3) · √(%.6f) / %.2f",
				area, area, wetted, flat, drainage.EarthN), d.CarriesM3S, units.Outflow, "Manning; n from memory: Chow, 1959, Table 5-6", c.Num("least fall", flat,
				units.Grade, working.Computed, "", ""))
		}
	}
}

// judgeDiversion says what the ditch was not checked for, and where it would wash out.
func (c *design) judgeDiversion(d Plan, note noter) {
	note("storm", finding.Watch, "Ditch above the block",
		fmt.Sprintf("The ditch carries %s with %s of freeboard. How much runs on in a storm is not reckoned here: have the peak from the land above compared "+
			"with that before it is dug, and lead it to ground that bears it.", c.Text(d.CarriesM3S, units.Outflow), c.Text(freeM, units.Spacing)),
		"method DRN-1, common practice; Manning")
	texture := ""
	if i, ok := c.governing(); ok {
		for _, l := range c.Soil.Pits[i].Layers {
			if l.TopCm < 100*diversionM {
				texture = string(l.Class)
			}
		}
	}
	if most := drainage.EarthVelocity(texture); d.Fastest > most {
		what := "bare soil"
		if texture != "" {
			what = "bare " + texture
		}
		var back []finding.Remedy
		if !d.Cut.Suggested {
			back = append(back, finding.Remedy{Label: "The line suggested", Patch: drainPatch(map[string]any{"interceptor": nil})})
		}
		note("scour", finding.Mend, "Ditch above the block",
			fmt.Sprintf("Full, the water runs at %s where the ditch is steepest; %s bears %s. Lay the line flatter along the contour, step it, or line it with "+
				"turf or stone.", c.Text(d.Fastest, units.Velocity), what, c.Text(most, units.Velocity)), "from memory: Fortier & Scobey, Trans. ASCE 89:940–956, 1926",
			back...)
	}
}
