package prepare

import (
	"fmt"
	"math"

	"slowroot/core/amend"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/soil"
)

// topsoil is what amendments are computed from: one topsoil test and the soil it stands for.
type Topsoil struct {
	Test      *soil.Test
	Ph        *float64 // in water
	Class     soil.Class
	clay      float64
	Density   float64
	estimated bool
	DepthCm   float64
	Om        *float64
}

func TopsoilOf(pits []soil.Pit, tests []soil.Test, depthCm float64) Topsoil {
	g := Topsoil{Density: 1.3, estimated: true, DepthCm: 20, Class: soil.Loam, clay: 20}
	if len(pits) > 0 {
		l := pits[0].Layers[0]
		var f soil.Fractions
		g.Class, f, _ = l.Texture()
		g.clay = f.ClayPct
		if w, err := l.Water(); err == nil {
			g.Density = w.DensityGCm3
		}
		if l.DensityG > 0 {
			g.Density, g.estimated = l.DensityG, false
		}
		if l.OMPct > 0 {
			om := l.OMPct
			g.Om = &om
		}
	}
	if depthCm > 0 {
		g.DepthCm = depthCm
	}
	i, ok := soil.Top(tests)
	if !ok {
		return g
	}
	t := tests[i]
	g.Test = &t
	if ph, _, ok := t.PHWater(); ok {
		g.Ph = &ph
	}
	if t.OMPct != nil {
		g.Om = t.OMPct
	}
	if t.SandPct != nil && t.SiltPct != nil && t.ClayPct != nil {
		if cl, err := soil.Classify(soil.Fractions{SandPct: *t.SandPct, SiltPct: *t.SiltPct, ClayPct: *t.ClayPct}); err == nil {
			g.Class, g.clay = cl, *t.ClayPct
		}
	} else if t.ClayPct != nil {
		g.clay = *t.ClayPct
	}
	return g
}

// limeFor answers the lime requirement of a crop on this ground. Charges of the report per kg are turned
// to per dm³ with the bulk density. nil means no test.
func (g Topsoil) LimeFor(s *practice.Sheet, school amend.School) *LimeAnswer {
	if g.Test == nil || s.Soil.TargetPH == 0 {
		return nil
	}
	perDM3 := func(v *float64) *float64 {
		if v == nil {
			return nil
		}
		x := *v * g.Density
		return &x
	}
	keep := func(v float64, ok bool) *float64 {
		if !ok {
			return nil
		}
		return &v
	}
	t := g.Test
	lc := amend.LimeCase{PH: g.Ph, TargetPH: s.Soil.TargetPH, BufferPH: t.BufferPH, BufferMethod: t.BufferMethod, CEC: perDM3(keep(t.CECAt7())),
		BasePct:    keep(t.BaseSaturation()),
		TargetBase: s.Soil.TargetBasePct, Al: perDM3(t.Al), AlTolerated: s.Soil.AlToleratedPct, CaMgWanted: s.Soil.CaMgWanted, ClayPct: g.clay,
		TextureGroup: g.Class.Group(), DepthCm: g.DepthCm}
	if g.Om != nil {
		lc.OMPct = *g.Om
	}
	if t.Ca != nil && t.Mg != nil {
		sum := *t.Ca + *t.Mg
		lc.CaMg = perDM3(&sum)
		if b, ok := t.Bases(); ok && t.Al != nil {
			e := b + *t.Al
			lc.ECEC = perDM3(&e)
		}
	}
	a := &LimeAnswer{Needs: []amend.Need{}, Disagree: 1}
	needs, err := amend.Lime(lc)
	if err != nil {
		a.Refused = err.Error()
		return a
	}
	a.Needs, a.Usual, a.Disagree = needs, amend.Preferred(needs), amend.Disagreement(needs)
	a.Taken = a.Usual
	for _, n := range needs {
		if n.School == school && n.Lack == "" {
			a.Taken = school
		}
	}
	for _, n := range needs {
		if n.School == a.Taken {
			a.PerHaT = n.TPerHa
		}
	}
	ideal := s.IdealLow("ph")
	switch {
	case a.Taken == "":
		a.Why = "the test does not hold what any school needs"
	case a.PerHaT < 0.1:
		a.Why = "none is needed"
		for _, n := range needs {
			if n.School == a.Taken && n.Why != "" {
				a.Why = "none is needed: " + n.Why
			}
		}
	case g.Ph != nil && !math.IsNaN(ideal) && *g.Ph >= ideal && s.Soil.AcidLover:
		a.Why = fmt.Sprintf("%s loves acid soil and pH %.1f lies in its range: no lime, and no school is asked", report.LowerFirst(s.Name), *g.Ph)
	case g.Ph != nil && *g.Ph >= s.Soil.TargetPH:
		a.Why = fmt.Sprintf("pH %.1f has reached the %.1f wanted", *g.Ph, s.Soil.TargetPH)
	default:
		a.Wanted = true
		if g.Ph != nil {
			a.Why = fmt.Sprintf("pH %.1f, %.1f is wanted", *g.Ph, s.Soil.TargetPH)
		} else {
			a.Why = "the test asks for it"
		}
	}
	return a
}

// sulphurFor is kg/ha of sulphur to bring the pH down to the crop's range, and its source; zero when the
// pH needs no lowering. refused says why it cannot be done.
func (g Topsoil) SulphurFor(s *practice.Sheet, capacity float64) (kgPerHa, drop float64, source, refused string) {
	if g.Ph == nil {
		return 0, 0, "", ""
	}
	high := s.IdealHigh("ph")
	if math.IsNaN(high) || *g.Ph <= high {
		return 0, 0, "", ""
	}
	target := math.Max(4.5, high)
	drop = *g.Ph - target
	if g.Test.LimePct != nil && *g.Test.LimePct > 1 {
		return 0, drop, "", fmt.Sprintf("the soil holds %.1f %% free lime, which would eat %.0f kg/ha of sulphur first: do not acidify, choose another crop or "+
			"containers", *g.Test.LimePct, amend.SulphurForLime(*g.Test.LimePct, g.Density, g.DepthCm))
	}
	if capacity > 0 {
		return amend.SulphurByBuffer(drop, capacity, g.Density, g.DepthCm), drop, "buffer capacity as measured", ""
	}
	kg, err := amend.SulphurByTable(*g.Ph, math.Min(target, 6.5), g.Class.Group())
	if err != nil {
		return 0, drop, "", fmt.Sprintf("pH %.1f lies beyond the table: measure the buffer capacity, or choose another crop", *g.Ph)
	}
	return kg * g.DepthCm / 15, drop, "texture table, from memory: US fertiliser handbook and small-fruit guides", ""
}
