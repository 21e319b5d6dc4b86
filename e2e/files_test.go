package e2e

import (
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// kept writes a file for the browser to take.
func kept(t *testing.T, name, text string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	must(t, os.WriteFile(path, []byte(text), 0o644))
	return path
}

// Spot heights levelled by a surveyor come in as CSV, a walked track as GPX; with heights to two centimetres the
// drains no longer ask for a survey.
func TestSpotHeightsAndTracks(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	var plan struct {
		Ground struct{ Origin struct{ Lon, Lat float64 } }
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID+"/plan", "", nil, &plan)
	var csv, gpx strings.Builder
	csv.WriteString("lon,lat,z\n")
	gpx.WriteString(`<?xml version="1.0"?><gpx version="1.1" creator="t"><trk><trkseg>`)
	for i := -8; i <= 8; i++ {
		for j := -8; j <= 8; j++ {
			lon, lat := plan.Ground.Origin.Lon+float64(i)*0.00024, plan.Ground.Origin.Lat+float64(j)*0.00019
			z := 80 + 0.6*float64(j) + 0.25*float64(i) + 0.02*float64(i*i)
			fmt.Fprintf(&csv, "%.7f,%.7f,%.3f\n", lon, lat, z)
			fmt.Fprintf(&gpx, `<trkpt lat="%.7f" lon="%.7f"><ele>%.1f</ele></trkpt>`, lat, lon, z+3)
		}
	}
	gpx.WriteString(`</trkseg></trk></gpx>`)
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Says("not to dig"))
	must(t, page.Visit("/heights"), page.Upload(kept(t, "levels.csv", csv.String())), page.Says("289 spot heights"), page.Says("longitude and latitude"), page.Type("or plus or minus", "0.02"), page.Wait(`!document.querySelector("form button").disabled`), page.Press("Add these heights"), page.Says("levels is added"))
	must(t, page.Upload(kept(t, "walk.gpx", gpx.String())), page.Says("289 spot heights"), page.Type("How well a height is known", "6"), page.Press("Add these heights"), page.Says("walk is added"))
	// the surveyor's are used, not the telephone's
	must(t, page.Visit("/blocks/"+foot.ID+"/drains"), page.Says("drain depth"), page.Wait(`!document.body.innerText.includes("not to dig")`))
	var d struct {
		Drains struct{ AccuracyM float64 }
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+foot.ID+"/plan", "", nil, &d)
	if d.Drains.AccuracyM != 0.02 {
		t.Errorf("designed on heights to %g m", d.Drains.AccuracyM)
	}
	must(t, page.Visit("/heights"), page.Upload(kept(t, "none.gpx", `<?xml version="1.0"?><gpx version="1.1" creator="t"><wpt lat="-38" lon="172"></wpt></gpx>`)), page.Says("no point in it carries a height"))
	page.Forgive("422")
}

