package practice

import (
	"strings"
	"testing"
)

// A sheet copied and changed: the copy loads, says what it came from, and differs from it in what was changed and in
// nothing else. A school copied beside another holds wherever that one held. What the validator refuses is refused.
func TestACopyKeepsItsDifferenceVisible(t *testing.T) {
	for _, id := range Crops() {
		base, err := One(id)
		if err != nil {
			t.Fatal(err)
		}
		text, err := Copied(base.Text(), id+"-ours", base.Name+", our way", id)
		if err != nil {
			t.Fatal(err)
		}
		own, err := Load(text)
		if err != nil || own.ID != id+"-ours" || own.From != id || own.Name != base.Name+", our way" {
			t.Fatalf("%s: %v %+v", id, err, own)
		}
		if d, err := Differences(base.Text(), own.Text()); err != nil || len(d) != 0 {
			t.Errorf("%s: a copy differs: %+v %v", id, d, err)
		}
		l := base.Layouts[0]
		path := "layouts[" + l.ID + "]"
		changed, err := Edited(own.Text(), []Edit{{Path: path + ".sentence", Value: "As we do it: \"closer\"."}, {Path: path, CopyAs: "ours"}, {Path: "layouts[ours].name", Value: "Ours"}})
		if err != nil {
			t.Fatalf("%s: %v", id, err)
		}
		again, err := Load(changed)
		if err != nil {
			t.Errorf("%s with a school more: %v", id, err)
			continue
		}
		ours, ok := again.Layout("ours")
		if !ok || ours.Name != "Ours" || ours.RowM != l.RowM || ours.Default || len(again.Layouts) != len(base.Layouts)+1 {
			t.Errorf("%s: %+v", id, ours)
		}
		d, err := Differences(own.Text(), again.Text())
		if err != nil || len(d) < 3 {
			t.Errorf("%s: %d differences, %v", id, len(d), err)
		}
		for _, x := range d {
			if x.Section == "layouts" && x.Entry != "ours" && !(x.Entry == l.ID && x.Field == "sentence") {
				t.Errorf("%s: %+v", id, x)
			}
		}
		gone, err := Edited(again.Text(), []Edit{{Path: "layouts[ours]", Remove: true}})
		if err != nil {
			t.Fatal(err)
		}
		if _, err := Load(gone); err == nil && len(base.Yields) > 1 && base.Yields[0].If["layout"] != nil {
			t.Errorf("%s: conditions name a layout that is gone, and it loads", id)
		}
	}
}

func TestEditsThatCannotBe(t *testing.T) {
	s, err := One("hazelnut")
	if err != nil {
		t.Fatal(err)
	}
	for _, e := range []Edit{{Path: "layouts[none].rowM", Value: "3"}, {Path: "life", Value: "3"}, {Path: "", Value: "3"}, {Path: "life.base", Remove: true}, {Path: "life", CopyAs: "x"},
		{Path: "layouts[" + s.Layouts[0].ID + "]", CopyAs: s.Layouts[0].ID}, {Path: "life.base[0", Value: "1"}} {
		if _, err := Edited(s.Text(), []Edit{e}); err == nil {
			t.Errorf("%+v is done", e)
		}
	}
	for path, v := range map[string]string{"life.base": "400", "layouts[" + s.Layouts[0].ID + "].plantM": "0", "material.survival": "2", "product.showAs": "heaps"} {
		text, err := Edited(s.Text(), []Edit{{Path: path, Value: v}})
		if err != nil {
			t.Fatal(err)
		}
		if _, err := Load(text); err == nil {
			t.Errorf("%s = %s loads", path, v)
		}
	}
}

// Every value of every sheet has a path of its own, and the path leads back to it.
func TestEveryValueHasItsPath(t *testing.T) {
	for _, id := range Crops() {
		s, _ := One(id)
		vs, err := Values(s.Text())
		if err != nil {
			t.Fatal(err)
		}
		seen := map[string]bool{}
		for _, v := range vs {
			if seen[v.Path] {
				t.Errorf("%s: %s twice", id, v.Path)
			}
			seen[v.Path] = true
		}
		root, _ := parse(s.Text())
		for _, v := range vs {
			p, at, err := find(root, v.Path)
			if err != nil || p.Content[at].Value != v.Value {
				t.Errorf("%s: %s: %v", id, v.Path, err)
			}
		}
		if len(vs) < 200 || !strings.Contains(vs[0].Path, "name") {
			t.Errorf("%s: %d values, first %+v", id, len(vs), vs[0])
		}
	}
}
