package plan

import (
	"fmt"

	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/supply"
	"slowroot/core/units"
	"slowroot/core/working"
)

// plants is what to order, pollinizers apart.
func (c *computation) plants() error {
	m, p := c.sheet.Material, c.planting
	surv, origin := m.Survival, working.Sheet
	if p.Survival > 0 {
		surv, origin = p.Survival, working.Chosen
	}
	conf := p.Confidence
	if conf == 0 {
		conf = 0.95
	}
	kinds := []struct {
		path, label, kind string
		n                 int
	}{{"plants.main", "To order", m.Kind, c.placed.Stations - c.placed.Pollinizers}}
	if c.placed.Pollinizers > 0 {
		kinds = append(kinds, struct {
			path, label, kind string
			n                 int
		}{"plants.pollinizers", "Pollinizers to order", m.PollinizerKind, c.placed.Pollinizers})
	}
	for _, k := range kinds {
		o, err := supply.Plants(k.n, surv, conf, m.FlatReserve)
		if err != nil {
			return err
		}
		c.Figure(report.Figure{Path: k.path, Step: "plants", Label: k.label, Quantity: units.Count, Value: float64(o.Plants), Origin: working.Computed, Note: fmt.Sprintf("%s; %.0f %% sure that every station fills", k.kind, conf*100)})
		c.Figure(report.Figure{Path: k.path + ".flat", Step: "plants", Label: fmt.Sprintf("With a flat %.0f %%", m.FlatReserve*100), Quantity: units.Count, Value: float64(o.Flat), Origin: working.Computed, Note: "the trade's reserve, " + sure(o.FlatSure)})
		if c.On(k.path) {
			c.Tell(working.Search, k.path, "Plants to order", "smallest N with P(Binomial(N, survival) ≥ stations) ≥ confidence", fmt.Sprintf("stations %d, survival %g, confidence %g", k.n, surv, conf),
				float64(o.Plants), units.Count, "method LAY-9; binomial tail by the incomplete beta function (Abramowitz & Stegun, 1964, 26.5.24)",
				c.Num("stations", float64(k.n), units.Count, working.Computed, "", "rows.stations"),
				c.Num("survival", surv, units.Fraction, origin, practice.OriginWords(m.Origin), ""),
				c.Num("confidence", conf, units.Fraction, map[bool]working.Origin{true: working.Assumed, false: working.Chosen}[p.Confidence == 0], "", ""))
			c.Step(k.path, "The other school: a flat reserve", "⌈stations × (1 + reserve)⌉", fmt.Sprintf("⌈%d × %g⌉", k.n, 1+m.FlatReserve), float64(o.Flat), units.Count, "common practice; "+sure(o.FlatSure))
		}
		if c.On(k.path + ".flat") {
			c.Step(k.path+".flat", "Flat reserve", "⌈stations × (1 + reserve)⌉", fmt.Sprintf("⌈%d × %g⌉", k.n, 1+m.FlatReserve), float64(o.Flat), units.Count, "common practice; "+sure(o.FlatSure))
		}
	}
	return nil
}

func sure(p float64) string {
	switch {
	case p < 0.01:
		return "less than 1 % sure to fill every station"
	case p > 0.995:
		return "more than 99 % sure to fill every station"
	}
	return fmt.Sprintf("%.0f %% sure to fill every station", p*100)
}
