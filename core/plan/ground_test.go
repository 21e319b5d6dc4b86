package plan

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"slowroot/core/amend"
	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan/fit"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/prepare"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/rotation"
	"slowroot/core/soil"
	"slowroot/core/suitability"
	"slowroot/core/working"
)

func p(v float64) *float64 { return &v }

// pit is loam over clay loam to 120 cm.
func pit(name string, change func([]soil.Layer)) soil.Pit {
	layers := []soil.Layer{
		{TopCm: 0, BottomCm: 30, Class: soil.Loam, OMPct: 2.5, Structure: soil.Crumb, Hardness: soil.Loose, DensityG: 1},
		{TopCm: 30, BottomCm: 80, Class: soil.ClayLoam, OMPct: 1, Structure: soil.Blocky, Hardness: soil.Firm},
		{TopCm: 80, BottomCm: 120, Class: soil.ClayLoam, OMPct: 0.5, Structure: soil.Blocky, Hardness: soil.Firm},
	}
	if change != nil {
		change(layers)
	}
	return soil.Pit{Name: name, On: civil.Must(2025, 2, 1), Layers: layers, Moisture: soil.Dry}
}

// ground is the test field with a pit, a soil test, prices and an analysed liming material.
func grounded(t testing.TB, sheet string) Input {
	in := input(t, sheet)
	in.Block.Pits = []soil.Pit{pit("A", nil), pit("B", nil), pit("C", nil)}
	in.Block.Tests = []soil.Test{{Lab: "L", On: civil.Must(2025, 1, 15), FromCm: 0, ToCm: 20, PH: p(5.4), PHMethod: "water", OMPct: p(2.5), K: p(0.2), Ca: p(2.1),
		Mg: p(0.5), CEC: p(8), SandPct: p(40), SiltPct: p(40), ClayPct: p(20), ECe: p(0.4)}}
	in.Estate.Materials = []document.Material{{ID: "pure", Name: "Ground chalk", Liming: amend.Liming{NeutralisingPct: 80, ReactivityPct: 100}},
		{ID: "dust", Name: "Yard dust"}}
	in.Estate.Prices = []document.Price{{Item: "lime:pure", Unit: "t", Each: 40, On: civil.Must(2024, 1, 1)}, {Item: "lime:pure", Unit: "t", Each: 50,
		On: civil.Must(2025, 1, 1)}, {Item: "lime:pure", Unit: "t", Each: 99, On: civil.Must(2026, 1, 1)}}
	in.Estate.Currency = "C$"
	return in
}

// intended considers any sheet of the library instead of planting it.
func intended(t testing.TB, sheet string, date civil.Date) Input {
	in := grounded(t, "tea")
	s, ok := library(t).Get(sheet)
	if !ok {
		t.Fatalf("no sheet %s", sheet)
	}
	in.Sheet, in.Block.Planting = s, &document.Planting{Considered: true, Sheet: sheet, Date: date}
	return in
}

func item(t testing.TB, plan *Plan, key string) prepare.Amendment {
	t.Helper()
	for _, a := range plan.Works.Items {
		if a.Key == key {
			return a
		}
	}
	t.Fatalf("no %s among %+v", key, plan.Works.Items)
	return prepare.Amendment{}
}

