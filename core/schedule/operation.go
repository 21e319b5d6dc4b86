package schedule

import (
	"errors"
	"fmt"
	"strconv"
	"strings"

	"slowroot/core/civil"
)

// Offset is a length of calendar time, written "12 mo", "6 wk", "14 d" or "2 yr". The zero Offset
// is no time at all.
type Offset struct {
	N    int
	Unit string
}

// ParseOffset reads "6 mo"; a missing unit is an error, never a guess.
func ParseOffset(s string) (Offset, error) {
	n, u, ok := strings.Cut(strings.TrimSpace(s), " ")
	v, err := strconv.Atoi(n)
	if !ok || err != nil || v < 0 || v > 3650 {
		return Offset{}, fmt.Errorf("%q is not a length of time such as 14 d, 6 wk, 12 mo or 2 yr", s)
	}
	switch u {
	case "d", "wk", "mo", "yr":
		return Offset{v, u}, nil
	}
	return Offset{}, fmt.Errorf("%q: unit %q is not d, wk, mo or yr", s, u)
}

// UnmarshalText and MarshalText read and write the form above; an empty text is the zero Offset.
func (o *Offset) UnmarshalText(b []byte) error {
	if len(b) == 0 {
		*o = Offset{}
		return nil
	}
	v, err := ParseOffset(string(b))
	if err == nil {
		*o = v
	}
	return err
}
func (o Offset) MarshalText() ([]byte, error) {
	if o.IsZero() {
		return nil, nil
	}
	return []byte(o.String()), nil
}

// IsZero reports no time.
func (o Offset) IsZero() bool { return o.N == 0 }

// String is the form ParseOffset reads.
func (o Offset) String() string { return fmt.Sprintf("%d %s", o.N, o.Unit) }

// Words is "6 months".
func (o Offset) Words() string {
	name := map[string]string{"d": "day", "wk": "week", "mo": "month", "yr": "year"}[o.Unit]
	if name == "" {
		return "no time"
	}
	if o.N != 1 {
		name += "s"
	}
	return fmt.Sprintf("%d %s", o.N, name)
}

// From is the date o after d, or before it with sign −1.
func (o Offset) From(d civil.Date, sign int) civil.Date {
	switch o.Unit {
	case "wk":
		return d.AddDays(7 * sign * o.N)
	case "mo":
		return d.AddMonths(sign * o.N)
	case "yr":
		return d.AddMonths(12 * sign * o.N)
	}
	return d.AddDays(sign * o.N)
}

// Planting is the anchor name of the planting itself.
const Planting = "planting"

// Operation is a piece of work and the rule that dates it. Exactly one anchor is set: Before or
// After (planting, or another operation's id) with a lead or lag; or a season in each age year of
// Ages.
type Operation struct {
	ID      string         `yaml:"id" json:"id"`
	Name    string         `yaml:"name" json:"name"`
	Phase   string         `yaml:"phase" json:"phase"`
	Detail  string         `yaml:"detail" json:"detail"` // depth, amount, height: what is done
	Why     string         `yaml:"why" json:"why"`
	Caution string         `yaml:"caution" json:"caution"`
	Before  string         `yaml:"before" json:"before"`
	After   string         `yaml:"after" json:"after"`
	Better  Offset         `yaml:"better" json:"better"`           // the lead or lag that is wanted
	Min     Offset         `yaml:"min" json:"min"`                 // the least that works
	Repeat  *Repeat        `yaml:"repeat" json:"repeat,omitempty"` // it comes back after its first time; only with After
	Season  []string       `yaml:"season" json:"season"`           // one key, or the first and the last
	Rains   []string       `yaml:"rains" json:"rains,omitempty"`   // the same where the place lives by its rains; else as the sheet turns its seasons
	Ages    Ages           `yaml:"ages" json:"ages"`
	Follows *civil.Follows `yaml:"follows" json:"follows,omitempty"` // only with Season
	Hours   *Hours         `yaml:"hours" json:"hours,omitempty"`     // it takes a hectare; nil is not known
	Else    []Hours        `yaml:"else" json:"else,omitempty"`       // done another way, each with its By
	Cond    *Condition     `yaml:"cond" json:"cond,omitempty"`       // it waits for within its time; nil is none
	Within  *Within        `yaml:"within" json:"within,omitempty"`   // only with Before
	Origin  string         `yaml:"origin" json:"origin"`
}

