package estate

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan"
	"slowroot/core/practice"
	"slowroot/internal/store"
)

func refusedField(t *testing.T, err error) string {
	t.Helper()
	var fe *finding.FieldError
	if !errors.As(err, &fe) {
		return fmt.Sprint(err)
	}
	return fe.Field
}

// Whatever is accepted computes: a crop nobody has a sheet for is refused when a block is added as when it is changed,
// a crop without a day is given one, and nothing of a refused block is kept.
func TestWhatIsAddedComputes(t *testing.T) {
	s, docs := demoEstate(t)
	b := docs["Gate Field"].Block
	b.Name, b.Planting, b.Drains = "New", nil, nil
	b.Planting = &document.Planting{Considered: true, Sheet: "nope", Date: civil.Must(2029, 9, 1)}
	if _, err := s.AddBlocks(ctx, "x", []NewBlock{{Block: b}}); refusedField(t, err) != "planting.sheet" {
		t.Errorf("a crop nobody knows: %v", err)
	}
	if now, _ := s.Blocks(ctx); len(now) != len(docs) {
		t.Errorf("%d blocks after a refusal, %d before", len(now), len(docs))
	}
	b.Planting = &document.Planting{Considered: true, Sheet: "apple"}
	got, err := s.AddBlocks(ctx, "x", []NewBlock{{Block: b}})
	if err != nil || got[0].Block.Planting.Date.IsZero() {
		t.Fatalf("a crop without a day: %+v %v", got, err)
	}
	d, err := s.ChangeBlock(ctx, "x", got[0].ID, 1, []byte(`{"planting":{"sheet":"tea","date":""}}`))
	if err != nil || d.Block.Planting.Date.IsZero() || d.Block.Planting.Date == got[0].Block.Planting.Date {
		t.Errorf("another crop: %+v %v", d.Block.Planting, err)
	}
	for _, year := range []string{"1700-01-01", "2499-01-01"} {
		if _, err := s.ChangeBlock(ctx, "x", got[0].ID, d.Revision, []byte(`{"planting":{"date":"`+year+`"}}`)); refusedField(t, err) != "planting.date" {
			t.Errorf("planted in %s: %v", year, err)
		}
	}
	if _, err := s.FitOf(ctx, "blueberry"); err != nil {
		t.Error(err)
	}
}

