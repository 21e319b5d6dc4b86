package climate

import (
	"math"
	"testing"

	"slowroot/core/civil"
)

func near(t *testing.T, name string, got, want, abs float64) {
	t.Helper()
	if !(math.Abs(got-want) <= abs) {
		t.Errorf("%s: %.6g, want %g", name, got, want)
	}
}

var normals = []float64{-1, 0.5, 5, 10, 15, 18.5, 20.5, 20, 15.5, 10, 4.5, 0.5}

// Method C1 (Epstein 1991), computed; the months' means come back.
func TestSmoothYear(t *testing.T) {
	six, _ := NewSmooth(normals, 6)
	two, _ := NewSmooth(normals, 2)
	near(t, "mean", six.Mean, 9.9167, 1e-4)
	near(t, "a1", six.A[0], -10.4666, 1e-4)
	near(t, "b1", six.B[0], -2.9354, 1e-4)
	near(t, "a2", six.A[1], -0.3023, 1e-4)
	near(t, "b2", six.B[1], 0.2618, 1e-4)
	for i, doy := range []float64{1, 15, 46, 105, 196, 288} {
		near(t, "six harmonics", six.At(doy), []float64{-0.655, -1.110, 0.333, 9.655, 20.474, 10.277}[i], 1e-3)
		near(t, "two harmonics", two.At(doy), []float64{-0.873, -1.091, 0.689, 9.580, 20.615, 10.466}[i], 1e-3)
	}
	for m, want := range normals {
		sum := 0.0
		for k := 0; k < 1000; k++ {
			sum += six.atMonth(float64(m) + (float64(k)+0.5)/1000)
		}
		near(t, "mean of the month", sum/1000, want, 1e-4)
	}
	if _, err := NewSmooth(normals[:11], 4); err == nil {
		t.Error("eleven months")
	}
	// method C5 on the same year: 7-day mean 10 °C on day 111, a single day on 108
	at := func(d int) float64 { return six.At(float64(d)) }
	if d, ok := DormancyBreak(at, 1, 7, 1, 10); !ok || d != 111 {
		t.Errorf("dormancy breaks on %d", d)
	}
	if d, _ := DormancyBreak(at, 1, 1, 1, 10); d != 108 {
		t.Errorf("single value on %d", d)
	}
	if _, ok := DormancyBreak(at, 1, 7, 1, 30); ok {
		t.Error("30 °C is never reached")
	}
}

// SplitMix64's published test vector (from memory, reproduced); AS 241: Wichura, 1988; Geng et al., 1986.
func TestSeededWeather(t *testing.T) {
	r := NewRandom(1234567)
	for _, want := range []uint64{6457827717110365317, 3203168211198807973, 9817491932198370423, 4593380528125082431, 16408922859458223821} {
		if got := r.Next(); got != want {
			t.Errorf("%d, want %d", got, want)
		}
	}
	r = NewRandom(42)
	for _, want := range []float64{0.7415648788, 0.1599103929, 0.2786011303, 0.3441907165, 0.0380301685} {
		near(t, "uniform", r.Uniform(), want, 1e-10)
	}
	for _, c := range [][2]float64{{0.25, -0.6744897501960817}, {0.001, -3.090232306167814}, {1e-20, -9.262340089798408}, {0.7415648788, 0.6481773614}} {
		near(t, "Φ⁻¹", NormalQuantile(c[0]), c[1], 1e-9)
	}
	near(t, "Φ", NormalCDF(1.959963984540054), 0.975, 1e-12)
	m, _ := NewRainModel(124, 10, 31)
	near(t, "wet after dry", m.WetAfterDry, 0.24194, 1e-5)
	near(t, "wet after wet", m.WetAfterWet, 0.49194, 1e-5)
	near(t, "scale", m.Scale, 20.532, 1e-3)
	near(t, "shape", m.Shape, 0.60394, 1e-5)
	m2, _ := NewRainModel(60, 12, 30)
	near(t, "shape", m2.Shape, 0.71531, 1e-5)
	days := m.Days(31, NewRandom(7))
	want := map[int]float64{2: 28.65, 8: 6.61, 9: 39.88, 19: 5.24, 20: 28.87, 22: 6.48, 26: 5.99, 27: 10.11, 29: 33.93, 30: 2.40}
	total := 0.0
	for i, mm := range days {
		total += mm
		near(t, "rain of the day", mm, want[i+1], 0.01)
	}
	near(t, "month", total, 168.148, 1e-3)
	long := m.Days(310000, NewRandom(11))
	sum, wet := 0.0, 0
	for _, mm := range long {
		sum += mm
		if mm > 0 {
			wet++
		}
	}
	near(t, "long mean", sum/10000, 124, 3)
	near(t, "long wet days", float64(wet)/10000, 10, 0.15)
	if _, err := NewRainModel(10, 0, 30); err == nil {
		t.Error("rain without a wet day")
	}
}