// A plane of known slope comes back from spots and from a grid, and the better source is used.
func TestLandOfAPlane(t *testing.T) {
	in := input(t, "tea")
	pl := geo.LocalPlane(in.Block.Boundary)
	z := func(q geo.XY) float64 { return 50 + 0.048*q.X + 0.036*q.Y } // 6 %, falling to 233.13°
	spots := ground.Heights{HeightSource: document.HeightSource{Name: "spots", Kind: "spots", AccuracyM: 0.02}}
	for x := -200.0; x <= 200; x += 50 {
		for y := -150.0; y <= 150; y += 50 {
			spots.Spots = append(spots.Spots, ground.Spot{At: pl.From(geo.XY{X: x, Y: y}), Z: z(geo.XY{X: x, Y: y})})
		}
	}
	rough := spots
	rough.Name, rough.AccuracyM = "phone", 6
	far := ground.Heights{HeightSource: document.HeightSource{Name: "far", Kind: "spots", AccuracyM: 0.01}, Spots: []ground.Spot{{At: geo.Point{Lon: 10, Lat: 50},
		Z: 1}, {At: geo.Point{Lon: 10.1, Lat: 50}, Z: 1}, {At: geo.Point{Lon: 10, Lat: 50.1}, Z: 2}}}
	l, err := ground.Survey(in.Block.Boundary, []ground.Heights{rough, far, spots}, nil, nil)
	if err != nil || l == nil {
		t.Fatal(l, err)
	}
	if l.Source.Name != "spots" || math.Abs(l.Lie.SlopePct-6) > 0.01 || math.Abs(l.Lie.FallsTo-(180+53.1301)) > 0.2 || l.Class.Name != "sloping" {
		t.Errorf("%s: %+v %s", l.Source.Name, l.Lie, l.Class.Name)
	}
	in.Land = l
	plan := compute(t, in)
	if n := notes(plan, "land.slope"); n == nil || n.Weight != finding.Mend || len(n.Remedies) == 0 || !strings.Contains(n.Remedies[0].Label, "143°") {
		t.Errorf("rows at 0° on a slope falling to 233°: %+v", n)
	}
	in.Land, err = ground.Survey(in.Block.Boundary, []ground.Heights{rough}, nil, nil)
	if n := notes(compute(t, in), "land.accuracy"); err != nil || n == nil || !said(t, n.Sentence) {
		t.Errorf("heights to 6 m: %+v %v", n, err)
	}
	if l, err := ground.Survey(in.Block.Boundary, []ground.Heights{far}, nil, nil); l != nil || err != nil {
		t.Errorf("heights on another continent give %v, %v", l, err)
	}
	d := in.Land.Draw(pl)
	if len(d.Contours) < 3 {
		t.Errorf("%d contours on 20 m of relief", len(d.Contours))
	}
}

// A bowl behind a hedge is a frost pocket, a spur above it is not.
func TestFrostPocketAndWhatDamsIt(t *testing.T) {
	in := input(t, "hazelnut")
	pl := geo.LocalPlane(in.Block.Boundary)
	src := func(f func(x, y float64) float64) ground.Heights {
		h := ground.Heights{HeightSource: document.HeightSource{Name: "g", Kind: "spots", AccuracyM: 0.05}}
		for x := -600.0; x <= 600; x += 40 {
			for y := -600.0; y <= 600; y += 40 {
				h.Spots = append(h.Spots, ground.Spot{At: pl.From(geo.XY{X: x, Y: y}), Z: f(x, y)})
			}
		}
		return h
	}
	bowl := src(func(x, y float64) float64 { return 60 + 0.02*y - 9*math.Exp(-(x*x+y*y)/(160*160)) })
	hedge := document.Barrier{Name: "South hedge", Kind: "hedge", HeightM: 5, Porosity: 0.1, Line: []geo.Point{pl.From(geo.XY{X: -200, Y: -10}),
		pl.From(geo.XY{X: 200, Y: -10})}}
	closed, err := ground.Survey(in.Block.Boundary, []ground.Heights{bowl}, []document.Barrier{hedge}, nil)
	if err != nil || closed.Judged() != "pocket" || len(closed.Hollows) == 0 || closed.Hollows[0].DepthM < 1 {
		t.Fatalf("%v %+v %v", closed.Judged(), closed.Hollows, err)
	}
	hedge.Gap = true
	open, _ := ground.Survey(in.Block.Boundary, []ground.Heights{bowl}, []document.Barrier{hedge}, nil)
	sum := func(l *ground.Land) (n int) {
		for _, s := range l.Cold {
			n += s.Score
		}
		return n
	}
	if sum(open) >= sum(closed) {
		t.Errorf("a gap in the hedge leaves %d of %d points", sum(open), sum(closed))
	}
	spur, _ := ground.Survey(in.Block.Boundary, []ground.Heights{src(func(x, y float64) float64 { return 60 + 12*math.Exp(-(x*x+y*y)/(300*300)) })}, nil, nil)
	if spur.Judged() == "pocket" || spur.Judged() == "high" {
		t.Errorf("a hill top is judged %s", spur.Judged())
	}
	in.Land = closed
	judged := Matrix(in, []*practice.Sheet{in.Sheet}, true)[0]
	if judged.Limiting != "frostPlace" || judged.Verdict != fit.NotHere {
		t.Errorf("an early bloomer in a frost pocket: %s by %s", judged.Verdict, judged.Limiting)
	}
}

