// Package calc offers each published method on its own: named inputs with their units, ranges and
// defaults, outputs, and the working. The plan and the calculators call the same functions.
package calc

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/units"
	"slowroot/core/working"
)

// Kind is the type of an input or output.
type Kind string

const (
	Number  Kind = "number"
	Integer Kind = "integer"
	Choice  Kind = "choice"
	Rings   Kind = "rings"   // rings of [longitude, latitude], the outer one first
	Numbers Kind = "numbers" // a list of numbers, each within Min and Max
	Table   Kind = "table"   // a list of records with Columns
	Day     Kind = "day"     // a date written YYYY-MM-DD
	Text    Kind = "text"    // words, of an output
)

// Field describes an input or output. The unit is part of the name and said again in Unit.
type Field struct {
	Name     string   `json:"name"`
	Kind     Kind     `json:"kind"`
	Unit     string   `json:"unit"`
	Meaning  string   `json:"meaning"`
	Min      float64  `json:"min"`
	Max      float64  `json:"max"`
	Default  any      `json:"default,omitempty"` // none means the input must be given
	Options  []string `json:"options,omitempty"`
	Optional bool     `json:"optional,omitempty"`
	Columns  []Field  `json:"columns,omitempty"` // of a table
	// Quantity is what its unit is shown as in the reader's own units; empty where a unit is the same for everybody.
	Quantity units.Quantity `json:"quantity,omitempty"`
}

// shown are the quantities of units that readers measure in their own way. A unit has one here only where the
// quantity is stored in that very unit.
var shown = map[string]units.Quantity{"m": units.Spacing, "cm": units.Depth, "mm": units.Rain, "°C": units.Temp, "kg/ha": units.Rate, "kg": units.MassKg,
	"m/day": units.Seep, "mm/day": units.Drained, "m³": units.Earth, "m²": units.Area, "/ha": units.PerArea, "g/plant": units.PlantDose, "g": units.PlantDose,
	"mm/h": units.Flow, "m/s": units.Velocity}

// measured fills in the quantities of fields.
func measured(fields []Field) {
	for i := range fields {
		fields[i].Quantity = shown[fields[i].Unit]
		measured(fields[i].Columns)
	}
}

// Calculator is one method.
type Calculator struct {
	Name    string  `json:"name"`
	Title   string  `json:"title"`
	Subject string  `json:"subject"` // what it belongs to, as the bench groups it
	Purpose string  `json:"purpose"`
	Source  string  `json:"source"`
	Inputs  []Field `json:"inputs"`
	Outputs []Field `json:"outputs"`
	run     func(in values, r *Result) error
}

// Result is the answer of a calculator.
type Result struct {
	Outputs  map[string]any    `json:"outputs"`
	Working  []working.Step    `json:"working"`
	Findings []finding.Finding `json:"findings"`
}

// Registry is the calculators by name.
type Registry struct{ list []Calculator }

// All lists the calculators by name.
func (r *Registry) All() []Calculator { return r.list }

// Run computes one. An unknown name gives ok false; bad input gives a *finding.FieldError naming the
// field, its value, the rule and what is accepted.
func (r *Registry) Run(name string, inputs map[string]any) (res Result, ok bool, err error) {
	for _, c := range r.list {
		if c.Name != name {
			continue
		}
		in, err := c.read(inputs)
		if err != nil {
			return Result{}, true, err
		}
		res = Result{Outputs: map[string]any{}, Working: []working.Step{}, Findings: []finding.Finding{}}
		if err := c.run(in, &res); err != nil {
			return Result{}, true, c.named(err)
		}
		if out, bad := res.unbounded(); bad {
			return Result{}, true, finding.Bad("inputs", out, "these inputs together give no finite answer", "values nearer to the example's")
		}
		return res, true, nil
	}
	return Result{}, false, nil
}

