package e2e

import (
	"fmt"
	"os"
	"strings"
	"testing"
	"time"

	"slowroot/core/civil"
	"slowroot/core/plan/work"
	"slowroot/core/report"
	"slowroot/e2e/drive"
)

// A person adds a job, says what jobs ask of the people, names a crew, and is told which weeks ask for more than it has; the jobs leave as a
// calendar, a table and a workbook; one job is printed to take along; what the plans take stands by its last day.
func TestWorkAndSupply(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	id := blocks(t, prog.URL)["Orchard Foot"].ID
	must(t, page.Go("/jobs"), page.Says("in date order"), page.Press("Add a job"), page.Type("On block", id), page.Type("What is to be done", "Mend the gate"), page.Type("From", "2027-03-22"), page.Type("At the latest", "2027-04-04"),
		page.Type("Hours", "180"), page.Type("How, with what", "two posts, hinges"), page.Press("Add the job"), page.Says("Mend the gate is added"), page.Says("two posts, hinges"))
	must(t, page.Press("Weeks and crews"), page.Says("Name your crews"), page.Press("Add a crew"), page.Says("A crew is added"), page.Says("what all crews can do"), page.Says("Crew 1: the week of 22 March 2027 asks for"))
	look(t, page, "weeks")
	must(t, page.Type("Crew 1, people", "900"), page.Wait(`!document.body.innerText.includes("asks for")`))
	must(t, page.Press("List"), page.Type("Hours of Mend the gate", "12"), page.Says("every time this comes back"))
	// hours of an operation hold every time it comes back
	first, err := drive.Eval[string](page, `[...document.querySelectorAll("input")].map((e) => e.getAttribute("aria-label") || e.labels?.[0]?.textContent || "").find((w) => w.startsWith("Hours of ") && !w.includes("gate")).trim()`)
	must(t, err)
	name := strings.TrimSpace(strings.TrimSuffix(first, "h"))
	must(t, page.Type(name, "7.5"), page.Wait(`[...document.querySelectorAll("input")].some((e) => (e.labels?.[0]?.textContent || "").startsWith(`+fmt.Sprintf("%q", name)+`) && e.value === "7.5")`))
	must(t, page.Type(name, ""), page.Wait(`[...document.querySelectorAll("input")].some((e) => (e.labels?.[0]?.textContent || "").startsWith(`+fmt.Sprintf("%q", name)+`) && e.value === "" && e.closest("td").innerText.includes("hours unknown"))`), page.Settled())
	day := strings.Replace(name, "Hours of ", "Day of ", 1)
	must(t, page.Type(day, "2029-01-10"), page.Says("is planned for 10 Jan 2029"), page.Wait(`[...document.querySelectorAll("td")].some((e) => e.innerText.includes("planned for 10 Jan 2029"))`), page.Settled())
	must(t, page.Type(day, ""), page.Says("is left to its time"))
	look(t, page, "jobs")
	span := "?from=2027-03-15&to=2027-06-15"
	ics := fetch(t, prog.URL+"/api/v1/jobs/file/ics"+span)
	if !strings.Contains(ics, "SUMMARY:Orchard Foot: Mend the gate") || strings.Count(ics, "BEGIN:VEVENT") < 10 {
		t.Errorf("the calendar begins %.300q", ics)
	}
	if csv := fetch(t, prog.URL+"/api/v1/jobs/file/csv"+span); !strings.Contains(csv, "2027-03-22,2027-04-04,Orchard Foot,Mend the gate,own,12,") {
		t.Errorf("the table begins %.300q", csv)
	}
	_, err = drive.Eval[bool](page, `([...document.querySelectorAll("tr")].find((r) => r.innerText.includes("Mend the gate")).querySelector("a[href*='/jobs/']").click(), true)`)
	must(t, err, page.Says("Mend the gate"), page.Says("what was found"))
	look(t, page, "sheet")
	must(t, page.Go("/stores"), page.Says("To order"), page.Says("persimmon, grafted trees"), page.Wait(`document.querySelector("[aria-label='To order'] tbody").textContent.includes("202")`))
	look(t, page, "orders")
	// done once, it is done in the calendar and in the list
	must(t, page.Go("/jobs"), page.Settled())
	_, err = drive.Eval[bool](page, `([...document.querySelectorAll("tr")].find((r) => r.innerText.includes("Mend the gate")).querySelector("td:last-child button").click(), true)`)
	must(t, err, page.Wait(`[...document.querySelectorAll("tr")].find((r) => r.innerText.includes("Mend the gate")).querySelector("td:last-child").innerText.includes("2027")`))
}

