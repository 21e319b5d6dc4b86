package plan

import (
	"math"
	"slices"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan/bill"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/soil"
	"slowroot/core/yield"
)

// Every crop that can be planned, every layout and every way at each of its forks, north and south: the plan computes,
// rows and order agree with a count, jobs lie in their order, splits and harvests make up the year, yields stay inside
// the full range, and the first crop comes when its curve says.
func TestEveryCropEveryWay(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	ways := 0
	for _, s := range l.Whole() {
		for place, e := range places {
			for _, f := range s.AllForks() {
				for _, o := range f.Options {
					in := input(t, "hazelnut")
					in.Estate.Seasons, in.Estate.Rains = schedule.Temperate(e.south), e.rains
					in.Sheet = s
					in.Block.Planting = &document.Planting{Sheet: s.ID, Choices: map[string]document.Choice{f.ID: {Option: o.ID}}}
					Complete(&in.Block, in.Estate, l.Get, in.Today)
					p, err := Compute(in, nil)
					if err != nil {
						t.Errorf("%s %s=%s, %s: %v", s.ID, f.ID, o.ID, place, err)
						continue
					}
					ways++
					checkWay(t, s, f.ID+"="+o.ID+", "+place, p)
				}
			}
		}
	}
	if ways < 600 {
		t.Errorf("only %d ways tried", ways)
	}
}

// places a crop is planned at: temperate north and south, and two that live by their rains, one of them twice a year.
var places = map[string]struct {
	south bool
	rains []schedule.Rain
}{
	"north": {}, "south": {south: true},
	"one rain":  {rains: []schedule.Rain{{From: "06-10", To: "10-05"}}},
	"two rains": {rains: []schedule.Rain{{From: "03-15", To: "06-05"}, {From: "10-01", To: "12-10"}}},
}

// A crop of the tropics is planted, fed and picked by the rains of the place: the day proposed lies in them, whatever month
// they come in, and what its sheet says of their onset falls on it.
func TestCropsByTheRains(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	byRains := 0
	for _, s := range l.Whole() {
		if !s.ByRains() {
			continue
		}
		byRains++
		for _, r := range []struct {
			name  string
			south bool
			rains []schedule.Rain
		}{{"north", false, []schedule.Rain{{From: "06-10", To: "10-05"}}}, {"south", true, []schedule.Rain{{From: "11-20", To: "04-10"}}},
			{"two", false, []schedule.Rain{{From: "03-15", To: "06-05"}, {From: "10-01", To: "12-10"}}}} {
			in := input(t, "hazelnut")
			in.Estate.Seasons, in.Estate.Rains, in.Sheet = schedule.Temperate(r.south), r.rains, s
			in.Block.Planting = &document.Planting{Sheet: s.ID}
			Complete(&in.Block, in.Estate, l.Get, in.Today)
			p := compute(t, in)
			seasons, err := in.Estate.Calendar()
			if err != nil {
				t.Fatal(err)
			}
			turned := s.InRains(len(r.rains))
			if !seasons.InWindow(p.CropDate, turned.Windows) {
				t.Errorf("%s, %s: proposed for %s, outside %v", s.ID, r.name, p.CropDate, turned.Windows)
			}
			dry := 0.0 // what is picked while it rains and while it does not makes the year
			for _, y := range p.Years {
				for _, h := range y.Harvests {
					dry += h.BlockKg.Base
					if h.From.Sub(y.Start) < -60 || h.From.Sub(y.Start) > 400 {
						t.Errorf("%s, %s: %s of %s is picked on %s", s.ID, r.name, h.Name, y.Label, h.From)
					}
				}
			}
			if total := value(t, p, "yield.total"); math.Abs(dry-total) > 1e-6*total {
				t.Errorf("%s, %s: picked %g of %g", s.ID, r.name, dry, total)
			}
			if len(s.Windows) > 0 && s.Windows[0].Rains != nil && s.Windows[0].Rains[0] == "onset-rains" {
				a, b := seasons.Span("onset-rains", turned.Windows[0].Season[len(turned.Windows[0].Season)-1], seasons.YearOf(p.CropDate))
				if len(r.rains) == 1 && (p.CropDate.Before(a.AddDays(-366)) || p.CropDate.After(b)) {
					t.Errorf("%s, %s: planted %s, rains from %s to %s", s.ID, r.name, p.CropDate, a, b)
				}
			}
		}
	}
	if byRains != 12 {
		t.Errorf("%d crops are planned by the rains", byRains)
	}
}

