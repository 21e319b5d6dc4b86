package drainage

import (
	"math"
	"sort"
)

// Missed is a piece of the block that no drain reaches: its middle, its area, and the strips that make it,
// each from a west end to an east end at a northing; all are StripM high.
type Missed struct {
	X      float64      `json:"x"`
	Y      float64      `json:"y"`
	AreaM2 float64      `json:"areaM2"`
	Strips [][3]float64 `json:"strips"` // x from, x to, y of the middle
	StripM float64      `json:"stripM"`
}

// Reach shares the block out: every cell goes to its nearest drain within half a spacing; the rest is
// missed. byMain is what the collector and each branch take in themselves. A lateral reaches ext beyond its upper
// end. cell is the grid's step; 0 takes an eighth of the spacing, at least 1 m.
func (l Layout) Reach(rings [][]XY, mains []Main, laterals []Drain, ext, cell float64) (byLateral, byMain []float64, reached float64, missed []Missed) {
	if cell == 0 {
		cell = math.Max(1, l.SpacingM/8)
	}
	lo, hi := rings[0][0], rings[0][0]
	for _, p := range rings[0] {
		lo = XY{math.Min(lo[0], p[0]), math.Min(lo[1], p[1])}
		hi = XY{math.Max(hi[0], p[0]), math.Max(hi[1], p[1])}
	}
	nx, ny := int((hi[0]-lo[0])/cell)+1, int((hi[1]-lo[1])/cell)+1
	half := l.SpacingM/2 + 1e-6
	var segs []seg
	add := func(a, b XY, of int) {
		segs = append(segs, seg{a, b, of, [4]float64{math.Min(a[0], b[0]) - half, math.Min(a[1], b[1]) - half, math.Max(a[0], b[0]) + half, math.Max(a[1], b[1]) +
			half}})
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
	for i, m := range mains {
		line := upTo(m.Points, lastJoint(mains, i, laterals))
		for k := 1; k < len(line); k++ {
			add(line[k-1], line[k], len(laterals)+i)
		}
	}
	squares, sx := binned(segs, lo, nx, ny, cell, half)
	share := make([]float64, len(laterals)+len(mains))
	state := make([]int8, nx*ny) // 1 reached, 2 missed
	total := 0.0
	var edges []float64
	for j := range ny {
		y := lo[1] + (float64(j)+0.5)*cell
		edges = crossings(edges[:0], y, rings)
		left := 0 // edges west of the cell
		for i := range nx {
			p := XY{lo[0] + (float64(i)+0.5)*cell, y}
			for left < len(edges) && edges[left] <= p[0] {
				left++
			}
			if (len(edges)-left)%2 == 0 {
				continue // outside the block
			}
			total++
			best, of := half*half, -1
			for _, k := range squares[j/wide*sx+i/wide] {
				s := &segs[k]
				if p[0] < s.box[0] || p[0] > s.box[2] || p[1] < s.box[1] || p[1] > s.box[3] {
					continue
				}
				if d := squared(p, s.a, s.b); d <= best {
					best, of = d, s.of
				}
			}
			if of < 0 {
				state[j*nx+i] = 2
				continue
			}
			share[of]++
			state[j*nx+i] = 1
		}
	}
	k := Area(rings) / math.Max(1, total) // the cells make the block
	for i := range share {
		share[i] *= k
		reached += share[i]
	}
	return share[:len(laterals)], share[len(laterals):], reached, pieces(state, nx, ny, lo, cell, k)
}

// seg is a piece of a drain with the box within which it can reach.
type seg struct {
	a, b XY
	of   int
	box  [4]float64
}

// wide is how many cells a square is wide that segments are sorted into.
const wide = 8

// binned are squares of cells, each with the segments that can reach into it; sx is how many lie side by side.
func binned(segs []seg, lo XY, nx, ny int, cell, half float64) (squares [][]int32, sx int) {
	sx = (nx + wide - 1) / wide
	sy := (ny + wide - 1) / wide
	squares = make([][]int32, sx*sy)
	far := half + cell*wide*math.Sqrt2/2
	for i := range segs {
		s := &segs[i]
		for j := max(0, int((s.box[1]-lo[1])/cell)/wide-1); j <= min(sy-1, int((s.box[3]-lo[1])/cell)/wide+1); j++ {
			for q := max(0, int((s.box[0]-lo[0])/cell)/wide-1); q <= min(sx-1, int((s.box[2]-lo[0])/cell)/wide+1); q++ {
				mid := XY{lo[0] + (float64(q)+0.5)*wide*cell, lo[1] + (float64(j)+0.5)*wide*cell}
				if squared(mid, s.a, s.b) <= far*far {
					squares[j*sx+q] = append(squares[j*sx+q], int32(i))
				}
			}
		}
	}
	return squares, sx
}

// lastJoint is how far up a line its pipe goes: to its last junction, or all the way where nothing joins it.
func lastJoint(mains []Main, of int, laterals []Drain) float64 {
	last := 0.0
	for _, d := range laterals {
		if d.Main == mains[of].ID {
			last = math.Max(last, d.Joins)
		}
	}
	for _, b := range mains[of+1:] {
		if b.parent == of {
			last = math.Max(last, b.Joins)
		}
	}
	if last == 0 {
		return Length(mains[of].Points)
	}
	return last
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
