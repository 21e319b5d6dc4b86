package practice

import (
	"math"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/schedule"
	"slowroot/core/yield"
)

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.Abs(got-want) > 1e-3*math.Max(1e-9, math.Abs(want)) {
		t.Errorf("%s: %.5g, want %.5g", what, got, want)
	}
}

func sheet(t *testing.T, id string) *Sheet {
	t.Helper()
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	s, ok := l.Get(id)
	if !ok {
		t.Fatalf("no sheet %s", id)
	}
	return s
}

// The yield tables of the crop sheets, as printed there (age year, fraction of full).
func TestYieldTables(t *testing.T) {
	for _, c := range []struct {
		sheet  string
		choice map[string]string
		at     map[float64]float64
	}{
		{"hazelnut", map[string]string{"layout": "early"}, map[float64]float64{2: 0, 3: 0.03, 4: 0.1, 5: 0.2, 6: 0.35, 7: 0.5, 8: 0.65, 9: 0.8, 10: 0.9, 12: 1,
			25: 1, 35: 0.9}},
		{"hazelnut", map[string]string{"layout": "standard"}, map[float64]float64{3: 0.01, 4: 0.04, 5: 0.1, 6: 0.2, 7: 0.3, 8: 0.45, 9: 0.55, 10: 0.7, 12: 1, 40: 1}},
		{"hazelnut", map[string]string{"layout": "double"}, map[float64]float64{3: 0.02, 4: 0.08, 5: 0.18, 6: 0.35, 10: 0.9, 13: 0.8}},
		{"persimmon", map[string]string{"layout": "dense"}, map[float64]float64{2: 0, 3: 0.05, 4: 0.15, 5: 0.3, 6: 0.5, 7: 0.65, 8: 0.8, 9: 0.9, 10: 1, 25: 1,
			30: 0.8}},
		{"persimmon", map[string]string{"layout": "traditional"}, map[float64]float64{3: 0.02, 6: 0.3, 10: 0.85, 11: 1, 30: 0.9}},
		{"apple", nil, map[float64]float64{1: 0, 2: 0.10, 3: 0.35, 4: 0.60, 5: 0.80, 6: 1, 15: 1, 20: 0.85}},
		{"apple", map[string]string{"layout": "central", "water": "rainfed"}, map[float64]float64{3: 0.08, 6: 0.65, 10: 1, 30: 0.8}},
		{"pear", map[string]string{"layout": "vase"}, map[float64]float64{4: 0, 5: 0.05, 8: 0.3, 12: 0.7, 18: 1, 40: 0.75}},
		{"peach", nil, map[float64]float64{2: 0.05, 3: 0.3, 6: 1, 10: 0.9, 18: 0.55}},
		{"blueberry", nil, map[float64]float64{2: 0, 3: 0.15, 5: 0.55, 8: 1, 20: 1, 30: 0.75}},
		{"elderberry", map[string]string{"layout": "tree"}, map[float64]float64{1: 0, 2: 0.1, 4: 0.65, 6: 1, 25: 0.5}},
		{"miscanthus", map[string]string{"pace": "slow"}, map[float64]float64{1: 0, 2: 0.45, 3: 0.78, 4: 1, 20: 0.9}},
		{"tea", nil, map[float64]float64{1: 0, 2: 0.1, 3: 0.3, 4: 0.5, 5: 0.7, 6: 0.85, 7: 0.95, 8: 1, 40: 1, 50: 0.925}},
		{"tea", map[string]string{"layout": "double"}, map[float64]float64{2: 0.15, 3: 0.4, 4: 0.65, 5: 0.85, 6: 1}},
	} {
		s := sheet(t, c.sheet)
		curve := s.Curve(s.Resolve(c.choice))
		for age, want := range c.at {
			if got := curve.Fraction(age); math.Abs(got-want) > 1e-9 {
				t.Errorf("%s %v at age %g: %g, want %g", c.sheet, c.choice, age, got, want)
			}
		}
	}
}