// unbounded names an output that is no finite number.
func (r Result) unbounded() (string, bool) {
	none := func(x float64) bool { return math.IsNaN(x) || math.IsInf(x, 0) }
	for k, v := range r.Outputs {
		switch x := v.(type) {
		case float64:
			if none(x) {
				return k, true
			}
		case []float64:
			if slices.ContainsFunc(x, none) {
				return k, true
			}
		}
	}
	for _, s := range r.Working {
		if none(s.Value) {
			return s.Figure, true
		}
	}
	return "", false
}

// alias is what the subjects call a thing that calculators have as an input of another name.
var alias = map[string][]string{"h": {"hM"}, "q": {"qMDay"}, "k": {"kbMDay", "kMDay"}, "u": {"r0M", "uM"}, "depthM": {"layerM", "depthM"}, "esp": {"espPct"},
	"years":       {"years", "days"},
	"stripWidthM": {"stripM"}, "basePct": {"basePct"}, "calendar": {"months"}, "harmonics": {"harmonics"}, "densityFactor": {"densityFactor"},
	"rainMm": {"rainMm"}, "twinGapM": {"twinGapM"}}

// named makes a refusal name an input of the calculator: its own, one known under another name, or all of them.
func (c Calculator) named(err error) error {
	var fe *finding.FieldError
	if !errors.As(err, &fe) {
		return err
	}
	name := strings.TrimPrefix(fe.Field, "inputs.")
	base, _, _ := strings.Cut(name, "[")
	base, _, _ = strings.Cut(base, ".")
	has := func(n string) bool { return slices.ContainsFunc(c.Inputs, func(f Field) bool { return f.Name == n }) }
	if has(base) {
		return finding.Bad("inputs."+name, fe.Value, fe.Rule, fe.Accepted)
	}
	last := name[strings.LastIndex(name, ".")+1:]
	for _, n := range append([]string{last}, alias[last]...) {
		if has(n) {
			return finding.Bad("inputs."+n, fe.Value, fe.Rule, fe.Accepted)
		}
	}
	return finding.Bad("inputs", fe.Value, fe.Rule, fe.Accepted)
}

type values map[string]any

func (v values) num(name string) float64 { f, _ := v[name].(float64); return f }
func (v values) int(name string) int     { return int(v.num(name)) }
func (v values) str(name string) string  { s, _ := v[name].(string); return s }
func (v values) day(name string) civil.Date {
	d, _ := v[name].(civil.Date)
	return d
}
func (v values) list(name string) []float64 { l, _ := v[name].([]float64); return l }
func (v values) rows(name string) []values  { l, _ := v[name].([]values); return l }

// has reports an input that was given or has a default.
func (v values) has(name string) bool { _, ok := v[name]; return ok }

// ref is the number, or nil when it was left out.
func (v values) ref(name string) *float64 {
	if f, ok := v[name].(float64); ok {
		return &f
	}
	return nil
}

// or is the number, or NaN when it was left out.
func (v values) or(name string) float64 {
	if f, ok := v[name].(float64); ok {
		return f
	}
	return math.NaN()
}

// read checks inputs against the calculator's fields and fills in defaults.
func (c Calculator) read(inputs map[string]any) (values, error) {
	known := map[string]Field{}
	var names []string
	for _, f := range c.Inputs {
		known[f.Name] = f
		names = append(names, f.Name)
	}
	given := make([]string, 0, len(inputs))
	for k := range inputs {
		given = append(given, k)
	}
	sort.Strings(given)
	for _, k := range given {
		if _, ok := known[k]; !ok {
			return nil, finding.Bad("inputs."+k, inputs[k], "is not an input of "+c.Name, strings.Join(names, ", "))
		}
	}
	out := values{}
	for _, f := range c.Inputs {
		v, ok := inputs[f.Name]
		if !ok || v == nil {
			if f.Default == nil && !f.Optional {
				return nil, finding.Bad("inputs."+f.Name, "", "is missing: "+f.Meaning, f.accepted())
			}
			v = f.Default
			if v == nil {
				continue
			}
		}
		x, err := f.check(v)
		if err != nil {
			return nil, err
		}
		out[f.Name] = x
	}
	return out, nil
}

