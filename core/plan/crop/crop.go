// Package crop is the part of a plan that builds the years of a planting up: what stands, how large it is, what it bears and
// what it is fed.
package crop

import (
	"fmt"
	"math"
	"strconv"

	"slowroot/core/canopy"
	"slowroot/core/civil"
	"slowroot/core/nutrition"
	"slowroot/core/plan/growth"
	"slowroot/core/plan/rows"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
	"slowroot/core/yield"
)

// In is what the years are built from.
type In struct {
	Grown  growth.Result
	Rows   rows.Result
	AreaM2 float64 // of the block
	Book   record.Book

	Standing bool // plants stand, or stood
}

// Result is the years, and the nutrients given in them.
type Result struct {
	Years     []Year
	Nutrients []string
}

// Year is one age year on the estate's season calendar.
type Year struct {
	Age       int                `json:"age"`
	Season    int                `json:"season"` // calendar year the season starts in
	Label     string             `json:"label"`
	Start     civil.Date         `json:"start"`
	PerHa     yield.Range        `json:"perHa"` // kg per planted hectare
	BlockKg   yield.Range        `json:"blockKg"`
	PickedKg  float64            `json:"pickedKg"` // recorded; meaningful only with Recorded
	Recorded  bool               `json:"recorded"`
	Alive     float64            `json:"alive"` // expected share of stations
	Plants    int                `json:"plants"`
	SpreadM   float64            `json:"spreadM"`
	HeightM   float64            `json:"heightM"`
	Cover     float64            `json:"cover"`     // share of the planted ground under crowns
	AlleyM    float64            `json:"alleyM"`    // clear between the crowns of two rows
	FeedPerHa map[string]float64 `json:"feedPerHa"` // kg per planted hectare
	FeedKg    map[string]float64 `json:"feedKg"`
	FeedG     map[string]float64 `json:"feedG"` // g per living plant
	Harvests  []Harvest          `json:"harvests"`
	Jobs      int                `json:"jobs"`
}

// Harvest is one dated harvest.
type Harvest struct {
	Name    string      `json:"name"`
	From    civil.Date  `json:"from"`
	To      civil.Date  `json:"to"`
	Rounds  string      `json:"rounds"`
	Days    []int       `json:"-"` // from planting, where it is dated so
	Bloomed civil.Date  `json:"-"` // full bloom as it was recorded, which moved it; zero where it was not
	BlockKg yield.Range `json:"blockKg"`
}

