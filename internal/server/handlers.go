package server

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/schedule"
	"slowroot/core/units"
	"slowroot/internal/api"
	"slowroot/internal/estate"
	"slowroot/internal/formats/station"
	"slowroot/internal/store"
)

// revisioned is answer with the revision as ETag.
func revisioned[T any](s *Server, c *gin.Context, status, revision int, v T, err error) {
	if err == nil {
		c.Header("ETag", fmt.Sprintf("%q", strconv.Itoa(revision)))
	}
	answer(s, c, status, v, err)
}

// revision reads If-Match; without one the write is refused.
func (s *Server) revision(c *gin.Context, ifMatch *string) (int, bool) {
	if ifMatch == nil || *ifMatch == "" {
		s.fail(c, errNoIfMatch)
		return 0, false
	}
	n, err := strconv.Atoi(strings.Trim(strings.TrimPrefix(*ifMatch, "W/"), `"`))
	if err != nil {
		s.fail(c, finding.Bad("If-Match", *ifMatch, "is not a revision", `a number in quotes, such as "3"`))
		return 0, false
	}
	return n, true
}

// person is who makes the change.
func person(by *string) string {
	if by == nil {
		return ""
	}
	name, err := url.PathUnescape(*by)
	if err != nil {
		return *by
	}
	return name
}

func (s *Server) GetStatus(c *gin.Context) {
	_, err := s.Estate.Estate(c.Request.Context())
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		s.fail(c, err)
		return
	}
	answer(s, c, http.StatusOK, api.Status{Version: s.Version, Build: s.Build, Today: s.Estate.Today().String(), TodayFixed: s.TodayFixed,
		HasEstate: err == nil}, nil)
}

func (s *Server) GetEstate(c *gin.Context) {
	d, err := s.Estate.Estate(c.Request.Context())
	revisioned(s, c, http.StatusOK, d.Revision, d, err)
}

func (s *Server) BeginEstate(c *gin.Context) {
	var in api.EstateBegin
	if !s.decode(c, &in) {
		return
	}
	place := ""
	if in.Place != nil {
		place = *in.Place
	}
	d, err := s.Estate.Begin(c.Request.Context(), in.Name, place, units.System(in.Units), in.South, in.Person, in.At)
	revisioned(s, c, http.StatusCreated, d.Revision, d, err)
}

