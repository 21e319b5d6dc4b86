package estate

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/internal/formats/geojson"
	"slowroot/internal/formats/station"
	"slowroot/internal/store"
)

// Demonstration is the demonstration estate as read from its files.
type Demonstration struct {
	Estate  document.Estate
	Blocks  []NewBlock
	Today   civil.Date
	Heights HeightsFile
	Weather struct{ Name, Text string }
}

// ReadDemonstration reads estate.json, climate.csv, blocks.geojson and the files of heights and weather that
// estate.json names.
func ReadDemonstration(files fs.FS) (Demonstration, error) {
	var head struct {
		document.Estate
		Today       civil.Date `json:"today"`
		HeightsFile struct {
			HeightsFile
			File string `json:"file"`
		} `json:"heightsFile"`
		WeatherFile struct {
			Name string `json:"name"`
			File string `json:"file"`
		} `json:"weatherFile"`
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
	if d.Estate.Climate, err = station.Normals(string(text)); err != nil {
		return d, fmt.Errorf("climate.csv: %w", err)
	}
	if text, err = fs.ReadFile(files, "blocks.geojson"); err != nil {
		return d, err
	}
	d.Heights = head.HeightsFile.HeightsFile
	if text, err := fs.ReadFile(files, head.HeightsFile.File); err != nil {
		return d, err
	} else {
		d.Heights.Text = string(text)
	}
	d.Weather.Name = head.WeatherFile.Name
	if text, err := fs.ReadFile(files, head.WeatherFile.File); err != nil {
		return d, err
	} else {
		d.Weather.Text = string(text)
	}
	list, err := geojson.Read(text)
	if err != nil {
		return d, fmt.Errorf("blocks.geojson: %w", err)
	}
	for _, c := range list {
		if c.Problem != "" {
			return d, fmt.Errorf("blocks.geojson: %s", c.Problem)
		}
		d.Blocks = append(d.Blocks, NewBlock{c.Block(), c.Plantings, c.Records})
	}
	return d, nil
}

// LoadDemonstration fills an empty estate as one change; an estate already begun is refused.
func (s *Service) LoadDemonstration(ctx context.Context, d Demonstration) (EstateDoc, error) {
	ctx = unhurried(ctx)
	if _, err := s.Estate(ctx); err == nil {
		return EstateDoc{}, begunAlready(d.Estate.Name)
	} else if !errors.Is(err, store.ErrNotFound) {
		return EstateDoc{}, err
	}
	files, err := s.keepRecords(&d)
	if err != nil {
		return EstateDoc{}, err
	}
	if err := d.Estate.Valid(); err != nil {
		return EstateDoc{}, err
	}
	d.Estate.Identify(anew)
	body, err := json.Marshal(d.Estate)
	if err != nil {
		return EstateDoc{}, err
	}
	writes := []store.Write{{Kind: store.EstateDoc, Body: body, Schema: document.EstateForm}}
	also := store.Also{Files: files}
	for _, b := range d.Blocks {
		doc, err := s.arriving(files).prepare(ctx, d.Estate, "the demonstration", b)
		if err != nil {
			return EstateDoc{}, fmt.Errorf("block %q: %w", b.Name, err)
		}
		w, entries, err := doc.fresh()
		if err != nil {
			return EstateDoc{}, err
		}
		writes, also.Records = append(writes, w...), append(also.Records, entries...)
	}
	if _, err := s.store.ApplyWith(ctx, "the demonstration", "Loaded the demonstration estate", also, writes...); err != nil {
		return EstateDoc{}, err
	}
	return s.Estate(ctx)
}

// keepRecords names the demonstration's heights and weather in its estate, and gives them as they are kept.
func (s *Service) keepRecords(d *Demonstration) ([]store.File, error) {
	h, err := readHeights(d.Heights)
	if err != nil {
		return nil, fmt.Errorf("heights: %w", err)
	}
	source, heights := keepHeights(d.Heights, h)
	w, weather, err := s.keepWeather(d.Weather.Name, d.Weather.Text)
	if err != nil {
		return nil, fmt.Errorf("weather: %w", err)
	}
	d.Estate.Heights, d.Estate.Weather = []document.HeightSource{source}, w
	return []store.File{heights, weather}, nil
}
