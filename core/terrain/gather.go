package terrain

import (
	"container/heap"
	"math"
	"sort"
)

// Filled is the surface with its hollows filled to where they spill (priority flood: Barnes, Lehman &
// Mulla, Computers & Geosciences 62, 2014), and for each cell the neighbour its water leaves by.
type Filled struct {
	*Surface
	Level []float64 // height water stands at or runs over
	To    []int32   // cell it runs to, −1 off the grid
	order []int32   // cells from the rim inwards
}

type front []cell
type cell struct {
	z float64
	k int32
}

func (f front) Len() int           { return len(f) }
func (f front) Less(i, j int) bool { return f[i].z < f[j].z || f[i].z == f[j].z && f[i].k < f[j].k }
func (f front) Swap(i, j int)      { f[i], f[j] = f[j], f[i] }
func (f *front) Push(x any)        { *f = append(*f, x.(cell)) }
func (f *front) Pop() any {
	old := *f
	x := old[len(old)-1]
	*f = old[:len(old)-1]
	return x
}

var around = [8][2]int{{-1, -1}, {0, -1}, {1, -1}, {-1, 0}, {1, 0}, {-1, 1}, {0, 1}, {1, 1}}

// Fill floods the surface from its rim.
func (s *Surface) Fill() *Filled {
	f := &Filled{Surface: s, Level: make([]float64, len(s.Z)), To: make([]int32, len(s.Z))}
	seen := make([]bool, len(s.Z))
	var q front
	add := func(k int, level float64, to int32) {
		seen[k], f.Level[k], f.To[k] = true, level, to
		heap.Push(&q, cell{level, int32(k)})
	}
	for j := 0; j < s.NY; j++ {
		for i := 0; i < s.NX; i++ {
			k := j*s.NX + i
			if math.IsNaN(s.Z[k]) {
				seen[k], f.To[k], f.Level[k] = true, -1, math.NaN()
				continue
			}
			rim := i == 0 || j == 0 || i == s.NX-1 || j == s.NY-1
			for _, d := range around {
				rim = rim || math.IsNaN(s.At(i+d[0], j+d[1]))
			}
			if rim {
				add(k, s.Z[k], -1)
			}
		}
	}
	for q.Len() > 0 {
		c := heap.Pop(&q).(cell)
		f.order = append(f.order, c.k)
		i, j := int(c.k)%s.NX, int(c.k)/s.NX
		for _, d := range around {
			a, b := i+d[0], j+d[1]
			if a < 0 || b < 0 || a >= s.NX || b >= s.NY {
				continue
			}
			if k := b*s.NX + a; !seen[k] {
				add(k, math.Max(c.z, s.Z[k]), c.k)
			}
		}
	}
	return f
}

// Depth is how far below its spill a cell lies, m.
func (f *Filled) Depth(k int) float64 { return f.Level[k] - f.Z[k] }

// Gathering is the ground, in m², whose water passes each cell.
func (f *Filled) Gathering() []float64 {
	out := make([]float64, len(f.Z))
	for n := len(f.order) - 1; n >= 0; n-- {
		k := f.order[n]
		out[k] += f.Cell * f.Cell
		if f.To[k] >= 0 {
			out[f.To[k]] += out[k]
		}
	}
	return out
}

// Hollow is a place water stands: where, how deep and how large.
type Hollow struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	DepthM float64 `json:"depthM"`
	AreaM2 float64 `json:"areaM2"`
}

// Hollows are the closed hollows at least least metres deep inside in, deepest first.
func (f *Filled) Hollows(least float64, in func(x, y float64) bool) []Hollow {
	out := []Hollow{}
	seen := make([]bool, len(f.Z))
	for k := range f.Z {
		if seen[k] || !(f.Depth(k) > 1e-9) {
			continue
		}
		h := Hollow{}
		stack := []int{k}
		seen[k] = true
		for len(stack) > 0 {
			c := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			h.AreaM2 += f.Cell * f.Cell
			i, j := c%f.NX, c/f.NX
			if d := f.Depth(c); d > h.DepthM {
				h.DepthM, h.X, h.Y = d, f.X0+float64(i)*f.Cell, f.Y0+float64(j)*f.Cell
			}
			for _, d := range around {
				a, b := i+d[0], j+d[1]
				if a < 0 || b < 0 || a >= f.NX || b >= f.NY {
					continue
				}
				if q := b*f.NX + a; !seen[q] && f.Depth(q) > 1e-9 {
					seen[q] = true
					stack = append(stack, q)
				}
			}
		}
		if h.DepthM >= least && in(h.X, h.Y) {
			out = append(out, h)
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].DepthM > out[j].DepthM })
	return out
}