// Method C3 (Thom & Shaw 1958), computed.
func TestFrostRisk(t *testing.T) {
	f := FrostDates{Days: []float64{98, 105, 112, 91, 120, 101, 108, 115, 95, 103, 110, 107, 99, 118, 104}, Years: 15}
	r, err := f.Spring(0.2)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "mean", r.Mean, 105.733, 1e-3)
	near(t, "sd", r.SD, 8.345, 1e-3)
	near(t, "20 %", r.Normal, 112.76, 0.01)
	near(t, "20 % empirical", r.Empirical, 112.60, 0.01)
	r, _ = f.Spring(0.1)
	near(t, "10 %", r.Normal, 116.43, 0.01)
	near(t, "10 % empirical", r.Empirical, 116.80, 0.01)
	if r.Day != 117 {
		t.Errorf("day %d", r.Day)
	}
	near(t, "after a day", FrostAfter(0.7, 105, 9, 110), 0.2025, 1e-4)
	near(t, "life", LifeRisk(0.1, 20), 0.8784, 1e-4)
	for tC, want := range map[float64]float64{-3.05: 0.5, -2.2: 0.1, -4.5: 0.9, -1: 0} {
		near(t, "apple bloom", BloomLoss(tC, -2.2, -3.9), want, 1e-9)
	}
	if _, err := (FrostDates{Days: []float64{1, 2}}).Spring(0.1); err == nil {
		t.Error("two years make no risk")
	}
}

// The same fifteen dates in thirty years: half the years have no frost, and for one year in ten
// p₀·(1 − Φ) = 0.1 gives 112.8. Where frost comes in no more years than the risk there is no date.
func TestFrostFreeYearsCount(t *testing.T) {
	days := []float64{98, 105, 112, 91, 120, 101, 108, 115, 95, 103, 110, 107, 99, 118, 104}
	r, err := (FrostDates{Days: days, Years: 30}).Spring(0.1)
	if err != nil || r.Never {
		t.Fatal(r, err)
	}
	near(t, "half the years have a frost", r.Normal, 112.76, 0.01)
	near(t, "its risk", r.After(r.Normal), 0.1, 1e-9)
	near(t, "empirical: 1 − 0.1/0.5", r.Empirical, Quantile(days, 0.8), 1e-12)
	if r.Day != 113 {
		t.Errorf("day %d", r.Day)
	}
	same := make([]float64, 15)
	for i := range same {
		same[i] = 100
	}
	for _, years := range []int{15, 30, 100} {
		if r, err := (FrostDates{Days: same, Years: years}).Spring(0.1); err != nil || r.Day != 100 || r.After(99) != 15/float64(years) || r.After(100) != 0 {
			t.Errorf("all on day 100 of %d years: %+v %v", years, r, err)
		}
	}
	for _, years := range []int{150, 151, 200} {
		if r, err := (FrostDates{Days: days, Years: years}).Spring(0.1); err != nil || !r.Never || r.Day != 0 || r.After(50) != r.FrostShare {
			t.Errorf("%d years: %+v %v", years, r, err)
		}
	}
	if r, err := (FrostDates{Days: []float64{60}, Years: 40}).Spring(0.1); err != nil || !r.Never {
		t.Errorf("one frost in forty years: %+v %v", r, err)
	}
	if _, err := (FrostDates{Days: days, Years: 10}).Spring(0.1); err == nil {
		t.Error("fifteen dates in ten years accepted")
	}
}

