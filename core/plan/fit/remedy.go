package fit

import (
	"fmt"
	"math"

	"slowroot/core/amend"
	"slowroot/core/document"
	"slowroot/core/earthwork"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/soil"
	"slowroot/core/terrain"
	"slowroot/core/units"
)

// mending is what works could do about a factor: the rating after them, what they are, the months they need and, where
// everything in them is priced, what they cost. The zero what is that nothing can be done.
type mending struct {
	after  float64
	what   string
	months int
	cost   float64
	priced bool
}

// trouble is one factor of one crop on one block, to be mended.
type trouble struct {
	*measures
	sheet  *practice.Sheet
	limit  practice.Limit
	v      measured
	r      float64 // as found
	low    bool    // it lies below the ideal span
	detail bool
}

// price puts a price on a quantity of an item, where it is known.
func (c trouble) price(m *mending, item string, q float64) {
	if p, ok := c.in.Estate.PriceOf(item, c.in.Today); ok {
		m.cost, m.priced = p.Each*q, true
	}
}

func (c trouble) text(v float64, q units.Quantity) string { return units.Text(v, q, c.in.Estate.Units) }

// remedy is what works could do about a factor.
func (m *measures) remedy(s *practice.Sheet, f practice.Factor, l practice.Limit, v measured, r float64, detail bool) mending {
	if !f.Fixable {
		return mending{after: r}
	}
	c := trouble{measures: m, sheet: s, limit: l, v: v, r: r, detail: detail, low: l.Range != nil && l.Range.Ideal[0] != nil && v.v < *l.Range.Ideal[0]}
	var out mending
	switch f.Key {
	case "ph":
		out = c.acidity()
	case "depthCm":
		out = c.depth()
	case practice.WetKey:
		out = mending{after: 85, what: "drains or raised beds", months: 9}
	case "rainMm", "dryMonths":
		if c.low || f.Key != "rainMm" {
			out = c.drought()
		}
	case "windMS":
		out = mending{after: 75, what: "a windbreak of 40 to 60 % porosity", months: 30}
	case "slopePct":
		out = c.slope()
	case "omPct":
		out = c.organic()
	case "eceDSPerM":
		if m.in.Block.Answers["waterQuality"].Answer == "good" {
			out = mending{after: 70, what: "leaching, with drainage", months: 12}
		} else if detail {
			out.what = "leaching, once the water is tested good and the ground drains"
		}
	}
	out.after = math.Max(out.after, r)
	return out
}

// acidity is lime where the pH lies below the span, sulphur where above.
func (c trouble) acidity() (m mending) {
	if c.low {
		a := c.ground.LimeFor(c.sheet, "")
		if a == nil || !a.Wanted {
			return m
		}
		m = mending{after: 90, what: "lime", months: 6}
		mat, ok := document.LimingFor(c.in.Estate.Materials, c.in.Block.WorksChoice().Material)
		if ok && mat.Analysed() {
			t := mat.Product(a.PerHaT) * c.areaHa
			c.price(&m, "lime:"+mat.ID, t)
			if c.detail {
				m.what = fmt.Sprintf("lime: %s of %s", c.text(t*1000, units.MassT), mat.Name)
			}
			m.months += 6 * (amend.Split(mat.Product(a.PerHaT), amend.MostMixedIn) - 1)
		} else if c.detail {
			m.what = fmt.Sprintf("lime: %s of pure CaCO₃; no analysed material is entered", c.text(a.PerHaT*c.areaHa*1000, units.MassT))
		}
		return m
	}
	kg, drop, _, refused := c.ground.SulphurFor(c.sheet, 0)
	if refused != "" || drop <= 0 {
		return m
	}
	doses := max(1, int(math.Ceil(kg/amend.MostSulphur(c.ground.Class.Group())-1e-9)))
	m = mending{after: 85, what: "sulphur", months: amend.SulphurMonths(drop) + 3*(doses-1)}
	c.price(&m, "sulphur", kg*c.areaHa)
	if c.detail {
		m.what = fmt.Sprintf("sulphur: %s in %s", c.text(kg*c.areaHa, units.MassKg), report.Count(doses, "dose"))
	}
	return m
}

