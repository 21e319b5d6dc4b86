// Package order sorts lists of large entries.
package order

import "slices"

// Stable puts a list in order in place; what compares alike stays as it stood. Only places are moved while it is sorted, each
// entry once at the end: jobs of a plan are hundreds of bytes each, and there are hundreds of them.
func Stable[T any](list []T, compare func(a, b *T) int) {
	at := make([]int32, len(list))
	sorted := true
	for i := range at {
		at[i] = int32(i)
		sorted = sorted && (i == 0 || compare(&list[i-1], &list[i]) <= 0)
	}
	if sorted {
		return
	}
	slices.SortFunc(at, func(i, j int32) int {
		if c := compare(&list[i], &list[j]); c != 0 {
			return c
		}
		return int(i - j)
	})
	out := make([]T, len(list))
	for k, i := range at {
		out[k] = list[i]
	}
	copy(list, out)
}
