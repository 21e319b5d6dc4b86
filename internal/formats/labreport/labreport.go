// Package labreport reads a soil laboratory's CSV. Every laboratory heads its columns its own way: the
// reader proposes what each holds, a person corrects it, and the mapping is remembered for that laboratory.
package labreport

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/soil"
	"slowroot/internal/formats/table"
)

// Column is one column of the file and what it is taken to hold.
type Column struct {
	Head string `json:"head"`
	document.LabColumn
	Example string `json:"example"`
	Problem string `json:"problem,omitempty"`
}

// Asked are the determinations a laboratory can be asked for by name in a request.
var Asked = []string{"ph", "buffer", "organic", "phosphorus", "bases", "acidity", "texture", "salinity"}

// Report is what a file holds: its columns, and the tests once every column that is used is sound.
type Report struct {
	Columns []Column    `json:"columns"`
	Tests   []soil.Test `json:"tests"`
	Shown   [][]string  `json:"shown"` // of each test, what was turned into what
	Ready   bool        `json:"ready"`
}

// Own are the columns a report carries besides the numbers of soil.Fields.
var Own = []string{"sample", "date", "depth", "fromCm", "toCm"}

var unitIn = regexp.MustCompile(`[\[(]\s*([^\])]*?)\s*[\])]\s*$`)

// words a heading may begin with, plain and in order of trial, → field.
var words = []struct{ head, field, how string }{
	{"sampledepth", "depth", ""}, {"depth", "depth", ""}, {"from", "fromCm", ""}, {"top", "fromCm", ""}, {"to", "toCm", ""}, {"bottom", "toCm", ""},
	{"sampledate", "date", ""}, {"date", "date", ""}, {"sampled", "date", ""}, {"sampleid", "sample", ""}, {"sample", "sample", ""}, {"lab", "", ""},
	{"bufferph", "bufferPh", "mehlich"}, {"phbuffer", "bufferPh", "mehlich"}, {"smp", "bufferPh", "smp"},
	{"phcacl2", "ph", "cacl2"}, {"phkcl", "ph", "kcl"}, {"phh2o", "ph", "water"}, {"phwater", "ph", "water"}, {"ph", "ph", "water"},
	{"organicmatter", "omPct", ""}, {"organiccarbon", "omPct", ""}, {"om", "omPct", ""}, {"oc", "omPct", ""},
	{"phosphorus", "pMgKg", ""}, {"polsen", "pMgKg", "Olsen"}, {"pbray", "pMgKg", "Bray"}, {"pmehlich", "pMgKg", "Mehlich 3"}, {"p2o5", "pMgKg", ""}, {"p", "pMgKg", ""},
	{"potassium", "kCmolKg", ""}, {"k2o", "kCmolKg", ""}, {"k", "kCmolKg", ""}, {"calcium", "caCmolKg", ""}, {"caco3", "caco3Pct", ""}, {"lime", "caco3Pct", ""}, {"ca", "caCmolKg", ""},
	{"magnesium", "mgCmolKg", ""}, {"mg", "mgCmolKg", ""}, {"sodium", "naCmolKg", ""}, {"na", "naCmolKg", ""}, {"aluminium", "alCmolKg", ""}, {"al", "alCmolKg", ""},
	{"hal", "acidityCmolKg", ""}, {"acidity", "acidityCmolKg", ""}, {"cec", "cecCmolKg", ""}, {"ece", "eceDSPerM", ""}, {"ec", "eceDSPerM", ""}, {"salinity", "eceDSPerM", ""},
	{"sand", "sandPct", ""}, {"silt", "siltPct", ""}, {"clay", "clayPct", ""},
}

// propose guesses what a heading means.
func propose(head string) document.LabColumn {
	c := document.LabColumn{}
	name := head
	if m := unitIn.FindStringSubmatch(head); m != nil {
		name, c.Unit = head[:strings.LastIndexAny(head, "[(")], m[1]
	}
	plain := table.Plain(strings.TrimSpace(name))
	if full := table.Plain(head); strings.HasPrefix(full, "ph") && c.Unit != "" && len(full) > len(plain) {
		plain, c.Unit = full, "" // pH (CaCl2) names its method, not a unit
	}
	for _, w := range words {
		if plain == w.head || len(w.head) > 2 && strings.HasPrefix(plain, w.head) {
			c.Field, c.How = w.field, w.how
			break
		}
	}
	return c
}

var span = regexp.MustCompile(`^\s*(\d+(?:\.\d+)?)\s*(?:-|–|to)\s*(\d+(?:\.\d+)?)\s*(?:cm)?\s*$`)

