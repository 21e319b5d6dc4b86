package standin

import (
	"bytes"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/internal/formats/labreport"
	"slowroot/internal/formats/station"
)

func get(t *testing.T, url string) (int, []byte) {
	t.Helper()
	r, err := http.Get(url)
	if err != nil {
		t.Fatal(err)
	}
	defer r.Body.Close()
	b, err := io.ReadAll(r.Body)
	if err != nil {
		t.Fatal(err)
	}
	return r.StatusCode, b
}

// A request is answered after its delay, in CSV that the reader of any laboratory takes, and as PDF.
func TestLaboratory(t *testing.T) {
	now := time.Date(2027, 1, 1, 0, 0, 0, 0, time.UTC)
	l := &Laboratory{Seed: 7, Delay: time.Minute, Now: func() time.Time { return now }}
	s := httptest.NewServer(l.Handler())
	defer s.Close()
	post := func(body string) (int, string) {
		r, err := http.Post(s.URL+"/requests", "application/json", strings.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		defer r.Body.Close()
		b, _ := io.ReadAll(r.Body)
		return r.StatusCode, string(b)
	}
	all := `"tests":["` + strings.Join(labreport.Asked, `","`) + `"]`
	if code, body := post(`{"sample":"Gate","date":"2027-01-01","fromCm":0,"toCm":20,` + all + `}`); code != 201 || !strings.Contains(body, "S0001") {
		t.Fatalf("%d %s", code, body)
	}
	for _, bad := range []string{`{"sample":"Gate"}`, `{`, `{"sample":"Gate","date":"2027-01-01","fromCm":0,"toCm":20,"tests":["gold"]}`} {
		if code, _ := post(bad); code/100 != 4 {
			t.Errorf("%s answers %d", bad, code)
		}
	}
	if code, _ := get(t, s.URL+"/requests/S0001/report.csv"); code != 202 {
		t.Errorf("before its time %d", code)
	}
	now = now.Add(2 * time.Minute)
	code, text := get(t, s.URL+"/requests/S0001/report.csv")
	r, err := labreport.Read(string(text), "stand-in", nil)
	if code != 200 || err != nil || !r.Ready || len(r.Tests) != 1 {
		t.Fatalf("%d %s: %+v %v", code, text, r, err)
	}
	one := r.Tests[0]
	if one.Ca == nil || one.CEC == nil || one.Al == nil || one.ClayPct == nil || one.BufferPH == nil || one.BufferMethod != "smp" || len(one.Doubts()) > 0 {
		t.Errorf("a report with holes or contradictions: %+v %v", one, one.Doubts())
	}
	if _, pdf := get(t, s.URL+"/requests/S0001/report.pdf"); !bytes.HasPrefix(pdf, []byte("%PDF-")) || !bytes.Contains(pdf, []byte("%%EOF")) {
		t.Errorf("the PDF is %d bytes", len(pdf))
	}
	if code, _ := get(t, s.URL+"/requests/S0099/report.csv"); code != 404 {
		t.Errorf("an unknown request answers %d", code)
	}
	// soils of many seeds are sound
	for seed := range uint64(200) {
		l := &Laboratory{Seed: seed}
		r, err := labreport.Read(l.csv(request{Sample: fmt.Sprint(seed), Date: "2027-01-01", ToCm: 20, Tests: labreport.Asked}, "S1"), "x", nil)
		if err != nil || len(r.Tests[0].Doubts()) > 0 {
			t.Fatalf("seed %d: %v %v", seed, err, r.Tests)
		}
	}
}

func TestStation(t *testing.T) {
	start := time.Date(2027, 1, 1, 0, 0, 0, 0, time.UTC)
	now := start
	st := &Station{Seed: 3, South: true, Begins: civil.Must(2020, 1, 1), Today: civil.Must(2026, 12, 31), PerDay: time.Second, Started: start, Now: func() time.Time { return now }, Faults: true}
	s := httptest.NewServer(st.Handler())
	defer s.Close()
	_, first := get(t, s.URL+"/days.csv?from=2020-01-01")
	days, notes, err := station.Instrument(string(first))
	if err != nil || len(days) < 2400 || len(notes) < 5 {
		t.Fatalf("%d days, %d notes, %v", len(days), len(notes), err)
	}
	q := climate.NewSeries(days)
	if len(q.Gaps) < 10 || len(q.Notes) < 3 {
		t.Errorf("%d gaps, %d doubts: a station has some", len(q.Gaps), len(q.Notes))
	}
	if n := q.Normals(); n[0].MeanC < n[6].MeanC+5 {
		t.Errorf("January %.1f °C, July %.1f °C south of the equator", n[0].MeanC, n[6].MeanC)
	}
	if _, again := get(t, s.URL+"/days.csv?from=2020-01-01"); !bytes.Equal(first, again) {
		t.Error("the same days are not the same")
	}
	now = now.Add(3 * time.Second)
	_, more := get(t, s.URL+"/days.csv?from=2026-12-25")
	days, _, _ = station.Instrument(string(more))
	if station.Last(days) != civil.Must(2027, 1, 3) {
		t.Errorf("three days later its record ends on %s", station.Last(days))
	}
	if code, _ := get(t, s.URL+"/days.csv?from=soon"); code != 422 {
		t.Errorf("a day in words answers %d", code)
	}
}
