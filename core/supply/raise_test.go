package supply

import (
	"math"
	"testing"

	"slowroot/core/civil"
)

// The nursery chain of method S5, to the day: in the field on 1 June 2027, grafted by 1 February, bagged by 18 November,
// germinated between 24 and 29 October, sown between 4 and 17 October 2026.
func TestNurseryChain(t *testing.T) {
	got, err := Raise(civil.Must(2027, 6, 1), 1000, Ways[0].Stages)
	if err != nil {
		t.Fatal(err)
	}
	for i, want := range [][2]string{{"2026-10-04", "2026-10-17"}, {"2026-10-24", "2026-10-29"}, {"2026-11-18", "2026-11-18"}, {"2027-02-01", "2027-02-01"}} {
		if got[i].Safe.String() != want[0] || got[i].Hopeful.String() != want[1] {
			t.Errorf("%s: %s to %s, want %s to %s", got[i].Name, got[i].Safe, got[i].Hopeful, want[0], want[1])
		}
	}
	// 1000 / 0.85 = 1177, / 0.9 = 1308, / 0.9 = 1454, / 0.75 = 1939, each rounded up
	for i, want := range [][2]int{{1939, 1454}, {1454, 1308}, {1308, 1177}, {1177, 1000}} {
		if got[i].Begun != want[0] || got[i].Left != want[1] {
			t.Errorf("%s: %d begun, %d left, want %d and %d", got[i].Name, got[i].Begun, got[i].Left, want[0], want[1])
		}
	}
	if none, err := Raise(civil.Must(2027, 6, 1), 10, []Stage{{Name: "a", Least: 1, Most: 1, Loss: 0}}); err != nil || none[0].Begun != 10 {
		t.Errorf("%+v, %v", none, err)
	}
	for _, bad := range []Stage{{Name: "a", Least: 5, Most: 4, Loss: 0}, {Name: "a", Least: -1, Most: 4, Loss: 0}, {Name: "a", Least: 1, Most: 4000, Loss: 0}, {Name: "a", Least: 1, Most: 4, Loss: 1}, {Name: "a", Least: 1, Most: 4, Loss: -0.1}} {
		if _, err := Raise(civil.Must(2027, 6, 1), 10, []Stage{bad}); err == nil {
			t.Errorf("%+v is taken", bad)
		}
	}
	dead := []Stage{{Name: "a", Least: 1, Most: 1, Loss: 0.999}, {Name: "b", Least: 1, Most: 1, Loss: 0.999}, {Name: "c", Least: 1, Most: 1, Loss: 0.999}, {Name: "d", Least: 1, Most: 1, Loss: 0.999}}
	if got, err := Raise(civil.Must(2027, 6, 1), 100_000, dead); err == nil {
		t.Errorf("%+v is begun", got)
	}
	for _, w := range Ways {
		if r, err := Raise(civil.Must(2027, 6, 1), 100, w.Stages); err != nil || len(r) != len(w.Stages) || w.Source == "" {
			t.Errorf("%s: %v", w.ID, err)
		}
	}
}

// Trays, substrate and mother plants by hand: 1 939 seeds in trays of 128 fill 16 trays, 2 048 places of 0.05 L are 0.1024 m³; 1 939 cuttings
// at 30 from each come from 65 bushes.
func TestWhatRaisingTakes(t *testing.T) {
	s := Stage{Places: 128, Litres: 0.05}
	if got := s.Trays(1939); got != 16 {
		t.Errorf("%d trays", got)
	}
	if got := s.SubstrateM3(1939); math.Abs(got-0.1024) > 1e-12 {
		t.Errorf("%g m³", got)
	}
	if got := (Stage{}).Trays(1939); got != 0 {
		t.Errorf("%d trays where nothing is filled", got)
	}
	for _, c := range []struct {
		pieces int
		each   float64
		want   int
	}{{1939, 30, 65}, {60, 30, 2}, {61, 30, 3}, {10, 0, 0}, {3, 0.5, 6}} {
		if got := Mothers(c.pieces, c.each); got != c.want {
			t.Errorf("%d pieces at %g: %d mothers, want %d", c.pieces, c.each, got, c.want)
		}
	}
}
