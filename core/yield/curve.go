// Package yield is how a crop builds up: the fraction of full yield by age, times the full yield at
// the block's density and stand, to the end of the planting's life (methods Y6 to Y9).
package yield

import (
	"fmt"
	"math"
	"slices"
	"strconv"

	"slowroot/core/civil"
)

// Range is an estimate, kg/ha a year unless said otherwise.
type Range struct {
	Low  float64 `yaml:"low" json:"low"`
	Base float64 `yaml:"base" json:"base"`
	High float64 `yaml:"high" json:"high"`
}

// Times is the range scaled by f.
func (r Range) Times(f float64) Range { return Range{r.Low * f, r.Base * f, r.High * f} }

// Plus is the sum of two ranges, their ends taken together (the years of one block rise and fall
// together more than they cancel).
func (r Range) Plus(o Range) Range { return Range{r.Low + o.Low, r.Base + o.Base, r.High + o.High} }

// Curve is one school's build-up.
type Curve struct {
	Full           Range        `yaml:"full" json:"full"`                     // kg/ha a year at the reference density, full stand
	ReferencePerHa float64      `yaml:"referencePerHa" json:"referencePerHa"` // plants/ha the full yield was seen at
	Fractions      [][2]float64 `yaml:"fractions" json:"fractions"`           // age year, fraction of full
	// at full age and reference density: 0 plants do not feel each other, 1 yield per ha no longer rises with density
	Crowding float64 `yaml:"crowding" json:"crowding"`
	Origin   string  `yaml:"origin" json:"origin"`
	Source   string  `yaml:"source" json:"source"`
}

// Check reports what a curve lacks.
func (c Curve) Check() error {
	switch {
	case !(0 < c.Full.Low && c.Full.Low <= c.Full.Base && c.Full.Base <= c.Full.High):
		return fmt.Errorf("full yield must rise from low to high, got %+v", c.Full)
	case c.ReferencePerHa <= 0:
		return fmt.Errorf("full yield names no density")
	case len(c.Fractions) < 2:
		return fmt.Errorf("fewer than two ages")
	case c.Crowding < 0 || c.Crowding > 1:
		return fmt.Errorf("crowding %g is not 0 to 1", c.Crowding)
	case c.Origin == "":
		return fmt.Errorf("no origin")
	}
	top := 0.0
	for i, p := range c.Fractions {
		if i > 0 && p[0] <= c.Fractions[i-1][0] {
			return fmt.Errorf("ages do not rise at %g", p[0])
		}
		if p[1] < 0 || p[1] > 1 {
			return fmt.Errorf("fraction %g at age %g is not 0 to 1", p[1], p[0])
		}
		top = math.Max(top, p[1])
	}
	if top != 1 {
		return fmt.Errorf("no age reaches the full yield: the largest fraction is %g", top)
	}
	return nil
}

// Fraction is the share of full yield at age year a: 0 before the first age of the table, linear
// between its ages, the last value after them (method Y6).
func (c Curve) Fraction(a float64) float64 {
	t := c.Fractions
	if len(t) == 0 || a < t[0][0] {
		return 0
	}
	for i := 1; i < len(t); i++ {
		if a <= t[i][0] {
			p, q := t[i-1], t[i]
			return p[1] + (q[1]-p[1])*(a-p[0])/(q[0]-p[0])
		}
	}
	return t[len(t)-1][1]
}

// Begins is the first age year with a crop, 0 where none ever comes.
func (c Curve) Begins() int {
	for age := 1; age <= 100; age++ {
		if c.Fraction(float64(age)) > 0 {
			return age
		}
	}
	return 0
}

// Density is the factor on yield per hectare for a density other than the reference, from the
// asymptotic law 1/w = α + βρ of K. Shinozaki and T. Kira, Intraspecific competition among higher
// plants VII, J. Inst. Polytech. Osaka City Univ. D7, 1956, written relative to the reference:
// r/((1 − c) + c·r). Crowding c grows with the fraction of full size, since young plants do not yet
// feel each other; with c = 0 the yield is constant per plant, with c = 1 constant per hectare.
func (c Curve) Density(perHa, fraction float64) float64 {
	if perHa <= 0 {
		return 0
	}
	r, k := perHa/c.ReferencePerHa, c.Crowding*fraction
	return r / ((1 - k) + k*r)
}

// Extrapolated reports a density so far from the reference that the law is not to be trusted
// (method Y7: 0.4 to 2.5 times).
func (c Curve) Extrapolated(perHa float64) bool {
	r := perHa / c.ReferencePerHa
	return r < 0.4 || r > 2.5
}

