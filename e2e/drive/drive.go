// Package drive runs the real program and looks at it through headless Chromium, for the end-to-end
// tests and for the pictures in docs/screenshots.
package drive

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// Program is a running slowroot.
type Program struct {
	URL string
	cmd *exec.Cmd
	log *strings.Builder
}

// Start runs the binary and waits for its first line, the address it listens on.
func Start(binary string, args ...string) (*Program, error) {
	p := &Program{cmd: exec.Command(binary, args...), log: &strings.Builder{}}
	p.cmd.Stderr = p.log
	out, err := p.cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := p.cmd.Start(); err != nil {
		return nil, err
	}
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		_ = p.cmd.Wait()
		return nil, fmt.Errorf("slowroot %s: %s", strings.Join(args, " "), strings.TrimSpace(p.log.String()))
	}
	go func() { _, _ = io.Copy(io.Discard, out) }()
	p.URL = strings.TrimSpace(line)
	return p, nil
}

// Stop ends the program with SIGTERM and reports how it went.
func (p *Program) Stop() error {
	if err := p.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		return err
	}
	done := make(chan error, 1)
	go func() { done <- p.cmd.Wait() }()
	select {
	case err := <-done:
		return err
	case <-time.After(15 * time.Second):
		_ = p.cmd.Process.Kill()
		return errors.New("slowroot did not stop within 15 s of SIGTERM")
	}
}

// Kill ends the program without warning, as a power cut does.
func (p *Program) Kill() error {
	if err := p.cmd.Process.Kill(); err != nil {
		return err
	}
	_ = p.cmd.Wait() // reports the kill
	return nil
}

// PeakRSS is the program's peak resident memory in bytes.
func (p *Program) PeakRSS() (int64, error) {
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", p.cmd.Process.Pid))
	if err != nil {
		return 0, err
	}
	for _, l := range strings.Split(string(text), "\n") {
		var kb int64
		if n, _ := fmt.Sscanf(l, "VmHWM: %d kB", &kb); n == 1 {
			return kb << 10, nil
		}
	}
	return 0, errors.New("no VmHWM in /proc")
}

// Page is one tab and what it complained about.
type Page struct {
	ctx      context.Context
	URL      string
	mu       sync.Mutex
	problems []string
	requests []string
}

// Browser starts headless Chromium; close it with the function returned.
func Browser() (context.Context, func(), error) {
	path := os.Getenv("CHROMIUM")
	// the shell is the same Chromium without a window to draw: a third less work for the same pages
	for _, name := range []string{"chromium-headless-shell", "chromium", "chromium-browser"} {
		if found, err := exec.LookPath(name); path == "" && err == nil {
			path = found
		}
	}
	if path == "" {
		return nil, nil, errors.New("no Chromium: run make test, which installs Debian's, or set CHROMIUM to its path")
	}
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox,
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-component-update", true), chromedp.Flag("hide-scrollbars", true), chromedp.WindowSize(1280, 800))
	alloc, stop := chromedp.NewExecAllocator(context.Background(), opts...)
	ctx, cancel := chromedp.NewContext(alloc)
	if err := chromedp.Do(ctx, chromedp.Navigate("about:blank")); err != nil {
		cancel()
		stop()
		return nil, nil, fmt.Errorf("starting %s: %w", path, err)
	}
	return ctx, func() { cancel(); stop() }, nil
}

// Open makes a tab of the given size on the program's address.
func Open(browser context.Context, url string, width, height int64) (*Page, func(), error) {
	ctx, cancel := chromedp.NewContext(browser)
	p := &Page{ctx: ctx, URL: url}
	if err := chromedp.Do(ctx, chromedp.EmulateViewport(width, height)); err != nil {
		cancel()
		return nil, nil, err
	}
	err := chromedp.Listen(ctx, func(ev any) {
		p.mu.Lock()
		defer p.mu.Unlock()
		switch e := ev.(type) {
		case *runtime.EventExceptionThrown:
			what := e.ExceptionDetails.Text
			if x := e.ExceptionDetails.Exception; x != nil {
				what += " " + x.Description
			}
			p.problems = append(p.problems, "exception: "+what)
		case *runtime.EventConsoleAPICalled:
			if e.Type == "error" || e.Type == "warning" {
				var parts []string
				for _, a := range e.Args {
					parts = append(parts, string(a.Value)+a.Description)
				}
				p.problems = append(p.problems, fmt.Sprintf("console %s: %s", e.Type, strings.Join(parts, " ")))
			}
		case *network.EventRequestWillBeSent:
			p.requests = append(p.requests, e.Request.URL)
		}
	})
	return p, cancel, err
}