func (f Field) accepted() string {
	switch f.Kind {
	case Choice:
		return strings.Join(f.Options, ", ")
	case Rings:
		return "rings of [longitude, latitude] in degrees, the outer ring first"
	case Numbers:
		return fmt.Sprintf("a list of numbers, each %g to %g %s", f.Min, f.Max, f.Unit)
	case Table:
		names := make([]string, len(f.Columns))
		for i, c := range f.Columns {
			names[i] = c.Name
		}
		return "rows with " + strings.Join(names, ", ")
	case Day:
		return "a day written YYYY-MM-DD"
	}
	return fmt.Sprintf("%g to %g %s", f.Min, f.Max, f.Unit)
}

func (f Field) check(v any) (any, error) {
	bad := func(rule string) error { return finding.Bad("inputs."+f.Name, v, rule, f.accepted()) }
	switch f.Kind {
	case Number, Integer:
		var x float64
		switch n := v.(type) {
		case float64:
			x = n
		case int:
			x = float64(n)
		default:
			return nil, bad("is not a number")
		}
		if math.IsNaN(x) || x < f.Min || x > f.Max {
			return nil, bad("is outside its range")
		}
		if f.Kind == Integer && x != math.Trunc(x) {
			return nil, bad("is not a whole number")
		}
		return x, nil
	case Choice:
		s, ok := v.(string)
		for _, o := range f.Options {
			if ok && o == s {
				return s, nil
			}
		}
		return nil, bad("is not one of the ways offered")
	case Rings:
		return readRings(v, bad)
	case Day:
		s, ok := v.(string)
		d, err := civil.Parse(s)
		if !ok || err != nil || d.IsZero() {
			return nil, bad("is not a day")
		}
		return d, nil
	case Numbers:
		list, ok := v.([]any)
		if given, typed := v.([]float64); typed {
			return given, nil
		}
		if !ok || len(list) > MaxList {
			return nil, bad(fmt.Sprintf("is not a list of at most %d numbers", MaxList))
		}
		out := make([]float64, len(list))
		for i, e := range list {
			x, err := Field{Name: fmt.Sprintf("%s[%d]", f.Name, i), Kind: Number, Unit: f.Unit, Min: f.Min, Max: f.Max}.check(e)
			if err != nil {
				return nil, err
			}
			out[i] = x.(float64)
		}
		return out, nil
	case Table:
		return f.rows(v, bad)
	}
	return v, nil
}

// MaxList bounds a list of numbers or rows: a year of hours.
const MaxList = 8784

func (f Field) rows(v any, bad func(string) error) (any, error) {
	list, ok := v.([]any)
	if !ok || len(list) > MaxList {
		return nil, bad("is not a list of rows")
	}
	out := make([]values, len(list))
	for i, e := range list {
		given, ok := e.(map[string]any)
		if !ok {
			return nil, bad(fmt.Sprintf("row %d is not a record", i+1))
		}
		out[i] = values{}
		known := map[string]bool{}
		for _, c := range f.Columns {
			known[c.Name] = true
			x, ok := given[c.Name]
			if !ok || x == nil || x == "" {
				if c.Default == nil && !c.Optional {
					return nil, bad(fmt.Sprintf("row %d has no %s", i+1, c.Name))
				}
				if x = c.Default; x == nil {
					continue
				}
			}
			c.Name = fmt.Sprintf("%s[%d].%s", f.Name, i, c.Name)
			got, err := c.check(x)
			if err != nil {
				return nil, err
			}
			out[i][strings.TrimPrefix(c.Name, fmt.Sprintf("%s[%d].", f.Name, i))] = got
		}
		for k := range given {
			if !known[k] {
				return nil, bad(fmt.Sprintf("row %d holds %q, which is no column", i+1, k))
			}
		}
	}
	return out, nil
}
