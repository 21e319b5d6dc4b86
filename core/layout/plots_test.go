package layout

import (
	"errors"
	"math"
	"testing"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// Gross density of a garden in square blocks of side b at 1 × 1 m with aisles of 2 m, 10 000·b²/(b + 2)²: 6 944, 8 264 and 8 789 a hectare for
// 10, 20 and 30 m (common practice; arithmetic).
func TestDensityWithAisles(t *testing.T) {
	for b, want := range map[float64]float64{10: 6944, 20: 8264, 30: 8789} {
		p := Plots{AlongM: b, AcrossM: b, AisleM: 2}
		if got := p.PerHa(1, 1); math.Abs(got-want) > 0.5 {
			t.Errorf("blocks of %g m: %g a hectare, want %g", b, got, want)
		}
		if got := p.Share() * 1e4; math.Abs(got-want) > 0.5 {
			t.Errorf("blocks of %g m take %g of a hectare", b, got)
		}
	}
}

func square(side float64) Field {
	return Field{Rings: [][]geo.XY{{{X: 0, Y: 0}, {X: side, Y: 0}, {X: side, Y: side}, {X: 0, Y: side}}}}
}

// 34 m hold three blocks of 10 m with two aisles of 2 m each way: nine blocks of 100 stations; clones in turn differ across every aisle; the
// aisles hold their crop every 3 m once: two of 34 m (12 each) beside the rows, and two across, less those on the crossings.
func TestBlocksWithAisles(t *testing.T) {
	s := Spec{Pattern: Square, PlantSpacingM: 1, BearingDeg: 0, Plots: Plots{AlongM: 10, AcrossM: 10, AisleM: 2, Clones: 3}}
	got, err := Place(square(34), s)
	if err != nil {
		t.Fatal(err)
	}
	if got.Stations != 900 || got.Rows != 30 || len(got.Pieces) != 90 || math.Abs(got.RowMetres-900) > 1e-6 {
		t.Fatalf("%d stations in %d rows, %d pieces, %g m", got.Stations, got.Rows, len(got.Pieces), got.RowMetres)
	}
	clone := map[int]int{}
	stations := map[int]int{}
	got.Each(func(at geo.XY, _ int, _ byte) {
		for _, v := range []float64{at.X, at.Y} {
			if in := math.Mod(v, 12); in > 10 {
				t.Errorf("a station at %v stands in an aisle", at)
			}
		}
	})
	for _, p := range got.Pieces {
		clone[p.Plot] = p.Clone
		stations[p.Clone] += p.Stations
	}
	if len(clone) != 9 || stations[1] != 300 || stations[2] != 300 || stations[3] != 300 {
		t.Errorf("blocks %v, clones %v", clone, stations)
	}
	for n := 1; n <= 9; n++ {
		if n%3 != 0 && clone[n] == clone[n+1] || n <= 6 && clone[n] == clone[n+3] {
			t.Errorf("blocks %v: %d touches its own clone", clone, n)
		}
	}
	shade, err := Aisles(square(34), s, 3)
	if err != nil {
		t.Fatal(err)
	}
	crossings := 0
	for i, a := range all(shade) {
		if x, y := math.Mod(a.X, 12), math.Mod(a.Y, 12); math.Abs(x-11) > 1e-6 && math.Abs(y-11) > 1e-6 {
			t.Errorf("%v stands in a block", a)
		}
		for _, b := range all(shade)[i+1:] {
			if d := math.Hypot(a.X-b.X, a.Y-b.Y); d < 1.5-1e-9 {
				crossings++
			}
		}
	}
	if crossings > 0 || shade.Stations < 44 || shade.Stations > 48 {
		t.Errorf("%d in the aisles, %d pairs too close; by length (4 × 34 m)/3 they are 45", shade.Stations, crossings)
	}
}

func all(p Placement) (out []geo.XY) {
	p.Each(func(at geo.XY, _ int, _ byte) { out = append(out, at) })
	return out
}

// What blocks cannot be is refused by its field.
func TestBlocksThatCannotBe(t *testing.T) {
	for field, p := range map[string]Plots{"plots.alongM": {AlongM: 0.5, AcrossM: 10, AisleM: 2}, "plots.acrossM": {AlongM: 10, AcrossM: 900, AisleM: 2},
		"plots.aisleM": {AlongM: 10, AcrossM: 10}, "plots.clones": {AlongM: 10, AcrossM: 10, AisleM: 1, Clones: 99}} {
		refused(t, Spec{Pattern: Square, PlantSpacingM: 1, Plots: p}, field)
	}
	refused(t, Spec{Pattern: Triangle, PlantSpacingM: 1, Plots: Plots{AlongM: 10, AcrossM: 10, AisleM: 2}}, "plots")
}

func refused(t *testing.T, s Spec, field string) {
	t.Helper()
	var fe *finding.FieldError
	if err := s.Valid(); !errors.As(err, &fe) || fe.Field != field {
		t.Errorf("%+v: %v, want %s refused", s.Plots, err, field)
	}
}

// Stumps take the place of stations nearer than half a spacing, keep their own place to the millimetre, and those on no row are named.
func TestStumpsBecomeStations(t *testing.T) {
	rows, err := Place(square(20), Spec{Pattern: Rectangle, RowSpacingM: 5, PlantSpacingM: 2, EdgeBandM: 1})
	if err != nil {
		t.Fatal(err)
	}
	before := rows.Stations
	first := rows.Pieces[0]
	got, off := rows.WithStumps([]Stump{{Row: 1, AtM: 4.3}, {Row: 1, AtM: 9}, {Row: 2, AtM: -1.5}, {Row: 2, AtM: 40}, {Row: 99, AtM: 1}})
	if len(off) != 2 || off[0] != 3 || off[1] != 4 {
		t.Errorf("off the rows: %v", off)
	}
	// 4.3 takes the one at 4; 9 lies between 8 and 10, 1 m from both, and takes neither; −1.5 stands before the first, 1.5 m from it
	if got.Sprouts != 3 || got.Stations != before+2 || math.Abs(got.RowMetres-rows.RowMetres) > 1e-9 || got.Rows != rows.Rows {
		t.Fatalf("%d sprouts, %d stations of %d, %g m", got.Sprouts, got.Stations, before, got.RowMetres)
	}
	var along []float64
	last := 0
	for _, p := range got.Pieces {
		if p.Row != 1 {
			continue
		}
		if p.Station1 != last+1 {
			t.Errorf("station %d follows %d", p.Station1, last)
		}
		last += p.Stations
		for i := range p.Stations {
			along = append(along, math.Hypot(p.FirstX+float64(i)*p.StepX-first.FirstX, p.FirstY+float64(i)*p.StepY-first.FirstY))
		}
	}
	want := []float64{0, 2, 4.3, 6, 8, 9, 10, 12, 14, 16, 18}
	if len(along) != len(want) {
		t.Fatalf("row 1 stands at %v", along)
	}
	for i := range want {
		if math.Abs(along[i]-want[i]) > 1e-6 {
			t.Errorf("station %d at %g m, want %g", i+1, along[i], want[i])
		}
	}
}