// Stand is what is expected to be alive and what gaps cost.
type Stand struct {
	FirstYearLoss float64 `yaml:"firstYearLoss" json:"firstYearLoss"` // after gap filling
	YearlyLoss    float64 `yaml:"yearlyLoss" json:"yearlyLoss"`
	GapFree       float64 `yaml:"gapFree" json:"gapFree"`     // share of gaps neighbours make good
	GapEffect     float64 `yaml:"gapEffect" json:"gapEffect"` // yield lost per share of gaps beyond that
	Origin        string  `yaml:"origin" json:"origin"`
}

// Alive is the expected share of stations alive in age year a: (1 − m1)(1 − m)^(a−1), method Y9.
func (s Stand) Alive(a int) float64 {
	if a < 1 {
		return 1
	}
	return (1 - s.FirstYearLoss) * math.Pow(1-s.YearlyLoss, float64(a-1))
}

// Factor is what a share alive does to the yield, method Y8.
func (s Stand) Factor(alive float64) float64 {
	g := 1 - alive
	if g <= s.GapFree {
		return 1
	}
	return math.Max(0, 1-g*s.GapEffect)
}

// Harvest says when the yield comes off.
type Harvest struct {
	Picks    []Pick    `yaml:"picks" json:"picks"`                         // each year; shares sum to 1
	Rains    []Pick    `yaml:"rainPicks" json:"rainPicks,omitempty"`       // where the place lives by its rains
	TwoRains []Pick    `yaml:"twoRainPicks" json:"twoRainPicks,omitempty"` // and where it rains twice
	Rotation *Rotation `yaml:"rotation" json:"rotation"`                   // one harvest for several years' growth
	Cycle    *Cycle    `yaml:"cycle" json:"cycle"`                         // a pruning cycle that moves the yearly yield
	Bloom    *Bloom    `yaml:"bloom" json:"bloom,omitempty"`               // it follows from; nil where it does not, or is not known
	Origin   string    `yaml:"origin" json:"origin"`
}

// Pick is one harvest of the year.
type Pick struct {
	Name   string   `yaml:"name" json:"name"`
	Season []string `yaml:"season" json:"season"`
	Days   []int    `yaml:"days" json:"days,omitempty"` // first and last day from planting instead of a season
	Share  float64  `yaml:"share" json:"share"`
	Next   bool     `yaml:"next" json:"next,omitempty"` // in that season of the year after, as fruit that hangs over winter
	Rounds string   `yaml:"rounds" json:"rounds"`

	Bloom   *Bloom         `yaml:"bloom" json:"bloom,omitempty"`     // its own, where the crop flowers more than once a year
	Follows *civil.Follows `yaml:"follows" json:"follows,omitempty"` // what moves it once it is recorded; only with a season
}

// Rotation is a coppice harvest at the end of age year First and every Every years after; it takes
// Every years of growth, the first one FirstYears of them. With Fractions the share of the full
// annual rate is given per harvest, the last one repeating, instead of by age.
type Rotation struct {
	First      int       `yaml:"first" json:"first"`
	Every      int       `yaml:"every" json:"every"`
	FirstYears int       `yaml:"firstYears" json:"firstYears"`
	Fractions  []float64 `yaml:"fractions" json:"fractions"`
}

// Cycle multiplies the yield from age year From on by its factors in turn; they average to 1.
type Cycle struct {
	From    int       `yaml:"from" json:"from"`
	Factors []float64 `yaml:"factors" json:"factors"`
}

// Bloom is when a crop flowers, and the days from a flower to its ripe fruit, the fewest and the most (method C14).
type Bloom struct {
	Season []string `yaml:"season" json:"season"`
	Rains  []string `yaml:"rains" json:"rains,omitempty"` // the same where the place lives by its rains
	Days   [2]int   `yaml:"days" json:"days"`
	Origin string   `yaml:"origin" json:"origin"`
}

func (b Bloom) sound() bool {
	return len(b.Season) > 0 && len(b.Season) < 3 && b.Days[0] > 0 && b.Days[0] <= b.Days[1] && b.Days[1] <= 700 && b.Origin != ""
}

// Flowering is the id of the first flowering of a year; a second one has “-2” behind it.
const Flowering = "flowering"

