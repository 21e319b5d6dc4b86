package layout

import (
	"errors"
	"math"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// Limits of one block's layout.
const (
	MaxStations = 2_000_000
	tolM        = 1e-6
)

// Piece is one unbroken piece of a row that carries at least one station. Positions are metres on
// the block's local plane. Stations stand at First + i·Step for i = 0…Stations−1.
type Piece struct {
	Row      int     `json:"row"`     // number of the row on the block, 1 is the first
	Station1 int     `json:"station"` // number of the first station along the row; pieces of a row go on counting
	FirstX   float64 `json:"x"`
	FirstY   float64 `json:"y"`
	StepX    float64 `json:"dx"`
	StepY    float64 `json:"dy"`
	Stations int     `json:"n"`
	LengthM  float64 `json:"lengthM"` // of the usable piece, wire end to wire end
	Roles    string  `json:"roles,omitempty"`
	Plot     int     `json:"plot,omitempty"`  // number of the block with aisles round it, 0 where rows are not cut into such
	Clone    int     `json:"clone,omitempty"` // that stands in it
}

// Roles of a station in Piece.Roles; an empty string means every station is Main.
const (
	Main           = 'm'
	PollinizerRole = 'p'
	TemporaryRole  = 't' // comes out first
	LaterRole      = 's' // comes out the second time
	SproutRole     = 'k' // stands already: the sprout of a stump that is kept
)

// Placement is the real layout of a block.
type Placement struct {
	Pieces      []Piece
	Stations    int
	Rows        int
	RowMetres   float64
	Pollinizers int
	Temporary   int // come out the first time
	Later       int // come out the second time
	Sprouts     int // stand already
}

// Stay is the stations that are there for good.
func (p Placement) Stay() int { return p.Stations - p.Temporary - p.Later }

// Place lays spec out on the field, method LAY-3. A row line is cut to the part inside the polygon, then to what keeps
// RowEndSetbackM along the row from where it meets the boundary, then to what keeps the edge band, or the headland of that side,
// from every boundary: the exact erosion, a re-entrant corner becoming an arc. Obstacles are cut out as wide as they are kept free.
// Rectangle and twin rows set their stations from the lower end of each piece; squares, triangles and staggered rows keep to one
// lattice.
func Place(f Field, s Spec) (Placement, error) {
	if err := s.Valid(); err != nil {
		return Placement{}, err
	}
	if s.Pattern == Contour {
		return Placement{}, finding.Bad("pattern", s.Pattern, "needs heights: rows follow the slope", "heights for this block, or another pattern")
	}
	if !s.Plots.None() {
		return placePlots(f, s.Normal())
	}
	lattice := s.Pattern == Square || s.staggered()
	return place(f, s.Normal(), lattice, geo.XY{X: f.Rings[0][0].X, Y: f.Rings[0][0].Y})
}

// place lays the lines of a spec out and says who each station is.
func place(f Field, s Spec, lattice bool, anchor geo.XY) (Placement, error) {
	c := comb{bearingDeg: s.BearingDeg, offsetM: s.OffsetM, moduleM: s.RowSpacingM, lines: s.lines(), lattice: lattice, anchor: anchor,
		bandM: s.EdgeBandM, setbackM: s.RowEndSetbackM}
	var out Placement
	err := c.rows(f, func(p Piece, line, at int) error {
		p.Roles = roles(s, p.Row, p.Station1, p.Stations, line, at)
		out.add(p)
		if out.Stations > MaxStations {
			return tooMany(s)
		}
		return nil
	})
	if errors.Is(err, errMany) {
		err = tooMany(s)
	}
	return out, err
}

// add puts a piece to the layout and counts it.
func (p *Placement) add(q Piece) {
	for _, c := range q.Roles {
		switch c {
		case PollinizerRole:
			p.Pollinizers++
		case TemporaryRole:
			p.Temporary++
		case LaterRole:
			p.Later++
		case SproutRole:
			p.Sprouts++
		}
	}
	p.Pieces = append(p.Pieces, q)
	p.Stations += q.Stations
	p.RowMetres += q.LengthM
	p.Rows = max(p.Rows, q.Row)
}

func tooMany(s Spec) error {
	return finding.Bad("plantSpacingM", s.PlantSpacingM, "gives more than 2 000 000 stations on this block",
		"a wider spacing, or a smaller block")
}

// roles says who each station of a piece is: line and at are its row and first station on the lattice,
// or in the order they are counted where the pattern has none. Pollinizers are counted among those that
// stay, so that thinning keeps their share.
func roles(s Spec, row, station, n, line, at int) string {
	stages := s.Stages()
	if s.Pollinizer.None() && stages == 0 {
		return ""
	}
	b := make([]byte, n)
	q, k := s.Pollinizer.EveryRow, s.Pollinizer.EveryPlant
	for i := range b {
		r, a := row-1, station-1+i
		if b[i] = s.roleOf(line, at+i); b[i] != Main {
			continue
		}
		switch s.removal() {
		case AlternateRow:
			r = line >> 1
		case AlternatePlant, Checkerboard:
			a = (at + i) >> 1
		case CheckerboardTwice:
			r, a = line>>1, (at+i)>>1
		}
		if !s.Pollinizer.None() && mod(r, q) == q/2 && mod(a, k) == k/2 {
			b[i] = PollinizerRole
		}
	}
	return string(b)
}

func mod(a, n int) int { return (a%n + n) % n }

// within is the interval of u for which (u, v) lies nearer than h to the segment a–b.
func within(a, b geo.XY, v, h float64) (span, bool) {
	lo, hi := math.Inf(1), math.Inf(-1)
	add := func(u float64) { lo, hi = math.Min(lo, u), math.Max(hi, u) }
	for _, p := range [2]geo.XY{a, b} { // discs round the ends
		if d := v - p.Y; math.Abs(d) < h {
			w := math.Sqrt(h*h - d*d)
			add(p.X - w)
			add(p.X + w)
		}
	}
	l := math.Hypot(b.X-a.X, b.Y-a.Y)
	if l == 0 {
		return span{lo, hi}, lo < hi
	}
	nx, ny := -(b.Y-a.Y)/l*h, (b.X-a.X)/l*h // the two long sides of the strip
	for _, sgn := range [2]float64{1, -1} {
		ay, by := a.Y+sgn*ny, b.Y+sgn*ny
		if (ay > v) != (by > v) {
			add(a.X + sgn*nx + (v-ay)/(by-ay)*(b.X-a.X))
		}
	}
	return span{lo, hi}, lo < hi
}
