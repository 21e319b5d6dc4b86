package estate

import "testing"

// The demonstration grows what its ground and climate suit, as they are or with works.
func TestTheDemonstrationGrowsWhatSuits(t *testing.T) {
	s, docs := demoEstate(t)
	for name, d := range docs {
		if d.Block.Planting == nil {
			continue
		}
		fits, err := s.Fit(ctx, d.ID)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range fits {
			if f.Sheet == d.Block.Planting.Sheet && f.Verdict != "fit" && f.Verdict != "fit with works" {
				t.Errorf("%s: %s, %s", name, f.Verdict, f.Sentence)
			}
		}
	}
}
