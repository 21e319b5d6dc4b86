// Package civil is dates without clocks: year, month and day in the proleptic Gregorian calendar,
// with no time of day and no zone. Planning for twenty years needs nothing more, and a date that
// carries no zone cannot slip by a day between two machines.
package civil

import (
	"fmt"
	"strconv"
)

// Date is a civil date. The zero Date means "no date"; it sorts before every other date and
// encodes as an empty string.
type Date struct {
	y    int16
	m, d uint8
}

// First and last year a date may have. They reach beyond what people enter, so that what is counted back and forward
// from an entered day can be written and read again.
const (
	MinYear = 1700
	MaxYear = 2500
)

// New returns the date y-m-d, or an error when no such day exists or the year lies outside
// MinYear…MaxYear.
func New(y, m, d int) (Date, error) {
	if y < MinYear || y > MaxYear {
		return Date{}, fmt.Errorf("year %d lies outside %d to %d", y, MinYear, MaxYear)
	}
	if m < 1 || m > 12 {
		return Date{}, fmt.Errorf("month %d is not 1 to 12", m)
	}
	if d < 1 || d > DaysIn(y, m) {
		return Date{}, fmt.Errorf("day %d does not exist in %04d-%02d, which has %d days", d, y, m, DaysIn(y, m))
	}
	return Date{int16(y), uint8(m), uint8(d)}, nil
}

// Must is New for constants; it panics on a date that does not exist.
func Must(y, m, d int) Date {
	v, err := New(y, m, d)
	if err != nil {
		panic(err)
	}
	return v
}

// On is a day a rule arrives at, such as the first of a window in some year: the day of the month is held to the month's
// last, and the year may lie outside MinYear…MaxYear. What people enter goes through New or Parse.
func On(y, m, d int) Date { return Date{int16(y), uint8(m), uint8(min(d, DaysIn(y, m)))} }

// Parse reads YYYY-MM-DD. The empty string is no date.
func Parse(s string) (Date, error) {
	if s == "" {
		return Date{}, nil
	}
	if len(s) != 10 || s[4] != '-' || s[7] != '-' {
		return Date{}, fmt.Errorf("%q is not a date written YYYY-MM-DD with a four-digit year", s)
	}
	y, e1 := strconv.Atoi(s[:4])
	m, e2 := strconv.Atoi(s[5:7])
	d, e3 := strconv.Atoi(s[8:])
	if e1 != nil || e2 != nil || e3 != nil {
		return Date{}, fmt.Errorf("%q is not a date written YYYY-MM-DD", s)
	}
	return New(y, m, d)
}

// DaysIn is the number of days of a month.
func DaysIn(y, m int) int {
	switch m {
	case 2:
		if y%4 == 0 && (y%100 != 0 || y%400 == 0) {
			return 29
		}
		return 28
	case 4, 6, 9, 11:
		return 30
	}
	return 31
}

// IsZero reports whether d is no date.
func (d Date) IsZero() bool { return d == Date{} }

// Year, Month and Day are the parts; all are 0 for no date.
func (d Date) Year() int  { return int(d.y) }
func (d Date) Month() int { return int(d.m) }
func (d Date) Day() int   { return int(d.d) }

// DayNumber is the number of days since 1970-01-01 (negative before it).
// Howard Hinnant, "chrono-compatible low-level date algorithms", days_from_civil.
func (d Date) DayNumber() int {
	y := int(d.y)
	m := int(d.m)
	if m <= 2 {
		y--
	}
	era := y / 400
	yoe := y - era*400
	mp := (m + 9) % 12
	doy := (153*mp+2)/5 + int(d.d) - 1
	doe := yoe*365 + yoe/4 - yoe/100 + doy
	return era*146097 + doe - 719468
}

// FromDayNumber is the inverse of DayNumber.
func FromDayNumber(n int) Date {
	z := n + 719468
	era := z / 146097
	if z < 0 {
		era = (z - 146096) / 146097
	}
	doe := z - era*146097
	yoe := (doe - doe/1460 + doe/36524 - doe/146096) / 365
	doy := doe - (365*yoe + yoe/4 - yoe/100)
	mp := (5*doy + 2) / 153
	day := doy - (153*mp+2)/5 + 1
	m := mp + 3
	if m > 12 {
		m -= 12
	}
	y := yoe + era*400
	if m <= 2 {
		y++
	}
	return Date{int16(y), uint8(m), uint8(day)}
}

// AddDays moves by whole days. Adding to no date gives no date.
func (d Date) AddDays(n int) Date {
	if d.IsZero() {
		return d
	}
	return FromDayNumber(d.DayNumber() + n)
}

// AddMonths moves by calendar months, keeping the day of the month and clamping it to the end of
// a shorter month. Always add from the original anchor: two steps of one month can differ from
// one step of two.
func (d Date) AddMonths(n int) Date {
	if d.IsZero() {
		return d
	}
	t := int(d.y)*12 + int(d.m) - 1 + n
	y, m := t/12, t%12+1
	return Date{int16(y), uint8(m), uint8(min(int(d.d), DaysIn(y, m)))}
}

// Sub is the number of days from o to d.
func (d Date) Sub(o Date) int { return d.DayNumber() - o.DayNumber() }

// Before and After compare; no date lies before every date.
func (d Date) Before(o Date) bool { return d.Compare(o) < 0 }
func (d Date) After(o Date) bool  { return d.Compare(o) > 0 }

// Compare is -1, 0 or 1.
func (d Date) Compare(o Date) int {
	a := int(d.y)*400 + int(d.m)*32 + int(d.d)
	b := int(o.y)*400 + int(o.m)*32 + int(o.d)
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

// Later returns the later of two dates.
func Later(a, b Date) Date {
	if a.Before(b) {
		return b
	}
	return a
}

// DayOfYear is 1 on 1 January.
func (d Date) DayOfYear() int { return d.Sub(Date{d.y, 1, 1}) + 1 }

// ISOWeek returns the ISO 8601 year, week and weekday (1 is Monday).
func (d Date) ISOWeek() (year, week, weekday int) {
	n := d.DayNumber()
	weekday = (n+3)%7 + 1
	if n < -3 {
		weekday = ((n+3)%7+7)%7 + 1
	}
	thursday := FromDayNumber(n - weekday + 4)
	return thursday.Year(), (thursday.DayOfYear()-1)/7 + 1, weekday
}

// String is YYYY-MM-DD, or "" for no date.
func (d Date) String() string {
	if d.IsZero() {
		return ""
	}
	return fmt.Sprintf("%04d-%02d-%02d", d.y, d.m, d.d)
}

var monthNames = [...]string{"", "January", "February", "March", "April", "May", "June", "July",
	"August", "September", "October", "November", "December"}

// Words is "14 April 2027", or "no date".
func (d Date) Words() string {
	if d.IsZero() {
		return "no date"
	}
	return fmt.Sprintf("%d %s %d", d.d, monthNames[d.m], d.y)
}

// MarshalText and UnmarshalText encode as YYYY-MM-DD.
func (d Date) MarshalText() ([]byte, error) { return []byte(d.String()), nil }
func (d *Date) UnmarshalText(b []byte) error {
	v, err := Parse(string(b))
	if err == nil {
		*d = v
	}
	return err
}

// MonthsTo is how many whole months lie between a day and a later one; below zero when it lies before.
func (d Date) MonthsTo(later Date) int {
	n := (later.Year()-d.Year())*12 + later.Month() - d.Month()
	if later.Day() < d.Day() {
		n--
	}
	return n
}
