package report

import (
	"strconv"
	"strings"

	"slowroot/core/units"
)

// Months are the names of the months, January first.
var Months = []string{"January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"}

// Capital is a text with a large first letter.
func Capital(s string) string {
	if s == "" || s[0] < 'a' || s[0] > 'z' {
		return s
	}
	return string(s[0]&^0x20) + s[1:]
}

// LowerFirst is a text with a small first letter.
func LowerFirst(s string) string {
	if s == "" || s[0] < 'A' || s[0] > 'Z' {
		return s
	}
	return string(s[0]|0x20) + s[1:]
}

// Count is a number of things in words: "1 pit", "3 pits".
func Count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	if strings.HasSuffix(what, "s") || strings.HasSuffix(what, "ch") {
		what += "e"
	}
	return units.Text(float64(n), units.Count, units.Metric) + " " + what + "s"
}

// Ordinal is a place in a row: "2nd", and "single" for the first, as in every single row.
func Ordinal(n int) string {
	if n == 1 {
		return "single"
	}
	suffix := "th"
	switch {
	case n%10 == 2 && n%100 != 12:
		suffix = "nd"
	case n%10 == 3 && n%100 != 13:
		suffix = "rd"
	case n%10 == 1 && n%100 != 11:
		suffix = "st"
	}
	return strconv.Itoa(n) + suffix
}
