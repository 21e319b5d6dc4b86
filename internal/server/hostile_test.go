package server

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"slowroot/internal/store"
)

// Whatever is put into a field of a block or of the estate, the program refuses it with the field, what may stand
// there and nothing changed, or takes it and still computes a plan. It never answers 500.
func TestNoPatchBreaksTheServer(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	var o struct {
		Blocks []struct{ ID, Name string }
	}
	r.want(200, "GET", "/overview", "").into(&o)
	values := []string{`-1`, `0`, `1e300`, `0.5`, `37`, `""`, `"x"`, `"2027-02-30"`, `true`, `[]`, `{}`, `null`, `[1,2]`, `{"option":"x"}`, `[{"lon":1,"lat":2}]`, `[{"lon":172,"lat":-38},{"lon":172,"lat":-38}]`, `[{"lon":200,"lat":95},{"lon":0,"lat":0}]`, `[{"id":"","line":[]}]`}
	fields := []string{"name", "number", "boundary", "accuracyM", "pits", "tests", "samples", "answers", "uses", "growth", "planting", "works", "decided", "checks", "keep", "drains"}
	for _, f := range []string{"source", "evidence", "wetPct", "wells", "holes", "kMDay", "dischargeBy", "dischargeMm", "irrigationMm", "irrigationDays", "pit", "depthM", "spacingM", "angleDeg", "ditchM", "reachM", "traffic", "collector", "branches", "laterals", "interceptor", "cutOpen", "bed"} {
		fields = append(fields, "drains."+f)
	}
	for _, f := range []string{"baseM", "topM", "heightM", "crownM", "centreM", "settlePct", "cover", "dripLines"} {
		fields = append(fields, "drains.bed."+f)
	}
	for _, f := range []string{"depthCm", "stripM", "rowM", "bufferCap", "omTarget", "benchM", "startOn", "waterM3Day", "material"} {
		fields = append(fields, "works."+f)
	}
	for _, f := range []string{"sheet", "date", "choices", "layout", "survival", "confidence", "done", "picked", "accepted", "raising", "days", "effort", "fittings", "companions", "strips"} {
		fields = append(fields, "planting."+f)
	}
	taken, refused := 0, 0
	for _, b := range o.Blocks {
		if b.Name != "Orchard Foot" && b.Name != "Gate Field" {
			continue
		}
		for i, f := range fields {
			for k, v := range values {
				if at := (i + k) % 4; at != 0 && b.Name == "Gate Field" || at != 2 && b.Name != "Gate Field" {
					continue // every field meets half of the values, half of those on either block
				}
				parts := strings.Split(f, ".")
				body := v
				for i := len(parts) - 1; i >= 0; i-- {
					body = fmt.Sprintf(`{%q:%s}`, parts[i], body)
				}
				a := r.ask("POST", "/blocks/"+b.ID+"/preview", body)
				switch a.Code {
				case 200:
					taken++
				case 422:
					refused++
					var p problemDoc
					if err := json.Unmarshal(a.Body.Bytes(), &p); err != nil || p.Detail == "" {
						t.Errorf("%s refused without a word: %s", body, a.Body)
					}
				default:
					t.Errorf("%s to %s answered %d: %.300s", body, b.Name, a.Code, a.Body)
				}
			}
		}
	}
	if taken < 25 || refused < 75 {
		t.Errorf("%d taken and %d refused: the values are not hostile enough", taken, refused)
	}
	// the estate's own fields
	for _, f := range []string{"name", "units", "seasons", "people", "climate", "elevationM", "weather", "station", "laboratory", "heights", "barriers", "currency", "prices", "materials", "labs", "climateSource"} {
		for _, v := range values {
			var e struct{ Revision int }
			r.want(200, "GET", "/estate", "").into(&e)
			if a := r.ask("PATCH", "/estate", fmt.Sprintf(`{%q:%s}`, f, v), "If-Match", quoted(e.Revision)); a.Code == 200 {
				// what was taken must still let every block be planned
				if o := r.ask("GET", "/overview", ""); o.Code != 200 {
					t.Errorf("after %s = %s of the estate the overview answers %d: %.200s", f, v, o.Code, o.Body)
				}
				var h []struct{ ID int }
				r.want(200, "GET", "/history", "").into(&h)
				var now struct{ Revision int }
				if r.want(200, "GET", "/estate", "").into(&now); now.Revision != e.Revision { // a change that changes nothing is none
					r.want(200, "POST", "/undo", "", "If-Match", quoted(h[0].ID))
				}
			} else if a.Code != 422 {
				t.Errorf("%s = %s of the estate answered %d: %.300s", f, v, a.Code, a.Body)
			}
		}
	}
}

