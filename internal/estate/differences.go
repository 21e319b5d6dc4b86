package estate

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"sort"
	"strconv"
	"strings"

	"slowroot/core/practice"
	"slowroot/internal/store"
)

// Difference is one thing a change changed: what, in words, and how it read before and after. "" is nothing there.
type Difference struct {
	Block string `json:"block"` // id, "" for the estate
	Words string `json:"words"`
	Was   string `json:"was"`
	Is    string `json:"is"`
}

// mostDifferences is how many are listed; what comes after is counted.
const mostDifferences = 200

// Differences are what a change changed in its documents, in words.
func (s *Service) Differences(ctx context.Context, change int64) ([]Difference, error) {
	items, err := s.store.Items(ctx, change)
	if err != nil {
		return nil, err
	}
	out := []Difference{}
	for _, i := range items {
		if i.Kind == store.RowsDoc {
			out = append(out, Difference{Block: i.Block, Words: "rows as planted", Was: thereOr(i.Before), Is: thereOr(i.After)})
			continue
		}
		var was, is any
		if err := errorsOf(i.Before, &was, i.After, &is); err != nil {
			return nil, err
		}
		lead := map[store.Kind]string{store.PlantingDoc: "planting", store.SheetDoc: "practice sheet"}[i.Kind]
		if was == nil || is == nil {
			name := nameOf(was) + nameOf(is)
			out = append(out, Difference{Block: i.Block, Words: strings.TrimSpace(lead + " " + name), Was: thereOr(i.Before), Is: thereOr(i.After)})
			continue
		}
		if i.Kind == store.SheetDoc {
			d, err := sheetDifferences(i.Before, i.After)
			if err != nil {
				return nil, err
			}
			out = append(out, d...)
			continue
		}
		walk(lead, was, is, func(words, before, after string) {
			out = append(out, Difference{Block: i.Block, Words: words, Was: before, Is: after})
		})
	}
	if n := len(out) - mostDifferences; n > 0 {
		out = append(out[:mostDifferences:mostDifferences], Difference{Words: fmt.Sprintf("and %d more", n)})
	}
	return out, nil
}

// sheetDifferences are what changed in an own sheet, value by value.
func sheetDifferences(before, after []byte) ([]Difference, error) {
	var was, is ownSheet
	if err := errors.Join(json.Unmarshal(before, &was), json.Unmarshal(after, &is)); err != nil {
		return nil, fmt.Errorf("%w: an entry of the history: %v", store.ErrDamaged, err)
	}
	list, err := practice.Differences([]byte(was.Text), []byte(is.Text))
	if err != nil {
		return nil, err
	}
	var out []Difference
	for _, d := range list {
		words := strings.TrimSpace(strings.Join([]string{"sheet “" + is.Name + "”:", d.Section, d.Entry, d.Field}, " "))
		out = append(out, Difference{Words: strings.Join(strings.Fields(words), " "), Was: d.Was, Is: d.Is})
	}
	return out, nil
}

func errorsOf(before []byte, was *any, after []byte, is *any) error {
	for _, x := range []struct {
		text []byte
		to   *any
	}{{before, was}, {after, is}} {
		if x.text == nil {
			continue
		}
		if err := json.Unmarshal(x.text, x.to); err != nil {
			return fmt.Errorf("%w: an entry of the history: %v", store.ErrDamaged, err)
		}
	}
	return nil
}

func thereOr(body []byte) string {
	if body == nil {
		return ""
	}
	return "there"
}

// walk tells every leaf in which two documents differ. Members of a list are matched by their id or name, else by place.
func walk(lead string, was, is any, tell func(words, was, is string)) {
	a, isMap := was.(map[string]any)
	b, alsoMap := is.(map[string]any)
	if (isMap || was == nil) && (alsoMap || is == nil) && (isMap || alsoMap) {
		keys := map[string]bool{}
		for k := range a {
			keys[k] = true
		}
		for k := range b {
			keys[k] = true
		}
		for _, k := range sorted(keys) {
			if k != "id" {
				walk(join(lead, fieldWords(k)), a[k], b[k], tell)
			}
		}
		return
	}
	if a, ok := was.([]any); ok {
		if b, ok := is.([]any); ok && members(a) && members(b) {
			walkList(lead, a, b, tell)
			return
		}
	}
	if x, y := leaf(lead, was), leaf(lead, is); x != y {
		tell(lead, x, y)
	}
}

