package drains

import (
	"fmt"
	"math"

	"slowroot/core/document"
	"slowroot/core/drainage"
	"slowroot/core/earthwork"
	"slowroot/core/finding"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/units"
	"slowroot/core/working"
)

// BedPlan is raised beds on a block: their shape once settled, the soil, what covers them and the root room
// they give. Lengths are m, volumes m³.
type BedPlan struct {
	Bed       earthwork.Bed `json:"bed"`
	FreshM    float64       `json:"freshM"` // height as shaped, before it settles
	SettlePct float64       `json:"settlePct"`
	Metres    float64       `json:"metres"`
	Estimated bool          `json:"estimated"` // no rows are laid out: the area over the distance of the beds
	Pieces    int           `json:"pieces"`
	SoilM3    float64       `json:"soilM3"`   // above the furrow floor
	MovedM3   float64       `json:"movedM3"`  // of that, dug from the furrows
	Passes    int           `json:"passes"`   // of the machine
	FurrowM   float64       `json:"furrowM"`  // the furrow floor below the old surface
	AboveM    float64       `json:"aboveM"`   // the bed above it
	RiseM     float64       `json:"riseM"`    // root room gained
	NowKnown  bool          `json:"nowKnown"` // a pit says how much root room there is
	NowCm     float64       `json:"nowCm"`
	ThenCm    float64       `json:"thenCm"`
	TopsoilCm float64       `json:"topsoilCm"`
	FallPct   float64       `json:"fallPct"` // of the furrows along the rows; meaningful with FallKnown
	FallKnown bool          `json:"fallKnown"`
	LongestM  float64       `json:"longestM"`
	TakesMM   float64       `json:"takesMm"` // mm/day the furrows draw from the beds
	CoverNeed float64       `json:"coverNeedM"`
	CoverBuy  float64       `json:"coverBuyM"` // width
	CoverM    float64       `json:"coverM"`    // length
	Rolls     int           `json:"rolls"`
	DripM     float64       `json:"dripM"`
	Life      string        `json:"life"`
	MachineH  float64       `json:"machineH"`
	Refused   string        `json:"refused"`
	cover     string        // film or fabric over it; "" for none
	Outline   [][2]float64  `json:"outline"` // one bed with half a furrow on each side: m from its centre, m above the old surface
}

// rollM is how much film or fabric is on a roll, edgeM how much is buried on each side, lifeOf how long it
// lasts (common practice).
var (
	rollM  = map[string]float64{"film": 1200, "fabric": 100}
	edgeM  = map[string]float64{"film": 0.18, "fabric": 0.12}
	lifeOf = map[string]string{"film": "one crop, 1 to 2 years", "fabric": "8 to 10 years"}
)

