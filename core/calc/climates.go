package calc

import (
	"fmt"

	"slowroot/core/climate"
	"slowroot/core/finding"
	"slowroot/core/working"
)

const fao56 = "Allen, Pereira, Raes & Smith, FAO Irrigation and Drainage Paper 56, 1998"

// exampleMeans is a temperate northern site, the printed example of method C1.
var exampleMeans = []float64{-1, 0.5, 5, 10, 15, 18.5, 20.5, 20, 15.5, 10, 4.5, 0.5}

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
		smoothYear(),
		rainDays(),
		frostDates(),
		bloomFrost(),
		degreeDays(),
		dormancyBreak(),
		chill(),
		hourlyTemperatures(),
		rainySeason(),
		droughtTrigger(),
		dayLength(),
		sunPosition(),
		seasonWord(),
		floweringToHarvest(),
		floweringOverlap(),
		workableDays(),
		yearLosses(),
		evapotranspiration(latitude, doy),
		cropCoefficient(),
		effectiveRain(),
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
	return Calculator{Name: "reference-evapotranspiration", Title: "Reference evapotranspiration", Source: "method WAT-1; " + fao56,
		Purpose: "What short grass would use in a day, by Penman–Monteith and by temperature alone.",
		Inputs: []Field{latitude.or(50.8), doy.or(187.0), number("elevationM", "m", "above the sea", -450, 6000).or(100.0), number("tminC", "°C", "minimum", -60,
			60).or(12.3), number("tmaxC", "°C", "maximum", -60, 60).or(21.5),
			number("rhMaxPct", "%", "highest humidity", 0, 100).maybe(), number("rhMinPct", "%", "lowest humidity", 0, 100).maybe(), number("rhMeanPct", "%",
				"mean humidity", 0, 100).maybe(), number("dewC", "°C", "dew point", -60, 60).maybe(), number("vapourKPa", "kPa", "actual vapour pressure", 0, 10).maybe(),
			number("sunHours", "h", "bright sun", 0, 24).maybe(), number("solarMJ", "MJ/m²", "radiation of the day", 0, 60).maybe(), number("windMS", "m/s", "wind", 0,
				80).maybe(), number("windHeightM", "m", "measured at", 0.5, 50).or(2.0), number("soilHeatMJ", "MJ/m²", "into the soil; 0 for a day", -10, 10).or(0.0),
			choice("where", "for radiation from temperature", "inland", "coast").or("inland")},
		Outputs: []Field{out("mm", "mm/day", "Penman–Monteith"), out("lowMm", "mm/day", "low"), out("highMm", "mm/day", "high"), out("hargreavesMm", "mm/day",
			"from temperature alone"), out("ra", "MJ/m²", "outside the atmosphere"), out("rs", "MJ/m²", "on the ground"), out("rn", "MJ/m²", "net"),
			out("vapourKPa", "kPa", "actual vapour pressure"), words("substituted", "what was not measured")},
		run: func(in values, r *Result) error {
			a := climate.Air{LatDeg: in.num("latDeg"), DOY: in.int("doy"), ElevationM: in.num("elevationM"), TMin: in.num("tminC"), TMax: in.num("tmaxC"),
				RHMax: in.or("rhMaxPct"), RHMin: in.or("rhMinPct"), RHMean: in.or("rhMeanPct"), DewC: in.or("dewC"), VapourKPa: in.or("vapourKPa"),
				SunHours: in.or("sunHours"), Solar: in.or("solarMJ"), WindMS: in.or("windMS"), WindHeightM: in.num("windHeightM"), SoilHeat: in.num("soilHeatMJ"),
				Coast: in.str("where") == "coast"}
			e, err := climate.ET0(a)
			if err != nil {
				return prefix(err)
			}
			r.Outputs["mm"], r.Outputs["lowMm"], r.Outputs["highMm"], r.Outputs["hargreavesMm"], r.Outputs["ra"], r.Outputs["rs"], r.Outputs["rn"],
				r.Outputs["vapourKPa"] = e.MM, e.Low, e.High, e.Hargreaves, e.Ra, e.Rs, e.Rn, e.Vapour
			sub := "nothing"
			if len(e.Substituted) > 0 {
				sub = fmt.Sprint(e.Substituted)
				r.warn("climate.substituted", "Weather", "Not everything was measured: "+sub+". The answer is good to ± 15 %.", fao56)
			}
			r.Outputs["substituted"] = sub
			if !e.Applies {
				r.warn("climate.polar-night", "Sun", "The sun does not rise on this day: reference evapotranspiration does not apply.", fao56)
			}
			r.tell(working.Rule, "mm", "Penman–Monteith", "[0.408·Δ·(Rn − G) + γ·900/(T + 273)·u2·(es − ea)] / [Δ + γ·(1 + 0.34·u2)]",
				fmt.Sprintf("Rn %.2f, u2 %.2f, es %.3f, ea %.3f", e.Rn, e.Wind2, e.Saturation, e.Vapour), e.MM, "mm/day", fao56)
			return nil
		}}
}

