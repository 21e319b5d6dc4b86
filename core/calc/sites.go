package calc

import (
	"fmt"
	"math"

	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/rotation"
	"slowroot/core/suitability"
	"slowroot/core/terrain"
	"slowroot/core/units"
	"slowroot/core/working"
)

func waiting() Calculator {
	var kinds []string
	for _, k := range rotation.Kinds {
		kinds = append(kinds, k.Kind)
	}
	return Calculator{Name: "waiting-time", Title: "Waiting time after earlier crops", Source: "method SITE-3, common practice, no source",
		Purpose: "The earliest safe planting after what the ground carried.",
		Inputs: []Field{choice("crop", "crop to be planted", practice.Crops()...).or("strawberry"), {Name: "uses", Kind: Table, Meaning: "earlier uses",
			Columns: []Field{choice("kind", "use", kinds...), {Name: "end", Kind: Day, Meaning: "when it ended; empty while it is there", Optional: true},
				whole("labelMonths", "months", "plant-back on the label", 0, 60).or(0.0)},
			Default: []any{map[string]any{"kind": "wilt-host", "end": "2024-09-01", "labelMonths": 0.0}, map[string]any{"kind": "herbicide", "end": "2025-03-01",
				"labelMonths": 12.0}}}, {Name: "today", Kind: Day, Meaning: "counted from, for what still stands", Default: "2026-01-01"}},
		Outputs: []Field{words("earliest", "by those who wait least"), words("latest", "by those who wait longest"), words("why", "what decides"),
			words("shorten", "what shortens it")},
		run: func(in values, r *Result) error {
			var uses []rotation.Use
			for _, u := range in.rows("uses") {
				uses = append(uses, rotation.Use{Kind: u.str("kind"), End: u.day("end"), Months: u.int("labelMonths")})
			}
			sheet, err := practice.One(in.str("crop"))
			if err != nil {
				return err
			}
			w, early, late, at := rotation.Waits(uses, sheet.Waits, in.day("today"), rotation.Fumigation{})
			r.Outputs["earliest"], r.Outputs["latest"], r.Outputs["why"], r.Outputs["shorten"] = "now", "now", "nothing stands in the way", ""
			if at >= 0 {
				r.Outputs["earliest"], r.Outputs["latest"], r.Outputs["why"], r.Outputs["shorten"] = early.String(), late.String(), w[at].Why, w[at].Shorten
			}
			r.tell(working.Rule, "earliest", "Earliest planting", "latest of (end + wait) over all uses", fmt.Sprintf("%d waits", len(w)), 0, "",
				"common practice, no source")
			return nil
		}}
}

func factorRating() Calculator {
	return Calculator{Name: "factor-rating", Title: "Rating of one factor", Source: "method SOIL-6; FAO, Soils Bulletin 32, 1976",
		Purpose: "How a measured value rates between the class edges of a crop.",
		Inputs: []Field{number("value", "", "measured", -1e4, 1e5).or(6.8), number("s1", "", "end of S1", -1e4, 1e5).or(6.5), number("s2", "", "end of S2", -1e4,
			1e5).or(7.0), number("s3", "", "end of S3", -1e4, 1e5).or(7.5), number("n1", "", "end of N1", -1e4, 1e5).or(8.0)},
		Outputs: []Field{out("rating", "%", "0 to 100"), words("class", "S1 to N")},
		run: func(in values, r *Result) error {
			e := [4]float64{in.num("s1"), in.num("s2"), in.num("s3"), in.num("n1")}
			up, down := e[0] < e[1] && e[1] < e[2] && e[2] < e[3], e[0] > e[1] && e[1] > e[2] && e[2] > e[3]
			if !up && !down {
				return finding.Bad("inputs.s1", fmt.Sprint(e), "the edges do not run one way", "four edges rising, or four falling")
			}
			v := suitability.Interpolate(in.num("value"), e)
			r.Outputs["rating"], r.Outputs["class"] = v, string(suitability.ClassOf(v, true))
			r.tell(working.Lookup, "rating", "Rating", "linear between 85, 60, 40 and 25 at the class edges", fmt.Sprintf("%g between %v", in.num("value"), e), v, "%",
				"rating ranges from memory: Sys, Van Ranst & Debaveye, 1991")
			return nil
		}}
}

func suitabilityClass() Calculator {
	return Calculator{Name: "suitability", Title: "Suitability by limiting factor", Source: "method SOIL-6; FAO, Soils Bulletin 32, 1976",
		Purpose: "Three schools of putting factor ratings together.",
		Inputs:  []Field{{Name: "ratings", Kind: Numbers, Unit: "%", Meaning: "rating of each factor", Min: 0, Max: 100, Default: []float64{95, 85, 70, 55, 90}}},
		Outputs: []Field{words("class", "limiting factor: the worst decides"), whole("limiting", "", "which rating that is, from 1", 1, 99),
			out("squareRoot", "", "square-root index"), words("squareRootClass", "its class"), out("product", "", "product index")},
		run: func(in values, r *Result) error {
			l := in.list("ratings")
			i := suitability.Limiting(l)
			if i < 0 {
				return finding.Bad("inputs.ratings", "", "nothing is rated", "one rating or more")
			}
			sq := suitability.SquareRoot(l)
			r.Outputs["class"], r.Outputs["limiting"], r.Outputs["squareRoot"], r.Outputs["squareRootClass"], r.Outputs["product"] = string(suitability.ClassOf(l[i],
				true)), i+1, sq, string(suitability.IndexClass(sq)), suitability.Product(l)
			r.tell(working.Series, "squareRoot", "Square root", "R min · √Π(other R / 100)", fmt.Sprint(l), sq, "", "from memory: Khiddir 1986, in Sys et al. 1991")
			return nil
		}}
}

