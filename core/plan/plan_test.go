package plan

import (
	"encoding/json"
	"errors"
	"math"
	"strings"
	"sync"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/core/working"
)

var builtIn = sync.OnceValues(practice.BuiltIn)

func library(t testing.TB) *practice.Library {
	t.Helper()
	l, err := builtIn()
	if err != nil {
		t.Fatal(err)
	}
	return l
}

// input is a hazelnut planting on a field of 300 × 200 m at 38° S.
func input(t testing.TB, sheet string) Input {
	t.Helper()
	pl := geo.PlaneAt(geo.Point{Lon: 172, Lat: -38})
	var ring geo.Ring
	for _, q := range []geo.XY{{X: 0, Y: 0}, {X: 300, Y: 0}, {X: 300, Y: 200}, {X: 0, Y: 200}} {
		ring = append(ring, pl.From(q))
	}
	s, ok := library(t).Get(sheet)
	if !ok {
		t.Fatalf("no sheet %s", sheet)
	}
	return Input{
		Estate:  document.Estate{Name: "Test", Units: units.Metric, Seasons: schedule.Temperate(true)},
		BlockID: "b1", Sheet: s, Today: civil.Must(2025, 3, 1),
		Block: document.Block{Name: "Square", Boundary: geo.Polygon{Outer: ring}, Planting: &document.Planting{Sheet: sheet, Date: civil.Must(2027, 7, 5)}},
	}
}

