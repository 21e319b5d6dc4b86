// Package amend computes what a soil is given before planting: lime, sulphur, gypsum, organic matter.
// Rates are per treated hectare to the stated depth until a function says otherwise.
package amend

import (
	"fmt"
	"math"

	"slowroot/core/finding"
)

// School is a way of computing a lime requirement (method AMD-1).
type School string

const (
	BaseSaturation School = "base-saturation" // raise base saturation of the CEC at pH 7
	TargetPH       School = "target-ph"       // pH step × lime factor of the texture
	Buffer         School = "buffer"          // buffer pH
	Aluminium      School = "aluminium"       // neutralise Al, supply Ca + Mg
)

// Schools in the order they are shown.
var Schools = []School{BaseSaturation, TargetPH, Buffer, Aluminium}

// LimeCase is what the schools compute from; a nil number is not known.
type LimeCase struct {
	PH           *float64 // in water
	TargetPH     float64
	BufferPH     *float64
	BufferMethod string   // smp or mehlich
	CEC          *float64 // at pH 7, cmolc/dm³
	BasePct      *float64 // base saturation now
	TargetBase   float64  // wanted
	Al, CaMg     *float64 // cmolc/dm³
	AlTolerated  float64  // % Al saturation the crop bears
	CaMgWanted   float64  // cmolc/dm³
	ECEC         *float64 // effective CEC: bases + Al
	ClayPct      float64
	TextureGroup string // coarse … fine
	OMPct        float64
	DepthCm      float64
}

// MostCEC is the exchange capacity in cmolc/kg above which a mineral soil's is doubted (common practice: smectite clays
// reach 50 to 60).
const MostCEC = 60.0

// Need is one school's answer in t of pure CaCO₃ per treated hectare.
type Need struct {
	School      School  `json:"school"`
	TPerHa      float64 `json:"tPerHa"`
	Formula     string  `json:"formula"`
	Substituted string  `json:"substituted"`
	Source      string  `json:"source"`
	Why         string  `json:"why"`  // why it is nothing, when it is
	Lack        string  `json:"lack"` // what it cannot be computed without, "" when it can
}

// Lime answers by every school (method AMD-1). A school without its data says what it lacks. An error
// is an input no school can use.
func Lime(c LimeCase) ([]Need, error) {
	if !(c.DepthCm > 0 && c.DepthCm <= 60) {
		return nil, finding.Bad("depthCm", c.DepthCm, "is not a depth lime is mixed to", "1 to 60 cm")
	}
	if c.PH != nil && !(*c.PH >= 3 && *c.PH <= 10) {
		return nil, finding.Bad("ph", *c.PH, "is not the pH of a soil", "3 to 10")
	}
	if c.CEC != nil && *c.CEC <= 0 {
		return nil, finding.Bad("cec", *c.CEC, "is not an exchange capacity", "more than 0 cmolc/dm³")
	}
	if c.CEC != nil && *c.CEC > MostCEC && c.OMPct < 20 {
		return nil, finding.Bad("cec", *c.CEC, fmt.Sprintf("is more than a mineral soil holds, %g cmolc: it looks like mmolc, ten times as many", MostCEC),
			fmt.Sprintf("%.3g, if it is in mmolc; else have it measured again", *c.CEC/10))
	}
	if c.BasePct != nil && !(*c.BasePct >= 0 && *c.BasePct <= 100) {
		return nil, finding.Bad("basePct", *c.BasePct, "is not a base saturation", "0 to 100 %")
	}
	if c.Al != nil && c.PH != nil && *c.Al > 0.3 && *c.PH > 5.8 {
		return nil, finding.Bad("al", *c.Al, fmt.Sprintf("aluminium at pH %.1f contradicts itself: above 5.8 there is next to none", *c.PH), "ask the laboratory")
	}
	return []Need{c.byBases(), c.byTarget(), c.byBuffer(), c.byAluminium()}, nil
}

func (c LimeCase) byBases() Need {
	n := Need{School: BaseSaturation, Formula: "CEC · (V wanted − V now) / 100 · depth / 20 cm",
		Source: "van Raij et al., Boletim Técnico 100, Instituto Agronômico, 2nd ed., 1997"}
	if c.CEC == nil || c.BasePct == nil {
		n.Lack = "CEC at pH 7 and base saturation"
		return n
	}
	n.Substituted = fmt.Sprintf("%.3f · (%g − %.2f) / 100 · %g / 20", *c.CEC, c.TargetBase, *c.BasePct, c.DepthCm)
	n.TPerHa = math.Max(0, *c.CEC*(c.TargetBase-*c.BasePct)/100*c.DepthCm/20)
	if n.TPerHa == 0 {
		n.Why = fmt.Sprintf("base saturation is %.0f %%, %.0f %% is wanted", *c.BasePct, c.TargetBase)
	}
	return n
}

