package drains

import (
	"fmt"
	"math"
	"slices"
	"sort"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
)

// isField are the remedies that lower the water table of the field, by the rules of depth and spacing. An
// interceptor has a depth of its own: the layer's.
var IsField = map[string]bool{"gridiron": true, "herringbone": true, "local": true, "ditches": true}

// remedies ranks what can be done and takes what was decided, else the first that works once something
// was said about the water.
func (c *design) remedies(d *Plan, choice document.DrainChoice) {
	share := choice.WetPct / 100
	if share == 0 {
		share = 1
	}
	k := drainage.Case{Source: choice.Source, WetShare: share, CoverM: drainage.Cover(choice.Traffic) + lateralPipe.OuterM}
	if l := c.Land; l != nil {
		k.SlopePct = l.Lie.SlopePct
		k.Valley = c.known(nil) && drainage.TwoSided(c.xy(), c.heightAt)
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
		ditches := c.asDitches(*d, choice)
		for i, r := range d.Remedies {
			why := d.Refused
			if r.ID == "ditches" {
				why = ditches.Refused
			}
			if IsField[r.ID] && r.Works && why != "" {
				d.Remedies[i].Works, d.Remedies[i].Why = false, why
			}
		}
		sort.SliceStable(d.Remedies, func(i, j int) bool { return d.Remedies[i].Works && !d.Remedies[j].Works })
	}
	if why := c.ditchesTooClose(c.asDitches(*d, choice)); why != "" {
		for i, r := range d.Remedies {
			if r.ID == "ditches" && r.Works {
				d.Remedies[i].Works, d.Remedies[i].Why = false, why
			}
		}
		sort.SliceStable(d.Remedies, func(i, j int) bool { return d.Remedies[i].Works && !d.Remedies[j].Works })
	}
	if o := c.Decided; o != "" {
		d.Taken, d.Decided = o, true
	} else if d.Started && d.Needed {
		if i := slices.IndexFunc(d.Remedies, func(r drainage.Remedy) bool { return r.Works }); i >= 0 {
			d.Taken = d.Remedies[i].ID
		}
	}
	if d.Taken == "ditches" {
		*d = c.asDitches(*d, choice)
	}
}

// mostDitchShare is the share of the land ditches may take before nothing is left to plant (common practice).
const mostDitchShare = 0.35

// ditchesTooClose says why ditches cannot drain this soil: so close that they and their berms take too much of the land;
// "" where they can, or where their spacing is not known.
func (c *design) ditchesTooClose(d Plan) string {
	if d.Refused != "" || d.SpacingM <= 0 || d.DepthM <= 0 {
		return ""
	}
	width := drainage.FieldDitch(d.DepthM).LandM()
	if width <= mostDitchShare*d.SpacingM {
		return ""
	}
	return fmt.Sprintf("a ditch %s deep is %s wide with its berm; %s apart they would take %s of the land", c.Text(d.DepthM, units.Spacing),
		c.Text(width, units.Spacing), c.Text(d.SpacingM, units.Spacing), c.Text(math.Min(1, width/d.SpacingM), units.Fraction))
}

// risks of each remedy (common practice, no source).
var risks = map[string]string{"interceptor": "must reach the layer; water round its end", "diversion": "washes out in a storm",
	"local": "the patch may be fed from wider", "gridiron": "silt and roots; flush yearly", "herringbone": "as gridiron; more joints",
	"ditches": "land and traffic; banks slump", "beds": "furrows must keep their fall", "subsoil": "closes again under wheels", "leave": "uneven rows",
	"tolerant": "another crop, another market", "investigate": "a season passes"}

// fork sets the remedies side by side, each laid on this block. What is not taken is only designed when
// the ways are asked for.
func (c *design) fork() (report.Fork, bool) {
	d := *c.out
	if !d.Started && !d.Needed {
		return report.Fork{}, false
	}
	f := report.Fork{ID: document.DrainFork, Question: "How do the roots get air?", Step: "drains", Ways: []report.Way{}}
	if !c.Weigh {
		return f, true
	}
	for _, r := range d.Remedies {
		if c.Stopped() {
			break
		}
		w := report.Way{ID: r.ID, Name: r.Name, Sentence: report.Capital(r.Why) + ".", Origin: "method DRN-1, common practice, no source", Taken: r.ID == d.Taken,
			Consequences: c.tryRemedy(r)}
		if !r.Works {
			w.When = "does not work here"
		}
		if r.ID == "tolerant" && d.WetFrom != "" {
			w.Sentence += " " + Tolerated(d.WetM)
		}
		f.Ways = append(f.Ways, w)
	}
	return f, true
}

