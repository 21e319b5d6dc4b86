package soil

import (
	"fmt"
	"math"
	"sort"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/geo"
)

// Hardness is how a layer answers the pick, loose to rock.
type Hardness string

const (
	Loose    Hardness = "loose"
	Firm     Hardness = "firm"
	Hard     Hardness = "hard"     // penetration over 2 MPa at field capacity: roots slow
	Cemented Hardness = "cemented" // does not slake in water
	Rock     Hardness = "rock"     // rings, cannot be dug
)

// Structure is how a layer breaks.
type Structure string

const (
	Crumb    Structure = "crumb"
	Blocky   Structure = "blocky"
	Prisms   Structure = "prismatic"
	Platy    Structure = "platy"
	Massive  Structure = "massive"
	NoAggreg Structure = "single grain"
)

// Roots is how many are seen.
type Roots string

const (
	ManyRoots Roots = "many"
	FewRoots  Roots = "few"
	NoRoots   Roots = "none"
)

// Sign is a mark of waterlogging in a layer or at the surface.
type Sign string

// The signs of method SOIL-5. Ponding and WetPlants are seen at the surface.
const (
	FreeWater      Sign = "free water in the wet season"
	Grey           Sign = "grey or bluish matrix"
	Smell          Sign = "rotten-egg or sour smell"
	Mottles        Sign = "rust mottles, common"
	FewMottles     Sign = "rust mottles, few"
	Bleached       Sign = "bleached layer above a denser one"
	RootsDie       Sign = "roots stop or died back"
	Manganese      Sign = "black manganese concretions"
	SharpLayering  Sign = "sharp layering, coarse over fine"
	Ponding        Sign = "ponding over 48 h after rain"
	WetPlants      Sign = "wet-loving plants, algae or moss"
	massiveOrPlaty Sign = "massive or platy structure"
)

// Points a sign counts (common practice, no source).
var points = map[Sign]int{FreeWater: 3, Grey: 3, Smell: 3, Mottles: 2, FewMottles: 1, Bleached: 2, RootsDie: 2, Ponding: 2,
	Manganese: 1, massiveOrPlaty: 1, WetPlants: 1, SharpLayering: 1}

// LayerSigns and SurfaceSigns are those a person can record, in the order they are offered.
var (
	LayerSigns   = []Sign{FreeWater, Grey, Smell, Mottles, FewMottles, Bleached, RootsDie, Manganese, SharpLayering}
	SurfaceSigns = []Sign{Ponding, WetPlants}
	Hardnesses   = []Hardness{Loose, Firm, Hard, Cemented, Rock}
	Structures   = []Structure{Crumb, Blocky, Prisms, Platy, Massive, NoAggreg}
	RootsSeen    = []Roots{ManyRoots, FewRoots, NoRoots}
)

// Layer is one layer of a pit. Texture is either a class by feel or measured fractions; with both the
// fractions win. Zero values mean not said.
type Layer struct {
	TopCm      float64    `json:"topCm"`
	BottomCm   float64    `json:"bottomCm"`
	Class      Class      `json:"class"`
	Measured   *Fractions `json:"measured,omitempty"`
	OMPct      float64    `json:"omPct"`
	StonesPct  float64    `json:"stonesPct"` // of the volume
	Structure  Structure  `json:"structure"`
	Hardness   Hardness   `json:"hardness"`
	Roots      Roots      `json:"roots"`
	Colour     string     `json:"colour"`
	DensityG   float64    `json:"densityGCm3"` // measured bulk density, 0 unknown
	StrongFizz bool       `json:"strongFizz"`  // foams with acid: free lime
	Signs      []Sign     `json:"signs"`
}

// Pit is one inspection pit.
type Pit struct {
	ID       string     `json:"id,omitempty"` // for good; given when it is written
	Name     string     `json:"name"`
	Zone     string     `json:"zone"` // the part of the block it stands for
	On       civil.Date `json:"on"`
	At       *geo.Point `json:"at,omitempty"`
	Layers   []Layer    `json:"layers"`
	Surface  []Sign     `json:"surface"`
	WaterCm  float64    `json:"waterCm"` // free water standing in the pit after a day; 0 none seen
	WetCm    float64    `json:"wetCm"`   // highest level of three or more wet-season readings; 0 not read
	Relict   bool       `json:"relict"`  // the land was drained since the marks were made
	Moisture Moisture   `json:"moisture"`
	Draft    bool       `json:"draft,omitempty"` // begun from a usual profile: nothing counts until a person says it was seen
}

