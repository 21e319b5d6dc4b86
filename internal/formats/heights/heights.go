// Package heights reads heights: spots from CSV or GPX, grids from ESRI ASCII. Every reader refuses a file
// whole with the line at fault, and never a part of it.
package heights

import (
	"bufio"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"slowroot/core/geo"
	"slowroot/core/plan/ground"
	"slowroot/core/terrain"
	"slowroot/internal/formats/table"
)

// MaxSpots bounds a file of spots.
const MaxSpots = 20000

// Kinds of file, as people name them.
const (
	CSV = "csv"
	GPX = "gpx"
	ASC = "asc"
)

// Guess tells the kind of a file from its beginning.
func Guess(text string) string {
	head := strings.ToLower(strings.TrimSpace(strings.TrimPrefix(text[:min(len(text), 400)], "\ufeff")))
	switch {
	case strings.HasPrefix(head, "<?xml"), strings.HasPrefix(head, "<gpx"):
		return GPX
	case strings.HasPrefix(head, "ncols"), strings.HasPrefix(head, "nrows"):
		return ASC
	}
	return CSV
}

// Read reads a file of a kind. The coordinate system of spots in CSV and of grids must be said; GPX is
// always in degrees.
func Read(kind, text string, system geo.System) (ground.Heights, error) {
	if len(text) > table.MaxBytes {
		return ground.Heights{}, table.Refuse(0, "the file holds %.1f MB, more than %d MB: cut it to the estate", float64(len(text))/(1<<20), table.MaxBytes>>20)
	}
	var h ground.Heights
	var err error
	switch kind {
	case GPX:
		h.Spots, err = gpx(text)
		system, _ = geo.SystemNamed("EPSG:4326")
	case ASC:
		h.Grid, err = Grid(text)
	default:
		h.Spots, err = spots(text, system)
	}
	if err != nil {
		return ground.Heights{}, err
	}
	h.System, h.CRS, h.Kind = system, system.Code, "spots"
	h.Count = len(h.Spots)
	if h.Grid != nil {
		h.Kind = "grid"
		if err := placed(h.Grid, system); err != nil {
			return ground.Heights{}, err
		}
		for _, z := range h.Grid.Z {
			if !math.IsNaN(z) {
				h.Count++
			}
		}
		if h.Count == 0 {
			return ground.Heights{}, table.Refuse(0, "the grid holds no height at all")
		}
	}
	return h, nil
}

// placed refuses a grid whose numbers cannot be of the system said.
func placed(g *terrain.Surface, s geo.System) error {
	x1, y1 := g.X0+float64(g.NX)*g.Cell, g.Y0+float64(g.NY)*g.Cell
	if s.Degrees {
		if g.X0 < -180 || x1 > 180 || g.Y0 < -90 || y1 > 90 || g.Cell > 1 {
			return table.Refuse(1, "its corners, %g %g to %g %g, are not degrees: choose the grid's own system", g.X0, g.Y0, x1, y1)
		}
		return nil
	}
	if math.Abs(g.X0) <= 360 && math.Abs(g.Y0) <= 90 && g.Cell < 0.1 {
		return table.Refuse(1, "its corners, %g %g, look like degrees: choose longitude and latitude", g.X0, g.Y0)
	}
	for _, c := range [][2]float64{{g.X0, g.Y0}, {x1, y1}} {
		if p := s.From(geo.XY{X: c[0], Y: c[1]}); !(math.Abs(p.Lat) <= 84 && math.Abs(p.Lon-s.Lon0) < 12) {
			return table.Refuse(1, "its corner %g %g lies outside %s", c[0], c[1], s.Name)
		}
	}
	return nil
}

func sane(z float64) bool { return z >= -500 && z <= 9000 }

