package fittings

import (
	"errors"
	"math"
	"slices"
	"testing"

	"slowroot/core/finding"
)

func amount(t *testing.T, list []Item, what string) float64 {
	t.Helper()
	for _, i := range list {
		if i.What == what {
			return i.Amount
		}
	}
	t.Fatalf("no %q in %+v", what, list)
	return 0
}

func near(t *testing.T, what string, got, want, tol float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tol) {
		t.Errorf("%s: %g, want %g", what, got, want)
	}
}

func rows(n int, m float64) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = m
	}
	return out
}

// Twelve rows of 96 m, arms every 9.14 m, six wires: 10 line posts a row, 24 end assemblies, 7 416.0 m of wire; 8 % of slope adds 0.319 %.
// By hand, method LAY-8.
func TestTrellisByHand(t *testing.T) {
	v := map[string]float64{"postM": 9.14, "wires": 6, "tieM": 2, "slack": 0.03}
	s := Site{RowsM: rows(12, 96)}
	got := Take("trellis", v, s)
	near(t, "line posts", amount(t, got, "line posts or arms"), 120, 0)
	near(t, "end assemblies", amount(t, got, "end assemblies"), 24, 0)
	near(t, "wire", amount(t, got, "wire"), 7416.0, 0.05)
	s.SlopePct = 8
	near(t, "wire on a slope", amount(t, Take("trellis", v, s), "wire")/7416.0, 1.00319, 1e-5)
	s.RowsM = rows(2, 130)
	near(t, "anchors of long rows", amount(t, Take("trellis", v, s), "anchors"), 8, 0)
}

// 6 666.7 m of bed with two lines and 2 %: 13 600.1 m of drip line; film with 1.5 % overlap on rolls of 1 200 m: 6 766.7 m, 6 rolls (BED-2).
func TestDripAndFilm(t *testing.T) {
	s := Site{RowsM: []float64{6666.7}}
	near(t, "drip line", amount(t, Take("drip", map[string]float64{"lines": 2}, s), "drip line"), 13600.1, 0.1)
	got := Take("film", map[string]float64{"endM": 0, "rollM": 1200}, s)
	near(t, "film", got[0].Amount, 6766.7, 0.05)
	near(t, "rolls", amount(t, got, "rolls of film or fabric"), 6, 0)
	near(t, "emitters", amount(t, Take("drip", map[string]float64{"emitterM": 0.5}, Site{RowsM: []float64{10, 9.9}}), "emitters"), 21+20, 0)
}

// A strip of 1 m, 10 cm deep, rows 3.66 m apart: 273.2 m³ a hectare, 390.3 loose (BED-6). A pit of 0.9 m: 0.729 m³, 72.9 m³ at 10 × 10 m, of it
// 0.2025 m³ topsoil of 0.25 m; a fifth of compost less a ball of 10 L: 143.8 L (BED-3). A thousand pots of 1.9085 L with 12 %: 2.1688 m³ (BED-6).
func TestEarthByHand(t *testing.T) {
	got := Take("mulch", map[string]float64{"widthM": 1, "deepCm": 10, "settles": 0.7}, Site{RowsM: []float64{1e4 / 3.66}, RowM: 3.66})
	near(t, "mulch", got[0].Amount, 273.2, 0.05)
	near(t, "mulch, loose", got[1].Amount, 390.3, 0.05)
	wide := Take("mulch", map[string]float64{"widthM": 5, "deepCm": 10, "settles": 0.7}, Site{RowsM: []float64{1e4 / 3.66}, RowM: 3.66})
	near(t, "strips wider than the rows", wide[0].Amount, 1000, 0.05)
	got = Take("pits", map[string]float64{"longM": 0.9, "wideM": 0.9, "deepM": 0.9, "topsoilM": 0.25, "organic": 0.2, "ballL": 10}, Site{Stations: 100})
	near(t, "pits", amount(t, got, "earth dug"), 72.9, 1e-6)
	near(t, "topsoil", amount(t, got, "topsoil, heaped by itself"), 20.25, 1e-6)
	near(t, "compost", amount(t, got, "compost or manure, well rotted"), 14.38, 1e-6)
	got = Take("pots", map[string]float64{"litres": 1.9085, "shrink": 0.12, "spare": 0}, Site{Plants: 1000})
	near(t, "substrate", amount(t, got, "substrate"), 2.1688, 5e-5)
}

