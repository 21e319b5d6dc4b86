package calc

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/canopy"
	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/schedule"
	"slowroot/core/working"
	"slowroot/core/yield"
)

func stands() []Calculator {
	return []Calculator{canopySpread(), clumpCover(), cohorts(), salinity(), yieldLimits(), alternateBearing(), cutsOfAYear(), recurrence(),
		followed()}
}

const richards = "Richards, A flexible growth function for empirical use, J. Exp. Bot., 1959"

func canopySpread() Calculator {
	return Calculator{Name: "canopy-spread", Title: "How wide crowns grow, and when they meet", Source: "methods Y1, Y2; " + richards,
		Purpose: "Spread by age from two observations, and the ages at which crowns meet at a spacing. Leave the final spread out if it is not known.",
		Inputs: []Field{number("age1", "years", "age of the first observation", 0.1, 100).or(2.0), number("spread1M", "m", "spread at the first", 0.05,
			25).or(1.2),
			number("age2", "years", "age of the second observation", 0.1, 100).or(6.0), number("spread2M", "m", "spread at the second", 0.05, 25).or(4.2),
			number("finalM", "m", "final spread; left out, it follows from growth that slows", 0.05, 25).or(5.5).maybe(),
			number("shape", "", "shape of the curve without a final spread", 0.5, 4).or(1.5), number("plantSpacingM", "m", "between plants in the row", 0.1,
				25).or(3.0),
			number("rowSpacingM", "m", "between rows", 0.1, 25).or(5.0), number("age", "years", "spread wanted at", 0, 120).or(8.0)},
		Outputs: []Field{out("finalM", "m", "final spread"), out("spreadM", "m", "at the age wanted"),
			out("inRow", "years", "age crowns meet in the row; none where they never do"),
			out("acrossRows", "years", "age they meet across the rows; none where they never do")},
		run: func(in values, r *Result) error {
			a, b := [2]float64{in.num("age1"), in.num("spread1M")}, [2]float64{in.num("age2"), in.num("spread2M")}
			var at func(float64) float64
			var spread float64
			if f := in.ref("finalM"); f != nil && *f > 0 {
				g := canopy.Growth{FinalM: *f, Seen: [2][2]float64{a, b}}
				if err := g.Valid(); err != nil {
					return finding.Bad("inputs.spread2M", b[1], "does not lie between the first spread and the final one, at a later age",
						"first < second < final spread, rising ages")
				}
				at, spread = g.AgeAt, g.SpreadM(in.num("age"))
				r.Outputs["finalM"] = *f
				r.tell(working.Series, "spreadM", "Spread", "A / (1 + e^(−r·(a − aₘ))), r and aₘ from the two observations", fmt.Sprintf("A %g m, age %g", *f,
					in.num("age")), spread, "m",
					richards)
			} else {
				g, err := canopy.Slow(a, b, in.num("shape"))
				if err != nil {
					return finding.Bad("inputs.spread2M", b[1], err.Error(), "a smaller second spread, or the final spread")
				}
				if g.FinalM > 100 {
					return finding.Bad("inputs.spread2M", b[1], "hardly slows: the final spread would be over 100 m",
						"a smaller second spread, or the final spread")
				}
				at, spread = g.AgeAt, g.SpreadM(in.num("age"))
				r.Outputs["finalM"] = g.FinalM
				r.tell(working.Search, "finalM", "Final spread", "A·(1 − e^(−k·a))^m through both observations", fmt.Sprintf("m %g: k %.6f", g.Shape, g.Rate),
					g.FinalM,
					"m", richards)
			}
			r.Outputs["spreadM"], r.Outputs["inRow"], r.Outputs["acrossRows"] = spread, nil, nil
			for _, name := range []string{"inRow", "acrossRows"} {
				d := in.num(map[string]string{"inRow": "plantSpacingM", "acrossRows": "rowSpacingM"}[name])
				if age := math.Max(0, at(d)); !math.IsInf(age, 1) {
					r.Outputs[name] = age
					r.tell(working.Search, name, "Age crowns reach "+fmt.Sprintf("%g m", d), "the curve turned round", fmt.Sprintf("d = %g m", d), age, "years",
						"method Y2")
				}
			}
			return nil
		}}
}

