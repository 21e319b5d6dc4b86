// Package practice is what is usually done, crop by crop: practice sheets as data. A sheet holds
// limits, layouts, plant material, operations, pruning, nutrition, yields and harvests, each value
// with its origin, and where schools differ the ways stand side by side as forks. A value may hold
// only for some choices: it then carries the condition in If.
package practice

import (
	"slowroot/core/canopy"
	"slowroot/core/layout"
	"slowroot/core/nutrition"
	"slowroot/core/rotation"
	"slowroot/core/schedule"
	"slowroot/core/soil"
	"slowroot/core/yield"
)

// When is a condition on choices: fork id → the options for which a value holds. The zero When
// always holds.
type When map[string][]string

// Holds reports whether every fork named has one of its options chosen.
func (w When) Holds(choice map[string]string) bool {
	for fork, options := range w {
		ok := false
		for _, o := range options {
			ok = ok || choice[fork] == o
		}
		if !ok {
			return false
		}
	}
	return true
}

// LayoutFork is the id of the fork that every sheet has: which of its layouts.
const LayoutFork = "layout"

// Sheet is one crop's practice.
type Sheet struct {
	Format    int                       `yaml:"format" json:"format"` // of the sheet; 0 is what was written before formats were counted
	ID        string                    `yaml:"id" json:"id"`
	Version   int                       `yaml:"version" json:"version"`
	Name      string                    `yaml:"name" json:"name"`
	Botanical string                    `yaml:"botanical" json:"botanical"`
	Habit     string                    `yaml:"habit" json:"habit"`
	Woody     bool                      `yaml:"woody" json:"woody"` // its stumps and roots stay in the ground when it is taken out
	Life      Span                      `yaml:"life" json:"life"`
	Product   Product                   `yaml:"product" json:"product"`
	Canopy    canopy.Growth             `yaml:"canopy" json:"canopy"`
	Soil      Soil                      `yaml:"soil" json:"soil"`
	Traits    Traits                    `yaml:"traits" json:"traits"`
	Waits     []rotation.Rule           `yaml:"waits" json:"waits"`       // after what ground rests for it
	Bed       *Bed                      `yaml:"bed" json:"bed,omitempty"` // the crop's own bed, where it is grown on one
	Limits    []Limit                   `yaml:"limits" json:"limits"`
	Forks     []Fork                    `yaml:"forks" json:"forks"`
	Layouts   []Layout                  `yaml:"layouts" json:"layouts"`
	Material  Material                  `yaml:"material" json:"material"`
	Windows   []schedule.PlantingWindow `yaml:"plantingWindows" json:"plantingWindows"`
	Work      []Operation               `yaml:"operations" json:"operations"`
	Feeding   []Feeding                 `yaml:"feeding" json:"feeding"`
	Yields    []Yield                   `yaml:"yields" json:"yields"`
	Harvests  []Harvest                 `yaml:"harvests" json:"harvests"`
	Stand     yield.Stand               `yaml:"stand" json:"stand"`
	Notes     []Section                 `yaml:"notes" json:"notes"`
	Cautions  []Note                    `yaml:"cautions" json:"cautions"`
	Digest    string                    `yaml:"-" json:"digest"` // of the text it was read from
	text      []byte
}

// Span is low, base, high in whole years.
type Span struct {
	Low    int    `yaml:"low" json:"low"`
	Base   int    `yaml:"base" json:"base"`
	High   int    `yaml:"high" json:"high"`
	Origin string `yaml:"origin" json:"origin"`
}

// Traits are what a crop is like where that decides something by itself.
type Traits struct {
	EarlyBloom bool        `yaml:"earlyBloom" json:"earlyBloom"` // its blossom meets the last frosts
	DrainRoots *DrainRoots `yaml:"drainRoots" json:"drainRoots,omitempty"`
	Origin     string      `yaml:"origin" json:"origin"`
}

// DrainRoots is a crop whose roots grow into drains: how far, and what to do about it.
type DrainRoots struct {
	M      float64 `yaml:"m" json:"m"`
	Advice string  `yaml:"advice" json:"advice"`
}

