package calc

import (
	"fmt"
	"math"
	"sort"
	"strings"

	"slowroot/core/amend"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/rotation"
	"slowroot/core/soil"
	"slowroot/core/suitability"
	"slowroot/core/terrain"
	"slowroot/core/units"
	"slowroot/core/working"
)

// number and its fellows shorten the description of inputs and outputs.
func number(name, unit, meaning string, lo, hi float64) Field {
	return Field{Name: name, Kind: Number, Unit: unit, Meaning: meaning, Min: lo, Max: hi}
}
func whole(name, unit, meaning string, lo, hi float64) Field {
	return Field{Name: name, Kind: Integer, Unit: unit, Meaning: meaning, Min: lo, Max: hi}
}
func choice[T ~string](name, meaning string, options ...T) Field {
	f := Field{Name: name, Kind: Choice, Meaning: meaning}
	for _, o := range options {
		f.Options = append(f.Options, string(o))
	}
	return f
}
func out(name, unit, meaning string) Field {
	return Field{Name: name, Kind: Number, Unit: unit, Meaning: meaning}
}
func words(name, meaning string) Field { return Field{Name: name, Kind: Text, Meaning: meaning} }
func series(name, unit, meaning string) Field {
	return Field{Name: name, Kind: Numbers, Unit: unit, Meaning: meaning}
}
func (f Field) or(v any) Field { f.Default = v; return f }
func (f Field) maybe() Field   { f.Optional = true; return f }

// show adds a line of working.
func (r *Result) show(figure, label, formula, sub string, v float64, unit, source string) {
	r.tell(working.Arithmetic, figure, label, formula, sub, v, unit, source)
}

// tell adds a step of any kind.
func (r *Result) tell(kind working.Kind, figure, label, formula, sub string, v float64, unit, source string) {
	r.Working = append(r.Working, working.Step{Figure: figure, Label: label, Kind: kind, Formula: formula, Substituted: sub, Value: v, Unit: unit, Source: source, Inputs: []working.Input{}})
}

// warn adds a finding.
func (r *Result) warn(rule, subject, sentence, source string) {
	r.Findings = append(r.Findings, finding.Finding{Rule: rule, Weight: finding.Watch, Subject: subject, Sentence: sentence, Source: source, Remedies: []finding.Remedy{}})
}

var fractionInputs = []Field{number("sandPct", "%", "sand, 0.05 to 2 mm", 0, 100).or(40.0), number("siltPct", "%", "silt, 0.002 to 0.05 mm", 0, 100).or(40.0), number("clayPct", "%", "clay, below 0.002 mm", 0, 100).or(20.0)}

func (v values) fractions() soil.Fractions {
	return soil.Fractions{SandPct: v.num("sandPct"), SiltPct: v.num("siltPct"), ClayPct: v.num("clayPct")}
}

const handbook18 = "Soil Survey Manual, USDA Handbook 18, 2017, chapter 3"

