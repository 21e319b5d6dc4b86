package plan

import (
	"slowroot/core/plan/fit"
	"slowroot/core/practice"
)

// Matrix judges a block for every sheet. With detail each factor says its value, remedy and cost.
func Matrix(in Input, sheets []*practice.Sheet, detail bool) []fit.Fit {
	return fit.Matrix(in.fit(), sheets, detail)
}

// fit is what the block is judged by.
func (in Input) fit() fit.In {
	return fit.In{ID: in.BlockID, Block: in.Block.Settled(), Estate: in.Estate, Today: in.Today, Climate: in.Climate, Land: in.Land}
}
