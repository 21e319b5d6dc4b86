package calc

import (
	"fmt"
	"math"

	"slowroot/core/climate"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/working"
)

const (
	vdMolen = "van der Molen & Wesseling, Agric. Water Manage. 19:1–16, 1991; FAO Irrigation and Drainage Paper 62, 2007"
	ilri16  = "from memory: ILRI Publication 16"
)

func sourceIDs() []string {
	var out []string
	for _, s := range drainage.Sources {
		out = append(out, s.ID)
	}
	return out
}

var fieldInputs = []Field{number("qMDay", "m/day", "design discharge", 0.0001, 0.05).or(0.007), number("hM", "m", "water table above drain level, midway", -1,
	3).or(0.40), number("kbMDay", "m/day", "permeability below drain level", 0, 50).or(0.80), number("kaMDay", "m/day", "permeability above", 0, 50).or(0.80),
	number("thickM", "m", "from drain level to what stops water", 0, 50).or(2.0), number("r0M", "m", "radius of the pipe or envelope", 0.02, 0.5).or(0.05)}

func (v values) field() drainage.Field {
	return drainage.Field{Ka: v.num("kaMDay"), Kb: v.num("kbMDay"), Thick: v.num("thickM"), U: drainage.WetPerimeter(2 * v.num("r0M")), H: v.num("hM"),
		Q: v.num("qMDay")}
}

func drains() []Calculator {
	return []Calculator{
		drainRemedy(),
		drainDischarge(),
		designStorm(),
		augerHole(),
		drainDepth(),
		drainSpacing(),
		drainSpacingTwoLayers(),
		waterTableFall(),
		drainPipe(),
		openDitch(),
		drainQuantities(),
		longSection(),
		drainNetwork(),
		interceptor(),
	}
}

func exampleLevels() []any {
	var out []any
	for j, row := range [][]float64{{10.20, 10.05, 9.95, 9.70}, {10.35, 10.30, 10.00, 9.90}, {10.60, 10.35, 10.25, 10.05}} {
		for i, z := range row {
			out = append(out, map[string]any{"xM": 20 * float64(i), "yM": 20 * float64(j), "zM": z})
		}
	}
	return out
}

func drainRemedy() Calculator {
	return Calculator{Name: "drain-remedy", Title: "What to do about the water", Source: "method DRN-1, common practice, no source",
		Purpose: "Remedies ranked by where the water comes from; keeping it out comes first.",
		Inputs: []Field{choice("source", "where it comes from", sourceIDs()...).or("rain"), number("wetShare", "share", "of the block that is wet", 0, 1).or(0.6),
			number("slopePct", "%", "slope", 0, 100).or(2.0), number("layerM", "m", "depth of what stops water; 0 not known", 0, 10).or(1.2), number("kMDay", "m/day",
				"permeability; 0 not known", 0, 50).or(0.3), number("outletM", "m", "deepest drain the outlet allows; −1 none", -1, 10).or(1.2),
			choice("valley", "two sides fall to a middle line", "no", "yes").or("no")},
		Outputs: []Field{words("first", "the first that works"), words("ranked", "all, best first"), words("why", "why the first")},
		run: func(in values, r *Result) error {
			rs := drainage.Remedies(drainage.Case{Source: in.str("source"), WetShare: in.num("wetShare"), SlopePct: in.num("slopePct"), LayerM: in.num("layerM"),
				K: in.num("kMDay"), OutletM: in.num("outletM"), Valley: in.str("valley") == "yes", CoverM: 0.7})
			all := ""
			for i, x := range rs {
				if i > 0 {
					all += ", "
				}
				all += x.ID
			}
			r.Outputs["first"], r.Outputs["ranked"], r.Outputs["why"] = rs[0].ID, all, rs[0].Why
			r.tell(working.Rule, "first", "Remedy", "those that work, foreign water first", rs[0].Why, 0, "", "common practice, no source")
			return nil
		}}
}

