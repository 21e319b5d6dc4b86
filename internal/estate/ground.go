package estate

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"sort"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/climate"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan"
	"slowroot/core/plan/fit"
	"slowroot/core/plan/ground"
	"slowroot/core/practice"
	"slowroot/core/soil"
	"slowroot/core/units"
	"slowroot/internal/formats/heights"
	"slowroot/internal/formats/labreport"
	"slowroot/internal/formats/station"
	"slowroot/internal/formats/table"
	"slowroot/internal/store"
)

// arriving is the service as it would be with long records that are about to be kept.
func (s *Service) arriving(files []store.File) *Service {
	if len(files) == 0 {
		return s
	}
	with := &Service{store: s.store, sheets: s.sheets, calcs: s.calcs, today: s.today, longest: s.longest, files: map[string]string{}}
	with.stationReads.Store(s.stationReads.Load())
	for _, f := range files {
		with.files[f.Digest()] = f.Text
	}
	return with
}

// file is a long record that is kept, or about to be.
func (s *Service) file(ctx context.Context, digest string) (string, error) {
	if text, ok := s.files[digest]; ok {
		return text, nil
	}
	return s.store.File(ctx, digest)
}

// plain is an error without the field it names: a sentence for a reader.
func plain(err error) string {
	var fe *finding.FieldError
	if errors.As(err, &fe) {
		return strings.TrimSpace(fe.Value + " " + fe.Rule + " (" + fe.Accepted + ")")
	}
	return err.Error()
}

// heightsOf reads the estate's height files.
func (s *Service) heightsOf(ctx context.Context, list []document.HeightSource) ([]ground.Heights, error) {
	out := make([]ground.Heights, 0, len(list))
	for i, h := range list {
		got, err := recall(&s.memory, "heights"+h.Digest+h.Kind+h.CRS, func() (ground.Heights, error) {
			text, err := s.file(ctx, h.Digest)
			if errors.Is(err, store.ErrNotFound) {
				return ground.Heights{}, finding.Bad(fmt.Sprintf("heights[%d].digest", i), h.Digest, "is not a file kept here", "read the heights in again")
			}
			if err != nil {
				return ground.Heights{}, err
			}
			kind, crs := heights.CSV, "EPSG:4326"
			if h.Kind == "grid" {
				kind, crs = heights.ASC, h.CRS
			}
			system, err := geo.SystemNamed(crs)
			if err != nil {
				return ground.Heights{}, err
			}
			return heights.Read(kind, text, system)
		})
		if err != nil {
			return nil, err
		}
		got.HeightSource = h
		out = append(out, got)
	}
	return out, nil
}

// land works out how a block lies; nil where no heights reach it.
func (s *Service) land(ctx context.Context, e document.Estate, b document.Block) (*ground.Land, error) {
	if len(e.Heights) == 0 {
		return nil, nil
	}
	stop := s.patience(ctx)
	key := keyOf("land", e.Heights, e.Barriers, b.Boundary)
	return recall(&s.memory, key, func() (*ground.Land, error) {
		if err := stop(); err != nil {
			return nil, err
		}
		src, err := s.heightsOf(ctx, e.Heights)
		if err != nil {
			return nil, err
		}
		l, err := ground.Survey(b.Boundary, src, e.Barriers, stop)
		if l != nil {
			l.Key = key
		}
		return l, err
	})
}

// series is the daily record: the file, and over it what the station sent.
func (s *Service) series(ctx context.Context, e document.Estate) (*climate.Series, error) {
	digest := ""
	if e.Weather != nil {
		digest = e.Weather.Digest
	}
	return recall(&s.memory, fmt.Sprintf("series%s/%d", digest, s.stationReads.Load()), func() (*climate.Series, error) {
		var days []climate.Day
		if digest != "" {
			text, err := s.file(ctx, digest)
			if errors.Is(err, store.ErrNotFound) {
				return nil, finding.Bad("weather.digest", digest, "is not a file kept here", "read the weather record in again")
			}
			if err != nil {
				return nil, err
			}
			if days, err = station.Days(text); err != nil {
				return nil, err
			}
		}
		sent, err := s.store.Days(ctx)
		if err != nil || len(days)+len(sent) == 0 {
			return nil, err
		}
		known := map[civil.Date]int{}
		for i, d := range days {
			known[d.On] = i
		}
		for _, d := range sent {
			if i, ok := known[d.On]; ok {
				days[i] = d
				continue
			}
			days = append(days, d)
		}
		got := climate.NewSeries(days)
		return &got, nil
	})
}

