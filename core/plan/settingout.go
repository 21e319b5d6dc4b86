package plan

import (
	"fmt"
	"math"

	"slowroot/core/drainage"
	"slowroot/core/geo"
)

// Peg is a point of the drains to be set out in the field. Heights are m above the datum of the estate's
// heights, the chainage m along its drain from the lower end.
type Peg struct {
	ID       string
	Drain    string
	Kind     string // outlet, pipe, junction, end or pit
	Chainage float64
	At       geo.Point
	Ground   float64
	Invert   float64
	Pipe     string
	Note     string
}

// CutM is how far below the ground the invert lies.
func (p Peg) CutM() float64 { return p.Ground - p.Invert }

// LaidLine is a drain as a line for setting out, its lower end first.
type LaidLine struct {
	ID      string
	Kind    string // collector, lateral or interceptor
	Line    []geo.Point
	Levels  []float64 // of the invert at each point
	LengthM float64
	Pipes   []string // from the lower end
	Low     float64
	High    float64
}

// SettingOut is what a contractor needs of the designed drains: pegs with level and chainage, and lines. Both
// are empty where nothing is designed.
func (p *Plan) SettingOut() (pegs []Peg, lines []LaidLine) {
	plane := geo.PlaneAt(p.Ground.Origin)
	at := func(x, y float64) geo.Point { return plane.From(geo.XY{X: x, Y: y}) }
	for _, v := range []struct {
		view     *NetworkView
		id, kind string
	}{{p.Drains.Network, "C", "collector"}, {p.Drains.Cut, "I", "interceptor"}} {
		n := v.view
		if n == nil || len(n.Reaches) == 0 {
			continue
		}
		top := n.Reaches[len(n.Reaches)-1]
		main := LaidLine{ID: v.id, Kind: v.kind, Low: n.OutletM, High: top.High, LengthM: top.Joins + top.LengthM}
		last := math.Inf(-1)
		for _, r := range n.Reaches {
			if len(main.Pipes) == 0 || main.Pipes[len(main.Pipes)-1] != r.Pipe.Name {
				main.Pipes = append(main.Pipes, r.Pipe.Name)
			}
			for i, s := range r.Section {
				chain := r.Joins + s.S
				if chain-last < 0.01 {
					continue
				}
				last = chain
				kind, note := "pipe", ""
				switch {
				case chain < 0.01:
					kind = "outlet"
				case i == len(r.Section)-1:
					kind = "junction"
				}
				pegs = append(pegs, Peg{ID: fmt.Sprintf("%s-%03.0f", v.id, chain), Drain: v.id, Kind: kind, Chainage: chain, At: at(s.X, s.Y), Ground: s.Ground, Invert: s.Invert, Pipe: r.Pipe.Name, Note: note})
			}
		}
		main.Line, main.Levels = n.LineAt, levels(n)
		lines = append(lines, main)
		for i, c := range n.Chambers {
			pegs = append(pegs, Peg{ID: fmt.Sprintf("%sP%d", v.id, i+1), Drain: v.id, Kind: "pit", Chainage: c.S, At: at(c.X, c.Y), Ground: c.Ground, Invert: c.Invert, Note: fmt.Sprintf("%s; floor %.2f", c.Why, c.Sump)})
		}
		for _, d := range n.Laterals {
			l := LaidLine{ID: d.ID, Kind: "lateral", LengthM: d.LengthM, Pipes: []string{d.Pipe.Name}, Low: d.Low, High: d.High}
			run := 0.0
			for i, q := range d.Points {
				if i > 0 {
					run += math.Hypot(q[0]-d.Points[i-1][0], q[1]-d.Points[i-1][1])
				}
				l.Line, l.Levels = append(l.Line, at(q[0], q[1])), append(l.Levels, invertAt(d, run))
			}
			lines = append(lines, l)
			for i, s := range d.Section {
				kind := "pipe"
				switch i {
				case 0:
					kind = "junction"
				case len(d.Section) - 1:
					kind = "end"
				}
				pegs = append(pegs, Peg{ID: fmt.Sprintf("%s-%03.0f", d.ID, s.S), Drain: d.ID, Kind: kind, Chainage: s.S, At: at(s.X, s.Y), Ground: s.Ground, Invert: s.Invert, Pipe: d.Pipe.Name})
			}
		}
	}
	return pegs, lines
}

// invertAt is a lateral's invert at a distance from its lower end, from its section.
func invertAt(d drainage.Drain, s float64) float64 {
	for i := 1; i < len(d.Section); i++ {
		if a, b := d.Section[i-1], d.Section[i]; s <= b.S+1e-9 {
			return a.Invert + (b.Invert-a.Invert)*(s-a.S)/(b.S-a.S)
		}
	}
	return d.High
}

// levels are the inverts of a network's main line at its corners; beyond the last junction the last level.
func levels(n *NetworkView) []float64 {
	out := make([]float64, len(n.Line))
	for i := range n.Line {
		s := drainage.Length(n.Line[:i+1])
		out[i] = n.Reaches[len(n.Reaches)-1].High
		for _, r := range n.Reaches {
			if s <= r.Joins+r.LengthM+1e-6 {
				out[i] = r.Low + r.Grade*math.Max(0, s-r.Joins)
				break
			}
		}
	}
	return out
}

// Laid are drain lines read from a file: what they were and how they are to be taken.
type Laid struct {
	Collector   []geo.Point
	Laterals    []DrawnDrain
	Interceptor []geo.Point
	SpacingM    float64 // 0 where the file does not say
	DepthM      float64
	Remedy      string
}

// TakeDrains is the block with the lines of a file as its drains.
func (b Block) TakeDrains(l Laid, by Choice) Block {
	d := b.drainChoice()
	if len(l.Collector) > 0 {
		d.Collector, d.Laterals = l.Collector, l.Laterals
	}
	if len(l.Interceptor) > 0 {
		d.Interceptor = l.Interceptor
	}
	if l.SpacingM > 0 {
		d.SpacingM = l.SpacingM
	}
	if l.DepthM > 0 {
		d.DepthM = l.DepthM
	}
	b.Drains = &d
	if o := b.Decided[DrainFork].Option; l.Remedy != "" && o == "" {
		decided := map[string]Choice{}
		for k, v := range b.Decided {
			decided[k] = v
		}
		by.Option = l.Remedy
		decided[DrainFork] = by
		b.Decided = decided
	}
	return b
}
