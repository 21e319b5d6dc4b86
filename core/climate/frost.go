package climate

import (
	"fmt"
	"math"
	"sort"

	"slowroot/core/finding"
)

// FrostDates are days of the year of the last spring or first autumn frost, one a year, for years
// that had one; Years counts all years looked at.
type FrostDates struct {
	Days  []float64
	Years int
}

// FrostRisk is a date for a risk by both schools (Thom & Shaw, Climatological analysis of freeze data
// for Iowa, Mon. Weather Rev., 1958; method C3).
type FrostRisk struct {
	Mean       float64 `json:"mean"` // of the years that had a frost
	SD         float64 `json:"sd"`
	Risk       float64 `json:"risk"`      // that was asked for
	Normal     float64 `json:"normal"`    // day of the year by the normal school
	Empirical  float64 `json:"empirical"` // type-7 quantile of the years with frost
	Day        int     `json:"day"`       // the default, spring rounded up; 0 where there is none
	Never      bool    `json:"never"`     // so few years have a frost at all that the risk is reached on no day
	FrostShare float64 `json:"frostShare"`
	Rough      bool    `json:"rough"` // fewer than ten years with frost
}

// Spring is the day after which frost still comes with probability p. Of a share p₀ of years that have a frost,
// p₀·(1 − Φ((day − mean)/s)) = p; the empirical school takes the quantile 1 − p/p₀ of their days. Where p₀ is not above
// p no day is needed and Never is set. Fewer than three frosts are refused, unless they are that rare.
func (f FrostDates) Spring(p float64) (FrostRisk, error) {
	n := len(f.Days)
	if !(p > 0 && p < 1) {
		return FrostRisk{}, finding.Bad("risk", p, "is not a risk", "between 0 and 1")
	}
	if f.Years != 0 && f.Years < n {
		return FrostRisk{}, finding.Bad("years", f.Years, fmt.Sprintf("are fewer than the %d dates given", n), "all years looked at, those without frost too")
	}
	r := FrostRisk{Rough: n < 10, FrostShare: 1, Risk: p}
	if f.Years > 0 {
		r.FrostShare = float64(n) / float64(f.Years)
	}
	if f.Years >= 3 && r.FrostShare <= p {
		r.Never = true
		return r, nil
	}
	if n < 3 {
		return FrostRisk{}, finding.Bad("years", n, "years with frost are too few for a risk", "3 or more; 10 for a fit")
	}
	left := 1 - p/r.FrostShare
	r.Mean, r.SD = MeanSD(f.Days)
	if left <= 0 {
		r.Never = true
		return r, nil
	}
	r.Normal, r.Empirical = r.Mean+r.SD*NormalQuantile(left), Quantile(f.Days, left)
	x := r.Normal
	if n >= 30 {
		x = r.Empirical
	}
	r.Day = min(366, max(1, int(math.Ceil(x-1e-6)))) // of equal days the mean is that day, not the one after it
	return r, nil
}

// After is the probability of a frost after day d of the year.
func (r FrostRisk) After(d float64) float64 {
	switch {
	case r.Never:
		return r.FrostShare
	case r.SD == 0 && d >= r.Mean:
		return 0
	case r.SD == 0:
		return r.FrostShare
	}
	return FrostAfter(r.FrostShare, r.Mean, r.SD, d)
}

// FrostAfter is the probability of a frost after day d when a share p0 of years has one.
func FrostAfter(p0, mean, sd, d float64) float64 { return p0 * (1 - NormalCDF((d-mean)/sd)) }

// LifeRisk is the probability that a yearly risk strikes at least once in n years.
func LifeRisk(p float64, years int) float64 { return 1 - math.Pow(1-p, float64(years)) }

// BloomLoss is the share of blossom lost at tC, from 10 % at t10 to 90 % at t90.
func BloomLoss(tC, t10, t90 float64) float64 {
	switch {
	case tC > t10:
		return 0
	case tC <= t90:
		return 0.9
	}
	return 0.1 + 0.8*(t10-tC)/(t10-t90)
}

// MeanSD is the mean and the standard deviation of a sample.
func MeanSD(v []float64) (mean, sd float64) {
	for _, x := range v {
		mean += x
	}
	mean /= math.Max(1, float64(len(v)))
	for _, x := range v {
		sd += (x - mean) * (x - mean)
	}
	if len(v) > 1 {
		sd = math.Sqrt(sd / float64(len(v)-1))
	}
	return mean, sd
}

// Quantile is the type-7 quantile; NaN when empty.
func Quantile(values []float64, q float64) float64 {
	if len(values) == 0 {
		return math.NaN()
	}
	v := append([]float64(nil), values...)
	sort.Float64s(v)
	h := q * float64(len(v)-1)
	i := int(h)
	if i+1 >= len(v) {
		return v[len(v)-1]
	}
	return v[i] + (h-float64(i))*(v[i+1]-v[i])
}
