package plan

import (
	"fmt"
	"math"
	"sort"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/drainage"
	"slowroot/core/geo"
	"slowroot/core/practice"
	"slowroot/core/schedule"
	"slowroot/core/units"
)

// isField are the remedies that lower the water table of the field, by the rules of depth and spacing. An
// interceptor has a depth of its own: the layer's.
var isField = map[string]bool{"gridiron": true, "herringbone": true, "local": true, "ditches": true}

// drainRemedies ranks what can be done and takes what was decided, else the first that works once something
// was said about the water.
func (c *computation) drainRemedies(d *DrainPlan, choice DrainChoice) {
	share := choice.WetPct / 100
	if share == 0 {
		share = 1
	}
	k := drainage.Case{Source: choice.Source, WetShare: share, CoverM: drainage.Cover(choice.Traffic) + lateralPipe.OuterM}
	if l := c.in.Land; l != nil {
		k.SlopePct = l.Lie.SlopePct
		k.Valley = len(c.suggest("herringbone", 15)) == 3
	}
	if s := d.Soil; s != nil {
		k.LayerM, k.K = s.LayerM, s.Above
	}
	if choice.DitchM != nil {
		k.OutletM = *choice.DitchM - drainage.OutletClearM
		if *choice.DitchM == 0 {
			k.OutletM = -1
		}
	}
	d.Remedies = drainage.Remedies(k)
	if d.Refused != "" {
		for i, r := range d.Remedies {
			if isField[r.ID] && r.Works {
				d.Remedies[i].Works, d.Remedies[i].Why = false, d.Refused
			}
		}
		sort.SliceStable(d.Remedies, func(i, j int) bool { return d.Remedies[i].Works && !d.Remedies[j].Works })
	}
	if o := c.in.Block.Decided[DrainFork].Option; o != "" {
		d.Taken, d.Decided = o, true
		return
	}
	if d.Started && d.Needed {
		for _, r := range d.Remedies {
			if r.Works {
				d.Taken = r.ID
				return
			}
		}
	}
}

// heightAt is the surface under a point of the block's plane; NaN where no height is known.
func (c *computation) heightAt(x, y float64) float64 { return c.in.Land.Surface.Height(x, y) }

// xy are the block's rings as the drainage package takes them.
func (c *computation) xy() [][]drainage.XY {
	out := make([][]drainage.XY, len(c.rings))
	for i, r := range c.rings {
		for _, p := range r {
			out[i] = append(out[i], drainage.XY{p.X, p.Y})
		}
	}
	return out
}

func (c *computation) lineOf(points []geo.Point) []drainage.XY {
	out := make([]drainage.XY, len(points))
	for i, p := range points {
		q := c.plane.To(p)
		out[i] = drainage.XY{q.X, q.Y}
	}
	return out
}

func (c *computation) pointsOf(line []drainage.XY) []geo.Point {
	out := make([]geo.Point, len(line))
	for i, p := range line {
		out[i] = c.plane.From(geo.XY{X: p[0], Y: p[1]})
	}
	return out
}

