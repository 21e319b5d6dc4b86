package crop

import (
	"fmt"

	"slowroot/core/finding"
	"slowroot/core/report"
	"slowroot/core/units"
)

// late says what the day of planting costs where practice knows of it, and the day that costs nothing.
func (in In) late(say *report.Voice) {
	l := in.Grown.Late
	if l == nil || l.Factor >= 1 {
		return
	}
	f := finding.Finding{Rule: "planting.late", Weight: finding.Know, Step: "plants", Subject: "Day of planting", Source: l.Source,
		Sentence: fmt.Sprintf("Planted on %s, %s a full crop is borne; most is borne by what is planted from about %s.", in.Grown.PlantedOn.Words(),
			say.Text(l.Factor, units.Fraction)+" of", l.Best.Words())}
	if l.Days >= l.Warn {
		f.Weight = finding.Watch
	}
	if !in.Standing && !l.Best.Before(say.Today) {
		f.Remedies = []finding.Remedy{{Label: "Plant on " + l.Best.Words(), Patch: map[string]any{"planting": map[string]any{"date": l.Best.String()}}}}
	}
	say.Note(f)
}
