package plan

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/core/schedule"
	"slowroot/core/units"
)

// Nothing vanishes: harvests of a year make its yield, the splits its feeding, cohorts its plants.
func TestWhatIsSplitAddsUp(t *testing.T) {
	for _, s := range library(t).Whole() {
		in := input(t, s.ID)
		p := compute(t, in)
		feeding := map[int]int{}
		for _, j := range p.Jobs {
			if j.Phase == "feed" {
				feeding[j.Age]++
			}
		}
		total := 0.0
		for _, y := range p.Years {
			sum := 0.0
			for _, h := range y.Harvests {
				sum += h.BlockKg.Base
				if h.From.IsZero() || h.To.Before(h.From) {
					t.Errorf("%s %s: harvest %s from %s to %s", s.ID, y.Label, h.Name, h.From, h.To)
				}
			}
			if math.Abs(sum-y.BlockKg.Base) > 1e-6*math.Max(1, y.BlockKg.Base) {
				t.Errorf("%s %s: harvests make %.3f kg of %.3f", s.ID, y.Label, sum, y.BlockKg.Base)
			}
			total += y.BlockKg.Base
			for n, kg := range y.FeedKg {
				if math.Abs(kg-y.FeedPerHa[n]*value(t, p, "rows.planted")/1e4) > 1e-6 {
					t.Errorf("%s %s: %s %.3f kg is not the rate times the planted area", s.ID, y.Label, n, kg)
				}
				if math.Abs(kg-y.FeedG[n]*float64(y.Plants)/1000) > 1e-6 {
					t.Errorf("%s %s: %s %.3f kg is not the dose times the plants", s.ID, y.Label, n, kg)
				}
				if kg >= 1 && feeding[y.Age] == 0 {
					t.Errorf("%s %s: %.0f kg of %s has no job", s.ID, y.Label, kg, n)
				}
			}
		}
		if math.Abs(total-value(t, p, "yield.total")) > 1e-6*total {
			t.Errorf("%s: years make %.0f kg, the life says %.0f", s.ID, total, value(t, p, "yield.total"))
		}
	}
}

// Units are a matter of display: the same plan in feet and pounds has the same numbers inside.
func TestUnitsChangeNoNumber(t *testing.T) {
	for _, s := range library(t).Whole() {
		in := input(t, s.ID)
		a := compute(t, in)
		in.Estate.Units = units.US
		b := compute(t, in)
		for i := range a.Figures {
			if a.Figures[i].Value != b.Figures[i].Value {
				t.Errorf("%s %s: %g became %g", s.ID, a.Figures[i].Path, a.Figures[i].Value, b.Figures[i].Value)
			}
		}
		x, _ := json.Marshal(a.Years)
		y, _ := json.Marshal(b.Years)
		if string(x) != string(y) {
			t.Errorf("%s: the years changed with the units", s.ID)
		}
		for _, f := range b.Findings {
			if strings.Contains(f.Sentence, "\u00a0ha") || strings.Contains(f.Sentence, "\u00a0m ") {
				t.Errorf("%s speaks metric to a reader of feet: %s", s.ID, f.Sentence)
			}
		}
	}
}

// North of the equator the same planting, half a year apart, has the same ages and yields.
func TestHemispheres(t *testing.T) {
	south := input(t, "hazelnut")
	a := compute(t, south)
	north := input(t, "hazelnut")
	north.Estate.Seasons = schedule.Temperate(false)
	north.Block.Planting.Date = civil.Must(2027, 1, 5)
	b := compute(t, north)
	if a.Years[0].Label != "2027/28" || b.Years[0].Label != "2027/28" || b.Years[0].Start.Month() != 3 {
		t.Errorf("first seasons %s and %s (%s)", a.Years[0].Label, b.Years[0].Label, b.Years[0].Start)
	}
	for i := range a.Years {
		if a.Years[i].PerHa != b.Years[i].PerHa {
			t.Fatalf("age %d yields %v south and %v north", i+1, a.Years[i].PerHa, b.Years[i].PerHa)
		}
	}
	// late summer is February in the south and August in the north
	for _, j := range a.Jobs {
		if j.Key == "harvest-1@12" && j.From.Month() != 2 {
			t.Errorf("southern harvest from %s", j.From)
		}
	}
	for _, j := range b.Jobs {
		if j.Key == "harvest-1@12" && j.From.Month() != 8 {
			t.Errorf("northern harvest from %s", j.From)
		}
	}
}

