package prepare

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/report"
	"slowroot/core/rotation"
	"slowroot/core/schedule"
)

// Gas is a fumigation before planting: its last day with the label's plant-back and the days the weather wants, in the months
// the soil is warm enough. It says when, never with what or how much.
type Gas struct {
	WorkDays int // the work takes
	Begin    civil.Date
	Last     civil.Date // to begin on
	rotation.Fumigation

	planting civil.Date
	span     climate.Span
	known    bool // the span is
	warm     []int
	moved    bool // back to a warmer month
}

const (
	gasHaDay  = 1    // hectares a contractor treats a day, from memory
	gasSure   = 0.8  // wanted that the weather leaves the days it takes (method S9)
	gasWindow = 14   // days before the last that it is best begun
	gasUsual  = 14   // days kept for weather where no record says: the most of the usual 7 to 14
	gasMinC   = 10.0 // in the soil, taken by the mean of the air; common practice
	gasMaxC   = 35.0
)

// Fumigate dates a fumigation back from planting: airing and plant-back by the label, then as many days as hold the days the
// work takes in four years of five, counted in the record, then back to the last month that is warm enough.
func Fumigate(site climate.Site, b document.Block, areaM2 float64, planting civil.Date) *Gas {
	g := &Gas{WorkDays: max(1, int(math.Ceil(areaM2/1e4/gasHaDay))), planting: planting}
	g.PlantBack = int(b.WorksChoice().PlantBack)
	drain := map[string]int{"coarse": 1, "moderately coarse": 1, "fine": 3}[TopsoilOf(b.Pits, b.Tests, 0).Class.Group()]
	if drain == 0 {
		drain = 2
	}
	for i, m := range site.Months {
		if site.HasMonths && m.MeanC >= gasMinC && m.MeanC <= gasMaxC {
			g.warm = append(g.warm, i+1)
		}
	}
	g.Last = planting.AddDays(-g.Back() - rotation.GasReserveDays - g.WorkDays + 1)
	for range 12 { // the span is that of the time it is begun in
		spare := gasUsual
		if g.span, g.known = site.WorkSpan(g.Last, g.WorkDays, drain, gasSure); g.known {
			spare = max(rotation.GasReserveDays, g.span.Days-g.WorkDays)
		}
		g.Fumigation.Reserve = spare + g.WorkDays - 1
		last := planting.AddDays(-g.Back() - g.Fumigation.Reserve)
		if _, warm := g.Warm().Last(schedule.Seasons{}, last); warm.Before(last) {
			last, g.moved = warm, true
		}
		if !last.Before(g.Last) {
			break
		}
		g.Last = last
	}
	g.Begin = g.Last.AddDays(-gasWindow)
	return g
}

// Back is the plant-back, days; 0 where the ground is not fumigated.
func (g *Gas) Back() int {
	if g == nil {
		return 0
	}
	return g.Fumigation.Back()
}

// Reserve is the days kept for weather and for the work itself; 0 where the ground is not fumigated.
func (g *Gas) Reserve() int {
	if g == nil {
		return 0
	}
	return g.Fumigation.Reserve
}

// Warm is the time of the year the soil is warm enough in; nil where that is not known, or it always is.
func (g *Gas) Warm() *schedule.Within {
	if g == nil || len(g.warm) == 0 || len(g.warm) == 12 {
		return nil
	}
	return &schedule.Within{Months: g.warm, Says: "the soil is likely between 10 and 35 °C", Hard: true, Origin: "cp"}
}

// months are the months warm enough in words.
func (g *Gas) months() []string {
	out := []string{}
	for _, m := range g.warm {
		out = append(out, report.Months[m-1])
	}
	return out
}

// kept says what is set aside and why.
func (g *Gas) kept() string {
	s := fmt.Sprintf("%d days of plant-back by the label", g.Back())
	if g.PlantBack == 0 {
		s += " (the usual 21 until the label's are given)"
	}
	s += fmt.Sprintf(" and %d for the work and the weather", g.Reserve())
	if g.known {
		return s + fmt.Sprintf(": %d days that can be worked lie within %d in four years of five, %s", g.WorkDays, g.span.Days, g.span.Words())
	}
	return s + ", the most of the usual 7 to 14 since no daily record says"
}

// Keys of the jobs of a fumigation.
const (
	GasReady = "ground-fumigate-prepare"
	GasJob   = "ground-fumigate"
	gasCress = "ground-cress"
)

// jobs are the work of a fumigation.
func (g *Gas) jobs(c *prepare, job func(key, name, detail, why, caution string, from, by civil.Date, rule string) report.Job) []report.Job {
	gas := "Toxic gas: a licensed applicator only, by the label, with buffer zone, signs and respirators; nobody enters before the plant-back has passed."
	ready := job(GasReady, "Make the ground ready for fumigation",
		"last cultivation two to three weeks before; no clods, no trash; soil at 60 to 70 % of field capacity, watered if dry; "+
			c.Marked("{10 to 35 °C}")+" at treatment depth", "gas needs fine, moist, warm soil", gas, g.Begin.AddDays(-rotation.GasReadyDays),
		g.Last.AddDays(-rotation.GasReadyDays), "three weeks before the fumigation")
	rule := g.kept()
	if w := g.Warm(); w != nil {
		rule += "; " + w.Words()
	}
	treat := job(GasJob, "Fumigation by a licensed contractor", "substance and dose by the label and the local register only",
		"kills soil fungi and nematodes where lawful", gas, g.Begin, g.Last, rule)
	treat.After, treat.AfterDays = GasReady, rotation.GasReadyDays
	air := job(gasCress, "Air the ground and test it with cress", "two to three days; plant only where cress grows", "gas left in the soil kills roots", gas,
		civil.Later(g.planting.AddDays(-10), g.Last.AddDays(g.Back()-10)), g.planting.AddDays(-4), "after the plant-back")
	return []report.Job{ready, treat, air}
}

// judge says what a fumigation asks for, and where its months lie.
func (g *Gas) judge(say *report.Voice) {
	s := "Fumigation is the way taken: only where lawful, by a licensed applicator and by the label. Kept before planting: " + g.kept() + "."
	switch {
	case g.moved:
		s += fmt.Sprintf(" Nearer to planting the soil is likely outside %s; warm enough are %s, so it is begun by %s.", say.Marked("{10 to 35 °C}"),
			strings.Join(g.months(), ", "), g.Last.Words())
	case len(g.warm) == 0:
		s += fmt.Sprintf(" Whether the soil is at %s then no climate says.", say.Marked("{10 to 35 °C}"))
	}
	say.Note(finding.Finding{Rule: "prepare.fumigation", Weight: finding.Watch, Step: "prepare", Subject: "Fumigation", Sentence: s,
		Source: "common practice, no source; methods C16, S9"})
}
