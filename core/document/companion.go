package document

import (
	"fmt"
	"slices"
	"strings"

	"slowroot/core/finding"
	"slowroot/core/fittings"
	"slowroot/core/layout"
)

// Companion is a crop that stands on a planting's ground beside its main one: in strips between the rows, on a lattice of its own over
// them, or in a belt along the boundary.
type Companion struct {
	ID       string  `json:"id"`
	Role     string  `json:"role"`            // one of Roles
	Sheet    string  `json:"sheet,omitempty"` // "" is a crop nobody has a sheet for
	Name     string  `json:"name"`            // as people call it; "" is the sheet's
	Each     int     `json:"each,omitempty"`  // plants at a station; 0 is one
	Survival float64 `json:"survival,omitempty"`
	FromYear int     `json:"fromYear,omitempty"` // age year of the main crop it is planted in; 0 is with it, negative before
	ToYear   int     `json:"toYear,omitempty"`   // and the last it stands; 0 is to the end
	Over     *Over   `json:"over,omitempty"`
	Belt     *Belt   `json:"belt,omitempty"`
	AislesM  float64 `json:"aislesM,omitempty"` // apart in the middle of the aisles between blocks; 0 stands elsewhere
}

// Stump is a stump on a row whose sprout is kept and becomes a station.
type Stump struct {
	ID  string  `json:"id"`
	Of  string  `json:"of"` // MainCrop, or the id of a companion
	Row int     `json:"row"`
	AtM float64 `json:"atM"` // along the row from its first station
}

// StumpsOf are the stumps on the rows of a crop.
func (p *Planting) StumpsOf(id string) (list []layout.Stump, ids []string) {
	for _, s := range p.Stumps {
		if s.Of == id {
			list, ids = append(list, layout.Stump{Row: s.Row, AtM: s.AtM}), append(ids, s.ID)
		}
	}
	return list, ids
}

// Roles a crop can have beside the main one.
var Roles = []string{"companion", "nurse", "shade", "temporary", "pollinizer", "windbreak"}

// Over is a lattice of its own, from the same corner as the rows and turned like them.
type Over struct {
	Pattern       layout.Pattern `json:"pattern"` // square, rectangle or triangle
	RowSpacingM   float64        `json:"rowSpacingM"`
	PlantSpacingM float64        `json:"plantSpacingM"`
	ShiftAlongM   float64        `json:"shiftAlongM,omitempty"`
	ShiftAcrossM  float64        `json:"shiftAcrossM,omitempty"`
	Takes         bool           `json:"takes,omitempty"` // the main crop's stations it stands on give way
}

// Belt is rows along the sides that face a direction.
type Belt struct {
	TowardDeg   float64 `json:"towardDeg"` // from where the wind comes
	Rows        int     `json:"rows"`
	RowSpacingM float64 `json:"rowSpacingM"`
	SpacingM    float64 `json:"spacingM"`
	InsetM      float64 `json:"insetM"`   // from the boundary
	SetbackM    float64 `json:"setbackM"` // from its last row to the first of the crop
	HeightM     float64 `json:"heightM"`  // it is let grow to
	Stagger     bool    `json:"stagger,omitempty"`
}

// Laid is the belt as it is laid out.
func (b Belt) Laid() layout.Belt {
	return layout.Belt{TowardDeg: b.TowardDeg, Rows: b.Rows, RowSpacingM: b.RowSpacingM, SpacingM: b.SpacingM, InsetM: b.InsetM, Stagger: b.Stagger}
}

// Strip is one band across the rows; the sequence repeats over the field.
type Strip struct {
	ID     string     `json:"id"`
	Kind   string     `json:"kind"` // one of StripKinds
	Name   string     `json:"name"`
	WidthM float64    `json:"widthM"`
	Rows   []StripRow `json:"rows,omitempty"`
}

// StripRow is a row in a strip; its stations are taken in turn by Of: ids of companions, or MainCrop.
type StripRow struct {
	SpacingM float64  `json:"spacingM"`
	AcrossM  *float64 `json:"acrossM,omitempty"` // from the strip's left edge; nil spreads the rows evenly
	ShiftM   float64  `json:"shiftM,omitempty"`
	Of       []string `json:"of"`
}

// Fitting is something a layout takes besides its plants: a support, drip line, mulch, pits, a fence.
type Fitting struct {
	ID     string             `json:"id"`
	Kind   string             `json:"kind"`             // one of fittings.Kinds
	Values map[string]float64 `json:"values,omitempty"` // instead of the usual ones
	Hours  *float64           `json:"hours,omitempty"`  // to put it up; nil is not known, which is not nought
}

// MainCrop names the planting's own crop in a strip.
const MainCrop = "main"

// StripKinds are what strips are.
var StripKinds = []string{"tree row", "bed", "path", "companion rows", "cover"}

