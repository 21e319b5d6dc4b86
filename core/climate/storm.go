package climate

import "math"

// StormDays and StormYears are the wet spell drains are designed for: the rain of three days that comes once
// in five years (common practice, no source).
const (
	StormDays  = 3
	StormYears = 5
)

// Storms is the most rain that fell in a run of days in each calendar year, mm. Years that lack rain for more
// than a tenth of their days are left out.
func (s Series) Storms(days int) []float64 {
	out := []float64{}
	for i := 0; i < len(s.Days); {
		year := s.Days[i].On.Year()
		known, most := 0, 0.0
		for ; i < len(s.Days) && s.Days[i].On.Year() == year; i++ {
			if math.IsNaN(s.Days[i].Rain) {
				continue
			}
			known++
			sum := 0.0
			for k := max(0, i-days+1); k <= i; k++ {
				if !math.IsNaN(s.Days[k].Rain) {
					sum += s.Days[k].Rain
				}
			}
			most = math.Max(most, sum)
		}
		if known >= 329 {
			out = append(out, most)
		}
	}
	return out
}

// Gumbel is the value that yearly maxima reach once in a number of years: mean + K·sd with
// K = −(√6/π)·(0.5772 + ln ln(T/(T−1))), the extreme value distribution by moments (Gumbel, Statistics of
// Extremes, 1958; the frequency factor from memory: Chow, 1951). NaN with fewer than five years.
func Gumbel(maxima []float64, years float64) float64 {
	if len(maxima) < 5 || years <= 1 {
		return math.NaN()
	}
	mean, sd := MeanSD(maxima)
	return mean - math.Sqrt(6)/math.Pi*(0.5772156649+math.Log(math.Log(years/(years-1))))*sd
}
