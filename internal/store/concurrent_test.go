package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand"
	"sync"
	"testing"
)

// Many write at once, each from what it read: every write is either taken whole or refused as stale, none is lost,
// and the history holds one entry for each that was taken.
func TestWritersAtOnceLoseNothing(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	first := write(t, s, Write{Kind: BlockDoc, ID: "b", Revision: 0, Body: []byte(`{"n":0}`)})
	if first.Revision < 1 {
		t.Fatal(first)
	}
	const writers, each = 8, 25
	var wg sync.WaitGroup
	var mu sync.Mutex
	taken, stale := 0, 0
	for w := range writers {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for range each {
				for {
					d, err := s.Block(ctx, "b")
					if err != nil {
						t.Error(err)
						return
					}
					var v struct{ N int }
					if err := json.Unmarshal(d.Body, &v); err != nil {
						t.Error(err)
						return
					}
					_, err = s.Apply(ctx, fmt.Sprint("writer ", w), "counted", Write{Kind: BlockDoc, ID: "b", Revision: d.Revision, Body: []byte(fmt.Sprintf(`{"n":%d}`, v.N+1))})
					mu.Lock()
					if err == nil {
						taken++
					} else if errors.Is(err, ErrStale) {
						stale++
					} else {
						t.Error(err)
					}
					mu.Unlock()
					if !errors.Is(err, ErrStale) {
						break
					}
				}
			}
		}()
	}
	wg.Wait()
	d, _ := s.Block(ctx, "b")
	if string(d.Body) != fmt.Sprintf(`{"n":%d}`, writers*each) || taken != writers*each {
		t.Errorf("%d writes taken, %d refused; the count stands at %s", taken, stale, d.Body)
	}
	if d.Revision != first.Revision+writers*each {
		t.Errorf("revision %d after %d writes", d.Revision, writers*each)
	}
	h, err := s.History(ctx, Page{N: 1000})
	if err != nil || len(h) != writers*each+1 {
		t.Errorf("%d entries of history, %v", len(h), err)
	}
}

// A random walk of changes and undos keeps the documents at what the changes that stand say: undoing everything
// brings back the beginning.
func TestUndoIsARandomWalkBack(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	rnd := rand.New(rand.NewSource(3))
	type state map[string]string
	read := func() state {
		docs, err := s.All(ctx, BlockDoc)
		if err != nil {
			t.Fatal(err)
		}
		out := state{}
		for _, d := range docs {
			out[d.ID] = string(d.Body)
		}
		return out
	}
	same := func(a, b state) bool {
		if len(a) != len(b) {
			return false
		}
		for k, v := range a {
			if b[k] != v {
				return false
			}
		}
		return true
	}
	var past []state
	standing := func() (Change, bool) {
		h, err := s.History(ctx, Page{N: 500})
		if err != nil {
			t.Fatal(err)
		}
		for _, c := range h {
			if !c.Undone && c.Deed == Do {
				return c, true
			}
		}
		return Change{}, false
	}
	for step := range 200 {
		if len(past) > 0 && rnd.Intn(3) == 0 {
			c, ok := standing()
			if !ok {
				t.Fatal("nothing stands though changes were made")
			}
			if _, err := s.Undo(ctx, "w", c.ID); err != nil {
				t.Fatalf("step %d: undoing %q: %v", step, c.What, err)
			}
			want := past[len(past)-1]
			past = past[:len(past)-1]
			if got := read(); !same(got, want) {
				t.Fatalf("step %d: after the undo %v, before the change it was %v", step, got, want)
			}
			continue
		}
		past = append(past, read())
		var writes []Write
		for _, id := range []string{"a", "b", "c"}[:1+rnd.Intn(3)] {
			d, err := s.Block(ctx, id)
			switch {
			case errors.Is(err, ErrNotFound):
				writes = append(writes, Write{Kind: BlockDoc, ID: id, Revision: 0, Body: []byte(fmt.Sprintf(`{"step":%d}`, step))})
			case err != nil:
				t.Fatal(err)
			case rnd.Intn(4) == 0:
				writes = append(writes, Write{Kind: BlockDoc, ID: id, Revision: d.Revision, Body: nil})
			default:
				writes = append(writes, Write{Kind: BlockDoc, ID: id, Revision: d.Revision, Body: []byte(fmt.Sprintf(`{"step":%d}`, step))})
			}
		}
		if _, err := s.Apply(ctx, "w", fmt.Sprint("step ", step), writes...); err != nil {
			t.Fatalf("step %d: %v", step, err)
		}
	}
	for len(past) > 0 {
		c, ok := standing()
		if !ok {
			t.Fatalf("%d changes cannot be undone", len(past))
		}
		if _, err := s.Undo(ctx, "w", c.ID); err != nil {
			t.Fatal(err)
		}
		past = past[:len(past)-1]
	}
	if got := read(); len(got) != 0 {
		t.Errorf("with everything undone %v is left", got)
	}
}

// Files are kept once under their digest, with the change they belong to or not at all; an unknown digest is not found.
func TestFilesAreKeptOnce(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	text := File{"heights", "lon,lat,z\n1,2,3\n"}
	if _, err := s.ApplyWith(ctx, "x", "stale", Also{Files: []File{text}}, Write{Kind: BlockDoc, ID: "a", Revision: 7, Body: []byte(`{}`)}); !errors.Is(err, ErrStale) {
		t.Fatal(err)
	}
	if _, err := s.File(ctx, text.Digest()); !errors.Is(err, ErrNotFound) {
		t.Errorf("a refused change kept its file: %v", err)
	}
	for i := range 2 {
		if _, err := s.ApplyWith(ctx, "x", "heights", Also{Files: []File{text}}, Write{Kind: BlockDoc, ID: fmt.Sprint("b", i), Body: []byte(`{}`)}); err != nil {
			t.Fatal(err)
		}
	}
	if other := (File{"heights", "lon,lat,z\n1,2,4\n"}); other.Digest() == text.Digest() {
		t.Error("another text has the same digest")
	}
	if got, err := s.File(ctx, text.Digest()); err != nil || got != text.Text {
		t.Errorf("%q %v", got, err)
	}
	if _, err := s.File(ctx, "00"); !errors.Is(err, ErrNotFound) {
		t.Errorf("an unknown digest: %v", err)
	}
	if err := s.KeepSheet(ctx, "d1", "tea", []byte("{}")); err != nil {
		t.Fatal(err)
	}
	if body, err := s.SheetCopy(ctx, "d1"); err != nil || string(body) != "{}" {
		t.Errorf("%s %v", body, err)
	}
	if _, err := s.SheetCopy(ctx, "d2"); !errors.Is(err, ErrNotFound) {
		t.Errorf("a sheet nobody kept: %v", err)
	}
}
