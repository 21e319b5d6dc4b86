package amend

import (
	"fmt"
	"math"

	"slowroot/core/finding"
)

// Liming is a liming material as analysed. A zero neutralising value with no oxides is unanalysed.
type Liming struct {
	NeutralisingPct float64 `json:"neutralisingPct"` // % CaCO₃ equivalent; 0 to take it from the oxides
	CaOPct          float64 `json:"caoPct"`
	MgOPct          float64 `json:"mgoPct"`
	ReactivityPct   float64 `json:"reactivityPct"` // 0 to take it from the sieves
	Sieves          Sieves  `json:"sieves"`
	MoisturePct     float64 `json:"moisturePct"`
	EffectivePct    float64 `json:"effectivePct"` // a label's own effective value replaces both, 0 none
}

// Sieves are shares by mass in %, coarse to fine: over 2.00 mm, 0.84–2.00, 0.30–0.84, below 0.30.
type Sieves struct {
	Over2   float64 `json:"over2Mm"`
	To084   float64 `json:"to084Mm"`
	To030   float64 `json:"to030Mm"`
	Below03 float64 `json:"below030Mm"`
}

func (s Sieves) sum() float64 { return s.Over2 + s.To084 + s.To030 + s.Below03 }

// Analysed reports whether enough is known to turn a need into a rate.
func (p Liming) Analysed() bool {
	return p.Effective() >= LeastEffective
}

// LeastEffective is the effective value in % below which a material is no lime: a rate of it would bury the field
// (common practice).
const LeastEffective = 1

// given reports whether an effective value was given or follows from what was.
func (p Liming) given() bool {
	return p.EffectivePct > 0 || p.Neutralising() > 0 && (p.ReactivityPct > 0 || p.Sieves.sum() > 0)
}

// Valid refuses an analysis that cannot be, and one of a material nothing of which acts.
func (p Liming) Valid(field string) error {
	for _, v := range []struct {
		name    string
		x, most float64
	}{{"neutralisingPct", p.NeutralisingPct, 180}, {"caoPct", p.CaOPct, 100}, {"mgoPct", p.MgOPct, 100}, {"reactivityPct", p.ReactivityPct, 100},
		{"moisturePct", p.MoisturePct, 90}, {"effectivePct", p.EffectivePct, 180}} {
		if !(v.x >= 0 && v.x <= v.most) {
			return finding.Bad(field+"."+v.name, v.x, "is not a figure of a liming material", fmt.Sprintf("0 to %g %%", v.most))
		}
	}
	for _, v := range []struct {
		name string
		x    float64
	}{{"over2Mm", p.Sieves.Over2}, {"to084Mm", p.Sieves.To084}, {"to030Mm", p.Sieves.To030}, {"below030Mm", p.Sieves.Below03}} {
		if !(v.x >= 0 && v.x <= 100) {
			return finding.Bad(field+".sieves."+v.name, v.x, "is not a share of a sample", "0 to 100 %")
		}
	}
	if p.CaOPct+p.MgOPct > 100 {
		return finding.Bad(field+".caoPct", p.CaOPct+p.MgOPct, "calcium and magnesium oxide together are more than the whole", "a sum of 100 % at most")
	}
	if s := p.Sieves.sum(); s != 0 && math.Abs(s-100) > 1 {
		return finding.Bad(field+".sieves", s, "the sieve fractions do not make a whole", "a sum of 99 to 101 %, or none")
	}
	if p.given() && p.Effective() < LeastEffective {
		return finding.Bad(field+".sieves", fmt.Sprintf("%.2g %% effective", p.Effective()),
			"nothing of this material acts: grains over 2 mm do not dissolve in time", fmt.Sprintf("an effective value of %d %% or more", LeastEffective))
	}
	return nil
}

// Neutralising is the neutralising value in % of CaCO₃: given, or 1.785·CaO + 2.483·MgO (molar ratios
// 100.09/56.08 and 100.09/40.30).
func (p Liming) Neutralising() float64 {
	if p.NeutralisingPct > 0 {
		return p.NeutralisingPct
	}
	return 100.09/56.08*p.CaOPct + 100.09/40.30*p.MgOPct
}

// Reactivity is the part that acts in time, in %, by four sieves: 0, 20, 60 and 100 (from memory:
// Brazilian lime rules).
func (p Liming) Reactivity() float64 {
	if p.ReactivityPct > 0 {
		return p.ReactivityPct
	}
	return (20*p.Sieves.To084 + 60*p.Sieves.To030 + 100*p.Sieves.Below03) / 100
}

// Effective is neutralising value × reactivity, or the label's own figure, in % (method AMD-2).
func (p Liming) Effective() float64 {
	if p.EffectivePct > 0 {
		return p.EffectivePct
	}
	return p.Neutralising() * p.Reactivity() / 100
}

// Product is t of material as delivered for t of pure CaCO₃.
func (p Liming) Product(pure float64) float64 {
	return pure * 100 / p.Effective() * 100 / (100 - p.MoisturePct)
}

// Kind is dolomitic, magnesian or calcitic by MgO (common practice).
func (p Liming) Kind() string {
	switch {
	case p.MgOPct > 12:
		return "dolomitic"
	case p.MgOPct >= 5:
		return "magnesian"
	}
	return "calcitic"
}

// Most one application takes, t/ha of product (common practice): spread on the surface, and mixed in.
const (
	MostOnSurface = 5.0
	MostMixedIn   = 8.0
)

// Split is how many applications a rate is given in, at least six months apart.
func Split(tPerHa, most float64) int {
	return max(1, int(math.Ceil(tPerHa/most-1e-9)))
}
