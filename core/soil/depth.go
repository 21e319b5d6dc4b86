package soil

import (
	"fmt"
	"sort"
)

// Barrier is something that stops roots, at the depth where it begins (method SOIL-4).
type Barrier struct {
	Kind      string  `json:"kind"`
	DepthCm   float64 `json:"depthCm"`
	ToCm      float64 `json:"toCm"`
	Why       string  `json:"why"` // the test it answered
	Removable bool    `json:"removable"`
	Remedy    string  `json:"remedy"` // "rip", "drain", "none"
}

// RipReachCm is how deep a ripper reaches (common practice, no source).
const RipReachCm = 90

// Barriers are what stops roots in a pit, shallowest first. waterCm is where waterlogging begins, 0
// when no sign was found.
func (p Pit) Barriers(waterCm float64) []Barrier {
	var out []Barrier
	for i, l := range p.Layers {
		class, f, _ := l.Texture()
		soft := i+1 < len(p.Layers) && p.Layers[i+1].Hardness != Rock && p.Layers[i+1].Hardness != Cemented
		suffer, stop := LimitingDensity(class)
		switch {
		case l.Hardness == Rock:
			out = append(out, Barrier{Kind: "rock", DepthCm: l.TopCm, ToCm: l.BottomCm, Why: "cannot be dug with a pick", Remedy: "none"})
		case l.Hardness == Cemented && l.BottomCm-l.TopCm > 5:
			out = append(out, Barrier{Kind: "cemented pan", DepthCm: l.TopCm, ToCm: l.BottomCm, Why: "more than 5 cm thick and does not slake",
				Removable: soft && l.BottomCm <= RipReachCm, Remedy: "rip"})
		case i > 0 && l.TopCm < 60 && (l.Hardness == Hard || l.DensityG > stop) && l.Structure == Platy:
			out = append(out, Barrier{Kind: "plough pan", DepthCm: l.TopCm, ToCm: l.BottomCm, Why: "hard and platy", Removable: l.BottomCm <= RipReachCm, Remedy: "rip"})
		case l.DensityG > stop:
			out = append(out, Barrier{Kind: "compacted layer", DepthCm: l.TopCm, ToCm: l.BottomCm,
				Why:       fmt.Sprintf("bulk density %.2f g/cm³; roots suffer from %.2f and stop at %.2f in %s", l.DensityG, suffer, stop, class),
				Removable: l.BottomCm <= RipReachCm, Remedy: "rip"})
		}
		if l.StonesPct > 70 {
			out = append(out, Barrier{Kind: "gravel", DepthCm: l.TopCm, ToCm: l.BottomCm, Why: fmt.Sprintf("%.0f %% stones by volume, over 70", l.StonesPct),
				Remedy: "none"})
		}
		if l.StrongFizz && i > 0 {
			out = append(out, Barrier{Kind: "lime-rich layer", DepthCm: l.TopCm, ToCm: l.BottomCm, Why: "foams strongly with acid", Remedy: "none"})
		}
		if i > 0 {
			_, above, _ := p.Layers[i-1].Texture()
			if f.ClayPct-above.ClayPct >= 20 && (l.Roots == NoRoots || l.Roots == "" && l.Hardness == Hard) {
				out = append(out, Barrier{Kind: "dense clay", DepthCm: l.TopCm, ToCm: p.Bottom(),
					Why: fmt.Sprintf("clay steps from %.0f to %.0f %% and no roots go in", above.ClayPct, f.ClayPct), Remedy: "none"})
			}
		}
	}
	if waterCm > 0 {
		out = append(out, Barrier{Kind: "waterlogging", DepthCm: waterCm, ToCm: p.Bottom(), Why: "signs of long wetness begin here", Removable: true,
			Remedy: "drain"})
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].DepthCm < out[j].DepthCm })
	return out
}

// Effective is how deep roots can go: the shallowest barrier that is not removed, or bottom where
// nothing stops them. limiting is nil then.
func Effective(barriers []Barrier, bottom float64, removed func(Barrier) bool) (cm float64, limiting *Barrier) {
	cm = bottom
	for i, b := range barriers {
		if b.Removable && removed != nil && removed(b) {
			continue
		}
		if b.DepthCm < cm {
			cm, limiting = b.DepthCm, &barriers[i]
		}
	}
	return cm, limiting
}

// DepthClass is the word for an effective depth (from memory: FAO guidelines for soil description).
func DepthClass(cm float64) string {
	switch {
	case cm < 30:
		return "very shallow"
	case cm < 50:
		return "shallow"
	case cm < 100:
		return "moderately deep"
	case cm <= 150:
		return "deep"
	}
	return "very deep"
}

// RipPlan is the loosening a pan asks for: depth, and whether the soil can shatter now.
type RipPlan struct {
	DepthCm   float64 `json:"depthCm"`
	TopCm     float64 `json:"topCm"`
	BottomCm  float64 `json:"bottomCm"`
	Shatters  bool    `json:"shatters"`
	Why       string  `json:"why"`
	OutOfTool bool    `json:"outOfTool"` // deeper than a ripper reaches
}

// Ripping says how deep to rip for the pans of a pit: 5 cm below the deepest removable one (common
// practice, no source). ok is false when there is none.
func (p Pit) Ripping(barriers []Barrier) (r RipPlan, ok bool) {
	for _, b := range barriers {
		if b.Remedy != "rip" {
			continue
		}
		if !ok {
			r.TopCm = b.DepthCm
		}
		ok = true
		r.BottomCm = max(r.BottomCm, b.ToCm)
	}
	r.DepthCm = r.BottomCm + 5
	r.OutOfTool = r.DepthCm > RipReachCm
	r.Shatters = p.Moisture == Dry
	switch p.Moisture {
	case Dry:
		r.Why = "the soil was dry at that depth: it shatters"
	case Moist:
		r.Why = "the soil was moist: wait until a clod from that depth crumbles instead of bending"
	case Wet:
		r.Why = "the soil was wet: ripping now smears and presses, it loosens nothing"
	default:
		r.Why = "nobody has said how dry the soil was at that depth"
	}
	return r, ok
}
