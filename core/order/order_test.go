package order

import (
	"math/rand/v2"
	"slices"
	"testing"
)

type entry struct{ key, was int }

// Against the stable sort of the standard library, on lists with many that are alike.
func TestStable(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for n := range 60 {
		a := make([]entry, n)
		for i := range a {
			a[i] = entry{r.IntN(7), i}
		}
		want := slices.Clone(a)
		slices.SortStableFunc(want, func(x, y entry) int { return x.key - y.key })
		Stable(a, func(x, y *entry) int { return x.key - y.key })
		if !slices.Equal(a, want) {
			t.Fatalf("%v, want %v", a, want)
		}
	}
}
