package estate

import (
	"encoding/json"
	"errors"
	"math"
	"regexp"
	"strings"
	"testing"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan/drains"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/formats/settingout"
	"slowroot/internal/formats/table"
	"slowroot/internal/store"
)

// The demonstration teaches each remedy once: a herringbone that reaches most of its block and lies on the clay, beds
// on flat clay, an interceptor on a slope; each with a bill, cautions and no pipe below what stops the water unsaid.
func TestDemonstrationOfDrains(t *testing.T) {
	s, b := demoEstate(t)
	taken := map[string]drains.Plan{}
	for _, d := range b {
		p, err := s.Plan(ctx, d.ID)
		if err != nil {
			t.Fatal(err)
		}
		if p.Drains.Started {
			taken[p.Drains.Taken] = *p.Drains
			if len(p.Drains.Bill) < 5 || p.Drains.CostText == "" || len(p.Drains.Cautions) < 3 || strings.Contains(p.Drains.CostText, "no price") {
				t.Errorf("%s: %d lines for %s", p.Name, len(p.Drains.Bill), p.Drains.CostText)
			}
			for _, f := range p.Findings {
				if f.Weight == finding.Stops {
					t.Errorf("%s is stopped: %s", p.Name, f.Sentence)
				}
			}
		}
	}
	h, ok := taken["herringbone"]
	if !ok || h.Network == nil || h.Network.ReachedM2 < 0.85*h.Network.BlockM2 || len(h.Network.Laterals) < 30 || math.Abs(h.DepthM-h.Soil.LayerM) > 1e-9 || h.WetFrom != "dip wells" || h.Hours > h.Criterion.Hours {
		t.Errorf("herringbone: %+v", h)
	}
	if beds, ok := taken["beds"]; !ok || beds.Bed == nil || beds.Bed.ThenCm <= beds.Bed.NowCm || beds.Network == nil || beds.Refused == "" {
		t.Error("beds where a pipe could lie, or none")
	}
	if cut, ok := taken["interceptor"]; !ok || cut.Cut == nil || cut.CatchM3Day <= 0 || len(cut.Cut.Troubles) > 0 {
		t.Error("no interceptor that works")
	}
}

// Lines from a file become the block's as one change that can be undone; a stale one, a broken one and one for a
// block without heights change nothing.
func TestImportedDrainsAreOneChange(t *testing.T) {
	s, b := demoEstate(t)
	foot := b["Orchard Foot"]
	p, err := s.SettingOut(ctx, foot.ID)
	if err != nil {
		t.Fatal(err)
	}
	text, err := geojson.WriteDrains(p)
	if err != nil {
		t.Fatal(err)
	}
	var stale *Stale
	if _, err := s.ImportDrains(ctx, "R", foot.ID, foot.Revision+5, "d.geojson", string(text)); !errors.As(err, &stale) {
		t.Errorf("a stale import answered %v", err)
	}
	var refused *table.Refused
	if _, err := s.ImportDrains(ctx, "R", foot.ID, foot.Revision, "d.geojson", `{"type":"FeatureCollection","features":[]}`); !errors.As(err, &refused) {
		t.Errorf("an empty file answered %v", err)
	}
	doc, err := s.ImportDrains(ctx, "Ruan", foot.ID, foot.Revision, "d.geojson", string(text))
	if err != nil {
		t.Fatal(err)
	}
	if doc.Revision != foot.Revision+1 || len(doc.Block.Drains.Laterals) != len(p.Drains.Network.Laterals) || len(doc.Block.Drains.Wells) != 1 {
		t.Errorf("revision %d, %d laterals, %d wells", doc.Revision, len(doc.Block.Drains.Laterals), len(doc.Block.Drains.Wells))
	}
	h, _ := s.History(ctx, store.Page{})
	if h[0].Who != "Ruan" || h[0].What != "Read the drains of Orchard Foot from d.geojson" {
		t.Errorf("%+v", h[0])
	}
	if _, err := s.Undo(ctx, "Ruan", h[0].ID); err != nil {
		t.Fatal(err)
	}
	if d, _ := s.Block(ctx, foot.ID); len(d.Block.Drains.Laterals) != 0 {
		t.Error("the undo leaves the lines")
	}
	var fe *finding.FieldError
	if _, err := s.SettingOut(ctx, b["Chapel Corner"].ID); !errors.As(err, &fe) || fe.Field != "drains" {
		t.Errorf("a block without drains is set out: %v", err)
	}
	// the same lines on a block that had nothing: the file decides the way, and the person is named
	corner := b["Chapel Corner"]
	corner, err = s.ImportDrains(ctx, "Ilse", corner.ID, corner.Revision, "other.geojson", strings.ReplaceAll(string(text), `"herringbone"`, `"gridiron"`))
	if err != nil {
		t.Fatal(err)
	}
	if c := corner.Block.Decided[document.DrainFork]; c.Option != "gridiron" || c.By != "Ilse" || c.Why != "from other.geojson" {
		t.Errorf("%+v", c)
	}
}

// Forks of wet ground are answered for planted, planned and empty blocks alike, each way with its consequences.
func TestForksOfWetGround(t *testing.T) {
	s, b := demoEstate(t)
	for _, name := range []string{"Orchard Foot", "Lower Terrace", "Gate Field"} {
		fs, err := s.Forks(ctx, b[name].ID)
		if err != nil {
			t.Fatal(err)
		}
		found := false
		for _, f := range fs {
			if f.ID != document.DrainFork {
				continue
			}
			found = true
			takenWays := 0
			for _, w := range f.Ways {
				if len(w.Consequences) != 6 || w.Name == "" || w.Sentence == "" {
					t.Errorf("%s, %s: %+v", name, w.ID, w)
				}
				if w.Taken {
					takenWays++
				}
			}
			if !f.Decided || f.By != "Tamsin Aldane" || f.Why == "" || takenWays != 1 {
				t.Errorf("%s: %d taken, decided %v by %s", name, takenWays, f.Decided, f.By)
			}
		}
		if !found {
			t.Errorf("%s has no fork about its water", name)
		}
	}
}

