package drainage

import "math"

// Seen is what one pit saw of the layer that stops water.
type Seen struct {
	At     *XY     // where the pit stands on the plane; nil where nobody said
	DepthM float64 // of the layer, or of the bottom of a pit that saw none
	Stops  bool    // it saw one
}

// LayerBetween is how deep what stops the water lies anywhere: between pits that have a position by the inverse square of
// the distance (Shepard, Proc. 23rd ACM National Conference, 1968, power 2), one that saw none counting at its bottom;
// nowhere deeper than in a pit without a position. nil where no pit saw any.
func LayerBetween(pits []Seen) func(x, y float64) float64 {
	most, any := math.Inf(1), false
	var placed []Seen
	for _, s := range pits {
		any = any || s.Stops
		if s.At != nil {
			placed = append(placed, s)
		} else if s.Stops {
			most = math.Min(most, s.DepthM)
		}
	}
	if !any {
		return nil
	}
	return func(x, y float64) float64 {
		sum, weights := 0.0, 0.0
		for _, s := range placed {
			dx, dy := s.At[0]-x, s.At[1]-y
			w := 1 / (dx*dx + dy*dy + 1)
			sum, weights = sum+w*s.DepthM, weights+w
		}
		if weights == 0 {
			return most
		}
		return math.Min(most, sum/weights)
	}
}
