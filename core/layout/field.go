package layout

import (
	"errors"
	"math"
	"sort"

	"slowroot/core/geo"
)

// Field is ground that rows are laid on, on its local plane, metres.
type Field struct {
	Rings     [][]geo.XY // outer first, then holes
	Obstacles []Obstacle // what takes no plants inside them
	Headlands []Headland // where a side is kept free otherwise than the rest
}

// Obstacle is kept free of stations to FreeM from it: round one point, along a line, or over an area and round it.
type Obstacle struct {
	Points []geo.XY
	Area   bool
	FreeM  float64
}

// Headland is the width kept free on the sides of the outer boundary that face a direction, ± 45°, in place of the edge band.
type Headland struct {
	TowardDeg float64 // clockwise from true north
	WidthM    float64
}

// faces reports whether the side from a to b of a ring turned that way looks towards the headland's direction.
func (h Headland) faces(a, b geo.XY, turn float64) bool {
	x, y := (b.Y-a.Y)*turn, -(b.X-a.X)*turn
	d := math.Remainder(math.Atan2(x, y)*180/math.Pi-h.TowardDeg, 360)
	return math.Abs(d) <= 45
}

// turns is +1 for a ring that runs anticlockwise and −1 for one that runs clockwise.
func turns(r []geo.XY) float64 {
	var s float64
	for i, a := range r {
		b := r[(i+1)%len(r)]
		s += a.X*b.Y - b.X*a.Y
	}
	return math.Copysign(1, s)
}

// bands are the widths kept free along each side of the outer ring.
func (f Field) bands(bandM float64) []float64 {
	r := f.Rings[0]
	turn := turns(r)
	out := make([]float64, len(r))
	for i, a := range r {
		out[i] = bandM
		set := false
		for _, h := range f.Headlands {
			if h.faces(a, r[(i+1)%len(r)], turn) && (!set || h.WidthM > out[i]) {
				out[i], set = h.WidthM, true
			}
		}
	}
	return out
}

// comb is parallel lines that repeat across a field with stations on them.
type comb struct {
	bearingDeg, offsetM float64
	moduleM             float64 // after which the lines repeat
	lines               []line
	lattice             bool    // stations keep to one lattice, else they start at the end of each piece
	bandM, setbackM     float64 // kept free along boundaries, and along the row from where it meets one
	anchor              geo.XY
}

// line is one row of the module.
type line struct {
	atM    float64 // across, from the module's start
	stepM  float64 // between stations
	shiftM float64 // of its first station
	odd    float64 // a further shift of every other module, lattices only
}

var errMany = errors.New("more stations than a block holds")

// rows hands every piece of row that carries a station to take, in walking order, with the row's place on the lattice and that of its first
// station. Rows are numbered where they carry stations.
func (c comb) rows(f Field, take func(p Piece, line, at int) error) error {
	sin, cos := math.Sincos(c.bearingDeg * math.Pi / 180)
	uv := func(p geo.XY) geo.XY { return geo.XY{X: p.X*sin + p.Y*cos, Y: p.X*cos - p.Y*sin} } // u along the rows, v across
	g := newGround(f, c.bandM, uv)
	a := uv(c.anchor)
	u0, v0 := a.X, a.Y+c.offsetM
	width, step := 0.0, math.Inf(1)
	for _, l := range c.lines {
		width, step = math.Max(width, math.Abs(l.atM)), math.Min(step, l.stepM)
	}
	if est := (g.hi - g.lo) / c.moduleM * float64(len(c.lines)) * (g.right - g.left) / step; est > 50*MaxStations {
		return errMany
	}
	row := 0
	var inside, free []span
	for j := int(math.Ceil((g.lo-v0-width)/c.moduleM)) - 1; v0+float64(j)*c.moduleM-width <= g.hi; j++ {
		for _, l := range c.lines {
			v := v0 + float64(j)*c.moduleM + l.atM
			if v < g.lo || v > g.hi {
				continue
			}
			inside = g.inside(v, inside[:0])
			free = g.keepFree(v, inside, c.setbackM, free[:0])
			station, next := 1, row
			for _, s := range free {
				first, n, at := c.stations(s, l, u0, j)
				if n == 0 {
					continue
				}
				next = row + 1
				p := Piece{Row: next, Station1: station, Stations: n, LengthM: s.b - s.a,
					FirstX: first*sin + v*cos, FirstY: first*cos - v*sin, StepX: l.stepM * sin, StepY: l.stepM * cos}
				along, across := station-1, next-1
				if c.lattice {
					along, across = at, j
				}
				if err := take(p, across, along); err != nil {
					return err
				}
				station += n
			}
			row = next
		}
	}
	return nil
}

// stations are those of a line on a free piece: the first, how many, and the first's place on the lattice.
func (c comb) stations(s span, l line, u0 float64, module int) (first float64, n, at int) {
	if !c.lattice {
		if first = s.a + l.shiftM; first > s.b+tolM {
			return 0, 0, 0
		}
		return first, int(math.Floor((s.b-first)/l.stepM+tolM)) + 1, 0
	}
	u0 += l.shiftM
	if module&1 != 0 {
		u0 += l.odd
	}
	i := math.Ceil((s.a-u0)/l.stepM - tolM)
	first = u0 + i*l.stepM
	if first > s.b+tolM {
		return 0, 0, 0
	}
	return first, int(math.Floor((s.b-first)/l.stepM+tolM)) + 1, int(i)
}

