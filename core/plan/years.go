package plan

import (
	"fmt"
	"math"
	"strconv"

	"slowroot/core/nutrition"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/core/working"
	"slowroot/core/yield"
)

// calendar fixes where age year 1 lies.
func (c *computation) calendar() {
	day := c.planting.Standing()
	c.first = c.seasons.FirstYear(day)
	c.cal = schedule.Calendar{Seasons: c.seasons, Planting: day, Life: c.life, Done: c.book.Done, Skip: c.book.NotNeeded}
}

// years builds yield, stand, canopy and feeding to the end of life.
func (c *computation) years() {
	density := c.p.Spec.StationsPerHa()
	series := yield.Series(c.curve, c.harvest, c.sheet.Stand, yield.Block{
		// Thinned layouts carry their thinning in the curve, whose reference is the dense stand.
		PlantsPerHa: func(int) float64 { return density }, Life: c.life})
	c.p.Nutrients = c.feed.Nutrients()
	area := c.ground.AreaM2 / 1e4
	c.p.Years = make([]Year, 0, len(series))
	for _, y := range series {
		season := c.first + y.Age - 1
		stations := c.placed.Stations
		if c.p.OutAge > 0 && y.Age > c.p.OutAge {
			stations -= c.placed.Temporary
		}
		out := Year{Age: y.Age, Season: season, Label: c.seasons.Label(season), Start: c.seasons.Start(season),
			PerHa: y.KgPerHa, BlockKg: y.KgPerHa.Times(c.planted), Alive: y.Alive, Plants: int(math.Round(float64(stations) * y.Alive)),
			SpreadM: c.canopy.SpreadM(float64(y.Age)), FeedPerHa: map[string]float64{}, FeedKg: map[string]float64{}, FeedG: map[string]float64{}, Harvests: []Harvest{}}
		out.HeightM = c.canopy.HeightM * math.Min(1, out.SpreadM/math.Max(0.01, c.canopy.SpreadM(float64(c.life))))
		out.PickedKg = c.book.PickedKg[season]
		_, out.Recorded = c.book.PickedKg[season]
		for _, k := range c.p.Nutrients {
			amount := c.feed.At(k, y.Age, y.KgPerHa.Base)
			d := c.feed.Dose(amount, nutrition.Stand{AliveN: float64(out.Plants), AreaHa: c.planted})
			out.FeedPerHa[k], out.FeedKg[k], out.FeedG[k] = d.KgPerHa, d.BlockKg, d.GPerPlant
			c.feedWorking(k, amount, d, y, out)
		}
		if y.KgPerHa.Base > 0 {
			for _, pick := range c.harvest.Picks {
				a, b := c.seasons.Span(pick.Season[0], pick.Season[len(pick.Season)-1], season)
				out.Harvests = append(out.Harvests, Harvest{Name: pick.Name, From: a, To: b, Rounds: pick.Rounds, BlockKg: out.BlockKg.Times(pick.Share)})
			}
		}
		c.yieldWorking(y, out, density, area)
		c.p.Years = append(c.p.Years, out)
	}
}

