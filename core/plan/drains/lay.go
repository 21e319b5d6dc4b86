package drains

import (
	"fmt"
	"math"
	"slices"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/soils"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/soil"
	"slowroot/core/units"
)

// heightAt is the surface under a point of the block's plane; NaN where no height is known.
func (c *design) heightAt(x, y float64) float64 { return c.Land.Surface.Height(x, y) }

// xy are the block's rings as the drainage package takes them.
func (c *design) xy() [][]drainage.XY {
	out := make([][]drainage.XY, len(c.Ground.On))
	for i, r := range c.Ground.On {
		for _, p := range r {
			out[i] = append(out[i], drainage.XY{p.X, p.Y})
		}
	}
	return out
}

func (c *design) lineOf(points []geo.Point) []drainage.XY {
	out := make([]drainage.XY, len(points))
	for i, p := range points {
		q := c.Ground.Plane.To(p)
		out[i] = drainage.XY{q.X, q.Y}
	}
	return out
}

func (c *design) pointsOf(line []drainage.XY) []geo.Point {
	out := make([]geo.Point, len(line))
	for i, p := range line {
		out[i] = c.Ground.Plane.From(geo.XY{X: p[0], Y: p[1]})
	}
	return out
}

// known reports that heights are known all around the block.
func (c *design) known(line []drainage.XY) bool {
	if c.Land == nil {
		return false
	}
	for _, r := range append(c.xy(), line) {
		for _, p := range r {
			if math.IsNaN(c.heightAt(p[0], p[1])) {
				return false
			}
		}
	}
	return true
}

// suggest is a first line for a remedy.
func (c *design) suggest(remedy string, spacing float64) []drainage.XY {
	if !c.known(nil) {
		return nil
	}
	wet, _ := c.wetPart()
	return drainage.Suggest(remedy, c.xy(), c.heightAt, spacing, c.Land.Lie.FallsTo, wet)
}

// wetPart is the wet part of the block, taken as a circle round the pit that governs: nil where that has no position,
// without a radius where most of the block is wet or nobody said. pit is its name.
func (c *design) wetPart() (wet *drainage.Wet, pit string) {
	i, ok := c.governing()
	if !ok || c.Pits[i].At == nil {
		return nil, ""
	}
	wet = &drainage.Wet{At: c.lineOf([]geo.Point{*c.Pits[i].At})[0]}
	if share := c.Choice.WetPct / 100; share > 0 && share < 0.6 {
		wet.RadiusM = math.Sqrt(share * c.Ground.AreaM2 / math.Pi)
	}
	return wet, c.Pits[i].Name
}

// lowPart is the wet part where no pit says where it lies: a circle of the share that was said round the lowest ground
// well inside the block. nil where no share was said.
func (c *design) lowPart() *drainage.Wet {
	share := c.Choice.WetPct / 100
	if !(share > 0 && share < 0.6) || c.Land == nil {
		return nil
	}
	r := math.Sqrt(share * c.Ground.AreaM2 / math.Pi)
	s := c.Land.Surface
	best, low := (*drainage.Wet)(nil), math.Inf(1)
	for j := range s.NY {
		for i := range s.NX {
			x, y, z := s.X0+float64(i)*s.Cell, s.Y0+float64(j)*s.Cell, s.At(i, j)
			if math.IsNaN(z) || z >= low || !c.Land.In(x, y) {
				continue
			}
			inside := true
			for k := range 8 { // most of the circle lies in the block
				a := math.Pi / 4 * float64(k)
				inside = inside && c.Land.In(x+0.6*r*math.Cos(a), y+0.6*r*math.Sin(a))
			}
			if inside {
				best, low = &drainage.Wet{At: drainage.XY{x, y}, RadiusM: r}, z
			}
		}
	}
	return best
}

// laid is d with what is taken laid on the block, as remembered where the same was laid before.
func (c *design) laid(d *Plan, choice document.DrainChoice) {
	if c.Land == nil || c.Land.Key == "" {
		c.design(d, choice)
		return
	}
	key := struct {
		Land          string
		Ground        ground.Result
		Pits          []soil.Pit
		Soil          soils.Profile
		Choice, Drawn document.DrainChoice
		Plan          *Plan
		NoDitch       string
		Brief         bool
		Rows          *Rows
		RowSpacingM   float64
		Bed           *practice.Bed
	}{Land: c.Land.Key, Ground: c.Ground, Pits: c.Pits, Soil: c.Soil, Choice: c.Choice, Drawn: choice, Plan: d, NoDitch: d.noDitch, Brief: c.Brief}
	if d.Taken == "beds" || choice.Bed != nil { // nothing else follows the rows
		key.Rows, key.RowSpacingM = &c.Rows, c.RowSpacingM
		if c.Sheet != nil {
			key.Bed = c.Sheet.Bed
		}
	}
	*d = report.Recall(c.Voice, "drains", key, func() (Plan, bool) {
		was := *d
		c.design(&was, choice)
		return was, !c.Stopped()
	})
}