func checkWay(t *testing.T, s *practice.Sheet, way string, p *Plan) {
	t.Helper()
	layout, _ := s.Layout(p.Choices[practice.LayoutFork])
	if len(p.Years) != s.LifeOf(layout).Base {
		t.Errorf("%s %s: %d years of a life of %d", s.ID, way, len(p.Years), s.LifeOf(layout).Base)
	}
	stations, order := value(t, p, "rows.stations"), value(t, p, "plants.main")
	if stations < 10 || order < stations*0.5 || order > stations*2*float64(s.Stocked(layout, p.Choices).Plants()) {
		t.Errorf("%s %s: %g stations, %g plants to order", s.ID, way, stations, order)
	}
	curve, first := s.Curve(p.Choices), 0
	for _, y := range p.Years {
		if y.PerHa.Base > 0 && first == 0 {
			first = y.Age
		}
		if top := 1.02 * curve.Full.High * 3 * curve.Density(layout.PerHa, 1); y.PerHa.High > top || y.PerHa.Low > y.PerHa.Base || y.PerHa.Base > y.PerHa.High {
			t.Errorf("%s %s, age %d: %+v, at most %g", s.ID, way, y.Age, y.PerHa, top)
		}
		sum := 0.0
		for _, h := range y.Harvests {
			sum += h.BlockKg.Base
		}
		if y.BlockKg.Base > 0 && math.Abs(sum-y.BlockKg.Base) > 1e-6*y.BlockKg.Base {
			t.Errorf("%s %s, age %d: harvests make %g of %g kg", s.ID, way, y.Age, sum, y.BlockKg.Base)
		}
	}
	if s.Harvesting(p.Choices).Rotation == nil {
		for _, f := range curve.Fractions {
			if f[1] > 0 {
				if first != int(f[0]) && f[0] <= float64(len(p.Years)) {
					t.Errorf("%s %s: first crop in year %d, its curve says %g", s.ID, way, first, f[0])
				}
				break
			}
		}
	}
	last := civil.Date{}
	feeds, planted := 0, false
	for _, j := range p.Jobs {
		if j.From.Before(last) || j.By.Before(j.From) {
			t.Errorf("%s %s: %s on %s to %s comes after %s", s.ID, way, j.Key, j.From, j.By, last)
		}
		last = j.From
		planted = planted || j.Phase == "plant"
		if j.Phase == "feed" {
			feeds++
		}
		if j.Preparation && j.By.After(p.CropDate) {
			t.Errorf("%s %s: %s prepares after the planting", s.ID, way, j.Key)
		}
	}
	if !planted || len(p.Jobs) < 30 {
		t.Errorf("%s %s: %d jobs, planting among them: %v", s.ID, way, len(p.Jobs), planted)
	}
	for _, f := range p.Findings {
		if f.Rule == "schedule.window" || f.Weight == finding.Stops || len(f.Rule) > 15 && f.Rule[:15] == "plan.not-finite" {
			t.Errorf("%s %s: %s: %s", s.ID, way, f.Rule, f.Sentence)
		}
	}
}

