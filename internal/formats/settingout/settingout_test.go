package settingout

import (
	"encoding/csv"
	"encoding/json"
	"encoding/xml"
	"math"
	"strconv"
	"strings"
	"testing"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/geo"
	"slowroot/core/plan"
	"slowroot/core/plan/drains"
	"slowroot/core/plan/ground"
	"slowroot/internal/formats/geojson"
)

// laid is a plan with a gridiron of six laterals on the rectangle of method DRN-11, a block at 38° S.
func laid(t *testing.T) *plan.Plan {
	t.Helper()
	rect := [][]drainage.XY{{{0, 0}, {200, 0}, {200, 120}, {0, 120}}}
	line := []drainage.XY{{0, 0}, {0, 120}}
	n, err := drainage.Design(rect, drainage.Layout{Collector: line, SpacingM: 20, AngleDeg: 90},
		drainage.Task{Ground: func(x, y float64) float64 { return 100 + 0.005*x + 0.003*y }, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
	if err != nil {
		t.Fatal(err)
	}
	origin := geo.Point{Lon: 172, Lat: -38}
	pl := geo.PlaneAt(origin)
	return &plan.Plan{Name: "Low “Field”", Ground: ground.Result{Origin: origin}, Drains: &drains.Plan{Taken: "gridiron", SpacingM: 20, DepthM: 1,
		Network: &drains.NetworkView{Network: n, Line: line, LineAt: []geo.Point{pl.From(geo.XY{}), pl.From(geo.XY{Y: 120})}}}}
}

// Every peg of the file lies where the plan has it, its invert rises upstream at the grade of its pipe, and cut is
// ground less invert.
func TestPegsAsCSV(t *testing.T) {
	p := laid(t)
	rows, err := csv.NewReader(strings.NewReader(string(CSV(p)))).ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	col := map[string]int{}
	for i, h := range rows[0] {
		col[h] = i
	}
	num := func(r []string, name string) float64 { v, _ := strconv.ParseFloat(r[col[name]], 64); return v }
	kinds := map[string]int{}
	pl := geo.PlaneAt(p.Ground.Origin)
	last := map[string]float64{}
	for _, r := range rows[1:] {
		kinds[r[col["kind"]]]++
		if d := num(r, "groundM") - num(r, "invertM") - num(r, "cutM"); math.Abs(d) > 0.0011 {
			t.Errorf("%s: cut is off by %g", r[0], d)
		}
		if r[col["kind"]] != "pit" {
			if was, ok := last[r[col["drain"]]]; ok && num(r, "invertM") < was {
				t.Errorf("%s lies below the peg downstream of it", r[0])
			}
			last[r[col["drain"]]] = num(r, "invertM")
		}
		q := pl.To(geo.Point{Lon: num(r, "lon"), Lat: num(r, "lat")})
		if want := 100 + 0.005*q.X + 0.003*q.Y; math.Abs(num(r, "groundM")-want) > 0.002 {
			t.Errorf("%s at %.2f, %.2f: ground %g, want %.3f", r[0], q.X, q.Y, num(r, "groundM"), want)
		}
		if r[col["grid"]] != "EPSG:32759" || num(r, "east") < 4e5 || num(r, "north") < 5e6 {
			t.Errorf("%s on the grid: %v", r[0], r)
		}
	}
	if kinds["outlet"] != 1 || kinds["end"] != 6 || kinds["junction"] != 12 || kinds["pit"] == 0 || kinds["pipe"] < 100 {
		t.Errorf("%v", kinds)
	}
}

func TestRoutesAsGPX(t *testing.T) {
	text, err := GPX(laid(t))
	if err != nil {
		t.Fatal(err)
	}
	var f gpxFile
	if err := xml.Unmarshal(text, &f); err != nil {
		t.Fatal(err)
	}
	if f.Version != "1.1" || len(f.Routes) != 7 || len(f.Routes[0].Points) != 2 || !strings.Contains(f.Points[0].Desc, "cut 1.00 m") || f.Points[0].Type != "outlet" {
		t.Errorf("%d routes, first point %+v", len(f.Routes), f.Points[0])
	}
}

// The file is pairs of a code and a value, its vertices lie on the grid to a millimetre, and what the old form
// cannot hold is left out. GDAL's ogrinfo reads the same file as 7 polylines, 7 texts of them, and points.
func TestLinesAsDXF(t *testing.T) {
	p := laid(t)
	lines := strings.Split(strings.TrimSuffix(string(DXF(p)), "\n"), "\n")
	if len(lines)%2 != 0 {
		t.Fatalf("%d lines", len(lines))
	}
	count := map[string]int{}
	grid := geo.UTMAt(p.Ground.Origin)
	first := grid.To(p.Ground.Origin)
	seen := false
	for i := 0; i < len(lines); i += 2 {
		if _, err := strconv.Atoi(strings.TrimSpace(lines[i])); err != nil {
			t.Fatalf("line %d is %q, not a code", i+1, lines[i])
		}
		if strings.TrimSpace(lines[i]) == "0" {
			count[lines[i+1]]++
		}
		seen = seen || lines[i] == " 10" && lines[i+1] == strconv.FormatFloat(first.X, 'f', 3, 64)
		for _, r := range lines[i+1] {
			if r > 126 {
				t.Errorf("line %d holds %q", i+2, lines[i+1])
			}
		}
	}
	if count["POLYLINE"] != 7 || count["SEQEND"] != 7 || count["VERTEX"] != 14 || count["POINT"] < 2 || count["EOF"] != 1 || !seen {
		t.Errorf("%v, outlet found %v", count, seen)
	}
}

// What is written as GeoJSON reads back as the same lines; files that cannot be used say why.
func TestDrainLinesAsGeoJSON(t *testing.T) {
	p := laid(t)
	text, err := geojson.WriteDrains(p)
	if err != nil {
		t.Fatal(err)
	}
	got, err := geojson.ReadDrains(text)
	if err != nil || len(got.Laterals) != 6 || len(got.Collector) != 2 || got.SpacingM != 20 || got.DepthM != 1 || got.Remedy != "gridiron" || got.Laterals[0].ID != p.Drains.Network.Laterals[0].ID {
		t.Fatalf("%+v %v", got, err)
	}
	line := func(kind string) string {
		return `{"type":"Feature","properties":{"kind":"` + kind + `"},"geometry":{"type":"LineString","coordinates":[[172,-38],[172.001,-38]]}}`
	}
	for want, features := range map[string]string{
		"second collector": line("collector") + "," + line("collector"), "no collector": line("lateral"), "laterals and branches": line("branch"), "kind \"ditch\"": line("ditch"), "second interceptor": line("interceptor") + "," + line("interceptor"),
		"not a line":                  `{"type":"Feature","properties":{},"geometry":{"type":"Polygon","coordinates":[[[172,-38],[172.001,-38],[172,-37.999],[172,-38]]]}}`,
		"1 points":                    `{"type":"Feature","properties":{"kind":"lateral"},"geometry":{"type":"LineString","coordinates":[[172,-38]]}}`,
		"collector or an interceptor": `{"type":"Feature","properties":{"kind":"pit"},"geometry":{"type":"Point","coordinates":[172,-38]}}`,
	} {
		if _, err := geojson.ReadDrains([]byte(`{"type":"FeatureCollection","features":[` + features + `]}`)); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("want %q, got %v", want, err)
		}
	}
	if got, err := geojson.ReadDrains([]byte(`{"type":"FeatureCollection","features":[` + line("interceptor") + `]}`)); err != nil || got.Remedy != "interceptor" {
		t.Errorf("%+v %v", got, err)
	}
}

func FuzzReadDrains(f *testing.F) {
	f.Add([]byte(`{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"kind":"collector","spacingM":12},"geometry":{"type":"LineString","coordinates":[[172,-38],[172.001,-38]]}}]}`))
	f.Add([]byte(`{"type":"Feature","properties":{"kind":"interceptor"},"geometry":{"type":"LineString","coordinates":[[1,2],[3,4]]}}`))
	f.Add([]byte(`{"type":"FeatureCollection","features":[{"type":"Feature","properties":null,"geometry":null}]}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		got, err := geojson.ReadDrains(text)
		if err == nil && len(got.Collector) < 2 && len(got.Interceptor) < 2 {
			t.Fatalf("taken without a line: %+v", got)
		}
		for _, l := range got.Laterals {
			if err == nil && len(l.Line) < 2 {
				t.Fatal("a lateral of one point")
			}
		}
	})
}

// Lines drawn in another program keep their order, take numbers where they have no names, and spacing and depth
// only where the file says them.
func TestDrainsDrawnElsewhere(t *testing.T) {
	feature := func(props, coords string) string {
		return `{"type":"Feature","properties":{` + props + `},"geometry":{"type":"LineString","coordinates":[` + coords + `]}}`
	}
	text := `{"type":"FeatureCollection","features":[` + strings.Join([]string{
		feature(`"kind":"lateral"`, "[172.0001,-38.0001],[172.0005,-38.0002]"),
		feature(`"kind":"collector","color":"red"`, "[172,-38],[172,-38.001]"),
		feature(`"kind":"lateral","id":"East 2"`, "[172.0001,-38.0004],[172.0005,-38.0004],[172.0009,-38.0005]"),
		`{"type":"Feature","properties":{"kind":"pit"},"geometry":{"type":"Point","coordinates":[172,-38]}}`}, ",") + `]}`
	got, err := geojson.ReadDrains([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	if len(got.Laterals) != 2 || got.Laterals[0].ID != "" || got.Laterals[1].ID != "East 2" || len(got.Laterals[1].Line) != 3 || got.SpacingM != 0 || got.DepthM != 0 || got.Remedy != "gridiron" {
		t.Errorf("%+v", got)
	}
	b := document.Block{Found: document.Found{Drains: &document.DrainChoice{SpacingM: 14, Source: "rain"}}}.TakeDrains(got, document.Choice{By: "T"})
	if b.Drains.SpacingM != 14 || b.Drains.Source != "rain" || len(b.Drains.Laterals) != 2 || b.Decided[document.DrainFork].By != "T" {
		t.Errorf("%+v %+v", b.Drains, b.Decided)
	}
}

// A ditch that leads water past comes back as one, an interceptor as an interceptor; beside a network neither decides.
func TestCutOffLinesKeepTheirWay(t *testing.T) {
	for _, way := range []string{"diversion", "interceptor", "gridiron"} {
		p := laid(t)
		p.Drains.Taken = way
		p.Drains.Cut = p.Drains.Network
		if way != "gridiron" {
			p.Drains.Network = nil
		}
		text, err := geojson.WriteDrains(p)
		if err != nil {
			t.Fatal(err)
		}
		text = []byte(strings.ReplaceAll(string(text), `"kind": "lateral"`, `"kind": "branch"`))
		if way != "gridiron" { // only the line across the slope
			var fc struct {
				Type     string           `json:"type"`
				Features []map[string]any `json:"features"`
			}
			if err := json.Unmarshal(text, &fc); err != nil {
				t.Fatal(err)
			}
			fc.Features = fc.Features[:1]
			text, _ = json.Marshal(fc)
		}
		if got, err := geojson.ReadDrains(text); err != nil || got.Remedy != way || len(got.Interceptor) != 2 {
			t.Errorf("%s came back as %q, %v", way, got.Remedy, err)
		}
	}
}

// A branch is a line of its own in every file, its lower end where it joins, its pegs numbered from there, and it
// reads back as a branch.
func TestBranchesAreSetOut(t *testing.T) {
	rect := [][]drainage.XY{{{0, 0}, {200, 0}, {200, 120}, {0, 120}}}
	l := drainage.Layout{Collector: []drainage.XY{{0, 0}, {0, 120}}, SpacingM: 20, AngleDeg: 90, Branches: []drainage.Line{{ID: "North", Points: []drainage.XY{{0, 119}, {100, 119}, {100, 1}}}}}
	n, err := drainage.Design(rect, l, drainage.Task{Ground: func(x, y float64) float64 { return 100 + 0.005*x + 0.003*y }, Q: 0.007, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()})
	if err != nil {
		t.Fatal(err)
	}
	p := laid(t)
	pl := geo.PlaneAt(p.Ground.Origin)
	var at []geo.Point
	for _, q := range n.Mains[1].Points {
		at = append(at, pl.From(geo.XY{X: q[0], Y: q[1]}))
	}
	p.Drains.Network.Network = n
	p.Drains.Network.BranchAt = []document.DrawnDrain{{ID: "North", Line: at}}
	pegs, lines := p.SettingOut()
	var branch drains.LaidLine
	for _, x := range lines {
		if x.Kind == "branch" {
			branch = x
		}
	}
	if branch.ID != "North" || len(branch.Line) != 3 || math.Abs(branch.LengthM-209) > 0.01 || branch.Low >= branch.High {
		t.Fatalf("%+v", branch)
	}
	byID := map[string]drains.Peg{}
	for _, g := range pegs {
		if was, twice := byID[g.ID]; twice {
			t.Errorf("two pegs are called %s: %+v and %+v", g.ID, was, g)
		}
		byID[g.ID] = g
	}
	foot, on := byID["North-000"], byID["C-119"]
	if foot.Kind != "junction" || on.Kind != "junction" || math.Abs(foot.Invert-on.Invert) > 1e-9 || math.Abs(foot.At.Lat-on.At.Lat) > 1e-9 || byID["C-000"].Kind != "outlet" || byID["NorthP1"].Kind != "pit" {
		t.Errorf("the branch begins at %+v, the collector there is %+v", foot, on)
	}
	for i, z := range branch.Levels {
		if i > 0 && z < branch.Levels[i-1] {
			t.Errorf("the branch falls upstream: %v", branch.Levels)
		}
	}
	text, err := geojson.WriteDrains(p)
	if err != nil {
		t.Fatal(err)
	}
	got, err := geojson.ReadDrains(text)
	if err != nil || len(got.Branches) != 1 || got.Branches[0].ID != "North" || len(got.Branches[0].Line) != 3 || len(got.Laterals) != 12 {
		t.Fatalf("%+v %v", got.Branches, err)
	}
	b := document.Block{}.TakeDrains(got, document.Choice{By: "T"})
	if len(b.Drains.Branches) != 1 || len(b.Drains.Laterals) != 12 {
		t.Errorf("%+v", b.Drains)
	}
	if !strings.Contains(string(DXF(p)), "BRANCH") {
		t.Error("the drawing has no layer of branches")
	}
}
