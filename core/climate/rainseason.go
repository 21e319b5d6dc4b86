package climate

import (
	"math"

	"slowroot/core/civil"
)

// RainSpan is a rainy season by its usual first and last day of the year, 1 to 365. It may cross New Year.
type RainSpan struct {
	From, To int
	MM       float64 // of rain in it, in a usual year; NaN where not known
	Years    int     // of record it rests on; 0 for monthly normals
}

// Days is how long it lasts.
func (r RainSpan) Days() int { return (r.To-r.From+365)%365 + 1 }

// mostWet is how many months together are still a season beside a dry one (assumed).
const mostWet = 10

// RainsByBalance are the rainy seasons by monthly normals: months whose rain is more than half of reference
// evapotranspiration (FAO, Agro-ecological zones project, World Soil Resources Report 48, 1978), two together at least and
// ten at most. At most two seasons, the wetter first; none where no two months together are wet, or all but one are.
func RainsByBalance(rainMM, et0 [12]float64) []RainSpan {
	wet := func(m int) bool { return rainMM[(m+12)%12] > 0.5*et0[(m+12)%12] }
	var out []RainSpan
	for m := range 12 {
		if !wet(m) || wet(m-1) {
			continue // begins here only after a dry month
		}
		n, mm := 0, 0.0
		for ; n < 12 && wet(m+n); n++ {
			mm += rainMM[(m+n)%12]
		}
		if n < 2 || n > mostWet {
			continue
		}
		last := (m+n-1)%12 + 1
		out = append(out, RainSpan{From: civil.Must(2023, m+1, 1).DayOfYear(), To: civil.Must(2023, last, civil.DaysIn(2023, last)).DayOfYear(), MM: mm})
	}
	return wettest(out)
}

// wettest are at most two seasons, the wetter first.
func wettest(rs []RainSpan) []RainSpan {
	for i := range rs {
		for k := i + 1; k < len(rs); k++ {
			if rs[k].MM > rs[i].MM {
				rs[i], rs[k] = rs[k], rs[i]
			}
		}
	}
	return rs[:min(2, len(rs))]
}

// leastYears of a record before its rains are believed.
const leastYears = 5

// RainsByRecord moves the seasons of the normals to the median day on which the rains of the record begin and end
// (agronomic school: Sivakumar, 1988), looked for from a month before the season of the normals on. A season the record
// says too little of stays as it is.
func RainsByRecord(s *Series, of []RainSpan) []RainSpan {
	out := append([]RainSpan(nil), of...)
	rain := make([]float64, len(s.Days))
	for i, d := range s.Days {
		rain[i] = d.Rain
	}
	for k := range out {
		var begin, end []float64
		for i, d := range s.Days {
			from := (out[k].From - 31 + 364) % 365
			if d.On.DayOfYear() != from+1 || i+out[k].Days()+90 > len(s.Days) {
				continue
			}
			o := RainsBegin(rain[:i+out[k].Days()+60], i, 7)
			if !o.Found || o.Provisional || o.Index-i > 31+out[k].Days()/2 {
				continue
			}
			// the end is looked for from two thirds of the season on, so that a break in it does not end it
			late := max(o.Index, i+31+2*out[k].Days()/3)
			last, ok := RainsEnd(rain[:min(len(rain), late+out[k].Days()/3+90)], late)
			if !ok {
				continue
			}
			begin, end = append(begin, float64(o.Index-i)), append(end, float64(last-i))
		}
		if len(begin) < leastYears {
			continue
		}
		from := (out[k].From - 31 + 364) % 365
		a, b := int(math.Round(Quantile(begin, 0.5))), int(math.Round(Quantile(end, 0.5)))
		if b-a < 28 || b-a > 350 {
			continue
		}
		out[k].From, out[k].To, out[k].Years = (from+a)%365+1, (from+b)%365+1, len(begin)
	}
	return out
}