// Soil is what the crop asks of the soil's chemistry and how deep its roots work.
type Soil struct {
	WetClass       int     `yaml:"wetClass" json:"wetClass"` // 1 tolerant of wet feet … 5 killed by short waterlogging
	RootCm         float64 `yaml:"rootCm" json:"rootCm"`
	TargetPH       float64 `yaml:"targetPh" json:"targetPh"`
	TargetBasePct  float64 `yaml:"targetBasePct" json:"targetBasePct"`
	AlToleratedPct float64 `yaml:"alToleratedPct" json:"alToleratedPct"`
	CaMgWanted     float64 `yaml:"caMgWanted" json:"caMgWanted"` // cmolc/dm³
	AcidLover      bool    `yaml:"acidLover" json:"acidLover"`
	InPots         bool    `yaml:"inPots" json:"inPots"` // grown off the ground: no soil test, no pit, nothing put into the soil
	Origin         string  `yaml:"origin" json:"origin"`
}

// Bed is the raised bed a crop is grown on once it has settled, m. Where rows are laid out their spacing rules.
type Bed struct {
	CentreM float64 `yaml:"centreM" json:"centreM"`
	BaseM   float64 `yaml:"baseM" json:"baseM"`
	TopM    float64 `yaml:"topM" json:"topM"`
	HeightM float64 `yaml:"heightM" json:"heightM"`
	CrownM  float64 `yaml:"crownM" json:"crownM"`
	Cover   string  `yaml:"cover" json:"cover"` // film, fabric or nothing
	Origin  string  `yaml:"origin" json:"origin"`
}

// Limit is one factor of climate or soil. Key names the measured factor it is judged by; without one it
// is read by people only.
type Limit struct {
	Factor    string    `yaml:"factor" json:"factor"`
	Key       string    `yaml:"key" json:"key"`
	Ideal     string    `yaml:"ideal" json:"ideal"`
	Tolerated string    `yaml:"tolerated" json:"tolerated"`
	Range     *Range    `yaml:"range" json:"range,omitempty"`
	Textures  *Textures `yaml:"textures" json:"textures,omitempty"`
	Assumed   bool      `yaml:"assumed" json:"assumed"` // an edge is not printed in the words
	Origin    string    `yaml:"origin" json:"origin"`
}

// Range is the ideal and the tolerated span, low and high; a nil edge is open.
type Range struct {
	Ideal     [2]*float64 `yaml:"ideal" json:"ideal"`
	Tolerated [2]*float64 `yaml:"tolerated" json:"tolerated"`
}

// Textures are the ideal and the tolerated classes; any other is not fit.
type Textures struct {
	Ideal     []soil.Class `yaml:"ideal" json:"ideal"`
	Tolerated []soil.Class `yaml:"tolerated" json:"tolerated"`
}

// Factor is a measured factor that limits are judged by.
type Factor struct {
	Key     string
	Letter  string // of the FAO subclass: c climate, m moisture, w wetness, d depth, f fertility, s salinity, t topography
	Fixable bool   // works can change it
	// Critical factors cap the verdict at "S2 ?" while unknown.
	Critical bool
}

// Factors are those known, in the order they are shown.
var Factors = []Factor{
	{"annualMeanC", "c", false, false}, {"seasonMeanC", "c", false, false}, {"hotMaxC", "c", false, false}, {"minC10", "c", false, true}, {"frostFree", "c", false, false},
	{"chillHours", "c", false, false}, {"rainMm", "m", true, true}, {"dryMonths", "m", true, false}, {"elevationM", "c", false, false}, {"windMS", "c", true, false},
	{"slopePct", "t", true, false}, {"depthCm", "d", true, true}, {WetKey, "w", true, true}, {"texture", "d", false, false},
	{"ph", "f", true, true}, {"omPct", "f", true, false}, {"limePct", "f", false, false}, {"eceDSPerM", "s", true, false},
}

// WetKey is the factor a sheet's wet-soil class is judged by: the depth in cm at which waterlogging begins.
const WetKey = "wetnessCm"

// FactorOf finds a factor.
func FactorOf(key string) (Factor, bool) {
	for _, f := range Factors {
		if f.Key == key {
			return f, true
		}
	}
	return Factor{}, false
}

// WetRange is the depth to waterlogging a wet-soil class asks for: ideal and tolerated at least, cm. The
// translation is assumed; sheets give the days of saturation that harm, not a depth.
func WetRange(class int) (ideal, tolerated float64) {
	switch class {
	case 1:
		return 25, 0
	case 2:
		return 50, 25
	case 3:
		return 75, 40
	case 4:
		return 100, 50
	}
	return 100, 75
}

