package drainage

import (
	"math"
	"sort"
)

// Wet is the wet part of a block, taken as a circle, metres.
type Wet struct {
	At      XY
	RadiusM float64 // 0 where nobody said how large it is
}

// Ring is the wet part as far as it lies in the block: a polygon round its middle, cut short at the edge and at holes.
// nil where its middle lies outside or it has no radius.
func (w Wet) Ring(rings [][]XY) []XY {
	if w.RadiusM <= 0 || !within(w.At, rings) {
		return nil
	}
	var out []XY
	for i := range 48 {
		a := 2 * math.Pi * float64(i) / 48
		d := XY{math.Cos(a), math.Sin(a)}
		r := w.RadiusM
		if far, _, ok := cast(w.At, d, rings); ok {
			r = math.Min(r, far)
		}
		out = append(out, along(w.At, d, r))
	}
	return out
}

// Suggest is a first line for the collector of a pattern on a block with known heights, the outlet first.
// wet is where a local drain leads to, nil the middle, and what an interceptor keeps the water from, nil or without a
// radius the whole block; falls the compass direction the block falls
// towards, degrees. It is a start to be dragged, not a
// design: nothing here asks for cover or fall. Patterns are the ids of remedies; nil means that none fits.
func Suggest(pattern string, rings [][]XY, ground func(x, y float64) float64, spacing, falls float64, wet *Wet) []XY {
	ring := dense(distinct(rings[0]), 15)
	middle := centre(ring)
	low := lowest(ring, ground)
	switch pattern {
	case "diversion":
		return contour(rings, ground, falls)
	case "interceptor":
		if wet != nil && wet.RadiusM > 0 {
			if line := above(rings, ground, *wet); line != nil {
				return line
			}
		}
		return contour(rings, ground, falls)
	case "local":
		to := middle
		if wet != nil {
			to = wet.At
		}
		out := inset(ring, low, 1)
		if wet != nil {
			if line := through(rings, out, *wet, ground, spacing); line != nil {
				return line
			}
		}
		if dist(out, to) >= 5 {
			return []XY{out, to}
		}
		return nil
	case "herringbone":
		out := inset(ring, low, 1)
		u := unit(sub(middle, out))
		far, _, ok := cast(out, u, rings[:1])
		if !ok || far < 20 {
			return nil
		}
		head := along(out, u, far-math.Min(spacing/2, far/4))
		if way := round(out, head, rings[1:]); way != nil {
			return way
		}
		if v, ok := valley(along(out, u, far/2), u, rings, ground); ok {
			return []XY{out, v, head}
		}
		return []XY{out, head}
	}
	return bestSide(rings, ring, ground, spacing)
}

// through is a line from an outlet through the wet part, by its middle or along either side, whichever lets laterals
// reach most of it without running downhill; nil where it has no size.
func through(rings [][]XY, out XY, wet Wet, ground func(x, y float64) float64, spacing float64) []XY {
	part := wet.Ring(rings)
	if part == nil || dist(out, wet.At) < 5 {
		return nil
	}
	z := func(p XY) float64 { return ground(p[0], p[1]) }
	u := unit(sub(wet.At, out))
	n := XY{-u[1], u[0]}
	var best []XY
	most := math.Inf(-1)
	for _, side := range []float64{0, -1, 1} {
		off, _, _ := cast(wet.At, XY{side * n[0], side * n[1]}, [][]XY{part})
		at := wet.At
		if side != 0 {
			at = along(wet.At, n, side*math.Max(0, math.Min(0.85*off, off-2)))
		}
		fore, _, _ := cast(at, u, [][]XY{part})
		aft, _, _ := cast(at, XY{-u[0], -u[1]}, [][]XY{part})
		far := along(at, u, fore-math.Min(spacing/2, fore/2))
		line := []XY{out, along(at, u, 1-aft), far}
		if side == 0 || blocked(out, line[1], rings) {
			line = []XY{out, far}
		}
		ok := true
		for _, p := range line[1:] {
			ok = ok && within(p, rings)
		}
		if !ok {
			continue
		}
		if v := worth([][]XY{part}, line, z, spacing); v > most+1e-9 {
			most, best = v, line
		}
	}
	return best
}

