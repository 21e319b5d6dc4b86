package plan

import (
	"fmt"
	"math"
	"sort"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/layout"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/prepare"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/units"
)

// findings judges the plan. Each rule looks at figures already computed; none computes again.
func (c *computation) findings() {
	c.judgeGround()
	c.judgeAnswers()
	c.judgeSoil()
	c.p.Drains.Judge(c.drainsIn(), c.Voice)
	if c.sheet != nil {
		prepare.Judge(c.prepareIn(), c.Voice, &c.p.Works, &c.p.Preparation, c.moveTo)
	}
	if c.planting != nil {
		c.judgeRows()
		c.judgePlants()
		c.judgeDates()
		c.judgeLife()
		c.judgeAgreement()
	}
	sort.SliceStable(c.Findings, func(i, j int) bool { return c.Findings[i].Weight.Rank() < c.Findings[j].Weight.Rank() })
}

// planting is a merge patch of one field of the planting.
func planting(field string, v any) map[string]any {
	return map[string]any{"planting": map[string]any{field: v}}
}

func layoutPatch(fields map[string]any) map[string]any { return planting("layout", fields) }

func (c *computation) judgeRows() {
	s, pl := c.p.Spec, c.placed
	if pl.Stations == 0 {
		f := finding.Finding{Rule: "rows.none", Weight: finding.Stops, Step: "rows", Subject: "Rows", Source: "method LAY-3",
			Sentence: fmt.Sprintf("The edge band of %s and the row-end setback of %s swallow the field: not one station fits.", c.Text(s.EdgeBandM, units.Spacing), c.Text(s.RowEndSetbackM, units.Spacing))}
		for k := s.EdgeBandM / 2; k > 0.2; k /= 2 {
			trial := s
			trial.EdgeBandM, trial.RowEndSetbackM = math.Round(k*10)/10, math.Min(s.RowEndSetbackM, math.Round(k*10)/10)
			if got, err := layout.Place(c.ground.On, trial); err == nil && got.Stations > 0 {
				f.Remedies = append(f.Remedies, finding.Remedy{Label: fmt.Sprintf("Band and setback %s", c.Text(trial.EdgeBandM, units.Spacing)),
					Patch: layoutPatch(map[string]any{"edgeBandM": trial.EdgeBandM, "rowEndSetbackM": trial.RowEndSetbackM})})
				break
			}
		}
		c.Note(f)
		return
	}
	if (s.Pattern == layout.Rectangle || s.Pattern == layout.Twin) && s.RowSpacingM < s.PlantSpacingM {
		c.Note(finding.Finding{Rule: "rows.orientation", Weight: finding.Watch, Step: "rows", Subject: "Spacing", Source: "method LAY-1, common practice",
			Sentence: fmt.Sprintf("Rows stand %s apart and plants %s: closer between rows than in them. Trades write the two in different order.", c.Text(s.RowSpacingM, units.Spacing), c.Text(s.PlantSpacingM, units.Spacing)),
			Remedies: []finding.Remedy{{Label: "Swap them", Patch: layoutPatch(map[string]any{"rowSpacingM": s.PlantSpacingM, "plantSpacingM": s.RowSpacingM})}}})
	}
	density := s.StationsPerHa()
	if c.curve.Extrapolated(density) {
		c.Note(finding.Finding{Rule: "rows.density-far", Weight: finding.Watch, Step: "rows", Subject: "Density", Source: "method Y7",
			Sentence: fmt.Sprintf("%s is far from the %s the yields were seen at: beyond 0.4 to 2.5 times, the yield given here is a guess.", c.Text(density, units.PerArea), c.Text(c.curve.ReferencePerHa, units.PerArea)),
			Remedies: []finding.Remedy{{Label: "Spacing of " + c.option.Name, Patch: layoutPatch(map[string]any{"rowSpacingM": nil, "plantSpacingM": nil, "twinGapM": nil})}}})
	}
	if lost := 1 - c.planted*1e4/c.ground.AreaM2; lost > 0.02 {
		c.Note(finding.Finding{Rule: "rows.edge-loss", Weight: finding.Know, Step: "rows", Subject: "Edges", Source: "method LAY-3",
			Sentence: fmt.Sprintf("Edges and row ends take %s of the block: %s stand where spacing alone says %s.", c.Text(lost, units.Fraction), c.Text(float64(pl.Stations), units.Count), c.Text(math.Round(density*c.ground.AreaM2/1e4), units.Count))})
	}
	if c.option.Pollinizer.None() {
		return
	}
	if pl.Pollinizers == 0 {
		c.Note(finding.Finding{Rule: "rows.no-pollinizers", Weight: finding.Mend, Step: "plants", Subject: "Pollinizers", Source: "method LAY-6, common practice",
			Sentence: fmt.Sprintf("%s cannot set a crop from its own pollen, and this layout holds no pollinizer.", c.sheet.Name),
			Remedies: []finding.Remedy{{Label: fmt.Sprintf("One in every %d of every %s row", c.option.Pollinizer.EveryPlant, report.Ordinal(c.option.Pollinizer.EveryRow)), Patch: layoutPatch(map[string]any{"pollinizer": nil})}}})
	} else {
		stay := pl.Stations - pl.Temporary
		c.Note(finding.Finding{Rule: "rows.pollinizers", Weight: finding.Know, Step: "plants", Subject: "Pollinizers", Source: "method LAY-6, common practice",
			Sentence: fmt.Sprintf("One in every %d of every %s row is a pollinizer: %s of %s that stay.", s.Pollinizer.EveryPlant, report.Ordinal(s.Pollinizer.EveryRow), c.Text(float64(pl.Pollinizers), units.Count), c.Text(float64(stay), units.Count))})
	}
}

