package calc

import (
	"fmt"
	"math"

	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/working"
)

// spacings are the inputs of a pattern, as a layout has them.
func spacings(row, plant float64) []Field {
	return []Field{choice("pattern", "how stations stand to each other", layout.Patterns...).or("square"),
		number("rowSpacingM", "m", "between rows, or between pair centres of twin rows; other patterns derive it", 0.1, 25).or(row),
		number("plantSpacingM", "m", "between stations in the row", 0.1, 25).or(plant),
		number("twinGapM", "m", "between the two rows of a pair, twin only", 0, 25).or(0.75)}
}

func (v values) spec() layout.Spec {
	return layout.Spec{Pattern: layout.Pattern(v.str("pattern")), RowSpacingM: v.num("rowSpacingM"), PlantSpacingM: v.num("plantSpacingM"),
		TwinGapM: v.num("twinGapM")}
}

func stationCount() Calculator {
	return Calculator{Name: "stations-on-a-field", Title: "Stations that fit a field",
		Source:  "method LAY-3; rows cut to the boundary less its band, checked against a geometry library",
		Purpose: "How many stations really fit, and how many metres of row, on a boundary with its edges kept free.",
		Inputs: append(append([]Field{{Name: "rings", Kind: Rings, Unit: "°", Meaning: "rings of [longitude, latitude], the outer ring first"}}, spacings(4, 2)...),
			number("bearingDeg", "°", "of the rows, clockwise from true north", 0, 180).or(0.0),
			number("edgeBandM", "m", "kept free along every boundary", 0, 100).or(5.0),
			number("rowEndSetbackM", "m", "kept free along the row at its ends", 0, 100).or(0.0)),
		Outputs: []Field{whole("stations", "stations", "that fit", 0, layout.MaxStations), whole("rows", "rows", "with a station", 0, 1e6),
			whole("pieces", "pieces", "of row, cut by corners and holes", 0, 1e6), out("rowM", "m", "of row"), out("perHa", "/ha", "on the whole field"),
			out("bySpacing", "stations", "by area and spacing alone"), out("lost", "share", "to edges and row ends")},
		run: func(in values, r *Result) error {
			p := in["rings"].(geo.Polygon)
			if err := geo.Validate(p); err != nil {
				return finding.Bad("inputs.rings", "", err.Error(), "a boundary of three points or more that does not cross itself")
			}
			s := in.spec()
			s.BearingDeg, s.EdgeBandM, s.RowEndSetbackM = in.num("bearingDeg"), in.num("edgeBandM"), in.num("rowEndSetbackM")
			got, err := layout.Place(layout.Field{Rings: p.PlaneRings(geo.LocalPlane(p))}, s)
			if err != nil {
				return prefix(err)
			}
			ha := geo.AreaM2(p) / 1e4
			by := s.StationsPerHa() * ha
			r.Outputs["stations"], r.Outputs["rows"], r.Outputs["pieces"], r.Outputs["rowM"] = got.Stations, got.Rows, len(got.Pieces), got.RowMetres
			r.Outputs["perHa"], r.Outputs["bySpacing"], r.Outputs["lost"] = float64(got.Stations)/ha, by, 1-float64(got.Stations)/by
			r.tell(working.Count, "stations", "Stations", "each piece of row of length ℓ takes ⌊ℓ / plant spacing⌋ + 1; squares and triangles keep to one lattice",
				fmt.Sprintf("%d pieces, %.1f m of row", len(got.Pieces), got.RowMetres), float64(got.Stations), "stations", "method LAY-3")
			r.show("bySpacing", "By spacing alone", "area × density", fmt.Sprintf("%.5f ha × %.2f /ha", ha, s.StationsPerHa()), by, "stations", "method LAY-1")
			if got.Stations == 0 {
				r.warn("rows.none", "Edge band", "The band kept free swallows the field.", "method LAY-3")
			}
			return nil
		}}
}

func thinning() Calculator {
	return Calculator{Name: "thinning", Title: "What thinning can leave", Source: "method LAY-5: what remains is a sublattice of what was planted",
		Purpose: "The spacings that taking plants out of a stand can leave, and whether a wanted one is among them.",
		Inputs: append(spacings(6, 6), number("wantXM", "m", "wanted afterwards, one way", 0.1, 100).or(10.0), number("wantYM", "m", "and the other", 0.1,
			100).or(10.0)),
		Outputs: []Field{words("reached", "can it be reached"), whole("keep", "", "one station of so many stays; 0 where it cannot", 0, 1e6),
			series("shortM", "m", "shorter sides of what can be left"), series("longM", "m", "longer sides"), series("keepOf", "", "one of so many stays")},
		run: func(in values, r *Result) error {
			s := in.spec()
			if err := s.Valid(); err != nil {
				return prefix(err)
			}
			if s.Pattern == layout.Twin {
				return finding.Bad("inputs.pattern", s.Pattern, "has no single lattice here: taking one row of each pair leaves pair centres × plant spacing",
					"square, rectangle, triangle or quincunx")
			}
			var short, long, of []float64
			for _, x := range s.Remainders(5) {
				short, long, of = append(short, x.XM), append(long, x.YM), append(of, float64(x.Keep))
			}
			r.Outputs["shortM"], r.Outputs["longM"], r.Outputs["keepOf"] = short, long, of
			x, y := in.num("wantXM"), in.num("wantYM")
			got, ok := s.Thins(x, y)
			r.Outputs["reached"], r.Outputs["keep"] = "no", 0
			if ok {
				r.Outputs["reached"], r.Outputs["keep"] = "yes", got.Keep
				if got.Turned {
					r.Outputs["reached"] = "yes, turned to the rows"
				}
			} else {
				r.warn("rows.thinning-cannot", "Thinning", s.CannotThin(x, y), "method LAY-5")
			}
			r.tell(working.Search, "keep", "Sublattice", "two vectors of the lattice at right angles, of the wanted lengths within 2 %",
				fmt.Sprintf("%g × %g m of %.4g × %.4g m: density ratio %.4g", x, y, s.Normal().RowSpacingM, s.Normal().PlantSpacingM, x*y*s.StationsPerHa()/1e4),
				float64(got.Keep), "", "method LAY-5")
			if math.Abs(x*y*s.StationsPerHa()/1e4-math.Round(x*y*s.StationsPerHa()/1e4)) > 0.01*math.Round(x*y*s.StationsPerHa()/1e4) {
				r.tell(working.Rule, "keep", "Density", "old density over new must be a whole number", fmt.Sprintf("%.4g", x*y*s.StationsPerHa()/1e4), 0, "",
					"method LAY-5")
			}
			return nil
		}}
}
