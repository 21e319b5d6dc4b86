// Package geo is the geometry of a block: positions on WGS 84, rings with holes, their validity
// and area, and the local metric plane everything else is laid out on.
package geo

import (
	"fmt"
	"math"
)

// Point is a WGS 84 position in degrees. The zero Point is the Gulf of Guinea, which is refused
// as a fill value wherever boundaries are read.
type Point struct {
	Lon float64 `json:"lon"`
	Lat float64 `json:"lat"`
}

// MaxLatDeg is how near a pole a field may lie, °.
const MaxLatDeg = 89.0

// Ring is a closed line of vertices; the closing vertex may be repeated or left out.
type Ring []Point

// Polygon is an outer ring and the holes cut out of it (a pond, a shed, a rock).
type Polygon struct {
	Outer Ring   `json:"outer"`
	Holes []Ring `json:"holes,omitempty"`
}

// Limits of what is accepted as a block.
const (
	MinAreaM2   = 50.0
	MaxAreaM2   = 1e8 // 10 000 ha
	MaxVertices = 2000
	MaxReachM   = 5e4 // from one vertex to any other: the plane holds that far
)

// open is the ring without a repeated closing vertex.
func (r Ring) open() Ring {
	if n := len(r); n > 1 && r[0] == r[n-1] {
		return r[:n-1]
	}
	return r
}

// Rings are the outer ring and the holes, open, in that order.
func (p Polygon) Rings() []Ring {
	out := make([]Ring, 0, 1+len(p.Holes))
	out = append(out, p.Outer.open())
	for _, h := range p.Holes {
		out = append(out, h.open())
	}
	return out
}

// PlaneRings are the rings on the plane, metres.
func (p Polygon) PlaneRings(pl Plane) [][]XY {
	rings := p.Rings()
	out := make([][]XY, len(rings))
	for i, r := range rings {
		out[i] = make([]XY, len(r))
		for j, v := range r {
			out[i][j] = pl.To(v)
		}
	}
	return out
}

// AreaM2 is the area on the ellipsoid, holes subtracted, for polygons within about 50 km of their
// own middle: the area on the local transverse Mercator plane less the second moment about its
// central meridian over R², since the plane's scale is 1 + x²/2R². Checked to a part in a million
// against geodesic areas (C. F. F. Karney, Algorithms for geodesics, J. Geodesy 87, 2013).
func AreaM2(p Polygon) float64 {
	pl := LocalPlane(p)
	var a float64
	for i, r := range p.PlaneRings(pl) {
		s := math.Abs(trueArea(r, pl.Lat0))
		if i > 0 {
			s = -s
		}
		a += s
	}
	return a
}

func trueArea(r []XY, latDeg float64) float64 {
	s := math.Sin(latDeg * math.Pi / 180)
	e2 := flattening * (2 - flattening)
	w := math.Sqrt(1 - e2*s*s)
	gauss2 := semiMajorM * semiMajorM * (1 - e2) / (w * w * w * w) // radius of curvature M·N
	var area, moment float64
	for i, a := range r {
		b := r[(i+1)%len(r)]
		c := a.X*b.Y - b.X*a.Y
		area += c / 2
		moment += c * (a.X*a.X + a.X*b.X + b.X*b.X) / 12
	}
	return area - moment/gauss2
}

// DistanceM is the great-circle distance on a sphere of the mean earth radius, 6 371 008.8 m, to half a
// per cent: enough to tell a neighbour from another country. Haversine formula.
func DistanceM(a, b Point) float64 {
	rad := func(d float64) float64 { return d * math.Pi / 180 }
	dp, dl := rad(b.Lat-a.Lat)/2, rad(b.Lon-a.Lon)/2
	h := math.Sin(dp)*math.Sin(dp) + math.Cos(rad(a.Lat))*math.Cos(rad(b.Lat))*math.Sin(dl)*math.Sin(dl)
	return 2 * 6371008.8 * math.Asin(math.Min(1, math.Sqrt(h)))
}

