package practice

import (
	"reflect"

	"go.yaml.in/yaml/v3"

	"slowroot/core/units"
)

// In is the sheet with the quantities of its texts in a reader's units. A sheet as it is loaded speaks metric.
func (s *Sheet) In(sys units.System) *Sheet {
	if sys == units.Metric || len(s.text) == 0 {
		return s
	}
	var out Sheet
	if err := yaml.Unmarshal(s.text, &out); err != nil {
		return s // it was read once
	}
	out.finish(s.text, sys)
	return &out
}

// In is the library with its texts in a reader's units.
func (l *Library) In(sys units.System) *Library {
	if sys == units.Metric {
		return l
	}
	l.once.Do(func() {
		l.us = &Library{sheets: make(map[string]*Sheet, len(l.sheets))}
		for id, s := range l.sheets {
			l.us.sheets[id] = s.In(units.US)
		}
	})
	return l.us
}

// showAs puts every marked quantity of a value's texts into a reader's units, in place.
func showAs(v reflect.Value, sys units.System) {
	switch v.Kind() {
	case reflect.String:
		if v.CanSet() {
			v.SetString(units.Marked(v.String(), sys))
		}
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			showAs(v.Elem(), sys)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().Field(i).IsExported() {
				showAs(v.Field(i), sys)
			}
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			showAs(v.Index(i), sys)
		}
	}
}
