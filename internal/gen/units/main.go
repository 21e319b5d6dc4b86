// Command units writes the table of display units for the front end:
// go run ./internal/gen/units > web/src/units.gen.json
package main

import (
	"encoding/json"
	"log"
	"os"

	"slowroot/core/units"
)

func main() {
	enc := json.NewEncoder(os.Stdout)
	enc.SetIndent("", "  ")
	if err := enc.Encode(units.Table); err != nil {
		log.Fatal(err)
	}
}
