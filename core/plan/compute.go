package plan

import (
	"errors"
	"fmt"
	"math"
	"sort"
	"strconv"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/layout"
	"slowroot/core/nutrition"
	"slowroot/core/practice"
	"slowroot/core/schedule"
	"slowroot/core/supply"
	"slowroot/core/units"
	"slowroot/core/working"
	"slowroot/core/yield"
)

// computation carries one run of Compute from step to step.
type computation struct {
	in       Input
	tr       *working.Trace
	p        *Plan
	sys      units.System
	seasons  schedule.Seasons
	planting *Planting
	sheet    *practice.Sheet
	option   practice.Layout
	plane    geo.Plane
	rings    [][]geo.XY
	placed   layout.Placement
	harvest  yield.Harvest
	curve    yield.Curve
	feed     nutrition.Programme
	ops      []schedule.Operation
	cal      schedule.Calendar
	life     int
	first    int     // season year of age year 1
	planted  float64 // hectares the stations stand for
}

// Compute makes the plan, read top to bottom like the job itself. An error means the input itself
// is unusable (a *finding.FieldError or *geo.Invalid); everything a plan can live with is a finding.
// With a trace the steps of the wanted figure are recorded.
func Compute(in Input, tr *working.Trace) (*Plan, error) {
	if err := in.Estate.Valid(); err != nil {
		return nil, err
	}
	if err := in.Block.Valid(); err != nil {
		return nil, err
	}
	seasons, err := schedule.NewSeasons(in.Estate.Seasons)
	if err != nil {
		return nil, err
	}
	c := &computation{in: in, tr: tr, sys: in.Estate.Units, seasons: seasons, planting: in.Block.Planting, sheet: in.Sheet}
	c.p = &Plan{Block: in.BlockID, Name: in.Block.Name, Today: in.Today, Stage: Empty, YearToday: seasons.YearOf(in.Today),
		Choices: map[string]string{}, Rows: []layout.Piece{}, Years: []Year{}, Jobs: []Job{}, Nutrients: []string{}, Findings: []finding.Finding{}}
	c.p.Preparation = Preparation{Lines: []PrepLine{}, Sorting: []SortLine{}, Months: []string{}}
	c.ground()
	c.lie()
	if c.planting != nil && c.sheet != nil && !c.sheet.Whole() {
		return nil, finding.Bad("planting.sheet", c.sheet.Name, "its sheet says what the ground must be and how it is prepared, not yet how a planting is laid out and kept", "a sheet with layouts")
	}
	if c.planting != nil && c.sheet != nil {
		if err := c.choose(); err != nil {
			return nil, err
		}
		if err := c.rows(); err != nil {
			return nil, err
		}
		if err := c.plants(); err != nil {
			return nil, err
		}
		c.calendar()
		c.soil()
		c.years()
		c.jobs()
		c.lifeFigures()
	} else if c.planting == nil && c.sheet != nil {
		c.consider()
	} else if c.planting != nil && c.planting.Sheet != "" {
		return nil, finding.Bad("planting.sheet", c.planting.Sheet, "is not a practice sheet of the library", "a sheet from the list of sheets")
	}
	if c.sheet == nil {
		c.soil()
	}
	c.p.Checklist, c.p.groundForks = c.checklist(), c.groundForks()
	c.findings()
	c.steps()
	return c.p, nil
}

// soil is what the ground is and what it is given.
func (c *computation) soil() {
	if c.sheet != nil {
		c.p.Crop, c.p.CropName, c.p.CropDate = c.sheet.ID, c.sheet.Name, c.day0()
	}
	c.profile()
	c.works()
	c.waterNeed()
	c.drains()
	c.ops = append(c.ops[:len(c.ops):len(c.ops)], c.siltOps()...)
}

// consider prepares the ground for a crop that is only thought about.
func (c *computation) consider() {
	it := c.in.Block.Intent
	c.p.Choices = c.sheet.Resolve(nil)
	c.first = c.seasons.FirstYear(it.Date)
	c.cal = schedule.Calendar{Seasons: c.seasons, Planting: it.Date, Life: 1, Done: it.Done}
	c.soil()
	for _, o := range c.sheet.Operations(c.p.Choices) {
		if len(o.Season) == 0 {
			c.ops = append(c.ops, o)
		}
	}
	c.preparations(nil)
}

// preparations dates the sheet's jobs, the amendments and the way taken to rest the ground; jobs are those
// there are already.
func (c *computation) preparations(jobs []Job) []Job {
	names := at(c.ops)
	for _, j := range schedule.Jobs(c.ops, c.cal) {
		if c.planting == nil && !j.Preparation {
			continue
		}
		o := j.Operation
		jobs = append(jobs, Job{Key: j.Key, Name: o.Name, Phase: o.Phase, Age: j.Age, From: j.From, By: j.By, Detail: o.Detail, Why: o.Why, Caution: o.Caution,
			Rule: rule(o, names), Origin: practice.OriginWords(o.Origin), Preparation: j.Preparation, Done: j.Done,
			Passed: c.p.Stage != Planted && j.Passed(c.in.Today)})
	}
	kinds := c.taskKinds()
	for _, a := range c.p.Works.Items {
		for k := range a.Doses {
			kinds[fmt.Sprintf("works-%s-%d", a.Key, k+1)] = amendmentTask[a.Key]
		}
	}
	if c.p.Stage != Planted {
		jobs = c.worksJobs(jobs, kinds)
		jobs = append(jobs, c.groundJobs()...)
		jobs = c.drainJobs(jobs, kinds)
	}
	moved, unsorted := map[string]string{}, map[string]string{}
	if c.p.Stage != Planted {
		moved, unsorted = enforce(jobs, kinds)
	}
	sort.SliceStable(jobs, func(i, j int) bool { return jobs[i].From.Before(jobs[j].From) })
	for i := range jobs {
		jobs[i].Season = c.seasons.Label(c.seasons.YearOf(jobs[i].From))
	}
	c.p.Jobs = jobs
	if c.p.Stage != Planted {
		c.prepare(kinds, moved, unsorted)
	}
	return jobs
}

