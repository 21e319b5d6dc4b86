package plan

import (
	"math"
	"testing"

	"slowroot/core/document"
	"slowroot/core/practice"
	"slowroot/core/schedule"
)

// What a picker brings in agrees with the days practice prints: {per hour of the sheet's product, hours a hectare or tonne}. Common practice;
// 8 hours to a day.
func TestPickingAgreesWithWhatIsPrinted(t *testing.T) {
	for _, c := range []struct {
		sheet, what string
		kg          float64 // of the product
		low, high   float64 // hours printed for it
	}{
		{"persimmon", "400 to 700 kg a day, 30 t", 30_000, 343, 600},
		{"hazelnut", "three passes of a machine, 4.5 to 10.5 h for 2.75 t", 2750, 4.5, 10.5},
		{"tea", "356 picker-days for 2 t of made tea at 25 kg of leaf", 2000, 2380, 3571},
		{"pineapple", "300 to 500 kg a day, 60 t", 60_000, 960, 1600},
		{"apple", "800 to 1 500 kg a day, 40 t", 40_000, 213, 400},
		{"citrus", "oranges 500 to 1 000 kg a day, 40 t", 40_000, 320, 640},
	} {
		s, _ := library(t).Get(c.sheet)
		r, ok := s.PickRate(s.Resolve(nil))
		if !ok {
			t.Errorf("%s: no rate", c.sheet)
			continue
		}
		if least, most := c.kg/r.High, c.kg/r.Low; math.Abs(least/c.low-1) > 0.06 || math.Abs(most/c.high-1) > 0.06 {
			t.Errorf("%s, %s: %.0f to %.0f h, printed %g to %g", c.sheet, c.what, least, most, c.low, c.high)
		}
	}
	hazel, _ := library(t).Get("hazelnut")
	if r, ok := hazel.PickRate(map[string]string{"form": "bush"}); !ok || r.Machine || math.Abs(2750/r.Low-550) > 1 || math.Abs(2750/r.High-314) > 3 {
		t.Errorf("2.75 t by hand at 40 to 70 kg a day take 314 to 550 h, got %+v", r)
	}
	coffee, _ := library(t).Get("coffee")
	if r, ok := coffee.PickRate(map[string]string{practice.LayoutFork: "square"}); !ok || math.Abs(1000/r.Base-585) > 10 {
		t.Errorf("1 t of green bean takes %.0f h, 585 are reckoned from the cherries", 1000/r.Base)
	}
	if _, ok := coffee.PickRate(map[string]string{practice.LayoutFork: "mother"}); ok {
		t.Error("cuttings are picked by the kilogram")
	}
}

// Hours follow the ground and the rounds in every crop, in every layout: what a sheet says a hectare, times the hectares, times the rounds; said
// hours stand; and a grown year holds some work whose hours are known.
func TestHoursFollowTheGround(t *testing.T) {
	lib := library(t)
	for _, s := range lib.Whole() {
		for _, l := range s.Layouts {
			in := input(t, s.ID)
			in.Block.Planting.Choices = map[string]document.Choice{practice.LayoutFork: {Option: l.ID}}
			p := compute(t, in)
			ops := map[string]*schedule.Hours{}
			for _, o := range s.Operations(p.Choices) {
				ops[o.ID] = o.Hours
			}
			ha := value(t, p, "rows.planted") / 1e4
			known := 0
			for _, j := range p.Jobs {
				h := ops[j.Operation]
				if len(j.Ways) == 1 || len(j.Ways) > 1 && j.Way != j.Ways[0] {
					t.Errorf("%s: %s is done by %q of %q", s.Name, j.Key, j.Way, j.Ways)
				}
				if h == nil {
					if j.Hours != nil && j.HoursBy == "" {
						t.Errorf("%s, %s: %s takes hours nobody says from where", s.Name, l.Name, j.Key)
					}
					continue
				}
				known++
				if j.Hours == nil || math.Abs(*j.Hours-h.Usual()*ha*float64(h.Times(j.From, j.By))) > 1e-6 || j.Machine != h.Machine {
					t.Errorf("%s, %s: %s takes %v by %q", s.Name, l.Name, j.Key, j.Hours, j.HoursBy)
				}
			}
			if known == 0 {
				t.Errorf("%s, %s: no work of its sheet has hours", s.Name, l.Name)
			}
		}
	}
	berry := input(t, "strawberry")
	berry.Block.Planting.Effort = map[string]document.Effort{"plant": {Way: "a crew behind a wheel"}}
	hand, wheel := 0.0, 0.0
	for _, p := range []*Plan{compute(t, input(t, "strawberry")), compute(t, berry)} {
		for _, j := range p.Jobs {
			if j.Key == "plant" {
				hand, wheel = wheel, *j.Hours
				if j.Way == "" || len(j.Ways) != 2 {
					t.Errorf("planting is done by %q of %q", j.Way, j.Ways)
				}
			}
		}
	}
	if math.Abs(hand/wheel-159/37.5) > 1e-6 {
		t.Errorf("planting takes %g h by hand, %g behind a wheel", hand, wheel)
	}
	in := input(t, "apple")
	said := 7.0
	in.Block.Planting.Effort = map[string]document.Effort{"winter-prune": {Hours: &said}}
	for _, j := range compute(t, in).Jobs {
		if j.Operation == "winter-prune" && (j.Hours == nil || *j.Hours != 7 || j.HoursBy != "said") {
			t.Errorf("7 hours said, %v by %s", j.Hours, j.HoursBy)
		}
	}
}