// Two blocks ask one crew for more than it has; levelled, each job lies on days the crew has the hours for, and one undo takes
// it back; what nobody can do in its time is named.
func TestOneCrewIsLevelled(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	b := blocks(t, prog.URL)
	must(t, page.Go("/jobs"), page.Settled())
	for _, of := range [][2]string{{"Orchard Foot", "64"}, {"Hill Paddock", "96"}} {
		must(t, page.Press("Add a job"), page.Type("On block", b[of[0]].ID), page.Type("What is to be done", "Fence "+of[0]), page.Type("From", "2027-04-05"), page.Type("At the latest", "2027-04-18"),
			page.Type("Hours", of[1]), page.Press("Add the job"), page.Says("Fence "+of[0]+" is added"))
	}
	must(t, page.Press("Weeks and crews"), page.Press("Add a crew"), page.Says("A crew is added"), page.Type("Crew 1, people", "90"), page.Wait(field("Crew 1, people")+` === "90"`), page.Press("Level the work"), page.Says("would be on"), page.Says("nobody has said how many hours they take"))
	look(t, page, "level")
	must(t, page.Press("Put them on these days"), page.Says("undo takes them back"), page.Press("List"), page.Wait(`[...document.querySelectorAll("tr")].some((r) => r.innerText.includes("Fence Hill Paddock") && r.innerText.includes("planned for"))`))
	must(t, page.Press("Weeks and crews"), page.Press("Undo"), page.Says("Levelled the work"), page.Press("Level the work"), page.Says("would be on"))
	must(t, page.Type("Crew 1, people", "1"), page.Wait(field("Crew 1, people")+` === "1"`), page.Press("Level the work"), page.Says("after its last day"))
	look(t, page, "level-late")
}

// Two blocks of one crop are planted one after another: what is picked when is shown as it is typed, kept in one change, and undone.
func TestPlantedOneAfterAnother(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/succession"), page.Says("Kinds that ripen early and late spread its picking"), page.Says("91 days picked with the one before"))
	must(t, page.Type("To the first pick", "300"), page.Type("Picking lasts", "40"), page.Type("First planting", "2027-07-12"), page.Says("7 days picked with the one before"), page.Says("14 Aug 2027"))
	look(t, page, "succession")
	must(t, page.Press("Plant them on these days"), page.Says("undo takes it back"))
	date := func() string {
		var d struct {
			Block struct{ Planting struct{ Date string } }
		}
		ask(t, "GET", prog.URL+"/api/v1/blocks/"+blocks(t, prog.URL)["Kiln Piece"].ID, "", nil, &d)
		return d.Block.Planting.Date
	}
	if got := date(); got != "2027-08-14" {
		t.Errorf("planted on %s", got)
	}
	must(t, page.Press("Undo"), page.Says("Undone: Planted one after another"))
	if got := date(); got != "2028-08-14" {
		t.Errorf("after undo on %s", got)
	}
	must(t, page.Type("Picked together", "60"), page.Says("leave nothing of the picking"))
}

// On a phone without signal a job is marked as done: it is kept on the device, sent when there is a connection again, and
// though it is sent twice it is recorded once.
func TestPhoneWithoutSignal(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 390, 844)
	id := blocks(t, prog.URL)["Orchard Foot"].ID
	count := func(key string) (n int) {
		var all []struct{ Operation string }
		ask(t, "GET", prog.URL+"/api/v1/blocks/"+id+"/records", "", nil, &all)
		for _, r := range all {
			if r.Operation == key {
				n++
			}
		}
		return n
	}
	must(t, page.Go("/jobs"), page.Says("To be done now"), page.Says("Late"))
	look(t, page, "phone")
	for name, condition := range map[string]string{"the page scrolls sideways": `document.documentElement.scrollWidth <= 390`,
		"buttons are too small for gloves": `[...document.querySelectorAll("button")].filter((b) => b.getClientRects().length > 0 && b.textContent === "Done").every((b) => b.getBoundingClientRect().height >= 44)`} {
		if ok, err := drive.Eval[bool](page, condition); err != nil || !ok {
			t.Errorf("%s: %v", name, err)
		}
	}
	must(t, page.Offline(true), page.Press("Drains or ridges: done today"), page.Says("kept on this device until there is a connection"), page.Says("Kept on this device, not sent yet"), page.Says("One record is kept on this device"))
	look(t, page, "phone-cut")
	page.Forgive("ERR_INTERNET_DISCONNECTED")
	if n := count("drains"); n != 0 {
		t.Errorf("%d records without a connection", n)
	}
	kept, err := drive.Eval[string](page, `localStorage.getItem("slowroot.outbox")`)
	must(t, err, page.Press("Send now"), page.Says("Still no connection"), page.Offline(false), page.Wait(`!localStorage.getItem("slowroot.outbox") || localStorage.getItem("slowroot.outbox") === "[]"`),
		page.Wait(`!document.body.innerText.includes("kept on this device and sent")`))
	page.Forgive("ERR_INTERNET_DISCONNECTED")
	if n := count("drains"); n != 1 {
		t.Errorf("%d records of it once the line is back, want 1", n)
	}
	// the answer was lost on the way: the same is sent again
	_, err = drive.Eval[bool](page, `(localStorage.setItem("slowroot.outbox", `+fmt.Sprintf("%q", kept)+`), true)`)
	must(t, err, page.Go("/jobs"), page.Wait(`localStorage.getItem("slowroot.outbox") === "[]"`))
	if n := count("drains"); n != 1 {
		t.Errorf("sent twice it is recorded %d times", n)
	}
}