// Note is one line of advice; Section a titled list of them.
type Note struct {
	Item   string `yaml:"item" json:"item"`
	Value  string `yaml:"value" json:"value"`
	Origin string `yaml:"origin" json:"origin"`
}
type Section struct {
	Title string `yaml:"title" json:"title"`
	Notes []Note `yaml:"notes" json:"notes"`
}

// Fork is a place where practice divides.
type Fork struct {
	ID       string   `yaml:"id" json:"id"`
	Question string   `yaml:"question" json:"question"`
	Step     string   `yaml:"step" json:"step"` // the step of the descent it belongs to
	Options  []Option `yaml:"options" json:"options"`
}

// Option is one way at a fork.
type Option struct {
	ID       string `yaml:"id" json:"id"`
	Name     string `yaml:"name" json:"name"`
	Sentence string `yaml:"sentence" json:"sentence"`
	When     string `yaml:"when" json:"when"`
	Default  bool   `yaml:"default" json:"default"`
	Origin   string `yaml:"origin" json:"origin"`
}

// Layout is one school of spacing.
type Layout struct {
	Option         `yaml:",inline"`
	Pattern        layout.Pattern    `yaml:"pattern" json:"pattern"`
	RowM           float64           `yaml:"rowM" json:"rowM"`
	PlantM         float64           `yaml:"plantM" json:"plantM"`
	TwinGapM       float64           `yaml:"twinGapM" json:"twinGapM"`
	PerHa          float64           `yaml:"perHa" json:"perHa"` // the density printed for it
	EdgeBandM      float64           `yaml:"edgeBandM" json:"edgeBandM"`
	RowEndSetbackM float64           `yaml:"rowEndSetbackM" json:"rowEndSetbackM"`
	Pollinizer     layout.Pollinizer `yaml:"pollinizer" json:"pollinizer"`
	Thinning       *Thinning         `yaml:"thinning" json:"thinning"`
	// Life and Canopy are those of this way of growing the crop, where they are not the sheet's: a spindle orchard and a
	// vase orchard of one fruit live and spread apart.
	Life   *Span          `yaml:"life" json:"life,omitempty"`
	Canopy *canopy.Growth `yaml:"canopy" json:"canopy,omitempty"`
	// Product is what this way of growing the crop gives, where it is not the sheet's: pads instead of fruit.
	Product *Product `yaml:"product" json:"product,omitempty"`
}

// Product is what is sold of a crop.
type Product struct {
	Name   string `yaml:"name" json:"name"`
	Basis  string `yaml:"basis" json:"basis"`   // what a kilogram of it is
	ShowAs string `yaml:"showAs" json:"showAs"` // kg or t
	Origin string `yaml:"origin" json:"origin"`
}

// Thinning says when every second station in the row comes out and what spacing is left. FromAge
// and ToAge bound the age years in which canopies are expected to touch.
type Thinning struct {
	OutAge      int     `yaml:"outAge" json:"outAge"`
	FromAge     int     `yaml:"fromAge" json:"fromAge"`
	ToAge       int     `yaml:"toAge" json:"toAge"`
	LeavesRowM  float64 `yaml:"leavesRowM" json:"leavesRowM"`
	LeavesPlant float64 `yaml:"leavesPlantM" json:"leavesPlantM"`
}

// Spec is the layout as it is placed, at a bearing.
func (l Layout) Spec(bearingDeg float64) layout.Spec {
	return layout.Spec{Pattern: l.Pattern, RowSpacingM: l.RowM, PlantSpacingM: l.PlantM, TwinGapM: l.TwinGapM,
		BearingDeg: bearingDeg, EdgeBandM: l.EdgeBandM, RowEndSetbackM: l.RowEndSetbackM,
		Pollinizer: l.Pollinizer, Temporary: l.Thinning != nil}
}

// Material is the plants that are ordered.
type Material struct {
	Kind           string  `yaml:"kind" json:"kind"`
	PollinizerKind string  `yaml:"pollinizerKind" json:"pollinizerKind"`
	Spec           string  `yaml:"spec" json:"spec"`
	Reject         string  `yaml:"reject" json:"reject"`
	Survival       float64 `yaml:"survival" json:"survival"`       // share that establishes
	FlatReserve    float64 `yaml:"flatReserve" json:"flatReserve"` // the trade's flat share on top
	Handling       string  `yaml:"handling" json:"handling"`
	Origin         string  `yaml:"origin" json:"origin"`
}

