package ready

import (
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/supply"
	"slowroot/core/units"
	"slowroot/core/working"
)

// StoreIn is dormant stock on its way from the nursery to the field.
type StoreIn struct {
	Storage practice.Storage
	Said    *document.ColdStore // nil: what the crop's stock asks for, nothing more
	Day     civil.Date          // planting
	Climate *climate.Site
	Seasons schedule.Seasons
	Done    bool // it is planted
	Plants  int  // to be kept; 0 where nobody knows
}

// Stored is what a cold store comes to.
type Stored struct {
	Of       string     `json:"of"`
	Says     string     `json:"says"`
	SetC     float64    `json:"setC"`
	LowC     float64    `json:"lowC"`
	HighC    float64    `json:"highC"`
	MostDays int        `json:"mostDays"`
	NeedH    float64    `json:"needH"`   // hours of cold before planting; 0 where none are known
	Out      civil.Date `json:"out"`     // of the store; zero where nothing is kept
	Latest   civil.Date `json:"latest"`  // it can leave it
	Days     int        `json:"days"`    // in it
	FieldH   float64    `json:"fieldH"`  // cold before it was lifted
	FieldOK  bool       `json:"fieldOk"` // the estate's record says so
	StoreH   float64    `json:"storeH"`

	Room *supply.Space `json:"room,omitempty"` // it takes; nil where no bins were said
}

// Store reckons the days and the cold of dormant stock: in the open by the estate's own record from the beginning of autumn to the day it is
// lifted, in the store every hour, those below 0 °C by their weight.
func Store(in StoreIn, say *report.Voice) *Stored {
	st := in.Storage
	out := &Stored{Of: st.Of, Says: say.Marked(st.Says), SetC: st.SetC, LowC: st.LowC, HighC: st.HighC, MostDays: st.MostDays, NeedH: st.ChillH}
	s := in.Said
	if s == nil {
		return out
	}
	if s.SetC != nil {
		out.SetC = *s.SetC
	}
	if out.Out = s.Out; out.Out.IsZero() {
		out.Out = civil.Later(in.Day, s.In)
	}
	out.Days, out.Latest = out.Out.Sub(s.In), s.In.AddDays(st.MostDays)
	weight := 1.0
	switch {
	case out.SetC > 7.2:
		weight = 0
	case out.SetC < 0:
		weight = st.BelowZero
	}
	out.StoreH = 24 * weight * float64(out.Days)
	from := in.autumn(s.Lifted)
	if in.Climate != nil {
		out.FieldH, out.FieldOK = in.Climate.ColdHours(from, s.Lifted, st.BelowZero)
	}
	origin := practice.OriginWords(st.Origin)
	say.Figure(report.Figure{Path: "store.days", Step: "plants", Label: "In the cold store", Quantity: units.Days, Value: float64(out.Days),
		Origin: working.Computed,
		Note:   fmt.Sprintf("%s, %d at most: out by %s", st.Of, st.MostDays, out.Latest.Words())})
	if say.On("store.days") {
		say.Step("store.days", "Days in the store", "out − in", fmt.Sprintf("%s − %s", out.Out.Words(), s.In.Words()), float64(out.Days), units.Days,
			origin)
	}
	if st.ChillH > 0 {
		note := "in the open as this estate's record has it, and in the store"
		if !out.FieldOK {
			note = "in the store alone: the record is too short to say what it had in the open"
		}
		say.Figure(report.Figure{Path: "store.chill", Step: "plants", Label: "Cold before planting", Quantity: units.Hours, Value: out.FieldH +
			out.StoreH,
			Origin: working.Computed, Note: note})
		if say.On("store.chill") {
			say.Step("store.chill", "Hours of cold", "in the open + 24 × days in the store × weight", fmt.Sprintf("%.0f + 24 × %d × %g", out.FieldH,
				out.Days, weight),
				out.FieldH+out.StoreH, units.Hours, "hours at or below 7.2 °C: Weinberger, Proc. Am. Soc. Hort. Sci., 1950; those below 0 °C by half, "+
					"from memory")
		}
	}
	in.room(out, say)
	in.judge(out, say)
	return out
}

// breathes is what a tonne of dormant wood gives off, W: the middle of 5 to 15, from memory.
const breathes = 10

