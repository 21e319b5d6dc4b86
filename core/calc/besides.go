package calc

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/canopy"
	"slowroot/core/finding"
	"slowroot/core/fittings"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/units"
	"slowroot/core/working"
)

func besides() []Calculator {
	return []Calculator{alleyPlants(), redesign(), bearings(), pollinizers(), windbreak(), groundCover(), mixedYield()}
}

// taken is every kind of fitting as a method on its own.
func taken() []Calculator {
	list := make([]Calculator, 0, len(fittings.Kinds))
	for _, k := range fittings.Kinds {
		list = append(list, fitting(k))
	}
	return list
}

// held is the unit a quantity is reckoned in.
var held = map[units.Quantity]string{units.Spacing: "m", units.Distance: "m", units.Depth: "cm", units.Fraction: "share", units.Earth: "m³", units.Area: "m²",
	units.MassKg: "kg",
	units.Count:  "pieces", units.Plain: ""}

func alleyPlants() Calculator {
	return Calculator{Name: "alley-plants", Title: "Plants of each species in an alley", Source: "method LAY-1, alley module; geometry",
		Purpose: "From the rows in a sequence of strips that repeats: stations and plants of each row a hectare, and row metres.",
		Inputs: []Field{number("moduleM", "m", "width after which the strips repeat", 0.2, layout.MaxModuleM).or(5.5),
			{Name: "rows", Kind: Table, Meaning: "rows of the strips", Columns: []Field{number("rows", "rows", "of this kind in the sequence", 1, 200),
				number("spacingM", "m", "between stations in the row", 0.03, 25),
				number("each", "plants", "at a station", 1, 20), number("share", "share", "of the stations it takes; 1 is all", 0.01, 1)},
				Default: []any{map[string]any{"rows": 3.0, "spacingM": 0.3, "each": 1.0, "share": 1.0}, map[string]any{"rows": 6.0, "spacingM": 0.3, "each": 1.0,
					"share": 1.0},
					map[string]any{"rows": 1.0, "spacingM": 1.0, "each": 1.0, "share": 0.75}}}},
		Outputs: []Field{{Name: "plantsPerHa", Kind: Numbers, Unit: "/ha", Meaning: "of each row"}, {Name: "rowMetresPerHa", Kind: Numbers, Unit: "m/ha",
			Meaning: "of each row"}},
		run: func(in values, r *Result) error {
			w := in.num("moduleM")
			var plants, metres []float64
			for i, row := range in.rows("rows") {
				n := 10000 / w * row.num("rows") * row.num("each") * row.num("share") / row.num("spacingM")
				plants, metres = append(plants, n), append(metres, 10000/w*row.num("rows"))
				r.show("plantsPerHa", fmt.Sprintf("Row %d", i+1), "10 000 / W · rows · plants · share / spacing",
					fmt.Sprintf("10 000 / %g · %g · %g · %g / %g", w, row.num("rows"), row.num("each"), row.num("share"), row.num("spacingM")), n, "/ha", "method LAY-1")
			}
			r.Outputs["plantsPerHa"], r.Outputs["rowMetresPerHa"] = plants, metres
			return nil
		}}
}

