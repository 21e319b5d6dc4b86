package practice

import "fmt"

// Task is what a piece of preparation does to the ground, so that its quantity and hours can be computed
// and the order of the work checked.
type Task struct {
	Kind    string     `yaml:"kind" json:"kind"`
	Passes  int        `yaml:"passes" json:"passes"`   // 0 is one
	DepthCm [2]float64 `yaml:"depthCm" json:"depthCm"` // from and to; nought where it has none
	EachM3  float64    `yaml:"eachM3" json:"eachM3"`   // of one hole or pot; nought where the sheet does not say
	PerHaT  float64    `yaml:"perHaT" json:"perHaT"`   // t a hectare of what is spread, where the sheet says it
}

// Amount is what a piece of work is done to. A nil number is not known.
type Amount struct {
	Ha     float64  // of ground gone over
	M3     *float64 // of holes and pots
	Tonnes float64  // carried and spread
}

// Rate is hours a hectare and pass: low, base, high; of work on holes and pots hours a cubic metre. They are from
// memory, to be replaced by the estate's own counts.
type Rate struct {
	Low, Base, High float64
	By              string // hand or machine
	// Before names kinds that must come earlier where both are done.
	After []string
	// Bares and Covers say whether the soil lies bare or covered after it.
	Bares, Covers bool
	PerM3         bool // the rate is for a cubic metre of holes, not for a hectare
}

// Carrying are hours of machine and driver for a tonne of what is loaded, carried and spread: low, base, high (from
// memory: loads of 8 to 10 t every 20 to 40 minutes).
var Carrying = [3]float64{0.03, 0.05, 0.1}

// Hours are low, base and high for an amount in one pass; ok is false where the amount the rate needs is not known.
func (r Rate) Hours(a Amount) (h [3]float64, ok bool) {
	by := a.Ha
	if r.PerM3 {
		if a.M3 == nil {
			return h, false
		}
		by = *a.M3
	}
	for i, v := range [3]float64{r.Low, r.Base, r.High} {
		h[i] = v*by + Carrying[i]*a.Tonnes
	}
	return h, true
}

// Tasks are the kinds known. A rate of nought takes no hours worth counting.
var Tasks = map[string]Rate{
	"assess":     {},
	"retest":     {After: []string{"lime", "sulphur"}},
	"ringbark":   {8, 16, 30, "hand", []string{"assess"}, false, false, false},
	"slash":      {130, 180, 270, "hand", []string{"assess"}, false, false, false},
	"sort":       {40, 80, 120, "hand", []string{"slash"}, false, true, false},
	"clear":      {6, 12, 25, "machine", []string{"assess", "ringbark"}, true, false, false},
	"stumps":     {10, 20, 40, "hand", []string{"sort"}, false, false, false},
	"level":      {8, 16, 30, "machine", []string{"clear"}, true, false, false},
	"drain":      {10, 20, 40, "machine", []string{"clear", "level"}, false, false, false},
	"lime":       {0.3, 0.5, 0.8, "machine", []string{"assess"}, false, false, false},
	"sulphur":    {0.3, 0.5, 0.8, "machine", []string{"assess"}, false, false, false},
	"rip":        {1.5, 2.5, 4, "machine", []string{"clear", "drain"}, true, false, false},
	"plough":     {1.2, 1.8, 2.5, "machine", []string{"clear", "level"}, true, false, false},
	"till":       {2, 3, 5, "machine", []string{"lime", "stumps"}, true, false, false},
	"harrow":     {0.6, 0.9, 1.3, "machine", nil, true, false, false},
	"cover":      {0.8, 1.2, 2, "machine", nil, false, true, false},
	"manure":     {0.6, 1, 2, "machine", []string{"assess"}, false, false, false},
	"bed":        {1, 1.8, 3, "machine", []string{"plough", "drain"}, true, false, false},
	"band":       {2, 4, 8, "hand", []string{"till", "plough"}, false, false, false},
	"mulch":      {6, 12, 25, "hand", []string{"bed"}, false, true, false},
	"fabric":     {5, 8, 14, "machine", []string{"bed", "irrigation"}, false, true, false},
	"windbreak":  {2, 4, 8, "hand", nil, false, false, false},
	"fence":      {4, 8, 15, "hand", nil, false, false, false},
	"mark":       {2, 4, 8, "hand", nil, false, false, false},
	"hole":       {2, 2.8, 4.2, "hand", nil, false, false, true},
	"fill":       {0.8, 1.2, 2, "hand", []string{"hole"}, false, false, true},
	"trellis":    {40, 70, 120, "hand", nil, false, false, false},
	"irrigation": {10, 20, 35, "hand", nil, false, false, false},
}

