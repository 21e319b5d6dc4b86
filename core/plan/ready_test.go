package plan

import (
	"math"
	"slices"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// Of every crop that waits for warm soil: planted in a month whose mean lies well below what is wanted it is told so, and
// the day offered is one on which the same year is warm enough; planted in a month well above, it is not told. A look that
// was had and answered counts for more than the climate. The look is a job before planting, bound with the others.
func TestPlantingWaitsForTheSoil(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	// a continental year in the north, its means the same on both sides of its coldest and warmest month
	means := [12]float64{-4, -2, 3, 9, 14, 19, 22, 21, 16, 10, 4, -1}
	asked := 0
	for _, s := range l.Whole() {
		at := func(south bool, day civil.Date) Input {
			in := input(t, "hazelnut")
			in.Estate.Seasons = schedule.Temperate(south)
			in.Today = day.AddMonths(-30)
			in.Sheet = s
			in.Block.Planting = &document.Planting{Sheet: s.ID}
			Complete(&in.Block, in.Estate, l.Get, in.Today)
			in.Block.Planting.Date = day
			site := climate.Site{HasMonths: true, RainMM: 800}
			for i := range site.Months {
				k := i
				if south {
					k = (i + 6) % 12
				}
				site.Months[i] = climate.Month{MeanC: means[k], MinC: means[k] - 5, MaxC: means[k] + 5, RainMM: 65, RH: math.NaN(), Wind: math.NaN(), Sun: math.NaN()}
			}
			in.Climate = &site
			return in
		}
		for _, south := range []bool{false, true} {
			cold, hot := civil.Must(2028, 1, 20), civil.Must(2028, 7, 10)
			if south {
				cold, hot = civil.Must(2028, 7, 20), civil.Must(2028, 1, 10)
			}
			p := compute(t, at(south, cold))
			n := notes(p, "planting.cold-soil")
			if (n != nil) != (s.Ready.SoilC > 0) {
				t.Errorf("%s, south %v, planted on %s: told %v", s.ID, south, cold, n != nil)
			}
			look := slices.IndexFunc(p.Jobs, func(j report.Job) bool { return j.Key == practice.ReadyOp })
			if (look >= 0) != (s.Ready.Ask != "") || look >= 0 && (!p.Jobs[look].Preparation || !p.Jobs[look].By.Before(cold)) {
				t.Errorf("%s: the look before planting is not there as it should", s.ID)
			}
			if notes(compute(t, at(south, hot)), "planting.cold-soil") != nil {
				t.Errorf("%s, south %v: told of cold soil on %s", s.ID, south, hot)
			}
			if n == nil {
				continue
			}
			asked++
			offered, err := civil.Parse(n.Remedies[0].Patch["planting"].(map[string]any)["date"].(string))
			if err != nil || !offered.After(cold) || notes(compute(t, at(south, offered)), "planting.cold-soil") != nil {
				t.Errorf("%s, south %v: offered %s, %v", s.ID, south, offered, err)
			}
			in := at(south, cold)
			in.Today = cold.AddDays(-1)
			in.Records = []record.Record{{ID: "r", Planting: in.Block.Planting.ID, Kind: record.Done, Operation: practice.ReadyOp, Day: cold.AddDays(-2)}}
			if notes(compute(t, in), "planting.cold-soil") != nil {
				t.Errorf("%s: somebody measured, and is told of the climate", s.ID)
			}
		}
	}
	if asked != 20 {
		t.Errorf("%d times planted too cold, 10 crops in both hemispheres wait for the soil", asked)
	}
}

// Young plants that bear no frost: the risk after the day meant, from thirty years of last frosts, and the day after which one
// year in ten still has one. Crops that need weeks of rain to come are told when the rains end too soon.
func TestPlantingWaitsForFrostAndRain(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	var days []float64
	for i := range 30 {
		days = append(days, 90+float64(i)) // 31 March to 29 April
	}
	risk, err := climate.FrostDates{Days: days, Years: 30}.Spring(0.10)
	if err != nil {
		t.Fatal(err)
	}
	tender := 0
	for _, s := range l.Whole() {
		at := func(day civil.Date, rains []schedule.Rain) Input {
			in := input(t, "hazelnut")
			in.Estate.Seasons, in.Estate.Rains = schedule.Temperate(false), rains
			in.Today = day.AddMonths(-30)
			in.Sheet = s
			in.Block.Planting = &document.Planting{Sheet: s.ID}
			Complete(&in.Block, in.Estate, l.Get, in.Today)
			in.Block.Planting.Date = day
			in.Climate = &climate.Site{LastFrost: risk, HasFrost: true}
			return in
		}
		early, late := notes(compute(t, at(civil.Must(2028, 4, 5), nil)), "planting.frost"), notes(compute(t, at(civil.Must(2028, 5, 10), nil)), "planting.frost")
		if (early != nil) != s.Ready.Tender || late != nil {
			t.Errorf("%s: told of frost on 5 April %v, on 10 May %v", s.ID, early != nil, late != nil)
		}
		if early != nil {
			tender++
		}
		rains := []schedule.Rain{{From: "06-10", To: "10-05"}}
		for day, want := range map[civil.Date]bool{civil.Must(2028, 6, 20): false, civil.Must(2028, 9, 20): true, civil.Must(2028, 12, 1): true} {
			if got := notes(compute(t, at(day, rains)), "planting.rain-ahead") != nil; got != (want && s.Ready.RainWeeks > 0) {
				t.Errorf("%s, %s: told of the end of the rains %v", s.ID, day, got)
			}
		}
	}
	if tender != 6 {
		t.Errorf("%d crops are tender", tender)
	}
	if from, to, ok := (schedule.Rain{From: "11-01", To: "03-15"}).Around(civil.Must(2028, 2, 3)); !ok || from != civil.Must(2027, 11, 1) || to != civil.Must(2028, 3, 15) {
		t.Errorf("rains over the turn of the year: %s to %s, %v", from, to, ok)
	}
}