func redesign() Calculator {
	return Calculator{Name: "redesign-claim", Title: "What a new design of an alley does to the plants",
		Source:  "method LAY-1: N′/N = (r′/r)·(d/d′)·(k′/k)·(W/W′), exact",
		Purpose: "Recomputes a claim that a redesign carries more plants: from rows, spacing, plants a station and width before and after.",
		Inputs: []Field{number("rowsBefore", "rows", "of the species in the sequence before", 0.1, 200).or(6.0), number("rowsAfter", "rows", "after", 0.1,
			200).or(2.0),
			number("spacingBeforeM", "m", "in the row before", 0.03, 25).or(0.3), number("spacingAfterM", "m", "after", 0.03, 25).or(0.3),
			number("eachBefore", "plants", "at a station before", 1, 20).or(1.0),
			number("eachAfter", "plants", "after", 1, 20).or(1.0), number("moduleBeforeM", "m", "width of the sequence before", 0.2, layout.MaxModuleM).or(5.5),
			number("moduleAfterM", "m", "after", 0.2, layout.MaxModuleM).or(5.5), number("claimed", "×", "plants after, as a multiple of before, as claimed", 0.01,
				100).or(1.5)},
		Outputs: []Field{out("ratio", "×", "plants after, as a multiple of before"), out("spacingForClaimM", "m", "spacing in the row the claim would need")},
		run: func(in values, r *Result) error {
			ratio := in.num("rowsAfter") / in.num("rowsBefore") * in.num("spacingBeforeM") / in.num("spacingAfterM")
			ratio *= in.num("eachAfter") / in.num("eachBefore") * in.num("moduleBeforeM") / in.num("moduleAfterM")
			need := in.num("spacingAfterM") * ratio / in.num("claimed")
			r.Outputs["ratio"], r.Outputs["spacingForClaimM"] = ratio, need
			r.show("ratio", "Plants after", "(r′/r)·(d/d′)·(k′/k)·(W/W′)", fmt.Sprintf("(%g/%g)·(%g/%g)·(%g/%g)·(%g/%g)", in.num("rowsAfter"), in.num("rowsBefore"),
				in.num("spacingBeforeM"), in.num("spacingAfterM"),
				in.num("eachAfter"), in.num("eachBefore"), in.num("moduleBeforeM"), in.num("moduleAfterM")), ratio, "×", "method LAY-1")
			if math.Abs(ratio/in.num("claimed")-1) > 0.1 {
				r.warn("redesign.claim", "Claim", fmt.Sprintf("The design gives %.3g times the plants, not %.3g: the claim needs %.3f m in the row.", ratio,
					in.num("claimed"), need), "method LAY-1")
			}
			return nil
		}}
}

func bearings() Calculator {
	return Calculator{Name: "row-bearing", Title: "Row ends and row length by bearing", Source: "methods LAY-3, LAY-4",
		Purpose: "What turning the rows does to the passes, their length and the stations on a boundary.",
		Inputs: append(append([]Field{{Name: "rings", Kind: Rings, Unit: "°", Meaning: "rings of [longitude, latitude], the outer ring first"}}, spacings(4, 1.5)...),
			number("edgeBandM", "m", "kept free along every boundary", 0, 100).or(6.0), number("bearingDeg", "°", "looked at closely", 0, 179).or(90.0)),
		Outputs: []Field{out("fewest", "°", "bearing with the fewest passes"), whole("fewestPasses", "pieces", "of row on it", 0, 1e6), out("longestSide", "°",
			"bearing of the longest side"),
			whole("passes", "pieces", "of row on the bearing looked at", 0, 1e6), whole("stations", "stations", "on it", 0, layout.MaxStations),
			out("meanM", "m", "mean length of a pass on it")},
		run: func(in values, r *Result) error {
			p := in["rings"].(geo.Polygon)
			if err := geo.Validate(p); err != nil {
				return finding.Bad("inputs.rings", "", err.Error(), "a boundary of three points or more that does not cross itself")
			}
			s := in.spec()
			s.EdgeBandM = in.num("edgeBandM")
			if n := s.StationsPerHa() * geo.AreaM2(p) / 1e4; s.Valid() == nil && n > 30_000 {
				return finding.Bad("inputs.plantSpacingM", in.num("plantSpacingM"), "makes more stations than are laid out 180 times",
					"30 000 stations at most: a wider spacing or a smaller field")
			}
			f := layout.Field{Rings: p.PlaneRings(geo.LocalPlane(p))}
			all, err := layout.Bearings(f, s)
			if err != nil {
				return prefix(err)
			}
			best := all[0]
			for _, b := range all {
				if b.Passes > 0 && (best.Passes == 0 || b.Passes < best.Passes) {
					best = b
				}
			}
			at := all[int(in.num("bearingDeg"))]
			r.Outputs["fewest"], r.Outputs["fewestPasses"], r.Outputs["longestSide"] = best.Deg, best.Passes, layout.LongestSideDeg(f.Rings[0])
			r.Outputs["passes"], r.Outputs["stations"], r.Outputs["meanM"] = at.Passes, at.Stations, at.Metres/math.Max(1, float64(at.Passes))
			r.tell(working.Search, "fewest", "Fewest passes", "rows laid out on every whole degree, pieces counted", fmt.Sprintf("%d passes at %g°", best.Passes,
				best.Deg), best.Deg, "°", "method LAY-4")
			return nil
		}}
}

