package estate

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"io"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"sort"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/plan"
	"slowroot/core/practice"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/yield"
	"slowroot/internal/store"
)

func gunzip(t testing.TB, name string) []byte {
	t.Helper()
	f, err := os.Open(filepath.Join("testdata", name))
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	z, err := gzip.NewReader(f)
	if err != nil {
		t.Fatal(err)
	}
	text, err := io.ReadAll(z)
	if err != nil {
		t.Fatal(err)
	}
	return text
}

// form1 is a folder as the version of form 1 left it: plantings, a crop considered, work done and not needed, pickings,
// a note kept, a change undone. form1.plans.json.gz is what that version computed from it.
func form1(t testing.TB) *Service {
	t.Helper()
	dir := t.TempDir()
	if err := os.WriteFile(filepath.Join(dir, store.FileName), gunzip(t, "form1.db.gz"), 0o600); err != nil {
		t.Fatal(err)
	}
	s, _ := serviceOn(t, dir)
	return s
}

// An older folder opens with everything in it, and every number is what it was.
func TestAnOlderFolderOpensWhole(t *testing.T) {
	s := form1(t)
	var was map[string]struct {
		Figures  map[string]any
		Jobs     map[string][4]string
		Years    [][3]float64
		Findings []string
	}
	if err := json.Unmarshal(gunzip(t, "form1.plans.json.gz"), &was); err != nil {
		t.Fatal(err)
	}
	docs, err := s.Blocks(ctx)
	if err != nil || len(docs) != len(was) {
		t.Fatalf("%d blocks, %v", len(docs), err)
	}
	for _, d := range docs {
		p, err := s.Plan(ctx, d.ID)
		if err != nil {
			t.Errorf("%s: %v", d.Block.Name, err)
			continue
		}
		w := was[d.Block.Name]
		p.Jobs = slices.DeleteFunc(p.Jobs, func(j report.Job) bool { return strings.HasPrefix(j.Key, yield.Flowering) || j.Key == practice.ReadyOp }) // since
		if len(p.Figures) < len(w.Figures) || len(p.Jobs) != len(w.Jobs) || len(p.Years) != len(w.Years) {
			t.Errorf("%s: %d figures, %d jobs, %d years; it had %d, %d, %d", d.Block.Name, len(p.Figures), len(p.Jobs), len(p.Years), len(w.Figures), len(w.Jobs),
				len(w.Years))
			continue
		}
		delete(w.Figures, "site.water") // by the crop's own coefficients since, not by one for all
		for _, f := range p.Figures {
			switch old := w.Figures[f.Path].(type) {
			case nil: // a figure that came since
			case float64:
				if math.Abs(old-f.Value) > 1e-7*math.Max(1, math.Abs(old)) { // the lie of the land is projected through a net since
					t.Errorf("%s: %s is %g, it was %g", d.Block.Name, f.Path, f.Value, old)
				}
			default:
				if old != f.Text {
					t.Errorf("%s: %s is %q, it was %v", d.Block.Name, f.Path, f.Text, old)
				}
			}
		}
		for path := range w.Figures {
			if _, ok := p.Figure(path); !ok {
				t.Errorf("%s: the figure %s is gone", d.Block.Name, path)
			}
		}
		for _, j := range p.Jobs {
			now := [4]string{text(j.From), text(j.By), text(j.Done), j.NotNeeded}
			if j.Key == "rip" || j.Key == "drains" { // since: while the ground is dry, so by an earlier day or the same
				if old := w.Jobs[j.Key]; now[0] > old[0] || now[1] > old[1] || now[2] != old[2] {
					t.Errorf("%s: job %s is %v, it was %v", d.Block.Name, j.Key, now, old)
				}
				continue
			}
			if w.Jobs[j.Key] != now {
				t.Errorf("%s: job %s is %v, it was %v", d.Block.Name, j.Key, now, w.Jobs[j.Key])
			}
		}
		for i, y := range p.Years {
			picked := -1.0
			if y.Recorded {
				picked = y.PickedKg
			}
			if o := w.Years[i]; o[0] != float64(y.Season) || math.Abs(o[1]-y.PerHa.Base) > 1e-9 || o[2] != picked {
				t.Errorf("%s: year %v, it was %v", d.Block.Name, y, o)
			}
		}
		var rules []string
		for _, f := range p.Findings {
			if since[f.Rule] {
				continue
			}
			rules = append(rules, f.Rule+" "+string(f.Weight)) // form 1 wrote what it was about into the rule
		}
		sort.Strings(rules)
		placed := regexp.MustCompile(`^(soil\.wet-ask|soil\.rip|soil\.estimate|works\.late|prepare\.order)-\S+`)
		for i, f := range w.Findings {
			w.Findings[i] = placed.ReplaceAllString(f, "$1")
		}
		w.Findings = slices.DeleteFunc(w.Findings, func(f string) bool { // what stood out of its order is put into it now, where it can be
			return strings.HasPrefix(f, "prepare.order ") && !slices.Contains(rules, f)
		})
		sort.Strings(w.Findings)
		if a, b := strings.Join(rules, "\n"), strings.Join(w.Findings, "\n"); a != b {
			t.Errorf("%s: findings\n%s\nthey were\n%s", d.Block.Name, a, b)
		}
	}
	gate := named(t, s, "Gate Field")
	if gate.Block.Planting == nil || !gate.Block.Planting.Considered || len(gate.records) != 2 {
		t.Errorf("the crop considered on Gate Field: %+v, %d records", gate.Block.Planting, len(gate.records))
	}
}

