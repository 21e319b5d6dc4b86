package estate

import (
	"context"
	"fmt"
	"maps"
	"math"
	"sort"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/internal/store"
)

// LevelMove is a job that is to be done on another day.
type LevelMove struct {
	Block     string     `json:"block"`
	BlockName string     `json:"blockName"`
	Key       string     `json:"key"`
	Name      string     `json:"name"`
	Crew      string     `json:"crew"` // its name
	Hours     float64    `json:"hours"`
	Was       civil.Date `json:"was"`
	Day       civil.Date `json:"day"`
	Until     civil.Date `json:"until"` // the day it is done
	Last      civil.Date `json:"last"`  // the day it has to be done
}

// Levelled is the work of a span put on days the crews can do it on.
type Levelled struct {
	Moves   []LevelMove `json:"moves"`
	Late    []LevelMove `json:"late"`    // what cannot be done in its time by the people there are
	Words   []string    `json:"words"`   // why, one sentence each
	Unknown int         `json:"unknown"` // jobs of which no hours are known: they are not placed
	Nobody  int         `json:"nobody"`  // jobs of a kind no crew is there for
	Said    int         `json:"said"`    // jobs whose day a person said: they stay
}

// levelTask is a job on its way through levelling.
type levelTask struct {
	job  EstateJob
	task schedule.Task
	crew document.Crew
}

// Level puts the jobs of a span on days on which their crews have the hours, inside the time each has. It changes nothing.
// Crews that were not named have no hours to go by: a *finding.FieldError.
func (s *Service) Level(ctx context.Context, from, to civil.Date) (Levelled, error) {
	e, list, err := s.open(ctx, from, to)
	if err != nil {
		return Levelled{}, err
	}
	if len(e.Crews) == 0 {
		return Levelled{}, finding.Bad("crews", "none", "are named: nobody knows how much can be done on a day",
			"a crew with people, hours a day and days a week")
	}
	out := Levelled{Moves: []LevelMove{}, Late: []LevelMove{}, Words: []string{}}
	byCrew := make([][]levelTask, len(e.Crews))
	for _, j := range list {
		h := stillToDo(j.Job, from)
		if h == nil || *h <= 0 {
			out.Unknown++
			continue
		}
		if j.Job.Phase == "harvest" && j.Job.By.Before(from) {
			out.Words = append(out.Words, fmt.Sprintf("“%s” on %s was over by %s and nothing is recorded of it: it is not planned again.", j.Job.Name,
				j.BlockName,
				j.Job.By.Words()))
			continue
		}
		k := crewOf(e.Crews, j)
		if k < 0 {
			out.Nobody++
			continue
		}
		t := taskOf(j, *h, e.Crews[k], from)
		if t.task.Fixed {
			out.Said++
		}
		byCrew[k] = append(byCrew[k], t)
	}
	for k, tasks := range byCrew {
		waits, err := s.waits(ctx, tasks)
		if err != nil {
			return Levelled{}, err
		}
		all := make([]schedule.Task, len(tasks))
		for i := range tasks {
			all[i] = tasks[i].task
			all[i].After = waits[i]
		}
		placed := schedule.Level(all, capacity(e.Crews[k], from))
		for i, p := range placed {
			out.add(e, tasks[i], p, from)
		}
	}
	order := func(m []LevelMove) {
		sort.SliceStable(m, func(i, j int) bool { return m[i].Day.Before(m[j].Day) })
	}
	order(out.Moves)
	order(out.Late)
	return out, nil
}

// stillToDo is the hours a job asks for from a day on: less what is recorded as done, and of work in rounds those that are still to come. nil is
// not known.
func stillToDo(j report.Job, from civil.Date) *float64 {
	if j.Hours == nil {
		return nil
	}
	h := *j.Hours * (1 - j.Share)
	if days := j.By.Sub(j.From) + 1; j.Rounds > 1 && j.From.Before(from) && days > 1 {
		left := math.Ceil(float64(j.Rounds) * math.Max(0, float64(j.By.Sub(from)+1)) / float64(days))
		h = math.Min(h, *j.Hours*math.Max(1, left)/float64(j.Rounds))
	}
	return &h
}

// capacity is the hours a crew has on a day counted from the first: none on its days off, at the end of the week.
func capacity(c document.Crew, from civil.Date) func(int) float64 {
	return func(d int) float64 {
		_, _, weekday := from.AddDays(d).ISOWeek()
		part := math.Min(1, math.Max(0, c.DaysWeek-float64(weekday-1))) // half days work half
		return c.People * c.HoursDay * part
	}
}