func (c *computation) judgePlants() {
	if c.inGround() {
		return
	}
	main, ok1 := c.Said("plants.main")
	flat, ok2 := c.Said("plants.main.flat")
	if ok1 && ok2 && flat.Value < main.Value {
		c.Note(finding.Finding{Rule: "plants.flat-reserve", Weight: finding.Know, Step: "plants", Subject: "Order", Source: "method LAY-9",
			Sentence: fmt.Sprintf("A flat reserve orders %s, %s. %s fill every station. The larger risk is one bad batch: two suppliers and two dates spread it.", c.Text(flat.Value, units.Count), strings.TrimPrefix(flat.Note, "the trade's reserve, "), c.Text(main.Value, units.Count))})
	}
}

func (c *computation) judgeDates() {
	p := c.planting
	if c.inGround() {
		return
	}
	var passed []report.Job
	for _, j := range c.p.Jobs {
		if j.Passed && !strings.HasPrefix(j.Key, "works-") { // judgeWorks says what a late start still reaches
			passed = append(passed, j)
		}
	}
	free, best, chain := c.earliest()
	if len(passed) > 0 {
		sort.SliceStable(passed, func(i, j int) bool { return passed[i].By.Before(passed[j].By) })
		worst := passed[0]
		f := finding.Finding{Rule: "schedule.lead-time-passed", Weight: finding.Mend, Step: "care", Subject: worst.Name, Source: "method S5; " + worst.Origin}
		if p.Standing().Before(c.in.Today) {
			f.Weight = finding.Stops
		}
		f.Sentence = fmt.Sprintf("“%s” had to be done by %s for planting on %s, and is not recorded as done (%s).", worst.Name, worst.By.Words(), p.Date.Words(), worst.Rule)
		if n := len(passed) - 1; n > 0 {
			f.Sentence += fmt.Sprintf(" %d more %s late too.", n, map[bool]string{true: "preparation is", false: "preparations are"}[n == 1])
		}
		if len(chain) > 0 {
			var links []string
			for _, l := range chain {
				links = append(links, fmt.Sprintf("%s from %s, %s", l.Operation.Name, l.Start.Words(), l.Operation.Min.Words()))
			}
			f.Sentence += fmt.Sprintf(" Starting today, planting is possible from %s (%s).", free.Words(), strings.Join(links, "; then "))
		}
		for _, a := range c.p.Works.Late(c.prepareIn(), c.Voice) {
			if a.Free.After(civil.Later(best, p.Date)) {
				f.Sentence += fmt.Sprintf(" %s, begun now, has acted in full on %s only.", a.Name, a.Free.Words())
			}
		}
		if best.After(p.Date) {
			f.Remedies = append(f.Remedies, finding.Remedy{Label: "Plant on " + best.Words(), Patch: planting("date", best.String())})
		}
		for i, j := range passed {
			if i == 3 {
				break
			}
			f.Remedies = append(f.Remedies, finding.Remedy{Label: fmt.Sprintf("“%s” was done by %s", j.Name, j.By.Words()), Patch: map[string]any{}, Record: map[string]any{"kind": record.Done, "operation": j.Key, "day": j.By.String()}})
		}
		c.Note(f)
	} else if p.Date.Before(c.in.Today) {
		next := c.seasons.NextInWindow(civil.Later(c.in.Today, free), c.sheet.Windows)
		c.Note(finding.Finding{Rule: "schedule.planting-passed", Weight: finding.Mend, Step: "plants", Subject: "Planting", Source: "method S7",
			Sentence: fmt.Sprintf("The planting date of %s has passed and nothing is recorded as planted.", p.Date.Words()),
			Remedies: []finding.Remedy{{Label: "Plant on " + next.Words(), Patch: planting("date", next.String())}}})
	}
	for _, o := range c.ops {
		d := c.book.Done[o.ID]
		if d.IsZero() || o.Before != "planting" || !o.Min.From(d, 1).After(p.Date) {
			continue
		}
		next := c.seasons.NextInWindow(civil.Later(o.Min.From(d, 1), free), c.sheet.Windows)
		c.Note(finding.Finding{Rule: "schedule.done-late", About: &finding.Ref{Kind: "job", ID: o.ID}, Weight: finding.Mend, Step: "care", Subject: o.Name, Source: "method S5; " + practice.OriginWords(o.Origin),
			Sentence: fmt.Sprintf("“%s” was done %d days before planting; the sheet asks for %s at least.", o.Name, p.Date.Sub(d), o.Min.Words()),
			Remedies: []finding.Remedy{{Label: "Plant on " + next.Words(), Patch: planting("date", next.String())}}})
	}
	if !c.seasons.InWindow(p.Date, c.sheet.Windows) {
		next := c.seasons.NextInWindow(civil.Later(p.Date, best), c.sheet.Windows)
		var when []string
		for _, w := range c.sheet.Windows {
			when = append(when, strings.Join(w.Season, " to ")+" ("+w.When+")")
		}
		c.Note(finding.Finding{Rule: "schedule.window", Weight: finding.Mend, Step: "plants", Subject: "Planting date", Source: practice.OriginWords(c.sheet.Windows[0].Origin),
			Sentence: fmt.Sprintf("%s lies outside the planting season of %s: %s.", p.Date.Words(), strings.ToLower(c.sheet.Name), strings.Join(when, ", or ")),
			Remedies: []finding.Remedy{{Label: "Plant on " + next.Words(), Patch: planting("date", next.String())}}})
	}
}

