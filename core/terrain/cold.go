package terrain

import (
	"fmt"
	"math"
	"strings"
)

// Barrier is something that dams or turns cold air: a line on the plane.
type Barrier struct {
	Kind     string       // hedge, bank, wall, building
	Line     [][2]float64 // on the plane, m
	HeightM  float64
	Porosity float64 // open share of its face
	Gap      bool    // a gap of a tenth or more is kept at its low end
}

// Cold is what a point's lie says about frost (method SITE-1, common practice, no source).
type Cold struct {
	Relief       float64 // ρ: height in the local relief, 0 lowest to 1
	TPI500       float64 // height over the mean within 500 m
	SlopePct     float64
	HollowM      float64 // depth of the closed hollow it lies in
	Dammed       *Barrier
	DammedBy     float64 // distance in barrier heights
	LongSlope    bool    // more than 300 m of open slope feed it, nothing turns the air aside
	WaterBelow   bool    // open water of 5 ha within 300 m on the lower side
	ReliefM      float64 // height above the lowest ground around
	KnownRadiusM float64 // how far around heights are known
}

// Judgement is the score and its word.
type Judgement struct {
	Score int        `json:"score"`
	Word  string     `json:"word"` // low, moderate, high, pocket
	Signs []ColdSign `json:"signs"`
	// ColderC is how much colder than the ground around a clear calm night is, low, base, high: 0.5,
	// 1.0 and 1.5 °C for 10 m of relief. A guess, never a forecast.
	ColderC [3]float64 `json:"colderC"`
}

// ColdSign is one sign and its points. Where its words hold %s stands a length, for the reader's units.
type ColdSign struct {
	Points int     `json:"points"`
	Words  string  `json:"words"`
	Metres float64 `json:"metres"`
}

// Text is the signs in a line, lengths as the reader has them.
func (j Judgement) Text(length func(m float64) string) string {
	out := make([]string, len(j.Signs))
	for i, s := range j.Signs {
		words := s.Words
		if s.Metres > 0 {
			words = strings.ReplaceAll(words, "%s", length(s.Metres))
		}
		out[i] = fmt.Sprintf("%+d %s", s.Points, words)
	}
	return strings.Join(out, "; ")
}

// longSlopeM is the open slope above that makes a sign.
const longSlopeM = 300

// Judge adds the signs up.
func (c Cold) Judge() Judgement {
	j := Judgement{Signs: []ColdSign{}}
	sign := func(n int, metres float64, why string) {
		j.Score += n
		j.Signs = append(j.Signs, ColdSign{n, why, metres})
	}
	add := func(n int, why string) { sign(n, 0, why) }
	if c.HollowM >= 0.5 {
		sign(4, c.HollowM, "closed hollow, %s below where it spills")
	}
	switch {
	case c.Relief < 0.15:
		add(3, fmt.Sprintf("in the lowest part of the ground around (%.0f %% of the relief)", 100*c.Relief))
	case c.Relief <= 0.35:
		add(2, fmt.Sprintf("low in the ground around (%.0f %% of the relief)", 100*c.Relief))
	case c.Relief <= 0.6:
		add(1, fmt.Sprintf("half-way down the ground around (%.0f %% of the relief)", 100*c.Relief))
	}
	if c.TPI500 < -2 {
		sign(1, -c.TPI500, "%s below the mean of the ground around")
	}
	if c.SlopePct < 1 {
		add(1, fmt.Sprintf("slope of only %.1f %%", c.SlopePct))
	}
	if b := c.Dammed; b != nil && b.Porosity < 0.3 && c.DammedBy <= 20 {
		if b.Gap {
			add(1, fmt.Sprintf("a dense %s below, %.0f heights away, with a gap kept", b.Kind, c.DammedBy))
		} else {
			add(2, fmt.Sprintf("a dense %s below, %.0f heights away, dams the cold air", b.Kind, c.DammedBy))
		}
	}
	if c.LongSlope {
		sign(1, longSlopeM, "more than %s of open slope above feed it")
	}
	if c.WaterBelow {
		add(-2, "open water on the lower side")
	}
	if c.Relief >= 0.35 && c.Relief <= 0.85 && c.SlopePct >= 3 && c.SlopePct <= 10 {
		add(-1, "in the warm belt of the slope")
	}
	if c.TPI500 < 0 {
		for i, k := range [3]float64{0.5, 1, 1.5} {
			j.ColderC[i] = -c.TPI500 / 10 * k
		}
	}
	switch {
	case j.Score <= 1:
		j.Word = "low"
	case j.Score <= 4:
		j.Word = "moderate"
	case j.Score <= 6:
		j.Word = "high"
	default:
		j.Word = "pocket"
	}
	return j
}

