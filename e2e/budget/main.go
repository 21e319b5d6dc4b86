// Command budget measures what the program promises to be quick at and prints it beside the budget:
// make bench. It exits non-zero when a budget is broken.
package main

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"log"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"sort"
	"strconv"
	"strings"
	"time"

	"slowroot/e2e/drive"
)

var broken bool

func report(what string, got, budget float64, unit string) {
	mark := "within"
	if got > budget {
		mark, broken = "OVER", true
	}
	fmt.Printf("%-62s %9.2f %-5s budget %g %s  %s\n", what, got, unit, budget, unit, mark)
}

func main() {
	if err := run(); err != nil {
		log.Fatal(err)
	}
	if broken {
		os.Exit(1)
	}
}

func run() error {
	for _, b := range []struct {
		pkg, name, what string
		budgetMS        float64
	}{
		{"./core/plan", "BenchmarkComputeHazelnut", "plan of one block over 35 years", 5},
		{"./core/plan", "BenchmarkEveryCropOnOneBlock", "all 24 crops planned for their lives on one block", 150},
		{"./core/plan", "BenchmarkLibrary", "library of sheets read and checked, once at start", 40},
		{"./core/schedule", "BenchmarkNetworkOfAnEstate", "network of 200 blocks and 20 000 jobs", 30},
		{"./internal/estate", "BenchmarkOverviewDemonstration", "whole demonstration estate of eleven blocks, from the store", 68},
		{"./core/layout", "BenchmarkPlace100000", "100 000 stations placed", 50},
		{"./core/layout", "BenchmarkMillionStations", "1 000 000 stations as pieces of row", 30},
		{"./core/layout", "BenchmarkMillionPoints", "1 000 000 stations as points", 150},
		{"./core/layout", "BenchmarkBearings", "all 180 bearings of 10 ha", 300},
		{"./core/plan", "BenchmarkForksHazelnut", "every way of every fork of a block", 100},
		{"./core/plan", "BenchmarkMatrix30x200", "fit of 30 crops on 200 blocks", 200},
		{"./core/drainage", "BenchmarkSpacing", "one drain spacing", 0.05},
		{"./core/drainage", "BenchmarkNetwork20ha", "drains of 20 ha at 12 m", 100},
		{"./core/terrain", "BenchmarkGrid1000", "1 000 × 1 000 heights to slope and contours", 1000},
	} {
		ms, err := bench(b.pkg, b.name)
		if err != nil {
			return err
		}
		report(b.what, ms, b.budgetMS, "ms")
	}
	kb, err := initialScript("web/dist")
	if err != nil {
		return err
	}
	report("initial script, gzipped", kb, 250, "kB")
	return served()
}

var nsPerOp = regexp.MustCompile(`([\d.]+) ns/op`)

func bench(pkg, name string) (float64, error) {
	out, err := exec.Command("go", "test", pkg, "-run", "^$", "-bench", "^"+name+"$", "-benchtime", "1s").CombinedOutput()
	m := nsPerOp.FindSubmatch(out)
	if err != nil || m == nil {
		return 0, fmt.Errorf("%s: %v\n%s", name, err, out)
	}
	ns, err := strconv.ParseFloat(string(m[1]), 64)
	return ns / 1e6, err
}

// initialScript is what index.html makes the browser fetch before anything is seen: its scripts and the
// modules they import at once.
func initialScript(dist string) (float64, error) {
	html, err := os.ReadFile(filepath.Join(dist, "index.html"))
	if err != nil {
		return 0, err
	}
	total := 0
	for _, m := range regexp.MustCompile(`(?:src|href)="/(assets/[^"]+\.js)"`).FindAllSubmatch(html, -1) {
		text, err := os.ReadFile(filepath.Join(dist, string(m[1])))
		if err != nil {
			return 0, err
		}
		var b bytes.Buffer
		z, _ := gzip.NewWriterLevel(&b, 9)
		_, _ = z.Write(text)
		_ = z.Close()
		total += b.Len()
	}
	return float64(total) / 1000, nil
}

