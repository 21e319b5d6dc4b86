// Package standin is simulated outside devices and services: small, seeded, and honest about what they
// are. The program speaks to them over HTTP on loopback as it would to real ones.
package standin

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"strings"
	"sync"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"slowroot/core/climate"
	"slowroot/internal/formats/labreport"
)

// Laboratory tests samples of a seeded soil: the same seed, sample name and depth give the same report.
type Laboratory struct {
	Seed  uint64
	Delay time.Duration // from request to report
	Now   func() time.Time

	mu       sync.Mutex
	requests map[string]request
}

type request struct {
	Sample string   `json:"sample"`
	Date   string   `json:"date"`
	FromCm float64  `json:"fromCm"`
	ToCm   float64  `json:"toCm"`
	Tests  []string `json:"tests"`
	ready  time.Time
}

// line is one number of a report.
type line struct {
	test, head, format string
	value              float64
}

// Handler is its address: POST /requests, GET /requests/{id}/report.csv and .pdf. A report that is not
// ready answers 202.
func (l *Laboratory) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("POST /requests", l.accept)
	mux.HandleFunc("GET /requests/{id}/report.csv", func(w http.ResponseWriter, r *http.Request) {
		l.answer(w, r, "text/csv; charset=utf-8", func(q request, id string) ([]byte, error) { return []byte(l.csv(q, id)), nil })
	})
	mux.HandleFunc("GET /requests/{id}/report.pdf", func(w http.ResponseWriter, r *http.Request) { l.answer(w, r, "application/pdf", l.pdf) })
	return mux
}

func (l *Laboratory) now() time.Time {
	if l.Now != nil {
		return l.Now()
	}
	return time.Now()
}

func (l *Laboratory) accept(w http.ResponseWriter, r *http.Request) {
	var q request
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 64<<10)).Decode(&q); err != nil {
		http.Error(w, "the request cannot be read: "+err.Error(), http.StatusBadRequest)
		return
	}
	if q.Sample == "" || q.Date == "" || !(q.ToCm > q.FromCm) || len(q.Tests) == 0 {
		http.Error(w, "a request needs sample, date, fromCm, toCm and tests", http.StatusUnprocessableEntity)
		return
	}
	for _, t := range q.Tests {
		if !strings.Contains(" "+strings.Join(labreport.Asked, " ")+" ", " "+t+" ") {
			http.Error(w, fmt.Sprintf("%q is not tested here; tested are %s", t, strings.Join(labreport.Asked, ", ")), http.StatusUnprocessableEntity)
			return
		}
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.requests == nil {
		l.requests = map[string]request{}
	}
	id := fmt.Sprintf("S%04d", len(l.requests)+1)
	q.ready = l.now().Add(l.Delay)
	l.requests[id] = q
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(http.StatusCreated)
	_ = json.NewEncoder(w).Encode(map[string]string{"id": id, "ready": q.ready.UTC().Format(time.RFC3339)})
}

func (l *Laboratory) answer(w http.ResponseWriter, r *http.Request, kind string, make func(request, string) ([]byte, error)) {
	id := r.PathValue("id")
	l.mu.Lock()
	q, ok := l.requests[id]
	l.mu.Unlock()
	switch {
	case !ok:
		http.Error(w, "no such request: the laboratory forgets them when it is started again", http.StatusNotFound)
		return
	case l.now().Before(q.ready):
		w.WriteHeader(http.StatusAccepted)
		fmt.Fprintf(w, "ready in %s", q.ready.Sub(l.now()).Round(time.Second))
		return
	}
	body, err := make(q, id)
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", kind)
	_, _ = w.Write(body)
}

