package ground

import (
	"fmt"
	"math"

	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/core/terrain"
)

// Spot is a height at a position.
type Spot struct {
	At geo.Point
	Z  float64
}

// Heights is a height source as read from its file: spots, or a grid in its own system whose values
// lie row by row from the south-west.
type Heights struct {
	document.HeightSource
	System geo.System
	Spots  []Spot
	Grid   *terrain.Surface
}

// reachM is how far around a block its surroundings matter (method SITE-1).
const reachM = 500

// Land is the lie of a block, worked out once for a boundary and its heights.
type Land struct {
	Key      string // names what it was surveyed from; "" where nobody said: then nothing that rests on it is remembered
	Source   document.HeightSource
	Surface  *terrain.Filled
	Lie      terrain.Lie
	Class    terrain.SlopeClass
	Hollows  []terrain.Hollow
	Cold     []ColdSpot // a sample of points on the block
	Worst    terrain.Judgement
	WorstAt  [2]float64
	Share    map[string]float64 // word of the judgement → share of the sample
	KnownM   float64            // how far around the lowest sample heights are known
	Barriers []terrain.Barrier
	Drawn    []document.Barrier
	rings    [][]geo.XY
}

// ColdSpot is the frost judgement at one point of the block, on its plane.
type ColdSpot struct {
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	Score int     `json:"score"`
	Word  string  `json:"word"`
}

// Survey works out the lie of a block from the source that covers it best: most of the block first,
// then the smaller error. It is nil where no source reaches.
// stop, where there is one, ends it between sources.
func Survey(b geo.Polygon, sources []Heights, barriers []document.Barrier, stop func() error) (*Land, error) {
	plane := geo.LocalPlane(b)
	rings := b.PlaneRings(plane)
	lo, hi := bounds(rings[0])
	var best *Land
	covered := 0.0
	for i := range sources {
		if stop != nil {
			if err := stop(); err != nil {
				return nil, err
			}
		}
		s, err := surface(&sources[i], plane, lo, hi)
		if err != nil {
			return nil, fmt.Errorf("heights %q: %w", sources[i].Name, err)
		}
		if s == nil {
			continue
		}
		l := &Land{Source: sources[i].HeightSource, Surface: s.Fill(), rings: rings, Drawn: barriers}
		n, known := 0, 0
		for j := 0; j < s.NY; j++ {
			for k := 0; k < s.NX; k++ {
				if l.In(s.X0+float64(k)*s.Cell, s.Y0+float64(j)*s.Cell) {
					n++
					if !math.IsNaN(s.At(k, j)) {
						known++
					}
				}
			}
		}
		share := float64(known) / math.Max(1, float64(n))
		if known > 0 && (best == nil || share > covered+0.05 || math.Abs(share-covered) <= 0.05 && l.Source.AccuracyM < best.Source.AccuracyM) {
			best, covered = l, share
		}
	}
	if best == nil {
		return nil, nil
	}
	best.read(plane)
	return best, nil
}

func bounds(r []geo.XY) (lo, hi geo.XY) {
	lo, hi = r[0], r[0]
	for _, p := range r {
		lo.X, lo.Y, hi.X, hi.Y = math.Min(lo.X, p.X), math.Min(lo.Y, p.Y), math.Max(hi.X, p.X), math.Max(hi.Y, p.Y)
	}
	return lo, hi
}

// surface is a source's heights on the block's plane, as far around as they reach; nil when they do not
// reach it.
func surface(h *Heights, plane geo.Plane, lo, hi geo.XY) (*terrain.Surface, error) {
	x0, y0, x1, y1 := lo.X-reachM, lo.Y-reachM, hi.X+reachM, hi.Y+reachM
	if h.Kind == "spots" {
		var spots []terrain.Spot
		sx0, sy0, sx1, sy1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
		for _, s := range h.Spots {
			p := plane.To(s.At)
			if p.X < x0 || p.X > x1 || p.Y < y0 || p.Y > y1 {
				continue
			}
			spots = append(spots, terrain.Spot{X: p.X, Y: p.Y, Z: s.Z, Sigma: h.AccuracyM})
			sx0, sy0, sx1, sy1 = math.Min(sx0, p.X), math.Min(sy0, p.Y), math.Max(sx1, p.X), math.Max(sy1, p.Y)
		}
		if len(spots) < 3 || sx1 < lo.X || sx0 > hi.X || sy1 < lo.Y || sy0 > hi.Y {
			return nil, nil
		}
		// spots say nothing beyond themselves
		cell := math.Max(2, math.Max(sx1-sx0, sy1-sy0)/120)
		return terrain.FromSpots(spots, sx0, sy0, cell, int((sx1-sx0)/cell)+2, int((sy1-sy0)/cell)+2)
	}
	g := h.Grid
	cell := g.Cell
	if h.System.Degrees {
		cell *= 111320
	}
	cell = math.Max(cell, math.Max(x1-x0, y1-y0)/220)
	s, err := terrain.NewSurface(x0, y0, cell, int((x1-x0)/cell)+1, int((y1-y0)/cell)+1)
	if err != nil {
		return nil, err
	}
	s.AccuracyM = h.AccuracyM
	found := false
	between := newNet(s.NX, s.NY, func(i, j int) geo.XY {
		return h.System.To(plane.From(geo.XY{X: x0 + float64(i)*cell, Y: y0 + float64(j)*cell}))
	})
	for j := 0; j < s.NY; j++ {
		for i := 0; i < s.NX; i++ {
			at := between.at(i, j)
			z := g.Height(at.X, at.Y)
			s.Z[j*s.NX+i] = z
			found = found || !math.IsNaN(z)
		}
	}
	if !found {
		return nil, nil
	}
	return s, nil
}