// Headland is the width kept free on the sides that face a direction, in place of the edge band.
type Headland struct {
	TowardDeg float64 `json:"towardDeg"`
	WidthM    float64 `json:"widthM"`
}

// Alley is the strips as they are laid out; ok is false where there are none.
func (p *Planting) Alley() (a layout.Alley, ok bool) {
	for _, s := range p.Strips {
		t := layout.Strip{WidthM: s.WidthM}
		for _, r := range s.Rows {
			t.Rows = append(t.Rows, layout.StripRow{SpacingM: r.SpacingM, AcrossM: r.AcrossM, ShiftM: r.ShiftM, Of: r.Of})
		}
		a.Strips = append(a.Strips, t)
	}
	return a, len(a.Strips) > 0
}

const maxCompanions, maxFittings, maxStumps = 20, 30, 3000

// companions refuses what cannot stand beside the main crop.
func (p *Planting) companions() error {
	if len(p.Companions) > maxCompanions {
		return finding.Bad("planting.companions", len(p.Companions), "are more crops than stand on one ground", fmt.Sprintf("%d at most", maxCompanions))
	}
	known := []string{MainCrop}
	for i, c := range p.Companions {
		at := fmt.Sprintf("planting.companions[%d]", i)
		if err := c.valid(at); err != nil {
			return err
		}
		if slices.Contains(known, c.ID) {
			return finding.Bad(at+".id", c.ID, "is another crop's id", "an id of its own")
		}
		known = append(known, c.ID)
	}
	for key, d := range p.Days {
		if err := entered("planting.days."+key, d); err != nil {
			return err
		}
	}
	for op, e := range p.Effort {
		if err := e.valid("planting.effort." + op); err != nil {
			return err
		}
	}
	if err := p.Raising.valid(); err != nil {
		return err
	}
	if err := p.Store.valid(); err != nil {
		return err
	}
	if len(p.Fittings) > maxFittings {
		return finding.Bad("planting.fittings", len(p.Fittings), "are more fittings than a layout takes", fmt.Sprintf("%d at most", maxFittings))
	}
	for i, f := range p.Fittings {
		at := fmt.Sprintf("planting.fittings[%d]", i)
		if err := fittings.Valid(at, f.Kind, f.Values); err != nil {
			return err
		}
		if h := f.Hours; h != nil && !(*h >= 0 && *h <= 1e6) {
			return finding.Bad(at+".hours", *h, "are not hours of work", "0 to 1 000 000, or nothing where they are not known")
		}
	}
	if len(p.Stumps) > maxStumps {
		return finding.Bad("planting.stumps", len(p.Stumps), "are more stumps than are kept on one block", fmt.Sprintf("%d at most", maxStumps))
	}
	for i, s := range p.Stumps {
		at := fmt.Sprintf("planting.stumps[%d]", i)
		if err := s.valid(at, known); err != nil {
			return err
		}
	}
	if n := len(p.Layout.Clones); n > 24 {
		return finding.Bad("planting.layout.clones", n, "are more clones than are kept apart", "24 at most")
	}
	for i, c := range p.Layout.Clones {
		if c == "" || len([]rune(c)) > 40 {
			return finding.Bad(fmt.Sprintf("planting.layout.clones[%d]", i), c, "is not a name", "1 to 40 characters")
		}
	}
	if e := p.Layout.Each; e != nil && (*e < 1 || *e > 50) {
		return finding.Bad("planting.layout.each", *e, "is not a number of plants at a station", "1 to 50")
	}
	if w := p.Layout.Weigh; w != nil {
		if err := w.Valid(); err != nil {
			return err
		}
	}
	for i, h := range p.Layout.Headlands {
		at := fmt.Sprintf("planting.layout.headlands[%d]", i)
		if !(h.TowardDeg >= -360 && h.TowardDeg <= 360) {
			return finding.Bad(at+".towardDeg", h.TowardDeg, "is not a direction", "0 to 360°, clockwise from true north")
		}
		if !(h.WidthM >= 0 && h.WidthM <= 100) {
			return finding.Bad(at+".widthM", h.WidthM, "is not a width to keep free", "0 to 100 m")
		}
	}
	return p.strips(known)
}

func (s Stump) valid(at string, known []string) error {
	switch {
	case s.ID == "" || len(s.ID) > 60:
		return finding.Bad(at+".id", s.ID, "is not an id", "1 to 60 characters")
	case !slices.Contains(known, s.Of):
		return finding.Bad(at+".of", s.Of, "is no crop of this planting", strings.Join(known, ", "))
	case s.Row < 1 || s.Row > 100_000:
		return finding.Bad(at+".row", s.Row, "is not the number of a row", "1 to 100 000")
	case !(s.AtM >= -25 && s.AtM <= 20_000):
		return finding.Bad(at+".atM", s.AtM, "is not a place along a row", "-25 to 20 000 m")
	}
	return nil
}