func drainDischarge() Calculator {
	return Calculator{Name: "drain-discharge", Title: "Design discharge", Source: "method DRN-2; porosity from memory: van Beers",
		Purpose: "What drains must take away, from irrigation losses or from a storm, and the drainable porosity.",
		Inputs: []Field{number("grossMm", "mm", "irrigation, gross", 0, 500).or(60.0), number("efficiency", "share", "of application", 0, 1).or(0.7),
			number("percolates", "share", "of the loss", 0, 1).or(1.0), number("intervalDays", "days", "between irrigations", 1, 365).or(15.0), number("stormMm", "mm",
				"storm", 0, 1000).or(80.0), number("storedMm", "mm", "taken up by the soil", 0, 500).or(20.0), number("runoffMm", "mm", "runs off", 0, 500).or(10.0),
			number("stormDays", "days", "storm", 0.5, 30).or(3.0), number("kMDay", "m/day", "permeability", 0.001, 50).or(0.5)},
		Outputs: []Field{out("irrigationMmDay", "mm/day", "from irrigation losses"), out("stormMmDay", "mm/day", "from the storm"), out("porosity", "share",
			"drainable")},
		run: func(in values, r *Result) error {
			if in.num("storedMm")+in.num("runoffMm") > in.num("stormMm") {
				r.warn("drain.storm-taken", "Storm", "Soil and surface take more than the storm brings: it asks nothing of the drains.", "method DRN-2")
			}
			a := 1000 * drainage.IrrigationDischarge(in.num("grossMm"), in.num("efficiency"), in.num("percolates"), in.num("intervalDays"))
			r.Outputs["irrigationMmDay"], r.Outputs["stormMmDay"], r.Outputs["porosity"] = a, 1000*drainage.StormDischarge(in.num("stormMm"), in.num("storedMm"),
				in.num("runoffMm"), in.num("stormDays")), drainage.Porosity(in.num("kMDay"))
			r.show("irrigationMmDay", "Irrigation losses", "I·(1 − Ea)·f / interval", fmt.Sprintf("%g·(1 − %g)·%g / %g", in.num("grossMm"), in.num("efficiency"),
				in.num("percolates"), in.num("intervalDays")), a, "mm/day", "method DRN-2")
			return nil
		}}
}

func designStorm() Calculator {
	return Calculator{Name: "design-storm", Title: "Rain that comes once in some years",
		Source:  "method DRN-2; Gumbel, Statistics of Extremes, 1958; frequency factor from memory: Chow, 1951",
		Purpose: "From the most rain of each year in a run of days, what is reached once in a number of years.",
		Inputs: []Field{numbers("maxima", "mm", "the most of each year", 0, 3000).or([]float64{40, 60, 80, 100, 120}), number("years", "years", "once in", 1.01,
			1000).or(5.0)}, Outputs: []Field{out("mm", "mm", "reached once in those years"), out("mean", "mm", "mean of the maxima"),
			out("sd", "mm", "standard deviation"), out("factor", "", "frequency factor")},
		run: func(in values, r *Result) error {
			l := in.list("maxima")
			if len(l) < 5 {
				return finding.Bad("inputs.maxima", len(l), "are too few years", "five or more")
			}
			mean, sd := climate.MeanSD(l)
			v := climate.Gumbel(l, in.num("years"))
			if v < 0 {
				return finding.Bad("inputs.years", in.num("years"), fmt.Sprintf("the fit gives %.0f mm, less than no rain: it does not hold so near every year", v),
					"a longer time, or more years of record")
			}
			factor := 0.0
			if sd > 0 {
				factor = (v - mean) / sd
			}
			r.Outputs["mm"], r.Outputs["mean"], r.Outputs["sd"], r.Outputs["factor"] = v, mean, sd, factor
			r.show("mm", "Design storm", "mean + K·s, K = −(√6/π)·(0.5772 + ln ln(T/(T − 1)))", fmt.Sprintf("%.3f + %.5f·%.4f", mean, factor, sd), v, "mm",
				"Gumbel, 1958")
			if float64(len(l)) < in.num("years")/2 {
				r.warn("drain.few-years", "Years", fmt.Sprintf("%d years of record for a storm of once in %g: a rough figure.", len(l), in.num("years")),
					"common practice, no source")
			}
			return nil
		}}
}

