package estate

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"testing"
	"unicode"

	"slowroot/core/climate"
	"slowroot/core/working"
)

// reckoner evaluates the substituted line of a step: numbers with their units, + − · × / ^, roots, brackets and the
// functions the methods use. Each number of three digits or more carries half a unit of its last decimal, so that a line may be as far off its
// value as its own rounding explains and no further.
type reckoner struct {
	s    []rune
	at   int
	nth  int // of the numbers read
	nudg int // the one that is moved by half a unit, −1 none
	by   float64
	half []float64
	err  error
}

// unitsOfLines are the units that may follow a number; longer ones first.
var unitsOfLines = []string{"cmolc/dm³", "cmolc/kg", "per ha", "kg/ha", "m/day", "mm/day", "m³/s", "m³/day", "m³", "m²", "mm/h", "g/cm³", "t/ha", "/ha", "dS/m", "L/s", "m/s", "m/m", "kPa", "hPa",
	"holes", "stations", "plants", "pieces", "years", "days", "day", "hours", "MJ", "°C", "mm", "cm", "ha", "kg", "°", "m", "t", "h", "s", "g", "d", "L"}

func reckon(line string) (float64, []float64, error) {
	r := reckoner{s: []rune(line), nudg: -1}
	v := r.whole()
	if r.err != nil {
		return 0, nil, r.err
	}
	halves := r.half
	off := make([]float64, len(halves))
	for i := range halves {
		q := reckoner{s: []rune(line), nudg: i}
		off[i] = math.Abs(q.whole() - v)
		q = reckoner{s: []rune(line), nudg: i, by: -1}
		off[i] = math.Max(off[i], math.Abs(q.whole()-v))
	}
	return v, off, nil
}

func (r *reckoner) fail(format string, a ...any) float64 {
	if r.err == nil {
		r.err = fmt.Errorf(format, a...)
	}
	return math.NaN()
}

func (r *reckoner) space() {
	for r.at < len(r.s) && (unicode.IsSpace(r.s[r.at]) || r.s[r.at] == '\u00a0') {
		r.at++
	}
}

func (r *reckoner) is(runes string) bool {
	r.space()
	return r.at < len(r.s) && strings.ContainsRune(runes, r.s[r.at])
}

func (r *reckoner) word(w string) bool {
	r.space()
	n := len([]rune(w))
	if r.at+n <= len(r.s) && string(r.s[r.at:r.at+n]) == w {
		r.at += n
		return true
	}
	return false
}

func (r *reckoner) whole() float64 {
	v := r.sum()
	if r.space(); r.at < len(r.s) {
		return r.fail("stops at %q", string(r.s[r.at:]))
	}
	return v
}

func (r *reckoner) sum() float64 {
	v := r.product()
	for r.err == nil {
		switch {
		case r.is("+"):
			r.at++
			v += r.product()
		case r.is("−-"):
			r.at++
			v -= r.product()
		default:
			return v
		}
	}
	return v
}

func (r *reckoner) product() float64 {
	v := r.power()
	for r.err == nil {
		switch {
		case r.is("·×*"):
			r.at++
			v *= r.power()
		case r.is("/"):
			r.at++
			v /= r.power()
		case r.is("(√"): // 4(a − b)
			v *= r.power()
		default:
			return v
		}
	}
	return v
}

func (r *reckoner) power() float64 {
	v := r.atom()
	for r.err == nil {
		switch {
		case r.is("^"):
			r.at++
			v = math.Pow(v, r.atom())
		case r.is("²"):
			r.at++
			v *= v
		case r.is("³"):
			r.at++
			v *= v * v
		case r.is("⁴"):
			r.at++
			v *= v * v * v
		default:
			return v
		}
	}
	return v
}

var functions = map[string]func(...float64) float64{
	"max": func(a ...float64) float64 { return fold(a, math.Max) }, "min": func(a ...float64) float64 { return fold(a, math.Min) },
	"ln": func(a ...float64) float64 { return math.Log(a[0]) }, "exp": func(a ...float64) float64 { return math.Exp(a[0]) },
	"sin": func(a ...float64) float64 { return math.Sin(a[0]) }, "cos": func(a ...float64) float64 { return math.Cos(a[0]) }, "tan": func(a ...float64) float64 { return math.Tan(a[0]) },
	"tanh": func(a ...float64) float64 { return math.Tanh(a[0]) },
	"Φ⁻¹":  func(a ...float64) float64 { return climate.NormalQuantile(a[0]) }, "Φ": func(a ...float64) float64 { return climate.NormalCDF(a[0]) },
}

