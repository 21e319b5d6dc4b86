package schedule

import (
	"testing"

	"slowroot/core/civil"
)

// Rounds are those said, or one every so long from the first day to the last, both ends included; at least one.
func TestRoundsOfWork(t *testing.T) {
	day := civil.Must
	weeks := Offset{N: 5, Unit: "wk"}
	for _, c := range []struct {
		h        Hours
		from, by civil.Date
		want     int
	}{
		{Hours{Low: 1, High: 2}, day(2027, 3, 1), day(2027, 9, 1), 1},
		{Hours{Low: 1, High: 2, Rounds: 4}, day(2027, 3, 1), day(2027, 3, 1), 4},
		{Hours{Low: 1, High: 2, Every: weeks}, day(2027, 3, 1), day(2027, 4, 5), 2}, // the 35th day is in
		{Hours{Low: 1, High: 2, Every: weeks}, day(2027, 3, 1), day(2027, 4, 4), 1},
		{Hours{Low: 1, High: 2, Every: weeks}, day(2027, 3, 1), day(2027, 11, 30), 8},
		{Hours{Low: 1, High: 2, Every: Offset{N: 1, Unit: "mo"}}, day(2028, 1, 31), day(2028, 4, 30), 4},
		{Hours{Low: 1, High: 2, Every: weeks}, day(2027, 3, 2), day(2027, 3, 1), 1},
	} {
		if got := c.h.Times(c.from, c.by); got != c.want {
			t.Errorf("%+v from %s to %s: %d rounds, want %d", c.h, c.from, c.by, got, c.want)
		}
	}
	if h := (Hours{Low: 60, High: 130}); h.Usual() != 95 {
		t.Errorf("halfway between 60 and 130 is %g", h.Usual())
	}
	if h := (Hours{Low: 95, Base: 126, High: 190}); h.Usual() != 126 {
		t.Errorf("126 as a rule is %g", h.Usual())
	}
	for _, bad := range []Hours{{}, {Low: 2, High: 1}, {Low: 1, Base: 3, High: 2}, {Low: 1, High: 9000}, {Low: -1, High: 1}, {Low: 1, High: 2, Rounds: -1}, {Low: 1, High: 2, Rounds: 2, Every: weeks}} {
		if bad.sound() {
			t.Errorf("%+v is taken", bad)
		}
	}
	if h := (Hours{Low: 0, High: 80}); !h.sound() {
		t.Error("work that may not be needed at all is refused")
	}
}
