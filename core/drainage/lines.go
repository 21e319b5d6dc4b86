package drainage

import (
	"math"
	"sort"
)

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
