package estate

import (
	"context"
	"slices"
	"sort"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/geo"
	"slowroot/core/plan"
	"slowroot/core/report"
	"slowroot/core/units"
)

// Overview is every block in short.
type Overview struct {
	Estate         document.Estate `json:"estate"`
	EstateRevision int             `json:"estateRevision"`
	Today          civil.Date      `json:"today"`
	YearToday      int             `json:"yearToday"`
	Blocks         []InShort       `json:"blocks"`
	FirstSteps     []FirstStep     `json:"firstSteps"` // of a young estate; empty once all are done
}

// FirstStep is one of the few things a new estate needs, ticked when it is done.
type FirstStep struct {
	Words string `json:"words"`
	Done  bool   `json:"done"`
	To    string `json:"to"` // page where it is done
}

// firstSteps are what a new estate still needs; none once it has everything.
func firstSteps(e document.Estate, docs []BlockDoc) []FirstStep {
	var crop, ground bool
	to := "/draw"
	for _, d := range docs {
		if d.Err != nil {
			continue
		}
		if to == "/draw" {
			to = "/blocks/" + d.ID
		}
		crop = crop || len(d.all) > 0
		ground = ground || len(d.Block.Pits)+len(d.Block.Tests) > 0
	}
	at := func(step string) string {
		if to == "/draw" {
			return to
		}
		return to + "/" + step
	}
	steps := []FirstStep{
		{"Say where the estate lies", e.At != nil || len(docs) > 0, "/settings"},
		{"Add a block: drawn, in numbers or from a file", len(docs) > 0, "/draw"},
		{"Choose a crop for it", crop, at("plants")},
		{"Enter the climate: twelve months, or a daily record", len(e.Climate) > 0 || e.Weather != nil, "/climate"},
		{"Say what the ground is: a pit or a soil test", ground, at("soil")},
	}
	for _, s := range steps {
		if !s.Done {
			return steps
		}
	}
	return []FirstStep{}
}

// InShort is what the map and the stacked ground lines need of a block.
type InShort struct {
	ID        string            `json:"id"`
	Revision  int               `json:"revision"`
	Number    int               `json:"number"`
	Name      string            `json:"name"`
	Stage     document.Stage    `json:"stage"`
	Sheet     string            `json:"sheet"`
	SheetName string            `json:"sheetName"`
	Product   string            `json:"product"`
	Headline  string            `json:"headline"`
	Plantings []PlantingShort   `json:"plantings"` // all of them, in order of time, each with a name
	YieldAs   units.Quantity    `json:"yieldAs"`
	MassAs    units.Quantity    `json:"massAs"`
	AreaM2    float64           `json:"areaM2"`
	Stations  int               `json:"stations"`
	Standing  civil.Date        `json:"standing"`
	Boundary  geo.Polygon       `json:"boundary"`
	Years     []YearInShort     `json:"years"`
	Findings  []finding.Finding `json:"findings"`
	Problem   string            `json:"problem,omitempty"` // why no plan can be computed
}

// YearInShort is one season of a block's ground line.
type YearInShort struct {
	Season   int     `json:"season"`
	Label    string  `json:"label"`
	Age      int     `json:"age"`
	Low      float64 `json:"low"` // kg per planted hectare
	Base     float64 `json:"base"`
	High     float64 `json:"high"`
	BlockKg  float64 `json:"blockKg"`
	PickedKg float64 `json:"pickedKg"`
	Recorded bool    `json:"recorded"`
	FeedKg   float64 `json:"feedKg"` // nitrogen for the block
	Jobs     int     `json:"jobs"`
}

