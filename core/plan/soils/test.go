package soils

import (
	"fmt"

	"slowroot/core/report"
	"slowroot/core/soil"
)

// readTest works out the sums of a test.
func readTest(i int, t soil.Test, used bool, say *report.Voice) TestView {
	v := TestView{Index: i, Used: used, Empty: t.Empty(), AgeMonths: t.On.MonthsTo(say.Today), Doubts: []string{}}
	v.Label = say.Marked(fmt.Sprintf("{%g–%g cm}", t.FromCm, t.ToCm)) + ", " + t.On.Words()
	keep := func(x float64, ok bool) *float64 {
		if !ok {
			return nil
		}
		return &x
	}
	ph, est, ok := t.PHWater()
	v.PHWater, v.Estimated = keep(ph, ok), est
	v.Bases = keep(t.Bases())
	v.CEC = keep(t.CECAt7())
	v.BasePct = keep(t.BaseSaturation())
	v.ESPPct = keep(t.ESP())
	for _, d := range t.Doubts() {
		v.Doubts = append(v.Doubts, d.Sentence)
	}
	return v
}
