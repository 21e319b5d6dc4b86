package drainage

import (
	"math"
	"slices"
	"sort"
)

// SuggestBranch is a branch into a piece of the block that no drain reaches, where it joins first: straight, or with
// one bend, the one that reaches most for its length. It lies inside the block, crosses no collector and does not run
// downhill. nil means that none reaches two fifths of the piece without losing as much elsewhere.
func SuggestBranch(rings [][]XY, l Layout, piece Missed, ground func(x, y float64) float64) []XY {
	spots := piece.spots(l, rings)
	mains := l.mains()
	z := func(p XY) float64 { return ground(p[0], p[1]) }
	open := func(a, b XY) bool {
		return dist(a, b) >= l.SpacingM && !blocked(a, b, rings) && sag([]XY{a, b}, z) <= mostSagM && !crosses(a, b, mains)
	}
	type idea struct {
		line  []XY
		worth float64
	}
	var ideas []idea
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
		if reached >= float64(len(spots))/2 {
			ideas = append(ideas, idea{line, reached/float64(len(spots))*piece.AreaM2 - l.price(line)})
		}
	}
	for _, v := range spots {
		from, ok := nearestJoint(v.at, l.SpacingM, mains, open)
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
	// the best by the piece alone are laid, and judged by the whole block
	sort.SliceStable(ideas, func(i, j int) bool { return ideas[i].worth > ideas[j].worth })
	before := l.reachedBy(rings, z)
	var best []XY
	most := 0.0
	for _, i := range ideas[:min(4, len(ideas))] {
		with := l
		with.Branches = append(slices.Clone(l.Branches), Line{Points: i.line})
		gained := with.reachedBy(rings, z) - before
		if worth := gained - l.price(i.line); gained > 0.4*piece.AreaM2 && worth > most {
			most, best = worth, i.line
		}
	}
	return best
}

// price is the area a branch has to reach to be worth its trench: a metre of it as much as half a metre of lateral, a
// bend, which takes a pit, a square of the spacing.
func (l Layout) price(line []XY) float64 {
	return Length(line)*l.SpacingM/2 + float64(len(line)-2)*l.SpacingM*l.SpacingM
}

// reachedBy is the area a layout reaches, on a coarse grid.
func (l Layout) reachedBy(rings [][]XY, z func(XY) float64) float64 {
	mains := l.mains()
	_, _, reached, _ := l.Reach(rings, mains, l.lay(rings, mains, z), l.SpacingM/2, l.SpacingM/2)
	return reached
}

// crosses reports that the way from a to b crosses a collector; it may begin on one.
func crosses(a, b XY, mains []Main) bool {
	for _, m := range mains {
		for k := 1; k < len(m.Points); k++ {
			if _, ok := cross(a, b, m.Points[k-1], m.Points[k]); ok {
				return true
			}
		}
	}
	return false
}

// nearestJoint is the place on the collector or a branch from which a pipe may run to a point, nearest to it.
func nearestJoint(to XY, spacing float64, mains []Main, open func(a, b XY) bool) (XY, bool) {
	best, at := math.Inf(1), XY{}
	for _, m := range mains {
		long := Length(m.Points)
		step := math.Max(spacing/2, long/60)
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

// spots are some twenty points spread over the piece.
func (m Missed) spots(l Layout, rings [][]XY) []spot {
	var out []spot
	every := max(1, len(m.Strips)/7)
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
	if squared(q.at, a, b) <= half*half {
		return true
	}
	for i, d := range q.ways {
		if len(q.ways) > 1 && outdone(sub(b, a), d, q.ways[1-i]) {
			continue
		}
		if t, hit := meets(q.at, XY{-d[0], -d[1]}, []XY{a, b}, 0.5); hit && t < q.free[i] && z(q.at) > z(along(q.at, d, -t))-mostSagM {
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
