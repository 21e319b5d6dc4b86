package climate

import (
	"math/rand/v2"
	"testing"

	"slowroot/core/civil"
)

// FAO, World Soil Resources Report 48, 1978: a month is wet when its rain is more than half of evapotranspiration. The
// normals are invented; the seasons follow by hand.
func TestRainsByBalance(t *testing.T) {
	et := [12]float64{120, 120, 120, 120, 120, 120, 120, 120, 120, 120, 120, 120}
	for _, c := range []struct {
		name string
		rain [12]float64
		want [][2]int // first and last day of the year
	}{
		{"one, June to October", [12]float64{5, 5, 10, 20, 40, 120, 220, 240, 180, 90, 20, 5}, [][2]int{{152, 304}}},
		{"one over New Year", [12]float64{200, 180, 120, 50, 10, 0, 0, 0, 10, 40, 90, 160}, [][2]int{{305, 90}}},
		{"two, the wetter first", [12]float64{30, 30, 90, 180, 130, 40, 20, 20, 40, 160, 210, 110}, [][2]int{{274, 365}, {60, 151}}},
		{"always wet", [12]float64{200, 200, 200, 200, 200, 200, 200, 200, 200, 200, 200, 200}, nil},
		{"never two months", [12]float64{0, 0, 90, 0, 0, 0, 0, 0, 0, 70, 0, 0}, nil},
	} {
		got := RainsByBalance(c.rain, et)
		if len(got) != len(c.want) {
			t.Errorf("%s: %+v", c.name, got)
			continue
		}
		for i := range got {
			if got[i].From != c.want[i][0] || got[i].To != c.want[i][1] {
				t.Errorf("%s: %+v, want %v", c.name, got[i], c.want[i])
			}
		}
	}
}

// Rains that begin about 20 June and end about 25 September, in ten years drawn from a seed: the record finds them within
// days, where the normals know only whole months; a record of three years moves nothing.
func TestRainsByRecord(t *testing.T) {
	draw := func(years int) *Series {
		r := rand.New(rand.NewPCG(7, 7))
		var days []Day
		for y := range years {
			begin, end := 171+r.IntN(9)-4, 268+r.IntN(9)-4
			for d := civil.Must(2010+y, 1, 1); d.Year() == 2010+y; d = d.AddDays(1) {
				day := Blank(d)
				day.Rain = 0
				if n := d.DayOfYear(); n >= begin && n <= end && (n-begin)%2 == 0 {
					day.Rain = 14
				}
				days = append(days, day)
			}
		}
		s := NewSeries(days)
		return &s
	}
	months := []RainSpan{{From: 152, To: 273}}
	got := RainsByRecord(draw(10), months)
	if len(got) != 1 || got[0].Years < 8 || got[0].From < 166 || got[0].From > 176 || got[0].To < 262 || got[0].To > 273 {
		t.Errorf("%+v", got)
	}
	if got := RainsByRecord(draw(3), months); got[0].From != 152 || got[0].Years != 0 {
		t.Errorf("three years say %+v", got)
	}
	if months[0].From != 152 {
		t.Error("the normals were changed")
	}
}
