package practice

import (
	"fmt"

	"slowroot/core/schedule"
)

// Ready is what must hold on the day of planting, whatever the calendar says: somebody looks, and the answer moves planting.
type Ready struct {
	SoilC     float64 `yaml:"soilC" json:"soilC"`         // °C at least in 10 cm, in the morning; 0 where nothing is asked
	Tender    bool    `yaml:"tender" json:"tender"`       // young plants bear no frost
	RainWeeks int     `yaml:"rainWeeks" json:"rainWeeks"` // weeks of rain still to come, where the place lives by its rains
	Ask       string  `yaml:"ask" json:"ask"`             // what to look at
	Origin    string  `yaml:"origin" json:"origin"`
}

// ReadyOp is the id of the look at the ground before planting.
const ReadyOp = "look"

func (r Ready) check() error {
	if r == (Ready{}) {
		return nil
	}
	if !(r.SoilC >= 0 && r.SoilC <= 30) || r.RainWeeks < 0 || r.RainWeeks > 30 || r.Ask == "" || r.Origin == "" {
		return fmt.Errorf("ready to plant: %+v; soil from 0 to 30 °C, 0 to 30 weeks of rain, what to look at and an origin are wanted", r)
	}
	return nil
}

// looks are the jobs of looking whether planting can be on its day.
func (s *Sheet) looks() []schedule.Operation {
	if s.Ready.Ask == "" {
		return nil
	}
	return []schedule.Operation{{ID: ReadyOp, Name: "Look whether it can be planted", Phase: "plant", Before: schedule.Planting,
		Better: schedule.Offset{N: 10, Unit: "d"}, Min: schedule.Offset{N: 1, Unit: "d"}, Detail: s.Ready.Ask,
		Why: "the day follows the ground and the weather, not the calendar", Origin: s.Ready.Origin}}
}
