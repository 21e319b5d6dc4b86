package labreport

import (
	"math"
	"strings"
	"testing"

	"slowroot/core/document"
	"slowroot/core/soil"
)

const file = "Lab no;Sample;Date;Depth;pH (CaCl2);Org. carbon [%];K [mg/100g];Ca (lbs/A);CEC (cmolc/kg)\n17;Gate 1;2027-02-15;0-20;5,1;1,9;14;1900;<3\n18;Gate 2;2027-02-15;20 to 40 cm;4,9;0,8;9;1500;11,5\n"

// Two odd units stop the reading until a person says what they are; then everything is turned and shown.
func TestOddUnitsAreAskedFor(t *testing.T) {
	r, err := Read(file, "Fell Soils", nil)
	if err != nil || r.Ready || len(r.Tests) != 0 {
		t.Fatalf("%+v %v", r, err)
	}
	problems := map[string]string{}
	mapping := map[string]document.LabColumn{}
	for _, c := range r.Columns {
		mapping[c.Head] = c.LabColumn
		if c.Problem != "" {
			problems[c.Head] = c.Problem
		}
	}
	if len(problems) != 2 || problems["K [mg/100g]"] == "" || !strings.Contains(problems["Ca (lbs/A)"], "lb/acre") {
		t.Fatalf("problems %v", problems)
	}
	if m := mapping["pH (CaCl2)"]; m.Field != "ph" || m.How != "cacl2" {
		t.Errorf("pH is taken as %+v", m)
	}
	mapping["K [mg/100g]"] = document.LabColumn{Field: "kCmolKg", Unit: "mg/kg"}
	mapping["Ca (lbs/A)"] = document.LabColumn{Field: "caCmolKg", Unit: "lb/acre"}
	mapping["Org. carbon [%]"] = document.LabColumn{Field: "omPct", Unit: "% C"}
	r, err = Read(file, "Fell Soils", mapping)
	if err != nil || !r.Ready || len(r.Tests) != 2 {
		t.Fatalf("%+v %v", r, err)
	}
	one := r.Tests[0]
	// 1.724 × organic carbon (van Bemmelen); 1 lb/acre of a furrow slice of 2 000 000 lb is 0.5 mg/kg
	if one.Lab != "Fell Soils" || one.FromCm != 0 || one.ToCm != 20 || math.Abs(*one.OMPct-1.9*1.724) > 1e-9 || math.Abs(*one.Ca-1900*0.5/200.4) > 1e-9 || math.Abs(*one.K-14/391.0) > 1e-9 {
		t.Errorf("%+v", one)
	}
	if *one.CEC != 1.5 || !strings.Contains(strings.Join(r.Shown[0], "; "), "CEC <3") {
		t.Errorf("under the limit of detection: %v, %v", *one.CEC, r.Shown[0])
	}
	if r.Tests[1].FromCm != 20 || r.Tests[1].ToCm != 40 {
		t.Errorf("second depth %g–%g", r.Tests[1].FromCm, r.Tests[1].ToCm)
	}
}

func TestRefusedReportsNameTheLine(t *testing.T) {
	for _, c := range []struct{ name, text, say string }{
		{"a pH of 14", "Date,Depth,pH\n2027-01-01,0-20,6\n2027-01-01,0-20,14\n", "line 3: pH: 14 cannot be pH"},
		{"no day", "Depth,pH\n0-20,6\n", "day of sampling"},
		{"no depth", "Date,pH\n2027-01-01,6\n", "depth of sampling"},
		{"a depth in words", "Date,Depth,pH\n2027-01-01,topsoil,6\n", "line 2: Depth"},
		{"two columns of one thing", "Date,Depth,pH,pH H2O\n2027-01-01,0-20,6,6\n", "two columns"},
		{"texture of 130 %", "Date,Depth,Sand (%),Silt (%),Clay (%)\n2027-01-01,0-20,60,40,30\n", "line 2"},
		{"words", "Date,Depth,pH\n2027-01-01,0-20,sour\n", "line 2"},
	} {
		r, err := Read(c.text, "L", nil)
		if err == nil || !strings.Contains(err.Error(), c.say) || len(r.Tests) > 0 {
			t.Errorf("%s: %+v %v", c.name, r, err)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add(file)
	f.Add("Date,Depth,pH,Ca (mg/kg)\n2027-01-01,0-20,6,900\n")
	f.Fuzz(func(t *testing.T, text string) {
		r, err := Read(text, "L", nil)
		if (err != nil || !r.Ready) && len(r.Tests) > 0 {
			t.Fatal("a file that is not ready gave tests")
		}
		for _, x := range r.Tests {
			if err := x.Valid("t"); err != nil {
				t.Fatal(err)
			}
			for _, field := range soil.Fields {
				if v, ok := field.Get(&x); ok && (v < field.Min || v > field.Max) {
					t.Fatalf("%s of %g", field.Name, v)
				}
			}
		}
	})
}