// Method C4; sine confirmed by integration.
func TestDegreeDays(t *testing.T) {
	for _, c := range []struct{ tn, tx, lo, up, floor, clip, tri, sin float64 }{
		{4, 16, 10, 0, 0, 3, 1.5, 1.9099}, {5, 15, 10, 30, 0, 2.5, 1.25, 1.5915}, {8, 28, 10, 30, 8, 9, 8.1, 8.2712}, {12, 36, 10, 30, 11, 11, 13.25, 12.6920}, {2, 9, 10, 30, 0, 0, 0, 0},
	} {
		for s, want := range map[HeatSchool]float64{AverageFloor: c.floor, AverageClip: c.clip, Triangle: c.tri, Sine: c.sin} {
			got, err := DegreeDays(c.tn, c.tx, c.lo, c.up, s)
			if err != nil {
				t.Fatal(err)
			}
			near(t, string(s), got, want, 1e-4)
		}
		sum := 0.0
		for k := 0; k < 20000; k++ {
			x := (c.tx+c.tn)/2 + (c.tx-c.tn)/2*math.Sin(2*math.Pi*float64(k)/20000)
			if c.up > 0 {
				x = math.Min(x, c.up)
			}
			sum += math.Max(0, x-c.lo) / 20000
		}
		near(t, "integral", sum, c.sin, 1e-3)
	}
	if _, err := DegreeDays(10, 5, 0, 0, Sine); err == nil {
		t.Error("a maximum below the minimum")
	}
}

// Fishman, Erez & Couvillon 1987 with the constants of Erez et al. 1990; Weinberger 1950; Richardson et
// al. 1974 (method C6).
func TestChillModels(t *testing.T) {
	c, err := Chilling([]float64{10, 8, 6, 4, 3, 2, 1, 0, -1, 2, 5, 7, 7.2, 7.3, 9.1, 9.2, 12.4, 12.5, 15.9, 16, 17, 18, 18.1, 20})
	if err != nil || c.Hours != 11 || c.HoursAbove0 != 10 || c.Utah != 8 || c.PositiveUtah != 11.5 {
		t.Errorf("%+v %v", c, err)
	}
	constant := func(tC float64, n int) []float64 {
		out := make([]float64, n)
		for i := range out {
			out[i] = tC
		}
		return out
	}
	for tC, want := range map[float64]float64{0: 4.857, 2: 26.371, 4: 29.849, 6: 34.20422, 8: 34.568, 10: 32.436, 12: 25.003, 13: 0} {
		c, _ := Chilling(constant(tC, 1000))
		near(t, "portions", c.Portions, want, 1e-3*math.Max(1, want))
	}
	if c, _ := Chilling(constant(6, 28)); c.Portions != 0 {
		t.Error("the first portion came early")
	}
	if c, _ := Chilling(constant(6, 29)); math.Abs(c.Portions-0.9805116) > 1e-6 {
		t.Errorf("first portion %g", c.Portions)
	}
	days := func(cool, warm float64) (out []float64) {
		for d := 0; d < 30; d++ {
			out = append(append(out, constant(cool, 16)...), constant(warm, 8)...)
		}
		return out
	}
	c, _ = Chilling(days(6, 15))
	near(t, "16 h 6°, 8 h 15°", c.Portions, 21.39767, 1e-4)
	near(t, "Utah", c.Utah, 480, 0)
	c, _ = Chilling(days(6, 22))
	near(t, "16 h 6°, 8 h 22°", c.Portions, 0, 1e-9)
	near(t, "Utah", c.Utah, 240, 0)
	if _, err := Chilling(append(constant(5, 80), constant(math.NaN(), 20)...)); err == nil {
		t.Error("a fifth of the hours is missing")
	}
}

// Linvill, HortScience, 1990 (method C7).
func TestHourly(t *testing.T) {
	h, err := Hourly(2, 14, 3, 10)
	if err != nil {
		t.Fatal(err)
	}
	for i, want := range []float64{2, 4.67, 7.21, 9.48, 11.38, 12.81, 13.70, 14, 13.70, 12.81, 11.38, 11.38, 9.18, 7.89, 6.98, 6.27, 5.69, 5.20, 4.78, 4.40, 4.07, 3.77, 3.49, 3.24} {
		near(t, "hour", h[i], want, 0.006)
	}
	if _, err := Hourly(2, 14, 3, 24); err == nil {
		t.Error("a polar day")
	}
}

