// Package older reads documents of older forms, from a data folder or a file.
package older

import (
	"encoding/json"
	"fmt"
	"sort"
	"strconv"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/record"
)

// Block is what a block's document of form 1 held, taken apart. Body is the block in the form of now.
type Block struct {
	Body      []byte
	Plantings []document.Planting // with ids made from the block's: PlantingOf and ConsideredOf
	Records   []record.Record
}

// PlantingOf and ConsideredOf are the ids a planting and a considered crop of form 1 get.
func PlantingOf(block string) string   { return block + ".1" }
func ConsideredOf(block string) string { return block + ".0" }

// kept is what of form 1 became records.
type kept struct {
	Done      map[string]civil.Date `json:"done"`
	NotNeeded map[string]string     `json:"notNeeded"`
	Picked    map[string]float64    `json:"picked"`
}

// Form1 takes a block's document of form 1 apart. The same document always gives the same ids.
func Form1(block string, body []byte) (Block, error) {
	var all map[string]json.RawMessage
	if err := json.Unmarshal(body, &all); err != nil {
		return Block{}, fmt.Errorf("a block of form 1: %w", err)
	}
	var out Block
	for _, part := range []struct{ field, id string }{{"intent", ConsideredOf(block)}, {"planting", PlantingOf(block)}} {
		text, ok := all[part.field]
		delete(all, part.field)
		if !ok || string(text) == "null" {
			continue
		}
		var fields map[string]json.RawMessage
		var k kept
		if err := json.Unmarshal(text, &fields); err != nil {
			return Block{}, fmt.Errorf("the %s of a block of form 1: %w", part.field, err)
		}
		if err := json.Unmarshal(text, &k); err != nil {
			return Block{}, fmt.Errorf("the %s of a block of form 1: %w", part.field, err)
		}
		for _, f := range []string{"done", "notNeeded", "picked"} {
			delete(fields, f)
		}
		rest, err := json.Marshal(fields)
		if err != nil {
			return Block{}, err
		}
		p := document.Planting{ID: part.id, Considered: part.field == "intent"}
		if err := json.Unmarshal(rest, &p); err != nil {
			return Block{}, fmt.Errorf("the %s of a block of form 1: %w", part.field, err)
		}
		out.Plantings = append(out.Plantings, p)
		out.Records = append(out.Records, k.records(block, part.id)...)
	}
	var err error
	out.Body, err = json.Marshal(all)
	return out, err
}

func (k kept) records(block, planting string) []record.Record {
	var out []record.Record
	add := func(kind record.Kind, of string, day civil.Date, b record.Body) {
		r := record.Record{ID: fmt.Sprintf("form1.%s.%s.%s", planting, kind, of), Block: block, Planting: planting, Kind: kind, Day: day, Body: b}
		if kind != record.Picked {
			r.Operation = of
		}
		out = append(out, r)
	}
	for key, day := range k.Done {
		if !day.IsZero() {
			add(record.Done, key, day, record.Body{})
		}
	}
	for key, why := range k.NotNeeded {
		if why == "" {
			why = "not said"
		}
		add(record.NotNeeded, key, civil.Date{}, record.Body{Note: why})
	}
	for season, kg := range k.Picked {
		if y, err := strconv.Atoi(season); err == nil {
			add(record.Picked, season, civil.Date{}, record.Body{Season: y, Kg: kg})
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].ID < out[j].ID })
	return out
}
