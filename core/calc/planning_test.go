package calc

import "testing"

// Fertiliser 10, 45 and 110 days after pruning (method S2, common practice): on the calendar, as planned and as noted.
func TestAfterWhatWasNoted(t *testing.T) {
	reg := registry(t)
	for noted, want := range map[string][3]string{"": {"2027-02-21", "2027-03-28", "2027-06-01"}, "2027-02-20": {"2027-03-02", "2027-04-06", "2027-06-10"},
		"2026-12-31": {"2027-01-10", "2027-02-14", "2027-04-20"}} {
		in := map[string]any{}
		if noted != "" {
			in["noted"] = noted
		}
		r, _, err := reg.Run("after-what-was-noted", in)
		if err != nil {
			t.Fatal(err)
		}
		for i, name := range []string{"firstOn", "secondOn", "thirdOn"} {
			if r.Outputs[name] != want[i] {
				t.Errorf("noted %q: %s %v, wanted %s", noted, name, r.Outputs[name], want[i])
			}
		}
	}
	if _, _, err := reg.Run("after-what-was-noted", map[string]any{"noted": "2027-12-20"}); err == nil {
		t.Error("ten months later it is another year's")
	}
}