func (c *computation) judgeLife() {
	if t := c.option.Thinning; t != nil && c.p.OutAge > 0 {
		age := c.canopy.AgeAt(c.p.Spec.PlantSpacingM)
		out := c.seasons.Label(c.first + t.OutAge - 1)
		s := fmt.Sprintf("Taking out every second plant in %s leaves %s × %s; ", out, c.Text(c.p.Spec.RowSpacingM, units.Spacing), c.Text(2*c.p.Spec.PlantSpacingM, units.Spacing))
		touch := c.seasons.Label(c.first + int(math.Ceil(age)) - 1)
		switch {
		case math.IsInf(age, 1):
			s += "canopies do not meet in the row before."
		case int(math.Ceil(age)) < t.FromAge:
			s += fmt.Sprintf("canopies meet in the row in %s already, before the usual age %d to %d.", touch, t.FromAge, t.ToAge)
		default:
			s += fmt.Sprintf("canopies meet in the row in %s.", touch)
		}
		w := finding.Know
		if !math.IsInf(age, 1) && int(math.Ceil(age)) < t.FromAge {
			w = finding.Watch
		}
		c.Note(finding.Finding{Rule: "rows.thinning", Weight: w, Step: "rows", Subject: "Thinning", Source: "methods LAY-5, Y2; " + practice.OriginWords(c.option.Origin), Sentence: s})
	}
	if end := c.first + c.life - 1; c.p.YearToday > end {
		c.Note(finding.Finding{Rule: "life.over", Weight: finding.Watch, Step: "yield", Subject: "Life", Source: practice.OriginWords(c.sheet.LifeOf(c.option).Origin),
			Sentence: fmt.Sprintf("The usual life of %d to %d years ended in %s; what it yields now is not in the sheet.", c.sheet.LifeOf(c.option).Low, c.sheet.LifeOf(c.option).High, c.seasons.Label(end))})
	}
}

