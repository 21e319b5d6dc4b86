package document

import (
	"bytes"
	_ "embed" // the mixtures below
	"encoding/json"
	"fmt"
	"sync"

	"slowroot/core/layout"
)

// Mixture is a usual way to put other crops beside a main one, to be taken over whole and changed. Two of them are alternatives: one
// replaces the other.
type Mixture struct {
	ID         string      `json:"id"`
	Name       string      `json:"name"`
	Says       string      `json:"says"`
	For        []string    `json:"for"` // sheets of the main crop
	Origin     string      `json:"origin"`
	Companions []Companion `json:"companions"`
	Strips     []Strip     `json:"strips,omitempty"`

	Plots *layout.Plots `json:"plots,omitempty"`
}

//go:embed mixtures.json
var mixtures []byte

// Mixtures are the usual ones.
var Mixtures = sync.OnceValue(func() []Mixture {
	var out []Mixture
	d := json.NewDecoder(bytes.NewReader(mixtures))
	d.DisallowUnknownFields()
	if err := d.Decode(&out); err != nil {
		panic(fmt.Sprintf("the mixtures that ship inside cannot be read: %v", err)) // held by a test
	}
	return out
})
