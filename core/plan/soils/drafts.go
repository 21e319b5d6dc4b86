package soils

import (
	"slowroot/core/report"
	"slowroot/core/soil"
)

// WithDrafts puts what does not count among what does, each at its place in the block's own lists, so that it can be looked
// at and finished; what was computed from the settled lists then names the places in the whole ones. at is the place in the
// whole list of each pit that counts.
func (p Profile) WithDrafts(in In, pits []soil.Pit, tests []soil.Test, say *report.Voice) (all Profile, at []int) {
	all = p
	if len(pits) != len(in.Pits) {
		all.Pits = make([]PitView, 0, len(pits))
	}
	for i, pit := range pits {
		switch {
		case len(pits) == len(in.Pits):
			at = append(at, i)
		case pit.Draft:
			v := ReadPit(pit, in.rootCm(), in.livesWet())
			v.Draft = true
			all.Pits = append(all.Pits, v)
		default:
			all.Pits = append(all.Pits, p.Pits[len(at)])
			at = append(at, i)
		}
	}
	if len(tests) == len(in.Tests) {
		return all, at
	}
	all.Tests = make([]TestView, 0, len(tests))
	n := 0
	for i, t := range tests {
		if t.Empty() {
			all.Tests = append(all.Tests, readTest(i, t, false, say))
			continue
		}
		v := p.Tests[n]
		v.Index = i
		all.Tests = append(all.Tests, v)
		n++
	}
	return all, at
}
