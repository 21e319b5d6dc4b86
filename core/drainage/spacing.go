// Package drainage designs field drains: criteria, permeability, depth, spacing, pipes, networks over a
// block and their long sections. Lengths are metres, K is m/day, discharge q is m/day, areas m².
package drainage

import (
	"fmt"
	"math"

	"slowroot/core/finding"
)

// WetPerimeter is what a pipe of outside diameter d (m) takes water in by; with an envelope give the
// envelope's width and height.
func WetPerimeter(dM float64) float64 { return math.Pi * dM / 2 }

// EnvelopePerimeter is that of a box of stone, its sides and its floor.
func EnvelopePerimeter(widthM, heightM float64) float64 { return widthM + 2*heightM }

// EquivalentDepth is d of Hooghoudt for a spacing l, a thickness D from drain level to the layer that stops
// water and a wet perimeter u (van der Molen & Wesseling, Agric. Water Manage. 19:1–16, 1991; method
// DRN-5). D of infinity is allowed; D of nought gives nought.
func EquivalentDepth(l, thick, u float64) float64 {
	if thick <= 0 {
		return 0
	}
	var f float64
	if math.IsInf(thick, 1) {
		f = 0
	} else if x := 2 * math.Pi * thick / l; x > 0.5 {
		for n := 1.0; n < 200; n += 2 {
			e := math.Exp(-2 * n * x)
			t := 4 * e / (n * (1 - e))
			f += t
			if t < 1e-14 {
				break
			}
		}
	} else {
		f = math.Pi*math.Pi/(4*x) + math.Log(x/(2*math.Pi))
	}
	den := math.Log(l/u) + f
	if den <= 0 { // so close that the flow to each is not radial: all of the thickness counts
		return thick
	}
	return math.Min(thick, math.Pi*l/8/den)
}

// Field is the soil and the task of a spacing: K above and below drain level, the thickness below it to
// what stops water, the height of the water table midway above drain level, and the discharge.
type Field struct {
	Ka, Kb, Thick, U, H, Q float64
}

func (f Field) valid() error {
	switch {
	case !(f.H > 0):
		return finding.Bad("h", f.H, "the drain lies above the water table that is asked for", "a drain deeper than that")
	case !(f.Q > 0):
		return finding.Bad("q", f.Q, "is not a discharge", "more than 0 m/day")
	case !(f.Ka >= 0 && f.Kb >= 0 && f.Ka+f.Kb > 0):
		return finding.Bad("k", f.Ka, "is not a permeability", "more than 0 m/day")
	case !(f.U > 0):
		return finding.Bad("u", f.U, "is not a wet perimeter", "more than 0 m")
	}
	return nil
}

// Spacing is L of L² = (8·Kb·d·h + 4·Ka·h²)/q, solved by bisection between 0.5 and 1000 m.
func (f Field) Spacing() (l, d float64, err error) {
	if err := f.valid(); err != nil {
		return 0, 0, err
	}
	lo, hi := 0.5, 1000.0
	over := func(l float64) bool {
		d = EquivalentDepth(l, f.Thick, f.U)
		return l*l > (8*f.Kb*d*f.H+4*f.Ka*f.H*f.H)/f.Q
	}
	for range 60 {
		if mid := (lo + hi) / 2; over(mid) {
			hi = mid
		} else {
			lo = mid
		}
	}
	l = (lo + hi) / 2
	return l, EquivalentDepth(l, f.Thick, f.U), nil
}

// Discharge is q of a spacing, the inverse.
func (f Field) Discharge(l float64) float64 {
	return (8*f.Kb*EquivalentDepth(l, f.Thick, f.U)*f.H + 4*f.Ka*f.H*f.H) / (l * l)
}

// Height is h midway at a spacing and discharge: the water table above drain level.
func (f Field) Height(l float64) float64 {
	d := EquivalentDepth(l, f.Thick, f.U)
	// 4·Ka·h² + 8·Kb·d·h − q·L² = 0
	if f.Ka == 0 {
		return f.Q * l * l / (8 * f.Kb * d)
	}
	b := 8 * f.Kb * d
	return (-b + math.Sqrt(b*b+16*f.Ka*f.Q*l*l)) / (8 * f.Ka)
}

// Shape is the water table from one drain to the next at a spacing and discharge: heights above drain level
// at n+1 points, of 8·Kb·d·h + 4·Ka·h² = q·(L² − 4x²) with x from the middle (method DRN-5, the same balance
// at every distance).
func (f Field) Shape(l float64, n int) []float64 {
	out := make([]float64, n+1)
	for i := range out {
		x := l * (float64(i)/float64(n) - 0.5)
		g := f
		g.Q = f.Q * math.Max(0, 1-4*x*x/(l*l))
		if g.Q > 0 {
			out[i] = g.Height(l)
		}
	}
	return out
}

