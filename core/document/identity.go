package document

import (
	"fmt"

	"slowroot/core/finding"
)

// Identify gives every pit, test, former use, obstacle, job, well and hole an id for good. fresh makes one that nothing else has: for
// what has none, and for the second of two that have the same, as a copied pit has.
func (b *Block) Identify(fresh func(kind string, place int) string) {
	own(b.Pits, "pit", fresh, func(i int) *string { return &b.Pits[i].ID })
	own(b.Tests, "test", fresh, func(i int) *string { return &b.Tests[i].ID })
	own(b.Uses, "use", fresh, func(i int) *string { return &b.Uses[i].ID })
	own(b.Jobs, "job", fresh, func(i int) *string { return &b.Jobs[i].ID })
	own(b.Obstacles, "obstacle", fresh, func(i int) *string { return &b.Obstacles[i].ID })
	if d := b.Drains; d != nil {
		own(d.Wells, "well", fresh, func(i int) *string { return &d.Wells[i].ID })
		own(d.Holes, "hole", fresh, func(i int) *string { return &d.Holes[i].ID })
	}
}

// Identify gives every barrier, delivery and price of the estate an id for good.
func (e *Estate) Identify(fresh func(kind string, place int) string) {
	own(e.Barriers, "barrier", fresh, func(i int) *string { return &e.Barriers[i].ID })
	own(e.Deliveries, "delivery", fresh, func(i int) *string { return &e.Deliveries[i].ID })
	own(e.Prices, "price", fresh, func(i int) *string { return &e.Prices[i].ID })
}

func own[T any](list []T, kind string, fresh func(string, int) string, id func(int) *string) {
	taken := map[string]bool{}
	for i := range list {
		p := id(i)
		if *p == "" || taken[*p] {
			*p = fresh(kind, i)
		}
		taken[*p] = true
	}
}

// ByPlace names what an older document holds by its place in it, the same every time.
func ByPlace(kind string, place int) string { return fmt.Sprintf("%s%d", kind, place+1) }

// pitRef and testRef are what a finding is about.
func PitRef(id string) finding.Ref  { return finding.Ref{Kind: "pit", ID: id} }
func TestRef(id string) finding.Ref { return finding.Ref{Kind: "test", ID: id} }
