// Package plan is where the subjects meet: estate, block, planting, sheet and today in; Plan out.
// Compute is pure and deterministic: the same input gives the same plan on any machine and any day.
package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/rotation"
	"slowroot/core/schedule"
	"slowroot/core/units"
)

// Estate is what holds for every block.
type Estate struct {
	Name    string            `json:"name"`
	Place   string            `json:"place"`
	At      *geo.Point        `json:"at,omitempty"` // where it lies, while no block says so
	Units   units.System      `json:"units"`
	Seasons []schedule.Window `json:"seasons"`
	People  []Person          `json:"people"`
	Climate []Month           `json:"climate"` // monthly normals, January first; empty when unknown
	Source  string            `json:"climateSource"`
	Site
}

// Person is somebody who decides or works on the estate.
type Person struct {
	Name string `json:"name"`
	Role string `json:"role"`
}

// Month is a monthly normal. A nil number is not known.
type Month struct {
	MeanC  float64  `json:"meanC"`
	MinC   float64  `json:"minC"`
	RainMM float64  `json:"rainMm"`
	MaxC   *float64 `json:"maxC,omitempty"`
	RHPct  *float64 `json:"rhPct,omitempty"`
	WindMS *float64 `json:"windMS,omitempty"` // at 2 m
	SunH   *float64 `json:"sunH,omitempty"`   // hours of bright sun a day
}

// valid refuses a month that cannot be anywhere on the earth.
func (m Month) valid(field string) error {
	for _, v := range []struct {
		name   string
		x      *float64
		lo, hi float64
		unit   string
	}{{"meanC", &m.MeanC, -60, 50, "°C"}, {"minC", &m.MinC, -70, 50, "°C"}, {"maxC", m.MaxC, -60, 60, "°C"}, {"rainMm", &m.RainMM, 0, 3000, "mm"}, {"rhPct", m.RHPct, 0, 100, "%"}, {"windMS", m.WindMS, 0, 40, "m/s"}, {"sunH", m.SunH, 0, 24, "hours a day"}} {
		if v.x != nil && !(*v.x >= v.lo && *v.x <= v.hi) {
			return finding.Bad(field+"."+v.name, *v.x, "is not the normal of a month", fmt.Sprintf("%g to %g %s", v.lo, v.hi, v.unit))
		}
	}
	if m.MinC > m.MeanC || m.MaxC != nil && *m.MaxC < m.MeanC {
		return finding.Bad(field+".minC", m.MinC, "the minimum lies above the mean, or the mean above the maximum", "minimum ≤ mean ≤ maximum")
	}
	return nil
}

// Valid reports the first thing wrong with an estate as a *finding.FieldError.
func (e Estate) Valid() error {
	if e.Name == "" || len(e.Name) > 120 {
		return finding.Bad("name", e.Name, "an estate needs a name", "1 to 120 characters")
	}
	if e.Units != units.Metric && e.Units != units.US {
		return finding.Bad("units", e.Units, "is not a system of units", "metric or us")
	}
	if _, err := schedule.NewSeasons(e.Seasons); err != nil {
		return finding.Bad("seasons", "", err.Error(), "the twelve windows, each with two days written MM-DD")
	}
	if len(e.Climate) != 0 && len(e.Climate) != 12 {
		return finding.Bad("climate", len(e.Climate), "is not a year of monthly normals", "12 months, or none")
	}
	for i, m := range e.Climate {
		if err := m.valid(fmt.Sprintf("climate[%d]", i)); err != nil {
			return err
		}
	}
	if len(e.People) > 200 || len(e.Currency) > 12 || len(e.Place) > 200 {
		return finding.Bad("people", len(e.People), "are too many, or a word of the estate is too long", "200 people; 12 characters of currency, 200 of place")
	}
	if e.At != nil && !(math.Abs(e.At.Lon) <= 180 && math.Abs(e.At.Lat) <= geo.MaxLatDeg) {
		return finding.Bad("at", fmt.Sprintf("%g, %g", e.At.Lat, e.At.Lon), "is no place a farm can lie", fmt.Sprintf("latitude −%g to %g°, longitude −180 to 180°", geo.MaxLatDeg, geo.MaxLatDeg))
	}
	return e.Site.valid()
}

