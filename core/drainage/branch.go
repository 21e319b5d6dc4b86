package drainage

import "math"

// SuggestBranch is a branch into a piece of the block that no drain reaches, where it joins first: straight, or with
// one bend, the one from which laterals of the pattern reach most of the piece for its length. It lies inside the
// block and does not run downhill. nil means that none reaches half of the piece.
func SuggestBranch(rings [][]XY, l Layout, piece Missed, ground func(x, y float64) float64) []XY {
	spots := piece.spots(l, rings)
	z := func(p XY) float64 { return ground(p[0], p[1]) }
	open := func(a, b XY) bool {
		return dist(a, b) >= l.SpacingM && !blocked(a, b, rings) && sag([]XY{a, b}, z) <= mostSagM
	}
	var best []XY
	most := 0.0
	try := func(line []XY) {
		reached := 0.0
		for _, q := range spots {
			for k := 1; k < len(line); k++ {
				if q.reachedFrom(line[k-1], line[k], l.SpacingM/2, z) {
					reached++
					break
				}
			}
		}
		// a metre of branch has to reach as much as half a metre of lateral would, a bend takes a pit
		worth := reached/float64(len(spots))*piece.AreaM2 - Length(line)*l.SpacingM/2 - float64(len(line)-2)*l.SpacingM*l.SpacingM
		if reached >= float64(len(spots))/2 && worth > most {
			most, best = worth, line
		}
	}
	for _, v := range spots {
		from, ok := l.nearestJoint(v.at, open)
		if !ok {
			continue
		}
		try([]XY{from, v.at})
		for _, to := range spots {
			if !open(v.at, to.at) {
				continue
			}
			try([]XY{from, v.at, to.at})
			if far := along(to.at, unit(sub(to.at, v.at)), l.SpacingM); open(v.at, far) {
				try([]XY{from, v.at, far})
			}
		}
	}
	return best
}

// nearestJoint is the place on the collector or a branch from which a pipe may run to a point, nearest to it.
func (l Layout) nearestJoint(to XY, open func(a, b XY) bool) (XY, bool) {
	best, at := math.Inf(1), XY{}
	for _, m := range l.mains() {
		long := Length(m.Points)
		step := math.Max(l.SpacingM/2, long/60)
		for s := step / 2; s < long; s += step {
			p, _ := At(m.Points, s)
			if d := dist(p, to); d < best && open(p, to) {
				best, at = d, p
			}
		}
	}
	return at, !math.IsInf(best, 1)
}

// spot is a point of a piece, with how far back from it each of the laterals' directions is free.
type spot struct {
	at   XY
	ways []XY
	free []float64
}

// spots are up to about thirty points spread over the piece.
func (m Missed) spots(l Layout, rings [][]XY) []spot {
	var out []spot
	every := max(1, len(m.Strips)/10)
	for i := every / 2; i < len(m.Strips); i += every {
		s := m.Strips[i]
		for _, f := range []float64{0.15, 0.5, 0.85} {
			q := spot{at: XY{s[0] + f*(s[1]-s[0]), s[2]}, ways: l.directions()}
			if !within(q.at, rings) {
				continue
			}
			for _, d := range q.ways {
				free, _, _ := cast(q.at, XY{-d[0], -d[1]}, rings)
				q.free = append(q.free, free)
			}
			out = append(out, q)
		}
	}
	return out
}

// reachedFrom reports that a branch from a to b, or a lateral that rises from it, runs within half a spacing of the spot.
func (q spot) reachedFrom(a, b XY, half float64, z func(XY) float64) bool {
	if d, _, _ := nearest(q.at, a, b); d <= half {
		return true
	}
	for i, d := range q.ways {
		if len(q.ways) > 1 && outdone(sub(b, a), d, q.ways[1-i]) {
			continue
		}
		if t, hit := meets(q.at, XY{-d[0], -d[1]}, []XY{a, b}); hit && t < q.free[i] && z(q.at) > z(along(q.at, d, -t))-mostSagM {
			return true
		}
	}
	return false
}

// blocked reports that the straight way from a to b leaves the block, or that a machine has less than 2 m beside it
// where it goes on.
func blocked(a, b XY, rings [][]XY) bool {
	u := unit(sub(b, a))
	long := dist(a, b)
	for _, off := range []float64{0, 2, -2} {
		p := along(along(a, XY{-u[1], u[0]}, off), u, math.Min(2, long/2))
		if !within(p, rings) {
			return true
		}
		if far, _, ok := cast(p, u, rings); ok && far < long-math.Min(2, long/2)-1e-6 {
			return true
		}
	}
	return false
}
