// Package earthwork shapes ground: raised beds, ridges and furrows, films over them, and levelling. Lengths
// are metres, volumes m³, slopes m/m.
package earthwork

import (
	"fmt"
	"math"

	"slowroot/core/finding"
)

// Bed is a raised bed: base and top width, height above the furrow floor, rise of the crown over the
// shoulders, and the distance between bed centres.
type Bed struct {
	BaseM   float64 `json:"baseM"`
	TopM    float64 `json:"topM"`
	HeightM float64 `json:"heightM"`
	CrownM  float64 `json:"crownM"`
	CentreM float64 `json:"centreM"`
}

// Valid refuses a bed that cannot be shaped.
func (b Bed) Valid() error {
	switch {
	case !(b.HeightM > 0 && b.HeightM <= 1.5):
		return finding.Bad("heightM", b.HeightM, "is not the height of a bed", "0.05 to 1.5 m")
	case !(b.TopM > 0 && b.TopM <= b.BaseM):
		return finding.Bad("topM", b.TopM, "a bed is not wider at its top than at its base", "more than 0, at most the base")
	case !(b.CentreM > b.BaseM):
		return finding.Bad("centreM", b.CentreM, "the beds overlap", "more than the base width")
	case b.CrownM < 0 || b.CrownM > 0.25*b.TopM:
		return finding.Bad("crownM", b.CrownM, "is not a crown", "0 to a quarter of the top width")
	}
	return nil
}

// AreaM2 is the cross-section, m³ for each metre of bed, with a triangular crown (method BED-1); with a
// crown that is a segment of a circle it is a sixth of T·k more.
func (b Bed) AreaM2() float64 { return b.HeightM*(b.BaseM+b.TopM)/2 + b.TopM*b.CrownM/2 }

// Rounded is the cross-section with a crown that is a segment of a circle.
func (b Bed) Rounded() float64 { return b.HeightM*(b.BaseM+b.TopM)/2 + 2.0/3*b.TopM*b.CrownM }

// PerHa is metres of bed in an endless field.
func (b Bed) PerHa() float64 { return 1e4 / b.CentreM }

// Furrow is how deep the furrow goes below the old surface so that its soil makes the bed, loosened by s
// (1 once settled), and how high the bed then stands above the old surface. cut and fill are m² of section;
// fill = s·cut.
func (b Bed) Furrow(s float64) (x, h, cut, fill float64) {
	run := (b.BaseM - b.TopM) / 2
	w := b.CentreM - b.BaseM
	total := b.AreaM2()
	at := func(x float64) (cut, fill float64) {
		return x * (w + run*x/b.HeightM), total - x*(b.BaseM-run*x/b.HeightM)
	}
	lo, hi := 0.0, b.HeightM
	for range 100 {
		mid := (lo + hi) / 2
		c, f := at(mid)
		if f > s*c {
			lo = mid
		} else {
			hi = mid
		}
	}
	x = (lo + hi) / 2
	cut, fill = at(x)
	return x, b.HeightM - x, cut, fill
}

// Short is the soil, m³ for each metre of bed, that the furrows cannot give however deep they go: it has to be
// brought. Nought for most beds.
func (b Bed) Short(s float64) float64 {
	run := (b.BaseM - b.TopM) / 2
	cut := b.HeightM * (b.CentreM - b.BaseM + run)
	return math.Max(0, b.AreaM2()-b.HeightM*(b.BaseM-run)-s*cut)
}

// Rise is the mean height of the bed above the old surface over its base: the root room it adds.
func (b Bed) Rise(s float64) float64 {
	if b.Short(s) > 0 {
		return 0 // the bed cannot be made from its furrows
	}
	_, _, _, fill := b.Furrow(s)
	return fill / b.BaseM
}

// A pass of a bed shaper or ridging plough throws up so much section, m², and goes so many metres an hour; from
// memory. With them the low film bed of method BED-1 takes one pass and 1.8 h/ha, the sheets' rate for beds.
const (
	PassM2 = 0.10
	PassMH = 3700
)

// Shaping is the soil dug from the furrows for so many metres of bed, m³ as it lies, the passes of the machine and
// its hours. The rest of the bed's section is old ground that stays where it is.
func (b Bed) Shaping(metres float64) (movedM3 float64, passes int, hours float64) {
	_, _, cut, _ := b.Furrow(1)
	passes = int(math.Ceil(cut/PassM2 - 1e-9))
	return cut * metres, passes, float64(passes) * metres / PassMH
}

