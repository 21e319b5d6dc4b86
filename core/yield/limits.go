package yield

import (
	_ "embed" // the table of thresholds
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"
	"sync"
)

// Salt is a crop's bearing of salt in the root zone: the electrical conductivity of the saturated paste
// from which it loses yield, dS/m, and what is lost with each dS/m more, %. Maas and Hoffman, J. Irrig.
// Drain. Div. ASCE, 1977; Ayers and Westcot, FAO Irrigation and Drainage Paper 29, 1985.
type Salt struct {
	Crop           string
	FromDSM, PerDS float64
}

//go:embed data/salt.csv
var saltTable string

// Salts are the crops with a published threshold, as the two papers tabulate them: data/salt.csv. It panics where the
// table that ships with the program cannot be read.
var Salts = sync.OnceValue(func() []Salt {
	var out []Salt
	for _, line := range strings.Split(strings.TrimSpace(saltTable), "\n")[1:] {
		r := strings.Split(line, ",")
		if len(r) != 3 {
			panic("yield: data/salt.csv: " + line)
		}
		from, err1 := strconv.ParseFloat(r[1], 64)
		per, err2 := strconv.ParseFloat(r[2], 64)
		if err := errors.Join(err1, err2); err != nil {
			panic(err)
		}
		out = append(out, Salt{r[0], from, per})
	}
	return out
})

// Left is the share of yield left at ece dS/m, 0 to 1 (method Y10).
func (s Salt) Left(ece float64) float64 {
	return math.Min(1, math.Max(0, 1-s.PerDS/100*(ece-s.FromDSM)))
}

// At is the conductivity in dS/m at which a share of the yield is left.
func (s Salt) At(left float64) float64 { return s.FromDSM + (1-left)*100/s.PerDS }

// Watered is the share of yield left where a crop evaporates share of what it would with enough water:
// 1 − Ky·(1 − share), not below 0. Doorenbos and Kassam, FAO Irrigation and Drainage Paper 33, 1979.
func Watered(ky, share float64) float64 { return math.Max(0, 1-ky*(1-math.Min(1, share))) }

// Alternation is how strongly yields go up and down from year to year: the mean of |difference| over sum of
// neighbours, 0 steady, 1 all or nothing. Hoblyn et al., J. Pomol., 1936. Fewer than two yields give 0;
// two neighbours of 0 count as steady.
func Alternation(yields []float64) float64 {
	sum := 0.0
	for i := 1; i < len(yields); i++ {
		if s := yields[i] + yields[i-1]; s > 0 {
			sum += math.Abs(yields[i]-yields[i-1]) / s
		}
	}
	return sum / math.Max(1, float64(len(yields)-1))
}

// Cover is the share of ground covered by clumps planted sideM apart in squares of which share stands,
// each spread to reachM: the mean over the cell of 1 − (1 − share)^n, n the plants within reach (method Y8).
func Cover(sideM, share, reachM float64) float64 {
	const steps = 200
	n := int(math.Ceil(reachM/sideM)) + 1
	sum := 0.0
	for i := range steps {
		x := (float64(i) + 0.5) / steps * sideM
		for j := range steps {
			y := (float64(j) + 0.5) / steps * sideM
			within := 0
			for a := -n; a <= n; a++ {
				dx := x - float64(a)*sideM
				if h := reachM*reachM - dx*dx; h >= 0 { // lattice points on the chord
					h = math.Sqrt(h)
					within += int(math.Floor((y+h)/sideM)) - int(math.Ceil((y-h)/sideM)) + 1
				}
			}
			sum += 1 - math.Pow(1-share, float64(within))
		}
	}
	return sum / (steps * steps)
}

// CoverAtRandom is the same where plants stand at random, perM2 of them to a square metre.
func CoverAtRandom(perM2, reachM float64) float64 { return 1 - math.Exp(-math.Pi*reachM*reachM*perM2) }

// Cohort is plants of one age.
type Cohort struct {
	Age    float64
	Plants int
}

// OfCohorts is the yield of a stand of several ages in kg, from kilograms a plant by age: straight lines
// between the ages, 0 before the first, the last value after (method Y9).
func OfCohorts(perPlant [][2]float64, stand []Cohort) (kg float64, each []float64) {
	c := Curve{Fractions: perPlant}
	for _, g := range stand {
		y := float64(g.Plants) * c.Fraction(g.Age)
		kg, each = kg+y, append(each, y)
	}
	return kg, each
}

// Cuts is how many cuts fit between the first and the last day of a season, every so many days (method Y11).
func Cuts(firstToLastDays, everyDays int) int {
	if firstToLastDays < 0 || everyDays < 1 {
		return 0
	}
	return firstToLastDays/everyDays + 1
}

// Shared is a year's yield over its cuts; shares that do not sum to one are refused.
func Shared(annual float64, shares []float64) ([]float64, error) {
	sum, out := 0.0, make([]float64, len(shares))
	for i, s := range shares {
		sum += s
		out[i] = annual * s
	}
	if math.Abs(sum-1) > 0.0005 {
		return nil, fmt.Errorf("sum to %.4g", sum)
	}
	return out, nil
}
