package server

import (
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"slowroot/core/finding"
	"slowroot/core/plan"
	"slowroot/internal/api"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/formats/settingout"
	"slowroot/internal/formats/table"
)

// download names a file after the block or the estate.
func download(c *gin.Context, name, kind string, body []byte) {
	safe := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-' || r == '.' {
			return r
		}
		return '-'
	}, strings.ToLower(name))
	c.Header("Content-Disposition", `attachment; filename="`+safe+`"`)
	c.Data(http.StatusOK, kind, body)
}

func (s *Server) ExportBlocks(c *gin.Context) {
	docs, err := s.Estate.Blocks(c.Request.Context())
	if err != nil {
		s.fail(c, err)
		return
	}
	blocks := make([]geojson.Whole, len(docs))
	for i, d := range docs {
		blocks[i] = d.Whole()
	}
	text, err := geojson.Write(blocks)
	if err != nil {
		s.fail(c, err)
		return
	}
	download(c, "blocks.geojson", "application/geo+json", text)
}

func num(v float64, decimals int) string { return strconv.FormatFloat(v, 'f', decimals, 64) }

func (s *Server) ExportStations(c *gin.Context, id string, _ api.ExportStationsParams) {
	st, name, err := s.Estate.Stations(c.Request.Context(), id)
	if err != nil {
		s.fail(c, err)
		return
	}
	rows := [][]string{{"station", "row", "role", "lon", "lat", "plot", "clone"}}
	for _, x := range st {
		rows = append(rows, []string{x.Number, strconv.Itoa(x.Row), x.Role, num(x.At.Lon, 8), num(x.At.Lat, 8), strconv.Itoa(x.Plot), x.Clone})
	}
	download(c, name+"-stations.csv", "text/csv; charset=utf-8", table.Write(rows))
}

func (s *Server) ExportYears(c *gin.Context, id string, _ api.ExportYearsParams) {
	p, err := s.Estate.Plan(c.Request.Context(), id)
	if err != nil {
		s.fail(c, err)
		return
	}
	head := []string{"season", "ageYear", "lowKgPerHa", "baseKgPerHa", "highKgPerHa", "blockBaseKg", "pickedKg", "plantsAlive"}
	for _, n := range p.Nutrients {
		head = append(head, n+"KgPerHa", n+"BlockKg")
	}
	rows := [][]string{head}
	for _, y := range p.Years {
		picked := ""
		if y.Recorded {
			picked = num(y.PickedKg, 0)
		}
		row := []string{y.Label, strconv.Itoa(y.Age), num(y.PerHa.Low, 0), num(y.PerHa.Base, 0), num(y.PerHa.High, 0), num(y.BlockKg.Base, 0), picked,
			strconv.Itoa(y.Plants)}
		for _, n := range p.Nutrients {
			row = append(row, num(y.FeedPerHa[n], 1), num(y.FeedKg[n], 1))
		}
		rows = append(rows, row)
	}
	download(c, p.Name+"-years.csv", "text/csv; charset=utf-8", table.Write(rows))
}

// setOut are the writers of one thing that is set out on the ground.
type setOut struct {
	csv, dxf     func(*plan.Plan) []byte
	gpx, geojson func(*plan.Plan) ([]byte, error)
}

// ExportDrains writes the designed drains for setting out.
func (s *Server) ExportDrains(c *gin.Context, id string, format api.ExportDrainsParamsFormat, _ api.ExportDrainsParams) {
	p, err := s.Estate.SettingOut(c.Request.Context(), id)
	s.write(c, p, err, "drains", string(format), setOut{settingout.CSV, settingout.DXF, settingout.GPX, geojson.WriteDrains})
}

// ExportRows writes the rows for setting out.
func (s *Server) ExportRows(c *gin.Context, id string, format api.ExportRowsParamsFormat, _ api.ExportRowsParams) {
	p, err := s.Estate.Pegged(c.Request.Context(), id)
	s.write(c, p, err, "rows", string(format), setOut{settingout.RowsCSV, settingout.RowsDXF, settingout.RowsGPX, settingout.RowsGeoJSON})
}

func (s *Server) GetPegs(c *gin.Context, id string, _ api.GetPegsParams) {
	p, err := s.Estate.Pegged(c.Request.Context(), id)
	if err != nil {
		s.fail(c, err)
		return
	}
	answer(s, c, http.StatusOK, settingout.Rows(p), nil)
}

// write sends a plan in the form asked for.
func (s *Server) write(c *gin.Context, p *plan.Plan, err error, what, format string, by setOut) {
	if err != nil {
		s.fail(c, err)
		return
	}
	name := p.Name + "-" + what + "." + format
	var text []byte
	kind := ""
	switch format {
	case "csv":
		text, kind = by.csv(p), "text/csv; charset=utf-8"
	case "dxf":
		text, kind = by.dxf(p), "image/vnd.dxf"
	case "gpx":
		text, err = by.gpx(p)
		kind = "application/gpx+xml"
	case "geojson":
		text, err = by.geojson(p)
		kind = "application/geo+json"
	default:
		err = finding.Bad("format", format, "is not a form "+what+" are written in", "csv, gpx, geojson or dxf")
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	download(c, name, kind, text)
}
