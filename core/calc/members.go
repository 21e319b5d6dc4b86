package calc

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/practice"
	"slowroot/core/supply"
	"slowroot/core/working"
	"slowroot/core/yield"
)

// New is the registry with every member. Sheets name the crops of those that read one.
func New(sheets *practice.Library) *Registry {
	var list []Calculator
	under := func(subject string, of ...Calculator) {
		for _, c := range of {
			c.Subject = subject
			measured(c.Inputs)
			measured(c.Outputs)
			list = append(list, c)
		}
	}
	under("Rows and plants", append([]Calculator{density(), stationCount(), thinning(), order(), area(), sides()}, besides()...)...)
	under("What a layout takes", taken()...)
	under("Soil and site", soils()...)
	under("Amendments", amendments()...)
	under("Drains", drains()...)
	under("Beds and earthworks", earthworks()...)
	under("Climate and days", climates()...)
	under("Work and supply", planning()...)
	under("Feeding", feeds()...)
	under("Growth and yield", append([]Calculator{byAge(sheets)}, stands()...)...)
	return &Registry{list: list}
}

func density() Calculator {
	patterns := make([]string, len(layout.Patterns))
	for i, p := range layout.Patterns {
		patterns[i] = string(p)
	}
	return Calculator{
		Name: "planting-density", Title: "Planting density by pattern", Source: "method LAY-1, geometry of the pattern",
		Purpose: "How many stations a hectare holds at a spacing, before edges and row ends.",
		Inputs: []Field{
			{Name: "pattern", Kind: Choice, Meaning: "how stations stand to each other", Options: patterns, Default: "rectangle"},
			{Name: "rowSpacingM", Kind: Number, Unit: "m", Meaning: "between rows, or between pair centres of twin rows; squares and triangles derive it", Min: 0.1,
				Max: 25, Default: 5.0},
			{Name: "plantSpacingM", Kind: Number, Unit: "m", Meaning: "between stations in the row", Min: 0.1, Max: 25, Default: 3.0},
			{Name: "twinGapM", Kind: Number, Unit: "m", Meaning: "between the two rows of a pair, twin only", Min: 0, Max: 25, Default: 0.75},
			{Name: "plantsPerStation", Kind: Integer, Unit: "plants", Meaning: "plants at each station", Min: 1, Max: 20, Default: 1.0},
		},
		Outputs: []Field{{Name: "stationsPerHa", Kind: Number, Unit: "/ha", Meaning: "stations"}, {Name: "plantsPerHa", Kind: Number, Unit: "/ha",
			Meaning: "plants"}, {Name: "rowMetresPerHa", Kind: Number, Unit: "m/ha", Meaning: "single row length"}},
		run: func(in values, r *Result) error {
			s := layout.Spec{Pattern: layout.Pattern(in.str("pattern")), RowSpacingM: in.num("rowSpacingM"), PlantSpacingM: in.num("plantSpacingM"),
				TwinGapM: in.num("twinGapM")}
			if err := s.Valid(); err != nil {
				return prefix(err)
			}
			d := s.StationsPerHa()
			r.Outputs["stationsPerHa"] = d
			r.Outputs["plantsPerHa"] = d * in.num("plantsPerStation")
			r.Outputs["rowMetresPerHa"] = d * s.PlantSpacingM
			f, sub := s.DensityFormula()
			r.Working = append(r.Working, working.Step{Figure: "stationsPerHa", Label: "Stations per hectare", Formula: f, Substituted: sub, Value: d, Unit: "/ha",
				Source: "method LAY-1", Inputs: []working.Input{}})
			if s.Pattern == layout.Rectangle && s.RowSpacingM < s.PlantSpacingM {
				r.Findings = append(r.Findings, finding.Finding{Rule: "rows.orientation", Weight: finding.Watch, Subject: "Spacing", Source: "method LAY-1",
					Remedies: []finding.Remedy{},
					Sentence: "The rows stand closer than the plants in them; trades write the two in different order."})
			}
			return nil
		},
	}
}

