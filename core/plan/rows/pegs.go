package rows

import (
	"fmt"
	"math"

	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/plan/ground"
)

// BaseLine is what rows are pegged from by tape: the longest side of the boundary, from one corner to the other.
type BaseLine struct {
	From    geo.Point `json:"from"`
	To      geo.Point `json:"to"`
	LengthM float64   `json:"lengthM"`
	Bearing float64   `json:"bearing"`
	ThreeM  float64   `json:"threeM"` // sides of the right angle that is laid out with a tape: 3, 4 and 5 of this, m
}

// Peg is one end of a piece of row.
type Peg struct {
	ID       string    `json:"id"`
	Crop     string    `json:"crop"`
	Row      int       `json:"row"`
	End      string    `json:"end"` // first or last
	At       geo.Point `json:"at"`
	AlongM   float64   `json:"alongM"`  // of the base line, from its beginning
	OffsetM  float64   `json:"offsetM"` // square to it, into the block
	Stations int       `json:"stations"`
	StepM    float64   `json:"stepM"`
}

// SettingOut are the pegs of every row, main crop first, and the base line they are measured from.
type SettingOut struct {
	Base BaseLine `json:"base"`
	Pegs []Peg    `json:"pegs"`
}

// pegged is a crop whose rows are pegged.
type pegged struct {
	name, letter string
	rows         []layout.Piece
}

// SetOut measures the ends of every row from the longest side of the boundary.
func SetOut(g ground.Result, main string, pieces []layout.Piece, beside []Beside) SettingOut {
	out := SettingOut{Pegs: []Peg{}}
	ring := g.On[0]
	var a, b geo.XY
	for i, p := range ring {
		q := ring[(i+1)%len(ring)]
		if l := math.Hypot(q.X-p.X, q.Y-p.Y); l > out.Base.LengthM {
			a, b, out.Base.LengthM = p, q, l
		}
	}
	ex, ey := (b.X-a.X)/out.Base.LengthM, (b.Y-a.Y)/out.Base.LengthM
	side := 1.0 // the block lies to the left of a side that runs anticlockwise
	if turnsRight(ring) {
		side = -1
	}
	out.Base.From, out.Base.To = g.Plane.From(a), g.Plane.From(b)
	out.Base.Bearing = math.Mod(math.Atan2(ex, ey)*180/math.Pi+360, 360)
	out.Base.ThreeM = 3 * math.Max(1, math.Min(4, math.Floor(out.Base.LengthM/20)))
	list := []pegged{{name: main, letter: "R", rows: pieces}}
	for i, c := range beside {
		list = append(list, pegged{name: c.Name, letter: string(rune('A'+i%17)) + "-", rows: c.Rows})
	}
	for _, c := range list {
		for _, p := range c.rows {
			k := float64(p.Stations - 1)
			for _, end := range []struct {
				name string
				at   geo.XY
				n    int
			}{{"first", geo.XY{X: p.FirstX, Y: p.FirstY}, p.Station1}, {"last", geo.XY{X: p.FirstX + k*p.StepX, Y: p.FirstY + k*p.StepY}, p.Station1 + p.Stations - 1}} {
				if end.name == "last" && p.Stations == 1 {
					continue
				}
				dx, dy := end.at.X-a.X, end.at.Y-a.Y
				out.Pegs = append(out.Pegs, Peg{ID: fmt.Sprintf("%s%d-%03d", c.letter, p.Row, end.n), Crop: c.name, Row: p.Row, End: end.name, At: g.Plane.From(end.at),
					AlongM: dx*ex + dy*ey, OffsetM: (dy*ex - dx*ey) * side, Stations: p.Stations, StepM: math.Hypot(p.StepX, p.StepY)})
			}
		}
	}
	return out
}

// turnsRight reports whether a ring runs clockwise.
func turnsRight(r []geo.XY) bool {
	var s float64
	for i, p := range r {
		q := r[(i+1)%len(r)]
		s += p.X*q.Y - q.X*p.Y
	}
	return s < 0
}
