package drains

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/drainage"
	"slowroot/core/earthwork"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
)

// ditchM3H is how much earth a machine digs from a ditch in an hour; from memory.
const ditchM3H = 30

// kinds of line that are looked for in a bill
const (
	pipeLine  = "pipe"
	ditchLine = "ditch"
	pitLine   = "pit"
	landLine  = "land"
)

// bill is the bill of quantities of what is designed, with its cost, the order of the work and the
// cautions.
func (c *design) bill(d *Plan) {
	k := c.NewBill()
	add := func(l report.Line) {
		if l.Amount > 0 {
			d.Bill = append(d.Bill, l)
		}
	}
	m := func(v float64) string { return c.Text(v, units.Spacing) }
	deep := false
	pipes := map[string]float64{}
	var chambers, hours, stone, stoneT, spoil, trench, dug float64
	joints, reducers := 0, 0
	tally := func(n *NetworkView, b drainage.Bill) {
		for name, m := range b.PipeM {
			pipes[name] += m
		}
		chambers, hours, stone, stoneT, spoil, trench = chambers+float64(b.Chambers), hours+b.Hours, stone+b.StoneM3, stoneT+b.StoneT, spoil+b.SpoilM3,
			trench+b.TrenchM3
		joints, reducers = joints+b.Junctions, reducers+b.Reducers
		deep = deep || b.Deep
	}
	ditch := func(name string, drains ...drainage.Drain) {
		length, earth, land := 0.0, 0.0, 0.0
		for _, x := range drains {
			s := drainage.FieldDitch(x.MeanCutM)
			length, earth, land = length+x.LengthM, earth+s.SectionM2()*x.LengthM, land+s.LandM()*x.LengthM
			deep = deep || x.MeanCutM >= 1.2
		}
		add(k.Line(name, "", length, units.Distance, "floor "+m(drainage.FieldDitch(0).FloorM)+", sides 1 : 1").As(ditchLine))
		add(k.Line("Earth dug", "earth", earth, units.Earth, "the machine is in the price"))
		dug += earth
		add(k.Line("Land taken", "", math.Min(land, c.Ground.AreaM2), units.Area, "ditch and berm").As(landLine))
	}
	if n := d.Network; n != nil && n.Open {
		ditch("Open ditch", append(slices.Clone(n.Laterals), n.Reaches...)...)
	} else if n != nil {
		box := stoneM
		if d.Taken == "beds" {
			box = 0
		}
		tally(n, n.Quantities(trenchM, box, stoneM))
	}
	if n := d.Cut; n != nil && n.Open {
		ditch("Cut-off ditch", n.Reaches...)
	} else if n != nil && len(n.Reaches) > 0 {
		cut := 0.0
		for _, r := range n.Reaches {
			cut += r.MeanCutM * r.LengthM
		}
		tally(n, n.Quantities(trenchM, trenchM, math.Max(stoneM, cut/drainage.Length(n.Line)-0.3)))
	}
	for _, p := range drainage.Pipes {
		add(k.Line("Pipe "+p.Name, "pipe:"+p.Name, pipes[p.Name], units.Distance, fmt.Sprintf("%.0f %% for laps and waste; ask for the inside diameter",
			100*(drainage.PipeLaps-1))).As(pipeLine))
	}
	add(k.Line("Stone", "drain-stone", stoneT*1000, units.MassT, fmt.Sprintf("%s with %.0f %% waste", c.Text(stone, units.Earth), 100*(drainage.StoneWaste-1))))
	add(k.Line("Inspection pits", "drain-pit", chambers, units.Count, "with a silt trap of "+m(drainage.SumpM)).As(pitLine))
	add(k.Line("Junctions and end caps", "", float64(joints), units.Count, "of each"))
	add(k.Line("Reducers", "", float64(reducers), units.Count, "where the collector grows"))
	add(k.Line("Trench", "", trench, units.Earth, m(trenchM)+" wide, to depth only"))
	add(k.Line("Spoil left over", "", spoil, units.Earth, "loose; spread it thin or fill hollows"))
	add(k.Line("Trenching by machine", "machine", hours, units.Hours, fmt.Sprintf("%s an hour and %.0f h for each pit; assumed", c.Text(drainage.TrenchMH,
		units.Distance), drainage.PitH)))
	add(k.Line("Ditching by machine", "", dug/ditchM3H, units.Hours, c.Text(ditchM3H, units.Earth)+" an hour, from memory"))
	d.DigH = hours + dug/ditchM3H
	d.MachineH = d.DigH
	if b := d.Bed; b != nil && b.Refused == "" {
		for _, l := range c.bedLines(k, b) {
			add(l)
		}
		d.MachineH += b.MachineH
	}
	d.CostText, d.cost = "", 0
	if len(d.Bill) > 0 {
		d.CostText, d.cost = k.Text(), k.Sum
	}
	if d.Network != nil || d.Cut != nil {
		c.order(d, deep, stone > 0)
	}
}