func (c *computation) figure(f Figure) {
	c.p.Figures = append(c.p.Figures, f)
}

// num is one input of a step of working.
func (c *computation) num(name string, v float64, q units.Quantity, o working.Origin, source, figure string) working.Input {
	return working.Input{Name: name, Value: v, Unit: units.Table[q].SI, Shown: units.Text(v, q, c.sys), Origin: o, Source: source, Figure: figure}
}

func (c *computation) step(path, label, formula, sub string, v float64, q units.Quantity, source string, in ...working.Input) {
	c.tr.Add(working.Step{Figure: path, Label: label, Formula: formula, Substituted: sub, Value: v,
		Unit: units.Table[q].SI, Shown: units.Text(v, q, c.sys), Inputs: in, Source: source})
}

func (c *computation) text(v float64, q units.Quantity) string { return units.Text(v, q, c.sys) }

// length is a height or distance of some metres in the reader's units.
func (c *computation) length(m float64) string { return c.text(m, units.Height) }

// ground measures the block.
func (c *computation) ground() {
	b := c.in.Block.Boundary
	c.plane = geo.LocalPlane(b)
	c.rings = b.PlaneRings(c.plane)
	g := Ground{AreaM2: geo.AreaM2(b), PerimeterM: geo.PerimeterM(b), Origin: geo.Point{Lon: c.plane.Lon0, Lat: c.plane.Lat0}}
	for _, r := range c.rings {
		ring := make([][2]float64, len(r))
		for i, v := range r {
			ring[i] = [2]float64{v.X, v.Y}
		}
		g.Rings = append(g.Rings, ring)
	}
	c.p.Ground = g
	origin := working.Measured
	f := Figure{Path: "area", Step: "ground", Label: "Area", Quantity: units.Area, Value: g.AreaM2, Origin: origin, Note: "plan area, on the ellipsoid"}
	if sd := c.areaSD(); sd > 0 {
		f.Low, f.High, f.Ranged = g.AreaM2-sd, g.AreaM2+sd, true
	}
	c.figure(f)
	c.figure(Figure{Path: "perimeter", Step: "ground", Label: "Boundary", Quantity: units.Distance, Value: g.PerimeterM, Origin: origin, Note: "length of the outer boundary"})
	if c.tr.On("area") {
		n := 0
		for _, r := range c.rings {
			n += len(r)
		}
		c.step("area", "Area of the block", "area = ½·|Σ(xᵢ·yᵢ₊₁ − xᵢ₊₁·yᵢ)| − ∫x²/R², holes subtracted",
			fmt.Sprintf("%d points in %d rings on the local plane at %.5f°, %.5f°", n, len(c.rings), c.plane.Lon0, c.plane.Lat0),
			g.AreaM2, units.Area, "shoelace on the transverse Mercator plane, corrected to the WGS 84 ellipsoid; agrees with geodesic areas (Karney, J. Geodesy 87, 2013) to a part in a million",
			c.num("points", float64(n), units.Count, working.Measured, c.in.Block.Surveyed, ""))
		if sd := c.areaSD(); sd > 0 {
			c.step("area", "How well it is known", "sd = σ/(2√2)·√Σ|pᵢ₊₁ − pᵢ₋₁|²", fmt.Sprintf("σ = %g m", c.in.Block.AccuracyM), sd, units.Area, "follows from the shoelace formula",
				c.num("accuracy of a point", c.in.Block.AccuracyM, units.Spacing, working.Measured, c.in.Block.Surveyed, ""))
		}
	}
	if c.tr.On("perimeter") {
		c.step("perimeter", "Length of the boundary", "Σ√(Δx² + Δy²)", fmt.Sprintf("%d sides", len(c.rings[0])), g.PerimeterM, units.Distance, "local plane")
	}
}

func (c *computation) areaSD() float64 {
	if c.in.Block.AccuracyM <= 0 {
		return 0
	}
	return geo.AreaSD(c.in.Block.Boundary, c.in.Block.AccuracyM)
}