// Monthly normals and a daily record come in from files, with their gaps and doubts; a broken one names its line.
func TestNormalsAndDailyRecordFromFiles(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	var b strings.Builder
	b.WriteString("month,meanC,minC,maxC,rainMm,rhPct,windMs,sunH\n")
	for m := 1; m <= 12; m++ {
		fmt.Fprintf(&b, "%d,%.1f,%.1f,%.1f,%d,78,2.4,6\n", m, 11+5*math.Cos(float64(m-1)/6*math.Pi), 6.0, 17.0, 90+m)
	}
	must(t, page.Go("/climate"), page.UploadTo("Read monthly normals", kept(t, "normals.csv", b.String())), page.Says("The normals are kept"), page.Says("normals.csv"))
	var e struct {
		Estate struct {
			ClimateSource string
			Climate       []struct{ RainMm float64 }
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/estate", "", nil, &e)
	if e.Estate.ClimateSource != "normals.csv" || len(e.Estate.Climate) != 12 || e.Estate.Climate[6].RainMm != 97 {
		t.Errorf("%+v", e.Estate)
	}
	must(t, page.UploadTo("Read monthly normals", kept(t, "half.csv", "month,meanC,minC,rainMm\n1,10,5,80\n2,10,5,80\n")), page.Says("2 months where twelve belong"))
	must(t, page.UploadTo("Read monthly normals", kept(t, "odd.csv", strings.Replace(b.String(), "\n7,", "\n7,warm ", 1))), page.Says("line 8"))
	page.Forgive("422")
	var days strings.Builder
	days.WriteString("date,tmin,tmax,rain\n")
	for i := 0; i < 40; i++ {
		if i == 20 || i == 21 {
			continue
		}
		tmax := 18.0
		if i == 30 {
			tmax = 2 // below its minimum
		}
		fmt.Fprintf(&days, "2026-%02d-%02d,%d,%g,%d\n", 5+i/31, 1+i%31, 6+i%3, tmax, i%4)
	}
	must(t, page.UploadTo("Read a daily record", kept(t, "yard.csv", days.String())), page.Says("2 gaps"), page.Says("doubts"), page.Press("Make it the estate"), page.Says("The record is the estate's now"))
	must(t, page.Press("Undo"), page.Says("12 years of days"))
}

// What grew before makes the crop wait, and the phosphate fork and the terraces of a steep block are shown; the
// inspection list prints.
func TestWhatGrewBeforeAndWhatFollows(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	b := blocks(t, prog.URL)
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+b["Gate Field"].ID+"/fit"), page.Press("consider elderberry"), page.Says("elderberry, considered for"))
	must(t, page.Press("Lie"), page.Press("What grew before"), page.Wait(`document.querySelectorAll("tbody tr").length === 2`), page.Press("Add what grew here"), page.Wait(`document.querySelectorAll("tbody tr").length === 3`))
	var lists struct{ Uses []struct{ ID, Words string } }
	ask(t, "GET", prog.URL+"/api/v1/lists", "", nil, &lists)
	kind := ""
	for _, u := range lists.Uses {
		if strings.Contains(u.Words, "stone") || strings.Contains(u.ID, "stone") {
			kind = u.ID
		}
	}
	if kind == "" {
		kind = lists.Uses[1].ID
	}
	const last = "Use 3"
	must(t, page.Type(last, kind), page.Wait(field(last)+` === "`+kind+`"`), page.Type(last+" ended", "2027-02-01"), page.Type(last+", note", "grubbed after the storm"), page.Wait(field(last+", note")+` === "grubbed after the storm"`))
	var d struct {
		Block struct {
			Uses []struct{ Kind, End, Note string }
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+b["Gate Field"].ID, "", nil, &d)
	if u := d.Block.Uses[len(d.Block.Uses)-1]; u.Kind != kind || u.End != "2027-02-01" || u.Note != "grubbed after the storm" {
		t.Errorf("%+v", d.Block.Uses)
	}
	must(t, page.Press("Take out use 3"), page.Says("It is taken out"))
	// phosphate: two ways, decided with a reason
	must(t, page.Press("Soil"), page.Says("Where does phosphate go?"), page.Says("Banded, never worked in"), page.Says("used by plants"))
	var fs []struct {
		ID   string
		Ways []struct {
			ID, Name string
			Taken    bool
		}
	}
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+b["Gate Field"].ID+"/forks", "", nil, &fs)
	other := ""
	for _, f := range fs {
		if f.ID == "phosphate" {
			for _, w := range f.Ways {
				if !w.Taken {
					other = w.Name
				}
			}
		}
	}
	must(t, page.Press("Take this way: "+other), page.Type("Why this way", "the contractor has the drill"), page.Press("Take this way"), page.Says(other+" is taken"), page.Says("the contractor has the drill"))
	// the list on paper
	must(t, page.Visit("/blocks/"+b["Gate Field"].ID+"/checklist"), page.Says("for elderberry; 0 of 24 looked at"))
	pdf, err := page.PDF()
	if err != nil || len(pdf) < 10_000 {
		t.Errorf("the list prints to %d bytes, %v", len(pdf), err)
	}
}

// Feet, gallons and acres reach the drains too: figures, findings and the bill.
func TestDrainsInUSUnits(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	foot := blocks(t, prog.URL)["Orchard Foot"]
	var e struct{ Revision int }
	ask(t, "GET", prog.URL+"/api/v1/estate", "", nil, &e)
	if s := ask(t, "PATCH", prog.URL+"/api/v1/estate", `{"units":"us"}`, map[string]string{"If-Match": fmt.Sprintf("%q", fmt.Sprint(e.Revision)), "Content-Type": "application/merge-patch+json"}, nil); s != 200 {
		t.Fatalf("units answered %d", s)
	}
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+foot.ID+"/drains"), page.Wait(figureValue("drain.depth")+` === "3.67"`), page.Wait(`/gal\/min/.test(document.body.innerText)`), page.Says("0.49\u00a0ft"))
	// what is typed is feet
	must(t, page.Press("Water table"), page.Type("Drain depth", "3"), page.Wait(figureValue("drain.depth")+` === "3.00"`))
	if d := designOf(t, prog, foot.ID).Drains; math.Abs(d.DepthM-3*0.3048) > 1e-3 {
		t.Errorf("3 ft are %.4f m", d.DepthM)
	}
	must(t, page.Press("Bill and files"), page.Wait(`/short tons/.test(document.body.innerText) && /yd³/.test(document.body.innerText)`))
}