// Problems are console errors, warnings and exceptions so far.
func (p *Page) Problems() []string {
	p.mu.Lock()
	defer p.mu.Unlock()
	return append([]string{}, p.problems...)
}

// Requests are the addresses asked for so far.
func (p *Page) Requests() []string {
	p.mu.Lock()
	defer p.mu.Unlock()
	return append([]string{}, p.requests...)
}

func (p *Page) do(what string, steps ...chromedp.Action[chromedp.Void]) error {
	ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		return fmt.Errorf("%s: %w", what, err)
	}
	return nil
}

// Go opens a path and waits for the page to be read.
func (p *Page) Go(path string) error {
	if err := p.do("opening "+path, chromedp.Navigate(p.URL+path)); err != nil {
		return err
	}
	return p.Settled()
}

// Visit goes to a path inside the open page, as a link does: nothing is loaded anew.
func (p *Page) Visit(path string) error {
	_, err := Eval[bool](p, `(history.pushState(null, "", `+quote(path)+`), dispatchEvent(new PopStateEvent("popstate")),
		new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done(true)))))`)
	if err != nil {
		return fmt.Errorf("visiting %s: %w", path, err)
	}
	return p.Settled()
}

// Settled waits until nothing on the page says it is busy.
func (p *Page) Settled() error {
	return p.Wait(`document.readyState === "complete" && document.querySelector("h1, h2") && !document.querySelector("[role=status]") && document.fonts.status === "loaded"`)
}

// Wait polls a JavaScript condition, or a promise of one, for up to 30 seconds.
func (p *Page) Wait(condition string) error {
	deadline := time.Now().Add(30 * time.Second)
	for {
		ok, err := Eval[bool](p, "Promise.resolve("+condition+").then((v) => !!v)")
		if err == nil && ok {
			return nil
		}
		if time.Now().After(deadline) {
			body, _ := Eval[string](p, `document.body.innerText.slice(0, 1500)`)
			return fmt.Errorf("waited 30 s for %s (last error %v); the page says:\n%s", condition, err, body)
		}
		time.Sleep(40 * time.Millisecond)
	}
}

