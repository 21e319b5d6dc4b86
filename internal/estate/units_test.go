package estate

import (
	"encoding/json"
	"fmt"
	"regexp"
	"sort"
	"strings"
	"testing"
)

// metric is a number with a metric unit behind it.
var metric = regexp.MustCompile(`(^|[^\w.])[−-]?\d[\d.,\x{202f}\x{2009}\x{a0}]*[ \x{a0}]?(cm|mm|m|km|ha|kg|t|°C|L|m²|m³|t/ha|kg/ha|m/s|mm/h|L/s)([^\w²³/]|$)`)

// trade are names that are a size: a pipe is sold by its millimetres everywhere; and what a person of the demonstration
// wrote in a field of their own words.
var trade = regexp.MustCompile(`(pipe:?|Pipe|pipe changes to) \d+ mm|^\d+ mm$|pipe:\d+ mm|\(the brook ran at 2 L/s in February\)|15 m grid`)

// customary is a number with a US customary unit behind it.
var customary = regexp.MustCompile(`\d\x{a0}(in|ft|ac|lb|short tons|°F|gal|mph|yd³|oz)([^\w]|$)`)

// inWords walks an answer and gives every text a reader sees. Working keeps to SI by its own rule, names of people's own
// making are theirs, and a source is quoted as it is printed.
func inWords(v any, key string, see func(key, text string)) {
	switch x := v.(type) {
	case string:
		see(key, x)
	case []any:
		for _, e := range x {
			inWords(e, key, see)
		}
	case map[string]any:
		for k, e := range x {
			switch k {
			case "source", "origin", "formula", "substituted", "unit", "name", "zone", "evidence", "notes", "climateSource", "from", "digest", "text", "binding":
				if k != "name" || key == "" {
					continue
				}
			}
			inWords(e, k, see)
		}
	}
}

// Every answer of the estate and of each of its blocks speaks the reader's units alone: sentences, details of jobs, fits,
// forks, lists, sheets.
func TestEveryAnswerInBothSystems(t *testing.T) {
	s, docs := demoEstate(t)
	answers := func(sys string) map[string]any {
		out := map[string]any{}
		put := func(name string, v any, err error) {
			if err != nil {
				t.Fatalf("%s: %v", name, err)
			}
			text, err := json.Marshal(v)
			if err != nil {
				t.Fatal(err)
			}
			var back any
			_ = json.Unmarshal(text, &back)
			out[name] = back
		}
		e, _ := s.Estate(ctx)
		for name, d := range docs {
			p, err := s.Plan(ctx, d.ID)
			put(name+" plan", p, err)
			f, err := s.Forks(ctx, d.ID)
			put(name+" forks", f, err)
			fit, err := s.Fit(ctx, d.ID)
			put(name+" fit", fit, err)
		}
		for _, sh := range s.Sheets(ctx) { // every crop considered on one ground; sheets are written in metric
			if sys == "metric" {
				break
			}
			text := []byte(fmt.Sprintf(`{"planting":{"considered":true,"sheet":%q,"date":"","layout":{},"adoptedOn":"","baseDate":"","planted":""}}`, sh.ID))
			p, err := s.Preview(ctx, docs["Gate Field"].ID, text)
			put("considered "+sh.ID, p, err)
		}
		jobs, err := s.Jobs(ctx, s.Today(), s.Today().AddMonths(36))
		put("jobs", jobs, err)
		put("sheets", s.Sheets(ctx), nil)
		put("lists", GroundLists(e.Estate), nil)
		o, err := s.Overview(ctx)
		put("overview", o, err)
		c, err := s.Climate(ctx)
		put("climate", c, err)
		return out
	}
	for _, sys := range []string{"metric", "us"} {
		e, _ := s.Estate(ctx)
		if _, err := s.ChangeEstate(ctx, "x", e.Revision, []byte(`{"units":"`+sys+`"}`)); err != nil {
			t.Fatal(err)
		}
		wrong, foreign := metric, customary
		if sys == "metric" {
			wrong, foreign = customary, metric
		}
		texts, right, found := 0, 0, map[string]string{}
		for name, a := range answers(sys) {
			inWords(a, "", func(key, text string) {
				texts++
				if foreign.MatchString(text) {
					right++
				}
				if wrong.MatchString(trade.ReplaceAllString(text, "")) {
					found[text] = name + "." + key
				}
				if strings.ContainsAny(text, "{}") {
					t.Errorf("%s, %s.%s: a mark reaches the reader: %q", sys, name, key, text)
				}
			})
		}
		var list []string
		for text, where := range found {
			list = append(list, where+": "+text)
		}
		sort.Strings(list)
		for _, l := range list {
			t.Errorf("%s: %s", sys, l)
		}
		if texts < 3000 || right < 300 {
			t.Errorf("%s: %d texts, %d with units", sys, texts, right)
		}
	}
}
