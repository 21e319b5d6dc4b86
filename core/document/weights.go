package document

import "slowroot/core/finding"

// Weights are what counts how much when bearings of the rows are weighed, each 0 to 1 (method LAY-4).
type Weights struct {
	Hours   float64  `json:"hours"`             // driving and turning
	Fall    float64  `json:"fall"`              // along the row
	Sun     float64  `json:"sun"`               // both sides lit alike
	Wind    float64  `json:"wind"`              // moderate wind along the rows dries the leaf
	Cold    float64  `json:"cold"`              // cold air leaves down the rows
	FromDeg *float64 `json:"fromDeg,omitempty"` // where the wind comes from; nil where it is not known
}

// UsualWeights are common practice, no source.
var UsualWeights = Weights{Hours: 0.5, Fall: 0.3, Sun: 0.2}

// Valid reports a weight that is none, weights that weigh nothing, and wind from nowhere.
func (w Weights) Valid() error {
	sum := 0.0
	for name, v := range map[string]float64{"hours": w.Hours, "fall": w.Fall, "sun": w.Sun, "wind": w.Wind, "cold": w.Cold} {
		if !(v >= 0 && v <= 1) {
			return finding.Bad("planting.layout.weigh."+name, v, "is not a weight", "0 to 1")
		}
		sum += v
	}
	if sum == 0 {
		return finding.Bad("planting.layout.weigh", 0, "weighs nothing", "one weight at least above 0")
	}
	if d := w.FromDeg; d != nil && !(*d >= 0 && *d < 360) {
		return finding.Bad("planting.layout.weigh.fromDeg", *d, "is no direction", "0 to 359")
	}
	return nil
}
