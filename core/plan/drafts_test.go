package plan

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/soil"
)

// A pit nobody has looked into and a test in which nothing was measured count for nothing: the plan is to the byte the
// plan without them, but for the lists that show them.
func TestDraftsCountForNothing(t *testing.T) {
	for _, c := range []struct {
		name        string
		pits, tests int // where the draft is put in
	}{{"a pit alone", -1, 0}, {"a pit before", 0, 0}, {"a pit between", 2, 0}, {"a test before", -1, 1}} {
		bare, drafted := grounded(t, "hazelnut"), grounded(t, "hazelnut")
		if c.pits < 0 {
			bare.Block.Pits, drafted.Block.Pits = nil, nil
		}
		if c.tests == 0 {
			bare.Block.Tests, drafted.Block.Tests = nil, nil
		}
		d := pit("draft", func(l []soil.Layer) { l[0].Hardness = soil.Hard })
		d.Draft = true
		at := max(0, c.pits)
		drafted.Block.Pits = append(append(append([]soil.Pit{}, drafted.Block.Pits[:at]...), d), drafted.Block.Pits[at:]...)
		drafted.Block.Tests = append([]soil.Test{{Lab: "hand", On: civil.Must(2025, 2, 1), FromCm: 0, ToCm: 20, PHMethod: "water"}}, drafted.Block.Tests...)
		want, got := compute(t, bare), compute(t, drafted)
		if n := len(got.Soil.Pits); n != len(want.Soil.Pits)+1 || !got.Soil.Pits[at].Draft {
			t.Errorf("%s: %d pits are shown, the draft not at its place", c.name, n)
		}
		if n := len(got.Soil.Tests); n != len(want.Soil.Tests)+1 || got.Soil.Tests[0].Used {
			t.Errorf("%s: %d tests are shown", c.name, n)
		}
		if s := got.Drains.Soil; s != nil && got.Soil.Pits[s.PitAt].Draft {
			t.Errorf("%s: drains are laid out by a draft", c.name)
		}
		for _, p := range []*Plan{want, got} {
			p.Soil.Pits, p.Soil.Tests = nil, nil
			if p.Drains.Soil != nil {
				p.Drains.Soil.PitAt = 0
			}
		}
		a, _ := json.Marshal(want)
		b, _ := json.Marshal(got)
		x, y := strings.Split(string(a), `"`), strings.Split(string(b), `"`)
		for i := range min(len(x), len(y)) {
			if x[i] != y[i] {
				t.Errorf("%s: a draft changes %q to %q", c.name, x[max(0, i-3):i+1], y[max(0, i-3):i+1])
				break
			}
		}
		if c.pits < 0 && notes(got, "soil.no-pit") == nil {
			t.Errorf("%s: the draft clears the finding that no pit was dug", c.name)
		}
		// once a person has said so, it counts
		for i := range drafted.Block.Pits {
			drafted.Block.Pits[i].Draft = false
		}
		if p := compute(t, drafted); notes(p, "soil.no-pit") != nil {
			t.Errorf("%s: a pit that was seen does not count", c.name)
		}
	}
}

// A strip needs rows: where nobody has said how far apart they will stand, that is said and asked for.
func TestStripWithoutRows(t *testing.T) {
	in := intended(t, "blueberry", civil.Must(2027, 3, 1))
	s := *in.Sheet
	s.Bed, s.Layouts = nil, nil
	in.Sheet = &s
	in.Block.Works = &document.WorksChoice{StripM: 1.2}
	p := compute(t, in)
	n := notes(p, "works.strip")
	if n == nil || strings.Contains(n.Sentence, "0.00") || !said(t, n.Sentence) ||
		p.Works.Share != 1 || p.Works.RowM != 0 {
		t.Errorf("%+v, share %g", n, p.Works.Share)
	}
	in.Block.Works.RowM = 3
	p = compute(t, in)
	if notes(p, "works.strip") != nil || math.Abs(p.Works.Share-0.4) > 1e-9 || p.Works.RowM != 3 {
		t.Errorf("rows 3 m apart: share %g", p.Works.Share)
	}
	in.Block.Works.RowM = 1
	if n := notes(compute(t, in), "works.strip"); n == nil || !said(t, n.Sentence) {
		t.Errorf("%+v", n)
	}
}

// Beds of a crop begin as the practice of that crop makes them, not as an orchard's ridge; what they gain is not shown
// against a depth nobody has seen.
func TestBedsBeginAsTheCropsOwn(t *testing.T) {
	for _, sheet := range []string{"strawberry", "pineapple", "elderberry", "blueberry", "blackberry"} {
		in := intended(t, sheet, civil.Must(2027, 3, 1))
		in.Block.Drains = &document.DrainChoice{Bed: &document.BedChoice{}}
		own := in.Sheet.Bed
		b := compute(t, in).Drains.Bed
		if own == nil || b == nil {
			t.Fatalf("%s: bed %+v, sheet %+v", sheet, b, own)
		}
		if b.Bed.CentreM != own.CentreM || own.BaseM > 0 && b.Bed.BaseM != own.BaseM || own.HeightM > 0 && b.Bed.HeightM != own.HeightM {
			t.Errorf("%s: beds %+v, its sheet says %+v", sheet, b.Bed, *own)
		}
		if !b.NowKnown || b.ThenCm <= b.NowCm {
			t.Errorf("%s: %g → %g cm", sheet, b.NowCm, b.ThenCm)
		}
		in.Block.Pits = nil
		if b := compute(t, in).Drains.Bed; b == nil || b.NowKnown {
			t.Errorf("%s without a pit: %+v", sheet, b)
		}
	}
}

// One state, one set of words; and what cannot be planned yet is said plainly.
func TestWordsOfTheState(t *testing.T) {
	date := civil.Must(2027, 3, 1)
	whole, part := intended(t, "hazelnut", date), intended(t, "strawberry", date)
	bare := *part.Sheet // a sheet that only says what the ground must be
	bare.Layouts = nil
	part.Sheet = &bare
	none := intended(t, "hazelnut", date)
	none.Sheet, none.Block.Planting = nil, nil
	planned := grounded(t, "hazelnut")
	for _, c := range []struct {
		name, words, cannot string
		in                  Input
	}{
		{"no crop", "no crop chosen", "Choose one at the step Plants", none},
		{"considered", "hazelnut, considered for March 2027", "Plan it at the step Plants", whole},
		{"a crop without layouts", "strawberry, annual on beds, considered for March 2027", "cannot be planned with it", part},
		{"planned", "hazelnut, planned for", "", planned},
	} {
		p := compute(t, c.in)
		if !strings.HasPrefix(p.Words, c.words) || (c.cannot == "") != (p.Cannot == "") || !strings.Contains(p.Cannot, c.cannot) {
			t.Errorf("%s: %q; %q", c.name, p.Words, p.Cannot)
		}
	}
}
