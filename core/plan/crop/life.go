package crop

import (
	"fmt"
	"math"
	"strconv"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/plan/growth"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
	"slowroot/core/yield"
)

// Figures are first crop, full crop, what comes in total, and when canopies meet.
func (r Result) Figures(in In, say *report.Voice) {
	var first, full *Year
	var total yield.Range
	var ten float64
	for i := range r.Years {
		y := &r.Years[i]
		total = total.Plus(y.BlockKg)
		if y.Age <= 10 {
			ten += y.BlockKg.Base
		}
		if first == nil && y.PerHa.Base > 0 {
			first = y
		}
		if full == nil && in.fractionAt(y.Age) >= 1 {
			full = y
		}
	}
	when := func(path, label string, y *Year) {
		f := report.Figure{Path: path, Step: "yield", Label: label, Quantity: units.Year, Origin: working.Sheet, Text: "not in this life", Note: ""}
		if y != nil {
			f.Value, f.Text, f.Note = float64(y.Season), y.Label, fmt.Sprintf("age year %d", y.Age)
			if say.On(path) {
				say.Step(path, label, "season year of planting's first growing season + age year − 1", fmt.Sprintf("%d + %d − 1", in.Grown.First, y.Age),
					float64(y.Season), units.Year,
					"method Y6; "+practice.OriginWords(in.Grown.Curve.Origin)+". A season counts as first when at least half of the growing season is still to come at "+
						"planting.",
					working.Input{Name: "planting", Shown: in.Grown.PlantedOn.Words(), Origin: working.Chosen})
			}
		}
		say.Figure(f)
	}
	when("life.first", "First crop", first)
	when("life.full", "First full crop", full)
	if full != nil {
		say.Figure(report.Figure{Path: "yield.full", Step: "yield", Label: "Full crop", Quantity: in.Grown.YieldAs, Value: full.PerHa.Base, Low: full.PerHa.Low,
			High: full.PerHa.High, Ranged: true, Origin: working.Computed, Note: "per planted hectare, in " + full.Label})
		say.Figure(report.Figure{Path: "yield.block", Step: "yield", Label: "From the block", Quantity: in.Grown.MassAs, Value: full.BlockKg.Base,
			Low: full.BlockKg.Low, High: full.BlockKg.High, Ranged: true, Origin: working.Computed, Note: "in " + full.Label})
		for _, path := range []string{"yield.full", "yield.block"} {
			if say.On(path) {
				v, q := full.PerHa.Base, in.Grown.YieldAs
				if path == "yield.block" {
					v, q = full.BlockKg.Base, in.Grown.MassAs
				}
				say.Tell(working.Lookup, path, "Crop of "+full.Label, "the yield of the first season at the full fraction", "see the working of that season", v, q,
					"methods Y6 to Y9",
					working.Input{Name: "season " + full.Label, Shown: full.Label, Origin: working.Computed, Figure: "yield." + strconv.Itoa(full.Season)})
			}
		}
	}
	if full != nil {
		in.also(full, say)
	}
	say.Figure(report.Figure{Path: "yield.ten", Step: "yield", Label: "In ten years", Quantity: in.Grown.MassAs, Value: ten, Origin: working.Computed,
		Note: "from the block, age years 1 to 10"})
	say.Figure(report.Figure{Path: "yield.total", Step: "yield", Label: "In its life", Quantity: in.Grown.MassAs, Value: total.Base, Low: total.Low,
		High: total.High, Ranged: true, Origin: working.Computed, Note: fmt.Sprintf("%d age years", in.Grown.Life)})
	for _, path := range []string{"yield.ten", "yield.total"} {
		if say.On(path) {
			n, v := in.Grown.Life, total.Base
			if path == "yield.ten" {
				n, v = 10, ten
			}
			say.Tell(working.Series, path, "Sum of the seasons", "Σ block yield of each age year", fmt.Sprintf("age years 1 to %d", min(n, in.Grown.Life)), v,
				in.Grown.MassAs, "method Y9")
		}
	}
	in.canopyFigure(say)
	r.removal(in, say)
}

// also is what the full crop becomes: oil, kernel, dry matter.
func (in In) also(full *Year, say *report.Voice) {
	for i, a := range in.Grown.Also {
		path := fmt.Sprintf("yield.also.%d", i+1)
		_, q := growth.ShownAs(a.ShowAs)
		f := report.Figure{Path: path, Step: "yield", Label: "As " + a.Name, Quantity: q, Value: full.BlockKg.Base * a.Per.Base,
			Low: full.BlockKg.Low * a.Per.Low, High: full.BlockKg.High * a.Per.High, Ranged: true, Origin: working.Computed,
			Note: fmt.Sprintf("of the full crop in %s, %.4g for each%s (%.4g to %.4g)", full.Label, a.Per.Base, map[bool]string{true: "",
				false: " kilogram"}[in.Grown.MassAs == units.Count], a.Per.Low, a.Per.High)}
		say.Figure(f)
		if say.On(path) {
			say.Step(path, report.Capital(a.Name)+" of the full crop", "crop of the block × kg for each kg", fmt.Sprintf("%.4f × %g", full.BlockKg.Base, a.Per.Base),
				f.Value, q,
				practice.OriginWords(a.Origin), say.Num("crop of the block", full.BlockKg.Base, in.Grown.MassAs, working.Computed, full.Label, "yield.block"))
		}
	}
}

