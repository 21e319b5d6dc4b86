package soil

import (
	"math"

	"slowroot/core/finding"
)

// Water is how a soil holds and lets through water. Contents are m³ of water per m³ of soil.
type Water struct {
	WiltingPoint  float64 `json:"wiltingPoint"`  // at −1500 kPa, fine earth
	FieldCapacity float64 `json:"fieldCapacity"` // at −33 kPa, fine earth
	Saturation    float64 `json:"saturation"`
	Available     float64 `json:"available"` // of the bulk soil, stones taken off
	DensityGCm3   float64 `json:"densityGCm3"`
	KsMmH         float64 `json:"ksMmH"`         // saturated conductivity of the fine earth
	BulkKsMmH     float64 `json:"bulkKsMmH"`     // with stones
	StonesVolume  float64 `json:"stonesVolume"`  // share of the bulk volume
	OutOfValidity bool    `json:"outOfValidity"` // reckoned at the nearest soil the regressions hold for: measure instead
}

// FromTexture estimates it by the regressions of Saxton & Rawls, Soil water characteristic estimates
// by texture and organic matter for hydrologic solutions, Soil Sci. Soc. Am. J. 70:1569–1578, 2006,
// Table 1 (method SOIL-2). omPct is organic matter in per cent by mass, density the factor 0.9
// (loosened) to 1.3 (compacted), stones the mass fraction of gravel 0 to 0.8. The regressions hold to 60 % clay
// and 8 % organic matter; beyond them the edge is taken, and where they leave a bare sand nothing at the wilting
// point leastHeld is. Either sets OutOfValidity.
func FromTexture(f Fractions, omPct, density, stones float64) (Water, error) {
	f, err := f.Normal()
	if err != nil {
		return Water{}, err
	}
	switch {
	case !(omPct >= 0 && omPct <= 100):
		return Water{}, finding.Bad("omPct", omPct, "is not a share of organic matter", "0 to 100 %")
	case !(density >= 0.9 && density <= 1.3):
		return Water{}, finding.Bad("densityFactor", density, "is not a density factor", "0.9 loosened, 1.0 normal, 1.1 trafficked, up to 1.3 compacted")
	case !(stones >= 0 && stones <= 0.8):
		return Water{}, finding.Bad("stonesMass", stones, "is not a mass fraction of stones this estimate covers", "0 to 0.8")
	}
	s, c, om := f.SandPct/100, math.Min(f.ClayPct/100, mostClay), math.Min(omPct, mostOM)
	outside := f.ClayPct/100 > mostClay || omPct > mostOM
	a := -0.024*s + 0.487*c + 0.006*om + 0.005*s*om - 0.013*c*om + 0.068*s*c + 0.031
	wp := a + 0.14*a - 0.02
	if wp < leastHeld {
		wp, outside = leastHeld, true
	}
	b := -0.251*s + 0.195*c + 0.011*om + 0.006*s*om - 0.027*c*om + 0.452*s*c + 0.299
	fc := b + 1.283*b*b - 0.374*b - 0.015
	d := 0.278*s + 0.034*c + 0.022*om - 0.018*s*om - 0.027*c*om - 0.584*s*c + 0.078
	sat := fc + d + 0.636*d - 0.107 - 0.097*s + 0.043
	rho := 2.65 * (1 - sat) * density
	sat2 := 1 - rho/2.65
	fc2 := fc - 0.2*(sat-sat2)
	if fc2 <= wp || sat2 <= fc2 {
		return Water{}, finding.Bad("densityFactor", density, "leaves no pores that hold or drain water in this soil", "a smaller factor, or measured values")
	}
	lambda := (math.Log(fc2) - math.Log(wp)) / (math.Log(1500) - math.Log(33))
	ks := 1930 * math.Pow(sat2-fc2, 3-lambda)
	alpha := rho / 2.65
	rv := alpha * stones / (1 - stones*(1-alpha))
	return Water{WiltingPoint: wp, FieldCapacity: fc2, Saturation: sat2, Available: (fc2 - wp) * (1 - rv), DensityGCm3: rho, KsMmH: ks,
		BulkKsMmH: ks * (1 - stones) / (1 - stones*(1-1.5*alpha)), StonesVolume: rv, OutOfValidity: outside}, nil
}

// Where the regressions end (Saxton & Rawls, 2006, abstract and figure 9), and the water a bare sand still holds at
// the wilting point (from memory, textbook values of dune sand are 1 to 2 %).
const (
	mostClay  = 0.60
	mostOM    = 8.0
	leastHeld = 0.01
)

// KsFactor is how far a conductivity estimated from texture may be off, one standard deviation on the
// log scale (common practice, no source).
const KsFactor = 2.5

// LimitingDensity is the bulk density in g/cm³ at which roots begin to suffer and at which they stop
// (from memory: USDA-NRCS soil quality indicator sheet, bulk density).
func LimitingDensity(c Class) (suffer, stop float64) {
	switch c {
	case Sand, LoamySand:
		return 1.69, 1.80
	case SandyLoam, Loam:
		return 1.63, 1.80
	case SandyClayLoam, ClayLoam, Silt, SiltLoam:
		return 1.60, 1.75
	case SiltyClayLoam:
		return 1.55, 1.65
	case SandyClay, SiltyClay:
		return 1.49, 1.58
	}
	return 1.39, 1.47
}
