package estate

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"sync"
	"testing"
	"time"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan"
	"slowroot/core/practice"
	"slowroot/core/units"
	"slowroot/demo"
	"slowroot/internal/store"
)

var ctx = context.Background()

func service(t testing.TB) (*Service, Demonstration) {
	t.Helper()
	return serviceOn(t, t.TempDir())
}

func serviceOn(t testing.TB, dir string) (*Service, Demonstration) {
	t.Helper()
	d, err := ReadDemonstration(demo.Files)
	if err != nil {
		t.Fatal(err)
	}
	st, err := store.Open(ctx, dir, store.Options{Upcast: Upcast})
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = st.Close() })
	lib, err := practice.BuiltIn()
	if err != nil {
		t.Fatal(err)
	}
	return New(st, lib, func() civil.Date { return d.Today }).Within(time.Minute), d // tests may run beside others
}

// loaded is the demonstration as it is kept, made once.
var loaded = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "demonstration")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	d, err := ReadDemonstration(demo.Files)
	if err != nil {
		return nil, err
	}
	lib, err := practice.BuiltIn()
	if err != nil {
		return nil, err
	}
	st, err := store.Open(ctx, filepath.Join(dir, "made"), store.Options{Upcast: Upcast})
	if err != nil {
		return nil, err
	}
	defer st.Close()
	if _, err := New(st, lib, func() civil.Date { return d.Today }).LoadDemonstration(ctx, d); err != nil {
		return nil, err
	}
	copied := filepath.Join(dir, "copy.db")
	if _, err := st.Backup(ctx, copied); err != nil {
		return nil, err
	}
	return os.ReadFile(copied)
})

func demoEstate(t testing.TB) (*Service, map[string]BlockDoc) {
	t.Helper()
	db, err := loaded()
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	if err := os.WriteFile(filepath.Join(dir, "slowroot.db"), db, 0o600); err != nil {
		t.Fatal(err)
	}
	s, _ := serviceOn(t, dir)
	docs, err := s.Blocks(ctx)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]BlockDoc{}
	for _, b := range docs {
		out[b.Block.Name] = b
	}
	return s, out
}

func TestDemonstrationIsSound(t *testing.T) {
	s, d := service(t)
	if _, err := s.LoadDemonstration(ctx, d); err != nil {
		t.Fatal(err)
	}
	if _, err := s.LoadDemonstration(ctx, d); err == nil {
		t.Error("the demonstration was loaded over an estate")
	}
	o, err := s.Overview(ctx)
	if err != nil || len(o.Blocks) != 11 {
		t.Fatalf("%d blocks, %v", len(o.Blocks), err)
	}
	stages := map[document.Stage]int{}
	for _, b := range o.Blocks {
		if b.Problem != "" {
			t.Errorf("%s: %s", b.Name, b.Problem)
		}
		if ha := b.AreaM2 / 1e4; ha < 0.8 || ha > 9 {
			t.Errorf("%s has %.2f ha, outside 0.8 to 9", b.Name, ha)
		}
		stages[b.Stage]++
		// What was picked lies near what the plan expects, so that the demonstration teaches.
		for _, y := range b.Years {
			if y.Recorded && (y.PickedKg < 0.3*y.BlockKg || y.PickedKg > 1.5*y.BlockKg) {
				t.Errorf("%s %s: picked %.0f kg, expected %.0f", b.Name, y.Label, y.PickedKg, y.BlockKg)
			}
		}
	}
	if stages[document.Empty] != 1 || stages[document.Planted] != 6 || stages[document.Planned] != 4 {
		t.Errorf("stages %v", stages)
	}
}

