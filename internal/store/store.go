// Package store keeps an estate in SQLite: current documents with revisions, and a change history
// written in the same transaction as each change. It knows no rule of the trade.
package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"database/sql"
	"embed"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"syscall"
	"time"

	"github.com/pressly/goose/v3"
	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

//go:embed migrations/*.sql
var migrations embed.FS

// FileName is the database inside a data folder.
const FileName = "slowroot.db"

// Errors a caller can tell apart.
var (
	ErrNotFound = errors.New("there is no such thing in this estate")
	ErrStale    = errors.New("somebody changed this since it was read")
	ErrFull     = errors.New("the disk is full: nothing was changed")
	ErrReadOnly = errors.New("the database cannot be written: nothing was changed")
	ErrInUse    = errors.New("another slowroot is already using this data folder")
	ErrNoChange = errors.New("there is nothing to undo")
	ErrMovedOn  = errors.New("this was changed again since; undo the later change first")
	ErrNotOurs  = errors.New("this file is not a slowroot database")
)

// Kind of document.
type Kind string

const (
	EstateDoc Kind = "estate"
	BlockDoc  Kind = "block"
)

// Doc is a document with its revision. ID is empty for the estate.
type Doc struct {
	ID       string
	Revision int
	Body     []byte
}

// Write is one document to be written. Revision is the one the writer read: 0 creates. A nil Body
// removes a block.
type Write struct {
	Kind     Kind
	ID       string
	Revision int
	Body     []byte
}

// Change is one entry of the history.
type Change struct {
	ID     int64     `json:"id"`
	At     time.Time `json:"at"`
	Who    string    `json:"who"`
	What   string    `json:"what"`
	Undone bool      `json:"undone"`
	Undoes int64     `json:"undoes,omitempty"`
}

// Options change how a store is opened. The zero Options are the usual ones.
type Options struct {
	MaxPages int              // limits the size of the database, in pages of 4096 bytes; 0 is no limit
	Now      func() time.Time // for the history; nil is the clock
}

// Store is an open data folder. It is safe for concurrent use.
type Store struct {
	db   *sql.DB // one connection: one writer, and reads between writes
	lock *os.File
	dir  string
	now  func() time.Time
}

// Open opens or creates the data folder, takes it for this process alone, backs the database up when
// a migration is due, and migrates it.
func Open(ctx context.Context, dir string, o Options) (*Store, error) {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return nil, fmt.Errorf("making data folder %s: %w", dir, explain(err))
	}
	lock, err := takeFolder(dir)
	if err != nil {
		return nil, err
	}
	s := &Store{lock: lock, dir: dir, now: o.Now}
	if s.now == nil {
		s.now = time.Now
	}
	path := filepath.Join(dir, FileName)
	if s.db, err = open(path, o.MaxPages); err != nil {
		s.Close()
		return nil, fmt.Errorf("opening %s: %w", path, explain(err))
	}
	if err := s.migrate(ctx, path); err != nil {
		s.Close()
		return nil, fmt.Errorf("preparing %s: %w", path, explain(err))
	}
	return s, nil
}

func takeFolder(dir string) (*os.File, error) {
	f, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_CREATE|os.O_RDWR, 0o644)
	if err != nil {
		return nil, fmt.Errorf("taking data folder %s: %w", dir, explain(err))
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		f.Close()
		return nil, fmt.Errorf("%w: %s", ErrInUse, dir)
	}
	return f, nil
}

func open(path string, maxPages int) (*sql.DB, error) {
	dsn := "file:" + path + "?_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(1)&_pragma=busy_timeout(5000)&_txlock=immediate"
	if maxPages > 0 {
		dsn += fmt.Sprintf("&_pragma=max_page_count(%d)", maxPages)
	}
	db, err := sql.Open("sqlite", dsn)
	if err != nil {
		return nil, err
	}
	db.SetMaxOpenConns(1)
	return db, db.Ping()
}

func (s *Store) migrate(ctx context.Context, path string) error {
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, s.db, sub)
	if err != nil {
		return err
	}
	at, err := p.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	pending, err := p.HasPending(ctx)
	if err != nil {
		return err
	}
	if pending && at > 0 {
		to := fmt.Sprintf("%s.before-%03d-%s", path, at+1, s.now().UTC().Format("20060102T150405"))
		if err := s.Backup(ctx, to); err != nil {
			return fmt.Errorf("backing up before migration: %w", err)
		}
	}
	_, err = p.Up(ctx)
	return err
}

