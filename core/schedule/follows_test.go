package schedule

import (
	"testing"

	"slowroot/core/civil"
)

// What is noted moves what follows it in the same year or the year beside it, and nothing half a year and more away.
func TestFollowed(t *testing.T) {
	f := &civil.Follows{What: "bloom", Days: [2]int{28, 42}}
	planned := civil.Must(2031, 6, 1)
	for _, c := range []struct {
		key  string
		day  civil.Date
		want bool
	}{
		{"bloom@4", civil.Must(2031, 5, 3), true}, {"bloom@3", civil.Must(2031, 5, 3), true}, {"bloom@5", civil.Must(2031, 5, 3), true},
		{"bloom@2", civil.Must(2031, 5, 3), false}, {"bloom@6", civil.Must(2031, 5, 3), false}, {"other@4", civil.Must(2031, 5, 3), false},
		{"bloom@4", planned.AddDays(-211), true}, {"bloom@4", planned.AddDays(-212), false}, // 183 days and the 28 it follows by
		{"bloom@4", planned.AddDays(211), true}, {"bloom@4", planned.AddDays(212), false},
	} {
		got := Calendar{Done: map[string]civil.Date{c.key: c.day}}.Followed(f, 4, planned)
		if (got == c.day) != c.want || !c.want && !got.IsZero() {
			t.Errorf("%s on %s: %s", c.key, c.day, got)
		}
	}
	if !(Calendar{}).Followed(nil, 1, planned).IsZero() {
		t.Error("what follows nothing is moved")
	}
	near := Calendar{Done: map[string]civil.Date{"bloom@3": civil.Must(2031, 1, 1), "bloom@4": civil.Must(2031, 5, 3)}}
	if got := near.Followed(f, 4, planned); got != civil.Must(2031, 5, 3) {
		t.Errorf("its own year counts first: %s", got)
	}
}

func TestFollowsRefuses(t *testing.T) {
	for _, f := range []civil.Follows{{}, {What: "x", Days: [2]int{-1, 2}}, {What: "x", Days: [2]int{3, 2}}, {What: "x", Days: [2]int{0, 367}}} {
		if f.Check() == nil {
			t.Errorf("%+v is accepted", f)
		}
	}
	if err := (civil.Follows{What: "x", Days: [2]int{0, 366}}).Check(); err != nil {
		t.Error(err)
	}
}