func clumpCover() Calculator {
	return Calculator{Name: "clump-cover", Title: "Ground that clumps cover with gaps", Source: "method Y8; the mean over the cell, by a grid",
		Purpose: "How much of the ground a stand of clumps covers when some failed.",
		Inputs: []Field{number("sideM", "m", "clumps planted in squares of", 0.3, 5).or(0.8), number("alive", "share", "standing", 0, 1).or(0.7),
			number("reachM", "m", "each has spread to", 0.05, 2).or(0.35)},
		Outputs: []Field{out("cover", "share", "of the ground"), out("atRandom", "share", "if they stood at random"),
			out("perM2", "/m²", "clumps standing")},
		run: func(in values, r *Result) error {
			a, q, reach := in.num("sideM"), in.num("alive"), in.num("reachM")
			c := yield.Cover(a, q, reach)
			r.Outputs["cover"], r.Outputs["atRandom"], r.Outputs["perM2"] = c, yield.CoverAtRandom(q/(a*a), reach), q/(a*a)
			r.tell(working.Series, "cover", "Cover", "mean over the cell of 1 − (1 − q)^n, n clumps within reach", fmt.Sprintf("%g m, q %g, reach %g m", a,
				q, reach),
				c, "",
				"method Y8")
			r.tell(working.Series, "atRandom", "At random", "1 − e^(−π·R²·ρ·q)", fmt.Sprintf("π · %g² · %.4g", reach, q/(a*a)), yield.CoverAtRandom(q/(a*a),
				reach), "",
				"method Y8")
			if q < 0.7 || q/(a*a) < 1 {
				r.warn("stand.thin", "Stand", fmt.Sprintf("%.0f %% stand, %.2f on each square metre: below 70 %% or one a square metre a stand is judged "+
					"too thin. "+
					"Both are tested.",
					100*q, q/(a*a)), "common practice, no source")
			}
			return nil
		}}
}

func cohorts() Calculator {
	return Calculator{Name: "stand-of-ages", Title: "What a stand of several ages bears", Source: "method Y9, common practice",
		Purpose: "The crop of a block whose gaps were planted again, from kilograms a plant by age.",
		Inputs: []Field{{Name: "perPlant", Kind: Table, Meaning: "kilograms a plant by age", Columns: []Field{number("age", "years", "age", 0, 120),
			number("kg", "kg", "a plant bears", 0, 500)},
			Default: []any{map[string]any{"age": 3.0, "kg": 4.0}, map[string]any{"age": 4.0, "kg": 10.0}, map[string]any{"age": 5.0, "kg": 20.0},
				map[string]any{"age": 6.0, "kg": 32.0}, map[string]any{"age": 7.0, "kg": 40.0}}},
			{Name: "stand", Kind: Table, Meaning: "living plants by age", Columns: []Field{number("age", "years", "age", 0, 120),
				whole("plants", "", "living plants",
					0, 1e6)},
				Default: []any{map[string]any{"age": 6.0, "plants": 332.0}, map[string]any{"age": 4.0, "plants": 20.0}, map[string]any{"age": 1.0,
					"plants": 15.0}}}},
		Outputs: []Field{out("kg", "kg", "of the block"), series("eachKg", "kg", "of each age")},
		run: func(in values, r *Result) error {
			var table [][2]float64
			for i, row := range in.rows("perPlant") {
				if i > 0 && row.num("age") <= table[i-1][0] {
					return finding.Bad("inputs.perPlant", row.num("age"), "does not come after the age before it", "rising ages")
				}
				table = append(table, [2]float64{row.num("age"), row.num("kg")})
			}
			var stand []yield.Cohort
			var terms []string
			for _, row := range in.rows("stand") {
				stand = append(stand, yield.Cohort{Age: row.num("age"), Plants: row.int("plants")})
			}
			kg, each := yield.OfCohorts(table, stand)
			for i, c := range stand {
				terms = append(terms, fmt.Sprintf("%d × %.4g kg", c.Plants, each[i]/math.Max(1, float64(c.Plants))))
			}
			r.Outputs["kg"], r.Outputs["eachKg"] = kg, each
			r.tell(working.Series, "kg", "Crop", "Σ plants × kg at their age, straight lines between ages", strings.Join(terms, " + "), kg, "kg",
				"method Y9")
			return nil
		}}
}

