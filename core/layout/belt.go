package layout

import (
	"math"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// Belt is rows of trees along the sides of a block that face a direction, inside its boundary: a windbreak, method LAY-7.
type Belt struct {
	TowardDeg   float64 // the sides that face it, ± 45°
	Rows        int
	RowSpacingM float64 // between rows of the belt
	SpacingM    float64 // in the row
	InsetM      float64 // first row from the boundary
	Stagger     bool    // every other row is shifted half a spacing
}

// Valid returns a *finding.FieldError naming the first field that cannot be planted.
func (b Belt) Valid() error {
	switch {
	case b.Rows < 1 || b.Rows > 8:
		return finding.Bad("rows", b.Rows, "is not a number of rows of a belt", "1 to 8")
	case b.Rows > 1 && bad(b.RowSpacingM):
		return finding.Bad("rowSpacingM", b.RowSpacingM, "is not a spacing between rows", "0.1 to 25 m")
	case bad(b.SpacingM):
		return finding.Bad("spacingM", b.SpacingM, "is not a spacing between trees", "0.1 to 25 m")
	case !(b.InsetM >= 0 && b.InsetM <= 100):
		return finding.Bad("insetM", b.InsetM, "is not a distance from the boundary", "0 to 100 m")
	case !(math.Abs(b.TowardDeg) <= 360):
		return finding.Bad("towardDeg", b.TowardDeg, "is not a direction", "0 to 360°, clockwise from true north")
	}
	return nil
}

// DepthM is the ground a belt takes from the boundary to its last row, m.
func (b Belt) DepthM() float64 { return b.InsetM + float64(b.Rows-1)*b.RowSpacingM }

// Side is one side of the boundary a belt stands along.
type Side struct{ A, B geo.XY }

// Sides are those a belt stands along.
func (b Belt) Sides(f Field) []Side {
	r := f.Rings[0]
	turn := turns(r)
	h := Headland{TowardDeg: b.TowardDeg}
	var out []Side
	for i, p := range r {
		if q := r[(i+1)%len(r)]; h.faces(p, q, turn) {
			out = append(out, Side{p, q})
		}
	}
	return out
}

// Lay plants the belt: along every side it stands on, each row starts at the corner and goes on at its spacing, ⌊length/spacing⌋ + 1 trees; at a
// corner where two sides meet a tree that would stand closer than half a spacing to one already there is left out.
func (b Belt) Lay(f Field) (Placement, error) {
	if err := b.Valid(); err != nil {
		return Placement{}, err
	}
	var out Placement
	turn := turns(f.Rings[0])
	for k := range b.Rows {
		for _, s := range b.Sides(f) {
			dx, dy := s.B.X-s.A.X, s.B.Y-s.A.Y
			length := math.Hypot(dx, dy)
			if length < 1e-9 {
				continue
			}
			ex, ey := dx/length, dy/length
			in := math.Max(b.InsetM+float64(k)*b.RowSpacingM, tolM) // on the boundary itself nothing is inside
			start := geo.XY{X: s.A.X - ey*in*turn, Y: s.A.Y + ex*in*turn}
			// one line of the whole field at this distance from the side, cut to the ground that is left by its neighbours
			c := comb{bearingDeg: math.Atan2(ex, ey) * 180 / math.Pi, moduleM: 1e9, lines: []line{{stepM: b.SpacingM}}, anchor: start, bandM: b.InsetM}
			if b.Stagger && k&1 != 0 {
				c.lines[0].shiftM = b.SpacingM / 2
			}
			row := out.Rows + 1
			err := c.rows(Field{Rings: f.Rings, Obstacles: f.Obstacles}, func(p Piece, _, _ int) error {
				p = along(p, start, ex, ey, length, in)
				if p.Stations > 0 {
					p.Row = row
					rest := Placement{Pieces: []Piece{p}}.Without(out, b.SpacingM/2)
					for _, q := range rest.Pieces {
						out.add(q)
					}
				}
				return nil
			})
			if err != nil {
				return out, err
			}
		}
	}
	if out.Stations > MaxStations {
		return out, finding.Bad("spacingM", b.SpacingM, "gives more than 2 000 000 trees on this block", "a wider spacing")
	}
	return out, nil
}

// along is the part of a piece beside one side: from its corner to the other, and past the corners no further than the row lies in.
func along(p Piece, start geo.XY, ex, ey, length, slack float64) Piece {
	step := math.Hypot(p.StepX, p.StepY)
	u := (p.FirstX-start.X)*ex + (p.FirstY-start.Y)*ey
	skip := max(0, int(math.Ceil((-slack-u)/step-1e-9)))
	last := min(p.Stations-1, int(math.Floor((length+slack-u)/step+1e-9)))
	if last < skip {
		return Piece{}
	}
	p.FirstX, p.FirstY, p.Stations = p.FirstX+float64(skip)*p.StepX, p.FirstY+float64(skip)*p.StepY, last-skip+1
	p.Station1, p.LengthM = 1, float64(p.Stations-1)*step
	return p
}

// DepthOfShelter is how far behind a belt of height heightM the wind is slowed, m: n heights times the cosine of the angle between wind
// and the belt's normal. Method LAY-7; general shelterbelt literature.
func DepthOfShelter(heightM, n, angleDeg float64) float64 {
	return math.Max(0, n*heightM*math.Cos(angleDeg*math.Pi/180))
}

// Belts is how many belts a field of a depth along the wind needs, each sheltering shelterM behind it.
func Belts(depthM, shelterM float64) int {
	if !(shelterM > 0) {
		return 0
	}
	return int(math.Ceil(depthM/shelterM - 1e-9))
}

// ReachM is how far the field reaches along a direction, m.
func (f Field) ReachM(bearingDeg float64) float64 {
	sin, cos := math.Sincos(bearingDeg * math.Pi / 180)
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, p := range f.Rings[0] {
		u := p.X*sin + p.Y*cos
		lo, hi = math.Min(lo, u), math.Max(hi, u)
	}
	return hi - lo
}