// RootsMarginM is how far below the roots a drain still gives them something: deeper gives nothing (common
// practice; method DRN-4 says 0.3 to 0.4 m).
const RootsMarginM = 0.35

// OutletClearM is how far an outlet must end above the water it runs into (common practice).
const OutletClearM = 0.3

// ernst is the geometry factor a of the radial flow: rows of K below over K above, columns of thickness
// below over above 1, 2, 4, 8, 16, 32 (from memory: ILRI Publication 16).
var ernst = []struct {
	k float64
	a [6]float64
}{{1, [6]float64{2, 3, 5, 9, 15, 30}}, {2, [6]float64{2.4, 3.2, 4.6, 6.2, 8, 10}}, {3, [6]float64{2.6, 3.3, 4.5, 5.5, 6.8, 8}},
	{5, [6]float64{2.8, 3.5, 4.4, 4.8, 5.6, 6.2}},
	{10, [6]float64{3.2, 3.6, 4.2, 4.5, 4.8, 5}}, {20, [6]float64{3.6, 3.7, 4, 4.2, 4.4, 4.6}}, {50, [6]float64{3.8, 4, 4, 4, 4.2, 4.6}}}

// GeometryFactor is a of Ernst: 1 where the lower layer is under a tenth as permeable, 4 where it is over
// fifty times, between them the table, linear.
func GeometryFactor(kRatio, dRatio float64) float64 {
	switch {
	case kRatio < 0.1:
		return 1
	case kRatio > 50:
		return 4
	}
	col := math.Min(5, math.Max(0, math.Log2(math.Max(1, dRatio))))
	j := min(4, int(col))
	at := func(i int) float64 {
		lo, hi := math.Pow(2, float64(j)), math.Pow(2, float64(j+1))
		f := math.Min(1, (math.Max(1, dRatio)-lo)/(hi-lo))
		return ernst[i].a[j] + (ernst[i].a[j+1]-ernst[i].a[j])*f
	}
	if kRatio <= 1 {
		return at(0)
	}
	for i := 1; i < len(ernst); i++ {
		if kRatio <= ernst[i].k {
			f := (kRatio - ernst[i-1].k) / (ernst[i].k - ernst[i-1].k)
			return at(i-1) + (at(i)-at(i-1))*f
		}
	}
	return at(len(ernst) - 1)
}

// TwoLayers is the head loss of Ernst: vertical thickness and K, transmissivity of all layers, K and
// thickness of the layer the drain lies in below drain level, geometry factor and wet perimeter (method
// DRN-6; from memory: ILRI Publication 16).
type TwoLayers struct {
	Dv, Kv, KD, Kr, Dr, A, U float64
}

// Head is the loss in m at a discharge and spacing, and its vertical, horizontal and radial parts.
func (e TwoLayers) Head(q, l float64) (h, vertical, horizontal, radial float64) {
	vertical, horizontal = q*e.Dv/e.Kv, q*l*l/(8*e.KD)
	radial = q * l / (math.Pi * e.Kr) * math.Log(e.A*e.Dr/e.U)
	return vertical + horizontal + radial, vertical, horizontal, radial
}

// Valid refuses a layer the formula does not hold for: one so thin below the drain, against the wet perimeter, that its
// radial resistance would come out below nought.
func (e TwoLayers) Valid() error {
	if !(e.A*e.Dr > e.U) {
		return finding.Bad("uM", e.U, fmt.Sprintf("is as large as the layer the water turns in, %.2f m: the radial part would be negative", e.A*e.Dr),
			"a smaller wet perimeter, or a thicker layer below the drain")
	}
	return nil
}

// Spacing is the spacing at which the head is h.
func (e TwoLayers) Spacing(q, h float64) float64 {
	lo, hi := 0.1, 2000.0
	for range 80 {
		mid := (lo + hi) / 2
		if got, _, _, _ := e.Head(q, mid); got > h {
			hi = mid
		} else {
			lo = mid
		}
	}
	return (lo + hi) / 2
}

// Porosity is the drainable share of the soil by its permeability: √K(cm/day)/100 (from memory: van Beers).
func Porosity(kMDay float64) float64 { return math.Sqrt(kMDay*100) / 100 }

// Falls is the water table after t days midway between drains, from h0 above drain level (Dumm, Agric.
// Engineering 35:726–730, 1954, in the 1.16 form of FAO Irrigation and Drainage Paper 62; method DRN-7).
// early says that the formula does not hold yet.
func Falls(k, d, porosity, l, h0, days float64) (ht float64, early bool) {
	a := math.Pi * math.Pi * k * d / (porosity * l * l)
	return math.Min(h0, 1.16*h0*math.Exp(-a*days)), a*days <= 0.2
}

