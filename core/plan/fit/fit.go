package fit

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/plan/ground"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/suitability"
	"slowroot/core/units"
)

// Fit is how a crop suits a block: as found, and with works.
type Fit struct {
	Block     string            `json:"block"`
	BlockName string            `json:"blockName"`
	Sheet     string            `json:"sheet"`
	Name      string            `json:"name"`
	Class     suitability.Class `json:"class"` // as found
	After     suitability.Class `json:"after"` // with the works named
	Capped    bool              `json:"capped"`
	Unknown   []string          `json:"unknown"` // factors the crop has limits for and nothing is known of
	FindOut   []string          `json:"findOut"` // how to find out what caps the answer
	Letters   string            `json:"letters"` // of the limiting factors
	Verdict   Verdict           `json:"verdict"`
	Sentence  string            `json:"sentence"`
	Limiting  string            `json:"limiting"` // key of the limiting factor
	Index     float64           `json:"index"`    // square-root index, for ranking
	Months    int               `json:"months"`   // the works need
	Cost      *float64          `json:"cost,omitempty"`
	CostText  string            `json:"costText"`
	Factors   []FactorFit       `json:"factors"`
}

// Verdict is the answer in a word.
type Verdict string

const (
	FitAsItIs Verdict = "fit"
	FitWorks  Verdict = "fit with works"
	NotSure   Verdict = "not sure" // nothing that is known speaks against it, and something that could is not known
	Marginal  Verdict = "marginal"
	NotHere   Verdict = "not here"
	NotKnown  Verdict = "not known"
)

// FactorFit is one factor of a crop on a block.
type FactorFit struct {
	Key       string            `json:"key"`
	Label     string            `json:"label"`
	Letter    string            `json:"letter"`
	Class     suitability.Class `json:"class"`
	After     suitability.Class `json:"after"`
	Rating    float64           `json:"rating"` // 0 where not judged
	Value     string            `json:"value"`
	Ideal     string            `json:"ideal"`
	Tolerated string            `json:"tolerated"`
	From      string            `json:"from"`    // what the value rests on
	Assumed   bool              `json:"assumed"` // an edge of the limit is
	Origin    string            `json:"origin"`
	Remedy    string            `json:"remedy"`
	Months    int               `json:"months"`
	CostText  string            `json:"costText"`
}

// In is what a block is judged by.
type In struct {
	ID      string
	Block   document.Block
	Estate  document.Estate
	Today   civil.Date
	Climate *climate.Site // nil is worked out from the monthly normals
	Land    *ground.Land  // nil where no heights are known
}

// CannotJudge is the answer for a block of which nothing can be worked out, with why.
func CannotJudge(id, name string, s *practice.Sheet, why string) Fit {
	return Fit{Block: id, BlockName: name, Sheet: s.ID, Name: s.Name, Class: suitability.NotJudged, After: suitability.NotJudged, Verdict: NotKnown,
		Factors: []FactorFit{}, Unknown: []string{}, FindOut: []string{},
		Sentence: fmt.Sprintf("%s cannot be judged here: %s.", s.Name, why)}
}

// Matrix judges a block for every sheet. With detail each factor says its value, remedy and cost.
func Matrix(in In, sheets []*practice.Sheet, detail bool) []Fit {
	m := measure(in)
	out := make([]Fit, len(sheets))
	for i, s := range sheets {
		out[i] = m.judge(s, detail)
	}
	return out
}

// Here is what the ground and the climate say of the factors that kinds or stocks of a crop differ by, with those taken.
func Here(in In, s *practice.Sheet, keys []string) []report.Consequence {
	var out []report.Consequence
	if len(keys) == 0 {
		return out
	}
	factors := Matrix(in, []*practice.Sheet{s}, true)[0].Factors
	for _, key := range keys {
		if i := slices.IndexFunc(factors, func(f FactorFit) bool { return f.Key == key }); i >= 0 {
			f := factors[i]
			text := "not known"
			if f.Class != suitability.NotJudged {
				text = f.Value + ", " + string(f.Class)
			}
			out = append(out, report.Consequence{Label: report.LowerFirst(f.Label) + " here", Text: text + ", borne " + f.Tolerated})
		} else if i := slices.IndexFunc(s.Limits, func(l practice.Limit) bool { return l.Key == key }); i >= 0 {
			out = append(out, report.Consequence{Label: report.LowerFirst(s.Limits[i].Factor) + " here", Text: "no limit is printed for it"})
		}
	}
	return out
}

