package prepare

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/amend"
	"slowroot/core/document"
	"slowroot/core/report"
	"slowroot/core/rotation"
	"slowroot/core/units"
)

var limeWays = map[amend.School][2]string{
	amend.BaseSaturation: {"Base saturation", "Raise the bases to the share of the exchange capacity the crop likes; for soils whose charge changes with pH."},
	amend.TargetPH:       {"Target pH", "The step in pH times a factor of the texture; needs nothing but a pH."},
	amend.Buffer:         {"Buffer pH", "What a buffer solution says of the acidity held back; the most local calibration."},
	amend.Aluminium:      {"Aluminium", "Neutralise the aluminium the crop does not bear and bring calcium and magnesium up; the least lime."},
}

func (c *prepare) limeFork() (report.Fork, bool) {
	l := c.works.Lime
	if l == nil || l.Refused != "" || !l.Wanted { // where none is wanted there is nothing to choose
		return report.Fork{}, false
	}
	f := report.Fork{ID: "lime", Question: "By which school is the lime reckoned?", Step: "soil"}
	answers := 0
	m, ok := document.LimingFor(c.Materials, c.Works.Material)
	for _, n := range l.Needs {
		w := report.Way{ID: string(n.School), Name: limeWays[n.School][0], Sentence: limeWays[n.School][1], Origin: n.Source, Taken: n.School == l.Taken,
			Consequences: []report.Consequence{}}
		if n.School == l.Usual {
			w.When = "usual with the data at hand"
		}
		if n.Lack != "" {
			w.When = "cannot answer: it needs " + n.Lack
			f.Ways = append(f.Ways, w)
			continue
		}
		answers++
		w.Consequences = append(w.Consequences, report.Consequence{Label: "pure lime, treated ha", Quantity: units.YieldT, Value: n.TPerHa * 1000})
		if ok && m.Analysed() {
			t := m.Product(n.TPerHa) * c.works.TreatedHa
			w.Consequences = append(w.Consequences, report.Consequence{Label: m.Name + ", block", Quantity: units.MassT, Value: t * 1000})
			cost := "no price"
			if each, ok := c.PriceOf("lime:" + m.ID); ok {
				cost = c.Money(each * t)
			}
			w.Consequences = append(w.Consequences, report.Consequence{Label: "material", Value: t, Text: cost},
				report.Consequence{Label: "applications", Quantity: units.Count, Value: float64(amend.Split(m.Product(n.TPerHa), amend.MostMixedIn))})
		}
		f.Ways = append(f.Ways, w)
	}
	return f, answers >= 2
}

// fixes reports soil that fixes phosphate: acid, and rich in clay or aluminium (common practice).
func (g Topsoil) fixes() bool {
	if g.Ph == nil || *g.Ph >= 5.5 {
		return false
	}
	return g.clay >= 35 || g.Test.Al != nil && *g.Test.Al > 1
}

func (c *prepare) phosphateFork() (report.Fork, bool) {
	g := c.topsoil()
	if g.Test == nil {
		return report.Fork{}, false
	}
	fixing := g.fixes()
	why := "the soil does not fix much"
	if fixing {
		why = fmt.Sprintf("acid clay soil (pH %.1f, clay %.0f %%) fixes phosphate that is mixed through it", *g.Ph, g.clay)
	}
	taken := c.Decided["phosphate"].Option
	if taken == "" {
		taken = map[bool]string{true: "band", false: "hole"}[fixing]
	}
	first := ""
	if c.PhosphateKg != nil {
		first = c.Text(*c.PhosphateKg, units.MassKg) + " P₂O₅"
	}
	way := func(id, name, sentence, use, when string) report.Way {
		w := report.Way{ID: id, Name: name, Sentence: sentence, When: when, Origin: "common practice; shares of use from memory", Taken: taken == id,
			Consequences: []report.Consequence{{Label: "used by plants", Text: use}}}
		if first != "" {
			w.Consequences = append(w.Consequences, report.Consequence{Label: "first year, block", Value: 1, Text: first})
		}
		return w
	}
	a := way("hole", "Mixed into the hole or bed", "Phosphate is mixed with the soil roots will fill.", "10 to 20 %", "neutral and sandy soil")
	b := way("band", "Banded, never worked in", "A narrow band in the furrow or on the surface under mulch, with no tillage afterwards.", "20 to 30 %",
		"acid, clay or iron-rich soil")
	if fixing {
		b.When += "; here: " + why
	} else {
		a.When += "; here: " + why
	}
	return report.Fork{ID: "phosphate", Question: "Where does phosphate go?", Step: "soil", Ways: []report.Way{a, b}}, true
}

func (c *prepare) coverFork() report.Fork {
	ha, gas := c.Ground.AreaM2/1e4, 2.0 // months, as a rule
	if g := c.Gas; g != nil {
		gas = math.Ceil(float64(c.When.Planting.Sub(g.Begin.AddDays(-rotation.GasReadyDays))) / 30.44)
	}
	taken := document.CoverTaken(c.Decided)
	way := func(id, name, sentence, when string, months, hours float64, licence string) report.Way {
		return report.Way{ID: id, Name: name, Sentence: sentence, When: when, Origin: "common practice, no source", Taken: taken == id,
			Consequences: []report.Consequence{
				{Label: "begins before planting", Quantity: units.Count, Value: months, Text: fmt.Sprintf("%.0f months", months)},
				{Label: "work", Quantity: units.Hours, Value: hours * ha}, {Label: "licence", Text: licence}}}
	}
	f := report.Fork{ID: document.CoverFork, Question: "How is the ground rested before planting?", Step: "prepare", Ways: []report.Way{
		way("cover-crop", "A cover crop", "One season of a dense cover, killed four to six weeks before planting.", "usual", 12, 2.4, "none"),
		way("rotation", "A long rotation", "Two years or more of grass or cereal that carries none of this crop's diseases.",
			"after hosts of wilt, or an old orchard", 30, 6, "none"),
		way("fumigation", "Fumigation", c.Marked("Gas under film, where it is lawful; the soil at {10 to 35 °C} and moist; a plant-back by the label."),
			"old ground with nematodes or root disease, and no time", gas, 8, "licensed applicator"),
	}}
	var waits []string
	for _, w := range c.Soil.Waits {
		if w.Earliest.After(c.When.Planting) {
			waits = append(waits, w.Why)
		}
	}
	if len(waits) > 0 {
		f.Ways[1].When += "; here: " + strings.Join(waits, ", ")
	}
	return f
}
