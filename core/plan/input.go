// Package plan is where the subjects meet: estate, block, planting, sheet and today in; Plan out.
// Compute is pure and deterministic: the same input gives the same plan on any machine and any day.
package plan

import (
	"slices"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/plan/drains"
	"slowroot/core/plan/ground"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/rotation"
)

// Input is everything a plan is computed from.
type Input struct {
	Estate   document.Estate
	BlockID  string
	Block    document.Block
	Sheet    *practice.Sheet            // the version the planting holds to; nil when nothing is chosen
	Beside   map[string]*practice.Sheet // sheets of the companions, by id
	NewSheet *practice.Sheet            // the library's version when it differs from Sheet, else nil
	Today    civil.Date
	Records  []record.Record // of the block, in the order they were written
	Before   []Stood         // what stood on the block before the planting it is seen from
	Land     *ground.Land    // the lie of the block; nil where no heights are known
	Climate  *climate.Site   // of the estate's record; nil is worked out from the monthly normals
	Brief    bool            // leave out remedies that take long to find: for many blocks at once
	Weigh    bool            // design the ways not taken at the forks of the ground too

	// LandProblem says why the heights that reach the block say nothing of its lie, "" where they do.
	LandProblem string
	// Stop is asked now and then whether nobody waits for the answer any more, or it takes too long; its error ends
	// the computation. nil never stops.
	Stop func() error
	// Memory keeps the parts of plans that are slow to work out; nil remembers nothing.
	Memory report.Memory

	drained *drains.Plan // the drains as they were designed already: ways that do not touch them take these
	trial   bool         // only what ways are weighed by: nothing is judged, and nothing bound
}

// Stood is a planting that ended on the block. Woody roots stay in the ground and rot there.
type Stood struct {
	Sheet string
	Name  string
	Woody bool
	End   civil.Date
}

// uses are what the ground carried: what people said, and what stood on the block and has ended.
func (in Input) uses(sheet *practice.Sheet) []rotation.Use {
	out := slices.Clone(in.Block.Uses)
	for _, s := range in.Before {
		if sheet != nil && s.Sheet == sheet.Crop() {
			out = append(out, rotation.Use{Kind: "same-tree", End: s.End, Note: s.Name})
		}
		if s.Woody {
			out = append(out, rotation.Use{Kind: "old-trees", End: s.End, Note: s.Name})
		}
	}
	return out
}

// stopped is what Stop answers.
func (in Input) stopped() error {
	if in.Stop == nil {
		return nil
	}
	return in.Stop()
}

// price is what one unit of a thing costs on the day of the plan.
func (in Input) price(item string) (each float64, ok bool) {
	p, ok := in.Estate.PriceOf(item, in.Today)
	return p.Each, ok
}
