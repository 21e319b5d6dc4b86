package calc

import (
	"fmt"
	"math"

	"slowroot/core/amend"
	"slowroot/core/finding"
	"slowroot/core/working"
)

func amendments() []Calculator {
	return []Calculator{
		limeRequirement(),
		limingProduct(),
		sulphur(),
		gypsum(),
		organicMatter(),
		amendmentBasis(),
	}
}

func organicMatter() Calculator {
	var ids []string
	for _, o := range amend.Organics {
		ids = append(ids, o.ID)
	}
	return Calculator{Name: "organic-matter", Title: "Organic matter to reach a target", Source: "method AMD-5; shares common practice",
		Purpose: "Tonnes of compost, manure or sawdust that raise the soil test.",
		Inputs: []Field{number("points", "%", "points to raise", 0, 20).or(1.0), choice("material", "material", ids...).or("compost"),
			number("densityGCm3", "g/cm³", "bulk density of the soil", 0.2, 2).or(1.3), number("depthCm", "cm", "mixed to", 1, 60).or(20.0), number("treatedShare",
				"share", "of the field", 0.01, 1).or(1.0)},
		Outputs: []Field{out("organicTPerHa", "t/ha", "organic matter that is to stay"), out("freshTPerHa", "t/ha", "fresh, on treated ground"),
			out("freshTPerGrossHa", "t/ha", "fresh, for the whole field"), out("m3PerGrossHa", "m³/ha", "the same by volume")},
		run: func(in values, r *Result) error {
			o, _ := amend.OrganicNamed(in.str("material"))
			m := amend.OrganicMatter(in.num("points"), in.num("densityGCm3"), in.num("depthCm"))
			t, err := o.Fresh(m)
			if err != nil {
				return prefix(err)
			}
			gross := t * in.num("treatedShare")
			r.Outputs["organicTPerHa"], r.Outputs["freshTPerHa"], r.Outputs["freshTPerGrossHa"], r.Outputs["m3PerGrossHa"] = m, t, gross, gross/o.TPerM3
			r.show("freshTPerHa", "Fresh material", "density · depth · points / (dry · organic · stays)", fmt.Sprintf("%g · %g · %g / (%g · %g · %g)",
				in.num("densityGCm3"), in.num("depthCm"), in.num("points"), o.Dry, o.Organic, o.Stays), t, "t/ha", "method AMD-5; shares common practice, no source")
			if t > amend.MostFresh {
				r.warn("amend.too-much-at-once", o.Name, fmt.Sprintf("%.0f t/ha fresh in one dressing is more than anybody spreads: over years, or in the row only.", t),
					"method AMD-5, common practice")
			}
			return nil
		}}
}

