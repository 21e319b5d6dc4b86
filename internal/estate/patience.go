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

// patience ends a computation when whoever asked has left, or when it takes too long.
func patience(ctx context.Context) func() error {
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
