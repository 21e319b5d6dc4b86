package e2e

import (
	"fmt"
	"strings"
	"testing"

	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/e2e/drive"
)

// Every figure on every step of every block reads on the screen as the core writes it, in both systems of units: the
// front end's formatter follows the one table and no rule of its own.
func TestFiguresReadAsTheCoreWritesThem(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	b := blocks(t, prog.URL)
	page := open(t, prog.URL, 1280, 900)
	seen := map[units.Quantity]bool{}
	compared := 0
	for _, system := range []units.System{units.Metric, units.US} {
		var e struct{ Revision int }
		ask(t, "GET", prog.URL+"/api/v1/estate", "", nil, &e)
		if s := ask(t, "PATCH", prog.URL+"/api/v1/estate", fmt.Sprintf(`{"units":%q}`, system), map[string]string{"If-Match": fmt.Sprintf("%q", fmt.Sprint(e.Revision)), "Content-Type": "application/merge-patch+json"}, nil); s != 200 {
			t.Fatal(s)
		}
		for _, name := range []string{"Orchard Foot", "Gate Field", "Long Strip", "Lower Terrace"} {
			var plan struct {
				Figures []struct {
					Path, Text string
					Quantity   units.Quantity
					Value      float64
				}
			}
			ask(t, "GET", prog.URL+"/api/v1/blocks/"+b[name].ID+"/plan", "", nil, &plan)
			must(t, page.Go("/blocks/"+b[name].ID)) // afresh: the units were changed by another client
			for _, step := range []string{"ground", "soil", "drains", "prepare", "rows", "plants"} {
				must(t, page.Visit("/blocks/"+b[name].ID+"/"+step))
				shown, err := drive.Eval[map[string]string](page, `Object.fromEntries([...document.querySelectorAll("[data-figure]")].map((e) => [e.dataset.figure, [...e.childNodes].filter((n) => !n.classList?.contains("sr-only")).map((n) => n.textContent).join("")]))`)
				must(t, err)
				for _, f := range plan.Figures {
					text, ok := shown[f.Path]
					if !ok {
						continue
					}
					compared++
					seen[f.Quantity] = true
					want := f.Text
					if want == "" {
						want = units.Text(f.Value, f.Quantity, system)
					}
					flat := func(s string) string { return strings.NewReplacer("\u00a0", "", " ", "").Replace(s) }
					if flat(text) != flat(want) {
						t.Errorf("%s, %s in %s: the screen says %q, the core %q", name, f.Path, system, text, want)
					}
				}
			}
		}
	}
	if compared < 120 || len(seen) < 9 {
		t.Errorf("only %d figures of %d kinds compared", compared, len(seen))
	}
}

// The bill, the pegs and the sentences of the margin agree on the same drains: metres, pits and flow.
func TestBillPegsAndSentencesAgree(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	var d struct {
		Drains struct {
			Bill []struct {
				What, Quantity string
				Amount         float64
			}
			Network struct {
				Chambers []struct{ S float64 }
				Laterals []struct{ LengthM float64 }
				Reaches  []struct{ LengthM float64 }
			}
		}
		Jobs report.Jobs
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID+"/plan", "", nil, &d)
	metres := 0.0
	for _, x := range d.Drains.Network.Laterals {
		metres += x.LengthM
	}
	for _, x := range d.Drains.Network.Reaches {
		metres += x.LengthM
	}
	pipe, pits := 0.0, 0.0
	words := ""
	for _, l := range d.Drains.Bill {
		if strings.HasPrefix(l.What, "Pipe ") {
			pipe += l.Amount
			words = strings.ToLower(l.What[:1]) + l.What[1:] + " " + units.Text(l.Amount, units.Quantity(l.Quantity), units.Metric)
		}
		if l.What == "Inspection pits" {
			pits = l.Amount
		}
	}
	if r := pipe / metres; r < 1.0299 || r > 1.0301 {
		t.Errorf("%.1f m of pipe for %.1f m of drains", pipe, metres)
	}
	pegs := fetch(t, prog.URL+"/api/v1/blocks/"+foot.ID+"/setting-out/csv")
	if n := strings.Count(pegs, ",pit,"); float64(n) != pits || n != len(d.Drains.Network.Chambers) {
		t.Errorf("%d pits are pegged, %g in the bill, %d designed", n, pits, len(d.Drains.Network.Chambers))
	}
	told := false
	for _, j := range d.Jobs {
		told = told || strings.Contains(j.Detail, words)
	}
	if !told {
		t.Errorf("no job speaks of %q", words)
	}
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Press("Bill and files"), page.Says(units.Text(pipe-d.Drains.Bill[1].Amount, units.Distance, units.Metric)))
}
