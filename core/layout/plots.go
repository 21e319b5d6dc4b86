package layout

import (
	"fmt"
	"math"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// Plots are blocks of rows with aisles between them both ways, as a mother garden has one for each clone. The zero value is none.
type Plots struct {
	AlongM  float64 `json:"alongM"`           // of a block, along its rows
	AcrossM float64 `json:"acrossM"`          // and across them
	AisleM  float64 `json:"aisleM"`           // between blocks, both ways
	Clones  int     `json:"clones,omitempty"` // kept apart by blocks, in turn; 0 or 1 is one
}

// None reports that rows are not cut into blocks.
func (p Plots) None() bool { return p.AlongM == 0 && p.AcrossM == 0 }

// Holds is how many stations lie along a side of a block, the first half a spacing from its edge: ⌊side / spacing⌋.
func Holds(sideM, spacingM float64) int { return int(math.Floor(sideM/spacingM + tolM)) }

// Share is the part of an endless field that lies in blocks, not in aisles: a·b / ((a + w)(b + w)).
func (p Plots) Share() float64 {
	if p.None() {
		return 1
	}
	return p.AlongM * p.AcrossM / ((p.AlongM + p.AisleM) * (p.AcrossM + p.AisleM))
}

// PerHa is stations a hectare with the aisles, on an endless field: 10 000 · stations of a block / ((a + w)(b + w)). Square blocks of side b
// at 1 × 1 m with aisles of 2 m: 10 000·b²/(b + 2)².
func (p Plots) PerHa(rowM, plantM float64) float64 {
	return 1e4 * float64(Holds(p.AlongM, plantM)*Holds(p.AcrossM, rowM)) / ((p.AlongM + p.AisleM) * (p.AcrossM + p.AisleM))
}

// AislesPerHa is how many plants spacingM apart stand in the middle of the aisles a hectare, by the length of the aisles both ways:
// 10 000 · ((a + w) + (b + w)) / ((a + w)(b + w) · spacing).
func (p Plots) AislesPerHa(spacingM float64) float64 {
	a, b := p.AlongM+p.AisleM, p.AcrossM+p.AisleM
	return 1e4 * (a + b) / (a * b * spacingM)
}

// valid returns a *finding.FieldError naming what blocks cannot be.
func (p Plots) valid(s Spec) error {
	if p == (Plots{}) {
		return nil
	}
	for _, f := range []struct {
		name      string
		v, lo, hi float64
	}{{"alongM", p.AlongM, s.PlantSpacingM, 500}, {"acrossM", p.AcrossM, s.Normal().RowSpacingM, 500}, {"aisleM", p.AisleM, 0.2, 50}} {
		if !(f.v >= f.lo && f.v <= f.hi) {
			return finding.Bad("plots."+f.name, f.v, "is not a width of blocks and aisles", fmt.Sprintf("%g to %g m", f.lo, f.hi))
		}
	}
	if s.Pattern != Square && s.Pattern != Rectangle || s.Strips {
		return finding.Bad("plots", string(s.Pattern), "is a pattern that is not cut into blocks", "rows or squares, without strips")
	}
	if p.Clones < 0 || p.Clones > 24 {
		return finding.Bad("plots.clones", p.Clones, "is not a number of clones kept apart", "0 to 24")
	}
	return nil
}

// placePlots lays rows out in blocks: in each, stations begin half a spacing from its edges. Blocks are numbered where they hold a station, in
// walking order, and take the clones in turn, so that blocks that touch across an aisle differ.
func placePlots(f Field, s Spec) (Placement, error) {
	p := s.Plots
	sin, cos := math.Sincos(s.BearingDeg * math.Pi / 180)
	anchor := f.Rings[0][0]
	u0 := anchor.X*sin + anchor.Y*cos
	rows, each := Holds(p.AcrossM, s.RowSpacingM), Holds(p.AlongM, s.PlantSpacingM)
	c := comb{bearingDeg: s.BearingDeg, offsetM: s.OffsetM, moduleM: p.AcrossM + p.AisleM, anchor: anchor, bandM: s.EdgeBandM, setbackM: s.RowEndSetbackM}
	for i := range rows {
		c.lines = append(c.lines, line{atM: (float64(i) + 0.5) * s.RowSpacingM, stepM: s.PlantSpacingM})
	}
	v0 := anchor.X*cos - anchor.Y*sin + s.OffsetM
	var out Placement
	var at [][2]int // block of each piece: across, along
	period := p.AlongM + p.AisleM
	err := c.rows(f, func(q Piece, _, _ int) error {
		first, last := q.FirstX*sin+q.FirstY*cos, 0.0
		v := q.FirstX*cos - q.FirstY*sin
		last = first + q.LengthM
		j := int(math.Floor((v-v0)/c.moduleM + tolM))
		for k := int(math.Floor((first - u0) / period)); u0+float64(k)*period <= last; k++ {
			base := u0 + float64(k)*period
			i0 := max(0, int(math.Ceil((first-base)/s.PlantSpacingM-0.5-tolM)))
			i1 := min(each-1, int(math.Floor((last-base)/s.PlantSpacingM-0.5+tolM)))
			if i1 < i0 {
				continue
			}
			u := base + (float64(i0)+0.5)*s.PlantSpacingM
			r := q
			r.FirstX, r.FirstY, r.Stations = u*sin+v*cos, u*cos-v*sin, i1-i0+1
			r.LengthM = math.Min(last, base+p.AlongM) - math.Max(first, base)
			out.Pieces, at = append(out.Pieces, r), append(at, [2]int{j, k})
			if out.Stations += r.Stations; out.Stations > MaxStations {
				return tooMany(s)
			}
		}
		return nil
	})
	if err != nil {
		if err == errMany {
			err = tooMany(s)
		}
		return Placement{}, err
	}
	return numberPlots(out.Pieces, at, s), nil
}

// numberPlots numbers rows, stations and blocks, and gives every block its clone.
func numberPlots(pieces []Piece, at [][2]int, s Spec) Placement {
	lowest := math.MaxInt
	for _, b := range at {
		lowest = min(lowest, b[1])
	}
	number := map[[2]int]int{}
	for i, b := range at { // rows come across, so blocks are met in walking order
		if _, ok := number[b]; !ok {
			number[b] = len(number) + 1
		}
		pieces[i].Plot, pieces[i].Clone = number[b], 1+mod(b[0]+b[1]-lowest, max(1, s.Plots.Clones))
	}
	all := Placement{Pieces: pieces}
	all.inOrder(s.BearingDeg)
	var out Placement
	for _, q := range all.Pieces {
		q.Roles = roles(s, q.Row, q.Station1, q.Stations, q.Row-1, q.Station1-1)
		out.add(q)
	}
	return out
}

// Aisles lays a crop in the middle of the aisles between blocks: along those beside the rows first, then along those across them, where no
// plant stands within half a spacing.
func Aisles(f Field, s Spec, spacingM float64) (Placement, error) {
	s = s.Normal()
	p := s.Plots
	if p.None() {
		return Placement{}, nil
	}
	anchor := f.Rings[0][0]
	sin, cos := math.Sincos(s.BearingDeg * math.Pi / 180)
	shifted := geo.XY{X: anchor.X + s.OffsetM*cos, Y: anchor.Y - s.OffsetM*sin}
	lay := func(bearing, moduleM, atM float64) (out Placement, err error) {
		c := comb{bearingDeg: bearing, moduleM: moduleM, lines: []line{{atM: atM, stepM: spacingM}}, anchor: shifted, bandM: s.EdgeBandM, setbackM: s.RowEndSetbackM}
		err = c.rows(f, func(q Piece, _, _ int) error {
			if out.add(q); out.Stations > MaxStations {
				return tooMany(s)
			}
			return nil
		})
		if err == errMany {
			err = tooMany(s)
		}
		return out, err
	}
	beside, err := lay(s.BearingDeg, p.AcrossM+p.AisleM, p.AcrossM+p.AisleM/2)
	if err != nil {
		return beside, err
	}
	across, err := lay(s.BearingDeg+90, p.AlongM+p.AisleM, -(p.AlongM + p.AisleM/2))
	if err != nil {
		return across, err
	}
	out := beside
	for _, q := range across.Without(beside, spacingM/2).Pieces {
		q.Row += beside.Rows
		out.add(q)
	}
	return out, nil
}
