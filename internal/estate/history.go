package estate

import (
	"context"

	"slowroot/internal/store"
)

// History is a page of the changes, newest first.
func (s *Service) History(ctx context.Context, p store.Page) ([]store.Change, error) {
	if p.N <= 0 || p.N > 200 {
		p.N = 200
	}
	return s.store.History(ctx, p)
}

// Steps are what a person may take back next, and make again.
func (s *Service) Steps(ctx context.Context, who string) (store.Steps, error) {
	return s.store.Steps(ctx, who)
}

// Undo takes back a person's own last change; Redo makes it again.
func (s *Service) Undo(ctx context.Context, who string, change int64) (store.Change, error) {
	return s.store.Undo(ctx, who, change)
}
func (s *Service) Redo(ctx context.Context, who string, change int64) (store.Change, error) {
	return s.store.Redo(ctx, who, change)
}
