// Package climate reads weather: normals turned into days, frost, heat sums, chill, rainy seasons, sun
// and reference evapotranspiration. Temperatures are °C, rain mm, day of year 1 to 366, latitude
// positive north. A missing day is NaN or an empty field, never nought.
package climate

import (
	"math"

	"slowroot/core/finding"
)

// Smooth is a yearly curve through twelve monthly means that keeps each month's mean (Epstein, On
// obtaining daily climatological values from monthly means, J. Climate, 1991; method C1). It has no
// extremes: frost, chill by hours and dry spells must not be read from it.
type Smooth struct {
	Mean float64
	A, B [6]float64
	n    int
}

// NewSmooth fits harmonics 1 to 6 to January … December.
func NewSmooth(months []float64, harmonics int) (Smooth, error) {
	if len(months) != 12 {
		return Smooth{}, finding.Bad("months", len(months), "is not a year of monthly means", "12 values, January first")
	}
	if harmonics < 1 || harmonics > 6 {
		return Smooth{}, finding.Bad("harmonics", harmonics, "is not a number of harmonics", "1 to 6")
	}
	s := Smooth{n: harmonics}
	for _, m := range months {
		s.Mean += m / 12
	}
	for j := 1; j <= harmonics; j++ {
		for i, m := range months {
			t := 2 * math.Pi * float64(j) * (float64(i) + 0.5) / 12
			s.A[j-1] += m * math.Cos(t) / 6
			s.B[j-1] += m * math.Sin(t) / 6
		}
		if j == 6 {
			s.A[5], s.B[5] = s.A[5]/2, s.B[5]/2
		}
		k := math.Pi * float64(j) / 12 / math.Sin(math.Pi*float64(j)/12)
		s.A[j-1], s.B[j-1] = s.A[j-1]*k, s.B[j-1]*k
	}
	return s, nil
}

// At is the value on a day of the year, 365 to the year.
func (s Smooth) At(doy float64) float64 { return s.atMonth(12 * (doy - 0.5) / 365) }

func (s Smooth) atMonth(t float64) float64 {
	y := s.Mean
	for j := 1; j <= s.n; j++ {
		w := 2 * math.Pi * float64(j) * t / 12
		y += s.A[j-1]*math.Cos(w) + s.B[j-1]*math.Sin(w)
	}
	return y
}

// DormancyBreak is the first day of the year, from day start on and once round, on which the running
// mean of n daily means has been at or above base for m days running (method C5); ok is false when it
// never is.
func DormancyBreak(daily func(doy int) float64, start, n, m int, base float64) (doy int, ok bool) {
	run := 0
	for i := 0; i < 365; i++ {
		sum := 0.0
		for k := 0; k < n; k++ {
			sum += daily((start+i-k-1+3650)%365 + 1)
		}
		if sum/float64(n) >= base {
			run++
		} else {
			run = 0
		}
		if run == m {
			return (start+i-1)%365 + 1, true
		}
	}
	return 0, false
}
