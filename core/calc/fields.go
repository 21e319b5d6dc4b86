package calc

import (
	"slowroot/core/finding"
	"slowroot/core/working"
)

func numbers(name, unit, meaning string, lo, hi float64) Field {
	return Field{Name: name, Kind: Numbers, Unit: unit, Meaning: meaning, Min: lo, Max: hi}
}

// number and its fellows shorten the description of inputs and outputs.
func number(name, unit, meaning string, lo, hi float64) Field {
	return Field{Name: name, Kind: Number, Unit: unit, Meaning: meaning, Min: lo, Max: hi}
}

func whole(name, unit, meaning string, lo, hi float64) Field {
	return Field{Name: name, Kind: Integer, Unit: unit, Meaning: meaning, Min: lo, Max: hi}
}

func choice[T ~string](name, meaning string, options ...T) Field {
	f := Field{Name: name, Kind: Choice, Meaning: meaning}
	for _, o := range options {
		f.Options = append(f.Options, string(o))
	}
	return f
}

func out(name, unit, meaning string) Field {
	return Field{Name: name, Kind: Number, Unit: unit, Meaning: meaning}
}

func words(name, meaning string) Field { return Field{Name: name, Kind: Text, Meaning: meaning} }

func series(name, unit, meaning string) Field {
	return Field{Name: name, Kind: Numbers, Unit: unit, Meaning: meaning}
}

func (f Field) or(v any) Field { f.Default = v; return f }

func (f Field) maybe() Field { f.Optional = true; return f }

// show adds a line of working.
func (r *Result) show(figure, label, formula, sub string, v float64, unit, source string) {
	r.tell(working.Arithmetic, figure, label, formula, sub, v, unit, source)
}

// tell adds a step of any kind.
func (r *Result) tell(kind working.Kind, figure, label, formula, sub string, v float64, unit, source string) {
	r.Working = append(r.Working, working.Step{Figure: figure, Label: label, Kind: kind, Formula: formula, Substituted: sub, Value: v, Unit: unit, Source: source,
		Inputs: []working.Input{}})
}

// warn adds a finding.
func (r *Result) warn(rule, subject, sentence, source string) {
	r.Findings = append(r.Findings, finding.Finding{Rule: rule, Weight: finding.Watch, Subject: subject, Sentence: sentence, Source: source,
		Remedies: []finding.Remedy{}})
}
