// Package units is the one table of how quantities are shown. Inside the program everything is SI;
// a quantity has a name, and each system says the unit, the factor from SI and the decimals shown.
// The front end's formatter reads the same table (generated as JSON), so that screen, print and the
// sentences written here agree.
package units

import (
	"math"
	"strconv"
	"strings"
)

// System is how an estate wants its figures shown.
type System string

const (
	Metric System = "metric"
	US     System = "us" // US customary
)

// Show is a unit of display: shown value = SI value × Factor, rounded to Decimals.
type Show struct {
	Unit     string  `json:"unit"`
	Factor   float64 `json:"factor"`
	Decimals int     `json:"decimals"`
}

// Quantity names what a number measures; the SI unit it is stored in stands in the table.
type Quantity string

const (
	Area       Quantity = "area"       // m²
	Floor      Quantity = "floor"      // m², of a building
	Distance   Quantity = "distance"   // m, long: row metres, perimeter
	Spacing    Quantity = "spacing"    // m, to a centimetre
	Count      Quantity = "count"      // pieces
	PerArea    Quantity = "perArea"    // pieces per ha
	YieldKg    Quantity = "yieldKg"    // kg/ha, shown as a mass per area in kg or lb
	YieldT     Quantity = "yieldT"     // kg/ha, shown in tonnes or short tons per area
	MassKg     Quantity = "massKg"     // kg
	MassT      Quantity = "massT"      // kg, shown in tonnes or short tons
	Rate       Quantity = "rate"       // kg/ha of a nutrient
	PlantDose  Quantity = "plantDose"  // g per plant
	Fraction   Quantity = "fraction"   // 0 to 1, shown in per cent
	Years      Quantity = "years"      // years
	Year       Quantity = "year"       // a calendar or age year: no thousands mark
	Angle      Quantity = "angle"      // degrees
	Days       Quantity = "days"       // days
	Plain      Quantity = "plain"      // a ratio
	Temp       Quantity = "temp"       // °C
	Warmth     Quantity = "warmth"     // °C, a difference
	Rain       Quantity = "rain"       // mm
	Correction Quantity = "correction" // a small ratio, three decimals
	Depth      Quantity = "depth"      // cm below the surface
	Height     Quantity = "height"     // m above the sea
	Slope      Quantity = "slope"      // %, metres of fall in a hundred
	Percent    Quantity = "percent"    // %, stored as such: a share of soil
	Hours      Quantity = "hours"      // h of work
	PH         Quantity = "ph"         // pH
	Charge     Quantity = "charge"     // cmolc/kg
	Salinity   Quantity = "salinity"   // dS/m
	Flow       Quantity = "flow"       // mm/h, permeability
	Density    Quantity = "density"    // g/cm³
	Speed      Quantity = "speed"      // m/s
	Earth      Quantity = "earth"      // m³
	Velocity   Quantity = "velocity"   // m/s, of water
	Outflow    Quantity = "outflow"    // m³/s
	Volume     Quantity = "volume"     // L, of water, compost, peat
	Seep       Quantity = "seep"       // m/day, permeability of a soil to groundwater
	Drained    Quantity = "drained"    // mm/day
	Grade      Quantity = "grade"      // m of fall for each m
)

// Entry is one quantity in both systems.
type Entry struct {
	SI     string  `json:"si"`
	Metric Show    `json:"metric"`
	US     Show    `json:"us"`
	USZero float64 `json:"usZero,omitempty"` // added after the factor, for °F
}

// Conversion factors, exact by definition: 1 ft = 0.3048 m, 1 acre = 4046.8564224 m²,
// 1 lb = 0.45359237 kg, 1 short ton = 907.18474 kg (NIST Special Publication 811, appendix B).
const (
	ftPerM    = 1 / 0.3048
	acPerM2   = 1 / 4046.8564224
	haPerAc   = 0.40468564224
	lbPerKg   = 1 / 0.45359237
	tonsPerKg = 1 / 907.18474
)