// design lays what is taken on the block.
func (c *design) design(d *Plan, choice document.DrainChoice) {
	switch {
	case d.Taken == "diversion":
		c.diversion(d, choice)
	case d.Taken == "interceptor" || len(choice.Interceptor) > 1:
		c.interceptor(d, choice, math.NaN())
	}
	switch d.Taken {
	case "gridiron", "herringbone", "local", "ditches":
		if d.Refused == "" && d.SpacingM > 0 {
			c.network(d, choice)
		}
	case "beds":
		d.Bed = c.bed(d)
		if d.Bed.Refused == "" && d.DischargeM > 0 {
			c.endDrain(d, choice)
		}
	}
	if choice.Bed != nil && d.Bed == nil {
		d.Bed = c.bed(d)
	}
}

// task is what every pipe of the block keeps to.
func (c *design) task(d *Plan, choice document.DrainChoice, line []drainage.XY) drainage.Task {
	t := drainage.Task{Ground: c.heightAt, Q: d.DischargeM / 1000, DepthM: d.DepthM, CoverM: drainage.Cover(choice.Traffic), MostDepthM: c.Choice.MachineReach() +
		0.2, OutletM: math.NaN()}
	if d.Soil != nil {
		t.Layer, t.Texture = c.Layer(), d.Soil.Texture
	}
	if choice.DitchM != nil && *choice.DitchM > 0 {
		// as deep as the ditch lets it, if the pipe needs it; never deeper than the layer
		out := math.Min(*choice.DitchM-drainage.OutletClearM, d.DepthM+0.1)
		if t.Layer != nil {
			out = math.Min(out, t.Layer(line[0][0], line[0][1]))
		}
		t.OutletM = c.heightAt(line[0][0], line[0][1]) - out
	}
	return t
}

// lineFor is the line a person drew, else a first one.
func (c *design) lineFor(remedy string, drawn []geo.Point, spacing float64) (line []drainage.XY, suggested, ok bool) {
	line = c.lineOf(drawn)
	if len(line) < 2 {
		line, suggested = c.suggest(remedy, spacing), true
	}
	return line, suggested, len(line) >= 2 && c.known(line)
}

func (c *design) view(n *drainage.Network, line []drainage.XY, suggested, drawn bool, spacing float64) *NetworkView {
	for i := range n.Troubles {
		n.Troubles[i].Sentence = TroubleWords(n.Troubles[i], c.Voice)
	}
	v := &NetworkView{Network: n, Line: line, LineAt: c.pointsOf(line), BranchAt: []document.DrawnDrain{}, Part: []drainage.XY{}, Suggested: suggested,
		Drawn: drawn, SpacingM: spacing}
	for _, m := range n.Mains[1:] {
		v.BranchAt = append(v.BranchAt, document.DrawnDrain{ID: m.ID, Line: c.pointsOf(m.Points)})
	}
	v.NextBranch = freeBranch(v.BranchAt)
	return v
}

// TroubleWords puts a trouble into the reader's units.
func TroubleWords(t drainage.Trouble, c *report.Voice) string {
	m := func(v float64) string { return c.Text(v, units.Spacing) }
	switch t.Rule {
	case "outlet":
		return fmt.Sprintf("the outlet invert at %s lies above what the ground there allows, %s", m(t.Got), m(t.Want))
	case "size":
		return fmt.Sprintf("%s carries %s, more than the largest pipe takes at its fall, %s", t.Drain, c.Text(t.Got, units.Outflow), c.Text(t.Want, units.Outflow))
	case "cover":
		return fmt.Sprintf("%s has %s of cover at %s, %s are needed", t.Drain, m(t.Got), c.Text(t.AtM, units.Distance), m(t.Want))
	case "shallow":
		if t.Got <= 0 {
			return fmt.Sprintf("the floor of %s would come out of the ground at %s", t.Drain, c.Text(t.AtM, units.Distance))
		}
		return fmt.Sprintf("%s is only %s deep at %s, a ditch needs %s", t.Drain, m(t.Got), c.Text(t.AtM, units.Distance), m(t.Want))
	case "layer":
		return fmt.Sprintf("%s goes %s down, below the layer at %s that stops the water: nothing runs into it there", t.Drain, m(t.Got), m(t.Want))
	case "reach":
		return fmt.Sprintf("%s goes %s down, deeper than the machine reaches, %s", t.Drain, m(t.Got), m(t.Want))
	case "velocity":
		return fmt.Sprintf("%s runs full at %s, this soil bears %s", t.Drain, c.Text(t.Got, units.Velocity), c.Text(t.Want, units.Velocity))
	case "long":
		return fmt.Sprintf("%s is %s long: over %s it cannot be flushed", t.Drain, c.Text(t.Got, units.Distance), c.Text(t.Want, units.Distance))
	case "crossing":
		return t.Drain + " crosses " + t.Other
	}
	s := "a piece of " + c.Text(t.Got, units.Area) + " is reached by no drain"
	if whole := c.Text(t.Want, units.Area); whole != c.Text(t.Got, units.Area) {
		s += ", " + whole + " with all that is hatched"
	}
	return s
}

