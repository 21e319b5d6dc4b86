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

func rainySeason() Calculator {
	return Calculator{Name: "rainy-season", Title: "Onset and end of the rains", Source: "method C10; Sivakumar, Agric. For. Meteorol., 1988",
		Purpose: "First day of rains that last, false starts apart.",
		Inputs: []Field{numbers("rain", "mm", "day by day", 0, 1000).or(exampleRain()), whole("start", "", "index looked for from", 0, 8784).or(0.0),
			whole("dryRun", "days", "longest dry run borne in the 30 days after", 1, 30).or(7.0)},
		Outputs: []Field{whole("onset", "", "index of the first day, from 0; none where they do not begin", 0, 8784),
			words("found", "found, provisional or not decidable yet"), series("falseStarts", "", "indices"),
			whole("end", "", "index of the last rain; none where they do not end", 0, 8784), whole("longestDry", "days", "longest dry spell", 0, 8784)},
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
			r.tell(working.Search, "onset", "Onset", "rain ≥ 1 mm, ≥ 20 mm in three days, no dry run over the limit in 30 days",
				fmt.Sprintf("%d days, limit %d",
					len(rain), in.int("dryRun")), float64(o.Index), "", "Sivakumar, 1988")
			return nil
		}}
}

func droughtTrigger() Calculator {
	return Calculator{Name: "drought-trigger", Title: "When to water by days without rain", Source: "method C11, common practice",
		Purpose: "Days on which water is due under a days-without-rain rule.",
		Inputs: []Field{numbers("rain", "mm", "day by day", 0, 1000).or(exampleRain()), whole("days", "days", "without adequate rain", 1, 60).or(11.0),
			number("adequateMm", "mm", "rain that counts", 0.1, 100).or(5.0)}, Outputs: []Field{series("waterOn", "", "indices, from 0")},
		run: func(in values, r *Result) error {
			d, err := climate.DroughtTriggers(in.list("rain"), in.int("days"), in.num("adequateMm"))
			if err != nil {
				return prefix(err)
			}
			r.Outputs["waterOn"] = floats(d)
			r.tell(working.Count, "waterOn", "Waterings", "counter of days since adequate rain or the last watering", fmt.Sprintf("%d of %d days", len(d),
				len(in.list("rain"))), float64(len(d)), "", "common practice, no source")
			return nil
		}}
}

func dayLength() Calculator {
	latitude := number("latDeg", "°", "latitude, positive north", -90, 90)
	doy := whole("doy", "day", "day of the year", 1, 366)
	return Calculator{Name: "day-length", Title: "Day length", Source: "method C12; " + fao56 + ", eq. 24 to 34",
		Purpose: "Hours of daylight, for phenology and for work.",
		Inputs:  []Field{latitude.or(-20.0), doy.or(246.0)}, Outputs: []Field{out("hours", "h", "without refraction"),
			out("workHours", "h", "upper limb, with refraction")},
		run: func(in values, r *Result) error {
			a, b := climate.DayLength(in.num("latDeg"), in.int("doy")), climate.WorkDayLength(in.num("latDeg"), in.int("doy"))
			r.Outputs["hours"], r.Outputs["workHours"] = a, b
			r.tell(working.Series, "hours", "Day length", "24/π · arccos(−tan φ · tan δ)", fmt.Sprintf("φ %g°, day %d", in.num("latDeg"), in.int("doy")), a,
				"h", fao56)
			return nil
		}}
}

func sunPosition() Calculator {
	latitude := number("latDeg", "°", "latitude, positive north", -90, 90)
	return Calculator{Name: "sun-position", Title: "Where the sun stands", Source: "method C12; Meeus, Astronomical Algorithms, 1998",
		Purpose: "Height and direction of the sun, and the shadow of a row.",
		Inputs: []Field{{Name: "day", Kind: Day, Meaning: "date", Default: "2026-06-21"}, number("utMinutes", "min", "minutes of universal time", 0,
			1440).or(600.0), latitude.or(48.0), number("lonDeg", "°", "longitude, positive east", -180, 180).or(11.0), number("rowBearingDeg", "°",
			"bearing of the rows", 0, 180).or(0.0), number("rowHeightM", "m", "height of a row", 0, 50).or(3.0)},
		Outputs: []Field{out("elevationDeg", "°", "above the horizon"), out("azimuthDeg", "°", "clockwise from north"), out("declinationDeg", "°",
			"of the sun"),
			out("shadowM", "m", "across the alley; none at night")},
		run: func(in values, r *Result) error {
			s := climate.SunAt(in.day("day"), in.num("utMinutes"), in.num("latDeg"), in.num("lonDeg"))
			r.Outputs["elevationDeg"], r.Outputs["azimuthDeg"], r.Outputs["declinationDeg"], r.Outputs["shadowM"] = s.ElevationDeg, s.AzimuthDeg,
				s.DeclinationDeg, nil
			if sh := climate.RowShadow(in.num("rowHeightM"), in.num("rowBearingDeg"), s); !math.IsInf(sh, 0) {
				r.Outputs["shadowM"] = sh
			}
			r.tell(working.Series, "elevationDeg", "Elevation", "sin h = sin φ·sin δ + cos φ·cos δ·cos H", fmt.Sprintf("δ %.4f°", s.DeclinationDeg),
				s.ElevationDeg,
				"°", "Meeus, 1998, low precision")
			return nil
		}}
}