func (c *computation) yieldWorking(y yield.Year, out Year, density, areaHa float64) {
	path := "yield." + strconv.Itoa(out.Season)
	if c.On(path) {
		formula := "full yield × fraction by age × density factor × stand factor"
		sub := fmt.Sprintf("%g × %.3f × %.3f × %.3f", c.curve.Full.Base, y.Fraction, y.Density, y.Stand)
		if c.harvest.Cycle != nil {
			formula += " × pruning cycle"
			sub += fmt.Sprintf(" × %.2f", y.Cycle)
		}
		if c.harvest.Rotation != nil {
			formula += " × years of growth taken"
			sub += fmt.Sprintf(" × %d", y.Growth)
		}
		c.Step(path, fmt.Sprintf("Yield of age year %d, per planted hectare", y.Age), formula, sub, y.KgPerHa.Base, c.p.YieldAs,
			"methods Y6 to Y9; "+practice.OriginWords(c.curve.Origin)+": "+c.curve.Source,
			c.Num("full yield", c.curve.Full.Base, c.p.YieldAs, working.Sheet, fmt.Sprintf("seen at %.0f plants/ha; low %s, high %s", c.curve.ReferencePerHa, c.Text(c.curve.Full.Low, c.p.YieldAs), c.Text(c.curve.Full.High, c.p.YieldAs)), ""),
			c.Num("fraction of full", y.Fraction, units.Fraction, working.Sheet, practice.OriginWords(c.curve.Origin), ""),
			c.Num("expected alive", y.Alive, units.Fraction, working.Sheet, practice.OriginWords(c.sheet.Stand.Origin), ""))
		c.Step(path, "Density factor", "r / ((1 − k) + k·r), r = density / reference, k = crowding × fraction of full", fmt.Sprintf("%.5f / ((1 − %.5f) + %.5f·%.5f)", density/c.curve.ReferencePerHa, c.curve.Crowding*y.Fraction, c.curve.Crowding*y.Fraction, density/c.curve.ReferencePerHa),
			y.Density, units.Correction, "Shinozaki & Kira, J. Inst. Polytech. Osaka City Univ. D7, 1956; crowding is assumed", c.Num("density by spacing", density, units.PerArea, working.Computed, "", "rows.density"))
		c.Step(path, "For the block", "yield per planted hectare × planted area", fmt.Sprintf("%.2f × %.6f ha", y.KgPerHa.Base, c.planted), out.BlockKg.Base, c.p.MassAs, "edges and row ends carry no crop",
			c.Num("planted area", c.planted*1e4, units.Area, working.Computed, "", "rows.planted"))
	}
}

func (c *computation) feedWorking(k string, amount float64, d nutrition.Dose, y yield.Year, out Year) {
	path := "feed." + k + "." + strconv.Itoa(out.Season)
	if !c.On(path) {
		return
	}
	name := nutrition.Names[k]
	if c.feed.Basis == nutrition.PerPlant {
		c.Step(path, name+" for the block", "g per plant at this age × living plants / 1000", fmt.Sprintf("%.3f × %d / 1000", amount, out.Plants), d.BlockKg, units.MassKg,
			"methods N3 school A, N7; "+practice.OriginWords(c.feed.Origin)+": "+c.feed.Source,
			c.Num("dose at this age", amount, units.PlantDose, working.Sheet, practice.OriginWords(c.feed.Origin), ""), c.Num("living plants expected", float64(out.Plants), units.Count, working.Computed, "", "rows.stations"))
	} else {
		c.Step(path, name+" for the block", "kg per planted hectare at this age × planted area", fmt.Sprintf("%.3f × %.6f ha", amount, c.planted), d.BlockKg, units.MassKg,
			"methods N3, N7; "+practice.OriginWords(c.feed.Origin)+": "+c.feed.Source,
			c.Num("rate at this age", amount, units.Rate, working.Sheet, practice.OriginWords(c.feed.Origin), ""), c.Num("planted area", c.planted*1e4, units.Area, working.Computed, "", "rows.planted"))
	}
	sum, parts := 0.0, ""
	for _, s := range c.feed.Splits {
		if sh := s.Shares[k]; sh > 0 {
			sum += sh * d.BlockKg
			if parts != "" {
				parts += " + "
			}
			parts += fmt.Sprintf("%.1f (%s)", sh*d.BlockKg, s.Name)
		}
	}
	c.Tell(working.Series, path, "Splits of the year", "Σ share × annual = annual", parts, sum, units.MassKg, "method N5: the shares sum to 1")
}