// ColdAt measures a point on the surface. water and the barriers are the estate's.
func (f *Filled) ColdAt(x, y float64, barriers []Barrier, waterBelow bool) (Cold, bool) {
	c := Cold{WaterBelow: waterBelow}
	z := f.Height(x, y)
	if math.IsNaN(z) {
		return c, false
	}
	const r = 500.0
	lo, hi, sum, n, far := math.Inf(1), math.Inf(-1), 0.0, 0, 0.0
	step := max(1, int(10/f.Cell))
	for j := 0; j < f.NY; j += step {
		for i := 0; i < f.NX; i += step {
			d := math.Hypot(f.X0+float64(i)*f.Cell-x, f.Y0+float64(j)*f.Cell-y)
			v := f.At(i, j)
			if d > r || math.IsNaN(v) {
				continue
			}
			lo, hi, sum, n, far = math.Min(lo, v), math.Max(hi, v), sum+v, n+1, math.Max(far, d)
		}
	}
	lo, hi = math.Min(lo, z), math.Max(hi, z)
	c.KnownRadiusM = far
	c.Relief, c.ReliefM = 0.5, z-lo
	if hi-lo > 0.5 {
		c.Relief = (z - lo) / (hi - lo)
	}
	if n > 0 {
		c.TPI500 = z - sum/float64(n)
	}
	i, j := int(math.Round((x-f.X0)/f.Cell)), int(math.Round((y-f.Y0)/f.Cell))
	i, j = min(max(i, 1), f.NX-2), min(max(j, 1), f.NY-2)
	pct, falls, ok := f.Slope(i, j)
	if ok {
		c.SlopePct = pct
	}
	c.HollowM = f.Depth(j*f.NX + i)
	if math.IsNaN(c.HollowM) {
		c.HollowM = 0
	}
	c.LongSlope = f.feeds(x, y, falls, barriers)
	down := [2]float64{math.Sin(falls * math.Pi / 180), math.Cos(falls * math.Pi / 180)}
	for bi, b := range barriers {
		if b.HeightM <= 0 {
			continue
		}
		if d, ok := ray(x, y, down, b.Line); ok && d/b.HeightM <= 20 && (c.Dammed == nil || d/b.HeightM < c.DammedBy) {
			c.Dammed, c.DammedBy = &barriers[bi], d/b.HeightM
		}
	}
	return c, true
}

// feeds walks up the fall line and reports more than 300 m of rising ground without a barrier.
func (f *Filled) feeds(x, y, falls float64, barriers []Barrier) bool {
	up := [2]float64{-math.Sin(falls * math.Pi / 180), -math.Cos(falls * math.Pi / 180)}
	for _, b := range barriers {
		if d, ok := ray(x, y, up, b.Line); ok && d < 300 && b.Porosity < 0.3 {
			return false
		}
	}
	last := f.Height(x, y)
	for d := 20.0; d <= 300; d += 20 {
		z := f.Height(x+d*up[0], y+d*up[1])
		if math.IsNaN(z) || z < last-0.05 {
			return false
		}
		last = z
	}
	return true
}

// ray is the distance along dir from (x, y) to a line of points.
func ray(x, y float64, dir [2]float64, line [][2]float64) (float64, bool) {
	best, hit := math.Inf(1), false
	for k := 1; k < len(line); k++ {
		ax, ay, bx, by := line[k-1][0]-x, line[k-1][1]-y, line[k][0]-x, line[k][1]-y
		ex, ey := bx-ax, by-ay
		det := dir[0]*ey - dir[1]*ex
		if math.Abs(det) < 1e-12 {
			continue
		}
		t := (ax*ey - ay*ex) / det
		u := (ax*dir[1] - ay*dir[0]) / det
		if t >= 0 && u >= -1e-9 && u <= 1+1e-9 && t < best {
			best, hit = t, true
		}
	}
	return best, hit
}
