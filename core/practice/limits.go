package practice

import (
	"math"
	"slices"

	"slowroot/core/soil"
)

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

// checkLimits refuses limits whose edges do not rise, of factors nobody knows, or two of one factor; those of kinds and stocks
// with them.
func (s *Sheet) checkLimits(fail func(string, ...any), origin func(what, o string)) {
	seen := map[string]bool{}
	for _, l := range s.Limits {
		if seen[l.Key] && l.Key != "" {
			fail("limit %s: key %q is used twice", l.Factor, l.Key)
		}
		seen[l.Key] = true
	}
	limits := slices.Clone(s.Limits)
	for _, f := range s.Forks {
		for _, o := range f.Options {
			limits = append(limits, o.Limits...)
		}
	}
	for _, l := range limits {
		origin("limit "+l.Factor, l.Origin)
		if l.Key == "" {
			continue
		}
		if _, ok := FactorOf(l.Key); !ok {
			fail("limit %s: key %q is unknown", l.Factor, l.Key)
		}
		if r := l.Range; r != nil {
			order := []*float64{r.Tolerated[0], r.Ideal[0], r.Ideal[1], r.Tolerated[1]}
			last := math.Inf(-1)
			for _, v := range order {
				if v != nil && *v < last {
					fail("limit %s: its edges do not rise", l.Factor)
				} else if v != nil {
					last = *v
				}
			}
		}
		if t := l.Textures; t != nil {
			for _, c := range append(append([]soil.Class{}, t.Ideal...), t.Tolerated...) {
				if !c.Known() {
					fail("limit %s: %q is not a texture class", l.Factor, c)
				}
			}
		}
	}
}
