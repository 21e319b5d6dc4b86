package supply

import (
	"fmt"
	"math"

	"slowroot/core/civil"
)

// Stage is one stage of raising plants: how many days it takes at least and at most, and the share that is lost in it.
type Stage struct {
	Name  string  `json:"name"`
	Least int     `json:"least"`
	Most  int     `json:"most"`
	Loss  float64 `json:"loss"` // 0 to 1
}

// Raised is a stage counted back from the field.
type Raised struct {
	Stage
	Safe    civil.Date `json:"safe"`    // begun by then it is ready whatever it takes
	Hopeful civil.Date `json:"hopeful"` // begun by then it is ready if all goes at its quickest
	Begun   int        `json:"begun"`   // pieces it is begun with
	Left    int        `json:"left"`    // at its end
}

// Raise counts the stages of a nursery back from the day in the field, on their longest times, and how many pieces each is
// begun with so that so many plants are left (method S5). The first stage stands first.
func Raise(field civil.Date, plants int, stages []Stage) ([]Raised, error) {
	out := make([]Raised, len(stages))
	safe, hopeful, left := field, field, plants
	for i := len(stages) - 1; i >= 0; i-- {
		s := stages[i]
		if s.Least < 0 || s.Most < s.Least || s.Most > 3650 || !(s.Loss >= 0 && s.Loss < 1) {
			return nil, fmt.Errorf("%s takes %d to %d days and loses %g: days from 0 to 3650, the least not above the most, a loss from 0 to below 1", s.Name,
				s.Least, s.Most, s.Loss)
		}
		safe, hopeful = safe.AddDays(-s.Most), hopeful.AddDays(-s.Least)
		most := math.Ceil(float64(left)/(1-s.Loss) - 1e-9)
		if most > 1e12 {
			return nil, fmt.Errorf("%s would have to be begun with %g pieces: the losses leave next to nothing", s.Name, most)
		}
		begun := int(most)
		out[i] = Raised{s, safe, hopeful, begun, left}
		left = begun
	}
	return out, nil
}

// Way is a usual way plants are raised, to be changed to one's own.
type Way struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Source string  `json:"source"`
	Stages []Stage `json:"stages"`
}

const memory = "from memory, change it to your own counts"

// Ways are the usual ways: days of the first by method S5, the others and all losses from memory.
var Ways = []Way{
	{"graft", "seed, grafted in the nursery", "days by method S5, common practice; losses " + memory, []Stage{
		{"Sow: to germination", 12, 20, 0.25}, {"Seedling to the bag", 20, 25, 0.10}, {"Stock to the graft", 75, 75, 0.10}, {"Graft to the field", 120, 120, 0.15}}},
	{"seed", "seed in trays, then pots", memory, []Stage{
		{"Sow: to germination", 10, 28, 0.25}, {"Tray to the pot", 35, 60, 0.10}, {"Pot to the field", 120, 240, 0.05}}},
	{"cutting", "leafy cuttings under mist", memory, []Stage{
		{"Set: to callus", 28, 42, 0.03}, {"Callus to roots", 56, 84, 0.12}, {"Grow on and harden", 180, 300, 0.10}}},
	{"dormant", "dormant cuttings or rods", memory, []Stage{{"Cut, sort and bundle", 1, 7, 0.10}, {"Cold store or shade", 10, 60, 0.05}}},
	{"rhizome", "rhizomes from an own nursery field", memory, []Stage{{"Nursery field", 365, 730, 0.10}, {"Lift, split and sort", 1, 14, 0.10}}},
	{"pad", "pads or suckers, cured", memory, []Stage{{"Cut and cure in the shade", 10, 42, 0.05}}},
	{"plug", "tissue plugs, hardened", memory, []Stage{{"Wean under shade", 21, 35, 0.05}, {"Grow on", 30, 60, 0.05}}},
}
