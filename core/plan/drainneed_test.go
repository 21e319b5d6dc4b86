package plan

import (
	"math"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan/drains"
	"slowroot/core/soil"
	"slowroot/core/working"
)

// Method DRN-4: roots 0.65 and clay at 0.60 give 0.60 by the clay, and 0.60 m of cover refuses it for tractors;
// roots 0.7 with rock at 1.5 and an outlet of 0.92 give 0.92 by the outlet.
func TestDrainDepthNamesItsLimit(t *testing.T) {
	in := wet(t, "persimmon", 60, 0.02, tilted)
	d := compute(t, in).Drains
	if d.DepthM != 0.60 || !said(t, d.Binding) || !said(t, d.Refused) {
		t.Errorf("clay at 0.60: %.2f by %s, refused %q", d.DepthM, d.Binding, d.Refused)
	}
	if d.Taken == "gridiron" || d.Taken == "herringbone" {
		t.Errorf("where no pipe can lie, %s is taken", d.Taken)
	}
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	plan := compute(t, in)
	if n := notes(plan, "drain.refused"); n == nil || n.Weight != finding.Stops || plan.Drains.Network != nil {
		t.Errorf("pipes without cover must stop: %+v", n)
	}
	in.Block.Drains.Traffic = "foot"
	in.Block.Pits[0].Layers[1].BottomCm, in.Block.Pits[0].Layers[2].TopCm = 92, 92
	in.Block.Pits = in.Block.Pits[:1]
	in.Block.Drains.DitchM = p(1.1)
	if d = compute(t, in).Drains; math.Abs(d.DepthM-0.8) > 1e-9 || d.Binding != "outlet" {
		t.Errorf("water in the ditch at 1.1: %.2f by %s, want 0.80 by the outlet", d.DepthM, d.Binding)
	}
	in.Block.Drains.DitchM = p(0)
	if d = compute(t, in).Drains; !said(t, d.Refused) || d.Network != nil {
		t.Errorf("no outlet: %q", d.Refused)
	}
}

// A drain wanted below the clay is laid on it, and the reason is said; taking the remedy mends it.
func TestADrainBelowTheClayIsNotDesigned(t *testing.T) {
	in := wet(t, "persimmon", 95, 0.02, tilted)
	in.Block.Drains.DepthM, in.Block.Drains.KMDay = 1.3, 0.8
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	plan := compute(t, in)
	n := notes(plan, "drain.deep")
	if plan.Drains.DepthM != 0.95 || n == nil || !said(t, n.Sentence) {
		t.Fatalf("%.2f m deep; %+v", plan.Drains.DepthM, n)
	}
	for _, x := range plan.Drains.Network.Laterals {
		for _, s := range x.Section {
			if s.Ground-s.Invert > 0.97 && len(plan.Drains.Network.Troubles) == 0 {
				t.Errorf("%s lies %.2f m deep and nothing is said", x.ID, s.Ground-s.Invert)
			}
		}
	}
	if v, ok := n.Remedies[0].Patch["drains"].(map[string]any)["depthM"]; !ok || v != nil {
		t.Errorf("the remedy is %v", n.Remedies[0])
	}
	in.Block.Drains.DepthM = 0
	if notes(compute(t, in), "drain.deep") != nil {
		t.Error("still too deep after the remedy")
	}
}

