package climate

import (
	"fmt"
	"math"

	"slowroot/core/civil"
)

// Site is the climate of a place as far as it is known, for judging crops. NaN is not known.
type Site struct {
	Months      [12]Month
	HasMonths   bool
	LatDeg      float64
	ElevationM  float64
	Years       []Year
	AnnualMeanC float64
	SeasonMeanC float64 // months of 10 °C or more, six months at least counted warmest first
	HotMaxC     float64 // mean maximum of the hottest month
	MinC10      float64 // the winter minimum one year in ten goes below
	ColdestMinC float64 // mean minimum of the coldest month
	RainMM      float64
	DryMonths   float64 // rain under half of reference evapotranspiration
	FrostFree   float64 // days, what nine years in ten reach
	ChillHours  float64 // at or below 7.2 °C, what nine winters in ten reach
	Portions    float64
	LastFrost   FrostRisk
	HasFrost    bool // LastFrost is known; it may be that frost is too rare for a date
	Onset       int  // median day of the year the rains begin; 0 unknown
	ET0         [12]float64
	ET0Sure     bool // nothing substituted
	ET0Year     float64
	StormMM     float64 // rain of StormDays that comes once in StormYears; NaN without five years of record
	StormFrom   int     // years it rests on
	Source      string

	Cold    []float64 `json:"-"` // mean hours of each day of the year at or below 7.2 °C, from the daily record; nil where that is too short
	Freezes []float64 `json:"-"` // those of them below 0 °C

	Rain     []float64  `json:"-"` // mm of every day of the record, NaN where not recorded
	RainFrom civil.Date `json:"-"`
}

// midMonth is the day of the year of the 15th.
func midMonth(m int) int { return civil.Must(2023, m, 15).DayOfYear() }

// NewSite puts normals and, where there is one, a daily series together. frost dates, chill and winter
// minima come from daily data only: a smooth year has no extremes.
func NewSite(months []Month, s *Series, latDeg, elevationM float64, coast bool, source string) Site {
	nan := math.NaN()
	site := Site{LatDeg: latDeg, ElevationM: elevationM, AnnualMeanC: nan, SeasonMeanC: nan, HotMaxC: nan, MinC10: nan, ColdestMinC: nan, RainMM: nan,
		DryMonths: nan,
		FrostFree: nan, ChillHours: nan, Portions: nan, ET0Year: nan, StormMM: nan, Source: source, Years: []Year{}}
	if len(months) == 12 {
		copy(site.Months[:], months)
		site.HasMonths = true
	}
	if s != nil && len(s.Days) > 0 {
		site.daily(s, latDeg)
	}
	if site.HasMonths {
		site.monthly(coast)
	}
	return site
}

func (site *Site) daily(s *Series, latDeg float64) {
	storms := s.Storms(StormDays)
	site.StormMM, site.StormFrom = Gumbel(storms, StormYears), len(storms)
	n := s.Normals()
	if !site.HasMonths {
		whole := true
		for _, m := range n {
			whole = whole && !math.IsNaN(m.MeanC) && !math.IsNaN(m.RainMM)
		}
		if whole {
			site.Months, site.HasMonths = n, true
		}
	}
	for i := range site.Months { // what the normals leave out the days may know
		m, d := &site.Months[i], n[i]
		if m.WetDays == 0 {
			m.WetDays = d.WetDays
		}
		for _, p := range [][2]*float64{{&m.MaxC, &d.MaxC}, {&m.RH, &d.RH}, {&m.Wind, &d.Wind}, {&m.Sun, &d.Sun}} {
			if site.HasMonths && math.IsNaN(*p[0]) {
				*p[0] = *p[1]
			}
		}
	}
	site.Years = s.Years(latDeg, 0)
	var low, free, chill, portions, frost []float64
	for _, y := range site.Years {
		low = append(low, y.MinC)
		free = append(free, float64(y.FrostFree))
		if y.ChillKnown {
			chill, portions = append(chill, y.Chill.Hours), append(portions, y.Chill.Portions)
		}
		if y.LastFrost > 0 {
			frost = append(frost, float64(y.LastFrost))
		}
	}
	site.MinC10, site.FrostFree = Quantile(low, 0.1), Quantile(free, 0.1)
	site.ChillHours, site.Portions = Quantile(chill, 0.1), Quantile(portions, 0.1)
	if r, err := (FrostDates{Days: frost, Years: len(site.Years)}).Spring(0.1); err == nil {
		site.LastFrost, site.HasFrost = r, true
	}
	site.onset(s)
	site.cold(s, latDeg)
	site.RainFrom, site.Rain = s.Days[0].On, make([]float64, len(s.Days))
	for i, d := range s.Days {
		site.Rain[i] = d.Rain
	}
}

// leastCold is on how many days a day of the year has to be recorded for its cold hours to be known.
const leastCold = 3

// cold counts the cold hours of each day of the year, mean over the years of record.
func (site *Site) cold(s *Series, latDeg float64) {
	cold, freezes, n := make([]float64, 366), make([]float64, 366), make([]int, 366)
	for i, d := range s.Days {
		hs := hours(s.Days, i, latDeg)
		if math.IsNaN(hs[0]) {
			continue
		}
		k := min(d.On.DayOfYear(), 365) - 1
		n[k]++
		for _, t := range hs {
			if t <= 7.2 {
				cold[k]++
			}
			if t < 0 {
				freezes[k]++
			}
		}
	}
	for k := range 365 {
		if n[k] < leastCold {
			return
		}
		cold[k], freezes[k] = cold[k]/float64(n[k]), freezes[k]/float64(n[k])
	}
	cold[365], freezes[365] = cold[364], freezes[364]
	site.Cold, site.Freezes = cold, freezes
}