// First fruit, full crop and life of the crops as the handbook's tables give them (from memory there, marked so in the
// sheets): age year of the first crop, of the first full crop, and the base life.
func TestAgesOfTheCrops(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		sheet, layout     string
		first, full, life int
	}{
		{"apple", "tall", 2, 6, 18}, {"apple", "central", 3, 10, 25}, {"apple", "vase", 4, 15, 35},
		{"pear", "hedge", 3, 10, 22}, {"pear", "vase", 5, 18, 35}, {"peach", "vase", 2, 6, 15}, {"peach", "v", 2, 5, 15},
		{"blueberry", "standard", 3, 8, 25}, {"blueberry", "hedge", 3, 8, 25}, {"elderberry", "hedge", 2, 4, 15}, {"elderberry", "tree", 2, 6, 15},
		{"miscanthus", "common", 2, 3, 18}, {"citrus", "rect", 3, 10, 25}, {"citrus", "high", 3, 8, 14}, {"citrus", "square6", 3, 13, 25},
		{"avocado", "standard", 3, 8, 20}, {"avocado", "ultra", 3, 6, 9}, {"guava", "rect", 2, 7, 18}, {"guava", "meadow", 1, 3, 12},
		{"blackberry", "two-wire", 2, 3, 12}, {"papaya", "square2", 1, 2, 3}, {"cactus-pear", "fruit-wide", 2, 7, 25}, {"cactus-pear", "fodder", 2, 4, 20},
		{"cactus-pear", "pads", 1, 3, 8},
		{"mulberry", "row", 1, 3, 14}, {"coffee", "square", 2, 6, 40}, {"palmarosa", "ridge", 1, 3, 4}, {"banana", "rect", 1, 3, 8}, {"pineapple", "double", 2, 2, 3},
		{"strawberry", "o33", 1, 1, 1}, {"strawberry", "tunnel4", 1, 1, 1}, {"raspberry", "r25", 1, 1, 1}, {"raspberry", "two-crops", 1, 1, 2},
		{"raspberry", "v-pairs", 1, 1, 1},
		{"coffee", "mother", 1, 3, 11},
		{"sapota", "wide", 3, 16, 35}, {"sapota", "dense", 3, 8, 20}, {"sapota", "half", 3, 10, 35},
	} {
		s, ok := l.Get(c.sheet)
		if !ok {
			t.Fatal(c.sheet)
		}
		choice := s.Resolve(map[string]string{practice.LayoutFork: c.layout})
		lay, _ := s.Layout(c.layout)
		first, full := 0, 0
		for age := 1; age <= 40; age++ {
			f := s.Curve(choice).Fraction(float64(age))
			if f > 0 && first == 0 {
				first = age
			}
			if f == 1 && full == 0 {
				full = age
			}
		}
		if first != c.first || full != c.full || s.LifeOf(lay).Base != c.life {
			t.Errorf("%s %s: first crop %d, full %d, life %d; the tables say %d, %d, %d", c.sheet, c.layout, first, full, s.LifeOf(lay).Base, c.first, c.full, c.life)
		}
	}
}