func fold(a []float64, f func(x, y float64) float64) float64 {
	v := a[0]
	for _, x := range a[1:] {
		v = f(v, x)
	}
	return v
}

func (r *reckoner) atom() float64 {
	switch {
	case r.is("−-"):
		r.at++
		return -r.power()
	case r.is("√"):
		r.at++
		return math.Sqrt(r.atom())
	case r.is("⌈"):
		r.at++
		v := r.sum()
		if !r.word("⌉") {
			return r.fail("no ⌉")
		}
		return math.Ceil(v - 1e-9)
	case r.is("⌊"):
		r.at++
		v := r.sum()
		if !r.word("⌋") {
			return r.fail("no ⌋")
		}
		return math.Floor(v + 1e-9)
	case r.is("½"):
		r.at++
		return 0.5
	case r.is("π"):
		r.at++
		return math.Pi
	case r.is("([{"):
		r.at++
		v := r.sum()
		if !r.is(")]}") {
			return r.fail("no closing bracket at %q", string(r.s[r.at:]))
		}
		r.at++
		r.unit()
		return v
	}
	for _, name := range []string{"Φ⁻¹", "Φ", "max", "min", "tanh", "ln", "exp", "sin", "cos", "tan"} {
		if r.word(name) {
			if !r.word("(") {
				return r.fail("%s has no bracket", name)
			}
			args := []float64{r.sum()}
			for r.is(",;") {
				r.at++
				args = append(args, r.sum())
			}
			if !r.word(")") {
				return r.fail("%s is not closed at %q", name, string(r.s[r.at:]))
			}
			return functions[name](args...)
		}
	}
	return r.number()
}

func (r *reckoner) number() float64 {
	r.space()
	start := r.at
	for r.at < len(r.s) && (unicode.IsDigit(r.s[r.at]) || r.s[r.at] == '.' || r.s[r.at] == '\u202f' || r.s[r.at] == ' ' && r.thousands()) {
		r.at++
	}
	if r.at+1 < len(r.s) && r.at > start && r.s[r.at] == 'e' && (r.s[r.at+1] == '-' || r.s[r.at+1] == '+') {
		for r.at += 2; r.at < len(r.s) && unicode.IsDigit(r.s[r.at]); {
			r.at++
		}
	}
	text := strings.NewReplacer("\u202f", "", " ", "").Replace(string(r.s[start:r.at]))
	v, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return r.fail("no number at %q", string(r.s[start:]))
	}
	half := 0.0 // two digits are exact: constants, and what people enter
	if m, e, _ := strings.Cut(text, "e"); strings.Contains(m, ".") && len(strings.TrimLeft(strings.Replace(m, ".", "", 1), "0")) > 2 {
		exp, _ := strconv.Atoi(e)
		half = 0.5 * math.Pow(10, float64(exp-len(m)+strings.Index(m, ".")+1))
	}
	if r.nudg == r.nth {
		if r.by == 0 {
			v += half
		} else {
			v -= half
		}
	}
	r.nth++
	r.half = append(r.half, half)
	r.unit()
	if r.word("%") {
		return v // percentages are written into lines as they are reckoned with
	}
	return v
}

// thousands reports a space between groups of three digits, as in 86 400.
func (r *reckoner) thousands() bool {
	if r.at == 0 {
		return false
	}
	for k := 1; k <= 3; k++ {
		if r.at+k >= len(r.s) || !unicode.IsDigit(r.s[r.at+k]) {
			return false
		}
	}
	return unicode.IsDigit(r.s[r.at-1]) && (r.at+4 == len(r.s) || !unicode.IsDigit(r.s[r.at+4]))
}

func (r *reckoner) unit() {
	save := r.at
	r.space()
	for _, u := range unitsOfLines {
		n := len([]rune(u))
		if r.at+n <= len(r.s) && string(r.s[r.at:r.at+n]) == u {
			if end := r.at + n; end == len(r.s) || !unicode.IsLetter(r.s[end]) {
				r.at = end
				return
			}
		}
	}
	r.at = save
}

