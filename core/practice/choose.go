package practice

import (
	"slowroot/core/canopy"
	"slowroot/core/nutrition"
	"slowroot/core/schedule"
	"slowroot/core/yield"
)

// Knows tells whether an option is one of a fork's.
func (s *Sheet) Knows(fork, option string) bool {
	for _, f := range s.AllForks() {
		for _, o := range f.Options {
			if f.ID == fork && o.ID == option {
				return true
			}
		}
	}
	return false
}

// AllForks are the layout fork and then the sheet's own.
func (s *Sheet) AllForks() []Fork {
	f := Fork{ID: LayoutFork, Question: "How are the rows laid out?", Step: "rows"}
	for _, l := range s.Layouts {
		f.Options = append(f.Options, l.Option)
	}
	return append([]Fork{f}, s.Forks...)
}

// Resolve completes choices with each fork's default. chosen may be nil.
func (s *Sheet) Resolve(chosen map[string]string) map[string]string {
	out := make(map[string]string, len(s.Forks)+1)
	for _, f := range s.AllForks() {
		for _, o := range f.Options {
			if o.ID == chosen[f.ID] {
				out[f.ID] = o.ID
			}
		}
		if out[f.ID] == "" {
			for _, o := range f.Options {
				if o.Default {
					out[f.ID] = o.ID
				}
			}
		}
	}
	return out
}

// Layout is the layout with that id.
func (s *Sheet) Layout(id string) (Layout, bool) {
	for _, l := range s.Layouts {
		if l.ID == id {
			return l, true
		}
	}
	return Layout{}, false
}

// Stocked is a layout with the plants at a station that the ways taken at the other forks put there.
func (s *Sheet) Stocked(l Layout, choice map[string]string) Layout {
	for _, f := range s.Forks {
		for _, o := range f.Options {
			if o.PerStation > 0 && choice[f.ID] == o.ID && f.If.Holds(choice) {
				l.Each, l.EachName = o.PerStation, o.Called
			}
		}
	}
	return l
}

// LifeOf, ProductOf and CanopyOf are the life, the product and the spread of a layout: its own, else the sheet's.
func (s *Sheet) LifeOf(l Layout) Span {
	if l.Life != nil {
		return *l.Life
	}
	return s.Life
}

func (s *Sheet) ProductOf(l Layout) Product {
	if l.Product != nil {
		return *l.Product
	}
	return s.Product
}

// MaterialOf is what is planted in a layout: its own, else the sheet's.
func (s *Sheet) MaterialOf(l Layout) Material {
	if l.Material != nil {
		return *l.Material
	}
	return s.Material
}

func (s *Sheet) CanopyOf(l Layout) canopy.Growth {
	if l.Canopy != nil {
		return *l.Canopy
	}
	return s.Canopy
}

// Operations are those that hold for the choices.
func (s *Sheet) Operations(choice map[string]string) []schedule.Operation {
	out := make([]schedule.Operation, 0, len(s.Work))
	for _, o := range s.Work {
		if o.If.Holds(choice) {
			out = append(out, o.Operation)
		}
	}
	return append(append(out, s.looks()...), s.flowerings(choice)...)
}

// Curve, Programme and Harvesting are the first entry that holds for the choices; the validator
// makes sure there is exactly one for every combination.
func (s *Sheet) Curve(choice map[string]string) yield.Curve {
	for _, y := range s.Yields {
		if y.If.Holds(choice) {
			return y.Curve
		}
	}
	return yield.Curve{}
}

func (s *Sheet) Programme(choice map[string]string) nutrition.Programme {
	for _, f := range s.Feeding {
		if f.If.Holds(choice) {
			return f.Programme
		}
	}
	return nutrition.Programme{}
}

func (s *Sheet) Harvesting(choice map[string]string) yield.Harvest {
	for _, h := range s.Harvests {
		if h.If.Holds(choice) {
			return h.Harvest
		}
	}
	return yield.Harvest{}
}

// Removes is what leaves with the crop, nil where the sheet does not know.
func (s *Sheet) Removes(choice map[string]string) *nutrition.Removal {
	for _, r := range s.Removal {
		if r.If.Holds(choice) {
			return &r.Removal
		}
	}
	return nil
}

// Crop is the crop a sheet is of: its own id, or the id of the sheet it was copied from.
func (s *Sheet) Crop() string {
	if s.From != "" {
		return s.From
	}
	return s.ID
}
