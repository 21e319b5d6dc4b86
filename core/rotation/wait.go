// Package rotation says how long ground must rest from what it carried before a crop goes in (method
// SITE-3; waits are common practice, no source, unless they say otherwise).
package rotation

import (
	"slices"

	"slowroot/core/civil"
)

// Use is what the ground carried and when that ended. A zero End is still there.
type Use struct {
	ID   string     `json:"id,omitempty"` // for good; given when it is written
	Kind string     `json:"kind"`
	End  civil.Date `json:"end"`
	// Months is a label's own plant-back interval, for herbicides and fumigants.
	Months int    `json:"months"`
	Note   string `json:"note"`
}

// Rule is one wait: for how long ground rests after a use.
type Rule struct {
	Kind    string `yaml:"after" json:"after"` // the use before, of Kinds
	LowMo   int    `yaml:"lowMo" json:"lowMo"` // months, shortest held
	HighMo  int    `yaml:"highMo" json:"highMo"`
	Label   bool   `yaml:"label" json:"label,omitempty"` // the label decides: LowMo is used only where the use gives no months
	Why     string `yaml:"why" json:"why"`
	Shorten string `yaml:"shorten" json:"shorten"`
	Gas     bool   `yaml:"gas" json:"gas,omitempty"` // licensed fumigation, where lawful, ends it
	Origin  string `yaml:"origin" json:"origin"`
}

// Fumigation is whether the ground is fumigated before planting, and the day it was if it is done. The label decides on the
// plant-back; Reserve is set aside for weather and for the days the work takes.
type Fumigation struct {
	Taken     bool
	On        civil.Date
	PlantBack int // days by the label; 0 takes the usual 21
	Reserve   int // days; 0 takes a week
}

// Usual days of a fumigation, common practice: the ground is made ready two to three weeks before, the label's plant-back is
// often 21 days or more, a week at least is kept for rain, and airing and a cress test take up to two weeks more.
const (
	GasReadyDays   = 21
	GasPlantBack   = 21
	GasReserveDays = 7
	gasMoreDays    = 14
)

// Back is the plant-back, days.
func (f Fumigation) Back() int {
	if f.PlantBack > 0 {
		return f.PlantBack
	}
	return GasPlantBack
}

// Days from the start of the work on the ground to planting, least and usual.
func (f Fumigation) Days() (least, usual int) {
	least = GasReadyDays + f.Back() + GasReserveDays
	return least, max(least+gasMoreDays, least+f.Reserve)
}

// Kinds of use, with the words a person chooses by.
var Kinds = []struct{ Kind, Words string }{
	{"wilt-host", "tomato, potato, pepper, aubergine or another wilt host"},
	{"sod", "old sod or pasture"},
	{"same-tree", "the same crop or its family"},
	{"old-trees", "old trees or forest"},
	{"virus-host", "papaya or another virus or nematode host"},
	{"herbicide", "residual herbicide"},
	{"fumigant", "fumigant"},
	{"raw-manure", "fresh manure"},
	{"cover-crop", "cover crop"},
	{"limed", "land limed above pH 6"},
	{"arable", "cereals, grass leys, vegetables without wilt"},
	{"unknown", "nobody knows"},
}

// Rules hold for every crop, where the crop has none of its own for that use.
var Rules = []Rule{
	{Kind: "old-trees", LowMo: 12, HighMo: 12, Why: "root-rot fungi live on dead wood", Shorten: "ring-bark a year before felling; take out stumps and roots"},
	{Kind: "herbicide", LowMo: 12, HighMo: 24, Label: true, Why: "residues harm young roots", Shorten: "the label's interval; a bioassay with a sensitive plant"},
	{Kind: "fumigant", LowMo: 1, HighMo: 3, Label: true, Why: "the gas must leave the soil, longer when cold or wet",
		Shorten: "the label's plant-back; a germination test"},
	{Kind: "cover-crop", LowMo: 1, HighMo: 2, Why: "rotting residues harm roots and lock up nitrogen", Shorten: "kill it earlier"},
	{Kind: "unknown", LowMo: 12, HighMo: 24, Why: "nobody knows what grew here: residues are assumed", Shorten: "a soil assay and a bioassay"},
}

// Wait is one rule applied.
type Wait struct {
	Use      Use        `json:"use"`
	Earliest civil.Date `json:"earliest"`
	Latest   civil.Date `json:"latest"` // by those who hold the longest wait
	Why      string     `json:"why"`
	Shorten  string     `json:"shorten"`
	Open     bool       `json:"open"` // the use has not ended: counted from today
}

// Waits are the rules that apply to a crop, its own before those for every crop, and the earliest safe planting by the shortest and by the
// longest school. A wait that fumigation ends is over when its plant-back is. driver is the index of the wait that
// decides, −1 with none.
func Waits(uses []Use, own []Rule, today civil.Date, gas Fumigation) (waits []Wait, earliest, latest civil.Date, driver int) {
	driver = -1
	waits = []Wait{}
	for _, u := range uses {
		for _, r := range slices.Concat(own, Rules) {
			if r.Kind != u.Kind {
				continue
			}
			end := u.End
			w := Wait{Use: u, Why: r.Why, Shorten: r.Shorten, Open: end.IsZero()}
			if w.Open {
				end = today
			}
			lo, hi := r.LowMo, r.HighMo
			if r.Label && u.Months > 0 {
				lo, hi = u.Months, u.Months
			}
			w.Earliest, w.Latest = end.AddMonths(lo), end.AddMonths(hi)
			if r.Gas && gas.Taken {
				w.shorten(civil.Later(end, today), gas)
			}
			if driver < 0 || w.Earliest.After(earliest) {
				driver = len(waits)
			}
			waits = append(waits, w)
			earliest, latest = civil.Later(earliest, w.Earliest), civil.Later(latest, w.Latest)
			break
		}
	}
	return waits, earliest, latest, driver
}

// shorten ends a wait with the plant-back of a fumigation that is done, or that is begun on a day.
func (w *Wait) shorten(begun civil.Date, gas Fumigation) {
	least, usual := gas.Days()
	early, late := begun.AddDays(least), begun.AddDays(usual)
	if !gas.On.IsZero() {
		early = gas.On.AddDays(gas.Back() + GasReserveDays)
		late = early.AddDays(gasMoreDays)
	}
	if early.Before(w.Earliest) {
		w.Earliest, w.Latest = early, late
		w.Why += "; fumigation, the way taken, ends it with its plant-back"
		w.Shorten = "nothing but the label's own plant-back"
	}
}
