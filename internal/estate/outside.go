package estate

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/internal/formats/labreport"
	"slowroot/internal/formats/station"
)

// Unreachable is an outside device or service that does not answer as it should.
type Unreachable struct{ What, Address, Reason string }

func (e *Unreachable) Error() string {
	return fmt.Sprintf("the %s at %s does not answer: %s", e.What, e.Address, e.Reason)
}

const mostFromOutside = 8 << 20

// local refuses an address that leaves this machine: until people and roles exist the program speaks to
// nothing else.
func local(field, address string) (*url.URL, error) {
	u, err := url.Parse(strings.TrimSpace(address))
	if err != nil || u.Scheme != "http" || u.Host == "" {
		return nil, finding.Bad(field, address, "is not an address", "such as http://127.0.0.1:8431")
	}
	ip := net.ParseIP(u.Hostname())
	if u.Hostname() != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return nil, finding.Bad(field, address, "lies outside this machine, and the program speaks to none such yet", "an address on 127.0.0.1")
	}
	return u, nil
}

// outside asks devices and services of this machine and nothing else: no proxy stands between, and a redirect that leads
// elsewhere is not followed.
var outside = &http.Client{
	Transport: &http.Transport{Proxy: nil},
	CheckRedirect: func(req *http.Request, via []*http.Request) error {
		if len(via) >= 5 {
			return errors.New("it redirects again and again")
		}
		if _, err := local("address", req.URL.String()); err != nil {
			return fmt.Errorf("it redirects to %s, outside this machine", req.URL.Host)
		}
		return nil
	},
}

// fetch asks an outside service and gives the status and the text of its answer.
func fetch(ctx context.Context, what, method string, u *url.URL, body []byte) (int, string, error) {
	ctx, cancel := context.WithTimeout(ctx, 10*time.Second)
	defer cancel()
	req, err := http.NewRequestWithContext(ctx, method, u.String(), bytes.NewReader(body))
	if err != nil {
		return 0, "", err
	}
	if body != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	res, err := outside.Do(req)
	if err != nil {
		var op *url.Error
		if errors.As(err, &op) {
			err = op.Err
		}
		return 0, "", &Unreachable{what, u.Host, err.Error()}
	}
	defer res.Body.Close()
	text, err := io.ReadAll(io.LimitReader(res.Body, mostFromOutside+1))
	if err != nil {
		return 0, "", &Unreachable{what, u.Host, err.Error()}
	}
	if len(text) > mostFromOutside {
		return 0, "", &Unreachable{what, u.Host, "it sends more than 8 MB"}
	}
	return res.StatusCode, string(text), nil
}

// Polled is what asking the weather station brought.
type Polled struct {
	New   int            `json:"new"`
	To    civil.Date     `json:"to"`
	Notes []climate.Note `json:"notes"`
}

// PollStation asks the weather station for the days since the last it sent, and a week before them, for a
// station may mend its record.
func (s *Service) PollStation(ctx context.Context) (Polled, error) {
	out := Polled{Notes: []climate.Note{}}
	d, err := s.Estate(ctx)
	if err != nil {
		return out, err
	}
	if d.Estate.Station == "" {
		return out, finding.Bad("station", "", "no weather station is entered", "its address, such as http://127.0.0.1:8431")
	}
	u, err := local("station", d.Estate.Station)
	if err != nil {
		return out, err
	}
	had, err := s.store.Days(ctx)
	if err != nil {
		return out, err
	}
	u = u.JoinPath("days.csv")
	if last := station.Last(had); !last.IsZero() {
		u.RawQuery = "from=" + last.AddDays(-7).String()
	}
	status, text, err := fetch(ctx, "weather station", http.MethodGet, u, nil)
	if err != nil {
		return out, err
	}
	if status != http.StatusOK {
		return out, &Unreachable{"weather station", u.Host, fmt.Sprintf("it answers %d", status)}
	}
	days, notes, err := station.Instrument(text)
	if err != nil {
		return out, fmt.Errorf("what the weather station sends: %w", err)
	}
	known := map[civil.Date]bool{}
	for _, x := range had {
		known[x.On] = true
	}
	checked := climate.NewSeries(days)
	out.Notes = append(append(out.Notes, notes...), checked.Notes...)
	var keep []climate.Day
	for _, x := range checked.Days {
		if x.On.After(s.today()) {
			out.Notes = append(out.Notes, climate.Note{On: x.On, Sentence: "lies in the future and is passed over"})
			continue
		}
		if isBlank(x) {
			continue
		}
		if !known[x.On] {
			out.New++
		}
		keep = append(keep, x)
		out.To = civil.Later(out.To, x.On)
	}
	if err := s.store.KeepDays(ctx, keep); err != nil {
		return out, err
	}
	if len(keep) > 0 {
		s.stationReads.Add(1)
	}
	return out, nil
}

