package drainage

import (
	"math"
)

// Pipe is a drain pipe as sold: inside and outside diameter in m, corrugated or smooth.
type Pipe struct {
	Name    string  `json:"name"`
	InsideM float64 `json:"insideM"`
	OuterM  float64 `json:"outerM"`
	Smooth  bool    `json:"smooth"`
}

// Pipes are the sizes tried, small to large (common practice; insides are those of the capacity tables).
var Pipes = []Pipe{{"75 mm", 0.075, 0.085, false}, {"100 mm", 0.100, 0.113, false}, {"125 mm", 0.125, 0.141, false}, {"150 mm", 0.145, 0.164, false},
	{"200 mm", 0.180, 0.204, false}, {"250 mm", 0.225, 0.256, false}, {"315 mm", 0.285, 0.325, false}}

// Capacity is full flow in m³/s at a grade in m/m: transporting, water let in at the head, or collecting,
// water coming in evenly along the pipe (from memory: ILRI Publication 16 and FAO Irrigation and Drainage
// Paper 62, from Blasius and from Manning with n about 0.0143; method DRN-8).
func Capacity(insideM, grade float64, smooth, collecting bool) float64 {
	c, p, q := 22.0, 2.67, 0.50
	if smooth {
		c, p, q = 50, 2.71, 0.57
	}
	if collecting {
		c = map[bool]float64{true: 89, false: 38}[smooth]
	}
	return c * math.Pow(insideM, p) * math.Pow(grade, q)
}

// SiltShare is the part of its capacity a pipe is designed on (common practice).
func SiltShare(insideM float64) float64 {
	if insideM <= 0.100001 {
		return 0.6
	}
	return 0.75
}

// FullVelocity is Manning's, m/s, in a full pipe.
func FullVelocity(insideM, grade, n float64) float64 {
	return math.Pow(insideM/4, 2.0/3) * math.Sqrt(grade) / n
}

// MinimumGrade keeps a full pipe at a velocity, m/m: 0.15 m/s without and 0.43 m/s with fine sand or silt
// (velocities: USDA-NRCS Conservation Practice Standard 606).
func MinimumGrade(insideM, velocity, n float64) float64 {
	return math.Pow(velocity*n/math.Pow(insideM/4, 2.0/3), 2)
}

// MostVelocity is the highest full-pipe velocity a soil bears, m/s, by its texture (USDA-NRCS Conservation
// Practice Standard 606).
func MostVelocity(texture string) float64 {
	switch texture {
	case "sand", "loamy sand", "sandy loam":
		return 1.07
	case "silt", "silt loam", "loam":
		return 1.52
	case "silty clay loam":
		return 1.83
	}
	return 2.13
}

// Choose is the smallest pipe that carries q m³/s at a grade on its share of capacity; ok is false when
// none does.
func Choose(q, grade float64, collecting bool, atLeast float64) (Pipe, bool) {
	for _, p := range Pipes {
		if p.InsideM >= atLeast-1e-9 && q <= SiltShare(p.InsideM)*Capacity(p.InsideM, grade, p.Smooth, collecting)+1e-12 {
			return p, true
		}
	}
	return Pipes[len(Pipes)-1], false
}

// PartFull is the depth of flow over the diameter, and the velocity, of q m³/s in a pipe by Manning.
func PartFull(q, insideM, grade, n float64) (share, velocity float64) {
	full := FullVelocity(insideM, grade, n) * math.Pi * insideM * insideM / 4
	if q >= full {
		return 1, FullVelocity(insideM, grade, n)
	}
	flow := func(y float64) (float64, float64) {
		t := 2 * math.Acos(1-2*y)
		a := insideM * insideM / 8 * (t - math.Sin(t))
		v := math.Pow(a/(insideM*t/2), 2.0/3) * math.Sqrt(grade) / n
		return a * v, v
	}
	lo, hi := 1e-6, 0.938 // flow rises with depth up to there
	for range 60 {
		mid := (lo + hi) / 2
		if f, _ := flow(mid); f > q {
			hi = mid
		} else {
			lo = mid
		}
	}
	_, v := flow((lo + hi) / 2)
	return (lo + hi) / 2, v
}

// EnvelopeM3 is the stone around a pipe, m³ for each metre, in a box of that width and height.
func EnvelopeM3(widthM, heightM, outerM float64) float64 {
	return math.Max(0, widthM*heightM-math.Pi*outerM*outerM/4)
}

// Point is a point of a long section, from the outlet upstream: chainage, ground and where known the top
// of the layer that stops water, as a depth.
type Point struct {
	S      float64 `json:"s"`
	Ground float64 `json:"ground"`
}

// Section is a long section: inverts, cuts and what is wrong.
type Section struct {
	Points []SectionPoint `json:"points"`
	Grade  float64        `json:"grade"` // m/m, the one constant grade tried
	Most   float64        `json:"most"`  // the steepest that keeps the cover
	At     float64        `json:"at"`    // chainage that decides it
}

// SectionPoint is a point with its pipe.
type SectionPoint struct {
	Point
	Invert float64 `json:"invert"`
	Cut    float64 `json:"cut"`
	Cover  float64 `json:"cover"`
}

// LongSection lays a pipe of one grade from an outlet invert upstream (method DRN-10). Chainages rise.
func LongSection(points []Point, outletInvert, grade, outerM, coverM float64) Section {
	s := Section{Grade: grade, Most: math.Inf(1)}
	for _, p := range points {
		inv := outletInvert + grade*p.S
		s.Points = append(s.Points, SectionPoint{p, inv, p.Ground - inv, p.Ground - inv - outerM})
		if p.S > 0 {
			if m := (p.Ground - outerM - coverM - outletInvert) / p.S; m < s.Most {
				s.Most, s.At = m, p.S
			}
		}
	}
	return s
}

// TrenchM3 is the trench of a section, by average end area, for a width.
func (s Section) TrenchM3(widthM float64) float64 {
	v := 0.0
	for i := 1; i < len(s.Points); i++ {
		a, b := s.Points[i-1], s.Points[i]
		v += widthM * (a.Cut + b.Cut) / 2 * (b.S - a.S)
	}
	return v
}
