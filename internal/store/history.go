package store

import (
	"context"
	"database/sql"
	"errors"
	"time"
)

// undone tells of a change c whether it is taken back and not made again since.
const undone = `COALESCE((SELECT l.deed FROM change l WHERE l.of = c.id ORDER BY l.id DESC LIMIT 1), 'redo') = 'undo'`

// Steps are what a person may take back next, and what they may make again; either is nil where there is nothing.
type Steps struct {
	Undo *Change `json:"undo,omitempty"`
	Redo *Change `json:"redo,omitempty"`
}

// Steps of a person: undo takes back their last change that stands, redo makes the change again that they took back
// last, until they change something new.
func (s *Store) Steps(ctx context.Context, who string) (Steps, error) {
	var out Steps
	err := s.tx(ctx, func(tx *sql.Tx) (err error) {
		if out.Undo, err = lastStanding(ctx, tx, who); err == nil {
			out.Redo, err = lastUndone(ctx, tx, who)
		}
		return err
	})
	return out, err
}

func lastStanding(ctx context.Context, tx *sql.Tx, who string) (*Change, error) {
	return oneChange(ctx, tx, `SELECT c.id, c.at, c.who, c.what, c.deed, 0, 0 FROM change c WHERE c.deed = 'do' AND c.who = ? AND NOT `+undone+` ORDER BY c.id DESC LIMIT 1`, who)
}

func lastUndone(ctx context.Context, tx *sql.Tx, who string) (*Change, error) {
	return oneChange(ctx, tx, `SELECT c.id, c.at, c.who, c.what, c.deed, 0, 1 FROM change c JOIN change u ON u.of = c.id AND u.deed = 'undo'
		WHERE c.who = ? AND `+undone+` AND u.id > COALESCE((SELECT max(n.id) FROM change n WHERE n.who = c.who AND n.deed = 'do'), 0)
		ORDER BY u.id DESC LIMIT 1`, who)
}

func oneChange(ctx context.Context, tx *sql.Tx, query string, args ...any) (*Change, error) {
	c, err := scanChange(tx.QueryRowContext(ctx, query, args...))
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	return &c, err
}

type scanner interface{ Scan(...any) error }

func scanChange(row scanner) (Change, error) {
	var c Change
	var at string
	if err := row.Scan(&c.ID, &at, &c.Who, &c.What, &c.Deed, &c.Of, &c.Undone); err != nil {
		return c, err
	}
	var err error
	c.At, err = time.Parse(time.RFC3339, at)
	return c, err
}

// Undo takes back change id, which must be the one Steps offers this person. It fails with *MovedOn where somebody
// changed the same document since.
func (s *Store) Undo(ctx context.Context, who string, id int64) (Change, error) {
	return s.again(ctx, who, id, Undo)
}

// Redo makes change id again, which must be the one Steps offers this person.
func (s *Store) Redo(ctx context.Context, who string, id int64) (Change, error) {
	return s.again(ctx, who, id, Redo)
}

func (s *Store) again(ctx context.Context, who string, id int64, deed Deed) (Change, error) {
	var done Change
	err := s.tx(ctx, func(tx *sql.Tx) error {
		offer, from, word := lastStanding, id, "Undo: "
		if deed == Redo {
			offer, word = lastUndone, "Redo: "
		}
		c, err := offer(ctx, tx, who)
		switch {
		case err != nil:
			return err
		case c == nil:
			return ErrNoChange
		case c.ID != id:
			return ErrMovedOn
		}
		if deed == Redo { // what it left is what its undo found
			if err := tx.QueryRowContext(ctx, `SELECT max(id) FROM change WHERE of = ? AND deed = 'undo'`, id).Scan(&from); err != nil {
				return err
			}
		}
		if later, err := touchedSince(ctx, tx, id, from); err != nil || later != nil {
			if err == nil {
				err = &MovedOn{*later}
			}
			return err
		}
		change, err := s.begin(ctx, tx, who, word+c.What, deed, id)
		if err != nil {
			return err
		}
		done = Change{ID: change, At: s.now(), Who: who, What: c.What, Deed: deed, Of: id}
		return s.putBack(ctx, tx, change, from)
	})
	return done, err
}

// touchedSince is another change of the same documents that stands now and did not when change from was made, or the
// other way round.
func touchedSince(ctx context.Context, tx *sql.Tx, of, from int64) (*Change, error) {
	return oneChange(ctx, tx, `SELECT c.id, c.at, c.who, c.what, c.deed, 0, 0 FROM change c
		WHERE c.deed = 'do' AND c.id <> ?
		AND EXISTS (SELECT 1 FROM change_item i JOIN change_item mine ON mine.kind = i.kind AND mine.entity = i.entity WHERE i.change_id = c.id AND mine.change_id = ?)
		AND (NOT `+undone+`) <> (c.id <= ? AND COALESCE((SELECT l.deed FROM change l WHERE l.of = c.id AND l.id <= ? ORDER BY l.id DESC LIMIT 1), 'redo') = 'redo')
		ORDER BY c.id DESC LIMIT 1`, of, from, from, from)
}

