package calc

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/schedule"
	"slowroot/core/supply"
	"slowroot/core/working"
)

func planning() []Calculator {
	return []Calculator{boundDays(), levelled(), orderBy(), nurseryChain(), deliverySample(), labourHours(), staggered(), coldRoom()}
}

func boundDays() Calculator {
	return Calculator{Name: "bound-days", Title: "Days bound to one another", Source: "method S3; Dechter, Meiri and Pearl, Artificial Intelligence 49, 1991",
		Purpose: "The earliest and the latest of each day, from rules that one lies so many days after another at least and at most. Day 0 is the fixed one; " +
			"leave a limit out where there is none.",
		Inputs: []Field{{Name: "rules", Kind: Table, Meaning: "rules", Columns: []Field{whole("from", "", "day counted from", 0, 60), whole("to", "", "day bound", 0,
			60),
			whole("least", "days", "after it at least", -4000, 4000).maybe(), whole("most", "days", "after it at most", -4000, 4000).maybe()},
			Default: []any{map[string]any{"from": 0.0, "to": 1.0, "least": 10.0, "most": 20.0}, map[string]any{"from": 1.0, "to": 2.0, "least": 30.0, "most": 40.0},
				map[string]any{"from": 3.0, "to": 2.0, "least": 10.0, "most": 20.0}, map[string]any{"from": 3.0, "to": 4.0, "least": 40.0, "most": 50.0},
				map[string]any{"from": 0.0, "to": 4.0, "least": 60.0, "most": 70.0}}}},
		Outputs: []Field{series("earliest", "days", "of day 1, 2 and so on"), series("latest", "days", "of each"), series("slack", "days", "between the two"),
			out("short", "days", "lacking where the rules cannot all be kept; else none"), words("conflict", "rules that cannot be kept together, by their number")},
		run: func(in values, r *Result) error {
			n := schedule.Network{Days: 1}
			for _, row := range in.rows("rules") {
				rule := schedule.Rule{From: row.int("from"), To: row.int("to"), Least: schedule.NoLeast, Most: schedule.NoMost}
				if v := row.ref("least"); v != nil {
					rule.Least = int(*v)
				}
				if v := row.ref("most"); v != nil {
					rule.Most = int(*v)
				}
				n.Days = max(n.Days, rule.From+1, rule.To+1)
				n.Rules = append(n.Rules, rule)
			}
			t, err := n.Solve()
			var c *schedule.Conflict
			if errors.As(err, &c) {
				var which []string
				for _, k := range c.Rules {
					which = append(which, fmt.Sprint(k+1))
				}
				r.Outputs["earliest"], r.Outputs["latest"], r.Outputs["slack"] = []float64{}, []float64{}, []float64{}
				r.Outputs["short"], r.Outputs["conflict"] = float64(c.Short), strings.Join(which, ", ")
				r.show("short", "Days lacking", "−Σ of the rules that go round", "rules "+strings.Join(which, ", "), float64(c.Short), "days", "method S3")
				return nil
			}
			if err != nil {
				return finding.Bad("inputs.rules", len(n.Rules), err.Error(), "two different days, the least not above the most")
			}
			early, late, slack := []float64{}, []float64{}, []float64{}
			for i := 1; i < n.Days; i++ {
				if t.Earliest[i] == schedule.NoLeast || t.Latest[i] == schedule.NoMost {
					return finding.Bad("inputs.rules", len(n.Rules), fmt.Sprintf("leave day %d without a first or a last", i), "a rule that bounds it on that side")
				}
				early, late = append(early, float64(t.Earliest[i])), append(late, float64(t.Latest[i]))
				slack = append(slack, float64(t.Latest[i]-t.Earliest[i]))
				r.tell(working.Search, "earliest", fmt.Sprintf("Day %d", i), "minus the shortest way to day 0; the shortest way from it",
					fmt.Sprintf("%d to %d", t.Earliest[i], t.Latest[i]), early[i-1], "days", "method S3")
			}
			r.Outputs["earliest"], r.Outputs["latest"], r.Outputs["slack"], r.Outputs["short"], r.Outputs["conflict"] = early, late, slack, nil, "none"
			return nil
		}}
}

