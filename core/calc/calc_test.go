package calc

import (
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"slowroot/core/finding"
	"slowroot/core/practice"
)

func registry(t *testing.T) *Registry {
	t.Helper()
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	return New(l)
}

// Published and computed check values of the methods each calculator stands for.
func TestCalculators(t *testing.T) {
	r := registry(t)
	square := []any{[]any{[]any{10.0, 45.0}, []any{10.003, 45.0}, []any{10.003, 45.0012}, []any{10.0015, 45.0012}, []any{10.0015, 45.002}, []any{10.0, 45.002}}}
	for _, c := range []struct {
		source, name, out string
		in                map[string]any
		want              float64
	}{
		{"LAY-1 quoted density 4 × 12 ft", "planting-density", "stationsPerHa", map[string]any{"rowSpacingM": 3.6576, "plantSpacingM": 1.2192}, 2242.5},
		{"LAY-1 triangle 3 m", "planting-density", "stationsPerHa", map[string]any{"pattern": "triangle", "plantSpacingM": 3.0}, 1283.0},
		{"LAY-1 pots 3/m, rows 2.2 m, 2 plants", "planting-density", "plantsPerHa", map[string]any{"rowSpacingM": 2.2, "plantSpacingM": 1.0 / 3,
			"plantsPerStation": 2.0}, 27273},
		{"willow sheet, printed", "planting-density", "stationsPerHa", map[string]any{"pattern": "twin", "rowSpacingM": 2.25, "plantSpacingM": 0.59}, 15066},
		{"LAY-9 K 1000 p 0.85", "plants-to-order", "mainPlants", map[string]any{"stations": 1000.0, "survival": 0.85}, 1201},
		{"LAY-9 K 100 p 0.90 apart", "plants-to-order", "pollinizerPlants", map[string]any{"stations": 1100.0, "pollinizerStations": 100.0, "survival": 0.90}, 117},
		{"LAY-1 §redesign: six rows to two", "redesign-claim", "ratio", nil, 1.0 / 3},
		{"LAY-1 §redesign: spacing the claim needs", "redesign-claim", "spacingForClaimM", nil, 0.0667},
		{"LAY-4 P1 at 90°", "row-bearing", "passes", map[string]any{"rings": square, "pattern": "rectangle"}, 53},
		{"LAY-4 P1 at 0°, mean of a pass", "row-bearing", "meanM", map[string]any{"rings": square, "pattern": "rectangle", "bearingDeg": 0.0}, 164.2},
		{"LAY-4 P1 at 45°", "row-bearing", "passes", map[string]any{"rings": square, "pattern": "rectangle", "bearingDeg": 45.0}, 77},
		{"LAY-6 every 3rd in every 3rd", "pollinizer-share", "share", nil, 0.1111},
		{"LAY-6 four to one", "pollinizer-share", "share", map[string]any{"way": "rows"}, 0.2},
		{"LAY-6 four to one, two rows away", "pollinizer-share", "farthestM", map[string]any{"way": "rows"}, 10},
		{"LAY-7 four belts", "windbreak", "belts", nil, 4},
		{"LAY-7 at 30°", "windbreak", "shelterM", map[string]any{"angleDeg": 30.0}, 69.28},
		{"LAY-7 200 m at 1.65 m", "windbreak", "trees", nil, 122},
		{"LAY-8 twelve rows of 96 m", "takes-trellis", "wire", map[string]any{"postM": 9.14, "wires": 6.0}, 7416},
		{"BED-2 two lines", "takes-drip", "dripLine", map[string]any{"rows": 1.0, "rowLengthM": 5000.0, "lines": 2.0}, 10200},
		{"BED-3 cube of 0.9 m, 100 a hectare", "takes-pits", "earthDug", map[string]any{"stations": 100.0, "longM": 0.9, "wideM": 0.9, "deepM": 0.9}, 72.9},
		{"BED-6 strip of 1 m", "takes-mulch", "mulchAsItLies", map[string]any{"rows": 1.0, "rowLengthM": 2732.2}, 273.2},
		{"Y3 crowns of 4.5 m on 4 × 5 m", "ground-cover", "cover", nil, 0.7605},
		{"Y3 crowns of 3 m on 4 × 5 m", "ground-cover", "cover", map[string]any{"spreadM": 3.0}, 0.3534},
		{"Y14 strips of 0.7 and 0.3", "land-equivalent-ratio", "ler", nil, 0.885},
		{"LAY-2 P1", "polygon-area", "areaM2", map[string]any{"rings": square}, 42058.72},
		{"GeographicLib: 263.4974 + 258.1454", "side-lengths", "totalM", nil, 521.64},
		{"persimmon sheet, year 6 of 667/ha: 0.5 of 30 t less losses", "yield-by-age", "fractionOfFull", map[string]any{"sheet": "persimmon", "ageYear": 6.0}, 0.5},
		{"Soil Survey Manual: loam", "soil-water", "availableWater", map[string]any{"omPct": 1.0}, 0.1354},
		{"SOIL-3 to 90 cm", "available-water", "mm", nil, 116.85},
		{"SOIL-3, pan at 50 cm", "available-water", "mm", map[string]any{"limitCm": 50.0}, 66.15},
		{"SOIL-4 as found", "effective-depth", "asFoundCm", nil, 45},
		{"SOIL-4 after works", "effective-depth", "afterWorksCm", nil, 95},
		{"SOIL-5 at 60 cm", "drainage-class", "depthCm", nil, 60},
		{"SOIL-6 pH 6.8", "factor-rating", "rating", nil, 70},
		{"SOIL-6 square root", "suitability", "squareRoot", nil, 39.23},
		{"SITE-1 low and dammed", "frost-pocket", "score", map[string]any{"barrierBelow": "closed"}, 7},
		{"SITE-2 5 %", "slope-class", "lengthFactor", map[string]any{"slopePct": 5.0}, 1.00125},
		{"SITE-2 bench", "bench-terrace", "cutM3PerHa", nil, 637.5},
		{"AMD-1 school A", "lime-requirement", "baseSaturationTPerHa", map[string]any{"cec": 8.0, "basePct": 35.0, "depthCm": 20.0}, 2},
		{"AMD-2", "liming-product", "productTPerHa", nil, 4.713},
		{"AMD-3 table", "sulphur", "tableKgPerHa", nil, 1506},
		{"AMD-3 buffer", "sulphur", "bufferKgPerHa", map[string]any{"ph": 5.5, "bufferCapacity": 2.5}, 781.5},
		{"AMD-4", "gypsum", "gypsumTPerHa", nil, 10.654},
		{"AMD-5", "organic-matter", "freshTPerHa", nil, 192.6},
		{"AMD-6", "amendment-basis", "tPerTreatedHa", nil, 48},
		{"C1 day 105", "smooth-year", "value", map[string]any{"harmonics": 6.0}, 9.655},
		{"C2 seed 7", "rain-days", "totalMm", nil, 168.148},
		{"C3 10 %", "frost-dates", "day", nil, 117},
		{"C3 apple", "bloom-frost", "lost", nil, 0.5},
		{"C4 sine", "degree-days", "sine", map[string]any{"upperC": 30.0}, 8.2712},
		{"C5", "dormancy-break", "day", nil, 111},
		{"C6 constant 6 °C, 720 h", "chill", "portions", map[string]any{"hourly": []any{6.0}, "repeat": 1.0}, 0},
		{"C6 list", "chill", "utah", nil, 8},
		{"C7", "hourly-temperatures", "mean", nil, 7.895},
		{"C10", "rainy-season", "onset", nil, 30},
		{"C12 FAO 56 example 9", "day-length", "hours", nil, 11.67},
		{"C12", "sun-position", "elevationDeg", nil, 60.983},
		{"C15", "flowering-overlap", "share", nil, 0.3},
		{"C16", "workable-days", "setAside", nil, 23},
		{"H7 pull-down", "cold-room", "pullKW", nil, 21.11},
		{"H7 respiration", "cold-room", "breatheKW", nil, 1.2},
		{"H7 floor", "cold-room", "floorM2", map[string]any{"pieces": 164.0, "perBin": 1.0}, 60.92},
		{"C16 losses", "year-losses", "left", nil, 0.72},
		{"FAO 56 example 18", "reference-evapotranspiration", "mm", map[string]any{"rhMaxPct": 84.0, "rhMinPct": 63.0, "windMS": 2.78, "windHeightM": 10.0,
			"sunHours": 9.25}, 3.880},
		{"WAT-2", "crop-coefficient", "kc", nil, 0.675},
		{"WAT-3", "effective-rain", "storageAwareMm", nil, 41.06},
		{"DRN-2 irrigation", "drain-discharge", "irrigationMmDay", nil, 1.20},
		{"frequency factor of once in 5 years, 0.7195: mean 80, s 31.623", "design-storm", "mm", nil, 102.75},
		{"DRN-3", "auger-hole", "kMDay", nil, 0.6972},
		{"DRN-4", "drain-depth", "depthM", nil, 0.92},
		{"DRN-5 row 2", "drain-spacing", "spacingM", nil, 23.31},
		{"DRN-6", "drain-spacing-two-layers", "headM", nil, 0.2107},
		{"DRN-7", "water-table-fall", "afterM", nil, 0.3850},
		{"DRN-8 ha", "drain-pipe", "areaHa", nil, 4.108},
		{"Chow, Open-Channel Hydraulics, 1959, example 6-2, from memory: 20 ft floor, 2 : 1, 400 ft³/s, 3.36 ft", "open-ditch", "standsM",
			map[string]any{"floorM": 6.096, "sideM": 2.0, "depthM": 2.0, "gradePct": 0.16, "n": 0.025, "flowLS": 11326.7}, 1.024},
		{"DRN-9", "drain-quantities", "stoneM3", nil, 108.40},
		{"DRN-10", "long-section", "trenchM3", nil, 34.020},
		{"DRN-11", "drain-network", "lateralM", nil, 1140},
		{"DRN-13", "interceptor", "flowLS", nil, 0.1125},
		{"BED-1", "raised-bed", "furrowM", nil, 0.1382},
		{"BED-4", "ridge-and-furrow", "m3PerHa", nil, 656.2},
		{"BED-5", "levelling", "cutForM3", nil, 90.00},
		{"LAY-3, P1, rows north", "stations-on-a-field", "stations", map[string]any{"pattern": "rectangle", "rowSpacingM": 4.0, "plantSpacingM": 1.5, "edgeBandM": 6.0,
			"rings": []any{[]any{[]any{10.0, 45.0}, []any{10.003, 45.0}, []any{10.003, 45.0012}, []any{10.0015, 45.0012}, []any{10.0015, 45.002}, []any{10.0, 45.002}}}}, 6157},
		{"LAY-5, 5 × 5 to 10 × 10", "thinning", "keep", map[string]any{"plantSpacingM": 5.0}, 4},
		{"LAY-5, 6 × 6 to 10 × 10: refused", "thinning", "keep", nil, 0},
		{"N1", "oxide-element", "factor", nil, 0.4364},
		{"N3 A", "yearly-demand", "gPerPlant", map[string]any{"school": "by age"}, 500},
		{"N3 B", "yearly-demand", "kgPerHa", nil, 80},
		{"N3, water of 12 mg/L, 400 mm", "yearly-demand", "kgPerHa", map[string]any{"waterNo3MgL": 12.0, "waterMm": 400.0}, 32},
		{"N5", "split-ledger", "scale", nil, 1.0714},
		{"N7", "per-plant-per-hectare", "kgPerHa", nil, 99.1},
		{"Y2", "canopy-spread", "inRow", nil, 4.382},
		{"Y2", "canopy-spread", "acrossRows", nil, 7.845},
		{"Y8", "clump-cover", "cover", nil, 0.4204},
		{"Y9", "stand-of-ages", "kg", nil, 10824},
		{"FAO 29", "salinity-yield", "left", nil, 0.792},
		{"Y10", "yield-limits", "t", nil, 13.2696},
		{"Hoblyn et al.", "alternate-bearing", "intensity", nil, 0.49167},
		{"Y11", "cuts-of-a-year", "cuts", nil, 5},
		{"S6", "work-that-comes-back", "times", nil, 9},
		{"S2", "after-what-was-noted", "movedDays", map[string]any{"noted": "2027-02-20"}, 9},
		{"S10 person-days", "crew-levelling", "personDays", nil, 79},
		{"S10 crew of eight: none late", "crew-levelling", "late", nil, 0},
		{"S8 lead 365, transport 7, safety 14", "order-by", "days", nil, 386},
		{"S5 sow 240 days before the field", "nursery-chain", "days", nil, 240},
		{"Guenther 1 and 5 %", "delivery-sample", "sample", nil, 132},
		{"Guenther 1 and 5 %, at most", "delivery-sample", "most", nil, 3},
		{"L1 3400 plants at 45 an hour", "labour-hours", "hours", nil, 75.56},
		{"L1 people for four days of seven hours", "labour-hours", "people", nil, 3},
		{"L1 days they need", "labour-hours", "daysNeeded", nil, 3.598},
		{"S11 35 days with 7 together", "staggered-plantings", "everyDays", nil, 28},
		{"S11 N 24, b 8, m 2", "staggered-plantings", "blocks", nil, 3},
		{"S3 the commuters against a shorter fourth", "bound-days", "short", map[string]any{"rules": []any{map[string]any{"from": 0.0, "to": 1.0, "least": 10.0},
			map[string]any{"from": 0.0, "to": 1.0, "most": 4.0}}}, 6},
		{"willow sheet, first harvest 18 odt/ha", "yield-by-age", "baseKgPerHa", map[string]any{"sheet": "willow", "ageYear": 4.0}, 18000},
	} {
		res, ok, err := r.Run(c.name, c.in)
		if !ok || err != nil {
			t.Errorf("%s: %v", c.source, err)
			continue
		}
		got, isNum := res.Outputs[c.out].(float64)
		if n, isInt := res.Outputs[c.out].(int); isInt {
			got, isNum = float64(n), true
		}
		if !isNum || math.Abs(got-c.want) > 1e-3*math.Max(1e-9, math.Abs(c.want)) {
			t.Errorf("%s: %v, want %g", c.source, res.Outputs[c.out], c.want)
		}
		if len(res.Working) == 0 {
			t.Errorf("%s shows no working", c.name)
		}
	}
	// every output named in the list is given
	for _, c := range r.All() {
		in := map[string]any{"rings": square, "stations": 10.0, "sheet": "tea", "ph": 5.5}
		for k := range in {
			found := false
			for _, f := range c.Inputs {
				found = found || f.Name == k
			}
			if !found {
				delete(in, k)
			}
		}
		res, _, err := r.Run(c.Name, in)
		if err != nil {
			t.Fatal(err)
		}
		for _, o := range c.Outputs {
			if _, ok := res.Outputs[o.Name]; !ok {
				t.Errorf("%s never gives %s", c.Name, o.Name)
			}
		}
	}
}

