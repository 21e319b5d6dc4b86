package drainage

import (
	"math"
	"math/rand"
	"testing"
)

// hill is a smooth surface: a slope with two waves across it.
func hill(rnd *rand.Rand) func(x, y float64) float64 {
	slope, way := 0.02+0.08*rnd.Float64(), 2*math.Pi*rnd.Float64()
	tall, long, other := 0.8*rnd.Float64(), 40+60*rnd.Float64(), 50+60*rnd.Float64()
	return func(x, y float64) float64 {
		return 80 + slope*(x*math.Cos(way)+y*math.Sin(way)) + tall*math.Sin(x/long)*math.Cos(y/other)
	}
}

// falls is the compass direction a surface falls towards in the middle of a ring, degrees.
func falls(ring []XY, z func(x, y float64) float64) float64 {
	c := centre(ring)
	gx, gy := z(c[0]+20, c[1])-z(c[0]-20, c[1]), z(c[0], c[1]+20)-z(c[0], c[1]-20)
	return math.Mod(math.Atan2(-gx, -gy)*180/math.Pi+360, 360)
}

// field is a star-shaped block of 2 to 9 ha, with a hole now and then.
func field(rnd *rand.Rand) [][]XY {
	var ring []XY
	n := 5 + rnd.Intn(6)
	for i := range n {
		a, r := 2*math.Pi*(float64(i)+0.5*rnd.Float64())/float64(n), 110+80*rnd.Float64()
		ring = append(ring, XY{r * math.Cos(a), r * math.Sin(a)})
	}
	rings := [][]XY{ring}
	if rnd.Intn(2) == 0 {
		x, y := 50*rnd.Float64()-25, 50*rnd.Float64()-25
		rings = append(rings, []XY{{x, y}, {x, y + 20 + 15*rnd.Float64()}, {x + 20 + 25*rnd.Float64(), y + 20}, {x + 20, y}})
	}
	return rings
}

// On any hill a line across the slope stays in the block, its outlet is its lowest point, and it falls about as much
// as it is meant to: laid along it, a ditch of half a metre comes out nowhere.
func TestLinesAcrossAnyHill(t *testing.T) {
	rnd := rand.New(rand.NewSource(7))
	graded, laid := 0, 0
	for run := range 80 {
		rings, z := field(rnd)[:1], hill(rnd)
		line := Suggest("interceptor", rings, z, 0, falls(rings[0], z), nil)
		if line == nil {
			t.Errorf("run %d: no line", run)
			continue
		}
		for i, p := range line {
			if !within(p, rings) {
				t.Errorf("run %d: %v lies outside", run, p)
			}
			if z(p[0], p[1]) < z(line[0][0], line[0][1])-0.25 {
				t.Errorf("run %d: point %d lies %.2f m below the outlet", run, i, z(line[0][0], line[0][1])-z(p[0], p[1]))
			}
		}
		laid++
		end := line[len(line)-1]
		if fall := (z(end[0], end[1]) - z(line[0][0], line[0][1])) / Length(line); fall > 0.0015 && fall < 0.006 {
			graded++
			n, err := Design(rings, Layout{Collector: line, SpacingM: 2, Alone: true, Given: true}, Task{Ground: z, DepthM: 0.5, LeastGrade: 0.002, OutletM: math.NaN(), Open: true, Closed: true})
			if err != nil {
				t.Fatal(run, err)
			}
			for _, x := range n.Troubles {
				if x.Rule == "shallow" && x.Got < 0.1 {
					t.Errorf("run %d: %+v", run, x)
				}
			}
		}
	}
	if graded < laid*9/10 {
		t.Errorf("only %d of %d lines follow the contour", graded, laid)
	}
}

// On any field a branch that is suggested reaches ground that was missed, crosses nothing, stays inside; whatever
// branches there are, areas add up, levels rise and sizes grow downstream.
func TestBranchesOfAnyField(t *testing.T) {
	rnd := rand.New(rand.NewSource(11))
	led := 0
	for run := range 80 {
		rings, z := field(rnd), hill(rnd)
		spacing, angle := 8+16*rnd.Float64(), []float64{90, 60, 45}[rnd.Intn(3)]
		pattern := "gridiron"
		if angle < 90 {
			pattern = "herringbone"
		}
		line := Suggest(pattern, rings, z, spacing, falls(rings[0], z), nil)
		if line == nil {
			continue
		}
		l := Layout{Collector: line, SpacingM: spacing, AngleDeg: angle}
		task := Task{Ground: z, Q: 0.008, DepthM: 1, CoverM: 0.6, OutletM: math.NaN()}
		n, err := Design(rings, l, task)
		if err != nil {
			t.Fatal(run, err)
		}
		for len(n.Missed) > 0 && len(l.Branches) < 3 {
			piece := n.Missed[0]
			b := SuggestBranch(rings, l, piece, z)
			if b == nil {
				break
			}
			led++
			l.Branches = append(l.Branches, Line{Points: b})
			now, err := Design(rings, l, task)
			if err != nil {
				t.Fatal(run, err)
			}
			if gained := now.ReachedM2 - n.ReachedM2; gained < 0.25*piece.AreaM2 {
				t.Errorf("run %d: branch %v into %.0f m² reaches %.0f more", run, b, piece.AreaM2, gained)
			}
			if was, is := crossed(n), crossed(now); is > was {
				t.Errorf("run %d: %d crossings, %d with the branch", run, was, is)
			}
			for _, p := range b {
				if !within(p, rings) {
					t.Errorf("run %d: %v lies outside", run, p)
				}
			}
			n = now
		}
		lawful(t, n, run)
	}
	if led < 20 {
		t.Errorf("only %d branches were led", led)
	}
}

