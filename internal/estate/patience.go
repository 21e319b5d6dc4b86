package estate

import (
	"context"
	"fmt"
	"time"
)

// longest is how long one computation may take before it is ended with a sentence.
const longest = 2 * time.Second * slower

// TooLong is a computation that was ended; it says what to do.
type TooLong struct{}

func (TooLong) Error() string {
	return fmt.Sprintf("this would take longer than %g seconds to compute: fewer or wider drains, a simpler boundary or fewer heights", longest.Seconds())
}

type unhurriedKey struct{}

// unhurried is for what ships with the program: on a slow or busy machine it takes the time it takes.
func unhurried(ctx context.Context) context.Context {
	return context.WithValue(ctx, unhurriedKey{}, true)
}

// patience ends a computation when whoever asked has left, or when it takes too long.
func patience(ctx context.Context) func() error {
	if ctx.Value(unhurriedKey{}) != nil {
		return ctx.Err
	}
	end := time.Now().Add(longest)
	return func() error {
		if err := ctx.Err(); err != nil {
			return err
		}
		if time.Now().After(end) {
			return TooLong{}
		}
		return nil
	}
}
