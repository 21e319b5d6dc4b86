package schedule

import (
	"strconv"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/order"
)

// Job is one operation on its date. From is when it is best started; By is the last day that still
// works (both equal when the rule gives one day).
type Job struct {
	Key         string // operation id, with "@age" behind it for work that comes back
	Operation   *Operation
	Age         int // age year it falls in
	From, By    civil.Date
	Preparation bool // counted back from planting
	Moot        bool // the operation it prepares is done already
	Done        civil.Date
	NotNeeded   bool // a person said so: nothing waits for it
	steps       int  // between it and planting
}

// Passed reports a preparation not recorded as done whose last workable day lies before today, while
// what it prepares is still to be done.
func (j Job) Passed(today civil.Date) bool {
	return j.Preparation && !j.Moot && !j.NotNeeded && j.Done.IsZero() && j.By.Before(today)
}

// Calendar is what Jobs needs to know besides the operations.
type Calendar struct {
	Seasons  Seasons
	Planting civil.Date // planned, or actual once planted
	Life     int        // age years
	Done     map[string]civil.Date
	Skip     map[string]string // job key → why it is not needed here
}

// Jobs dates every operation, in date order; on one day what must stand before another comes first, then as the sheet
// lists them. Preparations lead back from planting through their
// chain: one that must stand before another is counted back from that one's own dates.
func Jobs(ops []Operation, c Calendar) []Job {
	first := c.Seasons.FirstYear(c.Planting)
	at := make(map[string]*Operation, len(ops))
	for i := range ops {
		at[ops[i].ID] = &ops[i]
	}
	memo := make(map[string]Job, len(ops))
	var resolve func(o *Operation) Job
	resolve = func(o *Operation) Job {
		if j, ok := memo[o.ID]; ok {
			return j
		}
		ref := Job{From: c.Planting, By: c.Planting}
		if id := o.Before + o.After; id != Planting {
			ref = resolve(at[id])
			if o.After != "" && !ref.Done.IsZero() {
				ref.From, ref.By = ref.Done, ref.Done
			}
		}
		j := Job{Key: o.ID, Operation: o, Done: c.Done[o.ID], Moot: o.Before != "" && !c.Done[o.Before].IsZero(), NotNeeded: c.Skip[o.ID] != ""}
		if o.Before != "" {
			j.Preparation, j.steps = true, ref.steps+1
			j.From, j.By = o.Better.From(ref.From, -1), o.Min.From(ref.By, -1)
			if first, last := o.Within.Last(c.Seasons, j.By); last.Before(j.By) || j.From.Before(first) { // as long before, in its time of the year
				j.From = civil.Later(first, j.From.AddDays(last.Sub(j.By)))
				j.By = last
			}
		} else {
			j.Preparation = ref.Preparation
			j.From = o.Better.From(ref.From, 1)
			j.By = j.From
		}
		if j.By.Before(j.From) {
			j.By = j.From
		}
		j.Age = c.Seasons.YearOf(j.From) - first + 1
		memo[o.ID] = j
		return j
	}
	inSeason := func(o *Operation, age int) Job {
		a, b := c.Seasons.Span(o.Season[0], o.Season[len(o.Season)-1], first+age-1)
		if d := c.Followed(o.Follows, age, a); !d.IsZero() {
			a, b = d.AddDays(o.Follows.Days[0]), d.AddDays(o.Follows.Days[1])
		}
		key := Key(o.ID, age)
		return Job{Key: key, Operation: o, Age: age, From: a, By: b, Done: c.Done[key], NotNeeded: c.Skip[key] != ""}
	}
	out := make([]Job, 0, len(ops)*8)
	for i := range ops {
		o := &ops[i]
		switch ref := at[o.After]; {
		case len(o.Season) > 0:
			o.Ages.Each(c.Life, func(age int) { out = append(out, inSeason(o, age)) })
		case ref != nil && len(ref.Season) > 0: // after each time it is done, from the day that was recorded
			ref.Ages.Each(c.Life, func(age int) {
				out = c.comeBack(out, o, inSeason(ref, age), age, first)
			})
		case o.Repeat != nil:
			after := Job{From: c.Planting}
			if ref != nil {
				after = resolve(ref)
			}
			out = c.comeBack(out, o, after, 0, first)
		default:
			out = append(out, resolve(o))
		}
	}
	order.Stable(out, func(a, b *Job) int {
		if c := a.From.Compare(b.From); c != 0 {
			return c
		}
		return b.steps - a.steps
	})
	return out
}

// Followed is the day recorded of what something planned around a day follows, in its own age year or the one beside it that
// lies nearer; zero where none is recorded.
func (c Calendar) Followed(f *civil.Follows, age int, planned civil.Date) civil.Date {
	if f == nil {
		return civil.Date{}
	}
	for _, a := range []int{age, age - 1, age + 1} {
		if d := c.noted(f.What, a); !d.IsZero() && max(planned.Sub(d), d.Sub(planned)) <= 183+f.Days[0] {
			return d
		}
	}
	return civil.Date{}
}

