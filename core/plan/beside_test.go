package plan

import (
	"encoding/json"
	"errors"
	"math"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/soil"
	"slowroot/core/units"
	"slowroot/core/working"
)

// alley is a planned hazelnut with a herb in strips, shade over it and a belt along its windward side.
func alley(t testing.TB) Input {
	in := input(t, "hazelnut")
	across := 1.0
	p := in.Block.Planting
	p.Companions = []document.Companion{
		{ID: "herb", Role: "companion", Name: "Field herb", Each: 2},
		{ID: "shade", Role: "shade", Sheet: "banana", Over: &document.Over{Pattern: layout.Square, PlantSpacingM: 9, RowSpacingM: 9, ShiftAlongM: 1.3,
			ShiftAcrossM: 1.1}},
		{ID: "belt", Role: "windbreak", Name: "Alder", Survival: 0.9, Belt: &document.Belt{TowardDeg: 270, Rows: 2, RowSpacingM: 2.5, SpacingM: 1.6, InsetM: 2,
			SetbackM: 6, HeightM: 9}},
	}
	p.Strips = []document.Strip{
		{ID: "a", Kind: "tree row", WidthM: 2, Rows: []document.StripRow{{SpacingM: 4, Of: []string{document.MainCrop}, AcrossM: &across}}},
		{ID: "b", Kind: "path", WidthM: 0.5},
		{ID: "c", Kind: "bed", WidthM: 2.5, Rows: []document.StripRow{{SpacingM: 0.5, Of: []string{"herb"}}, {SpacingM: 0.5, Of: []string{"herb"}}}},
	}
	in.Beside = map[string]*practice.Sheet{}
	if s, ok := library(t).Get("banana"); ok {
		in.Beside["banana"] = s
	}
	return in
}

func TestSeveralCropsOnOneGround(t *testing.T) {
	in := alley(t)
	ph := 3.9 // no banana stands it
	in.Block.Tests = []soil.Test{{ID: "t", On: in.Today, ToCm: 20, PH: &ph, PHMethod: "water"}}
	p := compute(t, in)
	if len(p.Beside) != 3 {
		t.Fatalf("%d companions", len(p.Beside))
	}
	sum := 0.0
	for _, s := range p.Strips {
		sum += s.Share
	}
	if math.Abs(sum-1) > 1e-12 {
		t.Errorf("shares of the ground sum to %g", sum)
	}
	if d := p.Spec.StationsPerHa(); math.Abs(d-1e4/5/4) > 1e-9 {
		t.Errorf("%g main stations a hectare, want 500", d)
	}
	herb := p.Beside[0]
	if math.Abs(herb.PerHa-1e4/5*2/0.5) > 1e-9 {
		t.Errorf("%g herbs a hectare, want 8 000", herb.PerHa)
	}
	// counted on the ground the two keep the proportion of their spacings, but for row ends
	if r := float64(herb.Stations) / value(t, p, "rows.stations"); math.Abs(r/16-1) > 0.05 {
		t.Errorf("%.2f herbs for each tree, 16 by spacing", r)
	}
	if got := p.OrderBeside[0]; got.Wanted != 2*herb.Stations || got.Plants != got.Wanted || got.Survival != 0 {
		t.Errorf("an order without a known survival: %+v", got)
	}
	if got := p.OrderBeside[2]; got.Survival != 0.9 || got.Plants <= got.Wanted {
		t.Errorf("the order of the belt: %+v", got)
	}
	if len(p.Beside[1].SpreadM) == 0 || p.Beside[1].Name != "Banana" {
		t.Errorf("the shade of a sheet has its name and growth: %q", p.Beside[1].Name)
	}
	// no crop stands in the ground the belt needs
	for _, b := range append(p.Beside[:2:2], p.Beside[2]) {
		if b.Stations == 0 || len(b.Rows) == 0 {
			t.Errorf("%s: %d stations", b.Name, b.Stations)
		}
	}
	for _, rule := range []string{"rows.shelter", "companion.limit"} {
		if notes(p, rule) == nil {
			t.Errorf("no finding %s", rule)
		}
	}
	if f := notes(p, "companion.limit"); f != nil && (!said(t, f.Sentence) || f.Subject != "Banana") {
		t.Errorf("the limit is said of %s: %s", f.Subject, f.Sentence)
	}
}

// Every figure of companions shows its working.
func TestCompanionsShowTheirWorking(t *testing.T) {
	in := alley(t)
	p := compute(t, in)
	n := 0
	for _, f := range p.Figures {
		if !strings.HasPrefix(f.Path, "with.") && f.Path != "rows.module" {
			continue
		}
		n++
		tr := &working.Trace{Want: f.Path}
		if _, err := Compute(in, tr); err != nil {
			t.Fatal(err)
		}
		if len(tr.Steps) == 0 || math.Abs(tr.Steps[0].Value-f.Value) > 1e-9*f.Value {
			t.Errorf("%s is %g, its working %+v", f.Path, f.Value, tr.Steps)
		}
	}
	if n != 7 {
		t.Errorf("%d figures of companions, want 7", n)
	}
}