// room is what the store has to hold and to cool (method H7).
func (in StoreIn) room(out *Stored, say *report.Voice) {
	r := in.Said.Room
	if r == nil || in.Plants < 1 {
		return
	}
	room := supply.Room{Pieces: in.Plants, PerBin: r.PerBin, LengthM: r.LengthM, WidthM: r.WidthM, HeightM: r.HeightM, Stack: r.Stack, KgEach: r.KgEach,
		ToC: out.SetC, FromC: out.SetC, Hours: r.Hours, WPerT: breathes}
	if r.FromC != nil {
		room.FromC = *r.FromC
	}
	s := room.Space()
	out.Room = &s
	say.Figure(report.Figure{Path: "store.floor", Step: "plants", Label: "Floor of the cold store", Quantity: units.Floor, Value: s.FloorM2,
		Origin: working.Computed, Note: fmt.Sprintf("%s on %s", report.Count(s.Bins, "bin"), report.Count(s.Positions, "stack"))})
	if say.On("store.floor") {
		say.Step("store.floor", "Floor", "⌈⌈plants / in a bin⌉ / on one another⌉ · length · width / 0.65", fmt.Sprintf("⌈⌈%d / %d⌉ / %d⌉ · %g · %g / 0.65",
			in.Plants, r.PerBin, r.Stack, r.LengthM, r.WidthM), s.FloorM2, units.Floor, "method H7; two thirds of the floor for bins: common practice, no source")
	}
	if r.FloorM2 > 0 && s.FloorM2 > r.FloorM2 && !in.Done {
		say.Note(finding.Finding{Rule: "store.room", Weight: finding.Mend, Step: "plants", Subject: "Cold store", Source: "method H7",
			Sentence: fmt.Sprintf("%s take %s on %s: %s of floor with the ways between; there are %s.", report.Capital(report.Count(in.Plants, "plant")),
				report.Count(s.Bins, "bin"), report.Count(s.Positions, "stack"), say.Text(s.FloorM2, units.Floor), say.Text(r.FloorM2, units.Floor))})
	}
}

// autumn is the first day of the last autumn that began before a day.
func (in StoreIn) autumn(before civil.Date) civil.Date {
	y := in.Seasons.YearOf(before)
	from, _ := in.Seasons.Span("early-autumn", "early-autumn", y)
	if from.After(before) {
		from, _ = in.Seasons.Span("early-autumn", "early-autumn", y-1)
	}
	return from
}

// StoreKey is the job of reading the store.
const StoreKey = "store-log"

// StoreJob is reading the store and airing it while the stock is in it; false where nothing is kept.
func (s *Stored) StoreJob(said *document.ColdStore, when report.Timetable, say *report.Voice) (j report.Job, ok bool) {
	if s == nil || said == nil {
		return j, false
	}
	return when.Preparation(report.Job{Said: report.Said{Name: "Read the cold store and air it", Phase: "order",
		Why:     "warm, the stock wakes and moulds; too cold, it dies",
		Caution: "Cold stores: refrigerants and low oxygen kill; a way out that opens from inside, nobody alone in it.",
		Rule:    "every week while the stock is in the store",
		Origin:  "said for this planting"}, Key: StoreKey, From: said.In, By: s.Out,
		Detail: fmt.Sprintf("%s to %s; note what was read", say.Text(s.LowC, units.Temp), say.Text(s.HighC, units.Temp))}), true
}

// judge says what the stock cannot stand.
func (in StoreIn) judge(out *Stored, say *report.Voice) {
	st, s := in.Storage, in.Said
	note := func(rule string, weight finding.Weight, sentence string, remedies ...finding.Remedy) {
		say.Note(finding.Finding{Rule: rule, Weight: weight, Step: "plants", Subject: "Cold store", Source: practice.OriginWords(st.Origin),
			Sentence: sentence,
			Remedies: remedies})
	}
	window := fmt.Sprintf("%s to %s", say.Text(st.LowC, units.Temp), say.Text(st.HighC, units.Temp))
	if out.SetC < st.LowC || out.SetC > st.HighC {
		note("store.set", finding.Mend, fmt.Sprintf("The store is set to %s; %s are kept at %s.", say.Text(out.SetC, units.Temp), st.Of, window),
			finding.Remedy{Label: "Set it to " + say.Text(st.SetC, units.Temp),
				Patch: map[string]any{"planting": map[string]any{"store": map[string]any{"setC": nil}}}})
	}
	for _, r := range s.Readings {
		if r.TempC >= st.LowC && r.TempC <= st.HighC {
			continue
		}
		what := "they wake and mould above"
		if r.TempC < st.LowC {
			what = "they crack and die below"
		}
		note("store.reading", finding.Mend, fmt.Sprintf("On %s the store was at %s, outside %s: %s it. Look at the stock before it is planted.",
			r.On.Words(),
			say.Text(r.TempC, units.Temp), window, what))
		break // the first says it; the list shows the rest
	}
	if in.Done {
		return
	}
	if out.Days > st.MostDays {
		note("store.long", finding.Mend, fmt.Sprintf("%s lie %d days in the store, %d at most: they have to be planted by %s.", report.Capital(st.Of),
			out.Days,
			st.MostDays,
			out.Latest.Words()), finding.Remedy{Label: "Plant on " + out.Latest.Words(),
			Patch: map[string]any{"planting": map[string]any{"date": out.Latest.String()}}})
	}
	if have := out.FieldH + out.StoreH; st.ChillH > 0 && have < st.ChillH {
		sentence := fmt.Sprintf("%s have %s of cold before they are planted; %s are wanted.", report.Capital(st.Of), say.Text(have, units.Hours),
			say.Text(st.ChillH, units.Hours))
		var remedies []finding.Remedy
		if a := out.StoreH / float64(max(1, out.Days)); a > 0 {
			met := out.Out.AddDays(int((st.ChillH-have)/a) + 1)
			sentence += fmt.Sprintf(" They would have them in the store by %s.", met.Words())
			if !met.After(out.Latest) {
				remedies = append(remedies, finding.Remedy{Label: "Plant on " + met.Words(),
					Patch: map[string]any{"planting": map[string]any{"date": met.String()}}})
			}
		}
		note("store.chill", finding.Watch, sentence, remedies...)
	}
}
