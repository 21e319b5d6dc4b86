package store

import (
	"context"
	"database/sql"
)

// bringForward rewrites documents of an older form, all or none, as one change by the program itself. One that is
// damaged, or cannot be read as what it should be, is left as it is and says so when it is asked for.
func (s *Store) bringForward(ctx context.Context) error {
	if s.options.Upcast == nil {
		return nil
	}
	docs, err := s.read(ctx, `TRUE`)
	if err != nil {
		return err
	}
	return s.tx(ctx, func(tx *sql.Tx) error {
		change := int64(0)
		for _, d := range docs {
			if d.Err != nil {
				continue
			}
			writes, entries, err := s.options.Upcast(d)
			if err != nil || writes == nil {
				continue
			}
			if change == 0 {
				if change, err = s.begin(ctx, tx, "slowroot", "Brought the estate into the form of this program", Do, 0); err != nil {
					return err
				}
			}
			for _, w := range writes {
				was, there, err := current(ctx, tx, w.Kind, w.ID)
				if err != nil {
					return err
				}
				if w.Body == nil && !there {
					continue
				}
				w.Revision = was.Revision
				if _, err := put(ctx, tx, change, w); err != nil {
					return err
				}
			}
			for _, e := range entries {
				if _, err := s.append(ctx, tx, e); err != nil {
					return err
				}
			}
		}
		return nil
	})
}
