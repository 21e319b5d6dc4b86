package layout

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"
)

// Removal is the rule by which temporary stations come out, method LAY-5.
type Removal string

// Removals; the empty one takes every second station in the row where Spec.Temporary says there are any.
const (
	AlternatePlant    Removal = "alternate plant"    // the same places in each row: R × 2P
	AlternateRow      Removal = "alternate row"      // 2R × P; from a quincunx its centres
	Checkerboard      Removal = "checkerboard"       // every second station, staggered: a square turned, of side a·√2
	CheckerboardTwice Removal = "checkerboard twice" // again from what the first one left: a square of twice the side
)

// Removals lists the rules in the order they are offered.
var Removals = []Removal{AlternatePlant, AlternateRow, Checkerboard, CheckerboardTwice}

// removal is the rule a spec goes by; "" where nothing comes out.
func (s Spec) removal() Removal {
	if s.TakeOut == "" && s.Temporary {
		return AlternatePlant
	}
	return s.TakeOut
}

// Stages is how many times stations come out: 0, 1 or 2.
func (s Spec) Stages() int {
	switch s.removal() {
	case "":
		return 0
	case CheckerboardTwice:
		return 2
	}
	return 1
}

// Words is the rule as a reader says it, of one stage.
func (s Spec) Words(stage int) string {
	switch s.removal() {
	case AlternateRow:
		if s.Pattern == Quincunx {
			return "the centre plants"
		}
		return "every second row"
	case Checkerboard, CheckerboardTwice:
		if stage == 2 {
			return "every second row of what is left"
		}
		return "every second plant, staggered from row to row,"
	}
	return "every second plant"
}

// roleOf is who the station at place at of row line row is: main, or in which stage it comes out.
func (s Spec) roleOf(row, at int) byte {
	odd := func(n int) bool { return n&1 != 0 }
	switch s.removal() {
	case AlternatePlant:
		if odd(at) {
			return TemporaryRole
		}
	case AlternateRow:
		if odd(row) {
			return TemporaryRole
		}
	case Checkerboard, CheckerboardTwice:
		if odd(at + row) {
			return TemporaryRole
		}
		if s.removal() == CheckerboardTwice && odd(row) {
			return LaterRole
		}
	}
	return Main
}

// basis is the lattice of an endless field: along the row, and to the next row.
func (s Spec) basis() (a, b [2]float64) {
	n := s.Normal()
	a, b = [2]float64{n.PlantSpacingM, 0}, [2]float64{0, n.RowSpacingM}
	if n.staggered() {
		b[0] = n.PlantSpacingM / 2
	}
	return a, b
}

// staggered reports whether every other row is shifted by half a spacing.
func (s Spec) staggered() bool {
	return s.Pattern == Triangle || s.Pattern == Quincunx || s.Pattern == Rectangle && s.Stagger
}

// Remainder is a rectangle of stations that thinning can leave.
type Remainder struct {
	Keep   int     // one station of so many stays
	XM, YM float64 // its sides, the shorter first
	Turned bool    // no side runs along the rows
}

// Words are the sides as they are written, to the centimetre.
func (r Remainder) Words() string { return fmt.Sprintf("%.2f × %.2f m", r.XM, r.YM) }