// FilmM is the width of film or fabric over a bed, buried by edge on each side, and the next width sold
// (method BED-2).
func (b Bed) FilmM(edgeM float64) (need, buy float64) {
	run := (b.BaseM - b.TopM) / 2
	need = 2*math.Hypot(b.TopM/2, b.CrownM) + 2*math.Hypot(run, b.HeightM) + 2*edgeM
	for _, w := range []float64{0.9, 1.0, 1.2, 1.4, 1.5, 1.8, 2.0, 2.4, 3.0} {
		if w >= need-1e-9 {
			return need, w
		}
	}
	return need, math.Ceil(need*10) / 10
}

// Ridges is ridge and furrow: plants on both edges of a ridge make two rows for each pitch (method BED-4).
type Ridges struct {
	RidgeM, FurrowM, DepthM, Side float64 // side slope, horizontal to 1
}

// Valid refuses a furrow whose sides meet before its floor.
func (r Ridges) Valid() error {
	if !(r.FurrowM-2*r.Side*r.DepthM >= -1e-9) {
		return finding.Bad("furrowM", r.FurrowM, fmt.Sprintf("its sides meet before they are %g m deep", r.DepthM), fmt.Sprintf("%g m or more, or a steeper side",
			2*r.Side*r.DepthM))
	}
	return nil
}

// PitchM is ridge and furrow together; FurrowM3PerHa the soil moved.
func (r Ridges) PitchM() float64 { return r.RidgeM + r.FurrowM }
func (r Ridges) FurrowM3PerHa() float64 {
	return (r.FurrowM - r.Side*r.DepthM) * r.DepthM * 1e4 / r.PitchM()
}

// PlantsPerHa with two rows for each pitch.
func (r Ridges) PlantsPerHa(inRowM float64) float64 { return 2 * 1e4 / (r.PitchM() * inRowM) }

// Level is a height of a levelling grid.
type Level struct{ X, Y, Z float64 }

// Plane is z = a + b·x + c·y.
type Plane struct{ A, B, C float64 }

// At is its height.
func (p Plane) At(x, y float64) float64 { return p.A + p.B*x + p.C*y }

// BestPlane is the plane of least squares through levels (method BED-5); levels in a line are refused.
func BestPlane(ls []Level) (Plane, error) {
	n := float64(len(ls))
	var sx, sy, sz, sxx, syy, sxy, sxz, syz float64
	for _, l := range ls {
		sx, sy, sz = sx+l.X, sy+l.Y, sz+l.Z
	}
	mx, my, mz := sx/n, sy/n, sz/n
	for _, l := range ls {
		x, y, z := l.X-mx, l.Y-my, l.Z-mz
		sxx, syy, sxy, sxz, syz = sxx+x*x, syy+y*y, sxy+x*y, sxz+x*z, syz+y*z
	}
	det := sxx*syy - sxy*sxy
	if len(ls) < 3 || det < 1e-9 {
		return Plane{}, finding.Bad("levels", len(ls), "do not make a plane", "three heights or more that do not lie in a line")
	}
	b, c := (sxz*syy-syz*sxy)/det, (syz*sxx-sxz*sxy)/det
	return Plane{mz - b*mx - c*my, b, c}, nil
}

// CutFill is the earth moved to a plane when each level stands for cell m².
func CutFill(ls []Level, p Plane, cell float64) (cut, fill float64) {
	for _, l := range ls {
		if d := l.Z - p.At(l.X, l.Y); d > 0 {
			cut += d * cell
		} else {
			fill -= d * cell
		}
	}
	return cut, fill
}

// Lower is how far a plane is lowered so that cut over fill reaches a ratio, for the soil that settles. Where nothing is
// filled, or the ground is so even that no plane of it reaches the ratio, it is refused.
func Lower(ls []Level, p Plane, cell, ratio float64) (float64, error) {
	lo, hi := 0.0, 0.0
	for _, l := range ls { // lowered below the lowest level nothing is filled and any ratio is passed
		hi = math.Max(hi, p.At(l.X, l.Y)-l.Z)
	}
	if cut, fill := CutFill(ls, p, cell); cut+fill < 1e-9*cell {
		return 0, finding.Bad("levels", len(ls), "lie on a plane: there is nothing to cut or to fill", "heights of uneven ground")
	}
	for range 100 {
		mid := (lo + hi) / 2
		cut, fill := CutFill(ls, Plane{p.A - mid, p.B, p.C}, cell)
		if cut < ratio*fill {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2, nil
}
