package plan

import (
	"math"
	"strings"
	"testing"

	"slowroot/core/document"
	"slowroot/core/layout"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/supply"
)

func jobsOf(p *Plan, operation string) (out []report.Job) {
	for _, j := range p.Jobs {
		if strings.HasPrefix(j.Key, operation) {
			out = append(out, j)
		}
	}
	return out
}

// What wears out before the crop is put up again: fabric that lasts 9 years under a crop of 35 comes three times more, each 9 years after the
// last; recorded a year late, what follows comes a year later. In the bill it says so, and it costs what it costs so many times.
func TestWhatWearsOutIsRenewed(t *testing.T) {
	in := input(t, "hazelnut")
	in.Block.Planting.Fittings = []document.Fitting{{ID: "f", Kind: "film"}, {ID: "g", Kind: "fence"}}
	in.Estate.Prices = append(in.Estate.Prices, document.Price{Item: "fabric", Unit: "m", Each: 2, On: in.Today})
	p := compute(t, in)
	life := len(p.Years)
	renewed := jobsOf(p, "renew-")
	if want := (life - 1) / 9; len(renewed) != want {
		t.Fatalf("%d renewals in %d years, want %d", len(renewed), life, want)
	}
	planted := in.Block.Planting.Date
	for n, j := range renewed {
		if due := planted.AddMonths(12 * 9 * (n + 1)); j.From.AddDays(45) != due || j.By.AddDays(-45) != due || j.Detail == "" {
			t.Errorf("%s from %s by %s, due %s", j.Key, j.From, j.By, due)
		}
	}
	metres := 0.0
	for _, l := range p.Bill {
		if (l.Anew != "") != (l.What == "film or fabric") {
			t.Errorf("%s: put up %q", l.What, l.Anew)
		}
		if l.What == "film or fabric" {
			metres = l.Amount
		}
	}
	if got, want := value(t, p, "bill.anew"), 2*metres*float64(len(renewed)); math.Abs(got-want) > 1e-6 {
		t.Errorf("renewals cost %g, want %g", got, want)
	}
	pl := in.Block.Planting
	pl.Planted, pl.AsPlanted = planted, p.Fix("")
	in.Today = planted.AddMonths(12 * 11)
	late := renewed[0].From.AddMonths(12)
	in.Records = append(in.Records, record.Record{ID: "r", Planting: pl.ID, Operation: renewed[0].Key, Kind: record.Done, Day: late})
	again := jobsOf(compute(t, in), "renew-")
	if want := late.AddMonths(12 * 9).AddDays(-45); again[1].From != want {
		t.Errorf("renewed late, the next comes from %s, want %s", again[1].From, want)
	}
}

// Plants raised here take mother plants, trays, pots and substrate by the day their stage begins, in the list, the job and the bill.
func TestWhatRaisingTakesIsCounted(t *testing.T) {
	in := input(t, "coffee")
	r := &document.Raising{PerMother: 30}
	for i, s := range supply.Ways[2].Stages { // leafy cuttings under mist
		r.Stages = append(r.Stages, document.RaisingStage{ID: string(rune('a' + i)), Name: s.Name, Least: s.Least, Most: s.Most, LossPct: s.Loss * 100,
			Places: s.Places, Litres: s.Litres})
	}
	in.Block.Planting.Raising = r
	p := compute(t, in)
	want := map[string]float64{"mother plants": math.Ceil(float64(p.Raised[0].Begun) / 30), "trays of 60": math.Ceil(float64(p.Raised[0].Begun) / 60),
		"pots": float64(p.Raised[2].Begun)}
	for _, s := range p.Supplies {
		n, ok := want[s.What]
		if !ok {
			continue
		}
		delete(want, s.What)
		if s.Amount.Base != n || s.By.IsZero() {
			t.Errorf("%s: %g by %s, want %g", s.What, s.Amount.Base, s.By, n)
		}
		if j := jobsOf(p, s.Key)[0]; !strings.Contains(j.Detail, s.What) || j.From != s.By {
			t.Errorf("%s is not said in its job: %s", s.What, j.Detail)
		}
		found := false
		for _, l := range p.Bill {
			found = found || l.What == s.What && l.Amount == n
		}
		if !found {
			t.Errorf("%s is not in the bill", s.What)
		}
	}
	if len(want) > 0 {
		t.Errorf("not counted: %v", want)
	}
}

