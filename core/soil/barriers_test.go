package soil

import (
	"math"
	"strings"
	"testing"
)

// Quantiles of type 7, by hand: of 2, 4, 8, 20 the quarter lies at 3.5, the middle at 6, nine tenths at 16.4.
func TestQuantilesByHand(t *testing.T) {
	v := []float64{8, 2, 20, 4}
	for q, want := range map[float64]float64{0: 2, 0.25: 3.5, 0.5: 6, 0.9: 16.4, 1: 20} {
		if got := Quantile(v, q); math.Abs(got-want) > 1e-12 {
			t.Errorf("quantile %g: %g, want %g", q, got, want)
		}
	}
	if v[0] != 8 || !math.IsNaN(Quantile(nil, 0.5)) || Quantile([]float64{7}, 0.3) != 7 {
		t.Error("the values are sorted in place, or none has a quantile")
	}
}

// Which barriers can be ripped: a pan with soil below it that the tine reaches through, not one on rock or too deep.
func TestWhichBarriersYield(t *testing.T) {
	layer := func(top, bottom float64, change func(*Layer)) Layer {
		l := Layer{TopCm: top, BottomCm: bottom, Class: Loam, Hardness: Firm, OMPct: 1}
		if change != nil {
			change(&l)
		}
		return l
	}
	cemented := func(l *Layer) { l.Hardness = Cemented }
	platy := func(l *Layer) { l.Structure, l.Hardness = Platy, Hard }
	for _, c := range []struct {
		name      string
		layers    []Layer
		kind      string // "" none
		removable bool
	}{
		{"nothing", []Layer{layer(0, 40, nil), layer(40, 100, nil)}, "", false},
		{"a pan over soil", []Layer{layer(0, 40, nil), layer(40, 50, cemented), layer(50, 100, nil)}, "cemented pan", true},
		{"a pan over rock", []Layer{layer(0, 40, nil), layer(40, 50, cemented), layer(50, 100, func(l *Layer) { l.Hardness = Rock })}, "cemented pan", false},
		{"a pan over a pan", []Layer{layer(0, 40, nil), layer(40, 50, cemented), layer(50, 100, cemented)}, "cemented pan", false},
		{"a pan at the bottom", []Layer{layer(0, 40, nil), layer(40, 50, cemented)}, "cemented pan", false},
		{"a thin pan", []Layer{layer(0, 40, nil), layer(40, 45, cemented), layer(45, 100, nil)}, "", false},
		{"a pan too deep", []Layer{layer(0, 85, nil), layer(85, RipReachCm+5, cemented), layer(RipReachCm+5, 150, nil)}, "cemented pan", false},
		{"a plough pan", []Layer{layer(0, 25, nil), layer(25, 35, platy), layer(35, 100, nil)}, "plough pan", true},
		{"platy and dense", []Layer{layer(0, 25, nil), layer(25, 35, func(l *Layer) { l.Structure, l.DensityG = Platy, 2 }), layer(35, 100, nil)}, "plough pan", true},
		{"platy, not hard", []Layer{layer(0, 25, nil), layer(25, 35, func(l *Layer) { l.Structure = Platy }), layer(35, 100, nil)}, "", false},
		{"hard and platy at the top", []Layer{layer(0, 35, platy), layer(35, 100, nil)}, "", false},
		{"hard and platy deep down", []Layer{layer(0, 60, nil), layer(60, 70, platy), layer(70, 100, nil)}, "", false},
		{"dense", []Layer{layer(0, 25, nil), layer(25, 35, func(l *Layer) { l.DensityG = 2 }), layer(35, 100, nil)}, "compacted layer", true},
		{"rock", []Layer{layer(0, 25, nil), layer(25, 100, func(l *Layer) { l.Hardness = Rock })}, "rock", false},
		{"stones", []Layer{layer(0, 25, nil), layer(25, 100, func(l *Layer) { l.StonesPct = 75 })}, "gravel", false},
		{"lime", []Layer{layer(0, 25, nil), layer(25, 100, func(l *Layer) { l.StrongFizz = true })}, "lime-rich layer", false},
		{"lime at the top", []Layer{layer(0, 25, func(l *Layer) { l.StrongFizz = true }), layer(25, 100, nil)}, "", false},
		{"clay without roots", []Layer{layer(0, 25, nil), layer(25, 100, func(l *Layer) { l.Class, l.Roots = Clay, NoRoots })}, "dense clay", false},
		{"clay, hard, nobody looked", []Layer{layer(0, 25, nil), layer(25, 100, func(l *Layer) { l.Class, l.Hardness = Clay, Hard })}, "dense clay", false},
		{"clay, nobody looked", []Layer{layer(0, 25, nil), layer(25, 100, func(l *Layer) { l.Class = Clay })}, "", false},
	} {
		got := Pit{Layers: c.layers}.Barriers(0)
		if c.kind == "" {
			if len(got) != 0 {
				t.Errorf("%s: %+v", c.name, got)
			}
			continue
		}
		if len(got) == 0 || got[0].Kind != c.kind || got[0].Removable != c.removable {
			t.Errorf("%s: %+v, want a %s, removable %v", c.name, got, c.kind, c.removable)
		}
	}
}

