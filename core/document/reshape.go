package document

import (
	"math"

	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/soil"
)

// Within is what of a block lies on a part of its ground: pits and obstacles with a place go where they lie, rows as
// planted keep their numbers on the part they stand on; what has no place stays with both. Drains drawn across the cut are drawn no
// more: cut reports it.
func (b Block) Within(part geo.Polygon) (out Block, cut bool) {
	in := part.Holds()
	out = b
	out.Boundary = part
	out.Pits, out.Obstacles = nil, nil
	if len(b.Growth) > 0 { // what stands there is told by volume: each part has its share
		share := geo.AreaM2(part) / geo.AreaM2(b.Boundary)
		out.Growth = make(map[string]float64, len(b.Growth))
		for class, m3 := range b.Growth {
			out.Growth[class] = m3 * share
		}
	}
	for _, p := range b.Pits {
		if p.At == nil || in(*p.At) {
			out.Pits = append(out.Pits, p)
		}
	}
	out.Tests = append([]soil.Test(nil), b.Tests...)
	for _, o := range b.Obstacles {
		if o.near(part) {
			out.Obstacles = append(out.Obstacles, o)
		}
	}
	if b.Drains != nil {
		d := *b.Drains
		whole := func(list []geo.Point) bool {
			for _, p := range list {
				if !in(p) {
					return false
				}
			}
			return true
		}
		if !whole(d.Collector) || !whole(d.Interceptor) {
			d.Collector, d.Interceptor, d.Branches, d.Laterals, cut = nil, nil, nil, nil, true
		}
		out.Drains = &d
	}
	return out, cut
}

// Within is the stand on a part of its ground: rows and stations keep their numbers, and a row that is cut goes on in both parts.
func (a AsPlanted) Within(part geo.Polygon) *AsPlanted {
	in := part.Holds()
	out := &AsPlanted{Spec: a.Spec, Layout: a.Layout, AreaM2: geo.AreaM2(part), Rows: []Row{}}
	for _, b := range a.Beside {
		stand := StandBeside{ID: b.ID}
		split(b.Rows, in, func(r Row) { stand.Rows = append(stand.Rows, r) })
		out.Beside = append(out.Beside, stand)
	}
	split(a.Rows, in, out.Add)
	return out
}

// split hands over what of some rows stands in a place, in unbroken pieces.
func split(rows []Row, in func(geo.Point) bool, take func(Row)) {
	for _, r := range rows {
		for i := 0; i < r.N; {
			if !in(r.At(i)) {
				i++
				continue
			}
			k := i
			for k+1 < r.N && in(r.At(k+1)) {
				k++
			}
			take(r.piece(i, k))
			i = k + 1
		}
	}
}

// piece is the row from station i to station k, counted from 0.
func (r Row) piece(i, k int) Row {
	p := Row{Row: r.Row, Station: r.Station + i, N: k - i + 1, First: r.At(i), Last: r.At(k), LengthM: r.LengthM * float64(k-i+1) / float64(r.N),
		Plot: r.Plot, Clone: r.Clone}
	if r.Roles != "" {
		p.Roles = r.Roles[i : k+1]
	}
	return p
}

// Add puts a row to a stand and counts it.
func (a *AsPlanted) Add(r Row) {
	a.Rows = append(a.Rows, r)
	a.Stations += r.N
	a.RowMetres += r.LengthM
	for _, c := range r.Roles {
		switch c {
		case layout.PollinizerRole:
			a.Pollinizers++
		case layout.TemporaryRole:
			a.Temporary++
		case layout.LaterRole:
			a.Later++
		case layout.SproutRole:
			a.Sprouts++
		}
	}
}

// near tells whether an obstacle can touch a piece of ground: the frames round the two meet.
func (o Obstacle) near(part geo.Polygon) bool {
	pl := geo.LocalPlane(part)
	frame := func(list []geo.Point, by float64) (lo, hi geo.XY) {
		lo, hi = geo.XY{X: math.Inf(1), Y: math.Inf(1)}, geo.XY{X: math.Inf(-1), Y: math.Inf(-1)}
		for _, p := range list {
			q := pl.To(p)
			lo.X, lo.Y, hi.X, hi.Y = math.Min(lo.X, q.X-by), math.Min(lo.Y, q.Y-by), math.Max(hi.X, q.X+by), math.Max(hi.Y, q.Y+by)
		}
		return lo, hi
	}
	a, b := frame(o.Points, o.WidthM/2+o.KeepM)
	c, d := frame(part.Outer, 0)
	return a.X <= d.X && b.X >= c.X && a.Y <= d.Y && b.Y >= c.Y
}
