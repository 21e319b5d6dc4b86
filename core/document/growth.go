package document

import "slowroot/core/units"

// Sorted is a class of what is cleared and where it goes.
type Sorted struct {
	Class string `json:"class"`
	Words string `json:"words"`
	Goes  string `json:"goes"`
	Why   string `json:"why"`
}

// sorting is where each class of cleared growth goes (common practice, no source); its quantities are marked.
var sorting = []Sorted{
	{"logs", "logs over {10 cm}", "along the contour and the edges, across the slope", "slow to rot; they hold soil for years"},
	{"thick", "branches of {3 to 10 cm}", "to the alleys and paths", "cover to walk on; in the beds they are in the way"},
	{"fine", "twigs, leaves and grass under {3 cm}", "left lying until a day or two before planting, then over the beds {5 to 10 cm} deep",
		"covers and feeds; never on paths"},
	{"thorns", "thorny matter", "to a pile of its own outside the rows, left to rot under a climbing legume", "it injures people and tyres"},
	{"vines", "vines and seeding weeds", "dried on a pile, never on the beds", "they grow again"},
}

// Sorting is where each class of cleared growth goes, in a reader's units.
func Sorting(sys units.System) []Sorted {
	out := make([]Sorted, len(sorting))
	for i, s := range sorting {
		s.Words, s.Goes = units.Marked(s.Words, sys), units.Marked(s.Goes, sys)
		out[i] = s
	}
	return out
}

func sortedTo(class string, sys units.System) (Sorted, bool) {
	for _, s := range Sorting(sys) {
		if s.Class == class {
			return s, true
		}
	}
	return Sorted{}, false
}
