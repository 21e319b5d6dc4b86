package calc

import (
	"fmt"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/nutrition"
	"slowroot/core/working"
)

const iupac = "standard atomic weights, IUPAC, 2021"

func feeds() []Calculator {
	return []Calculator{oxide(), annualDemand(), splitLedger(), perPlantPerHa()}
}

func oxide() Calculator {
	names := make([]string, len(nutrition.Forms))
	for i, f := range nutrition.Forms {
		names[i] = f.Name
	}
	return Calculator{Name: "oxide-element", Title: "Oxide and element", Source: "method N1; " + iupac,
		Purpose: "What a label or a report in oxides holds of the element, and the other way.",
		Inputs:  []Field{choice("form", "counted as", names...).or("P2O5"), number("kg", "kg", "amount as counted", 0, 1e6).or(100.0)},
		Outputs: []Field{words("element", "element"), out("elementKg", "kg", "of the element in it"), out("factor", "", "element = form × this"),
			out("inverse", "", "form = element × this"), out("asFormKg", "kg", "of the form that hold as much of the element")},
		run: func(in values, r *Result) error {
			for _, f := range nutrition.Forms {
				if f.Name != in.str("form") {
					continue
				}
				x, kg := f.Share(), in.num("kg")
				r.Outputs["element"], r.Outputs["elementKg"], r.Outputs["factor"], r.Outputs["inverse"], r.Outputs["asFormKg"] = f.Element, kg*x, x, 1/x, kg/x
				r.show("factor", "Factor", "atoms of the element × its weight / weight of the whole", f.Sum(), x, "", iupac)
				r.show("elementKg", f.Element, "amount × factor", fmt.Sprintf("%g kg × %.4f", kg, x), kg*x, "kg", "")
			}
			return nil
		}}
}

// Schools of yearly demand.
const (
	byTheAge     = "by age"
	byRemoval    = "removal and growth"
	byTheTarget  = "by target yield"
	bySoilNormal = "medium"
)

// soilFactor is what a soil-test class does to phosphorus and potassium: common practice, no source.
var soilFactor = map[string]float64{"very low": 1.5, "low": 1.25, bySoilNormal: 1, "high": 0.5, "very high": 0}

