package supply

import (
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

// Following is a planting among several that follow one another: the day it is planted, and the first and last day it is picked.
type Following struct {
	On   civil.Date `json:"on"`
	From civil.Date `json:"from"`
	To   civil.Date `json:"to"`
}

// Course is how a crop goes from planting to its last pick, days, and how many days two plantings are picked together. Heat is
// the warmth of a day that counts for it, °C above its base; nil counts days.
type Course struct {
	Grow    int // to the first pick
	Pick    int // from the first to the last pick, both counted
	Overlap int
	Heat    func(civil.Date) float64
}

// mostFollowing is how many plantings follow one another at most, farthest how many days one is looked for before its first pick.
const (
	mostFollowing = 60
	farthest      = 1500
)

// Every is the days from the first pick of one planting to that of the next: the picking less the overlap (method S11).
func (c Course) Every() int { return c.Pick - c.Overlap }

// Follow spaces plantings from a first day on so that picking never stops: the first picks lie a picking less the overlap
// apart. Without Heat so do the plantings; with it each is planted on the last day from which the warmth the first one had to
// its first pick is still reached: equal heat, not equal days (methods S11 and C4). An error is a *finding.FieldError.
func Follow(first civil.Date, n int, c Course) ([]Following, error) {
	switch {
	case n < 1 || n > mostFollowing:
		return nil, finding.Bad("plantings", n, "plantings cannot follow one another", fmt.Sprintf("1 to %d", mostFollowing))
	case c.Grow < 1 || c.Grow > 2000:
		return nil, finding.Bad("growDays", c.Grow, "days from planting to the first pick cannot be", "1 to 2 000")
	case c.Pick < 1 || c.Pick > 1000:
		return nil, finding.Bad("pickDays", c.Pick, "days of picking cannot be", "1 to 1 000")
	case c.Overlap < 0 || c.Every() < 1:
		return nil, finding.Bad("overlapDays", c.Overlap, "days picked together leave nothing of the picking", fmt.Sprintf("0 to %d", c.Pick-1))
	}
	wanted := 0.0
	if c.Heat != nil {
		for d := range c.Grow {
			wanted += c.Heat(first.AddDays(d))
		}
		if !(wanted > 0) {
			return nil, finding.Bad("baseC", wanted, "degree-days is all the warmth there is from the first planting to its first pick",
				"a lower base temperature, or a later first planting")
		}
	}
	out := make([]Following, n)
	for k := range out {
		f := &out[k]
		f.On = first.AddDays(k * c.Every())
		f.From = f.On.AddDays(c.Grow)
		if c.Heat != nil && k > 0 {
			sum, back := 0.0, 0
			for back < farthest && sum < wanted-1e-9 {
				back++
				sum += c.Heat(f.From.AddDays(-back))
			}
			f.On = civil.Later(f.From.AddDays(-back), out[k-1].On)
		}
		f.To = f.From.AddDays(c.Pick - 1)
	}
	return out, nil
}

// Bearing is how many blocks of a short-lived crop that lives so many months and bears from one of them on keep a number of
// them in bearing at any time: ⌈m·N/(N − b)⌉ (method S11).
func Bearing(wanted, lifeMonths, bearsFrom int) int {
	if bearsFrom >= lifeMonths {
		return 0
	}
	return (wanted*lifeMonths + lifeMonths - bearsFrom - 1) / (lifeMonths - bearsFrom)
}
