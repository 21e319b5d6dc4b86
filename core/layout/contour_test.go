package layout

import (
	"errors"
	"math"
	"testing"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// On an even slope rows that follow it are straight, R apart, and fall by the grade asked: 5 % down to the south, level and at 1 %.
func TestContourRowsOnAnEvenSlope(t *testing.T) {
	f := box(200, 120)
	plane := func(x, y float64) float64 { return 100 + 0.05*y }
	for _, grade := range []float64{0, 1} {
		got, g, err := PlaceContour(f, Spec{Pattern: Contour, RowSpacingM: 6, PlantSpacingM: 2, GradePct: grade, EdgeBandM: 4}, plane)
		if err != nil || got.Rows < 17 || got.Rows > 22 {
			t.Fatalf("%d rows on 120 m at 6 m: %v", got.Rows, err)
		}
		near(t, "lowest grade", g.Low, grade, 0.02)
		near(t, "highest grade", g.High, grade, 0.02)
		if grade == 0 {
			near(t, "rows apart", g.Closest, 6, 0.05)
			for _, p := range got.Pieces {
				near(t, "a level row turns", p.StepY, 0, 1e-6)
				near(t, "plants apart", math.Hypot(p.StepX, p.StepY), 2, 1e-6)
			}
		}
		got.Each(func(p geo.XY, _ int, _ byte) {
			if p.X < 4-1e-6 || p.X > 196+1e-6 || p.Y < 4-1e-6 || p.Y > 116+1e-6 {
				t.Fatalf("a station in the edge band: %v", p)
			}
		})
	}
}

// Round a hill rows bend with it: every row keeps its height to a few centimetres, plants stand as far apart along it as they should, and no two
// rows come nearer than six tenths of the spacing; a double hedge keeps its gap.
func TestContourRowsRoundAHill(t *testing.T) {
	f := box(160, 90)
	hill := func(x, y float64) float64 { return 50 - 0.06*math.Hypot(x-80, y+60) }
	got, g, err := PlaceContour(f, Spec{Pattern: Contour, RowSpacingM: 5, PlantSpacingM: 1.5, EdgeBandM: 3}, hill)
	if err != nil || got.Stations < 500 {
		t.Fatal(got.Stations, err)
	}
	rows := map[int][]float64{}
	last := map[int]geo.XY{}
	got.Each(func(p geo.XY, row int, _ byte) {
		rows[row] = append(rows[row], hill(p.X, p.Y))
		if q, ok := last[row]; ok {
			if d := math.Hypot(p.X-q.X, p.Y-q.Y); d < 1.44 || d > 1.51 && d < 3 {
				t.Errorf("row %d: plants %.3f m apart", row, d)
			}
		}
		last[row] = p
	})
	for row, z := range rows {
		lo, hi := math.Inf(1), math.Inf(-1)
		for _, h := range z {
			lo, hi = math.Min(lo, h), math.Max(hi, h)
		}
		if hi-lo > 0.06 {
			t.Errorf("row %d runs over %.2f m of height", row, hi-lo)
		}
	}
	if g.Closest < 0.6*5-0.01 || g.High > 0.2 {
		t.Errorf("grades %+v", g)
	}
	hedge, _, err := PlaceContour(f, Spec{Pattern: Contour, RowSpacingM: 8, PlantSpacingM: 1, GroupRows: 2, TwinGapM: 0.7, EdgeBandM: 3}, hill)
	if err != nil || hedge.Rows%2 != 0 || hedge.Stations < 2*500 {
		t.Errorf("%d stations in %d rows of double hedges: %v", hedge.Stations, hedge.Rows, err)
	}
}

// Without heights, or on a level field, no row follows anything; an obstacle is kept clear of.
func TestContourRowsWithoutASlope(t *testing.T) {
	var fe *finding.FieldError
	if _, err := Place(box(50, 50), Spec{Pattern: Contour, RowSpacingM: 5, PlantSpacingM: 1}); !errors.As(err, &fe) || fe.Field != "pattern" {
		t.Errorf("rows on the contour without heights: %v", err)
	}
	for name, z := range map[string]func(x, y float64) float64{"level": func(x, y float64) float64 { return 7 }, "unknown": func(x, y float64) float64 { return math.NaN() }} {
		if got, _, err := PlaceContour(box(50, 50), Spec{Pattern: Contour, RowSpacingM: 5, PlantSpacingM: 1}, z); err != nil || got.Stations != 0 {
			t.Errorf("%s: %d stations, %v", name, got.Stations, err)
		}
	}
	f := box(120, 80)
	f.Obstacles = []Obstacle{{Points: []geo.XY{{X: 60, Y: 40}}, FreeM: 9}}
	got, _, err := PlaceContour(f, Spec{Pattern: Contour, RowSpacingM: 5, PlantSpacingM: 1}, func(x, y float64) float64 { return 0.08*y + 0.02*x })
	if err != nil {
		t.Fatal(err)
	}
	got.Each(func(p geo.XY, _ int, _ byte) {
		if math.Hypot(p.X-60, p.Y-40) < 9-1e-6 {
			t.Errorf("a station on the obstacle: %v", p)
		}
	})
	if _, _, err := PlaceContour(f, Spec{Pattern: Contour, RowSpacingM: 5, PlantSpacingM: 1, GradePct: 40}, func(x, y float64) float64 { return y }); err == nil {
		t.Error("a grade of 40 % along rows is taken")
	}
}
