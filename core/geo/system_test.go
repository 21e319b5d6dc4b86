package geo

import (
	"math"
	"testing"
)

// Golden values: python3 -c "import pyproj; print(pyproj.Transformer.from_crs(4326, 32760, always_xy=True).transform(176.2, -38.1))"
// and likewise for the others, PROJ 9; 2193 from EPSG:4167 and 26910 from EPSG:4269.
func TestSystemsAgreeWithPROJ(t *testing.T) {
	for _, c := range []struct {
		code     string
		lon, lat float64
		x, y     float64
	}{
		{"EPSG:32760", 176.2, -38.1, 429857.0726, 5782787.5103},
		{"32633", 12.5, 47.9, 313157.0573, 5308211.1549},
		{"EPSG:2193", 172.01, -38.02, 1513103.2022, 5791503.5041},
		{"epsg:26910", -121.7, 38.5, 613359.4469, 4262094.0714},
		{"EPSG:4326", 12.5, 47.9, 12.5, 47.9},
	} {
		s, err := SystemNamed(c.code)
		if err != nil {
			t.Fatal(err)
		}
		got := s.To(Point{c.lon, c.lat})
		if math.Hypot(got.X-c.x, got.Y-c.y) > 0.001 {
			t.Errorf("%s: %v, PROJ gives %g %g", c.code, got, c.x, c.y)
		}
		if back := s.From(got); math.Abs(back.Lon-c.lon) > 1e-9 || math.Abs(back.Lat-c.lat) > 1e-9 {
			t.Errorf("%s comes back as %v", c.code, back)
		}
	}
	for _, bad := range []string{"", "EPSG:0", "mercator", "32661", "99999"} {
		if _, err := SystemNamed(bad); err == nil {
			t.Errorf("%q is taken as a system", bad)
		}
	}
	if z := UTMAt(Point{172, -38}); z.Code != "EPSG:32759" {
		t.Errorf("172° E, 38° S lies in %s", z.Code)
	}
}
