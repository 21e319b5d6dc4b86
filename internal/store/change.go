package store

import (
	"context"
	"database/sql"
	"errors"
	"time"
)

// Apply makes one change: all writes or none, with its history entry. A write whose revision is not
// the current one fails with ErrStale and changes nothing. A change that changes nothing leaves no entry and no new
// revision.
func (s *Store) Apply(ctx context.Context, who, what string, writes ...Write) ([]Doc, error) {
	return s.ApplyWith(ctx, who, what, nil, writes...)
}

// ApplyWith is Apply with long records that are kept with the change, or not at all.
func (s *Store) ApplyWith(ctx context.Context, who, what string, files []File, writes ...Write) ([]Doc, error) {
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
		for _, f := range files {
			if err := f.keep(ctx, tx); err != nil {
				return err
			}
		}
		change, err := s.begin(ctx, tx, who, what, 0)
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
		revision, before, err := current(ctx, tx, w.Kind, w.ID)
		if err != nil {
			return nil, err
		}
		if text, ok := before.(string); !ok || w.Revision != revision || w.Body == nil || text != string(w.Body) {
			return nil, nil
		}
		out = append(out, Doc{ID: w.ID, Revision: revision, Body: w.Body})
	}
	return out, nil
}

func (s *Store) begin(ctx context.Context, tx *sql.Tx, who, what string, undoes int64) (int64, error) {
	var ref any
	if undoes > 0 {
		ref = undoes
	}
	r, err := tx.ExecContext(ctx, `INSERT INTO change (at, who, what, undoes) VALUES (?, ?, ?, ?)`, s.now().UTC().Format(time.RFC3339), who, what, ref)
	if err != nil {
		return 0, err
	}
	return r.LastInsertId()
}

func put(ctx context.Context, tx *sql.Tx, change int64, w Write) (Doc, error) {
	revision, before, err := current(ctx, tx, w.Kind, w.ID)
	if err != nil {
		return Doc{}, err
	}
	if w.Revision == 0 && before != nil || w.Revision != 0 && w.Revision != revision {
		return Doc{}, ErrStale
	}
	next := revision + 1
	var after any
	if w.Body != nil {
		after = string(w.Body)
	}
	switch {
	case w.Kind == EstateDoc && w.Body != nil:
		_, err = tx.ExecContext(ctx, `INSERT INTO estate (id, body, revision, digest) VALUES (1, ?, ?, ?) ON CONFLICT (id) DO UPDATE SET body = excluded.body, revision = excluded.revision, digest = excluded.digest`, after, next, digestOf(w.Body))
	case w.Kind == EstateDoc:
		_, err = tx.ExecContext(ctx, `DELETE FROM estate WHERE id = 1`)
	case w.Body == nil:
		_, err = tx.ExecContext(ctx, `UPDATE block SET removed = 1, revision = ? WHERE id = ?`, next, w.ID)
	default:
		_, err = tx.ExecContext(ctx, `INSERT INTO block (id, body, revision, digest) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO UPDATE SET body = excluded.body, revision = excluded.revision, digest = excluded.digest, removed = 0`, w.ID, after, next, digestOf(w.Body))
	}
	if err != nil {
		return Doc{}, err
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO change_item (change_id, kind, entity, before, after, revision) VALUES (?, ?, ?, ?, ?, ?)`, change, string(w.Kind), w.ID, before, after, next)
	return Doc{ID: w.ID, Revision: next, Body: w.Body}, err
}

// current is a document's revision and body; the body is nil when it does not exist or is removed.
func current(ctx context.Context, tx *sql.Tx, kind Kind, id string) (revision int, body any, err error) {
	var text string
	var removed bool
	if kind == EstateDoc {
		err = tx.QueryRowContext(ctx, `SELECT revision, body, 0 FROM estate WHERE id = 1`).Scan(&revision, &text, &removed)
	} else {
		err = tx.QueryRowContext(ctx, `SELECT revision, body, removed FROM block WHERE id = ?`, id).Scan(&revision, &text, &removed)
	}
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return 0, nil, nil
	case err != nil || removed:
		return revision, nil, err
	}
	return revision, text, nil
}

// Undo takes back change id, which must be the last one that is not undone, in one transaction.
func (s *Store) Undo(ctx context.Context, who string, id int64) (Change, error) {
	var done Change
	err := s.tx(ctx, func(tx *sql.Tx) error {
		var last int64
		var what string
		err := tx.QueryRowContext(ctx, `SELECT c.id, c.what FROM change c WHERE c.undoes IS NULL
			AND NOT EXISTS (SELECT 1 FROM change u WHERE u.undoes = c.id) ORDER BY c.id DESC LIMIT 1`).Scan(&last, &what)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNoChange
		}
		if err != nil {
			return err
		}
		if last != id {
			return ErrMovedOn
		}
		change, err := s.begin(ctx, tx, who, "Undo: "+what, id)
		if err != nil {
			return err
		}
		done = Change{ID: change, Who: who, What: what, Undoes: id}
		return restore(ctx, tx, change, id)
	})
	return done, err
}

func restore(ctx context.Context, tx *sql.Tx, change, of int64) error {
	rows, err := tx.QueryContext(ctx, `SELECT kind, entity, before FROM change_item WHERE change_id = ?`, of)
	if err != nil {
		return err
	}
	var writes []Write
	for rows.Next() {
		var w Write
		var before sql.NullString
		if err := rows.Scan(&w.Kind, &w.ID, &before); err != nil {
			rows.Close()
			return err
		}
		if before.Valid {
			w.Body = []byte(before.String)
		}
		writes = append(writes, w)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for _, w := range writes {
		if w.Revision, _, err = current(ctx, tx, w.Kind, w.ID); err != nil {
			return err
		}
		if _, err := put(ctx, tx, change, w); err != nil {
			return err
		}
	}
	return nil
}

// History is the last n changes, newest first.
func (s *Store) History(ctx context.Context, n int) ([]Change, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	rows, err := s.db.QueryContext(ctx, `SELECT c.id, c.at, c.who, c.what, COALESCE(c.undoes, 0),
		EXISTS (SELECT 1 FROM change u WHERE u.undoes = c.id) FROM change c ORDER BY c.id DESC LIMIT ?`, n)
	if err != nil {
		return nil, explain(err)
	}
	defer rows.Close()
	out := []Change{}
	for rows.Next() {
		var c Change
		var at string
		if err := rows.Scan(&c.ID, &at, &c.Who, &c.What, &c.Undoes, &c.Undone); err != nil {
			return nil, explain(err)
		}
		if c.At, err = time.Parse(time.RFC3339, at); err != nil {
			return nil, err
		}
		out = append(out, c)
	}
	return out, explain(rows.Err())
}
