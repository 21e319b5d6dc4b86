// Package jobsheet writes jobs as sheets to take along, one to a page, in PDF (ISO 32000): what, where with a small plan, how much, what to
// bring, what it waits for, cautions, and room for notes.
package jobsheet

import (
	"bytes"
	"fmt"
	"math"
	"strings"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"slowroot/core/civil"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/report"
)

// Papers are the sizes sheets are written on.
var Papers = []string{"a4", "letter"}

// Sheet is one job with all that its page holds.
type Sheet struct {
	report.Job
	Estate, Block, Crew string
	Hours               string      // in words
	Bring               [][2]string // what and how much
	Before, After       []string    // jobs it waits for, and that wait for it
	Outline             [][]geo.XY
	Rows                []layout.Piece
}

// page measures, mm.
const (
	margin = 15.0
	label  = 34.0
	planMM = 62.0
)

var darks = map[string]int{"ink": 35, "faint": 110, "line": 190}

type writer struct {
	*fpdf.Fpdf
	wide float64 // between the margins
}

// Write is every sheet on its pages, in the order given.
func Write(paper string, list []Sheet, today civil.Date) ([]byte, error) {
	w := writer{Fpdf: fpdf.New("P", "mm", paper, "")}
	w.AddUTF8FontFromBytes("go", "", goregular.TTF)
	w.AddUTF8FontFromBytes("go", "B", gobold.TTF)
	w.SetMargins(margin, margin, margin)
	w.SetAutoPageBreak(true, margin)
	w.SetTitle("Job sheets", true)
	w.SetCreator("Slow Root", true)
	width, _ := w.GetPageSize()
	w.wide = width - 2*margin
	for _, s := range list {
		w.sheet(s, today)
	}
	if len(list) == 0 {
		w.AddPage()
		w.words(11, "", "There is nothing to be done in these days.")
	}
	var out bytes.Buffer
	if err := w.Output(&out); err != nil {
		return nil, fmt.Errorf("writing job sheets: %w", err)
	}
	return out.Bytes(), nil
}

// plain are words with the signs the fonts have.
var plain = strings.NewReplacer("\u2009", " ", "\u202f", " ", "\u00a0", " ", "₂", "2", "₃", "3", "₅", "5", "⌈", "", "⌉", "")

func (w writer) dark(what string) { w.SetTextColor(darks[what], darks[what], darks[what]) }

func (w writer) words(size float64, style, text string) {
	w.SetFont("go", style, size)
	w.MultiCell(w.wide, size*0.5, plain.Replace(text), "", "L", false)
}

// line is a thing and what is said of it; nothing where nothing is said.
func (w writer) line(what, text string) {
	if text == "" {
		return
	}
	w.SetFont("go", "", 9)
	w.dark("faint")
	y := w.GetY()
	w.CellFormat(label, 5, what, "", 0, "L", false, 0, "")
	w.SetFont("go", "", 10.5)
	w.dark("ink")
	w.SetXY(margin+label, y)
	w.MultiCell(w.wide-label, 5, plain.Replace(text), "", "L", false)
	w.SetDrawColor(darks["line"], darks["line"], darks["line"])
	w.Line(margin, w.GetY()+0.8, margin+w.wide, w.GetY()+0.8)
	w.Ln(1.8)
}

func (w writer) sheet(s Sheet, today civil.Date) {
	w.AddPage()
	w.dark("ink")
	w.words(17, "B", s.Name)
	w.dark("faint")
	w.words(10.5, "", s.Block+", "+s.Estate)
	w.dark("ink")
	w.Ln(1)
	when := s.From.Words()
	if s.By != s.From {
		when += " to " + s.By.Words()
	}
	if !s.On.IsZero() {
		when = s.On.Words() + ", its time is " + when
	}
	w.words(12.5, "B", when)
	w.Ln(1)
	if s.Caution != "" {
		w.SetDrawColor(150, 40, 30)
		w.SetLineWidth(0.6)
		w.SetFont("go", "B", 10.5)
		w.MultiCell(w.wide, 5.4, plain.Replace("Caution: "+s.Caution), "1", "L", false)
		w.SetLineWidth(0.2)
		w.Ln(2)
	}
	w.line("What and how much", s.Detail)
	w.line("Why", s.Why)
	w.line("Who", s.Crew)
	w.line("Hours", s.Hours)
	for i, b := range s.Bring {
		w.line(map[bool]string{true: "To bring"}[i == 0], b[1]+"  "+b[0])
	}
	w.line("Done before it", strings.Join(s.Before, "; "))
	w.line("Waits for it", strings.Join(s.After, "; "))
	w.line("The date follows", s.Rule)
	w.plan(s)
	w.notes(today)
}

