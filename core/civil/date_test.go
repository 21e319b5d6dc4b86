package civil

import "testing"

func date(t *testing.T, s string) Date {
	t.Helper()
	d, err := Parse(s)
	if err != nil {
		t.Fatal(err)
	}
	return d
}

// Method S1 of the method book, computed check values.
func TestDayNumbers(t *testing.T) {
	for s, want := range map[string]int{"1970-01-01": 0, "2000-03-01": 11017, "2027-04-20": 20928, "2100-02-28": 47540} {
		if got := date(t, s).DayNumber(); got != want {
			t.Errorf("%s: day number %d, want %d", s, got, want)
		}
		if back := FromDayNumber(want); back.String() != s {
			t.Errorf("%d: %s, want %s", want, back, s)
		}
	}
	for n := -25567; n < 84000; n += 13 {
		if got := FromDayNumber(n).DayNumber(); got != n {
			t.Fatalf("day %d came back as %d", n, got)
		}
	}
}

func TestAddMonthsClamps(t *testing.T) {
	for _, c := range []struct {
		from string
		n    int
		want string
	}{
		{"2026-01-31", 1, "2026-02-28"}, {"2024-02-29", 12, "2025-02-28"},
		{"2026-08-31", 6, "2027-02-28"}, {"2026-03-31", -1, "2026-02-28"},
		{"2027-01-31", 2, "2027-03-31"},
	} {
		if got := date(t, c.from).AddMonths(c.n).String(); got != c.want {
			t.Errorf("%s %+d months = %s, want %s", c.from, c.n, got, c.want)
		}
	}
}

func TestISOWeeks(t *testing.T) {
	for s, want := range map[string][3]int{
		"2027-01-01": {2026, 53, 5}, "2027-01-03": {2026, 53, 7}, "2026-01-01": {2026, 1, 4}, "1969-12-29": {1970, 1, 1},
	} {
		y, w, d := date(t, s).ISOWeek()
		if [3]int{y, w, d} != want {
			t.Errorf("%s: %d-W%d-%d, want %v", s, y, w, d, want)
		}
	}
	if got := date(t, "2028-12-31").DayOfYear(); got != 366 {
		t.Errorf("2028-12-31 is day %d", got)
	}
}

func TestRefusedDates(t *testing.T) {
	for _, s := range []string{"2026-02-30", "26-01-01", "1066-10-14", "2026-13-01", "2026-00-10", "2026/01/01", "2026-1-1", "tomorrow!!"} {
		if d, err := Parse(s); err == nil {
			t.Errorf("%q was read as %s", s, d)
		}
	}
	var zero Date
	if !zero.IsZero() || zero.String() != "" || !zero.Before(Must(1900, 1, 1)) || !zero.AddDays(3).IsZero() {
		t.Error("the zero date must mean no date")
	}
}