// Two lattices that share stations are said, and each remedy mends it; a companion that takes stations takes as many as it has.
func TestCoincidentStationsAreMended(t *testing.T) {
	in := input(t, "hazelnut")
	sq := 5.0
	in.Block.Planting.Layout.Pattern, in.Block.Planting.Layout.PlantSpacingM = layout.Square, &sq
	in.Block.Planting.Companions = []document.Companion{{ID: "s", Role: "shade", Name: "Shade", Over: &document.Over{Pattern: layout.Square, PlantSpacingM: 10,
		RowSpacingM: 10}}}
	p := compute(t, in)
	f := notes(p, "rows.coincide")
	if f == nil || len(f.Remedies) < 2 {
		t.Fatalf("no finding on shared stations: %+v", f)
	}
	alone := value(t, p, "rows.stations")
	for i, r := range f.Remedies[:2] {
		trial := in
		trial.Block = patched(t, asJSON(t, in.Block), r.Patch)
		q := compute(t, trial)
		if notes(q, "rows.coincide") != nil {
			t.Errorf("remedy %q leaves stations shared", r.Label)
		}
		if want := alone - float64(i)*float64(p.Beside[0].Stations); value(t, q, "rows.stations") != want {
			t.Errorf("remedy %q leaves %g stations, want %g", r.Label, value(t, q, "rows.stations"), want)
		}
	}
	in.Block.Planting.Companions = append(in.Block.Planting.Companions, document.Companion{ID: "s2", Role: "shade", Name: "Other shade",
		Over: &document.Over{Pattern: layout.Square, PlantSpacingM: 12, RowSpacingM: 12, ShiftAlongM: 2.2}})
	if notes(compute(t, in), "rows.two-shades") == nil {
		t.Error("two shades of the same years are added together without a word")
	}
	in.Block.Planting.Companions[0].ToYear, in.Block.Planting.Companions[1].FromYear = 3, 4
	if notes(compute(t, in), "rows.two-shades") != nil {
		t.Error("shade that follows shade is doubted")
	}
}

// What was planted keeps its companions where they stand, whatever is said later.
func TestCompanionsStandAsPlanted(t *testing.T) {
	in := alley(t)
	p := compute(t, in)
	as := p.Fix(p.Choices["layout"])
	in.Block.Planting.AsPlanted, in.Block.Planting.Planted = as, in.Today
	in.Block.Planting.Companions[1].Over.PlantSpacingM = 20
	q := compute(t, in)
	for i := range p.Beside {
		if p.Beside[i].Stations != q.Beside[i].Stations || len(p.Beside[i].Rows) != len(q.Beside[i].Rows) {
			t.Errorf("%s: %d stations planted, %d stand", p.Beside[i].Name, p.Beside[i].Stations, q.Beside[i].Stations)
		}
	}
	if value(t, p, "rows.stations") != value(t, q, "rows.stations") {
		t.Error("the main crop moved")
	}
}

