package store

import (
	"bytes"
	"compress/flate"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"time"
)

// Deed is what a change is.
type Deed string

const (
	Do   Deed = "do"
	Undo Deed = "undo" // takes back the change Of
	Redo Deed = "redo" // makes the change Of again
)

// Change is one entry of the history.
type Change struct {
	ID     int64     `json:"id"`
	At     time.Time `json:"at"`
	Who    string    `json:"who"`
	What   string    `json:"what"`
	Deed   Deed      `json:"deed"`
	Of     int64     `json:"of,omitempty"`
	Undone bool      `json:"undone"` // taken back, and not made again since
}

// MovedOn says why a change cannot be taken back or made again: a later change, by somebody else, touched the same thing.
type MovedOn struct{ Later Change }

func (e *MovedOn) Error() string {
	return fmt.Sprintf("%s since (“%s”, %s): it is left as it is; change it by hand", orSomebody(e.Later.Who)+" changed this", e.Later.What, e.Later.At.Local().Format("2 January, 15:04"))
}
func (e *MovedOn) Unwrap() error { return ErrMovedOn }

func orSomebody(who string) string {
	if who == "" {
		return "somebody"
	}
	return who
}

// Apply makes one change: all writes or none, with its history entry. A write whose revision is not
// the current one fails with ErrStale and changes nothing. A change that changes nothing leaves no entry and no new
// revision.
func (s *Store) Apply(ctx context.Context, who, what string, writes ...Write) ([]Doc, error) {
	return s.ApplyWith(ctx, who, what, Also{}, writes...)
}

// Also is what is kept with a change, or not at all.
type Also struct {
	Files   []File
	Records []Entry
}

// ApplyWith is Apply with long records and entries of the record.
func (s *Store) ApplyWith(ctx context.Context, who, what string, also Also, writes ...Write) ([]Doc, error) {
	if err := s.Trouble(); err != nil {
		return nil, err
	}
	var out []Doc
	began := false
	err := s.tx(ctx, func(tx *sql.Tx) error {
		same, err := standing(ctx, tx, writes)
		if err != nil || same != nil {
			out = same
			return err
		}
		for _, f := range also.Files {
			if err := f.keep(ctx, tx); err != nil {
				return err
			}
		}
		change, err := s.begin(ctx, tx, who, what, Do, 0)
		if err != nil {
			return err
		}
		for _, w := range writes {
			d, err := put(ctx, tx, change, w)
			if err != nil {
				return err
			}
			began = began || w.Kind == EstateDoc && d.Revision == 1
			out = append(out, d)
		}
		for _, e := range also.Records {
			if _, err := s.append(ctx, tx, e); err != nil {
				return err
			}
		}
		return nil
	})
	if err == nil && began {
		s.noteEstate()
	}
	return out, err
}

// standing are the documents as they are when every write would leave them as they are; nil when one would not.
func standing(ctx context.Context, tx *sql.Tx, writes []Write) ([]Doc, error) {
	var out []Doc
	for _, w := range writes {
		d, there, err := current(ctx, tx, w.Kind, w.ID)
		if err != nil {
			return nil, err
		}
		if !there || w.Revision != d.Revision || w.Body == nil || !bytes.Equal(d.Body, w.Body) || d.Schema != w.schema() {
			return nil, nil
		}
		out = append(out, d)
	}
	return out, nil
}

func (s *Store) begin(ctx context.Context, tx *sql.Tx, who, what string, deed Deed, of int64) (int64, error) {
	var ref any
	if of > 0 {
		ref = of
	}
	r, err := tx.ExecContext(ctx, `INSERT INTO change (at, who, what, deed, of) VALUES (?, ?, ?, ?, ?)`, s.now().UTC().Format(time.RFC3339), who, what, string(deed), ref)
	if err != nil {
		return 0, err
	}
	return r.LastInsertId()
}