func (s *Service) climateAt(ctx context.Context, e document.Estate, lat float64) (*climate.Site, error) {
	lat = math.Round(lat*10) / 10
	digest := ""
	if e.Weather != nil {
		digest = e.Weather.Digest
	}
	return recall(&s.memory, keyOf("climate", digest, s.stationReads.Load(), e.Climate, e.Source, e.ElevationM, e.Coast, lat), func() (*climate.Site, error) {
		days, err := s.series(ctx, e)
		if err != nil {
			return nil, err
		}
		source := e
		if source.Source == "" && e.Weather != nil {
			source.Source = e.Weather.Name
		}
		site := source.ClimateOf(days, lat)
		return &site, nil
	})
}

// ground fills in what a plan needs to know of the lie and the climate.
func (s *Service) ground(ctx context.Context, in *plan.Input) error {
	if len(in.Block.Boundary.Outer) == 0 {
		return nil
	}
	if geo.Validate(in.Block.Boundary) != nil {
		return nil // the plan says what is wrong with it
	}
	var err error
	if in.Land, err = s.land(ctx, in.Estate, in.Block); err != nil {
		if ctx.Err() != nil || in.Stop != nil && in.Stop() != nil {
			return err
		}
		in.LandProblem = plain(err) // one bad file of heights takes nothing else with it
	}
	in.Climate, err = s.climateAt(ctx, in.Estate, geo.LocalPlane(in.Block.Boundary).Lat0)
	return err
}

// Land is a block's lie as it is drawn; store.ErrNotFound where no heights reach it.
func (s *Service) Land(ctx context.Context, id string) (ground.Drawing, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return ground.Drawing{}, err
	}
	l, err := s.land(ctx, e.Estate, d.Block)
	if err != nil {
		return ground.Drawing{}, err
	}
	if l == nil {
		return ground.Drawing{}, fmt.Errorf("heights that reach %s: %w", d.Block.Name, store.ErrNotFound)
	}
	return l.Draw(geo.LocalPlane(d.Block.Boundary)), nil
}

// Fit judges every crop on a block.
func (s *Service) Fit(ctx context.Context, id string) ([]fit.Fit, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return nil, err
	}
	in, err := s.input(ctx, e.Estate, d)
	if err != nil {
		return nil, err
	}
	l, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	return plan.Matrix(in, l.In(e.Estate.Units).All(), true), nil
}

// FitOf judges one crop on every block.
func (s *Service) FitOf(ctx context.Context, sheet string) ([]fit.Fit, error) {
	sh, ok := s.find(ctx)(sheet)
	if !ok {
		return nil, fmt.Errorf("sheet %q: %w", sheet, store.ErrNotFound)
	}
	e, err := s.Estate(ctx)
	if err != nil {
		return nil, err
	}
	sh = sh.In(e.Estate.Units)
	docs, err := s.blocks(ctx)
	if err != nil {
		return nil, err
	}
	out := []fit.Fit{}
	for _, d := range docs {
		in, err := plan.Input{}, d.Err
		if err == nil {
			in, err = s.input(ctx, e.Estate, d)
		}
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if err != nil { // one bad block never takes another's answer away
			out = append(out, fit.CannotJudge(d.ID, d.Block.Name, sh, plain(err)))
			continue
		}
		out = append(out, plan.Matrix(in, []*practice.Sheet{sh}, true)...)
	}
	return out, nil
}