// Table is every quantity.
var Table = map[Quantity]Entry{
	Area:       {SI: "m²", Metric: Show{"ha", 1e-4, 2}, US: Show{"ac", acPerM2, 2}},
	Floor:      {SI: "m²", Metric: Show{"m²", 1, 0}, US: Show{"sq ft", ftPerM * ftPerM, 0}},
	Distance:   {SI: "m", Metric: Show{"m", 1, 0}, US: Show{"ft", ftPerM, 0}},
	Spacing:    {SI: "m", Metric: Show{"m", 1, 2}, US: Show{"ft", ftPerM, 2}},
	Count:      {SI: "", Metric: Show{"", 1, 0}, US: Show{"", 1, 0}},
	PerArea:    {SI: "/ha", Metric: Show{"/ha", 1, 0}, US: Show{"/ac", haPerAc, 0}},
	YieldKg:    {SI: "kg/ha", Metric: Show{"kg/ha", 1, 0}, US: Show{"lb/ac", lbPerKg * haPerAc, 0}},
	YieldT:     {SI: "kg/ha", Metric: Show{"t/ha", 1e-3, 1}, US: Show{"short tons/ac", tonsPerKg * haPerAc, 2}},
	MassKg:     {SI: "kg", Metric: Show{"kg", 1, 0}, US: Show{"lb", lbPerKg, 0}},
	MassT:      {SI: "kg", Metric: Show{"t", 1e-3, 1}, US: Show{"short tons", tonsPerKg, 1}},
	Rate:       {SI: "kg/ha", Metric: Show{"kg/ha", 1, 0}, US: Show{"lb/ac", lbPerKg * haPerAc, 0}},
	PlantDose:  {SI: "g", Metric: Show{"g", 1, 0}, US: Show{"oz", 1 / 28.349523125, 1}},
	Fraction:   {SI: "1", Metric: Show{"%", 100, 0}, US: Show{"%", 100, 0}},
	Years:      {SI: "years", Metric: Show{"years", 1, 0}, US: Show{"years", 1, 0}},
	Year:       {SI: "", Metric: Show{"", 1, 0}, US: Show{"", 1, 0}},
	Angle:      {SI: "°", Metric: Show{"°", 1, 0}, US: Show{"°", 1, 0}},
	Days:       {SI: "days", Metric: Show{"days", 1, 0}, US: Show{"days", 1, 0}},
	Plain:      {SI: "", Metric: Show{"", 1, 2}, US: Show{"", 1, 2}},
	Temp:       {SI: "°C", Metric: Show{"°C", 1, 1}, US: Show{"°F", 1.8, 0}, USZero: 32},
	Warmth:     {SI: "°C", Metric: Show{"°C", 1, 1}, US: Show{"°F", 1.8, 1}},
	Rain:       {SI: "mm", Metric: Show{"mm", 1, 0}, US: Show{"in", 1 / 25.4, 1}},
	Correction: {SI: "", Metric: Show{"", 1, 3}, US: Show{"", 1, 3}},
	Depth:      {SI: "cm", Metric: Show{"cm", 1, 0}, US: Show{"in", 1 / 2.54, 0}},
	Height:     {SI: "m", Metric: Show{"m", 1, 1}, US: Show{"ft", ftPerM, 0}},
	Slope:      {SI: "%", Metric: Show{"%", 1, 1}, US: Show{"%", 1, 1}},
	Percent:    {SI: "%", Metric: Show{"%", 1, 1}, US: Show{"%", 1, 1}},
	Hours:      {SI: "h", Metric: Show{"h", 1, 0}, US: Show{"h", 1, 0}},
	PH:         {SI: "", Metric: Show{"", 1, 1}, US: Show{"", 1, 1}},
	Charge:     {SI: "cmolc/kg", Metric: Show{"cmolc/kg", 1, 2}, US: Show{"meq/100 g", 1, 2}},
	Salinity:   {SI: "dS/m", Metric: Show{"dS/m", 1, 1}, US: Show{"dS/m", 1, 1}},
	Flow:       {SI: "mm/h", Metric: Show{"mm/h", 1, 1}, US: Show{"in/h", 1 / 25.4, 2}},
	Density:    {SI: "g/cm³", Metric: Show{"g/cm³", 1, 2}, US: Show{"g/cm³", 1, 2}},
	Speed:      {SI: "m/s", Metric: Show{"m/s", 1, 1}, US: Show{"mph", 1 / 0.44704, 0}},
	Earth:      {SI: "m³", Metric: Show{"m³", 1, 0}, US: Show{"yd³", 1 / 0.764554857984, 0}},
	Velocity:   {SI: "m/s", Metric: Show{"m/s", 1, 2}, US: Show{"ft/s", ftPerM, 1}},
	Volume:     {SI: "L", Metric: Show{"L", 1, 0}, US: Show{"gal", 1 / 3.785411784, 0}},
	Outflow:    {SI: "m³/s", Metric: Show{"L/s", 1000, 2}, US: Show{"gal/min", 1 / 6.30901964e-5, 1}},
	Seep:       {SI: "m/day", Metric: Show{"m/day", 1, 2}, US: Show{"ft/day", ftPerM, 2}},
	Drained:    {SI: "mm/day", Metric: Show{"mm/day", 1, 1}, US: Show{"in/day", 1 / 25.4, 2}},
	Grade:      {SI: "m/m", Metric: Show{"%", 100, 2}, US: Show{"%", 100, 2}},
}

// In gives the display of q in system s; an unknown quantity is shown as it is stored.
func In(q Quantity, s System) Show {
	e, ok := Table[q]
	switch {
	case !ok:
		return Show{"", 1, 2}
	case s == US:
		return e.US
	}
	return e.Metric
}

// thin is a narrow no-break space, the thousands mark; gap a no-break space, before a unit.
const (
	thin = "\u202f"
	gap  = "\u00a0"
)

// Number writes v, stored in SI, in the units of s without its unit.
func Number(v float64, q Quantity, s System) string {
	sh := In(q, s)
	x := v * sh.Factor
	if s == US {
		x += Table[q].USZero
	}
	return group(x, sh.Decimals, q == Year)
}

// Text is Number with its unit.
func Text(v float64, q Quantity, s System) string {
	n, u := Number(v, q, s), In(q, s).Unit
	switch {
	case u == "":
		return n
	case u == "°" || strings.HasPrefix(u, "/"):
		return n + u
	}
	return n + gap + u
}

func group(x float64, decimals int, plain bool) string {
	if math.IsNaN(x) || math.IsInf(x, 0) {
		return "–"
	}
	s := strconv.FormatFloat(math.Abs(x), 'f', decimals, 64)
	whole, frac, _ := strings.Cut(s, ".")
	if !plain {
		for i := len(whole) - 3; i > 0; i -= 3 {
			whole = whole[:i] + thin + whole[i:]
		}
	}
	if frac != "" {
		whole += "." + frac
	}
	if x < 0 && strings.Trim(s, "0.") != "" {
		whole = "−" + whole
	}
	return whole
}
