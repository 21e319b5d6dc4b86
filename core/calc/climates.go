package calc

import (
	"fmt"
	"math"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/finding"
	"slowroot/core/water"
	"slowroot/core/working"
)

const fao56 = "Allen, Pereira, Raes & Smith, FAO Irrigation and Drainage Paper 56, 1998"

// exampleMeans is a temperate northern site, the printed example of method C1.
var exampleMeans = []float64{-1, 0.5, 5, 10, 15, 18.5, 20.5, 20, 15.5, 10, 4.5, 0.5}

func numbers(name, unit, meaning string, lo, hi float64) Field {
	return Field{Name: name, Kind: Numbers, Unit: unit, Meaning: meaning, Min: lo, Max: hi}
}

func monthsFrom(v values) ([]float64, error) {
	m := v.list("months")
	if len(m) != 12 {
		return nil, finding.Bad("inputs.months", len(m), "is not a year of monthly means", "12 values, January first")
	}
	return m, nil
}

func climates() []Calculator {
	latitude := number("latDeg", "°", "latitude, positive north", -90, 90)
	doy := whole("doy", "day", "day of the year", 1, 366)
	return []Calculator{
		{Name: "smooth-year", Title: "Daily values from monthly means", Source: "method C1; Epstein, J. Climate, 1991", Purpose: "A smooth year that keeps each month's mean. It has no extremes: not for frost or chill.",
			Inputs: []Field{numbers("months", "°C or mm", "January to December", -60, 2000).or(exampleMeans), whole("harmonics", "", "1 to 6", 1, 6).or(4.0), doy.or(105.0)}, Outputs: []Field{out("value", "", "on that day"), out("mean", "", "of the year"), series("year", "", "every tenth day")},
			run: func(in values, r *Result) error {
				m, err := monthsFrom(in)
				if err != nil {
					return err
				}
				s, err := climate.NewSmooth(m, in.int("harmonics"))
				if err != nil {
					return prefix(err)
				}
				year := make([]float64, 0, 37)
				for d := 1; d <= 365; d += 10 {
					year = append(year, s.At(float64(d)))
				}
				r.Outputs["value"], r.Outputs["mean"], r.Outputs["year"] = s.At(in.num("doy")), s.Mean, year
				r.tell(working.Series, "value", "On the day", "a0 + Σ k_j·(A_j·cos 2πjt/12 + B_j·sin 2πjt/12), k_j = (πj/12)/sin(πj/12)", fmt.Sprintf("a0 %.4f, day %d", s.Mean, in.int("doy")), s.At(in.num("doy")), "", "Epstein, J. Climate, 1991")
				return nil
			}},
		{Name: "rain-days", Title: "A month of rain, drawn from a seed", Source: "method C2; Geng, Penning de Vries & Supit, Agric. Forest Meteorol., 1986", Purpose: "A made-up month that has the normals' rain and wet days; the same seed gives the same month.",
			Inputs: []Field{number("rainMm", "mm", "of the month", 0, 2000).or(124.0), number("wetDays", "days", "with rain", 0, 31).or(10.0), whole("days", "days", "of the month", 28, 31).or(31.0), whole("seed", "", "any whole number", 0, 9007199254740991).or(7.0)}, Outputs: []Field{series("rain", "mm", "day by day"), out("totalMm", "mm", "of this month"), out("wetAfterDry", "share", "chance of rain after a dry day"), out("wetAfterWet", "share", "after a wet one"), out("shape", "", "of the gamma amounts"), out("scale", "mm", "of the gamma amounts")},
			run: func(in values, r *Result) error {
				m, err := climate.NewRainModel(in.num("rainMm"), in.num("wetDays"), in.int("days"))
				if err != nil {
					return prefix(err)
				}
				days := m.Days(in.int("days"), climate.NewRandom(uint64(in.num("seed"))))
				total := 0.0
				for _, d := range days {
					total += d
				}
				r.Outputs["rain"], r.Outputs["totalMm"], r.Outputs["wetAfterDry"], r.Outputs["wetAfterWet"], r.Outputs["shape"], r.Outputs["scale"] = days, total, m.WetAfterDry, m.WetAfterWet, m.Shape, m.Scale
				r.tell(working.Series, "totalMm", "Rain of the month", "two-state chain; amounts −μ·ln(1 − u)", fmt.Sprintf("μ = %g mm, seed %.0f", m.MeanMM, in.num("seed")), total, "mm", "Geng et al., 1986; exponential amounts; SplitMix64")
				return nil
			}},
		{Name: "frost-dates", Title: "Last frost for a risk", Source: "method C3; Thom & Shaw, Mon. Weather Rev., 1958", Purpose: "The day after which frost comes only in a given share of years.",
			Inputs: []Field{numbers("days", "day", "day of the year of the last frost, one a year with frost", 1, 366).or([]float64{98, 105, 112, 91, 120, 101, 108, 115, 95, 103, 110, 107, 99, 118, 104}), whole("years", "years", "looked at, with and without frost", 1, 200).or(15.0), number("risk", "share", "that frost still comes", 0.005, 0.995).or(0.1), whole("life", "years", "of a planting", 1, 100).or(20.0)}, Outputs: []Field{out("normalDay", "day", "by the normal school"), out("empiricalDay", "day", "by the quantile"), whole("day", "day", "taken, rounded up; none where frost is rarer than the risk", 1, 366), out("frostShare", "share", "of years that have a frost"), out("mean", "day", "mean"), out("sd", "days", "standard deviation"), out("lifeRisk", "share", "that a yearly risk strikes once in the life")},
			run: func(in values, r *Result) error {
				f, err := (climate.FrostDates{Days: in.list("days"), Years: in.int("years")}).Spring(in.num("risk"))
				if err != nil {
					return prefix(err)
				}
				r.Outputs["frostShare"], r.Outputs["lifeRisk"] = f.FrostShare, climate.LifeRisk(in.num("risk"), in.int("life"))
				if f.Never {
					r.warn("climate.frost-rare", "Frost", fmt.Sprintf("Frost comes in %.0f %% of years only: a risk of %.0f %% is not reached on any day, and no date is needed.", 100*f.FrostShare, 100*in.num("risk")), "method C3")
					return nil
				}
				r.Outputs["normalDay"], r.Outputs["empiricalDay"], r.Outputs["day"], r.Outputs["mean"], r.Outputs["sd"] = f.Normal, f.Empirical, f.Day, f.Mean, f.SD
				r.show("normalDay", "Normal school", "mean + s·Φ⁻¹(1 − p/p₀), p₀ the share of years with frost", fmt.Sprintf("%.3f + %.3f·Φ⁻¹(1 − %g/%.4f)", f.Mean, f.SD, in.num("risk"), f.FrostShare), f.Normal, "day", "Thom & Shaw, 1958")
				r.show("normalDay", "Check: frost after that day", "p₀·(1 − Φ((day − mean)/s))", fmt.Sprintf("%.4f·(1 − Φ((%.3f − %.3f)/%.3f))", f.FrostShare, f.Normal, f.Mean, f.SD), f.After(f.Normal), "share", "Thom & Shaw, 1958")
				if f.Rough {
					r.warn("climate.few-years", "Years", "Fewer than ten years with frost: a rough figure.", "method C3")
				}
				return nil
			}},
		{Name: "bloom-frost", Title: "Blossom lost to frost", Source: "method C3; critical temperatures from memory", Purpose: "Share of blossom lost at a temperature, between 10 % and 90 % kill.",
			Inputs: []Field{number("tC", "°C", "for half an hour", -40, 10).or(-3.05), number("t10C", "°C", "10 % kill", -40, 5).or(-2.2), number("t90C", "°C", "90 % kill", -45, 5).or(-3.9)}, Outputs: []Field{out("lost", "share", "of the blossom")},
			run: func(in values, r *Result) error {
				if in.num("t90C") >= in.num("t10C") {
					return finding.Bad("inputs.t90C", in.num("t90C"), "90 % kill is colder than 10 %", "below t10C")
				}
				v := climate.BloomLoss(in.num("tC"), in.num("t10C"), in.num("t90C"))
				r.Outputs["lost"] = v
				r.tell(working.Rule, "lost", "Lost", "0.1 + 0.8·(T10 − T)/(T10 − T90)", fmt.Sprintf("T %g", in.num("tC")), v, "share", "from memory: extension bulletins")
				return nil
			}},
		{Name: "degree-days", Title: "Growing degree-days of a day", Source: "method C4; Baskerville & Emin, Ecology, 1969; McMaster & Wilhelm, 1997", Purpose: "By every school, since a threshold holds only with its own.",
			Inputs: []Field{number("tminC", "°C", "minimum", -60, 60).or(8.0), number("tmaxC", "°C", "maximum", -60, 60).or(28.0), number("baseC", "°C", "lower threshold", -5, 40).or(10.0), number("upperC", "°C", "upper threshold", -5, 60).maybe()}, Outputs: []Field{out("sine", "°C·day", "single sine, the default"), out("triangle", "°C·day", "single triangle"), out("averageFloor", "°C·day", "average, floor at nought"), out("averageClip", "°C·day", "average, both clipped")},
			run: func(in values, r *Result) error {
				up := in.num("baseC") - 1
				if in.has("upperC") {
					if up = in.num("upperC"); up <= in.num("baseC") {
						return finding.Bad("inputs.upperC", up, "does not lie above the lower threshold", "more than baseC")
					}
				}
				for k, s := range map[string]climate.HeatSchool{"sine": climate.Sine, "triangle": climate.Triangle, "averageFloor": climate.AverageFloor, "averageClip": climate.AverageClip} {
					v, err := climate.DegreeDays(in.num("tminC"), in.num("tmaxC"), in.num("baseC"), up, s)
					if err != nil {
						return prefix(err)
					}
					r.Outputs[k] = v
				}
				r.tell(working.Rule, "sine", "Single sine", "[(M − T_L)(π/2 − θ) + a·cos θ]/π, upper part taken off", fmt.Sprintf("M %g, a %g", (in.num("tminC")+in.num("tmaxC"))/2, (in.num("tmaxC")-in.num("tminC"))/2), r.Outputs["sine"].(float64), "°C·day", "Baskerville & Emin, Ecology, 1969")
				return nil
			}},
		{Name: "dormancy-break", Title: "When growth begins", Source: "method C5, common practice", Purpose: "First day on which the running mean of the daily mean reaches a base.",
			Inputs: []Field{numbers("months", "°C", "monthly means, January first", -60, 60).or(exampleMeans), number("baseC", "°C", "base", -5, 30).or(10.0), whole("meanOf", "days", "running mean of", 1, 31).or(7.0), whole("start", "day", "looked for from this day of the year on", 1, 365).or(1.0)}, Outputs: []Field{whole("day", "day", "day of the year", 0, 366)},
			run: func(in values, r *Result) error {
				m, err := monthsFrom(in)
				if err != nil {
					return err
				}
				s, err := climate.NewSmooth(m, 6)
				if err != nil {
					return prefix(err)
				}
				d, ok := climate.DormancyBreak(func(d int) float64 { return s.At(float64(d)) }, in.int("start"), in.int("meanOf"), 1, in.num("baseC"))
				if !ok {
					return finding.Bad("inputs.baseC", in.num("baseC"), "is never reached in this year", "a base below the warmest mean")
				}
				r.Outputs["day"] = d
				r.tell(working.Search, "day", "Growth begins", "first day with running mean ≥ base", fmt.Sprintf("%d-day mean ≥ %g", in.int("meanOf"), in.num("baseC")), float64(d), "day", "common practice, no source")
				return nil
			}},
		{Name: "chill", Title: "Winter chill by four models", Source: "method C6; Weinberger 1950; Richardson et al. 1974; Fishman, Erez & Couvillon 1987", Purpose: "Chill hours, Utah units and dynamic portions of hourly temperatures.",
			Inputs: []Field{numbers("hourly", "°C", "hour by hour", -60, 60).or([]float64{10, 8, 6, 4, 3, 2, 1, 0, -1, 2, 5, 7, 7.2, 7.3, 9.1, 9.2, 12.4, 12.5, 15.9, 16, 17, 18, 18.1, 20}), whole("repeat", "days", "the list again and again", 1, 366).or(1.0)}, Outputs: []Field{out("hours", "h", "at or below 7.2 °C"), out("hoursAbove0", "h", "0 to 7.2 °C"), out("utah", "units", "Utah"), out("positiveUtah", "units", "positive Utah"), out("portions", "portions", "dynamic model, the default")},
			run: func(in values, r *Result) error {
				l := in.list("hourly")
				n := in.int("repeat")
				if len(l)*n > MaxList {
					return finding.Bad("inputs.repeat", n, "makes more than a year of hours", fmt.Sprintf("list × repeat up to %d", MaxList))
				}
				var h []float64
				for i := 0; i < n; i++ {
					h = append(h, l...)
				}
				c, err := climate.Chilling(h)
				if err != nil {
					return prefix(err)
				}
				r.Outputs["hours"], r.Outputs["hoursAbove0"], r.Outputs["utah"], r.Outputs["positiveUtah"], r.Outputs["portions"] = c.Hours, c.HoursAbove0, c.Utah, c.PositiveUtah, c.Portions
				r.tell(working.Series, "portions", "Dynamic model", "E ← xs − (xs − E)·exp(−k1); when E ≥ 1 a portion xi·E is laid by", fmt.Sprintf("%d hours", len(h)), c.Portions, "portions", "Fishman, Erez & Couvillon, J. Theor. Biol., 1987; constants Erez et al., Acta Hort., 1990")
				return nil
			}},
		{Name: "hourly-temperatures", Title: "Hours from minimum and maximum", Source: "method C7; Linvill, HortScience, 1990", Purpose: "Twenty-four temperatures from sunrise on.",
			Inputs: []Field{number("tminC", "°C", "minimum", -60, 60).or(2.0), number("tmaxC", "°C", "maximum", -60, 60).or(14.0), number("nextMinC", "°C", "next day's minimum", -60, 60).or(3.0), number("dayLengthH", "h", "day length", 4, 20).or(10.0)}, Outputs: []Field{series("hours", "°C", "from sunrise"), out("mean", "°C", "mean of the day")},
			run: func(in values, r *Result) error {
				h, err := climate.Hourly(in.num("tminC"), in.num("tmaxC"), in.num("nextMinC"), in.num("dayLengthH"))
				if err != nil {
					return prefix(err)
				}
				sum := 0.0
				for _, v := range h {
					sum += v / 24
				}
				r.Outputs["hours"], r.Outputs["mean"] = h[:], sum
				r.tell(working.Series, "mean", "Mean of the hours", "sine by day, logarithmic fall by night", fmt.Sprintf("day of %g h", in.num("dayLengthH")), sum, "°C", "Linvill, HortScience, 1990")
				return nil
			}},
		{Name: "rainy-season", Title: "Onset and end of the rains", Source: "method C10; Sivakumar, Agric. For. Meteorol., 1988", Purpose: "First day of rains that last, false starts apart.",
			Inputs: []Field{numbers("rain", "mm", "day by day", 0, 1000).or(exampleRain()), whole("start", "", "index looked for from", 0, 8784).or(0.0), whole("dryRun", "days", "longest dry run borne in the 30 days after", 1, 30).or(7.0)}, Outputs: []Field{whole("onset", "", "index of the first day, from 0; none where they do not begin", 0, 8784), words("found", "found, provisional or not decidable yet"), series("falseStarts", "", "indices"), whole("end", "", "index of the last rain; none where they do not end", 0, 8784), whole("longestDry", "days", "longest dry spell", 0, 8784)},
			run: func(in values, r *Result) error {
				rain := in.list("rain")
				o := climate.RainsBegin(rain, in.int("start"), in.int("dryRun"))
				r.Outputs["onset"], r.Outputs["found"], r.Outputs["end"] = nil, "not decidable yet", nil
				if o.Found {
					r.Outputs["found"], r.Outputs["onset"] = "found", o.Index
					if end, ok := climate.RainsEnd(rain, o.Index); ok {
						r.Outputs["end"] = end
					}
				}
				if o.Provisional {
					r.Outputs["found"], r.Outputs["onset"] = "provisional", o.Index
				}
				if in.int("start") >= len(rain) {
					return finding.Bad("inputs.start", in.int("start"), "lies beyond the days given", fmt.Sprintf("0 to %d", len(rain)-1))
				}
				r.Outputs["falseStarts"] = floats(o.FalseStarts)
				longest := 0
				for _, s := range climate.DrySpells(rain) {
					longest = max(longest, s.Length)
				}
				r.Outputs["longestDry"] = longest
				r.tell(working.Search, "onset", "Onset", "rain ≥ 1 mm, ≥ 20 mm in three days, no dry run over the limit in 30 days", fmt.Sprintf("%d days, limit %d", len(rain), in.int("dryRun")), float64(o.Index), "", "Sivakumar, 1988")
				return nil
			}},
		{Name: "drought-trigger", Title: "When to water by days without rain", Source: "method C11, common practice", Purpose: "Days on which water is due under a days-without-rain rule.",
			Inputs: []Field{numbers("rain", "mm", "day by day", 0, 1000).or(exampleRain()), whole("days", "days", "without adequate rain", 1, 60).or(11.0), number("adequateMm", "mm", "rain that counts", 0.1, 100).or(5.0)}, Outputs: []Field{series("waterOn", "", "indices, from 0")},
			run: func(in values, r *Result) error {
				d, err := climate.DroughtTriggers(in.list("rain"), in.int("days"), in.num("adequateMm"))
				if err != nil {
					return prefix(err)
				}
				r.Outputs["waterOn"] = floats(d)
				r.tell(working.Count, "waterOn", "Waterings", "counter of days since adequate rain or the last watering", fmt.Sprintf("%d of %d days", len(d), len(in.list("rain"))), float64(len(d)), "", "common practice, no source")
				return nil
			}},
		{Name: "day-length", Title: "Day length", Source: "method C12; " + fao56 + ", eq. 24 to 34", Purpose: "Hours of daylight, for phenology and for work.",
			Inputs: []Field{latitude.or(-20.0), doy.or(246.0)}, Outputs: []Field{out("hours", "h", "without refraction"), out("workHours", "h", "upper limb, with refraction")},
			run: func(in values, r *Result) error {
				a, b := climate.DayLength(in.num("latDeg"), in.int("doy")), climate.WorkDayLength(in.num("latDeg"), in.int("doy"))
				r.Outputs["hours"], r.Outputs["workHours"] = a, b
				r.tell(working.Series, "hours", "Day length", "24/π · arccos(−tan φ · tan δ)", fmt.Sprintf("φ %g°, day %d", in.num("latDeg"), in.int("doy")), a, "h", fao56)
				return nil
			}},
		{Name: "sun-position", Title: "Where the sun stands", Source: "method C12; Meeus, Astronomical Algorithms, 1998", Purpose: "Height and direction of the sun, and the shadow of a row.",
			Inputs: []Field{{Name: "day", Kind: Day, Meaning: "date", Default: "2026-06-21"}, number("utMinutes", "min", "minutes of universal time", 0, 1440).or(600.0), latitude.or(48.0), number("lonDeg", "°", "longitude, positive east", -180, 180).or(11.0), number("rowBearingDeg", "°", "bearing of the rows", 0, 180).or(0.0), number("rowHeightM", "m", "height of a row", 0, 50).or(3.0)}, Outputs: []Field{out("elevationDeg", "°", "above the horizon"), out("azimuthDeg", "°", "clockwise from north"), out("declinationDeg", "°", "of the sun"), out("shadowM", "m", "across the alley; none at night")},
			run: func(in values, r *Result) error {
				s := climate.SunAt(in.day("day"), in.num("utMinutes"), in.num("latDeg"), in.num("lonDeg"))
				r.Outputs["elevationDeg"], r.Outputs["azimuthDeg"], r.Outputs["declinationDeg"], r.Outputs["shadowM"] = s.ElevationDeg, s.AzimuthDeg, s.DeclinationDeg, nil
				if sh := climate.RowShadow(in.num("rowHeightM"), in.num("rowBearingDeg"), s); !math.IsInf(sh, 0) {
					r.Outputs["shadowM"] = sh
				}
				r.tell(working.Series, "elevationDeg", "Elevation", "sin h = sin φ·sin δ + cos φ·cos δ·cos H", fmt.Sprintf("δ %.4f°", s.DeclinationDeg), s.ElevationDeg, "°", "Meeus, 1998, low precision")
				return nil
			}},
		{Name: "season-word", Title: "What a month is called here", Source: "method C13, common practice", Purpose: "Season words in both hemispheres, and the same day in the other.",
			Inputs: []Field{{Name: "day", Kind: Day, Meaning: "date", Default: "2026-08-31"}, latitude.or(-38.0)}, Outputs: []Field{words("season", "here"), words("otherHemisphere", "the same day of the season there")},
			run: func(in values, r *Result) error {
				w, err := climate.SeasonOf(in.day("day").Month(), in.num("latDeg"))
				if err != nil {
					return prefix(err)
				}
				r.Outputs["season"], r.Outputs["otherHemisphere"] = w, climate.OtherHemisphere(in.day("day")).String()
				r.tell(working.Rule, "season", "Season", "spring from March north, September south", fmt.Sprintf("month %d", in.day("day").Month()), 0, "", "common practice, no source")
				return nil
			}},
		{Name: "flowering-to-harvest", Title: "From flowering to harvest", Source: "method C14, common practice", Purpose: "The harvest window that follows flowering, and whether a stated one agrees.",
			Inputs: []Field{{Name: "from", Kind: Day, Meaning: "flowering begins", Default: "2026-10-01"}, {Name: "to", Kind: Day, Meaning: "flowering ends", Default: "2026-11-30"}, whole("days", "days", "flowering to harvest", 1, 500).or(122.0), {Name: "stated", Kind: Day, Meaning: "stated start of harvest", Optional: true}}, Outputs: []Field{words("harvestFrom", "harvest begins"), words("harvestTo", "harvest ends"), words("agrees", "with what is stated")},
			run: func(in values, r *Result) error {
				if in.day("to").Before(in.day("from")) {
					return finding.Bad("inputs.to", in.day("to"), "flowering ends before it begins", "a day on or after from")
				}
				a, b := climate.HarvestFrom(in.day("from"), in.day("to"), in.int("days"))
				r.Outputs["harvestFrom"], r.Outputs["harvestTo"], r.Outputs["agrees"] = a.String(), b.String(), ""
				if s := in.day("stated"); !s.IsZero() {
					off, ok := climate.Agrees(a, s)
					r.Outputs["agrees"] = "agrees"
					if !ok {
						r.Outputs["agrees"] = fmt.Sprintf("%d days off", off)
						r.warn("climate.harvest-disagrees", "Harvest", fmt.Sprintf("Flowering and %d days give %s, the sheet states %s.", in.int("days"), a.Words(), s.Words()), "method C14")
					}
				}
				r.tell(working.Rule, "harvestFrom", "Harvest", "flowering + days", in.day("from").String(), 0, "", "common practice, no source")
				return nil
			}},
		{Name: "flowering-overlap", Title: "Do two kinds flower together?", Source: "method C15, common practice", Purpose: "Days two flowering windows share.",
			Inputs: []Field{{Name: "aFrom", Kind: Day, Meaning: "first kind from", Default: "2026-04-01"}, {Name: "aTo", Kind: Day, Meaning: "to", Default: "2026-04-10"}, {Name: "bFrom", Kind: Day, Meaning: "pollinizer from", Default: "2026-04-08"}, {Name: "bTo", Kind: Day, Meaning: "to", Default: "2026-04-20"}}, Outputs: []Field{whole("days", "days", "shared", 0, 366), out("share", "share", "of the first kind's days")},
			run: func(in values, r *Result) error {
				if in.day("aTo").Before(in.day("aFrom")) || in.day("bTo").Before(in.day("bFrom")) {
					return finding.Bad("inputs.aTo", in.day("aTo"), "a window ends before it begins", "to on or after from")
				}
				d, s := climate.Overlap([2]civil.Date{in.day("aFrom"), in.day("aTo")}, [2]civil.Date{in.day("bFrom"), in.day("bTo")})
				r.Outputs["days"], r.Outputs["share"] = d, s
				r.tell(working.Rule, "days", "Overlap", "min(ends) − max(starts) + 1", "", float64(d), "days", "common practice, no source")
				if s < 0.5 {
					r.warn("climate.bloom-apart", "Pollination", "Less than half of the flowering is shared.", "method C15, common practice")
				}
				return nil
			}},
		{Name: "workable-days", Title: "Days that can be worked", Source: "method C16, binomial; spells make it optimistic", Purpose: "How sure a number of workable days is, and how many days to set aside.",
			Inputs: []Field{number("p", "share", "a day can be worked with", 0, 1).or(0.6), whole("days", "days", "set aside", 1, 366).or(20.0), whole("needed", "days", "workable days needed", 1, 366).or(12.0), number("sure", "share", "wanted", 0.01, 0.999).or(0.8)}, Outputs: []Field{out("probability", "share", "that the days suffice"), whole("setAside", "days", "to be as sure as wanted; 0 over a year", 0, 366)},
			run: func(in values, r *Result) error {
				v := climate.AtLeastDays(in.num("p"), in.int("days"), in.int("needed"))
				n, _ := climate.DaysNeeded(in.num("p"), in.int("needed"), in.num("sure"))
				r.Outputs["probability"], r.Outputs["setAside"] = v, n
				r.tell(working.Series, "probability", "Probability", "Σ C(n, i)·p^i·(1 − p)^(n − i), i ≥ k", fmt.Sprintf("p %g, n %d, k %d", in.num("p"), in.int("days"), in.int("needed")), v, "share", "binomial distribution")
				return nil
			}},
		{Name: "year-losses", Title: "What storms leave of a year", Source: "method C16, arithmetic", Purpose: "The year's yield after damage to parts of a block.",
			Inputs: []Field{{Name: "losses", Kind: Table, Meaning: "events", Columns: []Field{number("areaShare", "share", "of the block", 0, 1), number("yieldLoss", "share", "lost there", 0, 1)}, Default: []any{map[string]any{"areaShare": 0.5, "yieldLoss": 0.4}, map[string]any{"areaShare": 1.0, "yieldLoss": 0.1}}}}, Outputs: []Field{out("left", "share", "of the year's yield")},
			run: func(in values, r *Result) error {
				var l [][2]float64
				for _, e := range in.rows("losses") {
					l = append(l, [2]float64{e.num("areaShare"), e.num("yieldLoss")})
				}
				m, err := climate.YearMultiplier(l)
				if err != nil {
					return prefix(err)
				}
				r.Outputs["left"] = m
				r.tell(working.Series, "left", "Left", "Π(1 − area share · yield loss)", fmt.Sprintf("%d events", len(l)), m, "share", "arithmetic")
				return nil
			}},
		evapotranspiration(latitude, doy),
		{Name: "crop-coefficient", Title: "Crop coefficient of a young stand", Source: "method WAT-2; " + fao56 + "; Allen & Pereira, Irrigation Science, 2009", Purpose: "A table coefficient moved to a climate and reduced by ground cover, by every school.",
			Inputs: []Field{number("kcMid", "", "from the table", 0.1, 1.6).or(0.90), number("heightM", "m", "height of the crop", 0.1, 40).or(2.5), number("cover", "share", "ground shaded at noon", 0, 1).or(0.35), number("wind2MS", "m/s", "wind at 2 m", 0, 20).or(2.0), number("rhMinPct", "%", "minimum humidity", 0, 100).or(45.0), number("kcBare", "", "of bare or covered ground", 0, 1).or(0.15), number("ml", "", "1.5 to 2.0", 1, 2.5).or(2.0), number("et0Mm", "mm/day", "reference evapotranspiration", 0, 20).or(5.0)}, Outputs: []Field{out("adjusted", "", "full coefficient in this climate"), out("density", "", "reduction, default"), out("linear", "", "reduction, full at 85 %"), out("split", "", "reduction, split"), out("plus", "", "reduction, cover + 0.1"), out("double", "", "reduction, twice the cover"), out("kc", "", "coefficient of this stand"), out("useMm", "mm/day", "crop use")},
			run: func(in values, r *Result) error {
				c, err := water.ByCover(in.num("cover"), in.num("heightM"), in.num("ml"))
				if err != nil {
					return prefix(err)
				}
				full := water.Adjust(in.num("kcMid"), in.num("wind2MS"), in.num("rhMinPct"), in.num("heightM"))
				kc := water.Coefficient(c.Density, full, in.num("kcBare"))
				r.Outputs["adjusted"], r.Outputs["density"], r.Outputs["linear"], r.Outputs["split"], r.Outputs["plus"], r.Outputs["double"], r.Outputs["kc"], r.Outputs["useMm"] = full, c.Density, c.Linear, c.Split, c.Plus, c.Double, kc, kc*in.num("et0Mm")
				r.show("kc", "Coefficient", "bare + Kd·(full − bare), Kd = min(1; ML·fc; fc^(1/(1 + h)))", fmt.Sprintf("%g + %.3f·(%.3f − %g)", in.num("kcBare"), c.Density, full, in.num("kcBare")), kc, "", "Allen & Pereira, Irrigation Science 28:17–34, 2009")
				return nil
			}},
		{Name: "effective-rain", Title: "Rain that reaches the roots", Source: "method WAT-3; SCS TR-21, table entries from memory", Purpose: "Effective rain of a month by four schools.",
			Inputs: []Field{number("rainMm", "mm", "of the month", 0, 3000).or(60.0), number("cropUseMm", "mm", "of the month", 0, 1000).or(130.0), number("storageMm", "mm", "usable storage of the soil", 0, 500).or(50.0)}, Outputs: []Field{out("storageAwareMm", "mm", "SCS TR-21, the default"), out("simpleMm", "mm", "simple SCS"), out("eightyMm", "mm", "80 % rule"), out("fixedMm", "mm", "three quarters")},
			run: func(in values, r *Result) error {
				e, err := water.EffectiveRain(in.num("rainMm"), in.num("cropUseMm"), in.num("storageMm"))
				if err != nil {
					return prefix(err)
				}
				r.Outputs["storageAwareMm"], r.Outputs["simpleMm"], r.Outputs["eightyMm"], r.Outputs["fixedMm"] = e.Storage, e.Simple, e.Eighty, e.Fixed
				r.tell(working.Rule, "storageAwareMm", "Effective rain", "f(D)·(1.252474·P^0.82416 − 2.935224)·10^(0.00095·ETc), at most P and ETc", fmt.Sprintf("P %g, ETc %g, D %g", in.num("rainMm"), in.num("cropUseMm"), in.num("storageMm")), e.Storage, "mm", "SCS TR-21")
				return nil
			}},
	}
}

