// Package fittings counts what a layout takes besides its plants: supports, drip line, strips of film or mulch, pits, guards, tunnels,
// fences, seed of covers. Each kind says its fields, their usual values and where these come from.
package fittings

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/units"
)

// Field is one number of a kind, with its usual value.
type Field struct {
	Name     string         `json:"name"`
	Label    string         `json:"label"`
	Quantity units.Quantity `json:"quantity"`
	Usual    float64        `json:"usual"`
	Min      float64        `json:"min"`
	Max      float64        `json:"max"`
}

// Kind is one sort of fitting.
type Kind struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Says   string  `json:"says"`   // what it is for
	Source string  `json:"source"` // of its formula and its usual values
	Fields []Field `json:"fields"`

	take func(v values, s Site) []Item
}

// Site is the ground a fitting is counted on.
type Site struct {
	RowsM      []float64 // length of every piece of row, end to end
	Stations   int
	Plants     int
	PlantedM2  float64
	AreaM2     float64
	PerimeterM float64
	RowM       float64 // between rows, or the width after which strips repeat
	SlopePct   float64 // along the rows; 0 where it is not known
}

// metres is the length of all rows.
func (s Site) metres() float64 {
	m := 0.0
	for _, l := range s.RowsM {
		m += l
	}
	return m
}

// Item is one thing taken, with how it follows.
type Item struct {
	What        string
	Price       string // its name in the price book
	Amount      float64
	Quantity    units.Quantity
	Formula     string
	Substituted string
}

// Summed reports that an item is a sum over rows, of which the numbers put in are no sum to reckon.
func (i Item) Summed() bool { return strings.HasPrefix(i.Formula, "Σ over rows") }

type values map[string]float64

// Named finds a kind.
func Named(id string) (Kind, bool) {
	i := slices.IndexFunc(Kinds, func(k Kind) bool { return k.ID == id })
	if i < 0 {
		return Kind{}, false
	}
	return Kinds[i], true
}

// Names lists the ids of the kinds.
func Names() []string {
	out := make([]string, len(Kinds))
	for i, k := range Kinds {
		out[i] = k.ID
	}
	return out
}

// filled are the values with the usual one wherever nothing was said.
func (k Kind) filled(said map[string]float64) values {
	v := values{}
	for _, f := range k.Fields {
		v[f.Name] = f.Usual
		if x, ok := said[f.Name]; ok {
			v[f.Name] = x
		}
	}
	return v
}

// lifeY is the field of a kind that wears out before the crop does, lastsLabel its label.
const (
	lifeY      = "lifeY"
	lastsLabel = "Lasts, years; 0 is as long as the crop"
)

// Renewed are the ages, in years since it was put up, at which a fitting is put up anew while the crop stands for so many years: every
// lifeY years, while it lasts less than the crop. Years of life: woven fabric and heavy drip line 8 to 10, trellis 20 (methods BED-2 and M1,
// common practice); film for one crop 1.
func Renewed(kind string, said map[string]float64, stands int) []int {
	k, ok := Named(kind)
	if !ok {
		return nil
	}
	life := int(math.Round(k.filled(said)[lifeY]))
	var out []int
	for at := life; life > 0 && at < stands; at += life {
		out = append(out, at)
	}
	return out
}

// Valid refuses values a fitting cannot have, as a *finding.FieldError.
func Valid(at, kind string, said map[string]float64) error {
	k, ok := Named(kind)
	if !ok {
		return finding.Bad(at+".kind", kind, "is not a fitting known here", strings.Join(Names(), ", "))
	}
	for name, x := range said {
		i := slices.IndexFunc(k.Fields, func(f Field) bool { return f.Name == name })
		if i < 0 {
			return finding.Bad(at+".values."+name, x, "is no value of "+k.Name, "one of its fields")
		}
		if f := k.Fields[i]; !(x >= f.Min && x <= f.Max) {
			return finding.Bad(at+".values."+name, x, "cannot be the "+strings.ToLower(f.Label), fmt.Sprintf("%g to %g", f.Min, f.Max))
		}
	}
	return nil
}

// Take counts a fitting on a site. Unknown kinds take nothing.
func Take(kind string, said map[string]float64, s Site) []Item {
	k, ok := Named(kind)
	if !ok {
		return nil
	}
	return k.take(k.filled(said), s)
}

