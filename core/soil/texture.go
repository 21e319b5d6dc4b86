// Package soil reads a pit and a laboratory report: texture, water, permeability, how deep roots can
// go, what the colours say about waterlogging, and whether a test can be believed. Depths are in
// centimetres below the surface, as in the pit; conductivity in mm/h; charge in cmolc/kg.
package soil

import (
	"fmt"
	"math"

	"slowroot/core/finding"
)

// Class is a USDA texture class.
type Class string

// Classes, coarse to fine.
const (
	Sand          Class = "sand"
	LoamySand     Class = "loamy sand"
	SandyLoam     Class = "sandy loam"
	Loam          Class = "loam"
	SiltLoam      Class = "silt loam"
	Silt          Class = "silt"
	SandyClayLoam Class = "sandy clay loam"
	ClayLoam      Class = "clay loam"
	SiltyClayLoam Class = "silty clay loam"
	SandyClay     Class = "sandy clay"
	SiltyClay     Class = "silty clay"
	Clay          Class = "clay"
)

// Classes is every texture class, coarse to fine.
var Classes = []Class{Sand, LoamySand, SandyLoam, Loam, SiltLoam, Silt, SandyClayLoam, ClayLoam, SiltyClayLoam, SandyClay, SiltyClay, Clay}

// centre is the sand and clay per cent that stand for a class when only the class is known: the
// texture-class averages of Saxton & Rawls, Soil Sci. Soc. Am. J. 70:1569–1578, 2006.
var centre = map[Class][2]float64{
	Sand: {88, 5}, LoamySand: {80, 5}, SandyLoam: {65, 10}, Loam: {40, 20}, SiltLoam: {20, 15}, Silt: {10, 5},
	SandyClayLoam: {60, 25}, ClayLoam: {30, 35}, SiltyClayLoam: {10, 35}, SiltyClay: {10, 45}, SandyClay: {50, 40}, Clay: {25, 50},
}

// Group is coarse, moderately coarse, medium, moderately fine or fine.
func (c Class) Group() string {
	switch c {
	case Sand, LoamySand:
		return "coarse"
	case SandyLoam:
		return "moderately coarse"
	case Silt, SiltLoam, Loam:
		return "medium"
	case SiltyClayLoam, ClayLoam, SandyClayLoam:
		return "moderately fine"
	case SandyClay, SiltyClay, Clay:
		return "fine"
	}
	return ""
}

// Known reports whether c is one of the twelve classes.
func (c Class) Known() bool { _, ok := centre[c]; return ok }

// Fractions are sand, silt and clay in per cent of the fine earth (below 2 mm; clay below 0.002 mm,
// silt to 0.05 mm), method SOIL-1.
type Fractions struct {
	SandPct float64 `json:"sandPct"`
	SiltPct float64 `json:"siltPct"`
	ClayPct float64 `json:"clayPct"`
}

// Normal checks the fractions and scales a sum within 100 ± 0.5 to 100.
func (f Fractions) Normal() (Fractions, error) {
	for _, v := range []struct {
		name string
		pct  float64
	}{{"sandPct", f.SandPct}, {"siltPct", f.SiltPct}, {"clayPct", f.ClayPct}} {
		if !(v.pct >= 0 && v.pct <= 100) {
			return f, finding.Bad(v.name, v.pct, "is not a share of the fine earth", "0 to 100 %")
		}
	}
	sum := f.SandPct + f.SiltPct + f.ClayPct
	if math.Abs(sum-100) > 0.5 {
		return f, finding.Bad("sandPct", fmt.Sprintf("%g + %g + %g = %g", f.SandPct, f.SiltPct, f.ClayPct, sum), "sand, silt and clay do not make a whole",
			"a sum of 99.5 to 100.5 %")
	}
	k := 100 / sum
	return Fractions{f.SandPct * k, f.SiltPct * k, f.ClayPct * k}, nil
}

// Classify names the texture, rules tested in the order of the Soil Survey Manual, USDA Handbook 18,
// 2017, chapter 3.
func Classify(f Fractions) (Class, error) {
	f, err := f.Normal()
	if err != nil {
		return "", err
	}
	s, i, c := f.SandPct, f.SiltPct, f.ClayPct
	switch {
	case i+1.5*c < 15:
		return Sand, nil
	case i+2*c < 30:
		return LoamySand, nil
	case c >= 40 && i >= 40:
		return SiltyClay, nil
	case c >= 40 && s <= 45:
		return Clay, nil
	case c >= 35 && s > 45:
		return SandyClay, nil
	case c >= 27 && s <= 20:
		return SiltyClayLoam, nil
	case c >= 27 && s <= 45:
		return ClayLoam, nil
	case c >= 20 && i < 28 && s > 45:
		return SandyClayLoam, nil
	case i >= 80 && c < 12:
		return Silt, nil
	case i >= 50:
		return SiltLoam, nil
	case c >= 7 && s <= 52 && i >= 28:
		return Loam, nil
	}
	return SandyLoam, nil
}

// Typical are fractions that stand for a class; estimated, not measured.
func (c Class) Typical() Fractions {
	v := centre[c]
	return Fractions{v[0], 100 - v[0] - v[1], v[1]}
}