func annualDemand() Calculator {
	return Calculator{Name: "yearly-demand", Title: "What a planting needs in a year",
		Source:  "method N3, schools A, B, C and D; factors of the soil test common practice",
		Purpose: "A nutrient for this year by age, by what the crop carries off, or by a target yield; then by the soil test and what is there already.",
		Inputs: []Field{choice("school", "how it is reckoned", byTheAge, byRemoval, byTheTarget).or(byRemoval),
			number("age", "years", "by age: since planting, the first year is 1", 1, 120).or(5.0), number("fullG", "g/plant", "by age: at full size", 0, 5000).or(800.0),
			number("fullAge", "years", "by age: full size from", 1, 120).or(8.0), number("plantsPerHa", "/ha", "by age: living plants", 1, 200000).or(278.0),
			number("yieldT", "t/ha", "crop of the year, or the target", 0, 200).or(30.0), number("kgPerT", "kg/t", "content, or the rate advised for a tonne", 0,
				200).or(1.6),
			number("woodKg", "kg/ha", "in new wood, less prunings that stay", -200, 500).or(0.0),
			number("recovered", "share", "of what is given that is taken up; 0.4 to 0.8 for N, 1 for P and K", 0.2, 1).or(0.6),
			choice("soilTest", "class of the soil test, for P and K", "very low", "low", bySoilNormal, "high", "very high").or(bySoilNormal),
			number("waterNo3MgL", "mg/L", "nitrate-N in the water, for N", 0, 100).or(0.0), number("waterMm", "mm", "water given in the year", 0, 3000).or(0.0),
			number("creditKg", "kg/ha", "other credits: organic release, legumes", 0, 1000).or(0.0)},
		Outputs: []Field{out("grossKgPerHa", "kg/ha", "before the soil test and credits"), out("kgPerHa", "kg/ha", "to be given"), out("gPerPlant", "g/plant",
			"on these plants")},
		run: func(in values, r *Result) error {
			gross := 0.0
			switch in.str("school") {
			case byTheAge:
				share := min(1, in.num("age")/in.num("fullAge"))
				g := in.num("fullG") * share
				gross = g * in.num("plantsPerHa") / 1000
				r.show("grossKgPerHa", "By age", "full dose × min(1, age / full age) × plants / 1000", fmt.Sprintf("%g g × %.3f × %g / 1000", in.num("fullG"), share,
					in.num("plantsPerHa")), gross, "kg/ha", "method N3 A")
			case byRemoval:
				gross = max(0, (in.num("yieldT")*in.num("kgPerT")+in.num("woodKg"))/in.num("recovered"))
				r.show("grossKgPerHa", "Removal and growth", "(crop × content + wood) / recovered", fmt.Sprintf("(%g × %g + %g) / %g", in.num("yieldT"), in.num("kgPerT"),
					in.num("woodKg"), in.num("recovered")), gross, "kg/ha", "method N3 B")
			default:
				gross = in.num("yieldT") * in.num("kgPerT")
				r.show("grossKgPerHa", "By target", "target × rate for a tonne", fmt.Sprintf("%g × %g", in.num("yieldT"), in.num("kgPerT")), gross, "kg/ha", "method N3 C")
			}
			f := soilFactor[in.str("soilTest")]
			water := in.num("waterNo3MgL") * in.num("waterMm") / 100
			net := max(0, gross*f-water-in.num("creditKg"))
			r.Outputs["grossKgPerHa"], r.Outputs["kgPerHa"], r.Outputs["gPerPlant"] = gross, net, net*1000/in.num("plantsPerHa")
			r.show("kgPerHa", "To be given", "max(0, demand × factor of the soil test − mg/L × mm / 100 − credits)", fmt.Sprintf("%.3f × %g − %.3f − %g", gross, f,
				water,
				in.num("creditKg")), net, "kg/ha", "method N3 D, common practice")
			if net == 0 && gross > 0 {
				r.warn("feed.nothing", "Demand", "The soil and the credits cover all of it.", "method N3 D")
			}
			return nil
		}}
}

func splitLedger() Calculator {
	return Calculator{Name: "split-ledger", Title: "Do the splits make up the year?", Source: "method N5, common practice",
		Purpose: "Whether the applications of a year sum to the year's amount, and the ways to mend it.",
		Inputs: []Field{number("annual", "kg/ha", "for the year", 0, 5000).or(300.0),
			numbers("splits", "kg/ha", "applications in their order", 0, 5000).or([]float64{60, 40, 40, 60, 40, 40}),
			whole("into", "", "number of the application that could take the difference", 1, 60).or(6.0)},
		Outputs: []Field{words("balanced", "do they sum"), out("sum", "kg/ha", "of the applications"), out("diff", "kg/ha", "more than the year; below 0 missing"),
			out("diffPct", "%", "of the year"), series("running", "kg/ha", "running sum"), out("scale", "", "first way: each application times this"),
			series("scaled", "kg/ha", "applications after the first way"), out("intoKg", "kg/ha", "second way: that application becomes"),
			out("newAnnual", "kg/ha", "third way: the year becomes")},
		run: func(in values, r *Result) error {
			splits, annual := in.list("splits"), in.num("annual")
			l := nutrition.Balanced(annual, splits)
			at := in.int("into")
			if at > len(splits) {
				return finding.Bad("inputs.into", at, "is not one of the applications", fmt.Sprintf("1 to %d", len(splits)))
			}
			pct := 0.0
			if annual > 0 {
				pct = 100 * l.Diff / annual
			}
			r.Outputs["balanced"], r.Outputs["sum"], r.Outputs["diff"], r.Outputs["diffPct"] = "yes", l.Sum, l.Diff, pct
			r.Outputs["running"], r.Outputs["scale"], r.Outputs["scaled"], r.Outputs["newAnnual"] = l.Running, l.Scale, l.Scaled, l.Sum
			r.Outputs["intoKg"] = splits[at-1] - l.Diff
			terms := make([]string, len(splits))
			for i, s := range splits {
				terms[i] = fmt.Sprintf("%g", s)
			}
			r.tell(working.Series, "sum", "Sum", "Σ applications", strings.Join(terms, " + "), l.Sum, "kg/ha", "method N5")
			r.show("diff", "Difference", "sum − year", fmt.Sprintf("%g − %g", l.Sum, annual), l.Diff, "kg/ha", "even within 0.5 kg/ha or 0.5 %")
			if !l.Balanced {
				r.Outputs["balanced"] = "no"
				word := "missing"
				if l.Diff > 0 {
					word = "too much"
				}
				s := fmt.Sprintf("%.4g kg (%.1f %%) are %s. Scale every application by %.4f, or make application %d %.4g kg, or take %.4g kg as the year.",
					max(l.Diff, -l.Diff),
					max(pct, -pct), word, l.Scale, at, splits[at-1]-l.Diff, l.Sum)
				if splits[at-1]-l.Diff < 0 {
					s += fmt.Sprintf(" Application %d is too small to take it.", at)
				}
				r.warn("feed.splits-differ", "Splits", s, "method N5")
			}
			return nil
		}}
}

