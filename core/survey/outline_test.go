package survey

import (
	"math"
	"strings"
	"testing"

	"slowroot/core/geo"
)

var here = geo.Point{Lon: 175.4, Lat: -38.21}

func near(t *testing.T, what string, got, want, tol float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tol) {
		t.Errorf("%s is %g, want %g", what, got, want)
	}
}

func TestSizeIsTheFieldItSays(t *testing.T) {
	for _, bearing := range []float64{0, 17, 90, 233} {
		d, err := Draw(Outline{Way: BySize, At: here, LengthM: 240, WidthM: 85, BearingDeg: bearing})
		if err != nil {
			t.Fatal(err)
		}
		near(t, "area", d.AreaM2, 240*85, 0.05)
		near(t, "boundary", d.PerimeterM, 2*(240+85), 0.01)
		pl := geo.PlaneAt(here)
		end := pl.To(d.Boundary.Outer[1])
		near(t, "bearing", math.Mod(math.Atan2(end.X, end.Y)*180/math.Pi+360, 360), bearing, 1e-6)
	}
}

func TestAreaAloneIsMarked(t *testing.T) {
	d, err := Draw(Outline{Way: ByArea, At: here, AreaM2: 32_000})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "area", d.AreaM2, 32_000, 0.1)
	if d.Surveyed != AreaAlone || d.Words == "" {
		t.Errorf("an area alone is not marked: %+v", d)
	}
	near(t, "its middle", geo.DistanceM(here, geo.Point{Lon: geo.LocalPlane(d.Boundary).Lon0, Lat: geo.LocalPlane(d.Boundary).Lat0}), 0, 0.01)
}

// A traverse that closes exactly keeps its corners; one with an error spreads it by the compass rule: checked against the
// rule done by hand. Sides 100 m east, 50 m north, 100 m west, 50 m south, the last 47 m: closing error 3 m in 297 m.
func TestWalkedSidesCloseByTheCompassRule(t *testing.T) {
	d, err := Draw(Outline{Way: ByWalk, At: here, Text: "90 100\n0 50\n270 100\n180 50"})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "area", d.AreaM2, 5000, 0.01)
	near(t, "closing error", d.ClosingM, 0, 1e-9)
	d, err = Draw(Outline{Way: ByWalk, At: here, Text: "90 100\n0 50\n270 100\n180 47"})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "closing error", d.ClosingM, 3, 1e-9)
	near(t, "closing share", d.Closing, 3.0/297, 1e-9)
	pl := geo.PlaneAt(here)
	for i, want := range []geo.XY{{X: 0, Y: 0}, {X: 100, Y: -3 * 100.0 / 297}, {X: 100, Y: 50 - 3*150.0/297}, {X: 0, Y: 50 - 3*250.0/297}} {
		got := pl.To(d.Boundary.Outer[i])
		near(t, "corner east", got.X, want.X, 1e-6)
		near(t, "corner north", got.Y, want.Y, 1e-6)
	}
	if !strings.Contains(d.Words, "3.00 m") || !strings.Contains(d.Words, "1 in 99") {
		t.Errorf("the closing error is not said: %q", d.Words)
	}
}

func TestTapeAndPoints(t *testing.T) {
	d, err := Draw(Outline{Way: ByTape, At: here, Text: "0 0\n120,5 0\n120.5, 60\n0;60\n0 0"})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "area by tape", d.AreaM2, 120.5*60, 0.01)
	d, err = Draw(Outline{Way: ByPoints, Text: "-38.21, 175.40\n38.2100 S 175.4020 E\n-38.2112 175.4020\n# a note\n-38.2112 175.40\n-38.21, 175.40"})
	if err != nil {
		t.Fatal(err)
	}
	if len(d.Boundary.Outer) != 4 {
		t.Errorf("%d corners, want 4", len(d.Boundary.Outer))
	}
}

func TestOutlinesRefused(t *testing.T) {
	for _, o := range []Outline{
		{Way: "guess", At: here}, {Way: BySize, LengthM: 100, WidthM: 100}, {Way: BySize, At: here, LengthM: 100}, {Way: BySize, At: here, LengthM: math.NaN(),
			WidthM: 3},
		{Way: ByArea, At: here, AreaM2: 3}, {Way: ByArea, At: here, AreaM2: math.Inf(1)}, {Way: ByPoints, Text: "here\nthere\nnowhere"}, {Way: ByPoints},
		{Way: ByTape, At: here, Text: "0 0\n1 1"}, {Way: ByTape, At: here, Text: "0 0\n100 0\n0 100 5\n9 9"}, {Way: ByWalk, At: here, Text: "90 100\n0 50\n270 30"},
		{Way: ByWalk, At: here, Text: "90 100\n0 -50\n270 100"}, {Way: ByTape, At: here, Text: "0 0\n100 100\n100 0\n0 100"}, {Way: BySize, At: here, LengthM: 9,
			WidthM: 9, BearingDeg: 900},
	} {
		if d, err := Draw(o); err == nil {
			t.Errorf("%+v makes %+v", o, d)
		}
	}
}
