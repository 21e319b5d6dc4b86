package plan

import (
	"math"
	"slices"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/finite"
	"slowroot/core/geo"
	"slowroot/core/plan/crop"
	"slowroot/core/plan/drains"
	"slowroot/core/plan/fit"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/prepare"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/rotation"
	"slowroot/core/schedule"
	"slowroot/core/soil"
	"slowroot/core/suitability"
)

func line(t testing.TB, plan *Plan, key string) prepare.PrepLine {
	t.Helper()
	for _, l := range plan.Preparation.Lines {
		if l.Key == key {
			return l
		}
	}
	t.Fatalf("no %s among %d lines", key, len(plan.Preparation.Lines))
	return prepare.PrepLine{}
}

// Hours follow what the work is done to. 3,000 holes of 0.216 m³ are 648 m³ and at 2.8 h/m³ 1,814 h, never six;
// 167.6 t of compost are loaded, carried and spread at 0.05 h/t besides the pass over the ground.
func TestHoursFollowTheQuantity(t *testing.T) {
	m3 := 3000 * 0.216
	if h, ok := practice.Tasks["hole"].Hours(practice.Amount{Ha: 0.3, M3: &m3}); !ok || math.Abs(h[1]-648*2.8) > 1e-6 || !(h[0] < h[1] && h[1] < h[2]) {
		t.Errorf("holes: %v %v", h, ok)
	}
	if h, ok := practice.Tasks["manure"].Hours(practice.Amount{Ha: 1, Tonnes: 167.6}); !ok || math.Abs(h[1]-(1+167.6*0.05)) > 1e-9 {
		t.Errorf("compost: %v", h)
	}
	if _, ok := practice.Tasks["hole"].Hours(practice.Amount{Ha: 5}); ok {
		t.Error("an unknown number of holes takes a known time")
	}
	in := grounded(t, "persimmon")
	plan := compute(t, in)
	holes, stations := line(t, plan, "holes"), value(t, plan, "rows.stations")
	if math.Abs(holes.BaseH-2.8*stations*0.125) > 1e-6 || !said(t, holes.Detail) {
		t.Errorf("%g stations: %+v", stations, holes)
	}
	basal := line(t, plan, "basal")
	if want := 1*plan.Ground.AreaM2/1e4 + 0.05*45*plan.Ground.AreaM2/1e4; math.Abs(basal.BaseH-want) > 1e-6 {
		t.Errorf("45 t/ha of compost: %g h, want %g", basal.BaseH, want)
	}
	far := line(t, compute(t, intended(t, "coffee", civil.Must(2028, 12, 1))), "holes")
	if far.Unknown == "" || far.BaseH != 0 {
		t.Errorf("coffee has no rows yet: %+v", far)
	}
}

// What a person says is not needed here is not late, holds nothing up and takes no hours.
func TestNotNeededHere(t *testing.T) {
	in := intended(t, "apple", civil.Must(2025, 9, 1))
	before := compute(t, in)
	var key string
	for _, j := range before.Jobs {
		if j.Passed && j.Preparation {
			key = j.Key
		}
	}
	if key == "" {
		t.Fatal("nothing is late")
	}
	in.not("done by the owner before us", key)
	after := compute(t, in)
	for _, j := range after.Jobs {
		if j.Key == key && (j.Passed || j.NotNeeded != "done by the owner before us") {
			t.Errorf("%+v", j)
		}
	}
	if l := line(t, after, key); l.BaseH != 0 || !l.Said || l.NotNeeded == "" {
		t.Errorf("%+v", l)
	}
	planted := grounded(t, "hazelnut")
	planted.Block.Planting.Date = civil.Must(2025, 6, 1)
	planted.Today = civil.Must(2025, 3, 14)
	late := notes(compute(t, planted), "schedule.lead-time-passed")
	if late == nil {
		t.Fatal("nothing is late for a planting in three months")
	}
	for _, j := range compute(t, planted).Jobs {
		if j.Preparation {
			planted.not("old orchard ground, all in order", j.Key)
		}
	}
	if n := notes(compute(t, planted), "schedule.lead-time-passed"); n != nil {
		t.Errorf("nothing is needed, and yet: %s", n.Sentence)
	}
}

