package drainage

import (
	"fmt"
	"math"
	"sort"

	"slowroot/core/finding"
)

// Layout is where drains lie: a collector from the outlet upstream, branches of it, and laterals that join
// either, made by a pattern or drawn.
type Layout struct {
	Name      string  // of the collector; "" is C
	Collector []XY    // the outlet first
	Branches  []Line  // collectors that run into the first one or into a branch named before them
	SpacingM  float64 // between laterals, across them
	AngleDeg  float64 // at which laterals leave the collector upstream: 90 gridiron, 30 to 60 herringbone
	Sides     int     // 1 or 2; 0 is both
	EndM      float64 // laterals end so far off the edge they run at; 0 takes half the spacing
	Alone     bool    // no laterals: an interceptor, a local drain, a drain along the ends of beds
	Given     bool    // all its water is given: nothing of the block is shared out to it
	Drawn     []Line  // laterals drawn by hand; they replace the pattern
}

// Line is a lateral or a branch as it was drawn or read, the junction end first. An empty ID takes a number.
type Line struct {
	ID     string
	Points []XY
}

// Main is a line that carries what others bring: the collector from its outlet, or a branch from where it
// joins. Its reaches name it.
type Main struct {
	ID     string  `json:"id"` // C, or B1, B2 and so on; a branch may have a name of its own
	Points []XY    `json:"points"`
	On     string  `json:"on"` // the line a branch runs into; "" of the collector
	Joins  float64 `json:"joins"`
	parent int
}

// collectorID names the line from the outlet where nothing else does.
const collectorID = "C"

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
	for i, b := range l.Branches {
		if len(b.Points) < 2 || Length(b.Points) < 1 {
			return finding.Bad(fmt.Sprintf("branches[%d]", i), len(b.Points), "is not a line", "where it joins and at least one point upstream")
		}
	}
	return nil
}

// mains are the collector and its branches, each joined to the nearest point of a line before it.
func (l Layout) mains() []Main {
	out := []Main{{ID: l.Name, Points: l.Collector, parent: -1}}
	if l.Name == "" {
		out[0].ID = collectorID
	}
	for i, b := range l.Branches {
		line, on, s := join(b.Points, out)
		m := Main{ID: b.ID, Points: line, On: out[on].ID, Joins: s, parent: on}
		if m.ID == "" {
			m.ID = fmt.Sprintf("B%d", i+1)
		}
		out = append(out, m)
	}
	return out
}

// join leads a line to the nearest point of the lines it may run into: the line from there, which of them, and
// how far up it.
func join(pts []XY, mains []Main) (line []XY, on int, s float64) {
	best, at := math.Inf(1), XY{}
	for i, m := range mains {
		run := 0.0
		for k := 1; k < len(m.Points); k++ {
			if d, q, t := nearest(pts[0], m.Points[k-1], m.Points[k]); d < best {
				best, at, on, s = d, q, i, run+t
			}
			run += dist(m.Points[k-1], m.Points[k])
		}
	}
	if best < 0.5 {
		pts = pts[1:]
	}
	return append([]XY{at}, pts...), on, s
}

// lay places the laterals. Those of a branch rise from it: z, the height of the ground, tells.
func (l Layout) lay(rings [][]XY, mains []Main, z func(XY) float64) []Drain {
	var out []Drain
	switch {
	case l.Alone:
		return nil
	case len(l.Drawn) > 0:
		out = l.joined(mains)
	default:
		for i := range mains {
			out = append(out, l.comb(rings, mains, i, out, z)...)
		}
	}
	order := map[string]int{}
	for i, m := range mains {
		order[m.ID] = i
	}
	sort.SliceStable(out, func(i, j int) bool {
		if a, b := order[out[i].Main], order[out[j].Main]; a != b {
			return a < b
		}
		return out[i].Joins < out[j].Joins
	})
	return out
}

// axis is the way the collector runs as a whole.
func (l Layout) axis() XY { return unit(sub(l.Collector[len(l.Collector)-1], l.Collector[0])) }

// directions are those of the laterals of the pattern, one for each side.
func (l Layout) directions() []XY {
	axis, angle := l.axis(), l.AngleDeg*math.Pi/180
	c, s := math.Cos(angle), math.Sin(angle)
	out := []XY{{axis[0]*c - axis[1]*s, axis[0]*s + axis[1]*c}, {axis[0]*c + axis[1]*s, axis[1]*c - axis[0]*s}}
	if l.Sides == 1 {
		return out[:1]
	}
	return out
}

