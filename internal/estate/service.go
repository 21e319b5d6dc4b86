// Package estate is the use cases: load inputs, compute, preview, change with history, undo, adopt and
// record. The server and the command line both stand on it.
package estate

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"sort"
	"strings"
	"sync/atomic"
	"time"

	jsonpatch "github.com/evanphx/json-patch/v5"

	"slowroot/core/calc"
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/core/working"
	"slowroot/internal/store"
)

// EstateDoc is the estate with the revision it was read at.
type EstateDoc struct {
	Revision int             `json:"revision"`
	Estate   document.Estate `json:"estate"`
}

// Stale is a write made from an old revision; Current is what stands now (an EstateDoc or BlockDoc).
type Stale struct{ Current any }

func (e *Stale) Error() string { return store.ErrStale.Error() }
func (e *Stale) Unwrap() error { return store.ErrStale }

// Service is an open estate.
type Service struct {
	store   *store.Store
	sheets  *practice.Library // that ship with the program
	only    bool              // they are all there are: of a service that tries something
	calcs   *calc.Registry
	today   func() civil.Date
	memory  memory
	longest time.Duration     // of one computation
	files   map[string]string // long records about to be kept, by digest
	// stationReads counts readings of the weather station that brought something.
	stationReads atomic.Int64
}

// New joins a store with the library of sheets. today is the day plans are seen from.
func New(s *store.Store, sheets *practice.Library, today func() civil.Date) *Service {
	return &Service{store: s, sheets: sheets, calcs: calc.New(sheets), today: today, longest: longest}
}

// Today is the day plans are seen from.
func (s *Service) Today() civil.Date { return s.today() }

// Sheets and Calculators are the libraries behind the service.
func (s *Service) Sheets(ctx context.Context) []*practice.Sheet {
	l, err := s.library(ctx)
	if err != nil {
		l = s.sheets
	}
	d, err := s.Estate(ctx)
	if err != nil { // before an estate is begun they speak metric
		return l.All()
	}
	return l.In(d.Estate.Units).All()
}
func (s *Service) Calculators() *calc.Registry { return s.calcs }

// Estate is the estate, store.ErrNotFound before one is begun.
func (s *Service) Estate(ctx context.Context) (EstateDoc, error) {
	d, err := s.store.Estate(ctx)
	if err != nil {
		return EstateDoc{}, err
	}
	out := EstateDoc{Revision: d.Revision}
	return out, json.Unmarshal(d.Body, &out.Estate)
}

// Begin starts an empty estate with the season windows proposed for its hemisphere.
func (s *Service) Begin(ctx context.Context, name, place string, u units.System, south bool, person string, at *geo.Point) (EstateDoc, error) {
	e := document.Estate{Name: strings.TrimSpace(name), Place: place, At: at, Units: u, Seasons: schedule.Temperate(south),
		People: []document.Person{}, Climate: []document.Month{}}
	if person = strings.TrimSpace(person); person != "" {
		e.People = append(e.People, document.Person{Name: person, Role: "manager"})
	}
	d, err := s.putEstate(ctx, person, "Began the estate "+e.Name, EstateDoc{}, e)
	if errors.Is(err, store.ErrStale) {
		err = begunAlready(e.Name)
	}
	return d, err
}

func begunAlready(name string) error {
	return finding.Bad("estate", name, "an estate is begun here already", "an empty data folder")
}

// putEstate writes an estate made from what stood, with long records where it names new ones. It is refused when a block
// that could be planned before could not be planned any more.
func (s *Service) putEstate(ctx context.Context, who, what string, was EstateDoc, e document.Estate, files ...store.File) (EstateDoc, error) {
	if err := e.Valid(); err != nil {
		return EstateDoc{}, err
	}
	if e.People == nil { // taken away whole, they are none
		e.People = []document.Person{}
	}
	if e.Climate == nil {
		e.Climate = []document.Month{}
	}
	e.Identify(anew)
	if err := s.stillComputes(ctx, was.Estate, e, files); err != nil {
		return EstateDoc{}, err
	}
	body, err := json.Marshal(e)
	if err != nil {
		return EstateDoc{}, err
	}
	docs, err := s.store.ApplyWith(ctx, who, what, store.Also{Files: files}, store.Write{Kind: store.EstateDoc, Revision: was.Revision, Body: body, Schema: document.EstateForm})
	if errors.Is(err, store.ErrStale) {
		now, readErr := s.Estate(ctx)
		if readErr != nil {
			return EstateDoc{}, readErr
		}
		return EstateDoc{}, &Stale{now}
	}
	if err != nil {
		return EstateDoc{}, err
	}
	return EstateDoc{docs[0].Revision, e}, nil
}

