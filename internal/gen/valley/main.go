// Command valley makes up the demonstration's ground and weather: an invented valley as an ESRI ASCII grid
// and twelve years of days from the simulated station. go run ./internal/gen/valley writes both to demo/.
package main

import (
	"log"
	"math"
	"os"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/geo"
	"slowroot/core/terrain"
	"slowroot/internal/formats/heights"
	"slowroot/internal/standin"
)

// height is the made-up valley, metres above the sea at x east and y north of 172° E, 38° S: a brook in the
// south-west, a low ridge with a bank facing north, tea terraces beyond it, and a hill in the north-east
// whose foot is a shallow bowl.
func height(x, y float64) float64 {
	bell := func(d, w float64) float64 { return math.Exp(-d * d / (w * w)) }
	step := func(d, w float64) float64 { return 1 / (1 + math.Exp(-d/w)) }
	z := 58 + 0.022*(x+700) + 0.012*(y+600)
	z += 17 * bell(y+165, 120) * step(-x-215, 45)                      // the ridge and its bank
	z += 0.065 * math.Max(0, y-150) * step(-x-100, 60)                 // the terraces
	z += 7 * step(y-352, 10) * step(x+240, 30)                         // the terrace bank
	z += 26 * bell(x-520, 260) * bell(y-260, 330)                      // the hill
	z -= 7.4 * bell(x+70, 150) * bell(y+335, 75)                       // the bowl at the foot of the gate field
	z -= 6 * bell(y+520+0.15*x, 70)                                    // the brook
	z += 0.25*math.Sin(x/37)*math.Cos(y/29) + 0.12*math.Sin(x/11-y/17) // small unevenness
	return z
}

func main() {
	system, err := geo.SystemNamed("EPSG:32759")
	if err != nil {
		log.Fatal(err)
	}
	plane := geo.PlaneAt(geo.Point{Lon: 172, Lat: -38})
	mid := system.To(geo.Point{Lon: 172, Lat: -38})
	const cell, nx, ny = 15.0, 150, 150
	s, err := terrain.NewSurface(math.Round(mid.X/cell)*cell-1275, math.Round(mid.Y/cell)*cell-1110, cell, nx, ny)
	if err != nil {
		log.Fatal(err)
	}
	for j := range ny {
		for i := range nx {
			p := plane.To(system.From(geo.XY{X: s.X0 + float64(i)*cell, Y: s.Y0 + float64(j)*cell}))
			s.Z[j*nx+i] = height(p.X, p.Y)
		}
	}
	if err := os.WriteFile("demo/heights.asc", heights.WriteGrid(s, 2), 0o644); err != nil {
		log.Fatal(err)
	}
	st := standin.Station{Seed: 38172, South: true, Begins: civil.Must(2015, 1, 1), Today: civil.Must(2027, 3, 14), Faults: true}
	var kept []string
	for _, l := range strings.Split(st.CSV(st.Begins), "\n") {
		if !strings.Contains(l, "ERR") && !strings.Contains(l, "reboot") { // a file that was kept by a person
			kept = append(kept, l)
		}
	}
	if err := os.WriteFile("demo/weather.csv", []byte(strings.Join(kept, "\n")), 0o644); err != nil {
		log.Fatal(err)
	}
}