func TestStaleWriteLosesNothing(t *testing.T) {
	s, b := demoEstate(t)
	foot := b["Orchard Foot"]
	first, err := s.ChangeBlock(ctx, "Ruan", foot.ID, foot.Revision, []byte(`{"planting":{"date":"2027-09-05"}}`))
	if err != nil {
		t.Fatal(err)
	}
	_, err = s.ChangeBlock(ctx, "Ilse", foot.ID, foot.Revision, []byte(`{"notes":"late"}`))
	var stale *Stale
	if !errors.As(err, &stale) || stale.Current.(BlockDoc).Revision != first.Revision || stale.Current.(BlockDoc).Block.Planting.Date.String() != "2027-09-05" {
		t.Fatalf("a stale write answered %v", err)
	}
	h, _ := s.History(ctx, store.Page{})
	if h[0].Who != "Ruan" || h[0].What != "Changed the planting date of Orchard Foot" {
		t.Errorf("history says %+v", h[0])
	}
	if _, err := s.Undo(ctx, "Ruan", h[0].ID); err != nil {
		t.Fatal(err)
	}
	if d, _ := s.Block(ctx, foot.ID); d.Block.Planting.Date.String() != "2027-08-16" {
		t.Errorf("undone date %s", d.Block.Planting.Date)
	}
}

func TestBadChangesNameTheField(t *testing.T) {
	s, b := demoEstate(t)
	foot, strip := b["Orchard Foot"], b["Long Strip"]
	for _, c := range []struct {
		id, patch, field string
		revision         int
	}{
		{foot.ID, `{"planting":{"layout":{"plantSpacingM":0}}}`, "planting.layout.plantSpacingM", foot.Revision},
		{foot.ID, `{"planting":{"sheet":"moonfruit"}}`, "planting.sheet", foot.Revision},
		{foot.ID, `{"planting":{"choices":{"layout":{"option":"spiral"}}}}`, "planting.choices.layout", foot.Revision},
		{foot.ID, `{"planting":{"date":"1066-10-14"}}`, "body", foot.Revision},
		{foot.ID, `{"planting":{"planted":"2027-01-01"}}`, "planting", foot.Revision},
		{foot.ID, `{"planting":{"survival":7}}`, "survival", foot.Revision},
		{foot.ID, `{"name":""}`, "name", foot.Revision},
		{foot.ID, `{"colour":"blue"}`, "body", foot.Revision},
		{foot.ID, `[1]`, "body", foot.Revision},
		{strip.ID, `{"planting":null}`, "planting", strip.Revision},
		{strip.ID, `{"planting":{"asPlanted":null}}`, "planting", strip.Revision},
		{strip.ID, `{"planting":{"end":{"on":"2020-01-01","how":"grubbed"}}}`, "planting", strip.Revision},
	} {
		_, err := s.ChangeBlock(ctx, "x", c.id, c.revision, []byte(c.patch))
		var fe *finding.FieldError
		if !errors.As(err, &fe) || fe.Field != c.field {
			t.Errorf("%s: %v, want field %s", c.patch, err, c.field)
		}
	}
	if d, _ := s.Block(ctx, foot.ID); d.Revision != foot.Revision {
		t.Error("a refused change raised the revision")
	}
}

func TestPreviewWritesNothing(t *testing.T) {
	s, b := demoEstate(t)
	foot := b["Orchard Foot"]
	before, _ := s.Plan(ctx, foot.ID)
	p, err := s.Preview(ctx, foot.ID, []byte(`{"planting":{"layout":{"plantSpacingM":6}}}`))
	if err != nil {
		t.Fatal(err)
	}
	a, _ := before.Figure("rows.stations")
	c, _ := p.Figure("rows.stations")
	if c.Value > a.Value*0.6 {
		t.Errorf("twice the spacing gives %.0f stations instead of %.0f", c.Value, a.Value)
	}
	after, _ := s.Plan(ctx, foot.ID)
	if !reflect.DeepEqual(before, after) {
		t.Error("a preview changed the plan")
	}
}

