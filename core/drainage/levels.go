package drainage

import (
	"fmt"
	"math"
	"slices"
	"sort"
)

// levels runs upstream from the outlet, along the collector and then along each branch from where it joins:
// reaches between junctions, each on the grade that brings it to the depth wanted.
func (n *Network) levels(t Task) {
	out := n.Mains[0].Points[0]
	g := t.Ground(out[0], out[1])
	if n.OutletM = t.OutletM; math.IsNaN(t.OutletM) {
		n.OutletM = g - t.depth(out)
	}
	if n.OutletM > g-0.2 {
		n.trouble(Trouble{Rule: "outlet", Drain: n.Mains[0].ID, Got: n.OutletM, Want: g - 0.2}, out)
	}
	for i, m := range n.Mains {
		level, name := n.OutletM, m.ID
		if i > 0 {
			level, name = n.level(m.On, m.Joins), m.ID+"."
		}
		marks := n.marks(i)
		for k := 1; k < len(marks); k++ {
			a, b := marks[k-1], marks[k]
			r := Drain{ID: fmt.Sprintf("%s%d", name, k), Main: m.ID, Joins: a, LengthM: b - a, Breaks: []Break{}}
			for s := a; s < b-1e-9; s += 10 {
				p, _ := At(m.Points, s)
				r.Points = append(r.Points, p)
			}
			p, _ := At(m.Points, b)
			r.Points = append(r.Points, p)
			r.Grade = math.Max(t.LeastGrade, (t.Ground(p[0], p[1])-t.depth(p)-level)/r.LengthM)
			r.Low = level
			level += r.Grade * r.LengthM
			r.High = level
			n.Reaches = append(n.Reaches, r)
		}
	}
}

// mostReachM is the longest reach on one grade: between junctions further apart a pipe follows the ground in parts.
const mostReachM = 25

// marks are the ends of the reaches of a line: its junctions, or where nothing joins its corners.
func (n *Network) marks(of int) []float64 {
	var at []float64
	for _, d := range n.Laterals {
		if d.Main == n.Mains[of].ID {
			at = append(at, d.Joins)
		}
	}
	for _, b := range n.Mains[of+1:] {
		if b.parent == of {
			at = append(at, b.Joins)
		}
	}
	marks := []float64{0}
	if len(at) == 0 {
		return append(marks, alone(n.Mains[of].Points)...)
	}
	sort.Float64s(at)
	for _, s := range at {
		last := marks[len(marks)-1]
		gap := s - last
		if gap <= 0.01 {
			continue
		}
		parts := math.Ceil(gap / mostReachM)
		for i := 1.0; i <= parts; i++ {
			marks = append(marks, last+gap*i/parts)
		}
	}
	return marks
}

// Level is the invert of the collector at a chainage from its outlet; beyond its last junction that of the junction.
func (n *Network) Level(s float64) float64 { return n.level(n.Mains[0].ID, s) }

// level is the invert of a line at a chainage.
func (n *Network) level(main string, s float64) float64 {
	level := n.OutletM
	for _, r := range n.Reaches {
		if r.Main == main && s > r.Joins-0.01 {
			level = r.Low + r.Grade*(math.Min(s, r.Joins+r.LengthM)-r.Joins)
		}
	}
	return level
}

