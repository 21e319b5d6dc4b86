package estate

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"sort"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/plan"
	"slowroot/core/record"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/store"
)

// BlockDoc is a block with the revision it was read at, seen from one of its plantings. Plantings are all of them, in
// order of time.
type BlockDoc struct {
	ID        string          `json:"id"`
	Revision  int             `json:"revision"`
	Block     document.Block  `json:"block"`
	Plantings []PlantingShort `json:"plantings"`
	Err       error           `json:"-"` // why the block cannot be read; among others only

	all     []held
	records []record.Record
}

// held is a planting as it is kept.
type held struct {
	document.Planting
	revision, rows int // of its two documents; 0 is none
	err            error
}

// PlantingShort is a planting in the line of time of its block.
type PlantingShort struct {
	ID    string         `json:"id"`
	Name  string         `json:"name"`
	Sheet string         `json:"sheet"`
	Stage document.Stage `json:"stage"`
	From  civil.Date     `json:"from"`
	To    civil.Date     `json:"to"` // zero while it is open
	How   string         `json:"how"`
	Seen  bool           `json:"seen"` // the block is seen from it
}

type seenKey struct{}

// Seen makes a block be seen from the planting with that id; "" is the one under way.
func Seen(ctx context.Context, planting string) context.Context {
	if planting == "" {
		return ctx
	}
	return context.WithValue(ctx, seenKey{}, planting)
}

func seenIn(ctx context.Context) string {
	id, _ := ctx.Value(seenKey{}).(string)
	return id
}

// under is the planting under way among plantings in order of time: what stands, else what is adopted or planned, else
// what is considered. −1 is none: nothing was ever meant, or everything has ended.
func under(all []held) int {
	best, rank := -1, 0
	for i, h := range all {
		if h.err != nil {
			continue
		}
		r := map[document.Stage]int{document.Considered: 1, document.Planned: 2, document.Adopted: 2, document.Planted: 3}[h.Stage()]
		if r > rank || r == rank && r == 3 { // of two that stand the later, of two that are planned the first
			best, rank = i, r
		}
	}
	return best
}

// see sets the planting the block is seen from. An id that is none of its plantings is store.ErrNotFound.
func (d *BlockDoc) see(id string) error {
	at := under(d.all)
	if id != "" {
		if at = slices.IndexFunc(d.all, func(h held) bool { return h.ID == id }); at < 0 {
			return fmt.Errorf("planting %q: %w", id, store.ErrNotFound)
		}
	}
	d.Block.Planting = nil
	if at >= 0 {
		if err := d.all[at].err; err != nil {
			return err
		}
		p := d.all[at].Planting
		d.Block.Planting = &p
	}
	d.list()
	return nil
}

// list makes the line of time.
func (d *BlockDoc) list() {
	d.Plantings = make([]PlantingShort, 0, len(d.all))
	for _, h := range d.all {
		s := PlantingShort{ID: h.ID, Name: h.Name, Sheet: h.Sheet, Stage: h.Stage(), Seen: d.Block.Planting != nil && h.ID == d.Block.Planting.ID}
		s.From, s.To = h.Span()
		if h.End != nil {
			s.How = h.End.How
		}
		d.Plantings = append(d.Plantings, s)
	}
}

// inTime puts plantings into the order of their days.
func inTime(all []held) {
	sort.SliceStable(all, func(i, j int) bool { return all[i].Standing().Before(all[j].Standing()) })
}

// gather reads what is kept of some blocks into their documents.
func gather(blocks, plantings, rows []store.Doc, entries []store.Entry) []BlockDoc {
	out := make([]BlockDoc, len(blocks))
	at := map[string]*BlockDoc{}
	for i, d := range blocks {
		out[i] = BlockDoc{ID: d.ID, Revision: d.Revision, Err: d.Err}
		if err := decode(d.Body, &out[i].Block); err != nil && d.Err == nil { // what is not known is never dropped
			out[i].Err = fmt.Errorf("%w: %v", store.ErrDamaged, err)
		}
		at[d.ID] = &out[i]
	}
	fixed := map[string]store.Doc{}
	for _, r := range rows {
		fixed[r.ID] = r
	}
	for _, p := range plantings {
		b := at[p.Parent]
		if b == nil {
			continue // of a block that is removed
		}
		h := held{revision: p.Revision, err: p.Err}
		if err := decode(p.Body, &h.Planting); err != nil && h.err == nil {
			h.err = fmt.Errorf("%w: %v", store.ErrDamaged, err)
		}
		if r, ok := fixed[p.ID]; ok {
			h.rows = r.Revision
			if err := errors.Join(r.Err, json.Unmarshal(r.Body, &h.AsPlanted)); err != nil && h.err == nil {
				h.err = fmt.Errorf("the rows as planted: %w", err)
			}
		}
		h.ID = p.ID
		b.all = append(b.all, h)
	}
	for _, e := range entries {
		b := at[e.Block]
		if b == nil {
			continue
		}
		r, err := recordOf(e)
		if err != nil {
			b.Err = fmt.Errorf("%w: record %s: %v", store.ErrDamaged, e.ID, err)
			continue
		}
		b.records = append(b.records, r)
	}
	for i := range out {
		inTime(out[i].all)
	}
	return out
}

