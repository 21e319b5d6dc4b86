package crop

import (
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
)

// ripens compares the harvest as it is stated with the one that follows from bloom and the days to ripe fruit
// (method C14), in the first year that bears.
func (r Result) ripens(in In, say *report.Voice) {
	bloom := in.Grown.Harvest.Bloom
	if bloom == nil || len(bloom.Season) == 0 {
		return
	}
	for _, y := range r.Years {
		if len(y.Harvests) == 0 {
			continue
		}
		a, b := in.Grown.Window(bloom.Season, nil, y.Age)
		from, to := y.Harvests[0].From, y.Harvests[0].To
		for _, h := range y.Harvests {
			if h.From.Before(from) {
				from = h.From
			}
			to = civil.Later(to, h.To)
		}
		first, _ := climate.HarvestFrom(a, b, bloom.Days[0])
		_, last := climate.HarvestFrom(a, b, bloom.Days[1])
		// A bloom of the year before bears this year's fruit where the days reach over its end.
		for first.Sub(from) > 183 {
			a, b, first, last = a.AddMonths(-12), b.AddMonths(-12), first.AddMonths(-12), last.AddMonths(-12)
		}
		for from.Sub(first) > 183 {
			a, b, first, last = a.AddMonths(12), b.AddMonths(12), first.AddMonths(12), last.AddMonths(12)
		}
		f := finding.Finding{Rule: "harvest.bloom", Weight: finding.Know, Step: "yield", Subject: "Bloom and harvest", Source: "method C14; " +
			practice.OriginWords(bloom.Origin),
			Sentence: fmt.Sprintf("Bloom from %s to %s and %d to %d days put the harvest between %s and %s; it is stated from %s to %s.", a.Words(), b.Words(),
				bloom.Days[0], bloom.Days[1], first.Words(), last.Words(), from.Words(), to.Words())}
		// Seasons are as long as a month: a picking agrees when some of its season lies in what follows from bloom.
		for _, h := range y.Harvests {
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
		return
	}
}