// judging gathers one crop's factors.
type judging struct {
	*measures
	sheet    *practice.Sheet
	detail   bool
	fit      Fit
	ratings  []float64
	worst    float64
	after    float64 // the worst once everything that can be is mended
	limiting *FactorFit
	all      []FactorFit
	total    float64 // of what has a price
	priced   bool
	unpriced int
}

func (m *measures) judge(s *practice.Sheet, detail bool) Fit {
	s = s.On(m.in.Block.Planting.Ways(s.ID))
	j := &judging{measures: m, sheet: s, detail: detail, worst: math.Inf(1), after: math.Inf(1), all: make([]FactorFit, 0, len(practice.Factors)),
		fit: Fit{Block: m.in.ID, BlockName: m.in.Block.Name, Sheet: s.ID, Name: s.Name, Factors: []FactorFit{}, Unknown: []string{}, FindOut: []string{}}}
	for i, factor := range practice.Factors {
		if limit, ok := LimitOf(s, factor.Key, m.in.Estate.Units); ok {
			j.factor(factor, limit, m.m[i])
		}
	}
	if l := m.in.Land; l != nil && len(s.Limits) > 0 {
		r := l.PlaceRating(s.Traits.EarlyBloom)
		ff := FactorFit{Key: "frostPlace", Label: "Frost of the place", Letter: "c", Rating: r, Class: suitability.ClassOf(r, false),
			Origin: "method SITE-1, common practice, no source", Value: l.Judged(), Ideal: "low to moderate",
			Tolerated: "high; a pocket bears no early bloomer", From: l.Source.Name, Assumed: true}
		ff.After = ff.Class
		j.add(ff, r, r)
	}
	if detail {
		j.fit.Factors = j.all
	}
	return j.conclude()
}

// factor judges one factor, and what works could do about it.
func (j *judging) factor(factor practice.Factor, limit practice.Limit, v measured) {
	r := rate(limit, v)
	ff := FactorFit{Key: factor.Key, Label: limit.Factor, Letter: factor.Letter, Assumed: limit.Assumed, Class: suitability.NotJudged,
		After: suitability.NotJudged, Ideal: limit.Ideal, Tolerated: limit.Tolerated}
	if v.atMost && r >= 85 {
		r = math.NaN() // colder it is, but how cold is not known
	}
	if math.IsNaN(r) {
		j.fit.Unknown = append(j.fit.Unknown, limit.Factor)
		if factor.Critical {
			j.fit.Capped = true
			if how := findOut[factor.Key]; !slices.Contains(j.fit.FindOut, how) {
				j.fit.FindOut = append(j.fit.FindOut, how)
			}
		}
		if j.detail {
			ff.Value, ff.From, ff.Origin = "not known", v.from, practice.OriginWords(limit.Origin)
			j.all = append(j.all, ff)
		}
		return
	}
	m := mending{after: r}
	if r < 85 {
		m = j.remedy(j.sheet, factor, limit, v, r, j.detail)
	}
	ff.Rating, ff.Class, ff.After = r, suitability.ClassOf(r, m.after > r), suitability.ClassOf(m.after, false)
	if m.what != "" {
		j.fit.Months = max(j.fit.Months, m.months)
		if m.priced {
			j.total, j.priced = j.total+m.cost, true
			ff.CostText = j.money(m.cost)
		} else {
			j.unpriced++
			ff.CostText = "no price"
		}
	}
	if j.detail {
		ff.Remedy, ff.Months = m.what, m.months
		ff.Value, ff.From, ff.Origin = j.said(factor.Key, v), v.from, practice.OriginWords(limit.Origin)
	}
	j.add(ff, r, m.after)
}

func (j *judging) money(v float64) string {
	return j.in.Estate.Currency + " " + units.Number(v, units.Count, j.in.Estate.Units)
}

// add counts a judged factor in.
func (j *judging) add(ff FactorFit, r, after float64) {
	if j.detail {
		j.all = append(j.all, ff)
	}
	j.ratings, j.after = append(j.ratings, r), math.Min(j.after, after)
	if r < j.worst {
		j.worst, j.limiting = r, &ff
	}
}

