// Package nutrition is what a planting is fed by age: from a sheet's table to kilograms per plant,
// per hectare and for the block, and the year's splits (methods N3 A and C, N5, N7). Phosphorus and
// potassium say whether they are oxide or element by their name: n, p2o5, k2o, p, k.
package nutrition

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/civil"
)

// Names are the nutrients a table may hold, with how they are written.
var Names = map[string]string{"n": "N", "p2o5": "P₂O₅", "k2o": "K₂O", "p": "P", "k": "K", "mgo": "MgO"}

// Order is the nutrients in the order they are shown.
var Order = []string{"n", "p2o5", "p", "k2o", "k", "mgo"}

// Amounts are kg/ha (or g/plant, as the programme's basis says) by nutrient.
type Amounts map[string]float64

// Basis says what a table's figures are per.
type Basis string

const (
	PerHa    Basis = "kgPerHa"
	PerPlant Basis = "gPerPlant"
)

// Programme is one school's feeding by age.
type Programme struct {
	Basis       Basis    `yaml:"basis" json:"basis"`
	AgeBasis    string   `yaml:"ageBasis" json:"ageBasis"` // "growing-season" (1 is the first) or "elapsed" (0 is the first)
	Rows        []Row    `yaml:"rows" json:"rows"`
	PerYield    *ByYield `yaml:"perYield" json:"perYield"`
	Cycle       *Cycle   `yaml:"cycle" json:"cycle"`
	Splits      []Split  `yaml:"splits" json:"splits"`
	RainSplits  []Split  `yaml:"rainSplits" json:"rainSplits,omitempty"`       // where the place lives by its rains
	TwoRains    []Split  `yaml:"twoRainSplits" json:"twoRainSplits,omitempty"` // and where it rains twice
	Placement   string   `yaml:"placement" json:"placement"`
	Uncertainty float64  `yaml:"uncertainty" json:"uncertainty"` // share either way; 0 is not given
	Origin      string   `yaml:"origin" json:"origin"`
	Source      string   `yaml:"source" json:"source"`
}

// Row is the table at one age; between rows amounts are interpolated, the last row holds after it.
type Row struct {
	Age     float64 `yaml:"age" json:"age"`
	Amounts Amounts `yaml:"amounts" json:"amounts"`
}

// ByYield replaces nutrients from age From on by kilograms per kilogram of the year's yield, to a cap
// in kg/ha.
type ByYield struct {
	From  int     `yaml:"from" json:"from"`
	PerKg Amounts `yaml:"perKg" json:"perKg"`
	Cap   Amounts `yaml:"cap" json:"cap"`
}

// Cycle repeats yearly amounts from age From on, as a coppice is fed after each harvest.
type Cycle struct {
	From  int       `yaml:"from" json:"from"`
	Years []Amounts `yaml:"years" json:"years"`
}

// Split is one application of the year; each nutrient's shares sum to 1 over the splits.
type Split struct {
	Name   string   `yaml:"name" json:"name"`
	Season []string `yaml:"season" json:"season"`
	Days   []int    `yaml:"days" json:"days,omitempty"` // first and last day from planting instead of a season; below 0 before it
	Shares Amounts  `yaml:"shares" json:"shares"`

	Follows *civil.Follows `yaml:"follows" json:"follows,omitempty"` // what moves it once it is recorded; only with a season
}

// Normal returns the programme with its ages counted as growing seasons, the first being 1.
func (p Programme) Normal() Programme {
	if p.AgeBasis == "elapsed" {
		rows := make([]Row, len(p.Rows))
		for i, r := range p.Rows {
			rows[i] = Row{r.Age + 1, r.Amounts}
		}
		p.Rows = rows
		if p.PerYield != nil {
			y := *p.PerYield
			y.From++
			p.PerYield = &y
		}
	}
	p.AgeBasis = "growing-season"
	return p
}

// Nutrients are those the programme gives, in showing order.
func (p Programme) Nutrients() []string {
	has := p.named()
	out := make([]string, 0, len(has))
	for _, k := range Order {
		if has[k] {
			out = append(out, k)
		}
	}
	return out
}

func (p Programme) named() map[string]bool {
	has := map[string]bool{}
	note := func(a Amounts) {
		for k := range a {
			has[k] = true
		}
	}
	for _, r := range p.Rows {
		note(r.Amounts)
	}
	if p.PerYield != nil {
		note(p.PerYield.PerKg)
	}
	if p.Cycle != nil {
		for _, y := range p.Cycle.Years {
			note(y)
		}
	}
	return has
}

