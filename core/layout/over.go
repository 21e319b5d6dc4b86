package layout

import (
	"math"

	"slowroot/core/geo"
)

// Lattice is a second crop on a lattice of its own over the rows of a first: shade over a crop, nurse trees.
type Lattice struct {
	Spec                      // pattern and spacing; its bearing is that of the rows
	ShiftAlongM, ShiftAcrossM float64
}

// PlaceOver lays a lattice out on the field, every pattern in check-rows, from the same first vertex as the rows below it.
func PlaceOver(f Field, l Lattice) (Placement, error) {
	if err := l.Valid(); err != nil {
		return Placement{}, err
	}
	s := l.Normal()
	sin, cos := math.Sincos(s.BearingDeg * math.Pi / 180)
	a := f.Rings[0][0]
	s.OffsetM = 0
	return place(f, s, true, geo.XY{X: a.X + l.ShiftAlongM*sin + l.ShiftAcrossM*cos, Y: a.Y + l.ShiftAlongM*cos - l.ShiftAcrossM*sin})
}

// cells finds stations by their place.
type cells struct {
	size float64
	in   map[[2]int][]geo.XY
}

func newCells(p Placement, size float64) cells {
	c := cells{size: math.Max(size, 0.05), in: map[[2]int][]geo.XY{}}
	p.Each(func(at geo.XY, _ int, _ byte) {
		k := c.key(at)
		c.in[k] = append(c.in[k], at)
	})
	return c
}

func (c cells) key(p geo.XY) [2]int {
	return [2]int{int(math.Floor(p.X / c.size)), int(math.Floor(p.Y / c.size))}
}

// near reports whether a station lies within m of p; m is at most the size of a cell.
func (c cells) near(p geo.XY, m float64) bool {
	k := c.key(p)
	for i := -1; i <= 1; i++ {
		for j := -1; j <= 1; j++ {
			for _, q := range c.in[[2]int{k[0] + i, k[1] + j}] {
				if math.Hypot(p.X-q.X, p.Y-q.Y) <= m {
					return true
				}
			}
		}
	}
	return false
}

// Each hands over every station in walking order, with the number of its row and its role.
func (p Placement) Each(take func(at geo.XY, row int, role byte)) {
	for _, q := range p.Pieces {
		for i := range q.Stations {
			role := byte(Main)
			if q.Roles != "" {
				role = q.Roles[i]
			}
			take(geo.XY{X: q.FirstX + float64(i)*q.StepX, Y: q.FirstY + float64(i)*q.StepY}, q.Row, role)
		}
	}
}

// Coincident counts the stations of p within m of a station of other: two lattices that share points collide.
func (p Placement) Coincident(other Placement, m float64) int {
	c := newCells(other, m)
	n := 0
	p.Each(func(at geo.XY, _ int, _ byte) {
		if c.near(at, m) {
			n++
		}
	})
	return n
}

// Without is the layout less the stations within m of a station of other. Stations keep their numbers: the place of one that gives way
// stays empty.
func (p Placement) Without(other Placement, m float64) Placement {
	c := newCells(other, m)
	var out Placement
	for _, q := range p.Pieces {
		free := func(i int) bool {
			return !c.near(geo.XY{X: q.FirstX + float64(i)*q.StepX, Y: q.FirstY + float64(i)*q.StepY}, m)
		}
		first := true
		for i := 0; i < q.Stations; i++ {
			if !free(i) {
				continue
			}
			k := i
			for k+1 < q.Stations && free(k+1) {
				k++
			}
			r := q
			r.FirstX, r.FirstY = q.FirstX+float64(i)*q.StepX, q.FirstY+float64(i)*q.StepY
			r.Station1, r.Stations = q.Station1+i, k-i+1
			if q.Roles != "" {
				r.Roles = q.Roles[i : k+1]
			}
			if r.LengthM = 0; first {
				r.LengthM = q.LengthM // the row is as long as it was
			}
			first = false
			out.add(r)
			i = k
		}
	}
	return out
}