// Method SOIL-4: percentile of pits 40, 55, 60, 90, 110 is 55; a pan 45–55 cm is ripped below.
func TestDepthOfABlock(t *testing.T) {
	in := grounded(t, "tea")
	in.Block.Pits = nil
	for i, cm := range []float64{40, 55, 60, 90, 110} {
		in.Block.Pits = append(in.Block.Pits, soil.Pit{Name: fmt.Sprint(i), Layers: []soil.Layer{{TopCm: 0, BottomCm: cm, Class: soil.Loam},
			{TopCm: cm, BottomCm: cm + 20, Class: soil.Loam, Hardness: soil.Rock}}})
	}
	plan := compute(t, in)
	if d := value(t, plan, "soil.depth"); d != 55 || plan.Soil.Limiting != "rock" {
		t.Errorf("effective depth %g to %s, want 55 to rock", d, plan.Soil.Limiting)
	}
	in.Block.Pits = []soil.Pit{pit("pan", func(l []soil.Layer) {
		l[1].TopCm, l[0].BottomCm = 30, 30
		l[1].BottomCm, l[2].TopCm = 45, 45
		l[1].Hardness, l[1].Structure = soil.Hard, soil.Platy
	})}
	plan = compute(t, in)
	v := plan.Soil.Pits[0]
	if v.EffectiveCm != 30 || v.AfterCm != 120 || v.Rip == nil || v.Rip.DepthCm != 50 || !v.Rip.Shatters {
		t.Errorf("%+v %+v", v, v.Rip)
	}
	if n := notes(plan, "soil.rip"); n == nil || !said(t, n.Sentence) {
		t.Errorf("ripping: %+v", n)
	}
	for _, l := range plan.Preparation.Lines {
		if l.Kind == "rip" && l.DepthCm[1] < 50 {
			t.Errorf("the rip goes to %v, the pan needs 50", l.DepthCm)
		}
	}
}

// Method AMD-1, school A: CEC 8, V 35 → 60 %, product value 80, 30 cm: 3.750 t/ha; 0.4 of the area treated
// gives 1.500 per gross hectare.
func TestLimeInTonnesOfARealProduct(t *testing.T) {
	in := intended(t, "coffee", civil.Must(2027, 7, 5)) // base saturation of 60 % is wanted
	in.Block.Works = &document.WorksChoice{DepthCm: 30}
	a := item(t, compute(t, in), "lime")
	if math.Abs(a.PerHaKg-3750) > 1 || math.Abs(a.TotalKg-3750*6) > 10 {
		t.Errorf("%.0f kg/ha, %.0f kg for 6 ha", a.PerHaKg, a.TotalKg)
	}
	if a.Cost == nil || math.Abs(*a.Cost-3.75*6*50) > 1 {
		t.Errorf("cost %v: the price of 2025 counts, not that of 2024 nor the coming one", a.Cost)
	}
	in.Block.Works.StripM, in.Block.Works.RowM = 1.2, 3
	plan := compute(t, in)
	if a := item(t, plan, "lime"); math.Abs(a.TotalKg/plan.Works.AreaHa-1500) > 1 {
		t.Errorf("strips of 1.2 in 3 m: %.0f kg for a gross hectare, want 1500", a.TotalKg/plan.Works.AreaHa)
	}
	for _, n := range plan.Works.Lime.Needs {
		in.Block.Decided = map[string]document.Choice{"lime": {Option: string(n.School)}}
		got := compute(t, in)
		if n.Lack == "" && (got.Works.Lime.Taken != n.School || got.Works.Lime.PerHaT != n.TPerHa) {
			t.Errorf("choosing %s takes %s", n.School, got.Works.Lime.Taken)
		} else if n.Lack != "" && got.Works.Lime.Taken == n.School {
			t.Errorf("%s lacks %s and is taken", n.School, n.Lack)
		}
	}
	in.Block.Decided = map[string]document.Choice{"lime": {Option: "guesswork"}}
	if _, err := Compute(in, nil); err == nil {
		t.Error("a school nobody knows is taken")
	}
	in.Estate.Prices = nil
	in.Block.Decided = nil
	if a := item(t, compute(t, in), "lime"); a.Cost != nil || a.CostText != "no price" {
		t.Errorf("without a price it costs %v, %s", a.Cost, a.CostText)
	}
}

