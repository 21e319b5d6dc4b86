package rotation

import (
	"strings"
	"testing"

	"slowroot/core/civil"
)

// What two crops hold by themselves (their sheets say it): one harmed by wilt for long, and one less.
var (
	berry = []Rule{{Kind: "wilt-host", LowMo: 60, HighMo: 96, Gas: true}, {Kind: "sod", LowMo: 12, HighMo: 36}, {Kind: "unknown", LowMo: 60, HighMo: 96}}
	fruit = []Rule{{Kind: "wilt-host", LowMo: 36, HighMo: 60}, {Kind: "unknown", LowMo: 60, HighMo: 96}}
)

// Method SITE-3: tomato cleared 1 September 2024 and a herbicide plant-back of 12 months from 1 March
// 2025 leave strawberry for 1 September 2029 to 2032.
func TestWaits(t *testing.T) {
	today := civil.Must(2026, 1, 1)
	uses := []Use{{Kind: "wilt-host", End: civil.Must(2024, 9, 1)}, {Kind: "herbicide", End: civil.Must(2025, 3, 1), Months: 12}}
	w, early, late, driver := Waits(uses, berry, today, Fumigation{})
	if len(w) != 2 || early != civil.Must(2029, 9, 1) || late != civil.Must(2032, 9, 1) || w[driver].Use.Kind != "wilt-host" {
		t.Errorf("%v %s %s %d", w, early, late, driver)
	}
	w, early, _, driver = Waits(uses, nil, today, Fumigation{})
	if len(w) != 1 || early != civil.Must(2026, 3, 1) || driver != 0 {
		t.Errorf("tea waits for the herbicide alone: %v %s", w, early)
	}
	if w, early, _, driver := Waits(nil, nil, today, Fumigation{}); len(w) != 0 || !early.IsZero() || driver != -1 {
		t.Error("nothing grew and yet it waits")
	}
	// still standing: counted from today
	w, early, _, _ = Waits([]Use{{Kind: "old-trees"}}, nil, today, Fumigation{})
	if !w[0].Open || early != civil.Must(2027, 1, 1) {
		t.Errorf("%+v", w)
	}
	// unknown is the worst host for those it harms
	_, persimmon, _, _ := Waits([]Use{{Kind: "unknown", End: today}}, fruit, today, Fumigation{})
	_, tea, _, _ := Waits([]Use{{Kind: "unknown", End: today}}, nil, today, Fumigation{})
	if !persimmon.After(tea) {
		t.Error("not knowing costs persimmon more than tea")
	}
}

func TestEveryKindHasWordsAndEveryRuleAKind(t *testing.T) {
	known := map[string]bool{}
	for _, k := range Kinds {
		if k.Words == "" || known[k.Kind] {
			t.Errorf("%s", k.Kind)
		}
		known[k.Kind] = true
	}
	for _, r := range Rules {
		if !known[r.Kind] || r.HighMo < r.LowMo || r.Why == "" || r.Shorten == "" {
			t.Errorf("%+v", r)
		}
	}
}

// Fumigation, chosen, ends a wait it is good for with its plant-back; done, it counts from its day. It does nothing to
// other waits, and never makes one longer.
func TestFumigationEndsAWait(t *testing.T) {
	today := civil.Must(2027, 3, 1)
	wilt := []Use{{Kind: "wilt-host", End: civil.Must(2026, 9, 1)}}
	if w, early, late, _ := Waits(wilt, berry, today, Fumigation{Taken: true}); early != today.AddDays(49) || late != today.AddDays(63) || !strings.Contains(w[0].Why, "fumigation") {
		t.Errorf("chosen: %v to %v, %+v", early, late, w)
	}
	if _, early, _, _ := Waits(wilt, berry, today, Fumigation{Taken: true, On: civil.Must(2027, 2, 10)}); early != civil.Must(2027, 3, 10) {
		t.Errorf("done: %v", early)
	}
	for _, c := range []struct {
		use Use
		own []Rule
	}{{Use{Kind: "sod", End: civil.Must(2026, 9, 1)}, berry}, {Use{Kind: "wilt-host", End: civil.Must(2026, 9, 1)}, fruit}, {Use{Kind: "wilt-host", End: civil.Must(2020, 1, 1)}, berry}} {
		_, plain, _, _ := Waits([]Use{c.use}, c.own, today, Fumigation{})
		if _, early, _, _ := Waits([]Use{c.use}, c.own, today, Fumigation{Taken: true}); early != plain {
			t.Errorf("%+v before %v: %v, without fumigation %v", c.use, c.own, early, plain)
		}
	}
}