func soils() []Calculator {
	return []Calculator{
		{Name: "texture-class", Title: "Texture class", Source: "method SOIL-1; " + handbook18, Purpose: "The USDA class of a soil from its sand, silt and clay.",
			Inputs: fractionInputs, Outputs: []Field{words("class", "texture class"), words("group", "coarse to fine")},
			run: func(in values, r *Result) error {
				f := in.fractions()
				c, err := soil.Classify(f)
				if err != nil {
					return prefix(err)
				}
				r.Outputs["class"], r.Outputs["group"] = string(c), c.Group()
				r.tell(working.Rule, "class", "Texture class", "rules of the texture triangle in their order", fmt.Sprintf("sand %g, silt %g, clay %g", f.SandPct, f.SiltPct, f.ClayPct), 0, "", handbook18)
				return nil
			}},
		{Name: "soil-water", Title: "Water a soil holds and lets through", Source: "method SOIL-2; Saxton & Rawls, Soil Sci. Soc. Am. J. 70:1569–1578, 2006", Purpose: "Field capacity, wilting point and conductivity where no laboratory measured them.",
			Inputs:  append(fractionInputs[:3:3], number("omPct", "%", "organic matter by mass", 0, 20).or(2.5), number("densityFactor", "", "0.9 loosened, 1 normal, 1.3 compacted", 0.9, 1.3).or(1.0), number("stonesMass", "share", "gravel, share of the mass", 0, 0.8).or(0.0)),
			Outputs: []Field{out("wiltingPoint", "m³/m³", "at −1500 kPa"), out("fieldCapacity", "m³/m³", "at −33 kPa"), out("saturation", "m³/m³", "all pores"), out("availableWater", "m³/m³", "of the whole soil"), out("densityGCm3", "g/cm³", "bulk density"), out("ksMmH", "mm/h", "conductivity with its stones"), out("ksLowMmH", "mm/h", "by a factor of 2.5 lower"), out("ksHighMmH", "mm/h", "by a factor of 2.5 higher")},
			run: func(in values, r *Result) error {
				w, err := soil.FromTexture(in.fractions(), in.num("omPct"), in.num("densityFactor"), in.num("stonesMass"))
				if err != nil {
					return prefix(err)
				}
				for k, v := range map[string]float64{"wiltingPoint": w.WiltingPoint, "fieldCapacity": w.FieldCapacity, "saturation": w.Saturation, "availableWater": w.Available, "densityGCm3": w.DensityGCm3, "ksMmH": w.BulkKsMmH, "ksLowMmH": w.BulkKsMmH / soil.KsFactor, "ksHighMmH": w.BulkKsMmH * soil.KsFactor} {
					r.Outputs[k] = v
				}
				r.show("availableWater", "Available water", "(field capacity − wilting point) · (1 − stones by volume)", fmt.Sprintf("(%.4f − %.4f) · (1 − %.4f)", w.FieldCapacity, w.WiltingPoint, w.StonesVolume), w.Available, "m³/m³", "Saxton & Rawls, 2006, Table 1")
				r.show("ksMmH", "Conductivity", "1930 · (θs − θ33)^(3 − λ), λ = ln(θ33/θ1500)/ln(1500/33), times what stones leave", fmt.Sprintf("1930 · (%.6f − %.6f)^(3 − ln(%.6f/%.6f)/ln(1500/33)) · %.6f", w.Saturation, w.FieldCapacity, w.FieldCapacity, w.WiltingPoint, w.BulkKsMmH/w.KsMmH), w.BulkKsMmH, "mm/h", "Saxton & Rawls, 2006; a factor of 2 to 3 either way (common practice, no source)")
				if w.OutOfValidity {
					r.warn("soil.out-of-validity", "Soil", "Clay over 60 %, organic matter over 8 % and bare sands lie outside what the estimate was made from: the nearest soil it holds for is taken. Have it measured.", "Saxton & Rawls, 2006")
				}
				return nil
			}},
		{Name: "available-water", Title: "Available water of a layered profile", Source: "method SOIL-3; FAO Irrigation and Drainage Paper 56, 1998, eq. 82", Purpose: "How much water roots can take, layer by layer.",
			Inputs: []Field{{Name: "layers", Kind: Table, Meaning: "layers from the surface down", Columns: []Field{number("topCm", "cm", "top", 0, 500), number("bottomCm", "cm", "bottom", 0, 500), number("fieldCapacity", "m³/m³", "field capacity", 0, 1), number("wiltingPoint", "m³/m³", "wilting point", 0, 1), number("stonesVolume", "share", "stones by volume", 0, 0.9).or(0.0)},
				Default: []any{map[string]any{"topCm": 0.0, "bottomCm": 30.0, "fieldCapacity": 0.28, "wiltingPoint": 0.13, "stonesVolume": 0.05}, map[string]any{"topCm": 30.0, "bottomCm": 60.0, "fieldCapacity": 0.32, "wiltingPoint": 0.19, "stonesVolume": 0.1}, map[string]any{"topCm": 60.0, "bottomCm": 120.0, "fieldCapacity": 0.36, "wiltingPoint": 0.23, "stonesVolume": 0.0}}},
				number("rootCm", "cm", "root depth", 1, 500).or(90.0), number("limitCm", "cm", "depth something stops the roots", 0, 500).maybe(), number("waterTableCm", "cm", "water table, 20 cm above it is left out", 0, 500).maybe()},
			Outputs: []Field{out("mm", "mm", "available water"), out("mmPerM", "mm/m", "mean"), words("class", "very low to high")},
			run: func(in values, r *Result) error {
				var slabs []soil.Slab
				for _, l := range in.rows("layers") {
					slabs = append(slabs, soil.Slab{TopCm: l.num("topCm"), BottomCm: l.num("bottomCm"), FieldCapacity: l.num("fieldCapacity"), WiltingPoint: l.num("wiltingPoint"), StonesVolume: l.num("stonesVolume")})
				}
				depth := in.num("rootCm")
				if in.has("limitCm") {
					depth = math.Min(depth, in.num("limitCm"))
				}
				if in.has("waterTableCm") {
					depth = math.Max(0, math.Min(depth, in.num("waterTableCm")-20))
				}
				mm, err := soil.AvailableMM(slabs, depth)
				if err != nil {
					return prefix(err)
				}
				r.Outputs["mm"], r.Outputs["class"], r.Outputs["mmPerM"] = mm, soil.HeldClass(mm), 0.0
				if depth > 0 {
					r.Outputs["mmPerM"] = mm / depth * 100
				}
				r.tell(working.Series, "mm", "Available water", "Σ 10 · (FC − WP) · (1 − stones) · thickness in cm", fmt.Sprintf("to %g cm", depth), mm, "mm", "FAO 56, eq. 82")
				return nil
			}},
		{Name: "effective-depth", Title: "Effective soil depth", Source: "method SOIL-4, common practice", Purpose: "What stops the roots first, as found and after the works that remove it.",
			Inputs: []Field{{Name: "barriers", Kind: Table, Meaning: "what stops roots", Columns: []Field{choice("kind", "barrier", "rock", "cemented pan", "plough pan", "compacted layer", "dense clay", "lime-rich layer", "waterlogging", "gravel"), number("depthCm", "cm", "where it begins", 0, 500), choice("removed", "are works scheduled that remove it?", "no", "yes").or("no")},
				Default: []any{map[string]any{"kind": "rock", "depthCm": 140.0, "removed": "no"}, map[string]any{"kind": "plough pan", "depthCm": 45.0, "removed": "yes"}, map[string]any{"kind": "dense clay", "depthCm": 95.0, "removed": "no"}}}, number("pitBottomCm", "cm", "how deep the pit was", 10, 500).or(150.0)},
			Outputs: []Field{out("asFoundCm", "cm", "as found"), out("afterWorksCm", "cm", "after works"), words("limiting", "what limits after works"), words("class", "depth class after works")},
			run: func(in values, r *Result) error {
				var bs []soil.Barrier
				gone := map[string]bool{}
				for _, b := range in.rows("barriers") {
					k := b.str("kind")
					can := k == "plough pan" || k == "compacted layer" || k == "cemented pan" || k == "waterlogging"
					if b.str("removed") == "yes" && !can {
						return finding.Bad("inputs.barriers", k, "cannot be removed by any work", "no for rock, dense clay, lime-rich layers and gravel")
					}
					gone[fmt.Sprint(k, b.num("depthCm"))] = b.str("removed") == "yes"
					bs = append(bs, soil.Barrier{Kind: k, DepthCm: b.num("depthCm"), Removable: can})
				}
				sort.SliceStable(bs, func(i, j int) bool { return bs[i].DepthCm < bs[j].DepthCm })
				found, _ := soil.Effective(bs, in.num("pitBottomCm"), nil)
				after, lim := soil.Effective(bs, in.num("pitBottomCm"), func(b soil.Barrier) bool { return gone[fmt.Sprint(b.Kind, b.DepthCm)] })
				r.Outputs["asFoundCm"], r.Outputs["afterWorksCm"], r.Outputs["class"], r.Outputs["limiting"] = found, after, soil.DepthClass(after), "nothing seen"
				if lim != nil {
					r.Outputs["limiting"] = lim.Kind
				}
				r.tell(working.Rule, "afterWorksCm", "Effective depth", "shallowest barrier that is not removed", fmt.Sprint(r.Outputs["limiting"]), after, "cm", "method SOIL-4, common practice")
				return nil
			}},
		drainageClass(),
		{Name: "factor-rating", Title: "Rating of one factor", Source: "method SOIL-6; FAO, Soils Bulletin 32, 1976", Purpose: "How a measured value rates between the class edges of a crop.",
			Inputs:  []Field{number("value", "", "measured", -1e4, 1e5).or(6.8), number("s1", "", "end of S1", -1e4, 1e5).or(6.5), number("s2", "", "end of S2", -1e4, 1e5).or(7.0), number("s3", "", "end of S3", -1e4, 1e5).or(7.5), number("n1", "", "end of N1", -1e4, 1e5).or(8.0)},
			Outputs: []Field{out("rating", "%", "0 to 100"), words("class", "S1 to N")},
			run: func(in values, r *Result) error {
				e := [4]float64{in.num("s1"), in.num("s2"), in.num("s3"), in.num("n1")}
				up, down := e[0] < e[1] && e[1] < e[2] && e[2] < e[3], e[0] > e[1] && e[1] > e[2] && e[2] > e[3]
				if !up && !down {
					return finding.Bad("inputs.s1", fmt.Sprint(e), "the edges do not run one way", "four edges rising, or four falling")
				}
				v := suitability.Interpolate(in.num("value"), e)
				r.Outputs["rating"], r.Outputs["class"] = v, string(suitability.ClassOf(v, true))
				r.tell(working.Lookup, "rating", "Rating", "linear between 85, 60, 40 and 25 at the class edges", fmt.Sprintf("%g between %v", in.num("value"), e), v, "%", "rating ranges from memory: Sys, Van Ranst & Debaveye, 1991")
				return nil
			}},
		{Name: "suitability", Title: "Suitability by limiting factor", Source: "method SOIL-6; FAO, Soils Bulletin 32, 1976", Purpose: "Three schools of putting factor ratings together.",
			Inputs:  []Field{{Name: "ratings", Kind: Numbers, Unit: "%", Meaning: "rating of each factor", Min: 0, Max: 100, Default: []float64{95, 85, 70, 55, 90}}},
			Outputs: []Field{words("class", "limiting factor: the worst decides"), whole("limiting", "", "which rating that is, from 1", 1, 99), out("squareRoot", "", "square-root index"), words("squareRootClass", "its class"), out("product", "", "product index")},
			run: func(in values, r *Result) error {
				l := in.list("ratings")
				i := suitability.Limiting(l)
				if i < 0 {
					return finding.Bad("inputs.ratings", "", "nothing is rated", "one rating or more")
				}
				sq := suitability.SquareRoot(l)
				r.Outputs["class"], r.Outputs["limiting"], r.Outputs["squareRoot"], r.Outputs["squareRootClass"], r.Outputs["product"] = string(suitability.ClassOf(l[i], true)), i+1, sq, string(suitability.IndexClass(sq)), suitability.Product(l)
				r.tell(working.Series, "squareRoot", "Square root", "R min · √Π(other R / 100)", fmt.Sprint(l), sq, "", "from memory: Khiddir 1986, in Sys et al. 1991")
				return nil
			}},
		{Name: "frost-pocket", Title: "Cold air and frost pocket", Source: "method SITE-1, common practice, no source", Purpose: "Whether cold air gathers at a place on clear calm nights.",
			Inputs: []Field{number("relief", "share", "height in the relief within 500 m, 0 lowest", 0, 1).or(0.1), number("tpi500M", "m", "height over the mean within 500 m", -500, 500).or(-3.0), number("slopePct", "%", "slope down to the outlet", 0, 200).or(0.8), number("hollowM", "m", "depth of a closed hollow", 0, 100).or(0.0),
				choice("barrierBelow", "dense barrier across the fall line below", "none", "closed", "with a gap kept").or("none"), number("barrierHeights", "heights", "how far below, in barrier heights", 0, 1000).or(8.0), choice("longSlopeAbove", "over 300 m of open slope above", "no", "yes").or("no"), choice("waterBelow", "open water of 5 ha within 300 m below", "no", "yes").or("no"), number("reliefM", "m", "height over the lowest ground around", 0, 1000).or(20.0)},
			Outputs: []Field{whole("score", "", "points", -5, 20), words("judgement", "low, moderate, high or pocket"), out("colderLowC", "°C", "colder than ground 10 m higher, low"), out("colderHighC", "°C", "and high")},
			run: func(in values, r *Result) error {
				c := terrain.Cold{Relief: in.num("relief"), TPI500: in.num("tpi500M"), SlopePct: in.num("slopePct"), HollowM: in.num("hollowM"), LongSlope: in.str("longSlopeAbove") == "yes", WaterBelow: in.str("waterBelow") == "yes", ReliefM: in.num("reliefM")}
				if b := in.str("barrierBelow"); b != "none" {
					c.Dammed, c.DammedBy = &terrain.Barrier{Kind: "barrier", HeightM: 1, Gap: b != "closed"}, in.num("barrierHeights")
				}
				j := c.Judge()
				r.Outputs["score"], r.Outputs["judgement"], r.Outputs["colderLowC"], r.Outputs["colderHighC"] = j.Score, j.Word, 0.05*math.Min(60, c.ReliefM), 0.15*math.Min(60, c.ReliefM)
				r.tell(working.Rule, "score", "Signs", "points of the signs, added", j.Text(func(m float64) string { return units.Text(m, units.Height, units.Metric) }), float64(j.Score), "", "common practice, no source")
				return nil
			}},
		{Name: "slope-class", Title: "Slope class", Source: "method SITE-2; FAO, Guidelines for soil description, 2006", Purpose: "What a slope is called and asks for.",
			Inputs: []Field{number("slopePct", "%", "slope", 0, 500).or(8.0)}, Outputs: []Field{words("class", "FAO class"), words("works", "what it asks for"), words("machine", "what it means for machines"), out("lengthFactor", "", "wire and pipe over plan length along the fall")},
			run: func(in values, r *Result) error {
				p := in.num("slopePct")
				c := terrain.ClassOfSlope(p)
				r.Outputs["class"], r.Outputs["works"], r.Outputs["machine"], r.Outputs["lengthFactor"] = c.Name, c.Works, c.Machine, terrain.AlongSlope(p)
				r.show("lengthFactor", "Length along the fall", "√(1 + s²)", fmt.Sprintf("√(1 + %g²)", p/100), terrain.AlongSlope(p), "", "geometry")
				return nil
			}},
		{Name: "bench-terrace", Title: "Bench terrace", Source: "method SITE-2; Sheng, FAO Soils Bulletin 60, 1989", Purpose: "How far apart benches lie and how much soil is moved.",
			Inputs:  []Field{number("slopePct", "%", "slope of the ground", 0.1, 200).or(20.0), number("benchM", "m", "width of a bench", 0.2, 50).or(3.0), number("riser", "", "riser, horizontal over vertical: 1.0 machine, 0.75 hand, 0.5 stone", 0, 3).or(0.75)},
			Outputs: []Field{out("intervalM", "m", "vertical interval"), out("pitchM", "m", "bench to bench, level"), out("benchShare", "share", "level ground"), out("cutM3PerM", "m³/m", "cut a metre of bench"), out("cutM3PerHa", "m³/ha", "cut a hectare"), out("riserM", "m", "riser with the reverse slope")},
			run: func(in values, r *Result) error {
				t, err := terrain.NewTerrace(in.num("slopePct"), in.num("benchM"), in.num("riser"))
				if err != nil {
					return prefix(err)
				}
				r.Outputs["intervalM"], r.Outputs["pitchM"], r.Outputs["benchShare"], r.Outputs["cutM3PerM"], r.Outputs["cutM3PerHa"], r.Outputs["riserM"] = t.IntervalM, t.PitchM, t.BenchShare, t.CutM3PerM, t.CutM3PerHa, t.RiserM
				r.show("intervalM", "Vertical interval", "S·W / (100 − S·U)", fmt.Sprintf("%g·%g / (100 − %g·%g)", in.num("slopePct"), in.num("benchM"), in.num("slopePct"), in.num("riser")), t.IntervalM, "m", "Sheng, FAO Soils Bulletin 60, 1989")
				return nil
			}},
		waiting(),
	}
}

