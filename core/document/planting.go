package document

import (
	"fmt"
	"reflect"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/practice"
)

// Planting is a crop on a block: what was chosen, accepted and done.
type Planting struct {
	ID          string                `json:"id,omitempty"`
	Name        string                `json:"name,omitempty"`       // as people call it; "" is the crop's
	Called      string                `json:"called,omitempty"`     // its plants as people call them: kind and stock
	CalledPoll  string                `json:"calledPoll,omitempty"` // its pollen partners
	Considered  bool                  `json:"considered,omitempty"` // the ground is judged for it, nothing is planned
	Sheet       string                `json:"sheet"`
	SheetDigest string                `json:"sheetDigest,omitempty"` // the sheet as it was when the plan was adopted
	Choices     map[string]Choice     `json:"choices,omitempty"`
	Date        civil.Date            `json:"date"` // planned planting date
	Layout      Override              `json:"layout"`
	Survival    float64               `json:"survival,omitempty"`   // 0 takes the sheet's
	Confidence  float64               `json:"confidence,omitempty"` // 0 takes 0.95
	Accepted    map[string]string     `json:"accepted,omitempty"`   // finding rule → why it is kept as it is
	AdoptedOn   civil.Date            `json:"adoptedOn"`
	AdoptedBy   string                `json:"adoptedBy,omitempty"`
	Baseline    map[string]civil.Date `json:"baseline,omitempty"` // job key → date when adopted
	BaseDate    civil.Date            `json:"baseDate"`           // planting date when adopted
	Planted     civil.Date            `json:"planted"`            // recorded as planted on
	AsPlanted   *AsPlanted            `json:"asPlanted,omitempty"`
	End         *End                  `json:"end,omitempty"`        // nil while it stands or is still to come
	Companions  []Companion           `json:"companions,omitempty"` // crops beside the main one, each with its role
	Fittings    []Fitting             `json:"fittings,omitempty"`
	Effort      map[string]Effort     `json:"effort,omitempty"`  // operation → hours each time, and crew
	Days        map[string]civil.Date `json:"days,omitempty"`    // job → the day it is planned on, within its time or not
	Raising     *Raising              `json:"raising,omitempty"` // of its plants by ourselves, or for us; nil where they are bought
	Stumps      []Stump               `json:"stumps,omitempty"`  // on rows, whose sprouts are kept
	Store       *ColdStore            `json:"store,omitempty"`   // its stock is kept cold in; nil where it is not
	Aside       string                `json:"aside,omitempty"`   // why another option was taken instead
	Strips      []Strip               `json:"strips,omitempty"`  // across the rows, repeated; none is rows of the main crop alone
}

// End is how a stand ended.
type End struct {
	On  civil.Date `json:"on"`
	How string     `json:"how"` // one of Ends
	By  string     `json:"by,omitempty"`
	Why string     `json:"why,omitempty"`
}

// Ends are the ways a stand ends.
var Ends = []string{"grubbed", "ploughed in", "replaced", "died", "given up"}

// Stage is how far the planting has come.
func (p *Planting) Stage() Stage {
	switch {
	case p == nil:
		return Empty
	case p.End != nil:
		return Ended
	case !p.Planted.IsZero():
		return Planted
	case !p.AdoptedOn.IsZero():
		return Adopted
	case p.Considered:
		return Considered
	}
	return Planned
}

// Span is the time a planting takes up on its ground: from when it stands, or should, to its end. A zero to is open.
func (p *Planting) Span() (from, to civil.Date) {
	if p.End != nil {
		to = p.End.On
	}
	return p.Standing(), to
}

// Override is what a person set instead of the chosen layout's own; a nil field takes the layout's.
type Override struct {
	RowSpacingM    *float64           `json:"rowSpacingM,omitempty"`
	PlantSpacingM  *float64           `json:"plantSpacingM,omitempty"`
	TwinGapM       *float64           `json:"twinGapM,omitempty"`
	BearingDeg     *float64           `json:"bearingDeg,omitempty"`
	EdgeBandM      *float64           `json:"edgeBandM,omitempty"`
	RowEndSetbackM *float64           `json:"rowEndSetbackM,omitempty"`
	OffsetM        *float64           `json:"offsetM,omitempty"`
	Pollinizer     *layout.Pollinizer `json:"pollinizer,omitempty"`
	Pattern        layout.Pattern     `json:"pattern,omitempty"` // instead of the layout's
	GroupRows      *int               `json:"groupRows,omitempty"`
	Stagger        *bool              `json:"stagger,omitempty"`
	GradePct       *float64           `json:"gradePct,omitempty"`  // fall along rows that follow the slope
	Each           *int               `json:"each,omitempty"`      // plants at a station
	Headlands      []Headland         `json:"headlands,omitempty"` // by side, in place of the edge band
	Weigh          *Weights           `json:"weigh,omitempty"`     // what counts when bearings are weighed
	Plots          *layout.Plots      `json:"plots,omitempty"`     // blocks with aisles between them; nil is none
	Clones         []string           `json:"clones,omitempty"`    // that the blocks hold in turn, by name
}

// Turned is what is kept of it when another layout is taken: how rows lie on the ground, not how far apart they stand.
func (o Override) Turned() Override {
	return Override{BearingDeg: o.BearingDeg, Headlands: o.Headlands, Weigh: o.Weigh}
}