// sizes gives every reach all that passes it and a pipe for that, branches before the line they run into: sizes
// run downstream and never fall. own is what each line takes in itself, evenly along it.
func (n *Network) sizes(t Task, own []float64) {
	brings := make([]float64, len(n.Mains)) // area at the lower end
	least := make([]float64, len(n.Mains))
	for i := len(n.Mains) - 1; i >= 0; i-- {
		m := n.Mains[i]
		total := lastJoint(n.Mains, i, n.Laterals)
		brings[i] = own[i]
		for _, d := range n.Laterals {
			if d.Main == m.ID {
				brings[i] += d.AreaM2
			}
		}
		extra := 0.0
		if i == 0 {
			extra = t.ExtraM3S
		}
		for j := i + 1; j < len(n.Mains); j++ {
			if n.Mains[j].parent == i {
				brings[i] += brings[j]
			}
		}
		for k := len(n.Reaches) - 1; k >= 0; k-- {
			r := &n.Reaches[k]
			if r.Main != m.ID {
				continue
			}
			top := r.Joins + r.LengthM - 0.01
			r.AreaM2 = own[i] * (1 - r.Joins/total)
			for _, d := range n.Laterals {
				if d.Main == m.ID && d.Joins >= top {
					r.AreaM2 += d.AreaM2
				}
			}
			for j := i + 1; j < len(n.Mains); j++ {
				if b := n.Mains[j]; b.parent == i && b.Joins >= top {
					r.AreaM2 += brings[j]
					least[i] = math.Max(least[i], least[j])
				}
			}
			r.FlowM3S = t.Q*r.AreaM2/86400 + extra
			n.size(r, t, false, least[i])
			least[i] = r.Pipe.InsideM
			n.settle(r, t)
		}
	}
	n.FlowM3S = t.Q*brings[0]/86400 + t.ExtraM3S
}

// size chooses the pipe of a drain, none for a ditch.
func (n *Network) size(d *Drain, t Task, collecting bool, atLeast float64) {
	if t.Open {
		return
	}
	p, ok := Choose(d.FlowM3S, d.Grade, collecting, atLeast)
	d.Pipe = p
	if !ok {
		n.trouble(Trouble{Rule: "size", Drain: d.ID, Got: d.FlowM3S, Want: SiltShare(p.InsideM) * Capacity(p.InsideM, d.Grade, p.Smooth, collecting)}, d.Points[0])
	}
}

// alone are the ends of the reaches of a drain without laterals: at its corners, and every 40 m or less, so
// that it can follow the ground.
func alone(line []XY) []float64 {
	var out []float64
	run := 0.0
	for k := 1; k < len(line); k++ {
		leg := dist(line[k-1], line[k])
		n := math.Max(1, math.Ceil(leg/40))
		for i := 1.0; i <= n && leg > 0.01; i++ {
			out = append(out, run+leg*i/n)
		}
		run += leg
	}
	return out
}

// settle fills in a pipe's section and judges cover, depth, layer and velocity.
func (n *Network) settle(d *Drain, t Task) {
	d.Section = nil
	d.CoverM, d.CoverAt = math.Inf(1), 0
	s, cuts := 0.0, 0.0
	dips, dipsAt := layerSlackM, Station{}
	last := d.Points[0]
	place := func(p XY, s float64) {
		g := t.Ground(p[0], p[1])
		inv := d.invert(s)
		at := Station{S: s, X: p[0], Y: p[1], Ground: g, Invert: inv}
		if layer := t.layer(p); !math.IsInf(layer, 1) {
			at.Layer = g - layer
			if over := at.Layer - inv; over > dips {
				dips, dipsAt = over, at
			}
		}
		d.Section = append(d.Section, at)
		if c := g - inv - d.Pipe.OuterM; c < d.CoverM {
			d.CoverM, d.CoverAt = c, s
		}
	}
	place(last, 0)
	for _, p := range d.Points[1:] {
		leg := dist(last, p)
		for k := 1; k <= int(math.Ceil(leg/10)); k++ {
			f := math.Min(1, float64(k)*10/leg)
			place(XY{last[0] + f*(p[0]-last[0]), last[1] + f*(p[1]-last[1])}, s+f*leg)
		}
		s, last = s+leg, p
	}
	deep, deepAt := 0.0, d.Points[0]
	for i, p := range d.Section {
		if i > 0 {
			a := d.Section[i-1]
			cuts += (p.Ground - p.Invert + a.Ground - a.Invert) / 2 * (p.S - a.S)
		}
		if c := p.Ground - p.Invert; c > deep {
			deep, deepAt = c, XY{p.X, p.Y}
		}
	}
	d.MeanCutM = cuts / math.Max(1e-9, d.LengthM)
	if t.Open {
		water := FieldDitch(0).WaterM(d.FlowM3S, d.Grade, EarthN)
		_, d.Velocity = FieldDitch(0).Flow(water, d.Grade, EarthN)
	} else {
		_, d.Velocity = PartFull(d.FlowM3S, d.Pipe.InsideM, d.Grade, 0.015)
	}
	at, _ := At(d.Points, d.CoverAt)
	switch {
	case t.Open && d.CoverM < leastDitchM-0.005:
		n.trouble(Trouble{Rule: "shallow", Drain: d.ID, Got: d.CoverM, Want: leastDitchM, AtM: d.CoverAt}, at)
	case !t.Open && d.CoverM < t.CoverM-0.005:
		n.trouble(Trouble{Rule: "cover", Drain: d.ID, Got: d.CoverM, Want: t.CoverM, AtM: d.CoverAt}, at)
	}
	if dips > layerSlackM && !t.Closed {
		n.trouble(Trouble{Rule: "layer", Drain: d.ID, Got: dipsAt.Ground - dipsAt.Invert, Want: dipsAt.Ground - dipsAt.Layer, AtM: dipsAt.S}, XY{dipsAt.X, dipsAt.Y})
	}
	if deep > t.MostDepthM {
		n.trouble(Trouble{Rule: "reach", Drain: d.ID, Got: deep, Want: t.MostDepthM}, deepAt)
	}
	if v := FullVelocity(d.Pipe.InsideM, d.Grade, 0.015); v > MostVelocity(t.Texture) && !t.Open {
		n.trouble(Trouble{Rule: "velocity", Drain: d.ID, Got: v, Want: MostVelocity(t.Texture)}, d.Points[0])
	}
}

