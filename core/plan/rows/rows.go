// Package rows is the part of a plan that lays rows and stations out on the block, or takes them as they stand.
package rows

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/growth"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// In is what rows are laid out from.
type In struct {
	Ground   ground.Result
	Grown    growth.Result
	Planting *document.Planting // its own spacing, what stands beside its rows, and its rows as planted

	Obstacles []document.Obstacle        // what takes no plants
	Growth    map[string]float64         // what stands or lies on the block, m³ by class
	Land      *ground.Land               // nil where no heights are known
	Sheets    map[string]*practice.Sheet // of the companions, by id
}

// Result is the layout on the block.
type Result struct {
	Spec      layout.Spec
	Option    practice.Layout // it came from: of the choices, or what stands
	Placed    layout.Placement
	OutAge    int           // age year temporary plants come out; 0 when there are none
	LaterAge  int           // and the second time
	PlantedHa float64       // the stations stand for
	Grades    layout.Grades // along rows that follow the slope
	Beside    []Beside
	Shares    []Share // of the strips
	Clones    []Clone // kept apart in blocks between aisles

	stumpsOff []string // that lie on no row, by id
}

// Place places the layout, or takes it as it stands in the ground.
func Place(in In, say *report.Voice) (Result, error) {
	p, r := in.Planting, Result{Option: in.Grown.Option}
	var err error
	if p.AsPlanted != nil {
		r.Spec = p.AsPlanted.Spec.Normal()
		r.Placed = standing(in.Ground.Plane, p.AsPlanted)
		r.Beside = in.stood(in.Ground.Plane, p.AsPlanted)
		if l, ok := in.Grown.Sheet.Layout(p.AsPlanted.Layout); ok {
			r.Option = in.Grown.Sheet.Stocked(l, in.Grown.Choices)
		}
	} else {
		r.Spec = p.Spec(r.Option).Normal()
		var l laid
		l, err = in.lay(r.Option)
		r.Placed, r.Grades, r.Beside, r.stumpsOff = l.main, l.grades, l.beside, l.off
	}
	var fe *finding.FieldError
	if errors.As(err, &fe) {
		return r, finding.Bad("planting.layout."+fe.Field, fe.Value, fe.Rule, fe.Accepted)
	} else if err != nil {
		return r, err
	}
	s, pl := r.Spec, r.Placed
	if pl.Pieces == nil {
		pl.Pieces = []layout.Piece{}
		r.Placed.Pieces = pl.Pieces
	}
	if r.Option.Thinning != nil && pl.Temporary > 0 {
		r.OutAge = r.Option.Thinning.OutAge
		if again := r.Option.Thinning.Again; again != nil && pl.Later > 0 {
			r.LaterAge = again.OutAge
		}
	}
	density := s.StationsPerHa()
	r.PlantedHa = float64(pl.Stations) / density
	r.Shares = r.shares(p)
	from := working.Computed
	if p.AsPlanted != nil {
		from = working.Measured
	}
	area := in.Ground.AreaM2
	say.Figure(report.Figure{Path: "rows.stations", Step: "rows", Label: "Stations", Quantity: units.Count, Value: float64(pl.Stations), Origin: from,
		Note: "counted on the boundary"})
	say.Figure(report.Figure{Path: "rows.density", Step: "rows", Label: "By spacing alone", Quantity: units.PerArea, Value: density, Origin: working.Computed,
		Note: "an endless field"})
	say.Figure(report.Figure{Path: "rows.real", Step: "rows", Label: "On this block", Quantity: units.PerArea, Value: float64(pl.Stations) / (area / 1e4),
		Origin: working.Computed, Note: "stations over the whole area"})
	say.Figure(report.Figure{Path: "rows.planted", Step: "rows", Label: "Planted area", Quantity: units.Area, Value: r.PlantedHa * 1e4, Origin: working.Computed,
		Note: "what the stations stand for; edges and row ends left out"})
	say.Figure(report.Figure{Path: "rows.metres", Step: "rows", Label: "Row length", Quantity: units.Distance, Value: pl.RowMetres, Origin: from,
		Note: fmt.Sprintf("%d rows in %d pieces", pl.Rows, len(pl.Pieces))})
	if k := r.Option.Plants(); k > 1 {
		say.Figure(report.Figure{Path: "rows.plants", Step: "rows", Label: report.Capital(r.Option.EachName) + "s", Quantity: units.Count,
			Value:  float64(k * pl.Stations),
			Origin: from, Note: fmt.Sprintf("%d at each station", k)})
	}
	if pl.Temporary > 0 {
		say.Figure(report.Figure{Path: "rows.temporary", Step: "rows", Label: "Come out later", Quantity: units.Count, Value: float64(pl.Temporary + pl.Later),
			Origin: from, Note: takenOut(s, pl)})
	}
	if pl.Pollinizers > 0 {
		say.Figure(report.Figure{Path: "rows.pollinizers", Step: "rows", Label: "Pollinizers", Quantity: units.Count, Value: float64(pl.Pollinizers), Origin: from,
			Note: fmt.Sprintf("one in every %d of every %s row", s.Pollinizer.EveryPlant, report.Ordinal(s.Pollinizer.EveryRow))})
	}
	r.plots(p, density, say)
	r.besides(in, say)
	r.working(in, density, say)
	return r, nil
}

