// Package boundaries reads the outlines of blocks from the files people have: GeoJSON (RFC 7946), KML 2.2 and its zipped
// form (OGC 07-147r2, OGC 12-007r2), GPX 1.1 tracks, routes and waypoints, and delimited text with corners or well-known text. The
// kind is told by what the file holds, not by its name.
package boundaries

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"strings"

	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/formats/table"
)

// Read lists what a file holds. A file that cannot be used is a *table.Refused; a feature that cannot become a block stands
// in the list with its problem.
func Read(file []byte) ([]geojson.Candidate, error) {
	if len(file) > geojson.MaxBytes {
		return nil, table.Refuse(0, "the file holds %.1f MB, more than %d MB: simplify the lines or split it", float64(len(file))/(1<<20), geojson.MaxBytes>>20)
	}
	head := bytes.TrimSpace(bytes.TrimPrefix(file, []byte("\ufeff")))
	switch {
	case bytes.HasPrefix(file, []byte("PK\x03\x04")):
		return zipped(file)
	case bytes.HasPrefix(head, []byte("<")):
		return marked(file)
	case bytes.HasPrefix(head, []byte("{")), bytes.HasPrefix(head, []byte("[")):
		return geojson.Read(file)
	case len(head) == 0:
		return nil, table.Refuse(0, "the file is empty")
	}
	return delimited(string(file))
}

// zipped reads the first KML document of a KMZ.
func zipped(file []byte) ([]geojson.Candidate, error) {
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		return nil, table.Refuse(0, "the zipped file cannot be opened: %v", err)
	}
	for _, f := range z.File {
		if !strings.HasSuffix(strings.ToLower(f.Name), ".kml") {
			continue
		}
		r, err := f.Open()
		if err != nil {
			return nil, table.Refuse(0, "%s in the zipped file cannot be opened: %v", f.Name, err)
		}
		text, err := io.ReadAll(io.LimitReader(r, geojson.MaxBytes+1))
		if err = errors.Join(err, r.Close()); err != nil {
			return nil, table.Refuse(0, "%s in the zipped file cannot be read: %v", f.Name, err)
		}
		if len(text) > geojson.MaxBytes {
			return nil, table.Refuse(0, "%s unpacks to more than %d MB: simplify the lines or split it", f.Name, geojson.MaxBytes>>20)
		}
		return marked(text)
	}
	return nil, table.Refuse(0, "the zipped file holds no KML document")
}

// marked reads KML or GPX.
func marked(text []byte) ([]geojson.Candidate, error) {
	d := xml.NewDecoder(bytes.NewReader(text))
	d.CharsetReader = func(charset string, in io.Reader) (io.Reader, error) {
		return nil, fmt.Errorf("it is written in %s; save it as UTF-8", charset)
	}
	var list []geojson.Candidate
	for {
		t, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, wrong(d, err)
		}
		el, ok := t.(xml.StartElement)
		if !ok {
			continue
		}
		var found []geojson.Candidate
		switch el.Name.Local {
		case "Placemark":
			found, err = placemark(d, el)
		case "trk", "rte":
			found, err = walked(d, el)
		case "html", "svg":
			return nil, table.Refuse(0, "this is a %s page, not KML or GPX", el.Name.Local)
		}
		if err != nil {
			return nil, wrong(d, err)
		}
		if list = append(list, found...); len(list) > geojson.MaxFeatures {
			return nil, table.Refuse(0, "the file holds more than %d outlines: split it", geojson.MaxFeatures)
		}
	}
	if len(list) == 0 {
		list = waypoints(text)
	}
	if len(list) == 0 {
		return nil, table.Refuse(0, "the file holds no polygon, track, route or three waypoints")
	}
	return list, nil
}

func wrong(d *xml.Decoder, err error) error {
	line, _ := d.InputPos()
	return table.Refuse(line, "this is not KML or GPX that can be read: %v", err)
}

// made is the candidate of a ring, judged.
func made(n int, name, surveyed string, boundary geo.Polygon, doubt string) geojson.Candidate {
	if name = strings.TrimSpace(name); name == "" {
		name = fmt.Sprintf("Block %d", n)
	}
	if r := []rune(name); len(r) > 80 {
		name = string(r[:80])
	}
	c := geojson.Candidate{Name: name, Surveyed: surveyed, Boundary: boundary, Doubt: doubt}
	for i, r := range boundary.Rings() {
		if i == 0 {
			c.Boundary = geo.Polygon{Outer: r}
		} else {
			c.Boundary.Holes = append(c.Boundary.Holes, r)
		}
	}
	if err := (document.Block{Name: name, Boundary: c.Boundary}).Valid(); err != nil {
		c.Problem = err.Error()
		return c
	}
	c.AreaM2, c.PerimeterM = geo.AreaM2(c.Boundary), geo.PerimeterM(c.Boundary)
	return c
}