func TestTheRest(t *testing.T) {
	s := Site{RowsM: rows(10, 50), Stations: 500, Plants: 1000, PlantedM2: 20_000, PerimeterM: 600, RowM: 4}
	got := Take("fence", map[string]float64{"postM": 4, "gates": 2, "gateM": 4, "wires": 5}, s)
	near(t, "fence", amount(t, got, "fence"), 592, 1e-9)
	near(t, "fence posts", amount(t, got, "fence posts"), 150, 0)
	near(t, "fence wire", amount(t, got, "fence wire"), 2960, 1e-9)
	got = Take("tunnel", map[string]float64{"bayM": 8, "highM": 4, "hoopM": 2, "skirtM": 0}, s)
	near(t, "bays", amount(t, got, "bays"), 5, 0)
	near(t, "film of half circles", amount(t, got, "tunnel film"), 250*math.Pi*4, 0.01)
	near(t, "seed", amount(t, Take("seed", map[string]float64{"kgHa": 30, "share": 0.5, "germination": 0.75, "reckoned": 0.9}, s), "seed"), 36, 1e-9)
	near(t, "stakes", amount(t, Take("stakes", nil, s), "stakes"), 500, 0)
	near(t, "guards", amount(t, Take("guards", nil, s), "guards"), 1000, 0)
	near(t, "net", amount(t, Take("net", map[string]float64{"lines": 2, "extra": 0}, s), "net or rope"), 1000, 0)
	near(t, "furrow", amount(t, Take("furrow", map[string]float64{"widthM": 0.4, "deepM": 0.5}, s), "earth moved"), 100, 1e-9)
	near(t, "screens", amount(t, Take("shade", nil, s), "screens"), 500, 0)
}

// Every kind takes its usual values on any site without a number that is not one, and refuses what it has no field for.
func TestEveryKindOnAnySite(t *testing.T) {
	for _, k := range Kinds {
		for _, s := range []Site{{}, {RowsM: rows(3, 0)}, {RowsM: rows(1, 9), Stations: 1, Plants: 3, PlantedM2: 9, AreaM2: 9, PerimeterM: 12, RowM: 3, SlopePct: 40}} {
			for _, i := range Take(k.ID, nil, s) {
				if math.IsNaN(i.Amount) || math.IsInf(i.Amount, 0) || i.Amount < 0 || i.Formula == "" || i.Substituted == "" {
					t.Errorf("%s on %+v: %+v", k.ID, s, i)
				}
			}
		}
		for _, f := range k.Fields {
			if !(f.Min <= f.Usual && f.Usual <= f.Max) {
				t.Errorf("%s %s: usual %g outside %g to %g", k.ID, f.Name, f.Usual, f.Min, f.Max)
			}
			var fe *finding.FieldError
			if err := Valid("x", k.ID, map[string]float64{f.Name: f.Max + 1}); !errors.As(err, &fe) || fe.Field != "x.values."+f.Name {
				t.Errorf("%s %s beyond its bound: %v", k.ID, f.Name, err)
			}
		}
		if Valid("x", k.ID, map[string]float64{"colour": 1}) == nil || Valid("x", k.ID, nil) != nil {
			t.Errorf("%s: an unknown field is taken, or none refused", k.ID)
		}
	}
	if Valid("x", "moat", nil) == nil || Take("moat", nil, Site{}) != nil {
		t.Error("a moat is taken")
	}
}

// A kit and a rain cover on 12 rows of 96 m by hand: arms 9.1 m apart, ⌈96/9.1⌉ + 1 = 12 a row, 144 and 2 % spare; 24 row ends; film
// (96 + 2) · 2.2 · 12 = 2 587.2 m²; brackets 3 m apart, 33 a row. Arms of cane trellises stand 4.6 to 9.1 m apart (LAY-8).
func TestKitAndRainCover(t *testing.T) {
	var s Site
	for range 12 {
		s.RowsM = append(s.RowsM, 96)
	}
	k := Take("kit", nil, s)
	near(t, "arms", amount(t, k, "arms or posts of the kit"), 147, 0)
	near(t, "row ends", amount(t, k, "row ends of the kit"), 24, 0)
	c := Take("cover", nil, s)
	near(t, "film", amount(t, c, "film of the rain cover"), 2587.2, 1e-9)
	near(t, "brackets", amount(t, c, "brackets of the rain cover"), 396, 0)
}

// A fitting is put up again every so many years while it lasts less than the crop.
func TestWhatIsPutUpAgain(t *testing.T) {
	for _, c := range []struct {
		kind  string
		said  map[string]float64
		years int
		want  []int
	}{{"film", nil, 30, []int{9, 18, 27}}, {"film", nil, 9, nil}, {"film", map[string]float64{"lifeY": 1}, 3, []int{1, 2}}, {"fence", nil, 40, nil},
		{"trellis", nil, 35, []int{20}}, {"pits", nil, 35, nil}, {"nothing", nil, 35, nil}} {
		if got := Renewed(c.kind, c.said, c.years); !slices.Equal(got, c.want) {
			t.Errorf("%s over %d years: %v, want %v", c.kind, c.years, got, c.want)
		}
	}
}
