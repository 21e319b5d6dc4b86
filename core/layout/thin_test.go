package layout

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"slowroot/core/geo"
)

// What can be left of a start, method LAY-5; computed there with a general search over the lattice.
func TestWhatThinningCanLeave(t *testing.T) {
	for _, c := range []struct {
		s    Spec
		most int
		want string
	}{
		{Spec{Pattern: Square, PlantSpacingM: 5}, 5, "1: 5.00 × 5.00, 2: 5.00 × 10.00, 2: 7.07 × 7.07, 3: 5.00 × 15.00, 4: 5.00 × 20.00, 4: 7.07 × 14.14, " +
			"4: 10.00 × 10.00, 5: 5.00 × 25.00, 5: 11.18 × 11.18"},
		{Spec{Pattern: Rectangle, RowSpacingM: 6, PlantSpacingM: 3}, 4, "1: 3.00 × 6.00, 2: 3.00 × 12.00, 2: 6.00 × 6.00, 3: 3.00 × 18.00, 3: 6.00 × 9.00, " +
			"4: 3.00 × 24.00, 4: 6.00 × 12.00, 4: 8.49 × 8.49"},
		{Spec{Pattern: Triangle, PlantSpacingM: 4}, 4, "2: 4.00 × 6.93, 4: 4.00 × 13.86, 4: 6.93 × 8.00"},
		{Spec{Pattern: Square, PlantSpacingM: 6}, 4,
			"1: 6.00 × 6.00, 2: 6.00 × 12.00, 2: 8.49 × 8.49, 3: 6.00 × 18.00, 4: 6.00 × 24.00, 4: 8.49 × 16.97, 4: 12.00 × 12.00"},
	} {
		var got []string
		for _, r := range c.s.Remainders(c.most) {
			got = append(got, fmt.Sprintf("%d: %.2f × %.2f", r.Keep, r.XM, r.YM))
		}
		if s := strings.Join(got, ", "); s != c.want {
			t.Errorf("%+v leaves\n%s, want\n%s", c.s, s, c.want)
		}
	}
	for _, c := range []struct {
		row, plant, x, y float64
		want             bool
	}{{5, 5, 10, 10, true}, {7.07, 7.07, 10, 10, true}, {6, 6, 12, 6, true}, {6, 6, 10, 10, false}, {4, 3, 8, 6, true}, {4, 3, 5, 5, false}} {
		s := Spec{Pattern: Rectangle, RowSpacingM: c.row, PlantSpacingM: c.plant}
		if _, ok := s.Thins(c.x, c.y); ok != c.want {
			t.Errorf("%g × %g to %g × %g: %v", c.row, c.plant, c.x, c.y, ok)
		}
	}
	// The worked refusal: 100/36 = 2.778 is no whole number; what can be left is said, and where 10 × 10 begins.
	said := Spec{Pattern: Square, PlantSpacingM: 6}.CannotThin(10, 10)
	for _, want := range []string{"one station of 2.778", "8.49 × 8.49 m (1 of 2)", "5 × 5"} {
		if !strings.Contains(said, want) {
			t.Errorf("%q does not say %q", said, want)
		}
	}
}

// Each rule leaves the lattice it says, on a real block: counts and nearest neighbours by hand.
func TestRemovalsOnABlock(t *testing.T) {
	// 9 × 9 stations of a square of 5 m: the checkerboard that keeps the corners keeps 41, alternate rows keep 45 (LAY-5).
	field := [][]geo.XY{{{X: 0, Y: 0}, {X: 40, Y: 0}, {X: 40, Y: 40}, {X: 0, Y: 40}}}
	for _, c := range []struct {
		s                  Spec
		all, first, second int
		left               string
		nearest            float64
	}{
		{Spec{Pattern: Square, PlantSpacingM: 5, TakeOut: Checkerboard}, 81, 40, 0, "7.07 × 7.07 m", 5 * math.Sqrt2},
		{Spec{Pattern: Square, PlantSpacingM: 5, TakeOut: AlternateRow}, 81, 36, 0, "5.00 × 10.00 m", 5},
		{Spec{Pattern: Square, PlantSpacingM: 5, TakeOut: CheckerboardTwice}, 81, 40, 16, "7.07 × 7.07 m", 10},
		{Spec{Pattern: Square, PlantSpacingM: 5, Temporary: true}, 81, 36, 0, "5.00 × 10.00 m", 5},
		// Centres of 10 m squares: 25 corners and 16 centres.
		{Spec{Pattern: Quincunx, PlantSpacingM: 10, TakeOut: AlternateRow}, 41, 16, 0, "10.00 × 10.00 m", 10},
	} {
		c.s.BearingDeg, c.s.Temporary = 90, true
		if err := c.s.Valid(); err != nil {
			t.Fatal(err)
		}
		got, err := Place(Field{Rings: field}, c.s)
		if err != nil {
			t.Fatal(err)
		}
		if got.Stations != c.all || got.Temporary != c.first || got.Later != c.second {
			t.Errorf("%s %q: %d stations, %d and %d come out, want %d, %d, %d", c.s.Pattern, c.s.TakeOut, got.Stations, got.Temporary, got.Later, c.all, c.first,
				c.second)
		}
		if left, ok := c.s.Left(1); !ok || left.Words() != c.left {
			t.Errorf("%s %q leaves %s, want %s", c.s.Pattern, c.s.TakeOut, left.Words(), c.left)
		}
		var stay []geo.XY
		for _, p := range got.Pieces {
			for i := range p.Stations {
				if p.Roles == "" || p.Roles[i] == Main {
					stay = append(stay, geo.XY{X: p.FirstX + float64(i)*p.StepX, Y: p.FirstY + float64(i)*p.StepY})
				}
			}
		}
		nearest := math.Inf(1)
		for i, a := range stay {
			for _, b := range stay[:i] {
				nearest = math.Min(nearest, math.Hypot(a.X-b.X, a.Y-b.Y))
			}
		}
		if math.Abs(nearest-c.nearest) > 1e-6 {
			t.Errorf("%s %q: the nearest that stay are %.3f m apart, want %.3f", c.s.Pattern, c.s.TakeOut, nearest, c.nearest)
		}
	}
	if d := (Spec{Pattern: Quincunx, PlantSpacingM: 8}).StationsPerHa(); math.Abs(d-312.5) > 1e-9 {
		t.Errorf("quincunx of 8 m: %g/ha, want 312.5 (LAY-1)", d)
	}
	if d := (Spec{Pattern: Quincunx, PlantSpacingM: 8}).NearestM(); math.Abs(d-8/math.Sqrt2) > 1e-9 {
		t.Errorf("quincunx of 8 m: neighbours %g m apart, want 5.657 (LAY-1)", d)
	}
	s := Spec{Pattern: Square, PlantSpacingM: 5, TakeOut: "some"}
	if s.Valid() == nil {
		t.Error("a rule nobody knows was accepted")
	}
}
