package yield

import (
	"math"
	"testing"
)

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.Abs(got-want) > 1e-3*math.Max(math.Abs(want), 1e-9) {
		t.Errorf("%s: %.6g, want %.6g", what, got, want)
	}
}

// Method Y6, computed check values.
func TestFractionByAge(t *testing.T) {
	c := Curve{Fractions: [][2]float64{{4, 0.15}, {5, 0.30}, {6, 0.50}, {8, 0.90}, {10, 1}}}
	near(t, "age 7", c.Fraction(7), 0.70)
	near(t, "age 3", c.Fraction(3), 0)
	near(t, "age 30", c.Fraction(30), 1)
	c = Curve{Fractions: [][2]float64{{3, 0}, {5, 0.5}, {7, 0.75}, {8, 1}}}
	for a, want := range map[float64]float64{4: 0.25, 6: 0.625, 7.5: 0.875, 9: 1} {
		near(t, "Y6", c.Fraction(a), want)
	}
}

// Method Y7: 400/ha at 42 kg and 1 000/ha at 24 kg give α 0.01190476, β 2.976190e−5 (Shinozaki and
// Kira); 800 → 22.4 t/ha, 2 000 → 28.0 t/ha. Relative to 1 000/ha, crowding is βρ/(α + βρ).
func TestDensityFollowsShinozakiKira(t *testing.T) {
	alpha, beta := 0.01190476, 2.976190e-5
	c := Curve{ReferencePerHa: 1000, Crowding: beta * 1000 / (alpha + beta*1000)}
	for rho, want := range map[float64]float64{400: 16.8, 800: 22.4, 1000: 24, 2000: 28} {
		near(t, "t/ha", 24*c.Density(rho, 1), want)
	}
	near(t, "young plants do not feel each other", c.Density(2000, 0), 2)
	near(t, "constant per hectare", Curve{ReferencePerHa: 500, Crowding: 1}.Density(1000, 1), 1)
	if c.Density(0, 1) != 0 || !c.Extrapolated(2600) || !c.Extrapolated(399) || c.Extrapolated(900) {
		t.Error("range of the law")
	}
}

// Method Y9: 375 planted, 3 % first-year and 0.5 % yearly loss.
func TestStand(t *testing.T) {
	s := Stand{FirstYearLoss: 0.03, YearlyLoss: 0.005, GapFree: 0.10, GapEffect: 0.6}
	near(t, "year 1", 375*s.Alive(1), 363.75)
	near(t, "year 2", 375*s.Alive(2), 361.93)
	near(t, "5 years later", 375*s.Alive(6), 354.75)
	near(t, "10 years later", 375*s.Alive(11), 345.97)
	near(t, "gaps within what neighbours fill", s.Factor(0.92), 1)
	near(t, "gaps beyond", s.Factor(0.80), 1-0.6*0.20) // willow sheet: above 10 % × (1 − 0.6 g)
}

// Willow sheet, section 12: full 10 odt/ha·yr in 3-year rotations gives 18, 27, 30, 30, 30, 30, 27 =
// 192 odt over 22 years.
func TestCoppiceRotation(t *testing.T) {
	c := Curve{Full: Range{8000, 10000, 12000}, ReferencePerHa: 15066, Crowding: 1}
	h := Harvest{Rotation: &Rotation{First: 4, Every: 3, FirstYears: 3, Fractions: []float64{0.6, 0.9, 1, 1, 1, 1, 0.9}}}
	years := Series(c, h, Stand{}, Block{PlantsPerHa: func(int) float64 { return 15066 }, Life: 22})
	var got []float64
	sum := 0.0
	for _, y := range years {
		if y.KgPerHa.Base > 0 {
			got = append(got, y.KgPerHa.Base/1000)
			sum += y.KgPerHa.Base / 1000
			if (y.Age-4)%3 != 0 {
				t.Errorf("harvest at age %d", y.Age)
			}
		}
	}
	want := []float64{18, 27, 30, 30, 30, 30, 27}
	if len(got) != len(want) {
		t.Fatalf("harvests %v", got)
	}
	for i := range want {
		near(t, "harvest", got[i], want[i])
	}
	near(t, "sum", sum, 192)
}

