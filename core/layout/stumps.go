package layout

import (
	"math"
	"slices"

	"slowroot/core/geo"
)

// Stump is a stump in a row whose sprout is kept: AtM along the row from its first station, m.
type Stump struct {
	Row int
	AtM float64
}

// station is one place of a row while stumps are put into it.
type station struct {
	at    geo.XY
	along float64 // from the first station of the row
	role  byte
	piece int // it comes from
}

// WithStumps is the layout with the sprouts of stumps as stations: each takes the place of those nearer than half a spacing, and is planted by
// nobody. off are the places in the list of stumps that lie on no row, or further beyond its end than a spacing. Rows are numbered along anew.
func (p Placement) WithStumps(list []Stump) (out Placement, off []int) {
	byRow := map[int][]int{}
	for i, s := range list {
		byRow[s.Row] = append(byRow[s.Row], i)
	}
	for i := 0; i < len(p.Pieces); {
		k := i
		for k < len(p.Pieces) && p.Pieces[k].Row == p.Pieces[i].Row {
			k++
		}
		row := p.Pieces[i:k]
		i = k
		here := byRow[row[0].Row]
		if len(here) == 0 {
			for _, q := range row {
				out.add(q)
			}
			continue
		}
		delete(byRow, row[0].Row)
		stations, missed := withStumps(row, list, here)
		off = append(off, missed...)
		for _, q := range joined(row, stations) {
			out.add(q)
		}
	}
	for _, missed := range byRow {
		off = append(off, missed...)
	}
	slices.Sort(off)
	return out, off
}

// withStumps are the stations of a row with its stumps among them.
func withStumps(row []Piece, list []Stump, here []int) (all []station, off []int) {
	last := geo.XY{X: row[0].FirstX, Y: row[0].FirstY}
	along := 0.0
	for k, q := range row {
		for i := range q.Stations {
			at := geo.XY{X: q.FirstX + float64(i)*q.StepX, Y: q.FirstY + float64(i)*q.StepY}
			along += math.Hypot(at.X-last.X, at.Y-last.Y)
			s := station{at: at, along: along, role: Main, piece: k}
			if q.Roles != "" {
				s.role = q.Roles[i]
			}
			all, last = append(all, s), at
		}
	}
	step := math.Hypot(row[0].StepX, row[0].StepY)
	for _, i := range here {
		m := list[i].AtM
		if !(step > 0) || !(m >= -step && m <= along+step) {
			off = append(off, i)
			continue
		}
		// from the station before it, in the direction of the next
		k, _ := slices.BinarySearchFunc(all, m, func(s station, m float64) int { return int(math.Copysign(1, s.along-m-1e-9)) })
		from := all[max(0, k-1)]
		q := row[from.piece]
		ex, ey := q.StepX/step, q.StepY/step
		if k > 0 && k < len(all) {
			if d := all[k].along - from.along; d > 1e-9 {
				ex, ey = (all[k].at.X-from.at.X)/d, (all[k].at.Y-from.at.Y)/d
			}
		}
		d := m - from.along
		kept := station{at: geo.XY{X: from.at.X + d*ex, Y: from.at.Y + d*ey}, along: m, role: SproutRole, piece: from.piece}
		all = slices.DeleteFunc(all, func(s station) bool { return s.role != SproutRole && math.Abs(s.along-m) < step/2-1e-9 })
		k, _ = slices.BinarySearchFunc(all, m, func(s station, m float64) int { return int(math.Copysign(1, s.along-m-1e-9)) })
		all = slices.Insert(all, k, kept)
	}
	return all, off
}

// joined are stations put together again to even pieces, each piece of the row as long as it was.
func joined(row []Piece, all []station) []Piece {
	var out []Piece
	long := map[int]bool{}
	for i := 0; i < len(all); {
		q := row[all[i].piece]
		step := math.Hypot(q.StepX, q.StepY)
		k := i + 1
		if all[i].role != SproutRole {
			for k < len(all) && all[k].role != SproutRole && all[k].piece == all[i].piece && math.Abs(all[k].along-all[k-1].along-step) < 1e-6 {
				k++
			}
		}
		b := make([]byte, 0, k-i)
		for _, s := range all[i:k] {
			b = append(b, s.role)
		}
		q.FirstX, q.FirstY, q.Stations, q.Station1, q.Roles = all[i].at.X, all[i].at.Y, k-i, i+1, string(b)
		if slices.IndexFunc(b, func(c byte) bool { return c != Main }) < 0 {
			q.Roles = ""
		}
		if long[all[i].piece] {
			q.LengthM = 0
		}
		long[all[i].piece] = true
		out = append(out, q)
		i = k
	}
	return out
}