func members(list []any) bool {
	return !slices.ContainsFunc(list, func(v any) bool { _, ok := v.(map[string]any); return !ok })
}

func walkList(lead string, a, b []any, tell func(words, was, is string)) {
	taken := make([]bool, len(b))
	for i, x := range a {
		j := slices.IndexFunc(b, func(y any) bool { return keyOfMember(x) != "" && keyOfMember(x) == keyOfMember(y) })
		if j < 0 && keyOfMember(x) == "" && i < len(b) && keyOfMember(b[i]) == "" {
			j = i
		}
		name := member(lead, x, i)
		if j < 0 || taken[j] {
			tell(name, "there", "")
			continue
		}
		taken[j] = true
		walk(name, x, b[j], tell)
	}
	for j, y := range b {
		if !taken[j] {
			tell(member(lead, y, j), "", "there")
		}
	}
}

func keyOfMember(v any) string {
	m, _ := v.(map[string]any)
	for _, k := range []string{"id", "name", "item"} {
		if s, ok := m[k].(string); ok && s != "" {
			return s
		}
	}
	return ""
}

func nameOf(v any) string {
	m, _ := v.(map[string]any)
	for _, k := range []string{"name", "item", "sheet", "kind", "id"} {
		if s, ok := m[k].(string); ok && s != "" {
			return s
		}
	}
	return ""
}

var places = []string{"first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"}

// member names one of a list: by its own name, else by its place, such as "second layer".
func member(lead string, v any, i int) string {
	name := nameOf(v)
	if name == "" {
		parts := strings.Split(lead, " › ")
		place := strconv.Itoa(i+1) + "."
		if i < len(places) {
			place = places[i]
		}
		parts[len(parts)-1] = place + " " + strings.TrimSuffix(parts[len(parts)-1], "s")
		return strings.Join(parts, " › ")
	}
	return join(lead, name)
}

func join(lead, word string) string {
	if lead == "" {
		return word
	}
	return lead + " › " + word
}

// fieldWords are a field's name as words: stonesPct is "stones, %".
func fieldWords(name string) string {
	unit := ""
	for _, u := range []struct{ tail, unit string }{{"MKgPerHa", "kg/ha"}, {"KgPerHa", "kg/ha"}, {"DSPerM", "dS/m"}, {"MM", "mm"}, {"Mm", "mm"}, {"Pct", "%"}, {"Cm", "cm"}, {"Deg", "°"}, {"Kg", "kg"}, {"M3", "m³"}, {"M2", "m²"}, {"MDay", "m/day"}, {"Days", "days"}, {"M", "m"}, {"C", "°C"}} {
		if rest, ok := strings.CutSuffix(name, u.tail); ok && rest != "" {
			name, unit = rest, u.unit
			break
		}
	}
	var b strings.Builder
	for i, r := range name {
		if r >= 'A' && r <= 'Z' {
			if i > 0 {
				b.WriteByte(' ')
			}
			r += 'a' - 'A'
		}
		b.WriteRune(r)
	}
	if unit != "" {
		return b.String() + ", " + unit
	}
	return b.String()
}

// leaf is a value as it is read.
func leaf(lead string, v any) string {
	switch x := v.(type) {
	case nil:
		return ""
	case bool:
		return map[bool]string{true: "yes", false: "no"}[x]
	case string:
		return x
	case float64:
		return strconv.FormatFloat(x, 'f', -1, 64)
	case []any:
		if strings.Contains(lead, "outer") || strings.Contains(lead, "line") {
			return fmt.Sprintf("%d points", len(x))
		}
	}
	text, _ := json.Marshal(v) // it was JSON before
	if s := []rune(string(text)); len(s) > 160 {
		return string(s[:160]) + "…"
	}
	return string(text)
}

func sorted(m map[string]bool) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}