func perPlantPerHa() Calculator {
	return Calculator{Name: "per-plant-per-hectare", Title: "Grams a plant and kilograms a hectare", Source: "method N7, common practice",
		Purpose: "What doses by the plant come to on the ground, with the plants that live and not those that were drawn.",
		Inputs: []Field{number("areaHa", "ha", "area of the block", 0.001, 10000).or(1.35), {Name: "cohorts", Kind: Table, Meaning: "living plants by age",
			Columns: []Field{
				whole("plants", "", "living plants", 0, 1e6), number("gPerPlant", "g", "dose of that age", 0, 5000)}, Default: []any{
				map[string]any{"plants": 332.0, "gPerPlant": 400.0}, map[string]any{"plants": 20.0, "gPerPlant": 50.0}}},
			number("rowSpacingM", "m", "between rows", 0.1, 25).or(6.0), number("plantSpacingM", "m", "between plants in the row", 0.1, 25).or(6.0)},
		Outputs: []Field{out("kg", "kg", "on the block"), out("kgPerHa", "kg/ha", "on the ground"), out("nominal", "plants", "by area and spacing"),
			out("alive", "share", "of them"), out("byDrawingKg", "kg", "if all were there and full grown")},
		run: func(in values, r *Result) error {
			kg, most, alive := 0.0, 0.0, 0
			var terms []string
			for _, c := range in.rows("cohorts") {
				kg += c.num("plants") * c.num("gPerPlant") / 1000
				alive += c.int("plants")
				most = max(most, c.num("gPerPlant"))
				terms = append(terms, fmt.Sprintf("%d × %g g", c.int("plants"), c.num("gPerPlant")))
			}
			ha := in.num("areaHa")
			nominal := ha * 1e4 / (in.num("rowSpacingM") * in.num("plantSpacingM"))
			r.Outputs["kg"], r.Outputs["kgPerHa"], r.Outputs["nominal"], r.Outputs["alive"], r.Outputs["byDrawingKg"] = kg, kg/ha, nominal, float64(alive)/nominal,
				nominal*most/1000
			r.tell(working.Series, "kg", "On the block", "Σ plants × dose / 1000", strings.Join(terms, " + "), kg, "kg", "method N7")
			r.show("kgPerHa", "On the ground", "kg / area", fmt.Sprintf("%.3f / %g ha", kg, ha), kg/ha, "kg/ha", "")
			if s := float64(alive) / nominal; s < 0.9 || s > 1.02 {
				r.warn("feed.count", "Plants", fmt.Sprintf("%d plants live where area and spacing make %.0f: %.0f %%. Check the count or the area.", alive, nominal,
					100*s), "method N7")
			}
			return nil
		}}
}