func spots(text string, system geo.System) ([]ground.Spot, error) {
	t, err := table.Read(text)
	if err != nil {
		return nil, err
	}
	x, y := t.Column("lon", "longitude", "x", "east", "easting", "e"), t.Column("lat", "latitude", "y", "north", "northing", "n")
	z := t.Column("z", "height", "elevation", "ele", "alt", "altitude", "level")
	if x < 0 || y < 0 || z < 0 {
		return nil, table.Refuse(1, "needs columns for position and height, such as lon, lat, z or east, north, height; found %s", strings.Join(t.Head, ", "))
	}
	if len(t.Rows) > MaxSpots {
		return nil, table.Refuse(0, "%d heights, more than %d: bring them as a grid", len(t.Rows), MaxSpots)
	}
	out := make([]ground.Spot, 0, len(t.Rows))
	for _, r := range t.Rows {
		var v [3]float64
		for i, c := range []int{x, y, z} {
			n, ok, err := t.Number(r, c)
			if err != nil {
				return nil, err
			}
			if !ok {
				return nil, table.Refuse(r.Line, "%s is empty", t.Head[c])
			}
			v[i] = n
		}
		p := system.From(geo.XY{X: v[0], Y: v[1]})
		switch {
		case v[0] == 0 && v[1] == 0:
			return nil, table.Refuse(r.Line, "0, 0 is a fill value, not a position")
		case system.Degrees && (math.Abs(v[0]) > 180 || math.Abs(v[1]) > 90):
			return nil, table.Refuse(r.Line, "%g, %g are not degrees: say which coordinate system they are in", v[0], v[1])
		case !(math.Abs(p.Lat) <= 90 && math.Abs(p.Lon) <= 180):
			return nil, table.Refuse(r.Line, "%g, %g lie outside %s", v[0], v[1], system.Name)
		case !sane(v[2]):
			return nil, table.Refuse(r.Line, "a height of %g m cannot be", v[2])
		}
		out = append(out, ground.Spot{At: p, Z: v[2]})
	}
	return out, nil
}

func gpx(text string) ([]ground.Spot, error) {
	dec := xml.NewDecoder(strings.NewReader(text))
	dec.CharsetReader = func(_ string, in io.Reader) (io.Reader, error) { return in, nil }
	line := func() int { l, _ := dec.InputPos(); return l }
	var out []ground.Spot
	var at *ground.Spot
	var heard strings.Builder
	inEle, found := false, false
	for {
		tok, err := dec.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, table.Refuse(line(), "this is not GPX: %v", err)
		}
		switch e := tok.(type) {
		case xml.StartElement:
			switch e.Name.Local {
			case "gpx":
				found = true
			case "wpt", "trkpt", "rtept":
				p := ground.Spot{Z: math.NaN()}
				for _, a := range e.Attr {
					v, err := strconv.ParseFloat(a.Value, 64)
					if err != nil && (a.Name.Local == "lat" || a.Name.Local == "lon") {
						return nil, table.Refuse(line(), "%s %q is not a number", a.Name.Local, a.Value)
					}
					switch a.Name.Local {
					case "lat":
						p.At.Lat = v
					case "lon":
						p.At.Lon = v
					}
				}
				if !(math.Abs(p.At.Lat) <= 90 && math.Abs(p.At.Lon) <= 180) || p.At == (geo.Point{}) {
					return nil, table.Refuse(line(), "lat %g, lon %g is not a position", p.At.Lat, p.At.Lon)
				}
				at = &p
			case "ele":
				inEle = at != nil
				heard.Reset()
			}
		case xml.CharData:
			if inEle {
				heard.Write(e)
			}
		case xml.EndElement:
			switch e.Name.Local {
			case "ele":
				if inEle {
					z, err := strconv.ParseFloat(strings.TrimSpace(heard.String()), 64)
					if err != nil || !sane(z) {
						return nil, table.Refuse(line(), "a height of %q cannot be", heard.String())
					}
					at.Z, inEle = z, false
				}
			case "wpt", "trkpt", "rtept":
				if at != nil && !math.IsNaN(at.Z) {
					if len(out) == MaxSpots {
						return nil, table.Refuse(line(), "more than %d points: thin the track", MaxSpots)
					}
					out = append(out, *at)
				}
				at = nil
			}
		}
	}
	switch {
	case !found:
		return nil, table.Refuse(1, "this is not GPX: it has no gpx element")
	case len(out) == 0:
		return nil, table.Refuse(0, "no point in it carries a height (ele)")
	}
	return out, nil
}