// agrees reports whether a step's line, reckoned, is its value as far as its roundings allow.
func agrees(s working.Step) error {
	line := s.Substituted
	v, off, err := reckon(line)
	if err != nil {
		return err
	}
	slack := 1e-6*math.Abs(s.Value) + 1e-9
	for _, d := range off {
		slack += d
	}
	if !(math.Abs(v-s.Value) <= slack) {
		return fmt.Errorf("reckons out to %g, the value is %g %s", v, s.Value, s.Unit)
	}
	if slack > 0.1*math.Abs(s.Value)+1e-6 && s.Value != 0 {
		return fmt.Errorf("is rounded so far that anything within %.2g of %g would agree", slack, s.Value)
	}
	return nil
}

func TestReckoner(t *testing.T) {
	for line, want := range map[string]float64{
		"20 · 1 · 5.23": 104.6, "[2.00 · max(0, 1.20 − 20·3.5/100) + max(0, 2.0 − 1.5)] · 20 / 20": 1.5, "100 · 4.50 mm/100": 4.5, "(3 + 4)² / 7": 7, "√(16) + ½ · 4": 6, "⌈2.1⌉ · 3": 9,
		"1\u202f345 · 2": 2690, "-3 − −2": -1, "105.733 + 8.345·Φ⁻¹(1 − 0.1/0.5)": 112.756, "2 m³ · 3 /ha": 6, "1.5e-3 · 2": 0.003, "4(2 − 1)": 4, "2^0.5": math.Sqrt2,
	} {
		if v, _, err := reckon(line); err != nil || math.Abs(v-want) > 1e-3 {
			t.Errorf("%q: %g %v, want %g", line, v, err, want)
		}
	}
	for _, line := range []string{"", "3 apples and pears", "(2", "4 + ", "stations 12, survival 0.9"} {
		if v, _, err := reckon(line); err == nil {
			t.Errorf("%q is taken for %g", line, v)
		}
	}
	if agrees(working.Step{Substituted: "20 · 1 · 5.23", Value: 119}) == nil || agrees(working.Step{Substituted: "0 · 3.1", Value: 0}) != nil || agrees(working.Step{Substituted: "2.0 · 3", Value: 6.2}) == nil {
		t.Error("agreement is too easy or too hard")
	}
}

// Every arithmetic step of every figure of the demonstration and of every calculator's example reckons out to the
// value it shows; what is no arithmetic says so in its kind.
func TestEveryLineReckonsOut(t *testing.T) {
	s, docs := demoEstate(t)
	e, err := s.Estate(ctx)
	if err != nil {
		t.Fatal(err)
	}
	lines, kinds := 0, map[working.Kind]int{}
	seen := map[string]bool{}
	look := func(where string, st working.Step) {
		kinds[st.Kind]++
		if st.Kind != working.Arithmetic {
			return
		}
		lines++
		if err := agrees(st); err != nil && !seen[st.Label+st.Formula] {
			seen[st.Label+st.Formula] = true
			t.Errorf("%s, %s: %s: “%s” %v", where, st.Figure, st.Label, st.Substituted, err)
		}
	}
	for name, d := range docs {
		tr := &working.Trace{}
		if _, err := s.compute(ctx, e.Estate, d, tr); err != nil {
			t.Fatal(err)
		}
		for _, st := range tr.Steps {
			look(name, st)
		}
	}
	for _, c := range s.Calculators().All() {
		in := map[string]any{}
		for _, f := range c.Inputs {
			if f.Default == nil && !f.Optional {
				in[f.Name] = example(f.Name)
			}
		}
		if c.Name == "lime-requirement" {
			for k, v := range map[string]float64{"ph": 5.2, "bufferPh": 6.1, "cec": 8, "basePct": 38, "al": 0.4, "caMg": 2.6, "ecec": 3.4} {
				in[k] = v
			}
		}
		r, _, err := s.Calculators().Run(c.Name, in)
		if err != nil {
			t.Errorf("%s: its example: %v", c.Name, err)
			continue
		}
		for _, st := range r.Working {
			look(c.Name, st)
		}
	}
	if lines < 300 || kinds[working.Search] == 0 || kinds[working.Count] == 0 {
		t.Errorf("%d lines reckoned, kinds %v", lines, kinds)
	}
	t.Logf("%d lines reckoned, kinds %v", lines, kinds)
}

// example is an input of a calculator that has no default of its own.
func example(name string) any {
	switch name {
	case "stations":
		return 1345.0
	case "sheet", "crop":
		return "hazelnut"
	case "rings":
		return []any{[]any{[]any{172.0, -38.0}, []any{172.002, -38.0}, []any{172.002, -37.999}, []any{172.0, -37.999}}}
	}
	return nil
}
