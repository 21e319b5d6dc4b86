package estate

import (
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"strconv"
	"strings"

	"slowroot/core/civil"
	"slowroot/core/plan"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/store"
)

// Demonstration is the demonstration estate as read from its files.
type Demonstration struct {
	Estate plan.Estate
	Blocks []plan.Block
	Today  civil.Date
}

// ReadDemonstration reads estate.json, climate.csv and blocks.geojson.
func ReadDemonstration(files fs.FS) (Demonstration, error) {
	var head struct {
		plan.Estate
		Today civil.Date `json:"today"`
	}
	text, err := fs.ReadFile(files, "estate.json")
	if err != nil {
		return Demonstration{}, err
	}
	if err := decode(text, &head); err != nil {
		return Demonstration{}, fmt.Errorf("estate.json: %w", err)
	}
	d := Demonstration{Estate: head.Estate, Today: head.Today}
	if text, err = fs.ReadFile(files, "climate.csv"); err != nil {
		return d, err
	}
	if d.Estate.Climate, err = readClimate(string(text)); err != nil {
		return d, fmt.Errorf("climate.csv: %w", err)
	}
	if text, err = fs.ReadFile(files, "blocks.geojson"); err != nil {
		return d, err
	}
	list, err := geojson.Read(text)
	if err != nil {
		return d, fmt.Errorf("blocks.geojson: %w", err)
	}
	for _, c := range list {
		if c.Problem != "" {
			return d, fmt.Errorf("blocks.geojson: %s", c.Problem)
		}
		d.Blocks = append(d.Blocks, c.Block())
	}
	return d, nil
}

// readClimate reads monthly normals: month, meanC, minC, rainMm.
func readClimate(text string) ([]plan.Month, error) {
	rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
	if err != nil {
		return nil, err
	}
	if len(rows) != 13 || strings.Join(rows[0], ",") != "month,meanC,minC,rainMm" {
		return nil, errors.New("needs the heading month,meanC,minC,rainMm and twelve months")
	}
	out := make([]plan.Month, 12)
	for i, r := range rows[1:] {
		var v [4]float64
		for k := range v {
			if v[k], err = strconv.ParseFloat(r[k], 64); err != nil {
				return nil, fmt.Errorf("line %d, %s: %q is not a number", i+2, rows[0][k], r[k])
			}
		}
		if int(v[0]) != i+1 {
			return nil, fmt.Errorf("line %d: month %s where %d belongs", i+2, r[0], i+1)
		}
		out[i] = plan.Month{MeanC: v[1], MinC: v[2], RainMM: v[3]}
	}
	return out, nil
}

// LoadDemonstration fills an empty estate as one change; an estate already begun is refused.
func (s *Service) LoadDemonstration(ctx context.Context, d Demonstration) (EstateDoc, error) {
	if _, err := s.Estate(ctx); err == nil {
		return EstateDoc{}, begunAlready(d.Estate.Name)
	} else if !errors.Is(err, store.ErrNotFound) {
		return EstateDoc{}, err
	}
	if err := d.Estate.Valid(); err != nil {
		return EstateDoc{}, err
	}
	body, err := json.Marshal(d.Estate)
	if err != nil {
		return EstateDoc{}, err
	}
	writes := []store.Write{{Kind: store.EstateDoc, Body: body}}
	for _, b := range d.Blocks {
		id := newID()
		if err := s.prepare(ctx, d.Estate, id, "the demonstration", &b); err != nil {
			return EstateDoc{}, fmt.Errorf("block %q: %w", b.Name, err)
		}
		body, err := json.Marshal(b)
		if err != nil {
			return EstateDoc{}, err
		}
		writes = append(writes, store.Write{Kind: store.BlockDoc, ID: id, Body: body})
	}
	if _, err := s.store.Apply(ctx, "the demonstration", "Loaded the demonstration estate", writes...); err != nil {
		return EstateDoc{}, err
	}
	return s.Estate(ctx)
}