// depth is ripping where a pan can be ripped, and raised beds where that is not enough.
func (c trouble) depth() mending {
	var d []float64
	rip := false
	for _, p := range c.profile.Pits {
		d = append(d, p.AfterCm)
		for _, b := range p.Barriers {
			rip = rip || b.Remedy == "rip" && b.Removable
		}
	}
	m, got, hours := mending{after: c.r}, soil.Quantile(d, 0.25), 0.0
	if rip && got > c.v.v {
		m.what, m.months, hours = "rip the pan", 4, practice.Tasks["rip"].Base*c.areaHa*2
		m.after = math.Max(c.r, rate(c.limit, measured{v: got, atLeast: c.v.atLeast}))
	} else {
		got = c.v.v
	}
	if m.after < 85 && len(d) > 0 {
		rise, shaping := BedRise(c.in.Block, c.areaHa)
		if bed := rate(c.limit, measured{v: got + rise}); bed > m.after+5 {
			if m.what != "" {
				m.what += " and "
			}
			m.what += fmt.Sprintf("raise the beds by %s once settled", c.text(rise, units.Depth))
			m.after, m.months, hours = bed, max(m.months, 4), hours+shaping
		}
	}
	if m.what != "" {
		c.price(&m, "machine", hours)
	}
	return m
}

// drought is irrigation, as far as water is known to be there.
func (c trouble) drought() (m mending) {
	switch c.in.Block.Answers["water"].Answer {
	case "enough":
		return mending{after: 80, what: "irrigation", months: 6}
	case "short", "none":
		if c.detail {
			m.what = "irrigation, where another supply can be brought; there is not enough here"
		}
		return m
	}
	return mending{after: 75, what: "irrigation, once a supply is found and measured", months: 12} // nobody has said that there is none
}

// slope is rows on the contour, or terraces.
func (c trouble) slope() (m mending) {
	if c.low || c.v.v > 30 {
		return m
	}
	m = mending{after: 65, what: "rows on the contour", months: 3}
	if c.v.v < 15 {
		return m
	}
	if t, err := terrain.NewTerrace(c.v.v, c.in.Block.WorksChoice().Bench(), 0.75); err == nil {
		m.what, m.months = "bench terraces", 6
		if c.detail {
			m.what = fmt.Sprintf("bench terraces: %s of earth", c.text(t.CutM3PerHa*c.areaHa, units.Earth))
		}
		c.price(&m, "earth", t.CutM3PerHa*c.areaHa)
	}
	return m
}

// organic is compost up to the ideal span.
func (c trouble) organic() (m mending) {
	o, _ := amend.OrganicNamed("compost")
	if !c.low {
		return m
	}
	fresh, err := o.Fresh(amend.OrganicMatter(*c.limit.Range.Ideal[0]-c.v.v, c.ground.Density, c.ground.DepthCm))
	if err != nil {
		return m
	}
	m = mending{after: 90, what: "compost", months: 3}
	c.price(&m, "organic:compost", fresh*c.areaHa)
	if fresh > amend.MostFresh {
		m.after, m.months = 80, 24
	}
	if c.detail {
		m.what = fmt.Sprintf("compost: %s fresh", c.text(fresh*c.areaHa*1000, units.MassT))
		if fresh > amend.MostFresh {
			m.what += ", over years or in strips"
		}
	}
	return m
}

// BedRiseCm is the root room a raised bed adds once it has settled (common practice, no source), where no bed has
// been shaped for the block.
const BedRiseCm = 30

// bedRise is the root room beds would add, cm, and the machine's hours for them: of the bed shaped for the block,
// else what is usual.
func BedRise(b document.Block, areaHa float64) (cm, hours float64) {
	if w := b.DrainChoice().Bed; w != nil {
		bed := earthwork.Bed{CentreM: w.CentreM, BaseM: w.BaseM, TopM: w.TopM, HeightM: w.HeightM, CrownM: w.CrownM}
		if bed.Valid() == nil {
			_, _, hours = bed.Shaping(bed.PerHa() * areaHa)
			return 100 * bed.Rise(1), hours
		}
	}
	return BedRiseCm, practice.Tasks["bed"].Base * areaHa
}