// What the screens ask for while rows, and while drains, are dragged.
const (
	laid    = "figures,findings,steps,preparation,spec,rows,beside,strips,orderBeside,years"
	drained = "figures,findings,steps,preparation,drains,works"
)

// served measures the running program: previews while something is dragged, and memory after every view.
func served() error {
	dir, err := os.MkdirTemp("", "slowroot-bench")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	prog, err := drive.Start("bin/slowroot", "demo", "--addr", "127.0.0.1:0", "--data", dir)
	if err != nil {
		return err
	}
	defer func() { _ = prog.Stop() }()
	var o struct{ Blocks []struct{ ID, Name string } }
	if err := get(prog.URL+"/api/v1/overview", &o); err != nil {
		return err
	}
	var worst []float64
	var sent int64
	for _, b := range o.Blocks {
		var took []float64
		for i := range 60 {
			body := fmt.Sprintf(`{"planting":{"layout":{"bearingDeg":%d}}}`, i*3)
			if strings.HasPrefix(b.Name, "Gate") {
				body = `{"planting":{"sheet":"willow","date":"2028-10-10","adoptedOn":"","baseDate":"","planted":"","layout":{"bearingDeg":` + strconv.Itoa(i*3) + `}}}`
			}
			ms, n, err := preview(prog.URL, b.ID, laid, body)
			if err != nil {
				return err
			}
			sent, took = max(sent, n), append(took, ms)
		}
		sort.Float64s(took)
		worst = append(worst, took[len(took)*95/100])
	}
	report("largest preview sent while rows are dragged", float64(sent)/1000, 60, "kB")
	if err := forks(prog.URL, o.Blocks[5].ID); err != nil {
		return err
	}
	if err := dragged(prog.URL, o.Blocks[5].ID); err != nil {
		return err
	}
	sort.Float64s(worst)
	report("preview of the slowest block, 95th percentile of 60", worst[len(worst)-1], 60, "ms")
	if err := visit(prog.URL, o.Blocks[0].ID, o.Blocks[5].ID, o.Blocks[6].ID, o.Blocks[7].ID); err != nil {
		fmt.Println("views not visited:", err)
		return err
	}
	rss, err := prog.PeakRSS()
	if err != nil {
		return err
	}
	report("peak resident memory after visiting every view", float64(rss)/1e6, 120, "MB")
	return nil
}

// preview asks as the screens do, for compressed answers: how long it took, ms, and how many bytes travelled.
func preview(url, id, parts, body string) (ms float64, sent int64, err error) {
	req, err := http.NewRequest("POST", url+"/api/v1/blocks/"+id+"/preview/"+parts, strings.NewReader(body))
	if err != nil {
		return 0, 0, err
	}
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Accept-Encoding", "gzip") // set here, it is not unpacked on the way in
	start := time.Now()
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return 0, 0, err
	}
	defer res.Body.Close()
	sent, err = io.Copy(io.Discard, res.Body)
	if err == nil && res.StatusCode != 200 {
		err = fmt.Errorf("preview of %s answered %d", id, res.StatusCode)
	}
	return float64(time.Since(start).Microseconds()) / 1000, sent, err
}

// forks measures every way of every fork of the block with pits, heights and drains.
func forks(url, id string) error {
	var took []float64
	size := 0
	for range 20 {
		start := time.Now()
		var list []json.RawMessage
		if err := get(url+"/api/v1/blocks/"+id+"/forks", &list); err != nil {
			return err
		}
		took = append(took, float64(time.Since(start).Microseconds())/1000)
		size = 0
		for _, f := range list {
			size += len(f)
		}
	}
	sort.Float64s(took)
	report("forks of the block with pits, heights and drains, 95th of 20", took[len(took)*95/100], 150, "ms")
	report("forks of that block, sent", float64(size)/1000, 200, "kB")
	return nil
}

