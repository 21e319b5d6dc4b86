package plan

import (
	"regexp"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan/drains"
	"slowroot/core/report"
)

// Heights of a phone are good enough to choose, not to dig; without heights nothing is laid out.
func TestDrainsSayHowWellTheHeightsAreKnown(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.5, tilted)
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "herringbone"}}
	if n := notes(compute(t, in), "drain.accuracy"); n == nil || !said(t, n.Sentence) {
		t.Errorf("heights to half a metre: %+v", n)
	}
	in.done(civil.Must(2025, 2, 20), "drains")
	if plan := compute(t, in); notes(plan, "drain.laid") == nil || notes(plan, "drain.accuracy") != nil {
		t.Error("laid drains are still asked to be levelled first")
	}
	in.Records = nil
	in.Land = nil
	plan := compute(t, in)
	if plan.Drains.Network != nil || notes(plan, "drain.heights") == nil || notes(plan, "drain.accuracy") != nil {
		t.Error("a network without heights")
	}
	in = wet(t, "hazelnut", 130, 0.03, tilted)
	in.Block.Drains.DitchM = nil
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "herringbone"}}
	plan = compute(t, in)
	if notes(plan, "drain.accuracy") != nil || notes(plan, "drain.outlet") == nil {
		t.Error("levelled heights are doubted, or an outlet nobody measured is not")
	}
}

// What goes wrong in a network is said in the reader's units, once for each kind, with the rest counted and a way
// out that takes it back.
func TestTroublesInTheReadersUnits(t *testing.T) {
	in := wet(t, "hazelnut", 0, 0.02, func(x, y float64) float64 { return 50 + 0.0005*x })
	in.Block.Drains.DitchM = p(1.2)
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	pl := geo.LocalPlane(in.Block.Boundary)
	in.Block.Drains.Collector = []geo.Point{pl.From(geo.XY{X: -140, Y: 0}), pl.From(geo.XY{X: 140, Y: 0})}
	in.Block.Drains.SpacingM = 20
	plan := compute(t, in)
	n := notes(plan, "drain.trouble-cover")
	if n == nil || !said(t, n.Sentence) || n.Weight != finding.Mend {
		t.Fatalf("%+v %+v", n, plan.Drains.Network.Troubles)
	}
	if got := n.Remedies[0].Patch["drains"].(map[string]any); got["collector"] != nil {
		t.Errorf("the way back is %v", got)
	}
	in.Estate.Units = "us"
	if n := notes(compute(t, in), "drain.trouble-cover"); !said(t, n.Sentence) || strings.Contains(n.Sentence, "\u00a0m ") {
		t.Errorf("in feet: %s", n.Sentence)
	}
	for _, c := range []struct {
		trouble drainage.Trouble
		want    string
	}{{drainage.Trouble{Rule: "outlet", Got: 10, Want: 9}, "outlet invert"}, {drainage.Trouble{Rule: "size", Drain: "C1", Got: 0.1, Want: 0.05}, "gal/min"},
		{drainage.Trouble{Rule: "layer", Drain: "L1", Got: 1.2, Want: 1}, "nothing runs into it"},
		{drainage.Trouble{Rule: "reach", Got: 3, Want: 2}, "machine"}, {drainage.Trouble{Rule: "velocity", Got: 2.2, Want: 1.07}, "this soil bears 3.5\u00a0ft/s"},
		{drainage.Trouble{Rule: "shallow", Drain: "I2", Got: 0.1, Want: 0.3, AtM: 30}, "only 0.33\u00a0ft deep at 98\u00a0ft, a ditch needs 0.98\u00a0ft"},
		{drainage.Trouble{Rule: "shallow", Drain: "I2", Got: -0.1, Want: 0.3, AtM: 30}, "come out of the ground at 98\u00a0ft"},
		{drainage.Trouble{Rule: "long", Drain: "L1", Got: 400, Want: 300}, "flushed"}, {drainage.Trouble{Rule: "crossing", Drain: "L1", Other: "L2"},
			"L1 crosses L2"}, {drainage.Trouble{Rule: "missed", Got: 4046.8564224, Want: 8093.7128448},
			"a piece of 1.00\u00a0ac is reached by no drain, 2.00\u00a0ac with all"}} {
		if got := drains.TroubleWords(c.trouble, &report.Voice{Units: "us"}); !strings.Contains(got, c.want) {
			t.Errorf("%s: %s", c.trouble.Rule, got)
		}
	}
}

// A reader in feet finds no metre in the bill, the order of the work, the cautions or the findings, whatever is dug.
func TestNoMetreForAReaderInFeet(t *testing.T) {
	metric := regexp.MustCompile(`\d[\x{00a0}\x{202f} ]?(m|cm|mm|km|m²|m³|ha|t|kg|L/s|m/s|t/m³)\b`)
	pipe := regexp.MustCompile(`\d+ mm`) // sold by its metric size
	for way, source := range map[string]string{"gridiron": "rain", "ditches": "rain", "beds": "rain", "interceptor": "seepage", "diversion": "runon",
		"local": "rain"} {
		in := wet(t, "hazelnut", 130, 0.15, func(x, y float64) float64 { return 50 + 0.05*y + 0.004*x })
		in.Estate.Units = "us"
		in.Block.Drains.Source = source
		in.Block.Drains.Bed = &document.BedChoice{Cover: "fabric", DripLines: 1}
		in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: way}}
		p := compute(t, in)
		var said []string
		for _, l := range p.Drains.Bill {
			said = append(said, pipe.ReplaceAllString(l.What, "")+": "+l.Note)
		}
		if len(said) < 3 {
			t.Errorf("%s: %v", way, said)
		}
		said = append(append(said, p.Drains.Laying...), p.Drains.Cautions...)
		for _, f := range p.Findings {
			if strings.HasPrefix(f.Rule, "drain.") || strings.HasPrefix(f.Rule, "bed.") {
				said = append(said, f.Sentence)
			}
		}
		for _, s := range said {
			if got := metric.FindString(s); got != "" {
				t.Errorf("%s: %q in %q", way, got, s)
			}
		}
	}
}