func seasonWord() Calculator {
	latitude := number("latDeg", "°", "latitude, positive north", -90, 90)
	return Calculator{Name: "season-word", Title: "What a month is called here", Source: "methods C13 and S13, common practice",
		Purpose: "Season words in both hemispheres, and the same day in the other.",
		Inputs:  []Field{{Name: "day", Kind: Day, Meaning: "date", Default: "2026-08-31"}, latitude.or(-38.0)}, Outputs: []Field{words("season", "here"),
			words("otherHemisphere", "the same day of the season there")},
		run: func(in values, r *Result) error {
			w, err := climate.SeasonOf(in.day("day").Month(), in.num("latDeg"))
			if err != nil {
				return prefix(err)
			}
			r.Outputs["season"], r.Outputs["otherHemisphere"] = w, climate.OtherHemisphere(in.day("day")).String()
			r.tell(working.Rule, "season", "Season", "spring from March north, September south", fmt.Sprintf("month %d", in.day("day").Month()), 0, "",
				"common practice, no source")
			return nil
		}}
}

func floweringToHarvest() Calculator {
	return Calculator{Name: "flowering-to-harvest", Title: "From flowering to harvest", Source: "method C14, common practice",
		Purpose: "The harvest window that follows flowering, and whether a stated one agrees.",
		Inputs: []Field{{Name: "from", Kind: Day, Meaning: "flowering begins", Default: "2026-10-01"}, {Name: "to", Kind: Day, Meaning: "flowering ends",
			Default: "2026-11-30"}, whole("days", "days", "flowering to harvest", 1, 500).or(122.0), {Name: "stated", Kind: Day,
			Meaning:  "stated start of harvest",
			Optional: true}}, Outputs: []Field{words("harvestFrom", "harvest begins"), words("harvestTo", "harvest ends"),
			words("agrees", "with what is stated")},
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
					r.warn("climate.harvest-disagrees", "Harvest", fmt.Sprintf("Flowering and %d days give %s, the sheet states %s.", in.int("days"), a.Words(),
						s.Words()),
						"method C14")
				}
			}
			r.tell(working.Rule, "harvestFrom", "Harvest", "flowering + days", in.day("from").String(), 0, "", "common practice, no source")
			return nil
		}}
}

func floweringOverlap() Calculator {
	return Calculator{Name: "flowering-overlap", Title: "Do two kinds flower together?", Source: "method C15, common practice",
		Purpose: "Days two flowering windows share.",
		Inputs: []Field{{Name: "aFrom", Kind: Day, Meaning: "first kind from", Default: "2026-04-01"}, {Name: "aTo", Kind: Day, Meaning: "to",
			Default: "2026-04-10"}, {Name: "bFrom", Kind: Day, Meaning: "pollinizer from", Default: "2026-04-08"}, {Name: "bTo", Kind: Day, Meaning: "to",
			Default: "2026-04-20"}}, Outputs: []Field{whole("days", "days", "shared", 0, 366), out("share", "share", "of the first kind's days")},
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
		}}
}

func workableDays() Calculator {
	return Calculator{Name: "workable-days", Title: "Days that can be worked", Source: "method C16, binomial; spells make it optimistic",
		Purpose: "How sure a number of workable days is, and how many days to set aside.",
		Inputs: []Field{number("p", "share", "a day can be worked with", 0, 1).or(0.6), whole("days", "days", "set aside", 1, 366).or(20.0),
			whole("needed", "days",
				"workable days needed", 1, 366).or(12.0), number("sure", "share", "wanted", 0.01, 0.999).or(0.8)}, Outputs: []Field{out("probability", "share",
			"that the days suffice"), whole("setAside", "days", "to be as sure as wanted; 0 over a year", 0, 366)},
		run: func(in values, r *Result) error {
			v := climate.AtLeastDays(in.num("p"), in.int("days"), in.int("needed"))
			n, _ := climate.DaysNeeded(in.num("p"), in.int("needed"), in.num("sure"))
			r.Outputs["probability"], r.Outputs["setAside"] = v, n
			r.tell(working.Series, "probability", "Probability", "Σ C(n, i)·p^i·(1 − p)^(n − i), i ≥ k", fmt.Sprintf("p %g, n %d, k %d", in.num("p"),
				in.int("days"),
				in.int("needed")), v, "share", "binomial distribution")
			return nil
		}}
}

