package document

import (
	"fmt"
	"math"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/schedule"
	"slowroot/core/units"
)

// Estate is what holds for every block.
type Estate struct {
	Name    string            `json:"name"`
	Place   string            `json:"place"`
	At      *geo.Point        `json:"at,omitempty"` // where it lies, while no block says so
	Units   units.System      `json:"units"`
	Seasons []schedule.Window `json:"seasons"`
	Rains   []schedule.Rain   `json:"rains,omitempty"` // the rainy seasons, the main one first; empty where the place does not live by them
	People  []Person          `json:"people"`
	Climate []Month           `json:"climate"` // monthly normals, January first; empty when unknown
	Source  string            `json:"climateSource"`
	Crews   []Crew            `json:"crews,omitempty"` // the first does what nobody else is named for
	Site
}

// Person is somebody who decides or works on the estate.
type Person struct {
	Name string `json:"name"`
	Role string `json:"role"`
}

// Month is a monthly normal. A nil number is not known.
type Month struct {
	MeanC  float64  `json:"meanC"`
	MinC   float64  `json:"minC"`
	RainMM float64  `json:"rainMm"`
	MaxC   *float64 `json:"maxC,omitempty"`
	RHPct  *float64 `json:"rhPct,omitempty"`
	WindMS *float64 `json:"windMS,omitempty"` // at 2 m
	SunH   *float64 `json:"sunH,omitempty"`   // hours of bright sun a day
}

// valid refuses a month that cannot be anywhere on the earth.
func (m Month) valid(field string) error {
	for _, v := range []struct {
		name   string
		x      *float64
		lo, hi float64
		unit   string
	}{{"meanC", &m.MeanC, -60, 50, "°C"}, {"minC", &m.MinC, -70, 50, "°C"}, {"maxC", m.MaxC, -60, 60, "°C"}, {"rainMm", &m.RainMM, 0, 3000, "mm"},
		{"rhPct", m.RHPct, 0, 100, "%"}, {"windMS", m.WindMS, 0, 40, "m/s"}, {"sunH", m.SunH, 0, 24, "hours a day"}} {
		if v.x != nil && !(*v.x >= v.lo && *v.x <= v.hi) {
			return finding.Bad(field+"."+v.name, *v.x, "is not the normal of a month", fmt.Sprintf("%g to %g %s", v.lo, v.hi, v.unit))
		}
	}
	if m.MinC > m.MeanC || m.MaxC != nil && *m.MaxC < m.MeanC {
		return finding.Bad(field+".minC", m.MinC, "the minimum lies above the mean, or the mean above the maximum", "minimum ≤ mean ≤ maximum")
	}
	return nil
}

// Valid reports the first thing wrong with an estate as a *finding.FieldError.
func (e Estate) Valid() error {
	if e.Name == "" || len(e.Name) > 120 {
		return finding.Bad("name", e.Name, "an estate needs a name", "1 to 120 characters")
	}
	if e.Units != units.Metric && e.Units != units.US {
		return finding.Bad("units", e.Units, "is not a system of units", "metric or us")
	}
	if err := crews(e.Crews); err != nil {
		return err
	}
	if _, err := schedule.NewSeasons(e.Seasons); err != nil {
		return finding.Bad("seasons", "", err.Error(), "the twelve windows, each with two days written MM-DD")
	}
	if _, err := e.Calendar(); err != nil {
		return err
	}
	if len(e.Climate) != 0 && len(e.Climate) != 12 {
		return finding.Bad("climate", len(e.Climate), "is not a year of monthly normals", "12 months, or none")
	}
	for i, m := range e.Climate {
		if err := m.valid(fmt.Sprintf("climate[%d]", i)); err != nil {
			return err
		}
	}
	if len(e.People) > 200 || len(e.Currency) > 12 || len(e.Place) > 200 {
		return finding.Bad("people", len(e.People), "are too many, or a word of the estate is too long", "200 people; 12 characters of currency, 200 of place")
	}
	if e.At != nil && !(math.Abs(e.At.Lon) <= 180 && math.Abs(e.At.Lat) <= geo.MaxLatDeg) {
		return finding.Bad("at", fmt.Sprintf("%g, %g", e.At.Lat, e.At.Lon), "is no place a farm can lie", fmt.Sprintf("latitude −%g to %g°, longitude −180 to 180°",
			geo.MaxLatDeg, geo.MaxLatDeg))
	}
	return e.Site.valid()
}

