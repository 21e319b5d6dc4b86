// Package layout places rows and stations on a block: theoretical density by pattern, the real
// count on the polygon with its edge band and row-end setback, who stays and who is temporary,
// and where the pollinizers stand.
package layout

import (
	"fmt"
	"math"
	"slices"

	"slowroot/core/finding"
)

// Pattern is how stations stand to each other.
type Pattern string

const (
	Square    Pattern = "square"    // rows and stations P apart, in check-rows
	Rectangle Pattern = "rectangle" // rows R apart, stations P apart from the start of each row
	Triangle  Pattern = "triangle"  // equal sides P; rows P·√3/2 apart, every other row shifted P/2
	Twin      Pattern = "twin"      // pairs of rows TwinGapM apart, pair centres R apart
	Contour   Pattern = "contour"   // rows R apart that follow the slope on a grade; they need heights
	Quincunx  Pattern = "quincunx"  // squares of side P with a plant in each centre; rows P/2 apart, every other row shifted P/2
)

// Patterns lists the patterns in the order they are offered.
var Patterns = []Pattern{Square, Rectangle, Triangle, Twin, Quincunx}

// Spec says how a block is laid out. Metres and degrees throughout. The zero Spec is refused.
type Spec struct {
	Pattern        Pattern    `json:"pattern"`
	RowSpacingM    float64    `json:"rowSpacingM"`   // between rows, or between pair centres of twin rows
	PlantSpacingM  float64    `json:"plantSpacingM"` // between stations in the row
	TwinGapM       float64    `json:"twinGapM"`      // between the two rows of a pair, twin only
	BearingDeg     float64    `json:"bearingDeg"`    // of the rows, clockwise from true north; 0 to 180
	EdgeBandM      float64    `json:"edgeBandM"`     // kept free along every boundary, holes included
	RowEndSetbackM float64    `json:"rowEndSetbackM"`
	OffsetM        float64    `json:"offsetM"` // shifts all rows sideways from the anchor, the first vertex
	Pollinizer     Pollinizer `json:"pollinizer"`
	Temporary      bool       `json:"temporary"`           // some stations come out later
	TakeOut        Removal    `json:"takeOut,omitempty"`   // by which rule; empty is every second one in the row
	GroupRows      int        `json:"groupRows,omitempty"` // rows of a group TwinGapM apart, twin only; 0 is two
	Stagger        bool       `json:"stagger,omitempty"`   // every other row is shifted half a spacing, rectangle and twin
	GradePct       float64    `json:"gradePct,omitempty"`  // fall along the rows, contour only; 0 is level
	Plots          Plots      `json:"plots,omitzero"`      // blocks with aisles between them
	Strips         bool       `json:"strips,omitempty"`    // rows follow strips across: RowSpacingM is the width after which they repeat
}

// Group is how many rows stand together: one, or those of a twin.
func (s Spec) Group() int {
	if s.Pattern != Twin && (s.Pattern != Contour || s.GroupRows < 2) {
		return 1
	}
	if s.GroupRows > 0 {
		return s.GroupRows
	}
	return 2
}

// lines are the rows of one module.
func (s Spec) lines() []line {
	n := s.Group()
	out := make([]line, n)
	for i := range out {
		out[i] = line{atM: (float64(i) - float64(n-1)/2) * s.TwinGapM, stepM: s.PlantSpacingM}
		if s.Pattern == Twin && s.Stagger && i&1 != 0 {
			out[i].shiftM = s.PlantSpacingM / 2
		}
		if s.staggered() {
			out[i].odd = s.PlantSpacingM / 2
		}
	}
	return out
}

// Pollinizer is one station in every EveryPlant of every EveryRow-th row. The zero value is none.
type Pollinizer struct {
	EveryRow   int `yaml:"everyRow" json:"everyRow"`
	EveryPlant int `yaml:"everyPlant" json:"everyPlant"`
}

// None reports whether there are no pollinizers.
func (p Pollinizer) None() bool { return p.EveryRow <= 0 || p.EveryPlant <= 0 }

// Normal returns the spec with the spacings that its pattern derives filled in: a square's rows
// stand as far apart as its stations, a triangle's √3/2 of that.
func (s Spec) Normal() Spec {
	switch s.Pattern {
	case Square:
		s.RowSpacingM = s.PlantSpacingM
	case Triangle:
		s.RowSpacingM = s.PlantSpacingM * math.Sqrt(3) / 2
	case Quincunx:
		s.RowSpacingM = s.PlantSpacingM / 2
	}
	if s.Pattern != Twin && (s.Pattern != Contour || s.GroupRows < 2) {
		s.TwinGapM, s.GroupRows = 0, 0
	}
	if s.Pattern != Twin && s.Pattern != Rectangle {
		s.Stagger = false
	}
	s.BearingDeg = math.Mod(math.Mod(s.BearingDeg, 180)+180, 180)
	return s
}

