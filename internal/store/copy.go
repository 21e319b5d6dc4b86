package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"sort"
	"strings"
	"time"
)

// Report is what a database was found to hold when every page and document of it was read.
type Report struct {
	Estate  string    `json:"estate"`
	Blocks  int       `json:"blocks"`
	Changes int       `json:"changes"`
	Last    time.Time `json:"last"` // change; zero with none
	Version int64     `json:"version"`
}

// Verify reads a whole database file without changing it. It is refused with ErrNotOurs, ErrDamaged, ErrNewer or
// ErrNoEstate, and the file is named.
func Verify(ctx context.Context, file string) (Report, error) {
	fail := func(err error) (Report, error) { return Report{}, fmt.Errorf("%s: %w", file, err) }
	info, err := os.Stat(file)
	switch {
	case err != nil:
		return fail(explain(err))
	case info.IsDir():
		return fail(fmt.Errorf("%w: it is a folder", ErrNotOurs))
	case info.Size() == 0:
		return fail(fmt.Errorf("%w: it is empty", ErrNotOurs))
	}
	db, err := reading(file)
	if err != nil {
		return fail(explain(err))
	}
	defer db.Close()
	r, err := examine(ctx, db)
	if err != nil {
		return r, fmt.Errorf("%s: %w", file, err)
	}
	return r, nil
}

func reading(file string) (*sql.DB, error) {
	abs, err := filepath.Abs(file)
	if err != nil {
		return nil, err
	}
	u := url.URL{Scheme: "file", Opaque: (&url.URL{Path: abs}).EscapedPath(), RawQuery: "mode=ro&_pragma=busy_timeout(5000)"}
	db, err := sql.Open("sqlite", u.String())
	if err == nil {
		db.SetMaxOpenConns(1)
	}
	return db, err
}

// examine reads every page, every document and every kept file of a database.
func examine(ctx context.Context, db *sql.DB) (Report, error) {
	var r Report
	var said string
	if err := db.QueryRowContext(ctx, `PRAGMA integrity_check(1)`).Scan(&said); err != nil {
		return r, explain(err)
	}
	if said != "ok" {
		return r, fmt.Errorf("%w: %s", ErrDamaged, said)
	}
	var tables int
	if err := db.QueryRowContext(ctx, `SELECT count(*) FROM sqlite_schema WHERE type = 'table' AND name IN ('estate', 'block', 'document', 'change', 'goose_db_version')`).Scan(&tables); err != nil || tables < 3 {
		return r, ErrNotOurs
	}
	if err := db.QueryRowContext(ctx, `SELECT max(version_id) FROM goose_db_version`).Scan(&r.Version); err != nil {
		return r, ErrNotOurs
	}
	if r.Version > newest() {
		return r, fmt.Errorf("%w: its version is %d, this program knows %d", ErrNewer, r.Version, newest())
	}
	if err := examineDocuments(ctx, db, &r); err != nil {
		return r, err
	}
	if err := examineFiles(ctx, db, r.Version); err != nil {
		return r, err
	}
	var last sql.NullString
	if err := db.QueryRowContext(ctx, `SELECT count(*), max(at) FROM change`).Scan(&r.Changes, &last); err != nil {
		return r, explain(err)
	}
	if last.Valid {
		r.Last, _ = time.Parse(time.RFC3339, last.String)
	}
	if r.Estate == "" {
		return r, ErrNoEstate
	}
	return r, nil
}

// Versions of the database from which something is kept as it is now.
const (
	filesSince   = 3
	digestsSince = 4
	oneTableFrom = 5 // documents stand in one table, and records beside them
)

func examineDocuments(ctx context.Context, db *sql.DB, r *Report) error {
	digest := "''"
	if r.Version >= digestsSince {
		digest = "digest"
	}
	query := `SELECT 'the estate', body, ` + digest + `, 0 FROM estate UNION ALL SELECT 'block ' || id, body, ` + digest + `, removed FROM block`
	if r.Version >= oneTableFrom {
		query = `SELECT CASE kind WHEN 'estate' THEN 'the estate' ELSE kind || ' ' || id END, body, digest, removed FROM document`
	}
	rows, err := db.QueryContext(ctx, query)
	if err != nil {
		return explain(err)
	}
	defer rows.Close()
	for rows.Next() {
		var what, body, dg string
		var removed bool
		if err := rows.Scan(&what, &body, &dg, &removed); err != nil {
			return explain(err)
		}
		var doc struct{ Name string }
		if err := json.Unmarshal([]byte(body), &doc); err != nil || dg != "" && dg != digestOf([]byte(body)) {
			return fmt.Errorf("%w: %s is not as it was written", ErrDamaged, what)
		}
		if what == "the estate" {
			r.Estate = doc.Name
		} else if !removed && strings.HasPrefix(what, "block ") {
			r.Blocks++
		}
	}
	return explain(rows.Err())
}