func TestUnanalysedMaterialStopsThePlan(t *testing.T) {
	in := grounded(t, "persimmon")
	in.Block.Works = &document.WorksChoice{Material: "dust"}
	plan := compute(t, in)
	n := notes(plan, "works.lime-unanalysed")
	if n == nil || n.Weight != finding.Stops || len(n.Remedies) != 1 || !said(t, n.Sentence) {
		t.Fatalf("%+v", n)
	}
	if a := item(t, plan, "lime"); a.PerHaKg != 0 || a.PureT <= 0 || a.Blocked == "" {
		t.Errorf("a rate is given of unanalysed dust: %+v", a)
	}
	if got := n.Remedies[0].Patch["works"].(map[string]any)["material"]; got != "pure" {
		t.Errorf("the remedy takes %v", got)
	}
	in.Estate.Materials[1].Liming = amend.Liming{NeutralisingPct: 60, ReactivityPct: 70}
	in.Estate.Materials[1].Guess = true
	plan = compute(t, in)
	if notes(plan, "works.lime-unanalysed") != nil || notes(plan, "works.guess") == nil {
		t.Error("a guessed analysis must be said, and no longer stops")
	}
}

// A late start shows what is still possible, and the date it proposes mends it.
func TestLateStart(t *testing.T) {
	in := grounded(t, "persimmon")
	for _, c := range []struct {
		months  int
		reached float64
		none    bool
	}{{30, 1, false}, {5, 0, false}, {1, 0, true}} {
		in.Block.Planting.Date = in.Today.AddMonths(c.months)
		a := item(t, compute(t, in), "lime")
		sum := 0.0
		for i, d := range a.Doses {
			sum += d.Kg
			if d.Kg/6 > 8001 {
				t.Errorf("%.0f kg/ha in one application", d.Kg/6)
			}
			if i > 0 && d.From.Before(a.Doses[i-1].From.AddMonths(6)) {
				t.Errorf("applications on %s and %s", a.Doses[i-1].From, d.From)
			}
		}
		if math.Abs(sum-a.TotalKg) > 1e-6 {
			t.Errorf("applications make %.0f of %.0f kg", sum, a.TotalKg)
		}
		if c.none != (a.Possible == 0) || c.reached == 1 && a.Reached != 1 || a.Reached < 0 || a.Reached > 1 {
			t.Errorf("%d months ahead: %d applications, %.2f reached", c.months, a.Possible, a.Reached)
		}
		n := notes(compute(t, in), "works.late amendment:lime")
		if (n == nil) != (a.Reached > 0.99) {
			t.Errorf("%d months ahead the finding is %+v", c.months, n)
		}
		if n != nil {
			d, _ := civil.Parse(n.Remedies[0].Patch["planting"].(map[string]any)["date"].(string))
			in.Block.Planting.Date = d
			if again := item(t, compute(t, in), "lime"); again.Reached < 0.99 {
				t.Errorf("planted on %s as proposed it reaches %.2f", d, again.Reached)
			}
		}
	}
}

// What else is late names the day the lime would be ready, where its own date is earlier; where it is later, the
// lime is no matter.
func TestLatenessNamesTheLimeToo(t *testing.T) {
	in := grounded(t, "persimmon")
	in.Block.Planting.Date = in.Today.AddMonths(4)
	saw := map[bool]bool{}
	for range 8 {
		plan := compute(t, in)
		f := notes(plan, "schedule.lead-time-passed")
		if f == nil {
			break
		}
		a := item(t, plan, "lime")
		move, _ := civil.Parse(f.Remedies[0].Patch["planting"].(map[string]any)["date"].(string))
		full := in.Today.AddMonths(a.LeadMonths + (len(a.Doses)-1)*6)
		saw[full.After(move)] = true
		if full.After(move) != strings.Contains(f.Sentence, "Lime, begun now, has acted in full on "+full.Words()) {
			t.Errorf("planted on %s, lime in full on %s: %s", move, full, f.Sentence)
		}
		// the job that is latest was done after all
		var first report.Job
		for _, j := range plan.Jobs {
			if j.Passed && !strings.HasPrefix(j.Key, "works-") && (first.Key == "" || j.By.Before(first.By)) {
				first = j
			}
		}
		in.done(first.By, first.Key)
	}
	if !saw[true] || !saw[false] {
		t.Errorf("only one of the two cases came up: %v", saw)
	}
}

