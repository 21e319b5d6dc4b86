package climate

import (
	"fmt"
	"math"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

// Overlap is how far two flowering windows agree: days both flower, and that as a share of the first's
// length; below a half pollination is doubtful (common practice; method C15).
func Overlap(a, b [2]civil.Date) (days int, share float64) {
	start, end := civil.Later(a[0], b[0]), a[1]
	if b[1].Before(end) {
		end = b[1]
	}
	days = max(0, end.Sub(start)+1)
	return days, float64(days) / float64(a[1].Sub(a[0])+1)
}

// HarvestFrom is the harvest window that follows flowering after a number of days (method C14).
func HarvestFrom(from, to civil.Date, days int) (a, b civil.Date) {
	return from.AddDays(days), to.AddDays(days)
}

// Agrees reports whether a stated harvest window lies within 15 days of the computed one.
func Agrees(computed, stated civil.Date) (offDays int, ok bool) {
	off := stated.Sub(computed)
	return off, off <= 15 && off >= -15
}

// SeasonOf is the local word for a month, spring from March north of the equator and from September
// south of it; within 10° of the equator there is none and rains or the sheet decide (method C13).
func SeasonOf(month int, latDeg float64) (string, error) {
	if month < 1 || month > 12 {
		return "", finding.Bad("month", month, "is not a month", "1 to 12")
	}
	if math.Abs(latDeg) < 10 {
		return "", finding.Bad("latDeg", latDeg, "so near the equator seasons are rains, not temperatures: ask", "10° or more from the equator")
	}
	if latDeg < 0 {
		month = (month+5)%12 + 1
	}
	return []string{"winter", "winter", "spring", "spring", "spring", "summer", "summer", "summer", "autumn", "autumn", "autumn", "winter"}[month-1], nil
}

// OtherHemisphere moves a date by six calendar months, the end of a month kept.
func OtherHemisphere(d civil.Date) civil.Date { return d.AddMonths(6) }

// YearMultiplier is what losses leave of a year's yield: Π(1 − area share × yield loss), method C16.
func YearMultiplier(losses [][2]float64) (float64, error) {
	m := 1.0
	for i, l := range losses {
		if !(l[0] >= 0 && l[0] <= 1 && l[1] >= 0 && l[1] <= 1) {
			return 0, finding.Bad("losses", fmt.Sprint(l), fmt.Sprintf("loss %d is not an area share and a yield loss", i+1), "two shares, each 0 to 1")
		}
		m *= 1 - l[0]*l[1]
	}
	return m, nil
}

// AtLeastDays is the probability that at least k of n days can be worked when each can with p; spells
// make it optimistic (method C16).
func AtLeastDays(p float64, n, k int) float64 {
	lg := func(x int) float64 { v, _ := math.Lgamma(float64(x) + 1); return v }
	sum := 0.0
	for i := max(0, k); i <= n; i++ {
		switch {
		case p <= 0:
			if i == 0 {
				sum++
			}
		case p >= 1:
			if i == n {
				sum++
			}
		default:
			sum += math.Exp(lg(n) - lg(i) - lg(n-i) + float64(i)*math.Log(p) + float64(n-i)*math.Log(1-p))
		}
	}
	return math.Min(1, sum)
}

// DaysNeeded is the smallest span that holds k workable days with a wanted probability.
func DaysNeeded(p float64, k int, sure float64) (int, bool) {
	for n := k; n <= 366; n++ {
		if AtLeastDays(p, n, k) >= sure {
			return n, true
		}
	}
	return 0, false
}