// Normals, heights and weather that cannot be are refused with their field, nothing of them is kept, and every block
// still has its plan; heights in one line say why, days that have not come are passed over and named.
func TestUnluckyRecords(t *testing.T) {
	s, docs := demoEstate(t)
	e, _ := s.Estate(ctx)
	months := e.Estate.Climate
	for field, spoil := range map[string]func(m *document.Month){
		"climate[3].meanC": func(m *document.Month) { m.MeanC = -300 }, "climate[3].rainMm": func(m *document.Month) { m.RainMM = -5 }, "climate[3].minC": func(m *document.Month) { m.MinC = m.MeanC + 1 },
		"climate[3].sunH": func(m *document.Month) { x := 99.0; m.SunH = &x }, "climate[3].maxC": func(m *document.Month) { x := 1e308; m.MaxC = &x }, "climate[3].rhPct": func(m *document.Month) { x := 101.0; m.RHPct = &x },
	} {
		bad := append([]document.Month{}, months...)
		spoil(&bad[3])
		text, _ := json.Marshal(map[string]any{"climate": bad})
		if _, err := s.ChangeEstate(ctx, "x", e.Revision, text); refusedField(t, err) != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	line := HeightsFile{Name: "a walk", Text: "lon,lat,z\n171.99,-38.00,50\n171.991,-38.001,51\n171.992,-38.002,52\n171.993,-38.003,53\n", CRS: "EPSG:4326", AccuracyM: 0.1, How: "walked"}
	if _, _, err := s.ReadHeights(ctx, line); err == nil || !strings.Contains(err.Error(), "one line") {
		t.Errorf("heights in one line: %v", err)
	}
	wide := line
	wide.Text = "lon,lat,z\n171.99,-38.00,50\n171.995,-38.0,51\n171.99,-38.005,52\n171.996,-38.006,53\n"
	for what, f := range map[string]HeightsFile{"a refused accuracy": {Name: "x", Text: wide.Text, CRS: wide.CRS, AccuracyM: -1}, "one line": line} {
		_, h, _ := s.ReadHeights(ctx, f)
		_, file := keepHeights(f, h)
		if _, err := s.KeepHeights(ctx, "x", e.Revision, f); err == nil {
			t.Errorf("%s accepted", what)
		}
		if _, err := s.store.File(ctx, file.Digest()); !errors.Is(err, store.ErrNotFound) {
			t.Errorf("%s: its file is kept", what)
		}
	}
	var stale *Stale
	if _, err := s.KeepHeights(ctx, "x", e.Revision-1, wide); !errors.As(err, &stale) {
		t.Errorf("from an old revision: %v", err)
	}
	weather := "date,tmin,tmax,rain\n"
	for d := civil.Must(2024, 1, 1); d.Before(civil.Must(2027, 3, 1)); d = d.AddDays(1) {
		weather += d.String() + ",8,18,2\n"
	}
	r, err := s.ReadWeather("w", weather+"2199-01-01,8,18,2\n2027-03-20,8,18,2\n1850-01-01,8,18,2\n")
	if err != nil || r.Days != 1155 || r.To.Year() != 2027 || len(r.Notes) < 3 {
		t.Errorf("%d days to %s, notes %v, %v", r.Days, r.To, r.Notes[:min(3, len(r.Notes))], err)
	}
	if _, err := s.ReadWeather("w", "date,tmin,tmax,rain\n2199-01-01,8,18,2\n"); err == nil {
		t.Error("a record of the future alone is accepted")
	}
	many := e.Estate
	for range document.MaxHeightSources {
		many.Heights = append(many.Heights, many.Heights[0])
	}
	if err := many.Valid(); refusedField(t, err) != "heights" {
		t.Errorf("too many heights: %v", err)
	}
	for name, d := range docs {
		if _, err := s.Plan(ctx, d.ID); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// Heights that say nothing take nothing else with them: the plan stands and says why.
func TestHeightsThatSayNothingTakeNothingAway(t *testing.T) {
	s, docs := demoEstate(t)
	e, d, err := s.at(ctx, docs["Orchard Foot"].ID)
	if err != nil {
		t.Fatal(err)
	}
	in, err := s.input(ctx, e.Estate, d)
	if err != nil {
		t.Fatal(err)
	}
	in.Land, in.LandProblem = nil, "they lie in one line"
	p, err := plan.Compute(in, nil)
	if err != nil || len(p.Years) == 0 {
		t.Fatal(err)
	}
	for _, f := range p.Findings {
		if f.Rule == "land.unreadable" && strings.Contains(f.Sentence, "one line") {
			return
		}
	}
	t.Error("nothing says why the lie is not known")
}

// One block that cannot be read is shown with its problem; the estate, its jobs, a crop on every block and the other
// plans are there.
func TestOneBadBlockLeavesTheOthers(t *testing.T) {
	d, _ := ReadDemonstration(demoFiles(t))
	dir := t.TempDir()
	st, err := store.Open(ctx, dir, store.Options{})
	if err != nil {
		t.Fatal(err)
	}
	lib, _ := practice.BuiltIn()
	s := New(st, lib, func() civil.Date { return d.Today })
	if _, err := s.LoadDemonstration(ctx, d); err != nil {
		t.Fatal(err)
	}
	docs, _ := s.Blocks(ctx)
	_ = st.Close()
	spoil(t, dir, docs[2].ID)
	if st, err = store.Open(ctx, dir, store.Options{}); err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	s = New(st, lib, func() civil.Date { return d.Today })
	o, err := s.Overview(ctx)
	if err != nil || len(o.Blocks) != len(docs) {
		t.Fatalf("%d blocks: %v", len(o.Blocks), err)
	}
	bad := 0
	for _, b := range o.Blocks {
		if b.Problem != "" {
			bad++
			if b.ID != docs[2].ID || !strings.Contains(b.Problem, "changed on the disk") {
				t.Errorf("%s: %s", b.Name, b.Problem)
			}
		} else if b.AreaM2 == 0 {
			t.Errorf("%s has no area", b.Name)
		}
	}
	if bad != 1 {
		t.Errorf("%d blocks have a problem", bad)
	}
	if jobs, err := s.Jobs(ctx, d.Today, d.Today.AddMonths(12)); err != nil || len(jobs) == 0 {
		t.Errorf("%d jobs: %v", len(jobs), err)
	}
	if fits, err := s.FitOf(ctx, "tea"); err != nil || len(fits) != len(docs) {
		t.Errorf("%d fits: %v", len(fits), err)
	}
	if _, err := s.Plan(ctx, docs[2].ID); !errors.Is(err, store.ErrDamaged) {
		t.Errorf("the bad block: %v", err)
	}
	if _, err := s.Plan(ctx, docs[0].ID); err != nil {
		t.Errorf("a good block: %v", err)
	}
}

// A client that leaves ends what was computed for it.
func TestLeavingEndsTheComputation(t *testing.T) {
	s, docs := demoEstate(t)
	gone, leave := context.WithCancel(ctx)
	leave()
	if _, err := s.Forks(gone, docs["Orchard Foot"].ID); !errors.Is(err, context.Canceled) {
		t.Errorf("%v", err)
	}
	asked := 0
	e, d, _ := s.at(ctx, docs["Orchard Foot"].ID)
	in, err := s.input(ctx, e.Estate, d)
	if err != nil {
		t.Fatal(err)
	}
	in.Stop = func() error {
		if asked++; asked > 3 {
			return TooLong{}
		}
		return nil
	}
	var long TooLong
	if _, err := plan.Forks(in); !errors.As(err, &long) || !strings.Contains(err.Error(), "seconds") {
		t.Errorf("%v", err)
	}
}

// A weather station that redirects elsewhere is not followed.
func TestRedirectsStayOnThisMachine(t *testing.T) {
	s, _ := demoEstate(t)
	away := httptest.NewServer(http.RedirectHandler("http://192.0.2.1/days.csv", http.StatusFound))
	defer away.Close()
	e, _ := s.Estate(ctx)
	if _, err := s.ChangeEstate(ctx, "x", e.Revision, []byte(`{"station":"`+away.URL+`"}`)); err != nil {
		t.Fatal(err)
	}
	_, err := s.PollStation(ctx)
	var far *Unreachable
	if !errors.As(err, &far) || !strings.Contains(err.Error(), "outside this machine") {
		t.Errorf("%v", err)
	}
}

// What ships with the program takes the time it takes; a person's own block does not.
func TestTheDemonstrationIsUnhurried(t *testing.T) {
	left, leave := context.WithCancel(ctx)
	none := &Service{longest: longest}
	stop := none.patience(unhurried(left))
	if err := stop(); err != nil {
		t.Error(err)
	}
	leave()
	if stop() == nil || none.patience(left)() == nil {
		t.Error("nobody waits, and it goes on")
	}
}