// What an order is to make sure of where several plants go into a hole.
const (
	everyPlant = "every plant"
	everyHole  = "every hole"
)

func order() Calculator {
	return Calculator{
		Name: "plants-to-order", Title: "Plants to order", Source: "methods LAY-9, LAY-10; Abramowitz & Stegun, Handbook of Mathematical Functions, 1964, 26.5.24",
		Purpose: "How many plants of each kind to order, pollinizers apart: so that every plant lives, or so that a living one stands in every hole.",
		Inputs: []Field{
			{Name: "stations", Kind: Integer, Unit: "stations", Meaning: "all stations, pollinizers included", Min: 0, Max: 250_000},
			{Name: "pollinizerStations", Kind: Integer, Unit: "stations", Meaning: "of them, stations for pollinizers", Min: 0, Max: 250_000, Default: 0.0},
			{Name: "plantsPerStation", Kind: Integer, Unit: "plants", Meaning: "plants at each station", Min: 1, Max: 20, Default: 1.0},
			{Name: "want", Kind: Choice, Meaning: "every plant alive, or one alive in every hole", Options: []string{everyPlant, everyHole}, Default: everyPlant},
			{Name: "survival", Kind: Number, Unit: "share", Meaning: "share of plants that establish", Min: 0.05, Max: 1, Default: 0.95},
			{Name: "confidence", Kind: Number, Unit: "share", Meaning: "wanted probability that it is enough", Min: 0.5, Max: 0.999, Default: 0.95},
			{Name: "flatReserve", Kind: Number, Unit: "share", Meaning: "the trade's reserve, for comparison", Min: 0, Max: 1, Default: 0.05},
		},
		Outputs: []Field{{Name: "mainPlants", Kind: Integer, Unit: "plants", Meaning: "main kind to order"}, {Name: "pollinizerPlants", Kind: Integer,
			Unit: "plants", Meaning: "pollinizers to order"},
			{Name: "flatMainPlants", Kind: Integer, Unit: "plants", Meaning: "main kind with the flat reserve"}, {Name: "flatConfidence", Kind: Number, Unit: "share",
				Meaning: "how sure the flat reserve of the main kind is that every plant lives"},
			{Name: "gapShare", Kind: Number, Unit: "share", Meaning: "of holes in which all die"}, {Name: "gaps", Kind: Number, Unit: "holes",
				Meaning: "empty holes to expect, main kind"},
			{Name: "gapsHigh", Kind: Integer, Unit: "holes", Meaning: "empty holes of a bad case, main kind"}, {Name: "doubles", Kind: Number, Unit: "share",
				Meaning: "of holes with two or more alive, to be singled"}},
		run: runOrder,
	}
}

