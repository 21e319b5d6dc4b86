package plan

import (
	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/finding"
	"slowroot/core/layout"
	"slowroot/core/plan/bill"
	"slowroot/core/plan/crop"
	"slowroot/core/plan/drains"
	"slowroot/core/plan/ground"
	"slowroot/core/plan/growth"
	"slowroot/core/plan/network"
	"slowroot/core/plan/prepare"
	"slowroot/core/plan/ready"
	"slowroot/core/plan/rows"
	"slowroot/core/plan/soils"
	"slowroot/core/plan/stand"
	"slowroot/core/plan/work"
	"slowroot/core/report"
	"slowroot/core/units"
)

// Plan is everything that follows from the input.
type Plan struct {
	Block       string             `json:"block"`
	Planting    string             `json:"planting"` // id of the planting it is the plan of, "" with none
	Name        string             `json:"name"`
	Words       string             `json:"words"`  // how far the block has come, in the same words on every screen and in print
	Cannot      string             `json:"cannot"` // what cannot be planned yet, and why; "" when everything can
	Today       civil.Date         `json:"today"`
	Stage       document.Stage     `json:"stage"`
	Sheet       string             `json:"sheet"`
	SheetName   string             `json:"sheetName"`
	Product     string             `json:"product"`
	YieldAs     units.Quantity     `json:"yieldAs"` // how yields per area are shown
	MassAs      units.Quantity     `json:"massAs"`
	Ground      ground.Result      `json:"ground"`
	Spec        layout.Spec        `json:"spec"`
	Choices     map[string]string  `json:"choices"` // every fork, defaults included
	Figures     []report.Figure    `json:"figures"`
	Rows        []layout.Piece     `json:"rows"`
	Beside      []rows.Beside      `json:"beside"` // the companions, in the order they were said
	Bill        []bill.Line        `json:"bill"`
	OrderBeside []stand.BesideLine `json:"orderBeside"` // plants of the companions
	Strips      []rows.Share       `json:"strips"`      // of the ground, where rows follow strips; they sum to one
	Clones      []rows.Clone       `json:"clones"`      // kept apart in blocks between aisles
	Obstacles   []rows.Obstacle    `json:"obstacles"`   // as they lie on the block's plane
	OutAge      int                `json:"outAge"`      // age year temporary plants come out; 0 when there are none
	LaterAge    int                `json:"laterAge"`    // and the second time
	Years       []crop.Year        `json:"years"`
	Supplies    []work.Supply      `json:"supplies"` // what work to the end of the first year takes
	Jobs        report.Jobs        `json:"jobs"`
	Nutrients   []string           `json:"nutrients"`
	Steps       []Step             `json:"steps"`
	Findings    []finding.Finding  `json:"findings"`
	YearToday   int                `json:"yearToday"` // season year of today

	Crop        string              `json:"crop"`     // sheet the ground is judged for: the planting's, or the one considered
	CropName    string              `json:"cropName"` // "" when no crop is meant
	CropDate    civil.Date          `json:"cropDate"`
	Soil        soils.Profile       `json:"soil"`
	Works       prepare.Works       `json:"works"`
	Drains      *drains.Plan        `json:"drains"`
	Preparation prepare.Preparation `json:"preparation"`
	Checklist   []ground.CheckItem  `json:"checklist"`
	Raised      []work.RaisedStage  `json:"raised"`  // stages in which the plants are raised; none where they are bought
	Network     network.Result      `json:"network"` // of the jobs before planting; empty where the plants stand
	Store       *ready.Stored       `json:"store"`   // of its dormant stock; null where none is known of
	Late        *growth.Late        `json:"late"`    // what the day of planting costs; null where practice knows nothing of it

	groundForks []report.Fork
}

// Step is the state of one step of the descent.
type Step struct {
	Key   string `json:"key"`
	Name  string `json:"name"`
	Group string `json:"group"` // it opens with
	State string `json:"state"` // untouched, open or settled
	Open  int    `json:"open"`  // forks not yet decided
	Notes int    `json:"notes"` // findings that stand beside it, "good to know" not counted
}

// Figure finds a figure by its path.
func (p *Plan) Figure(path string) (report.Figure, bool) {
	for _, f := range p.Figures {
		if f.Path == path {
			return f, true
		}
	}
	return report.Figure{}, false
}

// SettingOut is what a contractor needs of the designed drains: pegs with level and chainage, and lines. Both are empty
// where nothing is designed.
func (p *Plan) SettingOut() (pegs []drains.Peg, lines []drains.LaidLine) {
	return p.Drains.SettingOut(p.Ground.Origin)
}