// working are the steps of every figure of the rows.
func (r Result) working(in In, density float64, say *report.Voice) {
	s, pl, area := r.Spec, r.Placed, in.Ground.AreaM2
	spacing := func() []working.Input {
		o := func(v *float64) working.Origin {
			if v != nil {
				return working.Chosen
			}
			return working.Sheet
		}
		ov := in.Planting.Layout
		list := []working.Input{
			say.Num("row spacing", s.RowSpacingM, units.Spacing, o(ov.RowSpacingM), r.Option.Name, ""),
			say.Num("plant spacing", s.PlantSpacingM, units.Spacing, o(ov.PlantSpacingM), r.Option.Name, ""),
		}
		if s.Pattern == layout.Twin {
			list = append(list, say.Num("between the two rows of a pair", s.TwinGapM, units.Spacing, o(ov.TwinGapM), r.Option.Name, ""))
		}
		return append(list,
			say.Num("bearing", s.BearingDeg, units.Angle, o(ov.BearingDeg), "clockwise from true north", ""),
			say.Num("edge band", s.EdgeBandM, units.Spacing, o(ov.EdgeBandM), r.Option.Name, ""),
			say.Num("row-end setback", s.RowEndSetbackM, units.Spacing, o(ov.RowEndSetbackM), r.Option.Name, ""))
	}
	if say.On("rows.density") {
		f, sub := s.DensityFormula()
		say.Step("rows.density", "Density by spacing alone", f, sub, density, units.PerArea, "method LAY-1, geometry; "+practice.OriginWords(r.Option.Origin),
			spacing()[:2]...)
	}
	if say.On("rows.stations") {
		if in.Planting.AsPlanted != nil {
			say.Tell(working.Count, "rows.stations", "As planted", "stations fixed when the planting was recorded", fmt.Sprintf("%d pieces of row", len(pl.Pieces)),
				float64(pl.Stations), units.Count, "recorded on "+in.Planting.Planted.Words())
		} else {
			say.Tell(working.Count, "rows.stations", "Stations on the block",
				"each piece of row of length ℓ takes ⌊ℓ / plant spacing⌋ + 1 stations; squares and triangles keep to one lattice",
				fmt.Sprintf("%d pieces of row, %.0f m together", len(pl.Pieces), pl.RowMetres), float64(pl.Stations), units.Count,
				"method LAY-3: rows cut to the boundary, less the edge band and the row-end setback; counts agree with an independent geometry library", spacing()...)
		}
		say.Step("rows.stations", "Check", "row length / plant spacing + ½ a piece", fmt.Sprintf("%.2f / %g + ½ · %d", pl.RowMetres, s.PlantSpacingM, len(pl.Pieces)),
			pl.RowMetres/s.PlantSpacingM+0.5*float64(len(pl.Pieces)), units.Count, "self-check, within 1 % for rows that start at their end",
			say.Num("row length", pl.RowMetres, units.Distance, working.Computed, "", "rows.metres"))
	}
	if say.On("rows.real") {
		say.Step("rows.real", "Density on this block", "stations / area", fmt.Sprintf("%d / %.5f ha", pl.Stations, area/1e4), float64(pl.Stations)/(area/1e4),
			units.PerArea, "",
			say.Num("stations", float64(pl.Stations), units.Count, working.Computed, "", "rows.stations"), say.Num("area", area, units.Area, working.Measured, "",
				"area"))
	}
	if say.On("rows.planted") {
		say.Step("rows.planted", "Planted area", "10 000 · stations / density by spacing", fmt.Sprintf("10 000 · %d / %.2f per ha", pl.Stations, density),
			r.PlantedHa*1e4, units.Area, "the ground a full field of this spacing would take; yields and doses per hectare belong to it",
			say.Num("stations", float64(pl.Stations), units.Count, working.Computed, "", "rows.stations"), say.Num("density", density, units.PerArea, working.Computed,
				"", "rows.density"))
	}
	if say.On("rows.metres") {
		say.Tell(working.Count, "rows.metres", "Row length", "Σ length of the pieces", fmt.Sprintf("%d pieces in %d rows", len(pl.Pieces), pl.Rows), pl.RowMetres,
			units.Distance, "method LAY-3", spacing()...)
	}
	if say.On("rows.pollinizers") {
		say.Tell(working.Count, "rows.pollinizers", "Pollinizers", "one station in every k of every q-th row, counted", fmt.Sprintf("k = %d, q = %d; share %.3f",
			s.Pollinizer.EveryPlant, s.Pollinizer.EveryRow, float64(pl.Pollinizers)/math.Max(1, float64(pl.Stay()))),
			float64(pl.Pollinizers), units.Count, "method LAY-6, common practice", say.Num("stations that stay", float64(pl.Stay()), units.Count,
				working.Computed, "", "rows.stations"))
	}
	if k := r.Option.Plants(); k > 1 && say.On("rows.plants") {
		say.Step("rows.plants", report.Capital(r.Option.EachName)+"s", "stations × plants at each", fmt.Sprintf("%d × %d", pl.Stations, k), float64(k*pl.Stations),
			units.Count,
			practice.OriginWords(r.Option.Origin), say.Num("stations", float64(pl.Stations), units.Count, working.Computed, "", "rows.stations"))
	}
	if say.On("rows.temporary") {
		say.Tell(working.Count, "rows.temporary", "Stations that come out", "those that do not stand on what is left of the lattice, counted",
			fmt.Sprintf("%s, of %d", takenOut(s, pl), pl.Stations), float64(pl.Temporary+pl.Later), units.Count, "method LAY-5")
	}
}

