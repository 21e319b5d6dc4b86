// Package document holds what people said and may change: the estate, its blocks and their plantings, what was found on the
// ground and what was decided about it. A document is checked when it is written; it computes nothing.
package document

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"slowroot/core/amend"
	"slowroot/core/civil"
	"slowroot/core/drainage"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/rotation"
	"slowroot/core/soil"
)

// settled is the block as it counts: without pits that are drafts and without tests in which nothing was measured.
func (b Block) Settled() Block {
	b.Pits = slices.DeleteFunc(slices.Clone(b.Pits), func(p soil.Pit) bool { return p.Draft })
	b.Tests = slices.DeleteFunc(slices.Clone(b.Tests), soil.Test.Empty)
	return b
}

// wet reports that something was said about the water of a block.
func (b Block) Wet() bool { return b.Drains != nil || b.Decided[DrainFork].Option != "" }

func (b Block) DrainChoice() DrainChoice {
	if b.Drains != nil {
		return *b.Drains
	}
	return DrainChoice{}
}

// checkDecided refuses a way the ground's forks do not know.
func (b Block) checkDecided() error {
	known := map[string][]string{"lime": {}, "phosphate": {"hole", "band"}, CoverFork: {"cover-crop", "rotation", "fumigation"}}
	for id := range drainage.Names {
		known[DrainFork] = append(known[DrainFork], id)
	}
	sort.Strings(known[DrainFork])
	for _, s := range amend.Schools {
		known["lime"] = append(known["lime"], string(s))
	}
	for id, ch := range b.Decided {
		ok := false
		for _, o := range known[id] {
			ok = ok || o == ch.Option
		}
		if !ok {
			return finding.Bad("decided."+id, ch.Option, "is not a way at a fork of the ground", strings.Join(known[id], ", "))
		}
	}
	return nil
}

// Block is a piece of ground and what is meant for it.
type Block struct {
	Name      string      `json:"name"`
	Number    int         `json:"number"` // shown on the map
	Boundary  geo.Polygon `json:"boundary"`
	Surveyed  string      `json:"surveyed"`  // how the boundary was found
	AccuracyM float64     `json:"accuracyM"` // of a vertex; 0 is not known
	Notes     string      `json:"notes"`
	Planting  *Planting   `json:"planting,omitempty"` // the one it is seen from; a block has several, one after another
	Found
}

// Choice is the way taken at a fork, and who took it and why.
type Choice struct {
	Option string     `json:"option"`
	By     string     `json:"by"`
	On     civil.Date `json:"on"`
	Why    string     `json:"why"`
}

// First and last year of what people enter about a block.
const (
	firstYear = 1900
	lastYear  = 2200
)

// entered refuses a day that nobody can mean. No date passes.
func entered(field string, d civil.Date) error {
	if !d.IsZero() && (d.Year() < firstYear || d.Year() > lastYear) {
		return finding.Bad(field, d, "is not a day of this planting's time", fmt.Sprintf("a day from %d to %d", firstYear, lastYear))
	}
	return nil
}