// Dip wells of three readings outweigh the marks, and a contradiction is said with its arithmetic.
func TestDipWells(t *testing.T) {
	in := wet(t, "hazelnut", 130, 0.02, tilted)
	read := func(cm ...float64) []document.WellReading {
		var out []document.WellReading
		for i, v := range cm {
			out = append(out, document.WellReading{On: civil.Must(2024, 5+i, 1), WaterCm: v})
		}
		return out
	}
	in.Block.Pits[0].Surface, in.Block.Pits[0].Layers[0].Signs = []soil.Sign{soil.Ponding}, nil
	in.Block.Drains.Wells = []document.Well{{Name: "W1", DepthCm: 150, Readings: read(95, 150)}}
	asked := func(plan *Plan) bool { return notes(plan, "soil.wet-ask") != nil }
	before := compute(t, in)
	if !asked(before) {
		t.Fatalf("few signs and two readings settle the water: %+v", before.Soil.Pits[0].Wetness)
	}
	if d := before.Drains; d.WetFrom != "marks in the pits" || d.Wells[0].Counts {
		t.Errorf("two readings count: %+v", d)
	}
	in.Block.Drains.Wells[0].Readings = read(95, 70, 150)
	plan := compute(t, in)
	if d := plan.Drains; d.WetM != 0.70 || d.WetFrom != "dip wells" || d.Wells[0].HighestCm != 70 || d.Wells[0].LowestCm != 150 {
		t.Errorf("%+v", d.Wells)
	}
	if asked(plan) {
		t.Error("a reading of the water is still asked for after three")
	}
	if n := notes(plan, "drain.disagree"); n == nil || !said(t, n.Sentence) {
		t.Errorf("70 cm by the well, 30 by the marks: %+v", n)
	}
}

// Clay at 0.66 m leaves a pipe no cover under tractors; a ditch needs none. It is offered where its spacing works, laid
// when taken, and its reason is never cover; where the head is missing too neither is.
func TestDitchesNeedNoCover(t *testing.T) {
	in := wet(t, "willow", 66, 0.02, tilted)
	in.Block.Drains.KMDay = 4
	p := compute(t, in)
	d := p.Drains
	if !said(t, d.Refused) || d.Criterion.SteadyM > 0.58 {
		t.Fatalf("%q with water wanted at %.2f", d.Refused, d.Criterion.SteadyM)
	}
	works := map[string]bool{}
	for _, r := range d.Remedies {
		works[r.ID] = r.Works
		if r.ID == "ditches" && strings.Contains(r.Why, "cover") {
			t.Errorf("ditches: %s", r.Why)
		}
	}
	if !works["ditches"] || works["gridiron"] {
		t.Errorf("%v", works)
	}
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "ditches"}}
	p = compute(t, in)
	if d = p.Drains; d.Refused != "" || d.Network == nil || !d.Network.Open || d.SpacingM < drains.ClosestM || notes(p, "drain.refused") != nil {
		t.Fatalf("%q, %.1f m apart", d.Refused, d.SpacingM)
	}
	for _, x := range d.Network.Laterals {
		for _, s := range x.Section {
			if s.Invert < s.Layer-0.051 {
				t.Fatalf("%s lies in the clay", x.ID)
			}
		}
	}
	in.Block.Decided[document.DrainFork] = document.Choice{Option: "gridiron"}
	if n := notes(compute(t, in), "drain.refused"); n == nil || !said(t, n.Sentence) {
		t.Errorf("%+v", n)
	}
	// where the soil is too tight ditches are refused as pipes are
	in = wet(t, "hazelnut", 130, 0.02, tilted)
	in.Block.Drains.KMDay = 0.002
	for _, r := range compute(t, in).Drains.Remedies {
		if r.ID == "ditches" && (r.Works || !said(t, r.Why)) {
			t.Errorf("in tight soil: ditches %+v", r)
		}
	}
	in = wet(t, "hazelnut", 60, 0.02, tilted)
	for _, r := range compute(t, in).Drains.Remedies {
		if r.ID == "ditches" && (r.Works || !said(t, r.Why)) {
			t.Errorf("clay at 0.60 m: ditches %+v", r)
		}
	}
}

