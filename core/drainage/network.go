package drainage

import (
	"fmt"
	"math"
	"sort"

	"slowroot/core/finding"
)

// XY is a point of the block's plane, metres east and north.
type XY = [2]float64

// Layout is where drains lie: a collector from the outlet upstream, and laterals that join it, made by a
// pattern or drawn.
type Layout struct {
	Collector []XY    // the outlet first
	SpacingM  float64 // between laterals, across them
	AngleDeg  float64 // at which laterals leave the collector upstream: 90 gridiron, 30 to 60 herringbone
	Sides     int     // 1 or 2; 0 is both
	EndM      float64 // laterals end so far off the edge they run at; 0 takes half the spacing
	Alone     bool    // no laterals: an interceptor, a local drain, a drain along the ends of beds
	Given     bool    // all its water is given: nothing of the block is shared out to it
	Drawn     []Line  // laterals drawn by hand; they replace the pattern
}

// Line is a lateral as it was drawn or read, the junction end first. An empty ID takes a number.
type Line struct {
	ID     string
	Points []XY
}

// Task is what the drains must do and keep to.
type Task struct {
	Ground       func(x, y float64) float64 // height of the surface
	Q            float64                    // design discharge, m/day
	DepthM       float64                    // of the invert, wanted
	CoverM       float64                    // at least, over the pipe
	LayerM       float64                    // depth of the layer that stops water; 0 not known
	OutletM      float64                    // level of the outlet invert; NaN takes the ground less the depth
	MostDepthM   float64                    // reach of the machine; 0 is 2.5
	Texture      string                     // decides the highest velocity
	LeastGrade   float64                    // m/m; 0 is 0.001
	PitEveryM    float64                    // along the collector; 0 is 120
	ExtraM3S     float64                    // let in at the head of the collector, from an interceptor
	CollectInner bool                       // laterals by the collecting formula instead of the safe transporting one
}

// Drain is one pipe: a lateral, or the reach of a collector between junctions.
type Drain struct {
	ID        string    `json:"id"`
	Lateral   bool      `json:"lateral"`
	Points    []XY      `json:"points"` // from its lower end upstream
	LengthM   float64   `json:"lengthM"`
	AreaM2    float64   `json:"areaM2"` // its own contributing area; of a reach, all that passes it
	FlowM3S   float64   `json:"flowM3S"`
	Pipe      Pipe      `json:"pipe"`
	Grade     float64   `json:"grade"` // m/m
	Velocity  float64   `json:"velocity"`
	Low       float64   `json:"low"` // invert at its lower end
	High      float64   `json:"high"`
	CoverM    float64   `json:"coverM"` // least over it
	CoverAt   float64   `json:"coverAt"`
	MeanCutM  float64   `json:"meanCutM"`
	Joins     float64   `json:"joins"` // chainage on the collector where a lateral joins
	Section   []Station `json:"section"`
	Breaks    []Break   `json:"breaks"` // where the grade changes, its two ends included; none on an even grade
	direction XY
}

// Break is a point where the grade of a pipe changes: how far from its lower end, and the invert there.
type Break struct {
	S     float64 `json:"s"`
	Level float64 `json:"level"`
}

// invert is the level at a distance from the lower end.
func (d *Drain) invert(s float64) float64 {
	for i := 1; i < len(d.Breaks); i++ {
		if a, b := d.Breaks[i-1], d.Breaks[i]; s <= b.S || i == len(d.Breaks)-1 {
			return a.Level + (b.Level-a.Level)*(s-a.S)/(b.S-a.S)
		}
	}
	return d.Low + d.Grade*s
}

// Station is a point of a pipe's long section.
type Station struct {
	S      float64 `json:"s"`
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Ground float64 `json:"ground"`
	Invert float64 `json:"invert"`
}

// Chamber is an inspection pit or silt trap.
type Chamber struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	S      float64 `json:"s"` // on the collector
	Ground float64 `json:"ground"`
	Invert float64 `json:"invert"`
	Sump   float64 `json:"sump"` // level of its floor
	Why    string  `json:"why"`
}

// Trouble is something a network cannot keep to: the rule, the drain and where, with what was found and what
// the rule asks for. Sentence is for whoever shows it to put into words, in the reader's units.
type Trouble struct {
	Rule     string  `json:"rule"`  // outlet, size, cover, layer, reach, velocity, long, crossing or missed
	Drain    string  `json:"drain"` // of a crossing the first of the two
	Got      float64 `json:"got"`   // m, m/s, m³/s or m², by the rule
	Want     float64 `json:"want"`
	AtM      float64 `json:"atM"` // from the lower end of the drain, where the rule has a place
	Other    string  `json:"other,omitempty"`
	Sentence string  `json:"sentence"`
	X        float64 `json:"x"`
	Y        float64 `json:"y"`
}