// choose settles the forks: what a person chose, else the sheet's default.
func (c *computation) choose() error {
	p, s := c.planting, c.sheet
	for fork, ch := range p.Choices {
		ok := false
		for _, f := range s.AllForks() {
			for _, o := range f.Options {
				ok = ok || f.ID == fork && o.ID == ch.Option
			}
		}
		if !ok {
			return finding.Bad("planting.choices."+fork, ch.Option, "is not a way the sheet of "+s.Name+" knows", "one of the ways at its forks")
		}
	}
	if p.Standing().IsZero() {
		return finding.Bad("planting.date", "", "a planting needs a date", "a day written YYYY-MM-DD")
	}
	c.p.Choices = s.Resolve(p.chosen())
	c.option, _ = s.Layout(c.p.Choices[practice.LayoutFork])
	c.curve, c.feed, c.harvest = s.Curve(c.p.Choices), s.Programme(c.p.Choices), s.Harvesting(c.p.Choices)
	c.ops = s.Operations(c.p.Choices)
	c.life = s.Life.Base
	c.p.Sheet, c.p.SheetName, c.p.Product = s.ID, s.Name, s.Product.Name
	c.p.YieldAs, c.p.MassAs = units.YieldKg, units.MassKg
	if s.Product.ShowAs == "t" {
		c.p.YieldAs, c.p.MassAs = units.YieldT, units.MassT
	}
	switch {
	case !p.Planted.IsZero():
		c.p.Stage = Planted
	case !p.AdoptedOn.IsZero():
		c.p.Stage = Adopted
	default:
		c.p.Stage = Planned
	}
	return nil
}

// rows places the layout, or takes it as it stands in the ground.
func (c *computation) rows() error {
	p := c.planting
	var err error
	if p.AsPlanted != nil {
		c.p.Spec = p.AsPlanted.Spec.Normal()
		c.placed = c.standing(p.AsPlanted)
		if l, ok := c.sheet.Layout(p.AsPlanted.Layout); ok {
			c.option = l
		}
	} else {
		c.p.Spec = p.Spec(c.option).Normal()
		c.placed, err = layout.Place(c.rings, p.Spec(c.option))
	}
	var fe *finding.FieldError
	if errors.As(err, &fe) {
		return finding.Bad("planting.layout."+fe.Field, fe.Value, fe.Rule, fe.Accepted)
	} else if err != nil {
		return err
	}
	s, pl := c.p.Spec, c.placed
	c.p.Rows = pl.Pieces
	if c.p.Rows == nil {
		c.p.Rows = []layout.Piece{}
	}
	if c.option.Thinning != nil && pl.Temporary > 0 {
		c.p.OutAge = c.option.Thinning.OutAge
	}
	density := s.StationsPerHa()
	c.planted = float64(pl.Stations) / density
	from := working.Computed
	if p.AsPlanted != nil {
		from = working.Measured
	}
	area := c.p.Ground.AreaM2
	c.figure(Figure{Path: "rows.stations", Step: "rows", Label: "Stations", Quantity: units.Count, Value: float64(pl.Stations), Origin: from, Note: "counted on the boundary"})
	c.figure(Figure{Path: "rows.density", Step: "rows", Label: "By spacing alone", Quantity: units.PerArea, Value: density, Origin: working.Computed, Note: "an endless field"})
	c.figure(Figure{Path: "rows.real", Step: "rows", Label: "On this block", Quantity: units.PerArea, Value: float64(pl.Stations) / (area / 1e4), Origin: working.Computed, Note: "stations over the whole area"})
	c.figure(Figure{Path: "rows.planted", Step: "rows", Label: "Planted area", Quantity: units.Area, Value: c.planted * 1e4, Origin: working.Computed, Note: "what the stations stand for; edges and row ends left out"})
	c.figure(Figure{Path: "rows.metres", Step: "rows", Label: "Row length", Quantity: units.Distance, Value: pl.RowMetres, Origin: from, Note: fmt.Sprintf("%d rows in %d pieces", pl.Rows, len(pl.Pieces))})
	if pl.Temporary > 0 {
		c.figure(Figure{Path: "rows.temporary", Step: "rows", Label: "Come out later", Quantity: units.Count, Value: float64(pl.Temporary), Origin: from, Note: "every second station in the row"})
	}
	if pl.Pollinizers > 0 {
		c.figure(Figure{Path: "rows.pollinizers", Step: "rows", Label: "Pollinizers", Quantity: units.Count, Value: float64(pl.Pollinizers), Origin: from,
			Note: fmt.Sprintf("one in every %d of every %s row", s.Pollinizer.EveryPlant, ordinal(s.Pollinizer.EveryRow))})
	}
	c.rowWorking(density)
	return nil
}

