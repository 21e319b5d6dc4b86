package estate

import (
	"context"
	"errors"
	"math"
	"strings"
	"testing"

	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/core/record"
	"slowroot/core/survey"
	"slowroot/internal/store"
)

// through is a line east to west through the middle of a block, shifted north by some metres.
func through(b document.Block, north float64) Cut {
	pl := geo.LocalPlane(b.Boundary)
	return Cut{From: pl.From(geo.XY{X: -2000, Y: north}), To: pl.From(geo.XY{X: 2000, Y: north + 1})}
}

// A block that carries a stand is cut: its stations, by their permanent numbers, are shared out and none is lost; its record stays;
// undo makes it whole again.
func TestAStandIsCutByItsStations(t *testing.T) {
	s, _ := demoEstate(t)
	ctx := context.Background()
	d := named(t, s, "Long Strip")
	stations := func(b document.Block) map[string]bool {
		out := map[string]bool{}
		for _, r := range b.Planting.AsPlanted.Rows {
			for i := range r.N {
				if n := r.Number(i); out[n] {
					t.Errorf("station %s stands twice", n)
				} else {
					out[n] = true
				}
			}
		}
		return out
	}
	was := stations(d.Block)
	if len(was) == 0 {
		t.Fatal("nothing stands on the block")
	}
	var made []BlockDoc
	var err error
	for north := 0.37; north < 40; north += 3.1 { // a line that runs through a plant is refused
		if made, err = s.SplitBlock(ctx, "Ana", d.ID, d.Revision, through(d.Block, north)); err == nil {
			break
		}
	}
	if err != nil || len(made) != 2 {
		t.Fatalf("%d blocks: %v", len(made), err)
	}
	area := 0.0
	for _, m := range made {
		area += geo.AreaM2(m.Block.Boundary)
		for n := range stations(m.Block) {
			if !was[n] {
				t.Errorf("station %s stood on both parts or on none", n)
			}
			delete(was, n)
		}
		if _, err := s.Plan(ctx, m.ID); err != nil {
			t.Errorf("%s has no plan: %v", m.Block.Name, err)
		}
	}
	if len(was) > 0 {
		t.Errorf("%d stations were lost", len(was))
	}
	if whole := geo.AreaM2(d.Block.Boundary); math.Abs(area/whole-1) > 1e-6 {
		t.Errorf("the parts hold %.1f m² of %.1f", area, whole)
	}
	if made[0].ID != d.ID || len(made[0].records) != len(d.records) {
		t.Error("the larger part does not keep the block and its record")
	}
	steps, err := s.Steps(ctx, "Ana")
	if err != nil || steps.Undo == nil {
		t.Fatal(err)
	}
	if _, err := s.Undo(ctx, "Ana", steps.Undo.ID); err != nil {
		t.Fatal(err)
	}
	again := named(t, s, "Long Strip")
	if again.Block.Planting.AsPlanted.Stations != d.Block.Planting.AsPlanted.Stations {
		t.Error("undo does not make the block whole")
	}
	if _, err := s.Block(ctx, made[1].ID); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("the other part is still there: %v", err)
	}
}

