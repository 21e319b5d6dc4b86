package prepare

import (
	"fmt"
	"math"

	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
)

// amount is what the work of a line is done to: its passes over the ground, the holes of all stations, and what is
// carried and spread.
func (c *prepare) amount(t practice.Task, passes int, tonnes float64) practice.Amount {
	ha := c.Ground.AreaM2 / 1e4
	a := practice.Amount{Ha: float64(passes) * ha, Tonnes: tonnes}
	if tonnes == 0 {
		a.Tonnes = t.PerHaT * ha
	}
	if n := c.Stations; n > 0 && t.EachM3 > 0 {
		m3 := float64(n) * t.EachM3
		a.M3 = &m3
	}
	return a
}

// hours fills in how long a line takes: what its drains or beds were designed to take, else the rate of its kind by
// its amount. What cannot be known says so; it is never nought.
func (c *prepare) hours(l *PrepLine, t practice.Task, tonnes float64) {
	r, ok := practice.Tasks[l.Kind]
	if !ok || l.NotNeeded != "" {
		return
	}
	l.By, l.Bares, l.Covers = r.By, r.Bares, r.Covers
	d := c.Drains
	designed := 0.0
	switch {
	case l.Kind == "drain" && d.DigH > 0 && (d.Network != nil || d.Cut != nil):
		designed = d.DigH
	case l.Kind == "bed" && d.Bed != nil && d.Bed.Refused == "":
		designed = d.Bed.MachineH
	}
	if designed > 0 {
		l.BaseH, l.LowH, l.HighH = designed, 0.7*designed, 1.5*designed // of the design; the spread is assumed
		l.formula, l.sum = "hours of the design", fmt.Sprintf("%.4f", designed)
		return
	}
	a := c.amount(t, l.Passes, tonnes)
	h, known := r.Hours(a)
	if !known {
		l.Unknown = "hours unknown: how many holes, and how large, is not known yet"
		return
	}
	l.LowH, l.BaseH, l.HighH = h[0], h[1], h[2]
	switch {
	case r.PerM3:
		l.Detail = fmt.Sprintf("%s of %s each. %s", report.Count(c.Stations, "hole"), volume(c, t.EachM3), report.Capital(l.Detail))
		l.formula, l.sum = "hours a cubic metre · holes · cubic metres each", fmt.Sprintf("%g · %d · %g", r.Base, c.Stations, t.EachM3)
	case a.Tonnes > 0:
		l.formula, l.sum = "hours a hectare and pass · passes · hectares + hours a tonne · tonnes", fmt.Sprintf("%g · %d · %.5f + %g · %.4f", r.Base, l.Passes,
			c.Ground.AreaM2/1e4, practice.Carrying[1], a.Tonnes)
	default:
		l.formula, l.sum = "hours a hectare and pass · passes · hectares", fmt.Sprintf("%g · %d · %.5f", r.Base, l.Passes, c.Ground.AreaM2/1e4)
	}
}

// volume is a small volume in the reader's units, with the decimals it needs.
func volume(c *prepare, m3 float64) string {
	if c.Units == units.US {
		return fmt.Sprintf("%.2g ft³", m3*35.3147)
	}
	return fmt.Sprintf("%.3g m³", m3)
}

// levelSlopePct is the slope below which nothing has to be levelled or terraced: FAO, Guidelines for soil description,
// 2006, calls ground up to it nearly level.
const levelSlopePct = 1

// needless says why a piece of work the sheet lists has nothing to do on this ground; "" where it has.
func (c *prepare) needless(kind string) string {
	l := c.Land
	if kind != "level" || l == nil || l.Lie.SlopePct > levelSlopePct || math.IsNaN(l.Lie.SlopePct) || len(l.Hollows) > 0 {
		return ""
	}
	return fmt.Sprintf("by the heights the ground is level: %s, no hollow", c.Text(l.Lie.SlopePct, units.Slope))
}
