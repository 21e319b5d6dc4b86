package drainage

import (
	"math"
)

// Wet is the wet part of a block, taken as a circle, metres.
type Wet struct {
	At      XY
	RadiusM float64 // 0 where nobody said how large it is
}

// Ring is the wet part as far as it lies in the block: a polygon round its middle, cut short at the edge and at holes.
// nil where its middle lies outside or it has no radius.
func (w Wet) Ring(rings [][]XY) []XY {
	if w.RadiusM <= 0 || !within(w.At, rings) {
		return nil
	}
	var out []XY
	for i := range 48 {
		a := 2 * math.Pi * float64(i) / 48
		d := XY{math.Cos(a), math.Sin(a)}
		r := w.RadiusM
		if far, _, ok := cast(w.At, d, rings); ok {
			r = math.Min(r, far)
		}
		out = append(out, along(w.At, d, r))
	}
	return out
}

// Suggest is a first line for the collector of a pattern on a block with known heights, the outlet first.
// wet is where a local drain leads to, nil the middle, and what an interceptor keeps the water from, nil or without a
// radius the whole block; falls the compass direction the block falls
// towards, degrees. It is a start to be dragged, not a
// design: nothing here asks for cover or fall. Patterns are the ids of remedies; nil means that none fits.
func Suggest(pattern string, rings [][]XY, ground func(x, y float64) float64, spacing, falls float64, wet *Wet) []XY {
	ring := dense(distinct(rings[0]), 15)
	middle := centre(ring)
	low := lowest(ring, ground)
	switch pattern {
	case "diversion":
		return contour(rings, ground, falls)
	case "interceptor":
		if wet != nil && wet.RadiusM > 0 {
			if line := above(rings, ground, *wet); line != nil {
				return line
			}
		}
		return contour(rings, ground, falls)
	case "local":
		to := middle
		if wet != nil {
			to = wet.At
		}
		out := inset(ring, low, 1)
		if wet != nil {
			if line := through(rings, out, *wet, ground, spacing); line != nil {
				return line
			}
		}
		if dist(out, to) >= 5 {
			return []XY{out, to}
		}
		return nil
	case "herringbone":
		out := inset(ring, low, 1)
		u := unit(sub(middle, out))
		far, _, ok := cast(out, u, rings[:1])
		if !ok || far < 20 {
			return nil
		}
		head := along(out, u, far-math.Min(spacing/2, far/4))
		if way := round(out, head, rings[1:]); way != nil {
			return way
		}
		if v, ok := valley(along(out, u, far/2), u, rings, ground); ok {
			return []XY{out, v, head}
		}
		return []XY{out, head}
	}
	return bestSide(rings, ring, ground, spacing)
}

// through is a line from an outlet through the wet part, by its middle or along either side, whichever lets laterals
// reach most of it without running downhill; nil where it has no size.
func through(rings [][]XY, out XY, wet Wet, ground func(x, y float64) float64, spacing float64) []XY {
	part := wet.Ring(rings)
	if part == nil || dist(out, wet.At) < 5 {
		return nil
	}
	z := func(p XY) float64 { return ground(p[0], p[1]) }
	u := unit(sub(wet.At, out))
	n := XY{-u[1], u[0]}
	var best []XY
	most := math.Inf(-1)
	for _, side := range []float64{0, -1, 1} {
		off, _, _ := cast(wet.At, XY{side * n[0], side * n[1]}, [][]XY{part})
		at := wet.At
		if side != 0 {
			at = along(wet.At, n, side*math.Max(0, math.Min(0.85*off, off-2)))
		}
		fore, _, _ := cast(at, u, [][]XY{part})
		aft, _, _ := cast(at, XY{-u[0], -u[1]}, [][]XY{part})
		far := along(at, u, fore-math.Min(spacing/2, fore/2))
		line := []XY{out, along(at, u, 1-aft), far}
		if side == 0 || blocked(out, line[1], rings) {
			line = []XY{out, far}
		}
		ok := true
		for _, p := range line[1:] {
			ok = ok && within(p, rings)
		}
		if !ok {
			continue
		}
		if v := worth([][]XY{part}, line, z, spacing); v > most+1e-9 {
			most, best = v, line
		}
	}
	return best
}

// valleyRiseM is how far the ground has to rise on both sides of a line for it to be the bottom of a valley.
const valleyRiseM = 0.15

// bottom is the lowest point of the line across at p, and whether the ground rises from it on both sides: on a plane
// that falls one way it lies at an end.
func bottom(p, u XY, rings [][]XY, ground func(x, y float64) float64) (XY, bool) {
	n := XY{-u[1], u[0]}
	left, _, ok1 := cast(p, n, rings)
	right, _, ok2 := cast(p, XY{-n[0], -n[1]}, rings)
	if !ok1 || !ok2 {
		return p, false
	}
	low, at, off := math.Inf(1), p, 0.0
	for t := -0.95 * right; t <= 0.95*left; t += (left + right) / 60 {
		q := along(p, n, t)
		if z := ground(q[0], q[1]); z < low {
			low, at, off = z, q, t
		}
	}
	rise := func(to float64) float64 {
		q := along(p, n, to)
		return ground(q[0], q[1]) - low
	}
	return at, off > -0.85*right && off < 0.85*left && rise(-0.95*right) >= valleyRiseM && rise(0.95*left) >= valleyRiseM
}

// valley is the bottom of a valley across the line at p, where it lies clearly below p and in the middle half.
func valley(p, u XY, rings [][]XY, ground func(x, y float64) float64) (XY, bool) {
	at, ok := bottom(p, u, rings, ground)
	return at, ok && dist(at, p) >= 5 && ground(at[0], at[1]) < ground(p[0], p[1])-valleyRiseM
}

