package practice

import (
	"fmt"
	"slices"

	"slowroot/core/schedule"
)

// Lateness is the share of a full crop that a planting on a day still bears: straight between the points, level before the
// first and after the last.
type Lateness struct {
	If     When         `yaml:"if" json:"if,omitempty"`
	Season string       `yaml:"season" json:"season"` // days are counted from its first day
	Points [][2]float64 `yaml:"points" json:"points"` // days after, share of the crop
	Warn   int          `yaml:"warn" json:"warn"`     // days from which it is a worry, not only good to know
	Origin string       `yaml:"origin" json:"origin"`
	Source string       `yaml:"source" json:"source"`
}

// Factor is the share of a full crop that a planting so many days after the season began still bears.
func (l Lateness) Factor(days float64) float64 {
	last := l.Points[0]
	for _, p := range l.Points {
		if days < p[0] {
			if p[0] == last[0] {
				return p[1]
			}
			return last[1] + (p[1]-last[1])*(days-last[0])/(p[0]-last[0])
		}
		last = p
	}
	return last[1]
}

func (l Lateness) check() error {
	switch {
	case !slices.Contains(schedule.Keys, l.Season) && !slices.Contains(schedule.RainKeys, l.Season):
		return fmt.Errorf("lateness: %q is not a season", l.Season)
	case len(l.Points) < 2:
		return fmt.Errorf("lateness: fewer than two points")
	case l.Origin == "":
		return fmt.Errorf("lateness: no origin")
	}
	for i, p := range l.Points {
		if !(p[1] >= 0 && p[1] <= 1) || !(p[0] >= -183 && p[0] <= 183) || i > 0 && p[0] <= l.Points[i-1][0] {
			return fmt.Errorf("lateness: point %g days, %g; days from −183 to 183 in order and a share from 0 to 1 are wanted", p[0], p[1])
		}
	}
	return nil
}

// LatenessOf is what a planting day costs for the choices; nil where practice knows nothing of it.
func (s *Sheet) LatenessOf(choice map[string]string) *Lateness {
	for i := range s.Lateness {
		if s.Lateness[i].If.Holds(choice) {
			return &s.Lateness[i]
		}
	}
	return nil
}
