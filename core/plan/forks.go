package plan

import (
	"maps"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/practice"
	"slowroot/core/units"
)

// Fork is a place where practice divides, each way with what it would mean for this block.
type Fork struct {
	ID       string `json:"id"`
	Question string `json:"question"`
	Step     string `json:"step"`
	Scope    string `json:"scope"` // planting, or block for what is decided about the ground
	Decided  bool   `json:"decided"`
	Locked   bool   `json:"locked"` // the layout of a standing planting can no longer be chosen
	By       string `json:"by"`
	On       string `json:"on"`
	Why      string `json:"why"`
	Ways     []Way  `json:"ways"`
}

// Way is one option with its consequences, computed for this block.
type Way struct {
	ID           string        `json:"id"`
	Name         string        `json:"name"`
	Sentence     string        `json:"sentence"`
	When         string        `json:"when"`
	Origin       string        `json:"origin"`
	Taken        bool          `json:"taken"` // chosen, or the default while nobody has chosen
	Consequences []Consequence `json:"consequences"`
}

// Consequence is one figure of a way. Differs marks those in which the ways of a fork are not alike.
type Consequence struct {
	Label    string         `json:"label"`
	Quantity units.Quantity `json:"quantity"`
	Value    float64        `json:"value"`
	Text     string         `json:"text,omitempty"`
	Differs  bool           `json:"differs"`
}

// consequential are the figures ways are compared by.
var consequential = []struct{ path, label string }{
	{"rows.stations", "stations"}, {"plants.main", "plants to order"}, {"rows.metres", "row length"}, {"life.first", "first crop"},
	{"life.full", "first full crop"}, {"yield.block", "full crop, block"}, {"yield.ten", "in ten years"}, {"yield.total", "in its life"},
}

// Forks computes the plan once for every way of every fork.
func Forks(in Input) ([]Fork, error) {
	if in.Sheet == nil && !in.Block.Wet() {
		return []Fork{}, nil
	}
	in.Block = in.Block.Settled()
	weighed := in
	weighed.Weigh = true
	base, err := Compute(weighed, nil)
	if err != nil {
		return nil, err
	}
	out := append(make([]Fork, 0, 8), base.groundForks...)
	if s := in.Block.Planting.Stage(); s == document.Empty || s == document.Considered || in.Sheet == nil {
		return out, nil
	}
	for _, f := range in.Sheet.AllForks() {
		ch, decided := in.Block.Planting.Choices[f.ID]
		fork := Fork{ID: f.ID, Question: f.Question, Step: f.Step, Scope: "planting", Decided: decided, By: ch.By, Why: ch.Why, On: ch.On.String(),
			Locked: f.ID == practice.LayoutFork && (base.Stage == document.Planted || base.Stage == document.Ended)}
		for _, o := range f.Options {
			p := *in.Block.Planting
			p.Choices = maps.Clone(p.Choices)
			if p.Choices == nil {
				p.Choices = map[string]document.Choice{}
			}
			p.Choices[f.ID] = document.Choice{Option: o.ID}
			if f.ID == practice.LayoutFork && o.ID != base.Choices[f.ID] {
				p.Layout = document.Override{BearingDeg: p.Layout.BearingDeg} // another layout brings its own spacing
			}
			if f.ID == practice.LayoutFork {
				// What another layout would have been, planted on the same day.
				p.Date, p.Planted, p.AsPlanted = p.Standing(), civil.Date{}, nil
			}
			trial := in
			trial.Block.Planting = &p
			if f.ID != practice.LayoutFork { // beds follow the rows, and the drains the beds
				trial.drained = &base.Drains
			}
			got, err := Compute(trial, nil)
			if err != nil {
				return nil, err
			}
			way := Way{ID: o.ID, Name: o.Name, Sentence: o.Sentence, When: o.When, Origin: practice.OriginWords(o.Origin), Taken: base.Choices[f.ID] == o.ID, Consequences: []Consequence{}}
			for _, k := range consequential {
				if fig, ok := got.Figure(k.path); ok {
					way.Consequences = append(way.Consequences, Consequence{Label: k.label, Quantity: fig.Quantity, Value: fig.Value, Text: fig.Text})
				}
			}
			way.Consequences = append(way.Consequences, effort(got)...)
			fork.Ways = append(fork.Ways, way)
		}
		markDifferences(fork.Ways)
		out = append(out, fork)
	}
	return out, nil
}

// effort is what a way asks for: pieces of work and nitrogen over the life.
func effort(p *Plan) []Consequence {
	n := 0.0
	for _, y := range p.Years {
		n += y.FeedKg["n"]
	}
	return []Consequence{
		{Label: "jobs in its life", Quantity: units.Count, Value: float64(len(p.Jobs))},
		{Label: "nitrogen in its life", Quantity: units.MassKg, Value: n},
	}
}

func markDifferences(ways []Way) {
	for i := range ways {
		for j := range ways[i].Consequences {
			for k := range ways {
				if j < len(ways[k].Consequences) && ways[k].Consequences[j].Value != ways[i].Consequences[j].Value {
					ways[i].Consequences[j].Differs = true
				}
			}
		}
	}
}