func (s *Server) ChangeEstate(c *gin.Context, p api.ChangeEstateParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	if b, ok := s.body(c); ok {
		d, err := s.Estate.ChangeEstate(c.Request.Context(), person(p.XPerson), rev, b)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) LoadDemonstration(c *gin.Context) {
	d, err := s.Demo()
	if err != nil {
		s.fail(c, err)
		return
	}
	e, err := s.Estate.LoadDemonstration(c.Request.Context(), d)
	revisioned(s, c, http.StatusCreated, e.Revision, e, err)
}

func (s *Server) ProposeSeasons(c *gin.Context, p api.ProposeSeasonsParams) {
	answer(s, c, http.StatusOK, schedule.Temperate(p.South), nil)
}

func (s *Server) GetRains(c *gin.Context) {
	r, err := s.Estate.Rains(c.Request.Context())
	answer(s, c, http.StatusOK, r, err)
}

func (s *Server) GetOverview(c *gin.Context) {
	o, err := s.Estate.Overview(c.Request.Context())
	answer(s, c, http.StatusOK, o, err)
}

func (s *Server) AddBlocks(c *gin.Context, p api.AddBlocksParams) {
	var in struct {
		Blocks []estate.NewBlock `json:"blocks"`
	}
	if !s.decode(c, &in) {
		return
	}
	docs, err := s.Estate.AddBlocks(c.Request.Context(), person(p.XPerson), in.Blocks)
	answer(s, c, http.StatusCreated, docs, err)
}

func (s *Server) GetBlock(c *gin.Context, id string, _ api.GetBlockParams) {
	d, err := s.Estate.Block(c.Request.Context(), id)
	revisioned(s, c, http.StatusOK, d.Revision, d, err)
}

func (s *Server) ChangeBlock(c *gin.Context, id string, p api.ChangeBlockParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	if b, ok := s.body(c); ok {
		d, err := s.Estate.ChangeBlock(c.Request.Context(), person(p.XPerson), id, rev, b)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) RemoveBlock(c *gin.Context, id string, p api.RemoveBlockParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	if err := s.Estate.RemoveBlock(c.Request.Context(), person(p.XPerson), id, rev); err != nil {
		s.fail(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}

func (s *Server) GetPlan(c *gin.Context, id string, _ api.GetPlanParams) {
	p, err := s.Estate.Plan(c.Request.Context(), id)
	answer(s, c, http.StatusOK, p, err)
}

func (s *Server) PreviewPlan(c *gin.Context, id string, _ api.PreviewPlanParams) {
	if b, ok := s.body(c); ok {
		p, err := s.Estate.Preview(c.Request.Context(), id, b)
		answer(s, c, http.StatusOK, p, err)
	}
}

// PreviewParts is the named parts of what PreviewPlan gives.
func (s *Server) PreviewParts(c *gin.Context, id, parts string, _ api.PreviewPartsParams) {
	if b, ok := s.body(c); ok {
		p, err := s.Estate.Preview(c.Request.Context(), id, b)
		if err != nil {
			answer(s, c, http.StatusOK, p, err)
			return
		}
		some, err := partsOf(p, strings.Split(parts, ","))
		answer(s, c, http.StatusOK, some, err)
	}
}

func (s *Server) GetForks(c *gin.Context, id string, _ api.GetForksParams) {
	f, err := s.Estate.Forks(c.Request.Context(), id)
	answer(s, c, http.StatusOK, f, err)
}

func (s *Server) GetWorking(c *gin.Context, id string, p api.GetWorkingParams) {
	w, err := s.Estate.Working(c.Request.Context(), id, p.Figure)
	answer(s, c, http.StatusOK, w, err)
}

func (s *Server) AdoptPlan(c *gin.Context, id string, p api.AdoptPlanParams) {
	if rev, ok := s.revision(c, p.IfMatch); ok {
		d, err := s.Estate.Adopt(c.Request.Context(), person(p.XPerson), id, rev)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) RecordPlanted(c *gin.Context, id string, p api.RecordPlantedParams) {
	rev, ok := s.revision(c, p.IfMatch)
	if !ok {
		return
	}
	var in struct {
		On civil.Date `json:"on"`
	}
	if s.decode(c, &in) {
		d, err := s.Estate.RecordPlanted(c.Request.Context(), person(p.XPerson), id, rev, in.On)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) ListCalculators(c *gin.Context) {
	answer(s, c, http.StatusOK, s.Estate.Calculators().All(), nil)
}

func (s *Server) RunCalculator(c *gin.Context, name string) {
	var in struct {
		Inputs *map[string]any `json:"inputs"`
	}
	if !s.decode(c, &in) {
		return
	}
	if in.Inputs == nil {
		s.fail(c, finding.Bad("inputs", "", "is missing", "an object of inputs by name; an empty one takes every default"))
		return
	}
	r, ok, err := s.Estate.Calculators().Run(name, *in.Inputs)
	if !ok {
		err = fmt.Errorf("calculator %q: %w", name, store.ErrNotFound)
	}
	answer(s, c, http.StatusOK, r, err)
}

func (s *Server) ImportDrains(c *gin.Context, id string, p api.ImportDrainsParams) {
	rev, ok := s.revision(c, p.IfMatch)
	var in namedText
	if ok && s.decode(c, &in) {
		d, err := s.Estate.ImportDrains(c.Request.Context(), person(p.XPerson), id, rev, in.Name, in.Text)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) GetLists(c *gin.Context) {
	d, err := s.Estate.Estate(c.Request.Context())
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		s.fail(c, err)
		return
	}
	answer(s, c, http.StatusOK, estate.GroundLists(d.Estate), nil)
}

func (s *Server) GetClimate(c *gin.Context) {
	v, err := s.Estate.Climate(c.Request.Context())
	answer(s, c, http.StatusOK, v, err)
}

func (s *Server) GetLand(c *gin.Context, id string) {
	v, err := s.Estate.Land(c.Request.Context(), id)
	answer(s, c, http.StatusOK, v, err)
}

func (s *Server) GetFit(c *gin.Context, id string, _ api.GetFitParams) {
	v, err := s.Estate.Fit(c.Request.Context(), id)
	answer(s, c, http.StatusOK, v, err)
}

func (s *Server) GetFitOf(c *gin.Context, sheet string) {
	v, err := s.Estate.FitOf(c.Request.Context(), sheet)
	answer(s, c, http.StatusOK, v, err)
}

func (s *Server) ReadHeights(c *gin.Context) {
	var in estate.HeightsFile
	if s.decode(c, &in) {
		v, _, err := s.Estate.ReadHeights(c.Request.Context(), in)
		answer(s, c, http.StatusOK, v, err)
	}
}

func (s *Server) KeepHeights(c *gin.Context, p api.KeepHeightsParams) {
	rev, ok := s.revision(c, p.IfMatch)
	var in estate.HeightsFile
	if ok && s.decode(c, &in) {
		d, err := s.Estate.KeepHeights(c.Request.Context(), person(p.XPerson), rev, in)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

type namedText struct {
	Name string `json:"name"`
	Text string `json:"text"`
}

func (s *Server) ReadWeather(c *gin.Context) {
	var in namedText
	if s.decode(c, &in) {
		v, err := s.Estate.ReadWeather(in.Name, in.Text)
		answer(s, c, http.StatusOK, v, err)
	}
}

func (s *Server) KeepWeather(c *gin.Context, p api.KeepWeatherParams) {
	rev, ok := s.revision(c, p.IfMatch)
	var in namedText
	if ok && s.decode(c, &in) {
		d, err := s.Estate.KeepWeather(c.Request.Context(), person(p.XPerson), rev, in.Name, in.Text)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) ReadNormals(c *gin.Context) {
	var in namedText
	if s.decode(c, &in) {
		v, err := station.Normals(in.Text)
		answer(s, c, http.StatusOK, v, err)
	}
}

func (s *Server) PollStation(c *gin.Context) {
	v, err := s.Estate.PollStation(c.Request.Context())
	answer(s, c, http.StatusOK, v, err)
}

func (s *Server) ReadLab(c *gin.Context) {
	var in estate.LabFile
	if s.decode(c, &in) {
		v, err := s.Estate.ReadLab(c.Request.Context(), in)
		answer(s, c, http.StatusOK, v, err)
	}
}

func (s *Server) KeepLab(c *gin.Context, id string, p api.KeepLabParams) {
	rev, ok := s.revision(c, p.IfMatch)
	var in estate.LabFile
	if ok && s.decode(c, &in) {
		d, err := s.Estate.KeepLab(c.Request.Context(), person(p.XPerson), id, rev, in)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) SendSample(c *gin.Context, id string, p api.SendSampleParams) {
	rev, ok := s.revision(c, p.IfMatch)
	var in estate.SampleRequest
	if ok && s.decode(c, &in) {
		d, err := s.Estate.SendSample(c.Request.Context(), person(p.XPerson), id, rev, in)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}

func (s *Server) FetchReport(c *gin.Context, id, sample string, p api.FetchReportParams) {
	if rev, ok := s.revision(c, p.IfMatch); ok {
		d, err := s.Estate.FetchReport(c.Request.Context(), person(p.XPerson), id, rev, sample)
		revisioned(s, c, http.StatusOK, d.Revision, d, err)
	}
}
