package store

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/pressly/goose/v3"
)

var ctx = context.Background()

func openStore(t *testing.T, dir string, o Options) *Store {
	t.Helper()
	s, err := Open(ctx, dir, o)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func write(t *testing.T, s *Store, w Write) Doc {
	t.Helper()
	d, err := s.Apply(ctx, "tester", "write "+w.ID, w)
	if err != nil {
		t.Fatal(err)
	}
	return d[0]
}

func TestRevisionsAndUndo(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	if _, err := s.Undo(ctx, "tester", 1); !errors.Is(err, ErrNoChange) {
		t.Errorf("undo of nothing: %v", err)
	}
	a := write(t, s, Write{Kind: BlockDoc, ID: "a", Revision: 0, Body: []byte(`{"v":1}`)})
	b := write(t, s, Write{Kind: BlockDoc, ID: "a", Revision: a.Revision, Body: []byte(`{"v":2}`)})
	if _, err := s.Apply(ctx, "x", "stale", Write{Kind: BlockDoc, ID: "a", Revision: a.Revision, Body: []byte(`{"v":3}`)}); !errors.Is(err, ErrStale) {
		t.Fatalf("a stale write answered %v", err)
	}
	if d, _ := s.Block(ctx, "a"); string(d.Body) != `{"v":2}` || d.Revision != b.Revision {
		t.Fatalf("after a stale write: %s at %d", d.Body, d.Revision)
	}
	h, err := s.History(ctx, Page{N: 10})
	if err != nil || len(h) != 2 {
		t.Fatalf("history %v, %v: a refused write must leave no entry", h, err)
	}
	if _, err := s.Undo(ctx, "tester", h[1].ID); !errors.Is(err, ErrMovedOn) {
		t.Errorf("undoing an older change: %v", err)
	}
	if _, err := s.Undo(ctx, "tester", h[0].ID); err != nil {
		t.Fatal(err)
	}
	d, _ := s.Block(ctx, "a")
	if string(d.Body) != `{"v":1}` || d.Revision != b.Revision+1 {
		t.Errorf("undo gave %s at %d", d.Body, d.Revision)
	}
	// The creation too can be undone, and a removal.
	if _, err := s.Undo(ctx, "tester", h[1].ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Block(ctx, "a"); !errors.Is(err, ErrNotFound) {
		t.Errorf("the block is still there: %v", err)
	}
	c := write(t, s, Write{Kind: BlockDoc, ID: "c", Revision: 0, Body: []byte(`{}`)})
	write(t, s, Write{Kind: BlockDoc, ID: "c", Revision: c.Revision, Body: nil})
	if _, err := s.Block(ctx, "c"); !errors.Is(err, ErrNotFound) {
		t.Error("removed block is found")
	}
	h, _ = s.History(ctx, Page{N: 1})
	if _, err := s.Undo(ctx, "tester", h[0].ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Block(ctx, "c"); err != nil {
		t.Errorf("undo of a removal: %v", err)
	}
}

func TestOneChangeIsAllOrNothing(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	_, err := s.Apply(ctx, "x", "two", Write{Kind: BlockDoc, ID: "a", Revision: 0, Body: []byte(`{}`)}, Write{Kind: BlockDoc, ID: "b", Revision: 0, Body: []byte(`not json`)})
	if err == nil {
		t.Fatal("a body that is not JSON was stored")
	}
	if bs, _ := s.All(ctx, BlockDoc); len(bs) != 0 {
		t.Errorf("half a change was kept: %d blocks", len(bs))
	}
}

func TestOneProcessPerFolder(t *testing.T) {
	dir := t.TempDir()
	s := openStore(t, dir, Options{})
	if _, err := Open(ctx, dir, Options{}); !errors.Is(err, ErrInUse) || !strings.Contains(err.Error(), dir) {
		t.Fatalf("a second process got %v", err)
	}
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	openStore(t, dir, Options{})
}

func TestDiskFull(t *testing.T) {
	if _, err := Open(ctx, t.TempDir(), Options{MaxPages: 4}); !errors.Is(err, ErrFull) {
		t.Fatalf("full at start: %v", err)
	}
	s := openStore(t, t.TempDir(), Options{MaxPages: 40})
	big := fmt.Sprintf(`{"text":%q}`, strings.Repeat("x", 40<<10))
	write(t, s, Write{Kind: BlockDoc, ID: "kept", Revision: 0, Body: []byte(`{"v":1}`)})
	var err error
	for i := 0; i < 20 && err == nil; i++ {
		_, err = s.Apply(ctx, "x", "big", Write{Kind: BlockDoc, ID: fmt.Sprint("big", i), Body: []byte(big)})
	}
	if !errors.Is(err, ErrFull) {
		t.Fatalf("full in the middle of a write: %v", err)
	}
	d, err := s.Block(ctx, "kept")
	if err != nil || string(d.Body) != `{"v":1}` {
		t.Fatalf("after a full disk the estate reads %s, %v", d.Body, err)
	}
	h, _ := s.History(ctx, Page{N: 100})
	bs, _ := s.All(ctx, BlockDoc)
	if len(h) != len(bs) {
		t.Errorf("%d changes for %d blocks: the failed write left a trace", len(h), len(bs))
	}
}

func TestReadOnlyAndForeignFiles(t *testing.T) {
	dir := t.TempDir()
	if err := os.WriteFile(filepath.Join(dir, FileName), []byte(strings.Repeat("this is no database. ", 100)), 0o644); err != nil {
		t.Fatal(err)
	}
	if _, err := Open(ctx, dir, Options{}); !errors.Is(err, ErrNotOurs) {
		t.Errorf("a foreign file: %v", err)
	}
	s := openStore(t, t.TempDir(), Options{})
	if _, err := s.db.Exec(`PRAGMA query_only = 1`); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Apply(ctx, "x", "write", Write{Kind: BlockDoc, ID: "a", Revision: 0, Body: []byte(`{}`)}); !errors.Is(err, ErrReadOnly) {
		t.Errorf("a read-only database: %v", err)
	}
}

// A database one migration behind is backed up before it is brought forward.
func TestBackupBeforeMigration(t *testing.T) {
	dir := t.TempDir()
	db, err := open(filepath.Join(dir, FileName), 0)
	if err != nil {
		t.Fatal(err)
	}
	sub, _ := fs.Sub(migrations, "migrations")
	p, err := goose.NewProvider(goose.DialectSQLite3, db, sub)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := p.UpTo(ctx, 1); err != nil {
		t.Fatal(err)
	}
	if _, err := db.Exec(`INSERT INTO block (id, body, revision) VALUES ('old', '{"v":1}', 1)`); err != nil {
		t.Fatal(err)
	}
	_ = db.Close()
	s := openStore(t, dir, Options{})
	if d, err := s.Block(ctx, "old"); err != nil || string(d.Body) != `{"v":1}` {
		t.Errorf("after migration: %s, %v", d.Body, err)
	}
	backups, _ := filepath.Glob(filepath.Join(dir, "*.before-002-*"))
	if len(backups) != 1 {
		t.Fatalf("backups before the migration: %v", backups)
	}
	again := t.TempDir()
	if err := os.Rename(backups[0], filepath.Join(again, FileName)); err != nil {
		t.Fatal(err)
	}
	if d, err := openStore(t, again, Options{}).Block(ctx, "old"); err != nil || string(d.Body) != `{"v":1}` {
		t.Errorf("the backup holds %s, %v", d.Body, err)
	}
}