func pollinizers() Calculator {
	return Calculator{Name: "pollinizer-share", Title: "Share and reach of pollinizers", Source: "method LAY-6, common practice",
		Purpose: "Whole rows after so many main rows, or every k-th tree in every q-th row: the share, and how far a main tree stands from one.",
		Inputs: []Field{choice("way", "how they stand", "rows", "trees").or("trees"), number("mainRows", "rows", "of the main kind between pollinizer rows", 1,
			50).or(4.0), number("pollinizerRows", "rows", "of pollinizers together", 1, 10).or(1.0),
			number("everyPlant", "plants", "every so many in the row", 1, 50).or(3.0), number("everyRow", "rows", "every so many", 1, 50).or(3.0),
			number("rowM", "m", "between rows", 0.5, 25).or(5.0), number("plantM", "m", "between plants", 0.3, 25).or(4.0)},
		Outputs: []Field{out("share", "share", "of all plants"), out("farthestM", "m", "from the farthest main plant to a pollinizer")},
		run: func(in values, r *Result) error {
			if in.str("way") == "rows" {
				m, p := in.num("mainRows"), in.num("pollinizerRows")
				share, far := p/(p+m), math.Ceil(m/2)*in.num("rowM")
				r.Outputs["share"], r.Outputs["farthestM"] = share, far
				r.show("share", "Share", "p / (p + m)", fmt.Sprintf("%g / (%g + %g)", p, p, m), share, "", "method LAY-6")
				r.show("farthestM", "Farthest", "⌈m / 2⌉ · row spacing", fmt.Sprintf("⌈%g / 2⌉ · %g", m, in.num("rowM")), far, "m", "method LAY-6")
				return nil
			}
			k, q := math.Round(in.num("everyPlant")), math.Round(in.num("everyRow"))
			far := 0.0
			for i := range int(k) {
				for j := range int(q) {
					dx, dy := math.Min(float64(i), k-float64(i))*in.num("plantM"), math.Min(float64(j), q-float64(j))*in.num("rowM")
					far = math.Max(far, math.Hypot(dx, dy))
				}
			}
			r.Outputs["share"], r.Outputs["farthestM"] = 1/(k*q), far
			r.show("share", "Share", "1 / (k · q)", fmt.Sprintf("1 / (%g · %g)", k, q), 1/(k*q), "", "method LAY-6")
			r.tell(working.Search, "farthestM", "Farthest", "largest distance of a cell of k × q to its corner", fmt.Sprintf("k %g, q %g", k, q), far, "m",
				"method LAY-6")
			return nil
		}}
}

