package drains

import (
	"fmt"
	"math"
	"sort"

	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/water"
)

// Discharge is a design discharge by one school.
type Discharge struct {
	ID    string  `json:"id"`
	Name  string  `json:"name"`
	MmDay float64 `json:"mmDay"`
	Why   string  `json:"why"`
	Taken bool    `json:"taken"`
}

// DepthTried is what drains at another depth would be: deeper lie wider apart, as far as the limits let them.
type DepthTried struct {
	DepthM      float64 `json:"depthM"`
	SpacingM    float64 `json:"spacingM"`
	Hours       float64 `json:"hours"`
	MetresPerHa float64 `json:"metresPerHa"`
	CostText    string  `json:"costText"` // laterals of one hectare: pipe of 75 mm, stone and trench
	Taken       bool    `json:"taken"`
}

// TableMonth is the water table of a month between two drains: depths below the surface from one drain to the
// other, evenly spaced.
type TableMonth struct {
	Month    string    `json:"month"`
	Recharge float64   `json:"recharge"` // mm/day
	Depths   []float64 `json:"depths"`
	MidM     float64   `json:"midM"`
}

// widestM is the greatest spacing a network is laid at unasked: beyond it the soil drains itself to any ditch, and a
// single drain does as much (common practice).
const WidestM = 100

// closestM is the least spacing a network is laid at unasked; beds cost less (common practice).
const ClosestM = 3

// discharge is the design discharge by every school that can answer (method DRN-2).
func (c *design) discharge(d *Plan, choice document.DrainChoice) {
	add := func(id, name string, mm float64, why string) {
		d.Discharges = append(d.Discharges, Discharge{ID: id, Name: name, MmDay: mm, Why: why})
	}
	add("practice", "Usual", 7, fmt.Sprintf("temperate practice, %s to %s; common practice, no source", c.Text(7, units.Drained), c.Text(10, units.Drained)))
	if s := c.Climate; s != nil && !math.IsNaN(s.StormMM) && d.Soil != nil && d.Soil.Pores > 0 {
		held := d.Soil.Pores * (d.Criterion.SteadyM - d.Criterion.BackM) * 1000
		add("storm", "From the rain record", 1000*drainage.StormDischarge(s.StormMM, held, 0, climate.StormDays),
			fmt.Sprintf("%s in %d days once in %d years, by %d years of record; the soil takes %s while the water rises to %s; no runoff is counted",
				c.Text(s.StormMM, units.Rain), climate.StormDays, climate.StormYears, s.StormFrom, c.Text(held, units.Rain), c.Text(d.Criterion.BackM, units.Spacing)))
	}
	if choice.IrrigationMM > 0 && choice.IrrigationDays > 0 {
		const efficiency = 0.7
		add("irrigation", "From irrigation", 1000*drainage.IrrigationDischarge(choice.IrrigationMM, efficiency, 1, choice.IrrigationDays),
			fmt.Sprintf("%s every %.0f days; an efficiency of %g is assumed and all that is lost sinks in", c.Text(choice.IrrigationMM, units.Rain),
				choice.IrrigationDays, efficiency))
	}
	if choice.DischargeMM > 0 {
		add("set", "As it was said", choice.DischargeMM, "set by hand")
	}
	taken := 0
	for i, x := range d.Discharges {
		if x.ID == choice.DischargeBy || choice.DischargeBy == "" && x.ID == "set" {
			taken = i
		}
	}
	d.Discharges[taken].Taken = true
	d.DischargeM = d.Discharges[taken].MmDay
}

// level is how deep the water stands in a drain: at the middle of the pipe. Spacing and recovery are reckoned from
// there, profiles from the invert.
func (d *Plan) level() float64 { return d.DepthM - lateralPipe.OuterM/2 }

// back is the height above drain level the water must fall to after a wet spell.
func (d *Plan) back() float64 { return math.Max(0.02, d.level()-d.Criterion.BackM) }

// field is the soil with its permeability times a factor, as the spacing formulas take it.
func (d *Plan) field(factor float64) drainage.Field {
	return drainage.Field{Ka: d.Soil.Above * factor, Kb: d.Soil.Below * factor, Thick: d.Soil.ThickM, U: drainage.EnvelopePerimeter(stoneM, stoneM), H: d.HeadM,
		Q: d.DischargeM / 1000}
}

