package plan

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/geo"
	"slowroot/core/plan/drains"
	"slowroot/core/soil"
)

// Whatever was seen and chosen, a plan is computed or refused with a field, it can be written as JSON, no pipe falls
// upstream, nothing lies below the layer or the outlet unsaid, and no figure of a drain is negative.
func TestDrainsOfRandomBlocks(t *testing.T) {
	rnd := rand.New(rand.NewSource(20270315))
	pick := func(of ...string) string { return of[rnd.Intn(len(of))] }
	classes := soil.Classes
	var remedies []string
	for id := range drainage.Names {
		remedies = append(remedies, id)
	}
	designed := map[string]int{}
	var grounds []Input
	for range 8 {
		slope, aspect, wave := rnd.Float64()*0.08, rnd.Float64()*2*math.Pi, rnd.Float64()*0.8
		z := func(x, y float64) float64 {
			return 60 + slope*(x*math.Cos(aspect)+y*math.Sin(aspect)) + wave*math.Sin(x/37)*math.Cos(y/29)
		}
		grounds = append(grounds, wet(t, pick("hazelnut", "persimmon", "persimmon", "willow"), 0, 0.02, z))
	}
	for run := range 400 {
		in := grounds[rnd.Intn(len(grounds))]
		in.Block.Pits = nil
		for k := range rnd.Intn(4) {
			pit := soil.Pit{Name: fmt.Sprint("P", k), On: civil.Must(2025, 1, 1)}
			top := 0.0
			class := classes[rnd.Intn(len(classes))]
			for range 1 + rnd.Intn(4) {
				bottom := top + 10 + math.Round(rnd.Float64()*80)
				if rnd.Intn(3) == 0 {
					class = classes[rnd.Intn(len(classes))]
				}
				l := soil.Layer{TopCm: top, BottomCm: bottom, Class: class, OMPct: rnd.Float64() * 4, StonesPct: math.Round(rnd.Float64() * 40), Hardness: soil.Firm,
					Structure: soil.Structures[rnd.Intn(len(soil.Structures))]}
				if rnd.Intn(5) == 0 {
					l.Hardness = soil.Hardnesses[rnd.Intn(len(soil.Hardnesses))]
				}
				if rnd.Intn(2) == 0 {
					l.Signs = []soil.Sign{soil.LayerSigns[rnd.Intn(len(soil.LayerSigns))]}
				}
				pit.Layers = append(pit.Layers, l)
				top = bottom
			}
			if pl := geo.LocalPlane(in.Block.Boundary); rnd.Intn(2) == 0 {
				at := pl.From(geo.XY{X: rnd.Float64()*200 - 100, Y: rnd.Float64()*120 - 60})
				pit.At = &at
			}
			in.Block.Pits = append(in.Block.Pits, pit)
		}
		c := &document.DrainChoice{Source: drainage.Sources[rnd.Intn(len(drainage.Sources))].ID, Traffic: pick("", "foot", "tractor", "truck"),
			CutOpen: rnd.Intn(3) == 0}
		if rnd.Intn(3) > 0 {
			c.DitchM = p(math.Max(0, math.Round(rnd.Float64()*28-3)/10))
		}
		if rnd.Intn(3) == 0 {
			c.KMDay = math.Pow(10, rnd.Float64()*4-2.5)
		}
		if rnd.Intn(3) == 0 {
			c.DepthM = 0.3 + rnd.Float64()*2
		}
		if rnd.Intn(3) == 0 {
			c.SpacingM = 4 + rnd.Float64()*50
		}
		if rnd.Intn(4) == 0 {
			c.DischargeMM = 1 + rnd.Float64()*30
		}
		if rnd.Intn(3) == 0 {
			c.Bed = &document.BedChoice{BaseM: 0.4 + rnd.Float64()*2, TopM: 0.3 + rnd.Float64(), HeightM: 0.1 + rnd.Float64()*0.6, CentreM: 1 + rnd.Float64()*6,
				Cover: pick("", "film", "fabric"), DripLines: rnd.Intn(3)}
		}
		if rnd.Intn(4) == 0 {
			c.WetPct = 1 + rnd.Float64()*99
		}
		if rnd.Intn(4) == 0 {
			pl := geo.LocalPlane(in.Block.Boundary)
			for range 2 + rnd.Intn(3) {
				c.Collector = append(c.Collector, pl.From(geo.XY{X: rnd.Float64()*340 - 170, Y: rnd.Float64()*240 - 120}))
			}
		}
		for range rnd.Intn(3) {
			pl := geo.LocalPlane(in.Block.Boundary)
			b := document.DrawnDrain{}
			for range 2 + rnd.Intn(2) {
				b.Line = append(b.Line, pl.From(geo.XY{X: rnd.Float64()*260 - 130, Y: rnd.Float64()*160 - 80}))
			}
			c.Branches = append(c.Branches, b)
		}
		in.Block.Drains = c
		in.Block.Decided = map[string]document.Choice{document.DrainFork: {Option: remedies[rnd.Intn(len(remedies))]}}
		in.Weigh = rnd.Intn(6) == 0
		plan, err := Compute(in, nil)
		if err != nil {
			t.Fatalf("run %d: %v\n%+v", run, err, c)
		}
		if _, err := json.Marshal(plan); err != nil {
			t.Fatalf("run %d cannot be written: %v\n%+v", run, err, c)
		}
		d := plan.Drains
		said := func(rule string) bool {
			return notes(plan, "drain.trouble-"+rule) != nil || notes(plan, "drain.trouble-cut-"+rule) != nil
		}
		for _, v := range []*drains.NetworkView{d.Network, d.Cut} {
			if v == nil {
				continue
			}
			designed[d.Taken]++
			for _, x := range append(append([]drainage.Drain{}, v.Laterals...), v.Reaches...) {
				for i, s := range x.Section {
					if i > 0 && s.Invert < x.Section[i-1].Invert-1e-9 {
						t.Errorf("run %d: %s falls upstream", run, x.ID)
					}
					furrows := v == d.Network && d.Taken == "beds" // a closed pipe
					if s.Layer != 0 && s.Invert < s.Layer-0.06 && !furrows && !said("layer") {
						t.Errorf("run %d: %s lies at %.2f m, the layer begins at %.2f, and nothing is said", run, x.ID, s.Invert, s.Layer)
					}
					if s.Invert < v.OutletM-1e-9 {
						t.Errorf("run %d: %s lies below the outlet", run, x.ID)
					}
				}
				if v.Open && x.CoverM < 0.29 && !said("shallow") {
					t.Errorf("run %d: the ditch %s is %.2f m deep and nothing is said", run, x.ID, x.CoverM)
				}
				if !v.Open && x.CoverM < drainage.Cover(c.Traffic)-0.01 && !said("cover") {
					t.Errorf("run %d: %s has %.2f m of cover and nothing is said", run, x.ID, x.CoverM)
				}
			}
		}
		for _, f := range plan.Figures {
			if len(f.Path) > 6 && f.Path[:6] == "drain." && (f.Value < 0 || math.IsNaN(f.Value) || math.IsInf(f.Value, 0)) {
				t.Errorf("run %d: %s is %g", run, f.Path, f.Value)
			}
		}
		for _, l := range d.Bill {
			if !(l.Amount > 0) {
				t.Errorf("run %d: %g of %s in the bill", run, l.Amount, l.What)
			}
		}
	}
	for _, id := range []string{"gridiron", "herringbone", "local", "ditches", "beds", "interceptor"} {
		if designed[id] < 3 {
			t.Errorf("%s was designed %d times in all: the fields are not wild enough", id, designed[id])
		}
	}
}
