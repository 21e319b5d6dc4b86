package main

import (
	"bytes"
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

func TestCommandLine(t *testing.T) {
	dir := t.TempDir()
	notDir := filepath.Join(dir, "file")
	if err := os.WriteFile(notDir, nil, 0o644); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		args []string
		say  string
	}{
		{nil, "say what to do"},
		{[]string{"dance"}, "not something slowroot does"},
		{[]string{"serve", "--port", "1"}, "flag provided but not defined"},
		{[]string{"serve", "--addr", "192.168.0.1:80", "--data", dir}, "not a loopback address"},
		{[]string{"serve", "--addr", "127.0.0.1:0", "--data", dir, "--today", "1066-10-14"}, "1066"},
		{[]string{"serve", "--addr", "127.0.0.1:0", "--data", notDir}, "making data folder"},
		{[]string{"backup", "--data", dir}, "one FILE"},
		{[]string{"restore", "x.db"}, "--data DIR"},
		{[]string{"restore", "--data", dir, notDir}, "not a slowroot database"},
	} {
		var out, errOut bytes.Buffer
		err := run(context.Background(), c.args, &out, &errOut)
		if err == nil || !strings.Contains(err.Error(), c.say) {
			t.Errorf("%v: %v, want %q", c.args, err, c.say)
		}
		if out.Len() != 0 {
			t.Errorf("%v printed %q before failing", c.args, out.String())
		}
	}
	var out bytes.Buffer
	if err := run(context.Background(), []string{"version"}, &out, &out); err != nil || !strings.HasPrefix(out.String(), "slowroot "+Version) {
		t.Errorf("version: %s %v", out.String(), err)
	}
}

// The address is the first line; the end of the context ends the program without an error.
func TestServesUntilToldToStop(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	out := make(lines, 4)
	done := make(chan error, 1)
	dir := t.TempDir()
	go func() {
		done <- run(ctx, []string{"demo", "--addr", "127.0.0.1:0", "--data", dir}, out, &bytes.Buffer{})
	}()
	select {
	case first := <-out:
		if !strings.HasPrefix(first, "http://127.0.0.1:") || strings.Contains(first, ":0\n") {
			t.Errorf("first line %q", first)
		}
	case err := <-done:
		t.Fatal(err)
	case <-time.After(20 * time.Second):
		t.Fatal("no address within 20 s")
	}
	stop()
	if err := <-done; err != nil {
		t.Errorf("stopping: %v", err)
	}
	if err := run(context.Background(), []string{"backup", "--data", dir, filepath.Join(t.TempDir(), "a.db")}, out, &bytes.Buffer{}); err != nil {
		t.Errorf("the folder is not given back: %v", err)
	}
}

// lines passes on each write as it is made.
type lines chan string

func (l lines) Write(b []byte) (int, error) {
	l <- string(b)
	return len(b), nil
}

// A copy is taken while the program runs, read back, checked and restored; a restore under a running program, a backup
// of nothing and a check of something else are refused with the file named.
func TestCopiesFromTheCommandLine(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	out := make(lines, 64)
	done := make(chan error, 1)
	dir := filepath.Join(t.TempDir(), "data")
	go func() {
		done <- run(ctx, []string{"demo", "--addr", "127.0.0.1:0", "--data", dir}, out, &bytes.Buffer{})
	}()
	select {
	case <-out:
	case err := <-done:
		t.Fatal(err)
	case <-time.After(20 * time.Second):
		t.Fatal("no address within 20 s")
	}
	file := filepath.Join(t.TempDir(), "copy.db")
	var said bytes.Buffer
	if err := run(context.Background(), []string{"backup", "--data", dir, file}, &said, &said); err != nil || !strings.Contains(said.String(), "11 blocks") {
		t.Fatalf("%s %v", said.String(), err)
	}
	if err := run(context.Background(), []string{"backup", "--data", dir, file}, &said, &said); err == nil || !strings.Contains(err.Error(), "exists already") {
		t.Errorf("over a file that is there: %v", err)
	}
	for _, what := range []string{dir, file} {
		said.Reset()
		if err := run(context.Background(), []string{"check", what}, &said, &said); err != nil || !strings.Contains(said.String(), "is sound") {
			t.Errorf("check %s: %s %v", what, said.String(), err)
		}
	}
	if err := run(context.Background(), []string{"restore", "--data", dir, file}, &said, &said); err == nil || !strings.Contains(err.Error(), "already using") {
		t.Errorf("restore under a running program: %v", err)
	}
	archive := filepath.Join(t.TempDir(), "all.zip")
	for _, want := range []string{"", "exists already"} {
		if err := run(context.Background(), []string{"export", "--data", dir, archive}, &said, &said); (err == nil) != (want == "") || err != nil && !strings.Contains(err.Error(), want) {
			t.Errorf("export: %v", err)
		}
	}
	stop()
	if err := <-done; err != nil {
		t.Fatal(err)
	}
	other := filepath.Join(t.TempDir(), "data")
	if err := run(context.Background(), []string{"restore", "--data", other, archive}, &said, &said); err != nil {
		t.Errorf("the archive put in place: %v", err)
	}
	said.Reset()
	if err := run(context.Background(), []string{"check", other}, &said, &said); err != nil || !strings.Contains(said.String(), "11 blocks") {
		t.Errorf("what the archive holds: %s %v", said.String(), err)
	}
	if err := run(context.Background(), []string{"export", "--data", other, filepath.Join(other, "again.zip")}, &said, &said); err != nil {
		t.Errorf("export of a folder nobody uses: %v", err)
	}
	if err := run(context.Background(), []string{"restore", "--data", dir, file}, &said, &said); err != nil {
		t.Errorf("restore: %v", err)
	}
	fresh := t.TempDir()
	if err := run(context.Background(), []string{"backup", "--data", fresh, filepath.Join(fresh, "x.db")}, &said, &said); err == nil || !strings.Contains(err.Error(), "holds no estate") || !strings.Contains(err.Error(), fresh) {
		t.Errorf("a backup of nothing: %v", err)
	}
	if err := run(context.Background(), []string{"check", filepath.Join(dir, "lock")}, &said, &said); err == nil || !strings.Contains(err.Error(), "lock") {
		t.Errorf("a check of something else: %v", err)
	}
}