// Priced is a thing of fittings that a price can be kept for, with the unit it is bought by.
var Priced = []struct{ Item, Name, Unit string }{
	{"post", "line post or arm", "piece"}, {"end-assembly", "end assembly", "piece"}, {"anchor", "anchor", "piece"}, {"wire", "wire", "m"},
	{"staple", "staple", "piece"},
	{"tensioner", "tensioner", "piece"}, {"drip-end", "end closure of drip line", "piece"}, {"mulch", "mulch, loose", "m³"},
	{"organic", "compost or manure, well rotted", "m³"},
	{"stake", "stake", "piece"}, {"tie", "tie", "piece"}, {"guard", "guard", "piece"}, {"screen", "screen for young plants", "piece"}, {"fence", "fence netting",
		"m"},
	{"fence-post", "fence post", "piece"}, {"gate", "gate", "piece"}, {"hoop", "tunnel hoop", "piece"}, {"tunnel-film", "tunnel film", "m²"},
	{"net", "net or rope", "m"}, {"kit", "arm or post of a kit", "piece"}, {"kit-end", "row end of a kit", "piece"}, {"cover-film", "film of a rain cover", "m²"},
	{"bracket", "bracket of a rain cover", "piece"},
	{"seed", "seed of a cover", "kg"}, {"pot", "pot or bag", "piece"}, {"substrate", "substrate", "m³"},
}

const (
	practice = "common practice, no source"
	small    = 1e-9
)

// up is the next whole number, rounding aside.
func up(x float64) float64 { return math.Ceil(x - small) }

