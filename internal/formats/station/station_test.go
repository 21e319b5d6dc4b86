package station

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"slowroot/core/climate"
)

func TestDaysAreReadBackAsWritten(t *testing.T) {
	days, err := Days("Date;Tmin;Tmax;Rain;Wind\n2027-01-01;10,5;21;0;2\n02.01.2027;-999;22;;\n")
	if err != nil || len(days) != 2 || days[0].TMin != 10.5 || !math.IsNaN(days[1].TMin) || !math.IsNaN(days[1].Rain) || !math.IsNaN(days[0].RH) {
		t.Fatalf("%+v %v", days, err)
	}
	again, err := Days(WriteDays(days))
	if err != nil || len(again) != 2 || again[0].Wind != 2 || again[1].TMax != 22 || !math.IsNaN(again[1].TMin) {
		t.Errorf("%+v %v", again, err)
	}
	if Last(days).String() != "2027-01-02" {
		t.Errorf("last day %s", Last(days))
	}
}

// What a person brings is refused at its line; what an instrument sends is taken as far as it goes.
func TestPeopleAreRefusedInstrumentsAreSurvived(t *testing.T) {
	text := "date,tmin,tmax,rain\n2027-01-01,10,20,0\nreboot\n2027-01-02,ERR,21,3\n"
	if _, err := Days(text); err == nil || !strings.Contains(err.Error(), "line 3") {
		t.Errorf("%v", err)
	}
	days, notes, err := Instrument(text)
	if err != nil || len(days) != 2 || len(notes) != 2 || !math.IsNaN(days[1].TMin) || days[1].Rain != 3 {
		t.Errorf("%+v %+v %v", days, notes, err)
	}
	for _, c := range []struct{ text, say string }{
		{"date,weather\n2027-01-01,nice\n", "tmin, tmax and rain"}, {"tmin,tmax,rain\n1,2,3\n", "column date"}, {"date,tmin,tmax,rain\n1970-01-01,1,2,3\n", "fill value"},
	} {
		if _, err := Days(c.text); err == nil || !strings.Contains(err.Error(), c.say) {
			t.Errorf("%q: %v", c.text, err)
		}
	}
}

func TestNormals(t *testing.T) {
	year := "month,meanC,minC,rainMm,windMS\n"
	for m := 1; m <= 12; m++ {
		year += strings.ReplaceAll("M,10,4,80,2\n", "M", []string{"1", "2", "3", "4", "5", "6", "7", "8", "9", "10", "11", "12"}[m-1])
	}
	got, err := Normals(year)
	if err != nil || len(got) != 12 || *got[3].WindMS != 2 || got[3].MaxC != nil {
		t.Fatalf("%+v %v", got, err)
	}
	for _, c := range []struct{ from, to, say string }{
		{"3,10,4", "4,10,4", "month 4 where 3 belongs"}, {"5,10,4", "5,10,14", "line 6"}, {"7,10,4,80", "7,10,4,-1", "rain"}, {"12,10,4,80,2\n", "", "11 months"},
	} {
		if _, err := Normals(strings.Replace(year, "\n"+c.from, "\n"+c.to, 1)); err == nil || !strings.Contains(err.Error(), c.say) {
			t.Errorf("%s → %s: %v", c.from, c.to, err)
		}
	}
}

func FuzzInstrument(f *testing.F) {
	f.Add("date,tmin,tmax,rain\n2027-01-01,10,20,0\n")
	f.Add("date;tmin;tmax;rain;sun\n2027-01-01;ERR;-999;1e9;\n")
	f.Fuzz(func(t *testing.T, text string) {
		if days, err := Days(text); err != nil && len(days) > 0 {
			t.Fatal("a refused file gave days")
		}
		days, _, err := Instrument(text)
		if err == nil && len(days) < 2000 {
			s := climate.NewSeries(days)
			for _, d := range s.Days {
				if d.TMin > d.TMax || d.Rain < 0 {
					t.Fatalf("a day that cannot be: %+v", d)
				}
			}
		}
		_, _ = Normals(text)
	})
}

// Twelve bare lines, as they are typed: with months or without, parted by anything usual.
func TestNormalsWithoutAHeading(t *testing.T) {
	for name, line := range map[string]string{"commas": "%d, 12.5, 7.1, 60", "spaces": "%d   12.5  7.1   60", "tabs": "%d\t12.5\t7.1\t60", "decimal commas": "%d; 12,5; 7,1; 60"} {
		text := "# typed\n"
		for m := range 12 {
			text += fmt.Sprintf(line, m+1) + "\n"
		}
		got, err := Normals(text)
		if err != nil || len(got) != 12 || got[11].MeanC != 12.5 || got[11].MinC != 7.1 || got[11].RainMM != 60 {
			t.Errorf("%s: %+v, %v", name, got, err)
		}
	}
	if got, err := Normals(strings.Repeat("12.5 7.1 60\n", 12)); err != nil || got[0].MeanC != 12.5 || got[0].RainMM != 60 {
		t.Errorf("without months: %+v, %v", got, err)
	}
	for _, text := range []string{"12.5 7.1 60\n", "1 2\n", "12.5 17 60\n"} {
		if got, err := Normals(strings.Repeat(text, 11)); err == nil {
			t.Errorf("%q is read as %+v", text, got)
		}
	}
}
