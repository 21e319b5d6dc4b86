package plan

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/report"
	"slowroot/core/terrain"
	"slowroot/core/units"
	"slowroot/core/working"
)

// Spot is a height at a position.
type Spot struct {
	At geo.Point
	Z  float64
}

// Heights is a height source as read from its file: spots, or a grid in its own system whose values
// lie row by row from the south-west.
type Heights struct {
	document.HeightSource
	System geo.System
	Spots  []Spot
	Grid   *terrain.Surface
}

// reachM is how far around a block its surroundings matter (method SITE-1).
const reachM = 500

// Land is the lie of a block, worked out once for a boundary and its heights.
type Land struct {
	Source   document.HeightSource
	Surface  *terrain.Filled
	Lie      terrain.Lie
	Class    terrain.SlopeClass
	Hollows  []terrain.Hollow
	Cold     []ColdSpot // a sample of points on the block
	Worst    terrain.Judgement
	WorstAt  [2]float64
	Share    map[string]float64 // word of the judgement → share of the sample
	KnownM   float64            // how far around the lowest sample heights are known
	Barriers []terrain.Barrier
	kinds    []document.Barrier
	rings    [][]geo.XY
}

// ColdSpot is the frost judgement at one point of the block, on its plane.
type ColdSpot struct {
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	Score int     `json:"score"`
	Word  string  `json:"word"`
}

// Survey works out the lie of a block from the source that covers it best: most of the block first,
// then the smaller error. It is nil where no source reaches.
// stop, where there is one, ends it between sources.
func Survey(b geo.Polygon, sources []Heights, barriers []document.Barrier, stop func() error) (*Land, error) {
	plane := geo.LocalPlane(b)
	rings := b.PlaneRings(plane)
	lo, hi := bounds(rings[0])
	var best *Land
	covered := 0.0
	for i := range sources {
		if stop != nil {
			if err := stop(); err != nil {
				return nil, err
			}
		}
		s, err := surface(&sources[i], plane, lo, hi)
		if err != nil {
			return nil, fmt.Errorf("heights %q: %w", sources[i].Name, err)
		}
		if s == nil {
			continue
		}
		l := &Land{Source: sources[i].HeightSource, Surface: s.Fill(), rings: rings, kinds: barriers}
		n, known := 0, 0
		for j := 0; j < s.NY; j++ {
			for k := 0; k < s.NX; k++ {
				if l.in(s.X0+float64(k)*s.Cell, s.Y0+float64(j)*s.Cell) {
					n++
					if !math.IsNaN(s.At(k, j)) {
						known++
					}
				}
			}
		}
		share := float64(known) / math.Max(1, float64(n))
		if known > 0 && (best == nil || share > covered+0.05 || math.Abs(share-covered) <= 0.05 && l.Source.AccuracyM < best.Source.AccuracyM) {
			best, covered = l, share
		}
	}
	if best == nil {
		return nil, nil
	}
	best.read(plane)
	return best, nil
}

func bounds(r []geo.XY) (lo, hi geo.XY) {
	lo, hi = r[0], r[0]
	for _, p := range r {
		lo.X, lo.Y, hi.X, hi.Y = math.Min(lo.X, p.X), math.Min(lo.Y, p.Y), math.Max(hi.X, p.X), math.Max(hi.Y, p.Y)
	}
	return lo, hi
}

// surface is a source's heights on the block's plane, as far around as they reach; nil when they do not
// reach it.
func surface(h *Heights, plane geo.Plane, lo, hi geo.XY) (*terrain.Surface, error) {
	x0, y0, x1, y1 := lo.X-reachM, lo.Y-reachM, hi.X+reachM, hi.Y+reachM
	if h.Kind == "spots" {
		var spots []terrain.Spot
		sx0, sy0, sx1, sy1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
		for _, s := range h.Spots {
			p := plane.To(s.At)
			if p.X < x0 || p.X > x1 || p.Y < y0 || p.Y > y1 {
				continue
			}
			spots = append(spots, terrain.Spot{X: p.X, Y: p.Y, Z: s.Z, Sigma: h.AccuracyM})
			sx0, sy0, sx1, sy1 = math.Min(sx0, p.X), math.Min(sy0, p.Y), math.Max(sx1, p.X), math.Max(sy1, p.Y)
		}
		if len(spots) < 3 || sx1 < lo.X || sx0 > hi.X || sy1 < lo.Y || sy0 > hi.Y {
			return nil, nil
		}
		// spots say nothing beyond themselves
		cell := math.Max(2, math.Max(sx1-sx0, sy1-sy0)/120)
		return terrain.FromSpots(spots, sx0, sy0, cell, int((sx1-sx0)/cell)+2, int((sy1-sy0)/cell)+2)
	}
	g := h.Grid
	cell := g.Cell
	if h.System.Degrees {
		cell *= 111320
	}
	cell = math.Max(cell, math.Max(x1-x0, y1-y0)/220)
	s, err := terrain.NewSurface(x0, y0, cell, int((x1-x0)/cell)+1, int((y1-y0)/cell)+1)
	if err != nil {
		return nil, err
	}
	s.AccuracyM = h.AccuracyM
	found := false
	for j := 0; j < s.NY; j++ {
		for i := 0; i < s.NX; i++ {
			at := h.System.To(plane.From(geo.XY{X: x0 + float64(i)*cell, Y: y0 + float64(j)*cell}))
			z := g.Height(at.X, at.Y)
			s.Z[j*s.NX+i] = z
			found = found || !math.IsNaN(z)
		}
	}
	if !found {
		return nil, nil
	}
	return s, nil
}

