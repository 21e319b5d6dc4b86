package server

import (
	"fmt"
	"strings"
	"testing"

	"slowroot/internal/store"
)

// boundaryOperations asks where a field lies, draws it as it was told, copies it, cuts the copy and joins it again, and undoes all.
func (r *rig) boundaryOperations() {
	var at struct{ Lat, Lon float64 }
	r.want(200, "GET", "/place?text=38%C2%B0+12%27+S+175%C2%B0+24%27+E", "").into(&at)
	if at.Lat != -38.2 || at.Lon != 175.4 {
		r.t.Errorf("the place is %v", at)
	}
	r.want(422, "GET", "/place?text=nowhere", "")
	told := `{"way":"size","at":{"lon":175.4,"lat":-38.2},"lengthM":200,"widthM":90,"bearingDeg":12,"areaM2":0,"text":""}`
	r.want(200, "POST", "/outline", told)
	r.want(422, "POST", "/outline", strings.Replace(told, "200", "0", 1))
	var copied struct {
		ID       string
		Revision int
	}
	r.want(201, "POST", "/blocks/"+blockNamed(r, "Gate Field")+"/duplicate", `{"name":"Second gate"}`).into(&copied)
	match := []string{"If-Match", `"1"`}
	var b struct {
		Block struct {
			Boundary struct{ Outer []struct{ Lat, Lon float64 } }
		}
	}
	r.want(200, "GET", "/blocks/"+copied.ID, "").into(&b)
	south, north, west, east := 90.0, -90.0, 180.0, -180.0
	for _, p := range b.Block.Boundary.Outer {
		south, north, west, east = min(south, p.Lat), max(north, p.Lat), min(west, p.Lon), max(east, p.Lon)
	}
	line := func(k float64) string {
		lat := south + k*(north-south)
		return fmt.Sprintf(`{"from":{"lon":%g,"lat":%g},"to":{"lon":%g,"lat":%g}}`, west-0.001, lat, east+0.001, lat)
	}
	r.want(428, "POST", "/blocks/"+copied.ID+"/split", line(0.4))
	r.want(422, "POST", "/blocks/"+copied.ID+"/split", line(3), match...)
	var parts []struct {
		ID       string
		Revision int
	}
	r.want(200, "POST", "/blocks/"+copied.ID+"/split", line(0.4), match...).into(&parts)
	if len(parts) < 2 {
		r.t.Fatalf("%d parts", len(parts))
	}
	match = []string{"If-Match", fmt.Sprintf("%q", fmt.Sprint(parts[0].Revision))}
	r.want(412, "POST", "/blocks/"+parts[0].ID+"/merge", fmt.Sprintf(`{"other":%q}`, parts[1].ID), "If-Match", `"99"`)
	r.want(200, "POST", "/blocks/"+parts[0].ID+"/merge", fmt.Sprintf(`{"other":%q}`, parts[1].ID), match...)
	for range 3 {
		var steps struct{ Undo *struct{ ID int } }
		r.want(200, "GET", "/steps", "").into(&steps)
		r.want(200, "POST", "/undo", "", "If-Match", fmt.Sprintf("%q", fmt.Sprint(steps.Undo.ID)))
	}
	r.want(404, "GET", "/blocks/"+copied.ID, "")
}

// optionOperations lays companions and strips out on a block that is planned, adds a second option, compares them and chooses.
func (r *rig) optionOperations(id string) {
	var d struct {
		Revision  int
		Plantings []struct{ ID, Stage string }
	}
	at := "/blocks/" + id
	r.want(200, "GET", at, "").into(&d)
	match := func() []string { return []string{"If-Match", fmt.Sprintf("%q", fmt.Sprint(d.Revision))} }
	begin := `{"considered":true,"sheet":"hazelnut","date":"","layout":{"headlands":[{"towardDeg":90,"widthM":9}]},"adoptedOn":"","baseDate":"","planted":"","name":"With shade",
"companions":[{"id":"h","role":"companion","name":"A herb","each":1},{"id":"s","role":"shade","sheet":"banana","name":"","over":{"pattern":"square","rowSpacingM":9,"plantSpacingM":9}},
{"id":"w","role":"windbreak","name":"Alder","survival":0.9,"belt":{"towardDeg":240,"rows":2,"rowSpacingM":2.5,"spacingM":1.6,"insetM":2,"setbackM":5,"heightM":8}}],
"strips":[{"id":"a","kind":"tree row","name":"","widthM":2,"rows":[{"spacingM":4,"of":["main"]}]},{"id":"b","kind":"bed","name":"Herbs","widthM":4,"rows":[{"spacingM":0.4,"of":["h"]},{"spacingM":0.4,"of":["h"]}]}]}`
	r.want(201, "POST", at+"/plantings", begin, match()...).into(&d)
	pid := d.Plantings[len(d.Plantings)-1].ID
	var options []struct {
		ID, Problem string
		Beside      []struct{ Stations int }
	}
	r.want(200, "GET", at+"/options", "").into(&options)
	found := false
	for _, o := range options {
		if o.ID == pid {
			found = true
			if o.Problem != "" || len(o.Beside) != 3 || o.Beside[0].Stations < 100 || o.Beside[1].Stations < 10 || o.Beside[2].Stations < 10 {
				r.t.Errorf("the option is %+v", o)
			}
		}
	}
	if !found {
		r.t.Errorf("%d options, none of them the new one", len(options))
	}
	r.want(404, "POST", at+"/options", `{"planting":"nope","aside":{}}`, match()...)
	var now struct{ Revision int }
	r.want(200, "GET", at, "").into(&now)
	d.Revision = now.Revision
	r.want(200, "POST", at+"/options", fmt.Sprintf(`{"planting":%q,"aside":{}}`, pid), match()...)
	var t struct {
		All  []struct{ Stations int }
		Best []struct{ Deg float64 }
	}
	r.want(200, "GET", at+"/bearings?planting="+pid, "").into(&t)
	if len(t.All) != 180 || len(t.Best) != 3 {
		r.t.Errorf("%d bearings, %d best", len(t.All), len(t.Best))
	}
	r.want(200, "GET", at+"/plan?planting="+pid, "")
	r.want(200, "GET", at+"/pegs?planting="+pid, "")
	for _, form := range []string{"csv", "gpx", "geojson", "dxf"} {
		r.want(200, "GET", at+"/rows/"+form+"?planting="+pid, "")
	}
	r.want(422, "GET", at+"/rows/doc?planting="+pid, "")
}

// A binary file reaches the reader as it is, and what is no file of boundaries is refused with its cause.
func TestBoundaryFiles(t *testing.T) {
	r := newRig(t, store.Options{})
	r.want(200, "POST", "/import/boundaries", "-38, 172\n-38, 172.002\n-37.999, 172.002\n", "Content-Type", "application/octet-stream")
	if got := r.want(422, "POST", "/import/boundaries", "PK\x03\x04 broken", "Content-Type", "application/octet-stream"); !strings.Contains(got.Body.String(), "zipped") {
		t.Errorf("a broken zip: %s", got.Body)
	}
}
