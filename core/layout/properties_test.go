package layout

import (
	"math"
	"math/rand/v2"
	"testing"

	"slowroot/core/geo"
)

// star is a polygon of n corners round the origin with uneven radii: it never crosses itself.
func star(r *rand.Rand, n int) []geo.XY {
	out := make([]geo.XY, n)
	for i := range out {
		a := 2 * math.Pi * float64(i) / float64(n)
		d := 40 + 80*r.Float64()
		out[i] = geo.XY{X: d * math.Cos(a), Y: d * math.Sin(a)}
	}
	return out
}

func turned(ring []geo.XY, deg float64) []geo.XY {
	s, c := math.Sincos(deg * math.Pi / 180)
	out := make([]geo.XY, len(ring))
	for i, p := range ring { // clockwise, as bearings run
		out[i] = geo.XY{X: p.X*c + p.Y*s, Y: -p.X*s + p.Y*c}
	}
	return out
}

func randomSpec(r *rand.Rand) Spec {
	s := Spec{Pattern: Patterns[r.IntN(len(Patterns))], RowSpacingM: 2 + 4*r.Float64(), PlantSpacingM: 1 + 3*r.Float64(),
		BearingDeg: 180 * r.Float64(), EdgeBandM: 6 * r.Float64(), RowEndSetbackM: 4 * r.Float64()}
	s.TwinGapM = 0.5
	return s
}

func placed(t *testing.T, rings [][]geo.XY, s Spec) Placement {
	t.Helper()
	p, err := Place(Field{Rings: rings}, s)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// Turning the ground and the rows together changes no count (to rounding at the very edge).
func TestTurningGroundAndRowsTogether(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		ring, s := star(r, 5+r.IntN(8)), randomSpec(r)
		a := placed(t, [][]geo.XY{ring}, s)
		by := 1 + 88*r.Float64()
		s2 := s
		s2.BearingDeg += by
		if s2.BearingDeg >= 180 { // rows keep their direction, so that stations still start at the same end
			continue
		}
		b := placed(t, [][]geo.XY{turned(ring, by)}, s2)
		if math.Abs(float64(a.Stations-b.Stations)) > 1 || math.Abs(a.RowMetres-b.RowMetres) > 0.01 {
			t.Fatalf("turned by %.1f°: %d stations, %.2f m became %d, %.2f m (%+v)", by, a.Stations, a.RowMetres, b.Stations, b.RowMetres, s)
		}
	}
}

// A wider band or setback never adds row, and a hole never does either.
func TestKeepingMoreFreeNeverAddsRow(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	for range 200 {
		ring, s := star(r, 6+r.IntN(6)), randomSpec(r)
		base := placed(t, [][]geo.XY{ring}, s)
		for name, change := range map[string]func(*Spec){
			"edge band":       func(s *Spec) { s.EdgeBandM += 2 },
			"row-end setback": func(s *Spec) { s.RowEndSetbackM += 2 },
		} {
			more := s
			change(&more)
			if got := placed(t, [][]geo.XY{ring}, more); got.RowMetres > base.RowMetres+1e-6 {
				t.Fatalf("a wider %s made %.3f m of row out of %.3f m", name, got.RowMetres, base.RowMetres)
			}
		}
		hole := []geo.XY{{X: -5, Y: -5}, {X: 6, Y: -4}, {X: 3, Y: 7}}
		if got := placed(t, [][]geo.XY{ring, hole}, s); got.RowMetres > base.RowMetres+1e-6 {
			t.Fatalf("a hole made %.3f m of row out of %.3f m", got.RowMetres, base.RowMetres)
		}
	}
}

// What the pieces hold is what the total says; numbers along a row never repeat; roles are as many as
// stations.
func TestPiecesAddUp(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	for range 150 {
		s := randomSpec(r)
		s.Pollinizer, s.Temporary = Pollinizer{1 + r.IntN(4), 1 + r.IntN(4)}, r.IntN(2) == 0
		p := placed(t, [][]geo.XY{star(r, 7)}, s)
		stations, metres, roles := 0, 0.0, map[rune]int{}
		next := map[int]int{}
		for _, q := range p.Pieces {
			stations += q.Stations
			metres += q.LengthM
			if len(q.Roles) != q.Stations {
				t.Fatalf("%d roles for %d stations", len(q.Roles), q.Stations)
			}
			for _, c := range q.Roles {
				roles[c]++
			}
			if want := next[q.Row] + 1; q.Station1 != want {
				t.Fatalf("row %d goes on at %d, want %d", q.Row, q.Station1, want)
			}
			next[q.Row] += q.Stations
			if step := math.Hypot(q.StepX, q.StepY); math.Abs(step-s.Normal().PlantSpacingM) > 1e-9 {
				t.Fatalf("stations %.4f m apart, want %.4f", step, s.PlantSpacingM)
			}
			if over := float64(q.Stations-1)*s.Normal().PlantSpacingM - q.LengthM; over > 1e-5 {
				t.Fatalf("stations reach %.4f m beyond their piece", over)
			}
		}
		if stations != p.Stations || math.Abs(metres-p.RowMetres) > 1e-6 || roles[PollinizerRole] != p.Pollinizers || roles[TemporaryRole] != p.Temporary {
			t.Fatalf("pieces hold %d stations, %v; total says %+v", stations, roles, p.Stations)
		}
	}
}

// The real count approaches usable area over the area of a station (method LAY-3, expected value).
func TestCountAgreesWithArea(t *testing.T) {
	side := 600.0
	sq := [][]geo.XY{{{X: 0, Y: 0}, {X: side, Y: 0}, {X: side, Y: side}, {X: 0, Y: side}}}
	for _, pat := range Patterns {
		s := Spec{Pattern: pat, RowSpacingM: 5, PlantSpacingM: 3, TwinGapM: 1, BearingDeg: 37, EdgeBandM: 10}
		p := placed(t, sq, s)
		want := (side - 20) * (side - 20) / 1e4 * s.StationsPerHa()
		if pat == Rectangle || pat == Twin {
			want += 0.5 * float64(len(p.Pieces))
		}
		if math.Abs(float64(p.Stations)/want-1) > 0.01 {
			t.Errorf("%s: %d stations, expected about %.0f", pat, p.Stations, want)
		}
	}
}