// Remainders is every rectangle in which one station of most or fewer stays: two vectors of the
// lattice at right angles, searched up to 8 steps either way. What remains is always such a
// sublattice, so that a spacing which is not in the list cannot be reached by taking plants out.
// Twin rows have none here.
func (s Spec) Remainders(most int) []Remainder {
	if s.Pattern == Twin {
		return nil
	}
	const reach = 8
	a, b := s.basis()
	at := func(i, j int) [2]float64 { return [2]float64{float64(i)*a[0] + float64(j)*b[0], float64(j) * b[1]} }
	var out []Remainder
	for i := 0; i <= reach; i++ {
		for j := -reach; j <= reach; j++ {
			if i == 0 && j <= 0 {
				continue
			}
			v := at(i, j)
			vl := math.Hypot(v[0], v[1])
			for k := -reach; k <= reach; k++ {
				for l := 0; l <= reach; l++ {
					keep := i*l - j*k
					if keep < 1 || keep > most {
						continue
					}
					w := at(k, l)
					wl := math.Hypot(w[0], w[1])
					if math.Abs(v[0]*w[0]+v[1]*w[1]) > 1e-9*vl*wl {
						continue
					}
					along := func(u [2]float64, n float64) bool { return math.Abs(u[1]) < 1e-9*n }
					out = append(out, Remainder{keep, math.Min(vl, wl), math.Max(vl, wl), !along(v, vl) && !along(w, wl)})
				}
			}
		}
	}
	near := func(x, y float64) bool { return math.Abs(x-y) < 1e-6*y }
	sort.SliceStable(out, func(x, y int) bool {
		p, q := out[x], out[y]
		switch {
		case p.Keep != q.Keep:
			return p.Keep < q.Keep
		case !near(p.XM, q.XM):
			return p.XM < q.XM
		}
		return !p.Turned && q.Turned
	})
	return slices.CompactFunc(out, func(p, q Remainder) bool { return p.Keep == q.Keep && near(p.XM, q.XM) })
}

// Thins finds the remainder of the sides x and y metres, in either order, within 2 %.
func (s Spec) Thins(x, y float64) (Remainder, bool) {
	a, b := s.basis()
	x, y = math.Min(x, y), math.Max(x, y)
	most := int(math.Round(1.05 * x * y / (a[0] * b[1])))
	within := func(got, want float64) bool { return math.Abs(got-want) <= 0.02*want }
	for _, r := range s.Remainders(most) {
		if within(r.XM, x) && within(r.YM, y) {
			return r, true
		}
	}
	return Remainder{}, false
}

// Left is the rectangle that the spec's own removal leaves after a stage; ok is false where what is
// left is staggered and no rectangle, or nothing comes out.
func (s Spec) Left(stage int) (r Remainder, ok bool) {
	n := s.Normal()
	R, P := n.RowSpacingM, n.PlantSpacingM
	switch rule := s.removal(); {
	case rule == "" || stage < 1 || stage > s.Stages():
		return Remainder{}, false
	case rule == AlternatePlant && !n.staggered():
		return s.Thins(R, 2*P)
	case rule == AlternateRow:
		return s.Thins(2*R, P)
	case stage == 2:
		return s.Thins(2*R, 2*P)
	case rule == Checkerboard || rule == CheckerboardTwice:
		if R == P && !n.staggered() {
			return s.Thins(P*math.Sqrt2, P*math.Sqrt2)
		}
	}
	return Remainder{}, false
}

// CannotThin says why x × y metres cannot be left, what can, and from which square it could.
func (s Spec) CannotThin(x, y float64) string {
	n := s.Normal()
	list := make([]string, 0, 8)
	for _, r := range s.Remainders(4) {
		list = append(list, fmt.Sprintf("%s (1 of %d)", r.Words(), r.Keep))
	}
	ratio := x * y / (n.RowSpacingM * n.PlantSpacingM)
	if s.Pattern == Twin {
		ratio *= 2
	}
	return fmt.Sprintf("%g × %g m would keep one station of %.3f. What can be left: %s. A final %g × %g m begins at %.3g × %.3g, %.3g × %g or %g × %.3g m.",
		x, y, ratio, strings.Join(list, ", "), x, y, x/2, y/2, x/2, y, x, y/2)
}

// MeetM is the distance at which canopies meet first: in the row, or from a centre plant to its square.
func (s Spec) MeetM() float64 {
	if s.Pattern == Quincunx {
		return s.NearestM()
	}
	return s.PlantSpacingM
}

// NearestM is the distance between nearest neighbours in metres.
func (s Spec) NearestM() float64 {
	n := s.Normal()
	d := math.Min(n.PlantSpacingM, n.RowSpacingM)
	switch {
	case n.staggered():
		d = math.Min(n.PlantSpacingM, math.Hypot(n.RowSpacingM, n.PlantSpacingM/2))
	case s.Pattern == Twin:
		d = math.Min(n.PlantSpacingM, n.TwinGapM)
	}
	return d
}
