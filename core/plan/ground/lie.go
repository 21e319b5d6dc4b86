package ground

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// figures puts the lie of the land into figures.
func (l *Land) figures(say *report.Voice) {
	measured := fmt.Sprintf("%s, heights to ± %s", l.Source.Name, say.Text(l.Source.AccuracyM, units.Spacing))
	say.Figure(report.Figure{Path: "land.slope", Step: "ground", Label: "Slope", Quantity: units.Slope, Value: l.Lie.SlopePct, Low: l.Lie.SlopePct,
		High: l.Lie.Steepest, Ranged: l.Lie.Steepest > l.Lie.SlopePct+0.05, Origin: working.Measured, Note: l.Class.Name + "; mean to the steepest twentieth"})
	say.Figure(report.Figure{Path: "land.falls", Step: "ground", Label: "Falls to the", Quantity: units.Angle, Value: l.Lie.FallsTo, Text: Compass(l.Lie.FallsTo),
		Origin: working.Measured, Note: fmt.Sprintf("%.0f° from true north", l.Lie.FallsTo)})
	say.Figure(report.Figure{Path: "land.height", Step: "ground", Label: "Height", Quantity: units.Height, Value: l.Lie.MeanZ, Low: l.Lie.MinZ, High: l.Lie.MaxZ,
		Ranged: true, Origin: working.Measured, Note: measured})
	word := l.Judged()
	say.Figure(report.Figure{Path: "land.frost", Step: "ground", Label: "Frost risk of the place", Quantity: units.Plain, Value: float64(l.Worst.Score),
		Text: word, Origin: working.Computed, Note: fmt.Sprintf("worst point scores %d", l.Worst.Score)})
	if say.On("land.slope") {
		say.Tell(working.Series, "land.slope", "Mean slope of the block", "√(∂z/∂x² + ∂z/∂y²) from the eight neighbours of each cell, averaged",
			fmt.Sprintf("%d cells of %.1f m", l.Lie.Cells, l.Surface.Cell), l.Lie.SlopePct, units.Slope,
			"Horn, Proc. IEEE 69, 1981; classes: FAO, Guidelines for soil description, 2006", say.Num("accuracy of a height", l.Source.AccuracyM, units.Spacing,
				working.Measured, l.Source.How, ""))
	}
	if say.On("land.falls") {
		say.Tell(working.Series, "land.falls", "Direction of fall", "mean of the fall vectors of all cells", fmt.Sprintf("they agree to %.0f %%", 100*l.Lie.Uniform),
			l.Lie.FallsTo, units.Angle, "Horn, 1981")
	}
	if say.On("land.height") {
		say.Tell(working.Series, "land.height", "Height above the sea", "mean of the cells inside the boundary", measured, l.Lie.MeanZ, units.Height,
			"method SITE-2", say.Num("lowest", l.Lie.MinZ, units.Height, working.Measured, "", ""), say.Num("highest", l.Lie.MaxZ, units.Height, working.Measured, "",
				""))
	}
	if say.On("land.frost") {
		say.Tell(working.Rule, "land.frost", "Signs at the worst point, added up", "≤ 1 low · 2–4 moderate · 5–6 high · ≥ 7 pocket", l.Worst.Text(say.Length),
			float64(l.Worst.Score), units.Plain, "method SITE-1, common practice, no source")
		say.Tell(working.Count, "land.frost", "Share of the block", "sampled points by judgement",
			fmt.Sprintf("pocket %.0f %%, high %.0f %%, moderate %.0f %%, low %.0f %%", 100*l.Share["pocket"], 100*l.Share["high"], 100*l.Share["moderate"],
				100*l.Share["low"]), float64(len(l.Cold)), units.Count, "the worst that holds for a tenth of the block is its word")
	}
}

