package layout

import (
	"errors"
	"math"
	"math/rand/v2"
	"reflect"
	"testing"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

func at(m float64) *float64 { return &m }

func near(t *testing.T, what string, got, want, tol float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tol) {
		t.Errorf("%s is %g, want %g", what, got, want)
	}
}

// box is a rectangle with its south-west corner at the origin.
func box(w, h float64) Field { return Field{Rings: [][]geo.XY{{{}, {X: w}, {X: w, Y: h}, {Y: h}}}} }

// The worked modules of alley practice, exact arithmetic: a module of 6 m with timber at 2 m, banana at 2.5 m and four rows of a herb at 0.40 m;
// a wide bed of 5.5 m with a mixed row of one tree and three bananas in 4 m; the same alley with narrow beds.
func TestAlleyDensities(t *testing.T) {
	six := Alley{Strips: []Strip{{WidthM: 2, Rows: []StripRow{{SpacingM: 2, Of: []string{"timber"}}}},
		{WidthM: 2, Rows: []StripRow{{SpacingM: 2.5, Of: []string{"banana"}}}},
		{WidthM: 2, Rows: []StripRow{{SpacingM: 0.4, Of: []string{"herb"}}, {SpacingM: 0.4, Of: []string{"herb"}}, {SpacingM: 0.4, Of: []string{"herb"}},
			{SpacingM: 0.4, Of: []string{"herb"}}}}}}
	bed := Strip{WidthM: 1, Rows: []StripRow{{AcrossM: at(0), SpacingM: 0.3, Of: []string{"pear"}}, {SpacingM: 0.3, AcrossM: at(0.5), Of: []string{"pine"}},
		{AcrossM: at(1), SpacingM: 0.3, Of: []string{"pear"}}}}
	tree := Strip{WidthM: 1, Rows: []StripRow{{SpacingM: 1, Of: []string{"fruit", "banana", "banana", "banana"}}}}
	path := Strip{WidthM: 0.5}
	wide := Alley{Strips: []Strip{tree, path, bed, path, bed, path, bed}}
	file := func(w float64, of string) Strip {
		return Strip{WidthM: w, Rows: []StripRow{{SpacingM: 0.3, Of: []string{of}}}}
	}
	narrow := Alley{Strips: []Strip{tree, {WidthM: 0.6}, file(0.7, "pine"), file(0.5, "pear"), file(0.7, "pine"), file(0.5, "pear"), file(0.7, "pine"),
		{WidthM: 0.8}}}
	for _, c := range []struct {
		a    Alley
		name string
		want float64
	}{{six, "timber", 833.3}, {six, "banana", 666.7}, {six, "herb", 16667}, {wide, "pine", 18182}, {wide, "pear", 36364}, {wide, "banana", 1364},
		{wide, "fruit", 455}, {narrow, "pine", 18182}, {narrow, "pear", 12121}} {
		near(t, c.name, c.a.PerHa(c.name), c.want, 0.6)
	}
	near(t, "module", wide.WidthM(), 5.5, 1e-12)
	near(t, "module", narrow.WidthM(), 5.5, 1e-12)
	// counted on 110 × 200 m: twenty modules, and what the closed form says to the ends of the rows
	wide.BearingDeg = 0
	got, err := wide.Lay(box(110, 200))
	if err != nil {
		t.Fatal(err)
	}
	if n := got["pine"].Stations; n != 20*3*(666+1) {
		t.Errorf("%d pines in 60 rows", n)
	}
	// the row on the far boundary belongs to the next module; 201 stations a row, the tree first: 51 trees and 150 bananas
	if f, b := got["fruit"].Stations, got["banana"].Stations; f != 20*51 || b != 20*150 {
		t.Errorf("%d trees and %d bananas, want %d and %d", f, b, 20*51, 20*150)
	}
}

