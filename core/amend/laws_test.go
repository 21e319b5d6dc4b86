package amend

import (
	"errors"
	"math"
	"math/rand"
	"testing"

	"slowroot/core/finding"
)

// More acidity never asks for less lime, a deeper layer never for less, a purer product never for more of it; no
// school ever answers below nought, and what it needs is named where it cannot answer.
func TestLimeLaws(t *testing.T) {
	rnd := rand.New(rand.NewSource(7))
	need := func(c LimeCase) map[School]float64 {
		ns, err := Lime(c)
		if err != nil {
			t.Fatalf("%+v: %v", c, err)
		}
		out := map[School]float64{}
		for _, n := range ns {
			if n.TPerHa < 0 || n.Lack != "" && n.TPerHa != 0 || n.Lack == "" && n.Substituted == "" || n.Formula == "" || n.Source == "" {
				t.Fatalf("%+v", n)
			}
			if n.Lack == "" {
				out[n.School] = n.TPerHa
			}
		}
		return out
	}
	for range 400 {
		c := LimeCase{PH: f(4 + rnd.Float64()*2), TargetPH: 6.5, BufferPH: f(5.4 + rnd.Float64()*1.1), BufferMethod: []string{"smp", "mehlich"}[rnd.Intn(2)], CEC: f(3 + rnd.Float64()*25), BasePct: f(5 + rnd.Float64()*50), TargetBase: 65,
			Al: f(rnd.Float64()), AlTolerated: 10, CaMg: f(rnd.Float64() * 3), ECEC: f(4 + rnd.Float64()*5), CaMgWanted: 2, ClayPct: rnd.Float64() * 70, TextureGroup: []string{"coarse", "medium", "fine"}[rnd.Intn(3)], OMPct: rnd.Float64() * 8, DepthCm: 10 + rnd.Float64()*30}
		if *c.PH >= 5.5 {
			c.Al = f(0)
		}
		was := need(c)
		deeper := c
		deeper.DepthCm = c.DepthCm + 10
		for s, v := range need(deeper) {
			if v < was[s]-1e-9 {
				t.Errorf("%s: %g t in %g cm, %g t in %g cm", s, was[s], c.DepthCm, v, deeper.DepthCm)
			}
		}
		sour := c
		sour.PH, sour.BasePct, sour.BufferPH = f(*c.PH-0.3), f(math.Max(1, *c.BasePct-5)), f(*c.BufferPH-0.1)
		for s, v := range need(sour) {
			if s != Aluminium && v < was[s]-1e-9 {
				t.Errorf("%s: sourer soil asks for %g t, less than %g (%+v)", s, v, was[s], c)
			}
		}
		if d := Disagreement(must(t, c)); d < 1 {
			t.Errorf("schools disagree by %g", d)
		}
	}
	if ns := must(t, LimeCase{DepthCm: 20, TargetPH: 6.5}); Preferred(ns) != "" || len(ns) != len(Schools) {
		t.Errorf("without a test %s answers", Preferred(ns))
	}
}

func must(t *testing.T, c LimeCase) []Need {
	t.Helper()
	ns, err := Lime(c)
	if err != nil {
		t.Fatal(err)
	}
	return ns
}

// What is refused names its field and what would be taken.
func TestAmendmentsRefuse(t *testing.T) {
	check := func(name, field string, err error) {
		t.Helper()
		var fe *finding.FieldError
		if !errors.As(err, &fe) || fe.Field != field || fe.Accepted == "" {
			t.Errorf("%s: %v, want the field %s", name, err, field)
		}
	}
	_, err := Gypsum(0, 10, 5, 1.3, 20, 0.8, 0.9, 7.5)
	check("no exchange capacity", "cec", err)
	_, err = Gypsum(10, 120, 5, 1.3, 20, 0.8, 0.9, 7.5)
	check("more sodium than soil", "esp", err)
	_, err = Gypsum(10, 12, 5, 1.3, 20, 0, 0.9, 7.5)
	check("no efficiency", "efficiency", err)
	_, err = Gypsum(10, 12, 5, 1.3, 20, 0.8, 1.2, 7.5)
	check("purer than pure", "efficiency", err)
	_, err = Organic{Name: "air"}.Fresh(10)
	check("a material of nothing", "material", err)
	_, err = StripFraction(0, 3)
	check("no strip", "stripWidthM", err)
	for name, p := range map[string]Liming{"m.caoPct": {CaOPct: 140}, "m.mgoPct": {MgOPct: -1}, "m.reactivityPct": {ReactivityPct: math.NaN()}, "m.moisturePct": {MoisturePct: 95}, "m.effectivePct": {EffectivePct: 200}, "m.sieves": {Sieves: Sieves{Over2: 20}}} {
		check(name, name, p.Valid("m"))
	}
	if g, err := Gypsum(10, 5, 8, 1.3, 20, 0.8, 0.9, 7.5); err != nil || g != 0 {
		t.Errorf("sodium below the target asks for %g t: %v", g, err)
	}
	if _, ok := OrganicNamed("gold"); ok {
		t.Error("gold is organic")
	}
}

// Tables keep their order: finer soil takes more lime and sulphur, a larger drop more months, and sulphur in steps
// makes what one step makes.
func TestTablesKeepTheirOrder(t *testing.T) {
	if LimeFactor("coarse", 2) >= LimeFactor("medium", 2) || LimeFactor("medium", 2) >= LimeFactor("fine", 2) || LimeFactor("coarse", 12) < LimeFactor("coarse", 2) || LimeFactor("coarse", 30) != 16 {
		t.Error("lime factors")
	}
	for ph := 5.0; ph <= 7; ph += 0.1 {
		last := 0.0
		for _, g := range []string{"coarse", "medium", "fine"} {
			kg, err := SulphurByTable(ph, 4.5, g)
			if err != nil {
				t.Fatal(err)
			}
			if kg < last {
				t.Errorf("pH %.1f: %s soil takes %.0f kg, coarser %.0f", ph, g, kg, last)
			}
			last = kg
		}
	}
	down, _ := SulphurByTable(6.0, 4.5, "medium")
	half, _ := SulphurByTable(5.2, 4.5, "medium")
	if down <= half {
		t.Errorf("from 6.0 %g kg, from 5.2 %g", down, half)
	}
	if SulphurMonths(0.5) >= SulphurMonths(1.5) || MostSulphur("coarse") >= MostSulphur("fine") {
		t.Error("sulphur lead times or doses")
	}
	for clay := 1.0; clay < 100; clay++ {
		if AlFactor(clay) < AlFactor(clay-1) || AlFactor(clay) > 4 {
			t.Errorf("aluminium factor of %g %% clay is %g", clay, AlFactor(clay))
		}
	}
	for _, o := range Organics {
		fresh, err := o.Fresh(10)
		if err != nil || math.Abs(o.Raises(fresh, 1.3, 20)-10/(1.3*20)) > 1e-9 || o.TPerM3 <= 0 || o.TPerM3 > 1.2 {
			t.Errorf("%s: %g t fresh, %v", o.ID, fresh, err)
		}
	}
	for n := 0.5; n < 40; n++ {
		if k := Split(n, MostMixedIn); n/float64(k) > MostMixedIn+1e-9 || k > 1 && n/float64(k-1) <= MostMixedIn {
			t.Errorf("%g t/ha in %d applications", n, k)
		}
	}
}