// canopyFigure is when canopies meet in the row.
func (in In) canopyFigure(say *report.Voice) {
	apart := in.Rows.Spec.MeetM()
	age := in.Grown.Canopy.AgeAt(apart)
	f := report.Figure{Path: "canopy.touch", Step: "rows", Label: "Canopies meet in the row", Quantity: units.Year, Origin: working.Sheet, Text: "never",
		Note: "pruning holds them apart"}
	if !math.IsInf(age, 1) && age <= float64(in.Grown.Life) {
		y := in.Grown.First + max(1, int(math.Ceil(age))) - 1
		f.Value, f.Text, f.Note = float64(y), in.Grown.Seasons.Label(y), fmt.Sprintf("at age %.1f", math.Max(age, 0))
	}
	if say.On("canopy.touch") {
		g := in.Grown.Canopy
		say.Tell(working.Search, "canopy.touch", "Age at which canopies meet in the row", "a = aₘ − ln(A/d − 1)/r, d = plant spacing",
			fmt.Sprintf("A = %g m, seen %g m at %g and %g m at %g, d = %g m", g.FinalM, g.Seen[0][1], g.Seen[0][0], g.Seen[1][1], g.Seen[1][0], apart),
			age, units.Plain, "methods Y1, Y2: logistic growth (Richards, J. Exp. Bot., 1959); "+practice.OriginWords(g.Origin),
			say.Num("plant spacing", apart, units.Spacing, working.Chosen, "", ""))
	}
	say.Figure(f)
}

// fractionAt is the share of the full crop at an age.
func (in In) fractionAt(age int) float64 {
	if r := in.Grown.Harvest.Rotation; r != nil {
		if age < r.First || (age-r.First)%r.Every != 0 {
			return 0
		}
		return r.Fractions[min((age-r.First)/r.Every, len(r.Fractions)-1)]
	}
	return in.Grown.Curve.Fraction(float64(age))
}

// Judge says when temporary plants come out and whether the life is over.
func (r Result) Judge(in In, say *report.Voice) {
	r.fed(in, say)
	r.ripens(in, say)
	in.late(say)
	in.disagreements(say)
	if in.Rows.OutAge > 0 {
		in.thinned(in.Rows.Option.Thinning, say)
	}
	if end := in.Grown.First + in.Grown.Life - 1; in.Grown.Seasons.YearOf(say.Today) > end {
		say.Note(finding.Finding{Rule: "life.over", Weight: finding.Watch, Step: "yield", Subject: "Life",
			Source: practice.OriginWords(in.Grown.Sheet.LifeOf(in.Rows.Option).Origin),
			Sentence: fmt.Sprintf("The usual life of %d to %d years ended in %s; what it yields now is not in the sheet.", in.Grown.Sheet.LifeOf(in.Rows.Option).Low,
				in.Grown.Sheet.LifeOf(in.Rows.Option).High, in.Grown.Seasons.Label(end))})
	}
}

// thinned says what is left each time plants come out, by the lattice they stand on, and whether canopies meet sooner.
func (in In) thinned(t *practice.Thinning, say *report.Voice) {
	spec, meet := in.Rows.Spec, in.Rows.Spec.MeetM()
	for stage := 1; t != nil; stage, t = stage+1, t.Again {
		age := in.Grown.Canopy.AgeAt(meet)
		what := "a staggered stand of half as many"
		left, ok := spec.Left(stage)
		if ok {
			what = fmt.Sprintf("%s × %s", say.Text(left.XM, units.Spacing), say.Text(left.YM, units.Spacing))
			if stage == 1 && spec.TakeOut == "" {
				what = fmt.Sprintf("%s × %s", say.Text(spec.RowSpacingM, units.Spacing), say.Text(2*spec.PlantSpacingM, units.Spacing))
			}
			if left.Turned {
				what += ", turned to the rows"
			}
		}
		s := fmt.Sprintf("Taking out %s in %s leaves %s; ", spec.Words(stage), in.Grown.Seasons.Label(in.Grown.First+t.OutAge-1), what)
		touch := in.Grown.Seasons.Label(in.Grown.First + int(math.Ceil(age)) - 1)
		w := finding.Know
		switch {
		case math.IsInf(age, 1) || int(math.Ceil(age)) > in.Grown.Life:
			s += "canopies do not meet in the row before."
		case int(math.Ceil(age)) < t.FromAge:
			w = finding.Watch
			s += fmt.Sprintf("canopies meet in the row in %s already, before the usual age %d to %d.", touch, t.FromAge, t.ToAge)
		default:
			s += fmt.Sprintf("canopies meet in the row in %s.", touch)
		}
		rule := "rows.thinning"
		if stage > 1 {
			rule = "rows.thinning-again"
		}
		say.Note(finding.Finding{Rule: rule, Weight: w, Step: "rows", Subject: "Thinning", Source: "methods LAY-5, Y2; " +
			practice.OriginWords(in.Rows.Option.Origin), Sentence: s})
		meet = left.XM
	}
}

// Consequences are what a way at a fork means for the crop: the nitrogen of its life, and when it is picked in its fullest year.
func Consequences(years []Year) []report.Consequence {
	n, full := 0.0, -1
	for i, y := range years {
		n += y.FeedKg["n"]
		if len(y.Harvests) > 0 && (full < 0 || y.PerHa.Base > years[full].PerHa.Base) {
			full = i
		}
	}
	out := []report.Consequence{{Label: "nitrogen in its life", Quantity: units.MassKg, Value: n}}
	if full >= 0 {
		h := years[full].Harvests
		first, last := h[0].From, h[0].To
		for _, x := range h {
			if x.From.Before(first) {
				first = x.From
			}
			last = civil.Later(last, x.To)
		}
		out = append(out, report.Consequence{Label: "picked, in its fullest year", Text: first.Words() + " to " + last.Words()})
	}
	return out
}