func salinity() Calculator {
	names := make([]string, len(yield.Salts()))
	for i, s := range yield.Salts() {
		names[i] = s.Crop
	}
	const source = "Maas and Hoffman, J. Irrig. Drain. Div. ASCE, 1977; Ayers and Westcot, FAO Irrigation and Drainage Paper 29, 1985"
	return Calculator{Name: "salinity-yield", Title: "What salt in the ground costs", Source: "method Y10; " + source,
		Purpose: "Yield left at a salinity of the root zone, and the salinity at which a share is left.",
		Inputs: []Field{choice("crop", "crop with a published threshold", names...).or("orange"),
			number("ecDSM", "dS/m", "saturated paste, not water and not 1 : 5", 0, 60).or(3.0), number("leftPct", "%", "yield that is to be left", 0,
				100).or(90.0)},
		Outputs: []Field{out("left", "share", "of the yield is left"), out("atDSM", "dS/m", "at which the wanted share is left"),
			out("thresholdDSM", "dS/m",
				"threshold")},
		run: func(in values, r *Result) error {
			for _, s := range yield.Salts() {
				if s.Crop != in.str("crop") {
					continue
				}
				r.Outputs["left"], r.Outputs["atDSM"], r.Outputs["thresholdDSM"] = s.Left(in.num("ecDSM")), s.At(in.num("leftPct")/100), s.FromDSM
				r.show("left", "Left", "1 − b/100 · (ECe − t), 0 to 1", fmt.Sprintf("1 − %g/100 · (%g − %g)", s.PerDS, in.num("ecDSM"), s.FromDSM),
					s.Left(in.num("ecDSM")), "", source)
				r.show("atDSM", "Salinity for the share", "t + (1 − share) · 100 / b", fmt.Sprintf("%g + %g / %g", s.FromDSM, 100-in.num("leftPct"), s.PerDS),
					s.At(in.num("leftPct")/100),
					"dS/m", "")
				if in.num("ecDSM") > 20 {
					r.warn("soil.ec-high", "Salinity", "Over 20 dS/m: is it the conductivity of water or of a 1 : 5 extract?", "method Y10")
				}
			}
			return nil
		}}
}

func yieldLimits() Calculator {
	const fao33 = "Doorenbos and Kassam, FAO Irrigation and Drainage Paper 33, 1979"
	return Calculator{Name: "yield-limits", Title: "What limits a yield", Source: "method Y10; water: " + fao33,
		Purpose: "A yield after the stand, the water, other limits and the decline of age, each as its own line; and the school of the smallest limit.",
		Inputs: []Field{number("matureT", "t/ha", "full yield", 0, 500).or(20.0), number("ky", "", "yield response to water", 0, 2).or(1.25),
			number("water", "share", "evaporated of what it would with enough water", 0, 1).or(0.84), number("stand", "share", "of the stand", 0,
				1.3).or(0.9),
			number("nutrition", "share", "by nutrition", 0, 1.3).or(0.95), number("other", "share", "by training, frost or alternation", 0, 1.3).or(0.97),
			number("age", "years", "age", 0, 120).or(10.0), number("declineFrom", "years", "decline begins after", 0, 120).or(20.0),
			number("declinePct", "%/year", "lost each year after it", 0, 50).or(4.0)},
		Outputs: []Field{out("t", "t/ha", "product of all limits"), out("smallestT", "t/ha", "the smallest limit alone"), out("byWater", "share",
			"left by water"),
			out("byAge", "share", "left by age")},
		run: func(in values, r *Result) error {
			w := yield.Watered(in.num("ky"), in.num("water"))
			age := math.Max(0, 1-in.num("declinePct")/100*math.Max(0, in.num("age")-in.num("declineFrom")))
			all := []float64{in.num("stand"), in.num("nutrition"), w, in.num("other"), age}
			t, least := in.num("matureT"), 1.0
			terms := []string{fmt.Sprintf("%g", t)}
			for _, m := range all {
				t *= m
				least = math.Min(least, m)
				terms = append(terms, fmt.Sprintf("%.4g", m))
			}
			r.Outputs["t"], r.Outputs["smallestT"], r.Outputs["byWater"], r.Outputs["byAge"] = t, in.num("matureT")*least, w, age
			r.show("byWater", "Water", "1 − Ky · (1 − ETa/ETm)", fmt.Sprintf("1 − %g · (1 − %g)", in.num("ky"), in.num("water")), w, "", fao33)
			r.tell(working.Series, "t", "Yield", "full × stand × nutrition × water × other × age", strings.Join(terms, " × "), t, "t/ha",
				"independent limits multiply")
			if in.num("water") < 0.5 {
				r.warn("water.outside", "Water", "A deficit of more than half lies outside what the response was measured in.", fao33)
			}
			return nil
		}}
}