// bed shapes the beds of a block: what was chosen, else what fits the rows.
func (c *design) bed(d *Plan) *BedPlan {
	w := document.BedChoice{}
	if choice := c.Choice; choice.Bed != nil {
		w = *choice.Bed
	}
	or := func(v, usual float64) float64 {
		if v > 0 {
			return v
		}
		return usual
	}
	own := practice.Bed{}
	if c.Sheet != nil && c.Sheet.Bed != nil && (c.Rows.SpacingM == 0 || math.Abs(c.Rows.SpacingM-c.Sheet.Bed.CentreM) < 0.3) {
		own = *c.Sheet.Bed
	}
	centre := or(w.CentreM, or(c.RowSpacingM, 4))
	base := or(w.BaseM, or(math.Min(own.BaseM, 0.95*centre), math.Round(math.Min(1.6, 0.75*centre)*20)/20))
	bed := earthwork.Bed{CentreM: centre, BaseM: base, TopM: or(w.TopM, or(math.Min(own.TopM, base), math.Round(0.55*base*20)/20)), HeightM: or(w.HeightM,
		or(own.HeightM, math.Round(math.Min(0.5, 0.3*base)*20)/20)), CrownM: or(w.CrownM, own.CrownM)}
	if w.Cover == "" && c.Choice.Bed == nil {
		w.Cover = own.Cover
	}
	b := &BedPlan{Bed: bed, SettlePct: or(w.SettlePct, 15), Outline: [][2]float64{}}
	if err := bed.Valid(); err != nil {
		fe, _ := err.(*finding.FieldError)
		b.Refused = fmt.Sprintf("%s %v: %s; %s", fe.Field, fe.Value, fe.Rule, fe.Accepted)
		return b
	}
	b.FreshM = bed.HeightM / (1 - b.SettlePct/100)
	b.Metres, b.Pieces = c.Rows.Metres, len(c.Rows.Pieces)
	for _, p := range c.Rows.Pieces {
		b.LongestM = math.Max(b.LongestM, p.LengthM)
	}
	if b.Metres == 0 || w.CentreM > 0 && math.Abs(w.CentreM-c.RowSpacingM) > 0.01 {
		side := math.Sqrt(c.Ground.AreaM2)
		b.Metres, b.Estimated, b.Pieces, b.LongestM = c.Ground.AreaM2/centre, true, int(math.Ceil(side/centre)), side
	}
	b.SoilM3 = bed.AreaM2() * b.Metres
	b.FurrowM, b.AboveM, _, _ = bed.Furrow(1)
	b.RiseM = bed.Rise(1)
	b.Outline = outline(bed, b.FurrowM)
	if i, ok := c.governing(); ok {
		b.TopsoilCm = c.Soil.Pits[i].Layers[0].BottomCm
		b.NowCm, b.NowKnown = c.Soil.DepthCm, true
		if d.WetFrom != "" {
			b.NowCm = math.Min(b.NowCm, 100*d.WetM)
		}
		b.ThenCm = b.NowCm + 100*b.RiseM
	}
	if l := c.Land; l != nil && !b.Estimated {
		along := c.Rows.BearingDeg
		b.FallPct, b.FallKnown = math.Abs(l.Lie.SlopePct*math.Cos((l.Lie.FallsTo-along)*math.Pi/180)), true
	}
	if s := d.Soil; s != nil && s.Above > 0 {
		floor := math.Max(0.1, centre-base)
		thick := 0.5 // below the furrow floor, where no layer is known
		if s.LayerM > 0 {
			thick = math.Max(0, s.LayerM-b.FurrowM)
		}
		f := drainage.Field{Ka: s.Above, Kb: s.Below, Thick: thick, U: floor + 0.2*math.Sqrt2, H: bed.HeightM / 2, Q: 1}
		b.TakesMM = 1000 * f.Discharge(centre)
	}
	if w.Cover != "" {
		b.cover = w.Cover
		b.CoverNeed, b.CoverBuy = bed.FilmM(edgeM[w.Cover])
		b.Rolls = int(math.Ceil((b.Metres + 1.5*float64(b.Pieces)) / rollM[w.Cover]))
		b.CoverM = b.Metres + 1.5*float64(b.Pieces) + 0.3*float64(b.Rolls-1)
		b.Life = lifeOf[w.Cover]
	}
	b.DripM = 1.02 * b.Metres * float64(w.DripLines)
	b.MovedM3, b.Passes, b.MachineH = bed.Shaping(b.Metres)
	return b
}

// outline is the surface across one bed, from the middle of a furrow to the middle of the next.
func outline(b earthwork.Bed, furrow float64) [][2]float64 {
	top := b.HeightM - furrow
	h := b.CentreM / 2
	out := [][2]float64{{-h, -furrow}, {-b.BaseM / 2, -furrow}, {-b.TopM / 2, top}}
	if b.CrownM > 0 {
		out = append(out, [2]float64{0, top + b.CrownM})
	}
	return append(out, [2]float64{b.TopM / 2, top}, [2]float64{b.BaseM / 2, -furrow}, [2]float64{h, -furrow})
}

