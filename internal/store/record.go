package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"
)

// Entry is one record as it is kept: the store knows where it belongs, not what it says.
type Entry struct {
	ID, Block, Planting, Operation, Kind, Day, Who, Corrects string
	Body                                                     []byte
	At                                                       time.Time // when it was kept; the zero time is now
}

// ErrOtherRecord is an id that another record has already.
var ErrOtherRecord = errors.New("another record has this id")

// Append keeps records, all or none. One that is kept already is no change; its number is not counted in kept.
func (s *Store) Append(ctx context.Context, entries ...Entry) (kept int, err error) {
	if err := s.Trouble(); err != nil {
		return 0, err
	}
	err = s.tx(ctx, func(tx *sql.Tx) error {
		kept = 0
		for _, e := range entries {
			new, err := s.append(ctx, tx, e)
			if err != nil {
				return err
			}
			if new {
				kept++
			}
		}
		return nil
	})
	return kept, err
}

func (s *Store) append(ctx context.Context, tx *sql.Tx, e Entry) (bool, error) {
	var corrects any
	if e.Corrects != "" {
		corrects = e.Corrects
		var block string
		if err := tx.QueryRowContext(ctx, `SELECT block FROM record WHERE id = ?`, e.Corrects).Scan(&block); errors.Is(err, sql.ErrNoRows) || err == nil && block != e.Block {
			return false, fmt.Errorf("record %s, which is to be corrected: %w", e.Corrects, ErrNotFound)
		} else if err != nil {
			return false, err
		}
	}
	if e.At.IsZero() {
		e.At = s.now()
	}
	r, err := tx.ExecContext(ctx, `INSERT INTO record (id, block, planting, operation, kind, day, who, corrects, body, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (id) DO NOTHING`,
		e.ID, e.Block, e.Planting, e.Operation, e.Kind, e.Day, e.Who, corrects, string(e.Body), e.At.UTC().Format(time.RFC3339))
	if err != nil {
		return false, err
	}
	if n, err := r.RowsAffected(); err != nil || n == 1 {
		return n == 1, err
	}
	var same bool
	err = tx.QueryRowContext(ctx, `SELECT block = ? AND planting = ? AND operation = ? AND kind = ? AND day = ? AND COALESCE(corrects, '') = ? AND body = ? FROM record WHERE id = ?`,
		e.Block, e.Planting, e.Operation, e.Kind, e.Day, e.Corrects, string(e.Body), e.ID).Scan(&same)
	if err == nil && !same {
		err = fmt.Errorf("%s: %w", e.ID, ErrOtherRecord)
	}
	return false, err
}

// Records are those of a block in the order they were written, of every block where it is "".
func (s *Store) Records(ctx context.Context, block string) ([]Entry, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	rows, err := s.db.QueryContext(ctx, `SELECT id, block, planting, operation, kind, day, who, COALESCE(corrects, ''), body, at FROM record WHERE ? = '' OR block = ? ORDER BY seq`, block, block)
	if err != nil {
		return nil, explain(err)
	}
	defer rows.Close()
	var out []Entry
	for rows.Next() {
		var e Entry
		var body, at string
		if err := rows.Scan(&e.ID, &e.Block, &e.Planting, &e.Operation, &e.Kind, &e.Day, &e.Who, &e.Corrects, &body, &at); err != nil {
			return nil, explain(err)
		}
		e.Body = []byte(body)
		if e.At, err = time.Parse(time.RFC3339, at); err != nil {
			return nil, err
		}
		out = append(out, e)
	}
	return out, explain(rows.Err())
}