func examineFiles(ctx context.Context, db *sql.DB, version int64) error {
	if version < filesSince {
		return nil
	}
	rows, err := db.QueryContext(ctx, `SELECT digest, body FROM file`)
	if err != nil {
		return explain(err)
	}
	defer rows.Close()
	for rows.Next() {
		var digest string
		var packed []byte
		if err := rows.Scan(&digest, &packed); err != nil {
			return explain(err)
		}
		if _, err := unpack(digest, packed); err != nil {
			return err
		}
	}
	return explain(rows.Err())
}

// unused is a name that no file has: the stem with the ending, or with a number between them.
func unused(stem, ending string) string {
	free := stem + ending
	for i := 2; ; i++ {
		if _, err := os.Lstat(free); errors.Is(err, fs.ErrNotExist) {
			return free
		}
		free = fmt.Sprintf("%s-%d%s", stem, i, ending)
	}
}

func (s *Store) vacuumInto(ctx context.Context, to string) error {
	f, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return explain(err)
	}
	f.Close()
	if _, err := s.db.ExecContext(ctx, `VACUUM INTO ?`, to); err != nil {
		_ = os.Remove(to)
		return explain(err)
	}
	return nil
}

// Backup writes a whole, consistent copy to a file that must not exist, and reads it back; it may run while others work.
// A folder that holds no estate is refused.
func (s *Store) Backup(ctx context.Context, to string) (Report, error) {
	if _, err := os.Lstat(to); err == nil {
		return Report{}, fmt.Errorf("%s exists already: name a new file", to)
	}
	if _, err := s.Estate(ctx); errors.Is(err, ErrNotFound) {
		return Report{}, fmt.Errorf("%s: %w", s.dir, ErrNoEstate)
	}
	part := unused(to, ".part")
	s.mu.RLock()
	err := s.vacuumInto(ctx, part)
	s.mu.RUnlock()
	if err != nil {
		return Report{}, err
	}
	r, err := Verify(ctx, part)
	if err == nil {
		err = errors.Join(synced(part), os.Rename(part, to), synced(filepath.Dir(to)))
	}
	if err != nil {
		_ = os.Remove(part)
		return Report{}, fmt.Errorf("the copy was not kept: %w", err)
	}
	return r, nil
}

// synced asks that a file or folder reaches the disk.
func synced(path string) error {
	f, err := os.Open(path)
	if err != nil {
		return explain(err)
	}
	return errors.Join(f.Sync(), f.Close())
}

// copiesName is the folder of the copies that are made by themselves; how many are kept of each kind.
const (
	copiesName    = "copies"
	keepDaily     = 7
	keepWeekly    = 4
	keepMonthly   = 12
	stampOfCopies = "20060102T150405"
)

// CopyInfo is a copy in the data folder.
type CopyInfo struct {
	Name  string    `json:"name"`
	At    time.Time `json:"at"`
	Bytes int64     `json:"bytes"`
}

// Copies are the copies in the data folder, newest first.
func (s *Store) Copies() []CopyInfo { return copiesIn(s.dir) }

func copiesIn(dir string) []CopyInfo {
	out := []CopyInfo{}
	entries, _ := os.ReadDir(filepath.Join(dir, copiesName)) // none are none
	for _, e := range entries {
		stamp, ok := strings.CutPrefix(strings.TrimSuffix(e.Name(), ".db"), "slowroot-")
		at, err := time.Parse(stampOfCopies, stamp[:min(len(stamp), len(stampOfCopies))])
		info, bad := e.Info()
		if !ok || err != nil || bad != nil || !strings.HasSuffix(e.Name(), ".db") {
			continue
		}
		out = append(out, CopyInfo{e.Name(), at, info.Size()})
	}
	sort.Slice(out, func(i, j int) bool { // of one second the one with the higher number is newer
		a, b := out[i], out[j]
		if !a.At.Equal(b.At) {
			return a.At.After(b.At)
		}
		if len(a.Name) != len(b.Name) {
			return len(a.Name) > len(b.Name)
		}
		return a.Name > b.Name
	})
	return out
}

// CopyPath is the file of a copy, ErrNotFound where there is none of that name.
func (s *Store) CopyPath(name string) (string, error) {
	for _, c := range s.Copies() {
		if c.Name == name {
			return filepath.Join(s.dir, copiesName, name), nil
		}
	}
	return "", fmt.Errorf("copy %q: %w", name, ErrNotFound)
}

