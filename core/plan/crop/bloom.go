package crop

import (
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/yield"
)

// ripens compares the harvest as it is stated with the one that follows from each flowering and the days to ripe fruit
// (method C14), in the first year that bears and has no bloom recorded.
func (r Result) ripens(in In, say *report.Voice) {
	ids, blooms := in.Grown.Harvest.Flowerings()
	for i, id := range ids {
		for _, y := range r.Years {
			if r.ripensIn(in, say, id, blooms[i], y, len(ids) > 1) {
				break
			}
		}
	}
}

func (r Result) ripensIn(in In, say *report.Voice, id string, bloom yield.Bloom, y Year, many bool) bool {
	var picks []Harvest
	for k, p := range in.Grown.Harvest.Picks {
		if of, _ := in.Grown.Harvest.FlowersFor(p); of == id && k < len(y.Harvests) && y.Harvests[k].Bloomed.IsZero() {
			picks = append(picks, y.Harvests[k])
		}
	}
	if len(picks) == 0 {
		return false
	}
	from, to := picks[0].From, picks[0].To
	for _, h := range picks {
		if h.From.Before(from) {
			from = h.From
		}
		to = civil.Later(to, h.To)
	}
	year, _ := in.Grown.Flowers(bloom, y.Age, from)
	a, b := in.Grown.Window(bloom.Season, nil, nil, year)
	first, _ := climate.HarvestFrom(a, b, bloom.Days[0])
	_, last := climate.HarvestFrom(a, b, bloom.Days[1])
	f := finding.Finding{Rule: "harvest.bloom", Weight: finding.Know, Step: "yield", Subject: "Bloom and harvest", Source: "method C14; " +
		practice.OriginWords(bloom.Origin),
		Sentence: fmt.Sprintf("Bloom from %s to %s and %d to %d days put the harvest between %s and %s; it is stated from %s to %s.", a.Words(), b.Words(),
			bloom.Days[0], bloom.Days[1], first.Words(), last.Words(), from.Words(), to.Words())}
	if many {
		f.About = &finding.Ref{Kind: "flowering", ID: id}
	}
	// Seasons are as long as a month: a picking agrees when some of its season lies in what follows from bloom.
	for _, h := range picks {
		if off, ok := climate.Agrees(first, h.To); off < 0 && !ok {
			f.Sentence += fmt.Sprintf(" The picking “%s” ends %d days before the first fruit is ripe.", h.Name, -off)
			f.Rule, f.Weight = "harvest.bloom-disagrees", finding.Watch
		}
		if off, ok := climate.Agrees(last, h.From); off > 0 && !ok {
			f.Sentence += fmt.Sprintf(" The picking “%s” begins %d days after the last is.", h.Name, off)
			f.Rule, f.Weight = "harvest.bloom-disagrees", finding.Watch
		}
	}
	say.Note(f)
	return true
}