// Works of one day stand in the order they are done, not of the alphabet; a job follows the first look at the soil, not
// the check of what it did.
func TestOneDayInOrder(t *testing.T) {
	d := civil.Must(2027, 4, 1)
	jobs := []report.Job{{Key: "harrow", Kind: "harrow", From: d}, {Key: "lime", Kind: "lime", From: d}, {Key: "plough", Kind: "plough", From: d}, {Key: "soil-test", Kind: "assess", From: d}, {Key: "slash", Kind: "slash", From: d}, {Said: report.Said{Phase: "order"}, Key: "order", From: d}, {Key: "early", Kind: "harrow",
		From: d.AddDays(-1)}}
	prepare.InOrder(jobs)
	var got []string
	for _, j := range jobs {
		got = append(got, j.Key)
	}
	if s := strings.Join(got, " "); s != "early soil-test order slash plough lime harrow" {
		t.Errorf("%s", s)
	}
	in := intended(t, "blueberry", civil.Must(2029, 9, 15))
	in.Block.Tests[0].PH = p(6.4)
	plan := compute(t, in)
	a := item(t, plan, "sulphur")
	retest := line(t, plan, "retest")
	for _, dose := range a.Doses {
		if dose.From.After(retest.From) {
			t.Errorf("sulphur on %s follows its own check on %s", dose.From, retest.From)
		}
	}
	for _, l := range plan.Preparation.Lines {
		if l.Kind == "sulphur" && l.Moved == "Test the pH again" {
			t.Errorf("%+v", l)
		}
	}
}

// One dose has one date: what the amendments say is what the preparation says.
func TestADoseHasOneDate(t *testing.T) {
	doses := 0
	for _, sheet := range []string{"blueberry", "apple", "tea", "avocado", "persimmon"} {
		for _, ph := range []float64{4.2, 5.4, 6.9} {
			in := intended(t, sheet, civil.Must(2029, 9, 15))
			in.Block.Tests[0].PH = p(ph)
			plan := compute(t, in)
			for _, a := range plan.Works.Items {
				for _, d := range a.Doses {
					doses++
					if l := line(t, plan, d.Job); l.From != d.From || l.Until != d.By {
						t.Errorf("%s at pH %g, %s: amendments %s to %s, prepare %s to %s", sheet, ph, a.Key, d.From, d.By, l.From, l.Until)
					}
				}
			}
		}
	}
	if doses < 15 {
		t.Errorf("only %d doses were looked at", doses)
	}
}

// Where no lime is wanted no school is asked; level ground is not levelled; a crop in pots asks nothing of the soil;
// orders stand among the preparations.
func TestNothingIsAskedForThatIsNotNeeded(t *testing.T) {
	in := intended(t, "tea", civil.Must(2029, 3, 15))
	in.Block.Tests[0].PH, in.Block.Tests[0].Al = p(5.0), p(0.5)
	in.Weigh = true
	plan := compute(t, in)
	if l := plan.Works.Lime; l == nil || l.Wanted || !said(t, l.Why) {
		t.Fatalf("%+v", l)
	}
	for _, f := range plan.groundForks {
		if f.ID == "lime" {
			t.Errorf("no lime is wanted, and %q is asked with %d ways", f.Question, len(f.Ways))
		}
	}
	line(t, plan, "order")
	flat := intended(t, "sapota", civil.Must(2029, 11, 15))
	flat.Land = sloping(t, flat, 0.2)
	level := line(t, compute(t, flat), "terrace")
	if level.NotNeeded == "" || level.BaseH != 0 || level.Said {
		t.Errorf("levelling ground of 0.2 %%: %+v", level)
	}
	flat.Land = sloping(t, flat, 6)
	if level = line(t, compute(t, flat), "terrace"); level.NotNeeded != "" || level.BaseH == 0 {
		t.Errorf("levelling ground of 6 %%: %+v", level)
	}
	pots := intended(t, "raspberry", civil.Must(2029, 10, 15))
	pots.Block.Pits, pots.Block.Tests = nil, nil
	bare := compute(t, pots)
	for _, rule := range []string{"soil.no-test", "soil.no-pit"} {
		if n := notes(bare, rule); n != nil {
			t.Errorf("a crop in pots: %s", n.Sentence)
		}
	}
	pots.Block.Pits = []soil.Pit{pit("wet", func(l []soil.Layer) { l[0].Signs = []soil.Sign{soil.Grey, soil.FreeWater} })}
	if wet := compute(t, pots); wet.Drains.Needed || notes(wet, "soil.wet") != nil {
		t.Error("drains are asked for under pots")
	}
}

