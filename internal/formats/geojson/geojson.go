// Package geojson reads boundaries from GeoJSON (RFC 7946) and writes blocks to it. A file that
// cannot be used is refused whole with the line or feature at fault; a feature that cannot become a
// block stands in the list with its problem, so that the rest can still be taken.
package geojson

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"github.com/paulmach/orb"
	orbjson "github.com/paulmach/orb/geojson"

	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/core/record"
	"slowroot/internal/formats/older"
	"slowroot/internal/formats/table"
)

// Limits of a file.
const (
	MaxBytes    = 8 << 20
	MaxFeatures = 1000
)

// Candidate is a feature that may become a block.
type Candidate struct {
	Name       string              `json:"name"`
	Number     int                 `json:"number"`
	Boundary   geo.Polygon         `json:"boundary"`
	AreaM2     float64             `json:"areaM2"`
	PerimeterM float64             `json:"perimeterM"`
	Surveyed   string              `json:"surveyed"`
	AccuracyM  float64             `json:"accuracyM"`
	Notes      string              `json:"notes"`
	Plantings  []document.Planting `json:"plantings,omitempty"`
	Records    []record.Record     `json:"records,omitempty"`
	Found      document.Found      `json:"found"`             // pits, tests and answers the file carries
	Problem    string              `json:"problem,omitempty"` // why it cannot become a block
	Doubt      string              `json:"doubt,omitempty"`   // why it should be looked at before it does
}

// Block is the block a sound candidate becomes.
func (c Candidate) Block() document.Block {
	return document.Block{Name: c.Name, Number: c.Number, Boundary: c.Boundary, Surveyed: c.Surveyed, AccuracyM: c.AccuracyM, Notes: c.Notes, Found: c.Found}
}

type properties struct {
	Name      string              `json:"name"`
	Number    int                 `json:"number"`
	Surveyed  string              `json:"surveyed"`
	AccuracyM float64             `json:"accuracyM"`
	Notes     string              `json:"notes"`
	Plantings []document.Planting `json:"plantings,omitempty"`
	Records   []record.Record     `json:"records,omitempty"`
	document.Found
}

// Read lists the polygons of a FeatureCollection, a Feature or a geometry.
func Read(text []byte) ([]Candidate, error) {
	features, err := parse(text)
	if err != nil {
		return nil, err
	}
	list := []Candidate{}
	for i, f := range features {
		list = append(list, candidates(i, f)...)
	}
	return list, nil
}

// parse reads the features of a file, or refuses it whole.
func parse(text []byte) (features []*orbjson.Feature, err error) {
	if len(text) > MaxBytes {
		return nil, &table.Refused{Line: 0, Reason: fmt.Sprintf("the file holds %.1f MB, more than %d MB: simplify the lines or split it", float64(len(text))/(1<<20), MaxBytes>>20)}
	}
	var head struct {
		Type string          `json:"type"`
		CRS  json.RawMessage `json:"crs"`
	}
	if err := json.Unmarshal(text, &head); err != nil {
		return nil, refuse(text, err)
	}
	if crs := string(head.CRS); crs != "" && crs != "null" && !strings.Contains(crs, "CRS84") && !strings.Contains(crs, "4326") {
		return nil, &table.Refused{Line: lineOf(text, bytes.Index(text, []byte(`"crs"`))), Reason: "the file names another coordinate system: export it in WGS 84 (EPSG:4326)"}
	}
	defer func() { // the geometry decoder trusts its input; a file must never bring the program down
		if r := recover(); r != nil {
			features, err = nil, &table.Refused{Line: 0, Reason: fmt.Sprintf("the geometry cannot be read (%v)", r)}
		}
	}()
	switch head.Type {
	case "FeatureCollection":
		fc, err := orbjson.UnmarshalFeatureCollection(text)
		if err != nil {
			return nil, refuse(text, err)
		}
		features = fc.Features
	case "Feature":
		f, err := orbjson.UnmarshalFeature(text)
		if err != nil {
			return nil, refuse(text, err)
		}
		features = []*orbjson.Feature{f}
	case "Polygon", "MultiPolygon":
		g, err := orbjson.UnmarshalGeometry(text)
		if err != nil {
			return nil, refuse(text, err)
		}
		features = []*orbjson.Feature{orbjson.NewFeature(g.Geometry())}
	default:
		return nil, &table.Refused{Line: 1, Reason: fmt.Sprintf("type %q is not a FeatureCollection, a Feature or a Polygon", head.Type)}
	}
	if len(features) == 0 {
		return nil, &table.Refused{Line: 1, Reason: "the file holds no feature"}
	}
	if len(features) > MaxFeatures {
		return nil, &table.Refused{Line: 0, Reason: fmt.Sprintf("the file holds %d features, more than %d: split it", len(features), MaxFeatures)}
	}
	return features, nil
}

