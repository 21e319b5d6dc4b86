package layout

import (
	"encoding/json"
	"errors"
	"math"
	"os"
	"strings"
	"testing"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// Densities of method LAY-1, computed from the spacings.
func TestTheoreticalDensity(t *testing.T) {
	for _, c := range []struct {
		s    Spec
		want float64
	}{
		{Spec{Pattern: Square, PlantSpacingM: 10}, 100},
		{Spec{Pattern: Square, PlantSpacingM: 6}, 277.78},
		{Spec{Pattern: Rectangle, RowSpacingM: 6, PlantSpacingM: 5}, 333.33},
		{Spec{Pattern: Rectangle, RowSpacingM: 3.6576, PlantSpacingM: 1.2192}, 2242.47}, // 4 × 12 ft, 907.5 an acre
		{Spec{Pattern: Triangle, PlantSpacingM: 3}, 1283.00},
		{Spec{Pattern: Twin, RowSpacingM: 1.5, PlantSpacingM: 0.35, TwinGapM: 0.5}, 38095},
		{Spec{Pattern: Twin, RowSpacingM: 2.25, PlantSpacingM: 0.59, TwinGapM: 0.75}, 15066},        // willow twin row, printed
		{Spec{Pattern: Rectangle, RowSpacingM: 1.2, PlantSpacingM: 0.75}, 11111},                    // tea single hedge, printed
		{Spec{Pattern: Twin, RowSpacingM: 1.35 + 0.75, PlantSpacingM: 0.75, TwinGapM: 0.75}, 12698}, // tea double hedge, printed
	} {
		if got := c.s.StationsPerHa(); math.Abs(got-c.want)/c.want > 1e-4 {
			t.Errorf("%+v: %.2f/ha, want %.2f", c.s, got, c.want)
		}
		formula, sub := c.s.DensityFormula()
		if !strings.Contains(formula, "stations per ha") || sub == "" {
			t.Errorf("%s has no formula in words", c.s.Pattern)
		}
	}
}

// The rectangle of method LAY-3: (0,0)–(100,60) m, anchor (2,2), rows along x.
func TestRectangleByHand(t *testing.T) {
	rect := [][]geo.XY{{{X: 0, Y: 0}, {X: 100, Y: 0}, {X: 100, Y: 60}, {X: 0, Y: 60}}}
	for _, c := range []struct {
		name       string
		p, h       float64
		lattice    bool
		pat        Pattern
		pieces, st int
		metres     float64
	}{
		{"4×2, band 3, from row start", 2, 3, false, Rectangle, 13, 624, 1222},
		{"4×2, band 3, lattice", 2, 3, true, Rectangle, 13, 611, 1222},
		{"4×4, band 3, lattice", 4, 3, true, Rectangle, 13, 299, 1222},
		{"4×4, band 3, every other row shifted", 4, 3, true, Triangle, 13, 306, 1222},
		{"4×2, band 5, from row start", 2, 5, false, Rectangle, 13, 598, 1170},
	} {
		s := Spec{Pattern: c.pat, RowSpacingM: 4, PlantSpacingM: c.p, BearingDeg: 90, EdgeBandM: c.h}
		got, err := place(Field{Rings: rect}, s, c.lattice, geo.XY{X: 2, Y: 2})
		if err != nil {
			t.Fatal(err)
		}
		if len(got.Pieces) != c.pieces || got.Stations != c.st || math.Abs(got.RowMetres-c.metres) > 0.01 {
			t.Errorf("%s: %d pieces, %d stations, %.2f m; want %d, %d, %.0f", c.name, len(got.Pieces), got.Stations, got.RowMetres, c.pieces, c.st, c.metres)
		}
	}
}

type golden struct {
	Shape                                   string
	Outer                                   [][2]float64
	Holes                                   [][][2]float64
	Bearing, Row, Plant, Band, Setback, Gap float64
	Pattern                                 string
	Pieces, Stations                        int
	Metres                                  float64
	Obstacles                               []struct {
		Points [][2]float64
		Area   bool
		Free   float64
	}
	Headlands []struct{ Toward, Width float64 }
}

// field is what the case lays rows on, on a plane.
func (g golden) field() Field {
	pl := geo.LocalPlane(g.polygon())
	f := Field{Rings: g.polygon().PlaneRings(pl)}
	for _, o := range g.Obstacles {
		x := Obstacle{Area: o.Area, FreeM: o.Free}
		for _, p := range o.Points {
			x.Points = append(x.Points, pl.To(geo.Point{Lon: p[0], Lat: p[1]}))
		}
		f.Obstacles = append(f.Obstacles, x)
	}
	for _, h := range g.Headlands {
		f.Headlands = append(f.Headlands, Headland{TowardDeg: h.Toward, WidthM: h.Width})
	}
	return f
}

func (g golden) polygon() geo.Polygon {
	conv := func(c [][2]float64) (r geo.Ring) {
		for _, p := range c {
			r = append(r, geo.Point{Lon: p[0], Lat: p[1]})
		}
		return
	}
	p := geo.Polygon{Outer: conv(g.Outer)}
	for _, h := range g.Holes {
		p.Holes = append(p.Holes, conv(h))
	}
	return p
}

// Counts on six odd shapes, with obstacles cut out and headlands by side, against shapely (testdata/counts.py); the rows for P1, P2 and P3 are
// also printed in method LAY-3. Tolerance as there: stations ± max(2, 0.1 %), row metres ± 0.05 %.
func TestCountsAgainstShapely(t *testing.T) {
	raw, err := os.ReadFile("testdata/counts.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []golden
	if err := json.Unmarshal(raw, &cases); err != nil {
		t.Fatal(err)
	}
	if len(cases) < 21 {
		t.Fatalf("only %d golden cases", len(cases))
	}
	for _, c := range cases {
		field := c.field()
		rings := field.Rings
		s := Spec{Pattern: Pattern(c.Pattern), RowSpacingM: c.Row, PlantSpacingM: c.Plant, BearingDeg: c.Bearing,
			EdgeBandM: c.Band, RowEndSetbackM: c.Setback, TwinGapM: c.Gap}
		var got Placement
		if c.Pattern == "shifted" {
			s.Pattern = Triangle
			got, err = place(field, s, true, rings[0][0])
		} else {
			got, err = Place(field, s)
		}
		if err != nil {
			t.Fatal(err)
		}
		if len(got.Pieces) != c.Pieces || math.Abs(float64(got.Stations-c.Stations)) > math.Max(2, 0.001*float64(c.Stations)) ||
			math.Abs(got.RowMetres-c.Metres)/c.Metres > 5e-4 {
			t.Errorf("%s %s at %g°: %d pieces, %d stations, %.2f m; want %d, %d, %.2f", c.Shape, c.Pattern, c.Bearing,
				len(got.Pieces), got.Stations, got.RowMetres, c.Pieces, c.Stations, c.Metres)
		}
		if len(c.Headlands) == 0 { // a headland may be narrower than the band
			checkStations(t, c.Shape, rings, s, got)
		}
	}
}

// Every station really stands inside and keeps the band from every edge.
func checkStations(t *testing.T, name string, rings [][]geo.XY, s Spec, pl Placement) {
	t.Helper()
	n := 0
	for _, p := range pl.Pieces {
		for i := range p.Stations {
			at := geo.XY{X: p.FirstX + float64(i)*p.StepX, Y: p.FirstY + float64(i)*p.StepY}
			n++
			for _, r := range rings {
				for j := range r {
					if d := segDist(at, r[j], r[(j+1)%len(r)]); d < s.EdgeBandM-1e-4 {
						t.Fatalf("%s: station %d of row %d stands %.3f m from the boundary, band %.1f", name, i, p.Row, d, s.EdgeBandM)
					}
				}
			}
			if !geo.Inside(at, rings[0]) {
				t.Fatalf("%s: a station stands outside", name)
			}
		}
	}
	if n != pl.Stations {
		t.Fatalf("%s: pieces hold %d stations, total says %d", name, n, pl.Stations)
	}
}

func segDist(p, a, b geo.XY) float64 {
	l2 := (b.X-a.X)*(b.X-a.X) + (b.Y-a.Y)*(b.Y-a.Y)
	f := math.Max(0, math.Min(1, ((p.X-a.X)*(b.X-a.X)+(p.Y-a.Y)*(b.Y-a.Y))/l2))
	return math.Hypot(p.X-a.X-f*(b.X-a.X), p.Y-a.Y-f*(b.Y-a.Y))
}

// Method LAY-6: on a 30 × 30 lattice, every 3rd in every 3rd row is 100 pollinizers.
func TestPollinizersAndTemporaryTrees(t *testing.T) {
	sq := [][]geo.XY{{{X: 0, Y: 0}, {X: 150, Y: 0}, {X: 150, Y: 150}, {X: 0, Y: 150}}}
	s := Spec{Pattern: Square, PlantSpacingM: 5, EdgeBandM: 2, Pollinizer: Pollinizer{3, 3}, OffsetM: 2.5}
	got, err := place(Field{Rings: sq}, s.Normal(), true, geo.XY{X: 0, Y: 2.5})
	if err != nil || got.Stations != 900 || got.Pollinizers != 100 {
		t.Fatalf("%d stations, %d pollinizers, %v; want 900 and 100", got.Stations, got.Pollinizers, err)
	}
	s = Spec{Pattern: Rectangle, RowSpacingM: 6, PlantSpacingM: 3, EdgeBandM: 3, Pollinizer: Pollinizer{3, 3}, Temporary: true}
	got, err = Place(Field{Rings: sq}, s)
	if err != nil {
		t.Fatal(err)
	}
	stay := got.Stations - got.Temporary
	if r := float64(got.Pollinizers) / float64(stay); math.Abs(r-1.0/9) > 0.02 {
		t.Errorf("pollinizers are %.3f of the %d trees that stay, want a ninth", r, stay)
	}
	for _, p := range got.Pieces {
		for i := 1; i < len(p.Roles); i++ {
			if (p.Roles[i] == TemporaryRole) == (p.Roles[i-1] == TemporaryRole) {
				t.Fatalf("row %d does not alternate: %s", p.Row, p.Roles)
			}
		}
	}
}

func TestRefusedSpecs(t *testing.T) {
	ok := Spec{Pattern: Rectangle, RowSpacingM: 4, PlantSpacingM: 2}
	for field, change := range map[string]func(*Spec){
		"plantSpacingM":  func(s *Spec) { s.PlantSpacingM = 0 },
		"rowSpacingM":    func(s *Spec) { s.RowSpacingM = math.NaN() },
		"pattern":        func(s *Spec) { s.Pattern = "spiral" },
		"twinGapM":       func(s *Spec) { s.Pattern, s.TwinGapM = Twin, 4 },
		"edgeBandM":      func(s *Spec) { s.EdgeBandM = -1 },
		"rowEndSetbackM": func(s *Spec) { s.RowEndSetbackM = 1000 },
		"bearingDeg":     func(s *Spec) { s.BearingDeg = 1e9 },
		"offsetM":        func(s *Spec) { s.OffsetM = math.Inf(1) },
		"pollinizer":     func(s *Spec) { s.Pollinizer.EveryRow = -3 },
	} {
		s := ok
		change(&s)
		var fe *finding.FieldError
		if _, err := Place(Field{Rings: [][]geo.XY{{{}, {X: 9}, {Y: 9}}}}, s); !errors.As(err, &fe) || fe.Field != field {
			t.Errorf("%s: got %v", field, err)
		}
	}
	if _, err := Place(Field{Rings: [][]geo.XY{{{}, {X: 9000}, {X: 9000, Y: 9000}, {Y: 9000}}}}, Spec{Pattern: Square, PlantSpacingM: 0.1}); err == nil {
		t.Error("an absurd count was laid out")
	}
	swallowed, err := Place(Field{Rings: [][]geo.XY{{{}, {X: 20}, {X: 20, Y: 20}, {Y: 20}}}}, Spec{Pattern: Square, PlantSpacingM: 2, EdgeBandM: 15})
	if err != nil || swallowed.Stations != 0 {
		t.Errorf("a band wider than the block left %d stations, %v", swallowed.Stations, err)
	}
}

func BenchmarkPlace100000(b *testing.B) {
	sq := [][]geo.XY{{{X: 0, Y: 0}, {X: 300, Y: 20}, {X: 310, Y: 290}, {X: 150, Y: 200}, {X: 10, Y: 300}}}
	s := Spec{Pattern: Rectangle, RowSpacingM: 1.1, PlantSpacingM: 0.6, BearingDeg: 20, EdgeBandM: 2, Pollinizer: Pollinizer{3, 3}}
	for b.Loop() {
		p, err := Place(Field{Rings: sq}, s)
		if err != nil || p.Stations < 100000 {
			b.Fatal(p.Stations, err)
		}
	}
}

// Twin rows by hand: on 40 × 20 m, pairs 5 m apart and 1 m between the two rows of a pair, north to south rows from a
// corner; the pairs stand about x = 0, 5 … 40, so that one row of the first and of the last lies outside.
func TestTwinRowsByHand(t *testing.T) {
	rect := [][]geo.XY{{{X: 0, Y: 0}, {X: 40, Y: 0}, {X: 40, Y: 20}, {X: 0, Y: 20}}}
	s := Spec{Pattern: Twin, RowSpacingM: 5, PlantSpacingM: 2.5, TwinGapM: 1}
	got, err := Place(Field{Rings: rect}, s)
	if err != nil {
		t.Fatal(err)
	}
	want := []float64{0.5, 4.5, 5.5, 9.5, 10.5, 14.5, 15.5, 19.5, 20.5, 24.5, 25.5, 29.5, 30.5, 34.5, 35.5, 39.5}
	if got.Rows != len(want) || got.Stations != 9*len(want) || math.Abs(got.RowMetres-20*float64(len(want))) > 1e-9 {
		t.Fatalf("%d rows, %d stations, %.2f m", got.Rows, got.Stations, got.RowMetres)
	}
	for i, p := range got.Pieces {
		if math.Abs(p.FirstX-want[i]) > 1e-9 || math.Abs(p.FirstY) > 1e-9 || p.Row != i+1 || p.Station1 != 1 || math.Abs(p.StepY-2.5)+math.Abs(p.StepX) > 1e-9 {
			t.Errorf("row %d: %+v", i+1, p)
		}
	}
	// moved across by 2 m the first pair is whole, and the last as well
	s.OffsetM = 2
	if got, err = Place(Field{Rings: rect}, s); err != nil || got.Rows != 16 || math.Abs(got.Pieces[0].FirstX-1.5) > 1e-9 ||
		math.Abs(got.Pieces[15].FirstX-37.5) > 1e-9 {
		t.Errorf("%d rows from %.2f: %v", got.Rows, got.Pieces[0].FirstX, err)
	}
}

// A triangle's lattice from a corner in the middle of the ground: every other row is shifted by half a spacing, below the
// corner as above it, and stations stand P apart everywhere.
func TestTriangleOnBothSidesOfItsCorner(t *testing.T) {
	s := Spec{Pattern: Triangle, PlantSpacingM: 4, BearingDeg: 90}.Normal()
	ground := [][]geo.XY{{{X: -11, Y: -10}, {X: 13, Y: -10}, {X: 13, Y: 12}, {X: -11, Y: 12}}}
	got, err := place(Field{Rings: ground}, s, true, geo.XY{X: 1, Y: 1})
	if err != nil {
		t.Fatal(err)
	}
	rows := map[int]float64{}
	for _, p := range got.Pieces {
		j := int(math.Round((p.FirstY - 1) / s.RowSpacingM))
		rows[j] = math.Mod(math.Mod(p.FirstX-1, 4)+4, 4)
		if p.FirstX < -11-1e-9 || p.FirstX >= -11+4 || p.FirstX+4*float64(p.Stations-1) > 13+1e-9 || p.FirstX+4*float64(p.Stations) <= 13 {
			t.Errorf("row %d holds %d from %.2f", j, p.Stations, p.FirstX)
		}
	}
	for j, shift := range rows {
		if want := 2 * float64((j%2+2)%2); math.Min(math.Abs(shift-want), 4-math.Abs(shift-want)) > 1e-6 {
			t.Errorf("row %d is shifted by %.3f m, want %.0f", j, shift, want)
		}
	}
	if len(rows) != 7 {
		t.Errorf("%d rows", len(rows))
	}
	if f, n, _ := (comb{lattice: true}).stations(span{0.5, 1.5}, line{stepM: 4}, 0, 0); n != 0 {
		t.Errorf("%d stations from %.2f between two of the lattice", n, f)
	}
}

// Who stands where, written out: temporary trees take every second station, pollinizers are counted among the others.
func TestRolesWrittenOut(t *testing.T) {
	for _, c := range []struct {
		s            Spec
		row, station int
		want         string
	}{
		{Spec{}, 1, 1, ""},
		{Spec{Temporary: true}, 1, 1, "mtmtmtmt"},
		{Spec{Temporary: true}, 1, 2, "tmtmtmtm"},
		{Spec{Pollinizer: Pollinizer{EveryRow: 1, EveryPlant: 3}}, 1, 1, "mpmmpmmp"},
		{Spec{Pollinizer: Pollinizer{EveryRow: 1, EveryPlant: 3}}, 1, 3, "mmpmmpmm"},
		{Spec{Pollinizer: Pollinizer{EveryRow: 3, EveryPlant: 2}}, 1, 1, "mmmmmmmm"},
		{Spec{Pollinizer: Pollinizer{EveryRow: 3, EveryPlant: 2}}, 2, 1, "mpmpmpmp"},
		{Spec{Pollinizer: Pollinizer{EveryRow: 3, EveryPlant: 2}}, 5, 1, "mpmpmpmp"},
		{Spec{Temporary: true, Pollinizer: Pollinizer{EveryRow: 1, EveryPlant: 2}}, 1, 1, "mtptmtpt"},
	} {
		if got := roles(c.s, c.row, c.station, 8, c.row-1, c.station-1); got != c.want && !(c.want == "" && got == "") {
			t.Errorf("%+v, row %d from station %d: %s, want %s", c.s, c.row, c.station, got, c.want)
		}
	}
}

// A bearing is a line: turned by half a circle, or by many, it is the same.
func TestBearingsAreLines(t *testing.T) {
	for deg, want := range map[float64]float64{0: 0, 180: 0, 190: 10, -10: 170, 370: 10, -350: 10, 179: 179} {
		if got := (Spec{BearingDeg: deg}).Normal().BearingDeg; math.Abs(got-want) > 1e-9 {
			t.Errorf("%g° is laid at %g°, want %g°", deg, got, want)
		}
	}
}
