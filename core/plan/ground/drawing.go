package ground

import (
	"math"

	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/core/terrain"
)

// Drawing is the land as it is drawn on the plan sheet, on the block's plane in metres.
type Drawing struct {
	Source    document.HeightSource `json:"source"`
	IntervalM float64               `json:"intervalM"`
	Contours  []terrain.Line        `json:"contours"`
	Flow      [][3]float64          `json:"flow"` // where water gathers: x, y, m² of ground whose water passes; in order down the slope, x NaN-free
	FlowTo    [][2]float64          `json:"flowTo"`
	Hollows   []terrain.Hollow      `json:"hollows"`
	Cold      []ColdSpot            `json:"cold"`
	Barriers  []DrawnBarrier        `json:"barriers"`
	Lie       terrain.Lie           `json:"lie"`
	Class     string                `json:"class"`
	Judgement terrain.Judgement     `json:"judgement"`
	Word      string                `json:"word"`
}

// leastFlowM2 is the ground whose water makes a line worth drawing.
const leastFlowM2 = 15000

// DrawnBarrier is a barrier's line on the plane.
type DrawnBarrier struct {
	Name string       `json:"name"`
	Kind string       `json:"kind"`
	Line [][2]float64 `json:"line"`
}

// Draw makes the drawing, a margin of 60 m around the block.
func (l *Land) Draw(plane geo.Plane) Drawing {
	d := Drawing{Source: l.Source, Hollows: l.Hollows, Cold: l.Cold, Lie: l.Lie, Class: l.Class.Name, Judgement: l.Worst, Word: l.Judged(),
		Contours: []terrain.Line{}, Flow: [][3]float64{}, FlowTo: [][2]float64{}, Barriers: []DrawnBarrier{}}
	lo, hi := bounds(l.rings[0])
	const margin = 60
	near := func(x, y float64) bool {
		return x >= lo.X-margin && x <= hi.X+margin && y >= lo.Y-margin && y <= hi.Y+margin
	}
	d.IntervalM = terrain.Interval(math.Max(l.Lie.MaxZ-l.Lie.MinZ, 4*l.Source.AccuracyM))
	for _, c := range l.Surface.Contours(d.IntervalM) {
		piece := terrain.Line{Z: c.Z}
		for _, p := range c.Points {
			if near(p[0], p[1]) {
				piece.Points = append(piece.Points, p)
				continue
			}
			if len(piece.Points) > 1 {
				d.Contours = append(d.Contours, piece)
			}
			piece = terrain.Line{Z: c.Z}
		}
		if len(piece.Points) > 1 {
			piece.Closed = c.Closed && len(piece.Points) == len(c.Points)
			d.Contours = append(d.Contours, piece)
		}
	}
	s := l.Surface
	for k, m2 := range s.Gathering() {
		x, y := s.X0+float64(k%s.NX)*s.Cell, s.Y0+float64(k/s.NX)*s.Cell
		if m2 < leastFlowM2 || s.To[k] < 0 || !near(x, y) || s.Depth(k) > 0.05 { // in a hollow it stands, it does not run
			continue
		}
		t := int(s.To[k])
		d.Flow = append(d.Flow, [3]float64{x, y, m2})
		d.FlowTo = append(d.FlowTo, [2]float64{s.X0 + float64(t%s.NX)*s.Cell, s.Y0 + float64(t/s.NX)*s.Cell})
	}
	for _, b := range l.Drawn {
		out := DrawnBarrier{Name: b.Name, Kind: b.Kind, Line: [][2]float64{}}
		seen := false
		for _, p := range b.Line {
			q := plane.To(p)
			out.Line = append(out.Line, [2]float64{q.X, q.Y})
			seen = seen || near(q.X, q.Y)
		}
		if seen {
			d.Barriers = append(d.Barriers, out)
		}
	}
	return d
}

var compass = []string{"north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"}

// Compass is the word for a direction in degrees from true north.
func Compass(deg float64) string { return compass[int(math.Round(deg/45)+8)%8] }