// Sivakumar 1988 (C10) and the drought trigger (C11), computed.
func TestRains(t *testing.T) {
	rain := make([]float64, 120)
	for i, mm := range map[int]float64{10: 12, 11: 9, 30: 15, 31: 8, 36: 5, 40: 6, 45: 11, 50: 9, 55: 4, 60: 7, 66: 3, 72: 8} {
		rain[i] = mm
	}
	o := RainsBegin(rain, 0, 7)
	if !o.Found || o.Index != 30 || len(o.FalseStarts) != 1 || o.FalseStarts[0] != 10 || o.Provisional {
		t.Errorf("%+v", o)
	}
	if o := RainsBegin(rain, 0, 20); o.Index != 10 {
		t.Errorf("a longer dry run bears %d", o.Index)
	}
	if o := RainsBegin(rain[:40], 0, 7); !o.Provisional {
		t.Error("the days that confirm it have not come")
	}
	want := []Spell{{0, 10}, {12, 18}, {32, 4}, {37, 3}, {41, 4}, {46, 4}, {51, 4}, {56, 4}, {61, 5}, {67, 5}}
	got := DrySpells(rain)
	for i := range want {
		if got[i] != want[i] {
			t.Errorf("spell %d: %v, want %v", i, got[i], want[i])
		}
	}
	fires, _ := DroughtTriggers(rain, 11, 5)
	for i, want := range []int{22, 71, 83, 94, 105, 116} {
		if i >= len(fires) || fires[i] != want {
			t.Fatalf("fires on %v", fires)
		}
	}
	if last, ok := RainsEnd(rain, 30); !ok || last != 72 {
		t.Errorf("rains end on %d", last)
	}
}

// Meeus, Astronomical Algorithms, 1998, example 25.a; Reda & Andreas, 2004, worked example (method C12).
func TestSun(t *testing.T) {
	s := SunAt(civil.Must(1992, 10, 13), 0, 0, 0)
	near(t, "apparent longitude", s.LongitudeDeg, 199.90895, 2e-3)
	near(t, "declination", s.DeclinationDeg, -7.78507, 2e-3)
	s = SunAt(civil.Must(2003, 10, 17), 19*60+30.5, 39.742476, -105.1786)
	near(t, "elevation", s.ElevationDeg, 39.872046, 2e-3)
	near(t, "azimuth", s.AzimuthDeg, 194.34024, 5e-3)
	for _, c := range []struct {
		d                     civil.Date
		min, lat, lon, el, az float64
	}{{civil.Must(2026, 6, 21), 600, 48, 11, 60.983, 140.960}, {civil.Must(2026, 12, 21), 570, -33.5, 19, 71.288, 62.138}, {civil.Must(2026, 9, 1), 240, 20, 74, 44.018, 97.956}} {
		s := SunAt(c.d, c.min, c.lat, c.lon)
		near(t, "elevation", s.ElevationDeg, c.el, 0.01)
		near(t, "azimuth", s.AzimuthDeg, c.az, 0.02)
	}
	for _, c := range []struct {
		lat       float64
		doy       int
		fao, work float64
	}{{48, 172, 15.837, 16.045}, {48, 355, 8.163, 8.368}, {-33.5, 355, 14.223, 14.375}, {20, 15, 10.917, 11.045}, {0, 80, 12, 12.111}, {70, 172, 24, 24}} {
		near(t, "day length", DayLength(c.lat, c.doy), c.fao, 2e-3)
		near(t, "working day", WorkDayLength(c.lat, c.doy), c.work, 3e-3)
	}
	near(t, "shadow", RowShadow(2, 0, Sun{ElevationDeg: 45, AzimuthDeg: 90}), 2, 1e-12)
	near(t, "along the row", RowShadow(2, 90, Sun{ElevationDeg: 45, AzimuthDeg: 90}), 0, 1e-12)
}

