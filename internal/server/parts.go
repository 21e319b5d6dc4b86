package server

import (
	"bytes"
	"encoding/json"
	"hash/fnv"
	"reflect"
	"strconv"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/plan"
)

// partsOf is the named parts of a plan as JSON, with the mark of each under "marks". A part that is named with its mark,
// years@5f3a, is left out where it is the same still. A name the plan does not have is a *finding.FieldError.
func partsOf(p *plan.Plan, names []string) (map[string]json.RawMessage, error) {
	v := reflect.ValueOf(p).Elem()
	at := map[string]int{}
	known := make([]string, 0, v.NumField())
	for i := range v.NumField() {
		name, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
		if name != "" && name != "-" {
			at[name] = i
			known = append(known, name)
		}
	}
	out, marks := map[string]json.RawMessage{}, map[string]string{}
	for _, name := range names {
		name, had, _ := strings.Cut(name, "@")
		i, ok := at[name]
		if !ok {
			return nil, finding.Bad("parts", name, "is not a part of a plan", strings.Join(known, ", "))
		}
		raw, err := json.Marshal(v.Field(i).Interface())
		if err != nil {
			return nil, err
		}
		raw = shortened(raw)
		sum := fnv.New64a()
		sum.Write(raw)
		if mark := strconv.FormatUint(sum.Sum64(), 36); mark != had {
			out[name], marks[name] = raw, mark
		}
	}
	out["marks"], _ = json.Marshal(marks) // words always encode
	return out, nil
}

// shortened writes the long numbers of JSON with seven digits: enough to be drawn and read while something is dragged.
func shortened(raw []byte) []byte {
	var b bytes.Buffer
	b.Grow(len(raw))
	quoted := false
	for i := 0; i < len(raw); i++ {
		c := raw[i]
		switch {
		case c == '\\' && quoted:
			b.WriteByte(c)
			i++
			b.WriteByte(raw[i])
			continue
		case c == '"':
			quoted = !quoted
		case !quoted && (c == '-' || c >= '0' && c <= '9'):
			j := i + 1
			for j < len(raw) && strings.IndexByte("0123456789.eE+-", raw[j]) >= 0 {
				j++
			}
			word := raw[i:j]
			if x, err := strconv.ParseFloat(string(word), 64); err == nil && len(word) > 8 && bytes.IndexByte(word, '.') >= 0 {
				word = strconv.AppendFloat(nil, x, 'g', 7, 64)
			}
			b.Write(word)
			i = j - 1
			continue
		}
		b.WriteByte(c)
	}
	return b.Bytes()
}