// PerimeterM is the length of the outer ring on the plane, metres.
func PerimeterM(p Polygon) float64 {
	r := p.PlaneRings(LocalPlane(p))[0]
	var s float64
	for i, a := range r {
		b := r[(i+1)%len(r)]
		s += math.Hypot(b.X-a.X, b.Y-a.Y)
	}
	return s
}

// AreaSD is the standard error of the area, m², from vertices each known to sigmaM (radial):
// (σ/(2√2))·√(Σ|p_{i+1} − p_{i−1}|²). Computed from the shoelace formula; common practice.
func AreaSD(p Polygon, sigmaM float64) float64 {
	var s float64
	for _, r := range p.PlaneRings(LocalPlane(p)) {
		n := len(r)
		for i := range r {
			a, b := r[(i+n-1)%n], r[(i+1)%n]
			s += (b.X-a.X)*(b.X-a.X) + (b.Y-a.Y)*(b.Y-a.Y)
		}
	}
	return sigmaM / (2 * math.Sqrt2) * math.Sqrt(s)
}

// Invalid says why a boundary is refused and which vertex shows it. Ring 0 is the outer ring;
// Point counts from 1, 0 when no single vertex is to blame.
type Invalid struct {
	Ring, Point int
	Reason      string
	Remedy      string
}

func (e *Invalid) Error() string {
	where := "boundary"
	if e.Ring > 0 {
		where = fmt.Sprintf("hole %d", e.Ring)
	}
	if e.Point > 0 {
		where += fmt.Sprintf(", point %d", e.Point)
	}
	return where + ": " + e.Reason + "; " + e.Remedy
}

// Validate returns an *Invalid error for a polygon that cannot be a block.
func Validate(p Polygon) error {
	total := 0
	for i, r := range p.Rings() {
		total += len(r)
		if total > MaxVertices {
			return &Invalid{i, 0, fmt.Sprintf("more than %d points", MaxVertices), "simplify the line before importing it"}
		}
		if err := validRing(i, r); err != nil {
			return err
		}
	}
	for i, r := range p.Rings() {
		for k, v := range r {
			if d := DistanceM(p.Outer[0], v); !(d <= MaxReachM) {
				return &Invalid{i, k + 1, fmt.Sprintf("it lies %.0f km from the first point", d/1000),
					"check latitude, longitude and their signs; a block spans 50 km at most"}
			}
		}
	}
	rings := p.PlaneRings(LocalPlane(p))
	for i, r := range rings {
		if a, b, ok := firstCrossing(r, r, true); ok {
			return &Invalid{i, a + 1, fmt.Sprintf("the line from point %d to %d crosses the line from point %d to %d",
				a+1, (a+1)%len(r)+1, b+1, (b+1)%len(r)+1), "move one of these points so that the boundary does not cross itself"}
		}
	}
	for i := 1; i < len(rings); i++ {
		if k := firstOutside(rings[i], rings[0]); k >= 0 {
			return &Invalid{i, k + 1, "the hole reaches outside the boundary", "move the hole inside, or leave it out of the boundary"}
		}
		for j := 0; j < i; j++ {
			if a, _, ok := firstCrossing(rings[i], rings[j], false); ok {
				return &Invalid{i, a + 1, "the hole crosses another ring", "keep holes apart from each other and inside the boundary"}
			}
			if j > 0 && (Inside(rings[i][0], rings[j]) || Inside(rings[j][0], rings[i])) {
				return &Invalid{i, 1, fmt.Sprintf("the hole overlaps hole %d", j), "join the two holes into one"}
			}
		}
	}
	switch a := AreaM2(p); {
	case !(a >= MinAreaM2):
		return &Invalid{0, 0, fmt.Sprintf("the area is %.1f m², less than %.0f m²", a, MinAreaM2), "check that coordinates are degrees with at least five decimals"}
	case a > MaxAreaM2:
		return &Invalid{0, 0, fmt.Sprintf("the area is %.0f ha, more than %.0f ha", a/1e4, MaxAreaM2/1e4), "draw one block at a time"}
	}
	return nil
}

