package estate

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"sort"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan"
	"slowroot/core/supply"
	"slowroot/internal/store"
)

// SuccessionWanted is which blocks are planted one after another, from which day on. Days of growing and picking at 0 are taken
// from the plan of the first; with a base temperature the plantings lie equal warmth apart.
type SuccessionWanted struct {
	Blocks      []string   `json:"blocks"` // in their order
	First       civil.Date `json:"first"`
	OverlapDays int        `json:"overlapDays"`
	GrowDays    int        `json:"growDays"`
	PickDays    int        `json:"pickDays"`
	BaseC       *float64   `json:"baseC"`
}

// Succession is plantings one after another: when each is planted and picked, and where picking stops between two.
type Succession struct {
	Every    int         `json:"every"` // days from one first pick to the next
	GrowDays int         `json:"growDays"`
	PickDays int         `json:"pickDays"`
	Blocks   []Following `json:"blocks"`
	Years    []Bearing   `json:"years"`
	Words    []string    `json:"words"`
}

// Following is a block of a succession.
type Following struct {
	Block string     `json:"block"`
	Name  string     `json:"name"`
	Was   civil.Date `json:"was"`
	supply.Following
	Gap      int  `json:"gap"`      // days without picking before it; below nought two are picked together
	InWindow bool `json:"inWindow"` // it is planted in a season of its sheet
}

// Bearing is how many of the blocks bear in a season year, and what they bear as a rule.
type Bearing struct {
	Label  string  `json:"label"`
	Season int     `json:"season"`
	Blocks int     `json:"blocks"`
	Kg     float64 `json:"kg"`
}

// Succeed dates plantings one after another. It changes nothing. What cannot be is a *finding.FieldError.
func (s *Service) Succeed(ctx context.Context, w SuccessionWanted) (Succession, error) {
	out := Succession{Blocks: []Following{}, Years: []Bearing{}, Words: []string{}}
	e, docs, err := s.succeeding(ctx, w)
	if err != nil {
		return out, err
	}
	first, err := s.plantedOn(ctx, docs[0].ID, w.First)
	if err != nil {
		return out, err
	}
	if len(first.Years) == 0 {
		return out, finding.Bad("blocks", docs[0].Block.Name, "has no plan of its crop", "a block with a crop that is planned")
	}
	c := supply.Course{Grow: w.GrowDays, Pick: w.PickDays, Overlap: w.OverlapDays}
	if from, to, ok := picking(first); ok {
		if c.Grow == 0 {
			c.Grow = max(1, from.Sub(w.First))
		}
		if c.Pick == 0 {
			c.Pick = to.Sub(from) + 1
		}
	}
	if w.BaseC != nil {
		site, err := s.climateAt(ctx, e.Estate, docs[0].Block.Boundary.Outer[0].Lat)
		if err != nil {
			return out, err
		}
		if site == nil || !site.HasMonths {
			return out, finding.Bad("baseC", *w.BaseC, "needs the warmth of the year, and no climate is known", "monthly normals or a daily record, or no base")
		}
		c.Heat = func(d civil.Date) float64 { return math.Max(0, site.MeanC(d)-*w.BaseC) }
	}
	list, err := supply.Follow(w.First, len(docs), c)
	if err != nil {
		return out, err
	}
	out.Every, out.GrowDays, out.PickDays = c.Every(), c.Grow, c.Pick
	err = s.follow(ctx, w, docs, list, &out)
	return out, err
}

// succeeding are the blocks asked for, each with a crop that is planned and does not stand yet.
func (s *Service) succeeding(ctx context.Context, w SuccessionWanted) (EstateDoc, []BlockDoc, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return e, nil, err
	}
	all, err := s.blocks(ctx)
	if err != nil {
		return e, nil, err
	}
	if len(w.Blocks) < 2 {
		return e, nil, finding.Bad("blocks", len(w.Blocks), "do not follow one another", "two blocks or more")
	}
	if w.First.IsZero() || !(w.BaseC == nil || *w.BaseC > -10 && *w.BaseC < 30) {
		return e, nil, finding.Bad("first", w.First, "no first planting, or a base temperature that cannot be", "a day, and −10 to 30 °C or nothing")
	}
	byID := map[string]BlockDoc{}
	for _, d := range all {
		byID[d.ID] = d
	}
	docs, seen, sheet := []BlockDoc{}, map[string]bool{}, ""
	for _, id := range w.Blocks {
		d, ok := byID[id]
		st := d.Block.Planting.Stage()
		if !ok || seen[id] || st == document.Empty || st == document.Considered || st == document.Planted || st == document.Ended {
			return e, nil, finding.Bad("blocks", d.Block.Name, "is no block with a crop that is planned and not planted yet", "each such block once")
		}
		if sheet != "" && d.Block.Planting.Sheet != sheet {
			return e, nil, finding.Bad("blocks", d.Block.Name, "has another crop than the others", "blocks of one crop")
		}
		seen[id], sheet = true, d.Block.Planting.Sheet
		docs = append(docs, d)
	}
	return e, docs, nil
}

