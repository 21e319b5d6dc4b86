package working

import "testing"

func TestNilTraceCostsNothing(t *testing.T) {
	var tr *Trace
	n := testing.AllocsPerRun(100, func() {
		if tr.On("area") {
			tr.Add(Step{Figure: "area", Inputs: []Input{{Name: "a"}}})
		}
	})
	if n != 0 {
		t.Fatalf("a nil trace allocated %v times", n)
	}
	tr.Add(Step{Figure: "area"})
}

func TestTraceKeepsOnlyTheFigureAsked(t *testing.T) {
	tr := &Trace{Want: "area"}
	tr.Add(Step{Figure: "area", Label: "one"})
	tr.Add(Step{Figure: "rows", Label: "two"})
	if len(tr.Steps) != 1 || tr.Steps[0].Label != "one" {
		t.Fatalf("kept %+v", tr.Steps)
	}
	if tr.Steps[0].Inputs == nil {
		t.Fatal("inputs must encode as an empty list, not null")
	}
	all := &Trace{}
	all.Add(Step{Figure: "area"})
	all.Add(Step{Figure: "rows"})
	if len(all.Steps) != 2 {
		t.Fatalf("a trace without Want kept %d steps", len(all.Steps))
	}
}
