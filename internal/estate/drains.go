package estate

import (
	"context"

	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/plan"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/store"
)

// SettingOut is the plan of a block whose drains are designed; a block without any is a FieldError.
func (s *Service) SettingOut(ctx context.Context, id string) (*plan.Plan, error) {
	p, err := s.Plan(ctx, id)
	if err != nil {
		return nil, err
	}
	if p.Drains.Network == nil && p.Drains.Cut == nil {
		return nil, finding.Bad("drains", p.Name, "no drains are designed on this block", "a block where drains are taken at the fork and heights are known")
	}
	return p, nil
}

// ImportDrains takes the drain lines of a GeoJSON file as the block's own, as one change.
func (s *Service) ImportDrains(ctx context.Context, who, id string, revision int, name, text string) (BlockDoc, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	if d.Revision != revision {
		return BlockDoc{}, &Stale{d}
	}
	laid, err := geojson.ReadDrains([]byte(text))
	if err != nil {
		return BlockDoc{}, err
	}
	b := d.Block.TakeDrains(laid, document.Choice{By: who, On: s.today(), Why: "from " + name})
	if _, err := s.compute(ctx, e.Estate, d.as(b), nil); err != nil {
		return BlockDoc{}, err
	}
	return s.keep(ctx, who, "Read the drains of "+b.Name+" from "+name, d, b, store.Also{})
}
