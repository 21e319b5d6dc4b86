package plan

import (
	"fmt"
	"math"

	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/units"
	"slowroot/core/working"
)

// interceptorID names an interceptor beside a network.
const interceptorID = "I"

// interceptor is a drain across the slope that stops water before it enters (method DRN-13): on the layer
// where the machine reaches it, sized for all it catches along its whole length.
func (c *computation) interceptor(d *DrainPlan, choice DrainChoice) {
	line, suggested, ok := c.lineFor("interceptor", choice.Interceptor, d.SpacingM)
	s := d.Soil
	if !ok || s == nil {
		return
	}
	mid, _ := drainage.At(line, drainage.Length(line)/2)
	i, _ := c.nearest(mid[0], mid[1])
	t := c.task(d, choice, line)
	t.DepthM = c.in.Block.machineReach()
	layer := t.DepthM + 0.5 // assumed where none was seen: it goes on half a metre below the drain
	depth := t.DepthM
	if c.stops(i) != nil {
		layer = t.Layer(mid[0], mid[1])
		depth = math.Min(depth, layer)
	} else {
		t.Layer = nil // the pit nearest to it saw none
	}
	wet := layer / 2
	if d.WetFrom != "" {
		wet = math.Min(d.WetM, layer-0.1)
	}
	k := s.Above
	if s.From == "texture" {
		k = meanK(c.slabs(i, wet, layer))
	}
	slope, length := c.in.Land.Lie.SlopePct/100, drainage.Length(line)
	d.CatchM3Day = drainage.Interceptor(k, slope, layer-wet, layer-depth) * length
	t.Q, t.ExtraM3S, t.LeastGrade = 0, d.CatchM3Day/86400, 0.002
	t.OutletM, t.Open = math.NaN(), choice.CutOpen // its own outlet, at its own depth
	n, err := drainage.Design(c.xy(), drainage.Layout{Name: interceptorID, Collector: line, SpacingM: 2, Alone: true, Given: true}, t)
	if err != nil {
		d.cannot = err
		return
	}
	d.Cut = c.view(n, line, suggested, false, 0)
	d.catch = func() {
		c.figure(Figure{Path: "drain.catch", Step: "drains", Label: "Caught by the interceptor", Quantity: units.Outflow, Value: d.CatchM3Day / 86400, Origin: working.Computed, Note: "seepage through the wet layer, along its whole length"})
		if c.tr.On("drain.catch") {
			c.step("drain.catch", "Caught by the interceptor", "K · slope · (wet thickness − what passes below) · length", fmt.Sprintf("%.3f m/day · %.4f · (%.2f − %.2f) m · %.0f m / 86 400", k, slope, layer-wet, layer-depth, length), d.CatchM3Day/86400, units.Outflow, "method DRN-13, Darcy",
				c.num("slope", slope, units.Grade, working.Computed, "", ""), c.num("wet from", wet, units.Spacing, working.Computed, "", ""), c.num("layer or lower end", layer, units.Spacing, working.Computed, "", ""))
		}
	}
}

// diversionM is how deep a diversion ditch is dug, and freeM how much of that stays dry (common practice).
const (
	diversionM = 0.5
	freeM      = 0.1
)

// diversion is a ditch along the upper side that leads surface water past the block (method DRN-1). How much runs on in
// a storm is not reckoned; what the ditch carries is.
func (c *computation) diversion(d *DrainPlan, choice DrainChoice) {
	line, suggested, ok := c.lineFor("interceptor", choice.Interceptor, 0)
	if !ok {
		return
	}
	t := drainage.Task{Ground: c.heightAt, DepthM: diversionM, MostDepthM: c.in.Block.machineReach(), OutletM: math.NaN(), LeastGrade: 0.002, Closed: true, Open: true}
	n, err := drainage.Design(c.xy(), drainage.Layout{Name: interceptorID, Collector: line, SpacingM: 2, Alone: true, Given: true}, t)
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
	_, d.fastest = ditch.Flow(diversionM-freeM, steep, drainage.EarthN)
	d.catch = func() {
		c.figure(Figure{Path: "drain.carries", Step: "drains", Label: "The ditch carries", Quantity: units.Outflow, Value: d.CarriesM3S, Origin: working.Computed, Note: "water " + c.text(diversionM-freeM, units.Spacing) + " deep, where it falls least"})
		if c.tr.On("drain.carries") {
			c.step("drain.carries", "The ditch carries", "A · (A/P)^(2/3) · √fall / n", fmt.Sprintf("floor %.1f m, sides 1 : %.0f, water %.1f m deep, fall %.4f, n %.2f", ditch.FloorM, ditch.SideM, diversionM-freeM, flat, drainage.EarthN), d.CarriesM3S, units.Outflow, "Manning; n from memory: Chow, 1959, Table 5-6", c.num("least fall", flat, units.Grade, working.Computed, "", ""))
		}
	}
}

// judgeDiversion says what the ditch was not checked for, and where it would wash out.
func (c *computation) judgeDiversion(d DrainPlan, note noter) {
	note("storm", finding.Watch, "Ditch above the block", fmt.Sprintf("The ditch carries %s with %s of freeboard. How much runs on in a storm is not reckoned here: have the peak from the land above compared with that before it is dug, and lead it to ground that bears it.", c.text(d.CarriesM3S, units.Outflow), c.text(freeM, units.Spacing)), "method DRN-1, common practice; Manning")
	texture := ""
	if i, ok := c.governing(); ok {
		for _, l := range c.p.Soil.Pits[i].Layers {
			if l.TopCm < 100*diversionM {
				texture = string(l.Class)
			}
		}
	}
	if most := drainage.EarthVelocity(texture); d.fastest > most {
		what := "bare soil"
		if texture != "" {
			what = "bare " + texture
		}
		var back []finding.Remedy
		if !d.Cut.Suggested {
			back = append(back, finding.Remedy{Label: "The line suggested", Patch: drainPatch(map[string]any{"interceptor": nil})})
		}
		note("scour", finding.Mend, "Ditch above the block", fmt.Sprintf("Full, the water runs at %s where the ditch is steepest; %s bears %s. Lay the line flatter along the contour, step it, or line it with turf or stone.", c.text(d.fastest, units.Velocity), what, c.text(most, units.Velocity)), "from memory: Fortier & Scobey, Trans. ASCE 89:940–956, 1926", back...)
	}
}
