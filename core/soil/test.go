package soil

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

// Test is a laboratory report of one sample. A nil number was not reported. Cations are exchangeable,
// cmolc/kg; P is mg of the element per kg by the extractant named.
type Test struct {
	ID           string     `json:"id,omitempty"` // for good; given when it is written
	Lab          string     `json:"lab"`
	Sample       string     `json:"sample"`
	On           civil.Date `json:"on"` // the day of sampling
	FromCm       float64    `json:"fromCm"`
	ToCm         float64    `json:"toCm"`
	PH           *float64   `json:"ph,omitempty"`
	PHMethod     string     `json:"phMethod"` // water, cacl2 or kcl
	BufferPH     *float64   `json:"bufferPh,omitempty"`
	BufferMethod string     `json:"bufferMethod"` // smp or mehlich
	OMPct        *float64   `json:"omPct,omitempty"`
	PMgKg        *float64   `json:"pMgKg,omitempty"`
	PMethod      string     `json:"pMethod"`
	K            *float64   `json:"kCmolKg,omitempty"`
	Ca           *float64   `json:"caCmolKg,omitempty"`
	Mg           *float64   `json:"mgCmolKg,omitempty"`
	Na           *float64   `json:"naCmolKg,omitempty"`
	Al           *float64   `json:"alCmolKg,omitempty"`
	Acidity      *float64   `json:"acidityCmolKg,omitempty"` // H + Al, potential
	CEC          *float64   `json:"cecCmolKg,omitempty"`     // at pH 7
	ECe          *float64   `json:"eceDSPerM,omitempty"`     // of the saturation extract
	SandPct      *float64   `json:"sandPct,omitempty"`
	SiltPct      *float64   `json:"siltPct,omitempty"`
	ClayPct      *float64   `json:"clayPct,omitempty"`
	LimePct      *float64   `json:"caco3Pct,omitempty"`
}

// Field describes one number of a report: its name in the contract, the word for it, its unit and the
// range beyond which it cannot be.
type Field struct {
	Name  string             `json:"name"`
	Label string             `json:"label"`
	Unit  string             `json:"unit"`
	Min   float64            `json:"min"`
	Max   float64            `json:"max"`
	Units map[string]float64 `json:"units"` // unit a laboratory may use → factor to Unit
	at    func(*Test) **float64
}

// percent etc. are the units laboratories print; cations in mg/kg by their equivalent mass.
func cation(gPerMol float64) map[string]float64 {
	return map[string]float64{"cmolc/kg": 1, "meq/100g": 1, "cmol/kg": 1, "cmolc/dm3": 1, "mmolc/kg": 0.1, "mmolc/dm3": 0.1,
		"mg/kg": 1 / (10 * gPerMol), "ppm": 1 / (10 * gPerMol), "mg/dm3": 1 / (10 * gPerMol)}
}

var (
	inPercent = map[string]float64{"%": 1, "g/kg": 0.1, "g/100g": 1, "g/dm3": 0.1}
	inCharge  = map[string]float64{"cmolc/kg": 1, "meq/100g": 1, "cmol/kg": 1, "cmolc/dm3": 1, "mmolc/kg": 0.1, "mmolc/dm3": 0.1}
	noUnit    = map[string]float64{"": 1, "-": 1}
)

