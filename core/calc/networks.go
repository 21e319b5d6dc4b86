package calc

import (
	"fmt"
	"math"

	"slowroot/core/drainage"
	"slowroot/core/earthwork"
	"slowroot/core/finding"
	"slowroot/core/working"
)

func drainQuantities() Calculator {
	return Calculator{Name: "drain-quantities", Title: "Stone, trench and spoil of drains", Source: "method DRN-9; closed forms",
		Purpose: "What a length of drain takes.",
		Inputs: []Field{number("lengthM", "m", "drain", 1, 100000).or(1200.0), number("trenchM", "m", "width of the trench", 0.1, 2).or(0.35),
			number("depthM", "m", "depth", 0.2, 4).or(1.0), number("boxWidthM", "m", "stone", 0, 2).or(0.3), number("boxHeightM", "m", "stone", 0, 2).or(0.3),
			number("pipeM", "m", "outside diameter", 0.03, 0.6).or(0.09), number("wastePct", "%", "waste", 0, 50).or(8.0)},
		Outputs: []Field{out("trenchM3", "m³", "trench"), out("looseM3", "m³", "loose"), out("stoneM3", "m³", "stone with waste")},
		run: func(in values, r *Result) error {
			switch {
			case in.num("boxWidthM") > in.num("trenchM"):
				return finding.Bad("inputs.boxWidthM", in.num("boxWidthM"), "the stone is wider than its trench", fmt.Sprintf("at most %g m", in.num("trenchM")))
			case in.num("boxHeightM") > in.num("depthM"):
				return finding.Bad("inputs.boxHeightM", in.num("boxHeightM"), "the stone stands higher than the trench is deep", fmt.Sprintf("at most %g m",
					in.num("depthM")))
			case in.num("pipeM") > in.num("trenchM"):
				return finding.Bad("inputs.pipeM", in.num("pipeM"), "the pipe is wider than its trench", fmt.Sprintf("at most %g m", in.num("trenchM")))
			}
			v := in.num("lengthM") * in.num("trenchM") * in.num("depthM")
			s := in.num("lengthM") * drainage.EnvelopeM3(in.num("boxWidthM"), in.num("boxHeightM"), in.num("pipeM")) * (1 + in.num("wastePct")/100)
			r.Outputs["trenchM3"], r.Outputs["looseM3"], r.Outputs["stoneM3"] = v, 1.25*v, s
			if in.num("depthM") >= 1.2 {
				r.warn("drain.deep", "Trench", "1.2 m and deeper: shore or batter by the local code, nobody in it alone, spoil well off the edge, services found first.",
					"common practice, no source")
			}
			r.show("stoneM3", "Stone", "(w·h − π·d²/4)·length·(1 + waste)", fmt.Sprintf("max(0, %g·%g − π·%g²/4)·%g·(1 + %g/100)", in.num("boxWidthM"),
				in.num("boxHeightM"), in.num("pipeM"), in.num("lengthM"), in.num("wastePct")), s, "m³", "closed form")
			return nil
		}}
}

