package server

import (
	"fmt"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"

	"slowroot/internal/store"
)

// Several read every kind of answer while one writes: what is remembered between readers is shared under the race
// detector, every answer comes, and a reader after the last write sees it.
func TestReadersAndAWriterAtOnce(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	var o struct{ Blocks []struct{ ID, Name string } }
	r.want(200, "GET", "/overview", "").into(&o)
	foot := "/blocks/" + o.Blocks[5].ID
	one := func(method, path, body string, header ...string) int {
		req := httptest.NewRequest(method, "http://127.0.0.1/api/v1"+path, strings.NewReader(body))
		req.Host = "127.0.0.1"
		for i := 0; i+1 < len(header); i += 2 {
			req.Header.Set(header[i], header[i+1])
		}
		rec := httptest.NewRecorder()
		r.h.ServeHTTP(rec, req)
		return rec.Code
	}
	var readers sync.WaitGroup
	for _, path := range []string{"/overview", foot + "/plan", foot + "/land", "/climate", "/jobs?from=2027-01-01&to=2027-12-31", foot + "/fit", foot + "/plan", foot + "/forks", foot + "/forks", "/history"} {
		readers.Add(1)
		go func() {
			defer readers.Done()
			for range 3 {
				if code := one("GET", path, ""); code != 200 {
					t.Errorf("%s answered %d", path, code)
				}
			}
		}()
	}
	for n := 1; n <= 4; n++ {
		if code := one("PATCH", foot, fmt.Sprintf(`{"notes":"note %d"}`, n), "If-Match", fmt.Sprintf("%q", fmt.Sprint(n))); code != 200 {
			t.Errorf("write %d answered %d", n, code)
		}
	}
	readers.Wait()
	var d struct{ Block struct{ Notes string } }
	r.want(200, "GET", foot, "").into(&d)
	if d.Block.Notes != "note 4" {
		t.Errorf("the block's note is %q", d.Block.Notes)
	}
}