// stillComputes plans every block under the estate as it would be. A block that cannot be planned is no reason when it
// could not be planned before either.
func (s *Service) stillComputes(ctx context.Context, was, will document.Estate, files []store.File) error {
	if bearing(was) == bearing(will) {
		return nil
	}
	docs, err := s.blocks(ctx)
	if err != nil {
		return err
	}
	arriving := s.arriving(files)
	for _, d := range docs {
		if d.Err != nil {
			continue
		}
		if _, err := arriving.brief(ctx, will, d); err == nil || ctx.Err() != nil {
			continue
		} else if _, before := s.brief(ctx, was, d); before == nil {
			return fmt.Errorf("with it %s could not be planned: %w", d.Block.Name, err)
		}
	}
	return ctx.Err()
}

// bearing is what of an estate its plans rest on, as a text to compare: names, people, addresses and prices break none.
func bearing(e document.Estate) string {
	e.Name, e.Place, e.People, e.Station, e.Laboratory, e.Currency, e.Prices, e.Labs = "", "", nil, "", "", "", nil, nil
	text, _ := json.Marshal(e) // plain values always encode
	return string(text)
}

// ChangeEstate applies a merge patch made from a revision.
func (s *Service) ChangeEstate(ctx context.Context, who string, revision int, patch []byte) (EstateDoc, error) {
	d, err := s.Estate(ctx)
	if err != nil {
		return EstateDoc{}, err
	}
	if d.Revision != revision {
		return EstateDoc{}, &Stale{d}
	}
	var e document.Estate
	if err := merge(d.Estate, patch, &e); err != nil {
		return EstateDoc{}, err
	}
	return s.putEstate(ctx, who, "Changed "+said(patch)+" of the estate", d, e)
}

// merge applies an RFC 7396 merge patch to a value and refuses fields that do not exist.
func merge(v any, patch []byte, to any) error {
	doc, err := json.Marshal(v)
	if err != nil {
		return err
	}
	if trimmed := strings.TrimLeft(string(patch), " \t\r\n"); !strings.HasPrefix(trimmed, "{") {
		return finding.Bad("body", short(patch), "is not a merge patch", "a JSON object with the fields to change")
	}
	out, err := jsonpatch.MergePatch(doc, patch)
	if err != nil {
		return finding.Bad("body", short(patch), "is not a merge patch: "+err.Error(), "a JSON object with the fields to change")
	}
	return decode(out, to)
}

// decode reads JSON strictly, turning what does not fit into a FieldError.
func decode(text []byte, to any) error {
	if trimmed := strings.TrimLeft(string(text), " \t\r\n"); !strings.HasPrefix(trimmed, "{") {
		return finding.Bad("body", short(text), "is not an object", "a JSON object with the fields to change")
	}
	dec := json.NewDecoder(strings.NewReader(string(text)))
	dec.DisallowUnknownFields()
	err := dec.Decode(to)
	if err == nil {
		if _, more := dec.Token(); !errors.Is(more, io.EOF) {
			return finding.Bad("body", "", "holds something behind its end", "one JSON object")
		}
	}
	var typ *json.UnmarshalTypeError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &typ) && typ.Field == "":
		return finding.Bad("body", typ.Value, "is not an object", "a JSON object with the fields to change")
	case errors.As(err, &typ):
		return finding.Bad(typ.Field, typ.Value, "is not of the right kind", typ.Type.String())
	}
	return finding.Bad("body", "", strings.TrimPrefix(err.Error(), "json: "), "the fields of the contract, dates written YYYY-MM-DD")
}

func short(b []byte) string {
	if len(b) > 60 {
		return string(b[:60]) + "…"
	}
	return string(b)
}

