package nutrition

import (
	"math"
	"testing"
)

// Factors as fertiliser handbooks print them, four places (method N1).
func TestOxidesToElements(t *testing.T) {
	printed := map[string]float64{"P2O5": 0.4364, "K2O": 0.8302, "CaO": 0.7147, "MgO": 0.6030, "CaCO3": 0.4004, "Na2O": 0.7419, "SO3": 0.4005, "SO4": 0.3338,
		"NO3": 0.2259, "NH4": 0.7765, "B2O3": 0.3106}
	for _, f := range Forms {
		if got := f.Share(); math.Abs(got-printed[f.Name]) > 0.00005001 {
			t.Errorf("%s → %s: %.5f, handbooks print %.4f", f.Name, f.Element, got, printed[f.Name])
		}
	}
	if e, kg := Element("p2o5", 13.75); e != "p" || math.Abs(kg-6) > 0.002 {
		t.Errorf("13.75 kg P2O5 hold %.3f kg %s, want 6.0 P (N3 B)", kg, e)
	}
	if e, kg := Element("k", 60); e != "k" || kg != 60 {
		t.Errorf("60 kg of the element became %g %s", kg, e)
	}
}

// Method N3 B: 30 t/ha of fruit at 1.6, 0.2 and 2.0 kg/t.
func TestWhatACropCarriesOff(t *testing.T) {
	r := Removal{Of: "fruit", Origin: "mem", PerT: map[string][3]float64{"n": {1.2, 1.6, 1.9}, "p": {0.1, 0.2, 0.3}, "k": {1.5, 2, 2.6}}}
	if err := r.Check(); err != nil {
		t.Fatal(err)
	}
	b := r.Balances(Amounts{"n": 80, "p2o5": 13.75, "k2o": 36.15}, 30000)
	for i, want := range []Balance{{"n", 48, 80}, {"p", 6, 6}, {"k", 60, 30.01}} {
		if b[i].Element != want.Element || math.Abs(b[i].Out-want.Out) > 0.01 || math.Abs(b[i].Given-want.Given) > 0.01 {
			t.Errorf("%+v, want %+v", b[i], want)
		}
	}
	r.PerT["n"] = [3]float64{2, 1, 3}
	if r.Check() == nil {
		t.Error("a range that falls was accepted")
	}
}

// The worked imbalance of method N5: wide pits with six leaf harvests.
func TestALedgerThatDoesNotSum(t *testing.T) {
	l := Balanced(300, []float64{60, 40, 40, 60, 40, 40})
	if l.Balanced || l.Sum != 280 || l.Diff != -20 || math.Abs(l.Scale-1.0714) > 0.0001 || math.Abs(l.Scaled[0]-64.3) > 0.05 || math.Abs(l.Scaled[1]-42.9) > 0.05 {
		t.Errorf("%+v", l)
	}
	if l.Running[2] != 140 {
		t.Errorf("running sum %v", l.Running)
	}
	if l := Balanced(300, []float64{60, 60, 60, 60, 60}); !l.Balanced || l.Scale != 1 {
		t.Errorf("rows: %+v", l)
	}
	for _, c := range []struct {
		annual, split float64
		want          bool
	}{{300, 301.5, true}, {300, 301.6, false}, {40, 40.5, true}, {40, 40.6, false}, {0, 0, true}} {
		if l := Balanced(c.annual, []float64{c.split}); l.Balanced != c.want {
			t.Errorf("%g of %g: balanced %v", c.split, c.annual, l.Balanced)
		}
	}
	if l := Balanced(10, nil); l.Balanced || l.Scale != 0 {
		t.Errorf("no splits: %+v", l)
	}
}