// known reports that heights are known all around the block.
func (c *computation) known(line []drainage.XY) bool {
	if c.in.Land == nil {
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
func (c *computation) suggest(remedy string, spacing float64) []drainage.XY {
	if !c.known(nil) {
		return nil
	}
	var wet *drainage.XY
	if i, ok := c.governing(); ok && c.in.Block.Pits[i].At != nil {
		p := c.lineOf([]geo.Point{*c.in.Block.Pits[i].At})[0]
		wet = &p
	}
	return drainage.Suggest(remedy, c.xy(), c.heightAt, spacing, c.in.Land.Lie.FallsTo, wet)
}

// drainDesign lays what is taken on the block.
func (c *computation) drainDesign(d *DrainPlan, choice DrainChoice) {
	if d.Taken == "interceptor" || len(choice.Interceptor) > 1 {
		c.interceptor(d, choice)
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
func (c *computation) task(d *DrainPlan, choice DrainChoice, line []drainage.XY) drainage.Task {
	t := drainage.Task{Ground: c.heightAt, Q: d.DischargeM / 1000, DepthM: d.DepthM, CoverM: drainage.Cover(choice.Traffic), MostDepthM: c.in.Block.machineReach() + 0.2, OutletM: math.NaN()}
	if d.Soil != nil {
		t.LayerM, t.Texture = d.Soil.LayerM, d.Soil.Texture
	}
	if choice.DitchM != nil && *choice.DitchM > 0 {
		// as deep as the ditch lets it, if the pipe needs it; never deeper than the layer
		out := math.Min(*choice.DitchM-drainage.OutletClearM, d.DepthM+0.1)
		if t.LayerM > 0 {
			out = math.Min(out, t.LayerM)
		}
		t.OutletM = c.heightAt(line[0][0], line[0][1]) - out
	}
	return t
}

// lineFor is the line a person drew, else a first one.
func (c *computation) lineFor(remedy string, drawn []geo.Point, spacing float64) (line []drainage.XY, suggested, ok bool) {
	line = c.lineOf(drawn)
	if len(line) < 2 {
		line, suggested = c.suggest(remedy, spacing), true
	}
	return line, suggested, len(line) >= 2 && c.known(line)
}

func (c *computation) view(n *drainage.Network, line []drainage.XY, suggested, drawn bool, spacing, layer float64) *NetworkView {
	for i := range n.Troubles {
		n.Troubles[i].Sentence = c.troubleWords(n.Troubles[i])
	}
	return &NetworkView{Network: n, Line: line, LineAt: c.pointsOf(line), Suggested: suggested, Drawn: drawn, SpacingM: spacing, LayerM: layer}
}

// troubleWords puts a trouble into the reader's units.
func (c *computation) troubleWords(t drainage.Trouble) string {
	m := func(v float64) string { return c.text(v, units.Spacing) }
	switch t.Rule {
	case "outlet":
		return fmt.Sprintf("the outlet invert at %s lies above what the ground there allows, %s", m(t.Got), m(t.Want))
	case "size":
		return fmt.Sprintf("%s carries %s, more than the largest pipe takes at its fall, %s", t.Drain, c.text(t.Got, units.Outflow), c.text(t.Want, units.Outflow))
	case "cover":
		return fmt.Sprintf("%s has %s of cover at %s, %s are needed", t.Drain, m(t.Got), c.text(t.AtM, units.Distance), m(t.Want))
	case "layer":
		return fmt.Sprintf("%s goes %s down, below the layer at %s that stops the water: nothing runs into it there", t.Drain, m(t.Got), m(t.Want))
	case "reach":
		return fmt.Sprintf("%s goes %s down, deeper than the machine reaches, %s", t.Drain, m(t.Got), m(t.Want))
	case "velocity":
		return fmt.Sprintf("%s runs full at %s m/s, this soil bears %s m/s", t.Drain, c.text(t.Got, units.Plain), c.text(t.Want, units.Plain))
	case "long":
		return fmt.Sprintf("%s is %s long: over %s it cannot be flushed", t.Drain, c.text(t.Got, units.Distance), c.text(t.Want, units.Distance))
	case "crossing":
		return t.Drain + " crosses " + t.Other
	}
	return c.text(t.Got, units.Area) + " are reached by no drain"
}

func (c *computation) network(d *DrainPlan, choice DrainChoice) {
	line, suggested, ok := c.lineFor(d.Taken, choice.Collector, d.SpacingM)
	if !ok {
		return
	}
	l := drainage.Layout{Collector: line, SpacingM: d.SpacingM, AngleDeg: 90, Alone: d.Taken == "local"}
	if d.Taken == "herringbone" {
		l.AngleDeg = 60
		if choice.AngleDeg > 0 {
			l.AngleDeg = choice.AngleDeg
		}
	}
	for _, x := range choice.Laterals {
		l.Drawn = append(l.Drawn, drainage.Line{ID: x.ID, Points: c.lineOf(x.Line)})
	}
	t := c.task(d, choice, line)
	if d.Cut != nil && len(d.Cut.Line) > 0 && math.Hypot(d.Cut.Line[0][0]-line[len(line)-1][0], d.Cut.Line[0][1]-line[len(line)-1][1]) < 8 {
		t.ExtraM3S = d.CatchM3Day / 86400 // the interceptor runs into the head of the collector
	}
	if n, err := drainage.Design(c.xy(), l, t); err == nil {
		d.Network = c.view(n, line, suggested, len(l.Drawn) > 0, d.SpacingM, t.LayerM)
	}
}

// endDrain is the pipe along the low ends of the furrows: it takes the whole block's water.
func (c *computation) endDrain(d *DrainPlan, choice DrainChoice) {
	line, suggested, ok := c.lineFor("beds", choice.Collector, 20)
	if !ok {
		return
	}
	t := c.task(d, choice, line)
	t.Q, t.ExtraM3S = 0, d.DischargeM/1000*c.p.Ground.AreaM2/86400
	t.DepthM = math.Max(d.Bed.FurrowM+0.3, drainage.Cover(choice.Traffic)+0.25)
	if t.LayerM > 0 && t.LayerM < t.DepthM {
		t.LayerM = 0 // a closed pipe for furrow water may lie in the layer
	}
	if choice.DitchM != nil && *choice.DitchM > 0 {
		t.OutletM = c.heightAt(line[0][0], line[0][1]) - math.Min(*choice.DitchM-drainage.OutletClearM, t.DepthM+0.1)
	}
	if n, err := drainage.Design(c.xy(), drainage.Layout{Collector: line, SpacingM: 2, Alone: true, Given: true}, t); err == nil {
		n.ReachedM2 = n.BlockM2 // furrows bring the water
		d.Network = c.view(n, line, suggested, false, d.Bed.Bed.CentreM, t.LayerM)
	}
}

// interceptor is a drain across the slope that stops water before it enters (method DRN-13): on the layer
// where the machine reaches it, sized for all it catches along its whole length.
func (c *computation) interceptor(d *DrainPlan, choice DrainChoice) {
	line, suggested, ok := c.lineFor("interceptor", choice.Interceptor, d.SpacingM)
	s := d.Soil
	if !ok || s == nil {
		return
	}
	mid, _ := drainage.At(line, drainage.Length(line)/2)
	i, _ := c.nearest(mid[0], mid[1])
	t := c.task(d, choice, line)
	t.DepthM, t.LayerM = c.in.Block.machineReach(), 0
	layer := t.DepthM + 0.5 // assumed where none was seen: it goes on half a metre below the drain
	if r := c.stops(i); r != nil {
		layer = r.TopCm / 100
		t.LayerM = layer
	}
	t.DepthM = math.Min(t.DepthM, layer)
	wet := layer / 2
	if d.WetFrom != "" {
		wet = math.Min(d.WetM, layer-0.1)
	}
	k := s.Above
	if s.From == "texture" {
		k = meanK(c.slabs(i, wet, layer))
	}
	d.CatchM3Day = drainage.Interceptor(k, c.in.Land.Lie.SlopePct/100, layer-wet, layer-t.DepthM) * drainage.Length(line)
	t.Q, t.ExtraM3S, t.LeastGrade = 0, d.CatchM3Day/86400, 0.002
	t.OutletM = math.NaN() // its own outlet, at its own depth
	if n, err := drainage.Design(c.xy(), drainage.Layout{Collector: line, SpacingM: 2, Alone: true, Given: true}, t); err == nil {
		d.Cut = c.view(n, line, suggested, false, 0, t.LayerM)
	}
}

// ditch is the section of an open ditch, m² for a depth, and the width of land it takes with a berm (method
// DRN-1: floor 0.4 m, sides 1 : 1, berm 1.5 m; common practice).
func ditch(depthM float64) (sectionM2, landM float64) {
	return (0.4 + depthM) * depthM, 0.4 + 2*depthM + 1.5
}

// costs adds up lines of a bill and says which lack a price.
type costs struct {
	c    *computation
	sum  float64
	lack []string
}

func (k *costs) line(what, item string, amount float64, q units.Quantity, note string) BillLine {
	l := BillLine{What: what, Amount: amount, Quantity: q, Note: note, CostText: "no price"}
	priced := amount
	if q == units.MassT {
		priced /= 1000 // held in kg, sold in t
	}
	if item == "" {
		l.CostText = ""
		return l
	}
	if p, ok := k.c.in.Estate.PriceOf(item, k.c.in.Today); ok {
		k.sum += p.Each * priced
		l.CostText = k.c.money(p.Each * priced)
	} else if amount > 0 {
		k.lack = append(k.lack, what)
	}
	return l
}

func (k *costs) text() string {
	if k.sum == 0 && len(k.lack) > 0 {
		return "no price"
	}
	s := k.c.money(k.sum)
	if len(k.lack) > 0 {
		s += ", without " + strings.Join(k.lack, ", ")
	}
	return s
}

// drainBill is the bill of quantities of what is designed, with its cost, the order of the work and the
// cautions.
func (c *computation) drainBill(d *DrainPlan) {
	k := &costs{c: c}
	add := func(l BillLine) {
		if l.Amount > 0 {
			d.Bill = append(d.Bill, l)
		}
	}
	deep := false
	pipes := map[string]float64{}
	var chambers, hours, stone, spoil, trench float64
	joints := 0
	count := func(n *NetworkView, b drainage.Bill) {
		for name, m := range b.PipeM {
			pipes[name] += m
		}
		chambers, hours, stone, spoil, trench = chambers+float64(b.Chambers), hours+b.Hours, stone+b.StoneM3, spoil+b.SpoilM3, trench+b.TrenchM3
		joints += b.Junctions
		deep = deep || b.Deep
	}
	if n := d.Network; n != nil && d.Taken == "ditches" {
		section, land := ditch(d.DepthM)
		total := 0.0
		for _, x := range append(append([]drainage.Drain{}, n.Laterals...), n.Reaches...) {
			total += x.LengthM
		}
		add(k.line("Open ditch", "", total, units.Distance, fmt.Sprintf("%.2f m² in section", section)))
		add(k.line("Earth dug", "earth", section*total, units.Earth, ""))
		add(k.line("Land taken", "", land*total, units.Area, "ditch and berm"))
		deep = d.DepthM >= 1.2
	} else if n != nil {
		box := stoneM
		if d.Taken == "beds" {
			box = 0
		}
		count(n, n.Quantities(trenchM, box, stoneM))
	}
	if n := d.Cut; n != nil && c.in.Block.drainChoice().CutOpen {
		length, earth, land := 0.0, 0.0, 0.0
		for _, r := range n.Reaches {
			section, width := ditch(r.MeanCutM)
			length, earth, land = length+r.LengthM, earth+section*r.LengthM, land+width*r.LengthM
		}
		add(k.line("Cut-off ditch", "", length, units.Distance, "floor 0.4 m, sides 1 : 1"))
		add(k.line("Earth dug", "earth", earth, units.Earth, ""))
		add(k.line("Land taken", "", land, units.Area, "ditch and berm"))
	} else if n != nil && len(n.Reaches) > 0 {
		cut := 0.0
		for _, r := range n.Reaches {
			cut += r.MeanCutM * r.LengthM
		}
		count(n, n.Quantities(trenchM, trenchM, math.Max(stoneM, cut/drainage.Length(n.Line)-0.3)))
	}
	for _, p := range drainage.Pipes {
		add(k.line("Pipe "+p.Name, "pipe:"+p.Name, pipes[p.Name], units.Distance, "3 % for laps and waste; ask for the inside diameter"))
	}
	add(k.line("Stone", "drain-stone", stone*1550, units.MassT, fmt.Sprintf("%.0f m³ with 8 %% waste, 1.55 t/m³", stone)))
	add(k.line("Inspection pits", "drain-pit", chambers, units.Count, "with a silt trap of 0.3 m"))
	add(k.line("Junctions and end caps", "", float64(joints), units.Count, "of each"))
	add(k.line("Trench", "", trench, units.Earth, fmt.Sprintf("%.2f m wide, to depth only", trenchM)))
	add(k.line("Spoil left over", "", spoil, units.Earth, "loose; spread it thin or fill hollows"))
	add(k.line("Trenching by machine", "machine", hours, units.Hours, "45 m an hour and 2 h for each pit; assumed"))
	d.MachineH = hours
	if b := d.Bed; b != nil && b.Refused == "" {
		add(k.line("Shaping beds by machine", "machine", b.MachineH, units.Hours, "rate from memory"))
		add(k.line("Soil moved into beds", "", b.SoilM3, units.Earth, "from the furrows beside them"))
		if b.CoverM > 0 {
			kind := c.in.Block.drainChoice().Bed.Cover
			add(k.line(capital(kind)+fmt.Sprintf(", %.1f m wide", b.CoverBuy), kind, b.CoverM, units.Distance, fmt.Sprintf("%d rolls; lasts %s", b.Rolls, b.Life)))
		}
		add(k.line("Drip line", "drip", b.DripM, units.Distance, "2 % for ends; outlets face up, 2 to 5 cm deep under film; heavy line lasts 8 to 10 years, thin tape a season"))
		d.MachineH += b.MachineH
	}
	d.CostText = ""
	if len(d.Bill) > 0 {
		d.CostText = k.text()
	}
	if d.Network == nil && d.Cut == nil {
		return
	}
	d.Laying = []string{"Find buried services, and have the levels taken by a surveyor, before any peg is set.", "Begin at the outlet: a rigid end of 1.5 to 3 m, 0.3 m above the water of the ditch, with a grid against animals.",
		"Collector before laterals, upstream, in soil that is dry but moist; level pegs every 10 m, or a laser.", "Trench no wider than it must be and to depth only; leave it open the shortest time.",
		"Stone around the pipe; where the pipe lies on the layer that stops the water, none below it.", "Measure every junction and end before it is filled in, and keep the list with the block."}
	d.Cautions = []string{"Find buried services first."}
	if deep {
		d.Cautions = append(d.Cautions, "Somewhere the trench is 1.2 m or deeper: nobody enters it unshored, spoil stays 1 m off the edge, a ladder within 7.5 m, nobody works alone; local codes decide.")
	}
	d.Cautions = append(d.Cautions, "Keep out of the swing of the machine; never enter a collapsing trench to rescue.", "Wetlands, protected streams and the discharge itself may need a permit: local law decides.")
}

// risks of each remedy (common practice, no source).
var risks = map[string]string{"interceptor": "must reach the layer; water round its end", "diversion": "washes out in a storm", "local": "the patch may be fed from wider", "gridiron": "silt and roots; flush yearly", "herringbone": "as gridiron; more joints",
	"ditches": "land and traffic; banks slump", "beds": "furrows must keep their fall", "subsoil": "closes again under wheels", "leave": "uneven rows", "tolerant": "another crop, another market", "investigate": "a season passes"}

// drainFork sets the remedies side by side, each laid on this block. What is not taken is only designed when
// the ways are asked for.
func (c *computation) drainFork() (Fork, bool) {
	d := c.p.Drains
	if !d.Started && !d.Needed {
		return Fork{}, false
	}
	f := Fork{ID: DrainFork, Question: "How do the roots get air?", Step: "drains", Ways: []Way{}}
	if !c.in.Weigh {
		return f, true
	}
	for _, r := range d.Remedies {
		w := Way{ID: r.ID, Name: r.Name, Sentence: capital(r.Why) + ".", Origin: "method DRN-1, common practice, no source", Taken: r.ID == d.Taken, Consequences: c.tryRemedy(r)}
		if !r.Works {
			w.When = "does not work here"
		}
		if r.ID == "tolerant" && d.WetFrom != "" {
			w.Sentence += " " + tolerated(d.WetM)
		}
		f.Ways = append(f.Ways, w)
	}
	return f, true
}

// tolerated says which wet-soil classes bear water at a depth as it is.
func tolerated(wetM float64) string {
	best := 0
	for class := 1; class <= 5; class++ {
		if steady, _, _ := drainage.Criterion(class); steady <= wetM {
			best = class
		}
	}
	if best == 0 {
		return "None of the classes bears it as wet as this."
	}
	if best == 1 {
		return "As it is, only crops of wet-soil class 1 bear it; the sheets say which those are."
	}
	return fmt.Sprintf("As it is, crops of wet-soil class 1 to %d bear it; the sheets say which those are.", best)
}

// tryRemedy designs a remedy and says what it would mean.
func (c *computation) tryRemedy(r drainage.Remedy) []Consequence {
	choice := c.in.Block.drainChoice()
	d := c.p.Drains
	if r.ID != d.Taken {
		d.Network, d.Cut, d.Bed, d.Bill, d.MachineH, d.CostText = nil, nil, nil, nil, 0, ""
		choice.Collector, choice.Laterals, choice.Interceptor, choice.Bed = nil, nil, nil, nil
		d.Taken = r.ID
		c.drainDesign(&d, choice)
		c.drainBill(&d)
	}
	none := func(label string) Consequence { return Consequence{Label: label, Text: "–"} }
	cost, hours, gained, back := none("cost"), Consequence{Label: "machine", Quantity: units.Hours, Value: d.MachineH}, none("root room gained"), none("free of water after")
	land := Consequence{Label: "land lost", Quantity: units.Area}
	if d.CostText != "" {
		cost = Consequence{Label: "cost", Value: d.MachineH, Text: d.CostText}
	}
	switch r.ID {
	case "gridiron", "herringbone", "ditches", "local":
		if d.Network != nil {
			gained = Consequence{Label: "root room gained", Quantity: units.Depth, Value: 100 * math.Max(0, math.Min(c.roots(), d.Criterion.SteadyM)-d.WetM)}
			back = Consequence{Label: "free of water after", Quantity: units.Hours, Value: d.Hours, Text: fmt.Sprintf("%s (%.0f–%.0f)", c.text(d.Hours, units.Hours), d.HoursLow, d.HoursHigh)}
		}
		if d.Network != nil && r.ID == "ditches" {
			_, width := ditch(d.DepthM)
			for _, x := range append(append([]drainage.Drain{}, d.Network.Laterals...), d.Network.Reaches...) {
				land.Value += width * x.LengthM
			}
		}
	case "beds":
		if b := d.Bed; b != nil && b.Refused == "" {
			gained = Consequence{Label: "root room gained", Quantity: units.Depth, Value: 100 * b.RiseM}
			if s := d.Soil; s != nil && s.Above > 0 && s.Pores > 0 {
				h := b.Bed.HeightM
				t := 24 * drainage.FallDays(s.Above, 3*h/8, s.Pores, b.Bed.CentreM, h, h/2) // to the middle of the bed, method DRN-12
				back = Consequence{Label: "free of water after", Quantity: units.Hours, Value: math.Min(t, 1e5)}
			}
		}
	case "subsoil":
		h := practice.Tasks["rip"].Base * c.p.Ground.AreaM2 / 1e4
		hours.Value, gained = h, Consequence{Label: "root room gained", Quantity: units.Depth, Value: math.Max(0, c.p.Soil.AfterCm-c.p.Soil.DepthCm)}
		if p, ok := c.in.Estate.PriceOf("machine", c.in.Today); ok {
			cost = Consequence{Label: "cost", Value: h, Text: c.money(p.Each * h)}
		}
	case "diversion":
		if line := c.suggest("interceptor", 0); len(line) > 1 {
			_, width := ditch(0.5)
			land.Value = width * drainage.Length(line)
			if p, ok := c.in.Estate.PriceOf("earth", c.in.Today); ok {
				section, _ := ditch(0.5)
				cost = Consequence{Label: "cost", Value: land.Value, Text: c.money(p.Each * section * drainage.Length(line))}
			}
		}
	case "leave":
		land.Value = c.p.Ground.AreaM2 * choice.WetPct / 100
	}
	return []Consequence{cost, hours, land, gained, back, {Label: "risk", Value: float64(len(risks[r.ID])), Text: risks[r.ID]}}
}

// drainJobs dates the design: into the sheet's own job of that kind where it has one, else a job of its own;
// and every year the silt traps.
func (c *computation) drainJobs(jobs []Job, kinds map[string]string) []Job {
	d := c.p.Drains
	piped := d.Network != nil || d.Cut != nil
	put := func(key, kind, name, phase, detail, why, caution string, better, least int) {
		for i := range jobs {
			if kinds[jobs[i].Key] == kind {
				jobs[i].Detail = detail + "; the sheet says " + jobs[i].Detail
				return
			}
		}
		day := c.day0()
		done := c.doneOn(key)
		by := day.AddMonths(-least)
		kinds[key] = kind
		jobs = append(jobs, Job{Key: key, Name: name, Phase: phase, Age: c.seasons.YearOf(day.AddMonths(-better)) - c.first + 1, From: day.AddMonths(-better), By: by, Detail: detail, Why: why, Caution: caution,
			Rule: fmt.Sprintf("%d months before planting, at least %d", better, least), Origin: "common practice, no source", Preparation: true, Done: done, Passed: c.p.Stage != Planted && done.IsZero() && by.Before(c.in.Today)})
	}
	if piped {
		put("drain-lay", "drain", "Lay the drains, from the outlet upwards", "drain", c.drainWords(), "roots need air before they are planted", strings.Join(d.Cautions, " "), 9, 4)
	}
	if b := d.Bed; b != nil && b.Refused == "" {
		put("drain-bed", "bed", "Raise the beds", "bed", fmt.Sprintf("%s of bed, shaped %s high to stand %s, %s apart", c.text(b.Metres, units.Distance), c.text(b.FreshM, units.Spacing), c.text(b.Bed.HeightM, units.Spacing), c.text(b.Bed.CentreM, units.Spacing)), "roots stand out of the wet", "", 3, 1)
	}
	return jobs
}

// drainsLaid is the day the laying was recorded as done, under the sheet's own job where it has one.
func (c *computation) drainsLaid() civil.Date {
	if c.sheet != nil {
		for id, kind := range c.taskKinds() {
			if kind == "drain" {
				return c.doneOn(id)
			}
		}
	}
	return c.doneOn("drain-lay")
}

// drainWords is the design in a line.
func (c *computation) drainWords() string {
	var parts []string
	for _, l := range c.p.Drains.Bill {
		if strings.HasPrefix(l.What, "Pipe ") || l.What == "Open ditch" || l.What == "Cut-off ditch" || l.What == "Inspection pits" {
			parts = append(parts, lowerFirst(l.What)+" "+c.text(l.Amount, l.Quantity))
		}
	}
	return strings.Join(parts, ", ")
}

// siltOps is the yearly cleaning of silt traps, where the drains have any.
func (c *computation) siltOps() []schedule.Operation {
	d := c.p.Drains
	n := 0
	for _, v := range []*NetworkView{d.Network, d.Cut} {
		if v != nil && d.Taken != "ditches" && !(v == d.Cut && c.in.Block.drainChoice().CutOpen) {
			n += len(v.Chambers)
		}
	}
	if n == 0 {
		return nil
	}
	return []schedule.Operation{{ID: "drain-silt", Name: "Clean the silt traps", Phase: "drain", Detail: fmt.Sprintf("%s; look at the outlet and its grid, note how much silt, flush laterals that run dirty", count(n, "pit")), Why: "silt that stays closes the pipe",
		Caution: "Never climb into a deep pit alone: foul air. Covers back on.", Season: []string{"late-autumn", "late-autumn"}, Ages: schedule.Ages{From: 1}, Origin: "cp"}}
}
