package server

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"math/rand"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"

	"slowroot/core/civil"
	"slowroot/core/practice"
	"slowroot/demo"
	"slowroot/internal/estate"
	"slowroot/internal/store"
)

type rig struct {
	t       *testing.T
	h       http.Handler
	router  routers.Router
	asked   map[string]bool
	service *estate.Service
}

// newRig is a server on a fresh store; every answer is checked against the contract.
func newRig(t *testing.T, o store.Options) *rig {
	t.Helper()
	doc, err := openapi3.NewLoader().LoadFromFile("../../api/openapi.yaml")
	if err != nil {
		t.Fatal(err)
	}
	if err := doc.Validate(context.Background()); err != nil {
		t.Fatal(err)
	}
	router, err := gorillamux.NewRouter(doc)
	if err != nil {
		t.Fatal(err)
	}
	st, err := store.Open(context.Background(), t.TempDir(), o)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = st.Close() })
	lib, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	svc := estate.New(st, lib, func() civil.Date { return civil.Must(2027, 3, 15) }).Within(time.Minute)
	web := fstest.MapFS{"index.html": {Data: []byte("<!doctype html>")}, "assets/a.js": {Data: []byte("let a")}, "assets/a.js.br": {Data: []byte("br")}}
	h := New(Config{Estate: svc, Demo: func() (estate.Demonstration, error) { return estate.ReadDemonstration(demo.Files) }, Web: web,
		Version: "test", Build: "test", TodayFixed: true, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	return &rig{t: t, h: h, router: router, asked: map[string]bool{}, service: svc}
}

type answered struct {
	*httptest.ResponseRecorder
	t *testing.T
}

func (a answered) into(v any) {
	a.t.Helper()
	if err := json.Unmarshal(a.Body.Bytes(), v); err != nil {
		a.t.Fatalf("%v in %s", err, a.Body.String())
	}
}

// ask sends a request and checks that the answer is one the contract allows.
func (r *rig) ask(method, path, body string, header ...string) answered {
	r.t.Helper()
	req := httptest.NewRequest(method, "http://127.0.0.1:8420/api/v1"+path, strings.NewReader(body))
	req.Host = "127.0.0.1:8420"
	if body != "" {
		req.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(header); i += 2 {
		req.Header.Set(header[i], header[i+1])
	}
	rec := httptest.NewRecorder()
	r.h.ServeHTTP(rec, req)
	probe := httptest.NewRequest(method, "/api/v1"+path, nil)
	route, params, err := r.router.FindRoute(probe)
	if err != nil {
		return answered{rec, r.t}
	}
	r.asked[route.Operation.OperationID] = true
	res := &openapi3filter.ResponseValidationInput{
		RequestValidationInput: &openapi3filter.RequestValidationInput{Request: probe, PathParams: params, Route: route},
		Status:                 rec.Code, Header: rec.Header(), Options: &openapi3filter.Options{IncludeResponseStatus: true}}
	res.SetBodyBytes(rec.Body.Bytes())
	if kind := rec.Header().Get("Content-Type"); strings.Contains(kind, "json") && !strings.Contains(kind, "geo+json") {
		if err := openapi3filter.ValidateResponse(context.Background(), res); err != nil {
			r.t.Errorf("%s %s %.200s answered %d, which the contract does not know: %.600v", method, path, body, rec.Code, err)
		}
	}
	return answered{rec, r.t}
}

func (r *rig) want(status int, method, path, body string, header ...string) answered {
	r.t.Helper()
	a := r.ask(method, path, body, header...)
	if a.Code != status {
		r.t.Fatalf("%s %s answered %d, want %d: %s", method, path, a.Code, status, a.Body.String())
	}
	return a
}

func blockNamed(r *rig, name string) string {
	var o struct{ Blocks []struct{ ID, Name string } }
	r.want(200, "GET", "/overview", "").into(&o)
	for _, b := range o.Blocks {
		if b.Name == name {
			return b.ID
		}
	}
	r.t.Fatalf("no block %s", name)
	return ""
}

// Every operation of the contract, as the front end uses it.
func TestEveryOperationFitsTheContract(t *testing.T) {
	r := newRig(t, store.Options{})
	var status struct{ HasEstate bool }
	r.want(200, "GET", "/status", "").into(&status)
	if status.HasEstate {
		t.Error("an empty folder has an estate")
	}
	r.want(404, "GET", "/estate", "")
	r.want(404, "GET", "/overview", "")
	r.want(201, "POST", "/estate/demonstration", "")
	r.want(422, "POST", "/estate", `{"name":"Again","units":"metric","south":true,"person":"A"}`)
	r.want(422, "POST", "/estate/demonstration", "")
	r.want(200, "GET", "/estate", "")
	r.want(200, "PATCH", "/estate", `{"units":"us"}`, "If-Match", `"1"`, "X-Person", "Tamsin%20Aldane")
	r.want(412, "PATCH", "/estate", `{"units":"metric"}`, "If-Match", `"1"`)
	r.want(200, "GET", "/estate/seasons?south=false", "")
	r.want(200, "GET", "/estate/rains", "")
	var o struct {
		Blocks []struct {
			ID, Name string
			Revision int
		}
	}
	r.want(200, "GET", "/overview", "").into(&o)
	id := map[string]string{}
	for _, b := range o.Blocks {
		id[b.Name] = b.ID
		r.want(200, "GET", "/blocks/"+b.ID, "")
		r.want(200, "GET", "/blocks/"+b.ID+"/plan", "")
		r.want(200, "GET", "/blocks/"+b.ID+"/forks", "")
	}
	one := fmt.Sprintf(`{"blocks":[%q,%q],"first":"2028-07-10","growDays":200,"pickDays":40,"overlapDays":5,"baseC":null}`, id["Orchard Foot"], id["Kiln Piece"])
	r.want(200, "POST", "/succession", one)
	// as they stand already: a picking of 371 days, seven of them together
	asTheyStand := fmt.Sprintf(`{"blocks":[%q,%q],"first":"2027-08-16","growDays":900,"pickDays":371,"overlapDays":7}`, id["Orchard Foot"], id["Kiln Piece"])
	r.want(200, "POST", "/succession/keep", asTheyStand, "X-Person", "A")
	r.want(422, "POST", "/succession", `{"blocks":[],"first":"2028-07-10"}`)
	r.want(422, "POST", "/succession/keep", `{"blocks":1}`)
	foot := id["Orchard Foot"]
	r.want(200, "GET", "/blocks/"+foot+"/working?figure=rows.stations", "")
	r.want(404, "GET", "/blocks/"+foot+"/working?figure=nonsense", "")
	r.want(200, "POST", "/blocks/"+foot+"/preview", `{"planting":{"layout":{"bearingDeg":20}}}`)
	r.want(200, "POST", "/blocks/"+foot+"/preview/rows,figures,steps", `{"planting":{"layout":{"bearingDeg":20}}}`)
	r.want(422, "POST", "/blocks/"+foot+"/preview/rows,everything", `{"planting":{"layout":{"bearingDeg":20}}}`)
	r.want(200, "PATCH", "/blocks/"+foot, `{"planting":{"date":"2027-09-01"}}`, "If-Match", `"1"`)
	r.want(412, "PATCH", "/blocks/"+foot, `{"notes":"mine"}`, "If-Match", `"1"`)
	r.want(200, "POST", "/blocks/"+foot+"/adopt", "", "If-Match", `"2"`)
	r.want(200, "POST", "/blocks/"+foot+"/planted", `{"on":"2027-03-01"}`, "If-Match", `"3"`)
	r.want(422, "POST", "/blocks/"+foot+"/planted", `{"on":"2027-03-01"}`, "If-Match", `"4"`)
	r.want(200, "GET", "/blocks/"+foot, "")
	csv := r.want(200, "GET", "/blocks/"+foot+"/stations.csv", "").Body.String()
	if !strings.HasPrefix(csv, "station,row,role,lon,lat,plot,clone\nR1-001,1,main,172.") || strings.Count(csv, "\n") != 3180 {
		t.Errorf("stations file of %d lines starts %.80q", strings.Count(csv, "\n"), csv)
	}
	years := r.want(200, "GET", "/blocks/"+id["Long Strip"]+"/years.csv", "").Body.String()
	if !strings.Contains(years, "2025/26,13,") || strings.Count(years, "\n") != 36 {
		t.Errorf("year table %.200q", years)
	}
	r.want(200, "GET", "/jobs?from=2027-03-01&to=2027-06-01", "")
	r.want(422, "GET", "/jobs?from=then&to=2027-06-01", "")
	r.want(200, "GET", "/jobs/weeks?from=2027-03-01&to=2027-06-01", "")
	r.want(422, "GET", "/jobs/level?from=2027-03-15&to=2027-06-15", "")
	r.want(422, "POST", "/jobs/level?from=2027-03-15&to=2027-06-15", "")
	r.want(422, "POST", "/jobs/level?from=2027-03-15&to=never", "")
	r.want(422, "GET", "/jobs/weeks?from=2027-03-01&to=now", "")
	for _, form := range []string{"ics", "csv", "xlsx"} {
		r.want(200, "GET", "/jobs/file/"+form+"?from=2027-03-01&to=2027-06-01", "")
	}
	r.want(422, "GET", "/jobs/file/doc?from=2027-03-01&to=2027-06-01", "")
	for _, paper := range []string{"", "&paper=letter", "&block=" + id["Gate Field"]} {
		if pdf := r.want(200, "GET", "/jobs/sheets.pdf?from=2027-03-01&to=2027-04-01"+paper, "").Body.String(); !strings.HasPrefix(pdf, "%PDF") {
			t.Errorf("job sheets%s begin %.20q", paper, pdf)
		}
	}
	r.want(422, "GET", "/jobs/sheets.pdf?from=2027-03-01&to=2027-04-01&paper=slate", "")
	r.want(422, "GET", "/jobs/sheets.pdf?from=2027-03-01&to=2034-04-01", "")
	r.want(200, "GET", "/orders", "")
	exported := r.want(200, "GET", "/blocks.geojson", "").Body.String()
	var found []struct {
		Name, Problem string
		Plantings     []struct{ Sheet string }
	}
	r.want(200, "POST", "/import/boundaries", exported, "Content-Type", "application/octet-stream").into(&found)
	if len(found) != 11 || found[0].Problem != "" || len(found[0].Plantings) != 1 || found[0].Plantings[0].Sheet != "tea" {
		t.Errorf("what was exported reads back as %+v", found)
	}
	r.boundaryOperations()
	r.optionOperations(id["Gate Field"])
	r.want(201, "POST", "/blocks", `{"blocks":[{"name":"New","number":0,"boundary":{"outer":[{"lon":172,"lat":-38},{"lon":172.002,"lat":-38},{"lon":172.002,"lat":-37.999}]},"surveyed":"","accuracyM":0,"notes":""}]}`)
	var history []struct{ ID int }
	r.want(200, "GET", "/history", "").into(&history)
	r.want(200, "POST", "/undo", "", "If-Match", fmt.Sprintf("%q", fmt.Sprint(history[0].ID)))
	var steps struct{ Undo, Redo *struct{ ID int } }
	r.want(200, "GET", "/steps", "").into(&steps)
	if steps.Redo == nil || steps.Redo.ID != history[0].ID {
		t.Errorf("nothing is offered to be made again: %+v", steps)
	}
	r.want(200, "POST", "/redo", "", "If-Match", fmt.Sprintf("%q", fmt.Sprint(history[0].ID)))
	r.want(200, "GET", fmt.Sprintf("/history/%d", history[0].ID), "")
	r.want(404, "GET", "/history/999999", "")
	if a := r.want(200, "GET", "/archive", ""); !strings.HasPrefix(a.Body.String(), "PK") {
		t.Error("the archive is no zip")
	}
	r.want(200, "GET", "/history?who=nobody&n=5", "")
	r.want(409, "POST", "/undo", "", "If-Match", `"1"`)
	ground := "/blocks/" + blockNamed(r, "Gate Field")
	var field struct {
		Revision  int
		Plantings []struct{ ID, Stage string }
	}
	r.want(200, "GET", ground, "").into(&field)
	match := func() []string { return []string{"If-Match", fmt.Sprintf("%q", fmt.Sprint(field.Revision))} }
	begin := `{"considered":true,"sheet":"hazelnut","date":"","layout":{},"adoptedOn":"","baseDate":"","planted":""}`
	r.want(428, "POST", ground+"/plantings", begin)
	r.want(201, "POST", ground+"/plantings", begin, match()...).into(&field)
	pid := field.Plantings[len(field.Plantings)-1].ID
	r.want(200, "GET", ground+"/plan?planting="+pid, "")
	r.want(404, "GET", ground+"/plan?planting=nope", "")
	r.want(201, "POST", ground+"/records", `{"records":[{"id":"t-1","kind":"counted","day":"2027-03-01","what":"stumps","value":12}]}`)
	r.want(422, "POST", ground+"/records", `{"records":[{"id":"t-2","kind":"done","day":"2027-03-01"}]}`)
	r.want(409, "POST", ground+"/records", `{"records":[{"id":"t-1","kind":"counted","day":"2027-03-01","what":"stumps","value":13}]}`)
	r.want(200, "GET", ground+"/records", "")
	r.want(422, "POST", ground+"/end", `{"on":"2027-03-01","how":"grubbed"}`, match()...)
	var gate struct{ Revision int }
	r.want(200, "GET", "/blocks/"+id["Gate Field"], "").into(&gate)
	r.want(204, "DELETE", "/blocks/"+id["Gate Field"], "", "If-Match", fmt.Sprintf("%q", fmt.Sprint(gate.Revision)))
	r.want(404, "GET", "/blocks/"+id["Gate Field"], "")
	r.want(200, "GET", "/sheets", "")
	r.sheetOperations()
	r.want(200, "GET", "/calculators", "")
	r.want(200, "POST", "/calculators/planting-density", `{"inputs":{"rowSpacingM":6,"plantSpacingM":4}}`)
	r.want(422, "POST", "/calculators/planting-density", `{"inputs":{"rowSpacingM":0}}`)
	r.want(404, "POST", "/calculators/astrology", `{"inputs":{}}`)

	r.drainOperations(id["Orchard Foot"], id["Chapel Corner"])
	r.groundOperations(id["Orchard Foot"], id["Chapel Corner"])

	r.copyOperations()

	doc, _ := openapi3.NewLoader().LoadFromFile("../../api/openapi.yaml")
	for path, item := range doc.Paths.Map() {
		for method, op := range item.Operations() {
			if !r.asked[op.OperationID] {
				t.Errorf("%s %s (%s) is never asked", method, path, op.OperationID)
			}
		}
	}
}

type problemDoc struct {
	Type, Title, Detail, Field, Value, Rule, Accepted, Remedy string
	Status                                                    int
}

// Bad input, each with a clear error and nothing lost.
func TestBadInputIsRefusedClearly(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	var o struct{ Blocks []struct{ ID, Name string } }
	r.want(200, "GET", "/overview", "").into(&o)
	var foot string
	for _, b := range o.Blocks {
		if b.Name == "Orchard Foot" {
			foot = b.ID
		}
	}
	before := r.want(200, "GET", "/blocks/"+foot, "").Body.String()
	bow := `{"name":"Bow","number":0,"boundary":{"outer":[{"lon":172,"lat":-38},{"lon":172.002,"lat":-37.999},{"lon":172.002,"lat":-38},{"lon":172,"lat":-37.999}]},"surveyed":"","accuracyM":0,"notes":""}`
	for _, c := range []struct {
		name, method, path, body string
		status                   int
		field, say               string
		header                   []string
	}{
		{"no If-Match", "PATCH", "/blocks/" + foot, `{"notes":"x"}`, 428, "", "If-Match", nil},
		{"If-Match of words", "PATCH", "/blocks/" + foot, `{"notes":"x"}`, 422, "If-Match", "revision", []string{"If-Match", "soon"}},
		{"spacing of zero", "PATCH", "/blocks/" + foot, `{"planting":{"layout":{"plantSpacingM":0}}}`, 422, "planting.layout.plantSpacingM", "0.1 to 25 m", []string{"If-Match", `"1"`}},
		{"planting in 1066", "PATCH", "/blocks/" + foot, `{"planting":{"date":"1066-10-14"}}`, 422, "body", "1066", []string{"If-Match", `"1"`}},
		{"30 February", "POST", "/blocks/" + foot + "/preview", `{"planting":{"date":"2027-02-30"}}`, 422, "body", "28 days", nil},
		{"body of 50 MB", "PATCH", "/blocks/" + foot, `{"notes":"` + strings.Repeat("x", 50<<20) + `"}`, 413, "", "kB", []string{"If-Match", `"1"`}},
		{"not JSON", "POST", "/blocks", `{"blocks":`, 422, "body", "", nil},
		{"self-crossing", "POST", "/blocks", `{"blocks":[` + bow + `]}`, 422, "boundary", "crosses", nil},
		{"a field that does not exist", "POST", "/blocks", `{"bloks":[]}`, 422, "body", "bloks", nil},
		{"no blocks", "POST", "/blocks", `{"blocks":[]}`, 422, "blocks", "1 to 1000", nil},
		{"malformed GeoJSON", "POST", "/import/boundaries", "{\n\"type\":", 422, "", "line 2", nil},
		{"huge GeoJSON", "POST", "/import/boundaries", strings.Repeat("[", 10<<20), 413, "", "kB", nil},
		{"a far address", "GET", "/nowhere", "", 404, "", "nowhere", nil},
		{"another way to ask", "DELETE", "/status", "", 405, "", "DELETE", nil},
	} {
		a := r.ask(c.method, c.path, c.body, c.header...)
		var p problemDoc
		if a.Code != c.status || a.Header().Get("Content-Type") != "application/problem+json" {
			t.Errorf("%s: answered %d %s, want %d", c.name, a.Code, a.Header().Get("Content-Type"), c.status)
			continue
		}
		a.into(&p)
		if p.Field != c.field || !strings.Contains(p.Detail+p.Rule+p.Accepted+p.Remedy, c.say) || p.Title == "" || p.Status != c.status {
			t.Errorf("%s: %+v", c.name, p)
		}
	}
	if after := r.want(200, "GET", "/blocks/"+foot, "").Body.String(); after != before {
		t.Error("a refused request changed the block")
	}
}

func TestDiskFullIsSaidAndLosesNothing(t *testing.T) {
	r := newRig(t, store.Options{MaxPages: 400})
	r.want(201, "POST", "/estate/demonstration", "")
	var o struct{ Blocks []struct{ ID, Name string } }
	r.want(200, "GET", "/overview", "").into(&o)
	id := o.Blocks[7].ID
	var a answered
	rev := 1
	rnd := rand.New(rand.NewSource(1))
	for ; rev < 60; rev++ {
		var noise strings.Builder // what cannot be packed
		for range 90 << 10 {
			noise.WriteByte("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"[rnd.Intn(62)])
		}
		a = r.ask("PATCH", "/blocks/"+id, fmt.Sprintf(`{"notes":"%d %s"}`, rev, noise.String()), "If-Match", fmt.Sprintf("%q", fmt.Sprint(rev)))
		if a.Code != 200 {
			break
		}
	}
	var p problemDoc
	a.into(&p)
	if a.Code != 507 || !strings.Contains(p.Remedy, "nothing was changed") {
		t.Fatalf("a full disk answered %d %+v", a.Code, p)
	}
	var d struct {
		Revision int
		Block    struct{ Notes string }
	}
	r.want(200, "GET", "/blocks/"+id, "").into(&d)
	if d.Revision != rev || !strings.HasPrefix(d.Block.Notes, fmt.Sprint(rev-1)+" ") {
		t.Errorf("after the full disk: revision %d, notes %.10q; want what was written last", d.Revision, d.Block.Notes)
	}
}

func TestOnlyThisMachineAndThisPage(t *testing.T) {
	r := newRig(t, store.Options{})
	for _, c := range []struct {
		host, origin string
		want         int
	}{{"127.0.0.1:8420", "", 200}, {"localhost:8420", "http://localhost:8420", 200}, {"[::1]:8420", "", 200},
		{"farm.example:8420", "", 421}, {"127.0.0.1:8420", "http://elsewhere.example", 403}, {"127.0.0.1:8420", "null", 403}} {
		req := httptest.NewRequest("GET", "/api/v1/status", nil)
		req.Host = c.host
		if c.origin != "" {
			req.Header.Set("Origin", c.origin)
		}
		rec := httptest.NewRecorder()
		r.h.ServeHTTP(rec, req)
		if rec.Code != c.want {
			t.Errorf("host %s origin %s: %d, want %d", c.host, c.origin, rec.Code, c.want)
		}
		if csp := rec.Header().Get("Content-Security-Policy"); strings.Contains(csp, "unsafe") || !strings.Contains(csp, "default-src 'none'") {
			t.Errorf("policy %q", csp)
		}
	}
	for addr, want := range map[string]bool{"127.0.0.1:0": true, "localhost:80": true, "[::1]:9": true, "0.0.0.0:80": false, ":8080": false, "192.168.1.4:80": false, "nonsense": false} {
		if Loopback(addr) != want {
			t.Errorf("Loopback(%s) = %v", addr, !want)
		}
	}
}

func TestStaticFiles(t *testing.T) {
	r := newRig(t, store.Options{})
	get := func(path string, header ...string) *httptest.ResponseRecorder {
		req := httptest.NewRequest("GET", path, nil)
		req.Host = "127.0.0.1"
		for i := 0; i+1 < len(header); i += 2 {
			req.Header.Set(header[i], header[i+1])
		}
		rec := httptest.NewRecorder()
		r.h.ServeHTTP(rec, req)
		return rec
	}
	for _, path := range []string{"/", "/blocks/abc/rows", "/jobs"} {
		if rec := get(path); rec.Code != 200 || !bytes.Contains(rec.Body.Bytes(), []byte("doctype")) {
			t.Errorf("%s: %d", path, rec.Code)
		}
	}
	rec := get("/assets/a.js", "Accept-Encoding", "gzip, br")
	if rec.Header().Get("Content-Encoding") != "br" || rec.Body.String() != "br" || !strings.Contains(rec.Header().Get("Cache-Control"), "immutable") {
		t.Errorf("compressed file: %v %q", rec.Header(), rec.Body)
	}
	if again := get("/assets/a.js", "If-None-Match", rec.Header().Get("ETag")); again.Code != 304 {
		t.Errorf("unchanged file answered %d", again.Code)
	}
	if rec := get("/assets/missing.js"); rec.Code != 404 {
		t.Errorf("missing file answered %d", rec.Code)
	}
}

// Twenty people change one block from the same revision: one wins, nineteen are told, nothing is lost.
func TestOneOfManyWritersAtOnceWins(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	var o struct{ Blocks []struct{ ID, Name string } }
	r.want(200, "GET", "/overview", "").into(&o)
	id := o.Blocks[0].ID
	codes := make(chan int, 20)
	for i := range 20 {
		go func() {
			req := httptest.NewRequest("PATCH", "http://127.0.0.1/api/v1/blocks/"+id, strings.NewReader(fmt.Sprintf(`{"notes":"writer %d"}`, i)))
			req.Host = "127.0.0.1"
			req.Header.Set("If-Match", `"1"`)
			rec := httptest.NewRecorder()
			r.h.ServeHTTP(rec, req)
			codes <- rec.Code
		}()
	}
	count := map[int]int{}
	for range 20 {
		count[<-codes]++
	}
	if count[200] != 1 || count[412] != 19 {
		t.Fatalf("answers %v", count)
	}
	var history []struct{ What string }
	r.want(200, "GET", "/history", "").into(&history)
	if len(history) != 2 {
		t.Errorf("%d changes in the history", len(history))
	}
}

// A preview of nonsense never brings the program down, whatever field it is in.
func TestPreviewOfNonsense(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	var o struct{ Blocks []struct{ ID, Name string } }
	r.want(200, "GET", "/overview", "").into(&o)
	foot := o.Blocks[5].ID
	for _, body := range []string{
		`{"planting":{"layout":{"plantSpacingM":"three"}}}`, `{"planting":{"layout":{"plantSpacingM":-3}}}`, `{"planting":{"layout":{"plantSpacingM":1e308}}}`,
		`{"planting":{"layout":{"rowSpacingM":0.1,"plantSpacingM":0.1,"edgeBandM":0,"rowEndSetbackM":0}}}`,
		`{"planting":{"choices":{"layout":{"option":7}}}}`, `{"planting":{"choices":{"layout":"x"},"date":null}}`, `{"planting":7}`, `{"boundary":null}`,
		`{"boundary":{"outer":[]}}`, `{"planting":{"done":{"lime":"soon"}}}`, `{"planting":{"confidence":2}}`, `null`, `"x"`, ``, `{"planting":{"picked":{"2027":-4}}}`,
	} {
		a := r.ask("POST", "/blocks/"+foot+"/preview", body)
		var p problemDoc
		if a.Code != 422 {
			t.Errorf("%s answered %d: %.200s", body, a.Code, a.Body.String())
			continue
		}
		a.into(&p)
		if p.Field == "" || p.Accepted == "" {
			t.Errorf("%s: %+v", body, p)
		}
	}
	r.want(200, "POST", "/blocks/"+foot+"/preview", `{"planting":null}`)
}

// sheetOperations copies a sheet, changes it, reads it as a file and in again, and takes it out.
func (r *rig) sheetOperations() {
	r.t.Helper()
	var own struct {
		ID       string
		Revision int
		Values   []struct{ Path, Value string }
	}
	r.want(200, "GET", "/sheets/hazelnut?against=persimmon", "")
	r.want(404, "GET", "/sheets/none", "")
	r.want(422, "POST", "/sheets", `{"from":"hazelnut"}`)
	r.want(201, "POST", "/sheets", `{"from":"hazelnut","name":"Hazelnut, ours"}`).into(&own)
	match := func() []string { return []string{"If-Match", fmt.Sprintf("%q", fmt.Sprint(own.Revision))} }
	r.want(422, "PATCH", "/sheets/"+own.ID, `{"edits":[{"path":"life.base","value":"4000"}]}`, match()...)
	r.want(422, "PATCH", "/sheets/hazelnut", `{"edits":[{"path":"life.nothing","value":"4"}]}`, match()...)
	r.want(200, "PATCH", "/sheets/"+own.ID, `{"edits":[{"path":"habit","value":"as we grow it"}]}`, match()...).into(&own)
	r.want(412, "PATCH", "/sheets/"+own.ID, `{"edits":[{"path":"habit","value":"x"}]}`, "If-Match", `"1"`)
	file := r.want(200, "GET", "/sheets/"+own.ID+"/file", "").Body.String()
	text, _ := json.Marshal(map[string]string{"text": file})
	var again struct {
		ID       string
		Revision int
	}
	r.want(201, "POST", "/sheets", string(text)).into(&again)
	if again.ID == own.ID {
		r.t.Errorf("read in over %s", own.ID)
	}
	r.want(204, "DELETE", "/sheets/"+again.ID, "", "If-Match", fmt.Sprintf("%q", fmt.Sprint(again.Revision)))
	r.want(422, "DELETE", "/sheets/hazelnut", "", match()...)
}