func smoothYear() Calculator {
	doy := whole("doy", "day", "day of the year", 1, 366)
	return Calculator{Name: "smooth-year", Title: "Daily values from monthly means", Source: "method C1; Epstein, J. Climate, 1991",
		Purpose: "A smooth year that keeps each month's mean. It has no extremes: not for frost or chill.",
		Inputs: []Field{numbers("months", "°C or mm", "January to December", -60, 2000).or(exampleMeans), whole("harmonics", "", "1 to 6", 1, 6).or(4.0),
			doy.or(105.0)}, Outputs: []Field{out("value", "", "on that day"), out("mean", "", "of the year"), series("year", "", "every tenth day")},
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
			r.tell(working.Series, "value", "On the day", "a0 + Σ k_j·(A_j·cos 2πjt/12 + B_j·sin 2πjt/12), k_j = (πj/12)/sin(πj/12)", fmt.Sprintf("a0 %.4f, day %d",
				s.Mean, in.int("doy")), s.At(in.num("doy")), "", "Epstein, J. Climate, 1991")
			return nil
		}}
}

func rainDays() Calculator {
	return Calculator{Name: "rain-days", Title: "A month of rain, drawn from a seed",
		Source:  "method C2; Geng, Penning de Vries & Supit, Agric. Forest Meteorol., 1986",
		Purpose: "A made-up month that has the normals' rain and wet days; the same seed gives the same month.",
		Inputs: []Field{number("rainMm", "mm", "of the month", 0, 2000).or(124.0), number("wetDays", "days", "with rain", 0, 31).or(10.0),
			whole("days", "days", "of the month", 28, 31).or(31.0), whole("seed", "", "any whole number", 0, 9007199254740991).or(7.0)},
		Outputs: []Field{series("rain", "mm", "day by day"), out("totalMm", "mm", "of this month"), out("wetAfterDry", "share", "chance of rain after a dry day"),
			out("wetAfterWet", "share", "after a wet one"), out("shape", "", "of the gamma amounts"), out("scale", "mm", "of the gamma amounts")},
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
			r.Outputs["rain"], r.Outputs["totalMm"], r.Outputs["wetAfterDry"], r.Outputs["wetAfterWet"], r.Outputs["shape"], r.Outputs["scale"] = days, total,
				m.WetAfterDry, m.WetAfterWet, m.Shape, m.Scale
			r.tell(working.Series, "totalMm", "Rain of the month", "two-state chain; amounts −μ·ln(1 − u)", fmt.Sprintf("μ = %g mm, seed %.0f", m.MeanMM,
				in.num("seed")), total, "mm", "Geng et al., 1986; exponential amounts; SplitMix64")
			return nil
		}}
}

