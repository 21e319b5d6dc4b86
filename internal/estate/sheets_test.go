package estate

import (
	"context"
	"strings"
	"testing"

	"slowroot/core/practice"
)

// An estate copies a sheet, changes what differs, plans a block with it and sees the plan follow; what the sheet came from
// stays as it was. A change that would break the plan is refused, an adopted plan keeps the sheet it was adopted with, and a
// sheet that is planned with cannot be taken out.
func TestAnEstatesOwnSheet(t *testing.T) {
	ctx := context.Background()
	s, blocks := demoEstate(t)
	own, err := s.CopySheet(ctx, "T", "persimmon", "Persimmon, our way")
	if err != nil || own.ID != "persimmon-own-1" || own.From != "persimmon" || !own.Own || len(own.Differences) != 0 {
		t.Fatalf("%v %+v", err, own.Differences)
	}
	if _, err := s.CopySheet(ctx, "T", "persimmon", "persimmon"); err == nil {
		t.Error("a copy under the name of the crop is made")
	}
	foot := blocks["Orchard Foot"]
	before, err := s.Plan(ctx, foot.ID)
	if err != nil {
		t.Fatal(err)
	}
	foot, err = s.ChangeBlock(ctx, "T", foot.ID, foot.Revision, []byte(`{"planting":{"sheet":"persimmon-own-1"}}`))
	if err != nil {
		t.Fatal(err)
	}
	var full string
	for _, v := range own.Values {
		if strings.HasPrefix(v.Path, "yields[") && strings.HasSuffix(v.Path, "full.base") {
			full = v.Path
		}
	}
	edits := []practice.Edit{}
	for _, v := range own.Values {
		if strings.HasPrefix(v.Path, "yields[") && (strings.HasSuffix(v.Path, ".full.high") || strings.HasSuffix(v.Path, ".full.base")) {
			edits = append(edits, practice.Edit{Path: v.Path, Value: "60000"})
		}
	}
	changed, err := s.EditSheet(ctx, "T", own.ID, own.Revision, edits)
	if err != nil || len(changed.Differences) != len(edits) || changed.Revision != 2 {
		t.Fatalf("%v: %d differences of %d edits, %s", err, len(changed.Differences), len(edits), full)
	}
	after, err := s.Plan(ctx, foot.ID)
	if err != nil {
		t.Fatal(err)
	}
	a, _ := before.Figure("yield.block")
	b, _ := after.Figure("yield.block")
	if !(b.Value > 1.2*a.Value) || after.SheetName != "Persimmon, our way" {
		t.Errorf("full crop %g, before %g, by the sheet %s", b.Value, a.Value, after.SheetName)
	}
	if base, err := s.OpenSheet(ctx, "persimmon", ""); err != nil || base.Own || base.Revision != 0 {
		t.Errorf("the library's sheet: %v", err)
	}
	if _, err := s.EditSheet(ctx, "T", own.ID, changed.Revision, []practice.Edit{{Path: "life.base", Value: "900"}}); err == nil || !strings.Contains(err.Error(), "agree with itself") {
		t.Errorf("a life of 900 years: %v", err)
	}
	if _, err := s.EditSheet(ctx, "T", own.ID, 1, []practice.Edit{{Path: "habit", Value: "x"}}); err == nil {
		t.Error("an edit from an old revision is made")
	}
	if err := s.RemoveSheet(ctx, "T", own.ID, changed.Revision); err == nil {
		t.Error("a sheet a block is planned with is taken out")
	}
	adopted, err := s.Adopt(ctx, "T", foot.ID, foot.Revision)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.EditSheet(ctx, "T", own.ID, changed.Revision, []practice.Edit{{Path: "habit", Value: "changed after the plan was adopted"}}); err != nil {
		t.Fatal(err)
	}
	p, err := s.Plan(ctx, adopted.ID)
	if err != nil {
		t.Fatal(err)
	}
	newer := false
	for _, f := range p.Findings {
		newer = newer || f.Rule == "sheet.newer"
	}
	if c, _ := p.Figure("yield.block"); c.Value != b.Value || !newer {
		t.Errorf("adopted: %g, was %g; a newer sheet is said: %v", c.Value, b.Value, newer)
	}
	// out as a file and in again, beside the one that is there
	text, err := s.SheetText(ctx, own.ID)
	if err != nil {
		t.Fatal(err)
	}
	again, err := s.TakeSheet(ctx, "T", text)
	if err != nil || again.ID != "persimmon-own-2" || again.From != "persimmon" {
		t.Errorf("%v %s from %s", err, again.ID, again.From)
	}
	if _, err := s.TakeSheet(ctx, "T", []byte("name: nothing")); err == nil {
		t.Error("a text that is no sheet is taken")
	}
	if d, err := s.OpenSheet(ctx, own.ID, "hazelnut"); err != nil || len(d.Differences) < 100 {
		t.Errorf("beside another crop: %d differences, %v", len(d.Differences), err)
	}
	steps, err := s.Steps(ctx, "T")
	if err != nil || steps.Undo == nil || !strings.Contains(steps.Undo.What, "Read in the sheet") {
		t.Fatalf("%+v %v", steps, err)
	}
	if _, err := s.Undo(ctx, "T", steps.Undo.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.OpenSheet(ctx, again.ID, ""); err == nil {
		t.Error("the sheet that was read in is still there")
	}
}
