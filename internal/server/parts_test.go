package server

import (
	"encoding/json"
	"errors"
	"testing"

	"slowroot/core/finding"
	"slowroot/core/plan"
)

// Long numbers lose digits and nothing else: strings, whole numbers and short numbers stay.
func TestNumbersOfAPreviewAreShort(t *testing.T) {
	in := `{"a":-106.03095515516306,"b":"1.23456789012 \" 3.1415926535","c":123456789012,"d":[9.029649301782902e-06,0.5,-3,1e21],"e":true,"f":null,"2.718281828459":1}`
	want := `{"a":-106.031,"b":"1.23456789012 \" 3.1415926535","c":123456789012,"d":[9.029649e-06,0.5,-3,1e21],"e":true,"f":null,"2.718281828459":1}`
	if got := string(shortened([]byte(in))); got != want {
		t.Errorf("%s, want %s", got, want)
	}
	if !json.Valid(shortened([]byte(in))) {
		t.Error("no JSON")
	}
}

func TestPartsOfAPlanByName(t *testing.T) {
	got, err := partsOf(&plan.Plan{Name: "Foot", OutAge: 7}, []string{"name", "outAge"})
	if err != nil || len(got) != 3 || string(got["name"]) != `"Foot"` || string(got["outAge"]) != "7" {
		t.Errorf("%v, %v", got, err)
	}
	var marks map[string]string
	if err := json.Unmarshal(got["marks"], &marks); err != nil || len(marks) != 2 {
		t.Fatalf("marks %s: %v", got["marks"], err)
	}
	again, err := partsOf(&plan.Plan{Name: "Bank", OutAge: 7}, []string{"name@" + marks["name"], "outAge@" + marks["outAge"]})
	if err != nil || string(again["name"]) != `"Bank"` || again["outAge"] != nil || len(again) != 2 {
		t.Errorf("what is the same is not left out, or what changed is: %v, %v", again, err)
	}
	var fe *finding.FieldError
	if _, err := partsOf(&plan.Plan{}, []string{"nothing"}); !errors.As(err, &fe) || fe.Field != "parts" {
		t.Errorf("a part nobody knows: %v", err)
	}
}