// Network is a design.
type Network struct {
	Laterals  []Drain   `json:"laterals"`
	Reaches   []Drain   `json:"reaches"` // of the collector, from the outlet upstream
	Chambers  []Chamber `json:"chambers"`
	Troubles  []Trouble `json:"troubles"`
	BlockM2   float64   `json:"blockM2"`
	ReachedM2 float64   `json:"reachedM2"`
	Missed    []Missed  `json:"missed"` // what no drain reaches
	FlowM3S   float64   `json:"flowM3S"`
	OutletM   float64   `json:"outletM"`
}

// Missed is a piece of the block that no drain reaches: its middle, its area, and the strips that make it,
// each from a west end to an east end at a northing; all are StripM high.
type Missed struct {
	X      float64      `json:"x"`
	Y      float64      `json:"y"`
	AreaM2 float64      `json:"areaM2"`
	Strips [][3]float64 `json:"strips"` // x from, x to, y of the middle
	StripM float64      `json:"stripM"`
}

func sub(a, b XY) XY              { return XY{a[0] - b[0], a[1] - b[1]} }
func dist(a, b XY) float64        { return math.Hypot(a[0]-b[0], a[1]-b[1]) }
func along(a, d XY, t float64) XY { return XY{a[0] + d[0]*t, a[1] + d[1]*t} }
func unit(d XY) XY {
	n := math.Hypot(d[0], d[1])
	return XY{d[0] / n, d[1] / n}
}

// Length of a line.
func Length(l []XY) float64 {
	s := 0.0
	for i := 1; i < len(l); i++ {
		s += dist(l[i-1], l[i])
	}
	return s
}

// At is the point of a line at a chainage and its direction there.
func At(l []XY, s float64) (XY, XY) {
	for i := 1; i < len(l); i++ {
		d := dist(l[i-1], l[i])
		if s <= d || i == len(l)-1 {
			u := unit(sub(l[i], l[i-1]))
			return along(l[i-1], u, math.Min(s, d)), u
		}
		s -= d
	}
	return l[0], XY{0, 1}
}

func inside(p XY, ring []XY) bool {
	in := false
	for i, j := 0, len(ring)-1; i < len(ring); j, i = i, i+1 {
		a, b := ring[i], ring[j]
		if (a[1] > p[1]) != (b[1] > p[1]) && p[0] < (b[0]-a[0])*(p[1]-a[1])/(b[1]-a[1])+a[0] {
			in = !in
		}
	}
	return in
}

// within reports a point of the block: inside the outer ring and outside its holes.
func within(p XY, rings [][]XY) bool {
	if !inside(p, rings[0]) {
		return false
	}
	for _, h := range rings[1:] {
		if inside(p, h) {
			return false
		}
	}
	return true
}

// cast follows a ray to the first edge of the block beyond a few centimetres: how far, and the direction of
// that edge.
func cast(p, d XY, rings [][]XY) (float64, XY, bool) {
	best, edge, ok := math.Inf(1), XY{}, false
	for _, r := range rings {
		for i, j := 0, len(r)-1; i < len(r); j, i = i, i+1 {
			a, e := r[j], sub(r[i], r[j])
			det := d[0]*e[1] - d[1]*e[0]
			if math.Abs(det) < 1e-12 {
				continue
			}
			w := sub(a, p)
			t, u := (w[0]*e[1]-w[1]*e[0])/det, (w[0]*d[1]-w[1]*d[0])/det
			if t > 0.05 && u >= -1e-9 && u <= 1+1e-9 && t < best {
				best, edge, ok = t, unit(e), true
			}
		}
	}
	return best, edge, ok
}

// Area of rings, holes taken off.
func Area(rings [][]XY) float64 {
	total := 0.0
	for k, r := range rings {
		s := 0.0
		for i, j := 0, len(r)-1; i < len(r); j, i = i, i+1 {
			s += r[j][0]*r[i][1] - r[i][0]*r[j][1]
		}
		if s = math.Abs(s) / 2; k == 0 {
			total += s
		} else {
			total -= s
		}
	}
	return total
}

// Valid refuses a layout that cannot be laid.
func (l Layout) Valid() error {
	switch {
	case len(l.Collector) < 2 || Length(l.Collector) < 1:
		return finding.Bad("collector", len(l.Collector), "is not a line", "the outlet and at least one point upstream")
	case !(l.SpacingM >= 2 && l.SpacingM <= 200):
		return finding.Bad("spacingM", l.SpacingM, "is not a drain spacing", "2 to 200 m")
	case len(l.Drawn) == 0 && !l.Alone && !(l.AngleDeg >= 20 && l.AngleDeg <= 90):
		return finding.Bad("angleDeg", l.AngleDeg, "is not an angle laterals join at", "20 to 90°")
	}
	return nil
}