func compute(t testing.TB, in Input) *Plan {
	t.Helper()
	p, err := Compute(in, nil)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

func value(t testing.TB, p *Plan, path string) float64 {
	t.Helper()
	f, ok := p.Figure(path)
	if !ok {
		t.Fatalf("no figure %s", path)
	}
	return f.Value
}

func notes(p *Plan, rule string) *finding.Finding {
	for i := range p.Findings {
		if p.Findings[i].Rule == rule || p.Findings[i].Key() == rule {
			return &p.Findings[i]
		}
	}
	return nil
}

func TestPlanByHand(t *testing.T) {
	p := compute(t, input(t, "hazelnut"))
	// 6 × 6 m lattice anchored at the corner, rows north–south, band 5 m, row ends 8 m from the edge:
	// eastings 6…294 (49), northings 12…192 (31).
	if got := value(t, p, "rows.stations"); got != 49*31 {
		t.Errorf("%v stations, want %d", got, 49*31)
	}
	if got := value(t, p, "area"); math.Abs(got-60000) > 1 {
		t.Errorf("area %v", got)
	}
	if got := value(t, p, "rows.planted"); math.Abs(got-49*31*36) > 0.01 {
		t.Errorf("planted area %v m², want %d", got, 49*31*36)
	}
	// Planted in mid-winter: the first growing season is 2027/28; first nuts in age year 3.
	if f, _ := p.Figure("life.first"); f.Text != "2029/30" {
		t.Errorf("first crop %s", f.Text)
	}
	if f, _ := p.Figure("life.full"); f.Text != "2038/39" {
		t.Errorf("first full crop %s, want age year 12", f.Text)
	}
	if len(p.Years) != 35 || p.Years[0].Label != "2027/28" {
		t.Errorf("%d years from %s", len(p.Years), p.Years[0].Label)
	}
	// Full crop: 2 750 kg × expected stand (0.97 × 0.998^11) at the reference density of 278.
	y := p.Years[11]
	want := 2750 * 0.97 * math.Pow(0.998, 11) * (277.7778 / 278) / (0.5 + 0.5*277.7778/278)
	if math.Abs(y.PerHa.Base-want) > 0.5 {
		t.Errorf("full crop %.1f kg/ha, want %.1f", y.PerHa.Base, want)
	}
	if math.Abs(y.BlockKg.Base-y.PerHa.Base*49*31*36/1e4) > 0.01 {
		t.Error("block yield is not the rate times the planted area")
	}
	// Nutrition per tree × living trees.
	if got := y.FeedKg["n"]; math.Abs(got-285*float64(y.Plants)/1000) > 1e-9 {
		t.Errorf("N %.2f kg", got)
	}
	// Everything dated, in order, and every year's splits there.
	feed := 0.0
	for i, j := range p.Jobs {
		if j.From.IsZero() || j.By.Before(j.From) {
			t.Errorf("job %s from %s to %s", j.Key, j.From, j.By)
		}
		if i > 0 && j.From.Before(p.Jobs[i-1].From) {
			t.Error("jobs out of order")
		}
		if strings.HasPrefix(j.Key, "feed-") && j.Age == 12 {
			feed++
		}
	}
	if feed != 3 {
		t.Errorf("%v feedings in age year 12, want the three splits", feed)
	}
}

func TestPlanIsDeterministicAndTraceChangesNothing(t *testing.T) {
	for _, s := range library(t).Whole() {
		in := input(t, s.ID)
		a, _ := json.Marshal(compute(t, in))
		p, err := Compute(in, &working.Trace{})
		if err != nil {
			t.Fatal(err)
		}
		b, _ := json.Marshal(p)
		if string(a) != string(b) {
			t.Errorf("%s: asking for working changed the plan", s.ID)
		}
	}
}

// Every figure shown can be asked for its working, and the result of its first step is the figure.
func TestEveryFigureShowsItsWorking(t *testing.T) {
	for _, sys := range []units.System{units.Metric, units.US} {
		for _, s := range library(t).Whole() {
			in := input(t, s.ID)
			in.Estate.Units = sys
			in.Block.AccuracyM = 1
			p := compute(t, in)
			for _, f := range p.Figures {
				tr := &working.Trace{Want: f.Path}
				if _, err := Compute(in, tr); err != nil {
					t.Fatal(err)
				}
				if len(tr.Steps) == 0 {
					if f.Text == "" || !strings.HasPrefix(f.Text, "n") { // "never", "not in this life"
						t.Errorf("%s %s shows no working", s.ID, f.Path)
					}
					continue
				}
				if got := tr.Steps[0].Value; f.Path != "canopy.touch" && math.Abs(got-f.Value) > 1e-9*math.Max(1, math.Abs(f.Value)) {
					t.Errorf("%s %s: figure %g, working ends in %g", s.ID, f.Path, f.Value, got)
				}
			}
		}
	}
}

func TestPassedLeadTimeNamesTheEarliestDate(t *testing.T) {
	in := input(t, "hazelnut")
	in.Today = civil.Must(2027, 2, 1)
	p := compute(t, in)
	f := notes(p, "schedule.lead-time-passed")
	if f == nil || f.Weight != finding.Mend {
		t.Fatalf("no finding: %+v", p.Findings)
	}
	// The pollinizer map needs 14 days and then ordering 12 months: 2028-02-15; the next planting
	// season starts on 2028-05-01.
	if !said(t, f.Sentence) || f.Remedies[0].Label != "Plant on 1 May 2028" {
		t.Errorf("%s / %+v", f.Sentence, f.Remedies)
	}
	in.Block.Planting.Date = civil.Must(2028, 5, 1)
	if f := notes(compute(t, in), "schedule.lead-time-passed"); f != nil {
		t.Errorf("the remedy does not mend it: %s", f.Sentence)
	}
	// Kept with a reason it stays as good to know.
	in.Block.Planting.Date = civil.Must(2027, 7, 5)
	in.Block.Planting.Accepted = map[string]string{"schedule.lead-time-passed": "plants are in the yard"}
	if f := notes(compute(t, in), "schedule.lead-time-passed"); f.Weight != finding.Know || !said(t, f.Sentence) {
		t.Errorf("%+v", f)
	}
	// Once planted, lead times are history.
	in.Block.Planting.AsPlanted, in.Block.Planting.Planted = compute(t, in).Fix("standard"), civil.Must(2027, 1, 5)
	if f := notes(compute(t, in), "schedule.lead-time-passed"); f != nil {
		t.Error("a standing planting is told to prepare")
	}
}

func TestFindingsOfRowsAndDates(t *testing.T) {
	m := func(v float64) *float64 { return &v }
	for _, c := range []struct {
		rule   string
		sheet  string
		change func(*Input)
		weight finding.Weight
	}{
		{"rows.none", "hazelnut", func(in *Input) { in.Block.Planting.Layout.EdgeBandM = m(100) }, finding.Stops},
		{"rows.orientation", "persimmon", func(in *Input) { in.Block.Planting.Layout = document.Override{RowSpacingM: m(3), PlantSpacingM: m(5)} }, finding.Watch},
		{"rows.density-far", "persimmon", func(in *Input) { in.Block.Planting.Layout.PlantSpacingM = m(0.5) }, finding.Watch},
		{"rows.no-pollinizers", "hazelnut", func(in *Input) { in.Block.Planting.Layout.Pollinizer = &layout.Pollinizer{} }, finding.Mend},
		{"schedule.window", "persimmon", func(in *Input) { in.Block.Planting.Date = civil.Must(2028, 1, 10) }, finding.Mend},
		{"schedule.done-late job:lime", "persimmon", func(in *Input) {
			in.Today = civil.Must(2027, 6, 1)
			in.done(civil.Must(2027, 5, 4), "lime")
		}, finding.Mend},
		{"schedule.planting-passed", "willow", func(in *Input) {
			in.Today, in.Block.Planting.Date = civil.Must(2028, 1, 1), civil.Must(2027, 10, 10)
			for _, o := range in.Sheet.Work {
				in.done(civil.Must(2026, 1, 1), o.ID)
			}
		}, finding.Mend},
		{"ground.accuracy", "tea", func(in *Input) { in.Block.AccuracyM = 5 }, finding.Watch},
		{"rows.thinning", "hazelnut", func(in *Input) { in.Block.Planting.Choices = map[string]document.Choice{"layout": {Option: "double"}} }, finding.Watch},
		{"life.over", "willow", func(in *Input) { in.Today = civil.Must(2060, 1, 1) }, finding.Watch},
		{"ground.undecided", "tea", func(in *Input) { in.Block.Planting, in.Sheet = nil, nil }, finding.Know},
	} {
		in := input(t, c.sheet)
		c.change(&in)
		p := compute(t, in)
		f := notes(p, c.rule)
		if f == nil {
			t.Errorf("%s is not found", c.rule)
			continue
		}
		if f.Weight != c.weight || f.Sentence == "" {
			t.Errorf("%s weighs %s: %s", c.rule, f.Weight, f.Sentence)
		}
		for i, g := range p.Findings {
			if i > 0 && g.Weight.Rank() < p.Findings[i-1].Weight.Rank() {
				t.Error("findings are not in order of weight")
			}
		}
		// The first remedy that is a plain patch really mends it.
		for _, r := range f.Remedies {
			if r.Ask != "" || strings.HasPrefix(r.Label, "“") {
				continue
			}
			trial := in
			doc, _ := json.Marshal(in.Block)
			trial.Block = patched(t, doc, r.Patch)
			if again := notes(compute(t, trial), c.rule); again != nil {
				t.Errorf("%s: %q leaves: %s", c.rule, r.Label, again.Sentence)
			}
			break
		}
	}
}

// patched applies a merge patch as far as remedies need one.
func patched(t *testing.T, doc []byte, patch map[string]any) document.Block {
	t.Helper()
	var m map[string]any
	if err := json.Unmarshal(doc, &m); err != nil {
		t.Fatal(err)
	}
	var merge func(to, from map[string]any)
	merge = func(to, from map[string]any) {
		for k, v := range from {
			inner, ok := v.(map[string]any)
			old, isMap := to[k].(map[string]any)
			switch {
			case v == nil:
				delete(to, k)
			case ok && isMap:
				merge(old, inner)
			default:
				to[k] = v
			}
		}
	}
	merge(m, patch)
	out, _ := json.Marshal(m)
	var b document.Block
	if err := json.Unmarshal(out, &b); err != nil {
		t.Fatal(err)
	}
	return b
}

func TestRefusedInput(t *testing.T) {
	zero := 0.0
	for field, change := range map[string]func(*Input){
		"planting.layout.plantSpacingM": func(in *Input) { in.Block.Planting.Layout.PlantSpacingM = &zero },
		"planting.choices.layout":       func(in *Input) { in.Block.Planting.Choices = map[string]document.Choice{"layout": {Option: "maze"}} },
		"planting.date":                 func(in *Input) { in.Block.Planting.Date = civil.Date{} },
		"planting.sheet":                func(in *Input) { in.Sheet = nil },
		"confidence":                    func(in *Input) { in.Block.Planting.Confidence = 1 },
		"seasons":                       func(in *Input) { in.Estate.Seasons = in.Estate.Seasons[1:] },
		"units":                         func(in *Input) { in.Estate.Units = "cubits" },
		"number":                        func(in *Input) { in.Block.Number = -1 },
	} {
		in := input(t, "tea")
		change(&in)
		var fe *finding.FieldError
		if _, err := Compute(in, nil); !errors.As(err, &fe) || fe.Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	in := input(t, "tea")
	in.Block.Boundary.Outer = in.Block.Boundary.Outer[:2]
	var inv *geo.Invalid
	if _, err := Compute(in, nil); !errors.As(err, &inv) {
		t.Errorf("a line for a boundary: %v", err)
	}
}

func TestForksShowConsequences(t *testing.T) {
	in := input(t, "hazelnut")
	in.Block.Planting.Choices = map[string]document.Choice{"layout": {Option: "double", By: "T", Why: "early crops"}}
	forks, err := Forks(in)
	if err != nil || len(forks) != 5 || forks[0].ID != document.CoverFork || forks[0].Scope != "block" {
		t.Fatalf("%d forks, %v", len(forks), err)
	}
	f := forks[1]
	if !f.Decided || f.By != "T" || len(f.Ways) != 5 {
		t.Fatalf("%+v", f)
	}
	get := func(way, label string) report.Consequence {
		for _, w := range f.Ways {
			for _, c := range w.Consequences {
				if w.ID == way && c.Label == label {
					return c
				}
			}
		}
		t.Fatalf("%s has no %s", way, label)
		return report.Consequence{}
	}
	a, b := get("standard", "stations"), get("double", "stations")
	if r := b.Value / a.Value; r < 1.9 || r > 2.1 || !a.Differs {
		t.Errorf("double density has %.2f times the stations", r)
	}
	if get("double", "in ten years").Value <= get("standard", "in ten years").Value {
		t.Error("double density brings nothing early")
	}
	// The consequence is what choosing it gives.
	in.Block.Planting.Choices["layout"] = document.Choice{Option: "early"}
	if got := value(t, compute(t, in), "yield.total"); got != get("early", "in its life").Value {
		t.Errorf("chosen, it yields %g; the fork said %g", got, get("early", "in its life").Value)
	}
	empty := in
	empty.Sheet, empty.Block.Planting = nil, nil
	if fs, err := Forks(empty); err != nil || len(fs) != 0 {
		t.Errorf("an empty block has forks: %v %v", fs, err)
	}
}

func TestWillowHarvestsAreDatedPerRotation(t *testing.T) {
	in := input(t, "willow")
	in.Block.Planting.Date = civil.Must(2027, 10, 10)
	p := compute(t, in)
	var when []string
	for _, y := range p.Years {
		for _, h := range y.Harvests {
			when = append(when, h.From.String())
		}
	}
	// Planted in October 2027: the winter that ends the fourth season, then every third.
	if strings.Join(when[:3], " ") != "2031-06-01 2034-06-01 2037-06-01" || len(when) != 7 {
		t.Errorf("harvests %v", when)
	}
}

func BenchmarkComputeHazelnut(b *testing.B) {
	in := input(b, "hazelnut")
	for b.Loop() {
		if _, err := Compute(in, nil); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkForksHazelnut(b *testing.B) {
	in := input(b, "hazelnut")
	for b.Loop() {
		if _, err := Forks(in); err != nil {
			b.Fatal(err)
		}
	}
}