func TestAdoptThenPlantFixesTheLayout(t *testing.T) {
	s, b := demoEstate(t)
	foot := b["Orchard Foot"]
	d, err := s.Adopt(ctx, "Tamsin", foot.ID, foot.Revision)
	if err != nil {
		t.Fatal(err)
	}
	if p := d.Block.Planting; p.AdoptedBy != "Tamsin" || p.SheetDigest == "" || len(p.Baseline) < 20 || p.Baseline["plant"].String() != "2027-08-16" {
		t.Fatalf("adopted %+v", p)
	}
	d, err = s.ChangeBlock(ctx, "Tamsin", foot.ID, d.Revision, []byte(`{"planting":{"date":"2027-09-06"}}`))
	if err != nil {
		t.Fatal(err)
	}
	p, _ := s.Plan(ctx, foot.ID)
	if !has(p, "schedule.moved") {
		t.Error("a moved planting date is not shown against the baseline")
	}
	if _, err := s.RecordPlanted(ctx, "Ruan", foot.ID, d.Revision, civil.Must(2028, 1, 1)); err == nil {
		t.Error("a planting was recorded for a day to come")
	}
	d, err = s.RecordPlanted(ctx, "Ruan", foot.ID, d.Revision, civil.Must(2027, 3, 10))
	if err != nil {
		t.Fatal(err)
	}
	as := d.Block.Planting.AsPlanted
	n := 0
	seen := map[string]bool{}
	for _, r := range as.Rows {
		for i := range r.N {
			seen[r.Number(i)] = true
			n++
			if q := r.At(i); q.Lat > -37.99 || q.Lat < -38.01 {
				t.Fatalf("station %s stands at %v", r.Number(i), q)
			}
		}
	}
	if n != as.Stations || len(seen) != n {
		t.Fatalf("%d numbers for %d stations (%d said)", len(seen), n, as.Stations)
	}
	// A later change of mind moves nothing in the ground; it is shown.
	d, err = s.ChangeBlock(ctx, "Ilse", foot.ID, d.Revision, []byte(`{"planting":{"layout":{"plantSpacingM":4}}}`))
	if err != nil {
		t.Fatal(err)
	}
	if !reflect.DeepEqual(d.Block.Planting.AsPlanted, as) {
		t.Error("a choice moved standing plants")
	}
	p, _ = s.Plan(ctx, foot.ID)
	f, _ := p.Figure("rows.stations")
	if int(f.Value) != as.Stations || !has(p, "rows.differs-from-planted") {
		t.Errorf("%v stations shown, %d stand", f.Value, as.Stations)
	}
	for _, fd := range p.Findings { // its remedy takes the choice back
		if fd.Rule == "rows.differs-from-planted" {
			patch, _ := json.Marshal(fd.Remedies[0].Patch)
			if _, err = s.ChangeBlock(ctx, "Ilse", foot.ID, d.Revision, patch); err != nil {
				t.Fatal(err)
			}
		}
	}
	if p, _ = s.Plan(ctx, foot.ID); has(p, "rows.differs-from-planted") {
		t.Error("the remedy did not mend the difference")
	}
}

func has(p *plan.Plan, rule string) bool {
	for _, f := range p.Findings {
		if f.Rule == rule {
			return true
		}
	}
	return false
}

// The sheet a plan was adopted with stays, whatever the library says later.
func TestAdoptedSheetIsKept(t *testing.T) {
	s, b := demoEstate(t)
	foot := b["Orchard Foot"]
	d, err := s.Adopt(ctx, "Tamsin", foot.ID, foot.Revision)
	if err != nil {
		t.Fatal(err)
	}
	sheet, _ := s.sheets.Get("persimmon")
	newer := *sheet
	newer.Digest = "0000000000000000"
	newer.Life.Base = 12
	s.sheets = practice.LibraryOf(&newer)
	p, err := s.Plan(ctx, foot.ID)
	if err != nil || len(p.Years) != sheet.Life.Base || !has(p, "sheet.newer") {
		t.Fatalf("%v years after a new version of the sheet, %v", len(p.Years), err)
	}
	if _, err := s.ChangeBlock(ctx, "T", foot.ID, d.Revision, []byte(`{"planting":{"sheetDigest":null}}`)); err != nil {
		t.Fatal(err)
	}
	if p, _ = s.Plan(ctx, foot.ID); len(p.Years) != 12 || has(p, "sheet.newer") {
		t.Error("taking the new sheet over did nothing")
	}
}

