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
	ring := distinct(rings[0])
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
		far, _, ok := cast(out, u, rings)
		if !ok || far < 20 {
			return nil
		}
		head := along(out, u, far-math.Min(spacing/2, far/4))
		if v, ok := valley(along(out, u, far/2), u, rings, ground); ok {
			return []XY{out, v, head}
		}
		return []XY{out, head}
	}
	return lowSide(ring, ground)
}

// Runs is the way the laterals of a gridiron run from their collector: square to the line from its outlet to
// its head, towards the middle of the block.
func Runs(line []XY, rings [][]XY) XY {
	a, b := line[0], line[len(line)-1]
	if dist(a, b) < 0.01 {
		return XY{}
	}
	u := unit(sub(b, a))
	m := centre(distinct(rings[0]))
	if u[0]*(m[1]-a[1])-u[1]*(m[0]-a[0]) > 0 {
		return XY{-u[1], u[0]}
	}
	return XY{u[1], -u[0]}
}

// distinct is a ring without its closing point.
func distinct(r []XY) []XY {
	if n := len(r); n > 1 && dist(r[0], r[n-1]) < 1e-6 {
		return r[:n-1]
	}
	return r
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

// lowSide follows the boundary, 2 m inside it, from its lowest corner along the side that rises less, until it
// turns away.
func lowSide(ring []XY, ground func(x, y float64) float64) []XY {
	low := lowest(ring, ground)
	var best []XY
	rise := math.Inf(1)
	for _, way := range []int{1, -1} {
		line := []XY{inset(ring, low, 2)}
		var first XY
		for k := 1; k < len(ring); k++ {
			i := ((low+way*k)%len(ring) + len(ring)) % len(ring)
			a := ring[((low+way*(k-1))%len(ring)+len(ring))%len(ring)]
			u := unit(sub(ring[i], a))
			if k == 1 {
				first = u
			} else if first[0]*u[0]+first[1]*u[1] < math.Cos(50*math.Pi/180) {
				break
			}
			line = append(line, inset(ring, i, 2))
		}
		a, b := line[0], line[len(line)-1]
		if g := (ground(b[0], b[1]) - ground(a[0], a[1])) / math.Max(1, Length(line)); g < rise && Length(line) > 20 {
			rise, best = g, line
		}
	}
	return best
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
