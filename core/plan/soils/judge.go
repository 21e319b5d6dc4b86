package soils

import (
	"fmt"
	"math"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/soil"
	"slowroot/core/units"
)

// Crop is what the soil is judged for.
type Crop struct {
	PlantOn   civil.Date
	Standing  bool // plants stand, or stood: nothing is prepared any more
	WellsRead bool // a dip well was read often enough to settle what signs of wet leave open
	Move      func(to civil.Date) []finding.Remedy
}

// Judge says what pits, tests and previous uses ask for.
func (p Profile) Judge(in In, crop Crop, say *report.Voice) {
	p.judgePits(in, crop, say)
	for _, v := range p.Tests {
		for _, d := range in.Tests[v.Index].Doubts() {
			say.Note(finding.Finding{Rule: d.Rule, Weight: finding.Mend, Step: "soil", Subject: v.Label, Sentence: d.Sentence,
				Source: "arithmetic of the report"}.Of(document.TestRef(in.Tests[v.Index].ID)))
		}
	}
	if crop.Standing || in.Sheet == nil {
		return
	}
	left := say.Today.MonthsTo(crop.PlantOn)
	if i, ok := soil.Top(in.Tests); !ok && in.inPots() {
		// nothing is put into the soil
	} else if !ok {
		s := "There is no soil test. It comes first: everything put into the soil follows from it, six months before planting at least, twelve better."
		if left < 6 {
			s += fmt.Sprintf(" Planting is %s away: what the test asks for will not have acted by then.", report.Count(max(0, left), "month"))
		}
		say.Note(finding.Finding{Rule: "soil.no-test", Weight: finding.Mend, Step: "soil", Subject: "Soil test", Sentence: s, Source: "common practice, no source"})
	} else if v := p.Tests[i]; v.AgeMonths > 24 {
		say.Note(finding.Finding{Rule: "soil.old-test", Weight: finding.Watch, Step: "soil", Subject: "Soil test", Source: "common practice, no source",
			Sentence: fmt.Sprintf("The soil test is %d months old: test again before anything is bought by it, six months before planting at least, twelve better.",
				v.AgeMonths)})
	}
	if len(p.Waits) > 0 && p.Earliest.After(crop.PlantOn) {
		var w WaitView
		for _, x := range p.Waits {
			if x.Drives {
				w = x
			}
		}
		f := finding.Finding{Rule: "site.waiting", Weight: finding.Mend, Step: "ground", Subject: "What grew before",
			Source: "method SITE-3, common practice, no source",
			Sentence: fmt.Sprintf("%s should wait here until %s (some hold %s): %s. %s shortens it.", in.Sheet.Name, p.Earliest.Words(), p.Latest.Words(), w.Why,
				report.Capital(w.Shorten))}
		f.Remedies = crop.Move(p.Earliest)
		say.Note(f)
	}
}

// judgePits says what the pits show, and where there are too few.
func (p Profile) judgePits(in In, crop Crop, say *report.Voice) {
	if len(p.Pits) == 0 {
		if !crop.Standing && in.Sheet != nil && !in.inPots() {
			say.Note(finding.Finding{Rule: "soil.no-pit", Weight: finding.Watch, Step: "soil", Subject: "Pits", Source: "common practice, no source",
				Sentence: "No pit has been dug: how deep roots can go and whether the soil stands in water is not known. Three pits at least, to " + say.Text(1.2,
					units.Spacing) + " or to what stops the spade."})
		}
		return
	}
	want := max(3, int(math.Ceil(in.AreaM2/4e4)))
	if len(p.Pits) < want && !crop.Standing {
		say.Note(finding.Finding{Rule: "soil.few-pits", Weight: finding.Know, Step: "soil", Subject: "Pits", Source: "common practice, no source",
			Sentence: fmt.Sprintf("%s on %s; %d would be usual, one in every kind of soil.", report.Capital(report.Count(len(p.Pits), "pit")),
				say.Text(in.AreaM2, units.Area), want)})
	}
	for i, v := range p.Pits {
		pit := document.PitRef(in.Pits[i].ID)
		if v.Wetness.Ask != "" && !crop.WellsRead { // read wells settle what the signs leave open
			say.Note(finding.Finding{Rule: "soil.wet-ask", About: &pit, Weight: finding.Know, Step: "soil", Subject: v.Name, Sentence: v.Name + ": " + v.Wetness.Ask,
				Source: "method SOIL-5, common practice"})
		}
		if v.Rip != nil && !crop.Standing {
			s := fmt.Sprintf("%s: a pan from %s to %s. Rip to %s; %s.", v.Name, say.Text(v.Rip.TopCm, units.Depth), say.Text(v.Rip.BottomCm, units.Depth),
				say.Text(v.Rip.DepthCm, units.Depth), v.Rip.Why)
			w := finding.Watch
			if v.Rip.OutOfTool {
				s += fmt.Sprintf(" That is deeper than a ripper reaches (%d cm).", soil.RipReachCm)
				w = finding.Mend
			}
			say.Note(finding.Finding{Rule: "soil.rip", About: &pit, Weight: w, Step: "soil", Subject: v.Name, Sentence: s, Source: "method SOIL-4, common practice"})
		}
		for _, l := range v.Layers {
			if l.Doubtful {
				say.Note(finding.Finding{Rule: "soil.estimate", About: &pit, Weight: finding.Watch, Step: "soil", Subject: v.Name,
					Source:   "Saxton & Rawls, 2006: clay to 60 %, organic matter to 8 %",
					Sentence: fmt.Sprintf("%s, %g–%g cm: water and permeability cannot be estimated from this texture; have them measured.", v.Name, l.TopCm, l.BottomCm)})
				break
			}
		}
	}
	if in.Sheet == nil || in.Sheet.Soil.WetClass == 0 || crop.Standing || !p.WetSeen || in.inPots() {
		return
	}
	ideal, tolerated := practice.WetRange(in.Sheet.Soil.WetClass)
	if p.WetCm < ideal {
		w := finding.Watch
		how := "it bears that, drains or raised beds would be better"
		if p.WetCm < tolerated {
			w, how = finding.Mend, "drains or raised beds before planting, or a more tolerant crop"
		}
		say.Note(finding.Finding{Rule: "soil.wet", Weight: w, Step: "soil", Subject: "Wet soil",
			Source: "methods SOIL-5, SOIL-6; depths by wet-soil class are assumed",
			Sentence: fmt.Sprintf("The soil stands in water from %s down; %s wants it free to %s and bears %s: %s.", say.Text(p.WetCm, units.Depth),
				report.LowerFirst(in.Sheet.Name), say.Text(ideal, units.Depth), say.Text(tolerated, units.Depth), how)})
	}
}
