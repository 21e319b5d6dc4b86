package report

import "slowroot/core/units"

// Fork is a place where practice divides, each way with what it would mean for this block.
type Fork struct {
	ID       string `json:"id"`
	Question string `json:"question"`
	Step     string `json:"step"`
	Scope    string `json:"scope"` // planting, or block for what is decided about the ground
	Decided  bool   `json:"decided"`
	Locked   bool   `json:"locked"` // the layout of a standing planting can no longer be chosen
	By       string `json:"by"`
	On       string `json:"on"`
	Why      string `json:"why"`
	Ways     []Way  `json:"ways"`
}

// Way is one option with its consequences, computed for this block.
type Way struct {
	ID           string        `json:"id"`
	System       string        `json:"system,omitempty"` // the way of growing it belongs to, where a crop has several
	Name         string        `json:"name"`
	Sentence     string        `json:"sentence"`
	When         string        `json:"when"`
	Origin       string        `json:"origin"`
	Taken        bool          `json:"taken"` // chosen, or the default while nobody has chosen
	Consequences []Consequence `json:"consequences"`

	// Patch is what else taking it says of the planting, so that what was compared is what is taken; nil for nothing.
	Patch map[string]any `json:"patch,omitempty"`
}

// Consequence is one figure of a way. Differs marks those in which the ways of a fork are not alike: consequences are
// compared by their label, and by their text where it stands instead of the number.
type Consequence struct {
	Label    string         `json:"label"`
	Quantity units.Quantity `json:"quantity"`
	Value    float64        `json:"value"`
	Text     string         `json:"text,omitempty"`
	Differs  bool           `json:"differs"`
}

// MarkDifferences marks the consequences in which the ways are not alike.
func (f *Fork) MarkDifferences() {
	type said struct {
		value float64
		text  string
	}
	first, unlike := map[string]said{}, map[string]bool{}
	for _, w := range f.Ways {
		for _, c := range w.Consequences {
			s := said{c.Value, c.Text}
			if was, ok := first[c.Label]; !ok {
				first[c.Label] = s
			} else if was != s {
				unlike[c.Label] = true
			}
		}
	}
	for i := range f.Ways {
		for k := range f.Ways[i].Consequences {
			c := &f.Ways[i].Consequences[k]
			c.Differs = unlike[c.Label]
		}
	}
}