// distinct is a ring without its closing point.
func distinct(r []XY) []XY {
	if n := len(r); n > 1 && dist(r[0], r[n-1]) < 1e-6 {
		return r[:n-1]
	}
	return r
}

// dense is a ring with points no further apart than m.
func dense(ring []XY, m float64) []XY {
	var out []XY
	for i, a := range ring {
		b := ring[(i+1)%len(ring)]
		n := math.Max(1, math.Ceil(dist(a, b)/m))
		for k := 0.0; k < n; k++ {
			out = append(out, XY{a[0] + (b[0]-a[0])*k/n, a[1] + (b[1]-a[1])*k/n})
		}
	}
	return out
}

func centre(ring []XY) XY {
	var c XY
	sum := 0.0
	for i, j := 0, len(ring)-1; i < len(ring); j, i = i, i+1 {
		a, b := ring[j], ring[i]
		k := a[0]*b[1] - b[0]*a[1]
		c, sum = XY{c[0] + (a[0]+b[0])*k, c[1] + (a[1]+b[1])*k}, sum+k
	}
	return XY{c[0] / (3 * sum), c[1] / (3 * sum)}
}

// lowest is the corner of the ring where the ground is lowest.
func lowest(ring []XY, ground func(x, y float64) float64) int {
	best := 0
	for i, p := range ring {
		if ground(p[0], p[1]) < ground(ring[best][0], ring[best][1]) {
			best = i
		}
	}
	return best
}

// inset is corner i moved inwards by m.
func inset(ring []XY, i int, m float64) XY {
	n := len(ring)
	p := ring[i]
	u, v := unit(sub(ring[(i+n-1)%n], p)), unit(sub(ring[(i+1)%n], p))
	d := XY{u[0] + v[0], u[1] + v[1]}
	if math.Hypot(d[0], d[1]) < 1e-6 {
		d = XY{-u[1], u[0]}
	}
	for _, sign := range []float64{1, -1} {
		if q := along(p, unit(d), sign*m); inside(q, ring) {
			return q
		}
	}
	return p
}

// round leads a line round the holes it would cross, on the side where less has to be gone round; nil where
// it crosses none.
func round(a, b XY, holes [][]XY) []XY {
	u := unit(sub(b, a))
	n := XY{-u[1], u[0]}
	line := []XY{a}
	crossed := false
	for _, h := range holes {
		left, right, from, to := 0.0, 0.0, math.Inf(1), math.Inf(-1)
		for _, p := range h {
			t, off := sub(p, a)[0]*u[0]+sub(p, a)[1]*u[1], sub(p, a)[0]*n[0]+sub(p, a)[1]*n[1]
			left, right, from, to = math.Max(left, off), math.Min(right, off), math.Min(from, t), math.Max(to, t)
		}
		if left <= 0 || right >= 0 || to <= 0 || from >= dist(a, b) {
			continue
		}
		crossed = true
		off := left + 4
		if -right < left {
			off = right - 4
		}
		line = append(line, along(along(a, u, from), n, off), along(along(a, u, to), n, off))
	}
	if !crossed {
		return nil
	}
	sort.SliceStable(line, func(i, j int) bool {
		return sub(line[i], a)[0]*u[0]+sub(line[i], a)[1]*u[1] < sub(line[j], a)[0]*u[0]+sub(line[j], a)[1]*u[1]
	})
	return append(line, b)
}

// valleyRiseM is how far the ground has to rise on both sides of a line for it to be the bottom of a valley.
const valleyRiseM = 0.15

