package canopy

import "math"

// Cover is the share of the ground under round crowns of d metres on a rectangle of p × s metres, method Y3, exact at any size: across the
// rows the nearest row covers widest, and there its crowns leave open what their chords leave of the spacing.
//
//	cover = 2/s · [y₁ + 2/p · (F(y₂) − F(y₁))],  F(y) = (y·√(r² − y²) + r²·asin(y/r)) / 2
//
// with r half the crown, y₁ how far from the row crowns still close and y₂ how far they reach, neither beyond the middle between two rows.
func Cover(d, p, s float64) float64 {
	if !(d > 0 && p > 0 && s > 0) {
		return 0
	}
	r, half := d/2, s/2
	f := func(y float64) float64 {
		y = math.Min(y, r)
		return (y*math.Sqrt(math.Max(0, r*r-y*y)) + r*r*math.Asin(y/r)) / 2
	}
	y1 := math.Min(half, math.Sqrt(math.Max(0, r*r-p*p/4)))
	y2 := math.Max(y1, math.Min(half, r))
	return math.Min(1, 2/s*(y1+2/p*(f(y2)-f(y1))))
}