func limeRequirement() Calculator {
	groups := []string{"coarse", "moderately coarse", "medium", "moderately fine", "fine"}
	return Calculator{Name: "lime-requirement", Title: "Lime requirement by four schools", Source: "method AMD-1; van Raij et al., 1997; Kamprath, 1970",
		Purpose: "Tonnes of pure CaCO₃ for a treated hectare, by every school the data allow.",
		Inputs: []Field{number("ph", "", "pH in water", 3, 10).maybe(), number("targetPh", "", "wanted pH", 4, 8).or(6.5), number("bufferPh", "", "buffer pH", 3,
			8).maybe(), choice("bufferMethod", "which buffer", "smp", "mehlich").or("smp"), number("cec", "cmolc/dm³", "CEC at pH 7", 0.1, 200).maybe(),
			number("basePct", "%", "base saturation now", 0, 100).maybe(), number("targetBasePct", "%", "wanted", 0, 100).or(60.0), number("al", "cmolc/dm³",
				"exchangeable aluminium", 0, 30).maybe(), number("caMg", "cmolc/dm³", "calcium + magnesium", 0, 200).maybe(), number("ecec", "cmolc/dm³", "effective CEC",
				0, 200).maybe(), number("alToleratedPct", "%", "Al saturation the crop bears", 0, 100).or(5.0), number("caMgWanted", "cmolc/dm³",
				"calcium + magnesium wanted", 0, 20).or(2.0), number("clayPct", "%", "clay", 0, 100).or(25.0), choice("textureGroup", "texture", groups...).or("medium"),
			number("omPct", "%", "organic matter", 0, 100).or(3.0), number("depthCm", "cm", "mixed to", 1, 60).or(20.0)},
		Outputs: []Field{out("baseSaturationTPerHa", "t/ha", "base saturation"), out("targetPhTPerHa", "t/ha", "target pH × lime factor"),
			out("bufferTPerHa", "t/ha", "buffer pH"), out("aluminiumTPerHa", "t/ha", "aluminium and Ca + Mg"), words("default", "school taken when nobody chose"),
			out("ratio", "", "largest over smallest")},
		run: func(in values, r *Result) error {
			ns, err := amend.Lime(amend.LimeCase{PH: in.ref("ph"), TargetPH: in.num("targetPh"), BufferPH: in.ref("bufferPh"), BufferMethod: in.str("bufferMethod"),
				CEC: in.ref("cec"), BasePct: in.ref("basePct"), TargetBase: in.num("targetBasePct"), Al: in.ref("al"), CaMg: in.ref("caMg"), ECEC: in.ref("ecec"),
				AlTolerated: in.num("alToleratedPct"), CaMgWanted: in.num("caMgWanted"), ClayPct: in.num("clayPct"), TextureGroup: in.str("textureGroup"),
				OMPct: in.num("omPct"), DepthCm: in.num("depthCm")})
			if err != nil {
				return prefix(err)
			}
			names := map[amend.School]string{amend.BaseSaturation: "baseSaturationTPerHa", amend.TargetPH: "targetPhTPerHa", amend.Buffer: "bufferTPerHa",
				amend.Aluminium: "aluminiumTPerHa"}
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
		}}
}

func limingProduct() Calculator {
	return Calculator{Name: "liming-product", Title: "Liming material", Source: "method AMD-2; molar masses; sieve rule from memory",
		Purpose: "Tonnes of a real product for tonnes of pure CaCO₃.",
		Inputs: []Field{number("needTPerHa", "t/ha", "pure CaCO₃ equivalent", 0, 100).or(3.0), number("neutralisingPct", "%",
			"neutralising value; 0 to take it from the oxides", 0, 180).or(0.0), number("caoPct", "%", "CaO", 0, 100).or(32.0), number("mgoPct", "%", "MgO", 0,
			100).or(15.0), number("over2Mm", "%", "over 2 mm", 0, 100).or(5.0), number("to084Mm", "%", "0.84 to 2 mm", 0, 100).or(15.0), number("to030Mm", "%",
			"0.30 to 0.84 mm", 0, 100).or(30.0), number("below030Mm", "%", "below 0.30 mm", 0, 100).or(50.0), number("moisturePct", "%", "moisture", 0, 90).or(5.0)},
		Outputs: []Field{out("neutralisingValue", "%", "of pure CaCO₃"), out("reactivity", "%", "acting in time"), out("effective", "%", "both together"),
			out("productTPerHa", "t/ha", "as delivered"), words("kind", "calcitic to dolomitic"), whole("applications", "", "of at most 8 t/ha mixed in", 1, 50)},
		run: func(in values, r *Result) error {
			p := amend.Liming{NeutralisingPct: in.num("neutralisingPct"), CaOPct: in.num("caoPct"), MgOPct: in.num("mgoPct"), MoisturePct: in.num("moisturePct"),
				Sieves: amend.Sieves{Over2: in.num("over2Mm"), To084: in.num("to084Mm"), To030: in.num("to030Mm"), Below03: in.num("below030Mm")}}
			if err := p.Valid("product"); err != nil {
				return prefix(err)
			}
			if !p.Analysed() {
				return finding.Bad("inputs.neutralisingPct", p.Neutralising(), "the material is not analysed: no rate can be given for it",
					"neutralising value or oxides, and fineness")
			}
			t := p.Product(in.num("needTPerHa"))
			r.Outputs["neutralisingValue"], r.Outputs["reactivity"], r.Outputs["effective"], r.Outputs["productTPerHa"], r.Outputs["kind"],
				r.Outputs["applications"] = p.Neutralising(), p.Reactivity(), p.Effective(), t, p.Kind(), amend.Split(t, amend.MostMixedIn)
			r.show("productTPerHa", "Product", "need · 100/NV · 100/reactivity · 100/(100 − moisture)", fmt.Sprintf("%g · 100/%.2f · 100/%.1f · 100/(100 − %g)",
				in.num("needTPerHa"), p.Neutralising(), p.Reactivity(), p.MoisturePct), t, "t/ha",
				"method AMD-2; fineness by four sieves, from memory: Brazilian lime rules")
			return nil
		}}
}