func levelled() Calculator {
	row := func(days, people, first, last, after float64) map[string]any {
		return map[string]any{"days": days, "people": people, "first": first, "last": last, "after": after}
	}
	return Calculator{Name: "crew-levelling", Title: "Work on one crew",
		Source: "method S10: Kelley 1963; Kolisch, European Journal of Operational Research 90, 1996",
		Purpose: "On which days pieces of work lie when one crew does them all: the one that must be finished first goes first. A good rule, not the best there " +
			"can be.",
		Inputs: []Field{number("crew", "people", "in the crew", 0.5, 1000).or(8.0), {Name: "work", Kind: Table, Meaning: "pieces of work", Columns: []Field{
			whole("days", "days", "it takes", 1, 400), number("people", "people", "it takes", 0.1, 1000), whole("first", "", "day it can begin", 0, 4000),
			whole("last", "", "day it must be finished", 0, 4000), whole("after", "", "number of the piece it waits for; 0 for none", 0, 60)},
			Default: []any{row(6, 5, 1, 10, 0), row(3, 2, 1, 12, 0), row(4, 4, 1, 14, 2), row(3, 4, 3, 12, 1), row(5, 3, 2, 20, 0)}}},
		Outputs: []Field{series("start", "", "day each begins"), series("end", "", "day each is finished"), whole("late", "", "pieces finished too late", 0, 100),
			out("personDays", "", "people and days in all")},
		run: func(in values, r *Result) error {
			var tasks []schedule.Task
			rows := in.rows("work")
			total := 0.0
			for i, w := range rows {
				t := schedule.Task{ID: fmt.Sprintf("%03d", i), Days: w.int("days"), Use: w.num("people"), First: w.int("first"), Last: w.int("last")}
				if k := w.int("after"); k > len(rows) || k == i+1 {
					return finding.Bad(fmt.Sprintf("inputs.work[%d].after", i), k, "is not another piece of work", fmt.Sprintf("0 to %d", len(rows)))
				} else if k > 0 {
					t.After = []int{k - 1}
				}
				if t.Use > in.num("crew") {
					return finding.Bad(fmt.Sprintf("inputs.work[%d].people", i), t.Use, "is more than the crew has", fmt.Sprintf("up to %g", in.num("crew")))
				}
				total += t.Use * float64(t.Days)
				tasks = append(tasks, t)
			}
			start, end, late := []float64{}, []float64{}, 0
			for i, p := range schedule.Level(tasks, func(int) float64 { return in.num("crew") }) {
				start, end = append(start, float64(p.Start)), append(end, float64(p.End))
				if p.Late {
					late++
				}
				r.tell(working.Series, "start", fmt.Sprintf("Piece %d", i+1), "the first day from which the crew has the people, for as long as it takes",
					fmt.Sprintf("day %d to %d", p.Start, p.End), float64(p.Start), "", "method S10")
			}
			r.Outputs["start"], r.Outputs["end"], r.Outputs["late"], r.Outputs["personDays"] = start, end, late, total
			return nil
		}}
}

func orderBy() Calculator {
	return Calculator{Name: "order-by", Title: "The last day to order", Source: "method S8, common practice",
		Purpose: "From the day a thing is needed, back over its lead, its transport and some days to be safe.",
		Inputs: []Field{{Name: "needed", Kind: Day, Meaning: "needed on", Default: "2027-04-20"}, whole("leadDays", "days", "of the supplier", 0, 1500).or(365.0),
			whole("transportDays", "days", "on the way", 0, 200).or(7.0), whole("safeDays", "days", "to be safe", 0, 200).or(14.0)},
		Outputs: []Field{words("by", "order by"), whole("days", "days", "before it is needed", 0, 2000)},
		run: func(in values, r *Result) error {
			n := in.int("leadDays") + in.int("transportDays") + in.int("safeDays")
			r.Outputs["by"], r.Outputs["days"] = in.day("needed").AddDays(-n).String(), n
			r.show("days", "Before it is needed", "lead + transport + safety", fmt.Sprintf("%d + %d + %d", in.int("leadDays"), in.int("transportDays"),
				in.int("safeDays")),
				float64(n), "days", "method S8")
			return nil
		}}
}

