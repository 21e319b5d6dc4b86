package store

import (
	"context"
	"database/sql"
	"math"

	"slowroot/core/civil"
	"slowroot/core/climate"
)

// KeepDays stores days of a weather station, all or none; a day read again replaces the earlier reading.
func (s *Store) KeepDays(ctx context.Context, days []climate.Day) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		for _, d := range days {
			v := func(x float64) any {
				if math.IsNaN(x) {
					return nil
				}
				return x
			}
			if _, err := tx.ExecContext(ctx, `INSERT INTO station_day (day, tmin, tmax, rain, rh, wind, sun) VALUES (?, ?, ?, ?, ?, ?, ?)
				ON CONFLICT (day) DO UPDATE SET tmin = excluded.tmin, tmax = excluded.tmax, rain = excluded.rain, rh = excluded.rh, wind = excluded.wind, sun = excluded.sun`,
				d.On.String(), v(d.TMin), v(d.TMax), v(d.Rain), v(d.RH), v(d.Wind), v(d.Sun)); err != nil {
				return err
			}
		}
		return nil
	})
}

// Days are the days read from the station, in order.
func (s *Store) Days(ctx context.Context) ([]climate.Day, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	rows, err := s.db.QueryContext(ctx, `SELECT day, tmin, tmax, rain, rh, wind, sun FROM station_day ORDER BY day`)
	if err != nil {
		return nil, explain(err)
	}
	defer rows.Close()
	var out []climate.Day
	for rows.Next() {
		var on string
		var v [6]sql.NullFloat64
		if err := rows.Scan(&on, &v[0], &v[1], &v[2], &v[3], &v[4], &v[5]); err != nil {
			return nil, explain(err)
		}
		at, err := civil.Parse(on)
		if err != nil {
			return nil, err
		}
		d := climate.Blank(at)
		for i, to := range []*float64{&d.TMin, &d.TMax, &d.Rain, &d.RH, &d.Wind, &d.Sun} {
			if v[i].Valid {
				*to = v[i].Float64
			}
		}
		out = append(out, d)
	}
	return out, explain(rows.Err())
}