// bottom is the lowest point of the line across at p, and whether the ground rises from it on both sides: on a plane
// that falls one way it lies at an end.
func bottom(p, u XY, rings [][]XY, ground func(x, y float64) float64) (XY, bool) {
	n := XY{-u[1], u[0]}
	left, _, ok1 := cast(p, n, rings)
	right, _, ok2 := cast(p, XY{-n[0], -n[1]}, rings)
	if !ok1 || !ok2 {
		return p, false
	}
	low, at, off := math.Inf(1), p, 0.0
	for t := -0.95 * right; t <= 0.95*left; t += (left + right) / 60 {
		q := along(p, n, t)
		if z := ground(q[0], q[1]); z < low {
			low, at, off = z, q, t
		}
	}
	rise := func(to float64) float64 {
		q := along(p, n, to)
		return ground(q[0], q[1]) - low
	}
	return at, off > -0.85*right && off < 0.85*left && rise(-0.95*right) >= valleyRiseM && rise(0.95*left) >= valleyRiseM
}

// valley is the bottom of a valley across the line at p, where it lies clearly below p and in the middle half.
func valley(p, u XY, rings [][]XY, ground func(x, y float64) float64) (XY, bool) {
	at, ok := bottom(p, u, rings, ground)
	return at, ok && dist(at, p) >= 5 && ground(at[0], at[1]) < ground(p[0], p[1])-valleyRiseM
}

// TwoSided reports that two sides of a block fall to a middle line: across the way down from its highest side to its
// lowest point the ground rises both ways, in the lower, the middle and the upper third.
func TwoSided(rings [][]XY, ground func(x, y float64) float64) bool {
	ring := dense(distinct(rings[0]), 15)
	low, middle := lowest(ring, ground), centre(ring)
	if dist(ring[low], middle) < 1 {
		return false
	}
	u := unit(sub(middle, ring[low]))
	far, _, ok := cast(inset(ring, low, 1), u, rings[:1])
	if !ok || far < 20 {
		return false
	}
	for _, f := range []float64{0.3, 0.5, 0.7} {
		if _, ok := bottom(along(inset(ring, low, 1), u, f*far), u, rings, ground); !ok {
			return false
		}
	}
	return true
}

// bestSide is the collector of a gridiron: of the sides of the block, the low side on both ways from the lowest
// point, and a line through the middle, the one whose laterals reach most of the block without running downhill or
// beyond what can be flushed. The outlet is its lower end.
func bestSide(rings [][]XY, ring []XY, ground func(x, y float64) float64, spacing float64) []XY {
	z := func(p XY) float64 { return ground(p[0], p[1]) }
	var best []XY
	most := math.Inf(-1)
	try := func(line []XY) {
		if len(line) < 2 || Length(line) < 20 {
			return
		}
		if z(line[len(line)-1]) < z(line[0]) {
			turned := make([]XY, len(line))
			for i, p := range line {
				turned[len(line)-1-i] = p
			}
			line = turned
		}
		line = straightened(line)
		if dist(line[0], line[len(line)-1]) < 10 {
			return
		}
		if v := worth(rings, line, z, spacing); v > most+1e-9 {
			most, best = v, line
		}
	}
	for _, side := range sides(ring) {
		try(side)
	}
	try(lowSide(ring, z))
	middle := centre(ring)
	for _, a := range []XY{inset(ring, lowest(ring, ground), 1), middle} {
		for k := range 6 {
			u := XY{math.Cos(float64(k) * math.Pi / 6), math.Sin(float64(k) * math.Pi / 6)}
			if a != middle {
				if k > 0 {
					break
				}
				u = unit(sub(middle, a))
			}
			fore, _, ok := cast(middle, u, rings[:1])
			aft, _, back := cast(middle, XY{-u[0], -u[1]}, rings[:1])
			if !ok || !back || fore < 10 || aft < 10 {
				continue
			}
			line := []XY{along(middle, u, 1-aft), along(middle, u, fore-1)}
			if way := round(line[0], line[1], rings[1:]); way != nil {
				line = way
			}
			try(line)
		}
	}
	return best
}