// putBack restores every document of a change as it was before it, and moves the revision of the blocks they belong to.
func (s *Store) putBack(ctx context.Context, tx *sql.Tx, change, of int64) error {
	items, err := itemsOf(ctx, tx, of)
	if err != nil {
		return err
	}
	var writes []Write
	for _, i := range items {
		w := Write{Kind: i.Kind, ID: i.ID, Body: i.Before, Schema: i.WasSchema}
		if i.Before != nil && s.options.Upcast != nil { // what it then held of records stands outside undo
			now, _, err := s.options.Upcast(Doc{Kind: i.Kind, ID: i.ID, Schema: i.WasSchema, Body: i.Before})
			if err != nil {
				return err
			}
			if now != nil {
				writes = append(writes, now...)
				continue
			}
		}
		writes = append(writes, w)
	}
	moved := map[string]bool{}
	for _, w := range writes {
		d, there, err := current(ctx, tx, w.Kind, w.ID)
		if err != nil {
			return err
		}
		if w.Body == nil && !there {
			continue
		}
		w.Revision = d.Revision
		if d.Parent != "" {
			w.Parent = d.Parent
		}
		if _, err := put(ctx, tx, change, w); err != nil {
			return err
		}
		moved[string(w.Kind)+d.ID] = true
	}
	for _, w := range writes { // a reader holds a planting by the revision of its block
		d, _, err := current(ctx, tx, w.Kind, w.ID)
		if err != nil {
			return err
		}
		if w.Kind == PlantingDoc && !moved[string(BlockDoc)+d.Parent] {
			moved[string(BlockDoc)+d.Parent] = true
			if _, err := tx.ExecContext(ctx, `UPDATE document SET revision = revision + 1 WHERE kind = 'block' AND id = ?`, d.Parent); err != nil {
				return err
			}
		}
	}
	return nil
}

// Page asks for a part of the history. Block and Who narrow it where they are set; Before is the id of the change the
// page before ended with, 0 for the newest.
type Page struct {
	Block, Who string
	Before     int64
	N          int
}

// History is a page of changes, newest first.
func (s *Store) History(ctx context.Context, p Page) ([]Change, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	rows, err := s.db.QueryContext(ctx, `SELECT c.id, c.at, c.who, c.what, c.deed, COALESCE(c.of, 0), `+undone+` FROM change c
		WHERE (? = 0 OR c.id < ?) AND (? = '' OR c.who = ?) AND (? = '' OR EXISTS (SELECT 1 FROM change_item i WHERE i.change_id = c.id AND i.block = ?))
		ORDER BY c.id DESC LIMIT ?`, p.Before, p.Before, p.Who, p.Who, p.Block, p.Block, p.N)
	if err != nil {
		return nil, explain(err)
	}
	defer rows.Close()
	out := []Change{}
	for rows.Next() {
		c, err := scanChange(rows)
		if err != nil {
			return nil, explain(err)
		}
		out = append(out, c)
	}
	return out, explain(rows.Err())
}

// Item is one document a change touched, before and after it. A nil body is a document that was not there.
type Item struct {
	Kind          Kind
	ID, Block     string
	Before, After []byte
	WasSchema     int // of Before, or of After where nothing was before
	IsSchema      int // of After
}

// itemsOf are the documents of a change as they were before it.
func itemsOf(ctx context.Context, tx *sql.Tx, change int64) ([]Item, error) {
	rows, err := tx.QueryContext(ctx, `SELECT kind, entity, block, schema, before, base FROM change_item WHERE change_id = ? ORDER BY kind, entity`, change)
	if err != nil {
		return nil, err
	}
	var out []Item
	var raw []any
	var bases []sql.NullInt64
	for rows.Next() {
		var i Item
		var before any
		var base sql.NullInt64
		if err := rows.Scan(&i.Kind, &i.ID, &i.Block, &i.WasSchema, &before, &base); err != nil {
			rows.Close()
			return nil, err
		}
		out, raw, bases = append(out, i), append(raw, before), append(bases, base)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return nil, err
	}
	for n := range out {
		if out[n].Before, err = unpacked(ctx, tx, out[n].Kind, out[n].ID, raw[n], bases[n]); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Items are what a change did to its documents.
func (s *Store) Items(ctx context.Context, change int64) ([]Item, error) {
	var out []Item
	err := s.tx(ctx, func(tx *sql.Tx) error {
		var err error
		if out, err = itemsOf(ctx, tx, change); err != nil {
			return err
		}
		if len(out) == 0 {
			return ErrNotFound
		}
		for n := range out {
			i := &out[n]
			var after any
			var base sql.NullInt64
			err := tx.QueryRowContext(ctx, `SELECT schema, before, base FROM change_item WHERE kind = ? AND entity = ? AND change_id > ? ORDER BY change_id LIMIT 1`, string(i.Kind), i.ID, change).Scan(&i.IsSchema, &after, &base)
			if errors.Is(err, sql.ErrNoRows) {
				d, there, err := current(ctx, tx, i.Kind, i.ID)
				if err != nil {
					return err
				}
				if i.IsSchema = d.Schema; there {
					i.After = d.Body
				}
				continue
			}
			if err != nil {
				return err
			}
			if i.After, err = unpacked(ctx, tx, i.Kind, i.ID, after, base); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}
