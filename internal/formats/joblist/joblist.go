// Package joblist writes jobs for other programs: a calendar (iCalendar, RFC 5545) whose events are known again by their UID, a table,
// and a workbook (ECMA-376).
package joblist

import (
	"bytes"
	"strconv"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/xuri/excelize/v2"

	"slowroot/core/civil"
	"slowroot/core/report"
	"slowroot/internal/formats/table"
)

// Job is a job with where it is and who does it.
type Job struct {
	Block     string // id
	BlockName string
	CrewName  string
	report.Job
}

// day is a date as the calendar library has it.
func day(d civil.Date) time.Time {
	return time.Date(d.Year(), time.Month(d.Month()), d.Day(), 0, 0, 0, 0, time.UTC)
}

// state is what became of a job, in a word.
func (j Job) state() string {
	switch {
	case !j.Done.IsZero():
		return "done " + j.Done.String()
	case j.NotNeeded != "":
		return "not needed: " + j.NotNeeded
	case j.Share > 0:
		return "begun"
	case j.Passed:
		return "late"
	}
	return ""
}

// hours are those of a job as a number, or words that say nobody knows.
func (j Job) hours() string {
	if j.Hours == nil {
		return "hours unknown"
	}
	return strconv.FormatFloat(*j.Hours, 'g', -1, 64)
}

// Calendar is the jobs as all-day events. The same job has the same UID every time, so that reading the file again moves an event and
// does not double it; its sequence grows with the day the file is written on. A job that is not needed is cancelled.
func Calendar(name string, list []Job, today civil.Date) []byte {
	c := ics.NewCalendar()
	c.SetMethod(ics.MethodPublish)
	c.SetProductId("-//Slow Root//jobs//EN")
	c.SetName(name)
	for _, j := range list {
		e := c.AddEvent(strings.ReplaceAll(j.Block+"-"+j.Key, " ", "_") + "@slowroot")
		e.SetDtStampTime(day(today))
		e.SetSequence(max(0, today.Sub(civil.Must(2000, 1, 1))))
		from, by := j.From, j.By
		if !j.On.IsZero() {
			from, by = j.On, j.On
		}
		e.SetAllDayStartAt(day(from))
		e.SetAllDayEndAt(day(by).AddDate(0, 0, 1)) // the end of an all-day event is the day after it
		e.SetSummary(j.BlockName + ": " + j.Name)
		e.SetLocation(j.BlockName)
		var lines []string
		for _, l := range [][2]string{{"", j.Detail}, {"Caution: ", j.Caution}, {"Hours: ", j.hours()}, {"Crew: ", j.CrewName}, {"", j.Rule}, {"", j.state()}} {
			if l[1] != "" {
				lines = append(lines, l[0]+l[1])
			}
		}
		e.SetDescription(strings.Join(lines, "\n"))
		e.SetStatus(ics.ObjectStatusConfirmed)
		if j.NotNeeded != "" {
			e.SetStatus(ics.ObjectStatusCancelled)
		}
	}
	return []byte(c.Serialize(ics.WithNewLineWindows))
}

// rows are the jobs as a table, its heading first.
func rows(list []Job) [][]string {
	out := [][]string{{"from", "by", "block", "job", "phase", "hours", "crew", "state", "detail", "caution", "how the date follows", "id"}}
	for _, j := range list {
		out = append(out, []string{j.From.String(), j.By.String(), j.BlockName, j.Name, j.Phase, j.hours(), j.CrewName, j.state(), j.Detail, j.Caution, j.Rule, j.Block + "-" + j.Key})
	}
	return out
}

// CSV is the jobs as delimited text.
func CSV(list []Job) []byte { return table.Write(rows(list)) }

// XLSX is the jobs as a workbook: dates are dates and hours numbers, so that it can be sorted and summed.
func XLSX(list []Job) ([]byte, error) {
	f := excelize.NewFile()
	defer f.Close()
	const sheet = "Jobs"
	if err := f.SetSheetName("Sheet1", sheet); err != nil {
		return nil, err
	}
	w, err := f.NewStreamWriter(sheet)
	if err != nil {
		return nil, err
	}
	dates, err := f.NewStyle(&excelize.Style{NumFmt: 14})
	if err != nil {
		return nil, err
	}
	bold, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return nil, err
	}
	for i, wide := range []float64{12, 12, 20, 34, 14, 10, 14, 18, 60, 40, 44, 30} {
		if err := w.SetColWidth(i+1, i+1, wide); err != nil {
			return nil, err
		}
	}
	for i, r := range rows(list) {
		line := make([]any, len(r))
		for k, cell := range r {
			line[k] = cell
			switch {
			case i == 0:
				line[k] = excelize.Cell{StyleID: bold, Value: cell}
			case k == 0:
				line[k] = excelize.Cell{StyleID: dates, Value: day(list[i-1].From)}
			case k == 1:
				line[k] = excelize.Cell{StyleID: dates, Value: day(list[i-1].By)}
			case k == 5 && list[i-1].Hours != nil:
				line[k] = *list[i-1].Hours
			}
		}
		at, err := excelize.CoordinatesToCellName(1, i+1)
		if err == nil {
			err = w.SetRow(at, line)
		}
		if err != nil {
			return nil, err
		}
	}
	if err := w.Flush(); err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = f.Write(&b)
	return b.Bytes(), err
}