func (c *computation) rowWorking(density float64) {
	s, pl, area := c.p.Spec, c.placed, c.p.Ground.AreaM2
	spacing := func() []working.Input {
		o := func(v *float64) working.Origin {
			if v != nil {
				return working.Chosen
			}
			return working.Sheet
		}
		ov := c.planting.Layout
		in := []working.Input{
			c.num("row spacing", s.RowSpacingM, units.Spacing, o(ov.RowSpacingM), c.option.Name, ""),
			c.num("plant spacing", s.PlantSpacingM, units.Spacing, o(ov.PlantSpacingM), c.option.Name, ""),
		}
		if s.Pattern == layout.Twin {
			in = append(in, c.num("between the two rows of a pair", s.TwinGapM, units.Spacing, o(ov.TwinGapM), c.option.Name, ""))
		}
		return append(in,
			c.num("bearing", s.BearingDeg, units.Angle, o(ov.BearingDeg), "clockwise from true north", ""),
			c.num("edge band", s.EdgeBandM, units.Spacing, o(ov.EdgeBandM), c.option.Name, ""),
			c.num("row-end setback", s.RowEndSetbackM, units.Spacing, o(ov.RowEndSetbackM), c.option.Name, ""))
	}
	if c.tr.On("rows.density") {
		f, sub := s.DensityFormula()
		c.step("rows.density", "Density by spacing alone", f, sub, density, units.PerArea, "method LAY-1, geometry; "+practice.OriginWords(c.option.Origin), spacing()[:2]...)
	}
	if c.tr.On("rows.stations") {
		if c.planting.AsPlanted != nil {
			c.step("rows.stations", "As planted", "stations fixed when the planting was recorded", fmt.Sprintf("%d pieces of row", len(pl.Pieces)), float64(pl.Stations), units.Count, "recorded on "+c.planting.Planted.Words())
		} else {
			c.step("rows.stations", "Stations on the block", "each piece of row of length ℓ takes ⌊ℓ / plant spacing⌋ + 1 stations; squares and triangles keep to one lattice",
				fmt.Sprintf("%d pieces of row, %.0f m together", len(pl.Pieces), pl.RowMetres), float64(pl.Stations), units.Count, "method LAY-3: rows cut to the boundary, less the edge band and the row-end setback; counts agree with an independent geometry library", spacing()...)
		}
		c.step("rows.stations", "Check", "row length / plant spacing + ½ a piece", fmt.Sprintf("%.0f / %g + ½ · %d", pl.RowMetres, s.PlantSpacingM, len(pl.Pieces)),
			pl.RowMetres/s.PlantSpacingM+0.5*float64(len(pl.Pieces)), units.Count, "self-check, within 1 % for rows that start at their end",
			c.num("row length", pl.RowMetres, units.Distance, working.Computed, "", "rows.metres"))
	}
	if c.tr.On("rows.real") {
		c.step("rows.real", "Density on this block", "stations / area", fmt.Sprintf("%d / %.4f ha", pl.Stations, area/1e4), float64(pl.Stations)/(area/1e4), units.PerArea, "",
			c.num("stations", float64(pl.Stations), units.Count, working.Computed, "", "rows.stations"), c.num("area", area, units.Area, working.Measured, "", "area"))
	}
	if c.tr.On("rows.planted") {
		c.step("rows.planted", "Planted area", "stations / density by spacing", fmt.Sprintf("%d / %.1f per ha", pl.Stations, density), c.planted*1e4, units.Area, "the ground a full field of this spacing would take; yields and doses per hectare belong to it",
			c.num("stations", float64(pl.Stations), units.Count, working.Computed, "", "rows.stations"), c.num("density", density, units.PerArea, working.Computed, "", "rows.density"))
	}
	if c.tr.On("rows.metres") {
		c.step("rows.metres", "Row length", "Σ length of the pieces", fmt.Sprintf("%d pieces in %d rows", len(pl.Pieces), pl.Rows), pl.RowMetres, units.Distance, "method LAY-3", spacing()...)
	}
	if c.tr.On("rows.pollinizers") {
		c.step("rows.pollinizers", "Pollinizers", "one station in every k of every q-th row, counted", fmt.Sprintf("k = %d, q = %d; share %.3f", s.Pollinizer.EveryPlant, s.Pollinizer.EveryRow, float64(pl.Pollinizers)/math.Max(1, float64(pl.Stations-pl.Temporary))),
			float64(pl.Pollinizers), units.Count, "method LAY-6, common practice", c.num("stations that stay", float64(pl.Stations-pl.Temporary), units.Count, working.Computed, "", "rows.stations"))
	}
	if c.tr.On("rows.temporary") {
		c.step("rows.temporary", "Stations that come out", "every second station of each row", fmt.Sprintf("of %d", pl.Stations), float64(pl.Temporary), units.Count, "method LAY-5: leaves the row spacing and twice the plant spacing")
	}
}

// standing turns the recorded rows back into pieces on the block's plane.
func (c *computation) standing(a *AsPlanted) layout.Placement {
	out := layout.Placement{Stations: a.Stations, Pollinizers: a.Pollinizers, Temporary: a.Temporary, RowMetres: a.RowMetres}
	for _, r := range a.Rows {
		p, q := c.plane.To(r.First), c.plane.To(r.Last)
		k := 1 / math.Max(1, float64(r.N-1))
		out.Pieces = append(out.Pieces, layout.Piece{Row: r.Row, Station1: r.Station, FirstX: p.X, FirstY: p.Y,
			StepX: (q.X - p.X) * k, StepY: (q.Y - p.Y) * k, Stations: r.N, LengthM: r.LengthM, Roles: r.Roles})
		out.Rows = max(out.Rows, r.Row)
	}
	return out
}

// Fix records the layout of a plan as planted, with positions on the ellipsoid.
func (p *Plan) Fix(option string) *AsPlanted {
	pl := geo.PlaneAt(p.Ground.Origin)
	a := &AsPlanted{Spec: p.Spec, Layout: option, AreaM2: p.Ground.AreaM2, Rows: make([]Row, len(p.Rows))}
	for i, r := range p.Rows {
		last := float64(r.Stations - 1)
		a.Rows[i] = Row{Row: r.Row, Station: r.Station1, N: r.Stations, LengthM: r.LengthM, Roles: r.Roles,
			First: pl.From(geo.XY{X: r.FirstX, Y: r.FirstY}), Last: pl.From(geo.XY{X: r.FirstX + last*r.StepX, Y: r.FirstY + last*r.StepY})}
		a.Stations += r.Stations
		a.RowMetres += r.LengthM
		for _, ch := range r.Roles {
			switch ch {
			case layout.PollinizerRole:
				a.Pollinizers++
			case layout.TemporaryRole:
				a.Temporary++
			}
		}
	}
	return a
}

