package plan

import (
	"fmt"
	"strings"

	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
)

// DrainFork is the fork between the remedies for wet ground.
const DrainFork = "drain"

// wet reports that something was said about the water of a block.
func (b Block) wet() bool { return b.Drains != nil || b.Decided[DrainFork].Option != "" }

// lines are all lines of a choice by their field.
func (d *DrainChoice) lines() map[string][]geo.Point {
	out := map[string][]geo.Point{"collector": d.Collector, "interceptor": d.Interceptor}
	for i, l := range d.Laterals {
		out[fmt.Sprintf("laterals[%d].line", i)] = l.Line
	}
	for i, l := range d.Branches {
		out[fmt.Sprintf("branches[%d].line", i)] = l.Line
	}
	return out
}

// valid refuses what cannot be, with the field, what it may be and why.
func (d *DrainChoice) valid() error {
	if d == nil {
		return nil
	}
	known := d.Source == ""
	var ids []string
	for _, s := range drainage.Sources {
		known = known || s.ID == d.Source
		ids = append(ids, s.ID)
	}
	if !known {
		return finding.Bad("drains.source", d.Source, "is not where water comes from", strings.Join(ids, ", "))
	}
	if !oneOf(d.Traffic, "", "foot", "tractor", "truck") {
		return finding.Bad("drains.traffic", d.Traffic, "is not a kind of traffic", "foot, tractor or truck")
	}
	if !oneOf(d.DischargeBy, "", "practice", "storm", "irrigation", "set") {
		return finding.Bad("drains.dischargeBy", d.DischargeBy, "is not a way to a design discharge", "practice, storm, irrigation or set")
	}
	for _, x := range []struct {
		name   string
		v      float64
		lo, hi float64
		unit   string
	}{{"wetPct", d.WetPct, 1, 100, "%"}, {"kMDay", d.KMDay, 0.001, 50, "m/day"}, {"dischargeMm", d.DischargeMM, 0.5, 50, "mm/day"}, {"irrigationMm", d.IrrigationMM, 1, 500, "mm"}, {"irrigationDays", d.IrrigationDays, 1, 365, "days"},
		{"waterM", d.WaterM, 0.2, 2, "m"}, {"depthM", d.DepthM, 0.3, 3, "m"}, {"spacingM", d.SpacingM, 2, 200, "m"}, {"angleDeg", d.AngleDeg, 20, 90, "°"}, {"reachM", d.ReachM, 0.5, 5, "m"}} {
		if x.v != 0 && !(x.v >= x.lo && x.v <= x.hi) {
			return finding.Bad("drains."+x.name, x.v, "cannot be", fmt.Sprintf("%g to %g %s, or 0 for what is computed", x.lo, x.hi, x.unit))
		}
	}
	if d.DitchM != nil && !(*d.DitchM >= 0 && *d.DitchM <= 10) {
		return finding.Bad("drains.ditchM", *d.DitchM, "is not how far the water of a ditch stands below the ground", "0 (no outlet) to 10 m")
	}
	for name, line := range d.lines() {
		switch {
		case len(line) == 1 || len(line) > 200:
			return finding.Bad("drains."+name, len(line), "is not a line", "2 to 200 points")
		}
		for _, p := range line {
			if !(p.Lon >= -180 && p.Lon <= 180 && p.Lat >= -85 && p.Lat <= 85) {
				return finding.Bad("drains."+name, fmt.Sprintf("%g, %g", p.Lon, p.Lat), "is not a position", "longitude and latitude in degrees")
			}
		}
	}
	if len(d.Laterals) > 1000 {
		return finding.Bad("drains.laterals", len(d.Laterals), "are too many", "up to 1000")
	}
	if len(d.Branches) > 20 {
		return finding.Bad("drains.branches", len(d.Branches), "are too many", "up to 20")
	}
	seen := map[string]bool{"C": true, interceptorID: true}
	for i, b := range d.Branches {
		if b.ID != "" && seen[b.ID] {
			return finding.Bad(fmt.Sprintf("drains.branches[%d].id", i), b.ID, "names another line already", "a name of its own")
		}
		seen[b.ID] = true
	}
	for i, w := range d.Wells {
		at := fmt.Sprintf("drains.wells[%d]", i)
		if w.Name == "" || !(w.DepthCm >= 20 && w.DepthCm <= 600) {
			return finding.Bad(at+".depthCm", w.DepthCm, "is not a dip well", "a name and a depth of 20 to 600 cm")
		}
		for _, r := range w.Readings {
			if r.On.IsZero() || !(r.WaterCm >= 0 && r.WaterCm <= w.DepthCm) {
				return finding.Bad(at+".readings", r.WaterCm, "is not a reading of this well", fmt.Sprintf("a day, and 0 cm (at the surface) to %g cm (dry)", w.DepthCm))
			}
		}
	}
	for i, h := range d.Holes {
		for _, v := range []float64{h.RadiusCm, h.DepthCm, h.FirstCm, h.RiseCm, h.Seconds} {
			if !(v > 0 && v < 1e5) {
				return finding.Bad(fmt.Sprintf("drains.holes[%d]", i), v, "is not a reading of an auger hole", "radius, depth, first depression and rise in cm and the time in s, all above 0")
			}
		}
	}
	return d.Bed.valid()
}

func oneOf(v string, of ...string) bool {
	for _, o := range of {
		if v == o {
			return true
		}
	}
	return false
}

func (b *BedChoice) valid() error {
	if b == nil {
		return nil
	}
	for _, x := range []struct {
		name   string
		v      float64
		lo, hi float64
	}{{"baseM", b.BaseM, 0.2, 10}, {"topM", b.TopM, 0.1, 10}, {"heightM", b.HeightM, 0.05, 1.5}, {"crownM", b.CrownM, 0.01, 1}, {"centreM", b.CentreM, 0.5, 25}} {
		if x.v != 0 && !(x.v >= x.lo && x.v <= x.hi) {
			return finding.Bad("drains.bed."+x.name, x.v, "is not a measure of a bed", fmt.Sprintf("%g to %g m, or 0 for what fits the rows", x.lo, x.hi))
		}
	}
	switch {
	case b.SettlePct != 0 && !(b.SettlePct >= 1 && b.SettlePct <= 50):
		return finding.Bad("drains.bed.settlePct", b.SettlePct, "is not how far a bed settles", "1 to 50 %, or 0 for 15")
	case !oneOf(b.Cover, "", "film", "fabric"):
		return finding.Bad("drains.bed.cover", b.Cover, "is not a cover", "film or fabric, or nothing")
	case b.DripLines < 0 || b.DripLines > 4:
		return finding.Bad("drains.bed.dripLines", b.DripLines, "is not a number of drip lines", "0 to 4 for each bed")
	}
	return nil
}
