package canopy

import (
	"math"
	"math/rand/v2"
	"testing"
)

// Crowns on 4 × 5 m: 3 m cover 0.3534, 4 m 0.6283, 4.5 m 0.7605 of the ground (method Y3, confirmed by grid integration).
func TestCoverByHand(t *testing.T) {
	for d, want := range map[float64]float64{3: 0.3534, 4: 0.6283, 4.5: 0.7605, 0: 0, 20: 1} {
		if got := Cover(d, 4, 5); math.Abs(got-want) > 5e-5 {
			t.Errorf("crowns of %g m cover %.4f, want %.4f", d, got, want)
		}
	}
}

// The formula agrees with a count on a grid wherever it is used, cover never falls as crowns grow, and lies between 0 and 1.
func TestCoverAgainstAGrid(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 9))
	for range 60 {
		p, s := 0.5+6*r.Float64(), 0.5+6*r.Float64()
		last := 0.0
		for k := range 12 {
			d := float64(k) / 9 * math.Hypot(p, s)
			got := Cover(d, p, s)
			if got < last-2e-3 || got > 1 {
				t.Errorf("%.2f × %.2f m: crowns of %.2f m cover %.4f, smaller ones %.4f", p, s, d, got, last)
			}
			if d > 0 && d < math.Hypot(p, s) && math.Abs(got-grid(d, p, s)) > 3e-3 {
				t.Errorf("%.2f × %.2f m: crowns of %.2f m cover %.4f, counted %.4f", p, s, d, got, grid(d, p, s))
			}
			last = got
		}
	}
}

// grid counts the cover of one cell at 200 × 200 points.
func grid(d, p, s float64) float64 {
	const n = 200
	in, r2 := 0, d*d/4
	k, l := int(d/p)+1, int(d/s)+1
	for i := range n {
		for j := range n {
			x, y := (float64(i)+0.5)/n*p, (float64(j)+0.5)/n*s
			hit := false
			for a := -k; a <= k+1 && !hit; a++ {
				for b := -l; b <= l+1 && !hit; b++ {
					dx, dy := x-float64(a)*p, y-float64(b)*s
					hit = dx*dx+dy*dy <= r2
				}
			}
			if hit {
				in++
			}
		}
	}
	return float64(in) / n / n
}
