package plan

import (
	"math"
	"testing"

	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/practice"
)

// fields are three grounds a layout is tried on: a square, an odd one with a notch and a hole, and a long one that lies askew.
func fields(t *testing.T) map[string]geo.Polygon {
	t.Helper()
	pl := geo.PlaneAt(geo.Point{Lon: 172, Lat: -38})
	ring := func(at ...geo.XY) geo.Ring {
		var r geo.Ring
		for _, q := range at {
			r = append(r, pl.From(q))
		}
		return r
	}
	return map[string]geo.Polygon{
		"square": {Outer: ring(geo.XY{}, geo.XY{X: 150}, geo.XY{X: 150, Y: 150}, geo.XY{Y: 150})},
		"odd": {Outer: ring(geo.XY{}, geo.XY{X: 180, Y: 12}, geo.XY{X: 190, Y: 140}, geo.XY{X: 110, Y: 150}, geo.XY{X: 96, Y: 70}, geo.XY{X: 60, Y: 156}, geo.XY{X: -14, Y: 120}),
			Holes: []geo.Ring{ring(geo.XY{X: 130, Y: 60}, geo.XY{X: 150, Y: 62}, geo.XY{X: 146, Y: 84})}},
		"askew": {Outer: ring(geo.XY{}, geo.XY{X: 210, Y: 95}, geo.XY{X: 182, Y: 158}, geo.XY{X: -28, Y: 63})},
	}
}

// apart is how far a point lies from the nearest side of some rings, m.
func apart(p geo.XY, rings [][]geo.XY) float64 {
	best := math.Inf(1)
	for _, r := range rings {
		for i, a := range r {
			b := r[(i+1)%len(r)]
			dx, dy := b.X-a.X, b.Y-a.Y
			k := math.Max(0, math.Min(1, ((p.X-a.X)*dx+(p.Y-a.Y)*dy)/(dx*dx+dy*dy)))
			best = math.Min(best, math.Hypot(p.X-a.X-k*dx, p.Y-a.Y-k*dy))
		}
	}
	return best
}

// Every layout of every crop on the three fields: each station lies inside and as far from the boundary as its band says, neighbours in a
// row stand exactly as far apart as they should, the count is what area and spacing leave once the edges are taken off, the order covers it, what is
// taken follows the rows, and no finding contradicts the sheet's own layout.
func TestEveryLayoutOnThreeFields(t *testing.T) {
	lib := library(t)
	tried := 0
	for name, boundary := range fields(t) {
		for _, s := range lib.Whole() {
			for _, l := range s.Layouts {
				in := input(t, s.ID)
				in.Block.Boundary = boundary
				in.Block.Planting = &document.Planting{Sheet: s.ID, Choices: map[string]document.Choice{practice.LayoutFork: {Option: l.ID}},
					Fittings: []document.Fitting{{ID: "d", Kind: "drip"}, {ID: "p", Kind: "pits"}, {ID: "m", Kind: "mulch"}}}
				Complete(&in.Block, in.Estate, lib.Get, in.Today)
				p, err := Compute(in, nil)
				if err != nil {
					t.Errorf("%s %s on the %s field: %v", s.ID, l.ID, name, err)
					continue
				}
				tried++
				checkField(t, s.ID+" "+l.ID+" on the "+name+" field", in, p)
			}
		}
	}
	if tried < 150 {
		t.Errorf("only %d layouts tried", tried)
	}
}

func checkField(t *testing.T, what string, in Input, p *Plan) {
	t.Helper()
	rings := in.Block.Boundary.PlaneRings(geo.LocalPlane(in.Block.Boundary))
	n, usable := 0, 0.0
	for _, r := range p.Rows {
		if d := math.Hypot(r.StepX, r.StepY); math.Abs(d-p.Spec.PlantSpacingM) > 1e-6 {
			t.Fatalf("%s: plants of a row stand %g m apart, %g are wanted", what, d, p.Spec.PlantSpacingM)
		}
		for _, i := range []int{0, r.Stations / 2, r.Stations - 1} {
			at := geo.XY{X: r.FirstX + float64(i)*r.StepX, Y: r.FirstY + float64(i)*r.StepY}
			in := geo.Inside(at, rings[0])
			for _, h := range rings[1:] {
				in = in && !geo.Inside(at, h)
			}
			if d := apart(at, rings); !in && d > 1e-6 || d < p.Spec.EdgeBandM-1e-5 {
				t.Fatalf("%s: a station lies %g m from the boundary, inside %v; the band is %g m", what, d, in, p.Spec.EdgeBandM)
			}
		}
		n += r.Stations
		usable += r.LengthM
	}
	if n == 0 {
		t.Errorf("%s: not one station", what)
		return
	}
	lattice := p.Spec.Pattern == layout.Square || p.Spec.Pattern == layout.Triangle || p.Spec.Pattern == layout.Quincunx || p.Spec.Stagger
	want := usable / p.Spec.PlantSpacingM
	if !lattice {
		want += float64(len(p.Rows)) / 2
	}
	if math.Abs(float64(n)-want) > 0.02*want+3+math.Sqrt(float64(len(p.Rows))) {
		t.Errorf("%s: %d stations on %.0f m of row in %d pieces, about %.0f by length and spacing", what, n, usable, len(p.Rows), want)
	}
	if got := value(t, p, "rows.stations"); int(got) != n {
		t.Errorf("%s: %g stations are said, %d counted", what, got, n)
	}
	for _, l := range p.Bill {
		if !(l.Amount >= 0) || math.IsInf(l.Amount, 0) || l.How == "" {
			t.Errorf("%s: a line of the bill: %+v", what, l)
		}
		if l.What == "earth dug" && math.Abs(l.Amount-0.216*float64(n)) > 1e-6*l.Amount {
			t.Errorf("%s: %g m³ of pits for %d stations", what, l.Amount, n)
		}
	}
	for _, rule := range []string{"rows.none", "rows.orientation", "rows.density-far", "rows.differs-from-planted", "plan.not-finite.rows.The rows"} {
		if f := notes(p, rule); f != nil {
			t.Errorf("%s: its own layout is doubted: %s", what, f.Sentence)
		}
	}
}
