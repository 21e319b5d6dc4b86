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

	Places int     `json:"places"` // a tray or pot has; 0 where nothing is filled
	Litres float64 `json:"litres"` // of substrate in each place
}

// Trays is how many trays or pots so many pieces fill: ⌈pieces / places⌉; 0 where nothing is filled.
func (s Stage) Trays(pieces int) int {
	if s.Places < 1 {
		return 0
	}
	return (pieces + s.Places - 1) / s.Places
}

// SubstrateM3 is what fills every place of these trays, m³ as it is filled in.
func (s Stage) SubstrateM3(pieces int) float64 {
	return float64(s.Trays(pieces)*s.Places) * s.Litres / 1000
}

// Mothers is from how many mother plants so many pieces come: ⌈pieces / what one gives⌉; 0 where that is not known.
func Mothers(pieces int, perMother float64) int {
	if !(perMother > 0) {
		return 0
	}
	return int(math.Ceil(float64(pieces)/perMother - 1e-9))
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
	{"graft", "seed, grafted in the nursery", "days by method S5, common practice; losses, bags and their volume " + memory, []Stage{
		{Name: "Sow: to germination", Least: 12, Most: 20, Loss: 0.25}, {Name: "Seedling to the bag", Least: 20, Most: 25, Loss: 0.10},
		{Name: "Stock to the graft", Least: 75, Most: 75, Loss: 0.10, Places: 1, Litres: 3},
		{Name: "Graft to the field", Least: 120, Most: 120, Loss: 0.15}}},
	{"seed", "seed in trays, then pots", memory, []Stage{
		{Name: "Sow: to germination", Least: 10, Most: 28, Loss: 0.25, Places: 128, Litres: 0.05}, {Name: "Tray to the pot", Least: 35, Most: 60, Loss: 0.10},
		{Name: "Pot to the field", Least: 120, Most: 240, Loss: 0.05, Places: 1, Litres: 2}}},
	{"cutting", "leafy cuttings under mist", memory, []Stage{
		{Name: "Set: to callus", Least: 28, Most: 42, Loss: 0.03, Places: 60, Litres: 0.05}, {Name: "Callus to roots", Least: 56, Most: 84, Loss: 0.12},
		{Name: "Grow on and harden", Least: 180, Most: 300, Loss: 0.10, Places: 1, Litres: 1.5}}},
	{"dormant", "dormant cuttings or rods", memory, []Stage{{Name: "Cut, sort and bundle", Least: 1, Most: 7, Loss: 0.10},
		{Name: "Cold store or shade", Least: 10, Most: 60, Loss: 0.05}}},
	{"rhizome", "rhizomes from an own nursery field", memory, []Stage{{Name: "Nursery field", Least: 365, Most: 730, Loss: 0.10},
		{Name: "Lift, split and sort", Least: 1, Most: 14, Loss: 0.10}}},
	{"pad", "pads or suckers, cured", memory, []Stage{{Name: "Cut and cure in the shade", Least: 10, Most: 42, Loss: 0.05}}},
	{"plug", "tissue plugs, hardened", memory, []Stage{{Name: "Wean under shade", Least: 21, Most: 35, Loss: 0.05, Places: 60, Litres: 0.05},
		{Name: "Grow on", Least: 30, Most: 60, Loss: 0.05}}},
}