func (l *Land) in(x, y float64) bool {
	p := geo.XY{X: x, Y: y}
	if !geo.Inside(p, l.rings[0]) {
		return false
	}
	for _, hole := range l.rings[1:] {
		if geo.Inside(p, hole) {
			return false
		}
	}
	return true
}

func (l *Land) read(plane geo.Plane) {
	var water [][2]float64
	for _, b := range l.kinds {
		t := terrain.Barrier{Kind: b.Kind, HeightM: b.HeightM, Porosity: b.Porosity, Gap: b.Gap}
		for _, p := range b.Line {
			q := plane.To(p)
			t.Line = append(t.Line, [2]float64{q.X, q.Y})
		}
		if b.Kind == "water" {
			water = append(water, t.Line...)
			continue
		}
		l.Barriers = append(l.Barriers, t)
	}
	l.Lie, _ = l.Surface.Lie(l.in)
	l.Class = terrain.ClassOfSlope(l.Lie.SlopePct)
	least := math.Max(0.3, 2*l.Source.AccuracyM)
	l.Hollows = l.Surface.Hollows(least, l.in)
	if l.Hollows == nil {
		l.Hollows = []terrain.Hollow{}
	}
	lo, hi := bounds(l.rings[0])
	step := math.Max(l.Surface.Cell, math.Sqrt((hi.X-lo.X)*(hi.Y-lo.Y)/60))
	l.Share, l.Cold = map[string]float64{}, []ColdSpot{}
	l.Worst = terrain.Judgement{Score: -99, Word: "", Signs: []terrain.ColdSign{}}
	for y := lo.Y + step/2; y < hi.Y; y += step {
		for x := lo.X + step/2; x < hi.X; x += step {
			if !l.in(x, y) {
				continue
			}
			c, ok := l.Surface.ColdAt(x, y, l.Barriers, l.waterBelow(x, y, water))
			if !ok {
				continue
			}
			j := c.Judge()
			l.Cold = append(l.Cold, ColdSpot{x, y, j.Score, j.Word})
			l.Share[j.Word]++
			if j.Score > l.Worst.Score {
				l.Worst, l.WorstAt, l.KnownM = j, [2]float64{x, y}, c.KnownRadiusM
			}
		}
	}
	for k := range l.Share {
		l.Share[k] /= float64(len(l.Cold))
	}
}

// waterBelow reports open water within 300 m that lies lower.
func (l *Land) waterBelow(x, y float64, water [][2]float64) bool {
	z := l.Surface.Height(x, y)
	for _, p := range water {
		if math.Hypot(p[0]-x, p[1]-y) <= 300 && l.Surface.Height(p[0], p[1]) < z {
			return true
		}
	}
	return false
}