// plantedOn is the plan of a block planted on a day.
func (s *Service) plantedOn(ctx context.Context, id string, on civil.Date) (*plan.Plan, error) {
	patch, err := json.Marshal(map[string]any{"planting": map[string]any{"date": on}})
	if err != nil {
		return nil, err
	}
	return s.Preview(ctx, id, patch)
}

// picking is the first year's picking of a plan that has any.
func picking(p *plan.Plan) (from, to civil.Date, ok bool) {
	for _, y := range p.Years {
		for _, h := range y.Harvests {
			if h.BlockKg.Base <= 0 {
				continue
			}
			if !ok || h.From.Before(from) {
				from = h.From
			}
			to, ok = civil.Later(to, h.To), true
		}
		if ok {
			break
		}
	}
	return from, to, ok
}

// follow puts the plans of the blocks on their days beside what the rule says. Where nothing was said of growing and picking,
// they are picked as their plans have it: a crop picked in its season is picked together with the others, whenever it is planted.
func (s *Service) follow(ctx context.Context, w SuccessionWanted, docs []BlockDoc, list []supply.Following, out *Succession) error {
	years := map[int]*Bearing{}
	for i, d := range docs {
		p, err := s.plantedOn(ctx, d.ID, list[i].On)
		if err != nil {
			return err
		}
		f := Following{Block: d.ID, Name: d.Block.Name, Was: d.Block.Planting.Date, Following: list[i], InWindow: true}
		for _, x := range p.Findings {
			f.InWindow = f.InWindow && x.Rule != "schedule.window"
		}
		if from, to, ok := picking(p); ok && w.BaseC == nil && w.GrowDays == 0 && w.PickDays == 0 {
			f.From, f.To = from, to
		}
		if i > 0 {
			f.Gap = f.From.Sub(out.Blocks[i-1].To) - 1
		}
		if f.Gap > 0 {
			out.Words = append(out.Words, fmt.Sprintf("Nothing is picked for %d days before %s.", f.Gap, f.Name))
		}
		if !f.InWindow {
			out.Words = append(out.Words, fmt.Sprintf("%s would be planted on %s, outside the planting season of its sheet.", f.Name, f.On.Words()))
		}
		out.Blocks = append(out.Blocks, f)
		for _, y := range p.Years {
			if y.BlockKg.Base > 0 {
				b := years[y.Season]
				if b == nil {
					b = &Bearing{Label: y.Label, Season: y.Season}
					years[y.Season] = b
				}
				b.Blocks, b.Kg = b.Blocks+1, b.Kg+y.BlockKg.Base
			}
		}
	}
	if a, b := out.Blocks[0], out.Blocks[1]; a.From == b.From && a.On != b.On {
		out.Words = append(out.Words, "The crop is picked in its season: planted one after another, the blocks are picked together. Kinds that ripen early and late spread its picking.")
	}
	for _, b := range years {
		out.Years = append(out.Years, *b)
	}
	sort.Slice(out.Years, func(i, j int) bool { return out.Years[i].Season < out.Years[j].Season })
	return nil
}

// KeepSuccession plants the blocks on their days: one change over all of them, which one undo takes back.
func (s *Service) KeepSuccession(ctx context.Context, who string, w SuccessionWanted) (Succession, error) {
	out, err := s.Succeed(ctx, w)
	if err != nil {
		return out, err
	}
	_, docs, err := s.succeeding(ctx, w)
	if err != nil {
		return out, err
	}
	var writes []store.Write
	for i, d := range docs {
		b := d.Block
		p := *b.Planting
		p.Date = out.Blocks[i].On
		b.Planting = &p
		if err := b.Valid(); err != nil {
			return out, err
		}
		list, err := d.writes(b)
		if err != nil {
			return out, err
		}
		writes = append(writes, list...)
	}
	_, err = s.store.Apply(ctx, who, fmt.Sprintf("Planted one after another: %d blocks from %s on", len(docs), w.First.Words()), writes...)
	return out, err
}
