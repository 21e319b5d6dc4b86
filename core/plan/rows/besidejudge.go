package rows

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/layout"
	"slowroot/core/plan/fit"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/suitability"
	"slowroot/core/units"
)

// judgeBeside says what is wrong with companions.
func (r Result) judgeBeside(in In, say *report.Voice) {
	var shades []Beside
	for i, b := range r.Beside {
		c := in.Planting.Companions[i]
		at := finding.Ref{Kind: "companion", ID: b.ID}
		if b.Role == "shade" && b.Stations > 0 {
			shades = append(shades, b)
		}
		switch {
		case b.Where == nowhere:
			say.Note(finding.Finding{Rule: "rows.companion-nowhere", Weight: finding.Watch, Step: "rows", Subject: b.Name,
				Sentence: fmt.Sprintf("%s stands nowhere yet: put it in a strip, on a lattice of its own or in a belt.", b.Name)}.Of(at))
		case b.Stations == 0:
			say.Note(finding.Finding{Rule: "rows.companion-none", Weight: finding.Watch, Step: "rows", Subject: b.Name, Source: "method LAY-3",
				Sentence: fmt.Sprintf("Not one station of %s fits on this block.", report.LowerFirst(b.Name))}.Of(at))
		case c.Over != nil && !c.Over.Takes && in.Planting.AsPlanted == nil:
			pl := layout.Placement{Pieces: b.Rows, Stations: b.Stations}
			if n := pl.Coincident(r.Placed, coincidentM); n > 0 {
				s := in.Planting.Spec(in.Grown.Option).Normal()
				list := slices.Clone(in.Planting.Companions)
				o, taken := *c.Over, *c.Over
				o.ShiftAlongM, o.ShiftAcrossM = s.PlantSpacingM/2, s.RowSpacingM/2
				taken.Takes = true
				list[i].Over = &o
				other := slices.Clone(in.Planting.Companions)
				other[i].Over = &taken
				say.Note(finding.Finding{Rule: "rows.coincide", Weight: finding.Mend, Step: "rows", Subject: b.Name, Source: "method LAY-1, lattices that share points",
					Sentence: fmt.Sprintf("%s of %s stations of %s stand on a station of the main crop: two plants want one hole.", say.Text(float64(n), units.Count),
						say.Text(float64(b.Stations), units.Count), report.LowerFirst(b.Name)),
					Remedies: []finding.Remedy{{Label: "Shift it by half a cell", Patch: map[string]any{"planting": map[string]any{"companions": list}}},
						{Label: "Let it take those stations", Patch: map[string]any{"planting": map[string]any{"companions": other}}}}}.Of(at))
			}
		case c.Belt != nil && c.Belt.HeightM > 0:
			shelter := layout.DepthOfShelter(c.Belt.HeightM, useful, 0)
			if reach := in.field().ReachM(c.Belt.TowardDeg); reach > shelter {
				say.Note(finding.Finding{Rule: "rows.shelter", Weight: finding.Know, Step: "rows", Subject: b.Name,
					Source: "method LAY-7; general shelterbelt literature, from memory",
					Sentence: fmt.Sprintf("A belt %s tall slows the wind for %s behind it; the block reaches %s along that wind. %d belts would shelter all of it.",
						say.Text(c.Belt.HeightM, units.Spacing), say.Text(shelter, units.Distance), say.Text(reach, units.Distance), layout.Belts(reach, shelter))}.Of(at))
			}
			if c.Belt.SetbackM < c.Belt.HeightM/2 {
				say.Note(finding.Finding{Rule: "rows.belt-close", Weight: finding.Watch, Step: "rows", Subject: b.Name, Source: "method LAY-7, common practice",
					Sentence: fmt.Sprintf("The first row stands %s from the belt, less than half its height of %s: shade and roots of the belt reach it.",
						say.Text(c.Belt.SetbackM, units.Spacing), say.Text(c.Belt.HeightM, units.Spacing))}.Of(at))
			}
		}
	}
	for i, a := range shades {
		for _, b := range shades[i+1:] {
			if a.last() >= b.FromYear && b.last() >= a.FromYear {
				say.Note(finding.Finding{Rule: "rows.two-shades", Weight: finding.Watch, Step: "rows", Subject: "Shade",
					Sentence: fmt.Sprintf("%s and %s both shade the crop in the same years and both are counted and ordered. Where one is the alternative of the other, "+
						"take one away.", a.Name, report.LowerFirst(b.Name))}.
					Of(finding.Ref{Kind: "companion", ID: b.ID}))
			}
		}
	}
	r.judgeStumps(in, say)
	r.judgeObstacles(in, say)
}

// judgeObstacles says how many stations obstacles take.
func (r Result) judgeObstacles(in In, say *report.Voice) {
	if in.Planting.AsPlanted != nil || len(in.Obstacles) == 0 {
		return
	}
	bare := in
	bare.Obstacles = nil
	got, err := bare.lay(in.Grown.Option)
	all := got.main
	if err != nil || all.Stations == r.Placed.Stations {
		return
	}
	say.Note(finding.Finding{Rule: "rows.obstacles", Weight: finding.Know, Step: "rows", Subject: "Obstacles", Source: "method LAY-3",
		Sentence: fmt.Sprintf("What takes no plants costs %s on this block.", report.Count(all.Stations-r.Placed.Stations, "station"))})
}

// Limits judges the ground for every companion that has a sheet: the ground is prepared for the main crop, and what the others cannot stand
// of it is a finding.
func (r Result) Limits(in fit.In, mainCrop string, say *report.Voice) {
	for _, b := range r.Beside {
		if b.Of == nil || len(b.Of.Limits) == 0 {
			continue
		}
		var bad []string
		for _, f := range fit.Matrix(in, []*practice.Sheet{b.Of}, true)[0].Factors {
			if f.Class == suitability.S3 || f.Class == suitability.N1 || f.Class == suitability.N2 {
				bad = append(bad, fmt.Sprintf("%s %s (ideal %s, borne %s)", report.LowerFirst(f.Label), f.Value, f.Ideal, f.Tolerated))
			}
		}
		if len(bad) == 0 {
			continue
		}
		say.Note(finding.Finding{Rule: "companion.limit", Weight: finding.Watch, Step: "fit", Subject: b.Name,
			Sentence: fmt.Sprintf("The ground is prepared for %s. As found it holds %s back by %s.", report.LowerFirst(mainCrop), report.LowerFirst(b.Name),
				strings.Join(bad, "; "))}.Of(finding.Ref{Kind: "companion", ID: b.ID}))
	}
}

// last is the last age year of the main crop a companion stands in.
func (b Beside) last() int {
	if b.ToYear > 0 {
		return b.ToYear
	}
	return math.MaxInt
}