// Each doubt alone, at its edge and past it.
func TestDoubtsAtTheirEdges(t *testing.T) {
	f := func(v float64) *float64 { return &v }
	base := func(change func(*Test)) Test {
		t := Test{PH: f(6), PHMethod: "water", Ca: f(4), Mg: f(1), K: f(0.5), CEC: f(8)}
		change(&t)
		return t
	}
	for _, c := range []struct {
		name string
		t    Test
		rule string
	}{
		{"sound", base(func(*Test) {}), ""},
		{"bases as large as the CEC", base(func(t *Test) { t.CEC = f(5.5) }), ""},
		{"bases above it", base(func(t *Test) { t.CEC = f(5.4) }), "soil.cec-below-bases"},
		{"too much", base(func(t *Test) { t.CEC = f(61) }), "soil.cec-too-high"},
		{"as much as clay may hold", base(func(t *Test) { t.CEC = f(60) }), ""},
		{"peat", base(func(t *Test) { t.CEC, t.OMPct = f(90), f(30) }), ""},
		{"acidity that makes the sum", base(func(t *Test) { t.Acidity = f(2.5) }), ""},
		{"acidity a little off", base(func(t *Test) { t.Acidity = f(3.2) }), ""},
		{"acidity far off", base(func(t *Test) { t.Acidity = f(3.5) }), "soil.cec-does-not-sum"},
		{"acidity too little", base(func(t *Test) { t.Acidity = f(0.5) }), "soil.cec-does-not-sum"},
		{"aluminium where it is sour", base(func(t *Test) { t.PH, t.Al = f(4.5), f(2) }), ""},
		{"aluminium where there is none", base(func(t *Test) { t.Al = f(0.4) }), "soil.aluminium-at-high-ph"},
		{"a trace of it", base(func(t *Test) { t.Al = f(0.3) }), ""},
		{"lime where it is sweet", base(func(t *Test) { t.PH, t.LimePct = f(7.5), f(4) }), ""},
		{"lime where it is sour", base(func(t *Test) { t.LimePct = f(4) }), "soil.lime-at-low-ph"},
		{"a trace of lime", base(func(t *Test) { t.LimePct = f(1) }), ""},
	} {
		var rules []string
		for _, d := range c.t.Doubts() {
			rules = append(rules, d.Rule)
		}
		if got := strings.Join(rules, " "); got != c.rule {
			t.Errorf("%s: %q, want %q", c.name, got, c.rule)
		}
	}
	d := base(func(t *Test) { t.Acidity = f(3.5) }).Doubts()[0].Sentence
	if !strings.Contains(d, "5.5 + 3.5 = 9.0 cmolc/kg, the report gives a CEC of 8.0") {
		t.Error(d)
	}
	if d := base(func(t *Test) { t.CEC = f(4) }).Doubts()[0].Sentence; !strings.Contains(d, "= 5.5, a base saturation of 138 %") {
		t.Error(d)
	}
	if _, err := (Fractions{SandPct: 50, SiltPct: 30, ClayPct: 30}).Normal(); err == nil || !strings.Contains(err.Error(), "50 + 30 + 30 = 110") {
		t.Error(err)
	}
}