// since are the rules that came after form 1: they say more of the same plan.
var since = map[string]bool{"feed.removal": true, "feed.below-removal": true, "practice.disagrees": true, "harvest.bloom": true,
	"harvest.bloom-disagrees": true,
	"network.out-of-order":    true, "network.conflict": true}

func text(d civil.Date) string {
	if d.IsZero() {
		return ""
	}
	return d.String()
}

func named(t testing.TB, s *Service, name string) BlockDoc {
	t.Helper()
	docs, err := s.Blocks(ctx)
	if err != nil {
		t.Fatal(err)
	}
	for _, d := range docs {
		if d.Block.Name == name {
			return d
		}
	}
	t.Fatalf("no block %s", name)
	return BlockDoc{}
}

// What was changed before the form changed can still be taken back, and made again; records stay.
func TestUndoAcrossForms(t *testing.T) {
	s := form1(t)
	h, err := s.History(ctx, store.Page{})
	if err != nil {
		t.Fatal(err)
	}
	if h[0].Who != "slowroot" || len(h) < 8 {
		t.Fatalf("%+v", h[0])
	}
	before := named(t, s, "Gate Field")
	// the last of the nameless reader that stands: the note kept on Orchard Foot
	n, err := s.Steps(ctx, "")
	if err != nil || n.Undo == nil {
		t.Fatal(n, err)
	}
	_, err = s.Undo(ctx, "", n.Undo.ID)
	var moved *store.MovedOn
	if err == nil {
		t.Log("undone")
	} else if !asMoved(err, &moved) {
		t.Fatal(err)
	}
	if after := named(t, s, "Gate Field"); len(after.records) != len(before.records) || after.Block.Planting == nil {
		t.Errorf("an undo took records: %d of %d", len(after.records), len(before.records))
	}
}

func asMoved(err error, to **store.MovedOn) bool {
	for ; err != nil; err = unwrap(err) {
		if m, ok := err.(*store.MovedOn); ok {
			*to = m
			return true
		}
	}
	return false
}

func unwrap(err error) error {
	if u, ok := err.(interface{ Unwrap() error }); ok {
		return u.Unwrap()
	}
	return nil
}

// The whole story of a block: considered, planned, planted, picked, ended; the next waits for what stood.
func TestAStory(t *testing.T) {
	s, docs := demoEstate(t)
	gate := docs["Gate Field"]
	d, err := s.AddPlanting(ctx, "Ruan", gate.ID, gate.Revision, document.Planting{Considered: true, Sheet: "hazelnut"})
	if err != nil {
		t.Fatal(err)
	}
	if d.Block.Planting == nil || d.Block.Planting.Date.IsZero() || d.Plantings[len(d.Plantings)-1].Stage != document.Considered {
		t.Fatalf("%+v", d.Plantings)
	}
	p, err := s.Plan(ctx, gate.ID)
	if err != nil || p.Stage != document.Considered {
		t.Fatal(p.Stage, err)
	}
	job := p.Jobs[0].Key
	send := record.Record{ID: "c1", Planting: d.Block.Planting.ID, Kind: record.Done, Operation: job, Day: civil.Must(2027, 3, 1)}
	for range 2 { // a record sent twice is kept once
		if got, err := s.Record(ctx, "Ruan", gate.ID, []record.Record{send}); err != nil || len(got) != len(gate.records)+1 {
			t.Fatalf("%d records, %v", len(got), err)
		}
	}
	// Considered becomes planned: nothing that was said is lost.
	d, err = s.ChangeBlock(ctx, "Ruan", gate.ID, d.Revision, []byte(`{"planting":{"considered":null}}`))
	if err != nil {
		t.Fatal(err)
	}
	p, _ = s.Plan(ctx, gate.ID)
	if p.Stage != document.Planned || jobOf(p, job).Done != send.Day {
		t.Errorf("%s, %+v", p.Stage, jobOf(p, job))
	}
	// A planner's undo takes no record back.
	n, _ := s.Steps(ctx, "Ruan")
	if _, err := s.Undo(ctx, "Ruan", n.Undo.ID); err != nil {
		t.Fatal(err)
	}
	p, _ = s.Plan(ctx, gate.ID)
	if p.Stage != document.Considered || jobOf(p, job).Done != send.Day {
		t.Errorf("after the undo: %s, %+v", p.Stage, jobOf(p, job))
	}
	n, _ = s.Steps(ctx, "Ruan")
	if _, err := s.Redo(ctx, "Ruan", n.Redo.ID); err != nil {
		t.Fatal(err)
	}
	d, _ = s.Block(ctx, gate.ID)
	if d, err = s.RecordPlanted(ctx, "Ruan", gate.ID, d.Revision, civil.Must(2027, 3, 10)); err != nil {
		t.Fatal(err)
	}
	first := d.Block.Planting.ID
	if _, err := s.EndPlanting(ctx, "Ruan", gate.ID, d.Revision, document.End{On: civil.Must(2027, 3, 12), How: "sold"}); err == nil {
		t.Error("a way nothing ends")
	}
	if d, err = s.EndPlanting(ctx, "Ruan", gate.ID, d.Revision, document.End{On: civil.Must(2027, 3, 12), How: "died", Why: "frost"}); err != nil {
		t.Fatal(err)
	}
	// Seen as it is under way nothing stands; its story is there when it is asked for.
	now, _ := s.Block(ctx, gate.ID)
	if now.Block.Planting != nil {
		t.Errorf("something is under way: %+v", now.Plantings)
	}
	old, err := s.Plan(Seen(ctx, first), gate.ID)
	if err != nil || old.Stage != document.Ended || len(old.Rows) == 0 {
		t.Errorf("the ended stand: %v, %v", old.Stage, err)
	}
	next, err := s.AddPlanting(ctx, "Ruan", gate.ID, now.Revision, document.Planting{Sheet: "hazelnut", Date: civil.Must(2028, 7, 1)})
	if err != nil {
		t.Fatal(err)
	}
	p, _ = s.Plan(Seen(ctx, next.Block.Planting.ID), gate.ID)
	waits := ""
	for _, w := range p.Soil.Waits {
		waits += w.Kind + " "
	}
	if !strings.Contains(waits, "same-tree") || jobOf(p, job).Done == send.Day {
		t.Errorf("the next planting waits for %q, its first job is %+v", waits, jobOf(p, job))
	}
	if _, err := s.Plan(Seen(ctx, "nope"), gate.ID); err == nil {
		t.Error("a planting nobody knows is planned")
	}
	if _, err := s.Record(ctx, "x", gate.ID, []record.Record{{ID: "z", Planting: "nope", Kind: record.Done, Operation: "a", Day: civil.Must(2027, 3,
		1)}}); refusedField(t, err) != "planting" {
		t.Errorf("a record of nothing: %v", err)
	}
}