// Strips that are permuted keep the shares of ground and plants; a single strip of one row is the plain layout.
func TestStripsPermutedAndPlain(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	for range 40 {
		var a Alley
		for i := range 2 + r.IntN(5) {
			s := Strip{WidthM: 0.5 + 3*r.Float64()}
			for range r.IntN(3) {
				s.Rows = append(s.Rows, StripRow{SpacingM: 0.3 + 2*r.Float64(), Of: []string{string(rune('a' + i%3))}})
			}
			a.Strips = append(a.Strips, s)
		}
		b := a
		b.Strips = append([]Strip(nil), a.Strips...)
		r.Shuffle(len(b.Strips), func(i, j int) { b.Strips[i], b.Strips[j] = b.Strips[j], b.Strips[i] })
		near(t, "module", a.WidthM(), b.WidthM(), 1e-9)
		for _, n := range []string{"a", "b", "c"} {
			near(t, n, a.PerHa(n), b.PerHa(n), 1e-6)
		}
	}
	f := Field{Rings: [][]geo.XY{{{}, {X: 90, Y: 10}, {X: 120, Y: 70}, {X: 40, Y: 110}, {X: -20, Y: 60}}}}
	for _, bearing := range []float64{0, 33, 90, 171} {
		plain, err := Place(f, Spec{Pattern: Rectangle, RowSpacingM: 4.5, PlantSpacingM: 1.7, BearingDeg: bearing, EdgeBandM: 5, RowEndSetbackM: 2, OffsetM: 1})
		if err != nil {
			t.Fatal(err)
		}
		got, err := Alley{Strips: []Strip{{WidthM: 4.5, Rows: []StripRow{{SpacingM: 1.7, Of: []string{""}}}}}, BearingDeg: bearing, EdgeBandM: 5, RowEndSetbackM: 2,
			OffsetM: 1}.Lay(f)
		if err != nil {
			t.Fatal(err)
		}
		if !reflect.DeepEqual(got[""].Pieces, plain.Pieces) {
			t.Errorf("bearing %g: a strip of one row is not the plain layout: %d stations, %d", bearing, got[""].Stations, plain.Stations)
		}
	}
}

// Two lattices that share points collide: 1 × 1 m under 3 × 3 m from the same point loses one station in nine; shifted by half a cell
// none (method LAY-1, overlay).
func TestLatticesThatShareStations(t *testing.T) {
	f := box(89.5, 89.5)
	crop, err := Place(f, Spec{Pattern: Square, PlantSpacingM: 1, BearingDeg: 90})
	if err != nil {
		t.Fatal(err)
	}
	shade := Lattice{Spec: Spec{Pattern: Square, PlantSpacingM: 3, BearingDeg: 90}}
	over, err := PlaceOver(f, shade)
	if err != nil || crop.Stations != 8100 || over.Stations != 900 {
		t.Fatalf("%d and %d stations: %v", crop.Stations, over.Stations, err)
	}
	if n := over.Coincident(crop, 0.1); n != 900 {
		t.Errorf("%d of 900 coincide", n)
	}
	left := crop.Without(over, 0.1)
	if left.Stations != 7200 || left.Rows != crop.Rows || math.Abs(left.RowMetres-crop.RowMetres) > 1e-6 {
		t.Errorf("%d stations in %d rows of %g m are left, want 7 200 in %d of %g", left.Stations, left.Rows, left.RowMetres, crop.Rows, crop.RowMetres)
	}
	shade.ShiftAlongM, shade.ShiftAcrossM = 0.5, 0.5
	over, err = PlaceOver(f, shade)
	if err != nil || over.Coincident(crop, 0.1) != 0 {
		t.Errorf("%d coincide after a shift of half a cell: %v", over.Coincident(crop, 0.1), err)
	}
}

