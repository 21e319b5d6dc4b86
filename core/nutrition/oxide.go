package nutrition

import (
	"fmt"
	"strings"
)

// Abridged standard atomic weights: IUPAC, 2021.
var weight = map[string]float64{"N": 14.007, "O": 15.999, "P": 30.974, "K": 39.098, "Ca": 40.078, "Mg": 24.305, "S": 32.06, "B": 10.81, "Na": 22.990,
	"H": 1.008,
	"C": 12.011}

// Form is a compound a label or a report counts in, and the element in it.
type Form struct {
	Name    string // as it is written: P₂O₅
	Element string
	n       float64            // atoms of the element
	atoms   map[string]float64 // of the whole
}

// Forms are the compounds of labels and reports, method N1.
var Forms = []Form{
	{"P2O5", "P", 2, map[string]float64{"P": 2, "O": 5}}, {"K2O", "K", 2, map[string]float64{"K": 2, "O": 1}},
	{"CaO", "Ca", 1, map[string]float64{"Ca": 1, "O": 1}}, {"MgO", "Mg", 1, map[string]float64{"Mg": 1, "O": 1}},
	{"CaCO3", "Ca", 1, map[string]float64{"Ca": 1, "C": 1, "O": 3}}, {"Na2O", "Na", 2, map[string]float64{"Na": 2, "O": 1}},
	{"SO3", "S", 1, map[string]float64{"S": 1, "O": 3}}, {"SO4", "S", 1, map[string]float64{"S": 1, "O": 4}},
	{"NO3", "N", 1, map[string]float64{"N": 1, "O": 3}}, {"NH4", "N", 1, map[string]float64{"N": 1, "H": 4}},
	{"B2O3", "B", 2, map[string]float64{"B": 2, "O": 3}},
}

// Mass is the mole mass of the compound in g/mol.
func (f Form) Mass() float64 {
	m := 0.0
	for a, n := range f.atoms {
		m += n * weight[a]
	}
	return m
}

// Sum is Share with its numbers put in.
func (f Form) Sum() string { return fmt.Sprintf("%g × %g / %.3f", f.n, weight[f.Element], f.Mass()) }

// Share is kg of the element in a kg of the compound.
func (f Form) Share() float64 { return f.n * weight[f.Element] / f.Mass() }

// Element is kg of the element in kg of a nutrient as tables name it (p2o5, k, mgo …), and the element's name.
func Element(nutrient string, kg float64) (string, float64) {
	for _, f := range Forms {
		if strings.EqualFold(f.Name, nutrient) {
			return strings.ToLower(f.Element), kg * f.Share()
		}
	}
	return nutrient, kg
}