func floats(v []int) []float64 {
	out := make([]float64, len(v))
	for i, x := range v {
		out[i] = float64(x)
	}
	return out
}

// exampleRain is the printed series of methods C10 and C11, day 0 on the first of a month.
func exampleRain() []float64 {
	rain := make([]float64, 120)
	for i, mm := range map[int]float64{10: 12, 11: 9, 30: 15, 31: 8, 36: 5, 40: 6, 45: 11, 50: 9, 55: 4, 60: 7, 66: 3, 72: 8} {
		rain[i] = mm
	}
	return rain
}

func evapotranspiration(latitude, doy Field) Calculator {
	return Calculator{Name: "reference-evapotranspiration", Title: "Reference evapotranspiration", Source: "method WAT-1; " + fao56, Purpose: "What short grass would use in a day, by Penman–Monteith and by temperature alone.",
		Inputs: []Field{latitude.or(50.8), doy.or(187.0), number("elevationM", "m", "above the sea", -450, 6000).or(100.0), number("tminC", "°C", "minimum", -60, 60).or(12.3), number("tmaxC", "°C", "maximum", -60, 60).or(21.5),
			number("rhMaxPct", "%", "highest humidity", 0, 100).maybe(), number("rhMinPct", "%", "lowest humidity", 0, 100).maybe(), number("rhMeanPct", "%", "mean humidity", 0, 100).maybe(), number("dewC", "°C", "dew point", -60, 60).maybe(), number("vapourKPa", "kPa", "actual vapour pressure", 0, 10).maybe(), number("sunHours", "h", "bright sun", 0, 24).maybe(), number("solarMJ", "MJ/m²", "radiation of the day", 0, 60).maybe(), number("windMS", "m/s", "wind", 0, 80).maybe(), number("windHeightM", "m", "measured at", 0.5, 50).or(2.0), number("soilHeatMJ", "MJ/m²", "into the soil; 0 for a day", -10, 10).or(0.0), choice("where", "for radiation from temperature", "inland", "coast").or("inland")},
		Outputs: []Field{out("mm", "mm/day", "Penman–Monteith"), out("lowMm", "mm/day", "low"), out("highMm", "mm/day", "high"), out("hargreavesMm", "mm/day", "from temperature alone"), out("ra", "MJ/m²", "outside the atmosphere"), out("rs", "MJ/m²", "on the ground"), out("rn", "MJ/m²", "net"), out("vapourKPa", "kPa", "actual vapour pressure"), words("substituted", "what was not measured")},
		run: func(in values, r *Result) error {
			a := climate.Air{LatDeg: in.num("latDeg"), DOY: in.int("doy"), ElevationM: in.num("elevationM"), TMin: in.num("tminC"), TMax: in.num("tmaxC"), RHMax: in.or("rhMaxPct"), RHMin: in.or("rhMinPct"), RHMean: in.or("rhMeanPct"), DewC: in.or("dewC"), VapourKPa: in.or("vapourKPa"), SunHours: in.or("sunHours"), Solar: in.or("solarMJ"), WindMS: in.or("windMS"), WindHeightM: in.num("windHeightM"), SoilHeat: in.num("soilHeatMJ"), Coast: in.str("where") == "coast"}
			e, err := climate.ET0(a)
			if err != nil {
				return prefix(err)
			}
			r.Outputs["mm"], r.Outputs["lowMm"], r.Outputs["highMm"], r.Outputs["hargreavesMm"], r.Outputs["ra"], r.Outputs["rs"], r.Outputs["rn"], r.Outputs["vapourKPa"] = e.MM, e.Low, e.High, e.Hargreaves, e.Ra, e.Rs, e.Rn, e.Vapour
			sub := "nothing"
			if len(e.Substituted) > 0 {
				sub = fmt.Sprint(e.Substituted)
				r.warn("climate.substituted", "Weather", "Not everything was measured: "+sub+". The answer is good to ± 15 %.", fao56)
			}
			r.Outputs["substituted"] = sub
			if !e.Applies {
				r.warn("climate.polar-night", "Sun", "The sun does not rise on this day: reference evapotranspiration does not apply.", fao56)
			}
			r.tell(working.Rule, "mm", "Penman–Monteith", "[0.408·Δ·(Rn − G) + γ·900/(T + 273)·u2·(es − ea)] / [Δ + γ·(1 + 0.34·u2)]", fmt.Sprintf("Rn %.2f, u2 %.2f, es %.3f, ea %.3f", e.Rn, e.Wind2, e.Saturation, e.Vapour), e.MM, "mm/day", fao56)
			return nil
		}}
}
