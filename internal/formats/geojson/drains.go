package geojson

import (
	"encoding/json"
	"fmt"

	"github.com/paulmach/orb"
	orbjson "github.com/paulmach/orb/geojson"

	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/core/plan"
	"slowroot/internal/formats/table"
)

// drainKinds are the lines a file of drains holds; pits stand in it as points and are worked out again when
// it is read.
const drainKinds = "collector, branch, lateral or interceptor"

// WriteDrains is a FeatureCollection of the drains as they are designed: lines, the lower end first, and pits.
func WriteDrains(p *plan.Plan) ([]byte, error) {
	fc := orbjson.NewFeatureCollection()
	pegs, lines := p.SettingOut()
	for _, l := range lines {
		var s orb.LineString
		for _, q := range l.Line {
			s = append(s, orb.Point{q.Lon, q.Lat})
		}
		f := orbjson.NewFeature(s)
		f.Properties = orbjson.Properties{"kind": l.Kind, "id": l.ID, "lengthM": round(l.LengthM, 2), "invertLowM": round(l.Low, 3), "invertHighM": round(l.High, 3), "pipes": l.Pipes}
		if l.Kind == "collector" {
			f.Properties["spacingM"], f.Properties["depthM"], f.Properties["remedy"] = p.Drains.SpacingM, p.Drains.DepthM, p.Drains.Taken
		}
		if l.Kind == "interceptor" && p.Drains.Network == nil {
			f.Properties["remedy"] = p.Drains.Taken // a pipe that stops seepage, or a ditch that leads water past
		}
		fc.Append(f)
	}
	for _, g := range pegs {
		if g.Kind != "pit" {
			continue
		}
		f := orbjson.NewFeature(orb.Point{g.At.Lon, g.At.Lat})
		f.Properties = orbjson.Properties{"kind": "pit", "id": g.ID, "chainageM": round(g.Chainage, 2), "groundM": round(g.Ground, 3), "invertM": round(g.Invert, 3), "note": g.Note}
		fc.Append(f)
	}
	return json.MarshalIndent(fc, "", " ")
}

func round(v float64, decimals int) json.Number {
	return json.Number(fmt.Sprintf("%.*f", decimals, v))
}

// ReadDrains takes the drain lines of a file. Every line says by its property kind what it is; points are left
// out. A file without a collector or an interceptor is refused, and so are two of either.
func ReadDrains(text []byte) (document.Laid, error) {
	var out document.Laid
	features, err := parse(text)
	if err != nil {
		return out, err
	}
	for i, f := range features {
		line, ok := f.Geometry.(orb.LineString)
		if !ok {
			if f.Geometry != nil && f.Geometry.GeoJSONType() == "Point" {
				continue
			}
			return out, refused("feature %d is not a line: drains are lines, each with the property kind: %s", i+1, drainKinds)
		}
		if len(line) < 2 {
			return out, refused("feature %d has %d points, a line has two or more", i+1, len(line))
		}
		points := make([]geo.Point, len(line))
		for k, q := range line {
			points[k] = geo.Point{Lon: q[0], Lat: q[1]}
		}
		kind, _ := f.Properties["kind"].(string)
		switch kind {
		case "collector":
			if out.Collector != nil {
				return out, refused("feature %d is a second collector: a block has one, the rest are branches of it", i+1)
			}
			out.Collector = points
			out.SpacingM, _ = f.Properties["spacingM"].(float64)
			out.DepthM, _ = f.Properties["depthM"].(float64)
			out.Remedy, _ = f.Properties["remedy"].(string)
			if out.Remedy == "" {
				out.Remedy = "gridiron"
			}
		case "interceptor":
			if out.Interceptor != nil {
				return out, refused("feature %d is a second interceptor", i+1)
			}
			out.Interceptor = points
			if way, _ := f.Properties["remedy"].(string); out.Collector == nil {
				out.Remedy = way
			}
		case "lateral", "branch":
			id, _ := f.Properties["id"].(string)
			if d := (document.DrawnDrain{ID: id, Line: points}); kind == "branch" {
				out.Branches = append(out.Branches, d)
			} else {
				out.Laterals = append(out.Laterals, d)
			}
		default:
			return out, refused("feature %d is of kind %q; a drain is a %s", i+1, kind, drainKinds)
		}
	}
	switch {
	case out.Collector == nil && len(out.Laterals)+len(out.Branches) > 0:
		return out, refused("the file holds %d laterals and branches and no collector for them to join", len(out.Laterals)+len(out.Branches))
	case out.Collector == nil && out.Interceptor == nil:
		return out, refused("no line of the file is a collector or an interceptor: set the property kind")
	case out.Collector == nil && out.Remedy == "":
		out.Remedy = "interceptor"
	}
	return out, nil
}

func refused(format string, a ...any) error {
	return &table.Refused{Reason: fmt.Sprintf(format, a...)}
}