type span struct{ a, b float64 }

// ground holds boundary and obstacles in row coordinates, sides sorted by their lowest v, so that each row line looks only at those
// whose band it can meet.
type ground struct {
	sides               []edge
	things              []thing
	lo, hi, left, right float64 // of the outer ring
}

type edge struct {
	a, b   geo.XY
	band   float64
	lo, hi float64 // v range widened by the band
}

// thing is an obstacle in row coordinates.
type thing struct {
	edges  []edge
	area   bool
	lo, hi float64
}

func newGround(f Field, bandM float64, uv func(geo.XY) geo.XY) *ground {
	g := &ground{lo: math.Inf(1), hi: math.Inf(-1), left: math.Inf(1), right: math.Inf(-1)}
	outer := f.bands(bandM)
	for k, r := range f.Rings {
		for i, p := range r {
			a, b, band := uv(p), uv(r[(i+1)%len(r)]), bandM
			if k == 0 {
				band = outer[i]
				g.lo, g.hi, g.left, g.right = math.Min(g.lo, a.Y), math.Max(g.hi, a.Y), math.Min(g.left, a.X), math.Max(g.right, a.X)
			}
			g.sides = append(g.sides, edge{a, b, band, math.Min(a.Y, b.Y) - band, math.Max(a.Y, b.Y) + band})
		}
	}
	sort.Slice(g.sides, func(i, j int) bool { return g.sides[i].lo < g.sides[j].lo })
	for _, o := range f.Obstacles {
		t := thing{area: o.Area, lo: math.Inf(1), hi: math.Inf(-1)}
		n := len(o.Points)
		if n > 1 && !o.Area {
			n-- // an open line has one side less than points
		}
		for i := range n {
			a, b := uv(o.Points[i]), uv(o.Points[(i+1)%len(o.Points)])
			e := edge{a, b, o.FreeM, math.Min(a.Y, b.Y) - o.FreeM, math.Max(a.Y, b.Y) + o.FreeM}
			t.edges, t.lo, t.hi = append(t.edges, e), math.Min(t.lo, e.lo), math.Max(t.hi, e.hi)
		}
		g.things = append(g.things, t)
	}
	return g
}

// crossings appends where the line at v passes from outside to inside of the sides and back (even-odd rule).
func crossings(sides []edge, v float64, sorted bool, out []span) []span {
	var buf [16]float64
	xs := buf[:0]
	for i := range sides {
		g := &sides[i]
		if g.lo > v {
			if sorted {
				break
			}
			continue
		}
		if g.hi >= v && (g.a.Y > v) != (g.b.Y > v) {
			xs = append(xs, g.a.X+(v-g.a.Y)/(g.b.Y-g.a.Y)*(g.b.X-g.a.X))
		}
	}
	sort.Float64s(xs)
	for i := 0; i+1 < len(xs); i += 2 {
		out = append(out, span{xs[i], xs[i+1]})
	}
	return out
}

// inside appends the parts of the line at v that lie in the polygon.
func (g *ground) inside(v float64, out []span) []span { return crossings(g.sides, v, true, out) }

// keepFree takes from each inside span the setback at both ends, every part within the band of a side, and every part an
// obstacle needs. The points of the line within h of a side form one interval, since the set within h of a segment is convex.
func (g *ground) keepFree(v float64, inside []span, setback float64, out []span) []span {
	for _, s := range inside {
		s.a += setback
		s.b -= setback
		if s.b < s.a-tolM {
			continue
		}
		out = append(out, s)
	}
	for i := range g.sides {
		e := &g.sides[i]
		if e.lo > v {
			break
		}
		if e.band <= 0 || e.hi < v {
			continue
		}
		if cut, ok := within(e.a, e.b, v, e.band-tolM); ok {
			out = without(out, cut)
		}
	}
	for _, t := range g.things {
		if v < t.lo || v > t.hi {
			continue
		}
		if t.area {
			var buf [8]span
			for _, cut := range crossings(t.edges, v, false, buf[:0]) {
				out = without(out, cut)
			}
		}
		for _, e := range t.edges {
			if e.band <= tolM || v < e.lo || v > e.hi {
				continue
			}
			if cut, ok := within(e.a, e.b, v, e.band-tolM); ok {
				out = without(out, cut)
			}
		}
	}
	return out
}

// without takes an interval out of the spans, in place.
func without(out []span, cut span) []span {
	for k := 0; k < len(out); k++ {
		s := out[k]
		switch {
		case cut.b <= s.a || cut.a >= s.b:
			if s.a == s.b && cut.a < s.a && s.a < cut.b {
				out = append(out[:k], out[k+1:]...)
				k--
			}
		case cut.a <= s.a && cut.b >= s.b:
			out = append(out[:k], out[k+1:]...)
			k--
		case cut.a <= s.a:
			out[k].a = cut.b
		case cut.b >= s.b:
			out[k].b = cut.a
		default:
			out[k].b = cut.a
			out = append(out, span{})
			copy(out[k+2:], out[k+1:])
			out[k+1] = span{cut.b, s.b}
			k++
		}
	}
	return out
}