func longSection() Calculator {
	return Calculator{Name: "long-section", Title: "Long section of a pipe", Source: "method DRN-10",
		Purpose: "Cuts, cover, the steepest grade that keeps the cover, and the trench.",
		Inputs: []Field{{Name: "ground", Kind: Table, Meaning: "from the outlet upstream", Columns: []Field{number("sM", "m", "chainage", 0, 10000),
			number("groundM", "m", "level", -500, 9000)}, Default: []any{map[string]any{"sM": 0.0, "groundM": 100.90}, map[string]any{"sM": 40.0, "groundM": 101.00},
			map[string]any{"sM": 80.0, "groundM": 101.05}, map[string]any{"sM": 120.0, "groundM": 101.30}}}, number("outletM", "m", "invert at the outlet", -500,
			9000).or(100.0), number("gradePct", "%", "grade", 0.01, 20).or(0.4), number("pipeM", "m", "outside diameter", 0.03, 1).or(0.09),
			number("coverM", "m", "least cover", 0.1, 3).or(0.6), number("trenchM", "m", "width of the trench", 0.1, 2).or(0.35)},
		Outputs: []Field{out("steepestPct", "%", "that keeps the cover"), out("atM", "m", "decides"), series("cutsM", "m", "ground less invert"),
			out("trenchM3", "m³", "trench")},
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
				return finding.Bad("inputs.outletM", in.num("outletM"), fmt.Sprintf("the pipe would lie above the ground at the outlet, %g m", pts[0].Ground),
					"an invert below the ground by the pipe at least")
			}
			s := drainage.LongSection(pts, in.num("outletM"), in.num("gradePct")/100, in.num("pipeM"), in.num("coverM"))
			var cuts []float64
			for _, p := range s.Points {
				cuts = append(cuts, p.Cut)
			}
			if s.Most < s.Grade {
				r.warn("drain.cover", "Cover", fmt.Sprintf("At %.0f m less than %.2f m of cover is left: at most %.3f %%.", s.At, in.num("coverM"), 100*s.Most),
					"method DRN-10")
			}
			r.Outputs["steepestPct"], r.Outputs["atM"], r.Outputs["cutsM"], r.Outputs["trenchM3"] = 100*s.Most, s.At, cuts, s.TrenchM3(in.num("trenchM"))
			r.tell(working.Search, "steepestPct", "Steepest grade", "min over points of (ground − pipe − cover − outlet)/s", fmt.Sprintf("at %.0f m", s.At),
				100*s.Most, "%", "method DRN-10")
			return nil
		}}
}

