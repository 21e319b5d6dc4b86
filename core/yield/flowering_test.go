package yield

import (
	"slices"
	"testing"

	"slowroot/core/civil"
)

// A harvest knows its flowerings, each once, and which of them a pick comes from; what has no days, no season, no origin or
// follows nothing is refused.
func TestFlowerings(t *testing.T) {
	spring := &Bloom{Season: []string{"mid-spring"}, Days: [2]int{100, 120}, Origin: "cp"}
	autumn := &Bloom{Season: []string{"early-autumn", "mid-autumn"}, Days: [2]int{150, 180}, Origin: "cp"}
	again := &Bloom{Season: []string{"early-autumn", "mid-autumn"}, Days: [2]int{150, 180}, Origin: "cp"}
	h := Harvest{Origin: "cp", Bloom: spring, Picks: []Pick{{Name: "a", Season: []string{"late-summer"}, Share: 0.5}, {Name: "b", Season: []string{"late-winter"}, Share: 0.3, Bloom: autumn},
		{Name: "c", Season: []string{"late-winter"}, Share: 0.2, Bloom: again}}}
	ids, blooms := h.Flowerings()
	if !slices.Equal(ids, []string{"flowering", "flowering-2"}) || blooms[0].Days[0] != 100 || blooms[1].Days[1] != 180 {
		t.Errorf("%v, %v", ids, blooms)
	}
	for i, want := range []string{"flowering", "flowering-2", "flowering-2"} {
		if id, b := h.FlowersFor(h.Picks[i]); id != want || len(b.Season) == 0 {
			t.Errorf("pick %s comes from %q, wanted %q", h.Picks[i].Name, id, want)
		}
	}
	if id, _ := (Harvest{Picks: h.Picks[:1]}).FlowersFor(h.Picks[0]); id != "" {
		t.Errorf("of no flowering, yet %q", id)
	}
	if err := h.Check(); err != nil {
		t.Error(err)
	}
	for name, b := range map[string]Bloom{"no season": {Days: [2]int{1, 2}, Origin: "cp"}, "three seasons": {Season: []string{"a", "b", "c"}, Days: [2]int{1, 2}, Origin: "cp"},
		"no days": {Season: []string{"a"}, Origin: "cp"}, "days backwards": {Season: []string{"a"}, Days: [2]int{9, 8}, Origin: "cp"},
		"two years": {Season: []string{"a"}, Days: [2]int{9, 701}, Origin: "cp"}, "no origin": {Season: []string{"a"}, Days: [2]int{1, 2}}} {
		if (Harvest{Origin: "cp", Bloom: &b, Picks: []Pick{{Season: []string{"a"}, Share: 1}}}).Check() == nil {
			t.Errorf("a harvest of a bloom with %s is accepted", name)
		}
		if (Harvest{Origin: "cp", Picks: []Pick{{Season: []string{"a"}, Share: 1, Bloom: &b}}}).Check() == nil {
			t.Errorf("a pick of a bloom with %s is accepted", name)
		}
	}
	for _, p := range []Pick{{Season: []string{"a"}, Share: 1, Follows: &civil.Follows{What: "prune", Days: [2]int{9, 8}}},
		{Days: []int{1, 2}, Share: 1, Follows: &civil.Follows{What: "prune", Days: [2]int{8, 9}}}} {
		if (Harvest{Origin: "cp", Picks: []Pick{p}}).Check() == nil {
			t.Errorf("%+v is accepted", p)
		}
	}
	if err := (Harvest{Origin: "cp", Picks: []Pick{{Season: []string{"a"}, Share: 1, Follows: &civil.Follows{What: "prune", Days: [2]int{8, 9}}}}}).Check(); err != nil {
		t.Error(err)
	}
}

// The first year with a crop, and none.
func TestBegins(t *testing.T) {
	for want, f := range map[int][][2]float64{1: {{1, 0.2}, {2, 1}}, 4: {{3, 0}, {4, 0.1}, {5, 1}}, 0: {{1, 0}, {2, 0}}} {
		if got := (Curve{Fractions: f}).Begins(); got != want {
			t.Errorf("%v begins in year %d, wanted %d", f, got, want)
		}
	}
}
