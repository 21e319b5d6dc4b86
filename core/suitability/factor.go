// Package suitability judges ground for a crop by its limiting factor (method SOIL-6): FAO, A framework
// for land evaluation, Soils Bulletin 32, 1976; the rating ranges are from memory (Sys, Van Ranst &
// Debaveye, Land evaluation, 1991).
package suitability

import (
	"math"
)

// Class is how well one factor, or all of them, suit.
type Class string

const (
	S1        Class = "S1" // no or slight limitation
	S2        Class = "S2" // moderate
	S3        Class = "S3" // marginal
	N1        Class = "N1" // not now, correctable
	N2        Class = "N2" // not for good
	NotJudged Class = "?"
)

// Range is what a crop asks of a factor: ideal between the inner edges, tolerated to the outer ones.
// An edge that is NaN is not limited on that side. The ideal edge ends S1, the tolerated edge S3; S2
// ends half-way, which is assumed unless S2Low or S2High say otherwise.
type Range struct {
	IdealLow, IdealHigh float64
	TolLow, TolHigh     float64
	S2Low, S2High       float64
}

// Rating is 100 at the ideal and falls linearly between the class edges: 85 at the end of S1, 60 of S2,
// 40 of S3, 25 of N1, and on to nought at twice the step from S3 to N1. N1 ends one S3 step beyond the
// tolerated edge.
func (r Range) Rating(v float64) float64 {
	if math.IsNaN(v) {
		return math.NaN()
	}
	low := side(r.IdealLow-v, r.IdealLow-r.TolLow, r.IdealLow-r.S2Low)
	high := side(v-r.IdealHigh, r.TolHigh-r.IdealHigh, r.S2High-r.IdealHigh)
	return math.Min(low, high)
}

// side rates an excess over the ideal edge with the tolerated edge tol beyond it and the end of S2 at
// s2; NaN excess means the side is not limited, NaN tol that no outer edge is given.
func side(excess, tol, s2 float64) float64 {
	if math.IsNaN(excess) || excess <= 0 {
		if excess == 0 {
			return 85
		}
		return 100
	}
	if math.IsNaN(tol) {
		return 70 // outside the ideal and the sheet gives no limit: moderate, assumed
	}
	if tol <= 0 {
		return 30 // no tolerance: outside is not fit as it is
	}
	if math.IsNaN(s2) {
		s2 = tol / 2
	}
	step := tol - s2
	switch {
	case excess <= s2:
		return 85 - 25*excess/s2
	case excess <= tol:
		return 60 - 20*(excess-s2)/step
	case excess <= tol+step:
		return 40 - 15*(excess-tol)/step
	}
	return math.Max(0, 25*(1-(excess-tol-step)/step))
}

// Interpolate rates between printed edges of all four classes: the value at the end of S1, S2, S3 and N1
// of one side (method SOIL-6 with every edge given).
func Interpolate(v float64, edges [4]float64) float64 {
	sign := 1.0
	if edges[3] < edges[0] {
		sign = -1
	}
	marks := [4]float64{85, 60, 40, 25}
	if sign*(v-edges[0]) <= 0 {
		if v == edges[0] {
			return 85
		}
		return 100
	}
	for i := 1; i < 4; i++ {
		if sign*(v-edges[i]) <= 0 {
			return marks[i-1] - (marks[i-1]-marks[i])*(v-edges[i-1])/(edges[i]-edges[i-1])
		}
	}
	return math.Max(0, 25*(1-(v-edges[3])/(edges[3]-edges[2])))
}

// ClassOf turns a rating into a class; correctable decides between N1 and N2 below 40.
func ClassOf(rating float64, correctable bool) Class {
	switch {
	case math.IsNaN(rating):
		return NotJudged
	case rating >= 85:
		return S1
	case rating >= 60:
		return S2
	case rating >= 40:
		return S3
	case correctable || rating >= 25:
		return N1
	}
	return N2
}

// Limiting is the index of the lowest rating, −1 when none is judged.
func Limiting(ratings []float64) int {
	at := -1
	for i, r := range ratings {
		if !math.IsNaN(r) && (at < 0 || r < ratings[at]) {
			at = i
		}
	}
	return at
}

// SquareRoot is R_min·√Π(other R/100) (from memory: Khiddir 1986, in Sys et al. 1991); it spreads sites
// that share a class.
func SquareRoot(ratings []float64) float64 {
	at := Limiting(ratings)
	if at < 0 {
		return math.NaN()
	}
	p := 1.0
	for i, r := range ratings {
		if i != at && !math.IsNaN(r) {
			p *= r / 100
		}
	}
	return ratings[at] * math.Sqrt(p)
}

// Product is 100·Π(R/100) (Storie); severe with many factors.
func Product(ratings []float64) float64 {
	p := 100.0
	for _, r := range ratings {
		if !math.IsNaN(r) {
			p *= r / 100
		}
	}
	return p
}

// IndexClass reads a square-root index.
func IndexClass(i float64) Class {
	switch {
	case i >= 75:
		return S1
	case i >= 50:
		return S2
	case i >= 25:
		return S3
	}
	return N1
}
