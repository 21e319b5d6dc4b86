package estate

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan"
	"slowroot/core/record"
	"slowroot/internal/store"
)

// Record keeps records of a block, all or none. One that is kept already is no change. They stand outside undo: a later
// record corrects or withdraws an earlier one.
func (s *Service) Record(ctx context.Context, who, block string, records []record.Record) ([]record.Record, error) {
	d, err := s.Block(ctx, block)
	if err != nil {
		return nil, err
	}
	if len(records) == 0 || len(records) > 1000 {
		return nil, finding.Bad("records", len(records), "is not a number of records to keep", "1 to 1000")
	}
	entries := make([]store.Entry, len(records))
	for i, r := range records {
		r.Block = block
		if r.Who == "" {
			r.Who = who
		}
		if err := s.fits(d, r, records[:i]); err != nil {
			return nil, err
		}
		if entries[i], err = entryOf(r); err != nil {
			return nil, err
		}
	}
	if _, err := s.store.Append(ctx, entries...); err != nil {
		return nil, err
	}
	now, err := s.Block(ctx, block)
	return now.records, err
}

// fits refuses a record that belongs to nothing of the block.
func (s *Service) fits(d BlockDoc, r record.Record, also []record.Record) error {
	if err := r.Valid(s.today()); err != nil {
		return err
	}
	if r.Planting != "" && !slices.ContainsFunc(d.all, func(h held) bool { return h.ID == r.Planting }) {
		return finding.Bad("planting", r.Planting, "is no planting of this block", "the id of one, or nothing for the ground itself")
	}
	if r.Corrects != "" && !slices.ContainsFunc(append(slices.Clone(d.records), also...), func(o record.Record) bool { return o.ID == r.Corrects }) {
		return finding.Bad("corrects", r.Corrects, "is no record of this block", "the id of a record that is kept")
	}
	return nil
}

// Records are those of a block, in the order they were written, with those that were corrected or withdrawn since.
func (s *Service) Records(ctx context.Context, block string) ([]record.Record, error) {
	d, err := s.Block(ctx, block)
	if d.records == nil {
		d.records = []record.Record{}
	}
	return d.records, err
}

// AddPlanting begins a further planting of a block: considered, or planned. What is under way stays.
func (s *Service) AddPlanting(ctx context.Context, who, id string, revision int, p document.Planting) (BlockDoc, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return BlockDoc{}, err
	}
	d, err := s.Block(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	if d.Revision != revision {
		return BlockDoc{}, &Stale{d}
	}
	if len(d.all) >= maxPlantings {
		return BlockDoc{}, finding.Bad("plantings", len(d.all), "are more plantings than a block holds", fmt.Sprintf("%d at most", maxPlantings))
	}
	if p.ID != "" || p.SheetDigest != "" || p.AsPlanted != nil || !p.Planted.IsZero() || !p.AdoptedOn.IsZero() || p.End != nil || len(p.Baseline) > 0 {
		return BlockDoc{}, finding.Bad("planting", p.Sheet, "begins considered or planned", "a sheet, a day and a name; adopting, planting and ending are commands of their own")
	}
	p.ID = newID()
	b := d.Block
	b.Planting = &p
	s.sign(&p, who)
	plan.Complete(&b, e.Estate, s.find(ctx), s.today())
	trial := d
	trial.all = append(slices.Clone(d.all), held{Planting: p})
	if _, err := s.compute(ctx, e.Estate, trial.as(b), nil); err != nil {
		return BlockDoc{}, err
	}
	if err := b.Valid(); err != nil {
		return BlockDoc{}, err
	}
	return s.keep(ctx, who, fmt.Sprintf("%s %s on %s", map[bool]string{true: "Considered", false: "Planned"}[p.Considered], s.cropOf(ctx, p), b.Name), d, b, store.Also{})
}

// maxPlantings is how many plantings a block holds.
const maxPlantings = 60

func (s *Service) cropOf(ctx context.Context, p document.Planting) string {
	if p.Name != "" {
		return p.Name
	}
	if sheet, ok := s.find(ctx)(p.Sheet); ok {
		return strings.ToLower(sheet.Name)
	}
	return p.Sheet
}

// EndPlanting records how the stand a block is seen from ended.
func (s *Service) EndPlanting(ctx context.Context, who, id string, revision int, end document.End) (BlockDoc, error) {
	return s.change(ctx, who, id, revision, func(d BlockDoc) (document.Block, string, error) {
		b := d.Block
		switch {
		case b.Planting == nil:
			return b, "", finding.Bad("planting", "none", "nothing stands here to end", "a planting that stands")
		case b.Planting.Planted.IsZero():
			return b, "", finding.Bad("planting", b.Planting.Sheet, "was never planted", "take the crop off instead")
		case b.Planting.End != nil:
			return b, "", finding.Bad("planting", b.Planting.End.On, "ended already", "undo that first")
		case end.On.IsZero() || end.On.After(s.today()):
			return b, "", finding.Bad("on", end.On, "is not a day it can have ended on", "a day up to "+s.today().Words())
		}
		if end.By == "" {
			end.By = who
		}
		p := *b.Planting
		p.End = &end
		b.Planting = &p
		return b, fmt.Sprintf("Ended %s on %s: %s", s.cropOf(ctx, p), b.Name, end.How), b.Valid()
	})
}