// candidates are files of a folder that may hold a good copy, newest first.
func candidates(dir string) []string {
	var out []string
	for _, c := range copiesIn(dir) {
		out = append(out, filepath.Join(dir, copiesName, c.Name))
	}
	for _, pattern := range []string{".replaced-*", ".before-*"} {
		more, _ := filepath.Glob(filepath.Join(dir, FileName+pattern))
		out = append(out, more...)
	}
	when := func(f string) time.Time {
		info, err := os.Stat(f)
		if err != nil {
			return time.Time{}
		}
		return info.ModTime()
	}
	sort.SliceStable(out, func(i, j int) bool { return when(out[i]).After(when(out[j])) })
	return out
}

// Copy makes a copy in the data folder now and lets go of those no longer kept.
func (s *Store) Copy(ctx context.Context) (CopyInfo, error) {
	folder := filepath.Join(s.dir, copiesName)
	if err := private(folder); err != nil {
		return CopyInfo{}, explain(err)
	}
	at := s.now().UTC()
	to := unused(filepath.Join(folder, "slowroot-"+at.Format(stampOfCopies)), ".db")
	if _, err := s.Backup(ctx, to); err != nil {
		return CopyInfo{}, err
	}
	for _, old := range surplus(s.Copies()) {
		if old.Name == filepath.Base(to) {
			continue // of copies made within one second the last stays whatever its name
		}
		if err := os.Remove(filepath.Join(folder, old.Name)); err != nil {
			return CopyInfo{}, explain(err)
		}
	}
	info, err := os.Stat(to)
	if err != nil {
		return CopyInfo{}, explain(err)
	}
	return CopyInfo{filepath.Base(to), at.Truncate(time.Second), info.Size()}, nil
}

// CopyDue reports that there is an estate and no copy of today.
func (s *Store) CopyDue(ctx context.Context) bool {
	if _, err := s.Estate(ctx); err != nil {
		return false
	}
	list := s.Copies()
	return len(list) == 0 || list[0].At.Format("20060102") != s.now().UTC().Format("20060102")
}

// surplus are the copies that are neither the last of one of the last seven days that have one, nor of one of four
// weeks, nor of one of twelve months. list is newest first.
func surplus(list []CopyInfo) []CopyInfo {
	keep := map[string]bool{}
	for _, rule := range []struct {
		n  int
		of func(time.Time) string
	}{{keepDaily, func(t time.Time) string { return t.Format("20060102") }},
		{keepWeekly, func(t time.Time) string { y, w := t.ISOWeek(); return fmt.Sprint(y, "W", w) }},
		{keepMonthly, func(t time.Time) string { return t.Format("200601") }}} {
		seen := map[string]bool{}
		for _, c := range list {
			if k := rule.of(c.At); !seen[k] && len(seen) < rule.n {
				seen[k], keep[c.Name] = true, true
			}
		}
	}
	var out []CopyInfo
	for _, c := range list {
		if !keep[c.Name] {
			out = append(out, c)
		}
	}
	return out
}

// NoteTaken remembers that a copy left the data folder; Taken is when that was last, zero when never.
func (s *Store) NoteTaken(ctx context.Context) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		_, err := tx.ExecContext(ctx, `INSERT INTO keeping (name, value) VALUES ('taken', ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value`, s.now().UTC().Format(time.RFC3339))
		return err
	})
}
func (s *Store) Taken(ctx context.Context) (time.Time, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	var text string
	err := s.db.QueryRowContext(ctx, `SELECT value FROM keeping WHERE name = 'taken'`).Scan(&text)
	if errors.Is(err, sql.ErrNoRows) {
		return time.Time{}, nil
	}
	if err != nil {
		return time.Time{}, explain(err)
	}
	return time.Parse(time.RFC3339, text)
}

// remindAfter is how long a copy outside the data folder serves.
const remindAfter = 7 * 24 * time.Hour

// RemindToCopy reports that no copy has left the data folder for seven days although something was changed since.
func (s *Store) RemindToCopy(ctx context.Context) (bool, error) {
	taken, err := s.Taken(ctx)
	if err != nil {
		return false, err
	}
	s.mu.RLock()
	defer s.mu.RUnlock()
	var first sql.NullString
	err = s.db.QueryRowContext(ctx, `SELECT min(at) FROM change WHERE at > ?`, taken.UTC().Format(time.RFC3339)).Scan(&first)
	if err != nil || !first.Valid {
		return false, explain(err)
	}
	at, err := time.Parse(time.RFC3339, first.String)
	return err == nil && s.now().Sub(at) >= remindAfter, err
}

// Folder is the data folder.
func (s *Store) Folder() string { return s.dir }
