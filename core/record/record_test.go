package record

import (
	"errors"
	"math"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

var day = civil.Must(2027, 3, 1)

func of(id string, k Kind, job, corrects string) Record {
	return Record{ID: id, Block: "b", Planting: "p", Kind: k, Operation: job, Day: day, Corrects: corrects, Body: Body{Note: "n", Share: 0.5, What: "w", Value: 3, Unit: "m", Season: 2027, Kg: 10}}
}

func TestCorrectionsAndWithdrawals(t *testing.T) {
	for _, c := range []struct {
		name string
		all  []Record
		ids  string
	}{
		{"as written", []Record{of("1", Done, "a", ""), of("2", Done, "b", "")}, "12"},
		{"corrected", []Record{of("1", Done, "a", ""), of("2", Done, "a", "1")}, "2"},
		{"withdrawn", []Record{of("1", Done, "a", ""), of("2", Withdrawn, "", "1")}, ""},
		{"the withdrawal withdrawn", []Record{of("1", Done, "a", ""), of("2", Withdrawn, "", "1"), of("3", Withdrawn, "", "2")}, "1"},
		{"a correction withdrawn", []Record{of("1", Done, "a", ""), of("2", Done, "a", "1"), of("3", Withdrawn, "", "2")}, "1"},
		{"a correction corrected", []Record{of("1", Done, "a", ""), of("2", Done, "a", "1"), of("3", Done, "a", "2")}, "3"},
		{"the last correction withdrawn", []Record{of("1", Done, "a", ""), of("2", Done, "a", "1"), of("3", Done, "a", "2"), of("4", Withdrawn, "", "3")}, "2"},
	} {
		got := ""
		for _, r := range Standing(c.all) {
			got += r.ID
		}
		if got != c.ids {
			t.Errorf("%s: %q stands, want %q", c.name, got, c.ids)
		}
	}
}

func TestBookAddsUp(t *testing.T) {
	later := of("4", Done, "dig", "")
	later.Day = civil.Must(2027, 4, 1)
	other := of("o", Done, "other", "")
	other.Planting = "q"
	b := Open([]Record{of("1", Partly, "pits", ""), of("2", Partly, "pits", ""), of("3", NotNeeded, "dig", ""), later, other,
		of("5", Done, "lime", ""), of("6", NotNeeded, "lime", ""), of("7", Picked, "", ""), of("8", Picked, "", ""), of("9", Partly, "rows", "")}, "p")
	if b.Done["pits"] != day || b.Done["dig"] != later.Day || b.NotNeeded["dig"] != "" || b.NotNeeded["lime"] != "n" || !b.Done["lime"].IsZero() {
		t.Errorf("done %v, not needed %v", b.Done, b.NotNeeded)
	}
	if b.PickedKg[2027] != 20 || b.Share["rows"] != 0.5 || b.Share["pits"] != 0 || !b.Done["other"].IsZero() || len(b.Held) != 9 {
		t.Errorf("%+v", b)
	}
}

func TestWhatARecordMustSay(t *testing.T) {
	for _, k := range Kinds {
		r := of("x-1", k, "a", "")
		if k == Withdrawn {
			r.Corrects = "y"
		}
		if err := r.Valid(day); err != nil {
			t.Errorf("%s: %v", k, err)
		}
	}
	for field, spoil := range map[string]func(*Record){
		"id": func(r *Record) { r.ID = "two words" }, "kind": func(r *Record) { r.Kind = "seen" }, "block": func(r *Record) { r.Block = "" },
		"day": func(r *Record) { r.Day = day.AddDays(1) }, "operation": func(r *Record) { r.Operation = "" },
		"share": func(r *Record) { r.Kind, r.Share = Partly, 1 }, "value": func(r *Record) { r.Kind, r.Value = Counted, 2.5 },
		"kg": func(r *Record) { r.Kind, r.Kg = Picked, math.NaN() }, "corrects": func(r *Record) { r.Kind = Withdrawn }, "note": func(r *Record) { r.Kind, r.Note = NotNeeded, "" },
	} {
		r := of("x", Done, "a", "")
		spoil(&r)
		var fe *finding.FieldError
		if err := r.Valid(day); !errors.As(err, &fe) || fe.Field != field || fe.Accepted == "" {
			t.Errorf("%s: %v", field, err)
		}
	}
}
