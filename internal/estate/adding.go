package estate

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/internal/store"
)

// NewBlock is a block to be added, with the plantings it had and has and what was recorded of them. Ids in it are its
// own and only join its parts; it gets new ones.
type NewBlock struct {
	document.Block
	Plantings []document.Planting `json:"plantings,omitempty"`
	Records   []record.Record     `json:"records,omitempty"`
}

// AddBlocks adds blocks as one change.
func (s *Service) AddBlocks(ctx context.Context, who string, blocks []NewBlock) ([]BlockDoc, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return nil, err
	}
	if len(blocks) == 0 || len(blocks) > 1000 {
		return nil, finding.Bad("blocks", len(blocks), "is not a number of blocks to add", "1 to 1000")
	}
	next := 1
	if docs, err := s.blocks(ctx); err == nil {
		for _, d := range docs {
			next = max(next, d.Block.Number+1)
		}
	}
	var writes []store.Write
	var also store.Also
	out := make([]BlockDoc, len(blocks))
	for i, b := range blocks {
		if b.Number == 0 {
			b.Number = next
			next++
		}
		if out[i], err = s.prepare(ctx, e.Estate, who, b); err != nil {
			return nil, fmt.Errorf("block %q: %w", b.Name, err)
		}
		w, entries, err := out[i].fresh()
		if err != nil {
			return nil, err
		}
		writes, also.Records = append(writes, w...), append(also.Records, entries...)
	}
	what := "Added " + blocks[0].Name
	if len(blocks) > 1 {
		what = fmt.Sprintf("Added %d blocks", len(blocks))
	}
	_, err = s.store.ApplyWith(ctx, who, what, also, writes...)
	return out, err
}

// fresh are the documents and records of a block that is not kept yet.
func (d BlockDoc) fresh() ([]store.Write, []store.Entry, error) {
	b := d.Block
	b.Planting = nil
	body, err := json.Marshal(b)
	if err != nil {
		return nil, nil, err
	}
	writes := []store.Write{{Kind: store.BlockDoc, ID: d.ID, Body: body, Schema: document.BlockForm}}
	for _, h := range d.all {
		w, err := plantingWrites(d.ID, h.Planting)
		if err != nil {
			return nil, nil, err
		}
		for _, x := range w {
			if x.Body != nil {
				writes = append(writes, x)
			}
		}
	}
	entries := make([]store.Entry, len(d.records))
	for i, r := range d.records {
		if entries[i], err = entryOf(r); err != nil {
			return nil, nil, err
		}
	}
	return writes, entries, nil
}

// prepare checks a block that comes from outside, gives it ids, and fixes the layout of what is said to be planted.
func (s *Service) prepare(ctx context.Context, e document.Estate, who string, n NewBlock) (BlockDoc, error) {
	d := BlockDoc{ID: newID(), Revision: 1, Block: n.Block}
	list := n.Plantings
	if n.Planting != nil {
		list = append(list[:len(list):len(list)], *n.Planting)
	}
	if len(list) > maxPlantings {
		return d, finding.Bad("plantings", len(list), "are more plantings than a block holds", fmt.Sprintf("%d at most", maxPlantings))
	}
	d.Block.Planting = nil
	d.Block.Identify(anew)
	if err := d.Block.Valid(); err != nil {
		return d, err
	}
	ids := map[string]string{"": ""}
	for i, p := range list {
		id := newID()
		if p.ID != "" {
			ids[p.ID] = id
		} else if len(list) == 1 {
			ids[""] = id // records of the only planting need not name it
		}
		p.ID = id
		list[i] = p
	}
	if err := d.take(n.Records, ids, s.today()); err != nil {
		return d, err
	}
	for _, p := range list {
		d.all = append(d.all, held{Planting: p})
	}
	for i := range d.all {
		if err := s.settle(ctx, e, who, &d, i); err != nil {
			return d, err
		}
	}
	inTime(d.all)
	if err := d.see(""); err != nil {
		return d, err
	}
	_, err := s.compute(ctx, e, d, nil)
	return d, err
}

// take makes a file's records the block's own.
func (d *BlockDoc) take(records []record.Record, plantings map[string]string, today civil.Date) error {
	own := map[string]string{"": ""}
	for i, r := range records {
		id, ok := plantings[r.Planting]
		if !ok {
			return finding.Bad(fmt.Sprintf("records[%d].planting", i), r.Planting, "is no planting of this block", "the id of one of its plantings, or nothing")
		}
		corrects, ok := own[r.Corrects]
		if !ok {
			return finding.Bad(fmt.Sprintf("records[%d].corrects", i), r.Corrects, "is no record before this one", "the id of an earlier record")
		}
		was := r.ID
		r.ID, r.Block, r.Planting, r.Corrects = fmt.Sprintf("%s.%d", d.ID, i+1), d.ID, id, corrects
		if err := r.Valid(today); err != nil {
			return fmt.Errorf("record %d: %w", i+1, err)
		}
		if was != "" {
			own[was] = r.ID
		}
		d.records = append(d.records, r)
	}
	return nil
}

// settle completes planting i: its day, who chose, and the rows of one that stands.
func (s *Service) settle(ctx context.Context, e document.Estate, who string, d *BlockDoc, i int) error {
	p := d.all[i].Planting
	b := d.Block
	b.Planting = &p
	plan.Complete(&b, e, s.find(ctx), s.today())
	fix, planted, end := !p.Planted.IsZero() && p.AsPlanted == nil, p.Planted, p.End
	if fix {
		p.Planted, p.End = civil.Date{}, nil
	}
	s.sign(&p, who)
	got, err := s.compute(ctx, e, d.as(b), nil)
	if err != nil {
		return err
	}
	if fix {
		p.AsPlanted, p.Planted, p.End = got.Fix(got.Choices[practice.LayoutFork]), planted, end
		_, err = s.compute(ctx, e, d.as(b), nil)
	}
	d.all[i].Planting = p
	return errors.Join(err, b.Valid())
}
