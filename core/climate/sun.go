package climate

import (
	"math"

	"slowroot/core/civil"
)

const rad = math.Pi / 180

// DayLength is hours of daylight without refraction (FAO Irrigation and Drainage Paper 56, 1998, eq. 24,
// 25, 34), for evaporation and phenology.
func DayLength(latDeg float64, doy int) float64 { return 24 / math.Pi * sunset(latDeg, doy) }

func declination(doy int) float64 { return 0.409 * math.Sin(2*math.Pi*float64(doy)/365-1.39) }

func sunset(latDeg float64, doy int) float64 {
	return math.Acos(clamp(-math.Tan(latDeg*rad)*math.Tan(declination(doy)), -1, 1))
}

// WorkDayLength counts from the upper limb with refraction, for working hours.
func WorkDayLength(latDeg float64, doy int) float64 {
	d, f := declination(doy), latDeg*rad
	return 24 / math.Pi * math.Acos(clamp((math.Sin(-0.833*rad)-math.Sin(f)*math.Sin(d))/(math.Cos(f)*math.Cos(d)), -1, 1))
}

func clamp(x, lo, hi float64) float64 { return math.Max(lo, math.Min(hi, x)) }

// Sun is where it stands: degrees above the horizon (no refraction) and clockwise from north.
type Sun struct {
	ElevationDeg   float64 `json:"elevationDeg"`
	AzimuthDeg     float64 `json:"azimuthDeg"`
	DeclinationDeg float64 `json:"declinationDeg"`
	LongitudeDeg   float64 `json:"longitudeDeg"` // apparent, on the ecliptic
}

// SunAt is the position at a moment of universal time, minutes after midnight (Meeus, Astronomical
// Algorithms, 1998, low precision; method C12).
func SunAt(d civil.Date, utMinutes, latDeg, lonDeg float64) Sun {
	jd := float64(d.DayNumber()-civil.Must(2000, 1, 1).DayNumber()) + 2451544.5 + utMinutes/1440
	t := (jd - 2451545) / 36525
	l0 := math.Mod(280.46646+t*(36000.76983+0.0003032*t), 360)
	m := (357.52911 + t*(35999.05029-0.0001537*t)) * rad
	e := 0.016708634 - t*(0.000042037+0.0000001267*t)
	c := math.Sin(m)*(1.914602-t*(0.004817+0.000014*t)) + math.Sin(2*m)*(0.019993-0.000101*t) + math.Sin(3*m)*0.000289
	om := (125.04 - 1934.136*t) * rad
	lam := l0 + c - 0.00569 - 0.00478*math.Sin(om)
	eps := (23+(26+(21.448-t*(46.815+t*(0.00059-t*0.001813)))/60)/60)*rad + 0.00256*rad*math.Cos(om)
	dec := math.Asin(math.Sin(eps) * math.Sin(lam*rad))
	y := math.Tan(eps/2) * math.Tan(eps/2)
	l := l0 * rad
	eot := 4 / rad * (y*math.Sin(2*l) - 2*e*math.Sin(m) + 4*e*y*math.Sin(m)*math.Cos(2*l) - 0.5*y*y*math.Sin(4*l) - 1.25*e*e*math.Sin(2*m))
	ha := math.Mod((utMinutes+eot+4*lonDeg)/4-180+720, 360)
	if ha > 180 {
		ha -= 360
	}
	h, f := ha*rad, latDeg*rad
	el := math.Asin(math.Sin(f)*math.Sin(dec) + math.Cos(f)*math.Cos(dec)*math.Cos(h))
	az := math.Atan2(math.Sin(h), math.Cos(h)*math.Sin(f)-math.Tan(dec)*math.Cos(f))
	return Sun{el / rad, math.Mod(az/rad+180+360, 360), dec / rad, math.Mod(lam+360, 360)}
}

// RowShadow is how far, in m across the alley, a row of height h throws its shadow; +Inf when the sun
// is down.
func RowShadow(heightM, rowBearingDeg float64, s Sun) float64 {
	if s.ElevationDeg <= 0 {
		return math.Inf(1)
	}
	return heightM * math.Abs(math.Sin((s.AzimuthDeg-rowBearingDeg)*rad)) / math.Tan(s.ElevationDeg*rad)
}
