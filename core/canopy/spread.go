// Package canopy is how wide and tall a plant grows with age.
package canopy

import (
	"fmt"
	"math"
)

// Growth is a logistic spread by age, d = A/(1 + e^(−r(a − am))), method Y1: final spread FinalM and
// two observations of (age year, metres). The zero Growth has no spread.
type Growth struct {
	FinalM  float64       `yaml:"finalM" json:"finalM"`
	HeightM float64       `yaml:"heightM" json:"heightM"` // height at full size
	Seen    [2][2]float64 `yaml:"seen" json:"seen"`
	HeldM   float64       `yaml:"heldM" json:"heldM"` // width pruning holds it to; 0 is not held
	Origin  string        `yaml:"origin" json:"origin"`
}

// Valid reports why the two observations cannot give a curve.
func (g Growth) Valid() error {
	a, b := g.Seen[0], g.Seen[1]
	if !(0 < a[1] && a[1] < b[1] && b[1] < g.FinalM && a[0] < b[0]) {
		return fmt.Errorf("canopy: needs 0 < first spread < second spread < final spread and rising ages, got %v, %v, final %g m", a, b, g.FinalM)
	}
	return nil
}

func (g Growth) params() (r, am float64) {
	l1 := math.Log(g.FinalM/g.Seen[0][1] - 1)
	l2 := math.Log(g.FinalM/g.Seen[1][1] - 1)
	r = (l1 - l2) / (g.Seen[1][0] - g.Seen[0][0])
	return r, g.Seen[0][0] + l1/r
}

// SpreadM is the canopy diameter in metres at age year a, held to the pruned width if there is one.
func (g Growth) SpreadM(a float64) float64 {
	if g.FinalM == 0 || a <= 0 {
		return 0
	}
	r, am := g.params()
	d := g.FinalM / (1 + math.Exp(-r*(a-am)))
	if g.HeldM > 0 {
		d = math.Min(d, g.HeldM)
	}
	return d
}

// AgeAt is the age year at which the spread reaches d metres; +Inf when it never does.
func (g Growth) AgeAt(d float64) float64 {
	if d >= g.FinalM || g.HeldM > 0 && d > g.HeldM {
		return math.Inf(1)
	}
	r, am := g.params()
	return am - math.Log(g.FinalM/d-1)/r
}