// Flowerings are the flowerings of a year by their ids: that of the whole harvest first, then those of single picks.
func (h Harvest) Flowerings() (ids []string, blooms []Bloom) {
	add := func(b *Bloom) {
		if b == nil || slices.ContainsFunc(blooms, func(x Bloom) bool { return slices.Equal(x.Season, b.Season) }) {
			return
		}
		id := Flowering
		if len(ids) > 0 {
			id += "-" + strconv.Itoa(len(ids)+1)
		}
		ids, blooms = append(ids, id), append(blooms, *b)
	}
	add(h.Bloom)
	for _, p := range h.Picks {
		add(p.Bloom)
	}
	return ids, blooms
}

// FlowersFor is the flowering a pick comes from, its id "" where it is not known to come from one.
func (h Harvest) FlowersFor(p Pick) (string, Bloom) {
	b := p.Bloom
	if b == nil {
		b = h.Bloom
	}
	ids, blooms := h.Flowerings()
	for i := range ids {
		if b != nil && slices.Equal(blooms[i].Season, b.Season) {
			return ids[i], *b
		}
	}
	return "", Bloom{}
}

// Check reports shares that do not sum, cycles that do not average to 1, rotations of no length.
func (h Harvest) Check() error {
	for i, picks := range [][]Pick{h.Picks, h.Rains, h.TwoRains} {
		sum := 0.0
		for _, p := range picks {
			sum += p.Share
			if (len(p.Season) == 0 || len(p.Season) > 2) != (len(p.Days) == 2 && 0 <= p.Days[0] && p.Days[0] <= p.Days[1]) {
				return fmt.Errorf("harvest %s needs a season, or a first and a last day from planting", p.Name)
			}
			if p.Bloom != nil && !p.Bloom.sound() {
				return fmt.Errorf("harvest %s: bloom %+v has no season, no days to the harvest or no origin", p.Name, *p.Bloom)
			}
			if p.Follows == nil {
				continue
			}
			if err := p.Follows.Check(); err != nil || len(p.Season) == 0 {
				return fmt.Errorf("harvest %s has no season, or %v", p.Name, err)
			}
		}
		if (i == 0 || len(picks) > 0) && (len(picks) == 0 || math.Abs(sum-1) > 1e-9) {
			return fmt.Errorf("harvest shares sum to %.4g, not 1", sum)
		}
	}
	if h.Cycle != nil {
		mean := 0.0
		for _, f := range h.Cycle.Factors {
			mean += f / float64(len(h.Cycle.Factors))
		}
		if math.Abs(mean-1) > 1e-9 {
			return fmt.Errorf("cycle factors average to %.4f, not 1", mean)
		}
	}
	if h.Bloom != nil && !h.Bloom.sound() {
		return fmt.Errorf("bloom %+v has no season, no days to the harvest or no origin", *h.Bloom)
	}
	if r := h.Rotation; r != nil && (r.First < 1 || r.Every < 1 || r.FirstYears < 1 || r.FirstYears > r.First || len(r.Fractions) == 0) {
		return fmt.Errorf("rotation %+v has no length or no fractions", *r)
	}
	if h.Origin == "" {
		return fmt.Errorf("harvest has no origin")
	}
	return nil
}

// Year is the yield of one age year, kg/ha of block area, and what made it.
type Year struct {
	Age      int
	KgPerHa  Range
	Fraction float64 // of full yield
	Density  float64
	Alive    float64
	Stand    float64
	Cycle    float64
	Growth   int // years of growth this harvest takes: 1, or the rotation
}

// Block is what Series needs of the block.
type Block struct {
	PlantsPerHa func(age int) float64 // planted density of the stand in that age year
	Life        int
}

// Series is the yield of every age year to the end of life.
func Series(c Curve, h Harvest, s Stand, b Block) []Year {
	out := make([]Year, b.Life)
	for i := range out {
		a := i + 1
		y := Year{Age: a, Alive: s.Alive(a), Cycle: 1, Growth: 1}
		y.Stand = s.Factor(y.Alive)
		if r := h.Rotation; r != nil {
			y.Growth = 0
			if a >= r.First && (a-r.First)%r.Every == 0 {
				k := (a - r.First) / r.Every
				y.Fraction, y.Growth = r.Fractions[min(k, len(r.Fractions)-1)], r.Every
				if k == 0 {
					y.Growth = r.FirstYears
				}
			}
		} else {
			y.Fraction = c.Fraction(float64(a))
		}
		if h.Cycle != nil && a >= h.Cycle.From {
			y.Cycle = h.Cycle.Factors[(a-h.Cycle.From)%len(h.Cycle.Factors)]
		}
		y.Density = c.Density(b.PlantsPerHa(a), y.Fraction)
		y.KgPerHa = c.Full.Times(y.Fraction * y.Density * y.Stand * y.Cycle * float64(y.Growth))
		out[i] = y
	}
	return out
}
