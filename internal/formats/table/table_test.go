package table

import (
	"errors"
	"strings"
	"testing"
)

func TestHowPeopleWriteTables(t *testing.T) {
	for _, c := range []struct {
		name, text string
		want       float64
	}{
		{"comma", "a,b\n1,2.5\n", 2.5},
		{"semicolon and decimal comma", "a;b\n1;2,5\n", 2.5},
		{"tab, mark and comment", "\ufeff# made up\na\tb\n\n1\t2,5\n", 2.5},
		{"a minus sign of typography", "a,b\n1,−2.5\n", -2.5},
	} {
		tab, err := Read(c.text)
		if err != nil || tab.Column("B") != 1 || len(tab.Rows) != 1 {
			t.Fatalf("%s: %+v, %v", c.name, tab, err)
		}
		if v, ok, err := tab.Number(tab.Rows[0], 1); v != c.want || !ok || err != nil {
			t.Errorf("%s: %g %v %v", c.name, v, ok, err)
		}
	}
	tab, _ := Read("day,x\n14.03.2027,\n2027-03-14T06:00,-\n")
	for _, r := range tab.Rows {
		if d, err := tab.Day(r, 0); err != nil || d.String() != "2027-03-14" {
			t.Errorf("%s, %v", d, err)
		}
		if _, ok, err := tab.Number(r, 1); ok || err != nil {
			t.Errorf("an empty cell is %v, %v", ok, err)
		}
	}
}

func TestRefusedTablesNameTheLine(t *testing.T) {
	for _, c := range []struct {
		text string
		line int
		say  string
	}{
		{"", 0, "empty"}, {"a,b\n", 1, "nothing below"}, {"a,b\n1,2\n1,2,3\n", 3, "3 values"}, {"a\n\x00\n", 2, "not text"},
	} {
		_, err := Read(c.text)
		var r *Refused
		if !errors.As(err, &r) || r.Line != c.line || !strings.Contains(r.Reason, c.say) {
			t.Errorf("%q: %v", c.text, err)
		}
	}
	tab, _ := Read("day,x\n1/2/2027,ten\n")
	if _, err := tab.Day(tab.Rows[0], 0); err == nil || !strings.Contains(err.Error(), "line 2") {
		t.Errorf("a day nobody can read: %v", err)
	}
	if _, _, err := tab.Number(tab.Rows[0], 1); err == nil || !strings.Contains(err.Error(), `line 2: x: "ten"`) {
		t.Errorf("a number in words: %v", err)
	}
}

func FuzzRead(f *testing.F) {
	for _, s := range []string{"a,b\n1,2\n", "a;b\n\"1;2", "\ufeffx\ty\n1\t2", "a\n\"", "#\n\n,\n,"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		tab, err := Read(text)
		if err != nil {
			return
		}
		for _, r := range tab.Rows {
			if len(r.Values) != len(tab.Head) || r.Line < 1 {
				t.Fatalf("row %+v under %d columns", r, len(tab.Head))
			}
			for i := range tab.Head {
				_, _, _ = tab.Number(r, i)
				_, _ = tab.Day(r, i)
			}
		}
	})
}
