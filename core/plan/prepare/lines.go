package prepare

import (
	"cmp"
	"fmt"
	"math"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/order"
	"slowroot/core/practice"
	"slowroot/core/report"
	"slowroot/core/terrain"
	"slowroot/core/units"
	"slowroot/core/working"
)

// Preparation is the work on the ground before planting, in order, with its hours.
type Preparation struct {
	Lines     []PrepLine       `json:"lines"`
	HandH     float64          `json:"handH"`
	MachineH  float64          `json:"machineH"`
	LowH      float64          `json:"lowH"`
	HighH     float64          `json:"highH"`
	CostText  string           `json:"costText"`
	BareDays  int              `json:"bareDays"` // longest spell the soil lies bare
	BareFrom  civil.Date       `json:"bareFrom"`
	BareTo    civil.Date       `json:"bareTo"`
	Sorting   []SortLine       `json:"sorting"`
	Stumps    string           `json:"stumps"`
	Terrace   *terrain.Terrace `json:"terrace,omitempty"`
	TerraceM3 float64          `json:"terraceM3"`
	Months    []string         `json:"fumigationMonths"` // months warm enough, where fumigation is the way taken
	Unknown   int              `json:"unknown"`          // pieces of work whose hours are not known
}

// PrepLine is one piece of preparation.
type PrepLine struct {
	Key      string     `json:"key"`
	Name     string     `json:"name"`
	Kind     string     `json:"kind"`
	By       string     `json:"by"` // hand or machine
	Passes   int        `json:"passes"`
	DepthCm  [2]float64 `json:"depthCm"`
	AreaHa   float64    `json:"areaHa"`
	LowH     float64    `json:"lowH"`
	BaseH    float64    `json:"baseH"`
	HighH    float64    `json:"highH"`
	From     civil.Date `json:"from"`
	Until    civil.Date `json:"until"`
	Detail   string     `json:"detail"`
	Why      string     `json:"why"`
	Caution  string     `json:"caution"`
	Done     civil.Date `json:"done"`
	Passed   bool       `json:"passed"`
	Bares    bool       `json:"bares"`
	Covers   bool       `json:"covers"`
	Moved    string     `json:"moved"` // what it was moved behind
	Unsorted string     `json:"unsorted"`
	// Unknown says why the hours are not known; NotNeeded why the work is not done here: by a person, or by the heights.
	Unknown   string `json:"unknown"`
	NotNeeded string `json:"notNeeded"`
	Said      bool   `json:"said"` // a person said that it is not needed

	formula, sum string // of the hours
}

// SortLine is a class of what is cleared, how much of it and where it goes.
type SortLine struct {
	document.Sorted
	M3 float64 `json:"m3"`
}

// groundJobs are the jobs of the way taken instead of a cover crop.
func (c *prepare) groundJobs() []report.Job {
	d := c.When.Planting
	job := func(key, name, detail, why, caution string, from, by civil.Date, rule string) report.Job {
		return c.When.Preparation(report.Job{Said: report.Said{Name: name, Phase: "soil", Why: why, Caution: caution, Rule: rule,
			Origin: "common practice, no source"},
			Key: key, From: from, By: by, Detail: detail})
	}
	switch {
	case c.Gas != nil:
		return c.Gas.jobs(c, job)
	case document.CoverTaken(c.Decided) == "rotation":
		return []report.Job{job("ground-rotation", "Begin a long rotation of grass or cereal",
			"two years or more of crops that carry none of this crop's diseases; no volunteers", "breaks diseases and feeds the soil", "", d.AddMonths(-30),
			d.AddMonths(-24), "30 months before planting, at least 24")}
	}
	return nil
}

// enforce moves a job behind those its kind must follow. moved says behind what; unsorted what stands in
// the way where its last day comes too early. What is done or not needed holds nothing up.
func Enforce(jobs []report.Job) (moved, unsorted map[string]string) {
	moved, unsorted = map[string]string{}, map[string]string{}
	for range 4 { // chains are short
		for i := range jobs {
			rate, ok := practice.Tasks[jobs[i].Kind]
			if !ok || !jobs[i].Done.IsZero() {
				continue
			}
			for k := range jobs {
				if k == i || !jobs[k].From.After(jobs[i].From) || !jobs[k].Done.IsZero() || jobs[k].NotNeeded != "" {
					continue
				}
				for _, kind := range rate.After {
					if jobs[k].Kind != kind {
						continue
					}
					if jobs[k].From.After(jobs[i].By) {
						unsorted[jobs[i].Key] = jobs[k].Name
					} else {
						jobs[i].From = jobs[k].From
						moved[jobs[i].Key] = jobs[k].Name
					}
				}
			}
		}
	}
	return moved, unsorted
}

// inOrder sorts jobs by day, and those of one day as they follow one another: by the kind of their work, else as they
// stand.
func InOrder(jobs []report.Job) {
	order.Stable(jobs, func(a, b *report.Job) int {
		if d := a.From.Compare(b.From); d != 0 {
			return d
		}
		return cmp.Compare(practice.Rank(a.Kind, a.Phase), practice.Rank(b.Kind, b.Phase))
	})
}