func windbreak() Calculator {
	return Calculator{Name: "windbreak", Title: "Windbreak: shelter, belts and trees", Source: "method LAY-7; general shelterbelt literature, from memory",
		Purpose: "How far behind a belt the wind is slowed, how many belts a field needs, and their trees.",
		Inputs: []Field{number("heightM", "m", "of the belt in the year looked at", 0.3, 60).or(8.0), number("heights", "H",
			"behind the belt that count as sheltered", 1, 30).or(10.0), number("angleDeg", "°", "of the wind to the belt's normal", 0, 89).or(0.0),
			number("fieldM", "m", "field along the wind", 1, 20000).or(260.0), number("lengthM", "m", "of one belt", 1, 20000).or(200.0), number("spacingM", "m",
				"between trees", 0.1, 25).or(1.65), number("rows", "rows", "of a belt", 1, 8).or(1.0)},
		Outputs: []Field{out("shelterM", "m", "sheltered behind a belt"), whole("belts", "belts", "for the whole field", 0, 1e6), whole("trees", "trees",
			"in one belt", 0, 1e7), out("lostM2", "m²", "of ground a belt row and its setback of half its height take on both sides")},
		run: func(in values, r *Result) error {
			d := layout.DepthOfShelter(in.num("heightM"), in.num("heights"), in.num("angleDeg"))
			n := layout.Belts(in.num("fieldM"), d)
			trees := (int(math.Floor(in.num("lengthM")/in.num("spacingM")+1e-9)) + 1) * int(math.Round(in.num("rows")))
			r.Outputs["shelterM"], r.Outputs["belts"], r.Outputs["trees"] = d, n, trees
			r.Outputs["lostM2"] = in.num("lengthM") * (2*(in.num("rows")-1) + in.num("heightM"))
			r.show("shelterM", "Sheltered", "heights · H · cos θ", fmt.Sprintf("%g · %g · %.6f", in.num("heights"), in.num("heightM"),
				math.Cos(in.num("angleDeg")*math.Pi/180)), d, "m",
				"method LAY-7")
			r.show("belts", "Belts", "⌈field / sheltered⌉", fmt.Sprintf("⌈%g / %.2f⌉", in.num("fieldM"), d), float64(n), "", "method LAY-7")
			r.show("trees", "Trees of a belt", "(⌊length / spacing⌋ + 1) · rows", fmt.Sprintf("(⌊%g / %g⌋ + 1) · %g", in.num("lengthM"), in.num("spacingM"),
				in.num("rows")), float64(trees), "", "method LAY-7")
			r.show("lostM2", "Ground taken", "length · (2 · (rows − 1) + 2 · H/2)", fmt.Sprintf("%g · (2 · %g + %g)", in.num("lengthM"), in.num("rows")-1,
				in.num("heightM")), r.Outputs["lostM2"].(float64), "m²", "common practice, no source")
			return nil
		}}
}

func groundCover() Calculator {
	return Calculator{Name: "ground-cover", Title: "Ground covered by crowns", Source: "method Y3; geometry, exact on a rectangle",
		Purpose: "The share of the ground under round crowns that stand in a rectangle, overlap counted once, and what stays clear between the rows.",
		Inputs: []Field{number("spreadM", "m", "of a crown", 0, 25).or(4.5), number("plantM", "m", "between plants", 0.1, 25).or(4.0),
			number("rowM", "m", "between rows", 0.1, 25).or(5.0)},
		Outputs: []Field{out("cover", "share", "of the ground"), out("alleyM", "m", "clear between two rows")},
		run: func(in values, r *Result) error {
			c := canopy.Cover(in.num("spreadM"), in.num("plantM"), in.num("rowM"))
			r.Outputs["cover"], r.Outputs["alleyM"] = c, math.Max(0, in.num("rowM")-in.num("spreadM"))
			r.tell(working.Series, "cover", "Cover", "2/s · [y₁ + 2/p · (F(y₂) − F(y₁))], F(y) = (y·√(r² − y²) + r²·asin(y/r))/2", fmt.Sprintf("d %g, p %g, s %g m",
				in.num("spreadM"),
				in.num("plantM"), in.num("rowM")), c, "", "method Y3")
			return nil
		}}
}