// Kinds are the fittings, in the order they are offered.
var Kinds = []Kind{
	{ID: "trellis", Name: "Trellis", Says: "posts, wires, end assemblies and anchors along every row", Source: "method LAY-8; usual values " + practice,
		Fields: []Field{
			{"postM", "Between line posts or arms", units.Spacing, 6, 1, 30}, {"wires", "Wires", units.Count, 3, 1, 20}, {"tieM", "Wire for each tie", units.Spacing, 2,
				0, 10},
			{"slack", "Wire cut longer by", units.Fraction, 0.03, 0, 0.3}, {"braceM", "Extra brace in rows longer than", units.Distance, 120, 20, 1000},
			{"rollM", "Wire on a roll", units.Distance, 500, 10, 10000},
			{lifeY, lastsLabel, units.Plain, 20, 0, 60}}, take: trellis},
	{ID: "kit", Name: "Support bought as a kit", Says: "arms or posts by spacing along every row, with their ends: wire and anchors come with it",
		Source: "method LAY-8; usual values " + practice,
		Fields: []Field{{"armM", "Between arms or posts", units.Spacing, 9.1, 1, 30}, {"spare", "Spare", units.Fraction, 0.02, 0, 0.5},
			{lifeY, lastsLabel, units.Plain, 20, 0, 60}}, take: kit},
	{ID: "drip", Name: "Drip line", Says: "line along every row, with its emitters", Source: "method BED-2; usual values " + practice, Fields: []Field{
		{"lines", "Lines a row", units.Count, 1, 1, 6}, {"emitterM", "Between emitters", units.Spacing, 0.5, 0.1, 10}, {"extra", "Cut longer by", units.Fraction,
			0.02, 0, 0.3},
		{"rollM", "Line on a roll", units.Distance, 400, 10, 5000},
		{lifeY, lastsLabel, units.Plain, 9, 0, 60}}, take: drip},
	{ID: "film", Name: "Film or fabric", Says: "a strip over every row", Source: "method BED-2; usual values " + practice, Fields: []Field{
		{"widthM", "Width", units.Spacing, 1.2, 0.3, 10}, {"endM", "At each row end", units.Spacing, 0.75, 0, 5}, {"overlap", "Overlap at joints", units.Fraction,
			0.015, 0, 0.2},
		{"rollM", "On a roll", units.Distance, 100, 5, 5000},
		{lifeY, lastsLabel, units.Plain, 9, 0, 60}}, take: film},
	{ID: "mulch", Name: "Mulch", Says: "chips, straw or sawdust along every row", Source: "method BED-6; usual values " + practice, Fields: []Field{
		{"widthM", "Width of the strip", units.Spacing, 1, 0.2, 10}, {"deepCm", "Deep, settled", units.Depth, 10, 1, 60}, {"settles", "Settles to", units.Fraction,
			0.7, 0.3, 1}}, take: mulch},
	{ID: "pits", Name: "Planting pits", Says: "a pit at every station, topsoil and subsoil heaped apart", Source: "method BED-3; usual values " + practice,
		Fields: []Field{
			{"longM", "Long", units.Spacing, 0.6, 0.1, 3}, {"wideM", "Wide", units.Spacing, 0.6, 0.1, 3}, {"deepM", "Deep", units.Spacing, 0.6, 0.1, 3},
			{"topsoilM", "Topsoil", units.Spacing, 0.25, 0, 3},
			{"organic", "Organic share of the fill", units.Fraction, 0.2, 0, 0.5}, {"ballL", "Root ball, L", units.Plain, 5, 0, 500}, {"m3Day", "Dug by hand a day, m³",
				units.Plain, 3, 0.2, 50}}, take: pits},
	{ID: "furrow", Name: "Planting furrow", Says: "a furrow along every row", Source: "geometry", Fields: []Field{
		{"widthM", "Wide", units.Spacing, 0.3, 0.05, 3}, {"deepM", "Deep", units.Spacing, 0.3, 0.05, 2}}, take: furrow},
	{ID: "stakes", Name: "Stakes", Says: "at every station", Source: practice, Fields: []Field{{"each", "Stakes a station", units.Count, 1, 1, 4},
		{"ties", "Ties a stake", units.Count, 2, 0, 6}}, take: stakes},
	{ID: "guards", Name: "Guards", Says: "round every plant", Source: practice, Fields: []Field{{"each", "Guards a plant", units.Count, 1, 1, 2}}, take: guards},
	{ID: "shade", Name: "Temporary shade", Says: "a screen or cap at every station for its first season", Source: practice,
		Fields: []Field{{"each", "Screens a station", units.Count, 1, 1, 4}}, take: shades},
	{ID: "fence", Name: "Fence", Says: "round the block", Source: practice, Fields: []Field{{"postM", "Between posts", units.Spacing, 4, 1, 20},
		{"wires", "Wires", units.Count, 0, 0, 20},
		{"gates", "Gates", units.Count, 1, 0, 20}, {"gateM", "Width of a gate", units.Spacing, 4, 1, 12}, {"outM", "Outside the boundary", units.Spacing, 0, 0, 50},
		{lifeY, lastsLabel, units.Plain, 0, 0, 60}},
		take: fence},
	{ID: "tunnel", Name: "Tunnels", Says: "hoops and film over bays of rows", Source: "geometry; usual values " + practice,
		Fields: []Field{{"bayM", "Width of a bay", units.Spacing, 8, 1, 20},
			{"highM", "Height", units.Spacing, 3.5, 0.5, 8}, {"hoopM", "Between hoops", units.Spacing, 2, 0.5, 6}, {"skirtM", "Film buried each side", units.Spacing,
				0.5, 0, 3},
			{lifeY, lastsLabel, units.Plain, 0, 0, 60}}, take: tunnel},
	{ID: "cover", Name: "Rain cover", Says: "film on brackets over every row", Source: "geometry; usual values " + practice, Fields: []Field{
		{"widthM", "Width of the film", units.Spacing, 2.2, 0.5, 10}, {"endM", "At each row end", units.Spacing, 1, 0, 10},
		{"bracketM", "Between brackets", units.Spacing, 3, 0.5, 10}, {lifeY, lastsLabel, units.Plain, 0, 0, 60}}, take: cover},
	{ID: "net", Name: "Net or rope", Says: "along every row", Source: practice, Fields: []Field{{"lines", "Lines a row", units.Count, 1, 1, 10},
		{"extra", "Cut longer by", units.Fraction, 0.05, 0, 0.5},
		{lifeY, lastsLabel, units.Plain, 0, 0, 60}}, take: net},
	{ID: "seed", Name: "Seed of a cover", Says: "on the ground between the rows", Source: "rate and germination as said; usual values " + practice,
		Fields: []Field{{"kgHa", "Seed, kg for each hectare sown", units.Plain, 25, 0.1, 500},
			{"share", "Of the ground sown", units.Fraction, 0.6, 0.01, 1}, {"germination", "Germination of the lot", units.Fraction, 0.85, 0.05, 1},
			{"reckoned", "Germination the rate reckons with", units.Fraction, 0.85, 0.05, 1}}, take: seed},
	{ID: "pots", Name: "Pots or bags", Says: "substrate for every plant", Source: "method BED-6; usual values " + practice,
		Fields: []Field{{"litres", "Volume, L", units.Plain, 10, 0.1, 200},
			{"shrink", "Settles by", units.Fraction, 0.12, 0, 0.4}, {"spare", "Spare", units.Fraction, 0.02, 0, 0.5}}, take: pots},
}