func nurseryChain() Calculator {
	rows := []any{}
	for _, s := range supply.Ways[0].Stages {
		rows = append(rows, map[string]any{"least": float64(s.Least), "most": float64(s.Most), "lossPct": 100 * s.Loss})
	}
	return Calculator{Name: "nursery-chain", Title: "A nursery counted back from the field", Source: "method S5, common practice",
		Purpose: "When each stage of raising plants is begun on the longest times, when at its quickest, and with how many pieces.",
		Inputs: []Field{{Name: "field", Kind: Day, Meaning: "in the field on", Default: "2027-06-01"}, whole("plants", "", "plants wanted", 1, 10_000_000).or(1000.0),
			{Name: "stages", Kind: Table, Meaning: "stages, the first first", Columns: []Field{whole("least", "days", "at least", 0, 3650),
				whole("most", "days", "at most", 0, 3650),
				number("lossPct", "%", "lost", 0, 99)}, Default: rows}},
		Outputs: []Field{words("safe", "begun by, to be safe"), words("hopeful", "begun by, if all goes at its quickest"),
			series("begun", "", "pieces each is begun with"),
			whole("days", "days", "in all, at the longest", 0, 100000)},
		run: func(in values, r *Result) error {
			var stages []supply.Stage
			for i, s := range in.rows("stages") {
				stages = append(stages, supply.Stage{Name: fmt.Sprintf("stage %d", i+1), Least: s.int("least"), Most: s.int("most"), Loss: s.num("lossPct") / 100})
			}
			got, err := supply.Raise(in.day("field"), in.int("plants"), stages)
			if err != nil {
				return finding.Bad("inputs.stages", len(stages), err.Error(), "days at most no less than days at least")
			}
			var safe, hopeful []string
			begun := []float64{}
			for _, s := range got {
				safe, hopeful, begun = append(safe, s.Safe.String()), append(hopeful, s.Hopeful.String()), append(begun, float64(s.Begun))
				r.show("begun", s.Name, "⌈left / (1 − loss)⌉", fmt.Sprintf("⌈%d / (1 − %g)⌉", s.Left, s.Loss), float64(s.Begun), "", "method S5")
			}
			days := 0
			if len(got) > 0 {
				days = in.day("field").Sub(got[0].Safe)
			}
			r.Outputs["safe"], r.Outputs["hopeful"], r.Outputs["begun"], r.Outputs["days"] = strings.Join(safe, ", "), strings.Join(hopeful, ", "), begun, days
			return nil
		}}
}

func deliverySample() Calculator {
	return Calculator{Name: "delivery-sample", Title: "How many of a delivery to look at",
		Source:  "binomial single sampling, Guenther, Journal of Quality Technology 1, 1969",
		Purpose: "The smallest sample that takes a good delivery and refuses a bad one, each wrongly no more often than said.",
		Inputs: []Field{whole("lot", "pieces", "in the delivery", 1, 10_000_000).or(100000.0), number("goodPct", "%", "poor ones that are taken", 0.1, 40).or(1.0),
			number("badPct", "%", "poor ones that are refused", 0.2, 80).or(5.0), number("wrongPct", "%", "a good delivery is refused wrongly", 1, 40).or(5.0),
			number("missPct", "%", "a bad one is taken wrongly", 1, 40).or(10.0)},
		Outputs: []Field{whole("sample", "pieces", "to look at", 1, 10_000_000), whole("most", "pieces", "poor among them at most", 0, 10_000_000)},
		run: func(in values, r *Result) error {
			n, err := supply.Inspect(in.int("lot"), in.num("goodPct")/100, in.num("badPct")/100, in.num("wrongPct")/100, in.num("missPct")/100)
			if err != nil {
				return finding.Bad("inputs.badPct", in.num("badPct"), err.Error(), "a bad share well above the good one")
			}
			r.Outputs["sample"], r.Outputs["most"] = n.Sample, n.Most
			r.tell(working.Search, "sample", "Sample", "smallest n with P(poor ≤ c | bad) ≤ miss and P(poor ≤ c | good) ≥ 1 − wrong", fmt.Sprintf("c = %d", n.Most),
				float64(n.Sample),
				"pieces",
				"Guenther, 1969")
			return nil
		}}
}

