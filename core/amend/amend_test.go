package amend

import (
	"errors"
	"math"
	"testing"

	"slowroot/core/finding"
)

func f(v float64) *float64 { return &v }

func near(t *testing.T, name string, got, want, rel float64) {
	t.Helper()
	if math.Abs(got-want) > rel*math.Max(1e-9, math.Abs(want)) {
		t.Errorf("%s: %.5g, want %g", name, got, want)
	}
}

// Method AMD-1, computed from van Raij 1997, the lime factors, the buffers and Kamprath 1970.
func TestLimeSchools(t *testing.T) {
	ask := func(c LimeCase, s School) Need {
		if c.DepthCm == 0 {
			c.DepthCm = 20
		}
		ns, err := Lime(c)
		if err != nil {
			t.Fatal(err)
		}
		for _, n := range ns {
			if n.School == s {
				return n
			}
		}
		return Need{}
	}
	full := Liming{NeutralisingPct: 100, ReactivityPct: 100}
	eighty := Liming{NeutralisingPct: 80, ReactivityPct: 100}
	near(t, "A", full.Product(ask(LimeCase{CEC: f(8), BasePct: f(35), TargetBase: 60}, BaseSaturation).TPerHa), 2, 1e-9)
	near(t, "A at 30 cm, product 80", eighty.Product(ask(LimeCase{CEC: f(8), BasePct: f(35), TargetBase: 60, DepthCm: 30}, BaseSaturation).TPerHa), 3.75, 1e-9)
	near(t, "A on 0.4 of the ground", 0.4*eighty.Product(ask(LimeCase{CEC: f(8), BasePct: f(35), TargetBase: 60, DepthCm: 30}, BaseSaturation).TPerHa), 1.5, 1e-9)
	if n := ask(LimeCase{CEC: f(8), BasePct: f(62), TargetBase: 60}, BaseSaturation); n.TPerHa != 0 || n.Why == "" {
		t.Errorf("enough bases: %+v", n)
	}
	ninety := Liming{NeutralisingPct: 90, ReactivityPct: 100}
	near(t, "B", ninety.Product(ask(LimeCase{PH: f(5.4), TargetPH: 6.5, TextureGroup: "medium"}, TargetPH).TPerHa), 8.556, 1e-3)
	near(t, "B at 15 cm", ninety.Product(ask(LimeCase{PH: f(5.4), TargetPH: 6.5, TextureGroup: "medium", DepthCm: 15}, TargetPH).TPerHa), 6.417, 1e-3)
	near(t, "C, linear", ask(LimeCase{PH: f(5.2), TargetPH: 6.2, BufferPH: f(6.1), BufferMethod: "mehlich"}, Buffer).TPerHa, 1.429, 1e-3)
	near(t, "C, SMP 5.6 to 6.0", ask(LimeCase{PH: f(5), TargetPH: 6, BufferPH: f(5.6), BufferMethod: "smp"}, Buffer).TPerHa, 5.4, 1e-9)
	near(t, "C, SMP between lines", ask(LimeCase{PH: f(5), TargetPH: 5.75, BufferPH: f(5.65), BufferMethod: "smp"}, Buffer).TPerHa, (3.2+5.4+2.8+4.8)/4, 1e-6)
	near(t, "D", ByAluminium(1.8, 1.2, 3, 25, 3.5, 1.4, 20), 2.91, 1e-9)
	near(t, "D0", ask(LimeCase{Al: f(1.2)}, Aluminium).TPerHa, 1.8, 1e-9)
	for clay, y := range map[float64]float64{0: 0, 15: 1, 25: 1.5, 35: 2, 60: 3, 100: 4} {
		near(t, "Y", AlFactor(clay), y, 1e-9)
	}
	ns, _ := Lime(LimeCase{PH: f(5), TargetPH: 6, TextureGroup: "coarse", Al: f(1), DepthCm: 20})
	if Preferred(ns) != TargetPH {
		t.Errorf("preferred %s", Preferred(ns))
	}
	near(t, "disagreement", Disagreement(ns), 6/1.5, 1e-9)
	for _, bad := range []LimeCase{{DepthCm: 0}, {DepthCm: 61}, {DepthCm: 20, PH: f(2)}, {DepthCm: 20, CEC: f(0)}, {DepthCm: 20, BasePct: f(101)}, {DepthCm: 20, PH: f(6.5), Al: f(2)}} {
		var fe *finding.FieldError
		if _, err := Lime(bad); !errors.As(err, &fe) {
			t.Errorf("%+v was computed", bad)
		}
	}
}

