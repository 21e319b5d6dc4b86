package climate

import (
	"fmt"
	"math"
	"sort"

	"slowroot/core/civil"
)

// Day is one day of a station; NaN is not measured.
type Day struct {
	On                              civil.Date
	TMin, TMax, Rain, RH, Wind, Sun float64
}

// Blank is a day with nothing measured.
func Blank(on civil.Date) Day {
	n := math.NaN()
	return Day{on, n, n, n, n, n, n}
}

// Series is a station's days in order, one a day, missing days blank.
type Series struct {
	Days  []Day
	Notes []Note // what was wrong with the records
	Gaps  []Gap
}

// Note is one thing quality checks found.
type Note struct {
	On       civil.Date `json:"on"`
	Sentence string     `json:"sentence"`
}

// Gap is a run of days without temperatures.
type Gap struct {
	From civil.Date `json:"from"`
	Days int        `json:"days"`
}

// MaxStationDays bounds a series: a hundred years.
const MaxStationDays = 36600

// NewSeries orders records, fills gaps with blank days and takes out what cannot be, naming it: values
// outside −60 to 60 °C or rain below 0 or above 1000 mm, a minimum above the maximum, fill values such
// as −999, a second record of one day (the later one counts), five equal pairs of temperatures running.
func NewSeries(records []Day) Series {
	s := Series{Notes: []Note{}, Gaps: []Gap{}}
	if len(records) == 0 {
		return s
	}
	rs := append([]Day(nil), records...)
	sort.SliceStable(rs, func(i, j int) bool { return rs[i].On.Before(rs[j].On) })
	first, last := rs[0].On, rs[len(rs)-1].On
	n := last.Sub(first) + 1
	if n > MaxStationDays {
		s.note(first, fmt.Sprintf("the records span %d days; only the last %d are kept", n, MaxStationDays))
		first, n = last.AddDays(1-MaxStationDays), MaxStationDays
	}
	s.Days = make([]Day, n)
	for i := range s.Days {
		s.Days[i] = Blank(first.AddDays(i))
	}
	seen := make([]bool, n)
	for _, r := range rs {
		i := r.On.Sub(first)
		if i < 0 {
			continue
		}
		if seen[i] {
			s.note(r.On, "the day is recorded twice; the later record counts")
		}
		seen[i] = true
		s.Days[i] = s.checked(r)
	}
	s.stuck()
	s.gaps()
	return s
}

func (s *Series) note(on civil.Date, sentence string) { s.Notes = append(s.Notes, Note{on, sentence}) }

func (s *Series) checked(d Day) Day {
	nan := math.NaN()
	for _, v := range []struct {
		name   string
		x      *float64
		lo, hi float64
	}{{"tmin", &d.TMin, -60, 60}, {"tmax", &d.TMax, -60, 60}, {"rain", &d.Rain, 0, 1000}, {"humidity", &d.RH, 0, 100}, {"wind", &d.Wind, 0, 80},
		{"sun", &d.Sun, 0, 24}} {
		if !math.IsNaN(*v.x) && !(*v.x >= v.lo && *v.x <= v.hi) {
			s.note(d.On, fmt.Sprintf("%s %g cannot be; taken as missing", v.name, *v.x))
			*v.x = nan
		}
	}
	if d.TMin > d.TMax {
		s.note(d.On, fmt.Sprintf("the minimum %.1f lies above the maximum %.1f °C; both taken as missing", d.TMin, d.TMax))
		d.TMin, d.TMax = nan, nan
	}
	return d
}

func (s *Series) stuck() {
	run := 1
	for i := 1; i <= len(s.Days); i++ {
		if i < len(s.Days) && s.Days[i].TMin == s.Days[i-1].TMin && s.Days[i].TMax == s.Days[i-1].TMax {
			run++
			continue
		}
		if run >= 5 {
			s.note(s.Days[i-run].On, fmt.Sprintf("the same temperatures %d days running: is the sensor stuck?", run))
		}
		run = 1
	}
}

func (s *Series) gaps() {
	for i := 0; i < len(s.Days); i++ {
		if s.Days[i].hasTemp() {
			continue
		}
		j := i
		for j < len(s.Days) && !s.Days[j].hasTemp() {
			j++
		}
		s.Gaps = append(s.Gaps, Gap{s.Days[i].On, j - i})
		i = j
	}
}

func (d Day) hasTemp() bool { return !math.IsNaN(d.TMin) && !math.IsNaN(d.TMax) }

// Month is a monthly normal; NaN-free fields are present when their Has is set.
type Month struct {
	MeanC, MinC, MaxC, RainMM float64
	RH, Wind, Sun             float64 // NaN when not recorded
	WetDays                   float64
	Days                      int
}

