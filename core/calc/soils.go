package calc

import (
	"fmt"
	"math"
	"sort"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/soil"
	"slowroot/core/working"
)

var fractionInputs = []Field{number("sandPct", "%", "sand, 0.05 to 2 mm", 0, 100).or(40.0), number("siltPct", "%", "silt, 0.002 to 0.05 mm", 0, 100).or(40.0),
	number("clayPct", "%", "clay, below 0.002 mm", 0, 100).or(20.0)}

func (v values) fractions() soil.Fractions {
	return soil.Fractions{SandPct: v.num("sandPct"), SiltPct: v.num("siltPct"), ClayPct: v.num("clayPct")}
}

const handbook18 = "Soil Survey Manual, USDA Handbook 18, 2017, chapter 3"

func soils() []Calculator {
	return []Calculator{
		textureClass(),
		soilWater(),
		availableWater(),
		effectiveDepth(),
		drainageClass(),
		factorRating(),
		suitabilityClass(),
		frostPocket(),
		slopeClass(),
		benchTerrace(),
		waiting(),
	}
}

func drainageClass() Calculator {
	var signs []soil.Sign
	signs = append(append(signs, soil.LayerSigns...), soil.SurfaceSigns...)
	return Calculator{Name: "drainage-class", Title: "Waterlogging marks and drainage class", Source: "method SOIL-5; FAO, Guidelines for soil description, 2006",
		Purpose: "What the colours in a pit say about wet seasons.",
		Inputs: []Field{{Name: "signs", Kind: Table, Meaning: "signs and the depth where each begins", Columns: []Field{choice("sign", "sign", signs...),
			number("depthCm", "cm", "where it begins; 0 at the surface", 0, 490)},
			Default: []any{map[string]any{"sign": string(soil.Mottles), "depthCm": 60.0}, map[string]any{"sign": string(soil.Grey), "depthCm": 60.0}}},
			number("pitBottomCm", "cm", "how deep the pit was", 5, 500).or(120.0), choice("texture", "texture", soil.Classes...).or(string(soil.Loam)),
			choice("drained", "was the land drained since?", "no", "yes").or("no")},
		Outputs: []Field{words("class", "drainage class"), out("depthCm", "cm", "where waterlogging begins"), whole("points", "", "points of the signs there", 0,
			30), words("confidence", "low, medium or high"), words("reading", "what it means for an orchard"), words("ask", "what would settle it")},
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
			r.Outputs["class"], r.Outputs["depthCm"], r.Outputs["points"], r.Outputs["confidence"], r.Outputs["reading"], r.Outputs["ask"] = string(w.Class), w.DepthCm,
				w.Points, w.Confidence, w.Class.Reading(), w.Ask
			r.tell(working.Rule, "depthCm", "Where waterlogging begins", "shallowest layer whose signs make 3 points", strings.Join(w.Signs, "; "), w.DepthCm, "cm",
				"points and limits: common practice, no source; class names: FAO, 2006")
			return nil
		}}
}

func textureClass() Calculator {
	return Calculator{Name: "texture-class", Title: "Texture class", Source: "method SOIL-1; " + handbook18,
		Purpose: "The USDA class of a soil from its sand, silt and clay.",
		Inputs:  fractionInputs, Outputs: []Field{words("class", "texture class"), words("group", "coarse to fine")},
		run: func(in values, r *Result) error {
			f := in.fractions()
			c, err := soil.Classify(f)
			if err != nil {
				return prefix(err)
			}
			r.Outputs["class"], r.Outputs["group"] = string(c), c.Group()
			r.tell(working.Rule, "class", "Texture class", "rules of the texture triangle in their order", fmt.Sprintf("sand %g, silt %g, clay %g", f.SandPct,
				f.SiltPct, f.ClayPct), 0, "", handbook18)
			return nil
		}}
}

func soilWater() Calculator {
	return Calculator{Name: "soil-water", Title: "Water a soil holds and lets through",
		Source:  "method SOIL-2; Saxton & Rawls, Soil Sci. Soc. Am. J. 70:1569–1578, 2006",
		Purpose: "Field capacity, wilting point and conductivity where no laboratory measured them.",
		Inputs: append(fractionInputs[:3:3], number("omPct", "%", "organic matter by mass", 0, 20).or(2.5), number("densityFactor", "",
			"0.9 loosened, 1 normal, 1.3 compacted", 0.9, 1.3).or(1.0), number("stonesMass", "share", "gravel, share of the mass", 0, 0.8).or(0.0)),
		Outputs: []Field{out("wiltingPoint", "m³/m³", "at −1500 kPa"), out("fieldCapacity", "m³/m³", "at −33 kPa"), out("saturation", "m³/m³", "all pores"),
			out("availableWater", "m³/m³", "of the whole soil"), out("densityGCm3", "g/cm³", "bulk density"), out("ksMmH", "mm/h", "conductivity with its stones"),
			out("ksLowMmH", "mm/h", "by a factor of 2.5 lower"), out("ksHighMmH", "mm/h", "by a factor of 2.5 higher")},
		run: func(in values, r *Result) error {
			w, err := soil.FromTexture(in.fractions(), in.num("omPct"), in.num("densityFactor"), in.num("stonesMass"))
			if err != nil {
				return prefix(err)
			}
			for k, v := range map[string]float64{"wiltingPoint": w.WiltingPoint, "fieldCapacity": w.FieldCapacity, "saturation": w.Saturation,
				"availableWater": w.Available, "densityGCm3": w.DensityGCm3, "ksMmH": w.BulkKsMmH, "ksLowMmH": w.BulkKsMmH / soil.KsFactor,
				"ksHighMmH": w.BulkKsMmH * soil.KsFactor} {
				r.Outputs[k] = v
			}
			r.show("availableWater", "Available water", "(field capacity − wilting point) · (1 − stones by volume)", fmt.Sprintf("(%.4f − %.4f) · (1 − %.4f)",
				w.FieldCapacity, w.WiltingPoint, w.StonesVolume), w.Available, "m³/m³", "Saxton & Rawls, 2006, Table 1")
			r.show("ksMmH", "Conductivity", "1930 · (θs − θ33)^(3 − λ), λ = ln(θ33/θ1500)/ln(1500/33), times what stones leave",
				fmt.Sprintf("1930 · (%.6f − %.6f)^(3 − ln(%.6f/%.6f)/ln(1500/33)) · %.6f", w.Saturation, w.FieldCapacity, w.FieldCapacity, w.WiltingPoint,
					w.BulkKsMmH/w.KsMmH), w.BulkKsMmH, "mm/h", "Saxton & Rawls, 2006; a factor of 2 to 3 either way (common practice, no source)")
			if w.OutOfValidity {
				r.warn("soil.out-of-validity", "Soil",
					"Clay over 60 %, organic matter over 8 % and bare sands lie outside what the estimate was made from: the nearest soil it holds for is taken. Have "+
						"it measured.", "Saxton & Rawls, 2006")
			}
			return nil
		}}
}

