package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"unicode/utf8"
)

// pure are the packages the core may import besides its own: no clock, no network, no files, no
// database, no interface.
var pure = map[string]bool{
	"bytes": true, "cmp": true, "crypto/sha256": true, "embed": true, "encoding/hex": true, "encoding/json": true, "errors": true, "fmt": true,
	"io/fs": true, "container/heap": true, "maps": true, "math": true, "reflect": true, "slices": true, "sync": true, "regexp": true, "sort": true, "strconv": true, "strings": true, "unicode/utf8": true,
	"gonum.org/v1/gonum/mathext": true, "github.com/peterstace/simplefeatures/geom": true, "go.yaml.in/yaml/v3": true,
}

// floor are the packages every subject may stand on; meeting are those where subjects meet.
var (
	floor   = map[string]bool{"working": true, "civil": true, "geo": true, "units": true, "finding": true, "order": true}
	meeting = map[string]bool{"practice": true, "document": true, "report": true, "plan": true, "calc": true}
)

func TestCoreIsPureAndSubjectsStandApart(t *testing.T) {
	files := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		files++
		subject := strings.Split(filepath.ToSlash(path), "/")[0]
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		if err != nil {
			return err
		}
		for _, im := range f.Imports {
			name, _ := strconv.Unquote(im.Path.Value)
			own, ok := strings.CutPrefix(name, "slowroot/core/")
			switch {
			case !ok && !pure[name]:
				t.Errorf("%s imports %s: the core reaches outside itself", path, name)
			case ok && floor[subject] && !floor[own]:
				t.Errorf("%s imports %s: the floor stands on nothing above it", path, own)
			case ok && !floor[subject] && !meeting[subject] && !floor[own]:
				t.Errorf("%s imports %s: one subject knows another's business", path, own)
			case ok && subject == "practice" && meeting[own]:
				t.Errorf("%s imports %s: sheets know nothing of plans", path, own)
			case ok && subject == "document" && (own == "plan" || own == "calc"):
				t.Errorf("%s imports %s: what people said knows nothing of what follows from it", path, own)
			}
		}
		return nil
	})
	if err != nil || files < 15 {
		t.Fatalf("walked %d files: %v", files, err)
	}
}

// parts are the rooms of a plan in the order they are entered: each uses results of those before it, never of one after.
var parts = []string{"growth", "ground", "soils", "watering", "drains", "ready", "prepare", "fit", "rows", "stand", "crop", "work", "network", "bill"}

func TestAPartUsesOnlyPartsBeforeIt(t *testing.T) {
	place := map[string]int{}
	for i, p := range parts {
		place[p] = i
	}
	rooms, err := filepath.Glob("plan/*/*.go")
	if err != nil || len(rooms) < 2*len(parts) {
		t.Fatalf("%d files: %v", len(rooms), err)
	}
	for _, path := range rooms {
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		if err != nil {
			t.Fatal(err)
		}
		own, known := place[filepath.Base(filepath.Dir(path))]
		if !known {
			t.Errorf("%s belongs to no part of the order", path)
		}
		for _, im := range f.Imports {
			name, _ := strconv.Unquote(im.Path.Value)
			other, isPart := strings.CutPrefix(name, "slowroot/core/plan/")
			if name == "slowroot/core/plan" || isPart && place[other] >= own {
				t.Errorf("%s imports %s, which comes after it", path, name)
			}
		}
	}
}

// A file holds one idea and a function fits a screen: no function over 80 lines, no file over 400, no line over 160
// characters; what conducts the plan is no more than 1,200 lines. Tests stand aside.
func TestNothingGrowsTooLarge(t *testing.T) {
	conducts := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		text, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		lines := strings.Split(string(text), "\n")
		if filepath.ToSlash(filepath.Dir(path)) == "plan" {
			conducts += len(lines) - 1
		}
		if len(lines)-1 > 400 {
			t.Errorf("%s has %d lines", path, len(lines)-1)
		}
		for i, l := range lines {
			if n := utf8.RuneCountInString(l); n > 160 {
				t.Errorf("%s:%d has %d characters", path, i+1, n)
			}
		}
		set := token.NewFileSet()
		f, err := parser.ParseFile(set, path, text, 0)
		if err != nil {
			return err
		}
		for _, decl := range f.Decls {
			if fn, ok := decl.(*ast.FuncDecl); ok {
				if n := set.Position(fn.End()).Line - set.Position(fn.Pos()).Line + 1; n > 80 {
					t.Errorf("%s: %s has %d lines", path, fn.Name.Name, n)
				}
			}
		}
		return nil
	})
	if err != nil || conducts > 1200 || conducts < 200 {
		t.Errorf("core/plan itself has %d lines: %v", conducts, err)
	}
}