// dragged measures the answers while the collector of a block with drains is dragged.
func dragged(url, id string) error {
	var p struct {
		Drains struct {
			Network struct{ LineAt []struct{ Lon, Lat float64 } }
		}
	}
	if err := get(url+"/api/v1/blocks/"+id+"/plan", &p); err != nil {
		return err
	}
	line := p.Drains.Network.LineAt
	var took []float64
	var sent int64
	for i := range 60 {
		line[0].Lon += 1e-6 * float64(i%3)
		points, err := json.Marshal(line)
		if err != nil {
			return err
		}
		body := `{"drains":{"collector":` + strings.ReplaceAll(strings.ReplaceAll(string(points), "Lon", "lon"), "Lat", "lat") + `}}`
		ms, n, err := preview(url, id, drained, body)
		if err != nil {
			return err
		}
		sent, took = max(sent, n), append(took, ms)
	}
	sort.Float64s(took)
	report("largest preview sent while drains are dragged", float64(sent)/1000, 60, "kB")
	report("preview while a collector is dragged, 95th percentile of 60", took[len(took)*95/100], 60, "ms")
	return nil
}

func get(url string, into any) error {
	res, err := http.Get(url)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	return json.NewDecoder(res.Body).Decode(into)
}

func visit(url string, ids ...string) error {
	ctx, stop, err := drive.Browser()
	if err != nil {
		return err
	}
	defer stop()
	page, done, err := drive.Open(ctx, url, 1280, 800)
	if err != nil {
		return err
	}
	defer done()
	views := []string{"/", "/jobs", "/sheets", "/bench", "/settings", "/draw", "/climate", "/heights", "/stores", "/fit/tea"}
	for _, id := range ids {
		for _, step := range []string{"ground", "soil", "drains", "drains/print", "fit", "prepare", "checklist", "rows", "plants", "care", "yield", "record", "print"} {
			views = append(views, "/blocks/"+id+"/"+step)
		}
	}
	for _, v := range views {
		if err := page.Go(v); err != nil {
			return err
		}
	}
	return frames(page, url, ids[len(ids)-1])
}

// frames measures how long the page takes to draw while a plan with 100 000 stations is panned and zoomed, as a hand would.
func frames(page *drive.Page, url, id string) error {
	var d struct{ Revision int }
	if err := get(url+"/api/v1/blocks/"+id, &d); err != nil {
		return err
	}
	req, err := http.NewRequest("PATCH", url+"/api/v1/blocks/"+id, strings.NewReader(`{"planting":{"sheet":"tea","date":"2028-10-10","considered":null,"layout":{"rowSpacingM":0.7,"plantSpacingM":0.2}}}`))
	if err != nil {
		return err
	}
	req.Header.Set("If-Match", fmt.Sprintf("%q", strconv.Itoa(d.Revision)))
	req.Header.Set("Content-Type", "application/merge-patch+json")
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return err
	}
	text, _ := io.ReadAll(res.Body)
	res.Body.Close()
	if res.StatusCode != 200 {
		return fmt.Errorf("closer planting of %s answered %d: %.200s", id, res.StatusCode, text)
	}
	if err := page.Go("/blocks/" + id + "/rows"); err != nil {
		return err
	}
	took, err := drive.Eval[[]float64](page, `(async () => {
		const sheet = document.querySelector("[aria-label^='Plan of']"), out = [];
		const frame = () => new Promise((done) => requestAnimationFrame(done));
		const press = (key) => sheet.dispatchEvent(new KeyboardEvent("keydown", {key, bubbles: true}));
		sheet.focus();
		let was = await frame();
		for (let i = 0; i < 90; i++) {
			press(i % 3 === 0 ? (i < 45 ? "+" : "-") : ["ArrowLeft", "ArrowUp", "ArrowRight", "ArrowDown"][i % 4]);
			const now = await frame();
			out.push(now - was);
			was = now;
		}
		return out;
	})()`)
	if err != nil {
		return err
	}
	stations, err := drive.Eval[float64](page, `fetch("/api/v1/blocks/`+id+`/plan").then((r) => r.json()).then((p) => p.figures.find((f) => f.path === "rows.stations").value)`)
	if err != nil {
		return err
	}
	if stations < 100_000 {
		return fmt.Errorf("the plan that is panned has %g stations only", stations)
	}
	sort.Float64s(took)
	report("frame while 100 000 stations are panned and zoomed, 95th of 90", took[len(took)*95/100], 50, "ms")
	return nil
}
