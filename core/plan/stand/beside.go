package stand

import (
	"fmt"

	"slowroot/core/plan/rows"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/supply"
	"slowroot/core/units"
	"slowroot/core/working"
)

// BesideLine is what to order of a companion.
type BesideLine struct {
	ID       string  `json:"id"`
	Kind     string  `json:"kind"` // of plant, as its sheet says it
	Wanted   int     `json:"wanted"`
	Plants   int     `json:"plants"`
	Survival float64 `json:"survival"` // 0 is not known: the order holds no reserve
}

// OrderBeside is what to order of each companion: by its sheet, or by what was said; where nothing is known of how many establish, as many as
// there are places, and that is said.
func OrderBeside(list []rows.Beside, confidence float64, say *report.Voice) ([]BesideLine, error) {
	out := []BesideLine{}
	if confidence == 0 {
		confidence = 0.95
	}
	for _, b := range list {
		l := BesideLine{ID: b.ID, Kind: "plants", Wanted: (b.Stations - b.Sprouts) * b.Each, Survival: b.Survival}
		origin, source := working.Chosen, ""
		if b.Of != nil && len(b.Of.Layouts) > 0 {
			m := b.Of.MaterialOf(b.Of.Layouts[0])
			l.Kind = m.Kind
			if l.Survival == 0 {
				l.Survival, origin, source = m.Survival, working.Sheet, practice.OriginWords(m.Origin)
			}
		}
		l.Plants = l.Wanted
		note := l.Kind + "; how many establish is not known, no reserve is in it"
		if l.Survival > 0 {
			o, err := supply.Plants(l.Wanted, l.Survival, confidence, 0)
			if err != nil {
				return nil, err
			}
			l.Plants, note = o.Plants, fmt.Sprintf("%s; %.0f %% sure that every station fills", l.Kind, confidence*100)
		}
		path := b.Path("order")
		say.Figure(report.Figure{Path: path, Step: "plants", Label: b.Name, Quantity: units.Count, Value: float64(l.Plants), Origin: working.Computed, Note: note})
		if say.On(path) {
			if l.Survival > 0 {
				say.Tell(working.Search, path, "Plants to order", "smallest N with P(Binomial(N, survival) ≥ wanted) ≥ confidence",
					fmt.Sprintf("wanted %d, survival %g, confidence %g", l.Wanted, l.Survival, confidence), float64(l.Plants), units.Count,
					"method LAY-9; binomial tail by the incomplete beta function (Abramowitz & Stegun, 1964, 26.5.24)",
					say.Num("plants wanted", float64(l.Wanted), units.Count, working.Computed, "", b.Path("stations")),
					say.Num("survival", l.Survival, units.Fraction, origin, source, ""))
			} else {
				say.Step(path, "Plants to order", "stations × plants at each", fmt.Sprintf("%d × %d", b.Stations, b.Each), float64(l.Plants), units.Count,
					"no share of plants that establish is known", say.Num("stations", float64(b.Stations), units.Count, working.Computed, "", b.Path("stations")))
			}
		}
		out = append(out, l)
	}
	return out, nil
}