func isBlank(d climate.Day) bool {
	for _, v := range []float64{d.TMin, d.TMax, d.Rain, d.RH, d.Wind, d.Sun} {
		if v == v {
			return false
		}
	}
	return true
}

// SampleRequest is what is asked of a laboratory.
type SampleRequest struct {
	FromCm float64  `json:"fromCm"`
	ToCm   float64  `json:"toCm"`
	Tests  []string `json:"tests"`
}

// SendSample asks the laboratory for a test of a block's soil and notes the request on the block.
func (s *Service) SendSample(ctx context.Context, who, id string, revision int, r SampleRequest) (BlockDoc, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return BlockDoc{}, err
	}
	if e.Estate.Laboratory == "" {
		return BlockDoc{}, finding.Bad("laboratory", "", "no laboratory is entered", "its address, such as http://127.0.0.1:8432")
	}
	u, err := local("laboratory", e.Estate.Laboratory)
	if err != nil {
		return BlockDoc{}, err
	}
	if !(r.FromCm >= 0 && r.ToCm > r.FromCm && r.ToCm <= 200) {
		return BlockDoc{}, finding.Bad("toCm", fmt.Sprintf("%g–%g", r.FromCm, r.ToCm), "is not a sampling depth", "0 to 200 cm, from the top down")
	}
	if len(r.Tests) == 0 {
		return BlockDoc{}, finding.Bad("tests", "none", "says nothing to be tested", "one of the tests at least")
	}
	d, err := s.Block(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	if d.Revision != revision {
		return BlockDoc{}, &Stale{d}
	}
	body, err := json.Marshal(map[string]any{"sample": d.Block.Name, "date": s.today(), "fromCm": r.FromCm, "toCm": r.ToCm, "tests": r.Tests})
	if err != nil {
		return BlockDoc{}, err
	}
	status, text, err := fetch(ctx, "laboratory", http.MethodPost, u.JoinPath("requests"), body)
	if err != nil {
		return BlockDoc{}, err
	}
	var got struct{ ID string }
	if status/100 != 2 || json.Unmarshal([]byte(text), &got) != nil || got.ID == "" {
		return BlockDoc{}, &Unreachable{"laboratory", u.Host, fmt.Sprintf("it answers %d: %.200s", status, strings.TrimSpace(text))}
	}
	return s.change(ctx, who, id, revision, func(d BlockDoc) (document.Block, string, error) {
		b := d.Block
		b.Samples = append(append([]document.Sample{}, b.Samples...), document.Sample{ID: newID(), On: s.today(), FromCm: r.FromCm, ToCm: r.ToCm, Tests: r.Tests, Ref: got.ID})
		return b, "Sent a soil sample of " + b.Name, nil
	})
}

// Waiting is a report that is not ready; it is no error of anybody's.
type Waiting struct{ Says string }

func (e *Waiting) Error() string { return "the report is not ready: " + e.Says }

// FetchReport reads a sample's report from the laboratory through the reader of any laboratory's file, and
// adds its tests to the block.
func (s *Service) FetchReport(ctx context.Context, who, id string, revision int, sample string) (BlockDoc, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	at := -1
	for i, x := range d.Block.Samples {
		if x.ID == sample {
			at = i
		}
	}
	if at < 0 || d.Block.Samples[at].Read {
		return BlockDoc{}, finding.Bad("sample", sample, "is no sample whose report is awaited", "one sent and not yet read")
	}
	u, err := local("laboratory", e.Estate.Laboratory)
	if err != nil {
		return BlockDoc{}, err
	}
	status, text, err := fetch(ctx, "laboratory", http.MethodGet, u.JoinPath("requests", d.Block.Samples[at].Ref, "report.csv"), nil)
	switch {
	case err != nil:
		return BlockDoc{}, err
	case status == http.StatusAccepted:
		return BlockDoc{}, &Waiting{strings.TrimSpace(text)}
	case status != http.StatusOK:
		return BlockDoc{}, &Unreachable{"laboratory", u.Host, fmt.Sprintf("it answers %d", status)}
	}
	const lab = "the laboratory on this machine"
	r, err := labreport.Read(text, lab, e.Estate.Labs[lab])
	if err != nil {
		return BlockDoc{}, fmt.Errorf("what the laboratory sends: %w", err)
	}
	if !r.Ready {
		return BlockDoc{}, finding.Bad("report", "columns", "holds a column in a unit that is not known", "read the file by hand and say what it holds")
	}
	return s.keepTests(ctx, who, id, revision, r, "", func(b *document.Block) {
		b.Samples = append([]document.Sample{}, b.Samples...)
		b.Samples[at].Read = true
	})
}
