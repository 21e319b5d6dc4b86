package estate

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/units"
	"slowroot/internal/store"
)

// ownSheet is the document of an estate's own practice sheet.
type ownSheet struct {
	Name string `json:"name"`
	Text string `json:"text"` // YAML, as sheets are written
}

// sheetForm is the form that document has now.
const sheetForm = 1

// SheetDoc is a sheet opened to be read line by line.
type SheetDoc struct {
	ID          string                `json:"id"`
	Own         bool                  `json:"own"` // the estate's: it can be changed
	Revision    int                   `json:"revision"`
	From        string                `json:"from"` // the sheet it came from, "" for one of the library
	Values      []practice.Value      `json:"values"`
	Differences []practice.Difference `json:"differences"` // from what it came from, or from the sheet asked for
	Lives       []practice.LifeLine   `json:"lives"`
	FromMemory  int                   `json:"fromMemory"` // how many entries rest on memory, of Entries
	Entries     int                   `json:"entries"`
}

// library are the sheets that ship with the program and the estate's own. One that cannot be read any more is left out:
// the plans that hold to it say so.
func (s *Service) library(ctx context.Context) (*practice.Library, error) {
	if s.only {
		return s.sheets, nil
	}
	docs, err := s.store.All(ctx, store.SheetDoc)
	if err != nil || len(docs) == 0 {
		return s.sheets, err
	}
	key := "library"
	for _, d := range docs {
		key += fmt.Sprintf(" %s/%d", d.ID, d.Revision)
	}
	return recall(&s.memory, key, func() (*practice.Library, error) {
		all := s.sheets.All()
		for _, d := range docs {
			var own ownSheet
			if d.Err != nil || json.Unmarshal(d.Body, &own) != nil {
				continue
			}
			if sheet, err := practice.Load([]byte(own.Text)); err == nil {
				all = append(all, sheet)
			}
		}
		return practice.LibraryOf(all...), nil
	})
}

// sheetIn finds a sheet in a reader's units.
func (s *Service) sheetIn(ctx context.Context, id string, u units.System) (*practice.Sheet, error) {
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	sheet, _ := l.In(u).Get(id)
	return sheet, nil
}

// find is a sheet by its id; one that is not there finds nothing.
func (s *Service) find(ctx context.Context) func(string) (*practice.Sheet, bool) {
	l, err := s.library(ctx)
	if err != nil {
		return s.sheets.Get
	}
	return l.Get
}

// OpenSheet is a sheet line by line, with how it differs from the one it came from; against names another to set beside it.
func (s *Service) OpenSheet(ctx context.Context, id, against string) (SheetDoc, error) {
	out := SheetDoc{ID: id, Values: []practice.Value{}, Differences: []practice.Difference{}, Lives: []practice.LifeLine{}}
	l, err := s.library(ctx)
	if err != nil {
		return out, err
	}
	sheet, ok := l.Get(id)
	if !ok {
		return out, store.ErrNotFound
	}
	if out.Values, err = practice.Values(sheet.Text()); err != nil {
		return out, err
	}
	out.From, out.Lives = sheet.From, sheet.Lives()
	for _, v := range out.Values {
		if v.Field == "origin" || strings.HasSuffix(v.Field, ".origin") {
			out.Entries++
			if v.Value == "mem" {
				out.FromMemory++
			}
		}
	}
	if d, _, err := s.ownDoc(ctx, id); err == nil {
		out.Own, out.Revision = true, d.Revision
	} else if only := (*libraryOnly)(nil); !errors.As(err, &only) {
		return out, err
	}
	if against == "" {
		against = sheet.From
	}
	if base, ok := l.Get(against); ok {
		out.Differences, err = practice.Differences(base.Text(), sheet.Text())
		e, readErr := s.Estate(ctx)
		if readErr == nil { // to be read, in the reader's units; the values stay as they are written
			for i := range out.Differences {
				d := &out.Differences[i]
				d.Was, d.Is = units.Marked(d.Was, e.Estate.Units), units.Marked(d.Is, e.Estate.Units)
			}
		}
	} else if against != "" && against != sheet.From {
		return out, finding.Bad("against", against, "is not a practice sheet here", "the id of a sheet")
	}
	return out, err
}