// through is the last day of a season, the first time it ends on or after a day.
func (c Calendar) through(season string, day civil.Date) civil.Date {
	if season == "" {
		return day
	}
	for y := c.Seasons.YearOf(day) - 1; y <= c.Seasons.YearOf(day)+2; y++ {
		if _, end := c.Seasons.Span(season, season, y); !end.Before(day) {
			return end
		}
	}
	return day
}

// noted is the day something is recorded on in an age year; of harvests at large the latest.
func (c Calendar) noted(what string, age int) civil.Date {
	if what != civil.Harvest {
		return c.Done[Key(what, age)]
	}
	var latest civil.Date
	for n := 1; n <= mostHarvests; n++ {
		latest = civil.Later(latest, c.Done[Key(civil.Harvest+"-"+strconv.Itoa(n), age)])
	}
	return latest
}

// mostHarvests are the harvests a year of a sheet may have.
const mostHarvests = 60

// comeBack adds every time an operation is done after a job: once, or as often as it comes back. age is the year of what it
// follows, 0 where that is done once.
func (c Calendar) comeBack(out []Job, o *Operation, ref Job, age, first int) []Job {
	times, every, until := 1, Offset{}, ""
	if o.Repeat != nil {
		times, every, until = o.Repeat.Times, o.Repeat.Every, o.Repeat.Until
		if times == 0 {
			times = mostTimes
		}
	}
	day := ref.From
	if !ref.Done.IsZero() {
		day = ref.Done
	}
	day = o.Better.From(day, 1)
	last := c.through(until, day)
	for n := 1; n <= times && (until == "" || n == 1 || !day.After(last)); n++ {
		j := Job{Operation: o, From: day, By: day}
		switch {
		case age == 0:
			j.Key = Key(o.ID, n)
		case times == 1:
			j.Key = Key(o.ID, age)
		default:
			j.Key = Key(o.ID, age) + "." + strconv.Itoa(n)
		}
		j.Age, j.Done, j.NotNeeded = c.Seasons.YearOf(day)-first+1, c.Done[j.Key], c.Skip[j.Key] != ""
		out = append(out, j)
		if !j.Done.IsZero() {
			day = j.Done // what is left is counted from what was really done
		}
		day = every.From(day, 1)
	}
	return out
}

// Key names the job of operation id in one age year.
func Key(id string, age int) string {
	return id + "@" + strconv.Itoa(age)
}

// OperationOf is the id of the operation a job of that key is an occurrence of.
func OperationOf(key string) string {
	id, _, _ := strings.Cut(key, "@")
	return id
}

// PlantingWindow is a season in which a crop may be planted.
type PlantingWindow struct {
	Season []string `yaml:"season" json:"season"`
	Rains  []string `yaml:"rains" json:"rains,omitempty"` // the same where the place lives by its rains
	When   string   `yaml:"when" json:"when"`
	Origin string   `yaml:"origin" json:"origin"`
}

// InWindow reports whether d lies in one of the windows.
func (s Seasons) InWindow(d civil.Date, ws []PlantingWindow) bool {
	for _, w := range ws {
		for y := s.YearOf(d) - 1; y <= s.YearOf(d); y++ {
			a, b := s.Span(w.Season[0], w.Season[len(w.Season)-1], y)
			if !d.Before(a) && !d.After(b) {
				return true
			}
		}
	}
	return len(ws) == 0
}

// NextInWindow is the first day on or after d that lies in a window.
func (s Seasons) NextInWindow(d civil.Date, ws []PlantingWindow) civil.Date {
	if s.InWindow(d, ws) {
		return d
	}
	var best civil.Date
	for _, w := range ws {
		for y := s.YearOf(d) - 1; y <= s.YearOf(d)+2; y++ {
			a, _ := s.Span(w.Season[0], w.Season[len(w.Season)-1], y)
			if a.Before(d) {
				continue
			}
			if best.IsZero() || a.Before(best) {
				best = a
			}
		}
	}
	return best
}

// Link is one step of the chain that decides an earliest planting date.
type Link struct {
	Operation *Operation
	Start     civil.Date
	Done      bool
}

// Earliest is the first day planting can happen if every preparation not yet done starts today at
// the earliest, and the chain of operations that decides it, first to last.
func Earliest(ops []Operation, c Calendar, today civil.Date) (civil.Date, []Link) {
	at := make(map[string]*Operation, len(ops))
	for i := range ops {
		at[ops[i].ID] = &ops[i]
	}
	type node struct {
		day   civil.Date
		chain []Link
	}
	memo := map[string]node{}
	var start func(id string) node // earliest start of an operation, or of planting
	start = func(id string) node {
		if n, ok := memo[id]; ok {
			return n
		}
		var n node
		if d := c.Done[id]; id != Planting && !d.IsZero() {
			n.day = d
		} else {
			n.day = today
			for i := range ops {
				o := &ops[i]
				if o.Before != id || c.Skip[o.ID] != "" {
					continue
				}
				p := start(o.ID)
				if c.Done[o.ID].IsZero() {
					p.day = o.Within.Next(c.Seasons, p.day)
				}
				if d := o.Min.From(p.day, 1); d.After(n.day) {
					n.day = d
					n.chain = append(append([]Link{}, p.chain...), Link{o, p.day, !c.Done[o.ID].IsZero()})
				}
			}
		}
		memo[id] = n
		return n
	}
	n := start(Planting)
	return n.day, n.chain
}
