package growth

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"slowroot/core/document"
	"slowroot/core/practice"
)

// closing moves the taking out of temporary plants with the closing of the canopy: a sheet prints its age for its own spacing,
// and where a person spaces otherwise the crowns meet that many years sooner or later (methods Y1, Y2; thinning by closure and
// not by age is common practice). Nothing moves where the crowns of one of the two never meet.
func (g *Result) closing(p *document.Planting) {
	t := g.Option.Thinning
	if t == nil {
		return
	}
	printed, mine := g.Canopy.AgeAt(g.Option.Spec(0).MeetM()), g.Canopy.AgeAt(p.Spec(g.Option).MeetM())
	if math.IsInf(printed, 0) || math.IsInf(mine, 0) || math.IsNaN(printed+mine) {
		return
	}
	years := int(math.Round(mine - printed))
	if years == 0 {
		return
	}
	to := func(age int) int { return max(1, min(g.Life, age+years)) }
	g.Option.Thinning = shifted(t, to)
	why := fmt.Sprintf("; %d years later than printed, as the crowns meet later at this spacing", years)
	if years < 0 {
		why = fmt.Sprintf("; %d years sooner than printed, as the crowns meet sooner at this spacing", -years)
	}
	g.Ops = slices.Clone(g.Ops)
	for i := range g.Ops {
		o := &g.Ops[i]
		if o.Phase == "renew" && strings.HasPrefix(o.ID, "thin") && o.Ages.From > 0 {
			o.Ages.From = to(o.Ages.From)
			if o.Ages.To > 0 {
				o.Ages.To = to(o.Ages.To)
			}
			o.Detail += why
		}
	}
}

// shifted is a thinning, and a second one with it, at other ages.
func shifted(t *practice.Thinning, to func(int) int) *practice.Thinning {
	if t == nil {
		return nil
	}
	out := *t
	out.OutAge, out.FromAge, out.ToAge = to(t.OutAge), to(t.FromAge), to(t.ToAge)
	out.Again = shifted(t.Again, to)
	return &out
}
