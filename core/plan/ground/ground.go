// Package ground is the part of a plan that measures the block and reads the lie of its land.
package ground

import (
	"fmt"

	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/report"
	"slowroot/core/survey"
	"slowroot/core/units"
	"slowroot/core/working"
)

// In is what the ground is measured from.
type In struct {
	Boundary    geo.Polygon
	Surveyed    string  // how the boundary was found
	AccuracyM   float64 // of a vertex; 0 is not known
	Land        *Land   // the lie of the block; nil where no heights are known
	LandProblem string  // why the heights that reach it say nothing, "" where they do
}

// Result is the block on its local plane.
type Result struct {
	AreaM2     float64        `json:"areaM2"`
	PerimeterM float64        `json:"perimeterM"`
	Origin     geo.Point      `json:"origin"`
	Rings      [][][2]float64 `json:"rings"` // metres east and north of Origin

	Plane geo.Plane  `json:"-"`
	On    [][]geo.XY `json:"-"` // the rings as points of the plane
	sd    float64    // of the area, m²; 0 where not known
}

// Measure measures the block and puts the lie of its land into figures.
func Measure(in In, say *report.Voice) Result {
	g := Result{AreaM2: geo.AreaM2(in.Boundary), PerimeterM: geo.PerimeterM(in.Boundary), Plane: geo.LocalPlane(in.Boundary)}
	g.Origin, g.On = geo.Point{Lon: g.Plane.Lon0, Lat: g.Plane.Lat0}, in.Boundary.PlaneRings(g.Plane)
	for _, r := range g.On {
		ring := make([][2]float64, len(r))
		for i, v := range r {
			ring[i] = [2]float64{v.X, v.Y}
		}
		g.Rings = append(g.Rings, ring)
	}
	if in.AccuracyM > 0 {
		g.sd = geo.AreaSD(in.Boundary, in.AccuracyM)
	}
	g.figures(in, say)
	if in.Land != nil {
		in.Land.figures(say)
	}
	return g
}

// figures are area and boundary, with their working.
func (g Result) figures(in In, say *report.Voice) {
	origin := working.Measured
	f := report.Figure{Path: "area", Step: "ground", Label: "Area", Quantity: units.Area, Value: g.AreaM2, Origin: origin, Note: "plan area, on the ellipsoid"}
	if sd := g.sd; sd > 0 {
		f.Low, f.High, f.Ranged = g.AreaM2-sd, g.AreaM2+sd, true
	}
	say.Figure(f)
	say.Figure(report.Figure{Path: "perimeter", Step: "ground", Label: "Boundary", Quantity: units.Distance, Value: g.PerimeterM, Origin: origin,
		Note: "length of the outer boundary"})
	if say.On("area") {
		n := 0
		for _, r := range g.On {
			n += len(r)
		}
		say.Tell(working.Series, "area", "Area of the block", "area = ½·|Σ(xᵢ·yᵢ₊₁ − xᵢ₊₁·yᵢ)| − ∫x²/R², holes subtracted",
			fmt.Sprintf("%d points in %d rings on the local plane at %.5f°, %.5f°", n, len(g.On), g.Plane.Lon0, g.Plane.Lat0),
			g.AreaM2, units.Area, "shoelace on the transverse Mercator plane, corrected to the WGS 84 ellipsoid; agrees with geodesic areas (Karney, J. Geodesy "+
				"87, 2013) to a part in a million",
			say.Num("points", float64(n), units.Count, working.Measured, in.Surveyed, ""))
		if sd := g.sd; sd > 0 {
			say.Tell(working.Series, "area", "How well it is known", "sd = σ/(2√2)·√Σ|pᵢ₊₁ − pᵢ₋₁|²", fmt.Sprintf("σ = %g m", in.AccuracyM), sd, units.Area,
				"follows from the shoelace formula",
				say.Num("accuracy of a point", in.AccuracyM, units.Spacing, working.Measured, in.Surveyed, ""))
		}
	}
	if say.On("perimeter") {
		say.Tell(working.Series, "perimeter", "Length of the boundary", "Σ√(Δx² + Δy²)", fmt.Sprintf("%d sides", len(g.On[0])), g.PerimeterM, units.Distance,
			"local plane")
	}
}

// Judge says how well the area is known and what the lie of the land asks for.
func (g Result) Judge(in In, crop Crop, say *report.Voice) {
	if share := g.sd / g.AreaM2; share > 0.02 {
		say.Note(finding.Finding{Rule: "ground.accuracy", Weight: finding.Watch, Step: "ground", Subject: "Boundary",
			Sentence: fmt.Sprintf("Points known to ± %s leave the area uncertain by %.1f %% (%s), and every quantity per hectare with it.",
				say.Text(in.AccuracyM, units.Spacing), share*100, say.Text(g.sd, units.Area)),
			Source: "method LAY-2, follows from the shoelace formula"})
	}
	if in.Surveyed == survey.AreaAlone {
		say.Note(finding.Finding{Rule: "ground.area-alone", Weight: finding.Watch, Step: "ground", Subject: "Boundary",
			Sentence: fmt.Sprintf("Only the area of %s is known: the square stands for it until the boundary is measured. Rows, edges, drains and the fence follow the "+
				"square.", say.Text(g.AreaM2, units.Area))})
	}
	switch l := in.Land; {
	case l != nil:
		l.judge(crop, say)
	case in.LandProblem != "":
		say.Note(finding.Finding{Rule: "land.unreadable", Weight: finding.Mend, Step: "ground", Subject: "Heights",
			Sentence: "The heights that reach this block say nothing of its lie: " + in.LandProblem + ". The rest of the plan stands without them."})
	case !crop.Standing:
		say.Note(finding.Finding{Rule: "land.unknown", Weight: finding.Know, Step: "ground", Subject: "Heights",
			Sentence: "No heights are known here: slope, direction of fall, where water gathers and where cold air lies cannot be judged. Spot heights or an " +
				"elevation grid answer that."})
	}
}

// Crop is what the lie of the land is judged for.
type Crop struct {
	Name       string
	EarlyBloom bool     // its blossom meets the last frosts
	Standing   bool     // plants stand, or stood: nothing is prepared any more
	BearingDeg *float64 // of rows that can still be turned; nil with none
}
