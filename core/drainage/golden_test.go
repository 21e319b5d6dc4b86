package drainage

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"testing"
)

// Laterals and drained areas agree with an independent geometry library (shapely), on odd shapes with bays and
// holes, on bent collectors and with branches: the count exactly, the metres to a centimetre, the area reached, found on cells,
// to one and a half per cent.
func TestNetworkAgainstIndependentGeometry(t *testing.T) {
	text, err := os.ReadFile("testdata/laterals.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Shape          string
		Outer          []XY
		Holes          [][]XY
		Line, Branch   []XY
		Spacing, Angle float64
		Laterals       int
		Metres         float64
		Reached, Block float64
	}
	if err := json.Unmarshal(text, &cases); err != nil || len(cases) < 10 {
		t.Fatal(len(cases), err)
	}
	branched := 0
	for _, c := range cases {
		rings := append([][]XY{c.Outer}, c.Holes...)
		l := Layout{Collector: c.Line, SpacingM: c.Spacing, AngleDeg: c.Angle}
		name := fmt.Sprintf("%s, %g m at %g°", c.Shape, c.Spacing, c.Angle)
		if c.Branch != nil {
			l.Branches = []Line{{"", c.Branch}}
			name += fmt.Sprintf(", a branch of %d points", len(c.Branch))
			branched++
		}
		n, err := Design(rings, l, Task{Ground: func(x, y float64) float64 { return 50 + 0.002*x + 0.003*y }, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
		if err != nil {
			t.Fatal(name, err)
		}
		metres := 0.0
		for _, d := range n.Laterals {
			metres += d.LengthM
		}
		near(t, name+": block", n.BlockM2, c.Block, 1e-3)
		if len(n.Laterals) != c.Laterals {
			t.Errorf("%s: %d laterals, shapely lays %d", name, len(n.Laterals), c.Laterals)
			continue
		}
		near(t, name+": metres", metres, c.Metres, 0.01)
		near(t, name+": reached", n.ReachedM2/c.Block, c.Reached/c.Block, 0.015)
	}
	if branched < 5 {
		t.Errorf("only %d of the cases have a branch", branched)
	}
}