// lay places the laterals.
func (l Layout) lay(rings [][]XY) []Drain {
	if l.Alone {
		return nil
	}
	if len(l.Drawn) > 0 {
		return l.joined()
	}
	end := l.EndM
	if end == 0 {
		end = l.SpacingM / 2
	}
	axis := unit(sub(l.Collector[len(l.Collector)-1], l.Collector[0]))
	angle := l.AngleDeg * math.Pi / 180
	var out []Drain
	for side := range 2 {
		if l.Sides == 1 && side == 1 {
			break
		}
		sign, first := 1.0, l.SpacingM/2
		if side == 1 {
			sign = -1
			if l.AngleDeg < 89 {
				first = l.SpacingM // staggered, so that junctions do not face
			}
		}
		d := XY{axis[0]*math.Cos(sign*angle) - axis[1]*math.Sin(sign*angle), axis[0]*math.Sin(sign*angle) + axis[1]*math.Cos(sign*angle)}
		n := 0
		for _, s := range l.joints(d, first) {
			p, _ := At(l.Collector, s)
			if !within(along(p, d, 0.1), rings) {
				continue
			}
			far, edge, ok := cast(p, d, rings)
			if !ok {
				continue
			}
			if math.Abs(edge[0]*axis[0]+edge[1]*axis[1]) > math.Sqrt2/2 {
				// an edge that runs with the collector is kept clear of; others are run up to
				far -= end / math.Max(0.2, math.Abs(d[0]*edge[1]-d[1]*edge[0]))
			}
			if t, hit := meets(p, d, l.Collector); hit {
				far = math.Min(far, t-l.SpacingM/2) // the collector bends round
			}
			if far < l.SpacingM/4 {
				continue
			}
			n++
			out = append(out, Drain{ID: fmt.Sprintf("L%d%s", n, []string{"", "b"}[side]), Lateral: true, Joins: s, Points: []XY{p, along(p, d, far)}, LengthM: far, direction: d})
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Joins < out[j].Joins })
	return out
}

// joints are the chainages at which laterals of direction d leave the collector a spacing apart, measured
// across them; the first lies at a distance from the outlet. All laterals of a side are parallel, whatever
// bends the collector makes; where it turns back on itself only the first pass is used.
func (l Layout) joints(d XY, first float64) []float64 {
	n := XY{d[1], -d[0]}
	at := func(p XY) float64 { return (p[0]-l.Collector[0][0])*n[0] + (p[1]-l.Collector[0][1])*n[1] }
	way := math.Copysign(1, at(l.Collector[len(l.Collector)-1]))
	var out []float64
	next, run := first, 0.0
	for k := 1; k < len(l.Collector); k++ {
		a, b := way*at(l.Collector[k-1]), way*at(l.Collector[k])
		leg := dist(l.Collector[k-1], l.Collector[k])
		for ; b > a && next <= b+1e-9; next += l.SpacingM {
			out = append(out, run+leg*math.Max(0, next-a)/(b-a))
		}
		run += leg
	}
	return out
}

// meets is how far along a ray from p it meets a line again, half a metre on or more.
func meets(p, d XY, line []XY) (float64, bool) {
	best, hit := math.Inf(1), false
	for k := 1; k < len(line); k++ {
		e := sub(line[k], line[k-1])
		det := d[0]*e[1] - d[1]*e[0]
		if math.Abs(det) < 1e-12 {
			continue
		}
		w := sub(line[k-1], p)
		t, u := (w[0]*e[1]-w[1]*e[0])/det, (w[0]*d[1]-w[1]*d[0])/det
		if t > 0.5 && u >= 0 && u <= 1 && t < best {
			best, hit = t, true
		}
	}
	return best, hit
}

// joined takes drawn laterals and lets each join the collector at its nearest point.
func (l Layout) joined() []Drain {
	var out []Drain
	for i, drawn := range l.Drawn {
		pts := drawn.Points
		if len(pts) < 2 {
			continue
		}
		id := drawn.ID
		if id == "" {
			id = fmt.Sprintf("L%d", i+1)
		}
		best, at, s, run := math.Inf(1), XY{}, 0.0, 0.0
		for k := 1; k < len(l.Collector); k++ {
			d, q, t := nearest(pts[0], l.Collector[k-1], l.Collector[k])
			if d < best {
				best, at, s = d, q, run+t
			}
			run += dist(l.Collector[k-1], l.Collector[k])
		}
		line := append([]XY{at}, pts...)
		if best < 0.5 {
			line = append([]XY{at}, pts[1:]...)
		}
		out = append(out, Drain{ID: id, Lateral: true, Joins: s, Points: line, LengthM: Length(line), direction: unit(sub(line[len(line)-1], line[len(line)-2]))})
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Joins < out[j].Joins })
	return out
}

