package fit

import (
	"math"

	"slowroot/core/climate"
	"slowroot/core/geo"
	"slowroot/core/plan/prepare"
	"slowroot/core/plan/soils"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/soil"
	"slowroot/core/suitability"
	"slowroot/core/units"
)

// measured is what is known of a factor on a block.
type measured struct {
	v       float64 // NaN is not known
	class   soil.Class
	atLeast bool
	atMost  bool // the value is no more than this: it can speak against a crop, never for it
	from    string
}

// measures are the factors of a block, in the order of practice.Factors.
type measures struct {
	in      In
	m       []measured
	ground  prepare.Topsoil
	profile soils.Profile
	areaHa  float64
}

func quantityOf(key string) units.Quantity {
	switch key {
	case "annualMeanC", "seasonMeanC", "hotMaxC", "minC10":
		return units.Temp
	case "rainMm":
		return units.Rain
	case "frostFree":
		return units.Days
	case "elevationM":
		return units.Distance
	case "windMS":
		return units.Speed
	case "slopePct":
		return units.Slope
	case "depthCm", practice.WetKey:
		return units.Depth
	case "ph":
		return units.PH
	case "omPct", "limePct":
		return units.Percent
	case "eceDSPerM":
		return units.Salinity
	}
	return units.Count
}

// measure reads every factor of a block.
func measure(in In) measures {
	m := measures{in: in, m: make([]measured, len(practice.Factors)), ground: prepare.TopsoilOf(in.Block.Pits, in.Block.Tests, in.Block.WorksChoice().DepthCm),
		areaHa: geo.AreaM2(in.Block.Boundary) / 1e4}
	for _, pit := range in.Block.Pits {
		m.profile.Pits = append(m.profile.Pits, soils.ReadPit(pit, 100, true)) // wetness is a factor of its own
	}
	at := geo.LocalPlane(in.Block.Boundary)
	var site climate.Site
	if in.Climate != nil {
		site = *in.Climate
	} else {
		site = in.Estate.ClimateOf(nil, at.Lat0)
	}
	z, cold := math.NaN(), 0.0
	if in.Land != nil {
		z = in.Land.Lie.MeanZ
		if w := in.Land.Judged(); w == "pocket" || w == "high" {
			cold = -in.Land.Worst.ColderC[1]
		}
	}
	here := site.At(z, cold)
	if math.IsNaN(z) && in.Estate.ElevationM != nil {
		z = *in.Estate.ElevationM
	}
	record := here.Described()
	wind := 0.0
	for _, x := range here.Months {
		wind += x.Wind / 12
	}
	if !here.HasMonths {
		wind = math.NaN()
	}
	slope := math.NaN()
	lie := "no heights are known"
	if in.Land != nil {
		slope, lie = in.Land.Lie.SlopePct, in.Land.Source.Name
	}
	for i, f := range practice.Factors {
		v := measured{v: math.NaN()}
		switch f.Key {
		case "annualMeanC":
			v = measured{v: here.AnnualMeanC, from: record}
		case "seasonMeanC":
			v = measured{v: here.SeasonMeanC, from: record + "; months of " + units.Marked("{10 °C}", m.in.Estate.Units) + " or more"}
		case "hotMaxC":
			v = measured{v: here.HotMaxC, from: record + "; mean maximum of the hottest month"}
		case "minC10":
			v = measured{v: here.MinC10, from: record + "; what one winter in ten goes below"}
			if math.IsNaN(v.v) { // the coldest month's mean minimum is passed in most winters
				v = measured{v: here.ColdestMinC, atMost: true, from: record + "; mean minimum of the coldest month, which most winters go below"}
			}
		case "frostFree":
			v = measured{v: here.FrostFree, from: record + "; what nine years in ten reach"}
		case "chillHours":
			v = measured{v: here.ChillHours, from: record + "; hours at or below " + units.Marked("{7.2 °C}", m.in.Estate.Units) + " that nine winters in ten reach"}
		case "rainMm":
			v = measured{v: here.RainMM, from: record}
		case "dryMonths":
			v = measured{v: here.DryMonths, from: record + "; rain under half of reference evapotranspiration"}
		case "elevationM":
			v = measured{v: z, from: lie}
		case "windMS":
			v = measured{v: wind, from: record}
		case "slopePct":
			v = measured{v: slope, from: lie}
		default:
			v = m.ofSoil(f.Key)
		}
		m.m[i] = v
	}
	return m
}

