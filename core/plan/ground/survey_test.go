package ground

import (
	"math"
	"testing"

	"slowroot/core/geo"
)

// A projection drawn straight between its net is right to half a millimetre over cells of 10 m, metres or degrees, near
// the middle of a zone and at its edge.
func TestProjectionBetweenItsNet(t *testing.T) {
	for _, at := range []geo.Point{{Lon: 9.1, Lat: 47}, {Lon: 11.9, Lat: -44}, {Lon: 6.05, Lat: 1}} {
		plane := geo.PlaneAt(at)
		wgs, err := geo.SystemNamed("EPSG:4326")
		if err != nil {
			t.Fatal(err)
		}
		for _, sys := range []geo.System{geo.UTMAt(at), wgs} {
			exact := func(i, j int) geo.XY {
				return sys.To(plane.From(geo.XY{X: float64(i)*10 - 1100, Y: float64(j)*10 - 1100}))
			}
			n := newNet(221, 217, exact)
			metre, worst := 1.0, 0.0
			if sys.Degrees {
				metre = 111320
			}
			for j := range 217 {
				for i := range 221 {
					a, b := n.at(i, j), exact(i, j)
					worst = math.Max(worst, math.Hypot(a.X-b.X, a.Y-b.Y)*metre)
				}
			}
			if worst > 5e-4 {
				t.Errorf("%v, %s: %.2g m off", at, sys.Code, worst)
			}
		}
	}
}