// takenOut says by which rule plants come out, and how many each time.
func takenOut(s layout.Spec, pl layout.Placement) string {
	if s.Stages() < 2 {
		return strings.TrimSuffix(s.Words(1), ",")
	}
	return fmt.Sprintf("%s %d; then %s %d", s.Words(1), pl.Temporary, s.Words(2), pl.Later)
}

// standing turns the recorded rows back into pieces on the block's plane.
func standing(plane geo.Plane, a *document.AsPlanted) layout.Placement {
	out := layout.Placement{Stations: a.Stations, Pollinizers: a.Pollinizers, Temporary: a.Temporary, Later: a.Later, Sprouts: a.Sprouts, RowMetres: a.RowMetres}
	for _, r := range a.Rows {
		p, q := plane.To(r.First), plane.To(r.Last)
		k := 1 / math.Max(1, float64(r.N-1))
		out.Pieces = append(out.Pieces, layout.Piece{Row: r.Row, Station1: r.Station, FirstX: p.X, FirstY: p.Y,
			StepX: (q.X - p.X) * k, StepY: (q.Y - p.Y) * k, Stations: r.N, LengthM: r.LengthM, Roles: r.Roles,
			Plot: r.Plot, Clone: r.Clone})
		out.Rows = max(out.Rows, r.Row)
	}
	return out
}

// Fix records the layout of a plan as planted, with positions on the ellipsoid.
func Fix(spec layout.Spec, pieces []layout.Piece, beside []Beside, origin geo.Point, areaM2 float64, option string) *document.AsPlanted {
	pl := geo.PlaneAt(origin)
	a := &document.AsPlanted{Spec: spec, Layout: option, AreaM2: areaM2, Rows: make([]document.Row, 0, len(pieces))}
	for _, r := range fixed(pl, pieces) {
		a.Add(r)
	}
	for _, b := range beside {
		a.Beside = append(a.Beside, document.StandBeside{ID: b.ID, Rows: fixed(pl, b.Rows)})
	}
	return a
}

// fixed are pieces of row with positions on the ellipsoid.
func fixed(pl geo.Plane, pieces []layout.Piece) []document.Row {
	out := make([]document.Row, len(pieces))
	for i, r := range pieces {
		last := float64(r.Stations - 1)
		out[i] = document.Row{Row: r.Row, Station: r.Station1, N: r.Stations, LengthM: r.LengthM, Roles: r.Roles, Plot: r.Plot, Clone: r.Clone,
			First: pl.From(geo.XY{X: r.FirstX, Y: r.FirstY}), Last: pl.From(geo.XY{X: r.FirstX + last*r.StepX, Y: r.FirstY + last*r.StepY})}
	}
	return out
}
