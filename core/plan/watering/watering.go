// Package watering is the part of a plan that says what the crop asks of the water supply.
package watering

import (
	"fmt"
	"slices"

	"slowroot/core/climate"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/water"
	"slowroot/core/working"
)

// In is a crop in a climate, on ground that holds some water.
type In struct {
	Sheet       *practice.Sheet
	Choices     map[string]string
	Climate     *climate.Site
	AreaM2      float64
	AvailableMM float64 // held for roots, as pits show it; 0 without a pit
	SupplyM3    float64 // there is, a day; 0 where it is not said
	Source      string  // of the climate
}

// Need is what the driest month asks of the supply, m³ a day for the block, grown.
func Need(in In, c *report.Voice) {
	s := in.Climate
	if in.Sheet == nil || s == nil || !s.HasMonths {
		return
	}
	stand := in.Sheet.WaterOf(in.Choices)
	if stand == nil { // an estate's own sheet that does not say
		stand = &practice.Water{Name: "an assumed coefficient", Kc: [3]float64{water.GrownCoefficient, water.GrownCoefficient, water.GrownCoefficient},
			Depletion: 0.5, Origin: "cp"}
	}
	kc := slices.Max(stand.Kc[:])
	held := 50.0
	if in.AvailableMM > 0 {
		held = stand.Depletion * in.AvailableMM
	}
	worst, month := 0.0, 0
	var use, rain float64
	for i, m := range s.Months {
		u := kc * s.ET0[i]
		e, err := water.EffectiveRain(m.RainMM, u, held)
		if err != nil {
			continue
		}
		if need := u - e.Storage; need > worst {
			worst, month, use, rain = need, i, u, e.Storage
		}
	}
	perDay := worst * 10 * in.AreaM2 / 1e4 / 30.4
	if !(worst > 1) {
		return
	}
	c.Figure(report.Figure{Path: "site.water", Step: "ground", Label: "Water needed a day", Quantity: units.Earth, Value: perDay, Origin: working.Computed,
		Note: "in " + report.Months[month] + ", the whole block, grown, " + stand.Name + "; no losses"})
	if c.On("site.water") {
		c.Step("site.water", "Need of the driest month, a day", "(Kc · ET0 − effective rain) · 10 · ha / 30.4", fmt.Sprintf("(%.2f − %.2f) mm · 10 · %.4f / 30.4",
			use, rain, in.AreaM2/1e4), perDay, units.Earth,
			"methods WAT-1 to WAT-3: FAO Irrigation and Drainage Paper 56, 1998; SCS TR-21",
			c.Num("crop coefficient of "+stand.Name, kc, units.Fraction, working.Sheet, practice.OriginWords(stand.Origin), borrowed(stand)),
			c.Num("reference evapotranspiration", s.ET0[month], units.Rain, working.Computed, report.Months[month], ""), c.Num("rain", s.Months[month].RainMM,
				units.Rain, working.Measured, in.Source, ""))
	}
	if in.SupplyM3 > 0 && in.SupplyM3 < perDay {
		c.Note(finding.Finding{Rule: "site.water-short", Weight: finding.Mend, Step: "ground", Subject: "Water",
			Source: "methods WAT-1 to WAT-3; the coefficient: " + practice.OriginWords(stand.Origin) + borrowed(stand),
			Sentence: fmt.Sprintf("The supply of %s a day does not cover %s, which asks for %s a day once the stand is grown, without losses: it would carry %.0f "+
				"%% of the block.", c.Text(in.SupplyM3, units.Earth), report.Months[month], c.Text(perDay, units.Earth), 100*in.SupplyM3/perDay)})
	}
}

// borrowed says which crop the coefficients are borrowed from, where they are.
func borrowed(w *practice.Water) string {
	if w.Like == "" {
		return ""
	}
	return ", as " + w.Like
}
