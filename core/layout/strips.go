package layout

import (
	"fmt"
	"math"
	"slices"

	"slowroot/core/finding"
)

// Strip is one band of ground across the rows; a sequence of strips repeats over the field. The model is that of an alley: strips of
// width wᵢ with rows in them, the widths summing to the module (method LAY-1).
type Strip struct {
	WidthM float64
	Rows   []StripRow
}

// StripRow is one row in a strip. Its stations stand SpacingM apart and are taken in turn by what Of names; the same name twice is
// two stations of each turn.
type StripRow struct {
	AcrossM  *float64 // from the strip's left edge; nil spreads the rows of a strip evenly
	SpacingM float64
	ShiftM   float64 // of the first station
	Of       []string
}

// Alley is a sequence of strips laid on a field.
type Alley struct {
	Strips         []Strip
	BearingDeg     float64
	OffsetM        float64
	EdgeBandM      float64
	RowEndSetbackM float64
}

// WidthM is the module: the sum of the strips.
func (a Alley) WidthM() float64 {
	w := 0.0
	for _, s := range a.Strips {
		w += s.WidthM
	}
	return w
}

// Valid returns a *finding.FieldError naming the first strip that cannot be laid.
func (a Alley) Valid() error {
	if len(a.Strips) > 60 {
		return finding.Bad("strips", len(a.Strips), "are more strips than repeat", "60 at most")
	}
	for i, s := range a.Strips {
		at := fmt.Sprintf("strips[%d]", i)
		if !(s.WidthM >= 0.1 && s.WidthM <= 60) {
			return finding.Bad(at+".widthM", s.WidthM, "is not the width of a strip", "0.1 to 60 m")
		}
		if len(s.Rows) > 40 {
			return finding.Bad(at+".rows", len(s.Rows), "are more rows than a strip holds", "40 at most")
		}
		for k, r := range s.Rows {
			at := fmt.Sprintf("%s.rows[%d]", at, k)
			if r.AcrossM != nil && !(*r.AcrossM >= 0 && *r.AcrossM <= s.WidthM) {
				return finding.Bad(at+".acrossM", *r.AcrossM, "lies outside its strip", fmt.Sprintf("0 to %g m", s.WidthM))
			}
			if !(r.SpacingM >= 0.03 && r.SpacingM <= 25) {
				return finding.Bad(at+".spacingM", r.SpacingM, "is not a spacing between plants", "0.03 to 25 m")
			}
			if !(r.ShiftM >= 0 && r.ShiftM < 25) {
				return finding.Bad(at+".shiftM", r.ShiftM, "is not a shift of the first plant", "0 to less than 25 m")
			}
			if len(r.Of) == 0 || len(r.Of) > 24 {
				return finding.Bad(at+".of", len(r.Of), "are not plants that stand in turn", "1 to 24")
			}
		}
	}
	if w := a.WidthM(); w > MaxModuleM {
		return finding.Bad("strips", fmt.Sprintf("%.1f m", w), "is wider than strips repeat", fmt.Sprintf("%d m at most", MaxModuleM))
	}
	return nil
}

// atM is where row k of a strip lies in it, m from its left edge.
func (s Strip) atM(k int) float64 {
	if at := s.Rows[k].AcrossM; at != nil {
		return *at
	}
	return s.WidthM * (float64(k) + 0.5) / float64(len(s.Rows))
}

// PerHa is stations of one name a hectare on an endless field: 10 000/W · Σ over its rows of its share/spacing.
func (a Alley) PerHa(name string) float64 {
	n := 0.0
	for _, s := range a.Strips {
		for _, r := range s.Rows {
			mine := 0
			for _, o := range r.Of {
				if o == name {
					mine++
				}
			}
			n += float64(mine) / float64(len(r.Of)) / r.SpacingM
		}
	}
	return 10000 / a.WidthM() * n
}

// RowMetresPerHa is the row length a hectare in which a name stands, m.
func (a Alley) RowMetresPerHa(name string) float64 {
	n := 0
	for _, s := range a.Strips {
		for _, r := range s.Rows {
			if slices.Contains(r.Of, name) {
				n++
			}
		}
	}
	return 10000 / a.WidthM() * float64(n)
}