// Every calculator refuses every input out of its range with its name, and answers within it; none answers 500.
// Raising that takes decades and loses nearly all, a job of a million hours for a tenth of a person, days at the ends of the
// calendar: what is taken computes, is levelled and is listed.
func TestTheSlowestNurseryAndCrew(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	var o struct {
		Blocks []struct {
			ID, Name string
			Revision int
		}
	}
	r.want(200, "GET", "/overview", "").into(&o)
	stage := func(id string, loss int) string {
		return fmt.Sprintf(`{"id":%q,"name":"x","least":0,"most":3650,"lossPct":%d}`, id, loss)
	}
	for _, b := range o.Blocks {
		if b.Name != "Hill Paddock" {
			continue
		}
		match := func() []string { return []string{"If-Match", fmt.Sprintf("%q", fmt.Sprint(b.Revision))} }
		r.want(422, "PATCH", "/blocks/"+b.ID, `{"planting":{"raising":{"way":"","stages":[`+stage("a", 99)+`,`+stage("b", 99)+`]}}}`, match()...)
		r.want(422, "PATCH", "/blocks/"+b.ID, `{"planting":{"raising":{"way":"","stages":[]}}}`, match()...)
		r.want(200, "PATCH", "/blocks/"+b.ID, `{"planting":{"raising":{"way":"","stages":[`+stage("a", 90)+`,`+stage("b", 90)+`,`+stage("c", 80)+`]},
			"effort":{"clear":{"hours":1000000},"raise-a":{"hours":1000000}},"days":{"plant":"1900-01-01","clear":"2199-12-31"}}}`, match()...)
		r.want(200, "GET", "/blocks/"+b.ID+"/plan", "")
	}
	var e struct{ Revision int }
	r.want(200, "GET", "/estate", "").into(&e)
	r.want(200, "PATCH", "/estate", `{"crews":[{"id":"a","name":"A","people":0.1,"hoursDay":0.5,"daysWeek":0.5}]}`, "If-Match", fmt.Sprintf("%q", fmt.Sprint(e.Revision)))
	r.want(200, "GET", "/jobs/level?from=2027-03-15&to=2028-03-14", "")
	r.want(200, "POST", "/jobs/level?from=2027-03-15&to=2028-03-14", "")
	r.want(200, "GET", "/jobs/weeks?from=2027-03-15&to=2028-03-14", "")
	r.want(200, "GET", "/overview", "")
	r.want(200, "GET", "/orders", "")
}

func TestNoInputBreaksACalculator(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(201, "POST", "/estate/demonstration", "")
	var list []struct {
		Name   string
		Inputs []struct {
			Name, Kind string
			Min, Max   *float64
			Default    any
		}
	}
	r.want(200, "GET", "/calculators", "").into(&list)
	if len(list) < 50 {
		t.Fatalf("%d calculators", len(list))
	}
	asked := 0
	for _, c := range list {
		for _, in := range c.Inputs {
			for _, v := range []any{-1e9, -1.0, 0.0, 1e-9, 0.37, 7.0, 1e6, 1e300, "", "x", nil, true, []any{}, []any{1.0, "a"}, map[string]any{}} {
				a := r.ask("POST", "/calculators/"+c.Name, body(map[string]any{"inputs": map[string]any{in.Name: v}}))
				asked++
				if a.Code != 200 && a.Code != 422 {
					t.Errorf("%s with %s = %v answered %d: %.200s", c.Name, in.Name, v, a.Code, a.Body)
				}
				if a.Code == 200 && strings.Contains(a.Body.String(), "null") && strings.Contains(a.Body.String(), `"outputs":null`) {
					t.Errorf("%s with %s = %v answers nothing", c.Name, in.Name, v)
				}
			}
		}
	}
	if asked < 2000 {
		t.Errorf("only %d questions", asked)
	}
}
