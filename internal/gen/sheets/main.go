// Command sheets writes the practice sheets that ship with the program as they are read, one file each, into the directory
// given: go run ./internal/gen/sheets core/practice/sheets/read
package main

import (
	"log"
	"os"
	"path/filepath"

	"slowroot/core/practice"
)

func main() {
	if len(os.Args) != 2 {
		log.Fatal("say the directory to write to")
	}
	for _, id := range practice.Crops() {
		read, err := practice.Prepared(id)
		if err == nil {
			err = os.WriteFile(filepath.Join(os.Args[1], id+".json"), append(read, '\n'), 0o644)
		}
		if err != nil {
			log.Fatal(err)
		}
	}
}