// taskOf is a job as it is placed: whole days of the crew, as many as its hours fill. What is late is to be begun at once.
func taskOf(j EstateJob, hours float64, c document.Crew, from civil.Date) levelTask {
	day := c.People * c.HoursDay
	if j.Job.Machine && !c.Machine { // one of the crew drives it
		day = math.Min(1, c.People) * c.HoursDay
	}
	n := max(1, int(math.Min(3650, math.Ceil(hours/day-1e-9)))) // ten years of one job are late whatever is done
	t := schedule.Task{ID: j.BlockName + " " + j.Job.Key, Days: n, Use: hours / float64(n), First: max(0, j.Job.From.Sub(from)),
		Last: j.Job.By.Sub(from)}
	if j.Job.Preparation { // its last day is the one it is begun on at the latest
		t.Last += int(math.Ceil(float64(n)*7/c.DaysWeek)) - 1
	}
	if d := j.Job.Planned; !d.IsZero() && j.Job.Slack != nil && *j.Job.Slack >= 0 {
		t.First = max(0, min(t.First, d.Sub(from)))
	}
	if j.Job.By == j.Job.From { // the rule gives one day: the week it lies in has to do
		t.Last += 6
	}
	if d := j.Job.On; !d.IsZero() {
		t.First, t.Fixed = max(0, d.Sub(from)), true
	}
	t.Last = max(t.Last, -1)
	return levelTask{j, t, c}
}

// waits are the tasks each task waits for among its block's own.
func (s *Service) waits(ctx context.Context, tasks []levelTask) ([][]int, error) {
	at := map[string]int{}
	for i, t := range tasks {
		at[t.job.Block+" "+t.job.Job.Key] = i
	}
	out, plans := make([][]int, len(tasks)), map[string]map[string][]string{}
	for i, t := range tasks {
		ties, ok := plans[t.job.Block]
		if !ok {
			p, err := s.Plan(ctx, t.job.Block)
			if err != nil {
				return nil, err
			}
			ties = map[string][]string{}
			for _, j := range p.Network.Jobs {
				for _, w := range j.Waits {
					ties[j.Key] = append(ties[j.Key], w.Key)
				}
			}
			plans[t.job.Block] = ties
		}
		for _, key := range ties[t.job.Job.Key] {
			if k, ok := at[t.job.Block+" "+key]; ok && k != i {
				out[i] = append(out[i], k)
			}
		}
	}
	return out, nil
}

// add tells where a job came to lie: moved, or late whatever is done.
func (out *Levelled) add(e document.Estate, t levelTask, p schedule.Placed, from civil.Date) {
	j := t.job.Job
	was := j.On
	if was.IsZero() {
		was = civil.Later(j.From, from)
	}
	m := LevelMove{Block: t.job.Block, BlockName: t.job.BlockName, Key: j.Key, Name: j.Name, Crew: t.crew.Name,
		Hours: t.task.Use * float64(t.task.Days), Was: was,
		Day: from.AddDays(p.Start), Until: from.AddDays(p.End), Last: from.AddDays(t.task.Last)}
	overdue := j.By.Before(from) // what is late already is done as soon as there are hours for it
	if p.Late && !overdue {      // it stays where it is: nobody can do it there, and that is said
		out.Late = append(out.Late, m)
		out.Words = append(out.Words, fmt.Sprintf("“%s” on %s asks for %s of %s; with what else there is it is done on %s, %d days after its last "+
			"day, %s.", j.Name,
			t.job.BlockName, units.Text(m.Hours, units.Hours, e.Units), t.crew.Name, m.Until.Words(), m.Until.Sub(m.Last), m.Last.Words()))
		return
	}
	if !t.task.Fixed && p.Start < 3650 && (m.Day != was || j.By.After(m.Until)) { // one that could lie later is held where it is
		out.Moves = append(out.Moves, m)
	}
}

// KeepLevel puts the jobs that levelling moves on their days: one change, over all blocks, which one undo takes back.
func (s *Service) KeepLevel(ctx context.Context, who string, from, to civil.Date) (Levelled, error) {
	l, err := s.Level(ctx, from, to)
	if err != nil || len(l.Moves) == 0 {
		return l, err
	}
	byBlock := map[string]map[string]civil.Date{}
	for _, m := range l.Moves {
		if byBlock[m.Block] == nil {
			byBlock[m.Block] = map[string]civil.Date{}
		}
		byBlock[m.Block][m.Key] = m.Day
	}
	docs, err := s.blocks(ctx)
	if err != nil {
		return l, err
	}
	var writes []store.Write
	for _, d := range docs {
		days := byBlock[d.ID]
		if days == nil {
			continue
		}
		b := d.Block
		if b.Planting != nil {
			p := *b.Planting
			p.Days = maps.Clone(p.Days)
			if p.Days == nil {
				p.Days = map[string]civil.Date{}
			}
			maps.Copy(p.Days, days)
			b.Planting = &p
		}
		if err := b.Valid(); err != nil {
			return l, err
		}
		w, err := d.writes(b)
		if err != nil {
			return l, err
		}
		writes = append(writes, w...)
	}
	what := fmt.Sprintf("Levelled the work: %d jobs on other days", len(l.Moves))
	if len(l.Moves) == 1 {
		what = "Levelled the work: one job on another day"
	}
	_, err = s.store.Apply(ctx, who, what, writes...)
	return l, err
}