// Site is what an estate knows of its ground as a whole: climate record, heights, what dams cold air,
// prices and materials. Long records are kept as files under their digest.
type Site struct {
	ElevationM *float64       `json:"elevationM,omitempty"` // of the climate record, above the sea
	Coast      bool           `json:"coast,omitempty"`      // sea air: radiation guessed from temperature is lower
	Weather    *Weather       `json:"weather,omitempty"`
	Station    string         `json:"station,omitempty"`    // address of a weather station to ask
	Laboratory string         `json:"laboratory,omitempty"` // address of a soil laboratory to ask
	Heights    []HeightSource `json:"heights,omitempty"`
	Barriers   []Barrier      `json:"barriers,omitempty"`
	Currency   string         `json:"currency,omitempty"` // as it is written before a price
	Prices     []Price        `json:"prices,omitempty"`
	Deliveries []Delivery     `json:"deliveries,omitempty"` // what was ordered, and what of it came
	Materials  []Material     `json:"materials,omitempty"`
	// Labs remembers how each laboratory heads its columns.
	Labs map[string]map[string]LabColumn `json:"labs,omitempty"`
}

// Weather is a daily record kept as a file.
type Weather struct {
	Name   string     `json:"name"`
	Digest string     `json:"digest"`
	From   civil.Date `json:"from"`
	To     civil.Date `json:"to"`
	Days   int        `json:"days"`  // that hold temperatures
	Gaps   int        `json:"gaps"`  // runs of days that do not
	Notes  int        `json:"notes"` // things the quality checks found
}

// HeightSource is a set of heights kept as a file.
type HeightSource struct {
	Name      string     `json:"name"`
	Kind      string     `json:"kind"` // spots or grid
	CRS       string     `json:"crs"`
	AccuracyM float64    `json:"accuracyM"` // standard error of a height
	How       string     `json:"how"`       // how they were found
	On        civil.Date `json:"on"`
	Count     int        `json:"count"`
	Digest    string     `json:"digest"`
}

// MaxHeightSources is how many sets of heights an estate keeps.
const MaxHeightSources = 40

// Barrier is a line that dams or turns cold air, or open water.
type Barrier struct {
	ID       string      `json:"id,omitempty"` // for good; given when it is written
	Name     string      `json:"name"`
	Kind     string      `json:"kind"` // hedge, bank, wall, building or water
	Line     []geo.Point `json:"line"`
	HeightM  float64     `json:"heightM"`
	Porosity float64     `json:"porosity"` // open share of its face
	Gap      bool        `json:"gap"`      // a tenth or more is kept open at its low end
}

// BarrierKinds are those known.
var BarrierKinds = []string{"hedge", "bank", "wall", "building", "water"}

// LabColumn is what a column of a laboratory's file holds.
type LabColumn struct {
	Field string `json:"field"` // of soil.Fields, or sample, date, fromCm, toCm, depth; "" is left out
	Unit  string `json:"unit"`
	How   string `json:"how"` // pH method, buffer or extractant
}

