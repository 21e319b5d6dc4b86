// Package soils is the part of a plan that reads what was found in the ground: pits, tests, and what grew there before.
package soils

import (
	"math"

	"slowroot/core/civil"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/rotation"
	"slowroot/core/soil"
)

// In is what the soil is read from.
type In struct {
	Pits      []soil.Pit  // that count
	Tests     []soil.Test // in which something was measured
	Uses      []rotation.Use
	Sheet     *practice.Sheet // of the crop meant; nil where none is, or it is not known
	Fumigated rotation.Fumigation
	AreaM2    float64
}

// rootCm is how deep roots work: the crop's, else a metre.
func (in In) rootCm() float64 {
	if in.Sheet != nil && in.Sheet.Soil.RootCm > 0 {
		return in.Sheet.Soil.RootCm
	}
	return 100
}

func (in In) livesWet() bool { return in.Sheet != nil && in.Sheet.Soil.WetClass == 1 }

// inPots reports a crop that stands off the ground: soil, water table and what grew before are nothing to it.
func (in In) inPots() bool { return in.Sheet != nil && in.Sheet.Soil.InPots }

// Profile is what the pits and tests of a block say.
type Profile struct {
	Pits        []PitView  `json:"pits"`
	Tests       []TestView `json:"tests"`
	DepthCm     float64    `json:"depthCm"` // effective, as found: the 25th percentile of the pits; 0 without pits
	AfterCm     float64    `json:"afterCm"` // with every barrier removed that can be
	AtLeast     bool       `json:"atLeast"` // nothing stopped roots down to the bottom of the pits
	Limiting    string     `json:"limiting"`
	WetCm       float64    `json:"wetCm"` // where waterlogging begins, 25th percentile; the bottom where no sign was found
	WetSeen     bool       `json:"wetSeen"`
	AvailableMM float64    `json:"availableMm"` // down to the crop's roots, 25th percentile
	Waits       []WaitView `json:"waits"`
	Earliest    civil.Date `json:"earliest"` // safe planting by what grew before
	Latest      civil.Date `json:"latest"`
}

// WaitView is a waiting time from what grew before.
type WaitView struct {
	Kind     string     `json:"kind"`
	Earliest civil.Date `json:"earliest"`
	Latest   civil.Date `json:"latest"`
	Why      string     `json:"why"`
	Shorten  string     `json:"shorten"`
	Drives   bool       `json:"drives"`
}

// PitView is a pit and what follows from it.
type PitView struct {
	Name        string           `json:"name"`
	Zone        string           `json:"zone"`
	Layers      []LayerView      `json:"layers"`
	BottomCm    float64          `json:"bottomCm"`
	Wetness     soil.Wetness     `json:"wetness"`
	Reading     string           `json:"reading"`
	Barriers    []soil.Barrier   `json:"barriers"`
	EffectiveCm float64          `json:"effectiveCm"`
	Limiting    string           `json:"limiting"`
	AfterCm     float64          `json:"afterCm"`
	AfterStops  string           `json:"afterStops"`
	RootCm      float64          `json:"rootCm"` // the crop's working depth, 100 without a crop
	AvailableMM float64          `json:"availableMm"`
	Held        string           `json:"held"`
	Draft       bool             `json:"draft"` // it counts for nothing yet
	Restrictive *RestrictiveView `json:"restrictive,omitempty"`
	Rip         *soil.RipPlan    `json:"rip,omitempty"`
}

// RestrictiveView is the layer that stops water.
type RestrictiveView struct {
	TopCm float64 `json:"topCm"`
	What  string  `json:"what"`
}

// LayerView is a layer and its water.
type LayerView struct {
	TopCm    float64    `json:"topCm"`
	BottomCm float64    `json:"bottomCm"`
	Class    soil.Class `json:"class"`
	Measured bool       `json:"measured"` // by fractions, not by feel
	Words    string     `json:"words"`
	HoldsMM  float64    `json:"holdsMm"`
	KsMmH    float64    `json:"ksMmH"`
	KsLow    float64    `json:"ksLow"` // one standard deviation of the estimate
	KsHigh   float64    `json:"ksHigh"`
	Doubtful bool       `json:"doubtful"` // outside what the estimate holds for
}

// TestView is a test and its sums; NaN-free: a number not known is left out.
type TestView struct {
	Index     int      `json:"index"`
	Label     string   `json:"label"`
	AgeMonths int      `json:"ageMonths"`
	Used      bool     `json:"used"`  // the amendments rest on it
	Empty     bool     `json:"empty"` // nothing was measured in it: it counts for nothing
	PHWater   *float64 `json:"phWater,omitempty"`
	Estimated bool     `json:"estimated"` // pH turned from a salt solution
	Bases     *float64 `json:"bases,omitempty"`
	CEC       *float64 `json:"cec,omitempty"`
	BasePct   *float64 `json:"basePct,omitempty"`
	ESPPct    *float64 `json:"espPct,omitempty"`
	Doubts    []string `json:"doubts"`
}

// Read reads pits, tests and previous uses.
func Read(in In, say *report.Voice) Profile {
	root := in.rootCm()
	p := Profile{Pits: []PitView{}, Tests: []TestView{}, Waits: []WaitView{}}
	var depth, after, wet, held []float64
	for _, pit := range in.Pits {
		v := ReadPit(pit, root, in.livesWet())
		p.Pits = append(p.Pits, v)
		depth, after, held = append(depth, v.EffectiveCm), append(after, v.AfterCm), append(held, v.AvailableMM)
		if v.Wetness.Class != soil.Undetermined {
			wet = append(wet, v.Wetness.DepthCm)
			p.WetSeen = p.WetSeen || v.Wetness.Seen
		}
	}
	if len(depth) > 0 {
		p.DepthCm, p.AfterCm, p.AvailableMM = soil.Quantile(depth, 0.25), soil.Quantile(after, 0.25), soil.Quantile(held, 0.25)
		if len(wet) > 0 {
			p.WetCm = soil.Quantile(wet, 0.25)
		}
		p.AtLeast = true
		shallow := math.Inf(1)
		for _, v := range p.Pits {
			if v.Limiting != "" {
				p.AtLeast = false
				if v.EffectiveCm < shallow {
					shallow, p.Limiting = v.EffectiveCm, v.Limiting
				}
			}
		}
	}
	used, ok := soil.Top(in.Tests)
	for i, t := range in.Tests {
		p.Tests = append(p.Tests, readTest(i, t, ok && i == used, say))
	}
	if in.Sheet != nil && !in.inPots() {
		waits, early, late, driver := rotation.Waits(in.Uses, in.Sheet.Waits, say.Today, in.Fumigated)
		p.Earliest, p.Latest = early, late
		for i, w := range waits {
			p.Waits = append(p.Waits, WaitView{Kind: w.Use.Kind, Earliest: w.Earliest, Latest: w.Latest, Why: w.Why, Shorten: w.Shorten, Drives: i == driver})
		}
	}
	p.figures(in, root, say)
	return p
}
