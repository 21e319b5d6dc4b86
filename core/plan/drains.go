package plan

import (
	"fmt"
	"math"
	"slices"
	"sort"

	"slowroot/core/climate"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/soil"
	"slowroot/core/units"
	"slowroot/core/working"
)

// DrainPlan is how the roots of a block get air: how wet it is, what the crop asks for, and the design of the
// remedy taken. Depths and lengths are m, permeability m/day, discharge mm/day. Positions are metres east and
// north of the block's origin.
type DrainPlan struct {
	Started    bool              `json:"started"` // somebody said something about the water, or a way is taken
	WetM       float64           `json:"wetM"`    // where water stands in the wet season; 0 not known
	WetFrom    string            `json:"wetFrom"`
	Needed     bool              `json:"needed"`
	Criterion  DrainCriterion    `json:"criterion"`
	Wells      []WellView        `json:"wells"`
	Holes      []HoleView        `json:"holes"`
	Remedies   []drainage.Remedy `json:"remedies"`
	Taken      string            `json:"taken"` // remedy; "" while none works or nothing was said
	Decided    bool              `json:"decided"`
	DepthM     float64           `json:"depthM"` // of the invert
	WantedM    float64           `json:"wantedM"`
	Limits     []drainage.Limit  `json:"limits"` // upper bounds, each named
	Binding    string            `json:"binding"`
	Refused    string            `json:"refused"` // why no pipe can lie here
	Soil       *DrainSoil        `json:"soil,omitempty"`
	Discharges []Discharge       `json:"discharges"`
	DischargeM float64           `json:"dischargeMm"` // the one designed for
	HeadM      float64           `json:"headM"`       // water table above drain level allowed midway
	SpacingM   float64           `json:"spacingM"`
	Spacings   [3]float64        `json:"spacings"` // with the lowest, the middle and the highest permeability
	Equivalent float64           `json:"equivalentM"`
	Hours      float64           `json:"hours"`     // until the water is back below the depth wanted after a wet spell
	HoursLow   float64           `json:"hoursLow"`  // with the highest permeability
	HoursHigh  float64           `json:"hoursHigh"` // with the lowest
	Depths     []DepthTried      `json:"depths"`    // the same field drained at other depths
	Season     []TableMonth      `json:"season"`
	Network    *NetworkView      `json:"network,omitempty"`
	Cut        *NetworkView      `json:"cut,omitempty"` // an interceptor
	CatchM3Day float64           `json:"catchM3Day"`
	CarriesM3S float64           `json:"carriesM3S"` // a diversion ditch, running full
	fastest    float64           // in it, m/s
	catch      func()            // adds the figure of either
	Bed        *BedPlan          `json:"bed,omitempty"`
	Bill       []BillLine        `json:"bill"`
	CostText   string            `json:"costText"`
	MachineH   float64           `json:"machineH"` // all of it, beds too
	digH       float64           // of that, trenches, pits and ditches
	cost       float64           // of the lines that have a price, the estate's currency
	AccuracyM  float64           `json:"accuracyM"` // of the heights; 0 without
	Laying     []string          `json:"laying"`
	Cautions   []string          `json:"cautions"`
	PerMetre   geo.Point         `json:"perMetre"` // degrees of one metre east and one north, for dragged points
	bare       bool              // it is refused for want of cover
	noDitch    string            // why no open ditch can lie here
	branch     []geo.Point       // that would reach the largest piece missed
	cannot     error             // why a line that was drawn cannot be designed
}