// Feeding tables: persimmon 100 kg N/ha at 667 trees is 150 g a tree; hazelnut grams a tree by age; tea by
// target; willow 150 kg N for each three years of growth, however it is split.
func TestFeedingTables(t *testing.T) {
	p := sheet(t, "persimmon").Programme(sheet(t, "persimmon").Resolve(nil))
	for age, want := range map[int][3]float64{1: {20, 10, 15}, 2: {40, 20, 30}, 3: {50, 20, 50}, 5: {70, 30, 80}, 7: {90, 40, 110}, 20: {110, 45, 135}} {
		near(t, "persimmon N", p.At("n", age, 0), want[0])
		near(t, "persimmon P₂O₅", p.At("p2o5", age, 0), want[1])
		near(t, "persimmon K₂O", p.At("k2o", age, 0), want[2])
	}
	h := sheet(t, "hazelnut")
	for age, lim := range map[int][2]float64{2: {60, 100}, 3: {60, 100}, 4: {120, 180}, 5: {120, 180}, 6: {200, 250}, 7: {200, 250}, 8: {250, 320},
		30: {250, 320}} {
		if got := h.Programme(h.Resolve(nil)).At("n", age, 0); got < lim[0] || got > lim[1] {
			t.Errorf("hazelnut N at age %d: %g g, the table says %v", age, got, lim)
		}
	}
	near(t, "hazelnut first year, fertile", h.Programme(h.Resolve(nil)).At("n", 1, 0), 0)
	near(t, "hazelnut first year, poor", h.Programme(h.Resolve(map[string]string{"first-nitrogen": "little"})).At("n", 1, 0), 30)
	tea := sheet(t, "tea")
	near(t, "tea by target of 2 400 kg", tea.Programme(tea.Resolve(nil)).At("n", 9, 2400), 240)
	w := sheet(t, "willow")
	for _, way := range []string{"once", "equal"} {
		prog, sum := w.Programme(w.Resolve(map[string]string{"programme": way})), 0.0
		for age := 5; age <= 7; age++ {
			sum += prog.At("n", age, 0)
		}
		near(t, "willow, "+way, sum, 150)
	}
	near(t, "willow, nothing in the planting year", w.Programme(w.Resolve(nil)).At("n", 1, 0), 0)
}

// Every combination of choices of every sheet gives a full crop once, and never more than its full yield.
func TestEveryWayBearsToItsFullYield(t *testing.T) {
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, s := range l.All() {
		s.eachChoice(everyFork(s), func(c map[string]string) {
			curve, h := s.Curve(c), s.Harvesting(c)
			years := yield.Series(curve, h, yield.Stand{}, yield.Block{Life: s.Life.Base, PlantsPerHa: func(int) float64 { return curve.ReferencePerHa }})
			top, sum, full := 0.0, 0.0, 0
			for _, y := range years {
				top = math.Max(top, y.KgPerHa.Base/float64(max(1, y.Growth))/y.Cycle)
				sum += y.KgPerHa.Base
				if y.Fraction == 1 {
					full++
				}
				if y.KgPerHa.Low > y.KgPerHa.Base || y.KgPerHa.Base > y.KgPerHa.High {
					t.Fatalf("%s %v age %d: %+v", s.ID, c, y.Age, y.KgPerHa)
				}
			}
			if full == 0 || math.Abs(top-curve.Full.Base) > 1e-6 || sum > curve.Full.Base*float64(s.Life.Base) {
				t.Errorf("%s %v: %d full years, top %.0f of %.0f, sum %.0f", s.ID, c, full, top, curve.Full.Base, sum)
			}
		})
	}
}

// Every way's jobs: preparations lie before planting and in the order of their chain, work in a season lies
// in its window, in both hemispheres.
func TestEveryWaysJobsLieWhereTheirRuleSays(t *testing.T) {
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, south := range []bool{true, false} {
		seasons, err := schedule.NewSeasons(schedule.Temperate(south))
		if err != nil {
			t.Fatal(err)
		}
		for _, s := range l.All() {
			planting := seasons.NextInWindow(civil.Must(2030, 1, 1), s.Windows)
			cal := schedule.Calendar{Seasons: seasons, Planting: planting, Life: s.Life.Base}
			s.eachChoice(everyFork(s), func(c map[string]string) {
				ops := s.Operations(c)
				jobs := map[string]schedule.Job{}
				for _, j := range schedule.Jobs(ops, cal) {
					jobs[j.Key] = j
					o := j.Operation
					same := o.Min.IsZero() && j.By == planting // opened and planted on one day
					if j.Preparation && (!j.By.Before(planting) && !same || j.By.Before(j.From)) {
						t.Errorf("%s/%s: %s to %s for planting on %s", s.ID, o.ID, j.From, j.By, planting)
					}
					if len(o.Season) > 0 {
						a, b := seasons.Span(o.Season[0], o.Season[len(o.Season)-1], seasons.FirstYear(planting)+j.Age-1)
						if j.From != a || j.By != b || j.Age < o.Ages.From {
							t.Errorf("%s/%s at age %d: %s to %s, its window is %s to %s", s.ID, o.ID, j.Age, j.From, j.By, a, b)
						}
					}
				}
				for _, o := range ops {
					if o.Before != "" && o.Before != schedule.Planting && jobs[o.ID].By.After(jobs[o.Before].By) {
						t.Errorf("%s: %s on %s prepares %s on %s", s.ID, o.ID, jobs[o.ID].By, o.Before, jobs[o.Before].By)
					}
				}
				free, _ := schedule.Earliest(ops, cal, civil.Must(2030, 1, 1))
				least := civil.Must(2030, 6, 1)
				if s.Life.Base <= 15 { // herbs, cuttings and suckers are ordered a month or more ahead
					least = civil.Must(2030, 2, 1)
				}
				if free.Before(least) {
					t.Errorf("%s can be planted on %s, after nothing on the first of January", s.ID, free)
				}
			})
		}
	}
}

func everyFork(s *Sheet) map[string]bool {
	out := map[string]bool{}
	for _, f := range s.AllForks() {
		out[f.ID] = true
	}
	return out
}
