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
	Late      *Late           // what the day of planting costs; nil where practice knows nothing of it
}

// Late is what the day of planting leaves of a full crop, and the whole curve around it.
type Late struct {
	Target civil.Date `json:"target"` // the day the curve is counted from
	Days   int        `json:"days"`   // from there to planting
	Factor float64    `json:"factor"`
	Best   civil.Date `json:"best"` // the nearest day that leaves most
	Curve  []LateDay  `json:"curve"`
	Source string     `json:"source"`

	Warn int `json:"-"`
}

// LateDay is a day planting could be on, and what it leaves of a full crop.
type LateDay struct {
	Day    civil.Date `json:"day"`
	Factor float64    `json:"factor"`
}

// early is how many days before the first point of the curve a day still counts as early, and not as another season.
const early = 45

// late is what planting on its day costs, counted from the nearest beginning of the season it should be in.
func (g Result) late() *Late {
	l := g.Sheet.LatenessOf(g.Choices)
	if l == nil {
		return nil
	}
	out := Late{Warn: l.Warn, Source: practice.OriginWords(l.Origin) + ": " + l.Source}
	for i, y := 0, g.Seasons.YearOf(g.PlantedOn)-1; i < 3; i, y = i+1, y+1 {
		start, _ := g.Seasons.Span(l.Season, l.Season, y)
		if d := g.PlantedOn.Sub(start); i == 0 || max(d, -d) < max(out.Days, -out.Days) {
			out.Target, out.Days = start, d
		}
	}
	if out.Days < int(l.Points[0][0])-early {
		return nil // of a day that far from the season practice knows nothing
	}
	out.Factor = l.Factor(float64(out.Days))
	most, near := 0.0, 1<<30
	first, last := int(l.Points[0][0]), int(l.Points[len(l.Points)-1][0])
	for d := min(first-21, out.Days); d <= max(last+14, out.Days); d++ {
		f := l.Factor(float64(d))
		out.Curve = append(out.Curve, LateDay{out.Target.AddDays(d), f})
		if away := max(d-out.Days, out.Days-d); f > most+1e-9 || f > most-1e-9 && away < near {
			most, near, out.Best = f, away, out.Target.AddDays(d)
		}
	}
	return &out
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
	g.closing(p)
	g.Removal = s.Removes(g.Choices)
	product := s.ProductOf(g.Option)
	g.Product = product.Name
	g.YieldAs, g.MassAs = ShownAs(product.ShowAs)
	g.Also = product.Also
	g.Late = g.late()
	if p.End != nil { // what stands no longer has no years to come
		g.Life = max(1, min(g.Life, in.Seasons.YearOf(p.End.On)-g.First+1))
	}
	g.Calendar = schedule.Calendar{Seasons: in.Seasons, Planting: day, Life: g.Life, Done: in.Book.Done, Skip: in.Book.NotNeeded}
	return g, nil
}

// Window is when something is done in an age year: in a season, or on days counted from planting, which come back every
// year on the same days; where the day of what it follows is recorded, so many days after that.
func (g Result) Window(season []string, days []int, follows *civil.Follows, age int) (from, to civil.Date) {
	if len(days) == 2 {
		day := g.PlantedOn.AddMonths(12 * (age - 1))
		return day.AddDays(days[0]), day.AddDays(days[1])
	}
	from, to = g.Seasons.Span(season[0], season[len(season)-1], g.First+age-1)
	if d := g.Calendar.Followed(follows, age, from); !d.IsZero() {
		return d.AddDays(follows.Days[0]), d.AddDays(follows.Days[1])
	}
	return from, to
}

// far is how many days a bloom may lie from the middle of its season and still be that season's.
const far = 120

// Ripens is when a pick comes off in an age year, and the day of full bloom that was recorded for it, zero where none was:
// the pick then comes as many days early or late as the bloom did against the middle of its season.
func (g Result) Ripens(p yield.Pick, age int) (from, to, bloomed civil.Date) {
	if p.Next {
		age++
	}
	from, to = g.Window(p.Season, p.Days, p.Follows, age)
	id, bloom := g.Harvest.FlowersFor(p)
	if id == "" || len(p.Days) > 0 {
		return from, to, civil.Date{}
	}
	year, expected := g.Flowers(bloom, age, from)
	if d := g.Calendar.Done[schedule.Key(id, year)]; !d.IsZero() {
		late := d.Sub(expected)
		if max(late, -late) > far {
			return from, to, civil.Date{} // noted of another year's bloom
		}
		return from.AddDays(late), to.AddDays(late), d
	}
	return from, to, civil.Date{}
}

// Flowers is the age year in which what is picked from a day on has flowered, and the middle of the season it does so in.
func (g Result) Flowers(b yield.Bloom, age int, from civil.Date) (year int, middle civil.Date) {
	off := 1 << 30
	for y := age - 2; y <= age+1; y++ {
		a, z := g.Seasons.Span(b.Season[0], b.Season[len(b.Season)-1], g.First+y-1)
		m := a.AddDays(z.Sub(a) / 2)
		if d := from.Sub(m.AddDays((b.Days[0] + b.Days[1]) / 2)); max(d, -d) < off {
			off, year, middle = max(d, -d), y, m
		}
	}
	return year, middle
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