// Fields is every number a report can carry. K, Ca, Mg and Na in mg/kg are turned to charge by their
// equivalent masses 39.10, 20.04, 12.15 and 22.99 g/mol, Al by 8.99; organic carbon to organic matter
// by 1.724 (the conventional van Bemmelen factor); P2O5 to P by 0.436, K2O to K by 0.830.
var Fields = []Field{
	{Name: "ph", Label: "pH", Min: 3, Max: 10, Units: noUnit, at: func(t *Test) **float64 { return &t.PH }},
	{Name: "bufferPh", Label: "Buffer pH", Min: 3, Max: 8, Units: noUnit, at: func(t *Test) **float64 { return &t.BufferPH }},
	{Name: "omPct", Label: "Organic matter", Unit: "%", Min: 0, Max: 100, Units: with(inPercent, "% C", 1.724, "g C/kg", 0.1724),
		at: func(t *Test) **float64 { return &t.OMPct }},
	{Name: "pMgKg", Label: "Phosphorus", Unit: "mg/kg", Min: 0, Max: 2000, Units: map[string]float64{"mg/kg": 1, "ppm": 1, "mg/dm3": 1, "mg P2O5/kg": 0.436,
		"lb/acre": 0.5}, at: func(t *Test) **float64 { return &t.PMgKg }},
	{Name: "kCmolKg", Label: "Potassium", Unit: "cmolc/kg", Min: 0, Max: 20, Units: with(cation(39.10), "mg K2O/kg", 0.830/391.0, "lb/acre", 0.5/391.0),
		at: func(t *Test) **float64 { return &t.K }},
	{Name: "caCmolKg", Label: "Calcium", Unit: "cmolc/kg", Min: 0, Max: 200, Units: with(cation(20.04), "lb/acre", 0.5/200.4),
		at: func(t *Test) **float64 { return &t.Ca }},
	{Name: "mgCmolKg", Label: "Magnesium", Unit: "cmolc/kg", Min: 0, Max: 60, Units: with(cation(12.15), "lb/acre", 0.5/121.5),
		at: func(t *Test) **float64 { return &t.Mg }},
	{Name: "naCmolKg", Label: "Sodium", Unit: "cmolc/kg", Min: 0, Max: 60, Units: cation(22.99), at: func(t *Test) **float64 { return &t.Na }},
	{Name: "alCmolKg", Label: "Aluminium", Unit: "cmolc/kg", Min: 0, Max: 30, Units: cation(8.99), at: func(t *Test) **float64 { return &t.Al }},
	{Name: "acidityCmolKg", Label: "Acidity (H + Al)", Unit: "cmolc/kg", Min: 0, Max: 60, Units: inCharge, at: func(t *Test) **float64 { return &t.Acidity }},
	{Name: "cecCmolKg", Label: "CEC", Unit: "cmolc/kg", Min: 0.1, Max: 200, Units: inCharge, at: func(t *Test) **float64 { return &t.CEC }},
	{Name: "eceDSPerM", Label: "Salinity ECe", Unit: "dS/m", Min: 0, Max: 100, Units: map[string]float64{"dS/m": 1, "mS/cm": 1, "mmho/cm": 1, "µS/cm": 0.001,
		"uS/cm": 0.001}, at: func(t *Test) **float64 { return &t.ECe }},
	{Name: "sandPct", Label: "Sand", Unit: "%", Min: 0, Max: 100, Units: inPercent, at: func(t *Test) **float64 { return &t.SandPct }},
	{Name: "siltPct", Label: "Silt", Unit: "%", Min: 0, Max: 100, Units: inPercent, at: func(t *Test) **float64 { return &t.SiltPct }},
	{Name: "clayPct", Label: "Clay", Unit: "%", Min: 0, Max: 100, Units: inPercent, at: func(t *Test) **float64 { return &t.ClayPct }},
	{Name: "caco3Pct", Label: "Free lime (CaCO₃)", Unit: "%", Min: 0, Max: 100, Units: inPercent, at: func(t *Test) **float64 { return &t.LimePct }},
}

func with(m map[string]float64, more ...any) map[string]float64 {
	out := map[string]float64{}
	for k, v := range m {
		out[k] = v
	}
	for i := 0; i < len(more); i += 2 {
		out[more[i].(string)] = more[i+1].(float64)
	}
	return out
}

// FieldNamed finds a field by its name.
func FieldNamed(name string) (Field, bool) {
	for _, f := range Fields {
		if f.Name == name {
			return f, true
		}
	}
	return Field{}, false
}

// Set puts a value given in unit into the test. The error names what units are read.
func (f Field) Set(t *Test, v float64, unit string) error {
	k, ok := f.factor(unit)
	if !ok {
		return finding.Bad(f.Name, unit, "is not a unit "+f.Label+" is read in", strings.Join(f.UnitNames(), ", "))
	}
	x := v * k
	if math.IsNaN(x) || x < f.Min || x > f.Max {
		return finding.Bad(f.Name, v, "cannot be "+f.Label, fmt.Sprintf("%g to %g %s", f.Min, f.Max, f.Unit))
	}
	*f.at(t) = &x
	return nil
}

