package plan

import (
	"maps"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/plan/crop"
	"slowroot/core/plan/fit"
	"slowroot/core/plan/work"
	"slowroot/core/practice"
	"slowroot/core/report"
)

// consequential are the figures ways are compared by.
var consequential = []struct{ path, label string }{
	{"rows.stations", "stations"}, {"plants.main", "plants to order"}, {"rows.metres", "row length"}, {"life.first", "first crop"},
	{"rows.pollinizers", "pollen partners"}, {"canopy.touch", "crowns meet"}, {"life.full", "first full crop"},
	{"yield.block", "full crop, block"}, {"yield.ten", "in ten years"}, {"yield.total", "in its life"},
}

// Forks computes the plan once for every way of every fork.
func Forks(in Input) ([]report.Fork, error) {
	if in.Sheet == nil && !in.Block.Wet() {
		return []report.Fork{}, nil
	}
	in.Block = in.Block.Settled()
	weighed := in
	weighed.Weigh = true
	base, err := Compute(weighed, nil)
	if err != nil {
		return nil, err
	}
	out := append(make([]report.Fork, 0, 8), base.groundForks...)
	if s := in.Block.Planting.Stage(); s == document.Empty || s == document.Considered || in.Sheet == nil {
		return out, nil
	}
	for _, f := range in.Sheet.AllForks() {
		if !f.If.Holds(base.Choices) {
			continue // it concerns another layout
		}
		ch, decided := in.Block.Planting.Choices[f.ID]
		fork := report.Fork{ID: f.ID, Question: f.Question, Step: f.Step, Scope: "planting", Decided: decided, By: ch.By, Why: ch.Why, On: ch.On.String(),
			Locked: f.ID == practice.LayoutFork && (base.Stage == document.Planted || base.Stage == document.Ended)}
		for _, o := range f.Options {
			p := *in.Block.Planting
			p.Choices = maps.Clone(p.Choices)
			if p.Choices == nil {
				p.Choices = map[string]document.Choice{}
			}
			p.Choices[f.ID] = document.Choice{Option: o.ID}
			if f.ID == practice.LayoutFork && o.ID != base.Choices[f.ID] {
				// another layout brings its own spacing, and its rows are no strips
				p.Layout, p.Strips, p.Stumps = p.Layout.Turned(), nil, nil
			}
			if f.ID == practice.LayoutFork {
				// What another layout would have been, planted on the same day.
				p.Date, p.Planted, p.AsPlanted = p.Standing(), civil.Date{}, nil
			}
			trial := in
			trial.trial = true
			trial.Block.Planting = &p
			if f.ID != practice.LayoutFork { // beds follow the rows, and the drains the beds
				trial.drained = base.Drains
			}
			got, err := Compute(trial, nil)
			if err != nil {
				return nil, err
			}
			way := report.Way{ID: o.ID, Name: o.Name, Sentence: o.Sentence, When: o.When, Origin: practice.OriginWords(o.Origin), Taken: base.Choices[f.ID] == o.ID,
				Consequences: []report.Consequence{}}
			if l, ok := in.Sheet.Layout(o.ID); ok && f.ID == practice.LayoutFork {
				way.System, way.Patch = l.System, document.AnotherLayout()
			}
			for _, k := range consequential {
				if fig, ok := got.Figure(k.path); ok {
					way.Consequences = append(way.Consequences, report.Consequence{Label: k.label, Quantity: fig.Quantity, Value: fig.Value, Text: fig.Text})
				}
			}
			way.Consequences = append(way.Consequences, crop.Consequences(got.Years)...)
			way.Consequences = append(way.Consequences, work.Consequences(got.Jobs)...)
			way.Consequences = append(way.Consequences, fit.Here(trial.fit(), in.Sheet, f.Touches())...)
			fork.Ways = append(fork.Ways, way)
		}
		fork.MarkDifferences()
		out = append(out, fork)
	}
	return out, nil
}
