package climate

import (
	"fmt"
	"math"

	"slowroot/core/finding"
)

// Air is a day's (or a month's mean) weather for reference evapotranspiration. NaN is not measured.
type Air struct {
	LatDeg, ElevationM float64
	DOY                int
	TMin, TMax         float64
	RHMax, RHMin       float64 // %
	RHMean             float64
	DewC               float64
	VapourKPa          float64 // actual, when known itself
	SunHours           float64
	Solar              float64 // Rs, MJ/m² a day
	WindMS             float64
	WindHeightM        float64
	SoilHeat           float64 // G, MJ/m² a day; 0 for a day
	Coast              bool    // where radiation is estimated from temperature
}

// Unknown is an Air with nothing measured.
func Unknown() Air {
	n := math.NaN()
	return Air{RHMax: n, RHMin: n, RHMean: n, DewC: n, VapourKPa: n, SunHours: n, Solar: n, WindMS: n, WindHeightM: 2}
}

// Reference is reference evapotranspiration and its parts.
type Reference struct {
	MM          float64  `json:"mm"` // per day, over grass of 0.12 m
	Low         float64  `json:"low"`
	High        float64  `json:"high"`
	Hargreaves  float64  `json:"hargreaves"`
	Ra          float64  `json:"ra"` // MJ/m² a day, outside the atmosphere
	Rs          float64  `json:"rs"`
	Rnl         float64  `json:"rnl"`
	Rn          float64  `json:"rn"`
	Vapour      float64  `json:"vapour"`     // ea, kPa
	Saturation  float64  `json:"saturation"` // es, kPa
	DayLength   float64  `json:"dayLength"`
	Wind2       float64  `json:"wind2"`
	Substituted []string `json:"substituted"` // what was not measured
	Applies     bool     `json:"applies"`     // false in the polar night
}

// SaturationKPa is e°(T).
func SaturationKPa(tC float64) float64 { return 0.6108 * math.Exp(17.27*tC/(tC+237.3)) }

// PressureKPa at an elevation in m; Psychrometric is γ at it.
func PressureKPa(elevationM float64) float64 {
	return 101.3 * math.Pow((293-0.0065*elevationM)/293, 5.26)
}
func Psychrometric(elevationM float64) float64 { return 0.000665 * PressureKPa(elevationM) }

// Extraterrestrial is Ra, MJ/m² a day.
func Extraterrestrial(latDeg float64, doy int) float64 {
	f, d, w := latDeg*rad, declination(doy), sunset(latDeg, doy)
	dr := 1 + 0.033*math.Cos(2*math.Pi*float64(doy)/365)
	return 24 * 60 / math.Pi * 0.0820 * dr * (w*math.Sin(f)*math.Sin(d) + math.Cos(f)*math.Cos(d)*math.Sin(w))
}

// Wind2 turns wind measured at a height to 2 m.
func Wind2(ms, heightM float64) float64 { return ms * 4.87 / math.Log(67.8*heightM-5.42) }

// Longwave is Rnl, MJ/m² a day.
func Longwave(tmin, tmax, vapour, rs, rso float64) float64 {
	k := func(t float64) float64 { return math.Pow(t+273.16, 4) }
	return 4.903e-9 * (k(tmax) + k(tmin)) / 2 * (0.34 - 0.14*math.Sqrt(vapour)) * (1.35*clamp(rs/rso, 0.3, 1) - 0.35)
}

// SoilHeat is G of a month from the monthly mean temperatures before, at and after it.
func SoilHeat(before, after float64) float64 { return 0.07 * (after - before) }

// Hargreaves is reference evapotranspiration from temperature alone, mm a day.
func Hargreaves(tmin, tmax, ra float64) float64 {
	return math.Max(0, 0.0023*((tmin+tmax)/2+17.8)*math.Sqrt(math.Max(0, tmax-tmin))*0.408*ra)
}

// valid refuses what air cannot be.
func (a Air) valid() error {
	has := func(x float64) bool { return !math.IsNaN(x) }
	switch {
	case !(a.TMin >= -60 && a.TMax <= 60) || a.TMax < a.TMin:
		return finding.Bad("tmaxC", a.TMax, "the maximum must lie at or above the minimum", "−60 to 60 °C")
	case has(a.RHMax) && !(a.RHMax >= 0 && a.RHMax <= 100), has(a.RHMin) && !(a.RHMin >= 0 && a.RHMin <= 100), has(a.RHMean) &&
		!(a.RHMean >= 0 && a.RHMean <= 100):
		return finding.Bad("rhMaxPct", fmt.Sprintf("%g, %g, %g", a.RHMax, a.RHMin, a.RHMean), "is not a relative humidity", "0 to 100 %")
	case has(a.WindMS) && a.WindMS < 0:
		return finding.Bad("windMS", a.WindMS, "is not a wind speed", "0 m/s or more")
	case !(a.LatDeg >= -90 && a.LatDeg <= 90):
		return finding.Bad("latDeg", a.LatDeg, "is not a latitude", "−90 to 90°")
	}
	if has(a.RHMax) && has(a.RHMin) && a.RHMin > a.RHMax {
		return finding.Bad("rhMinPct", a.RHMin, fmt.Sprintf("the lowest humidity lies above the highest, %g %%", a.RHMax), "at most the highest")
	}
	return nil
}

