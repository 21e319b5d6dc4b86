package estate

import (
	"context"
	"fmt"

	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/plan"
	"slowroot/internal/store"
)

// Station is one planting place with its number.
type Station struct {
	Number string
	Row    int
	Role   string // main, pollinizer, temporary, temporary-later: out the second time, or sprout: of a stump that is kept
	At     geo.Point
	Plot   int    // number of its block between aisles, 0 where rows are not cut into such
	Clone  string // that stands there, "" where none was said
}

// Stations are every station of a block, and the block's name: those recorded as planted, else those
// the plan would plant.
func (s *Service) Stations(ctx context.Context, id string) ([]Station, string, error) {
	d, err := s.Block(ctx, id)
	if err != nil {
		return nil, "", err
	}
	p, err := s.Plan(ctx, id)
	if err != nil {
		return nil, "", err
	}
	standing := p.Fix("")
	if d.Block.Planting != nil && d.Block.Planting.AsPlanted != nil {
		standing = d.Block.Planting.AsPlanted
	}
	role := map[byte]string{layout.Main: "main", layout.PollinizerRole: "pollinizer", layout.TemporaryRole: "temporary", layout.LaterRole: "temporary-later",
		layout.SproutRole: "sprout"}
	out := make([]Station, 0, standing.Stations)
	for _, r := range standing.Rows {
		for i := range r.N {
			st := Station{Number: r.Number(i), Row: r.Row, Role: "main", At: r.At(i), Plot: r.Plot}
			if r.Clone > 0 && r.Clone <= len(p.Clones) {
				st.Clone = p.Clones[r.Clone-1].Name
			}
			if r.Roles != "" {
				st.Role = role[r.Roles[i]]
			}
			out = append(out, st)
		}
	}
	return out, d.Block.Name, nil
}

// Pegged is the plan of a block whose rows can be pegged.
func (s *Service) Pegged(ctx context.Context, id string) (*plan.Plan, error) {
	p, err := s.Plan(ctx, id)
	if err == nil && len(p.Rows) == 0 {
		err = fmt.Errorf("rows of %s: %w", p.Name, store.ErrNotFound)
	}
	return p, err
}