func (c *design) network(d *Plan, choice document.DrainChoice) {
	line, suggested, ok := c.lineFor(d.Taken, choice.Collector, d.SpacingM)
	if !ok {
		return
	}
	l := drainage.Layout{Collector: line, SpacingM: d.SpacingM, AngleDeg: 90, Alone: d.Taken == "local"}
	rings, part := c.xy(), []drainage.XY{}
	assumed := false
	wet, _ := c.wetPart()
	if l.Alone && (wet == nil || wet.RadiusM == 0) {
		wet, assumed = c.lowPart(), true
	}
	if l.Alone && wet != nil {
		if suggested {
			if way := drainage.Suggest("local", rings, c.heightAt, d.SpacingM, c.Land.Lie.FallsTo, wet); len(way) > 1 && c.known(way) {
				line = way
			}
		}
		if ring := wet.Ring(rings); ring != nil { // laterals in the wet part only
			l.Alone, part, rings = false, ring, [][]drainage.XY{ring}
		}
	}
	if d.Taken == "herringbone" {
		l.AngleDeg = 60
		if choice.AngleDeg > 0 {
			l.AngleDeg = choice.AngleDeg
		}
	}
	for _, x := range choice.Laterals {
		l.Drawn = append(l.Drawn, drainage.Line{ID: x.ID, Points: c.lineOf(x.Line)})
	}
	if !l.Alone {
		for _, x := range choice.Branches {
			l.Branches = append(l.Branches, drainage.Line{ID: x.ID, Points: c.lineOf(x.Line)})
		}
	}
	for i, x := range append(slices.Clone(l.Branches), l.Drawn...) {
		if !c.known(x.Points) {
			field, n := "branches", i
			if i >= len(l.Branches) {
				field, n = "laterals", i-len(l.Branches)
			}
			d.cannot = finding.Bad(fmt.Sprintf("drains.%s[%d]", field, n), x.ID, "leaves the ground whose heights are known", "a line within the heights read in")
			return
		}
	}
	t := c.task(d, choice, line)
	t.Open = d.Taken == "ditches"
	into := joined(d.Cut, line)
	if into {
		t.ExtraM3S = d.CatchM3Day / 86400 // the interceptor runs into the head of the collector
	}
	n, err := drainage.Design(rings, l, t)
	if err != nil {
		d.cannot = err
		return
	}
	if head := n.Level(drainage.Length(line)); into && d.Cut.OutletM < head-1e-9 {
		c.interceptor(d, choice, head) // it cannot lie lower than what it runs into
		t.ExtraM3S = d.CatchM3Day / 86400
		if n, err = drainage.Design(rings, l, t); err != nil {
			d.cannot = err
			return
		}
	}
	d.Network = c.view(n, line, suggested, len(l.Drawn) > 0, d.SpacingM)
	d.Network.Part, d.Network.Assumed = part, assumed && len(part) > 0
	if !c.Brief && len(part) == 0 && len(n.Missed) > 0 && len(l.Drawn) == 0 && !l.Alone && n.Missed[0].AreaM2 > 0.01*n.BlockM2 {
		if b := drainage.SuggestBranch(c.xy(), l, n.Missed[0], c.heightAt); b != nil {
			d.branch = c.pointsOf(b)
		}
	}
}

// endDrain is the pipe along the low ends of the furrows: it takes the whole block's water.
func (c *design) endDrain(d *Plan, choice document.DrainChoice) {
	line, suggested, ok := c.lineFor("beds", choice.Collector, 20)
	if !ok {
		return
	}
	t := c.task(d, choice, line)
	t.Q, t.ExtraM3S = 0, d.DischargeM/1000*c.Ground.AreaM2/86400
	t.DepthM = math.Max(d.Bed.FurrowM+0.3, drainage.Cover(choice.Traffic)+0.25)
	t.Closed = true // it carries furrow water and may lie in the layer
	if choice.DitchM != nil && *choice.DitchM > 0 {
		t.OutletM = c.heightAt(line[0][0], line[0][1]) - math.Min(*choice.DitchM-drainage.OutletClearM, t.DepthM+0.1)
	}
	n, err := drainage.Design(c.xy(), drainage.Layout{Collector: line, SpacingM: 2, Alone: true, Given: true}, t)
	if err != nil {
		d.cannot = err
		return
	}
	n.ReachedM2 = n.BlockM2 // furrows bring the water
	d.Network = c.view(n, line, suggested, false, d.Bed.Bed.CentreM)
}
