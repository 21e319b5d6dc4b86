package practice

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/rotation"
	"slowroot/core/schedule"
)

// Validate reports everything wrong with a sheet: missing origins, printed densities that the
// spacings do not give, thinning that cannot leave the spacing it claims, splits and shares that do
// not sum, anchors that do not resolve, and choices for which a curve, programme or harvest is
// missing or given twice.
func (s *Sheet) Validate() []error {
	var errs []error
	fail := func(format string, a ...any) {
		errs = append(errs, fmt.Errorf("sheet %s: %s", s.ID, fmt.Sprintf(format, a...)))
	}
	origin := func(what, o string) {
		if o == "" {
			fail("%s has no origin", what)
		}
	}
	if s.ID == "" || s.Name == "" || s.Version < 1 {
		fail("id, name and version are needed")
	}
	if !(0 < s.Life.Low && s.Life.Low <= s.Life.Base && s.Life.Base <= s.Life.High && s.Life.High <= 120) {
		fail("life must rise from low to high within 120 years, got %d, %d, %d", s.Life.Low, s.Life.Base, s.Life.High)
	}
	origin("life", s.Life.Origin)
	s.checkTraits(fail, origin)
	s.checkTropics(fail)
	s.checkRates(fail, origin)
	s.checkStorage(fail, origin)
	s.checkGround(fail, origin)
	for _, n := range s.Cautions {
		origin("caution "+n.Item, n.Origin)
	}
	if len(s.Cautions) == 0 {
		fail("no cautions")
	}
	for _, sec := range s.Notes {
		for _, n := range sec.Notes {
			origin(sec.Title+", "+n.Item, n.Origin)
		}
	}
	for _, r := range s.Removal {
		if err := r.Check(); err != nil {
			fail("%v", err)
		}
	}
	told := map[string]bool{}
	for _, d := range s.Disagrees {
		origin("disagreement "+d.ID, d.Origin)
		if d.ID == "" || told[d.ID] || d.Item == "" || d.Value == "" || !isStep(d.Step) {
			fail("disagreement %q: needs an id of its own, a step, and what is said", d.ID)
		}
		told[d.ID] = true
	}
	for _, w := range s.Windows {
		origin("planting window", w.Origin)
		if err := schedule.Check([]schedule.Operation{{ID: "w", Name: "w", Phase: "plant", Season: w.Season, Origin: "x"}}); err != nil {
			fail("planting window: %v", err)
		}
	}
	if !s.Whole() {
		if err := schedule.Check(s.Operations(nil)); err != nil {
			fail("%v", err)
		}
		return errs
	}
	origin("product", s.Product.Origin)
	origin("canopy", s.Canopy.Origin)
	origin("stand", s.Stand.Origin)
	origin("plant material", s.Material.Origin)
	s.Product.check(fail)
	s.Material.check(fail)
	if err := s.Canopy.Valid(); err != nil {
		fail("%v", err)
	}
	s.checkForks(fail, origin)
	s.checkLayouts(fail)
	s.checkCrop(fail)
	s.eachChoice(conditions(s.Work, func(o Operation) When { return o.If }), func(c map[string]string) {
		if err := schedule.Check(s.Operations(c)); err != nil {
			fail("%v (with %v)", err, c)
		}
	})
	one(s, "yield curves", s.Yields, func(y Yield) When { return y.If }, fail)
	one(s, "feeding programmes", s.Feeding, func(f Feeding) When { return f.If }, fail)
	one(s, "harvests", s.Harvests, func(h Harvest) When { return h.If }, fail)
	return errs
}

// checkCrop checks yields, feeding and harvests, each by its own rules.
func (s *Sheet) checkCrop(fail func(string, ...any)) {
	for i, y := range s.Yields {
		if err := y.Check(); err != nil {
			fail("yield curve %d: %v", i+1, err)
		}
	}
	for i, f := range s.Feeding {
		if err := f.Check(); err != nil {
			fail("feeding %d: %v", i+1, err)
		}
	}
	for i, h := range s.Harvests {
		if err := h.Check(); err != nil {
			fail("harvest %d: %v", i+1, err)
		}
	}
	checkEach([]Ready{s.Ready}, fail)
	checkEach(s.Water, fail)
	checkEach(s.Lateness, fail)
	s.checkSeasons(fail)
}