// HeightsFile is a file of heights and what is said about it.
type HeightsFile struct {
	Name      string     `json:"name"`
	Text      string     `json:"text"`
	CRS       string     `json:"crs"` // "" asks for a proposal
	AccuracyM float64    `json:"accuracyM"`
	How       string     `json:"how"`
	On        civil.Date `json:"on"`
}

// HeightsRead is what such a file holds, for a look at it on the map before it is kept.
type HeightsRead struct {
	Kind     string      `json:"kind"`
	CRS      string      `json:"crs"`
	CRSName  string      `json:"crsName"`
	Proposed bool        `json:"proposed"` // nobody said the system; this one is the estate's own zone
	Count    int         `json:"count"`
	Lowest   float64     `json:"lowest"`
	Highest  float64     `json:"highest"`
	CellM    float64     `json:"cellM"`
	Outline  []geo.Point `json:"outline"`
	Spots    []geo.Point `json:"spots"` // some of them, to be seen
	FarKm    float64     `json:"farKm"` // from the nearest block; 0 where one lies inside
	Doubt    string      `json:"doubt,omitempty"`
}

func (s *Service) middle(ctx context.Context) (geo.Point, bool) {
	docs, err := s.blocks(ctx)
	if len(docs) == 0 && err == nil {
		if e, err := s.Estate(ctx); err == nil && e.Estate.At != nil {
			return *e.Estate.At, true
		}
	}
	for _, d := range docs {
		if err == nil && d.Err == nil && len(d.Block.Boundary.Outer) > 0 {
			p := geo.LocalPlane(d.Block.Boundary)
			return geo.Point{Lon: p.Lon0, Lat: p.Lat0}, true
		}
	}
	return geo.Point{}, false
}

// ReadHeights reads a file and says what it holds; it writes nothing.
func (s *Service) ReadHeights(ctx context.Context, f HeightsFile) (HeightsRead, ground.Heights, error) {
	var out HeightsRead
	kind := heights.Guess(f.Text)
	crs := f.CRS
	at, known := s.middle(ctx)
	if crs == "" {
		crs, out.Proposed = "EPSG:4326", true
		if kind == heights.ASC && known {
			crs = geo.UTMAt(at).Code
			if probe, err := heights.Grid(f.Text); err == nil && probe.Cell < 0.1 {
				crs = "EPSG:4326"
			}
		}
	}
	system, err := geo.SystemNamed(crs)
	if err != nil {
		return out, ground.Heights{}, err
	}
	h, err := heights.Read(kind, f.Text, system)
	if err != nil {
		return out, h, err
	}
	if err := across(h.Spots); err != nil {
		return out, h, err
	}
	out.Kind, out.CRS, out.CRSName, out.Count = h.Kind, h.CRS, h.System.Name, h.Count
	out.Lowest, out.Highest = math.Inf(1), math.Inf(-1)
	see := func(z float64) {
		if !math.IsNaN(z) {
			out.Lowest, out.Highest = math.Min(out.Lowest, z), math.Max(out.Highest, z)
		}
	}
	lo, hi := geo.Point{Lon: 180, Lat: 90}, geo.Point{Lon: -180, Lat: -90}
	reach := func(p geo.Point) {
		lo.Lon, lo.Lat, hi.Lon, hi.Lat = math.Min(lo.Lon, p.Lon), math.Min(lo.Lat, p.Lat), math.Max(hi.Lon, p.Lon), math.Max(hi.Lat, p.Lat)
	}
	out.Spots, out.Outline = []geo.Point{}, []geo.Point{}
	if g := h.Grid; g != nil {
		for _, z := range g.Z {
			see(z)
		}
		out.CellM = g.Cell
		if h.System.Degrees {
			out.CellM *= 111320
		}
		x1, y1 := g.X0+float64(g.NX-1)*g.Cell, g.Y0+float64(g.NY-1)*g.Cell
		for _, c := range []geo.XY{{X: g.X0, Y: g.Y0}, {X: x1, Y: g.Y0}, {X: x1, Y: y1}, {X: g.X0, Y: y1}} {
			p := h.System.From(c)
			out.Outline = append(out.Outline, p)
			reach(p)
		}
	} else {
		step := max(1, len(h.Spots)/400)
		for i, p := range h.Spots {
			see(p.Z)
			reach(p.At)
			if i%step == 0 {
				out.Spots = append(out.Spots, p.At)
			}
		}
		out.Outline = []geo.Point{lo, {Lon: hi.Lon, Lat: lo.Lat}, hi, {Lon: lo.Lon, Lat: hi.Lat}}
	}
	if known && (at.Lon < lo.Lon || at.Lon > hi.Lon || at.Lat < lo.Lat || at.Lat > hi.Lat) {
		near := geo.Point{Lon: math.Min(math.Max(at.Lon, lo.Lon), hi.Lon), Lat: math.Min(math.Max(at.Lat, lo.Lat), hi.Lat)}
		out.FarKm = geo.DistanceM(at, near) / 1000
		if out.FarKm > 5 {
			out.Doubt = fmt.Sprintf("These heights lie %.0f km from the estate: is the coordinate system right?", out.FarKm)
		}
	}
	if h.Count >= 3 && out.Highest-out.Lowest > 1500 {
		out.Doubt = fmt.Sprintf("The heights run from %.0f to %.0f m: is the unit metres?", out.Lowest, out.Highest)
	}
	return out, h, nil
}