func TestCutAndJoinedAgainIsWhatItWas(t *testing.T) {
	s, _ := demoEstate(t)
	ctx := context.Background()
	d := named(t, s, "Orchard Foot")
	if _, err := s.Record(ctx, "Ana", d.ID, []record.Record{{ID: "r-1", Kind: record.Counted, Day: s.Today(), Body: record.Body{What: "stumps", Value: 12}}}); err != nil {
		t.Fatal(err)
	}
	d, err := s.ChangeBlock(ctx, "Ana", d.ID, d.Revision, []byte(`{"growth":{"fine":80,"logs":12},"jobs":[{"name":"Mend the gate","from":"2027-03-20","by":"2027-03-22"}]}`))
	if err != nil {
		t.Fatal(err)
	}
	// what stands on the ground is shared out and summed again, and a job is never in two places
	told := func(blocks ...BlockDoc) (fine float64, jobs int) {
		for _, b := range blocks {
			fine, jobs = fine+b.Block.Growth["fine"], jobs+len(b.Block.Jobs)
		}
		return fine, jobs
	}
	made, err := s.SplitBlock(ctx, "Ana", d.ID, d.Revision, through(d.Block, 5))
	if fine, jobs := told(made...); math.Abs(fine-80) > 1e-3 || jobs != 1 {
		t.Errorf("the parts hold %g m³ of 80 and %d jobs of 1", fine, jobs)
	}
	if err != nil || len(made) != 2 {
		t.Fatalf("%d blocks: %v", len(made), err)
	}
	pits := 0
	for _, m := range made {
		pits += len(m.Block.Pits)
	}
	if pits < len(d.Block.Pits) {
		t.Errorf("%d of %d pits are left", pits, len(d.Block.Pits))
	}
	if _, err := s.MergeBlocks(ctx, "Ana", made[0].ID, 1, made[1].ID); err == nil {
		t.Error("a join from an old revision is made")
	}
	if _, err := s.MergeBlocks(ctx, "Ana", made[0].ID, made[0].Revision, made[0].ID); err == nil {
		t.Error("a block is joined to itself")
	}
	one, err := s.MergeBlocks(ctx, "Ana", made[0].ID, made[0].Revision, made[1].ID)
	if err != nil {
		t.Fatal(err)
	}
	if a, b := geo.AreaM2(one.Block.Boundary), geo.AreaM2(d.Block.Boundary); math.Abs(a/b-1) > 1e-5 {
		t.Errorf("joined again it holds %.1f m² of %.1f", a, b)
	}
	if len(one.records) != len(d.records) || len(d.records) == 0 {
		t.Errorf("%d records, %d before", len(one.records), len(d.records))
	}
	if fine, jobs := told(one); math.Abs(fine-80) > 1e-3 || jobs != 1 {
		t.Errorf("joined again it holds %g m³ of 80 and %d jobs of 1", fine, jobs)
	}
	far := named(t, s, "Gate Field")
	if _, err := s.MergeBlocks(ctx, "Ana", one.ID, one.Revision, far.ID); err == nil || !strings.Contains(err.Error(), "m apart") {
		t.Errorf("a far block is joined: %v", err)
	}
}

func TestACopyLiesBeside(t *testing.T) {
	s, _ := demoEstate(t)
	ctx := context.Background()
	d := named(t, s, "Long Strip")
	c, err := s.DuplicateBlock(ctx, "Ana", d.ID, "")
	if err != nil {
		t.Fatal(err)
	}
	if c.Block.Name != "Long Strip copy" || c.Block.Planting == nil || c.Block.Planting.Stage() != document.Planned || len(c.records) != 0 {
		t.Errorf("the copy is %q at stage %v with %d records", c.Block.Name, c.Block.Planting.Stage(), len(c.records))
	}
	if a, b := geo.AreaM2(c.Block.Boundary), geo.AreaM2(d.Block.Boundary); math.Abs(a/b-1) > 1e-5 {
		t.Errorf("the copy holds %.1f m² of %.1f", a, b)
	}
	docs, err := s.Blocks(ctx)
	if err != nil {
		t.Fatal(err)
	}
	for _, o := range docs {
		if _, err := geo.Join(o.Block.Boundary, c.Block.Boundary, 1); o.ID != c.ID && err == nil {
			t.Errorf("the copy lies on %s", o.Block.Name)
		}
	}
}

func TestAFieldWithoutAPlaceLiesBesideTheOthers(t *testing.T) {
	s, _ := demoEstate(t)
	ctx := context.Background()
	o, err := s.Outline(ctx, survey.Outline{Way: survey.BySize, LengthM: 200, WidthM: 90, BearingDeg: 20})
	if err != nil {
		t.Fatal(err)
	}
	docs, err := s.Blocks(ctx)
	if err != nil {
		t.Fatal(err)
	}
	for _, d := range docs {
		if _, err := geo.Join(d.Block.Boundary, o.Boundary, 5); err == nil {
			t.Errorf("it touches %s", d.Block.Name)
		}
	}
	if math.Abs(o.AreaM2-18_000) > 1 {
		t.Errorf("%.1f m²", o.AreaM2)
	}
}
