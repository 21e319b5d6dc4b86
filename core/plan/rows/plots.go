package rows

import (
	"fmt"
	"slices"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// Clone is what one clone takes of a planting that keeps clones apart in blocks.
type Clone struct {
	Name     string `json:"name"`
	Plots    int    `json:"plots"`
	Stations int    `json:"stations"`
}

// clones counts the blocks and the stations of every clone.
func (r Result) clones(names []string) []Clone {
	out := []Clone{}
	if r.Spec.Plots.None() {
		return out
	}
	for _, n := range names {
		out = append(out, Clone{Name: n})
	}
	seen := map[int]bool{}
	for _, p := range r.Placed.Pieces {
		if p.Clone < 1 || p.Clone > len(out) {
			continue
		}
		c := &out[p.Clone-1]
		c.Stations += p.Stations
		if !seen[p.Plot] {
			seen[p.Plot] = true
			c.Plots++
		}
	}
	return out
}

// plots says what blocks between aisles and sprouts of stumps come to.
func (r *Result) plots(p *document.Planting, density float64, say *report.Voice) {
	r.Clones = r.clones(p.Layout.Clones)
	if n := r.Placed.Sprouts; n > 0 {
		say.Figure(report.Figure{Path: "rows.sprouts", Step: "rows", Label: "Sprouts kept", Quantity: units.Count, Value: float64(n),
			Origin: working.Chosen,
			Note:   "stations where the sprout of a stump stands: nothing is planted there"})
		if say.On("rows.sprouts") {
			say.Tell(working.Count, "rows.sprouts", "Sprouts kept", "stumps on the rows; each takes the place of stations nearer than half a spacing",
				fmt.Sprintf("%d stumps said", len(p.Stumps)), float64(n), units.Count, "common practice, no source")
		}
	}
	b := r.Spec.Plots
	if b.None() {
		return
	}
	n := 0
	for _, q := range r.Placed.Pieces {
		n = max(n, q.Plot)
	}
	gross := b.PerHa(r.Spec.RowSpacingM, r.Spec.PlantSpacingM)
	say.Figure(report.Figure{Path: "rows.plots", Step: "rows", Label: "Blocks between aisles", Quantity: units.Count, Value: float64(n),
		Origin: working.Computed,
		Note: fmt.Sprintf("%s × %s, aisles of %s", say.Text(b.AlongM, units.Spacing), say.Text(b.AcrossM, units.Spacing),
			say.Text(b.AisleM, units.Spacing))})
	say.Figure(report.Figure{Path: "rows.gross", Step: "rows", Label: "With the aisles", Quantity: units.PerArea, Value: gross,
		Origin: working.Computed,
		Note:   fmt.Sprintf("an endless field of blocks and aisles; blocks take %s of it", say.Text(b.Share(), units.Fraction))})
	if say.On("rows.plots") {
		say.Tell(working.Count, "rows.plots", "Blocks between aisles", "blocks that hold a station, counted on the boundary", fmt.Sprintf("%d stations",
			r.Placed.Stations),
			float64(n), units.Count, "geometry")
	}
	if say.On("rows.gross") {
		say.Step("rows.gross", "Density with the aisles", "10 000 × stations of a block / ((along + aisle) × (across + aisle))",
			fmt.Sprintf("10 000 × %.0f / ((%g + %g) × (%g + %g))", gross*(b.AlongM+b.AisleM)*(b.AcrossM+b.AisleM)/1e4, b.AlongM, b.AisleM, b.AcrossM,
				b.AisleM),
			gross, units.PerArea, "geometry; square blocks at 1 × 1 m: 10 000·b²/(b + 2)²",
			say.Num("density in a block", density, units.PerArea, working.Computed, "", "rows.density"))
	}
}

// judgeStumps says which stumps lie on no row.
func (r Result) judgeStumps(in In, say *report.Voice) {
	if len(r.stumpsOff) == 0 {
		return
	}
	keep := slices.DeleteFunc(slices.Clone(in.Planting.Stumps), func(s document.Stump) bool { return slices.Contains(r.stumpsOff, s.ID) })
	say.Note(finding.Finding{Rule: "rows.stump-off", Weight: finding.Watch, Step: "rows", Subject: "Stumps",
		Sentence: fmt.Sprintf("Of the %s kept, %d lie on no row as the rows are laid out now: no station comes of them.",
			report.Count(len(in.Planting.Stumps), "stump"),
			len(r.stumpsOff)),
		Remedies: []finding.Remedy{{Label: "Take them off the list", Patch: map[string]any{"planting": map[string]any{"stumps": keep}}}}})
}