// checkSeasons refuses seasons nobody knows in what is fed, picked and in bloom; those of work are checked with it.
func (s *Sheet) checkSeasons(fail func(string, ...any)) {
	known := func(what string, season []string) {
		for _, k := range season {
			if !slices.Contains(schedule.Keys, k) && !slices.Contains(schedule.RainKeys, k) {
				fail("%s: %q is not a season", what, k)
			}
		}
	}
	for _, f := range s.Feeding {
		for _, p := range slices.Concat(f.Splits, f.RainSplits, f.TwoRains) {
			known("feeding "+p.Name, p.Season)
		}
	}
	for _, h := range s.Harvests {
		for _, p := range slices.Concat(h.Picks, h.Rains, h.TwoRains) {
			known("harvest "+p.Name, p.Season)
		}
		if h.Bloom != nil {
			known("bloom", slices.Concat(h.Bloom.Season, h.Bloom.Rains))
		}
	}
	s.checkFollows(fail)
}

// one fails for every combination of options for which not exactly one of a list holds.
func one[T any](s *Sheet, what string, list []T, when func(T) When, fail func(string, ...any)) {
	s.eachChoice(conditions(list, when), func(c map[string]string) {
		if n := count(list, func(v T) bool { return when(v).Holds(c) }); n != 1 {
			fail("%d %s for %v, needs one", n, what, c)
		}
	})
}

// conditions are the forks a list depends on.
func conditions[T any](list []T, when func(T) When) map[string]bool {
	out := map[string]bool{}
	for _, v := range list {
		for fork := range when(v) {
			out[fork] = true
		}
	}
	return out
}

func count[T any](list []T, ok func(T) bool) (n int) {
	for _, v := range list {
		if ok(v) {
			n++
		}
	}
	return n
}

// eachChoice calls f with every combination of options of the forks named.
func (s *Sheet) eachChoice(named map[string]bool, f func(map[string]string)) {
	var forks []Fork
	for _, k := range s.AllForks() {
		if named[k.ID] {
			forks = append(forks, k)
		}
	}
	choice := map[string]string{}
	var walk func(i int)
	walk = func(i int) {
		if i == len(forks) {
			f(choice)
			return
		}
		for _, o := range forks[i].Options {
			choice[forks[i].ID] = o.ID
			walk(i + 1)
		}
	}
	walk(0)
}

func (s *Sheet) checkForks(fail func(string, ...any), origin func(string, string)) {
	options := map[string]map[string]bool{}
	for _, f := range s.AllForks() {
		if options[f.ID] != nil {
			fail("fork %s is given twice", f.ID)
		}
		options[f.ID] = map[string]bool{}
		defaults := 0
		for _, o := range f.Options {
			options[f.ID][o.ID] = true
			origin("option "+f.ID+"/"+o.ID, o.Origin)
			if o.PerStation < 0 || o.PerStation > 50 || o.PerStation > 0 && o.Called == "" {
				fail("option %s/%s: %d plants at a station, called %q", f.ID, o.ID, o.PerStation, o.Called)
			}
			s.checkChanges("option "+f.ID+"/"+o.ID, o.Changes, fail)
			if o.Sentence == "" || o.Name == "" {
				fail("option %s/%s says nothing", f.ID, o.ID)
			}
			if o.Default {
				defaults++
			}
		}
		if !isStep(f.Step) {
			fail("fork %s stands at unknown step %q", f.ID, f.Step)
		}
		if len(f.Options) < 2 || len(options[f.ID]) != len(f.Options) || defaults != 1 {
			fail("fork %s needs two options or more with different ids and one default, has %d with %d defaults", f.ID, len(f.Options), defaults)
		}
	}
	check := func(what string, w When) {
		for fork, ids := range w {
			for _, id := range ids {
				if !options[fork][id] {
					fail("%s depends on %s/%s, which does not exist", what, fork, id)
				}
			}
		}
	}
	for _, f := range s.Forks {
		check("fork "+f.ID, f.If)
	}
	for _, o := range s.Work {
		check("operation "+o.ID, o.If)
	}
	for _, f := range s.Feeding {
		check("feeding", f.If)
	}
	for _, y := range s.Yields {
		check("yield curve", y.If)
	}
	for _, h := range s.Harvests {
		check("harvest", h.If)
	}
	for _, r := range s.Removal {
		check("removal of "+r.Of, r.If)
	}
	for _, d := range s.Disagrees {
		check("disagreement "+d.ID, d.If)
	}
	for _, o := range s.Work {
		for _, u := range o.Uses {
			check("use of "+u.What+" in "+o.ID, u.If)
		}
	}
}