// sloping is heights of a plane that falls by so many per cent to the south.
func sloping(t testing.TB, in Input, pct float64) *ground.Land {
	pl := geo.LocalPlane(in.Block.Boundary)
	h := ground.Heights{HeightSource: document.HeightSource{Name: "levelled", Kind: "spots", AccuracyM: 0.01, How: "levelled"}}
	for x := -300.0; x <= 300; x += 50 {
		for y := -300.0; y <= 300; y += 50 {
			h.Spots = append(h.Spots, ground.Spot{At: pl.From(geo.XY{X: x, Y: y}), Z: 100 + pct/100*y})
		}
	}
	l, err := ground.Survey(in.Block.Boundary, []ground.Heights{h}, nil, nil)
	if err != nil || l == nil {
		t.Fatal(l, err)
	}
	return l
}

// Fumigation, chosen, shortens the wait it is good for, and its button plants inside the season.
func TestFumigationShortensTheWait(t *testing.T) {
	in := intended(t, "strawberry", civil.Must(2026, 3, 5))
	in.Today = civil.Must(2025, 12, 1)
	in.Block.Uses = []rotation.Use{{Kind: "wilt-host", End: civil.Must(2025, 9, 1)}}
	long := compute(t, in).Soil.Earliest
	in.Block.Decided = map[string]document.Choice{document.CoverFork: {Option: "fumigation"}}
	plan := compute(t, in)
	if !plan.Soil.Earliest.Before(long.AddMonths(-40)) || plan.Soil.Earliest != in.Today.AddDays(49) {
		t.Errorf("with fumigation %s, without %s", plan.Soil.Earliest, long)
	}
	in.Block.Planting.Date = civil.Must(2025, 12, 20)
	n := notes(compute(t, in), "site.waiting")
	if n == nil {
		t.Fatal("no wait in three weeks")
	}
	day, err := civil.Parse(n.Remedies[0].Patch["planting"].(map[string]any)["date"].(string))
	s, _ := library(t).Get("strawberry")
	seasons, _ := schedule.NewSeasons(in.Estate.Seasons)
	if err != nil || !seasons.InWindow(day, s.Windows) || day.Before(plan.Soil.Earliest) {
		t.Errorf("the button plants on %s", day)
	}
}

// A crop without a day is planted inside its window, after all its sheet asks for can still be begun in time; in both
// halves of the earth.
func TestDefaultDay(t *testing.T) {
	for _, south := range []bool{false, true} {
		for _, s := range library(t).All() {
			for _, today := range []civil.Date{civil.Must(2026, 1, 31), civil.Must(2026, 8, 15)} {
				e := document.Estate{Name: "E", Units: "metric", Seasons: schedule.Temperate(south)}
				seasons, _ := schedule.NewSeasons(e.Seasons)
				b := document.Block{Planting: &document.Planting{Sheet: s.ID}}
				Complete(&b, e, library(t).Get, today)
				day := b.Planting.Date
				if !seasons.InWindow(day, s.Windows) || len(s.Windows) == 0 || !day.After(today) || day.Sub(today) > 5*366 || b.Planting.Date != day {
					t.Errorf("%s, south %v, from %s: planted on %s and %s", s.ID, south, today, day, b.Planting.Date)
				}
				for _, j := range schedule.Jobs(s.Operations(s.Resolve(nil)), schedule.Calendar{Seasons: seasons, Planting: day, Life: 1}) {
					if j.Preparation && j.From.Before(today) {
						t.Errorf("%s, from %s: %s should begin on %s", s.ID, today, j.Operation.Name, j.From)
					}
				}
			}
		}
	}
	e := document.Estate{Seasons: schedule.Temperate(true)}
	b := document.Block{Planting: &document.Planting{Sheet: "nope"}}
	Complete(&b, e, library(t).Get, civil.Must(2026, 1, 1))
	if !b.Planting.Date.IsZero() {
		t.Errorf("%+v", b.Planting)
	}
}