func mixedYield() Calculator {
	const mead = "Mead & Willey, The concept of a land equivalent ratio and advantages in yields from intercropping, Exp. Agric., 1980"
	return Calculator{Name: "land-equivalent-ratio", Title: "Does growing crops together save land?", Source: "method Y14; " + mead,
		Purpose: "Yield of each crop for the whole ground, and the land equivalent ratio: above one, land is saved.",
		Inputs: []Field{{Name: "crops", Kind: Table, Meaning: "crops grown together", Columns: []Field{number("share", "share", "of the ground its strip takes", 0,
			1), number("ownYield", "t/ha", "yield a hectare of its own strip", 0, 200), number("soleYield", "t/ha", "grown alone", 0.001, 200)},
			Default: []any{map[string]any{"share": 0.7, "ownYield": 3.6, "soleYield": 4.0}, map[string]any{"share": 0.3, "ownYield": 17.0, "soleYield": 20.0}}}},
		Outputs: []Field{{Name: "perTotalHa", Kind: Numbers, Unit: "t/ha", Meaning: "of each crop for the whole ground"}, out("ler", "", "land equivalent ratio"),
			out("saved", "share", "of the land saved; 0 where none is")},
		run: func(in values, r *Result) error {
			var per []float64
			ler, shares := 0.0, 0.0
			var parts []string
			for _, c := range in.rows("crops") {
				y := c.num("share") * c.num("ownYield")
				per, ler, shares = append(per, y), ler+y/c.num("soleYield"), shares+c.num("share")
				parts = append(parts, fmt.Sprintf("%.4g/%g", y, c.num("soleYield")))
			}
			if shares > 1+1e-9 {
				return finding.Bad("inputs.crops", shares, "are shares that sum to more than the ground", "shares that sum to 1 or less")
			}
			saved := 0.0
			if ler > 0 {
				saved = math.Max(0, 1-1/ler)
			}
			r.Outputs["perTotalHa"], r.Outputs["ler"], r.Outputs["saved"] = per, ler, saved
			r.show("ler", "Land equivalent ratio", "Σ yield together / yield alone", strings.Join(parts, " + "), ler, "", mead)
			if ler < 1 {
				r.warn("mixed.loses", "Land", fmt.Sprintf("The mixture loses land: the same crops grown apart would take %.3g of it, unless what else it gives counts.",
					ler), mead)
			}
			return nil
		}}
}

// fitting is what one kind of fitting takes, as a method on its own.
func fitting(k fittings.Kind) Calculator {
	inputs := []Field{number("rows", "rows", "pieces of row", 0, 5000).or(12.0), number("rowLengthM", "m", "length of each", 0, 5000).or(96.0),
		number("stations", "stations", "on the field", 0, 2e6).or(1000.0),
		number("plants", "plants", "on the field", 0, 5e6).or(1000.0), number("plantedHa", "ha", "planted", 0, 10000).or(1.0), number("perimeterM", "m", "boundary",
			0, 1e6).or(400.0), number("rowM", "m", "between rows", 0.1, 25).or(4.0),
		number("slopePct", "%", "along the rows", 0, 60).or(0.0)}
	for _, f := range k.Fields {
		unit := held[f.Quantity]
		inputs = append(inputs, number(f.Name, unit, strings.ToLower(f.Label), f.Min, f.Max).or(f.Usual))
	}
	usual := fittings.Take(k.ID, nil, fittings.Site{RowsM: []float64{1}, Stations: 1, Plants: 1, PlantedM2: 1, PerimeterM: 1, RowM: 1})
	c := Calculator{Name: "takes-" + k.ID, Title: "What it takes: " + strings.ToLower(k.Name), Source: k.Source, Purpose: "Counts " + k.Says + ".", Inputs: inputs}
	for _, i := range usual {
		c.Outputs = append(c.Outputs, out(outputName(i.What), held[i.Quantity], i.What))
	}
	c.run = func(in values, r *Result) error {
		s := fittings.Site{Stations: in.int("stations"), Plants: in.int("plants"), PlantedM2: in.num("plantedHa") * 1e4, PerimeterM: in.num("perimeterM"),
			RowM: in.num("rowM"), SlopePct: in.num("slopePct")}
		for range in.int("rows") {
			s.RowsM = append(s.RowsM, in.num("rowLengthM"))
		}
		said := map[string]float64{}
		for _, f := range k.Fields {
			said[f.Name] = in.num(f.Name)
		}
		for i, t := range fittings.Take(k.ID, said, s) {
			if i >= len(c.Outputs) {
				break
			}
			r.Outputs[c.Outputs[i].Name] = t.Amount
			kind := working.Arithmetic
			if t.Summed() {
				kind = working.Series
			}
			r.tell(kind, c.Outputs[i].Name, t.What, t.Formula, units.Marked(t.Substituted, units.Metric), t.Amount, c.Outputs[i].Unit, k.Source)
		}
		return nil
	}
	return c
}

// outputName makes a name of the words for a thing.
func outputName(what string) string {
	var b strings.Builder
	up := false
	for _, r := range what {
		switch {
		case r >= 'a' && r <= 'z':
			if up && b.Len() > 0 {
				r -= 'a' - 'A'
			}
			up = false
			b.WriteRune(r)
		default:
			up = true
		}
	}
	return b.String()
}
