package e2e

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	"slowroot/e2e/drive"
)

// A job is done on the Jobs page too, and what is not needed here is said with a reason and can be taken back.
func TestJobsAreDoneOrNotNeeded(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/jobs"), page.Press("Grow a cover crop: done today"), page.Says("Grow a cover crop: done"), page.Wait(`document.querySelector("button[aria-label='Grow a cover crop: not done']")`))
	must(t, page.Press("Drains or ridges: not needed here"), page.Says("Why is it not needed?"), page.Type("Why is it not needed", "the old pipes still run"), page.Press("Keep that"), page.Says("Drains or ridges: not needed here"))
	kept := records(t, prog.URL, foot.ID)
	if n := len(kept); n < 2 || kept[n-1].Kind != "not-needed" || kept[n-1].Note != "the old pipes still run" || kept[n-2].Kind != "done" {
		t.Errorf("kept: %+v", kept)
	}
	must(t, page.Visit("/blocks/"+foot.ID+"/prepare"), page.Says("not needed: the old pipes still run"), page.Wait(`!document.body.innerText.includes("“Drains or ridges” had to be done")`))
	must(t, page.Press("Drains or ridges: needed after all"), page.Says("Drains or ridges: taken back"), page.Says("“Drains or ridges” had to be done"))
}

// The margin of the estate says the same finding once with every block it concerns, and filters by weight and block.
func TestMarginOfTheEstate(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	notes := `[...document.querySelectorAll("section[aria-label='Map of blocks'] ul.space-y-2 > li")]`
	must(t, page.Go("/"), page.Says("In the margin"))
	shared, err := drive.Eval[bool](page, notes+`.some((l) => l.querySelectorAll("a b, a.font-semibold").length > 1 && l.innerText.includes("heights are known"))`)
	must(t, err)
	if !shared {
		t.Error("the heights are not said once for the blocks they concern")
	}
	all, err := drive.Eval[int](page, notes+`.length`)
	must(t, err, page.Type("Weight", "watch"), page.Wait(notes+`.length > 0 && `+notes+`.every((l) => l.innerText.startsWith("Watch"))`), page.Type("Block", blocks(t, prog.URL)["Gate Field"].ID), page.Wait(notes+`.every((l) => l.innerText.includes("Gate Field"))`))
	some, err := drive.Eval[int](page, notes+`.length`)
	must(t, err)
	if some == 0 || some >= all {
		t.Errorf("%d of %d notes are left by the filters", some, all)
	}
	must(t, page.Press("Climate"), page.Says("Frost-free days"), page.Press("Estate"), page.Press("Heights"), page.Says("Valley survey"))
}

