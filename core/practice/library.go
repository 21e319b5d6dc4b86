package practice

import (
	"bytes"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"reflect"
	"sort"
	"strings"
	"sync"

	"go.yaml.in/yaml/v3"

	"slowroot/core/units"
)

// The sheets as people write them, and beside each the same read already (see Prepared), because reading what people
// write is slow: 24 sheets take 70 to 120 ms, read already 15.
//
//go:embed sheets/*.yaml sheets/read/*.json
var builtIn embed.FS

// Library is a set of sheets by id.
type Library struct {
	sheets map[string]*Sheet
	once   sync.Once
	us     *Library // with its texts in US customary units, made when asked for
}

// Load reads one sheet, refuses fields it does not know, normalises ages to growing seasons and
// validates it.
func Load(text []byte) (*Sheet, error) {
	s, err := judged(text)
	if err != nil {
		return nil, err
	}
	s.finish(text, units.Metric)
	return s, nil
}

// judged is a sheet as it is written, found to agree with itself.
func judged(text []byte) (*Sheet, error) {
	var s Sheet
	d := yaml.NewDecoder(bytes.NewReader(text))
	d.KnownFields(true)
	if err := d.Decode(&s); err != nil {
		return nil, fmt.Errorf("reading practice sheet: %w", err)
	}
	if errs := s.Validate(); len(errs) > 0 {
		return nil, errors.Join(errs...)
	}
	return &s, nil
}

// Prepared is a sheet that ships with the program, read and judged: what make generate keeps in sheets/read, with the
// digest of the text it was read from.
func Prepared(id string) ([]byte, error) {
	text, err := builtIn.ReadFile("sheets/" + id + ".yaml")
	if err != nil {
		return nil, fmt.Errorf("practice sheet %s: %w", id, err)
	}
	s, err := judged(text)
	if err != nil {
		return nil, err
	}
	s.Digest = digest(text)
	return json.Marshal(s)
}

func digest(text []byte) string {
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:8])
}

// Kept reads a sheet that was kept when a plan was adopted with it. It was judged then: rules made since do not judge it
// again, and what an older form said and this program no longer reads is passed over, so that an adopted plan computes.
func Kept(text []byte) (*Sheet, error) {
	var s Sheet
	if err := yaml.Unmarshal(text, &s); err != nil {
		return nil, fmt.Errorf("reading a practice sheet that was kept: %w", err)
	}
	s.bringUp()
	s.finish(text, units.Metric)
	return &s, nil
}

// Format is the form sheets are written in. Format 2 counts itself, and says of a crop itself what was listed in the
// program before: early blossom, roots that block drains, for how long ground rests before it.
const Format = 2

// bringUp gives a sheet of an older form what its form could not say: as the library says it of the same crop.
func (s *Sheet) bringUp() {
	if s.Format >= Format {
		return
	}
	s.Format = Format
	if now, err := One(s.ID); err == nil { // of a crop the library does not hold nothing was listed
		s.Traits, s.Waits = now.Traits, now.Waits
	}
}

// Crops are the ids of the sheets that ship with the program.
func Crops() []string {
	files, _ := fs.Glob(builtIn, "sheets/*.yaml")
	for i, f := range files {
		files[i] = strings.TrimSuffix(strings.TrimPrefix(f, "sheets/"), ".yaml")
	}
	return files
}

// One loads one of the sheets that ship with the program: as it was read already, unless its text has changed since.
func One(id string) (*Sheet, error) {
	text, err := builtIn.ReadFile("sheets/" + id + ".yaml")
	if err != nil {
		return nil, fmt.Errorf("practice sheet %s: %w", id, err)
	}
	if read, err := builtIn.ReadFile("sheets/read/" + id + ".json"); err == nil {
		var s Sheet
		if err := json.Unmarshal(read, &s); err == nil && s.Digest == digest(text) {
			s.finish(text, units.Metric)
			return &s, nil
		}
	}
	return Load(text)
}

// finish makes a sheet as it is read ready for use: nothing absent where the contract has a list, ages in growing
// seasons, and its texts in a reader's units.
func (s *Sheet) finish(text []byte, sys units.System) {
	s.fillEmpty()
	for i := range s.Feeding {
		s.Feeding[i].Programme = s.Feeding[i].Normal()
	}
	s.Digest = digest(text)
	s.text = text
	showAs(reflect.ValueOf(s).Elem(), sys)
}

const sheetsAtOnce = 4

// BuiltIn loads the sheets that ship with the program, a few at a time; an error is a fault of the program.
func BuiltIn() (*Library, error) {
	ids := Crops()
	sheets, errs := make([]*Sheet, len(ids)), make([]error, len(ids))
	var all sync.WaitGroup
	room := make(chan struct{}, sheetsAtOnce)
	for i, id := range ids {
		room <- struct{}{}
		all.Go(func() {
			defer func() { <-room }()
			if sheets[i], errs[i] = One(id); errs[i] != nil {
				errs[i] = fmt.Errorf("%s: %w", id, errs[i])
			}
		})
	}
	all.Wait()
	if err := errors.Join(errs...); err != nil {
		return nil, err
	}
	return LibraryOf(sheets...), nil
}

// Text is what the sheet was read from, to be kept when a plan is adopted with it.
func (s *Sheet) Text() []byte { return s.text }

// Get is the sheet with that id.
func (l *Library) Get(id string) (*Sheet, bool) {
	s, ok := l.sheets[id]
	return s, ok
}

// All is every sheet, by name.
func (l *Library) All() []*Sheet {
	out := make([]*Sheet, 0, len(l.sheets))
	for _, s := range l.sheets {
		out = append(out, s)
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Name < out[j].Name })
	return out
}

// Whole are the sheets a planting can be planned with, by name.
func (l *Library) Whole() []*Sheet {
	var out []*Sheet
	for _, s := range l.All() {
		if s.Whole() {
			out = append(out, s)
		}
	}
	return out
}

// LibraryOf is a library of the sheets given.
func LibraryOf(sheets ...*Sheet) *Library {
	l := &Library{sheets: map[string]*Sheet{}}
	for _, s := range sheets {
		l.sheets[s.ID] = s
	}
	return l
}

// fillEmpty makes lists a sheet leaves out empty instead of absent, as the contract has them.
func (s *Sheet) fillEmpty() {
	empty(&s.Waits)
	empty(&s.Limits)
	empty(&s.Forks)
	empty(&s.Layouts)
	empty(&s.Windows)
	empty(&s.Work)
	empty(&s.Feeding)
	empty(&s.Yields)
	empty(&s.Harvests)
	empty(&s.PickRates)
	empty(&s.Storage)
	empty(&s.Notes)
	empty(&s.Removal)
	empty(&s.Water)
	empty(&s.Lateness)
	empty(&s.Disagrees)
	empty(&s.Cautions)
}

func empty[T any](list *[]T) {
	if *list == nil {
		*list = []T{}
	}
}