func TestSulphurForAcidLovers(t *testing.T) {
	in := intended(t, "blueberry", civil.Must(2027, 7, 5))
	in.Block.Tests[0].PH = p(5.8)
	a := item(t, compute(t, in), "sulphur") // loam, 5.8 → 5.0 (1506 − 594 kg in 15 cm), times 20/15
	if math.Abs(a.PerHaKg-(1506.4-594)*20/15) > 2 || a.LeadMonths < 6 || len(a.Doses) != 2 {
		t.Errorf("%.0f kg/ha, %d months, %d doses", a.PerHaKg, a.LeadMonths, len(a.Doses))
	}
	in.Block.Tests[0].LimePct, in.Block.Tests[0].PH = p(3), p(7.6)
	plan := compute(t, in)
	if a := item(t, plan, "sulphur"); !strings.Contains(a.Blocked, "do not acidify") || notes(plan, "works.blocked amendment:sulphur") == nil {
		t.Errorf("fizzing soil: %+v", a)
	}
	in.Block.Tests[0].LimePct, in.Block.Tests[0].PH = nil, p(4.7)
	if plan := compute(t, in); plan.Works.Lime.Wanted {
		t.Errorf("blueberry at pH 4.7 is limed: %+v", plan.Works.Lime)
	}
}

// What the report contradicts is said with its arithmetic, and old tests and missing ones too.
func TestDoubtsAboutTests(t *testing.T) {
	in := grounded(t, "persimmon")
	in.Block.Tests[0].CEC = p(2)
	if n := notes(compute(t, in), "soil.cec-below-bases"); n == nil || !said(t, n.Sentence) {
		t.Errorf("%+v", n)
	}
	in.Block.Tests[0].CEC = p(8)
	in.Block.Tests[0].On = civil.Must(2022, 1, 1)
	if n := notes(compute(t, in), "soil.old-test"); n == nil || !said(t, n.Sentence) {
		t.Errorf("%+v", n)
	}
	in.Block.Tests = nil
	plan := compute(t, in)
	if n := notes(plan, "soil.no-test"); n == nil || n.Weight != finding.Mend || len(plan.Works.Items) != 0 {
		t.Errorf("%+v", n)
	}
}

// The check value of method SITE-3, and the date it proposes.
func TestWhatGrewBefore(t *testing.T) {
	in := intended(t, "strawberry", civil.Must(2027, 7, 5))
	in.Block.Uses = []rotation.Use{{Kind: "wilt-host", End: civil.Must(2024, 9, 1)}, {Kind: "herbicide", End: civil.Must(2025, 3, 1), Months: 12}}
	plan := compute(t, in)
	if plan.Soil.Earliest != civil.Must(2029, 9, 1) || plan.Soil.Latest != civil.Must(2032, 9, 1) {
		t.Errorf("%s to %s", plan.Soil.Earliest, plan.Soil.Latest)
	}
	n := notes(plan, "site.waiting")
	if n == nil || n.Remedies[0].Patch["planting"].(map[string]any)["date"] != "2030-02-01" { // the first day of its season after the wait, south of the equator
		t.Errorf("%+v", n)
	}
}

func site(south bool) *climate.Site {
	months := make([]climate.Month, 12)
	for i := range months {
		s := math.Cos(2 * math.Pi * float64(i) / 12)
		if !south {
			s = -s
		}
		months[i] = climate.Month{MeanC: 13 + 5*s, MinC: 8 + 4*s, MaxC: 18 + 6*s, RainMM: 90 - 40*s, RH: 75, Wind: 2, Sun: 6 + 2*s}
	}
	lat := 38.0
	if south {
		lat = -38
	}
	got := climate.NewSite(months, nil, lat, 50, false, "test normals")
	got.MinC10, got.FrostFree, got.ChillHours = -3, 250, 900
	return &got
}

