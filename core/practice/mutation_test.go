package practice

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// Numbers of every sheet, made absurd, either is refused with the sheet's words or cannot matter: at least
// four in five must be refused, so that a slipped digit does not pass unseen. Nothing brings the reader down.
func TestSlippedDigitsAreFound(t *testing.T) {
	files, err := filepath.Glob("sheets/*.yaml")
	if err != nil || len(files) < 20 {
		t.Fatal(files, err)
	}
	// what a validator can judge from the sheet alone
	structural := []string{"perHa", "leavesRowM", "leavesPlantM", "share", "shares", "low", "base", "high", "rowM", "plantM", "rootCm", "targetPh", "survival",
		"wetClass"}
	for _, file := range files {
		raw, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		text := string(raw)
		asked, refused, dealt := 0, 0, 0
		for _, key := range structural {
			for _, at := range regexp.MustCompile(`\b`+key+`: ([0-9.]+)`).FindAllStringSubmatchIndex(text, -1) {
				if dealt++; dealt%3 != 0 { // every third of a sheet's numbers: reading one takes a hundredth of a second
					continue
				}
				for _, absurd := range []string{"-7", "987654"} {
					bad := text[:at[2]] + absurd + text[at[3]:]
					asked++
					if _, err := Load([]byte(bad)); err != nil {
						refused++
					}
				}
			}
		}
		if asked > 0 && float64(refused) < 0.8*float64(asked) {
			t.Errorf("%s: only %d of %d absurd numbers are refused", filepath.Base(file), refused, asked)
		}
	}
}

// A sheet cut off anywhere, or with a line taken out, is read or refused; it never brings the program down.
func TestDamagedSheets(t *testing.T) {
	raw, err := os.ReadFile("sheets/persimmon.yaml")
	if err != nil {
		t.Fatal(err)
	}
	text := string(raw)
	for cut := 0; cut < len(text); cut += 97 {
		_, _ = Load([]byte(text[:cut]))
	}
	lines := strings.Split(text, "\n")
	refused := 0
	for i := range lines {
		short := strings.Join(append(append([]string{}, lines[:i]...), lines[i+1:]...), "\n")
		if _, err := Load([]byte(short)); err != nil {
			refused++
			if len(err.Error()) < 15 {
				t.Errorf("without line %d: %q says nothing", i+1, err)
			}
		}
	}
	if refused < len(lines)/4 {
		t.Errorf("%d of %d lines can be lost unseen", len(lines)-refused, len(lines))
	}
}

// A wet-soil class wants more air the more sensitive it is, and what is ideal lies no shallower than what is borne.
func TestWetClassesAreInOrder(t *testing.T) {
	last := -1.0
	for class := 1; class <= 5; class++ {
		ideal, tolerated := WetRange(class)
		if ideal < last || tolerated > ideal {
			t.Errorf("class %d: ideal %g, borne %g, after %g", class, ideal, tolerated, last)
		}
		last = ideal
	}
	l, err := BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, s := range l.All() {
		if s.Soil.WetClass < 1 || s.Soil.WetClass > 5 || s.Soil.RootCm < 20 || s.Soil.RootCm > 200 {
			t.Errorf("%s: wet class %d, roots to %g cm", s.ID, s.Soil.WetClass, s.Soil.RootCm)
		}
	}
}
