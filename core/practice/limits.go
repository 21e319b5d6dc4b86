package practice

import "math"

// IdealLow is the lower edge of the sheet's ideal span of a factor; NaN where it is open or nothing is said.
func (s *Sheet) IdealLow(key string) float64 { return s.idealEdge(key, 0) }

// IdealHigh is the upper edge of the sheet's ideal span of a factor; NaN where it is open or nothing is said.
func (s *Sheet) IdealHigh(key string) float64 { return s.idealEdge(key, 1) }

func (s *Sheet) idealEdge(key string, high int) float64 {
	for _, l := range s.Limits {
		if l.Key == key && l.Range != nil && l.Range.Ideal[high] != nil {
			return *l.Range.Ideal[high]
		}
	}
	return math.NaN()
}

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
