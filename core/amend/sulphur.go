package amend

import (
	"math"

	"slowroot/core/finding"
)

// The texture tables, kg of sulphur per ha in 15 cm, for sand, loam and clay (from memory: US
// fertiliser-handbook table to pH 6.5; US small-fruit guides to pH 4.5).
var (
	to65 = []sulphurRow{{7.0, [3]float64{112, 168, 336}}, {7.5, [3]float64{560, 897, 1121}}, {8.0, [3]float64{1345, 1681, 2242}},
		{8.5, [3]float64{2242, 2802, 3363}}}
	to45 = []sulphurRow{{5.0, [3]float64{196, 594, 897}}, {5.5, [3]float64{392, 1177, 1793}}, {6.0, [3]float64{594, 1726, 2589}},
		{6.5, [3]float64{740, 2264, 3396}}, {7.0, [3]float64{942, 2858, 4293}}}
)

type sulphurRow struct {
	ph float64
	kg [3]float64
}

// SulphurColumn is the table column of a texture group: 0 sand, 1 loam, 2 clay.
func SulphurColumn(group string) int {
	switch group {
	case "coarse", "moderately coarse":
		return 0
	case "fine", "moderately fine":
		return 2
	}
	return 1
}

// SulphurByTable is kg/ha in 15 cm from a start pH to 4.5 or 6.5, linear between lines; a start above
// the table is refused. Other targets lie between the amount to 4.5 and the amount the target itself
// would need to reach 4.5.
func SulphurByTable(ph, target float64, group string) (float64, error) {
	if !(target >= 4.5 && target <= 6.5) {
		return 0, finding.Bad("targetPh", target, "is not a pH the table goes to", "4.5 to 6.5")
	}
	if ph <= target {
		return 0, nil
	}
	col := SulphurColumn(group)
	if ph > 7 {
		if ph > 8.5 || target < 6.5 {
			return 0, finding.Bad("ph", ph, "lies above the table: it does not go further", "7.0 to reach 4.5, 8.5 to reach 6.5")
		}
		return between(to65, col, ph), nil
	}
	if target == 6.5 {
		return between(to65, col, 7) * (ph - 6.5) / 0.5, nil
	}
	return between(to45, col, ph) - between(to45, col, target), nil
}

func between(rows []sulphurRow, col int, ph float64) float64 {
	if ph <= rows[0].ph {
		floor := 4.5
		if rows[0].ph == 7 {
			floor = 6.5
		}
		return rows[0].kg[col] * math.Max(0, ph-floor) / (rows[0].ph - floor)
	}
	for i := 1; i < len(rows); i++ {
		if ph <= rows[i].ph {
			a, b := rows[i-1], rows[i]
			return a.kg[col] + (b.kg[col]-a.kg[col])*(ph-a.ph)/(b.ph-a.ph)
		}
	}
	return rows[len(rows)-1].kg[col]
}

// SulphurByBuffer is kg/ha from a measured buffer capacity in cmolc/kg per pH unit (16.03 g of S
// neutralise one mole of charge).
func SulphurByBuffer(drop, capacity, density, depthCm float64) float64 {
	return 16.03 * drop * capacity * density * depthCm
}

// SulphurForLime is kg/ha that free lime eats before the pH moves: 3.2·ρ·d·100 for each per cent.
func SulphurForLime(limePct, density, depthCm float64) float64 {
	return 3.2 * density * depthCm * 100 * limePct
}

// MostSulphur is the largest single dose before planting, kg/ha (common practice).
func MostSulphur(group string) float64 {
	if SulphurColumn(group) == 0 {
		return 450
	}
	return 900
}

// SulphurMonths is the lead time sulphur needs: 6 months, 12 when the drop is over one unit (common
// practice; it works in warm moist soil only).
func SulphurMonths(drop float64) int {
	if drop > 1 {
		return 12
	}
	return 6
}

// Gypsum is t/ha to bring exchangeable sodium from esp to target, in % of a CEC in cmolc/kg, at an
// efficiency and purity as shares (USDA Handbook 60, Diagnosis and improvement of saline and alkali
// soils, 1954; method AMD-4). Gypsum is no lime: on a soil below pH 5.5 it is refused.
func Gypsum(cec, esp, target, density, depthCm, efficiency, purity, ph float64) (float64, error) {
	switch {
	case ph > 0 && ph < 5.5:
		return 0, finding.Bad("ph", ph, "gypsum does not raise pH: this soil is acid, not sodic", "lime for acidity")
	case !(cec > 0):
		return 0, finding.Bad("cec", cec, "is not an exchange capacity", "more than 0 cmolc/kg")
	case !(esp >= 0 && esp <= 100) || !(target >= 0 && target <= 100):
		return 0, finding.Bad("esp", esp, "is not a share of the exchange capacity", "0 to 100 %")
	case !(efficiency > 0 && efficiency <= 1) || !(purity > 0 && purity <= 1):
		return 0, finding.Bad("efficiency", efficiency, "is not a share", "more than 0, at most 1")
	}
	return math.Max(0, 0.000861*density*depthCm*cec*(esp-target)/(efficiency*purity)), nil
}

// SulphurForGypsum is the sulphur that can stand for gypsum in a lime-rich soil, t for t.
const SulphurForGypsum = 0.186

// ESPFromSAR estimates exchangeable sodium in % from the sodium adsorption ratio (USDA Handbook 60).
func ESPFromSAR(sar float64) float64 {
	x := -0.0126 + 0.01475*sar
	return 100 * x / (1 + x)
}
