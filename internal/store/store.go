// Package store keeps an estate in SQLite: current documents with revisions, and a change history
// written in the same transaction as each change. It knows no rule of the trade.
//
// A data folder holds the database, its log while a program runs, the copies made by themselves, and two small notes:
// one that an estate lives here, so that a lost database is never taken for an empty one, and one while a program runs.
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
	"strconv"
	"strings"
	"sync"
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
	ErrDisk     = errors.New("the disk reported an error: nothing was changed")
	ErrInUse    = errors.New("another slowroot is already using this data folder")
	ErrNoChange = errors.New("there is nothing to undo")
	ErrMovedOn  = errors.New("this is not your last change any more")
	ErrNotOurs  = errors.New("this file is not a slowroot database")
	ErrDamaged  = errors.New("the database is damaged")
	ErrMissing  = errors.New("this folder held an estate and its database is missing")
	ErrNewer    = errors.New("this database was written by a newer slowroot")
	ErrNoEstate = errors.New("this holds no estate")
)

// Kind of document.
type Kind string

const (
	EstateDoc   Kind = "estate"   // one, with the id ""
	BlockDoc    Kind = "block"    //
	PlantingDoc Kind = "planting" // of the block that is its parent
	RowsDoc     Kind = "rows"     // as planted, with the id of the planting; the block is its parent
	SheetDoc    Kind = "sheet"    // an estate's own practice sheet
)

// Doc is a document with its revision. Schema is the version of its body's form. Err is set where the body does not
// have the digest it was written with: a character of it changed on the disk.
type Doc struct {
	Kind     Kind
	ID       string
	Parent   string
	Schema   int
	Revision int
	Body     []byte
	Err      error
}

// Write is one document to be written. Revision is the one the writer read: 0 creates. A nil Body
// removes it. A zero Schema is 1.
type Write struct {
	Kind     Kind
	ID       string
	Revision int
	Body     []byte
	Parent   string
	Schema   int
}

func (w Write) schema() int { return max(w.Schema, 1) }

// File is a long record to be kept with a change.
type File struct{ Kind, Text string }

// Options change how a store is opened. The zero Options are the usual ones.
type Options struct {
	MaxPages int              // limits the size of the database, in pages of 4096 bytes; 0 is no limit
	Now      func() time.Time // for the history; nil is the clock
	AsItIs   bool             // go on with what is there although the log of the last run is missing
	// Upcast gives a document of an older form as the documents and records of now, nothing where it has the form of
	// now. It is asked when a folder is opened and at undo. nil knows no older form.
	Upcast func(Doc) ([]Write, []Entry, error)
}

// Store is an open data folder. It is safe for concurrent use.
type Store struct {
	mu      sync.RWMutex // held for reading while the database is used, for writing while it is swapped
	db      *sql.DB      // one connection: one writer, and reads between writes
	lock    *os.File
	dir     string
	now     func() time.Time
	options Options

	health  sync.Mutex
	trouble error     // what the last full check found
	checked time.Time // when it ran
}

// Open opens or creates the data folder, takes it for this process alone, looks the database over, backs it up when a
// migration is due, and migrates it. A folder that held an estate is never begun anew: where the database or the log of
// the last run is missing, is empty or damaged, Open refuses with ErrMissing or ErrDamaged and names the newest good copy.
func Open(ctx context.Context, dir string, o Options) (*Store, error) {
	if err := private(dir); err != nil {
		return nil, fmt.Errorf("making data folder %s: %w", dir, explain(err))
	}
	lock, err := takeFolder(dir)
	if err != nil {
		return nil, err
	}
	for _, half := range []string{".taking-*", ".arriving-*", FileName + "*.incoming*", filepath.Join(copiesName, "*.part*")} {
		left, _ := filepath.Glob(filepath.Join(dir, half)) // of a run that was ended in the middle
		for _, f := range left {
			_ = os.RemoveAll(f)
		}
	}
	s := &Store{lock: lock, dir: dir, now: o.Now, options: o}
	if s.now == nil {
		s.now = time.Now
	}
	if err := s.open(ctx); err != nil {
		s.Close()
		return nil, err
	}
	return s, nil
}

// private makes a folder that only its owner may read, and closes one that others could.
func private(dir string) error {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	return os.Chmod(dir, 0o700)
}

