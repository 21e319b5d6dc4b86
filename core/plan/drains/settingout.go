package drains

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
	Kind    string // collector, branch, lateral or interceptor
	Line    []geo.Point
	Levels  []float64 // of the invert at each point
	LengthM float64
	Pipes   []string // from the lower end
	Low     float64
	High    float64
}

// SettingOut is what a contractor needs of the designed drains: pegs with level and chainage, and lines. Both
// are empty where nothing is designed.
func (d *Plan) SettingOut(origin geo.Point) (pegs []Peg, lines []LaidLine) {
	plane := geo.PlaneAt(origin)
	for _, v := range []struct {
		*NetworkView
		kind string
	}{{d.Network, "collector"}, {d.Cut, "interceptor"}} {
		if v.NetworkView == nil {
			continue
		}
		for k, m := range v.Mains {
			kind, at := v.kind, v.LineAt
			if k > 0 {
				kind, at = "branch", v.BranchAt[k-1].Line
			}
			if ps, l, ok := v.mainLine(m, kind, at, plane); ok {
				pegs, lines = append(pegs, ps...), append(lines, l)
			}
		}
		for _, x := range v.Laterals {
			ps, l := lateralLine(x, plane)
			pegs, lines = append(pegs, ps...), append(lines, l)
		}
	}
	return pegs, lines
}

func pegOf(drain, kind string, chainage float64, s drainage.Station, pipe string, plane geo.Plane) Peg {
	return Peg{ID: fmt.Sprintf("%s-%03.0f", drain, chainage), Drain: drain, Kind: kind, Chainage: chainage, At: plane.From(geo.XY{X: s.X, Y: s.Y}),
		Ground: s.Ground, Invert: s.Invert, Pipe: pipe}
}

// mainLine are the pegs and pits of a collector, branch or interceptor and the line itself; not ok where it has no
// reach.
func (n *NetworkView) mainLine(m drainage.Main, kind string, at []geo.Point, plane geo.Plane) (pegs []Peg, line LaidLine, ok bool) {
	line = LaidLine{ID: m.ID, Kind: kind, Line: at}
	var reaches []drainage.Drain
	last := math.Inf(-1)
	for _, r := range n.Reaches {
		if r.Main != m.ID {
			continue
		}
		reaches = append(reaches, r)
		if name := pipeName(r); len(line.Pipes) == 0 || line.Pipes[len(line.Pipes)-1] != name {
			line.Pipes = append(line.Pipes, name)
		}
		for i, s := range r.Section {
			chain := r.Joins + s.S
			if chain-last < 0.01 {
				continue
			}
			last = chain
			kind := "pipe"
			switch {
			case chain < 0.01 && m.On == "":
				kind = "outlet"
			case chain < 0.01 || i == len(r.Section)-1:
				kind = "junction"
			}
			pegs = append(pegs, pegOf(m.ID, kind, chain, s, r.Pipe.Name, plane))
		}
	}
	if len(reaches) == 0 {
		return nil, line, false
	}
	top := reaches[len(reaches)-1]
	line.Low, line.High, line.LengthM, line.Levels = reaches[0].Low, top.High, top.Joins+top.LengthM, levels(m.Points, reaches)
	pit := 0
	for _, c := range n.Chambers {
		if c.Main == m.ID {
			pit++
			pegs = append(pegs, Peg{ID: fmt.Sprintf("%sP%d", m.ID, pit), Drain: m.ID, Kind: "pit", Chainage: c.S, At: plane.From(geo.XY{X: c.X, Y: c.Y}),
				Ground: c.Ground, Invert: c.Invert, Note: fmt.Sprintf("%s; floor %.2f", c.Why, c.Sump)})
		}
	}
	return pegs, line, true
}

func pipeName(d drainage.Drain) string {
	if d.Pipe.Name == "" {
		return "open ditch"
	}
	return d.Pipe.Name
}

// lateralLine are the pegs of a lateral and the line itself.
func lateralLine(d drainage.Drain, plane geo.Plane) (pegs []Peg, line LaidLine) {
	line = LaidLine{ID: d.ID, Kind: "lateral", LengthM: d.LengthM, Pipes: []string{pipeName(d)}, Low: d.Low, High: d.High}
	for i, q := range d.Points {
		line.Line, line.Levels = append(line.Line, plane.From(geo.XY{X: q[0], Y: q[1]})), append(line.Levels, invertAt(d, drainage.Length(d.Points[:i+1])))
	}
	for i, s := range d.Section {
		kind := "pipe"
		switch i {
		case 0:
			kind = "junction"
		case len(d.Section) - 1:
			kind = "end"
		}
		pegs = append(pegs, pegOf(d.ID, kind, s.S, s, d.Pipe.Name, plane))
	}
	return pegs, line
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

// levels are the inverts of a line at its corners; beyond the last junction the last level.
func levels(line []drainage.XY, reaches []drainage.Drain) []float64 {
	out := make([]float64, len(line))
	for i := range line {
		s := drainage.Length(line[:i+1])
		out[i] = reaches[len(reaches)-1].High
		for _, r := range reaches {
			if s <= r.Joins+r.LengthM+1e-6 {
				out[i] = r.Low + r.Grade*math.Max(0, s-r.Joins)
				break
			}
		}
	}
	return out
}