// Build builds yield, stand, canopy and feeding to the end of life.
func Build(in In, say *report.Voice) Result {
	var r Result
	density := in.Rows.Spec.StationsPerHa()
	series := yield.Series(in.Grown.Curve, in.Grown.Harvest, in.Grown.Sheet.Stand, yield.Block{
		// Thinned layouts carry their thinning in the curve, whose reference is the dense stand.
		PlantsPerHa: func(int) float64 { return density }, Life: in.Grown.Life})
	r.Nutrients = in.Grown.Feed.Nutrients()
	area := in.AreaM2 / 1e4
	r.Years = make([]Year, 0, len(series))
	for _, y := range series {
		if l := in.Grown.Late; l != nil {
			y.KgPerHa = y.KgPerHa.Times(l.Factor)
		}
		season := in.Grown.First + y.Age - 1
		stations := in.Rows.Placed.Stations
		if in.Rows.OutAge > 0 && y.Age > in.Rows.OutAge {
			stations -= in.Rows.Placed.Temporary
		}
		if in.Rows.LaterAge > 0 && y.Age > in.Rows.LaterAge {
			stations -= in.Rows.Placed.Later
		}
		out := Year{Age: y.Age, Season: season, Label: in.Grown.Seasons.Label(season), Start: in.Grown.Seasons.Start(season),
			PerHa: y.KgPerHa, BlockKg: y.KgPerHa.Times(in.Rows.PlantedHa), Alive: y.Alive, Plants: int(math.Round(float64(stations) * y.Alive)),
			SpreadM: in.Grown.Canopy.SpreadM(float64(y.Age)), FeedPerHa: map[string]float64{}, FeedKg: map[string]float64{}, FeedG: map[string]float64{},
			Harvests: []Harvest{}}
		out.HeightM = in.Grown.Canopy.HeightM * math.Min(1, out.SpreadM/math.Max(0.01, in.Grown.Canopy.SpreadM(float64(in.Grown.Life))))
		out.Cover, out.AlleyM = in.cover(y.Age, out.SpreadM)
		out.PickedKg = in.Book.PickedKg[season]
		_, out.Recorded = in.Book.PickedKg[season]
		for _, k := range r.Nutrients {
			amount := in.Grown.Feed.At(k, y.Age, y.KgPerHa.Base)
			d := in.Grown.Feed.Dose(amount, nutrition.Stand{AliveN: float64(out.Plants), AreaHa: in.Rows.PlantedHa})
			out.FeedPerHa[k], out.FeedKg[k], out.FeedG[k] = d.KgPerHa, d.BlockKg, d.GPerPlant
			in.feedWorking(say, k, amount, d, y, out)
		}
		if y.KgPerHa.Base > 0 {
			for _, pick := range in.Grown.Harvest.Picks {
				a, b, bloomed := in.Grown.Ripens(pick, y.Age)
				out.Harvests = append(out.Harvests, Harvest{Name: pick.Name, From: a, To: b, Rounds: pick.Rounds, Days: pick.Days, Bloomed: bloomed,
					BlockKg: out.BlockKg.Times(pick.Share)})
			}
		}
		in.yieldWorking(say, y, out, density, area)
		r.Years = append(r.Years, out)
	}
	return r
}

// cover is the share of the ground under crowns at an age, and what is left clear between the rows: on the lattice as it then stands.
func (in In) cover(age int, spreadM float64) (share, alleyM float64) {
	spec := in.Rows.Spec
	across, along := spec.RowSpacingM, spec.PlantSpacingM
	clear := spec.RowSpacingM - float64(spec.Group()-1)*spec.TwinGapM
	for stage, out := range []int{in.Rows.OutAge, in.Rows.LaterAge} {
		if left, ok := spec.Left(stage + 1); out > 0 && age > out && ok {
			along, across = left.XM, left.YM
			if clear = left.YM; left.Turned {
				clear = left.XM / math.Sqrt2
			}
		}
	}
	share = canopy.Cover(spreadM, along, across)
	// each further row of a group adds what it covers by itself, and no more than the ground between it and the one before
	share = math.Min(1, share+float64(spec.Group()-1)*math.Min(share, spec.TwinGapM/spec.RowSpacingM))
	return share, math.Max(0, clear-spreadM)
}