// nearest is the distance from p to a segment, the foot and how far along it lies.
func nearest(p, a, b XY) (d float64, foot XY, t float64) {
	e := sub(b, a)
	n := e[0]*e[0] + e[1]*e[1]
	f := 0.0
	if n > 0 {
		f = math.Max(0, math.Min(1, ((p[0]-a[0])*e[0]+(p[1]-a[1])*e[1])/n))
	}
	foot = XY{a[0] + f*e[0], a[1] + f*e[1]}
	return dist(p, foot), foot, f * math.Sqrt(n)
}

// Reach shares the block out: every cell goes to its nearest drain within half a spacing; the rest is
// missed. A lateral reaches ext beyond its upper end. cell is the grid's step; 0 takes an eighth of the
// spacing, at least 1 m.
func (l Layout) Reach(rings [][]XY, laterals []Drain, ext, cell float64) (byLateral []float64, collector, reached float64, missed []Missed) {
	if cell == 0 {
		cell = math.Max(1, l.SpacingM/8)
	}
	lo, hi := rings[0][0], rings[0][0]
	for _, p := range rings[0] {
		lo = XY{math.Min(lo[0], p[0]), math.Min(lo[1], p[1])}
		hi = XY{math.Max(hi[0], p[0]), math.Max(hi[1], p[1])}
	}
	nx, ny := int((hi[0]-lo[0])/cell)+1, int((hi[1]-lo[1])/cell)+1
	type seg struct {
		a, b XY
		of   int
		box  [4]float64
	}
	half := l.SpacingM/2 + 1e-6
	var segs []seg
	add := func(a, b XY, of int) {
		segs = append(segs, seg{a, b, of, [4]float64{math.Min(a[0], b[0]) - half, math.Min(a[1], b[1]) - half, math.Max(a[0], b[0]) + half, math.Max(a[1], b[1]) + half}})
	}
	for i, d := range laterals {
		for k := 1; k < len(d.Points); k++ {
			b := d.Points[k]
			if k == len(d.Points)-1 {
				b = along(b, d.direction, ext)
			}
			add(d.Points[k-1], b, i)
		}
	}
	for k := 1; k < len(l.Collector); k++ {
		add(l.Collector[k-1], l.Collector[k], -1)
	}
	// squares of eight cells, each with the segments that can reach into it
	const wide = 8
	sx, sy := (nx+wide-1)/wide, (ny+wide-1)/wide
	squares := make([][]int32, sx*sy)
	far := half + cell*wide*math.Sqrt2/2
	for i := range segs {
		s := &segs[i]
		for j := max(0, int((s.box[1]-lo[1])/cell)/wide-1); j <= min(sy-1, int((s.box[3]-lo[1])/cell)/wide+1); j++ {
			for q := max(0, int((s.box[0]-lo[0])/cell)/wide-1); q <= min(sx-1, int((s.box[2]-lo[0])/cell)/wide+1); q++ {
				mid := XY{lo[0] + (float64(q)+0.5)*wide*cell, lo[1] + (float64(j)+0.5)*wide*cell}
				if d, _, _ := nearest(mid, s.a, s.b); d <= far {
					squares[j*sx+q] = append(squares[j*sx+q], int32(i))
				}
			}
		}
	}
	byLateral = make([]float64, len(laterals))
	state := make([]int8, nx*ny) // 1 reached, 2 missed
	total := 0.0
	for j := range ny {
		for i := range nx {
			p := XY{lo[0] + (float64(i)+0.5)*cell, lo[1] + (float64(j)+0.5)*cell}
			if !within(p, rings) {
				continue
			}
			total++
			best, of := half, -2
			for _, k := range squares[j/wide*sx+i/wide] {
				s := &segs[k]
				if p[0] < s.box[0] || p[0] > s.box[2] || p[1] < s.box[1] || p[1] > s.box[3] {
					continue
				}
				if d, _, _ := nearest(p, s.a, s.b); d <= best {
					best, of = d, s.of
				}
			}
			switch {
			case of == -2:
				state[j*nx+i] = 2
			case of == -1:
				collector++
				state[j*nx+i] = 1
			default:
				byLateral[of]++
				state[j*nx+i] = 1
			}
		}
	}
	k := Area(rings) / math.Max(1, total) // the cells make the block
	for i := range byLateral {
		byLateral[i] *= k
		reached += byLateral[i]
	}
	collector *= k
	reached += collector
	return byLateral, collector, reached, pieces(state, nx, ny, lo, cell, k)
}

