package plan

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/amend"
	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/rotation"
	"slowroot/core/soil"
)

// Site is what an estate knows of its ground as a whole: climate record, heights, what dams cold air,
// prices and materials. Long records are kept as files under their digest.
type Site struct {
	ElevationM *float64       `json:"elevationM,omitempty"` // of the climate record, above the sea
	Coast      bool           `json:"coast,omitempty"`      // sea air: radiation guessed from temperature is lower
	Weather    *Weather       `json:"weather,omitempty"`
	Station    string         `json:"station,omitempty"`    // address of a weather station to ask
	Laboratory string         `json:"laboratory,omitempty"` // address of a soil laboratory to ask
	Heights    []HeightSource `json:"heights,omitempty"`
	Barriers   []Barrier      `json:"barriers,omitempty"`
	Currency   string         `json:"currency,omitempty"` // as it is written before a price
	Prices     []Price        `json:"prices,omitempty"`
	Materials  []Material     `json:"materials,omitempty"`
	// Labs remembers how each laboratory heads its columns.
	Labs map[string]map[string]LabColumn `json:"labs,omitempty"`
}

// Weather is a daily record kept as a file.
type Weather struct {
	Name   string     `json:"name"`
	Digest string     `json:"digest"`
	From   civil.Date `json:"from"`
	To     civil.Date `json:"to"`
	Days   int        `json:"days"`  // that hold temperatures
	Gaps   int        `json:"gaps"`  // runs of days that do not
	Notes  int        `json:"notes"` // things the quality checks found
}

// HeightSource is a set of heights kept as a file.
type HeightSource struct {
	Name      string     `json:"name"`
	Kind      string     `json:"kind"` // spots or grid
	CRS       string     `json:"crs"`
	AccuracyM float64    `json:"accuracyM"` // standard error of a height
	How       string     `json:"how"`       // how they were found
	On        civil.Date `json:"on"`
	Count     int        `json:"count"`
	Digest    string     `json:"digest"`
}

// MaxHeightSources is how many sets of heights an estate keeps.
const MaxHeightSources = 40

// Barrier is a line that dams or turns cold air, or open water.
type Barrier struct {
	ID       string      `json:"id,omitempty"` // for good; given when it is written
	Name     string      `json:"name"`
	Kind     string      `json:"kind"` // hedge, bank, wall, building or water
	Line     []geo.Point `json:"line"`
	HeightM  float64     `json:"heightM"`
	Porosity float64     `json:"porosity"` // open share of its face
	Gap      bool        `json:"gap"`      // a tenth or more is kept open at its low end
}

// BarrierKinds are those known.
var BarrierKinds = []string{"hedge", "bank", "wall", "building", "water"}

// Material is a liming material at hand. An unanalysed one stops the plan unless Guess says that its
// figures are one.
type Material struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	amend.Liming
	Guess  bool   `json:"guess"`
	Source string `json:"source"` // the label or report its figures are from
}

// LabColumn is what a column of a laboratory's file holds.
type LabColumn struct {
	Field string `json:"field"` // of soil.Fields, or sample, date, fromCm, toCm, depth; "" is left out
	Unit  string `json:"unit"`
	How   string `json:"how"` // pH method, buffer or extractant
}

// Found is what was found on a block and decided about its ground.
type Found struct {
	Pits    []soil.Pit            `json:"pits,omitempty"`
	Tests   []soil.Test           `json:"tests,omitempty"`
	Samples []Sample              `json:"samples,omitempty"` // sent to a laboratory
	Answers map[string]SiteAnswer `json:"answers,omitempty"`
	Uses    []rotation.Use        `json:"uses,omitempty"`
	Growth  map[string]float64    `json:"growth,omitempty"` // what stands or lies there, m³ by class of Sorting
	Works   *WorksChoice          `json:"works,omitempty"`
	Decided map[string]Choice     `json:"decided,omitempty"` // forks of the ground
	Checks  map[string]Check      `json:"checks,omitempty"`  // the inspection list
	Keep    map[string]string     `json:"keep,omitempty"`    // finding rule → why it is kept, where no planting holds it
	Drains  *DrainChoice          `json:"drains,omitempty"`
}