// across refuses spots that lie in one line: they say nothing of the slope to its side. No spots pass.
func across(spots []ground.Spot) error {
	if len(spots) == 0 {
		return nil
	}
	plane := geo.PlaneAt(spots[0].At)
	a, far := geo.XY{}, 0.0
	for _, p := range spots {
		if q := plane.To(p.At); math.Hypot(q.X, q.Y) > far {
			a, far = q, math.Hypot(q.X, q.Y)
		}
	}
	wide := 0.0
	for _, p := range spots {
		q := plane.To(p.At)
		wide = math.Max(wide, math.Abs(a.X*q.Y-a.Y*q.X)/math.Max(far, 1e-9))
	}
	if wide < 0.5 || wide < far/2000 {
		return finding.Bad("text", fmt.Sprintf("%d heights", len(spots)), "lie in one line: they say nothing of the slope to its side", "three or more that span an area")
	}
	return nil
}

// KeepHeights adds a file of heights to the estate.
func (s *Service) KeepHeights(ctx context.Context, who string, revision int, f HeightsFile) (EstateDoc, error) {
	_, h, err := s.ReadHeights(ctx, f)
	if err != nil {
		return EstateDoc{}, err
	}
	d, err := s.Estate(ctx)
	if err != nil {
		return EstateDoc{}, err
	}
	if d.Revision != revision {
		return EstateDoc{}, &Stale{d}
	}
	source, file := keepHeights(f, h)
	e := d.Estate
	e.Heights = append(append([]document.HeightSource{}, e.Heights...), source)
	return s.putEstate(ctx, who, "Added the heights "+f.Name, d, e, file)
}

// readHeights reads a file whose system is said.
func readHeights(f HeightsFile) (ground.Heights, error) {
	system, err := geo.SystemNamed(f.CRS)
	if err != nil {
		return ground.Heights{}, err
	}
	return heights.Read(heights.Guess(f.Text), f.Text, system)
}

// keepHeights is heights as they are kept: a grid as it came, spots as longitude, latitude and height.
func keepHeights(f HeightsFile, h ground.Heights) (document.HeightSource, store.File) {
	file, crs := store.File{Kind: "heights", Text: f.Text}, h.CRS
	if h.Grid == nil {
		file.Text, crs = writeSpots(h.Spots), "EPSG:4326"
	}
	return document.HeightSource{Name: f.Name, Kind: h.Kind, CRS: crs, AccuracyM: f.AccuracyM, How: f.How, On: f.On, Count: h.Count, Digest: file.Digest()}, file
}