// AnotherLayout is the patch of a planting that takes another layout: it brings its own spacing, and its rows are no strips. See Turned.
func AnotherLayout() map[string]any {
	fields := map[string]any{}
	t := reflect.TypeFor[Override]()
	for i := range t.NumField() {
		name, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
		switch name {
		case "bearingDeg", "headlands", "weigh":
		default:
			fields[name] = nil
		}
	}
	return map[string]any{"layout": fields, "strips": nil, "stumps": nil}
}

// AsPlanted is the layout that stands in the ground. Rows keep their numbers and positions whatever
// is changed later.
type AsPlanted struct {
	Spec        layout.Spec `json:"spec"`
	Layout      string      `json:"layout"` // id of the layout option it came from
	Rows        []Row       `json:"rows"`
	Stations    int         `json:"stations"`
	Pollinizers int         `json:"pollinizers"`
	Temporary   int         `json:"temporary"`         // come out, the first time
	Later       int         `json:"later,omitempty"`   // and the second time
	Sprouts     int         `json:"sprouts,omitempty"` // stood already
	RowMetres   float64     `json:"rowMetres"`
	AreaM2      float64     `json:"areaM2"`

	Beside []StandBeside `json:"beside,omitempty"` // the companions
}

// StandBeside is a companion as planted.
type StandBeside struct {
	ID   string `json:"id"`
	Rows []Row  `json:"rows"`
}

// Row is one piece of row as planted: first and last station and how many there are.
type Row struct {
	Row     int       `json:"row"`
	Station int       `json:"station"`
	First   geo.Point `json:"first"`
	Last    geo.Point `json:"last"`
	N       int       `json:"n"`
	LengthM float64   `json:"lengthM"`
	Roles   string    `json:"roles,omitempty"`
	Plot    int       `json:"plot,omitempty"`  // number of its block between aisles
	Clone   int       `json:"clone,omitempty"` // that stands in it
}

// Number is the permanent number of station i (from 0) of the piece, such as "R12-034".
func (r Row) Number(i int) string { return fmt.Sprintf("R%d-%03d", r.Row, r.Station+i) }

// At is the position of station i of the piece, by straight interpolation between its ends.
func (r Row) At(i int) geo.Point {
	if r.N < 2 {
		return r.First
	}
	return geo.Between(r.First, r.Last, float64(i)/float64(r.N-1))
}

// Spec is the layout that the planting's choices and overrides give.
func (p *Planting) Spec(l practice.Layout) layout.Spec {
	s := l.Spec(0)
	set := func(to *float64, v *float64) {
		if v != nil {
			*to = *v
		}
	}
	o := p.Layout
	set(&s.RowSpacingM, o.RowSpacingM)
	set(&s.PlantSpacingM, o.PlantSpacingM)
	set(&s.TwinGapM, o.TwinGapM)
	set(&s.BearingDeg, o.BearingDeg)
	set(&s.EdgeBandM, o.EdgeBandM)
	set(&s.RowEndSetbackM, o.RowEndSetbackM)
	set(&s.OffsetM, o.OffsetM)
	if o.Pollinizer != nil {
		s.Pollinizer = *o.Pollinizer
	}
	if o.Pattern != "" {
		s.Pattern = o.Pattern
	}
	if o.GroupRows != nil {
		s.GroupRows = *o.GroupRows
	}
	set(&s.GradePct, o.GradePct)
	if o.Stagger != nil {
		s.Stagger = *o.Stagger
	}
	if o.Plots != nil {
		s.Plots = *o.Plots
		s.Plots.Clones = len(o.Clones)
	}
	if a, ok := p.Alley(); ok {
		s.Plots = layout.Plots{}
		s.Pattern, s.Strips, s.Stagger, s.RowSpacingM = layout.Rectangle, true, false, a.WidthM()
		s.PlantSpacingM = 1e4 / (s.RowSpacingM * a.PerHa(MainCrop))
	}
	return s
}

// chosen is fork → option of the choices made.
func (p *Planting) Chosen() map[string]string {
	if p == nil {
		return nil
	}
	out := make(map[string]string, len(p.Choices))
	for k, c := range p.Choices {
		out[k] = c.Option
	}
	return out
}

// Ways are the ways taken at the forks of its sheet; nil for another sheet, or where nothing is planted.
func (p *Planting) Ways(sheet string) map[string]string {
	if p != nil && p.Sheet != sheet {
		return nil
	}
	return p.Chosen()
}

// Standing is the day the plants went in: recorded if it is, else planned.
func (p *Planting) Standing() civil.Date {
	if !p.Planted.IsZero() {
		return p.Planted
	}
	return p.Date
}

// Stage is how far a planting has come.
type Stage string

const (
	Empty      Stage = "empty"      // no crop chosen
	Considered Stage = "considered" // the ground is judged and prepared for it, nothing is planned
	Planned    Stage = "planned"    // chosen, nothing promised
	Adopted    Stage = "adopted"    // baseline dates fixed
	Planted    Stage = "planted"    // standing; its layout is fixed
	Ended      Stage = "ended"      // grubbed, ploughed in, replaced: its story is kept
)