func crossed(n *Network) int {
	k := 0
	for _, x := range n.Troubles {
		if x.Rule == "crossing" {
			k++
		}
	}
	return k
}

// lawful checks what holds of every network.
func lawful(t *testing.T, n *Network, run int) {
	t.Helper()
	missed, own := 0.0, map[string]float64{}
	for _, m := range n.Missed {
		missed += m.AreaM2
	}
	near(t, "reached and missed", n.ReachedM2+missed, n.BlockM2, 1e-6*n.BlockM2)
	for _, d := range n.Laterals {
		own[d.Main] += d.AreaM2
	}
	first := map[string]Drain{}
	for _, r := range n.Reaches {
		if _, ok := first[r.Main]; !ok {
			first[r.Main] = r
		}
		if r.High < r.Low-1e-9 {
			t.Errorf("run %d: %s falls upstream", run, r.ID)
		}
	}
	for _, m := range n.Mains {
		if r, ok := first[m.ID]; ok && r.AreaM2 < own[m.ID]-1e-6 {
			t.Errorf("run %d: the laterals of %s bring %.0f m², its lower end carries %.0f", run, m.ID, own[m.ID], r.AreaM2)
		}
		if m.On != "" && m.Joins > 0.02 {
			if below, ok := first[m.On]; ok && first[m.ID].AreaM2 > below.AreaM2+1e-6 {
				t.Errorf("run %d: %s brings more than %s carries", run, m.ID, m.On)
			}
		}
	}
	near(t, "flow at the outlet", n.FlowM3S*86400/0.008, n.ReachedM2, 1e-6*n.BlockM2)
}

// An interceptor for a wet part lies just above it, a little longer than it is wide, wherever on the hill it is: every
// way straight up from the wet ground crosses the line, and a ditch above the whole block takes no notice of it.
func TestInterceptorAboveTheWetPart(t *testing.T) {
	rnd := rand.New(rand.NewSource(5))
	laid := 0
	for run := range 60 {
		rings, z := field(rnd)[:1], hill(rnd)
		wet := Wet{At: XY{60*rnd.Float64() - 30, 60*rnd.Float64() - 30}, RadiusM: 15 + 25*rnd.Float64()}
		f := falls(rings[0], z)
		line := Suggest("interceptor", rings, z, 0, f, &wet)
		whole := Suggest("interceptor", rings, z, 0, f, nil)
		if other := Suggest("diversion", rings, z, 0, f, &wet); len(other) != len(whole) || other[0] != whole[0] {
			t.Errorf("run %d: the ditch above the block moves with the wet part", run)
		}
		if d := dist(line[0], wet.At); d > 2.5*wet.RadiusM+5 {
			continue // no room above it: the whole block's
		}
		laid++
		above := 0
		for _, p := range line {
			if !within(p, rings) {
				t.Errorf("run %d: %v lies outside", run, p)
			}
			if z(p[0], p[1]) > z(wet.At[0], wet.At[1]) {
				above++
			}
		}
		if above < len(line) || Length(line) > 3*wet.RadiusM {
			t.Errorf("run %d: %d of %d points lie above the wet part, %.0f m for a radius of %.0f", run, above, len(line), Length(line), wet.RadiusM)
		}
		gx, gy := z(wet.At[0]+1, wet.At[1])-z(wet.At[0]-1, wet.At[1]), z(wet.At[0], wet.At[1]+1)-z(wet.At[0], wet.At[1]-1)
		if _, hit := meets(wet.At, unit(XY{gx, gy}), line, 0.1); !hit {
			t.Errorf("run %d: straight up from the wet part nothing is crossed", run)
		}
	}
	if laid < 45 {
		t.Errorf("only %d of 60 lie above the wet part", laid)
	}
}
