package estate

import (
	"context"
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/schedule"
	"slowroot/core/units"
)

// RainsProposed are the rainy seasons the estate's climate shows, the main one first, and the windows they give.
type RainsProposed struct {
	Rains   []schedule.Rain   `json:"rains"`
	Why     []string          `json:"why"`     // of each: how much falls in it and what it rests on
	Windows []schedule.Window `json:"windows"` // as the estate has them now; empty where it does not live by its rains
	Words   []string          `json:"words"`   // what each window is called
	Source  string            `json:"source"`
}

// Rains proposes the estate's rainy seasons from its climate, and shows the windows of those it has.
func (s *Service) Rains(ctx context.Context) (RainsProposed, error) {
	out := RainsProposed{Rains: []schedule.Rain{}, Why: []string{}, Windows: []schedule.Window{}, Words: []string{},
		Source: "monthly: rain over half of reference evapotranspiration (FAO, World Soil Resources Report 48, 1978); daily: Sivakumar, Agric. For. Meteorol., 1988"}
	d, err := s.Estate(ctx)
	if err != nil {
		return out, err
	}
	seasons, err := d.Estate.Calendar()
	if err != nil {
		return out, err
	}
	for _, k := range schedule.RainKeys {
		if w, ok := seasons.Window(k); ok {
			out.Windows, out.Words = append(out.Windows, w), append(out.Words, schedule.Words(k))
		}
	}
	at, _ := s.middle(ctx)
	site, err := s.climateAt(ctx, d.Estate, at.Lat)
	if err != nil {
		return out, err
	}
	if !site.HasMonths {
		return out, nil
	}
	var rain [12]float64
	for i, m := range site.Months {
		rain[i] = m.RainMM
	}
	spans := climate.RainsByBalance(rain, site.ET0)
	days, err := s.series(ctx, d.Estate)
	if err != nil {
		return out, err
	}
	if days != nil {
		spans = climate.RainsByRecord(days, spans)
	}
	for _, r := range spans {
		out.Rains = append(out.Rains, schedule.Rain{From: monthDay(r.From), To: monthDay(r.To)})
		how := "by the monthly normals"
		if r.Years > 0 {
			how = fmt.Sprintf("median of %d years of record", r.Years)
		}
		out.Why = append(out.Why, fmt.Sprintf("%s in %d days, %s", units.Text(r.MM, units.Rain, d.Estate.Units), r.Days(), how))
	}
	return out, nil
}

func monthDay(dayOfYear int) string {
	d := civil.Must(2023, 1, 1).AddDays(dayOfYear - 1)
	return fmt.Sprintf("%02d-%02d", d.Month(), d.Day())
}
