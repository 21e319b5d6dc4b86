package document

import (
	"fmt"
	"slowroot/core/amend"
	"slowroot/core/civil"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/fittings"
)

// Material is a liming material at hand. An unanalysed one stops the plan unless Guess says that its
// figures are one.
type Material struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	amend.Liming
	Guess  bool   `json:"guess"`
	Source string `json:"source"` // the label or report its figures are from
}

// Price is what one unit of a thing costs, from a day on.
type Price struct {
	ID     string     `json:"id,omitempty"` // for good; given when it is written
	Item   string     `json:"item"`
	Unit   string     `json:"unit"`
	Each   float64    `json:"each"`
	On     civil.Date `json:"on"`
	Source string     `json:"source"`
}

// Priced is a thing the program may ask a price of, with the unit it is bought by.
type Priced struct {
	Item string `json:"item"`
	Name string `json:"name"`
	Unit string `json:"unit"`
}

// PriceList is every thing a price can be kept for here; liming materials of the estate come to it.
func (s Site) PriceList() []Priced {
	var out []Priced
	for _, m := range s.Materials {
		out = append(out, Priced{"lime:" + m.ID, m.Name, "t"})
	}
	out = append(out, Priced{"sulphur", "elemental sulphur", "kg"}, Priced{"gypsum", "gypsum", "t"})
	for _, o := range amend.Organics {
		out = append(out, Priced{"organic:" + o.ID, o.Name, "t"})
	}
	out = append(out, Priced{"hand", "work by hand", "h"}, Priced{"machine", "work by machine with driver", "h"}, Priced{"earth", "earth moved", "m³"},
		Priced{"soil-test", "soil test of one sample", "sample"}, Priced{"drain-stone", "stone for drains", "t"}, Priced{"drain-pit", "inspection pit with cover",
			"piece"},
		Priced{"film", "film for beds", "m"}, Priced{"fabric", "ground fabric", "m"}, Priced{"drip", "drip line", "m"})
	for _, f := range fittings.Priced {
		out = append(out, Priced{f.Item, f.Name, f.Unit})
	}
	for _, p := range drainage.Pipes {
		out = append(out, Priced{"pipe:" + p.Name, "drain pipe " + p.Name, "m"})
	}
	return out
}

// PriceOf is the latest price of an item on a day; ok is false where none is known: no price, not nought.
func (s Site) PriceOf(item string, today civil.Date) (Price, bool) {
	var best Price
	ok := false
	for _, p := range s.Prices {
		if p.Item == item && !p.On.After(today) && (!ok || !p.On.Before(best.On)) {
			best, ok = p, true
		}
	}
	return best, ok
}

// LimingFor is the liming material chosen, or the first analysed one, or the first.
func LimingFor(ms []Material, id string) (m Material, ok bool) {
	for _, m := range ms {
		if m.ID == id {
			return m, true
		}
	}
	for _, m := range ms {
		if m.Analysed() && !m.Guess {
			return m, true
		}
	}
	if len(ms) > 0 {
		return ms[0], true
	}
	return Material{}, false
}

// Delivery is something ordered: from whom, when it is to come, what came and what was sent back. Amounts are in the unit
// the order list counts the thing in.
type Delivery struct {
	ID       string     `json:"id,omitempty"` // for good; given when it is written
	Item     string     `json:"item"`         // of the order list
	What     string     `json:"what"`         // in words
	Supplier string     `json:"supplier"`
	Ordered  civil.Date `json:"ordered"`
	Due      civil.Date `json:"due,omitzero"`
	Amount   float64    `json:"amount"`
	Arrived  civil.Date `json:"arrived,omitzero"` // zero while it is on its way
	Got      float64    `json:"got"`
	Refused  float64    `json:"refused"` // of what came
	Why      string     `json:"why"`     // it was refused, or what was found
}

const maxDeliveries = 1000

// deliveries refuses what nobody can order or get.
func deliveries(list []Delivery) error {
	if len(list) > maxDeliveries {
		return finding.Bad("deliveries", len(list), "are more deliveries than an estate holds", fmt.Sprintf("%d at most", maxDeliveries))
	}
	for i, d := range list {
		at := fmt.Sprintf("deliveries[%d]", i)
		if d.Item == "" || d.What == "" || len(d.Item)+len(d.What)+len(d.Supplier)+len(d.Why) > 1000 {
			return finding.Bad(at+".what", d.What, "names nothing that is ordered, or is too long", "a thing of the order list; 1 000 characters in all")
		}
		for _, x := range []struct {
			name string
			v    float64
		}{{"amount", d.Amount}, {"got", d.Got}, {"refused", d.Refused}} {
			if !(x.v >= 0 && x.v <= 1e12) {
				return finding.Bad(at+"."+x.name, x.v, "is not an amount", "0 to 1 000 000 000 000")
			}
		}
		if d.Refused > d.Got {
			return finding.Bad(at+".refused", d.Refused, "is more than came", fmt.Sprintf("0 to %g", d.Got))
		}
		if d.Ordered.IsZero() || !d.Arrived.IsZero() && d.Arrived.Before(d.Ordered) {
			return finding.Bad(at+".arrived", d.Arrived, "lies before the day it was ordered, or that day is missing", "the day of the order, and one on or after it")
		}
		for name, day := range map[string]civil.Date{"ordered": d.Ordered, "due": d.Due, "arrived": d.Arrived} {
			if !day.IsZero() {
				if err := entered(at+"."+name, day); err != nil {
					return err
				}
			}
		}
	}
	return nil
}
