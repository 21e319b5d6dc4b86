package nutrition

import (
	"math"
	"strings"
	"testing"

	"slowroot/core/civil"
)

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.Abs(got-want) > 1e-3*math.Max(1e-9, math.Abs(want)) {
		t.Errorf("%s: %.5g, want %.5g", what, got, want)
	}
}

// Method N3 school A: ramp to 800 g at year 8.
func TestByAge(t *testing.T) {
	p := Programme{Basis: PerPlant, Rows: []Row{{0, Amounts{"n": 0}}, {8, Amounts{"n": 800}}}}
	for a, want := range map[int]float64{1: 100, 5: 500, 9: 800} {
		near(t, "ramp", p.At("n", a, 0), want)
	}
}

// Method N7: 1.35 ha, 332 adults at 400 g and 20 replants at 50 g: 133.8 kg = 99.1 kg/ha.
func TestPerPlantToBlock(t *testing.T) {
	p := Programme{Basis: PerPlant}
	a := p.Dose(400, Stand{332, 1.35})
	b := p.Dose(50, Stand{20, 1.35})
	near(t, "block", a.BlockKg+b.BlockKg, 133.8)
	near(t, "per ha", a.KgPerHa+b.KgPerHa, 99.1)
	h := Programme{Basis: PerHa}.Dose(100, Stand{667, 1}) // persimmon sheet: 100 kg / 667 = 150 g
	near(t, "g per tree", h.GPerPlant, 150)
}

// Tea sheet: 2 400 kg made tea at 10 kg N per 100 kg is 240 kg N in 4 splits of 60; willow sheet:
// 150 kg N in the first year of each rotation.
func TestByYieldAndByRotation(t *testing.T) {
	p := Programme{Basis: PerHa, AgeBasis: "elapsed", Rows: []Row{{0, Amounts{"n": 45}}, {3, Amounts{"n": 135}}},
		PerYield: &ByYield{From: 4, PerKg: Amounts{"n": 0.1}, Cap: Amounts{"n": 250}}}.Normal()
	near(t, "first season", p.At("n", 1, 0), 45)
	near(t, "fourth season", p.At("n", 4, 1200), 135)
	near(t, "by target", p.At("n", 8, 2400), 240)
	near(t, "capped", p.At("n", 9, 3500), 250)
	w := Programme{Basis: PerHa, Cycle: &Cycle{From: 2, Years: []Amounts{{"n": 150}, {"n": 0}, {"n": 0}}}}
	for a, want := range map[int]float64{1: 0, 2: 150, 3: 0, 4: 0, 5: 150, 8: 150} {
		near(t, "willow", w.At("n", a, 0), want)
	}
	if got := strings.Join(w.Nutrients(), ","); got != "n" {
		t.Errorf("nutrients %s", got)
	}
}

func TestCheckRefuses(t *testing.T) {
	ok := func() Programme {
		return Programme{Basis: PerHa, AgeBasis: "growing-season", Origin: "cp", Rows: []Row{{1, Amounts{"n": 10}}},
			Splits: []Split{{Name: "a", Season: []string{"early-spring"}, Shares: Amounts{"n": 0.5}}, {Name: "b", Season: []string{"late-spring"}, Shares: Amounts{"n": 0.5}}}}
	}
	if err := ok().Check(); err != nil {
		t.Fatal(err)
	}
	for say, f := range map[string]func(*Programme){
		"sum to 0.8": func(p *Programme) { p.Splits[1].Shares = Amounts{"n": 0.3} },
		"oxide":      func(p *Programme) { p.Rows[0].Amounts = Amounts{"k₂o": 1} },
		"basis":      func(p *Programme) { p.Basis = "lb" },
		"origin":     func(p *Programme) { p.Origin = "" },
		"season":     func(p *Programme) { p.Splits[0].Season = nil },
		"age basis":  func(p *Programme) { p.AgeBasis = "moons" },
		"no years":   func(p *Programme) { p.Cycle = &Cycle{} },
		"do not rise": func(p *Programme) {
			p.Rows = append(p.Rows, Row{1, Amounts{"n": 20}})
		},
		"split a follows": func(p *Programme) { p.Splits[0].Follows = &civil.Follows{What: "prune", Days: [2]int{9, 8}} },
		"split b follows": func(p *Programme) {
			p.Splits[1] = Split{Name: "b", Days: []int{1, 2}, Shares: Amounts{"n": 0.5}, Follows: &civil.Follows{What: "prune", Days: [2]int{8, 9}}}
		},
	} {
		p := ok()
		f(&p)
		err := p.Check()
		if err == nil || !strings.Contains(err.Error(), say) {
			t.Errorf("%s: %v", say, err)
		}
	}
}