// ColdHours is the cold a plant gets in the open from one day to the day before another, h at or below 7.2 °C, those below 0 °C counted with the
// weight belowZero; false where the daily record is too short to say. Chill hours: Weinberger, Proc. Am. Soc. Hort. Sci., 1950.
func (site Site) ColdHours(from, to civil.Date, belowZero float64) (h float64, ok bool) {
	if site.Cold == nil {
		return 0, false
	}
	for d := from; d.Before(to); d = d.AddDays(1) {
		k := d.DayOfYear() - 1
		h += site.Cold[k] - site.Freezes[k]*(1-belowZero)
	}
	return h, true
}

// onset is the median day the rains begin, looked for from the end of the driest quarter on.
func (site *Site) onset(s *Series) {
	if !site.HasMonths {
		return
	}
	dry, least := 0, math.Inf(1)
	for m := range site.Months {
		if q := site.Months[m].RainMM + site.Months[(m+1)%12].RainMM + site.Months[(m+2)%12].RainMM; q < least {
			dry, least = m, q
		}
	}
	start := (dry + 2) % 12
	var found []float64
	rain := make([]float64, len(s.Days))
	for i, d := range s.Days {
		rain[i] = d.Rain
	}
	for i, d := range s.Days {
		if d.On.Month() == start+1 && d.On.Day() == 1 && i+250 < len(s.Days) {
			if o := RainsBegin(rain[:i+250], i, 7); o.Found {
				found = append(found, float64(o.Index-i))
			}
		}
	}
	if len(found) >= 3 {
		site.Onset = (midMonth(start+1)-15+int(Quantile(found, 0.5)))%365 + 1
	}
}

func (site *Site) monthly(coast bool) {
	site.RainMM, site.AnnualMeanC, site.DryMonths, site.ET0Year, site.HotMaxC, site.ColdestMinC = 0, 0, 0, 0, math.Inf(-1), math.Inf(1)
	site.ET0Sure = true
	warm, warmN := 0.0, 0
	for i, m := range site.Months {
		site.RainMM += m.RainMM
		site.AnnualMeanC += m.MeanC / 12
		maxC := m.MaxC
		if math.IsNaN(maxC) {
			maxC = 2*m.MeanC - m.MinC
		}
		site.HotMaxC = math.Max(site.HotMaxC, maxC)
		site.ColdestMinC = math.Min(site.ColdestMinC, m.MinC)
		if m.MeanC >= 10 {
			warm += m.MeanC
			warmN++
		}
		a := Unknown()
		a.LatDeg, a.ElevationM, a.DOY, a.TMin, a.TMax, a.Coast = site.LatDeg, site.ElevationM, midMonth(i+1), m.MinC, math.Max(m.MinC, maxC), coast
		a.RHMean, a.WindMS, a.SunHours = m.RH, m.Wind, m.Sun
		a.SoilHeat = SoilHeat(site.Months[(i+11)%12].MeanC, site.Months[(i+1)%12].MeanC)
		r, err := ET0(a)
		if err != nil {
			site.ET0[i], site.ET0Sure = math.NaN(), false
			continue
		}
		site.ET0Sure = site.ET0Sure && len(r.Substituted) == 0
		site.ET0[i] = r.MM * float64(civil.DaysIn(2023, i+1))
		site.ET0Year += site.ET0[i]
		if m.RainMM < 0.5*site.ET0[i] {
			site.DryMonths++
		}
	}
	if warmN > 0 {
		site.SeasonMeanC = warm / float64(warmN)
	}
}

// At is the climate of a block: the station's, moved by its height (0.6 °C for 100 m, common practice)
// and, for frost, by where cold air lies.
func (site Site) At(elevationM, coldC float64) Site {
	d := 0.0
	if !math.IsNaN(elevationM) && !math.IsNaN(site.ElevationM) && site.ElevationM != 0 {
		d = -0.006 * (elevationM - site.ElevationM)
	}
	site.AnnualMeanC += d
	site.SeasonMeanC += d
	site.HotMaxC += d
	site.MinC10 += d + coldC
	site.ColdestMinC += d + coldC
	return site
}

// Described says what the climate rests on.
func (site Site) Described() string {
	switch {
	case len(site.Years) > 0 && site.HasMonths:
		return fmt.Sprintf("%s; %d years of days", site.Source, len(site.Years))
	case site.HasMonths:
		return site.Source + "; monthly normals only"
	}
	return "no climate is known"
}

// MeanC is the usual mean temperature of a day, °C, drawn between the middles of the months; NaN where no normals are known.
func (site Site) MeanC(d civil.Date) float64 {
	if !site.HasMonths {
		return math.NaN()
	}
	at := float64(d.DayOfYear())
	i := d.Month() - 1
	if at < float64(midMonth(i+1)) {
		i = (i + 11) % 12
	}
	from, to := float64(midMonth(i+1)), float64(midMonth((i+1)%12+1))
	if to < from {
		to += 365
	}
	if at < from {
		at += 365
	}
	share := (at - from) / (to - from)
	return site.Months[i].MeanC*(1-share) + site.Months[(i+1)%12].MeanC*share
}
