package store

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"
)

// estate fills a store with an estate of some blocks.
func estate(t testing.TB, dir, name string, blocks int) *Store {
	t.Helper()
	s, err := Open(ctx, dir, Options{})
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	writes := []Write{{Kind: EstateDoc, Body: []byte(fmt.Sprintf(`{"name":%q}`, name))}}
	for i := range blocks {
		writes = append(writes, Write{Kind: BlockDoc, ID: fmt.Sprint("b", i), Body: []byte(fmt.Sprintf(`{"name":"block %d","text":%q}`, i, strings.Repeat("x", 3000)))})
	}
	if _, err := s.Apply(ctx, "x", "began", writes...); err != nil {
		t.Fatal(err)
	}
	return s
}

func named(t *testing.T, dir string) string {
	t.Helper()
	s, err := Open(ctx, dir, Options{})
	if err != nil {
		t.Fatalf("%s cannot be opened: %v", dir, err)
	}
	defer s.Close()
	d, err := s.Estate(ctx)
	if err != nil {
		t.Fatal(err)
	}
	return strings.TrimSuffix(strings.TrimPrefix(string(d.Body), `{"name":"`), `"}`)
}

func TestBackupIsReadBack(t *testing.T) {
	s := estate(t, t.TempDir(), "Home", 3)
	file := filepath.Join(t.TempDir(), "copy.db")
	r, err := s.Backup(ctx, file)
	if err != nil || r.Estate != "Home" || r.Blocks != 3 || r.Changes != 1 || r.Last.IsZero() {
		t.Fatalf("%+v %v", r, err)
	}
	if info, err := os.Stat(file); err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("%v %v", info, err)
	}
	if _, err := s.Backup(ctx, file); err == nil || !strings.Contains(err.Error(), "exists already") {
		t.Errorf("a backup overwrote another: %v", err)
	}
	empty := openStore(t, t.TempDir(), Options{})
	if _, err := empty.Backup(ctx, filepath.Join(t.TempDir(), "none.db")); !errors.Is(err, ErrNoEstate) {
		t.Errorf("a folder without an estate: %v", err)
	}
	left, _ := filepath.Glob(file + ".part*")
	if len(left) != 0 {
		t.Errorf("left behind: %v", left)
	}
}

func TestOnlyTheOwnerReads(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	if err := os.Mkdir(dir, 0o755); err != nil {
		t.Fatal(err)
	}
	s := estate(t, dir, "Home", 1)
	if _, err := s.Copy(ctx); err != nil {
		t.Fatal(err)
	}
	seen := 0
	err := filepath.Walk(dir, func(path string, info os.FileInfo, err error) error {
		if err != nil {
			return err
		}
		seen++
		if want := map[bool]os.FileMode{true: 0o700, false: 0o600}[info.IsDir()]; info.Mode().Perm() != want {
			t.Errorf("%s is %o, want %o", path, info.Mode().Perm(), want)
		}
		return nil
	})
	if err != nil || seen < 7 {
		t.Fatalf("%d files: %v", seen, err)
	}
}