// A job in a season, one before planting and one after another, with the age year each falls in; the one that follows is
// moved by the day that was noted, in its year and in no other.
func TestJobsFallInTheirYears(t *testing.T) {
	ops := []Operation{
		{ID: "plant", Name: "Plant", Phase: "plant", After: Planting, Origin: "cp"},
		{ID: "order", Name: "Order", Phase: "order", Before: Planting, Better: Offset{14, "mo"}, Min: Offset{6, "mo"}, Origin: "cp"},
		{ID: "stake", Name: "Stake", Phase: "establish", After: "plant", Better: Offset{13, "mo"}, Origin: "cp"},
		{ID: "bloom", Name: "Bloom", Phase: "care", Season: []string{"late-spring"}, Ages: Ages{From: 2}, Origin: "cp"},
		{ID: "thin", Name: "Thin", Phase: "care", Season: []string{"early-summer"}, Ages: Ages{From: 2}, Follows: &civil.Follows{What: "bloom", Days: [2]int{28, 42}}, Origin: "cp"},
		{ID: "tie", Name: "Tie", Phase: "care", After: "bloom", Better: Offset{2, "wk"}, Repeat: &Repeat{Every: Offset{10, "d"}, Times: 2}, Origin: "cp"},
	}
	if err := Check(ops); err != nil {
		t.Fatal(err)
	}
	planted, noted := civil.Must(2027, 3, 15), civil.Must(2029, 5, 28)
	seasons, err := NewSeasons(Temperate(false))
	if err != nil {
		t.Fatal(err)
	}
	c := Calendar{Seasons: seasons, Planting: planted, Life: 4, Done: map[string]civil.Date{"bloom@3": noted}}
	at := map[string]Job{}
	for _, j := range Jobs(ops, c) {
		at[j.Key] = j
	}
	for key, want := range map[string]struct {
		from, by civil.Date
		age      int
	}{
		"plant":   {planted, planted, 1},
		"order":   {civil.Must(2026, 1, 15), civil.Must(2026, 9, 15), at["order"].Age},
		"stake":   {civil.Must(2028, 4, 15), civil.Must(2028, 4, 15), 2},
		"thin@2":  {civil.Must(2028, 6, 1), civil.Must(2028, 6, 30), 2},
		"thin@3":  {noted.AddDays(28), noted.AddDays(42), 3},
		"thin@4":  {civil.Must(2030, 6, 1), civil.Must(2030, 6, 30), 4},
		"tie@2.1": {civil.Must(2028, 5, 15), civil.Must(2028, 5, 15), 2}, "tie@2.2": {civil.Must(2028, 5, 25), civil.Must(2028, 5, 25), 2},
		"tie@3.1": {noted.AddDays(14), noted.AddDays(14), 3}, "tie@3.2": {noted.AddDays(24), noted.AddDays(24), 3},
	} {
		j, ok := at[key]
		if !ok || j.From != want.from || j.By != want.by || j.Age != want.age {
			t.Errorf("%s: %s to %s in age year %d, there %v; wanted %s to %s, %d", key, j.From, j.By, j.Age, ok, want.from, want.by, want.age)
		}
	}
	if a := at["order"].Age; a > 0 {
		t.Errorf("ordered in age year %d, before planting", a)
	}
	for _, bad := range []func(o []Operation){func(o []Operation) { o[4].Follows = &civil.Follows{What: "thin", Days: [2]int{1, 2}} },
		func(o []Operation) { o[4].Follows = &civil.Follows{What: "bloom", Days: [2]int{2, 1}} },
		func(o []Operation) { o[0].Follows = &civil.Follows{What: "bloom", Days: [2]int{1, 2}} }} {
		o := append([]Operation{}, ops...)
		bad(o)
		if Check(o) == nil {
			t.Error("an operation that cannot follow is accepted")
		}
	}
}

// Lengths of time in words and on the calendar, both ways.
func TestOffsets(t *testing.T) {
	day := civil.Must(2028, 3, 31)
	for text, want := range map[string]struct {
		words       string
		after, ante civil.Date
	}{
		"1 d": {"1 day", civil.Must(2028, 4, 1), civil.Must(2028, 3, 30)}, "2 d": {"2 days", civil.Must(2028, 4, 2), civil.Must(2028, 3, 29)},
		"3 wk": {"3 weeks", civil.Must(2028, 4, 21), civil.Must(2028, 3, 10)}, "1 mo": {"1 month", civil.Must(2028, 4, 30), civil.Must(2028, 2, 29)},
		"2 yr": {"2 years", civil.Must(2030, 3, 31), civil.Must(2026, 3, 31)},
	} {
		o, err := ParseOffset(text)
		if err != nil || o.Words() != want.words || o.From(day, 1) != want.after || o.From(day, -1) != want.ante {
			t.Errorf("%s: %s, %s, %s, %v", text, o.Words(), o.From(day, 1), o.From(day, -1), err)
		}
	}
	if (Offset{}).Words() != "no time" {
		t.Error("no time has words")
	}
}

// A rainy season over the turn of the year, on its first and last day and just outside.
func TestAround(t *testing.T) {
	r := Rain{From: "11-01", To: "03-15"}
	for day, want := range map[civil.Date]bool{civil.Must(2027, 11, 1): true, civil.Must(2028, 3, 15): true, civil.Must(2027, 10, 31): false, civil.Must(2028, 3, 16): false,
		civil.Must(2028, 1, 1): true, civil.Must(2028, 12, 31): true} {
		from, to, ok := r.Around(day)
		if ok != want || ok && (day.Before(from) || day.After(to) || from.Month() != 11 || to.Month() != 3 || to.Sub(from) < 130) {
			t.Errorf("%s: %s to %s, %v", day, from, to, ok)
		}
	}
	if _, _, ok := (Rain{From: "no", To: "03-15"}).Around(civil.Must(2028, 1, 1)); ok {
		t.Error("a season of no day holds a day")
	}
}