// What cannot be computed never takes the rest of the plan with it, and no number that is none leaves the core.
func TestNoNumberThatIsNone(t *testing.T) {
	in := grounded(t, "tea")
	for _, l := range []soil.Layer{{BottomCm: 60, Measured: &soil.Fractions{SandPct: 97, SiltPct: 2, ClayPct: 1}, OMPct: 0.2},
		{BottomCm: 60, Measured: &soil.Fractions{SandPct: 95, SiltPct: 5, ClayPct: 0}}} {
		in.Block.Pits[0].Layers = []soil.Layer{l}
		plan := compute(t, in)
		if !(plan.Soil.AvailableMM > 0) || finite.Zero(plan) {
			t.Errorf("%+v: %g mm", l.Measured, plan.Soil.AvailableMM)
		}
		if notes(plan, "soil.estimate") == nil {
			t.Error("a sand beyond the regressions is not doubted")
		}
	}
	in.Estate.Materials[0].ReactivityPct = 0
	in.Estate.Materials[0].Sieves.Over2 = 100
	if err := in.Estate.Valid(); err == nil {
		t.Error("lime of which nothing acts is accepted")
	}
	c := &computation{Voice: &report.Voice{Figures: []report.Figure{{Path: "x", Step: "soil", Label: "X", Value: math.NaN()}}}, p: &Plan{Drains: &drains.Plan{},
		Years: []crop.Year{{SpreadM: math.Inf(1), FeedKg: map[string]float64{"n": math.NaN(), "k": 2}}}}}
	c.p.Drains.DepthM = 1.2
	c.finite()
	if f := c.Figures[0]; f.Value != 0 || f.Text == "" || c.p.Years[0].SpreadM != 0 || c.p.Years[0].FeedKg["n"] != 0 || c.p.Years[0].FeedKg["k"] != 2 ||
		c.p.Drains.DepthM != 1.2 {
		t.Errorf("%+v %+v", f, c.p.Years[0])
	}
	if len(c.Findings) != 2 || c.Findings[0].Weight != finding.Mend || c.Findings[0].Step != "soil" || c.Findings[1].Step != "yield" {
		t.Errorf("%+v", c.Findings)
	}
}

// A day nobody can mean is refused with its field; whatever day is accepted computes.
func TestDaysNearTheLimits(t *testing.T) {
	for _, year := range []int{1700, 1899, 2201, 2500} {
		in := input(t, "tea")
		in.Block.Planting.Date = civil.Must(year, 6, 1)
		var fe *finding.FieldError
		if _, err := Compute(in, nil); !asFieldError(err, &fe) || fe.Field != "planting.date" {
			t.Errorf("%d: %v", year, err)
		}
	}
	for _, s := range library(t).Whole() {
		for _, day := range []civil.Date{civil.Must(1900, 1, 1), civil.Must(1901, 6, 1), civil.Must(2200, 12, 31)} {
			in := input(t, s.ID)
			in.Block.Planting.Date = day
			plan := compute(t, in)
			for _, j := range plan.Jobs {
				if _, err := civil.Parse(j.From.String()); err != nil {
					t.Errorf("%s on %s: %s cannot be written and read again: %v", s.ID, day, j.Key, err)
				}
			}
		}
	}
}

