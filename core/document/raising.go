package document

import (
	"fmt"

	"slowroot/core/finding"
)

// Raising is how the plants are raised, stage after stage, the first first.
type Raising struct {
	Way       string         `json:"way"` // the usual way it began from, "" for none
	Stages    []RaisingStage `json:"stages"`
	PerMother float64        `json:"perMother,omitempty"` // seeds, cuttings or pads one mother plant gives; 0 is not said
}

// RaisingStage is one stage, days at least and at most, and what is lost in it.
type RaisingStage struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Least   int     `json:"least"`
	Most    int     `json:"most"`
	LossPct float64 `json:"lossPct"`
	Places  int     `json:"places,omitempty"` // a tray or pot has; 0 where nothing is filled
	Litres  float64 `json:"litres,omitempty"` // of substrate in each place
}

const maxStages = 12

// valid refuses what no nursery can do.
func (r *Raising) valid() error {
	if r == nil {
		return nil
	}
	if len(r.Stages) == 0 || len(r.Stages) > maxStages {
		return finding.Bad("planting.raising.stages", len(r.Stages), "is no way plants are raised", fmt.Sprintf("1 to %d stages, or none of it", maxStages))
	}
	known, left := map[string]bool{}, 1.0
	for i, s := range r.Stages {
		at := fmt.Sprintf("planting.raising.stages[%d]", i)
		switch {
		case s.ID == "" || len(s.ID) > 60 || known[s.ID]:
			return finding.Bad(at+".id", s.ID, "is not an id of its own", "1 to 60 characters that no other stage has")
		case s.Name == "" || len([]rune(s.Name)) > 80:
			return finding.Bad(at+".name", s.Name, "is not a name", "1 to 80 characters")
		case s.Least < 0 || s.Most > 3650 || s.Most < s.Least:
			return finding.Bad(at+".most", s.Most, "days lie below the least, or are more than ten years", fmt.Sprintf("%d to 3 650", max(0, s.Least)))
		case s.Places < 0 || s.Places > 2000:
			return finding.Bad(at+".places", s.Places, "is not how many places a tray has", "1 for a pot, to 2 000, or 0 where nothing is filled")
		case !(s.Litres >= 0 && s.Litres <= 200) || s.Litres > 0 && s.Places == 0:
			return finding.Bad(at+".litres", s.Litres, "is no volume of a place in a tray or pot", "0 to 200 L, in places that are said")
		case !(s.LossPct >= 0 && s.LossPct <= 99):
			return finding.Bad(at+".lossPct", s.LossPct, "is not a share that is lost", "0 to 99 %")
		}
		known[s.ID] = true
		left *= 1 - s.LossPct/100
	}
	if m := r.PerMother; m != 0 && !(m >= 0.1 && m <= 1e6) {
		return finding.Bad("planting.raising.perMother", m, "is not what one mother plant gives", "0.1 to 1 000 000, or 0 where it is not known")
	}
	if left < 1e-3 {
		return finding.Bad("planting.raising.stages", len(r.Stages), "lose all but a thousandth together", "stages that leave one plant of a thousand at least")
	}
	return nil
}