// judge says what the lie of the land asks for.
func (l *Land) judge(crop Crop, say *report.Voice) {
	cl := l.Class
	s := fmt.Sprintf("The block is %s, %s, falling to the %s: %s.", cl.Name, say.Text(l.Lie.SlopePct, units.Slope), Compass(l.Lie.FallsTo), cl.Works)
	w := finding.Know
	if cl.Machine != "" {
		s += " " + report.Capital(cl.Machine) + "."
		w = finding.Watch
	}
	f := finding.Finding{Rule: "land.slope", Weight: w, Step: "ground", Subject: "Slope", Sentence: s,
		Source: "classes: FAO, Guidelines for soil description, 2006; works: common practice, no source"}
	if l.Lie.SlopePct >= 5 && crop.BearingDeg != nil && l.Lie.Uniform > 0.6 {
		across := math.Mod(math.Round(l.Lie.FallsTo)+90, 180)
		if d := math.Abs(math.Mod(*crop.BearingDeg-across+270, 180) - 90); d > 15 {
			f.Weight = finding.Mend
			f.Sentence += fmt.Sprintf(" The rows now run at %.0f°; across the slope is %.0f°.", *crop.BearingDeg, across)
			f.Remedies = []finding.Remedy{{Label: fmt.Sprintf("Turn the rows to %.0f°", across),
				Patch: map[string]any{"planting": map[string]any{"layout": map[string]any{"bearingDeg": across}}}}}
		}
	}
	say.Note(f)
	if l.Source.AccuracyM > 1 {
		how := ""
		if l.Source.How != "" {
			how = " (" + l.Source.How + ")"
		}
		say.Note(finding.Finding{Rule: "land.accuracy", Weight: finding.Watch, Step: "ground", Subject: "Heights", Source: "common practice, no source",
			Sentence: fmt.Sprintf("The heights of “%s” are known to ± %s only%s: good for the slope of a hillside, not for hollows, levels or drains.",
				l.Source.Name, say.Text(l.Source.AccuracyM, units.Spacing), how)})
	}
	for _, h := range l.Hollows {
		say.Note(finding.Finding{Rule: "land.hollow", Weight: finding.Watch, Step: "ground", Subject: "Hollow",
			Source: "priority flood: Barnes, Lehman & Mulla, Computers & Geosciences 62, 2014",
			Sentence: fmt.Sprintf("Water gathers in a closed hollow %s deep over %s: it stands there after rain, and cold air with it. Look at a pit there.",
				say.Text(h.DepthM, units.Spacing), say.Text(h.AreaM2, units.Area))})
		break // the deepest; the drawing shows all
	}
	l.judgeCold(crop, say)
}

func (l *Land) judgeCold(crop Crop, say *report.Voice) {
	word := l.Judged()
	if word == "low" {
		return
	}
	early := crop.EarlyBloom
	w := map[string]finding.Weight{"pocket": finding.Mend, "high": finding.Watch, "moderate": finding.Know}[word]
	if w == finding.Mend && crop.Standing {
		w = finding.Watch
	}
	share := l.Share["pocket"] + l.Share["high"]
	s := "The risk of frost in this place is " + word
	if word == "pocket" {
		s = "This is a frost pocket"
	}
	if share > 0 {
		s += fmt.Sprintf("; %.0f %% of the block is one or close to it", 100*share)
	}
	s += ". At the worst point: " + l.Worst.Text(say.Length) + "."
	if k := l.Worst.ColderC; k[1] >= 0.1 {
		s += fmt.Sprintf(" On a still, clear night perhaps %s (%s to %s) colder than the ground around; a rough guess, never a forecast.",
			say.Text(k[1], units.Warmth), units.Number(k[0], units.Warmth, say.Units), units.Number(k[2], units.Warmth, say.Units))
	}
	if early && (word == "pocket" || word == "high") {
		s += fmt.Sprintf(" %s blooms early: not here, or leave the low part out.", crop.Name)
	}
	if l.KnownM < 150 {
		s += fmt.Sprintf(" Heights are known only %s around: the judgement is as good as that.", say.Text(l.KnownM, units.Distance))
	}
	for _, b := range l.Drawn {
		if b.Kind != "water" && !b.Gap && b.Porosity < 0.3 && dams(l, b) {
			s += fmt.Sprintf(" Opening a tenth of “%s” at its low end would let the air out.", b.Name)
			break
		}
	}
	say.Note(finding.Finding{Rule: "land.frost", Weight: w, Step: "ground", Subject: "Frost", Sentence: s, Source: "method SITE-1, common practice, no source"})
}

// dams reports whether a barrier is one of the signs at the worst point.
func dams(l *Land, b document.Barrier) bool {
	for _, s := range l.Worst.Signs {
		if strings.Contains(s.Words, "dams") && strings.Contains(s.Words, b.Kind) {
			return true
		}
	}
	return false
}
