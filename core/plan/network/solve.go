package network

import (
	"errors"
	"fmt"
	"slices"
	"sort"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/schedule"
)

// solve finds the days of every job for planting on its day, what stands in the way of that, and the first day planting
// could be. The earliest of a job follows from what is done and from today, the latest from the day of planting: where a
// job cannot be kept, its earliest lies after its latest, and the rest stands.
func (n *net) solve() Result {
	r := Result{Jobs: []Job{}, Binds: []string{}, Conflicts: []Conflict{}}
	r.Free, r.Binds = n.free()
	r.FreeInWindow = r.Free
	if s := n.Grown.Sheet; s != nil && len(s.Windows) > 0 {
		r.FreeInWindow = n.Grown.Seasons.NextInWindow(r.Free, s.Windows)
	}
	n.bind(n.Planting)
	r.upside = n.upside
	planting := bound{schedule.Rule{From: schedule.Origin, To: n.plant, Least: n.day(n.Planting), Most: n.day(n.Planting)},
		"planting is meant for " + n.Planting.Words(), false}
	forward, early := n.times(func(bound) bool { return true }, open(n.plant), false)
	r.Conflicts = n.conflicts(append(slices.DeleteFunc(slices.Clone(forward), func(b bound) bool { return b.words == "" }), planting))
	back, late := n.times(func(b bound) bool { return !b.starts }, planting, true)
	n.tell(&r, forward, early, back, late)
	return r
}

// open lets planting be any day from today on.
func open(plant int) bound {
	return bound{schedule.Rule{From: schedule.Origin, To: plant, Most: schedule.NoMost, Hard: true}, "", true}
}

// free is the first day planting can be, and the jobs that decide it. Leads in months are as long as the months before that
// day are, so it is looked for again from the day found until it stays.
func (n *net) free() (civil.Date, []string) {
	day := civil.Later(n.Planting, n.Today)
	var binds []string
	for range 8 {
		n.bind(day)
		list, t := n.times(func(bound) bool { return true }, open(n.plant), false)
		next := n.Today.AddDays(max(0, t.Earliest[n.plant]))
		binds = n.binds(list, t)
		if next == day {
			break
		}
		day = next
	}
	return day, binds
}

// times solves the bounds that are wanted with one more. They are least separations alone, which all can be kept.
func (n *net) times(want func(bound) bool, more bound, back bool) ([]bound, schedule.Times) {
	var list []bound
	for _, b := range append(slices.Clone(n.bounds), more) {
		if want(b) || b.words == more.words {
			list = append(list, b)
		}
	}
	list, t, err := n.inTime(list, back)
	if err != nil { // the sheet's check refuses rules that go round
		t = schedule.Times{Earliest: make([]int, n.plant+1), Latest: make([]int, n.plant+1), BindsEarliest: make([]int, n.plant+1),
			BindsLatest: make([]int, n.plant+1)}
		for i := range t.BindsEarliest {
			t.BindsEarliest[i], t.BindsLatest[i] = -1, -1
		}
	}
	return list, t
}

// inTime solves the bounds, and puts every job into its time of the year: behind the day that time begins, or, counted back,
// on the last day of the one before. Each move makes the earliest later or the latest earlier, so it ends.
func (n *net) inTime(list []bound, back bool) ([]bound, schedule.Times, error) {
	for range 8 * (len(n.jobs) + 1) {
		t, err := (&schedule.Network{Days: n.plant + 1, Rules: rulesOf(list)}).Solve()
		if err != nil {
			return list, t, err
		}
		moved := false
		for i, j := range n.jobs {
			w, x := n.within(n.ops[j.Key], j.Key), i+1
			if w == nil || !j.Done.IsZero() {
				continue
			}
			b := bound{schedule.Rule{From: schedule.Origin, To: x, Least: schedule.NoLeast, Most: schedule.NoMost, Hard: w.Hard}, "", true}
			switch day := n.Today.AddDays(t.Earliest[x]); {
			case back && t.Latest[x] != schedule.NoMost:
				latest := n.Today.AddDays(t.Latest[x])
				_, last := w.Last(n.Grown.Seasons, latest)
				b.Most = n.day(last)
				b.words = fmt.Sprintf("“%s” is done %s, until %s", j.Name, w.Words(), last.Words())
				if last == latest {
					continue
				}
			case !back && w.Next(n.Grown.Seasons, day) != day:
				next := w.Next(n.Grown.Seasons, day)
				b.Least = n.day(next)
				b.words = fmt.Sprintf("“%s” is done %s, next from %s", j.Name, w.Words(), next.Words())
			default:
				continue
			}
			list, moved = append(list, b), true
		}
		if !moved {
			return list, t, nil
		}
	}
	return list, schedule.Times{}, fmt.Errorf("no time of the year fits")
}

// conflicts are all sets of rules that cannot be kept: one is found, let go of, and the next looked for.
func (n *net) conflicts(list []bound) []Conflict {
	out := []Conflict{}
	for range len(n.jobs) + 1 {
		_, err := (&schedule.Network{Days: n.plant + 1, Rules: rulesOf(list)}).Solve()
		var c *schedule.Conflict
		if !errors.As(err, &c) {
			break
		}
		out = append(out, n.conflict(list, c))
		k := loosened(list, c)
		list = slices.Delete(list, k, k+1)
	}
	return out
}

func rulesOf(list []bound) []schedule.Rule {
	out := make([]schedule.Rule, len(list))
	for i, b := range list {
		out[i] = b.Rule
	}
	return out
}

