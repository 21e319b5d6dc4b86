package report

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
)

// Recall is what a part made of an input, worked out where it is not remembered. The input is plain values, the whole of
// what the part reads; the reader's units are added to it. Nothing is remembered without a memory, or where the input
// cannot be named.
func Recall[T any](v *Voice, part string, input any, make func() (made T, keep bool)) T {
	if v.Memory == nil {
		made, _ := make()
		return made
	}
	text, err := json.Marshal([]any{input, v.Units})
	if err != nil {
		made, _ := make()
		return made
	}
	sum := sha256.Sum256(text)
	return v.Memory.Recall(part+hex.EncodeToString(sum[:]), func() (any, bool) {
		made, keep := make()
		if keep { // a number that is none is mended by who asks, and what is kept is never written to
			_, err := json.Marshal(made)
			keep = err == nil
		}
		return made, keep
	}).(T)
}
