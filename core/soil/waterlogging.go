package soil

import "math"

// DrainageClass is the FAO word for how freely a soil drains.
type DrainageClass string

const (
	Excessive    DrainageClass = "excessively drained"
	SomewhatExc  DrainageClass = "somewhat excessively drained"
	Well         DrainageClass = "well drained"
	Moderate     DrainageClass = "moderately well drained"
	Imperfect    DrainageClass = "imperfectly drained"
	Poor         DrainageClass = "poorly drained"
	VeryPoor     DrainageClass = "very poorly drained"
	Undetermined DrainageClass = "undetermined"
)

// Wetness is what a pit says about past waterlogging (method SOIL-5; class names from FAO, Guidelines
// for soil description, 4th ed., 2006, and the Soil Survey Manual, 2017; the depths that part them and
// the points are common practice).
type Wetness struct {
	Class      DrainageClass `json:"class"`
	DepthCm    float64       `json:"depthCm"` // where waterlogging begins; the bottom of the pit when no sign was found
	Seen       bool          `json:"seen"`    // signs were found
	Points     int           `json:"points"`
	Confidence string        `json:"confidence"` // low, medium or high; empty without signs
	Signs      []string      `json:"signs"`      // that drove it
	Ask        string        `json:"ask"`        // what would settle it, "" when settled
	FromWell   bool          `json:"fromWell"`   // a measured wet-season level overrides the marks
}

// Wetness judges the pit.
func (p Pit) Wetness() Wetness {
	w := Wetness{DepthCm: p.Bottom(), Signs: []string{}}
	for i, l := range p.Layers {
		sum := 0
		var signs []string
		add := func(s Sign) { sum += points[s]; signs = append(signs, string(s)) }
		if i == 0 {
			for _, s := range p.Surface {
				add(s)
			}
		}
		for _, s := range l.Signs {
			add(s)
		}
		if l.Structure == Platy || l.Structure == Massive {
			add(massiveOrPlaty)
		}
		if sum >= 3 && !w.Seen {
			w.Seen, w.DepthCm, w.Points, w.Signs = true, l.TopCm, sum, signs
		}
	}
	switch {
	case w.Points >= 6:
		w.Confidence = "high"
	case w.Points >= 4:
		w.Confidence = "medium"
	case w.Points >= 3:
		w.Confidence = "low"
	}
	gley := oneOf(Grey, p.Layers[0].Signs)
	switch {
	case p.WetCm > 0:
		w.Seen, w.DepthCm, w.FromWell, w.Confidence = true, p.WetCm, true, "high"
		w.Signs = append(w.Signs, "measured wet-season water level")
	case p.Relict && w.Seen:
		w.Ask = "The land was drained since these marks were made: read the water level three times in the wet season."
	case !w.Seen && p.Bottom() < 50:
		w.Class, w.Ask = Undetermined, "Dig on: nothing was seen below 50 cm, and that is where it would show."
		return w
	case w.Confidence == "low":
		w.Ask = "The signs are few: a reading of the water level in the wet season would settle it."
	}
	w.Class = classAt(w.DepthCm, w.Seen, gley, p.slowestKs())
	if !w.Seen && p.Bottom() < 100 {
		w.Ask = "No sign down to the bottom of the pit; a deeper pit could still find one."
	}
	return w
}

// classAt translates a depth of waterlogging.
func classAt(cm float64, seen, gley bool, ksMmH float64) DrainageClass {
	switch {
	case cm >= 150 && ksMmH > 150:
		return Excessive
	case cm >= 150 && ksMmH >= 50:
		return SomewhatExc
	case cm >= 100:
		return Well
	case cm >= 50 || !seen:
		return Moderate
	case cm >= 25:
		return Imperfect
	case cm == 0 && gley:
		return VeryPoor
	}
	return Poor
}

// slowestKs is the conductivity of the layer that lets least water through, mm/h.
func (p Pit) slowestKs() float64 {
	ks := math.Inf(1)
	for _, l := range p.Layers {
		if w, err := l.Water(); err == nil {
			ks = math.Min(ks, w.BulkKsMmH)
		}
	}
	return ks
}

// Reading is what the class means for an orchard (common practice, no source).
func (c DrainageClass) Reading() string {
	switch c {
	case Excessive, SomewhatExc:
		return "water-holding, not drainage, limits"
	case Well:
		return "all crops"
	case Moderate:
		return "sensitive crops want a raised bed or a drain"
	case Imperfect:
		return "drain, or a tolerant crop on beds"
	case Poor:
		return "drain and bed, or reject"
	case VeryPoor:
		return "reject"
	}
	return "not judged"
}

// Restrictive is the shallowest layer that stops water: rock, a cemented pan, or one that lets through
// less than a tenth of the layer above (FAO and common practice). ok is false when none was seen.
func (p Pit) Restrictive() (topCm float64, what string, ok bool) {
	above := math.NaN()
	for i, l := range p.Layers {
		if l.Hardness == Rock || l.Hardness == Cemented {
			return l.TopCm, string(l.Hardness), true
		}
		w, err := l.Water()
		if err != nil {
			continue
		}
		c, _, _ := l.Texture()
		if i > 0 && w.BulkKsMmH < above/10 {
			return l.TopCm, string(c), true
		}
		above = w.BulkKsMmH
	}
	return 0, "", false
}