// Lives that are not a tree's, by their own tables (numbers of the soft fruit and of the mother garden, from memory there):
// a strawberry planted in autumn is fed before it is planted, picked in the next spring and gone; a pot of raspberry holds
// two canes and is picked ten to sixteen weeks after planting; its nursery sells canes by the piece; a mother garden sells
// cuttings, and seven in ten root.
func TestLivesThatAreNotATrees(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	plan := func(sheet, layout string, day civil.Date) *Plan {
		s, _ := l.Get(sheet)
		in := input(t, "hazelnut")
		in.Estate.Seasons, in.Sheet = schedule.Temperate(false), s
		in.Block.Planting = &document.Planting{Sheet: sheet, Date: day, Choices: map[string]document.Choice{practice.LayoutFork: {Option: layout}}}
		return compute(t, in)
	}
	job := func(p *Plan, key string) report.Job {
		for _, j := range p.Jobs {
			if j.Key == key {
				return j
			}
		}
		t.Errorf("%s: no job %s", p.Sheet, key)
		return report.Job{}
	}
	st := plan("strawberry", "o33", civil.Must(2027, 9, 5))
	if len(st.Years) != 1 || st.Years[0].Season != 2028 || len(st.Years[0].Harvests) != 2 || st.Years[0].Harvests[1].From != civil.Must(2028, 6, 1) {
		t.Errorf("strawberry: %+v", st.Years)
	}
	if j := job(st, "feed-1@1"); j.From != civil.Must(2027, 8, 1) || j.By != civil.Must(2027, 8, 15) || !said(t, j.Rule) {
		t.Errorf("fed before planting from %s to %s: %s", j.From, j.By, j.Rule)
	}
	if a, b := job(st, "runners@1"), job(st, "runners@3"); a.From != civil.Must(2027, 9, 26) || b.From != civil.Must(2027, 10, 24) {
		t.Errorf("runners on %s and %s", a.From, b.From)
	}
	ra := plan("raspberry", "r25", civil.Must(2028, 4, 10))
	canes, stations := value(t, ra, "rows.plants"), value(t, ra, "rows.stations")
	if canes != 2*stations || value(t, ra, "plants.main") < canes {
		t.Errorf("%g canes in %g pots, %g ordered", canes, stations, value(t, ra, "plants.main"))
	}
	if h := ra.Years[0].Harvests[0]; h.From != civil.Must(2028, 6, 19) {
		t.Errorf("first raspberries on %s", h.From)
	}
	nursery := plan("raspberry", "v-pairs", civil.Must(2028, 5, 20))
	if f, _ := nursery.Figure("yield.full"); f.Quantity != "perArea" || math.Abs(f.Value-149000*0.981) > 1500 {
		t.Errorf("canes of a hectare: %+v", f)
	}
	mother := plan("coffee", "mother", civil.Must(2028, 6, 1))
	nodes, _ := mother.Figure("yield.block")
	rooted, ok := mother.Figure("yield.also.1")
	if !ok || math.Abs(rooted.Value-0.7*nodes.Value) > 1e-6*nodes.Value || rooted.Low != 0.65*nodes.Low || rooted.High != 0.8*nodes.High {
		t.Errorf("%g nodes, %+v", nodes.Value, rooted)
	}
	forks, err := Forks(Input{Estate: input(t, "hazelnut").Estate, Block: func() document.Block {
		b := input(t, "hazelnut").Block
		b.Planting = &document.Planting{Sheet: "coffee", Date: civil.Must(2028, 6, 1), Choices: map[string]document.Choice{practice.LayoutFork: {Option: "mother"}}}
		return b
	}(), Sheet: func() *practice.Sheet { s, _ := l.Get("coffee"); return s }(), Today: civil.Must(2026, 1, 1)})
	forks = slices.DeleteFunc(forks, func(f report.Fork) bool { return f.Scope == "block" })
	if err != nil || len(forks) != 1 || forks[0].ID != practice.LayoutFork || len(forks[0].Ways) != 7 {
		t.Errorf("a mother garden has forks %v: %v", len(forks), err)
	}
}

// A stand thinned twice: what comes out and when, what stays, and what the plan says is left (LAY-5).
func TestWhatThinningLeaves(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		sheet, layout string
		out, later    int
		keep          float64 // share of the stations that stays
		said          []string
	}{
		{"sapota", "quarter", 10, 14, 0.25, []string{"7.07 m × 7.07 m, turned", "10.00 m × 10.00 m"}},
		{"sapota", "centre", 13, 0, 0.5, []string{"the centre plants", "10.00 m × 10.00 m"}},
		{"sapota", "dense-thinned", 12, 0, 0.5, []string{"8.49 m × 8.49 m, turned"}},
		{"avocado", "hd5", 7, 0, 0.5, []string{"7.07 m × 7.07 m, turned"}},
		{"avocado", "hd4", 6, 0, 0.5, []string{"5.66 m × 5.66 m, turned"}},
		{"hazelnut", "double", 10, 0, 0.5, []string{"6.00 m × 6.00 m"}},
	} {
		in := input(t, "hazelnut")
		in.Sheet, _ = l.Get(c.sheet)
		in.Block.Planting = &document.Planting{Sheet: c.sheet, Choices: map[string]document.Choice{practice.LayoutFork: {Option: c.layout}}}
		Complete(&in.Block, in.Estate, l.Get, in.Today)
		p, err := Compute(in, nil)
		if err != nil {
			t.Fatal(err)
		}
		if (c.sheet != "hazelnut" && p.OutAge != c.out) || p.OutAge == 0 || p.LaterAge != c.later {
			t.Errorf("%s %s: plants come out at %d and %d, want %d and %d", c.sheet, c.layout, p.OutAge, p.LaterAge, c.out, c.later)
		}
		stay, all := 0, 0
		for _, r := range p.Rows {
			all += r.Stations
			stay += strings.Count(r.Roles, "m") + strings.Count(r.Roles, "p")
		}
		if share := float64(stay) / float64(all); math.Abs(share-c.keep) > 0.06 {
			t.Errorf("%s %s: %d of %d stay, want about %.2f", c.sheet, c.layout, stay, all, c.keep)
		}
		last := p.Years[max(p.OutAge, p.LaterAge)] // the first year after the last removal
		if got := float64(last.Plants) / last.Alive; math.Abs(got-float64(stay)) > 1 {
			t.Errorf("%s %s: the year table counts %.0f stations after the last removal, the rows keep %d", c.sheet, c.layout, got, stay)
		}
		var said []string
		for _, f := range p.Findings {
			if strings.HasPrefix(f.Rule, "rows.thinning") {
				said = append(said, strings.ReplaceAll(f.Sentence, "\u00a0", " "))
			}
		}
		for _, want := range c.said {
			if !strings.Contains(strings.Join(said, "\n"), want) {
				t.Errorf("%s %s: %q does not say %q", c.sheet, c.layout, said, want)
			}
		}
	}
}

