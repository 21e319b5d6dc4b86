// Package calc offers each published method on its own: named inputs with their units, ranges and
// defaults, outputs, and the working. The plan and the calculators call the same functions.
package calc

import (
	"fmt"
	"math"
	"sort"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/working"
)

// Kind is the type of an input or output.
type Kind string

const (
	Number  Kind = "number"
	Integer Kind = "integer"
	Choice  Kind = "choice"
	Rings   Kind = "rings" // rings of [longitude, latitude], the outer one first
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
}

// Calculator is one method.
type Calculator struct {
	Name    string  `json:"name"`
	Title   string  `json:"title"`
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
			return Result{}, true, err
		}
		return res, true, nil
	}
	return Result{}, false, nil
}

type values map[string]any

func (v values) num(name string) float64 { f, _ := v[name].(float64); return f }
func (v values) int(name string) int     { return int(v.num(name)) }
func (v values) str(name string) string  { s, _ := v[name].(string); return s }

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
	}
	return v, nil
}
