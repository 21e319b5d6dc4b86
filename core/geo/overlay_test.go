package geo

import (
	"math"
	"testing"
)

// square is a square of side m with its south-west corner x, y metres from a point.
func square(x, y, m float64) Polygon {
	pl := PlaneAt(Point{Lon: 175.4, Lat: -38.2})
	return Polygon{Outer: Ring{pl.From(XY{x, y}), pl.From(XY{x + m, y}), pl.From(XY{x + m, y + m}), pl.From(XY{x, y + m})}}
}

func at(x, y float64) Point { return PlaneAt(Point{Lon: 175.4, Lat: -38.2}).From(XY{x, y}) }

func TestSplitKeepsEverySquareMetre(t *testing.T) {
	p := square(0, 0, 100)
	p.Holes = []Ring{square(40, 40, 20).Outer}
	left, right, err := Split(p, at(-10, 50), at(110, 50)) // through the hole
	if err != nil || len(left) != 1 || len(right) != 1 {
		t.Fatalf("%d left, %d right: %v", len(left), len(right), err)
	}
	if a, b := AreaM2(left[0]), AreaM2(right[0]); math.Abs(a-4800) > 0.01 || math.Abs(b-4800) > 0.01 {
		t.Errorf("halves of %g and %g m², want 4 800 each", a, b)
	}
	if pl := LocalPlane(left[0]); pl.Lat0 < at(0, 50).Lat {
		t.Error("left of a line walked to the east is not its northern side")
	}
	// a concave field falls into three pieces
	u := Polygon{Outer: Ring{at(0, 0), at(90, 0), at(90, 60), at(60, 60), at(60, 20), at(30, 20), at(30, 60), at(0, 60)}}
	left, right, err = Split(u, at(0, 40), at(90, 40))
	if err != nil || len(left) != 2 || len(right) != 1 {
		t.Fatalf("a U is cut into %d and %d pieces: %v", len(left), len(right), err)
	}
	if a := AreaM2(left[0]) + AreaM2(left[1]) + AreaM2(right[0]); math.Abs(a-AreaM2(u)) > 0.01 {
		t.Errorf("the pieces hold %g m² of %g", a, AreaM2(u))
	}
	if _, _, err := Split(p, at(-10, 200), at(110, 200)); err == nil {
		t.Error("a line beside the block cuts it")
	}
	if _, _, err := Split(p, at(0, 0), at(0, 0)); err == nil {
		t.Error("a point cuts the block")
	}
}

func TestJoinOfNeighbours(t *testing.T) {
	for _, c := range []struct {
		x, want float64
		ok      bool
	}{{100, 20_000, true}, {100.6, 20_060, true}, {99, 19_900, true}, {104, 0, false}} {
		j, err := Join(square(0, 0, 100), square(c.x, 0, 100), 1.5)
		if (err == nil) != c.ok {
			t.Errorf("a neighbour at %g m: %v", c.x, err)
			continue
		}
		if c.ok && math.Abs(AreaM2(j)-c.want) > 1 {
			t.Errorf("a neighbour at %g m makes %g m², want %g", c.x, AreaM2(j), c.want)
		}
		if c.ok && Validate(j) != nil {
			t.Errorf("a neighbour at %g m makes an invalid block: %v", c.x, Validate(j))
		}
	}
}