// mostLateralM is the longest lateral that can still be flushed (common practice: 200 to 300 m).
const mostLateralM = 300

// leastDitchM is the least depth of an open ditch (common practice).
const leastDitchM = 0.3

// layerSlackM is how far a pipe that lies on the layer may dip into it between two pegs.
const layerSlackM = 0.05

// grade lays a lateral: on one grade from the collector's level to the wanted depth at its upper end, raised
// where that would cut into the layer; where cover or layer cannot be kept to on one grade, on grades that
// follow the ground in lengths of 30 m, each rising upstream.
func (d *Drain) grade(join float64, t Task) {
	line := func(s float64) XY { p, _ := At(d.Points, s); return p }
	ground := func(s float64) float64 { p := line(s); return t.Ground(p[0], p[1]) }
	most := func(s float64) float64 { // the deepest it may lie
		if layer := t.layer(line(s)); !math.IsInf(layer, 1) {
			return layer
		}
		return t.DepthM + 0.15
	}
	d.Low, d.Breaks = join, []Break{}
	d.Grade = math.Max(t.LeastGrade, (ground(d.LengthM)-t.depth(line(d.LengthM))-join)/d.LengthM)
	raise, bare := 0.0, math.Inf(1)
	n := math.Max(1, math.Ceil(d.LengthM/10))
	for k := 0.0; k <= n; k++ {
		s := d.LengthM * k / n
		raise = math.Max(raise, ground(s)-most(s)-d.invert(s))
	}
	for k := 0.0; k <= n; k++ {
		s := d.LengthM * k / n
		bare = math.Min(bare, ground(s)-d.invert(s)-raise-Pipes[0].OuterM-t.CoverM)
	}
	if bare >= -0.005 {
		d.Low += raise // it falls into the collector from above
		d.High = d.Low + d.Grade*d.LengthM
		return
	}
	legs := math.Max(1, math.Round(d.LengthM/30))
	d.Breaks = append(d.Breaks, Break{0, math.Max(join, ground(0)-most(0))})
	d.Low, d.Grade = d.Breaks[0].Level, math.Inf(1)
	for k := 1.0; k <= legs; k++ {
		s := d.LengthM * k / legs
		was := d.Breaks[len(d.Breaks)-1]
		d.Breaks = append(d.Breaks, Break{s, math.Max(was.Level+t.LeastGrade*(s-was.S), ground(s)-t.depth(line(s)))})
		d.Grade = math.Min(d.Grade, (d.Breaks[len(d.Breaks)-1].Level-was.Level)/(s-was.S))
	}
	d.High = d.Breaks[len(d.Breaks)-1].Level
}

