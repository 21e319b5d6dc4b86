package supply

import (
	"fmt"
	"math"
)

// Inspection is how a delivery is judged by a sample: look at Sample pieces, refuse it when more than Most of them are poor.
type Inspection struct {
	Sample int `json:"sample"`
	Most   int `json:"most"`
}

// Inspect is the smallest single sample that refuses a delivery in which the share bad is poor in all but the share miss of
// cases, and takes one in which only the share good is poor in all but the share wrong of cases. A delivery no larger than
// the sample is looked at whole. It is an error where good is not below bad, or a share does not lie between 0 and 1.
// Source: binomial single sampling, W. C. Guenther, Use of the binomial, hypergeometric and Poisson tables to obtain
// sampling plans, Journal of Quality Technology 1, 1969.
func Inspect(lot int, good, bad, wrong, miss float64) (Inspection, error) {
	for _, p := range []float64{good, bad, wrong, miss} {
		if !(p > 0 && p < 1) {
			return Inspection{}, fmt.Errorf("%g is not a share between 0 and 1", p)
		}
	}
	if good >= bad || lot < 1 {
		return Inspection{}, fmt.Errorf("a share of %g that is taken and %g that is refused, of %d pieces, say nothing", good, bad, lot)
	}
	for most := 0; most < 400; most++ {
		n := max(most+1, int(float64(most)/bad))
		for AtMost(n, most, bad) > miss {
			n++
		}
		if AtMost(n, most, good) >= 1-wrong {
			if n >= lot { // look at every one
				return Inspection{Sample: lot, Most: int(math.Floor(good * float64(lot)))}, nil
			}
			return Inspection{Sample: n, Most: most}, nil
		}
	}
	return Inspection{}, fmt.Errorf("no sample under %d tells %g from %g", 400, good, bad)
}

// AtMost is the chance of k or fewer of n when each has the chance p.
func AtMost(n, k int, p float64) float64 {
	if k >= n {
		return 1
	}
	return 1 - AtLeast(n, k+1, p)
}