func augerHole() Calculator {
	return Calculator{Name: "auger-hole", Title: "Permeability from an auger hole", Source: "method DRN-3, Ernst; " + ilri16 + ", chapter 12; van Beers, 1958",
		Purpose: "K from how fast the water rises in a hole that was bailed out.",
		Inputs: []Field{number("radiusCm", "cm", "radius of the hole", 1, 20).or(4.0), number("depthCm", "cm", "hole below the rested water table", 5,
			400).or(120.0), number("meanCm", "cm", "mean depression while read", 1, 400).or(36.0), number("firstCm", "cm", "first depression", 1, 400).or(40.0),
			number("riseCm", "cm", "rise while read", 0.1, 100).or(8.0), number("seconds", "s", "time", 1, 10000).or(60.0), choice("bottom", "the hole ends",
				"above the layer", "on the layer").or("above the layer")},
		Outputs: []Field{out("kMDay", "m/day", "permeability")},
		run: func(in values, r *Result) error {
			onLayer := in.str("bottom") == "on the layer"
			k, err := drainage.AugerHole(in.num("radiusCm"), in.num("depthCm"), in.num("meanCm"), in.num("firstCm"), in.num("riseCm"), in.num("seconds"), onLayer)
			if err != nil {
				return prefix(err)
			}
			r.Outputs["kMDay"] = k
			r.show("kMDay", "Permeability", "K = C·Δy/Δt, C = 4000·(r/h′) / [(20 + H/r)·(2 − h′/H)]; on the layer 3600 and 10",
				fmt.Sprintf("%g·(%g/%g) / [(%g + %g/%g)·(2 − %g/%g)] · %g / %g", map[bool]float64{true: 3600, false: 4000}[onLayer], in.num("radiusCm"), in.num("meanCm"),
					map[bool]float64{true: 10, false: 20}[onLayer], in.num("depthCm"), in.num("radiusCm"), in.num("meanCm"), in.num("depthCm"), in.num("riseCm"),
					in.num("seconds")), k, "m/day", ilri16)
			return nil
		}}
}

func drainDepth() Calculator {
	return Calculator{Name: "drain-depth", Title: "How deep a drain may lie", Source: "method DRN-4, common practice, no source",
		Purpose: "The shallowest of roots, layer, rock and outlet, and whether enough cover is left.",
		Inputs: []Field{number("rootsM", "m", "effective roots", 0.1, 3).or(0.7), number("layerM", "m", "top of what stops water; 0 none", 0, 5).or(0.0),
			number("rockM", "m", "top of rock; 0 none", 0, 5).or(1.5), number("outletM", "m", "the outlet allows at the far end; 0 not known", 0, 5).or(0.92),
			number("pipeM", "m", "outside diameter", 0.05, 0.5).or(0.1), choice("traffic", "over the pipe", "tractor", "foot", "truck").or("tractor")},
		Outputs: []Field{out("depthM", "m", "of the invert"), words("binding", "what decides"), out("coverM", "m", "over the pipe")},
		run: func(in values, r *Result) error {
			up := []drainage.Limit{{Name: "roots", DepthM: in.num("rootsM") + drainage.RootsMarginM}}
			for _, x := range []struct{ n, f string }{{"layer that stops water", "layerM"}, {"rock", "rockM"}, {"outlet", "outletM"}} {
				if in.num(x.f) > 0 {
					up = append(up, drainage.Limit{Name: x.n, DepthM: in.num(x.f)})
				}
			}
			d, by, err := drainage.Depth(up, []drainage.Limit{{Name: in.str("traffic") + " traffic", DepthM: drainage.Cover(in.str("traffic"))}}, in.num("pipeM"))
			if err != nil {
				return prefix(err)
			}
			r.Outputs["depthM"], r.Outputs["binding"], r.Outputs["coverM"] = d, by.Name, d-in.num("pipeM")
			r.tell(working.Search, "depthM", "Depth", "min(roots + 0.35 m; layer; rock; outlet)", by.Name, d, "m", "common practice, no source")
			return nil
		}}
}