func frostDates() Calculator {
	return Calculator{Name: "frost-dates", Title: "Last frost for a risk", Source: "method C3; Thom & Shaw, Mon. Weather Rev., 1958",
		Purpose: "The day after which frost comes only in a given share of years.",
		Inputs: []Field{numbers("days", "day", "day of the year of the last frost, one a year with frost", 1, 366).or([]float64{98, 105, 112, 91, 120, 101, 108,
			115, 95, 103, 110, 107, 99, 118, 104}), whole("years", "years", "looked at, with and without frost", 1, 200).or(15.0), number("risk", "share",
			"that frost still comes", 0.005, 0.995).or(0.1), whole("life", "years", "of a planting", 1, 100).or(20.0)},
		Outputs: []Field{out("normalDay", "day", "by the normal school"), out("empiricalDay", "day", "by the quantile"),
			whole("day", "day", "taken, rounded up; none where frost is rarer than the risk", 1, 366), out("frostShare", "share", "of years that have a frost"),
			out("mean", "day", "mean"), out("sd", "days", "standard deviation"), out("lifeRisk", "share", "that a yearly risk strikes once in the life")},
		run: func(in values, r *Result) error {
			f, err := (climate.FrostDates{Days: in.list("days"), Years: in.int("years")}).Spring(in.num("risk"))
			if err != nil {
				return prefix(err)
			}
			r.Outputs["frostShare"], r.Outputs["lifeRisk"] = f.FrostShare, climate.LifeRisk(in.num("risk"), in.int("life"))
			if f.Never {
				r.warn("climate.frost-rare", "Frost",
					fmt.Sprintf("Frost comes in %.0f %% of years only: a risk of %.0f %% is not reached on any day, and no date is needed.", 100*f.FrostShare,
						100*in.num("risk")), "method C3")
				return nil
			}
			r.Outputs["normalDay"], r.Outputs["empiricalDay"], r.Outputs["day"], r.Outputs["mean"], r.Outputs["sd"] = f.Normal, f.Empirical, f.Day, f.Mean, f.SD
			r.show("normalDay", "Normal school", "mean + s·Φ⁻¹(1 − p/p₀), p₀ the share of years with frost", fmt.Sprintf("%.3f + %.3f·Φ⁻¹(1 − %g/%.4f)", f.Mean, f.SD,
				in.num("risk"), f.FrostShare), f.Normal, "day", "Thom & Shaw, 1958")
			r.show("normalDay", "Check: frost after that day", "p₀·(1 − Φ((day − mean)/s))", fmt.Sprintf("%.4f·(1 − Φ((%.3f − %.3f)/%.3f))", f.FrostShare, f.Normal,
				f.Mean, f.SD), f.After(f.Normal), "share", "Thom & Shaw, 1958")
			if f.Rough {
				r.warn("climate.few-years", "Years", "Fewer than ten years with frost: a rough figure.", "method C3")
			}
			return nil
		}}
}

func bloomFrost() Calculator {
	return Calculator{Name: "bloom-frost", Title: "Blossom lost to frost", Source: "method C3; critical temperatures from memory",
		Purpose: "Share of blossom lost at a temperature, between 10 % and 90 % kill.",
		Inputs: []Field{number("tC", "°C", "for half an hour", -40, 10).or(-3.05), number("t10C", "°C", "10 % kill", -40, 5).or(-2.2),
			number("t90C", "°C", "90 % kill", -45, 5).or(-3.9)}, Outputs: []Field{out("lost", "share", "of the blossom")},
		run: func(in values, r *Result) error {
			if in.num("t90C") >= in.num("t10C") {
				return finding.Bad("inputs.t90C", in.num("t90C"), "90 % kill is colder than 10 %", "below t10C")
			}
			v := climate.BloomLoss(in.num("tC"), in.num("t10C"), in.num("t90C"))
			r.Outputs["lost"] = v
			r.tell(working.Rule, "lost", "Lost", "0.1 + 0.8·(T10 − T)/(T10 − T90)", fmt.Sprintf("T %g", in.num("tC")), v, "share", "from memory: extension bulletins")
			return nil
		}}
}

func degreeDays() Calculator {
	return Calculator{Name: "degree-days", Title: "Growing degree-days of a day", Source: "method C4; Baskerville & Emin, Ecology, 1969; McMaster & Wilhelm, 1997",
		Purpose: "By every school, since a threshold holds only with its own.",
		Inputs: []Field{number("tminC", "°C", "minimum", -60, 60).or(8.0), number("tmaxC", "°C", "maximum", -60, 60).or(28.0),
			number("baseC", "°C", "lower threshold", -5, 40).or(10.0), number("upperC", "°C", "upper threshold", -5, 60).maybe()},
		Outputs: []Field{out("sine", "°C·day", "single sine, the default"), out("triangle", "°C·day", "single triangle"), out("averageFloor", "°C·day",
			"average, floor at nought"), out("averageClip", "°C·day", "average, both clipped")},
		run: func(in values, r *Result) error {
			up := in.num("baseC") - 1
			if in.has("upperC") {
				if up = in.num("upperC"); up <= in.num("baseC") {
					return finding.Bad("inputs.upperC", up, "does not lie above the lower threshold", "more than baseC")
				}
			}
			for k, s := range map[string]climate.HeatSchool{"sine": climate.Sine, "triangle": climate.Triangle, "averageFloor": climate.AverageFloor,
				"averageClip": climate.AverageClip} {
				v, err := climate.DegreeDays(in.num("tminC"), in.num("tmaxC"), in.num("baseC"), up, s)
				if err != nil {
					return prefix(err)
				}
				r.Outputs[k] = v
			}
			r.tell(working.Rule, "sine", "Single sine", "[(M − T_L)(π/2 − θ) + a·cos θ]/π, upper part taken off", fmt.Sprintf("M %g, a %g",
				(in.num("tminC")+in.num("tmaxC"))/2, (in.num("tmaxC")-in.num("tminC"))/2), r.Outputs["sine"].(float64), "°C·day", "Baskerville & Emin, Ecology, 1969")
			return nil
		}}
}