// What a full crop carries off agrees with balances computed beside the practice it comes from, kg/ha; every crop that
// bears says what leaves and what is given, and every contradiction of its sheet stands in some plan of it.
func TestWhatLeavesAndWhatIsGiven(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		sheet         string
		kg, n, p2, k2 float64 // oxides, as the balances print them
	}{{"banana", 35000, 65, 16, 232}, {"pineapple", 60000, 54, 18, 159}, {"tea", 2400, 108, 23, 60}, {"palmarosa", 70, 60, 16, 72}, {"blueberry", 11500, 13.8,
		3.2, 11.1},
		{"strawberry", 20000, 22, 11, 36}, {"elderberry", 7500, 8.3, 6.7, 25}, {"blackberry", 12000, 26, 6, 23}, {"raspberry", 26400, 50, 18, 48},
		{"sapota", 17500, 21, 5.2, 40}} {
		s, _ := l.Get(c.sheet)
		b := s.Removes(s.Resolve(nil)).Balances(nil, c.kg)
		if math.Abs(b[0].Out-c.n) > 0.6 || math.Abs(b[1].Out*2.2913-c.p2) > 0.6 || math.Abs(b[2].Out*1.2046-c.k2) > 0.6 {
			t.Errorf("%s: %.1f N, %.1f P2O5, %.1f K2O leave, want %g, %g, %g", c.sheet, b[0].Out, b[1].Out*2.2913, b[2].Out*1.2046, c.n, c.p2, c.k2)
		}
	}
	for _, s := range l.Whole() {
		told := map[string]bool{}
		for _, option := range s.Layouts {
			in := input(t, "hazelnut")
			in.Sheet = s
			in.Block.Planting = &document.Planting{Sheet: s.ID, Choices: map[string]document.Choice{practice.LayoutFork: {Option: option.ID}}}
			Complete(&in.Block, in.Estate, l.Get, in.Today)
			p, err := Compute(in, nil)
			if err != nil {
				t.Fatal(err)
			}
			balance, short := 0, false
			for _, f := range p.Findings {
				switch f.Rule {
				case "practice.disagrees":
					told[f.About.ID] = true
				case "feed.removal", "feed.below-removal":
					balance++
					short = f.Rule == "feed.below-removal"
					if (f.Weight == finding.Watch) != short {
						t.Errorf("%s %s: %s weighs %s", s.ID, option.ID, f.Rule, f.Weight)
					}
				}
			}
			want := 1
			if s.Removes(s.Resolve(map[string]string{practice.LayoutFork: option.ID})) == nil {
				want = 0
			}
			if balance != want || want == 0 && option.Product == nil {
				t.Errorf("%s %s: %d balances", s.ID, option.ID, balance)
			}
		}
		for _, d := range s.Disagrees {
			if !told[d.ID] {
				t.Errorf("%s: the contradiction %q stands in no plan", s.ID, d.ID)
			}
		}
		if len(s.Disagrees) == 0 {
			t.Errorf("%s contradicts itself nowhere", s.ID)
		}
	}
}