func drainSpacing() Calculator {
	return Calculator{Name: "drain-spacing", Title: "Drain spacing, steady", Source: "method DRN-5, Hooghoudt; " + vdMolen,
		Purpose: "Spacing of parallel drains for a discharge and a water table, with the equivalent depth and its range for half and twice the permeability.",
		Inputs:  fieldInputs, Outputs: []Field{out("spacingM", "m", "spacing"), out("equivalentM", "m", "equivalent depth"),
			out("halfM", "m", "with half the permeability"), out("twiceM", "m", "with twice")},
		run: func(in values, r *Result) error {
			f := in.field()
			l, d, err := f.Spacing()
			if err != nil {
				return prefix(err)
			}
			switch {
			case l < 1:
				return finding.Bad("inputs.kbMDay", in.num("kbMDay"), "with it drains would have to lie less than a metre apart: no drains take this discharge",
					"a larger permeability or head, or a smaller discharge")
			case l > 500:
				return finding.Bad("inputs.kbMDay", in.num("kbMDay"),
					"with it drains could lie more than 500 m apart: this soil drains itself, and the formula does not hold",
					"no drains, or a layer and a permeability as measured")
			case l > 100:
				r.warn("drain.far", "Spacing", "Over 100 m the formula says little: the soil drains itself.", "common practice, no source")
			case l < 5:
				r.warn("drain.near", "Spacing", "Under 5 m pipes seldom pay: beds or open furrows are usual.", "common practice, no source")
			}
			half, twice := f, f
			half.Ka, half.Kb, twice.Ka, twice.Kb = f.Ka/2, f.Kb/2, f.Ka*2, f.Kb*2
			a, _, _ := half.Spacing()
			b, _, _ := twice.Spacing()
			r.Outputs["spacingM"], r.Outputs["equivalentM"], r.Outputs["halfM"], r.Outputs["twiceM"] = l, d, a, b
			r.tell(working.Search, "spacingM", "Spacing", "L² = (8·Kb·d·h + 4·Ka·h²)/q, d from L", fmt.Sprintf("d = %.3f m", d), l, "m", vdMolen)
			return nil
		}}
}

func drainSpacingTwoLayers() Calculator {
	return Calculator{Name: "drain-spacing-two-layers", Title: "Drain spacing in two layers", Source: "method DRN-6, Ernst; " + ilri16,
		Purpose: "Head loss and spacing where the drain lies in the poorer upper layer.",
		Inputs: []Field{number("qMDay", "m/day", "discharge", 0.0001, 0.05).or(0.007), number("spacingM", "m", "spacing", 1, 300).or(15.0),
			number("hM", "m", "head allowed", 0.01, 3).or(0.30), number("dvM", "m", "vertical thickness", 0, 10).or(0.4), number("kvMDay", "m/day",
				"vertical permeability", 0.001, 50).or(0.5), number("kdM2Day", "m²/day", "transmissivity of all layers", 0.01, 500).or(4.6), number("krMDay", "m/day",
				"of the drain's layer", 0.001, 50).or(0.5), number("drM", "m", "of it below the drain", 0.05, 20).or(1.0), number("kRatio", "", "K below over above", 0.01,
				200).or(4.0), number("dRatio", "", "thickness below over above", 1, 32).or(2.0), number("uM", "m", "wet perimeter", 0.05, 3).or(0.3)},
		Outputs: []Field{out("headM", "m", "at the spacing"), out("spacingForM", "m", "for the head allowed"), out("factor", "", "geometry factor"),
			out("radialM", "m", "radial part")},
		run: func(in values, r *Result) error {
			e := drainage.TwoLayers{Dv: in.num("dvM"), Kv: in.num("kvMDay"), KD: in.num("kdM2Day"), Kr: in.num("krMDay"), Dr: in.num("drM"),
				A: drainage.GeometryFactor(in.num("kRatio"), in.num("dRatio")), U: in.num("uM")}
			if err := e.Valid(); err != nil {
				return prefix(err)
			}
			h, _, _, radial := e.Head(in.num("qMDay"), in.num("spacingM"))
			r.Outputs["headM"], r.Outputs["radialM"], r.Outputs["factor"], r.Outputs["spacingForM"] = h, radial, e.A, e.Spacing(in.num("qMDay"), in.num("hM"))
			if l := r.Outputs["spacingForM"].(float64); l < 1 || l > 1000 {
				return finding.Bad("inputs.hM", in.num("hM"), fmt.Sprintf("no spacing of 1 to 1000 m gives it (%.3g m)", l), "another head, discharge or permeability")
			}
			r.show("headM", "Head", "q·Dv/Kv + q·L²/(8·ΣKD) + q·L/(π·Kr)·ln(a·Dr/u)", fmt.Sprintf("%g·%g/%g + %g·%g²/(8·%g) + %g·%g/(π·%g)·ln(%.4f·%g/%g)",
				in.num("qMDay"), e.Dv, e.Kv, in.num("qMDay"), in.num("spacingM"), e.KD, in.num("qMDay"), in.num("spacingM"), e.Kr, e.A, e.Dr, e.U), h, "m", ilri16)
			return nil
		}}
}