func validRing(ring int, r Ring) error {
	seen := make(map[Point]int, len(r))
	for i, v := range r {
		bad := func(reason, remedy string) error { return &Invalid{ring, i + 1, reason, remedy} }
		switch {
		case math.IsNaN(v.Lon) || math.IsNaN(v.Lat) || math.IsInf(v.Lon, 0) || math.IsInf(v.Lat, 0):
			return bad("a coordinate is not a finite number", "give longitude and latitude in degrees")
		case math.Abs(v.Lat) > 90 && math.Abs(v.Lon) <= 90:
			return bad(fmt.Sprintf("latitude %g lies beyond 90°: latitude and longitude look swapped", v.Lat), "write longitude first, then latitude")
		case math.Abs(v.Lon) > 180 || math.Abs(v.Lat) > 90:
			return bad(fmt.Sprintf("%g, %g are not degrees of longitude and latitude", v.Lon, v.Lat),
				"export the file in WGS 84 (EPSG:4326), not in metres of a map grid")
		case math.Abs(v.Lat) > MaxLatDeg:
			return bad(fmt.Sprintf("latitude %g lies at a pole", v.Lat), "give the position of the block")
		case v.Lon == 0 && v.Lat == 0:
			return bad("0, 0 is a fill value, not a position", "remove this point or survey it again")
		}
		if j, ok := seen[v]; ok {
			return bad(fmt.Sprintf("the same position as point %d", j+1), "remove one of the two")
		}
		seen[v] = i
	}
	if len(r) < 3 {
		return &Invalid{ring, 0, fmt.Sprintf("%d distinct points", len(r)), "a boundary needs three points or more"}
	}
	return nil
}

func cross(o, a, b XY) float64 { return (a.X-o.X)*(b.Y-o.Y) - (a.Y-o.Y)*(b.X-o.X) }

func onSegment(a, b, p XY) bool {
	return p.X >= math.Min(a.X, b.X) && p.X <= math.Max(a.X, b.X) && p.Y >= math.Min(a.Y, b.Y) && p.Y <= math.Max(a.Y, b.Y)
}

func segmentsMeet(a, b, c, d XY) bool {
	d1, d2, d3, d4 := cross(c, d, a), cross(c, d, b), cross(a, b, c), cross(a, b, d)
	if ((d1 > 0) != (d2 > 0)) && ((d3 > 0) != (d4 > 0)) && d1 != 0 && d2 != 0 && d3 != 0 && d4 != 0 {
		return true
	}
	return d1 == 0 && onSegment(c, d, a) || d2 == 0 && onSegment(c, d, b) ||
		d3 == 0 && onSegment(a, b, c) || d4 == 0 && onSegment(a, b, d)
}

// firstCrossing finds the first edge of r that meets an edge of s. With same set, r and s are one
// ring and neighbouring edges are not compared.
func firstCrossing(r, s []XY, same bool) (int, int, bool) {
	for i := range r {
		a, b := r[i], r[(i+1)%len(r)]
		j0 := 0
		if same {
			j0 = i + 2
		}
		for j := j0; j < len(s); j++ {
			if same && i == 0 && j == len(s)-1 {
				continue
			}
			if segmentsMeet(a, b, s[j], s[(j+1)%len(s)]) {
				return i, j, true
			}
		}
	}
	return 0, 0, false
}

func firstOutside(r, outer []XY) int {
	for i, p := range r {
		if !Inside(p, outer) {
			return i
		}
	}
	return -1
}

// Inside reports whether p lies inside the ring (even-odd rule; points on the line may go either
// way).
func Inside(p XY, ring []XY) bool {
	in := false
	for i, a := range ring {
		b := ring[(i+1)%len(ring)]
		if (a.Y > p.Y) != (b.Y > p.Y) && p.X < (b.X-a.X)*(p.Y-a.Y)/(b.Y-a.Y)+a.X {
			in = !in
		}
	}
	return in
}
