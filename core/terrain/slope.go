package terrain

import (
	"math"

	"slowroot/core/finding"
)

// SlopeClass is a class of gradient (FAO, Guidelines for soil description, 2006) with what it asks for
// (common practice, no source).
type SlopeClass struct {
	Name    string  `json:"name"`
	UpTo    float64 `json:"upTo"`
	Works   string  `json:"works"`
	Machine string  `json:"machine"`
}

// SlopeClasses, gentle to steep.
var SlopeClasses = []SlopeClass{
	{"flat", 0.2, "crown the beds; grade furrows to 0.1–0.3 %", ""},
	{"level", 0.5, "crown the beds; grade furrows to 0.1–0.3 %", ""},
	{"nearly level", 1, "crown the beds; grade furrows to 0.1–0.3 %", ""},
	{"very gently sloping", 2, "rows any way, best with a fall of 0.5–2 % along them", ""},
	{"gently sloping", 5, "rows any way, best with a fall of 0.5–2 % along them", ""},
	{"sloping", 10, "rows across the slope on a grade of 0.5–1 %; cover in the alleys", ""},
	{"strongly sloping", 15, "contour rows; no bare soil", "tractors uphill and down only with care; sideways the risk of rolling over rises above 15–20 %"},
	{"moderately steep", 30, "bench or single-tree terraces", "not by wheeled machine: hand or tracked work"},
	{"steep", 60, "single basins, or leave it", "not by machine"},
	{"very steep", math.Inf(1), "do not plant", "not by machine"},
}

// ClassOfSlope finds the class of a gradient in %.
func ClassOfSlope(pct float64) SlopeClass {
	for _, c := range SlopeClasses {
		if pct <= c.UpTo {
			return c
		}
	}
	return SlopeClasses[len(SlopeClasses)-1]
}

// Terrace is a bench terrace (Sheng, Soil conservation for small farmers in the humid tropics, FAO Soils
// Bulletin 60, 1989).
type Terrace struct {
	IntervalM  float64 `json:"intervalM"`  // vertical
	PitchM     float64 `json:"pitchM"`     // horizontal, bench to bench
	BenchShare float64 `json:"benchShare"` // level share of the ground
	CutM3PerM  float64 `json:"cutM3PerM"`  // half cut, half fill, riser batter left out
	CutM3PerHa float64 `json:"cutM3PerHa"`
	RiserM     float64 `json:"riserM"` // with 0.1 m for a reverse slope
}

// NewTerrace takes the ground's slope in %, the bench width in m and the riser's slope as horizontal
// over vertical: 1.0 machine-cut earth, 0.75 hand-cut, 0.5 stone. Slope · riser must stay below 100.
func NewTerrace(slopePct, benchM, riser float64) (Terrace, error) {
	switch {
	case !(slopePct > 0 && slopePct*riser < 100):
		return Terrace{}, finding.Bad("slopePct", slopePct, "is too steep for benches with this riser, or flat", "more than 0, and slope × riser below 100")
	case !(benchM > 0 && benchM <= 50):
		return Terrace{}, finding.Bad("benchM", benchM, "is not the width of a bench", "more than 0, at most 50 m")
	case !(riser >= 0 && riser <= 3):
		return Terrace{}, finding.Bad("riser", riser, "is not the slope of a riser", "0 to 3, horizontal over vertical")
	}
	vi := slopePct * benchM / (100 - slopePct*riser)
	t := Terrace{IntervalM: vi, PitchM: vi * 100 / slopePct, CutM3PerM: benchM * benchM * slopePct / 800, RiserM: vi + 0.1}
	t.BenchShare = benchM / t.PitchM
	t.CutM3PerHa = t.CutM3PerM * 1e4 / t.PitchM
	return t, nil
}

// AlongSlope is how much longer a wire or pipe is than its plan length on a fall of pct along it.
func AlongSlope(pct float64) float64 { return math.Sqrt(1 + pct*pct/1e4) }