func labourHours() Calculator {
	return Calculator{Name: "labour-hours", Title: "Hours and people for a job", Source: "method L1",
		Purpose: "From how much there is to do and what one does in an hour: hours, people for the days there are, and days those people need.",
		Inputs: []Field{number("quantity", "", "to do: plants, metres, hectares", 0.001, 1e9).or(3400.0), number("rate", "", "one person does in an hour", 0.0001,
			1e6).or(45.0),
			number("hoursDay", "h", "worked a day", 0.5, 24).or(7.0), number("days", "days", "there are that can be worked", 0.5, 400).or(4.0)},
		Outputs: []Field{out("hours", "h", "of people"), whole("people", "", "needed", 1, 1_000_000), out("daysNeeded", "days", "these people need")},
		run: func(in values, r *Result) error {
			h := in.num("quantity") / in.num("rate")
			n := math.Ceil(h/(in.num("hoursDay")*in.num("days")) - 1e-9)
			n = math.Max(1, n)
			if n > 1e6 {
				return finding.Bad("inputs.rate", in.num("rate"), "asks for more than a million people", "a rate one person reaches in an hour")
			}
			r.Outputs["hours"], r.Outputs["people"], r.Outputs["daysNeeded"] = h, int(n), h/(n*in.num("hoursDay"))
			r.show("hours", "Hours", "quantity / rate", fmt.Sprintf("%g / %g", in.num("quantity"), in.num("rate")), h, "h", "method L1")
			r.show("people", "People", "⌈hours / (hours a day · days)⌉", fmt.Sprintf("⌈%.2f / (%g · %g)⌉", h, in.num("hoursDay"), in.num("days")), n, "", "method L1")
			return nil
		}}
}

func staggered() Calculator {
	return Calculator{Name: "staggered-plantings", Title: "Plantings one after another for picking without a gap", Source: "method S11",
		Purpose: "How far apart plantings follow one another so that picking never stops, when each is planted and picked, and how many blocks of a short-lived " +
			"tree " +
			"keep some in bearing.",
		Inputs: []Field{{Name: "first", Kind: Day, Meaning: "first planting", Default: "2027-03-20"}, whole("growDays", "days", "to the first pick", 1,
			2000).or(90.0),
			whole("pickDays", "days", "picked", 1, 1000).or(35.0), whole("overlapDays", "days", "two are picked together", 0, 900).or(7.0), whole("plantings", "",
				"in all", 1, 60).or(5.0),
			whole("lifeMonths", "months", "a short-lived tree lives", 2, 400).or(24.0), whole("bearsFrom", "months", "after which it bears", 1, 399).or(8.0),
			whole("bearing", "", "blocks wanted in bearing", 1, 100).or(2.0)},
		Outputs: []Field{whole("everyDays", "days", "from one planting to the next", 1, 1000), words("planted", "planted on"), words("picked", "picked"),
			whole("blocks", "", "of the tree that keep that many in bearing", 1, 100000)},
		run: func(in values, r *Result) error {
			course := supply.Course{Grow: in.int("growDays"), Pick: in.int("pickDays"), Overlap: in.int("overlapDays")}
			list, err := supply.Follow(in.day("first"), in.int("plantings"), course)
			if err != nil {
				return finding.Bad("inputs.overlapDays", in.int("overlapDays"), "leaves nothing of the picking", fmt.Sprintf("0 to %d", in.int("pickDays")-1))
			}
			life, bears := in.int("lifeMonths"), in.int("bearsFrom")
			if bears >= life {
				return finding.Bad("inputs.bearsFrom", bears, "lies at the end of its life or after it", fmt.Sprintf("1 to %d", life-1))
			}
			var planted, picked []string
			for _, f := range list {
				planted = append(planted, f.On.String())
				picked = append(picked, spanOf(f.From, f.To))
			}
			every, blocks := course.Every(), supply.Bearing(in.int("bearing"), life, bears)
			r.Outputs["everyDays"], r.Outputs["planted"], r.Outputs["picked"], r.Outputs["blocks"] = every, strings.Join(planted, ", "), strings.Join(picked, ", "),
				blocks
			r.show("everyDays", "From one to the next", "picking − overlap", fmt.Sprintf("%d − %d", in.int("pickDays"), in.int("overlapDays")), float64(every), "days",
				"method S11")
			r.show("blocks", "Blocks", "⌈m · N / (N − b)⌉", fmt.Sprintf("⌈%d · %d / (%d − %d)⌉", in.int("bearing"), life, life, bears), float64(blocks), "",
				"method S11")
			return nil
		}}
}

