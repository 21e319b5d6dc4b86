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
	if CheckDensity(0) == nil || CheckDensity(math.NaN()) == nil || CheckDensity(15066) != nil {
		t.Error("density check")
	}
}
