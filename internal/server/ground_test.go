package server

import (
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"slowroot/core/civil"
	"slowroot/internal/standin"
	"slowroot/internal/store"
)

func quoted(n int) string { return fmt.Sprintf("%q", fmt.Sprint(n)) }

func body(v any) string {
	b, _ := json.Marshal(v)
	return string(b)
}

// groundOperations asks every operation about ground once, as the front end does.
func (r *rig) groundOperations(foot, corner string) {
	t := r.t
	t.Helper()
	r.want(200, "GET", "/lists", "")
	r.want(200, "GET", "/blocks/"+foot+"/land", "")
	r.want(200, "GET", "/blocks/"+foot+"/fit", "")
	r.want(200, "GET", "/fit/tea", "")
	r.want(404, "GET", "/fit/moonflower", "")
	var c struct {
		Known bool
		Years []struct{ Year int }
		Days  []struct{ TMin float64 }
	}
	r.want(200, "GET", "/climate", "").into(&c)
	if !c.Known || len(c.Years) != 12 || len(c.Days) != 365 {
		t.Errorf("climate of %d years and %d days", len(c.Years), len(c.Days))
	}
	var e struct{ Revision int }
	estate := func() string { r.want(200, "GET", "/estate", "").into(&e); return quoted(e.Revision) }
	spots := map[string]any{"name": "Levelled", "text": "lon,lat,z\n172.0005,-38.0005,61\n172.003,-38.0005,62\n172.003,-38.0018,66\n172.0005,-38.0018,65\n", "crs": "EPSG:4326", "accuracyM": 0.02, "how": "levelled", "on": "2027-01-05"}
	var h struct {
		Count   int
		Highest float64
	}
	r.want(200, "POST", "/import/heights", body(spots)).into(&h)
	if h.Count != 4 || h.Highest != 66 {
		t.Errorf("heights read as %+v", h)
	}
	r.want(200, "POST", "/heights", body(spots), "If-Match", estate())
	r.want(412, "POST", "/heights", body(spots), "If-Match", `"1"`)
	weather := map[string]any{"name": "Yard", "text": "date,tmin,tmax,rain\n2026-01-01,10,20,0\n2026-01-03,9,19,4\n"}
	var w struct {
		Days int
		Gaps []struct{ Days int }
	}
	r.want(200, "POST", "/import/weather", body(weather)).into(&w)
	if w.Days != 2 || len(w.Gaps) != 1 || w.Gaps[0].Days != 1 {
		t.Errorf("weather read as %+v", w)
	}
	r.want(200, "POST", "/weather", body(weather), "If-Match", estate())
	r.want(422, "POST", "/import/normals", body(map[string]any{"name": "n", "text": "month,meanC,minC,rainMm\n1,10,5,80\n"}))
	var b strings.Builder
	b.WriteString("month;meanC;minC;rainMm\n")
	for m := 1; m <= 12; m++ {
		fmt.Fprintf(&b, "%d;10,5;5;80\n", m)
	}
	r.want(200, "POST", "/import/normals", body(map[string]any{"name": "n", "text": b.String()}))
	lab := map[string]any{"lab": "Fellside Soils", "mapping": map[string]any{}, "text": "Sample;Date;Depth;pH (CaCl2);Ca (mg/kg);Mg (meq/100g)\nOF;2027-03-01;0-20;5,1;820;0,9\n"}
	var report struct {
		Ready bool
		Tests []struct{ Ph, CaCmolKg float64 }
	}
	r.want(200, "POST", "/import/lab", body(lab)).into(&report)
	if !report.Ready || math.Abs(report.Tests[0].CaCmolKg-820/200.4) > 1e-9 {
		t.Errorf("report read as %+v", report)
	}
	var doc struct{ Revision int }
	at := func(id string) string {
		r.want(200, "GET", "/blocks/"+id, "").into(&doc)
		return quoted(doc.Revision)
	}
	r.want(200, "POST", "/blocks/"+corner+"/tests", body(lab), "If-Match", at(corner))

	// the stand-ins, over HTTP as real ones
	clock := time.Date(2027, 3, 15, 8, 0, 0, 0, time.UTC)
	labServer := httptest.NewServer((&standin.Laboratory{Seed: 3, Delay: time.Hour, Now: func() time.Time { return clock }}).Handler())
	defer labServer.Close()
	station := httptest.NewServer((&standin.Station{Seed: 5, South: true, Begins: civil.Must(2026, 6, 1), Today: civil.Must(2027, 3, 20), Faults: true}).Handler())
	defer station.Close()
	r.want(422, "POST", "/station/poll", "")
	r.want(200, "PATCH", "/estate", body(map[string]any{"station": station.URL, "laboratory": labServer.URL}), "If-Match", estate())
	var polled struct {
		New   int
		To    string
		Notes []struct{ Sentence string }
	}
	r.want(200, "POST", "/station/poll", "").into(&polled)
	if polled.New < 270 || polled.To != "2027-03-15" || len(polled.Notes) < 5 {
		t.Errorf("the station brought %d days to %s with %d notes", polled.New, polled.To, len(polled.Notes))
	}
	r.want(200, "POST", "/station/poll", "").into(&polled)
	if polled.New != 0 {
		t.Errorf("asked again it brought %d new days", polled.New)
	}
	var sent struct {
		Revision int
		Block    struct{ Samples []struct{ ID, Ref string } }
	}
	r.want(200, "POST", "/blocks/"+foot+"/samples", `{"fromCm":0,"toCm":20,"tests":["ph","bases","texture"]}`, "If-Match", at(foot)).into(&sent)
	sample := "/blocks/" + foot + "/samples/" + sent.Block.Samples[0].ID + "/report"
	r.want(409, "POST", sample, "", "If-Match", quoted(sent.Revision))
	clock = clock.Add(2 * time.Hour)
	var got struct {
		Block struct {
			Tests   []struct{ Lab, On string }
			Samples []struct{ Read bool }
		}
	}
	r.want(200, "POST", sample, "", "If-Match", quoted(sent.Revision)).into(&got)
	if n := len(got.Block.Tests); n != 2 || !got.Block.Samples[0].Read {
		t.Errorf("after the report %d tests, %+v", n, got.Block.Samples)
	}
}