// judgeAgreement compares what was accepted with what is said now.
func (c *computation) judgeAgreement() {
	p := c.planting
	if c.in.NewSheet != nil {
		c.Note(finding.Finding{Rule: "sheet.newer", Weight: finding.Know, Step: "plants", Subject: "Practice sheet", Source: "",
			Sentence: fmt.Sprintf("The library holds another version of the sheet of %s than the one this plan was adopted with. Nothing moves until it is taken over.", c.sheet.Name),
			Remedies: []finding.Remedy{{Label: "Take over the library's sheet", Patch: planting("sheetDigest", nil)}}})
	}
	if c.p.Stage == document.Adopted && p.BaseDate.Compare(p.Date) != 0 {
		c.Note(finding.Finding{Rule: "schedule.moved", Weight: finding.Watch, Step: "plants", Subject: "Planting date", Source: "",
			Sentence: fmt.Sprintf("Adopted on %s for planting on %s; it is now planned for %s, %s.", p.AdoptedOn.Words(), p.BaseDate.Words(), p.Date.Words(), days(p.Date.Sub(p.BaseDate))),
			Remedies: []finding.Remedy{{Label: "Back to " + p.BaseDate.Words(), Patch: planting("date", p.BaseDate.String())}}})
	}
	if a := p.AsPlanted; a != nil {
		l, ok := c.sheet.Layout(c.p.Choices[practice.LayoutFork])
		if now := p.Spec(l).Normal(); ok && now != a.Spec.Normal() {
			sentence := fmt.Sprintf("%s × %s stands in the ground; the choices now say %s × %s. Nothing in the ground has moved.",
				c.Text(a.Spec.RowSpacingM, units.Spacing), c.Text(a.Spec.PlantSpacingM, units.Spacing), c.Text(now.RowSpacingM, units.Spacing), c.Text(now.PlantSpacingM, units.Spacing))
			if got, err := layout.Place(c.ground.On, now); err == nil {
				sentence += fmt.Sprintf(" They would make %s stations instead of %s.", c.Text(float64(got.Stations), units.Count), c.Text(float64(a.Stations), units.Count))
			}
			s := a.Spec
			c.Note(finding.Finding{Rule: "rows.differs-from-planted", Weight: finding.Watch, Step: "rows", Subject: "Layout", Sentence: sentence,
				Remedies: []finding.Remedy{{Label: "Back to what stands", Patch: map[string]any{"planting": map[string]any{
					"choices": map[string]any{practice.LayoutFork: map[string]any{"option": a.Layout}},
					"layout": map[string]any{"rowSpacingM": s.RowSpacingM, "plantSpacingM": s.PlantSpacingM, "twinGapM": s.TwinGapM, "bearingDeg": s.BearingDeg,
						"edgeBandM": s.EdgeBandM, "rowEndSetbackM": s.RowEndSetbackM, "offsetM": s.OffsetM, "pollinizer": s.Pollinizer}}}}}})
		}
		if d := c.ground.AreaM2/a.AreaM2 - 1; math.Abs(d) > 0.005 {
			c.Note(finding.Finding{Rule: "ground.resurveyed", Weight: finding.Watch, Step: "ground", Subject: "Boundary",
				Sentence: fmt.Sprintf("The boundary now holds %s; it held %s when the rows were recorded. The rows have not moved.", c.Text(c.ground.AreaM2, units.Area), c.Text(a.AreaM2, units.Area))})
		}
	}
}

