package estate

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/survey"
	"slowroot/internal/formats/boundaries"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/store"
)

// Place reads a position typed in any usual form.
func (s *Service) Place(text string) (geo.Point, error) { return survey.Place(text) }

// besideM is how far from the blocks already there a boundary without a place of its own is put, m.
const besideM = 20.0

// Outline draws a boundary as it was told; it writes nothing. One that says no place is put beside the blocks that are there, or
// where the estate lies.
func (s *Service) Outline(ctx context.Context, o survey.Outline) (survey.Drawn, error) {
	if o.Way != survey.ByPoints && (o.At == geo.Point{}) {
		at, ok := s.middle(ctx)
		if !ok {
			return survey.Drawn{}, finding.Bad("at", "", "says nowhere: the field needs a place on the earth", "a latitude and a longitude, here or in the estate's settings")
		}
		o.At = at
		d, err := survey.Draw(o)
		if err != nil {
			return d, err
		}
		east, err := s.beside(ctx, d.Boundary, at)
		if err != nil {
			return d, err
		}
		o.At = geo.PlaneAt(at).From(geo.XY{X: east})
		if d, err = survey.Draw(o); err == nil && d.Words == "" {
			d.Words = "Its place is not said: it lies beside the others until it is moved."
		}
		return d, err
	}
	return survey.Draw(o)
}

// beside is how far east of a point a boundary drawn there must go to lie clear of every block, m.
func (s *Service) beside(ctx context.Context, boundary geo.Polygon, at geo.Point) (float64, error) {
	docs, err := s.blocks(ctx)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return 0, err
	}
	pl := geo.PlaneAt(at)
	west, reach := math.Inf(1), math.Inf(-1)
	for _, p := range boundary.Outer {
		west = math.Min(west, pl.To(p).X)
	}
	for _, d := range docs {
		for _, p := range d.Block.Boundary.Outer {
			if q := pl.To(p); math.Hypot(q.X, q.Y) < farM {
				reach = math.Max(reach, q.X)
			}
		}
	}
	if math.IsInf(reach, -1) || reach < west {
		return 0, nil
	}
	return reach - west + besideM, nil
}

// ReadBoundaries lists the outlines a file holds, with a doubt about each that lies far from the blocks already here; it writes
// nothing.
func (s *Service) ReadBoundaries(ctx context.Context, file []byte) ([]geojson.Candidate, error) {
	list, err := boundaries.Read(file)
	if err != nil {
		return nil, err
	}
	return list, s.doubt(ctx, list)
}

// Cut is a block cut in two or more along a straight line.
type Cut struct {
	From geo.Point `json:"from"`
	To   geo.Point `json:"to"`
}

