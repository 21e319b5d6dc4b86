package plan

import (
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/practice"
)

// Complete gives a crop that is considered or planned without a day the day proposed for it. sheet finds a practice
// sheet by its id.
func Complete(b *document.Block, e document.Estate, sheet func(string) (*practice.Sheet, bool), today civil.Date) {
	seasons, err := e.Calendar()
	if err != nil {
		return // the estate is refused for it
	}
	if p := b.Planting; p != nil && p.Date.IsZero() {
		if s, ok := sheet(p.Sheet); ok {
			p.Date = DefaultDay(seasons, s, today, civil.Date{})
		}
	}
}
