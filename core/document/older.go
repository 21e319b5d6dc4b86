package document

import (
	"fmt"
	"regexp"

	"slowroot/core/finding"
)

// BlockForm is the form a block's document has now. Form 1 held its planting, the crop considered, and what was done and
// picked inside itself, and named what it held by its place in a list. EstateForm is the estate's; its form 1 had no ids
// either.
const (
	BlockForm  = 2
	EstateForm = 2
)

// Named gives a block of form 1, and its plantings, ids for what it named by place, and puts the reasons kept for a place
// under the thing that stood there.
func (b *Block) Named(plantings []Planting) {
	b.Identify(ByPlace)
	b.Keep = b.named(b.Keep)
	for i := range plantings {
		plantings[i].Accepted = b.named(plantings[i].Accepted)
	}
}

var placed = regexp.MustCompile(`^(soil\.wet-ask|soil\.rip|soil\.estimate|works\.blocked|works\.late|prepare\.order|schedule\.done-late|soil\.doubt)[-.](.+)$`)

func (b *Block) named(kept map[string]string) map[string]string {
	if kept == nil {
		return nil
	}
	now := b.Settled()
	out := make(map[string]string, len(kept))
	for rule, why := range kept {
		out[now.nowCalled(rule)] = why
	}
	return out
}

// nowCalled is the key a reason kept in form 1 has now.
func (b Block) nowCalled(rule string) string {
	m := placed.FindStringSubmatch(rule)
	if m == nil {
		return rule
	}
	of := func(kind, id string) string {
		return finding.Finding{Rule: m[1]}.Of(finding.Ref{Kind: kind, ID: id}).Key()
	}
	var i, k int
	switch m[1] {
	case "works.blocked", "works.late":
		return of("amendment", m[2])
	case "prepare.order", "schedule.done-late":
		return of("job", m[2])
	case "soil.doubt":
		if n, _ := fmt.Sscanf(m[2], "%d-%d", &i, &k); n == 2 && i >= 0 && i < len(b.Tests) {
			if d := b.Tests[i].Doubts(); k >= 0 && k < len(d) {
				return finding.Finding{Rule: d[k].Rule}.Of(TestRef(b.Tests[i].ID)).Key()
			}
		}
	default:
		if n, _ := fmt.Sscanf(m[2], "%d", &i); n == 1 && i >= 0 && i < len(b.Pits) {
			return of("pit", b.Pits[i].ID)
		}
	}
	return rule
}