func (s *Service) ownDoc(ctx context.Context, id string) (store.Doc, ownSheet, error) {
	var own ownSheet
	docs, err := s.store.All(ctx, store.SheetDoc)
	if err != nil {
		return store.Doc{}, own, err
	}
	for _, d := range docs {
		if d.ID == id {
			return d, own, json.Unmarshal(d.Body, &own)
		}
	}
	if sheet, ok := s.sheets.Get(id); ok {
		return store.Doc{}, own, &libraryOnly{sheet.Name}
	}
	return store.Doc{}, own, store.ErrNotFound
}

// libraryOnly is a sheet of the library, which nobody changes.
type libraryOnly struct{ name string }

func (e *libraryOnly) Error() string { return e.Unwrap().Error() }
func (e *libraryOnly) Unwrap() error {
	return finding.Bad("sheet", e.name, "belongs to the library and is not changed", "a copy of it under a name of its own")
}

// SheetText is a sheet as a file.
func (s *Service) SheetText(ctx context.Context, id string) ([]byte, error) {
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	sheet, ok := l.Get(id)
	if !ok {
		return nil, store.ErrNotFound
	}
	return sheet.Text(), nil
}

// CopySheet makes the estate a sheet of its own from another, under a name of its own.
func (s *Service) CopySheet(ctx context.Context, who, from, name string) (SheetDoc, error) {
	l, err := s.library(ctx)
	if err != nil {
		return SheetDoc{}, err
	}
	base, ok := l.Get(from)
	if !ok {
		return SheetDoc{}, finding.Bad("from", from, "is not a practice sheet here", "the id of a sheet")
	}
	if name = strings.TrimSpace(name); name == "" || len([]rune(name)) > 80 || strings.EqualFold(name, base.Name) {
		return SheetDoc{}, finding.Bad("name", name, "is not a name of its own", "1 to 80 characters, another than "+base.Name)
	}
	root := base.ID
	if base.From != "" {
		root = base.From
	}
	text, err := practice.Copied(base.Text(), freeID(l, root), name, root)
	if err != nil {
		return SheetDoc{}, err
	}
	return s.keepOwn(ctx, who, fmt.Sprintf("Copied the sheet of %s as “%s”", base.Name, name), 0, text)
}

// freeID is an id no sheet has: of the crop with a number behind it.
func freeID(l *practice.Library, root string) string {
	for n := 1; ; n++ {
		id := fmt.Sprintf("%s-own-%d", root, n)
		if _, taken := l.Get(id); !taken {
			return id
		}
	}
}

// TakeSheet reads a sheet from a file as one of the estate's own. One whose id is taken gets another.
func (s *Service) TakeSheet(ctx context.Context, who string, text []byte) (SheetDoc, error) {
	sheet, err := practice.Load(text)
	if err != nil {
		return SheetDoc{}, finding.Bad("text", firstLine(err), "is not a practice sheet this program can plan with", "a sheet as it is written to a file here")
	}
	l, err := s.library(ctx)
	if err != nil {
		return SheetDoc{}, err
	}
	root := sheet.From
	if _, ok := l.Get(root); !ok {
		root = sheet.ID
	}
	id := sheet.ID
	if _, taken := l.Get(id); taken {
		id = freeID(l, root)
	}
	from := sheet.From
	if from == "" && id != sheet.ID {
		from = sheet.ID
	}
	if text, err = practice.Copied(text, id, sheet.Name, from); err != nil {
		return SheetDoc{}, err
	}
	return s.keepOwn(ctx, who, fmt.Sprintf("Read in the sheet “%s”", sheet.Name), 0, text)
}

func firstLine(err error) string {
	line, _, _ := strings.Cut(err.Error(), "\n")
	return line
}