// Name, place, currency and half of the earth of an estate can be changed; a person can be taken out.
func TestTheEstateIsChanged(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/settings"), page.Type("The estate's name", "Farrow Vale"), page.Wait(`fetch("/api/v1/estate").then((r) => r.json()).then((d) => d.estate.name === "Farrow Vale")`), page.Wait(`document.querySelector("h1").textContent === "Farrow Vale"`))
	must(t, page.Type("Place", "over the hill"), page.Says("The place is kept"), page.Type("Currency", "F$"), page.Says("prices keep their numbers"))
	page.Forgive("422")
	must(t, page.Type("Where it lies", "here"), page.Says("does not read as a latitude and a longitude"), page.Type("Where it lies", "−38.01, 172.02"), page.Says("Where it lies is kept"))
	must(t, page.Press("take out Ilse Marchbank"), page.Says("what they decided keeps their name"), page.Press("the northern half of the earth"), page.Says("The seasons are those of the northern half"))
	var e struct {
		Estate struct {
			Name, Place, Currency string
			At                    struct{ Lat, Lon float64 }
			People                []struct{ Name string }
			Seasons               []struct{ Key, From string }
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/estate", "", nil, &e)
	if g := e.Estate; g.Name != "Farrow Vale" || g.Place != "over the hill" || g.Currency != "F$" || g.At.Lat != -38.01 || g.At.Lon != 172.02 || len(g.People) != 2 || g.Seasons[0].From != "03-01" {
		t.Errorf("%+v", g)
	}
}

// A copy is made, taken away and put back from the screen; what stood is kept, and a damaged copy touches nothing.
func TestCopiesOnTheScreen(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/settings"), page.Says("No copy has left"), page.Press("Make one here"), page.Says("A copy is made and was read back"))
	res, err := http.Get(prog.URL + "/api/v1/copies/fresh")
	must(t, err)
	away, err := io.ReadAll(res.Body)
	_ = res.Body.Close()
	must(t, err, page.Go("/settings"), page.Says("A copy last left this computer"))
	must(t, page.Type("The estate's name", "Changed Vale"), page.Wait(`fetch("/api/v1/estate").then((r) => r.json()).then((d) => d.estate.name === "Changed Vale")`))
	// the kept one
	must(t, page.Press("put back the copy"), page.Says("takes the place of the whole estate"), page.Press("Put it back"), page.Says("Carrow Vale is in place with 11 blocks"), page.Wait(`document.querySelector("h1").textContent === "Carrow Vale"`))
	// one from a file
	must(t, page.Type("The estate's name", "Changed again"), page.Wait(`fetch("/api/v1/estate").then((r) => r.json()).then((d) => d.estate.name === "Changed again")`), page.UploadTo("Put back a copy or an archive", kept(t, "away.db", string(away))), page.Press("Put it back"), page.Wait(`document.querySelector("h1").textContent === "Carrow Vale"`))
	// a damaged one
	must(t, page.Type("The estate's name", "Stands"), page.Wait(`fetch("/api/v1/estate").then((r) => r.json()).then((d) => d.estate.name === "Stands")`), page.UploadTo("Put back a copy or an archive", kept(t, "bad.db", string(away[:len(away)/2]))), page.Press("Put it back"), page.Wait(`document.querySelector("#copies [role=alert]")`))
	page.Forgive("422")
	var o struct {
		Estate struct{ Name string }
	}
	ask(t, "GET", prog.URL+"/api/v1/overview", "", nil, &o)
	if o.Estate.Name != "Stands" {
		t.Errorf("after a damaged copy the estate is %q", o.Estate.Name)
	}
}

// The first field of a new estate: the map opens at the place at the scale of a field, and says where the pointer is,
// how long the sides are and the area while it is drawn.
func TestFirstFieldAtItsPlace(t *testing.T) {
	t.Parallel()
	prog := run(t, "serve", "--data", t.TempDir(), "--today", "2027-03-15")
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/"), page.Type("Name", "First Farm"), page.Type("Your name", "A. Grower"), page.Type("Where it lies", "46.05, 12.30"), page.Wait(`document.querySelector("input[value=north]").checked`), page.Press("Begin"), page.Press("Add a block"))
	must(t, page.Says("The map opens at"), page.Wait(`document.querySelector(".map canvas")`), page.Pause(400))
	x, y, err := inMap(page)
	must(t, err, page.ClickAt(x-150, y-100), page.Pause(350), page.ClickAt(x+150, y-100), page.Pause(350), page.ClickAt(x+150, y+60), page.Pause(350), page.MoveTo(x-60, y+60), page.MoveTo(x-150, y+60))
	must(t, page.Says("pointer at 46.0"), page.Wait(`/sides: [\d.,\s\u202f]+m, /.test(document.body.innerText)`), page.Wait(`/^\d+\.\d\d\sha/.test(document.querySelector("section p[aria-live]").textContent)`))
	area, err := drive.Eval[string](page, `document.querySelector("section p[aria-live]").textContent`)
	must(t, err)
	var ha float64
	if _, err := fmt.Sscanf(strings.ReplaceAll(area, "\u00a0", " "), "%f ha", &ha); err != nil || ha < 0.5 || ha > 30 {
		t.Errorf("300 by 160 pixels are %q: not the scale of a field", area)
	}
	must(t, page.ClickAt(x-150, y+60), page.Pause(350), page.ClickAt(x-150, y-100), page.Pause(350), page.Type("Name", "First Field"), page.Press("Add the block"), page.Says("What could stand here?"))
	// six million hectares are doubted before they are kept
	must(t, page.Go("/draw"))
	for _, p := range [][2]string{{"10", "40"}, {"13", "40"}, {"13", "42"}, {"10", "42"}} {
		must(t, page.Type("Longitude °", p[0]), page.Type("Latitude °", p[1]), page.Press("Add point"))
	}
	page.Forgive("422")
	must(t, page.Wait(`document.querySelector("[role=alert]")`), page.Wait(`[...document.querySelectorAll("button")].find((b) => b.textContent === "Add the block").disabled`), page.Wait(`!/rings|boundary\.outer|inputs\./i.test(document.querySelector("[role=alert]").innerText)`))
}

func inMap(page *drive.Page) (x, y float64, err error) {
	at, err := drive.Eval[[]float64](page, `(() => { const r = document.querySelector(".map").getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2]; })()`)
	if err != nil {
		return 0, 0, err
	}
	return at[0], at[1], nil
}

// A crop whose sheet cannot lay it out yet says so at every step, on the estate and in print, in the same words; an
// empty soil test and words that need explaining explain themselves.
func TestWhatCannotBePlannedIsSaid(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	gate := blocks(t, prog.URL)["Gate Field"]
	// A sheet that says what ground must be, and nothing of rows, plants and yields: an estate may keep one of its own.
	text, err := json.Marshal(map[string]any{"text": groundOnly(t, prog.URL)})
	must(t, err)
	if status := ask(t, "POST", prog.URL+"/api/v1/sheets", string(text), map[string]string{"Content-Type": "application/json"}, nil); status != 201 {
		t.Fatalf("the sheet was answered %d", status)
	}
	page := open(t, prog.URL, 1280, 900)
	at := "/blocks/" + gate.ID
	must(t, page.Go(at+"/plants"), page.Press("Consider ground of a strange berry"), page.Says("is considered here"), page.Says("ground of a strange berry, considered for"))
	for _, step := range []string{"rows", "care", "yield", "record"} {
		must(t, page.Go(at+"/"+step), page.Says("cannot be planned with it"), page.Says("ground of a strange berry, considered for"))
	}
	must(t, page.Go("/"), page.Says("ground of a strange berry, considered for"), page.Go(at+"/print"), page.Says("cannot be planned with it"), page.Says("On the ground, before planting"), page.Says("ground of a strange berry, considered for"))
	must(t, page.Go(at+"/fit"), page.Wait(`(() => { const w = [...document.querySelectorAll("[role=note]")].find((e) => e.textContent.startsWith("S2")); if (w) w.focus(); return w === document.activeElement; })()`), page.Wait(`[...document.querySelectorAll("[role=tooltip]")].some((e) => e.textContent.includes("moderate limit") && getComputedStyle(e).display !== "none")`))
	must(t, page.Keys("?"), page.Says("Keys and words"), page.Says("The upright line on the ground line"), page.Keys("\x1b"))
	strip := blocks(t, prog.URL)["Upper Terrace"]
	must(t, page.Go("/blocks/"+strip.ID+"/soil"), page.Press("Tests"), page.Press("Enter one by hand"), page.Says("Nothing was measured in it yet"))
}

// groundOnly is the strawberry's sheet under another name, without all that a planting is planned from.
func groundOnly(t *testing.T, url string) string {
	t.Helper()
	res, err := http.Get(url + "/api/v1/sheets/strawberry/file")
	must(t, err)
	defer res.Body.Close()
	all, err := io.ReadAll(res.Body)
	must(t, err)
	keep := map[string]bool{"format": true, "version": true, "botanical": true, "habit": true, "life": true, "traits": true, "waits": true, "soil": true, "limits": true,
		"operations": true, "notes": true, "cautions": true}
	out, kept := "id: strange-berry\nname: Ground of a strange berry\n", false
	for _, line := range strings.Split(string(all), "\n") {
		if key, _, ok := strings.Cut(line, ":"); ok && line[0] >= 'a' && line[0] <= 'z' {
			kept = keep[key]
		}
		if kept {
			out += line + "\n"
		}
	}
	return out
}
