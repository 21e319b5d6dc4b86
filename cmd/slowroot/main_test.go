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