// FAO Irrigation and Drainage Paper 56, 1998, by example number.
func TestReferenceEvapotranspiration(t *testing.T) {
	near(t, "example 2, pressure", PressureKPa(1800), 81.8, 0.05)
	near(t, "example 2, psychrometric", Psychrometric(1800), 0.054, 5e-4)
	near(t, "example 3", SaturationKPa(24.5), 3.075, 5e-4)
	near(t, "example 3", SaturationKPa(15), 1.705, 5e-4)
	near(t, "example 8", Extraterrestrial(-20, 246), 32.2, 0.05)
	near(t, "example 9", DayLength(-20, 246), 11.7, 0.05)
	near(t, "example 13", SoilHeat(14.1, 18.8), 0.33, 5e-3)
	near(t, "example 14", Wind2(3.2, 10), 2.4, 0.05)
	a := Unknown()
	a.LatDeg, a.DOY, a.TMin, a.TMax, a.RHMax, a.RHMin = 0, 1, 18, 25, 82, 54
	r, _ := ET0(a)
	near(t, "example 5", r.Vapour, 1.70, 5e-3)
	a = Unknown()
	a.LatDeg, a.DOY, a.TMin, a.TMax, a.VapourKPa, a.SunHours = -22.9, 135, 19.1, 25.1, 2.1, 220.0/31
	r, _ = ET0(a)
	near(t, "example 10", r.Rs, 14.5, 0.05)
	near(t, "example 11", r.Rnl, 3.5, 0.05)
	near(t, "example 12", r.Rn, 7.6, 0.05)
	a = Unknown()
	a.LatDeg, a.DOY, a.TMin, a.TMax, a.ElevationM = 45+43.0/60, 196, 14.8, 26.6, 200
	r, _ = ET0(a)
	near(t, "example 15", r.Rs, 22.3, 0.05)
	near(t, "example 20", r.MM, 4.56, 0.01)
	near(t, "example 20, Hargreaves", r.Hargreaves, 5.0, 0.05)
	if len(r.Substituted) != 3 || !(r.Low < r.MM && r.MM < r.High) {
		t.Errorf("what was put in is not named: %+v", r)
	}
	a = Unknown()
	a.LatDeg, a.DOY, a.TMin, a.TMax, a.ElevationM, a.VapourKPa, a.WindMS, a.SunHours, a.SoilHeat = 13+44.0/60, 105, 25.6, 34.8, 2, 2.85, 2, 8.5, 0.14
	r, _ = ET0(a)
	near(t, "example 17", r.MM, 5.72, 0.01)
	a = Unknown()
	a.LatDeg, a.DOY, a.TMin, a.TMax, a.ElevationM, a.RHMax, a.RHMin, a.WindMS, a.WindHeightM, a.SunHours = 50.8, 187, 12.3, 21.5, 100, 84, 63, 2.78, 10, 9.25
	r, _ = ET0(a)
	near(t, "example 18", r.MM, 3.88, 0.01)
	near(t, "example 18, Ra", r.Ra, 41.09, 0.01)
	near(t, "example 18, Rn", r.Rn, 13.28, 0.01)
	if len(r.Substituted) != 0 {
		t.Errorf("everything was measured: %v", r.Substituted)
	}
	a.LatDeg, a.DOY, a.SunHours = 80, 355, math.NaN()
	if r, err := ET0(a); err != nil || r.Applies {
		t.Errorf("the polar night: %+v %v", r, err)
	}
	a.RHMax = 101
	if _, err := ET0(a); err == nil {
		t.Error("101 % humidity")
	}
}

