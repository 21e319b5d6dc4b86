package calc

import (
	"fmt"
	"math"

	"slowroot/core/climate"
	"slowroot/core/drainage"
	"slowroot/core/earthwork"
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

var fieldInputs = []Field{number("qMDay", "m/day", "design discharge", 0.0001, 0.05).or(0.007), number("hM", "m", "water table above drain level, midway", -1, 3).or(0.40), number("kbMDay", "m/day", "permeability below drain level", 0, 50).or(0.80), number("kaMDay", "m/day", "permeability above", 0, 50).or(0.80),
	number("thickM", "m", "from drain level to what stops water", 0, 50).or(2.0), number("r0M", "m", "radius of the pipe or envelope", 0.02, 0.5).or(0.05)}

func (v values) field() drainage.Field {
	return drainage.Field{Ka: v.num("kaMDay"), Kb: v.num("kbMDay"), Thick: v.num("thickM"), U: drainage.WetPerimeter(2 * v.num("r0M")), H: v.num("hM"), Q: v.num("qMDay")}
}

func drains() []Calculator {
	return []Calculator{
		{Name: "drain-remedy", Title: "What to do about the water", Source: "method DRN-1, common practice, no source", Purpose: "Remedies ranked by where the water comes from; keeping it out comes first.",
			Inputs:  []Field{choice("source", "where it comes from", sourceIDs()...).or("rain"), number("wetShare", "share", "of the block that is wet", 0, 1).or(0.6), number("slopePct", "%", "slope", 0, 100).or(2.0), number("layerM", "m", "depth of what stops water; 0 not known", 0, 10).or(1.2), number("kMDay", "m/day", "permeability; 0 not known", 0, 50).or(0.3), number("outletM", "m", "deepest drain the outlet allows; −1 none", -1, 10).or(1.2), choice("valley", "two sides fall to a middle line", "no", "yes").or("no")},
			Outputs: []Field{words("first", "the first that works"), words("ranked", "all, best first"), words("why", "why the first")},
			run: func(in values, r *Result) error {
				rs := drainage.Remedies(drainage.Case{Source: in.str("source"), WetShare: in.num("wetShare"), SlopePct: in.num("slopePct"), LayerM: in.num("layerM"), K: in.num("kMDay"), OutletM: in.num("outletM"), Valley: in.str("valley") == "yes", CoverM: 0.7})
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
			}},
		{Name: "drain-discharge", Title: "Design discharge", Source: "method DRN-2; porosity from memory: van Beers", Purpose: "What drains must take away, from irrigation losses or from a storm, and the drainable porosity.",
			Inputs:  []Field{number("grossMm", "mm", "irrigation, gross", 0, 500).or(60.0), number("efficiency", "share", "of application", 0, 1).or(0.7), number("percolates", "share", "of the loss", 0, 1).or(1.0), number("intervalDays", "days", "between irrigations", 1, 365).or(15.0), number("stormMm", "mm", "storm", 0, 1000).or(80.0), number("storedMm", "mm", "taken up by the soil", 0, 500).or(20.0), number("runoffMm", "mm", "runs off", 0, 500).or(10.0), number("stormDays", "days", "storm", 0.5, 30).or(3.0), number("kMDay", "m/day", "permeability", 0.001, 50).or(0.5)},
			Outputs: []Field{out("irrigationMmDay", "mm/day", "from irrigation losses"), out("stormMmDay", "mm/day", "from the storm"), out("porosity", "share", "drainable")},
			run: func(in values, r *Result) error {
				if in.num("storedMm")+in.num("runoffMm") > in.num("stormMm") {
					r.warn("drain.storm-taken", "Storm", "Soil and surface take more than the storm brings: it asks nothing of the drains.", "method DRN-2")
				}
				a := 1000 * drainage.IrrigationDischarge(in.num("grossMm"), in.num("efficiency"), in.num("percolates"), in.num("intervalDays"))
				r.Outputs["irrigationMmDay"], r.Outputs["stormMmDay"], r.Outputs["porosity"] = a, 1000*drainage.StormDischarge(in.num("stormMm"), in.num("storedMm"), in.num("runoffMm"), in.num("stormDays")), drainage.Porosity(in.num("kMDay"))
				r.show("irrigationMmDay", "Irrigation losses", "I·(1 − Ea)·f / interval", fmt.Sprintf("%g·(1 − %g)·%g / %g", in.num("grossMm"), in.num("efficiency"), in.num("percolates"), in.num("intervalDays")), a, "mm/day", "method DRN-2")
				return nil
			}},
		{Name: "design-storm", Title: "Rain that comes once in some years", Source: "method DRN-2; Gumbel, Statistics of Extremes, 1958; frequency factor from memory: Chow, 1951", Purpose: "From the most rain of each year in a run of days, what is reached once in a number of years.",
			Inputs: []Field{numbers("maxima", "mm", "the most of each year", 0, 3000).or([]float64{40, 60, 80, 100, 120}), number("years", "years", "once in", 1.01, 1000).or(5.0)}, Outputs: []Field{out("mm", "mm", "reached once in those years"), out("mean", "mm", "mean of the maxima"), out("sd", "mm", "standard deviation"), out("factor", "", "frequency factor")},
			run: func(in values, r *Result) error {
				l := in.list("maxima")
				if len(l) < 5 {
					return finding.Bad("inputs.maxima", len(l), "are too few years", "five or more")
				}
				mean, sd := climate.MeanSD(l)
				v := climate.Gumbel(l, in.num("years"))
				if v < 0 {
					return finding.Bad("inputs.years", in.num("years"), fmt.Sprintf("the fit gives %.0f mm, less than no rain: it does not hold so near every year", v), "a longer time, or more years of record")
				}
				factor := 0.0
				if sd > 0 {
					factor = (v - mean) / sd
				}
				r.Outputs["mm"], r.Outputs["mean"], r.Outputs["sd"], r.Outputs["factor"] = v, mean, sd, factor
				r.show("mm", "Design storm", "mean + K·s, K = −(√6/π)·(0.5772 + ln ln(T/(T − 1)))", fmt.Sprintf("%.3f + %.5f·%.4f", mean, factor, sd), v, "mm", "Gumbel, 1958")
				if float64(len(l)) < in.num("years")/2 {
					r.warn("drain.few-years", "Years", fmt.Sprintf("%d years of record for a storm of once in %g: a rough figure.", len(l), in.num("years")), "common practice, no source")
				}
				return nil
			}},
		{Name: "auger-hole", Title: "Permeability from an auger hole", Source: "method DRN-3, Ernst; " + ilri16 + ", chapter 12; van Beers, 1958", Purpose: "K from how fast the water rises in a hole that was bailed out.",
			Inputs:  []Field{number("radiusCm", "cm", "radius of the hole", 1, 20).or(4.0), number("depthCm", "cm", "hole below the rested water table", 5, 400).or(120.0), number("meanCm", "cm", "mean depression while read", 1, 400).or(36.0), number("firstCm", "cm", "first depression", 1, 400).or(40.0), number("riseCm", "cm", "rise while read", 0.1, 100).or(8.0), number("seconds", "s", "time", 1, 10000).or(60.0), choice("bottom", "the hole ends", "above the layer", "on the layer").or("above the layer")},
			Outputs: []Field{out("kMDay", "m/day", "permeability")},
			run: func(in values, r *Result) error {
				onLayer := in.str("bottom") == "on the layer"
				k, err := drainage.AugerHole(in.num("radiusCm"), in.num("depthCm"), in.num("meanCm"), in.num("firstCm"), in.num("riseCm"), in.num("seconds"), onLayer)
				if err != nil {
					return prefix(err)
				}
				r.Outputs["kMDay"] = k
				r.show("kMDay", "Permeability", "K = C·Δy/Δt, C = 4000·(r/h′) / [(20 + H/r)·(2 − h′/H)]; on the layer 3600 and 10", fmt.Sprintf("%g·(%g/%g) / [(%g + %g/%g)·(2 − %g/%g)] · %g / %g", map[bool]float64{true: 3600, false: 4000}[onLayer], in.num("radiusCm"), in.num("meanCm"), map[bool]float64{true: 10, false: 20}[onLayer], in.num("depthCm"), in.num("radiusCm"), in.num("meanCm"), in.num("depthCm"), in.num("riseCm"), in.num("seconds")), k, "m/day", ilri16)
				return nil
			}},
		{Name: "drain-depth", Title: "How deep a drain may lie", Source: "method DRN-4, common practice, no source", Purpose: "The shallowest of roots, layer, rock and outlet, and whether enough cover is left.",
			Inputs:  []Field{number("rootsM", "m", "effective roots", 0.1, 3).or(0.7), number("layerM", "m", "top of what stops water; 0 none", 0, 5).or(0.0), number("rockM", "m", "top of rock; 0 none", 0, 5).or(1.5), number("outletM", "m", "the outlet allows at the far end; 0 not known", 0, 5).or(0.92), number("pipeM", "m", "outside diameter", 0.05, 0.5).or(0.1), choice("traffic", "over the pipe", "tractor", "foot", "truck").or("tractor")},
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
			}},
		{Name: "drain-spacing", Title: "Drain spacing, steady", Source: "method DRN-5, Hooghoudt; " + vdMolen, Purpose: "Spacing of parallel drains for a discharge and a water table, with the equivalent depth and its range for half and twice the permeability.",
			Inputs: fieldInputs, Outputs: []Field{out("spacingM", "m", "spacing"), out("equivalentM", "m", "equivalent depth"), out("halfM", "m", "with half the permeability"), out("twiceM", "m", "with twice")},
			run: func(in values, r *Result) error {
				f := in.field()
				l, d, err := f.Spacing()
				if err != nil {
					return prefix(err)
				}
				switch {
				case l < 1:
					return finding.Bad("inputs.kbMDay", in.num("kbMDay"), "with it drains would have to lie less than a metre apart: no drains take this discharge", "a larger permeability or head, or a smaller discharge")
				case l > 500:
					return finding.Bad("inputs.kbMDay", in.num("kbMDay"), "with it drains could lie more than 500 m apart: this soil drains itself, and the formula does not hold", "no drains, or a layer and a permeability as measured")
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
			}},
		{Name: "drain-spacing-two-layers", Title: "Drain spacing in two layers", Source: "method DRN-6, Ernst; " + ilri16, Purpose: "Head loss and spacing where the drain lies in the poorer upper layer.",
			Inputs:  []Field{number("qMDay", "m/day", "discharge", 0.0001, 0.05).or(0.007), number("spacingM", "m", "spacing", 1, 300).or(15.0), number("hM", "m", "head allowed", 0.01, 3).or(0.30), number("dvM", "m", "vertical thickness", 0, 10).or(0.4), number("kvMDay", "m/day", "vertical permeability", 0.001, 50).or(0.5), number("kdM2Day", "m²/day", "transmissivity of all layers", 0.01, 500).or(4.6), number("krMDay", "m/day", "of the drain's layer", 0.001, 50).or(0.5), number("drM", "m", "of it below the drain", 0.05, 20).or(1.0), number("kRatio", "", "K below over above", 0.01, 200).or(4.0), number("dRatio", "", "thickness below over above", 1, 32).or(2.0), number("uM", "m", "wet perimeter", 0.05, 3).or(0.3)},
			Outputs: []Field{out("headM", "m", "at the spacing"), out("spacingForM", "m", "for the head allowed"), out("factor", "", "geometry factor"), out("radialM", "m", "radial part")},
			run: func(in values, r *Result) error {
				e := drainage.TwoLayers{Dv: in.num("dvM"), Kv: in.num("kvMDay"), KD: in.num("kdM2Day"), Kr: in.num("krMDay"), Dr: in.num("drM"), A: drainage.GeometryFactor(in.num("kRatio"), in.num("dRatio")), U: in.num("uM")}
				if err := e.Valid(); err != nil {
					return prefix(err)
				}
				h, _, _, radial := e.Head(in.num("qMDay"), in.num("spacingM"))
				r.Outputs["headM"], r.Outputs["radialM"], r.Outputs["factor"], r.Outputs["spacingForM"] = h, radial, e.A, e.Spacing(in.num("qMDay"), in.num("hM"))
				if l := r.Outputs["spacingForM"].(float64); l < 1 || l > 1000 {
					return finding.Bad("inputs.hM", in.num("hM"), fmt.Sprintf("no spacing of 1 to 1000 m gives it (%.3g m)", l), "another head, discharge or permeability")
				}
				r.show("headM", "Head", "q·Dv/Kv + q·L²/(8·ΣKD) + q·L/(π·Kr)·ln(a·Dr/u)", fmt.Sprintf("%g·%g/%g + %g·%g²/(8·%g) + %g·%g/(π·%g)·ln(%.4f·%g/%g)", in.num("qMDay"), e.Dv, e.Kv, in.num("qMDay"), in.num("spacingM"), e.KD, in.num("qMDay"), in.num("spacingM"), e.Kr, e.A, e.Dr, e.U), h, "m", ilri16)
				return nil
			}},
		{Name: "water-table-fall", Title: "How fast the water table falls", Source: "method DRN-7; Dumm, Agric. Engineering 35:726–730, 1954", Purpose: "The water table midway some days after a wet spell, and the spacing that would bring it down in time.",
			Inputs:  []Field{number("kMDay", "m/day", "permeability", 0.001, 50).or(0.5), number("porosity", "share", "drainable", 0.005, 0.5).or(0.05), number("spacingM", "m", "spacing", 1, 300).or(10.0), number("equivalentM", "m", "equivalent depth", 0.01, 20).or(0.6), number("h0M", "m", "above drain level at first", 0.01, 5).or(0.6), number("days", "days", "later", 0.1, 60).or(1.0), number("htM", "m", "wanted after those days", 0.01, 5).or(0.4), number("thickM", "m", "from drain level to what stops water", 0, 50).or(1.5), number("r0M", "m", "radius", 0.02, 0.5).or(0.05)},
			Outputs: []Field{out("afterM", "m", "above drain level then"), out("spacingForM", "m", "spacing for what is wanted"), out("daysFor", "days", "until it is reached at the spacing given")},
			run: func(in values, r *Result) error {
				ht, early := drainage.Falls(in.num("kMDay"), in.num("equivalentM"), in.num("porosity"), in.num("spacingM"), in.num("h0M"), in.num("days"))
				if in.num("htM") >= 1.16*in.num("h0M") {
					return finding.Bad("inputs.htM", in.num("htM"), "lies above where the water table starts", "less than h0")
				}
				l, _ := drainage.FallSpacing(in.num("kMDay"), in.num("porosity"), in.num("h0M"), in.num("htM"), in.num("days"), in.num("thickM"), math.Pi*in.num("r0M"))
				r.Outputs["afterM"], r.Outputs["spacingForM"], r.Outputs["daysFor"] = ht, l, drainage.FallDays(in.num("kMDay"), in.num("equivalentM"), in.num("porosity"), in.num("spacingM"), in.num("h0M"), in.num("htM"))
				if early {
					r.warn("drain.early", "Time", "It is too early for the formula to hold: α·t is below 0.2.", "method DRN-7")
				}
				r.show("afterM", "Water table", "min(h0, 1.16·h0·exp(−π²·K·d·t/(μ·L²)))", fmt.Sprintf("min(%g, 1.16·%g·exp(−π²·%g·%g·%g/(%g·%g²)))", in.num("h0M"), in.num("h0M"), in.num("kMDay"), in.num("equivalentM"), in.num("days"), in.num("porosity"), in.num("spacingM")), ht, "m", "Dumm, 1954; FAO Irrigation and Drainage Paper 62")
				return nil
			}},
		{Name: "drain-pipe", Title: "What a drain pipe carries", Source: "method DRN-8; " + ilri16 + ", FAO 62; velocities USDA-NRCS Conservation Practice Standard 606", Purpose: "Capacity, area served, velocity and least grade of a pipe.",
			Inputs:  []Field{number("insideM", "m", "inside diameter", 0.03, 1).or(0.1), number("gradePct", "%", "grade", 0.01, 20).or(0.5), choice("wall", "wall", "corrugated", "smooth").or("corrugated"), number("qMmDay", "mm/day", "discharge", 0.1, 50).or(7.0), number("spacingM", "m", "of laterals", 2, 200).or(12.0)},
			Outputs: []Field{out("transportingLS", "L/s", "water let in at the head"), out("collectingLS", "L/s", "water coming in along it"), out("areaHa", "ha", "served, transporting, no silt allowance"), out("longestM", "m", "lateral, collecting, with silt allowance"), out("velocityMS", "m/s", "full"), out("leastGradePct", "%", "without fine sand or silt")},
			run: func(in values, r *Result) error {
				d, i, smooth := in.num("insideM"), in.num("gradePct")/100, in.str("wall") == "smooth"
				a, b := drainage.Capacity(d, i, smooth, false), drainage.Capacity(d, i, smooth, true)
				q := in.num("qMmDay") / 1000
				r.Outputs["transportingLS"], r.Outputs["collectingLS"], r.Outputs["areaHa"] = 1000*a, 1000*b, a*86400/q/1e4
				r.Outputs["longestM"], r.Outputs["velocityMS"], r.Outputs["leastGradePct"] = drainage.SiltShare(d)*b*86400/(q*in.num("spacingM")), drainage.FullVelocity(d, i, 0.015), 100*drainage.MinimumGrade(d, 0.1524, 0.015)
				r.show("transportingLS", "Capacity", "1000 · corrugated 22·d^2.67·i^0.50, smooth 50·d^2.71·i^0.57; collecting 38 and 89", fmt.Sprintf(map[bool]string{false: "1000 · 22·%g^2.67·%g^0.50", true: "1000 · 50·%g^2.71·%g^0.57"}[smooth], d, i), 1000*a, "L/s", ilri16)
				return nil
			}},
		{Name: "open-ditch", Title: "What an open ditch carries", Source: "methods DRN-1 and DRN-8; Manning; n and velocities from memory: Chow, 1959; Fortier & Scobey, Trans. ASCE 89:940–956, 1926", Purpose: "Flow and velocity in a ditch, and how deep a flow stands in it.",
			Inputs:  []Field{number("floorM", "m", "floor", 0, 10).or(0.4), number("sideM", "m", "side, out for each metre up", 0, 5).or(1.0), number("depthM", "m", "depth of the ditch", 0.1, 5).or(0.5), number("waterM", "m", "depth of water", 0.01, 5).or(0.4), number("gradePct", "%", "grade", 0.01, 20).or(0.2), number("n", "", "Manning's n", 0.01, 0.2).or(drainage.EarthN), number("flowLS", "L/s", "flow to be led", 0.1, 100000).or(100.0), choice("texture", "texture", "sand", "loamy sand", "sandy loam", "loam", "silt loam", "silt", "clay loam", "silty clay", "clay").or("loam")},
			Outputs: []Field{out("carriesLS", "L/s", "with that water"), out("velocityMS", "m/s", "with that water"), out("standsM", "m", "depth of the flow to be led"), out("bearsMS", "m/s", "bare soil bears"), out("earthM3M", "m³/m", "to be dug"), out("landM", "m", "taken, with the berm")},
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
				r.Outputs["carriesLS"], r.Outputs["velocityMS"], r.Outputs["standsM"], r.Outputs["bearsMS"], r.Outputs["earthM3M"], r.Outputs["landM"] = 1000*q, v, y, drainage.EarthVelocity(in.str("texture")), d.SectionM2(), d.LandM()
				if y > d.DepthM {
					r.warn("ditch.over", "Ditch", fmt.Sprintf("The flow stands %.2f m deep, the ditch is %.2f m.", y, d.DepthM), "Manning")
				}
				if v > drainage.EarthVelocity(in.str("texture")) {
					r.warn("ditch.scour", "Ditch", fmt.Sprintf("%.2f m/s washes bare %s out: it bears %.2f m/s.", v, in.str("texture"), drainage.EarthVelocity(in.str("texture"))), "Fortier & Scobey, 1926, from memory")
				}
				r.show("carriesLS", "Carries", "1000 · A · (A/P)^(2/3) · √i / n", fmt.Sprintf("1000 · %.5f · (%.5f/%.5f)^(2/3) · √(%g) / %g", area, area, wetted, i, n), 1000*q, "L/s", "Manning")
				return nil
			}},
		{Name: "drain-quantities", Title: "Stone, trench and spoil of drains", Source: "method DRN-9; closed forms", Purpose: "What a length of drain takes.",
			Inputs:  []Field{number("lengthM", "m", "drain", 1, 100000).or(1200.0), number("trenchM", "m", "width of the trench", 0.1, 2).or(0.35), number("depthM", "m", "depth", 0.2, 4).or(1.0), number("boxWidthM", "m", "stone", 0, 2).or(0.3), number("boxHeightM", "m", "stone", 0, 2).or(0.3), number("pipeM", "m", "outside diameter", 0.03, 0.6).or(0.09), number("wastePct", "%", "waste", 0, 50).or(8.0)},
			Outputs: []Field{out("trenchM3", "m³", "trench"), out("looseM3", "m³", "loose"), out("stoneM3", "m³", "stone with waste")},
			run: func(in values, r *Result) error {
				switch {
				case in.num("boxWidthM") > in.num("trenchM"):
					return finding.Bad("inputs.boxWidthM", in.num("boxWidthM"), "the stone is wider than its trench", fmt.Sprintf("at most %g m", in.num("trenchM")))
				case in.num("boxHeightM") > in.num("depthM"):
					return finding.Bad("inputs.boxHeightM", in.num("boxHeightM"), "the stone stands higher than the trench is deep", fmt.Sprintf("at most %g m", in.num("depthM")))
				case in.num("pipeM") > in.num("trenchM"):
					return finding.Bad("inputs.pipeM", in.num("pipeM"), "the pipe is wider than its trench", fmt.Sprintf("at most %g m", in.num("trenchM")))
				}
				v := in.num("lengthM") * in.num("trenchM") * in.num("depthM")
				s := in.num("lengthM") * drainage.EnvelopeM3(in.num("boxWidthM"), in.num("boxHeightM"), in.num("pipeM")) * (1 + in.num("wastePct")/100)
				r.Outputs["trenchM3"], r.Outputs["looseM3"], r.Outputs["stoneM3"] = v, 1.25*v, s
				if in.num("depthM") >= 1.2 {
					r.warn("drain.deep", "Trench", "1.2 m and deeper: shore or batter by the local code, nobody in it alone, spoil well off the edge, services found first.", "common practice, no source")
				}
				r.show("stoneM3", "Stone", "(w·h − π·d²/4)·length·(1 + waste)", fmt.Sprintf("max(0, %g·%g − π·%g²/4)·%g·(1 + %g/100)", in.num("boxWidthM"), in.num("boxHeightM"), in.num("pipeM"), in.num("lengthM"), in.num("wastePct")), s, "m³", "closed form")
				return nil
			}},
		{Name: "long-section", Title: "Long section of a pipe", Source: "method DRN-10", Purpose: "Cuts, cover, the steepest grade that keeps the cover, and the trench.",
			Inputs:  []Field{{Name: "ground", Kind: Table, Meaning: "from the outlet upstream", Columns: []Field{number("sM", "m", "chainage", 0, 10000), number("groundM", "m", "level", -500, 9000)}, Default: []any{map[string]any{"sM": 0.0, "groundM": 100.90}, map[string]any{"sM": 40.0, "groundM": 101.00}, map[string]any{"sM": 80.0, "groundM": 101.05}, map[string]any{"sM": 120.0, "groundM": 101.30}}}, number("outletM", "m", "invert at the outlet", -500, 9000).or(100.0), number("gradePct", "%", "grade", 0.01, 20).or(0.4), number("pipeM", "m", "outside diameter", 0.03, 1).or(0.09), number("coverM", "m", "least cover", 0.1, 3).or(0.6), number("trenchM", "m", "width of the trench", 0.1, 2).or(0.35)},
			Outputs: []Field{out("steepestPct", "%", "that keeps the cover"), out("atM", "m", "decides"), series("cutsM", "m", "ground less invert"), out("trenchM3", "m³", "trench")},
			run: func(in values, r *Result) error {
				var pts []drainage.Point
				for _, e := range in.rows("ground") {
					if n := len(pts); n > 0 && e.num("sM") <= pts[n-1].S {
						return finding.Bad("inputs.ground", e.num("sM"), "chainages do not rise", "from the outlet upstream")
					}
					pts = append(pts, drainage.Point{S: e.num("sM"), Ground: e.num("groundM")})
				}
				if len(pts) < 2 {
					return finding.Bad("inputs.ground", len(pts), "is no section", "two points or more")
				}
				if in.num("outletM")+in.num("pipeM") > pts[0].Ground {
					return finding.Bad("inputs.outletM", in.num("outletM"), fmt.Sprintf("the pipe would lie above the ground at the outlet, %g m", pts[0].Ground), "an invert below the ground by the pipe at least")
				}
				s := drainage.LongSection(pts, in.num("outletM"), in.num("gradePct")/100, in.num("pipeM"), in.num("coverM"))
				var cuts []float64
				for _, p := range s.Points {
					cuts = append(cuts, p.Cut)
				}
				if s.Most < s.Grade {
					r.warn("drain.cover", "Cover", fmt.Sprintf("At %.0f m less than %.2f m of cover is left: at most %.3f %%.", s.At, in.num("coverM"), 100*s.Most), "method DRN-10")
				}
				r.Outputs["steepestPct"], r.Outputs["atM"], r.Outputs["cutsM"], r.Outputs["trenchM3"] = 100*s.Most, s.At, cuts, s.TrenchM3(in.num("trenchM"))
				r.tell(working.Search, "steepestPct", "Steepest grade", "min over points of (ground − pipe − cover − outlet)/s", fmt.Sprintf("at %.0f m", s.At), 100*s.Most, "%", "method DRN-10")
				return nil
			}},
		{Name: "drain-network", Title: "Drains on a rectangle", Source: "method DRN-11", Purpose: "Laterals, metres and flow of a gridiron or herringbone on a rectangle.",
			Inputs:  []Field{number("lengthM", "m", "up the slope", 10, 2000).or(200.0), number("widthM", "m", "across", 10, 2000).or(120.0), number("spacingM", "m", "of laterals", 2, 200).or(20.0), choice("pattern", "pattern", "gridiron", "herringbone").or("gridiron"), number("angleDeg", "°", "at the collector, herringbone", 30, 60).or(60.0), number("qMmDay", "mm/day", "discharge", 0.1, 50).or(7.0), number("slopePct", "%", "of the ground", 0, 20).or(0.5)},
			Outputs: []Field{whole("laterals", "", "pieces", 0, 1e5), out("lateralM", "m", "together"), out("collectorM", "m", "collector"), out("flowLS", "L/s", "at the outlet"), out("missedM2", "m²", "reached by no drain")},
			run: func(in values, r *Result) error {
				w, h := in.num("lengthM"), in.num("widthM")
				l := drainage.Layout{Collector: []drainage.XY{{0, 0}, {0, h}}, SpacingM: in.num("spacingM"), AngleDeg: 90}
				if in.str("pattern") == "herringbone" {
					l.Collector, l.AngleDeg = []drainage.XY{{0, h / 2}, {w, h / 2}}, in.num("angleDeg")
				}
				s := in.num("slopePct") / 100
				n, err := drainage.Design([][]drainage.XY{{{0, 0}, {w, 0}, {w, h}, {0, h}}}, l, drainage.Task{Ground: func(x, y float64) float64 { return 100 + s*x + 0.003*y }, Q: in.num("qMmDay") / 1000, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
				if err != nil {
					return prefix(err)
				}
				b := n.Quantities(0.35, 0.3, 0.3)
				missed := 0.0
				for _, m := range n.Missed {
					missed += m.AreaM2
				}
				r.Outputs["laterals"], r.Outputs["lateralM"], r.Outputs["collectorM"], r.Outputs["flowLS"], r.Outputs["missedM2"] = len(n.Laterals), b.LateralM, b.CollectorM, 1000*n.FlowM3S, missed
				r.tell(working.Count, "lateralM", "Laterals", "every spacing / sin α along the collector, to the edge less half a spacing", fmt.Sprintf("%d pieces", len(n.Laterals)), b.LateralM, "m", "method DRN-11")
				return nil
			}},
		{Name: "interceptor", Title: "What an interceptor catches", Source: "method DRN-13, Darcy", Purpose: "Flow into a drain across a slope.",
			Inputs: []Field{number("kMDay", "m/day", "permeability", 0.001, 50).or(1.2), number("slopePct", "%", "slope", 0.1, 100).or(6.0), number("thickM", "m", "of the flow above the layer", 0.05, 10).or(0.9), number("aboveM", "m", "drain above the layer", 0, 10).or(0.0), number("lengthM", "m", "drain", 1, 5000).or(150.0)}, Outputs: []Field{out("m3DayM", "m³/day", "for each metre"), out("flowLS", "L/s", "together")},
			run: func(in values, r *Result) error {
				q := drainage.Interceptor(in.num("kMDay"), in.num("slopePct")/100, in.num("thickM"), in.num("aboveM"))
				r.Outputs["m3DayM"], r.Outputs["flowLS"] = q, q*in.num("lengthM")/86.4
				r.show("m3DayM", "Catch", "K·s·max(0, y − a)", fmt.Sprintf("%g·%g/100·max(0, %g − %g)", in.num("kMDay"), in.num("slopePct"), in.num("thickM"), in.num("aboveM")), q, "m³/day for each metre", "Darcy")
				return nil
			}},
		{Name: "raised-bed", Title: "Raised bed", Source: "methods BED-1, BED-2 and DRN-12, closed forms", Purpose: "Soil of a bed, the furrow that gives it, the root room it adds, the film over it.",
			Inputs:  []Field{number("baseM", "m", "base", 0.2, 5).or(0.80), number("topM", "m", "top", 0.1, 5).or(0.74), number("heightM", "m", "above the furrow floor", 0.05, 1.5).or(0.25), number("crownM", "m", "of the middle over the shoulders", 0, 0.5).or(0.04), number("centreM", "m", "between bed centres", 0.5, 12).or(1.50), number("loosening", "", "loose over firm; 1 once settled", 1, 1.4).or(1.0), number("edgeM", "m", "film buried at each side", 0, 0.5).or(0.18)},
			Outputs: []Field{out("sectionM2", "m³/m", "soil"), out("bedMPerHa", "m/ha", "bed"), out("m3PerHa", "m³/ha", "soil above the furrow floor"), out("movedM3PerHa", "m³/ha", "of it dug from the furrows"), whole("passes", "", "of the machine", 1, 100), out("hoursPerHa", "h/ha", "of the machine, rate from memory"), out("furrowM", "m", "below the old surface"), out("aboveM", "m", "bed above it"), out("riseM", "m", "mean root room added"), out("filmM", "m", "width needed"), out("buyM", "m", "width sold")},
			run: func(in values, r *Result) error {
				b := earthwork.Bed{BaseM: in.num("baseM"), TopM: in.num("topM"), HeightM: in.num("heightM"), CrownM: in.num("crownM"), CentreM: in.num("centreM")}
				if err := b.Valid(); err != nil {
					return prefix(err)
				}
				x, h, _, _ := b.Furrow(in.num("loosening"))
				moved, passes, hours := b.Shaping(b.PerHa())
				r.Outputs["movedM3PerHa"], r.Outputs["passes"], r.Outputs["hoursPerHa"] = moved, passes, hours
				need, buy := b.FilmM(in.num("edgeM"))
				r.Outputs["sectionM2"], r.Outputs["bedMPerHa"], r.Outputs["m3PerHa"], r.Outputs["furrowM"], r.Outputs["aboveM"], r.Outputs["riseM"], r.Outputs["filmM"], r.Outputs["buyM"] = b.AreaM2(), b.PerHa(), b.AreaM2()*b.PerHa(), x, h, b.Rise(in.num("loosening")), need, buy
				r.show("sectionM2", "Section", "H·(B + T)/2 + T·k/2", fmt.Sprintf("%g·(%g + %g)/2 + %g·%g/2", b.HeightM, b.BaseM, b.TopM, b.TopM, b.CrownM), b.AreaM2(), "m³/m", "closed form")
				r.tell(working.Search, "furrowM", "Furrow", "fill(x) = s·cut(x)", "", x, "m", "closed form")
				r.show("movedM3PerHa", "Dug from the furrows", "cut(x)·metres, settled", fmt.Sprintf("%.6f · %.4f", moved/b.PerHa(), b.PerHa()), moved, "m³/ha", "closed form")
				r.show("hoursPerHa", "Machine", "⌈cut/0.10⌉·metres/3700", fmt.Sprintf("⌈%.6f/0.10⌉·%.4f/3700", moved/b.PerHa(), b.PerHa()), hours, "h/ha", "from memory")
				return nil
			}},
		{Name: "ridge-and-furrow", Title: "Ridge and furrow", Source: "method BED-4, closed forms", Purpose: "Soil moved and plants with a row on both edges of each ridge.",
			Inputs: []Field{number("ridgeM", "m", "ridge", 0.1, 5).or(0.6), number("furrowM", "m", "furrow at the surface", 0.1, 5).or(0.6), number("depthM", "m", "deep", 0.02, 1).or(0.15), number("side", "", "side slope, horizontal to 1", 0, 3).or(0.5), number("inRowM", "m", "between plants", 0.05, 5).or(0.22)}, Outputs: []Field{out("plantsPerHa", "/ha", "plants"), out("m3PerHa", "m³/ha", "soil moved")},
			run: func(in values, r *Result) error {
				g := earthwork.Ridges{RidgeM: in.num("ridgeM"), FurrowM: in.num("furrowM"), DepthM: in.num("depthM"), Side: in.num("side")}
				if err := g.Valid(); err != nil {
					return prefix(err)
				}
				r.Outputs["plantsPerHa"], r.Outputs["m3PerHa"] = g.PlantsPerHa(in.num("inRowM")), g.FurrowM3PerHa()
				r.show("m3PerHa", "Furrows", "(W − z·d)·d·10 000/pitch", fmt.Sprintf("(%g − %g·%g)·%g·10 000/%g", g.FurrowM, g.Side, g.DepthM, g.DepthM, g.PitchM()), g.FurrowM3PerHa(), "m³/ha", "closed form")
				return nil
			}},
		{Name: "levelling", Title: "Levelling", Source: "method BED-5, least squares", Purpose: "The best plane through heights, and the earth moved to it with a wanted ratio of cut to fill.",
			Inputs:  []Field{{Name: "levels", Kind: Table, Meaning: "heights", Columns: []Field{number("xM", "m", "east", -1e4, 1e4), number("yM", "m", "north", -1e4, 1e4), number("zM", "m", "height", -500, 9000)}, Default: exampleLevels()}, number("cellM2", "m²", "each stands for", 1, 1e5).or(400.0), number("ratio", "", "cut over fill, for soil that settles", 1, 2).or(1.25)},
			Outputs: []Field{out("atOriginM", "m", "plane at 0, 0"), out("fallXPct", "%", "along x"), out("fallYPct", "%", "along y"), out("cutM3", "m³", "cut"), out("fillM3", "m³", "fill"), out("loweredMm", "mm", "for the ratio"), out("cutForM3", "m³", "cut then")},
			run: func(in values, r *Result) error {
				var ls []earthwork.Level
				for _, e := range in.rows("levels") {
					ls = append(ls, earthwork.Level{X: e.num("xM"), Y: e.num("yM"), Z: e.num("zM")})
				}
				p, err := earthwork.BestPlane(ls)
				if err != nil {
					return prefix(err)
				}
				cut, fill := earthwork.CutFill(ls, p, in.num("cellM2"))
				d, err := earthwork.Lower(ls, p, in.num("cellM2"), in.num("ratio"))
				if err != nil {
					return prefix(err)
				}
				c2, _ := earthwork.CutFill(ls, earthwork.Plane{A: p.A - d, B: p.B, C: p.C}, in.num("cellM2"))
				r.Outputs["atOriginM"], r.Outputs["fallXPct"], r.Outputs["fallYPct"], r.Outputs["cutM3"], r.Outputs["fillM3"], r.Outputs["loweredMm"], r.Outputs["cutForM3"] = p.A, 100*p.B, 100*p.C, cut, fill, 1000*d, c2
				r.tell(working.Series, "cutM3", "Cut", "Σ max(0, z − plane)·cell", "", cut, "m³", "least squares")
				return nil
			}},
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
