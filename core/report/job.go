package report

import (
	"encoding/json"

	"slowroot/core/civil"
)

// Said is the prose of a piece of work: the same each time it comes.
type Said struct {
	Name        string `json:"name"`
	Phase       string `json:"phase"`
	Why         string `json:"why"`
	Caution     string `json:"caution"`
	Rule        string `json:"rule"` // how the date follows
	Origin      string `json:"origin"`
	Preparation bool   `json:"preparation"`
}

// Job is one dated piece of work.
type Job struct {
	Said
	Key       string     `json:"key"`
	Age       int        `json:"age"`
	Season    string     `json:"season"`
	From      civil.Date `json:"from"`
	By        civil.Date `json:"by"`
	Detail    string     `json:"detail"`
	Done      civil.Date `json:"done"`
	Baseline  civil.Date `json:"baseline"`
	Passed    bool       `json:"passed"`
	Late      bool       `json:"late"`      // after planting: its days have passed lately and nothing is said of it
	When      string     `json:"when"`      // what it waits for within its time, seen on the ground; "" for nothing
	Looked    civil.Date `json:"looked"`    // last, and it was not so yet
	NotNeeded string     `json:"notNeeded"` // why a person said that it is not needed here
	Record    string     `json:"record"`    // id of the last record of it that holds, "" with none
	On        civil.Date `json:"on"`        // the day it is planned on; zero leaves it to its time
	Planned   civil.Date `json:"planned"`   // where it is bound to others: the day they leave it; else zero
	Slack     *int       `json:"slack"`     // days it can wait without moving planting, below nought where it is late; nil where it is not bound
	Operation string     `json:"operation"` // it is an occurrence of
	Hours     *float64   `json:"hours"`     // it asks for; nil where nobody knows
	HoursBy   string     `json:"hoursBy"`   // "said" by a person, or the rate they are reckoned with; "" where nobody knows
	Way       string     `json:"way"`       // it is done, where there are several
	Ways      []string   `json:"ways"`      // it can be done, the usual first; none where there is one
	Crew      string     `json:"crew"`      // id, as it was said; "" where nobody said it
	Who       string     `json:"who"`       // id of the crew that does it; "" where the estate has none for it
	Own       bool       `json:"own"`       // a person added it
	Share     float64    `json:"share"`     // of it that is recorded as done, where it is begun and not whole

	After     string `json:"-"` // key of a job it comes after, so many days; "" for none
	AfterDays int    `json:"-"`

	Rounds int `json:"-"` // its hours are those of, spread over its time; 0 is one

	Machine bool `json:"machine"` // its hours are those of a machine with one driver

	Kind   string  `json:"-"` // of its task, "" for none: what must stand before what follows from it
	Tonnes float64 `json:"-"` // carried and spread in it
}

// Jobs are the jobs of a plan. Written as JSON, what is said of an operation stands once, and each job says which it is.
type Jobs []Job

// jobsWritten are jobs as they are sent: of each job all but what is said, and At, where that stands in Said.
type jobsWritten struct {
	Said []Said       `json:"said"`
	Each []jobWritten `json:"each"`
}

type jobWritten struct {
	Job
	said     // hides what the job says
	At   int `json:"at"`
}

type said struct {
	Name        *struct{} `json:"name,omitempty"`
	Phase       *struct{} `json:"phase,omitempty"`
	Why         *struct{} `json:"why,omitempty"`
	Caution     *struct{} `json:"caution,omitempty"`
	Rule        *struct{} `json:"rule,omitempty"`
	Origin      *struct{} `json:"origin,omitempty"`
	Preparation *struct{} `json:"preparation,omitempty"`
}

// MarshalJSON writes what is said of an operation once.
func (all Jobs) MarshalJSON() ([]byte, error) {
	w := jobsWritten{Said: []Said{}, Each: make([]jobWritten, len(all))}
	at := map[Said]int{}
	for i, j := range all {
		k, ok := at[j.Said]
		if !ok {
			k = len(w.Said)
			at[j.Said] = k
			w.Said = append(w.Said, j.Said)
		}
		w.Each[i] = jobWritten{Job: j, At: k}
	}
	return json.Marshal(w)
}

// UnmarshalJSON reads what MarshalJSON wrote.
func (all *Jobs) UnmarshalJSON(b []byte) error {
	var w jobsWritten
	if err := json.Unmarshal(b, &w); err != nil {
		return err
	}
	*all = make(Jobs, len(w.Each))
	for i, j := range w.Each {
		if j.At < 0 || j.At >= len(w.Said) {
			return &json.UnmarshalTypeError{Value: "number", Field: "at"}
		}
		(*all)[i], (*all)[i].Said = j.Job, w.Said[j.At]
	}
	return nil
}
