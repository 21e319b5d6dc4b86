package estate

import (
	"encoding/json"
	"errors"
	"fmt"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/record"
	"slowroot/internal/formats/older"
	"slowroot/internal/store"
)

// Upcast gives a document of an older form as the documents and records of now; nothing where it has the form of now.
// It serves the store when a folder is opened, at undo, and at import.
func Upcast(d store.Doc) ([]store.Write, []store.Entry, error) {
	switch {
	case d.Kind == store.EstateDoc && d.Schema < document.EstateForm:
		var e document.Estate
		if err := decode(d.Body, &e); err != nil {
			return nil, nil, fmt.Errorf("the estate: %w", err)
		}
		e.Identify(document.ByPlace)
		body, err := json.Marshal(e)
		return []store.Write{{Kind: store.EstateDoc, Body: body, Schema: document.EstateForm}}, nil, err
	case d.Kind != store.BlockDoc || d.Schema >= document.BlockForm:
		return nil, nil, nil
	}
	old, err := older.Form1(d.ID, d.Body)
	var b document.Block
	if err == nil {
		err = decode(old.Body, &b)
	}
	if err != nil {
		return nil, nil, fmt.Errorf("block %s: %w", d.ID, err)
	}
	b.Named(old.Plantings)
	body, err := json.Marshal(b)
	if err != nil {
		return nil, nil, err
	}
	writes := []store.Write{{Kind: store.BlockDoc, ID: d.ID, Body: body, Schema: document.BlockForm}}
	absent := map[string]bool{older.PlantingOf(d.ID): true, older.ConsideredOf(d.ID): true}
	for _, p := range old.Plantings {
		delete(absent, p.ID)
		w, err := plantingWrites(d.ID, p)
		if err != nil {
			return nil, nil, err
		}
		writes = append(writes, w...)
	}
	for id := range absent { // an undo goes back to before there was one
		writes = append(writes, store.Write{Kind: store.PlantingDoc, ID: id}, store.Write{Kind: store.RowsDoc, ID: id})
	}
	entries := make([]store.Entry, len(old.Records))
	for i, r := range old.Records {
		if entries[i], err = entryOf(r); err != nil {
			return nil, nil, err
		}
	}
	return writes, entries, nil
}

// plantingWrites are a planting as it is kept: its rows as planted, which are long and never change, by themselves.
func plantingWrites(block string, p document.Planting) ([]store.Write, error) {
	rows := store.Write{Kind: store.RowsDoc, ID: p.ID, Parent: block}
	if p.AsPlanted != nil {
		body, err := json.Marshal(p.AsPlanted)
		if err != nil {
			return nil, err
		}
		rows.Body = body
	}
	p.AsPlanted = nil
	body, err := json.Marshal(p)
	return []store.Write{{Kind: store.PlantingDoc, ID: p.ID, Parent: block, Body: body}, rows}, err
}

// entryOf and recordOf are a record as it is kept and as it is read.
func entryOf(r record.Record) (store.Entry, error) {
	body, err := json.Marshal(r.Body)
	day := ""
	if !r.Day.IsZero() {
		day = r.Day.String()
	}
	return store.Entry{ID: r.ID, Block: r.Block, Planting: r.Planting, Operation: r.Operation, Kind: string(r.Kind), Day: day, Who: r.Who, Corrects: r.Corrects, Body: body}, err
}

func recordOf(e store.Entry) (record.Record, error) {
	r := record.Record{ID: e.ID, Block: e.Block, Planting: e.Planting, Operation: e.Operation, Kind: record.Kind(e.Kind), Who: e.Who, Corrects: e.Corrects}
	day, err := civil.Parse(e.Day)
	r.Day = day
	return r, errors.Join(err, json.Unmarshal(e.Body, &r.Body))
}