// Recorded as planted and read back, every station stands where it was planned, to a millimetre, and the
// plan reads the same.
func TestAsPlantedStandsWhereItWasPlanned(t *testing.T) {
	for _, s := range library(t).Whole() {
		in := input(t, s.ID)
		before := compute(t, in)
		as := before.Fix(before.Choices["layout"])
		text, err := json.Marshal(as)
		if err != nil {
			t.Fatal(err)
		}
		var back document.AsPlanted
		if err := json.Unmarshal(text, &back); err != nil {
			t.Fatal(err)
		}
		in.Block.Planting.AsPlanted, in.Block.Planting.Planted = &back, in.Block.Planting.Date
		after := compute(t, in)
		if len(after.Rows) != len(before.Rows) {
			t.Fatalf("%s: %d pieces became %d", s.ID, len(before.Rows), len(after.Rows))
		}
		for i, r := range before.Rows {
			q := after.Rows[i]
			last := float64(r.Stations - 1)
			d := math.Hypot(r.FirstX+last*r.StepX-q.FirstX-last*q.StepX, r.FirstY+last*r.StepY-q.FirstY-last*q.StepY)
			if d > 1e-3 || q.Stations != r.Stations || q.Row != r.Row || q.Roles != r.Roles {
				t.Fatalf("%s: the end of row %d moved by %.4f m", s.ID, r.Row, d)
			}
		}
		for _, path := range []string{"rows.stations", "rows.planted", "yield.total"} {
			if a, b := value(t, before, path), value(t, after, path); math.Abs(a-b) > 1e-9*a {
				t.Errorf("%s %s: %g before planting, %g after", s.ID, path, a, b)
			}
		}
		pl := geo.PlaneAt(before.Ground.Origin)
		r := back.Rows[len(back.Rows)/2]
		mid := pl.To(r.At(r.N / 2))
		p := before.Rows[len(back.Rows)/2]
		if d := math.Hypot(mid.X-p.FirstX-float64(r.N/2)*p.StepX, mid.Y-p.FirstY-float64(r.N/2)*p.StepY); d > 2e-3 {
			t.Errorf("%s: a station exported stands %.4f m off", s.ID, d)
		}
	}
}

// More ground, more of everything; the rates per hectare stay.
func TestScalesWithTheGround(t *testing.T) {
	in := input(t, "persimmon")
	a := compute(t, in)
	pl := geo.PlaneAt(geo.Point{Lon: 172, Lat: -38})
	var ring geo.Ring
	for _, q := range []geo.XY{{X: 0, Y: 0}, {X: 600, Y: 0}, {X: 600, Y: 400}, {X: 0, Y: 400}} {
		ring = append(ring, pl.From(q))
	}
	in.Block.Boundary.Outer = ring
	b := compute(t, in)
	ratio := value(t, b, "rows.stations") / value(t, a, "rows.stations")
	if ratio < 4 || ratio > 4.5 {
		t.Errorf("four times the ground holds %.2f times the stations", ratio)
	}
	for i := range a.Years {
		if a.Years[i].PerHa != b.Years[i].PerHa {
			t.Fatal("the rate per planted hectare depends on the size of the field")
		}
	}
	for _, k := range []string{"yield.total", "yield.block", "yield.ten"} {
		if got := value(t, b, k) / value(t, a, k); math.Abs(got-ratio) > 1e-9 {
			t.Errorf("%s grew %.4f times, stations %.4f times", k, got, ratio)
		}
	}
}