func jobOf(p *plan.Plan, key string) report.Job {
	for _, j := range p.Jobs {
		if j.Key == key {
			return j
		}
	}
	return report.Job{}
}

// A change says in words what it changed, before and after.
func TestChangesInWords(t *testing.T) {
	s, docs := demoEstate(t)
	d := docs["Orchard Foot"]
	pits, _ := json.Marshal(d.Block.Pits)
	var list []map[string]any
	_ = json.Unmarshal(pits, &list)
	list[0]["layers"].([]any)[1].(map[string]any)["stonesPct"] = 8.0
	patch, _ := json.Marshal(map[string]any{"pits": list, "planting": map[string]any{"date": "2027-09-01"}})
	if _, err := s.ChangeBlock(ctx, "Ruan", d.ID, d.Revision, patch); err != nil {
		t.Fatal(err)
	}
	h, _ := s.History(ctx, store.Page{Block: d.ID, Who: "Ruan"})
	diff, err := s.Differences(ctx, h[0].ID)
	if err != nil || len(diff) != 2 {
		t.Fatalf("%+v %v", diff, err)
	}
	all := ""
	for _, x := range diff {
		all += x.Words + ": " + x.Was + " → " + x.Is + "\n"
	}
	for _, want := range []string{"second layer › stones, %: ", "→ 8\n", "planting › date: 2027-08-16 → 2027-09-01"} {
		if !strings.Contains(all, want) {
			t.Errorf("%q is not in\n%s", want, all)
		}
	}
}

// A copy of an older form, and an archive, are put in place while the program runs and read as what they are.
func TestAnOlderCopyIsPutInPlace(t *testing.T) {
	s, _ := demoEstate(t)
	r, err := s.Restore(ctx, bytes.NewReader(gunzip(t, "form1.db.gz")))
	if err != nil || r.Blocks != 8 {
		t.Fatalf("%+v %v", r, err)
	}
	gate := named(t, s, "Gate Field")
	if gate.Block.Planting == nil || len(gate.records) != 2 {
		t.Errorf("Gate Field: %+v, %d records", gate.Block.Planting, len(gate.records))
	}
	var archive bytes.Buffer
	if err := s.TakeArchive(ctx, &archive); err != nil {
		t.Fatal(err)
	}
	fresh, _ := demoEstate(t)
	if _, err := fresh.Restore(ctx, bytes.NewReader(archive.Bytes())); err != nil {
		t.Fatal(err)
	}
	again := named(t, fresh, "Gate Field")
	if again.ID != gate.ID || len(again.records) != 2 || again.Block.Planting.ID != gate.Block.Planting.ID {
		t.Errorf("from the archive: %+v", again)
	}
	if _, err := fresh.Plan(ctx, gate.ID); err != nil {
		t.Error(err)
	}
}
