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
	return lowSide(ring, ground)
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

// lowSide follows the boundary, 2 m inside it, along the low side: both ways from the lowest point until it
// turns away, with the outlet at the lower end where the ground there is hardly higher than the lowest; else
// from the lowest point along the side that rises less.
func lowSide(ring []XY, ground func(x, y float64) float64) []XY {
	low := lowest(ring, ground)
	at := func(i int) int { return (i%len(ring) + len(ring)) % len(ring) }
	z := func(p XY) float64 { return ground(p[0], p[1]) }
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
	start := inset(ring, low, 2)
	on, back := walk(1), walk(-1)
	whole := []XY{}
	for i := len(back) - 1; i >= 0; i-- {
		whole = append(whole, back[i])
	}
	whole = append(append(whole, start), on...)
	if z(whole[len(whole)-1]) < z(whole[0]) {
		for i, j := 0, len(whole)-1; i < j; i, j = i+1, j-1 {
			whole[i], whole[j] = whole[j], whole[i]
		}
	}
	if len(on) > 0 && len(back) > 0 {
		u, v := unit(sub(on[0], start)), unit(sub(start, back[0]))
		if u[0]*v[0]+u[1]*v[1] > math.Cos(50*math.Pi/180) && z(whole[0])-z(start) < 0.25 {
			return straightened(whole)
		}
	}
	var best []XY
	rise := math.Inf(1)
	for _, side := range [][]XY{on, back} {
		line := append([]XY{start}, side...)
		if l := Length(line); l > 20 && (z(line[len(line)-1])-z(start))/l < rise {
			rise, best = (z(line[len(line)-1])-z(start))/l, line
		}
	}
	return straightened(best)
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