// What the work takes is the sheet's rate times what was counted on the block, in the job and in the list; of every crop.
func TestWhatTheWorkTakes(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	crops := 0
	for _, s := range l.Whole() {
		in := input(t, "hazelnut")
		in.Sheet = s
		in.Block.Planting = &document.Planting{Sheet: s.ID}
		Complete(&in.Block, in.Estate, l.Get, in.Today)
		p, err := Compute(in, nil)
		if err != nil {
			t.Fatal(err)
		}
		stations := 0
		metres := 0.0
		for _, r := range p.Rows {
			stations += r.Stations
			metres += r.LengthM
		}
		planted, _ := p.Figure("rows.planted")
		rates := map[string]practice.Use{}
		for _, o := range s.Work {
			for _, u := range o.Uses {
				if u.Holds(1) && u.If.Holds(p.Choices) && o.If.Holds(p.Choices) {
					rates[o.ID+" "+u.What] = u
				}
			}
		}
		if len(p.Supplies) > 0 {
			crops++
		}
		listed := map[string]bool{}
		for i, got := range p.Supplies {
			id := schedule.OperationOf(got.Key)
			u, ok := rates[id+" "+got.What]
			listed[id+" "+got.What] = true
			k := 1
			if lay, found := s.Layout(p.Choices[practice.LayoutFork]); found {
				k = s.Stocked(lay, p.Choices).Plants()
			}
			n := map[string]float64{"plant": float64(stations * k), "station": float64(stations), "row": metres, "ha": planted.Value / 1e4}[u.Of]
			if u.Unit == "g" {
				n /= 1000
			}
			if !ok || math.Abs(got.Amount.Base-u.Base*n) > 1e-6*got.Amount.Base || got.Amount.Low > got.Amount.Base || got.Amount.Base > got.Amount.High {
				t.Errorf("%s: %s of %s: %+v, want %g", s.ID, got.What, got.For, got.Amount, u.Base*n)
			}
			if i > 0 && got.By.Before(p.Supplies[i-1].By) {
				t.Errorf("%s: the list is not in the order of its days", s.ID)
			}
			told := false
			for _, j := range p.Jobs {
				told = told || j.Key == got.Key && strings.Contains(j.Detail, got.What)
			}
			if !told {
				t.Errorf("%s: the job %s does not say that it takes %s", s.ID, got.For, got.What)
			}
		}
		for k, u := range rates {
			// Work of later years, or of none of the first, is not in the first list.
			if u.From <= 1 && !listed[k] {
				first := false
				for _, j := range p.Jobs {
					first = first || j.Age <= 1 && strings.HasPrefix(k, schedule.OperationOf(j.Key)+" ")
				}
				if first {
					t.Errorf("%s: %s is not listed", s.ID, k)
				}
			}
		}
	}
	if crops < 17 {
		t.Errorf("the work of %d crops takes something", crops)
	}
	bad := practice.Use{What: "compost", Low: 5, Base: 3, High: 9, Unit: "kg", Of: "plant"}
	if bad.Check() == nil {
		t.Error("a range that falls was accepted")
	}
}

