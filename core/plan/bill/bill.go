// Package bill is the part of a plan that adds up what establishing it takes: plants, what its work takes to the end of the first year,
// and the fittings that were chosen, priced from the price book, with the hours that are known.
package bill

import (
	"fmt"
	"strings"

	"slowroot/core/document"
	"slowroot/core/fittings"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/growth"
	"slowroot/core/plan/rows"
	"slowroot/core/plan/stand"
	"slowroot/core/plan/work"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// In is what a bill is made from.
type In struct {
	Planting *document.Planting
	Crop     string // the main crop's name
	Grown    growth.Result
	Ground   ground.Result
	Land     *ground.Land
	Rows     rows.Result
	Order    stand.Result
	Beside   []stand.BesideLine
	Supplies []work.Supply
}

// Line is one line of the bill, with how it follows.
type Line struct {
	Group    string         `json:"group"`
	Of       string         `json:"of"` // id of the fitting, "" for plants and what work takes
	What     string         `json:"what"`
	Item     string         `json:"item"` // of the price book; "" where nothing is bought
	Unit     string         `json:"unit"` // it is priced by
	Amount   float64        `json:"amount"`
	Quantity units.Quantity `json:"quantity"`
	CostText string         `json:"costText"`
	How      string         `json:"how"`  // formula
	With     string         `json:"with"` // its numbers put in
	Source   string         `json:"source"`
	Hours    string         `json:"hours"` // of a fitting, on its first line
	Anew     string         `json:"anew"`  // when it is put up again while the crop stands, "" for never
}

// Groups of a bill.
const (
	plants   = "Plants"
	works    = "What the work takes, to the end of the first year"
	hardware = "Supports, water, cover and earth"
)

// pricedBy is the unit a quantity is priced by.
func pricedBy(q units.Quantity) string {
	switch q {
	case units.Distance, units.Spacing:
		return "m"
	case units.Earth:
		return "m³"
	case units.Area:
		return "m²"
	case units.MassKg:
		return "kg"
	case units.MassT:
		return "t"
	case units.Volume:
		return "L"
	}
	return "piece"
}

// site is the ground fittings are counted on.
func (in In) site() fittings.Site {
	s := fittings.Site{Stations: in.Rows.Placed.Stations, Plants: in.Rows.Placed.Stations * in.Rows.Option.Plants(), PlantedM2: in.Rows.PlantedHa * 1e4,
		AreaM2: in.Ground.AreaM2, PerimeterM: in.Ground.PerimeterM, RowM: in.Rows.Spec.RowSpacingM}
	for _, p := range in.Rows.Placed.Pieces {
		if p.LengthM > 0 {
			s.RowsM = append(s.RowsM, p.LengthM)
		}
	}
	if in.Land != nil {
		s.SlopePct = rows.FallAlong(in.Land, in.Rows.Spec.BearingDeg)
	}
	return s
}

// Make adds it up.
func Make(in In, say *report.Voice) []Line {
	out := []Line{}
	sum, anew := say.NewBill(), say.NewBill()
	add := func(l Line) {
		l.Unit = pricedBy(l.Quantity)
		l.CostText = sum.Line(l.What, l.Item, l.Amount, l.Quantity, "").CostText
		out = append(out, l)
	}
	for i, o := range in.Order.Lines {
		name := o.Kind
		if i == 0 {
			name = report.LowerFirst(in.Crop) + ", " + o.Kind
		}
		for _, c := range o.Clones {
			add(Line{Group: plants, What: name + ", " + c.Name, Item: "plant:" + in.Planting.Sheet, Amount: float64(c.Plants), Quantity: units.Count,
				How:  "smallest N with P(Binomial(N, survival) ≥ stations) ≥ confidence",
				With: fmt.Sprintf("%d stations of this clone", c.Stations), Source: "method LAY-9"})
		}
		if len(o.Clones) > 0 {
			continue
		}
		add(Line{Group: plants, What: name, Item: "plant:" + in.Planting.Sheet + suffix(i), Amount: float64(o.Plants), Quantity: units.Count,
			How:  "smallest N with P(Binomial(N, survival) ≥ stations) ≥ confidence",
			With: fmt.Sprintf("%d stations", o.Stations), Source: "method LAY-9"})
	}
	for i, o := range in.Beside {
		b := in.Rows.Beside[i]
		item := "plant:" + b.Sheet
		if b.Sheet == "" {
			item = "plant:" + strings.ToLower(b.Name)
		}
		how := "stations × plants at each; how many establish is not known"
		if o.Survival > 0 {
			how = "smallest N with P(Binomial(N, survival) ≥ stations) ≥ confidence"
		}
		add(Line{Group: plants, What: report.LowerFirst(b.Name) + ", " + o.Kind, Item: item, Amount: float64(o.Plants), Quantity: units.Count, How: how,
			With: fmt.Sprintf("%d × %d", b.Stations, b.Each), Source: "method LAY-9"})
	}
	for _, s := range in.Supplies {
		add(Line{Group: works, What: s.What, Item: "use:" + s.What, Amount: s.Amount.Base, Quantity: s.Quantity, How: s.For, With: s.How, Source: s.Origin})
	}
	hours, unknown := 0.0, 0
	site := in.site()
	for _, f := range in.Planting.Fittings {
		kind, _ := fittings.Named(f.Kind)
		said := "hours unknown"
		if f.Hours != nil {
			hours += *f.Hours
			said = say.Text(*f.Hours, units.Hours)
		} else {
			unknown++
		}
		again := fittings.Renewed(f.Kind, f.Values, in.Grown.Life)
		for i, t := range fittings.Take(f.Kind, f.Values, site) {
			l := Line{Group: hardware, Of: f.ID, What: t.What, Item: t.Price, Amount: t.Amount, Quantity: t.Quantity, How: t.Formula, With: say.Marked(t.Substituted),
				Source: kind.Source}
			if i == 0 {
				l.Hours = said
			}
			if len(again) > 0 && t.Price != "" {
				l.Anew = report.Count(len(again), "time") + " more while it stands"
				anew.Line(t.What, t.Price, t.Amount*float64(len(again)), t.Quantity, "")
			}
			add(l)
		}
	}
	figures(in, out, sum, hours, unknown, say)
	renewed(in, out, anew, say)
	return out
}

func suffix(i int) string {
	if i == 0 {
		return ""
	}
	return "/pollinizer"
}

// figures are the cost and the hours, with what they lack.
func figures(in In, lines []Line, sum *report.Bill, hours float64, unknown int, say *report.Voice) {
	say.Figure(report.Figure{Path: "bill.cost", Step: "plants", Label: "What it takes costs", Quantity: units.Plain, Value: sum.Sum, Text: sum.Text(),
		Origin: working.Computed,
		Note:   "plants, what the work takes to the end of the first year, and fittings, at the prices kept"})
	if say.On("bill.cost") {
		say.Tell(working.Series, "bill.cost", "Cost", "Σ amount × price", fmt.Sprintf("%d lines", len(lines)), sum.Sum, units.Plain,
			"the estate's price book; a line without a price is named, not nought")
	}
	if len(in.Planting.Fittings) == 0 {
		return
	}
	text := say.Text(hours, units.Hours)
	switch {
	case unknown == len(in.Planting.Fittings):
		text = "hours unknown"
	case unknown > 0:
		text += fmt.Sprintf(", without %s of which no hours are known", report.Count(unknown, "fitting"))
	}
	say.Figure(report.Figure{Path: "bill.hours", Step: "plants", Label: "To put it up", Quantity: units.Hours, Value: hours, Text: text, Origin: working.Chosen,
		Note: "hours as they were said"})
	if say.On("bill.hours") {
		say.Tell(working.Series, "bill.hours", "Hours", "Σ hours as they were said", fmt.Sprintf("%d fittings, %d without hours", len(in.Planting.Fittings),
			unknown), hours, units.Hours, "")
	}
}
