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

// WetKey is the factor a sheet's wet-soil class is judged by: the depth in cm at which waterlogging begins.
const WetKey = "wetnessCm"
