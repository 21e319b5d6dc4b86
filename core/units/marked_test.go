package units

import "testing"

// Marked quantities in both systems: ranges, products, negative temperatures and thousands keep their form.
func TestMarked(t *testing.T) {
	for _, c := range []struct{ text, metric, us string }{
		{"by test to {30–60 cm}, before the rip", "by test to 30–60 cm, before the rip", "by test to 12–24\u00a0in, before the rip"},
		{"holes {50 × 50 × 50 cm} ({0.125 m³})", "holes 50 × 50 × 50 cm (0.125 m³)", "holes 20 × 20 × 20\u00a0in (4.41\u00a0ft³)"},
		{"wood {−30 to −35 °C}", "wood −30 to −35 °C", "wood −22 to −31\u00a0°F"},
		{"{1 200–2 500 mm}, {25–40 mm} a week", "1 200–2 500 mm, 25–40 mm a week", "47–98\u00a0in, 0.98–1.6\u00a0in a week"},
		{"Wide {6 × 6 m}", "Wide 6 × 6 m", "Wide 20 × 20\u00a0ft"},
		{"{20 t/ha}, worked in", "20 t/ha, worked in", "8.9\u00a0short tons/ac, worked in"},
		{"below {6–8 m/s} mean", "below 6–8 m/s mean", "below 13–18\u00a0mph mean"},
		{"{0–20 and 20–40 cm}", "0–20 and 20–40 cm", "0–7.9 and 7.9–16\u00a0in"},
		{"one for {1–2 ha}", "one for 1–2 ha", "one for 2.5–4.9\u00a0ac"},
		{"nothing marked, 30 cm", "nothing marked, 30 cm", "nothing marked, 30 cm"},
		{"a mark of {no unit}", "a mark of no unit", "a mark of no unit"},
		{"{1.20 × 0.75 m}", "1.20 × 0.75 m", "3.94 × 2.5\u00a0ft"},
		{"{1 500 m}", "1 500 m", "4\u202f900\u00a0ft"},
	} {
		if got := Marked(c.text, Metric); got != c.metric {
			t.Errorf("metric: %q, want %q", got, c.metric)
		}
		if got := Marked(c.text, US); got != c.us {
			t.Errorf("US: %q, want %q", got, c.us)
		}
	}
}