func (l *Land) In(x, y float64) bool {
	p := geo.XY{X: x, Y: y}
	if !geo.Inside(p, l.rings[0]) {
		return false
	}
	for _, hole := range l.rings[1:] {
		if geo.Inside(p, hole) {
			return false
		}
	}
	return true
}

func (l *Land) read(plane geo.Plane) {
	var water [][2]float64
	for _, b := range l.Drawn {
		t := terrain.Barrier{Kind: b.Kind, HeightM: b.HeightM, Porosity: b.Porosity, Gap: b.Gap}
		for _, p := range b.Line {
			q := plane.To(p)
			t.Line = append(t.Line, [2]float64{q.X, q.Y})
		}
		if b.Kind == "water" {
			water = append(water, t.Line...)
			continue
		}
		l.Barriers = append(l.Barriers, t)
	}
	l.Lie, _ = l.Surface.Lie(l.In)
	l.Class = terrain.ClassOfSlope(l.Lie.SlopePct)
	least := math.Max(0.3, 2*l.Source.AccuracyM)
	l.Hollows = l.Surface.Hollows(least, l.In)
	if l.Hollows == nil {
		l.Hollows = []terrain.Hollow{}
	}
	lo, hi := bounds(l.rings[0])
	step := math.Max(l.Surface.Cell, math.Sqrt((hi.X-lo.X)*(hi.Y-lo.Y)/60))
	l.Share, l.Cold = map[string]float64{}, []ColdSpot{}
	l.Worst = terrain.Judgement{Score: -99, Word: "", Signs: []terrain.ColdSign{}}
	for y := lo.Y + step/2; y < hi.Y; y += step {
		for x := lo.X + step/2; x < hi.X; x += step {
			if !l.In(x, y) {
				continue
			}
			c, ok := l.Surface.ColdAt(x, y, l.Barriers, l.waterBelow(x, y, water))
			if !ok {
				continue
			}
			j := c.Judge()
			l.Cold = append(l.Cold, ColdSpot{x, y, j.Score, j.Word})
			l.Share[j.Word]++
			if j.Score > l.Worst.Score {
				l.Worst, l.WorstAt, l.KnownM = j, [2]float64{x, y}, c.KnownRadiusM
			}
		}
	}
	for k := range l.Share {
		l.Share[k] /= float64(len(l.Cold))
	}
}

// waterBelow reports open water within 300 m that lies lower.
func (l *Land) waterBelow(x, y float64, water [][2]float64) bool {
	z := l.Surface.Height(x, y)
	for _, p := range water {
		if math.Hypot(p[0]-x, p[1]-y) <= 300 && l.Surface.Height(p[0], p[1]) < z {
			return true
		}
	}
	return false
}

// Judged is the frost word of the block: the worst that holds for a tenth of it or more.
func (l *Land) Judged() string {
	sum := 0.0
	for _, w := range []string{"pocket", "high", "moderate", "low"} {
		if sum += l.Share[w]; sum >= 0.1 {
			return w
		}
	}
	return "low"
}

// placeRating rates the frost of a place for a crop (method SITE-1: a pocket bears no early bloomer).
func (l *Land) PlaceRating(early bool) float64 {
	switch w := l.Judged(); {
	case w == "pocket" && early:
		return 20
	case w == "pocket", w == "high" && early:
		return 60
	case w == "high":
		return 80
	}
	return 100
}

// HeightAt is the surface under a point of the block's plane; NaN where no height is known.
func (l *Land) HeightAt(x, y float64) float64 { return l.Surface.Height(x, y) }

// net is a projection worked out at every so many cells of a grid and drawn straight between them: over a few hundred metres
// that is right to a fraction of a millimetre, and a hundred times less work.
type net struct {
	nodes []geo.XY
	nx    int
}

const netCells = 10

func newNet(nx, ny int, exact func(i, j int) geo.XY) net {
	n := net{nx: (nx-1)/netCells + 2}
	for j := 0; j < (ny-1)/netCells+2; j++ {
		for i := range n.nx {
			n.nodes = append(n.nodes, exact(i*netCells, j*netCells))
		}
	}
	return n
}

// at is the point of a cell.
func (n net) at(i, j int) geo.XY {
	k := j/netCells*n.nx + i/netCells
	u, v := float64(i%netCells)/netCells, float64(j%netCells)/netCells
	a, b, c, d := n.nodes[k], n.nodes[k+1], n.nodes[k+n.nx], n.nodes[k+n.nx+1]
	return geo.XY{X: (a.X*(1-u)+b.X*u)*(1-v) + (c.X*(1-u)+d.X*u)*v, Y: (a.Y*(1-u)+b.Y*u)*(1-v) + (c.Y*(1-u)+d.Y*u)*v}
}