func availableWater() Calculator {
	return Calculator{Name: "available-water", Title: "Available water of a layered profile",
		Source:  "method SOIL-3; FAO Irrigation and Drainage Paper 56, 1998, eq. 82",
		Purpose: "How much water roots can take, layer by layer.",
		Inputs: []Field{{Name: "layers", Kind: Table, Meaning: "layers from the surface down", Columns: []Field{number("topCm", "cm", "top", 0, 500),
			number("bottomCm", "cm", "bottom", 0, 500), number("fieldCapacity", "m³/m³", "field capacity", 0, 1), number("wiltingPoint", "m³/m³", "wilting point", 0,
				1), number("stonesVolume", "share", "stones by volume", 0, 0.9).or(0.0)},
			Default: []any{map[string]any{"topCm": 0.0, "bottomCm": 30.0, "fieldCapacity": 0.28, "wiltingPoint": 0.13, "stonesVolume": 0.05},
				map[string]any{"topCm": 30.0, "bottomCm": 60.0, "fieldCapacity": 0.32, "wiltingPoint": 0.19, "stonesVolume": 0.1}, map[string]any{"topCm": 60.0,
					"bottomCm": 120.0, "fieldCapacity": 0.36, "wiltingPoint": 0.23, "stonesVolume": 0.0}}},
			number("rootCm", "cm", "root depth", 1, 500).or(90.0), number("limitCm", "cm", "depth something stops the roots", 0, 500).maybe(), number("waterTableCm",
				"cm", "water table, 20 cm above it is left out", 0, 500).maybe()},
		Outputs: []Field{out("mm", "mm", "available water"), out("mmPerM", "mm/m", "mean"), words("class", "very low to high")},
		run: func(in values, r *Result) error {
			var slabs []soil.Slab
			for _, l := range in.rows("layers") {
				slabs = append(slabs, soil.Slab{TopCm: l.num("topCm"), BottomCm: l.num("bottomCm"), FieldCapacity: l.num("fieldCapacity"),
					WiltingPoint: l.num("wiltingPoint"), StonesVolume: l.num("stonesVolume")})
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
			r.tell(working.Series, "mm", "Available water", "Σ 10 · (FC − WP) · (1 − stones) · thickness in cm", fmt.Sprintf("to %g cm", depth), mm, "mm",
				"FAO 56, eq. 82")
			return nil
		}}
}

func effectiveDepth() Calculator {
	return Calculator{Name: "effective-depth", Title: "Effective soil depth", Source: "method SOIL-4, common practice",
		Purpose: "What stops the roots first, as found and after the works that remove it.",
		Inputs: []Field{{Name: "barriers", Kind: Table, Meaning: "what stops roots", Columns: []Field{choice("kind", "barrier", "rock", "cemented pan",
			"plough pan", "compacted layer", "dense clay", "lime-rich layer", "waterlogging", "gravel"), number("depthCm", "cm", "where it begins", 0, 500),
			choice("removed", "are works scheduled that remove it?", "no", "yes").or("no")},
			Default: []any{map[string]any{"kind": "rock", "depthCm": 140.0, "removed": "no"}, map[string]any{"kind": "plough pan", "depthCm": 45.0, "removed": "yes"},
				map[string]any{"kind": "dense clay", "depthCm": 95.0, "removed": "no"}}}, number("pitBottomCm", "cm", "how deep the pit was", 10, 500).or(150.0)},
		Outputs: []Field{out("asFoundCm", "cm", "as found"), out("afterWorksCm", "cm", "after works"), words("limiting", "what limits after works"),
			words("class", "depth class after works")},
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
			r.tell(working.Rule, "afterWorksCm", "Effective depth", "shallowest barrier that is not removed", fmt.Sprint(r.Outputs["limiting"]), after, "cm",
				"method SOIL-4, common practice")
			return nil
		}}
}
