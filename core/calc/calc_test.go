package calc

import (
	"errors"
	"math"
	"strings"
	"testing"

	"slowroot/core/finding"
	"slowroot/core/practice"
)

func registry(t *testing.T) *Registry {
	t.Helper()
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	return New(l)
}

// Published and computed check values of the methods each calculator stands for.
func TestCalculators(t *testing.T) {
	r := registry(t)
	square := []any{[]any{[]any{10.0, 45.0}, []any{10.003, 45.0}, []any{10.003, 45.0012}, []any{10.0015, 45.0012}, []any{10.0015, 45.002}, []any{10.0, 45.002}}}
	for _, c := range []struct {
		source, name, out string
		in                map[string]any
		want              float64
	}{
		{"LAY-1 quoted density 4 × 12 ft", "planting-density", "stationsPerHa", map[string]any{"rowSpacingM": 3.6576, "plantSpacingM": 1.2192}, 2242.5},
		{"LAY-1 triangle 3 m", "planting-density", "stationsPerHa", map[string]any{"pattern": "triangle", "plantSpacingM": 3.0}, 1283.0},
		{"LAY-1 pots 3/m, rows 2.2 m, 2 plants", "planting-density", "plantsPerHa", map[string]any{"rowSpacingM": 2.2, "plantSpacingM": 1.0 / 3, "plantsPerStation": 2.0}, 27273},
		{"willow sheet, printed", "planting-density", "stationsPerHa", map[string]any{"pattern": "twin", "rowSpacingM": 2.25, "plantSpacingM": 0.59}, 15066},
		{"LAY-9 K 1000 p 0.85", "plants-to-order", "mainPlants", map[string]any{"stations": 1000.0, "survival": 0.85}, 1201},
		{"LAY-9 K 100 p 0.90 apart", "plants-to-order", "pollinizerPlants", map[string]any{"stations": 1100.0, "pollinizerStations": 100.0, "survival": 0.90}, 117},
		{"LAY-2 P1", "polygon-area", "areaM2", map[string]any{"rings": square}, 42058.72},
		{"persimmon sheet, year 6 of 667/ha: 0.5 of 30 t less losses", "yield-by-age", "fractionOfFull", map[string]any{"sheet": "persimmon", "ageYear": 6.0}, 0.5},
		{"willow sheet, first harvest 18 odt/ha", "yield-by-age", "baseKgPerHa", map[string]any{"sheet": "willow", "ageYear": 4.0}, 18000},
	} {
		res, ok, err := r.Run(c.name, c.in)
		if !ok || err != nil {
			t.Errorf("%s: %v", c.source, err)
			continue
		}
		got, isNum := res.Outputs[c.out].(float64)
		if n, isInt := res.Outputs[c.out].(int); isInt {
			got, isNum = float64(n), true
		}
		if !isNum || math.Abs(got-c.want) > 1e-3*c.want {
			t.Errorf("%s: %v, want %g", c.source, res.Outputs[c.out], c.want)
		}
		if len(res.Working) == 0 {
			t.Errorf("%s shows no working", c.name)
		}
	}
	// every output named in the list is given
	for _, c := range r.All() {
		in := map[string]any{"rings": square, "stations": 10.0, "sheet": "tea"}
		for k := range in {
			found := false
			for _, f := range c.Inputs {
				found = found || f.Name == k
			}
			if !found {
				delete(in, k)
			}
		}
		res, _, err := r.Run(c.Name, in)
		if err != nil {
			t.Fatal(err)
		}
		for _, o := range c.Outputs {
			if _, ok := res.Outputs[o.Name]; !ok {
				t.Errorf("%s never gives %s", c.Name, o.Name)
			}
		}
	}
}

func TestRefusedInputs(t *testing.T) {
	r := registry(t)
	for _, c := range []struct {
		name, field, say string
		in               map[string]any
	}{
		{"planting-density", "inputs.plantSpacingM", "outside", map[string]any{"plantSpacingM": 0.0}},
		{"planting-density", "inputs.pattern", "not one of", map[string]any{"pattern": "spiral"}},
		{"planting-density", "inputs.twinGapM", "smaller", map[string]any{"pattern": "twin", "rowSpacingM": 0.5}},
		{"planting-density", "inputs.rowSpacing", "not an input", map[string]any{"rowSpacing": 3.0}},
		{"plants-to-order", "inputs.stations", "missing", nil},
		{"plants-to-order", "inputs.stations", "whole", map[string]any{"stations": 1.5}},
		{"plants-to-order", "inputs.stations", "not a number", map[string]any{"stations": "many"}},
		{"plants-to-order", "inputs.pollinizerStations", "more than", map[string]any{"stations": 5.0, "pollinizerStations": 6.0}},
		{"polygon-area", "inputs.rings", "list of rings", map[string]any{"rings": "here"}},
		{"polygon-area", "inputs.rings", "point 2", map[string]any{"rings": []any{[]any{[]any{10.0, 45.0}, []any{10.0}}}}},
		{"polygon-area", "inputs.rings", "swapped", map[string]any{"rings": []any{[]any{[]any{-38.0, 175.0}, []any{-38.1, 175.0}, []any{-38.1, 175.1}}}}},
		{"yield-by-age", "inputs.ageYear", "beyond", map[string]any{"sheet": "willow", "ageYear": 40.0}},
		{"yield-by-age", "inputs.sheet", "missing", nil},
	} {
		_, ok, err := r.Run(c.name, c.in)
		var fe *finding.FieldError
		if !ok || !errors.As(err, &fe) || fe.Field != c.field || !strings.Contains(fe.Rule, c.say) || fe.Accepted == "" {
			t.Errorf("%s %v: %v", c.name, c.in, err)
		}
	}
	if _, ok, _ := r.Run("fortune-telling", nil); ok {
		t.Error("an unknown calculator answered")
	}
}
