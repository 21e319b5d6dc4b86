package server

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/internal/api"
	"slowroot/internal/estate"
)

func (s *Server) ListSheets(c *gin.Context) {
	answer(s, c, http.StatusOK, s.Estate.Sheets(c.Request.Context()), nil)
}

func (s *Server) OpenSheet(c *gin.Context, sheet string, p api.OpenSheetParams) {
	against := ""
	if p.Against != nil {
		against = *p.Against
	}
	d, err := s.Estate.OpenSheet(c.Request.Context(), sheet, against)
	revisioned(s, c, http.StatusOK, d.Revision, d, err)
}

func (s *Server) AddSheet(c *gin.Context, p api.AddSheetParams) {
	var in api.NewSheet
	if !s.decode(c, &in) {
		return
	}
	var d estate.SheetDoc
	var err error
	switch {
	case in.Text != nil && in.From == nil:
		d, err = s.Estate.TakeSheet(c.Request.Context(), person(p.XPerson), []byte(*in.Text))
	case in.From != nil && in.Name != nil && in.Text == nil:
		d, err = s.Estate.CopySheet(c.Request.Context(), person(p.XPerson), *in.From, *in.Name)
	default:
		err = finding.Bad("from", "", "a sheet is copied from another under a name, or read from a text", "from and name, or text")
	}
	revisioned(s, c, http.StatusCreated, d.Revision, d, err)
}

func (s *Server) EditSheet(c *gin.Context, sheet string, p api.EditSheetParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	var in struct {
		Edits []practice.Edit `json:"edits"`
	}
	if !s.decode(c, &in) {
		return
	}
	d, err := s.Estate.EditSheet(c.Request.Context(), person(p.XPerson), sheet, rev, in.Edits)
	revisioned(s, c, http.StatusOK, d.Revision, d, err)
}

func (s *Server) RemoveSheet(c *gin.Context, sheet string, p api.RemoveSheetParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	if err := s.Estate.RemoveSheet(c.Request.Context(), person(p.XPerson), sheet, rev); err != nil {
		s.fail(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}

func (s *Server) GetSheetFile(c *gin.Context, sheet string) {
	text, err := s.Estate.SheetText(c.Request.Context(), sheet)
	if err != nil {
		s.fail(c, err)
		return
	}
	download(c, sheet+".yaml", "application/yaml; charset=utf-8", text)
}
