package schedule

import (
	"fmt"
	"math"
	"slices"
)

// None is no limit: the least or the most of a Rule that has none.
const (
	NoLeast = math.MinInt32
	NoMost  = math.MaxInt32
)

// Origin is the fixed day every other day of a network is counted from.
const Origin = 0

// Rule binds two days of a network: Least ≤ day of To − day of From ≤ Most, in days. Hard tells that nothing on the farm
// can move it: a day that has been, a law, a label, biology.
type Rule struct {
	From, To    int
	Least, Most int
	Hard        bool
}

// Network is a simple temporal problem: days bound to one another by least and most separations (method S3; Dechter, Meiri
// and Pearl, Temporal constraint networks, Artificial Intelligence 49, 1991). Day 0 is the Origin.
type Network struct {
	Days  int // how many, the origin with them
	Rules []Rule
}

// Times is when each day of a network can be, counted from the origin. What binds a day is the rule that holds it at its
// earliest or its latest, −1 where none does. Free is set where nothing bounds it.
type Times struct {
	Earliest, Latest           []int
	BindsEarliest, BindsLatest []int
}

// Conflict is a set of rules that cannot all be kept, and from which none can be left out: they go round from day to day,
// and lack Short days. Rules are in the order of time, from the
// origin where it is among their days.
type Conflict struct {
	Rules []int
	Short int
}

func (c *Conflict) Error() string {
	return fmt.Sprintf("%d rules cannot all be kept, they lack %d days", len(c.Rules), c.Short)
}

// edge says that day `to` is at most so many days after day `from`.
type edge struct{ from, to, days, rule int }

// edges are the rules as upper bounds of one day over another, in the order of the rules.
func (n *Network) edges() []edge {
	out := make([]edge, 0, 2*len(n.Rules))
	for i, r := range n.Rules {
		if r.Most != NoMost {
			out = append(out, edge{r.From, r.To, r.Most, i})
		}
		if r.Least != NoLeast {
			out = append(out, edge{r.To, r.From, -r.Least, i})
		}
	}
	return out
}

// Solve is the earliest and the latest of every day, or a *Conflict. Each of the two is a schedule that keeps every rule.
// An error of another kind names a rule between days there are not.
func (n *Network) Solve() (Times, error) {
	for i, r := range n.Rules {
		if r.From < 0 || r.From >= n.Days || r.To < 0 || r.To >= n.Days || r.From == r.To || r.Least > r.Most {
			return Times{}, fmt.Errorf("rule %d binds day %d to day %d by %d to %d days: there are %d days, and the least is not above the most",
				i, r.From, r.To, r.Least, r.Most, n.Days)
		}
	}
	edges := n.edges()
	anywhere := newWays(n.Days, edges)
	for i := range anywhere.days {
		anywhere.reach(i)
	}
	if at := anywhere.shorten(); at >= 0 {
		return Times{}, anywhere.round(at)
	}
	out := newWays(n.Days, edges)
	out.reach(Origin)
	out.shorten()
	for i, e := range edges {
		edges[i].from, edges[i].to = e.to, e.from
	}
	back := newWays(n.Days, edges)
	back.reach(Origin)
	back.shorten()
	t := Times{Latest: out.days, BindsLatest: out.rules(), Earliest: back.days, BindsEarliest: back.rules()}
	for i, d := range t.Earliest {
		t.Earliest[i] = -d
		if d == NoMost {
			t.Earliest[i] = NoLeast
		}
	}
	return t, nil
}

// ways are the shortest ways to every day by Bellman and Ford, with a queue of the days that changed.
type ways struct {
	edges       []edge
	first, next []int // edges by the day they start from
	days        []int // how long the shortest way known is
	by          []int // the edge it ends with, −1 for none
	length      []int // how many edges it has
	queue       []int
	waits       []bool
}

func newWays(days int, edges []edge) *ways {
	w := &ways{edges: edges, first: make([]int, days), next: make([]int, len(edges)), days: make([]int, days), by: make([]int, days),
		length: make([]int, days), waits: make([]bool, days)}
	for i := range days {
		w.first[i], w.days[i], w.by[i] = -1, NoMost, -1
	}
	for k := len(edges) - 1; k >= 0; k-- {
		a := edges[k].from
		w.next[k], w.first[a] = w.first[a], k
	}
	return w
}

// reach begins a way at a day.
func (w *ways) reach(day int) {
	w.days[day], w.waits[day] = 0, true
	w.queue = append(w.queue, day)
}

// shorten shortens the ways until none can be. A way with as many edges as there are days goes round: the day it was seen
// at, else −1.
func (w *ways) shorten() int {
	for head := 0; head < len(w.queue); head++ {
		a := w.queue[head]
		w.waits[a] = false
		for k := w.first[a]; k >= 0; k = w.next[k] {
			b := w.edges[k].to
			v := w.days[a] + w.edges[k].days
			if v >= w.days[b] {
				continue
			}
			w.days[b], w.by[b], w.length[b] = v, k, w.length[a]+1
			if w.length[b] >= len(w.days) {
				return b
			}
			if !w.waits[b] {
				w.waits[b] = true
				w.queue = append(w.queue, b)
			}
		}
	}
	return -1
}

// rules are the rules the ways end with.
func (w *ways) rules() []int {
	out := make([]int, len(w.by))
	for i, k := range w.by {
		out[i] = -1
		if k >= 0 {
			out[i] = w.edges[k].rule
		}
	}
	return out
}

// round follows the way to a day back until it comes round, and says which rules that are, in the order of time from the
// origin where it is among their days.
func (w *ways) round(at int) *Conflict {
	seen := map[int]bool{}
	for !seen[at] {
		seen[at] = true
		at = w.edges[w.by[at]].from
	}
	c := &Conflict{}
	starts := 0
	for day := at; len(c.Rules) == 0 || day != at; {
		e := w.edges[w.by[day]]
		c.Short -= e.days
		c.Rules = append(c.Rules, e.rule)
		if day = e.from; day == Origin {
			starts = len(c.Rules)
		}
	}
	c.Rules = slices.Concat(c.Rules[starts:], c.Rules[:starts])
	return c
}
