package drainage

import (
	"math"
	"sort"
)

// Suggest is a first line for the collector of a pattern on a block with known heights, the outlet first.
// wet is where the wet spot of a local drain lies, nil the middle; falls the compass direction the block falls
// towards, degrees. It is a start to be dragged, not a
// design: nothing here asks for cover or fall. Patterns are the ids of remedies; nil means that none fits.
func Suggest(pattern string, rings [][]XY, ground func(x, y float64) float64, spacing, falls float64, wet *XY) []XY {
	ring := dense(distinct(rings[0]), 15)
	middle := centre(ring)
	low := lowest(ring, ground)
	switch pattern {
	case "interceptor":
		return contour(rings, ground, falls)
	case "local":
		if wet == nil {
			wet = &middle
		}
		if out := inset(ring, low, 1); dist(out, *wet) >= 5 {
			return []XY{out, *wet}
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

// valley is the lowest point near the middle of the line across at p, where it lies clearly below p.
func valley(p, u XY, rings [][]XY, ground func(x, y float64) float64) (XY, bool) {
	n := XY{-u[1], u[0]}
	best, at := ground(p[0], p[1])-0.15, XY{}
	found := false
	for _, sign := range []float64{1, -1} {
		far, _, ok := cast(p, XY{sign * n[0], sign * n[1]}, rings)
		for t := 5.0; ok && t < far*0.5; t += 5 {
			q := along(p, n, sign*t)
			if z := ground(q[0], q[1]); z < best {
				best, at, found = z, q, true
			}
		}
	}
	return at, found
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
func straightened(line []XY) []XY {
	if len(line) < 3 {
		return line
	}
	far, at := 0.5, 0
	for i := 1; i < len(line)-1; i++ {
		if d, _, _ := nearest(line[i], line[0], line[len(line)-1]); d > far {
			far, at = d, i
		}
	}
	if at == 0 {
		return []XY{line[0], line[len(line)-1]}
	}
	return append(straightened(line[:at+1]), straightened(line[at:])[1:]...)
}

// contour is a line across the slope in the upper quarter of the block, where it is wide, its lower end first.
func contour(rings [][]XY, ground func(x, y float64) float64, falls float64) []XY {
	ring := distinct(rings[0])
	up := XY{-math.Sin(falls * math.Pi / 180), -math.Cos(falls * math.Pi / 180)}
	side := XY{-up[1], up[0]}
	top, bottom := math.Inf(-1), math.Inf(1)
	for _, p := range ring {
		v := p[0]*up[0] + p[1]*up[1]
		top, bottom = math.Max(top, v), math.Min(bottom, v)
	}
	var best []XY
	widest := 0.0
	for k := 1; k <= 15; k++ { // down to a quarter of the way
		c := top - (top-bottom)*float64(k)/60
		if l := chord(rings, up, side, c); l != nil && dist(l[0], l[1]) > widest*1.15 {
			best, widest = l, dist(l[0], l[1])
		}
	}
	if best == nil || widest < 15 {
		return nil
	}
	u := unit(sub(best[1], best[0]))
	a, b := along(best[0], u, 2), along(best[1], u, -2)
	if ground(b[0], b[1]) < ground(a[0], a[1]) {
		a, b = b, a
	}
	return []XY{a, b}
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