// Where the sheet knows the bloom, the plan says what harvest follows from it, and of every kind whether that is the one stated.
func TestBloomAndHarvest(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	blooms, off := 0, []string{}
	for _, s := range l.Whole() {
		for _, f := range s.AllForks() {
			for _, o := range f.Options {
				in := input(t, "hazelnut")
				in.Estate.Seasons = schedule.Temperate(false)
				in.Sheet = s
				in.Block.Planting = &document.Planting{Sheet: s.ID, Choices: map[string]document.Choice{f.ID: {Option: o.ID}}}
				Complete(&in.Block, in.Estate, l.Get, in.Today)
				p, err := Compute(in, nil)
				if err != nil {
					t.Fatal(err)
				}
				said := 0
				for _, x := range p.Findings {
					if strings.HasPrefix(x.Rule, "harvest.bloom") {
						said++
						if x.Rule == "harvest.bloom-disagrees" {
							off = append(off, s.ID+" "+f.ID+"="+o.ID+": "+x.Sentence)
						}
					}
				}
				ids, _ := s.Harvesting(p.Choices).Flowerings()
				want := len(ids)
				blooms += min(1, want)
				if said != want {
					t.Errorf("%s %s=%s: bloom is told of %d times, want %d", s.ID, f.ID, o.ID, said, want)
				}
			}
		}
	}
	if blooms < 80 {
		t.Errorf("%d ways know their bloom", blooms)
	}
	if len(off) > 0 {
		t.Errorf("the sheets disagree with their own bloom:\n%s", strings.Join(off, "\n"))
	}
	// Fruit that would be ripe in a month is not picked in autumn.
	in := input(t, "hazelnut")
	in.Estate.Seasons = schedule.Temperate(false)
	apple, _ := l.Get("apple")
	changed := *apple
	changed.Harvests = slices.Clone(apple.Harvests)
	for i := range changed.Harvests {
		changed.Harvests[i].Bloom = &yield.Bloom{Season: []string{"mid-spring"}, Days: [2]int{30, 40}, Origin: "mem"}
	}
	in.Sheet = &changed
	in.Block.Planting = &document.Planting{Sheet: "apple"}
	Complete(&in.Block, in.Estate, l.Get, in.Today)
	p, err := Compute(in, nil)
	if err != nil {
		t.Fatal(err)
	}
	if !slices.ContainsFunc(p.Findings, func(f finding.Finding) bool { return f.Rule == "harvest.bloom-disagrees" && f.Weight == finding.Watch }) {
		t.Error("a harvest four months after the fruit is ripe is not noticed")
	}
}

// BenchmarkEveryCropOnOneBlock plans every crop of the library for its life on one block, as they stand side by side where
// one is chosen.
func BenchmarkEveryCropOnOneBlock(b *testing.B) {
	l, err := practice.BuiltIn()
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		for _, s := range l.Whole() {
			in := input(b, "hazelnut")
			in.Sheet = s
			in.Block.Planting = &document.Planting{Sheet: s.ID}
			Complete(&in.Block, in.Estate, l.Get, in.Today)
			if _, err := Compute(in, nil); err != nil {
				b.Fatal(err)
			}
		}
	}
}

// BenchmarkLibrary reads and checks every sheet of the library.
func BenchmarkLibrary(b *testing.B) {
	for b.Loop() {
		if _, err := practice.BuiltIn(); err != nil {
			b.Fatal(err)
		}
	}
}

// A kind or a stock is weighed by what it computes: the ground, the cold, the order, the work. Each way taken is what the plan then has.
func TestKindsAndStocksAreWeighed(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		sheet, fork string
		differs     []string
	}{
		{"apple", "stock", []string{"wet soil here"}}, {"apple", "chill", []string{"chilling here"}},
		{"pear", "stock", []string{"plants ordered by", "lime here", "pH here"}}, {"pear", "chill", []string{"chilling here"}},
		{"peach", "stock", []string{"lime here"}}, {"peach", "chill", []string{"chilling here"}},
		{"citrus", "stock", []string{"lime here", "wet soil here"}},
		{"avocado", "stock", []string{"plants ordered by"}}, {"avocado", "kinds", []string{"winter cold here"}},
		{"persimmon", "stock", []string{"wet soil here", "pH here"}},
		{"hazelnut", "stock", []string{"jobs in its life"}},
		{"blueberry", "chill", []string{"chilling here", "winter cold here"}},
		{"elderberry", "kind", []string{"winter cold here"}}, {"blackberry", "habit", []string{"winter cold here"}},
		{"apple", "kind", []string{"picked, in its fullest year"}}, {"citrus", "fruit", []string{"picked, in its fullest year"}},
	} {
		in := input(t, "hazelnut")
		in.Sheet, _ = l.Get(c.sheet)
		in.Block.Planting = &document.Planting{ID: "p1", Sheet: c.sheet, Date: in.Today.AddMonths(30)}
		site := in.Estate.ClimateOf(nil, 45)
		site.ChillHours, site.MinC10, site.HasMonths = 280, -18, false
		in.Climate = &site
		lime, ph := 9.0, 7.45
		in.Block.Tests = []soil.Test{{ID: "t1", On: in.Today, ToCm: 20, LimePct: &lime, PH: &ph, PHMethod: "water"}}
		in.Block.Pits = []soil.Pit{{ID: "p", Name: "1", On: in.Today, WetCm: 55, Layers: []soil.Layer{{BottomCm: 110, Class: soil.Loam}}}}
		forks, err := Forks(in)
		if err != nil {
			t.Fatal(err)
		}
		i := slices.IndexFunc(forks, func(f report.Fork) bool { return f.ID == c.fork })
		if i < 0 {
			t.Errorf("%s has no fork %s", c.sheet, c.fork)
			continue
		}
		for _, label := range c.differs {
			found := ""
			for _, w := range forks[i].Ways {
				for _, x := range w.Consequences {
					if x.Label == label && x.Differs {
						found += w.ID + ": " + x.Text + "; "
					}
				}
			}
			if found == "" {
				t.Errorf("%s, %s: %s does not differ: %+v", c.sheet, c.fork, label, forks[i].Ways)
			}
		}
	}
}

