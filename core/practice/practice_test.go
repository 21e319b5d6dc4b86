package practice

import (
	"os"
	"strings"
	"testing"
)

func TestBuiltInSheetsAreSound(t *testing.T) {
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, id := range []string{"tea", "hazelnut", "persimmon", "willow"} {
		s, ok := l.Get(id)
		if !ok {
			t.Fatalf("no sheet %s", id)
		}
		if len(s.Layouts) < 2 || len(s.Forks) < 2 || len(s.Work) < 15 || len(s.Limits) < 8 || len(s.Digest) != 16 {
			t.Errorf("%s is thin: %d layouts, %d forks, %d operations, %d limits", id, len(s.Layouts), len(s.Forks), len(s.Work), len(s.Limits))
		}
		for _, o := range s.Work {
			// Work with blades, fire or trenches carries its caution.
			for _, word := range []string{"hainsaw", "rench", "Ring-bark"} {
				if strings.Contains(o.Detail+o.Name, word) && o.Caution == "" && o.Phase != "plant" {
					t.Errorf("%s/%s speaks of %s without a caution", id, o.ID, word)
				}
			}
		}
	}
	if len(l.Whole()) != 24 {
		t.Errorf("%d sheets to plan with", len(l.Whole()))
	}
}

func TestChoicesResolveAndSelect(t *testing.T) {
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	tea, _ := l.Get("tea")
	c := tea.Resolve(map[string]string{"frame": "peg", "cycle": "no such"})
	if c["frame"] != "peg" || c["cycle"] != "four" || c[LayoutFork] != "single" {
		t.Fatalf("resolved %v", c)
	}
	if got := tea.Curve(c).Fraction(5); got != 0.85 {
		t.Errorf("a pegged hedge yields %g of full in year 5, want 0.85", got)
	}
	if got := tea.Programme(c).PerYield.From; got != 5 {
		t.Errorf("feeding by target begins in growing season %d, want 5 (the sheet counts elapsed years from 4)", got)
	}
	if tea.Harvesting(c).Cycle.Factors[0] != 0.70 {
		t.Error("wrong cycle")
	}
	for _, o := range tea.Operations(c) {
		if o.ID == "cut-1" || o.ID == "prune-3" {
			t.Errorf("%s is not part of these choices", o.ID)
		}
	}
}

// Each change must be refused, and the message must name what is wrong.
func TestValidatorRefuses(t *testing.T) {
	text, err := os.ReadFile("sheets/hazelnut.yaml")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := Load(text); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct{ name, old, new, say string }{
		{"split that does not sum", "shares: {n: 0.3}", "shares: {n: 0.2}", "sum to 0.9"},
		{"thinning that cannot reach its spacing", "leavesRowM: 6, leavesPlantM: 6", "leavesRowM: 10, leavesPlantM: 10", "never 10 × 10 m"},
		{"printed density", "perHa: 556", "perHa: 600", "its spacings give 556"},
		{"anchor", "before: lime", "before: limes", "does not resolve"},
		{"missing origin", `better: 24 mo, min: 12 mo, detail: "in shell or kernel; drying capacity", why: "a market decides cultivar and shell size", origin: cp`,
			`better: 24 mo, min: 12 mo`, "no origin"},
		{"unknown field", "version: 1", "version: 1\nflavour: nutty", "flavour"},
		{"two curves", "if: {layout: [standard]}", "if: {layout: [standard, bush]}", "2 yield curves"},
		{"no curve", "if: {layout: [standard]}", "if: {layout: [bush]}", "0 yield curves"},
		{"harvest shares", "share: 0.70", "share: 0.60", "sum to 0.9"},
		{"no default", "default: true, origin: cp}", "origin: cp}", "one default"},
		{"condition on nothing", "if: {form: [bush], stock: [own]}", "if: {form: [shrub]}", "does not exist"},
		{"length of time", "better: 24 mo", "better: 24", "length of time"},
		{"season of a picking", "season: [mid-autumn], share: 0.08", "season: [mid-autum], share: 0.08", "is not a season"},
		{"what leaves with the crop", "n: [10, 13, 17]", "n: [17, 13, 10]", "no range of kg per t"},
		{"what leaves, on nothing", `{of: "nuts in shell"`, `{if: {form: [shrub]}, of: "nuts in shell"`, "does not exist"},
		{"step of a contradiction", "{id: when-the-filler-goes, step: rows", "{id: when-the-filler-goes, step: row", "needs an id of its own, a step"},
		{"what planting takes", `what: "water at planting", low: 10, base: 10`, `what: "water at planting", low: 10, base: 5`, "is no range"},
		{"what planting takes, of what", "unit: L, of: plant", "unit: L, of: tree", "not by plant"},
		{"life", "low: 25, base: 35", "low: 45, base: 35", "life must rise"},
	} {
		bad := strings.Replace(string(text), c.old, c.new, 1)
		if bad == string(text) {
			t.Errorf("%s: %q is not in the sheet", c.name, c.old)
			continue
		}
		if _, err := Load([]byte(bad)); err == nil || !strings.Contains(err.Error(), c.say) {
			t.Errorf("%s: got %v, want an error saying %q", c.name, err, c.say)
		}
	}
}

// A sheet kept at adoption computes whatever is asked of new sheets since, and whatever else it says.
func TestAKeptSheetIsNotJudgedAgain(t *testing.T) {
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	tea, _ := l.Get("tea")
	text := append([]byte("elsewhere: this program does not read it\n"), tea.Text()...)
	text = []byte(strings.Replace(string(text), "rootCm: 110", "rootCm: 9999", 1))
	if _, err := Load(text); err == nil {
		t.Fatal("a new sheet like that is accepted")
	}
	kept, err := Kept(text)
	if err != nil || kept.ID != "tea" || len(kept.Layouts) != len(tea.Layouts) || kept.Soil.RootCm != 9999 {
		t.Errorf("%+v %v", kept, err)
	}
}
