// Package terrain is the lie of the land: a surface from heights, its slope, contours, where water and
// cold air gather. Surfaces are grids on the local plane in metres; rows run from south to north.
package terrain

import (
	"math"

	"slowroot/core/finding"
)

// Surface is a regular grid of heights. Z holds NX·NY values, row by row from the south-west corner;
// NaN is no height. X0, Y0 is the centre of the first cell.
type Surface struct {
	X0, Y0, Cell float64
	NX, NY       int
	Z            []float64
	AccuracyM    float64 // standard error of a height
}

// MaxCells bounds a surface.
const MaxCells = 4_000_000

// NewSurface makes an empty one.
func NewSurface(x0, y0, cell float64, nx, ny int) (*Surface, error) {
	if !(cell > 0) || nx < 2 || ny < 2 || nx > MaxCells/ny {
		return nil, finding.Bad("grid", nx*ny, "is not a grid of heights", "2 × 2 to 4 000 000 cells larger than nothing")
	}
	s := &Surface{X0: x0, Y0: y0, Cell: cell, NX: nx, NY: ny, Z: make([]float64, nx*ny)}
	for i := range s.Z {
		s.Z[i] = math.NaN()
	}
	return s, nil
}

// At is the height of cell (i, j); NaN outside.
func (s *Surface) At(i, j int) float64 {
	if i < 0 || j < 0 || i >= s.NX || j >= s.NY {
		return math.NaN()
	}
	return s.Z[j*s.NX+i]
}

// Height is the height at a point, bilinear; NaN outside or beside a missing cell.
func (s *Surface) Height(x, y float64) float64 {
	fx, fy := (x-s.X0)/s.Cell, (y-s.Y0)/s.Cell
	i, j := int(math.Floor(fx)), int(math.Floor(fy))
	fx, fy = fx-float64(i), fy-float64(j)
	if i == s.NX-1 && fx == 0 {
		i, fx = i-1, 1
	}
	if j == s.NY-1 && fy == 0 {
		j, fy = j-1, 1
	}
	a, b, c, d := s.At(i, j), s.At(i+1, j), s.At(i, j+1), s.At(i+1, j+1)
	return (a*(1-fx)+b*fx)*(1-fy) + (c*(1-fx)+d*fx)*fy
}

// Spot is a height at a point, with its standard error.
type Spot struct{ X, Y, Z, Sigma float64 }

// FromSpots fits a surface: at each cell a plane through the spots around, near ones weighing more
// (moving least squares, weight 1/(d² + h²)²), so that a plane comes back exactly. Fewer than three
// spots, or spots in a line, are refused.
func FromSpots(spots []Spot, x0, y0, cell float64, nx, ny int) (*Surface, error) {
	if len(spots) < 3 {
		return nil, finding.Bad("spots", len(spots), "heights make no surface", "three or more, not in a line")
	}
	s, err := NewSurface(x0, y0, cell, nx, ny)
	if err != nil {
		return nil, err
	}
	if flatness(spots) < 1e-6 {
		return nil, finding.Bad("spots", len(spots), "the heights lie in one line", "three or more, not in a line")
	}
	h2 := math.Pow(spacing(spots)*0.5, 2) + 1e-9
	for j := 0; j < ny; j++ {
		for i := 0; i < nx; i++ {
			s.Z[j*nx+i] = fit(spots, x0+float64(i)*cell, y0+float64(j)*cell, h2)
		}
	}
	for _, p := range spots {
		s.AccuracyM += p.Sigma / float64(len(spots))
	}
	return s, nil
}

// fit solves the weighted plane z = a + b·dx + c·dy at (x, y) and gives a.
func fit(spots []Spot, x, y, h2 float64) float64 {
	var sw, sx, sy, sz, sxx, sxy, syy, sxz, syz float64
	for _, p := range spots {
		dx, dy := p.X-x, p.Y-y
		w := 1 / ((dx*dx + dy*dy + h2) * (dx*dx + dy*dy + h2))
		sw, sx, sy, sz = sw+w, sx+w*dx, sy+w*dy, sz+w*p.Z
		sxx, sxy, syy, sxz, syz = sxx+w*dx*dx, sxy+w*dx*dy, syy+w*dy*dy, sxz+w*dx*p.Z, syz+w*dy*p.Z
	}
	mx, my, mz := sx/sw, sy/sw, sz/sw
	cxx, cxy, cyy := sxx/sw-mx*mx, sxy/sw-mx*my, syy/sw-my*my
	cxz, cyz := sxz/sw-mx*mz, syz/sw-my*mz
	det := cxx*cyy - cxy*cxy
	if det <= 1e-12*(cxx+cyy)*(cxx+cyy) {
		return mz
	}
	b, c := (cxz*cyy-cyz*cxy)/det, (cyz*cxx-cxz*cxy)/det
	return mz - b*mx - c*my
}