// put writes a document and what it was before. Where a body stays as it is only its revision moves, and nothing is noted.
func put(ctx context.Context, tx *sql.Tx, change int64, w Write) (Doc, error) {
	was, there, err := current(ctx, tx, w.Kind, w.ID)
	if err != nil {
		return Doc{}, err
	}
	if w.Revision == 0 && there || w.Revision != 0 && w.Revision != was.Revision {
		return Doc{}, ErrStale
	}
	next := Doc{Kind: w.Kind, ID: w.ID, Parent: w.Parent, Schema: w.schema(), Revision: was.Revision + 1, Body: w.Body}
	if w.Body == nil {
		_, err = tx.ExecContext(ctx, `UPDATE document SET removed = 1, revision = ? WHERE kind = ? AND id = ?`, next.Revision, string(w.Kind), w.ID)
	} else {
		_, err = tx.ExecContext(ctx, `INSERT INTO document (kind, id, parent, schema, revision, body, digest, seq) VALUES (?, ?, ?, ?, ?, ?, ?, (SELECT COALESCE(max(seq), 0) + 1 FROM document))
			ON CONFLICT (kind, id) DO UPDATE SET body = excluded.body, schema = excluded.schema, revision = excluded.revision, digest = excluded.digest, removed = 0`,
			string(w.Kind), w.ID, w.Parent, next.Schema, next.Revision, string(w.Body), digestOf(w.Body))
	}
	if err != nil {
		return Doc{}, err
	}
	if there && w.Body != nil && bytes.Equal(was.Body, w.Body) && was.Schema == next.Schema {
		return next, nil
	}
	var before, base any
	schema := next.Schema
	if there {
		if before, base, err = packed(ctx, tx, was); err != nil {
			return Doc{}, err
		}
		schema = was.Schema
	}
	block := w.Parent
	if w.Kind == BlockDoc {
		block = w.ID
	} else if block == "" {
		block = was.Parent
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO change_item (change_id, kind, entity, block, schema, before, base, revision) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`, change, string(w.Kind), w.ID, block, schema, before, base, next.Revision)
	return next, err
}

// packed makes a body small: against the last of the document's bodies that was packed by itself, where that says most
// of it, else by itself.
func packed(ctx context.Context, tx *sql.Tx, d Doc) (body []byte, base any, err error) {
	var id int64
	var raw any
	err = tx.QueryRowContext(ctx, `SELECT change_id, before FROM change_item WHERE kind = ? AND entity = ? AND base IS NULL AND before IS NOT NULL ORDER BY change_id DESC LIMIT 1`, string(d.Kind), d.ID).Scan(&id, &raw)
	if err == nil {
		earlier, err := unpackAgainst(raw, nil)
		if err != nil {
			return nil, nil, err
		}
		body, err = packAgainst(d.Body, earlier)
		if err != nil || len(body) < len(d.Body)/6 {
			return body, id, err
		}
	} else if !errors.Is(err, sql.ErrNoRows) {
		return nil, nil, err
	}
	body, err = packAgainst(d.Body, nil)
	return body, nil, err
}

func packAgainst(body, earlier []byte) ([]byte, error) {
	var b bytes.Buffer
	z, err := flate.NewWriterDict(&b, flate.BestCompression, earlier)
	if err != nil {
		return nil, err
	}
	if _, err := z.Write(body); err != nil {
		return nil, err
	}
	err = z.Close()
	return b.Bytes(), err
}

// unpackAgainst reads back what packAgainst made; a body of before there was packing is text, one that was not there nil.
func unpackAgainst(v any, earlier []byte) ([]byte, error) {
	switch x := v.(type) {
	case nil:
		return nil, nil
	case string:
		return []byte(x), nil
	case []byte:
		body, err := io.ReadAll(flate.NewReaderDict(bytes.NewReader(x), earlier))
		if err != nil {
			return nil, fmt.Errorf("%w: an entry of the history: %v", ErrDamaged, err)
		}
		return body, nil
	}
	return nil, fmt.Errorf("%w: an entry of the history", ErrDamaged)
}

// unpacked is an item's body: before is what its row holds, base the change whose item it is packed against.
func unpacked(ctx context.Context, tx *sql.Tx, kind Kind, id string, before any, base sql.NullInt64) ([]byte, error) {
	if !base.Valid {
		return unpackAgainst(before, nil)
	}
	var raw any
	if err := tx.QueryRowContext(ctx, `SELECT before FROM change_item WHERE change_id = ? AND kind = ? AND entity = ?`, base.Int64, string(kind), id).Scan(&raw); err != nil {
		return nil, fmt.Errorf("%w: an entry of the history: %v", ErrDamaged, err)
	}
	earlier, err := unpackAgainst(raw, nil)
	if err != nil {
		return nil, err
	}
	return unpackAgainst(before, earlier)
}

// current is a document as it stands; there is false when it does not exist or is removed, and its revision then the
// last one it had.
func current(ctx context.Context, tx *sql.Tx, kind Kind, id string) (d Doc, there bool, err error) {
	var body string
	var removed bool
	d = Doc{Kind: kind, ID: id}
	err = tx.QueryRowContext(ctx, `SELECT parent, schema, revision, body, removed FROM document WHERE kind = ? AND id = ?`, string(kind), id).Scan(&d.Parent, &d.Schema, &d.Revision, &body, &removed)
	if errors.Is(err, sql.ErrNoRows) {
		return d, false, nil
	}
	d.Body = []byte(body)
	return d, err == nil && !removed, err
}
