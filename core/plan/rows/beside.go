package rows

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/plan/ground"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// Where a companion stands.
const (
	inStrips = "in strips"
	over     = "over the rows"
	inBelt   = "in a belt"
	inAisles = "in the aisles"
	nowhere  = "nowhere yet"
)

// Beside is a companion as it stands on the block.
type Beside struct {
	ID       string          `json:"id"`
	Role     string          `json:"role"`
	Name     string          `json:"name"`
	Sheet    string          `json:"sheet"`
	Where    string          `json:"where"`
	Rows     []layout.Piece  `json:"rows"`
	Stations int             `json:"stations"`
	Each     int             `json:"each"`  // plants at a station
	PerHa    float64         `json:"perHa"` // stations a hectare on an endless field; 0 for a belt
	Metres   float64         `json:"metres"`
	FromYear int             `json:"fromYear"`
	ToYear   int             `json:"toYear"`
	Sprouts  int             `json:"sprouts"` // of the stations, of stumps that are kept
	SpreadM  []float64       `json:"spreadM"` // canopy by its own age year, m; empty where it is not known
	Shelter  []Shelter       `json:"shelter"` // ground behind a belt that the wind is slowed on
	Of       *practice.Sheet `json:"-"`
	Survival float64         `json:"-"` // as it was said; 0 takes the sheet's
}

// Shelter is the strip of ground behind one side of a belt, as corners on the block's plane.
type Shelter struct {
	Ring [][2]float64 `json:"ring"`
}

// Share is one strip's part of the ground.
type Share struct {
	ID     string  `json:"id"`
	Kind   string  `json:"kind"`
	Name   string  `json:"name"`
	WidthM float64 `json:"widthM"`
	Share  float64 `json:"share"`
	AreaM2 float64 `json:"areaM2"` // of the planted ground
}

// Obstacle is what takes no plants, as it lies on the block's plane.
type Obstacle struct {
	ID     string       `json:"id"`
	Kind   string       `json:"kind"`
	Name   string       `json:"name"`
	Points [][2]float64 `json:"points"`
	Area   bool         `json:"area"`
	HalfM  float64      `json:"halfM"` // of its width
	FreeM  float64      `json:"freeM"` // kept free of stations, from its points
}

// Obstacles are those of a block on its plane.
func Obstacles(g ground.Result, list []document.Obstacle) []Obstacle {
	out := []Obstacle{}
	for _, o := range list {
		p := Obstacle{ID: o.ID, Kind: o.Kind, Name: o.Name, Area: o.Area, HalfM: o.WidthM / 2, FreeM: o.KeepM + o.WidthM/2}
		if o.Area {
			p.HalfM, p.FreeM = 0, o.KeepM
		}
		for _, q := range o.Points {
			xy := g.Plane.To(q)
			p.Points = append(p.Points, [2]float64{xy.X, xy.Y})
		}
		out = append(out, p)
	}
	return out
}

// coincidentM is how near two stations of different crops stand on one another, m.
const coincidentM = 0.3

// field is the ground that takes rows: without obstacles, headlands and what belts need.
func (in In) field() layout.Field {
	f := layout.Field{Rings: in.Ground.On}
	for _, o := range Obstacles(in.Ground, in.Obstacles) {
		t := layout.Obstacle{Area: o.Area, FreeM: o.FreeM}
		for _, p := range o.Points {
			t.Points = append(t.Points, geo.XY{X: p[0], Y: p[1]})
		}
		f.Obstacles = append(f.Obstacles, t)
	}
	for _, h := range in.Planting.Layout.Headlands {
		f.Headlands = append(f.Headlands, layout.Headland{TowardDeg: h.TowardDeg, WidthM: h.WidthM})
	}
	for _, c := range in.Planting.Companions {
		if b := c.Belt; b != nil {
			f.Headlands = append(f.Headlands, layout.Headland{TowardDeg: b.TowardDeg, WidthM: b.Laid().DepthM() + b.SetbackM})
		}
	}
	return f
}

// laid is a layout as it is put together.
type laid struct {
	main   layout.Placement
	grades layout.Grades
	beside []Beside
	off    []string // stumps that lie on no row, by id
}

// kept makes the sprouts of a crop's stumps stations.
func (l *laid) kept(p *document.Planting, of string, pl layout.Placement) layout.Placement {
	list, ids := p.StumpsOf(of)
	if len(list) == 0 {
		return pl
	}
	out, off := pl.WithStumps(list)
	for _, i := range off {
		l.off = append(l.off, ids[i])
	}
	return out
}

