package plan

import (
	"fmt"
	"slices"

	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/water"
	"slowroot/core/working"
)

// waterNeed is what the driest month asks of the supply, m³ a day for the block, grown.
func (c *computation) waterNeed() {
	s := c.in.Climate
	if c.sheet == nil || s == nil || !s.HasMonths || c.inGround() {
		return
	}
	stand := c.sheet.WaterOf(c.grown.Choices)
	if stand == nil { // an estate's own sheet that does not say
		stand = &practice.Water{Name: "an assumed coefficient", Kc: [3]float64{water.GrownCoefficient, water.GrownCoefficient, water.GrownCoefficient},
			Depletion: 0.5, Origin: "cp"}
	}
	kc := slices.Max(stand.Kc[:])
	held := 50.0
	if len(c.p.Soil.Pits) > 0 {
		held = stand.Depletion * c.p.Soil.AvailableMM
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
	perDay := worst * 10 * c.ground.AreaM2 / 1e4 / 30.4
	if !(worst > 1) {
		return
	}
	c.Figure(report.Figure{Path: "site.water", Step: "ground", Label: "Water needed a day", Quantity: units.Earth, Value: perDay, Origin: working.Computed,
		Note: "in " + report.Months[month] + ", the whole block, grown, " + stand.Name + "; no losses"})
	if c.On("site.water") {
		c.Step("site.water", "Need of the driest month, a day", "(Kc · ET0 − effective rain) · 10 · ha / 30.4", fmt.Sprintf("(%.2f − %.2f) mm · 10 · %.4f / 30.4",
			use, rain, c.ground.AreaM2/1e4), perDay, units.Earth,
			"methods WAT-1 to WAT-3: FAO Irrigation and Drainage Paper 56, 1998; SCS TR-21",
			c.Num("crop coefficient of "+stand.Name, kc, units.Fraction, working.Sheet, practice.OriginWords(stand.Origin), borrowed(stand)),
			c.Num("reference evapotranspiration", s.ET0[month], units.Rain, working.Computed, report.Months[month], ""), c.Num("rain", s.Months[month].RainMM,
				units.Rain, working.Measured, c.in.Estate.Source, ""))
	}
	w := c.in.Block.Works
	if w == nil || w.WaterM3Day == 0 {
		return
	}
	if w.WaterM3Day < perDay {
		c.Note(finding.Finding{Rule: "site.water-short", Weight: finding.Mend, Step: "ground", Subject: "Water",
			Source: "methods WAT-1 to WAT-3; the coefficient: " + practice.OriginWords(stand.Origin) + borrowed(stand),
			Sentence: fmt.Sprintf("The supply of %s a day does not cover %s, which asks for %s a day once the stand is grown, without losses: it would carry %.0f "+
				"%% of the block.", c.Text(w.WaterM3Day, units.Earth), report.Months[month], c.Text(perDay, units.Earth), 100*w.WaterM3Day/perDay)})
	}
}

// borrowed says which crop the coefficients are borrowed from, where they are.
func borrowed(w *practice.Water) string {
	if w.Like == "" {
		return ""
	}
	return ", as " + w.Like
}
