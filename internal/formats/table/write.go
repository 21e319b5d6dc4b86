package table

import (
	"encoding/csv"
	"strconv"
	"strings"
)

// Write is rows as comma separated text. A cell of words that a spreadsheet would take for a formula is given a leading
// apostrophe, which such programs read as "this is text"; numbers stay numbers.
func Write(rows [][]string) []byte {
	var b strings.Builder
	w := csv.NewWriter(&b)
	for _, row := range rows {
		safe := make([]string, len(row))
		for i, cell := range row {
			safe[i] = Safe(cell)
		}
		_ = w.Write(safe) // a strings.Builder never fails
	}
	w.Flush()
	return []byte(b.String())
}

// Safe is a cell that no spreadsheet takes for a formula.
func Safe(cell string) string {
	if cell == "" || !strings.ContainsRune("=+-@\t\r", rune(cell[0])) && !strings.HasPrefix(cell, "−") {
		return cell
	}
	if _, err := strconv.ParseFloat(cell, 64); err == nil {
		return cell
	}
	return "'" + cell
}
