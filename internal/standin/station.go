package standin

import (
	"fmt"
	"math"
	"net/http"
	"strings"
	"time"

	"slowroot/core/civil"
	"slowroot/core/climate"
)

// Station is a weather station whose record grows: GET /days.csv?from=YYYY-MM-DD. It drops days, restarts
// and now and then sends nonsense, as instruments do; the same seed gives the same weather.
type Station struct {
	Seed    uint64
	South   bool
	Begins  civil.Date
	Today   civil.Date    // last day it has when it is started
	PerDay  time.Duration // a further day is added every so often; 0 never
	Started time.Time
	Now     func() time.Time
	Faults  bool
}

// Handler is its address.
func (s *Station) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /days.csv", func(w http.ResponseWriter, r *http.Request) {
		from, err := civil.Parse(r.URL.Query().Get("from"))
		if err != nil {
			http.Error(w, "from: write YYYY-MM-DD", http.StatusUnprocessableEntity)
			return
		}
		w.Header().Set("Content-Type", "text/csv; charset=utf-8")
		fmt.Fprint(w, s.CSV(civil.Later(from, s.Begins)))
	})
	return mux
}

// last is the newest day it has.
func (s *Station) last() civil.Date {
	if s.PerDay <= 0 {
		return s.Today
	}
	now := time.Now()
	if s.Now != nil {
		now = s.Now()
	}
	return s.Today.AddDays(int(now.Sub(s.Started) / s.PerDay))
}

// CSV is the record from a day on.
func (s *Station) CSV(from civil.Date) string {
	var b strings.Builder
	b.WriteString("# simulated weather station\ndate,tmin,tmax,rain,humidity,wind,sun\n")
	for d := from; !d.After(s.last()); d = d.AddDays(1) {
		r := climate.NewRandom(s.Seed*2654435761 + uint64(d.DayNumber()+40000))
		season := math.Cos(2 * math.Pi * (float64(d.DayOfYear()) - 20) / 365.25)
		if !s.South {
			season = -season
		}
		mean := 15.7 + 7.0*season + 1.7*r.Normal()
		half := 4.7 + 0.7*season + 0.8*math.Abs(r.Normal())
		rain := 0.0
		if r.Uniform() < 0.42-0.12*season {
			rain = -7.4 * math.Log(r.Uniform())
		}
		sun := math.Max(0, math.Min(13, 5.5+2.5*season-0.15*rain+1.5*r.Normal()))
		line := fmt.Sprintf("%s,%.1f,%.1f,%.1f,%.0f,%.1f,%.1f\n", d, mean-half, mean+half, rain, math.Min(100, 70+0.8*rain+4*r.Normal()), math.Abs(2+0.8*r.Normal()), sun)
		if s.Faults {
			switch f := r.Uniform(); {
			case f < 0.010: // the battery was flat
				continue
			case f < 0.014:
				line = fmt.Sprintf("%s,-999,-999,-999,,,\n", d)
			case f < 0.017:
				line = fmt.Sprintf("%s,ERR,%.1f,%.1f,70,2.0,5.0\n", d, mean+half, rain)
			case f < 0.020: // restarted: the day is sent twice
				line += line
			case f < 0.022:
				line = "reboot\n" + line
			}
		}
		b.WriteString(line)
	}
	return b.String()
}
