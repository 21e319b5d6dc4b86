package estate

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/finding"
)

// Blocks of a crop picked by days from planting are put so far apart that picking goes on; one undo takes the days back. A crop
// picked in its season is said to be; what cannot be is refused by field.
func TestBlocksPlantedOneAfterAnother(t *testing.T) {
	s, docs := demoEstate(t)
	names := []string{"Orchard Foot", "Hill Paddock"}
	ids := []string{docs[names[0]].ID, docs[names[1]].ID}
	plant := func(sheet string) {
		t.Helper()
		for _, id := range ids {
			d, err := s.Block(ctx, id)
			if err != nil {
				t.Fatal(err)
			}
			if d.Block.Planting != nil {
				if d, err = s.ChangeBlock(ctx, "A", id, d.Revision, []byte(`{"planting":null}`)); err != nil {
					t.Fatal(err)
				}
			}
			if _, err = s.ChangeBlock(ctx, "A", id, d.Revision, []byte(fmt.Sprintf(`{"planting":{"sheet":%q,"date":"2028-03-05"}}`, sheet))); err != nil {
				t.Fatal(err)
			}
		}
	}
	plant("raspberry")
	w := SuccessionWanted{Blocks: ids, First: civil.Must(2028, 3, 5), OverlapDays: 7}
	got, err := s.Succeed(ctx, w)
	if err != nil {
		t.Fatal(err)
	}
	// long canes are picked from day 70 to day 112: 43 days, so 36 from one to the next
	if got.GrowDays != 70 || got.PickDays != 43 || got.Every != 36 || len(got.Blocks) != 2 {
		t.Fatalf("%+v", got)
	}
	a, b := got.Blocks[0], got.Blocks[1]
	if b.On != a.On.AddDays(36) || a.From != civil.Must(2028, 5, 14) || b.Gap != -7 || b.From.Sub(b.On) != 70 {
		t.Errorf("%+v, then %+v", a, b)
	}
	if len(got.Years) == 0 || got.Years[0].Blocks != 2 || !(got.Years[0].Kg > 0) {
		t.Errorf("bearing: %+v", got.Years)
	}
	// more days together than there are of picking; a wider planting leaves a gap that is named
	w.OverlapDays = 50
	var fe *finding.FieldError
	if _, err := s.Succeed(ctx, w); !errors.As(err, &fe) || fe.Field != "overlapDays" {
		t.Errorf("50 days of 43 together: %v", err)
	}
	w.OverlapDays, w.GrowDays, w.PickDays = 0, 70, 20
	if got, err = s.Succeed(ctx, w); err != nil || got.Every != 20 || got.Blocks[1].Gap != 0 {
		t.Errorf("%+v, %v", got, err)
	}
	base := 5.0
	w.BaseC = &base
	warm, err := s.Succeed(ctx, w)
	if err != nil || warm.Blocks[1].From != got.Blocks[1].From || !warm.Blocks[1].On.Before(got.Blocks[1].On) {
		t.Errorf("towards winter the same warmth takes longer: %+v, equal days %+v, %v", warm.Blocks[1], got.Blocks[1], err)
	}
	w = SuccessionWanted{Blocks: ids, First: civil.Must(2028, 3, 5), OverlapDays: 7}
	if _, err := s.KeepSuccession(ctx, "A", w); err != nil {
		t.Fatal(err)
	}
	on := func(id string) civil.Date {
		d, err := s.Block(ctx, id)
		if err != nil {
			t.Fatal(err)
		}
		return d.Block.Planting.Date
	}
	if on(ids[1]) != civil.Must(2028, 4, 10) {
		t.Errorf("kept on %s", on(ids[1]))
	}
	steps, err := s.Steps(ctx, "A")
	if err != nil || !strings.Contains(steps.Undo.What, "one after another") {
		t.Fatalf("%+v, %v", steps, err)
	}
	if _, err := s.Undo(ctx, "A", steps.Undo.ID); err != nil || on(ids[1]) != civil.Must(2028, 3, 5) {
		t.Errorf("after undo on %s, %v", on(ids[1]), err)
	}
	plant("persimmon")
	w.OverlapDays, w.GrowDays, w.PickDays = 0, 0, 0
	if got, err = s.Succeed(ctx, w); err != nil || !strings.Contains(strings.Join(got.Words, " "), "picked in its season") {
		t.Errorf("%+v, %v", got.Words, err)
	}
	w.Blocks = ids[:1]
	if _, err := s.Succeed(ctx, w); !errors.As(err, &fe) || fe.Field != "blocks" {
		t.Errorf("one block: %v", err)
	}
	w.Blocks = []string{ids[0], docs["Chapel Corner"].ID}
	if _, err := s.Succeed(ctx, w); !errors.As(err, &fe) || fe.Field != "blocks" {
		t.Errorf("one that stands: %v", err)
	}
}
