package plan

import (
	"fmt"
	"testing"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/soil"
)

// Two pits with a pan each: a reason given for one never silences the other, whatever place it has in the list.
func TestAReasonIsKeptForItsOwnPit(t *testing.T) {
	in := grounded(t, "tea")
	pan := func(name string) soil.Pit {
		return pit(name, func(l []soil.Layer) {
			l[1].TopCm, l[0].BottomCm = 30, 30
			l[1].BottomCm, l[2].TopCm = 45, 45
			l[1].Hardness, l[1].Structure = soil.Hard, soil.Platy
		})
	}
	in.Block.Pits = []soil.Pit{pan("Upper"), pan("Lower")}
	n := 0
	in.Block.Identify(func(kind string, _ int) string { n++; return fmt.Sprint(kind, n) })
	of := func(name string) finding.Finding {
		t.Helper()
		for _, f := range compute(t, in).Findings {
			if f.Rule == "soil.rip" && f.Subject == name {
				return f
			}
		}
		t.Fatalf("no pan is seen in %s", name)
		return finding.Finding{}
	}
	upper := of("Upper")
	in.Block.Planting.Accepted = map[string]string{upper.Key(): "seen to"}
	for range 2 {
		if u, l := of("Upper"), of("Lower"); u.Weight != finding.Know || l.Weight != finding.Watch {
			t.Errorf("upper %s, lower %s", u.Weight, l.Weight)
		}
		in.Block.Pits[0], in.Block.Pits[1] = in.Block.Pits[1], in.Block.Pits[0]
	}
}

// A copy of a pit gets an id of its own; what has one keeps it.
func TestIdsStay(t *testing.T) {
	b := document.Block{Found: document.Found{Pits: []soil.Pit{{ID: "a"}, {ID: "a"}, {}}}}
	n := 0
	b.Identify(func(string, int) string { n++; return fmt.Sprint("new", n) })
	if b.Pits[0].ID != "a" || b.Pits[1].ID != "new1" || b.Pits[2].ID != "new2" {
		t.Errorf("%+v", b.Pits)
	}
}

// A reason kept in form 1 for a place in a list is kept for the thing that stood there.
func TestReasonsOfForm1(t *testing.T) {
	b := document.Block{Found: document.Found{Pits: []soil.Pit{{Draft: true}, {Name: "x"}}, Keep: map[string]string{"soil.rip-0": "a", "works.late-lime": "b",
		"land.frost": "c", "schedule.done-late.lime": "d", "soil.rip-7": "e"}}}
	b.Named(nil)
	for key, why := range map[string]string{"soil.rip pit:pit2": "a", "works.late amendment:lime": "b", "land.frost": "c", "schedule.done-late job:lime": "d",
		"soil.rip-7": "e"} {
		if b.Keep[key] != why {
			t.Errorf("%q is kept for %q: %v", b.Keep[key], key, b.Keep)
		}
	}
}
