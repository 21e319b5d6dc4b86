// Package finding holds what the program has to say about an input or a plan: a rule, how much it
// weighs, the sentence, and the remedies that can be applied with one press. Bad or contradictory
// input becomes a finding or an error, never a quiet number.
package finding

import "fmt"

// Weight orders findings. The words are those a reader sees.
type Weight string

const (
	Stops Weight = "stops"  // stops the plan: nothing after it can be trusted
	Mend  Weight = "mend"   // must be mended before it is carried out
	Watch Weight = "watch"  // watch
	Know  Weight = "inform" // good to know
)

// Rank is 0 for the heaviest weight and rises as the weight falls.
func (w Weight) Rank() int {
	switch w {
	case Stops:
		return 0
	case Mend:
		return 1
	case Watch:
		return 2
	}
	return 3
}

// Remedy is a command that answers a finding. Patch is an RFC 7396 merge patch on the block; where Record is set, what
// it says is recorded instead, and the plan's inputs stay as they are. Where Ask is set, the reader is asked that
// question and the answer goes in place of Answer.
type Remedy struct {
	Label string         `json:"label"`
	Patch map[string]any `json:"patch"`
	Ask   string         `json:"ask,omitempty"`
	// Record is kind, operation and day of a record to be written.
	Record map[string]any `json:"record,omitempty"`
}

// Answer stands in a remedy's patch where the reader's own words go.
const Answer = "?"

// Ref names the thing a finding is about. The zero Ref is the block, planting or estate itself.
type Ref struct {
	Kind string `json:"kind"` // pit, test, job …
	ID   string `json:"id"`
}

// Key is the rule with what it is about: a reason for leaving things as they are is kept under it, so that a reason given
// for one pit never silences another.
func (f Finding) Key() string {
	if f.About == nil {
		return f.Rule
	}
	return f.Rule + " " + f.About.Kind + ":" + f.About.ID
}

// Of makes the finding one about a thing of the block.
func (f Finding) Of(r Ref) Finding {
	f.About = &r
	return f
}

// Finding is one margin note.
type Finding struct {
	Rule     string   `json:"rule"` // stable name, e.g. "schedule.lead-time-passed"
	About    *Ref     `json:"about,omitempty"`
	Weight   Weight   `json:"weight"`  // how heavy
	Step     string   `json:"step"`    // the step of the descent it stands beside
	Subject  string   `json:"subject"` // what it is about
	Sentence string   `json:"sentence"`
	Source   string   `json:"source"` // where the rule is from
	Remedies []Remedy `json:"remedies"`
}

// FieldError is bad input: which field, what was given, the rule it breaks and what is accepted.
type FieldError struct {
	Field    string `json:"field"`
	Value    string `json:"value"`
	Rule     string `json:"rule"`
	Accepted string `json:"accepted"`
}

func (e *FieldError) Error() string {
	return fmt.Sprintf("%s = %s: %s; accepted: %s", e.Field, e.Value, e.Rule, e.Accepted)
}

// Bad builds a FieldError.
func Bad(field string, value any, rule, accepted string) *FieldError {
	return &FieldError{Field: field, Value: fmt.Sprint(value), Rule: rule, Accepted: accepted}
}