// TwoSided reports that two sides of a block fall to a middle line: across the way down from its highest side to its
// lowest point the ground rises both ways, in the lower, the middle and the upper third.
func TwoSided(rings [][]XY, ground func(x, y float64) float64) bool {
	ring := dense(distinct(rings[0]), 15)
	low, middle := lowest(ring, ground), centre(ring)
	if dist(ring[low], middle) < 1 {
		return false
	}
	u := unit(sub(middle, ring[low]))
	far, _, ok := cast(inset(ring, low, 1), u, rings[:1])
	if !ok || far < 20 {
		return false
	}
	for _, f := range []float64{0.3, 0.5, 0.7} {
		if _, ok := bottom(along(inset(ring, low, 1), u, f*far), u, rings, ground); !ok {
			return false
		}
	}
	return true
}

// bestSide is the collector of a gridiron: of the sides of the block, the low side on both ways from the lowest
// point, and a line through the middle, the one whose laterals reach most of the block without running downhill or
// beyond what can be flushed. The outlet is its lower end.
func bestSide(rings [][]XY, ring []XY, ground func(x, y float64) float64, spacing float64) []XY {
	z := func(p XY) float64 { return ground(p[0], p[1]) }
	var best []XY
	most := math.Inf(-1)
	try := func(line []XY) {
		if len(line) < 2 || Length(line) < 20 {
			return
		}
		if z(line[len(line)-1]) < z(line[0]) {
			turned := make([]XY, len(line))
			for i, p := range line {
				turned[len(line)-1-i] = p
			}
			line = turned
		}
		line = straightened(line)
		if dist(line[0], line[len(line)-1]) < 10 {
			return
		}
		if v := worth(rings, line, z, spacing); v > most+1e-9 {
			most, best = v, line
		}
	}
	for _, side := range sides(ring) {
		try(side)
	}
	try(lowSide(ring, z))
	middle := centre(ring)
	for _, a := range []XY{inset(ring, lowest(ring, ground), 1), middle} {
		for k := range 6 {
			u := XY{math.Cos(float64(k) * math.Pi / 6), math.Sin(float64(k) * math.Pi / 6)}
			if a != middle {
				if k > 0 {
					break
				}
				u = unit(sub(middle, a))
			}
			fore, _, ok := cast(middle, u, rings[:1])
			aft, _, back := cast(middle, XY{-u[0], -u[1]}, rings[:1])
			if !ok || !back || fore < 10 || aft < 10 {
				continue
			}
			line := []XY{along(middle, u, 1-aft), along(middle, u, fore-1)}
			if way := round(line[0], line[1], rings[1:]); way != nil {
				line = way
			}
			try(line)
		}
	}
	return best
}

// worth is the share of the block that laterals square to a line reach, less what lies badly: laterals that would
// run downhill from it or cannot be flushed, and a collector that falls away from its outlet.
func worth(rings [][]XY, line []XY, z func(XY) float64, spacing float64) float64 {
	l := Layout{Collector: line, SpacingM: math.Max(8, spacing), AngleDeg: 90}
	mains := l.mains()
	laterals := l.lay(rings, mains, z)
	_, _, reached, _ := l.Reach(rings, mains, laterals, l.SpacingM/2, l.SpacingM/2)
	bad, total := 0.0, 1.0
	for _, d := range laterals {
		total += d.LengthM
		if sag(d.Points, z) > mostSagM {
			bad += d.LengthM
		} else {
			bad += 2 * math.Max(0, d.LengthM-0.8*mostLateralM)
		}
	}
	v := reached/Area(rings) - bad/total
	if s := sag(line, z); s > 0.25 {
		v -= math.Min(0.6, 0.3+s)
	}
	return v
}

// mostSagM is how far the ground may fall back along a pipe before its cover is spent.
const mostSagM = 0.3

// acrossFall is how much a line across the slope falls to its outlet (method DRN-13: 0.2 to 0.5 %).
const acrossFall = 0.003

// upslopeM is how far above the wet line an interceptor lies (method DRN-13: 1 to 3 m).
const upslopeM = 2

// above is a line along the contour just upslope of the wet part and a little longer than it is wide, its lower end
// first; nil where the block or the ground leaves no room for one.
func above(rings [][]XY, ground func(x, y float64) float64, wet Wet) []XY {
	gx, gy := ground(wet.At[0]+5, wet.At[1])-ground(wet.At[0]-5, wet.At[1]), ground(wet.At[0], wet.At[1]+5)-ground(wet.At[0], wet.At[1]-5)
	if !(math.Hypot(gx, gy) > 0.02) { // 0.2 %
		return nil
	}
	up := unit(XY{gx, gy})
	var from XY
	for d := wet.RadiusM + upslopeM; ; d -= 3 {
		if d < 3 {
			return nil
		}
		if from = along(wet.At, up, d); clear2m(from, up, rings) {
			break
		}
	}
	half := wet.RadiusM * 1.15
	stays := func(p, u XY) bool { return dist(p, from) <= half && clear2m(p, u, rings) }
	var best []XY
	for _, d := range []XY{{-up[1], up[0]}, {up[1], -up[0]}} {
		if line := acrossFrom(from, d, ground, stays); Length(line) > 1.1*Length(best) {
			best = line
		}
	}
	if Length(best) < math.Max(15, half/2) {
		return nil
	}
	return straightenedTo(best, 0.75)
}
