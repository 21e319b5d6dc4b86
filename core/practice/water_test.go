package practice

import (
	"math"
	"strings"
	"testing"
)

// Crop coefficients in the first weeks, in mid-season and at the end (Table 12) and the deepest roots and the share that may
// be taken (Table 22) of Allen, Pereira, Raes & Smith, Crop evapotranspiration, FAO Irrigation and Drainage Paper 56, 1998.
var fao56 = map[string]struct {
	kc, root [2][]float64 // bare ground or the only row; then with cover, weeds or shade
	p        [2]float64
}{
	"apple":      {kc: [2][]float64{{0.45, 0.95, 0.70}, {0.50, 1.20, 0.95}}, root: [2][]float64{{1, 2}, {1, 2}}, p: [2]float64{0.50, 0.50}},
	"pear":       {kc: [2][]float64{{0.45, 0.95, 0.70}, {0.50, 1.20, 0.95}}, root: [2][]float64{{1, 2}, {1, 2}}, p: [2]float64{0.50, 0.50}},
	"peach":      {kc: [2][]float64{{0.45, 0.90, 0.65}, {0.50, 1.15, 0.90}}, root: [2][]float64{{1, 2}, {1, 2}}, p: [2]float64{0.50, 0.50}},
	"citrus":     {kc: [2][]float64{{0.70, 0.65, 0.70}, {0.75, 0.70, 0.75}}, root: [2][]float64{{1.2, 1.5}, {1.2, 1.5}}, p: [2]float64{0.50, 0.50}},
	"avocado":    {kc: [2][]float64{{0.60, 0.85, 0.75}}, root: [2][]float64{{0.5, 1}}, p: [2]float64{0.70}},
	"blueberry":  {kc: [2][]float64{{0.30, 1.05, 0.50}}, root: [2][]float64{{0.6, 1.2}}, p: [2]float64{0.50}},
	"elderberry": {kc: [2][]float64{{0.30, 1.05, 0.50}}, root: [2][]float64{{0.6, 1.2}}, p: [2]float64{0.50}},
	"blackberry": {kc: [2][]float64{{0.30, 1.05, 0.50}}, root: [2][]float64{{0.6, 1.2}}, p: [2]float64{0.50}},
	"strawberry": {kc: [2][]float64{{0.40, 0.85, 0.75}}, root: [2][]float64{{0.2, 0.3}}, p: [2]float64{0.20}},
	"tea":        {kc: [2][]float64{{0.95, 1.00, 1.00}, {1.10, 1.15, 1.15}}, root: [2][]float64{{0.9, 1.5}, {0.9, 1.5}}, p: [2]float64{0.40, 0.45}},
	"coffee":     {kc: [2][]float64{{0.90, 0.95, 0.95}, {1.05, 1.10, 1.10}}, root: [2][]float64{{0.9, 1.5}, {0.9, 1.5}}, p: [2]float64{0.40, 0.40}},
	"banana":     {kc: [2][]float64{{1.00, 1.20, 1.10}, {0.50, 1.10, 1.00}}, root: [2][]float64{{0.5, 0.9}, {0.5, 0.9}}, p: [2]float64{0.35, 0.35}},
	"pineapple":  {kc: [2][]float64{{0.50, 0.30, 0.30}, {0.50, 0.50, 0.50}}, root: [2][]float64{{0.3, 0.6}, {0.3, 0.6}}, p: [2]float64{0.50, 0.50}},
}

// heldTighter are crops whose practice waters before the published share is taken, and says so.
var heldTighter = map[string]bool{"avocado": true, "blueberry": true}

// Every crop says what it uses; what claims to be published is the published table's, and working roots never lie deeper
// than the deepest it lists. Crops the table does not list never claim it.
func TestWaterOfEveryCrop(t *testing.T) {
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	published := 0
	for _, s := range l.All() {
		if s.WaterOf(s.Resolve(nil)) == nil {
			t.Errorf("%s does not say what a grown stand uses", s.ID)
		}
		for i, w := range s.Water {
			claims := strings.HasPrefix(w.Origin, "pub: FAO Irrigation and Drainage Paper 56")
			row, listed := fao56[s.ID]
			if !claims {
				if listed || w.TableM[1] != 0 {
					t.Errorf("%s, %s: the table lists it and the sheet does not say so", s.ID, w.Name)
				}
				continue
			}
			if !listed || i > 1 || row.kc[i] == nil {
				t.Errorf("%s, %s claims a table that does not list it", s.ID, w.Name)
				continue
			}
			published++
			for k := range w.Kc {
				if math.Abs(w.Kc[k]-row.kc[i][k]) > 1e-9 {
					t.Errorf("%s, %s: coefficients %v, the table says %v", s.ID, w.Name, w.Kc, row.kc[i])
				}
			}
			if w.TableM[0] != row.root[i][0] || w.TableM[1] != row.root[i][1] || w.RootM[1] > w.TableM[1] {
				t.Errorf("%s, %s: working roots %v, deepest %v, the table says %v", s.ID, w.Name, w.RootM, w.TableM, row.root[i])
			}
			own := w.RootM != w.TableM || w.Depletion != row.p[i] // practice, and not the table
			if own != (w.RootOrigin != "") {
				t.Errorf("%s, %s: roots %v and %g are the table's, or say where they are from", s.ID, w.Name, w.RootM, w.Depletion)
			}
			if w.Depletion > row.p[i] || w.Depletion < row.p[i] && !heldTighter[s.ID] {
				t.Errorf("%s, %s: %g may be taken, the table says %g", s.ID, w.Name, w.Depletion, row.p[i])
			}
		}
	}
	if published != 21 {
		t.Errorf("%d stands of the published table", published)
	}
}