// Valid returns a *finding.FieldError naming the first field that cannot be laid out.
func (s Spec) Valid() error {
	const accepted = "0.1 to 25 m"
	switch s.Pattern {
	case Square, Rectangle, Triangle, Twin, Quincunx, Contour:
	default:
		return finding.Bad("pattern", s.Pattern, "is not a planting pattern", "square, rectangle, triangle, twin, quincunx or contour")
	}
	if s.TakeOut != "" && !slices.Contains(Removals, s.TakeOut) {
		return finding.Bad("takeOut", s.TakeOut, "is not a way to take plants out", "alternate plant, alternate row, checkerboard or checkerboard twice")
	}
	n := s.Normal()
	if bad(s.PlantSpacingM) {
		return finding.Bad("plantSpacingM", s.PlantSpacingM, "is not a spacing between plants", accepted)
	}
	if s.Strips && !(n.RowSpacingM >= 0.1 && n.RowSpacingM <= MaxModuleM) {
		return finding.Bad("rowSpacingM", s.RowSpacingM, "is not the width after which strips repeat", fmt.Sprintf("0.1 to %d m", MaxModuleM))
	}
	if bad(n.RowSpacingM) && !s.Strips && (!s.staggered() || s.Pattern == Rectangle) {
		return finding.Bad("rowSpacingM", s.RowSpacingM, "is not a spacing between rows", accepted)
	}
	if err := s.Plots.valid(s); err != nil {
		return err
	}
	if s.GroupRows < 0 || s.GroupRows == 1 || s.GroupRows > 12 {
		return finding.Bad("groupRows", s.GroupRows, "is not a number of rows that stand together", "2 to 12, or 0 for two")
	}
	if gaps := float64(s.Group() - 1); gaps > 0 && (bad(s.TwinGapM) || s.TwinGapM*gaps >= s.RowSpacingM) {
		return finding.Bad("twinGapM", s.TwinGapM, "must be smaller than the distance between pair centres",
			fmt.Sprintf("0.1 m to less than %g m", s.RowSpacingM/gaps))
	}
	if !(s.GradePct >= 0 && s.GradePct <= 10) {
		return finding.Bad("gradePct", s.GradePct, "is not a fall along rows", "0 to 10 %")
	}
	for _, f := range []struct {
		name string
		v    float64
		hi   float64
	}{{"edgeBandM", s.EdgeBandM, 100}, {"rowEndSetbackM", s.RowEndSetbackM, 100}} {
		if !(f.v >= 0 && f.v <= f.hi) {
			return finding.Bad(f.name, f.v, "is not a width to keep free", fmt.Sprintf("0 to %g m", f.hi))
		}
	}
	if !(math.Abs(s.BearingDeg) <= 360) {
		return finding.Bad("bearingDeg", s.BearingDeg, "is not a bearing", "0 to 180°, clockwise from true north")
	}
	if !(math.Abs(s.OffsetM) <= 25) {
		return finding.Bad("offsetM", s.OffsetM, "is not a sideways shift of the rows", "-25 to 25 m")
	}
	for _, v := range []int{s.Pollinizer.EveryRow, s.Pollinizer.EveryPlant} {
		if v < 0 || v > 50 {
			return finding.Bad("pollinizer", v, "is not a count of rows or plants", "0 to 50; 0 means none")
		}
	}
	return nil
}

// MaxModuleM is the widest sequence of strips, m.
const MaxModuleM = 100

func bad(m float64) bool { return !(m >= 0.1 && m <= 25) }

// StationsPerHa is the theoretical density of an endless field, method LAY-1: 10 000/(R·P) times the
// rows that stand together. A real block holds fewer: see Place.
func (s Spec) StationsPerHa() float64 {
	n := s.Normal()
	return 10000 * float64(n.Group()) / (n.RowSpacingM * n.PlantSpacingM)
}

// DensityFormula is the formula of StationsPerHa in words, with its numbers put in.
func (s Spec) DensityFormula() (formula, substituted string) {
	n := s.Normal()
	switch s.Pattern {
	case Square:
		return "stations per ha = 10 000 / (plant spacing × plant spacing)", fmt.Sprintf("10 000 / (%g × %g)", n.PlantSpacingM, n.PlantSpacingM)
	case Triangle:
		return "stations per ha = 10 000 / (side² × √3/2)", fmt.Sprintf("10 000 / (%g² × 0.866)", n.PlantSpacingM)
	case Quincunx:
		return "stations per ha = 20 000 / side²", fmt.Sprintf("20 000 / %g²", n.PlantSpacingM)
	case Twin, Contour:
		if s.Pattern == Contour && n.Group() == 1 {
			break
		}
		if k := n.Group(); k > 2 {
			return "stations per ha = 10 000 × rows of a group / (group centres × plant spacing)", fmt.Sprintf("10 000 × %d / (%g × %g)", k, n.RowSpacingM,
				n.PlantSpacingM)
		}
		return "stations per ha = 20 000 / (pair centres × plant spacing)", fmt.Sprintf("20 000 / (%g × %g)", n.RowSpacingM, n.PlantSpacingM)
	}
	return "stations per ha = 10 000 / (row spacing × plant spacing)", fmt.Sprintf("10 000 / (%g × %g)", n.RowSpacingM, n.PlantSpacingM)
}