// said names what a patch changes, in words for the history.
func said(patch []byte) string {
	var m map[string]any
	if json.Unmarshal(patch, &m) != nil {
		return "something"
	}
	words := map[string]string{"date": "the planting date", "choices": "the way at a fork", "layout": "the spacing", "accepted": "a note",
		"boundary": "the boundary", "planting": "the planting", "sheet": "the crop", "survival": "the survival expected", "sheetDigest": "the sheet's version",
		"pits": "the pits", "tests": "the soil tests", "answers": "an answer about the site", "uses": "what grew before", "works": "the works on the soil", "decided": "the way at a fork",
		"checks": "the inspection list", "growth": "what is to be cleared", "keep": "a note", "samples": "the samples", "drains": "the drains", "prices": "the prices", "materials": "the materials", "heights": "the heights", "barriers": "the barriers", "climate": "the climate"}
	var out []string
	var walk func(m map[string]any)
	walk = func(m map[string]any) {
		for k, v := range m {
			if inner, ok := v.(map[string]any); ok && k == "planting" && inner["sheet"] == nil {
				walk(inner)
				continue
			}
			w := words[k]
			if w == "" {
				w = k
			}
			out = append(out, w)
		}
	}
	walk(m)
	sort.Strings(out)
	if len(out) == 0 {
		return "nothing"
	}
	return strings.Join(out, ", ")
}

func newID() string {
	var b [8]byte
	_, _ = rand.Read(b[:]) // never fails: crypto/rand
	return hex.EncodeToString(b[:])
}

// sign fills in who made a choice and when, where the caller left it out.
func (s *Service) sign(p *document.Planting, who string) {
	for k, c := range p.Choices {
		if c.By == "" {
			c.By = who
		}
		if c.On.IsZero() {
			c.On = s.today()
		}
		p.Choices[k] = c
	}
}

// ChangeBlock applies a merge patch made from a revision. What adoption and planting fixed is changed
// only by their own commands.
func (s *Service) ChangeBlock(ctx context.Context, who, id string, revision int, patch []byte) (BlockDoc, error) {
	return s.change(ctx, who, id, revision, func(d BlockDoc) (document.Block, string, error) {
		b, err := s.patched(ctx, who, d, patch)
		return b, "Changed " + said(patch) + " of " + d.Block.Name, err
	})
}

func (s *Service) patched(ctx context.Context, who string, d BlockDoc, patch []byte) (document.Block, error) {
	var b document.Block
	if err := merge(d.Block, patch, &b); err != nil {
		return b, err
	}
	if err := fixed(d.Block.Planting, b.Planting); err != nil {
		return b, err
	}
	if b.Planting != nil {
		s.sign(b.Planting, who)
	}
	e, err := s.Estate(ctx)
	if err != nil {
		return b, err
	}
	plan.Complete(&b, e.Estate, s.find(ctx), s.today())
	_, err = s.compute(ctx, e.Estate, d.as(b), nil)
	return b, err
}

// as is the block as it would be: b in the place of its own.
func (d BlockDoc) as(b document.Block) BlockDoc {
	d.Block = b
	return d
}

// fixed refuses to change by hand what adoption and planting recorded.
func fixed(was, is *document.Planting) error {
	if was == nil {
		was = &document.Planting{}
	}
	if is == nil {
		if was.AsPlanted != nil {
			return finding.Bad("planting", "none", "plants stand, or stood, in the ground here", "record how the stand ended, or undo the record of planting")
		}
		return nil
	}
	a, _ := json.Marshal([]any{was.ID, was.AsPlanted, was.Planted, was.Baseline, was.AdoptedOn, was.AdoptedBy, was.BaseDate, was.End})
	b, _ := json.Marshal([]any{is.ID, is.AsPlanted, is.Planted, is.Baseline, is.AdoptedOn, is.AdoptedBy, is.BaseDate, is.End})
	if string(a) != string(b) {
		return finding.Bad("planting", "adopted or planted", "was fixed when the plan was adopted or the planting recorded", "use adopt, record as planted, end, or undo")
	}
	if was.AsPlanted != nil && was.Sheet != is.Sheet {
		return finding.Bad("planting.sheet", is.Sheet, "another crop stands in the ground here", was.Sheet)
	}
	return nil
}