// plants is what to order, pollinizers apart.
func (c *computation) plants() error {
	m, p := c.sheet.Material, c.planting
	surv, origin := m.Survival, working.Sheet
	if p.Survival > 0 {
		surv, origin = p.Survival, working.Chosen
	}
	conf := p.Confidence
	if conf == 0 {
		conf = 0.95
	}
	kinds := []struct {
		path, label, kind string
		n                 int
	}{{"plants.main", "To order", m.Kind, c.placed.Stations - c.placed.Pollinizers}}
	if c.placed.Pollinizers > 0 {
		kinds = append(kinds, struct {
			path, label, kind string
			n                 int
		}{"plants.pollinizers", "Pollinizers to order", m.PollinizerKind, c.placed.Pollinizers})
	}
	for _, k := range kinds {
		o, err := supply.Plants(k.n, surv, conf, m.FlatReserve)
		if err != nil {
			return err
		}
		c.figure(Figure{Path: k.path, Step: "plants", Label: k.label, Quantity: units.Count, Value: float64(o.Plants), Origin: working.Computed, Note: fmt.Sprintf("%s; %.0f %% sure that every station fills", k.kind, conf*100)})
		c.figure(Figure{Path: k.path + ".flat", Step: "plants", Label: fmt.Sprintf("With a flat %.0f %%", m.FlatReserve*100), Quantity: units.Count, Value: float64(o.Flat), Origin: working.Computed, Note: "the trade's reserve, " + sure(o.FlatSure)})
		if c.tr.On(k.path) {
			c.step(k.path, "Plants to order", "smallest N with P(Binomial(N, survival) ≥ stations) ≥ confidence", fmt.Sprintf("stations %d, survival %g, confidence %g", k.n, surv, conf),
				float64(o.Plants), units.Count, "method LAY-9; binomial tail by the incomplete beta function (Abramowitz & Stegun, 1964, 26.5.24)",
				c.num("stations", float64(k.n), units.Count, working.Computed, "", "rows.stations"),
				c.num("survival", surv, units.Fraction, origin, practice.OriginWords(m.Origin), ""),
				c.num("confidence", conf, units.Fraction, map[bool]working.Origin{true: working.Assumed, false: working.Chosen}[p.Confidence == 0], "", ""))
			c.step(k.path, "The other school: a flat reserve", "stations × (1 + reserve)", fmt.Sprintf("%d × %.2f", k.n, 1+m.FlatReserve), float64(o.Flat), units.Count, "common practice; "+sure(o.FlatSure))
		}
		if c.tr.On(k.path + ".flat") {
			c.step(k.path+".flat", "Flat reserve", "stations × (1 + reserve)", fmt.Sprintf("%d × %.2f", k.n, 1+m.FlatReserve), float64(o.Flat), units.Count, "common practice; "+sure(o.FlatSure))
		}
	}
	return nil
}

func sure(p float64) string {
	switch {
	case p < 0.01:
		return "less than 1 % sure to fill every station"
	case p > 0.995:
		return "more than 99 % sure to fill every station"
	}
	return fmt.Sprintf("%.0f %% sure to fill every station", p*100)
}

func ordinal(n int) string {
	if n == 1 {
		return "single"
	}
	suffix := "th"
	switch {
	case n%10 == 2 && n%100 != 12:
		suffix = "nd"
	case n%10 == 3 && n%100 != 13:
		suffix = "rd"
	case n%10 == 1 && n%100 != 11:
		suffix = "st"
	}
	return strconv.Itoa(n) + suffix
}

// calendar fixes where age year 1 lies.
func (c *computation) calendar() {
	day := c.planting.Standing()
	c.first = c.seasons.FirstYear(day)
	c.cal = schedule.Calendar{Seasons: c.seasons, Planting: day, Life: c.life, Done: c.planting.Done}
}