func drainageClass() Calculator {
	var signs []soil.Sign
	signs = append(append(signs, soil.LayerSigns...), soil.SurfaceSigns...)
	return Calculator{Name: "drainage-class", Title: "Waterlogging marks and drainage class", Source: "method SOIL-5; FAO, Guidelines for soil description, 2006", Purpose: "What the colours in a pit say about wet seasons.",
		Inputs: []Field{{Name: "signs", Kind: Table, Meaning: "signs and the depth where each begins", Columns: []Field{choice("sign", "sign", signs...), number("depthCm", "cm", "where it begins; 0 at the surface", 0, 490)},
			Default: []any{map[string]any{"sign": string(soil.Mottles), "depthCm": 60.0}, map[string]any{"sign": string(soil.Grey), "depthCm": 60.0}}}, number("pitBottomCm", "cm", "how deep the pit was", 5, 500).or(120.0), choice("texture", "texture", soil.Classes...).or(string(soil.Loam)), choice("drained", "was the land drained since?", "no", "yes").or("no")},
		Outputs: []Field{words("class", "drainage class"), out("depthCm", "cm", "where waterlogging begins"), whole("points", "", "points of the signs there", 0, 30), words("confidence", "low, medium or high"), words("reading", "what it means for an orchard"), words("ask", "what would settle it")},
		run: func(in values, r *Result) error {
			bottom := in.num("pitBottomCm")
			depths := map[float64]bool{0: true}
			for _, s := range in.rows("signs") {
				if s.num("depthCm") >= bottom {
					return finding.Bad("inputs.signs", s.num("depthCm"), "lies below the bottom of the pit", fmt.Sprintf("above %g cm", bottom))
				}
				depths[s.num("depthCm")] = true
			}
			var tops []float64
			for d := range depths {
				tops = append(tops, d)
			}
			sort.Float64s(tops)
			p := soil.Pit{Name: "pit", Relict: in.str("drained") == "yes"}
			for i, top := range tops {
				l := soil.Layer{TopCm: top, BottomCm: bottom, Class: soil.Class(in.str("texture")), OMPct: 1}
				if i+1 < len(tops) {
					l.BottomCm = tops[i+1]
				}
				for _, s := range in.rows("signs") {
					sign := soil.Sign(s.str("sign"))
					if sign == soil.Ponding || sign == soil.WetPlants {
						if i == 0 {
							p.Surface = append(p.Surface, sign)
						}
					} else if s.num("depthCm") == top {
						l.Signs = append(l.Signs, sign)
					}
				}
				p.Layers = append(p.Layers, l)
			}
			w := p.Wetness()
			r.Outputs["class"], r.Outputs["depthCm"], r.Outputs["points"], r.Outputs["confidence"], r.Outputs["reading"], r.Outputs["ask"] = string(w.Class), w.DepthCm, w.Points, w.Confidence, w.Class.Reading(), w.Ask
			r.tell(working.Rule, "depthCm", "Where waterlogging begins", "shallowest layer whose signs make 3 points", strings.Join(w.Signs, "; "), w.DepthCm, "cm", "points and limits: common practice, no source; class names: FAO, 2006")
			return nil
		}}
}