// In the whole demonstration, read in feet and pounds, no finding speaks of a metre or a kilogram.
func TestFindingsInTheReadersUnits(t *testing.T) {
	s, b := demoEstate(t)
	e, err := s.Estate(ctx)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.ChangeEstate(ctx, "Ruan", e.Revision, []byte(`{"units":"us"}`)); err != nil {
		t.Fatal(err)
	}
	metric := regexp.MustCompile(`\d[\x{00a0}\x{202f} ]?(m|cm|mm|km|m²|m³|ha|t|kg|L/s|m/s|°C|t/ha|kg/ha)\b`)
	read := 0
	for name, doc := range b {
		p, err := s.Plan(ctx, doc.ID)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range p.Findings {
			read++
			own := strings.ReplaceAll(f.Sentence, "the brook ran at 2 L/s in February", "") // a person's words stay as they were written
			if got := metric.FindString(own); got != "" {
				t.Errorf("%s, %s: %q in %q", name, f.Rule, got, f.Sentence)
			}
		}
	}
	if read < 40 {
		t.Errorf("only %d findings were read", read)
	}
}

// A branch taken from the margin is one change of the block: it is set out in every file, comes back on another block
// as it left, and one undo takes it and what it changed away. What cannot be a branch is refused by its field.
func TestBranchIsAChangeLikeAnyOther(t *testing.T) {
	s, b := demoEstate(t)
	foot := b["Orchard Foot"]
	before, err := s.Plan(ctx, foot.ID)
	if err != nil {
		t.Fatal(err)
	}
	var patch []byte
	for _, f := range before.Findings {
		if f.Rule == "drain.trouble-missed" {
			patch, err = json.Marshal(f.Remedies[0].Patch)
		}
	}
	if err != nil || patch == nil {
		t.Fatalf("nothing is proposed for what is missed: %v", err)
	}
	doc, err := s.ChangeBlock(ctx, "Ruan", foot.ID, foot.Revision, patch)
	if err != nil {
		t.Fatal(err)
	}
	after, err := s.SettingOut(ctx, foot.ID)
	if err != nil {
		t.Fatal(err)
	}
	n, was := after.Drains.Network, before.Drains.Network
	if len(n.Mains) != 2 || n.ReachedM2 < was.ReachedM2+2000 {
		t.Errorf("%.0f m² reached, %.0f with the branch", was.ReachedM2, n.ReachedM2)
	}
	text, err := geojson.WriteDrains(after)
	if err != nil {
		t.Fatal(err)
	}
	laid, err := geojson.ReadDrains(text)
	if err != nil || len(laid.Branches) != 1 || len(laid.Laterals) != len(n.Laterals) {
		t.Fatalf("%d branches, %d laterals came back: %v", len(laid.Branches), len(laid.Laterals), err)
	}
	for name, form := range map[string]string{"points": string(settingout.CSV(after)), "lines": string(settingout.DXF(after))} {
		if !strings.Contains(form, "B1") {
			t.Errorf("no branch in the %s", name)
		}
	}
	strip := b["Long Strip"]
	if _, err := s.ImportDrains(ctx, "Ilse", strip.ID, strip.Revision, "foot.geojson", string(text)); err != nil {
		t.Fatal(err)
	}
	if there, _ := s.Block(ctx, strip.ID); len(there.Block.Drains.Branches) != 1 || there.Block.Drains.Branches[0].ID != "B1" {
		t.Errorf("%+v", there.Block.Drains.Branches)
	}
	for field, patch := range map[string]string{
		"drains.branches[0].line": `{"drains":{"branches":[{"id":"B1","line":[{"lon":172,"lat":-38}]}]}}`,
		"drains.branches[1].id":   `{"drains":{"branches":[{"id":"B1","line":[{"lon":172,"lat":-38},{"lon":172.001,"lat":-38}]},{"id":"B1","line":[{"lon":172,"lat":-38},{"lon":172.001,"lat":-38}]}]}}`,
		"drains.branches[0].id":   `{"drains":{"branches":[{"id":"C","line":[{"lon":172,"lat":-38},{"lon":172.001,"lat":-38}]}]}}`,
		"drains.branches":         `{"drains":{"branches":[` + strings.Repeat(`{"id":"","line":[{"lon":172,"lat":-38},{"lon":172.001,"lat":-38}]},`, 20) + `{"id":"","line":[{"lon":172,"lat":-38},{"lon":172.001,"lat":-38}]}]}}`,
	} {
		var fe *finding.FieldError
		if _, err := s.ChangeBlock(ctx, "Ruan", foot.ID, doc.Revision, []byte(patch)); !errors.As(err, &fe) || fe.Field != field || fe.Accepted == "" {
			t.Errorf("%s: %v", field, err)
		}
	}
	h, _ := s.History(ctx, store.Page{})
	for _, c := range h[:2] { // the import, then the branch
		if _, err := s.Undo(ctx, c.Who, c.ID); err != nil {
			t.Fatal(err)
		}
	}
	if back, _ := s.Plan(ctx, foot.ID); len(back.Drains.Network.Mains) != 1 || back.Drains.Network.FlowM3S != was.FlowM3S {
		t.Error("the undo leaves the branch")
	}
}
