package drainage

import "math"

// Task is what the drains must do and keep to.
type Task struct {
	Ground       func(x, y float64) float64 // height of the surface
	Q            float64                    // design discharge, m/day
	DepthM       float64                    // of the invert, wanted
	CoverM       float64                    // at least, over the pipe
	Layer        func(x, y float64) float64 // depth of what stops water, m; nil or infinite where none is known
	OutletM      float64                    // level of the outlet invert; NaN takes the ground less the depth
	MostDepthM   float64                    // reach of the machine; 0 is 2.5
	Texture      string                     // decides the highest velocity
	LeastGrade   float64                    // m/m; 0 is 0.001
	PitEveryM    float64                    // along the collector; 0 is 120
	ExtraM3S     float64                    // let in at the head of the collector, from an interceptor
	Closed       bool                       // the pipe takes nothing in: it may lie in the layer
	Open         bool                       // open ditches: no pipe, nothing over it, no pits
	CollectInner bool                       // laterals by the collecting formula instead of the safe transporting one
}

// Drain is one pipe: a lateral, or the reach of a collector between junctions.
type Drain struct {
	ID        string    `json:"id"`
	Main      string    `json:"main"` // the line a reach is of or a lateral joins
	Lateral   bool      `json:"lateral"`
	Points    []XY      `json:"points"` // from its lower end upstream
	LengthM   float64   `json:"lengthM"`
	AreaM2    float64   `json:"areaM2"` // its own contributing area; of a reach, all that passes it
	FlowM3S   float64   `json:"flowM3S"`
	Pipe      Pipe      `json:"pipe"`  // without a name: an open ditch
	Grade     float64   `json:"grade"` // m/m
	Velocity  float64   `json:"velocity"`
	Low       float64   `json:"low"` // invert at its lower end
	High      float64   `json:"high"`
	CoverM    float64   `json:"coverM"` // least over it
	CoverAt   float64   `json:"coverAt"`
	MeanCutM  float64   `json:"meanCutM"`
	Joins     float64   `json:"joins"` // chainage on its main where a lateral joins or a reach begins
	Section   []Station `json:"section"`
	Breaks    []Break   `json:"breaks"` // where the grade changes, its two ends included; none on an even grade
	direction XY
}

// Break is a point where the grade of a pipe changes: how far from its lower end, and the invert there.
type Break struct {
	S     float64 `json:"s"`
	Level float64 `json:"level"`
}

// invert is the level at a distance from the lower end.
func (d *Drain) invert(s float64) float64 {
	for i := 1; i < len(d.Breaks); i++ {
		if a, b := d.Breaks[i-1], d.Breaks[i]; s <= b.S || i == len(d.Breaks)-1 {
			return a.Level + (b.Level-a.Level)*(s-a.S)/(b.S-a.S)
		}
	}
	return d.Low + d.Grade*s
}

// Station is a point of a pipe's long section.
type Station struct {
	S      float64 `json:"s"`
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Ground float64 `json:"ground"`
	Invert float64 `json:"invert"`
	Layer  float64 `json:"layer"` // level of what stops water; 0 not known
}

// Chamber is an inspection pit or silt trap.
type Chamber struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Main   string  `json:"main"`
	S      float64 `json:"s"` // on its main
	Ground float64 `json:"ground"`
	Invert float64 `json:"invert"`
	Sump   float64 `json:"sump"` // level of its floor
	Why    string  `json:"why"`
}

// Trouble is something a network cannot keep to: the rule, the drain and where, with what was found and what
// the rule asks for. Sentence is for whoever shows it to put into words, in the reader's units.
type Trouble struct {
	Rule     string  `json:"rule"`  // outlet, size, cover, shallow, layer, reach, velocity, long, crossing or missed
	Drain    string  `json:"drain"` // of a crossing the first of the two
	Got      float64 `json:"got"`   // m, m/s, m³/s or m², by the rule
	Want     float64 `json:"want"`
	AtM      float64 `json:"atM"` // from the lower end of the drain, where the rule has a place
	Other    string  `json:"other,omitempty"`
	Sentence string  `json:"sentence"`
	X        float64 `json:"x"`
	Y        float64 `json:"y"`
}

// Network is a design.
type Network struct {
	Mains     []Main    `json:"mains"` // the collector, then its branches
	Laterals  []Drain   `json:"laterals"`
	Reaches   []Drain   `json:"reaches"` // of the collector from the outlet upstream, then of each branch
	Chambers  []Chamber `json:"chambers"`
	Troubles  []Trouble `json:"troubles"`
	BlockM2   float64   `json:"blockM2"`
	ReachedM2 float64   `json:"reachedM2"`
	Missed    []Missed  `json:"missed"` // what no drain reaches
	FlowM3S   float64   `json:"flowM3S"`
	OutletM   float64   `json:"outletM"`
	Open      bool      `json:"open"` // ditches, not pipes
}

// Design lays a network on a block (rings on the plane, the outer one first), shares its water out and
// gives every pipe its level and size. What cannot be kept to is a trouble, not a silent change.
func Design(rings [][]XY, l Layout, t Task) (*Network, error) {
	if err := l.Valid(); err != nil {
		return nil, err
	}
	t.defaults()
	mains := l.mains()
	n := &Network{Open: t.Open, Mains: mains, Laterals: append([]Drain{}, l.lay(rings, mains, t.height)...), Reaches: []Drain{}, Chambers: []Chamber{},
		Troubles: []Trouble{}, Missed: []Missed{}, BlockM2: Area(rings)}
	ext := l.EndM
	if ext == 0 {
		ext = l.SpacingM / 2
	}
	areas, own, missed := make([]float64, len(n.Laterals)), make([]float64, len(mains)), []Missed{}
	if !l.Given {
		areas, own, n.ReachedM2, missed = l.Reach(rings, mains, n.Laterals, ext, 0)
	}
	n.Missed = missed
	for i := range n.Laterals {
		n.Laterals[i].AreaM2 = areas[i]
	}
	n.levels(t)
	n.sizes(t, own)
	if !t.Open {
		n.chambers(t)
	}
	n.laterals(t)
	n.crossings()
	for _, m := range missed {
		if m.AreaM2 > 0.01*n.BlockM2 {
			n.trouble(Trouble{Rule: "missed", Got: m.AreaM2, Want: n.BlockM2 - n.ReachedM2}, XY{m.X, m.Y})
		}
	}
	return n, nil
}

func (t *Task) defaults() {
	if t.LeastGrade == 0 {
		t.LeastGrade = 0.001
	}
	if t.MostDepthM == 0 {
		t.MostDepthM = 2.5
	}
	if t.PitEveryM == 0 {
		t.PitEveryM = 120
	}
}

func (t *Task) height(p XY) float64 { return t.Ground(p[0], p[1]) }

// layer is how deep what stops the water lies under a point; infinite where none is known.
func (t *Task) layer(p XY) float64 {
	if t.Layer == nil {
		return math.Inf(1)
	}
	return t.Layer(p[0], p[1])
}

// depth is how deep the invert is wanted under a point: on the layer where that lies less deep, unless the pipe is
// closed.
func (t *Task) depth(p XY) float64 {
	if t.Closed {
		return t.DepthM
	}
	return math.Min(t.DepthM, t.layer(p))
}

func (n *Network) trouble(t Trouble, at XY) {
	t.X, t.Y = at[0], at[1]
	n.Troubles = append(n.Troubles, t)
}