func waiting() Calculator {
	var kinds []string
	for _, k := range rotation.Kinds {
		kinds = append(kinds, k.Kind)
	}
	return Calculator{Name: "waiting-time", Title: "Waiting time after earlier crops", Source: "method SITE-3, common practice, no source", Purpose: "The earliest safe planting after what the ground carried.",
		Inputs: []Field{choice("crop", "crop to be planted", practice.Crops()...).or("strawberry"), {Name: "uses", Kind: Table, Meaning: "earlier uses", Columns: []Field{choice("kind", "use", kinds...), {Name: "end", Kind: Day, Meaning: "when it ended; empty while it is there", Optional: true}, whole("labelMonths", "months", "plant-back on the label", 0, 60).or(0.0)},
			Default: []any{map[string]any{"kind": "wilt-host", "end": "2024-09-01", "labelMonths": 0.0}, map[string]any{"kind": "herbicide", "end": "2025-03-01", "labelMonths": 12.0}}}, {Name: "today", Kind: Day, Meaning: "counted from, for what still stands", Default: "2026-01-01"}},
		Outputs: []Field{words("earliest", "by those who wait least"), words("latest", "by those who wait longest"), words("why", "what decides"), words("shorten", "what shortens it")},
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
			r.tell(working.Rule, "earliest", "Earliest planting", "latest of (end + wait) over all uses", fmt.Sprintf("%d waits", len(w)), 0, "", "common practice, no source")
			return nil
		}}
}

