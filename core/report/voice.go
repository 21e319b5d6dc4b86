// Package report is the one voice through which every part of a plan speaks: figures with their working, findings with
// their remedies, lines of a bill, pieces of work, and forks. What it says is rendered once, in the reader's units, so
// that screen, print and files agree.
package report

import (
	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/units"
	"slowroot/core/working"
)

// Voice gathers what the parts of one plan say. The zero Voice speaks metric, traces nothing and knows no price.
type Voice struct {
	Units    units.System
	Trace    *working.Trace // nil records no working
	Today    civil.Date
	Currency string
	// Price is what one unit of a thing costs today; ok is false where nobody has said.
	Price func(item string) (each float64, ok bool)
	// Kept are the reasons people gave for leaving things as they are, by the key of the finding; KeptIn is the path of
	// that map in a patch of the block.
	Kept   map[string]string
	KeptIn []string

	// Memory keeps the parts of plans that are slow to work out; nil remembers nothing.
	Memory Memory

	Figures  []Figure
	Findings []finding.Finding
}

// Memory keeps what a part made of its input, by a key that names the whole of the input. make says with false that
// what it made is not to be kept. What is kept is shared and never written to.
type Memory interface {
	Recall(key string, make func() (made any, keep bool)) any
}

// Figure is a number a reader can press: Path asks for its working.
type Figure struct {
	Path     string         `json:"path"`
	Step     string         `json:"step"`
	Label    string         `json:"label"`
	Quantity units.Quantity `json:"quantity"`
	Value    float64        `json:"value"`
	Low      float64        `json:"low"`
	High     float64        `json:"high"`
	Ranged   bool           `json:"ranged"`
	Text     string         `json:"text,omitempty"` // instead of the number, for a date or "never"
	Note     string         `json:"note"`
	Origin   working.Origin `json:"origin"`
}

// Figure adds a figure to what is said.
func (v *Voice) Figure(f Figure) { v.Figures = append(v.Figures, f) }

// Said finds a figure by its path.
func (v *Voice) Said(path string) (Figure, bool) {
	for _, f := range v.Figures {
		if f.Path == path {
			return f, true
		}
	}
	return Figure{}, false
}

// On tells whether somebody asked for the working of a figure.
func (v *Voice) On(figure string) bool { return v.Trace.On(figure) }

// Num is one input of a step of working.
func (v *Voice) Num(name string, x float64, q units.Quantity, o working.Origin, source, figure string) working.Input {
	return working.Input{Name: name, Value: x, Unit: units.Table[q].SI, Shown: v.Text(x, q), Origin: o, Source: source, Figure: figure}
}

// Step is a step of arithmetic: sub, reckoned out, is x in the SI unit of its quantity.
func (v *Voice) Step(path, label, formula, sub string, x float64, q units.Quantity, source string, in ...working.Input) {
	v.Tell(working.Arithmetic, path, label, formula, sub, x, q, source, in...)
}

// Tell is a step of any kind.
func (v *Voice) Tell(kind working.Kind, path, label, formula, sub string, x float64, q units.Quantity, source string, in ...working.Input) {
	v.Trace.Add(working.Step{Figure: path, Label: label, Kind: kind, Formula: formula, Substituted: sub, Value: x,
		Unit: units.Table[q].SI, Shown: v.Text(x, q), Inputs: in, Source: source})
}

// Text is a quantity in the reader's units.
func (v *Voice) Text(x float64, q units.Quantity) string { return units.Text(x, q, v.Units) }

// Marked puts the marked quantities of a text into the reader's units.
func (v *Voice) Marked(text string) string { return units.Marked(text, v.Units) }

// Length is a height or distance of some metres in the reader's units.
func (v *Voice) Length(m float64) string {
	if m >= 100 {
		return v.Text(m, units.Distance)
	}
	return v.Text(m, units.Height)
}

// Money is an amount in the estate's currency.
func (v *Voice) Money(x float64) string {
	cur := v.Currency
	if cur == "" {
		cur = "money"
	}
	return cur + " " + units.Number(x, units.Count, v.Units)
}

// PriceOf is what one unit of a thing costs today; ok is false where nobody has said: no price, not nought.
func (v *Voice) PriceOf(item string) (each float64, ok bool) {
	if v.Price == nil {
		return 0, false
	}
	return v.Price(item)
}

// renamed are rules by the name a reason may be kept under since before.
var renamed = map[string]string{"drain.roots": "drain.willow"}

// Note adds a finding. One a person has chosen to keep stays, as good to know, with the reason.
func (v *Voice) Note(f finding.Finding) {
	if f.Remedies == nil {
		f.Remedies = []finding.Remedy{}
	}
	if f.Weight != finding.Know {
		why, ok := v.Kept[f.Key()]
		if was := renamed[f.Rule]; !ok && was != "" {
			why, ok = v.Kept[was]
		}
		if ok {
			f.Weight = finding.Know
			f.Sentence += " Kept as it is: " + why
			f.Remedies = []finding.Remedy{{Label: "Take that back", Patch: v.keep(f, nil)}}
		} else if f.Weight != finding.Stops {
			f.Remedies = append(f.Remedies, finding.Remedy{Label: "Keep, note why", Ask: "Why is it kept as it is?", Patch: v.keep(f, finding.Answer)})
		}
	}
	v.Findings = append(v.Findings, f)
}

// keep is the patch that writes the reason kept for a finding, or takes it back.
func (v *Voice) keep(f finding.Finding, why any) map[string]any {
	patch := map[string]any{f.Key(): why}
	for i := len(v.KeptIn) - 1; i >= 0; i-- {
		patch = map[string]any{v.KeptIn[i]: patch}
	}
	return patch
}
