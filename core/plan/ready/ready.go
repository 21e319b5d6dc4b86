// Package ready is the part of a plan that says whether the ground, the frosts and the rains of a usual year let planting be on
// its day, and when what it waits for is to be expected.
package ready

import (
	"fmt"
	"math"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
)

// frostBorne is the risk of a later frost at which a tender plant is still set out; common practice, no source.
const frostBorne = 0.10

// In is a planting that is still to come.
type In struct {
	Sheet   *practice.Sheet
	Day     civil.Date // planting is meant for
	Seen    civil.Date // somebody has looked and found it ready; zero where nobody has
	Climate *climate.Site
	Rains   []schedule.Rain
	Seasons schedule.Seasons // as the crop sees them
}

// Judge says what planting should wait for beside its date, and gives what the job of looking says of when it is to be
// expected. What somebody has seen on the ground counts for more than any climate.
func (in In) Judge(say *report.Voice) (expected string) {
	r, day := in.Sheet.Ready, in.Day
	if warm, at, ok := in.warm(r.SoilC); ok {
		expected = "; expected in a usual year from about " + warm.Words()
		if warm.After(day) && in.Seen.IsZero() {
			say.Note(finding.Finding{Rule: "planting.cold-soil", Weight: finding.Watch, Step: "plants", Subject: "Warm soil",
				Source: practice.OriginWords(r.Origin) + "; method C1: Epstein, J. Climate, 1991; soil taken as warm as the air of the week before, which is assumed",
				Sentence: fmt.Sprintf("On %s the soil is expected at %s; %s or more are wanted, in a usual year from about %s.", day.Words(),
					say.Text(at, units.Temp), say.Text(r.SoilC, units.Temp), warm.Words()), Remedies: in.plantOn(warm, say.Today)})
		}
	}
	in.frostAhead(say)
	in.rainAhead(say)
	return expected
}

// warm is the first day from the half-year before planting on which a usual year's soil has reached a temperature and keeps
// it until planting, or the first after it; and what it is on the day of planting.
func (in In) warm(wanted float64) (from civil.Date, at float64, ok bool) {
	s, day := in.Climate, in.Day
	if wanted == 0 || s == nil || !s.HasMonths {
		return civil.Date{}, 0, false
	}
	means := make([]float64, 12)
	for i, m := range s.Months {
		if math.IsNaN(m.MeanC) {
			return civil.Date{}, 0, false
		}
		means[i] = m.MeanC
	}
	curve, err := climate.NewSmooth(means, 6)
	if err != nil {
		return civil.Date{}, 0, false
	}
	soil := func(d civil.Date) float64 { return curve.At(float64(d.AddDays(-4).DayOfYear())) }
	at = soil(day)
	if at >= wanted {
		for from = day; day.Sub(from) < 183 && soil(from.AddDays(-1)) >= wanted; {
			from = from.AddDays(-1)
		}
		return from, at, true
	}
	for from = day; from.Sub(day) < 366; from = from.AddDays(1) {
		if soil(from) >= wanted {
			return from, at, true
		}
	}
	return civil.Date{}, at, false
}

// frostAhead says that frost is still likely after the day a tender plant is meant to be set out.
func (in In) frostAhead(say *report.Voice) {
	r, day, s := in.Sheet.Ready, in.Day, in.Climate
	if !r.Tender || s == nil || !s.HasFrost || s.LastFrost.Never || s.LastFrost.Day == 0 || !in.Seen.IsZero() {
		return
	}
	last := civil.Must(day.Year(), 1, 1).AddDays(s.LastFrost.Day - 1)
	risk := s.LastFrost.After(float64(day.DayOfYear()))
	if !day.Before(last) || last.Sub(day) > 183 || risk <= frostBorne {
		return
	}
	say.Note(finding.Finding{Rule: "planting.frost", Weight: finding.Mend, Step: "plants", Subject: "Frost after planting",
		Source: practice.OriginWords(r.Origin) + "; method C3: Thom & Shaw, Mon. Weather Rev., 1958",
		Sentence: fmt.Sprintf("In %s of years a frost still comes after %s, and young plants bear none; in one year in ten after %s.",
			say.Text(risk, units.Fraction), day.Words(), last.Words()), Remedies: in.plantOn(last.AddDays(1), say.Today)})
}

// rainAhead says that the rains end too soon after planting, where the place lives by them and nothing waters the plants.
func (in In) rainAhead(say *report.Voice) {
	r, day := in.Sheet.Ready, in.Day
	if r.RainWeeks == 0 || len(in.Rains) == 0 {
		return
	}
	weeks, until := -1, civil.Date{}
	for _, rain := range in.Rains {
		if _, to, ok := rain.Around(day); ok {
			weeks, until = to.Sub(day)/7, to
		}
	}
	if weeks >= r.RainWeeks {
		return
	}
	f := finding.Finding{Rule: "planting.rain-ahead", Weight: finding.Watch, Step: "plants", Subject: "Rain after planting",
		Source: practice.OriginWords(r.Origin)}
	if weeks < 0 {
		f.Sentence = fmt.Sprintf("%s lies outside the rains: %d weeks of rain are wanted after planting, or water at hand.", day.Words(), r.RainWeeks)
	} else {
		f.Sentence = fmt.Sprintf("The rains end about %s, %d weeks after planting; %d weeks are wanted, or water at hand.", until.Words(), weeks, r.RainWeeks)
	}
	say.Note(f)
}

// plantOn offers a day, where it is still to come and lies in a season the crop is planted in.
func (in In) plantOn(d, today civil.Date) []finding.Remedy {
	d = in.Seasons.NextInWindow(civil.Later(d, today), in.Sheet.Windows)
	if d.IsZero() {
		return nil
	}
	return []finding.Remedy{{Label: "Plant on " + d.Words(), Patch: map[string]any{"planting": map[string]any{"date": d.String()}}}}
}