// inOrder are the kinds as they follow one another where nothing else decides (common practice): the ground is looked
// at, cleared and shaped before it is dressed, tilled and covered.
var inOrder = []string{"assess", "ringbark", "slash", "sort", "clear", "stumps", "level", "drain", "rip", "plough", "lime", "sulphur",
	"manure", "till", "harrow", "retest", "bed", "band", "irrigation", "cover", "mulch", "fabric", "windbreak", "fence", "mark", "hole", "fill", "trellis"}

// ofPhase is the kind a piece of work without one stands beside.
var ofPhase = map[string]string{"assess": "assess", "order": "assess", "clear": "clear", "soil": "lime", "drain": "drain", "bed": "bed",
	"infrastructure": "irrigation", "plant": "hole"}

// Rank is the place of a piece of work among those of one day.
func Rank(kind, phase string) int {
	if kind == "" {
		kind = ofPhase[phase]
	}
	for i, k := range inOrder {
		if k == kind {
			return i
		}
	}
	return len(inOrder)
}

// Use is what an operation takes: low, base and high of a material for each of what it is counted by.
type Use struct {
	If   When    `yaml:"if" json:"if,omitempty"` // of which choices
	What string  `yaml:"what" json:"what"`
	Low  float64 `yaml:"low" json:"low"`
	Base float64 `yaml:"base" json:"base"`
	High float64 `yaml:"high" json:"high"`
	Unit string  `yaml:"unit" json:"unit"` // kg, g, L, m3, m or pieces
	Of   string  `yaml:"of" json:"of"`     // plant, station, row (each metre) or ha (planted)
	From int     `yaml:"from" json:"from,omitempty"`
	To   int     `yaml:"to" json:"to,omitempty"` // age years it holds for; 0 has no bound
}

// Holds reports whether the use is one of an age year; before planting counts as the first.
func (u Use) Holds(age int) bool { return age >= u.From && (u.To == 0 || age <= u.To) }

// useUnits are what a material is measured in, with how they are written.
var useUnits = map[string]string{"kg": "kg", "g": "g", "L": "L", "m3": "m³", "m": "m", "pieces": "pieces"}

// UnitWords is a unit of a use as it is written.
func UnitWords(unit string) string { return useUnits[unit] }

// Check reports a use that cannot be counted.
func (u Use) Check() error {
	switch {
	case u.What == "":
		return fmt.Errorf("a use names nothing")
	case !(0 < u.Base && 0 <= u.Low && u.Low <= u.Base && u.Base <= u.High && u.High < 1e6):
		return fmt.Errorf("use of %s: %g, %g, %g is no range", u.What, u.Low, u.Base, u.High)
	case useUnits[u.Unit] == "":
		return fmt.Errorf("use of %s: unit %q is not kg, g, L, m3, m or pieces", u.What, u.Unit)
	case u.Of != "plant" && u.Of != "station" && u.Of != "row" && u.Of != "ha":
		return fmt.Errorf("use of %s: counted by %q, not by plant, station, row or ha", u.What, u.Of)
	case u.From < 0 || u.To < 0 || u.To > 0 && u.To < u.From:
		return fmt.Errorf("use of %s: ages %d to %d", u.What, u.From, u.To)
	}
	return nil
}
