package plan

import (
	"fmt"
	"math"
	"reflect"
	"sync"

	"slowroot/core/finding"
)

// finite makes sure that no number of the plan is not finite. A figure that came out as none says that it cannot be
// computed; every other such number is left at nought; and a finding of the part it belongs to says that this happened,
// so that the rest of the plan stands and nobody reads the nought as a fact.
func (c *computation) finite() {
	p := c.p
	spoilt := map[string]bool{}
	for i := range c.Figures {
		f := &c.Figures[i]
		if bad(f.Value) || bad(f.Low) || bad(f.High) {
			f.Value, f.Low, f.High, f.Ranged, f.Text = 0, 0, 0, false, "cannot be computed"
			spoilt[f.Label] = true
			c.uncomputed(f.Step, f.Label)
		}
	}
	for _, part := range []struct {
		step, what string
		of         any
	}{{"ground", "The ground", &p.Ground}, {"soil", "The soil", &p.Soil}, {"soil", "What the soil is given", &p.Works}, {"drains", "The drains", p.Drains},
		{"prepare", "The preparation", &p.Preparation},
		{"plants", "What the work takes", &p.Supplies}, {"rows", "The rows", &p.Rows}, {"rows", "The spacing", &p.Spec}, {"yield", "The years", &p.Years}} {
		if zeroBad(reflect.ValueOf(part.of)) && !spoilt[part.what] {
			c.uncomputed(part.step, part.what)
		}
	}
}

func (c *computation) uncomputed(step, what string) {
	c.Findings = append(c.Findings, finding.Finding{Rule: "plan.not-finite." + step + "." + what, Weight: finding.Mend, Step: step, Subject: what,
		Remedies: []finding.Remedy{}, Source: "the program",
		Sentence: fmt.Sprintf("%s cannot be computed from what is entered: a number came out that is none. The rest of the plan stands; look at what was "+
			"entered last here.", what)})
}

func bad(v float64) bool { return math.IsNaN(v) || math.IsInf(v, 0) }

// fields are the exported fields of each structure seen so far that may hold a number with a fraction.
var fields sync.Map // reflect.Type → []int

func numbered(t reflect.Type) []int {
	if at, ok := fields.Load(t); ok {
		return at.([]int)
	}
	at := []int{}
	for i := range t.NumField() {
		if f := t.Field(i); f.IsExported() && mayHold(f.Type, map[reflect.Type]bool{}) {
			at = append(at, i)
		}
	}
	fields.Store(t, at)
	return at
}

// mayHold reports whether a value of a type can lead to a number with a fraction.
func mayHold(t reflect.Type, seen map[reflect.Type]bool) bool {
	if seen[t] {
		return false
	}
	seen[t] = true
	switch t.Kind() {
	case reflect.Float64, reflect.Interface:
		return true
	case reflect.Pointer, reflect.Slice, reflect.Array, reflect.Map:
		return mayHold(t.Elem(), seen)
	case reflect.Struct:
		for i := range t.NumField() {
			if t.Field(i).IsExported() && mayHold(t.Field(i).Type, seen) {
				return true
			}
		}
	}
	return false
}

// zeroBad sets numbers that are none to nought, through structures, lists and maps, and reports whether it found any.
func zeroBad(v reflect.Value) (found bool) {
	switch v.Kind() {
	case reflect.Float64:
		if bad(v.Float()) {
			if v.CanSet() {
				v.SetFloat(0)
			}
			return true
		}
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			return zeroBad(v.Elem())
		}
	case reflect.Struct:
		for _, i := range numbered(v.Type()) {
			if zeroBad(v.Field(i)) {
				found = true
			}
		}
	case reflect.Slice, reflect.Array:
		if k := v.Type().Elem().Kind(); k == reflect.String || k == reflect.Int || k == reflect.Uint8 || k == reflect.Bool {
			return false
		}
		for i := range v.Len() {
			if zeroBad(v.Index(i)) {
				found = true
			}
		}
	case reflect.Map:
		if v.Type().Elem().Kind() != reflect.Float64 {
			return false
		}
		for _, k := range v.MapKeys() {
			if bad(v.MapIndex(k).Float()) {
				v.SetMapIndex(k, reflect.ValueOf(0.0))
				found = true
			}
		}
	}
	return found
}