// bedLines are what the beds take: shaping, soil, cover and drip line.
func (c *design) bedLines(k *report.Bill, b *BedPlan) (lines []report.Line) {
	add := func(l report.Line) { lines = append(lines, l) }
	m := func(v float64) string { return c.Text(v, units.Spacing) }
	add(k.Line("Shaping beds by machine", "machine", b.MachineH, units.Hours, fmt.Sprintf("%s at %s an hour, %s of soil from each %s in each; from memory",
		report.Count(b.Passes, "pass"), c.Text(earthwork.PassMH, units.Distance), c.Text(10*earthwork.PassM2, units.Earth), c.Text(10, units.Distance))))
	add(k.Line("Soil moved into beds", "", b.MovedM3, units.Earth, "dug from the furrows beside them, as it lies"))
	if b.CoverM > 0 {
		add(k.Line(report.Capital(b.cover)+", "+m(b.CoverBuy)+" wide", b.cover, b.CoverM, units.Distance, fmt.Sprintf("%d rolls; lasts %s", b.Rolls, b.Life)))
	}
	add(k.Line("Drip line", "drip", b.DripM, units.Distance, "2 % for ends; outlets face up, "+c.Text(2, units.Depth)+" to "+c.Text(5,
		units.Depth)+" deep under film; heavy line lasts 8 to 10 years, thin tape a season"))
	return lines
}

// order is the order of the work and its cautions (method DRN-9, common practice).
func (c *design) order(d *Plan, deep, stone bool) {
	m := func(v float64) string { return c.Text(v, units.Spacing) }
	long := func(v float64) string { return c.Text(v, units.Distance) }
	pipes := d.Network != nil && !d.Network.Open || d.Cut != nil && !d.Cut.Open
	d.Laying = []string{"Find buried services, and have the levels taken by a surveyor, before any peg is set."}
	if pipes {
		d.Laying = append(d.Laying, fmt.Sprintf("Begin at the outlet: a rigid end of %s to %s, %s above the water of the ditch, with a grid against animals.",
			m(1.5), m(3), m(drainage.OutletClearM)),
			fmt.Sprintf("Collector before laterals, upstream, in soil that is dry but moist; level pegs every %s, or a laser.", long(10)),
			"Trench no wider than it must be and to depth only; leave it open the shortest time.")
	} else {
		d.Laying = append(d.Laying, fmt.Sprintf("Begin at the outlet and dig upstream, in soil that is dry but moist; level pegs every %s, or a laser.", long(10)),
			"To depth only: a floor dug too deep stands full. Spoil on the lower side, spread or shaped into a bank, and the sides sown at once.")
	}
	if stone {
		d.Laying = append(d.Laying, "Stone around the pipe; where the pipe lies on the layer that stops the water, none below it.")
	}
	if pipes {
		d.Laying = append(d.Laying, "Measure every junction and end before it is filled in, and keep the list with the block.")
	}
	d.Cautions = []string{"Find buried services first."}
	if deep {
		d.Cautions = append(d.Cautions, fmt.Sprintf("Somewhere the trench is %s or deeper: nobody enters it unshored, spoil stays %s off the edge, a ladder "+
			"within %s, nobody works alone; local codes decide.", m(1.2), m(1), m(7.5)))
	}
	d.Cautions = append(d.Cautions, "Keep out of the swing of the machine; never enter a collapsing trench to rescue.",
		"Wetlands, protected streams and the discharge itself may need a permit: local law decides.")
}

