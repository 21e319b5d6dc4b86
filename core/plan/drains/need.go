package drains

import (
	"fmt"
	"math"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/units"
	"slowroot/core/working"
)

// Criterion is what the crop asks of the water table.
type Criterion struct {
	Class   int     `json:"class"` // wet-soil class, 1 tolerant to 5
	SteadyM float64 `json:"steadyM"`
	BackM   float64 `json:"backM"` // to be reached within Hours after a wet spell
	Hours   float64 `json:"hours"`
	Assumed bool    `json:"assumed"` // no crop is meant: the middle class
	Said    bool    `json:"said"`    // a person said how deep the water is to be kept
}

// origin is where the depth asked for comes from.
func (k Criterion) Origin() working.Origin {
	switch {
	case k.Said:
		return working.Chosen
	case k.Assumed:
		return working.Assumed
	}
	return working.Sheet
}

// WellView is a dip well and what it says.
type WellView struct {
	Name      string  `json:"name"`
	Readings  int     `json:"readings"`
	HighestCm float64 `json:"highestCm"` // nearest the surface
	LowestCm  float64 `json:"lowestCm"`
	Counts    bool    `json:"counts"` // three readings or more: it outweighs the marks of the pits
}

// HoleView is an auger hole and its permeability.
type HoleView struct {
	Name    string  `json:"name"`
	KMDay   float64 `json:"kMDay"`
	Dropped string  `json:"dropped"` // why the reading does not count
}

// need compares where water stands with what the crop asks for. A dip well of three readings outweighs
// the marks in the pits.
func (c *design) need(d *Plan, choice document.DrainChoice) {
	k := Criterion{Class: 3, Assumed: true}
	if c.Sheet != nil && c.Sheet.Soil.WetClass > 0 {
		k.Class, k.Assumed = c.Sheet.Soil.WetClass, false
	}
	k.SteadyM, k.BackM, k.Hours = drainage.Criterion(k.Class)
	if choice.WaterM > 0 { // the way back after a wet spell keeps its proportion
		k.BackM, k.SteadyM, k.Said = k.BackM*choice.WaterM/k.SteadyM, choice.WaterM, true
	}
	d.Criterion = k
	well := math.Inf(1)
	for _, w := range choice.Wells {
		v := WellView{Name: w.Name, Readings: len(w.Readings), Counts: len(w.Readings) >= 3}
		for i, r := range w.Readings {
			if i == 0 || r.WaterCm < v.HighestCm {
				v.HighestCm = r.WaterCm
			}
			v.LowestCm = math.Max(v.LowestCm, r.WaterCm)
		}
		if v.Counts && v.HighestCm < w.DepthCm {
			well = math.Min(well, v.HighestCm/100)
		}
		d.Wells = append(d.Wells, v)
	}
	switch s := c.Soil; {
	case !math.IsInf(well, 1):
		d.WetM, d.WetFrom = well, "dip wells"
	case s.WetSeen:
		d.WetM, d.WetFrom = s.WetCm/100, "marks in the pits"
	}
	d.Needed = d.WetFrom != "" && d.WetM < k.SteadyM-1e-9 && !(c.Sheet != nil && c.Sheet.Soil.InPots)
}

// roots is how deep the crop's roots work, m; 0.8 where no crop is meant.
func (c *design) roots() float64 {
	if c.Sheet != nil && c.Sheet.Soil.RootCm > 0 {
		return c.Sheet.Soil.RootCm / 100
	}
	return 0.8
}

// noOutlet is why nothing is designed without one.
const noOutlet = "there is no outlet: a drain that runs nowhere is not designed"

// depth finds how deep a drain may lie and what decides it (method DRN-4).
func (c *design) depth(d *Plan, choice document.DrainChoice) {
	// deeper than this gives the roots nothing; a crop that wants the water below its roots still needs the head
	air, what := c.roots(), "roots"
	if d.Criterion.SteadyM > air {
		air, what = d.Criterion.SteadyM, "water table asked for"
	}
	up := []drainage.Limit{{Name: fmt.Sprintf("%s, %s, and %s below", what, c.Text(air, units.Spacing), c.Text(drainage.RootsMarginM, units.Spacing)),
		DepthM: air + drainage.RootsMarginM}}
	if i, ok := c.governing(); ok {
		if r := c.stops(i); r != nil {
			up = append(up, drainage.Limit{Name: r.What + " that stops the water", DepthM: r.TopCm / 100})
		}
	}
	if choice.DitchM != nil && *choice.DitchM > 0 {
		up = append(up, drainage.Limit{Name: "outlet", DepthM: *choice.DitchM - drainage.OutletClearM})
	}
	up = append(up, drainage.Limit{Name: "reach of the machine", DepthM: c.Choice.MachineReach()})
	d.Limits = up
	traffic := choice.Traffic
	if traffic == "" {
		traffic = "tractor"
	}
	depth, by, err := drainage.Depth(up, []drainage.Limit{{Name: traffic + " traffic", DepthM: drainage.Cover(traffic)}}, lateralPipe.OuterM)
	d.DepthM, d.Binding = depth, by.Name
	if choice.DepthM > 0 {
		d.DepthM = math.Min(depth, choice.DepthM)
	}
	cover := ""
	if fe, ok := err.(*finding.FieldError); ok {
		cover = fmt.Sprintf("%s, %s: %s", fe.Rule, c.Text(drainage.Cover(traffic), units.Spacing), fe.Accepted)
	} else if need := drainage.Cover(traffic) + lateralPipe.OuterM; d.DepthM < need-1e-9 {
		cover = fmt.Sprintf("a drain %s deep has too little cover: %s traffic asks for %s over the pipe", c.Text(d.DepthM, units.Spacing), traffic,
			c.Text(drainage.Cover(traffic), units.Spacing))
	}
	d.HeadM = d.level() - d.Criterion.SteadyM
	if d.HeadM < 0.05 {
		d.noDitch = fmt.Sprintf("a drain at %s lies above or hardly below the water table of %s that is asked for", c.Text(d.DepthM, units.Spacing),
			c.Text(d.Criterion.SteadyM, units.Spacing))
	}
	if choice.DitchM != nil && *choice.DitchM <= 0 {
		d.noDitch, cover = noOutlet, ""
	}
	if d.Refused = d.noDitch; cover != "" {
		d.Refused, d.bare = cover, true
	}
}

// asDitches is the same field drained by ditches, which nothing has to cover.
func (c *design) asDitches(d Plan, choice document.DrainChoice) Plan {
	if d.bare {
		d.Refused, d.bare = d.noDitch, false
		c.spacing(&d, choice)
	}
	return d
}
