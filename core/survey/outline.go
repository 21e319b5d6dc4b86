package survey

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// Ways a boundary is told without drawing it.
const (
	BySize   = "size"   // length × width × bearing at a point
	ByArea   = "area"   // an area alone: a square until it is measured
	ByPoints = "points" // corners in degrees
	ByTape   = "tape"   // corners in metres from the first, east and north
	ByWalk   = "walk"   // sides walked with a tape and a compass: bearing and length of each
)

// Ways lists them as they are offered.
var Ways = []string{BySize, ByArea, ByPoints, ByTape, ByWalk}

// AreaAlone is how a boundary that only stands for an area is marked, until it is measured.
const AreaAlone = "an area alone, drawn as a square"

// Outline is a boundary as it is told. Metres, degrees clockwise from true north.
type Outline struct {
	Way        string    `json:"way"` // one of Ways
	At         geo.Point `json:"at"`  // the corner everything is measured from; the middle of an area alone
	LengthM    float64   `json:"lengthM"`
	WidthM     float64   `json:"widthM"`
	BearingDeg float64   `json:"bearingDeg"` // of the long side
	AreaM2     float64   `json:"areaM2"`
	Text       string    `json:"text"` // corners or sides, one a line
}

// Drawn is the boundary it makes.
type Drawn struct {
	Boundary   geo.Polygon `json:"boundary"`
	AreaM2     float64     `json:"areaM2"`
	PerimeterM float64     `json:"perimeterM"`
	Surveyed   string      `json:"surveyed"`
	AccuracyM  float64     `json:"accuracyM"` // of a corner, from the closing error; 0 is not known
	ClosingM   float64     `json:"closingM"`  // distance by which walked sides fail to close
	Closing    float64     `json:"closing"`   // the same as a share of the way walked
	Words      string      `json:"words"`     // what was done with it
}

// Draw turns what was told into a boundary. Errors are *finding.FieldError or *geo.Invalid.
func Draw(o Outline) (Drawn, error) {
	var d Drawn
	if o.Way != ByPoints && (o.At == geo.Point{}) {
		return d, finding.Bad("at", "", "says nowhere: the field needs a place on the earth", usual)
	}
	if o.Way != ByPoints && !(math.Abs(o.At.Lat) <= geo.MaxLatDeg && math.Abs(o.At.Lon) <= 180) {
		return d, finding.Bad("at", fmt.Sprintf("%g, %g", o.At.Lat, o.At.Lon), "is no place a field lies at", usual)
	}
	if !(math.Abs(o.BearingDeg) <= 360) {
		return d, finding.Bad("bearingDeg", o.BearingDeg, "is not a bearing", "0 to 360°, clockwise from true north")
	}
	var err error
	switch o.Way {
	case BySize:
		err = d.size(o)
	case ByArea:
		err = d.square(o)
	case ByPoints:
		err = d.points(o)
	case ByTape, ByWalk:
		err = d.taped(o)
	default:
		err = finding.Bad("way", o.Way, "is not a way a boundary is told", strings.Join(Ways, ", "))
	}
	if err != nil {
		return Drawn{}, err
	}
	if err := geo.Validate(d.Boundary); err != nil {
		return Drawn{}, err
	}
	d.AreaM2, d.PerimeterM = geo.AreaM2(d.Boundary), geo.PerimeterM(d.Boundary)
	return d, nil
}

// on puts corners of a plane at a point onto the earth.
func (d *Drawn) on(at geo.Point, corners []geo.XY) {
	plane := geo.PlaneAt(at)
	for _, c := range corners {
		d.Boundary.Outer = append(d.Boundary.Outer, plane.From(c))
	}
}

func side(field string, m float64) error {
	if !(m >= 1 && m <= 20_000) {
		return finding.Bad(field, m, "is not a side of a field", "1 to 20 000 m")
	}
	return nil
}

func (d *Drawn) size(o Outline) error {
	if err := side("lengthM", o.LengthM); err != nil {
		return err
	}
	if err := side("widthM", o.WidthM); err != nil {
		return err
	}
	sin, cos := math.Sincos(o.BearingDeg * math.Pi / 180)
	along, across := geo.XY{X: o.LengthM * sin, Y: o.LengthM * cos}, geo.XY{X: o.WidthM * cos, Y: -o.WidthM * sin}
	d.on(o.At, []geo.XY{{}, along, {X: along.X + across.X, Y: along.Y + across.Y}, across})
	d.Surveyed = "length and width, square corners"
	return nil
}

func (d *Drawn) square(o Outline) error {
	if !(o.AreaM2 >= geo.MinAreaM2 && o.AreaM2 <= geo.MaxAreaM2) {
		return finding.Bad("areaM2", o.AreaM2, "is not the area of a field", "50 m² to 10 000 ha")
	}
	h := math.Sqrt(o.AreaM2) / 2
	sin, cos := math.Sincos(o.BearingDeg * math.Pi / 180)
	var corners []geo.XY
	for _, c := range [][2]float64{{-h, -h}, {h, -h}, {h, h}, {-h, h}} {
		corners = append(corners, geo.XY{X: c[0]*sin + c[1]*cos, Y: c[0]*cos - c[1]*sin})
	}
	d.on(o.At, corners)
	d.Surveyed = AreaAlone
	d.Words = "Only the area is true. Rows, edges and drains need the real boundary."
	return nil
}