func (s *Sheet) checkLayouts(fail func(string, ...any)) {
	for _, l := range s.Layouts {
		spec := l.Spec(0)
		if err := spec.Valid(); err != nil {
			fail("layout %s: %v", l.ID, err)
			continue
		}
		if d := spec.StationsPerHa(); math.Abs(d-l.PerHa)/d > 0.02 {
			fail("layout %s: printed density %g/ha, its spacings give %.0f", l.ID, l.PerHa, d)
		}
		if p := l.Life; p != nil && !(0 < p.Low && p.Low <= p.Base && p.Base <= p.High && p.High <= 120 && p.Origin != "") {
			fail("layout %s: its life must rise from low to high within 120 years and have an origin, got %d, %d, %d", l.ID, p.Low, p.Base, p.High)
		}
		if l.Product != nil {
			l.Product.check(fail)
		}
		if l.Material != nil {
			l.Material.check(fail)
		}
		if l.Each < 0 || l.Each > 50 || l.Each > 1 && l.EachName == "" {
			fail("layout %s: %d plants at a station, called %q", l.ID, l.Each, l.EachName)
		}
		if g := l.Canopy; g != nil {
			if err := g.Valid(); err != nil || g.Origin == "" {
				fail("layout %s: %v; its canopy needs an origin", l.ID, err)
			}
		}
		if l.Thinning != nil {
			l.thinning(fail)
		}
	}
}

// checkGround looks at limits, soil and preparation: edges in order, one limit for a factor, known keys,
// textures and tasks. A sheet kept from before limits had numbers has no soil and no keys.
func (s *Sheet) checkGround(fail func(string, ...any), origin func(what, o string)) {
	s.checkLimits(fail, origin)
	if so := s.Soil; so.WetClass != 0 {
		origin("soil", so.Origin)
		if so.WetClass < 1 || so.WetClass > 5 || !(so.RootCm > 0) || !(so.TargetPH >= 4 && so.TargetPH <= 8) {
			fail("soil: wet class 1 to 5, root depth and a target pH of 4 to 8 are needed, got %+v", so)
		}
	}
	if b := s.Bed; b != nil {
		origin("bed", b.Origin)
		if !(b.CentreM > b.BaseM && b.BaseM >= b.TopM && b.TopM > 0 && b.HeightM > 0) || b.Cover != "" && b.Cover != "film" && b.Cover != "fabric" {
			fail("bed: centres further apart than the base, a base no narrower than the top, a height, and film or fabric over it, got %+v", *b)
		}
	}
	for _, o := range s.Work {
		for _, u := range o.Uses {
			if err := u.Check(); err != nil {
				fail("operation %s: %v", o.ID, err)
			}
		}
		if o.Task != nil {
			if _, ok := Tasks[o.Task.Kind]; !ok {
				fail("operation %s: task %q is not known", o.ID, o.Task.Kind)
			}
		}
	}
}

// checkTraits refuses a form this program does not write, and waits after what it does not know.
func (s *Sheet) checkTraits(fail func(string, ...any), origin func(what, o string)) {
	if s.Format != Format {
		fail("format %d is not the form sheets are written in, %d", s.Format, Format)
	}
	if t := s.Traits; t.EarlyBloom || t.DrainRoots != nil {
		origin("traits", t.Origin)
	}
	if d := s.Traits.DrainRoots; d != nil && (!(d.M > 0 && d.M <= 100) || d.Advice == "") {
		fail("roots that block drains need how far (up to 100 m) and what to do")
	}
	for _, w := range s.Waits {
		origin("wait after "+w.Kind, w.Origin)
		known := false
		for _, k := range rotation.Kinds {
			known = known || k.Kind == w.Kind
		}
		if !known || !(0 <= w.LowMo && w.LowMo <= w.HighMo && w.HighMo <= 240) || w.Why == "" || w.Shorten == "" {
			fail("the wait after %q of %d to %d months is none, or lacks why and what shortens it", w.Kind, w.LowMo, w.HighMo)
		}
	}
}

// shown are the ways a product is shown.
var shown = []string{"kg", "t", "pieces"}

func (p Product) check(fail func(string, ...any)) {
	if p.Name == "" || p.Origin == "" || !slices.Contains(shown, p.ShowAs) {
		fail("product %q needs a name, an origin and to be shown as %s, got %q", p.Name, strings.Join(shown, ", "), p.ShowAs)
	}
	for _, a := range p.Also {
		if r := a.Per; a.Name == "" || a.Origin == "" || !slices.Contains(shown, a.ShowAs) || !(0 < r.Low && r.Low <= r.Base && r.Base <= r.High) {
			fail("product %q becomes %q by %+v: a name, an origin and shares that rise are needed", p.Name, a.Name, r)
		}
	}
}

func (m Material) check(fail func(string, ...any)) {
	if m.Kind == "" || m.Origin == "" || !(m.Survival > 0 && m.Survival <= 1) || !(m.FlatReserve >= 0 && m.FlatReserve <= 1) {
		fail("material %q: a kind and an origin are needed, and survival and reserve must be shares", m.Kind)
	}
}
