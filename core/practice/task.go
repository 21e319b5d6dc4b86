package practice

// Task is what a piece of preparation does to the ground, so that its quantity and hours can be computed
// and the order of the work checked.
type Task struct {
	Kind    string     `yaml:"kind" json:"kind"`
	Passes  int        `yaml:"passes" json:"passes"`   // 0 is one
	DepthCm [2]float64 `yaml:"depthCm" json:"depthCm"` // from and to; nought where it has none
}

// Rate is hours a hectare and pass: low, base, high. They are from memory, to be replaced by the estate's
// own counts.
type Rate struct {
	Low, Base, High float64
	By              string // hand or machine
	// Before names kinds that must come earlier where both are done.
	After []string
	// Bares and Covers say whether the soil lies bare or covered after it.
	Bares, Covers bool
}

// Tasks are the kinds known. A rate of nought depends on counts (holes, metres) the plan knows.
var Tasks = map[string]Rate{
	"assess":     {},
	"ringbark":   {8, 16, 30, "hand", []string{"assess"}, false, false},
	"slash":      {130, 180, 270, "hand", []string{"assess"}, false, false},
	"sort":       {40, 80, 120, "hand", []string{"slash"}, false, true},
	"clear":      {6, 12, 25, "machine", []string{"assess", "ringbark"}, true, false},
	"stumps":     {10, 20, 40, "hand", []string{"sort"}, false, false},
	"level":      {8, 16, 30, "machine", []string{"clear"}, true, false},
	"drain":      {10, 20, 40, "machine", []string{"clear", "level"}, false, false},
	"lime":       {0.3, 0.5, 0.8, "machine", []string{"assess"}, false, false},
	"sulphur":    {0.3, 0.5, 0.8, "machine", []string{"assess"}, false, false},
	"rip":        {1.5, 2.5, 4, "machine", []string{"clear", "drain"}, true, false},
	"plough":     {1.2, 1.8, 2.5, "machine", []string{"clear", "level"}, true, false},
	"till":       {2, 3, 5, "machine", []string{"lime", "stumps"}, true, false},
	"harrow":     {0.6, 0.9, 1.3, "machine", nil, true, false},
	"cover":      {0.8, 1.2, 2, "machine", nil, false, true},
	"manure":     {0.6, 1, 2, "machine", []string{"assess"}, false, false},
	"bed":        {1, 1.8, 3, "machine", []string{"plough", "drain"}, true, false},
	"band":       {2, 4, 8, "hand", []string{"till", "plough"}, false, false},
	"mulch":      {6, 12, 25, "hand", []string{"bed"}, false, true},
	"fabric":     {5, 8, 14, "machine", []string{"bed", "irrigation"}, false, true},
	"windbreak":  {2, 4, 8, "hand", nil, false, false},
	"fence":      {4, 8, 15, "hand", nil, false, false},
	"mark":       {2, 4, 8, "hand", nil, false, false},
	"hole":       {10, 20, 40, "hand", nil, false, false},
	"fill":       {6, 12, 20, "hand", []string{"hole"}, false, false},
	"trellis":    {40, 70, 120, "hand", nil, false, false},
	"irrigation": {10, 20, 35, "hand", nil, false, false},
}
