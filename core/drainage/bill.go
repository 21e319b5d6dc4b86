package drainage

import (
	"math"
)

// What a bill adds and how fast it is dug (method DRN-9; laps, waste and density are common practice, the rates of
// the machine assumed).
const (
	PipeLaps   = 1.03
	StoneWaste = 1.08
	StoneTM3   = 1.55 // t in a m³, loose
	TrenchMH   = 45.0 // m of trench in an hour
	PitH       = 2.0  // hours for an inspection pit
	SumpM      = 0.3  // of its silt trap below the pipe
)

// Bill is what a network takes.
type Bill struct {
	PipeM      map[string]float64 `json:"pipeM"` // by size, with laps and waste
	LateralM   float64            `json:"lateralM"`
	CollectorM float64            `json:"collectorM"`
	TrenchM3   float64            `json:"trenchM3"`
	SpoilM3    float64            `json:"spoilM3"` // loose, that is left over
	StoneM3    float64            `json:"stoneM3"`
	StoneT     float64            `json:"stoneT"`
	Junctions  int                `json:"junctions"`
	EndCaps    int                `json:"endCaps"`
	Reducers   int                `json:"reducers"`
	Chambers   int                `json:"chambers"`
	Hours      float64            `json:"hours"` // of the machine
	Deep       bool               `json:"deep"`  // somewhere 1.2 m or more: shoring and nobody alone
}

// Quantities of a network in a trench of a width with a box of stone (0 none) around laterals, or around a
// drain without laterals; where the
// pipe lies on the layer no stone goes below it, so that the box is only as high as the pipe and above
// (method DRN-9; rates are common practice).
func (n *Network) Quantities(trenchM, stoneW, stoneH float64) Bill {
	b := Bill{PipeM: map[string]float64{}, Junctions: len(n.Laterals) + len(n.Mains) - 1, EndCaps: len(n.Laterals), Chambers: len(n.Chambers)}
	pipes, kept := 0.0, 0.0
	add := func(d Drain) {
		b.PipeM[d.Pipe.Name] += d.LengthM * PipeLaps
		b.TrenchM3 += trenchM * d.MeanCutM * d.LengthM
		pipes += math.Pi * d.Pipe.OuterM * d.Pipe.OuterM / 4 * d.LengthM
		for _, p := range d.Section {
			b.Deep = b.Deep || p.Ground-p.Invert >= 1.2
		}
		if d.Lateral {
			b.LateralM += d.LengthM
		} else {
			b.CollectorM += d.LengthM
		}
		if stoneW > 0 && (d.Lateral || len(n.Laterals) == 0) { // what takes water in
			b.StoneM3 += EnvelopeM3(stoneW, stoneH, d.Pipe.OuterM) * d.LengthM
		}
	}
	for _, d := range n.Laterals {
		add(d)
	}
	for i, d := range n.Reaches {
		add(d)
		if i > 0 && n.Reaches[i-1].Main == d.Main && n.Reaches[i-1].Pipe != d.Pipe {
			b.Reducers++
		}
	}
	kept = b.StoneM3 + pipes
	b.StoneM3 *= StoneWaste
	b.StoneT = b.StoneM3 * StoneTM3
	b.SpoilM3 = kept * 1.25
	b.Hours = (b.LateralM+b.CollectorM)/TrenchMH + PitH*float64(b.Chambers)
	return b
}
