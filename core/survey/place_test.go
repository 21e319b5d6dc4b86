package survey

import (
	"math"
	"testing"
)

// The same place in the forms people write it in. Forms: ISO 6709 (degrees, minutes, seconds), RFC 5870 (geo:), common practice.
func TestPlaceInEveryUsualForm(t *testing.T) {
	for _, text := range []string{
		"-38.21, 175.4", "−38.21, 175.40", "-38.21 175.4", "-38.21;175.4", "-38,21; 175,4", "-38,21 175,4", "38.21 S, 175.4 E", "38.21°S 175.4°E",
		"S38.21 E175.4", "S 38° 12.6' E 175° 24.0'", "38°12'36\"S, 175°24'00\"E", "38° 12′ 36″ S 175° 24′ 0″ E", "175.4 E, 38.21 S", "geo:-38.21,175.4",
		"geo:-38.21,175.4;u=10", "lat -38.21 lon 175.4", "lon: 175.4, lat: -38.21", "-38.21\t175.4", "-38 12 36, 175 24 0", "38 12 36 S 175 24 0 E",
		"latitude -38.21, longitude 175.4", "38,21° S, 175,4° E", "-38.21,175.4", "South 38.21 East 175.4",
	} {
		p, err := Place(text)
		if err != nil {
			t.Errorf("%q: %v", text, err)
			continue
		}
		if math.Abs(p.Lat+38.21) > 1e-9 || math.Abs(p.Lon-175.4) > 1e-9 {
			t.Errorf("%q is read as %v", text, p)
		}
	}
}

func TestPlaceRefused(t *testing.T) {
	for _, text := range []string{"", "the lower farm", "12", "175.4, -38.21", "-38.21, 275", "38 S, 40 N", "38° 72′ S, 175° E", "1 2 3 4 5 6 7 8", "NaN, 4"} {
		if p, err := Place(text); err == nil {
			t.Errorf("%q is read as %v", text, p)
		}
	}
}

func FuzzPlace(f *testing.F) {
	f.Add("38° 12′ 36″ S 175° 24′ 0″ E")
	f.Add("geo:1,2;;")
	f.Fuzz(func(t *testing.T, s string) {
		if p, err := Place(s); err == nil && !(math.Abs(p.Lat) <= 90 && math.Abs(p.Lon) <= 180) {
			t.Errorf("%q is read as %v", s, p)
		}
	})
}
