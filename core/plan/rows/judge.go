package rows

import (
	"fmt"
	"math"

	"slowroot/core/finding"
	"slowroot/core/layout"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
)

// patch is a merge patch of the layout of the planting.
func patch(fields map[string]any) map[string]any {
	return map[string]any{"planting": map[string]any{"layout": fields}}
}

// Judge says what is wrong with the rows.
func (r Result) Judge(in In, say *report.Voice) {
	s, pl := r.Spec, r.Placed
	if pl.Stations == 0 {
		f := finding.Finding{Rule: "rows.none", Weight: finding.Stops, Step: "rows", Subject: "Rows", Source: "method LAY-3",
			Sentence: fmt.Sprintf("The edge band of %s and the row-end setback of %s swallow the field: not one station fits.", say.Text(s.EdgeBandM, units.Spacing),
				say.Text(s.RowEndSetbackM, units.Spacing))}
		for k := s.EdgeBandM / 2; k > 0.2; k /= 2 {
			trial := s
			trial.EdgeBandM, trial.RowEndSetbackM = math.Round(k*10)/10, math.Min(s.RowEndSetbackM, math.Round(k*10)/10)
			if got, err := layout.Place(in.field(), trial); err == nil && got.Stations > 0 {
				f.Remedies = append(f.Remedies, finding.Remedy{Label: fmt.Sprintf("Band and setback %s", say.Text(trial.EdgeBandM, units.Spacing)),
					Patch: patch(map[string]any{"edgeBandM": trial.EdgeBandM, "rowEndSetbackM": trial.RowEndSetbackM})})
				break
			}
		}
		say.Note(f)
		return
	}
	if (s.Pattern == layout.Rectangle || s.Pattern == layout.Twin) && s.RowSpacingM < s.PlantSpacingM {
		say.Note(finding.Finding{Rule: "rows.orientation", Weight: finding.Watch, Step: "rows", Subject: "Spacing", Source: "method LAY-1, common practice",
			Sentence: fmt.Sprintf("Rows stand %s apart and plants %s: closer between rows than in them. Trades write the two in different order.",
				say.Text(s.RowSpacingM, units.Spacing), say.Text(s.PlantSpacingM, units.Spacing)),
			Remedies: []finding.Remedy{{Label: "Swap them", Patch: patch(map[string]any{"rowSpacingM": s.PlantSpacingM, "plantSpacingM": s.RowSpacingM})}}})
	}
	density := s.StationsPerHa()
	if in.Grown.Curve.Extrapolated(density) {
		say.Note(finding.Finding{Rule: "rows.density-far", Weight: finding.Watch, Step: "rows", Subject: "Density", Source: "method Y7",
			Sentence: fmt.Sprintf("%s is far from the %s the yields were seen at: beyond 0.4 to 2.5 times, the yield given here is a guess.",
				say.Text(density, units.PerArea), say.Text(in.Grown.Curve.ReferencePerHa, units.PerArea)),
			Remedies: []finding.Remedy{{Label: "Spacing of " + r.Option.Name, Patch: patch(map[string]any{"rowSpacingM": nil, "plantSpacingM": nil, "twinGapM": nil})}}})
	}
	full, by := density, "spacing alone says"
	if !s.Plots.None() {
		full, by = s.Plots.PerHa(s.RowSpacingM, s.PlantSpacingM), "blocks and aisles alone say"
	}
	if lost := 1 - float64(pl.Stations)/(full*in.Ground.AreaM2/1e4); lost > 0.02 {
		say.Note(finding.Finding{Rule: "rows.edge-loss", Weight: finding.Know, Step: "rows", Subject: "Edges", Source: "method LAY-3",
			Sentence: fmt.Sprintf("Edges and row ends take %s of the block: %s stand where %s %s.", say.Text(lost, units.Fraction),
				say.Text(float64(pl.Stations), units.Count), by, say.Text(math.Round(full*in.Ground.AreaM2/1e4), units.Count))})
	}
	r.judgeGrades(in, say)
	r.judgeMatter(in, say)
	r.judgeBeside(in, say)
	if r.Option.Pollinizer.None() {
		return
	}
	if pl.Pollinizers == 0 {
		say.Note(finding.Finding{Rule: "rows.no-pollinizers", Weight: finding.Mend, Step: "plants", Subject: "Pollinizers", Source: "method LAY-6, common practice",
			Sentence: fmt.Sprintf("%s cannot set a crop from its own pollen, and this layout holds no pollinizer.", in.Grown.Sheet.Name),
			Remedies: []finding.Remedy{{Label: fmt.Sprintf("One in every %d of every %s row", r.Option.Pollinizer.EveryPlant,
				report.Ordinal(r.Option.Pollinizer.EveryRow)), Patch: patch(map[string]any{"pollinizer": nil})}}})
	} else {
		stay := pl.Stay()
		say.Note(finding.Finding{Rule: "rows.pollinizers", Weight: finding.Know, Step: "plants", Subject: "Pollinizers", Source: "method LAY-6, common practice",
			Sentence: fmt.Sprintf("One in every %d of every %s row is a pollinizer: %s of %s that stay.", s.Pollinizer.EveryPlant,
				report.Ordinal(s.Pollinizer.EveryRow), say.Text(float64(pl.Pollinizers), units.Count), say.Text(float64(stay), units.Count))})
	}
}

