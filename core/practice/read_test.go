package practice

import (
	"bytes"
	"reflect"
	"testing"
)

// A sheet read already is the sheet as it is written, to the last field; one whose text has changed is read from its text.
func TestSheetsReadAlready(t *testing.T) {
	for _, id := range Crops() {
		kept, err := builtIn.ReadFile("sheets/read/" + id + ".json")
		if err != nil {
			t.Fatalf("%v: run make generate", err)
		}
		made, err := Prepared(id)
		if err != nil || !bytes.Equal(bytes.TrimSpace(kept), made) {
			t.Errorf("%s is not read anew since its sheet changed: run make generate (%v)", id, err)
		}
		text, _ := builtIn.ReadFile("sheets/" + id + ".yaml")
		written, err := Load(text)
		read, err2 := One(id)
		if err != nil || err2 != nil || !reflect.DeepEqual(written, read) {
			t.Errorf("%s read already is not what is written: %v, %v", id, err, err2)
		}
	}
}