func amendments() []Calculator {
	groups := []string{"coarse", "moderately coarse", "medium", "moderately fine", "fine"}
	return []Calculator{
		{Name: "lime-requirement", Title: "Lime requirement by four schools", Source: "method AMD-1; van Raij et al., 1997; Kamprath, 1970", Purpose: "Tonnes of pure CaCO₃ for a treated hectare, by every school the data allow.",
			Inputs:  []Field{number("ph", "", "pH in water", 3, 10).maybe(), number("targetPh", "", "wanted pH", 4, 8).or(6.5), number("bufferPh", "", "buffer pH", 3, 8).maybe(), choice("bufferMethod", "which buffer", "smp", "mehlich").or("smp"), number("cec", "cmolc/dm³", "CEC at pH 7", 0.1, 200).maybe(), number("basePct", "%", "base saturation now", 0, 100).maybe(), number("targetBasePct", "%", "wanted", 0, 100).or(60.0), number("al", "cmolc/dm³", "exchangeable aluminium", 0, 30).maybe(), number("caMg", "cmolc/dm³", "calcium + magnesium", 0, 200).maybe(), number("ecec", "cmolc/dm³", "effective CEC", 0, 200).maybe(), number("alToleratedPct", "%", "Al saturation the crop bears", 0, 100).or(5.0), number("caMgWanted", "cmolc/dm³", "calcium + magnesium wanted", 0, 20).or(2.0), number("clayPct", "%", "clay", 0, 100).or(25.0), choice("textureGroup", "texture", groups...).or("medium"), number("omPct", "%", "organic matter", 0, 100).or(3.0), number("depthCm", "cm", "mixed to", 1, 60).or(20.0)},
			Outputs: []Field{out("baseSaturationTPerHa", "t/ha", "base saturation"), out("targetPhTPerHa", "t/ha", "target pH × lime factor"), out("bufferTPerHa", "t/ha", "buffer pH"), out("aluminiumTPerHa", "t/ha", "aluminium and Ca + Mg"), words("default", "school taken when nobody chose"), out("ratio", "", "largest over smallest")},
			run: func(in values, r *Result) error {
				ns, err := amend.Lime(amend.LimeCase{PH: in.ref("ph"), TargetPH: in.num("targetPh"), BufferPH: in.ref("bufferPh"), BufferMethod: in.str("bufferMethod"), CEC: in.ref("cec"), BasePct: in.ref("basePct"), TargetBase: in.num("targetBasePct"), Al: in.ref("al"), CaMg: in.ref("caMg"), ECEC: in.ref("ecec"), AlTolerated: in.num("alToleratedPct"), CaMgWanted: in.num("caMgWanted"), ClayPct: in.num("clayPct"), TextureGroup: in.str("textureGroup"), OMPct: in.num("omPct"), DepthCm: in.num("depthCm")})
				if err != nil {
					return prefix(err)
				}
				names := map[amend.School]string{amend.BaseSaturation: "baseSaturationTPerHa", amend.TargetPH: "targetPhTPerHa", amend.Buffer: "bufferTPerHa", amend.Aluminium: "aluminiumTPerHa"}
				for _, n := range ns {
					r.Outputs[names[n.School]] = nil
					if n.Lack == "" {
						r.Outputs[names[n.School]] = n.TPerHa
						r.show(names[n.School], string(n.School), n.Formula, n.Substituted, n.TPerHa, "t/ha", n.Source)
					}
				}
				d := amend.Disagreement(ns)
				r.Outputs["default"], r.Outputs["ratio"] = string(amend.Preferred(ns)), d
				if amend.Preferred(ns) == "" {
					return finding.Bad("inputs.ph", "", "no school can answer without a pH, a buffer pH, a cation test or aluminium", "one of them at least")
				}
				if d > 1.5 {
					r.warn("amend.schools-disagree", "Lime", fmt.Sprintf("The schools differ by a factor of %.1f.", d), "method AMD-1")
				}
				return nil
			}},
		{Name: "liming-product", Title: "Liming material", Source: "method AMD-2; molar masses; sieve rule from memory", Purpose: "Tonnes of a real product for tonnes of pure CaCO₃.",
			Inputs:  []Field{number("needTPerHa", "t/ha", "pure CaCO₃ equivalent", 0, 100).or(3.0), number("neutralisingPct", "%", "neutralising value; 0 to take it from the oxides", 0, 180).or(0.0), number("caoPct", "%", "CaO", 0, 100).or(32.0), number("mgoPct", "%", "MgO", 0, 100).or(15.0), number("over2Mm", "%", "over 2 mm", 0, 100).or(5.0), number("to084Mm", "%", "0.84 to 2 mm", 0, 100).or(15.0), number("to030Mm", "%", "0.30 to 0.84 mm", 0, 100).or(30.0), number("below030Mm", "%", "below 0.30 mm", 0, 100).or(50.0), number("moisturePct", "%", "moisture", 0, 90).or(5.0)},
			Outputs: []Field{out("neutralisingValue", "%", "of pure CaCO₃"), out("reactivity", "%", "acting in time"), out("effective", "%", "both together"), out("productTPerHa", "t/ha", "as delivered"), words("kind", "calcitic to dolomitic"), whole("applications", "", "of at most 8 t/ha mixed in", 1, 50)},
			run: func(in values, r *Result) error {
				p := amend.Liming{NeutralisingPct: in.num("neutralisingPct"), CaOPct: in.num("caoPct"), MgOPct: in.num("mgoPct"), MoisturePct: in.num("moisturePct"), Sieves: amend.Sieves{Over2: in.num("over2Mm"), To084: in.num("to084Mm"), To030: in.num("to030Mm"), Below03: in.num("below030Mm")}}
				if err := p.Valid("product"); err != nil {
					return prefix(err)
				}
				if !p.Analysed() {
					return finding.Bad("inputs.neutralisingPct", p.Neutralising(), "the material is not analysed: no rate can be given for it", "neutralising value or oxides, and fineness")
				}
				t := p.Product(in.num("needTPerHa"))
				r.Outputs["neutralisingValue"], r.Outputs["reactivity"], r.Outputs["effective"], r.Outputs["productTPerHa"], r.Outputs["kind"], r.Outputs["applications"] = p.Neutralising(), p.Reactivity(), p.Effective(), t, p.Kind(), amend.Split(t, amend.MostMixedIn)
				r.show("productTPerHa", "Product", "need · 100/NV · 100/reactivity · 100/(100 − moisture)", fmt.Sprintf("%g · 100/%.2f · 100/%.1f · 100/(100 − %g)", in.num("needTPerHa"), p.Neutralising(), p.Reactivity(), p.MoisturePct), t, "t/ha", "method AMD-2; fineness by four sieves, from memory: Brazilian lime rules")
				return nil
			}},
		{Name: "sulphur", Title: "Sulphur to lower pH", Source: "method AMD-3, tables from memory", Purpose: "Elemental sulphur for acid-loving crops, by the texture table and by buffer capacity.",
			Inputs:  []Field{number("ph", "", "pH in water", 3, 10).or(5.8), number("targetPh", "", "wanted", 4, 7).or(4.5), choice("textureGroup", "texture", groups...).or("medium"), number("bufferCapacity", "cmolc/kg", "a pH unit, where measured", 0.1, 30).maybe(), number("densityGCm3", "g/cm³", "bulk density", 0.2, 2).or(1.3), number("depthCm", "cm", "mixed to", 1, 60).or(15.0), number("limePct", "%", "free lime", 0, 100).or(0.0)},
			Outputs: []Field{out("tableKgPerHa", "kg/ha", "by the texture table, depth counted"), out("bufferKgPerHa", "kg/ha", "by buffer capacity"), out("limeKgPerHa", "kg/ha", "eaten by free lime first"), whole("months", "months", "lead time", 0, 24), whole("doses", "", "by the largest single dose", 1, 99)},
			run: func(in values, r *Result) error {
				t, err := amend.SulphurByTable(in.num("ph"), in.num("targetPh"), in.str("textureGroup"))
				if err != nil {
					return prefix(err)
				}
				t *= in.num("depthCm") / 15
				drop := math.Max(0, in.num("ph")-in.num("targetPh"))
				lime := amend.SulphurForLime(in.num("limePct"), in.num("densityGCm3"), in.num("depthCm"))
				r.Outputs["tableKgPerHa"], r.Outputs["bufferKgPerHa"], r.Outputs["limeKgPerHa"], r.Outputs["months"] = t, nil, lime, amend.SulphurMonths(drop)
				need := t
				r.tell(working.Lookup, "tableKgPerHa", "By the table", "linear between the lines of the table · depth / 15", fmt.Sprintf("pH %g to %g", in.num("ph"), in.num("targetPh")), t, "kg/ha", "from memory: US fertiliser-handbook and small-fruit tables")
				if in.has("bufferCapacity") {
					need = amend.SulphurByBuffer(drop, in.num("bufferCapacity"), in.num("densityGCm3"), in.num("depthCm"))
					r.Outputs["bufferKgPerHa"] = need
					r.show("bufferKgPerHa", "By buffer capacity", "16.03 · ΔpH · capacity · density · depth", fmt.Sprintf("16.03 · %g · %g · %g · %g", drop, in.num("bufferCapacity"), in.num("densityGCm3"), in.num("depthCm")), need, "kg/ha", "equivalent mass of sulphur")
				}
				r.Outputs["doses"] = max(1, int(math.Ceil(need/amend.MostSulphur(in.str("textureGroup")))))
				if in.num("limePct") > 0 {
					r.warn("amend.free-lime", "Sulphur", fmt.Sprintf("Free lime eats %.0f kg/ha of sulphur before the pH moves: do not acidify, choose another crop.", lime), "method AMD-3")
				}
				return nil
			}},
		{Name: "gypsum", Title: "Gypsum for sodium", Source: "method AMD-4; USDA Handbook 60, 1954", Purpose: "Gypsum to lower exchangeable sodium, with drainage and leaching water.",
			Inputs:  []Field{number("cec", "cmolc/kg", "CEC", 0.1, 200).or(22.0), number("espPct", "%", "exchangeable sodium", 0, 100).or(18.0), number("targetEspPct", "%", "wanted", 0, 100).or(8.0), number("densityGCm3", "g/cm³", "bulk density", 0.2, 2).or(1.35), number("depthCm", "cm", "depth", 1, 150).or(30.0), number("efficiency", "share", "of the exchange", 0.1, 1).or(0.8), number("purity", "share", "of the product", 0.1, 1).or(0.9), number("ph", "", "pH, where known", 3, 11).or(8.0), number("sar", "", "sodium adsorption ratio, for an estimate", 0, 200).maybe()},
			Outputs: []Field{out("gypsumTPerHa", "t/ha", "gypsum"), out("waterM3PerHa", "m³/ha", "leaching water, 0.45 m³ for a kilogram"), out("sulphurTPerHa", "t/ha", "sulphur instead, in lime-rich soil"), out("espFromSarPct", "%", "exchangeable sodium by the SAR")},
			run: func(in values, r *Result) error {
				g, err := amend.Gypsum(in.num("cec"), in.num("espPct"), in.num("targetEspPct"), in.num("densityGCm3"), in.num("depthCm"), in.num("efficiency"), in.num("purity"), in.num("ph"))
				if err != nil {
					return prefix(err)
				}
				r.Outputs["gypsumTPerHa"], r.Outputs["waterM3PerHa"], r.Outputs["sulphurTPerHa"], r.Outputs["espFromSarPct"] = g, g*450, g*amend.SulphurForGypsum, nil
				if in.has("sar") {
					r.Outputs["espFromSarPct"] = amend.ESPFromSAR(in.num("sar"))
				}
				r.show("gypsumTPerHa", "Gypsum", "0.000861 · ρ · d · CEC · ΔESP / (η · purity)", fmt.Sprintf("0.000861 · %g · %g · %g · %g / (%g · %g)", in.num("densityGCm3"), in.num("depthCm"), in.num("cec"), in.num("espPct")-in.num("targetEspPct"), in.num("efficiency"), in.num("purity")), g, "t/ha", "USDA Handbook 60, 1954")
				return nil
			}},
		organicMatter(),
		{Name: "amendment-basis", Title: "Volume, mass and area of a dose", Source: "method AMD-6, arithmetic", Purpose: "One dose in every unit, for strips, pits or the whole field.",
			Inputs:  []Field{number("litresPerM2", "L/m²", "dose on the treated ground", 0, 500).or(8.0), number("tPerM3", "t/m³", "weighed as spread", 0.05, 2.5).or(0.6), number("stripM", "m", "treated strip", 0.05, 25).or(1.0), number("rowM", "m", "row spacing", 0.1, 25).or(1.5), number("recommendedTPerHa", "t/ha", "rate recommended for treated ground", 0, 1000).or(0.0)},
			Outputs: []Field{out("m3PerTreatedHa", "m³/ha", "of treated ground"), out("tPerTreatedHa", "t/ha", "of treated ground"), out("kgPerM2", "kg/m²", "of treated ground"), out("treatedShare", "share", "of the field"), out("tPerGrossHa", "t/ha", "of the whole field"), out("litresPerRowM", "L/m", "of row")},
			run: func(in values, r *Result) error {
				share, err := amend.StripFraction(in.num("stripM"), in.num("rowM"))
				if err != nil {
					return prefix(err)
				}
				m3 := in.num("litresPerM2") * amend.M3PerHaPerLPerM2
				t := m3 * in.num("tPerM3")
				r.Outputs["m3PerTreatedHa"], r.Outputs["tPerTreatedHa"], r.Outputs["kgPerM2"], r.Outputs["treatedShare"], r.Outputs["tPerGrossHa"], r.Outputs["litresPerRowM"] = m3, t, t/amend.TPerHaPerKgPerM2, share, t*share, in.num("litresPerM2")*in.num("stripM")
				r.show("tPerGrossHa", "For the whole field", "dose · density · strip / row spacing", fmt.Sprintf("%g · 10 · %g · %.4f", in.num("litresPerM2"), in.num("tPerM3"), share), t*share, "t/ha", "arithmetic")
				if _, much := amend.LocalDose(t*share, share, in.num("recommendedTPerHa")); much {
					return finding.Bad("inputs.litresPerM2", in.num("litresPerM2"), fmt.Sprintf("the strip gets %.1f t/ha, more than three times the %g recommended for treated ground", t, in.num("recommendedTPerHa")), "a broadcast rate belongs on the whole field")
				}
				return nil
			}},
	}
}