func (p *Planting) strips(known []string) error {
	a, ok := p.Alley()
	if !ok {
		return nil
	}
	if err := a.Valid(); err != nil {
		if fe, is := err.(*finding.FieldError); is {
			return finding.Bad("planting."+fe.Field, fe.Value, fe.Rule, fe.Accepted)
		}
		return err
	}
	main := false
	for i, s := range p.Strips {
		at := fmt.Sprintf("planting.strips[%d]", i)
		if !slices.Contains(StripKinds, s.Kind) {
			return finding.Bad(at+".kind", s.Kind, "is not a kind of strip", strings.Join(StripKinds, ", "))
		}
		if len([]rune(s.Name)) > 80 {
			return finding.Bad(at+".name", s.Name, "is longer than a name", "80 characters at most")
		}
		for k, r := range s.Rows {
			for _, of := range r.Of {
				if !slices.Contains(known, of) {
					return finding.Bad(fmt.Sprintf("%s.rows[%d].of", at, k), of, "is no crop of this planting", strings.Join(known, ", "))
				}
				main = main || of == MainCrop
			}
		}
	}
	if !main {
		return finding.Bad("planting.strips", len(p.Strips), "hold no row of the main crop", "a row of it in one of the strips")
	}
	return nil
}

func (c Companion) valid(at string) error {
	if c.ID == "" || c.ID == MainCrop || len(c.ID) > 60 {
		return finding.Bad(at+".id", c.ID, "is not an id", "1 to 60 characters, not "+MainCrop)
	}
	if !slices.Contains(Roles, c.Role) {
		return finding.Bad(at+".role", c.Role, "is not a role", strings.Join(Roles, ", "))
	}
	if c.Name == "" && c.Sheet == "" || len([]rune(c.Name)) > 80 {
		return finding.Bad(at+".name", c.Name, "names no crop", "a name of 1 to 80 characters, or a sheet")
	}
	if c.Each < 0 || c.Each > 20 {
		return finding.Bad(at+".each", c.Each, "is not a number of plants at a station", "1 to 20, or 0 for one")
	}
	if c.Survival != 0 && !(c.Survival >= 0.05 && c.Survival <= 1) {
		return finding.Bad(at+".survival", c.Survival, "is not a share of plants that establish", "0.05 to 1, or 0 for the sheet's")
	}
	if c.FromYear < -5 || c.FromYear > 100 || c.ToYear < 0 || c.ToYear > 100 || c.ToYear > 0 && c.ToYear < c.FromYear {
		return finding.Bad(at+".toYear", fmt.Sprintf("%d to %d", c.FromYear, c.ToYear), "are not years it stands",
			"years of the main crop's age, the later one second, or 0 for to the end")
	}
	if o := c.Over; o != nil {
		s := layout.Spec{Pattern: o.Pattern, RowSpacingM: o.RowSpacingM, PlantSpacingM: o.PlantSpacingM}
		if err := within(at+".over", s.Valid()); err != nil {
			return err
		}
		if o.Pattern == layout.Twin {
			return finding.Bad(at+".over.pattern", o.Pattern, "stands in rows, not over them", "square, rectangle or triangle")
		}
		if !(o.ShiftAlongM >= -25 && o.ShiftAlongM <= 25 && o.ShiftAcrossM >= -25 && o.ShiftAcrossM <= 25) {
			return finding.Bad(at+".over.shiftAlongM", o.ShiftAlongM, "is not a shift of a lattice", "-25 to 25 m")
		}
	}
	if b := c.Belt; b != nil {
		if err := within(at+".belt", b.Laid().Valid()); err != nil {
			return err
		}
		if !(b.SetbackM >= 0 && b.SetbackM <= 100) {
			return finding.Bad(at+".belt.setbackM", b.SetbackM, "is not a distance to the crop", "0 to 100 m")
		}
		if !(b.HeightM >= 0 && b.HeightM <= 60) {
			return finding.Bad(at+".belt.heightM", b.HeightM, "is not the height of a belt", "0 to 60 m")
		}
	}
	if m := c.AislesM; m != 0 && !(m >= 0.1 && m <= 25) {
		return finding.Bad(at+".aislesM", m, "is not a spacing in the aisles", "0.1 to 25 m, or 0 where it stands elsewhere")
	}
	if c.AislesM > 0 && (c.Over != nil || c.Belt != nil) {
		return finding.Bad(at+".aislesM", c.Name, "stands elsewhere already", "one place; another companion for the other")
	}
	if c.Over != nil && c.Belt != nil {
		return finding.Bad(at+".belt", c.Name, "stands over the rows already", "one of the two; another companion for the other")
	}
	return nil
}

// within puts a field in front of an error's own.
func within(at string, err error) error {
	if fe, ok := err.(*finding.FieldError); ok && fe != nil {
		return finding.Bad(at+"."+fe.Field, fe.Value, fe.Rule, fe.Accepted)
	}
	return err
}