// DrainChoice is what was seen of the water on a block and what was chosen for its drains. Zero values take
// what is computed or usual.
type DrainChoice struct {
	Source         string       `json:"source,omitempty"`   // of drainage.Sources
	Evidence       string       `json:"evidence,omitempty"` // what was seen, and when
	WetPct         float64      `json:"wetPct,omitempty"`   // of the block; 0 is all of it
	Wells          []Well       `json:"wells,omitempty"`
	Holes          []Hole       `json:"holes,omitempty"`
	KMDay          float64      `json:"kMDay,omitempty"` // permeability as it was said, m/day
	DischargeBy    string       `json:"dischargeBy,omitempty"`
	DischargeMM    float64      `json:"dischargeMm,omitempty"` // mm/day, set by hand
	IrrigationMM   float64      `json:"irrigationMm,omitempty"`
	IrrigationDays float64      `json:"irrigationDays,omitempty"`
	Pit            string       `json:"pit,omitempty"`    // whose soil the drains are designed for; "" the one that stops water soonest
	WaterM         float64      `json:"waterM,omitempty"` // how deep the water table is to be kept; 0 as the crop asks
	DepthM         float64      `json:"depthM,omitempty"`
	SpacingM       float64      `json:"spacingM,omitempty"`
	AngleDeg       float64      `json:"angleDeg,omitempty"` // of a herringbone; 0 is 60
	DitchM         *float64     `json:"ditchM,omitempty"`   // water in the ditch, below the ground at the outlet; 0 is no outlet
	ReachM         float64      `json:"reachM,omitempty"`   // of the trench machine
	Traffic        string       `json:"traffic,omitempty"`  // foot, tractor or truck
	Collector      []geo.Point  `json:"collector,omitempty"`
	Branches       []DrawnDrain `json:"branches,omitempty"` // that run into the collector or a branch before them
	Laterals       []DrawnDrain `json:"laterals,omitempty"` // drawn; they replace the pattern
	Interceptor    []geo.Point  `json:"interceptor,omitempty"`
	CutOpen        bool         `json:"cutOpen,omitempty"` // the interceptor is an open ditch, not a pipe in stone
	Bed            *BedChoice   `json:"bed,omitempty"`
}

// Well is a dip well with its readings through the year.
type Well struct {
	ID       string        `json:"id,omitempty"` // for good; given when it is written
	Name     string        `json:"name"`
	At       *geo.Point    `json:"at,omitempty"`
	DepthCm  float64       `json:"depthCm"`
	Readings []WellReading `json:"readings"`
}

// WellReading is how deep the water stood; as deep as the well is dry.
type WellReading struct {
	On      civil.Date `json:"on"`
	WaterCm float64    `json:"waterCm"`
}

// Hole is one auger-hole reading: the hole's radius and depth below the rested water, how far the water was
// bailed down, and how far it rose in how many seconds.
type Hole struct {
	ID       string     `json:"id,omitempty"` // for good; given when it is written
	Name     string     `json:"name"`
	On       civil.Date `json:"on"`
	RadiusCm float64    `json:"radiusCm"`
	DepthCm  float64    `json:"depthCm"`
	FirstCm  float64    `json:"firstCm"`
	RiseCm   float64    `json:"riseCm"`
	Seconds  float64    `json:"seconds"`
	OnLayer  bool       `json:"onLayer"`
}

// DrawnDrain is a lateral or a branch of the collector as it was drawn or read from a file, the junction end first.
type DrawnDrain struct {
	ID   string      `json:"id"`
	Line []geo.Point `json:"line"`
}

// BedChoice is the bed wanted, once it has settled. Zero values take what fits the rows.
type BedChoice struct {
	BaseM     float64 `json:"baseM,omitempty"`
	TopM      float64 `json:"topM,omitempty"`
	HeightM   float64 `json:"heightM,omitempty"` // over the furrow floor
	CrownM    float64 `json:"crownM,omitempty"`
	CentreM   float64 `json:"centreM,omitempty"`
	SettlePct float64 `json:"settlePct,omitempty"` // of a fresh bed's height; 0 is 15
	Cover     string  `json:"cover,omitempty"`     // "", film or fabric
	DripLines int     `json:"dripLines,omitempty"` // for each bed
}

