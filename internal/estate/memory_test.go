package estate

import (
	"encoding/json"
	"testing"

	"slowroot/core/plan"
	"slowroot/core/report"
)

// counted is a memory that counts what had to be made.
type counted struct {
	memory
	made int
}

func (c *counted) Recall(key string, make func() (any, bool)) any {
	return c.memory.Recall(key, func() (any, bool) {
		c.made++
		return make()
	})
}

// What is remembered is what would be computed, to the byte, whatever is changed; and turning the rows designs no drains
// again unless they follow the rows.
func TestRememberedPlansAreThePlans(t *testing.T) {
	s, docs := demoEstate(t)
	var all counted
	made := 0 // designs made when the plan stood, before its ways were asked for
	for _, of := range []struct {
		patch string
		made  int // designs that had to be made beyond those before
	}{
		{`{}`, 1},
		{`{"notes":"a word"}`, 0},
		{`{"planting":{"layout":{"bearingDeg":31}}}`, 0},
		{`{"planting":{"layout":{"plantSpacingM":4.5}}}`, 0},
		{`{"drains":{"depthM":1.1}}`, 1},
		{`{}`, 0},
		{`{"drains":{"bed":{"heightM":0.3}}}`, 1},
		{`{"drains":{"bed":{"heightM":0.3}},"planting":{"layout":{"bearingDeg":31}}}`, 1},
		{`{"decided":{"drain":{"option":"interceptor","by":"a person"}}}`, 1},
		{`{"decided":{"drain":{"option":"interceptor","by":"a person"}},"notes":"again"}`, 0},
	} {
		e, d, err := s.at(ctx, docs["Orchard Foot"].ID)
		if err != nil {
			t.Fatal(err)
		}
		if err := merge(d.Block, []byte(of.patch), &d.Block); err != nil {
			t.Fatal(err)
		}
		said := func(m report.Memory) (p, forks string) {
			in, err := s.input(ctx, e.Estate, d)
			if err != nil {
				t.Fatal(err)
			}
			in.Memory = m
			of, err := plan.Compute(in, nil)
			if err != nil {
				t.Fatal(err)
			}
			made = all.made
			ways, err := plan.Forks(in)
			if err != nil {
				t.Fatal(err)
			}
			a, _ := json.Marshal(of)
			b, err := json.Marshal(ways)
			if err != nil {
				t.Fatal(err)
			}
			return string(a), string(b)
		}
		before := all.made
		p, ways := said(nil)
		for range 2 {
			if q, w := said(&all); q != p || w != ways {
				t.Errorf("%s: the plan or its ways are others with a memory", of.patch)
			}
			if first := made - before; first != of.made {
				t.Errorf("%s: %d designs, want %d", of.patch, first, of.made)
			}
			before, of.made = all.made, 0
		}
	}
}
