package core_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
)

// pure are the packages the core may import besides its own: no clock, no network, no files, no
// database, no interface.
var pure = map[string]bool{
	"bytes": true, "cmp": true, "crypto/sha256": true, "embed": true, "encoding/hex": true, "errors": true, "fmt": true,
	"io/fs": true, "container/heap": true, "maps": true, "math": true, "reflect": true, "slices": true, "sync": true, "regexp": true, "sort": true, "strconv": true, "strings": true,
	"gonum.org/v1/gonum/mathext": true, "go.yaml.in/yaml/v3": true,
}

// floor are the packages every subject may stand on; meeting are those where subjects meet.
var (
	floor   = map[string]bool{"working": true, "civil": true, "geo": true, "units": true, "finding": true}
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