func days(n int) string {
	word := "later"
	if n < 0 {
		n, word = -n, "earlier"
	}
	if n == 1 {
		return "1 day " + word
	}
	return fmt.Sprintf("%d days %s", n, word)
}

// steps says of each step of the descent whether it is untouched, has open forks, or is settled.
func (c *computation) steps() {
	for _, key := range practice.Steps {
		s := Step{Key: key, State: "untouched"}
		switch {
		case key == "ground":
			s.State = "settled"
		case key == "soil":
			if len(c.in.Block.Pits)+len(c.in.Block.Tests) > 0 {
				s.State = "settled"
			}
			c.openGround(&s)
		case key == "drains":
			if c.p.Drains.Started || len(c.in.Block.Pits) > 0 && !c.p.Drains.Needed {
				s.State = "settled"
			}
			c.openGround(&s)
		case key == "fit":
			if len(c.in.Block.Pits) > 0 && len(c.in.Block.Tests) > 0 {
				s.State = "settled"
			}
		case key == "prepare":
			if len(c.p.Preparation.Lines) > 0 {
				s.State = "settled"
			}
			c.openGround(&s)
		case c.planting != nil:
			s.State = "settled"
			if key == "record" && !c.inGround() && len(c.book.Held) == 0 {
				s.State = "untouched"
			}
			if !c.inGround() {
				for _, f := range c.sheet.AllForks() {
					if _, decided := c.planting.Choices[f.ID]; f.Step == key && !decided {
						s.Open++
						s.State = "open"
					}
				}
			}
		}
		for _, f := range c.Findings {
			if f.Step == key && f.Weight != finding.Know {
				s.Notes++
			}
		}
		c.p.Steps = append(c.p.Steps, s)
	}
}

// judgeGround says what is known of the ground, and that nothing is planned on it where that is so.
func (c *computation) judgeGround() {
	if c.planting == nil {
		c.Note(finding.Finding{Rule: "ground.undecided", Weight: finding.Know, Step: "plants", Subject: c.in.Block.Name,
			Sentence: fmt.Sprintf("Nothing stands or is planned on these %s. %s", c.Text(c.ground.AreaM2, units.Area), c.undecided())})
	}
	crop := ground.Crop{Standing: c.inGround()}
	if c.sheet != nil {
		crop.Name, crop.EarlyBloom = c.sheet.Name, c.sheet.Traits.EarlyBloom
	}
	if c.planting != nil && !c.inGround() {
		crop.BearingDeg = &c.p.Spec.BearingDeg
	}
	c.ground.Judge(c.groundIn(), crop, c.Voice)
}

// groundIn is what the ground is measured from.
func (c *computation) groundIn() ground.In {
	b := c.in.Block
	return ground.In{Boundary: b.Boundary, Surveyed: b.Surveyed, AccuracyM: b.AccuracyM, Land: c.in.Land, LandProblem: c.in.LandProblem}
}

// undecided says what would give a whole plan.
func (c *computation) undecided() string {
	switch {
	case c.sheet == nil:
		return "Choose a crop to see a whole plan."
	case !c.sheet.Whole():
		return fmt.Sprintf("%s is considered; its sheet does not say yet how it is laid out and kept.", c.sheet.Name)
	}
	return fmt.Sprintf("%s is considered; plan it to see rows, plants, care and crop.", c.sheet.Name)
}