// years builds yield, stand, canopy and feeding to the end of life.
func (c *computation) years() {
	density := c.p.Spec.StationsPerHa()
	series := yield.Series(c.curve, c.harvest, c.sheet.Stand, yield.Block{
		// Thinned layouts carry their thinning in the curve, whose reference is the dense stand.
		PlantsPerHa: func(int) float64 { return density }, Life: c.life})
	c.p.Nutrients = c.feed.Nutrients()
	area := c.p.Ground.AreaM2 / 1e4
	c.p.Years = make([]Year, 0, len(series))
	for _, y := range series {
		season := c.first + y.Age - 1
		stations := c.placed.Stations
		if c.p.OutAge > 0 && y.Age > c.p.OutAge {
			stations -= c.placed.Temporary
		}
		out := Year{Age: y.Age, Season: season, Label: c.seasons.Label(season), Start: c.seasons.Start(season),
			PerHa: y.KgPerHa, BlockKg: y.KgPerHa.Times(c.planted), Alive: y.Alive, Plants: int(math.Round(float64(stations) * y.Alive)),
			SpreadM: c.sheet.Canopy.SpreadM(float64(y.Age)), FeedPerHa: map[string]float64{}, FeedKg: map[string]float64{}, FeedG: map[string]float64{}, Harvests: []Harvest{}}
		out.HeightM = c.sheet.Canopy.HeightM * math.Min(1, out.SpreadM/math.Max(0.01, c.sheet.Canopy.SpreadM(float64(c.life))))
		out.PickedKg, out.Recorded = c.planting.Picked[strconv.Itoa(season)], false
		if _, ok := c.planting.Picked[strconv.Itoa(season)]; ok {
			out.Recorded = true
		}
		for _, k := range c.p.Nutrients {
			amount := c.feed.At(k, y.Age, y.KgPerHa.Base)
			d := c.feed.Dose(amount, nutrition.Stand{AliveN: float64(out.Plants), AreaHa: c.planted})
			out.FeedPerHa[k], out.FeedKg[k], out.FeedG[k] = d.KgPerHa, d.BlockKg, d.GPerPlant
			c.feedWorking(k, amount, d, y, out)
		}
		if y.KgPerHa.Base > 0 {
			for _, pick := range c.harvest.Picks {
				a, b := c.seasons.Span(pick.Season[0], pick.Season[len(pick.Season)-1], season)
				out.Harvests = append(out.Harvests, Harvest{Name: pick.Name, From: a, To: b, Rounds: pick.Rounds, BlockKg: out.BlockKg.Times(pick.Share)})
			}
		}
		c.yieldWorking(y, out, density, area)
		c.p.Years = append(c.p.Years, out)
	}
}

func (c *computation) yieldWorking(y yield.Year, out Year, density, areaHa float64) {
	path := "yield." + strconv.Itoa(out.Season)
	if c.tr.On(path) {
		formula := "full yield × fraction by age × density factor × stand factor"
		sub := fmt.Sprintf("%g × %.3f × %.3f × %.3f", c.curve.Full.Base, y.Fraction, y.Density, y.Stand)
		if c.harvest.Cycle != nil {
			formula += " × pruning cycle"
			sub += fmt.Sprintf(" × %.2f", y.Cycle)
		}
		if c.harvest.Rotation != nil {
			formula += " × years of growth taken"
			sub += fmt.Sprintf(" × %d", y.Growth)
		}
		c.step(path, fmt.Sprintf("Yield of age year %d, per planted hectare", y.Age), formula, sub, y.KgPerHa.Base, c.p.YieldAs,
			"methods Y6 to Y9; "+practice.OriginWords(c.curve.Origin)+": "+c.curve.Source,
			c.num("full yield", c.curve.Full.Base, c.p.YieldAs, working.Sheet, fmt.Sprintf("seen at %.0f plants/ha; low %s, high %s", c.curve.ReferencePerHa, c.text(c.curve.Full.Low, c.p.YieldAs), c.text(c.curve.Full.High, c.p.YieldAs)), ""),
			c.num("fraction of full", y.Fraction, units.Fraction, working.Sheet, practice.OriginWords(c.curve.Origin), ""),
			c.num("expected alive", y.Alive, units.Fraction, working.Sheet, practice.OriginWords(c.sheet.Stand.Origin), ""))
		c.step(path, "Density factor", "r / ((1 − k) + k·r), r = density / reference, k = crowding × fraction of full", fmt.Sprintf("r = %.0f / %.0f, k = %g × %.3f", density, c.curve.ReferencePerHa, c.curve.Crowding, y.Fraction),
			y.Density, units.Correction, "Shinozaki & Kira, J. Inst. Polytech. Osaka City Univ. D7, 1956; crowding is assumed", c.num("density by spacing", density, units.PerArea, working.Computed, "", "rows.density"))
		c.step(path, "For the block", "yield per planted hectare × planted area", fmt.Sprintf("%.0f × %.4f ha", y.KgPerHa.Base, c.planted), out.BlockKg.Base, c.p.MassAs, "edges and row ends carry no crop",
			c.num("planted area", c.planted*1e4, units.Area, working.Computed, "", "rows.planted"))
	}
}

func (c *computation) feedWorking(k string, amount float64, d nutrition.Dose, y yield.Year, out Year) {
	path := "feed." + k + "." + strconv.Itoa(out.Season)
	if !c.tr.On(path) {
		return
	}
	name := nutrition.Names[k]
	if c.feed.Basis == nutrition.PerPlant {
		c.step(path, name+" for the block", "g per plant at this age × living plants / 1000", fmt.Sprintf("%.1f × %d / 1000", amount, out.Plants), d.BlockKg, units.MassKg,
			"methods N3 school A, N7; "+practice.OriginWords(c.feed.Origin)+": "+c.feed.Source,
			c.num("dose at this age", amount, units.PlantDose, working.Sheet, practice.OriginWords(c.feed.Origin), ""), c.num("living plants expected", float64(out.Plants), units.Count, working.Computed, "", "rows.stations"))
	} else {
		c.step(path, name+" for the block", "kg per planted hectare at this age × planted area", fmt.Sprintf("%.1f × %.4f ha", amount, c.planted), d.BlockKg, units.MassKg,
			"methods N3, N7; "+practice.OriginWords(c.feed.Origin)+": "+c.feed.Source,
			c.num("rate at this age", amount, units.Rate, working.Sheet, practice.OriginWords(c.feed.Origin), ""), c.num("planted area", c.planted*1e4, units.Area, working.Computed, "", "rows.planted"))
	}
	sum, parts := 0.0, ""
	for _, s := range c.feed.Splits {
		if sh := s.Shares[k]; sh > 0 {
			sum += sh * d.BlockKg
			if parts != "" {
				parts += " + "
			}
			parts += fmt.Sprintf("%.1f (%s)", sh*d.BlockKg, s.Name)
		}
	}
	c.step(path, "Splits of the year", "Σ share × annual = annual", parts, sum, units.MassKg, "method N5: the shares sum to 1")
}