// Read reads a report by a mapping; a heading the mapping does not name is guessed. Where a used column is
// in a unit that cannot be read the report is not ready: the column says so and no test is made. A line
// that cannot be refuses the file.
func Read(text, lab string, mapping map[string]document.LabColumn) (Report, error) {
	t, err := table.Read(text)
	if err != nil {
		return Report{}, err
	}
	if len(t.Rows) > 500 {
		return Report{}, table.Refuse(0, "%d samples, more than 500", len(t.Rows))
	}
	r := Report{Columns: []Column{}, Tests: []soil.Test{}, Shown: [][]string{}, Ready: true}
	for i, h := range t.Head {
		c := Column{Head: h}
		if m, ok := mapping[h]; ok {
			c.LabColumn = m
		} else {
			c.LabColumn = propose(h)
		}
		if len(t.Rows) > 0 {
			c.Example = t.Rows[0].Values[i]
		}
		if c.Field != "" && !own(c.Field) {
			f, ok := soil.FieldNamed(c.Field)
			var probe soil.Test
			if !ok {
				c.Problem = fmt.Sprintf("%q is not a number of a soil test", c.Field)
			} else if err := f.Set(&probe, (f.Min+f.Max)/2/largest(f), c.Unit); err != nil {
				var fe *finding.FieldError
				if asField(err, &fe) && strings.Contains(fe.Rule, "unit") {
					c.Problem = fmt.Sprintf("%q is not a unit it is read in: %s", c.Unit, fe.Accepted)
				}
			}
		}
		if c.Problem != "" {
			r.Ready = false
		}
		r.Columns = append(r.Columns, c)
	}
	if !r.Ready {
		return r, nil
	}
	if err := complete(r.Columns); err != nil {
		return Report{}, err
	}
	for _, row := range t.Rows {
		one, shown, err := r.sample(t, row, lab)
		if err != nil {
			return Report{}, err
		}
		r.Tests, r.Shown = append(r.Tests, one), append(r.Shown, shown)
	}
	return r, nil
}

func own(field string) bool {
	for _, o := range Own {
		if o == field {
			return true
		}
	}
	return false
}

// largest keeps a probe value within the field's range in any of its units.
func largest(f soil.Field) float64 {
	k := 1.0
	for _, v := range f.Units {
		k = max(k, v)
	}
	return k
}

func asField(err error, to **finding.FieldError) bool {
	fe, ok := err.(*finding.FieldError)
	*to = fe
	return ok
}

func complete(cols []Column) error {
	has := map[string]int{}
	for _, c := range cols {
		if c.Field != "" {
			has[c.Field]++
		}
	}
	for f, n := range has {
		if n > 1 {
			return table.Refuse(1, "two columns are taken to hold %s: leave one out", f)
		}
	}
	if has["date"] == 0 {
		return table.Refuse(1, "no column holds the day of sampling: say which one does")
	}
	if has["depth"] == 0 && (has["fromCm"] == 0 || has["toCm"] == 0) {
		return table.Refuse(1, "no column holds the depth of sampling: say which one does, written 0-20")
	}
	return nil
}

func (r *Report) sample(t *table.Table, row table.Row, lab string) (soil.Test, []string, error) {
	one := soil.Test{Lab: lab}
	var shown []string
	for i, c := range r.Columns {
		v := row.Values[i]
		switch c.Field {
		case "":
		case "sample":
			one.Sample = v
		case "date":
			d, err := t.Day(row, i)
			if err != nil {
				return one, nil, err
			}
			one.On = d
		case "depth":
			m := span.FindStringSubmatch(v)
			if m == nil {
				return one, nil, table.Refuse(row.Line, "%s: %q is not a depth; write 0-20 in cm", c.Head, v)
			}
			one.FromCm, _ = strconv.ParseFloat(m[1], 64)
			one.ToCm, _ = strconv.ParseFloat(m[2], 64)
		case "fromCm", "toCm":
			x, _, err := t.Number(row, i)
			if err != nil {
				return one, nil, err
			}
			if c.Field == "fromCm" {
				one.FromCm = x
			} else {
				one.ToCm = x
			}
		default:
			below := strings.HasPrefix(v, "<")
			if below {
				row.Values[i] = strings.TrimSpace(v[1:])
			}
			x, ok, err := t.Number(row, i)
			if err != nil {
				return one, nil, err
			}
			if !ok {
				continue
			}
			if below {
				x /= 2 // under the limit of detection: half of it
			}
			f, _ := soil.FieldNamed(c.Field)
			if err := f.Set(&one, x, c.Unit); err != nil {
				var fe *finding.FieldError
				asField(err, &fe)
				return one, nil, table.Refuse(row.Line, "%s: %s %s; accepted %s", c.Head, v, fe.Rule, fe.Accepted)
			}
			switch c.Field {
			case "ph":
				one.PHMethod = c.How
			case "bufferPh":
				one.BufferMethod = c.How
			case "pMgKg":
				one.PMethod = c.How
			}
			if got, _ := f.Get(&one); got != x || below {
				shown = append(shown, fmt.Sprintf("%s %s %s → %s %s", f.Label, v, c.Unit, strconv.FormatFloat(got, 'g', 4, 64), f.Unit))
			}
		}
	}
	if err := one.Valid("sample"); err != nil {
		var fe *finding.FieldError
		if asField(err, &fe) {
			return one, nil, table.Refuse(row.Line, "%s = %s %s; accepted %s", strings.TrimPrefix(fe.Field, "sample."), fe.Value, fe.Rule, fe.Accepted)
		}
		return one, nil, table.Refuse(row.Line, "%v", err)
	}
	if shown == nil {
		shown = []string{}
	}
	return one, shown, nil
}