func runOrder(in values, r *Result) error {
	if in.int("pollinizerStations") > in.int("stations") {
		return finding.Bad("inputs.pollinizerStations", in.int("pollinizerStations"), "is more than all stations", fmt.Sprintf("0 to %d", in.int("stations")))
	}
	k := in.int("plantsPerStation")
	for _, kind := range []struct {
		out   string
		holes int
	}{{"mainPlants", in.int("stations") - in.int("pollinizerStations")}, {"pollinizerPlants", in.int("pollinizerStations")}} {
		o, err := supply.Plants(kind.holes*k, in.num("survival"), in.num("confidence"), in.num("flatReserve"))
		if err != nil {
			return prefix(err)
		}
		h, err := supply.EveryHole(kind.holes, k, in.num("survival"), in.num("confidence"))
		if err != nil {
			return prefix(err)
		}
		if kind.out == "mainPlants" {
			r.Outputs["flatMainPlants"], r.Outputs["flatConfidence"] = o.Flat, math.Max(0, math.Round(o.FlatSure*1e6)/1e6)
			r.Outputs["gapShare"], r.Outputs["gaps"], r.Outputs["gapsHigh"], r.Outputs["doubles"] = h.GapShare, h.GapsExpected, h.GapsHigh, h.Doubles
		}
		if in.str("want") == everyHole {
			r.Outputs[kind.out] = h.Plants
			r.Working = append(r.Working,
				working.Step{Figure: kind.out, Label: "Empty holes of a bad case", Kind: working.Search,
					Formula:     "smallest g with P(Binomial(holes, (1 − survival)^k) ≤ g) ≥ confidence",
					Substituted: fmt.Sprintf("holes %d, k %d, survival %g, confidence %g", kind.holes, k, in.num("survival"), in.num("confidence")),
					Value:       float64(h.GapsHigh), Unit: "holes", Source: "method LAY-10", Inputs: []working.Input{}},
				working.Step{Figure: kind.out, Label: "Plants to order", Formula: "(holes + empty holes) · plants a hole",
					Substituted: fmt.Sprintf("(%d + %d) · %d", kind.holes, h.GapsHigh, k), Value: float64(h.Plants), Unit: "plants", Source: "method LAY-10",
					Inputs: []working.Input{}})
			continue
		}
		r.Outputs[kind.out] = o.Plants
		r.Working = append(r.Working, working.Step{Figure: kind.out, Label: "Plants to order", Kind: working.Search,
			Formula:     "smallest N with P(Binomial(N, survival) ≥ need) ≥ confidence",
			Substituted: fmt.Sprintf("need %d, survival %g, confidence %g", kind.holes*k, in.num("survival"), in.num("confidence")), Value: float64(o.Plants),
			Unit: "plants", Source: "method LAY-9", Inputs: []working.Input{}})
		if kind.out == "mainPlants" && k > 1 {
			r.warn("plants.every-hole", "What is wanted",
				fmt.Sprintf("This asks every plant to live. If one living plant in each hole is enough, %d planted fill %.1f %% of the holes, and %d ordered fill the "+
					"rest of a bad case too.", h.Planted, 100*(1-h.GapShare), h.Plants), "method LAY-10")
		}
	}
	return nil
}

// sides measures a line of points as it is drawn, before it closes.
func sides() Calculator {
	return Calculator{
		Name: "side-lengths", Title: "Sides of a line of points", Source: "local transverse Mercator plane; checked against geodesics (Karney, J. Geodesy 87, 2013)",
		Purpose: "How far it is from each point to the next, on WGS 84, and all the way along.",
		Inputs: []Field{{Name: "points", Kind: Table, Meaning: "points in their order", Columns: []Field{number("lon", "°", "longitude", -180, 180),
			number("lat", "°", "latitude", -geo.MaxLatDeg, geo.MaxLatDeg)},
			Default: []any{map[string]any{"lon": 172.0, "lat": -38.0}, map[string]any{"lon": 172.003, "lat": -38.0}, map[string]any{"lon": 172.0045, "lat": -37.998}}}},
		Outputs: []Field{{Name: "sidesM", Kind: Numbers, Unit: "m", Meaning: "from each point to the next"}, {Name: "totalM", Kind: Number, Unit: "m",
			Meaning: "all the way"}},
		run: func(in values, r *Result) error {
			rows := in.rows("points")
			if len(rows) < 2 {
				return finding.Bad("inputs.points", len(rows), "are too few for a side", "two points or more")
			}
			at := func(i int) geo.Point { return geo.Point{Lon: rows[i].num("lon"), Lat: rows[i].num("lat")} }
			plane := geo.PlaneAt(at(0))
			out, terms, total := make([]float64, 0, len(rows)-1), make([]string, 0, len(rows)-1), 0.0
			for i := 1; i < len(rows); i++ {
				if far := geo.DistanceM(at(0), at(i)); far > geo.MaxReachM {
					return finding.Bad("inputs.points", i+1, "lies too far from the first point for one field", "points within 50 km")
				}
				a, b := plane.To(at(i-1)), plane.To(at(i))
				d := math.Hypot(b.X-a.X, b.Y-a.Y)
				out, terms, total = append(out, d), append(terms, fmt.Sprintf("%.2f", d)), total+d
			}
			r.Outputs["sidesM"], r.Outputs["totalM"] = out, total
			r.Working = append(r.Working, working.Step{Figure: "totalM", Label: "All the way", Formula: "Σ √(Δx² + Δy²)", Substituted: strings.Join(terms, " + "),
				Value: total, Unit: "m", Source: "method LAY-2", Inputs: []working.Input{}})
			return nil
		},
	}
}

