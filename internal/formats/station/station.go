// Package station reads and writes weather records: days of a station, and monthly normals.
package station

import (
	"math"
	"strconv"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/internal/formats/table"
)

// Days reads a daily record: date, tmin, tmax, rain, and where recorded humidity, wind and sun. Units are
// °C, mm, %, m/s at 2 m and hours. Values that cannot be are left to the quality checks, which name them.
func Days(text string) ([]climate.Day, error) {
	days, _, err := read(text, false)
	return days, err
}

// Instrument reads what a station sends. An instrument cannot be asked again: a value that is no number
// is taken as missing and a line without a day is passed over, and each is named.
func Instrument(text string) ([]climate.Day, []climate.Note, error) { return read(text, true) }

func read(text string, lenient bool) ([]climate.Day, []climate.Note, error) {
	notes := []climate.Note{}
	t, err := table.Read(text)
	if err != nil {
		return nil, nil, err
	}
	date := t.Column("date", "day", "datum", "fecha")
	if date < 0 {
		return nil, nil, table.Refuse(1, "needs a column date; found %s", strings.Join(t.Head, ", "))
	}
	cols := [6]int{t.Column("tmin", "tminc", "min"), t.Column("tmax", "tmaxc", "max"), t.Column("rain", "rainmm", "precipitation", "prcp"),
		t.Column("humidity", "rh", "rhpct"), t.Column("wind", "windms"), t.Column("sun", "sunh", "sunshine")}
	if cols[0] < 0 || cols[1] < 0 || cols[2] < 0 {
		return nil, nil, table.Refuse(1, "needs the columns tmin, tmax and rain; found %s", strings.Join(t.Head, ", "))
	}
	if len(t.Rows) > climate.MaxStationDays {
		return nil, nil, table.Refuse(0, "%d days, more than %d", len(t.Rows), climate.MaxStationDays)
	}
	out := make([]climate.Day, 0, len(t.Rows))
	for _, r := range t.Rows {
		on, err := t.Day(r, date)
		if err != nil && lenient {
			notes = append(notes, climate.Note{Sentence: err.Error() + "; the line is passed over"})
			continue
		}
		if err != nil {
			return nil, nil, err
		}
		if on.Year() == 1970 && on.Month() == 1 && on.Day() == 1 {
			return nil, nil, table.Refuse(r.Line, "1 January 1970 is a fill value, not a day of weather")
		}
		d := climate.Blank(on)
		for i, to := range []*float64{&d.TMin, &d.TMax, &d.Rain, &d.RH, &d.Wind, &d.Sun} {
			if cols[i] < 0 {
				continue
			}
			v, ok, err := t.Number(r, cols[i])
			if err != nil && lenient {
				notes = append(notes, climate.Note{On: on, Sentence: err.Error() + "; taken as missing"})
				continue
			}
			if err != nil {
				return nil, nil, err
			}
			if ok && v > -900 {
				*to = v
			}
		}
		out = append(out, d)
	}
	return out, notes, nil
}

// WriteDays writes a record that Days gives back.
func WriteDays(days []climate.Day) string {
	var b strings.Builder
	b.WriteString("date,tmin,tmax,rain,humidity,wind,sun\n")
	for _, d := range days {
		b.WriteString(d.On.String())
		for _, v := range []float64{d.TMin, d.TMax, d.Rain, d.RH, d.Wind, d.Sun} {
			b.WriteByte(',')
			if !math.IsNaN(v) {
				b.WriteString(strconv.FormatFloat(v, 'f', 1, 64))
			}
		}
		b.WriteByte('\n')
	}
	return b.String()
}

// Normals reads twelve months: month, meanC, minC, rainMm, and where known maxC, rhPct, windMS and sunH.
func Normals(text string) ([]document.Month, error) {
	t, err := table.Read(headed(text))
	if err != nil {
		return nil, err
	}
	cols := [8]int{t.Column("month"), t.Column("meanC", "mean"), t.Column("minC", "min"), t.Column("rainMm", "rain"), t.Column("maxC", "max"), t.Column("rhPct", "humidity", "rh"), t.Column("windMS", "wind"), t.Column("sunH", "sun")}
	for i, n := range []string{"month", "meanC", "minC", "rainMm"} {
		if cols[i] < 0 {
			return nil, table.Refuse(1, "needs the columns month, meanC, minC and rainMm; %s is not there", n)
		}
	}
	if len(t.Rows) != 12 {
		return nil, table.Refuse(0, "%d months where twelve belong", len(t.Rows))
	}
	out := make([]document.Month, 12)
	for i, r := range t.Rows {
		var v [8]float64
		var ok [8]bool
		for k, c := range cols {
			if c < 0 {
				continue
			}
			if v[k], ok[k], err = t.Number(r, c); err != nil {
				return nil, err
			}
			if !ok[k] && k < 4 {
				return nil, table.Refuse(r.Line, "%s is empty", t.Head[c])
			}
		}
		switch {
		case int(v[0]) != i+1:
			return nil, table.Refuse(r.Line, "month %g where %d belongs", v[0], i+1)
		case !(v[1] >= -60 && v[1] <= 50) || v[2] > v[1] || v[2] < -70:
			return nil, table.Refuse(r.Line, "a mean of %g with a mean minimum of %g °C cannot be", v[1], v[2])
		case !(v[3] >= 0 && v[3] <= 3000):
			return nil, table.Refuse(r.Line, "%g mm of rain cannot be", v[3])
		}
		m := document.Month{MeanC: v[1], MinC: v[2], RainMM: v[3]}
		for k, to := range map[int]**float64{4: &m.MaxC, 5: &m.RHPct, 6: &m.WindMS, 7: &m.SunH} {
			if ok[k] {
				x := v[k]
				*to = &x
			}
		}
		out[i] = m
	}
	return out, nil
}

// headed puts a heading over twelve bare lines, as people type them: month, mean, minimum and rain, or the last three in the order of the
// months; parted by commas, semicolons, tabs or spaces.
func headed(text string) string {
	var lines []string
	for _, l := range strings.Split(strings.TrimPrefix(text, "\ufeff"), "\n") {
		if l = strings.TrimSpace(l); l != "" && !strings.HasPrefix(l, "#") {
			lines = append(lines, l)
		}
	}
	if len(lines) == 0 || !strings.ContainsAny(lines[0][:1], "-+0123456789") {
		return text
	}
	sep := ""
	for _, s := range []string{";", "\t", ","} {
		if sep == "" && strings.Contains(lines[0], s) {
			sep = s
		}
	}
	if sep == "" {
		sep = ";"
		for i, l := range lines {
			lines[i] = strings.Join(strings.Fields(l), sep)
		}
	}
	head := []string{"month", "meanC", "minC", "rainMm"}
	if strings.Count(lines[0], sep) == 2 {
		for i := range lines {
			lines[i] = strconv.Itoa(i+1) + sep + lines[i]
		}
	}
	return strings.Join(head, sep) + "\n" + strings.Join(lines, "\n")
}

// Last is the last day of a record; no date when it is empty.
func Last(days []climate.Day) civil.Date {
	var d civil.Date
	for _, x := range days {
		d = civil.Later(d, x.On)
	}
	return d
}