func writeSpots(spots []ground.Spot) string {
	out := []byte("lon,lat,z\n")
	for _, p := range spots {
		out = fmt.Appendf(out, "%.8f,%.8f,%.3f\n", p.At.Lon, p.At.Lat, p.Z)
	}
	return string(out)
}

// WeatherRead is what a daily record holds, and what the quality checks say of it.
type WeatherRead struct {
	Name  string         `json:"name"`
	From  civil.Date     `json:"from"`
	To    civil.Date     `json:"to"`
	Days  int            `json:"days"`
	Gaps  []climate.Gap  `json:"gaps"`
	Notes []climate.Note `json:"notes"`
}

func weatherRead(name string, days []climate.Day, passed []climate.Note) WeatherRead {
	q := climate.NewSeries(days)
	out := WeatherRead{Name: name, Gaps: q.Gaps, Notes: append(passed, q.Notes...)}
	if len(q.Days) > 0 {
		out.From, out.To = q.Days[0].On, q.Days[len(q.Days)-1].On
	}
	for _, d := range q.Days {
		if !math.IsNaN(d.TMin) && !math.IsNaN(d.TMax) {
			out.Days++
		}
	}
	return out
}

// ReadWeather reads a daily record and checks it; it writes nothing.
func (s *Service) ReadWeather(name, text string) (WeatherRead, error) {
	days, passed, err := s.weatherDays(text)
	if err != nil {
		return WeatherRead{}, err
	}
	return weatherRead(name, days, passed), nil
}

// weatherDays reads a record without the days that have not come yet and those long before any station, which would
// push the true ones out; each is named.
func (s *Service) weatherDays(text string) ([]climate.Day, []climate.Note, error) {
	days, err := station.Days(text)
	if err != nil {
		return nil, nil, err
	}
	notes := []climate.Note{}
	first := s.today().AddMonths(-12 * 99)
	kept := days[:0:0]
	for _, d := range days {
		switch {
		case d.On.After(s.today()):
			notes = append(notes, climate.Note{On: d.On, Sentence: "lies in the future and is passed over"})
		case d.On.Before(first):
			notes = append(notes, climate.Note{On: d.On, Sentence: "lies a hundred years back and is passed over"})
		default:
			kept = append(kept, d)
		}
	}
	if len(kept) == 0 {
		return nil, nil, table.Refuse(0, "no day of it lies in the last hundred years")
	}
	return kept, notes, nil
}

// KeepWeather makes a daily record the estate's.
func (s *Service) KeepWeather(ctx context.Context, who string, revision int, name, text string) (EstateDoc, error) {
	d, err := s.Estate(ctx)
	if err != nil {
		return EstateDoc{}, err
	}
	if d.Revision != revision {
		return EstateDoc{}, &Stale{d}
	}
	e := d.Estate
	w, file, err := s.keepWeather(name, text)
	if err != nil {
		return EstateDoc{}, err
	}
	e.Weather = w
	return s.putEstate(ctx, who, "Read the weather record "+name, d, e, file)
}

// keepWeather is a daily record as it is kept.
func (s *Service) keepWeather(name, text string) (*document.Weather, store.File, error) {
	days, passed, err := s.weatherDays(text)
	if err != nil {
		return nil, store.File{}, err
	}
	file := store.File{Kind: "weather", Text: station.WriteDays(days)}
	r := weatherRead(name, days, passed)
	return &document.Weather{Name: name, Digest: file.Digest(), From: r.From, To: r.To, Days: r.Days, Gaps: len(r.Gaps), Notes: len(r.Notes)}, file, nil
}

// ClimateView is the climate of the estate as it is shown.
type ClimateView struct {
	Known   bool           `json:"known"`
	Source  string         `json:"source"`
	LatDeg  float64        `json:"latDeg"`
	Months  []ClimateMonth `json:"months"`
	Days    []ClimateDay   `json:"days"` // the year's days: what is usual on each
	Years   []ClimateYear  `json:"years"`
	Facts   []ClimateFact  `json:"facts"`
	Gaps    []climate.Gap  `json:"gaps"`
	Notes   []climate.Note `json:"notes"`
	Station WeatherRead    `json:"station"` // what the station has sent
}