var rank = map[suitability.Class]int{suitability.S1: 1, suitability.S2: 2, suitability.S3: 3, suitability.N1: 4, suitability.N2: 5}

// The verdict is the worst factor; works never worsen it and never change the climate.
func TestFit(t *testing.T) {
	in := grounded(t, "tea")
	in.Climate = site(true)
	in.Block.Answers = map[string]document.SiteAnswer{"water": {Answer: "enough"}, "waterQuality": {Answer: "good"}}
	fits := Matrix(in, library(t).All(), true)
	seen := map[fit.Verdict]int{}
	for _, f := range fits {
		seen[f.Verdict]++
		if f.Sentence == "" || f.Verdict == "" {
			t.Errorf("%s says nothing", f.Sheet)
		}
		worst := suitability.S1
		for _, x := range f.Factors {
			if x.Class == suitability.NotJudged {
				continue
			}
			if rank[x.Class] > rank[worst] {
				worst = x.Class
			}
			if rank[x.After] > rank[x.Class] {
				t.Errorf("%s, %s: works turn %s into %s", f.Sheet, x.Key, x.Class, x.After)
			}
			if x.Letter == "c" && x.Key != "windMS" && x.After != x.Class && x.Class != suitability.N1 {
				t.Errorf("%s: works change the climate, %s", f.Sheet, x.Key)
			}
			if x.Remedy != "" && x.CostText == "" {
				t.Errorf("%s, %s: a remedy without a word on its cost", f.Sheet, x.Key)
			}
			if rank[x.After] < rank[x.Class] && x.Remedy == "" && x.Class != suitability.N1 {
				t.Errorf("%s, %s: better after works, but which?", f.Sheet, x.Key)
			}
		}
		if f.Class != worst && !(f.Capped && f.Class == suitability.S2) {
			t.Errorf("%s is %s, its worst factor %s", f.Sheet, f.Class, worst)
		}
	}
	if seen[fit.NotHere] == 0 || seen[fit.FitAsItIs]+seen[fit.FitWorks] == 0 {
		t.Errorf("answers %v", seen)
	}
	banana, _ := library(t).Get("banana")
	if f := Matrix(in, []*practice.Sheet{banana}, true)[0]; f.Verdict != fit.NotHere || !said(t, f.Sentence) {
		t.Errorf("banana at 13 °C: %s", f.Sentence)
	}
	in.Block.Pits = nil
	apple, _ := library(t).Get("apple")
	f := Matrix(in, []*practice.Sheet{apple}, true)[0]
	if !f.Capped || f.Class == suitability.S1 || f.Verdict != fit.NotSure || !said(t, f.Sentence) {
		t.Errorf("without a pit: %+v", f)
	}
	light := Matrix(in, library(t).All(), false)
	whole := Matrix(in, library(t).All(), true)
	for i := range light {
		if light[i].Verdict != whole[i].Verdict || light[i].Class != whole[i].Class || light[i].Months != whole[i].Months {
			t.Errorf("%s in short is %s, in detail %s", light[i].Sheet, light[i].Verdict, whole[i].Verdict)
		}
	}
}

// Northern and southern estates of the same weather get the same answers.
func TestFitInBothHemispheres(t *testing.T) {
	in := grounded(t, "tea")
	in.Climate = site(true)
	a := Matrix(in, library(t).All(), false)
	in.Climate = site(false)
	b := Matrix(in, library(t).All(), false)
	for i := range a {
		if a[i].Verdict != b[i].Verdict {
			t.Errorf("%s: %s south, %s north", a[i].Sheet, a[i].Verdict, b[i].Verdict)
		}
	}
}