// drainOperations writes the drains of the demonstration in every form and reads them back: the same network.
func (r *rig) drainOperations(foot, dry string) {
	t := r.t
	t.Helper()
	type network struct {
		Laterals []struct {
			ID                   string
			LengthM, Low, AreaM2 float64
		}
		FlowM3S float64
		Drawn   bool
	}
	var before, after struct {
		Drains struct {
			Network network
			Taken   string
		}
	}
	r.want(200, "GET", "/blocks/"+foot+"/plan", "").into(&before)
	for format, starts := range map[string]string{"csv": "point,drain,kind,chainageM", "gpx": "<?xml", "dxf": "999"} {
		if a := r.want(200, "GET", "/blocks/"+foot+"/setting-out/"+format, ""); !strings.HasPrefix(strings.TrimSpace(a.Body.String()), starts) {
			t.Errorf("%s begins with %.40q", format, a.Body.String())
		}
	}
	r.want(422, "GET", "/blocks/"+dry+"/setting-out/csv", "")
	r.want(422, "GET", "/blocks/"+foot+"/setting-out/shp", "")
	text := r.want(200, "GET", "/blocks/"+foot+"/setting-out/geojson", "").Body.String()
	var doc struct{ Revision int }
	r.want(200, "GET", "/blocks/"+foot, "").into(&doc)
	r.want(412, "POST", "/blocks/"+foot+"/drains", body(map[string]any{"name": "d", "text": text}), "If-Match", `"99"`)
	r.want(422, "POST", "/blocks/"+foot+"/drains", body(map[string]any{"name": "d", "text": strings.ReplaceAll(text, "collector", "gutter")}), "If-Match", quoted(doc.Revision))
	r.want(200, "POST", "/blocks/"+foot+"/drains", body(map[string]any{"name": "drains.geojson", "text": text}), "If-Match", quoted(doc.Revision))
	r.want(200, "GET", "/blocks/"+foot+"/plan", "").into(&after)
	a, b := before.Drains.Network, after.Drains.Network
	if len(a.Laterals) < 20 || len(b.Laterals) != len(a.Laterals) || !b.Drawn || a.Drawn || math.Abs(a.FlowM3S-b.FlowM3S) > 1e-6 {
		t.Fatalf("%d laterals, %.6f m³/s; read back %d, %.6f", len(a.Laterals), a.FlowM3S, len(b.Laterals), b.FlowM3S)
	}
	for i, l := range a.Laterals {
		g := b.Laterals[i]
		if g.ID != l.ID || math.Abs(g.LengthM-l.LengthM) > 0.01 || math.Abs(g.Low-l.Low) > 0.01 || math.Abs(g.AreaM2-l.AreaM2) > 5 {
			t.Errorf("%+v is read back as %+v", l, g)
		}
	}
}

// What comes from outside and cannot be used says why, and changes nothing.
func TestOutsideThatFails(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	for _, c := range []struct {
		name, patch string
		status      int
		say         string
	}{
		{"an address off this machine", `{"station":"http://10.1.2.3/"}`, 422, "127.0.0.1"},
		{"no address", `{"station":"yard"}`, 422, "http://127.0.0.1:8431"},
		{"nobody there", `{"station":"http://127.0.0.1:9"}`, 502, "does not answer"},
	} {
		var e struct{ Revision int }
		r.want(200, "GET", "/estate", "").into(&e)
		r.want(200, "PATCH", "/estate", c.patch, "If-Match", quoted(e.Revision))
		var p problemDoc
		a := r.want(c.status, "POST", "/station/poll", "")
		a.into(&p)
		if !strings.Contains(p.Detail+p.Accepted, c.say) {
			t.Errorf("%s: %+v", c.name, p)
		}
	}
	liar := httptest.NewServer(standinThatLies())
	defer liar.Close()
	var e struct{ Revision int }
	r.want(200, "GET", "/estate", "").into(&e)
	r.want(200, "PATCH", "/estate", body(map[string]any{"station": liar.URL}), "If-Match", quoted(e.Revision))
	if a := r.ask("POST", "/station/poll", ""); a.Code != 422 || !strings.Contains(a.Body.String(), "tmin, tmax and rain") {
		t.Errorf("a station that sends a page answered %d %s", a.Code, a.Body)
	}
}

func standinThatLies() http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { fmt.Fprint(w, "date,weather\n2027-01-01,nice\n") })
}