func (c *design) bedFigures(b *BedPlan) {
	from, note := working.Computed, "of the rows as laid out"
	if b.Estimated {
		from, note = working.Assumed, "area over the distance of the beds; no rows are laid out for them"
	}
	c.Figure(report.Figure{Path: "drain.bed", Step: "drains", Label: "Beds", Quantity: units.Distance, Value: b.Metres, Origin: from, Note: note})
	c.Figure(report.Figure{Path: "drain.bed-soil", Step: "drains", Label: "Soil in the beds", Quantity: units.Earth, Value: b.SoilM3, Origin: working.Computed,
		Note: "above the furrow floor; " + c.Text(b.MovedM3, units.Earth) + " of it are dug from the furrows, the rest is ground that stays"})
	c.Figure(report.Figure{Path: "drain.rise", Step: "drains", Label: "Root room gained", Quantity: units.Depth, Value: 100 * b.RiseM, Origin: working.Computed,
		Note: "mean height above the old surface, settled"})
	bed := b.Bed
	if c.On("drain.bed") {
		formula, sub := "row length", fmt.Sprintf("%d pieces of row", b.Pieces)
		if b.Estimated {
			formula, sub = "area / distance of the beds", fmt.Sprintf("%.0f / %.2f", c.Ground.AreaM2, bed.CentreM)
		}
		c.Step("drain.bed", "Metres of bed", formula, sub, b.Metres, units.Distance, "method BED-1")
	}
	if c.On("drain.bed-soil") {
		c.Step("drain.bed-soil", "Soil in the beds", "section · metres, section = H·(B + T)/2 + T·k/2", fmt.Sprintf("(%.2f·(%.2f + %.2f)/2 + %.2f·%.2f/2) · %.0f",
			bed.HeightM, bed.BaseM, bed.TopM, bed.TopM, bed.CrownM, b.Metres), b.SoilM3, units.Earth, "method BED-1, geometry",
			c.Num("metres of bed", b.Metres, units.Distance, working.Computed, "", "drain.bed"))
	}
	if c.On("drain.rise") {
		c.Tell(working.Search, "drain.rise", "Root room gained", "fill above the old surface / base width, with the furrow so deep that cut = fill",
			fmt.Sprintf("furrow %.3f m below, bed %.3f m above the old surface", b.FurrowM, b.AboveM), 100*b.RiseM, units.Depth, "methods BED-1, DRN-12",
			c.Num("base", bed.BaseM, units.Spacing, working.Chosen, "", ""))
	}
}

// judgeBeds says what is wrong with the beds.
func (c *design) judgeBeds(b *BedPlan) {
	note := func(rule string, w finding.Weight, sentence, source string, remedies ...finding.Remedy) {
		c.Note(finding.Finding{Rule: "bed." + rule, Weight: w, Step: "drains", Subject: "Beds", Sentence: sentence, Source: source, Remedies: remedies})
	}
	if b.Refused != "" {
		note("shape", finding.Stops, "The beds cannot be shaped: "+b.Refused+".", "method BED-1", finding.Remedy{Label: "Take what fits the rows",
			Patch: map[string]any{"drains": map[string]any{"bed": nil}}})
		return
	}
	if short := b.Bed.Short(1); short > 0 {
		note("short", finding.Mend, fmt.Sprintf("The furrows beside these beds cannot give their soil however deep they go: %s would have to be brought. Wider "+
			"furrows, or lower and flatter beds.", c.Text(short*b.Metres, units.Earth)), "method BED-1, geometry",
			finding.Remedy{Label: "Take what fits the rows", Patch: map[string]any{"drains": map[string]any{"bed": nil}}})
	}
	if b.TopsoilCm > 0 && 100*b.FurrowM+5 > b.TopsoilCm {
		note("subsoil", finding.Mend, fmt.Sprintf("The furrows go %s down and the topsoil is %s deep: they would turn up subsoil. Lower or narrower beds, or "+
			"soil from elsewhere.", c.Text(100*b.FurrowM, units.Depth), c.Text(b.TopsoilCm, units.Depth)), "method BED-1, common practice",
			finding.Remedy{Label: "Lower beds", Patch: map[string]any{"drains": map[string]any{"bed": map[string]any{"heightM": math.Round(math.Max(0.1,
				b.Bed.HeightM*(b.TopsoilCm-5)/(100*b.FurrowM))*20-0.5) / 20}}}})
	}
	if b.FallKnown && (b.FallPct < 0.1 || b.FallPct > 3) {
		w, s := finding.Mend, "water stands in them; 0.1 to 0.5 % is wanted on clay"
		if b.FallPct > 3 {
			w, s = finding.Watch, "bare furrows wash out; grass them, or turn the rows"
		}
		note("fall", w, fmt.Sprintf("The furrows fall %.2f %% along the rows: %s.", b.FallPct, s), "method DRN-12, common practice")
	}
	if b.LongestM > 150 {
		note("long", finding.Watch, fmt.Sprintf("The longest furrow runs %s; on clay %s to %s is the most before it should reach an outlet.",
			c.Text(b.LongestM, units.Distance), c.Text(100, units.Distance), c.Text(150, units.Distance)), "method DRN-12, common practice")
	}
	note("settle", finding.Know, fmt.Sprintf("Shape the beds %s high: they lose about %.0f %% in the first season and stand %s then.",
		c.Text(b.FreshM, units.Spacing), b.SettlePct, c.Text(b.Bed.HeightM, units.Spacing)), "method BED-1, common practice")
}