// soil draws the numbers of a sample: a made-up loam to clay loam, more acid and poorer with depth.
func (l *Laboratory) soil(q request) []line {
	seed := l.Seed
	for _, b := range []byte(fmt.Sprintf("%s/%g", q.Sample, q.FromCm)) {
		seed = seed*1099511628211 ^ uint64(b)
	}
	r := climate.NewRandom(seed)
	mid := (q.FromCm + q.ToCm) / 2
	clay := 18 + 16*r.Uniform() + mid/5
	sand := math.Max(5, 52-clay/2-12*r.Uniform())
	ph := 4.9 + 1.3*r.Uniform() - mid/150
	om := math.Max(0.4, (2.2+2.4*r.Uniform())*math.Exp(-mid/60))
	cec := 0.25*clay + 1.8*om
	v := math.Min(95, math.Max(12, 100*(ph-3.9)/2.9))
	bases := cec * v / 100
	al := math.Max(0, 1.6*(5.4-ph))
	return []line{
		{"ph", "pH (H2O)", "%.1f", ph}, {"buffer", "SMP buffer pH", "%.1f", math.Min(7, 5.2+0.9*(ph-4.5))},
		{"organic", "Organic carbon (g C/kg)", "%.1f", om / 0.1724}, {"phosphorus", "P Olsen (mg/kg)", "%.0f", 4 + 20*r.Uniform()},
		{"bases", "Ca (mmolc/kg)", "%.1f", bases * 7.2}, {"bases", "Mg (mmolc/kg)", "%.1f", bases * 2.1}, {"bases", "K (mg/kg)", "%.0f", bases * 0.05 * 391}, {"bases", "Na (mg/kg)", "%.0f", bases * 0.02 * 229.9},
		{"bases", "CEC (cmolc/kg)", "%.1f", cec}, {"acidity", "Al (cmolc/kg)", "%.2f", al}, {"acidity", "H+Al (cmolc/kg)", "%.1f", cec - bases},
		{"texture", "Sand (%)", "%.0f", math.Round(sand)}, {"texture", "Silt (%)", "%.0f", 100 - math.Round(sand) - math.Round(clay)}, {"texture", "Clay (%)", "%.0f", math.Round(clay)},
		{"salinity", "ECe (dS/m)", "%.1f", 0.3 + 0.4*r.Uniform()},
	}
}

func (l *Laboratory) asked(q request) []line {
	var out []line
	for _, x := range l.soil(q) {
		if strings.Contains(" "+strings.Join(q.Tests, " ")+" ", " "+x.test+" ") {
			out = append(out, x)
		}
	}
	return out
}

func (l *Laboratory) csv(q request, id string) string {
	head, row := []string{"Lab no", "Sample", "Date", "Depth"}, []string{id, strings.ReplaceAll(q.Sample, ";", ","), q.Date, fmt.Sprintf("%g-%g", q.FromCm, q.ToCm)}
	for _, x := range l.asked(q) {
		head, row = append(head, x.head), append(row, strings.Replace(fmt.Sprintf(x.format, x.value), ".", ",", 1))
	}
	return "# simulated laboratory, made-up soil\n" + strings.Join(head, ";") + "\n" + strings.Join(row, ";") + "\n"
}

func (l *Laboratory) pdf(q request, id string) ([]byte, error) {
	p := fpdf.New("P", "mm", "A4", "")
	p.SetCreationDate(time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC))
	p.SetModificationDate(time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC))
	p.SetTitle("Soil report "+id, true)
	p.AddPage()
	say := p.UnicodeTranslatorFromDescriptor("")
	p.SetFont("Helvetica", "B", 16)
	p.CellFormat(0, 10, say("Soil report "+id), "", 1, "L", false, 0, "")
	p.SetFont("Helvetica", "", 10)
	for _, s := range []string{"Simulated laboratory: this soil is made up.", "Sample: " + q.Sample, "Sampled: " + q.Date, fmt.Sprintf("Depth: %g to %g cm", q.FromCm, q.ToCm)} {
		p.CellFormat(0, 6, say(s), "", 1, "L", false, 0, "")
	}
	p.Ln(4)
	for _, x := range l.asked(q) {
		p.CellFormat(90, 7, say(x.head), "B", 0, "L", false, 0, "")
		p.CellFormat(40, 7, fmt.Sprintf(x.format, x.value), "B", 1, "R", false, 0, "")
	}
	var b bytes.Buffer
	err := p.Output(&b)
	return b.Bytes(), err
}
