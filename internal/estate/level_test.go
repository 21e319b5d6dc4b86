package estate

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/report"
)

// Two blocks ask one crew for more than it has in a week: the work is put on days the crew has the hours for, each job inside
// its time and behind what it waits for; one undo takes all of it back; what cannot be done in time is named; without crews
// nobody knows.
func TestOneCrewOnTwoBlocks(t *testing.T) {
	s, docs := demoEstate(t)
	from, to := civil.Must(2027, 3, 15), civil.Must(2028, 3, 14)
	var fe *finding.FieldError
	if _, err := s.Level(ctx, from, to); !errors.As(err, &fe) || fe.Field != "crews" {
		t.Errorf("without crews: %v", err)
	}
	e, err := s.Estate(ctx)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.ChangeEstate(ctx, "A", e.Revision, []byte(`{"crews":[{"id":"yard","name":"Yard","people":2,"hoursDay":8,"daysWeek":5,"does":["ground","planting","care","feeding"]},
		{"id":"sweeper","name":"Sweeper","people":1,"hoursDay":12,"daysWeek":5,"machine":true},{"id":"gang","name":"Gang","people":80,"hoursDay":8,"daysWeek":5,"does":["pruning","harvest"]}]}`)); err != nil {
		t.Fatal(err)
	}
	own := func(name, from, by string, hours int) string {
		return fmt.Sprintf(`{"name":%q,"from":%q,"by":%q,"hours":%d}`, name, from, by, hours)
	}
	for _, b := range []string{"Orchard Foot", "Hill Paddock"} {
		d, err := s.Block(ctx, docs[b].ID)
		if err != nil {
			t.Fatal(err)
		}
		patch := `{"jobs":[` + own("Fence "+b, "2027-04-05", "2027-04-18", 64) + `,` + own("Mow "+b, "2027-04-05", "2027-04-16", 16) + `]}`
		effort := `{"holes":{"hours":20},"drains":{"hours":8},"plant":{"hours":40},"rip":{"hours":8},"works-lime-1":{"hours":4}}`
		if b == "Hill Paddock" {
			effort = `{"clear":{"hours":96},"drains":{"hours":40},"grade":{"hours":16}}`
		}
		patch = `{"planting":{"effort":` + effort + `},` + patch[1:]
		if _, err := s.ChangeBlock(ctx, "A", d.ID, d.Revision, []byte(patch)); err != nil {
			t.Fatal(err)
		}
	}
	for _, b := range []string{"North Bank", "Long Strip"} {
		d, err := s.Block(ctx, docs[b].ID)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := s.ChangeBlock(ctx, "A", d.ID, d.Revision, []byte(`{"planting":{"effort":{"suckers-tree":{"hours":4}}}}`)); err != nil {
			t.Fatal(err)
		}
	}
	before, err := s.JobWeeks(ctx, from, to)
	if err != nil {
		t.Fatal(err)
	}
	l, err := s.Level(ctx, from, to)
	if err != nil {
		t.Fatal(err)
	}
	if len(l.Late) > 0 || len(l.Moves) < 3 || l.Unknown == 0 {
		t.Fatalf("%v, %d move, %d unknown", l.Words, len(l.Moves), l.Unknown)
	}
	at := map[string]LevelMove{}
	for _, m := range l.Moves {
		at[m.Name] = m
		if m.Until.After(m.Last) && !m.Last.Before(from) || m.Day.Before(from) {
			t.Errorf("%+v", m)
		}
		if _, _, weekday := m.Day.ISOWeek(); weekday > 5 {
			t.Errorf("%s on %s, a day off", m.Name, m.Day)
		}
	}
	if g, d := at["Grade the floor smooth"], at["Drain where the pit shows water"]; !d.Day.After(g.Until) && d.Name != "" {
		t.Errorf("drains on %s, before the floor is graded, %s", d.Day, g.Until)
	}
	kept, err := s.KeepLevel(ctx, "A", from, to)
	if err != nil || len(kept.Moves) != len(l.Moves) {
		t.Fatalf("%d kept: %v", len(kept.Moves), err)
	}
	jobs, err := s.Jobs(ctx, from, to)
	if err != nil {
		t.Fatal(err)
	}
	on := 0
	for _, j := range jobs {
		if m, ok := at[j.Job.Name]; ok && m.Block == j.Block && m.Key == j.Job.Key {
			on++
			if j.Job.On != m.Day {
				t.Errorf("%s is on %s, want %s", m.Name, j.Job.On, m.Day)
			}
		}
	}
	after, err := s.JobWeeks(ctx, from, to)
	if err != nil || on != len(at) {
		t.Fatalf("%d of %d jobs are on their days: %v", on, len(at), err)
	}
	if len(after.Over) > 0 || len(before.Over) == 0 {
		t.Errorf("weeks that ask for too much: %v, then %v", before.Over, after.Over)
	}
	if again, err := s.Level(ctx, from, to); err != nil || len(again.Moves) > 0 {
		t.Errorf("levelled once, %v move again: %v", again.Moves, err)
	}
	n, err := s.Steps(ctx, "A")
	if err != nil || !strings.HasPrefix(n.Undo.What, "Levelled the work: ") {
		t.Fatalf("%+v: %v", n.Undo, err)
	}
	if _, err := s.Undo(ctx, "A", n.Undo.ID); err != nil {
		t.Fatal(err)
	}
	if back, err := s.Level(ctx, from, to); err != nil || len(back.Moves) != len(l.Moves) {
		t.Errorf("after one undo %d move, want %d: %v", len(back.Moves), len(l.Moves), err)
	}
	// more than two people can do
	d, err := s.Block(ctx, docs["Orchard Foot"].ID)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.ChangeBlock(ctx, "A", d.ID, d.Revision, []byte(`{"jobs":[`+own("Dig the pond", "2027-04-05", "2027-04-16", 400)+`]}`)); err != nil {
		t.Fatal(err)
	}
	l, err = s.Level(ctx, from, to)
	if err != nil || len(l.Late) == 0 || !strings.Contains(strings.Join(l.Words, " "), "“Dig the pond” on Orchard Foot asks for") || !strings.Contains(strings.Join(l.Words, " "), "is not planned again") {
		t.Errorf("400 hours in two weeks of two people: %v, %v", l.Words, err)
	}
}

// Hours of a machine are one driver's: more people make it no quicker.
func TestAMachineHasOneDriver(t *testing.T) {
	h := 40.0
	crew := document.Crew{People: 4, HoursDay: 8, DaysWeek: 5}
	at := civil.Must(2027, 3, 15)
	job := func(machine bool) EstateJob {
		return EstateJob{Job: report.Job{Key: "rip", From: at, By: at.AddDays(60), Hours: &h, Machine: machine}}
	}
	if hand, driven := taskOf(job(false), h, crew, at).task, taskOf(job(true), h, crew, at).task; hand.Days != 2 || driven.Days != 5 || driven.Use != 8 {
		t.Errorf("40 h of four people: %+v; of a machine: %+v", hand, driven)
	}
}
