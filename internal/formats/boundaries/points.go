package boundaries

import (
	"strings"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/encoding/wkt"

	"slowroot/core/geo"
	"slowroot/core/survey"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/formats/table"
)

// headings by which the columns of a text are known.
var headings = map[string][]string{
	"name": {"name", "block", "field", "id"}, "lat": {"lat", "latitude", "y"}, "lon": {"lon", "lng", "long", "longitude", "x"},
	"wkt": {"wkt", "geometry", "geom", "the_geom"},
}

// delimited reads corners, or outlines in well-known text, of one block or several by name. Text without a heading is a list of
// corners, latitude first.
func delimited(text string) ([]geojson.Candidate, error) {
	t, err := table.Read(text)
	if err != nil {
		return nil, err
	}
	column := map[string]int{}
	for i, h := range t.Head {
		for key, names := range headings {
			for _, n := range names {
				if strings.EqualFold(strings.TrimSpace(h), n) {
					column[key] = i
				}
			}
		}
	}
	at := func(r table.Row, key string) string {
		if i, ok := column[key]; ok && i < len(r.Values) {
			return strings.TrimSpace(r.Values[i])
		}
		return ""
	}
	if _, ok := column["wkt"]; ok {
		var list []geojson.Candidate
		for i, r := range t.Rows {
			list = append(list, wellKnown(i+1, at(r, "name"), at(r, "wkt"))...)
		}
		return list, nil
	}
	_, lat := column["lat"]
	_, lon := column["lon"]
	if !lat || !lon {
		d, err := survey.Draw(survey.Outline{Way: survey.ByPoints, Text: text})
		if err != nil {
			return nil, table.Refuse(0, "the file has no columns lat and lon, no column wkt, and is no list of corners: %v", err)
		}
		return []geojson.Candidate{made(1, "", d.Surveyed, d.Boundary, "")}, nil
	}
	var order []string
	rings := map[string]geo.Ring{}
	for _, r := range t.Rows {
		p, err := survey.Place(at(r, "lat") + "; " + at(r, "lon"))
		if err != nil {
			return nil, table.Refuse(r.Line, "%v", err)
		}
		name := at(r, "name")
		if _, ok := rings[name]; !ok {
			order = append(order, name)
		}
		rings[name] = append(rings[name], p)
	}
	var list []geojson.Candidate
	for i, name := range order {
		list = append(list, made(i+1, name, "corners from a table", geo.Polygon{Outer: rings[name]}, ""))
	}
	return list, nil
}

// wellKnown reads one outline in well-known text (OGC 06-103r4).
func wellKnown(n int, name, text string) []geojson.Candidate {
	g, err := wkt.Unmarshal(text)
	var polys []orb.Polygon
	switch g := g.(type) {
	case orb.Polygon:
		polys = []orb.Polygon{g}
	case orb.MultiPolygon:
		polys = g
	}
	if err != nil || len(polys) == 0 {
		c := made(n, name, "imported from a table", geo.Polygon{}, "")
		c.Problem = "its outline is no polygon in well-known text"
		return []geojson.Candidate{c}
	}
	var list []geojson.Candidate
	for _, p := range polys {
		list = append(list, made(n+len(list), name, "imported from a table", geojson.Polygon(p), ""))
	}
	return list
}
