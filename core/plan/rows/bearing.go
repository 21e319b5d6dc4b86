package rows

import (
	"fmt"
	"math"

	"slowroot/core/document"
	"slowroot/core/layout"
	"slowroot/core/plan/ground"
)

// Bearing is what the rows would be on one bearing, method LAY-4.
type Bearing struct {
	Deg      float64  `json:"deg"`
	Stations int      `json:"stations"`
	Passes   int      `json:"passes"`  // pieces of row: twice as many ends to turn at
	MeanM    float64  `json:"meanM"`   // length of a pass
	Metres   float64  `json:"metres"`  // of row
	Hours    float64  `json:"hours"`   // to drive every row once
	FallPct  *float64 `json:"fallPct"` // along the rows; nil where no heights are known
	OffNorth float64  `json:"offNorth"`
	Score    float64  `json:"score"` // 0 is best
	Words    string   `json:"words"`
}

// TradeOff holds the bearings tried, one a degree, and the best of them.
type TradeOff struct {
	All  []Bearing `json:"all"`
	Best []Bearing `json:"best"` // the three best that lie 10° or more apart
	Long float64   `json:"long"` // bearing of the longest side
	Few  float64   `json:"few"`  // with the fewest passes
	Fall *float64  `json:"fall"` // down the slope; nil where no heights are known
	Wind *float64  `json:"wind"` // across the wind a windbreak is planted against; nil where none is
	Sun  string    `json:"sun"`  // what the latitude says of rows and sun

	Weights document.Weights `json:"weights"` // it was weighed by
}

// What driving takes: common practice, no source.
const (
	turnS   = 30.0 // a turn at a row end, s
	speedMS = 1.4  // along the row, m/s: 5 km/h
)

// leastFallPct is the slope from which cold air flows down it; common practice, no source.
const leastFallPct = 1

// Bearings lays the rows out on every whole degree from 0 to 179 and weighs them: hours of driving and turning, fall along the
// row, sun, and what else somebody gave a weight.
func Bearings(in In, land *ground.Land) (TradeOff, error) {
	var t TradeOff
	f, s := in.field(), in.Planting.Spec(in.Grown.Option)
	all, err := layout.Bearings(f, s)
	if err != nil {
		return t, err
	}
	t.Weights = document.UsualWeights
	if w := in.Planting.Layout.Weigh; w != nil {
		t.Weights = *w
	}
	northSouth := math.Abs(in.Ground.Origin.Lat) > 25
	t.Sun = "Within 25° of the equator the sun passes overhead: rows may run any way for light."
	if northSouth {
		t.Sun = "Beyond 25° of latitude rows within 30° of north–south light both sides alike."
	}
	least := math.Inf(1)
	for _, g := range all {
		b := Bearing{Deg: g.Deg, Stations: g.Stations, Passes: g.Passes, Metres: g.Metres, OffNorth: 90 - math.Abs(g.Deg-90)}
		if g.Passes > 0 {
			b.MeanM = g.Metres / float64(g.Passes)
		}
		b.Hours = (float64(2*g.Passes)*turnS + g.Metres/speedMS) / 3600
		if land != nil {
			fall := FallAlong(land, g.Deg)
			b.FallPct = &fall
		}
		if g.Stations > 0 {
			least = math.Min(least, b.Hours/float64(g.Stations))
		}
		t.All = append(t.All, b)
	}
	best := 0
	for i := range t.All {
		b := &t.All[i]
		b.weigh(t.Weights, least, northSouth, land)
		if b.Score < t.All[best].Score {
			best = i
		}
		if b.Passes > 0 && (t.All[int(t.Few)].Passes == 0 || b.Passes < t.All[int(t.Few)].Passes) {
			t.Few = b.Deg
		}
	}
	t.Best = apart(t.All, 3, 10)
	t.Long = layout.LongestSideDeg(f.Rings[0])
	if land != nil {
		fall := math.Mod(land.Lie.FallsTo, 180)
		t.Fall = &fall
	}
	if d := t.Weights.FromDeg; d != nil {
		across := math.Mod(*d+90, 180)
		t.Wind = &across
	}
	for _, c := range in.Planting.Companions {
		if c.Belt != nil && t.Wind == nil {
			across := math.Mod(c.Belt.TowardDeg+90+360, 180)
			t.Wind = &across
		}
	}
	return t, nil
}

// FallAlong is the mean fall along rows of a bearing, %.
func FallAlong(land *ground.Land, deg float64) float64 {
	return land.Lie.SlopePct * math.Abs(math.Cos((deg-land.Lie.FallsTo)*math.Pi/180))
}

// weigh gives a bearing its score and says what speaks for and against it.
func (b *Bearing) weigh(w document.Weights, least float64, northSouth bool, land *ground.Land) {
	if b.Stations == 0 {
		b.Score, b.Words = 9, "not one station fits"
		return
	}
	b.Score = w.Hours * math.Min(1, b.Hours/float64(b.Stations)/least-1)
	b.Words = fmt.Sprintf("%d passes", b.Passes)
	if b.FallPct != nil {
		switch p := *b.FallPct; {
		case p > 12:
			b.Score += w.Fall
			b.Words += "; too steep along the row for a tractor"
		case p > 5:
			b.Score += w.Fall * (0.4 + 0.6*(p-5)/7)
			b.Words += "; bare soil washes down these rows"
		case p < 0.2:
			b.Score += w.Fall * 0.2
			b.Words += "; water stands in level rows"
		default:
			b.Words += "; water leaves along the row without washing it"
		}
	}
	if northSouth && b.OffNorth > 30 {
		b.Score += w.Sun * math.Min(1, (b.OffNorth-30)/60)
		b.Words += "; one side of the row shades the other"
	}
	if w.FromDeg != nil && w.Wind > 0 {
		if off := between(b.Deg, *w.FromDeg); off > 30 {
			b.Score += w.Wind * (off - 30) / 60
			b.Words += "; across the wind the leaf dries slowly"
		}
	}
	if land != nil && w.Cold > 0 && land.Lie.SlopePct >= leastFallPct {
		if off := between(b.Deg, land.Lie.FallsTo); off > 45 {
			b.Score += w.Cold * (off - 45) / 45
			b.Words += "; cold air is held between the rows"
		}
	}
}

// between is the angle between two lines by their bearings, 0 to 90°.
func between(a, b float64) float64 { return math.Abs(math.Remainder(a-b, 180)) }

// apart are the n best bearings that lie some degrees from one another.
func apart(all []Bearing, n int, deg float64) []Bearing {
	out := []Bearing{}
	for len(out) < n {
		at := -1
		for i, b := range all {
			near := b.Stations == 0
			for _, o := range out {
				near = near || math.Abs(math.Remainder(b.Deg-o.Deg, 180)) < deg
			}
			if !near && (at < 0 || b.Score < all[at].Score) {
				at = i
			}
		}
		if at < 0 {
			break
		}
		out = append(out, all[at])
	}
	return out
}