// tolerated says which wet-soil classes bear water at a depth as it is.
func Tolerated(wetM float64) string {
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

// taken is the land a bill takes, m².
func taken(bill []report.Line) float64 {
	sum := 0.0
	for _, l := range bill {
		if l.Kind == landLine {
			sum += l.Amount
		}
	}
	return sum
}

// tryRemedy designs a remedy and says what it would mean.
func (c *design) tryRemedy(r drainage.Remedy) []report.Consequence {
	choice := c.Choice
	d := *c.out
	if r.ID != d.Taken {
		d.Network, d.Cut, d.Bed, d.Bill, d.MachineH, d.CostText = nil, nil, nil, nil, 0, ""
		choice.Collector, choice.Branches, choice.Laterals, choice.Interceptor, choice.Bed = nil, nil, nil, nil, nil
		d.Taken = r.ID
		if r.ID == "ditches" {
			d = c.asDitches(d, choice)
		}
		c.laid(&d, choice)
		c.bill(&d)
	}
	none := func(label string) report.Consequence { return report.Consequence{Label: label, Text: "–"} }
	cost, hours, gained, back := none("cost"), none("machine"), none("root room gained"), none("free of water after")
	took := func(h float64) { hours = report.Consequence{Label: "machine", Quantity: units.Hours, Value: h} }
	if d.MachineH > 0 {
		took(d.MachineH)
	}
	land := report.Consequence{Label: "land lost", Quantity: units.Area}
	if d.CostText != "" {
		cost = report.Consequence{Label: "cost", Value: d.cost, Text: d.CostText}
	}
	switch r.ID {
	case "gridiron", "herringbone", "ditches", "local":
		if d.Network != nil {
			gained = report.Consequence{Label: "root room gained", Quantity: units.Depth, Value: 100 * math.Max(0, math.Min(c.roots(), d.Criterion.SteadyM)-d.WetM)}
			back = report.Consequence{Label: "free of water after", Quantity: units.Hours, Value: d.Hours, Text: fmt.Sprintf("%s (%.0f–%.0f)",
				c.Text(d.Hours, units.Hours), d.HoursLow, d.HoursHigh)}
		}
		if d.Network != nil && r.ID == "ditches" {
			land.Value = taken(d.Bill)
		}
	case "beds":
		if b := d.Bed; b != nil && b.Refused == "" {
			gained = report.Consequence{Label: "root room gained", Quantity: units.Depth, Value: 100 * b.RiseM}
			if s := d.Soil; s != nil && s.Above > 0 && s.Pores > 0 {
				h := b.Bed.HeightM
				t := 24 * drainage.FallDays(s.Above, 3*h/8, s.Pores, b.Bed.CentreM, h, h/2) // to the middle of the bed, method DRN-12
				back = report.Consequence{Label: "free of water after", Quantity: units.Hours, Value: math.Min(t, 1e5)}
			}
		}
	case "subsoil":
		h := practice.Tasks["rip"].Base * c.Ground.AreaM2 / 1e4
		took(h)
		gained = report.Consequence{Label: "root room gained", Quantity: units.Depth, Value: math.Max(0, c.Soil.AfterCm-c.Soil.DepthCm)}
		if each, ok := c.PriceOf("machine"); ok {
			cost = report.Consequence{Label: "cost", Value: each * h, Text: c.Money(each * h)}
		}
	case "diversion", "interceptor":
		land.Value = taken(d.Bill)
	case "leave":
		land.Value = c.Ground.AreaM2 * choice.WetPct / 100
	}
	return []report.Consequence{cost, hours, land, gained, back, {Label: "risk", Text: risks[r.ID]}}
}
