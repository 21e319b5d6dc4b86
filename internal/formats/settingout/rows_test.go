package settingout

import (
	"encoding/csv"
	"encoding/json"
	"flag"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/plan"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/rows"
)

var update = flag.Bool("update", false, "read the files with another program again and keep what it says")

// field is a plan of three rows of trees and one of a herb on 60 × 40 m at 38° S.
func field() *plan.Plan {
	origin := geo.Point{Lon: 172, Lat: -38}
	on := []geo.XY{{X: -30, Y: -20}, {X: 30, Y: -20}, {X: 30, Y: 20}, {X: -30, Y: 20}}
	g := ground.Result{Origin: origin, Plane: geo.PlaneAt(origin), On: [][]geo.XY{on}, Rings: [][][2]float64{{{-30, -20}, {30, -20}, {30, 20}, {-30, 20}}}}
	p := &plan.Plan{Name: "Low “Field”", CropName: "Hazelnut", Ground: g}
	for i := range 3 {
		p.Rows = append(p.Rows, layout.Piece{Row: i + 1, Station1: 1, FirstX: -28, FirstY: -16 + 8*float64(i), StepX: 4, Stations: 15, LengthM: 56})
	}
	p.Beside = []rows.Beside{{Name: "Herb", Rows: []layout.Piece{{Row: 1, Station1: 1, FirstX: -28, FirstY: -12, StepX: 0.5, Stations: 113, LengthM: 56}}}}
	return p
}

// Every peg lies as far along the base line and from it as it stands on the ground.
func TestRowEndsByTape(t *testing.T) {
	p := field()
	set := Rows(p)
	if math.Abs(set.Base.LengthM-60) > 1e-9 || math.Abs(set.Base.Bearing-90) > 1e-6 || set.Base.ThreeM != 9 {
		t.Errorf("base line %+v", set.Base)
	}
	rows, err := csv.NewReader(strings.NewReader(string(RowsCSV(p)))).ReadAll()
	if err != nil || len(rows) != 9 {
		t.Fatalf("%d lines: %v", len(rows), err)
	}
	pl := geo.PlaneAt(p.Ground.Origin)
	for _, r := range rows[1:] {
		num := func(i int) float64 { v, _ := strconv.ParseFloat(r[i], 64); return v }
		at := pl.To(geo.Point{Lon: num(4), Lat: num(5)})
		if math.Abs(num(9)-(at.X+30)) > 0.006 || math.Abs(num(10)-(at.Y+20)) > 0.006 {
			t.Errorf("%s stands %.2f, %.2f m from the corner, the tape says %s, %s", r[0], at.X+30, at.Y+20, r[9], r[10])
		}
	}
	if rows[1][0] != "R1-001" || rows[2][0] != "R1-015" || rows[7][0] != "A-1-001" || rows[8][0] != "A-1-113" {
		t.Errorf("pegs are called %s, %s, %s, %s", rows[1][0], rows[2][0], rows[7][0], rows[8][0])
	}
	// a field drawn the other way round has its rows on the same side of its base line
	q := field()
	on := q.Ground.On[0]
	q.Ground.On = [][]geo.XY{{on[3], on[2], on[1], on[0]}}
	for _, g := range Rows(q).Pegs {
		if g.OffsetM < 0 {
			t.Errorf("%s lies outside the block by its tape", g.ID)
		}
	}
}

// What another reader makes of the files, kept: ogrinfo -ro -al -q FILE, of Debian's gdal-bin 3.6.
func TestAnotherReaderOfTheRows(t *testing.T) {
	p := field()
	gpx, err := RowsGPX(p)
	if err != nil {
		t.Fatal(err)
	}
	gj, err := RowsGeoJSON(p)
	if err != nil {
		t.Fatal(err)
	}
	if !json.Valid(gj) {
		t.Error("the GeoJSON is none")
	}
	for name, text := range map[string][]byte{"rows.dxf": RowsDXF(p), "rows.gpx": gpx, "rows.geojson": gj} {
		file, golden := filepath.Join(t.TempDir(), name), filepath.Join("testdata", name+".txt")
		kept, err := os.ReadFile(golden)
		if err != nil && !*update {
			t.Fatal(err)
		}
		head, said, _ := strings.Cut(string(kept), "\n----\n")
		if !*update {
			if head != string(text) {
				t.Errorf("%s is written otherwise than the reader read it: run with -update where ogrinfo is", name)
			}
			if n, want := strings.Count(said, "LINESTRING"), map[string]int{"rows.dxf": 9, "rows.geojson": 5, "rows.gpx": 4}[name]; n != want {
				t.Errorf("the reader found %d lines in %s, want %d", n, name, want)
			}
			continue
		}
		if err := os.WriteFile(file, text, 0o600); err != nil {
			t.Fatal(err)
		}
		out, err := exec.Command("ogrinfo", "-ro", "-al", "-q", file).CombinedOutput()
		if err != nil {
			t.Fatalf("%v: %s", err, out)
		}
		if err := os.WriteFile(golden, []byte(string(text)+"\n----\n"+string(out)), 0o644); err != nil {
			t.Fatal(err)
		}
	}
}