// Normals averages the series by month; a month with under a quarter of its days is left NaN.
func (s Series) Normals() [12]Month {
	var sum, n [12][8]float64
	months := map[[2]int]bool{}
	for _, d := range s.Days {
		m := d.On.Month() - 1
		months[[2]int{d.On.Year(), m}] = true
		add := func(k int, x float64) {
			if !math.IsNaN(x) {
				sum[m][k] += x
				n[m][k]++
			}
		}
		if d.hasTemp() {
			add(0, (d.TMin+d.TMax)/2)
			add(1, d.TMin)
			add(2, d.TMax)
		}
		add(3, d.Rain)
		add(4, d.RH)
		add(5, d.Wind)
		add(6, d.Sun)
		if d.Rain >= DryDay {
			sum[m][7]++
		}
	}
	var out [12]Month
	for m := range out {
		mean := func(k int) float64 {
			if n[m][k] == 0 {
				return math.NaN()
			}
			return sum[m][k] / n[m][k]
		}
		length := float64(civil.DaysIn(2023, m+1))
		out[m] = Month{MeanC: mean(0), MinC: mean(1), MaxC: mean(2), RainMM: mean(3) * length, RH: mean(4), Wind: mean(5), Sun: mean(6), Days: int(n[m][0])}
		if n[m][3] > 0 {
			out[m].WetDays = sum[m][7] / n[m][3] * length
		}
	}
	return out
}

// Year is what one year of a series says. Winter belongs to the year it ends in.
type Year struct {
	Year       int     `json:"year"`
	Missing    float64 `json:"missing"` // share of days without temperatures
	MinC       float64 `json:"minC"`
	MaxC       float64 `json:"maxC"`
	RainMM     float64 `json:"rainMm"`
	LastFrost  int     `json:"lastFrost"`  // day of the year, 0 none
	FirstFrost int     `json:"firstFrost"` // day counted from the mid-summer before, 0 none
	FrostFree  int     `json:"frostFree"`  // days between
	Chill      Chill   `json:"chill"`
	ChillKnown bool    `json:"chillKnown"`
	Degree10   float64 `json:"degree10"` // degree-days above 10 °C, single sine
}

// Years reads every whole year with at most three tenths of its days missing, from mid-summer to
// mid-summer (1 July north, 1 January south of the equator) so that a winter lies within. A year is
// named by the calendar year in which its spring lies.
func (s Series) Years(latDeg, frostC float64) []Year {
	out := []Year{}
	if len(s.Days) == 0 {
		return out
	}
	south := latDeg < 0
	first := s.Days[0].On
	for y := first.Year(); ; y++ {
		from := civil.On(y, 1, 1)
		if !south {
			from = civil.On(y, 7, 1)
		}
		to := from.AddMonths(12)
		i, j := from.Sub(first), to.Sub(first)
		if i < 0 {
			continue
		}
		if j > len(s.Days) {
			break
		}
		days := s.Days[i:j]
		if v, ok := oneYear(days, latDeg, frostC); ok {
			v.Year = to.AddDays(-1).Year()
			out = append(out, v)
		}
	}
	return out
}

func oneYear(days []Day, latDeg, frostC float64) (Year, bool) {
	y := Year{MinC: math.Inf(1), MaxC: math.Inf(-1)}
	missing := 0
	first, last := -1, -1
	south := latDeg < 0
	var hourly []float64
	for i, d := range days {
		if !math.IsNaN(d.Rain) {
			y.RainMM += d.Rain
		}
		if !d.hasTemp() {
			missing++
		} else {
			y.MinC, y.MaxC = math.Min(y.MinC, d.TMin), math.Max(y.MaxC, d.TMax)
			if d.TMin <= frostC {
				if first < 0 {
					first = i
				}
				last = i
			}
			g, _ := DegreeDays(d.TMin, d.TMax, 10, 0, Sine)
			y.Degree10 += g
		}
		m := d.On.Month()
		winter := m >= 11 || m <= 3
		if south {
			winter = m >= 5 && m <= 9
		}
		if winter {
			hourly = append(hourly, hours(days, i, latDeg)...)
		}
	}
	y.Missing = float64(missing) / float64(len(days))
	if y.Missing > 0.3 {
		return y, false
	}
	if last >= 0 {
		// the winter's frosts lie between its first (autumn) and last (spring)
		y.LastFrost = days[last].On.DayOfYear()
		y.FirstFrost = first + 1
		y.FrostFree = len(days) - (last - first + 1)
	} else {
		y.FrostFree = len(days)
	}
	c, err := Chilling(hourly)
	y.Chill, y.ChillKnown = c, err == nil
	return y, true
}

func hours(days []Day, i int, latDeg float64) []float64 {
	d := days[i]
	next := d.TMin
	if i+1 < len(days) && days[i+1].hasTemp() {
		next = days[i+1].TMin
	}
	if d.hasTemp() {
		if h, err := Hourly(d.TMin, d.TMax, next, DayLength(latDeg, d.On.DayOfYear())); err == nil {
			return h[:]
		}
	}
	out := make([]float64, 24)
	for k := range out {
		out[k] = math.NaN()
	}
	return out
}