// The order of the work is enforced: what must follow is moved behind, and what cannot be is said.
func TestOrderOfPreparation(t *testing.T) {
	day := func(m int) civil.Date { return civil.Must(2026, m, 1) }
	jobs := []report.Job{{Said: report.Said{Name: "Lime"}, Key: "lime", Kind: "lime", From: day(6), By: day(8)}, {Said: report.Said{Name: "Till"}, Key: "till", Kind: "till", From: day(4), By: day(9)}, {Said: report.Said{Name: "Rip"}, Key: "rip", Kind: "rip", From: day(1), By: day(2)}, {Said: report.Said{Name: "Clear"}, Key: "clear", Kind: "clear", From: day(3), By: day(5)}}
	moved, unsorted := prepare.Enforce(jobs)
	if jobs[1].From != day(6) || moved["till"] != "Lime" {
		t.Errorf("tilling starts %s, moved behind %q", jobs[1].From, moved["till"])
	}
	if unsorted["rip"] != "Clear" || jobs[2].From != day(1) {
		t.Errorf("ripping that ends before clearing: %q %s", unsorted["rip"], jobs[2].From)
	}
	for _, s := range library(t).All() {
		plan := compute(t, intended(t, s.ID, civil.Must(2028, 7, 5)))
		at := map[string]civil.Date{}
		for _, l := range plan.Preparation.Lines {
			if at[l.Kind].IsZero() || l.From.Before(at[l.Kind]) {
				at[l.Kind] = l.From
			}
			if practice.Tasks[l.Kind].PerM3 && l.Unknown == "" { // no rows, no holes
				t.Errorf("%s, %s: %g hours of an unknown number of holes", s.ID, l.Key, l.BaseH)
			} else if practice.Tasks[l.Kind].Base > 0 && l.Unknown == "" && !(l.LowH <= l.BaseH && l.BaseH <= l.HighH && l.BaseH > 0) {
				t.Errorf("%s, %s: hours %g, %g, %g", s.ID, l.Key, l.LowH, l.BaseH, l.HighH)
			}
		}
		if len(plan.Preparation.Lines) < 4 {
			t.Errorf("%s has %d pieces of preparation", s.ID, len(plan.Preparation.Lines))
		}
	}
}

func TestWaysToRestTheGround(t *testing.T) {
	in := intended(t, "strawberry", civil.Must(2027, 7, 5))
	for way, key := range map[string]string{"fumigation": "ground-fumigate", "rotation": "ground-rotation"} {
		in.Block.Decided = map[string]document.Choice{document.CoverFork: {Option: way}}
		plan := compute(t, in)
		found := false
		for _, j := range plan.Jobs {
			if j.Key != key {
				continue
			}
			found = true
			if way == "fumigation" && (!said(t, j.Caution) || !said(t, j.Detail) || in.Block.Planting.Date.Sub(j.By) < 28) {
				t.Errorf("%+v", j)
			}
		}
		if !found {
			t.Errorf("%s brings no job", way)
		}
	}
	forks, err := Forks(in)
	if err != nil || len(forks) < 3 {
		t.Fatalf("%d forks of the ground, %v", len(forks), err)
	}
	for _, f := range forks {
		taken := 0
		for _, w := range f.Ways {
			if w.Taken {
				taken++
			}
		}
		if f.Scope != "block" || taken != 1 {
			t.Errorf("%s: scope %s, %d ways taken", f.ID, f.Scope, taken)
		}
	}
}

// Every figure of the ground can be asked for its working, as those of the planting.
func TestFiguresOfTheGroundShowTheirWorking(t *testing.T) {
	in := grounded(t, "persimmon")
	in.Climate = site(true)
	in.Block.Tests[0].OMPct, in.Block.Tests[0].Na, in.Block.Tests[0].CEC = p(0.6), p(1.4), p(9)
	pl := geo.LocalPlane(in.Block.Boundary)
	h := ground.Heights{HeightSource: document.HeightSource{Name: "s", Kind: "spots", AccuracyM: 0.02}}
	for x := -200.0; x <= 200; x += 50 {
		for y := -150.0; y <= 150; y += 50 {
			h.Spots = append(h.Spots, ground.Spot{At: pl.From(geo.XY{X: x, Y: y}), Z: 40 + 0.02*x})
		}
	}
	in.Land, _ = ground.Survey(in.Block.Boundary, []ground.Heights{h}, nil, nil)
	n := 0
	for _, f := range compute(t, in).Figures {
		switch strings.Split(f.Path, ".")[0] {
		case "land", "soil", "works", "prepare", "site":
		default:
			continue
		}
		n++
		tr := &working.Trace{Want: f.Path}
		if _, err := Compute(in, tr); err != nil || len(tr.Steps) == 0 {
			t.Errorf("%s shows no working: %v", f.Path, err)
		} else if got := tr.Steps[0].Value; math.Abs(got-f.Value) > 1e-9*math.Max(1, math.Abs(f.Value)) {
			t.Errorf("%s is %g, its working %g", f.Path, f.Value, got)
		}
	}
	if n < 11 {
		t.Errorf("only %d figures of the ground", n)
	}
}