// lifeFigures are first crop, full crop, what comes in total, and when canopies meet.
func (c *computation) lifeFigures() {
	var first, full *Year
	var total yield.Range
	var ten float64
	for i := range c.p.Years {
		y := &c.p.Years[i]
		total = total.Plus(y.BlockKg)
		if y.Age <= 10 {
			ten += y.BlockKg.Base
		}
		if first == nil && y.PerHa.Base > 0 {
			first = y
		}
		if full == nil && c.fractionAt(y.Age) >= 1 {
			full = y
		}
	}
	when := func(path, label string, y *Year) {
		f := Figure{Path: path, Step: "yield", Label: label, Quantity: units.Year, Origin: working.Sheet, Text: "not in this life", Note: ""}
		if y != nil {
			f.Value, f.Text, f.Note = float64(y.Season), y.Label, fmt.Sprintf("age year %d", y.Age)
			if c.tr.On(path) {
				c.step(path, label, "season year of planting's first growing season + age year − 1", fmt.Sprintf("%s + %d − 1", c.seasons.Label(c.first), y.Age), float64(y.Season), units.Year,
					"method Y6; "+practice.OriginWords(c.curve.Origin)+". A season counts as first when at least half of the growing season is still to come at planting.",
					working.Input{Name: "planting", Shown: c.planting.Standing().Words(), Origin: working.Chosen})
			}
		}
		c.figure(f)
	}
	when("life.first", "First crop", first)
	when("life.full", "First full crop", full)
	if full != nil {
		c.figure(Figure{Path: "yield.full", Step: "yield", Label: "Full crop", Quantity: c.p.YieldAs, Value: full.PerHa.Base, Low: full.PerHa.Low, High: full.PerHa.High, Ranged: true, Origin: working.Computed, Note: "per planted hectare, in " + full.Label})
		c.figure(Figure{Path: "yield.block", Step: "yield", Label: "From the block", Quantity: c.p.MassAs, Value: full.BlockKg.Base, Low: full.BlockKg.Low, High: full.BlockKg.High, Ranged: true, Origin: working.Computed, Note: "in " + full.Label})
		for _, path := range []string{"yield.full", "yield.block"} {
			if c.tr.On(path) {
				v, q := full.PerHa.Base, c.p.YieldAs
				if path == "yield.block" {
					v, q = full.BlockKg.Base, c.p.MassAs
				}
				c.step(path, "Crop of "+full.Label, "the yield of the first season at the full fraction", "see the working of that season", v, q, "methods Y6 to Y9",
					working.Input{Name: "season " + full.Label, Shown: full.Label, Origin: working.Computed, Figure: "yield." + strconv.Itoa(full.Season)})
			}
		}
	}
	c.figure(Figure{Path: "yield.ten", Step: "yield", Label: "In ten years", Quantity: c.p.MassAs, Value: ten, Origin: working.Computed, Note: "from the block, age years 1 to 10"})
	c.figure(Figure{Path: "yield.total", Step: "yield", Label: "In its life", Quantity: c.p.MassAs, Value: total.Base, Low: total.Low, High: total.High, Ranged: true, Origin: working.Computed, Note: fmt.Sprintf("%d age years", c.life)})
	for _, path := range []string{"yield.ten", "yield.total"} {
		if c.tr.On(path) {
			n, v := c.life, total.Base
			if path == "yield.ten" {
				n, v = 10, ten
			}
			c.step(path, "Sum of the seasons", "Σ block yield of each age year", fmt.Sprintf("age years 1 to %d", min(n, c.life)), v, c.p.MassAs, "method Y9")
		}
	}
	age := c.sheet.Canopy.AgeAt(c.p.Spec.PlantSpacingM)
	f := Figure{Path: "canopy.touch", Step: "rows", Label: "Canopies meet in the row", Quantity: units.Year, Origin: working.Sheet, Text: "never", Note: "pruning holds them apart"}
	if !math.IsInf(age, 1) && age <= float64(c.life) {
		y := c.first + max(1, int(math.Ceil(age))) - 1
		f.Value, f.Text, f.Note = float64(y), c.seasons.Label(y), fmt.Sprintf("at age %.1f", math.Max(age, 0))
	}
	if c.tr.On("canopy.touch") {
		g := c.sheet.Canopy
		c.step("canopy.touch", "Age at which canopies meet in the row", "a = aₘ − ln(A/d − 1)/r, d = plant spacing", fmt.Sprintf("A = %g m, seen %g m at %g and %g m at %g, d = %g m", g.FinalM, g.Seen[0][1], g.Seen[0][0], g.Seen[1][1], g.Seen[1][0], c.p.Spec.PlantSpacingM),
			age, units.Plain, "methods Y1, Y2: logistic growth (Richards, J. Exp. Bot., 1959); "+practice.OriginWords(g.Origin),
			c.num("plant spacing", c.p.Spec.PlantSpacingM, units.Spacing, working.Chosen, "", ""))
	}
	c.figure(f)
}

