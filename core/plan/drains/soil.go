package drains

import (
	"math"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/plan/soils"
	"slowroot/core/report"
	"slowroot/core/soil"
)

// Soil is the soil as drains see it.
type Soil struct {
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

// governing is the pit a design rests on: the one that was said, or the one whose water is stopped at the least depth,
// else the wettest.
func (in In) governing() (int, bool) {
	for i, p := range in.Pits {
		if p.Name != "" && p.Name == in.Choice.Pit {
			return i, true
		}
	}
	best, depth := 0, math.Inf(1)
	for i, v := range in.Soil.Pits {
		at := 1000 + v.Wetness.DepthCm
		if r := in.stops(i); r != nil {
			at = r.TopCm
		}
		if at < depth {
			best, depth = i, at
		}
	}
	return best, len(in.Soil.Pits) > 0
}

// nearest is the pit nearest a point of the block, where pits have positions; else the governing one.
func (in In) nearest(x, y float64) (int, bool) {
	best, ok := in.governing()
	far := math.Inf(1)
	for i, p := range in.Pits {
		if p.At == nil {
			continue
		}
		q := in.Ground.Plane.To(*p.At)
		if d := math.Hypot(q.X-x, q.Y-y); d < far {
			best, far = i, d
		}
	}
	return best, ok
}

// stops is the layer of a pit that stops water and stays: a pan that is ripped does not count.
func (in In) stops(i int) *soils.RestrictiveView {
	pit := in.Pits[i]
	var kept []soil.Layer
	for _, l := range pit.Layers {
		broken := false
		for _, b := range in.Soil.Pits[i].Barriers {
			broken = broken || b.Remedy == "rip" && b.Removable && b.DepthCm == l.TopCm
		}
		if !broken {
			kept = append(kept, l)
		}
	}
	pit.Layers = kept
	if top, what, ok := pit.Restrictive(); ok {
		return &soils.RestrictiveView{TopCm: top, What: what}
	}
	return nil
}

// Layer is how deep what stops the water lies anywhere on the block, by its pits; nil where no pit saw any.
func (in In) Layer() func(x, y float64) float64 {
	var seen []drainage.Seen
	for i, p := range in.Pits {
		s := drainage.Seen{DepthM: in.Soil.Pits[i].BottomCm / 100}
		if r := in.stops(i); r != nil {
			s.DepthM, s.Stops = r.TopCm/100, true
		}
		if p.At != nil {
			q := in.Ground.Plane.To(*p.At)
			s.At = &drainage.XY{q.X, q.Y}
		}
		seen = append(seen, s)
	}
	return drainage.LayerBetween(seen)
}

// spread are the pits in which water is stopped soonest and latest, by depth in m; one in which nothing stops it
// counts at its bottom.
func (in In) spread() (soonest, latest int, from, to float64) {
	from, to = math.Inf(1), math.Inf(-1)
	for i := range in.Pits {
		depth := in.Soil.Pits[i].BottomCm / 100
		if r := in.stops(i); r != nil {
			depth = r.TopCm / 100
		}
		if depth < from {
			soonest, from = i, depth
		}
		if depth > to {
			latest, to = i, depth
		}
	}
	return
}

// slab is a layer or a part of one: its permeability in m/day and where it lies, m.
type slab struct{ k, top, bottom float64 }

// slabs are the layers of a pit between two depths in m, as far as their permeability can be estimated.
func (c *design) slabs(i int, from, to float64) []slab {
	var out []slab
	for _, l := range c.Soil.Pits[i].Layers {
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

// perDay turns mm/h into m/day.
const perDay = 0.024

// readSoil is the permeability above and below drain level: auger holes before a value that was said, and
// either before texture (methods DRN-3, DRN-5, DRN-6).
func (c *design) soil(d *Plan, choice document.DrainChoice) {
	i, ok := c.governing()
	if !ok {
		return
	}
	v := c.Soil.Pits[i]
	s := Soil{Pit: v.Name, PitAt: i, From: "texture", Low: 1 / soil.KsFactor, High: soil.KsFactor, School: "hooghoudt"}
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
		s.Above, s.Below, s.Low, s.High, s.From = k, k, lo/k, hi/k, report.Count(len(ks), "auger hole")
	case choice.KMDay > 0:
		s.Above, s.Below, s.Low, s.High, s.From = choice.KMDay, choice.KMDay, 0.5, 2, "as it was said"
	case len(below) == 2 && below[1].k > 1.5*below[0].k && below[0].bottom-below[0].top > 0.1:
		// the drain lies in the poorer layer with better soil below it
		t1, t2 := below[0].bottom-below[0].top, below[1].bottom-below[1].top
		e := drainage.TwoLayers{Dv: math.Max(0, d.HeadM), Kv: below[0].k, KD: below[0].k*(t1+math.Max(0, d.HeadM)/2) + below[1].k*t2, Kr: below[0].k, Dr: t1,
			A: drainage.GeometryFactor(below[1].k/below[0].k, t2/t1), U: drainage.EnvelopePerimeter(stoneM, stoneM)}
		if e.A*e.Dr > e.U {
			s.School, s.second = "ernst", &e
		}
	}
	if s.Above > 0 {
		s.Pores = drainage.Porosity(s.Above)
	}
	d.Soil = &s
}