// plan draws the block to scale with its rows and a scale bar, north up.
func (w writer) plan(s Sheet) {
	if len(s.Outline) == 0 {
		return
	}
	_, high := w.GetPageSize()
	if w.GetY()+planMM+70 > high-margin {
		w.AddPage()
	}
	lo, hi := geo.XY{X: math.Inf(1), Y: math.Inf(1)}, geo.XY{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, p := range s.Outline[0] {
		lo.X, lo.Y, hi.X, hi.Y = math.Min(lo.X, p.X), math.Min(lo.Y, p.Y), math.Max(hi.X, p.X), math.Max(hi.Y, p.Y)
	}
	k := math.Min((w.wide-10)/math.Max(1, hi.X-lo.X), planMM/math.Max(1, hi.Y-lo.Y))
	top := w.GetY() + 2
	at := func(x, y float64) (float64, float64) { return margin + 5 + (x-lo.X)*k, top + (hi.Y-y)*k }
	w.SetDrawColor(150, 170, 140)
	w.SetLineWidth(0.12)
	for _, p := range s.Rows {
		x0, y0 := at(p.FirstX, p.FirstY)
		x1, y1 := at(p.FirstX+p.StepX*float64(p.Stations-1), p.FirstY+p.StepY*float64(p.Stations-1))
		w.Line(x0, y0, x1, y1)
	}
	w.SetDrawColor(darks["ink"], darks["ink"], darks["ink"])
	w.SetLineWidth(0.4)
	for _, ring := range s.Outline {
		var points []fpdf.PointType
		for _, p := range ring {
			x, y := at(p.X, p.Y)
			points = append(points, fpdf.PointType{X: x, Y: y})
		}
		w.Polygon(points, "D")
	}
	bar := scaleBar((hi.X - lo.X) / 3)
	y := top + (hi.Y-lo.Y)*k + 5
	w.Line(margin+5, y, margin+5+bar*k, y)
	w.SetLineWidth(0.2)
	w.SetFont("go", "", 8.5)
	w.dark("faint")
	w.SetXY(margin+5+bar*k+2, y-2.5)
	w.CellFormat(60, 5, fmt.Sprintf("%g m; north is up", bar), "", 0, "L", false, 0, "")
	w.SetXY(margin, y+4)
	w.dark("ink")
}

// scaleBar is the largest of 1, 2, 5, 10 … m that is no longer than wanted.
func scaleBar(wanted float64) float64 {
	best := 1.0
	for k := 1.0; k <= 1e5; k *= 10 {
		for _, m := range []float64{1, 2, 5} {
			if m*k <= wanted {
				best = m * k
			}
		}
	}
	return best
}

// notes is room for what was done and found.
func (w writer) notes(today civil.Date) {
	_, high := w.GetPageSize()
	if w.GetY()+58 > high-margin {
		w.AddPage()
	}
	w.Ln(2)
	w.words(12, "B", "Done")
	w.SetDrawColor(darks["faint"], darks["faint"], darks["faint"])
	for _, what := range []string{"by whom, on which day", "how much, of what", "what was left, and why", "looked at afterwards"} {
		w.Ln(4)
		w.SetFont("go", "", 9)
		w.dark("faint")
		w.CellFormat(label+8, 5, what, "", 0, "L", false, 0, "")
		w.Line(margin+label+8, w.GetY()+5, margin+w.wide, w.GetY()+5)
		w.Ln(5)
	}
	w.Ln(2)
	w.words(8, "", "Written on "+today.Words()+". Labels, local codes and licensed practice go before this sheet.")
	w.dark("ink")
}
