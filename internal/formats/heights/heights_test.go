package heights

import (
	"errors"
	"math"
	"os"
	"strings"
	"testing"

	"slowroot/core/geo"
	"slowroot/internal/formats/table"
)

func system(t testing.TB, code string) geo.System {
	s, err := geo.SystemNamed(code)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func TestSpotsFromCSVAndGPX(t *testing.T) {
	h, err := Read(CSV, "Longitude;Latitude;Height\n172,001;-38,002;61,5\n172,002;-38,002;62\n", system(t, "EPSG:4326"))
	if err != nil || h.Count != 2 || h.Spots[0].At.Lon != 172.001 || h.Spots[0].Z != 61.5 {
		t.Errorf("%+v %v", h, err)
	}
	h, err = Read(CSV, "east,north,z\n1513103.2022,5791503.5041,80\n", system(t, "EPSG:2193"))
	if err != nil || math.Abs(h.Spots[0].At.Lon-172.01) > 1e-7 || math.Abs(h.Spots[0].At.Lat+38.02) > 1e-7 {
		t.Errorf("a grid of New Zealand: %+v %v", h.Spots, err)
	}
	h, err = Read(GPX, `<?xml version="1.0"?><gpx><wpt lat="-38.001" lon="172.002"><ele>64.2</ele></wpt><trk><trkseg>
	 <trkpt lat="-38.002" lon="172.003"><ele>65</ele></trkpt><trkpt lat="-38.003" lon="172.003"></trkpt></trkseg></trk></gpx>`, geo.System{})
	if err != nil || h.Count != 2 || h.CRS != "EPSG:4326" || h.Spots[1].Z != 65 {
		t.Errorf("%+v %v", h, err)
	}
}

// The grid of core/terrain's golden files, made with GDAL, comes back as written.
func TestGridReadsWhatGDALWrote(t *testing.T) {
	text, err := os.ReadFile("../../../core/terrain/testdata/hill.asc")
	if err != nil {
		t.Fatal(err)
	}
	g, err := Grid(string(text))
	if err != nil {
		t.Fatal(err)
	}
	again, err := Grid(string(WriteGrid(g, 6)))
	if err != nil || again.NX != g.NX || again.NY != g.NY || again.X0 != g.X0 || again.Cell != g.Cell {
		t.Fatalf("%+v %v", again, err)
	}
	for i := range g.Z {
		if math.Abs(g.Z[i]-again.Z[i]) > 1e-6 && !(math.IsNaN(g.Z[i]) && math.IsNaN(again.Z[i])) {
			t.Fatalf("cell %d: %g, %g", i, g.Z[i], again.Z[i])
		}
	}
	// the first value of the file is the north-west corner
	small, err := Grid("ncols 2\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 10\nNODATA_value -1\n1 2\n3 -1\n")
	if err != nil || small.At(0, 1) != 1 || small.At(1, 1) != 2 || small.At(0, 0) != 3 || !math.IsNaN(small.At(1, 0)) || small.X0 != 5 {
		t.Errorf("%+v %v", small, err)
	}
}

func TestRefusedHeightsNameTheLine(t *testing.T) {
	head := "ncols 2\nnrows 2\nxllcorner 500000\nyllcorner 5790000\ncellsize 10\n"
	for _, c := range []struct {
		name, kind, text, crs string
		line                  int
		say                   string
	}{
		{"words for a height", CSV, "lon,lat,z\n172,-38,60\n172,-38,high\n", "EPSG:4326", 3, "not a number"},
		{"fill position", CSV, "lon,lat,z\n0,0,60\n", "EPSG:4326", 2, "fill value"},
		{"metres called degrees", CSV, "x,y,z\n1513103,5791503,60\n", "EPSG:4326", 2, "not degrees"},
		{"no height column", CSV, "lon,lat\n172,-38\n", "EPSG:4326", 1, "position and height"},
		{"a mountain on the moon", CSV, "lon,lat,z\n172,-38,60000\n", "EPSG:4326", 2, "cannot be"},
		{"GPX cut short", GPX, "<gpx>\n<wpt lat=\"1\" lon=\"2\">\n<ele>5", "", 3, "not GPX"},
		{"GPX without heights", GPX, "<gpx>\n<wpt lat=\"1\" lon=\"2\"/>\n</gpx>", "", 0, "carries a height"},
		{"GPX of nonsense", GPX, "<gpx>\n<wpt lat=\"north\" lon=\"2\"/>\n</gpx>", "", 2, "not a number"},
		{"grid too short", ASC, head + "1 2\n3\n", "EPSG:32759", 7, "3 values where 2 × 2 = 4"},
		{"grid too long", ASC, head + "1 2\n3 4\n5\n", "EPSG:32759", 8, "more values"},
		{"grid without a corner", ASC, "ncols 2\nnrows 2\ncellsize 10\n1 2\n3 4\n", "EPSG:32759", 4, "xllcorner"},
		{"grid of words", ASC, head + "1 two\n3 4\n", "EPSG:32759", 6, "not a height"},
		{"huge grid", ASC, "ncols 90000\nnrows 90000\nxllcorner 0\nyllcorner 0\ncellsize 1\n1\n", "EPSG:32759", 6, "not a grid"},
		{"grid in another system", ASC, head + "1 2\n3 4\n", "EPSG:4326", 1, "not degrees"},
		{"grid of nothing", ASC, head + "NODATA_value 1\n1 1\n1 1\n", "EPSG:32759", 0, "no height at all"},
	} {
		s := geo.System{}
		if c.crs != "" {
			s = system(t, c.crs)
		}
		h, err := Read(c.kind, c.text, s)
		var r *table.Refused
		if !errors.As(err, &r) || r.Line != c.line || !strings.Contains(r.Reason, c.say) {
			t.Errorf("%s: %v", c.name, err)
		}
		if len(h.Spots) > 0 || h.Grid != nil {
			t.Errorf("%s: a refused file gave heights", c.name)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add(CSV, "lon,lat,z\n172,-38,60\n")
	f.Add(GPX, `<gpx><wpt lat="1" lon="2"><ele>3</ele></wpt></gpx>`)
	f.Add(ASC, "ncols 2\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 1\n1 2\n3 4\n")
	f.Fuzz(func(t *testing.T, kind, text string) {
		_ = Guess(text)
		for _, code := range []string{"EPSG:4326", "EPSG:32759"} {
			h, err := Read(kind, text, system(t, code))
			if err != nil && (len(h.Spots) > 0 || h.Grid != nil) {
				t.Fatal("a refused file gave heights")
			}
			for _, s := range h.Spots {
				if !(math.Abs(s.At.Lat) <= 90 && sane(s.Z)) {
					t.Fatalf("a height of %g at %v", s.Z, s.At)
				}
			}
		}
	})
}
