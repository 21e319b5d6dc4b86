package store

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// Restore puts a copy in place of a data folder's database, which no program may have open. What it replaces is kept
// beside it with the time in its name, which is returned; empty when there was none. Nothing that stands is touched
// before the copy has been read whole, written beside it and read again; the swap itself is one renaming.
func Restore(ctx context.Context, from, dir string, now time.Time) (kept string, err error) {
	if _, err := Verify(ctx, from); err != nil {
		return "", fmt.Errorf("reading backup %w", err)
	}
	if err := private(dir); err != nil {
		return "", explain(err)
	}
	lock, err := takeFolder(dir)
	if err != nil {
		return "", err
	}
	defer lock.Close()
	return install(ctx, from, dir, now)
}

// Replace is Restore for an open store: it closes the database, swaps it and opens what was put in place.
func (s *Store) Replace(ctx context.Context, from string) (kept string, err error) {
	if _, err := Verify(ctx, from); err != nil {
		return "", err
	}
	note, _ := os.ReadFile(s.runningNote())
	kept, err = s.swap(ctx, from)
	if err != nil {
		return kept, err
	}
	if err := errors.Join(s.fillDigests(ctx), s.bringForward(ctx)); err != nil {
		return kept, err
	}
	address, _ := strings.CutPrefix(strings.TrimSpace(string(note)), "open ")
	s.health.Lock()
	s.trouble, s.checked = nil, time.Time{}
	s.health.Unlock()
	return kept, s.Announce(address)
}

// swap closes the database, puts another in its place and opens that, while nobody else uses it. Where it cannot be put in
// place what stood is opened again.
func (s *Store) swap(ctx context.Context, from string) (kept string, err error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if err := s.db.Close(); err != nil {
		return "", explain(err)
	}
	kept, err = install(ctx, from, s.dir, s.now())
	path := filepath.Join(s.dir, FileName)
	db, opening := open(path, s.options.MaxPages)
	if opening != nil {
		return kept, errors.Join(err, fmt.Errorf("opening %s: %w", path, explain(opening)))
	}
	s.db = db
	if err != nil {
		return kept, err
	}
	if err := s.migrate(ctx, path); err != nil {
		return kept, fmt.Errorf("preparing %s: %w", path, explain(err))
	}
	return kept, nil
}

// install writes the copy beside the database, keeps what stands under another name, and renames the copy over it.
func install(ctx context.Context, from, dir string, now time.Time) (kept string, err error) {
	path := filepath.Join(dir, FileName)
	incoming := unused(path, ".incoming")
	defer os.Remove(incoming) // gone once it is renamed
	if err := duplicate(ctx, from, incoming); err != nil {
		return "", err
	}
	if kept, err = keepOld(ctx, path, now); err != nil {
		return "", err
	}
	// the log was folded into the old file, or is kept beside it: left here it would be taken for the new one's
	for _, suffix := range []string{"-wal", "-shm"} {
		if err := os.Remove(path + suffix); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return kept, explain(err)
		}
	}
	if err := os.Rename(incoming, path); err != nil {
		return kept, explain(err)
	}
	_ = os.Remove(filepath.Join(dir, runningName)) // the run it tells of was of the database that is replaced
	return kept, explain(synced(dir))
}

// duplicate makes a whole copy of a database and reads it back.
func duplicate(ctx context.Context, from, to string) error {
	db, err := reading(from)
	if err != nil {
		return explain(err)
	}
	defer db.Close()
	f, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return explain(err)
	}
	f.Close()
	if _, err := db.ExecContext(ctx, `VACUUM INTO ?`, to); err != nil {
		return fmt.Errorf("copying %s: %w", from, explain(err))
	}
	if _, err := Verify(ctx, to); err != nil {
		return err
	}
	return explain(synced(to))
}

// keepOld gives what stands a second name: the database, and its log where that could not be folded into it.
func keepOld(ctx context.Context, path string, now time.Time) (kept string, err error) {
	if _, err := os.Lstat(path); errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	if db, err := open(path, 0); err == nil { // closing the last connection folds the log in
		_, _ = db.ExecContext(ctx, `PRAGMA wal_checkpoint(TRUNCATE)`) // of a damaged one the log is kept as it is
		_ = db.Close()
	}
	kept = unused(path+".replaced-"+now.UTC().Format("20060102T150405"), "")
	for _, suffix := range []string{"", "-wal"} {
		if info, err := os.Stat(path + suffix); err != nil || suffix != "" && info.Size() == 0 {
			continue
		}
		if err := link(path+suffix, kept+suffix); err != nil {
			return "", fmt.Errorf("keeping what stands: %w", explain(err))
		}
	}
	return kept, nil
}

// link gives a file a second name, or copies it where the disk knows no second names.
func link(from, to string) error {
	if err := os.Link(from, to); err == nil {
		return nil
	}
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	if _, err := io.Copy(out, in); err != nil {
		out.Close()
		_ = os.Remove(to)
		return err
	}
	return errors.Join(out.Sync(), out.Close())
}