// LimeFactor is t CaCO₃ per ha and pH unit in 20 cm (from memory: UK nutrient-management guide RB209).
func LimeFactor(group string, omPct float64) float64 {
	switch {
	case omPct > 25:
		return 16
	case omPct > 10:
		return 8
	case group == "coarse":
		return 6
	case group == "fine" || group == "moderately fine":
		return 8
	}
	return 7
}

func (c LimeCase) byTarget() Need {
	n := Need{School: TargetPH, Formula: "(pH wanted − pH) · lime factor · depth / 20 cm", Source: "lime factors from memory: UK nutrient-management guide RB209"}
	if c.PH == nil {
		n.Lack = "pH"
		return n
	}
	f := LimeFactor(c.TextureGroup, c.OMPct)
	n.Substituted = fmt.Sprintf("(%g − %.2f) · %g · %g / 20", c.TargetPH, *c.PH, f, c.DepthCm)
	n.TPerHa = math.Max(0, (c.TargetPH-*c.PH)*f*c.DepthCm/20)
	if n.TPerHa == 0 {
		n.Why = fmt.Sprintf("the pH is %.1f, %.1f is wanted", *c.PH, c.TargetPH)
	}
	return n
}

// smp is t of pure lime per ha in 20 cm by SMP buffer pH 4.4 … 7.0 to pH 5.5, 6.0 and 6.5 (from
// memory: southern-Brazil SMP table).
var smp = [][3]float64{{15, 21, 29}, {12.5, 17.3, 24}, {10.9, 15.1, 20}, {9.6, 13.3, 17.5}, {8.5, 11.9, 15.7}, {7.7, 10.7, 14.2}, {6.6, 9.9, 13.3},
	{6.0, 9.1, 12.3}, {5.3, 8.3, 11.3}, {4.8, 7.5, 10.4}, {4.2, 6.8, 9.5}, {3.7, 6.1, 8.6}, {3.2, 5.4, 7.8}, {2.8, 4.8, 7.0}, {2.3, 4.2, 6.3},
	{2.0, 3.7, 5.6}, {1.6, 3.2, 4.9}, {1.3, 2.7, 4.3}, {1.0, 2.2, 3.7}, {0.8, 1.8, 3.1}, {0.6, 1.4, 2.6}, {0.4, 1.1, 2.1}, {0.2, 0.8, 1.6},
	{0, 0.5, 1.2}, {0, 0.3, 0.8}, {0, 0.2, 0.5}, {0, 0, 0.2}}

// SMP reads the table, linear between its lines and targets; targets outside 5.5 to 6.5 give false.
func SMP(buffer, target float64) (float64, bool) {
	if target < 5.5 || target > 6.5 {
		return 0, false
	}
	row := func(i int) float64 {
		r := smp[min(max(i, 0), len(smp)-1)]
		if target <= 6 {
			return r[0] + (r[1]-r[0])*(target-5.5)/0.5
		}
		return r[1] + (r[2]-r[1])*(target-6)/0.5
	}
	x := math.Min(math.Max((buffer-4.4)*10, 0), float64(len(smp)-1))
	i := int(x + 1e-9)
	return row(i) + (row(i+1)-row(i))*math.Max(0, x-float64(i)), true
}