func drainNetwork() Calculator {
	return Calculator{Name: "drain-network", Title: "Drains on a rectangle", Source: "method DRN-11",
		Purpose: "Laterals, metres and flow of a gridiron or herringbone on a rectangle.",
		Inputs: []Field{number("lengthM", "m", "up the slope", 10, 2000).or(200.0), number("widthM", "m", "across", 10, 2000).or(120.0), number("spacingM", "m",
			"of laterals", 2, 200).or(20.0), choice("pattern", "pattern", "gridiron", "herringbone").or("gridiron"), number("angleDeg", "°",
			"at the collector, herringbone", 30, 60).or(60.0), number("qMmDay", "mm/day", "discharge", 0.1, 50).or(7.0), number("slopePct", "%", "of the ground", 0,
			20).or(0.5)},
		Outputs: []Field{whole("laterals", "", "pieces", 0, 1e5), out("lateralM", "m", "together"), out("collectorM", "m", "collector"),
			out("flowLS", "L/s", "at the outlet"), out("missedM2", "m²", "reached by no drain")},
		run: func(in values, r *Result) error {
			w, h := in.num("lengthM"), in.num("widthM")
			l := drainage.Layout{Collector: []drainage.XY{{0, 0}, {0, h}}, SpacingM: in.num("spacingM"), AngleDeg: 90}
			if in.str("pattern") == "herringbone" {
				l.Collector, l.AngleDeg = []drainage.XY{{0, h / 2}, {w, h / 2}}, in.num("angleDeg")
			}
			s := in.num("slopePct") / 100
			n, err := drainage.Design([][]drainage.XY{{{0, 0}, {w, 0}, {w, h}, {0, h}}}, l, drainage.Task{Ground: func(x, y float64) float64 {
				return 100 + s*x +
					0.003*y
			}, Q: in.num("qMmDay") / 1000, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
			if err != nil {
				return prefix(err)
			}
			b := n.Quantities(0.35, 0.3, 0.3)
			missed := 0.0
			for _, m := range n.Missed {
				missed += m.AreaM2
			}
			r.Outputs["laterals"], r.Outputs["lateralM"], r.Outputs["collectorM"], r.Outputs["flowLS"], r.Outputs["missedM2"] = len(n.Laterals), b.LateralM,
				b.CollectorM, 1000*n.FlowM3S, missed
			r.tell(working.Count, "lateralM", "Laterals", "every spacing / sin α along the collector, to the edge less half a spacing", fmt.Sprintf("%d pieces",
				len(n.Laterals)), b.LateralM, "m", "method DRN-11")
			return nil
		}}
}

func interceptor() Calculator {
	return Calculator{Name: "interceptor", Title: "What an interceptor catches", Source: "method DRN-13, Darcy", Purpose: "Flow into a drain across a slope.",
		Inputs: []Field{number("kMDay", "m/day", "permeability", 0.001, 50).or(1.2), number("slopePct", "%", "slope", 0.1, 100).or(6.0),
			number("thickM", "m", "of the flow above the layer", 0.05, 10).or(0.9), number("aboveM", "m", "drain above the layer", 0, 10).or(0.0),
			number("lengthM", "m", "drain", 1, 5000).or(150.0)}, Outputs: []Field{out("m3DayM", "m³/day", "for each metre"), out("flowLS", "L/s", "together")},
		run: func(in values, r *Result) error {
			q := drainage.Interceptor(in.num("kMDay"), in.num("slopePct")/100, in.num("thickM"), in.num("aboveM"))
			r.Outputs["m3DayM"], r.Outputs["flowLS"] = q, q*in.num("lengthM")/86.4
			r.show("m3DayM", "Catch", "K·s·max(0, y − a)", fmt.Sprintf("%g·%g/100·max(0, %g − %g)", in.num("kMDay"), in.num("slopePct"), in.num("thickM"),
				in.num("aboveM")), q, "m³/day for each metre", "Darcy")
			return nil
		}}
}

func raisedBed() Calculator {
	return Calculator{Name: "raised-bed", Title: "Raised bed", Source: "methods BED-1, BED-2 and DRN-12, closed forms",
		Purpose: "Soil of a bed, the furrow that gives it, the root room it adds, the film over it.",
		Inputs: []Field{number("baseM", "m", "base", 0.2, 5).or(0.80), number("topM", "m", "top", 0.1, 5).or(0.74), number("heightM", "m",
			"above the furrow floor", 0.05, 1.5).or(0.25), number("crownM", "m", "of the middle over the shoulders", 0, 0.5).or(0.04), number("centreM", "m",
			"between bed centres", 0.5, 12).or(1.50), number("loosening", "", "loose over firm; 1 once settled", 1, 1.4).or(1.0),
			number("edgeM", "m", "film buried at each side", 0, 0.5).or(0.18)},
		Outputs: []Field{out("sectionM2", "m³/m", "soil"), out("bedMPerHa", "m/ha", "bed"), out("m3PerHa", "m³/ha", "soil above the furrow floor"),
			out("movedM3PerHa", "m³/ha", "of it dug from the furrows"), whole("passes", "", "of the machine", 1, 100), out("hoursPerHa", "h/ha",
				"of the machine, rate from memory"), out("furrowM", "m", "below the old surface"), out("aboveM", "m", "bed above it"),
			out("riseM", "m", "mean root room added"), out("filmM", "m", "width needed"), out("buyM", "m", "width sold")},
		run: func(in values, r *Result) error {
			b := earthwork.Bed{BaseM: in.num("baseM"), TopM: in.num("topM"), HeightM: in.num("heightM"), CrownM: in.num("crownM"), CentreM: in.num("centreM")}
			if err := b.Valid(); err != nil {
				return prefix(err)
			}
			x, h, _, _ := b.Furrow(in.num("loosening"))
			moved, passes, hours := b.Shaping(b.PerHa())
			r.Outputs["movedM3PerHa"], r.Outputs["passes"], r.Outputs["hoursPerHa"] = moved, passes, hours
			need, buy := b.FilmM(in.num("edgeM"))
			r.Outputs["sectionM2"], r.Outputs["bedMPerHa"], r.Outputs["m3PerHa"], r.Outputs["furrowM"], r.Outputs["aboveM"], r.Outputs["riseM"], r.Outputs["filmM"],
				r.Outputs["buyM"] = b.AreaM2(), b.PerHa(), b.AreaM2()*b.PerHa(), x, h, b.Rise(in.num("loosening")), need, buy
			r.show("sectionM2", "Section", "H·(B + T)/2 + T·k/2", fmt.Sprintf("%g·(%g + %g)/2 + %g·%g/2", b.HeightM, b.BaseM, b.TopM, b.TopM, b.CrownM), b.AreaM2(),
				"m³/m", "closed form")
			r.tell(working.Search, "furrowM", "Furrow", "fill(x) = s·cut(x)", "", x, "m", "closed form")
			r.show("movedM3PerHa", "Dug from the furrows", "cut(x)·metres, settled", fmt.Sprintf("%.6f · %.4f", moved/b.PerHa(), b.PerHa()), moved, "m³/ha",
				"closed form")
			r.show("hoursPerHa", "Machine", "⌈cut/0.10⌉·metres/3700", fmt.Sprintf("⌈%.6f/0.10⌉·%.4f/3700", moved/b.PerHa(), b.PerHa()), hours, "h/ha", "from memory")
			return nil
		}}
}

func ridgeAndFurrow() Calculator {
	return Calculator{Name: "ridge-and-furrow", Title: "Ridge and furrow", Source: "method BED-4, closed forms",
		Purpose: "Soil moved and plants with a row on both edges of each ridge.",
		Inputs: []Field{number("ridgeM", "m", "ridge", 0.1, 5).or(0.6), number("furrowM", "m", "furrow at the surface", 0.1, 5).or(0.6),
			number("depthM", "m", "deep", 0.02, 1).or(0.15), number("side", "", "side slope, horizontal to 1", 0, 3).or(0.5), number("inRowM", "m", "between plants",
				0.05, 5).or(0.22)}, Outputs: []Field{out("plantsPerHa", "/ha", "plants"), out("m3PerHa", "m³/ha", "soil moved")},
		run: func(in values, r *Result) error {
			g := earthwork.Ridges{RidgeM: in.num("ridgeM"), FurrowM: in.num("furrowM"), DepthM: in.num("depthM"), Side: in.num("side")}
			if err := g.Valid(); err != nil {
				return prefix(err)
			}
			r.Outputs["plantsPerHa"], r.Outputs["m3PerHa"] = g.PlantsPerHa(in.num("inRowM")), g.FurrowM3PerHa()
			r.show("m3PerHa", "Furrows", "(W − z·d)·d·10 000/pitch", fmt.Sprintf("(%g − %g·%g)·%g·10 000/%g", g.FurrowM, g.Side, g.DepthM, g.DepthM, g.PitchM()),
				g.FurrowM3PerHa(), "m³/ha", "closed form")
			return nil
		}}
}

func levelling() Calculator {
	return Calculator{Name: "levelling", Title: "Levelling", Source: "method BED-5, least squares",
		Purpose: "The best plane through heights, and the earth moved to it with a wanted ratio of cut to fill.",
		Inputs: []Field{{Name: "levels", Kind: Table, Meaning: "heights", Columns: []Field{number("xM", "m", "east", -1e4, 1e4), number("yM", "m", "north", -1e4,
			1e4), number("zM", "m", "height", -500, 9000)}, Default: exampleLevels()}, number("cellM2", "m²", "each stands for", 1, 1e5).or(400.0),
			number("ratio", "", "cut over fill, for soil that settles", 1, 2).or(1.25)},
		Outputs: []Field{out("atOriginM", "m", "plane at 0, 0"), out("fallXPct", "%", "along x"), out("fallYPct", "%", "along y"), out("cutM3", "m³", "cut"),
			out("fillM3", "m³", "fill"), out("loweredMm", "mm", "for the ratio"), out("cutForM3", "m³", "cut then")},
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
			r.Outputs["atOriginM"], r.Outputs["fallXPct"], r.Outputs["fallYPct"], r.Outputs["cutM3"], r.Outputs["fillM3"], r.Outputs["loweredMm"],
				r.Outputs["cutForM3"] = p.A, 100*p.B, 100*p.C, cut, fill, 1000*d, c2
			r.tell(working.Series, "cutM3", "Cut", "Σ max(0, z − plane)·cell", "", cut, "m³", "least squares")
			return nil
		}}
}