// SiteAnswer is an answer to a question of the site, with what it rests on.
type SiteAnswer struct {
	Answer   string     `json:"answer"`
	Evidence string     `json:"evidence"`
	By       string     `json:"by"`
	On       civil.Date `json:"on"`
}

// Check is one line of the inspection list as filled in.
type Check struct {
	State string     `json:"state"` // good, bad or skipped
	Note  string     `json:"note"`
	By    string     `json:"by"`
	On    civil.Date `json:"on"`
}

// Sample is a soil sample sent to a laboratory.
type Sample struct {
	ID     string     `json:"id"`
	On     civil.Date `json:"on"`
	FromCm float64    `json:"fromCm"`
	ToCm   float64    `json:"toCm"`
	Tests  []string   `json:"tests"`
	Ref    string     `json:"ref"` // the laboratory's number
	Read   bool       `json:"read"`
}

// WorksChoice is how the ground is to be mended. Zero values take the default.
type WorksChoice struct {
	Material   string     `json:"material,omitempty"`   // liming material
	DepthCm    float64    `json:"depthCm,omitempty"`    // mixed in to; 0 takes 20
	StripM     float64    `json:"stripM,omitempty"`     // only strips of this width are treated; 0 is the whole block
	RowM       float64    `json:"rowM,omitempty"`       // row spacing for strips, where no layout says it
	BufferCap  float64    `json:"bufferCap,omitempty"`  // measured, cmolc/kg per pH
	Organic    string     `json:"organic,omitempty"`    // material for organic matter
	OMTarget   float64    `json:"omTarget,omitempty"`   // %; 0 takes the sheet's
	BenchM     float64    `json:"benchM,omitempty"`     // width of a terrace bench; 0 takes 3
	StartOn    civil.Date `json:"startOn,omitzero"`     // nothing can start before; zero is today
	WaterM3Day float64    `json:"waterM3Day,omitempty"` // supply in the dry season
}

// Price is what one unit of a thing costs, from a day on.
type Price struct {
	ID     string     `json:"id,omitempty"` // for good; given when it is written
	Item   string     `json:"item"`
	Unit   string     `json:"unit"`
	Each   float64    `json:"each"`
	On     civil.Date `json:"on"`
	Source string     `json:"source"`
}

// Priced is a thing the program may ask a price of, with the unit it is bought by.
type Priced struct {
	Item string `json:"item"`
	Name string `json:"name"`
	Unit string `json:"unit"`
}

// PriceList is every thing a price can be kept for here; liming materials of the estate come to it.
func (s Site) PriceList() []Priced {
	var out []Priced
	for _, m := range s.Materials {
		out = append(out, Priced{"lime:" + m.ID, m.Name, "t"})
	}
	out = append(out, Priced{"sulphur", "elemental sulphur", "kg"}, Priced{"gypsum", "gypsum", "t"})
	for _, o := range amend.Organics {
		out = append(out, Priced{"organic:" + o.ID, o.Name, "t"})
	}
	out = append(out, Priced{"hand", "work by hand", "h"}, Priced{"machine", "work by machine with driver", "h"}, Priced{"earth", "earth moved", "m³"},
		Priced{"soil-test", "soil test of one sample", "sample"}, Priced{"drain-stone", "stone for drains", "t"}, Priced{"drain-pit", "inspection pit with cover", "piece"},
		Priced{"film", "film for beds", "m"}, Priced{"fabric", "ground fabric", "m"}, Priced{"drip", "drip line", "m"})
	for _, p := range drainage.Pipes {
		out = append(out, Priced{"pipe:" + p.Name, "drain pipe " + p.Name, "m"})
	}
	return out
}