func TestCalendarsAndDamage(t *testing.T) {
	a := [2]civil.Date{civil.Must(2026, 4, 1), civil.Must(2026, 4, 10)}
	b := [2]civil.Date{civil.Must(2026, 4, 8), civil.Must(2026, 4, 20)}
	if d, s := Overlap(a, b); d != 3 || math.Abs(s-0.3) > 1e-9 {
		t.Errorf("%d days, %g", d, s)
	}
	// method C14: flowering October–November and four months give February–March
	x, y := HarvestFrom(civil.Must(2026, 10, 1), civil.Must(2026, 11, 30), 122)
	if x.Month() != 1 && x.Month() != 2 || y.Month() != 4 && y.Month() != 3 {
		t.Errorf("%s to %s", x, y)
	}
	if _, ok := Agrees(x, civil.Must(2027, 1, 1)); ok {
		t.Error("a month off agrees")
	}
	for _, c := range []struct {
		m    int
		lat  float64
		want string
	}{{4, 45, "spring"}, {4, -38, "autumn"}, {12, -38, "summer"}, {12, 45, "winter"}, {7, -38, "winter"}} {
		if got, err := SeasonOf(c.m, c.lat); err != nil || got != c.want {
			t.Errorf("month %d at %g is %s", c.m, c.lat, got)
		}
	}
	if _, err := SeasonOf(4, 3); err == nil {
		t.Error("a season on the equator")
	}
	if OtherHemisphere(civil.Must(2026, 8, 31)) != civil.Must(2027, 2, 28) {
		t.Error("the end of a month is lost")
	}
	near(t, "C16", AtLeastDays(0.6, 20, 10), 0.8725, 1e-4)
	near(t, "C16", AtLeastDays(0.6, 20, 12), 0.5956, 1e-4)
	if n, _ := DaysNeeded(0.6, 12, 0.8); n != 23 {
		t.Errorf("%d days", n)
	}
	m, _ := YearMultiplier([][2]float64{{0.5, 0.4}, {1, 0.1}})
	near(t, "losses", m, 0.72, 1e-12)
}

// stretch makes years of days from a smooth year with a cold snap each winter and a wet winter.
func stretch(years int, south bool) []Day {
	var out []Day
	start := civil.Must(2000, 1, 1)
	r := NewRandom(3)
	for i := 0; i < years*365+years/4; i++ {
		d := Blank(start.AddDays(i))
		doy := float64(d.On.DayOfYear())
		if south {
			doy = math.Mod(doy+182, 365)
		}
		mean := 11 - 8*math.Cos(2*math.Pi*(doy-15)/365) + 2*r.Normal()
		d.TMin, d.TMax, d.Rain = mean-5, mean+5, 0
		if r.Uniform() < 0.3 {
			d.Rain = 8
		}
		out = append(out, d)
	}
	return out
}

func TestStationDays(t *testing.T) {
	n := math.NaN()
	day := func(i int, lo, hi float64) Day {
		d := Blank(civil.Must(2026, 1, 1).AddDays(i))
		d.TMin, d.TMax = lo, hi
		return d
	}
	s := NewSeries([]Day{day(9, 2, 8), day(0, 1, 7), day(0, 1.5, 7), day(1, 9, 3), day(2, -999, 5), day(3, 1, 2), day(4, 1, 2), day(5, 1, 2), day(6, 1, 2), day(7, 1, 2)})
	if len(s.Days) != 10 || s.Days[0].TMin != 1.5 || !math.IsNaN(s.Days[1].TMin) || !math.IsNaN(s.Days[2].TMin) || s.Days[2].TMax != 5 {
		t.Errorf("%+v", s.Days)
	}
	if len(s.Notes) != 4 || len(s.Gaps) != 2 || s.Gaps[0].Days != 2 || s.Gaps[1].Days != 1 {
		t.Errorf("notes %+v, gaps %+v", s.Notes, s.Gaps)
	}
	_ = n
	for _, south := range []bool{false, true} {
		lat := 47.0
		if south {
			lat = -47
		}
		s := NewSeries(stretch(12, south))
		site := NewSite(nil, &s, lat, 100, false, "test")
		if len(site.Years) < 10 || !site.HasMonths || !site.HasFrost || math.IsNaN(site.ChillHours) || math.IsNaN(site.MinC10) {
			t.Fatalf("south %v: %+v", south, site)
		}
		// both hemispheres say the same, half a year apart
		spring := map[bool][2]int{false: {60, 150}, true: {240, 335}}[south]
		if site.LastFrost.Day < spring[0] || site.LastFrost.Day > spring[1] {
			t.Errorf("south %v: last frost on day %d", south, site.LastFrost.Day)
		}
		near(t, "annual mean", site.AnnualMeanC, 11, 0.3)
		if site.ChillHours < 500 || site.ChillHours > 3000 || site.FrostFree < 150 || site.FrostFree > 320 {
			t.Errorf("chill %g, frost-free %g", site.ChillHours, site.FrostFree)
		}
		up := site.At(200, -2)
		near(t, "lapse", up.AnnualMeanC-site.AnnualMeanC, -0.6, 1e-9)
		near(t, "hollow", up.MinC10-site.MinC10, -2.6, 1e-9)
	}
	if site := NewSite(nil, nil, 0, 0, false, ""); !math.IsNaN(site.RainMM) || site.HasMonths {
		t.Error("nothing known became something")
	}
}

