package boundaries

import (
	"archive/zip"
	"bytes"
	"fmt"
	"math"
	"strings"
	"testing"

	"slowroot/internal/formats/geojson"
)

// One field in every form it is kept in: 200 × 111 m at 38° S, within a tenth of a per cent of each other.
const (
	kml = `<?xml version="1.0"?><kml xmlns="http://www.opengis.net/kml/2.2"><Document><Folder><Placemark><name>Lower field</name><Polygon><outerBoundaryIs><LinearRing>
<coordinates>172,-38,0 172.002,-38,0 172.002,-37.999,0 172,-37.999,0 172,-38,0</coordinates></LinearRing></outerBoundaryIs></Polygon></Placemark>
<Placemark><name>Two parts</name><MultiGeometry><Polygon><outerBoundaryIs><LinearRing><coordinates>172.01,-38 172.012,-38 172.012,-37.999 172.01,-37.999 172.01,-38</coordinates></LinearRing></outerBoundaryIs></Polygon>
<LineString><coordinates>172.02,-38 172.022,-38 172.022,-37.999</coordinates></LineString></MultiGeometry></Placemark></Folder></Document></kml>`
	gpx = `<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><name>Lower field</name><trkseg><trkpt lat="-38" lon="172"/><trkpt lat="-38" lon="172.002"/><trkpt lat="-37.999" lon="172.002"/><trkpt lat="-37.999" lon="172"/><trkpt lat="-37.99999" lon="172"/></trkseg></trk></gpx>`
	csv = "name,latitude,longitude\nLower field,-38,172\nLower field,-38,172.002\nLower field,-37.999,172.002\nLower field,-37.999,172\n"
	wkd = "name;wkt\nLower field;\"POLYGON((172 -38, 172.002 -38, 172.002 -37.999, 172 -37.999, 172 -38))\"\n"
	raw = "-38, 172\n-38, 172.002\n-37.999, 172.002\n-37.999, 172\n"
	way = `<gpx><wpt lat="-38" lon="172"/><wpt lat="-38" lon="172.002"/><wpt lat="-37.999" lon="172.002"/><wpt lat="-37.999" lon="172"/></gpx>`
)

func zippedUp(t *testing.T, name, text string) []byte {
	t.Helper()
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, err := z.Create(name)
	if err == nil {
		_, err = w.Write([]byte(text))
	}
	if err == nil {
		err = z.Close()
	}
	if err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func TestOneFieldInEveryForm(t *testing.T) {
	const area = 19_490 // m², within 0.3 %: 0.002° × 0.001° at 38° S is 175.6 × 111.0 m
	for form, file := range map[string][]byte{"KML": []byte(kml), "KMZ": zippedUp(t, "doc.kml", kml), "GPX": []byte(gpx), "CSV": []byte(csv), "WKT": []byte(wkd), "points": []byte(raw), "waypoints": []byte(way),
		"GeoJSON": []byte(`{"type":"Polygon","coordinates":[[[172,-38],[172.002,-38],[172.002,-37.999],[172,-37.999],[172,-38]]]}`)} {
		list, err := Read(file)
		if err != nil || len(list) == 0 {
			t.Errorf("%s: %d outlines, %v", form, len(list), err)
			continue
		}
		c := list[0]
		if c.Problem != "" || math.Abs(c.AreaM2/area-1) > 0.003 {
			t.Errorf("%s: %.1f m², problem %q", form, c.AreaM2, c.Problem)
		}
		if named := form != "points" && form != "waypoints" && form != "GeoJSON"; named && c.Name != "Lower field" {
			t.Errorf("%s: the field is called %q", form, c.Name)
		}
	}
}

func TestPartsAndDoubts(t *testing.T) {
	list, err := Read([]byte(kml))
	if err != nil || len(list) != 3 {
		t.Fatalf("%d outlines of 3: %v", len(list), err)
	}
	if list[1].Name != "Two parts" || list[2].Name != "Two parts 2" || !strings.Contains(list[2].Doubt, "closes it") {
		t.Errorf("parts are %q and %q, doubt %q", list[1].Name, list[2].Name, list[2].Doubt)
	}
}

// A long track is thinned to its shape: 3 000 points round a circle of 200 m keep its area to a part in 200.
func TestLongTrackIsThinned(t *testing.T) {
	var b strings.Builder
	b.WriteString("<gpx><trk><trkseg>")
	for i := range 3000 {
		s, c := math.Sincos(float64(i) / 3000 * 2 * math.Pi)
		fmt.Fprintf(&b, `<trkpt lat="%.8f" lon="%.8f"/>`, -38+200*s/111_000, 172+200*c/87_600)
	}
	b.WriteString("</trkseg></trk></gpx>")
	list, err := Read([]byte(b.String()))
	if err != nil || len(list) != 1 || list[0].Problem != "" {
		t.Fatalf("%+v: %v", list, err)
	}
	if n := len(list[0].Boundary.Outer); n > 200 || math.Abs(list[0].AreaM2/(math.Pi*200*200)-1) > 0.005 {
		t.Errorf("%d points, %.0f m²", n, list[0].AreaM2)
	}
}

func TestFilesRefused(t *testing.T) {
	for name, file := range map[string][]byte{"empty": nil, "nothing in it": []byte("<kml></kml>"), "a page": []byte("<html><body/></html>"), "broken": []byte("<kml><Placemark>"), "prose": []byte("the lower field lies by the river"),
		"zip without KML": zippedUp(t, "readme.txt", "hello"), "broken zip": []byte("PK\x03\x04nonsense"), "a wrong place": []byte("lat,lon\n-38,172\nhere,there\n"), "large": make([]byte, geojson.MaxBytes+1)} {
		if list, err := Read(file); err == nil {
			t.Errorf("%s is read as %d outlines", name, len(list))
		}
	}
	list, err := Read([]byte("name,wkt\nA,LINESTRING(1 2\n"))
	if err != nil || len(list) != 1 || list[0].Problem == "" {
		t.Errorf("a line for an outline: %+v, %v", list, err)
	}
}

func FuzzRead(f *testing.F) {
	for _, s := range []string{kml, gpx, csv, wkd, raw, way} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, file []byte) {
		list, _ := Read(file)
		for _, c := range list {
			if c.Problem == "" && !(c.AreaM2 > 0) {
				t.Errorf("%q has no area and no problem", c.Name)
			}
		}
	})
}
