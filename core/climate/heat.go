package climate

import (
	"math"

	"slowroot/core/finding"
)

// HeatSchool is a way of counting degree-days of a day (method C4). A threshold sum is valid only with
// the school it was made with.
type HeatSchool string

const (
	AverageFloor HeatSchool = "average, floor at nought"
	AverageClip  HeatSchool = "average, both clipped first"
	Triangle     HeatSchool = "single triangle"
	Sine         HeatSchool = "single sine"
)

// HeatSchools in the order they are shown; the sine is the default.
var HeatSchools = []HeatSchool{Sine, Triangle, AverageFloor, AverageClip}

// DegreeDays of a day above base, with an upper threshold cut off horizontally where upper > base
// (Baskerville & Emin, Ecology, 1969, sine; Lindsey & Newman, Ecology, 1956, triangle; McMaster &
// Wilhelm, Agric. For. Meteorol., 1997, the two averages).
func DegreeDays(tmin, tmax, base, upper float64, school HeatSchool) (float64, error) {
	if tmax < tmin {
		return 0, finding.Bad("tmaxC", tmax, "is below the minimum", "a maximum at or above the minimum")
	}
	capped := upper > base
	switch school {
	case AverageFloor:
		if capped {
			tmax = math.Min(tmax, upper)
		}
		return math.Max(0, (tmax+tmin)/2-base), nil
	case AverageClip:
		clip := func(t float64) float64 {
			if capped {
				t = math.Min(t, upper)
			}
			return math.Max(t, base)
		}
		return (clip(tmin)+clip(tmax))/2 - base, nil
	case Triangle, Sine:
		f := sine
		if school == Triangle {
			f = triangle
		}
		d := f(tmin, tmax, base)
		if capped {
			d -= f(tmin, tmax, upper)
		}
		return d, nil
	}
	return 0, finding.Bad("school", school, "is not a way of counting degree-days", "one of the four")
}

func triangle(tn, tx, base float64) float64 {
	switch {
	case tx <= base:
		return 0
	case tn >= base:
		return (tx+tn)/2 - base
	}
	return (tx - base) * (tx - base) / (2 * (tx - tn))
}

func sine(tn, tx, base float64) float64 {
	m, a := (tx+tn)/2, (tx-tn)/2
	switch {
	case tx <= base:
		return 0
	case tn >= base:
		return m - base
	}
	th := math.Asin((base - m) / a)
	return ((m-base)*(math.Pi/2-th) + a*math.Cos(th)) / math.Pi
}
