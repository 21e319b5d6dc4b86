package plan

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"slowroot/core/document"
	"slowroot/core/practice"
	"slowroot/core/schedule"
	"slowroot/core/units"
)

var update = flag.Bool("update", false, "write the golden plans anew; read the difference before it is kept")

// Golden plans of eight lives, as a person reads them: figures, what the program says, the order, what the work takes, the
// years, and the jobs to the end of the second year. Sentences stand here and in no other test.
func TestGoldenLives(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, life := range []struct{ name, sheet, layout, place string }{
		{"a tropical tree thinned twice", "sapota", "quarter", "one rain"}, {"citrus", "citrus", "double", "north"}, {"leaf shrub in pits", "mulberry", "pit",
			"two rains"},
		{"oil grass", "palmarosa", "ridge", "one rain"}, {"long canes in pots", "raspberry", "r25", "north"}, {"annual bed", "strawberry", "", "north"},
		{"mother garden", "coffee", "mother", "two rains"}, {"biomass grass", "miscanthus", "common", "south"}} {
		in := input(t, "hazelnut")
		place := places[life.place]
		in.Estate.Seasons, in.Estate.Rains = schedule.Temperate(place.south), place.rains
		in.Sheet, _ = l.Get(life.sheet)
		choices := map[string]document.Choice{}
		if life.layout != "" {
			choices[practice.LayoutFork] = document.Choice{Option: life.layout}
		}
		in.Block.Planting = &document.Planting{Sheet: life.sheet, Choices: choices}
		Complete(&in.Block, in.Estate, l.Get, in.Today)
		p, err := Compute(in, nil)
		if err != nil {
			t.Errorf("%s: %v", life.name, err)
			continue
		}
		got := told(p)
		if strings.Contains(got, "%!") || strings.Contains(got, "NaN") {
			t.Errorf("%s is not written as it is meant", life.name)
		}
		file := filepath.Join("testdata", "lives", strings.ReplaceAll(life.name, " ", "-")+".txt")
		if *update {
			if err := os.MkdirAll(filepath.Dir(file), 0o755); err != nil {
				t.Fatal(err)
			}
			if err := os.WriteFile(file, []byte(got), 0o644); err != nil {
				t.Fatal(err)
			}
			continue
		}
		want, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		if got != string(want) {
			t.Errorf("%s differs from %s:\n%s", life.name, file, firstDifference(string(want), got))
		}
	}
}

// told writes a plan as lines of text.
func told(p *Plan) string {
	var b strings.Builder
	line := func(format string, a ...any) { fmt.Fprintf(&b, format+"\n", a...) }
	text := func(v float64, q units.Quantity) string { return units.Text(v, q, units.Metric) }
	line("%s, planned for %s, %s", p.SheetName, p.CropDate.Words(), p.Product)
	line("\nFigures")
	for _, f := range p.Figures {
		v := f.Text
		if v == "" {
			v = text(f.Value, f.Quantity)
		}
		if f.Ranged {
			v += fmt.Sprintf(" (%s to %s)", text(f.Low, f.Quantity), text(f.High, f.Quantity))
		}
		line("  %-28s %s: %s. %s", f.Path, f.Label, v, f.Note)
	}
	line("\nSaid")
	for _, f := range p.Findings {
		line("  %s %s [%s] %s", f.Weight, f.Rule, f.Step, f.Sentence)
		for _, r := range f.Remedies {
			line("    → %s", r.Label)
		}
	}
	line("\nTo have ready")
	for _, s := range p.Supplies {
		line("  %s %s of %s for %s: %s", s.By, text(s.Amount.Base, s.Quantity), s.What, s.For, s.How)
	}
	line("\nYears")
	for _, y := range p.Years {
		feed := make([]string, 0, len(p.Nutrients))
		for _, n := range p.Nutrients {
			feed = append(feed, fmt.Sprintf("%s %.1f", n, y.FeedPerHa[n]))
		}
		picks := make([]string, 0, len(y.Harvests))
		for _, h := range y.Harvests {
			picks = append(picks, fmt.Sprintf("%s %s to %s %s", h.Name, h.From, h.To, text(h.BlockKg.Base, p.MassAs)))
		}
		line("  %2d %s %d plants, %.2f m, %s; fed kg/ha %s; %s", y.Age, y.Label, y.Plants, y.SpreadM, text(y.PerHa.Base, p.YieldAs), strings.Join(feed, ", "),
			strings.Join(picks, "; "))
	}
	line("\nJobs to the end of the second year")
	for _, j := range p.Jobs {
		if j.Age <= 2 {
			what := j.Name
			if j.Detail != "" {
				what += ": " + j.Detail
			}
			if j.Hours != nil {
				what += ". " + text(*j.Hours, units.Hours) + " " + j.HoursBy
			}
			line("  %s %s to %s %s. %s", j.Key, j.From, j.By, what, j.Rule)
		}
	}
	return b.String()
}

func firstDifference(want, got string) string {
	a, b := strings.Split(want, "\n"), strings.Split(got, "\n")
	for i := range max(len(a), len(b)) {
		x, y := "", ""
		if i < len(a) {
			x = a[i]
		}
		if i < len(b) {
			y = b[i]
		}
		if x != y {
			return fmt.Sprintf("line %d\nwant %s\ngot  %s", i+1, x, y)
		}
	}
	return ""
}
