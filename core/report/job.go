package report

import "slowroot/core/civil"

// Job is one dated piece of work.
type Job struct {
	Key         string     `json:"key"`
	Name        string     `json:"name"`
	Phase       string     `json:"phase"`
	Age         int        `json:"age"`
	Season      string     `json:"season"`
	From        civil.Date `json:"from"`
	By          civil.Date `json:"by"`
	Detail      string     `json:"detail"`
	Why         string     `json:"why"`
	Caution     string     `json:"caution"`
	Rule        string     `json:"rule"` // how the date follows
	Origin      string     `json:"origin"`
	Preparation bool       `json:"preparation"`
	Done        civil.Date `json:"done"`
	Baseline    civil.Date `json:"baseline"`
	Passed      bool       `json:"passed"`
	NotNeeded   string     `json:"notNeeded"` // why a person said that it is not needed here
	Record      string     `json:"record"`    // id of the last record of it that holds, "" with none
	On          civil.Date `json:"on"`        // the day it is planned on; zero leaves it to its time
	Operation   string     `json:"operation"` // it is an occurrence of
	Hours       *float64   `json:"hours"`     // it asks for; nil where nobody knows
	Crew        string     `json:"crew"`      // id; "" is the estate's first
	Own         bool       `json:"own"`       // a person added it
	Share       float64    `json:"share"`     // of it that is recorded as done, where it is begun and not whole

	Kind   string  `json:"-"` // of its task, "" for none: what must stand before what follows from it
	Tonnes float64 `json:"-"` // carried and spread in it
}
