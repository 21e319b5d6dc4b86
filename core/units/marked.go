package units

import (
	"math"
	"regexp"
	"strconv"
	"strings"
)

// A text may hold quantities in the metric units of the trade, marked by braces: "dig to {60–90 cm}, dry". Marked shows
// them in a reader's units; every number within a pair of braces carries the unit at its end.

// shownAs are the units marks may carry, with what they become in US customary units.
var shownAs = map[string]Show{
	"cm": {"in", 1 / 2.54, 0}, "mm": {"in", 1 / 25.4, 0}, "m": {"ft", ftPerM, 0}, "km": {"mi", 1 / 1.609344, 0}, "m²": {"ft²", ftPerM * ftPerM, 0},
	"m³": {"ft³", ftPerM * ftPerM * ftPerM, 0}, "ha": {"ac", 1 / haPerAc, 0},
	"kg": {"lb", lbPerKg, 0}, "g": {"oz", 1 / 28.349523125, 0}, "t": {"short tons", 1000 * tonsPerKg, 0}, "t/ha": {"short tons/ac", 1000 * tonsPerKg * haPerAc,
		0}, "kg/ha": {"lb/ac", lbPerKg * haPerAc, 0}, "/ha": {"/ac", haPerAc, 0}, "h/ha": {"h/ac", haPerAc, 1},
	"L": {"gal", 1 / 3.785411784, 0}, "mL": {"fl oz", 1 / 29.5735295625, 0}, "L/m²": {"gal/ft²", 1 / 3.785411784 / (ftPerM * ftPerM), 0},
	"L/ha": {"gal/ac", haPerAc / 3.785411784, 0}, "m³/ha": {"yd³/ac", haPerAc / 0.764554857984, 0},
	"m/s": {"mph", 1 / 0.44704, 0}, "mm/h": {"in/h", 1 / 25.4, 0}, "mm/day": {"in/day", 1 / 25.4, 0}, "m³ a day": {"yd³ a day", 1 / 0.764554857984, 0},
	"°C": {"°F", 1.8, 0},
}

var (
	mark   = regexp.MustCompile(`\{([^{}]*)\}`)
	number = regexp.MustCompile(`[−-]?\d[\d\x{202f}\x{2009} ]*\d(?:\.\d+)?|[−-]?\d+(?:\.\d+)?`)
)

// Marked is a text with its marked quantities in the units of s; what is not marked is left as it stands, and so is a
// mark whose unit is not known.
func Marked(text string, s System) string {
	if !strings.ContainsRune(text, '{') {
		return text
	}
	return mark.ReplaceAllStringFunc(text, func(m string) string {
		body := m[1 : len(m)-1]
		unit, found := unitOf(body)
		if s != US || !found {
			return body
		}
		to := shownAs[unit]
		numbers := strings.TrimRight(strings.TrimSuffix(body, unit), " \u00a0\u202f\u2009")
		out := number.ReplaceAllStringFunc(numbers, func(n string) string { return converted(n, unit, to) })
		return out + gap + to.Unit
	})
}

// unitOf is the unit a mark ends with: the longest that fits.
func unitOf(body string) (string, bool) {
	best := ""
	for u := range shownAs {
		before, ok := strings.CutSuffix(body, u)
		if ok && len(u) > len(best) && (before == "" || strings.ContainsAny(before[len(before)-1:], "0123456789 ") || strings.HasSuffix(before, " ") ||
			strings.HasSuffix(before, "\u202f")) {
			best = u
		}
	}
	return best, best != ""
}

// converted is a number in another unit with as many digits as it had, two at least.
func converted(n, unit string, to Show) string {
	plain := strings.NewReplacer("−", "-", " ", "", "\u202f", "", "\u2009", "").Replace(n)
	v, err := strconv.ParseFloat(plain, 64)
	if err != nil {
		return n
	}
	v *= to.Factor
	if unit == "°C" {
		v += 32
		return group(math.Round(v), 0, false)
	}
	if v == 0 {
		return "0"
	}
	digits := len(strings.TrimLeft(strings.NewReplacer("-", "", ".", "").Replace(plain), "0"))
	if !strings.Contains(plain, ".") {
		digits = len(strings.TrimRight(strings.TrimLeft(plain, "-0"), "0"))
	}
	keep := min(3, max(2, digits))
	places := keep - 1 - int(math.Floor(math.Log10(math.Abs(v))))
	scale := math.Pow(10, float64(places))
	v = math.Round(v*scale) / scale
	text := group(v, max(0, places), false)
	if strings.Contains(text, ".") {
		text = strings.TrimRight(strings.TrimRight(text, "0"), ".")
	}
	return text
}
