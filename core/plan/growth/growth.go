// Package growth is the part of a plan that settles what the sheet says for the choices made: layout, life, canopy, yield,
// feeding, harvest and operations, and where age year 1 lies. It reads only the sheet and what was recorded.
package growth

import (
	"slowroot/core/canopy"
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/nutrition"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/core/yield"
)

// In is a planting and the sheet it holds to.
type In struct {
	Sheet    *practice.Sheet
	Planting *document.Planting
	Seasons  schedule.Seasons
	Book     record.Book // what was recorded of it
}

// Result is what the sheet says for the choices made.
type Result struct {
	Sheet     *practice.Sheet
	Choices   map[string]string // every fork, defaults included
	Option    practice.Layout   // of the choices
	Curve     yield.Curve
	Feed      nutrition.Programme
	Removal   *nutrition.Removal // what leaves with the crop; nil where it is not known
	Harvest   yield.Harvest
	Ops       []schedule.Operation
	Canopy    canopy.Growth
	Life      int // age years
	First     int // season year of age year 1
	PlantedOn civil.Date
	Seasons   schedule.Seasons
	Calendar  schedule.Calendar
	Product   string
	YieldAs   units.Quantity // how yields per area are shown
	MassAs    units.Quantity
	Also      []practice.Also // what the product becomes
}

// Choose settles the forks: what a person chose, else the sheet's default. A choice the sheet does not know, or a planting
// without a day, is a *finding.FieldError.
func Choose(in In) (Result, error) {
	p, s := in.Planting, in.Sheet
	for fork, ch := range p.Choices {
		if !s.Knows(fork, ch.Option) {
			return Result{}, finding.Bad("planting.choices."+fork, ch.Option, "is not a way the sheet of "+s.Name+" knows", "one of the ways at its forks")
		}
	}
	day := p.Standing()
	if day.IsZero() {
		return Result{}, finding.Bad("planting.date", "", "a planting needs a date", "a day written YYYY-MM-DD")
	}
	g := Result{Sheet: s, Choices: s.Resolve(p.Chosen()), PlantedOn: day, Seasons: in.Seasons, First: in.Seasons.FirstYear(day)}
	g.Option, _ = s.Layout(g.Choices[practice.LayoutFork])
	g.Option = s.Stocked(g.Option, g.Choices)
	if e := p.Layout.Each; e != nil {
		g.Option.Each = *e
		if g.Option.EachName == "" {
			g.Option.EachName = "plant"
		}
	}
	g.Curve, g.Feed, g.Harvest = s.Curve(g.Choices), s.Programme(g.Choices), s.Harvesting(g.Choices)
	g.Ops, g.Life, g.Canopy = s.Operations(g.Choices), s.LifeOf(g.Option).Base, s.CanopyOf(g.Option)
	g.Removal = s.Removes(g.Choices)
	product := s.ProductOf(g.Option)
	g.Product = product.Name
	g.YieldAs, g.MassAs = ShownAs(product.ShowAs)
	g.Also = product.Also
	if p.End != nil { // what stands no longer has no years to come
		g.Life = max(1, min(g.Life, in.Seasons.YearOf(p.End.On)-g.First+1))
	}
	g.Calendar = schedule.Calendar{Seasons: in.Seasons, Planting: day, Life: g.Life, Done: in.Book.Done, Skip: in.Book.NotNeeded}
	return g, nil
}

// Window is when something is done in an age year: in a season, or on days counted from planting, which come back every
// year on the same days.
func (g Result) Window(season []string, days []int, age int) (from, to civil.Date) {
	if len(days) == 2 {
		day := g.PlantedOn.AddMonths(12 * (age - 1))
		return day.AddDays(days[0]), day.AddDays(days[1])
	}
	return g.Seasons.Span(season[0], season[len(season)-1], g.First+age-1)
}

// ShownAs are the quantities a product is shown in, by area and altogether.
func ShownAs(how string) (byArea, altogether units.Quantity) {
	switch how {
	case "t":
		return units.YieldT, units.MassT
	case "pieces":
		return units.PerArea, units.Count
	}
	return units.YieldKg, units.MassKg
}

// Consider is what a crop that is only thought about asks for before it is planted.
func Consider(in In) Result {
	day := in.Planting.Date
	g := Result{Sheet: in.Sheet, Choices: in.Sheet.Resolve(nil), PlantedOn: day, Seasons: in.Seasons, First: in.Seasons.FirstYear(day),
		Calendar: schedule.Calendar{Seasons: in.Seasons, Planting: day, Life: 1, Done: in.Book.Done, Skip: in.Book.NotNeeded}}
	for _, o := range in.Sheet.Operations(g.Choices) {
		if len(o.Season) == 0 {
			g.Ops = append(g.Ops, o)
		}
	}
	return g
}