// ET0 is reference evapotranspiration by Penman–Monteith (Allen, Pereira, Raes & Smith, Crop
// evapotranspiration, FAO Irrigation and Drainage Paper 56, 1998, chapters 3 and 4; method WAT-1). What
// is missing is put in as that paper says, named, and widens the answer by 15 %.
func ET0(a Air) (Reference, error) {
	has := func(x float64) bool { return !math.IsNaN(x) }
	if err := a.valid(); err != nil {
		return Reference{}, err
	}
	r := Reference{Substituted: []string{}, Ra: Extraterrestrial(a.LatDeg, a.DOY), DayLength: DayLength(a.LatDeg, a.DOY)}
	if has(a.SunHours) && (a.SunHours < 0 || a.SunHours > r.DayLength+0.05) {
		return Reference{}, finding.Bad("sunHours", a.SunHours, "is more sun than the day has light", "0 to the day length")
	}
	if has(a.Solar) && a.Solar > r.Ra*1.02 {
		return Reference{}, finding.Bad("solarMJ", a.Solar, fmt.Sprintf("is more sun than reaches the top of the air on this day, %.1f MJ/m²", r.Ra),
			"0 to that; watts need turning to MJ a day")
	}
	t := (a.TMax + a.TMin) / 2
	r.Saturation = (SaturationKPa(a.TMax) + SaturationKPa(a.TMin)) / 2
	switch {
	case has(a.VapourKPa):
		r.Vapour = a.VapourKPa
	case has(a.DewC):
		r.Vapour = SaturationKPa(a.DewC)
	case has(a.RHMax) && has(a.RHMin):
		r.Vapour = (SaturationKPa(a.TMin)*a.RHMax + SaturationKPa(a.TMax)*a.RHMin) / 200
	case has(a.RHMax):
		r.Vapour = SaturationKPa(a.TMin) * a.RHMax / 100
	case has(a.RHMean):
		r.Vapour = r.Saturation * a.RHMean / 100
	default:
		r.Vapour = SaturationKPa(a.TMin)
		r.Substituted = append(r.Substituted, "humidity: saturated at the minimum")
	}
	if most := SaturationKPa(a.TMax); r.Vapour > most+1e-9 {
		return Reference{}, finding.Bad(map[bool]string{true: "vapourKPa", false: "dewC"}[has(a.VapourKPa)], r.Vapour,
			fmt.Sprintf("is more vapour than air of %.1f °C holds, %.2f kPa", a.TMax, most), "at most saturation")
	}
	rso := (0.75 + 2e-5*a.ElevationM) * r.Ra
	switch {
	case r.DayLength == 0:
		r.Rs = 0
	case has(a.Solar):
		r.Rs = a.Solar
	case has(a.SunHours):
		r.Rs = (0.25 + 0.5*a.SunHours/r.DayLength) * r.Ra
	default:
		k := 0.16
		if a.Coast {
			k = 0.19
		}
		r.Rs = math.Min(k*math.Sqrt(a.TMax-a.TMin)*r.Ra, rso)
		r.Substituted = append(r.Substituted, "sun: from the temperature range")
	}
	if has(a.WindMS) {
		r.Wind2 = math.Max(0.5, Wind2(a.WindMS, a.WindHeightM))
		if a.WindHeightM == 2 {
			r.Wind2 = math.Max(0.5, a.WindMS)
		}
	} else {
		r.Wind2 = 2
		r.Substituted = append(r.Substituted, "wind: 2 m/s")
	}
	r.Hargreaves = Hargreaves(a.TMin, a.TMax, r.Ra)
	if r.Applies = r.DayLength > 0; !r.Applies {
		return r, nil
	}
	r.Rnl = Longwave(a.TMin, a.TMax, r.Vapour, r.Rs, rso)
	r.Rn = 0.77*r.Rs - r.Rnl
	slope := 4098 * SaturationKPa(t) / ((t + 237.3) * (t + 237.3))
	g := Psychrometric(a.ElevationM)
	r.MM = (0.408*slope*(r.Rn-a.SoilHeat) + g*900/(t+273)*r.Wind2*(r.Saturation-r.Vapour)) / (slope + g*(1+0.34*r.Wind2))
	r.MM = math.Max(0, r.MM)
	r.Low, r.High = r.MM, r.MM
	if len(r.Substituted) > 0 {
		r.Low, r.High = 0.85*r.MM, 1.15*r.MM
	}
	return r, nil
}