// Companions and strips that cannot stand are refused by name.
func TestCompanionsRefused(t *testing.T) {
	for field, spoil := range map[string]func(*document.Planting){
		"planting.companions[0].role":               func(p *document.Planting) { p.Companions[0].Role = "friend" },
		"planting.companions[0].id":                 func(p *document.Planting) { p.Companions[0].ID = document.MainCrop },
		"planting.companions[1].id":                 func(p *document.Planting) { p.Companions[1].ID = "herb" },
		"planting.companions[0].name":               func(p *document.Planting) { p.Companions[0].Name = "" },
		"planting.companions[0].toYear":             func(p *document.Planting) { p.Companions[0].FromYear, p.Companions[0].ToYear = 5, 2 },
		"planting.companions[0].each":               func(p *document.Planting) { p.Companions[0].Each = 99 },
		"planting.companions[1].over.plantSpacingM": func(p *document.Planting) { p.Companions[1].Over.PlantSpacingM = math.NaN() },
		"planting.companions[2].belt.rows":          func(p *document.Planting) { p.Companions[2].Belt.Rows = 0 },
		"planting.companions[2].belt.heightM":       func(p *document.Planting) { p.Companions[2].Belt.HeightM = math.Inf(1) },
		"planting.companions[2].survival":           func(p *document.Planting) { p.Companions[2].Survival = 2 },
		"planting.strips[0].widthM":                 func(p *document.Planting) { p.Strips[0].WidthM = 0 },
		"planting.strips[0].kind":                   func(p *document.Planting) { p.Strips[0].Kind = "moat" },
		"planting.strips[2].rows[0].of":             func(p *document.Planting) { p.Strips[2].Rows[0].Of = []string{"nobody"} },
		"planting.strips":                           func(p *document.Planting) { p.Strips[0].Rows = nil },
		"planting.layout.headlands[0].widthM":       func(p *document.Planting) { p.Layout.Headlands = []document.Headland{{WidthM: -1}} },
	} {
		in := alley(t)
		spoil(in.Block.Planting)
		_, err := Compute(in, nil)
		var fe *finding.FieldError
		if !errors.As(err, &fe) || fe.Field != field {
			t.Errorf("%s: refused as %v", field, err)
		}
	}
	for _, o := range []document.Obstacle{{}, {Kind: "rock"}, {Kind: "rock", Points: []geo.Point{{Lon: 500}}}, {Kind: "rock", Area: true,
		Points: []geo.Point{{Lon: 1}, {Lon: 2}}},
		{Kind: "track", Points: []geo.Point{{Lon: 1}}, WidthM: -3}, {Kind: "track", Points: []geo.Point{{Lon: 1}}, KeepM: math.NaN()}} {
		in := input(t, "hazelnut")
		in.Block.Obstacles = []document.Obstacle{o}
		if _, err := Compute(in, nil); err == nil {
			t.Errorf("obstacle %+v is taken", o)
		}
	}
}

func asJSON(t *testing.T, b document.Block) []byte {
	t.Helper()
	text, err := json.Marshal(b)
	if err != nil {
		t.Fatal(err)
	}
	return text
}

// Every usual mixture is planned on the crops it is for; what it carries a hectare is what practice prints of it, and no two crops want one
// hole.
func TestMixturesCarryWhatTheySay(t *testing.T) {
	printed := map[string]map[string]float64{"wide-bed": {"main": 18182, "pear": 36364, "banana": 1364, "tree": 455}, "narrow-bed": {"main": 18182, "pear": 12121, "banana": 1364, "tree": 455},
		"banana-alley": {"main": 2500, "tree": 625}, "coffee-in-alleys": {"main": 2222, "tree": 278}, "permanent-shade": {"shade": 69}, "banana-between": {"banana": 1111}, "banana-takes": {"banana": 1111},
		"banana-alleys": {"banana": 556}, "garden-aisles": {"main": 10000, "banana": 556}}
	lib := library(t)
	for _, m := range document.Mixtures() {
		for _, sheet := range m.For {
			in := input(t, sheet)
			in.Block.Planting = &document.Planting{Sheet: sheet, Companions: m.Companions, Strips: m.Strips, Layout: document.Override{Plots: m.Plots}}
			if m.Plots != nil {
				in.Block.Planting.Choices = map[string]document.Choice{practice.LayoutFork: {Option: "mother"}}
			}
			in.Beside = map[string]*practice.Sheet{}
			for _, c := range m.Companions {
				if s, ok := lib.Get(c.Sheet); ok {
					in.Beside[c.Sheet] = s
				} else if c.Sheet != "" {
					t.Errorf("%s: no sheet %q", m.ID, c.Sheet)
				}
			}
			Complete(&in.Block, in.Estate, lib.Get, in.Today)
			p := compute(t, in)
			got := map[string]float64{"main": p.Spec.StationsPerHa()}
			for _, b := range p.Beside {
				got[b.ID] = b.PerHa
			}
			for id, want := range printed[m.ID] {
				if math.Abs(got[id]-want) > 1 {
					t.Errorf("%s on %s: %g %s a hectare, %g are printed", m.ID, sheet, got[id], id, want)
				}
			}
			if len(printed[m.ID]) == 0 {
				t.Errorf("%s is held by nothing printed", m.ID)
			}
			if practice.OriginWords(m.Origin) == "" || m.Says == "" {
				t.Errorf("%s says nothing of itself", m.ID)
			}
		}
	}
}

