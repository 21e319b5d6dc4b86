package bill

import (
	"fmt"
	"slices"
	"strings"

	"slowroot/core/fittings"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/core/working"
)

// renewKey marks the jobs of putting up again what wears out before the crop.
const renewKey = "renew-"

// nearDays is how long before and after the day a fitting has lasted its years it is renewed; common practice, no source.
const nearDays = 45

// renewed is what putting up again costs while the crop stands.
func renewed(in In, lines []Line, sum *report.Bill, say *report.Voice) {
	if !slices.ContainsFunc(lines, func(l Line) bool { return l.Anew != "" }) {
		return
	}
	say.Figure(report.Figure{Path: "bill.anew", Step: "plants", Label: "To put up again", Quantity: units.Plain, Value: sum.Sum, Text: sum.Text(),
		Origin: working.Computed, Note: fmt.Sprintf("what wears out within the %s the crop stands, at today's prices", report.Count(in.Grown.Life, "year"))})
	if say.On("bill.anew") {
		say.Tell(working.Series, "bill.anew", "Renewals", "Σ amount × price × times renewed, every so many years while the crop stands",
			fmt.Sprintf("the crop stands %d years", in.Grown.Life), sum.Sum, units.Plain, "years of life by methods BED-2 and M1, common practice")
	}
}

// Renewals are the jobs of putting up again what wears out before the crop: so many years after planting, or after it was last recorded.
func Renewals(in In, book record.Book, say *report.Voice) []report.Job {
	var out []report.Job
	if in.Grown.PlantedOn.IsZero() {
		return nil
	}
	site := in.site()
	for _, f := range in.Planting.Fittings {
		kind, _ := fittings.Named(f.Kind)
		again := fittings.Renewed(f.Kind, f.Values, in.Grown.Life)
		if len(again) == 0 {
			continue
		}
		var takes []string
		for _, t := range fittings.Take(f.Kind, f.Values, site) {
			if t.Price != "" {
				takes = append(takes, t.What+" "+say.Text(t.Amount, t.Quantity))
			}
		}
		up := in.Grown.PlantedOn
		for n := range again {
			due, since := up.AddMonths(12*again[0]), "it was put up"
			if n > 0 {
				since = "it was put up again"
			}
			age := in.Grown.Seasons.YearOf(due) - in.Grown.First + 1
			if age > in.Grown.Life {
				break
			}
			key := schedule.Key(renewKey+f.ID, n+1)
			j := report.Job{Said: report.Said{Name: "Renew: " + report.LowerFirst(kind.Name), Phase: "care", Why: "it wears out before the crop",
				Rule: fmt.Sprintf("%s after %s", report.Count(again[0], "year"), since), Origin: "the years it lasts, said for this planting"},
				Key: key, Age: age, From: due.AddDays(-nearDays), By: due.AddDays(nearDays), Detail: strings.Join(takes, ", "), Hours: f.Hours,
				Done: book.Done[key], NotNeeded: book.NotNeeded[key]}
			if up = due; !j.Done.IsZero() {
				up = j.Done
			}
			out = append(out, j)
		}
	}
	return out
}
