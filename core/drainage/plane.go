package drainage

import (
	"math"
	"slices"
)

// XY is a point of the block's plane, metres east and north.
type XY = [2]float64

func sub(a, b XY) XY { return XY{a[0] - b[0], a[1] - b[1]} }

func dist(a, b XY) float64 { return math.Hypot(a[0]-b[0], a[1]-b[1]) }

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
		if d > 0 && (s <= d || i == len(l)-1) {
			u := unit(sub(l[i], l[i-1]))
			return along(l[i-1], u, math.Min(s, d)), u
		}
		s -= d
	}
	return l[len(l)-1], XY{0, 1}
}

// upTo is a line as far as a chainage.
func upTo(l []XY, s float64) []XY {
	out := l[:1:1]
	for k := 1; k < len(l); k++ {
		d := dist(l[k-1], l[k])
		if d >= s {
			if s > 0 {
				out = append(out, along(l[k-1], unit(sub(l[k], l[k-1])), s))
			}
			break
		}
		out = append(out, l[k])
		s -= d
	}
	return out
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

// crossings adds to xs where a line of latitude y crosses the rings, from west to east: between the first and the second
// lies the block, between the second and the third does not.
func crossings(xs []float64, y float64, rings [][]XY) []float64 {
	for _, ring := range rings {
		for i, j := 0, len(ring)-1; i < len(ring); j, i = i, i+1 {
			if a, b := ring[i], ring[j]; (a[1] > y) != (b[1] > y) {
				xs = append(xs, (b[0]-a[0])*(y-a[1])/(b[1]-a[1])+a[0])
			}
		}
	}
	slices.Sort(xs)
	return xs
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

// squared is the square of the distance from p to a segment, where only which is nearer counts.
func squared(p, a, b XY) float64 {
	ex, ey, px, py := b[0]-a[0], b[1]-a[1], p[0]-a[0], p[1]-a[1]
	if n := ex*ex + ey*ey; n > 0 {
		f := (px*ex + py*ey) / n
		if f > 1 {
			f = 1
		}
		if f > 0 {
			px, py = px-f*ex, py-f*ey
		}
	}
	return px*px + py*py
}

// meets is how far along a ray from p it meets a line again, half a metre on or more.
func meets(p, d XY, line []XY, beyond float64) (float64, bool) {
	best, hit := math.Inf(1), false
	for k := 1; k < len(line); k++ {
		e := sub(line[k], line[k-1])
		det := d[0]*e[1] - d[1]*e[0]
		if math.Abs(det) < 1e-12 {
			continue
		}
		w := sub(line[k-1], p)
		t, u := (w[0]*e[1]-w[1]*e[0])/det, (w[0]*d[1]-w[1]*d[0])/det
		if t > beyond && u >= 0 && u <= 1 && t < best {
			best, hit = t, true
		}
	}
	return best, hit
}

// cross is where two segments cross, their ends left out.
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