func area() Calculator {
	return Calculator{
		Name: "polygon-area", Title: "Area of a polygon",
		Source:  "shoelace on a local transverse Mercator plane, corrected to the ellipsoid; checked against geodesic areas (Karney, J. Geodesy 87, 2013)",
		Purpose: "The area and boundary length of a field on WGS 84, holes subtracted.",
		Inputs: []Field{{Name: "rings", Kind: Rings, Unit: "°", Meaning: "rings of [longitude, latitude], the outer ring first"},
			{Name: "accuracyM", Kind: Number, Unit: "m", Meaning: "standard error of a point", Min: 0, Max: 100, Default: 0.0}},
		Outputs: []Field{{Name: "areaM2", Kind: Number, Unit: "m²", Meaning: "area"}, {Name: "perimeterM", Kind: Number, Unit: "m",
			Meaning: "length of the outer boundary"}, {Name: "areaSdM2", Kind: Number, Unit: "m²", Meaning: "standard error of the area"}},
		run: func(in values, r *Result) error {
			p := in["rings"].(geo.Polygon)
			if err := geo.Validate(p); err != nil {
				where, why, accepted := "", err.Error(), "a boundary of three points or more that does not cross itself"
				if inv, ok := err.(*geo.Invalid); ok {
					why, accepted = inv.Reason, inv.Remedy
					if inv.Point > 0 {
						where = fmt.Sprintf("corner %d", inv.Point)
					}
					if inv.Ring > 0 {
						where = strings.TrimSuffix(fmt.Sprintf("hole %d, ", inv.Ring)+where, ", ")
					}
				}
				return finding.Bad("inputs.rings", where, why, accepted)
			}
			a := geo.AreaM2(p)
			r.Outputs["areaM2"], r.Outputs["perimeterM"], r.Outputs["areaSdM2"] = a, geo.PerimeterM(p), geo.AreaSD(p, in.num("accuracyM"))
			r.Working = append(r.Working, working.Step{Figure: "areaM2", Label: "Area", Kind: working.Series, Formula: "½·|Σ(xᵢ·yᵢ₊₁ − xᵢ₊₁·yᵢ)| − ∫x²/R²",
				Substituted: map[bool]string{true: "the boundary alone", false: fmt.Sprintf("the boundary less %d holes", len(p.Holes))}[len(p.Holes) == 0], Value: a,
				Unit: "m²", Source: "method LAY-2", Inputs: []working.Input{}})
			return nil
		},
	}
}

