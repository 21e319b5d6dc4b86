// Package survey turns what people know of where a field lies and how large it is into a position and a boundary:
// coordinates in any usual form, a length and a width, sides walked with a tape and a compass, or an area alone.
package survey

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// usual are the forms a place is typed in.
const usual = "latitude first, such as −38.21, 175.40 · 38.21° S 175.40° E · 38° 12′ 36″ S, 175° 24′ E · geo:-38.21,175.40"

var (
	number = regexp.MustCompile(`[+-]?\d+(?:\.\d+)?`)
	letter = regexp.MustCompile(`(?i)\b(north|south|east|west|lat|lon|lng|latitude|longitude)\b`)
	commas = regexp.MustCompile(`(\d),(\d)`)
)

// Place reads a position typed or pasted in any usual form of latitude and longitude: decimal degrees, degrees and minutes,
// degrees, minutes and seconds, with signs or letters, decimal points or commas, or a geo: address (RFC 5870). Latitude
// comes first unless letters or the words say otherwise. The error is a *finding.FieldError.
func Place(text string) (geo.Point, error) {
	bad := func(rule string) (geo.Point, error) { return geo.Point{}, finding.Bad("place", text, rule, usual) }
	if len(text) > 200 {
		return bad("is longer than a place")
	}
	t := strings.NewReplacer("−", "-", "–", "-", "º", "°", "′", " ", "″", " ", "'", " ", `"`, " ", "’", " ", "”", " ", "\u00a0", " ").Replace(text)
	t = strings.TrimSpace(t)
	if rest, ok := strings.CutPrefix(strings.ToLower(t), "geo:"); ok {
		t, _, _ = strings.Cut(rest, ";")
		t, _, _ = strings.Cut(t, "?")
	}
	t = letter.ReplaceAllStringFunc(t, func(w string) string {
		switch w := strings.ToLower(w); {
		case strings.HasPrefix(w, "lat"):
			return " φ "
		case strings.HasPrefix(w, "lo") || w == "lng":
			return " λ "
		default:
			return " " + strings.ToUpper(w[:1]) + " "
		}
	})
	parts := halves(t)
	if len(parts) != 2 {
		return bad("does not read as a latitude and a longitude")
	}
	var v [2]float64
	var axis [2]rune
	for i, p := range parts {
		var err error
		if v[i], axis[i], err = angle(p); err != nil {
			return bad(err.Error())
		}
	}
	if axis[0] == axis[1] && axis[0] != 0 {
		return bad("gives the same axis twice")
	}
	if axis[0] == longitude || axis[1] == latitude {
		v[0], v[1] = v[1], v[0]
	}
	switch {
	case math.Abs(v[0]) > 90 && math.Abs(v[1]) <= 90:
		return bad(fmt.Sprintf("has a latitude of %g°: latitude and longitude seem swapped", v[0]))
	case math.Abs(v[0]) > geo.MaxLatDeg:
		return bad(fmt.Sprintf("has a latitude of %g°, beyond ±%g°", v[0], geo.MaxLatDeg))
	case math.Abs(v[1]) > 180:
		return bad(fmt.Sprintf("has a longitude of %g°, beyond ±180°", v[1]))
	}
	return geo.Point{Lon: v[1], Lat: v[0]}, nil
}

// halves splits a place into its two angles.
func halves(t string) []string {
	clean := func(list []string) (out []string) {
		for _, s := range list {
			if strings.ContainsAny(s, "0123456789") {
				out = append(out, s)
			}
		}
		return out
	}
	for _, sep := range []string{";", "\t", ", ", " / "} {
		if p := clean(strings.Split(t, sep)); len(p) == 2 {
			return p
		}
	}
	if strings.Count(t, ",") == 1 && !strings.Contains(t, ".") {
		if p := clean(strings.Split(t, ",")); len(p) == 2 && strings.ContainsAny(t, "NSEWnsew°") {
			return p
		}
	}
	if p := clean(strings.Split(t, ",")); len(p) == 2 && (strings.Contains(t, ".") || len(number.FindAllString(t, -1)) == 2) {
		return p
	}
	t = commas.ReplaceAllString(t, "$1.$2")
	if p := clean(lettered(t)); len(p) == 2 {
		return p
	}
	n := strings.Fields(strings.ReplaceAll(t, "°", " "))
	if k := len(n); k >= 2 && k <= 6 && k%2 == 0 {
		return []string{strings.Join(n[:k/2], " "), strings.Join(n[k/2:], " ")}
	}
	return nil
}

// lettered splits before each letter of an axis that stands in front of its number, or after each that stands behind.
func lettered(t string) []string {
	const axes = "NSEWnsewφλΦΛ"
	before := strings.IndexAny(strings.TrimSpace(t), axes) == 0
	var out []string
	start := 0
	for i, r := range t {
		if !strings.ContainsRune(axes, r) {
			continue
		}
		cut := i
		if !before {
			cut = i + utf8.RuneLen(r)
		}
		if cut > start {
			out, start = append(out, t[start:cut]), cut
		}
	}
	return append(out, t[start:])
}

// The two axes of a position.
const (
	latitude  = 'φ'
	longitude = 'λ'
)

// angle reads degrees, minutes and seconds with the letter of their axis; an axis of 0 is unsaid.
func angle(s string) (deg float64, axis rune, err error) {
	sign := 1.0
	for _, r := range strings.ToUpper(s) {
		switch r {
		case 'N', 'S', 'Φ':
			axis = latitude
		case 'E', 'W', 'Λ':
			axis = longitude
		}
		if r == 'S' || r == 'W' {
			sign = -1
		}
	}
	n := number.FindAllString(commas.ReplaceAllString(s, "$1.$2"), -1)
	if len(n) == 0 || len(n) > 3 {
		return 0, axis, fmt.Errorf("has an angle of %d numbers where degrees, minutes and seconds are at most three", len(n))
	}
	for i, t := range n {
		v, err := strconv.ParseFloat(t, 64)
		if err != nil {
			return 0, axis, fmt.Errorf("holds %q, which is no number", t)
		}
		if i == 0 {
			if strings.HasPrefix(t, "-") {
				sign = -1
			}
			deg = math.Abs(v)
			continue
		}
		if v < 0 || v >= 60 {
			return 0, axis, fmt.Errorf("has %s where minutes and seconds run from 0 to 60", t)
		}
		deg += v / math.Pow(60, float64(i))
	}
	return deg * sign, axis, nil
}