// Close gives the folder back.
func (s *Store) Close() error {
	var err error
	if s.db != nil {
		err = s.db.Close()
	}
	return errors.Join(err, s.lock.Close())
}

// explain turns the driver's errors into the ones callers know.
func explain(err error) error {
	var se *sqlite.Error
	if errors.As(err, &se) {
		switch se.Code() & 0xff {
		case sqlite3.SQLITE_FULL:
			return fmt.Errorf("%w (%v)", ErrFull, err)
		case sqlite3.SQLITE_READONLY, sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_PERM:
			return fmt.Errorf("%w (%v)", ErrReadOnly, err)
		case sqlite3.SQLITE_NOTADB, sqlite3.SQLITE_CORRUPT:
			return fmt.Errorf("%w (%v)", ErrNotOurs, err)
		}
	}
	switch {
	case errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EDQUOT):
		return fmt.Errorf("%w (%v)", ErrFull, err)
	case errors.Is(err, fs.ErrPermission), errors.Is(err, syscall.EROFS):
		return fmt.Errorf("%w (%v)", ErrReadOnly, err)
	}
	return err
}

// Estate is the estate's document, ErrNotFound before one is begun.
func (s *Store) Estate(ctx context.Context) (Doc, error) {
	return one(s.db.QueryRowContext(ctx, `SELECT '', revision, body FROM estate WHERE id = 1`))
}

// Block is one block.
func (s *Store) Block(ctx context.Context, id string) (Doc, error) {
	return one(s.db.QueryRowContext(ctx, `SELECT id, revision, body FROM block WHERE id = ? AND removed = 0`, id))
}

func one(row *sql.Row) (Doc, error) {
	var d Doc
	var body string
	err := row.Scan(&d.ID, &d.Revision, &body)
	d.Body = []byte(body)
	if errors.Is(err, sql.ErrNoRows) {
		return Doc{}, ErrNotFound
	}
	return d, explain(err)
}

// Blocks are all blocks that are not removed, in the order they were made.
func (s *Store) Blocks(ctx context.Context) ([]Doc, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT id, revision, body FROM block WHERE removed = 0 ORDER BY rowid`)
	if err != nil {
		return nil, explain(err)
	}
	defer rows.Close()
	var out []Doc
	for rows.Next() {
		var d Doc
		var body string
		if err := rows.Scan(&d.ID, &d.Revision, &body); err != nil {
			return nil, explain(err)
		}
		d.Body = []byte(body)
		out = append(out, d)
	}
	return out, explain(rows.Err())
}

// SheetCopy is a practice sheet kept at adoption.
func (s *Store) SheetCopy(ctx context.Context, digest string) ([]byte, error) {
	var body string
	err := s.db.QueryRowContext(ctx, `SELECT body FROM sheet_copy WHERE digest = ?`, digest).Scan(&body)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNotFound
	}
	return []byte(body), explain(err)
}

// KeepSheet stores a sheet's text under its digest; keeping it twice is no change.
func (s *Store) KeepSheet(ctx context.Context, digest, sheet string, body []byte) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO sheet_copy (digest, sheet, body) VALUES (?, ?, ?) ON CONFLICT (digest) DO NOTHING`, digest, sheet, string(body))
	return explain(err)
}

// File is a long record's text by its digest, ErrNotFound when it is not kept here.
func (s *Store) File(ctx context.Context, digest string) (string, error) {
	var packed []byte
	err := s.db.QueryRowContext(ctx, `SELECT body FROM file WHERE digest = ?`, digest).Scan(&packed)
	if errors.Is(err, sql.ErrNoRows) {
		return "", ErrNotFound
	}
	if err != nil {
		return "", explain(err)
	}
	z, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		return "", fmt.Errorf("%w: file %s: %v", ErrNotOurs, digest, err)
	}
	text, err := io.ReadAll(z)
	return string(text), err
}

