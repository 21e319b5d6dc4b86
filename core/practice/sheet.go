// Package practice is what is usually done, crop by crop: practice sheets as data. A sheet holds
// limits, layouts, plant material, operations, pruning, nutrition, yields and harvests, each value
// with its origin, and where schools differ the ways stand side by side as forks. A value may hold
// only for some choices: it then carries the condition in If.
package practice

import (
	"math"
	"strings"

	"slowroot/core/canopy"
	"slowroot/core/layout"
	"slowroot/core/nutrition"
	"slowroot/core/rotation"
	"slowroot/core/schedule"
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
	From      string                    `yaml:"from" json:"from,omitempty"` // id of the sheet it was copied from; "" for one of the library
	Name      string                    `yaml:"name" json:"name"`
	Botanical string                    `yaml:"botanical" json:"botanical"`
	Habit     string                    `yaml:"habit" json:"habit"`
	Woody     bool                      `yaml:"woody" json:"woody"` // its stumps and roots stay in the ground when it is taken out
	Life      Span                      `yaml:"life" json:"life"`
	Product   Product                   `yaml:"product" json:"product"`
	Canopy    canopy.Growth             `yaml:"canopy" json:"canopy"`
	Soil      Soil                      `yaml:"soil" json:"soil"`
	Traits    Traits                    `yaml:"traits" json:"traits"`
	Waits     []rotation.Rule           `yaml:"waits" json:"waits"`               // after what ground rests for it
	Bed       *Bed                      `yaml:"bed" json:"bed,omitempty"`         // the crop's own bed, where it is grown on one
	Tropics   map[string]string         `yaml:"tropics" json:"tropics,omitempty"` // season → season of rains, where a place lives by them
	Limits    []Limit                   `yaml:"limits" json:"limits"`
	Forks     []Fork                    `yaml:"forks" json:"forks"`
	Layouts   []Layout                  `yaml:"layouts" json:"layouts"`
	Material  Material                  `yaml:"material" json:"material"`
	Windows   []schedule.PlantingWindow `yaml:"plantingWindows" json:"plantingWindows"`
	Work      []Operation               `yaml:"operations" json:"operations"`
	Feeding   []Feeding                 `yaml:"feeding" json:"feeding"`
	Yields    []Yield                   `yaml:"yields" json:"yields"`
	Harvests  []Harvest                 `yaml:"harvests" json:"harvests"`
	PickRates []PickRate                `yaml:"pickRates" json:"pickRates"`
	Storage   []Storage                 `yaml:"storage" json:"storage"`
	Stand     yield.Stand               `yaml:"stand" json:"stand"`
	Removal   []Removal                 `yaml:"removal" json:"removal"`
	Water     []Water                   `yaml:"water" json:"water"`
	Lateness  []Lateness                `yaml:"lateness" json:"lateness"`
	Ready     Ready                     `yaml:"ready" json:"ready"`
	Disagrees []Disagreement            `yaml:"disagrees" json:"disagrees"`
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

// Disagreement is where practice contradicts itself: both figures, and what the plan reckons with.
type Disagreement struct {
	ID     string `yaml:"id" json:"id"`
	Step   string `yaml:"step" json:"step"` // of the descent it matters at
	If     When   `yaml:"if" json:"if,omitempty"`
	Item   string `yaml:"item" json:"item"`
	Value  string `yaml:"value" json:"value"`
	Origin string `yaml:"origin" json:"origin"`
}

// Fork is a place where practice divides.
type Fork struct {
	ID       string   `yaml:"id" json:"id"`
	Question string   `yaml:"question" json:"question"`
	Step     string   `yaml:"step" json:"step"` // the step of the descent it belongs to
	Options  []Option `yaml:"options" json:"options"`
	If       When     `yaml:"if" json:"if,omitempty"` // choices it concerns; empty for all
}

// Option is one way at a fork.
type Option struct {
	ID       string `yaml:"id" json:"id"`
	Name     string `yaml:"name" json:"name"`
	Sentence string `yaml:"sentence" json:"sentence"`
	When     string `yaml:"when" json:"when"`
	Default  bool   `yaml:"default" json:"default"`
	Origin   string `yaml:"origin" json:"origin"`
	// PerStation are the plants at a station where this way is taken, and what each is called; 0 leaves the layout's.
	PerStation int    `yaml:"perStation" json:"perStation,omitempty"`
	Called     string `yaml:"called" json:"called,omitempty"`
	Changes    `yaml:",inline"`
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
	// Material is what is planted in it, where it is not the sheet's: plugs in a nursery, canes in the fruiting house.
	Material *Material `yaml:"material" json:"material,omitempty"`
	// System is what it belongs to where a crop is grown in several: a nursery, a mother garden, open field, tunnel.
	System string `yaml:"system" json:"system,omitempty"`
	// Each is how many plants stand at a station, 0 is one; EachName what one of them is called.
	Each     int    `yaml:"each" json:"each,omitempty"`
	EachName string `yaml:"eachName" json:"eachName,omitempty"`
}

// Plants is how many plants stand at a station.
func (l Layout) Plants() int { return max(1, l.Each) }

// Product is what is sold of a crop.
type Product struct {
	Name   string `yaml:"name" json:"name"`
	Basis  string `yaml:"basis" json:"basis"`   // what a kilogram of it is
	ShowAs string `yaml:"showAs" json:"showAs"` // kg, t or pieces
	Origin string `yaml:"origin" json:"origin"`
	Also   []Also `yaml:"also" json:"also,omitempty"`
}

// Also is what a product becomes or holds: oil of herb, kernel of nuts, dry matter of chips.
type Also struct {
	Name   string      `yaml:"name" json:"name"`
	Per    yield.Range `yaml:"per" json:"per"` // kg of it for a kilogram of the product, as the yields count that
	ShowAs string      `yaml:"showAs" json:"showAs"`
	Origin string      `yaml:"origin" json:"origin"`
}

// Thinning says when stations come out, by which rule, and what spacing is left. FromAge and ToAge bound
// the age years in which canopies are expected to touch.
type Thinning struct {
	Rule        layout.Removal `yaml:"rule" json:"rule"`   // empty is every second station in the row
	Again       *Thinning      `yaml:"again" json:"again"` // the second time, of a rule that has one
	OutAge      int            `yaml:"outAge" json:"outAge"`
	FromAge     int            `yaml:"fromAge" json:"fromAge"`
	ToAge       int            `yaml:"toAge" json:"toAge"`
	LeavesRowM  float64        `yaml:"leavesRowM" json:"leavesRowM"`
	LeavesPlant float64        `yaml:"leavesPlantM" json:"leavesPlantM"`
}

// Spec is the layout as it is placed, at a bearing.
func (l Layout) Spec(bearingDeg float64) layout.Spec {
	return layout.Spec{Pattern: l.Pattern, RowSpacingM: l.RowM, PlantSpacingM: l.PlantM, TwinGapM: l.TwinGapM,
		BearingDeg: bearingDeg, EdgeBandM: l.EdgeBandM, RowEndSetbackM: l.RowEndSetbackM,
		Pollinizer: l.Pollinizer, Temporary: l.Thinning != nil, TakeOut: l.takeOut()}
}

// takeOut is the rule of a thinned layout.
func (l Layout) takeOut() layout.Removal {
	if l.Thinning == nil {
		return ""
	}
	return l.Thinning.Rule
}

// thinning reports what is wrong with how the temporary stations come out: a spacing that cannot be left, above all.
func (l Layout) thinning(fail func(string, ...any)) {
	spec, t := l.Spec(0), l.Thinning
	if err := spec.Valid(); err != nil {
		fail("layout %s: %v", l.ID, err)
		return
	}
	if (t.Again != nil) != (spec.Stages() == 2) {
		fail("layout %s: a second removal goes with the checkerboard twice, and with nothing else", l.ID)
		return
	}
	after := 0
	for stage := 1; t != nil; stage, t = stage+1, t.Again {
		left, ok := spec.Left(stage)
		off := func(want, has float64) bool { return math.Abs(want-has) > 0.02*has }
		if ok && (off(min(t.LeavesRowM, t.LeavesPlant), left.XM) || off(max(t.LeavesRowM, t.LeavesPlant), left.YM)) {
			why := ""
			if _, can := spec.Thins(t.LeavesRowM, t.LeavesPlant); !can {
				why = ". " + spec.CannotThin(t.LeavesRowM, t.LeavesPlant)
			}
			fail("layout %s: taking out %s of %g × %g m leaves %s, never %g × %g m%s", l.ID, strings.TrimSuffix(spec.Words(stage), ","), l.RowM, l.PlantM,
				left.Words(), t.LeavesRowM, t.LeavesPlant, why)
		}
		if !(t.FromAge <= t.OutAge && t.OutAge <= t.ToAge && t.FromAge > after) {
			fail("layout %s: thinning age %d lies outside %d to %d, or not after the first", l.ID, t.OutAge, t.FromAge, t.ToAge)
		}
		after = t.OutAge
	}
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
	Uses               []Use `yaml:"uses" json:"uses,omitempty"` // what it takes
	schedule.Operation `yaml:",inline"`
}
type Feeding struct {
	If                  When `yaml:"if" json:"if,omitempty"`
	nutrition.Programme `yaml:",inline"`
}
type Removal struct {
	If                When `yaml:"if" json:"if,omitempty"`
	nutrition.Removal `yaml:",inline"`
}
type Yield struct {
	If          When `yaml:"if" json:"if,omitempty"`
	yield.Curve `yaml:",inline"`
}
type Harvest struct {
	If            When `yaml:"if" json:"if,omitempty"`
	yield.Harvest `yaml:",inline"`
}

// Whole reports whether a planting can be planned with the sheet; one that only says what the ground must
// be and how it is prepared cannot.
func (s *Sheet) Whole() bool { return len(s.Layouts) > 0 }

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