// Work that waits for something seen on the ground: not so yet, it is looked at again some days later, and the list says so.
func TestNotYetSo(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/jobs"), page.Says("the first husks open"), page.Press("Smooth and clean the floor; irrigation off: not yet so"), page.Says("not yet; it is looked at again"), page.Says("not so yet on 15 Mar 2027"))
	look(t, page, "not-yet")
}

// Long canes kept in a cold store: days and cold follow the dates, a reading too cold is said, a press plants when the cold is met.
func TestCanesInTheColdStore(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 1000)
	id := blocks(t, prog.URL)["Gate Field"].ID
	must(t, page.Go("/blocks/"+id+"/plants"), page.Wait(`!document.body.innerText.includes("…")`), page.Press("Plan raspberry"), page.Says("Ground line"), page.Visit("/blocks/"+id+"/plants"),
		page.Says("dormant long canes"), page.Type("Planting date", "2027-05-20"), page.Press("Kept in a cold store"), page.Type("Into the store", "2027-04-05"), page.Says("of cold before they are planted"),
		page.Says("They would have them in the store by"))
	look(t, page, "coldstore")
	must(t, page.Type("Read today", "-2.2"), page.Says("crack and die"), page.Wait(`document.querySelector("[aria-label='Readings of the store'] tbody tr")`))
	must(t, page.Press("How much room they take"), page.Says("of floor for"), page.Type("Floor there is", "20"), page.Says("of floor with the ways between; there are 20"))
}

// Opened where nobody answers, the page of jobs is there as it last was; what is marked there waits, and is sent once when the program is back.
func TestPhoneOpenedWithoutSignal(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	must(t, os.CopyFS(dir, os.DirFS(prepared)))
	prog, err := drive.Start(binary, "demo", "--data", dir, "--addr", "127.0.0.1:0")
	must(t, err)
	id := blocks(t, prog.URL)["Orchard Foot"].ID
	page := open(t, prog.URL, 390, 844)
	must(t, page.Go("/jobs"), page.Says("To be done now"), page.Wait(`navigator.serviceWorker.controller && caches.open("slowroot-1").then((c) => c.keys()).then((k) => k.some((r) => r.url.includes("/jobs?")) && k.some((r) => r.url.includes("/assets/")))`))
	must(t, prog.Stop(), page.Go("/jobs"), page.Says("To be done now"), page.Says("Drains or ridges"), page.Says("this is how it was when it last did"), page.Press("Drains or ridges: done today"), page.Says("Kept on this device, not sent yet"))
	look(t, page, "phone-away")
	must(t, page.Go("/jobs"), page.Says("Kept on this device, not sent yet"))
	again, err := drive.Start(binary, "demo", "--data", dir, "--addr", strings.TrimPrefix(prog.URL, "http://"))
	must(t, err)
	t.Cleanup(func() { _ = again.Stop() })
	must(t, page.Press("Send now"), page.Wait(`!localStorage.getItem("slowroot.outbox") || localStorage.getItem("slowroot.outbox") === "[]"`), page.Go("/jobs"), page.Wait(`!document.body.innerText.includes("does not answer")`))
	page.Forgive("ERR_")
	page.Forgive("Failed to")
	var all []struct{ Operation string }
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+id+"/records", "", nil, &all)
	n := 0
	for _, r := range all {
		if r.Operation == "drains" {
			n++
		}
	}
	if n != 1 {
		t.Errorf("%d records of what was done away", n)
	}
}

