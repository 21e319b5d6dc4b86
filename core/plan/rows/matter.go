package rows

import (
	"fmt"

	"slowroot/core/finding"
	"slowroot/core/report"
	"slowroot/core/units"
)

// How deep cut plant matter covers beds, and paths, m. Common practice, no source.
const (
	bedCoverM  = 0.075 // 5 to 10 cm
	pathCoverM = 0.10
)

// judgeMatter sets the plant matter that lies on the block, by its classes, against what beds and paths of the strips take as cover.
func (r Result) judgeMatter(in In, say *report.Voice) {
	if len(in.Growth) == 0 || len(r.Shares) == 0 || in.Planting.AsPlanted != nil {
		return
	}
	var beds, paths float64
	for _, s := range r.Shares {
		switch s.Kind {
		case "bed", "tree row", "companion rows":
			beds += s.AreaM2
		case "path":
			paths += s.AreaM2
		}
	}
	fine, coarse := in.Growth["fine"], in.Growth["thick"]
	needBeds, needPaths := beds*bedCoverM, paths*pathCoverM
	say.Note(finding.Finding{Rule: "rows.cover-matter", Weight: finding.Know, Step: "rows", Subject: "Cover from what is cut",
		Source: "common practice, no source: beds 5 to 10 cm deep, paths 10 cm",
		Sentence: fmt.Sprintf("%s of twigs, leaves and grass lie here; the beds take %s as cover. %s of branches lie here; the paths take %s.",
			say.Text(fine, units.Earth), say.Text(needBeds, units.Earth), say.Text(coarse, units.Earth), say.Text(needPaths, units.Earth))})
}
