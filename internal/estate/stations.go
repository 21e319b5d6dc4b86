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
	Role   string // main, pollinizer, temporary, or temporary-later: out the second time
	At     geo.Point
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
	role := map[byte]string{layout.Main: "main", layout.PollinizerRole: "pollinizer", layout.TemporaryRole: "temporary", layout.LaterRole: "temporary-later"}
	out := make([]Station, 0, standing.Stations)
	for _, r := range standing.Rows {
		for i := range r.N {
			st := Station{Number: r.Number(i), Row: r.Row, Role: "main", At: r.At(i)}
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
