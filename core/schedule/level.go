package schedule

import "sort"

// Task is work to be placed: so many days on which it takes Use of what a crew has a day, from its first day to its last.
// A day on which a crew has less stands idle for it, and the task goes on after it.
type Task struct {
	ID          string
	Days        int
	Use         float64
	First, Last int   // day it can be begun, and day it has to be finished
	After       []int // tasks that have to be finished before
	Fixed       bool  // somebody said its day: it is begun on First, whatever that asks
}

// Placed is where a task came to lie. Late tells that it is finished after its last day.
type Placed struct {
	Start, End int
	Late       bool
}

// horizon is how far beyond the last day of any task is looked, days.
const horizon = 3700

// fitting are the days a task takes when it is begun on a day; nil where the crew has too little on one of them. Days off
// are left out, but the first: work is begun on a day the crew works. With force what a day has does not matter.
func fitting(t Task, start int, capacity func(int) float64, used map[int]float64, force bool) []int {
	days := make([]int, 0, t.Days)
	for d := start; len(days) < t.Days; d++ {
		has := capacity(d)
		switch {
		case force && (d == start || has > 0 || d > start+horizon):
		case has <= 0 && d > start:
			continue
		case has-used[d] < t.Use-1e-9:
			return nil
		}
		days = append(days, d)
	}
	return days
}

// Level places tasks one after another, each on the first day from which the crew has enough: the one with the least last
// day first, then the one that can begin first, then by id, once what it waits for is placed (serial schedule generation,
// method S10: Kelley 1963; Kolisch, European Journal of Operational Research 90, 1996). It is a good rule, not the best
// there can be. What cannot be done in its time is late and holds no days, but what is late already, its last day before its first, does. capacity
// is what the crew has on a day.
func Level(tasks []Task, capacity func(day int) float64) []Placed {
	out, placed := make([]Placed, len(tasks)), make([]bool, len(tasks))
	used := map[int]float64{}
	put := func(k, from int, force bool) {
		t := tasks[k]
		if t.Days < 1 {
			out[k] = Placed{Start: from, End: from, Late: from > t.Last}
			placed[k] = true
			return
		}
		for start := from; ; start++ {
			days := fitting(t, start, capacity, used, force || start-from > horizon)
			if days == nil {
				continue
			}
			end := days[len(days)-1]
			out[k] = Placed{Start: start, End: end, Late: end > t.Last}
			// What nobody can do in its time holds no days: else it would push everything after it out of its time too.
			if !out[k].Late || force || t.Last < t.First {
				for _, d := range days {
					used[d] += t.Use
				}
			}
			placed[k] = true
			return
		}
	}
	for k, t := range tasks {
		if t.Fixed {
			put(k, t.First, true)
		}
	}
	for range tasks {
		var ready []int
		for k, t := range tasks {
			free := !placed[k]
			for _, a := range t.After {
				free = free && placed[a]
			}
			if free {
				ready = append(ready, k)
			}
		}
		if len(ready) == 0 {
			break
		}
		sort.SliceStable(ready, func(i, j int) bool {
			a, b := tasks[ready[i]], tasks[ready[j]]
			if a.Last != b.Last {
				return a.Last < b.Last
			}
			if a.First != b.First {
				return a.First < b.First
			}
			return a.ID < b.ID
		})
		k := ready[0]
		from := tasks[k].First
		for _, a := range tasks[k].After {
			from = max(from, out[a].End+1)
		}
		put(k, from, false)
	}
	for k, t := range tasks { // what waits in a ring is left where it can begin
		if !placed[k] {
			out[k] = Placed{Start: t.First, End: t.First + max(0, t.Days-1), Late: true}
		}
	}
	return out
}
