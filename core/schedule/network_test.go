package schedule

import (
	"errors"
	"math/rand/v2"
	"slices"
	"testing"

	"gonum.org/v1/gonum/graph/path"
	"gonum.org/v1/gonum/graph/simple"

	"slowroot/core/civil"
)

// The commuters of Dechter, Meiri and Pearl, Temporal constraint networks, Artificial Intelligence 49 (1991), example 2.1:
// five days and five rules, with the earliest and the latest their shortest-path table prints.
func TestNetworkOfTheCommuters(t *testing.T) {
	n := Network{Days: 5, Rules: []Rule{{0, 1, 10, 20, false}, {1, 2, 30, 40, false}, {3, 2, 10, 20, false}, {3, 4, 40, 50, false}, {0, 4, 60, 70, false}}}
	got, err := n.Solve()
	if err != nil {
		t.Fatal(err)
	}
	if want := []int{0, 10, 40, 20, 60}; !slices.Equal(got.Earliest, want) {
		t.Errorf("earliest %v, want %v", got.Earliest, want)
	}
	if want := []int{0, 20, 50, 30, 70}; !slices.Equal(got.Latest, want) {
		t.Errorf("latest %v, want %v", got.Latest, want)
	}
}

// bedPlan is the worked plan of method S4: an acid-loving bush on beds, planted in a window.
func bedPlan(windowFrom, windowTo string) (n Network, day func(string) int, date func(int) string) {
	o := civil.Must(2027, 1, 1)
	day = func(s string) int {
		d, err := civil.Parse(s)
		if err != nil {
			panic(err)
		}
		return d.Sub(o)
	}
	date = func(n int) string { return o.AddDays(n).String() }
	const soil, amend, order, fumigate, beds, plant = 1, 2, 3, 4, 5, 6
	n = Network{Days: 7, Rules: []Rule{
		{0, soil, day("2027-01-11"), NoMost, true},
		{soil, amend, 21, NoMost, false},
		{amend, plant, 180, NoMost, true},
		{amend, fumigate, 42, NoMost, false},
		{fumigate, beds, 0, 14, false},
		{fumigate, plant, 21, NoMost, true},
		{beds, plant, 7, 60, false},
		{0, order, 0, NoMost, false},
		{order, plant, 150, NoMost, false},
		{0, plant, day(windowFrom), day(windowTo), false},
	}}
	return n, day, date
}

// The worked plan of method S4, to the day; what its spring window asks for is refused with the four rules that bind.
func TestWorkedPlan(t *testing.T) {
	n, _, date := bedPlan("2027-09-01", "2027-10-15")
	got, err := n.Solve()
	if err != nil {
		t.Fatal(err)
	}
	for i, want := range [][2]string{1: {"2027-01-11", "2027-03-28"}, 2: {"2027-02-01", "2027-04-18"}, 3: {"2027-01-01", "2027-05-18"},
		4: {"2027-06-19", "2027-09-24"}, 5: {"2027-07-03", "2027-10-08"}, 6: {"2027-09-01", "2027-10-15"}} {
		if i > 0 && (date(got.Earliest[i]) != want[0] || date(got.Latest[i]) != want[1]) {
			t.Errorf("day %d: %s to %s, want %s to %s", i, date(got.Earliest[i]), date(got.Latest[i]), want[0], want[1])
		}
	}
	if got.BindsEarliest[4] != 4 || got.BindsEarliest[5] != 6 {
		t.Errorf("fumigation and beds are held by rules %d and %d, want the most of both", got.BindsEarliest[4], got.BindsEarliest[5])
	}
	n, _, _ = bedPlan("2027-04-20", "2027-05-31")
	_, err = n.Solve()
	var c *Conflict
	if !errors.As(err, &c) || c.Short != 61 || !slices.Equal(c.Rules, []int{0, 1, 2, 9}) {
		t.Errorf("the spring window: %v, want rules 0, 1, 2 and 9, short by 61 days", c)
	}
}

// What slips moves what follows (method S7): with the soil's result and the amendment as they were, planting keeps 8 days;
// a result on 5 May leaves it 38 days short.
func TestWorkedPlanSlips(t *testing.T) {
	n, day, date := bedPlan("2027-09-01", "2027-10-15")
	n.Rules = append(n.Rules, Rule{0, 1, day("2027-03-10"), day("2027-03-10"), true}, Rule{0, 2, day("2027-04-10"), day("2027-04-10"), true})
	got, err := n.Solve()
	if err != nil {
		t.Fatal(err)
	}
	if date(got.Earliest[6]) != "2027-10-07" || got.Latest[6]-got.Earliest[6] != 8 || date(got.Earliest[4]) != "2027-07-25" || got.Latest[5]-got.Earliest[5] != 61 {
		t.Errorf("planting %s, fumigation %s", date(got.Earliest[6]), date(got.Earliest[4]))
	}
	n.Rules = append(n.Rules[:10], Rule{0, 1, day("2027-05-05"), day("2027-05-05"), true})
	_, err = n.Solve()
	var c *Conflict
	if !errors.As(err, &c) || c.Short != 38 {
		t.Errorf("%v, want short by 38 days", err)
	}
}