// ClimateMonth is a monthly normal with reference evapotranspiration.
type ClimateMonth struct {
	MeanC  float64 `json:"meanC"`
	MinC   float64 `json:"minC"`
	MaxC   float64 `json:"maxC"`
	RainMM float64 `json:"rainMm"`
	ET0MM  float64 `json:"et0Mm"`
	Dry    bool    `json:"dry"`
}

// ClimateDay is one day of the year over all years recorded: lowest, usual and highest.
type ClimateDay struct {
	Low  float64 `json:"low"`  // lowest minimum
	TMin float64 `json:"tmin"` // median
	TMax float64 `json:"tmax"`
	High float64 `json:"high"`
	Rain float64 `json:"rain"` // mean, mm
}

// ClimateYear is what one year said.
type ClimateYear struct {
	Year      int     `json:"year"`
	MinC      float64 `json:"minC"`
	MaxC      float64 `json:"maxC"`
	RainMM    float64 `json:"rainMm"`
	FrostFree int     `json:"frostFree"`
	Hours     float64 `json:"chillHours"`
	Utah      float64 `json:"chillUtah"`
	Portions  float64 `json:"chillPortions"`
	Degree10  float64 `json:"degree10"`
	Missing   float64 `json:"missing"`
}

// ClimateFact is a figure of the climate with what it rests on.
type ClimateFact struct {
	Label    string         `json:"label"`
	Quantity units.Quantity `json:"quantity"`
	Value    float64        `json:"value"`
	Text     string         `json:"text,omitempty"`
	Note     string         `json:"note"`
	Source   string         `json:"source"`
}

// Climate is the climate of the estate.
func (s *Service) Climate(ctx context.Context) (ClimateView, error) {
	v := ClimateView{Months: []ClimateMonth{}, Days: []ClimateDay{}, Years: []ClimateYear{}, Facts: []ClimateFact{}, Gaps: []climate.Gap{}, Notes: []climate.Note{}, Station: weatherRead("", nil, []climate.Note{})}
	d, err := s.Estate(ctx)
	if err != nil {
		return v, err
	}
	at, _ := s.middle(ctx)
	site, err := s.climateAt(ctx, d.Estate, at.Lat)
	if err != nil {
		return v, err
	}
	days, err := s.series(ctx, d.Estate)
	if err != nil {
		return v, err
	}
	v.Known, v.Source, v.LatDeg = site.HasMonths, site.Described(), at.Lat
	if site.HasMonths {
		for i, m := range site.Months {
			maxC := m.MaxC
			if math.IsNaN(maxC) {
				maxC = 2*m.MeanC - m.MinC
			}
			v.Months = append(v.Months, ClimateMonth{m.MeanC, m.MinC, maxC, m.RainMM, zeroed(site.ET0[i]), m.RainMM < 0.5*site.ET0[i]})
		}
	}
	if days != nil {
		v.Days, v.Gaps, v.Notes = dayStrip(days), days.Gaps, days.Notes
	}
	for _, y := range site.Years {
		v.Years = append(v.Years, ClimateYear{y.Year, y.MinC, y.MaxC, y.RainMM, y.FrostFree, y.Chill.Hours, y.Chill.Utah, y.Chill.Portions, y.Degree10, y.Missing})
	}
	v.Facts = facts(site, d.Estate.Units)
	sent, err := s.store.Days(ctx)
	if err != nil {
		return v, err
	}
	v.Station = weatherRead("", sent, []climate.Note{})
	return v, nil
}

func zeroed(x float64) float64 {
	if math.IsNaN(x) {
		return 0
	}
	return x
}