// Belt of 200 m at 1.65 m: 122 trees; 260 m behind belts of 8 m: four, and four again at 30° (method LAY-7, computed).
func TestBelts(t *testing.T) {
	got, err := Belt{TowardDeg: 0, Rows: 1, SpacingM: 1.65}.Lay(box(200, 260))
	if err != nil || got.Stations != 122 {
		t.Errorf("%d trees along 200 m: %v", got.Stations, err)
	}
	got.Each(func(p geo.XY, _ int, _ byte) {
		if math.Abs(p.Y-260) > 1e-6 {
			t.Fatalf("a tree of the northern belt stands at %v", p)
		}
	})
	near(t, "shelter at 30°", DepthOfShelter(8, 10, 30), 69.28, 0.005)
	if a, b := Belts(260, DepthOfShelter(8, 10, 0)), Belts(260, DepthOfShelter(8, 10, 30)); a != 4 || b != 4 {
		t.Errorf("%d and %d belts, want 4 and 4", a, b)
	}
	near(t, "depth of the field", box(200, 260).ReachM(0), 260, 1e-9)
	// two rows set in from two sides of a ring turned either way: every tree as far in as it should be, none closer than half a spacing
	for _, ring := range [][]geo.XY{{{}, {X: 100}, {X: 100, Y: 60}, {Y: 60}}, {{}, {Y: 60}, {X: 100, Y: 60}, {X: 100}}} {
		b := Belt{TowardDeg: 300, Rows: 2, RowSpacingM: 2, SpacingM: 1.5, InsetM: 3, Stagger: true}
		got, err := b.Lay(Field{Rings: [][]geo.XY{ring}})
		if err != nil || got.Rows != 2 {
			t.Fatalf("%d rows: %v", got.Rows, err)
		}
		var all []geo.XY
		got.Each(func(p geo.XY, _ int, _ byte) {
			if d := p.X; math.Abs(d-3) > 1e-6 && math.Abs(d-5) > 1e-6 {
				t.Errorf("a tree stands %g m from the western side", d)
			}
			for _, q := range all {
				if math.Hypot(p.X-q.X, p.Y-q.Y) < 0.75-1e-9 {
					t.Errorf("trees at %v and %v", p, q)
				}
			}
			all = append(all, p)
		})
	}
	if (Belt{Rows: 2, RowSpacingM: 2.5, InsetM: 3}).DepthM() != 5.5 {
		t.Error("depth of a belt")
	}
	for _, b := range []Belt{{}, {Rows: 2, SpacingM: 1}, {Rows: 1, SpacingM: 1, InsetM: -1}, {Rows: 1, SpacingM: math.NaN()}, {Rows: 1, SpacingM: 1,
		TowardDeg: 1000}} {
		if _, err := b.Lay(box(10, 10)); err == nil {
			t.Errorf("%+v is planted", b)
		}
	}
}

// No station stands inside a headland, an obstacle or what is kept free round it; one that goes takes nothing else away.
func TestHeadlandsAndObstacles(t *testing.T) {
	f := box(120, 80)
	f.Headlands = []Headland{{TowardDeg: 90, WidthM: 12}, {TowardDeg: 270, WidthM: 0}}
	rock := Obstacle{Points: []geo.XY{{X: 40, Y: 40}}, FreeM: 6}
	wire := Obstacle{Points: []geo.XY{{X: 70, Y: -10}, {X: 80, Y: 50}, {X: 75, Y: 90}}, FreeM: 4}
	wet := Obstacle{Points: []geo.XY{{X: 10, Y: 10}, {X: 30, Y: 12}, {X: 20, Y: 30}}, Area: true, FreeM: 2}
	f.Obstacles = []Obstacle{rock, wire, wet}
	distance := func(p, a, b geo.XY) float64 {
		dx, dy := b.X-a.X, b.Y-a.Y
		k := 0.0
		if l := dx*dx + dy*dy; l > 0 {
			k = math.Max(0, math.Min(1, ((p.X-a.X)*dx+(p.Y-a.Y)*dy)/l))
		}
		return math.Hypot(p.X-a.X-k*dx, p.Y-a.Y-k*dy)
	}
	for _, s := range []Spec{{Pattern: Rectangle, RowSpacingM: 3, PlantSpacingM: 1, EdgeBandM: 4, BearingDeg: 17}, {Pattern: Square, PlantSpacingM: 2,
		EdgeBandM: 4, BearingDeg: 90},
		{Pattern: Twin, RowSpacingM: 5, TwinGapM: 0.8, GroupRows: 3, PlantSpacingM: 1, EdgeBandM: 4, Stagger: true}} {
		got, err := Place(f, s)
		if err != nil || got.Stations == 0 {
			t.Fatal(got.Stations, err)
		}
		got.Each(func(p geo.XY, _ int, _ byte) {
			switch {
			case p.X > 108+1e-5 || p.X < -1e-5 || p.Y < 4-1e-5 || p.Y > 76+1e-5:
				t.Errorf("a station in a headland: %v", p)
			case distance(p, rock.Points[0], rock.Points[0]) < 6-1e-5:
				t.Errorf("a station on the rock: %v", p)
			case distance(p, wire.Points[0], wire.Points[1]) < 4-1e-5 || distance(p, wire.Points[1], wire.Points[2]) < 4-1e-5:
				t.Errorf("a station under the wire: %v", p)
			case geo.Inside(p, wet.Points):
				t.Errorf("a station in the wet spot: %v", p)
			}
		})
		// what an obstacle takes is what stood within it before: a lattice stays where it is
		if s.Pattern == Square {
			bare := f
			bare.Obstacles = nil
			all, err := Place(bare, s)
			if err != nil {
				t.Fatal(err)
			}
			n := 0
			all.Each(func(p geo.XY, _ int, _ byte) {
				if distance(p, rock.Points[0], rock.Points[0]) >= 6 && distance(p, wire.Points[0], wire.Points[1]) >= 4 && distance(p, wire.Points[1],
					wire.Points[2]) >= 4 && !geo.Inside(p, wet.Points) &&
					distance(p, wet.Points[0], wet.Points[1]) >= 2 && distance(p, wet.Points[1], wet.Points[2]) >= 2 && distance(p, wet.Points[2], wet.Points[0]) >= 2 {
					n++
				}
			})
			if n != got.Stations {
				t.Errorf("%d stations are left, %d of the lattice stand clear", got.Stations, n)
			}
		}
	}
}