// FallSpacing is the spacing at which h0 falls to ht in t days; d follows from the spacing.
func FallSpacing(k, porosity, h0, ht, days, thick, u float64) (l, d float64) {
	l = 10
	for range 200 {
		d = EquivalentDepth(l, thick, u)
		next := math.Pi * math.Sqrt(k*d*days/porosity) / math.Sqrt(math.Log(1.16*h0/ht))
		if math.Abs(next-l) < 1e-9 {
			break
		}
		l = (l + next) / 2
	}
	return l, d
}

// FallDays is how long h0 takes to fall to ht.
func FallDays(k, d, porosity, l, h0, ht float64) float64 {
	a := math.Pi * math.Pi * k * d / (porosity * l * l)
	if a <= 0 {
		return math.Inf(1)
	}
	return math.Max(0, math.Log(1.16*h0/ht)/a)
}

// AugerHole is K in m/day from the rise of the water in a hole: radius and depth below the rested water
// table, mean depression during the reading and rise, all cm, in seconds; onLayer says that the hole ends on
// the layer that stops water (Ernst; from memory: ILRI Publication 16, chapter 12; van Beers, 1958). A
// reading outside the method's limits is refused.
func AugerHole(radiusCm, depthCm, meanCm, firstCm, riseCm, seconds float64, onLayer bool) (k float64, err error) {
	switch {
	case !(radiusCm >= 3 && radiusCm <= 7):
		return 0, finding.Bad("radiusCm", radiusCm, "is not a hole of the method", "3 to 7 cm")
	case !(depthCm >= 20 && depthCm <= 200):
		return 0, finding.Bad("depthCm", depthCm, "is not a depth below the water table of the method", "20 to 200 cm")
	case !(meanCm > 0.2*depthCm):
		return 0, finding.Bad("meanCm", meanCm, "the water was read too near its rest", "more than a fifth of the depth")
	case !(firstCm <= depthCm):
		return 0, finding.Bad("firstCm", firstCm, "the water cannot have been bailed below the bottom of the hole", fmt.Sprintf("at most the depth, %g cm", depthCm))
	case !(meanCm <= firstCm):
		return 0, finding.Bad("meanCm", meanCm, "the mean depression lies above the first: the water rises after it is bailed",
			fmt.Sprintf("at most the first, %g cm", firstCm))
	case !(riseCm > 0 && riseCm <= firstCm/4):
		return 0, finding.Bad("riseCm", riseCm, "the water rose too far between the readings", "up to a quarter of the first depression")
	case !(seconds > 0):
		return 0, finding.Bad("seconds", seconds, "is not a time", "more than 0 s")
	}
	a, b := 4000.0, 20.0
	if onLayer {
		a, b = 3600, 10
	}
	return a * (radiusCm / meanCm) / ((b + depthCm/radiusCm) * (2 - meanCm/depthCm)) * riseCm / seconds, nil
}

// GeometricMean of permeabilities.
func GeometricMean(v []float64) float64 {
	if len(v) == 0 {
		return math.NaN()
	}
	s := 0.0
	for _, x := range v {
		s += math.Log(x)
	}
	return math.Exp(s / float64(len(v)))
}

// Limit is one bound on the depth of a drain, with its name.
type Limit struct {
	Name   string  `json:"name"`
	DepthM float64 `json:"depthM"`
}

// Depth is the design depth: the shallowest upper bound, unless cover, tillage or frost ask for more than
// it allows (method DRN-4). binding names what decides.
func Depth(upper, lower []Limit, pipeM float64) (depthM float64, binding Limit, err error) {
	if len(upper) == 0 {
		return 0, Limit{}, finding.Bad("depth", "none", "nothing says how deep", "roots, layer, rock or outlet")
	}
	binding = upper[0]
	for _, u := range upper {
		if u.DepthM < binding.DepthM {
			binding = u
		}
	}
	for _, l := range lower {
		if binding.DepthM-pipeM < l.DepthM-1e-9 {
			return binding.DepthM, binding, finding.Bad("depthM", binding.DepthM,
				"the "+binding.Name+" lets the pipe lie no deeper, and "+l.Name+" asks for more cover", "a raised bed, another outlet, or no traffic over the pipe")
		}
	}
	return binding.DepthM, binding, nil
}

// Interceptor is the flow a drain across a slope catches, m³/day for each metre: K·s·(y − a), with the
// thickness y of the flow above the layer and the drain a above it (method DRN-13, Darcy).
func Interceptor(k, slope, thickM, aboveM float64) float64 {
	return math.Max(0, k*slope*(thickM-aboveM))
}
