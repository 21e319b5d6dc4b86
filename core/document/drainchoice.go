package document

import (
	"fmt"
	"slices"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
)

// DrainFork is the fork between the remedies for wet ground.
const DrainFork = "drain"

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
func (d *DrainChoice) Valid() error {
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
	if !OneOf(d.Traffic, "", "foot", "tractor", "truck") {
		return finding.Bad("drains.traffic", d.Traffic, "is not a kind of traffic", "foot, tractor or truck")
	}
	if !OneOf(d.DischargeBy, "", "practice", "storm", "irrigation", "set") {
		return finding.Bad("drains.dischargeBy", d.DischargeBy, "is not a way to a design discharge", "practice, storm, irrigation or set")
	}
	for _, x := range []struct {
		name   string
		v      float64
		lo, hi float64
		unit   string
	}{{"wetPct", d.WetPct, 1, 100, "%"}, {"kMDay", d.KMDay, 0.001, 50, "m/day"}, {"dischargeMm", d.DischargeMM, 0.5, 50, "mm/day"},
		{"irrigationMm", d.IrrigationMM, 1, 500, "mm"}, {"irrigationDays", d.IrrigationDays, 1, 365, "days"},
		{"waterM", d.WaterM, 0.2, 2, "m"}, {"depthM", d.DepthM, 0.3, 3, "m"}, {"spacingM", d.SpacingM, 2, 200, "m"}, {"angleDeg", d.AngleDeg, 20, 90, "°"},
		{"reachM", d.ReachM, 0.5, 5, "m"}} {
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
	seen := map[string]bool{"C": true, InterceptorID: true}
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
				return finding.Bad(fmt.Sprintf("drains.holes[%d]", i), v, "is not a reading of an auger hole",
					"radius, depth, first depression and rise in cm and the time in s, all above 0")
			}
		}
	}
	return d.Bed.valid()
}

func OneOf(v string, of ...string) bool {
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
	case !OneOf(b.Cover, "", "film", "fabric"):
		return finding.Bad("drains.bed.cover", b.Cover, "is not a cover", "film or fabric, or nothing")
	case b.DripLines < 0 || b.DripLines > 4:
		return finding.Bad("drains.bed.dripLines", b.DripLines, "is not a number of drip lines", "0 to 4 for each bed")
	}
	return nil
}

// interceptorID names an interceptor beside a network.
const InterceptorID = "I"

// MachineReach is how deep the trench machine digs, m.
func (d DrainChoice) MachineReach() float64 {
	if r := d.ReachM; r > 0 {
		return r
	}
	return 1.8
}

// DrainChoice is what was seen of the water on a block and what was chosen for its drains. Zero values take
// what is computed or usual.
type DrainChoice struct {
	Source         string       `json:"source,omitempty"`   // of drainage.Sources
	Evidence       string       `json:"evidence,omitempty"` // what was seen, and when
	WetPct         float64      `json:"wetPct,omitempty"`   // of the block; 0 is all of it
	Wells          []Well       `json:"wells,omitempty"`
	Holes          []Hole       `json:"holes,omitempty"`
	KMDay          float64      `json:"kMDay,omitempty"` // permeability as it was said, m/day
	DischargeBy    string       `json:"dischargeBy,omitempty"`
	DischargeMM    float64      `json:"dischargeMm,omitempty"` // mm/day, set by hand
	IrrigationMM   float64      `json:"irrigationMm,omitempty"`
	IrrigationDays float64      `json:"irrigationDays,omitempty"`
	Pit            string       `json:"pit,omitempty"`    // whose soil the drains are designed for; "" the one that stops water soonest
	WaterM         float64      `json:"waterM,omitempty"` // how deep the water table is to be kept; 0 as the crop asks
	DepthM         float64      `json:"depthM,omitempty"`
	SpacingM       float64      `json:"spacingM,omitempty"`
	AngleDeg       float64      `json:"angleDeg,omitempty"` // of a herringbone; 0 is 60
	DitchM         *float64     `json:"ditchM,omitempty"`   // water in the ditch, below the ground at the outlet; 0 is no outlet
	ReachM         float64      `json:"reachM,omitempty"`   // of the trench machine
	Traffic        string       `json:"traffic,omitempty"`  // foot, tractor or truck
	Collector      []geo.Point  `json:"collector,omitempty"`
	Branches       []DrawnDrain `json:"branches,omitempty"` // that run into the collector or a branch before them
	Laterals       []DrawnDrain `json:"laterals,omitempty"` // drawn; they replace the pattern
	Interceptor    []geo.Point  `json:"interceptor,omitempty"`
	CutOpen        bool         `json:"cutOpen,omitempty"` // the interceptor is an open ditch, not a pipe in stone
	Bed            *BedChoice   `json:"bed,omitempty"`
}

// Well is a dip well with its readings through the year.
type Well struct {
	ID       string        `json:"id,omitempty"` // for good; given when it is written
	Name     string        `json:"name"`
	At       *geo.Point    `json:"at,omitempty"`
	DepthCm  float64       `json:"depthCm"`
	Readings []WellReading `json:"readings"`
}

// WellReading is how deep the water stood; as deep as the well is dry.
type WellReading struct {
	On      civil.Date `json:"on"`
	WaterCm float64    `json:"waterCm"`
}

// Hole is one auger-hole reading: the hole's radius and depth below the rested water, how far the water was
// bailed down, and how far it rose in how many seconds.
type Hole struct {
	ID       string     `json:"id,omitempty"` // for good; given when it is written
	Name     string     `json:"name"`
	On       civil.Date `json:"on"`
	RadiusCm float64    `json:"radiusCm"`
	DepthCm  float64    `json:"depthCm"`
	FirstCm  float64    `json:"firstCm"`
	RiseCm   float64    `json:"riseCm"`
	Seconds  float64    `json:"seconds"`
	OnLayer  bool       `json:"onLayer"`
}

// DrawnDrain is a lateral or a branch of the collector as it was drawn or read from a file, the junction end first.
type DrawnDrain struct {
	ID   string      `json:"id"`
	Line []geo.Point `json:"line"`
}

// BedChoice is the bed wanted, once it has settled. Zero values take what fits the rows.
type BedChoice struct {
	BaseM     float64 `json:"baseM,omitempty"`
	TopM      float64 `json:"topM,omitempty"`
	HeightM   float64 `json:"heightM,omitempty"` // over the furrow floor
	CrownM    float64 `json:"crownM,omitempty"`
	CentreM   float64 `json:"centreM,omitempty"`
	SettlePct float64 `json:"settlePct,omitempty"` // of a fresh bed's height; 0 is 15
	Cover     string  `json:"cover,omitempty"`     // "", film or fabric
	DripLines int     `json:"dripLines,omitempty"` // for each bed
}

// WellsRead tells whether a dip well was read often enough to be believed: three times.
func (d *DrainChoice) WellsRead() bool {
	return d != nil && slices.ContainsFunc(d.Wells, func(w Well) bool { return len(w.Readings) >= 3 })
}