// ofSoil reads a factor of the soil, from pits and the topsoil's test.
func (m *measures) ofSoil(key string) measured {
	depth, wet, atLeast := math.NaN(), math.NaN(), true
	if n := len(m.profile.Pits); n > 0 {
		var d, w []float64
		for _, v := range m.profile.Pits {
			d = append(d, v.EffectiveCm)
			atLeast = atLeast && v.Limiting == ""
			if v.Wetness.Class != soil.Undetermined {
				w = append(w, v.Wetness.DepthCm)
			}
		}
		depth, wet = soil.Quantile(d, 0.25), soil.Quantile(w, 0.25)
	}
	pits := report.Count(len(m.profile.Pits), "pit")
	test := "soil test"
	if m.ground.Test != nil {
		test = "soil test of " + m.ground.Test.On.Words()
	}
	or := func(p *float64) float64 {
		if p == nil {
			return math.NaN()
		}
		return *p
	}
	ece, lime := math.NaN(), math.NaN()
	if m.ground.Test != nil {
		ece, lime = or(m.ground.Test.ECe), or(m.ground.Test.LimePct)
	}
	v := measured{v: math.NaN()}
	switch key {
	case "depthCm":
		v = measured{v: depth, atLeast: atLeast, from: "25th percentile of " + pits}
	case practice.WetKey:
		v = measured{v: wet, atLeast: true, from: "signs in " + pits}
	case "texture":
		v.from = "the topsoil of the first pit"
		if m.ground.Test != nil && m.ground.Test.ClayPct != nil {
			v.from = test
		}
		if len(m.profile.Pits) > 0 || m.ground.Test != nil && m.ground.Test.ClayPct != nil {
			v.class = m.ground.Class
		}
	case "ph":
		v = measured{v: or(m.ground.Ph), from: test}
	case "omPct":
		v = measured{v: or(m.ground.Om), from: test}
	case "limePct":
		v = measured{v: lime, from: test}
	case "eceDSPerM":
		v = measured{v: ece, from: test}
	}
	return v
}

// rangeOf is a limit as the suitability package takes it.
func rangeOf(l practice.Limit) suitability.Range {
	n := math.NaN()
	r := suitability.Range{IdealLow: n, IdealHigh: n, TolLow: n, TolHigh: n, S2Low: n, S2High: n}
	set := func(to *float64, p *float64) {
		if p != nil {
			*to = *p
		}
	}
	set(&r.IdealLow, l.Range.Ideal[0])
	set(&r.IdealHigh, l.Range.Ideal[1])
	set(&r.TolLow, l.Range.Tolerated[0])
	set(&r.TolHigh, l.Range.Tolerated[1])
	return r
}

// rate rates a measured factor; NaN where it is not known. A depth nothing was found to end is at least
// moderate: what lies below was not seen.
func rate(l practice.Limit, v measured) float64 {
	if l.Textures != nil {
		if v.class == "" {
			return math.NaN()
		}
		for _, c := range l.Textures.Ideal {
			if c == v.class {
				return 100
			}
		}
		for _, c := range l.Textures.Tolerated {
			if c == v.class {
				return 65
			}
		}
		return 20
	}
	r := rangeOf(l).Rating(v.v)
	if v.atLeast && v.v >= 50 && r < 70 {
		return 70
	}
	return r
}

func (m *measures) said(key string, v measured) string {
	if key == "texture" {
		return string(v.class)
	}
	s := units.Text(v.v, quantityOf(key), m.in.Estate.Units)
	if key == "chillHours" {
		s += " h"
	} else if key == "dryMonths" {
		s += " months"
	}
	if v.atLeast && key == "depthCm" {
		s += " or more"
	}
	if v.atMost {
		s = "below " + s
	}
	return s
}