// comb are the laterals of one line, on both its sides. All laterals of a side are parallel, whatever line they
// leave. Those of a branch go on first with the ones that end at it; others are laid where the ground is not drained
// yet and rises from the branch.
func (l Layout) comb(rings [][]XY, mains []Main, of int, laid []Drain, z func(XY) float64) []Drain {
	m := mains[of]
	var out []Drain
	for _, c := range l.shoots(rings, m, of > 0, laid) {
		far := l.ray(c.at, c.way, rings, mains, m.ID)
		if of > 0 {
			far = l.clear(c.at, c.way, far, laid, out)
		}
		if far < l.SpacingM/2 || of > 0 && !c.goesOn && sag([]XY{c.at, along(c.at, c.way, far)}, z) > mostSagM {
			continue
		}
		out = append(out, Drain{ID: []string{"", "b"}[c.side], Main: m.ID, Lateral: true, Joins: c.joins, Points: []XY{c.at, along(c.at, c.way, far)}, LengthM: far,
			direction: c.way})
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Joins < out[j].Joins })
	n := map[string]int{}
	for i := range out {
		side := out[i].ID
		n[side]++
		out[i].ID = fmt.Sprintf("L%d%s", n[side], side)
		if of > 0 {
			out[i].ID = m.ID + out[i].ID
		}
	}
	return out
}

// shoot is a place where a lateral may leave a line.
type shoot struct {
	at, way XY
	joins   float64
	side    int
	goesOn  bool // with a lateral that ends at the branch from the other side
}

// shoots are the places on a line where laterals may leave it; of a branch those that go on with others first.
func (l Layout) shoots(rings [][]XY, m Main, branch bool, laid []Drain) []shoot {
	var out []shoot
	ways := l.directions()
	for side, d := range ways {
		first := l.SpacingM / 2
		if side == 1 && l.AngleDeg < 89 {
			first = l.SpacingM // staggered, so that junctions do not face
		}
		for _, s := range l.joints(m.Points, d, first, branch) {
			p, up := At(m.Points, s)
			c := shoot{p, d, s, side, branch && l.ends(p, d, laid)}
			if within(along(p, d, 0.1), rings) && (c.goesOn || !branch || len(ways) == 1 || !outdone(up, d, ways[1-side])) {
				out = append(out, c)
			}
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].goesOn && !out[j].goesOn })
	return out
}

// ends reports that a lateral of direction d ends half a spacing short of p, on the line through it.
func (l Layout) ends(p, d XY, laid []Drain) bool {
	for _, o := range laid {
		e := sub(p, o.Points[len(o.Points)-1])
		if t := e[0]*d[0] + e[1]*d[1]; math.Abs(t-l.SpacingM/2) < 0.05 && math.Abs(e[0]*d[1]-e[1]*d[0]) < 0.05 && dist(o.direction, d) < 1e-6 {
			return true
		}
	}
	return false
}

// ray is how far a lateral may run from p: to the edge or a hole, kept clear of every edge that runs with the collector,
// and half a spacing short of a line it would run into. own is the line it leaves.
func (l Layout) ray(p, d XY, rings [][]XY, mains []Main, own string) float64 {
	far, edge, ok := cast(p, d, rings)
	if !ok {
		return 0
	}
	end := l.EndM
	if end == 0 {
		end = l.SpacingM / 2
	}
	axis := l.axis()
	if runsWith(edge, axis) {
		far -= end / math.Max(0.2, math.Abs(d[0]*edge[1]-d[1]*edge[0]))
	}
	for _, r := range rings { // near a corner the edge it would hit is not the one it comes too close to
		for i, j := 0, len(r)-1; i < len(r); j, i = i, i+1 {
			if t, ok := nears(p, d, r[j], r[i], axis, end); ok {
				far = math.Min(far, t)
			}
		}
	}
	for _, m := range mains {
		beyond := 0.01
		if m.ID == own {
			beyond = 0.5
		}
		if t, hit := meets(p, d, m.Points, beyond); hit {
			far = math.Min(far, t-l.SpacingM/2)
		}
	}
	return far
}

// runsWith reports that an edge runs along the collector's axis rather than across it.
func runsWith(edge, axis XY) bool {
	return math.Abs(edge[0]*axis[0]+edge[1]*axis[1]) > math.Sqrt2/2
}