// Block is a piece of ground and what is meant for it.
type Block struct {
	Name      string      `json:"name"`
	Number    int         `json:"number"` // shown on the map
	Boundary  geo.Polygon `json:"boundary"`
	Surveyed  string      `json:"surveyed"`  // how the boundary was found
	AccuracyM float64     `json:"accuracyM"` // of a vertex; 0 is not known
	Notes     string      `json:"notes"`
	Planting  *Planting   `json:"planting,omitempty"` // the one it is seen from; a block has several, one after another
	Found
}

// Choice is the way taken at a fork, and who took it and why.
type Choice struct {
	Option string     `json:"option"`
	By     string     `json:"by"`
	On     civil.Date `json:"on"`
	Why    string     `json:"why"`
}

// Planting is a crop on a block: what was chosen, accepted and done.
type Planting struct {
	ID          string                `json:"id,omitempty"`
	Name        string                `json:"name,omitempty"`       // as people call it; "" is the crop's
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
	End         *End                  `json:"end,omitempty"` // nil while it stands or is still to come
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
}

// AsPlanted is the layout that stands in the ground. Rows keep their numbers and positions whatever
// is changed later.
type AsPlanted struct {
	Spec        layout.Spec `json:"spec"`
	Layout      string      `json:"layout"` // id of the layout option it came from
	Rows        []Row       `json:"rows"`
	Stations    int         `json:"stations"`
	Pollinizers int         `json:"pollinizers"`
	Temporary   int         `json:"temporary"`
	RowMetres   float64     `json:"rowMetres"`
	AreaM2      float64     `json:"areaM2"`
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

// First and last year of what people enter about a block.
const (
	firstYear = 1900
	lastYear  = 2200
)

// entered refuses a day that nobody can mean. No date passes.
func entered(field string, d civil.Date) error {
	if !d.IsZero() && (d.Year() < firstYear || d.Year() > lastYear) {
		return finding.Bad(field, d, "is not a day of this planting's time", fmt.Sprintf("a day from %d to %d", firstYear, lastYear))
	}
	return nil
}

// days refuses days nobody can mean wherever a block holds one.
func (b Block) days() error {
	var errs []error
	add := func(field string, d civil.Date) { errs = append(errs, entered(field, d)) }
	if p := b.Planting; p != nil {
		add("planting.date", p.Date)
		add("planting.planted", p.Planted)
		add("planting.adoptedOn", p.AdoptedOn)
		add("planting.baseDate", p.BaseDate)
		if p.End != nil {
			add("planting.end.on", p.End.On)
		}
	}
	if b.Works != nil {
		add("works.startOn", b.Works.StartOn)
	}
	for i, u := range b.Uses {
		add(fmt.Sprintf("uses[%d].end", i), u.End)
	}
	for i, t := range b.Tests {
		add(fmt.Sprintf("tests[%d].on", i), t.On)
	}
	for i, p := range b.Pits {
		add(fmt.Sprintf("pits[%d].on", i), p.On)
	}
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

// Valid reports what makes a block unusable, as *geo.Invalid or *finding.FieldError.
func (b Block) Valid() error {
	if b.Name == "" || len([]rune(b.Name)) > 80 {
		return finding.Bad("name", b.Name, "a block needs a name", "1 to 80 characters")
	}
	if b.Number < 0 || b.Number > 9999 {
		return finding.Bad("number", b.Number, "is not a block number", "0 to 9999")
	}
	if !(b.AccuracyM >= 0 && b.AccuracyM <= 100) {
		return finding.Bad("accuracyM", b.AccuracyM, "is not the accuracy of a survey", "0 to 100 m")
	}
	if err := geo.Validate(b.Boundary); err != nil {
		return err
	}
	if err := b.Found.valid(); err != nil {
		return err
	}
	if err := b.checkDecided(); err != nil {
		return err
	}
	if err := b.days(); err != nil {
		return err
	}
	p := b.Planting
	if p == nil {
		return nil
	}
	if p.Survival != 0 && !(p.Survival >= 0.05 && p.Survival <= 1) {
		return finding.Bad("survival", p.Survival, "is not a share of plants that establish", "0.05 to 1, or 0 for the sheet's")
	}
	if p.Confidence != 0 && !(p.Confidence >= 0.5 && p.Confidence <= 0.999) {
		return finding.Bad("confidence", p.Confidence, "is not a confidence", "0.5 to 0.999, or 0 for 0.95")
	}
	if len([]rune(p.Name)) > 80 {
		return finding.Bad("planting.name", p.Name, "is longer than a name", "80 characters at most")
	}
	if p.Considered && (!p.AdoptedOn.IsZero() || !p.Planted.IsZero()) {
		return finding.Bad("planting.considered", true, "a plan that is adopted or a stand is not only considered", "leave it out")
	}
	if e := p.End; e != nil {
		if p.Planted.IsZero() || e.On.Before(p.Planted) {
			return finding.Bad("planting.end.on", e.On, "lies before the planting, or nothing was planted", "a day on which it stood")
		}
		if !slices.Contains(Ends, e.How) {
			return finding.Bad("planting.end.how", e.How, "is not a way a stand ends", strings.Join(Ends, ", "))
		}
	}
	if !p.Planted.IsZero() && p.AsPlanted == nil {
		return finding.Bad("planted", p.Planted, "a planting is recorded by the command that fixes its layout", "use record as planted")
	}
	return nil
}

// Input is everything a plan is computed from.
type Input struct {
	Estate   Estate
	BlockID  string
	Block    Block
	Sheet    *practice.Sheet // the version the planting holds to; nil when nothing is chosen
	NewSheet *practice.Sheet // the library's version when it differs from Sheet, else nil
	Today    civil.Date
	Records  []record.Record // of the block, in the order they were written
	Before   []Stood         // what stood on the block before the planting it is seen from
	Land     *Land           // the lie of the block; nil where no heights are known
	Climate  *climate.Site   // of the estate's record; nil is worked out from the monthly normals
	Brief    bool            // leave out remedies that take long to find: for many blocks at once
	Weigh    bool            // design the ways not taken at the forks of the ground too

	// LandProblem says why the heights that reach the block say nothing of its lie, "" where they do.
	LandProblem string
	// Stop is asked now and then whether nobody waits for the answer any more, or it takes too long; its error ends
	// the computation. nil never stops.
	Stop func() error

	drained *DrainPlan // the drains as they were designed already: ways that do not touch them take these
}

// Stood is a planting that ended on the block. Woody roots stay in the ground and rot there.
type Stood struct {
	Sheet string
	Name  string
	Woody bool
	End   civil.Date
}

// uses are what the ground carried: what people said, and what stood on the block and has ended.
func (in Input) uses(crop string) []rotation.Use {
	out := slices.Clone(in.Block.Uses)
	for _, s := range in.Before {
		if s.Sheet == crop {
			out = append(out, rotation.Use{Kind: "same-tree", End: s.End, Note: s.Name})
		}
		if s.Woody {
			out = append(out, rotation.Use{Kind: "old-trees", End: s.End, Note: s.Name})
		}
	}
	return out
}

// stopped is what Stop answers.
func (in Input) stopped() error {
	if in.Stop == nil {
		return nil
	}
	return in.Stop()
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
	return s
}

// chosen is fork → option of the choices made.
func (p *Planting) chosen() map[string]string {
	out := make(map[string]string, len(p.Choices))
	for k, c := range p.Choices {
		out[k] = c.Option
	}
	return out
}

// Standing is the day the plants went in: recorded if it is, else planned.
func (p *Planting) Standing() civil.Date {
	if !p.Planted.IsZero() {
		return p.Planted
	}
	return p.Date
}
