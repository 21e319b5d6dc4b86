package plan

import (
	"slices"
	"strconv"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// Of every crop and every way, in the north and where it rains once: the day of what something follows is noted three weeks after it was to be, and
// every feed, harvest and job that follows it lies so many days after that day, as the sheet says; a flowering noted moves
// its picks as far as it lies from the middle of its season. Nothing else that year is moved.
func TestWhatIsNotedMovesWhatFollows(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	asked := map[string]int{}
	for _, s := range l.Whole() {
		for _, f := range s.AllForks() {
			for _, o := range f.Options {
				for _, name := range []string{"north", "one rain"} {
					place := places[name]
					in := input(t, "hazelnut")
					in.Estate.Seasons, in.Estate.Rains = schedule.Temperate(place.south), place.rains
					in.Sheet = s
					in.Block.Planting = &document.Planting{Sheet: s.ID, Choices: map[string]document.Choice{f.ID: {Option: o.ID}}}
					Complete(&in.Block, in.Estate, l.Get, in.Today)
					asked[s.ID] += noted(t, s.ID+" "+f.ID+"="+o.ID+", "+name, in)
				}
			}
		}
	}
	for _, id := range []string{"apple", "pear", "peach", "persimmon", "citrus", "avocado", "sapota", "guava", "blueberry", "elderberry", "blackberry",
		"strawberry", "cactus-pear", "coffee", "mulberry", "palmarosa", "pineapple"} {
		if asked[id] < 4 {
			t.Errorf("%s: %d things that follow something were asked about", id, asked[id])
		}
	}
}

// noted notes each event of the latest year but one that something follows, and counts what was asked about.
func noted(t *testing.T, what string, in Input) (asked int) {
	t.Helper()
	p := compute(t, in)
	sheet := in.Sheet.InRains(len(in.Estate.Rains))
	age := min(len(p.Years)-1, max(8, sheet.Curve(p.Choices).Begins()+2))
	if age < 1 {
		age = 1
	}
	follows := map[string]*civil.Follows{} // by the id of what follows
	for i, x := range sheet.Programme(p.Choices).Splits {
		follows["feed-"+strconv.Itoa(i+1)] = x.Follows
	}
	h := sheet.Harvesting(p.Choices)
	for i, x := range h.Picks {
		follows["harvest-"+strconv.Itoa(i+1)] = x.Follows
	}
	for _, x := range sheet.Operations(p.Choices) {
		follows[x.ID] = x.Follows
	}
	events := map[string]bool{}
	for _, x := range follows {
		if x != nil {
			events[x.What] = true
		}
	}
	ids, _ := h.Flowerings()
	for _, id := range ids {
		events[id] = true
	}
	for event := range events {
		key := schedule.Key(event, age)
		if event == civil.Harvest {
			key = schedule.Key("harvest-"+strconv.Itoa(len(h.Picks)), age)
		}
		at := slices.IndexFunc(p.Jobs, func(j report.Job) bool { return j.Key == key })
		if at < 0 {
			continue
		}
		was := p.Jobs[at]
		on := was.From.AddDays(was.By.Sub(was.From)/2 + 21)
		in.Records = []record.Record{{ID: "noted", Planting: in.Block.Planting.ID, Kind: record.Done, Operation: key, Day: on}}
		in.Today = on
		q := compute(t, in)
		for _, j := range q.Jobs {
			id, _, _ := strings.Cut(j.Key, "@")
			before := slices.IndexFunc(p.Jobs, func(x report.Job) bool { return x.Key == j.Key })
			if before < 0 || j.Key == key || j.Preparation {
				continue
			}
			old := p.Jobs[before]
			switch f := follows[id]; {
			case f != nil && f.What == event && abs(old.From.Sub(on)) <= 150:
				if j.From != on.AddDays(f.Days[0]) || j.By != on.AddDays(f.Days[1]) {
					t.Errorf("%s: %s noted on %s, %s is from %s to %s, %v days after are wanted", what, key, on, j.Key, j.From, j.By, f.Days)
				}
				if !strings.Contains(j.Rule, on.Words()) {
					t.Errorf("%s: %s does not say what moved it: %s", what, j.Key, j.Rule)
				}
				asked++
			case strings.HasPrefix(id, "harvest-") && slices.Contains(ids, event) && j.From != old.From:
				if late := j.From.Sub(old.From); abs(late-21) > 1 || j.By.Sub(old.By) != late {
					t.Errorf("%s: bloom three weeks late, %s moved by %d days", what, j.Key, late)
				}
				asked++
			}
		}
	}
	return asked
}

func abs(n int) int { return max(n, -n) }
