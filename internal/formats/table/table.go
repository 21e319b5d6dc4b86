// Package table reads delimited text as people and instruments write it: comma, semicolon or tab, a
// decimal point or comma, a byte order mark, comment lines. A file that cannot be used is refused whole,
// naming the line.
package table

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"slowroot/core/civil"
)

// Limits of a file.
const (
	MaxBytes = 32 << 20
	MaxRows  = 1_000_000
)

// Refused is a file that cannot be used; Line 0 when no line is to blame.
type Refused struct {
	Line   int
	Reason string
}

func (e *Refused) Error() string {
	if e.Line > 0 {
		return fmt.Sprintf("line %d: %s", e.Line, e.Reason)
	}
	return e.Reason
}

// Refuse makes one.
func Refuse(line int, format string, a ...any) error {
	return &Refused{line, fmt.Sprintf(format, a...)}
}

// Row is one line of values with its number in the file.
type Row struct {
	Line   int
	Values []string
}

// Table is a heading and its rows.
type Table struct {
	Head []string
	Rows []Row
	// DecimalComma is set where numbers are written 1,5.
	DecimalComma bool
}

// Read splits a text. Lines that are empty or begin with # are passed over.
func Read(text string) (*Table, error) {
	if len(text) > MaxBytes {
		return nil, Refuse(0, "the file holds %.1f MB, more than %d MB", float64(len(text))/(1<<20), MaxBytes>>20)
	}
	text = strings.TrimPrefix(text, "\ufeff")
	if strings.ContainsRune(text, 0) {
		return nil, Refuse(1+strings.Count(text[:strings.IndexByte(text, 0)], "\n"), "this is not text")
	}
	first := ""
	for _, l := range strings.SplitN(text, "\n", 50) {
		if t := strings.TrimSpace(l); t != "" && !strings.HasPrefix(t, "#") {
			first = l
			break
		}
	}
	comma := ','
	for _, r := range []rune{';', '\t'} {
		if strings.Count(first, string(r)) > strings.Count(first, string(comma)) {
			comma = r
		}
	}
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.Comment, r.FieldsPerRecord, r.TrimLeadingSpace, r.LazyQuotes = comma, '#', -1, comma != '\t', true
	t := &Table{DecimalComma: comma != ','}
	for {
		rec, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var pe *csv.ParseError
		if errors.As(err, &pe) {
			return nil, Refuse(pe.StartLine, "%v", pe.Err)
		}
		if err != nil {
			return nil, Refuse(0, "%v", err)
		}
		line, _ := r.FieldPos(0)
		for i := range rec {
			rec[i] = strings.TrimSpace(rec[i])
		}
		if strings.Join(rec, "") == "" {
			continue
		}
		if t.Head == nil {
			t.Head = rec
			continue
		}
		if len(t.Rows) >= MaxRows {
			return nil, Refuse(line, "more than %d lines: split the file", MaxRows)
		}
		if len(rec) > len(t.Head) {
			return nil, Refuse(line, "%d values where the heading has %d columns", len(rec), len(t.Head))
		}
		for len(rec) < len(t.Head) {
			rec = append(rec, "")
		}
		t.Rows = append(t.Rows, Row{line, rec})
	}
	if t.Head == nil {
		return nil, Refuse(0, "the file is empty")
	}
	if len(t.Rows) == 0 {
		return nil, Refuse(1, "there is a heading and nothing below it")
	}
	return t, nil
}

// Column finds a column by one of its names, compared without case, spaces and punctuation; −1 when it is
// not there.
func (t *Table) Column(names ...string) int {
	for _, n := range names {
		for i, h := range t.Head {
			if Plain(h) == Plain(n) {
				return i
			}
		}
	}
	return -1
}

// Plain is a heading without case, spaces and punctuation.
func Plain(s string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9', r > 127:
			return r
		case r >= 'A' && r <= 'Z':
			return r + 32
		}
		return -1
	}, s)
}

// Number reads a value; ok is false when the cell is empty.
func (t *Table) Number(r Row, col int) (v float64, ok bool, err error) {
	s := r.Values[col]
	if s == "" || s == "-" || strings.EqualFold(s, "na") || strings.EqualFold(s, "n/a") {
		return 0, false, nil
	}
	s = strings.ReplaceAll(s, "\u2212", "-")
	if t.DecimalComma && strings.Count(s, ",") == 1 && !strings.Contains(s, ".") {
		s = strings.Replace(s, ",", ".", 1)
	}
	v, e := strconv.ParseFloat(s, 64)
	if e != nil || v != v || v > 1e15 || v < -1e15 {
		return 0, false, Refuse(r.Line, "%s: %q is not a number", t.Head[col], r.Values[col])
	}
	return v, true, nil
}

// Day reads a date written YYYY-MM-DD, or with time behind it, or DD.MM.YYYY; a date with slashes is
// refused, for nobody can tell day from month.
func (t *Table) Day(r Row, col int) (civil.Date, error) {
	s := r.Values[col]
	if len(s) > 10 && (s[10] == ' ' || s[10] == 'T') {
		s = s[:10]
	}
	if p := strings.Split(s, "."); len(p) == 3 && len(p[2]) == 4 {
		s = fmt.Sprintf("%s-%02s-%02s", p[2], p[1], p[0])
	}
	d, err := civil.Parse(s)
	if err != nil || d.IsZero() {
		return civil.Date{}, Refuse(r.Line, "%s: %q is not a day; write YYYY-MM-DD", t.Head[col], r.Values[col])
	}
	return d, nil
}