// pieces are the missed cells that hang together, largest first.
func pieces(state []int8, nx, ny int, lo XY, cell, k float64) []Missed {
	out := []Missed{}
	var stack []int
	for at, s := range state {
		if s != 2 {
			continue
		}
		stack = append(stack[:0], at)
		state[at] = 3
		m := Missed{StripM: cell}
		n := 0.0
		rows := map[int][2]int{} // west and east end of each row of the piece; gaps inside are filled in
		for len(stack) > 0 {
			c := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			i, j := c%nx, c/nx
			if r, ok := rows[j]; ok {
				rows[j] = [2]int{min(r[0], i), max(r[1], i)}
			} else {
				rows[j] = [2]int{i, i}
			}
			m.X, m.Y, n = m.X+lo[0]+(float64(i)+0.5)*cell, m.Y+lo[1]+(float64(j)+0.5)*cell, n+1
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				x, y := i+d[0], j+d[1]
				if x >= 0 && y >= 0 && x < nx && y < ny && state[y*nx+x] == 2 {
					state[y*nx+x] = 3
					stack = append(stack, y*nx+x)
				}
			}
		}
		m.X, m.Y, m.AreaM2 = m.X/n, m.Y/n, n*k
		for j := range ny {
			if r, ok := rows[j]; ok {
				m.Strips = append(m.Strips, [3]float64{lo[0] + float64(r[0])*cell, lo[0] + float64(r[1]+1)*cell, lo[1] + (float64(j)+0.5)*cell})
			}
		}
		out = append(out, m)
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].AreaM2 > out[j].AreaM2 })
	return out
}

// Design lays a network on a block (rings on the plane, the outer one first), shares its water out and
// gives every pipe its level and size. What cannot be kept to is a trouble, not a silent change.
func Design(rings [][]XY, l Layout, t Task) (*Network, error) {
	if err := l.Valid(); err != nil {
		return nil, err
	}
	t.defaults()
	n := &Network{Laterals: append([]Drain{}, l.lay(rings)...), Reaches: []Drain{}, Chambers: []Chamber{}, Troubles: []Trouble{}, Missed: []Missed{}, BlockM2: Area(rings)}
	ext := l.EndM
	if ext == 0 {
		ext = l.SpacingM / 2
	}
	areas, own, missed := make([]float64, len(n.Laterals)), 0.0, []Missed{}
	if !l.Given {
		areas, own, n.ReachedM2, missed = l.Reach(rings, n.Laterals, ext, 0)
	}
	n.Missed = missed
	for i := range n.Laterals {
		n.Laterals[i].AreaM2 = areas[i]
	}
	n.collector(l, t, own)
	n.laterals(t)
	n.crossings()
	for _, m := range missed {
		if m.AreaM2 > 0.01*n.BlockM2 {
			n.trouble(Trouble{Rule: "missed", Got: m.AreaM2, Want: n.BlockM2 - n.ReachedM2}, XY{m.X, m.Y})
		}
	}
	return n, nil
}

func (t *Task) defaults() {
	if t.LeastGrade == 0 {
		t.LeastGrade = 0.001
	}
	if t.MostDepthM == 0 {
		t.MostDepthM = 2.5
	}
	if t.PitEveryM == 0 {
		t.PitEveryM = 120
	}
}

func (n *Network) trouble(t Trouble, at XY) {
	t.X, t.Y = at[0], at[1]
	n.Troubles = append(n.Troubles, t)
}

// collector runs upstream from the outlet: reaches between junctions, each with all that passes it.
func (n *Network) collector(l Layout, t Task, own float64) {
	total := Length(l.Collector)
	marks := []float64{0}
	for _, d := range n.Laterals {
		if d.Joins-marks[len(marks)-1] > 0.01 {
			marks = append(marks, d.Joins)
		}
	}
	if len(n.Laterals) == 0 {
		marks = append(marks, alone(l.Collector)...)
	}
	out, _ := At(l.Collector, 0)
	n.OutletM = t.OutletM
	if math.IsNaN(t.OutletM) {
		n.OutletM = t.Ground(out[0], out[1]) - t.DepthM
	}
	if g := t.Ground(out[0], out[1]); n.OutletM > g-0.2 {
		n.trouble(Trouble{Rule: "outlet", Drain: "collector", Got: n.OutletM, Want: g - 0.2}, out)
	}
	level := n.OutletM
	for k := 1; k < len(marks); k++ {
		a, b := marks[k-1], marks[k]
		r := Drain{ID: fmt.Sprintf("C%d", k), Joins: a, LengthM: b - a, Breaks: []Break{}}
		for s := a; s < b-1e-9; s += 10 {
			p, _ := At(l.Collector, s)
			r.Points = append(r.Points, p)
		}
		p, _ := At(l.Collector, b)
		r.Points = append(r.Points, p)
		above := own * (1 - a/total)
		for _, d := range n.Laterals {
			if d.Joins >= b-0.01 {
				above += d.AreaM2
			}
		}
		r.AreaM2 = above
		r.FlowM3S = t.Q*above/86400 + t.ExtraM3S
		want := (t.Ground(p[0], p[1]) - t.DepthM - level) / r.LengthM
		r.Grade = math.Max(t.LeastGrade, want)
		r.Low = level
		level += r.Grade * r.LengthM
		r.High = level
		n.Reaches = append(n.Reaches, r)
	}
	// sizes run downstream and never fall
	least := 0.0
	for k := len(n.Reaches) - 1; k >= 0; k-- {
		r := &n.Reaches[k]
		p, ok := Choose(r.FlowM3S, r.Grade, false, least)
		r.Pipe, least = p, p.InsideM
		if !ok {
			n.trouble(Trouble{Rule: "size", Drain: r.ID, Got: r.FlowM3S, Want: SiltShare(p.InsideM) * Capacity(p.InsideM, r.Grade, p.Smooth, false)}, r.Points[0])
		}
		n.settle(r, t)
	}
	n.chambers(l, t)
	if len(n.Reaches) > 0 {
		n.FlowM3S = n.Reaches[0].FlowM3S
	}
}