// change reads, changes and writes one block at a revision.
func (s *Service) change(ctx context.Context, who, id string, revision int, f func(BlockDoc) (document.Block, string, error)) (BlockDoc, error) {
	d, err := s.Block(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	if d.Revision != revision {
		return BlockDoc{}, &Stale{d}
	}
	b, what, err := f(d)
	if err != nil {
		return BlockDoc{}, err
	}
	return s.keep(ctx, who, what, d, b, store.Also{})
}

// RemoveBlock removes a block; undo brings it back.
func (s *Service) RemoveBlock(ctx context.Context, who, id string, revision int) error {
	d, err := s.Block(ctx, id)
	if err != nil {
		return err
	}
	_, err = s.store.Apply(ctx, who, "Removed "+d.Block.Name, store.Write{Kind: store.BlockDoc, ID: id, Revision: revision, Schema: document.BlockForm})
	return s.stale(ctx, id, err)
}

// compute makes the plan with the sheet the planting holds to.
func (s *Service) compute(ctx context.Context, e document.Estate, d BlockDoc, tr *working.Trace) (*plan.Plan, error) {
	in, err := s.input(ctx, e, d)
	if err != nil {
		return nil, err
	}
	return plan.Compute(in, tr)
}

// brief is compute for the plans of many blocks at once.
func (s *Service) brief(ctx context.Context, e document.Estate, d BlockDoc) (*plan.Plan, error) {
	in, err := s.input(ctx, e, d)
	if err != nil {
		return nil, err
	}
	in.Brief = true
	return plan.Compute(in, nil)
}

func (s *Service) input(ctx context.Context, e document.Estate, d BlockDoc) (plan.Input, error) {
	b := d.Block
	in := plan.Input{Estate: e, BlockID: d.ID, Block: b, Today: s.today(), Records: d.records, Before: s.before(ctx, d), Memory: &s.memory}
	if err := s.ground(ctx, &in); err != nil {
		return in, err
	}
	in.Stop = s.patience(ctx) // of the plan; reading the ground has its own
	if b.Planting == nil {
		return in, nil
	}
	if b.Planting.Date.IsZero() {
		return in, finding.Bad("planting.date", "", "a planting needs the day it is planted or would be", "a day written YYYY-MM-DD")
	}
	sheet, err := s.sheetIn(ctx, b.Planting.Sheet, e.Units)
	if err != nil {
		return in, err
	}
	in.Sheet = sheet
	for _, c := range b.Planting.Companions {
		if c.Sheet == "" || in.Beside[c.Sheet] != nil {
			continue
		}
		beside, err := s.sheetIn(ctx, c.Sheet, e.Units)
		if err != nil {
			return in, err
		}
		if beside == nil {
			return in, finding.Bad("planting.companions.sheet", c.Sheet, "is not a practice sheet of the library", "a sheet from the list of sheets, or a name without one")
		}
		if in.Beside == nil {
			in.Beside = map[string]*practice.Sheet{}
		}
		in.Beside[c.Sheet] = beside
	}
	if in.Sheet == nil && b.Planting.SheetDigest == "" {
		return in, finding.Bad("planting.sheet", b.Planting.Sheet, "is not a practice sheet of the library", "a sheet from the list of sheets")
	}
	if dg := b.Planting.SheetDigest; dg != "" && (in.Sheet == nil || in.Sheet.Digest != dg) {
		text, err := s.store.SheetCopy(ctx, dg)
		if errors.Is(err, store.ErrNotFound) {
			return in, finding.Bad("planting.sheetDigest", dg, "is a version of the sheet that is not kept here", "leave it out to take the library's")
		}
		if err != nil {
			return in, err
		}
		kept, err := practice.Kept(text)
		if err != nil {
			return in, fmt.Errorf("reading the sheet kept at adoption: %w", err)
		}
		in.NewSheet, in.Sheet = in.Sheet, kept.In(e.Units)
	}
	return in, nil
}

// at loads what a computation of one block needs.
func (s *Service) at(ctx context.Context, id string) (EstateDoc, BlockDoc, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return e, BlockDoc{}, err
	}
	d, err := s.Block(ctx, id)
	return e, d, err
}

// Plan is the plan of a block.
func (s *Service) Plan(ctx context.Context, id string) (*plan.Plan, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return nil, err
	}
	return s.compute(ctx, e.Estate, d, nil)
}

// Preview is the plan as it would be with a merge patch. It writes nothing.
func (s *Service) Preview(ctx context.Context, id string, patch []byte) (*plan.Plan, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return nil, err
	}
	var b document.Block
	if err := merge(d.Block, patch, &b); err != nil {
		return nil, err
	}
	plan.Complete(&b, e.Estate, s.find(ctx), s.today())
	return s.compute(ctx, e.Estate, d.as(b), nil)
}