func refuse(text []byte, err error) error {
	var syn *json.SyntaxError
	if errors.As(err, &syn) {
		return &table.Refused{Line: lineOf(text, int(syn.Offset)), Reason: "this is not JSON: " + syn.Error()}
	}
	var typ *json.UnmarshalTypeError
	if errors.As(err, &typ) {
		return &table.Refused{Line: lineOf(text, int(typ.Offset)), Reason: "unexpected " + typ.Value + " where GeoJSON has " + typ.Type.String()}
	}
	return &table.Refused{Line: 0, Reason: "this is not GeoJSON: " + err.Error()}
}

func lineOf(text []byte, offset int) int {
	return 1 + bytes.Count(text[:max(0, min(offset, len(text)))], []byte("\n"))
}

func candidates(i int, f *orbjson.Feature) []Candidate {
	var p properties
	raw, err := json.Marshal(f.Properties)
	var old older.Block
	if err == nil { // a file of form 1 holds its planting and what was done inside itself
		old, err = older.Form1("file", raw)
	}
	if err == nil {
		err = json.Unmarshal(old.Body, &p)
	}
	c := Candidate{Name: p.Name, Number: p.Number, Surveyed: p.Surveyed, AccuracyM: p.AccuracyM, Notes: p.Notes, Found: p.Found,
		Plantings: append(p.Plantings, old.Plantings...), Records: append(p.Records, old.Records...)}
	if c.Name == "" {
		c.Name = fmt.Sprintf("Block %d", i+1)
	}
	if c.Surveyed == "" {
		c.Surveyed = "imported from a GeoJSON file"
	}
	if err != nil {
		c.Problem = fmt.Sprintf("feature %d: its properties cannot be read: %v", i+1, err)
		return []Candidate{c}
	}
	var polys []orb.Polygon
	switch g := f.Geometry.(type) {
	case orb.Polygon:
		polys = []orb.Polygon{g}
	case orb.MultiPolygon:
		polys = g
	case nil:
		c.Problem = fmt.Sprintf("feature %d has no geometry", i+1)
	default:
		c.Problem = fmt.Sprintf("feature %d is a %s, not a polygon", i+1, g.GeoJSONType())
	}
	if len(polys) == 0 {
		if c.Problem == "" {
			c.Problem = fmt.Sprintf("feature %d is an empty polygon", i+1)
		}
		return []Candidate{c}
	}
	var out []Candidate
	for k, poly := range polys {
		one := c
		if len(polys) > 1 {
			one.Name, one.Plantings, one.Records, one.Found = fmt.Sprintf("%s %d", c.Name, k+1), nil, nil, document.Found{}
		}
		one.Boundary = Polygon(poly)
		if err := one.Block().Valid(); err != nil { // its plantings are judged when it is added, with their sheets at hand
			one.Problem = fmt.Sprintf("feature %d: %v", i+1, err)
		} else {
			one.AreaM2, one.PerimeterM = geo.AreaM2(one.Boundary), geo.PerimeterM(one.Boundary)
		}
		out = append(out, one)
	}
	return out
}

// Polygon is a boundary as the program holds it: rings without the repeated last vertex.
func Polygon(p orb.Polygon) geo.Polygon {
	var out geo.Polygon
	for i, r := range p {
		ring := make(geo.Ring, len(r))
		for j, v := range r {
			ring[j] = geo.Point{Lon: v[0], Lat: v[1]}
		}
		if n := len(ring); n > 1 && ring[0] == ring[n-1] {
			ring = ring[:n-1]
		}
		if i == 0 {
			out.Outer = ring
		} else {
			out.Holes = append(out.Holes, ring)
		}
	}
	return out
}

// Whole is a block with everything that stands on it and was recorded of it.
type Whole struct {
	ID        string
	Block     document.Block
	Plantings []document.Planting
	Records   []record.Record
}

// Write is a FeatureCollection of blocks that Read gives back whole.
func Write(blocks []Whole) ([]byte, error) {
	fc := orbjson.NewFeatureCollection()
	for _, w := range blocks {
		b := w.Block
		var poly orb.Polygon
		for k, r := range b.Boundary.Rings() {
			ring := make(orb.Ring, 0, len(r)+1)
			for _, v := range r {
				ring = append(ring, orb.Point{v.Lon, v.Lat})
			}
			ring = append(ring, ring[0])
			if (ring.Orientation() == orb.CCW) != (k == 0) { // RFC 7946: outer rings run anticlockwise
				ring.Reverse()
			}
			poly = append(poly, ring)
		}
		f := orbjson.NewFeature(poly)
		f.ID = w.ID
		raw, err := json.Marshal(properties{b.Name, b.Number, b.Surveyed, b.AccuracyM, b.Notes, w.Plantings, w.Records, b.Found})
		if err != nil {
			return nil, err
		}
		if err := json.Unmarshal(raw, &f.Properties); err != nil {
			return nil, err
		}
		fc.Append(f)
	}
	return json.MarshalIndent(fc, "", " ")
}