// Restoring: twice within a second, over a damaged database, from a damaged copy, from a copy of nothing, into a folder
// in use; what stands is kept, and what is refused is named and changes nothing.
func TestRestore(t *testing.T) {
	source := estate(t, t.TempDir(), "Copied", 2)
	file := filepath.Join(t.TempDir(), "copy.db")
	if _, err := source.Backup(ctx, file); err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	s := estate(t, dir, "Standing", 1)
	now := time.Date(2027, 3, 1, 8, 0, 0, 0, time.UTC)
	if _, err := Restore(ctx, file, dir, now); !errors.Is(err, ErrInUse) {
		t.Errorf("into a folder in use: %v", err)
	}
	_ = s.Close()
	text, _ := os.ReadFile(file)
	spoilt := filepath.Join(t.TempDir(), "spoilt.db")
	for what, body := range map[string][]byte{"cut short": text[:len(text)/2], "empty": {}, "no database": []byte(strings.Repeat("no database ", 300)), "a changed character": bytes.Replace(text, []byte("block 1"), []byte("block 7"), 1)} {
		if err := os.WriteFile(spoilt, body, 0o600); err != nil {
			t.Fatal(err)
		}
		if _, err := Restore(ctx, spoilt, dir, now); err == nil || !strings.Contains(err.Error(), spoilt) {
			t.Errorf("%s: %v, want a refusal that names the file", what, err)
		}
		if got := named(t, dir); got != "Standing" {
			t.Fatalf("after a refused restore (%s) the folder holds %q", what, got)
		}
	}
	var kept []string
	for range 3 {
		k, err := Restore(ctx, file, dir, now)
		if err != nil {
			t.Fatal(err)
		}
		kept = append(kept, k)
		if got := named(t, dir); got != "Copied" {
			t.Fatalf("restored: %q", got)
		}
	}
	if kept[0] == kept[1] || kept[1] == kept[2] || !strings.Contains(kept[0], "replaced-20270301T080000") {
		t.Errorf("kept as %v", kept)
	}
	if r, err := Verify(ctx, kept[0]); err != nil || r.Estate != "Standing" {
		t.Errorf("what was replaced: %+v %v", r, err)
	}
	path := filepath.Join(dir, FileName)
	if err := os.WriteFile(path, bytes.Repeat([]byte("rubbish "), 4000), 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := Open(ctx, dir, Options{}); err == nil || !strings.Contains(err.Error(), "slowroot restore --data") {
		t.Errorf("a damaged database: %v", err)
	}
	if _, err := Restore(ctx, file, dir, now); err != nil {
		t.Fatalf("over a damaged database: %v", err)
	}
	if got := named(t, dir); got != "Copied" {
		t.Errorf("over a damaged database: %q", got)
	}
	fresh := filepath.Join(t.TempDir(), "new")
	if k, err := Restore(ctx, file, fresh, now); err != nil || k != "" || named(t, fresh) != "Copied" {
		t.Errorf("into a new folder: %q %v", k, err)
	}
}

// An open store is swapped under its users: the address it was announced with stays, and what was open goes on.
func TestReplacedAtOnceWithReads(t *testing.T) {
	source := estate(t, t.TempDir(), "Copied", 2)
	file := filepath.Join(t.TempDir(), "copy.db")
	if _, err := source.Backup(ctx, file); err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	s := estate(t, dir, "Standing", 1)
	if err := s.Announce("127.0.0.1:1"); err != nil {
		t.Fatal(err)
	}
	stop := make(chan bool)
	go func() {
		for range 200 {
			if _, err := s.Estate(ctx); err != nil {
				t.Error(err)
			}
		}
		close(stop)
	}()
	if _, err := s.Replace(ctx, filepath.Join(dir, "lock")); err == nil {
		t.Error("a lock file was put in place")
	}
	kept, err := s.Replace(ctx, file)
	<-stop
	if err != nil || kept == "" {
		t.Fatal(kept, err)
	}
	if d, err := s.Estate(ctx); err != nil || !strings.Contains(string(d.Body), "Copied") {
		t.Errorf("%s %v", d.Body, err)
	}
	write(t, s, Write{Kind: BlockDoc, ID: "new", Revision: 0, Body: []byte(`{}`)})
	if Address(dir) != "127.0.0.1:1" {
		t.Errorf("announced at %q", Address(dir))
	}
	if r, err := Verify(ctx, kept); err != nil || r.Estate != "Standing" {
		t.Errorf("%+v %v", r, err)
	}
}

// A program killed at any moment of a restore leaves the old estate or the new one, whole, never neither.
func TestKilledWhileRestoring(t *testing.T) {
	if dir := os.Getenv("RESTORE_INTO"); dir != "" {
		if _, err := Restore(ctx, os.Getenv("RESTORE_FROM"), dir, time.Now()); err != nil {
			t.Fatal(err)
		}
		return
	}
	source := estate(t, t.TempDir(), "New", 60)
	file := filepath.Join(t.TempDir(), "copy.db")
	if _, err := source.Backup(ctx, file); err != nil {
		t.Fatal(err)
	}
	begin := time.Now()
	run := func(dir string, after time.Duration) {
		cmd := exec.Command(os.Args[0], "-test.run=TestKilledWhileRestoring$")
		cmd.Env = append(os.Environ(), "RESTORE_INTO="+dir, "RESTORE_FROM="+file)
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		time.Sleep(after) // the moment of the kill is what is tried
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
	}
	whole := t.TempDir()
	_ = estate(t, whole, "Old", 40).Close()
	cmd := exec.Command(os.Args[0], "-test.run=TestKilledWhileRestoring$")
	cmd.Env = append(os.Environ(), "RESTORE_INTO="+whole, "RESTORE_FROM="+file)
	if out, err := cmd.CombinedOutput(); err != nil {
		t.Fatalf("%s %v", out, err)
	}
	takes := time.Since(begin)
	tries, got := 25, map[string]int{}
	if n, err := strconv.Atoi(os.Getenv("KILLS")); err == nil { // KILLS=100 go test ./internal/store -run Killed
		tries = n
	}
	for i := range tries {
		dir := t.TempDir()
		s := estate(t, dir, "Old", 3)
		write(t, s, Write{Kind: BlockDoc, ID: "last", Revision: 0, Body: []byte(`{"name":"last"}`)})
		_ = s.Close()
		run(dir, takes*time.Duration(i)/time.Duration(tries)*11/10)
		got[named(t, dir)]++
		s, err := Open(ctx, dir, Options{})
		if err != nil {
			t.Fatal(err)
		}
		docs, err := s.All(ctx, BlockDoc)
		if n := len(docs); err != nil || n != 4 && n != 60 {
			t.Errorf("killed after %v: %d blocks, %v", takes*time.Duration(i)/time.Duration(tries), n, err)
		}
		_ = s.Close()
	}
	if got["Old"]+got["New"] != tries || got["Old"] == 0 || got["New"] == 0 {
		t.Errorf("%v of %d", got, tries)
	}
}

// A folder that held an estate is never begun anew, and never silently goes on without the log of its last run.
func TestLostFilesAreNoEmptyEstate(t *testing.T) {
	for what, spoil := range map[string]func(dir string) error{
		"no database":      func(d string) error { return os.Remove(filepath.Join(d, FileName)) },
		"empty database":   func(d string) error { return os.WriteFile(filepath.Join(d, FileName), nil, 0o600) },
		"cut short":        func(d string) error { return os.Truncate(filepath.Join(d, FileName), 9000) },
		"no log, unclosed": func(d string) error { return os.WriteFile(filepath.Join(d, runningName), []byte("open x\n"), 0o600) },
	} {
		dir := t.TempDir()
		s := estate(t, dir, "Home", 20)
		copied, err := s.Copy(ctx)
		if err != nil {
			t.Fatal(err)
		}
		_ = s.Close()
		if err := spoil(dir); err != nil {
			t.Fatal(err)
		}
		_, err = Open(ctx, dir, Options{})
		if err == nil || !errors.Is(err, ErrMissing) && !errors.Is(err, ErrDamaged) || !strings.Contains(err.Error(), copied.Name) || !strings.Contains(err.Error(), "Home with 20 blocks") {
			t.Errorf("%s: %v", what, err)
			continue
		}
		path, _ := filepath.Abs(filepath.Join(dir, copiesName, copied.Name))
		if _, err := Restore(ctx, path, dir, time.Now()); err != nil || named(t, dir) != "Home" {
			t.Errorf("%s: taking the copy: %v", what, err)
		}
	}
	dir := t.TempDir()
	_ = estate(t, dir, "Home", 1).Close()
	_ = os.WriteFile(filepath.Join(dir, runningName), []byte("open x\n"), 0o600)
	s, err := Open(ctx, dir, Options{AsItIs: true})
	if err != nil {
		t.Fatal(err)
	}
	_ = s.Close()
}

// One character changed on the disk is seen: the document says so, the others stand, the full check stops writing.
func TestAChangedCharacterIsSeen(t *testing.T) {
	dir := t.TempDir()
	s := estate(t, dir, "Home", 3)
	if err := s.FullCheck(ctx); err != nil || s.CheckDue() {
		t.Fatalf("a sound estate: %v", err)
	}
	if _, err := s.db.Exec(`UPDATE document SET body = replace(body, 'block 1', 'block 8') WHERE id = 'b1'`); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Block(ctx, "b1"); !errors.Is(err, ErrDamaged) {
		t.Errorf("the spoilt block: %v", err)
	}
	docs, err := s.All(ctx, BlockDoc)
	if err != nil || len(docs) != 3 || docs[0].Err != nil || docs[1].Err == nil || docs[2].Err != nil {
		t.Errorf("%+v %v", docs, err)
	}
	write(t, s, Write{Kind: BlockDoc, ID: "b0", Revision: 1, Body: []byte(`{"name":"still works"}`)})
	if err := s.FullCheck(ctx); !errors.Is(err, ErrDamaged) || !strings.Contains(err.Error(), "block b1") {
		t.Errorf("the full check: %v", err)
	}
	if _, err := s.Apply(ctx, "x", "more", Write{Kind: BlockDoc, ID: "b2", Revision: 1, Body: []byte(`{"name":"no"}`)}); !errors.Is(err, ErrDamaged) {
		t.Errorf("a write into a damaged estate: %v", err)
	}
}

func TestANewerDatabaseIsRefused(t *testing.T) {
	dir := t.TempDir()
	s := estate(t, dir, "Home", 1)
	if _, err := s.db.Exec(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (99, 1)`); err != nil {
		t.Fatal(err)
	}
	_ = s.Close()
	if _, err := Open(ctx, dir, Options{}); !errors.Is(err, ErrNewer) || !strings.Contains(err.Error(), "99") {
		t.Errorf("%v", err)
	}
}

// A change that changes nothing leaves neither an entry nor a revision.
func TestNoChangeIsNoChange(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	a := write(t, s, Write{Kind: BlockDoc, ID: "a", Revision: 0, Body: []byte(`{"v":1}`)})
	again, err := s.Apply(ctx, "x", "the same", Write{Kind: BlockDoc, ID: "a", Revision: a.Revision, Body: []byte(`{"v":1}`)})
	if err != nil || len(again) != 1 || again[0].Revision != a.Revision {
		t.Errorf("%+v %v", again, err)
	}
	if h, _ := s.History(ctx, Page{N: 9}); len(h) != 1 {
		t.Errorf("%d entries", len(h))
	}
	if _, err := s.Apply(ctx, "x", "stale", Write{Kind: BlockDoc, ID: "a", Revision: a.Revision + 1, Body: []byte(`{"v":1}`)}); !errors.Is(err, ErrStale) {
		t.Errorf("the same text from another revision: %v", err)
	}
}

// Seven days, four weeks and twelve months of copies are kept; a day without a copy asks for one, and a week without
// one outside the folder for that.
func TestCopiesThatAreKept(t *testing.T) {
	dir := t.TempDir()
	clock := time.Date(2026, 1, 1, 9, 0, 0, 0, time.UTC)
	s, err := Open(ctx, dir, Options{Now: func() time.Time { return clock }})
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if s.CopyDue(ctx) {
		t.Error("a copy of nothing is due")
	}
	if _, err := s.Apply(ctx, "x", "began", Write{Kind: EstateDoc, ID: "", Revision: 0, Body: []byte(`{"name":"Home"}`)}); err != nil {
		t.Fatal(err)
	}
	var list []CopyInfo // 420 days, newest first, as they would be kept
	for day := range 420 {
		list = append([]CopyInfo{{Name: fmt.Sprintf("day %03d", day), At: clock.Add(time.Duration(day) * 24 * time.Hour)}}, list...)
		for _, old := range surplus(list) {
			list = slices.DeleteFunc(list, func(c CopyInfo) bool { return c.Name == old.Name })
		}
	}
	months := map[string]bool{}
	for i, c := range list {
		months[c.At.Format("2006-01")] = true
		if i < 7 && c.Name != fmt.Sprintf("day %03d", 419-i) {
			t.Errorf("day %d: %s", i, c.Name)
		}
	}
	if len(list) < 7+2+10 || len(list) > 7+4+12 || len(months) != 12 {
		t.Errorf("%d copies of %d months", len(list), len(months))
	}
	for range 3 {
		if !s.CopyDue(ctx) {
			t.Fatal("no copy is due on a new day")
		}
		if _, err := s.Copy(ctx); err != nil {
			t.Fatal(err)
		}
		if s.CopyDue(ctx) {
			t.Fatal("a second copy is due on one day")
		}
		clock = clock.Add(24 * time.Hour)
	}
	clock = clock.Add(10 * 24 * time.Hour)
	for range 3 { // within one second
		if _, err := s.Copy(ctx); err != nil {
			t.Fatal(err)
		}
	}
	if remind, err := s.RemindToCopy(ctx); err != nil || !remind {
		t.Errorf("ten days without a copy outside: %v %v", remind, err)
	}
	if err := s.NoteTaken(ctx); err != nil {
		t.Fatal(err)
	}
	clock = clock.Add(30 * 24 * time.Hour)
	if remind, _ := s.RemindToCopy(ctx); remind {
		t.Error("nothing changed since the copy")
	}
	if _, err := s.Apply(ctx, "x", "c", Write{Kind: BlockDoc, ID: "a", Revision: 0, Body: []byte(`{}`)}); err != nil {
		t.Fatal(err)
	}
	clock = clock.Add(8 * 24 * time.Hour)
	if remind, _ := s.RemindToCopy(ctx); !remind {
		t.Error("eight days after a change nobody is reminded")
	}
	if _, err := s.CopyPath("../slowroot.db"); !errors.Is(err, ErrNotFound) {
		t.Errorf("a path outside: %v", err)
	}
}

// An error of the disk itself is a sentence.
func TestDiskErrorIsASentence(t *testing.T) {
	dir := t.TempDir()
	s := estate(t, dir, "Home", 1)
	if err := explain(fmt.Errorf("x: %w", errDisk)); !errors.Is(err, ErrDisk) {
		t.Errorf("%v", err)
	}
	// a full disk while a copy is written leaves the estate and no half copy
	to := filepath.Join(dir, "nowhere", "copy.db")
	if _, err := s.Backup(ctx, to); err == nil {
		t.Error("a copy into a folder that is not there")
	}
	if _, err := s.Estate(ctx); err != nil {
		t.Error(err)
	}
}

var errDisk = syscall.EIO
