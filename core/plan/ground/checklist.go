package ground

import (
	"fmt"
	"math"

	"slowroot/core/document"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
)

// CheckItem is one line of the inspection list to take to the field.
type CheckItem struct {
	Key   string `json:"key"`
	Group string `json:"group"`
	Look  string `json:"look"` // what to look at
	Good  string `json:"good"` // when it is good
	document.Check
}

// Checklist is what to look at on this block, for the crop meant where there is one. Common practice.
func Checklist(s *practice.Sheet, checks map[string]document.Check, say *report.Voice) []CheckItem {
	out := []CheckItem{}
	add := func(key, group, look, good string) {
		out = append(out, CheckItem{Key: key, Group: group, Look: look, Good: good, Check: checks[key]})
	}
	add("walk", "Walk the block", "Walk the boundary and once across", "no surprise: wet spots, rock, dumps, wells, lines")
	add("track", "Walk the block", "Track and gate", "a loaded trailer gets in and can turn")
	add("services", "Walk the block", "Pipes, cables, overhead lines", "asked for, marked on the ground")
	add("neighbours", "Walk the block", "What grows and is sprayed next door", "noted with the neighbour's name")
	add("wildlife", "Walk the block", "Tracks, droppings, browsing", "none, or a fence is in the plan")
	add("wind", "Lie of the land", "Flagged trees, broken crowns", "sheltered, or a windbreak is in the plan")
	add("cold", "Lie of the land", "Before sunrise after a still, clear night: where does cold air stand?", "it runs through and away")
	add("dam", "Lie of the land", "Hedges, banks and buildings below the block", "a gap of a tenth at the low end")
	add("ponds", "Lie of the land", "After heavy rain: where does water stand?", "nowhere after 48 hours")
	add("outlet", "Lie of the land", "Where could a drain run out?", "lower than the deepest drain, and allowed")
	add("dig", "Pit", "Dig to "+say.Text(1.2, units.Spacing)+" or to what stops the spade; never stand in a deeper pit unshored, never alone",
		"three pits at least, one in every kind of soil")
	add("layers", "Pit", "Layers: depth, texture by feel, colour, structure", "drawn and noted by layer")
	add("pan", "Pit", "Push a knife down the face: does it stop?", "no pan, or its depth is noted")
	add("mottles", "Pit", "Rust spots, grey or bluish colour, sour smell", "none in the root depth")
	add("roots", "Pit", "How deep do old roots go, and do they bend?", "they go straight down")
	add("water", "Pit", "Water standing in the pit after a day", "none in the root depth")
	add("sample", "Soil sample", "15 to 20 cores of each kind of soil, from 0 to "+say.Text(20, units.Depth)+" and from there to "+say.Text(40,
		units.Depth)+", mixed, dried in the shade", "bagged, labelled with block, depth and day")
	add("history", "Soil sample", "Ask what grew here and what was sprayed in the last eight years", "written down with years")
	add("supply", "Water", "Bucket and watch at the end of the dry season", "litres a second noted")
	add("watertest", "Water", "A bottle for the laboratory", "EC, sodium, bicarbonate, iron, germs asked for")
	add("weeds", "Growth", "Couch, sedge, bindweed, brambles", "none, or a map of the patches")
	add("growth", "Growth", "What stands and lies: logs, branches, thorns, vines", "cubic metres of each noted")
	if s != nil {
		if v := s.IdealLow("depthCm"); !math.IsNaN(v) {
			add("crop-depth", s.Name, "Depth roots can go", say.Text(v, units.Depth)+" or more")
		}
		lo, hi := s.IdealLow("ph"), s.IdealHigh("ph")
		if !math.IsNaN(lo) && !math.IsNaN(hi) {
			add("crop-ph", s.Name, "pH with a field kit, in three places", fmt.Sprintf("%g to %g", lo, hi))
		}
		if s.Soil.WetClass >= 3 {
			ideal, _ := practice.WetRange(s.Soil.WetClass)
			add("crop-wet", s.Name, "First sign of standing water in the pit", "deeper than "+say.Text(ideal, units.Depth))
		}
	}
	return out
}
