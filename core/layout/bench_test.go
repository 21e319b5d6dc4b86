package layout

import (
	"testing"

	"slowroot/core/geo"
)

// A million stations as pieces of row: 30 ms are allowed.
func BenchmarkMillionStations(b *testing.B) {
	f := box(1000, 1000)
	s := Spec{Pattern: Rectangle, RowSpacingM: 1, PlantSpacingM: 1, BearingDeg: 17}
	for b.Loop() {
		p, err := Place(f, s)
		if err != nil || p.Stations < 900_000 {
			b.Fatal(p.Stations, err)
		}
	}
}

// The same as points, one after another: 150 ms are allowed.
func BenchmarkMillionPoints(b *testing.B) {
	p, err := Place(box(1000, 1000), Spec{Pattern: Rectangle, RowSpacingM: 1, PlantSpacingM: 1, BearingDeg: 17})
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		x := 0.0
		p.Each(func(at geo.XY, _ int, _ byte) { x += at.X })
		if x == 0 {
			b.Fatal("no point")
		}
	}
}

// All 180 bearings of a block of 10 ha: 300 ms are allowed.
func BenchmarkBearings(b *testing.B) {
	f := Field{Rings: [][]geo.XY{{{}, {X: 350, Y: 30}, {X: 420, Y: 260}, {X: 200, Y: 330}, {X: -40, Y: 210}}}}
	s := Spec{Pattern: Rectangle, RowSpacingM: 4, PlantSpacingM: 1.5, EdgeBandM: 6, RowEndSetbackM: 4}
	for b.Loop() {
		if _, err := Bearings(f, s); err != nil {
			b.Fatal(err)
		}
	}
}