// Lay lays the strips on the field and answers the stations of each name. Rows of a name are numbered by themselves. The first strip begins
// where the first row of a plain layout would stand, half the first strip before it, so that a module of one row is that layout.
func (a Alley) Lay(f Field) (map[string]*Placement, error) {
	if err := a.Valid(); err != nil {
		return nil, err
	}
	out := map[string]*Placement{}
	total := 0
	left := 0.0
	first := a.firstM()
	for i, s := range a.Strips {
		for k, r := range s.Rows {
			n, err := a.row(f, left+s.atM(k)-first, r, out)
			if total += n; err != nil || total > MaxStations {
				return nil, finding.Bad(fmt.Sprintf("strips[%d].rows[%d].spacingM", i, k), r.SpacingM,
					"gives more than 2 000 000 stations on this block", "a wider spacing, or a smaller block")
			}
		}
		left += s.WidthM
	}
	for _, p := range out {
		p.inOrder(a.BearingDeg)
	}
	return out, nil
}

// firstM is where the first row of the module lies, m from its left edge; 0 where no strip holds one.
func (a Alley) firstM() float64 {
	left := 0.0
	for _, s := range a.Strips {
		if len(s.Rows) > 0 {
			return left + s.atM(0)
		}
		left += s.WidthM
	}
	return 0
}

// row lays one row of the module on every module of the field.
func (a Alley) row(f Field, atM float64, r StripRow, out map[string]*Placement) (stations int, err error) {
	c := comb{bearingDeg: a.BearingDeg, offsetM: a.OffsetM, moduleM: a.WidthM(), lines: []line{{atM: atM, stepM: r.SpacingM, shiftM: r.ShiftM}},
		anchor: f.Rings[0][0], bandM: a.EdgeBandM, setbackM: a.RowEndSetbackM}
	turn := len(r.Of)
	err = c.rows(f, func(p Piece, _, _ int) error {
		seen := map[string]bool{}
		for k, name := range r.Of {
			i := mod(k-(p.Station1-1), turn) // the first station of the piece that is the k-th of a turn
			if i >= p.Stations {
				continue
			}
			q := p
			q.FirstX, q.FirstY = p.FirstX+float64(i)*p.StepX, p.FirstY+float64(i)*p.StepY
			q.StepX, q.StepY = p.StepX*float64(turn), p.StepY*float64(turn)
			q.Stations = (p.Stations-1-i)/turn + 1
			if seen[name] {
				q.LengthM = 0 // its row metres are counted once
			}
			seen[name] = true
			if out[name] == nil {
				out[name] = &Placement{}
			}
			out[name].Pieces = append(out[name].Pieces, q)
			out[name].Stations += q.Stations
			out[name].RowMetres += q.LengthM
			if stations += q.Stations; stations > MaxStations {
				return errMany
			}
		}
		return nil
	})
	return stations, err
}

// inOrder numbers the rows of a layout that was put together from several, in the order they are walked: across, then along.
func (p *Placement) inOrder(bearingDeg float64) {
	sin, cos := math.Sincos(bearingDeg * math.Pi / 180)
	across := func(q Piece) float64 { return math.Round((q.FirstX*cos-q.FirstY*sin)*1e6) / 1e6 }
	along := func(q Piece) float64 { return q.FirstX*sin + q.FirstY*cos }
	slices.SortStableFunc(p.Pieces, func(a, b Piece) int {
		if d := across(a) - across(b); d != 0 {
			return int(math.Copysign(1, d))
		}
		return int(math.Copysign(1, along(a)-along(b)))
	})
	row, station, last := 0, 1, math.Inf(-1)
	for i := range p.Pieces {
		q := &p.Pieces[i]
		if at := across(*q); at != last {
			row, station, last = row+1, 1, at
		}
		q.Row, q.Station1 = row, station
		station += q.Stations
	}
	p.Rows = row
}

// WithRoles is the layout with the roles its spec gives, as if its rows stood alone.
func (p Placement) WithRoles(s Spec) Placement {
	var out Placement
	for _, q := range p.Pieces {
		q.Roles = roles(s, q.Row, q.Station1, q.Stations, q.Row-1, q.Station1-1)
		out.add(q)
	}
	return out
}