// Judged is the frost word of the block: the worst that holds for a tenth of it or more.
func (l *Land) Judged() string {
	sum := 0.0
	for _, w := range []string{"pocket", "high", "moderate", "low"} {
		if sum += l.Share[w]; sum >= 0.1 {
			return w
		}
	}
	return "low"
}

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
	for _, b := range l.kinds {
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

// lie puts the lie of the land into figures.
func (c *computation) lie() {
	l := c.in.Land
	if l == nil {
		return
	}
	measured := fmt.Sprintf("%s, heights to ± %s", l.Source.Name, c.Text(l.Source.AccuracyM, units.Spacing))
	c.Figure(report.Figure{Path: "land.slope", Step: "ground", Label: "Slope", Quantity: units.Slope, Value: l.Lie.SlopePct, Low: l.Lie.SlopePct, High: l.Lie.Steepest, Ranged: l.Lie.Steepest > l.Lie.SlopePct+0.05, Origin: working.Measured, Note: l.Class.Name + "; mean to the steepest twentieth"})
	c.Figure(report.Figure{Path: "land.falls", Step: "ground", Label: "Falls to the", Quantity: units.Angle, Value: l.Lie.FallsTo, Text: Compass(l.Lie.FallsTo), Origin: working.Measured, Note: fmt.Sprintf("%.0f° from true north", l.Lie.FallsTo)})
	c.Figure(report.Figure{Path: "land.height", Step: "ground", Label: "Height", Quantity: units.Height, Value: l.Lie.MeanZ, Low: l.Lie.MinZ, High: l.Lie.MaxZ, Ranged: true, Origin: working.Measured, Note: measured})
	word := l.Judged()
	c.Figure(report.Figure{Path: "land.frost", Step: "ground", Label: "Frost risk of the place", Quantity: units.Plain, Value: float64(l.Worst.Score), Text: word, Origin: working.Computed, Note: fmt.Sprintf("worst point scores %d", l.Worst.Score)})
	if c.On("land.slope") {
		c.Tell(working.Series, "land.slope", "Mean slope of the block", "√(∂z/∂x² + ∂z/∂y²) from the eight neighbours of each cell, averaged", fmt.Sprintf("%d cells of %.1f m", l.Lie.Cells, l.Surface.Cell), l.Lie.SlopePct, units.Slope,
			"Horn, Proc. IEEE 69, 1981; classes: FAO, Guidelines for soil description, 2006", c.Num("accuracy of a height", l.Source.AccuracyM, units.Spacing, working.Measured, l.Source.How, ""))
	}
	if c.On("land.falls") {
		c.Tell(working.Series, "land.falls", "Direction of fall", "mean of the fall vectors of all cells", fmt.Sprintf("they agree to %.0f %%", 100*l.Lie.Uniform), l.Lie.FallsTo, units.Angle, "Horn, 1981")
	}
	if c.On("land.height") {
		c.Tell(working.Series, "land.height", "Height above the sea", "mean of the cells inside the boundary", measured, l.Lie.MeanZ, units.Height, "method SITE-2", c.Num("lowest", l.Lie.MinZ, units.Height, working.Measured, "", ""), c.Num("highest", l.Lie.MaxZ, units.Height, working.Measured, "", ""))
	}
	if c.On("land.frost") {
		c.Tell(working.Rule, "land.frost", "Signs at the worst point, added up", "≤ 1 low · 2–4 moderate · 5–6 high · ≥ 7 pocket", l.Worst.Text(c.Length), float64(l.Worst.Score), units.Plain, "method SITE-1, common practice, no source")
		c.Tell(working.Count, "land.frost", "Share of the block", "sampled points by judgement", fmt.Sprintf("pocket %.0f %%, high %.0f %%, moderate %.0f %%, low %.0f %%", 100*l.Share["pocket"], 100*l.Share["high"], 100*l.Share["moderate"], 100*l.Share["low"]), float64(len(l.Cold)), units.Count, "the worst that holds for a tenth of the block is its word")
	}
}

// judgeLand says what the lie of the land asks for.
func (c *computation) judgeLand() {
	l := c.in.Land
	if l == nil && c.in.LandProblem != "" {
		c.Note(finding.Finding{Rule: "land.unreadable", Weight: finding.Mend, Step: "ground", Subject: "Heights",
			Sentence: "The heights that reach this block say nothing of its lie: " + c.in.LandProblem + ". The rest of the plan stands without them."})
		return
	}
	if l == nil {
		if !c.inGround() {
			c.Note(finding.Finding{Rule: "land.unknown", Weight: finding.Know, Step: "ground", Subject: "Heights",
				Sentence: "No heights are known here: slope, direction of fall, where water gathers and where cold air lies cannot be judged. Spot heights or an elevation grid answer that."})
		}
		return
	}
	cl := l.Class
	s := fmt.Sprintf("The block is %s, %s, falling to the %s: %s.", cl.Name, c.Text(l.Lie.SlopePct, units.Slope), Compass(l.Lie.FallsTo), cl.Works)
	w := finding.Know
	if cl.Machine != "" {
		s += " " + report.Capital(cl.Machine) + "."
		w = finding.Watch
	}
	f := finding.Finding{Rule: "land.slope", Weight: w, Step: "ground", Subject: "Slope", Sentence: s, Source: "classes: FAO, Guidelines for soil description, 2006; works: common practice, no source"}
	if l.Lie.SlopePct >= 5 && c.planting != nil && !c.inGround() && l.Lie.Uniform > 0.6 {
		across := math.Mod(math.Round(l.Lie.FallsTo)+90, 180)
		if d := math.Abs(math.Mod(c.p.Spec.BearingDeg-across+270, 180) - 90); d > 15 {
			f.Weight = finding.Mend
			f.Sentence += fmt.Sprintf(" The rows now run at %.0f°; across the slope is %.0f°.", c.p.Spec.BearingDeg, across)
			f.Remedies = []finding.Remedy{{Label: fmt.Sprintf("Turn the rows to %.0f°", across), Patch: layoutPatch(map[string]any{"bearingDeg": across})}}
		}
	}
	c.Note(f)
	if l.Source.AccuracyM > 1 {
		c.Note(finding.Finding{Rule: "land.accuracy", Weight: finding.Watch, Step: "ground", Subject: "Heights", Source: "common practice, no source",
			Sentence: fmt.Sprintf("The heights of “%s” are known to ± %s only (%s): good for the slope of a hillside, not for hollows, levels or drains.", l.Source.Name, c.Text(l.Source.AccuracyM, units.Spacing), l.Source.How)})
	}
	for _, h := range l.Hollows {
		c.Note(finding.Finding{Rule: "land.hollow", Weight: finding.Watch, Step: "ground", Subject: "Hollow", Source: "priority flood: Barnes, Lehman & Mulla, Computers & Geosciences 62, 2014",
			Sentence: fmt.Sprintf("Water gathers in a closed hollow %s deep over %s: it stands there after rain, and cold air with it. Look at a pit there.", c.Text(h.DepthM, units.Spacing), c.Text(h.AreaM2, units.Area))})
		break // the deepest; the drawing shows all
	}
	c.judgeCold(l)
}

func (c *computation) judgeCold(l *Land) {
	word := l.Judged()
	if word == "low" {
		return
	}
	early := c.sheet != nil && earlyBloomer[c.sheet.ID]
	w := map[string]finding.Weight{"pocket": finding.Mend, "high": finding.Watch, "moderate": finding.Know}[word]
	if w == finding.Mend && c.inGround() {
		w = finding.Watch
	}
	share := l.Share["pocket"] + l.Share["high"]
	s := "The risk of frost in this place is " + word
	if word == "pocket" {
		s = "This is a frost pocket"
	}
	if share > 0 {
		s += fmt.Sprintf("; %.0f %% of the block is one or close to it", 100*share)
	}
	s += ". At the worst point: " + l.Worst.Text(c.Length) + "."
	if k := l.Worst.ColderC; k[1] >= 0.1 {
		s += fmt.Sprintf(" On a still, clear night perhaps %s (%s to %s) colder than the ground around; a rough guess, never a forecast.", c.Text(k[1], units.Warmth), units.Number(k[0], units.Warmth, c.Units), units.Number(k[2], units.Warmth, c.Units))
	}
	if early && (word == "pocket" || word == "high") {
		s += fmt.Sprintf(" %s blooms early: not here, or leave the low part out.", c.sheet.Name)
	}
	if l.KnownM < 150 {
		s += fmt.Sprintf(" Heights are known only %s around: the judgement is as good as that.", c.Text(l.KnownM, units.Distance))
	}
	for _, b := range l.kinds {
		if b.Kind != "water" && !b.Gap && b.Porosity < 0.3 && dams(l, b) {
			s += fmt.Sprintf(" Opening a tenth of “%s” at its low end would let the air out.", b.Name)
			break
		}
	}
	c.Note(finding.Finding{Rule: "land.frost", Weight: w, Step: "ground", Subject: "Frost", Sentence: s, Source: "method SITE-1, common practice, no source"})
}

// dams reports whether a barrier is one of the signs at the worst point.
func dams(l *Land, b document.Barrier) bool {
	for _, s := range l.Worst.Signs {
		if strings.Contains(s.Words, "dams") && strings.Contains(s.Words, b.Kind) {
			return true
		}
	}
	return false
}

// placeRating rates the frost of a place for a crop (method SITE-1: a pocket bears no early bloomer).
func (l *Land) placeRating(sheet string) float64 {
	early := earlyBloomer[sheet]
	switch w := l.Judged(); {
	case w == "pocket" && early:
		return 20
	case w == "pocket", w == "high" && early:
		return 60
	case w == "high":
		return 80
	}
	return 100
}

// earlyBloomer are crops whose blossom meets the last frosts (common practice, no source).
var earlyBloomer = map[string]bool{"peach": true, "pear": true, "apple": true, "hazelnut": true, "blueberry": true, "strawberry": true}