func TestRefusedInputs(t *testing.T) {
	r := registry(t)
	for _, c := range []struct {
		name, field, say string
		in               map[string]any
	}{
		{"planting-density", "inputs.plantSpacingM", "outside", map[string]any{"plantSpacingM": 0.0}},
		{"planting-density", "inputs.pattern", "not one of", map[string]any{"pattern": "spiral"}},
		{"planting-density", "inputs.twinGapM", "smaller", map[string]any{"pattern": "twin", "rowSpacingM": 0.5}},
		{"planting-density", "inputs.rowSpacing", "not an input", map[string]any{"rowSpacing": 3.0}},
		{"plants-to-order", "inputs.stations", "missing", nil},
		{"plants-to-order", "inputs.stations", "whole", map[string]any{"stations": 1.5}},
		{"plants-to-order", "inputs.stations", "not a number", map[string]any{"stations": "many"}},
		{"plants-to-order", "inputs.pollinizerStations", "more than", map[string]any{"stations": 5.0, "pollinizerStations": 6.0}},
		{"polygon-area", "inputs.rings", "list of rings", map[string]any{"rings": "here"}},
		{"polygon-area", "inputs.rings", "point 2", map[string]any{"rings": []any{[]any{[]any{10.0, 45.0}, []any{10.0}}}}},
		{"polygon-area", "inputs.rings", "swapped", map[string]any{"rings": []any{[]any{[]any{-38.0, 175.0}, []any{-38.1, 175.0}, []any{-38.1, 175.1}}}}},
		{"yield-by-age", "inputs.ageYear", "beyond", map[string]any{"sheet": "willow", "ageYear": 40.0}},
		{"yield-by-age", "inputs.sheet", "missing", nil},
		{"texture-class", "inputs.sandPct", "whole", map[string]any{"sandPct": 10.0}},
		{"available-water", "inputs.layers", "row 1 has no bottomCm", map[string]any{"layers": []any{map[string]any{"topCm": 0.0}}}},
		{"available-water", "inputs.layers", "no column", map[string]any{"layers": []any{map[string]any{"topCm": 0.0, "bottomCm": 30.0, "fieldCapacity": 0.3,
			"wiltingPoint": 0.1, "colour": "red"}}}},
		{"chill", "inputs.hourly[1]", "outside", map[string]any{"hourly": []any{5.0, 500.0}}},
		{"chill", "inputs.hourly", "list", map[string]any{"hourly": "cold"}},
		{"waiting-time", "inputs.today", "not a day", map[string]any{"today": "tomorrow"}},
		{"liming-product", "inputs.neutralisingPct", "not analysed", map[string]any{"caoPct": 0.0, "mgoPct": 0.0}},
		{"gypsum", "inputs.ph", "acid", map[string]any{"ph": 5.0}},
		{"sulphur", "inputs.ph", "table", map[string]any{"ph": 7.5}},
		{"lime-requirement", "inputs.ph", "no school", nil},
		{"amendment-basis", "inputs.litresPerM2", "three times", map[string]any{"recommendedTPerHa": 10.0}},
		{"degree-days", "inputs.tmaxC", "below", map[string]any{"tminC": 30.0}},
		{"drain-depth", "inputs.layerM", "no deeper", map[string]any{"layerM": 0.6}},
		{"drain-spacing", "inputs.hM", "above the water table", map[string]any{"hM": -0.2}},
		{"raised-bed", "inputs.centreM", "overlap", map[string]any{"centreM": 0.7}},
		{"long-section", "inputs.ground", "rise", map[string]any{"ground": []any{map[string]any{"sM": 5.0, "groundM": 1.0}, map[string]any{"sM": 4.0,
			"groundM": 1.0}}}},
		{"effective-depth", "inputs.barriers", "cannot be removed", map[string]any{"barriers": []any{map[string]any{"kind": "rock", "depthCm": 50.0,
			"removed": "yes"}}}},
	} {
		_, ok, err := r.Run(c.name, c.in)
		var fe *finding.FieldError
		if !ok || !errors.As(err, &fe) || fe.Field != c.field || !strings.Contains(fe.Rule, c.say) || fe.Accepted == "" {
			t.Errorf("%s %v: %v", c.name, c.in, err)
		}
	}
	for _, c := range []struct {
		name, out, want string
		in              map[string]any
	}{
		{"texture-class", "class", "loam", nil}, {"drainage-class", "class", "moderately well drained", nil}, {"frost-pocket", "judgement", "high",
			map[string]any{"barrierBelow": "with a gap kept"}},
		{"suitability", "class", "S3", nil}, {"waiting-time", "earliest", "2029-09-01", nil}, {"waiting-time", "latest", "2032-09-01", nil},
		{"season-word", "season", "winter", nil},
		{"flowering-to-harvest", "harvestFrom", "2027-01-31", nil}, {"lime-requirement", "default", "target-ph", map[string]any{"ph": 5.4}},
		{"liming-product", "kind", "dolomitic", nil}, {"rainy-season", "found", "found", nil}, {"drain-remedy", "first", "gridiron", nil}, {"drain-remedy", "first",
			"interceptor", map[string]any{"source": "seepage", "slopePct": 6.0}}, {"drain-remedy", "first", "beds", map[string]any{"kMDay": 0.01}},
		{"drain-depth", "binding", "outlet", nil},
	} {
		res, _, err := r.Run(c.name, c.in)
		if err != nil || res.Outputs[c.out] != c.want {
			t.Errorf("%s: %v %v, want %s", c.name, res.Outputs[c.out], err, c.want)
		}
	}
	if fires, _, err := r.Run("drought-trigger", nil); err != nil || len(fires.Outputs["waterOn"].([]float64)) != 6 {
		t.Errorf("%v %v", fires.Outputs, err)
	}
	if _, ok, _ := r.Run("fortune-telling", nil); ok {
		t.Error("an unknown calculator answered")
	}
}