func flatness(spots []Spot) float64 {
	var mx, my, xx, xy, yy float64
	n := float64(len(spots))
	for _, p := range spots {
		mx, my = mx+p.X/n, my+p.Y/n
	}
	for _, p := range spots {
		xx, xy, yy = xx+(p.X-mx)*(p.X-mx), xy+(p.X-mx)*(p.Y-my), yy+(p.Y-my)*(p.Y-my)
	}
	if xx+yy == 0 {
		return 0
	}
	return (xx*yy - xy*xy) / ((xx + yy) * (xx + yy))
}

// spacing is a typical distance between neighbours.
func spacing(spots []Spot) float64 {
	x0, x1, y0, y1 := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, p := range spots {
		x0, x1, y0, y1 = math.Min(x0, p.X), math.Max(x1, p.X), math.Min(y0, p.Y), math.Max(y1, p.Y)
	}
	return math.Sqrt((x1 - x0) * (y1 - y0) / float64(len(spots)))
}

// Slope is the gradient of a cell by Horn's formula (Horn, Hill shading and the reflectance map, Proc.
// IEEE 69, 1981): slope in %, and the compass direction the ground falls towards. ok is false at the
// rim and beside missing heights.
func (s *Surface) Slope(i, j int) (pct, fallsTo float64, ok bool) {
	if i < 1 || j < 1 || i >= s.NX-1 || j >= s.NY-1 {
		return 0, 0, false
	}
	z, n := s.Z, s.NX
	k := j*n + i
	dx := ((z[k+n+1] + 2*z[k+1] + z[k-n+1]) - (z[k+n-1] + 2*z[k-1] + z[k-n-1])) / (8 * s.Cell)
	dy := ((z[k+n-1] + 2*z[k+n] + z[k+n+1]) - (z[k-n-1] + 2*z[k-n] + z[k-n+1])) / (8 * s.Cell)
	if math.IsNaN(dx) || math.IsNaN(dy) {
		return 0, 0, false
	}
	return 100 * math.Hypot(dx, dy), math.Mod(math.Atan2(-dx, -dy)*180/math.Pi+360, 360), true
}

// Lie is what a piece of ground is like as a whole. Heights are m, slopes %.
type Lie struct {
	MinZ     float64 `json:"minZ"`
	MaxZ     float64 `json:"maxZ"`
	MeanZ    float64 `json:"meanZ"`
	SlopePct float64 `json:"slopePct"` // mean
	Steepest float64 `json:"steepest"` // nineteen cells of twenty are gentler
	FallsTo  float64 `json:"fallsTo"`  // compass direction, ° from true north
	Uniform  float64 `json:"uniform"`  // 1: all falls one way; 0: every way
	Cells    int     `json:"cells"`
}

// Lie averages the cells for which in is true. ok is false when none has a slope.
func (s *Surface) Lie(in func(x, y float64) bool) (Lie, bool) {
	l := Lie{MinZ: math.Inf(1), MaxZ: math.Inf(-1)}
	var slopes []float64
	var ex, ny, sum float64
	heights := 0
	for j := 0; j < s.NY; j++ {
		for i := 0; i < s.NX; i++ {
			z := s.At(i, j)
			if math.IsNaN(z) || !in(s.X0+float64(i)*s.Cell, s.Y0+float64(j)*s.Cell) {
				continue
			}
			heights++
			l.MinZ, l.MaxZ, l.MeanZ = math.Min(l.MinZ, z), math.Max(l.MaxZ, z), l.MeanZ+z
			if p, a, ok := s.Slope(i, j); ok {
				slopes = append(slopes, p)
				ex, ny, sum = ex+p*math.Sin(a*math.Pi/180), ny+p*math.Cos(a*math.Pi/180), sum+p
			}
		}
	}
	if len(slopes) == 0 {
		return l, false
	}
	l.Cells = len(slopes)
	l.MeanZ /= float64(heights)
	l.SlopePct = sum / float64(len(slopes))
	l.Steepest = percentile(slopes, 0.95)
	l.FallsTo = math.Mod(math.Atan2(ex, ny)*180/math.Pi+360, 360)
	if sum > 0 {
		l.Uniform = math.Hypot(ex, ny) / sum
	}
	return l, true
}

func percentile(v []float64, q float64) float64 {
	return nth(append([]float64(nil), v...), int(q*float64(len(v)-1)))
}

// nth is the k-th smallest by quickselect.
func nth(v []float64, k int) float64 {
	lo, hi := 0, len(v)-1
	for lo < hi {
		p := v[(lo+hi)/2]
		i, j := lo, hi
		for i <= j {
			for v[i] < p {
				i++
			}
			for v[j] > p {
				j--
			}
			if i <= j {
				v[i], v[j] = v[j], v[i]
				i++
				j--
			}
		}
		switch {
		case k <= j:
			hi = j
		case k >= i:
			lo = i
		default:
			return v[k]
		}
	}
	return v[k]
}