// worth is the share of the block that laterals square to a line reach, less what lies badly: laterals that would
// run downhill from it or cannot be flushed, and a collector that falls away from its outlet.
func worth(rings [][]XY, line []XY, z func(XY) float64, spacing float64) float64 {
	l := Layout{Collector: line, SpacingM: math.Max(8, spacing), AngleDeg: 90}
	mains := l.mains()
	laterals := l.lay(rings, mains, z)
	_, _, reached, _ := l.Reach(rings, mains, laterals, l.SpacingM/2, l.SpacingM/2)
	bad, total := 0.0, 1.0
	for _, d := range laterals {
		total += d.LengthM
		if sag(d.Points, z) > mostSagM {
			bad += d.LengthM
		} else {
			bad += 2 * math.Max(0, d.LengthM-0.8*mostLateralM)
		}
	}
	v := reached/Area(rings) - bad/total
	if s := sag(line, z); s > 0.25 {
		v -= math.Min(0.6, 0.3+s)
	}
	return v
}

// mostSagM is how far the ground may fall back along a pipe before its cover is spent.
const mostSagM = 0.3

// sag is how far the ground along a line, from its lower end, falls back below where it has been: a pipe that must
// rise loses so much of its cover.
func sag(line []XY, z func(XY) float64) float64 {
	top, worst := math.Inf(-1), 0.0
	long := Length(line)
	n := math.Max(4, math.Ceil(long/15))
	for k := 0.0; k <= n; k++ {
		p, _ := At(line, long*k/n)
		top = math.Max(top, z(p))
		worst = math.Max(worst, top-z(p))
	}
	return worst
}

// sides are the stretches of the ring between corners that turn by more than 40°, 2 m inside it.
func sides(ring []XY) [][]XY {
	n := len(ring)
	corner := func(i int) bool {
		u, v := unit(sub(ring[i], ring[(i+n-1)%n])), unit(sub(ring[(i+1)%n], ring[i]))
		return u[0]*v[0]+u[1]*v[1] < math.Cos(40*math.Pi/180)
	}
	start := -1
	for i := range ring {
		if corner(i) {
			start = i
			break
		}
	}
	if start < 0 {
		return nil
	}
	var out [][]XY
	line := []XY{inset(ring, start, 2)}
	for k := 1; k <= n; k++ {
		i := (start + k) % n
		line = append(line, inset(ring, i, 2))
		if corner(i) {
			out = append(out, line)
			line = []XY{inset(ring, i, 2)}
		}
	}
	return out
}

// lowSide follows the boundary, 2 m inside it, both ways from the lowest point until it turns away.
func lowSide(ring []XY, z func(XY) float64) []XY {
	low := lowest(ring, func(x, y float64) float64 { return z(XY{x, y}) })
	at := func(i int) int { return (i%len(ring) + len(ring)) % len(ring) }
	walk := func(way int) []XY {
		var out []XY
		var first XY
		for k := 1; k < len(ring); k++ {
			u := unit(sub(ring[at(low+way*k)], ring[at(low+way*(k-1))]))
			if k == 1 {
				first = u
			} else if first[0]*u[0]+first[1]*u[1] < math.Cos(50*math.Pi/180) {
				break
			}
			out = append(out, inset(ring, at(low+way*k), 2))
		}
		return out
	}
	var whole []XY
	for i, back := 0, walk(-1); i < len(back); i++ {
		whole = append(whole, back[len(back)-1-i])
	}
	return append(append(whole, inset(ring, low, 2)), walk(1)...)
}

// straightened leaves out the points of a line that lie within half a metre of the line without them.
func straightened(line []XY) []XY { return straightenedTo(line, 0.5) }

