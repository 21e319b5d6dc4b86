package document

import (
	"fmt"
	"slices"

	"slowroot/core/finding"
	"slowroot/core/geo"
)

// Obstacle is what stands or lies on a block and takes no plants: one point is a round spot, an open line has a width, a closed
// one is an area.
type Obstacle struct {
	ID     string      `json:"id,omitempty"` // for good; given when it is written
	Kind   string      `json:"kind"`         // one of ObstacleKinds
	Name   string      `json:"name"`
	Points []geo.Point `json:"points"`
	Area   bool        `json:"area,omitempty"` // the points go round it
	WidthM float64     `json:"widthM"`         // of a spot or a line
	KeepM  float64     `json:"keepM"`          // kept free of stations round it
}

// ObstacleKind is what takes no plants, with its usual width and what is usually kept free round it, m.
type ObstacleKind struct {
	Kind   string  `json:"kind"`
	WidthM float64 `json:"widthM"`
	KeepM  float64 `json:"keepM"`
}

// ObstacleKinds are what takes no plants. The widths are common practice, no source: what the owner of a power line or a pipe asks comes
// before them.
var ObstacleKinds = []ObstacleKind{{"wet spot", 4, 1}, {"rock", 4, 1}, {"power line", 0, 10}, {"drain line", 0.5, 3}, {"track", 4, 1}, {"building", 8, 5},
	{"tree that stays", 8, 1}, {"other", 4, 1}}

const maxObstacles = 100

func (o Obstacle) valid(field string) error {
	if !slices.ContainsFunc(ObstacleKinds, func(k ObstacleKind) bool { return k.Kind == o.Kind }) {
		return finding.Bad(field+".kind", o.Kind, "is not an obstacle known here", "one of the list of obstacles")
	}
	if len([]rune(o.Name)) > 80 {
		return finding.Bad(field+".name", o.Name, "is longer than a name", "80 characters at most")
	}
	least := 1
	if o.Area {
		least = 3
	}
	if len(o.Points) < least || len(o.Points) > 500 {
		return finding.Bad(field+".points", len(o.Points), "are not the points of an obstacle", fmt.Sprintf("%d to 500", least))
	}
	for _, p := range o.Points {
		if !(p.Lon >= -180 && p.Lon <= 180 && p.Lat >= -geo.MaxLatDeg && p.Lat <= geo.MaxLatDeg) {
			return finding.Bad(field+".points", fmt.Sprintf("%g, %g", p.Lat, p.Lon), "is no position", "degrees of longitude and latitude")
		}
	}
	if !(o.WidthM >= 0 && o.WidthM <= 200) {
		return finding.Bad(field+".widthM", o.WidthM, "is not the width of an obstacle", "0 to 200 m")
	}
	if !(o.KeepM >= 0 && o.KeepM <= 100) {
		return finding.Bad(field+".keepM", o.KeepM, "is not a width kept free round an obstacle", "0 to 100 m")
	}
	return nil
}
