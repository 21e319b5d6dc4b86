package schedule

import (
	"math/rand/v2"
	"testing"
)

// The worked example of method S10: five tasks, a crew of eight and a crew of six.
func TestLevelledWork(t *testing.T) {
	tasks := []Task{
		{ID: "prune", Days: 6, Use: 5, First: 1, Last: 10},
		{ID: "spread", Days: 3, Use: 2, First: 1, Last: 12},
		{ID: "mulch", Days: 4, Use: 4, First: 1, Last: 14, After: []int{1}},
		{ID: "tie", Days: 3, Use: 4, First: 3, Last: 12, After: []int{0}},
		{ID: "fence", Days: 5, Use: 3, First: 2, Last: 20},
	}
	for _, of := range []struct {
		crew       float64
		start, end [5]int
		daily      []float64
	}{
		{8, [5]int{1, 1, 7, 7, 10}, [5]int{6, 3, 10, 9, 14}, []float64{7, 7, 7, 5, 5, 5, 8, 8, 8, 7, 3, 3, 3, 3}},
		{6, [5]int{1, 7, 10, 7, 14}, [5]int{6, 9, 13, 9, 18}, nil},
	} {
		got := Level(tasks, func(int) float64 { return of.crew })
		daily := make([]float64, 20)
		for k, p := range got {
			if p.Start != of.start[k] || p.End != of.end[k] || p.Late {
				t.Errorf("crew %g: %s from day %d to %d, late %v; want %d to %d", of.crew, tasks[k].ID, p.Start, p.End, p.Late, of.start[k], of.end[k])
			}
			for d := p.Start; d <= p.End; d++ {
				daily[d] += tasks[k].Use
			}
		}
		for i, want := range of.daily {
			if daily[i+1] != want {
				t.Errorf("crew %g: day %d asks for %g, want %g", of.crew, i+1, daily[i+1], want)
			}
		}
	}
}

// Whatever is asked for, nothing begins before it can or before what it waits for is done, no day asks for more than the
// crew has but for what somebody fixed, days off are kept free, and what is late is said to be.
func TestLevelKeepsWhatItMust(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	late := 0
	for range 300 {
		n := 1 + r.IntN(12)
		tasks := make([]Task, n)
		for k := range tasks {
			first := r.IntN(20)
			tasks[k] = Task{ID: string(rune('a' + k)), Days: 1 + r.IntN(6), Use: float64(1 + r.IntN(8)), First: first, Last: first + 3 + r.IntN(15)}
			if k > 0 && r.IntN(3) == 0 {
				tasks[k].After = []int{r.IntN(k)}
			}
		}
		off := func(d int) bool { return d%7 >= 5 }
		capacity := func(d int) float64 {
			if off(d) {
				return 0
			}
			return 8
		}
		got := Level(tasks, capacity)
		used := map[int]float64{}
		for k, p := range got {
			if p.Start < tasks[k].First || p.Late != (p.End > tasks[k].Last) || off(p.Start) || off(p.End) {
				t.Fatalf("%+v lies %+v", tasks[k], p)
			}
			worked := 0
			for d := p.Start; d <= p.End; d++ {
				if !off(d) {
					if !p.Late { // what nobody can do in its time holds no days
						used[d] += tasks[k].Use
					}
					worked++
				}
			}
			if worked != tasks[k].Days {
				t.Fatalf("%+v is worked on %d days", tasks[k], worked)
			}
			for _, a := range tasks[k].After {
				if got[a].End >= p.Start {
					t.Fatalf("%+v begins before %+v is done", p, got[a])
				}
			}
			if p.Late {
				late++
			}
		}
		for d, u := range used {
			if u > 8+1e-9 {
				t.Fatalf("day %d asks for %g of 8", d, u)
			}
		}
	}
	if late == 0 {
		t.Error("nothing was ever late: the tasks say little")
	}
	// more than the crew ever has, and a day somebody fixed on a day off, still come to an end
	got := Level([]Task{{ID: "a", Days: 2, Use: 20, First: 0, Last: 5}, {ID: "b", Days: 2, Use: 4, First: 6, Last: 9, Fixed: true}, {ID: "c", Days: 1, Use: 1, After: []int{3}},
		{ID: "d", Days: 1, Use: 1, After: []int{2}}}, func(d int) float64 {
		if d%7 >= 5 {
			return 0
		}
		return 8
	})
	if !got[0].Late || got[1].Start != 6 || got[1].End != 7 || !got[2].Late {
		t.Errorf("%+v", got)
	}
}