// prepare turns the preparation jobs into lines with hours.
func (c *prepare) lines(jobs []report.Job, moved, unsorted map[string]string) {
	p := Preparation{Lines: []PrepLine{}, Sorting: []SortLine{}, Months: []string{}}
	ha := c.Ground.AreaM2 / 1e4
	tasks := map[string]practice.Task{}
	for _, o := range c.Sheet.Work {
		if o.Task != nil {
			tasks[o.ID] = *o.Task
		}
	}
	ripCm := 0.0
	for _, v := range c.Soil.Pits {
		if v.Rip != nil {
			ripCm = math.Max(ripCm, v.Rip.DepthCm)
		}
	}
	for _, j := range jobs {
		if !j.Preparation {
			continue
		}
		kind := j.Kind
		l := PrepLine{Key: j.Key, Name: j.Name, Kind: kind, Passes: 1, AreaHa: ha, From: j.From, Until: j.By, Detail: j.Detail, Why: j.Why, Caution: j.Caution,
			Done: j.Done, Passed: j.Passed, Moved: moved[j.Key], Unsorted: unsorted[j.Key],
			NotNeeded: j.NotNeeded, Said: j.NotNeeded != ""}
		if l.NotNeeded == "" {
			l.NotNeeded = c.needless(kind)
		}
		t := tasks[j.Key]
		if t.Kind != "" {
			l.Passes, l.DepthCm = max(1, t.Passes), t.DepthCm
			if kind == "rip" && ripCm > l.DepthCm[1] {
				l.DepthCm = [2]float64{ripCm, ripCm}
				l.Detail = fmt.Sprintf("to %s, below the pan of the pits. %s", c.Text(ripCm, units.Depth), report.Capital(l.Detail))
			}
		}
		c.hours(&l, t, j.Tonnes)
		p.LowH, p.HighH = p.LowH+l.LowH, p.HighH+l.HighH
		if l.By == "hand" {
			p.HandH += l.BaseH
		} else {
			p.MachineH += l.BaseH
		}
		if l.Unknown != "" {
			p.Unknown++
		}
		p.Lines = append(p.Lines, l)
	}
	c.bare(&p)
	c.prepareGrowth(&p)
	if l := c.Land; l != nil && l.Lie.SlopePct >= 15 && l.Lie.SlopePct <= 30 {
		if t, err := terrain.NewTerrace(l.Lie.SlopePct, c.Works.Bench(), 0.75); err == nil {
			p.Terrace, p.TerraceM3 = &t, t.CutM3PerHa*ha
		}
	}
	if c.Gas != nil {
		p.Months = c.Gas.months()
	}
	hand, okH := c.PriceOf("hand")
	machine, okM := c.PriceOf("machine")
	p.CostText = "no price"
	if (okH || p.HandH == 0) && (okM || p.MachineH == 0) && len(p.Lines) > 0 {
		p.CostText = c.Money(hand*p.HandH + machine*p.MachineH)
	}
	*c.prep = p
	c.hoursFigure(p)
}

// hoursFigure is the work before planting, with its working.
func (c *prepare) hoursFigure(p Preparation) {
	note := fmt.Sprintf("%.0f by hand, %.0f by machine; rates from memory, replace them by your own counts", p.HandH, p.MachineH)
	if p.Unknown > 0 {
		note += fmt.Sprintf("; without %s whose hours are unknown", report.Count(p.Unknown, "piece")+" of work")
	}
	c.Figure(report.Figure{Path: "prepare.hours", Step: "prepare", Label: "Work before planting", Quantity: units.Hours, Value: p.HandH + p.MachineH, Low: p.LowH,
		High: p.HighH, Ranged: true, Origin: working.Assumed, Note: note})
	if !c.On("prepare.hours") {
		return
	}
	c.Step("prepare.hours", "Together", "hand + machine", fmt.Sprintf("%.3f + %.3f", p.HandH, p.MachineH), p.HandH+p.MachineH, units.Hours, "")
	for _, l := range p.Lines {
		if l.BaseH > 0 {
			r := practice.Tasks[l.Kind]
			c.Step("prepare.hours", l.Name, l.formula, l.sum, l.BaseH, units.Hours, fmt.Sprintf("rates from memory, low to high %g to %g", r.Low, r.High))
		}
	}
}

// bare finds the longest spell between a piece of work that bares the soil and the next that covers it,
// or planting.
func (c *prepare) bare(p *Preparation) {
	var since civil.Date
	end := func(d civil.Date) {
		if !since.IsZero() && d.Sub(since) > p.BareDays {
			p.BareDays, p.BareFrom, p.BareTo = d.Sub(since), since, d
		}
	}
	for _, l := range p.Lines {
		switch {
		case l.NotNeeded != "":
		case l.Covers:
			end(l.From)
			since = civil.Date{}
		case l.Bares && since.IsZero():
			since = l.From
		}
	}
	end(c.When.Planting)
}

func (c *prepare) prepareGrowth(p *Preparation) {
	for _, s := range document.Sorting(c.Units) {
		if v := c.Growth[s.Class]; v > 0 {
			p.Sorting = append(p.Sorting, SortLine{s, v})
		}
	}
	g := c.Growth
	switch {
	case g["logs"]+g["thick"] > 0 && c.Sheet != nil && len(c.Sheet.Layouts) > 0 && c.Sheet.Layouts[0].RowM >= 3:
		p.Stumps = "Take stumps and main roots out: root rot lives on them, and machines run here for decades. Small stumps come out of the row line first."
	case g["logs"]+g["thick"] > 0:
		p.Stumps = "Cut low at ground level. Grub the small stumps out of the line the tool runs in, mark the large ones and go round them; of what sprouts in " +
			"the row line keep one or two, take away those between rows."
	}
}