func byAge(sheets *practice.Library) Calculator {
	var crops []string
	life := 1
	for _, s := range sheets.Whole() {
		crops = append(crops, s.ID)
		life = max(life, s.Life.High)
	}
	return Calculator{
		Name: "yield-by-age", Title: "Yield by age", Source: "methods Y6 to Y9; Shinozaki & Kira, 1956",
		Purpose: "What a planting of a crop yields in one age year, per planted hectare.",
		Inputs: []Field{
			{Name: "sheet", Kind: Choice, Meaning: "crop", Options: crops},
			{Name: "ageYear", Kind: Integer, Unit: "years", Meaning: "1 is the first growing season", Min: 1, Max: float64(life), Default: 8.0},
			{Name: "plantsPerHa", Kind: Number, Unit: "/ha", Meaning: "density by spacing; left out, the sheet's reference", Min: 1, Max: 200000, Optional: true},
		},
		Outputs: []Field{{Name: "lowKgPerHa", Kind: Number, Unit: "kg/ha", Meaning: "low"}, {Name: "baseKgPerHa", Kind: Number, Unit: "kg/ha", Meaning: "base"},
			{Name: "highKgPerHa", Kind: Number, Unit: "kg/ha", Meaning: "high"}, {Name: "fractionOfFull", Kind: Number, Unit: "share",
				Meaning: "fraction of full yield"}},
		run: func(in values, r *Result) error {
			s, _ := sheets.Get(in.str("sheet"))
			age := in.int("ageYear")
			if age > s.Life.Base {
				return finding.Bad("inputs.ageYear", age, "lies beyond the life of "+s.Name, fmt.Sprintf("1 to %d years", s.Life.Base))
			}
			choice := s.Resolve(nil)
			c := s.Curve(choice)
			rho := in.num("plantsPerHa")
			if rho == 0 {
				rho = c.ReferencePerHa
			}
			y := yield.Series(c, s.Harvesting(choice), s.Stand, yield.Block{PlantsPerHa: func(int) float64 { return rho }, Life: s.Life.Base})[age-1]
			r.Outputs["lowKgPerHa"], r.Outputs["baseKgPerHa"], r.Outputs["highKgPerHa"], r.Outputs["fractionOfFull"] = y.KgPerHa.Low, y.KgPerHa.Base, y.KgPerHa.High,
				y.Fraction
			r.Working = append(r.Working, working.Step{Figure: "baseKgPerHa", Label: "Yield, base",
				Formula:     "full yield × fraction by age × density factor × stand factor × cycle × years of growth taken",
				Substituted: fmt.Sprintf("%g × %.3f × %.3f × %.3f × %.2f × %d", c.Full.Base, y.Fraction, y.Density, y.Stand, y.Cycle, y.Growth), Value: y.KgPerHa.Base,
				Unit: "kg/ha", Source: c.Source + " (" + practice.OriginWords(c.Origin) + ")", Inputs: []working.Input{}})
			if c.Extrapolated(rho) {
				r.Findings = append(r.Findings, finding.Finding{Rule: "rows.density-far", Weight: finding.Watch, Subject: "Density", Source: "method Y7",
					Remedies: []finding.Remedy{},
					Sentence: fmt.Sprintf("%.0f/ha is far from the %.0f/ha the yields were seen at.", rho, c.ReferencePerHa)})
			}
			return nil
		},
	}
}

// prefix names the field as the caller wrote it.
func prefix(err error) error {
	var fe *finding.FieldError
	if errors.As(err, &fe) {
		return finding.Bad("inputs."+fe.Field, fe.Value, fe.Rule, fe.Accepted)
	}
	return err
}

func readRings(v any, bad func(string) error) (any, error) {
	list, ok := v.([]any)
	if !ok || len(list) == 0 {
		return nil, bad("is not a list of rings")
	}
	var rings []geo.Ring
	for i, r := range list {
		pts, ok := r.([]any)
		if !ok || len(pts) > geo.MaxVertices {
			return nil, bad(fmt.Sprintf("ring %d is not a list of positions, or holds more than %d", i+1, geo.MaxVertices))
		}
		var ring geo.Ring
		for j, q := range pts {
			c, ok := q.([]any)
			if !ok || len(c) < 2 {
				return nil, bad(fmt.Sprintf("ring %d, point %d is not [longitude, latitude]", i+1, j+1))
			}
			lon, ok1 := c[0].(float64)
			lat, ok2 := c[1].(float64)
			if !ok1 || !ok2 || math.IsNaN(lon+lat) {
				return nil, bad(fmt.Sprintf("ring %d, point %d does not hold two numbers", i+1, j+1))
			}
			ring = append(ring, geo.Point{Lon: lon, Lat: lat})
		}
		rings = append(rings, ring)
	}
	return geo.Polygon{Outer: rings[0], Holes: rings[1:]}, nil
}