// laterals get their grade from the ground at the wanted depth, from the collector's level at the junction.
// Their pipe is chosen for the flattest of their grades.
func (n *Network) laterals(t Task) {
	for i := range n.Laterals {
		d := &n.Laterals[i]
		d.FlowM3S = t.Q * d.AreaM2 / 86400
		top := d.Points[len(d.Points)-1]
		d.grade(n.level(d.Main, d.Joins), t)
		n.size(d, t, t.CollectInner, 0)
		n.settle(d, t)
		if d.LengthM > mostLateralM && !t.Open {
			n.trouble(Trouble{Rule: "long", Drain: d.ID, Got: d.LengthM, Want: mostLateralM}, top)
		}
	}
}

// chambers stand at the upper end of the collector and of each branch, where these turn or change size, where a
// branch comes in, and at the greatest distance.
func (n *Network) chambers(t Task) {
	for i, m := range n.Mains {
		n.Chambers = append(n.Chambers, n.pits(i, m, t)...)
	}
}

func (n *Network) pits(of int, m Main, t Task) []Chamber {
	var reaches []Drain
	for _, r := range n.Reaches {
		if r.Main == m.ID {
			reaches = append(reaches, r)
		}
	}
	if len(reaches) == 0 {
		return nil
	}
	var out []Chamber
	last := 0.0
	add := func(s float64, why string) {
		p, _ := At(m.Points, s)
		level := n.level(m.ID, s)
		out = append(out, Chamber{p[0], p[1], m.ID, s, t.Ground(p[0], p[1]), level, level - SumpM, why})
		last = s
	}
	end := reaches[len(reaches)-1].Joins + reaches[len(reaches)-1].LengthM
	var turns []float64
	for k, run := 1, 0.0; k+1 < len(m.Points); k++ {
		run += dist(m.Points[k-1], m.Points[k])
		u, v := unit(sub(m.Points[k], m.Points[k-1])), unit(sub(m.Points[k+1], m.Points[k]))
		if u[0]*v[0]+u[1]*v[1] < math.Cos(30*math.Pi/180) && run < end-1 {
			turns = append(turns, run)
		}
	}
	name := "the collector"
	if of > 0 {
		name = "branch " + m.ID
	}
	must := append(slices.Clone(turns), end)
	for _, b := range n.Mains[of+1:] {
		if b.parent == of {
			must = append(must, b.Joins)
		}
	}
	// a reducer needs no pit of its own where one stands within 10 m
	near := func(s float64) bool {
		return len(out) > 0 && s-last < 10 || slices.ContainsFunc(must, func(m float64) bool { return m >= s && m-s < 10 })
	}
	for k, r := range reaches {
		s := r.Joins + r.LengthM
		for _, c := range turns {
			if c > r.Joins && c <= s {
				add(c, name+" turns")
			}
		}
		joining := ""
		for _, b := range n.Mains[of+1:] {
			if b.parent == of && math.Abs(b.Joins-s) < 0.02 {
				joining = b.ID
			}
		}
		switch {
		case joining != "":
			add(s, "branch "+joining+" comes in")
		case s >= end-0.01:
			add(s, "end of "+name)
		case reaches[k+1].Pipe != r.Pipe && !near(s):
			add(s, "the pipe changes to "+reaches[k+1].Pipe.Name)
		case s-last >= t.PitEveryM-r.LengthM/2:
			add(s, "far from the last one")
		}
	}
	return out
}

// crossings finds laterals that cross one another or a collector, and collectors that cross.
func (n *Network) crossings() {
	lines := make([]Line, 0, len(n.Laterals)+len(n.Mains))
	for _, d := range n.Laterals {
		lines = append(lines, Line{d.ID, d.Points})
	}
	for _, m := range n.Mains {
		lines = append(lines, Line{m.ID, m.Points})
	}
	for i, a := range lines {
		for _, b := range lines[i+1:] {
			for k := 1; k < len(a.Points); k++ {
				for m := 1; m < len(b.Points); m++ {
					if p, ok := cross(a.Points[k-1], a.Points[k], b.Points[m-1], b.Points[m]); ok {
						n.trouble(Trouble{Rule: "crossing", Drain: a.ID, Other: b.ID}, p)
					}
				}
			}
		}
	}
}