// drainJobs dates the design: into the sheet's own job of that kind where it has one, else a job of its own;
// and every year the silt traps.
func (c *design) jobs(jobs []report.Job, when report.Timetable) []report.Job {
	d := *c.out
	piped := d.Network != nil || d.Cut != nil
	put := func(key, kind, name, phase, detail, why, caution string, better, least int) {
		for i := range jobs {
			if jobs[i].Kind == kind {
				jobs[i].Detail = detail + "; the sheet says " + jobs[i].Detail
				return
			}
		}
		jobs = append(jobs, when.MonthsBefore(report.Job{Said: report.Said{Name: name, Phase: phase, Why: why, Caution: caution,
			Origin: "common practice, no source"},
			Key: key, Kind: kind, Detail: detail}, better, least))
	}
	if piped {
		put("drain-lay", "drain", "Lay the drains, from the outlet upwards", "drain", c.words(), "roots need air before they are planted", strings.Join(d.Cautions,
			" "), 9, 4)
	}
	if b := d.Bed; b != nil && b.Refused == "" {
		put("drain-bed", "bed", "Raise the beds", "bed", fmt.Sprintf("%s of bed, shaped %s high to stand %s, %s apart", c.Text(b.Metres, units.Distance),
			c.Text(b.FreshM, units.Spacing), c.Text(b.Bed.HeightM, units.Spacing), c.Text(b.Bed.CentreM, units.Spacing)), "roots stand out of the wet", "", 3, 1)
	}
	return jobs
}

// words is the design in a line.
func (c *design) words() string {
	var parts []string
	for _, l := range c.out.Bill {
		if l.Kind == pipeLine || l.Kind == ditchLine || l.Kind == pitLine {
			parts = append(parts, report.LowerFirst(l.What)+" "+c.Text(l.Amount, l.Quantity))
		}
	}
	return strings.Join(parts, ", ")
}

// siltOps are the yearly cleaning of silt traps and of open ditches, where the drains have any.
func (c *design) siltOps() []schedule.Operation {
	d := *c.out
	pits, ditches := 0, 0.0
	for _, v := range []*NetworkView{d.Network, d.Cut} {
		if v == nil {
			continue
		}
		pits += len(v.Chambers)
		for _, x := range append(slices.Clone(v.Laterals), v.Reaches...) {
			if v.Open {
				ditches += x.LengthM
			}
		}
	}
	var out []schedule.Operation
	if pits > 0 {
		out = append(out, schedule.Operation{ID: "drain-silt", Name: "Clean the silt traps", Phase: "drain",
			Detail:  fmt.Sprintf("%s; look at the outlet and its grid, note how much silt, flush laterals that run dirty", report.Count(pits, "pit")),
			Why:     "silt that stays closes the pipe",
			Caution: "Never climb into a deep pit alone: foul air. Covers back on.", Season: []string{"late-autumn", "late-autumn"}, Ages: schedule.Ages{From: 1},
			Origin: "cp"})
	}
	if ditches > 0 {
		out = append(out, schedule.Operation{ID: "drain-ditch", Name: "Clear the ditches", Phase: "drain",
			Detail:  fmt.Sprintf("%s; cut what grows on the sides, dig out silt to the floor it was given, never deeper", c.Text(ditches, units.Distance)),
			Why:     "a ditch that grows over stands full",
			Caution: "Keep the machine off the edge: banks give way when wet.", Season: []string{"late-autumn", "late-autumn"}, Ages: schedule.Ages{From: 1},
			Origin: "cp"})
	}
	return out
}