func sulphur() Calculator {
	groups := []string{"coarse", "moderately coarse", "medium", "moderately fine", "fine"}
	return Calculator{Name: "sulphur", Title: "Sulphur to lower pH", Source: "method AMD-3, tables from memory",
		Purpose: "Elemental sulphur for acid-loving crops, by the texture table and by buffer capacity.",
		Inputs: []Field{number("ph", "", "pH in water", 3, 10).or(5.8), number("targetPh", "", "wanted", 4, 7).or(4.5), choice("textureGroup", "texture",
			groups...).or("medium"), number("bufferCapacity", "cmolc/kg", "a pH unit, where measured", 0.1, 30).maybe(), number("densityGCm3", "g/cm³", "bulk density",
			0.2, 2).or(1.3), number("depthCm", "cm", "mixed to", 1, 60).or(15.0), number("limePct", "%", "free lime", 0, 100).or(0.0)},
		Outputs: []Field{out("tableKgPerHa", "kg/ha", "by the texture table, depth counted"), out("bufferKgPerHa", "kg/ha", "by buffer capacity"),
			out("limeKgPerHa", "kg/ha", "eaten by free lime first"), whole("months", "months", "lead time", 0, 24), whole("doses", "", "by the largest single dose", 1,
				99)},
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
			r.tell(working.Lookup, "tableKgPerHa", "By the table", "linear between the lines of the table · depth / 15", fmt.Sprintf("pH %g to %g", in.num("ph"),
				in.num("targetPh")), t, "kg/ha", "from memory: US fertiliser-handbook and small-fruit tables")
			if in.has("bufferCapacity") {
				need = amend.SulphurByBuffer(drop, in.num("bufferCapacity"), in.num("densityGCm3"), in.num("depthCm"))
				r.Outputs["bufferKgPerHa"] = need
				r.show("bufferKgPerHa", "By buffer capacity", "16.03 · ΔpH · capacity · density · depth", fmt.Sprintf("16.03 · %g · %g · %g · %g", drop,
					in.num("bufferCapacity"), in.num("densityGCm3"), in.num("depthCm")), need, "kg/ha", "equivalent mass of sulphur")
			}
			r.Outputs["doses"] = max(1, int(math.Ceil(need/amend.MostSulphur(in.str("textureGroup")))))
			if in.num("limePct") > 0 {
				r.warn("amend.free-lime", "Sulphur", fmt.Sprintf("Free lime eats %.0f kg/ha of sulphur before the pH moves: do not acidify, choose another crop.", lime),
					"method AMD-3")
			}
			return nil
		}}
}