// follows reports a rule of what it follows that cannot be.
func (o *Operation) follows() error {
	f := o.Follows
	if f == nil {
		return nil
	}
	if len(o.Season) == 0 || f.What == o.ID {
		return fmt.Errorf("what is recorded of another moves only work that has a season")
	}
	return f.Check()
}

// Condition is what work waits for within its time, seen on the ground by a person; where it is not so yet, it is looked at again after a while.
type Condition struct {
	Says  string `yaml:"says" json:"says"`
	Again Offset `yaml:"again" json:"again"`
}

// Hours is how long work takes a hectare, a person's hours or a machine's with its driver, each round of it.
type Hours struct {
	By      string  `yaml:"by" json:"by,omitempty"` // how it is done; "" where there is one way
	Low     float64 `yaml:"low" json:"low"`
	Base    float64 `yaml:"base" json:"base,omitempty"` // 0 is halfway between the least and the most
	High    float64 `yaml:"high" json:"high"`
	Rounds  int     `yaml:"rounds" json:"rounds,omitempty"` // each time it is done; 0 is one, or as Every says
	Every   Offset  `yaml:"every" json:"every,omitzero"`    // a round comes, from the first to the last day it is done
	Machine bool    `yaml:"machine" json:"machine,omitempty"`
	Origin  string  `yaml:"origin" json:"origin,omitempty"` // "" is from memory
}

// HoursBy are the hours of the way work is done: that named, else the first.
func (o *Operation) HoursBy(way string) *Hours {
	for i := range o.Else {
		if o.Else[i].By == way && way != "" {
			return &o.Else[i]
		}
	}
	return o.Hours
}

// Ways are how work can be done, the usual first; none where there is one way.
func (o *Operation) Ways() []string {
	if len(o.Else) == 0 || o.Hours == nil {
		return nil
	}
	out := []string{o.Hours.By}
	for _, h := range o.Else {
		out = append(out, h.By)
	}
	return out
}

// hoursSound reports hours that cannot be, or ways without a name of their own.
func (o *Operation) hoursSound() bool {
	if o.Hours == nil {
		return len(o.Else) == 0
	}
	ok, known := o.Hours.sound(), map[string]bool{}
	for _, h := range o.Else {
		ok = ok && h.sound()
	}
	for _, w := range o.Ways() {
		ok = ok && w != "" && !known[w]
		known[w] = true
	}
	return ok
}

// Usual is the hours to reckon with.
func (h Hours) Usual() float64 {
	if h.Base > 0 {
		return h.Base
	}
	return (h.Low + h.High) / 2
}

// Times is how many rounds are done between two days: those said, or one every so long, the first on the first day.
func (h Hours) Times(from, by civil.Date) int {
	if h.Every.IsZero() {
		return max(1, h.Rounds)
	}
	n := 0
	for d := from; !d.After(by) && n < mostTimes; d = h.Every.From(d, 1) {
		n++
	}
	return max(1, n)
}

// sound reports hours that rise and rounds that are done some times.
func (h Hours) sound() bool {
	rise := h.Low >= 0 && h.High > 0 && h.Low <= h.High && h.High <= 5000 && (h.Base == 0 || h.Base >= h.Low && h.Base <= h.High)
	return rise && h.Rounds >= 0 && h.Rounds <= mostTimes && (h.Rounds == 0 || h.Every.IsZero()) && h.Every.N >= 0
}

// Repeat is work that comes back: every so long, so many times in all, or until the season Until has passed, whichever is sooner.
type Repeat struct {
	Every Offset `yaml:"every" json:"every"`
	Times int    `yaml:"times" json:"times"`
	Until string `yaml:"until" json:"until,omitempty"` // a season; "" for none
}

// sound reports work that comes back after some time, and ends.
func (r Repeat) sound(season map[string]bool) bool {
	ends := r.Times >= 2 && r.Times <= mostTimes || r.Times == 0 && r.Until != ""
	return !r.Every.IsZero() && ends && (r.Until == "" || season[r.Until])
}

