package drainage

import (
	"math"
	"sort"
)

// Sources of water that make a block wet, with the words a person chooses by.
var Sources = []struct{ ID, Words string }{
	{"unknown", "nobody knows"}, {"river", "a river or dam close by"}, {"canal", "a leaking canal or ditch"}, {"seepage", "seepage from the hillside"},
	{"runon", "water running on from above"},
	{"rain", "its own rain on slow soil"}, {"pan", "rain held up by a plough pan"}, {"irrigation", "its own irrigation"}, {"artesian", "pressure from below"},
}

// Case is what a remedy is chosen from. LayerM is the depth of the layer that stops water, 0 not known; K
// m/day; WetShare of the block; OutletM the deepest drain an outlet allows, 0 not known, negative none.
type Case struct {
	Source   string
	WetShare float64
	SlopePct float64
	LayerM   float64
	K        float64
	OutletM  float64
	Valley   bool    // two sides fall to a middle line
	CoverM   float64 // a pipe needs
}

// Remedy is a way to deal with the water, best first; Works says whether it can work here.
type Remedy struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Works bool   `json:"works"`
	Why   string `json:"why"`
	rank  int
}

// Names of the remedies.
var Names = map[string]string{"interceptor": "Stop it before it enters: an interceptor drain", "diversion": "Lead it past: a ditch or bank above the block",
	"local": "Drain the wet part only", "gridiron": "Drain the field: gridiron",
	"herringbone": "Drain the field: herringbone", "ditches": "Open ditches", "beds": "Raise the beds", "subsoil": "Break the pan",
	"leave": "Leave the wet part out", "tolerant": "Grow something that bears it", "investigate": "Find out where the water comes from"}

// Remedies ranks what can be done (method DRN-1, common practice). Keeping foreign water out comes first.
func Remedies(c Case) []Remedy {
	var out []Remedy
	add := func(id string, rank int, works bool, why string) {
		out = append(out, Remedy{id, Names[id], works, why, rank})
	}
	outlet := c.OutletM >= 0
	foreign := c.Source == "river" || c.Source == "canal" || c.Source == "seepage"
	pipe := outlet && (c.LayerM == 0 || c.LayerM >= c.CoverM) && c.Source != "artesian"
	why := func(ok bool, yes, no string) string {
		if ok {
			return yes
		}
		return no
	}
	if c.Source == "artesian" {
		add("investigate", 0, false, "pressure from below needs relief wells: a specialist's work, not designed here")
	}
	if c.Source == "unknown" || c.Source == "" {
		add("investigate", 0, true, "the source decides the remedy: a dip well, a walk in the wet season, a look at the neighbours' ditches")
	}
	if foreign {
		near := c.LayerM == 0 || c.LayerM <= 2.5
		add("interceptor", 1, outlet && near && (c.Source != "seepage" || c.SlopePct > 2), why(near, "it comes from outside and can be stopped before it enters",
			"the layer lies deeper than 2.5 m: an interceptor catches only part"))
	}
	if c.Source == "runon" {
		add("diversion", 1, true, "it runs on over the surface: a ditch or bank above leads it to safe ground")
	}
	if c.Source == "pan" {
		add("subsoil", 1, true, "the pan holds the rain up: ripping it lets the water down")
	}
	field := 3
	if c.WetShare < 0.3 {
		add("local", 2, pipe, why(pipe, "under a third of the block is wet", "no outlet, or the layer lies too shallow for a pipe"))
		add("leave", 6, true, "the wet part is small: leave it to grass or willow")
	} else {
		field = 2
	}
	tight := c.K > 0 && c.K < 0.02
	no := "the layer lies too shallow for a pipe with cover"
	if !outlet {
		no = "there is no outlet low enough"
	}
	if tight {
		no = "the soil is so tight that pipes would lie under 5 m apart"
	}
	ok := pipe && !tight
	first, second := "gridiron", "herringbone"
	if c.Valley {
		first, second = second, first
	}
	add(first, field, ok, why(ok, map[string]string{"gridiron": "the block falls one way, or hardly", "herringbone": "two sides fall to a middle line"}[first],
		no))
	add(second, field+1, ok, why(ok, "possible too", no))
	add("ditches", 5, outlet, "they show every leak and carry storms, and take land and traffic")
	bed := outlet || c.SlopePct > 0.5
	add("beds", map[bool]int{true: 1, false: 4}[tight || !pipe], bed, why(bed, "roots are lifted out of the wet; the furrows must fall to an outlet",
		"a bed without an outlet is a moat"))
	add("tolerant", 7, true, "crops of wet-soil class 1 and 2 bear wet feet; the sheets say which those are")
	sort.SliceStable(out, func(i, j int) bool {
		if out[i].Works != out[j].Works {
			return out[i].Works
		}
		return out[i].rank < out[j].rank
	})
	return out
}

// Criterion is what a crop of a wet-soil class asks of the water table: its depth in m under a steady
// design rain, and within how many hours after a storm it must be back below a depth (method DRN-2, common
// practice). Classes run from 1, tolerant, to 5, killed by short waterlogging.
func Criterion(class int) (steadyM, backM, hours float64) {
	switch class {
	case 1:
		return 0.35, 0.25, 108
	case 2:
		return 0.55, 0.4, 72
	case 3:
		return 0.7, 0.5, 48
	case 4:
		return 0.75, 0.5, 48
	}
	return 0.9, 0.6, 24
}

// IrrigationDischarge is what percolates, m/day: gross depth in mm, efficiency, the share of the loss that
// goes down, days between.
func IrrigationDischarge(grossMM, efficiency, share, days float64) float64 {
	return grossMM * (1 - efficiency) * share / days / 1000
}

// StormDischarge is the rain of a storm less what soil and surface take, over its days, m/day.
func StormDischarge(stormMM, storedMM, runoffMM, days float64) float64 {
	return math.Max(0, stormMM-storedMM-runoffMM) / days / 1000
}

// Cover is what a pipe needs over it under a kind of traffic, m: foot, tractor or truck (common practice).
func Cover(traffic string) float64 {
	switch traffic {
	case "foot":
		return 0.5
	case "truck":
		return 0.8
	}
	return 0.6
}
