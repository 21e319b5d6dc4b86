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

// ReadGeoJSON lists what a file holds, with a doubt about each boundary that lies far from the blocks
// already here.
func (s *Service) ReadGeoJSON(ctx context.Context, text []byte) ([]geojson.Candidate, error) {
	list, err := geojson.Read(text)
	if err != nil {
		return nil, err
	}
	docs, err := s.blocks(ctx)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	stop := s.patience(ctx)
	for i := range list {
		if err := stop(); err != nil {
			return nil, err
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
	return list, nil
}

func middle(p geo.Polygon) geo.Point {
	pl := geo.LocalPlane(p)
	return geo.Point{Lon: pl.Lon0, Lat: pl.Lat0}
}
