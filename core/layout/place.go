package layout

import (
	"math"
	"sort"

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
}

// Roles of a station in Piece.Roles; an empty string means every station is Main.
const (
	Main           = 'm'
	PollinizerRole = 'p'
	TemporaryRole  = 't' // comes out first
	LaterRole      = 's' // comes out the second time
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
}

// Stay is the stations that are there for good.
func (p Placement) Stay() int { return p.Stations - p.Temporary - p.Later }

type span struct{ a, b float64 }

// Place lays spec out on the polygon given as rings on its local plane (outer first, then holes),
// method LAY-3. A row line is cut to the part inside the polygon, then to what keeps RowEndSetbackM
// along the row from where it meets the boundary, then to what keeps EdgeBandM from every boundary:
// the exact erosion, a re-entrant corner becoming an arc. Rectangle and twin rows set their stations from
// the lower end of each piece; squares and triangles keep to one lattice.
func Place(rings [][]geo.XY, s Spec) (Placement, error) {
	if err := s.Valid(); err != nil {
		return Placement{}, err
	}
	lattice := s.Pattern == Square || s.staggered()
	return place(rings, s.Normal(), lattice, geo.XY{X: rings[0][0].X, Y: rings[0][0].Y})
}

func place(rings [][]geo.XY, s Spec, lattice bool, anchor geo.XY) (Placement, error) {
	sin, cos := math.Sincos(s.BearingDeg * math.Pi / 180)
	// u runs along the rows, v across them.
	uv := make([][]geo.XY, len(rings))
	lo, hi := math.Inf(1), math.Inf(-1)
	for i, r := range rings {
		uv[i] = make([]geo.XY, len(r))
		for j, p := range r {
			q := geo.XY{X: p.X*sin + p.Y*cos, Y: p.X*cos - p.Y*sin}
			uv[i][j] = q
			if i == 0 {
				lo, hi = math.Min(lo, q.Y), math.Max(hi, q.Y)
			}
		}
	}
	u0, v0 := anchor.X*sin+anchor.Y*cos, anchor.X*cos-anchor.Y*sin+s.OffsetM
	R, P := s.RowSpacingM, s.PlantSpacingM
	lines := []float64{0}
	if s.Pattern == Twin {
		lines = []float64{-s.TwinGapM / 2, s.TwinGapM / 2}
	}
	if est := (hi - lo) / R * float64(len(lines)) * (hi - lo) / P; est > 50*MaxStations {
		return Placement{}, tooMany(s)
	}
	var out Placement
	var inside, free []span
	ed := newEdges(uv, s.EdgeBandM)
	for j := int(math.Ceil((lo-v0-s.TwinGapM)/R)) - 1; v0+float64(j)*R-s.TwinGapM <= hi; j++ {
		for _, d := range lines {
			v := v0 + float64(j)*R + d
			if v < lo || v > hi {
				continue
			}
			inside = ed.inside(v, inside[:0])
			free = ed.keepBand(v, inside, s.RowEndSetbackM, free[:0])
			station, row := 1, out.Rows+1
			for _, f := range free {
				first, n := stationsOn(f, P, lattice, u0, j, s.Pattern)
				if n == 0 {
					continue
				}
				out.Rows = row
				p := Piece{Row: row, Station1: station, Stations: n, LengthM: f.b - f.a,
					FirstX: first*sin + v*cos, FirstY: first*cos - v*sin, StepX: P * sin, StepY: P * cos}
				line, at := row-1, station-1
				if lattice {
					line, at = j, int(math.Round((first-u0)/P-0.25))
				}
				p.Roles = roles(s, row, station, n, line, at)
				for _, c := range p.Roles {
					switch c {
					case PollinizerRole:
						out.Pollinizers++
					case TemporaryRole:
						out.Temporary++
					case LaterRole:
						out.Later++
					}
				}
				station += n
				out.Stations += n
				out.RowMetres += p.LengthM
				out.Pieces = append(out.Pieces, p)
			}
			if out.Stations > MaxStations {
				return Placement{}, tooMany(s)
			}
		}
	}
	return out, nil
}

func tooMany(s Spec) error {
	return finding.Bad("plantSpacingM", s.PlantSpacingM, "gives more than 2 000 000 stations on this block",
		"a wider spacing, or a smaller block")
}

func stationsOn(f span, P float64, lattice bool, u0 float64, row int, pat Pattern) (first float64, n int) {
	length := f.b - f.a
	if !lattice {
		return f.a, int(math.Floor(length/P+tolM)) + 1
	}
	if (pat == Triangle || pat == Quincunx) && row&1 != 0 {
		u0 += P / 2
	}
	i := math.Ceil((f.a-u0)/P - tolM)
	first = u0 + i*P
	if first > f.b+tolM {
		return 0, 0
	}
	return first, int(math.Floor((f.b-first)/P+tolM)) + 1
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

// edges holds the boundary in row coordinates, sorted by their lowest v, so that each row line
// looks only at the edges whose band it can meet.
type edges struct {
	all  []edge
	band float64
}

type edge struct {
	a, b   geo.XY
	lo, hi float64 // v range widened by the band
}

func newEdges(rings [][]geo.XY, band float64) *edges {
	e := &edges{band: band}
	for _, r := range rings {
		for i, a := range r {
			b := r[(i+1)%len(r)]
			e.all = append(e.all, edge{a, b, math.Min(a.Y, b.Y) - band, math.Max(a.Y, b.Y) + band})
		}
	}
	sort.Slice(e.all, func(i, j int) bool { return e.all[i].lo < e.all[j].lo })
	return e
}

// inside appends the parts of the line at v that lie in the polygon (even-odd rule).
func (e *edges) inside(v float64, out []span) []span {
	var buf [16]float64
	xs := buf[:0]
	for i := range e.all {
		g := &e.all[i]
		if g.lo > v {
			break
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

// keepBand takes from each inside span the setback at both ends and every part within the band of
// an edge. The points of the line within h of an edge form one interval, since the set within h of
// a segment is convex.
func (e *edges) keepBand(v float64, inside []span, setback float64, out []span) []span {
	for _, s := range inside {
		s.a += setback
		s.b -= setback
		if s.b < s.a-tolM {
			continue
		}
		out = append(out, s)
	}
	if e.band <= 0 {
		return out
	}
	for i := range e.all {
		g := &e.all[i]
		if g.lo > v {
			break
		}
		if g.hi < v {
			continue
		}
		cut, ok := within(g.a, g.b, v, e.band-tolM)
		if !ok {
			continue
		}
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
	}
	return out
}

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
