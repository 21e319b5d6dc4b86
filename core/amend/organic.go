package amend

import "slowroot/core/finding"

// Organic is an organic material: shares of dry matter, of organic matter in it, and of that what
// stays after the first year; TPerM3 as spread (common practice, middle of the usual ranges).
type Organic struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Dry     float64 `json:"dry"`
	Organic float64 `json:"organic"`
	Stays   float64 `json:"stays"`
	TPerM3  float64 `json:"tPerM3"`
}

// Organics are those known.
var Organics = []Organic{
	{"compost", "mature compost", 0.60, 0.45, 0.50, 0.60},
	{"manure", "farmyard manure, rotted", 0.28, 0.68, 0.40, 0.70},
	{"litter", "poultry litter", 0.68, 0.72, 0.25, 0.48},
	{"sawdust", "sawdust, rotted", 0.50, 0.95, 0.35, 0.30},
	{"chips", "wood chips", 0.60, 0.95, 0.35, 0.28},
	{"peat", "peat moss, moist", 0.42, 0.94, 0.70, 0.22},
	{"straw", "straw", 0.85, 0.90, 0.18, 0.12},
}

// OrganicNamed finds one by id.
func OrganicNamed(id string) (Organic, bool) {
	for _, o := range Organics {
		if o.ID == id {
			return o, true
		}
	}
	return Organic{}, false
}

// OrganicMatter is t/ha of organic matter that raise the soil test by points per cent (method AMD-5).
func OrganicMatter(points, density, depthCm float64) float64 { return density * depthCm * points }

// Fresh is t of material as spread for t of organic matter that is to stay.
func (o Organic) Fresh(organicT float64) (float64, error) {
	if !(o.Dry > 0 && o.Dry <= 1 && o.Organic > 0 && o.Organic <= 1 && o.Stays > 0 && o.Stays <= 1) {
		return 0, finding.Bad("material", o.Name, "needs its dry, organic and lasting shares", "each more than 0, at most 1")
	}
	return organicT / (o.Dry * o.Organic * o.Stays), nil
}

// Raises is the points per cent that t/ha fresh on the treated ground bring to depthCm.
func (o Organic) Raises(freshT, density, depthCm float64) float64 {
	return freshT * o.Dry * o.Organic * o.Stays / (density * depthCm)
}

// MostFresh is the rate above which one dressing is doubted, t/ha fresh (common practice).
const MostFresh = 300

// StripFraction is the treated share of a block when only strips are treated.
func StripFraction(stripM, rowM float64) (float64, error) {
	if !(stripM > 0 && rowM > 0 && stripM <= rowM) {
		return 0, finding.Bad("stripWidthM", stripM, "is not the width of a strip in these rows", "more than 0, at most the row spacing")
	}
	return stripM / rowM, nil
}

// LocalDose is what a rate per whole hectare becomes where all of it is poured on the treated share;
// tooMuch is over three times the rate recommended for treated ground (method AMD-6).
func LocalDose(perGrossHa, share, recommended float64) (dose float64, tooMuch bool) {
	dose = perGrossHa / share
	return dose, recommended > 0 && dose > 3*recommended
}

// Conversions of method AMD-6, each from → to per unit.
const (
	M3PerHaPerLPerM2  = 10.0
	M3PerHaPerLPer10  = 1.0 // 1 L per 10 m²
	TPerHaPerKgPerM2  = 10.0
	KgPerHaPerGPerM2  = 10.0
	M3PerHaPerCmDepth = 100.0
)