func dayStrip(s *climate.Series) []ClimateDay {
	var mins, maxs, rains [367][]float64
	for _, d := range s.Days {
		k := d.On.DayOfYear()
		if !math.IsNaN(d.TMin) && !math.IsNaN(d.TMax) {
			mins[k], maxs[k] = append(mins[k], d.TMin), append(maxs[k], d.TMax)
		}
		if !math.IsNaN(d.Rain) {
			rains[k] = append(rains[k], d.Rain)
		}
	}
	out := []ClimateDay{}
	for k := 1; k <= 365; k++ {
		if len(mins[k]) == 0 {
			return []ClimateDay{} // not a whole year yet
		}
		sum := 0.0
		for _, r := range rains[k] {
			sum += r
		}
		out = append(out, ClimateDay{climate.Quantile(mins[k], 0), climate.Quantile(mins[k], 0.5), climate.Quantile(maxs[k], 0.5), climate.Quantile(maxs[k], 1), sum / math.Max(1, float64(len(rains[k])))})
	}
	return out
}

func facts(s *climate.Site, sys units.System) []ClimateFact {
	out := []ClimateFact{}
	add := func(label string, q units.Quantity, v float64, note, source string) {
		if !math.IsNaN(v) {
			out = append(out, ClimateFact{Label: label, Quantity: q, Value: v, Note: note, Source: source})
		}
	}
	add("Mean of the year", units.Temp, s.AnnualMeanC, "mean of the monthly means", "")
	add("Mean of the growing season", units.Temp, s.SeasonMeanC, units.Marked("months of {10 °C} or more", sys), "common practice, no source")
	add("Hottest month, mean maximum", units.Temp, s.HotMaxC, "", "")
	add("Rain of the year", units.Rain, s.RainMM, "", "")
	add("Reference evapotranspiration", units.Rain, s.ET0Year, map[bool]string{true: "all measured", false: "humidity, sun or wind guessed from temperature, ± 15 %"}[s.ET0Sure], "Penman–Monteith: Allen et al., FAO Irrigation and Drainage Paper 56, 1998")
	add("Dry months", units.Count, s.DryMonths, "rain under half of reference evapotranspiration", "common practice, no source")
	add("Winter minimum", units.Temp, s.MinC10, fmt.Sprintf("one winter in ten goes below; %d winters", len(s.Years)), "type-7 quantile")
	add("Frost-free days", units.Days, s.FrostFree, "nine years in ten reach it", "type-7 quantile")
	if s.HasFrost {
		out = append(out, lastFrost(s.LastFrost, len(s.Years)))
	}
	add(units.Marked("Chill, hours to {7.2 °C}", sys), units.Count, s.ChillHours, "nine winters in ten reach it", "Weinberger, Proc. Am. Soc. Hort. Sci., 1950")
	add("Chill, portions", units.Count, s.Portions, "nine winters in ten reach it; dynamic model", "Fishman, Erez & Couvillon, J. Theor. Biol., 1987")
	if n := len(s.Years); n > 0 {
		var utah, deg []float64
		for _, y := range s.Years {
			deg = append(deg, y.Degree10)
			if y.ChillKnown {
				utah = append(utah, y.Chill.Utah)
			}
		}
		add("Chill, Utah units", units.Count, climate.Quantile(utah, 0.1), "nine winters in ten reach it", "Richardson, Seeley & Walker, HortScience, 1974")
		add(units.Marked("Degree-days over {10 °C}", sys), units.Count, climate.Quantile(deg, 0.5), "median of the years, single sine", "Baskerville & Emin, Ecology, 1969")
	}
	if s.Onset > 0 {
		day := civil.Must(2023, 1, 1).AddDays(s.Onset - 1)
		out = append(out, ClimateFact{Label: "The rains set in", Quantity: units.Plain, Value: float64(s.Onset), Text: fmt.Sprintf("%d %s", day.Day(), monthName(day)), Note: units.Marked("median of the years: {20 mm} in three days, no dry week after", sys), Source: "Sivakumar, Agric. For. Meteorol., 1988"})
	}
	return out
}