// Sides against geodesics of GeographicLib: GeodSolve -i gives 263.4974 and 258.1454 m.
func TestSidesOfALine(t *testing.T) {
	r, _, err := registry(t).Run("side-lengths", map[string]any{})
	if err != nil {
		t.Fatal(err)
	}
	s := r.Outputs["sidesM"].([]float64)
	if len(s) != 2 || math.Abs(s[0]-263.4974) > 0.01 || math.Abs(s[1]-258.1454) > 0.01 {
		t.Errorf("%v", s)
	}
	one := map[string]any{"lon": 10.0, "lat": 45.0}
	for _, points := range [][]any{{one}, {one, map[string]any{"lon": 11.0, "lat": 45.0}}} {
		if _, _, err := registry(t).Run("side-lengths", map[string]any{"points": points}); err == nil {
			t.Errorf("%v has sides", points)
		}
	}
}

// What the planning calculators give in series: the commuters' table of method S3, the crews of S10, the chain of S5 and the
// plantings of S11, to the day.
func TestPlanningInSeries(t *testing.T) {
	r := registry(t)
	for _, of := range []struct {
		name string
		in   map[string]any
		out  string
		want string
	}{
		{"bound-days", nil, "earliest", "[10 40 20 60]"},
		{"bound-days", nil, "latest", "[20 50 30 70]"},
		{"crew-levelling", nil, "start", "[1 1 7 7 10]"},
		{"crew-levelling", nil, "end", "[6 3 10 9 14]"},
		{"crew-levelling", map[string]any{"crew": 6.0}, "start", "[1 7 10 7 14]"},
		{"nursery-chain", nil, "safe", "2026-10-04, 2026-10-24, 2026-11-18, 2027-02-01"},
		{"nursery-chain", nil, "hopeful", "2026-10-17, 2026-10-29, 2026-11-18, 2027-02-01"},
		{"staggered-plantings", nil, "planted", "2027-03-20, 2027-04-17, 2027-05-15, 2027-06-12, 2027-07-10"},
		{"staggered-plantings", nil, "picked", "2027-06-18 to 2027-07-22, 2027-07-16 to 2027-08-19, 2027-08-13 to 2027-09-16, 2027-09-10 to 2027-10-14, 2027-10-08 to 2027-11-11"},
		{"order-by", nil, "by", "2026-03-30"},
	} {
		got, ok, err := r.Run(of.name, of.in)
		if err != nil || !ok {
			t.Fatalf("%s: %v", of.name, err)
		}
		if s := fmt.Sprint(got.Outputs[of.out]); s != of.want {
			t.Errorf("%s, %s: %s, want %s", of.name, of.out, s, of.want)
		}
	}
}