// space is the spacing for the whole range of the permeability, and how fast the water falls.
func (c *design) spacing(d *Plan, choice document.DrainChoice) {
	if d.Soil == nil || d.Refused != "" || d.Soil.Above <= 0 || d.DischargeM <= 0 {
		return
	}
	for i, f := range []float64{d.Soil.Low, 1, d.Soil.High} {
		l, eq, err := d.field(f).Spacing()
		if err != nil {
			d.Refused = "no spacing can be worked out: " + err.Error()
			return
		}
		if e := d.Soil.second; e != nil {
			x := *e
			x.Kv, x.KD, x.Kr = e.Kv*f, e.KD*f, e.Kr*f
			l = x.Spacing(d.DischargeM/1000, d.HeadM)
			eq = drainage.EquivalentDepth(l, d.Soil.ThickM, drainage.EnvelopePerimeter(stoneM, stoneM))
		}
		d.Spacings[i] = l
		if i == 1 {
			d.Equivalent = eq
		}
	}
	d.SpacingM = choice.SpacingM
	if d.SpacingM == 0 {
		d.SpacingM = math.Max(2, math.Min(WidestM, math.Floor(2*d.Spacings[1])/2))
	}
	hours := func(f float64) float64 {
		g := d.field(f)
		eq := drainage.EquivalentDepth(d.SpacingM, d.Soil.ThickM, g.U) + (d.level()+d.back())/4
		return 24 * drainage.FallDays(g.Ka, eq, d.Soil.Pores, d.SpacingM, d.level(), d.back())
	}
	if d.SpacingM < ClosestM && choice.SpacingM == 0 {
		d.Refused = fmt.Sprintf("drains would have to lie %s apart: the soil lets too little water through", c.Text(d.SpacingM, units.Spacing))
	}
	d.Hours, d.HoursLow, d.HoursHigh = hours(1), hours(d.Soil.High), hours(d.Soil.Low)
}

// depths drains the same field at other depths, from what the cover needs to the binding limit, so that depth and
// spacing can be weighed against the cost (method DRN-4).
func (c *design) depths(d *Plan, choice document.DrainChoice) {
	if d.SpacingM == 0 || d.Refused != "" {
		return
	}
	least := math.Max(drainage.Cover(choice.Traffic)+lateralPipe.OuterM, d.Criterion.SteadyM+lateralPipe.OuterM/2+0.05)
	most := Deepest(d.Limits).DepthM
	depths := []float64{d.DepthM}
	for at := math.Ceil(least*10) / 10; at <= most+1e-9; at += 0.1 {
		if math.Abs(at-d.DepthM) > 0.03 {
			depths = append(depths, at)
		}
	}
	if math.Abs(most-d.DepthM) > 0.03 && math.Abs(most-depths[len(depths)-1]) > 0.03 {
		depths = append(depths, most)
	}
	sort.Float64s(depths)
	for _, at := range depths {
		try, ch := *d, choice
		try.Holes, try.Limits = nil, nil
		ch.DepthM, ch.SpacingM = at, 0
		c.depth(&try, ch)
		c.soil(&try, ch)
		c.spacing(&try, ch)
		if try.Spacings[1] < 2 || math.Abs(try.DepthM-at) > 1e-6 {
			continue
		}
		k := c.NewBill()
		metres := 1e4 / try.SpacingM
		k.Line("pipe", "pipe:"+lateralPipe.Name, drainage.PipeLaps*metres, units.Distance, "")
		k.Line("stone", "drain-stone", drainage.StoneWaste*drainage.StoneTM3*1000*metres*drainage.EnvelopeM3(stoneM, stoneM, lateralPipe.OuterM), units.MassT, "")
		k.Line("trench", "machine", metres/drainage.TrenchMH, units.Hours, "")
		d.Depths = append(d.Depths, DepthTried{DepthM: at, SpacingM: try.SpacingM, Hours: try.Hours, MetresPerHa: metres, CostText: k.Text(), Taken: at == d.DepthM})
	}
}

// season is the water table between two drains through the year, from the monthly rain less what a
// grown stand uses.
func (c *design) season(d *Plan) {
	s := c.Climate
	if s == nil || !s.HasMonths || d.SpacingM == 0 {
		return
	}
	line := func(name string, mm float64) {
		f := d.field(1)
		f.Q = mm / 1000
		m := TableMonth{Month: name, Recharge: mm}
		for _, h := range f.Shape(d.SpacingM, 24) {
			m.Depths = append(m.Depths, math.Max(0, d.level()-h))
		}
		m.MidM = m.Depths[12]
		d.Season = append(d.Season, m)
	}
	for i, m := range s.Months {
		mm := (m.RainMM - water.GrownCoefficient*s.ET0[i]) / 30.4
		if math.IsNaN(mm) {
			continue
		}
		line(report.Months[i], math.Max(0, mm))
	}
	line("design", d.DischargeM)
}