// UnitNames are the units it is read in, sorted.
func (f Field) UnitNames() []string {
	known := make([]string, 0, len(f.Units))
	for u := range f.Units {
		known = append(known, u)
	}
	slices.Sort(known)
	return known
}

// Get is the value in the field's own unit.
func (f Field) Get(t *Test) (float64, bool) {
	p := *f.at(t)
	if p == nil {
		return 0, false
	}
	return *p, true
}

func (f Field) factor(unit string) (float64, bool) {
	clean := func(s string) string {
		return strings.ToLower(strings.NewReplacer(" ", "", "³", "3", "₂", "2", "₅", "5", "μ", "µ").Replace(s))
	}
	if k, ok := f.Units[unit]; ok {
		return k, true
	}
	for u, k := range f.Units {
		if clean(u) == clean(unit) {
			return k, true
		}
	}
	return 0, false
}

// PHMethods and BufferMethods are those known.
var (
	PHMethods     = []string{"water", "cacl2", "kcl"}
	BufferMethods = []string{"smp", "mehlich"}
)

// Empty reports that nothing was measured: such a test says nothing of the soil.
func (t Test) Empty() bool {
	for _, f := range Fields {
		if _, ok := f.Get(&t); ok {
			return false
		}
	}
	return true
}

// Valid refuses what cannot be.
func (t Test) Valid(field string) error {
	if t.On.IsZero() {
		return finding.Bad(field+".on", "", "a soil test needs the day of sampling", "a day written YYYY-MM-DD")
	}
	if !(t.FromCm >= 0 && t.ToCm > t.FromCm && t.ToCm <= 200) {
		return finding.Bad(field+".toCm", fmt.Sprintf("%g–%g", t.FromCm, t.ToCm), "is not a sampling depth", "0 to 200 cm, from the top down")
	}
	if t.PH != nil && !oneOf(t.PHMethod, PHMethods) {
		return finding.Bad(field+".phMethod", t.PHMethod, "a pH needs its method: in salt solutions it reads lower than in water", strings.Join(PHMethods, ", "))
	}
	if t.BufferPH != nil && !oneOf(t.BufferMethod, BufferMethods) {
		return finding.Bad(field+".bufferMethod", t.BufferMethod, "a buffer pH needs its method", strings.Join(BufferMethods, ", "))
	}
	for _, f := range Fields {
		if v, ok := f.Get(&t); ok && !(v >= f.Min && v <= f.Max) {
			return finding.Bad(field+"."+f.Name, v, "cannot be "+f.Label, fmt.Sprintf("%g to %g %s", f.Min, f.Max, f.Unit))
		}
	}
	if t.SandPct != nil && t.SiltPct != nil && t.ClayPct != nil {
		if _, err := Classify(Fractions{*t.SandPct, *t.SiltPct, *t.ClayPct}); err != nil {
			return err
		}
	}
	return nil
}

// PHWater is the pH in water: as measured, or from CaCl₂ + 0.6 and KCl + 0.9 (from memory, ± 0.3);
// estimated says which.
func (t Test) PHWater() (ph float64, estimated, ok bool) {
	if t.PH == nil {
		return 0, false, false
	}
	switch t.PHMethod {
	case "cacl2":
		return *t.PH + 0.6, true, true
	case "kcl":
		return *t.PH + 0.9, true, true
	}
	return *t.PH, false, true
}

// Bases is the sum of K, Ca, Mg and Na; ok when Ca and Mg at least are there.
func (t Test) Bases() (sum float64, ok bool) {
	if t.Ca == nil || t.Mg == nil {
		return 0, false
	}
	for _, v := range []*float64{t.Ca, t.Mg, t.K, t.Na} {
		if v != nil {
			sum += *v
		}
	}
	return sum, true
}

// CECAt7 is the cation exchange capacity at pH 7: reported, or bases + (H + Al).
func (t Test) CECAt7() (float64, bool) {
	if t.CEC != nil {
		return *t.CEC, true
	}
	if b, ok := t.Bases(); ok && t.Acidity != nil {
		return b + *t.Acidity, true
	}
	return 0, false
}