func alternateBearing() Calculator {
	return Calculator{Name: "alternate-bearing", Title: "Years on and off",
		Source:  "method Y10; Hoblyn et al., Studies in biennial bearing, J. Pomol., 1936",
		Purpose: "How strongly yields swing from year to year, and what the next on and off year bear.",
		Inputs:  []Field{numbers("yields", "t/ha", "of years in their order", 0, 500).or([]float64{20, 8, 22, 6, 18})},
		Outputs: []Field{out("intensity", "", "0 steady, 1 all or nothing"), out("mean", "t/ha", "mean"), out("on", "t/ha", "an on year"),
			out("off", "t/ha", "an off year")},
		run: func(in values, r *Result) error {
			y := in.list("yields")
			if len(y) < 2 {
				return finding.Bad("inputs.yields", len(y), "are too few to swing", "yields of two years or more")
			}
			i, mean := yield.Alternation(y), 0.0
			for _, v := range y {
				mean += v / float64(len(y))
			}
			r.Outputs["intensity"], r.Outputs["mean"], r.Outputs["on"], r.Outputs["off"] = i, mean, mean*(1+i), mean*(1-i)
			r.tell(working.Series, "intensity", "Intensity", "mean of |yᵢ₊₁ − yᵢ| / (yᵢ₊₁ + yᵢ)", fmt.Sprintf("%d years", len(y)), i, "",
				"Hoblyn et al., 1936")
			return nil
		}}
}

func cutsOfAYear() Calculator {
	return Calculator{Name: "cuts-of-a-year", Title: "Cuts of a year", Source: "method Y11, common practice",
		Purpose: "How many cuts fit between the first and the end of the season, when, and what each gives.",
		Inputs: []Field{{Name: "first", Kind: Day, Meaning: "first cut", Default: "2027-12-13"}, {Name: "end", Kind: Day,
			Meaning: "last day of the season",
			Default: "2028-11-20"},
			whole("everyDays", "days", "from cut to cut", 1, 365).or(70.0), number("annualT", "t/ha", "of the year", 0, 500).or(18.0),
			numbers("shares", "share", "of each cut", 0, 1).or([]float64{0.22, 0.24, 0.20, 0.18, 0.16}),
			number("recoveryPct", "%", "of the herb that becomes oil or leaf dry matter; left out if nothing is won from it", 0.01, 100).maybe()},
		Outputs: []Field{whole("cuts", "", "that fit", 0, 400), words("days", "on"), series("eachT", "t/ha", "of each cut"), out("productKg", "kg/ha",
			"won from the year")},
		run: func(in values, r *Result) error {
			first, end := in.day("first"), in.day("end")
			if end.Before(first) || end.Sub(first) > 800 {
				return finding.Bad("inputs.end", end, "is not a season that begins with the first cut", "a day within two years after it")
			}
			n := yield.Cuts(end.Sub(first), in.int("everyDays"))
			each, err := yield.Shared(in.num("annualT"), in.list("shares"))
			if err != nil {
				return finding.Bad("inputs.shares", in.list("shares"), err.Error(), "shares that sum to 1")
			}
			days := schedule.Recur(first, end, in.int("everyDays"), nil, schedule.OnTheGrid)
			said := make([]string, len(days))
			for i, d := range days {
				said[i] = d.String()
			}
			r.Outputs["cuts"], r.Outputs["days"], r.Outputs["eachT"], r.Outputs["productKg"] = n, strings.Join(said, ", "), each, nil
			r.show("cuts", "Cuts", "⌊(end − first) / interval⌋ + 1", fmt.Sprintf("⌊%d / %d⌋ + 1", end.Sub(first), in.int("everyDays")), float64(n), "",
				"method Y11")
			if p := in.ref("recoveryPct"); p != nil {
				r.Outputs["productKg"] = in.num("annualT") * 10 * *p
				r.show("productKg", "Won", "t/ha × 1000 × recovery", fmt.Sprintf("%g × 1000 × %g %%", in.num("annualT"), *p), in.num("annualT")*10**p, "kg/ha",
					"")
			}
			if n != len(each) {
				r.warn("cuts.shares", "Cuts", fmt.Sprintf("%d cuts fit, and shares are given for %d.", n, len(each)), "method Y11")
			}
			return nil
		}}
}