func (c *computation) fractionAt(age int) float64 {
	if r := c.harvest.Rotation; r != nil {
		if age < r.First || (age-r.First)%r.Every != 0 {
			return 0
		}
		return r.Fractions[min((age-r.First)/r.Every, len(r.Fractions)-1)]
	}
	return c.curve.Fraction(float64(age))
}

// jobs dates the work: the sheet's operations, each split of the feeding and each harvest.
func (c *computation) jobs() {
	jobs := c.preparations(make([]Job, 0, 8*c.life))
	out := make([]Job, 0, len(jobs)+4*c.life)
	add := func(j Job) {
		j.Baseline = c.planting.Baseline[j.Key]
		j.Season = c.seasons.Label(c.seasons.YearOf(j.From))
		out = append(out, j)
		if i := j.Age - 1; i >= 0 && i < len(c.p.Years) {
			c.p.Years[i].Jobs++
		}
	}
	for _, j := range jobs {
		add(j)
	}
	for i := range c.p.Years {
		y := &c.p.Years[i]
		for k, s := range c.feed.Splits {
			detail := ""
			for _, n := range c.p.Nutrients {
				if kg := y.FeedKg[n] * s.Shares[n]; kg >= 0.5 {
					if detail != "" {
						detail += ", "
					}
					detail += nutrition.Names[n] + " " + c.text(kg, units.MassKg)
				}
			}
			if detail == "" {
				continue
			}
			a, b := c.seasons.Span(s.Season[0], s.Season[len(s.Season)-1], y.Season)
			key := schedule.Key("feed-"+strconv.Itoa(k+1), y.Age)
			add(Job{Key: key, Name: "Feed: " + s.Name, Phase: "feed", Age: y.Age, From: a, By: b, Detail: detail + " of nutrient for the block; " + c.feed.Placement,
				Why: "the year's amount in its splits", Rule: "in its season, every year the table gives an amount", Origin: practice.OriginWords(c.feed.Origin), Done: c.planting.Done[key]})
		}
		for k, h := range y.Harvests {
			key := schedule.Key("harvest-"+strconv.Itoa(k+1), y.Age)
			add(Job{Key: key, Name: "Harvest: " + h.Name, Phase: "harvest", Age: y.Age, From: h.From, By: h.To,
				Detail: fmt.Sprintf("about %s from the block; %s", c.text(h.BlockKg.Base, c.p.MassAs), h.Rounds), Why: "", Rule: "in its season, once the planting bears", Origin: practice.OriginWords(c.harvest.Origin), Done: c.planting.Done[key]})
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].From.Before(out[j].From) })
	c.p.Jobs = out
	for i := range out {
		path := "job." + out[i].Key
		if c.tr.On(path) {
			c.tr.Add(working.Step{Figure: path, Label: out[i].Name, Formula: out[i].Rule, Substituted: "planting " + c.planting.Standing().Words(),
				Shown: out[i].From.Words() + " to " + out[i].By.Words(), Source: "methods S1, S5; " + out[i].Origin,
				Inputs: []working.Input{{Name: "planting", Shown: c.planting.Standing().Words(), Origin: working.Chosen}}})
		}
	}
}

func at(ops []schedule.Operation) map[string]string {
	m := map[string]string{schedule.Planting: "planting"}
	for _, o := range ops {
		m[o.ID] = "“" + o.Name + "”"
	}
	return m
}

// rule says in words how an operation gets its date.
func rule(o *schedule.Operation, names map[string]string) string {
	switch {
	case o.Before != "":
		if o.Min == o.Better {
			return fmt.Sprintf("%s before %s", o.Min.Words(), names[o.Before])
		}
		return fmt.Sprintf("%s before %s, at least %s", o.Better.Words(), names[o.Before], o.Min.Words())
	case o.After != "":
		if o.Better.IsZero() {
			return "on the day of " + names[o.After]
		}
		return fmt.Sprintf("%s after %s", o.Better.Words(), names[o.After])
	}
	s := o.Season[0]
	if len(o.Season) == 2 {
		s += " to " + o.Season[1]
	}
	switch {
	case o.Ages.Every > 1:
		return fmt.Sprintf("in %s, every %d years from age year %d", s, o.Ages.Every, o.Ages.From)
	case o.Ages.To == o.Ages.From:
		return fmt.Sprintf("in %s of age year %d", s, o.Ages.From)
	case o.Ages.To > 0:
		return fmt.Sprintf("in %s of age years %d to %d", s, o.Ages.From, o.Ages.To)
	}
	return fmt.Sprintf("in %s, every year from age year %d", s, o.Ages.From)
}

// earliest is the first workable planting date and the chain that decides it.
func (c *computation) earliest() (free, inWindow civil.Date, chain []schedule.Link) {
	free, chain = schedule.Earliest(c.ops, c.cal, c.in.Today)
	return free, c.seasons.NextInWindow(free, c.sheet.Windows), chain
}