func waterTableFall() Calculator {
	return Calculator{Name: "water-table-fall", Title: "How fast the water table falls", Source: "method DRN-7; Dumm, Agric. Engineering 35:726–730, 1954",
		Purpose: "The water table midway some days after a wet spell, and the spacing that would bring it down in time.",
		Inputs: []Field{number("kMDay", "m/day", "permeability", 0.001, 50).or(0.5), number("porosity", "share", "drainable", 0.005, 0.5).or(0.05),
			number("spacingM", "m", "spacing", 1, 300).or(10.0), number("equivalentM", "m", "equivalent depth", 0.01, 20).or(0.6),
			number("h0M", "m", "above drain level at first", 0.01, 5).or(0.6), number("days", "days", "later", 0.1, 60).or(1.0),
			number("htM", "m", "wanted after those days", 0.01, 5).or(0.4), number("thickM", "m", "from drain level to what stops water", 0, 50).or(1.5),
			number("r0M", "m", "radius", 0.02, 0.5).or(0.05)},
		Outputs: []Field{out("afterM", "m", "above drain level then"), out("spacingForM", "m", "spacing for what is wanted"), out("daysFor", "days",
			"until it is reached at the spacing given")},
		run: func(in values, r *Result) error {
			ht, early := drainage.Falls(in.num("kMDay"), in.num("equivalentM"), in.num("porosity"), in.num("spacingM"), in.num("h0M"), in.num("days"))
			if in.num("htM") >= 1.16*in.num("h0M") {
				return finding.Bad("inputs.htM", in.num("htM"), "lies above where the water table starts", "less than h0")
			}
			l, _ := drainage.FallSpacing(in.num("kMDay"), in.num("porosity"), in.num("h0M"), in.num("htM"), in.num("days"), in.num("thickM"), math.Pi*in.num("r0M"))
			r.Outputs["afterM"], r.Outputs["spacingForM"], r.Outputs["daysFor"] = ht, l, drainage.FallDays(in.num("kMDay"), in.num("equivalentM"), in.num("porosity"),
				in.num("spacingM"), in.num("h0M"), in.num("htM"))
			if early {
				r.warn("drain.early", "Time", "It is too early for the formula to hold: α·t is below 0.2.", "method DRN-7")
			}
			r.show("afterM", "Water table", "min(h0, 1.16·h0·exp(−π²·K·d·t/(μ·L²)))", fmt.Sprintf("min(%g, 1.16·%g·exp(−π²·%g·%g·%g/(%g·%g²)))", in.num("h0M"),
				in.num("h0M"), in.num("kMDay"), in.num("equivalentM"), in.num("days"), in.num("porosity"), in.num("spacingM")), ht, "m",
				"Dumm, 1954; FAO Irrigation and Drainage Paper 62")
			return nil
		}}
}

func drainPipe() Calculator {
	return Calculator{Name: "drain-pipe", Title: "What a drain pipe carries", Source: "method DRN-8; " + ilri16 +
		", FAO 62; velocities USDA-NRCS Conservation Practice Standard 606", Purpose: "Capacity, area served, velocity and least grade of a pipe.",
		Inputs: []Field{number("insideM", "m", "inside diameter", 0.03, 1).or(0.1), number("gradePct", "%", "grade", 0.01, 20).or(0.5), choice("wall", "wall",
			"corrugated", "smooth").or("corrugated"), number("qMmDay", "mm/day", "discharge", 0.1, 50).or(7.0), number("spacingM", "m", "of laterals", 2,
			200).or(12.0)},
		Outputs: []Field{out("transportingLS", "L/s", "water let in at the head"), out("collectingLS", "L/s", "water coming in along it"),
			out("areaHa", "ha", "served, transporting, no silt allowance"), out("longestM", "m", "lateral, collecting, with silt allowance"), out("velocityMS", "m/s",
				"full"), out("leastGradePct", "%", "without fine sand or silt")},
		run: func(in values, r *Result) error {
			d, i, smooth := in.num("insideM"), in.num("gradePct")/100, in.str("wall") == "smooth"
			a, b := drainage.Capacity(d, i, smooth, false), drainage.Capacity(d, i, smooth, true)
			q := in.num("qMmDay") / 1000
			r.Outputs["transportingLS"], r.Outputs["collectingLS"], r.Outputs["areaHa"] = 1000*a, 1000*b, a*86400/q/1e4
			r.Outputs["longestM"], r.Outputs["velocityMS"], r.Outputs["leastGradePct"] = drainage.SiltShare(d)*b*86400/(q*in.num("spacingM")), drainage.FullVelocity(d,
				i, 0.015), 100*drainage.MinimumGrade(d, 0.1524, 0.015)
			r.show("transportingLS", "Capacity", "1000 · corrugated 22·d^2.67·i^0.50, smooth 50·d^2.71·i^0.57; collecting 38 and 89",
				fmt.Sprintf(map[bool]string{false: "1000 · 22·%g^2.67·%g^0.50", true: "1000 · 50·%g^2.71·%g^0.57"}[smooth], d, i), 1000*a, "L/s", ilri16)
			return nil
		}}
}

