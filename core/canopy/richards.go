package canopy

import (
	"fmt"
	"math"
)

// Slowing is a spread whose final size is not known: d = A·(1 − e^(−k·a))^m, with the shape m given.
// F. J. Richards, A flexible growth function for empirical use, J. Exp. Bot., 1959.
type Slowing struct{ FinalM, Rate, Shape float64 }

// Slow fits a spread through two observations of (age, metres), k by bisection; growth that does not
// slow between them has no final size and is refused.
func Slow(first, second [2]float64, shape float64) (Slowing, error) {
	want := math.Pow(first[1]/second[1], 1/shape)
	if !(0 < first[0] && first[0] < second[0] && 0 < first[1] && first[0]/second[0] < want && want < 1) {
		return Slowing{}, fmt.Errorf("growth does not slow between the two observations, so no final spread follows from them")
	}
	lo, hi := 1e-9, 50.0
	for range 200 {
		k := (lo + hi) / 2
		// The ratio rises from a₁/a₂ to 1 with k.
		if math.Expm1(-k*first[0])/math.Expm1(-k*second[0]) < want {
			lo = k
		} else {
			hi = k
		}
	}
	return Slowing{second[1] / math.Pow(-math.Expm1(-lo*second[0]), shape), lo, shape}, nil
}

// SpreadM is the diameter in metres at an age.
func (s Slowing) SpreadM(age float64) float64 {
	return s.FinalM * math.Pow(-math.Expm1(-s.Rate*math.Max(0, age)), s.Shape)
}

// AgeAt is the age at which the spread reaches d metres; +Inf when it never does.
func (s Slowing) AgeAt(d float64) float64 {
	if d >= s.FinalM {
		return math.Inf(1)
	}
	return -math.Log(1-math.Pow(d/s.FinalM, 1/s.Shape)) / s.Rate
}