// conclude says what all factors together mean.
func (j *judging) conclude() Fit {
	f := j.fit
	if j.limiting == nil {
		f.Class, f.After, f.Verdict = suitability.NotJudged, suitability.NotJudged, NotKnown
		f.Sentence = fmt.Sprintf("Nothing is known yet that %s could be judged by.", report.LowerFirst(j.sheet.Name))
		return f
	}
	f.Class, f.After = j.limiting.Class, suitability.ClassOf(j.after, false)
	f.Limiting, f.Index = j.limiting.Key, suitability.SquareRoot(j.ratings)
	for _, letter := range []string{"w", "d", "f", "s", "t", "c", "m"} {
		if slices.ContainsFunc(j.all, func(x FactorFit) bool {
			return x.Letter == letter && x.Class == j.limiting.Class && x.Class != suitability.NotJudged && x.Class != suitability.S1
		}) {
			f.Letters += letter
		}
	}
	if f.Capped && f.Class == suitability.S1 {
		f.Class = suitability.S2
	}
	if f.Capped && f.After == suitability.S1 {
		f.After = suitability.S2
	}
	if j.priced {
		f.Cost = &j.total
		f.CostText = j.money(j.total)
		if j.unpriced > 0 {
			f.CostText += fmt.Sprintf(", and %s without a price", report.Count(j.unpriced, "work"))
		}
	} else if j.unpriced > 0 {
		f.CostText = "no price"
	}
	if f.Verdict = verdict(f.Class, f.After); f.Capped && (f.Verdict == FitAsItIs || f.Verdict == FitWorks) {
		f.Verdict = NotSure
	}
	if j.detail {
		f.Sentence = j.sentence(j.sheet, f, j.limiting)
	}
	return f
}

// findOut is how to find out about a factor whose absence caps the answer.
var findOut = map[string]string{"minC10": "read in the daily record of a weather station", "rainMm": "enter monthly normals of rain", "depthCm": "dig a pit",
	practice.WetKey: "dig a pit", "ph": "have the topsoil tested"}

func verdict(now, after suitability.Class) Verdict {
	good := func(c suitability.Class) bool { return c == suitability.S1 || c == suitability.S2 }
	switch {
	case good(now):
		return FitAsItIs
	case good(after):
		return FitWorks
	case after == suitability.S3:
		return Marginal
	}
	return NotHere
}

func (m *measures) sentence(s *practice.Sheet, f Fit, l *FactorFit) string {
	name := s.Name
	lim := fmt.Sprintf("%s %s (ideal %s, borne %s)", report.LowerFirst(l.Label), l.Value, l.Ideal, l.Tolerated)
	var out string
	switch f.Verdict {
	case FitAsItIs:
		out = fmt.Sprintf("%s is fit as it is, %s.", name, f.Class)
		if f.Class != suitability.S1 && l.Class != suitability.S1 {
			out = fmt.Sprintf("%s is fit, %s: %s is what holds it back.", name, f.Class, lim)
		}
	case NotSure:
		out = fmt.Sprintf("%s: not sure. Nothing that is known here speaks against it.", name)
		if l.Class != suitability.S1 && f.Class != f.After {
			out = fmt.Sprintf("%s: not sure. Of what is known, %s asks for works.", name, lim)
		} else if l.Class != suitability.S1 {
			out = fmt.Sprintf("%s: not sure. Of what is known, %s holds it back most.", name, lim)
		}
	case FitWorks:
		out = fmt.Sprintf("%s is %s as found, for %s; with works %s.", name, f.Class, lim, f.After)
	case Marginal:
		out = fmt.Sprintf("%s stays marginal whatever is done: %s.", name, lim)
	default:
		var why []string
		for _, x := range f.Factors {
			if x.After == suitability.N1 || x.After == suitability.N2 {
				why = append(why, fmt.Sprintf("%s %s (borne %s)", report.LowerFirst(x.Label), x.Value, x.Tolerated))
			}
		}
		out = fmt.Sprintf("%s: not here. %s cannot be mended.", name, report.Capital(strings.Join(why, "; ")))
	}
	if f.Capped {
		out += " Not known: " + strings.ToLower(strings.Join(f.Unknown, ", ")) + ". To find out: " + strings.Join(f.FindOut, "; ") + "."
	}
	return out
}

// limitOf is a sheet's limit of a factor; wet feet come from the sheet's class.
func LimitOf(s *practice.Sheet, key string, sys units.System) (practice.Limit, bool) {
	if key == practice.WetKey {
		if s.Soil.WetClass == 0 || s.Soil.InPots {
			return practice.Limit{}, false
		}
		ideal, tol := practice.WetRange(s.Soil.WetClass)
		l := practice.Limit{Factor: "Wet soil", Key: key, Range: &practice.Range{}, Assumed: true, Origin: s.Soil.Origin,
			Ideal: "free of water to " + units.Text(ideal, units.Depth, sys), Tolerated: units.Text(tol, units.Depth, sys)}
		l.Range.Ideal[0], l.Range.Tolerated[0] = &ideal, &tol
		return l, true
	}
	for _, l := range s.Limits {
		if l.Key == key && (l.Range != nil || l.Textures != nil) {
			return l, true
		}
	}
	return practice.Limit{}, false
}