// Plants go by the names their people have for them, in the order and among what the work takes; none ship.
func TestPlantsAsPeopleCallThem(t *testing.T) {
	in := input(t, "hazelnut")
	in.Block.Planting.Called, in.Block.Planting.CalledPoll = "Old Round on layers", "Early Red"
	p := compute(t, in)
	for path, name := range map[string]string{"plants.main": "“Old Round on layers”", "plants.pollinizers": "“Early Red”"} {
		f, ok := p.Figure(path)
		if !ok || !strings.Contains(f.Note, name) {
			t.Errorf("%s: %q", path, f.Note)
		}
		if !slices.ContainsFunc(p.Bill, func(l bill.Line) bool { return strings.Contains(l.What, name) }) {
			t.Errorf("%s is not among what is ordered", name)
		}
	}
	in.Block.Planting.Called = strings.Repeat("long ", 30)
	if _, err := Compute(in, nil); err == nil {
		t.Error("a name of 150 characters is taken")
	}
}

// The ways of every fork of every crop are weighed on ground that is wet and limy, where beds with their own cover are one of them.
func TestForksOfEveryCropOnWetGround(t *testing.T) {
	l, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	for _, s := range l.Whole() {
		in := input(t, "hazelnut")
		in.Sheet = s
		in.Block.Planting = &document.Planting{ID: "p1", Sheet: s.ID, Date: in.Today.AddMonths(30)}
		in.Block.Pits = []soil.Pit{{ID: "p", Name: "1", On: in.Today, WetCm: 35, Layers: []soil.Layer{{BottomCm: 110, Class: soil.ClayLoam}}}}
		forks, err := Forks(in)
		if err != nil || len(forks) < len(s.Forks) {
			t.Errorf("%s: %d forks, %v", s.ID, len(forks), err)
		}
	}
}

// Temporary plants come out when the crowns meet: at the sheet's age at its own spacing, sooner where they stand closer, and
// the job, the plan of the rows and the finding say the same.
func TestThinningFollowsTheClosingOfTheCanopy(t *testing.T) {
	at := func(plantM float64) (int, string) {
		in := input(t, "hazelnut")
		in.Block.Planting.Choices = map[string]document.Choice{"layout": {Option: "double"}}
		if plantM > 0 {
			in.Block.Planting.Layout.PlantSpacingM = &plantM
		}
		p := compute(t, in)
		for _, j := range p.Jobs {
			if schedule.OperationOf(j.Key) == "thin" {
				return j.Age, j.Detail
			}
		}
		t.Fatal("nothing is taken out")
		return 0, ""
	}
	usual, detail := at(0)
	if usual != 12 || strings.Contains(detail, "crowns meet") {
		t.Errorf("at the sheet's spacing in age year %d, %q", usual, detail)
	}
	if age, detail := at(2.5); age >= usual || !strings.Contains(detail, "years sooner than printed") {
		t.Errorf("closer in age year %d, %q", age, detail)
	}
	if age, detail := at(3.5); age <= usual || !strings.Contains(detail, "years later than printed") {
		t.Errorf("wider in age year %d, %q", age, detail)
	}
}