func yearLosses() Calculator {
	return Calculator{Name: "year-losses", Title: "What storms leave of a year", Source: "method C16, arithmetic",
		Purpose: "The year's yield after damage to parts of a block.",
		Inputs: []Field{{Name: "losses", Kind: Table, Meaning: "events", Columns: []Field{number("areaShare", "share", "of the block", 0, 1),
			number("yieldLoss", "share", "lost there", 0, 1)}, Default: []any{map[string]any{"areaShare": 0.5, "yieldLoss": 0.4},
			map[string]any{"areaShare": 1.0,
				"yieldLoss": 0.1}}}}, Outputs: []Field{out("left", "share", "of the year's yield")},
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
		}}
}

func cropCoefficient() Calculator {
	return Calculator{Name: "crop-coefficient", Title: "Crop coefficient of a young stand", Source: "method WAT-2; " + fao56 +
		"; Allen & Pereira, Irrigation Science, 2009",
		Purpose: "A table coefficient moved to a climate and reduced by ground cover, by every school.",
		Inputs: []Field{number("kcMid", "", "from the table", 0.1, 1.6).or(0.90), number("heightM", "m", "height of the crop", 0.1, 40).or(2.5),
			number("cover", "share", "ground shaded at noon", 0, 1).or(0.35), number("wind2MS", "m/s", "wind at 2 m", 0, 20).or(2.0), number("rhMinPct", "%",
				"minimum humidity", 0, 100).or(45.0), number("kcBare", "", "of bare or covered ground", 0, 1).or(0.15), number("ml", "", "1.5 to 2.0", 1,
				2.5).or(2.0),
			number("et0Mm", "mm/day", "reference evapotranspiration", 0, 20).or(5.0)},
		Outputs: []Field{out("adjusted", "", "full coefficient in this climate"),
			out("density", "", "reduction, default"), out("linear", "", "reduction, full at 85 %"), out("split", "", "reduction, split"),
			out("plus", "", "reduction, cover + 0.1"), out("double", "", "reduction, twice the cover"), out("kc", "", "coefficient of this stand"),
			out("useMm", "mm/day", "crop use")},
		run: func(in values, r *Result) error {
			c, err := water.ByCover(in.num("cover"), in.num("heightM"), in.num("ml"))
			if err != nil {
				return prefix(err)
			}
			full := water.Adjust(in.num("kcMid"), in.num("wind2MS"), in.num("rhMinPct"), in.num("heightM"))
			kc := water.Coefficient(c.Density, full, in.num("kcBare"))
			r.Outputs["adjusted"], r.Outputs["density"], r.Outputs["linear"], r.Outputs["split"], r.Outputs["plus"], r.Outputs["double"], r.Outputs["kc"],
				r.Outputs["useMm"] = full, c.Density, c.Linear, c.Split, c.Plus, c.Double, kc, kc*in.num("et0Mm")
			r.show("kc", "Coefficient", "bare + Kd·(full − bare), Kd = min(1; ML·fc; fc^(1/(1 + h)))", fmt.Sprintf("%g + %.3f·(%.3f − %g)", in.num("kcBare"),
				c.Density, full, in.num("kcBare")), kc, "", "Allen & Pereira, Irrigation Science 28:17–34, 2009")
			return nil
		}}
}

func effectiveRain() Calculator {
	return Calculator{Name: "effective-rain", Title: "Rain that reaches the roots", Source: "method WAT-3; SCS TR-21, table entries from memory",
		Purpose: "Effective rain of a month by four schools.",
		Inputs: []Field{number("rainMm", "mm", "of the month", 0, 3000).or(60.0), number("cropUseMm", "mm", "of the month", 0, 1000).or(130.0),
			number("storageMm", "mm", "usable storage of the soil", 0, 500).or(50.0)}, Outputs: []Field{out("storageAwareMm", "mm",
			"SCS TR-21, the default"),
			out("simpleMm", "mm", "simple SCS"), out("eightyMm", "mm", "80 % rule"), out("fixedMm", "mm", "three quarters")},
		run: func(in values, r *Result) error {
			e, err := water.EffectiveRain(in.num("rainMm"), in.num("cropUseMm"), in.num("storageMm"))
			if err != nil {
				return prefix(err)
			}
			r.Outputs["storageAwareMm"], r.Outputs["simpleMm"], r.Outputs["eightyMm"], r.Outputs["fixedMm"] = e.Storage, e.Simple, e.Eighty, e.Fixed
			r.tell(working.Rule, "storageAwareMm", "Effective rain", "f(D)·(1.252474·P^0.82416 − 2.935224)·10^(0.00095·ETc), at most P and ETc",
				fmt.Sprintf("P %g, ETc %g, D %g", in.num("rainMm"), in.num("cropUseMm"), in.num("storageMm")), e.Storage, "mm", "SCS TR-21")
			return nil
		}}
}
