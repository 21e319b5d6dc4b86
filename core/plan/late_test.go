package plan

import (
	"math"
	"slices"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// A tenth of a strawberry crop is lost for each week after the tenth day of the season its winters ask for (common practice,
// no source; straight from the tenth day is assumed), in both hemispheres and all winters; what is left is what every year
// bears; the day the program offers instead loses nothing. Of canes out of the cold store a batch of each month bears what
// practice gives it. Other crops know of no such loss.
func TestPlantedLate(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	at := func(id, winters, day string, south bool) Input {
		in := input(t, "hazelnut")
		in.Estate.Seasons = schedule.Temperate(south)
		in.Sheet, _ = l.Get(id)
		in.Today = civil.Must(2026, 1, 10)
		in.Block.Planting = &document.Planting{Sheet: id, Choices: map[string]document.Choice{}}
		if winters != "" {
			in.Block.Planting.Choices["winters"] = document.Choice{Option: winters}
		}
		Complete(&in.Block, in.Estate, l.Get, in.Today)
		d, err := civil.Parse(day)
		if err != nil {
			t.Fatal(err)
		}
		in.Block.Planting.Date = d
		return in
	}
	for _, c := range []struct {
		sheet, winters, day string
		south               bool
		want                float64
	}{
		{"strawberry", "middle", "2027-08-20", false, 1}, {"strawberry", "middle", "2027-09-11", false, 1}, {"strawberry", "middle", "2027-09-18", false, 0.9},
		{"strawberry", "middle", "2027-10-06", false, 1 - 25.0/70}, {"strawberry", "middle", "2027-11-20", false, 0}, {"strawberry", "middle", "2027-12-30", false,
			0},
		{"strawberry", "cold", "2027-09-04", false, 1 - 24.0/70}, {"strawberry", "mild", "2027-10-06", false, 1}, {"strawberry", "mild", "2027-10-25", false,
			1 - 14.0/70},
		{"strawberry", "middle", "2027-03-18", true, 0.9}, {"strawberry", "middle", "2027-02-20", true, 1},
		{"raspberry", "", "2027-03-16", false, 0.9}, {"raspberry", "", "2027-04-10", false, 1}, {"raspberry", "", "2027-05-31", false, 1},
		{"raspberry", "", "2027-06-16", false, 0.9}, {"raspberry", "", "2027-07-16", false, 0.75},
	} {
		in := at(c.sheet, c.winters, c.day, c.south)
		p := compute(t, in)
		if p.Late == nil || math.Abs(p.Late.Factor-c.want) > 1e-9 {
			t.Errorf("%s, %s, %s: %+v, wanted %g", c.sheet, c.winters, c.day, p.Late, c.want)
			continue
		}
		whole := at(c.sheet, c.winters, c.day, c.south)
		whole.Block.Planting.Date = p.Late.Best
		q := compute(t, whole)
		if q.Late.Factor != 1 {
			t.Errorf("%s, %s, %s: %s is offered and leaves %g", c.sheet, c.winters, c.day, p.Late.Best, q.Late.Factor)
		}
		for i := range p.Years {
			if i < len(q.Years) && math.Abs(p.Years[i].PerHa.Base-c.want*q.Years[i].PerHa.Base) > 1e-6 {
				t.Errorf("%s, %s, %s: year %d bears %g, planted in time %g", c.sheet, c.winters, c.day, i+1, p.Years[i].PerHa.Base, q.Years[i].PerHa.Base)
			}
		}
		n := notes(p, "planting.late")
		if (n != nil) != (c.want < 1) {
			t.Errorf("%s, %s, %s: told of it %v", c.sheet, c.winters, c.day, n != nil)
		}
		if n != nil && (len(n.Remedies) < 1 || n.Remedies[0].Label != "Plant on "+p.Late.Best.Words() || n.Weight != finding.Watch && p.Late.Days >= 14 &&
			c.sheet == "strawberry") {
			t.Errorf("%s, %s: %s, %+v", c.sheet, c.day, n.Weight, n.Remedies)
		}
	}
	if p := compute(t, at("strawberry", "middle", "2027-04-01", false)); p.Late != nil {
		t.Errorf("planted in spring: %+v; practice says what a late day costs, not another season", p.Late)
	}
	for _, s := range l.Whole() {
		if s.ID != "strawberry" && s.ID != "raspberry" && s.LatenessOf(s.Resolve(nil)) != nil {
			t.Errorf("%s: who says what a late day costs?", s.ID)
		}
	}
}

// Work after planting whose days have passed within sixty days, with nothing said of it, is late; what is done, not needed,
// still to come, long past or before planting is not.
func TestWorkIsLate(t *testing.T) {
	in := input(t, "hazelnut")
	in.Block.Planting.Date = civil.Must(2024, 3, 20)
	in.Today = civil.Must(2027, 10, 1)
	p := compute(t, in)
	seen := map[bool]int{}
	for _, j := range p.Jobs {
		want := !j.Preparation && j.Done.IsZero() && j.By.Before(in.Today) && in.Today.Sub(j.By) <= 60
		if j.Late != want {
			t.Errorf("%s, until %s: late %v", j.Key, j.By, j.Late)
		}
		seen[j.Late]++
	}
	if seen[true] == 0 || seen[false] == 0 {
		t.Fatalf("late and not: %v", seen)
	}
	i := slices.IndexFunc(p.Jobs, func(j report.Job) bool { return j.Late })
	key := p.Jobs[i].Key
	in.Records = []record.Record{{ID: "r", Planting: in.Block.Planting.ID, Kind: record.Done, Operation: key, Day: in.Today}}
	p = compute(t, in)
	if i = slices.IndexFunc(p.Jobs, func(j report.Job) bool { return j.Key == key }); i < 0 || p.Jobs[i].Late {
		t.Errorf("%s is done and late", key)
	}
}
