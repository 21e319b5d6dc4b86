package plan

import (
	"testing"

	"slowroot/core/document"
	"slowroot/core/practice"
	"slowroot/core/record"
)

// Work that waits for something says for what; looked at and not so yet, it is looked at again after its while, never before its time and never
// over before then; done, it is done. Tested for every crop that has such work.
func TestWorkWaitsForWhatIsSeen(t *testing.T) {
	crops := 0
	for _, s := range library(t).Whole() {
		for _, l := range s.Layouts {
			in := input(t, s.ID)
			in.Block.Planting.Choices = map[string]document.Choice{practice.LayoutFork: {Option: l.ID}}
			tested := false
			for _, j := range compute(t, in).Jobs {
				if j.When == "" || j.Age > 3 {
					continue
				}
				tested = true
				late := in
				pl := *in.Block.Planting
				late.Block.Planting = &pl
				at := j.By.AddDays(-1)
				if at.Before(j.From) {
					at = j.From
				}
				late.Records = []record.Record{{ID: "l", Planting: pl.ID, Operation: j.Key, Kind: record.NotYet, Day: at}}
				var again, done int
				for _, k := range compute(t, late).Jobs {
					if k.Key == j.Key {
						again = k.From.Sub(at)
						if k.Looked != at || k.By.Before(k.From) || again <= 0 || again > 30 {
							t.Errorf("%s, %s: looked at on %s, again from %s to %s", s.Name, j.Name, at, k.From, k.By)
						}
					}
				}
				late.Records = append(late.Records, record.Record{ID: "d", Planting: pl.ID, Operation: j.Key, Kind: record.Done, Day: at.AddDays(3)})
				for _, k := range compute(t, late).Jobs {
					if k.Key == j.Key && k.Done == at.AddDays(3) && k.Looked.IsZero() {
						done++
					}
				}
				if again == 0 || done != 1 {
					t.Errorf("%s, %s: again in %d days, done %d times", s.Name, j.Name, again, done)
				}
				break
			}
			if tested {
				crops++
				break
			}
		}
	}
	if crops < 8 {
		t.Errorf("%d crops have work that waits for something", crops)
	}
}
