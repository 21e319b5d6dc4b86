package server

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/internal/api"
	"slowroot/internal/estate"
	"slowroot/internal/formats/table"
	"slowroot/internal/store"
)

// problem is an RFC 9457 document.
func problem(c *gin.Context, p api.Problem) {
	body, err := json.Marshal(p)
	if err != nil {
		body = []byte(`{"type":"about:blank","title":"the error could not be written","status":500,"detail":""}`)
	}
	c.Abort()
	c.Data(p.Status, "application/problem+json", body)
}

func ptr[T any](v T) *T { return &v }

// fail answers an error with the problem it is.
func (s *Server) fail(c *gin.Context, err error) {
	var fe *finding.FieldError
	var inv *geo.Invalid
	var stale *estate.Stale
	var refused *table.Refused
	var tooBig *http.MaxBytesError
	var broken *malformed
	var long estate.TooLong
	var far *estate.Unreachable
	var wait *estate.Waiting
	simple := func(status int, typ, title string, remedy string) {
		problem(c, api.Problem{Type: "/problems/" + typ, Title: title, Status: status, Detail: err.Error(), Remedy: ptr(remedy)})
	}
	switch {
	case errors.As(err, &stale):
		body, err := json.Marshal(stale.Current)
		if err != nil {
			s.fail(c, err)
			return
		}
		c.Abort()
		c.Data(http.StatusPreconditionFailed, "application/json", body)
	case c.Request.Context().Err() != nil:
		c.Abort() // nobody waits for the answer
		c.Status(statusLeft)
	case errors.As(err, &broken):
		simple(http.StatusBadRequest, "bad-request", "The request cannot be read", "Send it again whole.")
	case errors.As(err, &long):
		simple(http.StatusUnprocessableEntity, "too-long", "This takes too long to compute", "Nothing was changed.")
	case errors.As(err, &fe):
		problem(c, api.Problem{Type: "/problems/bad-input", Title: "Something given cannot be used", Status: http.StatusUnprocessableEntity,
			Detail: err.Error(), Field: &fe.Field, Value: &fe.Value, Rule: &fe.Rule, Accepted: &fe.Accepted})
	case errors.As(err, &inv):
		problem(c, api.Problem{Type: "/problems/bad-boundary", Title: "The boundary cannot be used", Status: http.StatusUnprocessableEntity,
			Detail: err.Error(), Field: ptr("boundary"), Value: ptr(fmt.Sprintf("point %d", inv.Point)), Rule: &inv.Reason, Accepted: &inv.Remedy, Remedy: &inv.Remedy, Point: &inv.Point})
	case errors.As(err, &refused):
		simple(http.StatusUnprocessableEntity, "bad-file", "The file cannot be used", "Nothing was taken from it. Mend what is named, or export it again, and read it once more.")
	case errors.As(err, &far):
		simple(http.StatusBadGateway, "unreachable", "It does not answer", "Is it running, and is its address right? Nothing was changed.")
	case errors.As(err, &wait):
		simple(http.StatusConflict, "not-ready", "The report is not ready yet", "Ask again later; nothing was changed.")
	case errors.As(err, &tooBig):
		simple(http.StatusRequestEntityTooLarge, "too-large", "Too much was sent at once", fmt.Sprintf("Send at most %d kB, or import the ground in parts.", tooBig.Limit>>10))
	case errors.Is(err, store.ErrNotFound):
		simple(http.StatusNotFound, "not-found", "Not found", "It may have been removed; undo brings it back.")
	case errors.Is(err, store.ErrFull):
		simple(http.StatusInsufficientStorage, "disk-full", "The disk is full", "Free some space and try again; nothing was changed.")
	case errors.Is(err, store.ErrDisk):
		simple(http.StatusInsufficientStorage, "disk-error", "The disk reports an error", "Look at the disk's health and space, take a copy to another disk, and try again; nothing was changed.")
	case errors.Is(err, store.ErrDamaged), errors.Is(err, store.ErrMissing):
		simple(http.StatusServiceUnavailable, "damaged", "What is stored here is damaged", "Take a copy kept earlier, under Settings; nothing was changed.")
	case errors.Is(err, store.ErrNotOurs), errors.Is(err, store.ErrNotArchive), errors.Is(err, store.ErrNoEstate), errors.Is(err, store.ErrNewer):
		simple(http.StatusUnprocessableEntity, "bad-copy", "The file cannot be taken", "Nothing was changed. Choose a copy that Slow Root wrote.")
	case errors.Is(err, store.ErrReadOnly):
		simple(http.StatusServiceUnavailable, "read-only", "The estate cannot be written", "Make the data folder writable and try again; nothing was changed.")
	case errors.Is(err, store.ErrNoChange), errors.Is(err, store.ErrMovedOn):
		simple(http.StatusConflict, "cannot-undo", "That cannot be undone", "Look at the history for what was changed last.")
	case errors.Is(err, store.ErrOtherRecord):
		simple(http.StatusConflict, "other-record", "Another record has this id", "Give the record an id of its own.")
	case errors.Is(err, errNoIfMatch):
		simple(http.StatusPreconditionRequired, "if-match-required", "The revision is missing", "Send If-Match with the revision the change was made from.")
	default:
		s.log.Error("unexpected", "path", c.Request.URL.Path, "error", err)
		problem(c, api.Problem{Type: "/problems/unexpected", Title: "Something went wrong in the program", Status: http.StatusInternalServerError, Detail: err.Error()})
	}
}

// statusLeft is what is logged of a request whose client left.
const statusLeft = 499

var errNoIfMatch = errors.New("a write needs If-Match")
