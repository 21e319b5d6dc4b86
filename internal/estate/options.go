package estate

import (
	"context"
	"fmt"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/layout"
	"slowroot/core/plan"
	"slowroot/core/plan/rows"
	"slowroot/core/report"
	"slowroot/internal/store"
)

// Option is a planting that is not in the ground, planned to its end whatever its stage, to be compared with the others of its block.
type Option struct {
	ID        string          `json:"id"`
	Name      string          `json:"name"`
	Sheet     string          `json:"sheet"`
	SheetName string          `json:"sheetName"`
	Stage     document.Stage  `json:"stage"`
	Aside     string          `json:"aside"`   // why another was taken
	Problem   string          `json:"problem"` // why it cannot be planned, "" where it can
	Spec      layout.Spec     `json:"spec"`
	Rows      []layout.Piece  `json:"rows"`
	Beside    []rows.Beside   `json:"beside"`
	SpreadM   float64         `json:"spreadM"` // canopy ten years on, or at the end of a shorter life
	Figures   []report.Figure `json:"figures"`
}

// compared are the figures options are compared by, in their order; those of companions come with the rest.
var compared = []string{"rows.stations", "rows.real", "rows.metres", "plants.main", "plants.pollinizers", "canopy.touch", "life.first", "life.full", "yield.block", "yield.ten", "yield.total",
	"bill.cost", "bill.hours"}

// Bearings is what the rows of the planting the block is seen from would be on every bearing.
func (s *Service) Bearings(ctx context.Context, id string) (rows.TradeOff, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return rows.TradeOff{}, err
	}
	in, err := s.input(ctx, e.Estate, d)
	if err != nil {
		return rows.TradeOff{}, err
	}
	return plan.Bearings(in)
}

// Options plans every planting of a block that is not in the ground, each by itself: one that cannot be planned says why.
func (s *Service) Options(ctx context.Context, id string) ([]Option, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return nil, err
	}
	out := []Option{}
	for _, h := range d.all {
		stage := h.Stage()
		if h.err != nil || stage == document.Planted || stage == document.Ended {
			continue
		}
		o := Option{ID: h.ID, Name: h.Name, Sheet: h.Sheet, SheetName: h.Sheet, Stage: stage, Aside: h.Aside, Rows: []layout.Piece{}, Beside: []rows.Beside{}, Figures: []report.Figure{}}
		if sheet, ok := s.find(ctx)(h.Sheet); ok {
			o.SheetName = sheet.Name
		}
		p := h.Planting
		p.Considered = false
		b := d.Block
		b.Planting = &p
		plan.Complete(&b, e.Estate, s.find(ctx), s.today())
		got, err := s.brief(ctx, e.Estate, d.as(b))
		if err != nil {
			if ctx.Err() != nil {
				return nil, err
			}
			o.Problem = err.Error()
			out = append(out, o)
			continue
		}
		o.Spec, o.Rows, o.Beside = got.Spec, got.Rows, got.Beside
		if n := len(got.Years); n > 0 {
			o.SpreadM = got.Years[min(9, n-1)].SpreadM
		}
		for _, path := range compared {
			if f, ok := got.Figure(path); ok {
				o.Figures = append(o.Figures, f)
			}
		}
		for _, w := range got.Beside {
			for _, of := range []string{"stations", "order"} {
				if f, ok := got.Figure(w.Path(of)); ok {
					o.Figures = append(o.Figures, f)
				}
			}
		}
		out = append(out, o)
	}
	return out, nil
}

// ChooseOption plans with one of the options; the others that are not adopted are only considered from then on, each with the reason given.
func (s *Service) ChooseOption(ctx context.Context, who, id string, revision int, planting string, aside map[string]string) (BlockDoc, error) {
	e, d, err := s.at(Seen(ctx, planting), id)
	if err != nil {
		return BlockDoc{}, err
	}
	if d.Revision != revision {
		return BlockDoc{}, &Stale{d}
	}
	b := d.Block
	if b.Planting == nil {
		return BlockDoc{}, finding.Bad("planting", planting, "is no planting of this block", "the id of one of its options")
	}
	if st := b.Planting.Stage(); st == document.Planted || st == document.Ended {
		return BlockDoc{}, finding.Bad("planting", planting, "stands already, or stood", "a planting that is not in the ground")
	}
	p := *b.Planting
	p.Considered, p.Aside = false, ""
	b.Planting = &p
	plan.Complete(&b, e.Estate, s.find(ctx), s.today())
	if _, err := s.compute(ctx, e.Estate, d.as(b), nil); err != nil {
		return BlockDoc{}, err
	}
	var writes []store.Write
	for _, h := range d.all {
		why, named := aside[h.ID]
		if st := h.Stage(); h.err != nil || h.ID == planting || !named || st == document.Planted || st == document.Ended {
			continue
		}
		if len([]rune(why)) > 500 {
			return BlockDoc{}, finding.Bad("aside", why, "is longer than a reason", "500 characters at most")
		}
		q := h.Planting
		q.Aside = why
		if q.Stage() == document.Planned {
			q.Considered = true
		}
		w, err := plantingWrites(id, q)
		if err != nil {
			return BlockDoc{}, err
		}
		w[0].Revision = h.revision
		writes = append(writes, w[0])
	}
	return s.keep(ctx, who, fmt.Sprintf("Chose %s for %s", s.cropOf(ctx, p), b.Name), d, b, store.Also{}, writes...)
}