// days refuses days nobody can mean wherever a block holds one.
func (b Block) days() error {
	var errs []error
	add := func(field string, d civil.Date) { errs = append(errs, entered(field, d)) }
	if p := b.Planting; p != nil {
		add("planting.date", p.Date)
		add("planting.planted", p.Planted)
		add("planting.adoptedOn", p.AdoptedOn)
		add("planting.baseDate", p.BaseDate)
		if p.End != nil {
			add("planting.end.on", p.End.On)
		}
	}
	if b.Works != nil {
		add("works.startOn", b.Works.StartOn)
	}
	for i, u := range b.Uses {
		add(fmt.Sprintf("uses[%d].end", i), u.End)
	}
	for i, t := range b.Tests {
		add(fmt.Sprintf("tests[%d].on", i), t.On)
	}
	for i, p := range b.Pits {
		add(fmt.Sprintf("pits[%d].on", i), p.On)
	}
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

// Valid reports what makes a block unusable, as *geo.Invalid or *finding.FieldError.
func (b Block) Valid() error {
	if b.Name == "" || len([]rune(b.Name)) > 80 {
		return finding.Bad("name", b.Name, "a block needs a name", "1 to 80 characters")
	}
	if b.Number < 0 || b.Number > 9999 {
		return finding.Bad("number", b.Number, "is not a block number", "0 to 9999")
	}
	if !(b.AccuracyM >= 0 && b.AccuracyM <= 100) {
		return finding.Bad("accuracyM", b.AccuracyM, "is not the accuracy of a survey", "0 to 100 m")
	}
	if err := geo.Validate(b.Boundary); err != nil {
		return err
	}
	if err := b.Found.valid(); err != nil {
		return err
	}
	if err := b.checkDecided(); err != nil {
		return err
	}
	if err := b.days(); err != nil {
		return err
	}
	p := b.Planting
	if p == nil {
		return nil
	}
	if p.Survival != 0 && !(p.Survival >= 0.05 && p.Survival <= 1) {
		return finding.Bad("survival", p.Survival, "is not a share of plants that establish", "0.05 to 1, or 0 for the sheet's")
	}
	if p.Confidence != 0 && !(p.Confidence >= 0.5 && p.Confidence <= 0.999) {
		return finding.Bad("confidence", p.Confidence, "is not a confidence", "0.5 to 0.999, or 0 for 0.95")
	}
	for _, c := range [][2]string{{"name", p.Name}, {"called", p.Called}, {"calledPoll", p.CalledPoll}} {
		if len([]rune(c[1])) > 80 {
			return finding.Bad("planting."+c[0], c[1], "is longer than a name", "80 characters at most")
		}
	}
	if err := p.companions(); err != nil {
		return err
	}
	if p.Considered && (!p.AdoptedOn.IsZero() || !p.Planted.IsZero()) {
		return finding.Bad("planting.considered", true, "a plan that is adopted or a stand is not only considered", "leave it out")
	}
	if e := p.End; e != nil {
		if p.Planted.IsZero() || e.On.Before(p.Planted) {
			return finding.Bad("planting.end.on", e.On, "lies before the planting, or nothing was planted", "a day on which it stood")
		}
		if !slices.Contains(Ends, e.How) {
			return finding.Bad("planting.end.how", e.How, "is not a way a stand ends", strings.Join(Ends, ", "))
		}
	}
	if !p.Planted.IsZero() && p.AsPlanted == nil {
		return finding.Bad("planted", p.Planted, "a planting is recorded by the command that fixes its layout", "use record as planted")
	}
	return nil
}

// CoverTaken is the way taken to rest the ground before planting; a cover crop is the usual one.
func CoverTaken(decided map[string]Choice) string {
	if o := decided[CoverFork].Option; o != "" {
		return o
	}
	return "cover-crop"
}

// CoverFork is the fork between keeping the ground under a cover crop, resting it longer, and fumigation.
const CoverFork = "cover"

// Found is what was found on a block and decided about its ground.
type Found struct {
	Pits    []soil.Pit            `json:"pits,omitempty"`
	Tests   []soil.Test           `json:"tests,omitempty"`
	Samples []Sample              `json:"samples,omitempty"` // sent to a laboratory
	Answers map[string]SiteAnswer `json:"answers,omitempty"`
	Uses    []rotation.Use        `json:"uses,omitempty"`
	Growth  map[string]float64    `json:"growth,omitempty"` // what stands or lies there, m³ by class of Sorting
	Works   *WorksChoice          `json:"works,omitempty"`
	Decided map[string]Choice     `json:"decided,omitempty"` // forks of the ground
	Checks  map[string]Check      `json:"checks,omitempty"`  // the inspection list
	Keep    map[string]string     `json:"keep,omitempty"`    // finding rule → why it is kept, where no planting holds it
	Drains  *DrainChoice          `json:"drains,omitempty"`

	Obstacles []Obstacle `json:"obstacles,omitempty"` // what takes no plants
	Jobs      []OwnJob   `json:"jobs,omitempty"`      // that a person added
}

// SiteAnswer is an answer to a question of the site, with what it rests on.
type SiteAnswer struct {
	Answer   string     `json:"answer"`
	Evidence string     `json:"evidence"`
	By       string     `json:"by"`
	On       civil.Date `json:"on"`
}

// Check is one line of the inspection list as filled in.
type Check struct {
	State string     `json:"state"` // good, bad or skipped
	Note  string     `json:"note"`
	By    string     `json:"by"`
	On    civil.Date `json:"on"`
}

// Sample is a soil sample sent to a laboratory.
type Sample struct {
	ID     string     `json:"id"`
	On     civil.Date `json:"on"`
	FromCm float64    `json:"fromCm"`
	ToCm   float64    `json:"toCm"`
	Tests  []string   `json:"tests"`
	Ref    string     `json:"ref"` // the laboratory's number
	Read   bool       `json:"read"`
}

// WorksChoice is how the ground is to be mended. Zero values take the default.
type WorksChoice struct {
	Material   string     `json:"material,omitempty"`   // liming material
	DepthCm    float64    `json:"depthCm,omitempty"`    // mixed in to; 0 takes 20
	StripM     float64    `json:"stripM,omitempty"`     // only strips of this width are treated; 0 is the whole block
	RowM       float64    `json:"rowM,omitempty"`       // row spacing for strips, where no layout says it
	BufferCap  float64    `json:"bufferCap,omitempty"`  // measured, cmolc/kg per pH
	Organic    string     `json:"organic,omitempty"`    // material for organic matter
	OMTarget   float64    `json:"omTarget,omitempty"`   // %; 0 takes the sheet's
	BenchM     float64    `json:"benchM,omitempty"`     // width of a terrace bench; 0 takes 3
	StartOn    civil.Date `json:"startOn,omitzero"`     // nothing can start before; zero is today
	WaterM3Day float64    `json:"waterM3Day,omitempty"` // supply in the dry season
	PlantBack  float64    `json:"plantBack,omitempty"`  // days by the label of a fumigant; 0 takes the usual 21
}

func (f Found) valid() error {
	if len(f.Pits) > 200 || len(f.Tests) > 500 || len(f.Uses) > 100 {
		return finding.Bad("pits", len(f.Pits), "are more records than a block holds", "200 pits, 500 tests and 100 uses")
	}
	for i, p := range f.Pits {
		if err := p.Valid(fmt.Sprintf("pits[%d]", i)); err != nil {
			return err
		}
	}
	for i, t := range f.Tests {
		if err := t.Valid(fmt.Sprintf("tests[%d]", i)); err != nil {
			return err
		}
	}
	for k, a := range f.Answers {
		q, ok := QuestionNamed(k)
		if !ok {
			return finding.Bad("answers."+k, a.Answer, "is not a question asked here", "see the list")
		}
		if _, ok := q.Option(a.Answer); !ok {
			return finding.Bad("answers."+k, a.Answer, "is not one of the answers offered", q.accepted())
		}
	}
	if err := ownJobs(f.Jobs); err != nil {
		return err
	}
	if len(f.Obstacles) > maxObstacles {
		return finding.Bad("obstacles", len(f.Obstacles), "are more obstacles than a block holds", fmt.Sprintf("%d at most", maxObstacles))
	}
	for i, o := range f.Obstacles {
		if err := o.valid(fmt.Sprintf("obstacles[%d]", i)); err != nil {
			return err
		}
	}
	for i, u := range f.Uses {
		known := false
		for _, k := range rotation.Kinds {
			known = known || k.Kind == u.Kind
		}
		if !known {
			return finding.Bad(fmt.Sprintf("uses[%d].kind", i), u.Kind, "is not a use known here", "see the list")
		}
		if u.Months < 0 || u.Months > 240 {
			return finding.Bad(fmt.Sprintf("uses[%d].months", i), u.Months, "is not a plant-back interval", "0 to 240 months")
		}
	}
	if err := f.Drains.Valid(); err != nil {
		return err
	}
	for k, c := range f.Checks {
		if c.State != "good" && c.State != "bad" && c.State != "skipped" {
			return finding.Bad("checks."+k, c.State, "is not a result", "good, bad or skipped")
		}
	}
	for k, v := range f.Growth {
		if _, ok := sortedTo(k, "metric"); !ok || !(v >= 0 && v <= 1e5) {
			return finding.Bad("growth."+k, v, "is not an amount of a class of growth", "0 to 100 000 m³ of a class of the list")
		}
	}
	if w := f.Works; w != nil {
		for _, c := range []struct {
			name   string
			v      float64
			lo, hi float64
			unit   string
		}{{"depthCm", w.DepthCm, 5, 60, "cm"}, {"stripM", w.StripM, 0.2, 20, "m"}, {"rowM", w.RowM, 0.5, 25, "m"}, {"bufferCap", w.BufferCap, 0.2, 20,
			"cmolc/kg for each pH"},
			{"omTarget", w.OMTarget, 0.1, 50, "%"}, {"benchM", w.BenchM, 0.8, 20, "m"}, {"waterM3Day", w.WaterM3Day, 0, 1e6, "m³ a day"},
			{"plantBack", w.PlantBack, 7, 400, "days"}} {
			if c.v != 0 && !(c.v >= c.lo && c.v <= c.hi) {
				return finding.Bad("works."+c.name, c.v, "cannot be", fmt.Sprintf("%g to %g %s, or 0 for the usual", c.lo, c.hi, c.unit))
			}
		}
	}
	return nil
}

// crop is the sheet the ground is judged for and the day it should be planted.
func (b Block) Crop() (sheet string, date civil.Date) {
	if b.Planting != nil {
		return b.Planting.Sheet, b.Planting.Standing()
	}
	return "", civil.Date{}
}

// SheetID is the sheet the block's ground is judged for, "" when no crop is meant.
func (b Block) SheetID() string { id, _ := b.Crop(); return id }

// Bench is the width of a terrace bench wanted, m; 3 where nobody said.
func (w WorksChoice) Bench() float64 {
	if w.BenchM > 0 {
		return w.BenchM
	}
	return 3
}

// WorksChoice is how the ground is to be mended; zero where nothing was said.
func (b Block) WorksChoice() WorksChoice {
	if b.Works != nil {
		return *b.Works
	}
	return WorksChoice{}
}