// Where pits differ the design rests on the shallowest until another is named: then depth and spacing are that one's,
// pipes still lie on the layer where it comes up, and the finding says both ways and leads back.
func TestPitTheDrainsAreDesignedFor(t *testing.T) {
	in := wet(t, "hazelnut", 150, 0.02, tilted)
	pl := geo.LocalPlane(in.Block.Boundary)
	for i, x := range []float64{-60, 20, 60} {
		at := pl.From(geo.XY{X: x})
		in.Block.Pits[i].At = &at
	}
	in.Block.Pits[0].Layers[1].BottomCm, in.Block.Pits[0].Layers[2].TopCm = 112, 112
	in.Block.Drains.DitchM = p(2)
	in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: "gridiron"}}
	first := compute(t, in)
	n := notes(first, "drain.pits-differ")
	if first.Drains.DepthM != 1.12 || first.Drains.Soil.Pit != "A" || n == nil || n.Remedies[0].Label != "Design for B" || !said(t, n.Sentence) {
		t.Fatalf("%.2f on %s: %+v", first.Drains.DepthM, first.Drains.Soil.Pit, n)
	}
	in.Block.Drains.Pit = n.Remedies[0].Patch["drains"].(map[string]any)["pit"].(string)
	then := compute(t, in)
	d := then.Drains
	if d.Soil.Pit != "B" || d.DepthM <= 1.12 || d.SpacingM <= first.Drains.SpacingM {
		t.Errorf("for B: %.2f m deep, %.1f apart; for A %.2f, %.1f", d.DepthM, d.SpacingM, first.Drains.DepthM, first.Drains.SpacingM)
	}
	shallow, deep := math.Inf(1), 0.0
	for _, x := range d.Network.Laterals {
		for _, s := range x.Section {
			if s.Invert < s.Layer-0.051 && notes(then, "drain.trouble-layer") == nil {
				t.Fatalf("%s lies in the clay at %.0f, %.0f and nothing is said", x.ID, s.X, s.Y)
			}
			if s.X < -50 {
				shallow = math.Min(shallow, s.Ground-s.Layer)
			}
			deep = math.Max(deep, s.Ground-s.Invert)
		}
	}
	if shallow > 1.3 || deep < d.DepthM-0.02 {
		t.Errorf("the layer comes up to %.2f by A, the deepest pipe lies at %.2f", shallow, deep)
	}
	if n = notes(then, "drain.pits-differ"); n == nil || !said(t, n.Sentence) || n.Remedies[0].Label != "Design for A" ||
		n.Remedies[0].Patch["drains"].(map[string]any)["pit"] != nil {
		t.Errorf("%+v", n)
	}
	in.Block.Pits[0].At = nil
	if n = notes(compute(t, in), "drain.pits-differ"); !said(t, n.Sentence) {
		t.Errorf("%+v", n)
	}
	// a pit that is gone is no longer asked
	in.Block.Drains.Pit = "Z"
	if d := compute(t, in).Drains; d.Soil.Pit != "A" {
		t.Errorf("on %s", d.Soil.Pit)
	}
	for i := range in.Block.Pits {
		in.Block.Pits[i].Layers[1].BottomCm, in.Block.Pits[i].Layers[2].TopCm = 140, 140
	}
	if n = notes(compute(t, in), "drain.pits-differ"); n != nil {
		t.Errorf("pits that agree: %s", n.Sentence)
	}
}

// How deep the water table is to be kept can be said: the need, the head and the spacing follow, and the working names
// who asked.
func TestWantedWaterTable(t *testing.T) {
	in := wet(t, "hazelnut", 150, 0.02, tilted)
	usual := compute(t, in).Drains
	in.Block.Drains.WaterM = usual.Criterion.SteadyM - 0.2
	d := compute(t, in).Drains
	if k := d.Criterion; !k.Said || k.SteadyM != usual.Criterion.SteadyM-0.2 ||
		math.Abs(k.BackM/k.SteadyM-usual.Criterion.BackM/usual.Criterion.SteadyM) > 1e-12 || k.Origin() != working.Chosen ||
		usual.Criterion.Origin() != working.Sheet {
		t.Errorf("%+v", k)
	}
	if d.DepthM == usual.DepthM && d.SpacingM <= usual.SpacingM {
		t.Errorf("a shallower water table: %.2f m apart at %.2f m, as deep a one %.2f m at %.2f m", d.SpacingM, d.DepthM, usual.SpacingM, usual.DepthM)
	}
	in.Block.Drains.WaterM = 0.2
	if d := compute(t, in).Drains; d.WetM > 0.2 && d.Needed {
		t.Errorf("water at %.2f m is too high for 0.20 m", d.WetM)
	}
	for _, bad := range []float64{0.1, 2.1, -1} {
		in.Block.Drains.WaterM = bad
		if _, err := Compute(in, nil); err == nil {
			t.Errorf("a water table to be kept at %g m", bad)
		}
	}
}
