package document

import (
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

// ColdStore is dormant stock kept cold until it is planted.
type ColdStore struct {
	Lifted   civil.Date `json:"lifted"` // or cut; until then it had the cold of the open
	In       civil.Date `json:"in"`     // into the store
	Out      civil.Date `json:"out"`    // zero is the day of planting
	SetC     *float64   `json:"setC,omitempty"`
	Readings []Reading  `json:"readings,omitempty"`
	Room     *StoreRoom `json:"room,omitempty"` // nil: how much room it takes is not asked
}

// StoreRoom is the bins stock lies in and the floor there is for them.
type StoreRoom struct {
	PerBin  int      `json:"perBin"`  // plants in a bin
	LengthM float64  `json:"lengthM"` // of a bin
	WidthM  float64  `json:"widthM"`
	HeightM float64  `json:"heightM"`
	Stack   int      `json:"stack"`             // bins on one another
	KgEach  float64  `json:"kgEach,omitempty"`  // a plant weighs; 0 is not known
	FromC   *float64 `json:"fromC,omitempty"`   // they come in at; nil is not known
	Hours   float64  `json:"hours,omitempty"`   // they are cooled in; 0 takes 24
	FloorM2 float64  `json:"floorM2,omitempty"` // there is; 0 is not known
}

// UsualRoom is a bin of 250 canes (method H7) of the size of its example; three on one another from memory.
var UsualRoom = StoreRoom{PerBin: 250, LengthM: 1.2, WidthM: 1, HeightM: 0.75, Stack: 3}

// valid refuses bins that cannot be.
func (r *StoreRoom) valid() error {
	if r == nil {
		return nil
	}
	for _, c := range []struct {
		name      string
		v, lo, hi float64
		unit      string
	}{{"perBin", float64(r.PerBin), 1, 1e5, "plants"}, {"lengthM", r.LengthM, 0.1, 10, "m"}, {"widthM", r.WidthM, 0.1, 10, "m"},
		{"heightM", r.HeightM, 0.1, 5, "m"}, {"stack", float64(r.Stack), 1, 20, "bins"}, {"kgEach", r.KgEach, 0, 500, "kg"},
		{"hours", r.Hours, 0, 1000, "h"}, {"floorM2", r.FloorM2, 0, 1e5, "m²"}} {
		if !(c.v >= c.lo && c.v <= c.hi) {
			return finding.Bad("planting.store.room."+c.name, c.v, "cannot be", fmt.Sprintf("%g to %g %s", c.lo, c.hi, c.unit))
		}
	}
	if r.FromC != nil && !(*r.FromC >= -20 && *r.FromC <= 50) {
		return finding.Bad("planting.store.room.fromC", *r.FromC, "is not the temperature of plants", "-20 to 50 °C")
	}
	return nil
}

// Reading is a temperature read in the store.
type Reading struct {
	ID    string     `json:"id"`
	On    civil.Date `json:"on"`
	TempC float64    `json:"tempC"`
}

const maxReadings = 500

// valid refuses a store no stock was ever in.
func (c *ColdStore) valid() error {
	if c == nil {
		return nil
	}
	for _, d := range []struct {
		field string
		day   civil.Date
	}{{"lifted", c.Lifted}, {"in", c.In}, {"out", c.Out}} {
		if err := entered("planting.store."+d.field, d.day); err != nil {
			return err
		}
	}
	switch {
	case c.Lifted.IsZero():
		return finding.Bad("planting.store.lifted", "", "is missing", "the day the plants are lifted or cut")
	case c.In.IsZero() || c.In.Before(c.Lifted):
		return finding.Bad("planting.store.in", c.In, "lies before the plants are lifted", "that day or a later one")
	case !c.Out.IsZero() && c.Out.Before(c.In):
		return finding.Bad("planting.store.out", c.Out, "lies before they go into the store", "that day or a later one, or nothing for the day of planting")
	case c.In.Sub(c.Lifted) > 400 || !c.Out.IsZero() && c.Out.Sub(c.In) > 800:
		return finding.Bad("planting.store.in", c.In, "is too long a time", "days of one winter")
	case c.SetC != nil && !(*c.SetC >= -30 && *c.SetC <= 30):
		return finding.Bad("planting.store.setC", *c.SetC, "is not the temperature of a store", "-30 to 30 °C")
	case len(c.Readings) > maxReadings:
		return finding.Bad("planting.store.readings", len(c.Readings), "are more readings than are kept", fmt.Sprintf("%d at most", maxReadings))
	}
	if err := c.Room.valid(); err != nil {
		return err
	}
	for i, r := range c.Readings {
		at := fmt.Sprintf("planting.store.readings[%d]", i)
		if r.ID == "" || len(r.ID) > 60 || r.On.IsZero() {
			return finding.Bad(at, r.ID, "is no reading", "an id and the day it was read")
		}
		if !(r.TempC >= -40 && r.TempC <= 50) {
			return finding.Bad(at+".tempC", r.TempC, "is not a temperature of a store", "-40 to 50 °C")
		}
	}
	return nil
}
