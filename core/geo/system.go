package geo

import (
	"fmt"
	"strconv"
	"strings"

	"slowroot/core/finding"
)

// System is a coordinate system a file of heights may use, by its EPSG code: degrees, or a transverse
// Mercator grid. The zero System is none and is refused wherever one is asked for.
type System struct {
	Code    string  `json:"code"`
	Name    string  `json:"name"`
	Degrees bool    `json:"degrees"`
	Lon0    float64 `json:"lon0"`
	Scale   float64 `json:"scale"`
	EastM   float64 `json:"eastM"`
	NorthM  float64 `json:"northM"`
}

// SystemNamed finds a system: EPSG:4326 (longitude and latitude), the UTM zones of WGS 84 (32601–32660
// north, 32701–32760 south), of ETRS89 (25828–25838), NAD83 (26901–26923), GDA94 and GDA2020 (28346–28358,
// 7846–7858), and New Zealand's grid (2193). Datums within a metre of WGS 84 are taken as the same.
// Parameters: EPSG geodetic parameter dataset.
func SystemNamed(code string) (System, error) {
	n, err := strconv.Atoi(strings.TrimPrefix(strings.ToUpper(strings.TrimSpace(code)), "EPSG:"))
	utm := func(zone int, south bool, datum string) System {
		s := System{Code: fmt.Sprintf("EPSG:%d", n), Lon0: float64(zone*6 - 183), Scale: 0.9996, EastM: 500000, Name: fmt.Sprintf("%s, UTM zone %d", datum, zone)}
		if south {
			s.NorthM = 1e7
			s.Name += " south"
		} else {
			s.Name += " north"
		}
		return s
	}
	switch {
	case err != nil:
	case n == 4326:
		return System{Code: "EPSG:4326", Name: "longitude and latitude, WGS 84", Degrees: true}, nil
	case n >= 32601 && n <= 32660:
		return utm(n-32600, false, "WGS 84"), nil
	case n >= 32701 && n <= 32760:
		return utm(n-32700, true, "WGS 84"), nil
	case n >= 25828 && n <= 25838:
		return utm(n-25800, false, "ETRS89"), nil
	case n >= 26901 && n <= 26923:
		return utm(n-26900, false, "NAD83"), nil
	case n >= 28346 && n <= 28358:
		return utm(n-28300, true, "GDA94"), nil
	case n >= 7846 && n <= 7858:
		return utm(n-7800, true, "GDA2020"), nil
	case n == 2193:
		return System{Code: "EPSG:2193", Name: "New Zealand Transverse Mercator 2000", Lon0: 173, Scale: 0.9996, EastM: 1.6e6, NorthM: 1e7}, nil
	}
	return System{}, finding.Bad("crs", code, "is not a coordinate system known here", "EPSG:4326, a UTM zone such as EPSG:32760, or EPSG:2193")
}

// UTMAt is the UTM zone of WGS 84 that a point lies in, proposed where a file does not say.
func UTMAt(p Point) System {
	zone := min(60, max(1, int((p.Lon+180)/6)+1))
	code := 32600 + zone
	if p.Lat < 0 {
		code = 32700 + zone
	}
	s, _ := SystemNamed(strconv.Itoa(code))
	return s
}

// To is where a position lies in the system: metres east and north, or degrees.
func (s System) To(p Point) XY {
	if s.Degrees {
		return XY{p.Lon, p.Lat}
	}
	x, y := mercator(p.Lon-s.Lon0, p.Lat)
	return XY{s.EastM + s.Scale*x, s.NorthM + s.Scale*y}
}

// From is the inverse of To.
func (s System) From(q XY) Point {
	if s.Degrees {
		return Point{q.X, q.Y}
	}
	return PlaneAt(Point{Lon: s.Lon0}).From(XY{(q.X - s.EastM) / s.Scale, (q.Y - s.NorthM) / s.Scale})
}
