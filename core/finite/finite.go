// Package finite finds numbers that are none in any structure and sets them to nought.
package finite

import (
	"math"
	"reflect"
	"sync"
)

// Bad reports a number that is none: not a number, or without an end.
func Bad(v float64) bool { return math.IsNaN(v) || math.IsInf(v, 0) }

// Zero sets the numbers that are none to nought, through structures, lists and maps of what of points to, and reports
// whether it found any.
func Zero(of any) bool { return zero(reflect.ValueOf(of)) }

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

func zero(v reflect.Value) (found bool) {
	switch v.Kind() {
	case reflect.Float64:
		if Bad(v.Float()) {
			if v.CanSet() {
				v.SetFloat(0)
			}
			return true
		}
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			return zero(v.Elem())
		}
	case reflect.Struct:
		for _, i := range numbered(v.Type()) {
			if zero(v.Field(i)) {
				found = true
			}
		}
	case reflect.Slice, reflect.Array:
		if k := v.Type().Elem().Kind(); k == reflect.String || k == reflect.Int || k == reflect.Uint8 || k == reflect.Bool {
			return false
		}
		for i := range v.Len() {
			if zero(v.Index(i)) {
				found = true
			}
		}
	case reflect.Map:
		if v.Type().Elem().Kind() != reflect.Float64 {
			return false
		}
		for _, k := range v.MapKeys() {
			if Bad(v.MapIndex(k).Float()) {
				v.SetMapIndex(k, reflect.ValueOf(0.0))
				found = true
			}
		}
	}
	return found
}
