package supply

import "math"

// Room is what a cold store has to hold: pieces in bins stacked on one another, and how they are cooled. Lengths are m.
type Room struct {
	Pieces  int
	PerBin  int
	LengthM float64 // of a bin
	WidthM  float64
	HeightM float64
	Stack   int     // bins on one another
	Use     float64 // share of floor and room that bins may stand on; 0 takes 0.65
	KgEach  float64 // a piece weighs; 0 is not known, and no heat is reckoned
	FromC   float64 // they come in at
	ToC     float64 // and are cooled to
	Hours   float64 // in which; 0 takes 24
	WPerT   float64 // W a tonne breathes
}

// usualUse is the share of floor and volume of a store that bins may stand on (method H7, common practice 0.60 to 0.70);
// besides the heat of goods walls and fans add a third nearly (common practice); heatKJ is what a kilogram of fruit or wood
// gives off by the degree, kJ/kg·K.
const (
	usualUse  = 0.65
	wallsFans = 1.3
	heatKJ    = 3.8
)

// Space is what a room comes to.
type Space struct {
	Bins      int     `json:"bins"`
	Positions int     `json:"positions"` // stacks on the floor
	FloorM2   float64 `json:"floorM2"`
	VolumeM3  float64 `json:"volumeM3"`
	PullKW    float64 `json:"pullKW"`    // to cool what comes in
	BreatheKW float64 `json:"breatheKW"` // of what lies there
	CoolKW    float64 `json:"coolKW"`    // both, walls and fans with them
}

// Space reckons a room (method H7).
func (r Room) Space() Space {
	use := r.Use
	if use <= 0 {
		use = usualUse
	}
	hours := r.Hours
	if hours <= 0 {
		hours = 24
	}
	var s Space
	s.Bins = int(math.Ceil(float64(r.Pieces) / float64(max(1, r.PerBin))))
	s.Positions = int(math.Ceil(float64(s.Bins) / float64(max(1, r.Stack))))
	s.FloorM2 = float64(s.Positions) * r.LengthM * r.WidthM / use
	s.VolumeM3 = float64(s.Bins) * r.LengthM * r.WidthM * r.HeightM / use
	kg := float64(r.Pieces) * r.KgEach
	s.PullKW = kg * heatKJ * math.Max(0, r.FromC-r.ToC) / (hours * 3600)
	s.BreatheKW = kg / 1000 * r.WPerT / 1000
	s.CoolKW = wallsFans * (s.PullKW + s.BreatheKW)
	return s
}