func openDitch() Calculator {
	return Calculator{Name: "open-ditch", Title: "What an open ditch carries",
		Source:  "methods DRN-1 and DRN-8; Manning; n and velocities from memory: Chow, 1959; Fortier & Scobey, Trans. ASCE 89:940–956, 1926",
		Purpose: "Flow and velocity in a ditch, and how deep a flow stands in it.",
		Inputs: []Field{number("floorM", "m", "floor", 0, 10).or(0.4), number("sideM", "m", "side, out for each metre up", 0, 5).or(1.0),
			number("depthM", "m", "depth of the ditch", 0.1, 5).or(0.5), number("waterM", "m", "depth of water", 0.01, 5).or(0.4), number("gradePct", "%", "grade",
				0.01, 20).or(0.2), number("n", "", "Manning's n", 0.01, 0.2).or(drainage.EarthN), number("flowLS", "L/s", "flow to be led", 0.1, 100000).or(100.0),
			choice("texture", "texture", "sand", "loamy sand", "sandy loam", "loam", "silt loam", "silt", "clay loam", "silty clay", "clay").or("loam")},
		Outputs: []Field{out("carriesLS", "L/s", "with that water"), out("velocityMS", "m/s", "with that water"),
			out("standsM", "m", "depth of the flow to be led"), out("bearsMS", "m/s", "bare soil bears"), out("earthM3M", "m³/m", "to be dug"),
			out("landM", "m", "taken, with the berm")},
		run: func(in values, r *Result) error {
			d := drainage.Ditch{FloorM: in.num("floorM"), SideM: in.num("sideM"), DepthM: in.num("depthM")}
			i, n := in.num("gradePct")/100, in.num("n")
			if d.FloorM+d.SideM == 0 {
				return finding.Bad("inputs.floorM", d.FloorM, "with upright sides is no ditch", "a floor or sloping sides")
			}
			q, v := d.Flow(in.num("waterM"), i, n)
			area, wetted := d.Wet(in.num("waterM"))
			if in.num("waterM") > d.DepthM {
				r.warn("ditch.over-water", "Ditch", "The water given stands deeper than the ditch.", "Manning")
			}
			y := d.WaterM(in.num("flowLS")/1000, i, n)
			r.Outputs["carriesLS"], r.Outputs["velocityMS"], r.Outputs["standsM"], r.Outputs["bearsMS"], r.Outputs["earthM3M"], r.Outputs["landM"] = 1000*q, v, y,
				drainage.EarthVelocity(in.str("texture")), d.SectionM2(), d.LandM()
			if y > d.DepthM {
				r.warn("ditch.over", "Ditch", fmt.Sprintf("The flow stands %.2f m deep, the ditch is %.2f m.", y, d.DepthM), "Manning")
			}
			if v > drainage.EarthVelocity(in.str("texture")) {
				r.warn("ditch.scour", "Ditch", fmt.Sprintf("%.2f m/s washes bare %s out: it bears %.2f m/s.", v, in.str("texture"),
					drainage.EarthVelocity(in.str("texture"))), "Fortier & Scobey, 1926, from memory")
			}
			r.show("carriesLS", "Carries", "1000 · A · (A/P)^(2/3) · √i / n", fmt.Sprintf("1000 · %.5f · (%.5f/%.5f)^(2/3) · √(%g) / %g", area, area, wetted, i, n),
				1000*q, "L/s", "Manning")
			return nil
		}}
}

func earthworks() []Calculator { return []Calculator{raisedBed(), ridgeAndFurrow(), levelling()} }