// alone are the ends of the reaches of a drain without laterals: at its corners, and every 40 m or less, so
// that it can follow the ground.
func alone(line []XY) []float64 {
	var out []float64
	run := 0.0
	for k := 1; k < len(line); k++ {
		leg := dist(line[k-1], line[k])
		n := math.Max(1, math.Ceil(leg/40))
		for i := 1.0; i <= n && leg > 0.01; i++ {
			out = append(out, run+leg*i/n)
		}
		run += leg
	}
	return out
}

// settle fills in a pipe's section and judges cover, depth, layer and velocity.
func (n *Network) settle(d *Drain, t Task) {
	d.Section = nil
	d.CoverM, d.CoverAt = math.Inf(1), 0
	s, cuts := 0.0, 0.0
	last := d.Points[0]
	place := func(p XY, s float64) {
		g := t.Ground(p[0], p[1])
		inv := d.invert(s)
		d.Section = append(d.Section, Station{s, p[0], p[1], g, inv})
		if c := g - inv - d.Pipe.OuterM; c < d.CoverM {
			d.CoverM, d.CoverAt = c, s
		}
	}
	place(last, 0)
	for _, p := range d.Points[1:] {
		leg := dist(last, p)
		for k := 1; k <= int(math.Ceil(leg/10)); k++ {
			f := math.Min(1, float64(k)*10/leg)
			place(XY{last[0] + f*(p[0]-last[0]), last[1] + f*(p[1]-last[1])}, s+f*leg)
		}
		s, last = s+leg, p
	}
	deep, deepAt := 0.0, d.Points[0]
	for i, p := range d.Section {
		if i > 0 {
			a := d.Section[i-1]
			cuts += (p.Ground - p.Invert + a.Ground - a.Invert) / 2 * (p.S - a.S)
		}
		if c := p.Ground - p.Invert; c > deep {
			deep, deepAt = c, XY{p.X, p.Y}
		}
	}
	d.MeanCutM = cuts / math.Max(1e-9, d.LengthM)
	_, d.Velocity = PartFull(d.FlowM3S, d.Pipe.InsideM, d.Grade, 0.015)
	at, _ := At(d.Points, d.CoverAt)
	if d.CoverM < t.CoverM-0.005 {
		n.trouble(Trouble{Rule: "cover", Drain: d.ID, Got: d.CoverM, Want: t.CoverM, AtM: d.CoverAt}, at)
	}
	if t.LayerM > 0 && deep > t.LayerM+layerSlackM {
		n.trouble(Trouble{Rule: "layer", Drain: d.ID, Got: deep, Want: t.LayerM}, deepAt)
	}
	if deep > t.MostDepthM {
		n.trouble(Trouble{Rule: "reach", Drain: d.ID, Got: deep, Want: t.MostDepthM}, deepAt)
	}
	if v := FullVelocity(d.Pipe.InsideM, d.Grade, 0.015); v > MostVelocity(t.Texture) {
		n.trouble(Trouble{Rule: "velocity", Drain: d.ID, Got: v, Want: MostVelocity(t.Texture)}, d.Points[0])
	}
}

// mostLateralM is the longest lateral that can still be flushed (common practice: 200 to 300 m).
const mostLateralM = 300

// layerSlackM is how far a pipe that lies on the layer may dip into it between two pegs.
const layerSlackM = 0.05

