// Package water turns reference evapotranspiration into what a crop uses and rain into what reaches its
// roots, per month (methods WAT-2 and WAT-3).
package water

import (
	"math"

	"slowroot/core/finding"
)

// Adjust is a table crop coefficient of mid-season or later (0.45 or more) moved to a climate: wind at
// 2 m in m/s, minimum humidity in %, height in m (Allen et al., FAO Irrigation and Drainage Paper 56,
// 1998).
func Adjust(kc, wind2, rhMin, heightM float64) float64 {
	if kc < 0.45 {
		return kc
	}
	u, rh, h := clamp(wind2, 1, 6), clamp(rhMin, 20, 80), clamp(heightM, 0.1, 10)
	return kc + (0.04*(u-2)-0.004*(rh-45))*math.Pow(h/3, 0.3)
}

func clamp(x, lo, hi float64) float64 { return math.Max(lo, math.Min(hi, x)) }

// Cover is the reduction of a full coefficient by shaded ground, by each school.
type Cover struct {
	Linear  float64 `json:"linear"`  // full at 85 % (from memory: FAO 36)
	Split   float64 `json:"split"`   // from memory: FAO 36
	Plus    float64 `json:"plus"`    // cover + 0.1
	Double  float64 `json:"double"`  // common for young orchards
	Density float64 `json:"density"` // Allen & Pereira, Irrigation Science 28:17–34, 2009; the default
}

// ByCover computes every school for a shaded share fc at noon, a height in m and a multiplier ml of 1.5
// to 2.0.
func ByCover(fc, heightM, ml float64) (Cover, error) {
	if !(fc >= 0 && fc <= 1) {
		return Cover{}, finding.Bad("cover", fc, "is not a share of shaded ground", "0 to 1")
	}
	c := Cover{Linear: math.Min(1, fc/0.85), Split: fc, Plus: math.Min(1, fc+0.1), Double: math.Min(1, 2*fc),
		Density: math.Min(1, math.Min(ml*fc, math.Pow(fc, 1/(1+heightM))))}
	if fc >= 0.5 {
		c.Split = fc + 0.5*(1-fc)
	}
	return c, nil
}

// Coefficient is the basal coefficient of a stand that does not yet cover its ground.
func Coefficient(density, full, bare float64) float64 { return bare + density*(full-bare) }

// Effective is a month's effective rain in mm by each school (method WAT-3).
type Effective struct {
	Storage float64 `json:"storage"` // SCS TR-21, the default where the crop's use is known
	Simple  float64 `json:"simple"`  // SCS, quick
	Eighty  float64 `json:"eighty"`  // 80 % rule
	Fixed   float64 `json:"fixed"`   // three quarters
}

// EffectiveRain takes a month's rain and crop use in mm and the soil's usable storage in mm.
func EffectiveRain(rain, use, storage float64) (Effective, error) {
	switch {
	case !(rain >= 0 && rain <= 3000):
		return Effective{}, finding.Bad("rainMm", rain, "is not a month's rain", "0 to 3000 mm")
	case !(use >= 0 && use <= 1000):
		return Effective{}, finding.Bad("cropUseMm", use, "is not a month's use", "0 to 1000 mm")
	}
	d := clamp(storage, 0, 150)
	f := 0.531747 + 0.011621*d - 8.943e-5*d*d + 2.321e-7*d*d*d
	e := Effective{Storage: f * (1.252474*math.Pow(rain, 0.82416) - 2.935224) * math.Pow(10, 0.00095*use), Fixed: 0.75 * rain}
	e.Storage = clamp(e.Storage, 0, math.Min(rain, use))
	if rain <= 250 {
		e.Simple = rain * (125 - 0.2*rain) / 125
	} else {
		e.Simple = 125 + 0.1*rain
	}
	if rain <= 70 {
		e.Eighty = math.Max(0, 0.6*rain-10)
	} else {
		e.Eighty = 0.8*rain - 24
	}
	return e, nil
}

// GrownCoefficient is the crop coefficient of a grown stand where no sheet gives one; assumed.
const GrownCoefficient = 0.9
