package server

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/internal/api"
	"slowroot/internal/estate"
)

// span reads two days of a request.
func (s *Server) span(c *gin.Context, from, to string) (a, b civil.Date, ok bool) {
	a, err := civil.Parse(from)
	b, err2 := civil.Parse(to)
	if err = errors.Join(err, err2); err != nil {
		s.fail(c, finding.Bad("from", from+" to "+to, err.Error(), "days written YYYY-MM-DD"))
		return a, b, false
	}
	return a, b, true
}

func (s *Server) GetJobs(c *gin.Context, p api.GetJobsParams) {
	if from, to, ok := s.span(c, p.From, p.To); ok {
		jobs, err := s.Estate.Jobs(c.Request.Context(), from, to)
		answer(s, c, http.StatusOK, jobs, err)
	}
}

func (s *Server) GetJobWeeks(c *gin.Context, p api.GetJobWeeksParams) {
	if from, to, ok := s.span(c, p.From, p.To); ok {
		w, err := s.Estate.JobWeeks(c.Request.Context(), from, to)
		answer(s, c, http.StatusOK, w, err)
	}
}

func (s *Server) LevelJobs(c *gin.Context, p api.LevelJobsParams) {
	if from, to, ok := s.span(c, p.From, p.To); ok {
		l, err := s.Estate.Level(c.Request.Context(), from, to)
		answer(s, c, http.StatusOK, l, err)
	}
}

func (s *Server) KeepLevel(c *gin.Context, p api.KeepLevelParams) {
	if from, to, ok := s.span(c, p.From, p.To); ok {
		l, err := s.Estate.KeepLevel(c.Request.Context(), person(p.XPerson), from, to)
		answer(s, c, http.StatusOK, l, err)
	}
}

func (s *Server) ReckonSuccession(c *gin.Context) {
	var w estate.SuccessionWanted
	if s.decode(c, &w) {
		got, err := s.Estate.Succeed(c.Request.Context(), w)
		answer(s, c, http.StatusOK, got, err)
	}
}

func (s *Server) KeepSuccession(c *gin.Context, p api.KeepSuccessionParams) {
	var w estate.SuccessionWanted
	if s.decode(c, &w) {
		got, err := s.Estate.KeepSuccession(c.Request.Context(), person(p.XPerson), w)
		answer(s, c, http.StatusOK, got, err)
	}
}

func (s *Server) ExportJobs(c *gin.Context, format api.ExportJobsParamsFormat, p api.ExportJobsParams) {
	from, to, ok := s.span(c, p.From, p.To)
	if !ok {
		return
	}
	text, name, err := s.Estate.JobFile(c.Request.Context(), string(format), estate.JobsWanted{From: from, To: to, Block: said(p.Block), Crew: said(p.Crew)})
	if err != nil {
		s.fail(c, err)
		return
	}
	kinds := map[string]string{"ics": "text/calendar; charset=utf-8", "csv": "text/csv; charset=utf-8", "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"}
	download(c, name, kinds[string(format)], text)
}

// said is a word of a query, "" where it is not there.
func said(v *string) string {
	if v == nil {
		return ""
	}
	return *v
}

func (s *Server) ExportJobSheets(c *gin.Context, p api.ExportJobSheetsParams) {
	from, to, ok := s.span(c, p.From, p.To)
	if !ok {
		return
	}
	paper := "a4"
	if p.Paper != nil {
		paper = string(*p.Paper)
	}
	pdf, name, err := s.Estate.JobSheets(c.Request.Context(), paper, estate.JobsWanted{From: from, To: to, Block: said(p.Block), Crew: said(p.Crew), Job: said(p.Job)})
	if err != nil {
		s.fail(c, err)
		return
	}
	download(c, name, "application/pdf", pdf)
}

func (s *Server) GetOrders(c *gin.Context) {
	list, err := s.Estate.Orders(c.Request.Context())
	answer(s, c, http.StatusOK, list, err)
}