// mostTimes is how often work comes back at most.
const mostTimes = 60

// Ages says in which age years an operation in a season is done: From, then every Every years to
// To. To 0 means to the end of life, Every 0 means every year.
type Ages struct {
	From  int `yaml:"from" json:"from"`
	To    int `yaml:"to" json:"to"`
	Every int `yaml:"every" json:"every"`
}

// Each calls f with every age year up to life.
func (a Ages) Each(life int, f func(age int)) {
	to, step := a.To, max(1, a.Every)
	if to == 0 || to > life {
		to = life
	}
	for age := a.From; age <= to; age += step {
		f(age)
	}
}

// Phases in the order the work is done.
var Phases = []string{"assess", "order", "clear", "soil", "drain", "bed", "infrastructure", "plant", "establish", "care", "prune", "feed", "harvest", "renew"}

// Check reports what is wrong with a set of operations: an unknown phase or season, no anchor or
// two, an anchor that does not resolve, a loop, or a least lead longer than the wanted one.
func Check(ops []Operation) error {
	at := map[string]*Operation{}
	known := map[string]bool{}
	for _, k := range append(append([]string{}, Keys...), RainKeys...) {
		known[k] = true
	}
	phases := map[string]bool{}
	for _, p := range Phases {
		phases[p] = true
	}
	for i := range ops {
		if ops[i].ID == "" || at[ops[i].ID] != nil {
			return fmt.Errorf("operation %d: id %q is empty or used twice", i+1, ops[i].ID)
		}
		at[ops[i].ID] = &ops[i]
	}
	for i := range ops {
		o := &ops[i]
		fail := func(format string, a ...any) error {
			return fmt.Errorf("operation %s: %s", o.ID, fmt.Sprintf(format, a...))
		}
		n := 0
		for _, set := range []bool{o.Before != "", o.After != "", len(o.Season) > 0} {
			if set {
				n++
			}
		}
		switch {
		case o.Name == "":
			return fail("has no name")
		case !phases[o.Phase]:
			return fail("phase %q is not one of %s", o.Phase, strings.Join(Phases, ", "))
		case n != 1:
			return fail("needs exactly one of before, after or season, has %d", n)
		case len(o.Season) > 2:
			return fail("a season is one key or two")
		case o.Origin == "":
			return fail("has no origin")
		}
		for _, k := range append(append([]string{}, o.Season...), o.Rains...) {
			if !known[k] {
				return fail("season %q is not one of %s", k, strings.Join(Keys, ", "))
			}
		}
		if c := o.Cond; c != nil && (c.Says == "" || c.Again.IsZero() || c.Again.N < 0) {
			return fail("a condition says what is waited for, and after how long it is looked at again")
		}
		if err := errors.Join(o.follows(), o.Within.check(o.Before, known)); err != nil {
			return fail("%v", err)
		}
		if p := o.Repeat; p != nil && (o.After == "" || !p.sound(known)) {
			return fail("what comes back is done after something, every so long, 2 to %d times or until a season that is known", mostTimes)
		}
		if !o.hoursSound() {
			return fail("hours a hectare rise from low over base to high, at most 5 000, with rounds or a time between them; each other way has a name")
		}
		ref := o.Before + o.After
		if ref != "" && ref != Planting && at[ref] == nil {
			return fail("anchor %q does not resolve to an operation", ref)
		}
		day := civil.Must(2027, 1, 1)
		if o.Before != "" && o.Min.From(day, 1).After(o.Better.From(day, 1)) {
			return fail("the least lead %s is longer than the wanted %s", o.Min.Words(), o.Better.Words())
		}
		for seen, r := 0, o; r != nil && r.Before+r.After != Planting && r.Before+r.After != ""; seen++ {
			if seen > len(ops) {
				return fail("its anchors form a loop")
			}
			r = at[r.Before+r.After]
			if r != nil && len(r.Season) > 0 {
				if o.Before != "" || r.ID != o.After {
					return fail("anchor %q is done in many years: only what is done after it, each time, can hang on it", r.ID)
				}
				break
			}
		}
	}
	return nil
}
