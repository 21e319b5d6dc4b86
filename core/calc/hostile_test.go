package calc

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"slowroot/core/finding"
)

// The ends of every range and thousands of values between, alone and together: every answer is finite and no quantity
// comes out below nought, every refusal names an input of the calculator and says what is accepted.
func TestHostileInputs(t *testing.T) {
	r := registry(t)
	rnd := rand.New(rand.NewPCG(3, 14))
	below := map[string]bool{"lost": true, "diff": true, "diffPct": true, "intoKg": true, "tC": true, "value": true, "elevationDeg": true, "declinationDeg": true, "azimuthDeg": true, "equationMin": true, "mean": true,
		"hours": true, "score": true, "atOriginM": true, "fallXPct": true,
		"fallYPct": true, "rn": true, "steepestPct": true, "cutsM": true, "trenchM3": true, "espFromSarPct": true, "utah": true, "factor": true, "hourly": true,
		"year": true, "normalDay": true, "empiricalDay": true, "off": true, "offDays": true, "movedDays": true}
	runs, answers, failed := 0, 0, ""
	for _, c := range r.All() {
		n := 400
		if c.Name == "drain-network" { // designs a field each time
			n = 40
		}
		for range n {
			if t.Failed() && failed == c.Name {
				break
			}
			in := map[string]any{}
			for _, f := range c.Inputs {
				if v, ok := draw(f, rnd); ok {
					in[f.Name] = v
				}
			}
			runs++
			res, _, err := r.Run(c.Name, in)
			var fe *finding.FieldError
			switch {
			case err == nil:
				answers++
				for k, v := range res.Outputs {
					for _, x := range numbersOf(v) {
						if math.IsNaN(x) || math.IsInf(x, 0) || x < -1e-9 && !below[k] {
							failed = c.Name
							t.Errorf("%s %v gives %s = %v", c.Name, in, k, v)
						}
					}
				}
			case !errors.As(err, &fe):
				failed = c.Name
				t.Errorf("%s %v: an error of another kind: %v", c.Name, in, err)
			default:
				name, _, _ := strings.Cut(strings.TrimPrefix(fe.Field, "inputs."), "[")
				name, _, _ = strings.Cut(name, ".")
				if fe.Field != "inputs" && !slices.ContainsFunc(c.Inputs, func(f Field) bool { return f.Name == name }) || fe.Rule == "" || fe.Accepted == "" {
					failed = c.Name
					t.Errorf("%s %v: refused by %q, which is no input: %v", c.Name, in, fe.Field, err)
				}
			}
		}
	}
	if runs < 15000 || answers < runs/4 {
		t.Errorf("%d answers of %d", answers, runs)
	}
}

func numbersOf(v any) []float64 {
	switch x := v.(type) {
	case float64:
		return []float64{x}
	case int:
		return []float64{float64(x)}
	case []float64:
		return x
	}
	return nil
}

// draw is a value of a field: its default, an end of its range or something between.
func draw(f Field, rnd *rand.Rand) (any, bool) {
	if f.Optional && rnd.IntN(2) == 0 {
		return nil, false
	}
	if f.Default != nil && rnd.IntN(3) == 0 {
		return f.Default, true
	}
	switch f.Kind {
	case Number, Integer:
		x := f.Min + (f.Max-f.Min)*rnd.Float64()
		switch rnd.IntN(5) {
		case 0:
			x = f.Min
		case 1:
			x = f.Max
		case 2:
			x = f.Min + (f.Max-f.Min)*math.Pow(rnd.Float64(), 4)
		}
		if f.Kind == Integer {
			x = math.Floor(x)
		}
		return x, true
	case Choice:
		return f.Options[rnd.IntN(len(f.Options))], true
	case Day:
		return fmt.Sprintf("%d-%02d-%02d", 1700+rnd.IntN(800), 1+rnd.IntN(12), 1+rnd.IntN(28)), true
	case Numbers:
		list := make([]any, rnd.IntN(20))
		for i := range list {
			list[i] = f.Min + (f.Max-f.Min)*rnd.Float64()
		}
		return list, true
	case Rings:
		return []any{[]any{[]any{172.0, -38.0}, []any{172.002, -38.0}, []any{172.002, -37.999}, []any{172.0, -37.999}}}, true
	case Table:
		list := make([]any, rnd.IntN(6))
		for i := range list {
			row := map[string]any{}
			for _, c := range f.Columns {
				if v, ok := draw(c, rnd); ok {
					row[c.Name] = v
				}
			}
			list[i] = row
		}
		return list, true
	}
	return nil, false
}

