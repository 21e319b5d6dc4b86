package document

import "slowroot/core/geo"

// Laid are drain lines read from a file: what they were and how they are to be taken.
type Laid struct {
	Collector   []geo.Point
	Branches    []DrawnDrain
	Laterals    []DrawnDrain
	Interceptor []geo.Point
	SpacingM    float64 // 0 where the file does not say
	DepthM      float64
	Remedy      string
}

// TakeDrains is the block with the lines of a file as its drains.
func (b Block) TakeDrains(l Laid, by Choice) Block {
	d := b.DrainChoice()
	if len(l.Collector) > 0 {
		d.Collector, d.Branches, d.Laterals = l.Collector, l.Branches, l.Laterals
	}
	if len(l.Interceptor) > 0 {
		d.Interceptor = l.Interceptor
	}
	if l.SpacingM > 0 {
		d.SpacingM = l.SpacingM
	}
	if l.DepthM > 0 {
		d.DepthM = l.DepthM
	}
	b.Drains = &d
	if o := b.Decided[DrainFork].Option; l.Remedy != "" && o == "" {
		decided := map[string]Choice{}
		for k, v := range b.Decided {
			decided[k] = v
		}
		by.Option = l.Remedy
		decided[DrainFork] = by
		b.Decided = decided
	}
	return b
}
