package drains

import (
	"fmt"

	"slowroot/core/drainage"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// figures are the numbers a reader can press.
func (c *design) figures(d *Plan) {
	if b := d.Bed; b != nil && b.Refused == "" {
		c.bedFigures(b)
	}
	if d.catch != nil {
		d.catch(c, d)
	}
	if d.Soil == nil || d.DepthM <= 0 || d.Refused != "" || d.Taken != "" && !IsField[d.Taken] {
		return // what is taken has no use for a depth and a spacing of drains in the field
	}
	c.Figure(report.Figure{Path: "drain.depth", Step: "drains", Label: "Drain depth", Quantity: units.Spacing, Value: d.DepthM, Origin: working.Computed,
		Note: "to the invert; decided by " + d.Binding})
	if c.On("drain.depth") {
		sub, in := "", []working.Input{}
		for i, l := range d.Limits {
			if i > 0 {
				sub += "; "
			}
			sub += fmt.Sprintf("%s %.2f", l.Name, l.DepthM)
			in = append(in, c.Num(l.Name, l.DepthM, units.Spacing, working.Computed, "", ""))
		}
		if d.WantedM > 0 {
			sub += fmt.Sprintf("; wanted %.2f", d.WantedM)
		}
		c.Tell(working.Search, "drain.depth", "Depth of the invert", "min(roots or water table asked for + 0.35 m; what stops the water; outlet; machine)", sub,
			d.DepthM, units.Spacing, "method DRN-4, common practice, no source", in...)
	}
	if d.SpacingM == 0 {
		return
	}
	c.Figure(report.Figure{Path: "drain.spacing", Step: "drains", Label: "Drain spacing", Quantity: units.Spacing, Value: d.SpacingM, Low: d.Spacings[0],
		High: d.Spacings[2], Ranged: true, Origin: working.Computed, Note: "for the whole range of the permeability, " + d.Soil.From})
	c.Figure(report.Figure{Path: "drain.hours", Step: "drains", Label: "Roots free again after a wet spell", Quantity: units.Hours, Value: d.Hours,
		Low: d.HoursLow, High: d.HoursHigh, Ranged: true, Origin: working.Computed, Note: fmt.Sprintf("until the water is back below %s; the crop bears %.0f h",
			c.Text(d.Criterion.BackM, units.Spacing), d.Criterion.Hours)})
	if c.On("drain.spacing") {
		formula, source := "L² = (8·Kb·d·h + 4·Ka·h²)/q, d from L",
			"method DRN-5, Hooghoudt; van der Molen & Wesseling, Agric. Water Manage. 19:1–16, 1991; FAO Irrigation and Drainage Paper 62, 2007"
		if d.Soil.School == "ernst" {
			formula, source = "h = q·Dv/Kv + q·L²/(8·ΣKD) + q·L/(π·Kr)·ln(a·Dr/u), solved for L",
				"method DRN-6, Ernst: better soil lies below the poorer one the drain is in; from memory: ILRI Publication 16"
		}
		used := "rounded down"
		if choice := c.Choice; choice.SpacingM > 0 {
			used = "as it was set"
		}
		c.Tell(working.Rule, "drain.spacing", "Spacing used", "the computed spacing, "+used, fmt.Sprintf("%.2f m computed", d.Spacings[1]), d.SpacingM,
			units.Spacing, "")
		c.Tell(working.Search, "drain.spacing", "Spacing computed", formula, fmt.Sprintf("Kb %.3f, Ka %.3f m/day; h %.2f m; q %.4f m/day; d %.3f m", d.Soil.Below,
			d.Soil.Above, d.HeadM, d.DischargeM/1000, d.Equivalent), d.Spacings[1], units.Spacing, source,
			c.Num("water table asked for", d.Criterion.SteadyM, units.Spacing, d.Criterion.Origin(), fmt.Sprintf("wet-soil class %d", d.Criterion.Class), ""),
			c.Num("drain depth", d.DepthM, units.Spacing, working.Computed, "", "drain.depth"), c.Num("from drain level to what stops water", d.Soil.ThickM,
				units.Spacing, working.Measured, d.Soil.Pit, ""))
		c.Tell(working.Search, "drain.spacing", "With the lowest and the highest permeability", "the same",
			fmt.Sprintf("K × %.2f gives %.1f m, K × %.1f gives %.1f m", d.Soil.Low, d.Spacings[0], d.Soil.High, d.Spacings[2]), d.Spacings[0], units.Spacing,
			"method DRN-3; "+d.Soil.From)
	}
	if c.On("drain.hours") {
		c.Tell(working.Search, "drain.hours", "Time to fall", "t = μ·L²/(π²·K·d) · ln(1.16·h0/ht), with d + (h0 + ht)/4 for the flow above drain level",
			fmt.Sprintf("μ %.3f, K %.3f m/day, L %.1f m, from the surface to %.2f m below it", d.Soil.Pores, d.Soil.Above, d.SpacingM, d.Criterion.BackM), d.Hours,
			units.Hours,
			"method DRN-7; Dumm, Agric. Engineering 35:726–730, 1954; the pores from memory: van Beers", c.Num("spacing", d.SpacingM, units.Spacing, working.Computed,
				"", "drain.spacing"))
	}
	c.networkFigures(d)
}

// networkFigures are the length of pipe and what runs out of it.
func (c *design) networkFigures(d *Plan) {
	if n := d.Network; n != nil && len(n.Reaches) > 0 {
		total := 0.0
		for _, x := range append(append([]drainage.Drain{}, n.Laterals...), n.Reaches...) {
			total += x.LengthM
		}
		c.Figure(report.Figure{Path: "drain.pipe", Step: "drains", Label: "Drain pipe", Quantity: units.Distance, Value: total, Origin: working.Computed,
			Note: fmt.Sprintf("%d laterals, %s", len(n.Laterals), collectors(n))})
		c.Figure(report.Figure{Path: "drain.flow", Step: "drains", Label: "Flow at the outlet", Quantity: units.Outflow, Value: n.FlowM3S, Origin: working.Computed,
			Note: "at the design discharge"})
		if c.On("drain.pipe") {
			c.Tell(working.Count, "drain.pipe", "Drain pipe", "Σ laterals + Σ reaches", fmt.Sprintf("%d laterals at %.1f m on the boundary, %s", len(n.Laterals),
				n.SpacingM, collectors(n)), total, units.Distance, "method DRN-11", c.Num("spacing", n.SpacingM, units.Spacing, working.Computed, "", "drain.spacing"))
		}
		if c.On("drain.flow") {
			c.Step("drain.flow", "Flow at the outlet", "q · area reached / 86 400, and what an interceptor lets in", fmt.Sprintf("%.5f m/day · %.1f m² / 86 400 + %.6f",
				d.DischargeM/1000, n.ReachedM2, n.FlowM3S-d.DischargeM/1000*n.ReachedM2/86400), n.FlowM3S, units.Outflow, "method DRN-11",
				c.Num("area reached", n.ReachedM2, units.Area, working.Computed, "", ""))
		}
	}
}

// collectors says how many lines carry what laterals bring.
func collectors(n *NetworkView) string {
	if b := len(n.Mains) - 1; b > 0 {
		return "the collector and " + report.Count(b, "branch")
	}
	return "one collector"
}
