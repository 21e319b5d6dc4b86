package geojson

import (
	"reflect"
	"strings"
	"testing"

	"slowroot/core/civil"
	"slowroot/core/document"
	"slowroot/core/geo"
	"slowroot/core/record"
)

func TestWhatIsWrittenIsReadBack(t *testing.T) {
	b := document.Block{Name: "North Bank", Number: 3, Surveyed: "tape and compass", AccuracyM: 0.5, Notes: "gate in the north",
		Boundary: geo.Polygon{Outer: geo.Ring{{Lon: 172, Lat: -38}, {Lon: 172.003, Lat: -38.0001}, {Lon: 172.003, Lat: -37.998}, {Lon: 172, Lat: -37.998}},
			Holes: []geo.Ring{{{Lon: 172.001, Lat: -37.9995}, {Lon: 172.001, Lat: -37.999}, {Lon: 172.0015, Lat: -37.999}}}}}
	plantings := []document.Planting{{ID: "p", Sheet: "hazelnut", Date: civil.Must(2027, 7, 5), Choices: map[string]document.Choice{"layout": {Option: "double", By: "T", Why: "early crops"}}}}
	records := []record.Record{{ID: "r", Block: "b1", Planting: "p", Kind: record.Done, Operation: "lime", Day: civil.Must(2027, 3, 1)}}
	text, err := Write([]Whole{{"b1", b, plantings, records}})
	if err != nil {
		t.Fatal(err)
	}
	got, err := Read(text)
	if err != nil || len(got) != 1 || got[0].Problem != "" {
		t.Fatalf("%+v, %v", got, err)
	}
	back := got[0].Block()
	if back.Name != b.Name || !reflect.DeepEqual(got[0].Plantings, plantings) || !reflect.DeepEqual(got[0].Records, records) || len(back.Boundary.Holes) != 1 || got[0].AreaM2 < 1e4 {
		t.Errorf("read back %+v", back)
	}
}

func TestRefusedFiles(t *testing.T) {
	for _, c := range []struct{ name, text, say string }{
		{"not JSON", "{\n \"type\": \"FeatureCollection\",\n oops", "line 3"},
		{"another type", `{"type":"Topology"}`, "not a FeatureCollection"},
		{"another grid", "{\n\"type\":\"FeatureCollection\",\n\"crs\":{\"type\":\"name\",\"properties\":{\"name\":\"EPSG:2193\"}},\"features\":[]}", "line 3"},
		{"empty", `{"type":"FeatureCollection","features":[]}`, "no feature"},
		{"huge", `{"type":"` + strings.Repeat("x", MaxBytes) + `"}`, "MB"},
		{"wrong shape", "{\"type\":\"FeatureCollection\",\n\"features\":7}", "GeoJSON"},
	} {
		if _, err := Read([]byte(c.text)); err == nil || !strings.Contains(err.Error(), c.say) {
			t.Errorf("%s: %v, want %q", c.name, err, c.say)
		}
	}
}

func TestFeaturesWithProblemsKeepTheOthers(t *testing.T) {
	text := `{"type":"FeatureCollection","features":[
	 {"type":"Feature","properties":{"name":"Good"},"geometry":{"type":"Polygon","coordinates":[[[172,-38],[172.002,-38],[172.002,-37.999],[172,-38]]]}},
	 {"type":"Feature","properties":{},"geometry":{"type":"Point","coordinates":[172,-38]}},
	 {"type":"Feature","properties":{"name":"Bow"},"geometry":{"type":"Polygon","coordinates":[[[172,-38],[172.002,-37.999],[172.002,-38],[172,-37.999],[172,-38]]]}},
	 {"type":"Feature","properties":{"name":"Swapped"},"geometry":{"type":"Polygon","coordinates":[[[-38,172],[-38,172.002],[-37.999,172.002],[-38,172]]]}},
	 {"type":"Feature","properties":{"name":"Two"},"geometry":{"type":"MultiPolygon","coordinates":[[[[172,-38],[172.002,-38],[172.002,-37.999],[172,-38]]],[[[172.01,-38],[172.012,-38],[172.012,-37.999],[172.01,-38]]]]}},
	 {"type":"Feature","properties":{"name":"Nowhere"},"geometry":null}]}`
	got, err := Read([]byte(text))
	if err != nil || len(got) != 7 {
		t.Fatalf("%d candidates, %v", len(got), err)
	}
	for i, say := range []string{"", "not a polygon", "crosses", "swapped", "", "", "no geometry"} {
		if (say == "") != (got[i].Problem == "") || !strings.Contains(got[i].Problem, say) {
			t.Errorf("candidate %d %s: problem %q, want %q", i, got[i].Name, got[i].Problem, say)
		}
	}
	if got[5].Name != "Two 2" {
		t.Errorf("second part is called %s", got[5].Name)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(`{"type":"Polygon","coordinates":[[[172,-38],[172.002,-38],[172.002,-37.999],[172,-38]]]}`))
	f.Add([]byte(`{"type":"FeatureCollection","features":[{"type":"Feature","geometry":{"type":"Polygon","coordinates":[]}}]}`))
	f.Add([]byte(`{"type":"Feature","properties":{"number":"x"},"geometry":{"type":"MultiPolygon","coordinates":[[[]]]}}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		list, err := Read(text)
		if err != nil && len(list) > 0 {
			t.Fatal("a refused file gave blocks")
		}
		for _, c := range list {
			if c.Problem == "" && c.AreaM2 < geo.MinAreaM2 {
				t.Fatalf("a sound candidate of %g m²", c.AreaM2)
			}
		}
	})
}
