package store

import (
	"errors"
	"fmt"
	"math/rand"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

func step(t *testing.T, s *Store, who, id, body string) {
	t.Helper()
	d, err := s.Block(ctx, id)
	if err != nil && !errors.Is(err, ErrNotFound) {
		t.Fatal(err)
	}
	if _, err := s.Apply(ctx, who, who+" wrote", Write{Kind: BlockDoc, ID: id, Revision: d.Revision, Body: []byte(body)}); err != nil {
		t.Fatal(err)
	}
}

func stands(t *testing.T, s *Store, id, want string) {
	t.Helper()
	d, err := s.Block(ctx, id)
	if err != nil && !errors.Is(err, ErrNotFound) {
		t.Fatal(err)
	}
	if string(d.Body) != want {
		t.Errorf("%s holds %s, want %s", id, d.Body, want)
	}
}

// Each takes back their own changes, several steps, and makes them again; what another did since is not run over.
func TestEachUndoesTheirOwn(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	take := func(who string, deed Deed) error {
		t.Helper()
		n, err := s.Steps(ctx, who)
		if err != nil {
			t.Fatal(err)
		}
		c, f := n.Undo, s.Undo
		if deed == Redo {
			c, f = n.Redo, s.Redo
		}
		if c == nil {
			return ErrNoChange
		}
		_, err = f(ctx, who, c.ID)
		return err
	}
	step(t, s, "Ana", "a", `{"v":1}`)
	step(t, s, "Ana", "a", `{"v":2}`)
	step(t, s, "Ben", "b", `{"v":1}`)
	step(t, s, "Ana", "a", `{"v":3}`)
	for _, want := range []string{`{"v":2}`, `{"v":1}`} {
		if err := take("Ana", Undo); err != nil {
			t.Fatal(err)
		}
		stands(t, s, "a", want)
	}
	stands(t, s, "b", `{"v":1}`)
	if err := take("Ana", Redo); err != nil {
		t.Fatal(err)
	}
	stands(t, s, "a", `{"v":2}`)
	step(t, s, "Ben", "a", `{"v":9}`) // Ben goes on from there
	var moved *MovedOn
	if err := take("Ana", Redo); !errors.As(err, &moved) || moved.Later.Who != "Ben" || !strings.Contains(err.Error(), "Ben") {
		t.Errorf("redo over Ben's change: %v", err)
	}
	if err := take("Ana", Undo); !errors.As(err, &moved) {
		t.Errorf("undo under Ben's change: %v", err)
	}
	stands(t, s, "a", `{"v":9}`)
	if err := take("Ben", Undo); err != nil {
		t.Fatal(err)
	}
	if err := take("Ana", Redo); err != nil {
		t.Errorf("Ben's change is undone, and still: %v", err)
	}
	stands(t, s, "a", `{"v":3}`)
	if err := take("Ben", Redo); !errors.As(err, &moved) {
		t.Errorf("Ben's redo over what Ana made again: %v", err)
	}
	step(t, s, "Ana", "a", `{"v":4}`)
	if err := take("Ana", Redo); !errors.Is(err, ErrNoChange) {
		t.Errorf("something is left to redo after a new change: %v", err)
	}
	if n, _ := s.Steps(ctx, "Cy"); n.Undo != nil || n.Redo != nil {
		t.Errorf("Cy did nothing and is offered %+v", n)
	}
}

// A random walk of changes, undos and redos of one person goes through the states it went through.
func TestUndoAndRedoAreAWalkAlongAList(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	rnd := rand.New(rand.NewSource(11))
	states, at := []string{""}, 0
	for n := range 300 {
		steps, err := s.Steps(ctx, "w")
		if err != nil {
			t.Fatal(err)
		}
		if (steps.Undo != nil) != (at > 0) || (steps.Redo != nil) != (at < len(states)-1) {
			t.Fatalf("step %d at %d of %d: %+v", n, at, len(states)-1, steps)
		}
		switch rnd.Intn(3) {
		case 0:
			body := fmt.Sprintf(`{"v":%d}`, n)
			step(t, s, "w", "a", body)
			states, at = append(states[:at+1], body), at+1
		case 1:
			if steps.Undo == nil {
				continue
			}
			if _, err := s.Undo(ctx, "w", steps.Undo.ID); err != nil {
				t.Fatal(n, err)
			}
			at--
		default:
			if steps.Redo == nil {
				continue
			}
			if _, err := s.Redo(ctx, "w", steps.Redo.ID); err != nil {
				t.Fatal(n, err)
			}
			at++
		}
		stands(t, s, "a", states[at])
	}
}

// The undo of a planting moves the revision of its block, by which readers hold it.
func TestUndoOfAPlantingMovesItsBlock(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	step(t, s, "w", "b", `{"v":1}`)
	if _, err := s.Apply(ctx, "w", "planned", Write{Kind: BlockDoc, ID: "b", Revision: 1, Body: []byte(`{"v":1}`)}, Write{Kind: PlantingDoc, ID: "p", Parent: "b", Body: []byte(`{}`)}); err != nil {
		t.Fatal(err)
	}
	steps, _ := s.Steps(ctx, "w")
	items, err := s.Items(ctx, steps.Undo.ID)
	if err != nil || len(items) != 1 || items[0].Kind != PlantingDoc || items[0].Before != nil || string(items[0].After) != `{}` || items[0].Block != "b" {
		t.Errorf("the change holds %+v, %v", items, err)
	}
	if _, err := s.Undo(ctx, "w", steps.Undo.ID); err != nil {
		t.Fatal(err)
	}
	if d, _ := s.Block(ctx, "b"); d.Revision != 3 {
		t.Errorf("the block stands at revision %d", d.Revision)
	}
	if list, _ := s.Of(ctx, PlantingDoc, "b"); len(list) != 0 {
		t.Errorf("%d plantings are left", len(list))
	}
	page, err := s.History(ctx, Page{Block: "b", N: 10})
	if err != nil || len(page) != 3 {
		t.Errorf("the block's history: %+v %v", page, err)
	}
	if page, _ := s.History(ctx, Page{Block: "b", Before: page[0].ID, N: 1}); len(page) != 1 || page[0].What != "planned" {
		t.Errorf("the page before: %+v", page)
	}
}

// Records are kept once, never changed, never taken away; undo does not touch them.
func TestRecordsStay(t *testing.T) {
	s := openStore(t, t.TempDir(), Options{})
	step(t, s, "w", "b", `{"v":1}`)
	one := Entry{ID: "r1", Block: "b", Planting: "p", Operation: "lime", Kind: "done", Day: "2027-03-01", Who: "w", Body: []byte(`{"note":"x"}`)}
	for want := 1; want >= 0; want-- {
		if n, err := s.Append(ctx, one); err != nil || n != want {
			t.Fatalf("kept %d, %v", n, err)
		}
	}
	other := one
	other.Day = "2027-03-02"
	if _, err := s.Append(ctx, other); !errors.Is(err, ErrOtherRecord) {
		t.Errorf("another record under the same id: %v", err)
	}
	other.ID, other.Corrects = "r2", "nothing"
	if _, err := s.Append(ctx, other); !errors.Is(err, ErrNotFound) {
		t.Errorf("a correction of nothing: %v", err)
	}
	other.Corrects = "r1"
	if n, err := s.Append(ctx, other); n != 1 || err != nil {
		t.Fatal(n, err)
	}
	steps, _ := s.Steps(ctx, "w")
	if _, err := s.Undo(ctx, "w", steps.Undo.ID); err != nil {
		t.Fatal(err)
	}
	for _, q := range []string{`DELETE FROM record`, `UPDATE record SET day = ''`} {
		if _, err := s.db.ExecContext(ctx, q); err == nil {
			t.Errorf("%s went through", q)
		}
	}
	list, err := s.Records(ctx, "b")
	if err != nil || len(list) != 2 || list[1].Corrects != "r1" || string(list[0].Body) != `{"note":"x"}` {
		t.Errorf("%+v %v", list, err)
	}
}

// 2,000 edits of a block of 5.6 kB stay small.
func TestHistoryStaysSmall(t *testing.T) {
	dir := t.TempDir()
	s := openStore(t, dir, Options{})
	rnd := rand.New(rand.NewSource(5))
	points := make([]string, 150) // a boundary surveyed finely: what hardly packs
	for i := range points {
		points[i] = fmt.Sprintf(`{"lon":%.8f,"lat":%.8f}`, 10+rnd.Float64()/100, 45+rnd.Float64()/100)
	}
	rest := strings.Join(points, ",")
	for n := range 2000 {
		step(t, s, "w", "b", fmt.Sprintf(`{"name":"Lower rows","n":%d,"points":[%s]}`, n, rest))
	}
	d, _ := s.Block(ctx, "b")
	if err := s.Close(); err != nil {
		t.Fatal(err)
	}
	info, err := os.Stat(filepath.Join(dir, FileName))
	if err != nil {
		t.Fatal(err)
	}
	t.Logf("a block of %d bytes, 2000 edits: %d kB", len(d.Body), info.Size()>>10)
	if len(d.Body) < 5600 || info.Size() > 2<<20 {
		t.Errorf("a block of %d bytes and 2000 edits take %d bytes", len(d.Body), info.Size())
	}
}
