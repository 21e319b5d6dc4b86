// Package settingout writes drains for those who dig them: points with level and chainage as CSV and GPX, and
// lines as DXF.
package settingout

import (
	"encoding/xml"
	"fmt"
	"strconv"
	"strings"

	"slowroot/core/geo"
	"slowroot/core/plan"
	"slowroot/internal/formats/table"
)

// CSV is every peg with its position in degrees and on the UTM grid of its place, ground, invert and cut.
func CSV(p *plan.Plan) []byte {
	pegs, _ := p.SettingOut()
	grid := geo.UTMAt(p.Ground.Origin)
	rows := [][]string{{"point", "drain", "kind", "chainageM", "lon", "lat", "east", "north", "grid", "groundM", "invertM", "cutM", "pipe", "note"}}
	for _, g := range pegs {
		e := grid.To(g.At)
		rows = append(rows, []string{g.ID, g.Drain, g.Kind, fixed(g.Chainage, 2), fixed(g.At.Lon, 8), fixed(g.At.Lat, 8), fixed(e.X, 3), fixed(e.Y, 3), grid.Code, fixed(g.Ground, 3), fixed(g.Invert, 3), fixed(g.CutM(), 3), g.Pipe, g.Note})
	}
	return table.Write(rows)
}

func fixed(v float64, decimals int) string { return strconv.FormatFloat(v, 'f', decimals, 64) }

type gpxPoint struct {
	Lat  string `xml:"lat,attr"`
	Lon  string `xml:"lon,attr"`
	Ele  string `xml:"ele"`
	Name string `xml:"name"`
	Desc string `xml:"desc"`
	Type string `xml:"type"`
}

type gpxRoute struct {
	Name   string     `xml:"name"`
	Points []gpxPoint `xml:"rtept"`
}

type gpxFile struct {
	XMLName xml.Name   `xml:"http://www.topografix.com/GPX/1/1 gpx"`
	Version string     `xml:"version,attr"`
	Creator string     `xml:"creator,attr"`
	Points  []gpxPoint `xml:"wpt"`
	Routes  []gpxRoute `xml:"rte"`
}

// GPX holds every peg as a waypoint, its elevation the invert, and every drain as a route (GPX 1.1).
func GPX(p *plan.Plan) ([]byte, error) {
	pegs, lines := p.SettingOut()
	f := gpxFile{Version: "1.1", Creator: "Slow Root"}
	for _, g := range pegs {
		desc := fmt.Sprintf("chainage %.1f m, ground %.2f, invert %.2f, cut %.2f m", g.Chainage, g.Ground, g.Invert, g.CutM())
		if g.Pipe != "" {
			desc += ", pipe " + g.Pipe
		}
		if g.Note != "" {
			desc += ", " + g.Note
		}
		f.Points = append(f.Points, gpxPoint{fixed(g.At.Lat, 8), fixed(g.At.Lon, 8), fixed(g.Invert, 3), g.ID, desc, g.Kind})
	}
	for _, l := range lines {
		r := gpxRoute{Name: l.ID}
		for i, q := range l.Line {
			r.Points = append(r.Points, gpxPoint{fixed(q.Lat, 8), fixed(q.Lon, 8), fixed(l.Levels[i], 3), fmt.Sprintf("%s.%d", l.ID, i), "", l.Kind})
		}
		f.Routes = append(f.Routes, r)
	}
	out, err := xml.MarshalIndent(f, "", " ")
	return append([]byte(xml.Header), out...), err
}

// drawing is a DXF being written: metres on the UTM grid of its place, in the ASCII form of release 12 that every drawing program reads.
type drawing struct {
	strings.Builder
	grid geo.System
}

func (b *drawing) put(pairs ...any) {
	for i := 0; i+1 < len(pairs); i += 2 {
		v := pairs[i+1]
		if f, ok := v.(float64); ok {
			v = fixed(f, 3)
		}
		fmt.Fprintf(b, "%3d\n%v\n", pairs[i], v)
	}
}

func (b *drawing) at(q geo.Point, z float64) []any {
	e := b.grid.To(q)
	return []any{10, e.X, 20, e.Y, 30, z}
}

func (b *drawing) begin(what string) {
	b.put(999, ascii(what)+", metres on "+b.grid.Code, 0, "SECTION", 2, "HEADER", 9, "$ACADVER", 1, "AC1009", 9, "$INSUNITS", 70, 6, 0, "ENDSEC", 0, "SECTION", 2, "ENTITIES")
}

func (b *drawing) end() []byte {
	b.put(0, "ENDSEC", 0, "EOF")
	return []byte(b.String())
}

// DXF holds every drain as a three-dimensional polyline at its invert and every pit as a point with its name,
// a layer for each kind, on the UTM grid of its place in metres, in the ASCII form of release 12 that every
// drawing program reads.
func DXF(p *plan.Plan) []byte {
	pegs, lines := p.SettingOut()
	b := drawing{grid: geo.UTMAt(p.Ground.Origin)}
	put, at := b.put, b.at
	b.begin("Slow Root, drains of " + p.Name)
	for _, l := range lines {
		layer := strings.ToUpper(l.Kind)
		put(0, "POLYLINE", 8, layer, 66, 1, 10, 0.0, 20, 0.0, 30, 0.0, 70, 8)
		for i, q := range l.Line {
			put(append([]any{0, "VERTEX", 8, layer}, append(at(q, l.Levels[i]), 70, 32)...)...)
		}
		put(0, "SEQEND", 8, layer)
		mid := len(l.Line) / 2
		put(append(append([]any{0, "TEXT", 8, layer}, at(l.Line[mid], l.Levels[mid])...), 40, 1.5, 1, ascii(l.ID+" "+strings.Join(l.Pipes, ", ")))...)
	}
	for _, g := range pegs {
		if g.Kind != "pit" && g.Kind != "outlet" {
			continue
		}
		layer := strings.ToUpper(g.Kind)
		put(append([]any{0, "POINT", 8, layer}, at(g.At, g.Invert)...)...)
		put(append(append([]any{0, "TEXT", 8, layer}, at(g.At, g.Invert)...), 40, 1.5, 1, fmt.Sprintf("%s %.2f", g.ID, g.Invert))...)
	}
	return b.end()
}

// ascii leaves out what the old form cannot hold.
func ascii(s string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r >= 32 && r < 127:
			return r
		case r == '\u00a0' || r == '\u202f':
			return ' '
		}
		return '?'
	}, s)
}