// PriceOf is the latest price of an item on a day; ok is false where none is known: no price, not nought.
func (s Site) PriceOf(item string, today civil.Date) (Price, bool) {
	var best Price
	ok := false
	for _, p := range s.Prices {
		if p.Item == item && !p.On.After(today) && (!ok || !p.On.Before(best.On)) {
			best, ok = p, true
		}
	}
	return best, ok
}

func (s Site) valid() error {
	if s.ElevationM != nil && !(*s.ElevationM >= -450 && *s.ElevationM <= 6000) {
		return finding.Bad("elevationM", *s.ElevationM, "is not a height above the sea", "−450 to 6000 m")
	}
	if len(s.Heights) > MaxHeightSources {
		return finding.Bad("heights", len(s.Heights), "are more sets of heights than can be looked through", fmt.Sprintf("%d at most; take out those that are older or coarser", MaxHeightSources))
	}
	for i, h := range s.Heights {
		if h.Name == "" || h.Digest == "" || h.Kind != "spots" && h.Kind != "grid" {
			return finding.Bad(fmt.Sprintf("heights[%d]", i), h.Name, "is not a set of heights", "a name, spots or grid, and the file it is kept in")
		}
		if !(h.AccuracyM > 0 && h.AccuracyM <= 50) {
			return finding.Bad(fmt.Sprintf("heights[%d].accuracyM", i), h.AccuracyM, "is not how well a height is known", "0.001 to 50 m; levelled 0.01, survey receiver 0.03, phone 5 to 10")
		}
	}
	for i, b := range s.Barriers {
		at := fmt.Sprintf("barriers[%d]", i)
		known := false
		for _, k := range BarrierKinds {
			known = known || k == b.Kind
		}
		switch {
		case !known:
			return finding.Bad(at+".kind", b.Kind, "is not a barrier", strings.Join(BarrierKinds, ", "))
		case len(b.Line) < 2 || len(b.Line) > 500:
			return finding.Bad(at+".line", len(b.Line), "is not a line", "2 to 500 points")
		case b.Kind != "water" && !(b.HeightM > 0 && b.HeightM <= 60):
			return finding.Bad(at+".heightM", b.HeightM, "is not the height of a barrier", "0.1 to 60 m")
		case !(b.Porosity >= 0 && b.Porosity <= 1):
			return finding.Bad(at+".porosity", b.Porosity, "is not an open share", "0 (closed) to 1")
		}
	}
	ids := map[string]bool{}
	for i, m := range s.Materials {
		if m.ID == "" || m.Name == "" || ids[m.ID] {
			return finding.Bad(fmt.Sprintf("materials[%d].name", i), m.Name, "needs a name of its own", "1 to 80 characters, each once")
		}
		ids[m.ID] = true
		if err := m.Valid(fmt.Sprintf("materials[%d]", i)); err != nil {
			return err
		}
	}
	for i, p := range s.Prices {
		at := fmt.Sprintf("prices[%d]", i)
		if !(p.Each >= 0 && p.Each <= 1e9) {
			return finding.Bad(at+".each", p.Each, "is not a price", "0 to 1 000 000 000 for one "+p.Unit)
		}
		if p.On.IsZero() {
			return finding.Bad(at+".on", "", "a price needs its day", "a day written YYYY-MM-DD")
		}
	}
	return nil
}