// DrainCriterion is what the crop asks of the water table.
type DrainCriterion struct {
	Class   int     `json:"class"` // wet-soil class, 1 tolerant to 5
	SteadyM float64 `json:"steadyM"`
	BackM   float64 `json:"backM"` // to be reached within Hours after a wet spell
	Hours   float64 `json:"hours"`
	Assumed bool    `json:"assumed"` // no crop is meant: the middle class
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

// DrainSoil is the soil as drains see it.
type DrainSoil struct {
	Pit     string  `json:"pit"` // the one that governs
	PitAt   int     `json:"pitAt"`
	Above   float64 `json:"above"` // permeability above drain level
	Below   float64 `json:"below"`
	Low     float64 `json:"low"` // factor of the lowest that is likely
	High    float64 `json:"high"`
	From    string  `json:"from"`
	ThickM  float64 `json:"thickM"` // from drain level to what stops the water
	AtLeast bool    `json:"atLeast"`
	LayerM  float64 `json:"layerM"` // depth of what stops water, the shallowest of the pits; 0 none seen
	Layer   string  `json:"layer"`
	Texture string  `json:"texture"`
	School  string  `json:"school"` // hooghoudt or ernst
	Pores   float64 `json:"pores"`  // drainable share
	second  *drainage.TwoLayers
}

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

// NetworkView is a network with the line it was made from.
type NetworkView struct {
	*drainage.Network
	Line      [][2]float64 `json:"line"` // the collector or interceptor
	LineAt    []geo.Point  `json:"lineAt"`
	Suggested bool         `json:"suggested"` // nobody has drawn it
	Drawn     bool         `json:"drawn"`     // its laterals were drawn
	BranchAt  []DrawnDrain `json:"branchAt"`  // its branches, from where they join
	SpacingM  float64      `json:"spacingM"`
}

// BillLine is one line of the bill of quantities.
type BillLine struct {
	What     string         `json:"what"`
	Amount   float64        `json:"amount"`
	Quantity units.Quantity `json:"quantity"`
	CostText string         `json:"costText"`
	Note     string         `json:"note"`
}

// stoneM is the box of stone around a pipe; trenchM the width of a trench (common practice).
const (
	stoneM  = 0.3
	trenchM = 0.35
)

// lateralPipe is the size laterals are judged with before one is chosen.
var lateralPipe = drainage.Pipes[0]

// drains works out whether the block needs drainage and designs what is taken.
func (c *computation) drains() {
	d := &c.p.Drains
	choice := c.in.Block.drainChoice()
	*d = DrainPlan{Started: c.in.Block.wet(), WantedM: choice.DepthM, Wells: []WellView{}, Holes: []HoleView{}, Remedies: []drainage.Remedy{}, Limits: []drainage.Limit{},
		Discharges: []Discharge{}, Depths: []DepthTried{}, Season: []TableMonth{}, Bill: []BillLine{}, Laying: []string{}, Cautions: []string{}}
	o, e, n := c.plane.From(geo.XY{}), c.plane.From(geo.XY{X: 1}), c.plane.From(geo.XY{Y: 1})
	d.PerMetre = geo.Point{Lon: e.Lon - o.Lon, Lat: n.Lat - o.Lat}
	c.drainNeed(d, choice)
	if c.in.Land != nil {
		d.AccuracyM = c.in.Land.Source.AccuracyM
	}
	c.drainDepth(d, choice)
	c.drainSoil(d, choice)
	c.drainDischarge(d, choice)
	c.drainSpacing(d, choice)
	c.drainRemedies(d, choice)
	if !d.Started {
		return
	}
	c.drainDepths(d, choice)
	c.drainSeason(d)
	c.drainDesign(d, choice)
	c.drainBill(d)
	c.drainFigures(d)
}

func (b Block) drainChoice() DrainChoice {
	if b.Drains != nil {
		return *b.Drains
	}
	return DrainChoice{}
}

// drainNeed compares where water stands with what the crop asks for. A dip well of three readings outweighs
// the marks in the pits.
func (c *computation) drainNeed(d *DrainPlan, choice DrainChoice) {
	k := DrainCriterion{Class: 3, Assumed: true}
	if c.sheet != nil && c.sheet.Soil.WetClass > 0 {
		k.Class, k.Assumed = c.sheet.Soil.WetClass, false
	}
	k.SteadyM, k.BackM, k.Hours = drainage.Criterion(k.Class)
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
	switch s := c.p.Soil; {
	case !math.IsInf(well, 1):
		d.WetM, d.WetFrom = well, "dip wells"
	case s.WetSeen:
		d.WetM, d.WetFrom = s.WetCm/100, "marks in the pits"
	}
	d.Needed = d.WetFrom != "" && d.WetM < k.SteadyM-1e-9
}

// wellsRead tells whether a dip well was read often enough to be believed.
func (d DrainPlan) wellsRead() bool {
	return slices.ContainsFunc(d.Wells, func(w WellView) bool { return w.Counts })
}

// governing is the pit a design rests on: the one whose water is stopped at the least depth, else the wettest.
func (c *computation) governing() (int, bool) {
	best, depth := 0, math.Inf(1)
	for i, v := range c.p.Soil.Pits {
		at := 1000 + v.Wetness.DepthCm
		if r := c.stops(i); r != nil {
			at = r.TopCm
		}
		if at < depth {
			best, depth = i, at
		}
	}
	return best, len(c.p.Soil.Pits) > 0
}

// nearest is the pit nearest a point of the block, where pits have positions; else the governing one.
func (c *computation) nearest(x, y float64) (int, bool) {
	best, ok := c.governing()
	far := math.Inf(1)
	for i, p := range c.in.Block.Pits {
		if p.At == nil {
			continue
		}
		q := c.plane.To(*p.At)
		if d := math.Hypot(q.X-x, q.Y-y); d < far {
			best, far = i, d
		}
	}
	return best, ok
}

// stops is the layer of a pit that stops water and stays: a pan that is ripped does not count.
func (c *computation) stops(i int) *RestrictiveView {
	pit := c.in.Block.Pits[i]
	var kept []soil.Layer
	for _, l := range pit.Layers {
		broken := false
		for _, b := range c.p.Soil.Pits[i].Barriers {
			broken = broken || b.Remedy == "rip" && b.Removable && b.DepthCm == l.TopCm
		}
		if !broken {
			kept = append(kept, l)
		}
	}
	pit.Layers = kept
	if top, what, ok := pit.Restrictive(); ok {
		return &RestrictiveView{top, what}
	}
	return nil
}

// layer is how deep what stops the water lies anywhere on the block: between pits that have a position by the
// inverse square of the distance, one that saw none counting at its bottom; nowhere deeper than in a pit without a
// position. nil where no pit saw any.
func (c *computation) layer() func(x, y float64) float64 {
	type seen struct{ x, y, depth float64 }
	var placed []seen
	most, any := math.Inf(1), false
	for i, p := range c.in.Block.Pits {
		depth := c.p.Soil.Pits[i].BottomCm / 100
		r := c.stops(i)
		if r != nil {
			depth, any = r.TopCm/100, true
		}
		if p.At != nil {
			q := c.plane.To(*p.At)
			placed = append(placed, seen{q.X, q.Y, depth})
		} else if r != nil {
			most = math.Min(most, depth)
		}
	}
	if !any {
		return nil
	}
	return func(x, y float64) float64 {
		sum, weights := 0.0, 0.0
		for _, s := range placed {
			w := 1 / ((s.x-x)*(s.x-x) + (s.y-y)*(s.y-y) + 1)
			sum, weights = sum+w*s.depth, weights+w
		}
		if weights == 0 {
			return most
		}
		return math.Min(most, sum/weights)
	}
}

// slab is a layer or a part of one: its permeability in m/day and where it lies, m.
type slab struct{ k, top, bottom float64 }

// slabs are the layers of a pit between two depths in m, as far as their permeability can be estimated.
func (c *computation) slabs(i int, from, to float64) []slab {
	var out []slab
	for _, l := range c.p.Soil.Pits[i].Layers {
		if a, b := math.Max(l.TopCm/100, from), math.Min(l.BottomCm/100, to); l.KsMmH > 0 && b > a {
			out = append(out, slab{l.KsMmH * perDay, a, b})
		}
	}
	return out
}

// meanK is their mean permeability to flow along them.
func meanK(of []slab) float64 {
	kd, t := 0.0, 0.0
	for _, x := range of {
		kd, t = kd+x.k*(x.bottom-x.top), t+x.bottom-x.top
	}
	if t == 0 {
		return 0
	}
	return kd / t
}

// roots is how deep the crop's roots work, m; 0.8 where no crop is meant.
func (c *computation) roots() float64 {
	if c.sheet != nil && c.sheet.Soil.RootCm > 0 {
		return c.sheet.Soil.RootCm / 100
	}
	return 0.8
}

// drainDepth finds how deep a drain may lie and what decides it (method DRN-4).
func (c *computation) drainDepth(d *DrainPlan, choice DrainChoice) {
	// deeper than this gives the roots nothing; a crop that wants the water below its roots still needs the head
	air, what := c.roots(), "roots"
	if d.Criterion.SteadyM > air {
		air, what = d.Criterion.SteadyM, "water table asked for"
	}
	up := []drainage.Limit{{Name: fmt.Sprintf("%s, %s, and %s below", what, c.text(air, units.Spacing), c.text(drainage.RootsMarginM, units.Spacing)), DepthM: air + drainage.RootsMarginM}}
	if i, ok := c.governing(); ok {
		if r := c.stops(i); r != nil {
			up = append(up, drainage.Limit{Name: r.What + " that stops the water", DepthM: r.TopCm / 100})
		}
	}
	if choice.DitchM != nil && *choice.DitchM > 0 {
		up = append(up, drainage.Limit{Name: "outlet", DepthM: *choice.DitchM - drainage.OutletClearM})
	}
	up = append(up, drainage.Limit{Name: "reach of the machine", DepthM: c.in.Block.machineReach()})
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
		cover = fmt.Sprintf("%s, %s: %s", fe.Rule, c.text(drainage.Cover(traffic), units.Spacing), fe.Accepted)
	} else if need := drainage.Cover(traffic) + lateralPipe.OuterM; d.DepthM < need-1e-9 {
		cover = fmt.Sprintf("a drain %s deep has too little cover: %s traffic asks for %s over the pipe", c.text(d.DepthM, units.Spacing), traffic, c.text(drainage.Cover(traffic), units.Spacing))
	}
	d.HeadM = d.level() - d.Criterion.SteadyM
	if d.HeadM < 0.05 {
		d.noDitch = fmt.Sprintf("a drain at %s lies above or hardly below the water table of %s that is asked for", c.text(d.DepthM, units.Spacing), c.text(d.Criterion.SteadyM, units.Spacing))
	}
	if choice.DitchM != nil && *choice.DitchM <= 0 {
		d.noDitch, cover = "there is no outlet: a drain that runs nowhere is not designed", ""
	}
	if d.Refused = d.noDitch; cover != "" {
		d.Refused, d.bare = cover, true
	}
}