func TestBeginAndWorking(t *testing.T) {
	s, _ := service(t)
	if _, err := s.Overview(ctx); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("no estate: %v", err)
	}
	if _, err := s.Begin(ctx, " ", "", units.Metric, true, "", nil); err == nil {
		t.Error("a nameless estate was begun")
	}
	if _, err := s.Begin(ctx, "Hill Farm", "", units.Metric, true, "", &geo.Point{Lat: 91}); err == nil {
		t.Error("an estate lies beyond the pole")
	}
	e, err := s.Begin(ctx, "Hill Farm", "up there", units.US, false, "A. Grower", &geo.Point{Lon: 12, Lat: 46})
	if at, ok := s.middle(ctx); !ok || at.Lat != 46 {
		t.Errorf("without a block the estate lies at %+v", at)
	}
	if err != nil || e.Estate.Seasons[0].From != "03-01" {
		t.Fatalf("%+v, %v", e, err)
	}
	if _, err := s.ChangeEstate(ctx, "A", e.Revision, []byte(`{"units":"furlongs"}`)); err == nil {
		t.Error("units of furlongs")
	}
	if _, err := s.ChangeEstate(ctx, "A", e.Revision+5, []byte(`{}`)); !errors.Is(err, store.ErrStale) {
		t.Error("stale estate write")
	}
	s2, b := demoEstate(t)
	id := b["North Bank"].ID
	p, err := s2.Plan(ctx, id)
	if err != nil {
		t.Fatal(err)
	}
	paths := []string{"yield.2030", "feed.n.2030", "job.prune", "job.renew@9"}
	for _, f := range p.Figures {
		paths = append(paths, f.Path)
	}
	for _, path := range paths {
		steps, err := s2.Working(ctx, id, path)
		if path == "job.prune" {
			if !errors.Is(err, store.ErrNotFound) {
				t.Errorf("a figure that does not exist: %v", err)
			}
			continue
		}
		if err != nil || len(steps) == 0 || steps[0].Formula == "" {
			t.Errorf("%s has no working: %v", path, err)
		}
	}
}

func TestFarBoundariesAreDoubted(t *testing.T) {
	s, _ := demoEstate(t)
	for text, doubt := range map[string]bool{
		`{"type":"Polygon","coordinates":[[[172.1,-38],[172.102,-38],[172.102,-37.999],[172.1,-38]]]}`: false,
		`{"type":"Polygon","coordinates":[[[10,45],[10.002,45],[10.002,45.001],[10,45]]]}`:             true,
	} {
		list, err := s.ReadBoundaries(ctx, []byte(text))
		if err != nil || len(list) != 1 || (list[0].Doubt != "") != doubt || list[0].Problem != "" {
			t.Errorf("%s: %+v, %v", text, list, err)
		}
	}
}

func TestJobsOfTheEstate(t *testing.T) {
	s, _ := demoEstate(t)
	jobs, err := s.Jobs(ctx, civil.Must(2027, 3, 1), civil.Must(2027, 9, 30))
	if err != nil || len(jobs) < 30 {
		t.Fatalf("%d jobs, %v", len(jobs), err)
	}
	for i, j := range jobs {
		if i > 0 && j.Job.From.Before(jobs[i-1].Job.From) {
			t.Fatal("jobs are out of order")
		}
		if j.Job.By.Before(civil.Must(2027, 3, 1)) && !j.Job.Passed && !j.Job.Late {
			t.Errorf("%s lies before the span", j.Job.Name)
		}
		if strings.Contains(j.Job.Name, "NaN") || strings.Contains(j.Job.Detail, "NaN") {
			t.Errorf("%+v", j)
		}
	}
	if _, err := s.Jobs(ctx, civil.Must(2027, 9, 30), civil.Must(2027, 3, 1)); err == nil {
		t.Error("a span that runs backwards")
	}
}

func BenchmarkOverviewDemonstration(b *testing.B) {
	s, _ := demoEstate(b)
	if _, err := s.Overview(ctx); err != nil { // the lie of the land is surveyed once
		b.Fatal(err)
	}
	for b.Loop() {
		if _, err := s.Overview(ctx); err != nil {
			b.Fatal(err)
		}
	}
}

func demoFiles(t testing.TB) fs.FS {
	t.Helper()
	return demo.Files
}

// spoil changes one character of a block on the disk.
func spoil(t *testing.T, dir, id string) {
	t.Helper()
	db, err := sql.Open("sqlite", "file:"+filepath.Join(dir, store.FileName))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	if _, err := db.Exec(`UPDATE document SET body = replace(body, '"name"', '"nane"') WHERE id = ?`, id); err != nil {
		t.Fatal(err)
	}
}
