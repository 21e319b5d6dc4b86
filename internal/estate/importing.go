package estate

import (
	"context"
	"errors"
	"fmt"
	"math"

	"slowroot/core/geo"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/store"
)

// farM is how far from the estate's other blocks a new one is doubted: swapped coordinates below 90°
// are sound positions, only elsewhere on the earth.
const farM = 200_000.0

// doubt marks each boundary of a list that lies far from the blocks already here.
func (s *Service) doubt(ctx context.Context, list []geojson.Candidate) error {
	docs, err := s.blocks(ctx)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	stop := s.patience(ctx)
	for i := range list {
		if err := stop(); err != nil {
			return err
		}
		if list[i].Problem != "" || len(docs) == 0 {
			continue
		}
		nearest := math.Inf(1)
		at := middle(list[i].Boundary)
		for _, d := range docs {
			if d.Err != nil || len(d.Block.Boundary.Outer) == 0 {
				continue
			}
			nearest = math.Min(nearest, geo.DistanceM(at, middle(d.Block.Boundary)))
		}
		if nearest > farM && !math.IsInf(nearest, 1) {
			list[i].Doubt = fmt.Sprintf("It lies %.0f km from the nearest block of this estate. Are longitude and latitude swapped?", nearest/1000)
		}
	}
	return nil
}

func middle(p geo.Polygon) geo.Point {
	pl := geo.LocalPlane(p)
	return geo.Point{Lon: pl.Lon0, Lat: pl.Lat0}
}