// Moisture is how wet the soil was when looked at, at tillage depth.
type Moisture string

const (
	Dry   Moisture = "dry"
	Moist Moisture = "moist"
	Wet   Moisture = "wet"
)

// MaxPitCm is the deepest a pit is described to.
const MaxPitCm = 500

// Texture is the layer's class and fractions, and whether they were measured.
func (l Layer) Texture() (Class, Fractions, bool) {
	if l.Measured != nil {
		if c, err := Classify(*l.Measured); err == nil {
			f, _ := l.Measured.Normal()
			return c, f, true
		}
	}
	return l.Class, l.Class.Typical(), false
}

// Water is the layer's water by SOIL-2, stones by volume turned to mass. Rock and cemented layers hold
// none that roots reach.
func (l Layer) Water() (Water, error) {
	_, f, _ := l.Texture()
	density := 1.0
	switch {
	case l.Hardness == Hard || l.Structure == Platy:
		density = 1.1
	case l.Structure == Massive:
		density = 1.05
	}
	w, err := FromTexture(f, l.OMPct, density, 0)
	if err != nil || l.StonesPct == 0 {
		return w, err
	}
	// mass fraction of stones with volume share v: v·2.65/(v·2.65 + (1−v)·ρ)
	v := math.Min(l.StonesPct/100, 0.7)
	return FromTexture(f, l.OMPct, density, math.Min(0.8, v*2.65/(v*2.65+(1-v)*w.DensityGCm3)))
}

// Valid reports what makes a pit unusable: layers must run from the surface down without gap or
// overlap.
func (p Pit) Valid(field string) error {
	bad := func(name string, v any, rule, accepted string) error {
		return finding.Bad(field+"."+name, v, rule, accepted)
	}
	if p.Name == "" || len([]rune(p.Name)) > 80 {
		return bad("name", p.Name, "a pit needs a name", "1 to 80 characters")
	}
	if len(p.Layers) == 0 || len(p.Layers) > 20 {
		return bad("layers", len(p.Layers), "is not a number of layers of a pit", "1 to 20")
	}
	at := 0.0
	for i, l := range p.Layers {
		name := fmt.Sprintf("layers[%d]", i)
		switch {
		case l.TopCm != at && i == 0:
			return bad(name+".topCm", l.TopCm, "the first layer does not begin at the surface", "0 cm")
		case l.TopCm != at:
			return bad(name+".topCm", l.TopCm, fmt.Sprintf("there is a gap or an overlap: the layer above ends at %g cm", at), fmt.Sprintf("%g cm", at))
		case !(l.BottomCm > l.TopCm && l.BottomCm <= MaxPitCm):
			return bad(name+".bottomCm", l.BottomCm, "a layer ends below where it begins", fmt.Sprintf("more than %g, at most %d cm", l.TopCm, MaxPitCm))
		case l.Measured == nil && !l.Class.Known():
			return bad(name+".class", l.Class, "is not a texture class", "one of the twelve USDA classes, or sand, silt and clay")
		case !(l.OMPct >= 0 && l.OMPct <= 100):
			return bad(name+".omPct", l.OMPct, "is not a share of organic matter", "0 to 100 %")
		case !(l.StonesPct >= 0 && l.StonesPct <= 100):
			return bad(name+".stonesPct", l.StonesPct, "is not a share of stones", "0 to 100 % of the volume")
		case l.DensityG != 0 && !(l.DensityG >= 0.2 && l.DensityG <= 2.4):
			return bad(name+".densityGCm3", l.DensityG, "is not a bulk density", "0.2 to 2.4 g/cm³, or 0 when not measured")
		}
		if l.Measured != nil {
			if _, err := Classify(*l.Measured); err != nil {
				return err
			}
		}
		for _, s := range l.Signs {
			if points[s] == 0 || s == Ponding || s == WetPlants || s == massiveOrPlaty {
				return bad(name+".signs", s, "is not a sign seen in a layer", "one of the signs offered")
			}
		}
		for _, k := range []struct {
			v, name string
			known   bool
		}{{string(l.Hardness), "hardness", oneOf(l.Hardness, Hardnesses)}, {string(l.Structure), "structure", oneOf(l.Structure, Structures)},
			{string(l.Roots), "roots", oneOf(l.Roots, RootsSeen)}} {
			if k.v != "" && !k.known {
				return bad(name+"."+k.name, k.v, "is not one of the words offered", "see the list")
			}
		}
		at = l.BottomCm
	}
	for _, s := range p.Surface {
		if s != Ponding && s != WetPlants {
			return bad("surface", s, "is not a sign seen at the surface", string(Ponding)+", "+string(WetPlants))
		}
	}
	for _, v := range []struct {
		name string
		cm   float64
	}{{"waterCm", p.WaterCm}, {"wetCm", p.WetCm}} {
		if !(v.cm >= 0 && v.cm <= MaxPitCm) {
			return bad(v.name, v.cm, "is not a depth of water", fmt.Sprintf("0 (none) to %d cm", MaxPitCm))
		}
	}
	return nil
}

