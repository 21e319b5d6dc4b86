package server

import (
	"bufio"
	"fmt"
	"log/slog"
	"math"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/gin-gonic/gin"

	"slowroot/internal/store"
)

// A body nested too deep, with too many fields, of no object, or with a second one behind it is refused by a sentence
// before anything is made of it, within a second.
func TestBodiesNoHonestClientSends(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	var o struct{ Blocks []struct{ ID string } }
	r.want(200, "GET", "/overview", "").into(&o)
	var many strings.Builder
	for i := range 60_000 {
		fmt.Fprintf(&many, `"k%d":1,`, i)
	}
	for what, body := range map[string]string{
		"nested 9,990 deep": `{"drains":` + strings.Repeat(`{"x":`, 9990) + `1` + strings.Repeat(`}`, 9991), "lists in lists": `{"pits":` + strings.Repeat(`[`, 5000) + strings.Repeat(`]`, 5000) + `}`,
		"60,000 unknown fields": `{` + strings.TrimSuffix(many.String(), ",") + `}`, "null": `null`, "a list": `[]`, "a word": `"x"`, "nothing": ``, "a number": `7`, "two documents": `{}{"name":"x"}`, "cut short": `{"name":`,
	} {
		for _, path := range []string{"/blocks/" + o.Blocks[5].ID + "/preview", "/calculators/planting-density", "/import/heights"} {
			begin := time.Now()
			a := r.ask("POST", path, body)
			var p problemDoc
			if a.Code != 422 || time.Since(begin) > time.Second {
				t.Errorf("%s to %s answered %d in %v: %.200s", what, path, a.Code, time.Since(begin), a.Body)
			} else if a.into(&p); p.Detail == "" {
				t.Errorf("%s: %+v", what, p)
			}
		}
	}
	r.want(422, "POST", "/calculators/planting-density", `{}`)
	r.want(200, "POST", "/calculators/planting-density", `{"inputs":{}}`)
	r.want(200, "POST", "/blocks/"+o.Blocks[5].ID+"/preview", `{"notes":"`+strings.Repeat(`{[\":`, 9000)+`"}`)
}

// An answer that cannot be written as JSON is a 500 that is logged, never an empty 200.
func TestAnswerThatCannotBeWritten(t *testing.T) {
	var log strings.Builder
	s := &Server{log: slog.New(slog.NewTextHandler(&log, nil))}
	gin.SetMode(gin.ReleaseMode)
	r := gin.New()
	r.GET("/", func(c *gin.Context) { answer(s, c, http.StatusOK, map[string]float64{"x": math.NaN()}, nil) })
	rec := httptest.NewRecorder()
	r.ServeHTTP(rec, httptest.NewRequest("GET", "/", nil))
	if rec.Code != 500 || !strings.Contains(rec.Body.String(), "unexpected") || !strings.Contains(log.String(), "writing the answer") {
		t.Errorf("%d %s, log %s", rec.Code, rec.Body, log.String())
	}
}

// A chunk that is framed wrongly is the client's fault and said as such.
func TestMalformedChunk(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	srv := httptest.NewServer(r.h)
	defer srv.Close()
	conn, err := net.Dial("tcp", srv.Listener.Addr().String())
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	fmt.Fprintf(conn, "POST /api/v1/calculators/planting-density HTTP/1.1\r\nHost: 127.0.0.1\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\n{}\r\n0\r\n\r\n")
	res, err := http.ReadResponse(bufio.NewReader(conn), nil)
	if err != nil || res.StatusCode != 400 {
		t.Errorf("%v %v", res, err)
	}
}

// copyOperations asks each operation of the copies once.
func (r *rig) copyOperations() {
	var c struct{ Copies []struct{ Name string } }
	r.want(200, "GET", "/copies", "")
	r.want(201, "POST", "/copies", "").into(&c)
	fresh := r.want(200, "GET", "/copies/fresh", "")
	r.want(200, "GET", "/copies/"+c.Copies[0].Name+"/file", "")
	r.want(200, "POST", "/copies/"+c.Copies[0].Name+"/restore", "")
	r.want(200, "POST", "/restore", fresh.Body.String())
}

// A copy is made, listed and taken; a copy that is sent or kept is put in place under the running program, and a file
// that is none is refused with nothing changed.
func TestCopiesOverHTTP(t *testing.T) {
	r := newRig(t, store.Options{})
	var c struct {
		Copies []struct{ Name string }
		Taken  string
		Remind bool
	}
	r.want(200, "GET", "/copies", "").into(&c)
	if len(c.Copies) != 0 {
		t.Errorf("%+v", c)
	}
	r.want(422, "POST", "/copies", "")
	r.want(201, "POST", "/estate/demonstration", "")
	r.want(201, "POST", "/copies", "").into(&c)
	if len(c.Copies) != 1 || c.Taken != "" {
		t.Fatalf("%+v", c)
	}
	fresh := r.want(200, "GET", "/copies/fresh", "")
	file := filepath.Join(t.TempDir(), "copy.db")
	if err := os.WriteFile(file, fresh.Body.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	if rep, err := store.Verify(t.Context(), file); err != nil || rep.Blocks != 11 {
		t.Fatalf("%+v %v", rep, err)
	}
	if r.want(200, "GET", "/copies", "").into(&c); c.Taken == "" {
		t.Error("nobody remembers that a copy was taken")
	}
	var e struct {
		Revision int
		Estate   struct{ Name string }
	}
	r.want(200, "GET", "/estate", "").into(&e)
	name := e.Estate.Name
	change := func() {
		r.want(200, "GET", "/estate", "").into(&e)
		r.want(200, "PATCH", "/estate", `{"name":"Changed since"}`, "If-Match", quoted(e.Revision))
	}
	change()
	var done struct {
		Estate string
		Blocks int
		Kept   string
	}
	for _, path := range []string{"/copies/" + c.Copies[0].Name + "/restore", "/restore"} {
		body := ""
		if path == "/restore" {
			body = fresh.Body.String()
		}
		r.want(200, "POST", path, body).into(&done)
		if done.Estate != name || done.Blocks != 11 || done.Kept == "" {
			t.Errorf("%s: %+v", path, done)
		}
		if r.want(200, "GET", "/estate", "").into(&e); e.Estate.Name != name {
			t.Errorf("after %s the estate is %s", path, e.Estate.Name)
		}
		r.want(200, "GET", "/overview", "")
		change()
	}
	for what, body := range map[string]string{"no database": strings.Repeat("rubbish ", 999), "cut short": fresh.Body.String()[:20000], "empty": ""} {
		if a := r.ask("POST", "/restore", body); a.Code != 422 && a.Code != 503 {
			t.Errorf("%s answered %d: %s", what, a.Code, a.Body)
		}
		if r.want(200, "GET", "/estate", "").into(&e); e.Estate.Name != "Changed since" {
			t.Errorf("after %s the estate is %s", what, e.Estate.Name)
		}
	}
	r.want(404, "POST", "/copies/slowroot-20200101T000000.db/restore", "")
	r.want(404, "GET", "/copies/slowroot-20200101T000000.db/file", "")
	if kept := r.want(200, "GET", "/copies/"+c.Copies[0].Name+"/file", ""); kept.Body.Len() < 10000 {
		t.Errorf("%d bytes", kept.Body.Len())
	}
}
