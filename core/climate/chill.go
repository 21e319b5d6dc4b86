package climate

import (
	"math"

	"slowroot/core/finding"
)

// Chill is what a winter of hourly temperatures gives by each model (method C6). Units are not
// interchangeable: a requirement holds only in the unit it was measured in.
type Chill struct {
	Hours         float64 `json:"hours"`         // at or below 7.2 °C (Weinberger, Proc. Am. Soc. Hort. Sci., 1950)
	HoursAbove0   float64 `json:"hoursAbove0"`   // 0 to 7.2 °C
	Utah          float64 `json:"utah"`          // Richardson, Seeley & Walker, HortScience, 1974
	PositiveUtah  float64 `json:"positiveUtah"`  // negatives set to nought
	Portions      float64 `json:"portions"`      // dynamic model
	HoursCounted  int     `json:"hoursCounted"`  // hours that had a temperature
	HoursExpected int     `json:"hoursExpected"` // hours of the season
}

// dynamic-model constants: Fishman, Erez & Couvillon, J. Theor. Biol., 1987; Erez et al., Acta Hort., 1990.
const (
	dynE0, dynE1 = 4153.5, 12888.8
	dynA0, dynA1 = 139500, 2.567e18
	dynSlope     = 1.6
	dynTf        = 277
)

// portions carries the dynamic model's intermediate product from hour to hour.
type portions struct{ e, sum float64 }

func (p *portions) hour(tC float64) {
	k := tC + 273
	xs := dynA0 / dynA1 * math.Exp((dynE1-dynE0)/k)
	k1 := dynA1 * math.Exp(-dynE1/k)
	sr := math.Exp(dynSlope * dynTf * (k - dynTf) / k)
	xi := sr / (1 + sr)
	if math.IsInf(sr, 1) {
		xi = 1
	}
	p.e = xs - (xs-p.e)*math.Exp(-k1)
	if p.e >= 1 {
		p.sum += xi * p.e
		p.e -= xi * p.e
	}
}

// UtahUnit is the Utah chill units of one hour; limits belong to the lower class.
func UtahUnit(t float64) float64 {
	switch {
	case t <= 1.4:
		return 0
	case t <= 2.4:
		return 0.5
	case t <= 9.1:
		return 1
	case t <= 12.4:
		return 0.5
	case t <= 15.9:
		return 0
	case t <= 18:
		return -0.5
	}
	return -1
}

// Chilling sums hourly temperatures; NaN is a missing hour. With less than nine tenths of the hours it
// is refused.
func Chilling(hourly []float64) (Chill, error) {
	var c Chill
	var p portions
	c.HoursExpected = len(hourly)
	for _, t := range hourly {
		if math.IsNaN(t) {
			continue
		}
		c.HoursCounted++
		if t <= 7.2 {
			c.Hours++
			if t >= 0 {
				c.HoursAbove0++
			}
		}
		u := UtahUnit(t)
		c.Utah += u
		c.PositiveUtah += math.Max(0, u)
		p.hour(t)
	}
	c.Portions = p.sum
	if c.HoursCounted == 0 || float64(c.HoursCounted) < 0.9*float64(c.HoursExpected) {
		return c, finding.Bad("hourly", c.HoursCounted, "too many hours of the season are missing for chill", "nine tenths of the hours at least")
	}
	return c, nil
}

// Hourly turns a day's minimum and maximum, the next day's minimum and the day length in hours into 24
// temperatures from sunrise on (Linvill, HortScience, 1990; method C7). Day lengths outside 4 to 20 h
// are refused: polar days need measured hours.
func Hourly(tmin, tmax, nextMin, dayLength float64) ([24]float64, error) {
	var out [24]float64
	if !(dayLength >= 4 && dayLength <= 20) {
		return out, finding.Bad("dayLengthH", dayLength, "the curve does not hold near the poles", "4 to 20 h")
	}
	if tmax < tmin {
		return out, finding.Bad("tmaxC", tmax, "is below the minimum", "a maximum at or above the minimum")
	}
	day := func(h float64) float64 { return (tmax-tmin)*math.Sin(math.Pi*h/(dayLength+4)) + tmin }
	set := day(dayLength)
	for i := range out {
		h := float64(i)
		if h <= dayLength {
			out[i] = day(h)
			continue
		}
		out[i] = set - (set-nextMin)/math.Log(24-dayLength)*math.Log(math.Max(1, h-dayLength))
	}
	return out, nil
}
