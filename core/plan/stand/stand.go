// Package stand is the part of a plan that says which plants to order, and how many so that every station fills.
package stand

import (
	"fmt"
	"strconv"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/plan/rows"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/supply"
	"slowroot/core/units"
	"slowroot/core/working"
)

// In is what an order is counted from.
type In struct {
	Material    practice.Material
	Survival    float64 // as it was said; 0 takes the sheet's
	Confidence  float64 // that every station fills; 0 takes 0.95
	Stations    int
	Pollinizers int // of them
	Each        int // plants at a station
	Sprouts     int // of the stations, of stumps that are kept: nothing is planted there

	Called, CalledPoll string // plants and pollen partners as people call them; "" where nobody said

	Clones []rows.Clone // ordered by themselves, each so that its own stations fill
}

// Result is the order, pollinizers apart.
type Result struct {
	Lines []Line
}

// Line is one kind of plant.
type Line struct {
	Kind     string
	Stations int
	Plants   int
	Flat     int     // by the trade's flat reserve
	FlatSure float64 // that this fills every station
	Clones   []Cloned
}

// Cloned is what to order of one clone.
type Cloned struct {
	Name             string
	Stations, Plants int
}

// called is a kind of plant with the name people have for it.
func called(kind, name string) string {
	if name == "" {
		return kind
	}
	return kind + " “" + name + "”"
}

// Order is what to order, pollinizers apart.
func Order(in In, say *report.Voice) (Result, error) {
	m, p := in.Material, in
	var out Result
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
	}{{"plants.main", "To order", called(m.Kind, in.Called), (in.Stations - in.Pollinizers - in.Sprouts) * in.Each}}
	if in.Pollinizers > 0 {
		kinds = append(kinds, struct {
			path, label, kind string
			n                 int
		}{"plants.pollinizers", "Pollinizers to order", called(m.PollinizerKind, in.CalledPoll), in.Pollinizers * in.Each})
	}
	for _, k := range kinds {
		o, err := supply.Plants(k.n, surv, conf, m.FlatReserve)
		if err != nil {
			return out, err
		}
		line := Line{Kind: k.kind, Stations: k.n, Plants: o.Plants, Flat: o.Flat, FlatSure: o.FlatSure}
		if len(in.Clones) > 1 && len(out.Lines) == 0 {
			if err := line.byClone(in, surv, conf); err != nil {
				return out, err
			}
		}
		out.Lines = append(out.Lines, line)
		note := fmt.Sprintf("%s; %.0f %% sure that every station fills", k.kind, conf*100)
		if len(line.Clones) > 0 {
			note = fmt.Sprintf("%s of %d clones, each %.0f %% sure to fill its own stations", k.kind, len(line.Clones), conf*100)
		}
		say.Figure(report.Figure{Path: k.path, Step: "plants", Label: k.label, Quantity: units.Count, Value: float64(line.Plants),
			Origin: working.Computed,
			Note:   note})
		say.Figure(report.Figure{Path: k.path + ".flat", Step: "plants", Label: fmt.Sprintf("With a flat %.0f %%", m.FlatReserve*100),
			Quantity: units.Count,
			Value:    float64(o.Flat), Origin: working.Computed, Note: "the trade's reserve, " + sure(o.FlatSure)})
		for _, c := range line.Clones {
			if say.On(k.path) {
				say.Tell(working.Search, k.path, c.Name, "smallest N with P(Binomial(N, survival) ≥ stations) ≥ confidence",
					fmt.Sprintf("stations %d, survival %g, confidence %g", c.Stations, surv, conf), float64(c.Plants), units.Count, "method LAY-9")
			}
		}
		if say.On(k.path) && len(line.Clones) > 0 {
			say.Step(k.path, "Plants to order", "Σ of the clones", line.summed(), float64(line.Plants), units.Count, "",
				say.Num("survival", surv, units.Fraction, origin, practice.OriginWords(m.Origin), ""))
		} else if say.On(k.path) {
			say.Tell(working.Search, k.path, "Plants to order", "smallest N with P(Binomial(N, survival) ≥ stations) ≥ confidence",
				fmt.Sprintf("stations %d, survival %g, confidence %g", k.n, surv, conf),
				float64(o.Plants), units.Count, "method LAY-9; binomial tail by the incomplete beta function (Abramowitz & Stegun, 1964, 26.5.24)",
				say.Num(map[bool]string{true: "plants wanted", false: "stations"}[in.Each > 1], float64(k.n), units.Count, working.Computed, "",
					"rows.stations"),
				say.Num("survival", surv, units.Fraction, origin, practice.OriginWords(m.Origin), ""),
				say.Num("confidence", conf, units.Fraction, map[bool]working.Origin{true: working.Assumed, false: working.Chosen}[p.Confidence == 0], "", ""))
			say.Step(k.path, "The other school: a flat reserve", "⌈stations × (1 + reserve)⌉", fmt.Sprintf("⌈%d × %g⌉", k.n, 1+m.FlatReserve),
				float64(o.Flat),
				units.Count, "common practice; "+sure(o.FlatSure))
		}
		if say.On(k.path + ".flat") {
			say.Step(k.path+".flat", "Flat reserve", "⌈stations × (1 + reserve)⌉", fmt.Sprintf("⌈%d × %g⌉", k.n, 1+m.FlatReserve), float64(o.Flat),
				units.Count,
				"common practice; "+sure(o.FlatSure))
		}
	}
	return out, nil
}

// summed are the plants of the clones with a plus between.
func (l Line) summed() string {
	each := make([]string, len(l.Clones))
	for i, c := range l.Clones {
		each[i] = strconv.Itoa(c.Plants)
	}
	return strings.Join(each, " + ")
}

// byClone orders every clone by itself: plants of another fill none of its stations.
func (l *Line) byClone(in In, survival, confidence float64) error {
	l.Plants = 0
	for _, c := range in.Clones {
		o, err := supply.Plants(c.Stations*in.Each, survival, confidence, 0)
		if err != nil {
			return err
		}
		l.Clones = append(l.Clones, Cloned{c.Name, c.Stations * in.Each, o.Plants})
		l.Plants += o.Plants
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

// Judge compares the order with the trade's flat reserve.
func (r Result) Judge(say *report.Voice) {
	if len(r.Lines) > 0 && r.Lines[0].Flat < r.Lines[0].Plants {
		l := r.Lines[0]
		say.Note(finding.Finding{Rule: "plants.flat-reserve", Weight: finding.Know, Step: "plants", Subject: "Order", Source: "method LAY-9",
			Sentence: fmt.Sprintf("A flat reserve orders %s, %s. %s fill every station. The larger risk is one bad batch: two suppliers and two dates "+
				"spread it.",
				say.Text(float64(l.Flat), units.Count), sure(l.FlatSure), say.Text(float64(l.Plants), units.Count))})
	}
}
