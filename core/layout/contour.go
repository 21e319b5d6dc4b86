package layout

import (
	"math"

	"slowroot/core/geo"
)

// Grades are what rows that follow the slope really have along them, %.
type Grades struct {
	Low, High float64
	Closest   float64 // how near two rows come, m
}

// How rows are traced. Common practice, no source.
const (
	strideM = 2.5 // step along a row
	reachM  = 8.0 // half the base over which the slope is read: what a row cannot follow is smoothed over
	turnDeg = 3.0 // a row is straight while it turns less than this from its last bend
	crowd   = 0.6 // of the row spacing: where rows come nearer, the later one stops
	leastM  = 4.0 // shorter rows are left out
)

// straightTan is the tangent of the turn that is allowed.
var straightTan = math.Tan(turnDeg * math.Pi / 180)

// tracer follows a direction over a surface.
type tracer struct {
	f     Field
	g     *ground
	s     Spec
	z     func(x, y float64) float64
	taken cells
}

// PlaceContour lays rows along the slope, each falling by the spec's grade: lines R apart on the line of steepest fall through the middle
// of the field, traced both ways until they leave it. Where the slope bends, rows come nearer or draw apart; one that comes nearer than six
// tenths of the spacing stops there. z is the height at a point of the plane, NaN where it is not known: a row ends there.
func PlaceContour(f Field, s Spec, z func(x, y float64) float64) (Placement, Grades, error) {
	if err := s.Valid(); err != nil {
		return Placement{}, Grades{}, err
	}
	s = s.Normal()
	t := &tracer{f: f, s: s, z: z, g: newGround(f, s.EdgeBandM, func(p geo.XY) geo.XY { return p })}
	t.taken = cells{size: math.Max(s.RowSpacingM, 1), in: map[[2]int][]geo.XY{}}
	grades := Grades{Low: math.Inf(1), High: 0, Closest: math.Inf(1)}
	var out Placement
	for _, seed := range t.seeds() {
		line := t.trace(seed)
		if len(line) < 2 {
			continue
		}
		for k := range s.Group() {
			side := offset(line, (float64(k)-float64(s.Group()-1)/2)*s.TwinGapM)
			row := out.Rows + 1
			for _, run := range t.free(side) {
				for _, p := range pieces(run, s, row, &out) {
					out.add(p)
				}
			}
		}
		t.measure(line, &grades)
		for _, p := range line {
			k := t.taken.key(p)
			t.taken.in[k] = append(t.taken.in[k], p)
		}
		if out.Stations > MaxStations {
			return Placement{}, grades, tooMany(s)
		}
	}
	if out.Rows == 0 {
		grades = Grades{}
	}
	return out.WithRoles(s), grades, nil
}

// slope is the gradient at a point, m for each metre east and north; ok is false where it is not known or level.
func (t *tracer) slope(p geo.XY) (gx, gy float64, ok bool) {
	gx = (t.z(p.X+reachM, p.Y) - t.z(p.X-reachM, p.Y)) / (2 * reachM)
	gy = (t.z(p.X, p.Y+reachM) - t.z(p.X, p.Y-reachM)) / (2 * reachM)
	return gx, gy, !math.IsNaN(gx) && !math.IsNaN(gy) && math.Hypot(gx, gy) > 1e-4
}

// along is the direction of a row at a point: across the fall, turned so that it falls by the grade.
func (t *tracer) along(p geo.XY) (geo.XY, bool) {
	gx, gy, ok := t.slope(p)
	if !ok {
		return geo.XY{}, false
	}
	steep := math.Hypot(gx, gy)
	turn := math.Asin(math.Min(1, t.s.GradePct/100/steep)) // from the contour towards the fall
	a := math.Atan2(gx, -gy)                               // the contour with the rise on its left
	a -= turn
	return geo.XY{X: math.Cos(a), Y: math.Sin(a)}, true
}

// seeds are points the rows begin at: on the line of steepest fall through the middle of the field, R apart along it.
func (t *tracer) seeds() []geo.XY {
	mid := centre(t.f.Rings[0])
	up, down := t.fall(mid, 1), t.fall(mid, -1)
	line := make([]geo.XY, 0, len(up)+len(down))
	for i := len(up) - 1; i > 0; i-- {
		line = append(line, up[i])
	}
	line = append(line, down...)
	out, gone := []geo.XY{}, t.s.RowSpacingM/2+t.s.OffsetM
	for gone < 0 {
		gone += t.s.RowSpacingM
	}
	for i := 1; i < len(line); i++ {
		d := math.Hypot(line[i].X-line[i-1].X, line[i].Y-line[i-1].Y)
		for ; gone <= d; gone += t.s.RowSpacingM {
			k := gone / d
			out = append(out, geo.XY{X: line[i-1].X + k*(line[i].X-line[i-1].X), Y: line[i-1].Y + k*(line[i].Y-line[i-1].Y)})
		}
		gone -= d
	}
	return out
}

// fall follows the steepest fall from a point, up (1) or down (−1), to the edge of the field and a little beyond.
func (t *tracer) fall(p geo.XY, way float64) []geo.XY {
	out := []geo.XY{p}
	for range 20000 {
		gx, gy, ok := t.slope(p)
		if !ok {
			break
		}
		h := math.Hypot(gx, gy)
		p = geo.XY{X: p.X + way*gx/h*strideM, Y: p.Y + way*gy/h*strideM}
		if !t.inField(p) {
			break
		}
		out = append(out, p)
	}
	return out
}

func centre(r []geo.XY) geo.XY {
	var c geo.XY
	for _, p := range r {
		c.X += p.X / float64(len(r))
		c.Y += p.Y / float64(len(r))
	}
	return c
}