// Tea sheet, work rates and test values: cycle of 4 years with mean 2 400 kg made tea gives 1 680,
// 2 640, 2 760, 2 520; year 5 of a single hedge 0.70 × 2 400 = 1 680.
func TestPruningCycle(t *testing.T) {
	c := Curve{Full: Range{1500, 2400, 3500}, ReferencePerHa: 11111, Fractions: [][2]float64{{1, 0}, {2, 0.1}, {3, 0.3}, {4, 0.5}, {5, 0.7}, {6, 1}}}
	h := Harvest{Cycle: &Cycle{From: 6, Factors: []float64{0.70, 1.10, 1.15, 1.05}}}
	years := Series(c, h, Stand{}, Block{PlantsPerHa: func(int) float64 { return 11111 }, Life: 10})
	for age, want := range map[int]float64{5: 1680, 6: 1680, 7: 2640, 8: 2760, 9: 2520, 10: 1680} {
		near(t, "tea", years[age-1].KgPerHa.Base, want)
	}
}

func TestChecksRefuse(t *testing.T) {
	good := Curve{Full: Range{1, 2, 3}, ReferencePerHa: 100, Fractions: [][2]float64{{1, 0}, {5, 1}}, Origin: "cp"}
	if err := good.Check(); err != nil {
		t.Fatal(err)
	}
	for i, bad := range []func(c *Curve){
		func(c *Curve) { c.Full.Low = 9 }, func(c *Curve) { c.ReferencePerHa = 0 }, func(c *Curve) { c.Origin = "" },
		func(c *Curve) { c.Fractions = [][2]float64{{1, 0}, {5, 0.9}} }, func(c *Curve) { c.Fractions = [][2]float64{{5, 0}, {1, 1}} },
		func(c *Curve) { c.Crowding = 2 },
	} {
		c := good
		bad(&c)
		if c.Check() == nil {
			t.Errorf("bad curve %d passed", i)
		}
	}
	pick := []Pick{{Name: "all", Season: []string{"late-summer"}, Share: 1}}
	for i, h := range []Harvest{
		{Picks: []Pick{{Name: "half", Season: []string{"late-summer"}, Share: 0.5}}, Origin: "cp"},
		{Picks: pick, Cycle: &Cycle{Factors: []float64{0.5, 1}}, Origin: "cp"},
		{Picks: pick, Rotation: &Rotation{}, Origin: "cp"}, {Picks: pick},
	} {
		if h.Check() == nil {
			t.Errorf("bad harvest %d passed", i)
		}
	}
}

// What a harvest lacks is named; each bound of a rotation refuses by itself.
func TestHarvestChecksNameWhatIsWrong(t *testing.T) {
	pick := func(shares ...float64) (out []Pick) {
		for _, s := range shares {
			out = append(out, Pick{Name: "sweep", Season: []string{"early-autumn"}, Share: s})
		}
		return out
	}
	rotation := func(first, every, years int, fractions ...float64) *Rotation {
		return &Rotation{First: first, Every: every, FirstYears: years, Fractions: fractions}
	}
	for _, c := range []struct {
		h    Harvest
		want string
	}{
		{Harvest{Picks: pick(0.7, 0.3), Origin: "cp"}, ""},
		{Harvest{Picks: pick(0.7, 0.2), Origin: "cp"}, "harvest shares sum to 0.9, not 1"},
		{Harvest{Origin: "cp"}, "harvest shares sum to 0, not 1"},
		{Harvest{Picks: []Pick{{Name: "sweep", Share: 1}}, Origin: "cp"}, "harvest sweep needs a season, or a first and a last day from planting"},
		{Harvest{Picks: []Pick{{Name: "sweep", Season: []string{"a", "b", "c"}, Share: 1}}, Origin: "cp"}, "harvest sweep needs a season, or a first and a last day from planting"},
		{Harvest{Picks: []Pick{{Name: "sweep", Season: []string{"a", "b"}, Share: 1}}, Origin: "cp"}, ""},
		{Harvest{Picks: pick(1), Cycle: &Cycle{Factors: []float64{0.5, 1.5}}, Origin: "cp"}, ""},
		{Harvest{Picks: pick(1), Cycle: &Cycle{Factors: []float64{0.5, 1}}, Origin: "cp"}, "cycle factors average to 0.7500, not 1"},
		{Harvest{Picks: pick(1), Rotation: rotation(4, 3, 3, 1), Origin: "cp"}, ""},
		{Harvest{Picks: pick(1), Rotation: rotation(3, 3, 3, 1), Origin: "cp"}, ""},
		{Harvest{Picks: pick(1), Rotation: rotation(0, 3, 3, 1), Origin: "cp"}, "rotation {First:0 Every:3 FirstYears:3 Fractions:[1]} has no length or no fractions"},
		{Harvest{Picks: pick(1), Rotation: rotation(4, 0, 3, 1), Origin: "cp"}, "rotation {First:4 Every:0 FirstYears:3 Fractions:[1]} has no length or no fractions"},
		{Harvest{Picks: pick(1), Rotation: rotation(4, 3, 0, 1), Origin: "cp"}, "rotation {First:4 Every:3 FirstYears:0 Fractions:[1]} has no length or no fractions"},
		{Harvest{Picks: pick(1), Rotation: rotation(4, 3, 5, 1), Origin: "cp"}, "rotation {First:4 Every:3 FirstYears:5 Fractions:[1]} has no length or no fractions"},
		{Harvest{Picks: pick(1), Rotation: rotation(4, 3, 3), Origin: "cp"}, "rotation {First:4 Every:3 FirstYears:3 Fractions:[]} has no length or no fractions"},
		{Harvest{Picks: pick(1)}, "harvest has no origin"},
	} {
		err := c.h.Check()
		if got := map[bool]string{true: ""}[err == nil]; err != nil && err.Error() != c.want || err == nil && c.want != got {
			t.Errorf("%+v: %v, want %q", c.h, err, c.want)
		}
	}
}