func (f Found) valid() error {
	if len(f.Pits) > 200 || len(f.Tests) > 500 || len(f.Uses) > 100 {
		return finding.Bad("pits", len(f.Pits), "are more records than a block holds", "200 pits, 500 tests and 100 uses")
	}
	for i, p := range f.Pits {
		if err := p.Valid(fmt.Sprintf("pits[%d]", i)); err != nil {
			return err
		}
	}
	for i, t := range f.Tests {
		if err := t.Valid(fmt.Sprintf("tests[%d]", i)); err != nil {
			return err
		}
	}
	for k, a := range f.Answers {
		q, ok := QuestionNamed(k)
		if !ok {
			return finding.Bad("answers."+k, a.Answer, "is not a question asked here", "see the list")
		}
		if _, ok := q.option(a.Answer); !ok {
			return finding.Bad("answers."+k, a.Answer, "is not one of the answers offered", q.accepted())
		}
	}
	for i, u := range f.Uses {
		known := false
		for _, k := range rotation.Kinds {
			known = known || k.Kind == u.Kind
		}
		if !known {
			return finding.Bad(fmt.Sprintf("uses[%d].kind", i), u.Kind, "is not a use known here", "see the list")
		}
		if u.Months < 0 || u.Months > 240 {
			return finding.Bad(fmt.Sprintf("uses[%d].months", i), u.Months, "is not a plant-back interval", "0 to 240 months")
		}
	}
	if err := f.Drains.valid(); err != nil {
		return err
	}
	for k, c := range f.Checks {
		if c.State != "good" && c.State != "bad" && c.State != "skipped" {
			return finding.Bad("checks."+k, c.State, "is not a result", "good, bad or skipped")
		}
	}
	for k, v := range f.Growth {
		if _, ok := sortedTo(k, "metric"); !ok || !(v >= 0 && v <= 1e5) {
			return finding.Bad("growth."+k, v, "is not an amount of a class of growth", "0 to 100 000 m³ of a class of the list")
		}
	}
	if w := f.Works; w != nil {
		for _, c := range []struct {
			name   string
			v      float64
			lo, hi float64
			unit   string
		}{{"depthCm", w.DepthCm, 5, 60, "cm"}, {"stripM", w.StripM, 0.2, 20, "m"}, {"rowM", w.RowM, 0.5, 25, "m"}, {"bufferCap", w.BufferCap, 0.2, 20, "cmolc/kg for each pH"},
			{"omTarget", w.OMTarget, 0.1, 50, "%"}, {"benchM", w.BenchM, 0.8, 20, "m"}, {"waterM3Day", w.WaterM3Day, 0, 1e6, "m³ a day"}} {
			if c.v != 0 && !(c.v >= c.lo && c.v <= c.hi) {
				return finding.Bad("works."+c.name, c.v, "cannot be", fmt.Sprintf("%g to %g %s, or 0 for the usual", c.lo, c.hi, c.unit))
			}
		}
	}
	return nil
}

// Months are the normals as the climate package reads them.
func (e Estate) Months() []climate.Month {
	out := make([]climate.Month, len(e.Climate))
	or := func(p *float64) float64 {
		if p == nil {
			return math.NaN()
		}
		return *p
	}
	for i, m := range e.Climate {
		out[i] = climate.Month{MeanC: m.MeanC, MinC: m.MinC, MaxC: or(m.MaxC), RainMM: m.RainMM, RH: or(m.RHPct), Wind: or(m.WindMS), Sun: or(m.SunH)}
	}
	return out
}

// ClimateOf works the climate out from the normals and, where there is one, a daily series; latitude is
// the block's.
func (e Estate) ClimateOf(days *climate.Series, latDeg float64) climate.Site {
	elev := 0.0
	if e.ElevationM != nil {
		elev = *e.ElevationM
	}
	return climate.NewSite(e.Months(), days, latDeg, elev, e.Coast, e.Source)
}

// crop is the sheet the ground is judged for and the day it should be planted.
func (b Block) crop() (sheet string, date civil.Date) {
	if b.Planting != nil {
		return b.Planting.Sheet, b.Planting.Standing()
	}
	return "", civil.Date{}
}

// SheetID is the sheet the block's ground is judged for, "" when no crop is meant.
func (b Block) SheetID() string { id, _ := b.crop(); return id }

// rowSpacing is what strips are counted by: the layout's, or what a person said.
func (c *computation) rowSpacing() float64 {
	if c.p.Spec.RowSpacingM > 0 {
		return c.p.Spec.RowSpacingM
	}
	if w := c.in.Block.Works; w != nil && w.RowM > 0 {
		return w.RowM
	}
	if c.sheet != nil && c.sheet.Bed != nil {
		return c.sheet.Bed.CentreM
	}
	if c.sheet != nil {
		for _, l := range c.sheet.Layouts {
			if l.Default {
				return l.RowM
			}
		}
	}
	return 0
}