func dormancyBreak() Calculator {
	return Calculator{Name: "dormancy-break", Title: "When growth begins", Source: "method C5, common practice",
		Purpose: "First day on which the running mean of the daily mean reaches a base.",
		Inputs: []Field{numbers("months", "°C", "monthly means, January first", -60, 60).or(exampleMeans), number("baseC", "°C", "base", -5, 30).or(10.0),
			whole("meanOf", "days", "running mean of", 1, 31).or(7.0), whole("start", "day", "looked for from this day of the year on", 1, 365).or(1.0)},
		Outputs: []Field{whole("day", "day", "day of the year", 0, 366)},
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
			r.tell(working.Search, "day", "Growth begins", "first day with running mean ≥ base", fmt.Sprintf("%d-day mean ≥ %g", in.int("meanOf"), in.num("baseC")),
				float64(d), "day", "common practice, no source")
			return nil
		}}
}

func chill() Calculator {
	return Calculator{Name: "chill", Title: "Winter chill by four models",
		Source:  "method C6; Weinberger 1950; Richardson et al. 1974; Fishman, Erez & Couvillon 1987",
		Purpose: "Chill hours, Utah units and dynamic portions of hourly temperatures.",
		Inputs: []Field{numbers("hourly", "°C", "hour by hour", -60, 60).or([]float64{10, 8, 6, 4, 3, 2, 1, 0, -1, 2, 5, 7, 7.2, 7.3, 9.1, 9.2, 12.4, 12.5, 15.9,
			16, 17, 18, 18.1, 20}), whole("repeat", "days", "the list again and again", 1, 366).or(1.0)}, Outputs: []Field{out("hours", "h", "at or below 7.2 °C"),
			out("hoursAbove0", "h", "0 to 7.2 °C"), out("utah", "units", "Utah"), out("positiveUtah", "units", "positive Utah"), out("portions", "portions",
				"dynamic model, the default")},
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
			r.Outputs["hours"], r.Outputs["hoursAbove0"], r.Outputs["utah"], r.Outputs["positiveUtah"], r.Outputs["portions"] = c.Hours, c.HoursAbove0, c.Utah,
				c.PositiveUtah, c.Portions
			r.tell(working.Series, "portions", "Dynamic model", "E ← xs − (xs − E)·exp(−k1); when E ≥ 1 a portion xi·E is laid by", fmt.Sprintf("%d hours", len(h)),
				c.Portions, "portions", "Fishman, Erez & Couvillon, J. Theor. Biol., 1987; constants Erez et al., Acta Hort., 1990")
			return nil
		}}
}

func hourlyTemperatures() Calculator {
	return Calculator{Name: "hourly-temperatures", Title: "Hours from minimum and maximum", Source: "method C7; Linvill, HortScience, 1990",
		Purpose: "Twenty-four temperatures from sunrise on.",
		Inputs: []Field{number("tminC", "°C", "minimum", -60, 60).or(2.0), number("tmaxC", "°C", "maximum", -60, 60).or(14.0), number("nextMinC", "°C",
			"next day's minimum", -60, 60).or(3.0), number("dayLengthH", "h", "day length", 4, 20).or(10.0)}, Outputs: []Field{series("hours", "°C", "from sunrise"),
			out("mean", "°C", "mean of the day")},
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
			r.tell(working.Series, "mean", "Mean of the hours", "sine by day, logarithmic fall by night", fmt.Sprintf("day of %g h", in.num("dayLengthH")), sum, "°C",
				"Linvill, HortScience, 1990")
			return nil
		}}
}