// A mother garden: clones stand in blocks, each is ordered so that its own stations fill, and shade in the aisles is counted by their length.
func TestAMotherGardenKeepsItsClonesApart(t *testing.T) {
	in := input(t, "coffee")
	pl := in.Block.Planting
	pl.Choices = map[string]document.Choice{practice.LayoutFork: {Option: "mother"}}
	pl.Layout.Plots = &layout.Plots{AlongM: 10, AcrossM: 10, AisleM: 2}
	pl.Layout.Clones = []string{"C1", "C2", "C3", "C4"}
	pl.Companions = []document.Companion{{ID: "b", Role: "shade", Sheet: "banana", AislesM: 3}}
	p := compute(t, in)
	if len(p.Clones) != 4 {
		t.Fatalf("clones %v", p.Clones)
	}
	sum, plots := 0, 0
	for _, c := range p.Clones {
		sum, plots = sum+c.Stations, plots+c.Plots
	}
	if float64(sum) != value(t, p, "rows.stations") || float64(plots) != value(t, p, "rows.plots") {
		t.Errorf("clones hold %d stations in %d blocks", sum, plots)
	}
	ordered, lines := 0.0, 0
	for _, l := range p.Bill {
		if l.Group == "Plants" && strings.Contains(l.What, ", C") {
			ordered, lines = ordered+l.Amount, lines+1
		}
	}
	if lines != 4 || ordered != value(t, p, "plants.main") {
		t.Errorf("%d lines order %g plants of %g", lines, ordered, value(t, p, "plants.main"))
	}
	one := *pl
	one.Layout.Clones = nil
	in.Block.Planting = &one
	if whole := value(t, compute(t, in), "plants.main"); whole >= ordered {
		t.Errorf("%g plants fill every station of one clone, %g of four: each needs its own reserve", whole, ordered)
	}
	if b := p.Beside[0]; b.Where != "in the aisles" || float64(b.Stations) > b.Metres/3 || float64(b.Stations) < b.Metres/3-25*17 { // one plant serves both aisles where they cross
		t.Errorf("%s: %d in %g m of aisle", b.Where, b.Stations, b.Metres)
	}
}

// Sprouts of stumps on the rows are stations nobody orders plants for; one on no row is named, and leaves with one press.
func TestSproutsOfStumps(t *testing.T) {
	in := input(t, "hazelnut")
	without := compute(t, in)
	in.Block.Planting.Stumps = []document.Stump{{ID: "a", Of: document.MainCrop, Row: 2, AtM: 0}, {ID: "b", Of: document.MainCrop, Row: 2, AtM: 10.2},
		{ID: "c", Of: document.MainCrop, Row: 900, AtM: 3}}
	p := compute(t, in)
	if value(t, p, "rows.sprouts") != 2 || value(t, p, "rows.stations") != value(t, without, "rows.stations") {
		t.Errorf("%g sprouts, %g stations of %g", value(t, p, "rows.sprouts"), value(t, p, "rows.stations"), value(t, without, "rows.stations"))
	}
	if got := value(t, without, "plants.main") - value(t, p, "plants.main"); got < 2 || got > 4 {
		t.Errorf("%g plants fewer are ordered", got)
	}
	f := notes(p, "rows.stump-off")
	if f == nil {
		t.Fatal("a stump on no row is not named")
	}
	in.Block = patched(t, asJSON(t, in.Block), f.Remedies[0].Patch)
	if got := compute(t, in); notes(got, "rows.stump-off") != nil || value(t, got, "rows.sprouts") != 2 {
		t.Error("the remedy does not take it off the list alone")
	}
}

// Another layout is compared as it would be taken: with its own spacing and without the strips of this one.
func TestAnotherLayoutIsComparedAsItIsTaken(t *testing.T) {
	in := alley(t)
	forks, err := Forks(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range forks {
		if f.ID != practice.LayoutFork {
			continue
		}
		for _, w := range f.Ways {
			if w.Taken {
				continue
			}
			patch := map[string]any{"choices": map[string]any{f.ID: map[string]any{"option": w.ID}}}
			for k, v := range w.Patch {
				patch[k] = v
			}
			taken := in
			taken.Block = patched(t, asJSON(t, in.Block), map[string]any{"planting": patch})
			got := compute(t, taken)
			for _, c := range w.Consequences {
				if c.Label == "stations" && c.Value != value(t, got, "rows.stations") {
					t.Errorf("%s: compared with %g stations, taken with %g", w.Name, c.Value, value(t, got, "rows.stations"))
				}
			}
			if len(got.Strips) > 0 {
				t.Errorf("%s keeps the strips", w.Name)
			}
		}
	}
}