func gypsum() Calculator {
	return Calculator{Name: "gypsum", Title: "Gypsum for sodium", Source: "method AMD-4; USDA Handbook 60, 1954",
		Purpose: "Gypsum to lower exchangeable sodium, with drainage and leaching water.",
		Inputs: []Field{number("cec", "cmolc/kg", "CEC", 0.1, 200).or(22.0), number("espPct", "%", "exchangeable sodium", 0, 100).or(18.0), number("targetEspPct",
			"%", "wanted", 0, 100).or(8.0), number("densityGCm3", "g/cm³", "bulk density", 0.2, 2).or(1.35), number("depthCm", "cm", "depth", 1, 150).or(30.0),
			number("efficiency", "share", "of the exchange", 0.1, 1).or(0.8), number("purity", "share", "of the product", 0.1, 1).or(0.9),
			number("ph", "", "pH, where known", 3, 11).or(8.0), number("sar", "", "sodium adsorption ratio, for an estimate", 0, 200).maybe()},
		Outputs: []Field{out("gypsumTPerHa", "t/ha", "gypsum"), out("waterM3PerHa", "m³/ha", "leaching water, 0.45 m³ for a kilogram"), out("sulphurTPerHa", "t/ha",
			"sulphur instead, in lime-rich soil"), out("espFromSarPct", "%", "exchangeable sodium by the SAR")},
		run: func(in values, r *Result) error {
			g, err := amend.Gypsum(in.num("cec"), in.num("espPct"), in.num("targetEspPct"), in.num("densityGCm3"), in.num("depthCm"), in.num("efficiency"),
				in.num("purity"), in.num("ph"))
			if err != nil {
				return prefix(err)
			}
			r.Outputs["gypsumTPerHa"], r.Outputs["waterM3PerHa"], r.Outputs["sulphurTPerHa"], r.Outputs["espFromSarPct"] = g, g*450, g*amend.SulphurForGypsum, nil
			if in.has("sar") {
				r.Outputs["espFromSarPct"] = amend.ESPFromSAR(in.num("sar"))
			}
			r.show("gypsumTPerHa", "Gypsum", "0.000861 · ρ · d · CEC · ΔESP / (η · purity)", fmt.Sprintf("0.000861 · %g · %g · %g · %g / (%g · %g)",
				in.num("densityGCm3"), in.num("depthCm"), in.num("cec"), in.num("espPct")-in.num("targetEspPct"), in.num("efficiency"), in.num("purity")), g, "t/ha",
				"USDA Handbook 60, 1954")
			return nil
		}}
}

func amendmentBasis() Calculator {
	return Calculator{Name: "amendment-basis", Title: "Volume, mass and area of a dose", Source: "method AMD-6, arithmetic",
		Purpose: "One dose in every unit, for strips, pits or the whole field.",
		Inputs: []Field{number("litresPerM2", "L/m²", "dose on the treated ground", 0, 500).or(8.0), number("tPerM3", "t/m³", "weighed as spread", 0.05,
			2.5).or(0.6), number("stripM", "m", "treated strip", 0.05, 25).or(1.0), number("rowM", "m", "row spacing", 0.1, 25).or(1.5), number("recommendedTPerHa",
			"t/ha", "rate recommended for treated ground", 0, 1000).or(0.0)},
		Outputs: []Field{out("m3PerTreatedHa", "m³/ha", "of treated ground"), out("tPerTreatedHa", "t/ha", "of treated ground"), out("kgPerM2", "kg/m²",
			"of treated ground"), out("treatedShare", "share", "of the field"), out("tPerGrossHa", "t/ha", "of the whole field"), out("litresPerRowM", "L/m",
			"of row")},
		run: func(in values, r *Result) error {
			share, err := amend.StripFraction(in.num("stripM"), in.num("rowM"))
			if err != nil {
				return prefix(err)
			}
			m3 := in.num("litresPerM2") * amend.M3PerHaPerLPerM2
			t := m3 * in.num("tPerM3")
			r.Outputs["m3PerTreatedHa"], r.Outputs["tPerTreatedHa"], r.Outputs["kgPerM2"], r.Outputs["treatedShare"], r.Outputs["tPerGrossHa"],
				r.Outputs["litresPerRowM"] = m3, t, t/amend.TPerHaPerKgPerM2, share, t*share, in.num("litresPerM2")*in.num("stripM")
			r.show("tPerGrossHa", "For the whole field", "dose · density · strip / row spacing", fmt.Sprintf("%g · 10 · %g · %.4f", in.num("litresPerM2"),
				in.num("tPerM3"), share), t*share, "t/ha", "arithmetic")
			if _, much := amend.LocalDose(t*share, share, in.num("recommendedTPerHa")); much {
				return finding.Bad("inputs.litresPerM2", in.num("litresPerM2"),
					fmt.Sprintf("the strip gets %.1f t/ha, more than three times the %g recommended for treated ground", t, in.num("recommendedTPerHa")),
					"a broadcast rate belongs on the whole field")
			}
			return nil
		}}
}
