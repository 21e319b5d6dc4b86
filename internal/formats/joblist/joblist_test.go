package joblist

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"

	ics "github.com/arran4/golang-ical"
	"github.com/xuri/excelize/v2"

	"slowroot/core/civil"
	"slowroot/core/report"
)

func jobs() []Job {
	h := 12.5
	return []Job{
		{Block: "b1", BlockName: "Lower field, south", CrewName: "Yard", Job: report.Job{Said: report.Said{Name: "Prune; thin", Caution: "Saws and ladders", Rule: "in winter"},
			Key: "prune@2027", From: civil.Must(2027, 6, 1), By: civil.Must(2027, 7, 10), Detail: "to {3} leaders,\nhigh wood first", Hours: &h}},
		{Block: "b1", BlockName: "Lower field, south", Job: report.Job{Said: report.Said{Name: "=Order plants"},
			Key: "order", From: civil.Must(2027, 2, 28), By: civil.Must(2027, 2, 28), NotNeeded: "bought"}},
	}
}

// Read back by the library's own parser: days, the day after the last as the end, and the same UID when the file is written again on
// another day, with a higher sequence.
func TestCalendarIsUpdatedNotDoubled(t *testing.T) {
	first, err := ics.ParseCalendar(bytes.NewReader(Calendar("Farm", jobs(), civil.Must(2027, 3, 1))))
	if err != nil {
		t.Fatal(err)
	}
	moved := jobs()
	moved[0].From = civil.Must(2027, 6, 8)
	second, err := ics.ParseCalendar(bytes.NewReader(Calendar("Farm", moved, civil.Must(2027, 3, 2))))
	if err != nil {
		t.Fatal(err)
	}
	a, b := first.Events(), second.Events()
	if len(a) != 2 || len(b) != 2 {
		t.Fatalf("%d and %d events", len(a), len(b))
	}
	value := func(e *ics.VEvent, p ics.ComponentProperty) string { return e.GetProperty(p).Value }
	for i := range a {
		if a[i].Id() != b[i].Id() || value(a[i], ics.ComponentPropertySequence) >= value(b[i], ics.ComponentPropertySequence) {
			t.Errorf("event %q, sequence %s, is %q, %s when written again", a[i].Id(), value(a[i], ics.ComponentPropertySequence), b[i].Id(), value(b[i], ics.ComponentPropertySequence))
		}
	}
	if value(a[0], ics.ComponentPropertyDtStart) != "20270601" || value(b[0], ics.ComponentPropertyDtStart) != "20270608" || value(a[0], ics.ComponentPropertyDtEnd) != "20270711" {
		t.Errorf("days %s to %s", value(a[0], ics.ComponentPropertyDtStart), value(a[0], ics.ComponentPropertyDtEnd))
	}
	if value(a[1], ics.ComponentPropertyStatus) != "CANCELLED" || !strings.Contains(value(a[0], ics.ComponentPropertyDescription), "Saws and ladders") {
		t.Errorf("state %q, description %q", value(a[1], ics.ComponentPropertyStatus), value(a[0], ics.ComponentPropertyDescription))
	}
	for _, line := range strings.Split(string(Calendar("Farm", jobs(), civil.Must(2027, 3, 1))), "\r\n") {
		if len(line) > 75 {
			t.Errorf("a line of %d octets: RFC 5545 folds at 75", len(line))
		}
	}
}

func TestTableAndWorkbook(t *testing.T) {
	got, err := csv.NewReader(bytes.NewReader(CSV(jobs()))).ReadAll()
	if err != nil || len(got) != 3 || got[1][0] != "2027-06-01" || got[1][5] != "12.5" || got[2][5] != "hours unknown" || got[2][3] != "'=Order plants" {
		t.Errorf("%q, %v", got, err)
	}
	text, err := XLSX(jobs())
	if err != nil {
		t.Fatal(err)
	}
	f, err := excelize.OpenReader(bytes.NewReader(text))
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	for cell, want := range map[string]string{"A1": "from", "D2": "Prune; thin", "D3": "=Order plants", "F2": "12.5"} {
		if v, err := f.GetCellValue("Jobs", cell); err != nil || v != want {
			t.Errorf("%s is %q, want %q (%v)", cell, v, want, err)
		}
	}
	if k, err := f.GetCellType("Jobs", "F2"); err != nil || k != excelize.CellTypeNumber && k != excelize.CellTypeUnset {
		t.Errorf("hours are of type %v: %v", k, err)
	}
	if v, err := f.GetCellFormula("Jobs", "D3"); err != nil || v != "" {
		t.Errorf("words became the formula %q: %v", v, err)
	}
}