// Triple rows and staggered rectangles: density by the closed form, and the neighbours where they should stand (method LAY-1).
func TestGroupsAndStagger(t *testing.T) {
	triple := Spec{Pattern: Twin, GroupRows: 3, TwinGapM: 0.5, RowSpacingM: 4, PlantSpacingM: 1}
	near(t, "triple row", triple.StationsPerHa(), 7500, 1e-9)
	got, err := Place(box(120, 100), triple)
	if err != nil || got.Rows != 90 {
		t.Errorf("%d rows on 120 m: %v", got.Rows, err)
	}
	st := Spec{Pattern: Rectangle, Stagger: true, RowSpacingM: 5, PlantSpacingM: 4, BearingDeg: 90}
	near(t, "staggered", st.StationsPerHa(), 500, 1e-9)
	got, err = Place(box(100, 100), st)
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range got.Pieces {
		want := 0.0
		if int(math.Round(p.FirstY/5))%2 != 0 {
			want = 2
		}
		near(t, "first of a row", math.Mod(p.FirstX+1e-9, 4), want, 1e-6)
	}
	for field, s := range map[string]Spec{"groupRows": {Pattern: Twin, GroupRows: 1, TwinGapM: 1, RowSpacingM: 4, PlantSpacingM: 1}, "twinGapM": {Pattern: Twin,
		GroupRows: 5, TwinGapM: 1, RowSpacingM: 4, PlantSpacingM: 1},
		"rowSpacingM": {Pattern: Rectangle, Stagger: true, PlantSpacingM: 4}} {
		var fe *finding.FieldError
		if _, err := Place(box(10, 10), s); !errors.As(err, &fe) || fe.Field != field {
			t.Errorf("%+v: %v", s, err)
		}
	}
	for _, a := range []Alley{{Strips: []Strip{{}}}, {Strips: []Strip{{WidthM: 2, Rows: []StripRow{{SpacingM: 1}}}}},
		{Strips: []Strip{{WidthM: 2, Rows: []StripRow{{SpacingM: 0, Of: []string{"a"}}}}}},
		{Strips: []Strip{{WidthM: 2, Rows: []StripRow{{AcrossM: at(3), SpacingM: 1, Of: []string{"a"}}}}}}, {Strips: []Strip{{WidthM: 59}, {WidthM: 59}}}} {
		if err := a.Valid(); err == nil {
			t.Errorf("%+v is laid", a)
		}
	}
}
