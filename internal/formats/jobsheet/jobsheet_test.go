package jobsheet

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/report"
)

func sheet(name string) Sheet {
	return Sheet{Job: report.Job{Said: report.Said{Name: name, Caution: "Trenches can collapse: shore or batter.", Rule: "4 weeks before planting"}, Detail: "0.50 m wide, P₂O₅ 30 kg",
		From: civil.Must(2027, 3, 1), By: civil.Must(2027, 3, 14)}, Estate: "Carrow Vale", Block: "Gate Field", Crew: "Yard", Hours: "12 h",
		Bring: [][2]string{{"rotted manure", "4 t"}}, Before: []string{"Clear"}, Outline: [][]geo.XY{{{X: 0, Y: 0}, {X: 100, Y: 0}, {X: 100, Y: 60}, {X: 0, Y: 60}}},
		Rows: []layout.Piece{{FirstX: 5, FirstY: 5, StepX: 2, Stations: 40}}}
}

// A sheet to a page, on both papers; what is on it is read back by another program where that is at hand (pdftotext and pdfinfo of poppler), and
// by the file's own marks everywhere.
func TestASheetToAPage(t *testing.T) {
	for paper, size := range map[string]string{"a4": "595.28 841.89", "letter": "612.00 792.00"} {
		pdf, err := Write(paper, []Sheet{sheet("Dig the drains"), sheet("Plant")}, civil.Must(2027, 2, 20))
		if err != nil {
			t.Fatal(err)
		}
		text := string(pdf)
		if n := len(regexp.MustCompile(`/Type /Page\b`).FindAllString(text, -1)); !strings.HasPrefix(text, "%PDF") || n != 2 {
			t.Errorf("%s: %d pages, begins %.8q", paper, n, text)
		}
		if !strings.Contains(text, "/MediaBox [0 0 "+size+"]") {
			t.Errorf("%s is not %s", paper, size)
		}
		read, err := exec.LookPath("pdftotext")
		if err != nil {
			continue
		}
		file := filepath.Join(t.TempDir(), "sheets.pdf")
		if err := os.WriteFile(file, pdf, 0o600); err != nil {
			t.Fatal(err)
		}
		out, err := exec.Command(read, "-layout", file, "-").Output()
		if err != nil {
			t.Fatal(err)
		}
		for _, want := range []string{"Dig the drains", "Plant", "Gate Field, Carrow Vale", "1 March 2027 to 14 March 2027", "Caution: Trenches can collapse", "P2O5 30 kg", "rotted manure",
			"Clear", "20 m; north is up", "looked at afterwards"} {
			if !strings.Contains(string(out), want) {
				t.Errorf("%s: no %q in\n%s", paper, want, out)
			}
		}
		if pages := strings.Count(string(out), "\f"); pages != 2 {
			t.Errorf("%s: %d pages are read", paper, pages)
		}
	}
	if pdf, err := Write("a4", nil, civil.Must(2027, 2, 20)); err != nil || !strings.HasPrefix(string(pdf), "%PDF") {
		t.Errorf("nothing to do: %v", err)
	}
	long := sheet("Much")
	for range 60 {
		long.Bring = append(long.Bring, [2]string{"one thing more", "1"})
	}
	if pdf, err := Write("a4", []Sheet{long}, civil.Must(2027, 2, 20)); err != nil || len(regexp.MustCompile(`/Type /Page\b`).FindAll(pdf, -1)) < 2 {
		t.Errorf("what does not fit goes on: %v", err)
	}
}

func TestScaleBarIsRound(t *testing.T) {
	for wanted, bar := range map[float64]float64{33: 20, 5: 5, 99: 50, 0.4: 1, 260: 200} {
		if got := scaleBar(wanted); got != bar {
			t.Errorf("%g m: %g", wanted, got)
		}
	}
}
