// Package working holds the trace of a calculation: every figure the program shows can be
// asked for its steps, and each step says its formula, the numbers put into it, the result with
// its unit, where each input came from and the source of the rule.
//
// A nil *Trace is valid and records nothing, so that a computation costs nothing extra when no
// working is asked for: guard the building of a step with On.
package working

// Origin says where a number came from.
type Origin string

// The origins a number can have. The zero value means "not said" and is refused by the practice
// sheet validator.
const (
	Measured Origin = "measured" // surveyed, counted or weighed on this ground
	Chosen   Origin = "chosen"   // a person decided it
	Sheet    Origin = "sheet"    // read from the practice sheet
	Assumed  Origin = "assumed"  // a default nobody has confirmed
	Computed Origin = "computed" // follows from other figures
)

// Input is one number that went into a step.
type Input struct {
	Name   string  `json:"name"`
	Value  float64 `json:"value"`
	Unit   string  `json:"unit"`
	Shown  string  `json:"shown"` // in the reader's units
	Origin Origin  `json:"origin"`
	Source string  `json:"source,omitempty"`
	Figure string  `json:"figure,omitempty"` // path of the figure it is, when it has its own working
}

// Kind says what a step's substituted line is. The zero Kind is arithmetic: the numbers stand in the place of the
// formula's letters, and the line, reckoned out, is the value. A test reckons every such line.
type Kind string

const (
	Arithmetic Kind = ""       // reckon the line
	Search     Kind = "search" // the smallest or largest that answers a condition; the line lists what went in
	Count      Kind = "count"  // counted or measured on a drawing
	Lookup     Kind = "lookup" // read from a table, a list or a report
	Series     Kind = "series" // a sum or an integral over many terms, which the line describes
	Rule       Kind = "rule"   // a rule of the trade, a date or a word; no arithmetic
)

// Step is one line of working.
type Step struct {
	Figure      string  `json:"figure"`
	Label       string  `json:"label"`
	Kind        Kind    `json:"kind,omitempty"`
	Formula     string  `json:"formula"`
	Substituted string  `json:"substituted"`
	Value       float64 `json:"value"`
	Unit        string  `json:"unit"`
	Shown       string  `json:"shown"` // in the reader's units; formula and numbers stay in SI
	Inputs      []Input `json:"inputs"`
	Source      string  `json:"source"`
	Note        string  `json:"note,omitempty"` // the other schools' answer, or a caution
}

// Trace collects steps. With Want set, only the steps of that one figure are kept.
type Trace struct {
	Want  string
	Steps []Step
}

// On reports whether steps for figure should be built; it is false on a nil Trace.
func (t *Trace) On(figure string) bool {
	return t != nil && (t.Want == "" || t.Want == figure)
}

// Add appends s when its figure is wanted. Adding to a nil Trace does nothing.
func (t *Trace) Add(s Step) {
	if t.On(s.Figure) {
		if s.Inputs == nil {
			s.Inputs = []Input{}
		}
		t.Steps = append(t.Steps, s)
	}
}
