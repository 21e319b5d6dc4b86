package schedule

import (
	"testing"

	"slowroot/core/civil"
)

// Method S6: values computed there.
func TestRecurrence(t *testing.T) {
	d := func(m, day int) civil.Date { return civil.Must(2027, m, day) }
	if got := Recur(d(5, 1), d(8, 31), 14, nil, FromActual); len(got) != 9 || got[8] != d(8, 21) {
		t.Errorf("every 14 days: %v", got)
	}
	if got := Recur(d(6, 1), d(8, 15), 10, nil, FromActual); len(got) != 8 || got[7] != d(8, 10) {
		t.Errorf("every 10 days: %v", got)
	}
	late := []civil.Date{d(6, 1), d(6, 14)}
	if got := Recur(d(6, 1), d(8, 15), 10, late, FromActual); got[1] != d(6, 14) || got[2] != d(6, 24) {
		t.Errorf("from the day it was done: %v", got[:3])
	}
	if got := Recur(d(6, 1), d(8, 15), 10, late, OnTheGrid); got[2] != d(6, 21) {
		t.Errorf("on the grid: %v", got[:3])
	}
	if Recur(d(6, 1), d(8, 15), 0, nil, FromActual) != nil {
		t.Error("every 0 days")
	}
}
