package practice

import (
	"slices"
	"strings"

	"slowroot/core/schedule"
)

// ByRains reports a sheet that says what its seasons are where a place lives by its rains.
func (s *Sheet) ByRains() bool { return len(s.Tropics) > 0 }

// InRains is the sheet with its seasons those of a place that lives by its rains: as each entry says, else as the sheet
// turns its own seasons. With two rainy seasons what may be planted at the onset of the rains may be at either.
func (s *Sheet) InRains(rains int) *Sheet {
	if rains == 0 || !s.ByRains() {
		return s
	}
	turn := func(season, said []string) []string {
		if len(said) > 0 || len(season) == 0 {
			return said
		}
		out := make([]string, len(season))
		for i, k := range season {
			out[i] = s.Tropics[k]
		}
		return out
	}
	t := *s
	t.Work = slices.Clone(s.Work)
	for i := range t.Work {
		o := &t.Work[i]
		o.Season = turn(o.Season, o.Rains)
		o.Within = o.Within.InRains(rains)
		if r := o.Repeat; r != nil && r.Until != "" {
			again := *r
			again.Until = turn([]string{r.Until}, nil)[0]
			o.Repeat = &again
		}
	}
	t.Lateness = slices.Clone(s.Lateness)
	for i := range t.Lateness {
		t.Lateness[i].Season = turn([]string{t.Lateness[i].Season}, nil)[0]
	}
	t.Windows = nil
	for _, w := range s.Windows {
		w.Season = turn(w.Season, w.Rains)
		if !slices.ContainsFunc(t.Windows, func(x schedule.PlantingWindow) bool { return slices.Equal(x.Season, w.Season) }) {
			t.Windows = append(t.Windows, w)
		}
		if rains == 2 && w.Season[0] == "onset-rains" {
			w.Season = []string{"second-onset", map[string]string{"onset-rains": "second-onset", "middle-rains": "second-middle"}[w.Season[len(w.Season)-1]]}
			if w.Season[1] == "" {
				w.Season[1] = "second-middle"
			}
			t.Windows = append(t.Windows, w)
		}
	}
	t.Feeding = slices.Clone(s.Feeding)
	for i := range t.Feeding {
		f := &t.Feeding[i]
		switch {
		case rains == 2 && len(f.TwoRains) > 0:
			f.Splits = f.TwoRains
		case len(f.RainSplits) > 0:
			f.Splits = f.RainSplits
		default:
			f.Splits = slices.Clone(f.Splits)
			for k := range f.Splits {
				f.Splits[k].Name = turnName(f.Splits[k].Name, f.Splits[k].Season, turn(f.Splits[k].Season, nil))
				f.Splits[k].Season = turn(f.Splits[k].Season, nil)
			}
		}
	}
	t.turnHarvests(rains, turn)
	return &t
}

// turnHarvests turns the seasons of bloom and picks.
func (s *Sheet) turnHarvests(rains int, turn func(season, said []string) []string) {
	s.Harvests = slices.Clone(s.Harvests)
	for i := range s.Harvests {
		h := &s.Harvests[i]
		if h.Bloom != nil {
			b := *h.Bloom
			b.Season = turn(b.Season, b.Rains)
			h.Bloom = &b
		}
		switch {
		case rains == 2 && len(h.TwoRains) > 0:
			h.Picks = h.TwoRains
		case len(h.Rains) > 0:
			h.Picks = h.Rains
		default:
			h.Picks = slices.Clone(h.Picks)
			for k := range h.Picks {
				h.Picks[k].Name = turnName(h.Picks[k].Name, h.Picks[k].Season, turn(h.Picks[k].Season, nil))
				h.Picks[k].Season = turn(h.Picks[k].Season, nil)
				if b := h.Picks[k].Bloom; b != nil {
					own := *b
					own.Season = turn(own.Season, own.Rains)
					h.Picks[k].Bloom = &own
				}
			}
		}
	}
}

// turnName is the name of a split or a pick that was called by its season, in the season it was turned to.
func turnName(name string, season, turned []string) string {
	plain := func(s string) string { return strings.ToLower(strings.NewReplacer("-", " ", "the ", "").Replace(s)) }
	if len(turned) == 0 || !slices.ContainsFunc(season, func(k string) bool { return plain(k) == plain(name) }) &&
		plain(schedule.SpanWords(season)) != plain(name) {
		return name
	}
	return schedule.SpanWords(turned)
}

// checkTropics refuses a sheet that turns some of its seasons and not all it speaks of.
func (s *Sheet) checkTropics(fail func(string, ...any)) {
	if len(s.Tropics) == 0 {
		return
	}
	for from, to := range s.Tropics {
		if !slices.Contains(schedule.Keys, from) || !slices.Contains(schedule.RainKeys, to) {
			fail("the season %q is turned into %q", from, to)
		}
	}
	need := func(what string, season, said []string) {
		for _, k := range said {
			if !slices.Contains(schedule.RainKeys, k) {
				fail("%s: %q is not a season of rains", what, k)
			}
		}
		for _, k := range season {
			if len(said) == 0 && s.Tropics[k] == "" {
				fail("%s: %q is not turned into a season of rains", what, k)
			}
		}
	}
	for _, o := range s.Work {
		need("operation "+o.ID, o.Season, o.Rains)
		if o.Within != nil {
			need("operation "+o.ID+", within", nil, o.Within.Rains)
		}
		if r := o.Repeat; r != nil && r.Until != "" {
			need("operation "+o.ID+", until", []string{r.Until}, nil)
		}
	}
	for _, l := range s.Lateness {
		need("lateness", []string{l.Season}, nil)
	}
	for _, w := range s.Windows {
		need("planting window", w.Season, w.Rains)
	}
	for _, f := range s.Feeding {
		for _, p := range f.Splits {
			need("feeding "+p.Name, p.Season, nil)
		}
		for _, p := range slices.Concat(f.RainSplits, f.TwoRains) {
			need("feeding in the rains, "+p.Name, nil, p.Season)
		}
	}
	for _, h := range s.Harvests {
		if h.Bloom != nil {
			need("bloom", h.Bloom.Season, h.Bloom.Rains)
		}
		for _, p := range h.Picks {
			need("harvest "+p.Name, p.Season, nil)
			if p.Bloom != nil {
				need("bloom of "+p.Name, p.Bloom.Season, p.Bloom.Rains)
			}
		}
		for _, p := range slices.Concat(h.Rains, h.TwoRains) {
			need("harvest in the rains, "+p.Name, nil, p.Season)
		}
	}
}
