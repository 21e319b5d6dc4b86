package work

import (
	"slowroot/core/plan/prepare"
	"slowroot/core/report"
	"slowroot/core/schedule"
)

// plantedAnHour is how many plants one person sets by hand in an hour (method L1, common practice: 30 to 60).
const plantedAnHour = 45.0

// ByRate gives jobs of which nobody said the hours those that follow from what there is to do and a usual rate of work: the
// work on the ground as the preparation counts it, and setting the plants. HoursBy says that they are reckoned, and from
// what; where no rate is known they stay unknown.
func ByRate(jobs []report.Job, prepared prepare.Preparation, ops []schedule.Operation, plants int) {
	lines := map[string]prepare.PrepLine{}
	for _, l := range prepared.Lines {
		lines[l.Key] = l
	}
	planting := map[string]bool{}
	for _, o := range ops {
		planting[o.ID] = o.Phase == "plant" && o.After == schedule.Planting && o.Better.IsZero()
	}
	for i := range jobs {
		j := &jobs[i]
		if j.Hours != nil {
			j.HoursBy = "said"
			continue
		}
		if l, ok := lines[j.Key]; ok && l.BaseH > 0 && l.NotNeeded == "" {
			h := l.BaseH
			j.Machine = l.By == "machine"
			j.Hours, j.HoursBy = &h, "by a usual rate for "+l.By+" work, from memory"
			continue
		}
		if planting[j.Key] && plants > 0 {
			h := float64(plants) / plantedAnHour
			j.Hours, j.HoursBy = &h, "45 plants an hour by hand (30 to 60), common practice"
		}
	}
}
