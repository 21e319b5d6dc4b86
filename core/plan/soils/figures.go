package soils

import (
	"fmt"
	"math"

	"slowroot/core/report"
	"slowroot/core/soil"
	"slowroot/core/units"
	"slowroot/core/working"
)

// figures are depth, water held, pH and bases, with their working.
func (p Profile) figures(in In, root float64, say *report.Voice) {
	if len(p.Pits) > 0 {
		note := "nothing stops roots in the pits"
		if p.Limiting != "" {
			note = p.Limiting + "; 25th percentile of " + report.Count(len(p.Pits), "pit")
		}
		say.Figure(report.Figure{Path: "soil.depth", Step: "soil", Label: "Effective depth", Quantity: units.Depth, Value: p.DepthCm, Low: p.DepthCm,
			High: p.AfterCm, Ranged: p.AfterCm > p.DepthCm, Origin: working.Measured, Note: note})
		say.Figure(report.Figure{Path: "soil.available", Step: "soil", Label: "Water held for roots", Quantity: units.Rain, Value: p.AvailableMM,
			Origin: working.Computed, Note: soil.HeldClass(p.AvailableMM)})
		if say.On("soil.depth") {
			say.Tell(working.Search, "soil.depth", "The block", "25th percentile of its pits, type 7", report.Count(len(p.Pits), "pit"), p.DepthCm, units.Depth,
				"common practice, no source")
			for _, v := range p.Pits {
				sub := "no barrier down to " + say.Text(v.BottomCm, units.Depth)
				for k, b := range v.Barriers {
					if k == 0 {
						sub = ""
					} else {
						sub += "; "
					}
					sub += fmt.Sprintf("%s at %s (%s)", b.Kind, say.Text(b.DepthCm, units.Depth), b.Why)
				}
				say.Tell(working.Rule, "soil.depth", v.Name, "the shallowest barrier; after works the next below those removed", sub, v.EffectiveCm, units.Depth,
					"method SOIL-4; common practice, no source",
					say.Num("after works", v.AfterCm, units.Depth, working.Computed, v.AfterStops, ""))
			}
		}
		if say.On("soil.available") {
			say.Tell(working.Search, "soil.available", "The block", "25th percentile of its pits, type 7", report.Count(len(p.Pits), "pit"), p.AvailableMM, units.Rain,
				"common practice, no source")
			for i, v := range p.Pits {
				_, shares, _, _ := in.Pits[i].Available(math.Min(root, v.EffectiveCm))
				sub := ""
				for k, s := range shares {
					if k > 0 {
						sub += " + "
					}
					sub += fmt.Sprintf("%.0f mm (%g–%g cm)", s.MM, s.TopCm, s.BottomCm)
				}
				say.Tell(working.Series, "soil.available", v.Name, "Σ 10·(field capacity − wilting point)·(1 − stones)·thickness", sub, v.AvailableMM, units.Rain,
					"FAO Irrigation and Drainage Paper 56, 1998, eq. 82; water contents by Saxton & Rawls, Soil Sci. Soc. Am. J. 70, 2006, ± 15–25 %",
					say.Num("down to", math.Min(root, v.EffectiveCm), units.Depth, working.Computed, "the crop's roots or the first barrier", "soil.depth"))
			}
		}
	}
	if i, ok := soil.Top(in.Tests); ok {
		v := p.Tests[i]
		if v.PHWater != nil {
			say.Figure(report.Figure{Path: "soil.ph", Step: "soil", Label: "pH in water", Quantity: units.PH, Value: *v.PHWater, Origin: working.Measured,
				Note: v.Label})
			if say.On("soil.ph") {
				t := in.Tests[i]
				formula, src := "as measured in water", "laboratory report"
				if v.Estimated {
					formula, src = "CaCl₂ + 0.6, KCl + 0.9", "from memory, ± 0.3"
				}
				say.Tell(working.Lookup, "soil.ph", "pH in water", formula, fmt.Sprintf("%.1f in %s", *t.PH, t.PHMethod), *v.PHWater, units.PH, src)
			}
		}
		if v.BasePct != nil {
			say.Figure(report.Figure{Path: "soil.bases", Step: "soil", Label: "Base saturation", Quantity: units.Percent, Value: *v.BasePct, Origin: working.Computed,
				Note: v.Label})
			if say.On("soil.bases") {
				say.Step("soil.bases", "Base saturation", "100 · (Ca + Mg + K + Na) / CEC at pH 7", fmt.Sprintf("100 · %.3f / %.3f", *v.Bases, *v.CEC), *v.BasePct,
					units.Percent, "van Raij et al., Boletim Técnico 100, Instituto Agronômico, 2nd ed., 1997")
			}
		}
	}
}
