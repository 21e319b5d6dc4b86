package practice

import "slowroot/core/soil"

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
	{"annualMeanC", "c", false, false}, {"seasonMeanC", "c", false, false}, {"hotMaxC", "c", false, false}, {"minC10", "c", false, true},
	{"frostFree", "c", false, false},
	{"chillHours", "c", false, false}, {"rainMm", "m", true, true}, {"dryMonths", "m", true, false}, {"elevationM", "c", false, false},
	{"windMS", "c", true, false},
	{"slopePct", "t", true, false}, {"depthCm", "d", true, true}, {WetKey, "w", true, true}, {"texture", "d", false, false},
	{"ph", "f", true, true}, {"omPct", "f", true, false}, {"limePct", "f", false, false}, {"eceDSPerM", "s", true, false},
}

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