func organicMatter() Calculator {
	var ids []string
	for _, o := range amend.Organics {
		ids = append(ids, o.ID)
	}
	return Calculator{Name: "organic-matter", Title: "Organic matter to reach a target", Source: "method AMD-5; shares common practice", Purpose: "Tonnes of compost, manure or sawdust that raise the soil test.",
		Inputs:  []Field{number("points", "%", "points to raise", 0, 20).or(1.0), choice("material", "material", ids...).or("compost"), number("densityGCm3", "g/cm³", "bulk density of the soil", 0.2, 2).or(1.3), number("depthCm", "cm", "mixed to", 1, 60).or(20.0), number("treatedShare", "share", "of the field", 0.01, 1).or(1.0)},
		Outputs: []Field{out("organicTPerHa", "t/ha", "organic matter that is to stay"), out("freshTPerHa", "t/ha", "fresh, on treated ground"), out("freshTPerGrossHa", "t/ha", "fresh, for the whole field"), out("m3PerGrossHa", "m³/ha", "the same by volume")},
		run: func(in values, r *Result) error {
			o, _ := amend.OrganicNamed(in.str("material"))
			m := amend.OrganicMatter(in.num("points"), in.num("densityGCm3"), in.num("depthCm"))
			t, err := o.Fresh(m)
			if err != nil {
				return prefix(err)
			}
			gross := t * in.num("treatedShare")
			r.Outputs["organicTPerHa"], r.Outputs["freshTPerHa"], r.Outputs["freshTPerGrossHa"], r.Outputs["m3PerGrossHa"] = m, t, gross, gross/o.TPerM3
			r.show("freshTPerHa", "Fresh material", "density · depth · points / (dry · organic · stays)", fmt.Sprintf("%g · %g · %g / (%g · %g · %g)", in.num("densityGCm3"), in.num("depthCm"), in.num("points"), o.Dry, o.Organic, o.Stays), t, "t/ha", "method AMD-5; shares common practice, no source")
			if t > amend.MostFresh {
				r.warn("amend.too-much-at-once", o.Name, fmt.Sprintf("%.0f t/ha fresh in one dressing is more than anybody spreads: over years, or in the row only.", t), "method AMD-5, common practice")
			}
			return nil
		}}
}