// Agree compares what stands in the ground with what the choices and the boundary say now.
func (r Result) Agree(in In, say *report.Voice) {
	p := in.Planting
	if a := p.AsPlanted; a != nil {
		l, ok := in.Grown.Sheet.Layout(in.Grown.Choices[practice.LayoutFork])
		if now := p.Spec(l).Normal(); ok && now != a.Spec.Normal() {
			sentence := fmt.Sprintf("%s × %s stands in the ground; the choices now say %s × %s. Nothing in the ground has moved.",
				say.Text(a.Spec.RowSpacingM, units.Spacing), say.Text(a.Spec.PlantSpacingM, units.Spacing), say.Text(now.RowSpacingM, units.Spacing),
				say.Text(now.PlantSpacingM, units.Spacing))
			if got, err := layout.Place(in.field(), now); err == nil {
				sentence += fmt.Sprintf(" They would make %s stations instead of %s.", say.Text(float64(got.Stations), units.Count), say.Text(float64(a.Stations),
					units.Count))
			}
			s := a.Spec
			say.Note(finding.Finding{Rule: "rows.differs-from-planted", Weight: finding.Watch, Step: "rows", Subject: "Layout", Sentence: sentence,
				Remedies: []finding.Remedy{{Label: "Back to what stands", Patch: map[string]any{"planting": map[string]any{
					"choices": map[string]any{practice.LayoutFork: map[string]any{"option": a.Layout}},
					"layout": map[string]any{"rowSpacingM": s.RowSpacingM, "plantSpacingM": s.PlantSpacingM, "twinGapM": s.TwinGapM, "bearingDeg": s.BearingDeg,
						"edgeBandM": s.EdgeBandM, "rowEndSetbackM": s.RowEndSetbackM, "offsetM": s.OffsetM, "pollinizer": s.Pollinizer}}}}}})
		}
		if d := in.Ground.AreaM2/a.AreaM2 - 1; math.Abs(d) > 0.005 {
			say.Note(finding.Finding{Rule: "ground.resurveyed", Weight: finding.Watch, Step: "ground", Subject: "Boundary",
				Sentence: fmt.Sprintf("The boundary now holds %s; it held %s when the rows were recorded. The rows have not moved.", say.Text(in.Ground.AreaM2,
					units.Area), say.Text(a.AreaM2, units.Area))})
		}
	}
}

// washes is the fall along a row from which bare soil washes down it, %. Common practice, no source.
const washes = 2.0

// judgeGrades says how rows that follow the slope really fall.
func (r Result) judgeGrades(in In, say *report.Voice) {
	if r.Spec.Pattern != layout.Contour || r.Placed.Rows == 0 || in.Planting.AsPlanted != nil {
		return
	}
	if in.Land == nil {
		say.Note(finding.Finding{Rule: "rows.slope-unknown", Weight: finding.Mend, Step: "rows", Subject: "Rows on the slope",
			Sentence: "Rows are to follow the slope and no heights are known here: they are drawn and counted straight until there are. Spot heights or an elevation " +
				"grid answer that.",
			Remedies: []finding.Remedy{{Label: "Lay them straight", Patch: patch(map[string]any{"pattern": nil, "gradePct": nil})}}})
		return
	}
	w := finding.Know
	end := ""
	if g := r.Grades; g.High > washes {
		w, end = finding.Watch, fmt.Sprintf(" Where they fall by more than %s bare soil washes down them.", say.Text(washes/100, units.Fraction))
	}
	say.Note(finding.Finding{Rule: "rows.grade", Weight: w, Step: "rows", Subject: "Rows on the slope",
		Source: "traced on the heights; common practice, no source",
		Sentence: fmt.Sprintf("Rows that follow the slope at %.1f %% fall by %.1f to %.1f %% along them and come as near as %s to one another.%s",
			r.Spec.GradePct, r.Grades.Low, r.Grades.High, say.Text(math.Min(r.Grades.Closest, 1000), units.Spacing), end)})
}