// loosened is the rule of a conflict that is let go so that the rest can be seen: that a job begins today at the earliest,
// else the first that a person can move.
func loosened(list []bound, c *schedule.Conflict) int {
	for _, k := range c.Rules {
		if list[k].starts && list[k].Most == schedule.NoMost {
			return k
		}
	}
	for _, k := range c.Rules {
		if !list[k].Hard {
			return k
		}
	}
	return c.Rules[0]
}

// conflict puts a conflict into words.
func (n *net) conflict(list []bound, c *schedule.Conflict) Conflict {
	out := Conflict{Keys: []string{}, Steps: []Tie{}, Short: c.Short}
	var words []string
	for _, k := range c.Rules {
		b := list[k]
		key, name := n.named(b.To)
		if b.Most != schedule.NoMost && b.From == schedule.Origin && b.To == n.plant {
			key, name = PlantingKey, "Planting"
		}
		out.Steps = append(out.Steps, Tie{Key: key, Name: name, Words: b.words, Hard: b.Hard, Binds: true})
		if !slices.Contains(out.Keys, key) {
			out.Keys = append(out.Keys, key)
		}
		if x, _ := n.named(b.From); b.From != schedule.Origin && !slices.Contains(out.Keys, x) {
			out.Keys = append(out.Keys, x)
		}
		words = append(words, b.words)
	}
	days := "a day is lacking"
	if c.Short != 1 {
		days = fmt.Sprintf("%d days are lacking", c.Short)
	}
	out.Sentence = capital(strings.Join(words, "; ")) + ": " + days + "."
	return out
}

func capital(s string) string {
	if strings.HasPrefix(s, "planting") {
		return "P" + s[1:]
	}
	return s
}

// named is the key and the name of a day of the network.
func (n *net) named(x int) (key, name string) {
	if x > 0 && x <= len(n.jobs) {
		return n.jobs[x-1].Key, n.jobs[x-1].Name
	}
	return PlantingKey, "Planting"
}

// binds are the jobs that decide the first day planting can be, first to last.
func (n *net) binds(list []bound, t schedule.Times) []string {
	out := []string{}
	for x := n.plant; x != schedule.Origin; {
		k := t.BindsEarliest[x]
		if k < 0 {
			break
		}
		if x != n.plant {
			key, _ := n.named(x)
			out = append(out, key)
		}
		x = list[k].From
	}
	slices.Reverse(out)
	return out
}

// tell says of each job when it can be, when it is planned, what it waits for and what it holds up.
func (n *net) tell(r *Result, forward []bound, early schedule.Times, back []bound, late schedule.Times) {
	planned := n.planned(forward, early, late)
	date := func(d int) civil.Date { return n.Today.AddDays(d) }
	tie := func(b bound, x int, binds bool) Tie {
		key, name := n.named(x)
		return Tie{key, name, b.words, b.Hard, binds}
	}
	for x := 1; x <= n.plant; x++ {
		key, name := n.named(x)
		j := Job{Key: key, Name: name, Days: n.days[x], Waits: []Tie{}, Holds: []Tie{}, Earliest: date(early.Earliest[x]), Planned: date(planned[x])}
		j.Latest = j.Earliest
		if x < n.plant {
			of := n.jobs[x-1]
			j.Done, j.Said = of.Done, !of.On.IsZero()
			if w := n.within(n.ops[of.Key], of.Key); w != nil && len(w.Season)+len(w.Months) > 0 {
				j.Within = w.Words()
			}
			if l := late.Latest[x]; j.Done.IsZero() && l != schedule.NoMost {
				j.Latest = date(l)
			}
		} else {
			j.Latest = n.Planting
		}
		j.Slack = j.Latest.Sub(j.Earliest)
		j.Tight = j.Done.IsZero() && x < n.plant && j.Slack <= tight
		for i, b := range forward {
			if b.To == x && b.From != schedule.Origin {
				j.Waits = append(j.Waits, tie(b, b.From, early.BindsEarliest[x] == i))
			}
		}
		for i, b := range back {
			if b.From == x && b.To != schedule.Origin && j.Done.IsZero() {
				j.Holds = append(j.Holds, tie(b, b.To, late.BindsLatest[x] == i))
			}
		}
		r.Jobs = append(r.Jobs, j)
	}
	sort.SliceStable(r.Jobs[:len(r.Jobs)-1], func(i, j int) bool { return r.Jobs[i].Latest.Before(r.Jobs[j].Latest) })
}

// planned is the day of each job: the one it was done on or said for, else the one the sheet wants, moved behind what it
// waits for and no later than it can be.
func (n *net) planned(list []bound, early, late schedule.Times) []int {
	out := make([]int, n.plant+1)
	out[n.plant] = n.day(n.Planting)
	last := func(x int) int { return max(late.Latest[x], early.Earliest[x]) }
	for i, j := range n.jobs {
		switch x := i + 1; {
		case !j.Done.IsZero():
			out[x] = n.day(j.Done)
		case !j.On.IsZero():
			out[x] = n.day(j.On)
		default:
			out[x] = min(max(n.day(j.From), early.Earliest[x]), last(x))
		}
	}
	for range n.jobs { // chains are short
		for _, b := range list {
			if b.From == schedule.Origin || b.To == n.plant || b.To == schedule.Origin {
				continue
			}
			if j := n.jobs[b.To-1]; j.Done.IsZero() && j.On.IsZero() {
				out[b.To] = max(out[b.To], min(out[b.From]+b.Least, last(b.To)))
				out[b.To] = min(n.day(n.within(n.ops[j.Key], j.Key).Next(n.Grown.Seasons, n.Today.AddDays(out[b.To]))), last(b.To))
			}
		}
	}
	return out
}