func (s *Store) open(ctx context.Context) error {
	path := filepath.Join(s.dir, FileName)
	if err := s.lookOver(ctx, path); err != nil {
		return err
	}
	if f, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o600); err == nil { // the log takes over its rights
		f.Close()
		_ = os.Chmod(path, 0o600)
	}
	var err error
	if s.db, err = open(path, s.options.MaxPages); err != nil {
		return fmt.Errorf("opening %s: %w", path, s.offering(explain(err)))
	}
	if err := quickCheck(ctx, s.db); err != nil {
		return fmt.Errorf("%s: %w", path, s.offering(err))
	}
	if err := s.migrate(ctx, path); err != nil {
		return fmt.Errorf("preparing %s: %w", path, explain(err))
	}
	if err := s.fillDigests(ctx); err != nil {
		return fmt.Errorf("preparing %s: %w", path, explain(err))
	}
	if err := s.bringForward(ctx); err != nil {
		return fmt.Errorf("preparing %s: %w", path, explain(err))
	}
	if _, err := s.Estate(ctx); !errors.Is(err, ErrNotFound) {
		s.noteEstate()
	}
	return s.noteRunning("open")
}

func takeFolder(dir string) (*os.File, error) {
	f, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600)
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

// newest is the version of the last migration.
func newest() int64 {
	names, _ := fs.Glob(migrations, "migrations/*.sql") // the pattern is sound
	var last int64
	for _, n := range names {
		v, _ := strconv.ParseInt(strings.SplitN(filepath.Base(n), "_", 2)[0], 10, 64)
		last = max(last, v)
	}
	return last
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
	if at > newest() {
		return fmt.Errorf("%w: its version is %d, this program knows %d; use that program, or restore an older copy", ErrNewer, at, newest())
	}
	pending, err := p.HasPending(ctx)
	if err != nil {
		return err
	}
	if pending && at > 0 {
		to := unused(fmt.Sprintf("%s.before-%03d-%s", path, at+1, s.now().UTC().Format("20060102T150405")), "")
		if err := s.vacuumInto(ctx, to); err != nil {
			return fmt.Errorf("backing up before migration: %w", err)
		}
	}
	_, err = p.Up(ctx)
	return err
}

// Close gives the folder back.
func (s *Store) Close() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	var err error
	if s.db != nil {
		_ = s.noteRunning("closing")
		if err = s.db.Close(); err == nil {
			_ = os.Remove(s.runningNote())
		}
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
		case sqlite3.SQLITE_NOTADB:
			return fmt.Errorf("%w (%v)", ErrNotOurs, err)
		case sqlite3.SQLITE_CORRUPT:
			return fmt.Errorf("%w (%v)", ErrDamaged, err)
		case sqlite3.SQLITE_IOERR:
			return fmt.Errorf("%w; look at its health and its space (%v)", ErrDisk, err)
		}
	}
	switch {
	case errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EDQUOT):
		return fmt.Errorf("%w (%v)", ErrFull, err)
	case errors.Is(err, fs.ErrPermission), errors.Is(err, syscall.EROFS):
		return fmt.Errorf("%w (%v)", ErrReadOnly, err)
	case errors.Is(err, syscall.EIO):
		return fmt.Errorf("%w (%v)", ErrDisk, err)
	}
	return err
}

func digestOf(body []byte) string {
	sum := sha256.Sum256(body)
	return hex.EncodeToString(sum[:16])
}

// fillDigests gives documents written before there were digests theirs.
func (s *Store) fillDigests(ctx context.Context) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		rows, err := tx.QueryContext(ctx, `SELECT rowid, body FROM document WHERE digest = ''`)
		if err != nil {
			return err
		}
		found := map[int64]string{}
		for rows.Next() {
			var id int64
			var body string
			if err := rows.Scan(&id, &body); err != nil {
				rows.Close()
				return err
			}
			found[id] = digestOf([]byte(body))
		}
		if err := errors.Join(rows.Err(), rows.Close()); err != nil {
			return err
		}
		for id, d := range found {
			if _, err := tx.ExecContext(ctx, `UPDATE document SET digest = ? WHERE rowid = ?`, d, id); err != nil {
				return err
			}
		}
		return nil
	})
}

// whole sets Err where a body does not have its digest.
func (d *Doc) whole(digest string) {
	if digest != digestOf(d.Body) {
		d.Err = fmt.Errorf("%w: what was written here has changed on the disk; restore a copy, or undo to an earlier state", ErrDamaged)
	}
}