// BaseSaturation is V, in per cent of the CEC at pH 7 (van Raij et al., Boletim Técnico 100, Instituto
// Agronômico, 2nd ed., 1997).
func (t Test) BaseSaturation() (float64, bool) {
	b, ok := t.Bases()
	cec, ok2 := t.CECAt7()
	if !ok || !ok2 || cec <= 0 {
		return 0, false
	}
	return 100 * b / cec, true
}

// ESP is exchangeable sodium in per cent of the CEC.
func (t Test) ESP() (float64, bool) {
	cec, ok := t.CECAt7()
	if !ok || t.Na == nil || cec <= 0 {
		return 0, false
	}
	return 100 * *t.Na / cec, true
}

// Doubt is something in a report that cannot be so, with its arithmetic.
type Doubt struct{ Rule, Sentence string }

// MostCEC is the exchange capacity in cmolc/kg above which a mineral soil's is doubted (common practice: smectite clays
// reach 50 to 60).
const MostCEC = 60.0

// Doubts are contradictions inside a report.
func (t Test) Doubts() []Doubt {
	var out []Doubt
	b, okB := t.Bases()
	if okB && t.CEC != nil && b > *t.CEC*1.005 {
		out = append(out, Doubt{"soil.cec-below-bases",
			fmt.Sprintf("The report gives a CEC of %.1f cmolc/kg, smaller than the sum of its bases: %s = %.1f, a base saturation of %.0f %%. One of them is in "+
				"another unit, or free lime was dissolved with the bases.", *t.CEC, t.sum(), b, 100*b / *t.CEC)})
	}
	if cec, ok := t.CECAt7(); ok && cec > MostCEC && (t.OMPct == nil || *t.OMPct < 20) {
		out = append(out, Doubt{"soil.cec-too-high", fmt.Sprintf("A CEC of %.0f cmolc/kg is more than a mineral soil holds: it looks like mmolc, ten times as many.",
			cec)})
	}
	if okB && t.CEC != nil && t.Acidity != nil {
		if d := math.Abs(b + *t.Acidity - *t.CEC); d > 0.1**t.CEC && d > 0.5 {
			out = append(out, Doubt{"soil.cec-does-not-sum", fmt.Sprintf("Bases and acidity make %.1f + %.1f = %.1f cmolc/kg, the report gives a CEC of %.1f.", b,
				*t.Acidity, b+*t.Acidity, *t.CEC)})
		}
	}
	if ph, _, ok := t.PHWater(); ok && t.Al != nil && *t.Al > 0.3 && ph > 5.8 {
		out = append(out, Doubt{"soil.aluminium-at-high-ph",
			fmt.Sprintf("Exchangeable aluminium of %.1f cmolc/kg at a pH of %.1f: above 5.8 there is next to none. Ask the laboratory.", *t.Al, ph)})
	}
	if ph, _, ok := t.PHWater(); ok && t.LimePct != nil && *t.LimePct > 1 && ph < 6.5 {
		out = append(out, Doubt{"soil.lime-at-low-ph", fmt.Sprintf("%.1f %% free lime at a pH of %.1f: a soil with free lime stands at 7 or above.", *t.LimePct, ph)})
	}
	return out
}

func (t Test) sum() string {
	var parts []string
	for _, c := range []struct {
		n string
		v *float64
	}{{"Ca", t.Ca}, {"Mg", t.Mg}, {"K", t.K}, {"Na", t.Na}} {
		if c.v != nil {
			parts = append(parts, fmt.Sprintf("%s %.2f", c.n, *c.v))
		}
	}
	return strings.Join(parts, " + ")
}

// Top is the test the amendments rest on: the newest of the topsoil that holds a pH, else the newest
// of the topsoil.
func Top(tests []Test) (place int, ok bool) {
	best := 0
	better := func(i int) bool {
		if !ok {
			return true
		}
		a, c := tests[i], tests[best]
		if (a.PH != nil) != (c.PH != nil) {
			return a.PH != nil
		}
		return a.On.After(c.On)
	}
	for i, t := range tests {
		if t.FromCm <= 10 && better(i) {
			best, ok = i, true
		}
	}
	return best, ok
}