// On a plane that falls one way the field is drained by a gridiron; where two sides fall to a middle line, by a
// herringbone, also when the line of fall is crooked to the block.
func TestValleyOrPlane(t *testing.T) {
	for _, c := range []struct {
		name   string
		z      func(x, y float64) float64
		valley bool
	}{
		{"falls south", func(x, y float64) float64 { return 50 + 0.02*y }, false},
		{"falls to a corner", func(x, y float64) float64 { return 50 + 0.02*y + 0.013*x }, false},
		{"falls nearly along the diagonal", func(x, y float64) float64 { return 50 + 0.02*y + 0.03*x }, false},
		{"two sides to the middle", func(x, y float64) float64 { return 50 + 0.01*y + 0.03*math.Abs(x) }, true},
		{"two sides, off the middle", func(x, y float64) float64 { return 50 + 0.01*y + 0.03*math.Abs(x-25) }, true},
		{"a ridge", func(x, y float64) float64 { return 50 + 0.01*y - 0.03*math.Abs(x) }, false},
		{"level", func(x, y float64) float64 { return 50 }, false},
	} {
		in := grounded(t, "tea")
		pl := geo.LocalPlane(in.Block.Boundary)
		h := ground.Heights{HeightSource: document.HeightSource{Name: "levelled", Kind: "spots", AccuracyM: 0.01}}
		for x := -300.0; x <= 300; x += 12.5 {
			for y := -300.0; y <= 300; y += 12.5 {
				h.Spots = append(h.Spots, ground.Spot{At: pl.From(geo.XY{X: x, Y: y}), Z: c.z(x, y)})
			}
		}
		in.Land, _ = ground.Survey(in.Block.Boundary, []ground.Heights{h}, nil, nil)
		in.Block.Pits[0].Layers[1].Signs = []soil.Sign{soil.Grey, soil.FreeWater}
		in.Block.Drains = &document.DrainChoice{Source: "rain"}
		rank := map[string]int{}
		for i, r := range compute(t, in).Drains.Remedies {
			rank[r.ID] = i + 1
		}
		if got := rank["herringbone"] < rank["gridiron"]; got != c.valley {
			t.Errorf("%s: ranks %v", c.name, rank)
		}
	}
}

// The cold a crop dies of is read from monthly minima where nothing better is known; a pH nobody measured caps the
// answer and says how to find out; water that can be brought mends a want of rain.
func TestWhatIsNotKnownCapsTheAnswer(t *testing.T) {
	in := grounded(t, "tea")
	in.Climate = site(true)
	in.Climate.MinC10, in.Climate.ColdestMinC, in.Climate.AnnualMeanC, in.Climate.HotMaxC = math.NaN(), -5, 18, 30
	citrus, _ := library(t).Get("citrus")
	f := Matrix(in, []*practice.Sheet{citrus}, true)[0]
	if f.Verdict == fit.FitAsItIs || f.Verdict == fit.FitWorks || f.Verdict == fit.NotSure || !said(t, f.Sentence) {
		t.Errorf("citrus where January nights average −5 °C: %s, %s", f.Verdict, f.Sentence)
	}
	in.Climate.ColdestMinC = 12
	if f = Matrix(in, []*practice.Sheet{citrus}, true)[0]; !f.Capped || !said(t, f.Sentence) {
		t.Errorf("mild nights do not tell the coldest: %+v", f.Sentence)
	}
	in.Climate = site(true)
	blueberry, _ := library(t).Get("blueberry")
	in.Block.Tests[0].PH = nil
	f = Matrix(in, []*practice.Sheet{blueberry}, true)[0]
	if f.Verdict != fit.NotSure && f.Verdict != fit.NotHere && f.Verdict != fit.Marginal || !f.Capped || !said(t, strings.Join(f.FindOut, " ")) {
		t.Errorf("blueberry on a pH nobody measured: %s %v", f.Verdict, f.FindOut)
	}
	looked := 0
	for _, s := range library(t).All() {
		l, ok := fit.LimitOf(s, "rainMm", "metric")
		if !ok || l.Range == nil || l.Range.Tolerated[0] == nil || *l.Range.Tolerated[0] < 50 {
			continue
		}
		looked++
		in = grounded(t, "tea")
		in.Climate = site(true)
		in.Climate.RainMM = *l.Range.Tolerated[0] - 3
		for _, answer := range []string{"", "guess", "enough", "short", "none"} {
			if in.Block.Answers = nil; answer != "" {
				in.Block.Answers = map[string]document.SiteAnswer{"water": {Answer: answer}}
			}
			f := Matrix(in, []*practice.Sheet{s}, true)[0]
			for _, x := range f.Factors {
				if x.Key == "rainMm" && (answer == "short" || answer == "none") != (x.After == suitability.ClassOf(x.Rating, false)) {
					t.Errorf("%s, water %q, 3 mm short: %s, after works %s (%s)", s.ID, answer, x.Class, x.After, x.Remedy)
				}
			}
		}
	}
	if looked < 5 {
		t.Errorf("only %d crops have a least rain", looked)
	}
}

