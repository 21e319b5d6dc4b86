package store

import (
	"archive/zip"
	"context"
	"errors"
	"io"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"
)

// Everything goes out as an open archive and comes back the same: documents, records, history with its steps, files, sheets.
func TestArchiveAndBack(t *testing.T) {
	s := estate(t, t.TempDir(), "Home", 2)
	if _, err := s.ApplyWith(ctx, "w", "heights", Also{Files: []File{{"heights", "1,2,3\n"}}, Records: []Entry{{ID: "r1", Block: "b0", Kind: "done", Operation: "x", Day: "2027-01-01", Body: []byte(`{"note":"ä <b>"}`)}}},
		Write{Kind: BlockDoc, ID: "b0", Revision: 1, Body: []byte(`{"name":"changed"}`)}, Write{Kind: PlantingDoc, ID: "p", Parent: "b0", Body: []byte(`{"sheet":"tea"}`)}); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Append(ctx, Entry{ID: "r2", Block: "b0", Kind: "withdrawn", Corrects: "r1", Body: []byte(`{}`)}); err != nil {
		t.Fatal(err)
	}
	if err := s.KeepSheet(ctx, "d1", "tea", []byte("id: tea\n")); err != nil {
		t.Fatal(err)
	}
	steps, _ := s.Steps(ctx, "w")
	if _, err := s.Undo(ctx, "w", steps.Undo.ID); err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "all.zip")
	f, _ := os.Create(file)
	if err := s.Archive(ctx, f); err != nil {
		t.Fatal(err)
	}
	f.Close()
	if !IsArchive(file) || IsArchive(filepath.Join(s.Folder(), FileName)) {
		t.Error("an archive is not told from a database")
	}
	db, err := Unarchive(ctx, file, t.TempDir(), Options{})
	if err != nil {
		t.Fatal(err)
	}
	if r, err := Verify(ctx, db); err != nil || r.Estate != "Home" || r.Blocks != 2 {
		t.Fatalf("%+v %v", r, err)
	}
	back := openStore(t, filepath.Dir(db), Options{})
	for _, kind := range []Kind{EstateDoc, BlockDoc, PlantingDoc, RowsDoc} {
		a, _ := s.All(ctx, kind)
		b, err := back.All(ctx, kind)
		if err != nil || !reflect.DeepEqual(a, b) {
			t.Errorf("%s: %+v, they were %+v, %v", kind, b, a, err)
		}
	}
	a, _ := s.Records(ctx, "")
	b, _ := back.Records(ctx, "")
	if !reflect.DeepEqual(a, b) || len(b) != 2 {
		t.Errorf("records %+v, they were %+v", b, a)
	}
	ha, _ := s.History(ctx, Page{N: 100})
	hb, _ := back.History(ctx, Page{N: 100})
	if !reflect.DeepEqual(ha, hb) || len(hb) < 3 {
		t.Errorf("history %+v, it was %+v", hb, ha)
	}
	n, _ := back.Steps(ctx, "w")
	if n.Redo == nil {
		t.Fatal("nothing can be made again")
	}
	if _, err := back.Redo(ctx, "w", n.Redo.ID); err != nil {
		t.Fatal(err)
	}
	if d, _ := back.Block(ctx, "b0"); string(d.Body) != `{"name":"changed"}` {
		t.Errorf("made again: %s", d.Body)
	}
	if text, err := back.File(ctx, File{Text: "1,2,3\n"}.Digest()); err != nil || text != "1,2,3\n" {
		t.Errorf("%q %v", text, err)
	}
	if text, err := back.SheetCopy(ctx, "d1"); err != nil || string(text) != "id: tea\n" {
		t.Errorf("%q %v", text, err)
	}
}

// What is no archive, or not whole, is refused with what is wrong, and nothing is made of it.
func TestArchivesThatAreNone(t *testing.T) {
	s := estate(t, t.TempDir(), "Home", 1)
	whole := filepath.Join(t.TempDir(), "all.zip")
	f, _ := os.Create(whole)
	if err := s.Archive(context.Background(), f); err != nil {
		t.Fatal(err)
	}
	f.Close()
	for name, spoil := range map[string]func(string, string) (string, bool){
		"a part is missing": func(n, text string) (string, bool) { return text, n != "records.jsonl" },
		"a newer one": func(n, text string) (string, bool) {
			return strings.Replace(text, `"version":1`, `"version":9`, 1), true
		},
		"another format": func(n, text string) (string, bool) { return strings.Replace(text, ArchiveFormat, "something", 1), true },
		"an unknown field": func(n, text string) (string, bool) {
			return strings.Replace(text, `"schema":1`, `"schema":1,"colour":2`, 1), true
		},
		"half a line": func(n, text string) (string, bool) { return strings.TrimSuffix(text, "}\n"), true },
	} {
		z, _ := zip.OpenReader(whole)
		file := filepath.Join(t.TempDir(), "x.zip")
		out, _ := os.Create(file)
		w := zip.NewWriter(out)
		for _, part := range z.File {
			r, _ := part.Open()
			var b strings.Builder
			_, _ = io.Copy(&b, r)
			if text, keep := spoil(part.Name, b.String()); keep {
				p, _ := w.Create(part.Name)
				_, _ = p.Write([]byte(text))
			}
		}
		w.Close()
		out.Close()
		z.Close()
		if _, err := Unarchive(ctx, file, t.TempDir(), Options{}); err == nil {
			t.Errorf("%s: it is read", name)
		}
	}
	if _, err := Unarchive(ctx, filepath.Join(s.Folder(), FileName), t.TempDir(), Options{}); !errors.Is(err, ErrNotArchive) {
		t.Errorf("a database: %v", err)
	}
}
