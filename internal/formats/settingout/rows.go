package settingout

import (
	"encoding/json"
	"encoding/xml"
	"fmt"
	"strconv"

	"github.com/paulmach/orb"
	orbjson "github.com/paulmach/orb/geojson"

	"slowroot/core/geo"
	"slowroot/core/plan"
	"slowroot/core/plan/rows"
	"slowroot/internal/formats/table"
)

// Rows are the rows of a plan as they are pegged.
func Rows(p *plan.Plan) rows.SettingOut { return rows.SetOut(p.Ground, p.CropName, p.Rows, p.Beside) }

// RowsCSV is every end of a row with its position in degrees and on the UTM grid, and its distance along the base line and square to it.
func RowsCSV(p *plan.Plan) []byte {
	set := Rows(p)
	grid := geo.UTMAt(p.Ground.Origin)
	out := [][]string{{"peg", "crop", "row", "end", "lon", "lat", "east", "north", "grid", "alongM", "offsetM", "stations", "spacingM"}}
	for _, g := range set.Pegs {
		e := grid.To(g.At)
		out = append(out, []string{g.ID, g.Crop, strconv.Itoa(g.Row), g.End, fixed(g.At.Lon, 8), fixed(g.At.Lat, 8), fixed(e.X, 3), fixed(e.Y, 3), grid.Code, fixed(g.AlongM, 2), fixed(g.OffsetM, 2),
			strconv.Itoa(g.Stations), fixed(g.StepM, 3)})
	}
	return table.Write(out)
}

// lines are the rows as lines from their first station to their last.
func lines(set rows.SettingOut, take func(first, last rows.Peg)) {
	for i, g := range set.Pegs {
		if g.End != "first" {
			continue
		}
		last := g
		if i+1 < len(set.Pegs) && set.Pegs[i+1].End == "last" {
			last = set.Pegs[i+1]
		}
		take(g, last)
	}
}

// RowsGPX holds every row end as a waypoint and every row as a route (GPX 1.1).
func RowsGPX(p *plan.Plan) ([]byte, error) {
	set := Rows(p)
	f := gpxFile{Version: "1.1", Creator: "Slow Root"}
	point := func(g rows.Peg) gpxPoint {
		return gpxPoint{fixed(g.At.Lat, 8), fixed(g.At.Lon, 8), "0", g.ID, fmt.Sprintf("%s, row %d, %s station; %.2f m along the base line, %.2f m from it", g.Crop, g.Row, g.End, g.AlongM, g.OffsetM), "row end"}
	}
	for _, g := range set.Pegs {
		f.Points = append(f.Points, point(g))
	}
	lines(set, func(first, last rows.Peg) {
		f.Routes = append(f.Routes, gpxRoute{Name: first.ID, Points: []gpxPoint{point(first), point(last)}})
	})
	out, err := xml.MarshalIndent(f, "", " ")
	return append([]byte(xml.Header), out...), err
}

// RowsGeoJSON holds every row as a line, and the base line.
func RowsGeoJSON(p *plan.Plan) ([]byte, error) {
	set := Rows(p)
	fc := orbjson.NewFeatureCollection()
	base := orbjson.NewFeature(orb.LineString{{set.Base.From.Lon, set.Base.From.Lat}, {set.Base.To.Lon, set.Base.To.Lat}})
	base.Properties = orbjson.Properties{"kind": "base line", "lengthM": json.Number(fixed(set.Base.LengthM, 2))}
	fc.Append(base)
	lines(set, func(first, last rows.Peg) {
		f := orbjson.NewFeature(orb.LineString{{first.At.Lon, first.At.Lat}, {last.At.Lon, last.At.Lat}})
		f.Properties = orbjson.Properties{"kind": "row", "crop": first.Crop, "row": first.Row, "first": first.ID, "last": last.ID, "stations": first.Stations, "spacingM": json.Number(fixed(first.StepM, 3))}
		fc.Append(f)
	})
	return json.MarshalIndent(fc, "", " ")
}

// RowsDXF holds every row as a line on a layer of its crop, the base line, and the boundary.
func RowsDXF(p *plan.Plan) []byte {
	set := Rows(p)
	b := drawing{grid: geo.UTMAt(p.Ground.Origin)}
	b.begin("Slow Root, rows of " + p.Name)
	segment := func(layer string, a, c geo.Point) {
		e := b.grid.To(c)
		b.put(append(append([]any{0, "LINE", 8, layer}, b.at(a, 0)...), 11, e.X, 21, e.Y, 31, 0.0)...)
	}
	plane := geo.PlaneAt(p.Ground.Origin)
	for _, r := range p.Ground.Rings {
		for i, v := range r {
			w := r[(i+1)%len(r)]
			segment("BOUNDARY", plane.From(geo.XY{X: v[0], Y: v[1]}), plane.From(geo.XY{X: w[0], Y: w[1]}))
		}
	}
	segment("BASE-LINE", set.Base.From, set.Base.To)
	lines(set, func(first, last rows.Peg) {
		layer := "ROWS-" + ascii(first.Crop)
		segment(layer, first.At, last.At)
		b.put(append(append([]any{0, "TEXT", 8, layer}, b.at(first.At, 0)...), 40, 0.8, 1, first.ID)...)
	})
	return b.end()
}
