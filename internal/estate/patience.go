package estate

import (
	"context"
	"fmt"
	"time"
)

// longest is how long one computation may take before it is ended with a sentence, where nobody says otherwise.
const longest = 2 * time.Second

// TooLong is a computation that was ended; it says what to do.
type TooLong struct{ After time.Duration }

func (e TooLong) Error() string {
	return fmt.Sprintf("this would take longer than %g seconds to compute: fewer or wider drains, a simpler boundary or fewer heights", e.After.Seconds())
}

type unhurriedKey struct{}

// unhurried is for what ships with the program: on a slow or busy machine it takes the time it takes.
func unhurried(ctx context.Context) context.Context {
	return context.WithValue(ctx, unhurriedKey{}, true)
}

// patience ends a computation when whoever asked has left, or when it takes too long.
func (s *Service) patience(ctx context.Context) func() error {
	if ctx.Value(unhurriedKey{}) != nil {
		return ctx.Err
	}
	end := time.Now().Add(s.longest)
	return func() error {
		if err := ctx.Err(); err != nil {
			return err
		}
		if time.Now().After(end) {
			return TooLong{s.longest}
		}
		return nil
	}
}

// Within sets how long one computation may take before it is ended, and returns the service.
func (s *Service) Within(longest time.Duration) *Service {
	s.longest = longest
	return s
}
