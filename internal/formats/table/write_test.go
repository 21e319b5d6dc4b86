package table

import (
	"encoding/csv"
	"strings"
	"testing"
)

// Cells a spreadsheet would run are text, numbers are numbers, and everything is read back.
func TestNoCellIsAFormula(t *testing.T) {
	for cell, want := range map[string]string{
		"=1+1": "'=1+1", "+49 30": "'+49 30", "-lower rows": "'-lower rows", "@SUM(A1)": "'@SUM(A1)", "\t=x": "'\t=x", "−3 rows": "'−3 rows",
		"-12.5": "-12.5", "+3": "+3", "Lower rows": "Lower rows", "": "", "a=b": "a=b",
	} {
		if got := Safe(cell); got != want {
			t.Errorf("%q becomes %q, want %q", cell, got, want)
		}
	}
	text := Write([][]string{{"name", "m"}, {`=HYPERLINK("x")`, "-1.5"}, {"two, parts", "2"}})
	rows, err := csv.NewReader(strings.NewReader(string(text))).ReadAll()
	if err != nil || len(rows) != 3 || rows[1][0] != `'=HYPERLINK("x")` || rows[1][1] != "-1.5" || rows[2][0] != "two, parts" {
		t.Errorf("%q %v", rows, err)
	}
}