func oneOf[T comparable](v T, list []T) bool {
	for _, x := range list {
		if x == v {
			return true
		}
	}
	return false
}

// Bottom is how deep the pit was described.
func (p Pit) Bottom() float64 { return p.Layers[len(p.Layers)-1].BottomCm }

// Share is a layer's part of the available water.
type Share struct {
	TopCm    float64 `json:"topCm"`
	BottomCm float64 `json:"bottomCm"`
	MM       float64 `json:"mm"`
}

// Available sums the water held for roots down to depthCm (method SOIL-3; FAO Irrigation and Drainage
// Paper 56, 1998, eq. 82, by layer). Where the pit ends above depthCm only what was seen is counted and
// seen says so.
func (p Pit) Available(depthCm float64) (mm float64, shares []Share, seen bool, err error) {
	for _, l := range p.Layers {
		t := math.Min(l.BottomCm, depthCm) - l.TopCm
		if t <= 0 || l.Hardness == Rock || l.Hardness == Cemented {
			continue
		}
		w, err := l.Water()
		if err != nil {
			return 0, nil, false, err
		}
		s := Share{l.TopCm, l.TopCm + t, 10 * w.Available * t}
		shares, mm = append(shares, s), mm+s.MM
	}
	return mm, shares, p.Bottom() >= depthCm, nil
}

// Slab is a layer whose water content is given, as a laboratory reports it.
type Slab struct{ TopCm, BottomCm, FieldCapacity, WiltingPoint, StonesVolume float64 }

// AvailableMM sums slabs down to depthCm (method SOIL-3). Slabs must be contiguous from the surface.
func AvailableMM(slabs []Slab, depthCm float64) (float64, error) {
	mm, at := 0.0, 0.0
	for i, s := range slabs {
		switch {
		case s.TopCm != at:
			return 0, finding.Bad("layers", s.TopCm, fmt.Sprintf("layer %d leaves a gap or overlaps: the one above ends at %g cm", i+1, at),
				"contiguous layers from 0 cm")
		case s.BottomCm <= s.TopCm:
			return 0, finding.Bad("layers", s.BottomCm, fmt.Sprintf("layer %d ends above where it begins", i+1), "a bottom below the top")
		case s.FieldCapacity <= s.WiltingPoint:
			return 0, finding.Bad("layers", fmt.Sprintf("%g ≤ %g", s.FieldCapacity, s.WiltingPoint),
				fmt.Sprintf("layer %d holds nothing between field capacity and wilting point", i+1), "field capacity above wilting point")
		case !(s.StonesVolume >= 0 && s.StonesVolume <= 0.9):
			return 0, finding.Bad("layers", s.StonesVolume, "is not a share of stones", "0 to 0.9 of the volume")
		}
		if t := math.Min(s.BottomCm, depthCm) - s.TopCm; t > 0 {
			mm += 10 * (s.FieldCapacity - s.WiltingPoint) * (1 - s.StonesVolume) * t
		}
		at = s.BottomCm
	}
	if at < depthCm {
		return 0, finding.Bad("layers", at, fmt.Sprintf("the profile ends above the %g cm asked for", depthCm), "layers down to that depth, or a limiting depth")
	}
	return mm, nil
}

// HeldClass is the word for available water down to the roots (common practice, no source).
func HeldClass(mm float64) string {
	switch {
	case mm < 50:
		return "very low"
	case mm < 100:
		return "low"
	case mm <= 150:
		return "medium"
	}
	return "high"
}

// Quantile is the type-7 quantile (linear between order statistics) of values; NaN when empty.
func Quantile(values []float64, q float64) float64 {
	if len(values) == 0 {
		return math.NaN()
	}
	v := append([]float64(nil), values...)
	sort.Float64s(v)
	h := q * float64(len(v)-1)
	i := int(h)
	if i+1 >= len(v) {
		return v[len(v)-1]
	}
	return v[i] + (h-float64(i))*(v[i+1]-v[i])
}