// At is the amount of one nutrient at age year a in the programme's own basis; yieldKgPerHa is that
// year's expected yield.
func (p Programme) At(nutrient string, a int, yieldKgPerHa float64) float64 {
	if y := p.PerYield; y != nil && a >= y.From {
		if q, ok := y.PerKg[nutrient]; ok {
			v := q * yieldKgPerHa
			if c, ok := y.Cap[nutrient]; ok {
				v = math.Min(v, c)
			}
			return v
		}
	}
	if c := p.Cycle; c != nil {
		if a < c.From {
			return 0
		}
		return c.Years[(a-c.From)%len(c.Years)][nutrient]
	}
	rows := p.Rows
	if len(rows) == 0 || float64(a) < rows[0].Age {
		return 0
	}
	for i := 1; i < len(rows); i++ {
		if float64(a) <= rows[i].Age {
			x, y := rows[i-1], rows[i]
			f := (float64(a) - x.Age) / (y.Age - x.Age)
			return x.Amounts[nutrient] + f*(y.Amounts[nutrient]-x.Amounts[nutrient])
		}
	}
	return rows[len(rows)-1].Amounts[nutrient]
}

// Dose is one nutrient in one year.
type Dose struct {
	GPerPlant, KgPerHa, BlockKg float64
}

// Stand is what a dose is spread on: living plants and the block's area.
type Stand struct {
	AliveN float64
	AreaHa float64
}

// Dose converts a table amount: kg/ha = Σ n·g/1000/area with living plants, not spacing arithmetic
// (method N7).
func (p Programme) Dose(amount float64, s Stand) Dose {
	var d Dose
	if p.Basis == PerPlant {
		d.GPerPlant = amount
		d.BlockKg = amount * s.AliveN / 1000
		if s.AreaHa > 0 {
			d.KgPerHa = d.BlockKg / s.AreaHa
		}
		return d
	}
	d.KgPerHa = amount
	d.BlockKg = amount * s.AreaHa
	if s.AliveN > 0 {
		d.GPerPlant = d.BlockKg * 1000 / s.AliveN
	}
	return d
}

// Check reports what makes a programme unusable, above all splits that do not sum to 1.
func (p Programme) Check() error {
	switch {
	case p.Basis != PerHa && p.Basis != PerPlant:
		return fmt.Errorf("basis %q is not kgPerHa or gPerPlant", p.Basis)
	case p.AgeBasis != "growing-season" && p.AgeBasis != "elapsed":
		return fmt.Errorf("age basis %q is not growing-season or elapsed", p.AgeBasis)
	case p.Origin == "":
		return fmt.Errorf("no origin")
	case p.Cycle != nil && len(p.Cycle.Years) == 0:
		return fmt.Errorf("a cycle of no years")
	}
	for i, r := range p.Rows {
		if i > 0 && r.Age <= p.Rows[i-1].Age {
			return fmt.Errorf("ages do not rise at %g", r.Age)
		}
	}
	for k := range p.named() {
		if Names[k] == "" {
			return fmt.Errorf("nutrient %q does not say oxide or element", k)
		}
	}
	for i, splits := range [][]Split{p.Splits, p.RainSplits, p.TwoRains} {
		if i > 0 && len(splits) == 0 {
			continue
		}
		if err := p.checkSplits(splits); err != nil {
			return err
		}
	}
	return nil
}

// checkSplits reports shares of a nutrient that do not sum to 1, and splits without a season.
func (p Programme) checkSplits(splits []Split) error {
	for _, k := range p.Nutrients() {
		sum := 0.0
		var parts []string
		for _, s := range splits {
			sum += s.Shares[k]
			parts = append(parts, fmt.Sprintf("%g", s.Shares[k]))
		}
		if math.Abs(sum-1) > 1e-9 {
			return fmt.Errorf("splits of %s sum to %.4g, not 1 (%s)", Names[k], sum, strings.Join(parts, " + "))
		}
	}
	for _, s := range splits {
		if (len(s.Season) == 0 || len(s.Season) > 2) != (len(s.Days) == 2 && s.Days[0] <= s.Days[1]) {
			return fmt.Errorf("split %s needs a season, or a first and a last day from planting", s.Name)
		}
		if s.Follows == nil {
			continue
		}
		if err := s.Follows.Check(); err != nil || len(s.Season) == 0 {
			return fmt.Errorf("split %s follows something and has no season to follow it in, or %v", s.Name, err)
		}
	}
	return nil
}