// asDitches is the same field drained by ditches, which nothing has to cover.
func (c *computation) asDitches(d DrainPlan, choice DrainChoice) DrainPlan {
	if d.bare {
		d.Refused, d.bare = d.noDitch, false
		c.drainSpacing(&d, choice)
	}
	return d
}

// machineReach is how deep the trench machine digs, m.
func (b Block) machineReach() float64 {
	if r := b.drainChoice().ReachM; r > 0 {
		return r
	}
	return 1.8
}

// closestM is the least spacing a network is laid at unasked; beds cost less (common practice).
const closestM = 3

// perDay turns mm/h into m/day.
const perDay = 0.024

// drainSoil is the permeability above and below drain level: auger holes before a value that was said, and
// either before texture (methods DRN-3, DRN-5, DRN-6).
func (c *computation) drainSoil(d *DrainPlan, choice DrainChoice) {
	i, ok := c.governing()
	if !ok {
		return
	}
	v := c.p.Soil.Pits[i]
	s := DrainSoil{Pit: v.Name, PitAt: i, From: "texture", Low: 1 / soil.KsFactor, High: soil.KsFactor, School: "hooghoudt"}
	end := v.BottomCm / 100
	stop := c.stops(i)
	s.AtLeast = stop == nil
	if stop != nil {
		end, s.LayerM, s.Layer = stop.TopCm/100, stop.TopCm/100, stop.What
	}
	s.ThickM = math.Max(0, end-d.level())
	for _, l := range v.Layers {
		if l.TopCm/100 <= d.DepthM && d.DepthM <= l.BottomCm/100+1e-9 {
			s.Texture = string(l.Class)
		}
	}
	below := c.slabs(i, d.level(), end)
	s.Above, s.Below = meanK(c.slabs(i, math.Min(d.Criterion.SteadyM, d.DepthM/2), d.level())), meanK(below)
	var ks []float64
	for _, h := range choice.Holes {
		k, err := drainage.AugerHole(h.RadiusCm, h.DepthCm, h.FirstCm-h.RiseCm/2, h.FirstCm, h.RiseCm, h.Seconds, h.OnLayer)
		hv := HoleView{Name: h.Name, KMDay: k}
		if fe, bad := err.(*finding.FieldError); bad {
			hv.Dropped = fe.Rule + "; accepted: " + fe.Accepted
		} else {
			ks = append(ks, k)
		}
		d.Holes = append(d.Holes, hv)
	}
	switch {
	case len(ks) > 0:
		k := drainage.GeometricMean(ks)
		lo, hi := k/1.5, k*1.5 // one hole says little of the next
		for _, x := range ks {
			lo, hi = math.Min(lo, x), math.Max(hi, x)
		}
		s.Above, s.Below, s.Low, s.High, s.From = k, k, lo/k, hi/k, count(len(ks), "auger hole")
	case choice.KMDay > 0:
		s.Above, s.Below, s.Low, s.High, s.From = choice.KMDay, choice.KMDay, 0.5, 2, "as it was said"
	case len(below) == 2 && below[1].k > 1.5*below[0].k && below[0].bottom-below[0].top > 0.1:
		// the drain lies in the poorer layer with better soil below it
		t1, t2 := below[0].bottom-below[0].top, below[1].bottom-below[1].top
		e := drainage.TwoLayers{Dv: math.Max(0, d.HeadM), Kv: below[0].k, KD: below[0].k*(t1+math.Max(0, d.HeadM)/2) + below[1].k*t2, Kr: below[0].k, Dr: t1, A: drainage.GeometryFactor(below[1].k/below[0].k, t2/t1), U: drainage.EnvelopePerimeter(stoneM, stoneM)}
		if e.A*e.Dr > e.U {
			s.School, s.second = "ernst", &e
		}
	}
	if s.Above > 0 {
		s.Pores = drainage.Porosity(s.Above)
	}
	d.Soil = &s
}