// A person's own job stands among the others and is done by its record; a job planned outside its time is said, with the rule, and its remedy
// mends it; hours said once hold every time an operation comes back.
func TestJobsOfOnesOwnAndDays(t *testing.T) {
	in := input(t, "hazelnut")
	h := 12.0
	in.Block.Jobs = []document.OwnJob{{ID: "gate", Name: "Mend the gate", From: civil.Must(2027, 3, 1), By: civil.Must(2027, 3, 9), Effort: document.Effort{Hours: &h}}}
	p := compute(t, in)
	var own, other report.Job
	for _, j := range p.Jobs {
		if j.Own {
			own = j
		} else if j.By.After(civil.Must(2028, 1, 1)) && other.Key == "" {
			other = j
		}
	}
	if own.Key != "own-gate" || own.Hours == nil || *own.Hours != 12 {
		t.Fatalf("%+v", own)
	}
	in.Records = []record.Record{{ID: "r", Operation: "own-gate", Kind: record.Done, Day: civil.Must(2027, 3, 2)}}
	in.Block.Planting.Days = map[string]civil.Date{other.Key: other.By.AddDays(40)}
	in.Block.Planting.Effort = map[string]document.Effort{other.Operation: {Hours: &h, Crew: "c"}}
	p = compute(t, in)
	n := 0
	for _, j := range p.Jobs {
		if j.Own && j.Done != civil.Must(2027, 3, 2) {
			t.Errorf("what is recorded as done is not: %+v", j)
		}
		if j.Operation == other.Operation {
			n++
			if j.Hours == nil || *j.Hours != 12 || j.Crew != "c" {
				t.Errorf("%s of %s has no hours", j.Key, j.From)
			}
		}
	}
	f := notes(p, "job.out-of-time")
	if f == nil || n == 0 || !strings.Contains(f.Sentence, other.Rule) {
		t.Fatalf("%d occurrences, finding %+v", n, f)
	}
	in.Block = patched(t, asJSON(t, in.Block), f.Remedies[0].Patch)
	if notes(compute(t, in), "job.out-of-time") != nil {
		t.Error("the remedy leaves the day outside its time")
	}
	for field, spoil := range map[string]func(*document.OwnJob){"jobs[0].name": func(j *document.OwnJob) { j.Name = "" }, "jobs[0].by": func(j *document.OwnJob) { j.By = civil.Must(2026, 1, 1) },
		"jobs[0].hours": func(j *document.OwnJob) { x := -1.0; j.Hours = &x }, "jobs[0].from": func(j *document.OwnJob) { j.From = civil.Must(1750, 1, 1) }} {
		bad := in
		bad.Block.Jobs = append([]document.OwnJob(nil), in.Block.Jobs...)
		spoil(&bad.Block.Jobs[0])
		var fe *finding.FieldError
		if _, err := Compute(bad, nil); !errors.As(err, &fe) || fe.Field != field {
			t.Errorf("%s: refused as %v", field, err)
		}
	}
}

// Rows that are to follow a slope nobody knows are laid straight, and that is said: the plan stands.
func TestContourWithoutHeights(t *testing.T) {
	in := input(t, "tea")
	two, gap := 2, 0.75
	in.Block.Planting.Layout.Pattern, in.Block.Planting.Layout.GroupRows, in.Block.Planting.Layout.TwinGapM = layout.Contour, &two, &gap
	p := compute(t, in)
	f := notes(p, "rows.slope-unknown")
	if f == nil || value(t, p, "rows.stations") < 1000 || p.Spec.Pattern != layout.Contour {
		t.Fatalf("%g stations, finding %+v", value(t, p, "rows.stations"), f)
	}
	in.Block = patched(t, asJSON(t, in.Block), f.Remedies[0].Patch)
	if notes(compute(t, in), "rows.slope-unknown") != nil {
		t.Error("the remedy leaves it")
	}
}

// What is cut on the block is set against what beds and paths take: 4.5 of 5 m are beds at 7.5 cm, half a metre is path at 10 cm.
func TestCutMatterCoversBedsAndPaths(t *testing.T) {
	in := alley(t)
	in.Block.Growth = map[string]float64{"fine": 120, "thick": 60}
	p := compute(t, in)
	f := notes(p, "rows.cover-matter")
	if f == nil {
		t.Fatal("nothing is said of the cover")
	}
	ha := value(t, p, "rows.planted")
	for _, want := range []float64{120, 60, ha * 0.9 * 0.075, ha * 0.1 * 0.1} {
		if text := units.Text(want, units.Earth, units.Metric); !strings.Contains(f.Sentence, text) {
			t.Errorf("%q does not hold %s", f.Sentence, text)
		}
	}
}

// What crowns cover and what stays clear between rows agree: where an alley is left, the ground is not all covered.
func TestCoverLeavesTheAlleyOpen(t *testing.T) {
	two, gap, row, plant := 2, 2.2, 8.0, 3.0
	in := input(t, "hazelnut")
	o := &in.Block.Planting.Layout
	o.Pattern, o.GroupRows, o.TwinGapM, o.RowSpacingM, o.PlantSpacingM = layout.Twin, &two, &gap, &row, &plant
	for _, y := range compute(t, in).Years {
		if open := y.AlleyM / row; open > 0 && y.Cover > 1-open+1e-9 {
			t.Errorf("year %d: %.3f is covered and %.3f stays clear", y.Age, y.Cover, open)
		}
	}
}
