package climate

import (
	"slowroot/core/finding"
)

// Onset is the start of a rainy season (agronomic school: Sivakumar, Agric. For. Meteorol., 1988;
// method C10). Index counts days from the first of the series.
type Onset struct {
	Index       int   `json:"index"`
	Found       bool  `json:"found"`
	Provisional bool  `json:"provisional"` // the days that must confirm it have not come
	FalseStarts []int `json:"falseStarts"`
}

// DryDay is below this many millimetres.
const DryDay = 1.0

// RainsBegin finds the first day i ≥ start with rain, 20 mm in three days from it, and no dry run over
// dryRun days in the 30 after.
func RainsBegin(rain []float64, start, dryRun int) Onset {
	o := Onset{FalseStarts: []int{}}
	for i := max(0, start); i < len(rain); i++ {
		sum := 0.0
		for k := i; k < min(i+3, len(rain)); k++ {
			sum += rain[k]
		}
		if rain[i] < DryDay || sum < 20 {
			continue
		}
		run, longest := 0, 0
		for k := i + 3; k < min(i+33, len(rain)); k++ {
			if rain[k] < DryDay {
				run++
				longest = max(longest, run)
			} else {
				run = 0
			}
		}
		if longest > dryRun {
			o.FalseStarts = append(o.FalseStarts, i)
			continue
		}
		o.Index, o.Found, o.Provisional = i, true, i+33 > len(rain)
		return o
	}
	return o
}

// RainsEnd is the day of the last rain before 20 days without any, on or after from; false when not
// decidable within the series.
func RainsEnd(rain []float64, from int) (int, bool) {
	last := -1
	for i := from; i < len(rain); i++ {
		if rain[i] >= DryDay {
			last = i
		} else if last >= 0 && i-last >= 20 {
			return last, true
		}
	}
	return last, false
}

// Spell is a run of dry days.
type Spell struct {
	Start  int `json:"start"`
	Length int `json:"length"`
}

// DrySpells are the runs of days under DryDay.
func DrySpells(rain []float64) []Spell {
	var out []Spell
	for i := 0; i < len(rain); i++ {
		if rain[i] >= DryDay {
			continue
		}
		j := i
		for j < len(rain) && rain[j] < DryDay {
			j++
		}
		out = append(out, Spell{i, j - i})
		i = j
	}
	return out
}

// DroughtTriggers are the days on which water is due: n days since rain of at least adequate mm or the
// last watering (method C11).
func DroughtTriggers(rain []float64, n int, adequate float64) ([]int, error) {
	if n < 1 || n > 60 {
		return nil, finding.Bad("days", n, "is not a number of days to wait", "1 to 60")
	}
	if !(adequate >= 0.1 && adequate <= 100) {
		return nil, finding.Bad("adequateMm", adequate, "is not a rain that counts", "0.1 to 100 mm")
	}
	out := []int{}
	since := 0
	for i, r := range rain {
		if r >= adequate {
			since = 0
			continue
		}
		since++
		if since == n {
			out = append(out, i)
			since = 0
		}
	}
	return out, nil
}
