// Package record is what happened: work done, partly done or not needed, things counted and measured, what was picked.
// A record is never changed and never taken away. A later one corrects it or withdraws it, and both stay to be read.
// Plans match records to work by the planting and the key of a job; they do not own them.
package record

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

// Kind of record.
type Kind string

const (
	Done      Kind = "done"       // a job, on a day
	Partly    Kind = "partly"     // a job, by a share of it
	NotNeeded Kind = "not-needed" // a job, and why not
	NotYet    Kind = "not-yet"    // a job was looked at on a day: what it waits for is not so yet
	Counted   Kind = "counted"    // living stations, fruits, pots: a whole number of something
	Measured  Kind = "measured"   // a quantity with its unit
	Picked    Kind = "picked"     // kg off the block in a season
	Withdrawn Kind = "withdrawn"  // takes back the record it corrects
)

// Kinds are those known.
var Kinds = []Kind{Done, Partly, NotNeeded, NotYet, Counted, Measured, Picked, Withdrawn}

// Record is one thing that happened. ID is made by whoever writes it, so that sending it twice keeps it once.
type Record struct {
	ID        string     `json:"id"`
	Block     string     `json:"block"`
	Planting  string     `json:"planting,omitempty"`  // "" is the ground itself
	Operation string     `json:"operation,omitempty"` // key of the job it answers, "" for none
	Kind      Kind       `json:"kind"`
	Day       civil.Date `json:"day"` // zero where nobody noted it
	Who       string     `json:"who"`
	Corrects  string     `json:"corrects,omitempty"` // the record this one stands in place of, or takes back
	Body
}

// Body is what a record of its kind says; what does not belong to the kind is empty.
type Body struct {
	Note   string  `json:"note,omitempty"`   // why, or how it went
	Share  float64 `json:"share,omitempty"`  // of the job: partly
	What   string  `json:"what,omitempty"`   // counted, measured
	Value  float64 `json:"value,omitempty"`  // counted, measured
	Unit   string  `json:"unit,omitempty"`   // measured
	Season int     `json:"season,omitempty"` // picked: the year the season starts in
	Kg     float64 `json:"kg,omitempty"`     // picked
}

// Longest texts of a record, in characters.
const (
	maxID, maxWord, maxNote = 120, 120, 2000
	firstYear, lastYear     = 1900, 2200
)

var named = regexp.MustCompile(`^[A-Za-z0-9._:-]{1,120}$`)

// Valid reports the first thing wrong with a record as a *finding.FieldError. today is the last day something can
// have happened on; the zero day asks no such thing.
func (r Record) Valid(today civil.Date) error {
	if !named.MatchString(r.ID) {
		return finding.Bad("id", r.ID, "does not name a record", "1 to 120 letters, digits and . _ : -, made by whoever writes it")
	}
	if !slices.Contains(Kinds, r.Kind) {
		return finding.Bad("kind", r.Kind, "is not a kind of record", fmt.Sprint(Kinds))
	}
	if r.Block == "" {
		return finding.Bad("block", "", "a record belongs to a block", "the id of a block")
	}
	if !r.Day.IsZero() && (r.Day.Year() < firstYear || r.Day.Year() > lastYear) {
		return finding.Bad("day", r.Day, "is not a day of this planting's time", fmt.Sprintf("a day from %d to %d", firstYear, lastYear))
	}
	if !today.IsZero() && r.Day.After(today) {
		return finding.Bad("day", r.Day, "has not come yet", "a day up to "+today.Words())
	}
	for _, s := range []struct {
		field, text string
		most        int
	}{{"note", r.Note, maxNote}, {"what", r.What, maxWord}, {"unit", r.Unit, maxWord}, {"who", r.Who, maxWord}, {"operation", r.Operation, maxWord},
		{"corrects", r.Corrects, maxID}} {
		if len([]rune(s.text)) > s.most {
			return finding.Bad(s.field, len([]rune(s.text)), "is longer than is kept", strconv.Itoa(s.most)+" characters")
		}
	}
	return r.says()
}

// says reports what a record of its kind lacks.
func (r Record) says() error {
	job := func() error {
		if r.Operation == "" {
			return finding.Bad("operation", "", "names no job", "the key of a job of the plan")
		}
		return nil
	}
	switch r.Kind {
	case Done:
		if r.Day.IsZero() {
			return finding.Bad("day", "", "work was done on a day", "a day written YYYY-MM-DD")
		}
		return job()
	case NotYet:
		if r.Day.IsZero() {
			return finding.Bad("day", "", "it was looked at on a day", "a day written YYYY-MM-DD")
		}
		return job()
	case Partly:
		if !(r.Share > 0 && r.Share < 1) {
			return finding.Bad("share", r.Share, "is not a part of the work", "more than 0 and less than 1")
		}
		return job()
	case NotNeeded:
		if r.Note == "" {
			return finding.Bad("note", "", "says nothing of why it is not needed", "a few words")
		}
		return job()
	case Counted:
		if r.What == "" || !(r.Value >= 0 && r.Value <= 1e9) || r.Value != float64(int64(r.Value)) {
			return finding.Bad("value", r.Value, "is not a count of something", "what was counted, and a whole number from 0 to 1 000 000 000")
		}
	case Measured:
		if r.What == "" || r.Unit == "" || !(r.Value >= -1e9 && r.Value <= 1e9) {
			return finding.Bad("value", r.Value, "is not a measurement", "what was measured, its unit, and a number of up to 1 000 000 000")
		}
	case Picked:
		if r.Season < firstYear || r.Season > lastYear || !(r.Kg >= 0 && r.Kg <= 1e9) {
			return finding.Bad("kg", r.Kg, "is not a picking", "the year the season starts in, such as 2027, and 0 to 1 000 000 000 kg")
		}
	case Withdrawn:
		if r.Corrects == "" {
			return finding.Bad("corrects", "", "says nothing of what is taken back", "the id of a record")
		}
	}
	return nil
}

// Standing are the records that hold: those no later record corrects or withdraws, in the order they were written.
// A withdrawal itself says nothing more; one that is withdrawn lets what it took back stand again.
func Standing(all []Record) []Record {
	over, withdrawn := make(map[string]bool, len(all)), map[string]bool{}
	for i := len(all) - 1; i >= 0; i-- { // a later one first: whether it is withdrawn decides about those before it
		if r := all[i]; r.Corrects != "" && !withdrawn[r.ID] {
			over[r.Corrects] = true
			withdrawn[r.Corrects] = withdrawn[r.Corrects] || r.Kind == Withdrawn
		}
	}
	out := make([]Record, 0, len(all))
	for _, r := range all {
		if !over[r.ID] && r.Kind != Withdrawn {
			out = append(out, r)
		}
	}
	return out
}