// lifeFigures are first crop, full crop, what comes in total, and when canopies meet.
func (c *computation) lifeFigures() {
	var first, full *Year
	var total yield.Range
	var ten float64
	for i := range c.p.Years {
		y := &c.p.Years[i]
		total = total.Plus(y.BlockKg)
		if y.Age <= 10 {
			ten += y.BlockKg.Base
		}
		if first == nil && y.PerHa.Base > 0 {
			first = y
		}
		if full == nil && c.fractionAt(y.Age) >= 1 {
			full = y
		}
	}
	when := func(path, label string, y *Year) {
		f := report.Figure{Path: path, Step: "yield", Label: label, Quantity: units.Year, Origin: working.Sheet, Text: "not in this life", Note: ""}
		if y != nil {
			f.Value, f.Text, f.Note = float64(y.Season), y.Label, fmt.Sprintf("age year %d", y.Age)
			if c.On(path) {
				c.Step(path, label, "season year of planting's first growing season + age year − 1", fmt.Sprintf("%d + %d − 1", c.first, y.Age), float64(y.Season), units.Year,
					"method Y6; "+practice.OriginWords(c.curve.Origin)+". A season counts as first when at least half of the growing season is still to come at planting.",
					working.Input{Name: "planting", Shown: c.planting.Standing().Words(), Origin: working.Chosen})
			}
		}
		c.Figure(f)
	}
	when("life.first", "First crop", first)
	when("life.full", "First full crop", full)
	if full != nil {
		c.Figure(report.Figure{Path: "yield.full", Step: "yield", Label: "Full crop", Quantity: c.p.YieldAs, Value: full.PerHa.Base, Low: full.PerHa.Low, High: full.PerHa.High, Ranged: true, Origin: working.Computed, Note: "per planted hectare, in " + full.Label})
		c.Figure(report.Figure{Path: "yield.block", Step: "yield", Label: "From the block", Quantity: c.p.MassAs, Value: full.BlockKg.Base, Low: full.BlockKg.Low, High: full.BlockKg.High, Ranged: true, Origin: working.Computed, Note: "in " + full.Label})
		for _, path := range []string{"yield.full", "yield.block"} {
			if c.On(path) {
				v, q := full.PerHa.Base, c.p.YieldAs
				if path == "yield.block" {
					v, q = full.BlockKg.Base, c.p.MassAs
				}
				c.Tell(working.Lookup, path, "Crop of "+full.Label, "the yield of the first season at the full fraction", "see the working of that season", v, q, "methods Y6 to Y9",
					working.Input{Name: "season " + full.Label, Shown: full.Label, Origin: working.Computed, Figure: "yield." + strconv.Itoa(full.Season)})
			}
		}
	}
	c.Figure(report.Figure{Path: "yield.ten", Step: "yield", Label: "In ten years", Quantity: c.p.MassAs, Value: ten, Origin: working.Computed, Note: "from the block, age years 1 to 10"})
	c.Figure(report.Figure{Path: "yield.total", Step: "yield", Label: "In its life", Quantity: c.p.MassAs, Value: total.Base, Low: total.Low, High: total.High, Ranged: true, Origin: working.Computed, Note: fmt.Sprintf("%d age years", c.life)})
	for _, path := range []string{"yield.ten", "yield.total"} {
		if c.On(path) {
			n, v := c.life, total.Base
			if path == "yield.ten" {
				n, v = 10, ten
			}
			c.Tell(working.Series, path, "Sum of the seasons", "Σ block yield of each age year", fmt.Sprintf("age years 1 to %d", min(n, c.life)), v, c.p.MassAs, "method Y9")
		}
	}
	age := c.canopy.AgeAt(c.p.Spec.PlantSpacingM)
	f := report.Figure{Path: "canopy.touch", Step: "rows", Label: "Canopies meet in the row", Quantity: units.Year, Origin: working.Sheet, Text: "never", Note: "pruning holds them apart"}
	if !math.IsInf(age, 1) && age <= float64(c.life) {
		y := c.first + max(1, int(math.Ceil(age))) - 1
		f.Value, f.Text, f.Note = float64(y), c.seasons.Label(y), fmt.Sprintf("at age %.1f", math.Max(age, 0))
	}
	if c.On("canopy.touch") {
		g := c.canopy
		c.Tell(working.Search, "canopy.touch", "Age at which canopies meet in the row", "a = aₘ − ln(A/d − 1)/r, d = plant spacing", fmt.Sprintf("A = %g m, seen %g m at %g and %g m at %g, d = %g m", g.FinalM, g.Seen[0][1], g.Seen[0][0], g.Seen[1][1], g.Seen[1][0], c.p.Spec.PlantSpacingM),
			age, units.Plain, "methods Y1, Y2: logistic growth (Richards, J. Exp. Bot., 1959); "+practice.OriginWords(g.Origin),
			c.Num("plant spacing", c.p.Spec.PlantSpacingM, units.Spacing, working.Chosen, "", ""))
	}
	c.Figure(f)
}

func (c *computation) fractionAt(age int) float64 {
	if r := c.harvest.Rotation; r != nil {
		if age < r.First || (age-r.First)%r.Every != 0 {
			return 0
		}
		return r.Fractions[min((age-r.First)/r.Every, len(r.Fractions)-1)]
	}
	return c.curve.Fraction(float64(age))
}
