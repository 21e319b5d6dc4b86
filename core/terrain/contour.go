package terrain

import "math"

// Line is one contour: its height and points on the plane.
type Line struct {
	Z      float64      `json:"z"`
	Points [][2]float64 `json:"points"`
	Closed bool         `json:"closed"`
}

// Interval proposes a contour interval in m for a range of heights: about eight lines, a round number.
func Interval(rangeM float64) float64 {
	for _, v := range []float64{0.1, 0.2, 0.25, 0.5, 1, 2, 2.5, 5, 10, 20, 25, 50, 100} {
		if rangeM/v <= 10 {
			return v
		}
	}
	return 200
}

// Contours are the lines of equal height at every multiple of interval (marching squares, saddles
// settled by the mean of the four corners).
func (s *Surface) Contours(interval float64) []Line {
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, z := range s.Z {
		if !math.IsNaN(z) {
			lo, hi = math.Min(lo, z), math.Max(hi, z)
		}
	}
	if !(interval > 0) || math.IsInf(lo, 0) {
		return []Line{}
	}
	first, last := int(math.Ceil(lo/interval)), int(math.Floor(hi/interval))
	if last-first > 2000 {
		return []Line{}
	}
	t := tracer{s: s, next: map[int32][2]int32{}}
	levels := make([][]int32, max(0, last-first+1))
	// cells are sorted to the levels that cross them once, so that a fine interval costs no more passes
	for j := 0; j+1 < s.NY; j++ {
		for i := 0; i+1 < s.NX; i++ {
			a, b, c, d := s.Z[j*s.NX+i], s.Z[j*s.NX+i+1], s.Z[(j+1)*s.NX+i], s.Z[(j+1)*s.NX+i+1]
			zl, zh := math.Min(math.Min(a, b), math.Min(c, d)), math.Max(math.Max(a, b), math.Max(c, d))
			if math.IsNaN(zl) || math.IsNaN(zh) {
				continue
			}
			for k := int(math.Ceil(zl / interval)); k <= int(math.Floor(zh/interval)); k++ {
				levels[k-first] = append(levels[k-first], int32(j*s.NX+i))
			}
		}
	}
	out := []Line{}
	for k, cells := range levels {
		out = append(out, t.trace(float64(first+k)*interval, cells)...)
	}
	return out
}

// tracer joins the pieces of one level. An edge of the grid has an id: 2·cell for the edge to the east
// of a node, 2·cell + 1 for the edge to the north.
type tracer struct {
	s    *Surface
	next map[int32][2]int32
}

const none = int32(-1)

func (t *tracer) trace(z float64, cells []int32) []Line {
	s := t.s
	clear(t.next)
	up := func(k int32) bool { return s.Z[k] >= z }
	for _, k := range cells {
		n := int32(s.NX)
		south, west, north, east := 2*k, 2*k+1, 2*(k+n), 2*(k+1)+1
		index := 0
		for b, q := range []int32{k, k + 1, k + n + 1, k + n} {
			if up(q) {
				index |= 1 << b
			}
		}
		switch index {
		case 1, 14:
			t.join(west, south)
		case 2, 13:
			t.join(south, east)
		case 3, 12:
			t.join(west, east)
		case 4, 11:
			t.join(east, north)
		case 6, 9:
			t.join(south, north)
		case 7, 8:
			t.join(west, north)
		case 5, 10:
			middle := (s.Z[k]+s.Z[k+1]+s.Z[k+n]+s.Z[k+n+1])/4 >= z
			if middle == (index == 5) {
				t.join(west, north)
				t.join(south, east)
			} else {
				t.join(west, south)
				t.join(east, north)
			}
		}
	}
	var out []Line
	walk := func(start int32) Line {
		l := Line{Z: z}
		from, at := none, start
		for at != none {
			l.Points = append(l.Points, t.point(at, z))
			two := t.next[at]
			delete(t.next, at)
			to := two[0]
			if to == from || to == none {
				to = two[1]
			}
			if to == from {
				to = none
			}
			if _, open := t.next[to]; !open {
				l.Closed = to == start && len(l.Points) > 2
				break
			}
			from, at = at, to
		}
		return l
	}
	// open lines first, from an end; then the rings
	for _, k := range cells {
		for _, e := range [4]int32{2 * k, 2*k + 1, 2 * (k + int32(s.NX)), 2*(k+1) + 1} {
			if two, ok := t.next[e]; ok && two[1] == none {
				out = append(out, walk(e))
			}
		}
	}
	for _, k := range cells {
		for _, e := range [2]int32{2 * k, 2*k + 1} {
			if _, ok := t.next[e]; ok {
				out = append(out, walk(e))
			}
		}
	}
	return out
}

func (t *tracer) join(a, b int32) {
	for _, p := range [2][2]int32{{a, b}, {b, a}} {
		two, ok := t.next[p[0]]
		switch {
		case !ok:
			two = [2]int32{p[1], none}
		case two[1] == none:
			two[1] = p[1]
		}
		t.next[p[0]] = two
	}
}

func (t *tracer) point(edge int32, z float64) [2]float64 {
	s := t.s
	k := edge / 2
	i, j := int(k)%s.NX, int(k)/s.NX
	a := s.Z[k]
	b := s.Z[k+1]
	if edge%2 == 1 {
		b = s.Z[int(k)+s.NX]
	}
	f := 0.5
	if b != a {
		f = math.Max(0, math.Min(1, (z-a)/(b-a)))
	}
	x, y := s.X0+float64(i)*s.Cell, s.Y0+float64(j)*s.Cell
	if edge%2 == 1 {
		return [2]float64{x, y + f*s.Cell}
	}
	return [2]float64{x + f*s.Cell, y}
}