// random is a network with rules between n days, most of them loose.
func random(r *rand.Rand, days, rules int) Network {
	n := Network{Days: days}
	for range rules {
		a, b := r.IntN(days), r.IntN(days)
		if a == b {
			continue
		}
		lo := r.IntN(9) - 4
		rule := Rule{From: a, To: b, Least: lo, Most: lo + r.IntN(6)}
		if r.IntN(3) == 0 {
			rule.Most = NoMost
		}
		n.Rules = append(n.Rules, rule)
	}
	return n
}

// On small networks every assignment of days is tried: what is solved is exactly what can be, and of what is refused the
// rules that are named cannot be kept together while any but one of them can.
func TestNetworkAgainstEveryAssignment(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 13))
	const reach = 14
	solved, refused := 0, 0
	for range 600 {
		n := random(r, 2+r.IntN(3), 1+r.IntN(6))
		keeps := func(rules []Rule) (any bool, lo, hi []int) {
			x := make([]int, n.Days)
			lo, hi = make([]int, n.Days), make([]int, n.Days)
			for i := range lo {
				lo[i], hi[i] = reach+1, -reach-1
			}
			var try func(i int)
			try = func(i int) {
				if i == n.Days {
					for _, c := range rules {
						if d := x[c.To] - x[c.From]; d < c.Least || d > c.Most {
							return
						}
					}
					any = true
					for k, v := range x {
						lo[k], hi[k] = min(lo[k], v), max(hi[k], v)
					}
					return
				}
				for v := -reach; v <= reach; v++ {
					x[i] = v
					try(i + 1)
				}
			}
			try(1)
			return any, lo, hi
		}
		any, lo, hi := keeps(n.Rules)
		got, err := n.Solve()
		if any != (err == nil) {
			t.Fatalf("%+v: %v, trying says %v", n, err, any)
		}
		if err != nil {
			refused++
			var c *Conflict
			errors.As(err, &c)
			pick := func(leave int) (out []Rule) {
				for i, k := range c.Rules {
					if i != leave {
						out = append(out, n.Rules[k])
					}
				}
				return out
			}
			if ok, _, _ := keeps(pick(-1)); ok || c.Short <= 0 {
				t.Fatalf("%+v: %v can all be kept", n, c.Rules)
			}
			for i := range c.Rules {
				if ok, _, _ := keeps(pick(i)); !ok && !slices.Contains(append(c.Rules[:i:i], c.Rules[i+1:]...), c.Rules[i]) {
					t.Fatalf("%+v: %v cannot be kept without rule %d either", n, c.Rules, c.Rules[i])
				}
			}
			continue
		}
		solved++
		for i := range got.Earliest {
			if e := got.Earliest[i]; e > -reach/2 && e != lo[i] || e == NoLeast && lo[i] > -reach/2 {
				t.Fatalf("%+v: day %d earliest %d, trying says %d", n, i, e, lo[i])
			}
			if l := got.Latest[i]; l < reach/2 && l != hi[i] || l == NoMost && hi[i] < reach/2 {
				t.Fatalf("%+v: day %d latest %d, trying says %d", n, i, l, hi[i])
			}
		}
	}
	if solved < 100 || refused < 100 {
		t.Errorf("%d solved and %d refused: the networks say little", solved, refused)
	}
}

// On large networks the latest days are the shortest paths another library finds, and a network it calls impossible is refused.
func TestNetworkAgainstAShortestPathLibrary(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 5))
	solved := 0
	for range 40 {
		n := random(r, 120, 80+r.IntN(60))
		g := simple.NewWeightedDirectedGraph(0, 1e18)
		for i := range n.Days {
			g.AddNode(simple.Node(i))
		}
		for _, e := range n.edges() {
			if w, ok := g.Weight(int64(e.from), int64(e.to)); !ok || float64(e.days) < w {
				g.SetWeightedEdge(simple.WeightedEdge{F: simple.Node(e.from), T: simple.Node(e.to), W: float64(e.days)})
			}
		}
		all, ok := path.FloydWarshall(g)
		got, err := n.Solve()
		if ok != (err == nil) {
			t.Fatalf("the library says %v, the network %v", ok, err)
		}
		if err != nil {
			continue
		}
		solved++
		for i := range n.Days {
			if w := all.Weight(0, int64(i)); w < 1e17 && int(w) != got.Latest[i] {
				t.Fatalf("day %d latest %d, the library says %g", i, got.Latest[i], w)
			}
			if w := all.Weight(int64(i), 0); w < 1e17 && int(-w) != got.Earliest[i] {
				t.Fatalf("day %d earliest %d, the library says %g", i, got.Earliest[i], -w)
			}
		}
	}
	if solved < 5 {
		t.Errorf("%d of 40 networks could be solved: they say little", solved)
	}
}

// BenchmarkNetworkOfAnEstate is 200 blocks with 100 jobs each, bound as preparations are.
func BenchmarkNetworkOfAnEstate(b *testing.B) {
	n := Network{Days: 1 + 200*100}
	for k := range 200 {
		plant := 1 + k*100
		n.Rules = append(n.Rules, Rule{0, plant, 700, 760, false})
		for i := 1; i < 100; i++ {
			to := plant
			if i > 10 {
				to = plant + i - 10
			}
			n.Rules = append(n.Rules, Rule{plant + i, to, 14, NoMost, false}, Rule{0, plant + i, 0, NoMost, true})
		}
	}
	for b.Loop() {
		if _, err := n.Solve(); err != nil {
			b.Fatal(err)
		}
	}
}