// What is short is ordered with a press, from a supplier who is named; when it comes it is in store, less what was sent back,
// and the list says what is still short.
func TestWhatIsOrderedAndCame(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/stores"), page.Says("still to use"), page.Press("Order it: persimmon, grafted trees"), page.Says("say from whom"), page.Says("Supplier not said"), page.Says("On arrival look at 65"))
	must(t, page.Type("Supplier of persimmon", "Hollow Nursery"), page.Wait(`[...document.querySelectorAll("[aria-label=Ordered] td")].some((e) => e.textContent === "Hollow Nursery")`), page.Type("persimmon, grafted trees on a stock that suits the soil, how much", "3000"), page.Wait(`[...document.querySelectorAll("[aria-label='To order'] tr")].some((r) => r.innerText.includes("persimmon") && r.innerText.includes("897"))`))
	look(t, page, "stores")
	must(t, page.Press("It came: persimmon"), page.Says("say what was poor"), page.Type("persimmon, grafted trees on a stock that suits the soil, sent back", "120"), page.Wait(`[...document.querySelectorAll("[aria-label='To order'] tr")].some((r) => r.innerText.includes("persimmon") && /2.880/.test(r.innerText) && /1.017/.test(r.innerText))`))
	must(t, page.Press("Take out the order of persimmon"), page.Says("undo brings it back"), page.Wait(`!document.querySelector("[aria-label=Ordered]")`))
}

// Plants that are raised rather than bought: the stages of the nursery are counted back from planting on their longest times,
// each begins with what it loses on top, each is a job, and a change of one moves those before it.
func TestANurseryCountedBack(t *testing.T) {
	t.Parallel()
	prog := demo(t, t.TempDir())
	page := open(t, prog.URL, 1280, 1000)
	hill := blocks(t, prog.URL)["Hill Paddock"].ID
	must(t, page.Go("/blocks/"+hill+"/plants"), page.Type("How", "graft"), page.Press("Plan the nursery"), page.Says("Usual times and losses"), page.Says("begun by, to be safe"))
	type plan struct {
		CropDate civil.Date
		Raised   []work.RaisedStage
		Jobs     report.Jobs
	}
	var p plan
	ask(t, "GET", prog.URL+"/api/v1/blocks/"+hill+"/plan", "", nil, &p)
	if len(p.Raised) != 4 || p.CropDate.Sub(p.Raised[0].Safe) != 240 || p.Raised[3].Left != 2095 || p.Raised[0].Begun <= p.Raised[3].Begun {
		t.Fatalf("%+v", p.Raised)
	}
	jobs := 0
	for _, j := range p.Jobs {
		if strings.HasPrefix(j.Key, "raise-") {
			jobs++
			if j.Slack == nil {
				t.Errorf("%s is bound to nothing", j.Name)
			}
		}
	}
	if jobs != 4 {
		t.Errorf("%d stages are jobs", jobs)
	}
	must(t, page.Type("Stock to the graft, days at most", "100"), page.Wait(`fetch("/api/v1/blocks/`+hill+`/plan").then((r) => r.json()).then((p) => p.raised[0].safe === "`+p.Raised[0].Safe.AddDays(-25).String()+`")`), page.Says("The plants are raised here"))
	must(t, page.Type("One mother plant gives", "25"), page.Says("mother plants"), page.Says("pieces / 25 from each"), page.Says("substrate, as it is filled in"))
	look(t, page, "nursery")
	must(t, page.Press("Buy them instead"), page.Says("They are bought again"), page.Says("where they are not bought ready to plant"))
}

// Full bloom is noted from the list of jobs on the day it is seen: the harvest of that year moves with it, and says so.
func TestBloomNotedMovesTheHarvest(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	must(t, os.CopyFS(dir, os.DirFS(prepared)))
	prog := run(t, "serve", "--data", dir, "--today", "2033-12-08")
	id := blocks(t, prog.URL)["Chapel Corner"].ID
	harvest := func() (from, rule string) {
		var plan struct {
			Jobs struct {
				Said []struct{ Rule string }
				Each []struct {
					Key, From string
					At        int
				}
			}
		}
		ask(t, "GET", prog.URL+"/api/v1/blocks/"+id+"/plan", "", nil, &plan)
		for _, j := range plan.Jobs.Each {
			if strings.HasPrefix(j.Key, "harvest-1@") && j.From > "2034" {
				return j.From, plan.Jobs.Said[j.At].Rule
			}
		}
		return "", ""
	}
	was, _ := harvest()
	page := open(t, prog.URL, 1280, 900)
	must(t, page.Go("/blocks/"+id+"/care"), page.Says("its days have passed"), page.Press("Note the day of full bloom: done today"), page.Says("Note the day of full bloom: done"))
	now, rule := harvest()
	a, err := time.Parse(time.DateOnly, was)
	must(t, err)
	b, err := time.Parse(time.DateOnly, now)
	must(t, err)
	if days := b.Sub(a).Hours() / 24; days != 23 { // the middle of late spring there is 15 November
		t.Errorf("bloom 23 days late moved the harvest from %s to %s", was, now)
	}
	if !strings.Contains(rule, "8 December 2033") {
		t.Errorf("the harvest follows so: %s", rule)
	}
	must(t, page.Says("moved by the full bloom noted on 8 December 2033"))
}