// Estate is the estate's document, ErrNotFound before one is begun.
func (s *Store) Estate(ctx context.Context) (Doc, error) { return s.one(ctx, EstateDoc, "") }

// Block is one block.
func (s *Store) Block(ctx context.Context, id string) (Doc, error) { return s.one(ctx, BlockDoc, id) }

func (s *Store) one(ctx context.Context, kind Kind, id string) (Doc, error) {
	list, err := s.read(ctx, `kind = ? AND id = ?`, string(kind), id)
	if err != nil {
		return Doc{}, err
	}
	if len(list) == 0 {
		return Doc{}, ErrNotFound
	}
	return list[0], list[0].Err
}

// Of are the documents of a kind that are not removed and have that parent, in the order they were made; one that is
// damaged stands among them with its Err.
func (s *Store) Of(ctx context.Context, kind Kind, parent string) ([]Doc, error) {
	return s.read(ctx, `kind = ? AND parent = ?`, string(kind), parent)
}

// All are the documents of a kind, whatever their parent.
func (s *Store) All(ctx context.Context, kind Kind) ([]Doc, error) {
	return s.read(ctx, `kind = ?`, string(kind))
}

func (s *Store) read(ctx context.Context, where string, args ...any) ([]Doc, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	rows, err := s.db.QueryContext(ctx, `SELECT kind, id, parent, schema, revision, body, digest FROM document WHERE removed = 0 AND `+where+` ORDER BY seq`, args...)
	if err != nil {
		return nil, explain(err)
	}
	defer rows.Close()
	var out []Doc
	for rows.Next() {
		var d Doc
		var body, digest string
		if err := rows.Scan(&d.Kind, &d.ID, &d.Parent, &d.Schema, &d.Revision, &body, &digest); err != nil {
			return nil, explain(err)
		}
		d.Body = []byte(body)
		d.whole(digest)
		out = append(out, d)
	}
	return out, explain(rows.Err())
}

// SheetCopy is a practice sheet kept at adoption.
func (s *Store) SheetCopy(ctx context.Context, digest string) ([]byte, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	var body string
	err := s.db.QueryRowContext(ctx, `SELECT body FROM sheet_copy WHERE digest = ?`, digest).Scan(&body)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNotFound
	}
	return []byte(body), explain(err)
}

// KeepSheet stores a sheet's text under its digest; keeping it twice is no change.
func (s *Store) KeepSheet(ctx context.Context, digest, sheet string, body []byte) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		_, err := tx.ExecContext(ctx, `INSERT INTO sheet_copy (digest, sheet, body) VALUES (?, ?, ?) ON CONFLICT (digest) DO NOTHING`, digest, sheet, string(body))
		return err
	})
}

// File is a long record's text by its digest, ErrNotFound when it is not kept here.
func (s *Store) File(ctx context.Context, digest string) (string, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	var packed []byte
	err := s.db.QueryRowContext(ctx, `SELECT body FROM file WHERE digest = ?`, digest).Scan(&packed)
	if errors.Is(err, sql.ErrNoRows) {
		return "", ErrNotFound
	}
	if err != nil {
		return "", explain(err)
	}
	return unpack(digest, packed)
}

func unpack(digest string, packed []byte) (string, error) {
	z, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		return "", fmt.Errorf("%w: file %s: %v", ErrDamaged, digest, err)
	}
	text, err := io.ReadAll(z)
	if err == nil && (File{Text: string(text)}).Digest() != digest {
		err = errors.New("it does not have its digest")
	}
	if err != nil {
		return "", fmt.Errorf("%w: file %s: %v", ErrDamaged, digest, err)
	}
	return string(text), nil
}

// Digest names a file by its text.
func (f File) Digest() string {
	sum := sha256.Sum256([]byte(f.Text))
	return hex.EncodeToString(sum[:12])
}

func (f File) keep(ctx context.Context, tx *sql.Tx) error {
	var packed bytes.Buffer
	z := gzip.NewWriter(&packed)
	if _, err := io.WriteString(z, f.Text); err != nil {
		return err
	}
	if err := z.Close(); err != nil {
		return err
	}
	_, err := tx.ExecContext(ctx, `INSERT INTO file (digest, kind, body) VALUES (?, ?, ?) ON CONFLICT (digest) DO NOTHING`, f.Digest(), f.Kind, packed.Bytes())
	return err
}

func (s *Store) tx(ctx context.Context, f func(*sql.Tx) error) error {
	s.mu.RLock()
	defer s.mu.RUnlock()
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