// Eval computes an expression on the page; a promise is awaited.
func Eval[T any](p *Page, expression string) (T, error) {
	ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
	defer cancel()
	return chromedp.Run(ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
}

// Says waits until the page's text holds the words.
func (p *Page) Says(words string) error {
	return p.Wait("document.body.innerText.includes(" + quote(words) + ")")
}

// byName finds a button or link by its accessible words, in script; an open dialog comes first, as it
// does for a person.
const byName = `((what, words) => [document.querySelector("[role=dialog]"), document].filter(Boolean).flatMap((root) => [...root.querySelectorAll(what)]).find((e) => {
	const name = (e.getAttribute("aria-label") || e.textContent || "").replace(/\s+/g, " ").trim();
	return !e.disabled && e.getClientRects().length > 0 && name.startsWith(words);
}))`

func quote(s string) string {
	b, _ := json.Marshal(s)
	return string(b)
}

// Press clicks the first button or link whose words begin with the given ones.
func (p *Page) Press(words string) error {
	find := byName + `("button, a, summary, [role=option], [role=menuitem]", ` + quote(words) + `)`
	// found and clicked in one breath: a page that draws itself again in between would take it away
	if err := p.Wait(`(() => { const e = ` + find + `; if (!e) return false; e.scrollIntoView({block: "center"}); e.click(); return true; })()`); err != nil {
		return fmt.Errorf("pressing %q: %w", words, err)
	}
	return nil
}

// PressFigure presses the figure with that path.
func (p *Page) PressFigure(path string) error {
	find := `document.querySelector('[data-figure="` + path + `"]')`
	if err := p.Wait(find); err != nil {
		return fmt.Errorf("pressing figure %q: %w", path, err)
	}
	_, err := Eval[bool](p, `(`+find+`.click(), true)`)
	return err
}

// Type puts text into the field with that label, as a person would, and leaves it.
func (p *Page) Type(label, text string) error {
	find := `[...document.querySelectorAll("input, textarea, select")].find((e) => (e.getAttribute("aria-label") || e.labels?.[0]?.textContent || "").replace(/\s+/g, " ").trim().startsWith(` + quote(label) + `))`
	if err := p.Wait(find); err != nil {
		return fmt.Errorf("typing into %q: %w", label, err)
	}
	_, err := Eval[bool](p, `(() => {
		const e = `+find+`;
		e.focus();
		const proto = e.tagName === "TEXTAREA" ? HTMLTextAreaElement : e.tagName === "SELECT" ? HTMLSelectElement : HTMLInputElement;
		Object.getOwnPropertyDescriptor(proto.prototype, "value").set.call(e, `+quote(text)+`);
		e.dispatchEvent(new Event(e.tagName === "SELECT" ? "change" : "input", {bubbles: true}));
		e.blur();
		return true;
	})()`)
	return err
}

// Keys sends real key presses to whatever has the focus.
func (p *Page) Keys(keys string) error { return p.do("keys "+keys, chromedp.KeyEvent(keys)) }

// Key presses one named key, such as Home or ArrowRight.
func (p *Page) Key(name string) error {
	code := map[string]string{"Home": kb.Home, "End": kb.End, "ArrowRight": kb.ArrowRight, "ArrowLeft": kb.ArrowLeft, "ArrowUp": kb.ArrowUp, "ArrowDown": kb.ArrowDown, "PageDown": kb.PageDown, "Tab": kb.Tab}[name]
	if code == "" {
		return fmt.Errorf("no key is called %q", name)
	}
	return p.Keys(code)
}

// TabTo presses Tab until a condition on the focused element holds.
func (p *Page) TabTo(condition string) error {
	for range 200 {
		if ok, err := Eval[bool](p, condition); err == nil && ok {
			return nil
		}
		if err := p.Key("Tab"); err != nil {
			return err
		}
	}
	return fmt.Errorf("200 presses of Tab do not reach %s", condition)
}

// Pause waits, where the page itself measures time: two clicks too close are a double click.
func (p *Page) Pause(ms int) error {
	time.Sleep(time.Duration(ms) * time.Millisecond)
	return nil
}

// Forgive drops problems that hold the words: errors the test provoked.
func (p *Page) Forgive(words string) {
	p.mu.Lock()
	defer p.mu.Unlock()
	kept := p.problems[:0]
	for _, s := range p.problems {
		if !strings.Contains(s, words) {
			kept = append(kept, s)
		}
	}
	p.problems = kept
}

// conditions are those of Network.emulateNetworkConditions, which Chromium of any age knows.
type conditions struct {
	Offline            bool    `json:"offline"`
	Latency            float64 `json:"latency"`
	DownloadThroughput float64 `json:"downloadThroughput"`
	UploadThroughput   float64 `json:"uploadThroughput"`
}

var emulateNetwork = cdp.Command[conditions, cdp.Empty]{Method: "Network.emulateNetworkConditions"}

// Offline cuts the page off from everything, this machine's programs too, or lets it through again.
func (p *Page) Offline(cut bool) error {
	ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
	defer cancel()
	if _, err := chromedp.Call(ctx, emulateNetwork, conditions{Offline: cut, DownloadThroughput: -1, UploadThroughput: -1}); err != nil {
		return fmt.Errorf("cutting the page off: %w", err)
	}
	return nil
}

// Drag moves the pointer from one point to another with the button down.
func (p *Page) Drag(x0, y0, x1, y1 float64) error {
	return p.do("dragging", chromedp.DragAndDropXY(x0, y0, x1, y1, 12))
}

// MoveTo moves the pointer to a point.
func (p *Page) MoveTo(x, y float64) error {
	return p.do("moving the pointer", chromedp.MouseEvent(input.DispatchMouseEventTypeMouseMoved, x, y))
}

// ClickAt clicks a point.
func (p *Page) ClickAt(x, y float64) error { return p.do("clicking", chromedp.MouseClickXY(x, y)) }

// Upload gives files to the page's file field.
func (p *Page) Upload(files ...string) error {
	return p.do("uploading", chromedp.SetUploadFiles(chromedp.CSS(`input[type=file]`), files))
}

// UploadTo gives files to the file field whose label begins with the words.
func (p *Page) UploadTo(label string, files ...string) error {
	find := `[...document.querySelectorAll("input[type=file]")].find((e) => (e.labels?.[0]?.textContent ?? "").trim().startsWith(` + quote(label) + `))`
	if err := p.Wait(find); err != nil {
		return fmt.Errorf("uploading to %q: %w", label, err)
	}
	if _, err := Eval[bool](p, `(document.querySelectorAll("[data-chosen]").forEach((e) => delete e.dataset.chosen), `+find+`.dataset.chosen = "1", true)`); err != nil {
		return err
	}
	return p.do("uploading to "+label, chromedp.SetUploadFiles(chromedp.CSS(`input[data-chosen]`), files))
}

// Shot is a PNG of what is seen.
func (p *Page) Shot() ([]byte, error) {
	time.Sleep(400 * time.Millisecond) // transitions and canvas drawing
	ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
	defer cancel()
	return chromedp.Run(ctx, chromedp.CaptureScreenshot())
}

// PDF is the page printed on A4.
func (p *Page) PDF() ([]byte, error) {
	ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
	defer cancel()
	return chromedp.Run(ctx, chromedp.PrintToPDF(chromedp.PDFPaper(chromedp.PaperSize{Width: 8.27, Height: 11.69})))
}