// grade lays a lateral: on one grade from the collector's level to the wanted depth at its upper end, raised
// where that would cut into the layer; where cover or layer cannot be kept to on one grade, on grades that
// follow the ground in lengths of 30 m, each rising upstream.
func (d *Drain) grade(join float64, t Task) {
	line := func(s float64) XY { p, _ := At(d.Points, s); return p }
	ground := func(s float64) float64 { p := line(s); return t.Ground(p[0], p[1]) }
	most := t.DepthM + 0.15
	if t.LayerM > 0 {
		most = t.LayerM
	}
	d.Low, d.Breaks = join, []Break{}
	d.Grade = math.Max(t.LeastGrade, (ground(d.LengthM)-t.DepthM-join)/d.LengthM)
	raise, bare := 0.0, math.Inf(1)
	n := math.Max(1, math.Ceil(d.LengthM/10))
	for k := 0.0; k <= n; k++ {
		s := d.LengthM * k / n
		raise = math.Max(raise, ground(s)-most-d.invert(s))
	}
	for k := 0.0; k <= n; k++ {
		s := d.LengthM * k / n
		bare = math.Min(bare, ground(s)-d.invert(s)-raise-Pipes[0].OuterM-t.CoverM)
	}
	if bare >= -0.005 {
		d.Low += raise // it falls into the collector from above
		d.High = d.Low + d.Grade*d.LengthM
		return
	}
	legs := math.Max(1, math.Round(d.LengthM/30))
	d.Breaks = append(d.Breaks, Break{0, math.Max(join, ground(0)-most)})
	d.Low, d.Grade = d.Breaks[0].Level, math.Inf(1)
	for k := 1.0; k <= legs; k++ {
		s := d.LengthM * k / legs
		was := d.Breaks[len(d.Breaks)-1]
		d.Breaks = append(d.Breaks, Break{s, math.Max(was.Level+t.LeastGrade*(s-was.S), ground(s)-t.DepthM)})
		d.Grade = math.Min(d.Grade, (d.Breaks[len(d.Breaks)-1].Level-was.Level)/(s-was.S))
	}
	d.High = d.Breaks[len(d.Breaks)-1].Level
}

// laterals get their grade from the ground at the wanted depth, from the collector's level at the junction.
// Their pipe is chosen for the flattest of their grades.
func (n *Network) laterals(t Task) {
	for i := range n.Laterals {
		d := &n.Laterals[i]
		d.FlowM3S = t.Q * d.AreaM2 / 86400
		join := n.OutletM
		for _, r := range n.Reaches {
			if d.Joins > r.Joins-0.01 && d.Joins <= r.Joins+r.LengthM+0.01 {
				join = r.Low + r.Grade*(d.Joins-r.Joins)
			}
		}
		top := d.Points[len(d.Points)-1]
		d.grade(join, t)
		p, ok := Choose(d.FlowM3S, d.Grade, t.CollectInner, 0)
		d.Pipe = p
		if !ok {
			n.trouble(Trouble{Rule: "size", Drain: d.ID, Got: d.FlowM3S, Want: SiltShare(p.InsideM) * Capacity(p.InsideM, d.Grade, p.Smooth, t.CollectInner)}, d.Points[0])
		}
		n.settle(d, t)
		if d.LengthM > mostLateralM {
			n.trouble(Trouble{Rule: "long", Drain: d.ID, Got: d.LengthM, Want: mostLateralM}, top)
		}
	}
}

// chambers stand at the upper end of the collector, where it turns or changes size, where more than two
// pipes meet, and at the greatest distance.
func (n *Network) chambers(l Layout, t Task) {
	if len(n.Reaches) == 0 {
		return
	}
	last := 0.0
	add := func(s float64, why string) {
		p, _ := At(l.Collector, s)
		level := n.OutletM
		for _, r := range n.Reaches {
			if s >= r.Joins-0.01 && s <= r.Joins+r.LengthM+0.01 {
				level = r.Low + r.Grade*(s-r.Joins)
			}
		}
		n.Chambers = append(n.Chambers, Chamber{p[0], p[1], s, t.Ground(p[0], p[1]), level, level - 0.3, why})
		last = s
	}
	corners := map[float64]bool{}
	run := 0.0
	for k := 1; k+1 < len(l.Collector); k++ {
		run += dist(l.Collector[k-1], l.Collector[k])
		u, v := unit(sub(l.Collector[k], l.Collector[k-1])), unit(sub(l.Collector[k+1], l.Collector[k]))
		if u[0]*v[0]+u[1]*v[1] < math.Cos(30*math.Pi/180) {
			corners[run] = true
		}
	}
	end := n.Reaches[len(n.Reaches)-1].Joins + n.Reaches[len(n.Reaches)-1].LengthM
	for k, r := range n.Reaches {
		for c := range corners {
			if c > r.Joins && c <= r.Joins+r.LengthM && c < end-1 {
				add(c, "the collector turns")
			}
		}
		s := r.Joins + r.LengthM
		switch {
		case s >= end-0.01:
			add(s, "end of the collector")
		case n.Reaches[k+1].Pipe != r.Pipe:
			add(s, "the pipe changes to "+n.Reaches[k+1].Pipe.Name)
		case s-last >= t.PitEveryM-r.LengthM/2:
			add(s, "far from the last one")
		}
	}
	sort.SliceStable(n.Chambers, func(i, j int) bool { return n.Chambers[i].S < n.Chambers[j].S })
}

