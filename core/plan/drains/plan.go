package drains

import (
	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/geo"
	"slowroot/core/report"
)

// Plan is how the roots of a block get air: how wet it is, what the crop asks for, and the design of the
// remedy taken. Depths and lengths are m, permeability m/day, discharge mm/day. Positions are metres east and
// north of the block's origin.
type Plan struct {
	Started    bool                 `json:"started"` // somebody said something about the water, or a way is taken
	WetM       float64              `json:"wetM"`    // where water stands in the wet season; 0 not known
	WetFrom    string               `json:"wetFrom"`
	Needed     bool                 `json:"needed"`
	Criterion  Criterion            `json:"criterion"`
	Wells      []WellView           `json:"wells"`
	Holes      []HoleView           `json:"holes"`
	Remedies   []drainage.Remedy    `json:"remedies"`
	Taken      string               `json:"taken"` // remedy; "" while none works or nothing was said
	Decided    bool                 `json:"decided"`
	DepthM     float64              `json:"depthM"` // of the invert
	WantedM    float64              `json:"wantedM"`
	Limits     []drainage.Limit     `json:"limits"` // upper bounds, each named
	Binding    string               `json:"binding"`
	Refused    string               `json:"refused"` // why no pipe can lie here
	Soil       *Soil                `json:"soil,omitempty"`
	Discharges []Discharge          `json:"discharges"`
	DischargeM float64              `json:"dischargeMm"` // the one designed for
	HeadM      float64              `json:"headM"`       // water table above drain level allowed midway
	SpacingM   float64              `json:"spacingM"`
	Spacings   [3]float64           `json:"spacings"` // with the lowest, the middle and the highest permeability
	Equivalent float64              `json:"equivalentM"`
	Hours      float64              `json:"hours"`     // until the water is back below the depth wanted after a wet spell
	HoursLow   float64              `json:"hoursLow"`  // with the highest permeability
	HoursHigh  float64              `json:"hoursHigh"` // with the lowest
	Depths     []DepthTried         `json:"depths"`    // the same field drained at other depths
	Season     []TableMonth         `json:"season"`
	Network    *NetworkView         `json:"network,omitempty"`
	Cut        *NetworkView         `json:"cut,omitempty"` // an interceptor
	CatchM3Day float64              `json:"catchM3Day"`
	CarriesM3S float64              `json:"carriesM3S"` // a diversion ditch, running full
	Fastest    float64              `json:"-"`          // in it, m/s
	caught     float64              // share of what comes that an interceptor catches
	catch      func(*design, *Plan) // adds the figure of either
	Bed        *BedPlan             `json:"bed,omitempty"`
	Bill       []report.Line        `json:"bill"`
	CostText   string               `json:"costText"`
	MachineH   float64              `json:"machineH"` // all of it, beds too
	DigH       float64              `json:"-"`        // hours of that, trenches, pits and ditches
	cost       float64              // of the lines that have a price, the estate's currency
	AccuracyM  float64              `json:"accuracyM"` // of the heights; 0 without
	Laying     []string             `json:"laying"`
	Cautions   []string             `json:"cautions"`
	PerMetre   geo.Point            `json:"perMetre"` // degrees of one metre east and one north, for dragged points
	bare       bool                 // it is refused for want of cover
	noDitch    string               // why no open ditch can lie here
	branch     []geo.Point          // that would reach the largest piece missed
	cannot     error                // why a line that was drawn cannot be designed
}

// NetworkView is a network with the line it was made from.
type NetworkView struct {
	*drainage.Network
	Line       [][2]float64          `json:"line"` // the collector or interceptor
	LineAt     []geo.Point           `json:"lineAt"`
	Suggested  bool                  `json:"suggested"`  // nobody has drawn it
	Why        string                `json:"why"`        // where a suggested line lies, and what that rests on
	Drawn      bool                  `json:"drawn"`      // its laterals were drawn
	BranchAt   []document.DrawnDrain `json:"branchAt"`   // its branches, from where they join
	Part       [][2]float64          `json:"part"`       // the wet part it is laid for; empty: the whole block
	Assumed    bool                  `json:"assumed"`    // where the wet part lies is not known: the lowest ground is taken
	NextBranch string                `json:"nextBranch"` // the name a further one takes
	SpacingM   float64               `json:"spacingM"`
}

// stoneM is the box of stone around a pipe; trenchM the width of a trench (common practice).
const (
	stoneM  = 0.3
	trenchM = 0.35
)

// lateralPipe is the size laterals are judged with before one is chosen.
var lateralPipe = drainage.Pipes[0]

// lay works out whether the block needs drainage and designs what is taken.
func (c *design) lay() {
	d, choice := c.out, c.Choice
	*d = Plan{Started: c.Started, WantedM: choice.DepthM, Wells: []WellView{}, Holes: []HoleView{}, Remedies: []drainage.Remedy{}, Limits: []drainage.Limit{},
		Discharges: []Discharge{}, Depths: []DepthTried{}, Season: []TableMonth{}, Bill: []report.Line{}, Laying: []string{}, Cautions: []string{}}
	o, e, n := c.Ground.Plane.From(geo.XY{}), c.Ground.Plane.From(geo.XY{X: 1}), c.Ground.Plane.From(geo.XY{Y: 1})
	d.PerMetre = geo.Point{Lon: e.Lon - o.Lon, Lat: n.Lat - o.Lat}
	c.need(d, choice)
	if c.Land != nil {
		d.AccuracyM = c.Land.Source.AccuracyM
	}
	c.depth(d, choice)
	c.soil(d, choice)
	c.discharge(d, choice)
	c.spacing(d, choice)
	c.remedies(d, choice)
	if !d.Started {
		return
	}
	c.depths(d, choice)
	c.season(d)
	c.laid(d, choice)
	c.bill(d)
	c.figures(d)
}