// Grid reads an ESRI ASCII grid. Values lie row by row from the north; the surface runs from the south.
func Grid(text string) (*terrain.Surface, error) {
	sc := bufio.NewScanner(strings.NewReader(text))
	sc.Buffer(make([]byte, 64<<10), 16<<20)
	head := map[string]float64{}
	line := 0
	var s *terrain.Surface
	row, col := 0, 0
	nodata := -9999.0
	put := func(v float64) error {
		if row >= s.NY {
			return table.Refuse(line, "more values than %d × %d", s.NX, s.NY)
		}
		if v != nodata {
			if !sane(v) {
				return table.Refuse(line, "a height of %g m cannot be", v)
			}
			s.Z[(s.NY-1-row)*s.NX+col] = v
		}
		if col++; col == s.NX {
			row, col = row+1, 0
		}
		return nil
	}
	for sc.Scan() {
		line++
		text := bytes.TrimSpace(sc.Bytes())
		if line == 1 {
			text = bytes.TrimPrefix(text, []byte("\ufeff"))
		}
		if len(text) == 0 {
			continue
		}
		if c := text[0] | 0x20; s == nil && c >= 'a' && c <= 'z' {
			f := bytes.Fields(text)
			if len(f) != 2 {
				return nil, table.Refuse(line, "%q is not a name and a number", text)
			}
			v, err := strconv.ParseFloat(string(f[1]), 64)
			if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
				return nil, table.Refuse(line, "%s: %q is not a number", f[0], f[1])
			}
			head[strings.ToLower(string(f[0]))] = v
			continue
		}
		if s == nil {
			var err error
			if s, err = grid(head, line); err != nil {
				return nil, err
			}
			if v, ok := head["nodata_value"]; ok {
				nodata = v
			}
		}
		for _, f := range bytes.Fields(text) {
			v, err := strconv.ParseFloat(string(f), 64)
			if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
				return nil, table.Refuse(line, "%q is not a height", f)
			}
			if err := put(v); err != nil {
				return nil, err
			}
		}
	}
	if err := sc.Err(); err != nil {
		return nil, table.Refuse(line+1, "%v", err)
	}
	if s == nil {
		return nil, table.Refuse(max(1, line), "this is not an ASCII grid: it holds no heights")
	}
	if row != s.NY || col != 0 {
		return nil, table.Refuse(line, "%d values where %d × %d = %d belong", row*s.NX+col, s.NX, s.NY, s.NX*s.NY)
	}
	return s, nil
}

func grid(head map[string]float64, line int) (*terrain.Surface, error) {
	for _, k := range []string{"ncols", "nrows", "cellsize"} {
		if _, ok := head[k]; !ok {
			return nil, table.Refuse(line, "the heading lacks %s", k)
		}
	}
	nx, ny, cell := head["ncols"], head["nrows"], head["cellsize"]
	if nx != math.Trunc(nx) || ny != math.Trunc(ny) || nx < 2 || ny < 2 || nx*ny > terrain.MaxCells {
		return nil, table.Refuse(line, "%g × %g is not a grid: 2 × 2 to %d cells", nx, ny, terrain.MaxCells)
	}
	if !(cell > 0) {
		return nil, table.Refuse(line, "a cell size of %g cannot be", cell)
	}
	x, okX := head["xllcenter"]
	y, okY := head["yllcenter"]
	if cx, ok := head["xllcorner"]; ok {
		x, okX = cx+cell/2, true
	}
	if cy, ok := head["yllcorner"]; ok {
		y, okY = cy+cell/2, true
	}
	if !okX || !okY {
		return nil, table.Refuse(line, "the heading lacks xllcorner and yllcorner")
	}
	s, err := terrain.NewSurface(x, y, cell, int(nx), int(ny))
	if err != nil {
		return nil, table.Refuse(line, "%v", err)
	}
	return s, nil
}

// WriteGrid writes a surface as an ESRI ASCII grid that Grid gives back.
func WriteGrid(s *terrain.Surface, decimals int) []byte {
	var b bytes.Buffer
	fmt.Fprintf(&b, "ncols %d\nnrows %d\nxllcorner %s\nyllcorner %s\ncellsize %s\nNODATA_value -9999\n", s.NX, s.NY,
		strconv.FormatFloat(s.X0-s.Cell/2, 'f', -1, 64), strconv.FormatFloat(s.Y0-s.Cell/2, 'f', -1, 64), strconv.FormatFloat(s.Cell, 'f', -1, 64))
	for j := s.NY - 1; j >= 0; j-- {
		for i := range s.NX {
			if i > 0 {
				b.WriteByte(' ')
			}
			if z := s.At(i, j); math.IsNaN(z) {
				b.WriteString("-9999")
			} else {
				b.WriteString(strconv.FormatFloat(z, 'f', decimals, 64))
			}
		}
		b.WriteByte('\n')
	}
	return b.Bytes()
}