func frostPocket() Calculator {
	return Calculator{Name: "frost-pocket", Title: "Cold air and frost pocket", Source: "method SITE-1, common practice, no source",
		Purpose: "Whether cold air gathers at a place on clear calm nights.",
		Inputs: []Field{number("relief", "share", "height in the relief within 500 m, 0 lowest", 0, 1).or(0.1), number("tpi500M", "m",
			"height over the mean within 500 m", -500, 500).or(-3.0), number("slopePct", "%", "slope down to the outlet", 0, 200).or(0.8), number("hollowM", "m",
			"depth of a closed hollow", 0, 100).or(0.0),
			choice("barrierBelow", "dense barrier across the fall line below", "none", "closed", "with a gap kept").or("none"), number("barrierHeights", "heights",
				"how far below, in barrier heights", 0, 1000).or(8.0), choice("longSlopeAbove", "over 300 m of open slope above", "no", "yes").or("no"),
			choice("waterBelow", "open water of 5 ha within 300 m below", "no", "yes").or("no"), number("reliefM", "m", "height over the lowest ground around", 0,
				1000).or(20.0)},
		Outputs: []Field{whole("score", "", "points", -5, 20), words("judgement", "low, moderate, high or pocket"), out("colderLowC", "°C",
			"colder than ground 10 m higher, low"), out("colderHighC", "°C", "and high")},
		run: func(in values, r *Result) error {
			c := terrain.Cold{Relief: in.num("relief"), TPI500: in.num("tpi500M"), SlopePct: in.num("slopePct"), HollowM: in.num("hollowM"),
				LongSlope: in.str("longSlopeAbove") == "yes", WaterBelow: in.str("waterBelow") == "yes", ReliefM: in.num("reliefM")}
			if b := in.str("barrierBelow"); b != "none" {
				c.Dammed, c.DammedBy = &terrain.Barrier{Kind: "barrier", HeightM: 1, Gap: b != "closed"}, in.num("barrierHeights")
			}
			j := c.Judge()
			r.Outputs["score"], r.Outputs["judgement"], r.Outputs["colderLowC"], r.Outputs["colderHighC"] = j.Score, j.Word, 0.05*math.Min(60, c.ReliefM),
				0.15*math.Min(60, c.ReliefM)
			r.tell(working.Rule, "score", "Signs", "points of the signs, added", j.Text(func(m float64) string { return units.Text(m, units.Height, units.Metric) }),
				float64(j.Score), "", "common practice, no source")
			return nil
		}}
}

func slopeClass() Calculator {
	return Calculator{Name: "slope-class", Title: "Slope class", Source: "method SITE-2; FAO, Guidelines for soil description, 2006",
		Purpose: "What a slope is called and asks for.",
		Inputs:  []Field{number("slopePct", "%", "slope", 0, 500).or(8.0)}, Outputs: []Field{words("class", "FAO class"), words("works", "what it asks for"),
			words("machine", "what it means for machines"), out("lengthFactor", "", "wire and pipe over plan length along the fall")},
		run: func(in values, r *Result) error {
			p := in.num("slopePct")
			c := terrain.ClassOfSlope(p)
			r.Outputs["class"], r.Outputs["works"], r.Outputs["machine"], r.Outputs["lengthFactor"] = c.Name, c.Works, c.Machine, terrain.AlongSlope(p)
			r.show("lengthFactor", "Length along the fall", "√(1 + s²)", fmt.Sprintf("√(1 + %g²)", p/100), terrain.AlongSlope(p), "", "geometry")
			return nil
		}}
}

func benchTerrace() Calculator {
	return Calculator{Name: "bench-terrace", Title: "Bench terrace", Source: "method SITE-2; Sheng, FAO Soils Bulletin 60, 1989",
		Purpose: "How far apart benches lie and how much soil is moved.",
		Inputs: []Field{number("slopePct", "%", "slope of the ground", 0.1, 200).or(20.0), number("benchM", "m", "width of a bench", 0.2, 50).or(3.0),
			number("riser", "", "riser, horizontal over vertical: 1.0 machine, 0.75 hand, 0.5 stone", 0, 3).or(0.75)},
		Outputs: []Field{out("intervalM", "m", "vertical interval"), out("pitchM", "m", "bench to bench, level"), out("benchShare", "share", "level ground"),
			out("cutM3PerM", "m³/m", "cut a metre of bench"), out("cutM3PerHa", "m³/ha", "cut a hectare"), out("riserM", "m", "riser with the reverse slope")},
		run: func(in values, r *Result) error {
			t, err := terrain.NewTerrace(in.num("slopePct"), in.num("benchM"), in.num("riser"))
			if err != nil {
				return prefix(err)
			}
			r.Outputs["intervalM"], r.Outputs["pitchM"], r.Outputs["benchShare"], r.Outputs["cutM3PerM"], r.Outputs["cutM3PerHa"], r.Outputs["riserM"] = t.IntervalM,
				t.PitchM, t.BenchShare, t.CutM3PerM, t.CutM3PerHa, t.RiserM
			r.show("intervalM", "Vertical interval", "S·W / (100 − S·U)", fmt.Sprintf("%g·%g / (100 − %g·%g)", in.num("slopePct"), in.num("benchM"),
				in.num("slopePct"), in.num("riser")), t.IntervalM, "m", "Sheng, FAO Soils Bulletin 60, 1989")
			return nil
		}}
}