// The frequency factor of the extreme value distribution: K(T = 5) = 0.7195, K(10) = 1.3046, K(100) = 3.1367
// (from memory: Chow, Maidment & Mays, Applied Hydrology, 1988, example 12.2.1).
func TestStormOnceInFiveYears(t *testing.T) {
	maxima := []float64{40, 60, 80, 100, 120}
	mean, sd := MeanSD(maxima)
	for _, c := range []struct{ years, k float64 }{{5, 0.7195}, {10, 1.3046}, {100, 3.1367}} {
		if got := (Gumbel(maxima, c.years) - mean) / sd; math.Abs(got-c.k) > 1e-4 {
			t.Errorf("K(%g) = %.4f, want %.4f", c.years, got, c.k)
		}
	}
	if !math.IsNaN(Gumbel(maxima[:4], 5)) {
		t.Error("four years make a storm of five")
	}
	var days []Day
	for d := civil.Must(2010, 1, 1); d.Before(civil.Must(2013, 3, 1)); d = d.AddDays(1) {
		x := Blank(d)
		x.Rain = 0
		if d.Year() == 2011 && d.Month() == 7 && d.Day() <= 4 {
			x.Rain = 25
		}
		if d.Year() == 2012 && d.Month() >= 6 {
			x.Rain = math.NaN()
		}
		days = append(days, x)
	}
	// 2010 dry, 2011 with four days of 25 mm, 2012 and 2013 lack too much
	if got := NewSeries(days).Storms(3); len(got) != 2 || got[0] != 0 || got[1] != 75 {
		t.Errorf("the most of three days: %v", got)
	}
}

// Days that can be worked, on a record whose answer can be counted by hand, and the binomial where there is only a month.
func TestSpanOfWorkableDays(t *testing.T) {
	rain := []float64{0, 0, 4.9, 5, 0, 25, 0, 0, 0, math.NaN(), 0}
	for drain, want := range map[int]string{1: "11101011101"[:0] + "11101011101", 2: "11101001101", 3: "11101000101"} {
		got := ""
		for i, ok := range Workable(rain, drain) {
			if i == 9 && ok {
				t.Error("a day without a record is worked")
			}
			got += map[bool]string{true: "1", false: "0"}[ok]
		}
		if got != want {
			t.Errorf("drained in %d days: %s, want %s", drain, got, want)
		}
	}
	// ten years in which it rains hard every third day: on loam one day of three is left, so four days take from ten on
	var days []Day
	for d := civil.Must(2010, 1, 1); d.Before(civil.Must(2020, 3, 1)); d = d.AddDays(1) {
		x := Blank(d)
		x.TMin, x.TMax, x.Rain = 5+float64(d.DayOfYear()%2)/10, 15, 0
		if d.DayNumber()%3 == 0 {
			x.Rain = 30
		}
		days = append(days, x)
	}
	s := NewSeries(days)
	site := NewSite(nil, &s, 50, 0, false, "a test")
	span, ok := site.WorkSpan(civil.Must(2027, 5, 10), 4, 2, 0.8)
	if !ok || span.Years != 10 || span.Days < 10 || span.Days > 12 || math.Abs(span.Share-1.0/3) > 0.06 {
		t.Errorf("%+v, %v", span, ok)
	}
	if _, ok := site.WorkSpan(civil.Must(2027, 5, 10), 4, 3, 0.8); ok && site.HasMonths {
		t.Log("by the month where the record never lets the soil drain")
	}
	// a month of 18 dry days of 30, p 0.6: twelve workable days with 80 % take 23 days (method C16)
	var month Site
	month.HasMonths = true
	month.Months[5].WetDays = 12
	if span, ok := month.WorkSpan(civil.Must(2027, 6, 3), 12, 2, 0.8); !ok || span.Days != 23 || span.Years != 0 {
		t.Errorf("by the month %+v, %v", span, ok)
	}
	if _, ok := month.WorkSpan(civil.Must(2027, 7, 3), 12, 2, 0.8); ok {
		t.Error("a month without wet days known says a span")
	}
}
