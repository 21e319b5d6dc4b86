package units

import "testing"

func TestShownFigures(t *testing.T) {
	for _, c := range []struct {
		v    float64
		q    Quantity
		s    System
		want string
	}{
		{33100, Area, Metric, "3.31\u00a0ha"},
		{4046.8564224, Area, US, "1.00\u00a0ac"},
		{1331, Count, Metric, "1\u202f331"},
		{1234567, Count, US, "1\u202f234\u202f567"},
		{2030, Year, Metric, "2030"},
		{0.3048, Spacing, US, "1.00\u00a0ft"},
		{2242.5, PerArea, US, "908/ac"}, // 4 × 12 ft is 907.5 per acre, method LAY-1
		{1.12085, Rate, US, "1\u00a0lb/ac"},
		{2241.70, YieldT, US, "1.00\u00a0short tons/ac"}, // method book, index of units
		{0.086, Fraction, Metric, "9\u00a0%"},
		{-3.2, Distance, Metric, "−3\u00a0m"},
		{-0.2, Distance, Metric, "0\u00a0m"},
		{12, Temp, US, "54\u00a0°F"},
		{117, Angle, Metric, "117°"},
	} {
		if got := Text(c.v, c.q, c.s); got != c.want {
			t.Errorf("%v %s in %s: %q, want %q", c.v, c.q, c.s, got, c.want)
		}
	}
	if got := Text(1.234, "unheard-of", Metric); got != "1.23" {
		t.Errorf("an unknown quantity showed %q", got)
	}
}
