package geo

import (
	"fmt"
	"math"
	"sort"

	"github.com/peterstace/simplefeatures/geom"
)

// surface is a polygon on a plane as the geometry library has it.
func surface(p Polygon, pl Plane) (geom.Geometry, error) {
	var rings []geom.LineString
	for _, r := range p.PlaneRings(pl) {
		xy := make([]float64, 0, 2*len(r)+2)
		for _, v := range append(r, r[0]) {
			xy = append(xy, v.X, v.Y)
		}
		rings = append(rings, geom.NewLineString(geom.NewSequence(xy, geom.DimXY)))
	}
	g := geom.NewPolygon(rings).AsGeometry()
	return g, g.Validate()
}

// polygons are the polygons of what the library answers, the largest first.
func polygons(g geom.Geometry, pl Plane) []Polygon {
	var out []Polygon
	for _, part := range g.Dump() {
		poly, ok := part.AsPolygon()
		if !ok || poly.IsEmpty() {
			continue
		}
		var p Polygon
		for i, ring := range poly.DumpRings() {
			seq := ring.Coordinates()
			r := make(Ring, 0, seq.Length())
			for k := range seq.Length() - 1 {
				v := seq.GetXY(k)
				r = append(r, pl.From(XY{X: v.X, Y: v.Y}))
			}
			if i == 0 {
				p.Outer = r
			} else {
				p.Holes = append(p.Holes, r)
			}
		}
		out = append(out, p)
	}
	sort.SliceStable(out, func(i, j int) bool { return AreaM2(out[i]) > AreaM2(out[j]) })
	return out
}

// Split cuts a polygon along the endless straight line through a and b. It answers the pieces left and right of the line as
// one walks from a to b, the largest of each side first. An error says that the line does not cut it.
func Split(p Polygon, a, b Point) (left, right []Polygon, err error) {
	pl := LocalPlane(p)
	u, v := pl.To(a), pl.To(b)
	l := math.Hypot(v.X-u.X, v.Y-u.Y)
	if !(l > 0.01) || l > MaxReachM {
		return nil, nil, &Invalid{0, 0, "the line has no direction", "give two points some metres apart"}
	}
	whole, err := surface(p, pl)
	if err != nil {
		return nil, nil, err
	}
	const far = 4 * MaxReachM
	e, n := XY{(v.X - u.X) / l * far, (v.Y - u.Y) / l * far}, XY{-(v.Y - u.Y) / l * far, (v.X - u.X) / l * far}
	half := geom.NewPolygon([]geom.LineString{geom.NewLineString(geom.NewSequence([]float64{u.X - e.X, u.Y - e.Y, u.X + e.X, u.Y + e.Y,
		u.X + e.X + n.X, u.Y + e.Y + n.Y, u.X - e.X + n.X, u.Y - e.Y + n.Y, u.X - e.X, u.Y - e.Y}, geom.DimXY))}).AsGeometry()
	in, err := geom.Intersection(whole, half)
	if err != nil {
		return nil, nil, fmt.Errorf("cutting the boundary: %w", err)
	}
	out, err := geom.Difference(whole, half)
	if err != nil {
		return nil, nil, fmt.Errorf("cutting the boundary: %w", err)
	}
	left, right = polygons(in, pl), polygons(out, pl)
	if len(left) == 0 || len(right) == 0 {
		return nil, nil, &Invalid{0, 0, "the line does not cross the block", "draw it from one side to the other"}
	}
	return left, right, nil
}

// Join makes one polygon of two that touch, overlap, or lie at most gapM apart, as two surveys of one fence do: corners of b within
// gapM of a's boundary are moved onto it first. The error says how far apart they lie.
func Join(a, b Polygon, gapM float64) (Polygon, error) {
	pl := LocalPlane(a)
	on := a.PlaneRings(pl)
	moved := Polygon{Outer: snap(b.Rings()[0], on, pl, gapM)}
	for _, h := range b.Holes {
		moved.Holes = append(moved.Holes, h.open())
	}
	apart := math.Inf(1)
	for _, v := range b.PlaneRings(pl)[0] {
		_, d := nearest(v, on)
		apart = math.Min(apart, d)
	}
	one, err := surface(a, pl)
	if err != nil {
		return Polygon{}, err
	}
	two, err := surface(moved, pl)
	if err != nil { // moving corners folded it: take it as it was surveyed
		if two, err = surface(b, pl); err != nil {
			return Polygon{}, err
		}
	}
	sum, err := geom.Union(one, two)
	if err != nil {
		return Polygon{}, fmt.Errorf("joining the boundaries: %w", err)
	}
	list := polygons(sum, pl)
	if len(list) != 1 {
		return Polygon{}, &Invalid{0, 0, fmt.Sprintf("the two lie %.1f m apart", apart), fmt.Sprintf("blocks that touch or lie at most %g m apart can be one", gapM)}
	}
	joined := Polygon{Outer: list[0].Outer}
	for _, h := range list[0].Holes { // slivers between two surveys of one fence are no holes
		if AreaM2(Polygon{Outer: h}) >= 1 {
			joined.Holes = append(joined.Holes, h)
		}
	}
	return joined, nil
}

// lapM is how far a corner that is moved onto a neighbour's boundary goes past it, m: what is told apart only by rounding would not join.
const lapM = 0.002

// snap moves the corners of a ring that lie within gapM of some rings onto them.
func snap(r Ring, onto [][]XY, pl Plane, gapM float64) Ring {
	out := make(Ring, len(r))
	for i, v := range r {
		out[i] = v
		p := pl.To(v)
		if at, d := nearest(p, onto); d > lapM && d <= gapM && !Inside(p, onto[0]) {
			k := 1 + lapM/d
			out[i] = pl.From(XY{p.X + (at.X-p.X)*k, p.Y + (at.Y-p.Y)*k})
		}
	}
	return out
}

// nearest is the point of some rings nearest to p and how far it lies.
func nearest(p XY, rings [][]XY) (at XY, m float64) {
	m = math.Inf(1)
	for _, r := range rings {
		for i, a := range r {
			b := r[(i+1)%len(r)]
			dx, dy := b.X-a.X, b.Y-a.Y
			t := 0.0
			if l2 := dx*dx + dy*dy; l2 > 0 {
				t = math.Max(0, math.Min(1, ((p.X-a.X)*dx+(p.Y-a.Y)*dy)/l2))
			}
			q := XY{a.X + t*dx, a.Y + t*dy}
			if d := math.Hypot(p.X-q.X, p.Y-q.Y); d < m {
				at, m = q, d
			}
		}
	}
	return at, m
}

// Holds tells whether a position lies inside the polygon and in none of its holes.
func (p Polygon) Holds() func(Point) bool {
	pl := LocalPlane(p)
	rings := p.PlaneRings(pl)
	return func(v Point) bool {
		q := pl.To(v)
		for _, h := range rings[1:] {
			if Inside(q, h) {
				return false
			}
		}
		return Inside(q, rings[0])
	}
}
