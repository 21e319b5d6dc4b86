package plan

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// heard are the sentences each running test has asked about so far.
var heard = map[string][]string{}

// said is whether text is the next sentence kept for this test in testdata/said, one a line. Tests ask rules, references and
// numbers of the program; what it says of them is read there, by eye, and written anew with -update.
func said(t *testing.T, text string) bool {
	t.Helper()
	name := t.Name()
	file := filepath.Join("testdata", "said", strings.ReplaceAll(name, "/", "-")+".txt")
	at := len(heard[name])
	if at == 0 {
		t.Cleanup(func() {
			all := heard[name]
			delete(heard, name) // a test may run many times
			if *update && !t.Failed() {
				if err := os.MkdirAll(filepath.Dir(file), 0o755); err != nil {
					t.Fatal(err)
				}
				if err := os.WriteFile(file, []byte(strings.Join(all, "\n")+"\n"), 0o644); err != nil {
					t.Fatal(err)
				}
				return
			}
			if kept := lines(t, file); len(kept) != len(all) && !t.Failed() {
				t.Errorf("%s keeps %d sentences, the test asked %d", file, len(kept), len(all))
			}
		})
	}
	text = strings.ReplaceAll(text, "\n", " ")
	heard[name] = append(heard[name], text)
	if *update {
		return true
	}
	kept := lines(t, file)
	if at >= len(kept) {
		t.Errorf("%s keeps no sentence %d: %s", file, at+1, text)
		return false
	}
	if kept[at] != text {
		t.Errorf("%s says\n  %s, was\n  %s", file, text, kept[at])
	}
	return kept[at] == text
}

func lines(t *testing.T, file string) []string {
	t.Helper()
	b, err := os.ReadFile(file)
	if err != nil {
		t.Errorf("nothing is kept for this test: %v; run it with -update and read what is written", err)
		return nil
	}
	return strings.Split(strings.TrimSuffix(string(b), "\n"), "\n")
}
