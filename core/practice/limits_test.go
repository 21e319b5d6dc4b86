package practice

import (
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"
)

var figures = regexp.MustCompile(`\d+(?:\.\d+)?`)

// An edge a limit is judged by stands in its printed words, or the limit says that it is assumed.
func TestEdgesStandInTheWordsOrAreAssumed(t *testing.T) {
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	if n := len(l.All()); n != 24 {
		t.Fatalf("%d sheets, 24 crops are known", n)
	}
	assumed, judged := 0, 0
	for _, s := range l.All() {
		keyed := 0
		for _, limit := range s.Limits {
			if limit.Key != "" {
				keyed++
			}
			if limit.Range == nil {
				continue
			}
			judged++
			if limit.Assumed {
				assumed++
				continue
			}
			words := strings.NewReplacer("−", "-", "\u202f", "", "\u00a0", "").Replace(limit.Ideal + "; " + limit.Tolerated)
			words = regexp.MustCompile(`(\d) (\d{3})`).ReplaceAllString(words, "$1$2")
			for _, edge := range append(limit.Range.Ideal[:], limit.Range.Tolerated[:]...) {
				if edge == nil {
					continue
				}
				found := false
				for _, f := range figures.FindAllString(words, -1) {
					v, _ := strconv.ParseFloat(f, 64)
					found = found || math.Abs(v-math.Abs(*edge)) < 1e-9 || math.Abs(100*v-*edge) < 1e-9
				}
				if !found {
					t.Errorf("%s, %s is judged by %g, which its words do not hold: %s", s.ID, limit.Factor, *edge, words)
				}
			}
		}
		if keyed < 6 || s.Soil.WetClass == 0 || s.Soil.RootCm == 0 {
			t.Errorf("%s: %d factors to judge by, soil %+v", s.ID, keyed, s.Soil)
		}
		prep, tasks := 0, 0
		for _, o := range s.Work {
			if o.Before != "" {
				prep++
			}
			if o.Task != nil {
				tasks++
			}
		}
		if prep < 5 || tasks < 3 {
			t.Errorf("%s: %d preparations, %d with a task", s.ID, prep, tasks)
		}
	}
	if assumed == 0 || assumed > judged*6/10 {
		t.Errorf("%d of %d limits rest on an assumed edge", assumed, judged)
	}
}