// What the second look found accepted in silence is refused, or said.
func TestNoNonsenseIsAccepted(t *testing.T) {
	r := registry(t)
	for _, c := range []struct {
		name, field, say string
		in               map[string]any
	}{
		{"auger-hole", "inputs.meanCm", "above the first", map[string]any{"meanCm": 90.0, "firstCm": 40.0}},
		{"auger-hole", "inputs.firstCm", "below the bottom", map[string]any{"depthCm": 35.0, "meanCm": 36.0, "firstCm": 40.0}},
		{"ridge-and-furrow", "inputs.furrowM", "sides meet", map[string]any{"furrowM": 0.2, "depthM": 0.5, "side": 1.0}},
		{"reference-evapotranspiration", "inputs.rhMinPct", "above the highest", map[string]any{"rhMaxPct": 40.0, "rhMinPct": 80.0}},
		{"reference-evapotranspiration", "inputs.solarMJ", "more sun", map[string]any{"solarMJ": 55.0}},
		{"reference-evapotranspiration", "inputs.vapourKPa", "more vapour", map[string]any{"vapourKPa": 5.0}},
		{"reference-evapotranspiration", "inputs.dewC", "more vapour", map[string]any{"dewC": 40.0}},
		{"drain-spacing", "inputs.kbMDay", "less than a metre", map[string]any{"kbMDay": 0.0001, "kaMDay": 0.0001}},
		{"drain-spacing", "inputs.kbMDay", "drains itself", map[string]any{"kbMDay": 50.0, "kaMDay": 50.0, "thickM": 20.0, "qMDay": 0.0001}},
		{"drain-spacing-two-layers", "inputs.uM", "negative", map[string]any{"uM": 3.0, "drM": 0.05, "kRatio": 0.01}},
		{"lime-requirement", "inputs.cec", "mmolc", map[string]any{"cec": 67.0, "basePct": 20.0}},
		{"liming-product", "inputs.caoPct", "more than the whole", map[string]any{"caoPct": 60.0, "mgoPct": 50.0}},
		{"liming-product", "inputs", "dissolve", map[string]any{"over2Mm": 100.0, "to084Mm": 0.0, "to030Mm": 0.0, "below030Mm": 0.0}},
		{"long-section", "inputs.outletM", "above the ground", map[string]any{"outletM": 102.0}},
		{"levelling", "inputs.levels", "plane", map[string]any{"levels": []any{map[string]any{"xM": 0.0, "yM": 0.0, "zM": 1.0}, map[string]any{"xM": 10.0, "yM": 0.0,
			"zM": 1.0}, map[string]any{"xM": 0.0, "yM": 10.0, "zM": 1.0}, map[string]any{"xM": 10.0, "yM": 10.0, "zM": 1.0}}}},
		{"drain-quantities", "inputs.boxWidthM", "wider than its trench", map[string]any{"boxWidthM": 0.9}},
		{"design-storm", "inputs.years", "less than no rain", map[string]any{"years": 1.01, "maxima": []any{1.0, 60.0, 80.0, 100.0, 190.0}}},
		{"waiting-time", "inputs.today", "not a day", map[string]any{"today": ""}},
		{"waiting-time", "inputs.today", "not a day", map[string]any{"today": true}},
		{"season-word", "inputs.day", "not a day", map[string]any{"day": 20270101.0}},
		{"frost-dates", "inputs.years", "fewer than", map[string]any{"years": 10.0}},
	} {
		_, _, err := r.Run(c.name, c.in)
		var fe *finding.FieldError
		if !errors.As(err, &fe) || !strings.HasPrefix(fe.Field, c.field) || !strings.Contains(fe.Error(), c.say) {
			t.Errorf("%s %v: %v, want %s … %q", c.name, c.in, err, c.field, c.say)
		}
	}
	res, _, err := r.Run("rainy-season", map[string]any{"rain": []any{0.0, 0.0, 0.0, 1.0, 0.0}})
	if err != nil || res.Outputs["onset"] != nil || res.Outputs["end"] != nil {
		t.Errorf("rains that never begin: %v %v", res.Outputs, err)
	}
	res, _, err = r.Run("frost-dates", map[string]any{"years": 200.0})
	if err != nil || res.Outputs["day"] != nil || len(res.Findings) == 0 {
		t.Errorf("frost rarer than the risk: %v %v", res.Outputs, err)
	}
	res, _, err = r.Run("plants-to-order", map[string]any{"stations": 1345.0, "plantsPerStation": 2.0, "survival": 0.8, "want": "every hole"})
	if err != nil || res.Outputs["mainPlants"] != 2822 || math.Abs(res.Outputs["gapShare"].(float64)-0.04) > 1e-9 {
		t.Errorf("a living cutting in every hole: %v %v", res.Outputs, err)
	}
	for _, c := range []map[string]any{{"sandPct": 97.0, "siltPct": 2.0, "clayPct": 1.0, "omPct": 0.2}, {"sandPct": 95.0, "siltPct": 5.0, "clayPct": 0.0,
		"omPct": 0.0}, {"omPct": 20.0}} {
		if res, _, err := r.Run("soil-water", c); err != nil || !(res.Outputs["availableWater"].(float64) > 0) || !(res.Outputs["densityGCm3"].(float64) > 0.2) ||
			len(res.Findings) == 0 {
			t.Errorf("%v: %v %v", c, res.Outputs, err)
		}
	}
}