// SplitBlock cuts a block along a line. Its largest part keeps the block with its plantings and its record; every other part becomes a
// block of its own with what was found on its ground, the same plantings, and the rows that stand there, by their old numbers.
func (s *Service) SplitBlock(ctx context.Context, who, id string, revision int, cut Cut) ([]BlockDoc, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return nil, err
	}
	if d.Revision != revision {
		return nil, &Stale{d}
	}
	left, right, err := geo.Split(d.Block.Boundary, cut.From, cut.To)
	if err != nil {
		return nil, err
	}
	parts := append(left, right...)
	slices.SortStableFunc(parts, func(a, b geo.Polygon) int { return int(math.Copysign(1, geo.AreaM2(b)-geo.AreaM2(a))) })
	for i, p := range parts {
		if err := geo.Validate(p); err != nil {
			return nil, finding.Bad("line", fmt.Sprintf("part %d", i+1), "cannot be a block: "+err.Error(), "a line that leaves larger parts")
		}
	}
	if err := sumsUp(d.all, parts); err != nil {
		return nil, err
	}
	docs, err := s.blocks(ctx)
	if err != nil {
		return nil, err
	}
	next := 1
	for _, o := range docs {
		next = max(next, o.Block.Number+1)
	}
	var more []store.Write
	ids := []string{id}
	for i, part := range parts[1:] {
		n := BlockDoc{ID: newID(), Revision: 1}
		n.Block, _ = d.Block.Within(part)
		n.Block.Name, n.Block.Number, n.Block.Planting = shortened(d.Block.Name, fmt.Sprintf(" %d", i+2)), next+i, nil
		n.Block.Jobs, n.Block.Samples = nil, nil // they stay with the block that keeps the record of them
		n.Block.Identify(anew)
		for _, h := range d.all {
			p := h.Planting
			p.ID = newID()
			if p.AsPlanted != nil {
				p.AsPlanted = p.AsPlanted.Within(part)
			}
			n.all = append(n.all, held{Planting: p})
		}
		if err := s.stillPlans(ctx, e.Estate, n); err != nil {
			return nil, err
		}
		w, _, err := n.fresh()
		if err != nil {
			return nil, err
		}
		more, ids = append(more, w...), append(ids, n.ID)
	}
	kept := d
	b, drawn := d.Block.Within(parts[0])
	if kept.all, more, err = trimmed(d, parts[0], more, &b); err != nil {
		return nil, err
	}
	kept.Block = b
	if err := s.stillPlans(ctx, e.Estate, kept); err != nil {
		return nil, err
	}
	what := fmt.Sprintf("Cut %s into %d blocks", d.Block.Name, len(parts))
	if drawn {
		what += "; its drains are drawn no more"
	}
	if _, err := s.keep(ctx, who, what, d, b, store.Also{}, more...); err != nil {
		return nil, err
	}
	out := make([]BlockDoc, len(ids))
	for i, id := range ids {
		if out[i], err = s.Block(ctx, id); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// shortened is a name with something behind it that still is a name.
func shortened(name, behind string) string {
	r := []rune(name)
	return string(r[:min(len(r), 80-len([]rune(behind)))]) + behind
}

// sumsUp refuses a cut on which a station of a stand would be lost or counted twice.
func sumsUp(all []held, parts []geo.Polygon) error {
	for _, h := range all {
		if h.AsPlanted == nil {
			continue
		}
		n := 0
		for _, p := range parts {
			n += h.AsPlanted.Within(p).Stations
		}
		if n != h.AsPlanted.Stations {
			return finding.Bad("line", fmt.Sprintf("%d of %d stations", n, h.AsPlanted.Stations), "lie clear of the cut: it runs through stations, or some stand outside the boundary",
				"a line between the rows or the plants")
		}
	}
	return nil
}

// trimmed are the plantings of a block on the part it keeps, with the writes of all but the one it is seen from, which goes with b.
func trimmed(d BlockDoc, part geo.Polygon, writes []store.Write, b *document.Block) ([]held, []store.Write, error) {
	all := slices.Clone(d.all)
	for i, h := range all {
		if h.AsPlanted == nil {
			continue
		}
		all[i].AsPlanted = h.AsPlanted.Within(part)
		if b.Planting != nil && b.Planting.ID == h.ID {
			p := all[i].Planting
			b.Planting = &p
			continue
		}
		w, err := plantingWrites(d.ID, all[i].Planting)
		if err != nil {
			return nil, nil, err
		}
		w[1].Revision = h.rows
		writes = append(writes, w[1])
	}
	return all, writes, nil
}

// stillPlans computes a block from each of its plantings and reports the first that cannot be.
func (s *Service) stillPlans(ctx context.Context, e document.Estate, d BlockDoc) error {
	seen := d.Block.Planting
	for i := range d.all {
		p := d.all[i].Planting
		b := d.Block
		b.Planting = &p
		if err := b.Valid(); err != nil {
			return err
		}
		if _, err := s.compute(ctx, e, d.as(b), nil); err != nil {
			return err
		}
	}
	d.Block.Planting = seen
	if len(d.all) == 0 {
		_, err := s.compute(ctx, e, d, nil)
		return err
	}
	return nil
}

// joinM is how far apart two boundaries of one fence may have been surveyed, m.
const joinM = 3.0

// MergeBlocks joins another block to one: its ground, what was found on it, its plantings, ended or meant, and its record. Two stands
// cannot become one.
func (s *Service) MergeBlocks(ctx context.Context, who, id string, revision int, other string) (BlockDoc, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	if d.Revision != revision {
		return BlockDoc{}, &Stale{d}
	}
	o, err := s.Block(Seen(ctx, ""), other)
	if err != nil {
		return BlockDoc{}, err
	}
	if id == other {
		return BlockDoc{}, finding.Bad("other", d.Block.Name, "is the block itself", "a block beside it")
	}
	standing := func(d BlockDoc) bool {
		return slices.ContainsFunc(d.all, func(h held) bool { return h.err == nil && h.Stage() == document.Planted })
	}
	if standing(o) {
		return BlockDoc{}, finding.Bad("other", o.Block.Name, "carries a stand: its rows cannot become those of another planting",
			fmt.Sprintf("join %s to it instead, or record how its stand ended", d.Block.Name))
	}
	b := d.Block
	if b.Boundary, err = geo.Join(d.Block.Boundary, o.Block.Boundary, joinM); err != nil {
		return BlockDoc{}, err
	}
	b.Pits, b.Tests, b.Uses = append(slices.Clone(b.Pits), o.Block.Pits...), append(slices.Clone(b.Tests), o.Block.Tests...), append(slices.Clone(b.Uses), o.Block.Uses...)
	b.Obstacles = append(slices.Clone(b.Obstacles), o.Block.Obstacles...)
	b.Jobs, b.Samples = append(slices.Clone(b.Jobs), o.Block.Jobs...), append(slices.Clone(b.Samples), o.Block.Samples...)
	if len(o.Block.Growth) > 0 {
		sum := maps.Clone(b.Growth)
		if sum == nil {
			sum = map[string]float64{}
		}
		for class, m3 := range o.Block.Growth {
			sum[class] += m3
		}
		b.Growth = sum
	}
	b.AccuracyM = math.Max(b.AccuracyM, o.Block.AccuracyM)
	if b.Surveyed != o.Block.Surveyed {
		b.Surveyed = shortened(b.Surveyed+"; "+o.Block.Surveyed, "")
	}
	if o.Block.Notes != "" {
		b.Notes = b.Notes + "\n" + o.Block.Name + ": " + o.Block.Notes
	}
	writes := []store.Write{{Kind: store.BlockDoc, ID: other, Revision: o.Revision, Schema: document.BlockForm}}
	var also store.Also
	grown := d
	grown.all = slices.Clone(d.all)
	ids := map[string]string{"": ""}
	for _, h := range o.all {
		if h.err != nil {
			continue
		}
		p := h.Planting
		p.ID = newID()
		ids[h.ID] = p.ID
		w, err := plantingWrites(id, p)
		if err != nil {
			return BlockDoc{}, err
		}
		writes, grown.all = append(writes, w...), append(grown.all, held{Planting: p})
	}
	if len(grown.all) > maxPlantings {
		return BlockDoc{}, finding.Bad("plantings", len(grown.all), "are more plantings than a block holds", fmt.Sprintf("%d at most", maxPlantings))
	}
	if also.Records, err = o.moved(id, ids); err != nil {
		return BlockDoc{}, err
	}
	b.Identify(anew)
	inTime(grown.all)
	if err := s.stillPlans(ctx, e.Estate, grown.as(b)); err != nil {
		return BlockDoc{}, err
	}
	return s.keep(ctx, who, fmt.Sprintf("Joined %s to %s", o.Block.Name, d.Block.Name), d, b, also, writes...)
}

// moved are the records of what goes to another block, told of it.
func (d BlockDoc) moved(to string, plantings map[string]string) ([]store.Entry, error) {
	var out []store.Entry
	own := map[string]string{"": ""}
	for _, r := range d.records {
		planting, ok := plantings[r.Planting]
		if !ok {
			continue
		}
		was := r.ID
		r.ID, r.Block, r.Planting, r.Corrects = newID(), to, planting, own[r.Corrects]
		own[was] = r.ID
		x, err := entryOf(r)
		if err != nil {
			return nil, err
		}
		out = append(out, x)
	}
	return out, nil
}

// DuplicateBlock makes a block like another beside it: its outline and what is planned. What was found and done there stays there.
func (s *Service) DuplicateBlock(ctx context.Context, who, id, name string) (BlockDoc, error) {
	_, d, err := s.at(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	b := d.Block
	at := geo.LocalPlane(b.Boundary)
	from := geo.Point{Lon: at.Lon0, Lat: at.Lat0}
	east, err := s.beside(ctx, b.Boundary, from)
	if err != nil {
		return BlockDoc{}, err
	}
	to := geo.PlaneAt(at.From(geo.XY{X: east}))
	move := func(r geo.Ring) geo.Ring {
		out := make(geo.Ring, len(r))
		for i, p := range r {
			out[i] = to.From(at.To(p))
		}
		return out
	}
	copied := NewBlock{Block: document.Block{Name: name, Surveyed: "copied from " + shortened(b.Name, "") + ", not measured here", Notes: b.Notes}}
	if name == "" {
		copied.Name = shortened(b.Name, " copy")
	}
	copied.Boundary.Outer = move(b.Boundary.Outer)
	for _, h := range b.Boundary.Holes {
		copied.Boundary.Holes = append(copied.Boundary.Holes, move(h))
	}
	if p := b.Planting; p != nil && p.End == nil {
		q := *p
		q.ID, q.AsPlanted, q.Planted, q.AdoptedOn, q.AdoptedBy, q.Baseline, q.BaseDate = "", nil, civil.Date{}, civil.Date{}, "", nil, civil.Date{}
		q.SheetDigest, q.Accepted = "", nil
		if !p.Planted.IsZero() {
			q.Date = civil.Date{} // the next day of its window
		}
		copied.Planting = &q
	}
	docs, err := s.AddBlocks(ctx, who, []NewBlock{copied})
	if err != nil {
		return BlockDoc{}, err
	}
	return docs[0], nil
}
