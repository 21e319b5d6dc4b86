package layout

import (
	"math"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// Turned is a layout in short on one bearing.
type Turned struct {
	Deg      float64
	Stations int
	Passes   int // pieces of row
	Metres   float64
}

// Bearings lays a spec out on every whole degree from 0 to 179, method LAY-4. Only counts are kept.
func Bearings(f Field, s Spec) ([]Turned, error) {
	if err := s.Valid(); err != nil {
		return nil, err
	}
	if s.Pattern == Contour {
		return nil, finding.Bad("pattern", s.Pattern, "follows the slope and cannot be turned", "another pattern")
	}
	lattice := s.Pattern == Square || s.staggered()
	n := s.Normal()
	out := make([]Turned, 180)
	for d := range out {
		t := Turned{Deg: float64(d)}
		c := comb{bearingDeg: t.Deg, offsetM: n.OffsetM, moduleM: n.RowSpacingM, lines: n.lines(), lattice: lattice, anchor: f.Rings[0][0],
			bandM: n.EdgeBandM, setbackM: n.RowEndSetbackM}
		err := c.rows(f, func(p Piece, _, _ int) error {
			t.Stations += p.Stations
			t.Passes++
			t.Metres += p.LengthM
			if t.Stations > MaxStations {
				return errMany
			}
			return nil
		})
		if err != nil {
			return nil, tooMany(s)
		}
		out[d] = t
	}
	return out, nil
}

// LongestSideDeg is the bearing of the longest side of a ring, 0 to 180°.
func LongestSideDeg(r []geo.XY) float64 {
	var best, deg float64
	for i, a := range r {
		b := r[(i+1)%len(r)]
		if l := math.Hypot(b.X-a.X, b.Y-a.Y); l > best {
			best, deg = l, math.Atan2(b.X-a.X, b.Y-a.Y)*180/math.Pi
		}
	}
	return math.Mod(deg+360, 180)
}