// Forks are the places where practice divides, each way computed for this block.
func (s *Service) Forks(ctx context.Context, id string) ([]report.Fork, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return nil, err
	}
	in, err := s.input(ctx, e.Estate, d)
	if err != nil {
		return nil, err
	}
	return plan.Forks(in)
}

// Working is the working of one figure; a path without any is store.ErrNotFound.
func (s *Service) Working(ctx context.Context, id, figure string) ([]working.Step, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return nil, err
	}
	tr := &working.Trace{Want: figure}
	if _, err := s.compute(ctx, e.Estate, d, tr); err != nil {
		return nil, err
	}
	if len(tr.Steps) == 0 {
		return nil, fmt.Errorf("figure %q: %w", figure, store.ErrNotFound)
	}
	return tr.Steps, nil
}

// Adopt accepts the plan: the dates of its jobs become the baseline and the sheet is kept as it is.
func (s *Service) Adopt(ctx context.Context, who, id string, revision int) (BlockDoc, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return BlockDoc{}, err
	}
	return s.change(ctx, who, id, revision, func(d BlockDoc) (document.Block, string, error) {
		b := d.Block
		if b.Planting == nil || b.Planting.Considered {
			return b, "", finding.Bad("planting", "none", "there is no plan to adopt", "choose a crop first")
		}
		if b.Planting.AsPlanted != nil {
			return b, "", finding.Bad("planting", b.Planting.Sheet, "stands already", "a plan that is not planted yet")
		}
		got, err := s.compute(ctx, e.Estate, d.as(b), nil)
		if err != nil {
			return b, "", err
		}
		if err := nothingStops(got); err != nil {
			return b, "", err
		}
		p := *b.Planting
		if err := s.keepSheet(ctx, &p); err != nil {
			return b, "", err
		}
		p.AdoptedOn, p.AdoptedBy, p.BaseDate = s.today(), who, p.Standing()
		p.Baseline = make(map[string]civil.Date, len(got.Jobs))
		for _, j := range got.Jobs {
			p.Baseline[j.Key] = j.From
		}
		b.Planting = &p
		return b, "Adopted the plan of " + b.Name, nil
	})
}

func nothingStops(p *plan.Plan) error {
	for _, f := range p.Findings {
		if f.Weight == finding.Stops {
			return finding.Bad("planting", f.Subject, "something stops the plan: "+f.Sentence, "mend it first")
		}
	}
	return nil
}

func (s *Service) keepSheet(ctx context.Context, p *document.Planting) error {
	if p.SheetDigest != "" {
		return nil
	}
	sheet, ok := s.find(ctx)(p.Sheet)
	if !ok {
		return finding.Bad("planting.sheet", p.Sheet, "is not a practice sheet of the library", "a sheet from the list of sheets")
	}
	p.SheetDigest = sheet.Digest
	return s.store.KeepSheet(ctx, sheet.Digest, sheet.ID, sheet.Text())
}

// RecordPlanted fixes the layout as it went into the ground, with permanent station numbers.
func (s *Service) RecordPlanted(ctx context.Context, who, id string, revision int, on civil.Date) (BlockDoc, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return BlockDoc{}, err
	}
	return s.change(ctx, who, id, revision, func(d BlockDoc) (document.Block, string, error) {
		b := d.Block
		switch {
		case b.Planting == nil || b.Planting.Considered:
			return b, "", finding.Bad("planting", "none", "there is no planting to record", "choose a crop first")
		case b.Planting.AsPlanted != nil:
			return b, "", finding.Bad("on", on, "a planting is recorded already", "undo that record first")
		case on.IsZero() || on.After(s.today()):
			return b, "", finding.Bad("on", on, "a planting cannot be recorded for a day that has not come", "a day up to "+s.today().Words())
		}
		got, err := s.compute(ctx, e.Estate, d.as(b), nil)
		if err != nil {
			return b, "", err
		}
		for _, f := range got.Findings {
			if f.Rule == "rows.none" {
				return b, "", finding.Bad("planting.layout", f.Subject, f.Sentence, "mend it first")
			}
		}
		p := *b.Planting
		if err := s.keepSheet(ctx, &p); err != nil {
			return b, "", err
		}
		p.AsPlanted, p.Planted = got.Fix(got.Choices[practice.LayoutFork]), on
		b.Planting = &p
		return b, "Recorded " + b.Name + " as planted", nil
	})
}