// drainDischarge is the design discharge by every school that can answer (method DRN-2).
func (c *computation) drainDischarge(d *DrainPlan, choice DrainChoice) {
	add := func(id, name string, mm float64, why string) {
		d.Discharges = append(d.Discharges, Discharge{ID: id, Name: name, MmDay: mm, Why: why})
	}
	add("practice", "Usual", 7, fmt.Sprintf("temperate practice, %s to %s; common practice, no source", c.text(7, units.Drained), c.text(10, units.Drained)))
	if s := c.in.Climate; s != nil && !math.IsNaN(s.StormMM) && d.Soil != nil && d.Soil.Pores > 0 {
		held := d.Soil.Pores * (d.Criterion.SteadyM - d.Criterion.BackM) * 1000
		add("storm", "From the rain record", 1000*drainage.StormDischarge(s.StormMM, held, 0, climate.StormDays),
			fmt.Sprintf("%s in %d days once in %d years, by %d years of record; the soil takes %s while the water rises to %s; no runoff is counted", c.text(s.StormMM, units.Rain), climate.StormDays, climate.StormYears, s.StormFrom, c.text(held, units.Rain), c.text(d.Criterion.BackM, units.Spacing)))
	}
	if choice.IrrigationMM > 0 && choice.IrrigationDays > 0 {
		const efficiency = 0.7
		add("irrigation", "From irrigation", 1000*drainage.IrrigationDischarge(choice.IrrigationMM, efficiency, 1, choice.IrrigationDays),
			fmt.Sprintf("%s every %.0f days; an efficiency of %g is assumed and all that is lost sinks in", c.text(choice.IrrigationMM, units.Rain), choice.IrrigationDays, efficiency))
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
func (d *DrainPlan) level() float64 { return d.DepthM - lateralPipe.OuterM/2 }

// back is the height above drain level the water must fall to after a wet spell.
func (d *DrainPlan) back() float64 { return math.Max(0.02, d.level()-d.Criterion.BackM) }

// field is the soil with its permeability times a factor, as the spacing formulas take it.
func (d *DrainPlan) field(factor float64) drainage.Field {
	return drainage.Field{Ka: d.Soil.Above * factor, Kb: d.Soil.Below * factor, Thick: d.Soil.ThickM, U: drainage.EnvelopePerimeter(stoneM, stoneM), H: d.HeadM, Q: d.DischargeM / 1000}
}

// drainSpacing is the spacing for the whole range of the permeability, and how fast the water falls.
func (c *computation) drainSpacing(d *DrainPlan, choice DrainChoice) {
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
		d.SpacingM = math.Max(2, math.Min(100, math.Floor(2*d.Spacings[1])/2))
	}
	hours := func(f float64) float64 {
		g := d.field(f)
		eq := drainage.EquivalentDepth(d.SpacingM, d.Soil.ThickM, g.U) + (d.level()+d.back())/4
		return 24 * drainage.FallDays(g.Ka, eq, d.Soil.Pores, d.SpacingM, d.level(), d.back())
	}
	if d.SpacingM < closestM && choice.SpacingM == 0 {
		d.Refused = fmt.Sprintf("drains would have to lie %s apart: the soil lets too little water through", c.text(d.SpacingM, units.Spacing))
	}
	d.Hours, d.HoursLow, d.HoursHigh = hours(1), hours(d.Soil.High), hours(d.Soil.Low)
}

// drainDepths drains the same field at other depths, from what the cover needs to the binding limit, so that depth and
// spacing can be weighed against the cost (method DRN-4).
func (c *computation) drainDepths(d *DrainPlan, choice DrainChoice) {
	if d.SpacingM == 0 || d.Refused != "" {
		return
	}
	least := math.Max(drainage.Cover(choice.Traffic)+lateralPipe.OuterM, d.Criterion.SteadyM+lateralPipe.OuterM/2+0.05)
	most := deepest(d.Limits).DepthM
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
		c.drainDepth(&try, ch)
		c.drainSoil(&try, ch)
		c.drainSpacing(&try, ch)
		if try.Spacings[1] < 2 || math.Abs(try.DepthM-at) > 1e-6 {
			continue
		}
		k := &costs{c: c}
		metres := 1e4 / try.SpacingM
		k.line("pipe", "pipe:"+lateralPipe.Name, drainage.PipeLaps*metres, units.Distance, "")
		k.line("stone", "drain-stone", drainage.StoneWaste*drainage.StoneTM3*1000*metres*drainage.EnvelopeM3(stoneM, stoneM, lateralPipe.OuterM), units.MassT, "")
		k.line("trench", "machine", metres/drainage.TrenchMH, units.Hours, "")
		d.Depths = append(d.Depths, DepthTried{DepthM: at, SpacingM: try.SpacingM, Hours: try.Hours, MetresPerHa: metres, CostText: k.text(), Taken: at == d.DepthM})
	}
}

