package drainage

import "math"

// Ditch is the section of an open ditch, m: its floor, its depth and its sides, so many metres out for each metre up.
type Ditch struct{ FloorM, SideM, DepthM float64 }

// FieldDitch is the usual one of a depth: floor 0.4 m, sides 1 : 1 (method DRN-1; common practice).
func FieldDitch(depthM float64) Ditch { return Ditch{0.4, 1, depthM} }

// BermM is the strip beside a ditch that stays free (common practice: 1 to 2 m).
const BermM = 1.5

// SectionM2 is its cross-section, the earth to be dug of each metre.
func (d Ditch) SectionM2() float64 { return (d.FloorM + d.SideM*d.DepthM) * d.DepthM }

// LandM is the width of land it takes with its berm.
func (d Ditch) LandM() float64 { return d.FloorM + 2*d.SideM*d.DepthM + BermM }

// EarthN is Manning's n of a ditch in earth with short grass; from memory: Chow, Open-Channel Hydraulics, 1959,
// Table 5-6 (0.022 to 0.033).
const EarthN = 0.03

// Wet is the section of water so deep, m², and the length of floor and sides it touches, m.
func (d Ditch) Wet(waterM float64) (area, perimeter float64) {
	return (d.FloorM + d.SideM*waterM) * waterM, d.FloorM + 2*waterM*math.Sqrt(1+d.SideM*d.SideM)
}

// Flow is what runs in it with water so deep at a grade (m/m), m³/s, and how fast, m/s, by Manning.
func (d Ditch) Flow(waterM, grade, n float64) (m3s, velocity float64) {
	area, wet := d.Wet(waterM)
	if area <= 0 {
		return 0, 0
	}
	velocity = math.Pow(area/wet, 2.0/3) * math.Sqrt(grade) / n
	return area * velocity, velocity
}

// WaterM is how deep a flow of m³/s stands in it at a grade; it may be deeper than the ditch.
func (d Ditch) WaterM(m3s, grade, n float64) float64 {
	lo, hi := 0.0, 1.0
	for q, _ := d.Flow(hi, grade, n); q < m3s && hi < 1000; q, _ = d.Flow(hi, grade, n) {
		hi *= 2
	}
	for range 60 {
		mid := (lo + hi) / 2
		if q, _ := d.Flow(mid, grade, n); q < m3s {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2
}

// EarthVelocity is the fastest clear water an unlined ditch bears in a soil, m/s; from memory: Fortier & Scobey,
// Permissible canal velocities, Trans. ASCE 89:940–956, 1926.
func EarthVelocity(texture string) float64 {
	switch texture {
	case "sand", "loamy sand":
		return 0.46
	case "sandy loam":
		return 0.53
	case "silt", "silt loam":
		return 0.61
	case "clay", "silty clay", "sandy clay":
		return 1.14
	}
	return 0.76
}
