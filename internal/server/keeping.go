package server

import (
	"bytes"
	"fmt"
	"net/http"
	"os"

	"github.com/gin-gonic/gin"
)

func (s *Server) ListCopies(c *gin.Context) {
	v, err := s.Estate.Copies(c.Request.Context())
	answer(s, c, http.StatusOK, v, err)
}

func (s *Server) MakeCopy(c *gin.Context) {
	v, err := s.Estate.MakeCopy(c.Request.Context())
	answer(s, c, http.StatusCreated, v, err)
}

// TakeCopy sends a copy as a file named by the estate's day.
func (s *Server) TakeCopy(c *gin.Context) {
	var b bytes.Buffer
	if err := s.Estate.TakeCopy(c.Request.Context(), &b); err != nil {
		s.fail(c, err)
		return
	}
	download(c, fmt.Sprintf("slowroot-%s.db", s.Estate.Today()), "application/octet-stream", b.Bytes())
}

// TakeArchive sends everything as an open archive.
func (s *Server) TakeArchive(c *gin.Context) {
	var b bytes.Buffer
	if err := s.Estate.TakeArchive(c.Request.Context(), &b); err != nil {
		s.fail(c, err)
		return
	}
	download(c, fmt.Sprintf("slowroot-%s.zip", s.Estate.Today()), "application/zip", b.Bytes())
}

func (s *Server) TakeKeptCopy(c *gin.Context, name string) {
	var b bytes.Buffer
	if err := s.Estate.TakeKept(c.Request.Context(), name, &b); err != nil {
		s.fail(c, err)
		return
	}
	download(c, name, "application/octet-stream", b.Bytes())
}

func (s *Server) RestoreKept(c *gin.Context, name string) {
	v, err := s.Estate.RestoreKept(c.Request.Context(), name)
	answer(s, c, http.StatusOK, v, err)
}

func (s *Server) RestoreCopy(c *gin.Context) {
	v, err := s.Estate.Restore(c.Request.Context(), c.Request.Body)
	if os.IsTimeout(err) {
		err = &malformed{err}
	}
	answer(s, c, http.StatusOK, v, err)
}