// A fumigation is dated back from planting over the label's plant-back and the days the weather leaves, counted in the record,
// into the months warm enough; what its last day would miss moves planting in the network.
func TestFumigationWithAWeatherMargin(t *testing.T) {
	in := intended(t, "strawberry", civil.Must(2027, 4, 5))
	in.Today = civil.Must(2026, 3, 1)
	in.Block.Decided = map[string]document.Choice{document.CoverFork: {Option: "fumigation"}}
	job := func(p *Plan) report.Job {
		t.Helper()
		i := slices.IndexFunc(p.Jobs, func(j report.Job) bool { return j.Key == prepare.GasJob })
		if i < 0 {
			t.Fatal("no fumigation")
		}
		return p.Jobs[i]
	}
	// ten years: every fourth day wet, and the air at 4 °C from November to March, 16 °C else
	var days []climate.Day
	for d := civil.Must(2015, 1, 1); d.Before(civil.Must(2025, 1, 1)); d = d.AddDays(1) {
		x := climate.Blank(d)
		mean := 16.0
		if m := d.Month(); m >= 11 || m <= 3 {
			mean = 4
		}
		x.TMin, x.TMax, x.Rain = mean-4-float64(d.DayOfYear()%3)/10, mean+4, 0
		if d.DayOfYear()%4 == 0 {
			x.Rain = 8
		}
		days = append(days, x)
	}
	series := climate.NewSeries(days)
	site := in.Estate.ClimateOf(&series, 45)
	site.Months, site.HasMonths = series.Normals(), true
	in.Climate = &site
	pl, ring := geo.LocalPlane(in.Block.Boundary), geo.Ring{}
	for _, c := range []geo.XY{{X: 0, Y: 0}, {X: 300, Y: 0}, {X: 300, Y: 299}, {X: 0, Y: 299}} {
		ring = append(ring, pl.From(c))
	}
	in.Block.Boundary = geo.Polygon{Outer: ring}
	p := compute(t, in)
	j := job(p)
	if j.By != civil.Must(2026, 10, 31) || j.From != civil.Must(2026, 10, 17) {
		t.Errorf("planted in April it is begun %s to %s, the soil is warm until October", j.From, j.By)
	}
	forks, err := Forks(in)
	if i := slices.IndexFunc(forks, func(f report.Fork) bool { return f.ID == document.CoverFork }); err != nil || i < 0 ||
		forks[i].Ways[2].Consequences[0].Value != 7 { // from 26 September to 5 April
		t.Errorf("the fork does not say when it begins: %v, %+v", err, forks)
	}
	if n := notes(p, "prepare.fumigation"); n == nil || !said(t, n.Sentence) {
		t.Error("not said why")
	}
	// 9 ha are nine days of work: of twelve days in a row nine can be worked, so 12 in any year, and the reserve is a week at least
	in.Block.Planting.Date = civil.Must(2026, 9, 1)
	if j = job(compute(t, in)); in.Block.Planting.Date.Sub(j.By) != 21+7+8 {
		t.Errorf("planted in September it is begun by %s, %d days before", j.By, in.Block.Planting.Date.Sub(j.By))
	}
	in.Block.Works = &document.WorksChoice{PlantBack: 56}
	if j = job(compute(t, in)); in.Block.Planting.Date.Sub(j.By) != 56+7+8 || !said(t, j.Rule) {
		t.Errorf("with a longer plant-back by the label by %s", j.By)
	}
	// seen in November for planting in February: the soil is cold, and warm enough again in April
	in.Today, in.Block.Planting.Date = civil.Must(2026, 11, 20), civil.Must(2027, 2, 20)
	p = compute(t, in)
	free := p.Network.Free
	if len(p.Network.Conflicts) == 0 || free.Before(civil.Must(2027, 4, 1).AddDays(56)) {
		t.Errorf("free on %s, %v", free, p.Network.Conflicts)
	}
	in.Climate, in.Block.Works = nil, nil
	in.Today, in.Block.Planting.Date = civil.Must(2026, 3, 1), civil.Must(2026, 9, 1)
	if j = job(compute(t, in)); in.Block.Planting.Date.Sub(j.By) != 21+14+8 {
		t.Errorf("without a record it is begun %d days before", in.Block.Planting.Date.Sub(j.By))
	}
	in.Block.Works = &document.WorksChoice{PlantBack: 3}
	if _, err := Compute(in, nil); err == nil {
		t.Error("a plant-back of three days is taken")
	}
}