func (in In) yieldWorking(say *report.Voice, y yield.Year, out Year, density, areaHa float64) {
	path := "yield." + strconv.Itoa(out.Season)
	if say.On(path) {
		formula := "full yield × fraction by age × density factor × stand factor"
		sub := fmt.Sprintf("%g × %.3f × %.3f × %.3f", in.Grown.Curve.Full.Base, y.Fraction, y.Density, y.Stand)
		if in.Grown.Harvest.Cycle != nil {
			formula += " × pruning cycle"
			sub += fmt.Sprintf(" × %.2f", y.Cycle)
		}
		if in.Grown.Harvest.Rotation != nil {
			formula += " × years of growth taken"
			sub += fmt.Sprintf(" × %d", y.Growth)
		}
		if l := in.Grown.Late; l != nil && l.Factor < 1 {
			formula += " × what the day of planting leaves"
			sub += fmt.Sprintf(" × %.3f", l.Factor)
		}
		say.Step(path, fmt.Sprintf("Yield of age year %d, per planted hectare", y.Age), formula, sub, y.KgPerHa.Base, in.Grown.YieldAs,
			"methods Y6 to Y9; "+practice.OriginWords(in.Grown.Curve.Origin)+": "+in.Grown.Curve.Source,
			say.Num("full yield", in.Grown.Curve.Full.Base, in.Grown.YieldAs, working.Sheet, fmt.Sprintf("seen at %.0f plants/ha; low %s, high %s",
				in.Grown.Curve.ReferencePerHa, say.Text(in.Grown.Curve.Full.Low, in.Grown.YieldAs), say.Text(in.Grown.Curve.Full.High, in.Grown.YieldAs)), ""),
			say.Num("fraction of full", y.Fraction, units.Fraction, working.Sheet, practice.OriginWords(in.Grown.Curve.Origin), ""),
			say.Num("expected alive", y.Alive, units.Fraction, working.Sheet, practice.OriginWords(in.Grown.Sheet.Stand.Origin), ""))
		say.Step(path, "Density factor", "r / ((1 − k) + k·r), r = density / reference, k = crowding × fraction of full",
			fmt.Sprintf("%.5f / ((1 − %.5f) + %.5f·%.5f)", density/in.Grown.Curve.ReferencePerHa, in.Grown.Curve.Crowding*y.Fraction,
				in.Grown.Curve.Crowding*y.Fraction, density/in.Grown.Curve.ReferencePerHa),
			y.Density, units.Correction, "Shinozaki & Kira, J. Inst. Polytech. Osaka City Univ. D7, 1956; crowding is assumed", say.Num("density by spacing", density,
				units.PerArea, working.Computed, "", "rows.density"))
		say.Step(path, "For the block", "yield per planted hectare × planted area", fmt.Sprintf("%.2f × %.6f ha", y.KgPerHa.Base, in.Rows.PlantedHa),
			out.BlockKg.Base, in.Grown.MassAs, "edges and row ends carry no crop",
			say.Num("planted area", in.Rows.PlantedHa*1e4, units.Area, working.Computed, "", "rows.planted"))
	}
}

func (in In) feedWorking(say *report.Voice, k string, amount float64, d nutrition.Dose, y yield.Year, out Year) {
	path := "feed." + k + "." + strconv.Itoa(out.Season)
	if !say.On(path) {
		return
	}
	name := nutrition.Names[k]
	if in.Grown.Feed.Basis == nutrition.PerPlant {
		say.Step(path, name+" for the block", "g per plant at this age × living plants / 1000", fmt.Sprintf("%.3f × %d / 1000", amount, out.Plants), d.BlockKg,
			units.MassKg,
			"methods N3 school A, N7; "+practice.OriginWords(in.Grown.Feed.Origin)+": "+in.Grown.Feed.Source,
			say.Num("dose at this age", amount, units.PlantDose, working.Sheet, practice.OriginWords(in.Grown.Feed.Origin), ""), say.Num("living plants expected",
				float64(out.Plants), units.Count, working.Computed, "", "rows.stations"))
	} else {
		say.Step(path, name+" for the block", "kg per planted hectare at this age × planted area", fmt.Sprintf("%.3f × %.6f ha", amount, in.Rows.PlantedHa),
			d.BlockKg, units.MassKg,
			"methods N3, N7; "+practice.OriginWords(in.Grown.Feed.Origin)+": "+in.Grown.Feed.Source,
			say.Num("rate at this age", amount, units.Rate, working.Sheet, practice.OriginWords(in.Grown.Feed.Origin), ""), say.Num("planted area",
				in.Rows.PlantedHa*1e4, units.Area, working.Computed, "", "rows.planted"))
	}
	sum, parts := 0.0, ""
	for _, s := range in.Grown.Feed.Splits {
		if sh := s.Shares[k]; sh > 0 {
			sum += sh * d.BlockKg
			if parts != "" {
				parts += " + "
			}
			parts += fmt.Sprintf("%.1f (%s)", sh*d.BlockKg, s.Name)
		}
	}
	say.Tell(working.Series, path, "Splits of the year", "Σ share × annual = annual", parts, sum, units.MassKg, "method N5: the shares sum to 1")
}
