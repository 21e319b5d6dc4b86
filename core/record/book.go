package record

import "slowroot/core/civil"

// Book is what the records of one planting come to. The zero Book holds nothing.
type Book struct {
	Done      map[string]civil.Date // job → the day it was done
	NotNeeded map[string]string     // job → why not
	NotYet    map[string]civil.Date // job → the last day it was looked at and what it waits for was not so
	Share     map[string]float64    // job → how much of it is done, where it is not whole
	Last      map[string]string     // job → the id of the last record of it that holds
	PickedKg  map[int]float64       // year a season starts in → kg off the block
	Held      []Record              // every record that holds
}

// Open makes the book of a planting from the records of its block. What is said last of a job holds: work recorded as
// done is no longer not needed, and the other way round. Pickings of a season, and parts of a job, add up.
func Open(all []Record, planting string) Book {
	b := Book{Done: map[string]civil.Date{}, NotNeeded: map[string]string{}, NotYet: map[string]civil.Date{}, Share: map[string]float64{},
		Last: map[string]string{}, PickedKg: map[int]float64{}}
	for _, r := range Standing(all) {
		if r.Planting != planting {
			continue
		}
		b.Held = append(b.Held, r)
		if r.Operation != "" {
			b.Last[r.Operation] = r.ID
		}
		switch r.Kind {
		case Done:
			delete(b.NotNeeded, r.Operation)
			delete(b.Share, r.Operation)
			b.Done[r.Operation] = r.Day
		case NotNeeded:
			delete(b.Done, r.Operation)
			b.NotNeeded[r.Operation] = r.Note
		case NotYet:
			b.NotYet[r.Operation] = civil.Later(b.NotYet[r.Operation], r.Day)
		case Partly:
			b.add(r)
		case Picked:
			b.PickedKg[r.Season] += r.Kg
		}
	}
	return b
}

// Everywhere makes one book of all records of a block, whichever planting they were written under.
func Everywhere(all []Record) Book {
	list := make([]Record, len(all))
	for i, r := range all {
		r.Planting = ""
		list[i] = r
	}
	return Open(list, "")
}

// add takes a part of a job; parts that make the whole are the job done on the day of the last.
func (b Book) add(r Record) {
	if _, whole := b.Done[r.Operation]; whole {
		return
	}
	b.Share[r.Operation] += r.Share
	if b.Share[r.Operation] > 1-1e-9 && !r.Day.IsZero() {
		b.Done[r.Operation] = r.Day
		delete(b.Share, r.Operation)
	}
}
