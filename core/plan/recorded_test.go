package plan

import (
	"fmt"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/record"
	"slowroot/core/report"
)

// done records jobs as done on a day; not records that they are not needed.
func (in *Input) done(day civil.Date, keys ...string) {
	for _, k := range keys {
		in.recorded(record.Record{Kind: record.Done, Operation: k, Day: day})
	}
}

func (in *Input) not(why string, keys ...string) {
	for _, k := range keys {
		in.recorded(record.Record{Kind: record.NotNeeded, Operation: k, Body: record.Body{Note: why}})
	}
}

func (in *Input) recorded(r record.Record) {
	r.ID, r.Block, r.Planting = fmt.Sprint("r", len(in.Records)), "b", in.Block.Planting.ID
	in.Records = append(in.Records, r)
}

// A stand that ended keeps its years up to its end and asks for nothing any more.
func TestAStandThatEnded(t *testing.T) {
	in := grounded(t, "hazelnut")
	got := compute(t, in)
	p := in.Block.Planting
	p.AsPlanted, p.Planted = got.Fix(got.Choices["layout"]), civil.Must(2015, 6, 1)
	in.recorded(record.Record{Kind: record.Picked, Body: record.Body{Season: 2020, Kg: 700}})
	in.recorded(record.Record{Kind: record.Picked, Body: record.Body{Season: 2020, Kg: 300}})
	p.End = &document.End{On: civil.Must(2024, 5, 2), How: "grubbed", Why: "blight"}
	ended := compute(t, in)
	if ended.Stage != document.Ended || len(ended.Years) < 9 || len(ended.Years) > 10 || !said(t, ended.Words) {
		t.Errorf("%s, %d years, %q", ended.Stage, len(ended.Years), ended.Words)
	}
	for _, y := range ended.Years {
		if y.Season == 2020 && (!y.Recorded || y.PickedKg != 1000) {
			t.Errorf("season 2020: %+v", y)
		}
	}
	for _, j := range ended.Jobs {
		if j.Passed {
			t.Errorf("%s is asked for on ground where nothing stands", j.Key)
		}
	}
	p.End.On = civil.Must(2014, 1, 1)
	if _, err := Compute(in, nil); err == nil {
		t.Error("a stand ended before it was planted")
	}
}

// What stood before makes the next planting wait, as former uses do.
func TestWhatStoodBeforeIsWaitedFor(t *testing.T) {
	in := grounded(t, "hazelnut")
	in.Block.Uses = nil
	free := compute(t, in)
	in.Before = []Stood{{Sheet: "hazelnut", Name: "old hazels", Woody: true, End: civil.Must(2025, 1, 1)}}
	held := compute(t, in)
	fallow := in
	fallow.Block.Planting, fallow.Sheet = nil, nil
	if p := compute(t, fallow); p.Words != "nothing since January 2025, old hazels before" || !said(t, p.Cannot) {
		t.Errorf("%q; %q", p.Words, p.Cannot)
	}
	if !held.Soil.Earliest.After(free.Soil.Earliest) || held.Soil.Earliest.Before(civil.Must(2028, 1, 1)) {
		t.Errorf("earliest %s without, %s with an old orchard of the same crop", free.Soil.Earliest, held.Soil.Earliest)
	}
	kinds := ""
	for _, w := range held.Soil.Waits {
		kinds += w.Kind + " "
	}
	if !strings.Contains(kinds, "same-tree") || !strings.Contains(kinds, "old-trees") {
		t.Errorf("waits for %s", kinds)
	}
}

// A job that is partly done says how much of it; its parts that make the whole are the job done.
func TestPartlyDone(t *testing.T) {
	in := grounded(t, "hazelnut")
	var key string
	for _, j := range compute(t, in).Jobs {
		if j.Preparation {
			key = j.Key
			break
		}
	}
	part := record.Record{Kind: record.Partly, Operation: key, Day: civil.Must(2026, 1, 4), Body: record.Body{Share: 0.4}}
	in.recorded(part)
	find := func() report.Job {
		for _, j := range compute(t, in).Jobs {
			if j.Key == key {
				return j
			}
		}
		t.Fatal("the job is gone")
		return report.Job{}
	}
	if j := find(); j.Share != 0.4 || !j.Done.IsZero() {
		t.Errorf("%+v", j)
	}
	part.Share = 0.6
	in.recorded(part)
	if j := find(); j.Share != 0 || j.Done != part.Day {
		t.Errorf("%+v", j)
	}
}