func straightenedTo(line []XY, most float64) []XY {
	if len(line) < 3 {
		return line
	}
	far, at := most, 0
	for i := 1; i < len(line)-1; i++ {
		if d, _, _ := nearest(line[i], line[0], line[len(line)-1]); d > far {
			far, at = d, i
		}
	}
	if at == 0 {
		return []XY{line[0], line[len(line)-1]}
	}
	return append(straightenedTo(line[:at+1], most), straightenedTo(line[at:], most)[1:]...)
}

// acrossFall is how much a line across the slope falls to its outlet (method DRN-13: 0.2 to 0.5 %).
const acrossFall = 0.003

// contour is a line across the slope in the upper part of the block, where it is wide: along the contour, falling as
// much as it has to; its lower end first.
func contour(rings [][]XY, ground func(x, y float64) float64, falls float64) []XY {
	ring := distinct(rings[0])
	up := XY{-math.Sin(falls * math.Pi / 180), -math.Cos(falls * math.Pi / 180)}
	side := XY{-up[1], up[0]}
	straight := widest(rings, ring, up)
	if straight == nil {
		return nil
	}
	bottom, top := span(ring, up)
	stays := func(p, u XY) bool { // in the upper half, and with 2 m of the block around it
		return p[0]*up[0]+p[1]*up[1] > (bottom+top)/2 && clear2m(p, u, rings)
	}
	var best []XY
	for k := 1.0; k <= 5; k++ { // down to a third of the way
		l := chord(rings, up, side, top-(top-bottom)*k/15)
		if l == nil {
			continue
		}
		middle := along(l[0], unit(sub(l[1], l[0])), dist(l[0], l[1])/2)
		for _, way := range []float64{1, -1} {
			if line := acrossFrom(middle, XY{way * side[0], way * side[1]}, ground, stays); Length(line) > 1.1*Length(best) {
				best = line
			}
		}
	}
	if Length(best) > dist(straight[0], straight[1])/2 {
		return straightenedTo(best, 0.75)
	}
	// the ground gives no such line: straight across, to be bent by hand
	u := unit(sub(straight[1], straight[0]))
	a, b := along(straight[0], u, 2), along(straight[1], u, -2)
	if ground(b[0], b[1]) < ground(a[0], a[1]) {
		a, b = b, a
	}
	return []XY{a, b}
}

// upslopeM is how far above the wet line an interceptor lies (method DRN-13: 1 to 3 m).
const upslopeM = 2

// above is a line along the contour just upslope of the wet part and a little longer than it is wide, its lower end
// first; nil where the block or the ground leaves no room for one.
func above(rings [][]XY, ground func(x, y float64) float64, wet Wet) []XY {
	gx, gy := ground(wet.At[0]+5, wet.At[1])-ground(wet.At[0]-5, wet.At[1]), ground(wet.At[0], wet.At[1]+5)-ground(wet.At[0], wet.At[1]-5)
	if !(math.Hypot(gx, gy) > 0.02) { // 0.2 %
		return nil
	}
	up := unit(XY{gx, gy})
	var from XY
	for d := wet.RadiusM + upslopeM; ; d -= 3 {
		if d < 3 {
			return nil
		}
		if from = along(wet.At, up, d); clear2m(from, up, rings) {
			break
		}
	}
	half := wet.RadiusM * 1.15
	stays := func(p, u XY) bool { return dist(p, from) <= half && clear2m(p, u, rings) }
	var best []XY
	for _, d := range []XY{{-up[1], up[0]}, {up[1], -up[0]}} {
		if line := acrossFrom(from, d, ground, stays); Length(line) > 1.1*Length(best) {
			best = line
		}
	}
	if Length(best) < math.Max(15, half/2) {
		return nil
	}
	return straightenedTo(best, 0.75)
}

// acrossFrom is a graded line through a point, falling in the direction d, its lower end first.
func acrossFrom(from, d XY, ground func(x, y float64) float64, stays func(p, u XY) bool) []XY {
	low, high := graded(from, d, -acrossFall, ground, stays), graded(from, XY{-d[0], -d[1]}, acrossFall, ground, stays)
	var line []XY
	for i := len(low) - 1; i > 0; i-- {
		line = append(line, low[i])
	}
	return append(line, high...)
}