func (s *Service) blocks(ctx context.Context) ([]BlockDoc, error) {
	blocks, err := s.store.All(ctx, store.BlockDoc)
	if err != nil {
		return nil, err
	}
	plantings, err := s.store.All(ctx, store.PlantingDoc)
	if err != nil {
		return nil, err
	}
	rows, err := s.store.All(ctx, store.RowsDoc)
	if err != nil {
		return nil, err
	}
	entries, err := s.store.Records(ctx, "")
	if err != nil {
		return nil, err
	}
	out := gather(blocks, plantings, rows, entries)
	for i := range out {
		if err := out[i].see(""); err != nil && out[i].Err == nil {
			out[i].Err = err
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Block.Number < out[j].Block.Number })
	return out, nil
}

// Blocks are all blocks that can be read, by number.
func (s *Service) Blocks(ctx context.Context) ([]BlockDoc, error) {
	docs, err := s.blocks(ctx)
	return slices.DeleteFunc(docs, func(d BlockDoc) bool { return d.Err != nil }), err
}

// Block is one block, seen from the planting Seen says.
func (s *Service) Block(ctx context.Context, id string) (BlockDoc, error) {
	b, err := s.store.Block(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	plantings, err := s.store.Of(ctx, store.PlantingDoc, id)
	if err != nil {
		return BlockDoc{}, err
	}
	rows, err := s.store.Of(ctx, store.RowsDoc, id)
	if err != nil {
		return BlockDoc{}, err
	}
	entries, err := s.store.Records(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	d := gather([]store.Doc{b}, plantings, rows, entries)[0]
	if d.Err == nil {
		d.Err = d.see(seenIn(ctx))
	}
	return d, d.Err
}

// writes are what keeps d as the block b, seen from b's planting: a planting that is new, changed or taken off, and
// always the block, by whose revision everything of it is held.
func (d BlockDoc) writes(b document.Block) ([]store.Write, error) {
	seen := b.Planting
	b.Planting = nil
	body, err := json.Marshal(b)
	if err != nil {
		return nil, err
	}
	out := []store.Write{{Kind: store.BlockDoc, ID: d.ID, Revision: d.Revision, Body: body, Schema: document.BlockForm}}
	was := ""
	if d.Block.Planting != nil {
		was = d.Block.Planting.ID
	}
	if seen == nil && was == "" {
		return out, nil
	}
	id := was
	if seen != nil && seen.ID != "" {
		id = seen.ID
	}
	var h held
	if i := slices.IndexFunc(d.all, func(h held) bool { return h.ID == id }); i >= 0 {
		h = d.all[i]
	}
	next := []store.Write{{Kind: store.PlantingDoc, ID: id, Parent: d.ID}, {Kind: store.RowsDoc, ID: id, Parent: d.ID}}
	if seen != nil {
		if next, err = plantingWrites(d.ID, *seen); err != nil {
			return nil, err
		}
	}
	now, err := plantingWrites(d.ID, h.Planting)
	if err != nil {
		return nil, err
	}
	for i, revision := range []int{h.revision, h.rows} {
		if w := next[i]; revision > 0 && bytes.Equal(w.Body, now[i].Body) || revision == 0 && w.Body == nil {
			continue
		} else {
			w.Revision = revision
			out = append(out, w)
		}
	}
	return out, nil
}

// keep writes a block as b and reads it back.
func (s *Service) keep(ctx context.Context, who, what string, d BlockDoc, b document.Block, also store.Also, more ...store.Write) (BlockDoc, error) {
	if b.Planting != nil && b.Planting.ID == "" {
		p := *b.Planting
		p.ID = newID()
		b.Planting = &p
	}
	b.Identify(anew)
	writes, err := d.writes(b)
	if err != nil {
		return BlockDoc{}, err
	}
	if _, err := s.store.ApplyWith(ctx, who, what, also, append(writes, more...)...); err != nil {
		return BlockDoc{}, s.stale(ctx, d.ID, err)
	}
	if b.Planting != nil {
		ctx = Seen(ctx, b.Planting.ID)
	} else {
		ctx = context.WithValue(ctx, seenKey{}, "")
	}
	return s.Block(ctx, d.ID)
}

// anew is an id nothing else has.
func anew(string, int) string { return newID() }

// stale adds the current state to a write that lost a race.
func (s *Service) stale(ctx context.Context, id string, err error) error {
	if !errors.Is(err, store.ErrStale) {
		return err
	}
	now, readErr := s.Block(ctx, id)
	if readErr != nil {
		return readErr
	}
	return &Stale{now}
}

// Whole is the block with its plantings and records, as it is written to a file.
func (d BlockDoc) Whole() geojson.Whole {
	w := geojson.Whole{ID: d.ID, Block: d.Block, Records: d.records}
	for _, h := range d.all {
		if h.err == nil {
			w.Plantings = append(w.Plantings, h.Planting)
		}
	}
	return w
}

// before is what stood on the block and ended before the planting it is seen from.
func (s *Service) before(ctx context.Context, d BlockDoc) []plan.Stood {
	var out []plan.Stood
	find := s.find(ctx)
	for _, h := range d.all {
		if h.err != nil || h.End == nil || d.Block.Planting != nil && h.ID == d.Block.Planting.ID {
			continue
		}
		st := plan.Stood{Sheet: h.Sheet, Name: h.Name, End: h.End.On}
		if sheet, ok := find(h.Sheet); ok {
			st.Sheet, st.Woody = sheet.Crop(), sheet.Woody
			if st.Name == "" {
				st.Name = sheet.Name
			}
		}
		out = append(out, st)
	}
	return out
}
