package server

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"slowroot/core/document"
	"slowroot/core/record"
	"slowroot/internal/api"
	"slowroot/internal/estate"
	"slowroot/internal/store"
)

// seen passes on from which of its plantings a block is seen.
func seen(c *gin.Context) {
	if id := c.Query("planting"); id != "" {
		c.Request = c.Request.WithContext(estate.Seen(c.Request.Context(), id))
	}
	c.Next()
}

func value[T any](p *T) (v T) {
	if p != nil {
		v = *p
	}
	return v
}

func (s *Server) GetHistory(c *gin.Context, p api.GetHistoryParams) {
	h, err := s.Estate.History(c.Request.Context(), store.Page{Block: value(p.Block), Who: value(p.Who), Before: int64(value(p.Before)), N: value(p.N)})
	answer(s, c, http.StatusOK, h, err)
}

func (s *Server) GetChange(c *gin.Context, change int) {
	d, err := s.Estate.Differences(c.Request.Context(), int64(change))
	answer(s, c, http.StatusOK, d, err)
}

func (s *Server) GetSteps(c *gin.Context, p api.GetStepsParams) {
	v, err := s.Estate.Steps(c.Request.Context(), person(p.XPerson))
	answer(s, c, http.StatusOK, v, err)
}

func (s *Server) UndoChange(c *gin.Context, p api.UndoChangeParams) {
	if id, ok := s.revision(c, p.IfMatch); ok {
		ch, err := s.Estate.Undo(c.Request.Context(), person(p.XPerson), int64(id))
		answer(s, c, http.StatusOK, ch, err)
	}
}

func (s *Server) RedoChange(c *gin.Context, p api.RedoChangeParams) {
	if id, ok := s.revision(c, p.IfMatch); ok {
		ch, err := s.Estate.Redo(c.Request.Context(), person(p.XPerson), int64(id))
		answer(s, c, http.StatusOK, ch, err)
	}
}

func (s *Server) AddPlanting(c *gin.Context, id string, p api.AddPlantingParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	var in document.Planting
	if s.decode(c, &in) {
		d, err := s.Estate.AddPlanting(c.Request.Context(), person(p.XPerson), id, rev, in)
		revisioned(s, c, http.StatusCreated, d.Revision, d, err)
	}
}

func (s *Server) EndPlanting(c *gin.Context, id string, p api.EndPlantingParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	var in document.End
	if s.decode(c, &in) {
		d, err := s.Estate.EndPlanting(c.Request.Context(), person(p.XPerson), id, rev, in)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) ListRecords(c *gin.Context, id string) {
	r, err := s.Estate.Records(c.Request.Context(), id)
	answer(s, c, http.StatusOK, r, err)
}

func (s *Server) AddRecords(c *gin.Context, id string, p api.AddRecordsParams) {
	var in struct {
		Records []record.Record `json:"records"`
	}
	if s.decode(c, &in) {
		r, err := s.Estate.Record(c.Request.Context(), person(p.XPerson), id, in.Records)
		answer(s, c, http.StatusCreated, r, err)
	}
}