// lines are the lines of a text that say something, with their numbers.
func lines(text string) (out []string, at []int) {
	for i, l := range strings.Split(text, "\n") {
		if l = strings.TrimSpace(l); l != "" && !strings.HasPrefix(l, "#") {
			out, at = append(out, l), append(at, i+1)
		}
	}
	return out, at
}

func (d *Drawn) points(o Outline) error {
	list, at := lines(o.Text)
	for i, l := range list {
		p, err := Place(l)
		if err != nil {
			return finding.Bad("text", l, fmt.Sprintf("is line %d and no position", at[i]), "one corner a line: "+usual)
		}
		d.Boundary.Outer = append(d.Boundary.Outer, p)
	}
	d.Boundary.Outer = d.Boundary.Rings()[0]
	d.Surveyed = "corners by their coordinates"
	return nil
}

// taped puts corners or sides measured with a tape together. Sides that do not close are spread by the compass rule: each
// corner moves by the closing error times its share of the way walked. Bowditch, 1808; in any text of plane surveying.
func (d *Drawn) taped(o Outline) error {
	list, at := lines(o.Text)
	walked := o.Way == ByWalk
	what := "east and north of the first corner in metres, one corner a line, such as 120.5 38"
	if walked {
		what = "bearing in degrees and length in metres, one side a line, such as 92 120.5"
	}
	var pairs [][2]float64
	for i, l := range list {
		v, ok := two(l)
		if !ok || walked && !(math.Abs(v[0]) <= 360 && v[1] > 0 && v[1] <= 20_000) || math.Abs(v[0]) > 50_000 || math.Abs(v[1]) > 50_000 {
			return finding.Bad("text", l, fmt.Sprintf("is line %d and not two numbers that can be", at[i]), what)
		}
		pairs = append(pairs, v)
	}
	if len(pairs) < 3 {
		return finding.Bad("text", len(pairs), "are too few: a field has three sides or more", what)
	}
	d.Surveyed = "by tape from the first corner"
	if !walked {
		corners := make([]geo.XY, 0, len(pairs)+1)
		if pairs[0] != [2]float64{} {
			corners = append(corners, geo.XY{})
		}
		for i, v := range pairs {
			if i > 0 && i == len(pairs)-1 && v == [2]float64{} {
				break
			}
			corners = append(corners, geo.XY{X: v[0], Y: v[1]})
		}
		d.on(o.At, corners)
		return nil
	}
	d.Surveyed = "sides walked with tape and compass"
	var end geo.XY
	way := 0.0
	corners, gone := []geo.XY{{}}, []float64{0}
	for _, v := range pairs {
		sin, cos := math.Sincos(v[0] * math.Pi / 180)
		end = geo.XY{X: end.X + v[1]*sin, Y: end.Y + v[1]*cos}
		way += v[1]
		corners, gone = append(corners, end), append(gone, way)
	}
	d.ClosingM = math.Hypot(end.X, end.Y)
	d.Closing = d.ClosingM / way
	if d.Closing > 0.1 {
		return finding.Bad("text", fmt.Sprintf("%.1f m", d.ClosingM),
			fmt.Sprintf("is how far the walk ends from where it began, %.0f %% of its length: a side is missing or a "+
				"bearing is wrong", d.Closing*100), "sides that come back to the first corner to a tenth of their length")
	}
	for i := range corners {
		k := gone[i] / way
		corners[i].X -= end.X * k
		corners[i].Y -= end.Y * k
	}
	d.on(o.At, corners[:len(corners)-1])
	d.AccuracyM = math.Round(d.ClosingM/2*100) / 100
	if d.ClosingM > 0.005 {
		d.Words = fmt.Sprintf("The walk ends %.2f m from where it began, 1 in %.0f of its length; the error is spread over the corners by the compass rule.",
			d.ClosingM, 1/d.Closing)
	}
	return nil
}

// two are the two numbers of a line, parted by spaces, a tab or a semicolon, or by a comma without a space. A comma inside
// a number is a decimal comma.
func two(l string) (v [2]float64, ok bool) {
	n := strings.Fields(strings.NewReplacer("−", "-", "°", " ", "m", " ", ";", " ").Replace(l))
	if len(n) == 1 {
		n = strings.Split(n[0], ",")
	}
	if len(n) != 2 {
		return v, false
	}
	for i, t := range n {
		x, err := strconv.ParseFloat(strings.Replace(strings.TrimSuffix(t, ","), ",", ".", 1), 64)
		if err != nil || math.IsNaN(x) || math.IsInf(x, 0) {
			return v, false
		}
		v[i] = x
	}
	return v, true
}
