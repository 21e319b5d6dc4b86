package server

import (
	"bytes"
	"io"
	"net/http"

	"github.com/gin-gonic/gin"

	"slowroot/core/survey"
	"slowroot/internal/api"
	"slowroot/internal/estate"
)

func (s *Server) ReadBoundaries(c *gin.Context) {
	b, err := io.ReadAll(c.Request.Body)
	if err == nil && bytes.HasPrefix(bytes.TrimSpace(b), []byte("{")) {
		err = within(b)
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	list, err := s.Estate.ReadBoundaries(c.Request.Context(), b)
	answer(s, c, http.StatusOK, list, err)
}

func (s *Server) DrawOutline(c *gin.Context) {
	var in survey.Outline
	if s.decode(c, &in) {
		d, err := s.Estate.Outline(c.Request.Context(), in)
		answer(s, c, http.StatusOK, d, err)
	}
}

func (s *Server) ReadPlace(c *gin.Context, p api.ReadPlaceParams) {
	at, err := s.Estate.Place(p.Text)
	answer(s, c, http.StatusOK, at, err)
}

func (s *Server) SplitBlock(c *gin.Context, id string, p api.SplitBlockParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	var in estate.Cut
	if s.decode(c, &in) {
		list, err := s.Estate.SplitBlock(c.Request.Context(), person(p.XPerson), id, rev, in)
		answer(s, c, http.StatusOK, list, err)
	}
}

func (s *Server) MergeBlocks(c *gin.Context, id string, p api.MergeBlocksParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	var in struct {
		Other string `json:"other"`
	}
	if s.decode(c, &in) {
		d, err := s.Estate.MergeBlocks(c.Request.Context(), person(p.XPerson), id, rev, in.Other)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) DuplicateBlock(c *gin.Context, id string, p api.DuplicateBlockParams) {
	var in struct {
		Name string `json:"name"`
	}
	if s.decode(c, &in) {
		d, err := s.Estate.DuplicateBlock(c.Request.Context(), person(p.XPerson), id, in.Name)
		revisioned(s, c, http.StatusCreated, d.Revision, d, err)
	}
}

func (s *Server) GetBearings(c *gin.Context, id string, _ api.GetBearingsParams) {
	t, err := s.Estate.Bearings(c.Request.Context(), id)
	answer(s, c, http.StatusOK, t, err)
}

func (s *Server) CompareOptions(c *gin.Context, id string) {
	list, err := s.Estate.Options(c.Request.Context(), id)
	answer(s, c, http.StatusOK, list, err)
}

func (s *Server) ChooseOption(c *gin.Context, id string, p api.ChooseOptionParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	var in struct {
		Planting string            `json:"planting"`
		Aside    map[string]string `json:"aside"`
	}
	if s.decode(c, &in) {
		d, err := s.Estate.ChooseOption(c.Request.Context(), person(p.XPerson), id, rev, in.Planting, in.Aside)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}