// lay places the main crop and what stands beside it.
func (in In) lay(o practice.Layout) (out laid, err error) {
	f, p := in.field(), in.Planting
	out.beside = []Beside{}
	spec := p.Spec(o)
	strips := map[string]*layout.Placement{}
	if a, ok := p.Alley(); ok {
		n := spec.Normal()
		a.BearingDeg, a.OffsetM, a.EdgeBandM, a.RowEndSetbackM = n.BearingDeg, n.OffsetM, n.EdgeBandM, n.RowEndSetbackM
		if strips, err = a.Lay(f); err != nil {
			return out, err
		}
		if m := strips[document.MainCrop]; m != nil {
			out.main = m.WithRoles(n)
		}
	} else if spec.Pattern == layout.Contour && in.Land != nil {
		out.main, out.grades, err = layout.PlaceContour(f, spec, in.Land.HeightAt)
	} else {
		out.main, err = layout.Place(f, flat(spec))
	}
	if err != nil {
		return out, err
	}
	out.main = out.kept(p, document.MainCrop, out.main)
	for _, c := range p.Companions {
		b := in.named(c)
		var pl layout.Placement
		switch {
		case c.Over != nil:
			pl, err = layout.PlaceOver(f, layout.Lattice{ShiftAlongM: c.Over.ShiftAlongM, ShiftAcrossM: c.Over.ShiftAcrossM, Spec: overSpec(c.Over, spec)})
			b.Where, b.PerHa = over, overSpec(c.Over, spec).StationsPerHa()
			if err == nil && c.Over.Takes {
				n := spec.Normal()
				out.main = out.main.Without(pl, math.Min(n.PlantSpacingM, n.RowSpacingM)*0.499)
			}
		case c.Belt != nil:
			b.Where = inBelt
			pl, err = c.Belt.Laid().Lay(layout.Field{Rings: f.Rings, Obstacles: f.Obstacles})
			b.Shelter = in.shelter(*c.Belt, f)
		case c.AislesM > 0 && !spec.Plots.None():
			b.Where, b.PerHa = inAisles, spec.Plots.AislesPerHa(c.AislesM)
			pl, err = layout.Aisles(f, spec, c.AislesM)
		case strips[c.ID] != nil:
			a, _ := p.Alley()
			b.Where, b.PerHa, pl = inStrips, a.PerHa(c.ID), *strips[c.ID]
		}
		if err != nil {
			return out, err
		}
		pl = out.kept(p, c.ID, pl)
		b.Rows, b.Stations, b.Metres, b.Sprouts = pl.Pieces, pl.Stations, pl.RowMetres, pl.Sprouts
		if b.Rows == nil {
			b.Rows = []layout.Piece{}
		}
		out.beside = append(out.beside, b)
	}
	return out, nil
}

// flat is a spec as it is laid where no heights say how rows would follow the slope: straight, which a finding says.
func flat(s layout.Spec) layout.Spec {
	if s.Pattern != layout.Contour {
		return s
	}
	if s.Pattern = layout.Rectangle; s.GroupRows > 1 {
		s.Pattern = layout.Twin
	}
	return s
}

// overSpec is a lattice over the rows, turned like them.
func overSpec(o *document.Over, rows layout.Spec) layout.Spec {
	return layout.Spec{Pattern: o.Pattern, RowSpacingM: o.RowSpacingM, PlantSpacingM: o.PlantSpacingM, BearingDeg: rows.BearingDeg, EdgeBandM: rows.EdgeBandM,
		RowEndSetbackM: rows.RowEndSetbackM}
}

// named is a companion with its name and its growth, where a sheet knows it.
func (in In) named(c document.Companion) Beside {
	b := Beside{ID: c.ID, Role: c.Role, Name: c.Name, Sheet: c.Sheet, Where: nowhere, Each: max(c.Each, 1), FromYear: c.FromYear, ToYear: c.ToYear,
		SpreadM: []float64{}, Shelter: []Shelter{},
		Of: in.Sheets[c.Sheet], Survival: c.Survival}
	if b.Of == nil {
		return b
	}
	if b.Name == "" {
		b.Name = b.Of.Name
	}
	if len(b.Of.Layouts) > 0 {
		g := b.Of.CanopyOf(b.Of.Layouts[0])
		for a := 1; a <= 40 && g.FinalM > 0; a++ {
			b.SpreadM = append(b.SpreadM, math.Round(g.SpreadM(float64(a))*100)/100)
		}
	}
	return b
}

// useful is how many heights behind a belt the wind is slowed enough to count on. Method LAY-7.
const useful = 10

// shelter is the ground behind a belt, blown on square to the direction it faces.
func (in In) shelter(b document.Belt, f layout.Field) []Shelter {
	out := []Shelter{}
	deep := layout.DepthOfShelter(b.HeightM, useful, 0)
	if deep == 0 {
		return out
	}
	sin, cos := math.Sincos(b.TowardDeg * math.Pi / 180)
	back := geo.XY{X: -sin * deep, Y: -cos * deep}
	for _, s := range b.Laid().Sides(f) {
		out = append(out, Shelter{Ring: [][2]float64{{s.A.X, s.A.Y}, {s.B.X, s.B.Y}, {s.B.X + back.X, s.B.Y + back.Y}, {s.A.X + back.X, s.A.Y + back.Y}}})
	}
	return out
}