func coldRoom() Calculator {
	return Calculator{Name: "cold-room", Title: "Room and cooling of a cold store", Source: "method H7, common practice",
		Purpose: "Bins, floor and volume of a cold store for a number of pieces, and the cooling to bring them down and hold them.",
		Inputs: []Field{whole("pieces", "pieces", "kept", 1, 10_000_000).or(20000.0), whole("perBin", "pieces", "in a bin", 1, 1_000_000).or(300.0),
			number("length", "m", "of a bin", 0.1, 10).or(1.2), number("width", "m", "of a bin", 0.1, 10).or(1.0), number("height", "m", "of a bin", 0.1, 5).or(0.75),
			whole("stack", "bins", "on one another", 1, 20).or(5.0), number("kgEach", "kg", "a piece weighs", 0, 500).or(1.0),
			number("fromC", "°C", "they come in at", -20, 50).or(22.0), number("toC", "°C", "they are kept at", -30, 30).or(2.0),
			number("hours", "h", "they are cooled in", 1, 1000).or(20.0), number("wPerT", "W/t", "they give off", 0, 500).or(60.0)},
		Outputs: []Field{whole("bins", "bins", "in all", 1, 10_000_000), whole("positions", "stacks", "on the floor", 1, 10_000_000), out("floorM2", "m²", "floor"),
			out("volumeM3", "m³", "volume"), out("pullKW", "kW", "to bring them down"), out("breatheKW", "kW", "that they give off"),
			out("coolKW", "kW", "both, with walls and fans")},
		run: func(in values, r *Result) error {
			s := supply.Room{Pieces: in.int("pieces"), PerBin: in.int("perBin"), LengthM: in.num("length"), WidthM: in.num("width"), HeightM: in.num("height"),
				Stack: in.int("stack"), KgEach: in.num("kgEach"), FromC: in.num("fromC"), ToC: in.num("toC"), Hours: in.num("hours"), WPerT: in.num("wPerT")}.Space()
			r.Outputs["bins"], r.Outputs["positions"], r.Outputs["floorM2"], r.Outputs["volumeM3"] = s.Bins, s.Positions, s.FloorM2, s.VolumeM3
			r.Outputs["pullKW"], r.Outputs["breatheKW"], r.Outputs["coolKW"] = s.PullKW, s.BreatheKW, s.CoolKW
			r.show("floorM2", "Floor", "⌈bins / on one another⌉ · length · width / 0.65", fmt.Sprintf("⌈%d / %d⌉ · %g · %g / 0.65", s.Bins, in.int("stack"),
				in.num("length"), in.num("width")), s.FloorM2, "m²", "method H7")
			r.show("pullKW", "To bring them down", "kg · 3.8 · ΔT / (h · 3600)", fmt.Sprintf("%g · 3.8 · %g / (%g · 3600)", float64(in.int("pieces"))*in.num("kgEach"),
				math.Max(0, in.num("fromC")-in.num("toC")), in.num("hours")), s.PullKW, "kW", "method H7")
			r.show("coolKW", "Cooling", "1.3 · (bring down + give off)", fmt.Sprintf("1.3 · (%.2f + %.2f)", s.PullKW, s.BreatheKW), s.CoolKW, "kW", "method H7")
			return nil
		}}
}

func spanOf(a, b civil.Date) string { return a.String() + " to " + b.String() }
