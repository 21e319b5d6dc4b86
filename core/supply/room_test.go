package supply

import (
	"math"
	"testing"
)

// The worked examples of method H7.
func TestRoomOfAColdStore(t *testing.T) {
	near := func(what string, got, want float64) {
		t.Helper()
		if math.Abs(got-want) > 0.005 {
			t.Errorf("%s %.4f, want %.2f", what, got, want)
		}
	}
	canes := Room{Pieces: 27273, PerBin: 250, LengthM: 2, WidthM: 1, HeightM: 1, Stack: 2}.Space()
	if canes.Bins != 110 || canes.Positions != 55 {
		t.Errorf("%+v", canes)
	}
	bins := Room{Pieces: 164, PerBin: 1, LengthM: 1.2, WidthM: 1, HeightM: 0.75, Stack: 5}.Space()
	if bins.Positions != 33 {
		t.Errorf("%d positions", bins.Positions)
	}
	near("floor", bins.FloorM2, 60.92)
	near("volume", Room{Pieces: 60, PerBin: 1, LengthM: 1.2, WidthM: 1, HeightM: 0.75, Stack: 5}.Space().VolumeM3, 83.08)
	fruit := Room{Pieces: 20000, PerBin: 300, KgEach: 1, FromC: 22, ToC: 2, Hours: 20, WPerT: 60, LengthM: 1, WidthM: 1, HeightM: 1, Stack: 1}.Space()
	near("pull-down", fruit.PullKW, 21.11)
	near("respiration", fruit.BreatheKW, 1.2)
	near("cooling with walls and fans", fruit.CoolKW, 1.3*22.3111)
	if colder := (Room{Pieces: 10, KgEach: 1, FromC: -2, ToC: -0.5}).Space(); colder.PullKW != 0 || colder.Bins != 10 {
		t.Errorf("what comes in colder gives off heat: %+v", colder)
	}
}
