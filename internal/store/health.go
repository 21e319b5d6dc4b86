package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// The notes of a data folder.
const (
	estateNote  = "estate-lives-here"
	runningName = "running"
)

func (s *Store) runningNote() string { return filepath.Join(s.dir, runningName) }

// noteRunning writes down that a program has the database open, and where it can be asked.
func (s *Store) noteRunning(state string) error {
	return os.WriteFile(s.runningNote(), []byte(state+"\n"), 0o600)
}

// Announce writes down the address the program that has this folder open answers on.
func (s *Store) Announce(address string) error { return s.noteRunning("open " + address) }

// Address is where the program that has a folder open answers, "" where none says so.
func Address(dir string) string {
	text, err := os.ReadFile(filepath.Join(dir, runningName))
	state, address, _ := strings.Cut(strings.TrimSpace(string(text)), " ")
	if err != nil || state != "open" {
		return ""
	}
	return address
}

func (s *Store) noteEstate() {
	_ = os.WriteFile(filepath.Join(s.dir, estateNote), []byte("An estate of Slow Root lives in this folder: "+FileName+", and its copies under "+copiesName+".\n"), 0o600) // a help, not a need
}

// signs names something that tells of an estate in a folder, "" where nothing does.
func signs(dir string) string {
	for _, pattern := range []string{estateNote, FileName + "-wal", FileName + ".replaced-*", FileName + ".before-*", filepath.Join(copiesName, "*.db")} {
		if found, _ := filepath.Glob(filepath.Join(dir, pattern)); len(found) > 0 {
			name, err := filepath.Rel(dir, found[len(found)-1])
			if err == nil {
				return name
			}
		}
	}
	return ""
}

// lookOver refuses a folder whose database is lost or empty beside signs of an estate, or whose log is gone although the
// last run did not end by itself.
func (s *Store) lookOver(ctx context.Context, path string) error {
	info, err := os.Stat(path)
	sign := signs(s.dir)
	switch {
	case errors.Is(err, fs.ErrNotExist) && sign != "":
		return s.offering(fmt.Errorf("%w: %s is not there, and %s tells of an estate", ErrMissing, path, sign))
	case errors.Is(err, fs.ErrNotExist):
		return nil
	case err != nil:
		return explain(err)
	case info.Size() == 0 && sign != "":
		return s.offering(fmt.Errorf("%w: %s is empty, and %s tells of an estate", ErrDamaged, path, sign))
	case info.Size() == 0:
		return nil
	}
	text, err := os.ReadFile(s.runningNote())
	if err != nil || !strings.HasPrefix(string(text), "open") || s.options.AsItIs {
		return nil
	}
	if _, err := os.Stat(path + "-wal"); errors.Is(err, fs.ErrNotExist) {
		return s.offering(fmt.Errorf("%w: the last run did not end by itself and its log, %s-wal, is gone; what was changed last may be lost. To go on with what is there, start with --as-it-is", ErrMissing, path))
	}
	return nil
}

// offering adds the newest good copy to an error, and how to take it.
func (s *Store) offering(err error) error {
	if !errors.Is(err, ErrDamaged) && !errors.Is(err, ErrMissing) && !errors.Is(err, ErrNotOurs) {
		return err
	}
	for _, c := range candidates(s.dir) {
		if r, bad := Verify(context.Background(), c); bad == nil {
			return fmt.Errorf("%w. The newest good copy is %s, of %s with %d blocks; take it with: slowroot restore --data %s %s", err, c, r.Estate, r.Blocks, s.dir, c)
		}
	}
	return fmt.Errorf("%w. No good copy was found in the folder; take one kept elsewhere with: slowroot restore --data %s FILE", err, s.dir)
}

// quickCheck is SQLite's own look over a database.
func quickCheck(ctx context.Context, db *sql.DB) error {
	var said string
	if err := db.QueryRowContext(ctx, `PRAGMA quick_check(1)`).Scan(&said); err != nil {
		return explain(err)
	}
	if said != "ok" {
		return fmt.Errorf("%w: %s", ErrDamaged, said)
	}
	return nil
}

// FullCheck reads every page and every document. What it finds is kept: from then on nothing more is written, and Trouble
// says why.
func (s *Store) FullCheck(ctx context.Context) error {
	s.mu.RLock()
	_, err := examine(ctx, s.db)
	s.mu.RUnlock()
	if errors.Is(err, ErrNoEstate) || errors.Is(err, context.Canceled) {
		err = nil
	}
	s.health.Lock()
	defer s.health.Unlock()
	s.checked = s.now()
	if s.trouble = err; err != nil {
		s.trouble = s.offering(err)
	}
	return s.trouble
}

// Trouble is what the last full check found: while it is not nil nothing is written.
func (s *Store) Trouble() error {
	s.health.Lock()
	defer s.health.Unlock()
	return s.trouble
}

// CheckDue reports that the last full check is a day old.
func (s *Store) CheckDue() bool {
	s.health.Lock()
	defer s.health.Unlock()
	return s.now().Sub(s.checked) >= 24*time.Hour
}