// graded goes from a point along the ground so that it rises by fall for each metre, as nearly in the direction d as
// that lets it, until it no longer stays where it should or the ground is too broken.
func graded(p, d XY, fall float64, ground func(x, y float64) float64, stays func(p, u XY) bool) []XY {
	const step = 5.0
	line := []XY{p}
	z := ground(p[0], p[1])
	for range 400 {
		z += fall * step
		best, bend, off, to, turned := math.Inf(1), 0.0, 0.0, XY{}, XY{}
		try := func(deg float64) {
			c, s := math.Cos(deg*math.Pi/180), math.Sin(deg*math.Pi/180)
			u := XY{d[0]*c - d[1]*s, d[0]*s + d[1]*c}
			q := along(p, u, step)
			err := math.Abs(ground(q[0], q[1]) - z)
			if v := err + 0.0005*math.Abs(deg); v < best {
				best, bend, off, to, turned = v, deg, err, q, u
			}
		}
		for deg := -60.0; deg <= 60; deg += 10 {
			try(deg)
		}
		for deg, about := -8.0, bend; deg <= 8; deg += 2 {
			try(about + deg)
		}
		if off > 0.15 || !stays(to, turned) {
			return line
		}
		line, p, d = append(line, to), to, turned
		if len(line) > 8 && dist(to, line[0]) < 2*step {
			return line // round a hilltop
		}
	}
	return line
}

// clear2m reports that a point and the ground 2 m before and beside it lie in the block.
func clear2m(p, u XY, rings [][]XY) bool {
	n := XY{-u[1], u[0]}
	return within(along(p, u, 2), rings) && within(along(p, n, 2), rings) && within(along(p, n, -2), rings)
}

// span is how far a ring reaches along a direction.
func span(ring []XY, d XY) (least, most float64) {
	least, most = math.Inf(1), math.Inf(-1)
	for _, p := range ring {
		v := p[0]*d[0] + p[1]*d[1]
		least, most = math.Min(least, v), math.Max(most, v)
	}
	return least, most
}

// widest is the line square to up in the upper quarter of the block that is longest, higher ones before those hardly
// longer; nil where none is 15 m long.
func widest(rings [][]XY, ring []XY, up XY) []XY {
	side := XY{-up[1], up[0]}
	bottom, top := span(ring, up)
	var best []XY
	most := 0.0
	for k := 1; k <= 15; k++ { // down to a quarter of the way
		c := top - (top-bottom)*float64(k)/60
		if l := chord(rings, up, side, c); l != nil && dist(l[0], l[1]) > most*1.15 {
			best, most = l, dist(l[0], l[1])
		}
	}
	if most < 15 {
		return nil
	}
	return best
}

// chord is the longest piece of the line up·p = c inside the block.
func chord(rings [][]XY, up, side XY, c float64) []XY {
	var cuts []float64
	for _, r := range rings {
		for i, j := 0, len(r)-1; i < len(r); j, i = i, i+1 {
			a, b := r[j][0]*up[0]+r[j][1]*up[1]-c, r[i][0]*up[0]+r[i][1]*up[1]-c
			if (a > 0) != (b > 0) {
				q := along(r[j], sub(r[i], r[j]), a/(a-b))
				cuts = append(cuts, q[0]*side[0]+q[1]*side[1])
			}
		}
	}
	sort.Float64s(cuts)
	var best []XY
	for i := 0; i+1 < len(cuts); i += 2 {
		if best == nil || cuts[i+1]-cuts[i] > dist(best[0], best[1]) {
			p := XY{up[0] * c, up[1] * c}
			best = []XY{along(p, side, cuts[i]), along(p, side, cuts[i+1])}
		}
	}
	return best
}