// EditSheet changes values of an own sheet, made from a revision.
func (s *Service) EditSheet(ctx context.Context, who, id string, revision int, edits []practice.Edit) (SheetDoc, error) {
	d, own, err := s.ownDoc(ctx, id)
	if err != nil {
		return SheetDoc{}, err
	}
	if d.Revision != revision {
		now, err := s.OpenSheet(ctx, id, "")
		if err != nil {
			return SheetDoc{}, err
		}
		return SheetDoc{}, &Stale{now}
	}
	if len(edits) == 0 || len(edits) > 200 {
		return SheetDoc{}, finding.Bad("edits", len(edits), "are not changes to be made at once", "1 to 200")
	}
	text, err := practice.Edited([]byte(own.Text), edits)
	if err != nil {
		return SheetDoc{}, err
	}
	what := fmt.Sprintf("Changed %s of the sheet “%s”", edits[0].Path, own.Name)
	if n := len(edits) - 1; n > 0 {
		what = fmt.Sprintf("Changed %s and %d more of the sheet “%s”", edits[0].Path, n, own.Name)
	}
	return s.keepOwn(ctx, who, what, revision, text)
}

// keepOwn writes an own sheet, once it is one and every block that could be planned still can.
func (s *Service) keepOwn(ctx context.Context, who, what string, revision int, text []byte) (SheetDoc, error) {
	sheet, err := practice.Load(text)
	if err != nil {
		return SheetDoc{}, finding.Bad("sheet", firstLine(err), "is refused: a sheet has to agree with itself", "a value that fits the others")
	}
	if err := s.plansStill(ctx, sheet); err != nil {
		return SheetDoc{}, err
	}
	body, err := json.Marshal(ownSheet{Name: sheet.Name, Text: string(text)})
	if err != nil {
		return SheetDoc{}, err
	}
	if _, err := s.store.Apply(ctx, who, what, store.Write{Kind: store.SheetDoc, ID: sheet.ID, Revision: revision, Body: body, Schema: sheetForm}); err != nil {
		return SheetDoc{}, err
	}
	return s.OpenSheet(ctx, sheet.ID, "")
}

// plansStill refuses a sheet with which a block that follows it could not be planned any more.
func (s *Service) plansStill(ctx context.Context, sheet *practice.Sheet) error {
	e, err := s.Estate(ctx)
	if err != nil {
		return err
	}
	docs, err := s.blocks(ctx)
	if err != nil {
		return err
	}
	for _, d := range docs {
		if d.Err != nil {
			continue
		}
		for _, h := range d.all {
			if h.Sheet != sheet.ID || h.SheetDigest != "" {
				continue
			}
			b := d.Block
			b.Planting = &h.Planting
			if err := s.wouldPlan(ctx, e.Estate, d.as(b), sheet); err != nil && ctx.Err() == nil {
				return fmt.Errorf("with it %s could not be planned: %w", d.Block.Name, err)
			}
		}
	}
	return ctx.Err()
}

// wouldPlan computes a block with a sheet in place of the one it follows.
func (s *Service) wouldPlan(ctx context.Context, e document.Estate, d BlockDoc, sheet *practice.Sheet) error {
	with := s.arriving([]store.File{{Kind: "none"}})
	with.sheets = practice.LibraryOf(append(s.sheets.All(), sheet)...)
	with.only = true
	_, err := with.brief(ctx, e, d)
	return err
}

// RemoveSheet takes an own sheet out; one a planting holds to stays.
func (s *Service) RemoveSheet(ctx context.Context, who, id string, revision int) error {
	_, own, err := s.ownDoc(ctx, id)
	if err != nil {
		return err
	}
	docs, err := s.blocks(ctx)
	if err != nil {
		return err
	}
	for _, d := range docs {
		for _, h := range d.all {
			if h.Sheet == id {
				return finding.Bad("id", own.Name, "is what "+d.Block.Name+" is planned with", "a sheet no block holds to; take the planting off first")
			}
		}
	}
	_, err = s.store.Apply(ctx, who, fmt.Sprintf("Took out the sheet “%s”", own.Name), store.Write{Kind: store.SheetDoc, ID: id, Revision: revision})
	return err
}
