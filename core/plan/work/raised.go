package work

import (
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/record"
	"slowroot/core/report"
	"slowroot/core/schedule"
	"slowroot/core/supply"
	"slowroot/core/units"
	"slowroot/core/yield"
)

// raiseKey marks the stages of a nursery among the jobs.
const raiseKey = "raise-"

// RaisedStage is a stage of the nursery as it is dated.
type RaisedStage struct {
	ID string `json:"id"`
	supply.Raised
}

// Dormant is when wood is cut for planting: after the leaves are off and before the buds move (common practice); nil for ways
// that begin with no such wood, and where a place has no winters.
func Dormant(r *document.Raising, seasons schedule.Seasons) *schedule.Within {
	if r == nil || r.Way != "dormant" || seasons.Rains() > 0 {
		return nil
	}
	return &schedule.Within{Season: []string{"late-autumn", "late-winter"}, Says: "the wood is dormant", Hard: true, Origin: "cp"}
}

// FirstStage is the key of the job that begins the raising; "" where nothing is raised.
func FirstStage(r *document.Raising) string {
	if r == nil || len(r.Stages) == 0 {
		return ""
	}
	return raiseKey + r.Stages[0].ID
}

// Raise dates the stages in which the plants are raised, back from planting, and gives each its job; dormant wood is cut in its
// time of the year, and kept so much longer.
func Raise(r *document.Raising, planting civil.Date, plants int, when report.Timetable, seasons schedule.Seasons,
	say *report.Voice) ([]RaisedStage, []report.Job, error) {
	out := []RaisedStage{}
	if r == nil || plants < 1 {
		return out, nil, nil
	}
	stages := make([]supply.Stage, len(r.Stages))
	for i, s := range r.Stages {
		stages[i] = supply.Stage{Name: s.Name, Least: s.Least, Most: s.Most, Loss: s.LossPct / 100, Places: s.Places, Litres: s.Litres}
	}
	raised, err := supply.Raise(planting, plants, stages)
	if err != nil {
		return out, nil, finding.Bad("planting.raising", len(stages), err.Error(), "stages as they are done")
	}
	var jobs []report.Job
	after, days := "", 0
	for i, s := range raised {
		id, rule := r.Stages[i].ID, fmt.Sprintf("%d days before planting, the longest times of this stage and of those after it", planting.Sub(s.Safe))
		if w := Dormant(r, seasons); i == 0 && w != nil {
			_, s.Safe = w.Last(seasons, s.Safe)
			s.Hopeful = civil.Later(s.Hopeful, s.Safe)
			if _, last := w.Last(seasons, s.Hopeful); last.Before(s.Hopeful) {
				s.Hopeful = s.Safe
			}
			rule += ", " + w.Words()
		}
		out = append(out, RaisedStage{id, s})
		jobs = append(jobs, when.Preparation(report.Job{Said: report.Said{Name: "Nursery: " + s.Name, Phase: "order", Why: "the plants are raised here",
			Rule: rule, Origin: "said for this planting"},
			Key: raiseKey + id, From: s.Safe, By: s.Safe, After: after, AfterDays: days,
			Detail: fmt.Sprintf("%s begun, %s left at its end; by %s if all goes at its quickest", say.Text(float64(s.Begun), units.Count),
				say.Text(float64(s.Left), units.Count), s.Hopeful.Words())}))
		after, days = raiseKey+id, s.Most
	}
	return out, jobs, nil
}

// RaisingTakes is what raising the plants takes beside their work: mother plants, trays or pots, substrate, each by the day its stage begins.
func RaisingTakes(r *document.Raising, raised []RaisedStage, say *report.Voice) []Supply {
	var out []Supply
	if r == nil {
		return nil
	}
	add := func(s RaisedStage, what string, amount float64, q units.Quantity, how string) {
		if amount > 0 {
			out = append(out, Supply{What: what, For: "Nursery: " + s.Name, Key: raiseKey + s.ID, By: s.Safe, Amount: yield.Range{Low: amount, Base: amount,
				High: amount},
				Quantity: q, How: how, Origin: "said for this planting"})
		}
	}
	for i, s := range raised {
		begun := say.Text(float64(s.Begun), units.Count)
		if i == 0 {
			add(s, "mother plants", float64(supply.Mothers(s.Begun, r.PerMother)), units.Count, fmt.Sprintf("%s pieces / %g from each", begun, r.PerMother))
		}
		name := "pots"
		if s.Places > 1 {
			name = fmt.Sprintf("trays of %d", s.Places)
		}
		add(s, name, float64(s.Trays(s.Begun)), units.Count, fmt.Sprintf("%s pieces, %d to each", begun, s.Places))
		add(s, "substrate, as it is filled in", s.SubstrateM3(s.Begun), units.Earth, say.Marked(fmt.Sprintf("%s places × {%g L}",
			say.Text(float64(s.Trays(s.Begun)*s.Places), units.Count), s.Litres)))
	}
	return out
}

// JudgeRaising says that an order is not needed where the plants are raised, while the sheet asks for one.
func JudgeRaising(r *document.Raising, jobs []report.Job, today civil.Date, say *report.Voice) {
	if r == nil {
		return
	}
	for _, j := range jobs {
		if schedule.OperationOf(j.Key) == "order" && j.Done.IsZero() && j.NotNeeded == "" {
			say.Note(finding.Finding{Rule: "raising.order", Weight: finding.Know, Step: "plants", Subject: j.Name, Source: "the stages said for this planting",
				Sentence: fmt.Sprintf("The plants are raised here, and “%s” is still asked for by %s.", j.Name, j.By.Words()),
				Remedies: []finding.Remedy{{Label: "It is not needed", Patch: map[string]any{},
					Record: map[string]any{"kind": record.NotNeeded, "operation": j.Key, "day": today.String(), "note": "the plants are raised here"}}}})
		}
	}
}
