// Package supply is how many plants to order for the stations there are.
package supply

import (
	"math"

	"gonum.org/v1/gonum/mathext"

	"slowroot/core/finding"
)

// Order is the answer for one kind of plant.
type Order struct {
	Stations    int     // plants that must live
	Plants      int     // to order so that they do, with the confidence asked
	Flat        int     // the trade's flat reserve on the same need
	FlatSure    float64 // probability that the flat reserve is enough
	ExpectAlive float64
}

// Plants returns the smallest order N with P(Binomial(N, survival) ≥ stations) ≥ confidence, method
// LAY-9, beside the flat reserve (flatShare of the stations on top). Independent losses are assumed:
// a batch that dies together is not covered by any such number.
// survival is accepted from 0.05 to 1, confidence from 0.5 to 0.999, flatShare from 0 to 1.
func Plants(stations int, survival, confidence, flatShare float64) (Order, error) {
	switch {
	case stations < 0 || stations > 5_000_000:
		return Order{}, finding.Bad("stations", stations, "is not a number of stations", "0 to 5 000 000")
	case !(survival >= 0.05 && survival <= 1):
		return Order{}, finding.Bad("survival", survival, "is not a share of plants that establish", "0.05 to 1")
	case !(confidence >= 0.5 && confidence <= 0.999):
		return Order{}, finding.Bad("confidence", confidence, "is not a confidence", "0.5 to 0.999")
	case !(flatShare >= 0 && flatShare <= 1):
		return Order{}, finding.Bad("flatReserve", flatShare, "is not a share", "0 to 1")
	}
	o := Order{Stations: stations, Flat: int(math.Ceil(float64(stations)*(1+flatShare) - 1e-9))}
	lo, hi := stations, int(float64(stations)/survival+10*math.Sqrt(float64(stations)+1)/survival)+10
	for lo < hi {
		mid := (lo + hi) / 2
		if AtLeast(mid, stations, survival) >= confidence {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	o.Plants = lo
	o.FlatSure = AtLeast(o.Flat, stations, survival)
	o.ExpectAlive = float64(lo) * survival
	return o, nil
}

// AtLeast is P(Binomial(n, p) ≥ k), by the regularised incomplete beta function I_p(k, n−k+1).
// Abramowitz & Stegun, Handbook of Mathematical Functions, 1964, 26.5.24.
func AtLeast(n, k int, p float64) float64 {
	switch {
	case k <= 0:
		return 1
	case n < k:
		return 0
	case p >= 1:
		return 1
	}
	return mathext.RegIncBeta(float64(k), float64(n-k+1), p)
}

// Holes is the answer where several plants go into each hole and a hole stands when one of them lives.
type Holes struct {
	Stations     int
	PerHole      int
	Planted      int     // the first time round: stations × plants a hole
	GapShare     float64 // of holes in which all die
	GapsExpected float64
	GapsHigh     int     // with the confidence asked no more holes than these are empty
	Reserve      int     // plants to fill those as many to a hole again
	Plants       int     // to order
	Doubles      float64 // share of holes in which two or more live and are singled
}

// EveryHole returns what to order where perHole plants go into each of the stations and one living plant is enough
// (method LAY-10): a hole is empty with (1 − survival)^perHole, holes independently. The reserve fills the empty ones
// of a bad case, that is the confidence's quantile of Binomial(stations, gap).
func EveryHole(stations, perHole int, survival, confidence float64) (Holes, error) {
	if _, err := Plants(stations, survival, confidence, 0); err != nil {
		return Holes{}, err
	}
	if !(perHole >= 1 && perHole <= 20) {
		return Holes{}, finding.Bad("plantsPerStation", perHole, "is not a number of plants of a hole", "1 to 20")
	}
	k := float64(perHole)
	h := Holes{Stations: stations, PerHole: perHole, Planted: stations * perHole, GapShare: math.Pow(1-survival, k)}
	h.GapsExpected = float64(stations) * h.GapShare
	lo, hi := 0, stations
	for lo < hi { // the fewest gaps g with P(gaps > g) ≤ 1 − confidence
		mid := (lo + hi) / 2
		if AtLeast(stations, mid+1, h.GapShare) <= 1-confidence {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	h.GapsHigh = lo
	h.Reserve = h.GapsHigh * perHole
	h.Plants = h.Planted + h.Reserve
	h.Doubles = math.Max(0, 1-h.GapShare-k*survival*math.Pow(1-survival, k-1))
	return h, nil
}