// Low, base and high keep their places, gaps and cycles multiply, and a rotation takes its years: 10 t/ha·yr, a first
// harvest of two years at age 5, then every three; half the stand lost to the yield.
func TestRangesStandsAndFirstYears(t *testing.T) {
	c := Curve{Full: Range{8000, 10000, 13000}, ReferencePerHa: 1000, Crowding: 0.5, Fractions: [][2]float64{{1, 0}, {3, 1}}}
	h := Harvest{Rotation: &Rotation{First: 5, Every: 3, FirstYears: 2, Fractions: []float64{0.5, 1}}}
	s := Stand{FirstYearLoss: 0.5, GapFree: 0.1, GapEffect: 1}
	years := Series(c, h, s, Block{PlantsPerHa: func(int) float64 { return 1000 }, Life: 12})
	for age, want := range map[int]Range{4: {}, 5: {4000, 5000, 6500}, 6: {}, 8: {12000, 15000, 19500}, 11: {12000, 15000, 19500}, 12: {}} {
		got := years[age-1].KgPerHa
		if math.Abs(got.Low-want.Low)+math.Abs(got.Base-want.Base)+math.Abs(got.High-want.High) > 1e-6 {
			t.Errorf("age %d: %+v, want %+v", age, got, want)
		}
	}
	for age, want := range map[int]int{4: 0, 5: 2, 7: 0, 8: 3} {
		if years[age-1].Growth != want {
			t.Errorf("age %d takes %d years of growth, want %d", age, years[age-1].Growth, want)
		}
	}
	// by age, with a cycle from year 4 on: density 500 of 1 000 with crowding 0.5 · fraction
	h = Harvest{Cycle: &Cycle{From: 4, Factors: []float64{0.8, 1.2}}}
	years = Series(c, h, Stand{}, Block{PlantsPerHa: func(int) float64 { return 500 }, Life: 6})
	for age, want := range map[int]float64{1: 0, 2: 5000 * 0.5 / (0.75 + 0.25*0.5), 3: 10000 * 0.5 / (0.5 + 0.5*0.5), 4: 0.8 * 10000 * 0.5 / 0.75, 5: 1.2 * 10000 * 0.5 / 0.75, 6: 0.8 * 10000 * 0.5 / 0.75} {
		if got := years[age-1].KgPerHa.Base; math.Abs(got-want) > 1e-6 {
			t.Errorf("age %d: %.3f kg/ha, want %.3f", age, got, want)
		}
	}
	if got := (Range{1, 2, 4}).Plus(Range{10, 20, 40}); got != (Range{11, 22, 44}) {
		t.Errorf("sum %+v", got)
	}
	if got := (Range{1, 2, 4}).Times(3); got != (Range{3, 6, 12}) {
		t.Errorf("three times %+v", got)
	}
}