// Method AMD-2, from molar masses and the four-sieve rule.
func TestLimingProducts(t *testing.T) {
	p := Liming{CaOPct: 32, MgOPct: 15, Sieves: Sieves{5, 15, 30, 50}, MoisturePct: 5}
	near(t, "neutralising value", p.Neutralising(), 94.37, 1e-3)
	near(t, "reactivity", p.Reactivity(), 71, 1e-9)
	near(t, "effective", p.Effective(), 67, 1e-3)
	near(t, "product", p.Product(3), 4.713, 1e-3)
	if p.Kind() != "dolomitic" || !p.Analysed() || (Liming{NeutralisingPct: 60}).Analysed() || (Liming{}).Analysed() {
		t.Error("kind or analysis misread")
	}
	// pure: CaCO3 100, CaO 178.5, MgO 248.4
	near(t, "CaO", Liming{CaOPct: 100}.Neutralising(), 178.5, 1e-3)
	near(t, "MgO", Liming{MgOPct: 100}.Neutralising(), 248.4, 1e-3)
	if (Liming{NeutralisingPct: 300}).Valid("p") == nil || (Liming{Sieves: Sieves{50, 10, 10, 10}}).Valid("p") == nil || p.Valid("p") != nil {
		t.Error("validity")
	}
	if Split(8, MostMixedIn) != 1 || Split(8.1, MostMixedIn) != 2 || Split(0, MostOnSurface) != 1 {
		t.Error("splitting a large rate")
	}
}

// Methods AMD-3 and AMD-4; gypsum against USDA Handbook 60, 1954.
func TestSulphurAndGypsum(t *testing.T) {
	got, err := SulphurByTable(5.8, 4.5, "medium")
	if err != nil {
		t.Fatal(err)
	}
	near(t, "loam 5.8 → 4.5", got, 1506, 1e-3)
	for _, c := range []struct{ ph, to, want float64 }{{8.5, 6.5, 2242}, {7.5, 6.5, 560}, {7, 4.5, 942}, {5, 4.5, 196}, {4.4, 4.5, 0}} {
		got, err := SulphurByTable(c.ph, c.to, "coarse")
		if err != nil || math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%g → %g: %g %v", c.ph, c.to, got, err)
		}
	}
	for _, c := range [][2]float64{{7.5, 4.5}, {9, 6.5}, {6, 4}} {
		if _, err := SulphurByTable(c[0], c[1], "medium"); err == nil {
			t.Errorf("%v lies beyond the table", c)
		}
	}
	near(t, "by buffer", SulphurByBuffer(1, 2.5, 1.3, 15), 781.5, 1e-3)
	near(t, "in a band", SulphurByBuffer(1, 2.5, 1.3, 15)*1.2/3.66, 256.2, 1e-3)
	near(t, "free lime", SulphurForLime(1, 1.3, 15), 6246, 2e-3)
	// Handbook 60: 1 meq/100 g over an acre-foot of 4·10⁶ lb takes 1.7 short tons; SAR 15 is ESP 17.3
	ft, density := 30.48, 4e6*0.45359237/(4046.8564224*0.3048)/1000
	g, err := Gypsum(100, 1, 0, density, ft, 1, 1, 7.5)
	if err != nil {
		t.Fatal(err)
	}
	short := g / 2.24170
	near(t, "gypsum an acre-foot", short, 1.722, 2e-3)
	near(t, "sulphur instead", short*SulphurForGypsum, 0.321, 3e-3)
	g, _ = Gypsum(22, 18, 8, 1.35, 30, 0.8, 0.9, 8)
	near(t, "gypsum", g, 10.654, 1e-3)
	near(t, "ESP", ESPFromSAR(15), 17.26, 1e-3)
	if _, err := Gypsum(10, 5, 2, 1.3, 20, 0.8, 0.9, 5); err == nil {
		t.Error("gypsum was given to an acid soil")
	}
}

// Methods AMD-5 and AMD-6.
func TestOrganicMatter(t *testing.T) {
	near(t, "a point", OrganicMatter(1, 1.3, 20), 26, 1e-9)
	compost, _ := OrganicNamed("compost")
	fresh, err := compost.Fresh(26)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "compost", fresh, 192.6, 1e-3)
	near(t, "in strips", fresh*0.33, 63.6, 2e-3)
	saw, _ := OrganicNamed("sawdust")
	// 5 cm of sawdust at 0.3 t/m³ on the strip: 500 m³ per treated ha
	near(t, "sawdust in the strip", saw.Raises(5*M3PerHaPerCmDepth*0.3, 1.3, 20), 0.96, 5e-3)
	s, _ := StripFraction(1, 1.5)
	near(t, "strip", s, 0.6667, 1e-3)
	near(t, "80 L per 10 m² as t/ha", 80*M3PerHaPerLPer10*0.6, 48, 1e-9)
	near(t, "20 t/ha as L/m²", 20/0.7/M3PerHaPerLPerM2, 2.857, 1e-3)
	if _, err := StripFraction(4, 3); err == nil {
		t.Error("a strip wider than its row")
	}
	if d, much := LocalDose(2, 0.15, 3); math.Abs(d-13.333) > 1e-3 || !much {
		t.Errorf("a broadcast rate in a strip: %g %v", d, much)
	}
}