// KeepFile stores a long record's text and returns its digest; keeping it twice is no change.
func (s *Store) KeepFile(ctx context.Context, kind, text string) (string, error) {
	sum := sha256.Sum256([]byte(text))
	digest := hex.EncodeToString(sum[:12])
	var packed bytes.Buffer
	z := gzip.NewWriter(&packed)
	if _, err := io.WriteString(z, text); err != nil {
		return "", err
	}
	if err := z.Close(); err != nil {
		return "", err
	}
	_, err := s.db.ExecContext(ctx, `INSERT INTO file (digest, kind, body) VALUES (?, ?, ?) ON CONFLICT (digest) DO NOTHING`, digest, kind, packed.Bytes())
	return digest, explain(err)
}

// Apply makes one change: all writes or none, with its history entry. A write whose revision is not
// the current one fails with ErrStale and changes nothing.
func (s *Store) Apply(ctx context.Context, who, what string, writes ...Write) ([]Doc, error) {
	var out []Doc
	err := s.tx(ctx, func(tx *sql.Tx) error {
		change, err := s.begin(ctx, tx, who, what, 0)
		if err != nil {
			return err
		}
		for _, w := range writes {
			d, err := put(ctx, tx, change, w)
			if err != nil {
				return err
			}
			out = append(out, d)
		}
		return nil
	})
	return out, err
}

func (s *Store) tx(ctx context.Context, f func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return explain(err)
	}
	if err := f(tx); err != nil {
		_ = tx.Rollback() // on a full disk SQLite has rolled back by itself
		return explain(err)
	}
	return explain(tx.Commit())
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
		_, err = tx.ExecContext(ctx, `INSERT INTO estate (id, body, revision) VALUES (1, ?, ?) ON CONFLICT (id) DO UPDATE SET body = excluded.body, revision = excluded.revision`, after, next)
	case w.Kind == EstateDoc:
		_, err = tx.ExecContext(ctx, `DELETE FROM estate WHERE id = 1`)
	case w.Body == nil:
		_, err = tx.ExecContext(ctx, `UPDATE block SET removed = 1, revision = ? WHERE id = ?`, next, w.ID)
	default:
		_, err = tx.ExecContext(ctx, `INSERT INTO block (id, body, revision) VALUES (?, ?, ?) ON CONFLICT (id) DO UPDATE SET body = excluded.body, revision = excluded.revision, removed = 0`, w.ID, after, next)
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

// Backup writes a whole, consistent copy to a file that must not exist; it may run while others read.
func (s *Store) Backup(ctx context.Context, to string) error {
	if _, err := os.Stat(to); err == nil {
		return fmt.Errorf("%s exists already: name a new file", to)
	}
	_, err := s.db.ExecContext(ctx, `VACUUM INTO ?`, to)
	return explain(err)
}

// Restore puts a backup in place of a data folder's database. The database it replaces is kept beside
// it with the time in its name, which is returned; empty when there was none.
func Restore(ctx context.Context, from, dir string, now time.Time) (kept string, err error) {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return "", explain(err)
	}
	lock, err := takeFolder(dir)
	if err != nil {
		return "", err
	}
	defer lock.Close()
	db, err := sql.Open("sqlite", "file:"+from+"?mode=ro")
	if err != nil {
		return "", err
	}
	defer db.Close()
	var ok, tables string
	if err := db.QueryRowContext(ctx, `PRAGMA integrity_check`).Scan(&ok); err != nil {
		return "", fmt.Errorf("reading backup %s: %w", from, explain(err))
	}
	if err := db.QueryRowContext(ctx, `SELECT count(*) FROM sqlite_schema WHERE name IN ('estate', 'block', 'change')`).Scan(&tables); err != nil || ok != "ok" || tables != "3" {
		return "", fmt.Errorf("reading backup %s: %w", from, ErrNotOurs)
	}
	path := filepath.Join(dir, FileName)
	if _, err := os.Stat(path); err == nil {
		kept = path + ".replaced-" + now.UTC().Format("20060102T150405")
		old, err := open(path, 0) // fold the write-ahead log in before moving the file
		if err != nil {
			return "", explain(err)
		}
		if _, err := old.ExecContext(ctx, `VACUUM INTO ?`, kept); err != nil {
			old.Close()
			return "", explain(err)
		}
		if err := old.Close(); err != nil {
			return "", explain(err)
		}
		for _, suffix := range []string{"", "-wal", "-shm"} {
			if err := os.Remove(path + suffix); err != nil && !errors.Is(err, fs.ErrNotExist) {
				return kept, explain(err)
			}
		}
	}
	_, err = db.ExecContext(ctx, `VACUUM INTO ?`, path)
	return kept, explain(err)
}
