package server

import (
	"fmt"
	"strings"
	"testing"
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

// A binary file reaches the reader as it is, and what is no file of boundaries is refused with its cause.
func TestBoundaryFiles(t *testing.T) {
	r := newRig(t)
	r.want(200, "POST", "/import/boundaries", "-38, 172\n-38, 172.002\n-37.999, 172.002\n", "Content-Type", "application/octet-stream")
	if got := r.want(422, "POST", "/import/boundaries", "PK\x03\x04 broken", "Content-Type", "application/octet-stream"); !strings.Contains(got.Body.String(), "zipped") {
		t.Errorf("a broken zip: %s", got.Body)
	}
}
