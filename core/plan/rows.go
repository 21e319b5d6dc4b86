package plan

import (
	"errors"
	"fmt"
	"math"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// rows places the layout, or takes it as it stands in the ground.
func (c *computation) rows() error {
	p := c.planting
	var err error
	if p.AsPlanted != nil {
		c.p.Spec = p.AsPlanted.Spec.Normal()
		c.placed = c.standing(p.AsPlanted)
		if l, ok := c.sheet.Layout(p.AsPlanted.Layout); ok {
			c.option = l
		}
	} else {
		c.p.Spec = p.Spec(c.option).Normal()
		c.placed, err = layout.Place(c.ground.On, p.Spec(c.option))
	}
	var fe *finding.FieldError
	if errors.As(err, &fe) {
		return finding.Bad("planting.layout."+fe.Field, fe.Value, fe.Rule, fe.Accepted)
	} else if err != nil {
		return err
	}
	s, pl := c.p.Spec, c.placed
	c.p.Rows = pl.Pieces
	if c.p.Rows == nil {
		c.p.Rows = []layout.Piece{}
	}
	if c.option.Thinning != nil && pl.Temporary > 0 {
		c.p.OutAge = c.option.Thinning.OutAge
	}
	density := s.StationsPerHa()
	c.planted = float64(pl.Stations) / density
	from := working.Computed
	if p.AsPlanted != nil {
		from = working.Measured
	}
	area := c.ground.AreaM2
	c.Figure(report.Figure{Path: "rows.stations", Step: "rows", Label: "Stations", Quantity: units.Count, Value: float64(pl.Stations), Origin: from, Note: "counted on the boundary"})
	c.Figure(report.Figure{Path: "rows.density", Step: "rows", Label: "By spacing alone", Quantity: units.PerArea, Value: density, Origin: working.Computed, Note: "an endless field"})
	c.Figure(report.Figure{Path: "rows.real", Step: "rows", Label: "On this block", Quantity: units.PerArea, Value: float64(pl.Stations) / (area / 1e4), Origin: working.Computed, Note: "stations over the whole area"})
	c.Figure(report.Figure{Path: "rows.planted", Step: "rows", Label: "Planted area", Quantity: units.Area, Value: c.planted * 1e4, Origin: working.Computed, Note: "what the stations stand for; edges and row ends left out"})
	c.Figure(report.Figure{Path: "rows.metres", Step: "rows", Label: "Row length", Quantity: units.Distance, Value: pl.RowMetres, Origin: from, Note: fmt.Sprintf("%d rows in %d pieces", pl.Rows, len(pl.Pieces))})
	if pl.Temporary > 0 {
		c.Figure(report.Figure{Path: "rows.temporary", Step: "rows", Label: "Come out later", Quantity: units.Count, Value: float64(pl.Temporary), Origin: from, Note: "every second station in the row"})
	}
	if pl.Pollinizers > 0 {
		c.Figure(report.Figure{Path: "rows.pollinizers", Step: "rows", Label: "Pollinizers", Quantity: units.Count, Value: float64(pl.Pollinizers), Origin: from,
			Note: fmt.Sprintf("one in every %d of every %s row", s.Pollinizer.EveryPlant, report.Ordinal(s.Pollinizer.EveryRow))})
	}
	c.rowWorking(density)
	return nil
}

func (c *computation) rowWorking(density float64) {
	s, pl, area := c.p.Spec, c.placed, c.ground.AreaM2
	spacing := func() []working.Input {
		o := func(v *float64) working.Origin {
			if v != nil {
				return working.Chosen
			}
			return working.Sheet
		}
		ov := c.planting.Layout
		in := []working.Input{
			c.Num("row spacing", s.RowSpacingM, units.Spacing, o(ov.RowSpacingM), c.option.Name, ""),
			c.Num("plant spacing", s.PlantSpacingM, units.Spacing, o(ov.PlantSpacingM), c.option.Name, ""),
		}
		if s.Pattern == layout.Twin {
			in = append(in, c.Num("between the two rows of a pair", s.TwinGapM, units.Spacing, o(ov.TwinGapM), c.option.Name, ""))
		}
		return append(in,
			c.Num("bearing", s.BearingDeg, units.Angle, o(ov.BearingDeg), "clockwise from true north", ""),
			c.Num("edge band", s.EdgeBandM, units.Spacing, o(ov.EdgeBandM), c.option.Name, ""),
			c.Num("row-end setback", s.RowEndSetbackM, units.Spacing, o(ov.RowEndSetbackM), c.option.Name, ""))
	}
	if c.On("rows.density") {
		f, sub := s.DensityFormula()
		c.Step("rows.density", "Density by spacing alone", f, sub, density, units.PerArea, "method LAY-1, geometry; "+practice.OriginWords(c.option.Origin), spacing()[:2]...)
	}
	if c.On("rows.stations") {
		if c.planting.AsPlanted != nil {
			c.Tell(working.Count, "rows.stations", "As planted", "stations fixed when the planting was recorded", fmt.Sprintf("%d pieces of row", len(pl.Pieces)), float64(pl.Stations), units.Count, "recorded on "+c.planting.Planted.Words())
		} else {
			c.Tell(working.Count, "rows.stations", "Stations on the block", "each piece of row of length ℓ takes ⌊ℓ / plant spacing⌋ + 1 stations; squares and triangles keep to one lattice",
				fmt.Sprintf("%d pieces of row, %.0f m together", len(pl.Pieces), pl.RowMetres), float64(pl.Stations), units.Count, "method LAY-3: rows cut to the boundary, less the edge band and the row-end setback; counts agree with an independent geometry library", spacing()...)
		}
		c.Step("rows.stations", "Check", "row length / plant spacing + ½ a piece", fmt.Sprintf("%.2f / %g + ½ · %d", pl.RowMetres, s.PlantSpacingM, len(pl.Pieces)),
			pl.RowMetres/s.PlantSpacingM+0.5*float64(len(pl.Pieces)), units.Count, "self-check, within 1 % for rows that start at their end",
			c.Num("row length", pl.RowMetres, units.Distance, working.Computed, "", "rows.metres"))
	}
	if c.On("rows.real") {
		c.Step("rows.real", "Density on this block", "stations / area", fmt.Sprintf("%d / %.5f ha", pl.Stations, area/1e4), float64(pl.Stations)/(area/1e4), units.PerArea, "",
			c.Num("stations", float64(pl.Stations), units.Count, working.Computed, "", "rows.stations"), c.Num("area", area, units.Area, working.Measured, "", "area"))
	}
	if c.On("rows.planted") {
		c.Step("rows.planted", "Planted area", "10 000 · stations / density by spacing", fmt.Sprintf("10 000 · %d / %.2f per ha", pl.Stations, density), c.planted*1e4, units.Area, "the ground a full field of this spacing would take; yields and doses per hectare belong to it",
			c.Num("stations", float64(pl.Stations), units.Count, working.Computed, "", "rows.stations"), c.Num("density", density, units.PerArea, working.Computed, "", "rows.density"))
	}
	if c.On("rows.metres") {
		c.Tell(working.Count, "rows.metres", "Row length", "Σ length of the pieces", fmt.Sprintf("%d pieces in %d rows", len(pl.Pieces), pl.Rows), pl.RowMetres, units.Distance, "method LAY-3", spacing()...)
	}
	if c.On("rows.pollinizers") {
		c.Tell(working.Count, "rows.pollinizers", "Pollinizers", "one station in every k of every q-th row, counted", fmt.Sprintf("k = %d, q = %d; share %.3f", s.Pollinizer.EveryPlant, s.Pollinizer.EveryRow, float64(pl.Pollinizers)/math.Max(1, float64(pl.Stations-pl.Temporary))),
			float64(pl.Pollinizers), units.Count, "method LAY-6, common practice", c.Num("stations that stay", float64(pl.Stations-pl.Temporary), units.Count, working.Computed, "", "rows.stations"))
	}
	if c.On("rows.temporary") {
		c.Tell(working.Count, "rows.temporary", "Stations that come out", "every second station of each row", fmt.Sprintf("of %d", pl.Stations), float64(pl.Temporary), units.Count, "method LAY-5: leaves the row spacing and twice the plant spacing")
	}
}

// standing turns the recorded rows back into pieces on the block's plane.
func (c *computation) standing(a *document.AsPlanted) layout.Placement {
	out := layout.Placement{Stations: a.Stations, Pollinizers: a.Pollinizers, Temporary: a.Temporary, RowMetres: a.RowMetres}
	for _, r := range a.Rows {
		p, q := c.ground.Plane.To(r.First), c.ground.Plane.To(r.Last)
		k := 1 / math.Max(1, float64(r.N-1))
		out.Pieces = append(out.Pieces, layout.Piece{Row: r.Row, Station1: r.Station, FirstX: p.X, FirstY: p.Y,
			StepX: (q.X - p.X) * k, StepY: (q.Y - p.Y) * k, Stations: r.N, LengthM: r.LengthM, Roles: r.Roles})
		out.Rows = max(out.Rows, r.Row)
	}
	return out
}

// Fix records the layout of a plan as planted, with positions on the ellipsoid.
func (p *Plan) Fix(option string) *document.AsPlanted {
	pl := geo.PlaneAt(p.Ground.Origin)
	a := &document.AsPlanted{Spec: p.Spec, Layout: option, AreaM2: p.Ground.AreaM2, Rows: make([]document.Row, len(p.Rows))}
	for i, r := range p.Rows {
		last := float64(r.Stations - 1)
		a.Rows[i] = document.Row{Row: r.Row, Station: r.Station1, N: r.Stations, LengthM: r.LengthM, Roles: r.Roles,
			First: pl.From(geo.XY{X: r.FirstX, Y: r.FirstY}), Last: pl.From(geo.XY{X: r.FirstX + last*r.StepX, Y: r.FirstY + last*r.StepY})}
		a.Stations += r.Stations
		a.RowMetres += r.LengthM
		for _, ch := range r.Roles {
			switch ch {
			case layout.PollinizerRole:
				a.Pollinizers++
			case layout.TemporaryRole:
				a.Temporary++
			}
		}
	}
	return a
}
