package boundaries

import (
	"encoding/xml"
	"fmt"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/simplify"

	"slowroot/core/geo"
	"slowroot/internal/formats/geojson"
)

type gpxPoint struct {
	Lat float64 `xml:"lat,attr"`
	Lon float64 `xml:"lon,attr"`
}

type gpxLine struct {
	Name     string `xml:"name"`
	Segments []struct {
		Points []gpxPoint `xml:"trkpt"`
	} `xml:"trkseg"`
	Route []gpxPoint `xml:"rtept"`
}

// walked reads a track, of which every segment is a boundary, or a route.
func walked(d *xml.Decoder, el xml.StartElement) ([]geojson.Candidate, error) {
	var l gpxLine
	if err := d.DecodeElement(&l, &el); err != nil {
		return nil, err
	}
	var list []geojson.Candidate
	add := func(points []gpxPoint, how string) {
		name := l.Name
		if len(list) > 0 {
			name = fmt.Sprintf("%s %d", l.Name, len(list)+1)
		}
		list = append(list, walk(len(list)+1, name, how, points))
	}
	for _, s := range l.Segments {
		add(s.Points, "walked with a satellite receiver, GPX track")
	}
	if len(l.Route) > 0 {
		add(l.Route, "GPX route")
	}
	return list, nil
}

// evenM is how far a track may lie from the line it is simplified to, m: less than a receiver's own error.
const evenM = 0.5

func walk(n int, name, how string, points []gpxPoint) geojson.Candidate {
	line := make(orb.LineString, 0, len(points))
	for _, p := range points {
		q := orb.Point{p.Lon, p.Lat}
		if k := len(line); k == 0 || line[k-1] != q {
			line = append(line, q)
		}
	}
	if len(line) > 200 {
		line = simplify.DouglasPeucker(evenM / 111_000).LineString(line)
	}
	r := make(geo.Ring, len(line))
	for i, q := range line {
		r[i] = geo.Point{Lon: q[0], Lat: q[1]}
	}
	ring, doubt := closed(r)
	return made(n, name, how, geo.Polygon{Outer: ring}, doubt)
}

// waypoints takes the waypoints of a file without tracks, in their order, as the corners of one block.
func waypoints(text []byte) []geojson.Candidate {
	var g struct {
		Points []gpxPoint `xml:"wpt"`
	}
	if err := xml.Unmarshal(text, &g); err != nil || len(g.Points) < 3 {
		return nil
	}
	c := walk(1, "", "GPX waypoints as corners, in their order", g.Points)
	if c.Doubt == "" {
		c.Doubt = "The waypoints are taken as corners in the order of the file."
	}
	return []geojson.Candidate{c}
}