// Operation, Feeding, Yield and Harvest are subjects' data under a condition.
type Operation struct {
	If                 When  `yaml:"if" json:"if,omitempty"`
	Task               *Task `yaml:"task" json:"task,omitempty"`
	schedule.Operation `yaml:",inline"`
}
type Feeding struct {
	If                  When `yaml:"if" json:"if,omitempty"`
	nutrition.Programme `yaml:",inline"`
}
type Yield struct {
	If          When `yaml:"if" json:"if,omitempty"`
	yield.Curve `yaml:",inline"`
}
type Harvest struct {
	If            When `yaml:"if" json:"if,omitempty"`
	yield.Harvest `yaml:",inline"`
}

// AllForks are the layout fork and then the sheet's own.
func (s *Sheet) AllForks() []Fork {
	f := Fork{ID: LayoutFork, Question: "How are the rows laid out?", Step: "rows"}
	for _, l := range s.Layouts {
		f.Options = append(f.Options, l.Option)
	}
	return append([]Fork{f}, s.Forks...)
}

// Resolve completes choices with each fork's default. chosen may be nil.
func (s *Sheet) Resolve(chosen map[string]string) map[string]string {
	out := make(map[string]string, len(s.Forks)+1)
	for _, f := range s.AllForks() {
		for _, o := range f.Options {
			if o.ID == chosen[f.ID] {
				out[f.ID] = o.ID
			}
		}
		if out[f.ID] == "" {
			for _, o := range f.Options {
				if o.Default {
					out[f.ID] = o.ID
				}
			}
		}
	}
	return out
}

// Layout is the layout with that id.
func (s *Sheet) Layout(id string) (Layout, bool) {
	for _, l := range s.Layouts {
		if l.ID == id {
			return l, true
		}
	}
	return Layout{}, false
}

// LifeOf, ProductOf and CanopyOf are the life, the product and the spread of a layout: its own, else the sheet's.
func (s *Sheet) LifeOf(l Layout) Span {
	if l.Life != nil {
		return *l.Life
	}
	return s.Life
}
func (s *Sheet) ProductOf(l Layout) Product {
	if l.Product != nil {
		return *l.Product
	}
	return s.Product
}
func (s *Sheet) CanopyOf(l Layout) canopy.Growth {
	if l.Canopy != nil {
		return *l.Canopy
	}
	return s.Canopy
}

// Whole reports whether a planting can be planned with the sheet; one that only says what the ground must
// be and how it is prepared cannot.
func (s *Sheet) Whole() bool { return len(s.Layouts) > 0 }

// Operations are those that hold for the choices.
func (s *Sheet) Operations(choice map[string]string) []schedule.Operation {
	out := make([]schedule.Operation, 0, len(s.Work))
	for _, o := range s.Work {
		if o.If.Holds(choice) {
			out = append(out, o.Operation)
		}
	}
	return out
}

// Curve, Programme and Harvesting are the first entry that holds for the choices; the validator
// makes sure there is exactly one for every combination.
func (s *Sheet) Curve(choice map[string]string) yield.Curve {
	for _, y := range s.Yields {
		if y.If.Holds(choice) {
			return y.Curve
		}
	}
	return yield.Curve{}
}
func (s *Sheet) Programme(choice map[string]string) nutrition.Programme {
	for _, f := range s.Feeding {
		if f.If.Holds(choice) {
			return f.Programme
		}
	}
	return nutrition.Programme{}
}
func (s *Sheet) Harvesting(choice map[string]string) yield.Harvest {
	for _, h := range s.Harvests {
		if h.If.Holds(choice) {
			return h.Harvest
		}
	}
	return yield.Harvest{}
}

// Origins are the marks of an origin that are not a citation.
var Origins = []string{"cp", "mem", "computed"}

// OriginWords says an origin as a reader sees it.
func OriginWords(o string) string {
	switch o {
	case "cp":
		return "common practice, no source"
	case "mem":
		return "from memory, to be verified"
	case "computed":
		return "computed here from other figures"
	}
	if len(o) > 5 && o[:5] == "pub: " {
		return "published: " + o[5:]
	}
	return o
}