// crossings finds laterals that cross one another.
func (n *Network) crossings() {
	for i := range n.Laterals {
		for j := i + 1; j < len(n.Laterals); j++ {
			a, b := n.Laterals[i].Points, n.Laterals[j].Points
			for k := 1; k < len(a); k++ {
				for m := 1; m < len(b); m++ {
					if p, ok := cross(a[k-1], a[k], b[m-1], b[m]); ok {
						n.trouble(Trouble{Rule: "crossing", Drain: n.Laterals[i].ID, Other: n.Laterals[j].ID}, p)
					}
				}
			}
		}
	}
}

func cross(a, b, c, d XY) (XY, bool) {
	e, f := sub(b, a), sub(d, c)
	det := e[0]*f[1] - e[1]*f[0]
	if math.Abs(det) < 1e-12 {
		return XY{}, false
	}
	w := sub(c, a)
	t, u := (w[0]*f[1]-w[1]*f[0])/det, (w[0]*e[1]-w[1]*e[0])/det
	if t > 0.001 && t < 0.999 && u > 0.001 && u < 0.999 {
		return along(a, e, t), true
	}
	return XY{}, false
}

// What a bill adds and how fast it is dug (method DRN-9; laps, waste and density are common practice, the rates of
// the machine assumed).
const (
	PipeLaps   = 1.03
	StoneWaste = 1.08
	StoneTM3   = 1.55 // t in a m³, loose
	TrenchMH   = 45.0 // m of trench in an hour
	PitH       = 2.0  // hours for an inspection pit
)

// Bill is what a network takes.
type Bill struct {
	PipeM      map[string]float64 `json:"pipeM"` // by size, with laps and waste
	LateralM   float64            `json:"lateralM"`
	CollectorM float64            `json:"collectorM"`
	TrenchM3   float64            `json:"trenchM3"`
	SpoilM3    float64            `json:"spoilM3"` // loose, that is left over
	StoneM3    float64            `json:"stoneM3"`
	StoneT     float64            `json:"stoneT"`
	Junctions  int                `json:"junctions"`
	EndCaps    int                `json:"endCaps"`
	Reducers   int                `json:"reducers"`
	Chambers   int                `json:"chambers"`
	Hours      float64            `json:"hours"` // of the machine
	Deep       bool               `json:"deep"`  // somewhere 1.2 m or more: shoring and nobody alone
}

// Quantities of a network in a trench of a width with a box of stone (0 none) around laterals, or around a
// drain without laterals; where the
// pipe lies on the layer no stone goes below it, so that the box is only as high as the pipe and above
// (method DRN-9; rates are common practice).
func (n *Network) Quantities(trenchM, stoneW, stoneH float64) Bill {
	b := Bill{PipeM: map[string]float64{}, Junctions: len(n.Laterals), EndCaps: len(n.Laterals), Chambers: len(n.Chambers)}
	pipes, kept := 0.0, 0.0
	add := func(d Drain) {
		b.PipeM[d.Pipe.Name] += d.LengthM * PipeLaps
		b.TrenchM3 += trenchM * d.MeanCutM * d.LengthM
		pipes += math.Pi * d.Pipe.OuterM * d.Pipe.OuterM / 4 * d.LengthM
		for _, p := range d.Section {
			b.Deep = b.Deep || p.Ground-p.Invert >= 1.2
		}
		if d.Lateral {
			b.LateralM += d.LengthM
		} else {
			b.CollectorM += d.LengthM
		}
		if stoneW > 0 && (d.Lateral || len(n.Laterals) == 0) { // what takes water in
			b.StoneM3 += EnvelopeM3(stoneW, stoneH, d.Pipe.OuterM) * d.LengthM
		}
	}
	for _, d := range n.Laterals {
		add(d)
	}
	for i, d := range n.Reaches {
		add(d)
		if i > 0 && n.Reaches[i-1].Pipe != d.Pipe {
			b.Reducers++
		}
	}
	kept = b.StoneM3 + pipes
	b.StoneM3 *= StoneWaste
	b.StoneT = b.StoneM3 * StoneTM3
	b.SpoilM3 = kept * 1.25
	b.Hours = (b.LateralM+b.CollectorM)/TrenchMH + PitH*float64(b.Chambers)
	return b
}