// lastFrost is the last frost of spring as a fact: its date for one year in ten, or that none is needed.
func lastFrost(r climate.FrostRisk, years int) ClimateFact {
	f := ClimateFact{Label: "Last frost of spring", Quantity: units.Plain, Value: float64(r.Day), Source: "Thom & Shaw, Monthly Weather Review, 1958; years without frost counted"}
	if r.Never {
		f.Text = "too rare for a date"
		f.Note = fmt.Sprintf("frost in %.0f %% of %d years: one year in ten is reached on no day", 100*r.FrostShare, years)
		return f
	}
	day := civil.Must(2023, 1, 1).AddDays(r.Day - 1)
	f.Text = fmt.Sprintf("%d %s", day.Day(), monthName(day))
	f.Note = fmt.Sprintf("frost after it one year in ten; %.0f %% of years have one at all; day %.0f by the other school", 100*r.FrostShare, r.Empirical)
	if r.Rough {
		f.Note += "; fewer than ten years with frost, rough"
	}
	return f
}

func monthName(d civil.Date) string {
	return []string{"January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"}[d.Month()-1]
}

// LabFile is a laboratory's file, with how its columns are to be read.
type LabFile struct {
	Text    string                        `json:"text"`
	Lab     string                        `json:"lab"`
	Mapping map[string]document.LabColumn `json:"mapping"`
}

// ReadLab reads a laboratory's file: by the mapping given, else by the one remembered for the laboratory.
func (s *Service) ReadLab(ctx context.Context, f LabFile) (labreport.Report, error) {
	d, err := s.Estate(ctx)
	if err != nil {
		return labreport.Report{}, err
	}
	m := f.Mapping
	if len(m) == 0 {
		m = d.Estate.Labs[f.Lab]
	}
	return labreport.Read(f.Text, f.Lab, m)
}

// KeepLab adds a file's tests to a block and remembers the laboratory's columns, as one change.
func (s *Service) KeepLab(ctx context.Context, who, id string, revision int, f LabFile) (BlockDoc, error) {
	r, err := s.ReadLab(ctx, f)
	if err != nil {
		return BlockDoc{}, err
	}
	if !r.Ready {
		for _, c := range r.Columns {
			if c.Problem != "" {
				return BlockDoc{}, finding.Bad("mapping."+c.Head, c.Unit, c.Problem, "another unit, or leave the column out")
			}
		}
	}
	return s.keepTests(ctx, who, id, revision, r, f.Lab, func(*document.Block) {})
}

func (s *Service) keepTests(ctx context.Context, who, id string, revision int, r labreport.Report, lab string, also func(*document.Block)) (BlockDoc, error) {
	e, d, err := s.at(ctx, id)
	if err != nil {
		return BlockDoc{}, err
	}
	if d.Revision != revision {
		return BlockDoc{}, &Stale{d}
	}
	b := d.Block
	b.Tests = append(append([]soil.Test{}, b.Tests...), r.Tests...)
	sort.SliceStable(b.Tests, func(i, j int) bool { return b.Tests[i].On.Before(b.Tests[j].On) })
	also(&b)
	if _, err := s.compute(ctx, e.Estate, d.as(b), nil); err != nil {
		return BlockDoc{}, err
	}
	var more []store.Write
	if lab != "" {
		labs := map[string]map[string]document.LabColumn{}
		for k, v := range e.Estate.Labs {
			labs[k] = v
		}
		columns := map[string]document.LabColumn{}
		for _, c := range r.Columns {
			columns[c.Head] = c.LabColumn
		}
		labs[lab] = columns
		e.Estate.Labs = labs
		if err := e.Estate.Valid(); err != nil {
			return BlockDoc{}, err
		}
		text, err := json.Marshal(e.Estate)
		if err != nil {
			return BlockDoc{}, err
		}
		more = append(more, store.Write{Kind: store.EstateDoc, Revision: e.Revision, Body: text, Schema: document.EstateForm})
	}
	what := "Read a soil test for " + b.Name
	if len(r.Tests) > 1 {
		what = fmt.Sprintf("Read %d soil tests for %s", len(r.Tests), b.Name)
	}
	return s.keep(ctx, who, what, d, b, store.Also{}, more...)
}