func (s Site) valid() error {
	if s.ElevationM != nil && !(*s.ElevationM >= -450 && *s.ElevationM <= 6000) {
		return finding.Bad("elevationM", *s.ElevationM, "is not a height above the sea", "−450 to 6000 m")
	}
	if len(s.Heights) > MaxHeightSources {
		return finding.Bad("heights", len(s.Heights), "are more sets of heights than can be looked through",
			fmt.Sprintf("%d at most; take out those that are older or coarser", MaxHeightSources))
	}
	for i, h := range s.Heights {
		if h.Name == "" || h.Digest == "" || h.Kind != "spots" && h.Kind != "grid" {
			return finding.Bad(fmt.Sprintf("heights[%d]", i), h.Name, "is not a set of heights", "a name, spots or grid, and the file it is kept in")
		}
		if !(h.AccuracyM > 0 && h.AccuracyM <= 50) {
			return finding.Bad(fmt.Sprintf("heights[%d].accuracyM", i), h.AccuracyM, "is not how well a height is known",
				"0.001 to 50 m; levelled 0.01, survey receiver 0.03, phone 5 to 10")
		}
	}
	for i, b := range s.Barriers {
		at := fmt.Sprintf("barriers[%d]", i)
		known := false
		for _, k := range BarrierKinds {
			known = known || k == b.Kind
		}
		switch {
		case !known:
			return finding.Bad(at+".kind", b.Kind, "is not a barrier", strings.Join(BarrierKinds, ", "))
		case len(b.Line) < 2 || len(b.Line) > 500:
			return finding.Bad(at+".line", len(b.Line), "is not a line", "2 to 500 points")
		case b.Kind != "water" && !(b.HeightM > 0 && b.HeightM <= 60):
			return finding.Bad(at+".heightM", b.HeightM, "is not the height of a barrier", "0.1 to 60 m")
		case !(b.Porosity >= 0 && b.Porosity <= 1):
			return finding.Bad(at+".porosity", b.Porosity, "is not an open share", "0 (closed) to 1")
		}
	}
	ids := map[string]bool{}
	for i, m := range s.Materials {
		if m.ID == "" || m.Name == "" || ids[m.ID] {
			return finding.Bad(fmt.Sprintf("materials[%d].name", i), m.Name, "needs a name of its own", "1 to 80 characters, each once")
		}
		ids[m.ID] = true
		if err := m.Valid(fmt.Sprintf("materials[%d]", i)); err != nil {
			return err
		}
	}
	if err := deliveries(s.Deliveries); err != nil {
		return err
	}
	for i, p := range s.Prices {
		at := fmt.Sprintf("prices[%d]", i)
		if !(p.Each >= 0 && p.Each <= 1e9) {
			return finding.Bad(at+".each", p.Each, "is not a price", "0 to 1 000 000 000 for one "+p.Unit)
		}
		if p.On.IsZero() {
			return finding.Bad(at+".on", "", "a price needs its day", "a day written YYYY-MM-DD")
		}
	}
	return nil
}

// Months are the normals as the climate package reads them.
func (e Estate) Months() []climate.Month {
	out := make([]climate.Month, len(e.Climate))
	or := func(p *float64) float64 {
		if p == nil {
			return math.NaN()
		}
		return *p
	}
	for i, m := range e.Climate {
		out[i] = climate.Month{MeanC: m.MeanC, MinC: m.MinC, MaxC: or(m.MaxC), RainMM: m.RainMM, RH: or(m.RHPct), Wind: or(m.WindMS), Sun: or(m.SunH)}
	}
	return out
}

// ClimateOf works the climate out from the normals and, where there is one, a daily series; latitude is
// the block's.
func (e Estate) ClimateOf(days *climate.Series, latDeg float64) climate.Site {
	elev := 0.0
	if e.ElevationM != nil {
		elev = *e.ElevationM
	}
	return climate.NewSite(e.Months(), days, latDeg, elev, e.Coast, e.Source)
}

// Calendar are the estate's seasons: the twelve windows, and those of its rains where it lives by them.
func (e Estate) Calendar() (schedule.Seasons, error) {
	s, err := schedule.NewSeasons(e.Seasons)
	if err != nil {
		return s, err
	}
	return s.WithRains(e.Rains)
}