// drainSeason is the water table between two drains through the year, from the monthly rain less what a
// grown stand uses.
func (c *computation) drainSeason(d *DrainPlan) {
	s := c.in.Climate
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
		mm := (m.RainMM - grownCoefficient*s.ET0[i]) / 30.4
		if math.IsNaN(mm) {
			continue
		}
		line(monthNames[i], math.Max(0, mm))
	}
	line("design", d.DischargeM)
}

// drainFigures are the numbers a reader can press.
func (c *computation) drainFigures(d *DrainPlan) {
	if b := d.Bed; b != nil && b.Refused == "" {
		c.bedFigures(b)
	}
	if d.catch != nil {
		d.catch()
	}
	if d.Soil == nil || d.DepthM <= 0 || d.Refused != "" || d.Taken != "" && !isField[d.Taken] {
		return // what is taken has no use for a depth and a spacing of drains in the field
	}
	c.figure(Figure{Path: "drain.depth", Step: "drains", Label: "Drain depth", Quantity: units.Spacing, Value: d.DepthM, Origin: working.Computed, Note: "to the invert; decided by " + d.Binding})
	if c.tr.On("drain.depth") {
		sub, in := "", []working.Input{}
		for i, l := range d.Limits {
			if i > 0 {
				sub += "; "
			}
			sub += fmt.Sprintf("%s %.2f", l.Name, l.DepthM)
			in = append(in, c.num(l.Name, l.DepthM, units.Spacing, working.Computed, "", ""))
		}
		if d.WantedM > 0 {
			sub += fmt.Sprintf("; wanted %.2f", d.WantedM)
		}
		c.step("drain.depth", "Depth of the invert", "min(roots or water table asked for + 0.35 m; what stops the water; outlet; machine)", sub, d.DepthM, units.Spacing, "method DRN-4, common practice, no source", in...)
	}
	if d.SpacingM == 0 {
		return
	}
	c.figure(Figure{Path: "drain.spacing", Step: "drains", Label: "Drain spacing", Quantity: units.Spacing, Value: d.SpacingM, Low: d.Spacings[0], High: d.Spacings[2], Ranged: true, Origin: working.Computed, Note: "for the whole range of the permeability, " + d.Soil.From})
	c.figure(Figure{Path: "drain.hours", Step: "drains", Label: "Roots free again after a wet spell", Quantity: units.Hours, Value: d.Hours, Low: d.HoursLow, High: d.HoursHigh, Ranged: true, Origin: working.Computed, Note: fmt.Sprintf("until the water is back below %s; the crop bears %.0f h", c.text(d.Criterion.BackM, units.Spacing), d.Criterion.Hours)})
	if c.tr.On("drain.spacing") {
		formula, source := "L² = (8·Kb·d·h + 4·Ka·h²)/q, d from L", "method DRN-5, Hooghoudt; van der Molen & Wesseling, Agric. Water Manage. 19:1–16, 1991; FAO Irrigation and Drainage Paper 62, 2007"
		if d.Soil.School == "ernst" {
			formula, source = "h = q·Dv/Kv + q·L²/(8·ΣKD) + q·L/(π·Kr)·ln(a·Dr/u), solved for L", "method DRN-6, Ernst: better soil lies below the poorer one the drain is in; from memory: ILRI Publication 16"
		}
		used := "rounded down"
		if choice := c.in.Block.drainChoice(); choice.SpacingM > 0 {
			used = "as it was set"
		}
		c.step("drain.spacing", "Spacing used", "the computed spacing, "+used, fmt.Sprintf("%.2f m computed", d.Spacings[1]), d.SpacingM, units.Spacing, "")
		c.step("drain.spacing", "Spacing computed", formula, fmt.Sprintf("Kb %.3f, Ka %.3f m/day; h %.2f m; q %.4f m/day; d %.3f m", d.Soil.Below, d.Soil.Above, d.HeadM, d.DischargeM/1000, d.Equivalent), d.Spacings[1], units.Spacing, source,
			c.num("water table asked for", d.Criterion.SteadyM, units.Spacing, working.Sheet, fmt.Sprintf("wet-soil class %d", d.Criterion.Class), ""), c.num("drain depth", d.DepthM, units.Spacing, working.Computed, "", "drain.depth"), c.num("from drain level to what stops water", d.Soil.ThickM, units.Spacing, working.Measured, d.Soil.Pit, ""))
		c.step("drain.spacing", "With the lowest and the highest permeability", "the same", fmt.Sprintf("K × %.2f gives %.1f m, K × %.1f gives %.1f m", d.Soil.Low, d.Spacings[0], d.Soil.High, d.Spacings[2]), d.Spacings[0], units.Spacing, "method DRN-3; "+d.Soil.From)
	}
	if c.tr.On("drain.hours") {
		c.step("drain.hours", "Time to fall", "t = μ·L²/(π²·K·d) · ln(1.16·h0/ht), with d + (h0 + ht)/4 for the flow above drain level", fmt.Sprintf("μ %.3f, K %.3f m/day, L %.1f m, from the surface to %.2f m below it", d.Soil.Pores, d.Soil.Above, d.SpacingM, d.Criterion.BackM), d.Hours, units.Hours,
			"method DRN-7; Dumm, Agric. Engineering 35:726–730, 1954; the pores from memory: van Beers", c.num("spacing", d.SpacingM, units.Spacing, working.Computed, "", "drain.spacing"))
	}
	if n := d.Network; n != nil && len(n.Reaches) > 0 {
		total := 0.0
		for _, x := range append(append([]drainage.Drain{}, n.Laterals...), n.Reaches...) {
			total += x.LengthM
		}
		c.figure(Figure{Path: "drain.pipe", Step: "drains", Label: "Drain pipe", Quantity: units.Distance, Value: total, Origin: working.Computed, Note: fmt.Sprintf("%d laterals, %s", len(n.Laterals), collectors(n))})
		c.figure(Figure{Path: "drain.flow", Step: "drains", Label: "Flow at the outlet", Quantity: units.Outflow, Value: n.FlowM3S, Origin: working.Computed, Note: "at the design discharge"})
		if c.tr.On("drain.pipe") {
			c.step("drain.pipe", "Drain pipe", "Σ laterals + Σ reaches", fmt.Sprintf("%d laterals at %.1f m on the boundary, %s", len(n.Laterals), n.SpacingM, collectors(n)), total, units.Distance, "method DRN-11", c.num("spacing", n.SpacingM, units.Spacing, working.Computed, "", "drain.spacing"))
		}
		if c.tr.On("drain.flow") {
			c.step("drain.flow", "Flow at the outlet", "q · area reached / 86 400, and what an interceptor lets in", fmt.Sprintf("%.4f m/day · %.0f m² / 86 400", d.DischargeM/1000, n.ReachedM2), n.FlowM3S, units.Outflow, "method DRN-11", c.num("area reached", n.ReachedM2, units.Area, working.Computed, "", ""))
		}
	}
}

// collectors says how many lines carry what laterals bring.
func collectors(n *NetworkView) string {
	if b := len(n.Mains) - 1; b > 0 {
		return "the collector and " + count(b, "branch")
	}
	return "one collector"
}