func (c LimeCase) byBuffer() Need {
	n := Need{School: Buffer}
	switch {
	case c.BufferPH == nil:
		n.Lack = "buffer pH"
		return n
	case c.BufferMethod == "smp":
		n.Formula, n.Source = "table of the SMP buffer, t/ha in 20 cm · depth / 20 cm", "from memory: southern-Brazil SMP table; a laboratory's own table replaces it"
		t, ok := SMP(*c.BufferPH, c.TargetPH)
		if !ok {
			n.Lack = fmt.Sprintf("a target the table knows: it goes from 5.5 to 6.5, %.1f is wanted", c.TargetPH)
			return n
		}
		n.Formula = fmt.Sprintf("table of the SMP buffer from %.1f to pH %.1f, t/ha in 20 cm · depth / 20 cm", *c.BufferPH, c.TargetPH)
		n.TPerHa, n.Substituted = t*c.DepthCm/20, fmt.Sprintf("%.3f · %g / 20", t, c.DepthCm)
	default:
		n.Formula, n.Source = "4·(6.6 − buffer pH) · (pH wanted − pH)/(6.6 − pH) · 0.05 · depth", "from memory: Mehlich 1976, linear scale"
		if c.PH == nil || *c.PH >= 6.6 || *c.BufferPH >= 6.6 {
			n.Lack = "a pH and a buffer pH below 6.6"
			return n
		}
		a := 4 * (6.6 - *c.BufferPH)
		n.TPerHa = math.Max(0, a*(c.TargetPH-*c.PH)/(6.6-*c.PH)*0.05*c.DepthCm)
		n.Substituted = fmt.Sprintf("4·(6.6 − %.2f) · (%g − %.2f)/(6.6 − %.2f) · 0.05 · %g", *c.BufferPH, c.TargetPH, *c.PH, *c.PH, c.DepthCm)
	}
	if n.TPerHa == 0 {
		n.Why = fmt.Sprintf("the buffer pH of %.1f shows no acidity left to neutralise for pH %.1f", *c.BufferPH, c.TargetPH)
	}
	return n
}

// AlFactor is Y of the aluminium school by clay %: 0–1, 1–2, 2–3, 3–4, linear in each band (from
// memory: Minas Gerais 5th approximation, 1999).
func AlFactor(clayPct float64) float64 {
	switch {
	case clayPct <= 15:
		return clayPct / 15
	case clayPct <= 35:
		return 1 + (clayPct-15)/20
	case clayPct <= 60:
		return 2 + (clayPct-35)/25
	}
	return math.Min(4, 3+(clayPct-60)/40)
}

func (c LimeCase) byAluminium() Need {
	n := Need{School: Aluminium, Formula: "[Y · max(0, Al − m·t/100) + max(0, X − (Ca + Mg))] · depth / 20 cm",
		Source: "from memory: Minas Gerais 5th approximation, 1999; without Ca and Mg 1.5 · Al, Kamprath, Soil Sci. Soc. Am. Proc. 34:252–254, 1970"}
	switch {
	case c.Al == nil:
		n.Lack = "exchangeable aluminium"
		return n
	case c.CaMg == nil || c.ECEC == nil:
		n.Formula = "1.5 · Al · depth / 20 cm"
		n.TPerHa, n.Substituted = AluminiumOnly(*c.Al, c.DepthCm), fmt.Sprintf("1.5 · %.3f · %g / 20", *c.Al, c.DepthCm)
	default:
		y := AlFactor(c.ClayPct)
		n.TPerHa = ByAluminium(y, *c.Al, *c.ECEC, c.AlTolerated, c.CaMgWanted, *c.CaMg, c.DepthCm)
		n.Substituted = fmt.Sprintf("[%.3f · max(0, %.3f − %g·%.3f/100) + max(0, %g − %.3f)] · %g / 20", y, *c.Al, c.AlTolerated, *c.ECEC, c.CaMgWanted, *c.CaMg,
			c.DepthCm)
	}
	if n.TPerHa == 0 {
		n.Why = "aluminium is below what the crop bears and calcium and magnesium suffice"
	}
	return n
}

// ByAluminium is the school's formula with its factor Y given.
func ByAluminium(y, al, ecec, tolerated, wanted, caMg, depthCm float64) float64 {
	return (y*math.Max(0, al-tolerated*ecec/100) + math.Max(0, wanted-caMg)) * depthCm / 20
}

// AluminiumOnly is the least rate: 1.5 · Al in 20 cm (Kamprath, 1970).
func AluminiumOnly(al, depthCm float64) float64 { return 1.5 * al * depthCm / 20 }

// Preferred is the school to take when nobody has chosen: a buffer test is the most local calibration,
// then a full cation test, then pH, then aluminium; "" when none can answer.
func Preferred(needs []Need) School {
	for _, s := range []School{Buffer, BaseSaturation, TargetPH, Aluminium} {
		for _, n := range needs {
			if n.School == s && n.Lack == "" {
				return s
			}
		}
	}
	return ""
}

// Disagreement is the largest answer over the smallest of those that ask for lime; 1 with fewer than two.
func Disagreement(needs []Need) float64 {
	lo, hi := math.Inf(1), 0.0
	for _, n := range needs {
		if n.Lack == "" && n.TPerHa > 0 {
			lo, hi = math.Min(lo, n.TPerHa), math.Max(hi, n.TPerHa)
		}
	}
	if hi == 0 || math.IsInf(lo, 1) {
		return 1
	}
	return hi / lo
}
