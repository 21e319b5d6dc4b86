package nutrition

import "fmt"

// Removal is what leaves with a tonne of the product as its yields count it: kilograms of the element,
// low, base and high (method N3 B).
type Removal struct {
	Of     string                `yaml:"of" json:"of"`
	PerT   map[string][3]float64 `yaml:"perT" json:"perT"` // by n, p and k
	Origin string                `yaml:"origin" json:"origin"`
}

// Check reports a removal that is no range of the three elements.
func (r Removal) Check() error {
	if r.Of == "" || r.Origin == "" {
		return fmt.Errorf("removal names neither what leaves nor where it is known from")
	}
	for _, e := range []string{"n", "p", "k"} {
		if v, ok := r.PerT[e]; !ok || !(0 <= v[0] && v[0] <= v[1] && v[1] <= v[2] && v[2] < 2000) {
			return fmt.Errorf("removal of %s: %v is no range of kg per t", e, v)
		}
	}
	if len(r.PerT) != 3 {
		return fmt.Errorf("removal knows n, p and k, not %d nutrients", len(r.PerT))
	}
	return nil
}

// Balance is one element of a year: what the crop carries off and what is given, kg of the element per hectare.
type Balance struct {
	Element    string
	Out, Given float64
}

// Balances compares a year's feeding, kg/ha by nutrient, with what yieldKgPerHa carries off, in the order n, p, k.
func (r Removal) Balances(fed Amounts, yieldKgPerHa float64) []Balance {
	given := map[string]float64{}
	for k, v := range fed {
		e, kg := Element(k, v)
		given[e] += kg
	}
	out := make([]Balance, 0, 3)
	for _, e := range []string{"n", "p", "k"} {
		out = append(out, Balance{e, r.PerT[e][1] * yieldKgPerHa / 1000, given[e]})
	}
	return out
}

// Ledger is a year's amount of one nutrient against its splits, method N5.
type Ledger struct {
	Annual, Sum, Diff float64 // Diff is Sum − Annual
	Running           []float64
	Balanced          bool
	Scale             float64   // repair 1: every split times this
	Scaled            []float64 // the splits after it
}

// Tolerance of a ledger: half a kilogram, or half a per cent of the year.
const (
	ledgerKg    = 0.5
	ledgerShare = 0.005
)

// Balanced sums the splits of a year against its amount. Scale is 0 where nothing can be scaled.
func Balanced(annual float64, splits []float64) Ledger {
	l := Ledger{Annual: annual, Running: make([]float64, len(splits)), Scaled: make([]float64, len(splits))}
	for i, s := range splits {
		l.Sum += s
		l.Running[i] = l.Sum
	}
	l.Diff = l.Sum - annual
	l.Balanced = l.Diff <= max(ledgerKg, ledgerShare*annual) && -l.Diff <= max(ledgerKg, ledgerShare*annual)
	if l.Sum > 0 {
		l.Scale = annual / l.Sum
	}
	for i, s := range splits {
		l.Scaled[i] = s * l.Scale
	}
	return l
}
