package boundaries

import (
	"encoding/xml"
	"fmt"
	"strconv"
	"strings"

	"slowroot/core/geo"
	"slowroot/internal/formats/geojson"
)

type kmlRing struct {
	Coordinates string `xml:"LinearRing>coordinates"`
}

type kmlPolygon struct {
	Outer kmlRing   `xml:"outerBoundaryIs"`
	Inner []kmlRing `xml:"innerBoundaryIs"`
}

// kmlShape is a placemark's geometry; a line that is closed, or meant to be, counts as a boundary.
type kmlShape struct {
	Polygons []kmlPolygon `xml:"Polygon"`
	Lines    []struct {
		Coordinates string `xml:"coordinates"`
	} `xml:"LineString"`
	Rings []struct {
		Coordinates string `xml:"coordinates"`
	} `xml:"LinearRing"`
	Multi []kmlShape `xml:"MultiGeometry"`
}

type kmlPlacemark struct {
	Name string `xml:"name"`
	kmlShape
}

// placemark reads the polygons of a KML placemark.
func placemark(d *xml.Decoder, el xml.StartElement) ([]geojson.Candidate, error) {
	var p kmlPlacemark
	if err := d.DecodeElement(&p, &el); err != nil {
		return nil, err
	}
	var list []geojson.Candidate
	add := func(poly geo.Polygon, doubt string, err error) {
		name := p.Name
		if len(list) > 0 {
			name = fmt.Sprintf("%s %d", p.Name, len(list)+1)
		}
		c := made(len(list)+1, name, "imported from a KML file", poly, doubt)
		if err != nil {
			c.Problem = err.Error()
		}
		list = append(list, c)
	}
	var shape func(s kmlShape)
	shape = func(s kmlShape) {
		for _, k := range s.Polygons {
			var poly geo.Polygon
			var err error
			poly.Outer, err = tuples(k.Outer.Coordinates)
			for _, in := range k.Inner {
				hole, e := tuples(in.Coordinates)
				if e != nil {
					err = e
				}
				poly.Holes = append(poly.Holes, hole)
			}
			add(poly, "", err)
		}
		for _, l := range append(s.Lines, s.Rings...) {
			ring, err := tuples(l.Coordinates)
			r, doubt := closed(ring)
			add(geo.Polygon{Outer: r}, doubt, err)
		}
		for _, m := range s.Multi {
			shape(m)
		}
	}
	shape(p.kmlShape)
	return list, nil
}

// tuples reads "lon,lat[,height]" tuples, parted by white space.
func tuples(text string) (geo.Ring, error) {
	var r geo.Ring
	for _, t := range strings.Fields(text) {
		part := strings.Split(t, ",")
		if len(part) < 2 {
			return nil, fmt.Errorf("%q is no longitude and latitude", t)
		}
		lon, err1 := strconv.ParseFloat(part[0], 64)
		lat, err2 := strconv.ParseFloat(part[1], 64)
		if err1 != nil || err2 != nil {
			return nil, fmt.Errorf("%q is no longitude and latitude", t)
		}
		r = append(r, geo.Point{Lon: lon, Lat: lat})
	}
	return r, nil
}

// closed is a line as a ring, with a doubt where its ends lie apart.
func closed(r geo.Ring) (geo.Ring, string) {
	if n := len(r); n > 2 {
		if gap := geo.DistanceM(r[0], r[n-1]); gap > 5 {
			return r, fmt.Sprintf("The line ends %.0f m from where it began; a straight side closes it.", gap)
		} else if gap > 0 && n > 3 {
			return r[:n-1], ""
		}
	}
	return r, ""
}
