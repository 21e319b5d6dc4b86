package plan

import (
	"maps"
	"slices"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan/network"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// planted is the plan of a crop at a place with planting on a day; the zero day is the one proposed.
func planted(t *testing.T, l *practice.Library, s *practice.Sheet, place string, on civil.Date, change func(*Input)) *Plan {
	t.Helper()
	in := input(t, "hazelnut")
	in.Estate.Seasons, in.Estate.Rains, in.Sheet = schedule.Temperate(places[place].south), places[place].rains, s
	in.Block.Planting = &document.Planting{Sheet: s.ID, Date: on}
	Complete(&in.Block, in.Estate, l.Get, in.Today)
	if change != nil {
		change(&in)
	}
	return compute(t, in)
}

// Every crop at every place: planted in good time its jobs fit and each lies behind what it waits for; planted next month
// the rules that cannot be kept are named; and the first day it says planting can be is the first.
func TestTheNetworkOfEveryCrop(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	early, within := 0, 0
	for _, s := range l.Whole() {
		for _, place := range slices.Sorted(maps.Keys(places)) {
			in := input(t, "hazelnut")
			good := planted(t, l, s, place, in.Today.AddMonths(42), nil)
			checkNetwork(t, s.ID+", "+place, good)
			within += inItsTime(t, s, place, good)
			n := good.Network
			if len(n.Jobs) < 3 || len(n.Conflicts) > 0 {
				t.Errorf("%s, %s: %d jobs are bound, conflicts %v", s.ID, place, len(n.Jobs), n.Conflicts)
				continue
			}
			soon := planted(t, l, s, place, in.Today.AddDays(20), nil)
			checkNetwork(t, s.ID+" soon, "+place, soon)
			if len(soon.Network.Conflicts) == 0 {
				continue // a crop that can be planted next month
			}
			early++
			c := soon.Network.Conflicts[0]
			if c.Short <= 0 || !said(t, c.Sentence) {
				t.Errorf("%s, %s: %+v", s.ID, place, c)
			}
			free := soon.Network.Free
			if at := planted(t, l, s, place, free, nil); len(at.Network.Conflicts) > 0 {
				t.Errorf("%s, %s: on %s, the first day it can be, %s", s.ID, place, free, at.Network.Conflicts[0].Sentence)
			}
			if before := planted(t, l, s, place, free.AddDays(-4), nil); len(before.Network.Conflicts) == 0 {
				t.Errorf("%s, %s: four days before the first day it can be, %s, nothing is in the way", s.ID, place, free)
			}
		}
	}
	if within < 70 {
		t.Errorf("%d jobs have a time of the year", within)
	}
	if early < 60 {
		t.Errorf("planting next month is refused %d times only", early)
	}
}

// inItsTime holds every job of a plan without conflicts to the time of the year its sheet gives it, and counts them.
func inItsTime(t *testing.T, s *practice.Sheet, place string, p *Plan) int {
	t.Helper()
	e := document.Estate{Seasons: schedule.Temperate(places[place].south), Rains: places[place].rains}
	seasons, err := e.Calendar()
	if err != nil {
		t.Fatal(err)
	}
	s, seasons = bySeasons(s, seasons)
	ops, n := map[string]schedule.Operation{}, 0
	for _, o := range s.Operations(s.Resolve(nil)) {
		ops[o.ID] = o
	}
	for _, j := range p.Network.Jobs {
		w := ops[j.Key].Within
		if w == nil || len(w.Season) == 0 {
			continue
		}
		n++
		for _, d := range []civil.Date{j.Earliest, j.Latest, j.Planned} {
			if w.Next(seasons, d) != d {
				t.Errorf("%s, %s: %s on %s, not %s", s.ID, place, j.Name, d, w.Words())
			}
		}
	}
	return n
}

// checkNetwork holds a network to itself: days inside their bounds, each job behind what it waits for.
func checkNetwork(t *testing.T, what string, p *Plan) {
	t.Helper()
	planned := map[string]civil.Date{}
	for _, j := range p.Network.Jobs {
		planned[j.Key] = j.Planned
	}
	for _, j := range p.Network.Jobs {
		if j.Slack != j.Latest.Sub(j.Earliest) || j.Tight != (j.Done.IsZero() && j.Key != network.PlantingKey && j.Slack <= 7) {
			t.Errorf("%s: %+v", what, j)
		}
		if j.Done.IsZero() && j.Slack >= 0 && j.Key != network.PlantingKey && (j.Planned.Before(j.Earliest) || j.Planned.After(j.Latest)) {
			t.Errorf("%s: %s is planned for %s, it can be from %s to %s", what, j.Name, j.Planned, j.Earliest, j.Latest)
		}
		for _, w := range j.Waits {
			if len(p.Network.Conflicts) == 0 && planned[w.Key].After(j.Planned) {
				t.Errorf("%s: %s on %s waits for %s on %s", what, j.Name, j.Planned, w.Name, planned[w.Key])
			}
		}
	}
}

// bound finds a job of the network.
func bound(t *testing.T, p *Plan, key string) network.Job {
	t.Helper()
	i := slices.IndexFunc(p.Network.Jobs, func(j network.Job) bool { return j.Key == key })
	if i < 0 {
		t.Fatalf("no job %s in the network", key)
	}
	return p.Network.Jobs[i]
}

// When the soil test slips, what waits for it moves; when it slips too far the rules are named, with the day planting can
// be; what is not needed lets go of it.
func TestTheSoilTestSlips(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	s, _ := l.Get("hazelnut")
	plant := civil.Must(2029, 6, 20)
	on := func(date civil.Date, more ...record.Record) *Plan {
		return planted(t, l, s, "south", plant, func(in *Input) {
			in.Today = date
			p := in.Block.Planting
			in.Records = append([]record.Record{{ID: "r1", Planting: p.ID, Operation: "soil-test", Kind: record.Done, Day: date}}, more...)
		})
	}
	kept := on(civil.Must(2028, 9, 10))
	lime := bound(t, kept, "lime")
	if lime.Earliest != civil.Must(2028, 10, 10) || lime.Latest != civil.Must(2028, 12, 20) || lime.Slack != 71 || len(lime.Waits) == 0 || lime.Waits[0].Key != "soil-test" {
		t.Errorf("%+v", lime)
	}
	late := on(civil.Must(2028, 12, 10))
	var c *network.Conflict
	for i := range late.Network.Conflicts {
		if slices.Contains(late.Network.Conflicts[i].Keys, "lime") {
			c = &late.Network.Conflicts[i]
		}
	}
	if c == nil || c.Short != 20 || !slices.Contains(c.Keys, "soil-test") || len(c.Steps) != 4 || !c.Steps[0].Hard || c.Steps[1].Hard {
		t.Fatalf("the soil test on 10 December leaves lime from 9 January, 20 days after its last day: %+v", c)
	}
	if !slices.ContainsFunc(late.Findings, func(f finding.Finding) bool {
		return f.Rule == "network.conflict" && f.Sentence != "" && f.Subject != ""
	}) {
		t.Error("no finding says so")
	}
	free := on(civil.Must(2028, 12, 10), record.Record{ID: "r2", Operation: "lime", Kind: record.NotNeeded, Day: civil.Must(2028, 12, 10), Body: record.Body{Note: "the pH is right"}})
	for _, c := range free.Network.Conflicts {
		if slices.Contains(c.Keys, "lime") {
			t.Errorf("lime is not needed: %s", c.Sentence)
		}
	}
}

// Hours and people give a job a length, and what follows begins when it is done; a day that is said moves what waits for it.
func TestWorkTakesItsTime(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	s, _ := l.Get("hazelnut")
	plant := civil.Must(2030, 6, 20)
	bare := planted(t, l, s, "south", plant, nil)
	hours := 160.0
	said := planted(t, l, s, "south", plant, func(in *Input) {
		in.Estate.Crews = []document.Crew{{ID: "a", Name: "Yard", People: 2, HoursDay: 8, DaysWeek: 5}}
		in.Block.Planting.Effort = map[string]document.Effort{"clear": {Hours: &hours}}
		in.Block.Planting.Days = map[string]civil.Date{"clear": civil.Must(2029, 6, 1)}
	})
	clear := bound(t, said, "clear")
	if clear.Days != 14 || !clear.Said || clear.Planned != civil.Must(2029, 6, 1) {
		t.Errorf("160 hours of two people, eight hours a day and five days a week, are 14 days: %+v", clear)
	}
	rip, was := bound(t, said, "rip"), bound(t, bare, "rip")
	if rip.Earliest.Sub(clear.Earliest) < 14 || was.Days != 0 {
		t.Errorf("ripping from %s, clearing from %s; without people it takes %d days", rip.Earliest, clear.Earliest, was.Days)
	}
	if d := bound(t, said, "drains").Planned; d.Before(civil.Must(2029, 6, 15)) {
		t.Errorf("drains on %s, before the clearing is done", d)
	}
	// a day inside its room, though before the one the sheet would choose, is in time; one before it is not
	at := func(day civil.Date) *Plan {
		return planted(t, l, s, "south", plant, func(in *Input) { in.Block.Planting.Days = map[string]civil.Date{"rip": day} })
	}
	outOfTime := func(f finding.Finding) bool { return f.Rule == "job.out-of-time" }
	if early := at(was.Earliest.AddDays(3)); slices.ContainsFunc(early.Findings, outOfTime) {
		t.Errorf("ripping can be from %s on, and three days later is called out of time", was.Earliest)
	}
	if late := at(was.Latest.AddDays(3)); !slices.ContainsFunc(late.Findings, outOfTime) {
		t.Errorf("ripping after its last day, %s, is called in time", was.Latest)
	}
	if j := said.Jobs; !slices.ContainsFunc(j, func(j report.Job) bool {
		return j.Key == "rip" && j.Slack != nil && *j.Slack == rip.Slack && j.Planned == rip.Planned
	}) {
		t.Error("the list of jobs does not say how long ripping can wait")
	}
}

// A day said for work between two of its times of the year is said to lie outside them, with the nearest days inside.
func TestADayOutsideItsTimeOfTheYear(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	s, _ := l.Get("hazelnut")
	plant := civil.Must(2028, 11, 15)
	said := func(on civil.Date) *finding.Finding {
		return notes(planted(t, l, s, "north", plant, func(in *Input) {
			in.Block.Planting.Days = map[string]civil.Date{"rip": on}
		}), "network.season")
	}
	f := said(civil.Must(2028, 2, 10))
	if f == nil || len(f.Remedies) < 2 || f.Remedies[0].Patch["planting"].(map[string]any)["days"].(map[string]any)["rip"] != "2027-10-31" ||
		f.Remedies[1].Patch["planting"].(map[string]any)["days"].(map[string]any)["rip"] != "2028-06-01" {
		t.Errorf("ripped in February: %+v", f)
	}
	if f = said(civil.Must(2028, 6, 10)); f != nil {
		t.Errorf("ripped in June: %+v", f)
	}
}

// Wood for cuttings is cut while it is dormant: raised for planting in July it is cut by the last of winter and kept so long; where
// winter is past, planting waits for the next.
func TestDormantWoodIsCutInWinter(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	s, _ := l.Get("elderberry")
	raised := func(on, today civil.Date) *Plan {
		return planted(t, l, s, "north", on, func(in *Input) {
			in.Today = today
			in.Block.Planting.Raising = &document.Raising{Way: "dormant", Stages: []document.RaisingStage{{ID: "cut", Name: "Cut, sort and bundle", Least: 1, Most: 7, LossPct: 10},
				{ID: "keep", Name: "Cold store or shade", Least: 10, Most: 60, LossPct: 5}}}
		})
	}
	p := raised(civil.Must(2028, 7, 20), civil.Must(2026, 3, 1))
	if got := p.Raised[0].Safe; got != civil.Must(2028, 2, 29) {
		t.Errorf("for planting in July cut by %s", got)
	}
	if j := bound(t, p, "raise-cut"); j.Latest != civil.Must(2028, 2, 29) || j.Within == "" {
		t.Errorf("%+v", j)
	}
	if got := raised(civil.Must(2028, 3, 20), civil.Must(2026, 3, 1)).Raised[0].Safe; got != civil.Must(2028, 1, 13) {
		t.Errorf("for planting in March cut by %s, 67 days before", got)
	}
	late := raised(civil.Must(2028, 7, 20), civil.Must(2028, 4, 10))
	if free := late.Network.Free; len(late.Network.Conflicts) == 0 || free.Before(civil.Must(2028, 11, 1)) {
		t.Errorf("seen in April, planting is free from %s", free)
	}
}
