package practice

import (
	"slices"

	"slowroot/core/civil"
	"slowroot/core/schedule"
)

// Changes are what a kind of plant or a rootstock changes of its sheet where it is taken: wet feet, single limits of the
// ground and the climate, and how long ahead plants of it are ordered. Zero values change nothing.
type Changes struct {
	WetClass int             `yaml:"wetClass" json:"wetClass,omitempty"`
	Limits   []Limit         `yaml:"limits" json:"limits,omitempty"` // instead of the sheet's of the same factor
	Better   schedule.Offset `yaml:"orderBetter" json:"orderBetter,omitzero"`
	Least    schedule.Offset `yaml:"orderMin" json:"orderMin,omitzero"`
}

// OrderOp is the id of the operation that orders the plants.
const OrderOp = "order"

// On is the sheet as the kinds and stocks taken make it; chosen may be nil for the usual ones.
func (s *Sheet) On(chosen map[string]string) *Sheet {
	if s == nil || !s.kinds() {
		return s
	}
	var t *Sheet
	var choice map[string]string // settled once it is asked for
	for i := range s.Forks {
		f := &s.Forks[i]
		if !f.changes() {
			continue
		}
		for k := range f.Options {
			o := &f.Options[k]
			taken := o.Default
			if len(chosen) > 0 || len(f.If) > 0 {
				if choice == nil {
					choice = s.Resolve(chosen)
				}
				taken = o.ID == choice[f.ID] && f.If.Holds(choice)
			}
			if !taken || !o.Changes.any() {
				continue
			}
			if t == nil {
				copied := *s
				t = &copied
				t.Limits, t.Work = slices.Clone(s.Limits), slices.Clone(s.Work)
			}
			t.change(&o.Changes)
		}
	}
	if t == nil {
		return s
	}
	return t
}

// kinds reports a sheet with a fork that changes it.
func (s *Sheet) kinds() bool {
	for i := range s.Forks {
		if s.Forks[i].changes() {
			return true
		}
	}
	return false
}

// changes reports a fork of which a way changes the sheet.
func (f *Fork) changes() bool {
	for i := range f.Options {
		if f.Options[i].Changes.any() {
			return true
		}
	}
	return false
}

func (c *Changes) any() bool { return c.WetClass > 0 || len(c.Limits) > 0 || !c.Better.IsZero() }

// Touches are the factors of ground and climate the ways of a fork differ by.
func (f Fork) Touches() []string {
	var out []string
	for _, o := range f.Options {
		keys := []string{}
		if o.WetClass > 0 {
			keys = append(keys, WetKey)
		}
		for _, l := range o.Limits {
			keys = append(keys, l.Key)
		}
		for _, k := range keys {
			if !slices.Contains(out, k) {
				out = append(out, k)
			}
		}
	}
	return out
}

// change puts what a way changes in the place of what the sheet says; limits and work are its own copies.
func (s *Sheet) change(c *Changes) {
	if c.WetClass > 0 {
		s.Soil.WetClass = c.WetClass
	}
	for _, l := range c.Limits {
		if i := slices.IndexFunc(s.Limits, func(x Limit) bool { return x.Factor == l.Factor }); i >= 0 {
			s.Limits[i] = l
		}
	}
	for i := range s.Work {
		if o := &s.Work[i]; o.ID == OrderOp && !c.Better.IsZero() {
			o.Better, o.Min = c.Better, c.Least
		}
	}
}

// checkChanges refuses a change of what the sheet does not have, and numbers that cannot be.
func (s *Sheet) checkChanges(what string, c Changes, fail func(string, ...any)) {
	for _, l := range c.Limits {
		if !slices.ContainsFunc(s.Limits, func(x Limit) bool { return x.Factor == l.Factor && x.Key == l.Key }) {
			fail("%s changes the limit %q, which the sheet does not have", what, l.Factor)
		}
	}
	if c.WetClass < 0 || c.WetClass > 5 {
		fail("%s: wet class %d is not one of 1 to 5", what, c.WetClass)
	}
	ordered := slices.ContainsFunc(s.Work, func(o Operation) bool { return o.ID == OrderOp })
	day, some := civil.Must(2027, 1, 1), !c.Better.IsZero()
	if some == c.Least.IsZero() || c.Least.From(day, 1).After(c.Better.From(day, 1)) || some && !ordered {
		fail("%s: plants are ordered by a job of the sheet, the least lead not longer than the wanted one", what)
	}
}