// nears is how far along a ray from p it comes as close as end to the edge from a to b, beside that edge and not past
// its ends; false where it never does, starts closer, or the edge does not run with the collector.
func nears(p, d, a, b, axis XY, end float64) (float64, bool) {
	if dist(a, b) == 0 {
		return 0, false
	}
	u := unit(sub(b, a))
	w := sub(p, a)
	off, rate := u[0]*w[1]-u[1]*w[0], u[0]*d[1]-u[1]*d[0]
	if !runsWith(u, axis) || off*rate >= 0 || math.Abs(off) <= end || math.Abs(rate) < 0.2 {
		return 0, false
	}
	t := (math.Abs(off) - end) / math.Abs(rate)
	foot := u[0]*(w[0]+t*d[0]) + u[1]*(w[1]+t*d[1])
	return t, foot >= 0 && foot <= dist(a, b)
}

// outdone reports that from a line that runs up, laterals of both directions would leave on the same side and cross,
// and that those of the other stand squarer to it.
func outdone(up, d, other XY) bool {
	turn := func(v XY) float64 { return up[0]*v[1] - up[1]*v[0] }
	return turn(d)*turn(other) > 0 && math.Abs(turn(d)) < math.Abs(turn(other))
}

// clear is how far a lateral of direction d may run from p before it comes closer than 0.6 of the spacing to one that
// is laid or to a parallel one of its own line, where the ground is drained already, and half a spacing short of one
// of its own line that it would cross.
func (l Layout) clear(p, d XY, far float64, laid, own []Drain) float64 {
	near := func(q XY, o Drain) bool {
		return squared(q, o.Points[0], o.Points[len(o.Points)-1]) < 0.36*l.SpacingM*l.SpacingM
	}
	var beside []Drain
	for _, o := range own {
		if dist(o.Points[0], p) < 1e-6 {
			continue
		}
		if math.Abs(d[0]*o.direction[1]-d[1]*o.direction[0]) < 0.05 {
			beside = append(beside, o)
		} else if t, hit := meets(p, d, o.Points, 0.01); hit {
			far = math.Min(far, t-l.SpacingM/2)
		}
	}
	step := l.SpacingM / 4
	for t := step; t <= far; t += step {
		q := along(p, d, t)
		for _, of := range [][]Drain{laid, beside} {
			for _, o := range of {
				if near(q, o) {
					return t - step
				}
			}
		}
	}
	return far
}

// joints are the chainages of a line at which laterals of direction d leave it a spacing apart, measured across
// them; of all lines they lie on the same lattice, whose first lies at a distance from the outlet of the collector.
// Where the collector turns back on itself only its first pass is used; a branch has laterals on every pass.
func (l Layout) joints(line []XY, d XY, first float64, branch bool) []float64 {
	n := XY{d[1], -d[0]}
	at := func(p XY) float64 { return (p[0]-l.Collector[0][0])*n[0] + (p[1]-l.Collector[0][1])*n[1] }
	up := math.Copysign(1, at(l.Collector[len(l.Collector)-1])) // the lattice runs up the collector
	step := func(p XY) float64 { return (up*at(p) - first) / l.SpacingM }
	var out []float64
	used := map[int]bool{}
	run := 0.0
	for k := 1; k < len(line); k++ {
		a, b := step(line[k-1]), step(line[k])
		leg := dist(line[k-1], line[k])
		way := 1
		from, to := int(math.Ceil(a-1e-9)), int(math.Floor(b+1e-9))
		if b < a {
			way, from, to = -1, int(math.Floor(a+1e-9)), int(math.Ceil(b-1e-9))
		}
		for i := from; (to-i)*way >= 0 && a != b; i += way {
			s := run + leg*math.Max(0, math.Min(1, (float64(i)-a)/(b-a)))
			if branch && s > 0.5 && (len(out) == 0 || s-out[len(out)-1] > 1e-6) || !branch && i >= 0 && !used[i] {
				out = append(out, s)
			}
			used[i] = true
		}
		run += leg
	}
	return out
}

// joined takes drawn laterals and lets each join the nearest point of the collector or a branch.
func (l Layout) joined(mains []Main) []Drain {
	var out []Drain
	for i, drawn := range l.Drawn {
		if len(drawn.Points) < 2 {
			continue
		}
		id := drawn.ID
		if id == "" {
			id = fmt.Sprintf("L%d", i+1)
		}
		line, on, s := join(drawn.Points, mains)
		out = append(out, Drain{ID: id, Main: mains[on].ID, Lateral: true, Joins: s, Points: line, LengthM: Length(line),
			direction: unit(sub(line[len(line)-1], line[len(line)-2]))})
	}
	return out
}
