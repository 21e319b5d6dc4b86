package fit

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/amend"
	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/earthwork"
	"slowroot/core/geo"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/prepare"
	"slowroot/core/plan/soils"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/soil"
	"slowroot/core/suitability"
	"slowroot/core/terrain"
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

// measured is what is known of a factor on a block.
type measured struct {
	v       float64 // NaN is not known
	class   soil.Class
	atLeast bool
	atMost  bool // the value is no more than this: it can speak against a crop, never for it
	from    string
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

// measures are the factors of a block, in the order of practice.Factors.
type measures struct {
	in      In
	m       []measured
	ground  prepare.Topsoil
	profile soils.Profile
	areaHa  float64
}

func quantityOf(key string) units.Quantity {
	switch key {
	case "annualMeanC", "seasonMeanC", "hotMaxC", "minC10":
		return units.Temp
	case "rainMm":
		return units.Rain
	case "frostFree":
		return units.Days
	case "elevationM":
		return units.Distance
	case "windMS":
		return units.Speed
	case "slopePct":
		return units.Slope
	case "depthCm", practice.WetKey:
		return units.Depth
	case "ph":
		return units.PH
	case "omPct", "limePct":
		return units.Percent
	case "eceDSPerM":
		return units.Salinity
	}
	return units.Count
}

// measure reads every factor of a block.
func measure(in In) measures {
	m := measures{in: in, m: make([]measured, len(practice.Factors)), ground: prepare.TopsoilOf(in.Block.Pits, in.Block.Tests, in.Block.WorksChoice().DepthCm), areaHa: geo.AreaM2(in.Block.Boundary) / 1e4}
	for _, pit := range in.Block.Pits {
		m.profile.Pits = append(m.profile.Pits, soils.ReadPit(pit, 100, true)) // wetness is a factor of its own
	}
	at := geo.LocalPlane(in.Block.Boundary)
	var site climate.Site
	if in.Climate != nil {
		site = *in.Climate
	} else {
		site = in.Estate.ClimateOf(nil, at.Lat0)
	}
	z, cold := math.NaN(), 0.0
	if in.Land != nil {
		z = in.Land.Lie.MeanZ
		if w := in.Land.Judged(); w == "pocket" || w == "high" {
			cold = -in.Land.Worst.ColderC[1]
		}
	}
	here := site.At(z, cold)
	if math.IsNaN(z) && in.Estate.ElevationM != nil {
		z = *in.Estate.ElevationM
	}
	record := here.Described()
	wind := 0.0
	for _, x := range here.Months {
		wind += x.Wind / 12
	}
	if !here.HasMonths {
		wind = math.NaN()
	}
	depth, wet, atLeast := math.NaN(), math.NaN(), true
	if n := len(m.profile.Pits); n > 0 {
		var d, w []float64
		for _, v := range m.profile.Pits {
			d = append(d, v.EffectiveCm)
			atLeast = atLeast && v.Limiting == ""
			if v.Wetness.Class != soil.Undetermined {
				w = append(w, v.Wetness.DepthCm)
			}
		}
		depth, wet = soil.Quantile(d, 0.25), soil.Quantile(w, 0.25)
	}
	pits := report.Count(len(m.profile.Pits), "pit")
	test := "soil test"
	if m.ground.Test != nil {
		test = "soil test of " + m.ground.Test.On.Words()
	}
	or := func(p *float64) float64 {
		if p == nil {
			return math.NaN()
		}
		return *p
	}
	ece, lime := math.NaN(), math.NaN()
	if m.ground.Test != nil {
		ece, lime = or(m.ground.Test.ECe), or(m.ground.Test.LimePct)
	}
	slope := math.NaN()
	lie := "no heights are known"
	if in.Land != nil {
		slope, lie = in.Land.Lie.SlopePct, in.Land.Source.Name
	}
	for i, f := range practice.Factors {
		v := measured{v: math.NaN()}
		switch f.Key {
		case "annualMeanC":
			v = measured{v: here.AnnualMeanC, from: record}
		case "seasonMeanC":
			v = measured{v: here.SeasonMeanC, from: record + "; months of " + units.Marked("{10 °C}", m.in.Estate.Units) + " or more"}
		case "hotMaxC":
			v = measured{v: here.HotMaxC, from: record + "; mean maximum of the hottest month"}
		case "minC10":
			v = measured{v: here.MinC10, from: record + "; what one winter in ten goes below"}
			if math.IsNaN(v.v) { // the coldest month's mean minimum is passed in most winters
				v = measured{v: here.ColdestMinC, atMost: true, from: record + "; mean minimum of the coldest month, which most winters go below"}
			}
		case "frostFree":
			v = measured{v: here.FrostFree, from: record + "; what nine years in ten reach"}
		case "chillHours":
			v = measured{v: here.ChillHours, from: record + "; hours at or below " + units.Marked("{7.2 °C}", m.in.Estate.Units) + " that nine winters in ten reach"}
		case "rainMm":
			v = measured{v: here.RainMM, from: record}
		case "dryMonths":
			v = measured{v: here.DryMonths, from: record + "; rain under half of reference evapotranspiration"}
		case "elevationM":
			v = measured{v: z, from: lie}
		case "windMS":
			v = measured{v: wind, from: record}
		case "slopePct":
			v = measured{v: slope, from: lie}
		case "depthCm":
			v = measured{v: depth, atLeast: atLeast, from: "25th percentile of " + pits}
		case practice.WetKey:
			v = measured{v: wet, atLeast: true, from: "signs in " + pits}
		case "texture":
			v.from = "the topsoil of the first pit"
			if m.ground.Test != nil && m.ground.Test.ClayPct != nil {
				v.from = test
			}
			if len(m.profile.Pits) > 0 || m.ground.Test != nil && m.ground.Test.ClayPct != nil {
				v.class = m.ground.Class
			}
		case "ph":
			v = measured{v: or(m.ground.Ph), from: test}
		case "omPct":
			v = measured{v: or(m.ground.Om), from: test}
		case "limePct":
			v = measured{v: lime, from: test}
		case "eceDSPerM":
			v = measured{v: ece, from: test}
		}
		m.m[i] = v
	}
	return m
}

// rangeOf is a limit as the suitability package takes it.
func rangeOf(l practice.Limit) suitability.Range {
	n := math.NaN()
	r := suitability.Range{IdealLow: n, IdealHigh: n, TolLow: n, TolHigh: n, S2Low: n, S2High: n}
	set := func(to *float64, p *float64) {
		if p != nil {
			*to = *p
		}
	}
	set(&r.IdealLow, l.Range.Ideal[0])
	set(&r.IdealHigh, l.Range.Ideal[1])
	set(&r.TolLow, l.Range.Tolerated[0])
	set(&r.TolHigh, l.Range.Tolerated[1])
	return r
}

// CannotJudge is the answer for a block of which nothing can be worked out, with why.
func CannotJudge(id, name string, s *practice.Sheet, why string) Fit {
	return Fit{Block: id, BlockName: name, Sheet: s.ID, Name: s.Name, Class: suitability.NotJudged, After: suitability.NotJudged, Verdict: NotKnown, Factors: []FactorFit{}, Unknown: []string{}, FindOut: []string{},
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

func (m *measures) judge(s *practice.Sheet, detail bool) Fit {
	f := Fit{Block: m.in.ID, BlockName: m.in.Block.Name, Sheet: s.ID, Name: s.Name, Factors: []FactorFit{}, Unknown: []string{}, FindOut: []string{}, CostText: ""}
	var now []float64
	worst, worstAfter := math.Inf(1), math.Inf(1)
	capped := false
	unpriced, total := 0, 0.0
	priced := false
	letters := map[string]bool{}
	var limiting *FactorFit
	all := make([]FactorFit, 0, len(practice.Factors))
	for i, factor := range practice.Factors {
		limit, ok := LimitOf(s, factor.Key, m.in.Estate.Units)
		if !ok {
			continue
		}
		v := m.m[i]
		r := rate(limit, v)
		ff := FactorFit{Key: factor.Key, Label: limit.Factor, Letter: factor.Letter, Assumed: limit.Assumed, Class: suitability.NotJudged, After: suitability.NotJudged, Ideal: limit.Ideal, Tolerated: limit.Tolerated}
		if v.atMost && r >= 85 {
			r = math.NaN() // colder it is, but how cold is not known
		}
		if math.IsNaN(r) {
			f.Unknown = append(f.Unknown, limit.Factor)
			if factor.Critical {
				capped = true
				if how := findOut[factor.Key]; !slices.Contains(f.FindOut, how) {
					f.FindOut = append(f.FindOut, how)
				}
			}
			if detail {
				ff.Value, ff.From, ff.Origin = "not known", v.from, practice.OriginWords(limit.Origin)
				all = append(all, ff)
			}
			continue
		}
		after, remedy, months, cost, hasCost := r, "", 0, 0.0, false
		if r < 85 {
			after, remedy, months, cost, hasCost = m.remedy(s, factor, limit, v, r, detail)
		}
		ff.Rating, ff.Class = r, suitability.ClassOf(r, after > r)
		ff.After = suitability.ClassOf(after, false)
		now = append(now, r)
		if remedy != "" {
			f.Months = max(f.Months, months)
			if hasCost {
				total, priced = total+cost, true
				ff.CostText = m.in.Estate.Currency + " " + units.Number(cost, units.Count, m.in.Estate.Units)
			} else {
				unpriced++
				ff.CostText = "no price"
			}
		}
		if detail {
			ff.Remedy, ff.Months = remedy, months
			ff.Value, ff.From, ff.Origin = m.said(factor.Key, v), v.from, practice.OriginWords(limit.Origin)
			all = append(all, ff)
		}
		worstAfter = math.Min(worstAfter, after)
		if r < worst {
			worst = r
			keep := ff
			limiting = &keep
			if !detail {
				limiting.Value = ""
			}
		}
	}
	if l := m.in.Land; l != nil && len(s.Limits) > 0 {
		r := l.PlaceRating(s.Traits.EarlyBloom)
		ff := FactorFit{Key: "frostPlace", Label: "Frost of the place", Letter: "c", Rating: r, Class: suitability.ClassOf(r, false), Origin: "method SITE-1, common practice, no source",
			Value: l.Judged(), Ideal: "low to moderate", Tolerated: "high; a pocket bears no early bloomer", From: l.Source.Name, Assumed: true}
		ff.After = ff.Class
		now, worstAfter = append(now, r), math.Min(worstAfter, r)
		if detail {
			all = append(all, ff)
		}
		if r < worst {
			worst, limiting = r, &ff
		}
	}
	for _, x := range all {
		if x.Class != suitability.NotJudged && limiting != nil && x.Class == limiting.Class && x.Class != suitability.S1 {
			letters[x.Letter] = true
		}
	}
	if detail {
		f.Factors = all
	}
	if len(now) == 0 || limiting == nil {
		f.Class, f.After, f.Verdict = suitability.NotJudged, suitability.NotJudged, NotKnown
		f.Sentence = fmt.Sprintf("Nothing is known yet that %s could be judged by.", report.LowerFirst(s.Name))
		return f
	}
	f.Class, f.After = limiting.Class, suitability.ClassOf(worstAfter, false)
	f.Limiting, f.Index = limiting.Key, suitability.SquareRoot(now)
	for _, l := range []string{"w", "d", "f", "s", "t", "c", "m"} {
		if letters[l] {
			f.Letters += l
		}
	}
	if capped && f.Class == suitability.S1 {
		f.Class = suitability.S2
	}
	if capped && f.After == suitability.S1 {
		f.After = suitability.S2
	}
	f.Capped = capped
	if priced {
		f.Cost = &total
		f.CostText = m.in.Estate.Currency + " " + units.Number(total, units.Count, m.in.Estate.Units)
		if unpriced > 0 {
			f.CostText += fmt.Sprintf(", and %s without a price", report.Count(unpriced, "work"))
		}
	} else if unpriced > 0 {
		f.CostText = "no price"
	}
	if f.Verdict = verdict(f.Class, f.After); capped && (f.Verdict == FitAsItIs || f.Verdict == FitWorks) {
		f.Verdict = NotSure
	}
	if detail {
		f.Sentence = m.sentence(s, f, limiting)
	}
	return f
}

// findOut is how to find out about a factor whose absence caps the answer.
var findOut = map[string]string{"minC10": "read in the daily record of a weather station", "rainMm": "enter monthly normals of rain", "depthCm": "dig a pit", practice.WetKey: "dig a pit", "ph": "have the topsoil tested"}

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

// rate rates a measured factor; NaN where it is not known. A depth nothing was found to end is at least
// moderate: what lies below was not seen.
func rate(l practice.Limit, v measured) float64 {
	if l.Textures != nil {
		if v.class == "" {
			return math.NaN()
		}
		for _, c := range l.Textures.Ideal {
			if c == v.class {
				return 100
			}
		}
		for _, c := range l.Textures.Tolerated {
			if c == v.class {
				return 65
			}
		}
		return 20
	}
	r := rangeOf(l).Rating(v.v)
	if v.atLeast && v.v >= 50 && r < 70 {
		return 70
	}
	return r
}

func (m *measures) said(key string, v measured) string {
	if key == "texture" {
		return string(v.class)
	}
	s := units.Text(v.v, quantityOf(key), m.in.Estate.Units)
	if key == "chillHours" {
		s += " h"
	} else if key == "dryMonths" {
		s += " months"
	}
	if v.atLeast && key == "depthCm" {
		s += " or more"
	}
	if v.atMost {
		s = "below " + s
	}
	return s
}

// remedy is what works could do about a factor: the rating after them, what they are, the months they
// need and, where everything in them is priced, what they cost.
func (m *measures) remedy(s *practice.Sheet, f practice.Factor, l practice.Limit, v measured, r float64, detail bool) (after float64, what string, months int, cost float64, priced bool) {
	after = r
	if !f.Fixable {
		return
	}
	price := func(item string, q float64) {
		if p, ok := m.in.Estate.PriceOf(item, m.in.Today); ok {
			cost, priced = p.Each*q, true
		}
	}
	low := l.Range != nil && l.Range.Ideal[0] != nil && v.v < *l.Range.Ideal[0]
	sys := m.in.Estate.Units
	water := m.in.Block.Answers["water"].Answer
	switch f.Key {
	case "ph":
		if low {
			a := m.ground.LimeFor(s, "")
			if a == nil || !a.Wanted {
				return
			}
			after, months, what = 90, 6, "lime"
			mat, ok := document.LimingFor(m.in.Estate.Materials, m.in.Block.WorksChoice().Material)
			if ok && mat.Analysed() {
				t := mat.Product(a.PerHaT) * m.areaHa
				price("lime:"+mat.ID, t)
				if detail {
					what = fmt.Sprintf("lime: %s of %s", units.Text(t*1000, units.MassT, sys), mat.Name)
				}
				months += 6 * (amend.Split(mat.Product(a.PerHaT), amend.MostMixedIn) - 1)
			} else if detail {
				what = fmt.Sprintf("lime: %s of pure CaCO₃; no analysed material is entered", units.Text(a.PerHaT*m.areaHa*1000, units.MassT, sys))
			}
			return
		}
		kg, drop, _, refused := m.ground.SulphurFor(s, 0)
		if refused != "" || drop <= 0 {
			return
		}
		doses := max(1, int(math.Ceil(kg/amend.MostSulphur(m.ground.Class.Group())-1e-9)))
		after, what, months = 85, "sulphur", amend.SulphurMonths(drop)+3*(doses-1)
		price("sulphur", kg*m.areaHa)
		if detail {
			what = fmt.Sprintf("sulphur: %s in %s", units.Text(kg*m.areaHa, units.MassKg, sys), report.Count(doses, "dose"))
		}
	case "depthCm":
		var d []float64
		rip := false
		for _, p := range m.profile.Pits {
			d = append(d, p.AfterCm)
			for _, b := range p.Barriers {
				rip = rip || b.Remedy == "rip" && b.Removable
			}
		}
		got := soil.Quantile(d, 0.25)
		hours := 0.0
		if rip && got > v.v {
			what, months, hours = "rip the pan", 4, practice.Tasks["rip"].Base*m.areaHa*2
			after = math.Max(r, rate(l, measured{v: got, atLeast: v.atLeast}))
		} else {
			got = v.v
		}
		if after < 85 && len(d) > 0 {
			rise, shaping := BedRise(m.in.Block, m.areaHa)
			if bed := rate(l, measured{v: got + rise}); bed > after+5 {
				if what != "" {
					what += " and "
				}
				what += fmt.Sprintf("raise the beds by %s once settled", units.Text(rise, units.Depth, sys))
				after, months, hours = bed, max(months, 4), hours+shaping
			}
		}
		if what == "" {
			return r, "", 0, 0, false
		}
		price("machine", hours)
	case practice.WetKey:
		after, what, months = 85, "drains or raised beds", 9
	case "rainMm", "dryMonths":
		if !low && f.Key == "rainMm" {
			return
		}
		switch water {
		case "enough":
			after, what, months = 80, "irrigation", 6
		case "short", "none":
			if detail {
				what = "irrigation, where another supply can be brought; there is not enough here"
			}
		default: // nobody has said that there is none
			after, what, months = 75, "irrigation, once a supply is found and measured", 12
		}
	case "windMS":
		after, what, months = 75, "a windbreak of 40 to 60 % porosity", 30
	case "slopePct":
		if low || v.v > 30 {
			return
		}
		after, what, months = 65, "rows on the contour", 3
		if v.v >= 15 {
			if t, err := terrain.NewTerrace(v.v, m.in.Block.WorksChoice().Bench(), 0.75); err == nil {
				what, months = "bench terraces", 6
				if detail {
					what = fmt.Sprintf("bench terraces: %s of earth", units.Text(t.CutM3PerHa*m.areaHa, units.Earth, sys))
				}
				price("earth", t.CutM3PerHa*m.areaHa)
			}
		}
	case "omPct":
		o, _ := amend.OrganicNamed("compost")
		if l.Range.Ideal[0] == nil || !low {
			return
		}
		fresh, err := o.Fresh(amend.OrganicMatter(*l.Range.Ideal[0]-v.v, m.ground.Density, m.ground.DepthCm))
		if err != nil {
			return
		}
		after, what, months = 90, "compost", 3
		price("organic:compost", fresh*m.areaHa)
		if fresh > amend.MostFresh {
			after, months = 80, 24
		}
		if detail {
			what = fmt.Sprintf("compost: %s fresh", units.Text(fresh*m.areaHa*1000, units.MassT, sys))
			if fresh > amend.MostFresh {
				what += ", over years or in strips"
			}
		}
	case "eceDSPerM":
		if m.in.Block.Answers["waterQuality"].Answer == "good" {
			after, what, months = 70, "leaching, with drainage", 12
		} else if detail {
			what = "leaching, once the water is tested good and the ground drains"
		}
	}
	after = math.Max(after, r)
	return
}

// BedRiseCm is the root room a raised bed adds once it has settled (common practice, no source), where no bed has
// been shaped for the block.
const BedRiseCm = 30

// bedRise is the root room beds would add, cm, and the machine's hours for them: of the bed shaped for the block,
// else what is usual.
func BedRise(b document.Block, areaHa float64) (cm, hours float64) {
	if w := b.DrainChoice().Bed; w != nil {
		bed := earthwork.Bed{CentreM: w.CentreM, BaseM: w.BaseM, TopM: w.TopM, HeightM: w.HeightM, CrownM: w.CrownM}
		if bed.Valid() == nil {
			_, _, hours = bed.Shaping(bed.PerHa() * areaHa)
			return 100 * bed.Rise(1), hours
		}
	}
	return BedRiseCm, practice.Tasks["bed"].Base * areaHa
}