func followed() Calculator {
	lag := func(name, meaning string, days float64) Field { return whole(name, "days", meaning, 0, 366).or(days) }
	return Calculator{Name: "after-what-was-noted", Title: "After what was noted", Source: "method S2, common practice",
		Purpose: "The days of work that follows a pruning, a cut, a flowering or a harvest: as planned, and moved by the day that was noted.",
		Inputs: []Field{{Name: "planned", Kind: Day, Meaning: "the event, as planned", Default: "2027-02-11"},
			{Name: "noted", Kind: Day, Meaning: "and as it was noted", Optional: true},
			lag("first", "the first work after it", 10), lag("second", "the second", 45), lag("third", "the third", 110)},
		Outputs: []Field{words("firstOn", "the first is on"), words("secondOn", "the second"), words("thirdOn", "the third"),
			out("movedDays", "days", "moved by what was noted")},
		run: func(in values, r *Result) error {
			planned, on := in.day("planned"), in.day("planned")
			for _, name := range []string{"first", "second", "third"} {
				f := civil.Follows{What: "event", Days: [2]int{in.int(name), in.int(name)}}
				if d := in.day("noted"); !d.IsZero() {
					c := schedule.Calendar{Done: map[string]civil.Date{schedule.Key("event", 1): d}}
					if on = c.Followed(&f, 1, planned.AddDays(f.Days[0])); on.IsZero() {
						return finding.Bad("inputs.noted", d, "is more than half a year from the day planned: another year's", "a day within 183 days of it")
					}
				}
				r.Outputs[name+"On"] = on.AddDays(f.Days[0]).String()
			}
			moved := float64(on.Sub(planned))
			r.Outputs["movedDays"] = moved
			r.tell(working.Rule, "movedDays", "Moved", "the day noted − the day planned", fmt.Sprintf("%s − %s", on.Words(), planned.Words()), moved, "",
				"method S2")
			return nil
		}}
}

func recurrence() Calculator {
	return Calculator{Name: "work-that-comes-back", Title: "Work that comes back", Source: "method S6, common practice",
		Purpose: "The days of work every so many days in a season, and what follows when one slips.",
		Inputs: []Field{{Name: "from", Kind: Day, Meaning: "first", Default: "2027-05-01"}, {Name: "to", Kind: Day, Meaning: "season ends",
			Default: "2027-08-31"},
			whole("everyDays", "days", "from one to the next", 1, 400).or(14.0), choice("slip", "when one is done on another day, the next ones count",
				schedule.FromActual, schedule.OnTheGrid).
				or(string(schedule.FromActual)), {Name: "secondDone", Kind: Day, Meaning: "day the second one was really done", Optional: true}},
		Outputs: []Field{whole("times", "", "in the season", 0, 1000), words("days", "on"), words("last", "the last")},
		run: func(in values, r *Result) error {
			from, to := in.day("from"), in.day("to")
			if to.Before(from) || to.Sub(from) > 1100 {
				return finding.Bad("inputs.to", to, "is not a season that begins on the first day", "a day within three years after it")
			}
			var done []civil.Date
			if d := in.day("secondDone"); !d.IsZero() {
				if d.Before(from) {
					return finding.Bad("inputs.secondDone", d, "lies before the first", "a day after the first")
				}
				done = []civil.Date{from, d}
			}
			days := schedule.Recur(from, to, in.int("everyDays"), done, schedule.Slip(in.str("slip")))
			said := make([]string, len(days))
			for i, d := range days {
				said[i] = d.String()
			}
			r.Outputs["times"], r.Outputs["days"], r.Outputs["last"] = len(days), strings.Join(said, ", "), said[len(said)-1]
			r.tell(working.Series, "times", "Times", "first, first + n, … to the end", fmt.Sprintf("%s to %s, every %d days", from.Words(), to.Words(),
				in.int("everyDays")),
				float64(len(days)), "", "method S6")
			return nil
		}}
}