// Water short of the driest month is said; the need follows FAO 56 and SCS TR-21 through core/water.
func TestWaterForTheDriestMonth(t *testing.T) {
	in := grounded(t, "persimmon")
	in.Climate = site(true)
	need := value(t, compute(t, in), "site.water")
	in.Block.Works = &document.WorksChoice{WaterM3Day: need / 2}
	if n := notes(compute(t, in), "site.water-short"); n == nil || !said(t, n.Sentence) {
		t.Errorf("%+v", n)
	}
	in.Block.Works.WaterM3Day = need * 1.1
	if notes(compute(t, in), "site.water-short") != nil {
		t.Error("enough water is called short")
	}
}

func TestAnswersStandInTheMargin(t *testing.T) {
	in := input(t, "tea")
	in.Block.Answers = map[string]document.SiteAnswer{"flood": {Answer: "floods", Evidence: "June 2022"}, "sun": {Answer: "full"}}
	plan := compute(t, in)
	if n := notes(plan, "site.flood"); n == nil || n.Weight != finding.Stops || !said(t, n.Sentence) {
		t.Errorf("%+v", n)
	}
	if notes(plan, "site.sun") != nil {
		t.Error("a good answer raises a finding")
	}
	in.Block.Answers["moon"] = document.SiteAnswer{Answer: "full"}
	if _, err := Compute(in, nil); err == nil {
		t.Error("a question nobody asks is answered")
	}
}

func TestBadGroundIsRefused(t *testing.T) {
	for name, change := range map[string]func(*Input){
		"pits[0].layers[1].topCm": func(in *Input) { in.Block.Pits[0].Layers[1].TopCm = 35 },
		"tests[0].ph":             func(in *Input) { in.Block.Tests[0].PH = p(14) },
		"works.depthCm":           func(in *Input) { in.Block.Works = &document.WorksChoice{DepthCm: 400} },
		"uses[0].kind":            func(in *Input) { in.Block.Uses = []rotation.Use{{Kind: "marsh"}} },
		"checks.walk":             func(in *Input) { in.Block.Checks = map[string]document.Check{"walk": {State: "maybe"}} },
		"growth.logs":             func(in *Input) { in.Block.Growth = map[string]float64{"logs": -1} },
		"barriers[0].kind":        func(in *Input) { in.Estate.Barriers = []document.Barrier{{Kind: "dragon"}} },
		"heights[0].accuracyM":    func(in *Input) { in.Estate.Heights = []document.HeightSource{{Name: "x", Kind: "grid", Digest: "d"}} },
		"prices[0].each":          func(in *Input) { in.Estate.Prices = []document.Price{{Item: "x", Each: -1, On: in.Today}} },
		"materials[1].name":       func(in *Input) { in.Estate.Materials[1].ID = "pure" },
	} {
		in := grounded(t, "tea")
		change(&in)
		var fe *finding.FieldError
		if _, err := Compute(in, nil); err == nil {
			t.Errorf("%s is taken", name)
		} else if ok := asFieldError(err, &fe); !ok || fe.Field != name {
			t.Errorf("%s: %v", name, err)
		}
	}
}

func asFieldError(err error, to **finding.FieldError) bool {
	fe, ok := err.(*finding.FieldError)
	*to = fe
	return ok
}

func BenchmarkMatrix30x200(b *testing.B) {
	in := grounded(b, "tea")
	in.Climate = site(true)
	sheets := library(b).All()
	for len(sheets) < 30 {
		sheets = append(sheets, sheets[0])
	}
	b.ResetTimer()
	for range b.N {
		for range 200 {
			Matrix(in, sheets[:30], false)
		}
	}
}