// inField reports whether a point lies inside the outer ring.
func (t *tracer) inField(p geo.XY) bool { return geo.Inside(p, t.f.Rings[0]) }

// trace follows a row from a point both ways until it leaves the field, meets a row that is there, or heights end.
func (t *tracer) trace(p geo.XY) []geo.XY {
	half := func(way float64) []geo.XY {
		q, out := p, []geo.XY{}
		for range 20000 {
			d, ok := t.along(q)
			if !ok {
				break
			}
			// the middle of the step says where it goes: a second-order step keeps to the contour
			m, ok := t.along(geo.XY{X: q.X + way*d.X*strideM/2, Y: q.Y + way*d.Y*strideM/2})
			if !ok {
				break
			}
			q = geo.XY{X: q.X + way*m.X*strideM, Y: q.Y + way*m.Y*strideM}
			if !t.inField(q) || t.taken.near(q, crowd*t.s.RowSpacingM) {
				break
			}
			out = append(out, q)
		}
		return out
	}
	if !t.inField(p) || t.taken.near(p, crowd*t.s.RowSpacingM) {
		return nil
	}
	back, on := half(-1), half(1)
	line := make([]geo.XY, 0, len(back)+len(on)+1)
	for i := len(back) - 1; i >= 0; i-- {
		line = append(line, back[i])
	}
	return append(append(line, p), on...)
}

// offset is a line moved sideways.
func offset(line []geo.XY, m float64) []geo.XY {
	if m == 0 {
		return line
	}
	out := make([]geo.XY, len(line))
	for i := range line {
		a, b := line[max(0, i-1)], line[min(len(line)-1, i+1)]
		l := math.Hypot(b.X-a.X, b.Y-a.Y)
		out[i] = geo.XY{X: line[i].X - (b.Y-a.Y)/l*m, Y: line[i].Y + (b.X-a.X)/l*m}
	}
	return out
}

// free are the parts of a row that keep clear of boundary, setback and obstacles.
func (t *tracer) free(line []geo.XY) [][]geo.XY {
	var out [][]geo.XY
	var run []geo.XY
	end := func() {
		cut := int(math.Ceil(t.s.RowEndSetbackM / strideM))
		if run = run[min(cut, len(run)):max(min(cut, len(run)), len(run)-cut)]; float64(len(run)-1)*strideM >= leastM {
			out = append(out, run)
		}
		run = nil
	}
	for _, p := range line {
		if t.clear(p) {
			run = append(run, p)
		} else {
			end()
		}
	}
	end()
	return out
}

// clear reports whether a station may stand at a point.
func (t *tracer) clear(p geo.XY) bool {
	var buf, out [8]span
	for _, s := range t.g.keepFree(p.Y, t.g.inside(p.Y, buf[:0]), 0, out[:0]) {
		if p.X >= s.a-tolM && p.X <= s.b+tolM {
			return true
		}
	}
	return false
}

// pieces are the stations of a run, P apart along it, as straight pieces: a new one where the row has turned.
func pieces(run []geo.XY, s Spec, row int, out *Placement) []Piece {
	var at []geo.XY
	gone := 0.0
	for i := 1; i < len(run); i++ {
		d := math.Hypot(run[i].X-run[i-1].X, run[i].Y-run[i-1].Y)
		for ; gone <= d+1e-9; gone += s.PlantSpacingM {
			k := gone / d
			at = append(at, geo.XY{X: run[i-1].X + k*(run[i].X-run[i-1].X), Y: run[i-1].Y + k*(run[i].Y-run[i-1].Y)})
		}
		gone -= d
	}
	station := 1
	if n := len(out.Pieces); n > 0 && out.Pieces[n-1].Row == row {
		station = out.Pieces[n-1].Station1 + out.Pieces[n-1].Stations
	}
	var list []Piece
	for i := 0; i < len(at); {
		k := i + 1
		for k < len(at) && straight(at, i, k) {
			k++
		}
		n := k - i
		p := Piece{Row: row, Station1: station, Stations: n, FirstX: at[i].X, FirstY: at[i].Y, LengthM: float64(n) * s.PlantSpacingM}
		if n > 1 {
			p.StepX, p.StepY = (at[k-1].X-at[i].X)/float64(n-1), (at[k-1].Y-at[i].Y)/float64(n-1)
		}
		if k == len(at) {
			p.LengthM -= s.PlantSpacingM
		}
		station += n
		list = append(list, p)
		i = k
	}
	return list
}

// straight reports whether stations i to k lie on one line but for the turn that is allowed.
func straight(at []geo.XY, i, k int) bool {
	if k-i < 2 {
		return true
	}
	ax, ay := at[i+1].X-at[i].X, at[i+1].Y-at[i].Y
	bx, by := at[k].X-at[k-1].X, at[k].Y-at[k-1].Y
	return math.Abs(ax*by-ay*bx) <= straightTan*(ax*bx+ay*by)
}

// measure widens the grades by those of a row, read over twenty metres, and says how near it comes to those before.
func (t *tracer) measure(line []geo.XY, g *Grades) {
	const base = int(20 / strideM)
	for i := base; i < len(line); i += 5 {
		rise := math.Abs(t.z(line[i].X, line[i].Y)-t.z(line[i-base].X, line[i-base].Y)) / 20 * 100
		if !math.IsNaN(rise) {
			g.Low, g.High = math.Min(g.Low, rise), math.Max(g.High, rise)
		}
	}
	for i := 0; i < len(line); i += 5 {
		k := t.taken.key(line[i])
		for a := -1; a <= 1; a++ {
			for b := -1; b <= 1; b++ {
				for _, q := range t.taken.in[[2]int{k[0] + a, k[1] + b}] {
					g.Closest = math.Min(g.Closest, math.Hypot(q.X-line[i].X, q.Y-line[i].Y))
				}
			}
		}
	}
}
