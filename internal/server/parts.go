package server

import (
	"bytes"
	"encoding/json"
	"reflect"
	"strconv"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/plan"
)

// partsOf is the named parts of a plan as JSON. A name the plan does not have is a *finding.FieldError.
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
	out := map[string]json.RawMessage{}
	for _, name := range names {
		i, ok := at[name]
		if !ok {
			return nil, finding.Bad("parts", name, "is not a part of a plan", strings.Join(known, ", "))
		}
		raw, err := json.Marshal(v.Field(i).Interface())
		if err != nil {
			return nil, err
		}
		out[name] = shortened(raw)
	}
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