// stood are the companions as they were planted.
func (in In) stood(plane geo.Plane, a *document.AsPlanted) []Beside {
	out := []Beside{}
	for _, c := range in.Planting.Companions {
		b := in.named(c)
		for _, s := range a.Beside {
			if s.ID == c.ID {
				pl := standing(plane, &document.AsPlanted{Rows: s.Rows})
				b.Rows, b.Where = pl.Pieces, "as planted"
				for _, r := range s.Rows {
					b.Stations += r.N
					b.Metres += r.LengthM
				}
			}
		}
		if c.Belt != nil {
			b.Shelter = in.shelter(*c.Belt, in.field())
		}
		if b.Rows == nil {
			b.Rows = []layout.Piece{}
		}
		out = append(out, b)
	}
	return out
}

// shares are the parts of the ground each strip takes; they sum to one.
func (r Result) shares(p *document.Planting) []Share {
	out := []Share{}
	a, ok := p.Alley()
	if !ok {
		return out
	}
	w := a.WidthM()
	for _, s := range p.Strips {
		out = append(out, Share{ID: s.ID, Kind: s.Kind, Name: s.Name, WidthM: s.WidthM, Share: s.WidthM / w, AreaM2: r.PlantedHa * 1e4 * s.WidthM / w})
	}
	return out
}

// Path is the figure of a companion.
func (b Beside) Path(of string) string { return "with." + b.ID + "." + of }

// besides puts companions and strips into figures.
func (r Result) besides(in In, say *report.Voice) {
	for _, b := range r.Beside {
		path := b.Path("stations")
		origin := working.Computed
		if in.Planting.AsPlanted != nil {
			origin = working.Measured
		}
		note := b.Role + ", " + b.Where
		if b.PerHa > 0 {
			note += fmt.Sprintf("; %s by spacing alone", say.Text(b.PerHa, units.PerArea))
		}
		say.Figure(report.Figure{Path: path, Step: "rows", Label: b.Name, Quantity: units.Count, Value: float64(b.Stations), Origin: origin, Note: note})
		if say.On(path) {
			b.working(in, path, say)
		}
	}
	if a, ok := in.Planting.Alley(); ok {
		say.Figure(report.Figure{Path: "rows.module", Step: "rows", Label: "Strips repeat after", Quantity: units.Spacing, Value: a.WidthM(),
			Origin: working.Computed,
			Note:   fmt.Sprintf("%d strips", len(a.Strips))})
		if say.On("rows.module") {
			var parts []string
			for _, s := range a.Strips {
				parts = append(parts, fmt.Sprintf("%g", s.WidthM))
			}
			say.Step("rows.module", "Width after which the strips repeat", "W = Σ widths", strings.Join(parts, " + "), a.WidthM(), units.Spacing, "method LAY-1")
		}
	}
}

// working says how a companion is counted.
func (b Beside) working(in In, path string, say *report.Voice) {
	say.Tell(working.Count, path, "Counted on the block", "stations of its rows on the boundary, less headlands and obstacles",
		fmt.Sprintf("%d pieces of row, %.0f m together", len(b.Rows), b.Metres),
		float64(b.Stations), units.Count, map[bool]string{true: "method LAY-7: ⌊length / spacing⌋ + 1 along each side", false: "method LAY-3"}[b.Where == inBelt])
	switch b.Where {
	case inStrips:
		a, _ := in.Planting.Alley()
		var parts []string
		for _, s := range a.Strips {
			for _, row := range s.Rows {
				n := 0
				for _, of := range row.Of {
					if of == b.ID {
						n++
					}
				}
				if n > 0 {
					parts = append(parts, fmt.Sprintf("%d/%d / %g", n, len(row.Of), row.SpacingM))
				}
			}
		}
		say.Step(path, "By spacing alone", "stations per ha = 10 000 / W · Σ over its rows of share / spacing", fmt.Sprintf("10 000 / %g · (%s)", a.WidthM(),
			strings.Join(parts, " + ")),
			b.PerHa, units.PerArea, "method LAY-1, alley", say.Num("width of the strips", a.WidthM(), units.Spacing, working.Chosen, "", "rows.module"))
	case over:
		f, sub := overSpec(in.over(b.ID), layout.Spec{}).DensityFormula()
		say.Step(path, "By spacing alone", f, sub, b.PerHa, units.PerArea, "method LAY-1")
	}
}

// over is the lattice of a companion.
func (in In) over(id string) *document.Over {
	for _, c := range in.Planting.Companions {
		if c.ID == id && c.Over != nil {
			return c.Over
		}
	}
	return &document.Over{Pattern: layout.Square, PlantSpacingM: 1}
}