// Overview computes every block's plan in short. A block whose plan cannot be computed says why and
// does not hide the others.
func (s *Service) Overview(ctx context.Context) (Overview, error) {
	e, err := s.Estate(ctx)
	if err != nil {
		return Overview{}, err
	}
	docs, err := s.blocks(ctx)
	if err != nil {
		return Overview{}, err
	}
	out := Overview{FirstSteps: firstSteps(e.Estate, docs), Estate: e.Estate, EstateRevision: e.Revision, Today: s.today(), Blocks: make([]InShort, 0,
		len(docs))}
	for _, d := range docs {
		b := InShort{ID: d.ID, Revision: d.Revision, Number: d.Block.Number, Name: d.Block.Name, Stage: document.Empty, Boundary: d.Block.Boundary,
			Years: []YearInShort{}, Findings: []finding.Finding{}, Plantings: []PlantingShort{}}
		p, err := (*plan.Plan)(nil), d.Err
		if err == nil {
			p, err = s.brief(ctx, e.Estate, d)
		}
		if ctx.Err() != nil {
			return Overview{}, ctx.Err()
		}
		if err != nil {
			b.Problem = plain(err)
			if b.Name == "" {
				b.Name = "a block that cannot be read"
			}
			if geo.Validate(b.Boundary) == nil {
				b.AreaM2 = geo.AreaM2(b.Boundary)
			}
			out.Blocks = append(out.Blocks, b)
			continue
		}
		out.YearToday = p.YearToday
		b.shorten(p, d.Block)
		b.Plantings = s.line(ctx, d)
		out.Blocks = append(out.Blocks, b)
	}
	if out.YearToday == 0 {
		out.YearToday = s.today().Year()
	}
	return out, nil
}

func (b *InShort) shorten(p *plan.Plan, block document.Block) {
	b.Stage, b.Sheet, b.SheetName, b.Product = p.Stage, p.Sheet, p.SheetName, p.Product
	b.YieldAs, b.MassAs, b.AreaM2, b.Findings = p.YieldAs, p.MassAs, p.Ground.AreaM2, p.Findings
	for _, r := range p.Rows {
		b.Stations += r.Stations
	}
	for _, y := range p.Years {
		b.Years = append(b.Years, YearInShort{y.Season, y.Label, y.Age, y.PerHa.Low, y.PerHa.Base, y.PerHa.High, y.BlockKg.Base, y.PickedKg, y.Recorded,
			y.FeedKg["n"], y.Jobs})
	}
	b.Headline = p.Words
	if block.Planting != nil {
		b.Standing = block.Planting.Standing()
	}
}

// line is the line of time of a block, each planting under its own name or its crop's.
func (s *Service) line(ctx context.Context, d BlockDoc) []PlantingShort {
	out := slices.Clone(d.Plantings)
	for i := range out {
		if out[i].Name == "" {
			out[i].Name = s.cropOf(ctx, document.Planting{Sheet: out[i].Sheet})
		}
	}
	return out
}

// EstateJob is a job and the block it is on.
type EstateJob struct {
	Block     string     `json:"block"`
	BlockName string     `json:"blockName"`
	Planting  string     `json:"planting"`
	Number    int        `json:"number"`
	Job       report.Job `json:"job"`
}

// Jobs are the jobs of all blocks whose dates touch the days from…to, in date order, and with them
// every preparation whose day has passed.
func (s *Service) Jobs(ctx context.Context, from, to civil.Date) ([]EstateJob, error) {
	if from.IsZero() || to.IsZero() || to.Before(from) || to.Sub(from) > 3700 {
		return nil, finding.Bad("from", from.String()+" to "+to.String(), "is not a span of days", "two days written YYYY-MM-DD, at most ten years apart")
	}
	e, err := s.Estate(ctx)
	if err != nil {
		return nil, err
	}
	docs, err := s.blocks(ctx)
	if err != nil {
		return nil, err
	}
	out := []EstateJob{}
	for _, d := range docs {
		if d.Err != nil {
			continue // the overview says why
		}
		p, err := s.brief(ctx, e.Estate, d)
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if err != nil {
			continue // the overview says why
		}
		for _, j := range p.Jobs {
			if j.Passed || j.Late || !j.By.Before(from) && !j.From.After(to) {
				out = append(out, EstateJob{d.ID, d.Block.Name, p.Planting, d.Block.Number, j})
			}
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Job.From.Before(out[j].Job.From) })
	return out, nil
}
