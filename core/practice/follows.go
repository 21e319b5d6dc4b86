package practice

import (
	"fmt"
	"slices"
	"strconv"

	"slowroot/core/civil"
	"slowroot/core/schedule"
)

// flowerings are the days somebody should note: when a crop stands in full bloom, every year it can bear fruit from. What
// follows from bloom is moved by the day that is recorded.
func (s *Sheet) flowerings(choice map[string]string) []schedule.Operation {
	from := s.Curve(choice).Begins()
	if from == 0 {
		return nil
	}
	ids, blooms := s.Harvesting(choice).Flowerings()
	out := make([]schedule.Operation, 0, len(ids))
	for i, b := range blooms {
		name := "Note the day of full bloom"
		if len(ids) > 1 {
			name += ", " + []string{"first", "second", "third"}[min(i, 2)] + " flowering"
		}
		early := 0
		if b.Days[1] > 300 {
			early = 1 // it flowers the year before its fruit is picked
		}
		out = append(out, schedule.Operation{ID: ids[i], Name: name, Phase: "care", Season: b.Season,
			Ages:   schedule.Ages{From: max(1, from-early)},
			Detail: "the day about half of the flowers are open",
			Why: fmt.Sprintf("the harvest follows %d to %d days later; what hangs on bloom moves with the day noted",
				b.Days[0], b.Days[1]), Origin: b.Origin})
	}
	return out
}

// checkFollows refuses what follows something that this sheet never does: neither an operation that comes back in a season,
// nor a flowering, nor a feed or a harvest of the year.
func (s *Sheet) checkFollows(fail func(string, ...any)) {
	known := map[string]bool{civil.Harvest: true}
	for _, o := range s.Work {
		known[o.ID] = len(o.Season) > 0
	}
	for _, h := range s.Harvests {
		ids, _ := h.Flowerings()
		for _, id := range ids {
			known[id] = true
		}
		for i := range max(len(h.Picks), len(h.Rains), len(h.TwoRains)) {
			known["harvest-"+strconv.Itoa(i+1)] = true
		}
	}
	for _, f := range s.Feeding {
		for i := range max(len(f.Splits), len(f.RainSplits), len(f.TwoRains)) {
			known["feed-"+strconv.Itoa(i+1)] = true
		}
	}
	follow := func(what string, f *civil.Follows) {
		if f != nil && !known[f.What] {
			fail("%s follows %q, which is no work in a season, flowering, feed or harvest of this sheet", what, f.What)
		}
	}
	for _, o := range s.Work {
		follow("operation "+o.ID, o.Follows)
	}
	for _, f := range s.Feeding {
		for _, p := range slices.Concat(f.Splits, f.RainSplits, f.TwoRains) {
			follow("feeding "+p.Name, p.Follows)
		}
	}
	for _, h := range s.Harvests {
		for _, p := range slices.Concat(h.Picks, h.Rains, h.TwoRains) {
			follow("harvest "+p.Name, p.Follows)
		}
	}
}

// checkEach reports what is wrong with each of a list by its own rules.
func checkEach[T interface{ check() error }](list []T, fail func(string, ...any)) {
	for _, x := range list {
		if err := x.check(); err != nil {
			fail("%v", err)
		}
	}
}
